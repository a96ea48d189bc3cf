"""Schools: where keepers disagree the plan goes by the keeper's, and what belongs together changes together."""

from datetime import date, timedelta
from itertools import product
from typing import Any, Final

import pytest

from husbandry.animal.subject import subject_of
from husbandry.assess.assess import NO_DAYS, Depth, assess
from husbandry.assessment import Remedy, Severity
from husbandry.codes import FindingCode, RemedyCode
from husbandry.design.survey import at_odds, cases
from husbandry.diet.foods import food
from husbandry.diet.rations import Eater, rations
from husbandry.feeding.history import History, RecordedMeal
from husbandry.plan.editing import apply
from husbandry.plan.reading import read_data
from husbandry.rota.card import RoomDays, compile_card, expand
from husbandry.space.sizing import SIDES, needs
from husbandry.species.book import find, shipped
from husbandry.species.leaves import Range, choose, in_school
from husbandry.upkeep.recur import EveryDays
from tests.plans import TODAY, assessed, codes, plan
from tests.sample import in_turn

DRAGON: dict[str, Any] = {
    "species": "central-bearded-dragon",
    "animal": {"mass_kg": 0.4, "length_m": 0.22, "hatched": "2023-06-01"},
    "feeding": {"starts": "2026-11-02"},
}


def leaf(low: float, school: str) -> Range:
    return Range(low=low, basis="practice", school=school)


def test_a_leaf_of_two_schools_is_taken_only_where_both_are() -> None:
    leaves = (leaf(1, "interval:often meal:share"), leaf(2, "interval:slow meal:share"), leaf(3, "meal:girth"))
    assert [item.low for item in in_school(leaves, {})] == [1]
    assert [item.low for item in in_school(leaves, {"interval": "slow"})] == [2]
    assert [item.low for item in in_school(leaves, {"interval": "slow", "meal": "girth"})] == [3]
    assert choose(leaves, {"interval": "slow"}).low == 2


def test_every_choice_of_schools_leaves_each_stage_whole() -> None:
    """Whatever one chooses, and where nothing is chosen, one band of each kind and at least one meal are left."""
    for profile in shipped().values():
        choices = [{}, *({topic: school} for topic, schools in profile.topics().items() for school in schools)]
        for stage, chosen in product((item.of_sex("unknown") for item in profile.stages), choices):
            assert in_school(stage.feeding.meals, chosen), (profile.id, stage.id, chosen)
            for part in (stage.heat, stage.moisture, stage.light, stage.ground, stage.feeding):
                for name in type(part).model_fields:
                    bands = getattr(part, name)
                    if isinstance(bands, tuple) and bands and isinstance(bands[0], Range):
                        assert len(in_school(bands, chosen)) == 1, (profile.id, stage.id, name, chosen)


def test_by_every_school_of_size_an_enclosure_has_its_sides() -> None:
    """Whatever the size goes by, a stage asks for length, width and height."""
    for profile in shipped().values():
        for stage in profile.stages:
            length_m = profile.body.adult_length_cm.middle / 100
            for school in ("", "report", "trade", "tub"):
                asked = needs(stage.space, "minimum", length_m, school=school)
                assert set(SIDES) <= set(asked), (profile.id, stage.id, school)


def test_rarer_meals_are_larger_ones() -> None:
    """Large snakes, common practice, no source: up to twice as much at twice the gap."""
    for species in ("common-boa", "burmese-python", "carpet-python", "western-hognose-snake"):
        stage = find(species).stages[-1]
        often, slow = (
            (choose(stage.feeding.interval_days, chosen), in_school(stage.feeding.meals, chosen)[0])
            for chosen in ({"interval": "weekly"}, {"interval": "slow"})
        )
        assert slow[0].middle > often[0].middle
        assert slow[1].mass_share_high_percent > often[1].mass_share_high_percent  # type: ignore[operator]


