"""What every rule answers with: a quantity in its target band, and a finding with the change that mends it.

All values are SI with temperatures in °C; `unit` names one of `husbandry.units.UNITS`. Reasons are codes with
parameters; the words are made at the edge, in the keeper's language and units.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any, Final

from husbandry.codes import FindingCode, ReasonCode, RemedyCode

SEASONS: Final = ("summer", "winter")  # a plan is judged in both
# "Near" is within a fifth of the band's width beyond its edge, and never less than this share of the edge's value.
NEAR_SHARE_OF_WIDTH = 0.2
NEAR_SHARE_OF_EDGE: Final = 0.05  # of the edge, where a band has but one
NEAR_K: Final = 1.0  # the same of temperatures, in K: five hundredths of so many °C would mean nothing (estimate)
# Within a hundredth of the width a value stands on the edge: the screen would show it as the edge itself.
EDGE_SHARE_OF_WIDTH = 0.01


class Verdict(StrEnum):
    """How a value stands against its target band."""

    INSIDE = "inside"
    NEAR = "near"
    OUTSIDE = "outside"
    DANGEROUS = "dangerous"
    UNKNOWN = "unknown"
    NOT_APPLICABLE = "not applicable"


class BasisKind(StrEnum):
    """Where a number comes from."""

    SOURCE = "source"
    PRACTICE = "common practice"
    MEMORY = "from memory"
    ESTIMATE = "estimate"
    KEEPER = "keeper"


@dataclass(frozen=True)
class Basis:
    """The origin of a number: its kind, the citation where there is one, and a note."""

    kind: BasisKind
    citation: str = ""
    note: str = ""


@dataclass(frozen=True)
class Measure:
    """A number with its unit, so that the edge can say it in the keeper's units."""

    value: float
    unit: str


Parameter = Measure | float | str  # a float without a unit is a count, a factor or a share
Parameters = Mapping[str, Parameter]


@dataclass(frozen=True)
class Reason:
    """Why: a code that the edge puts into words, and what goes into the sentence."""

    code: ReasonCode
    parameters: Parameters = field(default_factory=dict)


@dataclass(frozen=True)
class Band:
    """The range wanted, and the limits beyond which an animal is in danger.

    Any limit may be None (open). `low <= high`, `danger_low <= low`, `high <= danger_high`. `near` is how far outside a band
    of one edge still counts as near, in its unit: on a scale whose zero means nothing it has to be given.
    """

    low: float | None
    high: float | None
    basis: Basis
    school: str = ""
    danger_low: float | None = None
    danger_high: float | None = None
    near: float | None = None

    def margin(self) -> float:
        """How far outside still counts as near, in the band's unit."""
        if self.low is not None and self.high is not None and self.high > self.low:
            return NEAR_SHARE_OF_WIDTH * (self.high - self.low)
        if self.near is not None:
            return self.near
        edge = self.low if self.low is not None else self.high
        return 0.0 if edge is None else NEAR_SHARE_OF_EDGE * abs(edge)

    def judge(self, value: float | None) -> Verdict:
        """Place `value` (same unit as the band) in the band."""
        if value is None:
            return Verdict.UNKNOWN
        if self.danger_high is not None and value > self.danger_high:
            return Verdict.DANGEROUS
        if self.danger_low is not None and value < self.danger_low:
            return Verdict.DANGEROUS
        short = self.low - value if self.low is not None else 0.0
        over = value - self.high if self.high is not None else 0.0
        gap = max(short, over, 0.0)
        if gap <= self.margin() * EDGE_SHARE_OF_WIDTH / NEAR_SHARE_OF_WIDTH:
            return Verdict.INSIDE
        return Verdict.NEAR if gap <= self.margin() else Verdict.OUTSIDE


@dataclass(frozen=True)
class Read:
    """What was read of a quantity in the plan as it stands: the middle of the readings in its unit, its standard deviation,
    how many there are, and the day of the last as ISO date."""

    value: float
    sigma: float
    count: int
    day: str


@dataclass(frozen=True)
class Quantity:
    """One number the keeper reads.

    `key` is stable and unique within an assessment together with `season` and `phase` ("" where they do not apply).
    `low` and `high` are the 10th and 90th percentile by the model's own uncertainty, None when there is no spread; `likely`
    is the chance (0–1) that it stands in its band. Where it was `read`, the readings' chance is told and not the model's.
    """

    key: str
    unit: str
    value: float | None
    verdict: Verdict
    reason: Reason
    basis: Basis
    band: Band | None = None
    low: float | None = None
    high: float | None = None
    season: str = ""
    phase: str = ""
    school: str = ""
    question: str = ""
    likely: float | None = None
    read: Read | None = None

    @property
    def id(self) -> str:
        return "/".join(part for part in (self.key, self.season, self.phase) if part)


@dataclass(frozen=True)
class Change:
    """One edit of the plan: the JSON path (dots) and the new JSON value in SI; one past a list's end appends."""

    path: str
    value: Any


@dataclass(frozen=True)
class Remedy:
    """What would mend a finding: words by code, and the edits (none where only the keeper's hand can do it)."""

    code: RemedyCode
    parameters: Parameters = field(default_factory=dict)
    changes: tuple[Change, ...] = ()


class Severity(StrEnum):
    """How bad a finding is, worst first."""

    DANGER = "danger"
    WRONG = "wrong"
    ADVICE = "advice"
    QUESTION = "question"


@dataclass(frozen=True)
class Finding:
    """Something to act on. `about` is the id of the quantity that is wrong, "" where it is no number.

    `also` is how bad it is in the other season, where both are told together.
    """

    code: FindingCode
    severity: Severity
    step: str
    parameters: Parameters = field(default_factory=dict)
    remedy: Remedy | None = None
    subject: str = ""
    about: str = ""
    also: Severity | None = None

    @property
    def id(self) -> str:
        return f"{self.code}:{self.subject}" if self.subject else self.code
