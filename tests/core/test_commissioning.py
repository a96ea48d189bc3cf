"""The test run of an enclosure: where to read, when it has settled, which thermostats are watched."""

from functools import cache

import pytest

from husbandry.assessment import Verdict
from husbandry.build.settings import BuildSettings
from husbandry.design.commissioning import LEAST_H, MOST_H, Protocol, ReadingPoint, protocol, settle_hours
from husbandry.design.first_proposal import propose
from husbandry.design.mounting import ways
from husbandry.inputs.climate_case import enclosure_case
from husbandry.money.bill import bill
from husbandry.money.energy import year_energy
from husbandry.plan.habitat import Animal, HabitatPlan, RoomClimate
from husbandry.species.book import find, shipped
from husbandry.wiring.cables import leads
from husbandry.wiring.consumers import consumers
from husbandry.wiring.settings import HabitatFeed
from tests.plans import TODAY, plan
from tests.sample import some

ROOM = RoomClimate.model_validate(
    {
        "summer": {"day_c": 24.0, "night_c": 21.0, "humidity_percent": 50.0},
        "winter": {"day_c": 20.0, "night_c": 17.0, "humidity_percent": 50.0},
    }
)


def of(made: HabitatPlan) -> Protocol:
    return _of(made.model_dump_json())


@cache
def _of(text: str) -> Protocol:
    """The protocol of a plan, asked for by several tests, worked out once."""
    made = HabitatPlan.model_validate_json(text)
    return protocol(made, find(made.species), TODAY, "winter")


def spot(made: HabitatPlan) -> ReadingPoint:
    return next(one for one in of(made).points if one.place == "basking-surface")


def test_a_lamp_and_its_air_are_read_after_two_hours_and_the_night_too() -> None:
    """Two hours after switching on (common practice, no source)."""
    found = of(plan())
    places = [(one.place, one.phase) for one in found.points]
    assert places[0] == ("basking-surface", "day")
    assert {("cool-air", "night"), ("humid-hide", "day"), ("uv-back", "")} <= set(places)
    assert spot(plan()).settle_h == LEAST_H
    assert ("water", "day") not in places


def test_a_tank_of_water_takes_longer_to_settle_than_air() -> None:
    """60 litres warmed by 50 W gain 0.7 K an hour at most (c = 4.19 kJ/kg K): hours, not two of them."""
    pool = {"x_m": 0.6, "length_m": 1.2, "depth_m": 0.1}
    heated = [{"kind": "water-heater", "watts": 50.0, "x_m": 1.0, "height_m": 0.05, "thermostat": HELD_WATER}]
    hours = settle_hours(enclosure_case(plan(pool=pool, heaters=heated)), "winter")
    assert hours["water"] > 3
    assert hours["water"] <= MOST_H


HELD_WATER = {"kind": "on-off", "set_c": 26.0, "probe": "water"}


def test_a_thermostat_is_seen_where_it_goes_on_and_off() -> None:
    """An on/off thermostat of 2 K at 30 °C goes on at 29 and off at 31; a dimming one has one point."""
    made = plan(heaters__0__thermostat={"kind": "on-off", "set_c": 30.0, "hysteresis_k": 2.0})
    one = of(made).switches[0]
    assert (one.on_c, one.off_c) == (29.0, 31.0)
    assert [each.on_c for each in of(plan()).switches] == [33.0]
    assert of(plan(heaters__0__thermostat={"kind": "none"})).switches == ()


@pytest.mark.parametrize(("read_c", "high_c", "verdict"), [(36.0, 0.0, 1), (34.9, 0.0, 0), (36.3, 1.4, 0), (29.0, 0.0, -1)])
def test_a_reading_is_judged_corrected(read_c: float, high_c: float, verdict: int) -> None:
    """What an instrument that reads 1.4 K high shows is 1.4 K less (trade)."""
    point = spot(plan())
    assert point.direction(read_c - high_c) == verdict
    assert (point.verdict(read_c - high_c) is Verdict.INSIDE) == (verdict == 0)


def test_too_hot_a_spot_is_mended_by_a_weaker_lamp_a_wider_dome_or_hanging_it_higher() -> None:
    """The trade's three ways: each is offered, and each makes the spot cooler than it is."""
    hot = plan(
        enclosure__height_m=0.9,
        heaters=[{"kind": "reflector-flood", "watts": 75.0, "x_m": 0.26, "height_m": 0.45, "guarded": True}],
    )
    found = {way.code: way for way in ways(hot, find(hot.species), TODAY)}
    now = {one.id: one.value for one in found["as_is"].numbers}["basking_surface/winter/day"]
    assert now is not None
    assert now > 36
    for code in ("height", "weaker", "wide"):
        value = {one.id: one.value for one in found[code].numbers}["basking_surface/winter/day"]
        assert value is not None
        assert value < now, code


@pytest.mark.sweep
@pytest.mark.parametrize("species", some(list(shipped())[::6], 3))
def test_whatever_the_book_proposes_can_be_built_tested_and_paid_for(species: str) -> None:
    """Every first plan has its bill, its leads, its protocol and its year, whatever lives in it."""
    profile = find(species)
    made = propose("Sweep", profile, Animal.model_validate({"hatched": "2024-01-01"}), ROOM, TODAY)
    there = consumers(made)
    assert {lead.key for lead in leads(made, there, HabitatFeed(), {})} >= {one.key for one in there}
    assert all(line.amount > 0 for line in bill(made, BuildSettings()))
    assert all(point.settle_h >= 0.5 for point in of(made).points)
    year = year_energy(made, profile)
    assert (sum(month.kwh for month in year) > 0) == bool(there)
