"""One species' sheet: is it for me, and the stages side by side on shared axes."""

from dataclasses import dataclass
from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry.assessment import Measure
from husbandry.diet.foods import SMALL_PREY, carbonate_mg_per_g, foods
from husbandry.space.sizing import Level, needs, needs_of_grown, sides_for
from husbandry.species.leaves import LeafT, Range, in_school
from husbandry.species.profile import Profile
from husbandry.species.stage import Heat, Meal, Stage, Supplement
from husbandry.species.stages import expected_length_m
from husbandry.units import convert
from ridgeback.book import leafwords, portrait, shelf, words
from ridgeback.book.catalogue import brief
from ridgeback.drawing import animals
from ridgeback.drawing.numbers import plain
from ridgeback.language import names, wording
from ridgeback.language.booktext import book
from ridgeback.units import KeeperUnits, written

COLUMN, AXIS_LEFT, AXIS_RIGHT = 250.0, 4.0, 246.0
HEAT_C: Final = (5.0, 50.0)
UV_INDEX: Final = (0.0, 8.0)
HUMIDITY: Final = (0.0, 100.0)
SPACE_HIGH: Final = 120.0
LEVELS: Final[tuple[Level, ...]] = ("recommended", "minimum")


@dataclass(frozen=True)
class Bar:
    """A range on its axis: pixels, its kind, words, and where it comes from."""

    kind: str
    name: str
    x: str
    width: str
    said: str
    basis: str


@dataclass(frozen=True)
class Axes:
    """The shared axes of what stands side by side."""

    heat: tuple[float, float]
    uv: tuple[float, float]
    space_m: tuple[float, float]

    @classmethod
    def of(cls, *profiles: Profile) -> "Axes":
        """Wide enough for the hottest stone and the strongest light of these profiles."""
        stages = [stage for profile in profiles for stage in profile.stages]
        surfaces = [item.high or 0.0 for stage in stages for item in stage.heat.basking_surface_c or ()]
        indices = [item.high or 0.0 for stage in stages for item in stage.light.uv_index or ()]
        largest = [sides_for(needs_of_grown(profile, "recommended")) for profile in profiles]
        return cls(
            (HEAT_C[0], max([HEAT_C[1], *(surface + 4 for surface in surfaces)])),
            (0.0, max([UV_INDEX[1], *indices])),
            (max(length for length, _width, _height in largest), max(height for _length, _width, height in largest)),
        )


def context(profile: Profile, units: KeeperUnits) -> dict[str, Any]:
    """Return everything the sheet's template needs."""
    axes = Axes.of(profile)
    return {
        "profile": profile,
        "row": shelf.row(brief(profile), units),
        "facts": portrait.facts(profile, units),
        "character": portrait.character(profile, units),
        "schools": portrait.schools(profile, units),
        "columns": [column(profile, stage, units, axes) for stage in profile.stages],
        **axis_ticks(axes, units),
    }


def axis_ticks(axes: Axes, units: KeeperUnits) -> dict[str, Any]:
    """The marks along the axes, for the templates."""
    return {
        "heat_ticks": ticks(axes.heat, 10 if units.temperature == "degC" else 20, units, "degC"),
        "humid_ticks": ticks(HUMIDITY, 25, units, "%"),
        "uv_ticks": ticks(axes.uv, 2, units, "UVI"),
        "width": f"{COLUMN:.0f}",
    }


def _x(value: float, axis: tuple[float, float]) -> float:
    share = (value - axis[0]) / (axis[1] - axis[0])
    return AXIS_LEFT + min(max(share, 0.0), 1.0) * (AXIS_RIGHT - AXIS_LEFT)


def bar(kind: str, name: str, item: Range, axis: tuple[float, float], unit: str, units: KeeperUnits) -> Bar:
    """Lay a range on an axis; an open side runs to the axis' end."""
    low, high = (axis[0] if item.low is None else item.low), (axis[1] if item.high is None else item.high)
    begin, end = _x(low, axis), _x(high, axis)
    if item.low is not None and item.high is not None:
        said = units.between(item.low, item.high, unit)
    else:
        said = units.say(Measure(high if item.low is None else low, unit))
    label = (f"{name} ({_schools(item.schools)})" if item.school else name) + leafwords.whose(item)
    return Bar(kind, label, f"{begin:.1f}", f"{max(end - begin, 2.0):.1f}", said, portrait.basis(item))


