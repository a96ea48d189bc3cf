"""Where a heater's watts end: none is lost unaccounted, none made, and each ends where its kind says."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from husbandry.climate.basking import spot_area
from husbandry.climate.case import EnclosureCase, WaterCase
from husbandry.climate.heat_gains import covered_zones, heat_gains, spot_irradiance, wall_share, warm_area
from husbandry.climate.heaters import HEATERS
from husbandry.climate.nodes import nodes_of
from tests.core.test_enclosures import GLASS, MESH, PVC, flood
from tests.sample import times

OPEN = replace(GLASS, lid="open")
HALF_WATER = replace(GLASS, water=WaterCase(0.7, 0.4, 0.15), spot=replace(GLASS.spot, x_m=0.15))
CASES = {"box": PVC, "mesh lid": GLASS, "open": OPEN, "cage": MESH, "half water": HALF_WATER}
SHINING = sorted(kind for kind, item in HEATERS.items() if item.place == "over")
LYING = sorted(kind for kind, item in HEATERS.items() if item.place in ("under", "wall", "air"))


def parts(case: EnclosureCase, kind: str, x_m: float, height_m: float, **more: object) -> tuple[np.ndarray, np.ndarray]:
    heater = flood(100, x_m, height_m, kind, **more)
    return heat_gains(case.shell, heater, warm_area(replace(case, heaters=(heater,))))


@settings(max_examples=times(40, 120))
@given(st.sampled_from(sorted(CASES)), st.sampled_from(SHINING), st.floats(0.02, 0.98), st.floats(0.3, 1.6))
def test_no_watt_is_made_and_none_taken_from_anything(name: str, kind: str, along: float, high: float) -> None:
    """First law, lamp by lamp: every part of a radiated and of another watt lies between nothing and the whole of it."""
    case = CASES[name]
    height_m = max(high * case.height_m, case.spot.top_m + 0.06)
    assume(case.lid != "solid" or height_m <= case.height_m)
    for part in parts(case, kind, along * case.length_m, height_m):
        assert part.min() >= -1e-12
        assert part.sum() <= 1 + 1e-9


@settings(max_examples=times(20, 60))
@given(st.sampled_from(SHINING), st.floats(0.02, 0.98), st.floats(0.45, 0.95))
def test_in_a_closed_box_every_watt_stays_inside(kind: str, along: float, high: float) -> None:
    """A solid lid and walls: what is radiated ends on ground, stone and walls, the rest in the air; all of it."""
    radiant, rest = parts(PVC, kind, along * PVC.length_m, high * PVC.height_m)
    nodes = nodes_of(PVC)
    assert radiant.sum() == pytest.approx(1.0, abs=1e-9)
    assert rest.sum() == pytest.approx(1.0, abs=1e-9)
    assert rest[nodes.air].sum() == pytest.approx(1.0, abs=1e-9)
    assert radiant[nodes.air].sum() == 0.0


@pytest.mark.parametrize("kind", LYING)
@pytest.mark.parametrize("name", ["box", "mesh lid", "cage"])
def test_what_lies_or_hangs_gives_all_it_draws_where_it_is(kind: str, name: str) -> None:
    case = CASES[name]
    radiant, rest = parts(case, kind, 0.4 * case.length_m, 0.1, length_m=0.3 * case.length_m)
    nodes = nodes_of(case)
    assert rest.sum() == pytest.approx(1.0)
    place = {"under": nodes.ground_bottom, "wall": nodes.walls if nodes.walled else nodes.air, "air": nodes.air}[
        HEATERS[kind].place
    ]
    assert rest[place].sum() == pytest.approx(1.0)
    assert 0 <= radiant.sum() <= 1 + 1e-9
    # Nothing of it is at the far end, where it does not reach.
    far = np.arange(nodes.count)[place][4::5]
    assert rest[far].sum() == pytest.approx(0.0)


def test_a_dome_on_a_mesh_lid_leaves_part_of_its_remainder_outside() -> None:
    """From memory: 30 to 60 % of the remainder stays inside; the mesh itself takes what it does not let through."""
    radiant, rest = parts(GLASS, "reflector-flood", 0.45, GLASS.height_m)
    assert rest.sum() == pytest.approx(0.6)
    assert rest.sum() == pytest.approx(HEATERS["reflector-flood"].inside_share)
    inside, _rest = parts(GLASS, "reflector-flood", 0.45, GLASS.height_m - 0.02)
    nodes = nodes_of(GLASS)
    below = [*range(nodes.ground_top.start, nodes.ground_top.stop), nodes.spot]
    assert radiant[below].sum() == pytest.approx(GLASS.mesh_open_share * inside[below].sum(), rel=0.15)
    caged, _rest = parts(MESH, "reflector-flood", 0.2, MESH.height_m)
    assert caged.sum() < radiant.sum()


def test_a_beam_over_the_middle_falls_evenly_to_both_sides() -> None:
    case = replace(PVC, spot=replace(PVC.spot, x_m=PVC.length_m / 2))
    radiant, rest = parts(case, "halogen-flood", case.length_m / 2, 0.5)
    nodes = nodes_of(case)
    for part in (radiant[nodes.ground_top], radiant[nodes.walls], rest[nodes.air]):
        levels = part.reshape(-1, 5)
        assert levels == pytest.approx(levels[:, ::-1])
    assert radiant[nodes.ground_top].argmax() == 2


def test_what_the_stone_catches_is_taken_from_the_ground() -> None:
    """The same beam with a larger stone under it: more on the stone, less on the ground, the same in all."""
    small, large = (replace(PVC, spot=replace(PVC.spot, side_m=side)) for side in (0.1, 0.3))
    nodes = nodes_of(PVC)
    on_small, on_large = (parts(case, "reflector-flood", 0.25, 0.4)[0] for case in (small, large))
    assert on_large[nodes.spot] > on_small[nodes.spot]
    assert on_large[nodes.ground_top].sum() < on_small[nodes.ground_top].sum()
    assert on_large.sum() == pytest.approx(on_small.sum())


def test_what_falls_on_water_warms_the_water() -> None:
    nodes = nodes_of(HALF_WATER)
    over_water, _ = parts(HALF_WATER, "reflector-flood", 0.7, 0.43)
    over_land, _ = parts(HALF_WATER, "reflector-flood", 0.15, 0.43)
    assert over_water[nodes.water] > 4 * over_land[nodes.water]
    assert covered_zones(HALF_WATER) == pytest.approx([0.0, 0.0, 0.5, 1.0, 0.5 + 0.2222], abs=0.3)
    assert covered_zones(HALF_WATER).sum() * HALF_WATER.length_m / 5 == pytest.approx(0.4)


@given(st.floats(0.05, 0.4), st.floats(0.35, 0.6))
def test_the_warm_part_of_a_stone_is_no_larger_than_the_stone(side: float, height: float) -> None:
    case = replace(PVC, spot=replace(PVC.spot, side_m=side), heaters=(flood(100, 0.25, height, "reflector-spot"),))
    area = spot_area(side, case.width_m, case.spot.perch)
    assert 0.2 * area <= warm_area(case) <= area + 1e-12
    middle, mean = spot_irradiance(case.shell, case.heaters[0])
    assert warm_area(case) * middle == pytest.approx(area * max(mean, 0.2 * middle), rel=1e-9)


def test_the_share_of_walls_in_what_a_stone_sees() -> None:
    """By area: all of a closed box, less the lid's openings of a glass box, hardly more than a third of a cage of mesh."""
    assert wall_share(PVC) == 1.0
    lid = GLASS.length_m * GLASS.width_m
    sides = 2 * (GLASS.length_m + GLASS.width_m) * GLASS.height_m
    assert wall_share(GLASS) == pytest.approx(1 - 0.65 * lid / (lid + sides))
    assert wall_share(replace(GLASS, lid_covered=0.5)) == pytest.approx(1 - 0.325 * lid / (lid + sides))
    assert wall_share(OPEN) < wall_share(GLASS)
    assert wall_share(MESH) == pytest.approx(0.35)
