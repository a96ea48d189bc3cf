"""The shape of a daybook's document: what an animal and an entry of it may hold."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Annotated, Any, Final, Literal, Self

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field, field_validator, model_validator

from husbandry.errors import HusbandryError
from husbandry.plan.equipment import FIRST_DAY, LAST_DAY
from ridgeback import clock
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.planner import readings
from ridgeback.rooms.models import Animal, Residence

FORMAT: Final = "ridgeback-daybook/1"
MOST_ENTRIES: Final = 1_000_000
MOST_ANIMALS: Final = 50_000
FIRST_MOMENT: Final = datetime(FIRST_DAY.year, 1, 1, tzinfo=UTC)


class UnreadableDaybookError(HusbandryError, ValueError):
    """The file is no daybook of ours; `why` says where."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why


class _Kept(BaseModel):
    """What other readers of the log count on, of a kind that has a writer of its own; what else it holds stays."""

    model_config = ConfigDict(extra="allow")


class _Meal(_Kept):
    outcome: Literal["eaten", "part", "refused", "skipped"]
    products: list[Annotated[str, Field(max_length=80)]] = Field(default_factory=list, max_length=20)
    foods: list[tuple[Annotated[str, Field(max_length=80)], float | None, float]] = Field(default_factory=list, max_length=40)
    due: date | None = None
    who: list[Annotated[str, Field(max_length=40)]] | None = None
    ate: int | None = None
    eaten_g: float | None = None


class _Done(_Kept):
    job: Annotated[str, Field(max_length=80)]
    due: date
    outcome: Literal["done", "skipped"]


class _Turn(_Kept):
    job: Annotated[str, Field(max_length=80)]
    planned: date
    to: date


class _Spot(BaseModel):
    model_config = ConfigDict(extra="forbid")
    name: Annotated[str, Field(max_length=80)]
    x_m: float
    height_m: float


class _Reading(_Kept):
    place: Annotated[str, Field(max_length=40)]
    value: float
    by: Annotated[str, Field(max_length=60)]
    reads_high: float
    sure_to: Annotated[float, Field(gt=0)]
    room_c: float
    room_percent: float
    lamps_off: bool = False
    spot: _Spot | None = None

    @field_validator("place")
    @classmethod
    def _a_place(cls, place: str) -> str:
        if place not in readings.READ_BY:
            raise ValueError("no such place")
        return place


class _Planned(_Kept):
    label: Annotated[str, Field(max_length=120)] = ""
    told: dict[Annotated[str, Field(max_length=12)], Annotated[str, Field(max_length=160)]] = Field(
        default_factory=dict, max_length=20
    )
    name: Annotated[str, Field(max_length=80)] = ""
    version: int | None = None


OTHERS: Final[dict[str, type[_Kept]]] = {
    Event.Kind.FED: _Meal,
    Event.Kind.DONE: _Done,
    Event.Kind.MOVED: _Turn,
    Event.Kind.READ: _Reading,
    **dict.fromkeys((Event.Kind.CREATED, Event.Kind.IMPORTED, Event.Kind.PLANNED, Event.Kind.UNDONE, Event.Kind.REDONE), _Planned),
}


def _in_a_lifetime(day: date) -> date:
    if not FIRST_DAY <= day <= LAST_DAY:
        raise ValueError("that is no day of a life")
    return day


def _of_an_entry(at: datetime) -> datetime:
    if not FIRST_MOMENT < at < clock.now() + timedelta(days=1):
        raise ValueError("that is no time of an entry")
    return at


Day = Annotated[date, AfterValidator(_in_a_lifetime)]
Moment = Annotated[AwareDatetime, AfterValidator(_of_an_entry)]


class _Read(BaseModel):
    model_config = ConfigDict(extra="forbid")


class HomeTold(_Read):
    habitat: str = Field(max_length=80)
    habitat_key: entries.Key | None = None  # tells two of one name apart
    since: Day
    until: Day | None = None
    why: Residence.Why
    note: str = Field(default="", max_length=300)


class AnimalTold(_Read):
    key: entries.Key
    name: str = Field(max_length=80)
    species: str = Field(max_length=60)
    marks: str = Field(default="", max_length=200)
    chip: str = Field(default="", max_length=40)
    sex: Animal.Sex = Animal.Sex.UNKNOWN
    sexed_on: Day | None = None
    sexed_by: str = Field(default="", max_length=20)
    hatched: Day | None = None
    hatched_is_estimate: bool = False
    origin: Animal.Origin = Animal.Origin.UNKNOWN
    came_from: str = Field(default="", max_length=120)
    papers: str = Field(default="", max_length=200)
    mother_id: int | None = None
    father_id: int | None = None
    left_on: Day | None = None
    left_by: str = Field(default="", max_length=10)
    residences: list[HomeTold] = Field(default_factory=list, max_length=500)

    @model_validator(mode="after")
    def _a_life_there_can_be(self) -> Self:
        if (self.left_on is None) != (self.left_by == "") or self.left_by not in ("", *Animal.Left.values):
            raise ValueError("an animal leaves on a day and in a way")
        if self.sexed_by not in ("", *Animal.SexedBy.values):
            raise ValueError("no such way to tell the sex")
        if sum(home.until is None for home in self.residences) > 1:
            raise ValueError("an animal lives in one habitat")
        if any(home.until is not None and home.until < home.since for home in self.residences):
            raise ValueError("an animal moves out after it has moved in")
        return self


class EntryTold(_Read):
    key: entries.Key
    kind: Event.Kind
    at: Moment
    animal: entries.Key | None = None
    habitat: str | None = None
    habitat_key: entries.Key | None = None
    payload: dict[str, Any]
    written_at: Moment | None = None
    taken_back_at: Moment | None = None
    replaces: int | None = None


@dataclass(frozen=True)
class EntryLine:
    """One entry to be written, with this room's keys; `key` and `replaces` are those of the file.

    A table tells the minute of an entry alone: then it is the same as one of that minute.
    """

    kind: str
    at: datetime
    animal: int | None
    habitat: int | None
    payload: dict[str, Any]
    struck: datetime | None
    written_at: datetime | None = None
    key: int | None = None
    replaces: int | None = None
    to_the_minute: bool = False


def checked(kind: str, payload: dict[str, Any]) -> dict[str, Any]:
    """What an entry of a kind holds, as it is kept. Raises pydantic's ValidationError."""
    if kind in entries.KINDS:
        return entries.checked(kind, payload)
    OTHERS[Event.Kind(kind)].model_validate(payload)
    return payload
