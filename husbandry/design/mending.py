"""A first plan made good: the remedies it should not be without, one after the other, and what is still wrong then."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from itertools import islice
from typing import Final

from husbandry.assess.assess import Depth, assess
from husbandry.assess.candidates import candidates
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import GRAVE, Judge, applied, endangers, kind_of, mends
from husbandry.assessment import Change, Finding, Remedy, Severity
from husbandry.codes import FindingCode
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.judged import miss
from husbandry.species.profile import Profile

ROUNDS: Final = 16
MENDED: Final = {
    FindingCode.UV_MISSING,
    FindingCode.HEAT_NO_MAT,
    FindingCode.HEAT_OVER_MAT_COLD,
    FindingCode.HEAT_OVER_MAT_HOT,
    FindingCode.MOISTURE_NO_HUMID_HIDE,
    FindingCode.SPACE_HIDES,
    FindingCode.MOISTURE_NO_BOWL,
    FindingCode.MOISTURE_NO_DROPS,
    FindingCode.SPACE_OUT_OF_REACH,
    FindingCode.SPACE_TOPPLES,
    FindingCode.LIGHT_HOURS,
    FindingCode.HEAT_NIGHT_COLD,
    FindingCode.HEAT_WARM_AIR_COLD,
    FindingCode.WATER_COLD,
    FindingCode.MOISTURE_DRY,
    FindingCode.MOISTURE_WET,
}
FURNITURE: Final = {
    FindingCode.SPACE_HIDES,
    FindingCode.MOISTURE_NO_HUMID_HIDE,
    FindingCode.MOISTURE_NO_BOWL,
    FindingCode.MOISTURE_NO_DROPS,
    FindingCode.SPACE_OUT_OF_REACH,
    FindingCode.SPACE_TOPPLES,
}
HEATS: Final = ("heat.", "water.")
OFFERED: Final = {
    FindingCode.SPACE_TALL_HIDE,
    FindingCode.SPACE_NO_WARM_HIDE,
    FindingCode.SPACE_NO_COOL_HIDE,
    FindingCode.SPACE_IN_POOL,
    FindingCode.WATER_TOO_LITTLE,
    FindingCode.WATER_BELOW_GROUND,
    FindingCode.WATER_WARM,
    FindingCode.WATER_COLD,
    FindingCode.HEAT_BASKING_COLD,
    FindingCode.HEAT_SMALL_PATCH,
    FindingCode.HEAT_WARM_AIR_COLD,
    FindingCode.HEAT_COOL_AIR_COLD,
    FindingCode.HEAT_NIGHT_COLD,
    FindingCode.HEAT_NIGHT_WARM_END_COLD,
    FindingCode.HEAT_NIGHT_COOL_END_WARM,
    FindingCode.HEAT_WARM_AIR_HOT,
    FindingCode.HEAT_COOL_AIR_HOT,
    FindingCode.HEAT_NIGHT_WARM,
    FindingCode.HEAT_BASKING_HOT,
    FindingCode.MOISTURE_DRY,
    FindingCode.MOISTURE_WET,
    FindingCode.UV_MISSING,
    FindingCode.UV_WEAK,
    FindingCode.UV_STRONG,
    FindingCode.UV_COVERS_LITTLE,
    FindingCode.UV_COVERS_MUCH,
}
# No fault, and yet a first plan does better.
LIGHT: Final = {
    FindingCode.HEAT_SMALL_PATCH,
    FindingCode.UV_MISSING,
    FindingCode.UV_COVERS_LITTLE,
    FindingCode.UV_COVERS_MUCH,
}
OFFERS: Final = 8  # taken at most
TRIALS: Final = 8  # for one finding of what is left: of those after it hardly one in a hundred is of help
AGAIN: Final = 2  # where all ways have been tried before, and something else has changed since
LOOK: Final = Depth(days_of=(), spread=False, hanging=False)
# Summer and winter may ask for opposite things: these are taken only where they bring all four states nearer their bands.
WEIGHED: Final = {FindingCode.MOISTURE_DRY, FindingCode.MOISTURE_WET}
LIT: Final = {FindingCode.UV_MISSING, FindingCode.LIGHT_HOURS}
TURNS: Final = (FURNITURE, MENDED - FURNITURE - LIT - WEIGHED, LIT, WEIGHED)
# What mends the others is worked out when their turn comes: it takes the longest.
LOOK_FIRST: Final = replace(LOOK, only=frozenset(FURNITURE))
LOOK_REST_FIRST: Final = replace(LOOK, only=frozenset(OFFERED - WEIGHED))
LOOK_REST: Final = replace(LOOK, only=frozenset(OFFERED))
Kinds = set[tuple[str, str]]


def mended(plan: HabitatPlan, profile: Profile, today: date) -> tuple[HabitatPlan, Assessment]:
    """Take the remedies a first plan should not be without, one after the other; with what the plan then comes to.

    What would have endangered is tried once more at the end, where something else has changed since: under a covered lid a
    heater may do what it could not do before. Where a rule's own remedy for cold would endanger, what else keepers do is tried.

    Parameters
    ----------
    plan, profile, today
        A plan with its enclosure, ground and lamp, its species, and the day it is of.

    Returns
    -------
    The plan, and what it comes to without its spread.

    References
    ----------
    No source outside: each remedy is judged by the enclosure's own model.
    """
    asked, look = set(FURNITURE), LOOK_FIRST
    found = assess(plan, profile, today, depth=look)
    tried: set[tuple[str, str]] = set()
    too_early: set[tuple[str, str]] = set()
    refused: set[tuple[str, str]] = set()
    vain: Kinds = set()
    for _ in range(ROUNDS):
        todo = next((item for item in _in_turn(found.findings) if (item.id, str(item.remedy)) not in tried), None)
        if todo is not None and todo.code not in asked:
            asked |= next(codes for codes in TURNS if todo.code in codes)
            look = replace(LOOK, only=frozenset(asked))
            found = assess(plan, profile, today, depth=look)
            continue
        if todo is None:
            if not too_early:
                break
            tried -= too_early
            too_early = set()
            continue
        key = (todo.id, str(todo.remedy))
        tried.add(key)
        if todo.remedy is None or not todo.remedy.changes:
            continue
        ways = islice(_ways(plan, profile, todo, found), AGAIN if _in_vain(todo, vain) else None)
        made = next((one for remedy in ways if (one := _tried(plan, profile, found, todo, remedy, look))), None)
        if made is None:
            refused.add(key)
            vain.add(kind_of(todo))
        elif todo.code not in WEIGHED or _missed_humidity(made[1]) < _missed_humidity(found):
            plan, found = made
            too_early, refused = too_early | refused, set()
    return _rest_mended(plan, profile, today, vain)


def _ways(plan: HabitatPlan, profile: Profile, todo: Finding, found: Assessment) -> Iterator[Remedy]:
    """What its rule proposes; for what is too cold, then what else keepers do about it."""
    assert todo.remedy is not None
    yield todo.remedy
    if todo.code.startswith(HEATS) and todo.severity in GRAVE:
        yield from (remedy for remedy in candidates(plan, profile, todo, found) if remedy.changes != todo.remedy.changes)


def _tried(
    plan: HabitatPlan, profile: Profile, found: Assessment, todo: Finding, remedy: Remedy, look: Depth
) -> tuple[HabitatPlan, Assessment] | None:
    """The plan with a remedy, and what it comes to; None where that endangers, or is no help where its rule did not propose it."""
    today, heats = found.today, todo.code.startswith(HEATS)
    trial = HabitatPlan.model_validate(applied(plan, remedy.changes))

    def worse(after: Assessment) -> bool:
        # Where there is too little land a hide may stand in the water: nothing later mends that.
        drowned = todo.code is FindingCode.SPACE_HIDES and _wet(after) > _wet(found)
        return drowned or endangers(found, after) or (remedy != todo.remedy and not mends(after, todo))

    if heats:
        # The quick way may differ by a tenth of a kelvin, and a limit is as thin. What its rule proposes mostly holds.
        if remedy != todo.remedy and worse(assess(trial, profile, today, depth=replace(look, near=found.climate, propose=False))):
            return None
        after = assess(trial, profile, today, depth=look)
    else:
        after = assess(trial, profile, today, depth=replace(look, near=found.climate, propose=True))
    return None if worse(after) else (trial, after)


def _in_turn(findings: tuple[Finding, ...]) -> list[Finding]:
    """Those that are mended: furniture first, which heaters are hung clear of; then worst first, of equal ones water last."""
    mended = [item for item in findings if item.code in MENDED]
    return sorted(mended, key=lambda item: (item.code not in FURNITURE, list(Severity).index(item.severity), item.code in WEIGHED))


def _rest_mended(plan: HabitatPlan, profile: Profile, today: date, vain: Kinds) -> tuple[HabitatPlan, Assessment]:
    """Take what a keeper would be offered for what is still wrong with its warmth or moisture; with what the plan then comes to.

    `vain` are the kinds of findings for which nothing was found so far.
    """
    look = LOOK_REST_FIRST
    found = assess(plan, profile, today, depth=look)
    seen: dict[tuple[str, str], HabitatPlan] = {}
    taken = 0
    while taken < OFFERS:
        wrong = [item for item in found.findings if item.code in OFFERED and (item.severity in GRAVE or item.code in LIGHT)]
        asked = wrong if look is LOOK_REST else [item for item in wrong if item.code not in WEIGHED]
        asked = [item for item in asked if seen.get(kind_of(item)) is not plan]
        changes = _first_offer(Judge(plan, profile, found), asked, vain)
        if changes:
            taken += 1
            plan = HabitatPlan.model_validate(applied(plan, changes))
        elif look is LOOK_REST or not any(item.code in WEIGHED for item in wrong):
            break
        else:
            look = LOOK_REST
            seen = {kind_of(item): plan for item in asked}
        found = assess(plan, profile, today, depth=look)
    return _misted_alike(plan, profile, found)


def _first_offer(judge: Judge, asked: list[Finding], vain: Kinds) -> tuple[Change, ...]:
    """The first change that would be offered for what is asked about, none where there is none; what had none is added to `vain`.

    Something may be offered for that once all else is mended. Until then its trials would most likely be in vain again, and then
    only the likeliest are tried.
    """
    for item in sorted(asked, key=lambda item: kind_of(item) in vain):
        remedy = judge.vetted(item, AGAIN if _in_vain(item, vain) else TRIALS).remedy
        if remedy is not None and remedy.changes:
            return remedy.changes
        vain.add(kind_of(item))
    return ()


def _in_vain(item: Finding, vain: Kinds) -> bool:
    """Tell whether all that is tried for a finding was tried before without help; for a danger it is tried again."""
    return kind_of(item) in vain and item.severity is not Severity.DANGER


def _misted_alike(plan: HabitatPlan, profile: Profile, found: Assessment) -> tuple[HabitatPlan, Assessment]:
    """Where summer and winter are alike in the room they are misted alike, if that is no worse: each was worked out in its turn."""
    if plan.misting.winter is None or plan.room.summer != plan.room.winter:
        return plan, found
    alike = plan.model_copy(update={"misting": plan.misting.model_copy(update={"winter": None})})
    after = assess(alike, profile, found.today, depth=LOOK_REST)
    worse = _missed_humidity(after) > _missed_humidity(found) or endangers(found, after)
    return (plan, found) if worse else (alike, after)


def _wet(found: Assessment) -> int:
    """How many things stand in the pool that should not."""
    return sum(item.code is FindingCode.SPACE_IN_POOL for item in found.findings)


def _missed_humidity(found: Assessment) -> float:
    """How far the cool end lies outside its bands over the four states, squared, so that one far miss counts most."""
    return sum(max(miss(item), 0.0) ** 2 for item in found.quantities if item.key == "cool_humidity")
