"""Giving the rota out: a calendar file, a private address for one keeper or sitter, CSV, a printed card for a sitter."""

import csv
import io
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any, Final

from husbandry.rota.card import Days, RoomDays, is_daily
from husbandry.upkeep.jobs import Job
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.writing import Intent, writing
from ridgeback.drawing import portions
from ridgeback.language import rotawords
from ridgeback.language.foodwords import prey
from ridgeback.language.names import CHOICES
from ridgeback.planner import revisions
from ridgeback.rooms.access import rooms_of
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import cards, history, ical, menu
from ridgeback.rota.models import Subscription
from ridgeback.units import KeeperUnits
from ridgeback.web.tokens import digest_of, new_token

AHEAD_DAYS: Final = 56
MOST_CARD_DAYS: Final = 31
CSV_COLUMNS: Final = ("date", "time", "habitat", "animal", "what", "powders", "food", "due", "late")


def subscribe(room: Room, keeper: Keeper, name: str, intent: Intent, *, feeds_only: bool, by_day: bool) -> tuple[Subscription, str]:
    """Make a private address; the token is told once and never again. Raises AlreadyWritten."""
    token = new_token()
    with writing(intent, room=room.pk):
        made = Subscription.objects.create(
            room=room,
            keeper=keeper,
            name=name[:60],
            sha256=digest_of(token),
            feeds_only=feeds_only,
            by_day=by_day,
            made_at=intent.at,
        )
    return made, token


def found_by(token: str, at: datetime) -> Subscription | None:
    """The subscription of a token, noted as read; None for an unknown or revoked one, or one whose keeper has left the room."""
    found = Subscription.objects.filter(sha256=digest_of(token), revoked_at__isnull=True).select_related("room", "keeper").first()
    if found is None or not found.keeper.is_active or not rooms_of(found.keeper).filter(pk=found.room_id).exists():
        return None
    Subscription.objects.filter(pk=found.pk).update(read_at=at)
    return found


def spans(habitats: list[Habitat], begin: date, days: int, today: date) -> list[tuple[Habitat, Days]]:
    """So many days of some habitats."""
    habitats, made = cards.working(habitats, today)
    moves = history.moves_of(made, today)
    return [
        (
            habitat,
            cards.span(made[habitat.pk], begin, days, RoomDays(today, tuple(habitat.room.weekdays), moves.get(habitat.pk, {}))),
        )
        for habitat in habitats
    ]


@dataclass(frozen=True)
class Extent:
    """What a calendar file holds: the feeds alone or the chores too, each by itself or all of a habitat's day as one entry."""

    feeds_only: bool
    by_day: bool


def file(name: str, habitats: list[Habitat], today: date, at: datetime, units: KeeperUnits, extent: Extent) -> bytes:
    """The next weeks as an iCalendar file."""
    made = cards.of_habitats(habitats, today)
    entries = [] if extent.feeds_only else ical.notices_of(habitats, today, units)
    for habitat, days in spans(habitats, today, AHEAD_DAYS, today):
        card = made[habitat.pk]
        kept = rotawords.kept_at(card.targets, units)
        entries += ical.fasts_of(habitat, card, today, today + timedelta(days=AHEAD_DAYS))
        if extent.by_day:
            entries += ical.days_of(habitat, card, days, kept, feeds_only=extent.feeds_only)
            continue
        entries += ical.feeds_of(habitat, card, days, kept)
        entries += [] if extent.feeds_only else ical.jobs_of(habitat, days, kept)
    return ical.calendar(name, entries, at)


