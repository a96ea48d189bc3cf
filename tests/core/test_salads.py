"""Mixing a bowl: shares, limits, and which limit gives way."""

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from husbandry.animal.body import Body, body_of
from husbandry.design.survey import cases
from husbandry.diet import nutrients
from husbandry.diet.foods import PLANTS, food, foods
from husbandry.diet.nutrients import Helping
from husbandry.diet.salads import BOWLS, GIVES_WAY, HAY_MAY_BE, MOST_OF_ONE, RATIO, mix, ratio_of
from husbandry.feeding import bowls, week_food
from husbandry.feeding.servings import servings_of
from husbandry.plan.feeding_settings import FedItem
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.book import find, shipped
from tests.plans import TODAY
from tests.plans import plan as plan_of
from tests.sample import times

PLANT_KEYS = sorted(key for key, item in foods().items() if item.kind in PLANTS)
CHOSEN = st.lists(st.sampled_from(PLANT_KEYS), min_size=1, max_size=9, unique=True)


def shares_of(keys: list[str], bowl: str) -> tuple[dict[str, float], tuple[str, ...], float | None]:
    found = mix(tuple(food(key) for key in keys), BOWLS[bowl])
    return dict(zip(keys, found.shares, strict=True)), found.gave_way, found.ratio


def test_a_grazing_tortoise_gets_seven_parts_of_hay_to_three_of_greens() -> None:
    """Common practice, no source: 70 : 30 grasses and hay to greens and flowers; no fruit."""
    shares, gave_way, ratio = shares_of(["grass-hay", "dandelion", "endive", "hibiscus-flower", "strawberry"], "grazer")
    assert shares["grass-hay"] == pytest.approx(0.7)
    assert shares["strawberry"] == 0.0
    assert gave_way == ()
    assert ratio is not None
    assert ratio >= RATIO


def test_fruit_is_for_forest_animals_and_little() -> None:
    """Common practice, no source: a tenth is wanted where fruit is fed, a fifth the most; none for others."""
    shares, _gave, _ratio = shares_of(["dandelion", "endive", "mulberry-leaf", "papaya", "fig"], "forest")
    assert 0.1 - 1e-9 <= shares["papaya"] + shares["fig"] <= 0.2
    dry, _gave, _ratio = shares_of(["dandelion", "endive", "papaya"], "weeds")
    assert dry["papaya"] == 0.0


def test_spinach_and_lettuce_are_no_source_of_calcium_and_the_page_is_told() -> None:
    """Spinach is two to one on paper; oxalate outranks the ratio (docs/decisions/0028)."""
    shares, gave_way, _ratio = shares_of(["romaine", "spinach", "carrot", "strawberry"], "leaves")
    assert shares["spinach"] <= nutrients.OXALATE_SHARE + 1e-9
    assert "ratio" in gave_way
    with pytest.raises(ValueError, match="nothing"):
        mix((), BOWLS["leaves"])


@settings(max_examples=times(26, 80), deadline=None)
@given(CHOSEN, st.sampled_from(sorted(BOWLS)))
def test_whatever_there_is_the_bowl_is_whole_and_every_broken_limit_is_named(keys: list[str], bowl: str) -> None:
    shares, gave_way, ratio = shares_of(keys, bowl)
    assert sum(shares.values()) == pytest.approx(1.0)
    assert min(shares.values()) >= 0
    assert set(gave_way) <= set(GIVES_WAY)
    week = nutrients.week(Helping(food(key), 100 * share) for key, share in shares.items())
    slack = 1e-6
    if "ratio" not in gave_way:
        assert ratio is not None
        assert ratio >= RATIO - slack
    if "goitrogen" not in gave_way:
        assert week.goitrogen_share <= nutrients.GOITROGEN_SHARE + slack
    if "parts" not in gave_way:
        assert week.oxalate_share <= nutrients.OXALATE_SHARE + slack
        assert week.fruit_share <= BOWLS[bowl].most_fruit + slack
    if "variety" not in gave_way:
        assert all(share <= (HAY_MAY_BE if food(key).kind == "hay" else MOST_OF_ONE) + slack for key, share in shares.items())


@given(CHOSEN, st.data())
def test_the_ratio_of_a_mix_is_that_of_its_week(keys: list[str], data: st.DataObject) -> None:
    """Two roads to one number."""
    grams = [data.draw(st.floats(0.5, 50)) for _key in keys]
    items = tuple(food(key) for key in keys)
    week = nutrients.week(Helping(item, amount) for item, amount in zip(items, grams, strict=True))
    assert ratio_of(items, tuple(amount / sum(grams) for amount in grams)) == pytest.approx(week.ratio)


