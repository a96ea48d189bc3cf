"""What stands there, told in a form: reviewed with what nobody knows, one question answered by a press, refused in words."""

import base64
import zlib
from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.codes import FindingCode
from husbandry.setup_review.review import JUDGED, NOT_TOLD
from husbandry.setup_review.unknowns import priors
from ridgeback.accounts.models import Keeper
from ridgeback.language import harmwords, reviewwords
from ridgeback.money.models import RoomPurse
from ridgeback.planner.models import PlanRevision
from ridgeback.reviewing import tokens, visitors
from ridgeback.reviewing.models import Visitor
from ridgeback.rooms.models import Habitat, Room
from ridgeback.units import METRIC
from ridgeback.web.bucket import Bucket

SNAKE: dict[str, Any] = {
    "species": "corn-snake", "mass_kg": "600 g", "length_m": "", "box": "4 x 2 x 2 ft", "kind": "glass", "lid": "mesh",
    "room_c": "70 F", "room_percent": "50 %", "ground": "aspen", "ground_m": "1.5 in", "bowl": "yes", "mistings": "0",
    "heater-kind": ["mat", ""], "heater-end": ["warm", "warm"], "heater-watts": ["20 W", ""], "heater-thermostat": ["?", "?"],
    "heater-set_c": ["", ""], "heater-guarded": ["?", "?"], "heater-probe": ["?", "?"], "heater-x": ["", ""], "heater-y": ["", ""],
    "tube-kind": [""], "tube-months": [""], "tube-reflector": ["?"],
    "hide-end": ["warm", "cool", ""], "hide-humid": ["no", "no", "?"], "hide-dark": ["yes", "yes", "?"],
    "thermometers": "yes", "dusted": "?",
}  # fmt: skip


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def look(client: Client, **more: Any) -> Any:
    return client.post(reverse("reviewing:review"), SNAKE | more)


def test_what_is_told_is_reviewed_and_the_one_question_is_asked(client: Client) -> None:
    kept = PlanRevision.objects.count()
    answer = look(client)
    assert answer.status_code == 200
    assert answer.context["question"]["text"] == "Does a thermostat hold the heat mat under the ground?"
    assert "What hangs on what you do not know" in answer.content.decode()
    yes, no = answer.context["question"]["answers"]
    held, free = (look(client, answer=value) for value, _text in (yes, no))
    # The answer stands in the form, and is asked no more.
    assert held.context["fields"]["heaters"][0]["thermostat"] == "yes"
    assert free.context["fields"]["heaters"][0]["thermostat"] == "no"
    for one in (held, free):
        assert one.context["question"] is None or one.context["question"]["text"] != answer.context["question"]["text"]
    said = {row["said"] for time in free.context["times"] for row in time["rows"]}
    assert any("thermostat" in text for text in said)
    assert PlanRevision.objects.count() == kept  # nothing is kept


def test_the_fields_come_back_as_they_were_meant(client: Client) -> None:
    fields = look(client).context["fields"]
    assert fields["box"] == "121.92 cm × 60.96 cm × 60.96 cm"
    assert fields["room_c"] == "21.11 °C"
    again = look(client, **{name: fields[name] for name in ("box", "room_c", "ground_m", "mass_kg")})
    assert again.context["fields"]["box"] == fields["box"]
    assert [hide["end"] for hide in fields["hides"] if hide] == ["warm", "cool"]


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"box": "large"}, "large"),
        ({"box": ""}, ""),
        ({"species": ""}, "Choose its species."),
        ({"species": "dragon-of-the-moon"}, "The book has no"),
        ({"room_c": "warm"}, "warm"),
        ({"mistings": "99"}, ""),
        ({"mistings": "1.5"}, ""),
        ({"mass_kg": "-5 g"}, ""),
        ({"kind": "shoebox"}, ""),
        ({"box": "100 x 50 x 10 cm", "ground_m": "20 cm"}, "does not fit"),
    ],
)
def test_what_cannot_be_is_refused_in_words_and_stays_as_typed(client: Client, wrong: dict[str, str], words: str) -> None:
    answer = look(client, **wrong)
    assert answer.status_code == 422
    assert answer.context["faults"]
    assert words in " ".join(answer.context["faults"])
    (name, value), *_rest = wrong.items()
    assert answer.context["fields"][name] == value


def test_an_answer_to_what_is_not_asked_changes_nothing(client: Client) -> None:
    for odd in ("bowl|0", "heaters.0.thermostat|77", "heaters.0.thermostat|x", "nonsense", "heaters.9.watts|0"):
        answer = look(client, answer=odd)
        assert answer.status_code == 200
        assert answer.context["fields"]["heaters"][0]["thermostat"] == "?"


