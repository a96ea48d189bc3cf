"""What a furnished enclosure is told by in tables and drawings: each hide's state, each perch, how far a lamp burns."""

from dataclasses import dataclass
from typing import Final

from husbandry.animal.subject import Subject
from husbandry.assess.furnished import place_c, tight_hides
from husbandry.assess.warmth import back_most_c
from husbandry.assessment import Quantity, Verdict
from husbandry.climate import heaters
from husbandry.climate.air import relative_humidity
from husbandry.climate.case import EnclosureCase
from husbandry.climate.contact import burn_reach_m
from husbandry.climate.states import Climate, SteadyState
from husbandry.inputs.perches import perches_of
from husbandry.plan.geometry import under_water
from husbandry.plan.things import Thing

WORST: Final = (Verdict.DANGEROUS, Verdict.OUTSIDE, Verdict.NEAR, Verdict.UNKNOWN, Verdict.INSIDE, Verdict.NOT_APPLICABLE)


@dataclass(frozen=True)
class HideState:
    """A hide by the model's own reading of its place: °C and relative humidity in % by day and by night, None under water.

    `dark` inside; `tight` where the animal does not fit, or not through its opening.
    """

    thing: Thing
    day_c: float
    night_c: float
    humidity: float | None
    night_humidity: float | None
    dark: bool
    tight: bool


@dataclass(frozen=True)
class PerchState:
    """A place the animal gets up to: how high its back is (m), the surface (°C), UV index, lux; None where nothing is said.

    `verdict` is the worst of them.
    """

    thing: Thing
    back_m: float
    surface_c: float | None
    index: float | None
    lux: float | None
    verdict: Verdict


def hide_states(subject: Subject, climate: Climate, season: str) -> tuple[HideState, ...]:
    """Every hide of a plan in one season."""
    plan, day, night = subject.plan, climate.states[season, "day"], climate.states[season, "night"]
    tight = {item.path for item in tight_hides(subject)}
    found = []
    for hide in plan.hides:
        warm_c, cool_c = (float(place_c(plan, steady, hide.x_m)) for steady in (day, night))
        if hide.heated_w is not None and "heated_hide" in day.predictions:
            warm_c, cool_c = (steady.predictions["heated_hide"].value for steady in (day, night))
        sunk = under_water(plan, hide)
        if sunk:
            warm_c, cool_c = (steady.predictions["water"].value for steady in (day, night))
        humid, damp = (None if sunk else _humidity(hide, steady, at_c) for steady, at_c in ((day, warm_c), (night, cool_c)))
        dark = hide.of.dark if hide.dark is None else hide.dark
        found.append(HideState(hide, warm_c, cool_c, humid, damp, dark, plan.path_of(hide) in tight))
    return tuple(found)


def _humidity(hide: Thing, steady: SteadyState, at_c: float) -> float:
    """What the vapour reads in a hide, %; in one that is kept damp what the model says of that."""
    damp = steady.predictions.get("humid_hide") if hide.humid else None
    return min(float(relative_humidity(steady.vapour_pa, at_c)), 100.0) if damp is None else damp.value


def perch_states(subject: Subject, quantities: tuple[Quantity, ...], season: str) -> tuple[PerchState, ...]:
    """Every place the animal gets up to by what was found of it in one season."""
    found = {(item.key, item.season): item for item in quantities if item.phase in ("", "day")}
    states = []
    for number, perch in enumerate(perches_of(subject.plan, subject.profile), 1):
        first = number == 1 and perch.thing.basking
        surface = found.get(("basking_surface" if first else f"place_{number}_surface", season))
        index = found.get(("uv_back" if first else f"place_{number}_uv", ""))
        lux = found.get((f"place_{number}_lux", ""))
        there = [item for item in (surface, index, lux) if item is not None]
        worst = min((item.verdict for item in there), key=WORST.index, default=Verdict.NOT_APPLICABLE)
        back_m = perch.places[0][2] + subject.body.back_m
        states.append(PerchState(perch.thing, back_m, _value(surface), _value(index), _value(lux), worst))
    return tuple(states)


def _value(item: Quantity | None) -> float | None:
    return None if item is None else item.value


def burn_reaches_m(subject: Subject, case: EnclosureCase, climate: Climate) -> dict[int, float]:
    """By a lamp's index how far below its face, with the lamp full on, a dark back gets hotter than it bears (m)."""
    limit_c = back_most_c(subject.stage, subject.plan.schools)
    air_c = max(state.predictions["warm_air"].value for (_season, phase), state in climate.states.items() if phase == "day")
    found = {}
    for index, lamp in enumerate(subject.plan.heaters):
        if heaters.HEATERS[lamp.kind].place == "over":
            found[index] = burn_reach_m(case, index, limit_c, air_c)
    return found
