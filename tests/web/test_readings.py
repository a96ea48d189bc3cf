"""Readings: taken, corrected, doubted, forgotten; what they teach, and what they say of the plan as it stands."""

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Change
from husbandry.plan.editing import apply
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Event, Instrument
from ridgeback.planner import bench, counted, mapping, readings, revisions
from ridgeback.planner.view import View
from ridgeback.rooms.models import Habitat
from tests.plans import TODAY, assessed


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def gun(habitat: Habitat) -> Instrument:
    return Instrument.objects.create(room=habitat.room, name="gun", kind="infrared", reads_high=1.4, sure_to=0.8)


def fetch(client: Client, name: str, habitat: Habitat, **query: str) -> str:
    response = client.get(reverse(f"planner:{name}", args=[habitat.pk]), query)
    assert response.status_code == 200
    return response.content.decode()


def yesterday_at(hour: int, minute: int = 0) -> datetime:
    return (timezone.localtime(clock.now()) - timedelta(days=1)).replace(hour=hour, minute=minute, second=0, microsecond=0)


def enter(client: Client, habitat: Habitat, gun: Instrument, **changes: str) -> Any:
    given = {
        "place": "basking-surface",
        "instrument": str(gun.pk),
        "value": "35.4",
        "at": yesterday_at(15).strftime("%Y-%m-%dT%H:%M"),
        "room_c": "22",
        "room_percent": "50",
    } | changes
    return client.post(reverse("planner:readings", args=[habitat.pk]), given)


def test_a_reading_is_corrected_for_its_instrument_and_kept_as_it_showed(client: Client, habitat: Habitat, gun: Instrument) -> None:
    """A meter that reads 1.4 high: 35.4 on the display is 34.0 on the stone."""
    assert enter(client, habitat, gun).status_code == 302
    event = Event.objects.get(kind=Event.Kind.READ)
    assert (event.payload["value"], event.payload["reads_high"]) == (35.4, 1.4)
    page = fetch(client, "readings", habitat)
    assert "35.4 °C" in page
    assert "<b>34.0 °C</b>" in page
    gun.reads_high = 0.0
    gun.save()
    assert "<b>34.0 °C</b>" in fetch(client, "readings", habitat)


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"place": "warm-air"}, "a surface takes infrared"),
        ({"value": "300"}, "That cannot be"),
        ({"value": "warm"}, "is not a number"),
        ({"room_percent": "140"}, "That cannot be"),
        ({"at": "2031-01-01T10:00"}, "within the last year"),
    ],
)
def test_what_cannot_have_been_read_is_not_taken(
    client: Client, habitat: Habitat, gun: Instrument, changes: dict[str, str], said: str
) -> None:
    response = enter(client, habitat, gun, **changes)
    assert response.status_code == 422
    assert said in response.content.decode()
    assert not Event.objects.filter(kind=Event.Kind.READ).exists()


def test_a_keeper_reads_in_their_own_degrees(habitat: Habitat, owner: Keeper, client: Client, gun: Instrument) -> None:
    owner.temperature_unit = "degF"
    owner.save()
    enter(client, habitat, gun, value="95.7 F", room_c="72")
    payload = Event.objects.get(kind=Event.Kind.READ).payload
    assert payload["value"] == pytest.approx(35.4, abs=0.05)
    assert payload["room_c"] == pytest.approx(22.2, abs=0.05)


def measured(habitat: Habitat, owner: Keeper, gun: Instrument, place: str, value: float, hour: int, minute: int = 0) -> None:
    at = datetime(2026, 11, 23, hour, minute, tzinfo=timezone.get_current_timezone())
    log.was_read(habitat, at, owner, gun, place=place, value=value, room_c=22.0, room_percent=50.0)