def _schools(schools: dict[str, str]) -> str:
    """Some schools in a word or two: what stands before the colon of their names."""
    return ", ".join(wording.school(topic, code).partition(":")[0] for topic, code in schools.items())


def column(profile: Profile, stage: Stage, units: KeeperUnits, axes: Axes, schools: dict[str, str] | None = None) -> dict[str, Any]:
    """One stage: its bounds, bars, space to scale, meals and supplements; all schools, or those chosen."""
    heat, moisture = stage.heat, stage.moisture

    def used(items: tuple[LeafT, ...] | None) -> tuple[LeafT, ...]:
        return items or () if schools is None else in_school(items or (), schools)

    named = (
        ("night", _("night"), heat.night_c),
        ("cool", _("cool end"), heat.cool_air_c),
        ("warm", _("warm end"), heat.warm_air_c),
        ("basking", _("over a mat"), heat.mat_surface_c),
        ("basking", _("basking surface"), heat.basking_surface_c),
    )
    humid = (
        ("day", _("day"), moisture.day_percent),
        ("night", _("night"), moisture.night_percent),
        ("hide", _("humid hide"), moisture.humid_hide_percent),
    )
    return {
        "stage": stage,
        "bounds": [_bounds(stage, measure, units) for measure in ("age", "mass", "length") if stage.bounds(measure)],
        "leads": names.CHOICES["decided"][stage.leads],
        "heat": [bar(kind, name, item, axes.heat, "degC", units) for kind, name, items in named for item in used(items)],
        "ceiling": {
            "x": f"{_x(heat.ceiling_c.value, axes.heat):.1f}",
            "said": harm(heat, units),
            "basis": portrait.basis(heat.ceiling_c),
        },
        "humidity": [bar(kind, name, item, HUMIDITY, "%", units) for kind, name, items in humid for item in used(items)],
        "uv": [bar("uv", _("at the back"), item, axes.uv, "UVI", units) for item in used(stage.light.uv_index) if item.high],
        "hours": [f"{written(item.low)}–{written(item.high)} h" for item in used(stage.light.hours)],
        "ground": [" ".join(_depth(item, units)).strip() for item in used(stage.ground.depth_cm)],
        "mistings": [words.value(item, "moisture.misting_per_day", units) for item in used(moisture.misting_per_day)],
        "climbing": stage.climbing,
        "hides": profile.hides_of(stage),
        "water": _water(stage, units),
        "space": space(profile, stage, units, axes),
        "meals": [_meal(meal) for meal in used(stage.feeding.meals)],
        "calcium": _calcium(stage),
        "interval": [_every(item) for item in used(stage.feeding.interval_days)],
        "supplements": [_supplement(item) for item in used(stage.feeding.supplements)],
        "no_supplements": stage.feeding.no_supplements_because,
    }


def _water(stage: Stage, units: KeeperUnits) -> list[str]:
    if stage.water is None:
        return []
    rule, said = stage.water, []
    said += [words.value(item, "water.temperature_c", units) for item in rule.temperature_c or ()]
    said += [_("%(depth)s deep") % {"depth": words.value(item, "water.depth_cm", units)} for item in rule.depth_cm or ()]
    said += [
        _("at least %(litres)s") % {"litres": units.say(Measure(rule.litres / 1000, "m3"))}
        for rule in stage.space.rules
        if rule.litres is not None and rule.level == "minimum"
    ]
    return said + ([book(rule.change.value)] if rule.change else [])


def _calcium(stage: Stage) -> list[str]:
    """What the insects named lack, where dusting is part of the diet."""
    table = foods()
    keys = dict.fromkeys(key for meal in stage.feeding.meals for key in meal.foods if key in table)
    if not stage.feeding.supplements:
        return []
    named = [table[key] for key in keys if table[key].kind in SMALL_PREY and table[key].ratio is not None]
    return [
        _("Undusted %(feeder)s has %(ratio)s parts calcium to 1 of phosphorus; 2 to 1 takes %(dust)s mg of plain calcium a gram.")
        % {
            "feeder": book(item.name),
            "ratio": written(item.ratio, ".2f"),
            "dust": f"{carbonate_mg_per_g(item.calcium_mg or 0.0, item.phosphorus_mg or 0.0):.0f}",
        }
        for item in named
    ]


def _every(item: Range) -> str:
    if item.low == item.high:
        return _("every day") if item.low == 1 else _("every %(low)s days") % portrait.limits(item)
    return _("every %(low)s–%(high)s days") % portrait.limits(item)


