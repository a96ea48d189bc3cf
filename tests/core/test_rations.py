"""Rations: prey size in a named dimension, the snake's meal, body condition, and what a week of food holds and costs."""

import math
from datetime import date
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.animal.body import body_of
from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Severity, Verdict
from husbandry.diet import condition, energy, nutrients
from husbandry.diet.foods import CARBONATE_CALCIUM, carbonate_mg_per_g, food, foods
from husbandry.diet.gape import largest_piece, size_limit, too_large
from husbandry.diet.nutrients import Dose, Helping
from husbandry.diet.powders import POWDERS
from husbandry.diet.prey import classes, find_class, meal_by_girth, meal_by_share, prey_thickness_m, snake_thickness_m
from husbandry.diet.rations import Eater, rations
from husbandry.feeding import week_food
from husbandry.plan.feeding_settings import FedItem
from husbandry.species.book import find, shipped
from husbandry.species.stages import expected_mass_kg
from tests.plans import TODAY, assessed, plan

GROWN = {"length_m": 0.12, "mass_kg": 0.06}


FINKE = {"cricket": (1402, 407, 2950), "mealworm": (2056, 169, 2850), "superworm": (2423, 177, 2370), "waxworm": (2747, 243, 1950)}


@pytest.mark.parametrize("key", FINKE)
def test_feeders_hold_what_finke_found(key: str) -> None:
    """Finke 2002: kcal, mg calcium, mg phosphorus a kg as fed (recalled); Atwater's four kcal a gram of protein, nine of fat."""
    item = food(key)
    assert (item.kcal, item.calcium_mg, item.phosphorus_mg) == FINKE[key]
    assert item.protein_g is not None
    assert item.fat_g is not None
    assert item.kcal == pytest.approx(4 * item.protein_g + 9 * item.fat_g, rel=0.06)


@pytest.mark.parametrize("key", ["mouse", "pinky-mouse", "rat", "rabbit", "chick", "fish", "quail-egg"])
def test_whole_prey_counts_with_what_can_be_burnt_of_it(key: str) -> None:
    """Atwater's factors, 4 kcal a gram of protein and 9 of fat (1900; from memory), not what a calorimeter finds: a mouse 1,425."""
    item = food(key)
    assert item.protein_g is not None
    assert item.fat_g is not None
    assert item.kcal == pytest.approx(4 * item.protein_g + 9 * item.fat_g, rel=0.05)


def test_a_cricket_is_one_to_seven_and_needs_fourteen_milligrams_of_chalk_a_gram() -> None:
    """From memory: 0.14 : 1, and 13.7 mg a gram for 2 : 1; CaCO3 is 40.04 % calcium by its atomic weights."""
    cricket, larva = food("cricket"), food("soldier-fly-larva")
    assert cricket.ratio == pytest.approx(0.14, abs=0.005)
    assert carbonate_mg_per_g(407, 2950) == pytest.approx(13.7, abs=0.05)
    assert carbonate_mg_per_g(larva.calcium_mg or 0, larva.phosphorus_mg or 0) == 0.0
    assert pytest.approx(CARBONATE_CALCIUM, abs=0.0001) == 40.078 / (40.078 + 12.011 + 3 * 15.999)


def test_the_table_of_foods_is_whole() -> None:
    """What the book's meals are made of is in the table; dry matter holds protein, fat and fibre."""
    table = foods()
    for item in table.values():
        solid = (item.protein_g or 0) + (item.fat_g or 0) + (item.fibre_g or 0)
        assert solid <= 1030 * item.dry_share, item.name  # the nitrogen of chitin counts as protein and as fibre
    for profile in shipped().values():
        for stage in profile.stages:
            for meal in stage.feeding.meals:
                assert meal.foods, (profile.id, meal.food)
                assert set(meal.foods) <= set(table), (profile.id, meal.food)
                assert bool(meal.prey_limit) == bool(meal.limit), (profile.id, meal.food)
    assert (table["spinach"].ratio or 0) > 1.5  # and yet it is no source: its oxalate holds the calcium
    assert "oxalate" in table["spinach"].traits


