"""How long eggs take at a temperature: development goes by its rate, so that the rate is interpolated and not the days."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

HELD_TO_K: Final = 0.5  # how well an incubator holds its warmth where nobody has said
FIRST_CANDLING_DAYS: Final = 10.0  # veins are seen by then (common practice, no source)
SECOND_CANDLING_SHARE: Final = 0.5


@dataclass(frozen=True)
class Point:
    """Days that eggs of a species took at `temperature_c` (°C): the fewest and the most."""

    temperature_c: float
    days_low: float
    days_high: float


@dataclass(frozen=True)
class HatchWindow:
    """Days from laying to hatching, earliest, likeliest, latest; `at_edge` where the warmth may leave the known points."""

    earliest: float
    likely: float
    latest: float
    at_edge: bool

    @property
    def candling(self) -> tuple[float, float]:
        """The days after laying on which eggs are candled."""
        return min(FIRST_CANDLING_DAYS, self.earliest / 3), SECOND_CANDLING_SHARE * self.likely


def hatch_window(points: Sequence[Point], temperature_c: float, spread_k: float = HELD_TO_K) -> HatchWindow | None:
    """Return when eggs hatch that are kept at a mean temperature.

    Between two points the rate of development, 1/days, is taken as linear in the temperature: above a threshold the sum of
    degree-days is the same.

    Parameters
    ----------
    points
        At least two, at different temperatures, in any order.
    temperature_c
        Mean temperature of the eggs, °C.
    spread_k
        How far that mean may be off, one way, K.

    Returns
    -------
    The window; None outside the points, where nothing is known.

    Raises
    ------
    ValueError
        For fewer than two points or a negative spread.

    References
    ----------
    de Réaumur's degree-day rule; Georges, A., Beggs, K., Young, J. E. & Doody, J. S. (2005): Modelling development of reptile
    embryos under fluctuating temperature regimes. Physiological and Biochemical Zoology 78, 18–30 (linear between thresholds).
    """
    ordered = sorted(points, key=lambda point: point.temperature_c)
    if len({point.temperature_c for point in ordered}) < 2 or spread_k < 0:
        raise ValueError("a hatch window needs two temperatures and a spread from zero on")
    coolest, warmest = ordered[0].temperature_c, ordered[-1].temperature_c
    if not coolest <= temperature_c <= warmest:
        return None
    warm, cool = min(temperature_c + spread_k, warmest), max(temperature_c - spread_k, coolest)
    at_edge = temperature_c + spread_k > warmest or temperature_c - spread_k < coolest
    fewest = [(point.temperature_c, point.days_low) for point in ordered]
    most = [(point.temperature_c, point.days_high) for point in ordered]
    middle = [(point.temperature_c, 0.5 * (point.days_low + point.days_high)) for point in ordered]
    early, late = (min(_days(fewest, one) for one in (warm, cool)), max(_days(most, one) for one in (warm, cool)))
    return HatchWindow(early, _days(middle, temperature_c), late, at_edge)


def _days(points: list[tuple[float, float]], temperature_c: float) -> float:
    """The days at a temperature between the points, (°C, days) each, by the rate."""
    at = min(max(bisect_right([warmth for warmth, _days in points], temperature_c), 1), len(points) - 1)
    (low_c, low_days), (high_c, high_days) = points[at - 1], points[at]
    share = (temperature_c - low_c) / (high_c - low_c)
    return 1.0 / ((1.0 - share) / low_days + share / high_days)
