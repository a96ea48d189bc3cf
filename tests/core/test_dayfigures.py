"""The figures of a whole day against the day's own curves, counted here once more and minute by minute."""

from typing import Any

import numpy as np
import pytest

from husbandry.assess.assess import Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assess.whole_day import DAYS_A_MONTH
from husbandry.assessment import Measure, Quantity, Verdict
from husbandry.climate import outcomes
from husbandry.climate.daycourse import DayCourse
from husbandry.species.book import find
from tests.plans import DARK_BY_DAY, TODAY, document, plan

SEASON = "winter"


def whole(**changes: Any) -> tuple[Assessment, DayCourse]:
    made = plan(**changes)
    found = assess(made, find(made.species), TODAY, depth=Depth(days_of=(SEASON,)))
    return found, found.days[SEASON]


def figure(found: Assessment, key: str) -> Quantity:
    return found.quantity(key, SEASON)


def value(found: Assessment, key: str) -> float:
    number = figure(found, key).value
    assert number is not None
    return number


def test_shares_in_band_are_minutes_counted() -> None:
    """Every five minutes stand for five: to a percent of the day."""
    found, day = whole(heaters__1=DARK_BY_DAY)
    stage = found.body.decision.stage
    for key, curve, by_day, by_night in (
        ("warm_held", day.warm_air, stage.heat.warm_air_c, stage.heat.night_c),
        ("cool_held", day.cool_air, stage.heat.cool_air_c, stage.heat.night_c),
        ("humidity_held", day.cool_humidity, stage.moisture.day_percent, stage.moisture.night_percent),
    ):
        lit, dark = by_day[0], by_night[0]
        low = np.where(day.lit, -np.inf if lit.low is None else lit.low, -np.inf if dark.low is None else dark.low)
        high = np.where(day.lit, np.inf if lit.high is None else lit.high, np.inf if dark.high is None else dark.high)
        assert value(found, key) == pytest.approx(100 * ((curve >= low) & (curve <= high)).mean(), abs=1.0)


def test_minutes_to_basking_are_read_off_the_curve() -> None:
    found, day = whole()
    least = found.body.decision.stage.heat.basking_surface_c[0].low
    assert least is not None
    since = np.roll(day.basking_surface, -8 * 60)
    assert value(found, "basking_after") == pytest.approx(float(np.flatnonzero(since >= least)[0] + 1), abs=3.0)


def test_extremes_are_the_curves_and_stand_at_their_hour() -> None:
    found, day = whole(heaters__0__thermostat={"kind": "none"})
    assert value(found, "surface_peak") == pytest.approx(day.basking_surface.max())
    assert value(found, "coolest_air") == pytest.approx(day.cool_air.min())
    at = float(day.hours[day.basking_surface.argmax()])
    assert figure(found, "surface_peak").reason.parameters["clock"] == f"{int(at):02d}:{round(at % 1 * 60):02d}"
    assert figure(found, "surface_peak").verdict is Verdict.DANGEROUS


def test_energy_is_watts_by_hours_and_its_price_is_a_months() -> None:
    """Heaters by their duty, the tube by its hours: 0.55 m at 44 W a metre for twelve of them; 30.4 such days a month."""
    found, day = whole(heaters__1=DARK_BY_DAY, prices={"kwh": 0.30})
    heat = float((day.duty[:, :2] * [75.0, 100.0]).sum()) / 60 / 1000
    tube = 0.55 * 44 * 12 / 1000
    assert value(found, "energy") == pytest.approx(heat + tube, rel=1e-3)
    told = figure(found, "energy").reason
    assert told.code == "day.energy_cost"
    assert float(str(told.parameters["cost"])) == pytest.approx(value(found, "energy") * DAYS_A_MONTH * 0.30, abs=0.006)
    assert figure(whole()[0], "energy").reason.code == "day.energy"


