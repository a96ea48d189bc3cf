"""Where each lead runs from its place to the strip: the wall it leaves by, its length, its drip loop, and the heat it would cross.

A lead goes straight back, up and back, or aside, whichever is shortest without crossing the heat of a lamp. Frame: along from the
left wall, from the front, above the enclosure's inner floor; m.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.heaters import HEATERS, irradiance
from husbandry.inputs.probe_places import probe_places
from husbandry.plan.equipment import Heater
from husbandry.plan.geometry import outside_lid, spot_y_m, surface_m, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.wiring.consumers import Consumer
from husbandry.wiring.settings import HabitatFeed, Strip

LEAST_DROP_M: Final = 0.005  # below a face; level with it there is no beam
LAMP_M: Final = 0.15  # that a lead keeps from a lamp's face (estimate; the mark on the lamp decides)
# A dark lead in this much radiation stands about 28 K above the air (0.9 of it over 16 W/m²K): with air of 40 °C at the 70 °C that
# the sheath of a household lead is made for (PVC, EN 50525, from memory).
HOT_W_M2: Final = 500.0
STEP_M: Final = 0.01
LOOP_M: Final = 0.10  # that a drip loop hangs below its socket (practice)
SLACK: Final = 1.1
LEAD_M: Final = 1.8  # that appliances, and thermostats, usually come with (trade)
CORNER_M: Final = 0.05  # that a hole keeps from a corner
SPLASH_M: Final = 0.3  # beside an enclosure with water, where drops land (practice)
OFF_FLOOR_M: Final = 0.1
WALL: Final = 0.02
DRILLED: Final = ("pvc", "foamed-pvc", "plywood", "polypropylene")  # what is drilled; glass is not

Point = tuple[float, float, float]
Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]


class LeadTrouble(StrEnum):
    """What is wrong with a lead, or with where its strip is."""

    HOT = "hot"
    IN_BEAM = "in-beam"
    LONG = "long"
    SPLASH = "splash"
    BELOW = "below"
    ON_FLOOR = "on-floor"


@dataclass(frozen=True)
class Hole:
    """Where a lead leaves: the wall ("back", "left", "right"), how far along and how high, m; `drilled`, or by the lid."""

    wall: str
    along_m: float
    height_m: float
    drilled: bool


@dataclass(frozen=True)
class Lead:
    """One lead, of a consumer's `key`; `probe` is a thermostat's low-voltage lead.

    `inside` are its corners up to where it leaves. `length_m` goes to the strip, drip loop and a tenth of slack included.
    `hot` names the heaters whose heat it crosses.
    """

    key: str
    probe: bool
    inside: tuple[Point, ...]
    hole: Hole | None
    length_m: float
    loop: bool
    hot: tuple[str, ...]
    troubles: tuple[LeadTrouble, ...]


def leads(plan: HabitatPlan, there: tuple[Consumer, ...], feed: HabitatFeed, strips: dict[str, Strip]) -> tuple[Lead, ...]:
    """Return the leads of what is plugged in, and of thermostats' probes.

    Parameters
    ----------
    plan
        The habitat.
    there
        Its consumers.
    feed
        How it is fed.
    strips
        The room's strips by name. A consumer on no strip is led to the middle of its socket wall.

    Returns
    -------
    Lead; lengths in m.

    References
    ----------
    Clearances and loops: common practice, no source.
    """
    found = []
    for one in there:
        plug = feed.plugs.get(one.key)
        strip = None if plug is None else strips[plug.strip]
        found.append(_mains(plan, one, feed, strip))
    for place, heater in enumerate(plan.heaters):
        if heater.thermostat.kind != "none":
            found.append(_probe(plan, place, heater))
    return tuple(found)


def hot_at(plan: HabitatPlan, at: Point, but: str = "") -> tuple[str, ...]:
    """Name the heaters too hot for a lead at a point: their face is near, or their beam is strong there.

    Parameters
    ----------
    plan
        The habitat.
    at
        The point, m.
    but
        The heater whose own lead it is: near its own face it may be.

    Returns
    -------
    Their paths.

    References
    ----------
    `husbandry.climate.heaters.irradiance`; the limits are this module's.
    """
    x, y, z = at
    if z < surface_m(plan, x, y):
        return ()
    found = []
    for place, heater in enumerate(plan.heaters):
        key = f"heaters.{place}"
        if HEATERS[heater.kind].place == "over" and _hot(plan, heater, x, np.array(y), z, own=key == but):
            found.append(key)
    return tuple(found)


def hot_above(plan: HabitatPlan, x_m: float, y_m: Floats, height_m: float) -> Bools:
    """Tell for places in a row from front to back, above the ground, whether any heater is too hot there for a lead.

    Parameters
    ----------
    plan
        The habitat.
    x_m, height_m
        Where the row is, m.
    y_m
        Its places, (n,), m.

    Returns
    -------
    (n,), as `hot_at` would tell for each.

    References
    ----------
    As `hot_at`.
    """
    hot = np.zeros(y_m.shape, dtype=bool)
    for heater in plan.heaters:
        if HEATERS[heater.kind].place == "over":
            hot |= _hot(plan, heater, x_m, y_m, height_m)
    return hot


def _hot(plan: HabitatPlan, heater: Heater, x_m: float, y_m: Floats, height_m: float, *, own: bool = False) -> Bools:
    """Tell where a heater is too hot for a lead: its face is near, unless the lead is its own, or its beam is strong."""
    kind = HEATERS[heater.kind]
    dx, dy, drop = x_m - heater.x_m, y_m - y_of(plan, heater), heater.height_m - height_m
    near = np.asarray((not own) & (dx**2 + dy**2 + drop**2 < LAMP_M**2))
    if drop <= LEAST_DROP_M:
        return near
    angle = heater.half_angle_deg or kind.half_angle_deg
    return near | (irradiance(heater.watts * kind.radiant_share, angle, kind.face_m, dx, dy, drop) > HOT_W_M2)


def _crossed(plan: HabitatPlan, path: tuple[Point, ...], but: str) -> tuple[str, ...]:
    """Which heaters' heat a lead with these corners crosses."""
    found: dict[str, None] = {}
    for begin, end in pairwise(path):
        steps = max(math.ceil(math.dist(begin, end) / STEP_M), 1)
        for step in range(steps + 1):
            part = step / steps
            at = tuple(one + part * (other - one) for one, other in zip(begin, end, strict=True))
            found |= dict.fromkeys(hot_at(plan, (at[0], at[1], at[2]), but))
    return tuple(found)