def test_a_plan_goes_by_its_readings_until_told_otherwise(client: Client, habitat: Habitat, owner: Keeper, gun: Instrument) -> None:
    """Colder than the book says, evening after evening: the plan comes to say so too, and back again."""
    meter = Instrument.objects.create(room=habitat.room, name="probe", kind="thermometer", sure_to=0.3)
    for place, by, value, hour in (
        ("warm-air", meter, 24.0, 15),
        ("cool-air", meter, 22.0, 15),
        ("basking-surface", gun, 32.0, 15),
    ):
        measured(habitat, owner, by, place, value, hour)
    page = fetch(client, "readings", habitat)
    assert "learnt" in page
    assert "Measure next" in page
    before = mapping.plan_of(habitat)
    client.post(reverse("planner:learn", args=[habitat.pk]), {"do": "learn", "version": habitat.version})
    learnt = mapping.plan_of(Habitat.objects.get(pk=habitat.pk))
    assert learnt.calibration is not None
    assert learnt.calibration.readings == 3
    key = ("warm_air", "winter", "day")
    values = [assess(one, find(one.species), TODAY, depth=NO_DAYS).quantity(*key) for one in (before, learnt)]
    assert values[1].value < values[0].value  # type: ignore[operator]
    assert values[1].high - values[1].low < values[0].high - values[0].low  # type: ignore[operator]
    client.post(reverse("planner:learn", args=[habitat.pk]), {"do": "forget", "version": habitat.version + 1})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)) == before


def test_the_last_reading_stands_on_its_mark(client: Client, habitat: Habitat, owner: Keeper, gun: Instrument) -> None:
    measured(habitat, owner, gun, "basking-surface", 34.4, 15)
    page = client.get(reverse("planner:bench", args=[habitat.pk]), {"step": "heat", "season": "summer"}).content.decode()
    assert "Read: 33.0 °C, 23 November by gun." in page
    assert 'class="read"' in page


def test_a_uv_meter_moves_the_lamps_and_nothing_else(habitat: Habitat, owner: Keeper) -> None:
    """Two normals: prior 1 ± 0.15, one reading of half the class's strength as sure as that: in between, and surer."""
    meter = Instrument.objects.create(room=habitat.room, name="uv", kind="uv-meter", sure_to=0.02)
    made = mapping.plan_of(habitat)
    index = next(item.value for item in assessed().quantities if item.key == "uv_back")
    assert index is not None
    measured(habitat, owner, meter, "uv-back", 0.5 * index, 12)
    learnt, uv = readings.learn(made, find(made.species), readings.of_habitat(habitat), TODAY)
    assert learnt is None
    assert uv is not None
    assert 0.5 < uv[0] < 0.75
    assert uv[1] < 0.7


def test_a_reading_can_be_taken_out_again(client: Client, habitat: Habitat, gun: Instrument) -> None:
    enter(client, habitat, gun)
    event = Event.objects.get(kind=Event.Kind.READ)
    client.post(reverse("planner:forget-reading", args=[habitat.pk]), {"reading": event.pk})
    assert not Event.objects.filter(kind=Event.Kind.READ).exists()


def test_an_instrument_is_kept_corrected_and_never_perfect(client: Client, habitat: Habitat) -> None:
    url = reverse("daybook:instruments")
    given = {"room": habitat.room_id, "name": "dial", "kind": "hygrometer", "reads_high": "-2", "sure_to": "3"}
    assert client.post(url, given).status_code == 302
    assert client.post(url, given).status_code == 422
    dial = Instrument.objects.get(name="dial")
    client.post(reverse("daybook:correct-instrument", args=[dial.pk]), given | {"reads_high": "-3", "sure_to": "0"})
    dial.refresh_from_db()
    assert dial.reads_high == -2.0
    client.post(reverse("daybook:correct-instrument", args=[dial.pk]), given | {"reads_high": "-3"})
    dial.refresh_from_db()
    assert dial.reads_high == -3.0


# ---- which are doubted ----


def kept() -> list[dict[str, Any]]:
    return [event.payload for event in Event.objects.filter(kind=Event.Kind.READ).order_by("id")]