def test_standard_and_free_living_metabolism_of_a_hundred_grams() -> None:
    """Andrews & Pough 1985 and Nagy et al. 1999 worked through: 3.4 kJ a day at 30 °C, 11.8 kJ a day in the field (recalled)."""
    assert energy.standard_kj_per_day(0.1, 30.0) == pytest.approx(3.4, abs=0.05)
    assert energy.free_living_kj_per_day(0.1) == pytest.approx(11.8, abs=0.1)
    # Twenty degrees warmer is 10^0.76 times as much; awake at rest 10^0.14.
    ratio = energy.standard_kj_per_day(0.1, 35.0) / energy.standard_kj_per_day(0.1, 15.0)
    assert ratio == pytest.approx(10**0.76)


def test_a_large_constrictor_fed_weekly_is_seven_times_over_and_at_four_weeks_two() -> None:
    """Common practice, no source: 15.9 kg eats 1.6–2.4 kg; weekly that is seven times standard metabolism, monthly not two."""
    need = energy.need("snake", 15.9, (28.0,))
    meal_kj = 2000 * food("rabbit").kj_per_g
    assert meal_kj / need.standard_kj == pytest.approx(7.2, abs=0.5)
    assert meal_kj / 4 / need.standard_kj == pytest.approx(1.8, abs=0.2)
    assert need.judge(meal_kj) is energy.Intake.FATTENING
    assert need.judge(meal_kj / 4) is energy.Intake.LEAN
    assert need.judge(meal_kj / 20) is energy.Intake.STARVING


def test_no_equation_serves_tortoises_and_amphibians() -> None:
    assert not energy.can_answer("tortoise")
    found = assessed(species="russian-tortoise", animal={"mass_kg": 0.3, "length_m": 0.11}).quantity("energy_week")
    assert (found.value, found.verdict.value) == (None, "unknown")


def test_a_prey_limit_names_its_dimension_and_a_ruler_beats_an_estimate() -> None:
    """Common practice, no source: no longer than the head is another rule than no wider than the gap between the eyes."""
    wide = size_limit("gap-of-eyes", "gecko", 0.12, 0.06, 0.2)
    long = size_limit("head-length", "gecko", 0.12, 0.06, 0.2)
    assert (wide.dimension, long.dimension) == ("width", "length")
    assert not wide.measured
    ruled = size_limit("gap-of-eyes", "gecko", 0.12, 0.06, 0.2, measured_m=0.009)
    assert (ruled.at_most_m, ruled.measured) == (0.009, True)
    cricket = food("cricket")
    small = largest_piece(cricket, size_limit("gap-of-eyes", "gecko", 0.045, 0.003, 0.08))
    assert small is not None
    assert small.mass_kg < 0.0005
    assert small.width_m == pytest.approx(0.045 * 0.11)
    assert too_large(cricket, 0.0005, size_limit("gap-of-eyes", "gecko", 0.045, 0.003, 0.08))
    assert not too_large(cricket, 0.0005, wide)


def test_an_egg_too_wide_for_its_eater_is_no_smaller_egg() -> None:
    """A cricket is chosen smaller for a smaller mouth; eggs are laid in one size."""
    tight = size_limit("egg-2", "snake", 0.1, None, 0.1)
    egg, insect = largest_piece(food("quail-egg"), tight), largest_piece(food("cricket"), tight)
    assert egg is not None
    assert insect is not None
    assert egg.width_m > tight.at_most_m
    assert egg.mass_kg == pytest.approx((food("quail-egg").mass_g or 0.0) / 1000)
    assert insect.width_m <= tight.at_most_m + 1e-9


def test_an_egg_may_be_three_heads_thick() -> None:
    """Common practice, no source: by egg size and animal size; a grown female takes quail eggs, a small male does not."""
    female = size_limit("egg-3", "snake", 0.95, 0.25, 0.95)
    male = size_limit("egg-3", "snake", 0.35, 0.03, 0.35)
    egg = food("quail-egg")
    assert not too_large(egg, 0.009, female)
    assert too_large(egg, 0.009, male)
    assert not too_large(food("finch-egg"), 0.001, male)


