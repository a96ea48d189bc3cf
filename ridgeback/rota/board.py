"""The calendar over a collection: a day by chore or by habitat, a week of habitats, a month of counts.

Everything comes from the habitats' cards, the moves and the log: the same few queries for two habitats and for two hundred.
"""

import re
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import date, time, timedelta
from typing import Any, Final
from urllib.parse import quote, urlencode

from django.db.models import Count
from django.db.models.functions import TruncDate
from django.utils import timezone

from husbandry.diet.dusting import Dusting
from husbandry.feeding.servings import Use
from husbandry.feeding.week_food import Carrying
from husbandry.rota.card import Card, Days, RoomDays, is_daily
from husbandry.upkeep.clocktimes import moment
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.language import rotawords
from ridgeback.rooms.models import Habitat
from ridgeback.rota import cards, history, menu
from ridgeback.rota.menu import ShownPowder

FEED: Final = "feed"
# Of a day's chores, what comes first.
ORDER: Final = (FEED, "water", "misting", "soak", *rotawords.JOBS)
SHOWN_IN_MONTH: Final = 6
LEAST_OF_A_ROUND: Final = 3
PLAIN: Final = re.compile(r"[\w:/-]+", re.ASCII).fullmatch  # a mark that stands in a list of marks as it is
MOST_HABITATS: Final = 5000  # read at once, where all are


@dataclass(frozen=True)
class Turn:
    """One turn of a feed or a chore. `state`: "open", "late", "done", "skipped", "eaten", "part", "refused".

    Of a feed to come `feed` is its powders, how often a feed carries powder, and its foods.
    """

    habitat: Habitat
    job: str
    day: date
    due: date
    state: str
    carried: tuple[ShownPowder, ...] = ()
    at: time | None = None
    event: int | None = None
    daily: bool = False
    feed: tuple[tuple[Dusting, ...], Carrying, tuple[Use, ...]] | None = None

    @property
    def powders(self) -> tuple[ShownPowder, ...]:
        """What goes on it, or went on it; put into words only where it is shown."""
        return self.carried if self.feed is None else menu.powders(self.feed[0], self.feed[1])

    @property
    def foods(self) -> str:
        """What it is made of."""
        return "" if self.feed is None else menu.foods_text(self.feed[2])

    @property
    def open(self) -> bool:
        return self.state in ("open", "late")

    @property
    def name(self) -> str:
        """The animal's name, or the habitat's."""
        return str(self.habitat.company.name or self.habitat.name)

    @property
    def title(self) -> Any:
        return rotawords.job(self.job).name

    @property
    def said(self) -> Any:
        """What became of it."""
        return rotawords.OUTCOMES.get(self.state, "")

    @property
    def movable(self) -> bool:
        """Tell whether it can be moved: what hangs on a feed goes with it."""
        return self.open and not self.daily and rotawords.key_of(self.job) not in rotawords.AROUND

    @property
    def mark(self) -> str:
        """How a form names it."""
        return f"{self.habitat.pk}:{self.due.isoformat()}:{self.job}"

    @property
    def planned(self) -> str:
        return self.day.isoformat()

    @property
    def move_query(self) -> str:
        """How the page that moves it is asked for it."""
        return urlencode({"habitat": self.habitat.pk, "job": self.job, "planned": self.planned})


