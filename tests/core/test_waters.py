"""Water to live in: what it is judged by, what warms or cools it, and that it counts where all bands are spoken of."""

from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, Depth, assess
from husbandry.assess.nutrition import body_temperatures_c
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import advise
from husbandry.assessment import Finding, Verdict
from husbandry.design.first_proposal import propose
from husbandry.plan.editing import apply
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.species.book import find
from tests.plans import TODAY, assessed


def tank(species: str, room_c: float, **parts: Any) -> HabitatPlan:
    """A first plan, without the chiller that it may have, in a room that stays the same day and night, summer and winter."""
    case = RoomCase(day_c=room_c, night_c=room_c, humidity_percent=50)
    grown = Animal(length_m=find(species).body.adult_length_cm.middle / 100)
    made = propose("Tank", find(species), grown, RoomClimate(summer=case, winter=case), TODAY)
    document = made.model_dump(mode="json")
    document["heaters"] = [heater for heater in document["heaters"] if heater["kind"] != "water-chiller"]
    return HabitatPlan.model_validate(document | parts)


def look(plan: HabitatPlan) -> Assessment:
    return assess(plan, find(plan.species), TODAY, depth=Depth(days_of=("winter",)))


def of_code(found: Assessment, code: str) -> Finding:
    return next(item for item in found.findings if item.code == code)


def test_an_axolotl_is_judged_by_its_water_and_never_by_the_air_over_it() -> None:
    """Common practice, no source: 22 °C water is too warm for an axolotl; a chiller or a cooler room is the way out."""
    warm = look(tank("axolotl", 22.0))
    assert {item.code for item in warm.findings if item.step == "heat"} == {"water.warm"}
    assert not any(item.step == "moisture" for item in warm.findings)
    for item in warm.quantities:
        if item.key in ("warm_air", "cool_air", "hottest_air", "cool_humidity", "warm_humidity"):
            assert item.verdict is Verdict.NOT_APPLICABLE, item.id
    assert not any(item.key in ("warm_held", "cool_held", "coolest_air", "humidity_held") for item in warm.quantities)
    assert any(item.key == "warm_air" and item.band is not None for item in assessed().quantities)


def test_the_water_counts_where_all_bands_are_spoken_of() -> None:
    cool, warm = look(tank("axolotl", 15.0)), look(tank("axolotl", 22.0))
    item = warm.quantity("water_temperature", "summer", "day")
    assert item.likely is not None
    assert item.likely < 0.1
    assert warm.likely is not None
    assert warm.likely <= item.likely
    assert cool.likely is not None
    assert cool.likely > 0.5


@pytest.mark.sweep
@pytest.mark.parametrize(
    ("species", "room_c", "code", "kinds"),
    [
        ("axolotl", 22.0, "water.warm", {"water-chiller"}),
        ("red-eared-slider", 20.0, "water.cold", {"water-heater"}),
        ("musk-turtle", 16.0, "water.cold", {"water-heater"}),
    ],
)
def test_the_water_is_brought_into_its_band_and_nothing_else_is_made_worse(
    species: str, room_c: float, code: str, kinds: set[str]
) -> None:
    begun = tank(species, room_c)
    assert begun.pool is not None
    # In water without a filter ammonia poisons more the warmer it is: that is another finding's to say.
    begun = begun.model_copy(update={"pool": begun.pool.model_copy(update={"filtered": True})})
    begun = begun.model_copy(update={"heaters": tuple(heater for heater in begun.heaters if "water" not in heater.kind)})
    before = look(begun)
    finding = of_code(advise(begun, find(species), TODAY), code)
    assert finding.remedy is not None
    assert finding.remedy.changes
    mended = HabitatPlan.model_validate(apply(begun.model_dump(mode="json"), finding.remedy.changes))
    assert {heater.kind for heater in mended.heaters} - {heater.kind for heater in begun.heaters} == kinds
    after = look(mended)
    assert not any(item.code == code for item in after.findings)
    assert {item.id for item in after.findings} <= {item.id for item in before.findings}


def test_a_heater_that_is_there_is_set_and_not_doubled() -> None:
    begun = tank("red-eared-slider", 20.0)
    low = begun.model_dump(mode="json")
    for heater in low["heaters"]:
        if heater["kind"] == "water-heater":
            heater["thermostat"]["set_c"] = 20.0
    cold = HabitatPlan.model_validate(low)
    remedy = of_code(look(cold), "water.cold").remedy
    assert remedy is not None
    assert remedy.code == "water.set"
    mended = HabitatPlan.model_validate(apply(low, remedy.changes))
    assert len(mended.heaters) == len(cold.heaters)
    assert not any(item.code == "water.cold" for item in look(mended).findings)


def test_what_lives_in_water_has_the_waters_temperature_in_its_bones() -> None:
    """The energy it spends goes by its own temperature: an axolotl's is the water's, a tortoise with a pool keeps the air's."""
    plan = tank("axolotl", 16.0)
    found = look(plan)
    hours = body_temperatures_c(plan, find("axolotl"), found.body.decision.stage, found.climate, "winter")
    night = found.quantity("water_temperature", "winter", "night").value
    assert hours[2] == pytest.approx(night)
    pool = {"x_m": 1.0, "length_m": 0.2, "depth_m": 0.1}
    gecko = assessed(pool=pool)
    from tests.plans import plan as made

    with_pool = body_temperatures_c(
        made(pool=pool), find("african-fat-tailed-gecko"), gecko.body.decision.stage, gecko.climate, "winter"
    )
    assert with_pool[2] == pytest.approx(gecko.quantity("cool_air", "winter", "night").value)


def test_a_dragon_basks_itself_warm_and_cools_with_the_night() -> None:
    """Its mean came out at 19.4 °C, where about 27 is likely: by day 33 to 38 °C (Huey 1982; recalled), by night the cool end's."""
    profile = find("central-bearded-dragon")
    case = {"day_c": 21.0, "night_c": 19.0, "humidity_percent": 45.0}
    room = RoomClimate.model_validate({"summer": case, "winter": case})
    lit = propose("Dragon", profile, Animal(length_m=0.24, mass_kg=0.4), room, TODAY)
    found = assess(lit, profile, TODAY, depth=NO_DAYS)
    stage = found.body.decision.stage
    hours = body_temperatures_c(lit, profile, stage, found.climate, "winter")
    assert 33.0 <= max(hours) <= 38.0
    assert 25.5 <= sum(hours) / 24 <= 29.0
    dark = lit.model_copy(update={"heaters": ()})
    cold = body_temperatures_c(dark, profile, stage, assess(dark, profile, TODAY, depth=NO_DAYS).climate, "winter")
    assert max(cold) < 25.0
