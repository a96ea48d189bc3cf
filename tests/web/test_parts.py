"""Moving, adding and taking away: whatever the hand does, the plan stays one that can be built."""

from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import example, given, settings
from hypothesis import strategies as st

from husbandry.design import parts
from husbandry.furnishing.floor import shared_m
from husbandry.furnishing.mixes import ground_stuff, recipes
from husbandry.furnishing.plants import plants
from husbandry.furnishing.things import STUFF, kinds
from husbandry.inputs.furniture import footprint
from husbandry.plan.geometry import basking_top_m
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.plan.placement import check_places
from husbandry.plan.reading import read_data
from ridgeback.accounts.models import Keeper
from ridgeback.language.names import CHOICES
from ridgeback.planner import fields
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import document, plan
from tests.sample import times

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")
MOVED = ["heaters.0", "uv_lamps.0", "things.0", "things.1", "things.3", "things.4", "ground"]
ANYWHERE = st.floats(-2.0, 4.0)


@pytest.mark.sweep
@settings(max_examples=times(66, 200), deadline=None)
@given(
    moves=st.lists(st.tuples(st.sampled_from(MOVED), ANYWHERE, ANYWHERE), max_size=6),
    lid=st.sampled_from(["solid", "mesh", "open"]),
)
@example(moves=[("heaters.0", 1.078, 0.0), ("things.0", 2.0, 1.0), ("things.0", 0.0, 0.0)], lid="solid")
def test_no_drag_takes_a_part_out_of_the_enclosure_or_into_another(moves: list[tuple[str, float, float]], lid: str) -> None:
    made = plan(enclosure__lid=lid)
    for path, x_m, height_m in moves:
        made = parts.move(made, path, x_m, height_m)
    assert check_places(made) == []
    assert made.ground.depth_m >= 0
    for lamp in (*made.heaters, *made.uv_lamps):
        assert lamp.height_m > basking_top_m(made, lamp.x_m)


def test_a_move_changes_the_part_and_nothing_else() -> None:
    before = plan()
    after = parts.move(before, "heaters.0", 0.4, 0.35)
    assert after.heaters[0].x_m == 0.4
    assert after.model_copy(update={"heaters": before.heaters}) == before


@pytest.mark.parametrize(("lid", "highest"), [("solid", 0.45), ("mesh", 0.45 + ABOVE_LID_M), ("open", 0.45 + ABOVE_LID_M)])
def test_a_lamp_goes_as_high_as_its_lid_lets_it(lid: str, highest: float) -> None:
    assert parts.move(plan(enclosure__lid=lid), "heaters.0", 0.3, 9.0).heaters[0].height_m == pytest.approx(highest)


def test_hides_and_bowl_stay_on_the_ground() -> None:
    moved = parts.move(plan(), "things.2", 0.9, 0.4)
    assert moved.hides[1].x_m == 0.9
    assert moved.hides[1].height_m == plan().hides[1].height_m


def test_the_ground_lifts_the_stone_but_not_the_lamp() -> None:
    deeper = parts.move(plan(), "ground", 0.0, 0.1)
    assert basking_top_m(deeper, 0.26) == pytest.approx(0.1 + 0.04)
    assert deeper.heaters == plan().heaters


@pytest.mark.parametrize("group", ["heaters", "uv_lamps", "things"])
def test_what_was_added_can_be_taken_away_again(group: str) -> None:
    before = plan()
    count = len(getattr(before, group))
    more = parts.add(before, "things.cave" if group == "things" else f"{group}.{count}")
    assert len(getattr(more, group)) == count + 1
    assert check_places(more) == []
    assert parts.take_away(more, f"{group}.{count}") == before


@pytest.mark.parametrize(("path", "role", "kind"), [("things.0", "platform", "slate"), ("things.4", "bowl", "bowl")])
def test_what_was_taken_away_is_put_in_again(path: str, role: str, kind: str) -> None:
    """The first thing to bask on that is put in is where the animal basks."""
    without = parts.take_away(plan(), path)
    assert getattr(without, role) is None
    assert getattr(parts.add(without, f"things.{kind}"), role) is not None


