"""A build's test run: what was read since it was switched on, corrected, against its bands; what is still missing."""

from dataclasses import dataclass
from datetime import datetime, time, timedelta
from itertools import pairwise
from typing import Final

from django.utils import timezone

from husbandry.assess.nutrition import season_of
from husbandry.assessment import Verdict
from husbandry.build.kinds import TEST_RUN
from husbandry.design.commissioning import LEAST_H, LOG_H, Protocol, ReadingPoint, protocol
from husbandry.plan.habitat import HabitatPlan
from ridgeback import clock
from ridgeback.building.reading import BuildState
from ridgeback.planner import readings, revisions
from ridgeback.planner.readings import READ_BY, Taken
from ridgeback.rooms.models import Habitat
from ridgeback.series import reading as series
from ridgeback.series.models import Channel

PASSES: Final = (Verdict.INSIDE, Verdict.NEAR)
LOGGED_H: Final = 6.0  # from so many hours on a log is judged
HELD_SHARE: Final = 0.75  # of them that have to be in band (estimate)
LAST_HOURS: Final = 3
ENDS: Final = ("on", "off")


@dataclass(frozen=True)
class Checked:
    """One thing to read with what was read last: `verdict` of it, None for nothing; `early` one read before it had settled.

    `counted` are all readings that count, newest first. `has_instrument` tells whether the room has one that reads there.
    `logged_h` hours of a logger there once it had settled, `logged_share` of them in the band; `logger` is the mean of its last
    hours, which stands for a reading where nobody read by hand.
    """

    point: ReadingPoint
    taken: Taken | None
    verdict: Verdict | None
    early: Taken | None
    settled_at: datetime
    has_instrument: bool
    logged_h: float
    logged_share: float
    counted: tuple[Taken, ...] = ()
    logger: float | None = None

    @property
    def value(self) -> float | None:
        """What it stands at: read by hand, else by a logger."""
        return self.taken.value if self.taken is not None else self.logger

    @property
    def strays(self) -> bool:
        """Tell whether a logger saw it out of its band too often."""
        return self.logged_h >= LOGGED_H and self.logged_share < HELD_SHARE

    @property
    def passes(self) -> bool:
        return self.verdict in PASSES


@dataclass(frozen=True)
class Run:
    """How a test run stands: since when, what is checked, which ends of thermostats were seen when, and hours of the log."""

    since: datetime | None
    protocol: Protocol
    checks: tuple[Checked, ...]
    seen: dict[str, datetime]
    logged_h: float

    @property
    def unread(self) -> tuple[Checked, ...]:
        """What has no reading that counts."""
        return tuple(one for one in self.checks if one.value is None)

    @property
    def failing(self) -> tuple[Checked, ...]:
        """What was read outside its band, or was logged outside it too often."""
        return tuple(one for one in self.checks if one.value is not None and (not one.passes or one.strays))

    @property
    def unseen(self) -> tuple[tuple[str, str], ...]:
        """The ends, "on" or "off", at which a thermostat was not seen yet, by its heater's path."""
        ends = [(one.path, end) for one in self.protocol.switches for end in ENDS]
        return tuple(end for end in ends if "-".join(end) not in self.seen)

    @property
    def log_missing(self) -> bool:
        """Tell whether less than a day was logged."""
        return self.logged_h < LOG_H

    @property
    def complete(self) -> bool:
        """Tell whether nothing is missing and nothing stands outside."""
        return self.since is not None and not (self.unread or self.failing or self.unseen or self.log_missing)


def run_of(built: BuildState, habitat: Habitat) -> Run:
    """Read a test run as it stands."""
    plan, today = built.plan, clock.today()
    found = protocol(plan, revisions.profile_of(habitat), today, season_of(plan, today))
    row = built.done.get(TEST_RUN)
    since = None if row is None else row.at
    taken = [] if since is None else [one for one in readings.of_habitat(habitat) if one.at >= since and not one.lamps_off]
    kinds = set(habitat.room.instruments.values_list("kind", flat=True))
    logged = {} if since is None else _logged(habitat, plan, since)
    checks = tuple(_checked(point, plan, since, taken, kinds, logged) for point in found.points)
    seen = {key: datetime.fromisoformat(at) for key, at in built.build.seen.items()}
    seen = {key: at for key, at in seen.items() if since is not None and at >= since}  # of this run, not of one before
    hours = {at for rows in logged.values() for at in rows}
    by_hand = _by_hand(taken)
    return Run(since, found, checks, seen, max(float(len(hours)), by_hand))


