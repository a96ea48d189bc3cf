"""What the pages of scenarios, lamps and rigs show: the core's answers in the keeper's words."""

import json
from datetime import date
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.assess.assess import NO_DAYS, Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Measure, Quantity
from husbandry.climate.heaters import HEATERS
from husbandry.design import mounting, scenarios
from husbandry.design.rig import Rig, RigsFound
from husbandry.inputs.light_sources import times_of
from husbandry.plan.equipment import Heater, Hung
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback.drawing import daystrip, section
from ridgeback.drawing.marks import Mark, chance_text, mark
from ridgeback.language import names, wording
from ridgeback.planner import revisions
from ridgeback.planner.models import PlanRevision
from ridgeback.planner.once import once, once_small
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits, written

SCENARIOS: Final = {
    "heat_wave": (gettext_lazy("heat wave"), gettext_lazy("The summer room eight degrees warmer, 32 °C at least.")),
    "cold_night": (gettext_lazy("cold night"), gettext_lazy("The winter room eight degrees colder by night, four by day.")),
    "power_cut": (gettext_lazy("power cut"), gettext_lazy("No power from lights-off in winter; the room itself stays as it is.")),
    "stuck_on": (gettext_lazy("thermostat stuck on"), gettext_lazy("The one whose heater does most harm, in summer.")),
    "stuck_off": (gettext_lazy("thermostat stuck off"), gettext_lazy("The one whose heater is missed most, in winter.")),
    "lid_covered": (gettext_lazy("lid half covered"), gettext_lazy("Less air out, less UV in under the covered half.")),
    "lamp_old": (gettext_lazy("lamps a year older"), gettext_lazy("Every UV lamp as it will be a year after fitting.")),
    "mister_failed": (gettext_lazy("mister failed"), gettext_lazy("Nothing misted and no fog for a week.")),
    "grown": (gettext_lazy("grown one stage"), gettext_lazy("The animal at the beginning of its next stage, in here.")),
}
STRIP: Final = (830.0, 210.0)
HEAT_BANDS: Final = ("basking_surface", "mat_surface", "warm_air", "cool_air", "water_temperature")
RIG_KEYS: Final = ("basking_surface", "warm_air", "cool_air", "water_temperature", "uv_back")


def what_if(plan: HabitatPlan, profile: Profile, today: date, code: str, units: KeeperUnits) -> dict[str, Any]:
    """The scenarios this plan can meet with, and the one chosen worked out."""
    made = plan.model_dump_json(), id(profile), today
    possible = once_small(("scenarios", *made), lambda: scenarios.possible(plan, profile, today))
    chosen = code if code in possible else possible[0]
    found = once(("what if", chosen, *made), lambda: scenarios.run(chosen, plan, profile, today))
    name, meant = SCENARIOS[chosen]
    rows = []
    for was, now in found.worse:
        before, after = mark(was, units), mark(now, units)
        rows.append({"name": after.name, "when": wording.when(now), "before": before, "after": after})
    return {
        "holds": found.holds,
        "scenarios": [{"code": item, "name": SCENARIOS[item][0], "current": item == chosen} for item in possible],
        "name": name,
        "meant": meant,
        "season": names.SEASONS[found.season],
        "told": [wording.said(item, units) for item in found.told],
        "rows": rows,
        "strip": daystrip.two(found.usual, found.day, _day_bands(plan, profile, today, found.season), units, STRIP),
    }


def _day_bands(plan: HabitatPlan, profile: Profile, today: date, season: str) -> list[Quantity]:
    found = assess(plan, profile, today, depth=NO_DAYS)
    return [item for item in found.quantities if item.key in HEAT_BANDS and (item.season, item.phase) == (season, "day")]


def ways_to_hang(plan: HabitatPlan, profile: Profile, today: date) -> tuple[mounting.Way, ...]:
    """The ways to hang the lamp over the basking spot; the page that shows them and the button that takes one ask for the same."""
    return once_small(("ways", plan.model_dump_json(), id(profile), today), lambda: mounting.ways(plan, profile, today))


