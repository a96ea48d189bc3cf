"""Which steps a plan has, with what each takes: only where the plan has the thing."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil
from typing import Any, Final

from husbandry.build.kinds import ANIMAL_IN, TEST_RUN, StepKind, steps
from husbandry.build.settings import BuildSettings
from husbandry.climate.heaters import HEATERS
from husbandry.furnishing.crew import crew
from husbandry.inputs.grounds import GroundBill, ground_bill
from husbandry.plan.geometry import depth_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.wiring.cables import DRILLED
from husbandry.wiring.consumers import consumers

SEALED: Final = ("plywood",)
SEAL_COATS: Final = 2
SEALER_L_M2: Final = 0.10  # a coat (trade: ten square metres to the litre)
FOAM_L_A_CAN: Final = 25.0  # that a can of 750 ml makes, as it is used (trade: 30 to 45 on the label)
PLASTER_KG_M2: Final = 1.5  # a coat of powder, 1 part to 2 of water (estimate)
PAINT_L_M2: Final = 0.15
SILICONE_M_A_TUBE: Final = 12.0  # of a bead of 5 mm out of a cartridge of 310 ml
SILICONE_TUBES_M2: Final = 4.0  # to bed coir in
COIR_L_M2: Final = 8.0
CARVED_SHARE: Final = 1.3  # of the flat area, once it is carved (estimate)
DISINFECTANT_L_M2: Final = 0.3
DAMP_PLANTING: Final = ("many", "dense")
FRAMED: Final = ("over", "air")  # where a heater hangs that takes a holder


@dataclass(frozen=True)
class Amount:
    """So much of something, by a key that the edge puts into words; its unit is "L", "ml", "kg", "m2", "m", or "" for pieces."""

    what: str
    amount: float
    unit: str


@dataclass(frozen=True)
class Step:
    """One step: its `key` (a kind, with a number where there are several), its kind, hand work in minutes, and what runs then.

    `of` tells which one of several it is, by keys. `rests_on` is the part of the plan it hangs on: with the same in two plans
    nothing of it has to be done again.
    """

    key: str
    kind: str
    minutes: float
    wait: str = ""
    wait_h: float = 0.0
    amounts: tuple[Amount, ...] = ()
    of: tuple[str, ...] = ()
    own: bool = False
    rests_on: str = ""

    @property
    def about(self) -> StepKind | None:
        """What is known of its kind; None for a step of the keeper's own."""
        return steps().get(self.kind)

    @property
    def hours(self) -> float:
        """Hand work and wait together, in h."""
        return self.minutes / 60 + self.wait_h


def work(plan: HabitatPlan, settings: BuildSettings) -> tuple[Step, ...]:
    """Return the steps of a build, in the order of the table; which come before which is said by `graph`.

    Parameters
    ----------
    plan, settings
        What is built, and how.

    Returns
    -------
    Step; the last one is the animal's moving in.

    References
    ----------
    Common practice, no source.
    """
    found = [step for part in (_shell, _background, _fitted, _floor, _alive, _end) for step in part(plan, settings)]
    order = list(steps())
    return tuple(sorted(found, key=lambda step: order.index(step.kind)))


def _step(
    settings: BuildSettings,
    kind: str,
    count: float = 0.0,
    amounts: tuple[Amount, ...] = (),
    *,
    of: tuple[str, ...] = (),
    rests_on: Any = "",
) -> Step:
    about = steps()[kind]
    hours = settings.hours_of(about.wait) if about.wait else 0.0
    minutes = float(5 * ceil((about.minutes + about.each * count) / 5))
    return Step(kind, kind, minutes, about.wait, hours, amounts, of, False, repr(rests_on))


def _in_turn(step: Step, turn: int) -> Step:
    """The first, second, third time of a step that is done more than once."""
    return replace(step, key=f"{step.kind}-{turn}")


def walls_m2(plan: HabitatPlan) -> float:
    """The inner walls and floor, m²."""
    box = plan.enclosure
    return box.length_m * box.width_m + 2 * (box.length_m + box.width_m) * box.height_m


