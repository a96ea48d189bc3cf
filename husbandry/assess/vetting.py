"""The second pass: every change that would mend a finding is made on trial and judged, before it is offered.

A change is offered where its finding goes or becomes less grave, no danger is added or grows, nothing else becomes wrong, and the
animal spends no less of its day in its bands; what is electrical comes out of the water whatever else that does. What is left
over counts for less than before, so that whoever presses the first button again and again comes to an end. A danger without such
a change says so.
"""

import math
from collections.abc import Collection, Iterator
from dataclasses import replace
from datetime import date
from functools import cached_property
from typing import Any, Final

from husbandry.assess.assess import NO_RECORDS, Depth, Records, assess
from husbandry.assess.candidates import candidates
from husbandry.assess.result import Assessment
from husbandry.assessment import SEASONS, Change, Finding, Quantity, Remedy, Severity, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.plan.editing import apply, refit
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.review.judged import BAD, miss
from husbandry.species.profile import Profile

# What a finding of each severity counts: one graver one outweighs any number of lighter ones that could come of mending it.
WEIGHT: Final = {Severity.DANGER: 1000, Severity.WRONG: 30, Severity.ADVICE: 3, Severity.QUESTION: 1}
GRAVE: Final = (Severity.DANGER, Severity.WRONG)
RANK: Final = {Verdict.INSIDE: 0, Verdict.NEAR: 1, Verdict.OUTSIDE: 2, Verdict.DANGEROUS: 3}
HELD: Final = ("basking_held", "warm_held", "cool_held", "humidity_held")  # % of the day in band
LESS_PERCENT: Final = 3.0  # of the day: less than that is no worsening
GROWN_K: Final = 0.4  # a temperature's danger may not grow by more
FAR_SHARE: Final = 0.01  # or by more than this of what it is beyond already, far out where no number is sure to the kelvin
GROWN_SHARE: Final = 0.02  # a danger that is there already may not grow by more of its own size
STRICTER: Final = 0.6  # of both, for what is offered: worked out with its spread a number may differ by a tenth of a kelvin
SOLVED_K: Final = 0.01  # two solves from other beginnings differ by some thousandths of a kelvin
DEADLY: Final = {FindingCode.HEAT_IN_WATER}
MOST_TRIALS: Final = 10  # for one finding


class Judge:
    """Compares what a change makes of a plan with the plan as it stands; the same changes are tried once.

    `found` is what `assess` made of the plan, with what its rules propose. Readings say nothing of a plan that was changed, and
    are left out of the trials.
    """

    def __init__(self, plan: HabitatPlan, profile: Profile, found: Assessment, records: Records = NO_RECORDS) -> None:
        self.plan, self.profile, self.found = plan, profile, found
        self.records = replace(records, read={})
        self.tried: dict[str, Assessment | None] = {}
        self.before: Assessment | None = None

    def trial(self, changes: tuple[Change, ...], *, through_the_day: bool = False) -> Assessment | None:
        """What comes of some changes; None where they leave no plan."""
        key = f"{through_the_day} {changes!r}"
        if key not in self.tried:
            self.tried[key] = self._trial(changes, through_the_day)
        return self.tried[key]

    def _trial(self, changes: tuple[Change, ...], through_the_day: bool) -> Assessment | None:
        try:
            plan = read_data(_applied(self._document, changes))
        except (PlanProblems, KeyError, IndexError):
            return None
        seasons = tuple(self.found.days) if through_the_day else ()
        depth = Depth(days_of=seasons, near=self.found.climate, telling=False)
        return assess(plan, self.profile, self.found.today, self.records, depth)

    @cached_property
    def _document(self) -> dict[str, Any]:
        return self.plan.model_dump(mode="json")

    def vetted(self, finding: Finding, most: int = MOST_TRIALS) -> Finding:
        """The finding with the first change that may be offered of the `most` that are tried; else with words or with why none."""
        proposed = finding.remedy
        for index, remedy in enumerate(candidates(self.plan, self.profile, finding, self.found)):
            if index >= most:
                break
            if self.offers(finding, remedy):
                return replace(finding, remedy=remedy)
        if proposed is not None and not proposed.changes:
            return finding
        code = RemedyCode.NONE_DANGER if finding.severity is Severity.DANGER else RemedyCode.NONE_TRIED
        return replace(finding, remedy=None if proposed is None and finding.severity is not Severity.DANGER else Remedy(code))

    def offers(self, finding: Finding, remedy: Remedy) -> bool:
        """Tell whether a change may be offered for a finding: first by what its ends come to, then through the day."""
        for through_the_day in (False, True):
            # The plan as it stands by the same quick way, so that like is compared with like.
            before = self.trial((), through_the_day=through_the_day)
            after = self.trial(remedy.changes, through_the_day=through_the_day)
            if before is None or after is None or not mends(after, finding) or _costs(before, after, finding):
                return False
            if _weighs_more(finding) or not self.found.days:
                break
        return self._holds(finding, remedy)

    def _holds(self, finding: Finding, remedy: Remedy) -> bool:
        """Tell whether it holds worked out in full: the quick way may differ by a hair, and a band's edge is as thin."""
        if self.before is None:
            self.before = self._whole(())
        after = self._whole(remedy.changes)
        return mends(after, finding) and not (_costs(self.before, after, finding) or verges(self.before, after))

    def _whole(self, changes: tuple[Change, ...]) -> Assessment:
        plan = read_data(_applied(self._document, changes))
        return assess(
            plan, self.profile, self.found.today, self.records, Depth(days_of=(), spread=False, hanging=False, telling=False)
        )