def table(habitats: list[Habitat], begin: date, days: int, today: date) -> str:
    """Every turn as a line of CSV, by day."""
    lines: list[tuple[Any, ...]] = []
    for habitat, span in spans(habitats, begin, days, today):
        animal = habitat.company.name
        for feed in span.feeds:
            food = menu.foods_text(span.foods[feed.day])
            powders = " + ".join(str(CHOICES["product"][item.product.name]) for item in span.dusting[feed.day])
            said = rotawords.job("feed").name
            lines.append((feed.day, "", habitat.name, animal, said, powders, food, feed.due, "late" if feed.late else ""))
        for item in span.jobs:
            at = f"{item.at:%H:%M}" if item.at else ""
            lines.append(
                (item.day, at, habitat.name, animal, rotawords.job(item.id).name, "", "", item.due, "late" if item.late else "")
            )
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(CSV_COLUMNS)
    writer.writerows(
        tuple(safe(str(cell)) for cell in line) for line in sorted(lines, key=lambda line: (line[0], line[2], line[1]))
    )
    return out.getvalue()


def safe(cell: str) -> str:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{cell}" if cell[:1] in ("=", "+", "-", "@", "\t") else cell


def sitter(habitats: list[Habitat], begin: date, days: int, today: date, units: KeeperUnits) -> list[dict[str, Any]]:
    """What a sitter's card says of each habitat: what is daily, the days of feeds and of what else is due, the cautions."""
    made = cards.of_habitats(habitats, today)
    end = begin + timedelta(days=days - 1)
    found = []
    for habitat, span in spans(habitats, begin, days, today):
        card = made[habitat.pk]
        daily = [job for job in card.jobs if is_daily(job)]
        by_day, done = _by_day(span, {rotawords.group_of(job.id) for job in daily}, begin, days)
        used = done | {job.key for job in daily}
        foods = {feed.day: menu.foods_text(span.foods[feed.day]) for feed in span.feeds}
        alike = len(set(foods.values())) <= 1
        powders = {feed.day: menu.powders(span.dusting[feed.day], card.carrying) for feed in span.feeds}
        rows = [
            {
                "day": day,
                "feed": day in powders,
                "food": "" if alike else foods.get(day, ""),
                "powders": powders.get(day, ()),
                "jobs": jobs,
            }
            for day, jobs in by_day.items()
        ]
        found.append(
            {
                "habitat": habitat,
                "card": card,
                "food": next(iter(foods.values()), "") if alike else "",
                "daily": list(dict.fromkeys(map(_daily, daily))),
                "days": rows,
                "portion": _portion(span),
                "kept": rotawords.kept_at(card.targets, units),
                "fasts": [
                    {"first": max(fast.first, begin), "last": min(fast.last, end), "why": rotawords.FASTS[fast.why]}
                    for fast in card.feed.fasts
                    if fast.first <= end and fast.last >= begin
                ],
                "cautions": rotawords.cautions(used, amphibian=revisions.holds_amphibians(habitat)),
            }
        )
    return found


def _portion(span: Days) -> list[dict[str, Any]]:
    """The first feed at its real size."""
    first = next((span.foods[feed.day] for feed in span.feeds if span.foods.get(feed.day)), ())
    drawn = portions.draw(portions.FoodPortion(food, pieces, grams) for food, pieces, grams in menu.taken(first))
    return [one | {"name": prey(one["food"])} for one in drawn]


def _daily(job: Job) -> str:
    """A chore of every day with its times."""
    times = " ".join(f"{at:%H:%M}" for at in job.times)
    return f"{rotawords.job(job.id if job.key == rotawords.OWN else job.key).name} {times}".strip()


def _by_day(span: Days, daily: set[str], begin: date, days: int) -> tuple[dict[date, list[str]], set[str]]:
    """What is due on each day besides the `daily` groups, in words, and the keys of those chores."""
    by_day: dict[date, list[str]] = {begin + timedelta(days=offset): [] for offset in range(days)}
    keys = set()
    for item in span.jobs:
        if rotawords.group_of(item.id) not in daily:
            name = str(rotawords.job(item.id).name)
            by_day[item.day].append(f"{name} {item.at:%H:%M}" if item.at else name)
            keys.add(rotawords.key_of(item.id))
    return by_day, keys
