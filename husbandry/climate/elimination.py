"""A network's equations solved by elimination, in an order that leaves most of the matrix empty.

A node couples with few others: seven in eight entries are nought. The nodes of fewest neighbours go first, and what their going
joins is worked out once for a network's shape; the numbers then pass through it by machine code. The matrix is symmetric and
diagonally dominant, with losses to the room on its diagonal, so that no pivoting is needed.
"""

from functools import lru_cache
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.compiled import compiled

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

SHAPES_KEPT: Final = 64


class Order(NamedTuple):
    """In which `nodes` (n,) go, and which places behind it each joins: the first `counts` (n,) of each row of `joined` (n, n)."""

    nodes: Places
    counts: Places
    joined: Places


class Surface(NamedTuple):
    """The basking surface: its node `at` (1,), and the m² by which it gives to air and what it sees (n,), and to the room (1,)."""

    at: Places
    air_m2: Floats
    seen_m2: Floats
    room_m2: Floats


class Given(NamedTuple):
    """What is the same in every round: as `network.Network` has it for V variations, one behind the other all through the batch;
    W into each node from outside (B, n), the heaters' `watts`, and the room (B,) in °C.
    """

    conductance: Floats
    to_room: Floats
    vent: Floats
    per_watt: Floats
    outside_w: Floats
    watts: Floats
    room_c: Floats


class Linearised(NamedTuple):
    """Where the equations are made linear: air changes in 1/h, h_conv and h_rad in W/m²K (B,), latent heat in W and its slope in
    W/K at the temperatures `node_c` in °C (B, n).
    """

    air_changes: Floats
    h_conv: Floats
    h_rad: Floats
    latent: Floats
    slope: Floats
    node_c: Floats


def order_of(coupled: NDArray[np.bool_]) -> Order:
    """Return the order of elimination for a network's shape.

    Parameters
    ----------
    coupled
        Which nodes couple with which, symmetric, shape (n, n).

    Returns
    -------
    Order: the node with fewest neighbours among those left goes next.

    References
    ----------
    Minimum degree: George and Liu 1989 (docs/models.md [46]; recalled).
    """
    return _order(coupled.tobytes(), len(coupled))


@lru_cache(maxsize=SHAPES_KEPT)
def _order(coupled: bytes, count: int) -> Order:
    shape = np.frombuffer(coupled, dtype=bool).reshape(count, count)
    beside = [set(np.flatnonzero(row).tolist()) - {node} for node, row in enumerate(shape)]
    went: list[int] = []
    for _ in range(count):
        node = min((node for node in range(count) if node not in went), key=lambda node: len(beside[node]))
        went.append(node)
        for other in beside[node]:
            beside[other] |= beside[node]
            beside[other] -= {other, node}
    place = {node: index for index, node in enumerate(went)}
    counts, joined = np.zeros(count, np.int64), np.zeros((count, count), np.int64)
    for index, node in enumerate(went):
        counts[index] = len(beside[node])
        joined[index, : len(beside[node])] = sorted(place[other] for other in beside[node])
    return Order(np.array(went), counts, joined)


def steady(given: Given, at: Linearised, surface: Surface, order: Order) -> tuple[Floats, Floats]:
    """Solve the network at one state, for a whole batch.

    Parameters
    ----------
    given, at, surface
        The network, where it is made linear, and the basking surface.
    order
        In which its nodes are eliminated.

    Returns
    -------
    Temperatures without heat in °C (B, n), and the rise by each heater full on in K (B, n, heaters).

    References
    ----------
    LDLᵀ without pivoting: Golub and Van Loan, Matrix Computations, section 4.1 (docs/models.md [47]; recalled).
    """
    return _steady(Given(*map(_plain, given)), Linearised(*map(_plain, at)), surface, order)


def _plain(values: Floats) -> Floats:
    """The same numbers in rows, writable, as the compiled code takes them: for any other array it would be compiled anew."""
    if values.dtype == np.float64 and values.flags.carray:
        return values  # nearly always: to ask numpy for it takes longer than a step of the elimination
    return np.require(values, np.float64, ("C", "W"))


@compiled
def _assembled(given: Given, at: Linearised, surface: Surface, order: Order, b: int, into: tuple[Floats, Floats]) -> None:
    """Write a batch element's matrix, (n, n), and right sides, (n, 1 + heaters), in the order of elimination, `into` two arrays."""
    upper, right = into
    spot, changes, h_conv, h_rad = surface.at[0], at.air_changes[b], at.h_conv[b], at.h_rad[b]
    own_way = b % len(given.to_room)
    whole = h_rad * surface.room_m2[0]
    for node in range(len(surface.air_m2)):
        whole += h_conv * surface.air_m2[node] + h_rad * surface.seen_m2[node]
    for k in range(len(order.nodes)):
        node = order.nodes[k]
        of_spot = h_conv * surface.air_m2[node] + h_rad * surface.seen_m2[node]
        room = given.to_room[own_way, node] + given.vent[node] * changes
        own = given.conductance[own_way, node, node] + given.vent[node] * changes + at.slope[b, node]
        if node == spot:
            own += whole
            room += h_rad * surface.room_m2[0]
        else:
            own += of_spot
        upper[k, k] = own
        for index in range(order.counts[k]):
            later = order.joined[k, index]
            other = order.nodes[later]
            between = given.conductance[own_way, node, other]
            if other == spot:
                between -= of_spot
            elif node == spot:
                between -= h_conv * surface.air_m2[other] + h_rad * surface.seen_m2[other]
            upper[k, later] = between
        forced = room * given.room_c[b] + given.outside_w[b, node]
        right[k, 0] = forced - at.latent[b, node] + at.slope[b, node] * at.node_c[b, node]
        for heater in range(len(given.watts)):
            right[k, 1 + heater] = given.per_watt[own_way, node, heater] * given.watts[heater]


@compiled
def _eliminated(order: Order, upper: Floats, right: Floats) -> None:
    """Turn the right sides into the solution, in place; of `upper` only what the order names is read."""
    count, sides = right.shape
    for k in range(count):
        inverse = 1.0 / upper[k, k]
        for index in range(order.counts[k]):
            row = order.joined[k, index]
            factor = upper[k, row] * inverse
            for more in range(index, order.counts[k]):
                upper[row, order.joined[k, more]] -= factor * upper[k, order.joined[k, more]]
            for side in range(sides):
                right[row, side] -= factor * right[k, side]
    for back in range(count):
        k = count - 1 - back
        inverse = 1.0 / upper[k, k]
        for side in range(sides):
            found = right[k, side]
            for index in range(order.counts[k]):
                found -= upper[k, order.joined[k, index]] * right[order.joined[k, index], side]
            right[k, side] = found * inverse


@compiled
def _steady(given: Given, at: Linearised, surface: Surface, order: Order) -> tuple[Floats, Floats]:
    batch, count = given.outside_w.shape
    heaters = len(given.watts)
    base, rise = np.empty((batch, count)), np.empty((batch, count, heaters))
    upper, right = np.empty((count, count)), np.empty((count, 1 + heaters))
    for b in range(batch):
        _assembled(given, at, surface, order, b, (upper, right))
        _eliminated(order, upper, right)
        for k in range(count):
            node = order.nodes[k]
            base[b, node] = right[k, 0]
            for heater in range(heaters):
                rise[b, node, heater] = right[k, 1 + heater]
    return base, rise
