"""What comes with an animal: infections a veterinarian tests for, quarantine, water, and what is never fed nor grown beside it."""

from datetime import date, timedelta
from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.vetting import applied
from husbandry.assessment import Change, Finding
from husbandry.codes import FindingCode
from husbandry.design.first_proposal import propose
from husbandry.diet.never import NEVER, STANDING
from husbandry.plan.editing import apply
from husbandry.plan.geometry import top_of
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.species.book import find, shipped
from tests.plans import TODAY, plan

# What clinics name first for each kind, from memory, no source.
FIRST = {
    "common-boa": "reptarenavirus",
    "royal-python": "nidovirus",
    "corn-snake": "Cryptosporidium",
    "leopard-gecko": "Cryptosporidium",
    "central-bearded-dragon": "adenovirus",
    "hermanns-tortoise": "herpesvirus",
    "sulcata-tortoise": "Mycoplasma",
    "box-turtle": "ranavirus",
    "dart-frog": "chytrid",
    "fire-salamander": "salamandrivorans",
}


@pytest.mark.parametrize("key", shipped())
def test_the_book_says_what_to_test_for_and_how_long_a_new_one_stays_apart(key: str) -> None:
    profile = find(key)
    assert profile.health is not None
    assert len(profile.health.screen_for) >= 3
    assert 4 <= profile.health.quarantine_weeks.least < profile.health.quarantine_weeks.most <= 52
    if key in FIRST:
        assert any(FIRST[key] in item.value for item in profile.health.screen_for)
    apart = " ".join(item.value for item in profile.health.never_with)
    if profile.group == "tortoise" and key != "box-turtle":
        assert "tortoises of another species" in apart
        assert profile.health.quarantine_weeks.least >= 26
    if profile.group in ("frog", "salamander"):
        assert "amphibian" in apart
    assert any("salmonella" in item.value for item in profile.health.zoonoses)
    in_water = any(rule.rule == "volume" for stage in profile.stages for rule in stage.space.rules)
    assert (profile.water_chemistry is not None) == in_water


def told(**upkeep: Any) -> tuple[HabitatPlan, list[Finding]]:
    made = plan(upkeep={name: day.isoformat() for name, day in upkeep.items()})
    found = assess(made, find(made.species), TODAY, depth=NO_DAYS).findings
    return made, [item for item in found if item.code == FindingCode.QUARANTINE_SHORT]


def test_a_new_animal_stays_apart_as_long_as_its_kind_does() -> None:
    """Common practice, no source: a gecko two to three months, by its tests."""
    day = timedelta(days=1)
    assert told()[1] == []
    assert told(arrived=TODAY - 200 * day)[1] == []
    assert told(arrived=TODAY - 5 * day, quarantine_until=TODAY + 80 * day)[1] == []
    for upkeep in ({"arrived": TODAY - 5 * day}, {"arrived": TODAY - 5 * day, "quarantine_until": TODAY + 10 * day}):
        made, (said,) = told(**upkeep)
        assert said.remedy is not None
        after = HabitatPlan.model_validate(applied(made, said.remedy.changes))
        assert after.upkeep.quarantine_until == TODAY + 51 * day
        assert after.ground.kind == "paper"
        assert FindingCode.QUARANTINE_SHORT not in {item.code for item in assess(after, find(made.species), TODAY).findings}


