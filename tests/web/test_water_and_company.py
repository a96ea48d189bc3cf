"""Pools, companies and enclosures one has, as they are typed, dragged and drawn."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.assess.assess import assess
from husbandry.assessment import Change
from husbandry.design import parts
from husbandry.design.first_proposal import propose
from husbandry.plan.editing import apply, refit
from husbandry.plan.habitat import Animal, RoomCase, RoomClimate
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.species.book import find
from ridgeback.accounts.models import Keeper
from ridgeback.drawing import animals, section
from ridgeback.language import wording
from ridgeback.planner import inputs, mapping, step_fields
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, document, plan

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")
NAMES = wording.part_names()
COOL = RoomClimate(
    summer=RoomCase(day_c=17, night_c=16, humidity_percent=50), winter=RoomCase(day_c=16, night_c=15, humidity_percent=50)
)
TANK = propose("tank", find("axolotl"), Animal(length_m=0.24), COOL, TODAY)
POOL = {"x_m": 0.9, "length_m": 0.6, "depth_m": 0.12}


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def drawn(made: Any, species: str) -> dict[str, Any]:
    found = assess(made, find(species), TODAY)
    return section.draw(made, find(species), found, section.Look("winter", "day", METRIC, NAMES, made))


def test_water_is_drawn_to_its_depth_and_the_animal_walks_on_the_bottom() -> None:
    shown = drawn(TANK, "axolotl")
    assert TANK.pool is not None
    frame = shown["frame"]
    assert float(shown["pool"]["h"]) == pytest.approx(TANK.pool.depth_m * frame.scale, abs=0.2)
    assert float(shown["pool"]["w"]) == pytest.approx(TANK.enclosure.length_m * frame.scale, abs=0.2)
    assert float(shown["animal"]["eye_y"]) > float(shown["pool"]["y"])
    assert float(shown["floor"]["pool"]["w"]) > 0
    assert drawn(plan(), "african-fat-tailed-gecko")["pool"] is None


@pytest.mark.parametrize("form", animals.OUTLINES)
def test_every_body_form_is_drawn_at_its_length_with_its_feet_on_the_ground(form: str) -> None:
    outline, _marks, eye = animals.place(form, 0.4, 200.0, 300.0, 500.0, turned=False)
    numbers = [float(number) for number in re.findall(r"-?[0-9.]+", outline)]
    across = max(numbers[::2]) - min(numbers[::2])
    share = animals.COIL_SHARE if form == "snake" else 1.0
    assert across == pytest.approx(0.4 * 500 * share, rel=0.15)
    assert max(numbers[1::2]) == pytest.approx(300.0, abs=3)
    assert min(numbers[::2]) <= eye[0] <= max(numbers[::2])


def test_the_waters_surface_is_dragged_and_held_below_the_lid() -> None:
    half = parts.move(TANK, "pool", 0.0, 0.2)
    assert half.pool is not None
    assert half.pool.depth_m == pytest.approx(0.2)
    full = parts.move(TANK, "pool", 0.0, 9.0)
    assert full.pool is not None
    assert full.pool.depth_m < TANK.enclosure.height_m
    with pytest.raises(parts.NoSuchPartError):
        parts.move(plan(), "pool", 0.0, 0.2)


def test_a_pool_is_added_at_the_cool_half_and_taken_away() -> None:
    wet = parts.add(plan(), "pool")
    assert wet.pool is not None
    assert wet.pool.x_m == pytest.approx(0.9)
    assert parts.take_away(wet, "pool").pool is None


def test_a_smaller_tank_takes_its_water_with_it() -> None:
    before = TANK.model_dump(mode="json")
    after = read_data(refit(before, apply(before, (Change("enclosure.length_m", 0.6), Change("enclosure.height_m", 0.3)))))
    assert after.pool is not None
    assert (after.pool.length_m, after.pool.x_m) == pytest.approx((0.6, 0.3))
    assert after.pool.depth_m < 0.3


@pytest.mark.parametrize(
    ("pool", "code"),
    [
        (POOL | {"length_m": 1.4, "x_m": 0.6}, "pool_too_long"),
        (POOL | {"depth_m": 0.5}, "pool_above_lid"),
        (POOL | {"x_m": 1.6}, "outside_length"),
        (POOL | {"depth_m": 12}, "too_high"),
    ],
)
def test_water_that_cannot_be_there_is_refused_by_its_field(pool: dict[str, float], code: str) -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document(pool=pool))
    assert code in {problem.code for problem in refused.value.problems}


def test_a_tank_offers_no_bowl_and_a_dry_box_offers_water() -> None:
    assert "bowl" not in dict(step_fields.additions(TANK, "moisture"))
    assert "pool" not in dict(step_fields.additions(TANK, "moisture"))
    assert "pool" in dict(step_fields.additions(plan(), "moisture"))


def test_a_company_is_typed_where_there_is_one(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    habitat = make_habitat(species="emerald-tree-skink", animal={"length_m": 0.1, "count": 1})
    paths = {field.path for group in inputs.groups(mapping.plan_of(habitat), "animal") for field in group.fields}
    assert "animal.males" not in paths
    address = reverse("planner:save", args=[habitat.pk])
    client.post(address, {"version": habitat.version, "step": "animal", "animal.count": "4"})
    habitat.refresh_from_db()
    data = {"version": habitat.version, "step": "animal", "animal.males": "2", "animal.young": "1", "animal.smallest_m": "2 in"}
    client.post(address, data)
    kept = mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).animal
    assert (kept.count, kept.males, kept.young) == (4, 2, 1)
    assert kept.smallest_m == pytest.approx(0.0508)
    page = client.get(reverse("planner:bench", args=[habitat.pk]), {"step": "animal"}).content.decode()
    assert "2 males together; at most 1" in page
    refused = client.post(address, {"version": habitat.version + 1, "step": "animal", "animal.males": "9"})
    assert "More males or young than animals" in refused.content.decode()


def test_areas_and_volumes_are_said_in_the_keepers_units() -> None:
    assert METRIC.number(0.28, "m2") == ("0.28", "m²")
    assert IMPERIAL.number(0.28, "m2") == ("3.0", "ft²")
    assert IMPERIAL.number(0.07, "m3")[1] == "gal"


def new_habitat(client: Client, **changes: str) -> Any:
    summer = {"summer_day": "24", "summer_night": "21", "summer_humidity": "50"}
    winter = {"winter_day": "20", "winter_night": "18", "winter_humidity": "45"}
    room = client.get(reverse("rooms:new")).context["form"].fields["room"].choices[0][0]
    data = {
        "room": room,
        "name": "Sandbank",
        "species": "corn-snake",
        "sex": "male",
        "mass": "300 g",
        **summer,
        **winter,
        **changes,
    }
    return client.post(reverse("rooms:new"), data)


@pytest.mark.django_db
def test_a_first_plan_is_built_into_the_enclosure_one_has(client: Client) -> None:
    assert new_habitat(client, box="4 ft x 2 ft x 2 ft").status_code == 302
    made = mapping.plan_of(Habitat.objects.get(name="Sandbank"))
    assert (made.enclosure.length_m, made.enclosure.width_m) == pytest.approx((1.2192, 0.6096))
    assert all(hide.x_m <= made.enclosure.length_m for hide in made.hides)


@pytest.mark.django_db
def test_a_group_is_planned_for_as_a_group(client: Client) -> None:
    new_habitat(client, species="fire-bellied-toad", mass="", length="4.5 cm", count="6")
    made = mapping.plan_of(Habitat.objects.get(name="Sandbank"))
    assert made.animal.count == 6
    assert made.enclosure.length_m > 0.8 * (1 + 0.2 * 5) - 0.01  # each further toad adds a fifth
    assert made.pool is not None


UNFIT = [("a shoebox", "Three sizes"), ("1 x 1 x 1", "Is the unit right?"), ("60 x 40 x 16", "Nothing this animal needs fits")]


@pytest.mark.django_db
@pytest.mark.parametrize(("box", "said"), UNFIT)
def test_an_enclosure_that_is_none_is_said_at_its_field(client: Client, box: str, said: str) -> None:
    page = new_habitat(client, box=box, species="savanna-monitor", mass="2 kg")
    assert page.status_code == 200
    assert said in page.content.decode()
    assert not Habitat.objects.exists()


@pytest.mark.django_db
def test_a_hatch_date_to_come_is_refused_at_once(client: Client) -> None:
    assert "still to come" in new_habitat(client, hatched="2099-01-01").content.decode()
