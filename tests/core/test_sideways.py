"""Front to back: lamps, tubes and places beside one another, against integrals in three dimensions and rules of the trade."""

import math

import numpy as np
import pytest
from scipy.integrate import dblquad, quad

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.vetting import advise
from husbandry.assessment import Change, Severity, Verdict
from husbandry.climate.heaters import Beam, irradiance, patch_length
from husbandry.design.mounting import ways
from husbandry.design.parts import NoSuchPartError, move_on_floor
from husbandry.inputs.climate_case import enclosure_case
from husbandry.light.ultraviolet import Lamp, Shade, index_at, point_shape, tube_shape
from husbandry.plan.editing import apply, refit
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.species.book import find
from tests.plans import TODAY, assessed, plan

TUBE = Lamp("slim-12", 0.55, 0.5, 0.4)


def line(below: float, along: float, aside: float, tube: float, open_share: float = 1.0) -> float:
    """A line of points that shine as Lambert's cosine across the line, on a level surface: ∫ cos β cos γ / r² dl, mesh and all."""
    wire = 1 - math.sqrt(open_share)

    def part(place: float) -> float:
        x = place - along
        squared = x * x + aside * aside + below * below
        from_line = math.hypot(aside, below) / math.sqrt(squared)  # towards the receiver, off the line
        passed = (1 - wire / (below / math.hypot(below, aside))) * (1 - wire / (math.hypot(below, aside) / math.sqrt(squared)))
        return from_line * below / math.sqrt(squared) / squared * (passed if wire else 1.0)

    return quad(part, -tube / 2, tube / 2)[0]


@pytest.mark.parametrize("open_share", [1.0, 0.65])
@pytest.mark.parametrize(("below", "along", "aside"), [(0.3, 0.0, 0.0), (0.3, 0.0, 0.2), (0.25, 0.15, -0.1), (0.4, -0.3, 0.3)])
def test_a_tube_beside_the_place_is_the_integral_of_its_points(below: float, along: float, aside: float, open_share: float) -> None:
    """scipy.integrate.quad over the tube's points in three dimensions; a mesh's two rows of wires each by their own slant."""
    ours = float(tube_shape(below, along, aside, 0.55, open_share))
    assert ours == pytest.approx(line(below, along, aside, 0.55, open_share), rel=1e-6)


def test_off_to_one_side_there_is_less_and_by_how_much() -> None:
    """Keitz's formula by hand: a tube 20 cm off at 30 cm gives 0.63 of what it gives below it, a 25° beam 0.16."""
    below, beside = (float(Lamp("slim-12", 0.55, 0.3, 0.3, aside_m=off).index_at(0.3, 0.0)) for off in (0.0, 0.2))
    assert beside / below == pytest.approx(0.63, abs=0.005)
    assert float(point_shape(0.3, 0.2, 25.0) / point_shape(0.3, 0.0, 25.0)) == pytest.approx(0.16, abs=0.005)


def test_a_tube_across_is_one_along_seen_from_the_other_side() -> None:
    along, across = TUBE, Lamp("slim-12", 0.55, 0.5, 0.4, across=True)
    for x, aside in ((0.0, 0.1), (0.2, 0.3), (0.15, -0.25)):
        one = float(across.index_at(0.5 + x, 0.1, aside_m=aside))
        assert one == pytest.approx(float(along.index_at(0.5 + aside, 0.1, aside_m=x)), rel=1e-12)


def test_a_roof_shades_what_lies_under_it_and_not_what_lies_in_front() -> None:
    """By the rays: a roof from 5 to 25 cm behind the place, half way up to a tube over it, shades from 10 to 50 cm behind."""
    roof = Shade(0.3, 0.7, 0.2, front_m=0.05, back_m=0.25)
    given = index_at((TUBE,), 0.5, 0.0, (roof,), aside_m=np.array([0.0, 0.09, 0.11, 0.3, 0.49, 0.51]))
    bare = index_at((TUBE,), 0.5, 0.0, (), aside_m=np.array([0.0, 0.09, 0.11, 0.3, 0.49, 0.51]))
    assert given[[0, 1, 5]] == pytest.approx(bare[[0, 1, 5]])
    assert (given[[2, 3, 4]] < 0.3 * bare[[2, 3, 4]]).all()


def test_a_lamp_at_the_back_warms_a_place_at_the_front_less() -> None:
    under = plan(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=60.0)
    behind = plan(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=60.0, heaters__0__y_m=0.45)
    both = plan(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=60.0, heaters__0__y_m=0.4, platform__y_m=0.4)
    found = [assessed(**change) for change in ({"heaters__0__y_m": 0.45}, {"heaters__0__y_m": 0.4, "platform__y_m": 0.4})]
    assert enclosure_case(under).spot.off_m == enclosure_case(under).heaters[0].off_m == 0.0
    assert enclosure_case(behind).heaters[0].off_m == pytest.approx(0.2)
    assert enclosure_case(both).spot.off_m == pytest.approx(0.15)
    patch = [one.quantity("warm_patch").value for one in (assessed(), *found)]
    assert patch[1] < 0.5 * patch[0]
    assert patch[2] == pytest.approx(patch[0], abs=1e-6)


def test_the_beams_power_over_the_floor_is_the_same_wherever_it_hangs() -> None:
    """First law: what falls on a floor that catches it all is what is radiated, along or beside; scipy.integrate.dblquad."""
    whole = dblquad(lambda y, x: float(irradiance(100.0, 20.0, 0.095, x, y - 0.15, 0.3)), -2.5, 2.5, -2.5, 2.5, epsabs=0.5)[0]
    assert whole == pytest.approx(100.0, rel=0.02)


