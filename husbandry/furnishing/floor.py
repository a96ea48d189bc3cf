"""Footprints on a floor: whether they share floor, reach past a wall, how much is left to walk on, and where one more fits.

The floor is a rectangle; x from the left, y from the front, in m. What is round counts as a polygon of sixteen sides.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Final, TypeVar

import numpy as np
import scipy
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Metres = TypeVar("Metres", float, NDArray[np.float64])

KEPT: Final = 2048  # of what was asked last: while a lamp is dragged the furniture stands still
SIDES: Final = 16  # of the polygon that stands for something round
CELL_M: Final = 0.01
MOST_CELLS: Final = 240  # along a side
PLACES: Final = (61, 31)  # tried along and from front to back


@dataclass(frozen=True)
class Footprint:
    """A rectangle about its middle, turned against the clock; a circle of its length where it is `round`."""

    x_m: float
    y_m: float
    length_m: float
    width_m: float
    turn_deg: float = 0.0
    round: bool = False

    @cached_property
    def corners(self) -> Floats:
        """Its corners in order, (n, 2)."""
        if self.round:
            turn = 2 * math.pi * (np.arange(SIDES) + 0.5) / SIDES
            reach = self.length_m / 2 / math.cos(math.pi / SIDES)
            return np.column_stack([self.x_m + reach * np.cos(turn), self.y_m + reach * np.sin(turn)])
        half = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * [self.length_m / 2, self.width_m / 2]
        turn_rad = math.radians(self.turn_deg)
        along, across = math.cos(turn_rad), math.sin(turn_rad)
        return half @ np.array([[along, across], [-across, along]]) + [self.x_m, self.y_m]

    @cached_property
    def half_sides(self) -> tuple[float, float]:
        """How far it reaches from its middle along the length and from front to back."""
        if self.round:
            return self.length_m / 2, self.length_m / 2
        turn = math.radians(self.turn_deg)
        along, across = abs(math.cos(turn)), abs(math.sin(turn))
        return (self.length_m * along + self.width_m * across) / 2, (self.length_m * across + self.width_m * along) / 2

    @property
    def area_m2(self) -> float:
        """What floor it takes."""
        return math.pi / 4 * self.length_m**2 if self.round else self.length_m * self.width_m


@lru_cache(maxsize=KEPT)
def shared_m(one: Footprint, other: Footprint) -> float:
    """Return how far two footprints are in one another: the least one of them would have to move; nought where they are apart.

    Parameters
    ----------
    one, other
        Footprints.

    Returns
    -------
    m.

    References
    ----------
    Separating axes of convex polygons (textbook geometry).
    """
    apart = math.hypot(one.x_m - other.x_m, one.y_m - other.y_m)
    if one.round and other.round:
        return max((one.length_m + other.length_m) / 2 - apart, 0.0)
    if apart > (math.hypot(one.length_m, one.width_m) + math.hypot(other.length_m, other.width_m)) / 2:
        return 0.0
    least = math.inf
    for shape in (one, other):
        edges = np.roll(shape.corners, -1, axis=0) - shape.corners
        normals = np.column_stack([edges[:, 1], -edges[:, 0]])
        lengths = np.hypot(normals[:, 0], normals[:, 1])
        normals = normals[lengths > 0] / lengths[lengths > 0, None]
        first, second = one.corners @ normals.T, other.corners @ normals.T
        overlap = np.minimum(first.max(axis=0), second.max(axis=0)) - np.maximum(first.min(axis=0), second.min(axis=0))
        least = min(least, float(overlap.min()))
    return max(least, 0.0)


def gap_m(place: Footprint, x_m: float, y_m: Metres) -> Metres:
    """Return how far a point lies from a footprint on the floor, m: nought over it. `y_m` may be an array of places."""
    dx, dy = x_m - place.x_m, y_m - place.y_m
    if place.round:
        return np.maximum(np.hypot(dx, dy) - place.length_m / 2, 0.0)
    turn = math.radians(place.turn_deg)
    along, across = dx * math.cos(turn) + dy * math.sin(turn), dy * math.cos(turn) - dx * math.sin(turn)
    return np.hypot(np.maximum(np.abs(along) - place.length_m / 2, 0.0), np.maximum(np.abs(across) - place.width_m / 2, 0.0))


def past_walls_m(place: Footprint, length_m: float, width_m: float) -> float:
    """Return by how much a footprint reaches past the walls of a floor, m."""
    half_x, half_y = place.half_sides
    over = half_x - place.x_m, place.x_m + half_x - length_m, half_y - place.y_m, place.y_m + half_y - width_m
    return max(*over, 0.0)


@dataclass(frozen=True)
class FreeFloor:
    """What is left to walk on: its area, its share of the floor, and the longest straight way that a body of some width has."""

    area_m2: float
    share: float
    longest_m: float


@lru_cache(maxsize=KEPT)
def free_floor(length_m: float, width_m: float, places: tuple[Footprint, ...], body_m: float = 0.0) -> FreeFloor:
    """Return the floor that nothing stands on.

    Parameters
    ----------
    length_m, width_m
        The floor, m.
    places
        What stands on it.
    body_m
        How wide the animal is, m: a way narrower than that is none.

    Returns
    -------
    FreeFloor.

    References
    ----------
    Counted on a grid of a centimetre or more; along the length and from front to back (no source outside).
    """
    free, cell = free_cells(length_m, width_m, places)
    wide = max(round(body_m / cell), 1)
    ways = [_longest(scipy.ndimage.minimum_filter1d(free, wide, axis=axis, mode="constant", cval=0), 1 - axis) for axis in (0, 1)]
    share = float(free.mean())
    return FreeFloor(share * length_m * width_m, share, cell * max(ways))


@lru_cache(maxsize=KEPT)
def free_cells(
    length_m: float, width_m: float, places: tuple[Footprint, ...], least_m: float = CELL_M
) -> tuple[NDArray[np.bool_], float]:
    """Return which cells of the floor nothing stands on.

    Parameters
    ----------
    length_m, width_m
        The floor, m.
    places
        What stands on it.
    least_m
        The least side of a cell, m.

    Returns
    -------
    Cells from front to back and along (rows, columns), and a cell's side, m.

    References
    ----------
    Counted on a grid; no source outside.
    """
    cell = max(least_m, length_m / MOST_CELLS, width_m / MOST_CELLS)
    x, y = (np.asarray((np.arange(max(round(side / cell), 1)) + 0.5) * cell, np.float64) for side in (length_m, width_m))
    free = np.ones((y.size, x.size), bool)
    for place in places:
        free &= ~_covered(place, x[None, :], y[:, None])
    return free, cell


def _covered(place: Footprint, x: Floats, y: Floats) -> NDArray[np.bool_]:
    dx, dy = x - place.x_m, y - place.y_m
    if place.round:
        return np.asarray(dx**2 + dy**2 <= (place.length_m / 2) ** 2)
    turn = math.radians(place.turn_deg)
    along, across = dx * math.cos(turn) + dy * math.sin(turn), dy * math.cos(turn) - dx * math.sin(turn)
    return np.asarray((np.abs(along) <= place.length_m / 2) & (np.abs(across) <= place.width_m / 2))


def _longest(free: NDArray[np.bool_], axis: int) -> int:
    """The most free cells in a row along an axis."""
    counted = np.cumsum(free, axis=axis)
    since = np.maximum.accumulate(np.where(free, 0, counted), axis=axis)
    return int((counted - since).max())


def free_spot(
    floor: tuple[float, float], taken: Sequence[Footprint], half_sides: tuple[float, float], wanted: tuple[float, float]
) -> tuple[float, float]:
    """Return the middle nearest to `wanted` at which a thing stands clear of everything; where nothing is clear, the least bad.

    Parameters
    ----------
    floor
        Length and width, m.
    taken
        What stands there.
    half_sides
        How far the thing reaches from its middle along the length and from front to back, m.
    wanted
        Where it had best stand, m.

    Returns
    -------
    x and y, m.

    References
    ----------
    Search over places; no source outside.
    """
    half = min(half_sides[0], floor[0] / 2), min(half_sides[1], floor[1] / 2)
    inside = [(low, max(side - low, low)) for side, low in zip(floor, half, strict=True)]
    axes = [
        np.unique(np.append(np.linspace(*ends, count), np.clip(at, *ends)))
        for ends, count, at in zip(inside, PLACES, wanted, strict=True)
    ]
    x, y = np.meshgrid(*axes)
    worst = np.zeros(x.shape)
    for place in taken:
        reach_x, reach_y = place.half_sides
        into = np.minimum(reach_x + half[0] - np.abs(x - place.x_m), reach_y + half[1] - np.abs(y - place.y_m))
        worst += np.maximum(into, 0.0)
    # To stay in its row or its column comes before a step aside of the same length.
    far = np.abs(x - wanted[0]) + np.abs(y - wanted[1])
    best = np.lexsort((far.ravel(), np.round(worst.ravel(), 5)))[0]
    return float(x.ravel()[best]), float(y.ravel()[best])
