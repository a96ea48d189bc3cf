"""A room that holds several enclosures: what they give it of heat and moisture, and what it comes to with them.

The room is one node with its own loss, air change and stored heat. What the enclosures draw depends on the room through their
thermostats, and the room on what they draw: the two are brought together by relaxation, whose step follows Irons and Tuck.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.air import (
    AIR_DENSITY,
    AIR_HEAT_CAPACITY,
    KELVIN,
    VAPOUR_GAS_CONSTANT,
    relative_humidity,
    saturation_pressure,
)
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.humidity import LATENT_HEAT
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady

Floats = NDArray[np.float64]

HOURS: Final = 24
ROOM_HEAT: Final = 80e3  # J/K for each m² of floor: furniture, air and the skin of the walls (ISO 13790, very light; recalled)
FIRST_STEP: Final = 0.5
STEP_FROM, STEP_TO = 0.1, 1.0
ROUNDS: Final = 12
STILL_K: Final = 0.02
DAY_FROM, DAY_TO = 8, 20  # hours of the clock that count as the room's day


@dataclass(frozen=True)
class RoomShell:
    """A room: its floor (m²) and height (m), what it loses through walls and windows (W/K), its air changes an hour.

    `alone` is what it has without the enclosures, by season. In those in which it is `heated` a heating holds that, which
    gives less where the enclosures give more; `outside_c` is the mean out of doors, by season.
    """

    floor_m2: float
    height_m: float
    loss_w_k: float
    air_changes_h: float
    alone: dict[str, RoomState]
    outside_c: dict[str, float]
    heated: tuple[str, ...] = ("winter",)

    @property
    def loss_in_all_w_k(self) -> float:
        """What it loses for each kelvin: through its walls, and with the air that is changed."""
        return self.loss_w_k + AIR_DENSITY * AIR_HEAT_CAPACITY * self.air_m3_s

    @property
    def air_m3_s(self) -> float:
        """The air that is changed, m³/s."""
        return self.air_changes_h * self.floor_m2 * self.height_m / 3600


@dataclass(frozen=True)
class Occupant:
    """An enclosure that stands in the room, and the W that its lamps give beside it while it is light."""

    case: EnclosureCase
    beside_w: float = 0.0


@dataclass(frozen=True)
class Gives:
    """What one enclosure gives the room, over the day: electrical W, the W that its water takes, water in g/h."""

    watts: float
    latent_w: float
    water_g_h: float


@dataclass(frozen=True)
class SharedRoom:
    """The room of one season with its enclosures: °C by the hour, its day's and night's mean, humidity in %; and each one's part.

    `saved_w` is what the room's own heating gives less.
    """

    curve_c: tuple[float, ...]
    day_c: float
    night_c: float
    percent: float
    each: tuple[Gives, ...]
    saved_w: float

    @property
    def watts(self) -> float:
        """What all enclosures draw, the mean of the day."""
        return sum(item.watts for item in self.each)

    @property
    def water_g_h(self) -> float:
        """What all give off in water, the mean of the day."""
        return sum(item.water_g_h for item in self.each)


def shared(shell: RoomShell, occupants: Sequence[Occupant], season: str) -> SharedRoom:
    """Bring a room and the enclosures in it together, in one season.

    Parameters
    ----------
    shell
        The room.
    occupants
        The enclosures in it; none is a room alone.
    season
        One of those of `shell.alone`.

    Returns
    -------
    SharedRoom. Limits: one air for the whole room, moisture at its mean over the day, no moisture kept in walls.

    References
    ----------
    ISO 13790:2008, the simple hourly method's single capacity (docs/models.md [30]; recalled). Irons and Tuck 1969, a version of
    the Aitken accelerator (docs/models.md [31]; recalled).
    """
    room = _Room(shell, season)
    state, before, step = room.none(), None, FIRST_STEP
    climates: list[Climate | None] = [None] * len(occupants)
    for _ in range(ROUNDS):
        given, climates = room.given(occupants, state, climates)
        lacks = room.answer(given) - state
        if float(np.abs(lacks[:HOURS]).max()) < STILL_K:
            break
        if before is not None:
            turned = lacks - before
            step = float(np.clip(-step * (before @ turned) / max(float(turned @ turned), 1e-12), STEP_FROM, STEP_TO))
        state, before = state + step * lacks, lacks
    return room.told(state, given)


@dataclass(frozen=True)
class _Given:
    """By the hour: what all give in W (24,); of each over the day, `Gives`."""

    heat_w: Floats
    each: tuple[Gives, ...]


class _Room:
    """One season of a room. A state is its 24 hourly rises over the room alone in K, and behind them that of its vapour in hPa."""

    def __init__(self, shell: RoomShell, season: str) -> None:
        self.shell, self.season, self.alone = shell, season, shell.alone[season]
        # As a plan has its room: one temperature by day, one by night.
        self.bare_c = np.full(HOURS, self.alone.night_c)
        self.bare_c[DAY_FROM:DAY_TO] = self.alone.day_c
        self.bare_pa = self.alone.humidity_percent / 100 * float(saturation_pressure(self.bare_c.mean()))
        held = self.bare_c - shell.outside_c[season]
        self.heating_w = np.maximum(held, 0.0) * shell.loss_in_all_w_k if season in shell.heated else np.zeros(HOURS)

    def none(self) -> Floats:
        """The state of a room alone."""
        return np.zeros(HOURS + 1)

    def room(self, state: Floats) -> RoomState:
        """The room as an enclosure in it sees it."""
        curve = self.bare_c + state[:HOURS]
        percent = float(relative_humidity(self.bare_pa + 100 * state[HOURS], curve.mean()))
        day = curve[DAY_FROM:DAY_TO]
        night_c = (float(curve.sum()) - float(day.sum())) / (HOURS - day.size)
        return RoomState(float(day.mean()), night_c, min(percent, 100.0))

    def given(
        self, occupants: Sequence[Occupant], state: Floats, near: Sequence[Climate | None]
    ) -> tuple[_Given, list[Climate | None]]:
        """What the enclosures give a room in a state."""
        room, heat, each, climates = self.room(state), np.zeros(HOURS), [], list[Climate | None]()
        for occupant, begun in zip(occupants, near, strict=True):
            case = replace(occupant.case, rooms={self.season: room})
            climate = solve_steady(case, spread=False, seasons=(self.season,), near=begun)
            climates.append(climate)
            lit = np.array([case.is_day(hour + 0.5) for hour in range(HOURS)])
            by_phase = {phase: climate.states[self.season, phase] for phase in ("day", "night")}
            watts = np.where(lit, by_phase["day"].watts + occupant.beside_w, by_phase["night"].watts)
            out_kg_h = np.where(lit, *(by_phase[phase].predictions["vapour_out"].value for phase in ("day", "night")))
            latent_w = LATENT_HEAT * out_kg_h / 3600
            heat += watts - latent_w
            each.append(Gives(float(watts.mean()), float(latent_w.mean()), 1000 * float(out_kg_h.mean())))
        return _Given(heat, tuple(each)), climates

    def answer(self, given: _Given) -> Floats:
        """The state that what is given would bring about: a node that stores, round a day that repeats itself."""
        shell = self.shell
        # As much as the heating gave anyway it gives less; only what is beyond warms the room.
        beyond = np.where(
            given.heat_w > 0, np.maximum(given.heat_w - self.heating_w, 0.0), given.heat_w * (self.season not in shell.heated)
        )
        towards = beyond / shell.loss_in_all_w_k
        kept = float(np.exp(-3600 * shell.loss_in_all_w_k / (ROOM_HEAT * shell.floor_m2)))
        at = sum((1 - kept) * kept**back * towards[-1 - back] for back in range(HOURS)) / (1 - kept**HOURS)
        ends = np.empty(HOURS)
        for hour in range(HOURS):
            at = kept * at + (1 - kept) * towards[hour]
            ends[hour] = at
        # The mean of an hour, of what goes exponentially from one end to the other.
        means = towards + (np.roll(ends, 1) - towards) * (1 - kept) / -np.log(kept)
        water_kg_s = sum(item.water_g_h for item in given.each) / 3.6e6
        rise_pa = water_kg_s * VAPOUR_GAS_CONSTANT * (self.bare_c.mean() + KELVIN) / max(shell.air_m3_s, 1e-9)
        return np.append(means, rise_pa / 100)

    def told(self, state: Floats, given: _Given) -> SharedRoom:
        """The answer in the caller's terms."""
        room = self.room(state)
        saved = float(np.clip(given.heat_w, 0.0, self.heating_w).mean())
        curve = tuple(float(value) for value in self.bare_c + state[:HOURS])
        return SharedRoom(curve, room.day_c, room.night_c, room.humidity_percent, given.each, saved)
