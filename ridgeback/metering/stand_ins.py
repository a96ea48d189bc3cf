"""Stand-ins for instruments: they show what the day of a habitat would give, a little otherwise than its plan foretells.

The enclosure behind them differs from the plan by a hidden set of the models' parameters, the room has weather of its own, every
instrument has an error, a drift and noise, and now and then a reading is lost. Faults can be planted from a moment to a moment.
Everything follows from the names and the day, nothing from a key in the database: the same stand-in shows the same again.
"""

import hashlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from functools import cached_property, lru_cache
from typing import Final

import numpy as np
from django.utils import timezone
from numpy.typing import NDArray

from husbandry.animal.body import body_of
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.day import course
from husbandry.climate.daycourse import MINUTES, DayCourse
from husbandry.climate.parameters import PARAMETERS
from husbandry.climate.steady import solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.ultraviolet import index_at_back
from husbandry.plan.habitat import HabitatPlan
from husbandry.watch import faults
from husbandry.watch.faults import Fault
from husbandry.watch.foretold import Where, minutes_of
from ridgeback.metering import measured
from ridgeback.planner import mapping, revisions
from ridgeback.planner.once import once_small
from ridgeback.rooms.models import Habitat
from ridgeback.series.models import Channel
from ridgeback.series.places import MISTED, PLACES, ROOM_AIR, ROOM_HUMIDITY, UV_BACK, WEIGHT

Floats = NDArray[np.float64]

HIDDEN_SPREAD: Final = 0.5  # standard deviations that the enclosure behind differs from the plan
NOISE: Final = {"degC": 0.15, "%": 1.0, "UVI": 0.05, "W": 0.4, "g": 0.3}
OWN_ERROR: Final = {"degC": 0.3, "%": 2.0, "UVI": 0.1, "W": 0.0, "g": 0.0}
DRIFT_A_YEAR: Final = {"degC": 0.2, "%": 1.5, "UVI": 0.05, "W": 0.0, "g": 0.0}
LOST_SHARE: Final = 0.004  # of the readings
WEIGHED_AT: Final = (6, 18, 0)  # weekday, hour, minute
WEIGHT_SPREAD: Final = 0.012  # of its weight, from one Sunday to the next
ROOM_SPREAD_K: Final = 0.7  # of the room from one day to the next


@dataclass(frozen=True)
class Planted:
    """A fault that is planted from a moment until another; `heater` which one's, `channel` the code of one that falls silent."""

    fault: Fault | None
    since: datetime
    until: datetime
    heater: int = -1
    channel: str = ""


def _seed(*parts: object) -> np.random.Generator:
    return np.random.default_rng(int.from_bytes(hashlib.sha256("/".join(map(str, parts)).encode()).digest()[:8], "big"))


@lru_cache(maxsize=512)
def _error_of(code: str, unit: str) -> tuple[float, float]:
    """What an instrument always shows too much, and by how much more after a year."""
    own = _seed("error", code)
    return float(own.normal(0, OWN_ERROR[unit])), float(own.normal(0, DRIFT_A_YEAR[unit]))


@lru_cache(maxsize=512)
def _weather_k(room: str, day: date) -> float:
    """How much warmer than usual a room is on a day."""
    return sum(0.6**back * float(_seed("room", room, day - timedelta(days=back)).normal(0, ROOM_SPREAD_K)) for back in range(6))


def room_on(plan: HabitatPlan, room: str, day: date) -> RoomState:
    """The room of a name on a day: as the plan has it through the year, with weather."""
    share = 0.5 + 0.5 * np.cos(2 * np.pi * (day.timetuple().tm_yday - 200) / 365)
    summer, winter = plan.room.summer, plan.room.winter
    weather = _weather_k(room, day)
    return RoomState(
        float(winter.day_c + share * (summer.day_c - winter.day_c) + weather),
        float(winter.night_c + share * (summer.night_c - winter.night_c) + 0.7 * weather),
        float(np.clip(winter.humidity_percent + share * (summer.humidity_percent - winter.humidity_percent) - 2 * weather, 15, 90)),
    )