def _ways(plan: HabitatPlan, one: Consumer) -> Iterator[tuple[str, tuple[Point, ...]]]:
    """The ways out of the enclosure, each with the wall it leaves by."""
    for end in (1, -1) if any(one.ends_m) else (0,):
        x_m, y_m = (
            min(max(middle + end * half, CORNER_M), side - CORNER_M) if half else middle
            for middle, half, side in zip(one.at_m, one.ends_m, (plan.enclosure.length_m, plan.enclosure.width_m), strict=False)
        )
        yield from _ways_from(plan, one, (x_m, y_m, one.at_m[2]))


def _ways_from(plan: HabitatPlan, one: Consumer, start: Point) -> Iterator[tuple[str, tuple[Point, ...]]]:
    box, (x, y, z) = plan.enclosure, start
    top = box.height_m
    if one.in_water or (box.kind not in DRILLED and z > 0):  # over the rim; from what hangs above it level, not down its beam
        over = max(top, z)
        for wall, at in (("back", (x, box.width_m)), ("left", (0.0, y)), ("right", (box.length_m, y))):
            yield wall, (start, (x, y, over), (*at, over))
            yield wall, (start, (*at, z), (*at, over))  # to the wall first, then up it
        return
    yield "back", (start, (x, box.width_m, z))
    yield "left", (start, (0.0, y, z))
    yield "right", (start, (box.length_m, y, z))
    if z < top:
        yield "back", (start, (x, y, top), (x, box.width_m, top))


