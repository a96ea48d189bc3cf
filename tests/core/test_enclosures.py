"""Whole enclosures: the believable ranges of the trade, conservation, thermostats, the day's course."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from husbandry.climate import zones
from husbandry.climate.air import AIR_DENSITY, humidity_ratio, relative_humidity, saturation_pressure
from husbandry.climate.case import BaskingSpot, EnclosureCase, HeaterCase, RoomState, running
from husbandry.climate.daycourse import STEPS, course, hours_to_fall, room_curve
from husbandry.climate.hang import height_for, surface_at
from husbandry.climate.heaters import HEATERS
from husbandry.climate.steady import nominal, settle

ROOM_21 = {season: RoomState(21.0, 21.0, 50.0) for season in ("summer", "winter")}


def flood(watts: float, x_m: float, height_m: float, kind: str = "reflector-flood", **more: object) -> HeaterCase:
    return HeaterCase(kind, watts, x_m, height_m, HEATERS[kind].half_angle_deg, 8.0, 20.0, **more)  # type: ignore[arg-type]


def box(kind: str, lid: str, size: tuple[float, float, float], spot: BaskingSpot, *heaters: HeaterCase) -> EnclosureCase:
    return EnclosureCase(kind, lid, 0.65, *size, "sand", 0.05, False, spot, heaters, ROOM_21, 8.0, 20.0, bowl_m2=0.01)


PVC = box("foamed-pvc", "solid", (1.2, 0.6, 0.6), BaskingSpot(0.25, 0.25, 0.10, "stone"), flood(100, 0.25, 0.40))
GLASS = box("glass", "mesh", (0.9, 0.45, 0.45), BaskingSpot(0.2, 0.15, 0.15, "slate"), flood(75, 0.2, 0.45))
MESH = box("mesh", "mesh", (0.45, 0.45, 0.90), BaskingSpot(0.15, 0.15, 0.70, "branch"), flood(60, 0.15, 0.90))
DIMMED = replace(PVC, heaters=(flood(100, 0.25, 0.40, control="dimming", set_c=41.0),))


# Trade and memory, room 21 °C, no thermostat; the ranges are wide on purpose.
@pytest.mark.parametrize(
    ("case", "warm", "cool", "surface"),
    [(PVC, (32, 40), (23, 27), (42, 58)), (GLASS, (28, 32), (22, 25), (35.5, 45))],
    ids=["vented PVC with 100 W", "glass and mesh with 75 W"],
)
def test_believable_wholes(
    case: EnclosureCase, warm: tuple[float, float], cool: tuple[float, float], surface: tuple[float, float]
) -> None:
    found = settle(case).settled["winter", "day"].predictions
    assert warm[0] <= found["warm_air"].value <= warm[1]
    assert cool[0] <= found["cool_air"].value <= cool[1]
    assert surface[0] <= found["basking_surface"].value <= surface[1]


def test_an_all_mesh_cage_keeps_the_rooms_air_and_a_hot_perch() -> None:
    """Trade and memory: air within 6 K of the room nearly everywhere, perch 32–47 °C."""
    found = settle(MESH).settled["winter", "day"]
    levels = np.array(found.air_c)
    assert levels.shape == (3, 5)
    assert levels[:2].max() < 27
    assert levels.max() < 21 + 6.5
    assert 32 <= found.predictions["basking_surface"].value <= 47


def test_lights_out_the_box_is_near_the_room_after_two_hours() -> None:
    """Trade: within 5 K of the room after two hours."""
    climate = settle(PVC)
    assert 0 < hours_to_fall(PVC, climate, "winter", 2.0) < 5
    assert hours_to_fall(PVC, climate, "winter", 4.0) < hours_to_fall(PVC, climate, "winter", 2.0)


@pytest.mark.parametrize("case", [PVC, GLASS, MESH, DIMMED])
def test_what_the_heater_gives_is_what_walls_and_air_take(case: EnclosureCase) -> None:
    """First law on the whole network: heat booked in equals heat lost to the room."""
    found = settle(case, spread=False).settled["winter", "day"]
    network = zones.build(case, nominal())
    nodes = np.concatenate([np.array(found.air_c).ravel(), np.array(found.ground_c)])
    watts = np.array([heater.watts for heater in case.heaters]) * np.array(found.duty)
    booked = float((network.per_watt[0] @ watts).sum())
    lost = float(((network.to_room[0] + network.vent * found.air_changes_h) * (nodes - 21.0)).sum())
    assert booked <= watts.sum() + 1e-9
    # The air changes are one fixed-point step behind the temperatures.
    assert lost == pytest.approx(booked, rel=0.02)


def test_the_vapour_balance_closes() -> None:
    """Water evaporated from the bowl is water carried off by the air, to the last fixed-point step."""
    found = settle(PVC, spread=False).settled["winter", "night"]
    mean = float(np.mean(found.air_c))
    room_e = 0.5 * float(saturation_pressure(21.0))
    carried = (
        AIR_DENSITY * PVC.volume_m3 * found.air_changes_h / 3600 * float(humidity_ratio(found.vapour_pa) - humidity_ratio(room_e))
    )
    given_off = 0.003 * PVC.bowl_m2 / (461.5 * (mean + 273.15)) * (float(saturation_pressure(mean - 2.5)) - found.vapour_pa)
    assert carried == pytest.approx(given_off, rel=0.25)
    assert found.vapour_pa > room_e


def test_a_gram_more_a_day_raises_the_vapour_by_what_is_said() -> None:
    """The inverse that remedies use, against the model run again with that water."""
    dry = replace(PVC, bowl_m2=0.0, heaters=())
    before, after = (settle(case).settled["winter", "day"] for case in (dry, replace(dry, misting_kg_per_day=0.03)))
    assert after.vapour_pa - before.vapour_pa == pytest.approx(30 * before.vapour_per_gram, rel=1e-6)


def test_no_zone_is_wetter_than_saturated() -> None:
    wet = replace(
        PVC, ground_damp=True, bowl_m2=0.3, misting_kg_per_day=2.0, rooms={s: RoomState(12.0, 8.0, 90.0) for s in ROOM_21}
    )
    for state in settle(wet).settled.values():
        coldest = min(min(row) for row in state.air_c)
        assert float(relative_humidity(state.vapour_pa, coldest)) <= 100.5


def test_a_dimming_thermostat_holds_its_surface_and_a_weak_lamp_runs_flat_out() -> None:
    found = settle(DIMMED).settled["winter", "day"]
    assert found.predictions["basking_surface"].value == pytest.approx(41.0, abs=0.1)
    assert 0 < found.duty[0] < 1
    weak = replace(PVC, heaters=(flood(25, 0.25, 0.40, control="dimming", set_c=41.0),))
    assert settle(weak).settled["winter", "day"].duty == (1.0,)


def test_two_thermostats_that_disturb_each_other_both_hold() -> None:
    both = (*DIMMED.heaters, flood(80, 0.4, 0.5, "ceramic-emitter", control="pulse", set_c=31.0, probe="warm-air"))
    found = settle(replace(DIMMED, heaters=both)).settled["winter", "day"].predictions
    assert found["basking_surface"].value == pytest.approx(41.0, abs=0.15)
    assert found["warm_air"].value == pytest.approx(31.0, abs=0.1)


def test_two_thermostats_also_hold_through_the_day() -> None:
    both = (*DIMMED.heaters, flood(80, 0.4, 0.5, "ceramic-emitter", control="pulse", set_c=31.0, probe="warm-air"))
    case = replace(DIMMED, heaters=both)
    afternoon = slice(14 * 4, 19 * 4)
    day = course(case, settle(case), "winter")
    assert day.basking_surface[afternoon] == pytest.approx(41.0, abs=0.4)
    assert day.warm_air[afternoon] == pytest.approx(31.0, abs=0.3)


def test_a_day_and_night_thermostat_holds_each_at_its_time() -> None:
    heater = flood(150, 0.25, 0.5, "ceramic-emitter", control="pulse", set_c=30.0, night_set_c=25.0, probe="warm-air")
    case = replace(PVC, heaters=(replace(heater, on_hour=0.0, off_hour=0.0),))
    climate = settle(case)
    assert climate.settled["winter", "day"].predictions["warm_air"].value == pytest.approx(30.0, abs=0.1)
    assert climate.settled["winter", "night"].predictions["warm_air"].value == pytest.approx(25.0, abs=0.1)
    day = course(case, climate, "winter")
    assert day.warm_air[16 * 4] == pytest.approx(30.0, abs=0.3)
    assert day.warm_air[4 * 4] == pytest.approx(25.0, abs=0.3)


def test_the_spread_holds_the_value_and_a_thermostat_narrows_it() -> None:
    free, held = (settle(case).settled["winter", "day"].predictions["basking_surface"] for case in (PVC, DIMMED))
    assert free.low < free.value < free.high
    assert held.high - held.low < 0.7 * (free.high - free.low)


def test_the_spread_agrees_with_a_monte_carlo_run() -> None:
    """The quadrature of one-at-a-time steps against 400 random draws of the same parameters."""
    from husbandry.climate import steady

    draws = np.random.default_rng(7)
    count = 400
    normal = {name: draws.standard_normal(count) for name in steady.SIGMA}
    columns = {
        name: sigma * normal[name]
        if name.endswith("_k")
        else np.exp(sigma * normal[name])
        if name == "air_changes"
        else np.maximum(1 + sigma * normal[name], 0.3)
        for name, sigma in steady.SIGMA.items()
    }
    network = zones.build(PVC, zones.Variation(**columns))
    room = 21.0 + columns["room_k"]
    changes = np.full(count, 3.0) * columns["air_changes"]
    for _ in range(4):
        base, rise = zones.responses(network, room, changes)
        air = (base + rise[:, :, 0] * 100)[:, network.air]
        changes = 3.0 * columns["air_changes"] * np.maximum(np.sqrt(np.abs(air.mean(axis=1) - room) / 5), 0.35)
    warm, _cool = zones.end_weights(PVC, 0.25)
    low, high = np.percentile(air @ warm, [10, 90])
    ours = settle(PVC).settled["winter", "day"].predictions["warm_air"]
    assert ours.high - ours.low == pytest.approx(high - low, rel=0.15)
    assert (ours.low, ours.high) == (pytest.approx(low, abs=0.8), pytest.approx(high, abs=0.8))


def test_higher_is_never_hotter_and_the_solved_height_gives_the_wanted_surface() -> None:
    surfaces = [surface_at(PVC, 0, height, "winter") for height in (0.25, 0.35, 0.45, 0.55)]
    assert surfaces == sorted(surfaces, reverse=True)
    height = height_for(PVC, 0, 42.0, "winter", 0.58)
    assert height is not None
    assert surface_at(PVC, 0, height, "winter") == pytest.approx(42.0, abs=0.3)
    assert height_for(replace(PVC, heaters=(flood(10, 0.25, 0.4),)), 0, 45.0, "winter", 0.58) is None


def test_the_day_follows_solve_ivp_on_the_same_equations() -> None:
    """scipy.integrate.solve_ivp (LSODA), timer only: pointwise to 0.05 K over a day from the same midnight."""
    case = replace(PVC, rooms={s: RoomState(23.0, 17.0, 50.0) for s in ROOM_21})
    climate = settle(case)
    day = course(case, climate, "winter")
    network = zones.build(case, nominal())
    settled = [climate.settled["winter", moment] for moment in ("day", "night")]
    vent = network.vent * sum(state.air_changes_h for state in settled) / 2
    matrix = network.conductance[0] + np.diag(vent)
    quarter = np.arange(STEPS) / 4 + 0.125

    def slope(seconds: float, state: np.ndarray) -> np.ndarray:
        hour = seconds / 3600 % 24
        middle = quarter[min(int(hour * 4), STEPS - 1)]
        room_c = room_curve(23.0, 17.0, middle)
        lamp = 100.0 if running(8.0, 20.0, middle) else 0.0
        return (-matrix @ state + (network.to_room[0] + vent) * room_c + network.per_watt[0][:, 0] * lamp) / network.capacity

    start = np.full(network.capacity.size, 20.0)
    found = solve_ivp(
        slope, (0, 4 * 86400), start, method="LSODA", rtol=1e-7, atol=1e-7, max_step=300, t_eval=3 * 86400 + day.hours * 3600
    )
    warm, cool = zones.end_weights(case, 0.25)
    air = found.y[network.air].T
    assert np.abs(air @ warm - day.warm_air).max() < 0.05
    assert np.abs(air @ cool - day.cool_air).max() < 0.05


def test_the_thermostats_day_ends_where_the_settled_day_is() -> None:
    climate = settle(DIMMED)
    day = course(DIMMED, climate, "winter")
    evening = day.basking_surface[int(19.5 * 4) - 1]
    assert evening == pytest.approx(41.0, abs=0.4)
    assert day.duty[:, 0].max() <= 1.0
    assert day.duty[: 8 * 4].max() == 0.0
    assert day.kwh == pytest.approx(float(day.duty.sum()) * 0.25 * 0.1, rel=1e-6)
