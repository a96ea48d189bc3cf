"""A room's electricity: loads by strip and circuit, what trips, what goes dark; leads, holes and heat; the mister's reach."""

import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from husbandry.design.second_thermostat import second_thermostat
from husbandry.species.book import find
from husbandry.wiring.cables import HOT_W_M2, LAMP_M, Lead, LeadTrouble, hot_at, leads
from husbandry.wiring.consumers import Consumer, consumers, load_kinds
from husbandry.wiring.loads import Trouble, circuit_loads, dark_without, faults, strip_loads
from husbandry.wiring.nozzles import hose_loss_bar, nozzle_places, spray
from husbandry.wiring.settings import Circuit, HabitatFeed, Plug, Strip, Wiring
from husbandry.wiring.spread import spread
from tests.plans import TODAY, plan
from tests.sample import times

FLOOD = {"kind": "reflector-flood", "watts": 75.0, "x_m": 0.26, "height_m": 0.4, "guarded": True}
HELD = {"kind": "dimming", "set_c": 33.0, "probe": "basking-surface"}


def lamp(watts: float = 100.0, kind: str = "ceramic-emitter", control: str = "", key: str = "heaters.0") -> Consumer:
    return Consumer(key, kind, watts, (0.3, 0.3, 0.4), control)


def wired(
    *there: Consumer, volts: float = 230.0, strip: float = 10.0, **circuit: Any
) -> tuple[Wiring, dict[str, tuple[Consumer, ...]]]:
    told = {"residual_ma": 30.0} | circuit
    made = Wiring(
        volts=volts,
        circuits=(Circuit(name="Room", **told),),
        strips=(Strip(name="Shelf", circuit="Room", rated_a=strip),),
        feeds={"1": HabitatFeed(plugs={one.key: Plug(strip="Shelf") for one in there})},
    )
    return made, {"1": there}


def troubles(*there: Consumer, **how: Any) -> set[Trouble]:
    return {fault.what for fault in faults(*wired(*there, **how))}


def test_current_is_watts_over_volts() -> None:
    """100 W at 120 V is 0.83 A, at 230 V 0.43 A (Ohm's law)."""
    for volts, amps in ((120.0, 0.833), (230.0, 0.435)):
        load = strip_loads(*wired(lamp(100.0), volts=volts))["Shelf"]
        assert load.amps == pytest.approx(amps, abs=0.001)
        assert load.watts == 100.0


def test_a_breaker_is_loaded_to_four_fifths_for_hours() -> None:
    """NEC, article 210.20(A): a continuous load times 1.25 fits the breaker; 12 A on 15 A fit, 12.1 A do not (from memory)."""
    heaters = [lamp(240.0, key=f"heaters.{n}", control="on-off") for n in range(6)]
    assert Trouble.CIRCUIT_HIGH not in troubles(*heaters, volts=120.0, strip=15.0, breaker_a=15.0)
    more = Consumer("light_bars.0", "mat", 12.0, (0.1, 0.1, 0.0), "pulse")
    assert Trouble.CIRCUIT_HIGH in troubles(*heaters, more, volts=120.0, strip=15.0, breaker_a=15.0)
    assert Trouble.CIRCUIT_HIGH not in troubles(*heaters[:5], volts=120.0, strip=15.0, breaker_a=15.0)
    assert Trouble.CIRCUIT_OVER in troubles(*heaters, volts=120.0, strip=15.0, breaker_a=15.0, other_w=400.0)


def test_what_is_overloaded_unprotected_or_short_of_sockets_is_said_and_danger_comes_first() -> None:
    many = [lamp(400.0, key=f"heaters.{n}", control="on-off") for n in range(8)]
    wiring, rooms = wired(*many, residual_ma=None)
    found = [fault.what for fault in faults(wiring, rooms)]
    assert found[0] is Trouble.STRIP_OVER
    assert set(found) >= {Trouble.SOCKETS, Trouble.NO_RESIDUAL, Trouble.ONE_STRIP}
    assert found.index(Trouble.NO_RESIDUAL) < found.index(Trouble.SOCKETS)
    assert Trouble.NO_RESIDUAL in troubles(lamp(), residual_ma=300.0)  # a fire guard, not one for people
    assert not troubles(lamp(control="pulse"))


