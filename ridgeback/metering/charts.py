"""Charts of a habitat's channels: measured over foretold with its spread, over the band that held."""

from collections import defaultdict
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Any, Final

from django.utils import timezone
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from ridgeback import clock
from ridgeback.drawing import series as drawing
from ridgeback.drawing.series import Series, Stretch
from ridgeback.language import dates
from ridgeback.language.placewords import PLACE_NAMES
from ridgeback.language.wording import part_names
from ridgeback.metering.measured import JudgedPlan
from ridgeback.series import reading
from ridgeback.series.models import Channel
from ridgeback.series.places import OWN, PLACES, POWER
from ridgeback.units import KeeperUnits

SPANS: Final = {"day": 1, "days": 3, "week": 7, "month": 31, "quarter": 92, "year": 366}
SPAN_WORDS: Final = {
    "day": _("a day"),
    "days": _("three days"),
    "week": _("a week"),
    "month": _("a month"),
    "quarter": _("three months"),
    "year": _("a year"),
}
BANDS_WITHIN: Final = timedelta(days=8)  # beyond that day and night are narrower than a line
LAID_DAYS: Final = 7
MOST_ROWS: Final = 260  # of a table beside a chart
LONGEST: Final = timedelta(days=3660)


@dataclass(frozen=True)
class Span:
    """From when to when is looked at; `name` where it is one of `SPANS` up to now."""

    since: datetime
    until: datetime
    name: str = ""

    @property
    def query(self) -> str:
        """The same as a query."""
        if self.name:
            return f"span={self.name}"
        return f"from={timezone.localtime(self.since):%Y-%m-%dT%H:%M}&to={timezone.localtime(self.until):%Y-%m-%dT%H:%M}"

    def moved(self, by: float) -> "Span":
        """The same length, moved by so many lengths."""
        length = self.until - self.since
        return Span(self.since + by * length, self.until + by * length)

    def widened(self, factor: float) -> "Span":
        """About the same middle, so many times as long."""
        middle, half = self.since + (self.until - self.since) / 2, (self.until - self.since) / 2 * factor
        half = min(max(half, timedelta(minutes=30)), LONGEST / 2)
        return Span(middle - half, middle + half)


def span_of(query: Any) -> Span:
    """The span out of a request: one of `SPANS`, or `from` and `to` as the keeper's clock has them; a day for anything else."""
    now, name = clock.now(), query.get("span", "")
    since, until = _typed(query.get("from", "")), _typed(query.get("to", ""))
    if since is not None and until is not None and timedelta(minutes=1) <= until - since <= LONGEST:
        return Span(since, until)
    name = name if name in SPANS else "day"
    return Span(now - timedelta(days=SPANS[name]), now, name)


def _typed(text: str) -> datetime | None:
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        return None
    if not 2000 <= found.year <= 2200:
        return None
    return timezone.make_aware(found) if found.tzinfo is None else found


def name_of(channel: Channel, beside: JudgedPlan | None) -> str:
    """What a channel is called: its own label, its place, and which heater's."""
    if channel.label:
        return channel.label
    name = str(PLACE_NAMES[channel.place])
    if channel.place == POWER and beside is not None and channel.heater < len(beside.plan.heaters):
        kind = beside.plan.heaters[channel.heater].kind
        return f"{part_names().get(kind, kind)}, {channel.heater + 1}"
    if channel.place == OWN:
        return channel.code
    return name[:1].upper() + name[1:]


def chart(channel: Channel, beside: JudgedPlan | None, span: Span, units: KeeperUnits) -> dict[str, Any]:
    """A channel's chart and the table that says the same."""
    line = reading.line(channel, span.since, span.until)
    unit = PLACES[channel.place].unit
    foretold = reading.foretold(channel, span.since, span.until) if span.until - span.since <= reading.HOURS_SPAN else []
    points = [(point.at, point.mean, point.low, point.high) for point in line.points]
    bands = stretches(channel, beside, span) if beside is not None else []
    drawn = drawing.draw(Series(points, line.step, unit, foretold, bands), span.since, span.until, units)
    return {
        "channel": channel,
        "name": name_of(channel, beside),
        "drawn": drawn,
        "rows": table(channel, span, units),
        "last": None if channel.last_value is None else units.say(Measure(channel.last_value, unit)),
    }


