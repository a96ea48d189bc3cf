"""Living together, figures that cannot be, sex, and water to live in."""

from typing import Any

import pytest

from husbandry.animal.growth_outlook import expected_length_at
from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Severity, Verdict
from husbandry.design.first_proposal import propose
from husbandry.plan.editing import apply
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.reading import read_data
from husbandry.space.sizing import needs
from husbandry.species.book import find
from tests.plans import TODAY, assessed, codes, document


def group(species: str, **animal: Any) -> dict[str, Severity]:
    """The codes of findings of the Animal step for a company of grown animals, with their severity."""
    profile = find(species)
    grown = {"hatched": "2020-01-01", "length_m": profile.body.adult_length_cm.middle / 100, "mass_kg": None, **animal}
    found = assess(read_data(document(species=species, animal=grown)), profile, TODAY, depth=NO_DAYS)
    return {item.code: item.severity for item in found.findings if item.step == "animal"}


def test_two_of_what_lives_alone_is_wrong_and_two_females_that_may_bear_one_another_is_a_word_of_advice() -> None:
    assert group("panther-chameleon", count=2, males=1)["animal.company"] is Severity.WRONG
    assert group("central-bearded-dragon", count=2, males=0)["animal.better_alone"] is Severity.ADVICE
    assert group("corn-snake") == {}


def test_one_male_to_a_group_in_season() -> None:
    """Common practice, no source: one male per group; which ones are male must be known."""
    assert group("emerald-tree-skink", count=4, males=1) == {}
    assert group("emerald-tree-skink", count=4, males=2)["animal.males"] is Severity.WRONG
    assert group("emerald-tree-skink", count=4)["animal.sexes_unknown"] is Severity.QUESTION
    assert group("hermanns-tortoise", count=3, males=2)["animal.males"] is Severity.WRONG


def test_hatchlings_are_raised_apart_from_adults_where_they_are_eaten() -> None:
    assert group("emerald-tree-skink", count=4, males=1, young=2)["animal.young"] is Severity.WRONG
    assert "animal.young" not in group("mourning-gecko", count=4, young=2)  # they may stay in dense cover
    assert "animal.young" not in group("hermanns-tortoise", count=4, males=0, young=4)  # all of an age


def test_a_frog_half_as_long_as_another_is_its_next_meal() -> None:
    """Common practice, no source: size differences in a group as a danger."""
    sizes = {"count": 3, "length_m": 0.08}
    assert group("southern-bell-frog", **sizes, smallest_m=0.04)["animal.eaten"] is Severity.DANGER
    assert "animal.eaten" not in group("southern-bell-frog", **sizes, smallest_m=0.07)


def test_more_than_the_most_is_brought_back_to_it() -> None:
    found = assess(
        read_data(document(species="dart-frog", animal={"count": 6, "males": 1, "length_m": 0.04})),
        find("dart-frog"),
        TODAY,
        depth=NO_DAYS,
    )
    many = next(item for item in found.findings if item.code == "animal.too_many")
    assert many.remedy is not None
    assert [(change.path, change.value) for change in many.remedy.changes] == [("animal.count", 3)]


@pytest.mark.parametrize(
    "species", ["dart-frog", "panther-chameleon", "emerald-tree-skink", "hermanns-tortoise", "fire-bellied-toad"]
)
@pytest.mark.parametrize(
    "company", [{"count": 12, "males": 9, "young": 8}, {"count": 2, "males": 2, "young": 1}, {"count": 50, "young": 49}]
)
def test_whatever_a_remedy_makes_of_a_company_is_a_plan_again(species: str, company: dict[str, int]) -> None:
    """Nine males cannot be left among three animals."""
    start = document(species=species, animal={"hatched": "2020-01-01", **company})
    found = assess(read_data(start), find(species), TODAY, depth=NO_DAYS)
    remedies = [item.remedy for item in found.findings if item.step == "animal" and item.remedy and item.remedy.changes]
    assert remedies
    for remedy in remedies:
        after = read_data(apply(start, remedy.changes)).animal
        assert (after.males or 0) <= after.count
        assert after.young <= after.count


