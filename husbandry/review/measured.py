"""What was measured counts, whatever the model says."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Final

from husbandry.assessment import Finding, Measure, Parameter, Quantity, Remedy, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts
from husbandry.review.judged import OFF, SEVERITY, below

STEPS: Final = {
    "basking_surface": "heat",
    "warm_air": "heat",
    "cool_air": "heat",
    "water_temperature": "heat",
    "warm_humidity": "moisture",
    "cool_humidity": "moisture",
    "humid_hide": "moisture",
    "uv_back": "light",
}
RANK: Final = (Verdict.NEAR, Verdict.OUTSIDE, Verdict.DANGEROUS)


def verdict_of(item: Quantity) -> Verdict:
    """How the readings of a quantity stand against its band."""
    return Verdict.NOT_APPLICABLE if item.read is None or item.band is None else item.band.judge(item.read.value)


def too_low(item: Quantity) -> bool:
    """Tell whether the readings lie under the band."""
    return item.read is not None and below(replace(item, value=item.read.value))


def by_readings(quantities: tuple[Quantity, ...]) -> tuple[Quantity, ...]:
    """The numbers as rules may judge them: where readings are inside, or off to the other side, the model accuses nobody."""

    def contradicted(item: Quantity) -> bool:
        if item.read is None or item.verdict not in OFF:
            return False
        return verdict_of(item) not in OFF or too_low(item) is not below(item)

    return tuple(replace(item, verdict=Verdict.INSIDE) if contradicted(item) else item for item in quantities)


def measured(facts: Facts) -> Iterator[Finding]:
    """A place that was measured outside its band, where the model does not say as much itself."""
    for item in facts.quantities:
        verdict = verdict_of(item)
        if item.read is None or item.band is None or verdict not in OFF or item.key not in STEPS:
            continue
        if item.verdict in OFF and RANK.index(item.verdict) >= RANK.index(verdict):
            continue
        low = too_low(item)
        edge = item.band.low if low else item.band.high
        told: dict[str, Parameter] = {
            "quantity": item.key,
            "value": Measure(item.read.value, item.unit),
            "limit": Measure(edge or 0.0, item.unit),
            "model": Measure(item.value or 0.0, item.unit),
            "day": item.read.day,
        }
        severity, step, way = SEVERITY[verdict], STEPS[item.key], Remedy(RemedyCode.MEASURED_LEARN)
        if item.key == "uv_back":
            yield Finding(FindingCode.MEASURED_UV_LOW if low else FindingCode.MEASURED_UV_HIGH, severity, step, told, way, item.id)
            continue
        told |= {"season": item.season, "phase": item.phase}
        yield Finding(FindingCode.MEASURED_LOW if low else FindingCode.MEASURED_HIGH, severity, step, told, way, item.id)
