"""Remedies: each is what a keeper with that problem would be told, worked out for this enclosure."""

from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Finding, Measure, Remedy, Severity
from husbandry.plan.editing import apply
from husbandry.plan.reading import read_data
from husbandry.remedies.heating import MOST_HEATERS, STRENGTHS_W
from husbandry.species.book import find
from husbandry.species.leaves import choose
from tests.plans import DARK_BY_DAY as DARK
from tests.plans import TODAY, assessed, codes, document, plan

COLD_NIGHT = {"room__winter__night_c": 16.0}


def finding(code: str, **changes: Any) -> Finding:
    return next(item for item in assessed(**changes).findings if item.code == code)


def remedy(code: str, **changes: Any) -> Remedy:
    found = finding(code, **changes).remedy
    assert found is not None
    return found


HUMID: dict[str, Any] = {"x_m": 0.74, "length_m": 0.18, "height_m": 0.09, "humid": True}


def made(code: str, **changes: Any) -> dict[str, Any]:
    """The changes of the remedy by path."""
    return {change.path: change.value for change in remedy(code, **changes).changes}


def after(code: str, **changes: Any) -> set[str]:
    plan = read_data(apply(document(**changes), remedy(code, **changes).changes))
    return codes(assess(plan, find(plan.species), TODAY, depth=NO_DAYS))


def test_a_cold_night_is_mended_without_light_and_with_no_more_watts_than_it_takes() -> None:
    cold, colder = (made("heat.night_cold", room__winter__night_c=night)["heaters.1"] for night in (16.0, 8.0))
    assert cold["kind"] == "ceramic-emitter"
    assert cold["guarded"]
    assert (cold["on"], cold["off"]) == ("00:00", "00:00")
    assert cold["thermostat"]["kind"] == "pulse"
    assert cold["watts"] in STRENGTHS_W
    assert cold["watts"] < colder["watts"]


def test_the_heater_that_is_there_holds_the_night_before_another_is_bought() -> None:
    changed = made("heat.night_cold", heaters__1=DARK, **COLD_NIGHT)
    assert set(changed) == {"heaters.1.thermostat.night_set_c", "heaters.1.on", "heaters.1.off"}
    # Its probe hangs at the warm end, which must read more than the cool end's least.
    assert changed["heaters.1.thermostat.night_set_c"] > 18.0
    assert "heat.night_cold" not in after("heat.night_cold", heaters__1=DARK, **COLD_NIGHT)


def test_where_the_warm_end_would_grow_too_warm_a_second_heater_stands_at_the_cool_end() -> None:
    bitter = {"room__winter__night_c": 12.0, "heaters__1": DARK}
    held = read_data(apply(document(**bitter), remedy("heat.night_cold", **bitter).changes))
    found = assess(held, find(held.species), TODAY, depth=NO_DAYS).findings
    left = next(item.remedy for item in found if item.code == "heat.night_cold")
    assert left is not None
    assert left.code == "heat.add_night_heater"
    assert left.changes[0].value["x_m"] > 0.6 * held.enclosure.length_m
    assert left.changes[0].value["thermostat"]["probe"] == "cool-air"
    bowl = held.bowl
    assert bowl is not None
    assert abs(left.changes[0].value["x_m"] - bowl.x_m) > bowl.diameter_m / 2  # over the bowl the water would be warm and foul


def test_a_heater_that_gives_all_it_has_is_changed_for_a_stronger_one() -> None:
    weak = DARK | {"watts": 25.0, "on": "00:00", "off": "00:00"}
    changed = made("heat.night_cold", heaters__1=weak, room__winter__night_c=8.0)
    assert set(changed) == {"heaters.1.watts"}
    assert changed["heaters.1.watts"] in STRENGTHS_W
    assert changed["heaters.1.watts"] > 25.0


def test_nothing_is_promised_that_no_heater_of_the_trade_can_do() -> None:
    flat_out = DARK | {"watts": STRENGTHS_W[-1], "on": "00:00", "off": "00:00"}
    flat_out |= {"thermostat": {"kind": "pulse", "set_c": 45.0, "probe": "cool-air"}}
    all_there_is = [document()["heaters"][0], *([flat_out] * (MOST_HEATERS - 1))]
    found = finding(
        "heat.night_cold", heaters=all_there_is, room__winter__night_c=-20.0, enclosure__kind="mesh", enclosure__lid="mesh"
    )
    assert found.remedy is not None
    assert found.remedy.changes == ()
    assert found.severity is Severity.DANGER


def test_a_hot_room_is_not_mended_by_turning_lamps() -> None:
    """It says how cool the room must be; there the cool end holds."""
    found = remedy("heat.cool_air_hot", room__summer__day_c=33.0)
    assert found.code == "heat.cool_the_room"
    cooler = found.parameters["room"]
    assert isinstance(cooler, Measure)
    after = assessed(room__summer__day_c=cooler.value).quantity("cool_air", "summer", "day")
    assert after.band is not None
    assert after.value == pytest.approx(after.band.high, abs=0.2)  # the warmest room that does: no colder than it need be


MAT = {"kind": "mat", "watts": 14, "x_m": 0.5, "height_m": 0.01}
CHILLER = {"kind": "water-chiller", "watts": 40, "x_m": 1.0, "height_m": 0.02}