def test_a_snakes_meal_by_share_names_the_class_and_what_the_freezer_has() -> None:
    """10–15 % of 120 g is 12–18 g, a weaner mouse (common practice, no source); without one, two smaller ones."""
    best = meal_by_share(("mouse",), 0.012, 0.018)[0]
    assert (best.prey.key, best.count) == ("mouse/weaner", 1)
    stocked = meal_by_share(("mouse",), 0.012, 0.018, in_stock={"mouse/hopper": 1, "mouse/fuzzy": 5})
    assert [(item.prey.key, item.count) for item in stocked][:1] == [("mouse/fuzzy", 3)]
    assert meal_by_share(("mouse",), 0.012, 0.018, in_stock={}) == ()
    # A constrictor of 15.9 kg: 1.6–2.4 kg is one rabbit of that class.
    giant = meal_by_share(("rat", "rabbit"), 1.6, 2.4)[0]
    assert (giant.prey.key, giant.count) == ("rabbit/large", 1)


def test_a_snakes_meal_by_girth_is_one_piece_no_thicker_than_itself() -> None:
    """A corn snake of 520 g and 1.24 m is about three centimetres thick (memory), and takes an adult mouse or a rat pup."""
    girth = snake_thickness_m(0.52, 1.24)
    assert girth == pytest.approx(0.03, abs=0.004)
    best = meal_by_girth(("mouse", "rat"), girth)[0]
    assert best.count == 1
    assert best.prey.thickness_m <= girth
    assert 0.02 <= best.prey.middle_kg <= 0.06


@given(st.floats(0.0005, 3.0), st.floats(1.0, 1.6))
def test_a_meal_of_whole_prey_lies_within_its_shares_or_below(middle_kg: float, spread: float) -> None:
    low, high = middle_kg / spread, middle_kg * spread
    for offer in meal_by_share(("mouse", "rat", "rabbit"), low, high):
        assert offer.mass_kg <= high * 1.15 + 1e-9
    thick = meal_by_share(("rat",), low, high, at_most_m=prey_thickness_m(middle_kg) / 2)
    if thick and thick[0].too_thick:
        assert all(offer.too_thick for offer in thick)  # only where nothing thinner will do


@pytest.mark.parametrize("animal", ["mouse", "rat"])
def test_prey_classes_do_not_overlap(animal: str) -> None:
    found = classes(animal)
    assert all(earlier.heaviest_kg <= later.lightest_kg for earlier, later in pairwise(found))
    assert find_class(found[0].key) == found[0]


@pytest.mark.parametrize("score", [1, 2, 3, 4, 5])
@pytest.mark.parametrize("interval", [1, 3, 7, 14])
def test_condition_moves_one_thing_by_one_step(score: int, interval: int) -> None:
    step = condition.step(score, interval)
    count = condition.moved_count(6, 8, step.factor if step.moved == "ration" else 1.0)
    days = condition.moved_interval(interval, step.factor if step.moved == "interval" else 1.0)
    assert (count != (6, 8)) + (days != interval) == (0 if score == 3 else 1)
    if score < 3:
        assert count >= (6, 8)
        assert days <= interval
    assert days >= 1


def test_condition_is_one_to_five() -> None:
    with pytest.raises(ValueError, match="1 to 5"):
        condition.step(6, 7)


def test_a_fat_gecko_gets_fewer_and_a_fat_snake_less_often() -> None:
    gecko = assessed(feeding={"condition": 4})
    usual = assessed()
    assert gecko.menu.interval_days == usual.menu.interval_days
    assert gecko.menu.rations[0].count[1] < usual.menu.rations[0].count[1]  # type: ignore[index]
    snake = {"species": "corn-snake", "animal": {"mass_kg": 0.6, "length_m": 1.25}}
    fat, right = assessed(**snake, feeding={"condition": 4}), assessed(**snake)
    assert fat.menu.interval_days > right.menu.interval_days
    assert fat.menu.rations[0].mass_kg == right.menu.rations[0].mass_kg