def lamp_ways(plan: HabitatPlan, profile: Profile, today: date, units: KeeperUnits) -> dict[str, Any]:
    """The ways to hang the lamp over the basking spot, as the rows of one table."""
    found = ways_to_hang(plan, profile, today)
    columns: list[dict[str, str]] = []
    rows = []
    for way in found:
        cells = []
        for item in way.numbers:
            shown = mark(item, units)
            if way is found[0]:
                columns.append({"name": shown.name, "when": wording.when(item)})
            cells.append({"number": shown.number, "symbol": shown.symbol, "verdict": shown.verdict, "said": shown.verdict_text})
        rows.append(
            {
                "code": way.code,
                "said": wording.said(way.said, units),
                "cells": cells,
                "refused": "" if way.refused is None else wording.said(way.refused, units),
                "good": way.good,
                "now": way.code == "as_is",
                "can": bool(way.changes) and way.code != "full_on",
            }
        )
    return {"columns": columns, "rows": rows}


def states(
    habitat: Habitat,
    offered: list[PlanRevision],
    chosen: tuple[PlanRevision | None, PlanRevision | None],
    season: str,
    today: date,
    units: KeeperUnits,
) -> dict[str, Any]:
    """Two saved states of a plan with everything that differs between them, each by the profile it was made with now."""
    choices = [
        {"pk": item.pk, "words": _("%(number)s: %(label)s") % {"number": item.number, "label": item.said}} for item in offered
    ]
    sides: list[dict[str, Any]] = []
    answers = []
    for name, label, item in zip(("a", "b"), (_("Left"), _("Right")), chosen, strict=True):
        side: dict[str, Any] = {"name": name, "label": label, "chosen": None if item is None else item.pk}
        if item is not None:
            plan = HabitatPlan.model_validate(item.document)
            profile = revisions.profile_of(habitat, plan.species)
            answer = assess(plan, profile, today, depth=Depth(days_of=(season,)))
            answers.append(answer)
            side |= {
                "plan": plan,
                "words": _state_words(item),
                "safe": len(answer.certainty.safe),
                "count": answer.certainty.count,
                "section": section.draw(plan, profile, answer, section.Look(season, "day", units, wording.part_names(), plan)),
            }
        sides.append(side)
    context: dict[str, Any] = {"choices": choices, "sides": sides, "seasons": names.SEASONS.items(), "strip": None}
    if len(answers) < 2:
        return context
    left, right = answers
    targets = [item for item in right.quantities if item.key in HEAT_BANDS and (item.season, item.phase) == (season, "day")]
    context["strip"] = daystrip.two(left.days[season], right.days[season], targets, units, STRIP)
    context["rows"] = _differing(left, right, season, units)
    return context


def _state_words(state: PlanRevision) -> str:
    return str(_("%(number)s: %(label)s") % {"number": state.number, "label": state.said})


def _differing(left: Assessment, right: Assessment, season: str, units: KeeperUnits) -> list[dict[str, Any]]:
    """The quantities that read differently in the two, in the assessment's order."""
    before = {item.id: item for item in left.quantities}
    after = {item.id: item for item in right.quantities}
    rows = []
    for name in [*before, *(name for name in after if name not in before)]:
        pair = [found.get(name) for found in (before, after)]
        one = next(item for item in pair if item is not None)
        if one.season not in ("", season):
            continue
        cells: list[Any] = [mark(item, units) if item is not None else {"number": "–"} for item in pair]
        read = [(cell.number, cell.verdict_text) if isinstance(cell, Mark) else "" for cell in cells]
        if read[0] != read[1]:
            rows.append({"name": wording.name(one), "when": wording.when(one), "cells": cells})
    return rows


