"""A room's electricity: said once in a form, reckoned for every habitat, refused in words, on paper."""

from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.electrics.models import RoomWiring
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat, Membership


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def url(habitat: Habitat) -> str:
    return reverse("electrics:room", args=[habitat.room_id])


def said(habitat: Habitat, **changes: Any) -> dict[str, Any]:
    """The form as a keeper fills it for one habitat with a lamp and a tube."""
    key = habitat.pk
    return {
        "version": "0",
        "volts": "230 V",
        "circuit-name": ["Room", ""],
        "circuit-breaker": ["16 A", ""],
        "circuit-residual": ["30", ""],
        "circuit-other": ["", ""],
        "strip-name": ["Shelf", "Wall"],
        "strip-was": ["", ""],
        "strip-circuit": ["Room", "Room"],
        "strip-rated": ["10", "10,0"],
        "strip-sockets": ["6", "4"],
        "strip-up": ["1.2 m", "4 ft"],
        f"floor-{key}": "70 cm",
        f"away-{key}": "20 in",
        f"on-{key}-heaters.0": "Shelf",
        f"timer-{key}-heaters.0": "on",
        f"on-{key}-uv_lamps.0": "Wall",
        "do": "keep",
    } | changes


def test_a_room_begins_with_strips_and_everything_still_to_plug_in(habitat: Habitat, client: Client) -> None:
    answer = client.get(url(habitat))
    assert "2 things are on" in answer.content.decode()
    assert [row["name"] for row in answer.context["strips"]] == ["Strip A", "Strip B", ""]
    assert answer.context["volts"] == "230"


def test_what_is_said_is_kept_in_any_units_and_drawn(habitat: Habitat, client: Client) -> None:
    assert client.post(url(habitat), said(habitat)).status_code == 302
    row = RoomWiring.objects.get()
    strips = row.document["strips"]
    assert [strip["up_m"] for strip in strips] == [1.2, pytest.approx(1.2192)]
    feed = row.document["feeds"][str(habitat.pk)]
    assert feed["away_m"] == pytest.approx(0.508)
    assert feed["plugs"]["heaters.0"] == {"strip": "Shelf", "timer": True, "carries_w": None}
    answer = client.get(url(habitat))
    assert answer.context["unplugged"] == 0
    assert answer.context["faults"] == []
    assert len(answer.context["drawn"]["fed"]) == 2
    assert "all its warmth" in answer.content.decode()


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"strip-rated": ["40 A", "10"]}, "No household strip carries more than 20 A"),
        ({"circuit-other": ["-5", ""]}, "less than nothing"),
        ({"strip-name": ["Shelf", "Shelf"]}, "Two have the name"),
        ({"strip-circuit": ["Cellar", "Room"]}, "no circuit “Cellar”"),
        ({"volts": "12"}, "No mains has 12 V"),
        ({"volts": "soon"}, "cannot be read as a number of V"),
        ({"strip-sockets": ["many", "4"]}, "no number of sockets"),
        ({"strip-up": ["88 F", "1 m"]}, "88 F"),
        ({"circuit-breaker": ["4000", ""]}, "A breaker of a home"),
        ({"strip-name": ["", "Wall"], "strip-was": ["Shelf", ""]}, "which is gone"),
    ],
)
def test_what_cannot_be_is_refused_in_words_and_stays_as_typed(
    wrong: dict[str, Any], words: str, habitat: Habitat, client: Client
) -> None:
    answer = client.post(url(habitat), said(habitat, **wrong))
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert not RoomWiring.objects.exists()
    name, typed = next(iter(wrong.items()))
    assert (typed if isinstance(typed, str) else typed[0]) in {
        value
        for row in [*answer.context["strips"], *answer.context["circuits"], {"volts": answer.context["volts"]}]
        for value in row.values()
    }, name


def test_a_strip_is_renamed_with_what_hangs_on_it(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said(habitat))
    again = said(habitat, **{"version": "1", "strip-name": ["Left", "Wall"], "strip-was": ["Shelf", "Wall"]})
    assert client.post(url(habitat), again).status_code == 302
    assert RoomWiring.objects.get().document["feeds"][str(habitat.pk)]["plugs"]["heaters.0"]["strip"] == "Left"
    # Somebody who saw the page before that changes nothing.
    client.post(url(habitat), said(habitat, version="1", volts="120"))
    assert RoomWiring.objects.get().document["volts"] == 230


