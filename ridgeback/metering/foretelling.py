"""What channels should have shown, kept beside what they did; how far they usually differ; and what has failed."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Final

import numpy as np
from django.utils import timezone
from numpy.typing import NDArray

from husbandry.climate.calibrate import PLACES
from husbandry.climate.case import EnclosureCase
from husbandry.codes import WatchCode
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.watch import faults
from husbandry.watch.faults import Offsets, Suspect
from husbandry.watch.foretold import HOURS, POWER, Where, foretell, in_room
from ridgeback.daybook.models import Notice
from ridgeback.metering import measured
from ridgeback.planner import counted
from ridgeback.planner.once import once_small
from ridgeback.rooms.models import Habitat
from ridgeback.series import reading
from ridgeback.series.models import Channel, ForetoldHour, Hour

Floats = NDArray[np.float64]

LEARNT_DAYS: Final = 14  # of which is told how far readings usually stand from the model
ROOM_UNKNOWN_K: Final = 1.5  # what a room that nobody measures may be off by from day to day
LEAST_HOURS: Final = 3  # of readings, before anything is judged
DAY: Final = timedelta(days=1)
HOUR: Final = timedelta(hours=1)


@dataclass(frozen=True)
class Placed:
    """A habitat's channels that the model knows, and where each is."""

    channels: list[Channel]
    where: list[Where]


def placed(habitat: Habitat, plan: HabitatPlan) -> Placed:
    """The habitat's channels that the climate model knows."""
    pairs = [(channel, where) for channel in measured.channels_of(habitat) if (where := measured.where_of(channel, plan))]
    return Placed([channel for channel, _where in pairs], [where for _channel, where in pairs])


def full_hour(at: datetime) -> datetime:
    """The last full hour, in UTC."""
    return at.astimezone(UTC).replace(minute=0, second=0, microsecond=0)


def foretell_day(habitat: Habitat, plan: HabitatPlan, until: datetime) -> None:
    """Keep what the 24 hours before a full hour should have shown, where that is not kept yet."""
    known = placed(habitat, plan)
    if not known.channels:
        return
    mean = _mean_of_day(habitat, plan, known, until)
    case, season = in_room(enclosure_case(plan), measured.room_of(habitat, plan, until).state)
    sigma = _sigma(plan, case, season, known.where)
    rows = []
    for turn in range(HOURS):
        at = until - (turn + 1) * HOUR
        hour = timezone.localtime(at + HOUR / 2).hour
        for place, channel in enumerate(known.channels):
            if np.isfinite(mean[place, hour]):
                values = {"mean": float(mean[place, hour]), "sigma": float(sigma[place, hour])}
                rows.append(ForetoldHour(channel_id=channel.pk, at=at, **values))
    ForetoldHour.objects.bulk_create(rows, ignore_conflicts=True)


def catch_up(habitat: Habitat, plan: HabitatPlan, until: datetime) -> None:
    """Foretell the days before that were measured and are not foretold yet, as far back as is looked for what is usual."""
    known = placed(habitat, plan)
    keys = [channel.pk for channel in known.channels]
    since = _unchanged_since(habitat, plan, until)
    for turn in range(1, LEARNT_DAYS + 1):
        end = until - turn * DAY
        if end < since:
            return
        within = {"channel__in": keys, "at__gte": end - DAY, "at__lt": end}
        if Hour.objects.filter(**within).exists() and ForetoldHour.objects.filter(**within).count() < HOURS:
            foretell_day(habitat, plan, end)


def _mean_of_day(habitat: Habitat, plan: HabitatPlan, known: Placed, until: datetime) -> Floats:
    """What the 24 hours before a full hour should have shown in the room as it was, (places, 24)."""
    case, season = in_room(enclosure_case(plan), measured.room_of(habitat, plan, until).state)
    return foretell(case, season, known.where, spread=False).mean