def test_the_weeks_ratio_counts_the_dust_and_says_how_much_more() -> None:
    week = nutrients.week((Helping(food("cricket"), 10.0),))
    assert week.ratio == pytest.approx(407 / 2950)
    short = nutrients.dust_for_ratio(week, POWDERS["plain calcium"], 2.0)
    assert short * 1000 == pytest.approx(137, abs=0.5)  # ten grams at 13.7 mg, from memory
    mended = nutrients.week((Helping(food("cricket"), 10.0),), (Dose("plain calcium", POWDERS["plain calcium"], short),))
    assert mended.ratio == pytest.approx(2.0)
    with pytest.raises(ValueError, match="cannot"):
        nutrients.dust_for_ratio(week, nutrients.Powder(10.0, 10.0), 2.0)


def test_one_product_after_another_adds_up_in_the_vitamins() -> None:
    """1 µg is 40 IU; the sum runs over all powders, by dry matter."""
    helping = (Helping(food("cricket"), 100.0),)
    doses = (Dose("calcium with D3", POWDERS["calcium with D3"], 0.5), Dose("multivitamin", POWDERS["multivitamin"], 0.5))
    assert nutrients.week(helping, doses).d3_iu_per_kg == pytest.approx((0.5 * 100 + 0.5 * 50) / 0.0308)


@pytest.mark.parametrize(
    ("items", "code"),
    [
        ([{"food": "waxworm", "count": 20}], "diet.fatty"),
        ([{"food": "cricket", "count": 60}], "diet.fattening"),
        ([{"food": "mouse/adult", "count": 3}], "diet.prey_large_estimate"),
        ([{"food": "rat/large", "count": 1}], "diet.prey_heavier"),
        ([{"food": "cricket", "count": 6}], "diet.one_prey"),
    ],
)
def test_a_wrong_menu_is_found(items: list[dict[str, object]], code: str) -> None:
    codes = {finding.code for finding in assessed(animal=GROWN, feeding={"items": items}).findings}
    assert code in codes


def test_a_menu_without_powder_is_short_of_calcium_and_the_remedy_brings_it_back() -> None:
    bare = assessed(animal=GROWN, feeding={"supplements": []})
    (finding,) = [item for item in bare.findings if item.code == "diet.calcium_short"]
    assert finding.severity.value == "danger"
    assert finding.remedy is not None
    assert finding.remedy.changes[0].path == "feeding.supplements"
    assert not any(item.code.startswith("diet.") for item in assessed(animal=GROWN).findings)


def test_a_hungry_week_in_a_cold_enclosure_costs_less() -> None:
    """The same food at the plan's own temperatures: colder is less burnt at rest."""
    cold = assessed(animal=GROWN, heaters=[]).quantity("energy_week")
    warm = assessed(animal=GROWN).quantity("energy_week")
    assert cold.band is not None
    assert warm.band is not None
    assert cold.band.low < warm.band.low  # type: ignore[operator]


def test_what_nobody_weighs_is_unknown_and_a_count_is_for_all_animals() -> None:
    adult = find("whites-tree-frog").stage("adult").feeding
    assert rations(adult, Eater("frog", 0.09, 0.09, 0.05), animals=3)[0].count == (12, 18)
    assert rations(find("corn-snake").stage("juvenile").feeding, Eater("snake"))[0].needs_mass
    own = plan(feeding={"items": [{"food": "my own cake", "grams": 4}]})
    body = body_of(own, find(own.species), TODAY)
    assert week_food.fed(own, find(own.species), body.decision.stage, body, uvb=True).unknown == ("my own cake",)


@pytest.mark.parametrize(
    "bad", [{"food": "cricket"}, {"food": "cricket", "count": 0}, {"food": "x", "grams": -2}, {"food": "x", "count": 1, "grams": 1}]
)
def test_a_part_of_a_feed_is_counted_or_weighed(bad: dict[str, object]) -> None:
    with pytest.raises(ValueError):
        FedItem.model_validate({"food": "cricket"} | bad)


def test_growth_costs_and_stops_when_grown() -> None:
    young = plan(animal={"mass_kg": 0.012, "length_m": 0.07, "hatched": date(2026, 9, 1).isoformat()})
    old = plan(animal={"mass_kg": 0.07, "length_m": 0.14})
    need = [week_food.need(item, find(item.species), body_of(item, find(item.species), TODAY), (28.0,)) for item in (young, old)]
    assert all(need)
    assert need[0].growth_kj > need[0].standard_kj  # type: ignore[union-attr]
    assert math.isclose(need[1].growth_kj, 0.0, abs_tol=0.5)  # type: ignore[union-attr]


