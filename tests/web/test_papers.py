"""A habitat on paper and behind its code: what stands on it, who sees it, at which scale."""

import re
from collections.abc import Callable
from datetime import timedelta

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.writing import Intent
from ridgeback.drawing.portions import FoodPortion, draw, heap_mm, piece_mm
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.reviewing import visitors
from ridgeback.rooms.models import Habitat, Membership
from ridgeback.sharing import setup
from ridgeback.sharing.models import PublicPage
from ridgeback.sharing.summary import PARTS
from ridgeback.web.bucket import Bucket

Clients = Callable[[Keeper], Client]


@pytest.fixture
def client(owner: Keeper, client_of: Clients) -> Client:
    return client_of(owner)


def shown(client: Client, habitat: Habitat, *parts: str, note: str = "") -> str:
    """Make the page of a habitat; its address."""
    url = reverse("sharing:public-page", args=[habitat.pk])
    answer = client.post(url, {"shows": parts, "note": note}, follow=True)
    assert "<svg" in answer.context["qr"]
    return str(answer.context["address"])


def test_whoever_scans_the_card_sees_what_was_chosen_and_nothing_else(client: Client, habitat: Habitat) -> None:
    address = shown(client, habitat, "kept", note="Ask Tansy.")
    answer = Client().get(address)
    page = answer.content.decode()
    assert answer.status_code == 200
    assert answer["X-Robots-Tag"] == "noindex"
    assert habitat.name in page
    assert "Ask Tansy." in page
    assert "How it is kept" in page
    for unchosen in ("Who lives here", "Food</h2>", "Do not open", "The enclosure, from the front"):
        assert unchosen not in page
    assert not re.search(r"/habitats/\d+/", page)  # no way into the room
    whole = Client().get(shown(client, habitat, *PARTS)).content.decode()
    for chosen in ("Food</h2>", "Do not open", "The enclosure, from the front"):
        assert chosen in whole
    assert shown(client, habitat, "kept") == address  # a card once printed stays good


def test_an_ended_page_shows_nothing_any_more(client: Client, habitat: Habitat) -> None:
    address = shown(client, habitat, *PARTS)
    client.post(reverse("sharing:public-page", args=[habitat.pk]), {"do": "end"})
    assert Client().get(address).status_code == 404
    assert shown(client, habitat, *PARTS) != address  # another one never opens the old address again
    Habitat.objects.filter(pk=habitat.pk).update(set_aside_at=clock.now())
    assert Client().get(f"/see/{PublicPage.objects.get().token}/").status_code == 404


def test_its_photo_is_shown_only_where_it_was_chosen(client: Client, habitat: Habitat, owner: Keeper) -> None:
    event = Event.objects.create(
        room=habitat.room, habitat=habitat, kind=Event.Kind.PHOTO, at=clock.now(), author=owner, payload={}
    )
    Photo.objects.create(event=event, jpeg=b"\xff\xd8 a picture", width=4, height=3)
    photo = reverse("sharing:see-photo", args=[shown(client, habitat, "kept").split("/")[-2]])
    assert Client().get(photo).status_code == 404
    shown(client, habitat, "photo")
    assert Client().get(photo).content.startswith(b"\xff\xd8")
    Event.objects.filter(pk=event.pk).update(taken_back_at=clock.now())
    assert Client().get(photo).status_code == 404


def test_a_viewer_changes_no_page(client: Client, habitat: Habitat, other: Keeper, client_of: Clients) -> None:
    shown(client, habitat, "kept")
    Membership.objects.create(room=habitat.room, keeper=other, role="viewer")
    assert client_of(other).post(reverse("sharing:public-page", args=[habitat.pk]), {"do": "end"}).status_code == 403
    assert PublicPage.objects.get().shows == ["kept"]


def test_who_scans_too_often_waits(client: Client, habitat: Habitat, monkeypatch: pytest.MonkeyPatch) -> None:
    address = shown(client, habitat, "kept")
    monkeypatch.setattr(visitors, "ONE", Bucket(burst=2.0, a_second=0.001))
    assert [Client().get(address).status_code for _turn in range(3)] == [200, 200, 429]
    assert client.get(address).status_code == 200


