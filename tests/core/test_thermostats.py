"""Thermostats in the stepped day: they turn where they should, lag as probes do, and spend what the walls lose."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from husbandry.climate.calibrate import read
from husbandry.climate.case import EnclosureCase, ProbeCase, WaterCase
from husbandry.climate.day import DayModel, DayRun, course, events_of
from husbandry.climate.daycourse import MINUTES
from husbandry.climate.modes import Modes
from husbandry.climate.nodes import LEVELS, between, nodes_of
from husbandry.climate.probes import own_row, probe_row
from husbandry.climate.steady import solve_steady
from husbandry.climate.thermostats import HORIZON, PROBE_HEAT, PROBE_LINK
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.probe_places import probe_places
from tests.core.test_day import CYCLING, SWUNG
from tests.core.test_enclosures import DIMMED, GLASS, PVC, ROOM_21, flood
from tests.plans import plan

ALWAYS = {"on_hour": 0.0, "off_hour": 0.0}
HEATED = replace(flood(100, 0.45, 0.05, "water-heater", control="on-off", set_c=25.0, probe="water"), **ALWAYS)  # type: ignore[arg-type]
COOLED = replace(HEATED, kind="water-chiller", watts=60.0, set_c=18.0, hysteresis_k=0.6)
WARM_TANK = replace(GLASS, lid="open", water=WaterCase(0.45, 0.9, 0.2), rooms=ROOM_21, heaters=(HEATED,))
CHILLED = replace(WARM_TANK, heaters=(COOLED,))


def model_of(case: EnclosureCase) -> DayModel:
    return DayModel(case, solve_steady(case, spread=False), "winter")


def probes_at_turns(model: DayModel, run: DayRun) -> list[tuple[int, bool, float, int]]:
    """Every turn of an on/off thermostat between changes of the timers: which, whether on, what its probe reads, the minute."""
    size, n = model.modes.rates.size, model.nodes.count
    edges = set(events_of(model, run.days))
    found = []
    for before, after in zip(range(len(run.trace.begins) - 1), range(1, len(run.trace.begins)), strict=True):
        minute = run.trace.begins[after]
        if {minute, minute - 1} & edges:
            continue  # a timer let it begin
        clock = (model.first_minute + minute) % MINUTES
        reading = model.modes.temperature[n:] @ run.trace.states[after][:size] + model.room.of_all[clock, n:]
        for place, index in enumerate(model.thermostats.cycling):
            was, now = run.trace.duties[before][index] > 0, run.trace.duties[after][index] > 0
            if was != now:
                found.append((index, bool(now), float(reading[place]), clock))
    return found


@pytest.mark.parametrize("case", [CYCLING, WARM_TANK, CHILLED], ids=["three heaters", "water heater", "chiller"])
def test_a_thermostat_turns_where_its_probe_passes_the_edge(case: EnclosureCase) -> None:
    """On at half its hysteresis below the set point, off at half of it above; a cooler the other way. Looked at by the minute."""
    model = model_of(case)
    turns = probes_at_turns(model, model.run(days=2))
    assert turns
    for index, turned_on, reading, clock in turns:
        heater = case.heaters[index]
        heats = not model.thermostats.cools[index]
        edge = heater.set_point(day=case.is_day((clock - 0.5) / 60)) + 0.5 * heater.hysteresis_k * (-1 if turned_on == heats else 1)
        beyond = (edge - reading) if turned_on == heats else (reading - edge)
        assert 0 <= beyond < 1.1  # no sooner, and no later than a minute's climb


def test_a_probe_lags_its_place_by_two_minutes() -> None:
    """A first-order lag: 63 % of a step after heat over link, two minutes; and it takes nothing from what it measures."""
    tau = PROBE_HEAT / PROBE_LINK
    assert tau == pytest.approx(120.0)
    thermostats = model_of(CYCLING).thermostats
    bare = np.diag([2.0, 3.0, *([1.0] * (thermostats.rows.shape[1] - 2))])
    full = thermostats.with_probes(bare)
    n = len(bare)
    assert full == pytest.approx(full.T)
    assert full.sum(axis=1)[:n] == pytest.approx(bare.sum(axis=1))
    assert full[n:].sum(axis=1) == pytest.approx(np.zeros(3), abs=1e-12)
    # A place as heavy as a wall, stepped up by one degree: what its probe says.
    pair = np.array([[PROBE_LINK, -PROBE_LINK], [-PROBE_LINK, PROBE_LINK]])
    modes = Modes.of(pair, np.array([1e9, PROBE_HEAT]))
    state = modes.at(np.array([1.0, 0.0]), np.array([1e9, PROBE_HEAT]))
    reading = (modes.temperature @ (modes.decay * state).T)[1]
    for minutes in (1, 2, 5, 10):
        assert reading[minutes] == pytest.approx(1 - np.exp(-60 * minutes / tau), abs=1e-6)


@pytest.mark.parametrize("hysteresis", [0.5, 1.0, 2.0])
def test_a_wider_hysteresis_turns_less_often_and_spends_the_same(hysteresis: float) -> None:
    """Common practice, no source: the width wears the relay, not the bill."""
    heaters = tuple(replace(heater, hysteresis_k=hysteresis) for heater in CYCLING.heaters)
    day = course(replace(CYCLING, heaters=heaters), solve_steady(CYCLING, spread=False), "winter")
    narrow = course(CYCLING, solve_steady(CYCLING, spread=False), "winter")
    turns, usual = (np.abs(np.diff(item.duty, axis=0)).sum() for item in (day, narrow))
    assert (turns - usual) * (hysteresis - 1.0) <= 0
    assert day.kwh == pytest.approx(narrow.kwh, rel=0.03)


@pytest.mark.parametrize("case", [WARM_TANK, CHILLED], ids=["water heater", "chiller"])
def test_what_a_thermostat_spends_in_a_day_is_its_settled_duty(case: EnclosureCase) -> None:
    """Water hardly swings: the mean of the stepped day is the mean duty of the settled one, and the water stays where it is set."""
    climate = solve_steady(case, spread=False)
    day = course(case, climate, "winter")
    means = [climate.states["winter", phase].duty[0] for phase in ("day", "night")]
    assert day.duty[:, 0].mean() == pytest.approx(np.mean(means), abs=0.06)
    assert day.water_c is not None
    heater = case.heaters[0]
    assert np.abs(day.water_c - heater.set_c).max() < 0.5 * heater.hysteresis_k + 0.25


def test_a_dimmer_comes_to_its_set_point_without_swinging() -> None:
    """Once a thick stone is warm it stands on its set point, and the duty moves by a hair from look to look."""
    case = replace(DIMMED, rooms=SWUNG.rooms)
    day = course(case, solve_steady(case, spread=False), "winter")
    steady = slice(12 * 60 + 30, 19 * 60 + 50)
    assert day.basking_surface[steady] == pytest.approx(np.full(440, 41.0), abs=0.35)
    assert np.abs(np.diff(day.duty[steady, 0])).max() < 0.05
    assert day.duty[: 8 * 60 - 1].max() == 0.0
    assert day.duty[8 * 60 + 5, 0] == 1.0  # cold at first: full on
    assert HORIZON == 15


def test_a_set_point_by_night_is_held_by_night() -> None:
    heater = replace(CYCLING.heaters[2], night_set_c=21.0, set_c=25.0, probe="cool-air")
    case = replace(CYCLING, heaters=(heater,), rooms=SWUNG.rooms)
    day = course(case, solve_steady(case, spread=False), "winter")
    assert day.cool_air[18 * 60 : 20 * 60].mean() == pytest.approx(25.0, abs=0.6)
    assert day.cool_air[4 * 60 : 7 * 60].mean() == pytest.approx(21.0, abs=0.6)


@pytest.mark.parametrize("height_m", [0.3, 0.45, 0.9, 1.8])
def test_a_probe_is_drawn_where_the_model_reads_it(height_m: float) -> None:
    """A probe's air is that of the levels about the height at which it hangs in the drawing."""
    made = plan(enclosure__height_m=height_m, heaters__0__height_m=0.25, uv_lamps__0__height_m=0.28)
    case, nodes = enclosure_case(made), nodes_of(enclosure_case(made))
    for name in ("warm-air", "cool-air"):
        _x_m, drawn_m = probe_places(made, 0)[name]
        row = probe_row(case, nodes, replace(case.heaters[0], probe=name))
        upper = float(row[nodes.air].reshape(LEVELS, -1)[1].sum())
        assert upper == pytest.approx(between(drawn_m / height_m, LEVELS)[1], abs=1e-6), (name, height_m)


