"""The bill of materials: what a plan and its build take, each thing once, by a key that the edge puts into words."""

from collections import Counter
from dataclasses import dataclass
from typing import Final, get_args

from husbandry.build.settings import BuildSettings
from husbandry.build.work import Amount, work
from husbandry.plan.equipment import LightBarKind
from husbandry.plan.geometry import depth_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.wiring.consumers import consumers

MOSS_SHARE: Final = 0.4  # of a humid hide's room that moss fills (practice)
FREE: Final = ("water", "treated-water")  # out of the tap
AISLES: Final = (
    (
        "enclosure",
        ("enclosure-", "insulation-board", "panel-", "vent-mesh", "grommet", "fixing", "guard", "barrier-sheet", "footing"),
    ),
    ("electrical", ("thermostat-", "timer", "holder", "probe")),
    ("paint", ("sealer", "silicone-tube", "foam-can", "plaster", "paint", "disinfectant")),
    ("ground", ("ground-", "leaf-litter", "coir", "moss")),
    ("living", ("plant-", "isopod", "springtail-culture")),
    ("furniture", ("thing-",)),
    ("water", ("nozzle", "hose", "filter", "mister", "fogger", "fan")),
)
LIGHT_BARS: Final = get_args(LightBarKind)
LIGHTING: Final = "lighting"  # heaters and lamps by their kinds: whatever no aisle names


@dataclass(frozen=True)
class BillLine:
    """So much of one thing: its unit is "L", "ml", "kg", "m2", "m" or "" for pieces; `aisle` is where a shop keeps it."""

    what: str
    amount: float
    unit: str
    aisle: str


def aisle_of(what: str) -> str:
    """Where a shop keeps something."""
    if what in LIGHT_BARS:  # a "plant-led" is no plant
        return LIGHTING
    return next((aisle for aisle, names in AISLES if any(what == name or what.startswith(name) for name in names)), LIGHTING)


def bill(plan: HabitatPlan, settings: BuildSettings) -> tuple[BillLine, ...]:
    """Return everything a plan and its build take.

    Parameters
    ----------
    plan, settings
        What is built, and how.

    Returns
    -------
    BillLine, by aisle; each thing once.

    References
    ----------
    The amounts are the build's own (`husbandry.build.work`).
    """
    sums: dict[tuple[str, str], float] = {}
    for amount in (*_fitted(plan), *(amount for step in work(plan, settings) for amount in step.amounts)):
        if amount.what not in FREE and amount.amount > 0:
            key = amount.what, amount.unit
            sums[key] = sums.get(key, 0.0) + amount.amount
    order = [aisle for aisle, _names in AISLES] + [LIGHTING]
    lines = [BillLine(what, round(total, 3), unit, aisle_of(what)) for (what, unit), total in sums.items()]
    return tuple(sorted(lines, key=lambda line: (order.index(line.aisle), line.what)))


def enclosure_of(plan: HabitatPlan) -> str:
    """The key of an enclosure: its kind and its inner sides in cm, which are what it is sold by."""
    box = plan.enclosure
    sides = "x".join(f"{100 * side:.0f}" for side in (box.length_m, box.width_m, box.height_m))
    return f"enclosure-{box.kind}-{sides}"


def _outside_m2(plan: HabitatPlan) -> float:
    """The walls that foam board is put on: back, both ends and the floor."""
    box = plan.enclosure
    return box.length_m * box.height_m + 2 * box.width_m * box.height_m + box.length_m * box.width_m


def _fitted(plan: HabitatPlan) -> list[Amount]:
    """What no step of the build names: the enclosure itself, thermostats, timers, pumps."""
    there = consumers(plan)
    held = Counter(f"thermostat-{one.control}" for one in there if one.control)
    timers = sum(bool(one.starts) and not one.control for one in there if one.key != "mister")
    pumps = [one.kind for one in there if one.kind in {"filter", "fan", "mister", "fogger"}]
    damp = [thing for thing in plan.things if thing.kind == "humid-hide"]
    moss_l = sum(1000 * MOSS_SHARE * thing.length_m * depth_of(plan, thing) * thing.height_m for thing in damp)
    return [
        *([Amount("moss", round(moss_l, 1), "L")] if moss_l > 0 else []),
        Amount(enclosure_of(plan), 1, ""),
        *([Amount("insulation-board", round(_outside_m2(plan), 2), "m2")] if plan.enclosure.insulation_m > 0 else []),
        *(Amount(kind, count, "") for kind, count in held.items()),
        *([Amount("timer", timers, "")] if timers else []),
        *(Amount(kind, 1, "") for kind in pumps),
    ]
