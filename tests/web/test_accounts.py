"""A keeper's own account, and the people an administrator looks after."""

import re
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from procrastinate.contrib.django.models import ProcrastinateJob

from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts import tasks
from ridgeback.accounts.models import AccountInvitation, Keeper
from ridgeback.book import own
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent
from ridgeback.pantry.models import Item
from ridgeback.planner import mapping
from ridgeback.rooms import keepers
from ridgeback.rooms.access import rooms_of
from ridgeback.rooms.models import Habitat, Membership, Room

pytestmark = pytest.mark.django_db
NEW = {"new_password1": "samphire-and-thrift", "new_password2": "samphire-and-thrift"}


def sign_in(name: str, password: str) -> int:
    return Client().post(reverse("accounts:sign-in"), {"username": name, "password": password}).status_code


@pytest.fixture
def administrator(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    owner.is_staff = True
    owner.save()
    return client_of(owner)


def test_a_keeper_changes_the_password_and_stays_signed_in(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    answer = client.post(reverse("accounts:password"), {"old_password": "oyster-catcher-7", **NEW})
    assert answer.status_code == 302
    assert client.get(reverse("accounts:account")).status_code == 200
    assert sign_in("tansy", "samphire-and-thrift") == 302
    assert sign_in("tansy", "oyster-catcher-7") == 200


@pytest.mark.parametrize(
    ("password", "words"),
    [("short", "too short"), ("password123", "too common"), ("tansy123", "too similar"), ("sea-lavender-" * 10, "128")],
)
def test_a_weak_password_is_refused_with_its_reason(
    owner: Keeper, client_of: Callable[[Keeper], Client], password: str, words: str
) -> None:
    data = {"old_password": "oyster-catcher-7", "new_password1": password, "new_password2": password}
    page = client_of(owner).post(reverse("accounts:password"), data).content.decode()
    assert words in page
    assert sign_in("tansy", "oyster-catcher-7") == 302


def test_changing_a_password_needs_the_old_one(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client_of(owner).post(reverse("accounts:password"), {"old_password": "guess", **NEW})
    assert sign_in("tansy", "oyster-catcher-7") == 302


def test_a_reset_link_ends_with_its_use(administrator: Client, other: Keeper) -> None:
    link = administrator.post(reverse("accounts:reset-link", args=[other.pk])).context["link"]
    assert re.match(r"http://testserver/account/reset/", link)
    visitor = Client()
    form = visitor.get(link, follow=True).redirect_chain[-1][0]
    assert visitor.post(form, NEW).status_code == 302
    assert sign_in("sedge", "samphire-and-thrift") == 302
    assert "no longer works" in Client().get(link, follow=True).content.decode()


def test_a_link_made_before_a_sign_in_with_the_old_password_is_void(administrator: Client, other: Keeper) -> None:
    """Django's token holds the last sign-in: whoever still knows the password needs no link."""
    link = administrator.post(reverse("accounts:reset-link", args=[other.pk])).context["link"]
    assert sign_in("sedge", "oyster-catcher-8") == 302
    assert "no longer works" in Client().get(link, follow=True).content.decode()


def test_people_are_the_administrators_alone(owner: Keeper, other: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    assert client.get(reverse("accounts:people")).status_code == 403
    assert client.post(reverse("accounts:reset-link", args=[other.pk])).status_code == 403


CHOSEN = {"username": "glasswort", "password1": "samphire-and-thrift", "password2": "samphire-and-thrift"}


def invited(administrator: Client, name: str = "Glasswort from the pond") -> str:
    """The address that an administrator is shown."""
    answer = administrator.post(reverse("accounts:people"), {"name": name, "once": name}, follow=True)
    return str(answer.context["fresh"])


def test_who_is_invited_chooses_name_and_password_and_has_a_room_nobody_else_sees(administrator: Client, owner: Keeper) -> None:
    address, visitor = invited(administrator), Client()
    assert "Glasswort from the pond" in visitor.get(address).content.decode()
    assert visitor.post(address, CHOSEN | {"username": "sedge", "password2": "another"}).status_code == 422
    assert visitor.post(address, CHOSEN)["Location"] == reverse("rooms:habitats")
    newcomer = Keeper.objects.get(username="glasswort")
    assert not newcomer.is_staff
    assert rooms_of(newcomer).get() not in rooms_of(owner)
    assert visitor.get(reverse("rooms:habitats")).status_code == 200  # signed in at once
    assert sign_in("glasswort", "samphire-and-thrift") == 302


def test_an_invitation_is_good_once_for_a_week_until_taken_back_and_its_address_is_shown_once(
    administrator: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    used, taken_back, old = (invited(administrator, name) for name in ("one", "two", "three"))
    assert used not in administrator.get(reverse("accounts:people")).content.decode()
    Client().post(used, CHOSEN)
    assert Client().post(used, CHOSEN | {"username": "thrift"}).status_code == 404
    waiting = AccountInvitation.objects.get(name="two")
    administrator.post(reverse("accounts:end-invitation", args=[waiting.pk]))
    assert Client().get(taken_back).status_code == 404
    later = clock.now() + timedelta(days=7, minutes=1)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert Client().post(old, CHOSEN | {"username": "thrift"}).status_code == 404
    assert not Keeper.objects.filter(username="thrift").exists()


def test_two_who_open_one_invitation_at_once_make_one_account(administrator: Client) -> None:
    token = invited(administrator).rstrip("/").rsplit("/", 1)[1]
    found = keepers.invitation_of(token, clock.now())
    assert found is not None
    made = [keepers.take_up(found, name, "samphire-and-thrift", clock.now()) for name in ("glasswort", "thrift")]
    assert [one.username if one else None for one in made] == ["glasswort", None]


def test_a_link_by_letter_goes_to_who_has_an_account_and_the_page_says_the_same_to_all(
    owner: Keeper, settings: Any, mailoutbox: list[Any]
) -> None:
    assert Client().get(reverse("accounts:forgotten")).status_code == 404  # nobody sends letters
    settings.MAIL_URL = "smtp://127.0.0.1:1"
    Keeper.objects.filter(pk=owner.pk).update(email="tansy@example.org", language="de")
    pages = []
    for address in ("Tansy@example.org", "nobody@example.org"):
        answer = Client().post(reverse("accounts:forgotten"), {"email": address})
        pages.append((answer.status_code, re.sub(r"\w{64}", "", answer.content.decode())))
    assert pages[0] == pages[1]
    for job in ProcrastinateJob.objects.filter(task_name="accounts.forgotten"):
        tasks.send_link(**job.args)
    (letter,) = mailoutbox
    assert letter.to == ["tansy@example.org"]
    assert "neues Passwort" in letter.subject
    link = re.search(r"http://\S+(/account/reset/\S+)", letter.body)
    assert link is not None
    visitor = Client()
    form = visitor.get(link[1], follow=True).redirect_chain[-1][0]
    assert visitor.post(form, NEW).status_code == 302
    assert sign_in("tansy", "samphire-and-thrift") == 302


def test_nobody_fills_anothers_letter_box(settings: Any) -> None:
    settings.MAIL_URL = "smtp://127.0.0.1:1"
    asked = [Client().post(reverse("accounts:forgotten"), {"email": "tansy@example.org"}).status_code for _ in range(4)]
    assert asked == [200, 200, 200, 429]
    elsewhere = [Client().post(reverse("accounts:forgotten"), {"email": f"n{n}@example.org"}).status_code for n in range(8)]
    assert elsewhere[-1] == 429


def test_who_is_given_a_link_by_an_administrator_reads_of_it(
    administrator: Client, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    administrator.post(reverse("accounts:reset-link", args=[other.pk]))
    assert "an administrator made a link" in client_of(other).get(reverse("accounts:account")).content.decode()


def test_who_is_switched_off_cannot_sign_in_nor_be_given_a_link(administrator: Client, other: Keeper) -> None:
    Keeper.objects.filter(pk=other.pk).update(is_active=False)
    assert sign_in("sedge", "oyster-catcher-8") == 200
    assert administrator.post(reverse("accounts:reset-link", args=[other.pk])).status_code == 404


def test_signing_out_is_a_post_and_ends_the_session(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    assert client.get(reverse("accounts:sign-out")).status_code == 405
    client.post(reverse("accounts:sign-out"))
    assert client.get(reverse("rooms:habitats")).status_code == 302


def test_after_signing_in_one_comes_where_one_wanted_but_never_elsewhere(owner: Keeper) -> None:
    url, data = reverse("accounts:sign-in"), {"username": "tansy", "password": "oyster-catcher-7"}
    assert Client().post(f"{url}?next=/habitats/new/", data | {"next": "/habitats/new/"})["Location"] == "/habitats/new/"
    assert Client().post(url, data | {"next": "https://elsewhere.example/"})["Location"] == "/habitats/"


def test_unknown_units_are_refused(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    data = {"temperature_unit": "rankine", "length_unit": "cm", "mass_unit": "g", "volume_unit": "L"}
    assert client_of(owner).post(reverse("accounts:account"), data).status_code == 200
    owner.refresh_from_db()
    assert owner.temperature_unit == "degC"


def test_an_earlier_link_dies_when_a_newer_is_made(administrator: Client, other: Keeper) -> None:
    address = reverse("accounts:reset-link", args=[other.pk])
    earlier, newer = (administrator.post(address, {"once": once}).context["link"] for once in ("a", "b"))
    assert b"no longer works" in Client().get(earlier, follow=True).content
    assert b"no longer works" not in Client().get(newer, follow=True).content


def test_a_new_person_may_have_the_longest_name_there_is(administrator: Client) -> None:
    for length in (80, 150):
        assert Client().post(invited(administrator, f"of {length}"), CHOSEN | {"username": "x" * length}).status_code == 302
        assert Keeper.objects.get(username="x" * length).room_set.get().name.startswith("xxx")


def tried(address: str, name: str, password: str = "guess") -> int:
    data = {"username": name, "password": password}
    return Client(REMOTE_ADDR=address).post(reverse("accounts:sign-in"), data).status_code


def test_spraying_many_names_from_one_address_ends(owner: Keeper) -> None:
    answers = [tried("192.0.2.1", f"name-{place}") for place in range(34)]
    assert answers[:30] == [200] * 30
    assert set(answers[30:]) == {429}
    assert tried("192.0.2.2", "tansy", "oyster-catcher-7") == 302  # others are not touched


def test_guessing_one_name_from_many_addresses_ends_and_its_keeper_still_gets_in(owner: Keeper) -> None:
    assert tried("192.0.2.200", "tansy", "oyster-catcher-7") == 302
    answers = [tried(f"198.51.100.{place}", "tansy") for place in range(43)]
    assert set(answers[:40]) == {200}
    assert set(answers[40:]) == {429}
    assert tried("198.51.100.99", "tansy", "oyster-catcher-7") == 429  # an address nobody knows
    assert tried("192.0.2.200", "tansy", "oyster-catcher-7") == 302  # the keeper's own


def test_guessing_the_old_password_in_a_session_ends_the_session(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    for _try in range(4):
        assert client.post(reverse("accounts:password"), {"old_password": "guess", **NEW}).status_code == 200
    assert client.post(reverse("accounts:password"), {"old_password": "guess", **NEW}).status_code == 302
    assert client.get(reverse("accounts:account")).status_code == 302
    assert sign_in("tansy", "oyster-catcher-7") == 302  # nobody is locked out for it


def test_a_viewer_looks_and_writes_nothing(
    owner: Keeper, other: Keeper, habitat: Habitat, client_of: Callable[[Keeper], Client]
) -> None:
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.VIEWER)
    item = Item.objects.create(room=habitat.room, food="cricket", kind="live", unit="piece", pack_size=250)
    made = own.copy(habitat.room, find("axolotl"), Intent(owner, clock.now()))
    client, here = client_of(other), [habitat.pk]
    for name in ("planner:bench", "rota:menu", "rota:chores", "planner:readings"):
        assert client.get(reverse(name, args=here)).status_code == 200
    where = {"version": "1", "step": "heat", "season": "winter", "phase": "day"}
    room = {"room": habitat.room_id}
    csv = "food,kind,unit,amount,received\nroach,live,piece,5,2026-11-01\n"
    posts: list[tuple[str, list[Any], dict[str, Any]]] = [
        ("planner:save", here, where | {"heaters.0.watts": "60"}),
        ("planner:move", here, where | {"part": "heaters.0", "x_m": "0.3", "height_m": "0.4"}),
        ("planner:part", here, where | {"part": "heaters.1", "do": "add"}),
        ("planner:undo", here, where),
        ("planner:redo", here, where),
        ("planner:take-school", here, {"version": "1", "school": "uvb:shade"}),
        ("planner:learn", here, {"version": "1", "do": "forget"}),
        ("rota:fed", here, {"outcome": "eaten"}),
        ("rota:weigh", here, {"whole": "59", "tub": ""}),
        ("rota:scored", here, {"score": "3"}),
        ("rota:names", here, {"version": "1", "others": "Dune"}),
        ("rota:fast", here, {"version": "1", "first": "2026-11-24", "last": "2026-11-25", "why": "vet"}),
        ("rota:done", [], {"turn": f"{habitat.pk}:2026-11-24:water"}),
        ("rota:move", [], {"habitat": habitat.pk, "job": "deep-clean", "planned": "2026-12-01", "to": "2026-12-30"}),
        ("rota:room-days", [habitat.room_id], {"weekday": "1"}),
        ("rota:subscribe", [], room | {"name": "me"}),
        ("pantry:receive", [habitat.room_id], {"food": "cricket", "amount": "5", "unit": "piece"}),
        ("pantry:change", [item.pk], {"do": "count", "amount": "5"}),
        ("pantry:change", [item.pk], {"do": "remove"}),
        ("pantry:bring-in", [habitat.room_id], {"text": csv, "seen": "1"}),
        ("daybook:instruments", [], room | {"name": "gun", "kind": "infrared", "reads_high": "0", "sure_to": "1"}),
        ("book:copy", ["corn-snake"], room),
        ("book:delete", [made.pk], {}),
        ("rooms:set-aside", here, {}),
        ("rooms:bring-back", here, {}),
        ("rooms:import", [], room | {"text": mapping.plan_of(habitat).model_dump_json()}),
    ]
    before = Event.objects.count()
    habitat.refresh_from_db()
    for name, args, data in posts:
        answer = client.post(reverse(name, args=args), data | {"once": name})
        assert answer.status_code == 403, (name, answer.status_code)
    fresh = Habitat.objects.get(pk=habitat.pk)
    assert (fresh.version, fresh.logged, Event.objects.count()) == (habitat.version, habitat.logged, before)
    assert Item.objects.count() == 1
    assert Room.objects.get(pk=habitat.room_id).weekdays == []


ELSEWHERE = ["//evil.example/", "/\\evil.example", "https://evil.example/", "\\/evil.example", "/\t/evil.example", "evil"]


@pytest.mark.parametrize("back", ELSEWHERE)
def test_a_form_leads_back_to_pages_of_our_own_only(
    owner: Keeper, habitat: Habitat, client_of: Callable[[Keeper], Client], back: str
) -> None:
    client = client_of(owner)
    for name, data in (("rota:fed", {"outcome": "eaten"}), ("rota:take-back", {"event": "1"})):
        answer = client.post(reverse(name, args=[habitat.pk]), data | {"back": back})
        assert answer["Location"].startswith("/")
        assert "evil" not in answer["Location"]
    asked: dict[str, Any] = {"habitat": habitat.pk, "job": "deep-clean", "planned": "2026-12-01", "back": back}
    page = client.get(reverse("rota:move"), asked).content.decode()
    assert not re.search(r'(href|action|value)="(?!/calendar/)[^"]*evil', page)  # its own address names it, no way leads there


def test_pages_of_a_keeper_are_kept_by_nobody_on_the_way(
    owner: Keeper, habitat: Habitat, client_of: Callable[[Keeper], Client]
) -> None:
    client = client_of(owner)
    here = [habitat.pk]
    for address in (reverse("rooms:habitats"), reverse("planner:bench", args=here), reverse("planner:export", args=here)):
        assert "no-store" in client.get(address)["Cache-Control"]


def test_a_body_that_is_too_long_is_refused_unread(owner: Keeper, habitat: Habitat, client_of: Callable[[Keeper], Client]) -> None:
    address = reverse("accounts:sign-in")
    assert Client().post(address, {"username": "x" * 30_000, "password": "y"}).status_code == 413
    assert client_of(owner).post(reverse("rooms:import"), {"text": "x" * 1_600_000}).status_code == 413
