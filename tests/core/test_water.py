"""Water that is lived in: nitrogen by mass balance, ammonia by pH, the mister's reservoir."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.assess.vetting import applied
from husbandry.assessment import Verdict
from husbandry.furnishing.water import (
    before_change,
    misting_seconds,
    nitrogen_mg_a_day,
    reservoir_days,
    unionised_share,
)
from husbandry.inputs.water_changes import conditioner_ml, water_l
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import read_data
from tests.plans import assessed_as, codes, plan


@pytest.mark.parametrize(("water_c", "ph", "percent"), [(25.0, 8.0, 5.4), (20.0, 7.0, 0.396), (10.0, 7.5, 0.586)])
def test_unionised_ammonia(water_c: float, ph: float, percent: float) -> None:
    """Emerson et al. 1975 (recalled): 5.4 % at 25 °C and pH 8.0; the table's 0.396 % at 20 °C and 7.0, 0.586 % at 10 °C and 7.5."""
    assert 100 * unionised_share(water_c, ph) == pytest.approx(percent, rel=0.02)


@given(st.floats(0.1, 200), st.floats(5, 500), st.floats(0.05, 1.0), st.integers(1, 30))
def test_what_builds_up_between_changes_is_what_stepping_through_the_days_gives(
    mg_a_day: float, litres: float, share: float, interval: int
) -> None:
    """Against the days one by one, until it no longer changes."""
    holds_mg, before = 0.0, -1.0
    for _change in range(4000):
        holds_mg += mg_a_day * interval
        if abs(holds_mg - before) < 1e-9 * holds_mg:
            break
        before = holds_mg
        holds_mg *= 1 - share
    assert before_change(mg_a_day, litres, share, interval) == pytest.approx(holds_mg / litres, rel=1e-4)


def test_nitrogen_of_a_meal() -> None:
    """By hand: a gram of protein holds 160 mg of nitrogen, of which seven tenths go into the water."""
    assert nitrogen_mg_a_day(1.0) == pytest.approx(112.0)


def test_no_water_and_no_change_are_refused() -> None:
    for litres, share in ((0.0, 0.5), (100.0, 0.0), (100.0, 1.5)):
        with pytest.raises(ValueError, match="water"):
            before_change(1.0, litres, share, 7)
    with pytest.raises(ValueError, match="nozzle"):
        misting_seconds(10.0, 0, 60.0)


def test_a_reservoir_and_a_misting() -> None:
    """By hand: ten litres at 250 g a day last forty days; two nozzles of 75 g a minute give 50 g in 20 s."""
    assert reservoir_days(10.0, 250.0) == pytest.approx(40.0)
    assert misting_seconds(50.0, 2, 75.0) == pytest.approx(20.0)


# ---- in a plan ----

TANK: dict[str, Any] = {
    "species": "axolotl",
    "schools": {},
    "animal": {"length_m": 0.22, "mass_kg": 0.12},
    "enclosure": {"kind": "glass", "length_m": 0.9, "width_m": 0.45, "height_m": 0.45, "lid": "mesh"},
    "ground": {"kind": "sand", "depth_m": 0.01},
    "hides": [],
    "platform": None,
    "bowl": None,
    "heaters": [],
    "uv_lamps": [],
    "feeding": {"items": [{"food": "earthworm", "grams": 6.0}], "interval_days": 3},
}


def tank(**pool: Any) -> HabitatPlan:
    return plan(**TANK, pool={"x_m": 0.45, "length_m": 0.9, "depth_m": 0.35} | pool)


def test_nitrate_of_a_filtered_tank_follows_food_share_and_interval() -> None:
    found = assessed_as(tank(filtered=True))
    value = found.quantity("nitrate").value
    assert value is not None
    twice = assessed_as(tank(filtered=True, change_share=0.6)).quantity("nitrate").value
    usual = assessed_as(tank(filtered=True, change_share=0.3)).quantity("nitrate").value
    assert usual == pytest.approx(value)
    assert twice == pytest.approx(value / 2, rel=1e-6)
    mg = float(str(found.quantity("nitrate").reason.parameters["nitrogen"]))
    assert value == pytest.approx(before_change(mg, water_l(tank(filtered=True)), 0.3, 7) * 62.0 / 14.0, rel=0.01)


def test_without_a_filter_ammonia_is_judged_and_alkaline_water_is_worse() -> None:
    acid, alkaline = (assessed_as(tank(ph=ph)).quantity("ammonia") for ph in (7.0, 9.0))
    assert alkaline.value > 30 * acid.value
    assert alkaline.verdict is Verdict.DANGEROUS
    assert "water.ammonia" in codes(assessed_as(tank(ph=9.0)))


def test_the_change_of_water_that_is_offered_holds_it() -> None:
    made = tank(filtered=True, change_share=0.1)
    finding = next(item for item in assessed_as(made).findings if item.code == "water.nitrate")
    assert finding.remedy is not None
    after = assessed_as(read_data(applied(made, finding.remedy.changes)))
    assert "water.nitrate" not in codes(after)


def test_a_tank_holds_what_its_sides_say_less_what_stands_in_it() -> None:
    """By hand: 90 by 45 cm, 35 cm deep, are 141.75 L; a solid stone of a cubic decimetre takes one of them."""
    assert water_l(tank()) == pytest.approx(141.75)
    stone = {"kind": "slate", "x_m": 0.4, "length_m": 0.2, "width_m": 0.2, "height_m": 0.025}
    held = read_data(tank().model_dump(mode="json") | {"things": [stone]})
    assert water_l(held) == pytest.approx(140.75)
    assert conditioner_ml(tank(change_share=0.5)) == pytest.approx(3.5, abs=0.1)
