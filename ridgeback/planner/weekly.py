"""The page of a week of water: humidity hour by hour, the ground drying, and the mistings that would hold the band."""

from typing import Any

import numpy as np
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_GET, require_POST

from husbandry.animal.body import body_of
from husbandry.assess.vetting import harmless
from husbandry.assessment import Change, Measure
from husbandry.design.misting_week import DAYS, Mistings, NoMisting, WeekOfWater, mistings, week
from husbandry.plan.equipment import hours_of
from husbandry.plan.habitat import HabitatPlan, Watering
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import clock_text
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.drawing.daystrip import apart
from ridgeback.drawing.numbers import plain
from ridgeback.language import names
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.planner.saving import begun, save
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404
from ridgeback.units import written

WIDTH, HEIGHT = 1040.0, 240.0
LEFT, RIGHT, TOP, BOTTOM = 44.0, 74.0, 10.0, 24.0


def strip(found: WeekOfWater, plan: HabitatPlan, stage: Stage, season: str) -> dict[str, Any]:
    """The week as coordinates: both ends' humidity over the band by day, the ground's water, mistings and nights."""
    hours = 24 * DAYS

    def x(hour: float) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * hour / hours

    def y(percent: float) -> float:
        return HEIGHT - BOTTOM - (HEIGHT - TOP - BOTTOM) * percent / 100

    def path(values: Any) -> str:
        return "M" + "L".join(f"{x(hour + 1):.1f},{y(float(value)):.1f}" for hour, value in enumerate(values))

    lit = plan.daylight.hours_a_day
    band = choose(stage.moisture.day_percent, plan.schools)
    on = hours_of(plan.daylight.on)
    times = [(hours_of(item.at) - on) % 24 for item in plan.misting.of(season).times]
    ends = {"cool": y(float(found.cool_humidity[-1])), "warm": y(float(found.warm_humidity[-1]))}
    drawn = {
        "width": WIDTH,
        "height": HEIGHT,
        "cool": path(found.cool_humidity),
        "warm": path(found.warm_humidity),
        "ground": path(100 * np.interp(np.arange(1, hours + 1), 24 * np.arange(DAYS + 1), [1.0, *found.ground_share]))
        if found.holds_kg
        else "",
        "lit": [{"x": x(24 * day), "w": x(24 * day + lit) - x(24 * day)} for day in range(DAYS)],
        "band": {"y": y(band.high if band.high is not None else 100.0), "end": y(band.low if band.low is not None else 0.0)},
        "mistings": [{"x": x(24 * day + hour)} for day in range(DAYS) for hour in times],
        "days": [{"x": x(24 * day), "text": _("day %(n)s") % {"n": day + 1}} for day in range(DAYS)],
        "ticks": [{"y": y(value), "text": f"{value} %"} for value in (0, 25, 50, 75, 100)],
        "left": LEFT,
        "right": WIDTH - RIGHT,
        "span": WIDTH - LEFT - RIGHT,
        "floor": HEIGHT - BOTTOM,
        "ends": dict(apart(ends, HEIGHT - BOTTOM)),
    }
    return dict(plain(drawn))


WHY_NONE = {
    NoMisting.DRY_PLACE: gettext_lazy(
        "Nothing is misted here: the air of an open table is the room's, and a species of dry places stays dry."
    ),
    NoMisting.HELD: gettext_lazy("No misting is needed: the cool end is in its band all day."),
    NoMisting.NONE_BETTER: gettext_lazy(
        "No misting would hold the band without making something else wrong: change the air or the ground."
    ),
}


def times_of(found: Mistings) -> list[dict[str, Any]]:
    """The offered mistings as the plan keeps them, on whole five minutes."""
    return [{"at": _at(hour), "grams": found.grams} for hour in found.hours]


def _at(hour: float) -> str:
    return clock_text(round(hour * 12) / 12)


def _changes(plan: HabitatPlan, offered: Mistings, season: str) -> tuple[Change, ...]:
    water = Watering.model_validate({"times": times_of(offered)})
    mist = Change("misting", plan.misting.with_season(season, water).model_dump(mode="json"))
    if offered.lid_covered <= plan.enclosure.lid_covered:
        return (mist,)
    return mist, Change("enclosure.lid_covered", offered.lid_covered)


def _offered(plan: HabitatPlan, profile: Profile, stage: Stage, season: str) -> Mistings | NoMisting:
    """The mistings that hold the band best, where they make nothing else wrong; or why none."""
    found = mistings(plan, stage, season)
    if isinstance(found, Mistings) and not harmless(plan, profile, clock.today(), _changes(plan, found, season)):
        return NoMisting.NONE_BETTER
    return found


@require_GET
def of_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """A week from freshly watered ground on, and the mistings that would hold the band."""
    habitat, units, view = habitat_or_404(request, pk), units_of(request.user), View.of(request.GET)
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    stage = body_of(plan, profile, clock.today()).decision.stage
    found, offered = week(plan, view.season), _offered(plan, profile, stage, view.season)
    context = {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "season": view.season,
        "seasons": names.SEASONS.items(),
        "season_word": names.SEASONS[view.season],
        "strip": strip(found, plan, stage, view.season),
        "half_dry_day": found.half_dry_day,
        "holds": units.say(Measure(found.holds_kg, "kg")) if found.holds_kg else "",
        "misted": units.say(Measure(found.misted_kg, "kg")),
        "low": round(float(found.cool_humidity.min())),
        "high": round(float(found.cool_humidity.max())),
        "why_none": WHY_NONE[offered] if isinstance(offered, NoMisting) else "",
        "offered": None
        if isinstance(offered, NoMisting)
        else {
            "times": ", ".join(item["at"] for item in times_of(offered)),
            "grams": written(offered.grams),
            "share": round(100 * offered.share),
            "now": round(100 * offered.share_now),
            "covered": round(100 * offered.lid_covered) if offered.lid_covered > plan.enclosure.lid_covered else 0,
        },
    }
    return render(request, "planner/week.html", context)


@require_POST
def take(request: HttpRequest, pk: int) -> HttpResponse:
    """Mist at the offered times. They are worked out again here."""
    habitat, view = habitat_or_404(request, pk), View.of(request.POST)
    plan, profile = begun(request, habitat), revisions.profile_of(habitat)
    offered = _offered(plan, profile, body_of(plan, profile, clock.today()).decision.stage, view.season)
    if isinstance(offered, Mistings):
        save(request, pk, _changes(plan, offered, view.season), later(lambda: _("misting at set times")), worked_out=True)
    return redirect("planner:week", pk=pk)
