"""What an entry of the daybook may hold, kind by kind: SI units, days in ISO form. An entry that is none of these is not written.

Plans, meals, chores and readings have writers of their own (`log`); here is what a keeper writes down of an animal or a habitat.
"""

from datetime import date
from typing import Annotated, Any, Final, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field

from ridgeback.daybook.models import Event

Note = Annotated[str, Field(max_length=2000)]
Line = Annotated[str, Field(max_length=200)]
Share = Annotated[float, Field(ge=0, le=100)]
Celsius = Annotated[float, Field(ge=-20, le=60)]
Eggs = Annotated[int, Field(ge=0, le=5000)]
Key = Annotated[int, Field(ge=1, le=2**53)]

Stuck = Literal["toes", "tail-tip", "eye-caps", "elsewhere"]
Seen = Literal["blood", "slime", "worms", "undigested"]
Behaviour = Literal[
    "basks-all-day",
    "never-basks",
    "always-cool-end",
    "shuts-eyes",
    "shuns-corner",
    "gapes",
    "paces-glass",
    "soaks-long",
    "sleeps-in-open",
    "will-not-eat",
    "empties-dish",
    "hides-always",
    "still-but-awake",
    "digs",
    "sheds-in-pieces",
    "normal",
]
Sign = Literal[
    "thin",
    "swelling",
    "eyes-closed",
    "discharge",
    "open-mouth",
    "limp",
    "twitching",
    "soft-shell",
    "skin-wound",
    "burn",
    "mites",
    "prolapse",
    "strains",
    "runny-droppings",
    "floats-tilted",
    "other",
]
Sound = Literal["eyes-clear", "nose-dry", "mouth-clean", "vent-clean", "skin-whole", "alert", "good-weight", "no-mites"]


class Payload(BaseModel):
    """What every entry may carry: a note in the keeper's own words."""

    model_config = ConfigDict(extra="forbid", frozen=True)
    note: Note = ""


class Weighed(Payload):
    """Mass in kg; `tare_kg` is the tub's, where it was taken off."""

    mass_kg: Annotated[float, Field(ge=0.00001, le=200)]
    tare_kg: Annotated[float, Field(ge=0, le=100)] | None = None


class Measured(Payload):
    """Length in m, by the species' measure."""

    length_m: Annotated[float, Field(ge=0.005, le=8)]


class Scored(Payload):
    score: Annotated[int, Field(ge=1, le=5)]


class BroughtUp(Payload):
    """A meal brought up again, so many days after it."""

    days_after: Annotated[int, Field(ge=0, le=30)] | None = None


class Shed(Payload):
    """How the skin came off, and where any stayed on."""

    came: Literal["whole", "pieces", "not-seen"] = "whole"
    stuck: tuple[Stuck, ...] = ()


class Droppings(Payload):
    look: Literal["firm", "soft", "runny", "dry", "urates-only"] = "firm"
    seen: tuple[Seen, ...] = ()
    sample: bool = False


class Soaked(Payload):
    minutes: Annotated[float, Field(gt=0, le=600)] | None = None
    looked_over: bool = False


class Behaved(Payload):
    what: Behaviour


class Signed(Payload):
    what: Sign


class Treated(Payload):
    """A treatment as the veterinarian wrote it; nothing of it is reckoned. `until` is the last day of the course."""

    what: Line
    dose: Line = ""
    by: Line = ""
    reason: Line = ""
    every_days: Annotated[int, Field(ge=1, le=60)] | None = None
    until: date | None = None


class Handled(Payload):
    kind: Literal["handled", "trained", "shown"] = "handled"
    minutes: Annotated[float, Field(gt=0, le=600)] | None = None


class Screened(Payload):
    """A sample or a check for parasites or an infection, and what came of it."""

    what: Line
    result: Literal["waiting", "clean", "found"] = "waiting"


class Bred(Payload):
    """A pairing, a courtship, a female that is gravid; `partner` is an animal's key."""

    partner: Key | None = None


class Laid(Payload):
    """A clutch: eggs, those that look good, and the incubator's warmth (°C) and moisture (%); `partner` is the father's key."""

    eggs: Eggs
    good: Eggs | None = None
    partner: Key | None = None
    incubator_c: Celsius | None = None
    spread_c: Annotated[float, Field(ge=0, le=5)] | None = None
    incubator_percent: Share | None = None
    left_in_place: bool = False