def test_a_reading_far_off_the_others_is_asked_about_before_it_is_kept(client: Client, habitat: Habitat, gun: Instrument) -> None:
    """88 °F among 118 and 119 is a slip of the finger or a lamp that was off; the keeper says which."""
    for value in ("118 F", "119 F"):
        enter(client, habitat, gun, value=value, sure="so")
    asked = enter(client, habitat, gun, value="88 F")
    assert asked.status_code == 422
    assert "The last readings here say" in asked.content.decode()
    assert 'value="88 F"' in asked.content.decode()
    assert len(kept()) == 2
    assert enter(client, habitat, gun, value="88 F", sure="off").status_code == 302
    assert kept()[-1]["lamps_off"] is True
    assert "kept apart" in fetch(client, "readings", habitat)
    # What was kept apart is no company for the next one.
    assert enter(client, habitat, gun, value="117 F").status_code == 302
    assert "lamps_off" not in kept()[-1]


def test_a_first_reading_that_nothing_explains_is_asked_about(client: Client, habitat: Habitat, gun: Instrument) -> None:
    asked = enter(client, habitat, gun, value="55")
    assert asked.status_code == 422
    assert "the plan expects about" in asked.content.decode()
    assert enter(client, habitat, gun, value="55", sure="so").status_code == 302


def test_one_taken_with_the_lamps_off_is_asked_about(client: Client, habitat: Habitat, gun: Instrument) -> None:
    early = yesterday_at(6, 30).strftime("%Y-%m-%dT%H:%M")
    asked = enter(client, habitat, gun, value="23", at=early)
    assert asked.status_code == 422
    assert "the lamps are off at 06:30" in asked.content.decode()
    enter(client, habitat, gun, value="23", at=early, sure="off")
    assert counted.counted(habitat, mapping.plan_of(habitat)) == {}


# ---- what they say of the plan as it stands ----


def test_four_readings_too_hot_are_a_finding_and_the_chance_is_theirs(
    client: Client, habitat: Habitat, owner: Keeper, gun: Instrument
) -> None:
    for minute in (0, 10, 20, 30):
        taken(habitat, owner, gun, "basking-surface", 42.0 + minute / 100, 15, minute)
    view = View(season="summer")
    _profile, found = bench.assessed(habitat, mapping.plan_of(habitat), TODAY, view)
    spot = found.quantity("basking_surface", "summer", "day")
    assert spot.read is not None
    assert (spot.read.count, round(spot.read.value, 1)) == (4, 40.8)
    assert spot.likely is not None
    assert spot.likely < 0.02
    assert [item.code for item in found.findings if item.code.startswith("measured")] == ["measured.high"]
    page = client.get(reverse("planner:bench", args=[habitat.pk]), {"step": "heat", "season": "summer"}).content.decode()
    assert "the middle of 4 readings" in page
    assert "measured: " in page
    assert "The model alone says" in page


def taken(habitat: Habitat, owner: Keeper, by: Instrument, place: str, value: float, hour: int, minute: int = 0) -> None:
    log.was_read(habitat, yesterday_at(hour, minute), owner, by, place=place, value=value, room_c=22.0, room_percent=50.0)


def test_readings_count_while_what_they_were_taken_in_stands(habitat: Habitat, owner: Keeper, gun: Instrument) -> None:
    meter = Instrument.objects.create(room=habitat.room, name="uv", kind="uv-meter", sure_to=0.02)
    taken(habitat, owner, gun, "basking-surface", 42.0, 15)
    taken(habitat, owner, meter, "uv-back", 0.9, 9)
    taken(habitat, owner, gun, "basking-surface", 30.0, 8, 40)  # the lamps had run for forty minutes
    assert set(counted.counted(habitat, mapping.plan_of(habitat))) == {"basking_surface/summer/day", "uv_back"}

    def changed(habitat: Habitat, *changes: Change) -> Habitat:
        document = apply(mapping.plan_of(habitat).model_dump(mode="json"), changes)
        return revisions.save(habitat.pk, read_data(document), habitat.version, owner, clock.now(), "edit")

    renamed = changed(habitat, Change("name", "Another shelf"), Change("room.winter.day_c", 17.0))
    assert len(counted.counted(renamed, mapping.plan_of(renamed))) == 2
    weaker = changed(renamed, Change("heaters.0.watts", 50.0))
    assert set(counted.counted(weaker, mapping.plan_of(weaker))) == {"uv_back"}
    moved = changed(weaker, Change("uv_lamps.0.height_m", 0.38))
    assert counted.counted(moved, mapping.plan_of(moved)) == {}
    taken(moved, owner, gun, "basking-surface", 42.0, 15)  # yesterday: before the lamp was changed
    moved.refresh_from_db()
    assert counted.counted(Habitat.objects.get(pk=moved.pk), mapping.plan_of(moved)) == {}


