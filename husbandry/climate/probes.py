"""Where the probes of thermostats are, and which side is the warm end."""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import heaters, network
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.contact import mat_contact
from husbandry.climate.nodes import LEVELS, ZONES, Nodes, shares

Floats = NDArray[np.float64]

MIDDLE_SHARE: Final = 0.05  # of the length either way: a basking place there is at neither end


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
    places = [heater.x_m for heater in case.heaters if heaters.HEATERS[heater.kind].place not in ("water", "light")]
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
    warm, cool = network.end_weights(case, warm_side_x(case))
    if probe == "basking-surface":
        row[nodes.spot] = 1.0
    elif probe == "mat":
        row[nodes.ground_bottom] = shares(case, heater.x_m, heater.length_m)
    elif probe == "water":
        row[nodes.water if nodes.watered else nodes.spot] = 1.0
    elif probe == "humid-hide" and nodes.hiding:
        row[nodes.hide] = 1.0
    elif probe in ("warm-ground", "cool-ground", "humid-hide"):
        row[nodes.ground_top] = (cool if probe == "cool-ground" else warm).reshape(LEVELS, ZONES).sum(axis=0)
    else:
        row[nodes.air] = {"warm-air": warm, "cool-air": cool}[probe]
    return row