def test_many_lamps_at_once_trip_a_breaker_that_carries_them() -> None:
    """A cold filament takes ten to fifteen times its current (from memory): 8 of 150 W trip 16 A that carry them."""
    many = [lamp(150.0, "halogen-flood", "dimming", f"heaters.{n}") for n in range(8)]
    assert Trouble.INRUSH in troubles(*many)
    assert Trouble.CIRCUIT_OVER not in troubles(*many)
    # Makers of drivers allow ten to thirty of them on such a breaker (common practice, no source): their pulse is short.
    tubes = [lamp(24.0, "slim-12", key=f"uv_lamps.{n}") for n in range(20)]
    assert Trouble.INRUSH not in troubles(*tubes[:10])
    assert Trouble.INRUSH in troubles(*tubes)
    ceramic = [lamp(150.0, "ceramic-emitter", "pulse", f"heaters.{n}") for n in range(8)]
    assert Trouble.INRUSH not in troubles(*ceramic)


def test_a_thermostat_carries_what_its_plate_says_and_suits_its_heater() -> None:
    assert Trouble.THERMOSTAT_OVER in troubles(lamp(400.0, "halogen-flood", "dimming"))
    wiring, rooms = wired(lamp(400.0, "halogen-flood", "dimming"))
    plate = wiring.model_copy(update={"feeds": {"1": HabitatFeed(plugs={"heaters.0": Plug(strip="Shelf", carries_w=600.0)})}})
    assert Trouble.THERMOSTAT_OVER not in {one.what for one in faults(plate, rooms)}
    assert Trouble.THERMOSTAT_UNSUITED in troubles(lamp(60.0, "vapour-combined", "dimming"))
    assert Trouble.UNCONTROLLED in troubles(lamp(60.0, "mat"))
    assert not troubles(lamp(60.0, "halide-combined"))


def test_every_kind_of_the_plan_is_known_to_the_wire() -> None:
    full = plan(
        heaters=[FLOOD | {"thermostat": HELD}, {"kind": "mat", "watts": 15.0, "x_m": 0.3, "height_m": 0.01, "length_m": 0.3}],
        light_bars=[{"kind": "plant-led", "watts": 20.0, "length_m": 0.6, "x_m": 0.6, "height_m": 0.42}],
        mister={"nozzles": 2},
        misting={"times": [{"at": "08:00", "grams": 80.0}], "fogger_g_per_hour": 20.0},
        pool={"x_m": 0.9, "length_m": 0.4, "depth_m": 0.05, "filtered": True, "fan": True},
    )
    there = consumers(full)
    keys = ["heaters.0", "heaters.1", "uv_lamps.0", "light_bars.0", "filter", "fan", "mister", "fogger"]
    assert [one.key for one in there] == keys
    assert all(one.kind in load_kinds() and one.amps(230) > 0 for one in there)


def test_without_a_strip_what_is_on_it_is_dark() -> None:
    flood, tube = lamp(75.0, "reflector-flood", "dimming"), Consumer("uv_lamps.0", "wide-5", 24.0, (0.3, 0.2, 0.4))
    wiring, rooms = wired(flood, tube)
    two = Wiring(
        circuits=wiring.circuits,
        strips=(*wiring.strips, Strip(name="Wall", circuit="Room")),
        feeds={"1": HabitatFeed(plugs={"heaters.0": Plug(strip="Shelf"), "uv_lamps.0": Plug(strip="Wall")})},
    )
    lost = dark_without(two, rooms, "Shelf")[0]
    assert ([one.key for one in lost.lost], lost.all_warmth, lost.all_light) == (["heaters.0"], True, False)
    assert circuit_loads(two, rooms)["Room"].pieces == 2


@pytest.mark.parametrize(
    ("told", "kind"),
    [
        ({"strips": [{"name": "Shelf", "circuit": "Room", "rated_a": 40}]}, "strip_too_large"),
        ({"strips": [{"name": "Shelf", "circuit": "Cellar"}]}, "unknown_circuit"),
        ({"circuits": [{"name": "Room"}, {"name": "Room"}]}, "name_twice"),
        ({"circuits": [{"name": "Room", "breaker_a": 400}]}, "breaker_too_large"),
        ({"volts": 12}, "odd_voltage"),
        ({"feeds": {"1": {"plugs": {"heaters.0": {"strip": "none"}}}}}, "unknown_strip"),
        ({"circuits": [{"name": "Room", "other_w": -5}]}, "greater_than_equal"),
    ],
)
def test_what_cannot_be_is_refused(told: dict[str, object], kind: str) -> None:
    with pytest.raises(ValidationError) as refused:
        Wiring.model_validate({"circuits": [{"name": "Room"}]} | told)
    assert refused.value.errors()[0]["type"] == kind


