"""What the plan screen shows: one view of one plan, ready for the templates."""

from dataclasses import dataclass, replace
from datetime import date
from typing import Any, Final

from dateutil.relativedelta import relativedelta
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.assess import vetting
from husbandry.assess.assess import Depth, Records, assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import GRAVE
from husbandry.assessment import Finding, Severity
from husbandry.design.limits import HUMID, PREDICTED, first_of_each, limits
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback import clock
from ridgeback.daybook import reader
from ridgeback.drawing import daystrip, section
from ridgeback.drawing.marks import chance_text
from ridgeback.language import names, saladwords, wording
from ridgeback.language.booktext import book
from ridgeback.language.placewords import PLACE_NAMES
from ridgeback.planner import feeds, fields, furnishing, furniture_tables, growing, revisions, step_bands, step_fields
from ridgeback.planner.counted import counted
from ridgeback.planner.once import once
from ridgeback.planner.readings import last_by_quantity, of_habitat
from ridgeback.planner.view import View
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

# Findings shown at once; the rest wait behind "more".
FINDINGS_SHOWN: Final = 3
YOUNG_DAYS, YOUNG_MONTHS = 14, 2  # until then an age is told in days, and in weeks
CLIMATE_STEPS: Final = ("heat", "light", "moisture")
READ_ANEW_S: Final = 15.0  # while the hand moves, the log
# What kind of finding each band that may have a limit belongs to.
FAMILIES: Final = dict.fromkeys(PREDICTED, "heat") | dict.fromkeys(HUMID, "moisture") | {"uv_back": "uv"}


@dataclass(frozen=True)
class StepTab:
    """One step on the tape: its state is the worst finding's severity, `good` without any."""

    id: str
    name: Any
    state: str
    count: int
    query: str
    current: bool


@dataclass(frozen=True)
class Hand:
    """What a hand is in while it moves a part: the section or the floor plan, of the plan that stands."""

    laid_by: HabitatPlan
    side: section.Side


@dataclass(frozen=True)
class Looking:
    """How a plan is looked at.

    At a glance nobody sees a day, a lamp's height or what could be changed. While something is dragged `laid_by` is the plan that
    stands, and the numbers follow the hand; how sure they are, a lamp's right height and what could be changed wait until it is
    let go. Where neither a finding nor the day is shown, nothing is `judged`.
    """

    at_a_glance: bool = False
    laid_by: HabitatPlan | None = None
    judged: bool = True


AT_A_GLANCE: Final = Looking(at_a_glance=True)


def assessed(
    habitat: Habitat,
    plan: HabitatPlan,
    today: date,
    view: View,
    looking: Looking = Looking(),
) -> tuple[Profile, Assessment]:
    """Assess the plan by the profile it was made with; only the day looked at is stepped through."""
    at_a_glance, laid_by, judged = looking.at_a_glance, looking.laid_by, looking.judged
    profile, moving = revisions.profile_of(habitat, plan.species), laid_by is not None
    if moving:
        _read_lately(habitat)
    weighings, meals = growing.weighings(habitat), growing.meals(habitat)
    read = counted(habitat, plan, laid_by)
    days = (view.season,) if judged and not at_a_glance else ()
    records = Records(weighings=weighings, meals=meals, read=read)
    in_passing = at_a_glance or moving
    depth = Depth(
        days_of=days,
        spread=not moving,
        hanging=not in_passing,
        propose=not in_passing,
        only=frozenset() if in_passing else None,
        judged=judged,
    )
    key = (plan.model_dump_json(), id(profile), today, repr(records), depth)
    return profile, once(key, lambda: assess(plan, profile, today, records=records, depth=depth))


