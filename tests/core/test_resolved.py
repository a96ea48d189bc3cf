"""The zones beside a resolved flow (OpenFOAM, run by hand): what agrees, and what the priors must cover (docs/models.md)."""

import json
from typing import Any

import ht
import numpy as np
import pytest

from husbandry.climate.openings import AIR_VISCOSITY
from husbandry.climate.states import SteadyState
from husbandry.climate.steady import solve_steady
from tests.reference.enclosures import RESOLVED, ROOM_C
from tests.reference.openfoam import CONDUCTIVITY, HERE, PRANDTL

KEPT: dict[str, Any] = json.loads((HERE / "resolved.json").read_text())


def zones(name: str) -> SteadyState:
    return solve_steady(RESOLVED[name].case).states["winter", "day"]


def test_the_closed_tub_is_as_warm_as_the_resolved_one() -> None:
    """OpenFOAM, tests/reference: the mean air to 1.6 K; the upper level the warmer in both."""
    air = zones("closed-box").node_c[:10].reshape(2, 5)
    resolved = np.array(KEPT["closed-box"]["air_c"])
    assert air.mean() == pytest.approx(KEPT["closed-box"]["mean_c"], abs=1.6)
    assert resolved.shape == air.shape
    for levels in (air, resolved):
        assert levels[1].mean() > levels[0].mean()


@pytest.mark.parametrize("name", ["closed-box", "glass-under-mesh", "tall-glass"])
def test_what_a_thermometer_near_the_ground_would_show_is_not_unlikely(name: str) -> None:
    """Between the resolved air and ground: no more than two kelvins beyond eight draws in ten, at either end."""
    state, kept = zones(name), KEPT[name]
    ground = np.array(kept["floor_c"]).mean(axis=1)
    for end, place, air in (("warm_air", slice(0, 4), kept["air_c"][0][:2]), ("cool_air", slice(-2, None), kept["air_c"][0][-1:])):
        shown = (ground[place].mean() + np.mean(air)) / 2
        said = state.predictions[end]
        assert said.low is not None
        assert said.high is not None
        assert said.low - 2.0 < shown < said.high + 2.0, end


def test_the_resolved_floor_gives_its_heat_as_the_published_law_has_it() -> None:
    """McAdams over a warm level plate without edges, by the `ht` library: the resolved run is checked before it checks anything."""
    kept = KEPT["bare-opening"]
    warmer_k = float(np.mean(kept["floor_c"])) - kept["mean_c"]
    over_a_metre = 9.81 / 298.0 * warmer_k / AIR_VISCOSITY**2
    law = ht.Nu_horizontal_plate_McAdams(PRANDTL, over_a_metre) * CONDUCTIVITY
    assert kept["floor_h_w_m2k"] == pytest.approx(law, rel=0.25)  # 20 % below; ASHRAE's 1.52 ΔT^⅓ is 6 % above it
    assert kept["mean_c"] > ROOM_C
