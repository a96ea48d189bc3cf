"""Feeds and chores as an iCalendar file (RFC 5545), by the icalendar library."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from django.utils.translation import gettext as _
from icalendar import Calendar, Event

from husbandry.plan.card import Card, Days
from ridgeback.planner.wording import CHOICES
from ridgeback.rooms.models import Habitat
from ridgeback.rota import menu, words

JOB_MINUTES = 10


@dataclass(frozen=True)
class Entry:
    """One line of a calendar: a whole day, or at a clock time, which follows the reader's own clock."""

    uid: str
    day: date
    summary: str
    description: str
    at: time | None = None


def calendar(name: str, entries: Iterable[Entry], made_at: datetime) -> bytes:
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
            event.add("dtend", entry.day + timedelta(days=1))
        else:
            begin = datetime.combine(entry.day, entry.at)
            event.add("dtstart", begin)
            event.add("dtend", begin + timedelta(minutes=JOB_MINUTES))
        event.add("summary", entry.summary)
        event.add("description", entry.description)
        event.add("transp", "TRANSPARENT")
        made.add_component(event)
    return bytes(made.to_ical())


def feeds_of(habitat: Habitat, card: Card, days: Days) -> list[Entry]:
    """The feeds of one habitat with what goes on them."""
    name = habitat.animal.name or habitat.name
    found = []
    for feed in days.feeds:
        products = " + ".join(str(CHOICES["product"][item.product.name]) for item in days.dusting[feed.day])
        foods = menu.foods_text(days.foods[feed.day])
        said = _("Feed %(name)s") % {"name": name}
        text = f"{foods}. {card.time_of_day.capitalize()}." if foods else f"{card.time_of_day.capitalize()}."
        found.append(
            Entry(f"feed-{habitat.pk}-{feed.day.isoformat()}", feed.day, f"{said} + {products}" if products else said, text)
        )
    return found


def jobs_of(habitat: Habitat, days: Days) -> list[Entry]:
    """The chores of one habitat."""
    found = []
    for item in days.jobs:
        said = words.job(item.id)
        when = f"-{item.at:%H%M}" if item.at else ""
        uid = f"{item.id.replace('/', '-')}-{habitat.pk}-{item.day.isoformat()}{when}"
        text = f"{said.why} {said.caution}".strip()
        found.append(Entry(uid, item.day, f"{said.name}: {habitat.name}", text, item.at))
    return found
