"""What keepers do besides sizes: the book has each habit, as the usual way or as a school of its own.

Common practice, no source: the numbers are those of the trade. Sizes are held in test_trade_setups.py.
"""

import pytest

from husbandry.species.book import find
from husbandry.species.leaves import Range, Ranges, choose
from husbandry.species.stage import Meal

# What, species, stage, value, school, from, to. Without a school it is what the book does by itself.
BANDS: list[tuple[str, str, str, str, str, float, float]] = [
    ("coir and topsoil of 7 to 8 cm", "hermanns-tortoise", "juvenile", "ground.depth_cm", "", 7, 8),
    ("fed daily to six months", "leopard-gecko", "hatchling", "feeding.interval_days", "", 1, 1),
    ("then every second day", "leopard-gecko", "juvenile", "feeding.interval_days", "", 2, 2),
    ("then every third", "leopard-gecko", "adult", "feeding.interval_days", "", 3, 3),
    ("warm by a mat", "leopard-gecko", "adult", "heat.mat_surface_c", "", 31, 32),
    ("fed weekly when small", "brazilian-rainbow-boa", "neonate", "feeding.interval_days", "", 7, 7),
    ("grown, drier", "brazilian-rainbow-boa", "adult", "moisture.day_percent", "humidity:dry", 50, 70),
    ("grown, moist", "brazilian-rainbow-boa", "adult", "moisture.day_percent", "", 70, 80),
    ("ground of 10 cm and more", "ridge-tailed-monitor", "hatchling", "ground.depth_cm", "", 10, 20),
    ("deep in a dug-in tub only", "ridge-tailed-monitor", "adult", "ground.depth_cm", "ground:part", 1, 5),
    ("a stone of 38 °C", "ridge-tailed-monitor", "adult", "heat.basking_surface_c", "basking:mild", 38, 38),
    ("older advice: ground of 20 to 30 cm", "savanna-monitor", "adult", "ground.depth_cm", "ground:older", 20, 30),
    ("2 to 3 cm of aspen", "egg-eating-snake", "adult", "ground.depth_cm", "", 2, 3),
    ("a hot spot of 28 to 33 °C", "dwarf-sand-gecko", "adult", "heat.basking_surface_c", "basking:mild", 28, 33),
    ("slow growth", "leopard-tortoise", "juvenile", "heat.basking_surface_c", "basking:slow", 31, 32),
    ("slow growth", "sulcata-tortoise", "juvenile", "heat.basking_surface_c", "basking:slow", 31, 32),
    ("warm", "leopard-tortoise", "juvenile", "heat.basking_surface_c", "basking:warm", 35, 38),
    ("warm", "sulcata-tortoise", "juvenile", "heat.basking_surface_c", "basking:warm", 35, 38),
    ("50 to 60 % grown", "leopard-tortoise", "adult", "moisture.day_percent", "", 50, 60),
    ("50 to 60 % grown", "sulcata-tortoise", "adult", "moisture.day_percent", "", 50, 60),
    ("fed weekly when small", "burmese-python", "hatchling", "feeding.interval_days", "", 7, 7),
    ("at most fortnightly later", "common-boa", "juvenile", "feeding.interval_days", "", 14, 14),
    ("grown, every two to six weeks", "common-boa", "adult", "feeding.interval_days", "interval:slow", 28, 42),
    ("grown, every two to six weeks", "burmese-python", "adult", "feeding.interval_days", "interval:slow", 21, 35),
    ("30 cm of layered ground", "desert-horned-lizard", "adult", "ground.depth_cm", "", 30, 30),
]


def _bands(species: str, stage: str, value: str) -> Ranges:
    part, _dot, name = value.partition(".")
    found: Ranges = getattr(getattr(find(species).stage(stage), part), name)
    return found


def _picked(bands: Ranges, school: str) -> Range:
    topic, _colon, name = school.partition(":")
    if school:
        assert school in {part for band in bands for part in band.school.split()}
    return choose(bands, {topic: name} if school else {})


@pytest.mark.parametrize(
    ("species", "stage", "value", "school", "low", "high"), [row[1:] for row in BANDS], ids=[f"{row[1]}: {row[0]}" for row in BANDS]
)
def test_what_keepers_do_stands_in_the_book(species: str, stage: str, value: str, school: str, low: float, high: float) -> None:
    band = _picked(_bands(species, stage, value), school)
    assert band.least <= low <= high <= band.most


def _meals(species: str, stage: str, school: str) -> list[Meal]:
    return [meal for meal in find(species).stage(stage).feeding.meals if school in meal.school.split()]


def test_how_keepers_feed_stands_in_the_book() -> None:
    young, grown = (_meals("central-bearded-dragon", stage, "ration:spare") for stage in ("juvenile", "adult"))
    assert [(meal.count_low, meal.count_high, meal.per_week) for meal in (*young, *grown)] == [(5, 6, 3.5), (4, 5, 2.0)]
    greens = [meal for meal in find("central-bearded-dragon").stage("adult").feeding.meals if meal.portion]
    assert [meal.per_week for meal in greens] == [None]  # with each feed, and it is fed daily: three times a week and more
    powders = find("central-bearded-dragon").stage("adult").feeding.supplements
    assert [item.every_days for item in powders if item.product == "multivitamin"] == [14.0]
    for stage in ("hatchling", "juvenile", "adult"):
        lying = _meals("egg-eating-snake", stage, "offer:lying")
        assert lying
        assert all(meal.fresh_days == 14.0 for meal in lying)
        beside = _meals("crested-gecko", stage, "insects:beside")
        assert {bool(meal.portion) for meal in beside} == {True, False}  # the powder diet, and insects
    for species in ("burmese-python", "reticulated-python"):
        small = _meals(species, "hatchling", "meal:share")
        assert all((meal.mass_share_low_percent or 0) < 15 and (meal.mass_share_high_percent or 0) >= 10 for meal in small)


def test_who_keepers_keep_together_stands_in_the_book() -> None:
    geckos = {item.school: item for item in find("dwarf-sand-gecko").together}
    assert (geckos["company:group"].most, geckos["company:males"].most_males, geckos["company:males"].most) == (4, 2, 5)
    assert "company:pair" in {item.school for item in find("egg-eating-snake").together}


def test_numbers_that_are_often_repeated_are_no_default() -> None:
    """A tortoise's damp hide at 30 to 40 %, a dry rainbow boa, a monitor's cool stone, a large monitor's shallow ground."""
    for species in ("leopard-tortoise", "sulcata-tortoise", "hermanns-tortoise", "greek-tortoise"):
        for stage in find(species).stages:
            assert all(band.least >= 75 for band in stage.moisture.humid_hide_percent or ()), (species, stage.id)
    assert find("brazilian-rainbow-boa").stage("adult").heat.harmful_c["warm"] <= 30.0
    for stage in find("brazilian-rainbow-boa").stages:
        assert all(band.most <= 29.4 for band in stage.heat.warm_air_c)
    assert choose(_bands("brazilian-rainbow-boa", "adult", "moisture.day_percent"), {}).least >= 70
    assert choose(_bands("ridge-tailed-monitor", "adult", "heat.basking_surface_c"), {}).least >= 50
    assert choose(_bands("savanna-monitor", "adult", "ground.depth_cm"), {}).least >= 60
    for species in ("leopard-tortoise", "sulcata-tortoise"):  # no night under 21 °C while it is small
        assert all(band.least >= 21 for band in find(species).stages[0].heat.night_c)