def test_more_animals_need_more_floor_and_more_water() -> None:
    """Common practice, no source: the number a floor or a volume bears."""
    frogs = find("southern-bell-frog").stages[-1].space
    one, five = needs(frogs, "minimum", 0.08), needs(frogs, "minimum", 0.08, animals=5)
    assert five["water_volume"].size == pytest.approx(one["water_volume"].size * (1 + 0.3 * 4))
    assert five["length"].size > one["length"].size
    assert five["height"].size == one["height"].size


def test_a_male_chameleons_cage_is_not_a_females() -> None:
    """Common practice, no source: size by sex; who does not know builds for the larger."""
    space = find("veiled-chameleon").stages[-1].space
    female, male, unknown = (needs(space, "recommended", 0.17, sex=sex)["height"].size for sex in ("female", "male", "unknown"))
    assert female < male
    assert unknown == male


def test_growth_goes_by_sex_where_the_sexes_differ() -> None:
    """An egg-eater female is twice the male, and outgrows him."""
    eater = find("egg-eating-snake")
    assert eater.body.adult("female").length_cm.middle > 1.4 * eater.body.adult("male").length_cm.middle
    assert expected_length_at(eater, "female", 1100.0) > 1.3 * expected_length_at(eater, "male", 1100.0)
    assert eater.body.adult("unknown").length_cm == eater.body.adult_length_cm


@pytest.mark.parametrize(
    ("animal", "code", "meant"),
    [
        ({"mass_kg": 58.0, "length_m": 0.125}, "animal.mass_unlikely", 0.058),  # grams typed as kilograms
        ({"mass_kg": 0.58, "length_m": 0.125}, "animal.mass_unlikely", 0.058),  # a slipped point
        ({"mass_kg": 0.0058, "length_m": 0.125}, "animal.mass_unlikely", 0.058),
        ({"mass_kg": 3.0, "hatched": None}, "animal.mass_unlikely", None),
        ({"length_m": 1.25, "mass_kg": None}, "animal.length_unlikely", 0.125),  # millimetres typed as centimetres
    ],
)
def test_a_figure_off_the_curve_is_caught_with_its_likely_meaning(animal: dict[str, Any], code: str, meant: float | None) -> None:
    found = assessed(**{f"animal__{name}": value for name, value in animal.items()})
    item = next(finding for finding in found.findings if finding.code == code)
    assert item.severity is Severity.QUESTION
    if meant is not None:
        assert item.remedy is not None
        assert item.remedy.changes[0].value == pytest.approx(meant, rel=0.01)
        mended = read_data(apply(document(**{f"animal__{name}": value for name, value in animal.items()}), item.remedy.changes))
        assert code not in codes(assess(mended, find(mended.species), TODAY, depth=NO_DAYS))


def test_fat_and_thin_are_no_slips() -> None:
    for grams in (35, 58, 90):
        assert "animal.mass_unlikely" not in codes(assessed(animal__mass_kg=grams / 1000))


def test_a_hatch_date_to_come_is_said() -> None:
    assert "animal.not_hatched" in codes(assessed(animal__hatched="2027-05-01"))
    assert "animal.not_hatched" not in codes(assessed(animal__hatched="2026-11-24"))


def test_where_age_and_weight_disagree_the_one_that_leads_is_named() -> None:
    """Common practice, no source: stage by weight."""
    found = assessed(animal__hatched="2026-09-01", animal__mass_kg=0.05, animal__length_m=None)
    disputed = next(item for item in found.findings if item.code == "animal.stage_disputed")
    assert disputed.parameters == {"said": "age: hatchling, mass: adult", "leads": "age"}


