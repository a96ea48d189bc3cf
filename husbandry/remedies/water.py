"""Water that is too cold or too warm: the weakest heater that holds it, a fan over it, or the weakest chiller."""

from dataclasses import dataclass, replace
from typing import Any, Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Quantity, Remedy
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.states import Climate
from husbandry.climate.steady import predict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.heating import MOST_HEATERS
from husbandry.remedies.situation import Situation
from husbandry.review.judged import OFF, below

HEATERS_W: Final = (25.0, 50.0, 100.0, 150.0, 200.0, 300.0, 500.0)  # the sizes water heaters come in (trade)
CHILLERS_W: Final = (25.0, 50.0, 100.0, 200.0)
INSIDE_K: Final = 0.5  # how far inside its band the water is held: a thermostat swings
SET_C: Final = (5.0, 65.0)
ALL_DAY: Final = {"on": "00:00", "off": "00:00"}


@dataclass(frozen=True)
class Cure:
    """What would bring the water into its band: "heater", "chiller", "fan" or "set"; its edit's path, value, watts, set point."""

    kind: str
    path: str
    value: Any
    watts: float = 0.0
    set_c: float = 0.0


def cure(plan: HabitatPlan, case: EnclosureCase, climate: Climate, quantities: tuple[Quantity, ...], *, cold: bool) -> Cure | None:
    """Return what brings water that is too cold (or too warm) into its band in both seasons; None where nothing does."""
    off = [item for item in quantities if item.key == "water_temperature" and item.verdict in OFF and below(item) is cold]
    pool, band = plan.pool, off[0].band if off else None
    if band is None or pool is None:
        return None
    edge = band.low if cold else band.high
    if edge is None:
        return None
    width = (edge + 4.0 if band.high is None else band.high) - (edge - 4.0 if band.low is None else band.low)
    inside = min(INSIDE_K, width / 4)
    set_c = round(min(max(edge + inside if cold else edge - inside, SET_C[0]), SET_C[1]), 1)
    seasons = sorted({item.season for item in off})

    def holds(trial: EnclosureCase) -> bool:
        for season in seasons:
            reached = [state["water"] for state in predict(trial, season, climate).values()]
            if min(reached) < edge if cold else max(reached) > edge:
                return False
        return True

    if not cold and not pool.fan and case.water is not None and holds(replace(case, water=replace(case.water, fan=True))):
        return Cure("fan", "pool.fan", value=True)
    kind = "water-heater" if cold else "water-chiller"
    there = next((index for index, heater in enumerate(plan.heaters) if heater.kind == kind), None)
    if there is not None:
        held = replace(case.heaters[there], set_c=set_c, night_set_c=None, on_hour=0.0, off_hour=0.0)
        if held.control != "none" and holds(_with(case, held, there)):
            value = plan.heaters[there].model_dump(mode="json") | ALL_DAY
            value["thermostat"] = value["thermostat"] | {"set_c": set_c, "night_set_c": None}
            return Cure("set", f"heaters.{there}", value, held.watts, set_c)
    elif len(plan.heaters) >= MOST_HEATERS:
        return None
    place = len(plan.heaters) if there is None else there
    for watts in HEATERS_W if cold else CHILLERS_W:
        added = HeaterCase(kind, watts, pool.x_m, 0.05, 60.0, 0.0, 0.0, "on-off", set_c, probe="water")
        if holds(_with(case, added, there)):
            value = {"kind": kind, "watts": watts, "x_m": pool.x_m, "height_m": 0.05, "guarded": True, **ALL_DAY}
            value["thermostat"] = {"kind": "on-off", "set_c": set_c, "probe": "water"}
            return Cure("heater" if cold else "chiller", f"heaters.{place}", value, watts, set_c)
    return None


def _with(case: EnclosureCase, heater: HeaterCase, instead_of: int | None) -> EnclosureCase:
    """The case with one more heater, or with another one in the place of one of its own."""
    if instead_of is None:
        return replace(case, heaters=(heater, *case.heaters))
    return replace(case, heaters=(*case.heaters[:instead_of], heater, *case.heaters[instead_of + 1 :]))


def temperature(at: Situation, finding: Finding) -> Remedy | None:
    """For water too cold or too warm: another heater or chiller, another set point, or a fan over it."""
    cold = finding.code == FindingCode.WATER_COLD
    found = None if at.quick else cure(at.plan, at.case, at.climate, at.quantities, cold=cold)
    if found is None:
        return Remedy(RemedyCode.WATER_HEAT if cold else RemedyCode.WATER_COOL)
    change = (Change(found.path, found.value),)
    if found.kind == "fan":
        return Remedy(RemedyCode.WATER_FAN, {}, change)
    told: dict[str, Parameter] = {"watts": Measure(found.watts, "W"), "set": Measure(found.set_c, "degC")}
    names = {"set": RemedyCode.WATER_SET, "heater": RemedyCode.WATER_ADD_HEATER, "chiller": RemedyCode.WATER_ADD_CHILLER}
    return Remedy(names[found.kind], told, change)
