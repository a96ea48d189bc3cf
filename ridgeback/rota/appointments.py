"""What the daybook makes due: courses as they were prescribed, the days on which a clutch is candled and may hatch."""

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, timedelta
from typing import Final

from django.utils.translation import override

from husbandry.feeding.history import Appointment
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.language import dates, rotawords
from ridgeback.planner import breeding, revisions
from ridgeback.rooms.models import Habitat, Residence
from ridgeback.rooms.residents import living_in

KINDS: Final = (Event.Kind.TREATED, Event.Kind.LAID, Event.Kind.CANDLED, Event.Kind.HATCHED)
LOOKED_BACK: Final = timedelta(days=breeding.FRESH_DAYS)
DETAIL: Final = 40  # letters of a chore's own name


def of_habitats(habitats: Sequence[Habitat], today: date) -> dict[int, tuple[Appointment, ...]]:
    """The appointments of those that live in some habitats, by habitat: two queries."""
    here = living_in(habitat.pk for habitat in habitats)
    homes = [one for habitat in habitats for one in here[habitat.pk]]
    events: dict[int, list[Event]] = defaultdict(list)
    wanted = Event.objects.filter(animal__in=[one.animal_id for one in homes], kind__in=KINDS, at__date__gte=today - LOOKED_BACK)
    for event in wanted.order_by("at", "id"):
        events[event.animal_id or 0].append(event)
    found: dict[int, tuple[Appointment, ...]] = {}
    for habitat in habitats:
        found[habitat.pk] = tuple(
            item for home in here[habitat.pk] for item in _of_one(home, habitat, events.get(home.animal_id, []), today)
        )
    return found


def _of_one(home: Residence, habitat: Habitat, events: list[Event], today: date) -> list[Appointment]:
    name = home.animal.called
    found = []
    for event in events:
        told = event.payload
        if event.kind == Event.Kind.TREATED and told.get("every_days") and told.get("until"):
            first, until = log.day_of(event.at) + timedelta(days=told["every_days"]), date.fromisoformat(told["until"])
            if until >= max(first, today):
                detail = _detail(f"{name}, {told['what']}")
                found.append(Appointment("course", detail, first, told["every_days"], until))
    if home.animal.species != habitat.species or not any(event.kind == Event.Kind.LAID for event in events):
        return found
    for clutch in breeding.clutches(events, revisions.profile_of(habitat), today):
        if clutch.window is None or not clutch.left or clutch.hatched or clutch.earliest is None:
            continue
        with override("en"):  # it stands in an id, which is the same whoever reads it; rotawords says it in their language
            detail = _detail(f"{name}, clutch of {dates.shown(clutch.laid, 'j M Y')}")
        found += [Appointment("candle", f"{detail} ({turn})", day) for turn, day in enumerate(clutch.candling, start=1)]
        found.append(Appointment("hatch", detail, clutch.earliest))
    return found


def _detail(text: str) -> str:
    """A chore's own name: it stands in an id whose parts a slash keeps apart."""
    return text.replace("/", "-")[:DETAIL]


def caution_of(habitat: Habitat, job: str) -> str:
    """What to look out for at a chore of this habitat; what is said of amphibians alone only of them."""
    if job in rotawords.OF_AMPHIBIANS and not revisions.holds_amphibians(habitat):
        return ""
    return str(rotawords.job(job).caution)
