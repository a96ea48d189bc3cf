"""Feeds and chores as an iCalendar file (RFC 5545), by the icalendar library."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from django.utils.translation import gettext as _
from icalendar import Calendar, Event

from husbandry.codes import WatchCode
from husbandry.rota.card import Card, Days
from ridgeback.daybook import log, noticed
from ridgeback.daybook.models import Notice
from ridgeback.language import rotawords, watchwords
from ridgeback.language.names import CHOICES
from ridgeback.rooms.models import Habitat
from ridgeback.rota import menu
from ridgeback.rota.appointments import caution_of
from ridgeback.units import KeeperUnits

JOB_MINUTES = 10


@dataclass(frozen=True)
class CalendarEntry:
    """One line of a calendar: a whole day, or days up to `until`, or at a clock time, which follows the reader's own clock."""

    uid: str
    day: date
    summary: str
    description: str
    at: time | None = None
    until: date | None = None
    minutes: float = JOB_MINUTES


def calendar(name: str, entries: Iterable[CalendarEntry], made_at: datetime) -> bytes:
    """Return the file; the same turn keeps its identity from one export to the next."""
    made = Calendar()
    made.add("prodid", "-//Ridgeback//rota//EN")
    made.add("version", "2.0")
    made.add("calscale", "GREGORIAN")
    made.add("x-wr-calname", name)
    for entry in entries:
        event = Event()
        event.add("uid", f"{entry.uid}@ridgeback")
        event.add("dtstamp", made_at)
        if entry.at is None:
            event.add("dtstart", entry.day)
            event.add("dtend", (entry.until or entry.day) + timedelta(days=1))
        else:
            begin = datetime.combine(entry.day, entry.at)
            event.add("dtstart", begin)
            event.add("dtend", begin + timedelta(minutes=entry.minutes))
        event.add("summary", entry.summary)
        event.add("description", entry.description)
        event.add("transp", "TRANSPARENT")
        made.add_component(event)
    return bytes(made.to_ical())


def feeds_of(habitat: Habitat, card: Card, days: Days, kept: str = "") -> list[CalendarEntry]:
    """The feeds of one habitat with what goes on them, and the days without food; `kept` is what it is kept at."""
    name = habitat.company.name or habitat.name
    found = []
    for feed in days.feeds:
        products = " + ".join(str(CHOICES["product"][item.product.name]) for item in days.dusting[feed.day])
        foods = menu.foods_text(days.foods[feed.day])
        said = _("Feed %(name)s") % {"name": name}
        text = " ".join(part for part in (f"{foods}." if foods else "", f"{card.time_of_day.capitalize()}.", kept) if part)
        summary = f"{said} + {products}" if products else said
        found.append(CalendarEntry(f"feed-{habitat.pk}-{feed.day.isoformat()}", feed.day, summary, text, card.feed_at))
    return found


def fasts_of(habitat: Habitat, card: Card, begin: date, end: date) -> list[CalendarEntry]:
    """The stretches without food between two days, each as one entry over its days."""
    name = habitat.company.name or habitat.name
    found = []
    for fast in card.feed.fasts:
        if fast.first < end and fast.last >= begin:
            said = _("No food for %(name)s: %(why)s") % {"name": name, "why": rotawords.FASTS[fast.why]}
            uid = f"fast-{habitat.pk}-{fast.first.isoformat()}"
            found.append(CalendarEntry(uid, max(fast.first, begin), said, _("Offer nothing; water as always."), until=fast.last))
    return found


def jobs_of(habitat: Habitat, days: Days, kept: str = "") -> list[CalendarEntry]:
    """The chores of one habitat; what it is kept at stands with the thermometers."""
    found = []
    for item in days.jobs:
        said = rotawords.job(item.id)
        when = f"-{item.at:%H%M}" if item.at else ""
        uid = f"{item.id.replace('/', '-')}-{habitat.pk}-{item.day.isoformat()}{when}"
        text = " ".join(
            str(part) for part in (said.why, caution_of(habitat, item.id), kept if item.id == "thermometers" else "") if part
        )
        found.append(CalendarEntry(uid, item.day, f"{said.name}: {habitat.name}", text, item.at))
    return found


def notices_of(habitats: list[Habitat], today: date, units: KeeperUnits) -> list[CalendarEntry]:
    """What the watch tells of some habitats and has not put aside: on the day it began, up to today."""
    standing = Notice.objects.filter(habitat__in=[habitat.pk for habitat in habitats], ended_at__isnull=True)
    found = []
    for row in standing.exclude(quiet_until__gte=today).select_related("habitat", "animal").order_by("since", "id"):
        said, first = watchwords.words(WatchCode(row.code), noticed.unpacked(row.told), units)
        name = row.animal.called if row.animal is not None else row.habitat.name if row.habitat is not None else ""
        since = log.day_of(row.since)
        found.append(CalendarEntry(f"notice-{row.pk}", min(since, today), f"{name}: {said}", first, until=today))
    return found


def ended(text: str) -> str:
    """A line with its stop, where it has none of its own."""
    return text if text.endswith((".", "?", "!")) else f"{text}."


def days_of(habitat: Habitat, card: Card, days: Days, kept: str, *, feeds_only: bool) -> list[CalendarEntry]:
    """All that is due in one habitat on a day as one entry of that day: what has no time first, then by the clock."""
    lines: dict[date, list[tuple[str, str]]] = {}
    for entry in feeds_of(habitat, card, days):
        lines.setdefault(entry.day, []).append((f"{card.feed_at:%H:%M}", f"{ended(entry.summary)} {entry.description}"))
    for item in () if feeds_only else days.jobs:
        said = rotawords.job(item.id)
        text = " ".join(part for part in (ended(str(said.name)), caution_of(habitat, item.id)) if part)
        lines.setdefault(item.day, []).append((f"{item.at:%H:%M}" if item.at else "", text))
    found = []
    for day, told in sorted(lines.items()):
        rows = [f"{at} {text}".strip() for at, text in sorted(told, key=lambda line: line[0])]
        summary = _("%(name)s: %(count)s to do") % {"name": habitat.name, "count": len(rows)}
        found.append(CalendarEntry(f"day-{habitat.pk}-{day.isoformat()}", day, summary, "\n".join([*rows, kept] if kept else rows)))
    return found
