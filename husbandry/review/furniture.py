"""Rules of the furniture: hides by the warmth of their place and by their size, floor to walk on, what softens, what sinks."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts
from husbandry.review.judged import BAD, by_season, named


def hides_by_place(facts: Facts) -> Iterator[Finding]:
    """A warm and a cool hide where the species wants them and the enclosure has such a place: three at one spot are one."""
    places = {place.season: place for place in facts.furnishings.places}
    off = [item for item in facts.of("warm_hide") if item.verdict in BAD]
    for worst in by_season(off):
        place, low = places[worst.season], worst.band.low if worst.band else None
        if low is not None and place.warmest_c >= low:
            told = named(worst) | {"place": Measure(place.warmest_x_m, "m"), "there": Measure(place.warmest_c, "degC")}
            yield Finding(FindingCode.SPACE_NO_WARM_HIDE, Severity.WRONG, "furniture", told, None, worst.season, worst.id)
    off = [item for item in facts.of("cool_hide") if item.verdict in BAD]
    for worst in by_season(off):
        place, high = places[worst.season], worst.band.high if worst.band else None
        if high is not None and place.coolest_c <= high:
            told = named(worst) | {"place": Measure(place.coolest_x_m, "m"), "there": Measure(place.coolest_c, "degC")}
            yield Finding(FindingCode.SPACE_NO_COOL_HIDE, Severity.WRONG, "furniture", told, None, worst.season, worst.id)


def hides_that_fit(facts: Facts) -> Iterator[Finding]:
    """A hide the animal fits into, and through whose opening it gets."""
    for hide in facts.furnishings.tight:
        wanted = round(hide.least_m + 0.0049, 2)
        told: dict[str, Parameter] = {"value": Measure(hide.has_m, "m"), "low": Measure(wanted, "m")}
        name, code = ("entrance_m", FindingCode.SPACE_OPENING_TIGHT) if hide.opening else ("length_m", FindingCode.SPACE_HIDE_TIGHT)
        ways = RemedyCode.SPACE_WIDER_OPENING if hide.opening else RemedyCode.SPACE_LARGER_HIDE
        remedy = Remedy(ways, told, (Change(f"{hide.path}.{name}", wanted),))
        yield Finding(code, Severity.ADVICE, "furniture", told, remedy, hide.path)


def floor_to_walk_on(facts: Facts) -> Iterator[Finding]:
    """Floor left for what lives on it."""
    for item in facts.of("free_floor"):
        if item.verdict in (Verdict.NEAR, Verdict.OUTSIDE):
            yield Finding(FindingCode.SPACE_LITTLE_FLOOR, Severity.ADVICE, "furniture", named(item), about=item.id)


def near_heat(facts: Facts) -> Iterator[Finding]:
    """What softens, smells or scorches under a lamp."""
    for thing in facts.furnishings.hot:
        told: dict[str, Parameter] = {
            "part": thing.kind,
            "stuff": thing.stuff,
            "value": Measure(thing.gets_c, "degC"),
            "high": Measure(thing.bears_c, "degC"),
        }
        yield Finding(FindingCode.SPACE_SOFTENS, Severity.DANGER, "furniture", told, None, thing.path)


def on_footings(facts: Facts) -> Iterator[Finding]:
    """What is heavy stands on footings or on the enclosure's own floor, never on ground that is dug."""
    for path, kind, kg in facts.furnishings.heavy:
        told: dict[str, Parameter] = {"part": kind, "value": Measure(kg, "kg")}
        remedy = Remedy(RemedyCode.SPACE_FOOTING, {"part": kind}, (Change(f"{path}.footing", True),))
        yield Finding(FindingCode.SPACE_ON_LOOSE_GROUND, Severity.ADVICE, "furniture", told, remedy, path)


def perches(facts: Facts) -> Iterator[Finding]:
    """Perches that feet can hold on to."""
    for grip in facts.furnishings.grips:
        told: dict[str, Parameter] = {
            "part": grip.kind,
            "value": Measure(grip.thick_m, "m"),
            "low": Measure(grip.least_m, "m"),
            "high": Measure(grip.most_m, "m"),
        }
        wanted = round((grip.least_m + grip.most_m) / 2, 3)
        changes = Change(f"{grip.path}.height_m", wanted), Change(f"{grip.path}.width_m", wanted)
        remedy = Remedy(RemedyCode.SPACE_PERCH_THICK, {"wanted": Measure(wanted, "m")}, changes)
        yield Finding(FindingCode.SPACE_PERCH, Severity.ADVICE, "furniture", told, remedy, grip.path)


def falls(facts: Facts) -> Iterator[Finding]:
    """A way down from every place that an animal gets up to and does not climb from."""
    for drop in facts.furnishings.drops:
        told: dict[str, Parameter] = {
            "part": drop.kind,
            "value": Measure(drop.falls_m, "m"),
            "high": Measure(drop.bears_m, "m"),
        }
        yield Finding(
            FindingCode.SPACE_FALL,
            Severity.ADVICE,
            "furniture",
            told,
            Remedy(RemedyCode.SPACE_STEPS, {"part": drop.kind}),
            drop.path,
        )
