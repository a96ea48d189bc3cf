"""What the climate models are given: plain values, no plan and no profile."""

from dataclasses import dataclass, field, replace


@dataclass(frozen=True)
class HeaterCase:
    """One heater: `height_m` of its face above the inner floor; hours local; `control` as in `HeaterKind.controls`.

    `night_set_c` is the set point in the dark, None where it is the same as by day.
    """

    kind: str
    watts: float
    x_m: float
    height_m: float
    half_angle_deg: float
    on_hour: float
    off_hour: float
    control: str = "none"
    set_c: float = 0.0
    night_set_c: float | None = None
    probe: str = "basking-surface"

    def set_point(self, *, day: bool) -> float:
        return self.set_c if day or self.night_set_c is None else self.night_set_c


@dataclass(frozen=True)
class BaskingSpot:
    """The surface aimed at: its middle, its side, its top above the inner floor, and its kind in `PERCHES`."""

    x_m: float
    side_m: float
    top_m: float
    perch: str


@dataclass(frozen=True)
class RoomState:
    """The room in one season: °C by day and by night, relative humidity in %."""

    day_c: float
    night_c: float
    humidity_percent: float


@dataclass(frozen=True)
class EnclosureCase:
    """One enclosure with its heaters, in m; `bowl_m2` and `humid_hide_m2` are wet areas; hours of light local."""

    kind: str
    lid: str
    mesh_open_share: float
    length_m: float
    width_m: float
    height_m: float
    ground_kind: str
    ground_depth_m: float
    ground_damp: bool
    spot: BaskingSpot
    heaters: tuple[HeaterCase, ...]
    rooms: dict[str, RoomState] = field(hash=False)
    light_on_hour: float
    light_off_hour: float
    bowl_m2: float = 0.0
    bowl_x_m: float = 0.0
    humid_hide: bool = False
    misting_kg_per_day: float = 0.0

    @property
    def shell(self) -> "EnclosureCase":
        """The enclosure alone, without heaters and room: what a lamp's position cannot change."""
        return replace(self, heaters=(), rooms={})

    @property
    def volume_m3(self) -> float:
        return self.length_m * self.width_m * self.height_m

    @property
    def levels(self) -> int:
        """Three levels of air where the enclosure is clearly taller than it is long, one otherwise."""
        return 3 if self.height_m >= 1.2 * max(self.length_m, self.width_m) else 1

    def is_day(self, hour: float) -> bool:
        return running(self.light_on_hour, self.light_off_hour, hour)

    @property
    def middle_of_day(self) -> float:
        span = (self.light_off_hour - self.light_on_hour) % 24.0 or 24.0
        return (self.light_on_hour + span / 2) % 24.0


def running(on_hour: float, off_hour: float, hour: float) -> bool:
    """Tell whether a timer is on at `hour`; equal hours mean always on."""
    if on_hour == off_hour:
        return True
    if on_hour < off_hour:
        return on_hour <= hour < off_hour
    return hour >= on_hour or hour < off_hour
