"""What stands on the floor: footprints, free floor, hides by their place, heat, footings, plants."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import applied, vetted
from husbandry.assessment import Severity
from husbandry.climate.case import LiningCase
from husbandry.climate.walls import lined as lined_w_k
from husbandry.design.furnish import Furnished, furnish
from husbandry.design.parts import add
from husbandry.furnishing.floor import Footprint, free_floor, free_spot, past_walls_m, shared_m
from husbandry.furnishing.plants import leaf_m2, plants
from husbandry.furnishing.things import kinds
from husbandry.inputs.climate_case import enclosure_case, leaves_m2
from husbandry.plan.geometry import basking_top_m, surface_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.species.book import find
from tests.plans import TODAY, assessed_as, codes, document, plan

PLACE = st.builds(
    Footprint, st.floats(0, 2), st.floats(0, 1), st.floats(0.05, 0.8), st.floats(0.05, 0.8), st.floats(-180, 180), st.booleans()
)


def with_things(*things: dict[str, Any], **changes: Any) -> HabitatPlan:
    """The test shelf with these things in place of its own hides, stone and bowl."""
    bare: dict[str, Any] = {"hides": [], "bowl": None}
    made = document(**(bare | changes))
    return read_data(made | {"things": [*made.get("things", []), *things]})


def found_in(made: HabitatPlan, code: str) -> Any:
    return next((item for item in assessed_as(made).findings if item.code == code), None)


def mended(made: HabitatPlan, code: str) -> Assessment:
    """The assessment once the button of a finding was pressed."""
    profile, before = find(made.species), assessed_as(made)
    finding = next(item for item in before.findings if item.code == code)
    offered = next(item for item in vetted(made, profile, before, only=finding.id).findings if item.id == finding.id)
    assert offered.remedy is not None
    assert offered.remedy.changes
    return assess(read_data(applied(made, offered.remedy.changes)), profile, TODAY, depth=NO_DAYS)


# ---- footprints ----


@given(PLACE, PLACE)
def test_sharing_floor_is_mutual_and_ends_where_they_are_moved_apart(one: Footprint, other: Footprint) -> None:
    shared = shared_m(one, other)
    assert shared == pytest.approx(shared_m(other, one), abs=1e-9)
    far = Footprint(other.x_m + 5.0, other.y_m, other.length_m, other.width_m, other.turn_deg, other.round)
    assert shared_m(one, far) == 0.0
    if shared > 0.02:
        inside = [_inside(one, corner) or _inside(other, corner) for corner in _points(one, other)]
        assert any(inside)


def _points(one: Footprint, other: Footprint) -> list[tuple[float, float]]:
    """Points about both, close together."""
    x = np.linspace(min(one.x_m, other.x_m) - 0.6, max(one.x_m, other.x_m) + 0.6, 40)
    y = np.linspace(min(one.y_m, other.y_m) - 0.6, max(one.y_m, other.y_m) + 0.6, 40)
    return [(float(px), float(py)) for px in x for py in y]


def _inside(place: Footprint, point: tuple[float, float]) -> bool:
    turn = math.radians(place.turn_deg)
    dx, dy = point[0] - place.x_m, point[1] - place.y_m
    if place.round:
        return math.hypot(dx, dy) <= place.length_m / 2
    along, across = dx * math.cos(turn) + dy * math.sin(turn), dy * math.cos(turn) - dx * math.sin(turn)
    return abs(along) <= place.length_m / 2 and abs(across) <= place.width_m / 2


def test_two_squares_and_two_bowls_share_what_a_ruler_says() -> None:
    """By hand: squares of 20 cm whose middles are 15 cm apart share 5 cm; a quarter turn of a square changes nothing."""
    one = Footprint(0.5, 0.3, 0.2, 0.2)
    assert shared_m(one, Footprint(0.65, 0.3, 0.2, 0.2)) == pytest.approx(0.05)
    assert shared_m(one, Footprint(0.65, 0.3, 0.2, 0.2, 90.0)) == pytest.approx(0.05)
    bowl = Footprint(0.5, 0.3, 0.2, 0.2, round=True)
    assert shared_m(bowl, Footprint(0.5 + 0.15, 0.3, 0.2, 0.2, round=True)) == pytest.approx(0.05)
    assert past_walls_m(Footprint(0.05, 0.3, 0.2, 0.2), 1.0, 0.6) == pytest.approx(0.05)
    assert past_walls_m(Footprint(0.5, 0.3, 0.2, 0.2, 45.0), 1.0, 0.6) == 0.0


def test_free_floor_is_the_floor_less_what_stands_there() -> None:
    """By hand: half the floor taken leaves half of it, and a way as long as the rest."""
    found = free_floor(1.0, 0.5, (Footprint(0.25, 0.25, 0.5, 0.5),))
    assert found.share == pytest.approx(0.5, abs=0.01)
    assert found.longest_m == pytest.approx(0.5, abs=0.02)
    split = free_floor(1.0, 0.5, (Footprint(0.5, 0.25, 0.1, 0.4),), body_m=0.1)
    assert split.longest_m == pytest.approx(0.5, abs=0.03)  # past the middle only 5 cm are left at either wall
    assert free_floor(1.0, 0.5, (Footprint(0.5, 0.25, 0.1, 0.4),)).longest_m == pytest.approx(1.0, abs=0.02)


@given(st.lists(PLACE, max_size=4), st.floats(0.05, 0.3), st.floats(0.05, 0.3))
def test_a_free_spot_is_inside_and_where_one_is_clear_it_is_found(places: list[Footprint], half_x: float, half_y: float) -> None:
    x_m, y_m = free_spot((2.0, 1.0), places, (half_x, half_y), (1.0, 0.5))
    assert half_x - 1e-9 <= x_m <= 2.0 - half_x + 1e-9
    assert half_y - 1e-9 <= y_m <= 1.0 - half_y + 1e-9
    corner = Footprint(half_x, half_y, 2 * half_x, 2 * half_y)
    if not any(shared_m(corner, place) > 0 or _boxes_touch(corner, place) for place in places):
        taken = Footprint(x_m, y_m, 2 * half_x, 2 * half_y)
        assert max((shared_m(taken, place) for place in places), default=0.0) < 1e-4


def _boxes_touch(one: Footprint, other: Footprint) -> bool:
    """Whether the upright boxes about two footprints touch."""
    reach = [first + second for first, second in zip(one.half_sides, other.half_sides, strict=True)]
    return abs(one.x_m - other.x_m) < reach[0] and abs(one.y_m - other.y_m) < reach[1]


# ---- the catalogue ----


def test_every_kind_can_stand_somewhere() -> None:
    for key, kind in kinds().items():
        box = {"length_m": 2.0, "width_m": 1.0, "height_m": 1.0}
        size = dict(zip(("length_m", "width_m", "height_m"), kind.size_m, strict=True))
        made = document(enclosure=box | {"kind": "glass", "lid": "solid"}, heaters=[], uv_lamps=[])
        thing = {"kind": key, "x_m": 1.0, **size}
        assert read_data(made | {"things": [thing]}).things[0].of is kind


@pytest.mark.parametrize(
    ("thing", "code"),
    [
        ({"kind": "gnome", "x_m": 0.5, "length_m": 0.1, "height_m": 0.1}, "unknown_thing"),
        ({"kind": "bowl", "base": "wall", "x_m": 0.5, "length_m": 0.1, "height_m": 0.1}, "wrong_base"),
        ({"kind": "bowl", "basking": True, "x_m": 0.5, "length_m": 0.1, "height_m": 0.1}, "no_perch"),
        ({"kind": "plant", "plant": "triffid", "x_m": 0.5, "length_m": 0.1, "height_m": 0.1}, "unknown_plant"),
        ({"kind": "stone", "x_m": 0.5, "length_m": 3.0, "height_m": 0.1}, "thing_too_long"),
        ({"kind": "stone", "x_m": 0.5, "length_m": 0.3, "height_m": 0.9}, "thing_above_lid"),
        ({"kind": "stone", "x_m": 5.5, "length_m": 0.3, "height_m": 0.1}, "outside_length"),
    ],
)
def test_what_cannot_stand_there_is_refused_in_words(thing: dict[str, Any], code: str) -> None:
    with pytest.raises(PlanProblems) as refused:
        with_things(thing)
    assert code in {problem.code for problem in refused.value.problems}


# ---- the rules ----


@pytest.mark.parametrize(("at_m", "code"), [(0.35, "space.no_cool_hide"), (1.0, "space.no_warm_hide")])
def test_three_hides_at_one_spot_are_one_and_one_is_moved(at_m: float, code: str) -> None:
    """Common practice, no source: a warm and a cool hide; all at one end the animal must choose between cover and its warmth."""
    gecko: dict[str, Any] = {"room__winter__day_c": 20.0, "room__summer__day_c": 24.0}
    hides = [{"kind": "hide", "x_m": at_m + 0.02 * k, "y_m": 0.1 + 0.15 * k, "length_m": 0.18, "height_m": 0.08} for k in range(3)]
    spread = [hide | {"x_m": x_m} for hide, x_m in zip(hides, (0.35, 0.6, 1.05), strict=True)]
    together = with_things(*hides, **gecko)
    assert code in codes(assessed_as(together))
    assert not {"space.no_cool_hide", "space.no_warm_hide"} & codes(assessed_as(with_things(*spread, **gecko)))
    assert code not in codes(mended(together, code))


def test_by_night_one_hide_is_not_on_the_mat_that_runs_then() -> None:
    """Common practice, no source: what sleeps by night chooses its warmth too; by day the other end's hide serves."""
    gecko: dict[str, Any] = {"room__winter__day_c": 20.0, "room__summer__day_c": 24.0}
    mat = {"kind": "mat", "watts": 28.0, "x_m": 1.05, "height_m": 0.01, "length_m": 0.2, "on": "20:00", "off": "08:00"}
    gecko["heaters"] = [*document()["heaters"], mat]
    hides = [{"kind": "hide", "x_m": 1.08, "y_m": y_m, "length_m": 0.18, "height_m": 0.08} for y_m in (0.1, 0.36)]
    warm = [item for item in assessed_as(with_things(*hides, **gecko)).findings if item.code == "space.no_cool_hide"]
    assert [item.parameters["phase"] for item in warm] == ["night"]
    one_away = with_things(hides[0], hides[1] | {"x_m": 0.6}, **gecko)
    assert "space.no_cool_hide" not in codes(assessed_as(one_away))
    assert "space.no_cool_hide" not in codes(mended(with_things(*hides, **gecko), "space.no_cool_hide"))


