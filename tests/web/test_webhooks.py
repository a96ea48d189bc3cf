"""Webhooks: what they are told, once, signed, again until it is taken; where nothing may be sent; the listener of the documents."""

import re
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.urls import reverse

from husbandry.codes import WatchCode
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.api import posting, telling
from ridgeback.api.models import Delivery, Webhook
from ridgeback.daybook import noticed
from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Habitat, Membership

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def webhook(habitat: Habitat, owner: Keeper) -> Webhook:
    made = Webhook(room=habitat.room, address="http://127.0.0.1:1/", tells=list(telling.TELLS), seed="seed", made_by=owner)
    made.made_at = clock.now()
    telling.begin(made)
    made.save()
    return made


@pytest.fixture
def post(monkeypatch: pytest.MonkeyPatch) -> list[tuple[str, bytes]]:
    """What was posted, taken by nobody who answers."""
    sent: list[tuple[str, bytes]] = []
    monkeypatch.setattr(posting, "post", lambda _hook, ident, body, _now: sent.append((ident, body)))
    return sent


def noted(habitat: Habitat, text: str, author: Keeper | None = None) -> Event:
    now = clock.now()
    facts = {"room": habitat.room, "habitat": habitat, "kind": Event.Kind.NOTED, "payload": {"text": text}, "author": author}
    return Event.objects.create(at=now, written_at=now, **facts)


def refuse(*_posted: Any) -> None:
    raise posting.NotTakenError("answered 500")


def test_the_signature_is_that_of_the_published_example() -> None:
    """Standard Webhooks, reference libraries' own test of signing (from memory)."""
    body = b'{"test": 2432232314}'
    found = posting.signature("whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw", "msg_p5jXN8AQM9LWM0D4loKWxJek", 1614265330, body)
    assert found == "v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE="


def test_under_a_new_key_an_older_secret_still_checks(webhook: Webhook, settings: Any) -> None:
    before = posting.secret_of(webhook)
    settings.SECRET_KEY_FALLBACKS, settings.SECRET_KEY = [settings.SECRET_KEY], "another key of fifty characters, made a moment ago"
    sent = posting.signatures(webhook, "msg_1", 1614265330, b"{}").split()
    assert posting.signature(before, "msg_1", 1614265330, b"{}") in sent
    assert posting.signature(posting.secret_of(webhook), "msg_1", 1614265330, b"{}") == sent[0]
    assert len(set(sent)) == 2


def test_each_thing_is_told_once(habitat: Habitat, owner: Keeper, webhook: Webhook, post: list[tuple[str, bytes]]) -> None:
    first = noted(habitat, "Sheds.", owner)
    telling.tell(clock.now())
    telling.tell(clock.now())
    first.taken_back_at = clock.now()
    first.save()
    found = noticed.Found(WatchCode.LOGGER_SILENT, "look", clock.now(), told={"place": "warm-air", "every": "5 min"})
    noticed.keep(habitat.room_id, habitat, [WatchCode.LOGGER_SILENT], [found], clock.now())
    telling.tell(clock.now())
    noticed.keep(habitat.room_id, habitat, [WatchCode.LOGGER_SILENT], [], clock.now())
    telling.tell(clock.now())
    kinds = [re.search(rb'"type": "([a-z._]+)"', body)[1].decode() for _ident, body in post]  # type: ignore[index]
    assert kinds == ["entry.written", "entry.taken_back", "notice.begun", "notice.ended"]
    assert len({ident for ident, _body in post}) == 4
    assert b'"text": "Sheds."' in post[0][1]
    assert b'"author": "tansy"' in post[0][1]


def test_what_another_room_does_is_not_told(webhook: Webhook, other: Keeper, post: list[tuple[str, bytes]]) -> None:
    elsewhere = Membership.objects.get(keeper=other).room
    Event.objects.create(room=elsewhere, kind=Event.Kind.NOTED, at=clock.now(), written_at=clock.now(), payload={})
    telling.tell(clock.now())
    assert post == []


def test_what_was_written_late_by_a_slow_request_is_told(habitat: Habitat, webhook: Webhook, post: list[tuple[str, bytes]]) -> None:
    """Keys are given out before they can be seen: an entry with a lower key may come after one with a higher."""
    late, early = noted(habitat, "late"), noted(habitat, "early")
    row = Event.every.filter(pk=late.pk).values().get()
    late.delete()
    telling.tell(clock.now())
    Event.every.create(**row)
    telling.tell(clock.now())
    assert [b'"late"' in body for _ident, body in post] == [False, True]
    assert early.pk > row["id"]


def test_what_is_not_taken_is_sent_again_and_given_up(
    habitat: Habitat, webhook: Webhook, monkeypatch: pytest.MonkeyPatch, post: list[tuple[str, bytes]]
) -> None:
    taken = posting.post
    monkeypatch.setattr(posting, "post", refuse)
    noted(habitat, "Eats.")
    now = clock.now()
    telling.tell(now)
    telling.tell(now + timedelta(seconds=30))
    assert Delivery.objects.get().tries == 1  # not before the pause is over
    for hours in range(1, 60):
        telling.tell(now + timedelta(hours=hours))
    given_up = Delivery.objects.get()
    assert (given_up.tries, given_up.due_at, given_up.taken_at) == (len(telling.PAUSES) + 1, None, None)
    webhook.refresh_from_db()
    assert webhook.fault == "answered 500"
    monkeypatch.setattr(posting, "post", taken)
    noted(habitat, "Drinks.")
    telling.tell(now + timedelta(hours=61))
    assert len(post) == 1
    webhook.refresh_from_db()
    assert (webhook.failures, webhook.fault) == (0, "")


