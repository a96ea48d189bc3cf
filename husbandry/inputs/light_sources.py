"""The lamps of a plan as the light model sees them: UV, visible light, what casts shade, what ends inside."""

import math
from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from typing import Final

from husbandry.climate import heaters
from husbandry.furnishing.plants import plants
from husbandry.light.ultraviolet import RATED_WATTS, Lamp, Shade
from husbandry.light.visible import EFFICACY, TUBE_WATTS_PER_M, Luminaire
from husbandry.plan.equipment import Heater, Hung, Timed, UvLamp, hours_of, times_of_any
from husbandry.plan.geometry import depth_of, foot_m, half_sides_m, outside_lid, spot_y_m, through_mesh, top_of, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.units import DAYS_A_MONTH

COMPACT_WATTS = 23.0  # the usual size that screws into a holder (trade, from memory)
OUTSIDE_SHARE = 0.4  # of a tube's watts on a mesh lid that end inside, as light and warmth (estimate)
EXTINCTION: Final = 0.5  # of light in a canopy, per leaf area over floor (Beer's law; Monsi and Saeki 1953, recalled)
FAKE_LEAVES: Final = 1.5  # leaf area over floor of artificial plants (estimate)
CANOPY: Final = 0.75  # of a plant's height, where most of its leaves are (estimate)
UvSources = tuple[tuple[str, Lamp, Timed], ...]  # path in the plan, the lamp as the field sees it, its hours


def glowing(plan: HabitatPlan) -> list[tuple[Hung, float, float]]:
    """Tubes and light bars with their watts and lengths: all of it ends as heat."""
    tubes: list[tuple[Hung, float, float]] = [(lamp, lamp_watts(lamp), lamp.tube_m) for lamp in plan.uv_lamps]
    return tubes + [(bar, bar.watts, bar.length_m) for bar in plan.light_bars]


def lamp_watts(lamp: UvLamp) -> float:
    """What a UV lamp takes, in W: a tube by its length, a compact whatever the length of its coil."""
    return COMPACT_WATTS if lamp.kind.startswith("compact") else TUBE_WATTS_PER_M * lamp.tube_m


def times_of(timed: Timed) -> list[Timed]:
    """When something on a timer is on: one time of the day, or two that do not overlap."""
    again = timed.again if isinstance(timed, UvLamp) else None
    if again is None:
        return [timed]
    return times_of_any([Timed(on=timed.on, off=timed.off), again])


def inside_watts(plan: HabitatPlan, hung: Hung, watts: float) -> float:
    """What of a tube's or bar's watts warms the enclosure."""
    return OUTSIDE_SHARE * watts if outside_lid(plan, hung.height_m) else watts


def outside_kwh(plan: HabitatPlan) -> float:
    """What tubes and bars use in a day that never gets inside, in kWh: it is paid for all the same."""
    return sum((watts - inside_watts(plan, hung, watts)) * hung.hours_a_day for hung, watts, _m in glowing(plan)) / 1000


def uv_lamp(plan: HabitatPlan, lamp: UvLamp, today: date, height_m: float | None = None) -> Lamp:
    """Return the lamp as the field sees it; behind glass nothing passes."""
    at_m = lamp.height_m if height_m is None else height_m
    passed = plan.enclosure.mesh_open_share if through_mesh(plan, at_m) else 1.0
    if lamp.behind_glass:
        passed = 0.0
    return Lamp(lamp.kind, lamp.tube_m, lamp.x_m, at_m, lamp.reflector, _months(lamp.fitted, today), passed, *_beside(plan, lamp))


def _beside(plan: HabitatPlan, lamp: UvLamp) -> tuple[float, float, bool]:
    """What multiplies a lamp's UV, how far behind the basking place it hangs, and whether across."""
    return uv_factor(plan), _aside_m(plan, lamp), lamp.across


def _aside_m(plan: HabitatPlan, hung: Hung) -> float:
    """How far behind the plane through the basking place something hangs, m."""
    return y_of(plan, hung) - spot_y_m(plan)


def uv_of_heater(plan: HabitatPlan, heater: Heater, today: date) -> Lamp | None:
    """Return a combined lamp as the UV field sees it, None for what gives no UV."""
    if heater.kind not in RATED_WATTS:
        return None
    passed = plan.enclosure.mesh_open_share if through_mesh(plan, heater.height_m) else 1.0
    output = heater.watts / RATED_WATTS[heater.kind] * uv_factor(plan)
    return Lamp(
        heater.kind, 0.0, heater.x_m, heater.height_m, True, _months(heater.fitted, today), passed, output, _aside_m(plan, heater)
    )


def uv_factor(plan: HabitatPlan) -> float:
    """What the keeper's own meter says of the lamps' strength, over their class's."""
    return plan.calibration.uv if plan.calibration else 1.0


def _months(fitted: date | None, today: date) -> float:
    return 0.0 if fitted is None else (today - fitted).days / DAYS_A_MONTH


def uv_sources(plan: HabitatPlan, today: date) -> UvSources:
    """Everything that gives UV: its path in the plan, the lamp as the field sees it, its hours; tubes first."""
    found: list[tuple[str, Lamp, Timed]] = []
    for index, lamp in enumerate(plan.uv_lamps):
        found.append((f"uv_lamps.{index}", uv_lamp(plan, lamp, today), lamp))
    for index, heater in enumerate(plan.heaters):
        field = uv_of_heater(plan, heater, today)
        if field is not None:
            found.append((f"heaters.{index}", field, heater))
    return tuple(found)