def snake_with(bowl: dict[str, Any], species: str, mass_kg: float, length_m: float) -> HabitatPlan:
    sides = {"enclosure__length_m": 1.8, "enclosure__width_m": 0.7, "enclosure__height_m": 0.7}
    animal = {"hatched": "2022-09-01", "mass_kg": mass_kg, "length_m": length_m}
    thing = {"kind": "bowl", "x_m": 1.3, "y_m": 0.35} | bowl
    return with_things(thing, species=species, schools={}, animal=animal, uv_lamps=[], **sides)


def test_a_bowl_rises_by_what_lies_in_it_and_does_not_run_over() -> None:
    """Archimedes: 0.9 kg that about floats is 0.9 L, in a bowl 30 cm across 12.7 mm."""
    full = {"length_m": 0.3, "height_m": 0.06, "water_m": 0.05}
    finding = found_in(snake_with(full, "corn-snake", 0.9, 1.3), "moisture.bowl_overflows")
    assert finding.parameters["rise"].value == pytest.approx(0.01273, abs=2e-5)
    assert "moisture.bowl_overflows" not in codes(mended(snake_with(full, "corn-snake", 0.9, 1.3), finding.code))
    assert found_in(snake_with(full | {"water_m": 0.045}, "corn-snake", 0.9, 1.3), "moisture.bowl_overflows") is None
    assert found_in(snake_with(full, "corn-snake", 0.3, 0.9), "moisture.bowl_overflows") is None


