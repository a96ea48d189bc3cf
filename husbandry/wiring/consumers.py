"""What of a plan is plugged in: its watts, what it draws when it starts, where it stands, and what may control it."""

import math
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field

from husbandry.climate.heaters import HEATERS
from husbandry.inputs.light_sources import lamp_watts
from husbandry.plan.equipment import Timed, hours_of
from husbandry.plan.geometry import foot_m, y_of
from husbandry.plan.habitat import HabitatPlan

FELT_MS: Final = 10.0  # half a wave of 50 Hz
FILTER_W: Final = 8.0  # that a filter of an enclosure takes (trade: 5 to 15)
FAN_W: Final = 3.0
MISTER_W: Final = 30.0  # a diaphragm pump at 5 bar (trade)
FOGGER_W: Final = 25.0
CARRIES_W: Final = {
    "on-off": 1000.0,
    "pulse": 600.0,
    "dimming": 300.0,
}  # that a thermostat usually carries (trade); its plate decides


class LoadKind(BaseModel):
    """What consumers of some kinds are to the wire; `inrush_times` their running current or `inrush_a` a piece when they start."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    power_factor: Annotated[float, Field(gt=0, le=1)]
    inrush_times: Annotated[float, Field(ge=1, le=30)] | None = None
    inrush_a: Annotated[float, Field(gt=0, le=100)] | None = None
    inrush_ms: Annotated[float, Field(gt=0, le=100)] = FELT_MS
    basis: Literal["physics", "practice"]
    kinds: tuple[str, ...]


@cache
def load_kinds() -> Mapping[str, LoadKind]:
    """What each kind of consumer is to the wire, by its kind."""
    table = tomllib.loads(files("husbandry.wiring").joinpath("data/loads.toml").read_text(encoding="utf-8"))
    rows = [LoadKind.model_validate(row) for row in table.values()]
    return {kind: row for row in rows for kind in row.kinds}


@dataclass(frozen=True)
class Consumer:
    """Something that is plugged in.

    `key` is its path in the plan, or "mister", "fogger", "filter", "fan". It stands at `at_m` (along, from the front, above the
    inner floor; m). `control` is its thermostat's kind, "" for none. `hours` a day it may be on; `starts` at these hours of the
    day, () for what only a thermostat starts. `in_water`: it stands in water or moves it. Its lead leaves `ends_m` (along, from the
    front) off its middle, at either end.
    """

    key: str
    kind: str
    watts: float
    at_m: tuple[float, float, float]
    control: str = ""
    hours: float = 24.0
    starts: tuple[float, ...] = ()
    in_water: bool = False
    ends_m: tuple[float, float] = (0.0, 0.0)

    @property
    def heats(self) -> bool:
        """Tell whether it is there for its warmth."""
        return self.kind in HEATERS and not HEATERS[self.kind].cools

    def amps(self, volts: float) -> float:
        """What it draws while it runs, A."""
        return self.watts / (volts * load_kinds()[self.kind].power_factor)

    def start_amps(self, volts: float) -> float:
        """What it draws for a moment when it starts cold, A, as a breaker feels it.

        A pulse much shorter than half a wave lets a breaker go by its I²t: it counts as the current of equal I²t over half a wave.
        """
        about = load_kinds()[self.kind]
        peak_a = about.inrush_a if about.inrush_a is not None else (about.inrush_times or 1.0) * self.amps(volts)
        return peak_a * math.sqrt(min(about.inrush_ms, FELT_MS) / FELT_MS)


def consumers(plan: HabitatPlan) -> tuple[Consumer, ...]:
    """Return everything of a plan that is plugged in, in the order of the document.

    Parameters
    ----------
    plan
        What is built.

    Returns
    -------
    Consumer, watts at full power.

    References
    ----------
    Watts are the plan's own; of tubes by their length, of pumps and filters common practice, no source.
    """
    box = plan.enclosure
    found = []
    for place, heater in enumerate(plan.heaters):
        where = HEATERS[heater.kind].place
        height_m = 0.0 if where == "under" else heater.height_m
        held = "" if heater.thermostat.kind == "none" else heater.thermostat.kind
        at_m = (heater.x_m, box.width_m if where == "wall" else y_of(plan, heater), height_m)
        found.append(
            Consumer(
                f"heaters.{place}", heater.kind, heater.watts, at_m, held, heater.hours_a_day, _starts(heater), where == "water"
            )
        )
    for place, lamp in enumerate(plan.uv_lamps):
        at_m = (lamp.x_m, y_of(plan, lamp), lamp.height_m)
        half_m = 0.0 if lamp.kind.startswith("compact") else lamp.tube_m / 2
        ends_m = (0.0, half_m) if lamp.across else (half_m, 0.0)
        told = lamp.hours_a_day, _starts(lamp)
        found.append(Consumer(f"uv_lamps.{place}", lamp.kind, lamp_watts(lamp), at_m, "", *told, ends_m=ends_m))
    for place, bar in enumerate(plan.light_bars):
        at_m = (bar.x_m, y_of(plan, bar), bar.height_m)
        ends_m = bar.length_m / 2, 0.0
        found.append(Consumer(f"light_bars.{place}", bar.kind, bar.watts, at_m, "", bar.hours_a_day, _starts(bar), ends_m=ends_m))
    for place, thing in enumerate(plan.things):
        if thing.heated_w is not None:
            at_m = (thing.x_m, y_of(plan, thing), foot_m(plan, thing))
            found.append(Consumer(f"things.{place}", "hide-heater", thing.heated_w, at_m, "pulse"))
    return (*found, *_pumps(plan))


def _starts(timed: Timed) -> tuple[float, ...]:
    return () if timed.on == timed.off else (hours_of(timed.on),)


def _pumps(plan: HabitatPlan) -> list[Consumer]:
    """What moves water or air."""
    box, pool, found = plan.enclosure, plan.pool, []
    if pool is not None:
        at_m = (min(pool.x_m, box.length_m), box.width_m, pool.depth_m)
        found += [Consumer("filter", "filter", FILTER_W, at_m, in_water=True)] if pool.filtered else []
        found += [Consumer("fan", "fan", FAN_W, (at_m[0], at_m[1], box.height_m))] if pool.fan else []
    seasons = [plan.misting, plan.misting.of("winter")]
    corner = (box.length_m, box.width_m, 0.0)
    if plan.mister is not None or any(one.times for one in seasons):
        times = max((one.times for one in seasons), key=len)
        hours = _misting_hours(plan)
        found.append(Consumer("mister", "mister", MISTER_W, corner, "", hours, tuple(hours_of(one.at) for one in times), True))
    if any(one.fogger_g_per_hour > 0 for one in seasons):
        found.append(Consumer("fogger", "fogger", FOGGER_W, corner, "", plan.daylight.hours_a_day, _starts(plan.daylight), True))
    return found


def _misting_hours(plan: HabitatPlan) -> float:
    """How long the pump runs in a day, h; with no pump described, a minute each time."""
    watering = max((plan.misting, plan.misting.of("winter")), key=lambda one: sum(time.grams for time in one.times))
    if plan.mister is None:
        return len(watering.times) / 60
    grams_min = plan.mister.nozzles * plan.mister.nozzle_g_min
    return float(sum(time.grams for time in watering.times) / grams_min / 60)