def test_every_question_and_answer_has_words() -> None:
    for asks, prior in priors().items():
        assert asks in reviewwords.ASKS
        told = [reviewwords.answer(asks, value, METRIC) for value, _weight in prior.answers]
        assert len(set(told)) == len(told)
        assert all(told)


@pytest.mark.parametrize(
    ("box", "length", "said"),
    [("40 gallon breeder", "91.44", ""), ("20 gal long", "76.2", ""), ("20 gal", "", "two shapes"), ("37 gallon", "", "37 gallon")],
)
def test_a_box_is_told_by_its_name(client: Client, box: str, length: str, said: str) -> None:
    answer = look(client, box=box)
    if said:
        assert answer.status_code == 422
        assert said in " ".join(answer.context["faults"])
    else:
        assert answer.context["fields"]["box"].startswith(f"{length} cm")
    sold = look(client, box="", nominal="front-vent-120", kind="glass", lid="?")
    assert sold.context["fields"]["kind"] == "foamed-pvc"
    assert sold.context["fields"]["lid"] == "solid"


def test_every_finding_says_why_it_matters() -> None:
    judged = {code for code in FindingCode if code.startswith(JUDGED) and code not in NOT_TOLD}
    assert judged | {FindingCode.DIET_UNDUSTED} <= set(harmwords.WHY)


