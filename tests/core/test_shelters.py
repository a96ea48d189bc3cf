"""What a species hides in, by its words, and what of that is missing."""

import pytest

from husbandry.inputs.shelters import HIDES, missing, shelter_of
from husbandry.species.book import shipped
from tests.core.test_furniture import found_in, mended, with_things
from tests.plans import assessed_as, codes, plan


@pytest.mark.parametrize(
    ("words", "shelter"),
    [
        ("warm hide", "warm"),
        ("cool burrow", "cool"),
        ("damp hide", "humid"),
        ("moist hide in the ground", "humid"),
        ("deep damp ground to sit in", "ground"),
        ("loose sand to bury in", "ground"),
        ("deep leaf litter", "litter"),
        ("cover up to the lid", "cover"),
        ("reeds and roots", "cover"),
        ("rolled leaf or bamboo", "cover"),
        ("a broad branch under the lamp", "perch"),
        ("hollow branch high up", "tube"),
        ("tight rock crevice", "stack"),
        ("cave or pipe under water", "cave"),
        ("half coconut", "hide"),
    ],
)
def test_words_of_the_book_are_understood(words: str, shelter: str) -> None:
    assert shelter_of(words) == shelter


def test_no_species_asks_for_a_box_where_it_wants_leaves() -> None:
    """The chameleons of the book want plants and cover, and no hide (common practice, no source)."""
    for name, profile in shipped().items():
        for stage in profile.stages:
            kinds = {shelter_of(hide.value) for hide in profile.hides_of(stage)}
            assert ("chameleon" in name) <= kinds.isdisjoint(HIDES)


def test_leaves_litter_and_perches_stand_for_no_hide_and_no_hide_for_them() -> None:
    made = plan()
    assert missing(made, ["warm hide", "cool hide", "half coconut"]) == {}
    assert missing(made, ["warm hide"] * 4) == {"hide": 1}
    assert missing(made, ["dense plants", "leaf litter", "deep damp ground to sit in"]) == {"cover": 1, "litter": 1}
    assert missing(plan(plants="many"), ["dense plants", "bromeliads"]) == {}


@pytest.mark.parametrize(("species", "length_m"), [("veiled-chameleon", 0.2), ("dart-frog", 0.035), ("box-turtle", 0.14)])
def test_all_that_is_missing_is_added_by_one_button(species: str, length_m: float) -> None:
    made = with_things(species=species, schools={}, animal={"length_m": length_m})
    assert found_in(made, "space.hides") is not None
    after = codes(mended(made, "space.hides"))
    assert not after & {"space.hides", "space.overlap", "space.overlap_alike"}


def test_reeds_may_stand_in_the_water_and_a_cave_on_land_may_not() -> None:
    pool = {"x_m": 0.9, "length_m": 0.6, "depth_m": 0.2}
    reeds = {"kind": "fake-plant", "x_m": 0.9, "y_m": 0.4, "length_m": 0.15, "width_m": 0.15, "height_m": 0.3}
    cave = {"kind": "cave", "x_m": 0.9, "y_m": 0.4, "length_m": 0.2, "width_m": 0.2, "height_m": 0.1}
    animal = {"animal": {"length_m": 0.08}, "schools": {}, "species": "southern-bell-frog", "pool": pool}
    assert "space.in_pool" not in codes(assessed_as(with_things(reeds, **animal)))
    assert "space.in_pool" in codes(assessed_as(with_things(cave, **animal)))


def test_no_warm_hide_is_asked_for_where_only_the_basking_place_is_warm() -> None:
    """A slate as deep as the box leaves a hide no room beside it: what its own ground reaches is no hide's place."""
    hide = {"kind": "hide", "x_m": 1.0, "y_m": 0.38, "length_m": 0.18, "height_m": 0.08}
    narrow, wide = (
        with_things(hide, platform__length_m=0.4, platform__x_m=0.25, platform__width_m=width_m) for width_m in (0.2, 0.48)
    )
    first, second = (found_in(made, "space.no_warm_hide") for made in (narrow, wide))
    assert first is not None
    assert second is None or second.parameters["place"].value > 0.45
