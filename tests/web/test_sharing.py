"""Who may what: invitations, members, sitters, and every address asked by everybody."""

import json
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from functools import cache

import pytest
from django.apps import apps
from django.db import connection
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused
from ridgeback.rooms import keepers
from ridgeback.rooms.models import Habitat, Membership, Room, SitterLink
from ridgeback.series import devices
from ridgeback.sharing import actions, guests
from tests.undone import undone
from tests.web.test_access import (
    ADMINISTRATORS,
    BY_TOKEN,
    NAMES,
    OF_DEVICES,
    OPEN,
    POST_ONLY,
    address,
    ask,
    by_app,
    served_to_a_member,
    served_to_nobody,
    served_to_somebody_else,
)

Clients = Callable[[Keeper], Client]
Role = Membership.Role
PASSWORD = "samphire-and-thrift-9"


@pytest.fixture
def room(owner: Keeper) -> Room:
    return Room.objects.get(members=owner)


def intent(keeper: Keeper) -> Intent:
    return Intent(keeper, clock.now())


def invited(room: Room, owner: Keeper, role: str, **days: date | None) -> str:
    """The address of an invitation."""
    today = clock.today()
    who = actions.Invited("Nettie", role, days.get("until") or today, days.get("stays_until"))
    return reverse("sharing:join", args=[actions.invite(room, who, intent(owner))[1]])


def member(room: Room, name: str, role: str, until: date | None = None) -> Keeper:
    keeper = keepers.add(name, PASSWORD)
    Membership.objects.create(room=room, keeper=keeper, role=role, until=until)
    return keeper


def sitting(room: Room, owner: Keeper, first: int = 0, last: int = 3) -> tuple[SitterLink, str]:
    today = clock.today()
    who = actions.Sits("Nettie", today + timedelta(days=first), today + timedelta(days=last), "Tansy, 555 0100")
    made, token = actions.let_sit(room, who, intent(owner))
    return made, reverse("sharing:sit", args=[token])


def told(room: Room) -> list[str]:
    return [event.payload["what"] for event in Event.objects.filter(room=room, kind=Event.Kind.PEOPLE).order_by("pk")]


def test_somebody_without_an_account_is_invited_and_joins(room: Room, owner: Keeper, client_of: Clients) -> None:
    client, today = client_of(owner), clock.today()
    page = reverse("sharing:people", args=[room.pk])
    posted = {"name": "Nettie", "role": "keeper", "until": today, "stays_until": today + timedelta(days=30)}
    shown = client.post(reverse("sharing:invite", args=[room.pk]), posted, follow=True)
    link = shown.context["fresh"]
    assert "<svg" in shown.context["fresh_qr"]
    assert client.get(page).context["fresh"] is None  # once
    visitor = Client()
    assert "Nettie" in visitor.get(link).content.decode()
    weak = visitor.post(link, {"username": "nettie", "password1": "short", "password2": "short"})
    assert weak.status_code == 422
    joined = visitor.post(link, {"username": "nettie", "password1": PASSWORD, "password2": PASSWORD}, follow=True)
    assert joined.status_code == 200
    row = Membership.objects.get(room=room, keeper__username="nettie")
    assert (row.role, row.until) == ("keeper", today + timedelta(days=30))
    assert visitor.get(link).status_code == 404  # it is used up
    assert told(room) == ["Nettie is invited as keeper.", "nettie joined as keeper."]
    assert "Nettie joined as keeper." in client.get(reverse("keeping:room-daybook", args=[room.pk])).content.decode()


def test_who_has_an_account_joins_with_it_and_only_gains(room: Room, owner: Keeper, other: Keeper, client_of: Clients) -> None:
    client = client_of(other)
    client.post(invited(room, owner, "viewer", stays_until=clock.today()))
    assert Membership.objects.get(room=room, keeper=other).role == "viewer"
    tomorrow = clock.today() + timedelta(days=1)
    client.post(invited(room, owner, "viewer", stays_until=tomorrow))
    assert Membership.objects.get(room=room, keeper=other).until == tomorrow
    client.post(invited(room, owner, "viewer", stays_until=clock.today()))
    assert Membership.objects.get(room=room, keeper=other).until == tomorrow
    client.post(invited(room, owner, "keeper"))
    row = Membership.objects.get(room=room, keeper=other)
    assert (row.role, row.until) == ("keeper", None)
    client.post(invited(room, owner, "viewer", stays_until=clock.today()))
    row.refresh_from_db()
    assert (row.role, row.until) == ("keeper", None)  # an older address takes nothing away