@pytest.mark.parametrize("wall", ["left", "right", "back"])
def test_water_stands_away_from_the_sockets_and_is_furnished_so(wall: str) -> None:
    """Common practice, no source: what is spilt does not run to where everything is plugged in."""
    x_m, y_m = {"left": (0.1, 0.1), "right": (1.1, 0.1), "back": (0.9, 0.43)}[wall]
    bowl = {"kind": "bowl", "x_m": x_m, "y_m": y_m, "length_m": 0.12, "height_m": 0.04}
    made = with_things(bowl, enclosure__sockets=wall)
    assert found_in(with_things(bowl), "moisture.at_sockets") is None
    assert found_in(made, "moisture.at_sockets").parameters["value"].value == pytest.approx(0.01 if wall == "back" else 0.04)
    assert "moisture.at_sockets" not in codes(mended(made, "moisture.at_sockets"))
    hide = {"kind": "hide", "x_m": {"left": 0.42, "right": 0.78, "back": 0.9}[wall], "y_m": 0.12, "length_m": 0.2, "height_m": 0.09}
    crowded = with_things(bowl, hide, enclosure__sockets=wall)
    assert "moisture.at_sockets" not in codes(mended(crowded, "moisture.at_sockets"))
    *_steps, last = furnish(with_things(enclosure__sockets=wall), find(made.species), TODAY)
    assert isinstance(last, Furnished)
    assert any(thing.good_for("drink") for thing in last.plan.things)
    assert "moisture.at_sockets" not in codes(assessed_as(last.plan))


