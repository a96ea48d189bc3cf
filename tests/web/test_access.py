"""Who may see what: every address, for nobody, for somebody else, for the owner."""

from collections.abc import Callable, Iterator
from typing import Any
from urllib.parse import urlencode

import pytest
from django.core.management import call_command
from django.test import Client
from django.urls import URLPattern, URLResolver, get_resolver, reverse

from husbandry.setup_review.told import Told
from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.api import access
from ridgeback.api.models import Webhook
from ridgeback.archive import deleting
from ridgeback.archive.models import ArchiveFile
from ridgeback.book import own
from ridgeback.daybook.models import Event, Instrument, Notice
from ridgeback.daybook.writing import Intent
from ridgeback.keeping.models import DaybookFile
from ridgeback.pantry.models import Culture, Delivery, GutLoad, Item
from ridgeback.reviewing import tokens
from ridgeback.rooms.models import Animal, Habitat, Membership
from ridgeback.rota import sharing
from ridgeback.series import devices
from ridgeback.series.models import Channel, TableFile
from ridgeback.sharing import actions
from ridgeback.uploads import arriving
from tests.undone import undone

# What is told of a set-up stands in the address.
TOLD = tokens.text_of(Told(species="corn-snake", length_m=1.2, width_m=0.6, height_m=0.6))
REVIEWING = {"reviewing:review", "reviewing:drawing", "reviewing:proposed", "reviewing:paper"}
# Addresses that need nobody signed in.
OPEN = {
    "health",
    "ready",
    "accounts:sign-in",
    "accounts:reset",
    "accounts:second",
    "accounts:appearance",
    "handbook:contents",
    "handbook:words",
    "handbook:help",
    "handbook:page",
    "keeping:worker",
    "keeping:manifest",
    "api:reference",
    "api:openapi",
    *REVIEWING,
}
# What is told apart by a token of its own: none is known here.
# By an address that holds a token, or where a setting opens it: figures, letters.
BY_TOKEN = {
    "metrics",
    "accounts:forgotten",
    "accounts:welcome",
    "rota:subscribed",
    "sharing:join",
    "sharing:sit",
    "sharing:see",
    "sharing:see-photo",
}
# An address that devices ask, with a key of their own and no account.
OF_DEVICES = {"series:readings"}
POST_ONLY = {
    "planner:save", "planner:preview", "planner:move", "planner:part", "planner:remedy", "planner:undo", "planner:redo",
    "rooms:set-aside", "rooms:bring-back", "accounts:sign-out", "accounts:reset-link", "planner:prices", "planner:take-size",
    "planner:take-school", "planner:take-book", "planner:take-lamp", "planner:take-rig", "planner:forget-reading",
    "planner:learn", "daybook:correct-instrument", "planner:take-mistings", "book:take-in", "book:copy", "book:delete",
    "rota:done", "rota:calendar-fed", "rota:calendar-take-back", "rota:room-days", "rota:subscribe", "rota:revoke",
    "rota:take-salad", "rota:fed",
    "rota:take-back", "rota:own-menu", "rota:powder-labels", "rota:scored", "rota:weigh", "rota:names", "rota:fast",
    "pantry:receive", "pantry:bring-in", "pantry:change", "pantry:undo-delivery",
    "pantry:freezer", "pantry:begin-culture", "pantry:change-culture", "pantry:keep-gut-load", "pantry:remove-gut-load",
    "keeping:end-quarantine", "keeping:change-quarantine", "keeping:follow", "keeping:take-back",
    "keeping:round-entries", "keeping:put-aside",
    "planner:learn-by-itself",
    "metering:end-channel", "metering:quiet", "metering:new-device", "metering:renew-key", "metering:revoke-device",
    "uploads:begin", "building:done", "building:end", "money:tick", "reviewing:drawing", "reviewing:start",
    "sharing:invite", "sharing:let-sit", "sharing:member", "sharing:end-invitation", "sharing:end-sitting", "api:end-token",
    "api:end-webhook", "api:try-webhook",
    "archive:bring-in", "uploads:begin-mine", "accounts:appearance",
    "archive:keep", "sharing:keep-readings", "accounts:new-codes",
    "accounts:end-invitation", "accounts:second-off", "accounts:end-session", "accounts:second-off-for",
    *OF_DEVICES,
}  # fmt: skip
ADMINISTRATORS = {"accounts:people", "accounts:reset-link", "accounts:second-off-for", "accounts:end-invitation"}


