"""What mends UV: a tube where none is, the height at which those that burn together give the middle of the band, their hours."""

from collections.abc import Iterator
from datetime import date
from operator import itemgetter
from typing import Any, Final

import numpy as np

from husbandry.animal.body import Body
from husbandry.animal.needs import climbs
from husbandry.assessment import Change, Finding, Measure, Remedy, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.inputs.light_sources import uv_lamp, uv_sources, uv_sources_on
from husbandry.inputs.ultraviolet import CLOSEST_TUBE_M, back_height_m, height_for_middle, lamp_times, wanted_index
from husbandry.light.ultraviolet import lit_share
from husbandry.plan.equipment import TubeKind, UvLamp
from husbandry.plan.geometry import UNDER_CEILING_M, basking_top_m, highest_tube_m, spot_x_m, spot_y_m, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.hanging import TUBE_APART_M
from husbandry.remedies.situation import Situation
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage

KINDS: Final[tuple[TubeKind, ...]] = ("wide-5", "wide-10", "slim-6", "slim-10", "slim-12", "slim-14")  # weakest first
MIDDLE_SHARE: Final = 0.2  # of the band, from its middle: near enough
TUBE_EDGE_M: Final = 0.04  # of a tube and its hood from the glass
UNDER_LID_M: Final = 0.03  # a tube's own height
STEP_M: Final = 0.02
# Luminous lengths that tubes come in (trade; common practice, no source): what hoods of 30 cm to 1.5 m hold.
LENGTHS_M: Final = (0.23, 0.3, 0.4, 0.55, 0.7, 0.85, 1.15, 1.45)


def missing(at: Situation, _finding: Finding) -> Remedy | None:
    """A tube where there is none."""
    new = None if at.quick else fitting_lamp(at.plan, at.stage, at.body, at.today, climber=climbs(at.profile))
    if new is None:
        return Remedy(RemedyCode.UV_NO_REACHABLE_LAMP)
    told = {"kind": new["kind"], "height": Measure(new["height_m"], "m")}
    return Remedy(RemedyCode.UV_ADD_LAMP, told, (Change("uv_lamps.0", new),))


def strength(at: Situation, finding: Finding) -> Remedy | None:
    """For too much or too little at the back: all tubes that burn together at one height, else others."""
    wanted = wanted_index(at.plan, at.stage)
    on = [timed for _path, _lamp, timed in uv_sources_on(at.plan, at.today)]
    right = None
    if wanted is not None and wanted.high:
        right = height_for_middle(at.plan, wanted, at.body, at.today, highest_tube_m(at.plan))
    sources = uv_sources(at.plan, at.today)
    moved = [path for path, _lamp, timed in sources if isinstance(timed, UvLamp) and timed in on]
    if right is not None and moved:
        changes = tuple(Change(f"{path}.height_m", round(right, 3)) for path in moved)
        return Remedy(
            RemedyCode.UV_HANG_AT if len(moved) == 1 else RemedyCode.UV_HANG_ALL_AT, {"height": Measure(right, "m")}, changes
        )
    # A lamp that warms as well is not exchanged like a tube: its warmth goes with it.
    weak = finding.code == FindingCode.UV_WEAK
    lamp = next((lamp for lamp in at.facts.uv_lamps if lamp.is_tube), at.facts.uv_lamps[0])
    if lamp.is_tube:
        return Remedy(RemedyCode.UV_STRONGER_LAMP if weak else RemedyCode.UV_WEAKER_LAMP, {"kind": lamp.kind})
    return Remedy(RemedyCode.UV_STRONGER_COMBINED if weak else RemedyCode.UV_WEAKER_COMBINED, {"kind": lamp.kind})


def hours(at: Situation, _finding: Finding) -> Remedy | None:
    """The hours that the keeper's school would give a new lamp, for all tubes; none where a lamp warms as well."""
    if not all(lamp.is_tube for lamp in at.facts.uv_lamps):
        return None
    times = {name: moment.strftime("%H:%M") for name, moment in lamp_times(at.plan).items()}
    names = ("on", "off", "again_on", "again_off")
    changes = tuple(Change(f"{lamp.path}.{name}", times.get(name)) for lamp in at.facts.uv_lamps for name in names)
    return Remedy(RemedyCode.UV_TWICE if "again_on" in times else RemedyCode.UV_ALL_DAY, dict(times), changes)


def coverage(at: Situation, finding: Finding) -> Remedy | None:
    """A shorter or longer tube over the basking place, at a height where the index is in band and so much of the length is lit.

    Only where one tube hangs alone: which of several should change is the keeper's to say.
    """
    longer = finding.code == FindingCode.UV_COVERS_LITTLE
    told = Remedy(RemedyCode.UV_LONGER_TUBE if longer else RemedyCode.UV_SHORTER_TUBE)
    plan, wanted, rule = at.plan, wanted_index(at.plan, at.stage), at.stage.light.lit_share_percent
    if at.quick or wanted is None or not wanted.low or not wanted.high or rule is None or len(uv_sources(plan, at.today)) != 1:
        return told
    lamp = plan.uv_lamps[0] if plan.uv_lamps else None
    if lamp is None or lamp.kind.startswith("compact"):
        return told
    lit, back_m, spot_m = choose(rule, plan.schools).band(), back_height_m(plan, at.body), spot_x_m(plan)
    other = [length for length in LENGTHS_M if (length > lamp.tube_m) == longer and length <= plan.enclosure.length_m]
    for tube_m in sorted(other, key=lambda length: abs(length - lamp.tube_m)):
        half = tube_m / 2
        x_m = round(min(max(spot_m, half), plan.enclosure.length_m - half), 3)
        placed = lamp.model_copy(update={"tube_m": tube_m, "x_m": x_m})
        trial = plan.model_copy(update={"uv_lamps": (placed,)})
        right = height_for_middle(trial, wanted, at.body, at.today, highest_tube_m(plan))
        for height_m in (lamp.height_m, *(() if right is None else (round(right, 3),))):
            field = uv_lamp(trial, placed, at.today, height_m)
            share = 100 * lit_share((field,), plan.enclosure.length_m, back_m, wanted.low / 2)
            if wanted.low <= float(field.index_at(spot_m, back_m)) <= wanted.high and lit.judge(share) is Verdict.INSIDE:
                changes = {"tube_m": tube_m, "x_m": x_m, "height_m": height_m}
                said = {"length": Measure(tube_m, "m"), "height": Measure(height_m, "m")}
                return Remedy(
                    RemedyCode.UV_TAKE_LENGTH, said, tuple(Change(f"uv_lamps.0.{name}", value) for name, value in changes.items())
                )
    return told


