"""What if: each scenario changes the one thing, and what it says is what the stepped day says."""

from typing import Any

import numpy as np
import pytest

from husbandry.animal.body import body_of
from husbandry.assessment import Measure, Verdict
from husbandry.design import scenarios
from husbandry.design.first_proposal import propose
from husbandry.design.scenarios import LISTED, Scenario
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.species.book import find
from tests.plans import DARK_BY_DAY, TODAY, document, plan

MESH = {"enclosure__kind": "glass", "enclosure__lid": "mesh", "uv_lamps__0__height_m": 0.47, "heaters__0__height_m": 0.47}


def run(code: str, **changes: Any) -> Scenario:
    made = plan(**changes)
    return scenarios.run(code, made, find(made.species), TODAY)


def told(found: Scenario, code: str) -> dict[str, Any]:
    reason = next(item for item in found.told if item.code == code)
    return {name: value.value if isinstance(value, Measure) else value for name, value in reason.parameters.items()}


def possible(made: HabitatPlan) -> tuple[str, ...]:
    return scenarios.possible(made, find(made.species), TODAY)


def test_a_plan_meets_with_what_can_happen_to_it() -> None:
    assert "lid_covered" not in possible(plan())
    assert "lid_covered" in possible(plan(**MESH))
    assert "mister_failed" not in possible(plan())
    assert "mister_failed" in possible(plan(misting__grams_per_day=60.0))
    bare = plan(heaters=[], uv_lamps=[])
    assert set(possible(bare)) == {"heat_wave", "cold_night"}
    assert set(possible(plan(animal={"hatched": "2026-10-01"}))) >= {"grown"}
    with pytest.raises(KeyError):
        run("lid_covered")
    assert set(possible(bare)) < set(LISTED)


def test_a_heat_wave_warms_all_of_the_summer_and_no_lamp_mends_it() -> None:
    found = run("heat_wave")
    assert found.season == "summer"
    assert found.day.cool_air.max() > found.usual.cool_air.max() + 5
    assert any(now.key == "cool_air" and now.verdict in (Verdict.OUTSIDE, Verdict.DANGEROUS) for _was, now in found.worse)
    assert found.plan.room.summer.day_c >= 32.0
    assert found.plan.room.winter == plan().room.winter


def test_a_power_cut_says_after_how_many_hours_the_cool_end_is_too_cold() -> None:
    """The same hour as the stepped evening says itself; a heated night in a cold room does not outlast the cut."""
    night = DARK_BY_DAY | {"on": "00:00", "off": "00:00", "thermostat": {"kind": "pulse", "set_c": 24.0, "probe": "cool-air"}}
    found = run("power_cut", heaters=[document()["heaters"][0], night], room__winter__night_c=12.0, room__winter__day_c=16.0)
    hours, limit = told(found, "what.power_cold")["hours"], told(found, "what.power_cold")["limit"]
    assert 0.2 < hours < 12
    evening = np.roll(found.day.cool_air, -20 * 60)
    minute = round(hours * 60) - 1
    assert evening[minute] < limit <= evening[minute - 1]
    assert found.worse[0][1].key == "coolest_air"


def test_a_warm_room_bears_a_power_cut() -> None:
    found = run("power_cut", room__winter__night_c=22.0, room__winter__day_c=23.0)
    assert [item.code for item in found.told] == ["what.power_bearable"]
    assert found.worse == ()


def test_a_thermostat_stuck_on_gives_what_the_lamp_full_on_gives() -> None:
    """The lamp without its thermostat is the stuck one: the same peak, and the minutes until it is past the ceiling."""
    found = run("stuck_on", room__summer__day_c=26.0)
    said = told(found, "what.stuck_on")
    assert said["highest"] == pytest.approx(found.day.basking_surface.max(), abs=0.1)
    since_on = np.roll(found.day.basking_surface, -8 * 60)
    assert since_on[int(said["minutes"]) - 1] > said["limit"] >= since_on[int(said["minutes"]) - 2]
    assert found.plan.heaters[0].thermostat.kind == "none"
    assert found.worse[0][1].verdict is Verdict.DANGEROUS