LOW, HIGH = ProbeCase(0.45, 0.08), ProbeCase(0.45, 0.40)


def test_a_probe_reads_what_lies_around_it() -> None:
    """Places, not names: on the stone the stone, in the pool the water, else the air between the zones."""
    stone = replace(DIMMED, probes=(ProbeCase(DIMMED.spot.x_m, DIMMED.spot.top_m), LOW, HIGH))
    day = solve_steady(stone, spread=False).states["winter", "day"].predictions
    assert day["probe_1"].value == pytest.approx(day["basking_surface"].value)
    assert day["probe_2"].value < day["probe_3"].value < day["hottest_air"].value
    tank = solve_steady(replace(WARM_TANK, probes=(ProbeCase(0.3, 0.1),)), spread=False).states["winter", "night"].predictions
    assert tank["probe_1"].value == pytest.approx(tank["water"].value)
    many = replace(DIMMED, probes=tuple(ProbeCase(0.1 * n, 0.3) for n in range(1, 12)))
    air = [solve_steady(many).states["winter", "day"].predictions[f"probe_{n}"] for n in range(1, 12)]
    assert all(one.value >= next_one.value - 0.2 for one, next_one in pairwise(air[2:]))  # away from the lamp it gets cooler
    assert all(one.low < one.value < one.high for one in air)


