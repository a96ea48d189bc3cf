"""A day in minutes: against scipy's integrators on the same equations, its balances, its thermostats."""

from dataclasses import replace

import numpy as np
import pytest

from husbandry.climate.air import saturation_pressure
from husbandry.climate.case import BaskingSpot, EnclosureCase, MistingCase, RoomState, WaterCase
from husbandry.climate.day import DayModel, course
from husbandry.climate.daycourse import MINUTES, room_curve
from husbandry.climate.humidity import LATENT_HEAT
from husbandry.climate.openings import changes_at, exchange_of, virtual_rise
from husbandry.climate.steady import solve_steady
from tests.core.reference import thermostat_day, timer_day
from tests.core.test_enclosures import DIMMED, GLASS, MESH, PVC, flood

SWINGING = dict.fromkeys(("summer", "winter"), RoomState(23.0, 17.0, 50.0))
SWUNG = replace(PVC, rooms=SWINGING)
DAMP = replace(GLASS, ground_damp=True, humid_hide=True, humid_hide_x_m=0.6, rooms=SWINGING)
POND = replace(GLASS, lid="open", water=WaterCase(0.45, 0.9, 0.2), rooms=SWINGING)
CYCLING = replace(
    SWUNG,
    heaters=(
        flood(100, 0.25, 0.4, control="on-off", set_c=41.0),
        flood(60, 0.5, 0.55, "ceramic-emitter", control="on-off", set_c=30.0, probe="warm-air"),
        replace(flood(80, 0.9, 0.5, "ceramic-emitter", control="on-off", set_c=24.0, probe="cool-air"), on_hour=0.0, off_hour=0.0),
    ),
)


@pytest.mark.sweep
@pytest.mark.parametrize("case", [SWUNG, replace(MESH, rooms=SWINGING), DAMP, POND], ids=["box", "mesh", "damp glass", "pond"])
def test_a_timer_day_follows_solve_ivp(case: EnclosureCase) -> None:
    """scipy.integrate.solve_ivp (LSODA, 1e-8) on the same equations: every node to 0.05 K in every minute.

    But for the minute in which the lamps come on: then 0.1 K.
    """
    climate = solve_steady(case, spread=False)
    model = DayModel(case, climate, "winter")
    ours, theirs = model.run().course(), timer_day(case, climate, "winter")
    nodes = model.nodes.count
    apart = np.abs(np.roll(ours.nodes, -model.first_minute, axis=0) - theirs[:, :nodes]).max(axis=1)
    assert apart[0] < 0.1
    assert apart[1:].max() < 0.05
    assert np.roll(ours.vapour_pa, -model.first_minute) == pytest.approx(theirs[:, nodes], rel=0.02)


@pytest.mark.parametrize("case", [SWUNG, GLASS, CYCLING, DAMP], ids=["box", "glass", "three thermostats", "damp glass"])
def test_the_days_energy_balance_closes(case: EnclosureCase) -> None:
    """First law over a day that repeats itself: what the heaters give is lost to the room, to 0.1 % of it.

    Thermostats turn within a minute whose mean is taken from its ends: there to 0.3 %, whatever the room.
    """
    climate = solve_steady(case, spread=False)
    model = DayModel(case, climate, "winter")
    run = model.run()
    for _ in range(6):
        run = model.run(start=run.end)
    day = run.course()
    net, nodes = model.net, model.nodes
    # The mean of each minute from its ends: at a switch the curve bends, not the mean by more than a hair.
    before = np.roll(day.nodes, 1, axis=0)
    t, room = (day.nodes + before) / 2, (day.room + np.roll(day.room, 1)) / 2
    watts = np.array([heater.watts for heater in case.heaters])
    given = float((day.duty @ (net.per_watt[0].sum(axis=0) * watts)).sum() / MINUTES)
    lost = float(((t - room[:, None]) * net.to_room[0]).sum(axis=1).mean())
    room_pa = 0.5 * saturation_pressure(room)
    rise = virtual_rise(t[:, nodes.air].mean(axis=1) - room, (day.vapour_pa + np.roll(day.vapour_pa, 1)) / 2 - room_pa)
    changes = np.array([changes_at(exchange_of(case.shell), each) for each in rise.tolist()])
    lost += float((changes * ((t[:, nodes.air] - room[:, None]) @ net.vent[nodes.air])).mean())
    lost += float(radiated_out(model, t, room).mean())
    latent = LATENT_HEAT * (day.water.evaporated - day.water.condensed) / 86_400
    assert lost + latent == pytest.approx(given, rel=0.003 if model.thermostats.cycling else 0.001)


