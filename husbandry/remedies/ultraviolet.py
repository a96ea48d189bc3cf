"""What mends UV: a tube where none is, the height at which those that burn together give the middle of the band, their hours."""

from datetime import date
from typing import Any

from husbandry.animal.body import Body
from husbandry.assessment import Change, Finding, Measure, Remedy
from husbandry.codes import FindingCode, RemedyCode
from husbandry.inputs.light_sources import uv_sources, uv_sources_on
from husbandry.inputs.ultraviolet import height_for_middle, index_at_back, lamp_times, wanted_index
from husbandry.plan.equipment import TubeKind, UvLamp
from husbandry.plan.geometry import highest_tube_m, spot_x_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.situation import Situation
from husbandry.species.stage import Stage


def missing(at: Situation, _finding: Finding) -> Remedy | None:
    """A tube where there is none."""
    new = None if at.quick else fitting_lamp(at.plan, at.stage, at.body, at.today)
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


def fitting_lamp(plan: HabitatPlan, stage: Stage, body: Body, today: date) -> dict[str, Any] | None:
    """The weakest tube that reaches the middle of the band from somewhere below the lid, else one that is in band at the lid."""
    wanted = wanted_index(plan, stage)
    if uv_sources(plan, today) or wanted is None or not wanted.high:
        return None
    tube_m = 0.55 if plan.enclosure.length_m >= 0.6 else round(0.6 * plan.enclosure.length_m, 2)
    half = tube_m / 2
    x_m = min(max(spot_x_m(plan), half), max(plan.enclosure.length_m - half, half))
    kinds: tuple[TubeKind, ...] = ("wide-5", "slim-6", "slim-12", "slim-14")
    highest = highest_tube_m(plan)
    for at_middle in (True, False):
        for kind in kinds:
            lamp = UvLamp(
                kind=kind,
                tube_m=tube_m,
                x_m=round(x_m, 3),
                height_m=round(highest, 3),
                fitted=today,
                **lamp_times(plan),
            )
            trial = plan.model_copy(update={"uv_lamps": (lamp,)})
            height_m = height_for_middle(trial, wanted, body, today, highest) if at_middle else highest
            if height_m is None or not (at_middle or (wanted.low or 0.0) <= index_at_back(trial, body, today) <= wanted.high):
                continue
            return lamp.model_copy(update={"height_m": round(height_m, 3)}).model_dump(mode="json")
    return None
