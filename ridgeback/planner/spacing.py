"""The page of an animal's space: what it needs and why, its years, the ways to house it, and what a tank holds inside."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.animal.body import body_of
from husbandry.animal.growth_outlook import Outlook, outlook
from husbandry.animal.needs import box_of, enclosure_needs
from husbandry.animal.weighings import Weighing
from husbandry.assessment import Measure
from husbandry.design.enclosure_steps import HousingChoice, HousingPath, choice
from husbandry.plan.habitat import HabitatPlan
from husbandry.space.nominal import NOMINAL, NothingLeftError, inside
from husbandry.space.sizing import MEASURES, SIDES, Need, factor
from husbandry.species.profile import Profile
from husbandry.species.stages import expected_mass_kg
from husbandry.units import DAYS_A_YEAR, TOLERANCE_M, UnitError
from ridgeback.drawing.numbers import plain
from ridgeback.language import dates, names, wording
from ridgeback.language.booktext import book
from ridgeback.units import KeeperUnits, three_sizes, written

WIDTH, LEFT, RIGHT = 900.0, 96.0, 14.0
CURVE_TOP, CURVE_FLOOR, ROW = 14.0, 104.0, 26.0
LEAST_YEARS: Final = 1.5
TICK_APART: Final = 15.0
UNITS: Final = {"floor_area": "m2", "water_volume": "m3"}
NOMINAL_WORDS: Final = {
    "tank-10-gal": gettext_lazy("glass tank, 10 gallons"),
    "tank-15-gal": gettext_lazy("glass tank, 15 gallons"),
    "tank-20-gal-high": gettext_lazy("glass tank, 20 gallons high"),
    "tank-20-gal-long": gettext_lazy("glass tank, 20 gallons long"),
    "tank-29-gal": gettext_lazy("glass tank, 29 gallons"),
    "tank-40-gal-breeder": gettext_lazy("glass tank, 40 gallons, low and wide"),
    "tank-55-gal": gettext_lazy("glass tank, 55 gallons"),
    "tank-75-gal": gettext_lazy("glass tank, 75 gallons"),
    "tank-120-gal": gettext_lazy("glass tank, 120 gallons"),
    "glass-30-cube": gettext_lazy("front-opening glass, 30 cm cube"),
    "glass-45-cube": gettext_lazy("front-opening glass, 45 cm cube"),
    "glass-45-tall": gettext_lazy("front-opening glass, tall, 45 × 45 × 60 cm"),
    "glass-60-tall": gettext_lazy("front-opening glass, tall, 60 × 45 × 90 cm"),
    "glass-90": gettext_lazy("front-opening glass, 90 × 45 × 45 cm"),
    "front-vent-60": gettext_lazy("front vents, 60 × 50 × 50 cm"),
    "front-vent-120": gettext_lazy("front vents, 4 × 2 × 2 ft"),
    "front-vent-150": gettext_lazy("front vents, 5 × 2½ × 2½ ft"),
    "front-vent-180": gettext_lazy("front vents, 6 × 3 × 3 ft"),
    "walk-in-240": gettext_lazy("walk-in, 8 × 4 × 4 ft"),
    "tub-small": gettext_lazy("small tub"),
    "tub-large": gettext_lazy("large tub"),
    "rack-drawer": gettext_lazy("drawer of a rack"),
    "screen-45": gettext_lazy("screen cage, 45 × 45 × 90 cm"),
    "screen-60": gettext_lazy("screen cage, 60 × 60 × 120 cm"),
    "table-120": gettext_lazy("table, 120 × 60 cm"),
    "table-240": gettext_lazy("table, 240 × 120 cm"),
    "shed-300": gettext_lazy("garden shed, 3 × 2 × 2 m"),
    "pen-400": gettext_lazy("outdoor pen, 4 × 2 m"),
}
AXES: Final = {"length": gettext_lazy("length"), "width": gettext_lazy("width"), "height": gettext_lazy("height")}
TAKES: Final = {
    "walls": gettext_lazy("two walls"),
    "background": gettext_lazy("background behind"),
    "backgrounds": gettext_lazy("backgrounds on both sides"),
    "ground": gettext_lazy("ground"),
}


def context(
    plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...], query: QueryDict, units: KeeperUnits
) -> dict[str, Any]:
    """Return everything the page's template needs."""
    found, ways = outlook(plan, profile, today, weighings), choice(plan, profile, today, weighings)
    return {
        "needs": [needs_now(plan, profile, today, units), needs_grown(plan, profile, found, units)],
        "timeline": timeline(found, ways, profile, today, units) if found is not None else None,
        "measured": found.measured if found is not None else 0,
        "in_a_year": in_a_year(found, plan, profile, today, units) if found is not None else "",
        "ways": [
            _way(_("Step up"), ways.step_up, "steps", units)
            | {"now": {"size": size(ways.now.sides_m, units), "stage": book(ways.now.stage)}},
            _way(_("Buy once"), ways.once, "once", units),
        ]
        if ways and ways.once
        else [],
        "verdict": verdict(ways) if ways is not None else "",
        "first": _("Height before floor: it climbs.")
        if climbs(profile)
        else _("Floor before height: litres never stand in for it."),
        "helper": helper(query, units),
        "nominals": NOMINAL_WORDS.items(),
    }