def _shell(plan: HabitatPlan, settings: BuildSettings) -> Iterator[Step]:
    box, area_m2 = plan.enclosure, walls_m2(plan)
    sides = box.kind, box.length_m, box.width_m, box.height_m
    if settings.second_hand:
        yield _step(settings, "inspect")
    yield _step(settings, "wash", area_m2)
    for turn in (1, 2) if settings.second_hand else ():
        litres = Amount("disinfectant", round(DISINFECTANT_L_M2 * area_m2, 1), "L")
        yield _in_turn(_step(settings, "disinfect", area_m2, (litres,)), turn)
    yield _step(settings, "stand", rests_on=sides)
    vents = box.vents if box.kind in DRILLED else ()
    if vents:
        vent = Amount("vent-mesh", round(sum(one.area_m2 for one in vents) * 1.3, 3), "m2")
        yield _step(settings, "openings", len(vents), (vent,), rests_on=(sides, vents))
    ways = cables(plan)
    if ways:
        yield _step(settings, "cable-ways", ways, (Amount("grommet", ways, ""),), rests_on=(sides, ways))
    if box.kind in SEALED:
        for turn in range(1, SEAL_COATS + 1):
            litres = Amount("sealer", round(SEALER_L_M2 * area_m2, 2), "L")
            yield _in_turn(_step(settings, "seal", area_m2, (litres,), rests_on=sides), turn)
        yield _step(settings, "sealed", rests_on=sides)


def cables(plan: HabitatPlan) -> int:
    """How many cables, probes' leads and hoses go in: one of each thing plugged in, one of each probe."""
    there = consumers(plan)
    return len(there) + sum(bool(one.control) for one in there) + len(plan.probes)


def panels(plan: HabitatPlan) -> list[Thing]:
    """The backgrounds of a plan."""
    return [thing for thing in plan.things if thing.of.shape == "panel"]


def finish_of(plan: HabitatPlan, settings: BuildSettings) -> str:
    """How a carved background is finished: as the keeper says, else coir where it is planted thickly, else plaster."""
    if settings.finish:
        return settings.finish
    return "coir" if plan.plants in DAMP_PLANTING or plan.mister is not None else "plaster"


def _background(plan: HabitatPlan, settings: BuildSettings) -> Iterator[Step]:
    there = panels(plan)
    if not there:
        return
    sides = tuple((one.kind, one.made_of, one.length_m, depth_of(plan, one), one.height_m) for one in there)
    flat_m2 = sum(one.length_m * one.height_m for one in there)
    beads_m = sum(3 * (one.length_m + one.height_m) for one in there)
    tubes = Amount("silicone-tube", ceil(beads_m / SILICONE_M_A_TUBE), "")
    carved = [one for one in there if one.made_of == "coated-foam"]
    boards = tuple(
        Amount(f"panel-{stuff}", round(sum(one.length_m * one.height_m for one in there if one.made_of == stuff), 2), "m2")
        for stuff in dict.fromkeys(one.made_of for one in there)
    )
    yield _step(settings, "background-cut", flat_m2, boards, rests_on=sides)
    glue = _step(settings, "background-glue", flat_m2, (tubes,), rests_on=sides)
    yield glue if carved else replace(glue, wait_h=settings.hours_of("silicone"))
    if not carved:
        return
    litres = 1000 * sum(one.length_m * one.height_m * depth_of(plan, one) for one in carved) / 2
    area_m2 = CARVED_SHARE * sum(one.length_m * one.height_m for one in carved)
    yield _step(settings, "background-foam", area_m2, (Amount("foam-can", ceil(litres / FOAM_L_A_CAN), ""),), rests_on=sides)
    yield _step(settings, "background-carve", area_m2, rests_on=sides)
    finish = finish_of(plan, settings)
    if finish == "coir":
        bed = Amount("silicone-tube", ceil(SILICONE_TUBES_M2 * area_m2), ""), Amount("coir", round(COIR_L_M2 * area_m2, 1), "L")
        yield _step(settings, "background-coir", area_m2, bed, rests_on=(sides, finish))
        return
    for turn in range(1, settings.coats + 1):
        powder = Amount("plaster", round(PLASTER_KG_M2 * area_m2, 1), "kg")
        yield _in_turn(_step(settings, "background-coat", area_m2, (powder,), rests_on=(sides, finish)), turn)
    paint = Amount("paint", round(PAINT_L_M2 * area_m2, 2), "L")
    yield _step(settings, "background-paint", area_m2, (paint,), rests_on=(sides, finish))


