"""The eight species against what is said of them outside this project.

Zones after Baines et al. 2016, recalled; everything else is common practice with no source, or from memory, as the rows say. What
stands in a published table is held against that (tests/core/test_tables.py).
"""

from itertools import pairwise

import pytest

from husbandry.species.book import find, shipped
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

EVERY = [pytest.param(profile, stage, id=f"{profile.id}-{stage.id}") for profile in shipped().values() for stage in profile.stages]
INSECT_EATERS = [item for item in EVERY if item.values[0].diet in ("insects", "powder and insects")]  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("species", "zone"),
    [
        ("leopard-gecko", "1"),
        ("african-fat-tailed-gecko", "1"),
        ("crested-gecko", "1"),
        ("corn-snake", "1"),
        ("central-bearded-dragon", "3"),
        ("hermanns-tortoise", "3"),
        ("russian-tortoise", "3"),
        ("uromastyx", "4"),
        ("royal-python", "1"),
        ("giant-day-gecko", "3"),
    ],
)
def test_zones_of_the_2016_paper(species: str, zone: str) -> None:
    """Baines et al. 2016, recalled."""
    assert find(species).uv_zone.value == zone


@pytest.mark.parametrize(
    ("species", "low", "high"),
    [
        ("central-bearded-dragon", 38, 45),  # common practice, no source
        ("leopard-gecko", 31, 36),
        ("corn-snake", 29, 34),
        ("hermanns-tortoise", 32, 38),
        ("russian-tortoise", 32, 40),
        ("uromastyx", 46, 56),  # common practice, no source: the dwarf monitor and the uromastyx: a stone of 50 and more
        ("blue-tongued-skink", 35, 43),
        ("royal-python", 30, 34),
    ],
)
def test_basking_surfaces_are_where_the_trade_puts_them(species: str, low: float, high: float) -> None:
    """Common practice, no source."""
    for stage in find(species).stages:
        assert stage.heat.basking_surface_c is not None
        band = choose(stage.heat.basking_surface_c, {})
        assert low <= band.middle <= high


@pytest.mark.parametrize("species", ["crested-gecko", "gargoyle-gecko", "whites-tree-frog", "red-eyed-tree-frog"])
def test_who_lives_at_room_temperature_has_no_hot_spot(species: str) -> None:
    """Common practice, no source."""
    for stage in find(species).stages:
        assert stage.heat.basking_surface_c is None
        assert stage.heat.ceiling_c.value <= 32


@pytest.mark.parametrize(
    ("species", "years"),
    [("hermanns-tortoise", 40), ("russian-tortoise", 40), ("leopard-gecko", 10), ("corn-snake", 12), ("whites-tree-frog", 10)],
)
def test_lives_are_as_long_as_buyers_must_be_told(species: str, years: float) -> None:
    """From memory; tortoises outlive their keepers."""
    high = find(species).body.lifespan_years.high
    assert high is not None
    assert high >= years


def test_a_snake_eats_seldomer_with_age_and_by_its_mass() -> None:
    """10–15 % of body mass, weekly when small, at most fortnightly when large (common practice, no source)."""
    stages = find("corn-snake").stages
    for stage in stages:
        (meal, *_rest) = stage.feeding.meals
        assert meal.mass_share_low_percent is not None
        assert 5 <= meal.mass_share_low_percent <= 15
    rhythm = [choose(stage.feeding.interval_days, {}).middle for stage in stages]
    assert rhythm == sorted(rhythm)
    assert rhythm[0] <= 8
    assert rhythm[-1] >= 10
    assert all(stage.feeding.no_supplements_because is not None or stage.feeding.supplements == () for stage in stages)


def test_tortoises_live_on_weeds_and_not_on_fruit() -> None:
    """Common practice, no source."""
    for species in ("hermanns-tortoise", "russian-tortoise"):
        profile = find(species)
        assert profile.diet == "plants"
        foods = " ".join(meal.food + meal.portion for stage in profile.stages for meal in stage.feeding.meals)
        assert "weed" in foods
        assert "cricket" not in foods


@pytest.mark.parametrize(("profile", "stage"), EVERY)
def test_vitamin_d3_by_mouth_is_only_for_who_gets_none_from_a_lamp(profile: Profile, stage: Stage) -> None:
    """D3 and UVB are not both given in full (common clinical advice, from memory)."""
    for item in stage.feeding.supplements:
        if item.product == "calcium with D3" and item.uvb == "with":
            assert (item.every_days or 0) >= 14  # chameleon keepers' fortnight beside UVB (common practice, no source)


@pytest.mark.parametrize(("profile", "stage"), INSECT_EATERS)
def test_whoever_eats_insects_gets_calcium_on_them(profile: Profile, stage: Stage) -> None:
    """An undusted cricket is 0.14 : 1 (Finke 2002, recalled): something with calcium is always in the rota."""
    for uvb in ("with", "without"):
        products = {item.product for item in stage.feeding.supplements if item.uvb in ("either", uvb)}
        assert products & {"plain calcium", "calcium with D3", "all-in-one"}


@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_everybody_carries_a_caution_and_water(profile: Profile) -> None:
    assert all(item.note for item in profile.cautions)
    assert profile.water.value
    if profile.group == "frog":
        assert {"skin", "water"} <= {item.value for item in profile.cautions}
        assert "treated" in profile.water.value


@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_a_hatchling_is_smaller_than_an_adult_and_its_stages_follow_on(profile: Profile) -> None:
    body = profile.body
    assert body.adult_length_cm.low is not None
    assert body.adult_mass_g.low is not None
    assert body.hatch_length_cm.value < body.adult_length_cm.low
    assert body.hatch_mass_g.value < body.adult_mass_g.low
    for earlier, later in pairwise(profile.stages):
        bounds, following = earlier.bounds(earlier.leads), later.bounds(later.leads)
        assert bounds is not None
        assert following is not None
        assert bounds.high == following.low
    assert profile.stages[0].bounds(profile.stages[0].leads).low is None  # type: ignore[union-attr]
    assert profile.stages[-1].bounds(profile.stages[-1].leads).high is None  # type: ignore[union-attr]


def test_whoever_lives_on_crickets_is_dusted() -> None:
    for profile in shipped().values():
        for stage in profile.stages:
            if any("cricket" in meal.foods for meal in stage.feeding.meals):
                assert stage.feeding.supplements, (profile.id, stage.id)
