"""One day in minutes, as it came out, and the room's own curve through it."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.case import RoomState
from husbandry.climate.day_water import WaterBooks

Floats = NDArray[np.float64]

MINUTES: Final = 24 * 60
COLDEST_HOUR: Final = 5.0


def room_curve(room: RoomState, hours: Floats) -> Floats:
    """Return the room's °C at `hours`: the keeper's hourly means joined by harmonics, or a cosine coldest at five.

    Parameters
    ----------
    room
        The keeper's hourly means, or the day's and the night's temperature.
    hours
        Hours from midnight, any shape.

    Returns
    -------
    °C, of the shape of `hours`.

    References
    ----------
    Trigonometric interpolation of 24 means; common practice, no source.
    """
    if not room.curve_c:
        swing = 0.5 - 0.5 * np.cos(2 * np.pi * (hours - COLDEST_HOUR) / 24)
        return np.asarray(room.night_c + (room.day_c - room.night_c) * swing)
    return np.asarray(sum((part * np.exp(2j * np.pi * k * hours / 24)).real for k, part in enumerate(harmonics(room))))


def harmonics(room: RoomState) -> NDArray[np.complex128]:
    """Complex amplitudes of the room's curve by whole cycles a day; the hourly means stand at the half hours.

    Parameters
    ----------
    room
        As for `room_curve`.

    Returns
    -------
    Amplitudes in K by whole cycles a day, shape (2,) without hourly means, else (13,); the first is the mean in °C.

    References
    ----------
    The discrete Fourier transform (numpy.fft.rfft).
    """
    if not room.curve_c:
        mean, half = (room.day_c + room.night_c) / 2, (room.day_c - room.night_c) / 2
        return np.array([mean, -half * np.exp(-2j * np.pi * COLDEST_HOUR / 24)])
    parts = np.fft.rfft(np.array(room.curve_c)) / 24
    parts[1:-1] *= 2
    return np.asarray(parts * np.exp(-2j * np.pi * np.arange(parts.size) * 0.5 / 24))


@dataclass(frozen=True)
class DayCourse:
    """One season's day; arrays of shape (1440,) at the end of each minute of the clock, first at 00:01. °C, %, W.

    `duty` (1440, heaters); `nodes` (1440, n) in °C, `water_c` of a tank where there is one; `condensing` tells when some skin
    is wet. `kwh_each` electrical by heater.
    `water` is what moved in this day, and what lies in ground and film at its end.
    """

    hours: Floats
    room: Floats
    basking_surface: Floats
    warm_air: Floats
    cool_air: Floats
    hottest_air: Floats
    vapour_pa: Floats
    warm_humidity: Floats
    cool_humidity: Floats
    condensing: NDArray[np.bool_]
    duty: Floats
    nodes: Floats
    kwh_each: tuple[float, ...]
    water: WaterBooks
    lit: NDArray[np.bool_]
    water_c: Floats | None = None

    @property
    def kwh(self) -> float:
        """Electrical energy of the whole day in kWh."""
        return sum(self.kwh_each)
