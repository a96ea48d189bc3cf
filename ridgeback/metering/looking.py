"""The watch over instruments: what is out of band, silent, drifting or worn, kept as notices that begin and end."""

from collections.abc import Iterable, Iterator
from datetime import datetime, time, timedelta
from typing import Any, Final

import numpy as np
from django.utils import timezone

from husbandry.assessment import Band, Measure, Parameter
from husbandry.climate.heaters import HEATERS
from husbandry.codes import WatchCode
from husbandry.light.ultraviolet import LAMPS
from husbandry.units import DAYS_A_MONTH
from husbandry.watch import lines
from husbandry.watch.rules import Level
from ridgeback.daybook import log, noticed
from ridgeback.daybook.models import Event, Notice
from ridgeback.metering import foretelling, measured
from ridgeback.metering.measured import JudgedPlan
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Room
from ridgeback.series.models import Channel, Hour, Sample
from ridgeback.series.places import PLACES, POWER

LOOKED_BACK: Final = timedelta(hours=12)
MOST_ROWS: Final = 2_000
OUT_CODES: Final = (WatchCode.READING_OUT, WatchCode.READING_DANGER, WatchCode.HIDE_DRY)
HIDE: Final = "humid-hide"
# Hours that lamps of a kind burn until they fail or fade (trade: what is printed on the boxes of generic kinds).
BURNS_H: Final = {
    "reflector-flood": 2000.0, "reflector-spot": 2000.0, "halogen-flood": 2000.0, "ceramic-emitter": 10_000.0,
    "infrared-projector": 6000.0, "vapour-combined": 4000.0, "halide-combined": 4000.0,
}  # fmt: skip
BURNING_SHARE: Final = 0.1  # of its watts, from which a lamp burns


def look(habitat: Habitat, now: datetime) -> list[Notice]:
    """Look at a habitat's readings, and keep what there is to look at; returns what is new."""
    try:
        by = measured.beside(habitat, now)
    except mapping.UnreadablePlanError:
        return []
    channels = measured.channels_of(habitat)
    found = [*_out(by, channels, now), *_silent(channels, now), *_worn(habitat, by, channels, now)]
    codes = (*OUT_CODES, WatchCode.LOGGER_SILENT, WatchCode.LAMP_OLD, WatchCode.LAMP_HOURS)
    return noticed.keep(habitat.room_id, habitat, codes, found, now)


def look_at_room(room: Room, now: datetime) -> list[Notice]:
    """The same of the room's own channels: whether they are silent."""
    channels = list(Channel.objects.filter(room=room, habitat__isnull=True, ended_at__isnull=True))
    return noticed.keep(room.pk, None, (WatchCode.LOGGER_SILENT,), list(_silent(channels, now)), now)


def look_for_faults(habitat: Habitat, now: datetime) -> list[Notice]:
    """Foretell the last day, and keep what has failed where measurement and model drift apart."""
    try:
        plan = mapping.plan_of(habitat)
    except mapping.UnreadablePlanError:
        return []
    until = foretelling.full_hour(now)
    foretelling.catch_up(habitat, plan, until)
    foretelling.foretell_day(habitat, plan, until)
    suspects = foretelling.judge(habitat, plan, until)
    standing = Notice.objects.filter(habitat=habitat, code=WatchCode.MODEL_DRIFT.value, ended_at__isnull=True).exists()
    if suspects and not standing and not foretelling.judge(habitat, plan, until - foretelling.HOUR):
        suspects = []  # what shows in a single look is chance more often than not
    found = []
    if suspects:
        first, about = suspects[0]
        told: dict[str, Parameter] = {"suspects": ";".join(_said(suspect, channel, plan) for suspect, channel in suspects)}
        since = until - timedelta(hours=first.since_h)
        found = [
            noticed.Found(
                WatchCode.MODEL_DRIFT,
                "measure",
                since,
                about.pk if about is not None and first.fault == "instrument" else None,
                "",
                told,
            )
        ]
    return noticed.keep(habitat.room_id, habitat, (WatchCode.MODEL_DRIFT,), found, now)


def _said(suspect: Any, channel: Channel | None, plan: Any) -> str:
    """A suspect as it is kept: fault, percent, and which heater's kind or which channel."""
    of = plan.heaters[suspect.heater].kind if 0 <= suspect.heater < len(plan.heaters) else ""
    of = channel.place if channel is not None else of
    return f"{suspect.fault.value}:{100 * suspect.share:.0f}:{of}"