def applied(plan: HabitatPlan, changes: tuple[Change, ...]) -> dict[str, Any]:
    """The document of a plan after a remedy; in a box of another size everything is brought back inside."""
    return _applied(plan.model_dump(mode="json"), changes)


def _applied(document: dict[str, Any], changes: tuple[Change, ...]) -> dict[str, Any]:
    after = apply(document, changes)
    return refit(document, after) if any(change.path.startswith("enclosure.") for change in changes) else after


def mends(after: Assessment, finding: Finding) -> bool:
    """Tell whether a finding is gone, or less grave than it was."""
    left = [item for item in after.findings if item.code == finding.code and _meet(item.subject, finding.subject)]
    return all(WEIGHT[item.severity] < WEIGHT[finding.severity] for item in left)


def kind_of(finding: Finding) -> tuple[str, str]:
    """What a finding is about, whichever season it is of: one of both seasons may be one of a single season after a change.

    A season's own number getting worse is seen in the quantities.
    """
    return finding.code, "" if finding.subject in SEASONS else finding.subject


def _meet(one: str, other: str) -> bool:
    """Tell whether two subjects share a season, or are the same; nothing stands for both seasons."""
    return one == other or (one in ("", *SEASONS) and other in ("", *SEASONS) and "" in (one, other))


def _costs(before: Assessment, after: Assessment, finding: Finding) -> bool:
    """Tell whether a change costs more than it may: for what kills at a touch, only another danger is too much."""
    return endangers(before, after) if finding.code in DEADLY else worsens(before, after, finding)


def worsens(before: Assessment, after: Assessment, finding: Finding | None = None) -> bool:
    """Tell whether anything is worse after than before: a danger, something wrong, a band left, less of the day in band."""
    gained = weight(before.findings) - weight(after.findings)
    if gained <= 0:
        return True
    if graver(before.findings, after.findings, GRAVE):
        return True
    was = {item.id: item for item in before.quantities}
    lasting = finding is not None and _weighs_more(finding)
    # A tube warms a little: without one the animal is in the dark, whatever the room.
    unlit = finding is not None and finding.code is FindingCode.UV_MISSING
    farther = lasting or unlit or gained >= WEIGHT[Severity.WRONG]
    return any(item.id in was and _worse(was[item.id], item, STRICTER, grave=lasting, farther=farther) for item in after.quantities)


def verges(before: Assessment, after: Assessment) -> bool:
    """Tell whether a temperature comes within a hair of a danger, nearer than before: another solve may put it beyond."""
    was = {item.id: _to_danger_k(item) for item in before.quantities}
    return any(0 <= (gap_k := _to_danger_k(item)) < SOLVED_K and gap_k < was.get(item.id, gap_k) for item in after.quantities)


def _to_danger_k(item: Quantity) -> float:
    """How far a temperature is from the nearest danger, K; negative where it is in danger."""
    band, value = item.band, item.value
    if item.unit != "degC" or band is None or value is None:
        return math.inf
    high = math.inf if band.danger_high is None else band.danger_high
    low = -math.inf if band.danger_low is None else band.danger_low
    return min(high - value, value - low)


