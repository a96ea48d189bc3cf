"""Rules of the animal itself: what is not known of it, its feeding."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.diet import BOOKS_DAYS
from husbandry.review.facts import Facts
from husbandry.review.judged import OFF, SEVERITY, below, named
from husbandry.review.standing import paper


def animal(facts: Facts) -> Iterator[Finding]:
    """What is not known of the animal."""
    if not facts.stage.known:
        yield Finding(FindingCode.ANIMAL_STAGE_UNKNOWN, Severity.QUESTION, "animal")
    elif facts.stage.indications:
        said = ", ".join(f"{measure}: {stage}" for measure, stage in facts.stage.indications.items())
        yield Finding(FindingCode.ANIMAL_STAGE_DISPUTED, Severity.QUESTION, "animal", {"said": said, "leads": facts.stage.leads})
    if facts.stage.length_question:
        yield Finding(FindingCode.ANIMAL_LENGTH_UNKNOWN, Severity.QUESTION, "animal")


def quarantine(facts: Facts) -> Iterator[Finding]:
    """A new animal that is to stay apart from others for less than its kind is, or not at all."""
    short = facts.standing.quarantine_short
    if short is None:
        return
    came, until, least, most = short
    told: dict[str, Parameter] = {"day": came, "until_day": until, "least": f"{least:g}", "most": f"{most:g}"}
    changes = (Change("upkeep.quarantine_until", until), *paper(facts))
    remedy = Remedy(RemedyCode.QUARANTINE_ON_PAPER if len(changes) > 1 else RemedyCode.QUARANTINE_UNTIL, {"day": until}, changes)
    yield Finding(FindingCode.QUARANTINE_SHORT, Severity.ADVICE, "food", told, remedy)


def laying(facts: Facts) -> Iterator[Finding]:
    """A grown female that lays without a male, and no ground deep enough for it: eggs that cannot be laid kill."""
    if facts.standing.laying_m is not None:
        low_m, high_m = facts.standing.laying_m
        told: dict[str, Parameter] = {"least": Measure(low_m, "m"), "most": Measure(high_m, "m")}
        yield Finding(FindingCode.LAYING_SITE, Severity.ADVICE, "furniture", told, Remedy(RemedyCode.LAYING_BOX, told))


def feeding(facts: Facts) -> Iterator[Finding]:
    for item in facts.of("feed_interval"):
        if item.verdict in OFF:
            code = FindingCode.FEED_TOO_OFTEN if below(item) else FindingCode.FEED_TOO_SELDOM
            remedy = Remedy(RemedyCode.FEED_STAGE_INTERVAL, {}, BOOKS_DAYS)
            yield Finding(code, SEVERITY[item.verdict], "food", named(item), remedy)
