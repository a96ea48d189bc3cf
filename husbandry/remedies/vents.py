"""More or less air through the walls: a pair of vents cut, or those there are made wider or smaller."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Measure, Remedy
from husbandry.codes import RemedyCode
from husbandry.plan.habitat import HabitatPlan
from husbandry.wiring.cables import DRILLED

SIZES_M2: Final = (0.001, 0.002, 0.005, 0.01, 0.02)  # the free area of each, from a disc to a long grille (trade)
WIDER: Final = (1.5, 2.0, 3.0)
SMALLER: Final = (0.67, 0.5, 0.33)
OVER_GROUND_M: Final = 0.05  # nothing that is dug or poured reaches it
UNDER_LID_M: Final = 0.05
APART_M: Final = 0.1  # one above the other: else no air is drawn


def cut(plan: HabitatPlan) -> Iterator[Remedy]:
    """A low and a high vent of one size, the smallest first; none in glass, which is not cut, and none where there are some."""
    box = plan.enclosure
    water_m = 0.0 if plan.pool is None else plan.pool.depth_m
    low_m = round(max(plan.ground.depth_m, water_m) + OVER_GROUND_M, 3)
    high_m = round(box.height_m - UNDER_LID_M, 3)
    if box.kind not in DRILLED or box.vents or high_m - low_m < APART_M:
        return
    for area_m2 in SIZES_M2:
        vents = [{"height_m": height_m, "area_m2": area_m2} for height_m in (low_m, high_m)]
        told = {"area": Measure(1e4 * area_m2, "cm2"), "low": Measure(low_m, "m"), "high": Measure(high_m, "m")}
        yield Remedy(RemedyCode.MOISTURE_CUT_VENTS, told, (Change("enclosure.vents", vents),))


def wider(plan: HabitatPlan) -> Iterator[Remedy]:
    """Each vent so many times as large."""
    yield from _scaled(plan, RemedyCode.MOISTURE_WIDER_VENTS, WIDER)


def smaller(plan: HabitatPlan) -> Iterator[Remedy]:
    """A part of each vent closed."""
    yield from _scaled(plan, RemedyCode.MOISTURE_SMALLER_VENTS, SMALLER)


def _scaled(plan: HabitatPlan, code: RemedyCode, factors: tuple[float, ...]) -> Iterator[Remedy]:
    vents = plan.enclosure.vents
    for factor in factors if vents else ():
        areas = [round(vent.area_m2 * factor, 4) for vent in vents]
        changes = tuple(Change(f"enclosure.vents.{index}.area_m2", max(area_m2, 0.0001)) for index, area_m2 in enumerate(areas))
        yield Remedy(code, {"share": 100 * factor}, changes)
