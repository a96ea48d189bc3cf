"""What must hold for every enclosure: symmetry, and which way things go; and closed forms of light and UV."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.climate import heaters
from husbandry.climate.air import saturation_pressure
from husbandry.climate.case import BaskingSpot, EnclosureCase, HeaterCase, VentCase, running
from husbandry.climate.contact import mat_contact
from husbandry.climate.openings import exchange_of, stack_flow
from husbandry.climate.parameters import PARAMETERS, variation
from husbandry.climate.steady import solve_steady, varied
from husbandry.climate.walls import build_of, wall_u
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import glowing
from husbandry.light import ultraviolet
from husbandry.light.visible import Luminaire, lux_at
from husbandry.plan.geometry import spot_x_m
from husbandry.species.book import find
from tests.core.test_day import DAMP
from tests.core.test_enclosures import GLASS, MESH, PVC, flood
from tests.plans import TODAY, plan
from tests.sample import times

KINDS = ("reflector-flood", "halogen-flood", "ceramic-emitter", "infrared-projector", "radiant-panel")
# Places along the length clear of the middle, where either side may be called the warm one.
OFF_MIDDLE = st.floats(0.05, 0.95).filter(lambda place: abs(place - 0.5) > 0.02)
CASES = {"box": PVC, "glass": GLASS, "mesh": MESH, "damp": DAMP}


def by_day(case: EnclosureCase, name: str) -> float:
    return solve_steady(case, spread=False, seasons=("winter",)).states["winter", "day"].predictions[name].value


@settings(max_examples=times(8, 25))
@given(st.sampled_from(KINDS), st.floats(20, 150), st.floats(0.22, 0.50), st.floats(0.01, 0.08))
def test_a_lamp_raised_straight_above_the_stone_never_makes_it_hotter(kind: str, watts: float, height: float, more: float) -> None:
    spot = PVC.spot.x_m
    low = replace(PVC, heaters=(flood(watts, spot, height, kind),))
    high = replace(PVC, heaters=(flood(watts, spot, height + more, kind),))
    assert by_day(high, "basking_surface") <= by_day(low, "basking_surface") + 1e-6


@settings(max_examples=times(5, 15))
@given(st.sampled_from(sorted(CASES)), OFF_MIDDLE, OFF_MIDDLE)
def test_a_mirrored_set_up_mirrors(name: str, lamp: float, stone: float) -> None:
    case = CASES[name]
    length = case.length_m

    def placed(where: float, spot: float, bowl: float) -> EnclosureCase:
        moved = replace(case.heaters[0], x_m=where)
        return replace(case, heaters=(moved,), spot=replace(case.spot, x_m=spot), bowl_x_m=bowl, humid_hide_x_m=length - bowl)

    one = solve_steady(placed(lamp * length, stone * length, 0.3 * length), spread=False).states["winter", "day"]
    other = solve_steady(placed((1 - lamp) * length, (1 - stone) * length, 0.7 * length), spread=False).states["winter", "day"]
    assert np.array(one.air_c)[:, ::-1] == pytest.approx(np.array(other.air_c), abs=0.02)
    assert np.array(one.ground_c)[::-1] == pytest.approx(np.array(other.ground_c), abs=0.02)
    assert one.predictions["basking_surface"].value == pytest.approx(other.predictions["basking_surface"].value, abs=0.02)


def along(part: str, case: EnclosureCase, x_m: float) -> EnclosureCase:
    """`case` with one of its parts at `x_m`."""
    if part == "lamp":
        return replace(case, heaters=(replace(case.heaters[0], x_m=x_m),))
    if part == "stone":
        return replace(case, spot=replace(case.spot, x_m=x_m))
    return replace(case, bowl_x_m=x_m) if part == "bowl" else replace(case, humid_hide_x_m=x_m)


@pytest.mark.parametrize("part", ["lamp", "stone", "bowl", "humid hide"])
@pytest.mark.parametrize("name", sorted(CASES))
def test_nothing_jumps_where_a_part_is_dragged_over_the_edge_of_a_zone(part: str, name: str) -> None:
    """From memory: a place a millimetre further along is no other place. The edge of the second zone lies at two fifths."""
    case = CASES[name]
    case = replace(case, humid_hide=True, bowl_m2=max(case.bowl_m2, 0.02))
    edge = 0.4 * case.length_m
    before, after = (solve_steady(along(part, case, edge + aside), spread=False, seasons=("winter",)) for aside in (-5e-4, 5e-4))
    far = solve_steady(along(part, case, edge + 0.15 * case.length_m), spread=False, seasons=("winter",))
    for phase in ("day", "night"):
        one, other, moved = (found.states["winter", phase].predictions for found in (before, after, far))
        for key, spread in one.items():
            step, way = abs(other[key].value - spread.value), abs(moved[key].value - spread.value)
            assert step <= 0.1 + 0.05 * way, (key, phase)


def test_a_mat_over_two_zones_is_as_hot_as_in_one() -> None:
    """What a zone's mean does not show of a mat over two of them, the rise over the mean does: the same mat, the same glass."""
    found = []
    for x_m in (0.36, 0.42, 0.479, 0.481, 0.60):
        case = replace(PVC, heaters=(replace(flood(20, x_m, 0.0, "mat"), length_m=0.2),))
        contact, state = mat_contact(case, 0), solve_steady(case, spread=False, seasons=("winter",)).states["winter", "day"]
        assert contact is not None
        assert contact.below.sum() == pytest.approx(1.0)
        found.append(float(contact.below @ state.node_c) + contact.contact_rise_k)
    assert found[2] == pytest.approx(found[3], abs=0.1)
    assert max(found) - min(found) < 0.1 * (max(found) - 21.0)