NAMELESS = {
    "planner:preview", "planner:move", "planner:part", "planner:take-size", "planner:take-school", "planner:take-lamp",
    "planner:take-rig", "rota:calendar-fed", "rota:calendar-take-back", "rota:move", "rota:fed", "rota:scored",
    "rota:subscribe", "rota:sitter", "pantry:change", "pantry:change-culture", "reviewing:start",
    "archive:delete-habitat",  # it is not set aside
}  # fmt: skip


def every_name(patterns: list[URLPattern | URLResolver] | None = None, prefix: str = "") -> Iterator[tuple[str, str]]:
    for item in get_resolver().url_patterns if patterns is None else patterns:
        if isinstance(item, URLResolver):
            yield from every_name(item.url_patterns, f"{item.namespace}:" if item.namespace else prefix)
        else:
            yield prefix + item.name, str(item.pattern)


# What a token speaks for is asked in test_api.
NAMES = [pytest.param(name, pattern, id=name) for name, pattern in every_name() if not name.startswith("api-v1:")]


def by_app(names: list[Any]) -> list[Any]:
    """The same addresses as tests of one app each: what they are asked about is made once for each of these."""
    sets: dict[str, list[Any]] = {}
    for one in names:
        sets.setdefault(str(one.values[0]).partition(":")[0], []).append(one.values)
    return [pytest.param(values, id=app) for app, values in sets.items()]


# Addresses of one own profile.
OWN = {"book:edit", "book:delete", "book:export-toml", "book:export-json"}
# Addresses of a room, of an item in its pantry, of an address given out.
OF_ROOM = {
    "planner:room", "rota:room-days", "pantry:receive", "pantry:export", "pantry:bring-in",
    "keeping:room-daybook", "keeping:write-room", "keeping:room-csv", "keeping:room-json", "keeping:bring-in",
    "keeping:round-order",
    "metering:channels", "metering:new-device", "metering:bring-file",
    "pantry:freezer", "pantry:begin-culture", "pantry:keep-gut-load",
    "uploads:begin", "electrics:room", "electrics:paper", "money:prices", "sharing:people", "sharing:invite", "sharing:let-sit",
    "sharing:keep-readings", "api:tokens", "api:webhooks", "archive:take-out", "archive:delete-room",
}  # fmt: skip
OF_ANIMAL = {
    "keeping:animal", "keeping:describe", "keeping:move", "keeping:leave", "keeping:animal-daybook", "keeping:write-animal",
    "archive:delete-animal", "keeping:sick-or-season",
    "keeping:animal-csv", "keeping:animal-json", "keeping:animal-pdf", "keeping:put-aside",
}  # fmt: skip
OF_CHANNEL = {"metering:chart", "metering:readings-csv", "metering:end-channel"}
OF_DEVICE = {"metering:renew-key", "metering:revoke-device"}
OF_ENTRY = {"keeping:correct", "keeping:take-back", "keeping:photo", "keeping:meaning", "keeping:hatchlings"}
OF_A_HOME = {
    "keeping:now", "keeping:end-quarantine", "keeping:change-quarantine", "keeping:follow", "keeping:habitat-daybook",
    "keeping:write-habitat", "keeping:new-animal", "keeping:habitat-csv",
    "metering:live", "metering:charts", "metering:paper",
    "building:build", "building:done", "building:how", "building:end", "building:test",
    "building:calendar", "building:paper", "electrics:habitat", "money:habitat", "money:tick", "money:csv",
    "sharing:public-page", "sharing:card", "sharing:care-plan", "sharing:setup-drawing",
}  # fmt: skip
OF_HABITAT = (
    "planner:",
    "rooms:set",
    "rooms:bring",
    "daybook:correct",
    "rota:menu",
    "rota:own",
    "rota:powder",
    "rota:weigh",
    "rota:names",
    "rota:fast",
    "rota:salad",
    "rota:condition",
    "rota:chores",
)
NOBODYS = {
    *OF_ROOM, *OF_ANIMAL, *OF_ENTRY, *OF_A_HOME, *OF_CHANNEL, *OF_DEVICE, "metering:quiet", "metering:check", "metering:file",
    "uploads:parts", "keeping:daybook-file", "archive:file",
    "pantry:change-culture", "pantry:remove-gut-load",
    "rota:take-salad", "rota:fed", "rota:take-back", "rota:scored", "rota:revoke",
    "rota:subscribed", "pantry:change", "pantry:undo-delivery", "rota:calendar-fed", "rota:calendar-take-back", "rota:move",
    "rota:subscribe", "rota:sitter", "reviewing:start",
    "sharing:member", "sharing:end-invitation", "sharing:end-sitting", "api:end-token", "api:end-webhook",
    "api:try-webhook", "archive:keep", "archive:delete-habitat", *BY_TOKEN,
}  # fmt: skip


