"""Feeder colonies, sown greens and gut-loads: by degree-days, by parts, against what is published."""

from datetime import date, timedelta

import pytest

from husbandry.diet import gutload
from husbandry.diet.cultures import Culture, begin_every_days, kinds, outlook, rate, vessels_for
from husbandry.diet.foods import foods

STARTED = date(2026, 1, 1)


def test_every_kind_yields_a_food_of_the_table_and_grows_in_its_own_warmth() -> None:
    for key, kind in kinds().items():
        assert kind.food in foods(), key
        assert kind.threshold_c < kind.warm_c[0] < kind.warm_c[1]
        assert kind.warm_c[0] <= kind.at_c <= kind.warm_c[1]
        assert rate(kind, kind.at_c) == pytest.approx(1.0)


def test_flies_take_as_much_longer_in_the_cool_as_is_published() -> None:
    """Egg to adult 8.5 days at 25 °C and 19 at 18 °C (Ashburner 1989, Drosophila; from memory): 2.2 times as long."""
    fly = kinds()["fruit-fly"]
    assert rate(fly, 25.0) / rate(fly, 18.0) == pytest.approx(19 / 8.5, rel=0.05)
    assert rate(fly, 10.0) == 0.0


def test_a_culture_gives_from_its_first_day_until_it_is_worn_and_more_in_warmth() -> None:
    fly = kinds()["fruit-fly"]
    warm = Culture(fly, 4, 25.0, STARTED)
    found = outlook(warm, STARTED + timedelta(days=20))
    assert found.first == STARTED + timedelta(days=12)
    assert found.a_week == pytest.approx(4 * 150)
    assert outlook(warm, STARTED + timedelta(days=11)).a_week == 0
    assert outlook(warm, STARTED + timedelta(days=12 + 25)).a_week == 0
    cool = outlook(Culture(fly, 4, 18.0, STARTED), STARTED + timedelta(days=40))
    assert 0 < cool.a_week < 0.5 * 4 * 150
    assert cool.warmth == "cold"


def test_too_hot_and_too_cold_stand_still() -> None:
    roach = kinds()["dubia-roach"]
    for temperature_c in (12.0, 39.0):
        found = outlook(Culture(roach, 1, temperature_c, STARTED), date(2027, 1, 1))
        assert (found.warmth, found.a_week, found.first) == ("still", 0.0, None)
        assert vessels_for(roach, 50, temperature_c) is None


def test_a_split_counts_from_the_last_one() -> None:
    springtail = kinds()["springtail"]
    before = outlook(Culture(springtail, 1, 22.0, STARTED), STARTED)
    after = outlook(Culture(springtail, 1, 22.0, STARTED, STARTED + timedelta(days=30)), STARTED)
    assert before.split is not None
    assert after.split == before.split + timedelta(days=30)


def test_as_many_vessels_as_the_rota_uses_and_one_begun_after_the_other() -> None:
    fly = kinds()["fruit-fly"]
    assert vessels_for(fly, 450, 25.0) == 3
    assert vessels_for(fly, 451, 25.0) == 4
    assert begin_every_days(fly, 450, 25.0) == 8
    assert begin_every_days(fly, 0, 25.0) is None


def test_a_gut_load_by_parts_holds_what_its_parts_hold() -> None:
    parts = {"collard": 3.0, gutload.CARBONATE: 1.0}
    found = gutload.mix(parts, 200.0)
    assert found.grams == {"collard": 150.0, gutload.CARBONATE: 50.0}
    collard = foods()["collard"]
    dry = 0.75 * collard.dry_share + 0.25
    assert found.calcium_share == pytest.approx((0.75 * collard.calcium_mg / 1e6 + 0.25 * 0.4004) / dry)
    assert found.verdict == "harmful"
    assert gutload.mix({"carrot": 1.0}, 10.0).verdict == "low"
    assert gutload.mix({"carrot": 1.0}, 10.0).keeps_badly


def test_eight_percent_of_calcium_do() -> None:
    """Eight percent of dry matter for two days (Allen and Oftedal 1989; from memory)."""
    pellets = foods()["pellet"]
    assert pellets.calcium_mg is not None
    found = gutload.mix({"pellet": 80.0, gutload.CARBONATE: 20.0}, 100.0)
    assert found.calcium_share is not None
    assert found.calcium_share > 0.08
    assert found.verdict in ("good", "harmful")


@pytest.mark.parametrize("parts", [{}, {"carrot": 0.0}, {"carrot": -1.0}])
def test_a_mix_of_nothing_is_none(parts: dict[str, float]) -> None:
    with pytest.raises(ValueError, match="parts"):
        gutload.mix(parts, 100.0)


def test_an_unknown_part_is_refused() -> None:
    with pytest.raises(KeyError):
        gutload.mix({"plutonium": 1.0}, 100.0)