def fed_days(
    schools: dict[str, str], days: int = 28, history: tuple[RecordedMeal, ...] = ()
) -> dict[date, tuple[set[str], set[str]]]:
    """By day of a dragon's rota the kinds of food and the powders on it."""
    made = plan(**(DRAGON | {"schools": schools}))
    card = compile_card(made, find(made.species), TODAY, History(TODAY - timedelta(days=60), history))
    ahead = expand(card, TODAY, TODAY + timedelta(days=days), RoomDays(TODAY))
    kinds = {day: {food(use.food).kind for use in uses} for day, uses in ahead.foods.items()}
    return {day: (kinds[day], {item.product.name for item in ahead.dusting[day]}) for day in kinds}


@pytest.mark.parametrize(("school", "times"), [("usual", 12), ("spare", 8)])
def test_a_dragon_has_greens_every_day_and_insects_on_some_and_powder_goes_on_those(school: str, times: int) -> None:
    """Common practice, no source: grown dragons have greens daily and insects two or three times a week."""
    days = fed_days({"ration": school})
    assert len(days) == 28
    assert all("leaf" in kinds for kinds, _powders in days.values())
    with_insects = [day for day, (kinds, _powders) in days.items() if "insect" in kinds]
    assert len(with_insects) == pytest.approx(times, abs=1)
    assert {day for day, (_kinds, powders) in days.items() if powders} <= set(with_insects)
    multi = [day for day, (_kinds, powders) in days.items() if "multivitamin" in powders]
    assert len(multi) == 2  # once a fortnight, whatever the greens do


def test_how_often_powder_comes_is_told_by_the_feeds_that_carry_it() -> None:
    made = plan(**(DRAGON | {"schools": {}}))
    card = compile_card(made, find(made.species), TODAY, History(TODAY - timedelta(days=60)))
    assert (card.carrying.prey, card.carrying.days) == (True, pytest.approx(7 / 3))
    gecko = compile_card(plan(), find(plan().species), TODAY, History(TODAY - timedelta(days=60)))
    assert (gecko.carrying.prey, gecko.carrying.days) == (False, gecko.feed.mean_days)


@pytest.mark.parametrize("between", ["endive", "waxworm"])
def test_powders_are_counted_over_meals_with_insects_alone(between: str) -> None:
    """ "With every second feed" is every second feed of insects: greens in between move nothing, insects of any kind do."""
    first = fed_days({"ration": "usual"})
    day = next(day for day, (kinds, powders) in first.items() if "insect" in kinds and "plain calcium" in powders)
    meals = [RecordedMeal(TODAY - timedelta(days=3), "eaten", ("plain calcium",), ("cricket", "endive"))]
    meals += [RecordedMeal(TODAY - timedelta(days=ago), "eaten", (), (given,)) for ago, given in ((2, between), (1, "endive"))]
    after = fed_days({"ration": "usual"}, history=tuple(meals))
    with_insects = [day for day, (kinds, _powders) in after.items() if "insect" in kinds]
    moved = between == "waxworm"
    assert ["plain calcium" in after[day][1] for day in with_insects[:2]] == [moved, not moved]
    assert day in first


def test_food_that_nobody_can_weigh_has_its_powders_all_the_same() -> None:
    """Whatever is known of an animal's size: where the book names powders and the food bears them, some feed carries them."""
    for profile in shipped().values():
        heavy = profile.body.adult("unknown").mass_g
        for known in ({}, {"mass_kg": heavy.middle / 1000}):
            made = plan(species=profile.id, animal=known, uv_lamps=[])
            card = compile_card(made, profile, TODAY, History(TODAY - timedelta(days=60)))
            span = expand(card, TODAY, TODAY + timedelta(days=70), RoomDays(TODAY))
            assert not card.products or not span.feeds or any(span.dusting.values()), (profile.id, known)


def test_prey_may_go_by_the_heads_length_in_place_of_the_eyes() -> None:
    """Two camps: no wider than the gap of the eyes, or no longer than the head. As much food either way."""
    stage = find("leopard-gecko").stages[-1]
    gecko = Eater("gecko", 0.12, 0.2, 0.06)
    (wide,), (long,) = (rations(stage.feeding, gecko, schools=chosen) for chosen in ({}, {"prey": "length"}))
    assert (wide.limit.dimension, long.limit.dimension) == ("width", "length")  # type: ignore[union-attr]
    assert "longer" in long.meal.prey_limit
    assert dict(long.pieces)["cricket"].length_m <= 0.26 * 0.12
    assert long.count is not None
    assert wide.count is not None
    assert long.count[0] > wide.count[0]
    assert long.grams() == pytest.approx(wide.grams(), rel=0.2)


