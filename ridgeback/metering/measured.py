"""A habitat's channels beside its plan: where each is in the model, which band holds at a moment, how the room was."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Final

import numpy as np
from django.utils import timezone
from numpy.typing import NDArray

from husbandry.assess.nutrition import season_of
from husbandry.assess.result import Assessment
from husbandry.assessment import Band, Quantity
from husbandry.climate.case import ProbeCase, RoomState
from husbandry.plan.equipment import hours_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.watch.foretold import HOURS, POWER, Where
from husbandry.watch.lines import SETTLED_MIN
from ridgeback.daybook import log
from ridgeback.planner import bench, mapping
from ridgeback.planner.readings import QUANTITY_OF
from ridgeback.planner.view import View
from ridgeback.rooms.models import Habitat
from ridgeback.series import reading
from ridgeback.series.models import Channel
from ridgeback.series.places import MISTED, OF_THE_ROOM, OWN, PLACES, ROOM_AIR, ROOM_HUMIDITY, UV_BACK, WEIGHT

Floats = NDArray[np.float64]

ROOM_HOURS: Final = 18  # of a day's hours that the room has to have been read in
SAME_M: Final = 0.02


def channels_of(habitat: Habitat) -> list[Channel]:
    """The habitat's channels that are in use, its places first."""
    found = Channel.objects.filter(habitat=habitat, ended_at__isnull=True).select_related("instrument", "habitat")
    order = list(QUANTITY_OF)
    return sorted(
        found, key=lambda channel: (order.index(channel.place) if channel.place in order else 99, channel.heater, channel.pk)
    )


def where_of(channel: Channel, plan: HabitatPlan) -> Where | None:
    """Where a channel is in the climate model; None for what that does not know: UV, the room, a heater that is gone."""
    if channel.place in (*OF_THE_ROOM, UV_BACK, MISTED, WEIGHT):
        return None
    if channel.place == POWER:
        return Where(POWER, None, channel.heater) if channel.heater < len(plan.heaters) else None
    if channel.place == OWN:
        inside = channel.x_m is not None and channel.height_m is not None
        return Where(OWN, ProbeCase(channel.x_m or 0.0, channel.height_m or 0.0)) if inside else None
    return Where(channel.place)


@dataclass(frozen=True)
class JudgedPlan:
    """A plan with what it is judged by: its assessment, and the season whose bands hold now."""

    plan: HabitatPlan
    found: Assessment
    season: str

    def quantity(self, place: str, phase: str) -> Quantity | None:
        """The quantity that is read at a place by day or by night, in the season that holds."""
        key = QUANTITY_OF.get(place)
        candidates = [item for item in self.found.quantities if item.key == key]
        best = [item for item in candidates if item.season in ("", self.season) and item.phase in ("", phase)]
        return best[0] if best else None

    def phase_at(self, at: datetime) -> str:
        """Day or night by the plan's light at a moment."""
        local = timezone.localtime(at)
        return "day" if self.plan.daylight.runs_at(local.hour + local.minute / 60) else "night"

    def settled(self, at: datetime) -> bool:
        """Tell whether the light has stood as it does for two hours."""
        lit = self.plan.daylight
        if lit.on == lit.off:
            return True
        local = timezone.localtime(at)
        hour = local.hour + local.minute / 60
        return all((hour - hours_of(turn)) % 24 * 60 >= SETTLED_MIN for turn in (lit.on, lit.off))

    def band(self, place: str, at: datetime) -> Band | None:
        """The band that a reading is held against at a moment; None where nothing is judged then.

        Within two hours of the light's turning only what burns by day is judged: that waits for nothing.
        """
        phase = self.phase_at(at)
        quantity = self.quantity(place, phase)
        if quantity is None or quantity.band is None or quantity.phase not in ("", phase):
            return None
        if not quantity.phase or self.settled(at):
            return quantity.band
        if phase == "day" and quantity.band.danger_high is not None:
            return replace(quantity.band, low=None, high=None, danger_low=None)
        return None


def beside(habitat: Habitat, now: datetime) -> JudgedPlan:
    """Read a habitat's plan and assess it. Raises mapping.UnreadablePlanError."""
    plan, today = mapping.plan_of(habitat), log.day_of(now)
    _profile, found = bench.assessed(habitat, plan, today, View(), bench.AT_A_GLANCE)
    return JudgedPlan(plan, found, season_of(plan, today))


@dataclass(frozen=True)
class RoomDay:
    """The room over a day by hour of the clock, and whether it was measured or is the plan's own."""

    state: RoomState
    measured: bool


def room_of(habitat: Habitat, plan: HabitatPlan, until: datetime) -> RoomDay:
    """The room in the 24 hours before a full hour: as it was measured, else as the plan has it in that season."""
    usual = getattr(plan.room, season_of(plan, log.day_of(until)))
    channels = reading.room_channels(habitat.room_id, habitat.pk)
    hours = reading.hours_of([channel.pk for channel in channels], until - timedelta(hours=HOURS), until)
    air = by_clock_first(channels, ROOM_AIR, hours)
    percent = by_clock_first(channels, ROOM_HUMIDITY, hours)
    humidity = float(np.nanmean(percent)) if np.isfinite(percent).any() else usual.humidity_percent
    known = np.isfinite(air)
    if known.sum() < ROOM_HOURS:
        return RoomDay(RoomState(usual.day_c, usual.night_c, humidity, tuple(usual.curve_c or ())), measured=False)
    places = np.arange(HOURS)
    filled = np.interp(places, places[known], air[known], period=HOURS)
    lit = np.array([plan.daylight.runs_at(hour + 0.5) for hour in range(HOURS)])
    day = float(filled[lit].mean()) if lit.any() else float(filled.mean())
    night = float(filled[~lit].mean()) if (~lit).any() else float(filled.mean())
    return RoomDay(RoomState(day, night, humidity, tuple(filled.tolist())), measured=True)


def by_clock_first(channels: Sequence[Channel], place: str, hours: dict[int, dict[datetime, float]]) -> Floats:
    """A day's hours of the first channel of a place by hour of the clock, (24,); nan where nothing was read."""
    for channel in channels:
        if channel.place == place and hours.get(channel.pk):
            return by_clock(hours[channel.pk].items())
    return np.full(HOURS, np.nan)


def by_clock(hours: Iterable[tuple[datetime, float]]) -> Floats:
    """Hours by the hour of the keeper's clock, (24,); nan where there is none."""
    found = np.full(HOURS, np.nan)
    for at, value in hours:
        found[timezone.localtime(at + timedelta(minutes=30)).hour] = value
    return found


def unit_of(channel: Channel) -> str:
    """The unit of a channel's readings."""
    return PLACES[channel.place].unit