def test_what_one_was_once_does_not_come_back_with_an_invitation(room: Room, owner: Keeper, client_of: Clients) -> None:
    once = member(room, "nettie", "owner", clock.today() - timedelta(days=30))
    client_of(once).post(invited(room, owner, "viewer", stays_until=clock.today()))
    row = Membership.objects.get(room=room, keeper=once)
    assert (row.role, row.until) == ("viewer", clock.today())


def test_who_owns_the_room_no_more_lets_nobody_in(room: Room, owner: Keeper, other: Keeper, client_of: Clients) -> None:
    """Neither themselves: an address that they made before is as good as they are."""
    second = member(room, "nettie", "owner")
    links = [invited(room, second, "owner") for _turn in range(3)]
    row = Membership.objects.get(room=room, keeper=second)
    found = actions.invitation_of(links[0].split("/")[-2], clock.today())
    assert found is not None
    for less in ({"until": clock.today() - timedelta(days=1)}, {"until": None, "role": "keeper"}):
        Membership.objects.filter(pk=row.pk).update(**less)
        assert client_of(other).post(links[0]).status_code == 404
    client_of(owner).post(reverse("sharing:member", args=[row.pk]), {"do": "remove"})
    assert client_of(second).post(links[1]).status_code == 404
    with pytest.raises(Refused):
        actions.join(found, second, intent(second))
    assert not list(client_of(owner).get(reverse("sharing:people", args=[room.pk])).context["invitations"])
    assert list(Membership.objects.filter(room=room).values_list("keeper", flat=True)) == [owner.pk]


def test_what_somebody_who_goes_may_still_know_is_said(room: Room, owner: Keeper, client_of: Clients) -> None:
    client, said = client_of(owner), "may still know stays good"

    def goes(role: str) -> str:
        row = Membership.objects.get(room=room, keeper=member(room, f"nettie {Keeper.objects.count()}", role))
        if role == "owner":
            sitting(room, row.keeper)
        return client.post(reverse("sharing:member", args=[row.pk]), {"do": "remove"}, follow=True).content.decode()

    assert said not in goes("keeper")
    assert "addresses of sitters." in goes("owner")
    devices.make(room.pk, "hub", clock.now())
    assert "renew it: keys of devices." in goes("keeper")
    assert said not in goes("viewer")


def test_a_member_who_has_gone_is_changed_no_more(room: Room, owner: Keeper) -> None:
    row = Membership.objects.get(room=room, keeper=member(room, "nettie", "viewer"))
    Membership.objects.filter(pk=row.pk).delete()
    for late in (
        lambda: actions.change_member(row, "keeper", None, intent(owner)),
        lambda: actions.remove_member(row, intent(owner)),
    ):
        with pytest.raises(Refused):
            late()
    assert told(room) == []


def test_an_address_that_is_over_joins_nobody(room: Room, owner: Keeper, other: Keeper, client_of: Clients) -> None:
    late = invited(room, owner, "viewer", until=clock.today() - timedelta(days=1))
    back = invited(room, owner, "viewer")
    found = actions.invitation_of(back.split("/")[-2], clock.today())
    assert found is not None
    client_of(owner).post(reverse("sharing:end-invitation", args=[found.pk]))
    for link in (late, back, reverse("sharing:join", args=["nobody-made-this"])):
        assert client_of(other).post(link).status_code == 404
    assert not Membership.objects.filter(room=room, keeper=other).exists()