def radiated_out(model: DayModel, t: np.ndarray, room: np.ndarray) -> np.ndarray:
    """W that the basking surface sends out through openings, by the network's own radiation."""
    spot = model.net.spot
    surface, seen = t[:, model.nodes.spot], t[:, spot.seen].mean(axis=1)
    cold = room + spot.seen_share * (seen - room)
    hot, cool = surface + 273.15, cold + 273.15
    conductance = 0.95 * 5.670374e-8 * (hot**2 + cool**2) * (hot + cool) * spot.area_m2
    return np.asarray(conductance * (1 - spot.seen_share) * (surface - room))


@pytest.mark.parametrize("case", [SWUNG, DAMP, replace(DAMP, mistings=(MistingCase(8.5, 0.05), MistingCase(19.0, 0.08)))])
def test_the_days_water_closes(case: EnclosureCase) -> None:
    """Mass: what evaporates and is given, less what condenses and the air carries off, is what the air holds more."""
    run = DayModel(case, solve_steady(case, spread=False), "winter").run(days=2)
    end = run.end[1]
    water = end.water
    held = run.model.terms.supply.holds * (end.pressure_pa - run.model.start_pa)
    steady = run.model.case.fogger_kg_per_h
    assert steady == 0.0
    assert water.evaporated - water.condensed - water.carried == pytest.approx(held, abs=0.001 * water.evaporated)
    assert min(water.ground, water.film) >= 0


def test_three_thermostats_cycle_about_their_set_points() -> None:
    """Common practice, no source: an on/off thermostat swings by its hysteresis and what the heater and probe lag add."""
    day = course(CYCLING, solve_steady(CYCLING, spread=False), "winter")
    afternoon = slice(13 * 60, 19 * 60)
    assert day.basking_surface[afternoon].mean() == pytest.approx(41.0, abs=0.6)
    assert day.cool_air[: 7 * 60].mean() == pytest.approx(24.0, abs=0.5)
    switches = np.abs(np.diff(day.duty, axis=0)).sum(axis=0)
    assert (switches > 10).all()
    assert set(np.unique(day.duty)) == {0.0, 1.0}


@pytest.mark.sweep
def test_a_thermostat_day_has_the_means_duty_and_extremes_of_solve_ivp() -> None:
    """scipy.integrate.solve_ivp (LSODA) on the same equations, restarted at every switch. Point by point it is ill-posed."""
    swings = replace(
        SWUNG,
        heaters=(
            flood(100, 0.25, 0.4, control="on-off", set_c=41.0, hysteresis_k=3.0),
            flood(60, 0.5, 0.55, "ceramic-emitter", control="on-off", set_c=30.0, probe="warm-air", hysteresis_k=2.0),
        ),
    )
    climate = solve_steady(swings, spread=False)
    model = DayModel(swings, climate, "winter")
    ours = model.run().course()
    theirs, duty = thermostat_day(swings, climate, "winter")
    first, nodes = model.first_minute, model.nodes
    mine = np.roll(ours.nodes, -first, axis=0)
    lit = slice(0, 12 * 60)
    for node in (nodes.spot, 0, nodes.air_count - 1):
        assert mine[lit, node].mean() == pytest.approx(theirs[lit, node].mean(), abs=0.15)
        assert mine[lit, node].max() == pytest.approx(theirs[lit, node].max(), abs=0.5)
        assert mine[:, node].min() == pytest.approx(theirs[:, node].min(), abs=0.3)
    assert ours.duty.mean(axis=0) == pytest.approx(duty.mean(axis=0), abs=0.03)


def test_a_slow_thermostat_and_a_dimmer_give_the_same_day() -> None:
    """Means and energy of on/off and dimming control agree: the duty is what the walls lose."""
    dimmed = course(DIMMED, solve_steady(DIMMED, spread=False), "winter")
    switched_case = replace(DIMMED, heaters=(replace(DIMMED.heaters[0], control="on-off", hysteresis_k=0.5),))
    switched = course(switched_case, solve_steady(switched_case, spread=False), "winter")
    assert switched.kwh == pytest.approx(dimmed.kwh, rel=0.02)
    assert switched.basking_surface[14 * 60 : 19 * 60].mean() == pytest.approx(41.0, abs=0.4)
    assert dimmed.basking_surface[14 * 60 : 19 * 60] == pytest.approx(41.0, abs=0.2)


