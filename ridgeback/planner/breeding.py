"""Breeding as the daybook has it: pairings, clutches with the days they are due, what hatched, what to look out for."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from typing import Final

from husbandry.species.book import UnknownSpeciesError
from husbandry.species.profile import Profile, Reproduction
from husbandry.upkeep.incubation import HELD_TO_K, HatchWindow, Point, hatch_window
from husbandry.watch.rules import GRAVID_DAYS
from ridgeback.book import profiles
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Animal
from ridgeback.units import written

LEAST_GAP, SEASON_GAP = 7, 120  # days between two clutches of one season
FRESH_DAYS: Final = 400  # a clutch that nobody wrote about since is over


@dataclass(frozen=True)
class Clutch:
    """A clutch and what is to come of it: the days of candling and of hatching, None where they are not known, and why (`unknown`).

    `left` are the eggs still counted as good; `hatched` how many came out.
    """

    event: Event
    laid: date
    eggs: int
    left: int
    hatched: int
    window: HatchWindow | None
    unknown: str
    degrees_c: float | None
    points: tuple[float, float] | None

    def on(self, days: float) -> date:
        """A day so many days after laying."""
        return self.laid + timedelta(days=round(days))

    @property
    def earliest(self) -> date | None:
        return None if self.window is None else self.on(self.window.earliest)

    @property
    def likely(self) -> date | None:
        return None if self.window is None else self.on(self.window.likely)

    @property
    def latest(self) -> date | None:
        return None if self.window is None else self.on(self.window.latest)

    @property
    def candling(self) -> tuple[date, ...]:
        return () if self.window is None else tuple(self.on(days) for days in self.window.candling)


@dataclass(frozen=True)
class Breeding:
    """What an animal's breeding comes to: its clutches, newest first; since when it is gravid; when young are due; when to ask.

    `born` are the first and the last day on which young of a kind that bears them are due. `ask_vet_on` is the day from which a
    female that is gravid and has not laid belongs to a veterinarian.
    """

    clutches: tuple[Clutch, ...]
    paired: date | None
    gravid: date | None
    born: tuple[date, date] | None
    ask_vet_on: date | None
    clutches_a_year: str
    trouble: str
    next_laying: date | None = None


def of_animal(animal: Animal, today: date) -> Breeding | None:
    """What the daybook says of an animal's breeding, None where it says nothing: two queries."""
    events = list(Event.objects.filter(animal=animal, kind__startswith="breeding.").order_by("at", "id"))
    if not events:
        return None
    try:
        profile = profiles.current(animal.room_id, animal.species)[0]
    except UnknownSpeciesError:
        return None
    bred = profile.reproduction
    last = {event.kind: event for event in events}
    laid, gravid = last.get(Event.Kind.LAID), last.get(Event.Kind.GRAVID)
    carries = gravid is not None and (laid is None or laid.at < gravid.at)
    paired = last.get(Event.Kind.PAIRED)
    return Breeding(
        tuple(reversed(clutches(events, profile, today))),
        None if paired is None else log.day_of(paired.at),
        log.day_of(gravid.at) if gravid is not None and carries else None,
        _born(bred, paired, laid),
        _ask_on(bred, gravid) if carries else None,
        _told(bred),
        "" if bred is None else bred.trouble.value,
        _next_laying([log.day_of(event.at) for event in events if event.kind == Event.Kind.LAID], today),
    )


def _next_laying(laid: list[date], today: date) -> date | None:
    """When she may lay again by her own rhythm: the middle of the gaps between her clutches of one season; None without any."""
    gaps = sorted((two - one).days for one, two in pairwise(laid) if LEAST_GAP <= (two - one).days <= SEASON_GAP)
    if not gaps or (today - laid[-1]).days > SEASON_GAP:
        return None
    return laid[-1] + timedelta(days=gaps[len(gaps) // 2])


def clutches(events: Iterable[Event], profile: Profile, today: date) -> list[Clutch]:
    """The clutches among an animal's entries, oldest first, each with what was seen of it since."""
    events = list(events)
    found = []
    for event in events:
        if event.kind == Event.Kind.LAID:
            of_it = [one for one in events if one.payload.get("clutch") == event.pk]
            found.append(_clutch(event, of_it, profile.reproduction))
    return [one for one in found if (today - one.laid).days <= FRESH_DAYS or one.hatched]


def _clutch(event: Event, since: list[Event], bred: Reproduction | None) -> Clutch:
    told = event.payload
    eggs = int(told.get("eggs", 0))
    good, hatched = int(told.get("good", eggs)), 0
    for one in since:
        if one.kind == Event.Kind.HATCHED:
            hatched += int(one.payload["good"])
        else:
            good = int(one.payload["good"])
    degrees = told.get("incubator_c")
    points = [] if bred is None else [Point(item.temperature_c, item.days_low, item.days_high) for item in bred.incubation]
    window, unknown = None, ""
    if len(points) < 2:
        unknown = "no_points"
    elif degrees is None:
        unknown = "no_warmth"
    else:
        window = hatch_window(points, degrees, told.get("spread_c") or HELD_TO_K)
        unknown = "" if window else "outside"
    known = (min(one.temperature_c for one in points), max(one.temperature_c for one in points)) if points else None
    return Clutch(event, log.day_of(event.at), eggs, max(good - hatched, 0), hatched, window, unknown, degrees, known)


def _born(bred: Reproduction | None, paired: Event | None, laid: Event | None) -> tuple[date, date] | None:
    """When young of a kind that bears them are due, counted from the last pairing that no birth followed."""
    if bred is None or bred.gestation_days is None or paired is None or (laid is not None and laid.at > paired.at):
        return None
    low, high = bred.gestation_days.low, bred.gestation_days.high
    begin = log.day_of(paired.at)
    return None if low is None or high is None else (begin + timedelta(days=low), begin + timedelta(days=high))


def _ask_on(bred: Reproduction | None, gravid: Event | None) -> date | None:
    if bred is None or gravid is None or bred.bears == "live young":
        return None
    return log.day_of(gravid.at) + timedelta(days=GRAVID_DAYS)


def _told(bred: Reproduction | None) -> str:
    if bred is None or bred.clutches_a_year.high is None:
        return ""
    low, high = bred.clutches_a_year.low, bred.clutches_a_year.high
    return written(high) if low is None or low == high else f"{written(low)}–{written(high)}"
