"""HabitatPlan: the open document of one habitat. SI units, temperatures in °C, humidity in %, clock times local.

Positions: x from the left wall along the length, height above the enclosure's inner floor (below the ground).
The JSON Schema in docs/plan-format.schema.json is generated from these models.
"""

from calendar import isleap
from datetime import date
from typing import Annotated, Any, Final, Literal, NamedTuple, Self

from pydantic import Field, model_validator

from husbandry.assessment import SEASONS
from husbandry.climate.parameters import PARAMETERS
from husbandry.kept import kept
from husbandry.plan.box import Enclosure
from husbandry.plan.equipment import (
    Clock,
    Day,
    Heater,
    LightBar,
    Metres,
    Part,
    Percent,
    Planting,
    Position,
    RoomCelsius,
    Text,
    Timed,
    UvLamp,
    hours_of,
    hours_together,
)
from husbandry.plan.feeding_settings import Feeding, Upkeep
from husbandry.plan.grounds import Ground
from husbandry.plan.older import is_older, upgraded
from husbandry.plan.things import MOST_THINGS, Thing

FORMAT: Final = "ridgeback-plan/2"
SOMEWHERE_SOUTH_DEG: Final = -35.0  # for a document that said no more than "south of the equator": its seasons are all that is used
MOST_PROBES: Final = 12
PARAMETERS_BEFORE: Final = (7, 9)  # that a calibration of an older document has
# A lamp may hang this far above a mesh or open top.
ABOVE_LID_M = 0.5
TIMER_SLACK_H = 0.5  # that something meant for the day may burn on into the dark


class Animal(Part):
    """The animal, or the first of `count` that live together.

    Of those, `males` are known to be male, `young` are hatchlings; `smallest_m` is the length of the smallest, by the
    species' measure. `others` are the names of the rest, for telling who ate.
    """

    name: Text = ""
    sex: Literal["female", "male", "unknown"] = "unknown"
    hatched: Day | None = None
    hatched_is_estimate: bool = False
    mass_kg: Annotated[float, Field(ge=0.00001, le=200)] | None = None
    length_m: Annotated[float, Field(ge=0.005, le=8)] | None = None
    count: Annotated[int, Field(ge=1, le=50)] = 1
    males: Annotated[int, Field(ge=0, le=50)] | None = None
    young: Annotated[int, Field(ge=0, le=50)] = 0
    smallest_m: Annotated[float, Field(ge=0.005, le=8)] | None = None
    others: Annotated[tuple[Annotated[str, Field(min_length=1, max_length=40)], ...], Field(max_length=49)] = ()

    @model_validator(mode="after")
    def _no_more_than_all(self) -> Self:
        if (self.males or 0) > self.count or self.young > self.count:
            raise ValueError("more males or young than animals")
        return self

    @property
    def names(self) -> tuple[str, ...]:
        """The names of those that live here, as many as have one; none of a single animal."""
        if self.count < 2:
            return ()
        return tuple(dict.fromkeys(name for name in (self.name, *self.others) if name))[: self.count]


class RoomCase(Part):
    """The room in one season; `curve_c` the keeper's own hourly means from midnight, else the room swings between both."""

    day_c: RoomCelsius
    night_c: RoomCelsius
    humidity_percent: Percent
    curve_c: Annotated[tuple[RoomCelsius, ...], Field(max_length=24)] = ()

    @model_validator(mode="after")
    def _all_hours(self) -> Self:
        if len(self.curve_c) not in (0, 24):
            raise ValueError("a curve of the room takes 24 hourly values, or none")
        return self


class RoomClimate(Part):
    summer: RoomCase
    winter: RoomCase


class Window(Timed):
    """Direct sun through a window: the watts that reach the inside between its hours."""

    watts: Annotated[float, Field(gt=0, le=2000)]


class Pool(Part):
    """Water to live or bathe in, over the whole width; `depth_m` from the inner floor to the water's surface.

    `change_share` of it is changed at a time, where that is not the usual; `ph` as it was measured. The filter moves
    `filter_m3_h` an hour and has run since `filter_since`.
    """

    x_m: Position
    length_m: Metres
    depth_m: Annotated[float, Field(gt=0, le=2)]
    filtered: bool = False
    fan: bool = False
    change_share: Annotated[float, Field(ge=0.05, le=1)] | None = None
    ph: Annotated[float, Field(ge=4, le=10)] | None = None
    filter_m3_h: Annotated[float, Field(gt=0, le=50)] | None = None
    filter_since: Day | None = None


