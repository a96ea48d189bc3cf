"""The climate model's input out of a plan."""

import math
from collections.abc import Callable, Iterator
from typing import Any, Final

from husbandry.climate import heaters
from husbandry.climate.basking import PERCHES
from husbandry.climate.case import (
    BaskingSpot,
    BedCase,
    EnclosureCase,
    GivenCase,
    HeatedHideCase,
    HeaterCase,
    LiningCase,
    MistingCase,
    ProbeCase,
    RoomState,
    SunCase,
    VentCase,
    WaterCase,
)
from husbandry.climate.ground import KEPT_DRY_M, conductivity, heat_capacity
from husbandry.climate.nodes import ZONES
from husbandry.climate.parameters import PRIOR, Belief
from husbandry.furnishing.mixes import ground_stuff
from husbandry.furnishing.plants import leaf_m2, plants
from husbandry.furnishing.things import STUFF
from husbandry.inputs.light_sources import glowing, inside_watts, times_of
from husbandry.kept import kept
from husbandry.plan.equipment import Heater, Hung, hours_of
from husbandry.plan.geometry import basking_top_m, depth_of, half_sides_m, spot_x_m, spot_y_m, y_of
from husbandry.plan.grounds import Layer, deep
from husbandry.plan.habitat import HabitatPlan, Watering
from husbandry.plan.things import Thing

THIN_M = 0.002  # of ground at least
DAY_DEEP_M: Final = 0.12  # how deep of a stone a day's warmth fills: its damping depth over the root of two (heat equation)
LEAST_STORE_J_K: Final = 200.0  # less is no store
ACROSS = 0.7  # the sine of the turn from which a background is on an end wall
USUAL_LENGTH_M = 0.28  # of a mat, cable or tube heater along the enclosure, where it is not said
BARE_SPOT_M = 0.20  # the side of the patch of ground looked at where there is no platform


# Leaves over floor, m² of one side each (estimates: a pot or two; plants at back and sides; a floor that is hidden by leaves).
LEAF_AREA: Final = {"none": 0.0, "few": 0.3, "many": 1.0, "dense": 2.5}


def dry_top_m(plan: HabitatPlan) -> float:
    """How much of the ground lies dry over what is kept damp, m: the layers over it, and what of it always dries."""
    over_m = 0.0
    for layer in reversed(plan.ground.layers):
        if layer.damp:
            break
        over_m += layer.depth_m
    return KEPT_DRY_M + (over_m if plan.ground.damp else 0.0)


def _beds(plan: HabitatPlan) -> tuple[BedCase, ...]:
    """The ground zone by zone; nothing where one material lies level all over."""
    lies, box = plan.ground, plan.enclosure
    if not lies.areas and not lies.rise_right_m and len(lies.layers) == 1 and len(lies.layers[0].shares) == 1:
        return ()
    zone_m, found = box.length_m / ZONES, []
    for zone in range(ZONES):
        left_m, right_m = zone * zone_m, (zone + 1) * zone_m
        covered = 0.0
        parts: list[tuple[float, tuple[Layer, ...]]] = []
        for area in lies.areas:
            along_m = min(area.x_m + area.length_m / 2, right_m) - max(area.x_m - area.length_m / 2, left_m)
            share = max(along_m, 0.0) / zone_m * min(area.width_m / box.width_m, 1.0)
            if share > 0:
                parts.append((share, area.layers))
                covered += share
        parts.append((max(1 - covered, 0.0), lies.layers))
        rise_m = lies.rise_right_m * ((left_m + right_m) / 2 / box.length_m - 0.5)
        found.append(_bed(parts, rise_m))
    return tuple(found)


def _bed(parts: list[tuple[float, tuple[Layer, ...]]], rise_m: float) -> BedCase:
    """Beds side by side in one zone, each by its share: depths and stored heat add up, and so does what they pass."""
    depth_m = sum(share * deep(layers) for share, layers in parts) + rise_m
    passed = stored = 0.0
    for share, layers in parts:
        thick_m = max(deep(layers), THIN_M)
        resistance = sum(layer.depth_m / _of_mix(layer, conductivity) for layer in layers) or THIN_M / _of_mix(
            layers[-1], conductivity
        )
        passed += share * thick_m / resistance
        stored += share * sum(layer.depth_m * _of_mix(layer, heat_capacity) for layer in layers) / thick_m
    return BedCase(max(depth_m, 0.0), passed, max(stored, 1.0))


