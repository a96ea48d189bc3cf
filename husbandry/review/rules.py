"""All the rules: each looks at the facts and yields what is wrong, with the change that mends it."""

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any, Final

from husbandry.assessment import SEASONS, Finding, Parameter, Severity
from husbandry.codes import FindingCode
from husbandry.review import company, diet, figures, furniture, home, keeping, lamps, measured, planting, standing, warmth
from husbandry.review.facts import Facts

Rule = Callable[[Facts], Iterator[Finding]]

# In the order of urgency where severities are equal.
RULES: Final[tuple[Rule, ...]] = (
    standing.in_water,
    warmth.ceiling,
    home.sun,
    warmth.holders,
    warmth.heater_placing,
    standing.lid,
    standing.walls,
    standing.clear,
    warmth.mats_and_backs,
    warmth.over_mats,
    measured.measured,
    warmth.basking_surface,
    lamps.uv_strength,
    lamps.uv_lamp_state,
    diet.made_of,
    diet.minerals,
    diet.body,
    diet.rest,
    home.too_small,
    home.water,
    home.water_changes,
    home.filter_and_mister,
    standing.pool_level,
    standing.quarantine,
    standing.bowl,
    company.together,
    warmth.air_by_day,
    warmth.night,
    warmth.thermostats,
    home.humidity,
    home.humid_hide,
    home.hides_and_water,
    furniture.near_heat,
    furniture.gaps,
    furniture.other_places,
    furniture.droplets,
    standing.at_sockets,
    furniture.under_the_ground,
    furniture.hides_by_place,
    furniture.hides_that_fit,
    furniture.floor_to_walk_on,
    furniture.on_footings,
    furniture.perches,
    furniture.falls,
    furniture.within_reach,
    furniture.door,
    furniture.view_and_cover,
    planting.planted,
    home.ground_depth,
    home.living_ground,
    lamps.uv_spread,
    lamps.uv_hours,
    lamps.light_together,
    lamps.day_length,
    warmth.warm_patch,
    keeping.quarantine,
    keeping.laying,
    keeping.feeding,
    diet.enough,
    diet.amount,
    diet.plants,
    keeping.animal,
    figures.plausible,
)
ORDER: Final = {severity: index for index, severity in enumerate(Severity)}


def review(facts: Facts) -> tuple[Finding, ...]:
    """Run every rule; in the order of the rules."""
    return tuple(finding for rule in RULES for finding in rule(facts))


def told(findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """The findings as they are told: worst first, both seasons' together. One thermostat remedy is offered once."""
    found = _told_together(list(findings))
    offered: set[tuple[Any, ...]] = set()
    kept = []
    for finding in sorted(found, key=lambda item: ORDER[item.severity]):
        changes = tuple(change.path for change in finding.remedy.changes) if finding.remedy else ()
        if finding.code == FindingCode.HEAT_NO_THERMOSTAT and changes in offered:
            continue
        offered.add(changes)
        kept.append(finding)
    return tuple(kept)


def _told_together(found: list[Finding]) -> list[Finding]:
    """What is wrong in both seasons and mended by one change is one finding: the worse, with the other's value in `also`."""
    kept: list[Finding] = []
    for finding in found:
        twin = next((item for item in kept if item.code == finding.code and _twins(item, finding)), None)
        if twin is None:
            kept.append(finding)
            continue
        worse, other = (twin, finding) if ORDER[twin.severity] <= ORDER[finding.severity] else (finding, twin)
        also: dict[str, Parameter] = {"also": other.parameters["value"], "also_season": other.subject}
        if "phase" in other.parameters and other.parameters["phase"] != worse.parameters.get("phase"):
            also["also_phase"] = other.parameters["phase"]
        kept[kept.index(twin)] = replace(worse, parameters={**worse.parameters, **also}, subject="", also=other.severity)
    return kept


def _twins(one: Finding, other: Finding) -> bool:
    """Tell whether two findings are of the two seasons and would be mended alike."""
    if {one.subject, other.subject} != set(SEASONS) or "value" not in one.parameters or "value" not in other.parameters:
        return False
    first, second = one.remedy, other.remedy
    return (first and (first.code, first.changes)) == (second and (second.code, second.changes))
