"""What instruments should show in a day: the plan's day, stepped in the room as it was, hour by hour, and how sure that is."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.calibrate import PLACES, places_of, read
from husbandry.climate.case import EnclosureCase, ProbeCase, RoomState
from husbandry.climate.day import course
from husbandry.climate.daycourse import DayCourse
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady

Floats = NDArray[np.float64]

HOURS: Final = 24
POWER: Final = "power"  # what a heater's plug shows, W
POWER_SIGMA: Final = 0.06  # of a heater's watts, that the mean of an hour is off by the model
LEAST_POWER_SIGMA_W: Final = 1.0


@dataclass(frozen=True)
class Where:
    """Where something is read: a key of `calibrate.PLACES`, with where that is for "own"; or "power" and which heater's."""

    place: str
    at: ProbeCase | None = None
    heater: int = 0


@dataclass(frozen=True)
class Foretold:
    """Hourly means by place and hour of the clock, (places, 24), in the place's unit, and one standard deviation of each.

    What a plan has no place for is nan.
    """

    mean: Floats
    sigma: Floats


def in_room(case: EnclosureCase, room: RoomState) -> tuple[EnclosureCase, str]:
    """The enclosure in a room as it was, and the season it goes by: the one whose room is nearer by day."""
    season = min(case.rooms, key=lambda name: abs(case.rooms[name].day_c - room.day_c))
    return replace(case.in_season(season), rooms={season: room}), season


def foretell(case: EnclosureCase, season: str, where: Sequence[Where], *, spread: bool = True) -> Foretold:
    """Return what each place should show through the day.

    Parameters
    ----------
    case, season
        The enclosure, and which of its rooms it stands in.
    where
        The places.
    spread
        Whether the standard deviations are worked out; else they are those of the places' own doubt alone.

    Returns
    -------
    Foretold, shape (places, 24). The room is taken to repeat itself from day to day.

    References
    ----------
    The stepped day (docs/models.md, The day by the minute); spread by one step of each parameter either way, added in squares.
    """
    climate = solve_steady(case, spread=False, seasons=(season,))
    mean = shown(case, course(case, climate, season), where)
    own = _own_doubt(case, where)[:, None]
    if not spread:
        return Foretold(mean, np.broadcast_to(own, mean.shape).copy())
    return Foretold(mean, np.hypot(own, _doubt(case, climate, season, where)))


def shown(case: EnclosureCase, day: DayCourse, where: Sequence[Where]) -> Floats:
    """The hourly means of a stepped day at some places, (places, 24).

    Parameters
    ----------
    case
        The enclosure.
    day
        Its day by the minute.
    where
        The places.

    Returns
    -------
    °C, %, or W; nan for a place the enclosure has not.

    References
    ----------
    A mean over sixty minutes; no source outside.
    """
    return np.array([minutes_of(case, day, one).reshape(HOURS, -1).mean(axis=1) for one in where]).reshape(-1, HOURS)


def minutes_of(case: EnclosureCase, day: DayCourse, where: Where) -> Floats:
    """What is shown at a place by the minute, (1440,), first at 00:01; nan where there is no such place.

    Parameters
    ----------
    case, day
        The enclosure and its day.
    where
        The place.

    Returns
    -------
    °C, % or W, shape (1440,).

    References
    ----------
    As `calibrate.read`; a heater's power is its share of full power.
    """
    if where.place == POWER:
        if not 0 <= where.heater < len(case.heaters):
            return np.full(day.hours.shape, np.nan)
        return np.asarray(day.duty[:, where.heater] * case.heaters[where.heater].watts)
    known = where.place == "own" if where.at is not None else where.place in places_of(case)
    return read(day, case, where.place, where.at) if known else np.full(day.hours.shape, np.nan)


def _own_doubt(case: EnclosureCase, where: Sequence[Where]) -> Floats:
    """What the model is unsure of at each place by itself, (places,)."""
    found = []
    for one in where:
        if one.place == POWER:
            watts = case.heaters[one.heater].watts if 0 <= one.heater < len(case.heaters) else 0.0
            found.append(max(POWER_SIGMA * watts, LEAST_POWER_SIGMA_W))
        else:
            found.append(PLACES[one.place].model_sigma if one.place in PLACES else 1.0)
    return np.array(found)


def _doubt(case: EnclosureCase, climate: Climate, season: str, where: Sequence[Where]) -> Floats:
    """One standard deviation by what the parameters are unsure of, (places, 24)."""
    sets = case.belief.both_ways()
    count = len(sets.radiant)
    days = []
    for index in range(1, count):
        one = replace(sets, **{name: getattr(sets, name)[index : index + 1] for name in sets.__dataclass_fields__})
        days.append(shown(case, course(case, climate, season, one), where))
    steps = np.array(days)
    return np.asarray(np.sqrt((((steps[0::2] - steps[1::2]) / 2) ** 2).sum(axis=0)))