@dataclass
class Board:
    """The habitats shown, their cards, and what lies between two days.

    `counts_only` leaves out what no count shows: the chores of every single day, and the powders. `part` is where in the order
    of the habitats it begins and how many it shows, None for all; `of` is how many there are.
    """

    keeper: Keeper
    today: date
    begin: date
    days: int
    counts_only: bool = False
    part: tuple[int, int] | None = None
    of: int = 0
    habitats: list[Habitat] = field(default_factory=list)
    broken: list[Habitat] = field(default_factory=list)
    cards: dict[int, Card] = field(default_factory=dict)
    spans: dict[int, Days] = field(default_factory=dict)

    @property
    def end(self) -> date:
        return self.begin + timedelta(days=self.days)

    def load(self) -> "Board":
        """Read everything."""
        mine = cards.habitats_with_cards(self.keeper)
        begin, many = self.part or (0, MOST_HABITATS)
        every = list(mine[begin : begin + many + 1])
        self.of = begin + len(every) if len(every) <= many else mine.count()
        every = every[:many]
        self.habitats, self.cards = cards.working(every, self.today)
        self.broken = cards.broken(every)
        moves = history.moves_of(self.cards, self.today)
        first = max(self.begin, self.today)
        ahead = max((self.end - first).days, 0)
        for habitat in self.habitats:
            card, moved = self.cards[habitat.pk], moves.get(habitat.pk, {})
            days, whole = habitat.room.weekdays, not self.counts_only
            self.spans[habitat.pk] = cards.span(
                card, first, ahead, RoomDays(self.today, tuple(days), moved), daily=whole, contents=whole
            )
        return self

    def turns(self) -> list[Turn]:
        """Everything open from today on, and what the log tells of the days shown."""
        found = list(self._logged())
        told = {(turn.habitat.pk, turn.job, turn.day) for turn in found}
        for habitat in self.habitats:
            card, span = self.cards[habitat.pk], self.spans[habitat.pk]
            for feed in span.feeds:
                if (habitat.pk, FEED, feed.day) in told:
                    continue
                state = "late" if feed.late else "open"
                told_later = span.dusting[feed.day], card.carrying, span.foods[feed.day]
                found.append(Turn(habitat, FEED, feed.day, feed.due, state, feed=told_later))
            daily = {job.id for job in card.jobs if is_daily(job)}
            for item in span.jobs:
                if (habitat.pk, item.id, item.day) not in told:
                    state = "late" if item.late else "open"
                    found.append(Turn(habitat, item.id, item.day, item.due, state, (), item.at, daily=item.id in daily))
        return found

    def _logged(self) -> Iterable[Turn]:
        by_key = {habitat.pk: habitat for habitat in self.habitats}
        rows = events(by_key, self.begin, self.end).order_by("at", "id")
        for event in rows:
            payload, day = event.payload, log.day_of(event.at)
            habitat = by_key[event.habitat_id or 0]
            due = date.fromisoformat(payload["due"]) if payload.get("due") else day
            job = FEED if event.kind == Event.Kind.FED else payload["job"]
            dust = tuple(ShownPowder(name.replace(" ", "-"), name, "") for name in payload.get("products", ()))
            if job == FEED or rotawords.known(job):
                yield Turn(habitat, job, day, due, payload["outcome"], dust, None, event.pk)


def events(keys: Iterable[int], begin: date, end: date) -> Any:
    """The meals and chores of some habitats in the log between two days."""
    zone = timezone.get_current_timezone()
    first, last = (moment(day, time(), zone) for day in (begin, end))
    kinds = (Event.Kind.FED, Event.Kind.DONE)
    return Event.objects.filter(habitat__in=list(keys), kind__in=kinds, at__gte=first, at__lt=last)


def rank(job: str) -> int:
    """Where a chore stands in the day's order."""
    key = rotawords.key_of(job)
    return ORDER.index(key) if key in ORDER else len(ORDER)


def by_job(turns: list[Turn], whole: str = "", most: int | None = None) -> list[dict[str, Any]]:
    """A day's turns by chore: one round for all habitats.

    Of more than `most` turns in all, each round shows its first ones, the open ones before those done, but for the one that is
    wanted `whole`; half the rows are for the feeds. `rest` is how many a round leaves out.
    """
    groups: dict[str, list[Turn]] = defaultdict(list)
    for turn in turns:
        groups[rotawords.group_of(turn.job)].append(turn)
    found = []
    for key in sorted(groups, key=rank):
        mine = sorted(groups[key], key=lambda turn: (turn.at or time(), turn.habitat.room_id, turn.habitat.name))
        left = sum(turn.open for turn in mine)
        shown = mine
        if most is not None and len(turns) > most and key != whole:
            room = most // 2 if key == FEED else most // 2 // max(len(groups) - 1, 1)
            shown = sorted(mine, key=lambda turn: not turn.open)[: max(room, LEAST_OF_A_ROUND)]
        found.append(
            {
                "key": key,
                "words": rotawords.job(key),
                "turns": mine,
                "shown": shown,
                "rest": len(mine) - len(shown),
                "open": left,
                "marks": "" if key == FEED else " ".join(map(_plain, (turn.mark for turn in mine if turn.open))),
                "late": sum(turn.state == "late" for turn in mine),
            }
        )
    return found


