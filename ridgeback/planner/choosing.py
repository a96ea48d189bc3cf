"""Schools of a plan: what each would change here, before it is chosen."""

from datetime import date
from typing import Any, Final

from django.utils.translation import get_language
from django.utils.translation import gettext as _

from husbandry.animal.needs import ADULT_SIZE
from husbandry.animal.weighings import Weighing
from husbandry.assess import vetting
from husbandry.assess.assess import Depth, Records, assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Change, Finding, Quantity
from husbandry.diet.rations import PREY, PREY_LIMITS, prey_goes_by
from husbandry.feeding.menu import Menu
from husbandry.feeding.week_food import APPETITE, GROWTH, LEAN
from husbandry.inputs.ultraviolet import SESSIONS
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.space.sizing import SCHOOL_OF_SIZE
from husbandry.species.profile import Profile
from husbandry.species.stage import BOTH, MAT, OVERHEAD, SOURCE
from ridgeback.drawing.marks import mark
from ridgeback.language import wording
from ridgeback.planner import feeds
from ridgeback.planner.once import once_small
from ridgeback.units import KeeperUnits, written

# Every species has these; the profile's own topics come on top.
LOOK: Final = Depth(days_of=(), spread=False, propose=False)  # bands and what is found: no chances, nothing proposed
ALWAYS: Final = {"size": ("graduated", ADULT_SIZE), GROWTH: (APPETITE, LEAN)}


def offered(profile: Profile) -> dict[str, tuple[str, ...]]:
    """The schools one may choose among, by topic; a topic with one school leaves no choice."""
    found = profile.topics() | ALWAYS
    if any(leaf.high for stage in profile.stages for leaf in stage.light.uv_index or ()):
        # Wherever UV is given it may be given in short sessions.
        found["uvb"] = (*(found.get("uvb") or ("sunbeam",)), SESSIONS)
    by_head = next((school for stage in profile.stages if (school := prey_goes_by(stage.feeding))), "")
    if by_head:
        found[PREY] = (by_head, *(school for school in PREY_LIMITS if school != by_head))
    if any(stage.heat.mat_surface_c for stage in profile.stages):
        found[SOURCE] = (OVERHEAD, MAT, BOTH)
    if SCHOOL_OF_SIZE in found:  # where a species has no smaller size of the trade, that school goes by the book's fixed ones
        found[SCHOOL_OF_SIZE] = tuple(dict.fromkeys((*found[SCHOOL_OF_SIZE], "trade")))
    return {topic: schools for topic, schools in found.items() if len(schools) > 1}


def in_use(plan: HabitatPlan, profile: Profile, topic: str) -> str:
    """The school the plan goes by: the keeper's, else the one the book names first."""
    schools = offered(profile)[topic]
    chosen = plan.schools.get(topic, "")
    return chosen if chosen in schools else schools[0]


def topics(
    plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...], units: KeeperUnits
) -> list[dict[str, Any]]:
    """Each topic with its schools and what every one of them would change in this plan."""
    key = "schools", plan.model_dump_json(), id(profile), today, repr(weighings), units, get_language()
    return once_small(key, lambda: _topics(plan, profile, today, weighings, units))


def _topics(
    plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...], units: KeeperUnits
) -> list[dict[str, Any]]:
    now = assess(plan, profile, today, records=Records(weighings=weighings), depth=LOOK)
    found = []
    for topic, schools in offered(profile).items():
        used = in_use(plan, profile, topic)
        shown = []
        for school in schools:
            effect: dict[str, Any] = {"bands": [], "gone": [], "new": [], "food": []}
            if school != used:
                trial = plan.model_copy(update={"schools": plan.schools | {topic: school}})
                effect = effects(now, assess(trial, profile, today, records=Records(weighings=weighings), depth=LOOK), units)
            shown.append({"code": f"{topic}:{school}", "name": wording.school(topic, school), "used": school == used, **effect})
        found.append({"topic": wording.topic(topic), "schools": shown})
    return found


def after(
    plan: HabitatPlan,
    profile: Profile,
    today: date,
    weighings: tuple[Weighing, ...],
    changes: tuple[Change, ...],
    units: KeeperUnits,
) -> dict[str, Any] | None:
    """What some changes would do to this plan, as `effects` has it; None where they leave no plan."""
    try:
        trial = read_data(vetting.applied(plan, changes))
    except PlanProblems:
        return None
    now, then = (assess(item, profile, today, records=Records(weighings=weighings), depth=LOOK) for item in (plan, trial))
    return effects(now, then, units)


def effects(now: Assessment, then: Assessment, units: KeeperUnits) -> dict[str, Any]:
    """Bands that move, findings that go and findings that come."""
    before = {item.id: item for item in now.quantities}
    moved: dict[str, dict[str, Any]] = {}
    for item in then.quantities:
        old = before.get(item.id)
        if old is not None and item.band is not None and _limits(old) != _limits(item):
            # One line for all seasons: the worst verdict is the one that counts.
            shown = mark(item, units)
            line = {
                "name": shown.name,
                "before": mark(old, units).target,
                "after": shown.target,
                "here": f"{shown.number} {shown.symbol}".strip(),
                "verdict": shown.verdict_text,
                "kind": item.verdict.value,
            }
            kept = moved.get(item.key)
            if kept is None or ORDER.index(item.verdict.value) > ORDER.index(str(kept["kind"])):
                moved[item.key] = line
    said_now, said_then = _sayings(now.findings, units), _sayings(then.findings, units)
    return {
        "bands": list(moved.values()),
        "gone": list(dict.fromkeys(text for key, text in said_now.items() if key not in said_then)),
        "new": list(dict.fromkeys(text for key, text in said_then.items() if key not in said_now)),
        "food": _food(now.menu, then.menu, units),
    }


def _food(now: Menu, then: Menu, units: KeeperUnits) -> list[str]:
    """What changes on the plate: the feeds themselves, and how often each product comes in four weeks."""
    said = []
    rations, others = ([feeds.ration_text(item, units) for item in menu.rations] for menu in (now, then))
    if rations != others:
        said.append(_("One feed: %(after)s, instead of %(before)s") % {"after": "; ".join(others), "before": "; ".join(rations)})
    if now.interval_days != then.interval_days:
        days = {"after": written(then.interval_days, ".3g"), "before": written(now.interval_days, ".3g")}
        said.append(_("A feed every %(after)s days, instead of every %(before)s") % days)
    before, after = ({str(item["name"]): item["times"] for item in feeds.counts(menu)} for menu in (now, then))
    for name in dict.fromkeys([*before, *after]):
        if before.get(name, 0) != after.get(name, 0):
            told = {"product": name, "before": before.get(name, 0), "after": after.get(name, 0)}
            said.append(_("%(product)s %(after)s times in four weeks, instead of %(before)s") % told)
    return said


ORDER: Final = ("not applicable", "inside", "unknown", "near", "outside", "dangerous")


def _limits(item: Quantity) -> tuple[float | None, float | None] | None:
    return None if item.band is None else (item.band.low, item.band.high)


def _sayings(findings: tuple[Finding, ...], units: KeeperUnits) -> dict[str, str]:
    return {item.id: wording.finding(item, units) for item in findings}