def _fitted(plan: HabitatPlan, settings: BuildSettings) -> Iterator[Step]:
    fixed = [thing for thing in plan.things if thing.stands in ("wall", "hanging") and thing.of.shape != "panel"]
    if fixed:
        yield _step(settings, "fixings", len(fixed), (Amount("fixing", 2 * len(fixed), ""),), rests_on=_places(fixed))
    under = [
        heater
        for heater in plan.heaters
        if HEATERS[heater.kind].place in ("under", "wall") and HEATERS[heater.kind].radiant_share == 0
    ]
    over = [heater for heater in plan.heaters if HEATERS[heater.kind].place in FRAMED]
    if under:
        kinds = tuple(one.kind for one in under)
        yield _step(settings, "mats", len(under), _counted(kinds), of=kinds, rests_on=[one.model_dump() for one in under])
    if over:
        kinds = tuple(one.kind for one in over)
        inside = [one for one in over if one.height_m < plan.enclosure.height_m and one.guarded]
        guards = (Amount("guard", len(inside), ""),) if inside else ()
        yield _step(
            settings,
            "heaters",
            len(over),
            (*_counted(kinds), Amount("holder", len(over), ""), *guards),
            of=kinds,
            rests_on=[one.model_dump() for one in over],
        )
    lights = [*plan.uv_lamps, *plan.light_bars]
    if lights:
        fitted: tuple[str, ...] = (*(one.kind for one in plan.uv_lamps), *(one.kind for one in plan.light_bars))
        yield _step(settings, "lights", len(lights), _counted(fitted), of=fitted, rests_on=[one.model_dump() for one in lights])
    if plan.mister is not None:
        hoses = Amount("nozzle", plan.mister.nozzles, ""), Amount("hose", round(2 * plan.enclosure.length_m + 2.0, 1), "m")
        yield _step(settings, "misting", plan.mister.nozzles, hoses, rests_on=plan.mister.model_dump())
    held = [heater for heater in plan.heaters if heater.thermostat.kind != "none"]
    probes = len(held) + len(plan.probes)
    if probes:
        where = [one.thermostat.model_dump() for one in held], [one.model_dump() for one in plan.probes]
        yield _step(settings, "probes", probes, (Amount("probe", probes, ""),), rests_on=where)
    if consumers(plan):
        parts_of = [one.model_dump() for group in (plan.heaters, plan.uv_lamps, plan.light_bars) for one in group]
        yield _step(settings, "electrics-check", rests_on=(parts_of, plan.mister, plan.pool))


def _counted(kinds: tuple[str, ...]) -> tuple[Amount, ...]:
    return tuple(Amount(kind, kinds.count(kind), "") for kind in dict.fromkeys(kinds))


def _floor(plan: HabitatPlan, settings: BuildSettings) -> Iterator[Step]:
    bill, floor_m2 = ground_bill(plan), plan.enclosure.length_m * plan.enclosure.width_m
    if plan.ground.barrier:
        edge_m2 = floor_m2 + 2 * (plan.enclosure.length_m + plan.enclosure.width_m) * plan.ground.depth_m
        yield _step(settings, "barrier", floor_m2, (Amount("barrier-sheet", round(1.1 * edge_m2, 2), "m2"),), rests_on=floor_m2)
    sunk = [thing for thing in plan.things if thing.footing or (thing.stands == "floor" and thing.of.shape != "panel")]
    if sunk:
        feet = sum(thing.footing for thing in sunk)
        amounts = (Amount("footing", feet, ""),) if feet else ()
        yield _step(settings, "footings", len(sunk), (*amounts, *_things(sunk)), rests_on=_places(sunk))
    if plan.pool is not None:
        litres = 1000 * min(plan.pool.length_m, plan.enclosure.length_m) * plan.enclosure.width_m * plan.pool.depth_m
        heaters = tuple(one.kind for one in plan.heaters if HEATERS[one.kind].place == "water")
        filled = (Amount("treated-water", round(litres, 1), "L"), *_counted(heaters))
        yield _step(settings, "water", litres / 10, filled, rests_on=plan.pool.model_dump())
    yield from _layers(plan, bill, settings)
    stood = [
        thing
        for thing in plan.things
        if thing not in sunk and thing.of.shape != "panel" and not thing.good_for("plant") and thing.stands == "ground"
    ]
    if stood:
        yield _step(settings, "furniture", len(stood), _things(stood), rests_on=_places(stood))


