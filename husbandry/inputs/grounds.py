"""The ground of a plan as heaps: each area's layers with slopes, less what stands in them."""

from dataclasses import dataclass
from typing import Final

from husbandry.animal.needs import ON_THE_FLOOR
from husbandry.furnishing.ground import Heap, heap, recipe_of, settle_days, together
from husbandry.furnishing.mixes import ground_stuff
from husbandry.furnishing.things import mass_kg
from husbandry.plan.geometry import depth_of, foot_m, surface_m, y_of
from husbandry.plan.grounds import GroundArea, Layer
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing

LITRES: Final = 1000.0
WATER_KG_L: Final = 1.0
HEAVY_KG: Final = 1.0
LOOSE_FROM_M: Final = 0.03


@dataclass(frozen=True)
class Bed:
    """One area's ground, the whole floor's where `area` is None: its layers from the floor up as `heaps` over `floor_m2`.

    `recipe` is the key of the mix it is made by, or "".
    """

    area: GroundArea | None
    floor_m2: float
    heaps: tuple[Heap, ...]
    recipe: str
    settle_days: int


@dataclass(frozen=True)
class GroundBill:
    """All ground of an enclosure: its beds and their sum, and what the things and the water in it weigh (kg).

    `kg_m2` is what all of it, without the enclosure itself, puts on a square metre of the stand.
    """

    beds: tuple[Bed, ...]
    whole: Heap
    things_kg: float
    water_kg: float
    kg_m2: float

    @property
    def kg(self) -> float:
        """Ground as it is kept, things and water."""
        return self.whole.kg + self.things_kg + self.water_kg


def ground_bill(plan: HabitatPlan) -> GroundBill:
    """Return what the ground of a plan takes and weighs.

    Parameters
    ----------
    plan
        Its areas do not overlap (`check_places`).

    Returns
    -------
    GroundBill, in L, kg and kg/m².

    References
    ----------
    Volumes by arithmetic: a slope adds on one side what it takes on the other. What stands in the ground takes its outer box.
    """
    box = plan.enclosure
    wet_m = 0.0 if plan.pool is None else min(plan.pool.length_m, box.length_m)
    taken_m2 = sum(area.length_m * area.width_m for area in plan.ground.areas)
    bare_m2 = max(box.length_m * box.width_m - wet_m * box.width_m - taken_m2, 0.0)
    beds = [_bed(plan, None, plan.ground.layers, bare_m2)]
    beds += [_bed(plan, area, area.layers, area.length_m * area.width_m) for area in plan.ground.areas]
    whole = together(one for bed in beds for one in bed.heaps)
    things_kg = sum(thing_kg(plan, thing) for thing in plan.things)
    water_kg = 0.0 if plan.pool is None else WATER_KG_L * LITRES * wet_m * box.width_m * plan.pool.depth_m
    load = (whole.kg + things_kg + water_kg) / (box.length_m * box.width_m)
    return GroundBill(tuple(beds), whole, things_kg, water_kg, load)


def thing_kg(plan: HabitatPlan, thing: Thing) -> float:
    """What a thing weighs with the water in it, kg."""
    size_m = thing.length_m, depth_of(plan, thing), thing.height_m
    water_l = 0.0 if thing.water_m is None else LITRES * 0.7 * thing.length_m * depth_of(plan, thing) * thing.water_m
    return mass_kg(thing.of, thing.made_of, size_m) + WATER_KG_L * water_l


def sinks(plan: HabitatPlan, habit: str, thing: Thing) -> bool:
    """Tell whether a thing needs a footing: heavy, on loose ground that an animal of this habit digs away from under it."""
    if habit not in ON_THE_FLOOR or thing.stands != "ground" or thing.footing or thing.lets_under:
        return False
    return thing_kg(plan, thing) >= HEAVY_KG and _loose_m(plan, thing) >= LOOSE_FROM_M


def _loose_m(plan: HabitatPlan, thing: Thing) -> float:
    """How deep the loose ground is that a thing stands on."""
    layers = plan.ground.layers_at(thing.x_m, y_of(plan, thing))
    return sum(layer.depth_m for layer in layers if ground_stuff()[layer.main].loose)


def _bed(plan: HabitatPlan, area: GroundArea | None, layers: tuple[Layer, ...], floor_m2: float) -> Bed:
    heaps, low_m = [], 0.0
    for layer in layers:
        high_m = low_m + layer.depth_m
        held_m3 = sum(_held_m3(plan, thing, area, low_m, high_m) for thing in plan.things)
        settled_l = LITRES * max(floor_m2 * layer.depth_m - held_m3, 0.0)
        heaps.append(heap(settled_l, layer.shares, pressed=layer.pressed, damp=layer.damp))
        low_m = high_m
    recipe = recipe_of((layer.depth_m, layer.shares) for layer in layers)
    return Bed(area, floor_m2, tuple(heaps), recipe, settle_days(recipe, low_m, damp=any(layer.damp for layer in layers)))


def _held_m3(plan: HabitatPlan, thing: Thing, area: GroundArea | None, low_m: float, high_m: float) -> float:
    """What of a layer a thing takes up that stands in the ground, m³: its outer box between the layer's floor and top."""
    if thing.stands != "floor":
        return 0.0
    x_m, y_m = thing.x_m, y_of(plan, thing)
    if plan.ground.area_at(x_m, y_m) is not area:
        return 0.0
    foot, top = foot_m(plan, thing), min(foot_m(plan, thing) + thing.height_m, surface_m(plan, x_m, y_m))
    return max(min(high_m, top) - max(low_m, foot), 0.0) * thing.length_m * depth_of(plan, thing)