def test_a_probe_that_reads_high_leaves_the_animal_cooler() -> None:
    """Common practice, no source: a probe 1.4 °C high holds 1.4 °C less."""
    wrong = replace(DIMMED, heaters=(replace(DIMMED.heaters[0], probe_error_k=1.4),))
    assert solve_steady(wrong).states["winter", "day"].predictions["basking_surface"].value == pytest.approx(39.6, abs=0.1)
    assert course(wrong, solve_steady(wrong), "winter").basking_surface[18 * 60] == pytest.approx(39.6, abs=0.3)


@pytest.mark.parametrize("case", [SWUNG, DIMMED, POND], ids=["timer", "dimmed", "pond"])
def test_the_stepped_day_ends_where_the_settled_one_is(case: EnclosureCase) -> None:
    """Two roads to the same evening: the mixture of settled states, and the stepping (room without a curve of its own)."""
    level = replace(case, rooms=dict.fromkeys(("summer", "winter"), RoomState(20.0, 20.0, 50.0)))
    climate = solve_steady(level, spread=False)
    day = course(level, climate, "winter")
    evening, dawn = int(level.light_off_hour * 60) - 1, int(level.light_on_hour * 60) - 1
    for phase, minute in (("day", evening), ("night", dawn)):
        state = climate.states["winter", phase].predictions
        assert day.warm_air[minute] == pytest.approx(state["warm_air"].value, abs=0.3)
        assert day.cool_air[minute] == pytest.approx(state["cool_air"].value, abs=0.3)
        assert day.basking_surface[minute] == pytest.approx(state["basking_surface"].value, abs=0.5)
        assert day.cool_humidity[minute] == pytest.approx(state["cool_humidity"].value, abs=2.0)


def test_water_hardly_follows_the_day() -> None:
    """40 l of water swing by a fraction of the room's six degrees; an unheated bare tank follows them."""
    day = course(POND, solve_steady(POND, spread=False), "winter")
    water = day.nodes[:, DayModel(POND, solve_steady(POND, spread=False), "winter").nodes.water]
    assert water.max() - water.min() < 3.5
    assert day.cool_air.max() - day.cool_air.min() > water.max() - water.min()


def test_a_keepers_own_curve_passes_through_its_hours() -> None:
    """The harmonics of twenty-four hourly means give those values back at the half hours."""
    curve = tuple(18.0 + 4.0 * (9 <= hour < 21) + 0.1 * hour for hour in range(24))
    room = RoomState(22.0, 18.0, 50.0, curve)
    assert room_curve(room, np.arange(0.5, 24.0)) == pytest.approx(np.array(curve), abs=1e-9)
    case = replace(PVC, heaters=(), bowl_m2=0.0, rooms={"winter": room, "summer": room})
    day = course(case, solve_steady(case, spread=False), "winter")
    assert day.cool_air.mean() == pytest.approx(np.mean(curve), abs=0.1)


def test_misting_raises_the_humidity_and_it_falls_again() -> None:
    misted = replace(DAMP, ground_damp=False, mistings=(MistingCase(10.0, 0.03),))
    day = course(misted, solve_steady(misted, spread=False), "winter")
    before, after, later = (float(day.cool_humidity[hour * 60 - 1]) for hour in (10, 11, 17))
    assert after > before + 10
    assert later < after - 10


def test_deeper_ground_smooths_the_day_below_it() -> None:
    """Carslaw & Jaeger (recalled): with depth the day's wave in the ground dies away; the bottom swings least."""
    case = EnclosureCase(
        "glass",
        "mesh",
        0.65,
        0.9,
        0.45,
        0.45,
        "sand",
        0.25,
        False,
        BaskingSpot(0.2, 0.2, 0.25, "ground"),
        GLASS.heaters,
        SWINGING,
        8.0,
        20.0,
    )
    day = course(case, solve_steady(case, spread=False), "winter")
    nodes = DayModel(case, solve_steady(case, spread=False), "winter").nodes
    swings = [float(np.ptp(day.nodes[:, nodes.ground.start + layer * 5])) for layer in range(len(nodes.layer_m))]
    assert swings == sorted(swings, reverse=True)