def climate(day_c: float) -> RoomClimate:
    case = RoomCase(day_c=day_c, night_c=day_c - 2, humidity_percent=50)
    return RoomClimate(summer=case, winter=case)


def axolotl(day_c: float, **changes: Any) -> Any:
    """A first plan without a chiller."""
    plan = propose("tank", find("axolotl"), Animal(length_m=0.24, hatched="2024-01-01"), climate(day_c), TODAY)  # type: ignore[arg-type]
    return assess(plan.model_copy(update={"heaters": ()} | changes), find("axolotl"), TODAY, depth=NO_DAYS)


def test_an_axolotl_at_26_degrees_is_a_finding_and_in_a_cool_room_all_is_well() -> None:
    warm, cool = axolotl(26.0), axolotl(16.5)
    hot = next(item for item in warm.findings if item.code == "water.warm")
    assert hot.severity is Severity.DANGER
    assert not [item.code for item in cool.findings if item.code.startswith("water.")]
    water = cool.quantity("water_temperature", "summer", "day")
    assert water.verdict is Verdict.INSIDE
    assert 14.5 < (water.value or 0) <= 16.5  # between night and day


def test_a_tank_without_water_is_filled_by_the_remedy() -> None:
    dry = axolotl(16.5, pool=None)
    found = next(item for item in dry.findings if item.code == "water.none")
    assert found.remedy is not None
    pool = found.remedy.changes[0].value
    plan = propose("tank", find("axolotl"), Animal(length_m=0.24), climate(16.5), TODAY)
    assert pool["length_m"] == pytest.approx(plan.enclosure.length_m)
    assert pool["length_m"] * plan.enclosure.width_m * pool["depth_m"] >= 0.07


def test_too_little_water_is_told_in_litres_and_deepened() -> None:
    plan = propose("tank", find("axolotl"), Animal(length_m=0.24), climate(16.5), TODAY)
    assert plan.pool is not None
    low = plan.model_copy(update={"pool": plan.pool.model_copy(update={"depth_m": 0.1})})
    found = assess(low, find("axolotl"), TODAY, depth=NO_DAYS)
    assert {"water.too_little", "water.shallow"} <= codes(found)
    remedy = next(item.remedy for item in found.findings if item.code == "water.too_little")
    assert remedy is not None
    mended = read_data(apply(low.model_dump(mode="json"), remedy.changes))
    assert found.quantity("water_volume").verdict is Verdict.OUTSIDE
    assert assess(mended, find("axolotl"), TODAY, depth=NO_DAYS).quantity("water_volume").verdict is Verdict.INSIDE


def test_a_half_water_tank_has_its_water_at_the_cool_end() -> None:
    """Common practice, no source: litres of water for marsh frogs; land for the rest."""
    plan = propose("marsh", find("southern-bell-frog"), Animal(count=3, length_m=0.08), climate(21.0), TODAY)
    assert isinstance(plan, HabitatPlan)
    assert plan.pool is not None
    assert plan.pool.x_m > plan.enclosure.length_m / 2
    assert 0.5 <= plan.pool.length_m / plan.enclosure.length_m <= 0.6 + 1e-6
    assert plan.pool.x_m + plan.pool.length_m / 2 == pytest.approx(plan.enclosure.length_m, abs=0.001)


def test_a_length_with_the_tail_is_known_for_what_it_is() -> None:
    """Common practice, no source: a leopard gecko of 60 g is 20 cm with its tail and 11 cm from snout to vent."""
    found = assessed(species="leopard-gecko", schools={}, animal={"mass_kg": 0.06, "length_m": 0.20})
    finding = next(item for item in found.findings if item.code in ("animal.mass_unlikely", "animal.length_unlikely"))
    assert finding.remedy is not None
    assert finding.remedy.code == "animal.measured_whole"
    assert finding.remedy.changes[0].value == pytest.approx(0.11, abs=0.015)
