"""A channel as it is shown now: its value against its band, its age in words, how its heater was switched."""

from dataclasses import replace
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.assessment import Measure
from husbandry.watch import lines
from ridgeback.drawing.marks import mark
from ridgeback.metering import charts, measured
from ridgeback.metering.measured import JudgedPlan
from ridgeback.series import reading
from ridgeback.series.models import Channel
from ridgeback.units import KeeperUnits

ON_SHARE: Final = 0.1  # of a heater's watts, from which it is on


def row(channel: Channel, by: JudgedPlan, now: datetime, units: KeeperUnits) -> dict[str, Any]:
    """A channel now: its value, the mark against its band, its age, and its last day as a line."""
    unit = measured.unit_of(channel)
    phase = by.phase_at(now)
    quantity = by.quantity(channel.place, phase)
    value = channel.last_value
    shown = None
    minutes = None if channel.last_at is None else (now - channel.last_at).total_seconds() / 60
    stale = minutes is None or lines.silent(minutes, channel.every_min or 10.0)
    if quantity is not None and value is not None and quantity.band is not None and not stale:
        verdict = quantity.band.judge(value)
        shown = mark(replace(quantity, value=value, low=None, high=None, likely=None, read=None, verdict=verdict), units)
    return {
        "channel": channel,
        "name": charts.name_of(channel, by),
        "value": None if value is None else units.say(Measure(value, unit)),
        "mark": shown,
        "ago": "" if minutes is None else ago(minutes),
        "silent": channel.by_itself and stale,
    }


def ago(minutes: float) -> str:
    """How long ago, in words."""
    if minutes < 1.5:
        return _("now")
    if minutes < 90:
        return _("%(n)d min ago") % {"n": round(minutes)}
    if minutes < 48 * 60:
        return _("%(n)d h ago") % {"n": round(minutes / 60)}
    days = round(minutes / 1440)
    return ngettext("%(n)d day ago", "%(n)d days ago", days) % {"n": days}


def switching(channel: Channel, by: JudgedPlan, now: datetime, units: KeeperUnits) -> dict[str, Any]:
    """How a heater was switched in the last day: how long it was on, how often it turned, its power as a line."""
    since = now - timedelta(hours=24)
    line = reading.line(channel, since, now)
    watts = by.plan.heaters[channel.heater].watts if channel.heater < len(by.plan.heaters) else 0.0
    on = [point.mean > ON_SHARE * watts for point in line.points]
    share = sum(point.mean for point in line.points) / max(len(line.points), 1) / watts if watts else 0.0
    span = charts.Span(since, now, "day")
    return row(channel, by, now, units) | {
        "on": bool(on) and on[-1],
        "share": round(100 * share),
        "turns": sum(1 for one, two in pairwise(on) if one != two),
        "chart": charts.chart(channel, by, span, units),
        "watts": units.say(Measure(watts, "W")),
    }