class Probe(Part):
    """A thermometer's probe that stays in the enclosure, as it lies: in air or water, on the ground or the basking place."""

    x_m: Position
    height_m: Position
    name: Text = ""


class MistingTime(Part):
    """One misting at a clock time."""

    at: Clock
    grams: Annotated[float, Field(gt=0, le=5000)]


class Watering(Part):
    """Water given through the day by hand, at set times by a pump, and as fog while it is light."""

    grams_per_day: Annotated[float, Field(ge=0, le=5000)] = 0.0
    times: Annotated[tuple[MistingTime, ...], Field(max_length=12)] = ()
    fogger_g_per_hour: Annotated[float, Field(ge=0, le=2000)] = 0.0

    @property
    def any(self) -> bool:
        """Tell whether any water is given."""
        return self.grams_per_day > 0 or bool(self.times) or self.fogger_g_per_hour > 0


class Misting(Watering):
    """The water given all year, or in summer where `winter` has its own: a heated room in winter is dry, a summer's is not."""

    winter: Watering | None = None

    def of(self, season: str) -> Watering:
        """What is given in "summer" or "winter"."""
        return self if self.winter is None or season == "summer" else self.winter

    def with_season(self, season: str, watering: Watering) -> "Misting":
        """The same with other water in one season; the other keeps what it has."""
        own = {name: getattr(watering, name) for name in Watering.model_fields}
        if season == "winter":
            return self.model_copy(update={"winter": Watering(**own)})
        kept = {name: getattr(self.of("winter"), name) for name in Watering.model_fields}
        return Misting(**own, winter=Watering(**kept))


class Mister(Part):
    """The pump that sprays at set times: `nozzles`, each of `nozzle_g_min` a minute, out of a reservoir of `reservoir_m3`.

    Each sprays a full cone of `cone_deg` from edge to edge. The pump moves `pump_g_min` a minute, where that is known.
    """

    nozzles: Annotated[int, Field(ge=1, le=50)] = 1
    nozzle_g_min: Annotated[float, Field(gt=0, le=2000)] = 80.0
    cone_deg: Annotated[float, Field(ge=10, le=160)] = 80.0
    pump_g_min: Annotated[float, Field(gt=0, le=20_000)] | None = None
    reservoir_m3: Annotated[float, Field(gt=0, le=1)] | None = None


Deviation = Annotated[float, Field(ge=-6, le=6)]
Monthly = Annotated[tuple[RoomCelsius, ...], Field(min_length=12, max_length=12)]


class Outdoors(Part):
    """A pen or a shed out of doors: mean warmest and coldest of each month, January first, and the sun on level ground.

    `sun_kwh_m2` is the mean daily global radiation; `sun_share` what of it gets in, through glazing, mesh and shade.
    """

    day_c: Monthly
    night_c: Monthly
    sun_kwh_m2: Annotated[tuple[Annotated[float, Field(ge=0, le=12)], ...], Field(min_length=12, max_length=12)]
    sun_share: Annotated[float, Field(ge=0, le=1)] = 0.5
    latitude_deg: Annotated[float, Field(ge=-66, le=66)] = 50.0


class Calibration(Part):
    """What the keeper's readings have taught of the models' parameters (`husbandry.climate.parameters`).

    `middle` by parameter and `root` by row, both in standard deviations of the prior; `uv` is the factor on the lamps'
    strength, `uv_left` the share of its prior spread that is left. `on` is when it was last worked out, `readings` from how many.
    """

    middle: tuple[Deviation, ...] = (0.0,) * len(PARAMETERS)
    root: tuple[tuple[Deviation, ...], ...] = ()
    uv: Annotated[float, Field(gt=0, le=5)] = 1.0
    uv_left: Annotated[float, Field(ge=0, le=1)] = 1.0
    on: Day | None = None
    readings: Annotated[int, Field(ge=0, le=10_000)] = 0

    @model_validator(mode="before")
    @classmethod
    def _of_before(cls, given: Any) -> Any:
        """What was learnt when fewer parameters were uncertain says nothing of those that came since."""
        middle, root = (given.get("middle"), given.get("root", ())) if isinstance(given, dict) else (None, None)
        if not isinstance(middle, list | tuple) or len(middle) not in PARAMETERS_BEFORE:
            return given
        if not isinstance(root, list | tuple) or not all(isinstance(row, list | tuple) for row in root):
            return given
        size, known = len(PARAMETERS), len(middle)
        more = [0.0] * (size - known)
        rows = [[*row, *more] for row in root]
        if rows:
            rows += [[float(at == place) for at in range(size)] for place in range(known, size)]
        return given | {"middle": [*middle, *more], "root": rows}

    @model_validator(mode="after")
    def _square(self) -> Self:
        size = len(PARAMETERS)
        if len(self.middle) != size or (self.root and {len(self.root), *map(len, self.root)} != {size}):
            raise ValueError(f"a calibration has {size} parameters")
        return self


