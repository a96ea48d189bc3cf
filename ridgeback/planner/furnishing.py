"""What the ground and the things of a plan come to, in words: litres, bags, weights, and what can be added."""

from datetime import date
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.assessment import Measure
from husbandry.design.furnish import Furnished, furnish
from husbandry.furnishing.crew import crew
from husbandry.furnishing.ground import Heap, bags
from husbandry.furnishing.mixes import recipes
from husbandry.furnishing.things import kinds
from husbandry.inputs.grounds import Bed, GroundBill, ground_bill
from husbandry.plan.geometry import depth_of
from husbandry.plan.grounds import Layer
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import MOST_THINGS, Thing
from husbandry.species.profile import Profile
from husbandry.units import FOOT_M, POUND_KG
from ridgeback.language.names import CHOICES
from ridgeback.units import KeeperUnits, written

LEAST_L: Final = 0.05
LITRES: Final = 1000.0
WHOLE_FROM: Final = 10.0


def bill(plan: HabitatPlan, units: KeeperUnits) -> dict[str, Any]:
    """The ground's bill for the page: a row for each bed and layer, one for each material with its bags, and the weights."""
    found = ground_bill(plan)
    whole = found.whole
    settle = max(bed.settle_days for bed in found.beds)
    return {
        "beds": [_bed(bed, units) for bed in found.beds if bed.floor_m2 > 0],
        "materials": [
            {
                "name": CHOICES["mix"][key],
                "litres": volume(litres, units),
                "bags": _bags(litres, units),
                "buckets": _buckets(plan, litres),
            }
            for key, litres in whole.parts_l.items()
            if litres > LEAST_L and key != "paper"
        ],
        "dry": heavy(whole.dry_kg, units),
        "kept": heavy(whole.kg, units),
        "things": heavy(found.things_kg, units),
        "water": heavy(found.water_kg, units) if found.water_kg else "",
        "all": heavy(found.kg, units),
        "load": _load(found.kg_m2, units),
        "crew": _crew(plan, found, units) if plan.ground.living else None,
        "bucket": volume(LITRES * plan.ground.bucket_m3, units) if plan.ground.bucket_m3 else "",
        "settle": ngettext("%(n)s day", "%(n)s days", settle) % {"n": settle} if settle else "",
    }


def _crew(plan: HabitatPlan, found: GroundBill, units: KeeperUnits) -> dict[str, Any]:
    floor_m2 = sum(bed.floor_m2 for bed in found.beds)
    made = crew(found.whole.settled_l, floor_m2, damp=plan.ground.damp)
    return {
        "isopods": made.isopods,
        "springtails": f"{made.springtails_ml:.0f} ml" if made.springtails_ml else "",
        "litter": volume(made.litter_l, units),
        "first": made.weeks[0],
        "last": made.weeks[1],
    }


def heavy(kg: float, units: KeeperUnits) -> str:
    """A weight of ground: nobody weighs it to the ounce."""
    pounds = units.mass == "oz"
    number = kg / POUND_KG if pounds else kg
    return f"{written(number, '.0f' if number >= WHOLE_FROM else '.1f')} {'lb' if pounds else 'kg'}"


def _load(kg_m2: float, units: KeeperUnits) -> str:
    return f"{kg_m2 / POUND_KG * FOOT_M**2:.0f} lb/ft²" if units.mass == "oz" else f"{kg_m2:.0f} kg/m²"


def _bed(bed: Bed, units: KeeperUnits) -> dict[str, Any]:
    named = "" if bed.area is None else bed.area.name or _("A part of the floor")
    return {
        "name": named or _("The floor"),
        "recipe": CHOICES["recipe"].get(bed.recipe, ""),
        "layers": [_layer(one, units) for one in reversed(bed.heaps)],
    }


def _layer(one: Heap, units: KeeperUnits) -> dict[str, Any]:
    return {
        "mix": ", ".join(f"{volume(litres, units)} {CHOICES['mix'][key]}" for key, litres in one.parts_l.items()),
        "lies": volume(one.settled_l, units),
        "water": volume(one.kept_l, units) if one.kept_l > LEAST_L else "",
    }


def volume(litres: float, units: KeeperUnits) -> str:
    """So many litres in the keeper's units."""
    return units.say(Measure(litres / LITRES, "m3"))


def _bags(litres: float, units: KeeperUnits) -> str:
    """A few bags of the size that leaves least over, or many of the largest."""
    count, size_l = bags(litres)
    told = {"n": count, "size": volume(size_l, units)}
    return ngettext("%(n)s bag of %(size)s", "%(n)s bags of %(size)s", count) % told


def _buckets(plan: HabitatPlan, litres: float) -> str:
    """Buckets of the keeper's own size, to the half; "" where that is not said."""
    if plan.ground.bucket_m3 is None:
        return ""
    halves = max(round(2 * litres / (LITRES * plan.ground.bucket_m3)), 1)
    return written(halves / 2)


def where_and_how_large(plan: HabitatPlan, thing: Thing, units: KeeperUnits) -> str:
    """ "26 cm from the left · 22 × 18 × 4 cm" """
    place = _("%(place)s from the left") % {"place": units.say(Measure(thing.x_m, "m"))}
    sides = (
        [thing.length_m, thing.height_m]
        if thing.of.round or thing.of.along
        else [thing.length_m, depth_of(plan, thing), thing.height_m]
    )
    told = [units.number(side, "m") for side in sides]
    return f"{place} · {' × '.join(number for number, _symbol in told)} {told[0][1]}"


def what_it_is_made_of(layer: Layer, units: KeeperUnits) -> str:
    """ "3 sand, 1 sandy loam · 4 cm · damp" """
    parts = [f"{written(part.parts)} {CHOICES['mix'][part.material]}" for part in layer.parts if part.parts]
    made = str(CHOICES["mix"][layer.main]) if len(parts) == 1 else ", ".join(parts)
    return " · ".join([made, units.say(Measure(layer.depth_m, "m")), *([_("damp")] if layer.damp else [])])


def furnished(plan: HabitatPlan, profile: Profile, today: date) -> Furnished:
    """The plan with everything placed that the species wants and that fits."""
    *_steps, last = furnish(plan, profile, today)
    assert isinstance(last, Furnished)
    return last


def left_out(found: Furnished, units: KeeperUnits) -> str:
    """What found no place, and the smallest enclosure that would hold it; "" where all of it did."""
    if not found.left_out:
        return ""
    names = ", ".join(str(CHOICES["thing"][kind]) for kind in found.left_out)
    said = _("It does not all fit: there is no place for the %(things)s.") % {"things": names}
    if found.sides_m is None:
        return said
    long, wide = (units.say(Measure(side, "m")) for side in found.sides_m)
    return said + " " + _("A floor of %(long)s by %(wide)s would hold all of it.") % {"long": long, "wide": wide}


def recipe_choices() -> list[tuple[str, Any]]:
    """The mixes of the trade for a whole floor, by key."""
    return [(key, CHOICES["recipe"][key]) for key, recipe in recipes().items() if recipe.whole]


def thing_choices(plan: HabitatPlan) -> list[tuple[str, Any]]:
    """What can be added, by key; nothing once there is no room in the list."""
    return [] if len(plan.things) >= MOST_THINGS else [(key, CHOICES["thing"][key]) for key in kinds()]