def test_a_thermostat_stuck_off_is_the_plan_without_that_heater() -> None:
    found = run("stuck_off", heaters=[document()["heaters"][0], DARK_BY_DAY])
    assert len(found.plan.heaters) == 1
    assert found.day.warm_air.max() < found.usual.warm_air.max()


def test_half_a_lid_covered_keeps_vapour_in() -> None:
    found = run("lid_covered", ground__damp=True, **MESH)
    assert found.day.vapour_pa.mean() > found.usual.vapour_pa.mean()
    assert found.day.cool_air.mean() >= found.usual.cool_air.mean() - 0.05


def test_lamps_a_year_older_give_what_the_trade_says() -> None:
    """Common practice: a wide tube falls to 70 % in its rated six months, so to 49 % in a year."""
    found = run("lamp_old", uv_lamps__0__fitted=TODAY.isoformat())
    was, now = next(pair for pair in found.worse if pair[0].key == "uv_back")
    assert now.value == pytest.approx(0.49 * (was.value or 0.0), rel=0.02)


def test_without_its_mister_the_cool_end_dries_within_the_week() -> None:
    found = run("mister_failed", misting__grams_per_day=150.0, ground__damp=True, room__winter__humidity_percent=35.0)
    codes = {item.code for item in found.told}
    assert codes <= {"what.mister", "what.mister_bearable"}
    said = told(found, next(iter(codes)))
    assert said["driest"] < found.usual.cool_humidity.min()


def test_an_animal_a_stage_on_is_judged_by_that_stage() -> None:
    young = {"hatched": "2026-09-01", "length_m": None, "mass_kg": None, "sex": "female"}
    found = run("grown", animal=young)
    before, after = (body_of(made, find(made.species), TODAY).decision.stage.id for made in (plan(animal=young), found.plan))
    assert (before, after) == ("hatchling", "juvenile")
    assert found.plan.heaters == plan(animal=young).heaters


@pytest.mark.sweep
def test_what_is_told_and_what_stands_worse_say_the_same() -> None:
    """ "It falls to 30 %" is never followed by "every band still holds", whatever fails and whatever lives there."""
    misted = {"misting": {"grams_per_day": 0, "times": [{"at": "08:30", "grams": 45.0}]}, "ground__damp": True}
    for made in (plan(**misted), plan(), plan(room__winter__humidity_percent=20.0, **misted)):
        profile = find(made.species)
        for code in scenarios.possible(made, profile, TODAY):
            found = scenarios.run(code, made, profile, TODAY)
            failing = [item for item in found.told if item.code in scenarios.FAILING]
            assert found.holds == (not failing and not found.worse), code
            if any(item.code == "what.mister" for item in found.told):
                driest = found.told[0].parameters["driest"]
                rows = [after for _was, after in found.worse if after.key == "cool_humidity"]
                assert [item.value for item in rows] == [driest.value]  # type: ignore[union-attr]


def test_a_power_cut_at_a_tank_is_told_by_its_water() -> None:
    room = RoomCase(day_c=16.0, night_c=12.0, humidity_percent=50)
    tank = propose("Tank", find("musk-turtle"), Animal(), RoomClimate(summer=room, winter=room), TODAY)
    found = scenarios.run("power_cut", tank, find("musk-turtle"), TODAY)
    assert {item.parameters["quantity"] for item in found.told} == {"water_temperature"}
    assert all(after.key == "water_temperature" for _was, after in found.worse)


def warm_axolotl() -> HabitatPlan:
    """A tank that is too warm by day as it is, in a room where a heat wave makes it worse."""
    summer, winter = (RoomCase(day_c=day, night_c=day - 4, humidity_percent=50) for day in (27.0, 17.0))
    made = propose("Tank", find("axolotl"), Animal(), RoomClimate(summer=summer, winter=winter), TODAY)
    return made.model_copy(update={"heaters": ()})  # without the chiller that a first plan has


def test_what_is_dangerous_already_and_grows_worse_is_told_too() -> None:
    made = warm_axolotl()
    found = scenarios.run("heat_wave", made, find("axolotl"), TODAY)
    days = [(was, now) for was, now in found.worse if now.key == "water_temperature" and now.phase == "day"]
    assert len(days) == 1
    assert days[0][0].verdict is days[0][1].verdict is Verdict.DANGEROUS
    assert (days[0][1].value or 0.0) > (days[0][0].value or 0.0) + 5
