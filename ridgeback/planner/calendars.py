"""The feeding plan as an iCalendar file."""

from datetime import datetime, timedelta

from django.utils.translation import gettext as _
from icalendar import Calendar, Event

from husbandry.plan.result import FeedDay, Menu
from ridgeback.planner import wording
from ridgeback.planner.feeds import ration_text
from ridgeback.units import KeeperUnits


def feeding_calendar(habitat_id: int, name: str, menu: Menu, made_at: datetime, units: KeeperUnits) -> bytes:
    """Return the four weeks of feeds as all-day events; the same feed keeps its identity from one export to the next."""
    calendar = Calendar()
    calendar.add("prodid", "-//Ridgeback//feeding//EN")
    calendar.add("version", "2.0")
    calendar.add("calscale", "GREGORIAN")
    calendar.add("x-wr-calname", _("Feeding %(name)s") % {"name": name})
    rations = "; ".join(ration_text(ration, units) for ration in menu.rations)
    for feed in menu.days:
        event = Event()
        event.add("uid", f"feed-{habitat_id}-{feed.day.isoformat()}@ridgeback")
        event.add("dtstamp", made_at)
        event.add("dtstart", feed.day)
        event.add("dtend", feed.day + timedelta(days=1))
        event.add("summary", _summary(name, feed))
        event.add("description", f"{rations}. {menu.time_of_day.capitalize()}.")
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def _summary(name: str, feed: FeedDay) -> str:
    products = " + ".join(str(wording.CHOICES["product"][item.product.name]) for item in feed.dusting)
    fed = _("Feed %(name)s") % {"name": name}
    return f"{fed} + {products}" if products else fed