@pytest.mark.parametrize(
    "wrong",
    [{"until": "2020-01-01"}, {"until": "2090-01-01"}, {"until": "soon"}, {"role": "sitter"}, {"role": "king"}, {"name": ""},
     {"stays_until": "2020-01-01"}],
)  # fmt: skip
def test_an_invitation_that_cannot_be_is_refused(room: Room, owner: Keeper, client_of: Clients, wrong: dict[str, str]) -> None:
    posted = {"name": "Nettie", "role": "viewer", "until": clock.today()} | wrong
    answer = client_of(owner).post(reverse("sharing:invite", args=[room.pk]), posted)
    assert answer.status_code == 422
    assert answer.context["invite"].errors
    assert not room.invitations.exists()


def test_a_membership_ends_by_itself(room: Room, owner: Keeper, habitat: Habitat, client_of: Clients) -> None:
    page = reverse("planner:bench", args=[habitat.pk])
    here = client_of(member(room, "nettie", "keeper", clock.today()))
    gone = client_of(member(room, "teasel", "keeper", clock.today() - timedelta(days=1)))
    assert here.get(page).status_code == 200
    assert gone.get(page).status_code == 404
    assert habitat.name not in gone.get(reverse("rooms:habitats")).content.decode()


def test_a_room_keeps_an_owner(room: Room, owner: Keeper, client_of: Clients) -> None:
    client, mine = client_of(owner), Membership.objects.get(room=room, keeper=owner)
    url = reverse("sharing:member", args=[mine.pk])
    for posted in ({"do": "remove"}, {"role": "keeper"}, {"role": "owner", "until": clock.today()}):
        answer = client.post(url, posted, follow=True)
        assert "needs an owner" in answer.content.decode()
    mine.refresh_from_db()
    assert (mine.role, mine.until) == ("owner", None)
    member(room, "nettie", "owner")
    client.post(url, {"do": "remove"})
    assert not Membership.objects.filter(pk=mine.pk).exists()


def test_only_an_owner_says_who_may_what_and_everybody_may_leave(room: Room, owner: Keeper, client_of: Clients) -> None:
    keeper, viewer = member(room, "nettie", "keeper"), member(room, "teasel", "viewer")
    made, _link = sitting(room, owner)
    row = Membership.objects.get(room=room, keeper=viewer)
    for who in (keeper, viewer):
        client = client_of(who)
        assert client.get(reverse("sharing:people", args=[room.pk])).status_code == 200
        for name, pk in (("invite", room.pk), ("let-sit", room.pk), ("end-sitting", made.pk)):
            assert client.post(reverse(f"sharing:{name}", args=[pk]), {"name": "x", "role": "owner"}).status_code == 403
    assert client_of(keeper).post(reverse("sharing:member", args=[row.pk]), {"do": "remove"}).status_code == 403
    assert client_of(viewer).post(reverse("sharing:member", args=[row.pk]), {"role": "owner"}).status_code == 403
    assert client_of(viewer).post(reverse("sharing:member", args=[row.pk]), {"do": "remove"}).status_code == 302
    assert not Membership.objects.filter(pk=row.pk).exists()