@pytest.mark.parametrize(
    ("change", "left"),
    [
        (Change("heaters.0.x_m", 0.5), {"uv_back"}),
        (Change("uv_lamps.0.height_m", 0.38), set()),  # which warms too
        (Change("name", "Another shelf"), {"basking_surface/summer/day", "uv_back"}),
    ],
    ids=["the lamp", "the tube", "nothing"],
)
def test_while_a_part_is_dragged_the_same_readings_count_as_when_it_is_let_go(
    habitat: Habitat, owner: Keeper, gun: Instrument, change: Change, left: set[str]
) -> None:
    meter = Instrument.objects.create(room=habitat.room, name="uv", kind="uv-meter", sure_to=0.02)
    taken(habitat, owner, gun, "basking-surface", 42.0, 15)
    taken(habitat, owner, meter, "uv-back", 0.9, 9)
    stands = mapping.plan_of(habitat)
    moved = read_data(apply(stands.model_dump(mode="json"), (change,)))
    dragged = counted.counted(Habitat.objects.get(pk=habitat.pk), moved, laid_by=stands)
    assert set(dragged) == left
    assert dragged == counted.counted(Habitat.objects.get(pk=habitat.pk), moved)


def test_a_thermometer_of_ones_own_is_read_where_it_lies(client: Client, habitat: Habitat) -> None:
    """Added, named, read, moved: the reading stays with the place where it was taken."""
    meter = Instrument.objects.create(room=habitat.room, name="probe", kind="thermometer", sure_to=0.3)
    url = reverse("planner:part", args=[habitat.pk])
    assert client.post(url, {"do": "add", "part": "probes.0", "version": habitat.version, "step": "heat"}).status_code == 302
    made = Habitat.objects.get(pk=habitat.pk)
    assert len(mapping.plan_of(made).probes) == 1
    page = fetch(client, "readings", made)
    assert 'value="own-0"' in page
    assert "Probe 1" in page
    assert enter(client, made, meter, place="own-0", value="25.5").status_code == 302
    event = Event.objects.get(kind=Event.Kind.READ)
    assert event.payload["place"] == "own"
    lies = mapping.plan_of(made).probes[0]
    assert event.payload["spot"] == {"name": "Probe 1", "x_m": lies.x_m, "height_m": lies.height_m}
    page = fetch(client, "readings", made)
    assert "25.5 °C" in page
    assert "What they teach" in page
    assert "Read: 25.5 °C" in fetch(client, "bench", made, step="heat", season="summer", phase="day")
    far = client.post(
        reverse("planner:move", args=[made.pk]),
        {"part": "probes.0", "x_m": "0.1", "height_m": "0.3", "version": made.version, "step": "heat"},
    )
    assert far.status_code == 200
    gun = Instrument.objects.create(room=habitat.room, name="gun", kind="infrared", sure_to=0.5)
    assert enter(client, made, gun, place="own-0", value="25.5").status_code == 422  # air is not read by infrared
    assert enter(client, made, meter, place="own-7", value="25.5").status_code == 422


def test_what_readings_teach_together_is_one_sentence() -> None:
    weights = {"air_changes": 0.8, "wetness": 0.4, "room_k": -0.5, "plume": -0.3}
    assert readings._words(weights, list(weights)) == (
        "air changes, together with what evaporates,"
        " against the room where it stands and the warmth that a lamp's dome leaves inside"
    )
    assert readings._words({"probe_k": -0.9}, ["probe_k"]) == "the probes' error"