def test_no_bowl_holds_more_than_its_rim() -> None:
    made = with_things({"kind": "bowl", "x_m": 0.9, "length_m": 0.12, "height_m": 0.03, "water_m": 0.04})
    assert found_in(made, "moisture.bowl_brim") is not None
    assert "moisture.bowl_brim" not in codes(mended(made, "moisture.bowl_brim"))


def test_what_hangs_too_high_is_told_how_high_it_may() -> None:
    branch = {"kind": "branch", "x_m": 0.6, "length_m": 0.4, "height_m": 0.03, "up_m": 0.44}
    with pytest.raises(PlanProblems) as refused:
        with_things(branch)
    (problem,) = refused.value.problems
    assert (problem.path.rsplit(".", 1)[1], problem.code) == ("up_m", "hangs_too_high")


@pytest.mark.parametrize("bowl", [{"height_m": 0.09, "water_m": 0.01}, {"height_m": 0.03}], ids=["little water", "a low rim"])
def test_what_lives_damp_can_lie_wholly_in_its_bowl(bowl: dict[str, Any]) -> None:
    """Common practice, no source: a rainbow boa's bowl covers it."""
    made = snake_with({"length_m": 0.32} | bowl, "brazilian-rainbow-boa", 1.2, 1.7)
    assert found_in(made, "moisture.bowl_shallow") is not None
    after = codes(mended(made, "moisture.bowl_shallow"))
    assert not {"moisture.bowl_shallow", "moisture.bowl_overflows"} & after


def test_a_thing_is_called_by_its_kind_and_measured_from_where_it_stands() -> None:
    stack = {"kind": "stack", "x_m": 0.7, "length_m": 0.2, "width_m": 0.15}
    heavy = assessed_as(with_things(stack | {"height_m": 0.1, "base": "ground"})).findings
    assert {item.parameters["part"] for item in heavy if item.code == "space.on_loose_ground"} == {"platform", "stack"}
    # 42 cm from the floor reach 42 of 45 cm; from the top of seven centimetres of ground they reach 49.
    assert found_in(with_things(stack | {"height_m": 0.42}), "space.tall_hide") is None
    assert found_in(with_things(stack | {"height_m": 0.42, "base": "ground"}), "space.tall_hide") is not None