def test_every_kind_material_mix_and_plant_has_its_name() -> None:
    assert set(CHOICES["thing"]) == set(kinds())
    assert set(CHOICES["mix"]) == set(ground_stuff())
    assert set(CHOICES["recipe"]) == set(recipes())
    assert set(CHOICES["plant"]) - {""} == set(plants())
    assert set(CHOICES["stuff"]) - {""} == set(STUFF)


def test_one_more_like_it_stands_where_the_floor_is_free() -> None:
    more = parts.copy_thing(plan(), "things.1")
    assert more.things[-1].kind == "hide"
    *there, copied = (footprint(more, thing) for thing in more.things)
    assert [shared_m(copied, other) for other in there] == [0.0] * len(there)
    for path in ("things.9", "heaters.0", "things.x"):
        with pytest.raises(parts.NoSuchPartError):
            parts.copy_thing(plan(), path)


def test_a_thing_turns_and_snaps_to_the_wall_it_all_but_touches() -> None:
    turned = parts.turn_thing(parts.turn_thing(plan(), "things.1"), "things.1")
    assert turned.things[1].turn_deg == 30.0
    with pytest.raises(parts.NoSuchPartError):
        parts.turn_thing(plan(), "heaters.0")
    near = parts.move_on_floor(plan(), "things.4", 0.065, 0.062)  # a bowl 11 cm across, a centimetre from both walls
    assert (near.things[4].x_m, near.things[4].y_m) == pytest.approx((0.055, 0.055))


def test_ground_gains_layers_materials_and_areas_and_a_mix_of_the_trade() -> None:
    for path in ("ground.layers", "ground.areas", "ground.layers.0.parts"):
        more = parts.add(plan(), path)
        assert more.ground != plan().ground
        assert check_places(more) == []
    with pytest.raises(parts.NoSuchPartError):
        parts.add(plan(), "ground.layers.4.parts")
    with pytest.raises(parts.NoSuchPartError):
        parts.take_recipe(plan(), "gravel soup")


@pytest.mark.parametrize("size", [(0.3, 0.2, 0.2), (0.45, 0.45, 0.9), (2.4, 1.2, 1.2)])
@pytest.mark.parametrize("group", ["heaters.0", "uv_lamps.0", *(f"things.{kind}" for kind in kinds())])
def test_a_usual_part_fits_any_enclosure(size: tuple[float, float, float], group: str) -> None:
    bare: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}
    box = {"kind": "glass", "length_m": size[0], "width_m": size[1], "height_m": size[2], "lid": "mesh"}
    empty = read_data(document(enclosure=box, ground__depth_m=0.03, **bare))
    assert check_places(parts.add(empty, group)) == []


@pytest.mark.parametrize("path", ["", "heaters", "heaters.7", "heaters.x", "things.-1", "name", "room.summer"])
def test_what_is_no_part_is_said_to_be_none(path: str) -> None:
    for action in (lambda made: parts.move(made, path, 0.1, 0.2), lambda made: parts.take_away(made, path)):
        with pytest.raises(parts.NoSuchPartError):
            action(plan())


# ---- what is typed ----


def bind(step: str, units: KeeperUnits = METRIC, **posted: str) -> tuple[HabitatPlan, dict[str, fields.Rejected]]:
    names = {path.replace("__", "."): text for path, text in posted.items()}
    return fields.bind(plan(), step, names, units)


def test_a_bare_number_is_in_the_keepers_unit() -> None:
    assert bind("ground", ground__layers__0__depth_m="9")[0].ground.depth_m == pytest.approx(0.09)
    assert bind("ground", IMPERIAL, ground__layers__0__depth_m="3")[0].ground.depth_m == pytest.approx(0.0762)
    assert bind("heat", IMPERIAL, heaters__0__thermostat__set_c="90")[0].heaters[0].thermostat.set_c == pytest.approx(
        32.22, abs=0.01
    )


def test_what_another_step_asks_is_not_taken_here() -> None:
    read, rejected = bind("heat", ground__layers__0__depth_m="30")
    assert read == plan()
    assert rejected == {}