def test_a_gravid_female_has_calcium_on_every_feed_and_one_step_more() -> None:
    """Common practice, no source: breeding state moves the ration one way only, as condition does; none is fed up for eggs."""
    gravid, usual = assessed(animal=GROWN, feeding={"state": "gravid"}), assessed(animal=GROWN)
    assert all(any(item.product.name == "plain calcium" for item in feed.dusting) for feed in gravid.menu.days)
    assert gravid.menu.rations[0].count > usual.menu.rations[0].count  # type: ignore[operator]
    fat = assessed(animal=GROWN, feeding={"state": "gravid", "condition": 4})
    assert fat.menu.rations[0].count < usual.menu.rations[0].count  # type: ignore[operator]


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"feeding": {"condition": 2}}, "diet.no_rest_when_thin"),
        ({"animal": {"mass_kg": 0.012, "length_m": 0.07}}, "diet.no_rest_when_young"),
        ({"upkeep": {"arrived": "2026-09-01"}}, "diet.no_rest_when_new"),
    ],
)
def test_no_rest_for_the_thin_the_young_and_the_new(changes: dict[str, object], code: str) -> None:
    """No cooling for a thin, ill or unscreened animal (common practice, no source)."""
    planned = {"animal": GROWN, "year": {"cooling": {"begins": "2026-12-20"}}} | changes
    assert code in {finding.code for finding in assessed(**planned).findings}
    assert not any(finding.code == code for finding in assessed(**({"animal": GROWN} | changes)).findings)


@pytest.mark.parametrize("species", ["sulcata-tortoise", "royal-python", "veiled-chameleon"])
def test_who_is_never_cooled_endangers_its_animal_by_a_winter_rest(species: str) -> None:
    """Common practice, no source: tropical kinds do not hibernate; cooled for weeks they fall ill."""
    grown = {"length_m": find(species).body.adult_length_cm.middle / 100}
    cooled = assessed(species=species, schools={}, animal=grown, year={"cooling": {"begins": "2026-12-20"}})
    (finding,) = (item for item in cooled.findings if item.code == "diet.no_rest_ever")
    assert finding.severity is Severity.DANGER
    assert finding.remedy is not None
    assert [(change.path, change.value) for change in finding.remedy.changes] == [("year.cooling", None)]
    assert not any(item.code == "diet.no_rest_ever" for item in assessed(species=species, schools={}, animal=grown).findings)


def test_where_the_book_says_nothing_of_a_rest_one_is_asked_about() -> None:
    silent = find("corn-snake").model_copy(update={"dormancy": ()})
    made = plan(species="corn-snake", schools={}, animal={"length_m": 1.3}, year={"cooling": {"begins": "2026-12-20"}})
    assert any(item.code == "diet.no_rest_known" for item in assess(made, silent, TODAY, depth=NO_DAYS).findings)
    assert not any(item.code == "diet.no_rest_known" for item in assess(made, find("corn-snake"), TODAY, depth=NO_DAYS).findings)


@pytest.mark.parametrize("key", shipped())
def test_the_book_says_of_every_species_whether_it_may_be_cooled(key: str) -> None:
    kinds = {item.kind for item in shipped()[key].dormancy}
    assert ("never" in kinds) != bool(kinds & {"winter cooling", "hibernation"})


def test_its_weight_stands_beside_what_its_age_expects() -> None:
    young = {"hatched": "2026-08-20", "length_m": 0.07}
    light = assessed(animal=young | {"mass_kg": 0.004}).quantity("mass")
    right = assessed(animal=young | {"mass_kg": 0.012}).quantity("mass")
    assert (light.verdict.value, right.verdict.value) == ("outside", "inside")