def test_over_a_pool_beside_land_a_lamp_shines_on_the_water() -> None:
    made = with_things(pool={"x_m": 0.9, "length_m": 0.6, "depth_m": 0.12})
    assert (surface_m(made, 0.9), basking_top_m(made, 0.9)) == (0.0, 0.12)
    assert surface_m(made, 0.3) == 0.07
    whole = with_things(pool={"x_m": 0.6, "length_m": 1.2, "depth_m": 0.12})
    assert surface_m(whole, 0.9) == 0.07


def test_a_stack_that_vanished_under_the_ground_is_told_and_made_taller() -> None:
    stack = {"kind": "stack", "x_m": 0.7, "length_m": 0.2, "width_m": 0.15, "height_m": 0.06}
    made = with_things(stack)  # seven centimetres of ground
    assert found_in(made, "space.buried") is not None
    assert "space.buried" not in codes(mended(made, "space.buried"))
    for seen in (stack | {"height_m": 0.1}, stack | {"base": "ground"}, stack | {"kind": "buried-hide"}):
        assert found_in(with_things(seen), "space.buried") is None


def test_what_is_added_heavy_comes_on_a_footing() -> None:
    """Common practice, no source: nothing heavy rests on ground that is dug; a button that adds a thing adds no such fault."""
    bare = with_things(
        species="reticulated-python",
        schools={},
        animal={"mass_kg": 25.0, "length_m": 3.6},
        uv_lamps=[],
        enclosure__length_m=3.6,
        enclosure__width_m=1.2,
        enclosure__height_m=1.2,
    )
    sunk = [item.subject for item in assessed_as(bare).findings if item.code == "space.on_loose_ground"]
    after = mended(bare, "moisture.no_bowl")
    assert [item.subject for item in after.findings if item.code == "space.on_loose_ground"] == sunk


def test_a_hide_and_an_opening_must_fit_the_animal_and_the_button_makes_them() -> None:
    small = with_things({"kind": "hide", "x_m": 0.7, "length_m": 0.06, "height_m": 0.05})
    tight = with_things({"kind": "hide", "x_m": 0.7, "length_m": 0.2, "height_m": 0.1, "entrance_m": 0.01})
    for made, code in ((small, "space.hide_tight"), (tight, "space.opening_tight")):
        assert found_in(made, code) is not None
        assert code not in codes(mended(made, code))


def test_leafy_cover_is_leaves_and_the_button_adds_them() -> None:
    """Common practice, no source: an animal of the branches hides among leaves, not in a box on the floor."""
    frog: dict[str, Any] = {"species": "milk-frog", "schools": {}, "animal": {"length_m": 0.06}}
    box = {"kind": "glass", "length_m": 0.6, "width_m": 0.45, "height_m": 0.9, "lid": "mesh"}
    made = with_things(**frog, enclosure=box, platform=None, heaters=[], uv_lamps=[])
    assert any("leaf" in hide.value for hide in find("milk-frog").hides)
    for _press in range(6):
        if "space.hides" not in codes(assessed_as(made)):
            break
        finding = found_in(made, "space.hides")
        assert finding.remedy is not None
        made = read_data(applied(made, finding.remedy.changes))
    assert "space.hides" not in codes(assessed_as(made))
    assert any(thing.of.shape == "leaves" for thing in made.things)


def test_a_crowded_floor_is_told() -> None:
    cave = {"kind": "cave", "y_m": 0.25, "length_m": 0.34, "width_m": 0.48, "height_m": 0.1}
    crowded = assessed_as(with_things(*(cave | {"x_m": 0.25 + 0.35 * k} for k in range(3))))
    assert crowded.quantity("free_floor").value == pytest.approx(18, abs=3)
    assert "space.little_floor" in codes(crowded)
    assert "space.little_floor" not in codes(assessed_as(plan()))


