"""Ids of another room's rows in what is sent: whatever field names them, at whatever address, they are not read or changed."""

import re
from collections.abc import Callable
from functools import cache
from html.parser import HTMLParser
from itertools import count
from pathlib import Path
from typing import Any, Final

import pytest
from django.apps import apps
from django.db import connection
from django.test import Client

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.archive.tables import TABLES
from ridgeback.daybook.models import Event, Instrument
from ridgeback.pantry.models import Culture, Delivery, Item, Lot
from ridgeback.planner import revisions
from ridgeback.rooms.models import Animal, Habitat, Room
from ridgeback.series import devices
from ridgeback.series.models import Channel, Device
from tests.plans import plan
from tests.sample import some
from tests.undone import undone
from tests.web.test_access import NAMES, OF_DEVICES, POST_ONLY, address, by_app

pytestmark = [pytest.mark.django_db, pytest.mark.sweep(every=4)]
ROOT: Final = Path(__file__).resolve().parents[2]
MARK: Final = "Foreign Zostera"
FAR: Final = 40_000  # keys of the other room's rows, so that none of them is a key of ours as well
READ: Final = re.compile(
    r"""(?:POST(?:\.get)?[\[(]|getlist\(|\bname=|data\.get\(|cleaned_data\[|\bpayload\.get\(|\bposted\.get\()["']([a-z_]+)["']"""
)
FIELD: Final = re.compile(r"^    ([a-z_]+) = (?:forms\.|typed\.|_[a-z]+\()", re.M)


def field_names() -> list[str]:
    """Every name that the web side reads out of what is sent, found in sources, forms, templates; and every relation's name."""
    found: set[str] = set()
    for path in (ROOT / "ridgeback").rglob("*.py"):
        if "migrations" not in path.parts:
            text = path.read_text()
            found |= set(READ.findall(text)) | set(FIELD.findall(text))
    for path in (ROOT / "ridgeback" / "templates").rglob("*.html"):
        found |= set(re.findall(r"""\bname=["']([a-z_]+)["']""", path.read_text()))
    for model in apps.get_models():
        found |= {field.name for field in model._meta.fields if field.is_relation and model.__module__.startswith("ridgeback")}
    return sorted(found - {"once", "csrfmiddlewaretoken", "version", "day", "time", "do", "next", "back"})


FIELDS: Final = field_names()


@cache
def _digests() -> tuple[str, list[Any]]:
    """One statement for a digest of the other room's rows of every table: to read them all each time took a third of the test."""
    parts, given = [], list[Any]()
    for table in TABLES:
        if table.label != "planner.ProfileSnapshot":
            asked = apps.get_model(table.label)._base_manager.filter(**{table.way: FAR}).order_by().values()
            rows, named = asked.query.sql_with_params()
            digest = "md5(coalesce(string_agg(one::text, ' ' order by one::text), ''))"
            parts.append(f"select '{table.label}', {digest} from ({rows}) as one")
            given += named
    return " union all ".join(parts), given


def foreign_rows() -> dict[str, str]:
    """What the other room's rows are, table by table."""
    with connection.cursor() as cursor:
        cursor.execute(*_digests())
        return dict(cursor.fetchall())


NUMBERED: Final = (Room, Habitat, Animal, Event, Instrument, Channel, Device, Item, Delivery, Lot, Culture)


OURS: Final = count(2 * FAR, 1_000)


def _count_from(number: int) -> None:
    with connection.cursor() as cursor:
        for model in NUMBERED:
            cursor.execute("select setval(pg_get_serial_sequence(%s, 'id'), %s, false)", [model._meta.db_table, number])


