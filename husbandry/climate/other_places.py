"""The warmth of a further basking place: the balance of the first one, read from the network as it settled.

The network has one basking surface. Another takes little of a lamp's heat from the rest, so it is worked out afterwards: what falls
on it, the air about it, the walls it sees and the ground below it.
"""

from dataclasses import replace

import numpy as np

from husbandry.climate import basking, heaters
from husbandry.climate.case import BaskingSpot, EnclosureCase
from husbandry.climate.heat_gains import spot_irradiance, wall_share
from husbandry.climate.nodes import nodes_of, shares
from husbandry.climate.states import SteadyState


def surface_c(case: EnclosureCase, place: BaskingSpot, steady: SteadyState) -> float:
    """Return the temperature of a surface at a place other than the basking spot.

    Parameters
    ----------
    case
        The enclosure as it was solved, with its own basking spot.
    place
        The other surface: its middle, side, top and kind.
    steady
        The state of a season's day or night.

    Returns
    -------
    °C.

    References
    ----------
    The balance of `basking.surface_temperature` (docs/models.md [3]; recalled).
    """
    there, nodes, believed = replace(case, spot=place), nodes_of(case), case.belief.nominal()
    falling = 0.0
    for heater, duty in zip(case.heaters, steady.duty, strict=True):
        kind = heaters.HEATERS[heater.kind]
        if duty > 0 and kind.place == "over":
            share = min(kind.radiant_share * float(believed.radiant[0]), 0.9) * float(believed.beam[0])
            falling += duty * heater.watts * share * spot_irradiance(there, heater)[0]
    air_c = steady.node_c[nodes.air] @ nodes.air_shares(case, place.x_m, place.side_m, place.top_m)
    ground_c = steady.node_c[nodes.ground_top] @ shares(case, place.x_m, place.side_m)
    inside = wall_share(case)
    room = case.rooms[steady.season]
    seen = steady.node_c[nodes.walls if nodes.walled else nodes.air].mean()
    seen_c = inside * seen + (1 - inside) * (room.day_c if steady.phase == "day" else room.night_c)
    around = basking.Surroundings(*(np.array([float(value)]) for value in (air_c, seen_c, ground_c)))
    return float(basking.surface_temperature(np.array([falling]), around, place.side_m, place.perch)[0])
