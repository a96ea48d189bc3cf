"""The second pass: what could mend each finding there is. Nothing is worked out for what was not found."""

from collections.abc import Callable
from dataclasses import replace
from typing import Final

from husbandry.assessment import Finding, Remedy
from husbandry.remedies import furnishing, misting, ultraviolet, warmth, water
from husbandry.remedies.situation import Situation

Proposer = Callable[[Situation, Finding], Remedy | None]

PROPOSERS: Final[dict[str, Proposer]] = {
    "heat.basking_cold": warmth.basking,
    "heat.basking_hot": warmth.basking,
    "heat.warm_air_cold": warmth.air_by_day,
    "heat.warm_air_hot": warmth.air_by_day,
    "heat.cool_air_cold": warmth.air_by_day,
    "heat.cool_air_hot": warmth.air_by_day,
    "heat.night_warm": warmth.night_warm,
    "heat.night_cold": warmth.night_cold,
    "heat.ceiling": warmth.ceiling,
    "water.cold": water.temperature,
    "water.warm": water.temperature,
    "water.none": furnishing.pool,
    "water.too_little": furnishing.deeper_pool,
    "moisture.dry": misting.wetter,
    "moisture.wet": misting.drier,
    "moisture.no_humid_hide": furnishing.humid_hide,
    "moisture.no_bowl": furnishing.bowl,
    "moisture.bowl_under_lamp": furnishing.clear,
    "space.hides": furnishing.hide,
    "space.overlap": furnishing.clear,
    "space.overlap_alike": furnishing.clear,
    "space.in_pool": furnishing.clear,
    "space.hide_under_lamp": furnishing.clear,
    "uv.missing": ultraviolet.missing,
    "uv.weak": ultraviolet.strength,
    "uv.strong": ultraviolet.strength,
    "uv.hours_few": ultraviolet.hours,
    "uv.hours_many": ultraviolet.hours,
    "uv.sessions_short": ultraviolet.hours,
}


def proposed(findings: tuple[Finding, ...], at: Situation) -> tuple[Finding, ...]:
    """The findings with what could mend them; those whose rule says so itself keep that."""
    return tuple(replace(item, remedy=PROPOSERS[item.code](at, item)) if item.code in PROPOSERS else item for item in findings)
