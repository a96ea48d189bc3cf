"""What is proposed instead: today's layout mended with as little as will do, what has to be bought for it, and the hours it takes.

What is told is taken as it most likely is. First everything is mended that can be with what is there; where something grave is
left, heaters and lamps are chosen anew. Then it is furnished. The better of both is proposed, and of equals what keeps more.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import date
from math import fsum
from operator import itemgetter
from typing import Final

from husbandry.assess.assess import assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import GRAVE, WEIGHT, Judge, applied, kind_of
from husbandry.assessment import Change, Finding, Remedy
from husbandry.build.kinds import ANIMAL_IN, TEST_RUN
from husbandry.build.rebuild import rebuild
from husbandry.build.settings import BuildSettings
from husbandry.codes import FindingCode
from husbandry.design.enclosure_steps import choice
from husbandry.design.furnish import Furnished, furnish
from husbandry.design.refitting import refitted
from husbandry.money.bill import BillLine, bill
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.setup_review.review import COUNTED, LOOK, is_told, plan_of
from husbandry.setup_review.told import Told
from husbandry.setup_review.unknowns import answered, unknowns
from husbandry.space.sizing import SIDES
from husbandry.species.profile import Profile

ROUNDS: Final = 16
LOOKING: Final = replace(LOOK, propose=True)
SETTINGS: Final = BuildSettings()
OPINION: Final = "schools."  # which school somebody goes by is no work to be done
WITHOUT_A_HAND: Final = (ANIMAL_IN, TEST_RUN)


@dataclass(frozen=True)
class Mending:
    """What would mend one finding: in words by `remedy`, what has to be bought, and minutes of work."""

    remedy: Remedy
    to_buy: tuple[BillLine, ...]
    minutes: float


@dataclass(frozen=True)
class Proposal:
    """Today's layout and the proposed one, each with what it comes to; what is bought, the hours, and what is still left.

    `mendings` has by `kind_of` what would mend each of today's findings by itself, where one change does.
    """

    before: HabitatPlan
    after: HabitatPlan
    found_before: Assessment
    found_after: Assessment
    mendings: Mapping[tuple[str, str], Mending]
    to_buy: tuple[BillLine, ...]
    minutes: float

    @property
    def left(self) -> tuple[Finding, ...]:
        """What is wrong with the proposed one."""
        return tuple(told_of(self.found_after))


def likeliest(told: Told) -> Told:
    """The set-up with the likeliest answer to everything that is unknown."""
    while there := unknowns(told):  # a thermostat that is likely there has a probe somewhere
        told = answered(told, {one.path: max(zip(one.shares, one.answers, strict=True), key=itemgetter(0))[1] for one in there})
    return told


def told_of(found: Assessment) -> Iterator[Finding]:
    """The findings that count in a review."""
    return (item for item in found.findings if is_told(item))


def propose(told: Told, profile: Profile, today: date) -> Proposal:
    """Return what is proposed instead of a set-up.

    Parameters
    ----------
    told
        The set-up; what is unknown is taken as it most likely is.
    profile, today
        Its species, and the day.

    Returns
    -------
    Proposal.

    Raises
    ------
    pydantic.ValidationError
        What was told cannot be.

    References
    ----------
    Remedies as `assess.vetting`, furniture as `design.furnish`, work as `build.rebuild`.
    """
    before = plan_of(likeliest(told), profile, today)
    found = assess(before, profile, today, depth=LOOKING)
    mendings = dict(_mendings(before, profile, found))
    start = _roomy(before, profile, today) if FindingCode.SPACE_TOO_SMALL in _codes(found) else before
    ways = [_furnished(_mended(start, profile, today), profile, today)]
    if _grave(assess(ways[0], profile, today, depth=LOOK)):
        # Without its lamps the ground may rise: they are hung to it afterwards.
        bare = start.model_copy(update={"heaters": (), "uv_lamps": ()})
        anew = refitted(_mended(bare, profile, today, only=_of_the_box), profile, today)
        ways.append(_mended(_furnished(anew, profile, today), profile, today))
    judged = [(assess(way, profile, today, depth=LOOK), way) for way in ways]
    best, after = min(judged, key=lambda pair: _weight(pair[0]))
    bought, minutes = _work(before, after)
    return Proposal(before, after, found, best, mendings, bought, minutes)


def _codes(found: Assessment) -> set[FindingCode]:
    return {item.code for item in found.findings}


def _roomy(plan: HabitatPlan, profile: Profile, today: date) -> HabitatPlan:
    """The plan in a box that a growing animal does not outgrow at once: nobody buys one twice within months."""
    least = _mended(plan, profile, today, only=_of_the_box)
    if FindingCode.SPACE_OUTGROWN_SOON not in _codes(assess(least, profile, today, depth=LOOK)):
        return plan
    housing = choice(plan, profile, today)
    if housing is None or not housing.step_up.homes:
        return plan
    box = least.enclosure
    wanted = zip(SIDES, (box.length_m, box.width_m, box.height_m), housing.step_up.homes[0].sides_m, strict=True)
    changes = tuple(Change(f"enclosure.{side}_m", round(max(now_m, next_m), 2)) for side, now_m, next_m in wanted)
    try:
        return read_data(applied(plan, changes))
    except PlanProblems:
        return plan


def _of_the_box(change: Change) -> bool:
    return change.path.startswith(("enclosure.", "ground."))


def _anything(change: Change) -> bool:
    return not change.path.startswith(OPINION)


def _mended(plan: HabitatPlan, profile: Profile, today: date, only: Callable[[Change], bool] = _anything) -> HabitatPlan:
    """The plan with what can be mended one by one, worst first."""
    for _turn in range(ROUNDS):
        found = assess(plan, profile, today, depth=LOOKING)
        judge = Judge(plan, profile, found)
        offers = (judge.vetted(item).remedy for item in _worst_first(found))
        changes = next((one.changes for one in offers if one is not None and one.changes and all(map(only, one.changes))), None)
        if changes is None:
            break
        plan = read_data(applied(plan, changes))
    return plan


def _worst_first(found: Assessment) -> list[Finding]:
    return sorted((item for item in found.findings if item.severity in COUNTED), key=lambda item: -WEIGHT[item.severity])


def _furnished(plan: HabitatPlan, profile: Profile, today: date) -> HabitatPlan:
    """The plan with what the species wants standing in it, where that is no worse."""
    made = next(step.plan for step in furnish(plan, profile, today) if isinstance(step, Furnished))
    before, after = (assess(one, profile, today, depth=LOOK) for one in (plan, made))
    return made if _weight(after) <= _weight(before) else plan


def _weight(found: Assessment) -> float:
    return fsum(WEIGHT[item.severity] for item in told_of(found))


def _grave(found: Assessment) -> bool:
    return any(item.severity in GRAVE for item in told_of(found))


def _mendings(plan: HabitatPlan, profile: Profile, found: Assessment) -> Iterator[tuple[tuple[str, str], Mending]]:
    judge = Judge(plan, profile, found)
    for item in told_of(found):
        remedy = judge.vetted(item).remedy
        if remedy is None or not remedy.changes or not all(map(_anything, remedy.changes)):
            continue
        try:
            after = read_data(applied(plan, remedy.changes))
        except PlanProblems:
            continue
        yield kind_of(item), Mending(remedy, *_work(plan, after))


def _work(before: HabitatPlan, after: HabitatPlan) -> tuple[tuple[BillLine, ...], float]:
    """What has to be bought from one plan to the other, and the minutes of work."""
    has = {(line.what, line.unit): line.amount for line in bill(before, SETTINGS)}
    more = (replace(line, amount=round(line.amount - has.get((line.what, line.unit), 0.0), 3)) for line in bill(after, SETTINGS))
    steps = rebuild(before, after, SETTINGS).steps
    return tuple(line for line in more if line.amount > 0), fsum(step.minutes for step in steps if step.kind not in WITHOUT_A_HAND)
