"""One timeline for an animal, a habitat or a room: every kind of entry, in words, newest first."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Final
from urllib.parse import urlencode

from django.db.models import Q, QuerySet, TextField
from django.db.models.functions import Cast
from django.utils import timezone
from django.utils.translation import gettext as _

from husbandry.assessment import Measure
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.keeping.actions.entries import NOT_TAKEN_BACK
from ridgeback.language import entrywords, placewords, rotawords
from ridgeback.planner import readings
from ridgeback.rooms.models import Animal, Habitat, Residence, Room
from ridgeback.rota import menu
from ridgeback.units import KeeperUnits

PAGE: Final = 60
BEFORE: Final = re.compile(r"-?\d{1,16}-\d{1,15}", re.ASCII)  # a moment in µs since 1970, and the key of an entry
CORRECTED_OTHERWISE: Final = (Event.Kind.FED, Event.Kind.DONE, Event.Kind.READ)


@dataclass(frozen=True)
class TimelineRow:
    """An entry as it is shown: what it is, what it says, whose it is, who wrote it, and what can be done with it."""

    event: Event
    kind: str
    said: str
    note: str
    whose: str
    where: str
    author: str
    struck: bool
    correctable: bool
    takeable: bool

    @property
    def at(self) -> datetime:
        return timezone.localtime(self.event.at)

    @property
    def day(self) -> date:
        return self.at.date()


def of_animal(animal: Animal) -> QuerySet[Event]:
    """All that was written of an animal, and of the habitat it lived in while it lived there; struck entries too."""
    wanted = Q(animal=animal)
    for one in Residence.objects.filter(animal=animal):
        lived = Q(habitat=one.habitat_id, animal__isnull=True, at__gte=_start(one.since))
        wanted |= lived & (Q() if one.until is None else Q(at__lt=_start(one.until)))
    return _rows(Event.every.filter(wanted & Q(room=animal.room_id)))


def of_habitat(habitat: Habitat) -> QuerySet[Event]:
    """All that was written of a habitat and of those that lived there then."""
    return _rows(Event.every.filter(habitat=habitat))


def of_room(room: Room) -> QuerySet[Event]:
    return _rows(Event.every.filter(room=room))


def _rows(found: QuerySet[Event]) -> QuerySet[Event]:
    return found.select_related("author", "animal", "habitat").order_by("-at", "-id")


def _start(day: date) -> datetime:
    return timezone.make_aware(datetime.combine(day, datetime.min.time()))


@dataclass(frozen=True)
class Wanted:
    """What of a timeline is looked at: a group of kinds, words, entries up to a moment, and those taken back too."""

    group: str = ""
    words: str = ""
    before: str = ""
    struck: bool = False

    @classmethod
    def of(cls, query: Any) -> "Wanted":
        """Read it from a request; anything unknown falls back to all."""
        group = query.get("of", "")
        before = query.get("before", "")
        return cls(
            group if group in entrywords.GROUPS else "",
            query.get("find", "").strip()[:80],
            before if BEFORE.fullmatch(before) else "",
            query.get("struck", "") == "1",
        )

    def query(self, **other: str) -> str:
        """The query of a page that differs in these."""
        said = {"of": self.group, "find": self.words, "struck": "1" if self.struck else "", "before": ""} | other
        return urlencode({name: value for name, value in said.items() if value})


def page(found: QuerySet[Event], wanted: Wanted, units: KeeperUnits) -> tuple[list[TimelineRow], str]:
    """The rows of one page, and where the next one begins, "" at the end: one query."""
    if not wanted.struck:
        found = found.filter(taken_back_at__isnull=True)
    if wanted.group:
        found = found.filter(kind__in=entrywords.GROUPS[wanted.group][1])
    if wanted.words:
        found = _with_words(found, wanted.words)
    if wanted.before:
        told, _dash, key = wanted.before.rpartition("-")
        moment = datetime.fromtimestamp(int(told) / 1e6, tz=timezone.get_current_timezone())
        found = found.filter(Q(at__lt=moment) | Q(at=moment, pk__lt=int(key)))
    events = list(found[: PAGE + 1])
    more = len(events) > PAGE
    rows = [row(event, units) for event in events[:PAGE]]
    last = events[PAGE - 1] if more else None
    return rows, f"{round(last.at.timestamp() * 1e6)}-{last.pk}" if last else ""


def kinds_of(groups: Iterable[str]) -> list[str]:
    """The kinds of entries in some groups."""
    return [kind for group in groups for kind in entrywords.GROUPS[group][1]]


def _with_words(found: QuerySet[Event], words: str) -> QuerySet[Event]:
    """The entries that hold some words: in their note or another text, in the animal's or the habitat's name, or by their kind."""
    told = [kind for kind, one in entrywords.KINDS.items() if words.lower() in str(one.name).lower()]
    codes = [code for code, said in entrywords.CHOICES.items() if words.lower() in str(said).lower()]
    by_code = Q()
    for code in codes[:20]:
        by_code |= Q(text__icontains=f'"{code}"')
    named = Q(animal__name__icontains=words) | Q(habitat__name__icontains=words) | Q(kind__in=told)
    return found.annotate(text=Cast("payload", TextField())).filter(Q(text__icontains=words) | named | by_code)


def row(event: Event, units: KeeperUnits) -> TimelineRow:
    """An entry in words."""
    words = entrywords.KINDS.get(event.kind)
    struck = event.taken_back_at is not None
    typed = event.kind in entries.KINDS and event.kind not in entries.BY_ACTION and event.kind != Event.Kind.PHOTO
    return TimelineRow(
        event,
        str(words.name) if words else event.kind,
        said(event, units),
        str(event.payload.get("note", "")),
        "" if event.animal is None else event.animal.called,
        "" if event.habitat is None else event.habitat.name,
        "" if event.author is None else event.author.username,
        struck,
        not struck and (typed or event.kind in CORRECTED_OTHERWISE),
        not struck and event.kind not in NOT_TAKEN_BACK,
    )


def said(event: Event, units: KeeperUnits) -> str:
    """What an entry says, in the keeper's units."""
    if event.kind == Event.Kind.FED:
        return _meal(event.payload)
    if event.kind == Event.Kind.READ:
        return _reading(event.payload, units)
    return entrywords.said(event.kind, event.payload, units)


def _meal(payload: dict[str, Any]) -> str:
    outcome = str(rotawords.OUTCOMES.get(payload.get("outcome", ""), ""))
    foods = [menu.food_text(food, pieces, grams) for food, pieces, grams in payload.get("foods", ())]
    who = payload.get("who")
    by = [] if who is None else [_("by %(names)s") % {"names": ", ".join(who)}] if who else [_("by none of them")]
    return ", ".join([outcome.capitalize(), *by, *foods, *payload.get("products", ())])


def _reading(payload: dict[str, Any], units: KeeperUnits) -> str:
    place = payload.get("place", "")
    spot = payload.get("spot")
    name = spot["name"] if spot else str(placewords.PLACE_NAMES.get(place, place))
    value = units.say(Measure(payload["value"] - payload.get("reads_high", 0.0), readings.unit_of(place)))
    return _("%(place)s: %(value)s, with the %(instrument)s") % {
        "place": name,
        "value": value,
        "instrument": payload.get("by", "–"),
    }


def by_day(rows: Iterable[TimelineRow]) -> list[tuple[date, list[TimelineRow]]]:
    """The rows of each day together."""
    days: list[tuple[date, list[TimelineRow]]] = []
    for one in rows:
        if not days or days[-1][0] != one.day:
            days.append((one.day, []))
        days[-1][1].append(one)
    return days
