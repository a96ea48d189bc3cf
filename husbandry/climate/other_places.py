"""The warmth of a further basking place: the balance of the first one, read from the network as it settled.

The network has one basking surface. Another takes little of a lamp's heat from the rest, so it is worked out afterwards: what falls
on it, the air about it, the walls it sees and the ground below it.
"""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from husbandry.climate import basking, heaters
from husbandry.climate.case import BaskingSpot, EnclosureCase
from husbandry.climate.heat_gains import spot_irradiance, wall_share
from husbandry.climate.nodes import nodes_of, shares
from husbandry.climate.states import SteadyState

Floats = NDArray[np.float64]


def surfaces_c(case: EnclosureCase, places: Sequence[BaskingSpot], states: Sequence[SteadyState]) -> Floats:
    """Return the temperatures of a surface at places other than the basking spot.

    Parameters
    ----------
    case
        The enclosure as it was solved, with its own basking spot.
    places
        The other surface at each of its places: its middle, side, top and kind; sides and kinds are the same.
    states
        The states of seasons' days or nights.

    Returns
    -------
    °C, shape (places, states).

    References
    ----------
    The balance of `basking.surface_temperature` (docs/models.md [3]; recalled).
    """
    nodes, inside = nodes_of(case), wall_share(case)
    falling, air_c, ground_c = (np.empty((len(places), len(states))) for _ in range(3))
    watts = np.array([_radiated(case, state) for state in states])
    for row, place in enumerate(places):
        there = replace(case, spot=place)
        falling[row] = watts @ [spot_irradiance(there, heater)[0] for heater in case.heaters] if case.heaters else 0.0
        of_air = nodes.air_shares(case, place.x_m, place.side_m, place.top_m)
        of_ground = shares(case, place.x_m, place.side_m)
        air_c[row] = [state.node_c[nodes.air] @ of_air for state in states]
        ground_c[row] = [state.node_c[nodes.ground_top] @ of_ground for state in states]
    seen_c = []
    for state in states:
        room = case.rooms[state.season]
        room_c = room.day_c if state.phase == "day" else room.night_c
        seen_c.append(inside * state.node_c[nodes.walls if nodes.walled else nodes.air].mean() + (1 - inside) * room_c)
    around = basking.Surroundings(air_c, np.array(seen_c), ground_c)
    return basking.surface_temperature(falling, around, places[0].side_m, places[0].perch)


def _radiated(case: EnclosureCase, state: SteadyState) -> list[float]:
    """The watts that each heater radiates from above."""
    believed, found = case.belief.nominal(), []
    for heater, duty in zip(case.heaters, state.duty, strict=True):
        kind = heaters.HEATERS[heater.kind]
        share = min(kind.radiant_share * float(believed.radiant[0]), 0.9) * float(believed.beam[0])
        found.append(duty * heater.watts * share if kind.place == "over" else 0.0)
    return found
