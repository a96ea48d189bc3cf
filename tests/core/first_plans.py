"""What comes of first plans, by species, stage, room and size: for a sample in the tests and for the benchmark, which takes all."""

import time
from collections.abc import Iterator
from datetime import date, timedelta
from typing import NamedTuple

from husbandry.animal.needs import enclosure_needs
from husbandry.animal.subject import subject_of
from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Finding, Severity, Verdict
from husbandry.codes import RemedyCode
from husbandry.design.first_proposal import propose
from husbandry.design.limits import limits
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.placement import check_places
from husbandry.space.sizing import SIDES, sides_for
from husbandry.species.book import shipped
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage

TODAY = date(2026, 11, 28)
ROOMS = {"cool": (19.0, 16.0, 45.0), "usual": (22.0, 19.0, 50.0), "warm": (26.0, 23.0, 60.0)}
JUDGED = ("basking_surface", "warm_air", "cool_air", "hottest_air", "cool_humidity", "water_temperature", "uv_back")
GOOD = (Verdict.INSIDE, Verdict.NEAR, Verdict.NOT_APPLICABLE, Verdict.UNKNOWN)
BY_ROOM = (RemedyCode.HEAT_COOL_THE_ROOM, RemedyCode.MOISTURE_MOISTEN_ROOM, RemedyCode.MOISTURE_DRY_THE_ROOM)
Case = tuple[str, str, str, str]
Judged = tuple[Case, str, tuple[str, ...], tuple[str, ...]]


class Planned(NamedTuple):
    """A first plan, its species, and the processor time it took in s."""

    profile: Profile
    plan: HabitatPlan
    seconds: float


def cases() -> Iterator[Case]:
    for name, profile in shipped().items():
        for stage in profile.stages:
            for room in ROOMS:
                for size in ("recommended", "least"):
                    yield name, stage.id, room, size


def animal_of(stage: Stage) -> Animal:
    bounds = stage.bounds(stage.leads)
    measure = 0.8 * bounds.high if bounds.low is None else 1.3 * bounds.low if bounds.high is None else bounds.middle
    given = {"mass": ("mass_kg", measure / 1000), "length": ("length_m", measure / 100)}
    if stage.leads in given:
        key, value = given[stage.leads]
        return Animal.model_validate({key: value})
    return Animal(hatched=TODAY - timedelta(days=measure * 30.4))


def judged(case: Case) -> Judged:
    """What came of one, its dangers, and the bands that are left without a reason.

    "good": every band holds; "said": for each that does not a trial shows what of the room or of another band stands in its way
    (`design.limits`); "silent": one has no such reason; "no room": its ground alone does not fit.
    """
    return judged_plan(case, planned(case))


def planned(case: Case) -> Planned:
    """The first plan of one, and the processor time that it took."""
    name, stage_id, room_name, size = case
    profile = shipped()[name]
    stage = next(item for item in profile.stages if item.id == stage_id)
    day_c, night_c, percent = ROOMS[room_name]
    season = RoomCase(day_c=day_c, night_c=night_c, humidity_percent=percent)
    room, animal = RoomClimate(summer=season, winter=season), animal_of(stage)
    sides_m = least_sides(profile, plan_of(profile, animal, room)) if size == "least" else None
    began = time.process_time()
    plan = propose("first", profile, animal, room, TODAY, sides_m)
    return Planned(profile, plan, time.process_time() - began)


def judged_plan(case: Case, made: Planned) -> Judged:
    """As `judged`, of a plan that is made."""
    profile, plan = made.profile, made.plan
    if check_places(plan):
        return case, "no room", (), ()
    found = assess(plan, profile, TODAY, depth=NO_DAYS)
    climate = [item for item in found.findings if item.step != "food"]
    dangers = tuple(item.code for item in climate if item.severity is Severity.DANGER and not told(item))
    off = {item.id for item in found.quantities if item.key in JUDGED and item.verdict not in GOOD}
    said = {item.quantity.id for item in limits(plan, profile, found)}
    untold = tuple(sorted(off - said))
    return case, "silent" if untold else "said" if off else "good", dangers, untold


def told(finding: Finding) -> bool:
    """Tell whether a finding says what of the room would mend it, or that no change was found."""
    return finding.remedy is not None and (finding.remedy.code in BY_ROOM or not finding.remedy.changes)


def plan_of(profile: Profile, animal: Animal, room: RoomClimate) -> HabitatPlan:
    return propose("first", profile, animal, room, TODAY)


def least_sides(profile: Profile, plan: HabitatPlan) -> tuple[float, float, float] | None:
    """The least enclosure that the book allows."""
    subject = subject_of(plan, profile, TODAY)
    least, _wanted = enclosure_needs(plan, profile, subject.stage, subject.body.length_m)
    sides = sides_for(least) if set(SIDES) <= set(least) else None
    return None if sides is None else (round(sides[0] + 0.005, 2), round(sides[1] + 0.005, 2), round(sides[2] + 0.005, 2))
