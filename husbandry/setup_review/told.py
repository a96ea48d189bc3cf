"""What somebody tells of a set-up that stands: species, box, what is in it. What they do not know is None, and stays unknown."""

from collections.abc import Mapping
from typing import Annotated, Any, Final, Literal

from pydantic import Field

from husbandry.climate.heaters import HEATERS
from husbandry.plan.changes import one_ground
from husbandry.plan.equipment import (
    EnclosureKind,
    GroundKind,
    HeaterKind,
    LidKind,
    Part,
    Position,
    RoomCelsius,
    Side,
    TargetCelsius,
    TubeKind,
)
from husbandry.plan.habitat import Animal

End = Literal["warm", "middle", "cool"]
ProbeAt = Literal["spot", "air", "cool"]
Grown = Literal["adult", "half", "young"]
OF_ADULT: Final = {"adult": 1.0, "half": 0.5, "young": 0.2}  # of an adult's length (estimate)
AT: Final = {"warm": 0.22, "middle": 0.5, "cool": 0.8}  # of the length, the warm end left
PROBES: Final[dict[str, dict[str, str]]] = {  # where a probe is, by where its heater is, as a plan names the places
    "spot": {"under": "mat", "": "basking-surface"},
    "air": {"": "warm-air"},
    "cool": {"": "cool-air"},
}
MOST_OF_EACH: Final = 4
NIGHT_FALL_K: Final = 2.0  # of a room that nobody heats by night
UNDER_LID_M: Final = 0.05
SLATE_M: Final = 0.02
BOWL_M: Final = 0.12
HIDE_M, HIDE_HIGH_M = 1.2, 0.5  # of the body's length: how long a hide is taken to be, how high of that
GRAMS_A_MISTING: Final = 60.0
MISTED_AT: Final = ("08:00", "20:00", "14:00", "11:00", "17:00", "23:00")


class ToldHeater(Part):
    """One heater: over which end (or where, from the left and from the front), how strong, held by a thermostat or not, where the
    thermostat's probe is and what it is set to; guarded or not."""

    kind: HeaterKind
    end: End = "warm"
    watts: Annotated[float, Field(gt=0, le=500)] | None = None
    thermostat: bool | None = None
    probe: ProbeAt | None = None
    set_c: TargetCelsius | None = None
    guarded: bool | None = None
    x_m: Position | None = None
    y_m: Position | None = None


class ToldTube(Part):
    """One UV tube: its kind, how many months old it is, and whether it has a reflector."""

    kind: TubeKind | None = None
    months: Annotated[int, Field(ge=0, le=240)] | None = None
    reflector: bool | None = None
    x_m: Position | None = None
    y_m: Position | None = None
    length_m: Annotated[float, Field(gt=0, le=2)] = 0.55


class ToldHide(Part):
    """One hide, at which end (or where), whether it is kept damp inside, and whether it is dark in there."""

    end: End
    humid: bool | None = None
    dark: bool | None = None
    x_m: Position | None = None
    y_m: Position | None = None


class ToldReadings(Part):
    """What a thermometer or hygrometer shows there: by day on the basking place, in the air of both ends, and by night."""

    basking_surface_c: TargetCelsius | None = None
    warm_air_c: TargetCelsius | None = None
    cool_air_c: TargetCelsius | None = None
    night_c: TargetCelsius | None = None
    percent: Annotated[float, Field(ge=0, le=100)] | None = None


class Told(Part):
    """A set-up as it is told. None is "I do not know"; what is not there is not in its list.

    `grown` says how far an animal is that was neither weighed nor measured and of which no day of hatching is known. `thermometers`
    tells whether anything but the thermostats shows how warm it is, `dusted` whether calcium or vitamins go on the food.
    """

    name: Annotated[str, Field(max_length=60)] = ""
    species: Annotated[str, Field(max_length=60)]
    animal: Animal = Animal()
    grown: Grown | None = None
    length_m: Side
    width_m: Side
    height_m: Side
    kind: EnclosureKind = "glass"
    lid: LidKind | None = None
    room_c: RoomCelsius | None = None
    room_percent: Annotated[float, Field(ge=1, le=100)] | None = None
    heaters: Annotated[tuple[ToldHeater, ...], Field(max_length=MOST_OF_EACH)] = ()
    tubes: Annotated[tuple[ToldTube, ...], Field(max_length=MOST_OF_EACH)] = ()
    hides: Annotated[tuple[ToldHide, ...], Field(max_length=2 * MOST_OF_EACH)] = ()
    bowl: bool | None = None
    bowl_x_m: Position | None = None
    bowl_y_m: Position | None = None
    ground: GroundKind | None = None
    ground_m: Annotated[float, Field(ge=0, le=1)] | None = None
    mistings: Annotated[int, Field(ge=0, le=6)] | None = None
    thermometers: bool | None = None
    dusted: bool | None = None
    readings: ToldReadings = ToldReadings()

    @property
    def sized(self) -> bool:
        """Tell whether anything says how far the animal is grown."""
        return self.animal.mass_kg is not None or self.animal.length_m is not None or self.animal.hatched is not None