@pytest.fixture
def foreign(other: Keeper) -> None:
    """A room of somebody else, with a row of each kind; each has the key `FAR`."""
    now = clock.now()
    _count_from(FAR)
    room = Room.objects.create(name=f"{MARK} room")
    room.membership_set.create(keeper=other, role="owner")
    habitat = revisions.create(room, plan(name=f"{MARK} tank"), other, now)
    animal = Animal.objects.create(room=room, name=MARK, species=habitat.species, created_at=now)
    Event.objects.create(room=room, habitat=habitat, animal=animal, kind=Event.Kind.NOTED, at=now, payload={"note": MARK})
    Instrument.objects.create(room=room, name=f"{MARK} gun", kind="infrared")
    Channel.objects.create(room=room, habitat=habitat, place="warm-air", code=MARK, made_at=now)
    devices.make(room.pk, f"{MARK} hub", now)
    item = Item.objects.create(room=room, food="cricket")
    delivery = Delivery.objects.create(room=room, at=now)
    Lot.objects.create(delivery=delivery, item=item, amount=10, received=clock.today())
    _count_from(next(OURS))  # what is made from here on has keys that nothing had before
    assert {room.pk, animal.pk, item.pk} == {FAR}


def test_the_names_are_found() -> None:
    assert {"habitat", "room", "event", "animal", "upload", "mother", "channel"} <= set(FIELDS)


def test_a_changed_row_is_seen(foreign: None) -> None:
    before = foreign_rows()
    Lot.objects.filter(delivery__room=FAR).update(amount=9)
    assert {label for label, digest in foreign_rows().items() if digest != before[label]} == {"pantry.Lot"}


def send(client: Client, url: str, body: dict[str, Any], before: dict[str, str]) -> None:
    """Send a body, and see that nothing of the other room was told or changed."""
    answer = client.post(url, body)
    assert answer.status_code < 500, (url, body)
    if not answer.streaming:
        assert MARK not in answer.content.decode(errors="replace"), (url, body)
    assert foreign_rows() == before, (url, body)


SAMPLE: Final = some([one for one in NAMES if one.values[0] not in OF_DEVICES], 2)


@pytest.mark.parametrize("names", by_app(SAMPLE))
def test_no_id_of_another_room_is_used_in_any_field(
    names: list[tuple[str, str]],
    habitat: Habitat,
    foreign: None,
    owner: Keeper,
    client_of: Callable[[Keeper], Client],
    no_paper: None,
) -> None:
    before = foreign_rows()
    for name, pattern in names:
        with undone():
            _ask_with_other_ids(client_of(owner), name, address(name, pattern, habitat), habitat.version, before)


def _ask_with_other_ids(client: Client, name: str, url: str, version: int, before: dict[str, str]) -> None:
    """Name the other room's rows in every field of an address, and in each field of each form that it shows."""
    told = {"version": str(version), "day": clock.today().isoformat(), "time": "", "once": name}
    send(client, url, dict.fromkeys(FIELDS, str(FAR)) | told, before)
    if name not in POST_ONLY:
        answer = client.get(url, dict.fromkeys(FIELDS, str(FAR)))
        assert answer.status_code < 500, url
        assert answer.streaming or MARK not in answer.content.decode(errors="replace"), url
        for action, body in forms_of(answer, url):
            for field in body:
                if body[field].isdecimal() or field in {"habitat", "room", "animal", "event", "mother", "father", "partner"}:
                    send(client, action, body | {field: str(FAR), "once": f"{name} {action} {field}"}, before)


class Forms(HTMLParser):
    """The forms of a page as they would be sent untouched."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[tuple[str, dict[str, str]]] = []
        self.select = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        """Note a form, a field or the first entry of a list."""
        told = {name: value or "" for name, value in attrs}
        if tag == "form":
            self.found.append((told.get("action", ""), {} if told.get("method", "").lower() == "post" else {"": "get"}))
        elif self.found and tag in ("input", "textarea", "select", "button") and told.get("name"):
            self.found[-1][1].setdefault(told["name"], told.get("value", ""))
            self.select = told["name"] if tag == "select" else ""
        elif self.found and tag == "option" and self.select and (not self.found[-1][1][self.select] or "selected" in told):
            self.found[-1][1][self.select] = told.get("value", "")


def forms_of(answer: Any, url: str) -> list[tuple[str, dict[str, str]]]:
    """Each form of a page that writes: where it goes, and its fields with their values."""
    if answer.streaming or "html" not in answer.headers.get("Content-Type", ""):
        return []
    page = Forms()
    page.feed(answer.content.decode(errors="replace"))
    away = ("/account/sign-out/", "/account/delete/", "/account/appearance/")
    return [(action or url, fields) for action, fields in page.found if "" not in fields and not action.startswith(away)]
