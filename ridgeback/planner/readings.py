"""Readings: what was measured in a habitat, corrected for its instrument, beside what the plan says; and what they teach."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Final

from django.utils import timezone
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.animal.body import body_of
from husbandry.assessment import Change, Measure
from husbandry.climate.calibrate import LEARNT, PLACES, Learnt, Reading, calibrate, places_of
from husbandry.climate.case import ProbeCase
from husbandry.climate.parameters import PARAMETERS
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.ultraviolet import index_at_back
from husbandry.light.ultraviolet import strength_read
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.units import clock_text
from ridgeback.daybook import reader
from ridgeback.daybook.models import Instrument
from ridgeback.language.placewords import OWN, PLACE_NAMES, UV_BACK
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

SAME_M: Final = 0.02  # a probe that lies no further from where it was read has not been moved
# A surface is read by infrared and air by a thermometer: the two are never mixed.
READ_BY: Final = {
    **{
        place: "infrared" if item.surface else "hygrometer" if item.unit == "%" else "thermometer" for place, item in PLACES.items()
    },
    UV_BACK: "uv-meter",
}
PARAMETER_NAMES: Final = {
    "radiant": gettext_lazy("the lamps' radiant share"),
    "losses": gettext_lazy("heat lost through the walls"),
    "air_changes": gettext_lazy("air changes"),
    "mixing": gettext_lazy("mixing along the length"),
    "wetness": gettext_lazy("what evaporates"),
    "room_k": gettext_lazy("the room where it stands"),
    "probe_k": gettext_lazy("the probes' error"),
    "beam": gettext_lazy("the lamps' beam on the basking place"),
    "room_humidity": gettext_lazy("the room's humidity where it stands"),
    "plume": gettext_lazy("the warmth that a lamp's dome leaves inside"),
}
QUANTITY_OF: Final = {
    "basking-surface": "basking_surface",
    "warm-air": "warm_air",
    "cool-air": "cool_air",
    "water": "water_temperature",
    "warm-humidity": "warm_humidity",
    "cool-humidity": "cool_humidity",
    "humid-hide": "humid_hide",
    UV_BACK: "uv_back",
}
SHOWN_COMBINATIONS: Final = 4


@dataclass(frozen=True)
class Spot:
    """A place of the keeper's own as it was when something was read there: its name, and where it lay in m."""

    name: str
    x_m: float
    height_m: float


@dataclass(frozen=True)
class Taken:
    """One reading out of the log, `value` corrected for its instrument; or so many `days` of what an instrument reported."""

    pk: int
    at: datetime
    place: str
    raw: float
    value: float
    sigma: float
    by: str
    room_c: float
    room_percent: float
    lamps_off: bool = False
    spot: Spot | None = None
    days: int = 0

    @property
    def where(self) -> tuple[str, float, float]:
        """The place, and where that is where it is one of the keeper's own."""
        return self.place, *((self.spot.x_m, self.spot.height_m) if self.spot is not None else (0.0, 0.0))

    @property
    def place_name(self) -> str:
        """Where it was read, in words."""
        return str(PLACE_NAMES[self.place]) if self.spot is None else self.spot.name

    @property
    def unit(self) -> str:
        return unit_of(self.place)


def unit_of(place: str) -> str:
    return "UVI" if place == UV_BACK else PLACES[place].unit


def fits(instrument: Instrument, place: str) -> bool:
    """Tell whether this kind of instrument can read there at all."""
    return READ_BY.get(place) == instrument.kind


def of_habitat(habitat: Habitat) -> list[Taken]:
    """All readings, newest first."""
    found = []
    for event in reversed(reader.lived_by(habitat).readings):
        said = event.payload
        value = said["value"] - said["reads_high"]
        at = timezone.localtime(event.at)
        read_by, room = (said["sure_to"], said["by"]), (said["room_c"], said["room_percent"])
        off, spot = said.get("lamps_off", False), said.get("spot")
        own = None if spot is None else Spot(**spot)
        found.append(Taken(event.pk, at, said["place"], said["value"], value, *read_by, *room, off, own))
    return found


def places(plan: HabitatPlan) -> list[tuple[str, Any]]:
    """Where can be read in this habitat, in words."""
    known = [*places_of(enclosure_case(plan)), UV_BACK]
    own = [(f"{OWN}-{index}", probe_name(plan, index)) for index in range(len(plan.probes))]
    return [*((place, PLACE_NAMES[place]) for place in known), *own]


def probe_name(plan: HabitatPlan, index: int) -> str:
    """What a thermometer's probe goes by: its name, else its number."""
    return plan.probes[index].name or _("Probe %(n)s") % {"n": index + 1}


def place_and_spot(plan: HabitatPlan, chosen: str) -> tuple[str, Spot | None]:
    """What was chosen among `places`: the place, and where one of the keeper's own lies."""
    kind, _dash, number = chosen.partition("-")
    if kind != OWN:
        return chosen, None
    probe = plan.probes[int(number)]
    return OWN, Spot(probe_name(plan, int(number)), probe.x_m, probe.height_m)