def owner_of(habitat: Habitat) -> Keeper:
    return Keeper.objects.get(membership__room=habitat.room, membership__role="owner")


def address(name: str, pattern: str, habitat: Habitat) -> str:
    if name == "daybook:correct-instrument":
        return reverse(name, args=[Instrument.objects.create(room=habitat.room, name="gun", kind="infrared").pk])
    if name in {"reviewing:proposed", "reviewing:paper"}:
        return f"{reverse(name)}?t={TOLD}"
    if name == "handbook:page":
        return reverse(name, args=["04-heat"])
    more = ["note"] if "<slug:slug>" in pattern else []
    if name in OF_ROOM:
        return reverse(name, args=[habitat.room_id, *more])
    if name in OF_ANIMAL:
        facts = {"room": habitat.room, "species": habitat.species, "created_at": clock.now()}
        return reverse(name, args=[Animal.objects.create(**facts).pk, *more])
    if name in OF_CHANNEL:
        about = {"room": habitat.room, "habitat": habitat, "made_at": clock.now()}
        return reverse(name, args=[Channel.objects.create(**about, place="warm-air", code="warm").pk])
    if name in OF_DEVICE:
        return reverse(name, args=[devices.make(habitat.room_id, name, clock.now())[0].pk])
    if name == "metering:quiet":
        since = {"since": clock.now(), "looked_at": clock.now()}
        return reverse(name, args=[Notice.objects.create(room=habitat.room, code="lamp.old", level="look", **since).pk])
    if name == "metering:check":
        return reverse(name, args=[Instrument.objects.create(room=habitat.room, name="gun", kind="infrared").pk])
    if name == "metering:file":
        about = {"name": "log.csv", "at": clock.now(), "content": b"at,warm\n2026-11-01 10:00,25\n2026-11-01 10:10,25.5\n"}
        return reverse(name, args=[TableFile.objects.create(room=habitat.room, **about).pk])
    if name == "keeping:daybook-file":
        return reverse(name, args=[DaybookFile.objects.create(room=habitat.room, at=clock.now()).pk])
    if name == "archive:file":
        return reverse(name, args=[ArchiveFile.objects.create(author=owner_of(habitat), at=clock.now()).pk])
    if name == "archive:keep":
        return reverse(name, args=[deleting.ask(habitat, owner_of(habitat), clock.now(), clock.today()).pk])
    if name == "uploads:parts":
        return reverse(name, args=[arriving.begin(habitat.room_id, owner_of(habitat), name, 5).pk])
    if name in OF_ENTRY:
        noted = Event.objects.create(room=habitat.room, habitat=habitat, kind=Event.Kind.NOTED, at=clock.now(), payload={})
        return reverse(name, args=[noted.pk])
    if more:
        return reverse(name, args=[habitat.pk, *more])
    if name == "pantry:change":
        return reverse(name, args=[Item.objects.create(room=habitat.room, food="cricket", kind="live", unit="piece").pk])
    if name == "pantry:change-culture":
        return reverse(name, args=[Culture.objects.create(room=habitat.room, kind="fruit-fly", started=clock.today()).pk])
    if name == "pantry:remove-gut-load":
        return reverse(name, args=[GutLoad.objects.create(room=habitat.room, name=name, parts={"carrot": 1}).pk])
    if name == "pantry:undo-delivery":
        return reverse(name, args=[Delivery.objects.create(room=habitat.room, at=clock.now()).pk])
    if name == "rota:revoke":
        owner = owner_of(habitat)
        return reverse(
            name,
            args=[
                sharing.subscribe(habitat.room, owner, "sitter", Intent(owner, clock.now()), feeds_only=False, by_day=False)[0].pk
            ],
        )
    if name in BY_TOKEN:
        return reverse(name, args=[] if name in {"metrics", "accounts:forgotten"} else ["no-such-token"])
    if name == "sharing:member":
        return reverse(name, args=[Membership.objects.get(room=habitat.room, role="owner").pk])
    if name == "api:end-token":
        return reverse(name, args=[access.make(habitat.room, owner_of(habitat), "x", ["read"], clock.now())[0].pk])
    if name in {"api:end-webhook", "api:try-webhook"}:
        told = {"address": "http://127.0.0.1:1/", "tells": ["entry.written"], "seed": "seed"}
        return reverse(
            name, args=[Webhook.objects.create(room=habitat.room, made_by=owner_of(habitat), made_at=clock.now(), **told).pk]
        )
    if name in {"sharing:end-invitation", "sharing:end-sitting"}:
        return reverse(name, args=[_given(name, habitat)])
    if "uidb64" in pattern:
        return reverse(name, args=["MQ", "no-token"])
    if name in OWN:
        return reverse(name, args=[own.copy(habitat.room, find("corn-snake"), Intent(None, clock.now())).pk])
    if "<slug:species>" in pattern:
        return reverse(name, args=["corn-snake"])
    return reverse(name, args=[habitat.pk]) if "<int:pk>" in pattern else reverse(name)


