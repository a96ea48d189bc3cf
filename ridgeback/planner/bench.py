"""What the plan screen shows: one view of one plan, ready for the templates."""

from dataclasses import dataclass, replace
from datetime import date
from typing import Any, Final

from django.http import QueryDict
from django.utils import formats
from django.utils.translation import gettext as _

from husbandry.animal.body import body_of
from husbandry.assess import vetting
from husbandry.assess.assess import assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Finding, Quantity, Severity
from husbandry.feeding.prey_measure import measured_by
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.heating import MOST_HEATERS
from husbandry.species.profile import Profile
from ridgeback.book import profiles
from ridgeback.drawing import daystrip, section
from ridgeback.drawing.marks import chance_text, mark
from ridgeback.language import names, wording
from ridgeback.planner import feeds, fields, growing, inputs, revisions
from ridgeback.planner.counted import counted
from ridgeback.planner.readings import Taken, last_by_quantity, of_habitat
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

# The quantities beside each step, by moment where they have one.
BANDS: Final[dict[str, tuple[str, ...]]] = {
    "animal": ("enclosure_length", "water_temperature", "basking_surface", "uv_back", "cool_humidity", "feed_interval"),
    "room": ("water_temperature", "warm_air", "cool_air", "hottest_air", "cool_humidity", "heat_power"),
    "enclosure": (
        "enclosure_length",
        "enclosure_width",
        "enclosure_height",
        "enclosure_stretch",
        "floor_area",
        "volume",
        "ground_depth",
        "cool_air",
    ),
    "heat": (
        "water_temperature",
        "basking_surface",
        "warm_air",
        "cool_air",
        "hottest_air",
        "mat_contact",
        "back",
        "warm_patch",
        "lamp_distance",
        "heat_power",
    ),
    "light": ("uv_back", "uv_distance", "uv_dose", "uv_hours", "uv_shade", "uv_coverage", "light_apart", "light_hours"),
    "moisture": ("warm_humidity", "cool_humidity", "humid_hide", "water_volume", "water_depth", "water_temperature", "cool_air"),
    "food": ("feed_interval", "ration_1", "ration_2", "energy_week", "calcium_ratio", "d3_share", "fibre_share", "fruit_share"),
}
# Lengths of the animal: said by the measure its species is known by.
LENGTHS: Final = ("animal.length_m",)
PREY_MEASURE: Final = "feeding.measured_m"
# What says nothing of an animal that lives in water, where it has no band.
OF_AIR: Final = ("basking_surface", "warm_air", "cool_air", "hottest_air", "warm_humidity", "cool_humidity")
# What takes the whole day to tell, folded below them.
WHOLE_DAY: Final[dict[str, tuple[str, ...]]] = {
    "heat": (
        "basking_after",
        "basking_held",
        "surface_peak",
        "coolest_air",
        "warm_held",
        "cool_held",
        *(f"duty_{place}" for place in range(1, 9)),
        "energy",
    ),
    "moisture": ("humidity_held", "water_used", "wet_panes", "ground_dries"),
    "room": ("coolest_air", "energy"),
}
# Findings shown at once; the rest wait behind "more".
FINDINGS_SHOWN: Final = 3


@dataclass(frozen=True)
class View:
    """What the keeper looks at: a step, a season, day or night."""

    step: str = "heat"
    season: str = "winter"
    moment: str = "day"

    @classmethod
    def of(cls, query: QueryDict) -> "View":
        """Read the view from a request; anything unknown falls back."""
        given = {name: query.get(name, "") for name in ("step", "season", "moment")}
        known = {"step": names.STEPS, "season": names.SEASONS, "moment": names.MOMENTS}
        return cls(**{name: value for name, value in given.items() if value in known[name]})

    def query(self, **other: str) -> str:
        view = replace(self, **other)
        return f"step={view.step}&season={view.season}&moment={view.moment}"


@dataclass(frozen=True)
class StepTab:
    """One step on the tape: its state is the worst finding's severity, `good` without any."""

    id: str
    name: Any
    state: str
    count: int
    query: str
    current: bool


def assessed(
    habitat: Habitat, plan: HabitatPlan, today: date, view: View, *, at_a_glance: bool = False
) -> tuple[Profile, Assessment]:
    """Assess the plan by the profile it was made with; only the day looked at is stepped through.

    At a glance nobody sees a day, a lamp's height or what could be changed.
    """
    profile = revisions.profile_of(habitat, plan.species)
    weighings, meals = growing.weighings(habitat), growing.meals(habitat)
    read = counted(habitat, plan)
    days = () if at_a_glance else (view.season,)
    found = assess(
        plan,
        profile,
        today,
        days_of=days,
        weighings=weighings,
        meals=meals,
        read=read,
        hanging=not at_a_glance,
        propose=False if at_a_glance else None,
    )
    return profile, found


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
        "groups": field_groups(
            plan,
            view.step,
            units,
            rejected or {},
            species_choices(habitat, plan),
            revisions.profile_of(habitat, plan.species),
            today,
        ),
        "rejected": bool(rejected),
        "can_undo": habitat.head is not None and habitat.head.parent_id is not None,
        "can_redo": revisions.can_redo(habitat),
        "book_moved_on": revisions.profile_has_moved_on(habitat),
        "limits": section.limits(plan),
        "additions": additions(plan, view.step),
    }