def test_its_address_opens_the_same_review_again(client: Client, other: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    answer = look(client, name="Sea holly's box")
    address = answer.context["address"]
    again = client_of(other).get(address)
    assert again.context["called"] == "Sea holly's box"
    assert [time["rows"] for time in again.context["times"]] == [time["rows"] for time in answer.context["times"]]
    for odd in ("x", "AAAA", answer.context["text"][:-9], "e" * 5000):
        refused = client.get(reverse("reviewing:review"), {"t": odd})
        assert refused.status_code == 200
        assert refused.context["faults"]
        assert client.get(reverse("reviewing:proposed"), {"t": odd}).status_code == 404


def test_a_packed_bomb_is_not_unpacked() -> None:
    bomb = base64.urlsafe_b64encode(zlib.compress(b'{"name": "' + b" " * 10_000_000 + b'"}', 9)).decode().rstrip("=")
    assert tokens.told_of(bomb[: tokens.LONGEST]) is None
    assert tokens.told_of(base64.urlsafe_b64encode(zlib.compress(b"[" * 19_000)).decode().rstrip("=")) is None


def test_after_a_change_it_tells_what_is_done_and_what_is_left(client: Client) -> None:
    first = look(client, **{"hide-end": ["warm", "", ""], "bowl": "no"})
    told = {row["said"] for time in first.context["times"] for row in time["rows"]}
    assert any("water" in text for text in told)
    changing = look(client, then="changed", **{"hide-end": ["warm", "", ""], "bowl": "no"})
    before = changing.context["before"]
    assert before
    after = look(client, b=before, **{"hide-end": ["warm", "", ""], "bowl": "yes"})
    since = after.context["since"]
    assert [row["said"] for row in since["done"]] == ["There is no water."]
    assert any("hides" in row["said"] for row in since["left"])
    assert since["new"] == []
    # Its address tells it as well.
    assert client.get(after.context["address"]).context["since"]["done"] == since["done"]


@pytest.mark.sweep
def test_several_of_one_keeper_stand_in_one_room(client: Client) -> None:
    first = look(client, name="the snake", room_percent="50 %")
    second = look(client, name="the snake", room_percent="50 %", then="another")
    assert [one["name"] for one in second.context["others"]] == ["the snake"]
    fields = second.context["fields"]
    assert fields["room_c"] == "21.11 °C"  # the room is the same
    assert fields["room_percent"] == "50"
    assert fields["species"] == fields["box"] == ""
    assert fields["heaters"] == [{}] * len(fields["heaters"])
    opened = client.get(reverse("reviewing:review"), {"t": second.context["others"][0]["text"]})
    assert opened.context["text"] == first.context["text"]
    third = look(client, name="the gecko", species="leopard-gecko", o=[second.context["others"][0]["text"]])
    printed = client.get(f"{reverse('reviewing:paper')}?{third.context['query']}")
    assert printed["Content-Type"] == "application/pdf"
    assert printed.content.startswith(b"%PDF")
    assert [sheet["called"] for sheet in printed.context["sheets"]] == ["the snake", "the gecko"]


def test_what_is_told_is_drawn_with_a_mark_where_something_is_not_known(client: Client) -> None:
    url = reverse("reviewing:drawing")
    nothing = client.post(url, SNAKE | {"box": ""})
    assert "marks" not in nothing.context
    drawn = client.post(url, SNAKE | {"hide-x": ["0.9", "", ""], "hide-y": ["0.3", "", ""]})
    marks = {(mark["group"], mark["row"]): mark for mark in drawn.context["marks"]}
    assert set(marks) == {("heater", 0), ("hide", 0), ("hide", 1), ("bowl", 0)}
    assert marks["heater", 0]["unknown"]
    assert not marks["hide", 0]["unknown"]
    assert marks["hide", 0]["x_m"] == "0.9"
    assert float(marks["hide", 1]["x_m"]) > 0.6  # at the cool end


@pytest.mark.sweep
def test_the_proposed_layout_stands_beside_todays_with_what_it_takes(client: Client, owner: Keeper) -> None:
    room = Room.objects.get(membership__keeper=owner)
    offers = [
        {"what": "thermostat-pulse", "shop": "the pet shed", "price": 40},
        {"what": "probe", "shop": "the pet shed", "price": 8},
    ]
    RoomPurse.objects.create(room=room, document={"prices": offers})
    found = look(client, **{"heater-thermostat": ["no", "?"], "heater-watts": ["35", ""]})
    answer = client.get(f"{reverse('reviewing:proposed')}?{found.context['query']}")
    assert answer.status_code == 200
    by_key = answer.context["mended"]
    held = next(one for key, one in by_key.items() if key.startswith("heat-no-thermostat"))
    assert "thermostat" in held["buy"]
    assert held["cost"].startswith("48.00")
    content = answer.content.decode()
    page = found.content.decode()
    for key in by_key:
        assert f'id="mend-{key}" hx-swap-oob="true"' in content
        assert f'id="mend-{key}"' in page  # each stands beside its finding
    assert answer.context["buy"]
    assert "hours" in answer.context["hours"]


@pytest.mark.sweep
def test_it_is_the_start_of_a_plan(client: Client, owner: Keeper, other: Keeper) -> None:
    text = look(client, name="Thrift's old box").context["text"]
    room, url = Room.objects.get(membership__keeper=owner), reverse("reviewing:start")
    for which in ("stands", "proposed"):
        answer = client.post(url, {"t": text, "room": room.pk, "which": which})
        assert answer.status_code == 302
        habitat = Habitat.objects.latest("pk")
        assert habitat.name == "Thrift's old box"
        assert habitat.room == room
        assert client.get(answer["Location"]).status_code == 200
    foreign = Room.objects.get(membership__keeper=other)
    count = Habitat.objects.count()
    assert client.post(url, {"t": text, "room": foreign.pk, "which": "stands"}).status_code == 404
    assert Habitat.objects.count() == count


def test_a_visitor_needs_no_account_and_nothing_of_theirs_is_kept(db: None) -> None:
    visitor = Client()
    assert visitor.get(reverse("reviewing:review")).status_code == 200
    answer = look(visitor, u="us")
    assert answer.context["question"]
    assert answer.context["fields"]["box"] == "48 in × 24 in × 24 in"
    assert "°F" in answer.content.decode()
    proposed = visitor.get(f"{reverse('reviewing:proposed')}?{answer.context['query']}")
    assert "Make a plan" not in proposed.content.decode()
    assert visitor.post(reverse("reviewing:start"), {"t": answer.context["text"]})["Location"].startswith(
        reverse("accounts:sign-in")
    )
    assert PlanRevision.objects.count() == Habitat.objects.count() == 0
    assert not Visitor.objects.filter(digest__contains="127.0.0.1").exists()


def test_who_asks_too_fast_waits_and_others_do_not(db: None, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(visitors, "ONE", Bucket(burst=5.0, a_second=0.001))
    url = reverse("reviewing:drawing")

    def asked(address: str) -> int:
        return Client(REMOTE_ADDR=address).post(url, {"species": "corn-snake"}).status_code

    assert [asked("192.0.2.1") for _turn in range(21)] == [200] * 20 + [429]
    assert asked("192.0.2.2") == 200
    refused = Client(REMOTE_ADDR="192.0.2.1").post(url, {"species": "corn-snake"})
    assert int(refused["Retry-After"]) > 100
    part = Client(REMOTE_ADDR="192.0.2.1", headers={"HX-Request": "true"}).get(f"{reverse('reviewing:proposed')}?t=x")
    assert part.status_code == 429
    assert 'hx-trigger="load delay:' in part.content.decode()  # it goes on by itself, in its place
    assert Client(REMOTE_ADDR="192.0.2.1").get(reverse("reviewing:review")).status_code == 200  # the empty form costs nothing
    monkeypatch.setattr(visitors, "ALL", Bucket(burst=0.5, a_second=0.001))
    assert asked("192.0.2.3") == 200
    assert asked("192.0.2.4") == 200
    assert asked("192.0.2.5") == 429  # all of them together


def test_a_keeper_is_not_counted(client: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(visitors, "ONE", Bucket(burst=0.1, a_second=0.001))
    assert look(client).status_code == 200
    assert Visitor.objects.count() == 0
