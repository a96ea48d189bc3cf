"""The rota cards of habitats: read where they are good, made anew where plan, log or time have moved on."""

import logging
import threading
import weakref
from collections import OrderedDict
from collections.abc import Iterable
from dataclasses import replace
from datetime import date, timedelta
from typing import Any, Final
from uuid import uuid4

from django.db.models import QuerySet
from pydantic import ValidationError

from husbandry.feeding.history import History
from husbandry.rota import card as cards
from husbandry.rota.card import Card, Days, compile_card
from ridgeback import made_by
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import reader
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.access import rooms_of
from ridgeback.rooms.models import Habitat
from ridgeback.rota import appointments, history
from ridgeback.rota.models import RotaCard

logger = logging.getLogger(__name__)


def habitats_with_cards(keeper: Keeper) -> QuerySet[Habitat]:
    """The keeper's habitats in use with their cards, light enough for hundreds of them."""
    mine = Habitat.objects.filter(room__in=rooms_of(keeper))
    return _light(mine)


def habitats_of_room(room_id: int) -> QuerySet[Habitat]:
    """The same for one room, whoever asks."""
    return _light(Habitat.objects.filter(room_id=room_id))


def _light(habitats: QuerySet[Habitat]) -> QuerySet[Habitat]:
    found = habitats.filter(set_aside_at__isnull=True).select_related("company", "rota_card", "room")
    return found.defer("rota_card__document").order_by("room__name", "name", "id")


# Cards read by this process, by their stamps.
_READ: "OrderedDict[str, Card]" = OrderedDict()
MOST_READ: Final = 2000
# Days laid out by this process, by the card's identity: a card never changes, and what was laid out goes with it.
_SPANS: Final[dict[int, dict[tuple[Any, ...], Days]]] = {}
MOST_SPANS: Final = 3  # of one card: a day, a week, a month
_LOCK: Final = threading.Lock()  # the server answers several requests at once


def of_habitats(habitats: Iterable[Habitat], today: date) -> dict[int, Card]:
    """The card of each habitat, by its key; at most nine more queries, however many have to be read or made anew.

    One that cannot be worked out is left out, marked `broken`: whoever shows many shows the others.
    """
    habitats = list(habitats)
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
    found |= _made_anew(stale + [key for key in unread if key not in found], today)
    for habitat in habitats:
        habitat.broken = habitat.pk not in found  # type: ignore[attr-defined]
    return found


def working(habitats: list[Habitat], today: date) -> tuple[list[Habitat], dict[int, Card]]:
    """The habitats whose cards could be worked out, with the cards."""
    made = of_habitats(habitats, today)
    return [habitat for habitat in habitats if habitat.pk in made], made


def broken(habitats: Iterable[Habitat]) -> list[Habitat]:
    """Those of the habitats asked for before whose cards could not be worked out."""
    return [habitat for habitat in habitats if getattr(habitat, "broken", False)]


def _read(unread: dict[int, str]) -> dict[int, Card]:
    """Read cards; one of another format or shape is left out, and made anew."""
    found: dict[int, Card] = {}
    if not unread:
        return found
    for key, stamp, document in RotaCard.objects.filter(habitat__in=unread).values_list("habitat_id", "stamp", "document"):
        if document.get("format") != made_by.program():
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
    habitats = list(Habitat.objects.filter(pk__in=keys).select_related("company", "head__profile").defer("head__profile__document"))
    histories, due = reader.histories(habitats), appointments.of_habitats(habitats, today)
    made: dict[int, Card] = {}
    for habitat in habitats:
        try:
            made[habitat.pk] = make(habitat, today, replace(histories[habitat.pk], appointments=due[habitat.pk]))
        except Exception:  # whatever is wrong with this one, the others are shown
            logger.exception("the rota of habitat %s cannot be worked out", habitat.pk)
    rows = [
        RotaCard(
            habitat=habitat,
            version=habitat.version,
            logged=habitat.logged,
            good_until=made[habitat.pk].good_until,
            stamp=uuid4().hex,
            document={"format": made_by.program(), "card": cards.to_data(made[habitat.pk])},
        )
        for habitat in habitats
        if habitat.pk in made
    ]
    fields = ["version", "logged", "good_until", "stamp", "document"]
    RotaCard.objects.bulk_create(rows, update_conflicts=True, unique_fields=["habitat"], update_fields=fields)
    return made


def make(habitat: Habitat, today: date, past: History) -> Card:
    """Work out a habitat's card."""
    return compile_card(mapping.plan_of(habitat), revisions.profile_of(habitat), today, past)


def next_feed(card: Card, today: date, days: int, weekdays: list[int], moves: history.Moves) -> date | None:
    """The first feed of a card within so many days, on the room's days and with what was moved."""
    return cards.next_feed(card, today, days, tuple(weekdays), moves)


def span(card: Card, begin: date, days: int, at: cards.RoomDays, *, daily: bool = True, contents: bool = True) -> cards.Days:
    """So many days of a card, on the room's days and with what was moved. The last ones are kept, where nothing was moved."""
    end = begin + timedelta(days=days)
    if at.moves:
        return cards.expand(card, begin, end, at, daily=daily, contents=contents)
    asked = (begin, end, at.today, at.weekdays, daily, contents)
    with _LOCK:
        if id(card) not in _SPANS:
            _SPANS[id(card)] = {}
            weakref.finalize(card, _SPANS.pop, id(card), None)
        kept = _SPANS[id(card)]
        found = kept.get(asked)
    if found is None:
        found = cards.expand(card, begin, end, at, daily=daily, contents=contents)
        with _LOCK:
            while len(kept) >= MOST_SPANS:
                del kept[next(iter(kept))]
            kept[asked] = found
    return found
