"""A room with several enclosures: what they draw warms it, what they give off moistens it, and both come to rest together."""

from dataclasses import replace

import numpy as np
import pytest
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

from husbandry.climate.air import relative_humidity, saturation_pressure
from husbandry.climate.case import RoomState
from husbandry.climate.humidity import MISTING_SHARE
from husbandry.climate.shared_room import ROOM_HEAT, Occupant, RoomShell, shared
from husbandry.climate.steady import solve_steady
from tests.core.test_enclosures import DIMMED, PVC, flood

SUMMER = RoomState(25.0, 25.0, 50.0)
ALONE = {"summer": SUMMER, "winter": RoomState(20.0, 18.0, 40.0)}
SHELL = RoomShell(12.0, 2.5, 18.0, 0.5, ALONE, {"summer": 22.0, "winter": 4.0}, heated=())
BARE = replace(PVC, heaters=(), misting_kg_per_day=0.0, ground_damp=False, bowl_m2=0.0)
ALWAYS = replace(flood(100, 0.25, 0.5), on_hour=0.0, off_hour=0.0)
LAMP = replace(BARE, heaters=(ALWAYS,))


def test_a_room_alone_stays_as_it_is() -> None:
    found = shared(SHELL, [], "summer")
    assert (found.day_c, found.night_c, found.percent) == pytest.approx((25.0, 25.0, 50.0), abs=0.01)
    assert found.watts == found.water_g_h == 0


def test_what_burns_day_and_night_warms_it_by_watts_over_loss() -> None:
    """By hand: 5 × 100 W over 18 W/K and 0.5 changes of 30 m³ an hour, 4.95 W/K (1.18 kg/m³, 1006 J/kgK), less what water takes."""
    found = shared(SHELL, [Occupant(LAMP)] * 5, "summer")
    by_hand = (500 - 5 * found.each[0].latent_w) / (18 + 1.18 * 1006 * 15 / 3600)
    assert SHELL.loss_in_all_w_k == pytest.approx(22.95, abs=0.02)
    assert found.watts == pytest.approx(500)
    assert found.day_c - 25 == pytest.approx(by_hand, abs=0.05)
    assert found.night_c == pytest.approx(found.day_c, abs=0.02)


def test_the_hours_of_a_room_follow_solve_ivp() -> None:
    """One node, lamps for twelve hours: `scipy.integrate.solve_ivp` over ten days, compared by hourly means."""
    day = replace(LAMP, heaters=(flood(150, 0.25, 0.5),))
    found = shared(SHELL, [Occupant(day)] * 4, "summer")
    lit = {hour for hour in range(24) if day.is_day(hour + 0.5)}
    given = found.each[0]
    assert given.latent_w == pytest.approx(0.0, abs=0.1)  # dry: the watts are the lamp's by day alone

    def rate(at: float, rise: NDArray[np.float64]) -> NDArray[np.float64]:
        watts = 4 * (150.0 if int(at / 3600) % 24 in lit else 0.0)
        return (watts - 4 * given.latent_w - SHELL.loss_in_all_w_k * rise) / (ROOM_HEAT * SHELL.floor_m2)

    solved = solve_ivp(rate, (0, 10 * 86400), np.zeros(1), max_step=600, dense_output=True).sol
    for hour in range(24):
        theirs = sum(float(solved(9 * 86400 + 3600 * hour + 60 * minute)[0]) for minute in range(60)) / 60
        assert found.curve_c[hour] - 25 == pytest.approx(theirs, abs=0.15), hour


def test_thermostats_draw_less_in_the_room_that_they_have_warmed() -> None:
    """At rest both agree: solved anew in the room that came out, each enclosure draws what it is said to."""
    found = shared(SHELL, [Occupant(DIMMED)] * 8, "winter")
    cold = solve_steady(replace(DIMMED, rooms=SHELL.alone), spread=False, seasons=("winter",))
    room = RoomState(found.day_c, found.night_c, found.percent)
    again = solve_steady(replace(DIMMED, rooms={"winter": room}), spread=False, seasons=("winter",))

    def mean_w(climate: object) -> float:
        states = climate.states  # type: ignore[attr-defined]
        light = DIMMED.light_hours / 24
        return float(light * states["winter", "day"].watts + (1 - light) * states["winter", "night"].watts)

    assert found.each[0].watts == pytest.approx(mean_w(again), rel=0.02)
    assert mean_w(again) < mean_w(cold) - 1
    lost = SHELL.loss_in_all_w_k * (sum(found.curve_c) / 24 - 19.0)
    assert lost == pytest.approx(found.watts - sum(item.latent_w for item in found.each), rel=0.03)


def test_where_the_room_is_heated_enclosures_save_its_heating_before_they_warm_it() -> None:
    """At 4 °C outside the heating gives 23 W/K × 15 K, some 350 W: three lamps only save of it, ten warm the room too."""
    heated = replace(SHELL, heated=("winter",))
    few, many = (shared(heated, [Occupant(LAMP)] * count, "winter") for count in (3, 10))
    assert (few.day_c, few.night_c) == pytest.approx((20.0, 18.0), abs=0.05)
    assert sum(few.curve_c) / 24 == pytest.approx(19.0, abs=0.05)
    assert few.saved_w == pytest.approx(few.watts - sum(item.latent_w for item in few.each), rel=0.02)
    assert sum(many.curve_c) / 24 > 24
    assert many.saved_w < many.watts


def test_misting_moistens_the_room() -> None:
    """By hand: G grams an hour in the air that is changed, Δe = G R_v T over the flow."""
    wet = Occupant(replace(BARE, misting_kg_per_day=0.2, kind="mesh", lid="mesh"))
    found = shared(SHELL, [wet] * 6, "summer")
    assert found.water_g_h == pytest.approx(MISTING_SHARE * 6 * 200 / 24, rel=0.1)
    mean_c = sum(found.curve_c) / 24
    e = relative_to(mean_c, found.percent) - 0.5 * float(saturation_pressure(25.0))
    assert e == pytest.approx(found.water_g_h / 3.6e6 * 461.5 * 298.15 / SHELL.air_m3_s, rel=0.02)
    assert mean_c < 25.0  # what evaporates cools it
    airy = shared(replace(SHELL, air_changes_h=5.0), [wet] * 6, "summer")
    assert airy.percent < found.percent


def relative_to(celsius: float, percent: float) -> float:
    """Pa at a relative humidity."""
    assert float(relative_humidity(float(saturation_pressure(celsius)), celsius)) == pytest.approx(100.0)
    return percent / 100 * float(saturation_pressure(celsius))
