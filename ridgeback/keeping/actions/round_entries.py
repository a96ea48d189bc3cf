"""Entries of a round as a phone sends them, at once or hours later: each with its key, its moment, and an answer of its own."""

import hashlib
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any, Final, Literal

from django.db import transaction
from django.utils.translation import gettext as _
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from husbandry import documents
from husbandry.errors import HusbandryError
from husbandry.units import UnitError
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.actions.do_chores import NoSuchOutcomeError, do_chores
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import AlreadyWritten, Intent, Refused
from ridgeback.keeping.actions.entries import DoubtfulEntryError, Whose, whose_animal, write_entry, write_entry_surely
from ridgeback.language import rotawords
from ridgeback.refusals import words_of
from ridgeback.rooms.access import habitats_to_see, rooms_of
from ridgeback.rooms.models import Animal
from ridgeback.rota.actions.feed_meal import Told, feed_meal
from ridgeback.units import KeeperUnits

MOST: Final = 400  # in one sending
LARGEST_BYTES: Final = 1_200_000
SKEW: Final = timedelta(minutes=10)  # by which a phone's clock may run ahead
OLDEST: Final = timedelta(days=60)
State = Literal["written", "already", "refused", "asked"]


class Sent(BaseModel):
    """One entry: what was pressed, where and when. `value` is a weight or a note as it was typed."""

    model_config = ConfigDict(extra="forbid")

    key: str = Field(min_length=8, max_length=64, pattern=r"^[A-Za-z0-9-]+$")
    what: Literal["chore", "feed", "weigh", "note"]
    at: datetime
    habitat: int | None = Field(default=None, ge=1, le=2**53)
    animal: int | None = Field(default=None, ge=1, le=2**53)
    job: str = Field(default="", max_length=80)
    due: date | None = None
    outcome: str = Field(default="", max_length=20)
    value: str = Field(default="", max_length=2000)
    sure: bool = False


@dataclass(frozen=True)
class EntryAnswer:
    """What became of one entry, by its key, and why in words where it was not written."""

    key: str
    state: State
    said: str = ""


def read(raw: bytes) -> list[Sent]:
    """The entries of a sending, as JSON. Raises ValueError for what is none."""
    told: Any = documents.read(raw.decode(), "json", LARGEST_BYTES)
    listed = told.get("entries") if isinstance(told, dict) else None
    if not isinstance(listed, list) or len(listed) > MOST:
        raise ValueError("entries")
    try:
        return [Sent.model_validate(one) for one in listed]
    except ValidationError as error:
        raise ValueError("entries") from error


def write_round(sent: list[Sent], keeper: Keeper, units: KeeperUnits, today: date) -> list[EntryAnswer]:
    """Write each entry down, by itself: what one is refused for holds up no other."""
    return [_one(entry, keeper, units, today) for entry in sent]


def _one(entry: Sent, keeper: Keeper, units: KeeperUnits, today: date) -> EntryAnswer:
    key = hashlib.sha256(f"round {keeper.pk} {entry.key}".encode()).hexdigest()
    intent = Intent(keeper, clock.now(), key)
    try:
        with transaction.atomic():
            return EntryAnswer(entry.key, _write(entry, keeper, intent, units, today))
    except AlreadyWritten:
        return EntryAnswer(entry.key, "already")
    except DoubtfulEntryError as doubt:
        return EntryAnswer(entry.key, "asked", _doubt(doubt, entry, units))
    except NoSuchOutcomeError:
        return EntryAnswer(entry.key, "refused", words_of(Refused("not_an_entry", why=entry.outcome)))
    except UnitError:
        return EntryAnswer(entry.key, "refused", _("“%(text)s” is no weight.") % {"text": entry.value[:40]})
    except Refused as refused:
        if refused.code == "fed_already":
            return EntryAnswer(entry.key, "already", words_of(refused))
        return EntryAnswer(entry.key, "refused", words_of(refused))
    except _NotHereError:
        return EntryAnswer(entry.key, "refused", _("That is not in your rooms any more."))


class _NotHereError(HusbandryError):
    """The habitat or the animal is none of the keeper's."""


def _at(entry: Sent) -> datetime:
    """The moment of the press: a clock that runs ahead a little is put right, one that is far off is refused."""
    now = clock.now()
    if entry.at.tzinfo is None or entry.at > now + SKEW or entry.at < now - OLDEST:
        raise Refused("clock_off")
    return min(entry.at, now)


def _write(entry: Sent, keeper: Keeper, intent: Intent, units: KeeperUnits, today: date) -> State:
    at = _at(entry)
    if entry.what == "weigh":
        animal = Animal.objects.filter(pk=entry.animal or 0, room__in=rooms_of(keeper)).first()
        if animal is None:
            raise _NotHereError
        mass_kg = round(units.read(entry.value, "kg"), 7)
        write = write_entry_surely if entry.sure else write_entry
        write(whose_animal(animal), intent, at, Event.Kind.WEIGHED, {"mass_kg": mass_kg}, today)
        return "written"
    habitat = habitats_to_see(keeper).filter(pk=entry.habitat or 0).first()
    if habitat is None:
        raise _NotHereError
    if entry.what == "note":
        write_entry(Whose(habitat.room_id, habitat), intent, at, Event.Kind.NOTED, {"note": entry.value}, today)
        return "written"
    due = entry.due or log.day_of(at)
    if entry.what == "feed":
        feed_meal(habitat.pk, intent, at, log.day_of(at), Told(entry.outcome, due))
        return "written"
    if not rotawords.known(entry.job):
        raise Refused("gone")
    return "written" if do_chores([(habitat.pk, due, entry.job)], intent, at, entry.outcome or "done") else "already"


def _doubt(doubt: DoubtfulEntryError, entry: Sent, units: KeeperUnits) -> str:
    number, symbol = units.number(doubt.before_kg, "kg")
    said = {"before": f"{number} {symbol}", "now": entry.value}
    return _("It weighed %(before)s, and now %(now)s: is that right?") % said
