"""Writing an entry of the daybook, correcting it, taking it back."""

from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Final

from django.utils.translation import gettext as _
from pydantic import ValidationError

from husbandry.diet import weighing
from husbandry.errors import HusbandryError
from ridgeback import clock
from ridgeback.daybook import entries, log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.language import dates
from ridgeback.language.told import later
from ridgeback.pantry import store
from ridgeback.planner import residents
from ridgeback.planner.actions.fit_lamp import fit_lamp
from ridgeback.planner.actions.score_condition import plan_condition
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rooms.residents import first_of, home_of

# What the plan of its habitat follows.
OF_THE_BODY: Final = (Event.Kind.WEIGHED, Event.Kind.MEASURED)
OF_AN_EGG: Final = (Event.Kind.NOTED, Event.Kind.PHOTO)
# What is taken back by actions of its own, or never: a plan has its undo, a move is moved back.
NOT_TAKEN_BACK: Final = (
    *(Event.Kind.CREATED, Event.Kind.PLANNED, Event.Kind.UNDONE, Event.Kind.REDONE, Event.Kind.IMPORTED),
    *entries.BY_ACTION,
)


class DoubtfulEntryError(HusbandryError, ValueError):
    """The weight is far off the animal's last one: it is asked about before it is kept. `before_kg` of `day` is the last one."""

    def __init__(self, before_kg: float, day: date) -> None:
        super().__init__(f"{before_kg} kg on {day}")
        self.before_kg, self.day = before_kg, day


Whose = log.About


def whose_animal(animal: Animal) -> Whose:
    """An entry about an animal, in the habitat where it lives now."""
    here = home_of(animal.pk)
    return Whose(animal.room_id, None if here is None else here.habitat, animal)


@dataclass(frozen=True)
class _Told:
    """What is written down of when; `sure` where the keeper has been asked about a weight."""

    at: datetime
    kind: str
    payload: dict[str, Any]
    sure: bool


def write_entry(whose: Whose, intent: Intent, at: datetime, kind: str, payload: dict[str, Any], today: date) -> Event:
    """Write an entry down.

    Raises AlreadyWritten, Refused for what is no entry of its kind or lies in the future, DoubtfulEntryError for a weight far off
    the last one.
    """
    with _opened(whose, intent):
        return _write(whose, intent, _Told(at, kind, payload, sure=False), today)


def write_entry_surely(whose: Whose, intent: Intent, at: datetime, kind: str, payload: dict[str, Any], today: date) -> Event:
    """Write an entry down whatever it is: its keeper is sure of it. Raises what `write_entry` does but for doubts."""
    with _opened(whose, intent):
        return _write(whose, intent, _Told(at, kind, payload, sure=True), today)


def correct_entry(
    event_id: int, intent: Intent, at: datetime, payload: dict[str, Any], today: date, *, sure: bool = False
) -> Event:
    """Write an entry anew in place of one that stands; both are kept. Raises what `write_entry` does, Refused where it is gone."""
    event = _standing(event_id)
    whose = Whose(event.room_id, event.habitat, event.animal)
    with _opened(whose, intent):
        event = _standing(event_id)
        log.strike(event, intent.at, intent.author)
        if event.kind in entries.KINDS:
            made = _write(whose, intent, _Told(at, event.kind, payload, sure), today)
        else:  # a meal, a chore, a reading: what is not typed stays as it was
            _possible(event.kind, whose.animal, at)
            made = log.write(whose, event.kind, at, intent.author, event.payload | payload)
        made.replaces = event
        made.save(update_fields=["replaces"])
        if event.kind == Event.Kind.FED:
            store.hand_over(event, made, gone=made.payload["outcome"] != "skipped")
        return made


def take_back_entry(event_id: int, intent: Intent, today: date) -> Event:
    """Take an entry back; its row stays, with when and by whom. Raises Refused where it is gone or is not taken back like this."""
    event = _standing(event_id)
    if event.kind in NOT_TAKEN_BACK:
        raise Refused("gone")
    with _opened(Whose(event.room_id, event.habitat, event.animal), intent):
        event = _standing(event_id)
        if event.kind == Event.Kind.FED:
            store.give_back(event)
        log.strike(event, intent.at, intent.author)
        _follow(event, intent, today, taken_back=True)
        return event


def _opened(whose: Whose, intent: Intent) -> AbstractContextManager[dict[int, Habitat]]:
    """The transaction of an entry: its habitat is locked, or the room where it is of none."""
    return writing(intent, room=whose.room_id) if whose.habitat is None else writing(intent, [whose.habitat.pk])


def _standing(event_id: int) -> Event:
    found = Event.objects.select_related("habitat", "animal").filter(pk=event_id).first()
    if found is None:
        raise Refused("gone")
    return found


def _write(whose: Whose, intent: Intent, told: _Told, today: date) -> Event:
    at, kind = told.at, told.kind
    _possible(kind, whose.animal, at)
    try:
        kept = entries.checked(kind, told.payload)
    except ValidationError as error:
        raise Refused("not_an_entry", why=", ".join(str(item["loc"][0]) for item in error.errors() if item["loc"])) from None
    if kind == Event.Kind.WEIGHED and whose.animal is not None and not told.sure:
        _ask_if_far_off(whose.animal, kept["mass_kg"], at)
    event = log.write(whose, kind, at, intent.author, kept)
    _follow(event, intent, today)
    return event


def _possible(kind: str, animal: Animal | None, at: datetime) -> None:
    """Refuse what is still to come, and what would have happened to an animal before it hatched: its egg has notes and pictures."""
    if at > clock.now():
        raise Refused("in_the_future")
    if animal is None or animal.known_to_hatch is None or kind in OF_AN_EGG:
        return
    if log.day_of(at) < animal.known_to_hatch:
        raise Refused("before_it_hatched", day=dates.shown(animal.known_to_hatch, "j F Y"))


def _ask_if_far_off(animal: Animal, mass_kg: float, at: datetime) -> None:
    """Raise DoubtfulEntryError for a weight that is far off the nearest one before it."""
    before = Event.objects.filter(animal=animal, kind=Event.Kind.WEIGHED, at__lt=at).order_by("-at", "-id").first()
    if before is None:
        return
    last_kg, days = before.payload["mass_kg"], (at - before.at).total_seconds() / 86_400
    if weighing.doubtful(last_kg, mass_kg, days):
        raise DoubtfulEntryError(last_kg, log.day_of(before.at))


def _follow(event: Event, intent: Intent, today: date, *, taken_back: bool = False) -> None:
    """Let the plan follow what was written of one that lives there, or of its lamps: a weight, a length, a score, a new lamp."""
    if event.kind == Event.Kind.LAMP_CHANGED and event.habitat_id is not None and not taken_back:
        fit_lamp(event.habitat_id, Intent(intent.author, intent.at), event.payload["part"], log.day_of(event.at))
    if event.animal_id is None:
        return
    here = home_of(event.animal_id)
    if here is None:
        return
    if event.kind in OF_THE_BODY:
        label = later(lambda: _("weighed") if event.kind == Event.Kind.WEIGHED else _("measured"))
        residents.follow(here.habitat_id, intent, today, label)
    if event.kind == Event.Kind.CONDITION and first_of(here.habitat_id) == event.animal:
        last = Event.objects.filter(animal=event.animal_id, kind=Event.Kind.CONDITION).order_by("-at", "-id").first()
        if last is not None:
            plan_condition(here.habitat_id, Intent(intent.author, intent.at), last.payload["score"], log.day_of(last.at))
