"""What stands in an enclosure as tables: each hide's state, the places an animal gets up to, and what all of it takes."""

from typing import Any

from django.utils.translation import gettext as _

from husbandry.animal.subject import subject_of
from husbandry.assess.planting import transpired_g
from husbandry.assess.result import Assessment
from husbandry.assess.views import HideState, PerchState, hide_states, perch_states
from husbandry.assessment import Measure, Verdict
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.grounds import ground_bill
from husbandry.inputs.takes import Taken, TakenPlant, plants_taken, things_taken
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.species.profile import Profile
from ridgeback.language.names import CHOICES, VERDICTS
from ridgeback.planner.furnishing import volume
from ridgeback.units import KeeperUnits, written

OFF = (Verdict.NEAR, Verdict.OUTSIDE, Verdict.DANGEROUS)


def tables(plan: HabitatPlan, profile: Profile, found: Assessment, season: str, units: KeeperUnits) -> dict[str, Any]:
    """Everything the page of the furniture tells in tables, in one season."""
    subject = subject_of(plan, profile, found.today)
    hides = hide_states(subject, found.climate, season)
    perches = perch_states(subject, found.quantities, season)
    planted = plants_taken(plan)
    leaves_m2 = sum(item.leaf_m2 for item in planted)
    drunk_g = transpired_g(leaves_m2, enclosure_case(plan), found.climate, season) if leaves_m2 else 0.0
    bill = ground_bill(plan)
    return {
        "hides": [_hide(item, units) for item in hides],
        "perches": [_perch(item, number, units) for number, item in enumerate(perches, 1)],
        "things": [_taken(item, units) for item in things_taken(plan)],
        "plants": [_plant(item, units) for item in planted],
        "drunk": f"{drunk_g:.0f} g" if drunk_g >= 1 else "",
        "ground": volume(bill.whole.settled_l, units) if bill.whole.settled_l else "",
        "weighs": units.say(Measure(bill.things_kg, "kg")),
    }


def _named(thing: Thing) -> str:
    return thing.name or str(CHOICES["thing"][thing.kind])


def _hide(item: HideState, units: KeeperUnits) -> dict[str, Any]:
    wrong = [words for words, is_so in ((_("light falls in"), not item.dark), (_("too small for it"), item.tight)) if is_so]
    return {
        "name": _named(item.thing),
        "where": units.say(Measure(item.thing.x_m, "m")),
        "day": units.say(Measure(item.day_c, "degC")),
        "night": units.say(Measure(item.night_c, "degC")),
        "humidity": _("under water") if item.humidity is None else f"{item.humidity:.0f} %",
        "wrong": ", ".join(wrong),
    }


def _perch(item: PerchState, number: int, units: KeeperUnits) -> dict[str, Any]:
    return {
        "number": number,
        "name": _named(item.thing),
        "back": units.say(Measure(item.back_m, "m")),
        "surface": "" if item.surface_c is None else units.say(Measure(item.surface_c, "degC")),
        "index": "" if item.index is None else written(item.index, ".1f"),
        "lux": "" if item.lux is None else f"{round(item.lux, -2):,.0f}".replace(",", "\u202f"),
        "verdict": VERDICTS[item.verdict.value] if item.verdict in OFF else "",
    }


def _taken(item: Taken, units: KeeperUnits) -> dict[str, Any]:
    sides = [units.number(side, "m") for side in item.sides_m]
    return {
        "count": item.count,
        "name": CHOICES["thing"][item.kind],
        "stuff": CHOICES["stuff"][item.stuff],
        "size": f"{' × '.join(number for number, _symbol in sides)} {sides[0][1]}",
        "each": units.say(Measure(item.each_kg, "kg")),
        "footings": _("%(n)s on footings") % {"n": item.footings} if item.footings else "",
    }


def _plant(item: TakenPlant, units: KeeperUnits) -> dict[str, Any]:
    grown = ""
    if item.tall_m is not None and item.wide_m is not None:
        told = {"tall": units.say(Measure(item.tall_m, "m")), "wide": units.say(Measure(item.wide_m, "m"))}
        grown = _("%(tall)s tall and %(wide)s wide in a year") % told
    in_pots = _("in its pot") if item.potted == item.count == 1 else _("%(n)s in pots") % {"n": item.potted} if item.potted else ""
    name = CHOICES["plant"][item.plant] if item.plant else _("plant, its kind not said")
    return {"count": item.count, "name": name, "grown": grown, "potted": in_pots}