@pytest.mark.sweep
@pytest.mark.parametrize("key", ["red-eyed-tree-frog", "giant-day-gecko", "dart-frog"])
def test_what_lives_damp_is_kept_apart_on_damp_paper(key: str) -> None:
    """Common practice, no source: paper towels, wet for what dries out; its branch stays under the lamp."""
    profile = find(key)
    room = RoomClimate(
        summer=RoomCase(day_c=24.0, night_c=20.0, humidity_percent=55.0),
        winter=RoomCase(day_c=20.0, night_c=17.0, humidity_percent=45.0),
    )
    made = propose("Marram", profile, Animal(hatched=date(2023, 6, 1)), room, TODAY)
    new = HabitatPlan.model_validate(apply(made.model_dump(mode="json"), (Change("upkeep.arrived", TODAY.isoformat()),)))
    assert new.ground.damp
    (said,) = [item for item in assess(new, profile, TODAY).findings if item.code == FindingCode.QUARANTINE_SHORT]
    assert said.remedy is not None
    after = HabitatPlan.model_validate(applied(new, said.remedy.changes))
    assert (after.ground.kind, after.ground.damp) == ("paper", True)
    branches = [top_of(plan, plan.platform) for plan in (new, after) if plan.platform is not None]
    assert len(branches) in (0, 2)
    assert branches[:1] == pytest.approx(branches[1:], abs=0.001)


def test_what_poisons_is_neither_fed_nor_grown() -> None:
    """The plants and animals that clinics warn of, from memory, no source."""
    listed = " ".join(item.food for item in NEVER)
    plants = ("yew", "oleander", "box", "rhododendron", "laburnum", "hemlock", "nightshade", "foxglove", "milkweed")
    for name in (*plants, "toads", "worms", "fireflies", "blister", "monarchs", "avocado"):
        assert name in listed, name
    assert all(any(name in item.food for item in STANDING) for name in plants)


# ---- reproduction ----

# What breeders reckon with: °C, days. From memory, no source.
BROODED = {
    "leopard-gecko": (31.0, 38, 50),
    "central-bearded-dragon": (28.0, 60, 75),
    "corn-snake": (28.0, 55, 70),
    "royal-python": (31.5, 53, 62),
    "veiled-chameleon": (26.0, 180, 270),
    "hermanns-tortoise": (31.5, 54, 70),
    "sulcata-tortoise": (30.0, 85, 125),
    "panther-chameleon": (24.0, 190, 310),
}


@pytest.mark.parametrize("key", shipped())
def test_eggs_hatch_sooner_the_warmer_they_lie(key: str) -> None:
    breeds = find(key).reproduction
    assert breeds is not None
    points = sorted(breeds.incubation, key=lambda item: item.temperature_c)
    for cool, warm in pairwise(points):
        assert cool.temperature_c < warm.temperature_c
        assert warm.days_low < cool.days_low
        assert warm.days_high < cool.days_high
    assert 1 <= breeds.vet_after_days.value <= 14
    if breeds.lays_alone and find(key).group != "lizard":
        assert breeds.bears == "eggs"


@pytest.mark.parametrize(("key", "brooded"), BROODED.items())
def test_incubation_is_what_breeders_reckon_with(key: str, brooded: tuple[float, float, float]) -> None:
    """Between the book's points, straight in the rate of development."""
    at_c, least, most = brooded
    breeds = find(key).reproduction
    assert breeds is not None
    points = sorted(breeds.incubation, key=lambda item: item.temperature_c)
    rates = [2 / (item.days_low + item.days_high) for item in points]
    days = 1 / float(np.interp(at_c, [item.temperature_c for item in points], rates))
    assert least <= days <= most


def test_a_grown_female_that_lays_without_a_male_needs_ground_for_it() -> None:
    """Common practice, no source: chameleons 20 to 30 cm of ground that holds a tunnel."""
    for key, sex, length_m, depth_m, asked in (
        ("veiled-chameleon", "female", 0.2, 0.05, True),
        ("veiled-chameleon", "female", 0.2, 0.25, False),
        ("veiled-chameleon", "male", 0.2, 0.05, False),
        ("veiled-chameleon", "female", 0.06, 0.05, False),
        ("corn-snake", "female", 1.3, 0.04, True),
        ("jacksons-chameleon", "female", 0.13, 0.05, False),
    ):
        bare: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}
        made = plan(species=key, schools={}, animal={"sex": sex, "length_m": length_m}, ground__depth_m=depth_m, **bare)
        found = {item.code for item in assess(made, find(key), TODAY, depth=NO_DAYS).findings}
        assert (FindingCode.LAYING_SITE in found) is asked, (key, sex, depth_m)
