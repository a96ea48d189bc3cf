"""What mends a place an animal gets up to: lower or aside where it burns, a branch to it, drops to drink."""

from collections.abc import Callable
from typing import Final

from husbandry.assessment import SEASONS, Change, Finding, Measure, Parameter, Remedy
from husbandry.climate.other_places import surfaces_c
from husbandry.codes import FindingCode, RemedyCode
from husbandry.inputs.perches import branch_up, indices_on, places_on, spot_at
from husbandry.plan.changes import added, raised
from husbandry.plan.equipment import hours_of
from husbandry.plan.geometry import foot_m, half_sides_m, surface_m, y_of
from husbandry.plan.things import Thing
from husbandry.remedies.situation import Situation

HALVINGS: Final = 12
WITHIN: Final = 0.98  # of the most, or a little below it
COOLER_K: Final = 0.5
LEAST_HEIGHT_M: Final = 0.01
ASIDES: Final = 12
BRANCH_M, LEAST_RUN_M = 0.03, 0.1
STEEP_DEG: Final = 75.0
MIST_G_M2: Final = 40.0  # of floor and a time (common practice, no source)
LEAST_MIST_G: Final = 5.0


def too_strong(at: Situation, finding: Finding) -> Remedy | None:
    """Lower, as far as it takes; where that is not enough, along the enclosure away from the lamps."""
    if at.quick:
        return None
    thing = at.plan.thing_at(finding.subject)
    most = finding.parameters["high"]
    assert isinstance(most, Measure)
    harm = _warmth(at) if finding.code == FindingCode.SPACE_PLACE_HOT else _ultraviolet(at)
    limit = most.value - COOLER_K if finding.code == FindingCode.SPACE_PLACE_HOT else WITHIN * most.value
    told: dict[str, Parameter] = {"part": finding.parameters["part"]}
    lower_m = _lower(at, thing, harm, limit)
    if lower_m is not None:
        return Remedy(RemedyCode.SPACE_LOWER_PERCH, told | {"lower": Measure(lower_m, "m")}, (_lowered(at, thing, lower_m),))
    x_m = _aside(at, thing, harm, limit)
    if x_m is None:
        return None
    return Remedy(RemedyCode.SPACE_ASIDE, told | {"place": Measure(x_m, "m")}, (Change(f"{finding.subject}.x_m", x_m),))


def _warmth(at: Situation) -> Callable[[Thing], float]:
    def hottest_c(moved: Thing) -> float:
        spots = [spot_at(at.plan, moved, place) for place in places_on(at.plan, moved)]
        return float(surfaces_c(at.case, spots, [at.climate.states[season, "day"] for season in SEASONS]).max())

    return hottest_c


def _ultraviolet(at: Situation) -> Callable[[Thing], float]:
    return lambda moved: max(indices_on(at.plan, at.body, at.today, places_on(at.plan, moved)))


def _lowered(at: Situation, thing: Thing, lower_m: float) -> Change:
    return raised(at.plan, thing, thing.top_m - lower_m)


def _lower(at: Situation, thing: Thing, harm: Callable[[Thing], float], limit: float) -> float | None:
    """By how much it has to come down, m; None where that is more than it can."""
    lowest_m = thing.up_m if thing.lets_under else thing.height_m - LEAST_HEIGHT_M
    if thing.lets_under and thing.stands != "ground":
        lowest_m -= surface_m(at.plan, thing.x_m, y_of(at.plan, thing))

    def down(by_m: float) -> Thing:
        name = "up_m" if thing.lets_under else "height_m"
        return thing.model_copy(update={name: getattr(thing, name) - by_m})

    if lowest_m <= 0 or thing.good_for("hide") or harm(down(lowest_m)) > limit:
        return None
    low, high = 0.0, lowest_m
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if harm(down(middle)) <= limit else (middle, high)
    return round(high + 0.0005, 3)


def _aside(at: Situation, thing: Thing, harm: Callable[[Thing], float], limit: float) -> float | None:
    """The nearest place along the length at which it does no harm, m."""
    half_m, length_m = half_sides_m(at.plan, thing)[0], at.plan.enclosure.length_m
    places = [half_m + step / ASIDES * (length_m - 2 * half_m) for step in range(ASIDES + 1)] if 2 * half_m < length_m else []
    for x_m in sorted(places, key=lambda place: abs(place - thing.x_m)):
        if harm(thing.model_copy(update={"x_m": x_m})) <= limit:
            return round(x_m, 3)
    return None


def branch_to(at: Situation, finding: Finding) -> Remedy | None:
    """A branch from the ground up to it, from the side where there is more room."""
    thing = at.plan.thing_at(finding.subject)
    rise_m = foot_m(at.plan, thing) - surface_m(at.plan, thing.x_m, y_of(at.plan, thing))
    made = None if at.quick else branch_up(at.plan, thing, BRANCH_M, max(rise_m, LEAST_RUN_M))
    if made is None or abs(made["slope_deg"]) > STEEP_DEG:
        return None
    return Remedy(RemedyCode.SPACE_BRANCH_TO, {"part": finding.parameters["part"]}, (added(at.plan, made),))


def mist_twice(at: Situation, _finding: Finding) -> Remedy | None:
    """A little in the morning and in the evening, where the leaves then dry by night or by noon."""
    box, light = at.plan.enclosure, at.plan.daylight
    grams = max(round(MIST_G_M2 * box.length_m * box.width_m), LEAST_MIST_G)
    begin = hours_of(light.on)
    hours = ((begin + 0.5) % 24, (begin + light.hours_a_day - 1.0) % 24)
    times = [{"at": f"{int(hour):02d}:{round(hour % 1 * 60) % 60:02d}", "grams": grams} for hour in sorted(hours)]
    return Remedy(RemedyCode.MOISTURE_MIST_TWICE, {"grams": float(grams)}, (Change("misting.times", times),))