def stretches(channel: Channel, beside: JudgedPlan, span: Span) -> list[Stretch]:
    """The bands that held: each hour's, put together where they are the same."""
    if span.until - span.since > BANDS_WITHIN:
        return []
    found: list[Stretch] = []
    at = span.since
    while at < span.until:
        end = min(at + timedelta(minutes=30), span.until)
        quantity = beside.quantity(channel.place, beside.phase_at(at + (end - at) / 2))
        band = None if quantity is None else quantity.band
        if band is not None and quantity is not None and quantity.phase in ("", beside.phase_at(at + (end - at) / 2)):
            last = found[-1] if found else None
            if last is not None and last.until == at and (last.low, last.high) == (band.low, band.high):
                found[-1] = Stretch(last.since, end, band.low, band.high)
            else:
                found.append(Stretch(at, end, band.low, band.high))
        at = end
    return found


def table(channel: Channel, span: Span, units: KeeperUnits) -> list[dict[str, Any]]:
    """The same in rows: hours within some days, days beyond; the mean, the lowest, the highest, what was foretold."""
    unit = PLACES[channel.place].unit
    by_hours = span.until - span.since <= timedelta(hours=MOST_ROWS / 3)
    wide = Span(span.since, span.until) if by_hours else span
    foretold = {at: mean for at, mean, _sigma in reading.foretold(channel, wide.since, wide.until)}
    line = reading.line(channel, span.since, max(span.until, span.since + reading.RAW_SPAN * 1.01))
    points = [point for point in line.points if point.at <= span.until]
    if line.step < timedelta(days=1) and not by_hours:
        points = _by_days(points)
    said = []
    for point in points[-MOST_ROWS:]:
        local = timezone.localtime(point.at)
        hour = dates.shown(local.replace(minute=0), "j M, H:i")
        said.append(
            {
                "when": hour if by_hours else dates.shown(local, "j M Y"),
                "mean": units.say(Measure(point.mean, unit)),
                "low": units.say(Measure(point.low, unit)),
                "high": units.say(Measure(point.high, unit)),
                "foretold": units.say(Measure(foretold[point.at], unit)) if by_hours and point.at in foretold else "",
            }
        )
    return said


def _by_days(points: list[reading.Point]) -> list[reading.Point]:
    days: dict[date, list[reading.Point]] = defaultdict(list)
    for point in points:
        days[timezone.localtime(point.at).date()].append(point)
    found = []
    for day, inside in sorted(days.items()):
        noon = timezone.make_aware(datetime.combine(day, time(12)))
        mean = sum(point.mean for point in inside) / len(inside)
        found.append(reading.Point(noon, mean, min(point.low for point in inside), max(point.high for point in inside)))
    return found


def laid(channel: Channel, last: date, units: KeeperUnits) -> dict[str, Any] | None:
    """The hours of the last days laid over one another."""
    begin = timezone.make_aware(datetime.combine(last - timedelta(days=LAID_DAYS - 1), time()))
    hours = reading.hours_of([channel.pk], begin, begin + timedelta(days=LAID_DAYS))[channel.pk]
    days: dict[date, list[tuple[float, float]]] = defaultdict(list)
    for at in sorted(hours):
        local = timezone.localtime(at + timedelta(minutes=30))
        days[local.date()].append((local.hour + local.minute / 60, hours[at]))
    named = [(dates.shown(day, "D j M"), points) for day, points in sorted(days.items())]
    return drawing.laid_over(named, PLACES[channel.place].unit, units)