def test_a_powder_diet_comes_with_dusted_insects_or_alone_and_then_without_powder() -> None:
    """Two camps of crested gecko keepers (common practice, no source): what stands in the bowl needs no dust."""
    gecko: dict[str, Any] = {"species": "crested-gecko", "animal": {"mass_kg": 0.04, "length_m": 0.11}, "uv_lamps": []}
    seen = {}
    for school in ("beside", "none"):
        made = plan(**gecko, schools={"insects": school}, feeding={"starts": "2026-11-02"})
        card = compile_card(made, find(made.species), TODAY, History(TODAY - timedelta(days=60)))
        ahead = expand(card, TODAY, TODAY + timedelta(days=28), RoomDays(TODAY))
        kinds = {kind for uses in ahead.foods.values() for kind in (food(use.food).kind for use in uses)}
        seen[school] = kinds, sum(bool(items) for items in ahead.dusting.values()), len(ahead.feeds)
    assert seen["beside"][0] == {"powder", "insect"}
    assert 0 < seen["beside"][1] < seen["beside"][2]
    assert seen["none"][0] == {"powder"}
    assert seen["none"][1] == 0


def test_a_female_chameleon_is_kept_cooler_on_deeper_ground_and_fed_less() -> None:
    """Common practice, no source: heat and food make eggs, with or without a male, and eggs wear her out."""
    for species in ("veiled-chameleon", "panther-chameleon"):
        asked = {}
        for sex in ("male", "female", "unknown"):
            animal = {"hatched": "2025-01-01", "mass_kg": 0.1, "length_m": 0.18, "sex": sex}
            stage = subject_of(plan(species=species, animal=animal), find(species), TODAY).stage
            asked[sex] = stage
            assert all(leaf.sex in (None, sex) for leaf in stage.feeding.meals)
        assert asked["unknown"] == asked["male"]
        male, female = asked["male"], asked["female"]
        assert choose(female.heat.basking_surface_c or (), {}).most <= choose(male.heat.basking_surface_c or (), {}).least
        assert choose(female.ground.depth_cm, {}).least >= 20
        assert (female.feeding.meals[0].count_high or 0) < (male.feeding.meals[0].count_high or 0)
    sheet = find("veiled-chameleon").stages[-1]
    assert len(sheet.feeding.meals) == 2  # both are told where nobody's sex is meant


def test_company_goes_by_the_keepers_school() -> None:
    """Dwarf sand geckos, two schools: one male to a group, or two with enough females."""
    group = {"species": "dwarf-sand-gecko", "animal": {"count": 5, "males": 2, "mass_kg": 0.006, "length_m": 0.05}, "schools": {}}
    assert FindingCode.ANIMAL_MALES in codes(assessed(**group))
    assert FindingCode.ANIMAL_MALES not in codes(assessed(**(group | {"schools": {"company": "males"}})))
    pair = {"species": "leopard-gecko", "animal": {"count": 2, "males": 0, "mass_kg": 0.06, "length_m": 0.12}}
    told = [item.severity for item in assessed(**pair).findings if item.code is FindingCode.ANIMAL_COMPANY]
    assert told == [Severity.WRONG]
    assert FindingCode.ANIMAL_COMPANY not in codes(assessed(**(pair | {"schools": {"company": "group"}})))
    males = pair | {"animal": pair["animal"] | {"males": 2}, "schools": {"company": "group"}}  # type: ignore[dict-item]
    assert FindingCode.ANIMAL_MALES in codes(assessed(**males))  # what harms stays one, in every school


