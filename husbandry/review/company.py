"""Rules of living together: alone, in pairs, in groups; sexes, young, and who is food for whom."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.review.facts import Company, Facts


def _only(group: Company, animals: int) -> tuple[Change, ...]:
    """Keep so many: of them never more males or young than there are."""
    fewer = [Change("animal.count", animals)]
    if group.males is not None and group.males > animals:
        fewer.append(Change("animal.males", animals))
    if group.young > animals:
        fewer.append(Change("animal.young", animals))
    return tuple(fewer)


def together(facts: Facts) -> Iterator[Finding]:
    """Every rule of the profile that this company breaks, and what is not known of it."""
    group = facts.company
    if group.animals < 2:
        return
    said: dict[str, Parameter] = {"count": group.animals, "rule": group.said}
    one = Remedy("animal.keep_alone", {}, (Change("animal.count", 1), Change("animal.males", None), Change("animal.young", 0)))
    most = 1 if group.kind == "alone" and group.most is None else 2 if group.kind == "pair" and group.most is None else group.most
    if most == 1:
        yield Finding("animal.company", Severity.WRONG, "animal", said, one)
    elif group.kind == "alone":
        yield Finding("animal.better_alone", Severity.ADVICE, "animal", said, one)
    if most is not None and 1 < most < group.animals:
        remedy = Remedy("animal.keep_most", {"most": most}, _only(group, most))
        yield Finding("animal.too_many", Severity.WRONG, "animal", said | {"most": most}, remedy)
    if group.most_males is not None and most != 1:
        males: dict[str, Parameter] = {"most": group.most_males, "when": group.males_note}
        if group.males is None:
            yield Finding("animal.sexes_unknown", Severity.QUESTION, "animal", males)
        elif group.males > group.most_males:
            yield Finding("animal.males", Severity.WRONG, "animal", males | {"males": group.males}, Remedy("animal.males_apart"))
    if group.young_apart and 0 < group.young < group.animals:
        remedy = Remedy("animal.young_apart", {}, (*_only(group, group.animals - group.young), Change("animal.young", 0)))
        yield Finding("animal.young", Severity.WRONG, "animal", {"young": group.young}, remedy)
    least, smallest = group.eats_smaller_share, group.smallest_share
    if least is not None and smallest is not None and smallest < least:
        shares: dict[str, Parameter] = {"share": Measure(100 * smallest, "%"), "least": Measure(100 * least, "%")}
        yield Finding("animal.eaten", Severity.DANGER, "animal", shares, Remedy("animal.sort_by_size"))