@given(st.lists(st.floats(1.0, 80.0), min_size=5, max_size=5), st.floats(10.0, 120.0))
def test_a_mix_takes_no_more_than_there_is(there: list[float], whole: float) -> None:
    """From the pantry: each plant up to what lies in the fridge; where the whole bowl is more than that, there is no mix."""
    plants = tuple(food(key) for key in ("dandelion", "endive", "carrot", "plantain-weed", "hibiscus-flower"))
    at_most = tuple(grams / whole for grams in there)
    with pytest.raises(ValueError, match="too little"):
        mix(plants, BOWLS["leaves"], at_most=tuple(0.99 * most / sum(at_most) for most in at_most))
    assume(sum(at_most) >= 1)
    found = mix(plants, BOWLS["leaves"], at_most=at_most)
    assert sum(found.shares) == pytest.approx(1.0)
    assert all(share <= most + 1e-7 for share, most in zip(found.shares, at_most, strict=True))


BOWL = {"dandelion": 3.0, "endive": 1.0}


def eating_of(plan: HabitatPlan) -> tuple[HabitatPlan, week_food.Fed, Body]:
    profile = find(plan.species)
    body = body_of(plan, profile, TODAY)
    return plan, week_food.fed(plan, profile, body.decision.stage, body, uvb=True), body


def test_a_bowl_takes_the_greens_place_and_nothing_else() -> None:
    """A young dragon's insects stay on its menu, as often as the book gives them."""
    plan, fed, body = eating_of(plan_of(species="central-bearded-dragon", animal={"mass_kg": 0.06, "length_m": 0.13}))
    items = bowls.with_bowl(plan, fed, body, BOWL)
    assert [item["food"] for item in items if item.get("grams")] == ["dandelion", "endive"]
    insects = [item for item in items if foods()[item["food"]].kind in ("insect", "worm")]
    assert {item["food"] for item in insects} == {key for part in fed.rations for key in part.meal.foods if key not in PLANT_KEYS}
    taken = plan.model_copy(
        update={"feeding": plan.feeding.model_copy(update={"items": tuple(map(FedItem.model_validate, items))})}
    )
    profile = find(plan.species)
    after = week_food.fed(taken, profile, body.decision.stage, body, uvb=True)
    grams = [sum(helping.grams for helping in week.helpings if helping.food.kind in ("insect", "worm")) for week in (fed, after)]
    assert grams[1] == pytest.approx(grams[0], rel=0.15)


def test_on_every_stage_a_bowl_loses_no_part_of_the_menu() -> None:
    eaters = 0
    for profile in shipped().values():
        for case in cases(profile, TODAY):
            if case.school or case.enclosure != "glass":
                continue
            plan, fed, body = eating_of(case.plan)
            if not any(set(part.meal.foods) & set(PLANT_KEYS) for part in fed.rations):
                continue
            before = {use.food for part in servings_of(plan, fed, body) for use in part.uses} - set(PLANT_KEYS)
            items = bowls.with_bowl(plan, fed, body, BOWL)
            assert before <= {item["food"] for item in items}, (case.species, case.stage)
            usual, kg = bowls.usual_g(plan, profile, fed, body), bowls.eaters_kg(plan, profile, body)
            assert usual is not None
            assert kg is not None
            assert 0.005 < usual / 1000 / kg < 0.15, (case.species, case.stage)
            eaters += 1
    assert eaters > 20


def test_without_a_weight_the_rest_cannot_be_carried_along() -> None:
    plan, fed, body = eating_of(plan_of(species="red-footed-tortoise", animal={"hatched": "2023-05-01"}))
    with pytest.raises(bowls.NotWeighableError):
        bowls.with_bowl(plan, fed, body, BOWL)


def test_a_bowl_far_above_the_usual_is_doubted() -> None:
    """A 48 g tortoise was given 60 g a day."""
    plan, fed, body = eating_of(plan_of(species="hermanns-tortoise", animal={"mass_kg": 0.048}))
    usual = bowls.usual_g(plan, find(plan.species), fed, body)
    assert usual == pytest.approx(3.84)  # 8 % (common practice, no source)
    assert bowls.doubtful(60.0, usual)
    assert not bowls.doubtful(6.0, usual)