def harm(heat: Heat, units: KeeperUnits) -> str:
    """From which air harm begins: at the warm end, at the cool end and by night."""
    said = {end: units.say(Measure(value, "degC")) for end, value in heat.harmful_c.items()}
    if len(set(said.values())) == 1:
        return said["warm"]
    return _("%(warm)s at the warm end, %(cool)s at the cool end, %(night)s by night") % said


def _depth(item: Range, units: KeeperUnits) -> tuple[str, str]:
    low, high = ((limit or 0.0) / 100 for limit in (item.low, item.high))
    if high == 0.0:
        return _("bare"), ""
    said, _space, symbol = units.between(low, high, "m").rpartition(" ")
    return said, symbol


def _bounds(stage: Stage, measure: str, units: KeeperUnits) -> str:
    item = stage.bounds(measure)
    assert item is not None
    si, scale = {"age": ("months", 1.0), "mass": ("kg", 0.001), "length": ("m", 0.01)}[measure]

    def said(limit: float) -> str:
        return units.say(Measure(limit * scale, si))

    if item.low is None:
        return _("up to %(high)s") % {"high": said(item.high or 0.0)}
    if item.high is None:
        return _("from %(low)s") % {"low": said(item.low)}
    return f"{said(item.low)}–{said(item.high)}"


def _meal(item: Meal) -> dict[str, str]:
    return {"said": leafwords.amount(item) + leafwords.whose(item), "limit": book(item.prey_limit), "basis": portrait.basis(item)}


def _supplement(item: Supplement) -> dict[str, str]:
    return {"said": leafwords.supplement(item), "basis": portrait.basis(item)}


def space(profile: Profile, stage: Stage, units: KeeperUnits, axes: Axes) -> dict[str, Any]:
    """The smallest and the recommended enclosure seen from the side, with the animal of that stage, all to one scale."""
    levels = {rule.level for rule in stage.space.rules}
    sizes = {level: needs(stage.space, level, _stage_length_m(profile, stage)) for level in LEVELS if level in levels}
    scale = min((COLUMN - 8) / axes.space_m[0], (SPACE_HIGH - 4) / axes.space_m[1])
    boxes = []
    for level, sides in sizes.items():
        length_m, width_m, height_m = sides_for(sides)
        shown = [units.number(side, "m") for side in (length_m, width_m, height_m)]
        high = height_m * scale
        boxes.append(
            {
                "level": level,
                "name": _("recommended") if level == "recommended" else _("at least"),
                "w": length_m * scale,
                "h": high,
                "y": SPACE_HIGH - high,
                "said": " × ".join(number for number, _symbol in shown) + f" {shown[0][1]}",
                "basis": portrait.bases(sides),
            }
        )
    body = profile.body
    total_m = _stage_length_m(profile, stage) / body.total_to_measure.value
    width_m = total_m * (animals.COIL_SHARE if body.form == "snake" else 1.0)
    outline, _marks, _eye = animals.place(body.form, total_m, 6 + width_m * scale / 2, SPACE_HIGH, scale, turned=False)
    return dict(plain({"boxes": boxes, "height": SPACE_HIGH, "outline": outline, "form": body.form}))


def _stage_length_m(profile: Profile, stage: Stage) -> float:
    """A typical length in this stage: between its bounds by length, by mass, or the adult's."""
    body = profile.body
    adult_m = body.adult_length_cm.middle / 100
    if stage is profile.stages[-1]:
        return adult_m
    if stage.length_cm is not None and stage.length_cm.high is not None:
        return min(stage.length_cm.high / 100, adult_m)
    if stage.mass_g is not None and stage.mass_g.high is not None:
        return min(expected_length_m(profile, stage.mass_g.high / 1000), adult_m)
    place = profile.stages.index(stage) + 1
    hatch_m = body.hatch_length_cm.value / 100
    return hatch_m + (adult_m - hatch_m) * place / len(profile.stages)


def ticks(axis: tuple[float, float], step: float, units: KeeperUnits, unit: str) -> list[dict[str, str]]:
    """Round numbers of the keeper's unit along an axis."""
    shown = units.unit_for(unit)
    first, last = (convert(value, unit, shown) if shown != unit else value for value in axis)
    begin = int(-(-first // step))
    marks = []
    for k in range(begin, int(last // step) + 1):
        value = convert(k * step, shown, unit) if shown != unit else k * step
        marks.append({"x": f"{_x(value, axis):.1f}", "text": written(k * step)})
    return marks
