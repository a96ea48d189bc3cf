"""Rules of the furniture: hides by the warmth of their place and by their size, floor to walk on, what softens, what sinks."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts
from husbandry.review.judged import BAD, SEVERITY, by_season, miss, named


def hides_by_place(facts: Facts) -> Iterator[Finding]:
    """A warm and a cool hide where the species wants them and the enclosure has such a place: three at one spot are one.

    By night one that is not too cold and one that is not too warm; where the day says it already, the day's is told.
    """
    by_day: set[tuple[str, str]] = set()
    for phase in ("day", "night"):
        for finding in _hides_of(facts, phase):
            said = finding.code, finding.subject
            if phase == "day" or said not in by_day:
                yield finding
            by_day.add(said)


def _hides_of(facts: Facts, phase: str) -> Iterator[Finding]:
    places = {place.season: place for place in facts.furnishings.places if place.phase == phase}
    off = [item for item in facts.of("warm_hide", phase) if item.verdict in BAD]
    for worst in by_season(off):
        place, low = places[worst.season], worst.band.low if worst.band else None
        if low is not None and place.warmest_c >= low:
            told = named(worst) | {"place": Measure(place.warmest_x_m, "m"), "there": Measure(place.warmest_c, "degC")}
            yield Finding(FindingCode.SPACE_NO_WARM_HIDE, Severity.WRONG, "furniture", told, None, worst.season, worst.id)
    off = [item for item in facts.of("cool_hide", phase) if item.verdict in BAD]
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


def other_places(facts: Facts) -> Iterator[Finding]:
    """Places an animal gets up to that burn it, by warmth or by UV, the worst of both seasons."""
    for number, path in enumerate(facts.furnishings.perches, 1):
        for key, code in (("surface", FindingCode.SPACE_PLACE_HOT), ("uv", FindingCode.SPACE_PLACE_STRONG)):
            off = [item for item in facts.of(f"place_{number}_{key}") if item.verdict in BAD]
            worst = max(off, key=miss, default=None)
            if worst is not None:
                told = named(worst) | {name: worst.reason.parameters[name] for name in ("part", "where")}
                yield Finding(code, SEVERITY[worst.verdict], "furniture", told, None, path, worst.id)


def within_reach(facts: Facts) -> Iterator[Finding]:
    """Perches that a climber gets to, and steps that a tortoise does not topple from."""
    for perch in facts.furnishings.far:
        told: dict[str, Parameter] = {
            "part": perch.kind,
            "where": Measure(perch.x_m, "m"),
            "value": Measure(perch.away_m, "m"),
        }
        yield Finding(FindingCode.SPACE_OUT_OF_REACH, Severity.ADVICE, "furniture", told, None, perch.path)
    for edge in facts.furnishings.edges:
        said: dict[str, Parameter] = {
            "part": edge.kind,
            "value": Measure(edge.high_m, "m"),
            "high": Measure(edge.most_m, "m"),
        }
        remedy = None
        if edge.lower_m is not None:
            change = Change(f"{edge.path}.height_m", edge.lower_m)
            remedy = Remedy(RemedyCode.SPACE_LOWER_STEP, {"part": edge.kind, "most": Measure(edge.most_m, "m")}, (change,))
        severity = Severity.WRONG if edge.warmed else Severity.ADVICE
        yield Finding(FindingCode.SPACE_TOPPLES, severity, "furniture", said, remedy, edge.path)


def gaps(facts: Facts) -> Iterator[Finding]:
    """Openings it gets out by, and gaps it sticks or vanishes in."""
    codes = {
        "escapes": (FindingCode.SPACE_GAP_OUT, Severity.DANGER),
        "sticks": (FindingCode.SPACE_GAP_STICKS, Severity.DANGER),
        "hides": (FindingCode.SPACE_GAP_HIDES, Severity.WRONG),
    }
    for gap in facts.furnishings.gaps:
        told: dict[str, Parameter] = {"gap_at": gap.at, "value": Measure(gap.wide_m, "m"), "body": Measure(gap.body_m, "m")}
        code, severity = codes[gap.does]
        remedy = Remedy(RemedyCode.SPACE_CLOSE_GAP, {"gap_at": gap.at}, (Change(gap.path, None),))
        yield Finding(code, severity, "enclosure", told, remedy, gap.path)


def door(facts: Facts) -> Iterator[Finding]:
    """A door that opens: the ground behind its lip, and nothing fixed to it."""
    here = facts.furnishings.door
    if here.sill_m is not None and here.ground_m > here.sill_m:
        told: dict[str, Parameter] = {"value": Measure(here.ground_m, "m"), "high": Measure(here.sill_m, "m")}
        if here.slope_m is not None:
            change = Change("ground.rise_back_m", here.slope_m)
            remedy = Remedy(RemedyCode.SPACE_BANK_UP, {"rise": Measure(here.slope_m, "m")}, (change,))
        else:
            remedy = Remedy(RemedyCode.SPACE_LESS_GROUND)
        yield Finding(FindingCode.SPACE_GROUND_OVER_SILL, Severity.ADVICE, "enclosure", told, remedy)
    for path, kind, changes in here.in_way:
        away = Remedy(RemedyCode.SPACE_FROM_DOOR, {"part": kind}, changes) if changes else None
        yield Finding(FindingCode.SPACE_IN_DOORWAY, Severity.ADVICE, "furniture", {"part": kind}, away, path)


def view_and_cover(facts: Facts) -> Iterator[Finding]:
    """Hides that are dark inside, and walls that cover its back."""
    for path, kind in facts.furnishings.lit_hides:
        remedy = Remedy(RemedyCode.SPACE_DARKEN, {}, (Change(f"{path}.dark", True),))
        yield Finding(FindingCode.SPACE_LIT_HIDE, Severity.ADVICE, "furniture", {"part": kind}, remedy, path)
    for path, kind in facts.furnishings.hidden:
        yield Finding(FindingCode.SPACE_NO_VIEW, Severity.ADVICE, "furniture", {"part": kind}, None, path)
    if facts.furnishings.open_sides:
        walls = [wall for wall in ("back", "left", "right") if wall in facts.furnishings.open_sides]
        changes = tuple(Change(f"enclosure.covered.{wall}", True) for wall in walls)
        remedy = Remedy(RemedyCode.SPACE_COVER_SIDES, {}, changes)
        told: dict[str, Parameter] = {"count": len(facts.furnishings.open_sides)}
        yield Finding(FindingCode.SPACE_SEEN_ALL_ROUND, Severity.ADVICE, "enclosure", told, remedy)


def under_the_ground(facts: Facts) -> Iterator[Finding]:
    """What is to be lain on and has vanished under the ground."""
    for thing in facts.furnishings.buried:
        told: dict[str, Parameter] = {
            "part": thing.kind,
            "tall": Measure(thing.tall_m, "m"),
            "ground": Measure(thing.ground_m, "m"),
        }
        change = Change(f"{thing.path}.height_m", thing.wanted_m)
        remedy = Remedy(RemedyCode.SPACE_OUT_OF_GROUND, {"wanted": Measure(thing.wanted_m, "m")}, (change,))
        yield Finding(FindingCode.SPACE_BURIED, Severity.ADVICE, "furniture", told, remedy, thing.path)


def droplets(facts: Facts) -> Iterator[Finding]:
    """Drops on leaves for what drinks them: it goes thirsty without them where it knows no bowl."""
    here = facts.furnishings
    if here.drops_wanted:
        severity = Severity.ADVICE if here.finds_bowl else Severity.WRONG
        yield Finding(FindingCode.MOISTURE_NO_DROPS, severity, "moisture", {})


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
