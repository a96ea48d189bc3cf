"""Rules of living together: alone, in pairs, in groups; sexes, young, and who is food for whom."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.codes import FindingCode, RemedyCode
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
    one = Remedy(
        RemedyCode.ANIMAL_KEEP_ALONE,
        {},
        (Change("animal.count", 1), Change("animal.males", None), Change("animal.young", 0)),
    )
    most = 1 if group.kind == "alone" and group.most is None else 2 if group.kind == "pair" and group.most is None else group.most
    if most == 1:
        yield Finding(FindingCode.ANIMAL_COMPANY, Severity.WRONG, "animal", said, one)
    elif group.kind == "alone":
        yield Finding(FindingCode.ANIMAL_BETTER_ALONE, Severity.ADVICE, "animal", said, one)
    if most is not None and 1 < most < group.animals:
        remedy = Remedy(RemedyCode.ANIMAL_KEEP_MOST, {"most": most}, _only(group, most))
        yield Finding(FindingCode.ANIMAL_TOO_MANY, Severity.WRONG, "animal", said | {"most": most}, remedy)
    if group.most_males is not None and most != 1:
        males: dict[str, Parameter] = {"most": group.most_males, "when": group.males_note}
        if group.males is None:
            yield Finding(FindingCode.ANIMAL_SEXES_UNKNOWN, Severity.QUESTION, "animal", males)
        elif group.males > group.most_males:
            yield Finding(
                FindingCode.ANIMAL_MALES,
                Severity.WRONG,
                "animal",
                males | {"males": group.males},
                Remedy(RemedyCode.ANIMAL_MALES_APART),
            )
    if group.young_apart and 0 < group.young < group.animals:
        remedy = Remedy(RemedyCode.ANIMAL_YOUNG_APART, {}, (*_only(group, group.animals - group.young), Change("animal.young", 0)))
        yield Finding(FindingCode.ANIMAL_YOUNG, Severity.WRONG, "animal", {"young": group.young}, remedy)
    least, smallest = group.eats_smaller_share, group.smallest_share
    if least is not None and smallest is not None and smallest < least:
        shares: dict[str, Parameter] = {"share": Measure(100 * smallest, "%"), "least": Measure(100 * least, "%")}
        yield Finding(FindingCode.ANIMAL_EATEN, Severity.DANGER, "animal", shares, Remedy(RemedyCode.ANIMAL_SORT_BY_SIZE))