@settings(max_examples=times(6, 20))
@given(st.sampled_from(sorted(CASES)), st.floats(-2.0, 2.0), st.floats(0.1, 1.5))
def test_more_air_brings_the_vapour_towards_the_rooms_and_never_past_it(name: str, first: float, more: float) -> None:
    case = CASES[name]
    deviations = np.zeros((2, len(PARAMETERS)))
    deviations[:, PARAMETERS.index("air_changes")] = first, first + more
    settling = varied(case, ("winter",), variation(deviations))
    room = case.rooms["winter"]
    for half, room_c in ((0, room.day_c), (1, room.night_c)):
        less, airier = settling.vapour.pressure_pa[2 * half : 2 * half + 2]
        of_room = room.humidity_percent / 100 * float(saturation_pressure(room_c))
        assert of_room - 1e-6 <= airier <= less + 0.5


@settings(max_examples=times(5, 15))
@given(st.sampled_from(sorted(CASES)), st.floats(0.3, 3.0))
def test_a_warmer_room_is_warmer_inside_by_as_much_or_less(name: str, more: float) -> None:
    """A thermostat or a wind of its own may hold some of it back; nothing makes more of it."""
    case = CASES[name]
    warmer = replace(case, rooms={season: replace(room, day_c=room.day_c + more) for season, room in case.rooms.items()})
    rise = by_day(warmer, "cool_air") - by_day(case, "cool_air")
    assert 0 < rise <= more * 1.02


def test_covering_the_lid_keeps_warmth_and_vapour() -> None:
    half = replace(DAMP, lid_covered=0.5)
    assert by_day(half, "warm_air") > by_day(DAMP, "warm_air")
    assert exchange_of(half.shell).usual_h < exchange_of(DAMP.shell).usual_h


def test_foam_board_outside_saves_what_its_resistance_says() -> None:
    """ISO 6946: 20 mm of foam board (0.033 W/mK) add 0.61 m²K/W; the same lamp makes it warmer."""
    packed = replace(PVC, insulation_m=0.02)
    assert by_day(packed, "cool_air") > by_day(PVC, "cool_air") + 0.5


def test_thicker_walls_keep_more_by_their_own_resistance() -> None:
    """ISO 6946: chipboard's cousin plywood (0.13 W/mK), 12 mm and 30 mm between two rooms: 2.84 and 2.04 W/m²K."""
    usual, thick = build_of("plywood"), build_of("plywood", 0.030)
    assert wall_u(usual) == pytest.approx(1 / (0.26 + 0.012 / 0.13))
    assert wall_u(thick) == pytest.approx(1 / (0.26 + 0.030 / 0.13))
    assert by_day(replace(PVC, wall_m=0.03), "cool_air") > by_day(PVC, "cool_air")
    assert build_of("mesh", 0.03).thickness_m is None


def test_stack_flow_follows_the_root_of_height_and_warmth() -> None:
    """ASHRAE Fundamentals, stack effect (recalled): four times the rise or the height is twice the air."""
    vents = (VentCase(0.1, 0.004), VentCase(0.5, 0.004))
    high = (VentCase(0.1, 0.004), VentCase(1.7, 0.004))
    assert stack_flow(vents, 8.0) == pytest.approx(2 * stack_flow(vents, 2.0))
    assert stack_flow(high, 2.0) == pytest.approx(2 * stack_flow(vents, 2.0))
    # Two openings of 40 cm² in series are one of 28 cm²: 0.6 · 0.00283 · √(2 g 0.4 · 5/295)
    assert stack_flow(vents, 5.0) == pytest.approx(0.6 * 0.004 / math.sqrt(2) * math.sqrt(2 * 9.81 * 0.4 * 5 / 295))


