"""Where the probes of thermostats are, which side is the warm end, and where the air of either end is read."""

from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import heaters
from husbandry.climate.case import EnclosureCase, HeaterCase, ProbeCase
from husbandry.climate.contact import mat_contact
from husbandry.climate.nodes import LEVELS, ZONES, Nodes, between, shares

Floats = NDArray[np.float64]

MIDDLE_SHARE: Final = 0.05  # of the length either way: a basking place there is at neither end

LIES_ON_M: Final = 0.01  # a probe as near to a surface as this lies on it
COOL_READ_M: Final = 0.3  # above the floor at most: where the cool end's air is read in a tall enclosure


def warm_side_x(case: EnclosureCase) -> float:
    """Where the warm end is: at the basking place; where that is in the middle, on the side where the heaters are.

    It goes by places and never by strengths, so that no change of watts renames the ends.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    m from the left.

    References
    ----------
    Common practice, no source.
    """
    if abs(case.spot.x_m - case.length_m / 2) > MIDDLE_SHARE * case.length_m:
        return case.spot.x_m
    places = [heater.x_m for heater in case.heaters if heaters.HEATERS[heater.kind].place not in ("water", "light", "hide")]
    return sum(places) / len(places) if places else case.spot.x_m


def direct_rises(case: EnclosureCase) -> Floats:
    """What each heater's own probe reads at once over its place in the network, K at full power, (heaters,): on a mat.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    K, shape (heaters,).

    References
    ----------
    As `contact.mat_contact`.
    """
    found = np.zeros(len(case.heaters))
    for index, heater in enumerate(case.heaters):
        contact = mat_contact(case, index) if heater.probe == "mat" else None
        if contact is not None:
            found[index] = contact.contact_rise_k
    return found


def probe_row(case: EnclosureCase, nodes: Nodes, heater: HeaterCase) -> Floats:
    """The weights over the nodes that a heater's probe reads, shape (n,). Raises KeyError for an unknown place.

    Parameters
    ----------
    case
        The enclosure.
    nodes
        Its layout.
    heater
        The heater whose probe it is.

    Returns
    -------
    Weights that add up to 1, shape (n,).

    References
    ----------
    Where keepers hang their probes; common practice, no source.
    """
    row, probe = np.zeros(nodes.count), heater.probe
    warm, cool = end_weights(case, warm_side_x(case))
    if probe == "basking-surface":
        row[nodes.spot] = 1.0
    elif probe == "heated-hide":
        row[nodes.heated_hide] = 1.0
    elif probe == "own":
        return own_row(case, nodes, ProbeCase(heater.probe_x_m, heater.probe_height_m))
    elif probe == "mat":
        row[nodes.ground_bottom] = shares(case, heater.x_m, heater.length_m)
    elif probe == "water":
        row[nodes.water if nodes.watered else nodes.spot] = 1.0
    elif probe == "humid-hide" and nodes.hiding:
        row[nodes.hide] = 1.0
    elif probe in ("warm-ground", "cool-ground", "humid-hide"):
        return ground_row(case, nodes, warm=probe != "cool-ground")
    else:
        row[nodes.air] = {"warm-air": warm, "cool-air": cool}[probe]
    return row


def ground_row(case: EnclosureCase, nodes: Nodes, *, warm: bool) -> Floats:
    """The weights over the nodes of the ground's surface at the warm or the cool end, shape (n,): a place, whatever is warmer.

    Parameters
    ----------
    case
        The enclosure.
    nodes
        Its layout.
    warm
        Which end.

    Returns
    -------
    Weights that add up to 1, shape (n,).

    References
    ----------
    Where keepers lay their probes; common practice, no source.
    """
    row = np.zeros(nodes.count)
    ends = end_weights(case, warm_side_x(case))
    row[nodes.ground_top] = ends[0 if warm else 1].reshape(LEVELS, ZONES).sum(axis=0)
    return row


def own_row(case: EnclosureCase, nodes: Nodes, at: ProbeCase) -> Floats:
    """The weights over the nodes that a probe at a place of the keeper's own reads, shape (n,): nearer nodes count for more.

    Parameters
    ----------
    case
        The enclosure.
    nodes
        Its layout.
    at
        Where the probe lies: on the basking surface, in the water, on the ground or in the air.

    Returns
    -------
    Weights that add up to 1, shape (n,).

    References
    ----------
    Linear interpolation between the middles of the zones; no source outside.
    """
    row, spot, water = np.zeros(nodes.count), case.spot, case.water
    along = between(at.x_m / case.length_m, ZONES)
    if abs(at.x_m - spot.x_m) <= spot.side_m / 2 and abs(at.height_m - spot.top_m) <= LIES_ON_M:
        row[nodes.spot] = 1.0
    elif water is not None and abs(at.x_m - water.x_m) <= water.length_m / 2 and at.height_m <= water.depth_m:
        row[nodes.water] = 1.0
    elif at.height_m <= case.ground_depth_m + LIES_ON_M:
        row[nodes.ground_top] = along
    else:
        row[nodes.air] = np.outer(between(at.height_m / case.height_m, LEVELS), along).ravel()
    return row


def end_weights(case: EnclosureCase, warm_x_m: float) -> tuple[Floats, Floats]:
    """Return the weights over the air nodes of warm-end and cool-end air: the third at either end of the length.

    In a low enclosure both are read at half its height; in a taller one the warm end at the basking place, where that is higher,
    and the cool end low down, where the animal goes to cool.

    Parameters
    ----------
    case
        The enclosure.
    warm_x_m
        Where the warm end is, m from the left.

    Returns
    -------
    Two arrays of weights that add up to 1, shape (air nodes,).

    References
    ----------
    Where keepers hang their probes; common practice, no source.
    """
    warm_m, cool_m = end_heights(case)
    return _end_weights(warm_m / case.height_m, cool_m / case.height_m, left=warm_x_m <= case.length_m / 2)


@lru_cache(maxsize=256)
def _end_weights(warm_at: float, cool_at: float, *, left: bool) -> tuple[Floats, Floats]:
    """The weights by the heights as shares of the enclosure's; `left`: the warm end is there."""
    third = np.array([0.6, 0.4, 0.0, 0.0, 0.0])
    low, high = (third, third[::-1]) if left else (third[::-1], third)
    found = np.outer(between(warm_at, LEVELS), low).ravel(), np.outer(between(cool_at, LEVELS), high).ravel()
    for each in found:
        each.flags.writeable = False  # kept for others
    return found


def end_heights(case: EnclosureCase) -> tuple[float, float]:
    """Return the heights in m above the floor at which warm-end and cool-end air are read: without a jump in any size.

    Parameters
    ----------
    case
        The enclosure.

    Returns
    -------
    Two heights, m.

    References
    ----------
    Where keepers hang their probes; common practice, no source.
    """
    middle = case.height_m / 2
    return max(middle, min(case.spot.top_m, case.height_m)), min(middle, COOL_READ_M)
