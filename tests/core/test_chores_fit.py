"""Chores fit the animal, and so do eggs: nobody sprays a dry snake, empties a bed of soil, or cuts an egg to size."""

from datetime import time
from typing import Any

import pytest

from husbandry.animal.targets import feed_at
from husbandry.design.first_proposal import propose
from husbandry.diet.foods import foods
from husbandry.feeding.history import History
from husbandry.plan.changes import one_ground
from husbandry.plan.habitat import Animal, RoomCase, RoomClimate
from husbandry.plan.reading import read_data
from husbandry.rota.card import Card, compile_card
from husbandry.species.book import find
from tests.plans import TODAY, assessed, document, plan

ROOM = RoomCase(day_c=22, night_c=19, humidity_percent=45)


def card_of(species: str, animal: dict[str, Any] | None = None, **parts: Any) -> Card:
    profile = find(species)
    made = propose(
        "One",
        profile,
        Animal.model_validate(animal or {"length_m": profile.body.adult_length_cm.middle / 100}),
        RoomClimate(summer=ROOM, winter=ROOM),
        TODAY,
    )
    return compile_card(read_data(made.model_dump(mode="json") | parts), profile, TODAY, History(TODAY))


def keys(card: Card) -> set[str]:
    return {job.key for job in card.jobs}


@pytest.mark.parametrize("species", ["corn-snake", "russian-tortoise", "african-fat-tailed-gecko"])
def test_what_lives_dry_is_not_sprayed_in_the_morning(species: str) -> None:
    """Common practice, no source: water goes on the ground of one end, in the evening."""
    card = card_of(species, misting={"grams_per_day": 40})
    assert "misting" not in keys(card)
    (job,) = (job for job in card.jobs if job.key == "dampen")
    assert job.times == (time(19, 30),)


@pytest.mark.sweep
@pytest.mark.parametrize("species", ["red-eyed-tree-frog", "dart-frog", "crested-gecko"])
def test_what_lives_wet_is_sprayed_twice(species: str) -> None:
    card = card_of(species, misting={"grams_per_day": 40})
    assert len([job for job in card.jobs if job.key == "misting"]) == 2
    assert "dampen" not in keys(card)


def test_times_the_keeper_set_are_kept_whatever_lives_there() -> None:
    card = card_of("corn-snake", misting={"grams_per_day": 0, "times": [{"at": "07:15", "grams": 20}]})
    assert [job.times for job in card.jobs if job.key == "misting"] == [(time(7, 15),)]


def test_a_deep_or_damp_bed_is_renewed_in_parts() -> None:
    """Common practice, no source: 40 L of aspen are thrown out and the box washed; 290 L of soil, or a planted bed, are not."""
    shallow = card_of("corn-snake", ground=one_ground("aspen", 0.04))
    deep = card_of("russian-tortoise", ground=one_ground("sandy-loam", 0.2))
    damp = card_of("fire-salamander", ground=one_ground("soil", 0.05, damp=True))
    assert "deep-clean" in keys(shallow)
    for card in (deep, damp):
        assert "ground-renew" in keys(card)
        assert "deep-clean" not in keys(card)


def test_eggs_come_whole_and_too_wide_ones_are_left_out() -> None:
    """An egg has one size: a hatchling's are a finch's, a grown female's a quail's, and none is a scaled-down one."""
    for grams, wanted in ((12, {"finch-egg"}), (200, {"finch-egg", "quail-egg"})):
        found = assessed(
            species="egg-eating-snake",
            animal={"mass_kg": grams / 1000, "length_m": 0.32 if grams < 50 else 0.85, "sex": "female"},
            schools={},
        )
        pieces = {key: piece for ration in found.menu.rations for key, piece in ration.pieces}
        assert set(pieces) <= wanted
        for key, piece in pieces.items():
            assert piece.mass_kg == pytest.approx((foods()[key].mass_g or 0.0) / 1000)


def test_a_feed_has_a_clock_time_of_its_light() -> None:
    """An evening's meal comes an hour before the lamps go off, whenever that is."""
    late = plan(daylight={"on": "11:00", "off": "23:00"})
    assert feed_at(late, "evening") == time(22, 0)
    assert feed_at(late, "morning") == time(12, 0)
    assert feed_at(late, "day") == time(17, 0)
    assert feed_at(plan(daylight={"on": "00:00", "off": "00:00"}), "evening") == time(19, 0)
    assert read_data(document()).daylight.off == time(20, 0)