@pytest.mark.parametrize("distance", [0.05, 0.1, 0.2, 0.5])
def test_an_even_lambertian_disc_has_its_closed_form(distance: float) -> None:
    """A half-angle of 60° is a Lambertian face: on its axis E = Φ/π (R² + d²), a disc's view factor (Howell's catalogue, recalled).

    Thirteen points stand for the face: 2 % at one radius, where no lamp may hang, a thousandth from two on.
    """
    radius = 0.05
    ours = float(heaters.irradiance(1.0, 60.0, 2 * radius, 0.0, 0.0, distance))
    assert ours == pytest.approx(1 / (math.pi * (radius**2 + distance**2)), rel=0.02 if distance == radius else 0.002)


def test_one_index_for_an_hour_is_ninety_joules() -> None:
    """WHO 2002: one UV index is 0.025 W/m²; ISO/CIE 17166: one standard erythema dose is 100 J/m²."""
    assert ultraviolet.dose_sed(1.0, 1.0) == pytest.approx(0.9)
    assert ultraviolet.dose_sed(4.0, 12.0) == pytest.approx(43.2)


def test_a_roof_keeps_the_uv_out_and_leaves_what_is_beside_it() -> None:
    lamp = ultraviolet.Lamp("slim-12", 0.55, 0.5, 0.45, True, 0.0, 1.0, 1.0)
    roof = (ultraviolet.Shade(0.4, 0.6, 0.2),)
    places = np.array([0.5, 0.95])
    open_, roofed = (ultraviolet.index_at((lamp,), places, 0.1, shade) for shade in ((), roof))
    assert roofed[0] < 0.05 * open_[0]
    assert roofed[1] == pytest.approx(open_[1], rel=0.35)
    above = ultraviolet.index_at((lamp,), places, 0.3, roof)
    assert above == pytest.approx(ultraviolet.index_at((lamp,), places, 0.3, ()))


def test_lux_falls_with_the_square_far_from_a_point() -> None:
    """A point source's inverse square law; a lumen spread over the half-space below."""
    lamp = Luminaire(0.5, 2.0, 1000.0, 0.0, 60.0, 1.0)
    near, far = (float(lux_at((lamp,), np.array([0.5]), 2.0 - distance)[0]) for distance in (0.5, 1.0))
    assert near == pytest.approx(4 * far, rel=0.02)
    assert far == pytest.approx(1000.0 / math.pi, rel=0.05)


def test_the_ends_keep_their_names_whatever_the_watts() -> None:
    """Of a box with its basking place on the left, the cool end's heater was raised from 120 to 133 W: warm air fell by 5 K."""
    ends = []
    for watts in (100.0, 133.0, 200.0):
        right = {"kind": "ceramic-emitter", "watts": watts, "x_m": 1.0, "height_m": 0.4, "on": "00:00", "off": "00:00"}
        made = plan(heaters__1=right | {"guarded": True, "thermostat": {"kind": "none"}}, heaters__0__watts=100.0)
        found = assess(made, find(made.species), TODAY, depth=NO_DAYS)
        ends.append([found.quantity(f"{end}_air", "winter", "night").value or 0.0 for end in ("warm", "cool")])
    warm, cool = zip(*ends, strict=True)
    assert warm == tuple(sorted(warm))
    assert cool == tuple(sorted(cool))
    assert cool[-1] > warm[-1]  # the names are the places'


@pytest.mark.parametrize("watts", [(60.0, 100.0), (100.0, 60.0)])
def test_without_a_platform_it_basks_under_the_same_lamp_whatever_the_watts(watts: tuple[float, float]) -> None:
    lamps = [
        {"kind": "reflector-flood", "watts": strong, "x_m": x_m, "height_m": 0.4}
        for strong, x_m in zip(watts, (0.3, 0.9), strict=True)
    ]
    bare = plan(platform=None, heaters=[{"kind": "mat", "watts": 200.0, "x_m": 0.6, "height_m": 0.01}, *lamps])
    assert spot_x_m(bare) == 0.3


def test_a_dark_heater_added_at_the_cool_end_leaves_the_ends_where_they_are() -> None:
    tube = {"kind": "tube-heater", "watts": 60.0, "x_m": 0.3, "height_m": 0.2, "on": "00:00", "off": "00:00"}
    ceramic = {"kind": "ceramic-emitter", "watts": 150.0, "x_m": 1.0, "height_m": 0.4, "on": "00:00", "off": "00:00"}
    assert spot_x_m(plan(platform=None, heaters=[tube, ceramic])) == spot_x_m(plan(platform=None, heaters=[tube])) == 0.3