def fitting_lamp(
    plan: HabitatPlan, stage: Stage, body: Body, today: date, *, climber: bool = False, beside_lamp: bool = False
) -> dict[str, Any] | None:
    """The weakest tube that gives about the middle of the band from somewhere it can hang, else the one that comes nearest to it.

    On a mesh it lies or hangs above; only where nothing there is in band does it hang below. None where no tube is in band. It
    hangs behind the lamps that are there, or that will be over the basking place (`beside_lamp`): both take room.
    """
    wanted = wanted_index(plan, stage)
    if uv_sources(plan, today) or wanted is None or not wanted.high:
        return None
    low, high = wanted.low or 0.0, wanted.high
    x_m, back_m = spot_x_m(plan), back_height_m(plan, body)
    found: list[tuple[float, UvLamp]] = []
    for heights in _hanging_heights(plan, back_m, climber=climber):
        for lamp in _tubes(plan, today, beside_lamp=beside_lamp):
            given = [(float(uv_lamp(plan, lamp, today, height_m).index_at(x_m, back_m)), height_m) for height_m in heights]
            inside = [(abs(index - wanted.middle), height_m) for index, height_m in given if low <= index <= high]
            if inside:
                off, height_m = min(inside)
                found.append((off, lamp.model_copy(update={"height_m": round(height_m, 3)})))
                if off <= MIDDLE_SHARE * (high - low):
                    return found[-1][1].model_dump(mode="json")
        if found:
            break
    return min(found, key=itemgetter(0))[1].model_dump(mode="json") if found else None


def _hanging_heights(plan: HabitatPlan, back_m: float, *, climber: bool) -> list[list[float]]:
    """Where a tube can hang, in the order of what keepers prefer: above a mesh or an open top, then below the lid.

    What climbs must not get onto it: there it is fixed under the ceiling.
    """
    box, highest_m = plan.enclosure, highest_tube_m(plan)
    least_m = max(back_m, basking_top_m(plan, spot_x_m(plan))) + CLOSEST_TUBE_M
    if climber:
        least_m = max(least_m, box.height_m - UNDER_CEILING_M)
    below = [float(height) for height in np.arange(least_m, min(highest_m, box.height_m - UNDER_LID_M) + 1e-9, STEP_M)]
    above = [] if box.lid == "solid" else [float(height) for height in np.arange(box.height_m, highest_m + 1e-9, STEP_M)]
    return [[height for height in above if height >= least_m], below]


def behind_lamps(plan: HabitatPlan, x_m: float, half_m: float, *, beside_lamp: bool = False) -> dict[str, float]:
    """Where from front to back a tube hangs clear of the lamps along it, behind them if there is room: nothing without any.

    `half_m` is half its length; with `beside_lamp` there will be one over the basking place.
    """
    lamps = [y_of(plan, lamp) for lamp in plan.heaters if lamp.hangs and abs(lamp.x_m - x_m) < half_m + TUBE_APART_M]
    lamps += [spot_y_m(plan)] if beside_lamp else []
    if not lamps:
        return {}
    behind_m = max(lamps) + TUBE_APART_M
    ahead_m = min(lamps) - TUBE_APART_M
    wide_m = plan.enclosure.width_m
    if behind_m > wide_m - TUBE_EDGE_M and ahead_m >= TUBE_EDGE_M:
        return {"y_m": round(ahead_m, 3)}
    return {"y_m": round(min(behind_m, max(wide_m - TUBE_EDGE_M, wide_m / 2)), 3)}


def _tubes(plan: HabitatPlan, today: date, *, beside_lamp: bool) -> Iterator[UvLamp]:
    """The tubes there are, over the basking place, the weakest first; without its reflector where that is still too strong."""
    tube_m = 0.55 if plan.enclosure.length_m >= 0.6 else round(0.6 * plan.enclosure.length_m, 2)
    half = tube_m / 2
    x_m = round(min(max(spot_x_m(plan), half), max(plan.enclosure.length_m - half, half)), 3)
    for kind in KINDS:
        for reflector in (True, False):
            place: dict[str, Any] = {
                "x_m": x_m,
                "height_m": 1.0,
                "tube_m": tube_m,
                **behind_lamps(plan, x_m, half, beside_lamp=beside_lamp),
            }
            yield UvLamp(kind=kind, reflector=reflector, fitted=today, **place, **lamp_times(plan))