def learn(plan: HabitatPlan, profile: Profile, taken: list[Taken], today: date) -> tuple[Learnt | None, tuple[float, float] | None]:
    """Work out what the readings teach of the climate and of the lamps' UV: (factor, share of the spread left)."""
    known = places_of(enclosure_case(plan))
    climate = tuple(as_reading(item) for item in taken if teaches(item, known))
    learnt = calibrate(enclosure_case(plan), climate) if climate else None
    bare = plan.model_copy(update={"calibration": None})
    index = index_at_back(bare, body_of(plan, profile, today), today)
    ratios = [
        (item.value / index, item.sigma / index) for item in taken if item.place == UV_BACK and index > 0.05 and not item.lamps_off
    ]
    if not ratios:
        return learnt, None
    return learnt, strength_read(ratios)


def teaches(item: Taken, known: tuple[str, ...]) -> bool:
    """Tell whether a reading teaches the climate model something: of a place there is, with the lamps as they are planned."""
    return (item.place in known or item.spot is not None) and not item.lamps_off


def as_reading(item: Taken) -> Reading:
    """A reading as the model takes it."""
    at = None if item.spot is None else ProbeCase(item.spot.x_m, item.spot.height_m)
    minute = item.at.hour * 60 + item.at.minute or 1
    return Reading(item.place, minute, item.value, item.sigma, item.room_c, item.room_percent, at)


def change(learnt: Learnt | None, uv: tuple[float, float] | None, count: int, today: date) -> Change:
    """The plan's calibration as the readings have it."""
    value: dict[str, Any] = {"on": today.isoformat(), "readings": count}
    if learnt is not None:
        value["middle"] = [round(part, 4) for part in learnt.belief.middle]
        value["root"] = [[round(part, 5) for part in row] for row in learnt.belief.root]
    if uv is not None:
        value["uv"], value["uv_left"] = round(uv[0], 4), round(uv[1], 4)
    return Change("calibration", value)


def _words(weights: Mapping[str, float], names: Sequence[str]) -> str:
    """A combination in words: the first of `names`, those that go with it, and those that make up for it."""
    first, *others = names
    sides: dict[bool, list[str]] = {True: [], False: []}
    for name in others:
        sides[(weights[name] > 0) == (weights[first] > 0)].append(str(PARAMETER_NAMES[name]))
    said = str(PARAMETER_NAMES[first])
    for text, side in ((_("%(said)s, together with %(others)s"), sides[True]), (_("%(said)s, against %(others)s"), sides[False])):
        if side:
            said = text % {"said": said, "others": _(" and ").join(side)}
    return said


def learnt_rows(learnt: Learnt) -> list[dict[str, Any]]:
    """The combinations of parameters, best learnt first: their words, how much of each is known now, and whether that is most."""
    rows = []
    for item in learnt.combinations[:SHOWN_COMBINATIONS]:
        names = sorted(item.weights, key=lambda name: -abs(item.weights[name]))
        rows.append({"words": _words(item.weights, names), "percent": round(100 * item.learnt), "known": item.learnt > LEARNT})
    return rows


def untouched(learnt: Learnt) -> list[str]:
    """The parameters that the readings say next to nothing of, alone or with others."""
    together = {name for item in learnt.combinations[:SHOWN_COMBINATIONS] if item.learnt > LEARNT for name in item.weights}
    return [str(PARAMETER_NAMES[name]) for name in PARAMETERS if learnt.left[name] > 0.95 and name not in together]


def wanted_words(learnt: Learnt, plan: HabitatPlan) -> list[str]:
    """What to measure next, in words, the most telling first."""
    on = plan.daylight.on.hour * 60 + plan.daylight.on.minute
    return [
        _("%(place)s at %(clock)s") % {"place": PLACE_NAMES[item.place], "clock": clock_text((on + item.after_on_min) / 60)}
        for item in learnt.wanted[:3]
    ]


def last_by_quantity(taken: list[Taken], plan: HabitatPlan) -> dict[tuple[str, str, str], Taken]:
    """The newest reading of each quantity: by its key, the season whose room it was read in, and day or night."""
    found: dict[tuple[str, str, str], Taken] = {}
    for item in taken:
        name = None if item.lamps_off else quantity_of(item, plan)
        if name is not None:
            found.setdefault(name, item)
    return found


def quantity_of(item: Taken, plan: HabitatPlan) -> tuple[str, str, str] | None:
    """Which quantity was read: its key, the season whose room is nearest, day or night; None for what the plan does not judge."""
    key = QUANTITY_OF.get(item.place) if item.spot is None else _probe_key(item.spot, plan)
    if key is None:
        return None
    if item.place == UV_BACK:
        return key, "", ""
    phase = "day" if plan.daylight.runs_at(item.at.hour + item.at.minute / 60) else "night"
    name = f"{phase}_c"
    season = min(("summer", "winter"), key=lambda one: abs(getattr(getattr(plan.room, one), name) - item.room_c))
    return key, season, phase


def _probe_key(spot: Spot, plan: HabitatPlan) -> str | None:
    """The quantity of the probe that still lies where this was read."""
    places = enumerate(plan.probes, start=1)
    same = [n for n, probe in places if max(abs(probe.x_m - spot.x_m), abs(probe.height_m - spot.height_m)) <= SAME_M]
    return f"probe_{same[0]}" if same else None


def said(item: Taken, units: KeeperUnits) -> dict[str, str]:
    """A reading's numbers in the keeper's units: raw, corrected, the room beside it."""
    return {
        "raw": units.say(Measure(item.raw, item.unit)),
        "value": units.say(Measure(item.value, item.unit)),
        "room": f"{units.say(Measure(item.room_c, 'degC'))}, {item.room_percent:.0f} %",
    }
