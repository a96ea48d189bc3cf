"""Rules that hold inside one profile: what no field alone can tell.

The shipped book is tested by them and a keeper's own profile is checked by them while it is edited. Limits are wide: they
catch slips of the hand and of the unit, not opinions.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from itertools import pairwise
from typing import Final

from husbandry.codes import FaultCode
from husbandry.light.daylength import daylight_hours
from husbandry.species import tables
from husbandry.species.leaves import Range, Ranges, choose
from husbandry.species.profile import Profile, leaves_with_paths
from husbandry.species.stage import BOOK, Stage
from husbandry.species.zones import ZONES

POLE_DEG: Final = 90.0
# What any reptile or amphibian can be asked to live in (estimates, wide on purpose).
SANE: Final = {
    "heat.basking_surface_c": (15.0, 75.0),
    "heat.mat_surface_c": (20.0, 40.0),
    "heat.warm_air_c": (8.0, 45.0),
    "heat.cool_air_c": (5.0, 38.0),
    "heat.night_c": (2.0, 35.0),
    "moisture.day_percent": (0.0, 100.0),
    "moisture.night_percent": (0.0, 100.0),
    "moisture.humid_hide_percent": (0.0, 100.0),
    "light.uv_index": (0.0, 10.0),
    "light.hours": (6.0, 18.0),
    "light.lit_share_percent": (0.0, 100.0),
    "ground.depth_cm": (0.0, 120.0),
    "feeding.interval_days": (0.5, 90.0),
    "water.temperature_c": (4.0, 34.0),
    "water.depth_cm": (0.5, 200.0),
}

# Which air must stay below which of the ceilings.
CEILINGS: Final = (
    ("warm", "warm_air_c", FaultCode.WARM_ABOVE_CEILING),
    ("cool", "cool_air_c", FaultCode.COOL_ABOVE_CEILING),
    ("night", "night_c", FaultCode.NIGHT_ABOVE_CEILING),
)
NIGHT_MAY_PASS_K: Final = 1.5  # a night band may reach a little over the cool end's: warm summer nights


@dataclass(frozen=True)
class BrokenRule:
    """A rule broken at `path` (dots, list places as numbers); the words are made at the edge."""

    path: str
    code: FaultCode
    parameters: Mapping[str, str | float] = field(default_factory=dict)


def check(profile: Profile) -> tuple[BrokenRule, ...]:
    """Return every rule the profile breaks, in the order of the document."""
    return (
        *_whole(profile),
        *(fault for index, _stage in enumerate(profile.stages) for fault in _stage_faults(profile, index)),
        *_ages(profile),
        *_off_their_tables(profile),
    )


def _off_their_tables(profile: Profile) -> Iterator[BrokenRule]:
    """Values that do not stand as the table they name has them."""
    hours = None
    if profile.native_latitude is not None and abs(profile.native_latitude.value) <= POLE_DEG:
        days = [daylight_hours(profile.native_latitude.value, date(2026, month, 21)) for month in (6, 12)]
        hours = min(days), max(days)
    for path, leaf in leaves_with_paths(profile):
        if leaf.table and not tables.holds(leaf.table, leaf.numbers, hours):
            yield BrokenRule(".".join(map(str, path)), FaultCode.OFF_ITS_TABLE, {"table": leaf.table})


def _whole(profile: Profile) -> Iterator[BrokenRule]:
    """The body, the zone, and the bounds of the stages."""
    body = profile.body
    adult_cm, adult_g = body.adult_length_cm, body.adult_mass_g
    if body.hatch_length_cm.value >= adult_cm.least:
        yield BrokenRule("body.hatch_length_cm", FaultCode.HATCHES_GROWN, {"value": body.hatch_length_cm.value})
    if body.hatch_mass_g.value >= adult_g.least:
        yield BrokenRule("body.hatch_mass_g", FaultCode.HATCHES_GROWN, {"value": body.hatch_mass_g.value})
    if (body.years_to_adult.high or 0.0) >= (body.lifespan_years.high or 0.0):
        yield BrokenRule("body.years_to_adult", FaultCode.GROWS_ALL_ITS_LIFE)
    if profile.native_latitude is not None and abs(profile.native_latitude.value) > POLE_DEG:
        yield BrokenRule("native_latitude", FaultCode.NOT_SANE, {"least": 0.0, "most": POLE_DEG})
    if profile.uv_zone.value not in ZONES:
        yield BrokenRule("uv_zone", FaultCode.NO_SUCH_ZONE, {"value": profile.uv_zone.value})
    first, last = profile.stages[0], profile.stages[-1]
    for index, stage, limit in ((0, first, "low"), (len(profile.stages) - 1, last, "high")):
        bounds = stage.bounds(stage.leads)
        if bounds is not None and getattr(bounds, limit) is not None:
            yield BrokenRule(f"stages.{index}", FaultCode.STAGE_NOT_OPEN, {"stage": stage.name, "measure": stage.leads})


def _stage_faults(profile: Profile, number: int) -> Iterator[BrokenRule]:
    stage, path = profile.stages[number], f"stages.{number}"
    for name, (least, most) in SANE.items():
        for index, item in enumerate(_ranges(stage, name)):
            if (item.low is not None and item.low < least) or (item.high is not None and item.high > most):
                said = {"least": least, "most": most}
                yield BrokenRule(_place(path, name, index, _ranges(stage, name)), FaultCode.NOT_SANE, said)
    yield from _heat(stage, path)
    yield from _moisture(stage, path)
    zone = ZONES.get(profile.uv_zone.value)
    for index, band in enumerate(stage.light.uv_index or ()):
        if zone is not None and (band.high or 0.0) > zone.highest:
            beyond: dict[str, str | float] = {"zone": profile.uv_zone.value, "most": zone.highest}
            yield BrokenRule(_place(path, "light.uv_index", index, stage.light.uv_index or ()), FaultCode.BEYOND_ZONE, beyond)
        if band.method == "none" and (band.high or 0.0) > 0:
            yield BrokenRule(_place(path, "light.uv_index", index, stage.light.uv_index or ()), FaultCode.NONE_IS_NONE)
    if profile.habit == "aquatic":
        if stage.water is None or stage.water.temperature_c is None:
            yield BrokenRule(f"{path}.water.temperature_c", FaultCode.WATER_WITHOUT_WARMTH)
        if not any(rule.rule == "volume" for rule in stage.space.rules):
            yield BrokenRule(f"{path}.space.rules", FaultCode.WATER_WITHOUT_LITRES)


def _ranges(stage: Stage, name: str) -> Ranges:
    part, _, field_name = name.partition(".")
    holder = getattr(stage, part)
    return (getattr(holder, field_name) or ()) if holder is not None else ()


def _place(path: str, name: str, index: int, items: tuple[Range, ...]) -> str:
    return f"{path}.{name}.{index}" if len(items) > 1 else f"{path}.{name}"


def _heat(stage: Stage, path: str) -> Iterator[BrokenRule]:
    """night ≤ cool ≤ warm < basking ≤ ceiling, where each is present, in every school."""
    heat = stage.heat
    night, cool, warm = (choose(items, {}) for items in (heat.night_c, heat.cool_air_c, heat.warm_air_c))
    for lower, upper, names in ((night, cool, ("night", "cool")), (cool, warm, ("cool", "warm"))):
        if _low(lower) > _low(upper) or _high(lower) > _high(upper) + (NIGHT_MAY_PASS_K if names[0] == "night" else 0.0):
            yield BrokenRule(
                f"{path}.heat.{names[0]}_{'c' if names[0] == 'night' else 'air_c'}", FaultCode(f"{names[0]}_above_{names[1]}")
            )
    harmful_c = heat.harmful_c
    for end, name, code in CEILINGS:
        items: Ranges = getattr(heat, name)
        for index, item in enumerate(items):
            if _high(item) > harmful_c[end]:
                yield BrokenRule(_place(path, f"heat.{name}", index, items), code, {"most": harmful_c[end]})
    if not harmful_c["night"] <= harmful_c["cool"] <= harmful_c["warm"]:
        yield BrokenRule(f"{path}.heat.cool_ceiling_c", FaultCode.CEILINGS_CROSS)
    for index, item in enumerate(heat.basking_surface_c or ()):
        where = _place(path, "heat.basking_surface_c", index, heat.basking_surface_c or ())
        if item.middle <= choose(heat.warm_air_c, item.schools).middle:
            yield BrokenRule(where, FaultCode.BASKING_NOT_WARMEST)
        if heat.surface_ceiling_c is None:
            yield BrokenRule(f"{path}.heat.surface_ceiling_c", FaultCode.NO_SURFACE_CEILING)
        elif _high(item) > heat.surface_ceiling_c.value:
            yield BrokenRule(where, FaultCode.BASKING_ABOVE_CEILING, {"most": heat.surface_ceiling_c.value})
    for index, item in enumerate(heat.mat_surface_c or ()):
        if heat.surface_ceiling_c is not None and _high(item) > heat.surface_ceiling_c.value:
            where = _place(path, "heat.mat_surface_c", index, heat.mat_surface_c or ())
            yield BrokenRule(where, FaultCode.BASKING_ABOVE_CEILING, {"most": heat.surface_ceiling_c.value})
    if heat.surface_ceiling_c is not None and heat.surface_ceiling_c.value < heat.ceiling_c.value:
        yield BrokenRule(f"{path}.heat.surface_ceiling_c", FaultCode.SURFACE_CEILING_LOW)


def _low(item: Range) -> float:
    return item.low if item.low is not None else float(item.high or 0.0)


def _high(item: Range) -> float:
    return item.high if item.high is not None else float(item.low or 0.0)


def _moisture(stage: Stage, path: str) -> Iterator[BrokenRule]:
    """Nights are no drier than days, and the humid hide is no drier than either day."""
    moisture = stage.moisture
    day, night = choose(moisture.day_percent, {}), choose(moisture.night_percent, {})
    if night.middle < day.middle:
        yield BrokenRule(f"{path}.moisture.night_percent", FaultCode.NIGHT_DRIER)
    for item in moisture.humid_hide_percent or ():
        if item.middle < day.middle:
            yield BrokenRule(f"{path}.moisture.humid_hide_percent", FaultCode.HIDE_DRIER)


def _ages(profile: Profile) -> Iterator[BrokenRule]:
    """What may only grow with age: space, and the days between feeds."""
    for index, (earlier, later) in enumerate(pairwise(profile.stages), start=1):
        if later.space.shrinks_because is None:
            before, after = _fixed(earlier), _fixed(later)
            if any(key in after and after[key] < size - 1e-9 for key, size in before.items()):
                yield BrokenRule(
                    f"stages.{index}.space.rules", FaultCode.SPACE_SHRINKS, {"stage": later.name, "before": earlier.name}
                )
        shorter = choose(later.feeding.interval_days, {}).middle < choose(earlier.feeding.interval_days, {}).middle
        if shorter and later.feeding.shorter_because is None:
            yield BrokenRule(
                f"stages.{index}.feeding.interval_days", FaultCode.FED_MORE_OFTEN, {"stage": later.name, "before": earlier.name}
            )


def _fixed(stage: Stage) -> dict[tuple[str, str], float]:
    """The largest of each size that does not go by body length, by level and name."""
    found: dict[tuple[str, str], float] = {}
    for rule in stage.space.rules:
        for name in ("length", "width", "height", "area", "litres"):
            size = getattr(rule, name)
            if size is not None and rule.rule != "body" and rule.school in ("", BOOK):
                found[rule.level, name] = max(found.get((rule.level, name), 0.0), size)
    return found
