"""Why a band is not held: each reason is true of the enclosure, and is given only where a trial shows it."""

from dataclasses import replace

import pytest

from husbandry.animal.subject import subject_of
from husbandry.assess.assess import NO_DAYS, Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import advise
from husbandry.assessment import Measure, Reason, Verdict
from husbandry.climate.steady import solve_steady
from husbandry.codes import ReasonCode
from husbandry.design.first_proposal import propose
from husbandry.design.limits import first_of_each, limits
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.species.book import find
from tests.plans import TODAY, plan


def room(day_c: float, night_c: float, percent: float) -> RoomClimate:
    case = RoomCase(day_c=day_c, night_c=night_c, humidity_percent=percent)
    return RoomClimate(summer=case, winter=case)


def looked_at(made: HabitatPlan) -> tuple[Assessment, dict[str, Reason]]:
    profile = find(made.species)
    found = assess(made, profile, TODAY, depth=NO_DAYS)
    return found, {item.quantity.id: item.reason for item in limits(made, profile, found)}


def number(reason: Reason, name: str) -> float:
    value = reason.parameters[name]
    assert isinstance(value, Measure)
    return value.value


def test_a_plan_in_order_has_no_limits() -> None:
    assert looked_at(plan())[1] == {}


def test_a_room_too_warm_for_a_salamander_is_said_with_what_it_gives() -> None:
    """Common practice, no source: what likes it cool cannot be cooled by any lamp; the number is the box's with nothing on."""
    made = propose("cold", find("fire-salamander"), Animal(length_m=0.18), room(26.0, 23.0, 60.0), TODAY)
    found, said = looked_at(made)
    reason = said["cool_air/summer/day"]
    assert reason.code == "limit.room_warm"
    bare = solve_steady(replace(enclosure_case(made), heaters=()), spread=False).states["summer", "day"]
    assert number(reason, "off") == pytest.approx(bare.predictions["cool_air"].value)
    assert number(reason, "off") > number(reason, "most")
    off = [item.id for item in found.quantities if item.key in ("warm_air", "cool_air") and item.verdict is Verdict.DANGEROUS]
    assert set(off) <= set(said)
    assert len(first_of_each(limits(made, find(made.species), found))) < len(said)


def test_heat_that_another_band_needs_is_named_with_that_band() -> None:
    """A young royal python in a 26 °C room: with less heat the cool end would hold, and another band would be left below."""
    made = propose("warm", find("royal-python"), Animal(mass_kg=0.08), room(26.0, 23.0, 60.0), TODAY, (0.46, 0.3, 0.2))
    found, said = looked_at(made)
    reason = said["cool_air/summer/day"]
    assert reason.code == "limit.needed_elsewhere"
    other = next(
        item
        for item in found.quantities
        if item.key == reason.parameters["quantity"] and item.season == "summer" and item.phase == "day"
    )
    assert other.band is not None
    assert number(reason, "least") == other.band.low
    assert number(reason, "value") < number(reason, "least")
    # Tried on the enclosure itself: dimmed until its cool end holds, the other band is left indeed.
    case = enclosure_case(made)
    for down in range(1, 40):
        dimmed = replace(
            case, heaters=tuple(replace(heater, set_c=heater.set_c - 0.5 * down, watts=heater.watts) for heater in case.heaters)
        )
        day = solve_steady(dimmed, spread=False).states["summer", "day"].predictions
        if day["cool_air"].value <= number(reason, "most"):
            break
    assert day[other.key].value < number(reason, "least")


def test_a_room_too_moist_for_a_desert_animal_is_said() -> None:
    made = propose("moist", find("uromastyx"), Animal(length_m=0.12), room(26.0, 23.0, 60.0), TODAY)
    _found, said = looked_at(made)
    reason = said["cool_humidity/summer/night"]
    assert reason.code == "limit.room_moist"
    assert number(reason, "off") > number(reason, "most")
    dry = solve_steady(replace(enclosure_case(made).without_water(), ground_damp=False), spread=False).states["summer", "night"]
    assert number(reason, "off") == pytest.approx(dry.predictions["cool_humidity"].value)