def _places(things: list[Thing]) -> list[tuple[Any, ...]]:
    return [(one.kind, one.x_m, one.y_m, one.up_m, one.length_m) for one in things]


def _things(things: list[Thing]) -> tuple[Amount, ...]:
    return _counted(tuple(f"thing-{thing.kind}" for thing in things))


def _layers(plan: HabitatPlan, bill: GroundBill, settings: BuildSettings) -> Iterator[Step]:
    """Each layer of each bed with what it is mixed of and the water it wants, from the floor up."""
    turn = 0
    for place, bed in enumerate(bill.beds):
        layers = plan.ground.layers if bed.area is None else bed.area.layers
        for layer, heap in zip(layers, bed.heaps, strict=True):
            if heap.settled_l <= 0:
                continue
            turn += 1
            mix = tuple(Amount(f"ground-{material}", round(litres, 1), "L") for material, litres in heap.parts_l.items())
            wet = (Amount("water", round(heap.kept_l, 1), "L"),) if heap.kept_l > 0 else ()
            of = (layer.main, str(place))
            rests = layer.model_dump(), place, round(bed.floor_m2, 4)
            yield _in_turn(_step(settings, "ground", heap.loose_l / 10, (*mix, *wet), of=of, rests_on=rests), turn)


def _alive(plan: HabitatPlan, settings: BuildSettings) -> Iterator[Step]:
    rooted = [thing for thing in plan.things if thing.good_for("plant") and thing.plant]
    planted = bool(rooted) or plan.plants != "none"
    plants = tuple(f"plant-{one.plant}" for one in rooted)
    if planted:
        rests = plants, plan.plants
        yield _step(settings, "plants", len(rooted) or 4, _counted(plants), rests_on=rests)
        yield _step(settings, "planted", rests_on=rests)
    if plan.ground.living:
        bill = ground_bill(plan)
        damp = any(layer.damp for bed in bill.beds for layer in (plan.ground.layers if bed.area is None else bed.area.layers))
        who = crew(bill.whole.settled_l, sum(bed.floor_m2 for bed in bill.beds), damp=damp)
        yield _step(settings, "litter", 0, (Amount("leaf-litter", round(who.litter_l, 1), "L"),), rests_on="litter")
        culture = (Amount("springtail-culture", round(who.springtails_ml), "ml"),) if who.springtails_ml else ()
        yield _step(settings, "crew", 0, (Amount("isopod", who.isopods, ""), *culture), rests_on="crew")
    if settings.mite_spray:
        yield _step(settings, "mite-spray")


def _end(plan: HabitatPlan, settings: BuildSettings) -> Iterator[Step]:
    bill = ground_bill(plan)
    made = [layer.model_dump() for layer in plan.ground.layers], [area.model_dump() for area in plan.ground.areas]
    days = max((bed.settle_days for bed in bill.beds), default=0)
    if days and bill.whole.settled_l > 0:
        hours = settings.waits.get("ground-settled", 24.0 * days)
        yield replace(_step(settings, "settle", rests_on=made), wait_h=hours)
    if glued(plan) or settings.second_hand or plan.enclosure.kind in SEALED:
        yield _step(settings, "airing", rests_on=plan.enclosure.kind)
    if plan.pool is not None and plan.pool.filtered:
        yield _step(settings, "cycle", rests_on=plan.pool.model_dump())
    if consumers(plan):
        warm = [one.model_dump() for group in (plan.heaters, plan.uv_lamps) for one in group]
        yield _step(settings, TEST_RUN, rests_on=(warm, made, plan.enclosure.model_dump(), plan.misting.model_dump()))
    if settings.quarantine_until is not None:
        yield _step(settings, "quarantine", rests_on=settings.quarantine_until)
    yield _step(settings, ANIMAL_IN)


def glued(plan: HabitatPlan) -> bool:
    """Tell whether anything in it is glued or foamed."""
    return bool(panels(plan))
