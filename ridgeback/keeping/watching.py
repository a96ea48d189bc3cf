"""The log of each animal as the watch reads it, what it tells, and what a keeper has seen and put aside for a while."""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

from django.db.models import Max, Q

from husbandry.animal.body import body_of
from husbandry.diet.refusals import Without
from husbandry.feeding import appetite
from husbandry.feeding.history import EATEN, History
from husbandry.species.profile import Profile
from husbandry.upkeep.feeds import FeedRule
from husbandry.watch.rules import ORDER, Alarm, Lived, Noted, Shed, watched
from ridgeback import clock
from ridgeback.daybook import log, reader
from ridgeback.daybook.models import Event, Quiet
from ridgeback.language import watchwords
from ridgeback.planner import breeding, mapping, revisions
from ridgeback.rooms.models import Animal, Habitat, Residence
from ridgeback.rooms.residents import living_in
from ridgeback.rota import cards
from ridgeback.units import KeeperUnits

MEALS_DAYS: Final = 120  # of a group's meals
# How many days of each kind its rules look at, and some more.
LOOKED_BACK: Final[dict[int, tuple[str, ...]]] = {
    260: (Event.Kind.WEIGHED, Event.Kind.DROPPINGS),
    80: (Event.Kind.BEHAVED, Event.Kind.SIGN, Event.Kind.BROUGHT_UP, Event.Kind.SCREENED, Event.Kind.TREATED),
    500: (
        *(Event.Kind.SHED, Event.Kind.PAIRED, Event.Kind.GRAVID),
        *(Event.Kind.LAID, Event.Kind.CANDLED, Event.Kind.HATCHED),
    ),
}


@dataclass(frozen=True)
class Seen:
    """An alarm of an animal in words; `quiet` is what its keeper said of it, where it was put aside."""

    animal: Animal
    name: str
    habitat: Habitat
    alarm: Alarm
    said: str
    first: str
    quiet: Quiet | None


def of_habitats(habitats: Sequence[Habitat], today: date, units: KeeperUnits) -> list[Seen]:
    """What the watch tells of those that live in some habitats, the worst first: as many queries for one as for many."""
    by_key = {habitat.pk: habitat for habitat in habitats}
    here = living_in(by_key)
    homes = [one for key in by_key for one in here[key]]
    events = _events([one.animal_id for one in homes], by_key, today)
    dishes, eaten = _dishes(by_key), _last_eaten([one.animal_id for one in homes])
    histories, made = reader.histories(habitats), cards.of_habitats(habitats, today)
    quiet = _quiet([one.animal_id for one in homes], today)
    found = []
    for one in homes:
        habitat = by_key[one.habitat_id]
        try:
            feed = made[habitat.pk].feed if habitat.pk in made else None
            known = _Known(events, dishes, histories[habitat.pk], feed, eaten.get(one.animal_id), today)
            lived = _lived(one, habitat, here[habitat.pk], known)
        except mapping.UnreadablePlanError:
            continue
        for alarm in watched(lived, today):
            said, first = watchwords.told(alarm, units)
            name = one.animal.called
            found.append(Seen(one.animal, name, habitat, alarm, said, first, quiet.get((one.animal_id, alarm.key))))
    return sorted(found, key=lambda seen: (seen.quiet is not None, ORDER[seen.alarm.level], seen.alarm.since))


def _events(animals: list[int], habitats: Iterable[int], today: date) -> dict[tuple[str, int], list[Event]]:
    """The entries of some animals by kind and key; a group's meals by its habitat, under a negative key."""
    found: dict[tuple[str, int], list[Event]] = defaultdict(list)
    now = clock.now()
    wanted = Q()
    for days, kinds in LOOKED_BACK.items():
        wanted |= Q(kind__in=kinds, at__gte=now - timedelta(days=days))
    rows = Event.objects.filter(wanted, animal__in=animals).order_by("at", "id")
    for event in rows.only("animal_id", "kind", "at", "payload"):
        found[event.kind, event.animal_id or 0].append(event)
    fed = Event.objects.filter(kind=Event.Kind.FED, payload__outcome__in=EATEN, at__gte=now - timedelta(days=MEALS_DAYS))
    group = fed.filter(habitat__in=list(habitats), animal__isnull=True).order_by("at", "id")
    for event in group.only("habitat_id", "kind", "at", "payload"):
        found[event.kind, -(event.habitat_id or 0)].append(event)
    return found


def _last_eaten(animals: list[int]) -> dict[int, date]:
    """The last day on which each took a meal that was its own."""
    fed = Event.objects.filter(kind=Event.Kind.FED, payload__outcome__in=EATEN, animal__in=animals)
    return {row["animal"] or 0: log.day_of(row["last"]) for row in fed.order_by().values("animal").annotate(last=Max("at"))}


def _dishes(habitats: Iterable[int]) -> dict[int, list[date]]:
    found: dict[int, list[date]] = defaultdict(list)
    filled = Event.objects.filter(habitat__in=list(habitats), kind=Event.Kind.DONE, payload__job="calcium-dish")
    for key, at in filled.filter(payload__outcome="done").order_by("at").values_list("habitat_id", "at"):
        found[key or 0].append(log.day_of(at))
    return found