def rig_row(rig: Rig, place: int, units: KeeperUnits) -> dict[str, Any]:
    """One suggested rig: what hangs where, set to what, on which timer, its probe; and how likely it holds."""
    parts = [heater_text(heater, units) for heater in rig.plan.heaters]
    parts += [
        {
            "what": str(names.CHOICES["tube"][lamp.kind]),
            "where": _where(lamp, units),
            "held": _("timer only, never dimmed"),
            "hours": ", ".join(f"{one.on:%H:%M}–{one.off:%H:%M}" for one in times_of(lamp)),
        }
        for lamp in rig.plan.uv_lamps
    ]
    weakest = sorted(rig.chances.items(), key=lambda item: item[1])[:2]
    by_id = {item.id: item for item in rig.quantities}
    numbers = [
        mark(item, units)
        for item in rig.quantities
        if item.key in RIG_KEYS and (item.season, item.phase) in (("", ""), ("winter", "day"), ("summer", "day"))
    ]
    return {
        "place": place,
        "parts": parts,
        "safe": rig.safe,
        "count": len(rig.chances),
        "weakest": [
            {"name": wording.name(by_id[name]), "when": wording.when(by_id[name]), "chance": chance_text(chance)}
            for name, chance in weakest
        ],
        "kwh": [(str(names.SEASONS[season]), written(value, ".2f")) for season, value in rig.kwh.items()],
        "year": f"{rig.year_kwh:.0f}",
        "numbers": [{"mark": item, "when": wording.when(item.quantity)} for item in numbers],
        "json": json.dumps({name: rig.plan.model_dump(mode="json")[name] for name in ("heaters", "uv_lamps")}),
    }


def heater_text(heater: Heater, units: KeeperUnits) -> dict[str, str]:
    """One heater as a keeper hangs it."""
    thermostat = heater.thermostat
    held = _("timer only, never dimmed") if HEATERS[heater.kind].controls == ("none",) else ""
    if thermostat.kind != "none" and thermostat.set_c is not None:
        held = _("%(kind)s thermostat at %(set)s, probe: %(probe)s") % {
            "kind": names.CHOICES["thermostat"][thermostat.kind],
            "set": units.say(Measure(thermostat.set_c, "degC")),
            "probe": names.CHOICES["probe"][thermostat.probe],
        }
    always = heater.on == heater.off
    return {
        "what": f"{written(heater.watts)} W {names.CHOICES['heater'][heater.kind]}",
        "where": _where(heater, units),
        "held": held,
        "hours": _("day and night") if always else f"{heater.on:%H:%M}–{heater.off:%H:%M}",
    }


def _where(hung: Hung, units: KeeperUnits) -> str:
    """Where it hangs: how high, how far along, and how far from the front where that is not midway."""
    told = {"height": units.say(Measure(hung.height_m, "m")), "place": units.say(Measure(hung.x_m, "m"))}
    if hung.y_m is None:
        return _("%(height)s above the floor, %(place)s from the left") % told
    deep = {"front": units.say(Measure(hung.y_m, "m"))}
    return _("%(height)s above the floor, %(place)s from the left, %(front)s from the front") % (told | deep)


def rig_answer(found: RigsFound, units: KeeperUnits) -> dict[str, Any]:
    """The end of a search as the page shows it."""
    refused: dict[str, list[str]] = {}
    for item in found.refused:
        name = f"{written(item.watts)} W {names.CHOICES['heater'][item.kind]}"
        refused.setdefault(wording.said(item.reason, units), []).append(name)
    return {
        "rigs": [rig_row(rig, place, units) for place, rig in enumerate(found.rigs, start=1)],
        "why": [wording.said(item, units) for item in found.why],
        "unmet": [wording.said(item, units)[:1].upper() + wording.said(item, units)[1:] for item in found.unmet],
        "refused": [{"why": why, "names": ", ".join(names)} for why, names in refused.items()],
        "tried": found.tried,
    }