def needs_now(plan: HabitatPlan, profile: Profile, today: date, units: KeeperUnits) -> dict[str, Any]:
    """What this animal needs now, against what it has."""
    body = body_of(plan, profile, today)
    stage = body.decision.stage
    minimum, recommended = enclosure_needs(plan, profile, stage, body.length_m)
    return {
        "title": _("Now: %(stage)s") % {"stage": book(stage.name)},
        "rows": _rows(plan, profile, minimum, recommended, body.length_m, units),
    }


def needs_grown(plan: HabitatPlan, profile: Profile, found: Outlook | None, units: KeeperUnits) -> dict[str, Any]:
    """What it will need when it is grown: by its own growth, the same as everywhere else; by its kind's where that is not known."""
    length_m = found.course.length_m[-1] if found is not None else profile.body.adult(plan.animal.sex).length_cm.middle / 100
    minimum, recommended = enclosure_needs(plan, profile, profile.stages[-1], length_m)
    return {
        "title": _("Grown, as it is growing") if found is not None else _("Grown, at the middling size of its kind"),
        "rows": _rows(plan, profile, minimum, recommended, length_m, units),
    }


def _rows(
    plan: HabitatPlan,
    profile: Profile,
    minimum: dict[str, Need],
    recommended: dict[str, Need],
    length_m: float | None,
    units: KeeperUnits,
) -> list[dict[str, Any]]:
    have, height_m = box_of(plan).measures(), plan.enclosure.height_m
    rows = []
    for measure in sorted(MEASURES, key=lambda item: item != "height") if climbs(profile) else MEASURES:
        if measure not in minimum:
            continue
        unit, need = UNITS.get(measure, "m"), minimum[measure]
        key = f"enclosure_{measure}" if measure in (*SIDES, "stretch") else measure
        more = recommended.get(measure)
        rows.append(
            {
                "name": names.NAMES[key],
                "sum": sum_of(need, measure, plan.animal.count, length_m, units),
                "least": units.say(Measure(need.size, unit)),
                "better": units.say(Measure(more.size, unit)) if more else "",
                "better_sum": sum_of(more, measure, plan.animal.count, length_m, units) if more and more.rule != need.rule else "",
                "have": units.say(Measure(height_m if measure == "height" else have[measure], unit)),
                "enough": have[measure] >= need.size - TOLERANCE_M,
                "basis": wording.basis(need.rule.origin),
            }
        )
    return rows


def climbs(profile: Profile) -> bool:
    """Tell whether height comes before floor."""
    return profile.habit in ("arboreal", "semi-arboreal")


def sum_of(need: Need, measure: str, animals: int, length_m: float | None, units: KeeperUnits) -> str:
    """The sum behind a need, step by step: "5 × 20 cm of body = 100 cm; 3 animals: 160 cm"."""
    unit = UNITS.get(measure, "m")
    alone = units.say(Measure(need.alone, unit))
    if need.rule.rule in ("body", "stretch") and length_m is not None:
        said = _("%(factor)s × %(body)s of body = %(alone)s") % {
            "factor": written(factor(need.rule, measure)),
            "body": units.say(Measure(length_m, "m")),
            "alone": alone,
        }
    else:
        said = _("%(alone)s as it stands") % {"alone": alone}
    if need.size > need.alone + 1e-9:
        more = animals - need.rule.animals
        share = (need.size / need.alone - 1) / more
        said += _("; with %(more)s more, each %(share)s %% of that: %(size)s") % {
            "more": more,
            "share": f"{100 * share:.0f}",
            "size": units.say(Measure(need.size, unit)),
        }
    return said


def in_a_year(found: Outlook, plan: HabitatPlan, profile: Profile, today: date, units: KeeperUnits) -> str:
    """Length and mass a year from today, each with its likely range."""
    course = found.course
    k = next(index for index, day in enumerate(course.days) if (day - today).days >= 365)
    lengths = course.length_m[k], course.low_m[k], course.high_m[k]
    masses = [expected_mass_kg(profile, length, plan.animal.sex) for length in lengths]
    said = {name: units.say(Measure(value, "m")) for name, value in zip(("length", "short", "long"), lengths, strict=True)}
    said |= {name: units.say(Measure(value, "kg")) for name, value in zip(("mass", "light", "heavy"), masses, strict=True)}
    return _("In a year about %(length)s (%(short)s to %(long)s) and %(mass)s (%(light)s to %(heavy)s), eight times in ten.") % said


