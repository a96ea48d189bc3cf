"""All the rules: each looks at the facts and yields what is wrong, with the change that mends it."""

from collections.abc import Callable, Iterator
from typing import Any, Final

from husbandry.assessment import Finding, Severity
from husbandry.review import company, diet, figures, home, keeping, lamps, warmth
from husbandry.review.facts import Facts

Rule = Callable[[Facts], Iterator[Finding]]

# In the order of urgency where severities are equal.
RULES: Final[tuple[Rule, ...]] = (
    warmth.ceiling,
    home.sun,
    warmth.holders,
    warmth.heater_placing,
    warmth.mats_and_backs,
    warmth.basking_surface,
    lamps.uv_strength,
    lamps.uv_lamp_state,
    diet.made_of,
    diet.minerals,
    diet.body,
    diet.rest,
    home.too_small,
    home.water,
    company.together,
    warmth.air_by_day,
    warmth.night,
    warmth.thermostats,
    home.humidity,
    home.humid_hide,
    home.hides_and_water,
    home.ground_depth,
    lamps.uv_spread,
    lamps.uv_hours,
    lamps.light_together,
    lamps.day_length,
    warmth.warm_patch,
    keeping.feeding,
    diet.enough,
    diet.plants,
    keeping.animal,
    figures.plausible,
)
ORDER: Final = {severity: place for place, severity in enumerate(Severity)}


def review(facts: Facts) -> tuple[Finding, ...]:
    """Run every rule; worst first, otherwise in the order of the rules. One thermostat remedy is offered once."""
    found = [finding for rule in RULES for finding in rule(facts)]
    offered: set[tuple[Any, ...]] = set()
    kept = []
    for finding in sorted(found, key=lambda item: ORDER[item.severity]):
        changes = tuple(change.path for change in finding.remedy.changes) if finding.remedy else ()
        if finding.code == "heat.no_thermostat" and changes in offered:
            continue
        offered.add(changes)
        kept.append(finding)
    return tuple(kept)