@pytest.mark.parametrize("key", shipped())
def test_lean_growth_moves_the_interval_or_the_meal_and_never_both(key: str) -> None:
    """Common practice, no source: lean and slow against to appetite; inside the stage's own rule either way."""
    profile = find(key)
    length_m = profile.body.adult_length_cm.middle / 100 * 0.7
    animal = {"length_m": length_m, "mass_kg": expected_mass_kg(profile, length_m)}
    usual, lean = (
        week_food.fed(made, profile, body.decision.stage, body, uvb=True)
        for schools in ({}, {"growth": "lean"})
        for made in [plan(species=key, schools=schools, animal=animal, feeding={})]
        for body in [body_of(made, profile, TODAY)]
    )
    longer = lean.interval_days > usual.interval_days
    amounts = [[(part.count, part.mass_kg) for part in fed.rations] for fed in (usual, lean)]
    if longer:
        assert amounts[0] == amounts[1]
    grams = [sum(item.grams for item in fed.helpings) for fed in (usual, lean)]
    assert lean.interval_days >= usual.interval_days
    assert grams[1] <= grams[0] * (1 + 1e-9)
    for (count, mass), (least, lightest) in zip(*amounts, strict=True):
        assert count is None or longer or least == (count[0], count[0])
        assert mass is None or longer or lightest == (mass[0], mass[0])


def test_days_the_keeper_chose_stand_in_lean_growth_too() -> None:
    chosen = assessed(animal=GROWN, schools={"growth": "lean", "uvb": "shade"}, feeding={"interval_days": 2})
    usual = assessed(animal=GROWN, feeding={"interval_days": 2})
    assert chosen.menu.interval_days == usual.menu.interval_days == 2
    assert chosen.menu.rations[0].count < usual.menu.rations[0].count  # type: ignore[operator]


def test_one_earthworm_stands_for_several_crickets() -> None:
    """Five grown bell frogs get a worm each, not eight (common practice, no source)."""
    made = plan(species="southern-bell-frog", animal={"count": 5, "mass_kg": 0.05, "length_m": 0.075})
    profile = find(made.species)
    body = body_of(made, profile, TODAY)
    part = week_food.fed(made, profile, body.decision.stage, body, uvb=True).rations[0]
    counted = part.counted()
    assert part.count == (30, 50)
    assert counted["cricket"] == 40
    assert 5 <= counted["earthworm"] <= 10
    worm_g = next(piece.mass_kg for key, piece in part.pieces if key == "earthworm") * 1000
    assert worm_g >= 1.0


def test_a_frog_that_starves_or_drowns_in_food_is_told_though_no_energy_serves_it() -> None:
    grown = {"mass_kg": 0.3, "length_m": 0.11}
    asked = {"species": "horned-frog", "schools": {}, "animal": grown}
    usual = assessed(**asked)
    assert usual.quantity("energy_week").verdict is Verdict.UNKNOWN
    assert usual.quantity("intake_day").verdict is Verdict.INSIDE
    for grams, code in ((0.5, "diet.eats_little"), (140.0, "diet.eats_much")):
        found = assessed(**asked, feeding={"items": [{"food": "earthworm", "grams": grams}], "interval_days": 7})
        (finding,) = (item for item in found.findings if item.code.startswith("diet.eats"))
        assert finding.code == code
        assert finding.remedy is not None
        changed = {change.path.replace(".", "__"): change.value for change in finding.remedy.changes}
        assert not any(item.code.startswith("diet.eats") for item in assessed(**asked, **changed).findings)
    assert not any(item.code.startswith("diet.eats") for item in (*usual.findings, *assessed().findings))


def test_a_worm_is_limited_by_its_width_and_not_by_the_heads_length() -> None:
    """A 170 g axolotl swallows whole earthworms of 9 cm (common practice, no source); its head is 4 cm long."""
    limit = size_limit("head-length", "salamander", 0.25, 0.17, 0.25)
    worm, pellet = (largest_piece(food(key), limit) for key in ("earthworm", "cricket"))
    assert worm is not None
    assert worm.length_m == pytest.approx(0.09)
    assert pellet is not None
    assert pellet.length_m <= limit.at_most_m
    narrow = largest_piece(food("earthworm"), size_limit("head-length", "salamander", 0.03, 0.0004, 0.03))
    assert narrow is not None
    assert narrow.width_m <= 0.5 * 0.16 * 0.03 + 1e-9