def _read_lately(habitat: Habitat) -> None:
    """While the hand moves, the log is read once in a while and not for every place of a part."""
    lately = int(clock.now().timestamp() // READ_ANEW_S)
    key = ("lived", habitat.pk, habitat.version, habitat.head_id, lately)
    reader.keep(habitat, once(key, lambda: reader.lived_by(habitat)))


def context(
    habitat: Habitat,
    plan: HabitatPlan,
    view: View,
    units: KeeperUnits,
    today: date,
    rejected: dict[str, fields.Rejected] | None = None,
) -> dict[str, Any]:
    """Return everything on the screen."""
    profile = revisions.profile_of(habitat, plan.species)
    growth = growing.figure(habitat, plan, profile, today, units) if view.step == "animal" else None
    return live(habitat, plan, view, units, today) | {
        "growth": growth,
        "groups": step_fields.field_groups(habitat, plan, view.step, units, rejected or {}, today),
        "rejected": bool(rejected),
        "can_undo": habitat.head is not None and habitat.head.parent_id is not None,
        "can_redo": revisions.can_redo(habitat),
        "book_moved_on": revisions.profile_has_moved_on(habitat),
        "limits": section.limits(plan, units),
        "additions": step_fields.additions(plan, view.step),
        "recipe_choices": furnishing.recipe_choices() if view.step == "ground" else [],
        "thing_choices": furnishing.thing_choices(plan) if view.step == "furniture" else [],
        "poisonous": saladwords.standing() if view.step == "moisture" else "",
    }


def live(
    habitat: Habitat, plan: HabitatPlan, view: View, units: KeeperUnits, today: date, laid_by: HabitatPlan | None = None
) -> dict[str, Any]:
    """Return what is on the screen; while something is dragged `laid_by` is the plan whose layout stands there."""
    moving = laid_by is not None
    profile, found = assessed(habitat, plan, today, view, Looking(laid_by=laid_by))
    laid_by = laid_by or plan
    layout = section.layout_of(laid_by)
    return {
        "habitat": habitat,
        "plan": plan,
        "view": view,
        "profile": profile,
        "assessment": found,
        "moving": moving,
        "section": section.draw(plan, profile, found, section.Look(view.season, view.phase, units, wording.part_names(), laid_by)),
        "layout": layout.name,
        "strip": daystrip.draw(plan, found, view.season, units, layout.strip),
        "findings": [_finding(item, view, units, moving=moving) for item in found.findings],
        "shown": FINDINGS_SHOWN,
        "tabs": tabs(found, view),
        "bill": furnishing.bill(plan, units) if view.step == "ground" else None,
        "furnished": furniture_tables.tables(plan, profile, found, view.season, units) if view.step == "furniture" else None,
        "size": size(plan, units),
        "seasons": names.SEASONS.items(),
        "phases": names.PHASES.items(),
        "view_summer": view.query(season="summer"),
        "view_winter": view.query(season="winter"),
        "view_day": view.query(phase="day"),
        "view_night": view.query(phase="night"),
    } | _beside(habitat, plan, view, units, profile, found)


def near(habitat: Habitat, plan: HabitatPlan, view: View, units: KeeperUnits, today: date, hand: Hand) -> dict[str, Any]:
    """Return what the eye is on while a hand moves a part: the numbers, and the drawing that the hand is in.

    The day, the findings and the other drawing come as soon as the hand rests.
    """
    profile, found = assessed(habitat, plan, today, view, Looking(laid_by=hand.laid_by, judged=False))
    look = section.Look(view.season, view.phase, units, wording.part_names(), hand.laid_by)
    return {
        "habitat": habitat,
        "plan": plan,
        "view": view,
        "moving": True,
        "near": hand.side,
        "section": section.draw(plan, profile, found, look, (hand.side,)),
    } | _beside(habitat, plan, view, units, profile, found)


def _beside(
    habitat: Habitat, plan: HabitatPlan, view: View, units: KeeperUnits, profile: Profile, found: Assessment
) -> dict[str, Any]:
    """The marks on their bands beside the step, how sure they are, and the weeks of food."""
    last = last_by_quantity(of_habitat(habitat), plan)
    return {
        "season_word": names.SEASONS[view.season],
        "phase_word": names.PHASES[view.phase],
        "certainty": _certainty(found),
        "stage": stage(plan, found, profile),
        "bands": step_bands.bands(found, view, units, step_bands.BANDS, last),
        "whole_day": step_bands.bands(found, view, units, step_bands.WHOLE_DAY, last),
        "menu": found.menu,
        "weeks": feeds.weeks(found.menu, found.today) if view.step == "food" else [],
        "counts": feeds.counts(found.menu) if view.step == "food" else [],
    }


def _certainty(found: Assessment) -> dict[str, Any] | None:
    """How sure the bands are, in words: how many are likely to hold, which may not, and what would settle them."""
    certainty = found.certainty
    if certainty.together is None:
        return None
    named = {item.id: item for item in found.quantities}

    def told(ids: tuple[str, ...]) -> list[str]:
        said = [(named[one], chance_text(named[one].likely or 0.0)) for one in ids if one in named]
        return [
            _("%(name)s, %(when)s, %(chance)s %%") % {"name": wording.name(item), "when": wording.when(item), "chance": chance}
            if item.phase
            else _("%(name)s, %(chance)s %%") % {"name": wording.name(item), "chance": chance}
            for item, chance in said
        ]

    reading = certainty.reading
    return {
        "count": certainty.count,
        "safe": len(certainty.safe),
        "open": told(certainty.open),
        "lost": told(certainty.lost),
        "together": chance_text(certainty.together),
        "reading": None
        if reading is None
        else {"place": PLACE_NAMES[reading.place], "phase": names.PHASES[reading.phase], "settles": reading.settles},
    }


def size(plan: HabitatPlan, units: KeeperUnits) -> str:
    """ "90 × 45 × 45 cm" """
    sides = [units.number(side, "m") for side in (plan.enclosure.length_m, plan.enclosure.width_m, plan.enclosure.height_m)]
    return " × ".join(number for number, _symbol in sides) + f" {sides[0][1]}"


def stage(plan: HabitatPlan, found: Assessment, profile: Profile) -> dict[str, Any]:
    """The life stage and what decided it, in words."""
    decision = found.body.decision
    return {
        "name": book(decision.stage.name),
        "decided_by": names.CHOICES["decided"][decision.decided_by],
        "disputed": decision.disputed,
        "age": age_text(plan.animal.hatched, found.today),
        "form": profile.body.length_measure,
    }


def age_text(hatched: date | None, today: date) -> str:
    """An age by the calendar: days in the first fortnight, weeks until two months, months until two years, then years."""
    if hatched is None:
        return ""
    age, days = relativedelta(today, hatched), max((today - hatched).days, 0)
    months = 12 * age.years + age.months
    if days < YOUNG_DAYS:
        return ngettext("%(n)s day", "%(n)s days", days) % {"n": days}
    if months < YOUNG_MONTHS:
        return ngettext("%(n)s week", "%(n)s weeks", days // 7) % {"n": days // 7}
    if months < 24:
        return ngettext("%(n)s month", "%(n)s months", months) % {"n": months}
    return ngettext("%(n)s year", "%(n)s years", months // 12) % {"n": months // 12}


def tabs(found: Assessment, view: View) -> list[StepTab]:
    """The tape of steps with the state of each."""
    order = list(Severity)
    shown = []
    for step, name in names.STEPS.items():
        of_step = [item.severity for item in found.findings if item.step == step]
        worst = min(of_step, key=order.index).value if of_step else "good"
        shown.append(StepTab(step, name, worst, len(of_step), view.query(step=step), step == view.step))
    return shown


def findings(habitat: Habitat, plan: HabitatPlan, view: View, units: KeeperUnits, today: date) -> dict[str, Any]:
    """The findings with the changes that were tried and hold: what is loaded once the rest stands on the screen."""
    profile, found = assessed(habitat, plan, today, view)
    found = vetted(habitat, plan, profile, found)
    return {
        "not_held": _limits(plan, profile, found, units),
        "habitat": habitat,
        "view": view,
        "findings": [_finding(item, view, units, vetted=True) for item in found.findings],
        "shown": FINDINGS_SHOWN,
        "vetted": True,
    } | _beside(habitat, plan, view, units, profile, found)


def _limits(plan: HabitatPlan, profile: Profile, found: Assessment, units: KeeperUnits) -> list[str]:
    """What cannot be held here and why, once for each cause; nothing as long as a change on offer may still mend it."""
    grave = [item for item in found.findings if item.severity in GRAVE and item.step in CLIMATE_STEPS]
    if not grave:
        return []
    mended = {_family(item.code) for item in grave if item.remedy is not None and item.remedy.changes}
    said = []
    for limit in first_of_each(item for item in limits(plan, profile, found) if FAMILIES[item.quantity.key] not in mended):
        quantity = limit.quantity
        why = wording.reason(replace(quantity, reason=limit.reason), units)
        name = wording.name(quantity)
        head = _("%(name)s, %(when)s") % {"name": name, "when": wording.when(quantity)} if quantity.phase else name
        said.append(f"{head}: {why[:1].lower()}{why[1:]}" if not why.startswith("UV") else f"{head}: {why}")
    return said


def _family(code: str) -> str:
    """What a finding is about: "heat", "moisture", "uv"; water goes with heat."""
    family = code.partition(".")[0]
    return "heat" if family == "water" else family


def vetted(habitat: Habitat, plan: HabitatPlan, profile: Profile, found: Assessment, only: str = "") -> Assessment:
    """The same assessment with what may be offered, for all findings or for one of them."""
    records = Records(weighings=growing.weighings(habitat), meals=growing.meals(habitat))
    key = (plan.model_dump_json(), id(profile), id(found), repr(records), only)
    return once(key, lambda: vetting.vetted(plan, profile, found, records=records, only=only))


def _finding(item: Finding, view: View, units: KeeperUnits, *, vetted: bool = False, moving: bool = False) -> dict[str, Any]:
    """A finding as the page shows it; while something is moving it is not looked for what would mend it."""
    offered = bool(item.remedy and item.remedy.changes)
    return {
        "id": item.id,
        "severity": item.severity.value,
        "step": item.step,
        "step_name": names.STEPS[item.step],
        "at": view.query(step=item.step),
        "text": wording.finding(item, units),
        "remedy": wording.remedy(item.remedy, units) if item.remedy and not moving else "",
        "can_change": offered and vetted,
        "looking": offered and not vetted and not moving,
    }