class OfClutch(Payload):
    """What was seen of a clutch, by the key of its entry."""

    clutch: Key
    good: Eggs


class Cleaned(Payload):
    how: Literal["spot", "part", "whole", "disinfected"] = "spot"


class Watered(Payload):
    what: Literal["changed", "part-changed", "topped-up", "tested"] = "changed"
    treated: bool = False


class LampChanged(Payload):
    """A lamp that was replaced, by its place in the plan ("uv_lamps.0")."""

    part: Annotated[str, Field(max_length=40, pattern=r"^(uv_lamps|heaters)\.\d{1,2}$")]


class Arrived(Payload):
    """Where an animal came from, and what was looked at on its first day."""

    came_from: Line = ""
    sound: tuple[Sound, ...] = ()


class Moved(Payload):
    """From one habitat to another, by their keys and their names of then."""

    origin: Key | None = None
    origin_name: Line = ""
    target: Key | None = None
    target_name: Line = ""
    why: Line = ""


class Left(Payload):
    how: Literal["rehomed", "returned", "lent", "escaped", "died"]


class Quarantined(Payload):
    """A quarantine that began, was made longer or was ended by a decision; `until` is its last day."""

    what: Literal["begun", "changed", "ended"]
    until: date


class Built(Payload):
    """What was done, in words: a step of a build, somebody joining a room."""

    what: Line
    told: dict[Line, Line] = {}  # the same by the codes of languages


KINDS: Final[dict[str, type[Payload]]] = {
    Event.Kind.WEIGHED: Weighed,
    Event.Kind.MEASURED: Measured,
    Event.Kind.CONDITION: Scored,
    Event.Kind.BROUGHT_UP: BroughtUp,
    Event.Kind.SHED: Shed,
    Event.Kind.DROPPINGS: Droppings,
    Event.Kind.SOAKED: Soaked,
    Event.Kind.BEHAVED: Behaved,
    Event.Kind.SIGN: Signed,
    Event.Kind.TREATED: Treated,
    Event.Kind.HANDLED: Handled,
    Event.Kind.SCREENED: Screened,
    Event.Kind.PAIRED: Bred,
    Event.Kind.COURTED: Bred,
    Event.Kind.GRAVID: Bred,
    Event.Kind.LAID: Laid,
    Event.Kind.CANDLED: OfClutch,
    Event.Kind.HATCHED: OfClutch,
    Event.Kind.CLEANED: Cleaned,
    Event.Kind.WATERED: Watered,
    Event.Kind.LAMP_CHANGED: LampChanged,
    Event.Kind.NOTED: Payload,
    Event.Kind.PHOTO: Payload,
    Event.Kind.ARRIVED: Arrived,
    Event.Kind.MOVED_IN: Moved,
    Event.Kind.LEFT: Left,
    Event.Kind.QUARANTINE: Quarantined,
    Event.Kind.BUILT: Built,
    Event.Kind.PEOPLE: Built,
}
# What is written of either.
OF_EITHER: Final = (Event.Kind.NOTED, Event.Kind.PHOTO, Event.Kind.DROPPINGS, Event.Kind.BEHAVED)
# What follows from an action of its own and is not typed as an entry.
BY_ACTION: Final = (
    Event.Kind.ARRIVED,
    Event.Kind.MOVED_IN,
    Event.Kind.LEFT,
    Event.Kind.QUARANTINE,
    Event.Kind.BUILT,
    Event.Kind.PEOPLE,
)


def checked(kind: str, payload: dict[str, Any]) -> dict[str, Any]:
    """Return what is kept of an entry, without what was left open. Raises KeyError, pydantic.ValidationError."""
    kept = KINDS[kind].model_validate(payload).model_dump(mode="json", exclude_defaults=True)
    return {name: list(value) if isinstance(value, tuple) else value for name, value in kept.items()}


def choices_of(kind: str, name: str) -> tuple[str, ...]:
    """The values that a field of a kind may take, in their order; none where it is typed freely."""
    return _literals(KINDS[kind].model_fields[name].annotation)


def _literals(annotation: Any) -> tuple[str, ...]:
    arguments = get_args(annotation)
    if arguments and all(isinstance(one, str) for one in arguments):
        return arguments
    return next((found for one in arguments if one is not Ellipsis for found in (_literals(one),) if found), ())