def size(sides: tuple[float, float, float], units: KeeperUnits) -> str:
    """ "120 × 60 × 60 cm" """
    shown = [units.number(side, "m") for side in sides]
    return " × ".join(number for number, _symbol in shown) + f" {shown[0][1]}"


def _day(day: date | None) -> str:
    return "" if day is None else dates.shown(day, "F Y")


def _way(title: str, path: HousingPath | None, name: str, units: KeeperUnits) -> dict[str, Any]:
    assert path is not None
    homes = [
        {
            "since": _day(home.since),
            "size": size(home.sides_m, units),
            "stage": book(home.stage),
            "price": "" if price is None else f"{price:g}",
            "field": f"price_{name}_{index}",
        }
        for index, (home, price) in enumerate(zip(path.homes, path.prices, strict=True))
    ]
    return {"title": title, "homes": homes, "total": None if path.total is None else written(path.total), "moves": path.moves}


def verdict(ways: HousingChoice) -> str:
    """Which path costs less, and what that saves or costs in moves."""
    if ways.once is None:
        return _("This enclosure lasts, as far as fifteen years can be seen: there is nothing to buy.")
    if len(ways.step_up.homes) == 1:
        return _("The next one can be the last: there is one move, in %(day)s.") % {"day": _day(ways.step_up.homes[0].since)}
    stepped, once = ways.step_up.total, ways.once.total
    if stepped is None or once is None:
        return _("Enter what each would cost you, and the two paths can be set against each other.")
    told = {"once": written(once), "steps": written(stepped), "moves": ways.step_up.moves, "saved": written(abs(stepped - once))}
    if once <= stepped:
        return _("Buying once costs %(once)s instead of %(steps)s: %(saved)s less, and one move instead of %(moves)s.") % told
    return _("Stepping up costs %(steps)s instead of %(once)s: %(saved)s less, for %(moves)s moves instead of one.") % told


def _ticks(lengths: tuple[float, float], y: Callable[[float], float], units: KeeperUnits) -> list[dict[str, Any]]:
    """The first and the last length at the curve's side; one of them where both would stand on one another."""
    found = [{"y": y(value), "text": units.say(Measure(value, "m"))} for value in lengths]
    return found if abs(y(lengths[0]) - y(lengths[1])) >= TICK_APART else found[1:]


def _paths(
    found: Outlook, ways: HousingChoice | None, today: date, x: Callable[[date], float], units: KeeperUnits
) -> list[dict[str, Any]]:
    """The bars under the curve: the stages, and the enclosures of either path; `x` is where a day stands."""
    begins = [(today, book(ways.now.stage) if ways else "")] + [
        (when.day, book(stage.name)) for stage, when in found.stages if when.day
    ]
    rows: list[dict[str, Any]] = [
        {"name": _("stage"), "bars": _bars([(day, name, "") for day, name in begins], x), "kind": "stage"}
    ]
    if ways is not None:
        own = (today, size(ways.now.sides_m, units), "own")
        for title, path in ((_("step up"), ways.step_up), (_("buy once"), ways.once)):
            if path is None or not path.homes:
                continue
            homes = [(home.since or today, size(home.sides_m, units), "") for home in path.homes]
            rows.append({"name": title, "bars": _bars(homes if homes[0][0] == today else [own, *homes], x), "kind": "home"})
    for index, row in enumerate(rows):
        row["y"] = CURVE_FLOOR + 14 + index * ROW
        row["text_y"] = CURVE_FLOOR + 14 + index * ROW + 14
    return rows


