"""What instruments reported of a habitat, as readings that teach: of each place the end of the light and of the dark, over days.

An instrument errs by the same each day: a week of it is one reading with the instrument's own doubt, and no more than that.
"""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Final

from django.utils import timezone

from husbandry.climate.calibrate import PLACES
from husbandry.plan.equipment import hours_of
from husbandry.plan.habitat import HabitatPlan
from ridgeback.daybook.models import Notice
from ridgeback.language.placewords import OWN, UV_BACK
from ridgeback.planner.counted import standing_since
from ridgeback.planner.readings import Spot, Taken, probe_name
from ridgeback.rooms.models import Habitat
from ridgeback.series import reading
from ridgeback.series.models import Channel
from ridgeback.series.places import ROOM_AIR, ROOM_HUMIDITY

DAYS: Final = 7
LEAST_DAYS: Final = 3
USUAL_SURE: Final = {"degC": 0.5, "%": 3.0, "UVI": 0.3}  # where nobody said what an instrument is sure to
SAME_M: Final = 0.02
By_hour = dict[int, dict[datetime, float]]


def reported(habitat: Habitat, plan: HabitatPlan, now: datetime) -> list[Taken]:
    """The readings that a habitat's channels come to; none where the room is not measured or the plan has just been changed."""
    lit = plan.daylight
    if lit.on == lit.off:
        return []
    channels = [
        channel
        for channel in Channel.objects.filter(habitat=habitat, ended_at__isnull=True).select_related("instrument")
        if channel.place in PLACES or channel.place == UV_BACK
    ]
    room = reading.room_channels(habitat.room_id, habitat.pk)
    since = max(standing_since(habitat, plan, now - timedelta(days=DAYS + 1))[0], now - timedelta(days=DAYS + 1))
    hours = reading.hours_of([channel.pk for channel in [*channels, *room]], since, now)
    moments = [moment for moment in _moments(plan, since, now) if not _troubled(habitat, moment)]
    found = []
    for ends in (0, 1):  # the end of the light, the end of the dark
        at = [moment for moment, end in zip(moments, _ends(plan, moments), strict=True) if end == ends]
        beside = [_mean(room, place, hours, at) for place in (ROOM_AIR, ROOM_HUMIDITY)]
        if beside[0] is None:
            continue
        for channel in channels:
            if channel.place == UV_BACK and ends == 1:
                continue
            said = [hours[channel.pk][moment] for moment in at if moment in hours[channel.pk]]
            if len(said) >= LEAST_DAYS:
                percent = beside[1] if beside[1] is not None else plan.room.winter.humidity_percent
                found.append(_taken(channel, plan, max(at), sum(said) / len(said), (beside[0], percent), len(said)))
    return found


def _moments(plan: HabitatPlan, since: datetime, now: datetime) -> list[datetime]:
    """The full hours that end before the light turns, within a span."""
    wanted = {int((hours_of(turn) - 1.0) % 24) for turn in (plan.daylight.off, plan.daylight.on)}
    at = since.replace(minute=0, second=0, microsecond=0) + timedelta(hours=1)
    found = []
    while at + timedelta(hours=1) <= now:
        if timezone.localtime(at).hour in wanted:
            found.append(at)
        at += timedelta(hours=1)
    return found


def _ends(plan: HabitatPlan, moments: Iterable[datetime]) -> list[int]:
    """Of each moment 0 where the light is about to end, 1 where the dark is."""
    return [0 if plan.daylight.runs_at(timezone.localtime(at).hour + 0.5) else 1 for at in moments]


def _troubled(habitat: Habitat, at: datetime) -> bool:
    """Tell whether something had failed then: what a broken lamp shows teaches nothing of the enclosure."""
    rows = _troubles(habitat)
    return any(since - timedelta(days=1) <= at and (until is None or at <= until) for since, until in rows)


def _troubles(habitat: Habitat) -> list[tuple[datetime, datetime | None]]:
    known: list[tuple[datetime, datetime | None]] | None = getattr(habitat, "troubles_known", None)
    if known is None:
        known = list(Notice.objects.filter(habitat=habitat, code="reading.drift").values_list("since", "ended_at"))
        habitat.troubles_known = known  # type: ignore[attr-defined]
    return known


def _mean(channels: list[Channel], place: str, hours: By_hour, at: list[datetime]) -> float | None:
    for channel in channels:
        said = [hours[channel.pk][moment] for moment in at if moment in hours[channel.pk]]
        if channel.place == place and len(said) >= LEAST_DAYS:
            return sum(said) / len(said)
    return None


def _taken(channel: Channel, plan: HabitatPlan, at: datetime, value: float, room: tuple[float, float], days: int) -> Taken:
    unit = "UVI" if channel.place == UV_BACK else PLACES[channel.place].unit
    sure = channel.instrument.sure_to if channel.instrument is not None else USUAL_SURE[unit]
    by = channel.instrument.name if channel.instrument is not None else channel.code
    spot = _spot(channel, plan) if channel.place == OWN else None
    local = timezone.localtime(at) + timedelta(minutes=30)
    return Taken(0, local, channel.place, value, value, sure, by, *room, spot=spot, days=days)


def _spot(channel: Channel, plan: HabitatPlan) -> Spot:
    x_m, height_m = channel.x_m or 0.0, channel.height_m or 0.0
    near = [n for n, probe in enumerate(plan.probes) if max(abs(probe.x_m - x_m), abs(probe.height_m - height_m)) <= SAME_M]
    return Spot(probe_name(plan, near[0]) if near else channel.code, x_m, height_m)