@pytest.mark.parametrize(
    ("step", "path", "text", "code"),
    [
        ("animal", "animal__count", "two", "not_a_whole_number"),
        ("animal", "animal__hatched", "last spring", "not_a_date"),
        ("animal", "animal__mass_kg", "5 cm", "wrong_dimension"),
        ("heat", "heaters__0__on", "25:00", "not_a_time"),
        ("heat", "heaters__0__watts", "60 amps", "unknown_unit"),
        ("heat", "heaters__0__watts", "", "not_a_number"),
        ("heat", "heaters__0__height_m", "70 cm", "lamp_above_lid"),
    ],
)
def test_what_cannot_be_taken_waits_in_its_field_with_the_reason(step: str, path: str, text: str, code: str) -> None:
    posted: dict[str, Any] = {path: text}
    read, rejected = bind(step, **posted)
    assert read == plan()
    (only,) = rejected.values()
    assert (only.text, only.problem.code) == (text, code)


def test_an_empty_field_that_may_be_empty_is_nothing() -> None:
    assert bind("animal", animal__mass_kg="")[0].animal.mass_kg is None
    assert bind("food", feeding__interval_days="")[0].feeding.interval_days is None


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


# ---- a basking place takes its lamp along; an edit is named by what it changed ----


def test_a_basking_place_takes_its_lamp_along_by_hand_and_by_number() -> None:
    """Raising a shelf to its lamp is no trap: the lamp goes along, at its distance, and never through the lid."""
    made = plan(enclosure__height_m=0.6)
    lamp, tube = made.heaters[0], made.uv_lamps[0]
    dragged = parts.move(made, "things.0", 0.6, 0.07 + 0.14)
    typed, rejected = fields.bind(made, "furniture", {"things.0.x_m": "60", "things.0.height_m": "14 cm"}, METRIC)
    assert rejected == {}
    for after in (dragged, typed):
        assert after.platform is not None
        assert after.heaters[0].x_m == pytest.approx(lamp.x_m + 0.34)
        assert after.heaters[0].height_m == pytest.approx(lamp.height_m + 0.10)
        assert after.uv_lamps[0] == tube
    high, rejected = fields.bind(made, "furniture", {"things.0.height_m": "45 cm"}, METRIC)
    assert rejected == {}
    assert high.heaters[0].height_m == pytest.approx(0.57)  # under the lid
    assert basking_top_m(high, 0.26) < high.heaters[0].height_m


def test_a_lamp_on_the_mesh_stays_on_it_and_one_elsewhere_stays_there() -> None:
    mesh = {"enclosure__kind": "glass", "enclosure__lid": "mesh", "uv_lamps__0__height_m": 0.47}
    made = plan(**mesh, heaters=[{**document()["heaters"][0], "height_m": 0.46}, {**document()["heaters"][0], "x_m": 1.0}])
    moved = parts.move(made, "things.0", 0.5, 0.07 + 0.10)
    assert (moved.heaters[0].x_m, moved.heaters[0].height_m) == pytest.approx((0.5, 0.46))
    assert moved.heaters[1] == made.heaters[1]


def test_the_list_of_states_says_what_was_changed(client: Client, habitat: Habitat) -> None:
    url = reverse("planner:save", args=[habitat.pk])

    def posted(step: str, **values: str) -> str:
        version = str(Habitat.objects.get(pk=habitat.pk).version)
        client.post(url, {"step": step, "version": version} | {name.replace("__", "."): value for name, value in values.items()})
        head = Habitat.objects.get(pk=habitat.pk).head
        assert head is not None
        return head.label

    assert posted("heat", heaters__0__watts="60") == "reflector flood: power 75 → 60 W"
    assert posted("light", uv_lamps__0__height_m="38", daylight__on="07:30") == (
        "Day: lights on 08:00 → 07:30; UV lamp: above the floor 41 → 38 cm"
    )
    assert posted("furniture", things__0__x_m="30").startswith(
        "Slate to bask on: from the left 26 → 30 cm; reflector flood: from the left"
    )
    assert posted("animal", animal__name="Thrift") == "Its name Sedge → Thrift"
    page = client.get(reverse("planner:compare", args=[habitat.pk])).content.decode()
    assert "power 75 → 60 W" in page


def test_a_state_names_the_part_that_came_or_went(client: Client, habitat: Habitat) -> None:
    for do, part, said in (("add", "pool", "Water to live in added"), ("take", "things.4", "Water bowl taken away")):
        version = Habitat.objects.get(pk=habitat.pk).version
        client.post(reverse("planner:part", args=[habitat.pk]), {"part": part, "do": do, "version": version, "step": "moisture"})
        head = Habitat.objects.get(pk=habitat.pk).head
        assert head is not None
        assert head.label == said
