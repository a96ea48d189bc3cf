"""What mends UV: a tube where none is, the height at which those that burn together give the middle of the band, their hours."""

from collections.abc import Iterator
from datetime import date
from operator import itemgetter
from typing import Any, Final

import numpy as np

from husbandry.animal.body import Body
from husbandry.animal.needs import climbs
from husbandry.assessment import Band, Change, Finding, Measure, Parameter, Remedy, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.inputs.light_sources import uv_lamp, uv_sources, uv_sources_on
from husbandry.inputs.ultraviolet import CLOSEST_TUBE_M, back_height_m, height_for_index, lamp_times, wanted_index
from husbandry.light.ultraviolet import lit_share
from husbandry.plan.equipment import TubeKind, UvLamp
from husbandry.plan.geometry import (
    UNDER_CEILING_M,
    basking_top_m,
    highest_tube_m,
    outside_lid,
    spot_x_m,
    spot_y_m,
    y_of,
)
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.hanging import TUBE_APART_M
from husbandry.remedies.situation import Situation
from husbandry.species.leaves import Range, choose
from husbandry.species.stage import Stage
from husbandry.units import TOLERANCE_M

KINDS: Final[tuple[TubeKind, ...]] = ("wide-5", "wide-10", "slim-6", "slim-10", "slim-12", "slim-14")  # weakest first
MIDDLE_SHARE: Final = 0.2  # of the band, from its middle: near enough
WELL_INSIDE: Final = 0.15  # of the band from its edge
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
    right = None if wanted is None else _right_height_m(at.plan, wanted, at.body, at.today)
    sources = uv_sources(at.plan, at.today)
    moved = {path: timed for path, _lamp, timed in sources if isinstance(timed, UvLamp) and timed in on}
    inward = right is not None and any(outside_lid(at.plan, lamp.height_m) > outside_lid(at.plan, right) for lamp in moved.values())
    if right is not None and moved and _out_of_reach(at, right, inward=inward):
        changes = tuple(Change(f"{path}.height_m", round(right, 3)) for path in moved)
        code = RemedyCode.UV_HANG_AT if len(moved) == 1 else RemedyCode.UV_HANG_ALL_AT
        return Remedy(RemedyCode.UV_HANG_INSIDE if inward else code, {"height": Measure(right, "m")}, changes)
    # A lamp that warms as well is not exchanged like a tube: its warmth goes with it.
    weak = finding.code == FindingCode.UV_WEAK
    lamp = next((lamp for lamp in at.facts.uv_lamps if lamp.is_tube), at.facts.uv_lamps[0])
    if lamp.is_tube:
        return Remedy(RemedyCode.UV_STRONGER_LAMP if weak else RemedyCode.UV_WEAKER_LAMP, {"kind": lamp.kind})
    return Remedy(RemedyCode.UV_STRONGER_COMBINED if weak else RemedyCode.UV_WEAKER_COMBINED, {"kind": lamp.kind})


def _right_height_m(plan: HabitatPlan, wanted: Range, body: Body, today: date) -> float | None:
    """The height at which the tubes give the middle of what is wanted; where none does, what is well inside it."""
    if not wanted.high:
        return None
    low, high = wanted.low or 0.0, wanted.high
    aims = wanted.middle, low + WELL_INSIDE * (high - low), high - WELL_INSIDE * (high - low)
    heights = (height_for_index(plan, aim, body, today, highest_tube_m(plan)) for aim in aims)
    return next((height for height in heights if height is not None), None)