def document_of(told: Told, body_m: float, wanted_c: Mapping[str, float], fitted: str) -> dict[str, Any]:
    """Return the plan of a set-up of which everything is known, as a document of ridgeback-plan/2.

    Parameters
    ----------
    told
        The set-up, nothing in it None but what a plan may do without.
    body_m
        How long the animal is, m: what is not measured is taken as large as it needs.
    wanted_c
        What a thermostat is set to where nobody said it, °C: what the animal wants where its probe is, by `ProbeAt`.
    fitted
        The day, ISO, on which each tube was fitted, in the order of the tubes, parted by blanks.

    Returns
    -------
    A document; whether its parts fit is for `check_places` to say.

    References
    ----------
    Places along the length and usual sizes: estimates of this module.
    """
    case = {"day_c": told.room_c, "night_c": (told.room_c or 0.0) - NIGHT_FALL_K, "humidity_percent": told.room_percent}
    days = fitted.split()
    return {
        "format": "ridgeback-plan/2",
        "name": told.name or "What stands",
        "species": told.species,
        "animal": told.animal.model_dump(mode="json"),
        "room": {"summer": case, "winter": case},
        "enclosure": {
            "kind": told.kind,
            "length_m": told.length_m,
            "width_m": told.width_m,
            "height_m": told.height_m,
            "lid": told.lid,
        },
        "ground": one_ground(told.ground or "paper", told.ground_m or 0.0),
        "things": _things(told, body_m),
        "heaters": [_heater(told, one, wanted_c) for one in told.heaters],
        "uv_lamps": [_tube(told, one, day) for one, day in zip(told.tubes, days, strict=True)],
        "misting": {"times": [{"at": at, "grams": GRAMS_A_MISTING} for at in sorted(MISTED_AT[: told.mistings or 0])]},
    }


def _things(told: Told, body_m: float) -> list[dict[str, Any]]:
    side_m = round(min(max(HIDE_M * body_m, 0.08), 0.3 * told.length_m, 0.8 * told.width_m), 3)
    things: list[dict[str, Any]] = []
    beside_slate_m = 0.0
    lamps = [one for one in told.heaters if HEATERS[one.kind].place == "over"]
    if lamps:
        across_m = round(min(max(body_m, 0.12), 0.25 * told.length_m, 0.5 * told.width_m), 3)
        under = lamps[0]
        at_m = _inside(_along(told, under, under.end), across_m, told.length_m)
        beside_slate_m = (across_m + side_m) / 2 + 0.01 if under.x_m is None else 0.0
        slate = {"kind": "slate", "x_m": at_m, "length_m": across_m, "height_m": SLATE_M, "basking": True, "footing": True}
        things.append(slate | ({} if under.y_m is None else {"y_m": _inside(under.y_m, across_m, told.width_m)}))
    taken: dict[str, int] = {}
    for hide in told.hides:
        if hide.x_m is None:
            turn = taken[hide.end] = taken.get(hide.end, -1) + 1
            off_m = turn * (side_m + 0.01) + (beside_slate_m if hide.end == "warm" else 0.0)
            towards = -1 if hide.end == "cool" else 1
            beside_m = round(AT[hide.end] * told.length_m + towards * off_m, 3)
            far_m = round(told.width_m - 0.6 * side_m, 3)
        else:
            beside_m = _inside(hide.x_m, side_m, told.length_m)
            far_m = _inside(told.width_m / 2 if hide.y_m is None else hide.y_m, side_m, told.width_m)
        kind = "humid-hide" if hide.humid else "hide"
        high_m = round(max(HIDE_HIGH_M * side_m, 0.05), 3)
        made = {"kind": kind, "x_m": beside_m, "y_m": far_m, "length_m": side_m, "height_m": high_m}
        things.append(made | ({} if hide.dark is None else {"dark": hide.dark}))
    if told.bowl:
        x_m = 0.66 * told.length_m if told.bowl_x_m is None else told.bowl_x_m
        bowl = {"kind": "bowl", "x_m": _inside(x_m, BOWL_M, told.length_m), "length_m": BOWL_M, "height_m": 0.04}
        things.append(bowl | ({} if told.bowl_y_m is None else {"y_m": _inside(told.bowl_y_m, BOWL_M, told.width_m)}))
    return things


def _along(told: Told, one: ToldHeater | ToldTube, end: str) -> float:
    return AT[end] * told.length_m if one.x_m is None else one.x_m


def _inside(at_m: float, across_m: float, side_m: float) -> float:
    """A middle so that the thing does not reach through a wall."""
    return round(min(max(at_m, across_m / 2), max(side_m - across_m / 2, across_m / 2)), 3)


def _heater(told: Told, one: ToldHeater, wanted_c: Mapping[str, float]) -> dict[str, Any]:
    kind = HEATERS[one.kind]
    over_m = told.height_m if told.lid != "solid" else told.height_m - UNDER_LID_M
    at = one.probe or "spot"
    places = PROBES[at]
    held = {
        "kind": kind.controls[0],
        "set_c": one.set_c or wanted_c[at],
        "probe": places.get(kind.place, places[""]),
    }
    made = {
        "kind": one.kind,
        "watts": one.watts,
        "x_m": round(min(_along(told, one, one.end), told.length_m), 3),
        "height_m": round(over_m, 3) if kind.place == "over" else 0.01,
        "guarded": bool(one.guarded),
        "thermostat": held if one.thermostat and kind.controls[0] != "none" else {"kind": "none"},
    }
    return made | ({"y_m": round(min(one.y_m, told.width_m), 3)} if one.y_m is not None and kind.place == "over" else {})


def _tube(told: Told, one: ToldTube, fitted: str) -> dict[str, Any]:
    over_m = told.height_m + 0.02 if told.lid != "solid" else told.height_m - UNDER_LID_M
    made = {
        "kind": one.kind,
        "tube_m": one.length_m,
        "x_m": _inside(_along(told, one, "warm"), min(one.length_m, told.length_m), told.length_m),
        "height_m": round(over_m, 3),
        "reflector": bool(one.reflector),
        "fitted": fitted,
    }
    return made | ({} if one.y_m is None else {"y_m": round(min(one.y_m, told.width_m), 3)})