class Daylight(Timed):
    """The hours of visible light, which part day from night."""

    @property
    def middle_of_dark(self) -> float:
        """The hour (0–24) farthest from the light."""
        return (hours_of(self.on) + self.hours_a_day / 2 + 12) % 24

    def lights(self, timed: Timed) -> bool:
        """Tell whether something on a timer is ever on while it is light."""
        return hours_together(self, timed) > 0

    def goes_on_in_the_dark(self, timed: Timed) -> bool:
        """Tell whether something on a timer is on in the dark, for longer than a timer may be off its time."""
        return timed.hours_a_day - hours_together(self, timed) > TIMER_SLACK_H


class Cooling(Part):
    """A winter rest: the day the warmth begins to fall, weeks down and up again, weeks between."""

    begins: Day
    down_weeks: Annotated[int, Field(ge=1, le=8)] = 3
    rest_weeks: Annotated[int, Field(ge=1, le=26)] = 10
    up_weeks: Annotated[int, Field(ge=1, le=8)] = 3


class LightFrom(Part):
    """Hours of light from a day of every year on: `since` as month and day, "10-01"."""

    since: Annotated[str, Field(pattern=r"^(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$")]
    hours: Annotated[float, Field(ge=0, le=24)]

    @model_validator(mode="after")
    def _a_day_of_the_calendar(self) -> Self:
        self.day_of(2000)
        return self

    def day_of(self, year: int) -> date:
        """The day in a year; the 29th of February is the 1st of March in a year that has none."""
        month, day = (int(part) for part in self.since.split("-"))
        leap = (month, day) == (2, 29) and not isleap(year)
        return date(year, 3, 1) if leap else date(year, month, day)


class Year(Part):
    """The day's length through the year: `fixed`, as at the keeper's `latitude`, as in the species' `native` range, or by `dates`.

    `latitude_deg` is where the keeper lives, north positive: it alone says in which months there is summer. `days` are the
    keeper's own lengths of day, a winter rest and all; each holds until the next.
    """

    mode: Literal["fixed", "latitude", "native", "dates"] = "fixed"
    latitude_deg: Annotated[float, Field(ge=-66, le=66)] | None = None
    days: Annotated[tuple[LightFrom, ...], Field(max_length=12)] = ()
    cooling: Cooling | None = None

    @model_validator(mode="before")
    @classmethod
    def _of_before(cls, given: Any) -> Any:
        """An older document said "south of the equator" apart from the latitude."""
        if not isinstance(given, dict) or "southern" not in given:
            return given
        rest = {name: value for name, value in given.items() if name != "southern"}
        southern = given["southern"] is True and rest.get("latitude_deg") is None
        return rest | {"latitude_deg": SOMEWHERE_SOUTH_DEG} if southern else rest

    @model_validator(mode="after")
    def _each_day_once(self) -> Self:
        if len({step.since for step in self.days}) < len(self.days):
            raise ValueError("two lengths of day begin on one day")
        if self.mode == "dates" and not self.days:
            raise ValueError("lengths of day by dates need a date")
        return self


class Prices(Part):
    """What the keeper pays, in one currency of their own: the adult's enclosure at once, or each step's in order; a kWh."""

    once: Annotated[float, Field(ge=0, le=1_000_000)] | None = None
    steps: Annotated[tuple[Annotated[float, Field(ge=0, le=1_000_000)] | None, ...], Field(max_length=8)] = ()
    kwh: Annotated[float, Field(ge=0, le=1000)] | None = None


