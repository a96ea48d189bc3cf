"""What comes with an animal: infections a veterinarian tests for, quarantine, water, and what is never fed nor grown beside it."""

from datetime import timedelta
from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.vetting import applied
from husbandry.assessment import Finding
from husbandry.codes import FindingCode
from husbandry.diet.never import NEVER, STANDING
from husbandry.plan.habitat import HabitatPlan
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
        assert FindingCode.QUARANTINE_SHORT not in {item.code for item in assess(after, find(made.species), TODAY).findings}


def test_what_poisons_is_neither_fed_nor_grown() -> None:
    """The plants and animals that clinics warn of, from memory, no source."""
    listed = " ".join(item.food for item in NEVER)
    plants = ("yew", "oleander", "box", "rhododendron", "laburnum", "hemlock", "nightshade", "foxglove", "milkweed")
    for name in (*plants, "toads", "worms", "fireflies", "blister", "monarchs", "avocado"):
        assert name in listed, name
    assert all(any(name in item.food for item in STANDING) for name in plants)
