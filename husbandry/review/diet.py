"""Rules of the week's food: too much, too little, short of calcium, too rich in vitamins, too one-sided, too large."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Quantity, Remedy, Severity, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts
from husbandry.review.judged import BAD, OFF, SEVERITY, below, named

THIN, FAT = 2, 4
BOOKS_DAYS: Final = (Change("feeding.interval_days", None), Change("feeding.weekdays", []))
NEAR_SHARE: Final = 0.6  # of the loss at which a rest is broken off, from which on it is watched more closely


def enough(facts: Facts) -> Iterator[Finding]:
    """Energy against what the animal burns; the change that mends it is the book's own ration."""
    for item in facts.of("energy_week"):
        if item.verdict not in BAD:
            continue
        code = FindingCode.DIET_STARVING if below(item) else FindingCode.DIET_FATTENING
        yield Finding(code, Severity.WRONG, "food", named(item), _back_to_book(facts))


def amount(facts: Facts) -> Iterator[Finding]:
    """Food a day over the body mass, where no energy tells it."""
    if any(item.verdict is not Verdict.UNKNOWN for item in facts.of("energy_week")):
        return
    for item in facts.of("intake_day"):
        if item.verdict not in BAD:
            continue
        code = FindingCode.DIET_EATS_LITTLE if below(item) else FindingCode.DIET_EATS_MUCH
        yield Finding(code, Severity.WRONG, "food", named(item), _back_to_book(facts))


def _back_to_book(facts: Facts) -> Remedy | None:
    changes = []
    if facts.meals.own_items:
        changes.append(Change("feeding.items", []))
    if facts.meals.own_interval:
        changes += BOOKS_DAYS
    return Remedy(RemedyCode.DIET_BOOKS_RATION, {}, tuple(changes)) if changes else None


def minerals(facts: Facts) -> Iterator[Finding]:
    """Calcium over phosphorus, with the grams that mend it; vitamins over their caps."""
    for item in facts.of("calcium_ratio"):
        if item.verdict not in OFF:
            continue
        if below(item):
            said: dict[str, Parameter] = dict(named(item))
            if facts.meals.dust_short_g is not None:
                said["dust"] = Measure(facts.meals.dust_short_g / 1000, "kg")
            code = FindingCode.DIET_CALCIUM_SHORT if "dust" in said else FindingCode.DIET_CALCIUM_SHORT_FOOD
            severity = Severity.DANGER if item.verdict is Verdict.DANGEROUS else Severity.WRONG
            yield Finding(code, severity, "food", said, _books_powders(facts))
        else:
            yield Finding(FindingCode.DIET_CALCIUM_MUCH, Severity.ADVICE, "food", named(item), _books_powders(facts))
    for item in facts.of("usable_a"):
        if item.verdict in BAD:
            yield Finding(FindingCode.DIET_A_LITTLE, Severity.WRONG, "food", named(item), _books_powders(facts))
    for key, code in (("d3_share", FindingCode.DIET_D3_MUCH), ("a_share", FindingCode.DIET_A_MUCH)):
        for item in facts.of(key):
            if item.verdict in BAD:
                yield Finding(code, SEVERITY[item.verdict], "food", named(item), _books_powders(facts))


def _books_powders(facts: Facts) -> Remedy | None:
    if not facts.meals.own_powders:
        return None
    return Remedy(RemedyCode.DIET_BOOKS_POWDERS, {}, (Change("feeding.supplements", None),))


PLANT_CODES: Final = {
    "fibre_share": (FindingCode.DIET_FIBRE_LITTLE, True),
    "protein_share": (FindingCode.DIET_PROTEIN_MUCH, False),
    "fruit_share": (FindingCode.DIET_FRUIT_MUCH, False),
}


def plants(facts: Facts) -> Iterator[Finding]:
    for key, (code, when_below) in PLANT_CODES.items():
        for item in facts.of(key):
            if item.verdict in BAD and below(item) == when_below:
                yield Finding(code, Severity.WRONG if _far(item) else Severity.ADVICE, "food", named(item))


def _far(item: Quantity) -> bool:
    return item.verdict is Verdict.DANGEROUS or item.verdict is Verdict.OUTSIDE


