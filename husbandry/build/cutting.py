"""The cut list: what of a plan is sawn, cut or bent to a size, each piece with its sides."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import sqrt
from typing import Final

from husbandry.climate.walls import build_of
from husbandry.plan.box import Enclosure
from husbandry.plan.geometry import depth_of
from husbandry.plan.habitat import HabitatPlan

BUILT: Final = ("foamed-pvc", "pvc", "plywood", "open-table")  # out of panels; others are bought whole
CUT: Final = ("branch", "vine", "ledge", "partition", "background", "background-ledges", "strip-curtain", "slate", "feeding-slate")
RAIL_M: Final = 0.06  # above a front opening: it holds the upper track
SILL_M: Final = 0.08  # below it, where the plan says nothing
LEAST_SILL_M: Final = 0.03  # above the ground
OVERLAP_M: Final = 0.02  # that two sliding panes lie over one another, and mesh over an opening's edge
PLAY_M: Final = 0.005  # that a pane is lower than its opening
PANE_M: Final = 0.004


@dataclass(frozen=True)
class Piece:
    """So many pieces of one size: `what` by a key, its longer and its shorter side, and how thick it is, m.

    `round_` tells that it is a pole: `width_m` is its diameter.
    """

    what: str
    count: int
    length_m: float
    width_m: float
    thick_m: float | None = None
    round_: bool = False


def cut_list(plan: HabitatPlan) -> tuple[Piece, ...]:
    """Return what of a plan is cut to a size.

    Parameters
    ----------
    plan
        What is built.

    Returns
    -------
    Piece, in the order in which they are cut: panels, panes, mesh, boards, furniture. The ends stand between floor and lid; the
    back covers both and the ends from behind.

    References
    ----------
    Geometry; overlaps, rail and sill are common practice, no source.
    """
    pieces = [*_panels(plan), *_openings(plan.enclosure), *_boards(plan.enclosure), *_barrier(plan), *_furniture(plan)]
    return tuple(_lying(piece) for piece in pieces)


def _lying(piece: Piece) -> Piece:
    """The longer side first."""
    long_m, short_m = max(piece.length_m, piece.width_m), min(piece.length_m, piece.width_m)
    return Piece(piece.what, piece.count, round(long_m, 4), round(short_m, 4), piece.thick_m, piece.round_)


def _wall_m(box: Enclosure) -> float:
    return build_of(box.kind, box.wall_m).thickness_m or 0.0


def _panels(plan: HabitatPlan) -> Iterator[Piece]:
    box = plan.enclosure
    if box.kind not in BUILT:
        return
    wall_m = _wall_m(box)
    lids = 1 if box.lid == "solid" else 0
    outer_m = box.length_m + 2 * wall_m
    yield Piece("floor", 1, outer_m, box.width_m, wall_m)
    if lids:
        yield Piece("lid", 1, outer_m, box.width_m, wall_m)
    yield Piece("end", 2, box.width_m, box.height_m, wall_m)
    yield Piece("back", 1, outer_m, box.height_m + wall_m * (1 + lids), wall_m)
    if box.opens == "top" or box.lid == "open":
        yield Piece("front", 1, box.length_m, box.height_m, wall_m)
        return
    sill_m = _sill_m(plan)
    yield Piece("sill", 1, box.length_m, sill_m, wall_m)
    yield Piece("rail", 1, box.length_m, RAIL_M, wall_m)
    open_m = box.height_m - sill_m - RAIL_M
    if open_m > PLAY_M:
        yield Piece("pane", 2, box.length_m / 2 + OVERLAP_M, open_m - PLAY_M, PANE_M)


def _sill_m(plan: HabitatPlan) -> float:
    """How high the lip under a front door is: over the ground in any case."""
    return max(plan.enclosure.sill_m or SILL_M, plan.ground.depth_m + LEAST_SILL_M)


def _openings(box: Enclosure) -> Iterator[Piece]:
    if box.lid == "mesh" and box.kind in BUILT:
        yield Piece("lid-mesh", 1, box.length_m + 2 * OVERLAP_M, box.width_m + 2 * OVERLAP_M)
    for vent in box.vents:
        side_m = sqrt(vent.area_m2)
        yield Piece("vent-mesh", 1, side_m + 2 * OVERLAP_M, side_m + 2 * OVERLAP_M)


def _boards(box: Enclosure) -> Iterator[Piece]:
    if box.insulation_m <= 0:
        return
    wall_m = _wall_m(box)
    outer_m, high_m = box.length_m + 2 * wall_m, box.height_m + 2 * wall_m
    yield Piece("board-back", 1, outer_m, high_m, box.insulation_m)
    yield Piece("board-end", 2, box.width_m + wall_m, high_m, box.insulation_m)
    yield Piece("board-floor", 1, outer_m, box.width_m + wall_m, box.insulation_m)


def _barrier(plan: HabitatPlan) -> Iterator[Piece]:
    """Sheeting under damp ground in a box of wood: up the walls as high as the ground."""
    box = plan.enclosure
    if box.kind in ("plywood", "open-table") and plan.ground.damp and plan.ground.depth_m > 0:
        up_m = 2 * plan.ground.depth_m
        yield Piece("barrier", 1, box.length_m + up_m, box.width_m + up_m)


def _furniture(plan: HabitatPlan) -> Iterator[Piece]:
    for thing in plan.things:
        if thing.kind not in CUT:
            continue
        if thing.kind in ("branch", "vine"):
            yield Piece(thing.kind, 1, thing.length_m, thing.height_m, None, round_=True)
        elif thing.of.shape in ("panel", "wall"):
            long_m = max(thing.length_m, depth_of(plan, thing))
            yield Piece(thing.kind, 1, long_m, thing.height_m, min(thing.length_m, depth_of(plan, thing)))
        else:
            yield Piece(thing.kind, 1, thing.length_m, depth_of(plan, thing), thing.height_m)
