"""The Ground and the Furniture step: mixes, things put in, copied, turned and taken away, what it takes, furnishing."""

from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.planner import fields, furnishing, mapping
from ridgeback.planner.inputs import groups
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, plan

HTMX: dict[str, Any] = {"HTTP_HX_REQUEST": "true"}
IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture(autouse=True)
def _fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)


def now(habitat: Habitat) -> Any:
    return mapping.plan_of(Habitat.objects.get(pk=habitat.pk))


def part(client: Client, habitat: Habitat, **values: str) -> Any:
    version = str(Habitat.objects.get(pk=habitat.pk).version)
    return client.post(reverse("planner:part", args=[habitat.pk]), {"step": "furniture", "version": version} | values, **HTMX)


def page(client: Client, habitat: Habitat, step: str) -> str:
    return " ".join(client.get(reverse("planner:bench", args=[habitat.pk]), {"step": step}).content.decode().split())


def test_a_mix_of_the_trade_is_taken_by_a_button_and_undone(client: Client, habitat: Habitat) -> None:
    assert "Take this mix" in page(client, habitat, "ground")
    assert part(client, habitat, do="recipe", recipe="arid-mix", step="ground").status_code == 200
    assert [item.material for item in now(habitat).ground.layers[0].parts] == ["soil", "sand", "clay"]
    told = page(client, habitat, "ground")
    assert "arid mix" in told
    assert "The stand and the floor carry" in told
    assert part(client, habitat, do="recipe", recipe="gravel soup").status_code == 404
    version = Habitat.objects.get(pk=habitat.pk).version
    client.post(reverse("planner:undo", args=[habitat.pk]), {"step": "ground", "version": version}, **HTMX)
    assert now(habitat).ground == plan().ground


def test_things_are_put_in_copied_turned_and_taken_away_each_as_one_state(client: Client, habitat: Habitat) -> None:
    count = len(plan().things)
    for do, values, left, said in (
        ("thing", {"thing": "cave"}, count + 1, "Cave added"),
        ("copy", {"part": f"things.{count}"}, count + 2, "one more Cave"),
        ("turn", {"part": f"things.{count}"}, count + 2, "Cave turned"),
        ("take", {"part": f"things.{count + 1}"}, count + 1, "Cave taken away"),
    ):
        part(client, habitat, do=do, **values)
        assert len(now(habitat).things) == left
        head = Habitat.objects.get(pk=habitat.pk).head
        assert head is not None
        assert head.label == said
    assert now(habitat).things[count].turn_deg == 15.0
    for do, values in (("thing", {"thing": "gnome"}), ("copy", {"part": "things.99"}), ("turn", {"part": "pool"})):
        assert part(client, habitat, do=do, **values).status_code == 404


def test_furnishing_fills_a_bare_box_and_says_nothing_when_all_of_it_fits(
    client: Client, make_habitat: Callable[..., Habitat]
) -> None:
    bare = make_habitat(hides=[], bowl=None)
    answer = part(client, bare, do="furnish")
    assert answer.status_code == 200
    assert "It does not all fit" not in answer.content.decode()
    assert now(bare).bowl is not None
    assert any(thing.humid for thing in now(bare).things)
    before = Habitat.objects.get(pk=bare.pk).version
    part(client, bare, do="furnish")  # pressed twice: everything is in its place
    assert Habitat.objects.get(pk=bare.pk).version == before


def test_what_does_not_fit_is_said_with_the_floor_that_holds_it(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    box = {"kind": "pvc", "length_m": 0.5, "width_m": 0.35, "height_m": 0.45, "lid": "solid"}
    lamp = {"kind": "reflector-flood", "watts": 40.0, "x_m": 0.12, "height_m": 0.4, "guarded": True}
    stone = {"kind": "slate", "x_m": 0.12, "length_m": 0.2, "height_m": 0.03}
    small = make_habitat(
        species="corn-snake",
        schools={},
        animal={"length_m": 1.2, "mass_kg": 0.5},
        enclosure=box,
        platform=stone,
        heaters=[lamp],
        uv_lamps=[],
        hides=[],
        bowl=None,
    )
    said = part(client, small, do="furnish").content.decode()
    assert "It does not all fit: there is no place for the" in said
    assert "would hold all of it" in said


def test_what_the_ground_takes_is_told_in_the_keepers_units() -> None:
    made = plan()
    metric, imperial = furnishing.bill(made, METRIC), furnishing.bill(made, IMPERIAL)
    assert metric["beds"][0]["layers"][0]["lies"] == "42 L"
    assert metric["load"].endswith("kg/m²")
    assert imperial["load"].endswith("lb/ft²")
    assert imperial["beds"][0]["layers"][0]["lies"] == "11.1 gal"
    assert metric["materials"][0]["bags"] == "1 bag of 50 L"


def test_a_thing_and_a_layer_are_told_in_a_line() -> None:
    made = plan()
    assert furnishing.where_and_how_large(made, made.things[0], METRIC) == "26 cm from the left · 22 × 22 × 4 cm"
    assert furnishing.what_it_is_made_of(made.ground.layers[0], METRIC) == "soil · 7 cm"


def test_the_furniture_step_tells_hides_perches_and_what_it_takes(client: Client, habitat: Habitat) -> None:
    told = page(client, habitat, "furniture")
    for words in ("Its hides", "Where it gets up to", "What it takes", "1 × hide, cork", "1 · slate"):
        assert words in told
    assert "room and reach" in told
    assert 'class="layer-room free-floor"' in told
    assert "Its hides" not in page(client, habitat, "heat")


def test_ground_is_told_in_buckets_of_the_keepers_own_size(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    """42 L as they lie are 47 L loose: four and a half buckets of ten (by hand, to the half)."""
    habitat = make_habitat()
    assert "Buckets of" not in page(client, habitat, "ground")
    with_bucket = make_habitat(ground__bucket_m3=0.01)
    told = page(client, with_bucket, "ground")
    assert "Buckets of 10 L" in told
    litres = furnishing.bill(now(with_bucket), METRIC)["materials"][0]
    assert float(litres["buckets"]) == pytest.approx(float(litres["litres"].split()[0]) / 10, abs=0.26)


def test_gaps_doors_and_pumps_are_typed_added_and_taken_away(client: Client, habitat: Habitat) -> None:
    assert "Add a gap it could get into" in page(client, habitat, "enclosure")
    part(client, habitat, do="add", part="enclosure.gaps.0", step="enclosure")
    (gap,) = now(habitat).enclosure.gaps
    assert gap.at == "cable"
    part(client, habitat, do="take", part="enclosure.gaps.0", step="enclosure")
    assert now(habitat).enclosure.gaps == ()
    part(client, habitat, do="add", part="misting.times.0", step="moisture")
    part(client, habitat, do="add", part="mister", step="moisture")
    assert now(habitat).mister is not None
    assert "Longest misting" in page(client, habitat, "moisture")
    part(client, habitat, do="take", part="mister", step="moisture")
    assert now(habitat).mister is None


def test_a_hide_is_dark_as_usual_until_the_tick_is_taken_away() -> None:
    made = plan()
    path = made.path_of(made.hides[0])
    for posted, dark in (({f"{path}.dark": "1"}, None), ({}, False)):
        after, rejected = fields.bind(made, "furniture", {f"{path}.dark:shown": "1", **posted}, METRIC)
        assert rejected == {}
        assert after.thing_at(path).dark is dark
        shown = next(field for group in groups(after, "furniture") for field in group.fields if field.path == f"{path}.dark")
        assert fields.show(after, shown, METRIC).checked is (dark is not False)
