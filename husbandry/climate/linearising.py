"""What is not linear in a steady state, at known temperatures: air changes, and what the basking surface gives to air and walls."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.basking import convection_of, radiation_of
from husbandry.climate.compiled import compiled
from husbandry.climate.openings import VIRTUAL_K_PA, AirExchange, changes_of, rise_of, slope_of

Floats = NDArray[np.float64]


class View(NamedTuple):
    """The basking surface: its node, the shares (air nodes,) of the air over it, the first node that it sees and the one behind the
    last, the share of these in all that it sees, and the side of its plate in m.
    """

    node: int
    air: Floats
    seen_from: int
    seen_to: int
    seen_share: float
    plate_m: float


class Room(NamedTuple):
    """The room (B,): °C, vapour pressure in Pa, and the uncertain factor on the air changes."""

    room_c: Floats
    room_pa: Floats
    factor: Floats


class Coefficients(NamedTuple):
    """Air changes in 1/h and how they grow with the vapour pressure in 1/h per Pa, h_conv and h_rad in W/m²K, and what the surface
    sees in °C; each (B,).
    """

    changes_h: Floats
    more_h_pa: Floats
    h_conv: Floats
    h_rad: Floats
    seen_c: Floats


@compiled
def coefficients(node_c: Floats, vapour_pa: Floats, room: Room, exchange: AirExchange, view: View) -> Coefficients:
    """The coefficients at the nodes' temperatures (B, n) and the vapour pressure inside (B,)."""
    batch, air_count = len(node_c), len(view.air)
    found = Coefficients(np.empty(batch), np.empty(batch), np.empty(batch), np.empty(batch), np.empty(batch))
    for b in range(batch):
        t, room_c, mean, over, seen = node_c[b], room.room_c[b], 0.0, 0.0, 0.0
        for i in range(air_count):
            mean += t[i] / air_count
            over += t[i] * view.air[i]
        for i in range(view.seen_from, view.seen_to):
            seen += t[i] / (view.seen_to - view.seen_from)
        rise_k = rise_of(mean - room_c, vapour_pa[b] - room.room_pa[b])
        found.changes_h[b] = room.factor[b] * changes_of(exchange, rise_k)
        found.more_h_pa[b] = room.factor[b] * VIRTUAL_K_PA * slope_of(exchange, rise_k)
        found.seen_c[b] = room_c + view.seen_share * (seen - room_c)
        found.h_conv[b] = convection_of(t[view.node], over, view.plate_m)
        found.h_rad[b] = radiation_of(t[view.node], found.seen_c[b])
    return found
