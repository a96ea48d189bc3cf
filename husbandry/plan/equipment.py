"""What the plan's document is made of: units and limits, kinds, things on timers, and what is fitted to an enclosure."""

from collections.abc import Iterable
from datetime import date, time
from itertools import pairwise
from typing import Annotated, Final, Literal, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from husbandry.climate.heaters import HEATERS

# Tight enough that a number in the other unit does not pass: 68 °F is a room, 68 °C is not.
MINUTES_A_DAY: Final = 24 * 60
RoomCelsius = Annotated[float, Field(ge=-20, le=50)]
TargetCelsius = Annotated[float, Field(ge=5, le=65)]
Side = Annotated[float, Field(ge=0.1, le=15)]  # a hatchling's tub to an outdoor pen
Percent = Annotated[float, Field(ge=0, le=100)]
Metres = Annotated[float, Field(gt=0, le=15)]
Position = Annotated[float, Field(ge=0, le=15)]
Text = Annotated[str, Field(max_length=80)]
# A lifetime around today, whenever that is: some tortoises outlive their keepers.
FIRST_DAY: Final = date(1900, 1, 1)
LAST_DAY: Final = date(2149, 12, 31)


def _in_reach(day: date) -> date:
    if not FIRST_DAY <= day <= LAST_DAY:
        raise PydanticCustomError("date_far_off", "a date lies between 1900 and 2149")
    return day


def _on_the_wall(at: time) -> time:
    if at.tzinfo is not None:
        raise PydanticCustomError("zoned_time", "a clock time has no zone")
    return at.replace(second=0, microsecond=0)


Day = Annotated[date, AfterValidator(_in_reach)]
Clock = Annotated[time, AfterValidator(_on_the_wall)]

EnclosureKind = Literal["glass", "pvc", "foamed-pvc", "plywood", "polypropylene", "mesh", "open-table"]
LidKind = Literal["solid", "mesh", "open"]
Planting = Literal["none", "few", "many", "dense"]
GroundKind = Literal["paper", "sand", "sandy-loam", "soil", "coir", "bark", "aspen", "moss"]
HeaterKind = Literal[
    "reflector-flood",
    "reflector-spot",
    "halogen-flood",
    "ceramic-emitter",
    "infrared-projector",
    "radiant-panel",
    "vapour-combined",
    "halide-combined",
    "mat",
    "cable",
    "wall-mat",
    "tube-heater",
    "water-heater",
    "water-chiller",
]
HolderKind = Literal["", "plastic", "ceramic", "fixed"]
LightBarKind = Literal["led-bar", "plant-led", "t5-white"]
TubeKind = Literal["slim-6", "slim-10", "slim-12", "slim-14", "wide-5", "wide-10", "compact-5", "compact-10"]
ThermostatKind = Literal["none", "on-off", "pulse", "dimming"]
ProbePlace = Literal["basking-surface", "warm-air", "cool-air", "warm-ground", "cool-ground", "mat", "humid-hide", "water", "own"]


class Part(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, str_strip_whitespace=True, allow_inf_nan=False)


def hours_of(moment: time) -> float:
    """Return a clock time as hours after midnight."""
    return moment.hour + moment.minute / 60


class Timed(Part):
    """Something on a timer; equal times mean all day and night."""

    on: Clock = time(8)
    off: Clock = time(20)

    def runs_at(self, hour: float) -> bool:
        """Tell whether it is on at `hour` (0–24, local)."""
        begin, end = hours_of(self.on), hours_of(self.off)
        if begin == end:
            return True
        return begin <= hour < end if begin < end else hour >= begin or hour < end

    @property
    def hours_a_day(self) -> float:
        """How long it is on in a day, in h."""
        return (hours_of(self.off) - hours_of(self.on)) % 24 or 24.0

    @property
    def switches(self) -> tuple[float, ...]:
        """The hours (0–24, local) at which it turns on or off."""
        return hours_of(self.on), hours_of(self.off)


def hours_together(one: Timed, other: Timed) -> float:
    """Return how many hours a day both are on."""
    edges = sorted({0.0, 24.0, *one.switches, *other.switches})
    middles = ((end - begin, (begin + end) / 2) for begin, end in pairwise(edges))
    return sum(span for span, middle in middles if one.runs_at(middle) and other.runs_at(middle))


def hours_of_any(timers: Iterable[Timed]) -> float:
    """Return how many hours of the day any of some timers is on; where they overlap, once."""
    return sum(_lit(timers)) / 60