def _weighs_more(finding: Finding) -> bool:
    """Tell whether a number may come near the edge of its band for this, or hold for less of the day."""
    # Days apart on paper are few, and a disease brought to the others is for good.
    return finding.severity in GRAVE or finding.code is FindingCode.QUARANTINE_SHORT


def graver(before: tuple[Finding, ...], after: tuple[Finding, ...], severities: tuple[Severity, ...]) -> bool:
    """Tell whether a finding of one of these severities is new after, or graver than it was."""
    then: dict[tuple[str, str], int] = {}
    for item in before:
        then[kind_of(item)] = max(WEIGHT[item.severity], then.get(kind_of(item), 0))
    return any(item.severity in severities and WEIGHT[item.severity] > then.get(kind_of(item), 0) for item in after)


def harmless(plan: HabitatPlan, profile: Profile, today: date, changes: tuple[Change, ...]) -> bool:
    """Tell whether a scheme that was worked out by itself adds no danger and makes nothing wrong that was right."""
    try:
        changed = read_data(_applied(plan.model_dump(mode="json"), changes))
    except PlanProblems:
        return False
    before, after = (assess(made, profile, today, depth=Depth(days_of=(), spread=False, telling=False)) for made in (plan, changed))
    return not graver(before.findings, after.findings, GRAVE) and not any(left_or_grown(before, after, BAD))


def endangers(before: Assessment, after: Assessment) -> bool:
    """Tell whether a danger is new after, in a season where there was none, or grows."""
    found = graver(before.findings, after.findings, (Severity.DANGER,))
    return found or any(left_or_grown(before, after, (Verdict.DANGEROUS,)))


def left_or_grown(before: Assessment, after: Assessment, verdicts: Collection[Verdict]) -> Iterator[Quantity]:
    """The quantities of one season and phase that come to one of these verdicts, or are dangerous and more so than before.

    A finding may be of both seasons: what it says of one hides what becomes of the other, the quantities do not.
    """
    was = {item.id: item for item in before.quantities}
    for item in after.quantities:
        if item.verdict in verdicts and item.id in was and _worse(was[item.id], item, grave=True, farther=True):
            yield item


def _worse(before: Quantity, after: Quantity, share: float = 1.0, *, grave: bool, farther: bool) -> bool:
    """A band left, or a danger that grows by more than a `share` of what it may. For what is gravely wrong a number may come near
    the edge of its band; where it may go `farther`, one that is outside already is no matter.
    """
    if before.key in HELD and before.value is not None and after.value is not None:
        return after.value < before.value - LESS_PERCENT and not grave
    if before.verdict not in RANK or after.verdict not in RANK:
        return False
    rise = RANK[after.verdict] - RANK[before.verdict]
    if rise > 0:
        return not (grave and after.verdict is Verdict.NEAR)
    if after.verdict is Verdict.DANGEROUS or (after.verdict is Verdict.OUTSIDE and not farther):
        # Celsius has no zero of its own: there a share of the number would mean nothing.
        hair = max(GROWN_K, FAR_SHARE * miss(before)) if after.unit == "degC" else GROWN_SHARE * abs(before.value or 0.0)
        return miss(after) > miss(before) + share * hair
    return False


def weight(findings: tuple[Finding, ...]) -> int:
    """How bad a plan is, by all that is found; a change that is offered always makes it less.

    What is told of both seasons together counts for both.
    """
    return sum(WEIGHT[severity] for item in findings for severity in (item.severity, item.also) if severity is not None)


def advise(
    plan: HabitatPlan, profile: Profile, today: date, records: Records = NO_RECORDS, days_of: tuple[str, ...] = SEASONS
) -> Assessment:
    """Assess a plan as `assess` does, and offer with each finding only what was tried and holds."""
    return vetted(plan, profile, assess(plan, profile, today, records, Depth(days_of=days_of)), records)


def vetted(plan: HabitatPlan, profile: Profile, found: Assessment, records: Records = NO_RECORDS, only: str = "") -> Assessment:
    """The same assessment with the changes that hold.

    Parameters
    ----------
    found
        What `assess` made of `plan` by `profile`, with what its rules propose.
    records
        What the log holds; readings say nothing of a plan that was changed, and are left out of the trials.
    only
        The id of the one finding that is asked about; all of them where empty.
    """
    judge = Judge(plan, profile, found, records)
    findings = tuple(judge.vetted(item) if not only or item.id == only else item for item in found.findings)
    return replace(found, findings=findings)
