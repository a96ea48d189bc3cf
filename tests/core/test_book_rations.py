"""The book's own rations: whole, within their limits, and at odds with no check of the book."""

import math
from itertools import product
from types import SimpleNamespace
from typing import Any, Final

import pytest

from husbandry.animal.body import body_of
from husbandry.animal.subject import Subject
from husbandry.assess import nutrition
from husbandry.assess.nutrition import beyond_the_sum
from husbandry.diet import nutrients
from husbandry.diet.foods import food
from husbandry.diet.rations import Eater, interval_days, rations
from husbandry.feeding import week_food
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.judged import BAD
from husbandry.species.book import find, shipped
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.species.stages import expected_length_m, expected_mass_kg
from tests.plans import TODAY, plan

SIZES = [(species, share) for species in sorted(shipped()) for share in (0.05, 0.35, 0.7, 1.0)]
TOPICS = ("supplements", "meal", "interval", "growth", "ration", "offer", "insects")


def of_size(species: str, share: float, schools: dict[str, str] | None = None) -> tuple[HabitatPlan, Profile]:
    """An animal so far along from hatchling (0) to adult (1)."""
    profile = find(species)
    hatch, adult = profile.body.hatch_length_cm.value, profile.body.adult_length_cm.middle
    length_m = (hatch + (adult - hatch) * share) / 100
    mass_kg = max(round(expected_mass_kg(profile, length_m), 5), 0.0001)
    return plan(species=species, schools=schools or {}, animal={"length_m": length_m, "mass_kg": mass_kg}), profile


@pytest.mark.parametrize(("species", "share"), SIZES)
def test_the_books_own_rations_are_whole(species: str, share: float) -> None:
    """The clinic's rule: calcium at least one and a half times phosphorus, dust and all; no vitamin over its cap."""
    made, profile = of_size(species, share)
    body = body_of(made, profile, TODAY)
    for uvb in (True, False):
        week = week_food.fed(made, profile, body.decision.stage, body, uvb=uvb).week
        assert week is not None
        assert week.d3_iu_per_kg < 1.6 * nutrients.D3_CAP_IU_PER_KG
        assert week.a_iu_per_kg < nutrients.A_CAP_IU_PER_KG
        if beyond_the_sum(profile) is None:
            assert week.ratio is not None
            assert week.ratio >= 1.4 - 0.4 * week.whole_prey_share


def test_every_prey_of_the_book_has_a_limit_of_size() -> None:
    """Mandatory, with its dimension in words: what is too large is brought up again, or chokes."""
    kinds = {"insect", "worm", "rodent", "bird", "fish", "egg"}
    for profile in shipped().values():
        for stage in profile.stages:
            for meal in stage.feeding.meals:
                if any(food(key).kind in kinds for key in meal.foods):
                    assert meal.limit is not None, (profile.id, stage.id, meal.food)
                    assert "no " in meal.prey_limit, (profile.id, stage.id, meal.food)


def test_a_dart_frogs_cricket_is_a_pinhead() -> None:
    """Common practice, no source: nothing longer than three or four millimetres, whatever lies between its eyes."""
    made, profile = of_size("dart-frog", 1.0)
    body = body_of(made, profile, TODAY)
    (part,) = rations(body.decision.stage.feeding, Eater("frog", body.length_m, body.length_m, body.mass_kg))
    assert max(piece.length_m for _key, piece in part.pieces) <= 0.004
    assert max(piece.mass_kg for _key, piece in part.pieces) < 5e-6


def as_the_stage_asks(stage: Stage) -> Any:
    """A climate in the middle of the stage's own bands, by day and by night."""
    heat = stage.heat
    air = {name: choose(band, {}).middle for name, band in (("warm_air", heat.warm_air_c), ("cool_air", heat.cool_air_c))}
    air["basking_surface"] = choose(heat.basking_surface_c, {}).middle if heat.basking_surface_c else air["warm_air"]
    night_c = choose(heat.night_c, {}).middle
    found = {"day": air, "night": dict.fromkeys(air, night_c)}
    if stage.water is not None and stage.water.temperature_c is not None:
        for each in found.values():
            each["water"] = choose(stage.water.temperature_c, {}).middle
    return SimpleNamespace(
        states={
            (season, phase): SimpleNamespace(predictions={name: SimpleNamespace(value=value) for name, value in each.items()})
            for season in ("summer", "winter")
            for phase, each in found.items()
        }
    )