def made_of(facts: Facts) -> Iterator[Finding]:
    """What the week is made of."""
    meals = facts.meals
    for flag, share in meals.flags.items():
        amounts: dict[str, Parameter] = {"share": Measure(100 * share, "%")}
        if flag == "goitrogen":
            amounts |= {
                "iodine": Measure(meals.iodine_mg_per_kg, "mg/kg"),
                "wanted": Measure(meals.iodine_wanted_mg_per_kg, "mg/kg"),
            }
        yield Finding(FindingCode(f"diet.{flag}"), Severity.ADVICE, "food", amounts)
    if meals.thiaminase_share > 0:
        fish: dict[str, Parameter] = {
            "share": Measure(100 * meals.thiaminase_share, "%"),
            "thiamin": Measure(meals.thiamin_wanted_mg, "mg"),
        }
        severity = Severity.WRONG if meals.thiaminase_much else Severity.ADVICE
        yield Finding(FindingCode.DIET_THIAMINASE, severity, "food", fish)
    if meals.one_prey:
        yield Finding(FindingCode.DIET_ONE_PREY, Severity.ADVICE, "food", {"food": meals.one_prey})
    for food in meals.too_heavy:
        yield Finding(FindingCode.DIET_PREY_HEAVIER, Severity.DANGER, "food", {"food": food})
    for food, by, at_most_m, measured in meals.too_large:
        if food in meals.too_heavy:
            continue
        said: dict[str, Parameter] = {"food": food, "by": by, "most": Measure(at_most_m, "m")}
        yield Finding(
            FindingCode.DIET_PREY_LARGE if measured else FindingCode.DIET_PREY_LARGE_ESTIMATE, Severity.WRONG, "food", said
        )


def rest(facts: Facts) -> Iterator[Finding]:
    """Who must not be cooled: whole species, the thin, the young, the newly come; and when a rest is broken off."""
    meals = facts.meals
    lost = meals.rest_lost_percent
    if lost is not None and (meals.rest_fast or lost >= NEAR_SHARE * meals.rest_limit_percent):
        said: dict[str, Parameter] = {"lost": Measure(lost, "%"), "limit": meals.rest_limit_percent}
        over = lost >= meals.rest_limit_percent
        yield Finding(
            FindingCode.DIET_REST_LOST if over else FindingCode.DIET_REST_LOSING,
            Severity.DANGER if over else Severity.ADVICE,
            "food",
            said,
        )
    if not meals.rest_planned:
        return
    no_rest = Remedy(RemedyCode.DIET_NO_REST, {}, (Change("year.cooling", None),)) if meals.winter_rest else None
    if meals.winter_rest and meals.rest_forbidden:
        yield Finding(FindingCode.DIET_NO_REST_EVER, Severity.DANGER, "food", {"why": meals.rest_forbidden}, no_rest)
        return
    if meals.winter_rest and not meals.rest_in_book:
        yield Finding(FindingCode.DIET_NO_REST_KNOWN, Severity.WRONG, "food", {}, no_rest)
    if meals.condition is not None and meals.condition <= THIN:
        yield Finding(FindingCode.DIET_NO_REST_WHEN_THIN, Severity.DANGER, "food", {}, no_rest)
    elif not meals.grown:
        yield Finding(FindingCode.DIET_NO_REST_WHEN_YOUNG, Severity.WRONG, "food", {}, no_rest)
    elif meals.new_here:
        yield Finding(FindingCode.DIET_NO_REST_WHEN_NEW, Severity.WRONG, "food", {}, no_rest)


def body(facts: Facts) -> Iterator[Finding]:
    """Condition: the ends of the scale are a vet's; a step that the keeper's own figures stand in the way of is told."""
    score = facts.meals.condition
    if score is None or THIN < score < FAT:
        return
    thin = score <= THIN
    if score in (1, 5):
        yield Finding(FindingCode.DIET_WASTED if thin else FindingCode.DIET_OBESE, Severity.WRONG, "food")
        return
    if not facts.meals.condition_moved:
        yield Finding(FindingCode.DIET_THIN if thin else FindingCode.DIET_FAT, Severity.ADVICE, "food", {}, _back_to_book(facts))