@dataclass(frozen=True)
class StandIn:
    """The instruments of one habitat."""

    habitat: Habitat
    plan: HabitatPlan
    channels: tuple[Channel, ...]
    planted: tuple[Planted, ...] = ()

    @classmethod
    def of(cls, habitat: Habitat, planted: Sequence[Planted] = ()) -> "StandIn":
        """Those of its channels. Raises mapping.UnreadablePlanError."""
        channels = Channel.objects.filter(habitat=habitat, ended_at__isnull=True).select_related("instrument", "animal")
        return cls(habitat, mapping.plan_of(habitat), tuple(channels), tuple(planted))

    def readings(self, since: datetime, until: datetime, every: timedelta) -> Iterator[tuple[Channel, datetime, float]]:
        """What the instruments show between two moments (the second one included), as they show it."""
        at = since
        while at <= until:
            for channel in self.channels:
                value = self.shows(channel, at)
                if value is not None:
                    yield channel, at, value
            at += every

    def shows(self, channel: Channel, at: datetime) -> float | None:
        """What a channel's instrument shows at a moment; None where the reading is lost."""
        if any(one.channel == channel.code and one.since <= at < one.until for one in self.planted):
            return None
        chance = _seed("noise", channel.code, at.isoformat())
        if chance.random() < LOST_SHARE:
            return None
        true = self._true(channel, at)
        if true is None or not np.isfinite(true):
            return None
        unit = PLACES[channel.place].unit
        always, a_year = _error_of(channel.code, unit)
        error = always + (channel.instrument.reads_high if channel.instrument is not None else 0.0)
        drift = a_year * (at - channel.made_at).total_seconds() / (365 * 86_400)
        shown = true + error + drift + float(chance.normal(0, NOISE[unit]))
        place = PLACES[channel.place]
        return round(min(max(shown, place.low), place.high), 2)

    def _true(self, channel: Channel, at: datetime) -> float | None:
        local = timezone.localtime(at)
        minute = (local.hour * 60 + local.minute - 1) % MINUTES
        if channel.place in (ROOM_AIR, ROOM_HUMIDITY):
            return room_reading(self.plan, self.habitat.room.name, channel.place, at)
        if channel.place == UV_BACK:
            return self._uv(local)
        if channel.place == MISTED:
            return self._misted(local, at)
        if channel.place == WEIGHT:
            return self._weight_g(channel, local)
        where = self._places[channel.pk]
        if where is None:
            return None
        return float(self._shown(local.date(), self._fault(at))[where][minute])

    def _uv(self, local: datetime) -> float:
        if not any(lamp.runs_at(local.hour + local.minute / 60) for lamp in self.plan.uv_lamps):
            return 0.0
        profile = revisions.profile_of(self.habitat, self.plan.species)
        key = ("stand-in uv", self._document, local.date())
        return once_small(key, lambda: index_at_back(self.plan, body_of(self.plan, profile, local.date()), local.date()))

    def _misted(self, local: datetime, at: datetime) -> float | None:
        """What was given at this minute; a mister speaks only when it has given something."""
        given = {round(one.hour * 60): one.kg * 1000 for one in enclosure_case(self.plan).mistings}
        grams = given.get(local.hour * 60 + local.minute)
        return 0.0 if grams is not None and self._fault(at) == (Fault.NO_WATER, -1) else grams

    def _weight_g(self, channel: Channel, local: datetime) -> float | None:
        """The animal on the scale: on Sunday evenings, a little about what its plan says."""
        if (local.weekday(), local.hour, local.minute) != WEIGHED_AT or channel.animal is None or self.plan.animal.mass_kg is None:
            return None
        own = float(_seed("weight", channel.code, local.date()).normal(0, WEIGHT_SPREAD))
        return 1000 * self.plan.animal.mass_kg * (1 + own)

    def _fault(self, at: datetime) -> tuple[Fault, int] | None:
        for one in self.planted:
            if one.fault is not None and one.since <= at < one.until:
                return one.fault, one.heater
        return None

    def _shown(self, day: date, fault: tuple[Fault, int] | None) -> dict[Where, Floats]:
        """What is to be read through a day at each of the channels' places."""
        key = ("stand-in", self.habitat.pk, self._document, day, fault, self._wanted)
        return once_small(key, lambda: self._read(day, fault, self._wanted))

    @cached_property
    def _document(self) -> str:
        return self.plan.model_dump_json()

    @cached_property
    def _places(self) -> dict[int, Where | None]:
        """Where each channel's instrument lies, by the channel's key."""
        return {channel.pk: measured.where_of(channel, self.plan) for channel in self.channels}

    @cached_property
    def _wanted(self) -> tuple[Where, ...]:
        return tuple(where for where in self._places.values() if where is not None)

    def _read(self, day: date, fault: tuple[Fault, int] | None, wanted: tuple[Where, ...]) -> dict[Where, Floats]:
        case, stepped = self._step(day, fault)
        return {where: minutes_of(case, stepped, where) for where in wanted}

    def _step(self, day: date, fault: tuple[Fault, int] | None) -> tuple[EnclosureCase, DayCourse]:
        case = enclosure_case(self.plan)
        hidden = _seed("enclosure", self.habitat.name).normal(0, HIDDEN_SPREAD, len(PARAMETERS))
        middle = tuple((np.array(case.belief.middle) + hidden).tolist())
        room = room_on(self.plan, self.habitat.room.name, day)
        season = min(case.rooms, key=lambda name: abs(case.rooms[name].day_c - room.day_c))
        case = replace(case.in_season(season), rooms={season: room}, belief=replace(case.belief, middle=middle))
        if fault is not None:
            case = next((broken for one, heater, broken in faults.possible(case) if (one, heater) == fault), case)
        return case, course(case, solve_steady(case, spread=False, seasons=(season,)), season)


def room_reading(plan: HabitatPlan, room: str, place: str, at: datetime) -> float:
    """What the room has at a moment: °C or %."""
    local = timezone.localtime(at)
    state = room_on(plan, room, local.date())
    if place == ROOM_HUMIDITY:
        return state.humidity_percent
    hour = local.hour + local.minute / 60
    swing = 0.5 - 0.5 * np.cos(2 * np.pi * (hour - 5) / 24)
    return float(state.night_c + (state.day_c - state.night_c) * swing)