def _by_hand(taken: list[Taken]) -> float:
    """The hours that readings by hand span, where there are enough of them: one every six hours at the least."""
    if len(taken) < 5:
        return 0.0
    moments = sorted(one.at for one in taken)
    gaps = [(after - before).total_seconds() / 3600 for before, after in pairwise(moments)]
    longest = best = 0.0
    for gap in gaps:
        longest = longest + gap if gap <= 6 else 0.0
        best = max(best, longest)
    return best


def _logged(habitat: Habitat, plan: HabitatPlan, since: datetime) -> dict[tuple[str, str], dict[datetime, float]]:
    """What loggers have of each place, by day and by night: the means of hours."""
    channels = {channel.pk: channel.place for channel in Channel.objects.filter(habitat=habitat, ended_at__isnull=True)}
    found: dict[tuple[str, str], dict[datetime, float]] = {}
    for key, hours in series.hours_of(list(channels), since, clock.now()).items():
        for at, mean in hours.items():
            lit = plan.daylight.runs_at(timezone.localtime(at).hour + 0.5)
            found.setdefault((channels[key], "day" if lit else "night"), {})[at] = mean
    return found


def _phase(plan: HabitatPlan, at: datetime) -> str:
    return "day" if plan.daylight.runs_at(at.hour + at.minute / 60) else "night"


def settled_at(plan: HabitatPlan, point: ReadingPoint, since: datetime, at: datetime) -> datetime:
    """From when on a reading of the day (or night) that `at` lies in counts.

    The place has settled once since it was switched on cold, and each day anew some hours after the light turned.
    """
    local, begun = timezone.localtime(at), timezone.localtime(since)
    if plan.daylight.on == plan.daylight.off:
        return begun + timedelta(hours=point.settle_h)
    turn = plan.daylight.off if point.phase == "night" else plan.daylight.on
    turned = [_on_day(moment, turn) for moment in (local, begun)]
    latest = turned[0] if turned[0] <= local else turned[0] - timedelta(days=1)
    first = begun
    if point.phase and _phase(plan, begun) != point.phase:
        first = turned[1] if turned[1] >= begun else turned[1] + timedelta(days=1)
    daily = max(latest, begun) + timedelta(hours=min(point.settle_h, LEAST_H))
    return max(daily, first + timedelta(hours=point.settle_h))


def _on_day(moment: datetime, turn: time) -> datetime:
    return moment.replace(hour=turn.hour, minute=turn.minute, second=0, microsecond=0)


def _checked(
    point: ReadingPoint,
    plan: HabitatPlan,
    since: datetime | None,
    taken: list[Taken],
    kinds: set[str],
    logged: dict[tuple[str, str], dict[datetime, float]],
) -> Checked:
    here = [one for one in taken if one.place == point.place and point.phase in ("", _phase(plan, one.at))]
    counted = tuple(one for one in here if since is not None and one.at >= settled_at(plan, point, since, one.at))
    good = counted[0] if counted else None  # the newest is first
    early = here[0] if here and good is None else None
    kept = logged.get((point.place, point.phase or "day"), {})
    settled = [at for at in sorted(kept) if since is not None and at >= settled_at(plan, point, since, at)]
    hours = [kept[at] for at in settled]
    logger = sum(hours[-LAST_HOURS:]) / LAST_HOURS if len(hours) >= LAST_HOURS else None
    share = sum(point.verdict(value) in PASSES for value in hours) / len(hours) if hours else 0.0
    value = good.value if good is not None else logger
    verdict = None if value is None else point.verdict(value)
    begun = since or clock.now()
    ready = settled_at(plan, point, begun, max(begun, clock.now()))
    return Checked(point, good, verdict, early, ready, READ_BY.get(point.place) in kinds, float(len(hours)), share, counted, logger)
