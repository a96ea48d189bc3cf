"""What to do about a set-up: tonight and free, this week, later; and what was done since a review before."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from importlib.resources import files
from typing import Final

from husbandry.assess.vetting import kind_of
from husbandry.assessment import Severity
from husbandry.codes import FindingCode
from husbandry.setup_review.review import Review, StandingFinding

DREADED: Final = 0.25  # so likely, a danger is taken for one tonight


class Urgency(StrEnum):
    """When something can be done, soonest first."""

    TONIGHT = "tonight"
    WEEK = "week"
    LATER = "later"


@cache
def usual() -> Mapping[FindingCode, Urgency]:
    """When each finding can be mended by its usual way. Raises ValueError for a code there is not."""
    table = tomllib.loads(files("husbandry.setup_review").joinpath("data/when.toml").read_text(encoding="utf-8"))
    return {FindingCode(code): Urgency(name) for name, row in table.items() for code in row["codes"]}


@dataclass(frozen=True)
class ToDo:
    """One thing to do: about which finding, when something is done about it, and when it can be `mended` for good.

    A danger never waits, even one that is only likely (`DREADED`): what is mended later is switched off, taken apart or taken out
    tonight.
    """

    standing: StandingFinding
    when: Urgency
    mended: Urgency


def to_do(found: Review) -> tuple[ToDo, ...]:
    """Return what to do about what is certain, soonest first, and of each time the worst first.

    Parameters
    ----------
    found
        The review.

    Returns
    -------
    ToDo; of what hangs on an answer nothing but dangers that are likely enough.

    References
    ----------
    data/when.toml: common practice, no source.
    """
    rows = [
        ToDo(
            one,
            Urgency.TONIGHT if one.finding.severity is Severity.DANGER else usual()[one.finding.code],
            usual()[one.finding.code],
        )
        for one in found.findings
        if one.certain or (one.finding.severity is Severity.DANGER and one.share >= DREADED)
    ]
    order = list(Urgency)
    return tuple(sorted(rows, key=lambda row: order.index(row.when)))  # stable: the worst stays first


@dataclass(frozen=True)
class Since:
    """What became of a review before: `done` stands no more, `left` still does, `new` did not stand then."""

    done: tuple[StandingFinding, ...]
    left: tuple[StandingFinding, ...]
    new: tuple[StandingFinding, ...]


def since(before: Review, after: Review) -> Since:
    """Return what was done between two reviews of one set-up, what is left, and what is new.

    Parameters
    ----------
    before, after
        The reviews, the older one first.

    Returns
    -------
    Since: what was certain and stands in no way any more is done; what only may stand is neither done nor left.

    References
    ----------
    None: a comparison by what each finding is about.
    """
    then = {kind_of(one.finding): one for one in before.findings if one.certain}
    now = {kind_of(one.finding): one for one in after.findings if one.certain}
    possible = {kind_of(one.finding) for one in after.findings}
    return Since(
        tuple(one for key, one in then.items() if key not in possible),
        tuple(one for key, one in now.items() if key in then),
        tuple(one for key, one in now.items() if key not in then),
    )
