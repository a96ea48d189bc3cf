"""The UV index below a lamp: a straight tube as a line source, a compact or combined lamp as a point.

Tube: `E = (I'/2d) [F(a2) − F(a1)]`, `F(a) = a + sin a cos a`, `a = atan((±L/2 − x)/d)`: the field of a diffuse line
source, at the middle the formula of Keitz (1971), "Light Calculations and Measurements", used to rate UV lamps; recalled.
One UV index is 0.025 W/m² erythemally weighted (WHO, Global Solar UV Index, 2002).
A level mesh of open share s passes `√s (1 − (1 − √s)/cos a)` of what comes at a slant a, in the plane of a row of wires.
Lamp strengths are estimates until a meter reading replaces them. Limits: no light from walls.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache, cached_property, lru_cache
from typing import Final

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

WATTS_PER_INDEX: Final = 0.025
JOULES_PER_SED: Final = 100.0
RATED_TUBE_M: Final = 0.55
RATED_DISTANCE_M: Final = 0.30
NO_REFLECTOR: Final = 0.6
AGED_SHARE: Final = 0.7
SEARCHED_M: Final = np.geomspace(0.03, 3.0, 120)
FINER_STEPS: Final = 41
STRENGTH_SIGMA: Final = 0.15  # one standard deviation of a lamp's strength about its class (estimate)
MODEL_SHARE: Final = 0.1  # how well the place under a tube is hit (estimate)


@dataclass(frozen=True)
class LampKind:
    """UV index at 0.30 m below the middle of a 0.55 m tube or a point, new, with reflector, no mesh.

    `rated_life_months` to 70 %; a point shines as cos^m with `half_angle_deg`.
    """

    index: float
    rated_life_months: float
    point: bool = False
    half_angle_deg: float = 50.0


LAMPS: Final = {
    "slim-6": LampKind(2.0, 12),
    "slim-10": LampKind(3.5, 12),
    "slim-12": LampKind(4.5, 12),
    "slim-14": LampKind(6.0, 12),
    "wide-5": LampKind(0.5, 6),
    "wide-10": LampKind(1.2, 6),
    "compact-5": LampKind(0.5, 6, point=True),
    "compact-10": LampKind(1.0, 6, point=True),
    "vapour-combined": LampKind(4.0, 12, point=True, half_angle_deg=25.0),
    "halide-combined": LampKind(4.5, 12, point=True, half_angle_deg=30.0),
}
# Watts of the combined lamps that these strengths are of; others of their kind in proportion (estimate).
RATED_WATTS: Final = {"vapour-combined": 100.0, "halide-combined": 70.0}


def ageing(kind: str, age_months: float) -> float:
    """Return the share of its first strength a lamp still gives: exponential, 70 % at rated life (trade).

    Parameters
    ----------
    kind
        A key of `UV_LAMPS`.
    age_months
        Months in use.

    Returns
    -------
    Share 0–1.

    References
    ----------
    Common practice, no source.
    """
    return float(AGED_SHARE ** (max(age_months, 0.0) / LAMPS[kind].rated_life_months))


def mesh_passes(open_share: float, cosine: ArrayLike) -> Floats:
    """Return the share of a ray that a level mesh lets through, at the `cosine` of its angle from straight down.

    Parameters
    ----------
    open_share
        The open share for a ray that falls straight, 0–1.
    cosine
        Of the ray's angle from straight down, any shape.

    Returns
    -------
    Share 0–1, of the same shape.

    References
    ----------
    Geometry of round wires in two directions (docs/models.md, Ultraviolet and light); checked by scipy.integrate.quad in the tests.
    """
    wire = 1 - math.sqrt(open_share)
    return np.asarray(np.maximum((1 - wire) * (1 - wire / np.asarray(cosine, float)), 0.0))


def line_shape(distance_m: ArrayLike, along_m: ArrayLike, tube_m: float, open_share: float = 1.0) -> Floats:
    """Return the irradiance of a line source on a receiver that faces it, through mesh or none.

    Parameters
    ----------
    distance_m
        Perpendicular distance in m, above zero.
    along_m
        The receiver's place along the tube, counted from its middle, m; the two broadcast.
    tube_m
        Luminous length in m.
    open_share
        Open share of a level mesh between them, 0 to 1; 1 for none.

    Returns
    -------
    Irradiance for unit strength per metre of tube, 1/m².

    References
    ----------
    Keitz 1971, Light Calculations and Measurements (docs/models.md [7]; recalled).
    """
    d, x = np.broadcast_arrays(np.asarray(distance_m, float), np.asarray(along_m, float))
    return part_shape(d, -tube_m / 2 - x, tube_m / 2 - x, open_share)


def part_shape(distance_m: Floats, from_m: ArrayLike, to_m: ArrayLike, open_share: float = 1.0) -> Floats:
    """Return the irradiance of a part of a line source on a receiver that faces it, as `line_shape` does for the whole.

    Parameters
    ----------
    distance_m
        Perpendicular distance in m, above zero.
    from_m, to_m
        Where the part begins and ends along the line, counted from the foot of the receiver's perpendicular, m; all broadcast.
    open_share
        Open share of a level mesh between them, 0 to 1; 1 for none.

    Returns
    -------
    Irradiance for unit strength per metre, 1/m².

    References
    ----------
    Keitz 1971, Light Calculations and Measurements (docs/models.md [7]; recalled).
    """
    # sin a cos a = t/(1 + t²) with t = tan a
    upper, lower = np.asarray(to_m, float) / distance_m, np.asarray(from_m, float) / distance_m
    wire = 1 - math.sqrt(open_share)
    if wire > 0:
        # Beyond this slant the wires hide one another.
        steepest = math.sqrt(max(1 / wire**2 - 1, 0.0))
        upper, lower = np.clip(upper, -steepest, steepest), np.clip(lower, -steepest, steepest)
    integral = (np.arctan(upper) + upper / (1 + upper * upper) - np.arctan(lower) - lower / (1 + lower * lower)) / 2
    if wire > 0:
        # The wires' shadow is a wire wide over the cosine: ∫ cos² a (1 − wire/cos a) da
        sines = upper / np.sqrt(1 + upper * upper) - lower / np.sqrt(1 + lower * lower)
        integral = (1 - wire) * (integral - wire * sines)
    return np.asarray(integral / distance_m)


def point_shape(distance_m: ArrayLike, along_m: ArrayLike, half_angle_deg: float = 50.0, open_share: float = 1.0) -> Floats:
    """Return the irradiance on a level surface below a point source of unit axial intensity, through mesh or none.

    Parameters
    ----------
    distance_m, along_m
        How far the surface lies below the source and beside its axis, m; the two broadcast.
    half_angle_deg
        Angle from the axis at which the intensity is half that on it: it falls as `cos^m`.
    open_share
        Open share of a level mesh between them, 0 to 1; 1 for none.

    Returns
    -------
    Irradiance for unit axial intensity, 1/m².

    References
    ----------
    Keitz 1971, Light Calculations and Measurements (docs/models.md [7]; recalled).
    """
    m = math.log(0.5) / math.log(math.cos(math.radians(half_angle_deg)))
    d, x = np.broadcast_arrays(np.asarray(distance_m, float), np.asarray(along_m, float))
    squared = d**2 + x**2
    shape = d ** (m + 1) / squared ** ((m + 3) / 2)
    return np.asarray(shape if open_share == 1.0 else shape * mesh_passes(open_share, d / np.sqrt(squared)))


def tube_shape(below_m: ArrayLike, along_m: ArrayLike, aside_m: ArrayLike, tube_m: float, open_share: float = 1.0) -> Floats:
    """Return the irradiance of a level line source on a level surface that may lie beside it, through mesh or none.

    Parameters
    ----------
    below_m, along_m, aside_m
        How far the surface lies below the line, along it from its middle, and beside it, m; they broadcast.
    tube_m
        Luminous length in m.
    open_share
        Open share of a level mesh between them, 0 to 1; 1 for none.

    Returns
    -------
    Irradiance for unit strength per metre of tube, 1/m²: that of `line_shape` at the slant distance, by the cosine of the slant.
    Of a mesh the wires along the line hide more at a slant.

    References
    ----------
    Keitz 1971, Light Calculations and Measurements (docs/models.md [7]; recalled).
    """
    slant, cosine = _slanted(below_m, aside_m)
    return line_shape(slant, along_m, tube_m, open_share) * cosine * _through_slant(open_share, cosine)


def _slanted(below_m: ArrayLike, aside_m: ArrayLike) -> tuple[Floats, Floats]:
    """The slant distance to a line that hangs beside, m, and the cosine of the slant."""
    below = np.asarray(below_m, float)
    slant = np.hypot(below, np.asarray(aside_m, float))
    return slant, below / slant


def _through_slant(open_share: float, cosine: Floats) -> Floats | float:
    """What a slant across the line leaves of what a mesh lets through straight down."""
    wire = 1 - math.sqrt(open_share)
    return np.maximum((1 - wire / cosine) / (1 - wire), 0.0) if 0 < wire < 1 else 1.0


@dataclass(frozen=True)
class Shade:
    """A roof between `left_m` and `right_m` at `height_m`: a hide's or a platform's, or of leaves, which let `passes` through.

    From `front_m` to `back_m`, counted from the plane through the basking place; without them as wide as the enclosure.
    """

    left_m: float
    right_m: float
    height_m: float
    front_m: float = -math.inf
    back_m: float = math.inf
    passes: float = 0.0


@dataclass(frozen=True)
class Lamp:
    """A UV lamp in place: `x_m`, `height_m` above the inner floor, `aside_m` behind the plane through the basking place.

    A tube hangs along the enclosure, or `across` it, from front to back.
    `passed` is the open share of mesh below it (1 without, 0 behind glass).
    `output` multiplies its class's strength: watts over the rated ones, or what the keeper's meter says.
    """

    kind: str
    tube_m: float
    x_m: float
    height_m: float
    reflector: bool = True
    age_months: float = 0.0
    passed: float = 1.0
    output: float = 1.0
    aside_m: float = 0.0
    across: bool = False

    @cached_property
    def strength(self) -> float:
        """Everything that multiplies the field's shape, in UV index × the shape's unit."""
        kind = LAMPS[self.kind]
        share = (1.0 if self.reflector or kind.point else NO_REFLECTOR) * ageing(self.kind, self.age_months)
        return kind.index / _rated(self.kind) * share * self.output

    def shape(self, below_m: ArrayLike, x_m: ArrayLike, aside_m: ArrayLike = 0.0) -> Floats:
        """The field of unit strength, behind its mesh, so far below, right of and behind its middle; arrays broadcast."""
        kind = LAMPS[self.kind]
        if kind.point:
            beside = np.hypot(np.asarray(x_m, float), np.asarray(aside_m, float))
            return point_shape(below_m, beside, kind.half_angle_deg, self.passed)
        along, beside = (aside_m, x_m) if self.across else (x_m, aside_m)
        return tube_shape(below_m, along, beside, self.tube_m, self.passed)

    def index_at(self, x_m: ArrayLike, height_m: ArrayLike, shades: tuple[Shade, ...] = (), aside_m: ArrayLike = 0.0) -> Floats:
        """UV index on a level surface at `x_m`, `height_m` and so far behind the basking place (arrays broadcast).

        Zero beside or above the lamp.
        """
        x, height, behind = np.asarray(x_m, float), np.asarray(height_m, float), np.asarray(aside_m, float)
        drop = self.height_m - height
        below = np.maximum(drop, 0.01)
        given = self.strength * self.shape(below, x - self.x_m, behind - self.aside_m)
        for shade in shades:
            if shade.height_m < self.height_m:
                given = given - (1 - shade.passes) * self._hidden(x, height, below, behind, shade)
        return np.asarray(np.where(drop > 0, np.maximum(given, 0.0), 0.0))

    def _hidden(self, x: Floats, height: Floats, below: Floats, behind: Floats, shade: Shade) -> Floats:
        """What one roof takes from the field: the part of the tube behind it, as seen from below it."""
        under = height < shade.height_m - 1e-6
        reach = np.where(under, shade.height_m - height, 1.0) / below  # of the way up to the lamp, where the roof is
        at_roof = behind + (self.aside_m - behind) * reach
        under = under & (shade.front_m <= at_roof) & (at_roof <= shade.back_m)
        # Where the roof's edges appear along the lamp, from the receiver's foot.
        left, right = (shade.left_m - x) / reach, (shade.right_m - x) / reach
        aside, lateral = self.x_m - x, behind - self.aside_m
        if LAMPS[self.kind].point or self.across:
            covered = under & (left < aside) & (aside < right)
            return np.asarray(np.where(covered, self.strength * self.shape(below, -aside, lateral), 0.0))
        begin, end = (np.clip(edge, aside - self.tube_m / 2, aside + self.tube_m / 2) for edge in (left, right))
        slant, cosine = _slanted(below, lateral)
        hidden = part_shape(slant, begin, end, self.passed) * cosine * _through_slant(self.passed, cosine)
        return np.asarray(np.where(under, self.strength * hidden, 0.0))


@cache
def _rated(kind: str) -> float:
    """The field of unit strength where a kind of lamp is rated: straight below its middle."""
    lamp = LAMPS[kind]
    point = point_shape(RATED_DISTANCE_M, 0.0, lamp.half_angle_deg)
    return float(point if lamp.point else line_shape(RATED_DISTANCE_M, 0.0, RATED_TUBE_M))


def index_at(
    lamps: tuple[Lamp, ...], x_m: ArrayLike, height_m: ArrayLike, shades: tuple[Shade, ...] = (), aside_m: ArrayLike = 0.0
) -> Floats:
    """Return the UV index of all lamps together.

    Parameters
    ----------
    lamps
        Tubes and points, each with its strength, place, mesh and age.
    x_m, height_m
        Places along the enclosure and above its inner floor, in m; they broadcast.
    shades
        Roofs, and what UV they let through.
    aside_m
        How far behind the plane through the basking place, in m; broadcasts too.

    Returns
    -------
    UV indices (1 is 0.025 W/m², erythemally weighted). Limits: no light from walls; roofs that overlap one another count
    twice.

    References
    ----------
    Keitz 1971, Light Calculations and Measurements (docs/models.md [7]; recalled).
    WHO 2002, Global Solar UV Index; ISO/CIE 17166 (docs/models.md [8, 9]; recalled).
    """
    x, height, behind = np.asarray(x_m, float), np.asarray(height_m, float), np.asarray(aside_m, float)
    total = np.zeros(np.broadcast_shapes(x.shape, height.shape, behind.shape))
    for lamp in lamps:
        total = total + lamp.index_at(x, height, shades, behind)
    return total


def dose_sed(index: float, hours: float) -> float:
    """Return the dose of a UV index that is held.

    Parameters
    ----------
    index
        UV index.
    hours
        For so long.

    Returns
    -------
    Standard erythemal doses of 100 J/m².

    References
    ----------
    WHO 2002, Global Solar UV Index; ISO/CIE 17166 (docs/models.md [8, 9]; recalled).
    """
    return index * WATTS_PER_INDEX * hours * 3600 / JOULES_PER_SED


def strength_read(ratios: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """Return how strong lamps are over their class by readings, and the share of the prior's spread that is left.

    Parameters
    ----------
    ratios
        What was read over what the class gives there, each with its standard deviation.

    Returns
    -------
    The posterior mean and the posterior over the prior standard deviation: a normal prior about one, normal readings, so that
    precisions add.

    References
    ----------
    Rasmussen and Williams 2006, Gaussian Processes for Machine Learning, chapter 2 (docs/models.md [6]; recalled).
    """
    weight = 1 / STRENGTH_SIGMA**2
    total, mean = weight, weight
    for ratio, sigma in ratios:
        precision = 1 / (sigma**2 + MODEL_SHARE**2)
        total, mean = total + precision, mean + precision * ratio
    return max(mean / total, 0.05), (1 / total) ** 0.5 / STRENGTH_SIGMA


@lru_cache(maxsize=64)
def distance_for(lamps: tuple[Lamp, ...], wanted: float, x_m: float = 0.0) -> float | None:
    """Return how far below the first of some lamps all together give a UV index.

    Parameters
    ----------
    lamps
        The lamps in place. The others keep their height over or under the first, and are left out where that puts them
        below the receiver.
    wanted
        UV index.
    x_m
        The receiver's place along the enclosure, m.

    Returns
    -------
    Distance in m; None where there is none. Beside a tube's end the index first rises with distance: the farthest counts.

    References
    ----------
    Keitz, Light Calculations and Measurements, 1971 (docs/models.md [7]; recalled).
    """
    first_m = lamps[0].height_m
    distances = SEARCHED_M
    for finer in (True, False):
        given = index_at(lamps, x_m, first_m - distances)
        reached = np.flatnonzero(given >= wanted)
        if reached.size == 0 or reached[-1] == distances.size - 1:
            return None
        near, far = reached[-1], reached[-1] + 1
        if finer:
            distances = np.linspace(distances[near], distances[far], FINER_STEPS)
    # Within a thousandth of the distance the field is a straight line.
    share = (given[near] - wanted) / (given[near] - given[far])
    return float(distances[near] + share * (distances[far] - distances[near]))


@lru_cache(maxsize=64)
def lit_share(lamps: tuple[Lamp, ...], length_m: float, height_m: float, least: float) -> float:
    """Return the share of the length (0–1) where the UV index at `height_m` is `least` or more.

    Parameters
    ----------
    lamps
        The lamps in place.
    length_m
        Inner length, m.
    height_m
        The receiver's height, m.
    least
        UV index.

    Returns
    -------
    Share 0–1.

    References
    ----------
    Keitz, Light Calculations and Measurements, 1971 (docs/models.md [7]; recalled).
    """
    x = (np.arange(200) + 0.5) * length_m / 200
    return float((index_at(lamps, x, height_m) >= least).mean())


def mesh_open_share(aperture_mm: float, wire_mm: float) -> float:
    """Return the open share of a woven mesh.

    Parameters
    ----------
    aperture_mm
        Clear width between two wires.
    wire_mm
        Thickness of a wire.

    Returns
    -------
    0 to 1, seen straight on.

    References
    ----------
    Geometry of two crossed rows of wires; no source.
    """
    return (aperture_mm / (aperture_mm + wire_mm)) ** 2
