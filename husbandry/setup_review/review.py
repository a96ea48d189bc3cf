"""The review of a set-up: what is wrong for sure, what may be, what is right, and the one question whose answer settles most.

Every way the unknown may be is assessed by the models; what stands in all of them is certain, whatever the answers. A question is
worth what its answer takes away, on average, from how open the findings are, a danger counting more than what is merely wrong.
"""

import hashlib
import itertools
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import fsum, prod
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.animal.body import body_of
from husbandry.assess.assess import Depth, assess
from husbandry.assess.nutrition import season_of
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import WEIGHT, kind_of
from husbandry.assessment import Finding, Measure, Quantity, Severity, Verdict
from husbandry.codes import FindingCode
from husbandry.errors import HusbandryError
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.placement import check_places
from husbandry.setup_review.missing import missing
from husbandry.setup_review.readings import likelier, records_of
from husbandry.setup_review.told import OF_ADULT, Told, document_of
from husbandry.setup_review.unknowns import Unknown, Value, answered, unknowns
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile

MOST_WAYS: Final = 48  # of how it may be that are worked out: all of them where there are no more, else so many drawn
CERTAIN: Final = 0.95  # of the ways, from which on it is taken for sure
SETTLES: Final = 1.0  # a question that settles less than a third of one advice is not asked
MONTH_DAYS: Final = 30.44
USUAL_BODY_M: Final = 0.3  # where neither the animal nor its book says how long it is
USUAL_SPOT_C: Final = 30.0
LOOK: Final = Depth(days_of=(), spread=False, hanging=False, propose=False, telling=False)
COUNTED: Final = (Severity.DANGER, Severity.WRONG, Severity.ADVICE)
# What hangs on more than is told here: where exactly a thing stands, how large it is, what is fed and when it is lit.
NOT_TOLD: Final = {
    FindingCode.SPACE_OVERLAP, FindingCode.SPACE_OVERLAP_ALIKE, FindingCode.SPACE_PAST_WALL, FindingCode.SPACE_TALL_HIDE,
    FindingCode.SPACE_HIDE_UNDER_LAMP, FindingCode.SPACE_LITTLE_FLOOR, FindingCode.SPACE_ON_LOOSE_GROUND,
    FindingCode.SPACE_IN_DOORWAY,
    FindingCode.SPACE_SEEN_ALL_ROUND, FindingCode.SPACE_HIDE_TIGHT, FindingCode.SPACE_OPENING_TIGHT, FindingCode.SPACE_TOPPLES,
    FindingCode.SPACE_OUT_OF_REACH, FindingCode.SPACE_PERCH, FindingCode.SPACE_NO_VIEW,
    FindingCode.MOISTURE_BOWL_UNDER_LAMP, FindingCode.MOISTURE_BOWL_SMALL, FindingCode.MOISTURE_BOWL_DEEP,
    FindingCode.MOISTURE_BOWL_SHALLOW, FindingCode.MOISTURE_BOWL_BRIM, FindingCode.MOISTURE_BOWL_OVERFLOWS,
    FindingCode.UV_COVERS_LITTLE, FindingCode.UV_COVERS_MUCH, FindingCode.UV_HOURS_FEW, FindingCode.UV_HOURS_MANY,
}  # fmt: skip
JUDGED: Final = ("heat.", "uv.", "moisture.", "space.", "ground.", "water.", "animal.", "measured.")
RIGHT: Final = {
    "enclosure_length", "enclosure_width", "enclosure_height", "ground_depth", "basking_surface", "warm_air", "cool_air",
    "hottest_air", "warm_humidity", "cool_humidity", "humid_hide", "uv_back",
}  # fmt: skip
JUDGEMENTS: Final = (Verdict.INSIDE, Verdict.NEAR, Verdict.OUTSIDE, Verdict.DANGEROUS)
Key = tuple[str, str]
Floats = NDArray[np.float64]


class DoesNotFitError(HusbandryError, ValueError):
    """What was told does not fit into the box that was told."""


@dataclass(frozen=True)
class PossibleWay:
    """One way it may be: what every unknown is, how likely that is beside the others (sum 1), and what is found in it.

    `lacks` is what no model tells: what is not there at all. What was read is told of the `season` it was read in.
    """

    answers: Mapping[str, Value]
    share: float
    found: Assessment
    lacks: tuple[Finding, ...] = ()
    season: str = "winter"

    @property
    def counted(self) -> dict[Key, Finding]:
        """Its findings by what they are about, of each the gravest."""
        found: dict[Key, Finding] = {}
        known = (one for one in self.found.findings if is_told(one) and one.parameters.get("season", self.season) == self.season)
        for item in (*known, *self.lacks):
            if WEIGHT[item.severity] > WEIGHT.get(_severity(found.get(kind_of(item))), 0):
                found[kind_of(item)] = item
        return found


