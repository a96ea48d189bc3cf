"""Where channels read: the climate model's places, the room's air, UV at the back, plugs, misters and scales."""

from dataclasses import dataclass
from typing import Final

from husbandry.climate.calibrate import PLACES as CLIMATE_PLACES

ROOM_AIR, ROOM_HUMIDITY, UV_BACK, POWER, OWN = "room-air", "room-humidity", "uv-back", "power", "own"
MISTED, WEIGHT = "misted", "weight"


@dataclass(frozen=True)
class Place:
    """The unit of what is read there, what can be read there at all, and which kinds of instruments read it."""

    unit: str
    low: float
    high: float
    kinds: tuple[str, ...]


def _of_climate(unit: str, *, surface: bool) -> Place:
    if unit == "%":
        return Place("%", 0.0, 100.0, ("hygrometer",))
    return Place("degC", -10.0, 90.0, ("infrared", "thermometer") if surface else ("thermometer",))


PLACES: Final[dict[str, Place]] = {
    **{name: _of_climate(item.unit, surface=item.surface) for name, item in CLIMATE_PLACES.items()},
    UV_BACK: Place("UVI", 0.0, 30.0, ("uv-meter",)),
    ROOM_AIR: Place("degC", -30.0, 60.0, ("thermometer",)),
    ROOM_HUMIDITY: Place("%", 0.0, 100.0, ("hygrometer",)),
    POWER: Place("W", 0.0, 5000.0, ("plug",)),
    MISTED: Place("g", 0.0, 20_000.0, ("mister",)),
    WEIGHT: Place("g", 0.1, 200_000.0, ("scale",)),
}
OF_THE_ROOM: Final = (ROOM_AIR, ROOM_HUMIDITY)