def test_the_card_and_the_care_plan_tell_of_this_animal(client: Client, habitat: Habitat, owner: Keeper) -> None:
    facts = {"name": "Sea holly", "sex": "female", "marks": "a notch in the left ear"}
    welcome(habitat.pk, Intent(owner, clock.now()), [Newcomer(facts)], clock.today(), clock.today())
    at = timezone.localtime(clock.now()) - timedelta(days=3)
    Event.objects.create(
        room=habitat.room, habitat=habitat, kind=Event.Kind.FED, at=at, author=owner, payload={"outcome": "eaten", "foods": []}
    )
    card, plan = (client.get(reverse(f"sharing:{name}", args=[habitat.pk])) for name in ("card", "care-plan"))
    for answer in (card, plan):
        assert answer.content.startswith(b"%PDF")
        resident = answer.context["residents"][0]
        assert resident["name"] == "Sea holly"
        assert ("Known by", "a notch in the left ear") in resident["facts"]
        assert answer.context["kept"]
        assert answer.context["rhythm"]
    assert plan.context["last_fed"] == at
    assert plan.context["feeds"]
    assert plan.content.count(b"/Type /Page\n") + plan.content.count(b"/Type /Page ") in (0, 2)
    assert not any("Amphibians" in text for text in plan.context["cautions"])


def test_the_set_up_is_drawn_to_a_scale_that_fits_the_sheet(client: Client, habitat: Habitat) -> None:
    answer = client.get(reverse("sharing:setup-drawing", args=[habitat.pk]))
    scale, plan = answer.context["scale"], answer.context["plan"]
    front = answer.context["section"]
    # As many millimetres on paper as the enclosure is long, at that scale.
    inner_px = plan.enclosure.length_m * front["frame"].scale
    inner_mm = inner_px / float(front["width"]) * float(answer.context["views"]["front"]["width"])
    assert inner_mm == pytest.approx(1000 * plan.enclosure.length_m / scale, rel=1e-3)
    assert float(answer.context["bar"]) == pytest.approx(100 / scale)
    for view in answer.context["views"].values():
        assert float(view["width"]) <= setup.PAPER_MM[0]
        assert float(view["height"]) <= setup.PAPER_MM[1]
    names = {row["name"] for row in answer.context["places"]}
    assert len(names) >= len({thing.kind for thing in plan.things})


@pytest.mark.parametrize(
    ("fed", "length", "width"),
    [
        (FoodPortion("cricket", 5, 2.5), 25.0, 6.5),  # the largest usual one, as the table has it
        (
            FoodPortion("cricket", 8, 0.5),
            25 * (1 / 8) ** (1 / 3),
            6.5 * (1 / 8) ** (1 / 3),
        ),  # an eighth in mass, half as long
        (FoodPortion("mouse/adult", 1, 25.0), 75.4, 25.1),  # 25 mL as an ellipsoid of 3 : 1 : 1, by hand: (6 · 25 / π / 3)^(1/3) cm
    ],
)
def test_a_portion_is_drawn_at_its_real_size(fed: FoodPortion, length: float, width: float) -> None:
    sides = piece_mm(fed)
    assert sides == pytest.approx((length, width), rel=0.01)


def test_greens_are_a_heap_and_many_are_drawn_as_some() -> None:
    heap = heap_mm(FoodPortion("dandelion", None, 20.0))
    assert heap is not None
    assert 2 / 3 * 3.14159 * (heap / 20) ** 3 == pytest.approx(200, rel=0.01)  # 20 g at a tenth of a gram a millilitre
    rows = draw([FoodPortion("cricket-nymph", 40, 4.0), FoodPortion("dandelion", None, 20.0)])
    assert rows[0]["count"] == 40
    assert not rows[0]["all"]
    assert len(rows[0]["places"]) <= 12
    assert float(rows[0]["across"]) <= 180
    assert rows[1]["heap"]


def test_a_sitters_sheet_says_whom_to_call(client: Client, habitat: Habitat) -> None:
    day = clock.today().isoformat()
    asked = {"room": str(habitat.room_id), "from": day, "until": day, "call": "Tansy, 555 0100"}
    answer = client.get(reverse("rota:sitter"), asked)
    assert answer.context["call"] == "Tansy, 555 0100"
    assert "portion" in answer.context["habitats"][0]
