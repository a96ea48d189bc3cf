"""The book: rules that hold over every profile, and the life stage of an animal."""

import tomllib
from importlib import resources
from itertools import pairwise

import pytest
from pydantic import ValidationError

from husbandry.light.ultraviolet import ZONE_HIGHEST
from husbandry.species.book import UnknownSpeciesError, find, shipped
from husbandry.species.leaves import Range, choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.species.stages import decide_stage, expected_length_m, expected_mass_kg

STAGES = [pytest.param(profile, stage, id=f"{profile.id}-{stage.id}") for profile in shipped().values() for stage in profile.stages]


def middle(leaves: tuple[Range, ...]) -> Range:
    return choose(leaves, {})


def test_the_book_holds_what_the_learning_room_keeps() -> None:
    assert set(shipped()) >= {
        "leopard-gecko", "african-fat-tailed-gecko", "crested-gecko", "central-bearded-dragon", "corn-snake", "hermanns-tortoise",
        "russian-tortoise", "whites-tree-frog", "blue-tongued-skink", "uromastyx", "california-king-snake", "garter-snake",
        "giant-day-gecko", "red-eyed-tree-frog",
    }  # fmt: skip


def test_an_unknown_species_is_said_with_those_there_are() -> None:
    with pytest.raises(UnknownSpeciesError) as unknown:
        find("sea-serpent")
    assert "corn-snake" in unknown.value.known


@pytest.mark.parametrize(("profile", "stage"), STAGES)
def test_temperatures_stand_in_order(profile: Profile, stage: Stage) -> None:
    heat = stage.heat
    night, cool, warm = middle(heat.night_c), middle(heat.cool_air_c), middle(heat.warm_air_c)
    assert night.low is not None
    assert cool.low is not None
    assert warm.high is not None
    assert night.low <= cool.low
    assert cool.middle < warm.middle
    assert warm.high <= heat.ceiling_c.value
    if heat.basking_surface_c is not None:
        assert warm.middle < middle(heat.basking_surface_c).middle


@pytest.mark.parametrize(("profile", "stage"), STAGES)
def test_humidity_is_a_share_and_the_humid_hide_is_the_wettest(profile: Profile, stage: Stage) -> None:
    day, night = middle(stage.moisture.day_percent), middle(stage.moisture.night_percent)
    for band in (day, night):
        assert band.low is not None
        assert band.high is not None
        assert 0 <= band.low < band.high <= 100
    assert night.middle >= day.middle
    if stage.moisture.humid_hide_percent:
        assert middle(stage.moisture.humid_hide_percent).middle > night.middle - 1


@pytest.mark.parametrize(("profile", "stage"), STAGES)
def test_uv_stays_within_what_the_zone_was_met_in(profile: Profile, stage: Stage) -> None:
    """Ferguson et al. 2010 and Baines et al. 2016, zones recalled."""
    for band in stage.light.uv_index or ():
        assert (band.high or 0.0) <= ZONE_HIGHEST[profile.uv_zone.value]


@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_space_never_shrinks_and_feeds_never_come_faster_with_age(profile: Profile) -> None:
    def floor(stage: Stage) -> float:
        return max(rule.length * rule.width for rule in stage.space.rules if rule.rule == "fixed")

    for earlier, later in pairwise(profile.stages):
        assert floor(later) >= floor(earlier)
        assert middle(later.feeding.interval_days).middle >= middle(earlier.feeding.interval_days).middle


def test_a_value_without_its_basis_is_no_profile() -> None:
    text = (resources.files("husbandry.species") / "data" / "corn-snake.toml").read_text("utf-8")
    Profile.model_validate(tomllib.loads(text))
    with pytest.raises(ValidationError, match="basis"):
        Profile.model_validate(
            tomllib.loads(text.replace('ceiling_c = { value = 36, basis = "practice" }', "ceiling_c = { value = 36 }"))
        )
    with pytest.raises(ValidationError, match="cite"):
        Profile.model_validate(tomllib.loads(text.replace('cite = "Baines et al. 2016 (recalled)"', 'cite = ""')))


def test_a_gap_between_stages_is_no_profile() -> None:
    text = (resources.files("husbandry.species") / "data" / "corn-snake.toml").read_text("utf-8")
    with pytest.raises(ValidationError, match="gap or overlap"):
        Profile.model_validate(tomllib.loads(text.replace("mass_g = { low = 250", "mass_g = { low = 260")))


def test_weight_leads_for_a_snake_and_age_for_a_gecko() -> None:
    snake = decide_stage(find("corn-snake"), age_days=2000, mass_kg=0.1, length_m=None)
    assert (snake.stage.id, snake.decided_by, snake.disputed) == ("juvenile", "mass", True)
    gecko = decide_stage(find("leopard-gecko"), age_days=200, mass_kg=0.05, length_m=None)
    assert (gecko.stage.id, gecko.decided_by) == ("juvenile", "age")


def test_without_the_leading_measure_another_decides_and_without_any_an_adult_stands_in() -> None:
    by_mass = decide_stage(find("leopard-gecko"), age_days=None, mass_kg=0.01, length_m=None)
    assert (by_mass.stage.id, by_mass.decided_by) == ("hatchling", "mass")
    unknown = decide_stage(find("leopard-gecko"), age_days=None, mass_kg=None, length_m=None)
    assert (unknown.stage.id, unknown.decided_by) == ("adult", "")


def test_a_bound_belongs_to_the_older_stage() -> None:
    assert decide_stage(find("corn-snake"), age_days=None, mass_kg=0.250, length_m=None).stage.id == "adult"


def test_length_and_mass_answer_for_each_other() -> None:
    profile = find("corn-snake")
    assert expected_mass_kg(profile, expected_length_m(profile, 0.3)) == pytest.approx(0.3)