def test_a_keepers_curve_of_the_room_moves_every_settled_number() -> None:
    """A room kept at 30 °C by its curve, with 22 °C written beside it, warmed the inside to 22.0 °C."""
    said = plan(heaters=[], room__summer__day_c=22.0)
    kept = plan(heaters=[], room__summer__day_c=22.0, room__summer__curve_c=[30.0] * 24)
    same = plan(heaters=[], room__summer__day_c=30.0, room__summer__night_c=30.0)
    found, without, flat = (assess(made, find(made.species), TODAY, depth=NO_DAYS) for made in (kept, said, same))
    for key in ("warm_air", "cool_air", "cool_humidity"):
        for phase in ("day", "night"):
            now = found.quantity(key, "summer", phase).value
            assert now == pytest.approx(flat.quantity(key, "summer", phase).value)
            if key != "cool_humidity":
                assert now != pytest.approx(without.quantity(key, "summer", phase).value, abs=1.0)


def test_a_compact_warms_by_its_watts_and_not_by_its_coil() -> None:
    """Common practice, no source: compacts of 13 to 26 W have a coil of some ten centimetres."""
    compact = {"kind": "compact-10", "tube_m": 0.1, "x_m": 0.36, "height_m": 0.41}
    (_hung, watts, _length), *_others = glowing(plan(uv_lamps=[compact]))
    assert 13 <= watts <= 26
    assert glowing(plan(uv_lamps=[compact | {"tube_m": 0.05}]))[0][1] == watts


@pytest.mark.parametrize(
    ("first", "again", "hours"),
    [
        (("08:00", "14:00"), ("12:00", "20:00"), 12.0),
        (("08:00", "20:00"), ("10:00", "12:00"), 12.0),
        (("10:00", "12:00"), ("08:00", "20:00"), 12.0),
        (("08:00", "20:00"), ("18:00", "09:00"), 24.0),
        (("06:00", "08:00"), ("18:00", "20:00"), 4.0),
        (("08:00", "08:00"), ("18:00", "20:00"), 24.0),
    ],
)
def test_a_lamp_whose_times_overlap_gives_its_watts_once(first: tuple[str, str], again: tuple[str, str], hours: float) -> None:
    """A tube of 25 W was said to give 46 W where its two times overlapped."""
    lamp = {"kind": "wide-5", "tube_m": 0.55, "x_m": 0.36, "height_m": 0.41, "on": first[0], "off": first[1]}
    made = plan(heaters=[], uv_lamps=[lamp | {"again_on": again[0], "again_off": again[1]}])
    case = enclosure_case(made)
    on = [
        sum(heater.watts for heater in case.heaters if running(heater.on_hour, heater.off_hour, hour / 4 + 0.1))
        for hour in range(96)
    ]
    assert max(on) == pytest.approx(glowing(made)[0][1])
    assert sum(watts > 0 for watts in on) / 4 == hours == made.uv_lamps[0].hours_a_day


@pytest.mark.sweep
@pytest.mark.parametrize("kind", ["glass", "foamed-pvc"])
def test_nothing_jumps_as_an_enclosure_grows_taller(kind: str) -> None:
    """A centimetre more of height moves no temperature by more than a quarter of a kelvin, however tall it is for its length.

    At 1.2 times its length it was cut into other levels: warm air went from 26.6 to 29.3 °C between 1.43 and 1.45 m.
    """
    for length_m in (0.6, 1.2):
        heights = np.arange(0.9 * length_m, 1.5 * length_m, 0.01)
        spot = BaskingSpot(0.25 * length_m, 0.15, 0.1, "stone")
        lamp = HeaterCase("reflector-flood", 60.0, 0.25 * length_m, 0.45, 40.0, 8.0, 20.0)
        cases = [replace(PVC, kind=kind, length_m=length_m, height_m=high, spot=spot, heaters=(lamp,)) for high in heights]
        for key in ("warm_air", "cool_air", "basking_surface", "hottest_air"):
            found = np.array([by_day(case, key) for case in cases])
            assert np.abs(np.diff(found)).max() < 0.25, key


def test_warm_air_gathers_under_the_lid_more_than_on_the_ground() -> None:
    """Buoyancy: in every enclosure with a lamp the upper half is the warmer over its zones together; a taller one the more so."""
    for case in (PVC, GLASS, MESH):
        low, high = np.array(solve_steady(case, spread=False, seasons=("winter",)).states["winter", "day"].air_c)
        assert high.mean() > low.mean()


def test_a_heater_hung_low_sends_most_of_its_warm_air_up() -> None:
    """A tube heater near the floor never leaves the air above it colder than the air around it."""
    tube = HeaterCase("tube-heater", 100.0, 0.6, 0.1, 60.0, 0.0, 0.0, length_m=0.5)
    low, high = np.array(
        solve_steady(replace(PVC, heaters=(tube,)), spread=False, seasons=("winter",)).states["winter", "night"].air_c
    )
    assert (high > low).all()