def test_a_sitter_walks_the_round_without_an_account_and_writes_under_their_name(
    room: Room, owner: Keeper, habitat: Habitat, client_of: Clients
) -> None:
    made, link = sitting(room, owner)
    sitter = Client()
    begin = sitter.get(link).content.decode()
    assert "555 0100" in begin
    assert sitter.get(reverse("keeping:round")).status_code == 302  # looking at the address is not beginning
    walked = sitter.post(link, follow=True)
    page = walked.content.decode()
    assert habitat.name in page
    assert "555 0100" in page
    assert reverse("planner:bench", args=[habitat.pk]) not in page
    now = clock.now().isoformat()
    entry = {"key": "k-00000001", "what": "note", "habitat": habitat.pk, "value": "All well.", "at": now}
    answer = sitter.post(
        reverse("keeping:round-entries"), json.dumps({"entries": [entry], "now": now}), content_type="application/json"
    )
    assert [one["state"] for one in answer.json()["answers"]] == ["written"], answer.content
    early = entry | {"key": "k-00000002", "at": (clock.now() - timedelta(days=2)).isoformat()}
    zoneless = entry | {"key": "k-00000003", "at": "2026-11-29T10:00:00"}
    answer = sitter.post(
        reverse("keeping:round-entries"), json.dumps({"entries": [early, zoneless]}), content_type="application/json"
    )
    assert {one["state"] for one in answer.json()["answers"]} == {"refused"}  # that was no day of theirs, or nobody knows
    noted = Event.objects.get(room=room, kind=Event.Kind.NOTED)
    assert noted.author is not None
    assert noted.author.username == "Nettie (sits)"
    made.refresh_from_db()
    assert made.opened_at is not None
    assert (
        Client().post(reverse("accounts:sign-in"), {"username": "Nettie (sits)", "password": ""}).status_code == 200
    )  # and no password
    # Ended, they are out at their next press.
    client_of(owner).post(reverse("sharing:end-sitting", args=[made.pk]))
    assert not Membership.objects.filter(keeper=made.keeper).exists()
    assert sitter.get(reverse("keeping:round")).status_code == 302
    assert sitter.get(link).status_code == 404
    assert told(room)[-1] == "Nettie (sits) does not sit any more."


def test_a_sitters_address_opens_on_its_days_alone(
    room: Room, owner: Keeper, habitat: Habitat, monkeypatch: pytest.MonkeyPatch
) -> None:
    _made, link = sitting(room, owner, first=2, last=3)
    today = clock.today()
    sitter = Client()
    assert sitter.post(link).status_code == 200  # not yet
    assert sitter.get(reverse("keeping:round")).status_code == 302
    monkeypatch.setattr(clock, "today", lambda: today + timedelta(days=2))
    assert sitter.post(link).status_code == 302
    assert sitter.get(reverse("keeping:round")).status_code == 200
    monkeypatch.setattr(clock, "today", lambda: today + timedelta(days=4))
    assert sitter.get(reverse("keeping:round")).status_code == 302
    assert sitter.get(link).status_code == 404


@pytest.mark.parametrize(
    "wrong", [{"last_day": "2020-01-01"}, {"first_day": "2090-01-01"}, {"name": ""}, {"last_day": "2099-01-01"}]
)
def test_a_sitting_that_cannot_be_is_refused(room: Room, owner: Keeper, client_of: Clients, wrong: dict[str, str]) -> None:
    posted = {"name": "Nettie", "first_day": clock.today(), "last_day": clock.today()} | wrong
    assert client_of(owner).post(reverse("sharing:let-sit", args=[room.pk]), posted).status_code == 422
    assert not SitterLink.objects.exists()
    assert not Keeper.objects.filter(sits=True).exists()


def test_two_sitters_of_one_name_are_told_apart(room: Room, owner: Keeper) -> None:
    names = [sitting(room, owner)[0].keeper.username for _turn in range(3)]
    assert names == ["Nettie (sits)", "Nettie (sits 2)", "Nettie (sits 3)"]


# What is worked out once or writes itself down for whoever looks: names of the book, sessions, when an address was read.
UNTOLD = {"last_login", "read_at", "opened_at"}
LEFT_OUT = {
    "Glance",
    "Name",
    "Entry",
    "Written",
    "Try",
    "Visitor",
    "Session",
    "SignedIn",
    "Subscription",
    "RotaCard",
    "AccessAttempt",
    "AccessLog",
    "AccessFailureLog",
}


@cache
def _digests() -> str:
    """One statement for a digest of every table: a question for each would take most of the time."""
    parts = []
    for model in apps.get_models():
        if model.__module__.startswith("ridgeback.") and model.__name__ not in LEFT_OUT:
            columns = ", ".join(f'"{field.column}"' for field in model._meta.concrete_fields if field.attname not in UNTOLD)
            rows = f'select ({columns})::text as told from "{model._meta.db_table}"'
            parts.append(f"select '{model.__name__}', md5(coalesce(string_agg(told, ' ' order by told), '')) from ({rows}) as one")
    return " union all ".join(parts)