def test_eggs_that_always_lie_there_are_looked_after_by_the_week_and_changed_after_two() -> None:
    """Egg-eating snake, common practice, no source."""
    made = plan(species="egg-eating-snake", animal={"mass_kg": 0.09, "length_m": 0.7}, schools={"offer": "lying"})
    stage = subject_of(made, find(made.species), TODAY).stage
    (meal,) = in_school(stage.feeding.meals, made.schools)
    assert meal.fresh_days == 14
    assert choose(stage.feeding.interval_days, made.schools).high in (7, 14)
    card = compile_card(made, find(made.species), TODAY, History(TODAY - timedelta(days=60)))
    assert {job.key: job.rule.days for job in card.jobs if isinstance(job.rule, EveryDays)}["food-renew"] == 14
    assert "eggs-out" not in {item.key for item in card.around}
    offered = compile_card(made.model_copy(update={"schools": {}}), find(made.species), TODAY, History(TODAY - timedelta(days=60)))
    assert "eggs-out" in {item.key for item in offered.around}
    assert "food-renew" not in {job.key for job in offered.jobs}


def test_a_tub_is_a_school_of_size_and_is_not_called_too_small_in_silence() -> None:
    box = {"kind": "foamed-pvc", "length_m": 0.6, "width_m": 0.4, "height_m": 0.18, "lid": "solid"}
    gecko = {
        "species": "leopard-gecko",
        "animal": {"mass_kg": 0.06, "length_m": 0.12},
        "enclosure": box,
        "heaters": [],
        "uv_lamps": [],
    }
    bare = {"hides": [], "platform": None, "bowl": None, "ground": {"kind": "paper", "depth_m": 0.01}}
    small = [item for item in assessed(**gecko, **bare).findings if item.code is FindingCode.SPACE_SMALL_BY_SCHOOL]
    assert [item.parameters["school"] for item in small] == ["space:tub"]
    by_tub = assessed(**gecko, **bare, schools={"space": "tub"})
    assert not any(item.code.startswith("space.small") for item in by_tub.findings)


MAT: dict[str, Any] = {
    "kind": "mat",
    "watts": 40.0,
    "x_m": 0.26,
    "height_m": 0.01,
    "length_m": 0.4,
    "guarded": True,
    "thermostat": {"kind": "pulse", "set_c": 34.0, "probe": "mat"},
}
ON_A_MAT: dict[str, Any] = {
    "species": "leopard-gecko",
    "animal": {"mass_kg": 0.06, "length_m": 0.12},
    "schools": {"heat": "mat"},
    "ground": {"kind": "soil", "depth_m": 0.03},
    "uv_lamps": [],
}


def test_warmed_from_below_no_lamp_is_missed_and_the_ground_over_the_mat_is_judged() -> None:
    """Two camps: overhead or by a mat under a hide. By a mat no stone under a lamp is asked for."""
    found = assessed(**ON_A_MAT, heaters=[MAT])
    assert not any(item.code in (FindingCode.HEAT_BASKING_COLD, FindingCode.HEAT_NO_MAT) for item in found.findings)
    assert found.quantity("mat_surface", season="winter", phase="day").band is not None
    assert found.quantity("basking_surface", season="winter", phase="day").verdict.value == "inside"  # only never too hot
    lamp = plan().heaters[0].model_dump(mode="json")
    (too,) = (item for item in assessed(**ON_A_MAT, heaters=[MAT, lamp]).findings if item.code is FindingCode.HEAT_LAMP_TOO)
    assert too.remedy is not None
    assert [(change.path, change.value) for change in too.remedy.changes] == [("heaters.1", None)]
    overhead = assessed(**(ON_A_MAT | {"schools": {}}), heaters=[MAT])
    assert FindingCode.HEAT_BASKING_COLD in codes(overhead)
    assert all(item.key != "mat_surface" for item in overhead.quantities)


def test_the_mat_that_is_missing_is_offered_and_brought_to_what_is_wanted_by_presses_alone() -> None:
    document = plan(**ON_A_MAT, heaters=[]).model_dump(mode="json")
    for _press in range(4):
        found = assess(read_data(document), find("leopard-gecko"), TODAY, depth=NO_DAYS)
        mine = [item for item in found.findings if item.code.startswith(("heat.no_mat", "heat.over_mat"))]
        if not mine:
            break
        assert mine[0].remedy is not None
        assert mine[0].remedy.changes
        document = apply(document, mine[0].remedy.changes)
    assert not mine
    (mat,) = read_data(document).heaters
    assert (mat.kind, mat.thermostat.kind, mat.thermostat.probe) == ("mat", "pulse", "mat")
    assert found.quantity("mat_surface", season="winter", phase="day").verdict.value == "inside"
    assert found.quantity("mat_contact", season="winter", phase="day").verdict.value == "inside"