def _given(name: str, habitat: Habitat) -> int:
    """An invitation or a sitter's link of the habitat's room."""
    owner, today = owner_of(habitat), clock.today()
    intent = Intent(owner, clock.now())
    if name == "sharing:end-invitation":
        return actions.invite(habitat.room, actions.Invited("Nettie", "viewer", today), intent)[0].pk
    return actions.let_sit(habitat.room, actions.Sits("Nettie", today, today), intent)[0].pk


def ask(client: Client, name: str, url: str, habitat: Habitat) -> int:
    posted = {"version": habitat.version, "name": "hub", "days": "3"}
    return (client.post(url, posted) if name in POST_ONLY else client.get(url)).status_code


def served(name: str) -> int:
    """What whoever may is answered: a page, or after a write the way on; a profile or a file without text is refused."""
    if name in {"book:take-in", "pantry:bring-in", "sharing:invite", "sharing:let-sit"}:
        return 422
    if name in OF_DEVICES:
        return 401
    if name in {"metering:new-device", "metering:renew-key", "reviewing:drawing"}:
        return 200  # the key, once; a drawing
    if name in {"keeping:round-entries", "uploads:begin", "uploads:begin-mine"}:
        return 400
    return 302 if name in POST_ONLY | {"rooms:home", "accounts:sign-in", "accounts:second"} else 200


def served_to_nobody(name: str) -> int:
    """What is answered to whoever is not signed in: the sign-in, but where there is something for everybody."""
    if name in OF_DEVICES:
        return 401
    if name in OPEN:
        return 302 if name in {"accounts:appearance", "accounts:second"} else 200
    return 404 if name in BY_TOKEN else 302  # whoever asks, an unknown address is none


def served_to_somebody_else(name: str) -> int:
    """What a keeper of another room is answered: what is not theirs does not exist."""
    if name.startswith(OF_HABITAT) or name in OWN | NOBODYS:
        return 404
    return 403 if name in ADMINISTRATORS else served(name)