def test_what_can_be_mended_has_no_such_reason() -> None:
    """A lamp that is too strong, a cold box without a heater, a terrarium that nobody mists: the plan's own faults."""
    strong = plan(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=150.0)
    found, said = looked_at(strong)
    assert found.quantity("basking_surface", "winter", "day").verdict in (Verdict.OUTSIDE, Verdict.DANGEROUS)
    assert "basking_surface/winter/day" not in said
    assert not any(name.startswith("basking_surface") for name in looked_at(plan(heaters=[], room__winter__day_c=18.0))[1])
    parched = plan(room__winter__humidity_percent=20.0)
    assert not any("humidity" in name for name in looked_at(parched)[1])


def test_a_tube_that_reaches_no_band_is_said() -> None:
    made = propose("low", find("crested-gecko"), Animal(mass_kg=0.002, length_m=0.06), room(26.0, 23.0, 60.0), TODAY)
    found, said = looked_at(made)
    assert found.quantity("uv_back").verdict is Verdict.OUTSIDE
    assert said["uv_back"].code == "limit.no_tube"
    low = plan(uv_lamps=[], enclosure__height_m=0.2, platform__height_m=0.05, heaters__0__height_m=0.17)
    profile = find(low.species)
    whole = assess(low, profile, TODAY, depth=Depth(days_of=()))
    reasons = {item.quantity.id: item.reason.code for item in limits(low, profile, whole)}
    assert reasons.get("uv_back") == "limit.no_tube"
    assert subject_of(low, profile, TODAY).body.back_m > 0


def test_plants_that_make_it_too_moist_are_taken_out_and_the_room_is_not_blamed() -> None:
    """A gecko of dry places under dense leaves: the button names fewer plants, mends it, and no reason is sought in the room."""
    jungle = plan(plants="dense", misting={"grams_per_day": 0})
    found, said = looked_at(jungle)
    assert found.quantity("cool_humidity", "winter", "day").verdict is Verdict.OUTSIDE
    assert not any("humidity" in name for name in said)
    advised = advise(jungle, find(jungle.species), TODAY)
    wet = next(item for item in advised.findings if item.code == "moisture.wet")
    assert wet.remedy is not None
    assert wet.remedy.code in ("moisture.fewer_plants", "moisture.no_plants")
    (change,) = wet.remedy.changes
    assert change.path == "plants"
    after = assess(plan(plants=change.value, misting={"grams_per_day": 0}), find(jungle.species), TODAY, depth=Depth(days_of=()))
    mended = after.quantity("cool_humidity", "winter", "day")
    assert mended.value is not None
    assert mended.value < (found.quantity("cool_humidity", "winter", "day").value or 0.0) - 10


def test_a_night_that_is_too_warm_is_not_explained_by_the_days_basking() -> None:
    """Common practice, no source: what heats by night is turned down by night; the lamp over the basking place is off then."""
    profile = find("green-iguana")
    summer, winter = (
        RoomCase(day_c=day_c, night_c=night_c, humidity_percent=percent) for day_c, night_c, percent in ((25, 21, 55), (20, 17, 45))
    )
    made = propose("Night", profile, Animal(length_m=0.11), RoomClimate(summer=summer, winter=winter), TODAY)
    found = assess(made, profile, TODAY, depth=NO_DAYS)
    nights = [each for each in limits(made, profile, found) if each.quantity.id.startswith("warm_air/winter/night")]
    assert [each.reason.code for each in nights] == [ReasonCode.LIMIT_NEEDED_ELSEWHERE]
    assert nights[0].reason.parameters["quantity"] == "cool_air"
    assert nights[0].reason.parameters["phase"] == "night"