def times_of_any(timers: Iterable[Timed]) -> list[Timed]:
    """Return the times at which any of some timers is on, in the order of the day, as times that neither overlap nor touch."""
    lit = _lit(timers)
    if all(lit):
        return [Timed(on=time(0), off=time(0))]
    begins = [at for at in range(MINUTES_A_DAY) if lit[at] and not lit[at - 1]]
    ends = [at for at in range(MINUTES_A_DAY) if lit[at - 1] and not lit[at]]
    if begins and ends[0] <= begins[0]:
        ends = [*ends[1:], ends[0]]  # the last one goes on past midnight
    return [Timed(on=_moment(begin), off=_moment(end)) for begin, end in zip(begins, ends, strict=True)]


def _lit(timers: Iterable[Timed]) -> bytearray:
    """Each minute of the day, 1 where any of the timers is on."""
    lit = bytearray(MINUTES_A_DAY)
    for timer in timers:
        begin, end = (at.hour * 60 + at.minute for at in (timer.on, timer.off))
        for first, last in ((begin, end),) if begin < end else ((begin, MINUTES_A_DAY), (0, end)):
            lit[first:last] = b"\1" * (last - first)
    return lit


def _moment(minute: int) -> time:
    return time(minute // 60, minute % 60)


class Thermostat(Part):
    """What holds the heater back; `set_c` is the temperature wanted at the probe, `night_set_c` the same while it is dark.

    Without `night_set_c` the set point is one for day and night. `hysteresis_k` is what an on/off thermostat swings over,
    `probe_error_k` how much too high its probe reads. A probe at an `own` place lies at `probe_x_m` from the left and
    `probe_height_m` above the floor; without them below its heater and at half the enclosure's height.
    """

    kind: ThermostatKind = "none"
    set_c: TargetCelsius | None = None
    night_set_c: TargetCelsius | None = None
    probe: ProbePlace = "basking-surface"
    probe_x_m: Position | None = None
    probe_height_m: Position | None = None
    hysteresis_k: Annotated[float, Field(ge=0.1, le=10)] = 1.0
    probe_error_k: Annotated[float, Field(ge=-10, le=10)] = 0.0

    @model_validator(mode="after")
    def _set_point_given(self) -> Self:
        if self.kind != "none" and self.set_c is None:
            raise ValueError("a thermostat needs its set point")
        return self


class Hung(Timed):
    """Something that hangs at a place: `x_m` its middle, `height_m` its lower face, `y_m` from the front: without it, midway."""

    x_m: Position
    height_m: Metres
    y_m: Position | None = None


class Heater(Hung):
    """A heater or cooler; `half_angle_deg` overrides the kind's usual beam.

    `length_m` is how far a mat, cable or tube heater reaches along the enclosure, `holder` what its lamp sits in, `fitted`
    the date of a combined lamp, whose UV fades.
    """

    kind: HeaterKind
    watts: Annotated[float, Field(gt=0, le=500)]
    half_angle_deg: Annotated[float, Field(ge=5, le=80)] | None = None
    thermostat: Thermostat = Thermostat()
    guarded: bool = False
    length_m: Metres | None = None
    holder: HolderKind = ""
    fitted: Day | None = None

    @property
    def hangs(self) -> bool:
        """Tell whether it shines down from where it hangs; mats, cables and what stands in air or water do not."""
        return HEATERS[self.kind].place == "over"


class UvLamp(Hung):
    """A UV lamp; `tube_m` is its luminous length (compacts: the length of the coil).

    Where both `again_on` and `again_off` are given it burns a second time in the day. `across`: from front to back, not along.
    """

    kind: TubeKind
    tube_m: Annotated[float, Field(gt=0, le=2)] = 0.55
    reflector: bool = True
    fitted: Day | None = None
    behind_glass: bool = False
    again_on: Clock | None = None
    again_off: Clock | None = None
    across: bool = False

    @property
    def again(self) -> Timed | None:
        """The second time it burns."""
        if self.again_on is None or self.again_off is None or self.again_on == self.again_off:
            return None
        return Timed(on=self.again_on, off=self.again_off)

    @property
    def switches(self) -> tuple[float, ...]:
        """The hours (0–24, local) at which it turns on or off."""
        return super().switches + (self.again.switches if self.again else ())

    def runs_at(self, hour: float) -> bool:
        """Tell whether it is on at `hour` (0–24, local)."""
        return super().runs_at(hour) or (self.again is not None and self.again.runs_at(hour))

    @property
    def hours_a_day(self) -> float:
        """How long it is on in a day, in h; where both times overlap, once."""
        if self.again is None:
            return super().hours_a_day
        return hours_of_any([Timed(on=self.on, off=self.off), self.again])


class LightBar(Hung):
    """Visible light without UV worth counting; `length_m` its lit length."""

    kind: LightBarKind
    watts: Annotated[float, Field(gt=0, le=500)]
    length_m: Metres