def test_plastic_under_a_lamp_softens_and_ceramic_does_not() -> None:
    """From memory: polypropylene softens from about 60 °C; a lamp some 15 cm above a plastic roof takes it past that."""
    hide = {"kind": "hide", "x_m": 0.26, "y_m": 0.25, "length_m": 0.2, "height_m": 0.12, "material": "plastic"}
    bare = {"platform": None, "heaters__0__watts": 100.0, "heaters__0__thermostat": {"kind": "none"}}
    made = with_things(hide, **bare)
    finding = found_in(made, "space.softens")
    assert finding is not None
    assert finding.severity is Severity.DANGER
    assert "space.softens" not in codes(assessed_as(with_things(hide | {"material": "ceramic"}, **bare)))


def test_what_is_heavy_stands_on_footings() -> None:
    """Common practice, no source: a stone on loose ground is undermined."""
    stone = {"kind": "stone", "base": "ground", "x_m": 0.8, "length_m": 0.25, "width_m": 0.2, "height_m": 0.12}
    made = with_things(stone)
    assert any(item.code == "space.on_loose_ground" and "things.1" in item.id for item in assessed_as(made).findings)
    assert not any("things.1" in item.id for item in assessed_as(with_things(stone | {"footing": True})).findings)
    assert not any("things.1" in item.id for item in assessed_as(with_things(stone | {"base": "floor"})).findings)


def test_a_perch_is_as_thick_as_feet_hold_on_to_and_the_button_makes_it_so() -> None:
    """Common practice, no source: a perch about as thick as the body."""
    frog = {"species": "giant-day-gecko", "schools": {}, "animal": {"length_m": 0.12}}
    branch = {"kind": "branch", "x_m": 0.6, "y_m": 0.2, "up_m": 0.1, "length_m": 0.4, "width_m": 0.15, "height_m": 0.15}
    made = with_things(branch, **frog)
    assert found_in(made, "space.perch") is not None
    assert "space.perch" not in codes(mended(made, "space.perch"))


def test_what_does_not_climb_needs_a_way_down() -> None:
    """Common practice, no source: a clumsy climber on a ledge without steps."""
    ledge = {"kind": "ledge", "x_m": 0.8, "y_m": 0.4, "up_m": 0.32, "length_m": 0.25, "width_m": 0.15, "height_m": 0.03}
    assert found_in(with_things(ledge), "space.fall") is not None
    steps = [
        {"kind": "wood", "x_m": 0.6, "y_m": 0.4, "length_m": 0.1, "width_m": 0.1, "height_m": 0.12},
        {"kind": "wood", "x_m": 0.65, "y_m": 0.25, "length_m": 0.15, "width_m": 0.15, "height_m": 0.2},
    ]
    assert found_in(with_things(ledge, *steps), "space.fall") is None


def test_a_deep_part_or_a_box_is_enough_for_what_only_digs_in_a_part() -> None:
    monitor: dict[str, Any] = {"species": "ridge-tailed-monitor", "schools": {}, "animal": {"length_m": 0.2}}
    flat = with_things(**monitor, ground__depth_m=0.02)
    layers = [{"parts": [{"material": "soil"}], "depth_m": 0.2}]
    deep = {"x_m": 0.95, "y_m": 0.25, "length_m": 0.5, "width_m": 0.5, "layers": layers}
    document = flat.model_dump(mode="json")
    parted = read_data(document | {"ground": document["ground"] | {"areas": [deep]}})
    depths = [assessed_as(made).quantity("ground_depth").value for made in (flat, parted)]
    assert depths == pytest.approx([0.02, 0.2])