def is_told(item: Finding) -> bool:
    """Tell whether a finding is about what was told."""
    return item.severity in COUNTED and item.code not in NOT_TOLD and item.code.startswith(JUDGED)


def _severity(item: Finding | None) -> Severity:
    return Severity.QUESTION if item is None else item.severity


@dataclass(frozen=True)
class StandingFinding:
    """One finding, and in which share of the ways it stands; of both seasons the graver."""

    finding: Finding
    share: float

    @property
    def certain(self) -> bool:
        return self.share >= CERTAIN


@dataclass(frozen=True)
class Question:
    """One thing to ask: what it settles (in the weights of `assess.vetting`), and as a share of all that is open."""

    unknown: Unknown
    settles: float
    share: float


@dataclass(frozen=True)
class Review:
    """A review: the findings, worst and likeliest first, the quantities that are right whatever the answers, the questions."""

    findings: tuple[StandingFinding, ...]
    right: tuple[Quantity, ...]
    questions: tuple[Question, ...]

    @property
    def ask(self) -> Question | None:
        """The one question that settles most; None where none would change it."""
        return next((one for one in self.questions if one.settles >= SETTLES), None)


def review(told: Told, profile: Profile, today: date) -> Review:
    """Return the review of a set-up as it was told.

    Parameters
    ----------
    told
        The set-up; None is "I do not know".
    profile, today
        Its species, and the day.

    Returns
    -------
    Review.

    Raises
    ------
    DoesNotFitError
        Its parts do not fit into its box, however the unknown may be.

    References
    ----------
    The worth of a question is the expected value of perfect information on one parameter, of a loss that is the weighted variance
    of the findings: Strong, Oakley 2014, Estimating multiparameter partial expected value of perfect information (recalled).
    """
    open_ones = unknowns(told)
    ways = ways_of(told, open_ones, profile, today)
    return Review(_standing(ways), _right(ways), _questions(ways, open_ones))


def ways_of(told: Told, open_ones: Sequence[Unknown], profile: Profile, today: date) -> tuple[PossibleWay, ...]:
    """Return the ways it may be, assessed; those whose parts do not fit are none. Raises DoesNotFitError where none is left."""
    found, lacks, records, season = [], [], records_of(told.readings, today), ""
    for answers, share in _drawn(told, open_ones):
        known = answered(told, answers)
        plan = plan_of(known, profile, today)
        if not check_places(plan):
            assessment = assess(plan, profile, today, records, LOOK)
            found.append((answers, share, assessment))
            lacks.append(tuple(missing(known, assessment.body)))
            season = season_of(plan, today)
    if not found:
        raise DoesNotFitError("nothing of it fits")
    whole = fsum(share for _answers, share, _found in found)
    before, there = [share / whole for _answers, share, _found in found], [one for _answers, _share, one in found]
    shares = likelier(told.readings, before, there, drawn=not _few(open_ones))
    rows = zip(found, shares, lacks, strict=True)
    return tuple(PossibleWay(answers, share, assessment, lacking, season) for (answers, _share, assessment), share, lacking in rows)


def plan_of(told: Told, profile: Profile, today: date) -> HabitatPlan:
    """Return the plan of a set-up of which everything is known. Raises pydantic.ValidationError."""
    days = " ".join((today - timedelta(days=MONTH_DAYS * (tube.months or 0))).isoformat() for tube in told.tubes)
    if told.grown is not None and not told.sized:
        length_m = OF_ADULT[told.grown] * profile.body.adult_length_cm.middle / 100
        told = told.model_copy(update={"animal": told.animal.model_copy(update={"length_m": length_m})})
    bare = told.model_copy(update={"hides": (), "heaters": (), "bowl": False})
    nothing = dict.fromkeys(("spot", "air", "cool"), USUAL_SPOT_C)
    body = body_of(HabitatPlan.model_validate(document_of(bare, USUAL_BODY_M, nothing, days)), profile, today)
    heat = body.decision.stage.heat
    wanted = {"spot": heat.basking_surface_c or heat.warm_air_c, "air": heat.warm_air_c, "cool": heat.cool_air_c}
    held = {at: choose(ranges, {}).middle for at, ranges in wanted.items()}
    return HabitatPlan.model_validate(document_of(told, body.length_m or USUAL_BODY_M, held, days))


def _few(open_ones: Sequence[Unknown]) -> bool:
    """Tell whether all the ways it may be can be worked out."""
    return prod(len(one.answers) for one in open_ones) <= MOST_WAYS