@pytest.mark.sweep(every=4)
@pytest.mark.parametrize("names", by_app(NAMES))
def test_the_owner_is_served(
    names: list[tuple[str, str]], habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    answered, meant = {}, {name: served_to_a_member(name) for name, _pattern in names}
    for name, pattern in names:
        with undone():
            answered[name] = ask(client_of(owner), name, address(name, pattern, habitat), habitat)
    assert answered == meant


def served_to_a_member(name: str) -> int:
    """What somebody of the room is answered, where nothing is named but the habitat."""
    if name in ADMINISTRATORS:
        return 403
    nothing = {*BY_TOKEN, "keeping:photo", "keeping:meaning", "keeping:hatchlings", "money:tick"}
    if name in NAMELESS | nothing or (name.startswith("building:") and name != "building:build"):
        return 404  # no part, size, school, way, rig, reading, outcome, room or address was named
    return served(name)


def test_every_post_only_address_refuses_to_be_read(habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    for name, pattern in every_name():
        if name in POST_ONLY:
            assert client.get(address(name, pattern, habitat)).status_code == 405


def test_a_page_left_open_goes_to_the_sign_in_whole(client: Client, habitat: Habitat) -> None:
    page = f"/habitats/{habitat.pk}/?step=light"
    url = reverse("planner:preview", args=[habitat.pk])
    response = client.post(url, HTTP_HX_REQUEST="true", HTTP_HX_CURRENT_URL=f"http://testserver{page}")
    assert response["HX-Redirect"] == "/account/sign-in/?" + urlencode({"next": page})


@pytest.mark.django_db
def test_a_script_from_elsewhere_is_forbidden_by_the_policy(client: Client) -> None:
    policy = client.get(reverse("accounts:sign-in"))["Content-Security-Policy"]
    assert "script-src 'self'" in policy
    assert "unsafe" not in policy


@pytest.mark.django_db
def test_six_wrong_passwords_lock_the_name(client: Client, owner: Keeper) -> None:
    url = reverse("accounts:sign-in")
    for _ in range(6):
        response = client.post(url, {"username": "tansy", "password": "wrong"})
    assert response.status_code == 429
    assert client.post(url, {"username": "tansy", "password": "oyster-catcher-7"}).status_code == 429


@pytest.mark.django_db
def test_passwords_are_kept_with_argon2(owner: Keeper) -> None:
    assert owner.password.startswith("argon2")


@pytest.mark.django_db
def test_the_administrators_link_sets_a_password_once(client_of: Callable[[Keeper], Client], other: Keeper, owner: Keeper) -> None:
    owner.is_staff = True
    owner.save()
    made = client_of(owner).post(reverse("accounts:reset-link", args=[other.pk]))
    link = made.context["link"]
    visitor = Client()
    page = visitor.get(link, follow=True)
    form = page.redirect_chain[-1][0]
    data = {"new_password1": "samphire-and-thrift", "new_password2": "samphire-and-thrift"}
    assert visitor.post(form, data).status_code == 302
    answer = Client().post(reverse("accounts:sign-in"), {"username": other.username, "password": "samphire-and-thrift"})
    assert answer.status_code == 302
    assert b"no longer works" in Client().get(link, follow=True).content


def test_the_health_page_says_when_the_database_is_gone(client: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    from django.db import OperationalError

    class Gone:
        def cursor(self) -> None:
            raise OperationalError

    monkeypatch.setattr("ridgeback.health.connection", Gone())
    assert client.get("/health").status_code == 503


@pytest.mark.django_db
def test_while_the_database_is_away_or_busy_pages_say_so(
    owner: Keeper, client_of: Callable[[Keeper], Client], monkeypatch: pytest.MonkeyPatch
) -> None:
    from django.db import OperationalError

    def away(*_given: object) -> None:
        raise OperationalError("server closed the connection")

    client = client_of(owner)
    client.raise_request_exception = False
    monkeypatch.setattr("ridgeback.home.views.next_feeds", away)
    answer = client.get(reverse("rooms:habitats"))
    assert (answer.status_code, answer["Retry-After"]) == (503, "5")
    assert "The database is away" in answer.content.decode()


@pytest.mark.django_db
def test_no_migration_is_missing() -> None:
    call_command("makemigrations", "--check", "--dry-run", verbosity=0)


@pytest.mark.sweep
def test_production_settings_pass_djangos_own_check() -> None:
    import os
    import subprocess
    import sys
    from pathlib import Path

    environment = {
        **os.environ,
        "RIDGEBACK_HTTPS": "true",
        "RIDGEBACK_SECRET_KEY": "k" * 25 + "0123456789abcdefghijklmnopqrstuvwxyz",
    }
    root = Path(__file__).resolve().parents[2]
    done = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
        cwd=root,
        env=environment,
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0, done.stderr


@pytest.mark.django_db
def test_an_error_page_is_a_page_of_ours(
    owner: Keeper, client_of: Callable[[Keeper], Client], monkeypatch: pytest.MonkeyPatch
) -> None:
    client = client_of(owner)
    assert b"Nothing here" in client.get("/nowhere/").content
    client.raise_request_exception = False
    monkeypatch.setattr("ridgeback.home.views.next_feeds", lambda habitats, today: 1 / 0)
    broken = client.get(reverse("rooms:habitats"))
    assert broken.status_code == 500
    assert b"Something broke" in broken.content