def uv_sources_on(plan: HabitatPlan, today: date) -> UvSources:
    """Return what gives UV when most of it is on: at the middle of the day, unless it burns at other times only."""
    sources = uv_sources(plan, today)
    most = _fullest(plan, [(timed, 1.0) for _path, _lamp, timed in sources])
    return tuple(source for source in sources if source[2].runs_at(most))


def _fullest(plan: HabitatPlan, sources: Sequence[tuple[Timed, float]]) -> float:
    """The hour at which most is on, each counted by a weight: the middle of the day where that is one of them."""
    hours = [(plan.daylight.middle_of_dark + 12) % 24]
    for timed, _weight in sources:
        hours += [(hours_of(one.on) + one.hours_a_day / 2) % 24 for one in times_of(timed)]
    return max(hours, key=lambda hour: sum(weight for timed, weight in sources if timed.runs_at(hour)))


def uv_lamps_on(plan: HabitatPlan, today: date) -> tuple[Lamp, ...]:
    """Return the lamps of `uv_sources_on`."""
    return tuple(lamp for _path, lamp, _timed in uv_sources_on(plan, today))


def shades(plan: HabitatPlan) -> tuple[Shade, ...]:
    """The roofs that keep UV from what is below them: hides and flat platforms.

    A hide that the plan puts somewhere between front and back shades that part; else it may stand where it is wanted.
    """
    hides = [_hide_roof(plan, index, placed=hide.y_m is not None) for index, hide in enumerate(plan.hides)]
    return (*hides, *_platform_roof(plan, placed=False), *leaf_shades(plan))


def shades_from_above(plan: HabitatPlan) -> tuple[Shade, ...]:
    """The same with every hide and flat platform where the floor plan has it, between front and back."""
    hides = [_hide_roof(plan, index, placed=True) for index in range(len(plan.hides))]
    return (*hides, *_platform_roof(plan, placed=True), *leaf_shades(plan))


def leaf_shades(plan: HabitatPlan) -> tuple[Shade, ...]:
    """The leaves of plants and of artificial ones as roofs that let a part through (Beer's law; Monsi and Saeki 1953, recalled)."""
    found = []
    for thing in plan.things:
        if thing.of.shape == "leaves":
            leaf_area = plants()[thing.plant].leaf_m2_m2 if thing.plant else FAKE_LEAVES
            half_x, half_y = half_sides_m(plan, thing)
            at_m = foot_m(plan, thing) + CANOPY * thing.height_m
            roof = _roof(thing.x_m, 2 * half_x, at_m, y_of(plan, thing) - spot_y_m(plan), 2 * half_y)
            found.append(replace(roof, passes=math.exp(-EXTINCTION * leaf_area)))
    return tuple(found)


def _hide_roof(plan: HabitatPlan, index: int, *, placed: bool) -> Shade:
    hide = plan.hides[index]
    depth_m = depth_of(plan, hide) if placed else math.inf
    aside_m = y_of(plan, hide) - spot_y_m(plan)
    return _roof(hide.x_m, hide.length_m, top_of(plan, hide), aside_m, depth_m)


def _platform_roof(plan: HabitatPlan, *, placed: bool) -> tuple[Shade, ...]:
    """The basking place's, which lies in the plane that everything is counted from; a branch and what is flush have none."""
    platform = plan.platform
    if platform is None or platform.lets_under or platform.top_m <= 0:
        return ()
    depth_m = depth_of(plan, platform) if placed else math.inf
    return (_roof(platform.x_m, platform.length_m, top_of(plan, platform), 0.0, depth_m),)


def _roof(x_m: float, length_m: float, top_m: float, aside_m: float, depth_m: float) -> Shade:
    """A roof about its middle; one of no known depth is as wide as the enclosure."""
    return Shade(x_m - length_m / 2, x_m + length_m / 2, top_m, aside_m - depth_m / 2, aside_m + depth_m / 2)


def lights(plan: HabitatPlan) -> tuple[Luminaire, ...]:
    """Everything that shines visibly when most of it does: at the middle of the day, unless lamps burn at other times only."""
    found: list[tuple[Timed, Luminaire]] = []

    def add(hung: Hung, lumens: float, length_m: float, angle: float = 60.0, *, across: bool = False) -> None:
        beside = _open(plan, hung.height_m), _aside_m(plan, hung), across
        found.append((hung, Luminaire(hung.x_m, hung.height_m, lumens, length_m, angle, *beside)))

    for heater in plan.heaters:
        if heater.kind in EFFICACY:
            add(
                heater,
                EFFICACY[heater.kind] * heater.watts,
                0.0,
                heater.half_angle_deg or heaters.HEATERS[heater.kind].half_angle_deg,
            )
    for lamp in plan.uv_lamps:
        add(lamp, EFFICACY["tube"] * lamp_watts(lamp), lamp.tube_m, across=lamp.across)
    for bar in plan.light_bars:
        add(bar, EFFICACY[bar.kind] * bar.watts, bar.length_m)
    most = _fullest(plan, [(timed, source.lumens) for timed, source in found])
    return tuple(source for timed, source in found if timed.runs_at(most))


def _open(plan: HabitatPlan, height_m: float) -> float:
    return plan.enclosure.mesh_open_share if through_mesh(plan, height_m) else 1.0
