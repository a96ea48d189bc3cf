"""The cut list of a plan: panels by hand, whole boxes bought, what is bent and covered."""

import pytest

from husbandry.build.cutting import Piece, cut_list
from tests.plans import plan


def by_what(**changes: object) -> dict[str, Piece]:
    return {piece.what: piece for piece in cut_list(plan(**changes))}


def box(**more: object) -> dict[str, object]:
    return {"kind": "foamed-pvc", "length_m": 1.2, "width_m": 0.6, "height_m": 0.6, "lid": "solid", "wall_m": 0.01} | more


def test_the_panels_of_a_box_are_those_that_a_joiner_cuts() -> None:
    """120 × 60 × 60 cm inside out of 10 mm, by hand: floor and lid 1220 × 600, ends 600 × 600, back 1220 × 620."""
    found = by_what(enclosure=box())
    assert (found["floor"].length_m, found["floor"].width_m) == (1.22, 0.6)
    assert found["lid"] == Piece("lid", 1, 1.22, 0.6, 0.01)
    assert found["end"] == Piece("end", 2, 0.6, 0.6, 0.01)
    assert found["back"] == Piece("back", 1, 1.22, 0.62, 0.01)
    # Two panes and the sill and rail fill the opening: 1200 wide with 40 of overlap, as high as is left.
    assert 2 * found["pane"].length_m == pytest.approx(1.2 + 0.04)
    assert found["pane"].width_m + found["sill"].width_m + found["rail"].width_m == pytest.approx(0.6 - 0.005)


def test_the_panels_enclose_the_box() -> None:
    """What the six sides cover is the outer box without the front's opening: no piece is forgotten, by areas."""
    found = by_what(enclosure=box())
    inner = 1.2 * 0.6 * 2 + 0.6 * 0.6 * 2 + 1.2 * 0.6
    edges = 0.02 * 0.6 * 2 + (1.22 * 0.62 - 1.2 * 0.6)  # where floor and lid lie under the ends, and the back covers both
    panels = sum(found[name].count * found[name].length_m * found[name].width_m for name in ("floor", "lid", "end", "back"))
    assert panels == pytest.approx(inner + edges)


def test_a_lid_of_mesh_and_a_board_have_their_overlaps() -> None:
    found = by_what(enclosure=box(lid="mesh", insulation_m=0.03, vents=[{"height_m": 0.1, "area_m2": 0.01}]))
    assert "lid" not in found
    assert found["back"].width_m == pytest.approx(0.61)
    assert (found["lid-mesh"].length_m, found["lid-mesh"].width_m) == pytest.approx((1.24, 0.64))
    assert found["vent-mesh"].length_m == pytest.approx(0.14)
    assert found["board-end"].count == 2
    assert found["board-back"].thick_m == 0.03


def test_what_is_bought_whole_is_not_cut() -> None:
    assert not {"floor", "pane", "back"} & set(by_what(enclosure=box(kind="glass", lid="mesh")))


def test_the_sill_is_over_the_ground_and_wood_is_kept_dry() -> None:
    """Ground of 12 cm under a door: the lip is 15 cm; sheeting goes up its walls by as much."""
    deep = {"layers": [{"parts": [{"material": "soil", "parts": 1.0}], "depth_m": 0.12, "damp": True}]}
    found = by_what(enclosure=box(kind="plywood"), ground=deep)
    assert found["sill"].width_m == pytest.approx(0.15)
    assert (found["barrier"].length_m, found["barrier"].width_m) == pytest.approx((1.44, 0.84))
    assert "barrier" not in by_what(enclosure=box(), ground=deep)


def test_poles_and_panels_have_their_own_sides() -> None:
    things = [
        {"kind": "branch", "x_m": 0.6, "length_m": 0.8, "width_m": 0.04, "height_m": 0.04, "up_m": 0.2},
        {"kind": "background", "x_m": 0.6, "y_m": 0.58, "length_m": 1.1, "width_m": 0.04, "height_m": 0.4, "base": "wall"},
    ]
    found = by_what(enclosure=box(), things=things)
    assert found["branch"] == Piece("branch", 1, 0.8, 0.04, None, round_=True)
    assert found["background"] == Piece("background", 1, 1.1, 0.4, 0.04)