def test_what_was_said_of_a_habitat_set_aside_is_there_when_it_comes_back(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said(habitat))
    Habitat.objects.filter(pk=habitat.pk).update(set_aside_at=clock.now())
    client.post(url(habitat), said(habitat, version="1", volts="240"))
    Habitat.objects.filter(pk=habitat.pk).update(set_aside_at=None)
    row = RoomWiring.objects.get()
    assert row.document["volts"] == 240
    assert row.document["feeds"][str(habitat.pk)]["plugs"]["heaters.0"]["strip"] == "Shelf"


def test_a_part_of_the_wiring_leaves_the_rest_as_it_is(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said(habitat))
    house = {name: value for name, value in said(habitat).items() if str(habitat.pk) not in name}
    client.post(url(habitat), house | {"version": "1", "strip-name": ["Left", "Wall"], "strip-was": ["Shelf", "Wall"]})
    plugs = RoomWiring.objects.get().document["feeds"][str(habitat.pk)]["plugs"]
    assert plugs["heaters.0"] == {"strip": "Left", "timer": True, "carries_w": None}
    mine = {f"floor-{habitat.pk}": "1 m", f"away-{habitat.pk}": "1 m", f"on-{habitat.pk}-heaters.0": "Wall"}
    client.post(url(habitat), mine | {"version": "2", "do": "keep"})
    document = RoomWiring.objects.get().document
    assert [strip["name"] for strip in document["strips"]] == ["Left", "Wall"]
    assert list(document["feeds"][str(habitat.pk)]["plugs"]) == ["heaters.0"]


def test_spreading_plugs_in_what_is_on_no_strip(habitat: Habitat, client: Client) -> None:
    bare = {name: value for name, value in said(habitat, do="spread").items() if not name.startswith(("on-", "timer-"))}
    client.post(url(habitat), bare)
    plugs = RoomWiring.objects.get().document["feeds"][str(habitat.pk)]["plugs"]
    assert set(plugs) == {"heaters.0", "uv_lamps.0"}


def test_a_warning_is_only_of_what_was_kept(habitat: Habitat, client: Client) -> None:
    bare = {name: value for name, value in said(habitat, do="spread").items() if not name.startswith(("on-", "timer-"))}
    none = bare | {"strip-name": [], "strip-was": [], "strip-circuit": [], "strip-rated": [], "strip-sockets": [], "strip-up": []}
    kept = [str(message) for message in client.post(url(habitat), none, follow=True).context["messages"]]
    assert any("found no place" in said for said in kept)
    stale = [str(message) for message in client.post(url(habitat), none | {"volts": "240"}, follow=True).context["messages"]]
    assert len(stale) == 1
    assert "changed elsewhere" in stale[0]


def test_what_the_plan_has_no_more_is_on_no_strip_any_more(habitat: Habitat, owner: Keeper, client: Client) -> None:
    client.post(url(habitat), said(habitat))
    fresh = Habitat.objects.get(pk=habitat.pk)
    bare = mapping.plan_of(fresh).model_copy(update={"uv_lamps": ()})
    revisions.save(habitat.pk, bare, fresh.version, owner, clock.now(), "no tube")
    answer = client.get(url(habitat))
    assert [row["one"].name for row in answer.context["drawn"]["fed"]] == ["reflector flood"]


def test_a_habitats_cables_say_holes_loops_and_what_a_second_thermostat_is_worth(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said(habitat, **{"strip-up": ["2 m", "30 cm"]}))
    answer = client.get(reverse("electrics:habitat", args=[habitat.pk]))
    leads = answer.context["leads"]
    assert [lead["strip"] for lead in leads if not lead["probe"]] == ["Shelf", "Wall"]
    # Water runs back from the strip that hangs high, and down to the low one.
    assert [lead["loop"] for lead in leads if not lead["probe"]] == [False, True]
    assert answer.context["worth"][0]["saves"]
    assert "What a second thermostat is worth" in answer.content.decode()


def test_it_goes_onto_paper_and_a_viewer_only_looks(
    habitat: Habitat, other: Keeper, client: Client, client_of: Callable[[Keeper], Client]
) -> None:
    assert client.get(reverse("electrics:paper", args=[habitat.room_id])).content.startswith(b"%PDF")
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.VIEWER)
    looking = client_of(other)
    assert looking.get(url(habitat)).status_code == 200
    assert looking.post(url(habitat), said(habitat)).status_code == 403
