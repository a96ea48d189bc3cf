"""Verdicts of quantities, as the rules speak of them."""

from collections.abc import Iterable
from typing import Final

from husbandry.assessment import Measure, Parameter, Quantity, Severity, Verdict

BAD: Final = (Verdict.OUTSIDE, Verdict.DANGEROUS)
OFF: Final = (Verdict.NEAR, Verdict.OUTSIDE, Verdict.DANGEROUS)
SEVERITY: Final = {Verdict.NEAR: Severity.ADVICE, Verdict.OUTSIDE: Severity.WRONG, Verdict.DANGEROUS: Severity.DANGER}


def named(item: Quantity) -> dict[str, Parameter]:
    """What goes into a finding's sentence about this quantity."""
    parameters: dict[str, Parameter] = {}
    if item.value is not None:
        parameters["value"] = Measure(item.value, item.unit)
    if item.band is not None:
        if item.band.low is not None:
            parameters["low"] = Measure(item.band.low, item.unit)
        if item.band.high is not None:
            parameters["high"] = Measure(item.band.high, item.unit)
    if item.season:
        parameters["season"] = item.season
    if item.phase:
        parameters["phase"] = item.phase
    return parameters


def below(item: Quantity) -> bool:
    """Tell whether the value lies under its band."""
    return item.band is not None and item.band.low is not None and item.value is not None and item.value < item.band.low


def by_season(items: Iterable[Quantity]) -> list[Quantity]:
    """The worst of each season, worst first: what is wrong in winter must not hide what is wrong in summer."""
    worst: dict[str, Quantity] = {}
    for item in items:
        if item.season not in worst or miss(item) > miss(worst[item.season]):
            worst[item.season] = item
    return sorted(worst.values(), key=lambda item: (-list(SEVERITY).index(item.verdict), -miss(item)))


def miss(item: Quantity) -> float:
    """How far outside its band the value lies, in its unit; below nought inside a band of two edges."""
    if item.band is None or item.value is None:
        return 0.0
    short = item.band.low - item.value if item.band.low is not None else 0.0
    over = item.value - item.band.high if item.band.high is not None else 0.0
    return max(short, over)
