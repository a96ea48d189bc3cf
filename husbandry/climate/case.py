"""What the climate models are given: plain values, no plan and no profile."""

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Final

from husbandry.climate.ground import KEPT_DRY_M
from husbandry.climate.parameters import PRIOR, Belief


@dataclass(frozen=True)
class HeaterCase:
    """One heater or cooler: `height_m` of its face above the inner floor; hours local; `control` as in `HeaterKind.controls`.

    `length_m` is a mat's, cable's or tube heater's extent along the enclosure. `night_set_c` is the set point in the
    dark, None where it is the same as by day. `probe_error_k` is what the probe reads too high; `hysteresis_k` the width
    an on/off thermostat swings over. `off_m` is how far it hangs behind the middle of the width. `probe_x_m` and
    `probe_height_m` say where a probe at an "own" place lies.
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
    length_m: float = 0.0
    hysteresis_k: float = 1.0
    probe_error_k: float = 0.0
    off_m: float = 0.0
    probe_x_m: float = 0.0
    probe_height_m: float = 0.0

    def set_point(self, *, day: bool) -> float:
        """What the probe's place has when the thermostat is satisfied: its set point without the probe's error."""
        set_c = self.set_c if day or self.night_set_c is None else self.night_set_c
        return set_c - self.probe_error_k


@dataclass(frozen=True)
class BaskingSpot:
    """The surface aimed at: its middle, its side, its top above the inner floor, and its kind in `PERCHES`.

    `off_m` is how far it lies behind the middle of the width.
    """

    x_m: float
    side_m: float
    top_m: float
    perch: str
    off_m: float = 0.0


@dataclass(frozen=True)
class RoomState:
    """The room in one season: °C by day and by night, relative humidity in %; `curve_c` 24 hourly means from midnight."""

    day_c: float
    night_c: float
    humidity_percent: float
    curve_c: tuple[float, ...] = ()


@dataclass(frozen=True)
class WaterCase:
    """Water over the whole width: its middle, length and depth in m; a fan blows over it or not."""

    x_m: float
    length_m: float
    depth_m: float
    fan: bool = False


@dataclass(frozen=True)
class SunCase:
    """Direct sun through a window: watts that enter at its height, between two hours."""

    watts: float
    from_hour: float
    to_hour: float


@dataclass(frozen=True)
class MistingCase:
    """Water given at one time of the day: kg within minutes of `hour` (local)."""

    hour: float
    kg: float


@dataclass(frozen=True)
class GivenCase:
    """The water given in winter, as the fields of the same names in `EnclosureCase`."""

    misting_kg_per_day: float = 0.0
    mistings: tuple[MistingCase, ...] = ()
    fogger_kg_per_h: float = 0.0


LEAST_AIR_SHARE: Final = 0.05  # of the whole inside: a tank is never filled to the brim
GIVEN: Final = ("misting_kg_per_day", "mistings", "fogger_kg_per_h")


@dataclass(frozen=True)
class VentCase:
    """An opening in a wall: the height of its middle above the floor in m, and its free area in m²."""

    height_m: float
    area_m2: float


@dataclass(frozen=True)
class HeatedHideCase:
    """A hide with a heater of its own: its middle, inner sides and the foam board in its walls, in m."""

    x_m: float
    length_m: float
    width_m: float
    height_m: float
    insulation_m: float


@dataclass(frozen=True)
class ProbeCase:
    """A place that is read: from the left and above the inner floor, in m."""

    x_m: float
    height_m: float


@dataclass(frozen=True)
class BedCase:
    """The ground of one zone along the length: its mean depth in m, conductivity through it in W/mK, heat capacity in J/m³K."""

    depth_m: float
    conductivity: float
    heat_capacity: float


@dataclass(frozen=True)
class LiningCase:
    """A background on a wall ("back", "front", "left" or "right"): the share of it that is covered, and its resistance in m²K/W."""

    wall: str
    share: float
    resistance: float


@dataclass(frozen=True)
class OutsideCase:
    """Out of doors: the earth deep below in °C, and by how many K the sky is colder than the air, the mean of a day."""

    earth_c: float
    sky_k: float


@dataclass(frozen=True)
class EnclosureCase:
    """One enclosure with its heaters, in m; `bowl_m2` is open water in a bowl; hours of light local.

    `lid_covered` is the share of a mesh or open lid that is covered; `insulation_m` of foam board outside the walls,
    which are `wall_m` thick where that is not the kind's usual.
    `misting_kg_per_day` is spread over the day where `mistings` names no times. `fogger_kg_per_h` while it is light; `winter` is
    the water given then, where it is not the same all year.
    `leaf_m2` is the area of the leaves of all plants, one side of each; `linings` are backgrounds inside the walls.
    `beds` is the ground zone by zone, where it is not of one kind and one depth all over; `dry_top_m` of it lies dry over what is
    kept damp. `stored_j_k` is the heat that stones and other things on the ground take up for a kelvin, zone by zone.
    `belief` is what is held of the models' parameters; `outdoors` where it stands out of doors: wind, sky and earth. `probes` are
    places of the keeper's own that are read.
    """

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
    humid_hide_x_m: float = 0.0
    misting_kg_per_day: float = 0.0
    mistings: tuple[MistingCase, ...] = ()
    fogger_kg_per_h: float = 0.0
    winter: "GivenCase | None" = None
    water: WaterCase | None = None
    sun: SunCase | None = None
    vents: tuple[VentCase, ...] = ()
    lid_covered: float = 0.0
    insulation_m: float = 0.0
    wall_m: float | None = None
    belief: Belief = PRIOR
    outdoors: OutsideCase | None = None
    probes: tuple[ProbeCase, ...] = ()
    heated_hide: HeatedHideCase | None = None
    leaf_m2: float = 0.0
    linings: tuple[LiningCase, ...] = ()
    beds: tuple[BedCase, ...] = ()
    dry_top_m: float = KEPT_DRY_M
    stored_j_k: tuple[float, ...] = ()

    @cached_property
    def shell(self) -> "EnclosureCase":
        """The enclosure alone, without heaters, room and water given: what a lamp's position cannot change."""
        return replace(
            self,
            heaters=(),
            rooms={},
            misting_kg_per_day=0.0,
            mistings=(),
            fogger_kg_per_h=0.0,
            winter=None,
            sun=None,
            belief=PRIOR,
            probes=(),
        )

    def in_season(self, season: str) -> "EnclosureCase":
        """The same with the water that is given in a season."""
        if self.winter is None:
            return self
        own = {} if season == "summer" else {name: getattr(self.winter, name) for name in GIVEN}
        return replace(self, winter=None, **own)

    def without_water(self) -> "EnclosureCase":
        """The same with nobody misting and no fog, in any season."""
        return replace(self, misting_kg_per_day=0.0, mistings=(), fogger_kg_per_h=0.0, winter=None)

    @property
    def volume_m3(self) -> float:
        """The whole inside: what a kind's air changes are counted by, whatever fills it; its openings make them."""
        return self.length_m * self.width_m * self.height_m

    @property
    def air_m3(self) -> float:
        """The air inside: neither the ground nor a pool's water is air."""
        pool_m = 0.0 if self.water is None else min(self.water.length_m, self.length_m)
        pool_m3 = 0.0 if self.water is None else pool_m * self.width_m * self.water.depth_m
        ground_m3 = (self.length_m - pool_m) * self.width_m * self.ground_depth_m
        return max(self.volume_m3 - ground_m3 - pool_m3, LEAST_AIR_SHARE * self.volume_m3)

    def is_day(self, hour: float) -> bool:
        return running(self.light_on_hour, self.light_off_hour, hour)

    @property
    def light_hours(self) -> float:
        """Hours of light a day; equal hours mean always."""
        return (self.light_off_hour - self.light_on_hour) % 24.0 or 24.0


def running(on_hour: float, off_hour: float, hour: float) -> bool:
    """Tell whether a timer is on at `hour`; equal hours mean always on."""
    if on_hour == off_hour:
        return True
    if on_hour < off_hour:
        return on_hour <= hour < off_hour
    return hour >= on_hour or hour < off_hour
