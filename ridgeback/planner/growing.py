"""The growth figure of the animal step: what is to come, in words and as a small drawing."""

from datetime import date
from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry.animal.growth_outlook import Outlook, When, outlook
from husbandry.animal.weighings import Weighing
from husbandry.feeding.history import RecordedMeal
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.units import DAYS_A_YEAR
from ridgeback.daybook import reader
from ridgeback.drawing.numbers import plain
from ridgeback.language import dates
from ridgeback.language.booktext import book
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

WIDTH, HEIGHT = 378.0, 112.0
LEFT, RIGHT, TOP, BOTTOM = 34.0, 10.0, 18.0, 20.0
LEAST_YEARS, ROOM = 1.0, 1.25  # of the time shown; beyond the last thing that comes
NEAR_DAYS: Final = 75  # a date this near is told by the day


def weighings(habitat: Habitat) -> tuple[Weighing, ...]:
    """The animal's weighings and measurements out of the log, oldest first."""
    fetched: tuple[Weighing, ...] | None = getattr(habitat, "weighed_so_far", None)
    return reader.lived_by(habitat).weighings if fetched is None else fetched


def fetch(habitats: list[Habitat]) -> None:
    """Read the weighings of several at once, for a list that asks for no meals."""
    for key, found in reader.weighings(habitats).items():
        next(one for one in habitats if one.pk == key).weighed_so_far = found  # type: ignore[attr-defined]


def meals(habitat: Habitat) -> tuple[RecordedMeal, ...]:
    """The last meals out of the log, oldest first; none where only growth was fetched, for a list asks the cards."""
    return () if getattr(habitat, "weighed_so_far", None) is not None else reader.lived_by(habitat).meals


def figure(habitat: Habitat, plan: HabitatPlan, profile: Profile, today: date, units: KeeperUnits) -> dict[str, Any] | None:
    """Return words and coordinates; None where nothing is known of the animal's age or size."""
    found = outlook(plan, profile, today, weighings(habitat))
    if found is None:
        return None
    return {"words": words(found, profile, today, units), "drawing": draw(found, today, units), "measured": found.measured}


def words(found: Outlook, profile: Profile, today: date, units: KeeperUnits) -> list[str]:
    """Sentences: each stage to come, and how long the enclosure is large enough."""
    said = []
    for stage, when in found.stages:
        said.append(_("%(stage)s %(when)s.") % {"stage": book(stage.name).capitalize(), "when": _when(when, today)})
    if found.outgrown.day is None:
        said.append(_("This enclosure stays large enough, as far as fifteen years can be seen."))
        return said
    if found.outgrown.day <= today:
        said.append(_("This enclosure is too small now."))
    else:
        said.append(_("This enclosure is large enough until %(when)s.") % {"when": _when(found.outgrown, today)})
    if found.next_size_m is not None:
        sides = [units.number(side, "m") for side in found.next_size_m]
        size = " × ".join(number for number, _symbol in sides) + f" {sides[0][1]}"
        said.append(_("Grown, it needs at least %(size)s.") % {"size": size})
    return said


def _when(when: When, today: date) -> str:
    """ "about March 2027, between January and July 2027" """
    if when.day is None:
        return ""
    near = (when.day - today).days <= NEAR_DAYS
    about = dates.shown(when.day, "j F Y" if near else "F Y")
    if when.earliest == when.day == when.latest:
        return _("from %(day)s") % {"day": about}
    first = dates.shown(when.earliest or today, "F Y")
    if when.latest is None:
        return _("about %(day)s, from %(first)s at the earliest") % {"day": about, "first": first}
    last = dates.shown(when.latest, "F Y")
    if first == last:
        return _("about %(day)s") % {"day": about}
    return _("about %(day)s, between %(first)s and %(last)s") % {"day": about, "first": first, "last": last}


def draw(found: Outlook, today: date, units: KeeperUnits) -> dict[str, Any]:
    """Return the curve with its spread, the stages' and the enclosure's marks, in pixels."""
    course = found.course
    ahead = [(when.latest or when.day) for _stage, when in found.stages] + [found.outgrown.latest or found.outgrown.day]
    far = max([((day - today).days * ROOM) for day in ahead if day is not None] + [LEAST_YEARS * 365.0])
    far = min(far, float((course.days[-1] - today).days))
    shown = [k for k, day in enumerate(course.days) if (day - today).days <= far]
    low, high = min(course.low_m[k] for k in shown), max(course.high_m[k] for k in shown)
    room = max(0.12 * (high - low), 0.01 * high)
    low, high = max(low - room, 0.0), high + room

    def x(day: date) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * (day - today).days / far

    def y(length_m: float) -> float:
        return HEIGHT - BOTTOM - (length_m - low) / (high - low) * (HEIGHT - BOTTOM - TOP)

    def path(line: tuple[float, ...], order: list[int]) -> str:
        return "L".join(f"{x(course.days[k]):.1f},{y(line[k]):.1f}" for k in order)

    marks = []
    for stage, when in found.stages:
        if when.day is not None and (when.day - today).days <= far:
            marks.append({"x": x(when.day), "text": book(stage.name)})
    outgrown = found.outgrown.day
    januaries = [date(year, 1, 1) for year in range(today.year + 1, today.year + 2 + int(far / DAYS_A_YEAR))]
    step = 1 if far < 5 * 365 else 2 if far < 10 * 365 else 3
    drawn = {
        "width": WIDTH,
        "height": HEIGHT,
        "left": LEFT,
        "right": WIDTH - RIGHT,
        "top": TOP,
        "floor": HEIGHT - BOTTOM,
        "curve": "M" + path(course.length_m, shown),
        "spread": "M" + path(course.low_m, shown) + "L" + path(course.high_m, shown[::-1]) + "Z",
        "today": {"x": x(today), "y": y(course.length_m[0])},
        "stages": marks,
        "outgrown": x(outgrown) if outgrown is not None and (outgrown - today).days <= far else None,
        "ticks": [{"y": y(length_m), "text": units.number(length_m, "m")[0]} for length_m in (low + room, high - room)],
        "years": [{"x": x(day), "text": str(day.year)} for day in januaries[::step] if (day - today).days <= far],
        "unit": units.number(0.1, "m")[1],
    }
    return dict(plain(drawn))