def led(key: str = "uv_lamps.0", feed: HabitatFeed | None = None, strip: Strip | None = None, **changes: Any) -> Lead:
    made = plan(**changes)
    strips = {"Shelf": strip or Strip(name="Shelf", circuit="Room", up_m=0.7)}
    there = consumers(made)
    plugged = (feed or HabitatFeed()).model_copy(update={"plugs": {one.key: Plug(strip="Shelf") for one in there}})
    return next(lead for lead in leads(made, there, plugged, strips) if lead.key == key and not lead.probe)


def test_a_lead_goes_straight_back_with_a_drip_loop_and_its_length_is_walked() -> None:
    """0.25 m back, 0.34 m along, 0.3 m behind, 0.4 m down, the loop twice 0.1 m, a tenth of slack: by hand."""
    lead = led("heaters.0")
    assert lead.inside == ((0.26, 0.25, 0.4), (0.26, 0.5, 0.4))
    assert lead.hole is not None
    assert (lead.hole.wall, lead.hole.drilled, lead.loop) == ("back", True, True)
    assert lead.length_m == pytest.approx(1.1 * (0.25 + 0.34 + 0.3 + 0.4 + 0.2))


def test_a_lead_that_is_too_long_is_said_and_a_thermostat_lends_its_own() -> None:
    far = HabitatFeed(away_m=1.0)
    assert LeadTrouble.LONG not in led("heaters.0", feed=far, heaters=[FLOOD | {"thermostat": HELD}]).troubles
    assert LeadTrouble.LONG in led("heaters.0", feed=far, heaters=[FLOOD]).troubles
    assert LeadTrouble.LONG in led("heaters.0", feed=HabitatFeed(away_m=4.0), heaters=[FLOOD | {"thermostat": HELD}]).troubles


def test_a_strip_above_the_enclosure_needs_no_loop_and_water_beside_one_is_said() -> None:
    assert not led("heaters.0", strip=Strip(name="Shelf", circuit="Room", up_m=2.0)).loop
    near = HabitatFeed(away_m=0.1)
    wet: dict[str, Any] = {"misting": {"grams_per_day": 100.0}}
    assert LeadTrouble.SPLASH not in led("heaters.0", feed=near).troubles
    assert LeadTrouble.SPLASH in led("heaters.0", feed=near, **wet).troubles
    low = Strip(name="Shelf", circuit="Room", up_m=0.02)
    assert {LeadTrouble.BELOW, LeadTrouble.ON_FLOOR} <= set(led("heaters.0", feed=near, strip=low, **wet).troubles)


def test_glass_is_not_drilled_and_a_lamp_on_mesh_needs_no_hole() -> None:
    inside = led("heaters.0", enclosure__kind="glass")
    assert inside.hole is not None
    assert not inside.hole.drilled
    on_mesh = led("heaters.0", enclosure__kind="glass", enclosure__lid="mesh", heaters=[FLOOD | {"height_m": 0.47}])
    assert on_mesh.hole is None


@pytest.mark.parametrize(("kind", "lid"), [("open-table", "open"), ("glass", "mesh"), ("mesh", "mesh")])
def test_a_lamp_above_the_rim_is_led_away_level_and_not_down_its_own_beam(kind: str, lid: str) -> None:
    for height_m in (0.5, 0.6, 0.75):
        lead = led("heaters.0", enclosure__kind=kind, enclosure__lid=lid, heaters=[FLOOD | {"height_m": height_m, "watts": 150.0}])
        assert lead.hot == ()
        assert {point[2] for point in lead.inside} == {height_m}


