"""The section coloured by what is measured: the model's field of this minute, bent to go through what the channels read."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final

import numpy as np
from django.utils import timezone
from numpy.typing import NDArray

from husbandry.climate.case import EnclosureCase
from husbandry.climate.day import course
from husbandry.climate.daycourse import MINUTES
from husbandry.climate.nodes import ZONES, nodes_of
from husbandry.climate.probes import end_heights, warm_side_x
from husbandry.climate.steady import solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.geometry import basking_top_m, spot_x_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.watch.foretold import in_room, minutes_of
from ridgeback.drawing import fields, section
from ridgeback.language import wording
from ridgeback.metering import measured
from ridgeback.metering.measured import JudgedPlan
from ridgeback.rooms.models import Habitat
from ridgeback.series.models import Channel
from ridgeback.series.places import OWN
from ridgeback.units import KeeperUnits

Floats = NDArray[np.float64]

FRESH_MIN: Final = 30.0  # a reading that is older colours nothing
REACH_SHARE: Final = 0.35  # of the length: how far a reading bends the field
LABEL_PX: Final = 15.0
IN_THE_AIR: Final = ("warm-air", "cool-air", OWN)


@dataclass(frozen=True)
class Pin:
    """Something that is read now: where (m), what it shows, and what the model says there now; nan where it says nothing."""

    channel: Channel
    x_m: float
    height_m: float
    value: float
    foretold: float


def pins(habitat: Habitat, plan: HabitatPlan, now: datetime) -> list[Pin]:
    """What is read now at a place that can be drawn."""
    case, day = _now(habitat, plan, now)
    local = timezone.localtime(now)
    minute = (local.hour * 60 + local.minute - 1) % MINUTES
    found = []
    for channel in measured.channels_of(habitat):
        where, at = measured.where_of(channel, plan), place_of(channel, plan, case)
        fresh = channel.last_at is not None and (now - channel.last_at).total_seconds() / 60 <= FRESH_MIN
        if at is None or not fresh or channel.last_value is None:
            continue
        model = float(minutes_of(case, day, where)[minute]) if where is not None else float("nan")
        found.append(Pin(channel, *at, channel.last_value, model))
    return found


def place_of(channel: Channel, plan: HabitatPlan, case: EnclosureCase) -> tuple[float, float] | None:
    """Where a channel reads, m from the left and above the floor; None for what has no one place."""
    warm_x, length_m = warm_side_x(case), case.length_m
    warm_left = warm_x <= length_m / 2
    ends = {True: length_m / 6, False: 5 * length_m / 6}
    warm_m, cool_m = end_heights(case)
    ground_m = case.ground_depth_m
    places: dict[str, tuple[float, float]] = {
        "basking-surface": (spot_x_m(plan), basking_top_m(plan, spot_x_m(plan))),
        "warm-air": (ends[warm_left], warm_m),
        "cool-air": (ends[not warm_left], cool_m),
        "warm-humidity": (ends[warm_left], warm_m + 0.03),
        "cool-humidity": (ends[not warm_left], cool_m + 0.05),
        "warm-ground": (ends[warm_left], ground_m),
        "cool-ground": (ends[not warm_left], ground_m),
        "uv-back": (spot_x_m(plan) + 0.05, basking_top_m(plan, spot_x_m(plan)) + 0.04),
    }
    if channel.place == OWN and channel.x_m is not None and channel.height_m is not None:
        return channel.x_m, channel.height_m
    if channel.place == "water" and plan.pool is not None:
        return plan.pool.x_m, plan.pool.depth_m / 2
    if channel.place == "humid-hide" and case.humid_hide:
        return case.humid_hide_x_m, ground_m + 0.03
    return places.get(channel.place)


def _now(habitat: Habitat, plan: HabitatPlan, now: datetime) -> tuple[EnclosureCase, Any]:
    until = now.replace(minute=0, second=0, microsecond=0)
    case, season = in_room(enclosure_case(plan), measured.room_of(habitat, plan, until).state)
    return case, course(case, solve_steady(case, spread=False, seasons=(season,)), season)


def draw(habitat: Habitat, by: JudgedPlan, profile: Profile, now: datetime, units: KeeperUnits) -> dict[str, Any]:
    """The section with its wash bent to what is read, and a pin for each reading."""
    plan = by.plan
    look = section.Look(by.season, by.phase_at(now), units, wording.part_names(), plan)
    drawn = section.draw(plan, profile, by.found, look)
    frame = section.frame_of(plan)
    case, day = _now(habitat, plan, now)
    local = timezone.localtime(now)
    minute = (local.hour * 60 + local.minute - 1) % MINUTES
    read = pins(habitat, plan, now)
    air = day.nodes[minute, nodes_of(case).air].reshape(-1, ZONES)
    field = bent(fields.air_field(frame, air), frame, read)
    drawn["wash"] = fields.wash(field, *section.wash_range(by.found, field))
    # What the model says stands on the plan's own pages; here only what is read has numbers.
    drawn |= {"isotherms": [], "dots": "", "labels": [], "hides": [], "uv": [], "spot": None}
    return drawn | {"pins": [_pin(one, frame, by, now, units) for one in read]}


def bent(field: Floats, frame: fields.Frame, read: list[Pin]) -> Floats:
    """The field with what the air's readings differ by, the nearer the more; far from all of them as the model has it."""
    x, height = frame.grid
    total, weights = np.zeros_like(field), np.full_like(field, 1.0)
    reach = REACH_SHARE * frame.length_m
    for one in read:
        if one.channel.place not in IN_THE_AIR or not np.isfinite(one.foretold):
            continue
        distance = ((x[None, :] - one.x_m) ** 2 + (height[:, None] - one.height_m) ** 2) / reach**2
        weight = 12.0 * np.exp(-2.0 * distance)
        total += weight * (one.value - one.foretold)
        weights += weight
    return np.asarray(field + total / weights)


def _pin(one: Pin, frame: fields.Frame, by: JudgedPlan, now: datetime, units: KeeperUnits) -> dict[str, Any]:
    band = by.band(one.channel.place, now)
    verdict = "" if band is None else band.judge(one.value).value.replace(" ", "-")
    number, symbol = units.number(one.value, measured.unit_of(one.channel))
    return {
        "x": f"{float(frame.x(one.x_m)):.1f}",
        "y": f"{float(frame.y(one.height_m)):.1f}",
        "text": f"{number} {symbol}",
        "verdict": verdict,
        "label_y": f"{float(frame.y(one.height_m)) - LABEL_PX:.1f}",
    }