def _plain(mark: str) -> str:
    """A mark as it stands in a list of marks."""
    return mark if PLAIN(mark) else quote(mark)


def by_habitat(turns: list[Turn]) -> list[dict[str, Any]]:
    """A day's turns by habitat, as one walks along the shelves."""
    groups: dict[int, list[Turn]] = defaultdict(list)
    for turn in turns:
        groups[turn.habitat.pk].append(turn)
    ordered = sorted(groups.values(), key=lambda mine: (mine[0].habitat.room.name, mine[0].habitat.name))
    found = [(mine[0].habitat, sorted(mine, key=lambda turn: rank(turn.job))) for mine in ordered]
    return [{"habitat": habitat, "turns": mine, "shown": mine, "rest": 0} for habitat, mine in found]


def week(board: Board) -> list[dict[str, Any]]:
    """Habitats down, days across: feeds with their powders, chores that do not come every day, and those that do in a line."""
    turns = board.turns()
    cells: dict[tuple[int, date], list[Turn]] = defaultdict(list)
    for turn in turns:
        cells[turn.habitat.pk, turn.day].append(turn)
    days = [board.begin + timedelta(days=offset) for offset in range(board.days)]
    rows = []
    for habitat in board.habitats:
        daily = {job.key for job in board.cards[habitat.pk].jobs if is_daily(job)}
        row = []
        for day in days:
            mine = [turn for turn in cells[habitat.pk, day] if rotawords.key_of(turn.job) not in daily]
            row.append({"day": day, "turns": sorted(mine, key=lambda turn: rank(turn.job)), "past": day < board.today})
        said = [rotawords.job(key).name for key in sorted(daily, key=rank)]
        rows.append({"habitat": habitat, "cells": row, "daily": said})
    return rows


def month(board: Board, shown: date) -> list[list[dict[str, Any]]]:
    """Weeks of days with counts: what the log tells before today, what is due from today on."""
    counts: dict[date, dict[str, int]] = defaultdict(lambda: defaultdict(int))
    late: dict[date, int] = defaultdict(int)
    logged = events([habitat.pk for habitat in board.habitats], board.begin, min(board.end, board.today))
    rows = logged.annotate(day=TruncDate("at")).values_list("day", "kind", "payload__job").annotate(n=Count("id")).order_by()
    for day, kind, job, count in rows:
        key = FEED if kind == Event.Kind.FED else rotawords.group_of(job or "")
        if key == FEED or rotawords.known(key):
            counts[day][key] += count
    for habitat in board.habitats:
        span = board.spans[habitat.pk]
        for feed in span.feeds:
            counts[feed.day][FEED] += 1
            late[feed.day] += feed.late
        for run in span.runs:
            key = rotawords.group_of(run.id)
            for due_on in run.days:
                counts[due_on][key] += 1
                late[due_on] += run.late
    weeks = []
    for start in range(0, board.days, 7):
        cells = []
        for offset in range(7):
            day = board.begin + timedelta(days=start + offset)
            mine = sorted(counts[day].items(), key=lambda item: rank(item[0]))
            lines = [{"key": key, "name": rotawords.job(key).name, "count": count} for key, count in mine]
            cells.append(
                {
                    "day": day,
                    "lines": lines[:SHOWN_IN_MONTH],
                    "more": max(len(lines) - SHOWN_IN_MONTH, 0),
                    "late": late[day],
                    "today": day == board.today,
                    "past": day < board.today,
                    "other": day.month != shown.month,
                }
            )
        weeks.append(cells)
    return weeks