def test_a_heaters_work_is_its_share_of_its_own_hours() -> None:
    found, day = whole(heaters__1=DARK_BY_DAY | {"on": "06:00", "off": "12:00"})
    for index, hours in ((0, 12.0), (1, 6.0)):
        assert value(found, f"duty_{index + 1}") == pytest.approx(min(100 * day.duty[:, index].mean() * 24 / hours, 100.0), abs=0.1)
    alone, _day = whole(heaters__0__watts=15.0)
    assert value(alone, "duty_1") > 99.0


def test_water_is_what_the_air_carried_off_and_panes_are_counted_wet() -> None:
    found, day = whole(misting__grams_per_day=150.0)
    assert value(found, "water_used") == pytest.approx(day.water.carried)
    assert value(found, "wet_panes") == pytest.approx(24 * day.condensing.mean())
    dry, _day = whole()
    assert value(dry, "wet_panes") <= value(found, "wet_panes")
    assert value(dry, "water_used") < value(found, "water_used")


def test_damp_ground_dries_at_the_pace_it_loses_water() -> None:
    found, day = whole(ground__damp=True)
    holds = 100.0 * 1.2 * 0.5 * 0.07
    # Its dry top grows as it dries: by hand (1 + 0.003 × (0.0125 + 0.07/4)/6.6e-6)/(1 + 0.003 × 0.0125/6.6e-6) times as long.
    slower = (1 + 0.003 * 0.03 / 6.6e-6) / (1 + 0.003 * 0.0125 / 6.6e-6)
    assert value(found, "ground_dries") == pytest.approx(slower * 0.5 * holds / day.water.dried, rel=1e-6)
    assert all(item.key != "ground_dries" for item in whole()[0].quantities)


@pytest.mark.parametrize("changes", [{}, {"heaters__1": DARK_BY_DAY}, {"ground__damp": True, "misting__grams_per_day": 40.0}])
def test_every_figure_stands_in_its_own_range(changes: dict[str, Any]) -> None:
    """The range is drawn, the value is the middle's: a tenth of the range outside it at most, and chances are chances."""
    found, _day = whole(**changes)
    for item in found.quantities:
        if item.likely is not None:
            assert 0 <= item.likely <= 1
        if item.season == SEASON and item.value is not None and item.low is not None and item.high is not None:
            slack = 0.1 * (item.high - item.low) + 1e-9
            assert item.low - slack <= item.value <= item.high + slack, item.id


def test_drawn_curves_keep_the_shape_of_the_day() -> None:
    """A draw that leaves both ends where they are is the curve; one that lifts both lifts all of it by as much."""
    hours = np.arange(1440) / 60
    lit = (hours >= 8) & (hours < 20)
    curve = 20 + 10 * np.where(lit, 1 - np.exp(-(hours - 8)), np.exp(-((hours - 20) % 24)))
    drawn = outcomes.drawn_curves(curve, lit, (30.0, np.array([30.0, 32.0, 33.0])), (20.0, np.array([20.0, 22.0, 20.0])))
    thin = curve[outcomes.STEP - 1 :: outcomes.STEP]
    assert drawn[0] == pytest.approx(thin)
    assert drawn[1] == pytest.approx(thin + 2.0)
    assert drawn[2].max() == pytest.approx(thin.max() + 3.0, abs=0.05)
    assert drawn[2][12 * 7 : 12 * 8 - 1] == pytest.approx(thin[12 * 7 : 12 * 8 - 1], abs=0.1)


def test_no_heater_gives_more_than_its_limit_and_the_day_is_paid_once() -> None:
    """Watts on average never pass what is installed, tubes and bars among them; the energy is theirs through the day."""
    for heaters in ([], document()["heaters"]):
        made = plan(heaters=heaters)
        found = assess(made, find(made.species), TODAY)
        for item in found.quantities:
            if item.key == "heat_power":
                limit = item.reason.parameters["limit"]
                assert isinstance(limit, Measure)
                assert item.value is not None
                assert item.value <= limit.value + 1e-6
        energy = found.quantity("energy", "winter").value
        assert energy is not None
        assert energy >= found.days["winter"].kwh
