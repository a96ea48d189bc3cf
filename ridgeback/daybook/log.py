"""Writing events, one typed function a kind, and reading meals back."""

from dataclasses import dataclass
from datetime import date, datetime, time
from typing import Any, Final

from django.db.models import F, Min, QuerySet
from django.utils import timezone

from husbandry.feeding.history import RecordedMeal
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event, Instrument
from ridgeback.language import told
from ridgeback.rooms.models import Animal, Habitat, Residence
from ridgeback.rooms.residents import living_in

# What a plan's own animal is known by; a meal is that of all who live there.
OF_THE_FIRST: Final = (Event.Kind.WEIGHED, Event.Kind.MEASURED, Event.Kind.CONDITION)


def record(habitat: Habitat, kind: str, at: datetime, author: Keeper | None, **payload: Any) -> Event:
    """Write one event about a habitat, and count it: what is worked out from the log knows that it has grown.

    What is known of one animal alone belongs to the one that lives there, or, where a group does, to the first of it.
    """
    return write(About(habitat.room_id, habitat, _whose(habitat, kind)), kind, at, author, payload)


@dataclass(frozen=True)
class About:
    """What an entry is about: an animal, a habitat, or, with neither, the room."""

    room_id: int
    habitat: Habitat | None = None
    animal: Animal | None = None


def write(about: About, kind: str, at: datetime, author: Keeper | None, payload: dict[str, Any]) -> Event:
    """Write one event, and count it where it is of a habitat; every entry passes here."""
    if about.habitat is not None:
        counted(about.habitat.pk)
    where = {"room_id": about.room_id, "habitat": about.habitat, "animal": about.animal}
    return Event.objects.create(**where, kind=kind, at=at, author=author, payload=told.kept(payload), written_at=clock.now())


def _whose(habitat: Habitat, kind: str) -> Animal | None:
    if kind not in (*OF_THE_FIRST, Event.Kind.FED):
        return None
    here = living_in([habitat.pk])[habitat.pk]
    return here[0].animal if here and (kind in OF_THE_FIRST or len(here) == 1) else None


def counted(habitat_id: int) -> None:
    """The habitat's log has changed."""
    Habitat.objects.filter(pk=habitat_id).update(logged=F("logged") + 1)


def strike(event: Event, at: datetime, author: Keeper | None) -> None:
    """Take an entry back: it counts for nothing any more, and its row says when that was and by whom."""
    event.taken_back_at, event.taken_back_by = at, author
    event.save(update_fields=["taken_back_at", "taken_back_by"])
    if event.habitat_id is not None:
        counted(event.habitat_id)


def day_of(at: datetime) -> date:
    """The keeper's own day of a moment: in Auckland the morning is not yesterday."""
    return timezone.localtime(at).date()


def told_before(habitat: Habitat, species: str, born: date | None) -> QuerySet[Event]:
    """What a plan was told of its animal before one came, where it is that one's: not of another kind, nor older than it is."""
    told = Event.objects.filter(habitat=habitat, animal__isnull=True, kind__in=OF_THE_FIRST)
    if species != habitat.species:
        return told.none()
    return told if born is None else told.filter(at__gte=timezone.make_aware(datetime.combine(born, time())))


def first_day_of(animal_id: int) -> date | None:
    """The first day of which something is known of an animal: where it lived, a weight or a length of it."""
    came = Residence.objects.filter(animal=animal_id).aggregate(first=Min("since"))["first"]
    of_the_body = Event.objects.filter(animal=animal_id, kind__in=(Event.Kind.WEIGHED, Event.Kind.MEASURED))
    seen = of_the_body.aggregate(first=Min("at"))["first"]
    return min((one for one in (came, day_of(seen) if seen else None) if one is not None), default=None)


def weighed(habitat: Habitat, at: datetime, author: Keeper | None, mass_kg: float) -> Event:
    """The animal's mass in kg."""
    return record(habitat, Event.Kind.WEIGHED, at, author, mass_kg=mass_kg)


def was_read(habitat: Habitat, at: datetime, author: Keeper | None, instrument: Instrument, **payload: Any) -> Event:
    """A reading as the instrument showed it: `place`, `value`, the room beside it in `room_c` and `room_percent`.

    The instrument's error of that day is kept with it: correcting the instrument later changes no old reading.
    """
    kept = {"instrument": instrument.pk, "by": instrument.name, "reads_high": instrument.reads_high, "sure_to": instrument.sure_to}
    return record(habitat, Event.Kind.READ, at, author, **payload, **kept)


def fed(habitat: Habitat, at: datetime, author: Keeper | None, **payload: Any) -> Event:
    """A meal: `outcome` "eaten", "part", "refused" or "skipped"; `products` on it; `foods` as [food, pieces, grams]; `due`."""
    return record(habitat, Event.Kind.FED, at, author, **payload)


def meal(day: date, payload: dict[str, Any]) -> RecordedMeal:
    """A meal as the log has it."""
    who = payload.get("who")
    foods = tuple(food for food, *_amount in payload.get("foods", ()))
    return RecordedMeal(day, payload["outcome"], tuple(payload.get("products", ())), foods, None if who is None else tuple(who))


def done(habitat: Habitat, at: datetime, author: Keeper | None, job: str, due: str, outcome: str = "done") -> Event:
    """A chore by its id: "done", or "skipped" on purpose; `due` is the day it was due."""
    return record(habitat, Event.Kind.DONE, at, author, job=job, due=due, outcome=outcome)


def moved(habitat: Habitat, at: datetime, author: Keeper | None, job: str, planned: str, to: str) -> Event:
    """A turn of a chore, or the feed "feed", planned for one day and set to another."""
    return record(habitat, Event.Kind.MOVED, at, author, job=job, planned=planned, to=to)


def scored(habitat: Habitat, at: datetime, author: Keeper | None, score: int) -> Event:
    """The body's condition, 1 to 5."""
    return record(habitat, Event.Kind.CONDITION, at, author, score=score)
