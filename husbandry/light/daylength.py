"""Hours of daylight through the year at a latitude.

Sunrise and sunset by astral (the Astronomical Almanac's low-precision formulas, with refraction), at longitude 0: only the
length of the day is used. Inside the polar circles, where the sun does not rise or set, astral raises an error: there the
sun's height at noon decides.
"""

import math
from datetime import date, timedelta
from functools import lru_cache
from typing import Final

from astral import Observer
from astral.sun import sunrise, sunset

REFRACTED_DEG: Final = 0.833  # the sun's centre below the horizon at sunrise
TILT_DEG: Final = 23.44
SOLSTICE_DAY: Final = 172  # of the year, 21 June
YEAR_DAYS: Final = 365.24


@lru_cache(maxsize=4096)
def daylight_hours(latitude_deg: float, day: date) -> float:
    """Return the hours from sunrise to sunset; `latitude_deg` in −90…90, north positive. Raises ValueError beyond.

    Parameters
    ----------
    latitude_deg
        −90…90, north positive.
    day
        The date.

    Returns
    -------
    Hours, 0–24.

    References
    ----------
    The Astronomical Almanac's low-precision formulas, as the library astral has them.
    """
    if not -90 <= latitude_deg <= 90:
        raise ValueError(f"no latitude: {latitude_deg}")
    observer = Observer(latitude_deg, 0.0)
    try:
        rises, sets = sunrise(observer, day), sunset(observer, day)
    except ValueError:
        return 24.0 if _noon_height_deg(latitude_deg, day) > 0 and _midnight_height_deg(latitude_deg, day) > -REFRACTED_DEG else 0.0
    # At high latitudes the evening may belong to the day after.
    hours = (sets - rises).total_seconds() / 3600
    return hours % 24.0


def _declination_deg(day: date) -> float:
    turned = 2 * math.pi * (day.timetuple().tm_yday - SOLSTICE_DAY) / YEAR_DAYS
    return TILT_DEG * math.cos(turned)


def _noon_height_deg(latitude_deg: float, day: date) -> float:
    return 90 - abs(latitude_deg - _declination_deg(day))


def _midnight_height_deg(latitude_deg: float, day: date) -> float:
    return abs(latitude_deg + _declination_deg(day)) - 90


def shifted(day: date, *, southern: bool) -> date:
    """Return the date half a year on for who lives south of the equator."""
    return day + timedelta(days=round(YEAR_DAYS / 2)) if southern else day