class _SortedOut(NamedTuple):
    """The things of a plan by what they are good for."""

    basking: tuple[Thing, ...]
    hides: tuple[Thing, ...]
    bowl: Thing | None


@kept
def _sorted_out(things: tuple[Thing, ...]) -> _SortedOut:
    return _SortedOut(
        tuple(thing for thing in things if thing.basking),
        tuple(thing for thing in things if thing.good_for("hide")),
        next((thing for thing in things if thing.good_for("drink")), None),
    )


class HabitatPlan(Part):
    """One habitat, its animal and everything in it.

    `plants` are the living ones that `things` do not name one by one, by how much of the floor their leaves cover.
    """

    format: Literal["ridgeback-plan/2"] = "ridgeback-plan/2"
    name: Annotated[str, Field(min_length=1, max_length=80)]
    species: Annotated[str, Field(max_length=60)]
    animal: Animal = Animal()
    schools: dict[Annotated[str, Field(max_length=40)], Annotated[str, Field(max_length=40)]] = Field(
        default_factory=dict, max_length=30
    )
    room: RoomClimate
    enclosure: Enclosure
    ground: Ground
    plants: Planting = "none"
    things: Annotated[tuple[Thing, ...], Field(max_length=MOST_THINGS)] = ()
    pool: Pool | None = None
    misting: Misting = Misting()
    mister: Mister | None = None
    daylight: Daylight = Daylight()
    year: Year = Year()
    heaters: Annotated[tuple[Heater, ...], Field(max_length=8)] = ()
    uv_lamps: Annotated[tuple[UvLamp, ...], Field(max_length=4)] = ()
    light_bars: Annotated[tuple[LightBar, ...], Field(max_length=4)] = ()
    probes: Annotated[tuple[Probe, ...], Field(max_length=MOST_PROBES)] = ()
    window: Window | None = None
    outdoors: Outdoors | None = None
    calibration: Calibration | None = None
    feeding: Feeding = Feeding()
    upkeep: Upkeep = Upkeep()
    prices: Prices = Prices()

    @model_validator(mode="before")
    @classmethod
    def _of_before(cls, given: Any) -> Any:
        """A document of ridgeback-plan/1 had one ground, one basking place, hides along a line and a bowl."""
        return upgraded(given, FORMAT)[0] if is_older(given) else given

    @property
    def basking(self) -> tuple[Thing, ...]:
        """The basking places, in the order of the document."""
        return _sorted_out(self.things).basking

    @property
    def platform(self) -> Thing | None:
        """The first basking place: the one that lamps are hung over."""
        return next(iter(_sorted_out(self.things).basking), None)

    @property
    def hides(self) -> tuple[Thing, ...]:
        """What an animal can disappear in."""
        return _sorted_out(self.things).hides

    @property
    def bowl(self) -> Thing | None:
        """The first bowl of water."""
        return _sorted_out(self.things).bowl

    def path_of(self, thing: Thing) -> str:
        """Where one of its things stands in the document. Raises StopIteration for one that is not of this plan."""
        return f"things.{next(index for index, other in enumerate(self.things) if other is thing)}"

    def thing_at(self, path: str) -> Thing:
        """The thing at a path of the document, "things.3"."""
        return self.things[int(path.removeprefix("things."))]

    @property
    def latitude_deg(self) -> float | None:
        """Where the habitat stands, north positive: the pen's own out of doors, else as the keeper says; None where nobody said."""
        return self.outdoors.latitude_deg if self.outdoors is not None else self.year.latitude_deg

    @property
    def southern(self) -> bool:
        """Tell whether it stands south of the equator, where seasons lie half a year on."""
        return (self.latitude_deg or 0.0) < 0

    def room_c(self, season: str, phase: str) -> float:
        """The room by "day" or "night", °C: as the keeper says, or the mean of their own hourly curve over those hours."""
        return _rooms_c(self)[season, phase]


@kept
def _rooms_c(plan: HabitatPlan) -> dict[tuple[str, str], float]:
    by_day = [plan.daylight.runs_at(hour + 0.5) for hour in range(24)]
    found = {}
    for season in SEASONS:
        room: RoomCase = getattr(plan.room, season)
        for phase, said in (("day", room.day_c), ("night", room.night_c)):
            hours = [value for value, lit in zip(room.curve_c, by_day, strict=False) if lit == (phase == "day")]
            found[season, phase] = sum(hours) / len(hours) if hours else said
    return found