def test_an_air_probe_is_clipped_to_the_wall_out_of_the_beam() -> None:
    """A lamp midway, the air read at its height in the middle of the warm end: on the wall behind it the probe reads air."""
    near = {"kind": "pulse", "set_c": 27.0, "probe": "own", "probe_x_m": 0.26, "probe_height_m": 0.3}
    emitter = {"kind": "ceramic-emitter", "watts": 60.0, "x_m": 0.6, "height_m": 0.4, "guarded": True, "thermostat": near}
    made = plan(heaters=[FLOOD | {"thermostat": HELD}, emitter])
    lead = {(one.key, one.probe): one for one in leads(made, consumers(made), HabitatFeed(), {})}["heaters.1", True]
    assert lead.inside[0] == (0.26, 0.5, 0.3)
    assert lead.hot == ()
    assert hot_at(made, (0.26, 0.25, 0.3)) == ("heaters.0",)


def test_a_tubes_lead_leaves_at_the_end_away_from_the_lamp() -> None:
    lead = led(uv_lamps=[{"kind": "wide-5", "tube_m": 0.55, "x_m": 0.4, "height_m": 0.41}])
    assert lead.hot == ()
    assert lead.inside[0][0] == pytest.approx(0.675)


def test_a_lead_that_cannot_pass_a_lamp_says_so() -> None:
    walled = [FLOOD | {"x_m": x, "y_m": y} for x in (0.1, 0.26) for y in (0.12, 0.25, 0.38)]
    tube = [{"kind": "slim-6", "tube_m": 0.02, "x_m": 0.18, "y_m": 0.25, "height_m": 0.4}]
    assert LeadTrouble.HOT in led(heaters=walled, uv_lamps=tube).troubles


@settings(max_examples=times(13, 40), deadline=None)
@given(
    x=st.floats(0.05, 1.15),
    y=st.floats(0.05, 0.45),
    watts=st.floats(25, 200),
    tube_x=st.floats(0.1, 1.1),
    tube_y=st.floats(0.05, 0.45),
    part=st.floats(0, 1),
)
def test_no_lead_goes_through_heat_unsaid(x: float, y: float, watts: float, tube_x: float, tube_y: float, part: float) -> None:
    """Wherever a lead lies within the distance that it keeps from another's lamp, or in its strong beam, it says so."""
    made = plan(
        heaters=[FLOOD | {"x_m": x, "y_m": y, "watts": watts, "thermostat": HELD}],
        uv_lamps=[{"kind": "wide-5", "tube_m": 0.1, "x_m": tube_x, "y_m": tube_y, "height_m": 0.38}],
    )
    for lead in leads(made, consumers(made), HabitatFeed(), {}):
        for begin, end in zip(lead.inside, lead.inside[1:], strict=False):
            at = tuple(one + part * (other - one) for one, other in zip(begin, end, strict=True))
            own = lead.key == "heaters.0" and not lead.probe
            if math.dist(at, (x, y, 0.4)) < LAMP_M - 0.01 and not own:
                assert lead.hot == ("heaters.0",)
                assert lead.troubles


def test_a_beam_is_hot_where_a_dark_lead_would_reach_what_its_sheath_bears() -> None:
    """Beside the axis of 150 W at 15 cm it is hot; at the far end of the box it is not; below ground it never is."""
    made = plan(heaters=[FLOOD | {"watts": 150.0}])
    assert 60 < 0.9 * HOT_W_M2 / 16 + 40 < 70
    assert hot_at(made, (0.26, 0.25, 0.2)) == ("heaters.0",)
    assert hot_at(made, (1.1, 0.25, 0.2)) == ()
    assert hot_at(made, (0.26, 0.25, 0.03)) == ()


def test_the_hose_loses_what_pipes_lose() -> None:
    """Below Re 2300 128 μ L Q / π d⁴ (Hagen and Poiseuille); at 1 L/min in 4 mm over 4 m about 1.1 bar (Blasius, by hand)."""
    quantity = 100 / 60 / 1000 / 998
    laminar = 128 * 1.0e-3 * 4.0 * quantity / (math.pi * 0.004**4) / 1e5
    assert hose_loss_bar(100.0, 4.0) == pytest.approx(laminar, rel=1e-6)
    speed = 1 / 60_000 / (math.pi * 0.002**2)
    by_hand = 0.316 * (speed * 0.004 * 998 / 1e-3) ** -0.25 * 4.0 / 0.004 * 998 * speed**2 / 2 / 1e5
    assert hose_loss_bar(998.0, 4.0) == pytest.approx(by_hand, rel=0.01)
    assert hose_loss_bar(0.0, 4.0) == 0.0