def test_along_the_enclosure_a_probe_never_jumps() -> None:
    row = [own_row(GLASS, nodes_of(GLASS), ProbeCase(x / 500, 0.3)) for x in range(450)]
    assert max(float(np.abs(one - other).max()) for one, other in pairwise(row)) < 0.02
    assert all(one.sum() == pytest.approx(1.0) for one in row)


def test_a_thermostat_holds_the_place_where_its_probe_lies() -> None:
    """The same set point at the warm end and at the cool end: two climates; the settled one and the day by the minute agree."""
    held = {}
    for x_m in (0.2, 1.0):
        heater = flood(
            150, 0.3, 0.5, "ceramic-emitter", control="pulse", set_c=27.0, probe="own", probe_x_m=x_m, probe_height_m=0.3
        )
        case = replace(PVC, heaters=(replace(heater, on_hour=0.0, off_hour=0.0),), probes=(ProbeCase(x_m, 0.3),))
        climate = solve_steady(case, spread=False)
        held[x_m] = climate.states["winter", "night"]
        assert held[x_m].predictions["probe_1"].value == pytest.approx(27.0, abs=0.1)
        day = course(case, climate, "winter").nodes @ own_row(case, nodes_of(case), case.probes[0])
        assert float(day[-200:].mean()) == pytest.approx(27.0, abs=0.3)
    assert held[1.0].watts > 1.1 * held[0.2].watts


def test_names_of_the_ends_do_not_follow_the_warmth() -> None:
    """The ground of the warm end is that of the basking place's end, though the other end is heated more (calibration too)."""
    case = replace(PVC, heaters=(*PVC.heaters, replace(flood(200, 1.1, 0.5, "ceramic-emitter"), on_hour=0.0, off_hour=0.0)))
    climate = solve_steady(case, spread=False)
    day = course(case, climate, "winter")
    assert read(day, case, "warm-ground").mean() < read(day, case, "cool-ground").mean()