def kept() -> dict[str, str]:
    """A digest of all that is kept of rooms, by what it is."""
    with connection.cursor() as cursor:
        cursor.execute(_digests())
        return dict(cursor.fetchall())


def test_a_changed_row_is_seen(habitat: Habitat) -> None:
    before = kept()
    Habitat.objects.filter(pk=habitat.pk).update(name="another")
    assert {name for name, digest in kept().items() if digest != before[name]} == {"Habitat"}


OWNERS = {"api:tokens", "api:end-token", "api:webhooks", "api:end-webhook", "api:try-webhook", "archive:take-out",
          "archive:delete-room", "archive:delete-animal"}  # fmt: skip


def served_to_a_keeper(name: str) -> int:
    """What somebody of the room who does not own it is answered."""
    if (name.startswith("sharing:") and name in POST_ONLY) or name in OWNERS:
        return 403
    if name in {"rota:revoke", "uploads:parts", "archive:file", "archive:keep"}:
        return 404  # of whoever made it alone
    return served_to_a_member(name)


@pytest.mark.sweep(every=4)
@pytest.mark.parametrize("names", by_app(NAMES))
def test_every_address_is_asked_by_everybody(
    names: list[tuple[str, str]], habitat: Habitat, owner: Keeper, client_of: Clients, no_paper: None
) -> None:
    """Anonymous, sitter, viewer, another room's owner, administrator, each by both methods: none of them changes a thing here.

    The first and the fourth, and at last a keeper of the room, are answered what is meant for them.
    """
    room = habitat.room
    askers = {
        "anonymous": Client(),
        "sitter": client_of(sitting(room, owner)[0].keeper),
        "viewer": client_of(member(room, "teasel", "viewer")),
        "other": client_of(keepers.add("sedge", PASSWORD)),
        "administrator": client_of(keepers.add("warden", PASSWORD, administrator=True)),
    }
    keeper = member(room, "nettie", "keeper")
    # Who has no room of their own.
    Membership.objects.filter(keeper__username__in=("teasel", "nettie")).exclude(room=room).delete()
    wrong: list[str] = []
    for name, pattern in names:
        with undone():
            url = address(name, pattern, habitat)
            wrong += [f"{name}: {what}" for what in _asked_by_all(name, url, habitat, askers)]
            answered, meant = ask(client_of(keeper), name, url, habitat), served_to_a_keeper(name)
            wrong += [f"{name}: {answered} to a keeper"] if answered != meant else []
    assert wrong == []


def _asked_by_all(name: str, url: str, habitat: Habitat, askers: dict[str, Client]) -> Iterator[str]:
    """What is answered otherwise than it is meant, or changes what is kept."""
    posted = {"version": habitat.version, "name": "hub", "days": "3"}
    meant = {"anonymous": served_to_nobody(name), "other": served_to_somebody_else(name)}
    usual = "post" if name in POST_ONLY else "get"
    before = kept()
    for who, signed_in in askers.items():
        client = Client()
        client.cookies.update(signed_in.cookies)  # one address may sign out
        for method in ("get", "post"):
            answer = client.post(url, posted) if method == "post" else client.get(url)
            status = answer.status_code
            allowed = status < 500
            if who in meant and method == usual:
                allowed &= status == meant[who]
            if who == "anonymous" and name not in OPEN | OF_DEVICES | BY_TOKEN:
                allowed &= status == 302 and answer["Location"].startswith(reverse("accounts:sign-in"))
            if who == "sitter" and name not in guests.OPEN | OF_DEVICES | {"accounts:sign-in"}:
                allowed &= status == 404
            if who not in ("administrator", "anonymous", "sitter") and name in ADMINISTRATORS:
                allowed &= status in (403, 405)
            if not allowed:
                yield f"{status} to {who} by {method}"
        after = kept()
        if who in ("anonymous", "sitter", "viewer") and after != before:
            yield f"{who} changed {[one for one in after if after[one] != before[one]]}"
        before = after  # who has a room of their own may have made something there