def _quiet(animals: list[int], today: date) -> dict[tuple[int, str], Quiet]:
    rows = Quiet.objects.filter(animal__in=animals, until__gte=today).select_related("author").order_by("at")
    return {(row.animal_id, row.key): row for row in rows}


@dataclass(frozen=True)
class _Known:
    """What was read for all at once, and of it what is of one: entries by kind and key, days of filled dishes by habitat."""

    events: dict[tuple[str, int], list[Event]]
    dishes: dict[int, list[date]]
    history: History
    feed: FeedRule | None
    last_eaten: date | None
    today: date


def _lived(home: Residence, habitat: Habitat, group: list[Residence], known: _Known) -> Lived:
    key, events, today = home.animal_id, known.events, known.today

    def of(kind: str) -> list[Event]:
        return events.get((kind, key), [])

    def noted(kind: str) -> list[Noted]:
        return [Noted(log.day_of(event.at), event.payload.get("what", "")) for event in of(kind)]

    first = group[0].animal_id == key
    profile = revisions.profile_of(habitat)
    shared = [event for event in events.get((Event.Kind.FED, -habitat.pk), []) if _ate(event, home.animal)]
    eaten = [*([known.last_eaten] if known.last_eaten else []), *(log.day_of(event.at) for event in shared)]
    waiting = [event for event in of(Event.Kind.SCREENED) if event.payload.get("result", "waiting") == "waiting"]
    courses = [event for event in of(Event.Kind.TREATED) if event.payload.get("until")]
    answered = [log.day_of(event.at) for event in of(Event.Kind.TREATED)]
    gravid, latest = _breeding(home.animal, events, profile, today)
    its = home.animal.species == habitat.species and first
    rest, without = _rest_and_refusals(habitat, profile, known, alone=len(group) == 1) if its else (None, None)
    return Lived(
        masses=[(log.day_of(event.at), event.payload["mass_kg"]) for event in of(Event.Kind.WEIGHED)],
        sheds=[Shed(log.day_of(event.at), stuck=bool(event.payload.get("stuck"))) for event in of(Event.Kind.SHED)],
        droppings=[log.day_of(event.at) for event in of(Event.Kind.DROPPINGS)],
        last_eaten=max(eaten, default=None),
        brought_up=[log.day_of(event.at) for event in of(Event.Kind.BROUGHT_UP)],
        dish_filled=known.dishes.get(habitat.pk, []) if first else [],
        behaved=noted(Event.Kind.BEHAVED),
        signs=noted(Event.Kind.SIGN),
        answered=max(answered, default=None),
        waiting=[Noted(log.day_of(event.at), event.payload["what"]) for event in waiting],
        courses=[Noted(date.fromisoformat(event.payload["until"]), event.payload["what"]) for event in courses],
        gravid=gravid,
        hatch_latest=latest,
        without=without,
        rest=rest,
    )


def _rest_and_refusals(
    habitat: Habitat, profile: Profile, known: _Known, *, alone: bool
) -> tuple[appetite.RestLoss | None, Without | None]:
    """What it has lost since its rest began, and how long it has been without food beside what is usual.

    A plan is read where its rest or its refusals are in question: hundreds of them take seconds.
    """
    history, feed, today = known.history, known.feed, known.today
    resting = feed is not None and any(item.why == "rest" and item.holds(today) for item in feed.fasts)
    if not (resting or history.refusals):
        return None, None
    plan = mapping.plan_of(habitat)
    grown = body_of(plan, profile, today).decision.stage.id == profile.stages[-1].id
    rest = appetite.rest_loss(plan, profile, history.weighings, today)
    if not alone or feed is None:
        return rest, None
    return rest, appetite.without(plan, profile, history, today, grown=grown, interval_days=feed.interval_days)


def _ate(event: Event, animal: Animal) -> bool:
    """Tell whether one of a group was at a meal: all were, where nobody was told by name."""
    who = event.payload.get("who")
    return who is None or animal.name in who


def _breeding(
    animal: Animal, events: dict[tuple[str, int], list[Event]], profile: Profile, today: date
) -> tuple[date | None, date | None]:
    kinds = (Event.Kind.PAIRED, Event.Kind.GRAVID, Event.Kind.LAID, Event.Kind.CANDLED, Event.Kind.HATCHED)
    told = sorted((event for kind in kinds for event in events.get((kind, animal.pk), [])), key=lambda event: (event.at, event.pk))
    gravid = [event for event in told if event.kind == Event.Kind.GRAVID]
    laid = [event for event in told if event.kind == Event.Kind.LAID]
    carries = bool(gravid) and (not laid or laid[-1].at < gravid[-1].at)
    open_ones = [one for one in breeding.clutches(told, profile, today) if one.left and not one.hatched and one.latest]
    return log.day_of(gravid[-1].at) if carries else None, open_ones[-1].latest if open_ones else None