def test_deeper_ground_over_the_same_mat_is_cooler_on_top_and_hotter_below() -> None:
    """What keepers are warned of: a mat under thick ground overheats and does not warm (common practice; and by resistances)."""
    thin, thick = (
        assessed(**(ON_A_MAT | {"ground": {"kind": "soil", "depth_m": depth}}), heaters=[MAT | {"thermostat": {"kind": "none"}}])
        for depth in (0.02, 0.07)
    )
    at = {
        (name, key): found.quantity(key, season="winter", phase="day").value or 0.0
        for name, found in (("thin", thin), ("thick", thick))
        for key in ("mat_surface", "mat_contact")
    }
    assert at["thick", "mat_surface"] < at["thin", "mat_surface"]
    assert at["thick", "mat_contact"] > at["thin", "mat_contact"]


GLANCE: Final = Depth(days_of=(), spread=False, propose=False, hanging=False)


@pytest.mark.sweep
def test_the_books_own_food_is_not_at_odds_with_the_book() -> None:
    """Every stage of every species in one enclosure, whatever is known of its size: nothing but warmth makes its food wrong."""
    for profile in in_turn(shipped().values()):
        for case in cases(profile, TODAY):
            if case.enclosure == "front-vented" and not case.school:
                assert at_odds(case, assess(case.plan, profile, TODAY, depth=GLANCE)) == [], (case.species, case.stage)


def test_without_its_size_the_sums_of_a_mixed_diet_are_not_known() -> None:
    """A dragon of a known age alone: how its greens stand to its insects nobody knows, and a question takes the verdict's place."""
    old = {"species": "central-bearded-dragon", "animal": {"hatched": "2023-06-01"}}
    ratio = assessed(**old).quantity("calcium_ratio")
    assert (ratio.value, ratio.verdict.value, ratio.question) == (None, "unknown", "animal.mass_kg")
    known = assessed(**(old | {"animal": {"hatched": "2023-06-01", "mass_kg": 0.4}})).quantity("calcium_ratio")
    assert known.value is not None


def over_mat(heater: dict[str, Any], **changes: Any) -> Remedy | None:
    """What is offered for the ground over a mat that is too cold."""
    found = assessed(**(ON_A_MAT | changes), heaters=[heater])
    cold = [item for item in found.findings if item.code is FindingCode.HEAT_OVER_MAT_COLD]
    assert cold
    return cold[0].remedy


def test_a_mat_that_is_held_by_something_else_gets_its_probe_and_not_more_watts() -> None:
    remedy = over_mat(MAT | {"thermostat": {"kind": "pulse", "set_c": 24.0, "probe": "warm-air"}})
    assert remedy is not None
    assert remedy.code is RemedyCode.HEAT_SET_MAT
    (change,) = remedy.changes
    assert (change.path, change.value["probe"], change.value["kind"]) == ("heaters.0.thermostat", "mat", "pulse")


def test_a_mat_that_is_too_weak_is_exchanged_by_its_own_word() -> None:
    remedy = over_mat(MAT | {"watts": 7.0})
    assert remedy is not None
    assert remedy.code is RemedyCode.HEAT_STRONGER_HEATER
    assert remedy.parameters["watts"].value == remedy.changes[0].value > 7.0  # type: ignore[union-attr]


def test_a_mat_at_its_limit_has_no_button_that_does_nothing() -> None:
    """In a cold room, over thin ground, at 40 °C: what is left to do is said, and none of it is a set point that is set already."""
    room = {"day_c": 6.0, "night_c": 5.0, "humidity_percent": 50.0}
    held = MAT | {"watts": 80.0, "thermostat": {"kind": "pulse", "set_c": 40.0, "probe": "mat"}}
    remedy = over_mat(held, room={"summer": room, "winter": room}, ground={"kind": "soil", "depth_m": 0.02})
    assert remedy is not None
    assert remedy.code is RemedyCode.HEAT_MAT_ALONE
    assert remedy.changes == ()