def _drawn(told: Told, open_ones: Sequence[Unknown]) -> Iterable[tuple[dict[str, Value], float]]:
    """Every way with its share where there are few; else so many drawn, each answer as often as its share says."""
    if _few(open_ones):
        for chosen in itertools.product(*(zip(one.answers, one.shares, strict=True) for one in open_ones)):
            answers = {one.path: answer for one, (answer, _share) in zip(open_ones, chosen, strict=True)}
            yield answers, prod(share for _answer, share in chosen)
        return
    seed = hashlib.sha256(told.model_dump_json().encode()).digest()[:8]
    chance = np.random.default_rng(int.from_bytes(seed, "big"))  # the same set-up asks the same
    columns = [_column(one, chance) for one in open_ones]
    for turn in range(MOST_WAYS):
        yield {one.path: one.answers[column[turn]] for one, column in zip(open_ones, columns, strict=True)}, 1.0


def _column(one: Unknown, chance: np.random.Generator) -> list[int]:
    """Which answer in each way: the shares are met as nearly as so many ways can."""
    ends = np.cumsum(one.shares) * MOST_WAYS
    places = np.arange(MOST_WAYS) + chance.random()
    return [int(index) for index in chance.permutation(np.minimum(np.searchsorted(ends, places), len(one.answers) - 1))]


def _standing(ways: Sequence[PossibleWay]) -> tuple[StandingFinding, ...]:
    """The findings of all ways, each once: of the gravest the one in the middle."""
    shares, told = defaultdict[Key, list[float]](list), defaultdict[Key, list[Finding]](list)
    for way in ways:
        for key, item in way.counted.items():
            shares[key].append(way.share)
            told[key].append(item)
    found = [StandingFinding(_middle(items), fsum(shares[key])) for key, items in told.items()]
    return tuple(sorted(found, key=lambda one: (-WEIGHT[one.finding.severity] * one.share, one.finding.id)))


def _middle(items: Sequence[Finding]) -> Finding:
    """Of the gravest findings the one whose number is in the middle."""
    most = max(WEIGHT[item.severity] for item in items)
    gravest = [item for item in items if WEIGHT[item.severity] == most]
    return sorted(gravest, key=_number)[len(gravest) // 2]


def _number(item: Finding) -> float:
    value = item.parameters.get("value")
    return value.value if isinstance(value, Measure) and value.value is not None else 0.0


def _right(ways: Sequence[PossibleWay]) -> tuple[Quantity, ...]:
    """What stands inside its band in all ways, in summer and winter, by day and night: as it is in the likeliest."""
    inside: dict[str, float] = defaultdict(float)
    for way in ways:
        judged: dict[str, list[bool]] = defaultdict(list)
        for item in way.found.quantities:
            if item.key in RIGHT and item.verdict in JUDGEMENTS:
                judged[item.key].append(item.verdict is Verdict.INSIDE)
        for key, each in judged.items():
            inside[key] += way.share * all(each)
    likeliest = max(ways, key=lambda way: way.share).found.quantities
    first = {item.key: item for item in reversed(likeliest)}
    return tuple(item for key, item in reversed(first.items()) if inside.get(key, 0.0) >= CERTAIN)


def _questions(ways: Sequence[PossibleWay], open_ones: Sequence[Unknown]) -> tuple[Question, ...]:
    """What each unknown would settle, most first."""
    counted = [way.counted for way in ways]
    keys = list(dict.fromkeys(key for one in counted for key in one))
    # In the root of the weight: a variance of that is in the weight itself.
    marks = np.array([[WEIGHT[one[key].severity] ** 0.5 if key in one else 0.0 for key in keys] for one in counted])
    marks = marks.reshape(len(ways), len(keys))
    share = np.array([way.share for way in ways])
    whole = _spread(marks, share)
    found = []
    for one in open_ones:
        said = np.array([one.answers.index(way.answers[one.path]) for way in ways])
        groups = [said == answer for answer in range(len(one.answers)) if (said == answer).any()]
        within = fsum(float(share[group].sum()) * _spread(marks[group], share[group]) for group in groups)
        by_chance = 0.0 if _few(open_ones) else _by_chance(within, len(groups), len(ways))
        settles = max(whole - within - by_chance, 0.0)
        found.append(Question(one, settles, settles / whole if whole > 0 else 0.0))
    return tuple(sorted(found, key=lambda question: (-question.settles, question.unknown.path)))


def _by_chance(within: float, groups: int, ways: int) -> float:
    """What so many groups of drawn ways take away by chance alone.

    Analysis of variance: between groups without an effect lies (groups − 1) / (ways − groups) of what is within them.
    """
    return within * (groups - 1) / max(ways - groups, 1)


def _spread(marks: Floats, share: Floats) -> float:
    """The variance of all columns together, each way by its share."""
    weights = share / share.sum()
    middle = weights @ marks
    return float((weights @ (marks - middle) ** 2).sum())