def _of_mix(layer: Layer, of: Callable[[str, bool], float]) -> float:
    """A property of a layer's mix: the mean of its materials by volume."""
    return sum(share * of(ground_stuff()[material].climate, layer.damp) for material, share in layer.shares.items())


def wall_of(plan: HabitatPlan, panel: Thing) -> str:
    """The wall that a background is on: an end where it is turned across, else the back, or the front where it stands there."""
    if abs(math.sin(math.radians(panel.turn_deg))) > ACROSS:
        return "left" if panel.x_m < plan.enclosure.length_m / 2 else "right"
    return "front" if panel.y_m is not None and panel.y_m < plan.enclosure.width_m / 3 else "back"


def _linings(plan: HabitatPlan) -> Iterator[LiningCase]:
    """Backgrounds as the walls see them."""
    box = plan.enclosure
    for thing in plan.things:
        if thing.of.shape == "panel":
            wall = wall_of(plan, thing)
            along_m = box.width_m if wall in ("left", "right") else box.length_m
            share = min(thing.length_m, along_m) / along_m * min(thing.height_m, box.height_m) / box.height_m
            yield LiningCase(wall, share, depth_of(plan, thing) / STUFF[thing.made_of].conductivity)


def _stored_j_k(plan: HabitatPlan) -> tuple[float, ...]:
    """What things on the ground take up in each zone for a kelvin, J/K: their material's, as deep as a day's warmth goes into it.

    Of the first basking place only what is thicker than its surface in the network; none where nothing heavy stands there.
    """
    zone_m, stored = plan.enclosure.length_m / ZONES, [0.0] * ZONES
    for thing in plan.things:
        if thing.lets_under or thing.of.shape in ("panel", "leaves"):
            continue
        half_x, half_y = half_sides_m(plan, thing)
        thick_m = min(thing.of.solid * thing.height_m, DAY_DEEP_M)
        if thing is plan.platform:
            thick_m = max(thick_m - PERCHES[thing.perch or "ground"].thickness_m, 0.0)
        heat = STUFF[thing.made_of].heat_capacity * thick_m * 2 * half_y
        for zone in range(ZONES):
            along_m = min(thing.x_m + half_x, (zone + 1) * zone_m) - max(thing.x_m - half_x, zone * zone_m)
            stored[zone] += heat * max(along_m, 0.0)
    return tuple(round(one, 1) for one in stored) if sum(stored) >= LEAST_STORE_J_K else ()


def leaves_m2(plan: HabitatPlan) -> float:
    """The leaves of all plants, one side of each, m²: of those that are listed, or by how much they cover where that is more."""
    listed = [thing for thing in plan.things if thing.plant]
    known_m2 = sum(leaf_m2(plants()[thing.plant], thing.length_m) for thing in listed)
    return max(known_m2, LEAF_AREA[plan.plants] * plan.enclosure.length_m * plan.enclosure.width_m)


@kept
def enclosure_case(plan: HabitatPlan) -> EnclosureCase:
    """Return the climate's input."""
    box, x_m = plan.enclosure, spot_x_m(plan)
    side_m, perch = (plan.platform.length_m, plan.platform.perch or "ground") if plan.platform else (BARE_SPOT_M, "ground")
    middle_m = box.width_m / 2
    spot = BaskingSpot(x_m, side_m, basking_top_m(plan, x_m), perch, spot_y_m(plan) - middle_m)
    heat = tuple(_heater_case(heater, y_of(plan, heater) - middle_m, box.height_m / 2) for heater in plan.heaters)
    heat += tuple(case for item in glowing(plan) for case in _lamp_heat(plan, *item))
    warm_hide = next((hide for hide in plan.hides if hide.heated_w is not None), None)
    if warm_hide is not None:
        heat += (_hide_heater(warm_hide),)
    humid = next((hide for hide in plan.hides if hide.humid), None)
    return EnclosureCase(
        box.kind,
        box.lid,
        box.mesh_open_share,
        box.length_m,
        box.width_m,
        box.height_m,
        plan.ground.kind,
        plan.ground.depth_m,
        plan.ground.damp,
        spot,
        heat,
        _rooms(plan),
        hours_of(plan.daylight.on),
        hours_of(plan.daylight.off),
        bowl_m2=math.pi / 4 * plan.bowl.diameter_m**2 if plan.bowl else 0.0,
        bowl_x_m=plan.bowl.x_m if plan.bowl else 0.0,
        humid_hide=humid is not None,
        humid_hide_x_m=humid.x_m if humid else 0.0,
        water=WaterCase(plan.pool.x_m, plan.pool.length_m, plan.pool.depth_m, plan.pool.fan) if plan.pool else None,
        **_given(plan.misting),
        winter=None if plan.misting.winter is None else GivenCase(**_given(plan.misting.winter)),
        sun=SunCase(plan.window.watts, hours_of(plan.window.on), hours_of(plan.window.off)) if plan.window else None,
        vents=tuple(VentCase(vent.height_m, vent.area_m2) for vent in box.vents),
        lid_covered=box.lid_covered,
        insulation_m=box.insulation_m,
        wall_m=box.wall_m,
        probes=tuple(ProbeCase(probe.x_m, probe.height_m) for probe in plan.probes),
        leaf_m2=leaves_m2(plan),
        linings=tuple(_linings(plan)),
        beds=_beds(plan),
        dry_top_m=dry_top_m(plan),
        stored_j_k=_stored_j_k(plan),
        heated_hide=None if warm_hide is None else _heated_hide(plan, warm_hide),
        belief=Belief(plan.calibration.middle, plan.calibration.root) if plan.calibration else PRIOR,
    )


