"""Those that live in a habitat as its plan has them, and two kinds in one enclosure."""

from datetime import date

import pytest

from husbandry.animal.residents import Resident, as_planned
from husbandry.design.mixing import mixed
from husbandry.plan.habitat import Animal
from husbandry.species.book import find
from tests.plans import TODAY, plan

GECKO = find("african-fat-tailed-gecko")


def test_a_plan_has_the_first_of_a_group_and_counts_the_rest() -> None:
    made = as_planned(
        [
            Resident("Samphire", "female", date(2024, 5, 1), mass_kg=0.06, length_m=0.13),
            Resident("Sedge", "male", date(2024, 6, 1), mass_kg=0.05, length_m=0.12),
            Resident("", "unknown", date(2026, 11, 1), mass_kg=0.004, length_m=0.05),
        ],
        GECKO,
        TODAY,
    )
    assert (made.name, made.sex, made.mass_kg, made.count, made.males) == ("Samphire", "female", 0.06, 3, 1)
    assert (made.others, made.young, made.smallest_m) == (("Sedge",), 1, 0.05)


def test_one_alone_is_no_group_and_nobody_is_no_animal() -> None:
    made = as_planned([Resident("Thrift", "male")], GECKO, TODAY)
    assert (made.count, made.males, made.young, made.others, made.smallest_m) == (1, None, 0, (), None)
    with pytest.raises(ValueError, match="nobody"):
        as_planned([], GECKO, TODAY)


def test_a_salamander_in_a_geckos_box_is_in_danger_and_their_bands_do_not_meet() -> None:
    # A kind that must never pass about 20 °C beside one that basks above 30 (common practice, no source).
    found = mixed(plan(), GECKO, Animal(mass_kg=0.03, length_m=0.18), find("fire-salamander"), TODAY)
    assert not found.possible
    assert {pair.ours.key for pair in found.apart} >= {"warm_air", "cool_air"}
    assert found.dangers
    assert all(pair.shared is None for pair in found.apart)


def test_a_snake_more_than_twice_as_long_looks_at_a_gecko_as_prey() -> None:
    found = mixed(plan(), GECKO, Animal(mass_kg=0.5, length_m=1.2), find("corn-snake"), TODAY)
    assert found.larger == "theirs"
    assert not found.possible
    turned = mixed(plan(), GECKO, Animal(mass_kg=0.002, length_m=0.03), find("leopard-gecko"), TODAY)
    assert turned.larger == "ours"


def test_two_alike_are_not_ruled_out_by_size_and_share_what_both_want() -> None:
    found = mixed(plan(), GECKO, Animal(mass_kg=0.055, length_m=0.12), find("leopard-gecko"), TODAY)
    assert found.larger == ""
    for pair in found.bands:
        ours, theirs = pair.ours.band, pair.theirs.band
        if pair.shared is not None and ours is not None and theirs is not None:
            low, high = pair.shared
            middle = ((low if low is not None else high or 0.0) + (high if high is not None else low or 0.0)) / 2
            for band in (ours, theirs):
                assert band.low is None or band.low <= middle
                assert band.high is None or middle <= band.high


def test_a_kind_beside_itself_wants_what_it_wants_and_adds_no_danger() -> None:
    made = plan()
    found = mixed(made, GECKO, made.animal, GECKO, TODAY)
    assert all(pair.shared == (pair.ours.band.low, pair.ours.band.high) for pair in found.bands if pair.ours.band is not None)
    assert (found.apart, found.larger, found.wrongs) == ((), "", ())