@pytest.mark.sweep
@pytest.mark.parametrize("species", sorted(shipped()))
def test_no_ration_of_the_book_trips_a_check_of_its_own(species: str) -> None:
    """From hatchling to grown, by every school of food, with UVB and without, at the temperatures that its stage asks for.

    Energy after two published equations, food a day, minerals, vitamins, fruit: what the pages would call wrong is not proposed.
    """
    varied = [{topic: school} for topic, schools in find(species).topics().items() if topic in TOPICS for school in schools]
    wrong = []
    for share, schools in product((0.05, 0.35, 0.7, 1.0), ({}, *varied, {"growth": "lean"}, {"prey": "length"}, {"prey": "width"})):
        made, profile = of_size(species, share, schools)
        body = body_of(made, profile, TODAY)
        stage = body.decision.stage
        for uvb in (True, False):
            fed = week_food.fed(made, profile, stage, body, uvb=uvb)
            found = nutrition.quantities(Subject(made, profile, TODAY, body), as_the_stage_asks(stage), fed)
            wrong += [
                (stage.id, share, schools, uvb, item.key, item.value, item.band and (item.band.low, item.band.high))
                for item in found
                if item.verdict in BAD
            ]
    assert wrong == []


# Fresh food in % of body mass a day, of an animal in the middle of the first and of a grown one in the last stage: from how little
# it starves to how much it drowns in food (common practice, no source). Plants are fresh, a quarter of them dry.
INTAKE: Final = {
    "plants": ((4.0, 10.0), (3.0, 10.0)),
    "whole prey": ((0.8, 5.0), (0.2, 1.6)),
    "insects": ((1.5, 11.0), (0.2, 4.0)),
    "omnivore": ((1.5, 14.0), (0.2, 8.0)),
    "water prey": ((1.5, 6.0), (0.4, 3.0)),
    "powder and insects": ((1.5, 8.0), (1.0, 5.0)),
    "eggs": ((1.5, 4.0), (0.5, 2.0)),
}


def eaten_percent(profile: Profile, place: int) -> float:
    """Fresh food a day over the mass of an animal in the middle of a stage, %; without what nobody can weigh."""
    stage, body = profile.stages[place].of_sex("unknown"), profile.body
    bounds = stage.mass_g
    assert bounds is not None
    low = bounds.low or body.hatch_mass_g.value
    mass_kg = (math.sqrt(low * bounds.high) if bounds.high else body.adult_mass_g.middle) / 1000
    length_m = expected_length_m(profile, mass_kg)
    eater = Eater(body.form, length_m, length_m / body.total_to_measure.value, mass_kg)
    days = interval_days(choose(stage.feeding.interval_days, {}), None)
    every = [(item, item.grams(mass_kg)) for item in rations(stage.feeding, eater)]
    return sum(grams * item.times_a_week(days) / 7 for item, grams in every if grams is not None) / mass_kg / 10


@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_no_ration_of_the_book_starves_its_animal_or_drowns_it_in_food(profile: Profile) -> None:
    for place, (low, high) in zip((0, -1), INTAKE[profile.diet], strict=True):
        if profile.id == "red-eared-slider" and place == 0:
            high = 14.0  # water plants to graze on, which are nine tenths water
        assert low <= eaten_percent(profile, place) <= high, profile.stages[place].id


@pytest.mark.parametrize("key", [key for key, profile in shipped().items() if profile.diet == "plants"])
def test_what_grazes_is_given_its_dry_matter_and_no_barn_of_hay(key: str) -> None:
    """Plant eaters take 0.5 to 2 % of their mass a day as dry matter, the young more (common practice, no source)."""
    profile = find(key)
    for place, (low, high) in ((0, (0.5, 2.4)), (-1, (0.5, 1.6))):
        stage = profile.stages[place]
        every = rations(stage.feeding, Eater(profile.body.form, 0.2, 0.2, 1.0))
        dry_g = sum(
            helping.food.dry_share * helping.grams
            for item in every
            for helping in item.helpings(choose(stage.feeding.interval_days, {}).least, 1.0) or ()
        )
        assert low <= dry_g / 7 / 10 <= high, stage.id
