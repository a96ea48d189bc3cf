"""Rules of the week's food: too much, too little, short of calcium, too rich in vitamins, too one-sided, too large."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Quantity, Remedy, Severity, Verdict
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
        code = "diet.starving" if below(item) else "diet.fattening"
        yield Finding(code, Severity.WRONG, "food", named(item), _back_to_book(facts))


def _back_to_book(facts: Facts) -> Remedy | None:
    changes = []
    if facts.meals.own_items:
        changes.append(Change("feeding.items", []))
    if facts.meals.own_interval:
        changes += BOOKS_DAYS
    return Remedy("diet.books_ration", {}, tuple(changes)) if changes else None


def minerals(facts: Facts) -> Iterator[Finding]:
    """Calcium over phosphorus, with the grams that mend it; vitamins over their caps."""
    for item in facts.of("calcium_ratio"):
        if item.verdict not in OFF:
            continue
        if below(item):
            said: dict[str, Parameter] = dict(named(item))
            if facts.meals.dust_short_g is not None:
                said["dust"] = Measure(facts.meals.dust_short_g / 1000, "kg")
            code = "diet.calcium_short" if "dust" in said else "diet.calcium_short_food"
            severity = Severity.DANGER if item.verdict is Verdict.DANGEROUS else Severity.WRONG
            yield Finding(code, severity, "food", said, _books_powders(facts))
        else:
            yield Finding("diet.calcium_much", Severity.ADVICE, "food", named(item), _books_powders(facts))
    for key, code in (("d3_share", "diet.d3_much"), ("a_share", "diet.a_much")):
        for item in facts.of(key):
            if item.verdict in BAD:
                yield Finding(code, SEVERITY[item.verdict], "food", named(item), _books_powders(facts))


def _books_powders(facts: Facts) -> Remedy | None:
    if not facts.meals.own_powders:
        return None
    return Remedy("diet.books_powders", {}, (Change("feeding.supplements", None),))


PLANT_CODES: Final = {
    "fibre_share": ("diet.fibre_little", True),
    "protein_share": ("diet.protein_much", False),
    "fruit_share": ("diet.fruit_much", False),
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
        yield Finding(f"diet.{flag}", Severity.ADVICE, "food", {"share": Measure(100 * share, "%")})
    if meals.one_prey:
        yield Finding("diet.one_prey", Severity.ADVICE, "food", {"food": meals.one_prey})
    for food in meals.too_heavy:
        yield Finding("diet.prey_heavier", Severity.DANGER, "food", {"food": food})
    for food, by, at_most_m, measured in meals.too_large:
        if food in meals.too_heavy:
            continue
        said: dict[str, Parameter] = {"food": food, "by": by, "most": Measure(at_most_m, "m")}
        yield Finding("diet.prey_large" if measured else "diet.prey_large_estimate", Severity.WRONG, "food", said)


def rest(facts: Facts) -> Iterator[Finding]:
    """Who must not be cooled: the thin, the young, the newly come; and when a rest is broken off."""
    meals = facts.meals
    lost = meals.rest_lost_percent
    if lost is not None and (meals.rest_fast or lost >= NEAR_SHARE * meals.rest_limit_percent):
        said: dict[str, Parameter] = {"lost": Measure(lost, "%"), "limit": f"{meals.rest_limit_percent:g} %"}
        over = lost >= meals.rest_limit_percent
        yield Finding("diet.rest_lost" if over else "diet.rest_losing", Severity.DANGER if over else Severity.ADVICE, "food", said)
    if not meals.rest_planned:
        return
    no_rest = Remedy("diet.no_rest", {}, (Change("year.cooling", None),)) if meals.winter_rest else None
    if meals.condition is not None and meals.condition <= THIN:
        yield Finding("diet.no_rest_when_thin", Severity.DANGER, "food", {}, no_rest)
    elif not meals.grown:
        yield Finding("diet.no_rest_when_young", Severity.WRONG, "food", {}, no_rest)
    elif meals.new_here:
        yield Finding("diet.no_rest_when_new", Severity.WRONG, "food", {}, no_rest)


def body(facts: Facts) -> Iterator[Finding]:
    """Condition: the ends of the scale are a vet's; a step that the keeper's own figures stand in the way of is told."""
    score = facts.meals.condition
    if score is None or THIN < score < FAT:
        return
    thin = score <= THIN
    if score in (1, 5):
        yield Finding("diet.wasted" if thin else "diet.obese", Severity.WRONG, "food")
        return
    if not facts.meals.condition_moved:
        yield Finding("diet.thin" if thin else "diet.fat", Severity.ADVICE, "food", {}, _back_to_book(facts))