def live(
    habitat: Habitat, plan: HabitatPlan, view: View, units: KeeperUnits, today: date, laid_by: HabitatPlan | None = None
) -> dict[str, Any]:
    """Return what follows the hand while something is dragged; `laid_by` is the plan whose layout is on the screen."""
    profile, found = assessed(habitat, plan, today, view)
    last = last_by_quantity(of_habitat(habitat), plan)
    laid_by = laid_by or plan
    layout = section.layout_of(laid_by)
    return {
        "habitat": habitat,
        "plan": plan,
        "view": view,
        "profile": profile,
        "assessment": found,
        "stage": stage(found, profile, units),
        "section": section.draw(plan, profile, found, view.season, view.moment, units, wording.part_names(), laid_by),
        "layout": layout.name,
        "bands": bands(found, view, units, BANDS, last),
        "whole_day": bands(found, view, units, WHOLE_DAY, last),
        "chance": None if found.likely is None else chance_text(found.likely),
        "least_sure": _least_sure(found),
        "strip": daystrip.draw(plan, found, view.season, units, layout.strip),
        "findings": [_finding(item, view, units) for item in found.findings],
        "shown": FINDINGS_SHOWN,
        "tabs": tabs(found, view),
        "menu": found.menu,
        "weeks": feeds.weeks(found.menu, today) if view.step == "food" else [],
        "counts": feeds.counts(found.menu) if view.step == "food" else [],
        "size": size(plan, units),
        "seasons": names.SEASONS.items(),
        "moments": names.MOMENTS.items(),
        "view_summer": view.query(season="summer"),
        "view_winter": view.query(season="winter"),
        "view_day": view.query(moment="day"),
        "view_night": view.query(moment="night"),
        "season_word": names.SEASONS[view.season],
        "moment_word": names.MOMENTS[view.moment],
    }


def _least_sure(found: Assessment) -> str:
    """ "cool-end air, summer night, 43 %": the band that is least likely to hold, what a keeper would look at first."""
    judged = [item for item in found.quantities if item.likely is not None and item.moment]
    if not judged:
        return ""
    item = min(judged, key=lambda one: one.likely or 0.0)
    words = {"name": wording.name(item), "when": wording.when(item), "chance": chance_text(item.likely or 0.0)}
    return _("%(name)s, %(when)s, %(chance)s %%") % words


def size(plan: HabitatPlan, units: KeeperUnits) -> str:
    """ "90 × 45 × 45 cm" """
    sides = [units.number(side, "m") for side in (plan.enclosure.length_m, plan.enclosure.width_m, plan.enclosure.height_m)]
    return " × ".join(number for number, _symbol in sides) + f" {sides[0][1]}"


def stage(found: Assessment, profile: Profile, units: KeeperUnits) -> dict[str, Any]:
    """The life stage and what decided it, in words."""
    decision = found.body.decision
    body = found.body
    return {
        "name": decision.stage.name,
        "decided_by": names.CHOICES["decided"][decision.decided_by],
        "disputed": decision.disputed,
        "age": _age(body.age_days),
        "form": profile.body.length_measure,
    }


