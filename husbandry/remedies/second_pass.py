"""The second pass: what could mend each finding there is. Nothing is worked out for what was not found."""

from collections.abc import Callable, Container
from dataclasses import replace
from typing import Final

from husbandry.assessment import Finding, Remedy
from husbandry.codes import FindingCode
from husbandry.remedies import daylight, furnishing, mats, misting, perches, ultraviolet, warmth, water
from husbandry.remedies.situation import Situation

Proposer = Callable[[Situation, Finding], Remedy | None]

PROPOSERS: Final[dict[FindingCode, Proposer]] = {
    FindingCode.HEAT_BASKING_COLD: warmth.basking,
    FindingCode.HEAT_BASKING_HOT: warmth.basking,
    FindingCode.HEAT_NO_MAT: mats.missing,
    FindingCode.HEAT_OVER_MAT_COLD: mats.over,
    FindingCode.HEAT_OVER_MAT_HOT: mats.over,
    FindingCode.HEAT_WARM_AIR_COLD: warmth.air_by_day,
    FindingCode.HEAT_WARM_AIR_HOT: warmth.air_by_day,
    FindingCode.HEAT_COOL_AIR_COLD: warmth.air_by_day,
    FindingCode.HEAT_COOL_AIR_HOT: warmth.air_by_day,
    FindingCode.HEAT_NIGHT_WARM: warmth.night_warm,
    FindingCode.HEAT_NIGHT_COLD: warmth.night_cold,
    FindingCode.HEAT_NIGHT_WARM_END_COLD: warmth.night_warm_end_cold,
    FindingCode.HEAT_NIGHT_COOL_END_WARM: warmth.night_warm,
    FindingCode.HEAT_CEILING: warmth.ceiling,
    FindingCode.WATER_COLD: water.temperature,
    FindingCode.WATER_WARM: water.temperature,
    FindingCode.WATER_NONE: furnishing.pool,
    FindingCode.WATER_TOO_LITTLE: furnishing.deeper_pool,
    FindingCode.MOISTURE_DRY: misting.wetter,
    FindingCode.MOISTURE_WET: misting.drier,
    FindingCode.MOISTURE_NO_HUMID_HIDE: furnishing.humid_hide,
    FindingCode.MOISTURE_NO_BOWL: furnishing.bowl,
    FindingCode.MOISTURE_BOWL_UNDER_LAMP: furnishing.clear,
    FindingCode.SPACE_HIDES: furnishing.hide,
    FindingCode.SPACE_NO_WARM_HIDE: furnishing.hide_by_place,
    FindingCode.SPACE_NO_COOL_HIDE: furnishing.hide_by_place,
    FindingCode.SPACE_SOFTENS: furnishing.of_stone,
    FindingCode.MOISTURE_AT_SOCKETS: furnishing.from_sockets,
    FindingCode.SPACE_PLACE_HOT: perches.too_strong,
    FindingCode.SPACE_PLACE_STRONG: perches.too_strong,
    FindingCode.SPACE_OUT_OF_REACH: perches.branch_to,
    FindingCode.MOISTURE_NO_DROPS: perches.mist_twice,
    FindingCode.SPACE_OVERLAP: furnishing.clear,
    FindingCode.SPACE_OVERLAP_ALIKE: furnishing.clear,
    FindingCode.SPACE_IN_POOL: furnishing.clear,
    FindingCode.SPACE_HIDE_UNDER_LAMP: furnishing.clear,
    FindingCode.LIGHT_HOURS: daylight.other_year,
    FindingCode.LIGHT_YEAR: daylight.other_year,
    FindingCode.UV_MISSING: ultraviolet.missing,
    FindingCode.UV_WEAK: ultraviolet.strength,
    FindingCode.UV_STRONG: ultraviolet.strength,
    FindingCode.UV_COVERS_LITTLE: ultraviolet.coverage,
    FindingCode.UV_COVERS_MUCH: ultraviolet.coverage,
    FindingCode.UV_HOURS_FEW: ultraviolet.hours,
    FindingCode.UV_HOURS_MANY: ultraviolet.hours,
    FindingCode.UV_SESSIONS_SHORT: ultraviolet.hours,
}


def proposed(findings: tuple[Finding, ...], at: Situation, only: Container[FindingCode] | None = None) -> tuple[Finding, ...]:
    """The findings, or `only` those of some codes, with what could mend them; those whose rule says so itself keep that."""
    asked = PROPOSERS if only is None else {code: proposer for code, proposer in PROPOSERS.items() if code in only}
    return tuple(replace(item, remedy=asked[item.code](at, item)) if item.code in asked else item for item in findings)