def test_a_background_keeps_warmth_in_and_takes_room_on_the_floor() -> None:
    """By hand: 4 cm of foam at 0.04 W/mK are one m²K/W more on the wall that it covers; the floor is narrower by them."""
    glass: dict[str, Any] = {"enclosure__kind": "glass"}
    bare = with_things(**glass)
    lined = add(bare, "things.background")
    (lining,) = enclosure_case(lined).linings
    assert lining.wall == "back"
    assert lining.resistance == pytest.approx(1.0)
    assert lining.share == pytest.approx(1.0, abs=0.01)
    air = [assessed_as(made).quantity("warm_air", "winter", "day").value for made in (bare, lined)]
    assert air[1] > air[0] + 0.1
    floor = [assessed_as(made).quantity("free_floor").value for made in (bare, lined)]
    assert floor[0] - floor[1] == pytest.approx(8.0, abs=1.5)  # 4 of 50 cm
    twice = add(lined, "things.background-ledges")
    assert enclosure_case(twice).linings[1].resistance > lining.resistance


def test_a_wall_in_part_lined_loses_by_both_ways() -> None:
    """By hand: half of a square metre at 0.5 and half at 1.5 m²K/W pass 1 + 1/3 W/K."""
    half = LiningCase("back", 0.5, 1.0)
    assert lined_w_k(1.0, 0.5, [half]) == pytest.approx(1.0 + 1 / 3)
    assert lined_w_k(1.0, 0.5, []) == pytest.approx(2.0)
    assert lined_w_k(1.0, 0.5, [LiningCase("back", 1.0, 1.0)] * 2) == pytest.approx(2 / 3)


# ---- plants ----

TORTOISE: dict[str, Any] = {"species": "hermanns-tortoise", "schools": {}, "animal": {"length_m": 0.14, "mass_kg": 0.6}}


def grown(kind: str, **more: Any) -> dict[str, Any]:
    return {"kind": "plant", "plant": kind, "x_m": 0.8, "y_m": 0.25, "length_m": 0.2, "height_m": 0.2} | more


def test_a_poisonous_plant_is_a_danger_where_it_is_eaten_and_nowhere_else() -> None:
    made = with_things(grown("pothos"), **TORTOISE)
    finding = found_in(made, "plant.poisonous")
    assert finding is not None
    assert finding.severity is Severity.DANGER
    assert "plant.poisonous" not in codes(mended(made, "plant.poisonous"))
    assert found_in(with_things(grown("pothos")), "plant.poisonous") is None


def test_a_plant_is_judged_by_the_light_the_ground_and_the_weight_at_its_place() -> None:
    dark = with_things(grown("hibiscus"), uv_lamps=[])
    assert found_in(dark, "plant.dark") is not None
    bar = {"kind": "led-bar", "watts": 60.0, "length_m": 0.9, "x_m": 0.7, "height_m": 0.43}
    lit = with_things(grown("hibiscus"), light_bars=[bar])
    assert found_in(lit, "plant.dark") is None
    assert found_in(with_things(grown("sedge")), "plant.dry") is not None
    assert found_in(with_things(grown("sedge", potted=True)), "plant.dry") is None
    assert found_in(with_things(grown("aloe"), ground__damp=True), "plant.rots") is not None
    assert found_in(with_things(grown("boston-fern"), **TORTOISE), "plant.frail") is not None


def test_what_grows_taller_over_a_plant_takes_its_light() -> None:
    low, high = grown("sheet-moss", height_m=0.03, length_m=0.1), grown("boston-fern", height_m=0.3, length_m=0.4)
    lux = [found_in(with_things(*some), "plant.dark") for some in ((low,), (low, high))]
    under = lux[1].parameters["lux"]
    assert lux[0] is None or lux[0].parameters["lux"] > under


def test_listed_plants_count_their_own_leaves() -> None:
    """By hand: a plant 20 cm wide with two and a half times its floor in leaves has 0.0785 m² of them."""
    assert leaf_m2(plants()["pothos"], 0.2) == pytest.approx(0.0785, abs=1e-4)
    assert leaves_m2(with_things(grown("pothos"), grown("pothos", x_m=0.4))) == pytest.approx(2 * 0.0785, abs=1e-3)
    assert leaves_m2(with_things(grown("pothos"), plants="dense")) == pytest.approx(2.5 * 1.2 * 0.5)