def _age(days: int | None) -> str:
    if days is None:
        return ""
    months = int(days / 30.436875)
    if months < 24:
        return str(_("%(months)s months") % {"months": months})
    return str(_("%(years)s years") % {"years": months // 12})


def bands(
    found: Assessment, view: View, units: KeeperUnits, keys: dict[str, tuple[str, ...]], last: dict[tuple[str, str, str], Taken]
) -> list[Any]:
    """The marks beside the current step, of the `keys` of each step, with the `last` reading of each where there is one."""
    chosen: list[Quantity] = []
    for key in keys.get(view.step, ()):
        for item in found.quantities:
            if found.lives_in_water and item.key in OF_AIR and item.band is None:
                continue
            if item.key == key and item.season in ("", view.season) and item.moment in ("", view.moment):
                chosen.append(item)
    return [mark(item, units, _last(last.get((item.key, item.season, item.moment)))) for item in chosen]


def _last(taken: Taken | None) -> tuple[float, str] | None:
    if taken is None:
        return None
    return taken.value, _("%(day)s by %(by)s") % {"day": formats.date_format(taken.at, "j F"), "by": taken.by}


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
        "habitat": habitat,
        "view": view,
        "findings": [_finding(item, view, units, vetted=True) for item in found.findings],
        "shown": FINDINGS_SHOWN,
        "vetted": True,
    }


def vetted(habitat: Habitat, plan: HabitatPlan, profile: Profile, found: Assessment, only: str = "") -> Assessment:
    """The same assessment with what may be offered, for all findings or for one of them."""
    return vetting.vetted(plan, profile, found, weighings=growing.weighings(habitat), meals=growing.meals(habitat), only=only)


def _finding(item: Finding, view: View, units: KeeperUnits, *, vetted: bool = False) -> dict[str, Any]:
    offered = bool(item.remedy and item.remedy.changes)
    return {
        "id": item.id,
        "severity": item.severity.value,
        "step": item.step,
        "step_name": names.STEPS[item.step],
        "at": view.query(step=item.step),
        "text": wording.finding(item, units),
        "remedy": wording.remedy(item.remedy, units) if item.remedy else "",
        "can_change": offered and vetted,
        "looking": offered and not vetted,
    }


def species_choices(habitat: Habitat, plan: HabitatPlan) -> list[tuple[str, str]]:
    """What the room can plan by, and the plan's own species even where its profile was taken away."""
    found = profiles.choices([habitat.room_id])
    if plan.species not in {species for species, _name in found}:
        found.insert(0, (plan.species, revisions.profile_of(habitat, plan.species).common))
    return found


def field_groups(
    plan: HabitatPlan,
    step: str,
    units: KeeperUnits,
    rejected: dict[str, fields.Rejected],
    species: list[tuple[str, str]],
    profile: Profile,
    today: date,
) -> list[dict[str, Any]]:
    """The step's inputs with their values, faults and offers; `species` are those the room can plan by."""
    shown: list[dict[str, Any]] = []
    for group in inputs.groups(plan, step):
        drawn = []
        for field in group.fields:
            one = fields.show(plan, field, units)
            if field.choices == "species":
                one = replace(one, options=tuple(species))
            if field.path in LENGTHS:
                label = names.LENGTH_MEASURES[profile.body.length_measure]
                one = replace(one, field=replace(field, label=label))
            if field.path == PREY_MEASURE:
                by = measured_by(plan, body_of(plan, profile, today))
                if not by:
                    continue
                label, aside = names.PREY_MEASURES[by]
                one = replace(one, field=replace(field, label=label), picture=by, aside=str(aside))
            if field.path in rejected:
                wrong = rejected[field.path]
                one = replace(
                    one,
                    value=wrong.text,
                    error=wording.problem(wrong.problem, units),
                    offers=tuple((text, text.replace("degF", "°F").replace("degC", "°C")) for text in wrong.offers),
                    asks=wrong.asks,
                )
            drawn.append(one)
        bad = any(one.error for one in drawn)
        # The first part lies open; the others are folded to one line unless something in them is wrong.
        crowded = step == "enclosure" or any(item["part"] for item in shown)
        folded = bool(group.part) and crowded and not bad
        shown.append({"title": group.title, "part": group.part, "fields": drawn, "folded": folded, "said": _summary(drawn)})
    return shown


def _summary(shown: list[fields.Shown]) -> str:
    """The first quantities of a folded group: "60 W · 44 cm · 38 cm"."""
    said = [f"{one.value} {one.symbol}" for one in shown if one.field.kind == "quantity" and one.value]
    return " · ".join(said[:4])


def _all_water(plan: HabitatPlan) -> bool:
    """Tell whether there is no dry floor a bowl could stand on."""
    return plan.pool is not None and plan.pool.length_m >= plan.enclosure.length_m - 0.001


def additions(plan: HabitatPlan, step: str) -> list[tuple[str, Any]]:
    """What can be added at this step: the part's path and the button's words."""
    vents, winter = plan.enclosure.vents, plan.misting.winter
    offers: dict[str, list[tuple[str, Any, bool]]] = {
        "room": [("window", _("Add sun through a window"), plan.window is None)],
        "heat": [(f"heaters.{len(plan.heaters)}", _("Add a heater"), len(plan.heaters) < MOST_HEATERS)],
        "light": [
            (f"uv_lamps.{len(plan.uv_lamps)}", _("Add a UV lamp"), len(plan.uv_lamps) < 4),
            (f"light_bars.{len(plan.light_bars)}", _("Add a light bar"), len(plan.light_bars) < 4),
        ],
        "enclosure": [
            ("platform", _("Add a basking place"), plan.platform is None),
            (f"hides.{len(plan.hides)}", _("Add a hide"), len(plan.hides) < 8),
            (f"enclosure.vents.{len(vents)}", _("Add a vent"), len(vents) < 6 and plan.enclosure.lid == "solid"),
        ],
        "moisture": [
            ("bowl", _("Add a water bowl"), plan.bowl is None and not _all_water(plan)),
            ("pool", _("Add a pool"), plan.pool is None),
            (f"misting.times.{len(plan.misting.times)}", _("Add a misting time"), len(plan.misting.times) < 12),
            ("misting.winter", _("Give winter its own misting"), plan.misting.winter is None and plan.misting.any),
            *(
                [(f"misting.winter.times.{len(winter.times)}", _("Add a misting time in winter"), len(winter.times) < 12)]
                if winter is not None
                else []
            ),
        ],
    }
    return [(path, words) for path, words, possible in offers.get(step, []) if possible]