def test_nozzles_reach_the_floor_and_the_pump_runs_for_the_grams_planned() -> None:
    """80 g by two nozzles of 80 g a minute: 30 s; 2 litres for 160 g a day: 12.5 days (by hand)."""
    watering = {"times": [{"at": "08:00", "grams": 80.0}, {"at": "20:00", "grams": 80.0}]}
    found = spray(plan(mister={"nozzles": 2, "reservoir_m3": 0.002}, misting=watering))
    assert found is not None
    assert found.seconds == (30.0, 30.0)
    assert found.reservoir_days == pytest.approx(12.5)
    assert [at for place in found.places for at in place] == pytest.approx([0.3, 0.25, 0.9, 0.25])
    # Two circles of 0.35 · tan 40° in two halves of the box: their own share of the floor, a little cut off by the walls.
    assert found.radius_m == pytest.approx(0.35 * math.tan(math.radians(40)), abs=0.001)
    assert 0.75 < found.reached < 2 * math.pi * found.radius_m**2 / 0.6
    wide = spray(plan(mister={"nozzles": 2, "cone_deg": 120, "pump_g_min": 320}, misting=watering))
    assert wide is not None
    assert wide.radius_m == pytest.approx(0.35 * math.sqrt(3), abs=0.001)
    assert wide.flow_share == 0.5
    more = spray(plan(mister={"nozzles": 6}, misting=watering))
    assert more is not None
    assert more.reached > found.reached
    assert more.twice > found.twice
    assert spray(plan()) is None
    assert nozzle_places(plan()) == ()
    assert found.floor_mm == pytest.approx(0.267, abs=0.001)
    assert not found.drain


@settings(max_examples=times(20, 60), deadline=None)
@given(watts=st.lists(st.floats(5, 500), min_size=1, max_size=24), sockets=st.integers(1, 8), rated=st.floats(2, 16))
def test_nothing_spread_by_the_program_overloads_anything(watts: list[float], sockets: int, rated: float) -> None:
    there = tuple(lamp(each, "ceramic-emitter", "pulse", f"heaters.{place}") for place, each in enumerate(watts))
    strips = tuple(Strip(name=name, circuit="Room", rated_a=rated, sockets=sockets) for name in ("Left", "Right"))
    made = spread(Wiring(circuits=(Circuit(name="Room", residual_ma=30.0),), strips=strips), {"1": there})
    bad = {Trouble.STRIP_OVER, Trouble.STRIP_HIGH, Trouble.CIRCUIT_OVER, Trouble.CIRCUIT_HIGH, Trouble.SOCKETS, Trouble.INRUSH}
    assert not bad & {one.what for one in faults(made, {"1": there})}


def test_the_warmth_of_one_animal_is_spread_over_two_strips() -> None:
    there = (lamp(60.0, control="pulse"), lamp(40.0, control="pulse", key="heaters.1"), lamp(20.0, "wide-5", key="uv_lamps.0"))
    strips = tuple(Strip(name=name, circuit="Room") for name in ("Left", "Right"))
    made = spread(Wiring(circuits=(Circuit(name="Room", residual_ma=30.0),), strips=strips), {"1": there})
    plugs = made.fed("1").plugs
    assert plugs["heaters.0"].strip != plugs["heaters.1"].strip
    assert set(plugs) == {one.key for one in there}
    assert not faults(made, {"1": there})


def test_a_second_thermostat_holds_what_a_first_that_sticks_would_burn() -> None:
    """A 75 W flood held at 33 °C: stuck on it passes what the animal bears, a second at 35 °C holds it near there."""
    found = second_thermostat(plan(), find("african-fat-tailed-gecko"), TODAY)
    assert [one.path for one in found] == ["heaters.0"]
    one = found[0]
    assert one.usual.surface_c == pytest.approx(33.0, abs=0.5)
    assert one.held.surface_c == pytest.approx(35.0, abs=0.5)
    assert one.stuck.surface_c > one.ceiling.surface_c
    assert one.stuck.air_c > one.held.air_c
    assert one.burns
    assert one.second_c == 35.0
    free = plan(heaters=[FLOOD])
    assert second_thermostat(free, find("african-fat-tailed-gecko"), TODAY) == ()