def timeline(found: Outlook, ways: HousingChoice | None, profile: Profile, today: date, units: KeeperUnits) -> dict[str, Any]:
    """The animal's years on one axis: growth with its spread, stages, and the enclosures of either path."""
    course = found.course
    ends = [when.latest or when.day for _stage, when in found.stages]
    ends += [home.since for home in ways.step_up.homes] if ways else []
    far = max([(day - today).days * 1.25 for day in ends if day is not None] + [LEAST_YEARS * 365.0])
    far = min(far, float((course.days[-1] - today).days))

    def x(day: date) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * min(max((day - today).days / far, 0.0), 1.0)

    shown = [k for k, day in enumerate(course.days) if (day - today).days <= far]
    low, high = 0.9 * min(course.low_m[k] for k in shown), 1.05 * max(course.high_m[k] for k in shown)

    def y(length_m: float) -> float:
        return CURVE_FLOOR - (length_m - low) / (high - low) * (CURVE_FLOOR - CURVE_TOP)

    def line(lengths: tuple[float, ...], order: list[int]) -> str:
        return "L".join(f"{x(course.days[k]):.1f},{y(lengths[k]):.1f}" for k in order)

    rows = _paths(found, ways, today, x, units)
    floor = CURVE_FLOOR + 14 + len(rows) * ROW
    years = range(today.year + 1, today.year + 2 + int(far / DAYS_A_YEAR))
    step = 1 if far < 8 * 365 else 2
    moves = [home.since for home in ways.step_up.homes if home.since] if ways else []
    return dict(
        plain(
            {
                "width": WIDTH,
                "height": floor + 20,
                "left": LEFT,
                "right": WIDTH - RIGHT,
                "floor": floor,
                "curve": "M" + line(course.length_m, shown),
                "spread": "M" + line(course.low_m, shown) + "L" + line(course.high_m, shown[::-1]) + "Z",
                "curve_floor": CURVE_FLOOR,
                "ticks": _ticks((course.length_m[0], course.length_m[shown[-1]]), y, units),
                "rows": rows,
                "said": " ".join(f"{row['name']}: {', '.join(bar['said'] for bar in row['bars'])}." for row in rows),
                "years": [
                    {"x": x(date(year, 1, 1)), "text": str(year)}
                    for year in list(years)[::step]
                    if (date(year, 1, 1) - today).days <= far
                ],
                "moves": [{"x": x(day), "text": _day(day)} for day in moves if (day - today).days <= far],
            }
        )
    )


def _bars(begins: list[tuple[date, str, str]], x: Any) -> list[dict[str, Any]]:
    """Bars from each beginning to the next; what is too narrow for its words keeps them for the title alone."""
    edges = [x(day) for day, _text, _kind in begins] + [WIDTH - RIGHT]
    return [
        {
            "x": begin,
            "w": max(end - begin - 2, 1.0),
            "text": text if end - begin > 6.2 * len(text) else "",
            "said": text,
            "kind": kind,
            "text_x": begin + 6,
        }
        for (_day_, text, kind), begin, end in zip(begins, edges[:-1], edges[1:], strict=True)
    ]


@dataclass(frozen=True)
class Helper:
    """The inner size worked out from what one has; `sizes` is None while nothing, or nothing sound, was entered."""

    values: dict[str, str]
    fault: str = ""
    said: str = ""
    steps: tuple[str, ...] = ()
    sizes: tuple[float, float, float] | None = None
    volume: str = ""
    clear: str = ""
    kind: str = ""
    lid: str = ""


def helper(query: QueryDict, units: KeeperUnits) -> Helper:
    """Read the outside size or a nominal one, and what is built in."""
    names = ("nominal", "outside", "wall", "back", "sides", "ground")
    values = {name: query.get(name, "").strip()[:60] for name in names}
    chosen = NOMINAL.get(values["nominal"])
    if chosen is None and not values["outside"]:
        return Helper(values)
    try:
        if chosen is not None and not values["outside"]:
            outer, wall_m = (chosen.length_m, chosen.width_m, chosen.height_m), 0.0
        else:
            outer, wall_m = three_sizes(values["outside"], units), _thickness(values["wall"], units)
        found = inside(
            outer,
            wall_m=wall_m,
            back_m=_thickness(values["back"], units),
            sides_m=_thickness(values["sides"], units),
            ground_m=_thickness(values["ground"], units),
        )
    except UnitError:
        return Helper(
            values, fault=_("Three sizes as in “120 × 60 × 60” or “4 ft x 2 ft x 2 ft”, thicknesses as in “18 mm” or “2 in”.")
        )
    except NothingLeftError as error:
        return Helper(values, fault=_("Nothing is left of the %(axis)s.") % {"axis": AXES[error.axis]})
    steps = tuple(
        _("%(axis)s: − %(takes)s for %(what)s = %(left)s")
        % {
            "axis": str(AXES[step.axis]).capitalize(),
            "takes": units.say(Measure(step.takes_m, "m")),
            "what": TAKES[step.code],
            "left": units.say(Measure(step.left_m, "m")),
        }
        for step in found.steps
    )
    sizes = (found.length_m, found.width_m, found.height_m)
    return Helper(
        values,
        said=size(sizes, units),
        steps=steps,
        sizes=sizes,
        volume=units.say(Measure(found.volume_m3, "m3")),
        clear=units.say(Measure(found.clear_height_m, "m")),
        kind=chosen.kind if chosen is not None else "",
        lid=chosen.lid if chosen is not None else "",
    )


def _thickness(text: str, units: KeeperUnits) -> float:
    return units.read(text, "m") if text else 0.0
