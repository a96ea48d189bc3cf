"""The UV index at the back as the lamps age: foretold over their life, and what was measured of it."""

from datetime import date, datetime, time, timedelta
from typing import Any, Final

from django.utils import timezone

from husbandry.animal.body import body_of
from husbandry.assessment import Measure
from husbandry.inputs.ultraviolet import index_at_back
from husbandry.light.ultraviolet import LAMPS
from husbandry.units import DAYS_A_MONTH
from ridgeback.drawing import series as drawing
from ridgeback.drawing.series import Series, Stretch
from ridgeback.language import dates
from ridgeback.metering.measured import JudgedPlan
from ridgeback.planner import readings, revisions
from ridgeback.rooms.models import Habitat
from ridgeback.series.models import Channel, Hour
from ridgeback.series.places import UV_BACK
from ridgeback.units import KeeperUnits

STEPS: Final = 16
BEYOND: Final = 1.25  # of a lamp's life that is shown
SPREAD: Final = 0.2  # of the index, one standard deviation: lamps of a kind differ (estimate)


def decay(habitat: Habitat, by: JudgedPlan, today: date, units: KeeperUnits) -> dict[str, Any] | None:
    """Return the chart and its table; None where no lamp has a day it was fitted on."""
    fitted = [(lamp.fitted, LAMPS[lamp.kind].rated_life_months) for lamp in by.plan.uv_lamps if lamp.fitted is not None]
    if not fitted:
        return None
    first = min(day for day, _life in fitted)
    life = timedelta(days=max(life for _day, life in fitted) * DAYS_A_MONTH * BEYOND)
    last = max(first + life, today)
    profile = revisions.profile_of(habitat, by.plan.species)
    body = body_of(by.plan, profile, today)
    days = [first + (last - first) / STEPS * turn for turn in range(STEPS + 1)]
    foretold = [(_noon(day), index, SPREAD * index) for day in days if (index := index_at_back(by.plan, body, day)) > 0]
    points = _measured(habitat, first)
    quantity = by.quantity(UV_BACK, "day")
    band = None if quantity is None else quantity.band
    bands = [] if band is None else [Stretch(_noon(first), _noon(last), band.low, band.high)]
    step = max((last - first) / STEPS, timedelta(days=40))
    drawn = drawing.draw(Series(points, step, "UVI", foretold, bands), _noon(first), _noon(last), units, whole=True)
    rows = [{"day": day, "foretold": units.say(Measure(index, "UVI"))} for day, index, _sigma in foretold[::4]]
    read = [{"day": at, "value": units.say(Measure(mean, "UVI"))} for at, mean, _low, _high in points[-12:]]
    return {"drawn": drawn, "rows": rows, "read": read, "since": dates.shown(first, "j M Y")}


def _noon(day: date) -> datetime:
    return timezone.make_aware(datetime.combine(day, time(12)))


def _measured(habitat: Habitat, since: date) -> list[drawing.Point]:
    """What was read by hand and reported since the lamp was fitted: of each reported day its highest hour."""
    found: dict[date, drawing.Point] = {}
    for channel in Channel.objects.filter(habitat=habitat, place=UV_BACK):
        for at, mean in Hour.objects.filter(channel=channel, at__date__gte=since).order_by("at").values_list("at", "mean"):
            day = timezone.localtime(at).date()
            if day not in found or mean > found[day][1]:
                found[day] = (at, mean, mean, mean)
    for item in readings.of_habitat(habitat):
        if item.place == UV_BACK and item.at.date() >= since and not item.lamps_off:
            found[item.at.date()] = (item.at, item.value, item.value, item.value)
    return [found[day] for day in sorted(found)]