@pytest.mark.parametrize("probe", ["mat", "warm-ground", "cool-ground", "humid-hide", "water", "warm-air", "basking-surface"])
@pytest.mark.parametrize("other", [MAT, CHILLER, DARK], ids=["mat", "chiller", "emitter"])
def test_a_cold_night_is_mended_by_what_warms_air_wherever_its_probe_lies(other: dict[str, Any], probe: str) -> None:
    """A mat on its own probe, a chiller in the pool: neither holds the air at night, and none stops the review."""
    held = other | {"thermostat": {"kind": "on-off", "set_c": 24.0, "probe": probe}}
    found = finding("heat.night_cold", heaters__1=held, room__winter__night_c=15.0)
    assert found.remedy is not None
    if other is DARK:
        assert all(change.path.startswith("heaters.1") for change in found.remedy.changes)
    else:
        assert found.remedy.code == "heat.add_night_heater"


def test_a_probe_that_reads_high_is_set_higher_for_the_night() -> None:
    """What the heater's own probe has to show while it holds the cool end: its error belongs to it."""

    def set_for(error_k: float) -> float:
        thermostat = {"kind": "pulse", "set_c": 29.0, "probe": "basking-surface", "probe_error_k": error_k}
        changes = made("heat.night_cold", heaters__1=DARK | {"thermostat": thermostat}, room__winter__night_c=15.0)
        return float(changes["heaters.1.thermostat.night_set_c"])

    assert set_for(2.0) == pytest.approx(set_for(0.0) + 2.0, abs=0.11)


def test_a_lamp_without_thermostat_gets_the_kind_that_suits_it() -> None:
    for kind, control in (("halogen-flood", "dimming"), ("ceramic-emitter", "pulse")):
        bare = {"heaters__0__kind": kind, "heaters__0__thermostat": {"kind": "none"}}
        found = assessed(**bare).findings
        offered = next(item.remedy for item in found if item.remedy and item.remedy.code == "heat.add_thermostat")
        assert offered.changes[0].value["kind"] == control


def test_the_same_thermostat_is_offered_once() -> None:
    """A lamp that is too hot for want of a thermostat is one fault, not two."""
    found = [item.code for item in assessed(heaters__0__thermostat={"kind": "none"}).findings]
    assert "heat.basking_hot" in found
    assert "heat.no_thermostat" not in found


def test_dry_air_is_mended_with_as_much_water_as_it_takes() -> None:
    dry, drier = (
        made("moisture.dry", room__winter__humidity_percent=percent)["misting"]["winter"]["grams_per_day"]
        for percent in (40.0, 25.0)
    )
    assert 0 < dry < drier
    assert dry % 5 == 0


@pytest.mark.parametrize("grams", [150.0, 400.0, 1500.0])
def test_too_much_misting_is_brought_back_in_its_season(grams: float) -> None:
    changed = made("moisture.wet", misting__grams_per_day=grams)["misting"]
    assert min(changed["grams_per_day"], changed["winter"]["grams_per_day"]) < grams


def test_a_further_hide_does_not_stand_on_the_stone() -> None:
    before = {"hides": [HUMID]}
    stone = plan(**before).platform
    hide = made("space.hides", **before)["things.3"]
    assert stone is not None
    assert hide["kind"] == "hide"
    assert abs(hide["x_m"] - stone.x_m) >= (hide["length_m"] + stone.length_m) / 2 - 0.01


def test_a_bowl_is_offered_at_the_cool_half_and_no_wider_than_a_quarter_of_the_floor() -> None:
    bowl = made("moisture.no_bowl", bowl=None, hides=[HUMID, HUMID | {"x_m": 0.5, "humid": False}])["things.3"]
    assert bowl["kind"] == "bowl"
    assert bowl["x_m"] > 0.6
    assert bowl["length_m"] <= 0.25 * 0.5 + 1e-9


def test_the_whole_minimum_is_taken_at_once() -> None:
    bare: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}
    small = {"enclosure__length_m": 0.4, "enclosure__width_m": 0.3, "enclosure__height_m": 0.2, **bare}
    assert set(made("space.too_small", **small)) == {"enclosure.length_m", "enclosure.width_m", "enclosure.height_m"}
    assert "space.too_small" not in after("space.too_small", **small)


def test_questions_come_last_and_carry_no_change() -> None:
    found = assessed(animal={}, uv_lamps__0__fitted=None).findings
    asked = [item for item in found if item.severity is Severity.QUESTION]
    assert found[-len(asked) :] == tuple(asked)
    assert all(item.remedy is None for item in asked)


def test_a_hide_whose_air_is_outside_its_band_is_told_which_way() -> None:
    """Wet moss in a closed hide of a dry profile is too wet, and a hide in a cold, dry room may be too dry."""
    profile = find("african-fat-tailed-gecko")
    for low, high, code in ((20.0, 40.0, "moisture.hide_wet"), (98.5, 99.5, "moisture.hide_dry")):
        stages = []
        for stage in profile.stages:
            leaf = choose(stage.moisture.humid_hide_percent or (), {})
            band = leaf.model_copy(update={"low": low, "high": high})
            stages.append(stage.model_copy(update={"moisture": stage.moisture.model_copy(update={"humid_hide_percent": (band,)})}))
        found = assess(plan(), profile.model_copy(update={"stages": tuple(stages)}), TODAY, depth=NO_DAYS)
        codes = {item.code for item in found.findings}
        assert code in codes
        assert not codes & ({"moisture.hide_wet", "moisture.hide_dry"} - {code})