def _out(by: JudgedPlan, channels: Iterable[Channel], now: datetime) -> Iterator[noticed.Found]:
    for channel in channels:
        if by.quantity(channel.place, "day") is None and by.quantity(channel.place, "night") is None:
            continue
        if channel.last_at is None or channel.last_at < now - LOOKED_BACK:
            continue
        rows = Sample.objects.filter(channel=channel, at__gte=now - LOOKED_BACK, at__lte=now).order_by("-at")
        read = list(rows.values_list("at", "value")[:MOST_ROWS])[::-1]
        if not read:
            continue
        minutes = np.array([(at - now).total_seconds() / 60 for at, _value in read])
        values = np.array([value for _at, value in read])
        bands = [by.band(channel.place, at) for at, _value in read]
        sure = channel.instrument.sure_to if channel.instrument is not None else 0.0
        out = lines.out_of_band(minutes, values, bands, channel.every_min or 10.0, sure)
        if out is not None and minutes[-1] >= -max(lines.SILENT_FACTOR * (channel.every_min or 10.0), lines.SILENT_MIN):
            yield _told_out(channel, out, bands, read[-1][0])


def _told_out(channel: Channel, out: lines.Out, bands: list[Band | None], last: datetime) -> noticed.Found:
    unit = PLACES[channel.place].unit
    limits = [_limit(band, out) for band in bands if band is not None]
    limit = next((one for one in reversed(limits) if one is not None), out.worst)
    told: dict[str, Parameter] = {
        "place": channel.place,
        "worst": Measure(out.worst, unit),
        "limit": Measure(limit, unit),
        "side": "over" if out.high else "under",
    }
    code = WatchCode.READING_DANGER if out.danger else WatchCode.READING_OUT
    if channel.place == HIDE and not out.high and not out.danger:
        code = WatchCode.HIDE_DRY
    level: Level = "measure" if out.danger or channel.place == HIDE else "look"
    until = last - timedelta(minutes=out.ago)
    if out.over:
        told["until"] = until.isoformat()
    return noticed.Found(code, level, until - timedelta(minutes=out.minutes), channel.pk, "", told)


def _limit(band: Band, out: lines.Out) -> float | None:
    """The edge of a band that a stretch lies beyond."""
    low, high = (band.danger_low, band.danger_high) if out.danger else (band.low, band.high)
    return high if out.high else low


def _silent(channels: Iterable[Channel], now: datetime) -> Iterator[noticed.Found]:
    for channel in channels:
        if channel.last_at is None or channel.every_min is None or not channel.by_itself:
            continue  # it has never spoken, or comes by files from time to time
        if lines.silent((now - channel.last_at).total_seconds() / 60, channel.every_min):
            said: dict[str, Parameter] = {"place": channel.place, "every": Measure(channel.every_min, "min")}
            yield noticed.Found(WatchCode.LOGGER_SILENT, "look", channel.last_at, channel.pk, "", said)


def _worn(habitat: Habitat, by: JudgedPlan, channels: Iterable[Channel], now: datetime) -> Iterator[noticed.Found]:
    """Lamps over their life: UV lamps by the day they were fitted, heaters by the hours that their plug has seen them burn."""
    today = log.day_of(now)
    for index, lamp in enumerate(by.plan.uv_lamps):
        if lamp.fitted is None:
            continue
        life = LAMPS[lamp.kind].rated_life_months
        over = lamp.fitted + timedelta(days=life * DAYS_A_MONTH)
        if over <= today:
            since = timezone.make_aware(datetime.combine(over, time(12)))
            told: dict[str, Parameter] = {"kind": lamp.kind, "life": Measure(life, "months")}
            yield noticed.Found(WatchCode.LAMP_OLD, "measure", since, None, f"uv-{index}", told)
    powers = [channel for channel in channels if channel.place == POWER and channel.heater < len(by.plan.heaters)]
    if not powers:
        return
    changed = Event.objects.filter(habitat=habitat, kind="habitat.lamp").order_by("-at").values_list("at", flat=True).first()
    for channel in powers:
        heater = by.plan.heaters[channel.heater]
        life_h = BURNS_H.get(heater.kind)
        if life_h is None:
            continue
        hours = Hour.objects.filter(channel=channel, mean__gt=BURNING_SHARE * heater.watts)
        burnt = (hours.filter(at__gte=changed) if changed is not None else hours).count()
        if burnt > life_h and HEATERS[heater.kind].light:
            said: dict[str, Parameter] = {"kind": heater.kind, "hours": float(burnt), "life": life_h}
            yield noticed.Found(WatchCode.LAMP_HOURS, "look", now, None, f"heater-{channel.heater}", said)