def test_two_lamps_side_by_side_make_one_patch_and_a_wide_body_needs_a_wide_one() -> None:
    """Trade: two floods half their patch apart warm a longer place than one of both their watts; a shell is warmed whole."""
    one = (Beam(0.5, 0.3, 60.0, 42.0, 0.095),)
    two = (Beam(0.36, 0.3, 30.0, 42.0, 0.095), Beam(0.64, 0.3, 30.0, 42.0, 0.095))
    assert patch_length(two, 0.5, 0.1) > 1.3 * patch_length(one, 0.5, 0.1)
    # A round patch of 2 r: over a width w its length is the chord, 2 √(r² − w²/4).
    bare = patch_length(one, 0.5)
    assert patch_length(one, 0.5, 0.2) == pytest.approx(math.sqrt(bare**2 - 0.2**2), rel=0.01)
    abreast = (Beam(0.5, 0.3, 30.0, 42.0, 0.095, 0.12), Beam(0.5, 0.3, 30.0, 42.0, 0.095, -0.12))
    assert patch_length(abreast, 0.5, 0.3) > patch_length(one, 0.5, 0.3)
    assert patch_length((Beam(0.5, 0.3, 60.0, 42.0, 0.095, 0.6),), 0.5) == 0.0


def test_what_stands_beyond_the_glass_is_refused_and_a_tube_in_front_gives_less() -> None:
    places = {"heaters__0__y_m": 0.6, "hides__1__y_m": 0.51, "bowl__y_m": 0.5, "platform__y_m": 0.7, "uv_lamps__0__y_m": 9.0}
    with pytest.raises(PlanProblems) as refused:
        plan(**places)
    said = {(item.path, item.code) for item in refused.value.problems}
    assert said == {(f"{path}.y_m", "outside_width") for path in ("heaters.0", "hides.1", "platform", "uv_lamps.0")}
    middle, front = (assessed(**change).quantity("uv_back") for change in ({}, {"uv_lamps__0__y_m": 0.02}))
    assert front.value < 0.75 * middle.value
    assert front.verdict is not Verdict.DANGEROUS


def test_on_the_floor_a_basking_place_takes_its_lamp_along_and_leaves_the_others() -> None:
    """Common practice, no source: the lamp hangs over its stone, wherever that is put."""
    emitter = {"kind": "ceramic-emitter", "watts": 60.0, "x_m": 0.26, "y_m": 0.48, "height_m": 0.4, "guarded": True}
    begun = plan(heaters__1=emitter, uv_lamps__0__x_m=0.36)
    moved = move_on_floor(begun, "things.0", 0.4, 0.35)
    assert moved.platform is not None
    assert (moved.platform.x_m, moved.platform.y_m) == (0.4, 0.35)
    assert (moved.heaters[0].x_m, moved.heaters[0].y_m, moved.heaters[0].height_m) == pytest.approx((0.4, 0.35, 0.4))
    assert (moved.heaters[1].x_m, moved.heaters[1].y_m) == (0.26, 0.48)
    assert moved.uv_lamps[0].y_m is None
    before, after = (assess(one, find(one.species), TODAY, depth=NO_DAYS) for one in (begun, moved))
    assert after.quantity("warm_patch").value == pytest.approx(before.quantity("warm_patch").value)


def test_what_is_pushed_beyond_the_glass_stops_at_it_and_a_narrower_box_takes_it_along() -> None:
    begun = plan()
    far = move_on_floor(move_on_floor(begun, "things.1", 0.5, 9.0), "heaters.0", -1.0, -1.0)
    assert far.hides[0].y_m == pytest.approx(0.5 - 0.8 * 0.18 / 2)
    assert (far.heaters[0].x_m, far.heaters[0].y_m) == (0.0, 0.0)
    document = far.model_dump(mode="json")
    narrow = refit(document, apply(document, (Change("enclosure.width_m", 0.3),)))
    assert read_data(narrow).hides[0].y_m == pytest.approx(0.3)
    with pytest.raises(NoSuchPartError):
        move_on_floor(begun, "ground", 0.1, 0.1)


def test_two_and_three_weaker_lamps_are_offered_where_one_hangs_and_warm_a_longer_place() -> None:
    """Trade: two floods side by side for a long animal; together they take about the watts of the one."""
    made = plan()
    found = {way.code: way for way in ways(made, find(made.species), TODAY)}
    patch = {
        code: next(item.value for item in found[code].numbers if item.key == "warm_patch") for code in ("as_is", "side_2", "side_3")
    }
    assert patch["side_2"] > 1.4 * patch["as_is"]
    assert patch["side_3"] > patch["side_2"]
    hung = read_data(apply(made.model_dump(mode="json"), found["side_2"].changes))
    lamps = [heater for heater in hung.heaters if heater.kind == "reflector-flood"]
    assert [lamp.watts for lamp in lamps] == [50.0, 50.0]
    assert 0.15 < abs(lamps[0].x_m - lamps[1].x_m) < 0.35
    assert all(lamp.thermostat == made.heaters[0].thermostat and lamp.guarded for lamp in lamps)


def test_a_patch_shorter_than_the_body_is_mended_by_lamps_side_by_side() -> None:
    """The button does what it says: with the lamps that are offered the finding is gone and nothing is worse."""
    made = plan(animal__length_m=0.15, heaters__0__half_angle_deg=11.0)
    found = advise(made, find(made.species), TODAY, days_of=())
    small = next(item for item in found.findings if item.code == "heat.small_patch")
    assert small.remedy is not None
    assert small.remedy.code == "heat.side_by_side"
    mended = assess(read_data(apply(made.model_dump(mode="json"), small.remedy.changes)), find(made.species), TODAY, depth=NO_DAYS)
    assert "heat.small_patch" not in {item.code for item in mended.findings}
    assert not [item for item in mended.findings if item.severity is Severity.DANGER]
