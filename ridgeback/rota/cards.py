"""The rota cards of habitats: read where they are good, made anew where plan, log or time have moved on."""

import hashlib
from collections import OrderedDict
from collections.abc import Iterable
from datetime import date, timedelta
from functools import cache
from pathlib import Path
from typing import Final
from uuid import uuid4

from django.db.models import QuerySet
from pydantic import ValidationError

import husbandry
from husbandry.plan import card as cards
from husbandry.plan.card import Card, History, compile_card
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import reader
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat
from ridgeback.rota import history
from ridgeback.rota.models import RotaCard


@cache
def format_now() -> str:
    """What the cards are made by: a digest of the core's code and book. Cards made by another one are made again."""
    digest = hashlib.sha256()
    root = Path(husbandry.__file__).parent
    for path in sorted([*root.rglob("*.py"), *root.rglob("*.toml")]):
        digest.update(str(path.relative_to(root)).encode() + path.read_bytes())
    return digest.hexdigest()[:16]


def habitats_with_cards(keeper: Keeper) -> QuerySet[Habitat]:
    """The keeper's habitats in use with their cards, light enough for hundreds of them."""
    mine = Habitat.objects.filter(room__membership__keeper=keeper)
    return _light(mine)


def habitats_of_room(room_id: int) -> QuerySet[Habitat]:
    """The same for one room, whoever asks."""
    return _light(Habitat.objects.filter(room_id=room_id))


def _light(habitats: QuerySet[Habitat]) -> QuerySet[Habitat]:
    found = habitats.filter(set_aside_at__isnull=True).select_related("animal", "rota_card", "room")
    return found.defer("setting", "rota_card__document").order_by("room__name", "name", "id")


# Cards read by this process, by their stamps.
_READ: "OrderedDict[str, Card]" = OrderedDict()
MOST_READ: Final = 2000


def of_habitats(habitats: Iterable[Habitat], today: date) -> dict[int, Card]:
    """The card of each habitat, by its key; at most four more queries, however many have to be read or made anew."""
    found: dict[int, Card] = {}
    unread: dict[int, str] = {}
    stale: list[int] = []
    for habitat in habitats:
        row: RotaCard | None = getattr(habitat, "rota_card", None)
        if row is None or (row.version, row.logged) != (habitat.version, habitat.logged) or today >= row.good_until:
            stale.append(habitat.pk)
        elif row.stamp in _READ:
            found[habitat.pk] = _READ[row.stamp]
        else:
            unread[habitat.pk] = row.stamp
    found |= _read(unread)
    return found | _made_anew(stale + [key for key in unread if key not in found], today)


def _read(unread: dict[int, str]) -> dict[int, Card]:
    """Read cards; one of another format or shape is left out, and made anew."""
    found: dict[int, Card] = {}
    if not unread:
        return found
    for key, stamp, document in RotaCard.objects.filter(habitat__in=unread).values_list("habitat_id", "stamp", "document"):
        if document.get("format") != format_now():
            continue
        try:
            found[key] = _keep(stamp, cards.from_data(document["card"]))
        except ValidationError:
            continue
    return found


def _keep(stamp: str, card: Card) -> Card:
    _READ[stamp] = card
    while len(_READ) > MOST_READ:
        _READ.popitem(last=False)
    return card


def _made_anew(keys: list[int], today: date) -> dict[int, Card]:
    if not keys:
        return {}
    habitats = list(Habitat.objects.filter(pk__in=keys).select_related("animal", "head__profile").defer("head__profile__document"))
    histories = reader.histories(habitats)
    made = {habitat.pk: make(habitat, today, histories[habitat.pk]) for habitat in habitats}
    rows = [
        RotaCard(
            habitat=habitat,
            version=habitat.version,
            logged=habitat.logged,
            good_until=made[habitat.pk].good_until,
            stamp=uuid4().hex,
            document={"format": format_now(), "card": cards.to_data(made[habitat.pk])},
        )
        for habitat in habitats
    ]
    fields = ["version", "logged", "good_until", "stamp", "document"]
    RotaCard.objects.bulk_create(rows, update_conflicts=True, unique_fields=["habitat"], update_fields=fields)
    return made


def make(habitat: Habitat, today: date, past: History) -> Card:
    """Work out a habitat's card."""
    return compile_card(mapping.saved_plan(habitat), revisions.profile_of(habitat), today, past)


def span(
    card: Card,
    begin: date,
    days: int,
    today: date,
    weekdays: list[int],
    moves: history.Moves,
    *,
    daily: bool = True,
    contents: bool = True,
) -> cards.Days:
    """So many days of a card, on the room's days and with what was moved."""
    end = begin + timedelta(days=days)
    return cards.expand(card, begin, end, today=today, weekdays=tuple(weekdays), moves=moves, daily=daily, contents=contents)
