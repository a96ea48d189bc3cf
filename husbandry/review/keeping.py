"""Rules of the animal itself: what is not known of it, its feeding."""

from collections.abc import Iterator

from husbandry.assessment import Finding, Remedy, Severity
from husbandry.review.diet import BOOKS_DAYS
from husbandry.review.facts import Facts
from husbandry.review.judged import OFF, SEVERITY, below, named


def animal(facts: Facts) -> Iterator[Finding]:
    """What is not known of the animal."""
    if not facts.stage.known:
        yield Finding("animal.stage_unknown", Severity.QUESTION, "animal")
    elif facts.stage.indications:
        said = ", ".join(f"{measure}: {stage}" for measure, stage in facts.stage.indications.items())
        yield Finding("animal.stage_disputed", Severity.QUESTION, "animal", {"said": said, "leads": facts.stage.leads})
    if facts.stage.length_question:
        yield Finding("animal.length_unknown", Severity.QUESTION, "animal")


def feeding(facts: Facts) -> Iterator[Finding]:
    for item in facts.of("feed_interval"):
        if item.verdict in OFF:
            code = "feed.too_often" if below(item) else "feed.too_seldom"
            remedy = Remedy("feed.stage_interval", {}, BOOKS_DAYS)
            yield Finding(code, SEVERITY[item.verdict], "food", named(item), remedy)
