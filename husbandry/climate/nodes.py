"""The nodes of an enclosure's network and their places in one vector.

Air (levels × zones along the length, the lowest first), the wall around each of them (none where the walls are mesh), the ground in
layers under each zone, the surface the animal basks on, water, and the inside of a humid and of a heated hide.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.case import EnclosureCase
from husbandry.climate.walls import BUILDS

Floats = NDArray[np.float64]

ZONES: Final = 5
LEVELS: Final = 2  # of air, everywhere: under a lamp the upper half is warmer in any enclosure
LEAST_LENGTH_M: Final = 0.02
# Layers of the ground from the top down, as parts of its depth, by the least depth in m.
LAYERS: Final = ((0.20, (1, 2, 4, 8)), (0.05, (1, 2, 3)), (0.02, (1, 2)), (0.0, (1,)))


@dataclass(frozen=True)
class Nodes:
    """Where each node stands in the vector; `layer_m` are the thicknesses of the ground's layers from the top down."""

    walled: bool
    layer_m: tuple[float, ...]
    watered: bool
    hiding: bool
    heating: bool = False

    @cached_property
    def air_count(self) -> int:
        return ZONES * LEVELS

    @cached_property
    def air(self) -> slice:
        return slice(0, self.air_count)

    @cached_property
    def walls(self) -> slice:
        return slice(self.air_count, self.air_count * (2 if self.walled else 1))

    @cached_property
    def ground(self) -> slice:
        """All layers, the top one's zones first."""
        return slice(self.walls.stop, self.walls.stop + ZONES * len(self.layer_m))

    @cached_property
    def ground_top(self) -> slice:
        return slice(self.walls.stop, self.walls.stop + ZONES)

    @cached_property
    def ground_bottom(self) -> slice:
        return slice(self.ground.stop - ZONES, self.ground.stop)

    @cached_property
    def spot(self) -> int:
        return self.ground.stop

    @cached_property
    def water(self) -> int:
        """Only there where `watered`."""
        return self.spot + 1

    @cached_property
    def hide(self) -> int:
        """Only there where `hiding`."""
        return self.spot + 1 + int(self.watered)

    @cached_property
    def heated_hide(self) -> int:
        """Only there where `heating`."""
        return self.spot + 1 + int(self.watered) + int(self.hiding)

    @cached_property
    def count(self) -> int:
        return self.heated_hide + int(self.heating)

    def air_shares(self, case: EnclosureCase, x_m: float, length_m: float, height_m: float) -> Floats:
        """The shares (air_count,) of the air nodes around something `length_m` long at a place."""
        return np.outer(between(height_m / case.height_m, LEVELS), shares(case, x_m, length_m)).ravel()


def between(share: float, parts: int) -> Floats:
    """How a place at `share` of the way lies between the middles of `parts` equal pieces, (parts,)."""
    place = min(max(share * parts - 0.5, 0.0), parts - 1.0)
    return np.maximum(1 - np.abs(np.arange(parts) - place), 0.0)


def overlap(case: EnclosureCase, x_m: float, length_m: float) -> Floats:
    """The length in m of each zone that something centred at `x_m` lies over, shape (5,)."""
    edges = np.arange(ZONES + 1) * case.length_m / ZONES
    left, right = x_m - length_m / 2, x_m + length_m / 2
    return np.asarray(np.maximum(np.minimum(edges[1:], right) - np.maximum(edges[:-1], left), 0.0))


def shares(case: EnclosureCase, x_m: float, length_m: float) -> Floats:
    """The share of something `length_m` long centred at `x_m` that lies in each zone, (5,): dragged along, it never jumps."""
    lies_m = overlap(case, min(max(x_m, 0.0), case.length_m), max(length_m, LEAST_LENGTH_M))
    return np.asarray(lies_m / lies_m.sum())


def nodes_of(case: EnclosureCase) -> Nodes:
    """Lay out the nodes of an enclosure."""
    depth_m = max(case.ground_depth_m, 0.002)
    parts = next(parts for least, parts in LAYERS if depth_m >= least)
    layer_m = tuple(depth_m * part / sum(parts) for part in parts)
    return Nodes(
        BUILDS[case.kind].thickness_m is not None, layer_m, case.water is not None, case.humid_hide, case.heated_hide is not None
    )