def _sigma(plan: HabitatPlan, case: EnclosureCase, season: str, where: Sequence[Where]) -> Floats:
    """One standard deviation by place and hour: it hardly hangs on the room, and is worked out once for a plan."""
    key = ("sigma", plan.model_dump_json(), tuple(where), season)
    return once_small(key, lambda: foretell(case, season, where).sigma)


def judge(habitat: Habitat, plan: HabitatPlan, until: datetime) -> list[tuple[Suspect, Channel | None]]:
    """What has failed in the 24 hours before a full hour, likeliest first, each with the channel it is about where it is one's."""
    known = placed(habitat, plan)
    since = _unchanged_since(habitat, plan, until)
    hours = reading.hours_of([channel.pk for channel in known.channels], max(since, until - DAY), until)
    read = np.array([measured.by_clock(hours[channel.pk].items()) for channel in known.channels]).reshape(-1, HOURS)
    if not known.channels or np.isfinite(read).any(axis=0).sum() < LEAST_HOURS:
        return []
    room = measured.room_of(habitat, plan, until)
    case, season = in_room(enclosure_case(plan), room.state)
    offsets = _offsets(habitat, plan, known, (case, season), (since, until), room_known=room.measured)
    last_hour = timezone.localtime(until - HOUR / 2).hour
    found = faults.judge(case, season, known.where, read, offsets, last_hour)
    return [(suspect, known.channels[suspect.place] if suspect.place >= 0 else None) for suspect in found]


def _unchanged_since(habitat: Habitat, plan: HabitatPlan, until: datetime) -> datetime:
    """Since when the plan's climate stands as it does, at most as long as is looked back."""
    climate, _light = counted.standing_since(habitat, plan, until - (LEARNT_DAYS + 1) * DAY)
    return full_hour(climate) if climate < until else until


def _offsets(
    habitat: Habitat,
    plan: HabitatPlan,
    known: Placed,
    modelled: tuple[EnclosureCase, str],
    span: tuple[datetime, datetime],
    *,
    room_known: bool,
) -> Offsets:
    """How far the channels usually stand from what is foretold: of the days before, without those in which something had failed."""
    (case, season), (since, until) = modelled, span
    lit = faults.lit_hours(case)
    keys = [channel.pk for channel in known.channels]
    troubled = list(Notice.objects.filter(habitat=habitat, code=WatchCode.MODEL_DRIFT.value))
    days = []
    for turn in range(1, LEARNT_DAYS + 1):
        end = until - turn * DAY
        if end - DAY < since or any(
            one.since - DAY < end and (one.ended_at is None or end - DAY < one.ended_at) for one in troubled
        ):
            continue
        hours = reading.hours_of(keys, end - DAY, end)
        if any(hours.values()):
            read = np.array([measured.by_clock(hours[key].items()) for key in keys])
            # As the plan foretells it now: what it has learnt meanwhile is no change of the enclosure.
            days.append(faults.daily_offset(read - _mean_of_day(habitat, plan, known, end), lit))
    sigma = _sigma(plan, case, season, known.where)
    own = np.array([_sure(channel) for channel in known.channels])[:, None]
    phases = [lit == bool(phase) if (lit == bool(phase)).any() else np.ones(HOURS, bool) for phase in (0, 1)]
    by_phase = np.stack([sigma[:, hours].mean(axis=1) for hours in phases], axis=1)
    watts = [heater.watts for heater in case.heaters]
    offsets = faults.usual_offsets(days, known.where, np.hypot(by_phase, own), watts)
    if room_known:
        return offsets
    extra = np.array([ROOM_UNKNOWN_K if faults.unit_of(one) == "degC" else 0.0 for one in known.where])[:, None]
    return Offsets(offsets.middle, np.hypot(offsets.sigma, extra))


def _sure(channel: Channel) -> float:
    """What a channel's instrument is sure to, one standard deviation; of a plug nothing is asked."""
    if channel.place == POWER:
        return 0.0
    usual = 0.5 if PLACES.get(channel.place) is None or PLACES[channel.place].unit == "degC" else 3.0
    return channel.instrument.sure_to if channel.instrument is not None else usual