def _out_of_reach(at: Situation, height_m: float, *, inward: bool) -> bool:
    """Tell whether what climbs cannot get onto a tube hung there: on the lid, or at the ceiling of one that was inside before."""
    at_ceiling = height_m >= at.plan.enclosure.height_m - UNDER_CEILING_M - TOLERANCE_M
    return not climbs(at.profile) or outside_lid(at.plan, height_m) or (at_ceiling and not inward)


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

    Of the same kind if that does, and never from outside the lid to inside. Only where one tube hangs alone: which of several
    should change is the keeper's to say.
    """
    longer = finding.code == FindingCode.UV_COVERS_LITTLE
    plan, wanted, rule = at.plan, wanted_index(at.plan, at.stage), at.stage.light.lit_share_percent
    alone = len(uv_sources(plan, at.today)) == 1 and len(plan.uv_lamps) == 1 and not plan.uv_lamps[0].kind.startswith("compact")
    if not at.quick and wanted is not None and rule is not None and alone:
        now = plan.uv_lamps[0]
        new = _other_length(at, now, wanted, choose(rule, plan.schools).band(), longer=longer)
        if new is not None:
            told: dict[str, Parameter] = {"length": Measure(new.tube_m, "m"), "height": Measure(new.height_m, "m")}
            places = {"tube_m": new.tube_m, "x_m": new.x_m, "height_m": new.height_m}
            changes = tuple(Change(f"uv_lamps.0.{name}", value) for name, value in places.items())
            if new.kind == now.kind:
                return Remedy(RemedyCode.UV_TAKE_LENGTH, told, changes)
            return Remedy(RemedyCode.UV_TAKE_OTHER, told | {"kind": new.kind}, (Change("uv_lamps.0.kind", new.kind), *changes))
    return Remedy(RemedyCode.UV_LONGER_TUBE if longer else RemedyCode.UV_SHORTER_TUBE)


def _other_length(at: Situation, lamp: UvLamp, wanted: Range, lit: Band, *, longer: bool) -> UvLamp | None:
    """The tube most like `lamp` of those that are `longer`, or shorter, and give what is `wanted` where they light enough."""
    lengths = [length for length in LENGTHS_M if (length > lamp.tube_m) == longer]
    others = [kind for kind in KINDS if kind != lamp.kind]
    tubes = (
        over_spot(at.plan, lamp.model_copy(update={"kind": kind}), tube_m)
        for kind in (lamp.kind, *others)
        for tube_m in sorted(lengths, key=lambda length: abs(length - lamp.tube_m))
        if tube_m <= at.plan.enclosure.length_m
    )
    for tube in tubes:
        trial = at.plan.model_copy(update={"uv_lamps": (tube,)})
        right_m = _right_height_m(trial, wanted, at.body, at.today)
        for height_m in (lamp.height_m, *(() if right_m is None else (round(right_m, 3),))):
            inward = outside_lid(at.plan, lamp.height_m) > outside_lid(at.plan, height_m)
            placed = tube.model_copy(update={"height_m": height_m})
            if not inward and _out_of_reach(at, height_m, inward=False) and _shines(trial, placed, at.body, at.today, wanted, lit):
                return placed
    return None


def over_spot(plan: HabitatPlan, lamp: UvLamp, tube_m: float) -> UvLamp:
    """A tube of another length as near over the basking place as the walls let it."""
    half = tube_m / 2
    x_m = round(min(max(spot_x_m(plan), half), max(plan.enclosure.length_m - half, half)), 3)
    return lamp.model_copy(update={"tube_m": tube_m, "x_m": x_m})


def _shines(plan: HabitatPlan, lamp: UvLamp, body: Body, today: date, wanted: Range, lit: Band) -> bool:
    """Tell whether a tube alone gives what is `wanted` at the back and lights so much of the length, and no more."""
    if wanted.low is None or not wanted.high:
        return False
    field, back_m = uv_lamp(plan, lamp, today, lamp.height_m), back_height_m(plan, body)
    share = 100 * lit_share((field,), plan.enclosure.length_m, back_m, wanted.low / 2)
    return wanted.low <= float(field.index_at(spot_x_m(plan), back_m)) <= wanted.high and lit.judge(share) is Verdict.INSIDE


def lit_from_lid(plan: HabitatPlan, stage: Stage, body: Body, today: date) -> bool:
    """Tell whether a tube that lies on the lid gives the basking place what it wants and leaves enough of the length in the shade.

    True where no UV is wanted.
    """
    wanted, rule, height_m = wanted_index(plan, stage), stage.light.lit_share_percent, plan.enclosure.height_m
    if wanted is None or not wanted.low or rule is None:
        return True
    lit = choose(rule, plan.schools).band()
    tubes = (
        over_spot(plan, tube.model_copy(update={"height_m": height_m}), tube_m)
        for tube in _tubes(plan, today, beside_lamp=True)
        for tube_m in LENGTHS_M
        if tube_m <= plan.enclosure.length_m
    )
    return any(_shines(plan, tube, body, today, wanted, lit) for tube in tubes)


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