def test_one_that_never_answers_pauses_until_a_test_is_taken(
    habitat: Habitat, owner: Keeper, webhook: Webhook, monkeypatch: pytest.MonkeyPatch, client_of: Callable[..., Any]
) -> None:
    sent: list[datetime] = []

    def refused(*posted: Any) -> None:
        sent.append(posted[3])
        refuse()

    monkeypatch.setattr(posting, "post", refused)
    for _entry in range(30):
        noted(habitat, "Rests.")
    now = clock.now()
    for minutes in range(0, 3000, 10):
        telling.tell(now + timedelta(minutes=minutes))
    assert len(sent) == telling.PAUSED_AFTER
    client, page = client_of(owner), reverse("api:webhooks", args=[habitat.room_id])
    assert "Paused" in client.get(page).content.decode()
    assert "answered 500" in client.post(reverse("api:try-webhook", args=[webhook.pk]), follow=True).content.decode()
    monkeypatch.setattr(posting, "post", lambda *_posted: None)
    assert "The test was taken." in client.post(reverse("api:try-webhook", args=[webhook.pk]), follow=True).content.decode()
    assert "Paused" not in client.get(page).content.decode()


def test_who_owns_the_room_no_more_is_told_nothing_more(
    habitat: Habitat, owner: Keeper, webhook: Webhook, post: list[tuple[str, bytes]]
) -> None:
    Membership.objects.filter(room=habitat.room, keeper=owner).update(role="viewer")
    noted(habitat, "Basks.")
    telling.tell(clock.now())
    assert post == []


@pytest.mark.parametrize(
    ("address", "outside", "nearby"),
    [
        ("93.184.216.34", True, True),
        ("2606:2800:220:1::1", True, True),
        ("192.168.1.20", False, True),
        ("10.0.0.7", False, True),
        ("fd00::7", False, True),
        ("127.0.0.1", False, False),
        ("::1", False, False),
        ("::ffff:127.0.0.1", False, False),
        ("169.254.169.254", False, False),
        ("fe80::1", False, False),
        ("0.0.0.0", False, False),
        ("224.0.0.1", False, False),
    ],
)
def test_nothing_is_sent_within(address: str, outside: bool, nearby: bool, settings: Any) -> None:
    """Special-purpose addresses: the IANA registries of RFC 6890 (from memory)."""
    for rule, expected in {"outside": outside, "nearby": nearby}.items():
        settings.WEBHOOKS = rule
        assert posting.allowed(address) is expected, rule


@pytest.mark.parametrize(
    "typed",
    ["", "told", "ftp://example.org/", "http://", "http://me:pw@example.org/", "http://a b/", "http://x:99999/", "http://é/"],
)
def test_what_is_no_address_is_refused(typed: str, habitat: Habitat, owner: Keeper, client_of: Callable[..., Any]) -> None:
    answer = client_of(owner).post(reverse("api:webhooks", args=[habitat.room_id]), {"address": typed, "tells": ["entry.written"]})
    assert answer.status_code == 422
    assert not Webhook.objects.exists()


def test_a_name_that_leads_within_is_refused_when_it_is_sent_to(webhook: Webhook) -> None:
    webhook.address = "http://localhost:1/"
    with pytest.raises(posting.NotTakenError, match="may be sent to"):
        posting.post(webhook, "msg_1", b"{}", clock.now())


@pytest.fixture
def listener(webhook: Webhook, settings: Any) -> Iterator[Any]:
    """The listener of the documents, listening."""
    settings.WEBHOOKS = "anywhere"
    code = re.findall(r"```python\n(.*?)```", (ROOT / "docs" / "api.md").read_text(encoding="utf-8"), re.DOTALL)[1]
    with socket.create_server(("127.0.0.1", 0)) as free:
        port = free.getsockname()[1]
    webhook.address = f"http://127.0.0.1:{port}/told?by=ridgeback"
    webhook.save()
    started = [sys.executable, "-u", "-c", code, str(port), posting.secret_of(webhook)]
    with subprocess.Popen(started, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True) as process:
        for _turn in range(100):
            with socket.socket() as probe:
                if probe.connect_ex(("127.0.0.1", port)) == 0:
                    break
            time.sleep(0.1)
        yield process
        process.kill()


def test_the_listener_of_the_documents_hears_and_checks(habitat: Habitat, webhook: Webhook, listener: Any) -> None:
    noted(habitat, "Calls at dusk.")
    telling.tell(clock.now())
    heard = listener.stdout.readline()
    assert heard.startswith("entry.written ")
    assert "Calls at dusk." in heard
    assert Delivery.objects.get().taken_at is not None
    webhook.seed = "another"
    with pytest.raises(posting.NotTakenError, match="answered 401"):
        posting.post(webhook, "msg_2", b"{}", clock.now())