def _rooms(plan: HabitatPlan) -> dict[str, RoomState]:
    return {
        season: RoomState(plan.room_c(season, "day"), plan.room_c(season, "night"), room.humidity_percent, room.curve_c)
        for season, room in (("summer", plan.room.summer), ("winter", plan.room.winter))
    }


def _heater_case(heater: Heater, off_m: float, probe_up_m: float) -> HeaterCase:
    """The heater with its probe, which lies `probe_up_m` above the floor where nobody says how high."""
    held = heater.thermostat
    return HeaterCase(
        heater.kind,
        heater.watts,
        heater.x_m,
        heater.height_m,
        heater.half_angle_deg or heaters.HEATERS[heater.kind].half_angle_deg,
        hours_of(heater.on),
        hours_of(heater.off),
        held.kind,
        held.set_c or 0.0,
        held.night_set_c,
        held.probe,
        heater.length_m or USUAL_LENGTH_M,
        held.hysteresis_k,
        held.probe_error_k,
        off_m,
        **({} if held.probe != "own" else dict(zip(("probe_x_m", "probe_height_m"), own_place(heater, probe_up_m), strict=True))),
    )


def _heated_hide(plan: HabitatPlan, hide: Thing) -> HeatedHideCase:
    return HeatedHideCase(hide.x_m, hide.length_m, depth_of(plan, hide), hide.height_m, hide.insulation_m)


def _hide_heater(hide: Thing) -> HeaterCase:
    """The heater of a heated hide as the climate sees it: on its own thermostat day and night."""
    watts, set_c = hide.heated_w or 0.0, hide.heated_to_c or 0.0
    return HeaterCase("hide-heater", watts, hide.x_m, 0.0, 60.0, 0.0, 0.0, "pulse", set_c, None, "heated-hide", hide.length_m)


def own_place(heater: Heater, probe_up_m: float) -> tuple[float, float]:
    """Where a thermostat's probe at an own place lies: below its heater and so high up where nobody says."""
    held = heater.thermostat
    return (
        heater.x_m if held.probe_x_m is None else held.probe_x_m,
        probe_up_m if held.probe_height_m is None else held.probe_height_m,
    )


def _given(water: Watering) -> dict[str, Any]:
    """The water given, as the fields of a case."""
    return {
        "misting_kg_per_day": water.grams_per_day / 1000,
        "mistings": tuple(MistingCase(hours_of(item.at), item.grams / 1000) for item in water.times),
        "fogger_kg_per_h": water.fogger_g_per_hour / 1000,
    }


def _lamp_heat(plan: HabitatPlan, hung: Hung, watts: float, length_m: float) -> list[HeaterCase]:
    """A tube or light bar as the air sees it, once for each time it is on; above a lid only what it shines in counts."""
    height_m, inside = min(hung.height_m, plan.enclosure.height_m), inside_watts(plan, hung, watts)
    return [
        HeaterCase("light", inside, hung.x_m, height_m, 60.0, hours_of(one.on), hours_of(one.off), length_m=length_m)
        for one in times_of(hung)
    ]
