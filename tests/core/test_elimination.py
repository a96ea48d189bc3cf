"""The network by elimination: against LAPACK (numpy.linalg.solve) on the whole matrix, and what the order leaves empty."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from husbandry.climate import basking, duty_cycles, elimination, linearising, steady
from husbandry.climate.case import EnclosureCase, HeatedHideCase, OutsideCase, WaterCase
from husbandry.climate.elimination import Linearised
from husbandry.climate.parameters import PRIOR
from husbandry.climate.steady import solve_steady
from husbandry.climate.steady_problem import SteadyProblem, problem_of
from tests.core.test_enclosures import GLASS, MESH, PVC, ROOM_21

SEASONS = ("summer", "winter")
CASES = {
    "vented box": PVC,
    "glass under mesh": GLASS,
    "mesh all round": MESH,
    "no heater": replace(PVC, heaters=()),
    "with a humid hide": replace(GLASS, humid_hide_x_m=0.6),
    "with a pool": replace(GLASS, water=WaterCase(0.6, 0.5, 0.2)),
    "a pen outdoors with a heated hide": replace(
        MESH, outdoors=OutsideCase(10.0, 10.0), heated_hide=HeatedHideCase(0.3, 0.2, 0.3, 0.2, 0.03)
    ),
}


def by_lapack(problem: SteadyProblem, at: Linearised) -> tuple[np.ndarray, np.ndarray]:
    """The same equations on the whole matrix, as `Network.bound` writes it down."""
    net, diagonal = problem.network, np.arange(problem.network.nodes.count)
    matrix, room = net.bound(at.air_changes, at.h_conv, at.h_rad)
    matrix[:, diagonal, diagonal] += at.slope
    still = room * problem.room_c[:, None] + problem.outside_w - at.latent + at.slope * at.node_c
    per_watt = np.tile(net.per_watt, (len(matrix) // len(net.per_watt), 1, 1))
    solved = np.linalg.solve(matrix, np.concatenate([still[:, :, None], per_watt], axis=2))
    return solved[:, :, 0], solved[:, :, 1:] * problem.watts


@pytest.mark.parametrize("case", CASES.values(), ids=CASES.keys())
@settings(max_examples=8, deadline=None)
@given(seed=st.integers(0, 2**32 - 1))
def test_it_solves_what_lapack_solves(case: EnclosureCase, seed: int) -> None:
    """At any state, for every season, phase and variation: to 1e-9 K."""
    problem, draw = problem_of(case, SEASONS, case.belief.both_ways()), np.random.default_rng(seed)
    batch, nodes = len(problem.room_c), problem.network.nodes.count
    at = Linearised(
        draw.uniform(0.05, 60.0, batch),
        draw.uniform(0.0, 12.0, batch),
        draw.uniform(4.0, 9.0, batch),
        draw.uniform(-5.0, 40.0, (batch, nodes)),
        draw.uniform(0.0, 3.0, (batch, nodes)),
        draw.uniform(-10.0, 80.0, (batch, nodes)),
    )
    base, rise = elimination.steady(problem.given, at, problem.network.surface, problem.network.order)
    expected_base, expected_rise = by_lapack(problem, at)
    assert rise.shape == expected_rise.shape == (batch, nodes, len(case.heaters))
    np.testing.assert_allclose(base, expected_base, rtol=0, atol=1e-9)
    np.testing.assert_allclose(rise, expected_rise, rtol=0, atol=1e-9)


def test_a_chain_stays_as_empty_as_it_is_and_a_star_goes_from_its_points() -> None:
    """Graphs whose elimination is known (common knowledge of sparse matrices): neither joins anything that was not joined."""
    chain = np.abs(np.subtract.outer(np.arange(9), np.arange(9))) == 1
    assert sorted(elimination.order_of(chain).counts) == [0] + 8 * [1]
    star = np.zeros((9, 9), bool)
    star[4], star[:, 4], star[4, 4] = True, True, False
    order = elimination.order_of(star)
    assert sorted(order.counts) == [0] + 8 * [1]
    assert 4 in order.nodes[-2:]


def test_most_of_the_matrix_stays_empty_in_an_enclosure() -> None:
    net = problem_of(GLASS, SEASONS, PRIOR.nominal()).network
    assert net.order.counts.sum() < 0.2 * net.nodes.count**2 / 2


def test_it_is_compiled_for_one_kind_of_array_only() -> None:
    """Every further kind costs a compilation of a second in the keeper's first request: rows or columns, read-only or not."""
    for case in CASES.values():
        climate = solve_steady(case)
        solve_steady(case, near=climate, seasons=("winter",), spread=False)
        room = replace(ROOM_21["winter"], curve_c=(20.0,) * 12 + (24.0,) * 12)
        solve_steady(replace(case, rooms=dict.fromkeys(SEASONS, room)), near=climate)
    of_thermostats = duty_cycles._probes, duty_cycles._solved
    for function in (elimination._steady, linearising.coefficients, basking._balanced, steady._paced, *of_thermostats):
        assert len(function.machine_code.signatures) <= 1  # type: ignore[attr-defined]
    assert elimination._steady.machine_code.signatures  # type: ignore[attr-defined]