def _strip_at(plan: HabitatPlan, feed: HabitatFeed, strip: Strip | None) -> Point:
    """Where a strip hangs, seen from the enclosure."""
    box = plan.enclosure
    height_m = (0.0 if strip is None else strip.up_m) - feed.floor_m
    match box.sockets:
        case "left":
            return -feed.away_m, box.width_m, height_m
        case "right":
            return box.length_m + feed.away_m, box.width_m, height_m
    return box.length_m / 2, box.width_m + feed.away_m, height_m


def _mains(plan: HabitatPlan, one: Consumer, feed: HabitatFeed, strip: Strip | None) -> Lead:
    box, socket = plan.enclosure, _strip_at(plan, feed, strip)
    outside = outside_lid(plan, one.at_m[2]) or one.key in {"mister", "fogger"}

    def length_of(path: tuple[Point, ...]) -> float:
        inner = sum(math.dist(begin, end) for begin, end in pairwise(path))
        return inner + sum(abs(here - there) for here, there in zip(path[-1], socket, strict=True))

    tried = [(wall, path, _crossed(plan, path, one.key)) for wall, path in _ways(plan, one)]
    wall, path, hot = min(tried, key=lambda way: (len(way[2]), length_of(way[1])))
    exit_m = path[-1]
    loop = exit_m[2] > socket[2] - LOOP_M
    length_m = SLACK * (length_of(path) + (2 * LOOP_M if loop else 0.0))
    hole = None
    if not outside:
        along_m = exit_m[0] if wall == "back" else exit_m[1]
        hole = Hole(wall, along_m, exit_m[2], box.kind in DRILLED and exit_m[2] < box.height_m)
    troubles = [LeadTrouble.HOT] if hot else []
    if length_m > LEAD_M * (2 if one.control else 1):  # a thermostat's own lead goes the rest of the way
        troubles.append(LeadTrouble.LONG)
    if strip is not None:
        troubles += _strip_troubles(plan, feed, strip)
    return Lead(one.key, False, path, hole, length_m, loop, hot, tuple(troubles))


def _strip_troubles(plan: HabitatPlan, feed: HabitatFeed, strip: Strip) -> list[LeadTrouble]:
    """What is wrong with where a strip hangs, by the water of this habitat."""
    found = []
    wet = plan.pool is not None or plan.mister is not None or any(one.any for one in (plan.misting, plan.misting.of("winter")))
    if strip.up_m < OFF_FLOOR_M:
        found.append(LeadTrouble.ON_FLOOR)
    if wet and feed.away_m < SPLASH_M:
        below = strip.up_m < feed.floor_m
        found.append(LeadTrouble.BELOW if below else LeadTrouble.SPLASH)
    return found


def _probe(plan: HabitatPlan, place: int, heater: Heater) -> Lead:
    """A thermostat's probe: from where it reads to a wall and down it, or down first and under the ground; out at the foot.

    One that reads air is clipped to the back wall: a plan says how far along it is and how high.
    """
    box = plan.enclosure
    places = probe_places(plan, place)
    x_m, z_m = places.get(heater.thermostat.probe, places["warm-air"])
    in_air = heater.thermostat.probe in {"warm-air", "cool-air", "own"}
    y_m = spot_y_m(plan) if heater.thermostat.probe == "basking-surface" else box.width_m if in_air else box.width_m / 2
    at = x_m, y_m, z_m

    def length_of(path: tuple[Point, ...]) -> float:
        return sum(math.dist(begin, end) for begin, end in pairwise(path))

    tried = []
    for wall, foot in (("back", (x_m, box.width_m, 0.0)), ("left", (0.0, y_m, 0.0)), ("right", (box.length_m, y_m, 0.0))):
        path = (at, (foot[0], foot[1], z_m) if in_air else (x_m, y_m, 0.0), foot)
        tried.append((wall, path, _crossed(plan, path, "")))
    wall, path, hot = min(tried, key=lambda way: (len(way[2]), length_of(way[1])))
    in_water = heater.thermostat.probe == "water"
    along_m = path[-1][0] if wall == "back" else path[-1][1]
    hole = None if in_water else Hole(wall, along_m, WALL, box.kind in DRILLED)
    length_m = SLACK * (length_of(path) + 0.3)
    return Lead(f"heaters.{place}", True, path, hole, length_m, False, hot, (LeadTrouble.IN_BEAM,) if hot else ())
