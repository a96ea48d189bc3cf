"""What stands in the enclosure, drawn: each kind's shape from the front and from above, as paths in pixels.

From the front a thing is as wide as it looks when it is turned; from above its outline is turned. Shapes are by the catalogue
(`husbandry.furnishing.things`): a new kind with a known shape needs nothing here.
"""

import math
from dataclasses import dataclass
from typing import Any, Final, Protocol

from husbandry.plan.geometry import STEEP_DEG, depth_of, foot_m, half_sides_m, surface_m, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing

LEAST_PX: Final = 3.0  # nothing is drawn thinner
WAVE_PX: Final = 3.0
PEG_PX: Final = 4.5
HELD_FROM_M: Final = 0.02  # above its base: lower than that it lies there
LEAVES: Final = 5


class Scaled(Protocol):
    """A drawing's frame: pixels a metre, and pixels of places in m."""

    @property
    def scale(self) -> float: ...

    def x(self, x_m: float) -> Any: ...

    def y(self, y_m: float) -> Any: ...


@dataclass(frozen=True)
class _Box:
    """Where a thing stands in pixels, from the front: left, right, foot and top (y grows downwards)."""

    left: float
    right: float
    foot: float
    top: float

    @property
    def wide(self) -> float:
        return self.right - self.left

    @property
    def high(self) -> float:
        return self.foot - self.top

    @property
    def middle(self) -> float:
        return (self.left + self.right) / 2

    def at(self, across: float, up: float) -> str:
        """A place by its shares of the width and the height."""
        return f"{self.left + across * self.wide:.1f},{self.foot - up * self.high:.1f}"


Piece = dict[str, str]  # the class of a path and the path


def from_the_front(plan: HabitatPlan, frame: Scaled) -> list[dict[str, Any]]:
    """Every thing as the section draws it, those farther back first and basking places last."""
    order = sorted(enumerate(plan.things), key=lambda item: (item[1].of.shape != "panel", item[1].basking, -y_of(plan, item[1])))
    return [_front(plan, f"things.{index}", thing, frame) for index, thing in order]


def from_above(plan: HabitatPlan, frame: Scaled) -> list[dict[str, Any]]:
    """Every thing as the floor plan draws it, what hangs or lies higher last."""
    order = sorted(enumerate(plan.things), key=lambda item: (item[1].lets_under, foot_m(plan, item[1]) + item[1].height_m))
    return [_above(plan, f"things.{index}", thing, frame) for index, thing in order]


def _front(plan: HabitatPlan, path: str, thing: Thing, frame: Scaled) -> dict[str, Any]:
    half_m = half_sides_m(plan, thing)[0]
    foot = foot_m(plan, thing)
    box = _Box(
        float(frame.x(thing.x_m - half_m)),
        float(frame.x(thing.x_m + half_m)),
        float(frame.y(foot)),
        min(float(frame.y(foot + thing.height_m)), float(frame.y(foot)) - LEAST_PX),
    )
    shape = thing.of.shape
    grown = thing.of.along and shape != "tube"
    pieces = _between(thing, frame, foot) if grown else FRONT[shape](box, thing, frame)
    pieces = _held(plan, thing, frame, box) + pieces
    buried = thing.stands == "floor" and plan.ground.depth_m > 0
    return {"path": path, "css": _css(thing), "pieces": pieces, "turn": "", "x": box.middle, "y": box.top, "buried": buried}


def _held(plan: HabitatPlan, thing: Thing, frame: Scaled, box: _Box) -> list[Piece]:
    """What holds up a thing that does not stand on the ground: uprights, cords from the lid, pegs in the wall."""
    if not thing.lets_under or (thing.stands == "ground" and thing.up_m < HELD_FROM_M):
        return []
    rise = math.tan(math.radians(thing.slope_deg)) if thing.of.along and abs(thing.slope_deg) < STEEP_DEG else 0.0
    found = []
    for share in (0.18, 0.82):
        x, middle = box.left + share * box.wide, (box.foot + box.top) / 2 - rise * (share - 0.5) * box.wide
        if thing.stands == "ground":
            down = float(frame.y(surface_m(plan, thing.x_m + (share - 0.5) * 2 * half_sides_m(plan, thing)[0], y_of(plan, thing))))
            found.append(_piece("foot", f"M{x - 2:.1f},{middle:.1f}h4V{down:.1f}h-4Z"))
        elif thing.stands == "hanging":
            found.append(_piece("cord", f"M{x:.1f},{middle:.1f}V{float(frame.y(plan.enclosure.height_m)):.1f}"))
    if thing.stands == "wall" and thing.of.shape != "ledge":
        found.append(
            _piece("foot", _circle(box.middle, box.foot if thing.of.shape == "leaves" else (box.foot + box.top) / 2, PEG_PX))
        )
    return found


def _css(thing: Thing) -> str:
    flags = [name for name, on in (("humid", thing.humid), ("basking", thing.basking), ("heated", thing.heated_w)) if on]
    return " ".join([thing.of.shape, thing.made_of, *flags])


def _piece(css: str, path: str) -> Piece:
    return {"css": css, "d": path}


def _outline(box: _Box, *places: tuple[float, float]) -> str:
    """A closed outline through places of the box."""
    return "M" + "L".join(box.at(*place) for place in places) + "Z"


def _arch(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    body = f"M{box.at(0, 0)}C{box.at(0, 1.3)} {box.at(1, 1.3)} {box.at(1, 0)}Z"
    return [_piece("bulk", body), _door(box, 0.5, 0.44, 0.55)]


def _door(box: _Box, middle: float, wide: float, high: float) -> Piece:
    """A dark opening: half an oval on the foot."""
    return _piece(
        "door",
        f"M{box.at(middle - wide / 2, 0)}C{box.at(middle - wide / 2, high * 1.3)} {box.at(middle + wide / 2, high * 1.3)} "
        f"{box.at(middle + wide / 2, 0)}Z",
    )


def _cave(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    body = "M" + "L".join(
        box.at(*place)
        for place in ((0, 0), (0.04, 0.5), (0.16, 0.86), (0.38, 1.0), (0.66, 0.94), (0.88, 0.74), (1.0, 0.32), (1.0, 0))
    )
    cracks = f"M{box.at(0.16, 0.86)}L{box.at(0.24, 0.6)}M{box.at(0.66, 0.94)}L{box.at(0.74, 0.62)}L{box.at(0.9, 0.5)}"
    return [_piece("bulk", body + "Z"), _piece("grain", cracks), _door(box, 0.46, 0.4, 0.58)]


def _mound(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    body = f"M{box.at(-0.1, 0)}C{box.at(0.1, 1.2)} {box.at(0.9, 1.2)} {box.at(1.1, 0)}Z"
    tunnel = f"M{box.at(0.98, 0.75)}L{box.at(1.3, 1.05)}L{box.at(1.42, 0.95)}L{box.at(1.06, 0.5)}Z"
    return [_piece("bulk", body), _piece("door", tunnel), _door(box, 0.5, 0.5, 0.5)]


def _tube(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    bow = min(box.high * 0.3, box.wide * 0.2)
    arc = f"A{bow:.1f},{box.high / 2:.1f} 0 0 0"
    near, far = box.left + bow, box.right - bow
    body = f"M{near:.1f},{box.foot:.1f}H{far:.1f}{arc} {far:.1f},{box.top:.1f}H{near:.1f}{arc} {near:.1f},{box.foot:.1f}Z"
    half = f"a{bow:.1f},{box.high / 2:.1f} 0 0 0 0,"
    hole = f"M{far:.1f},{box.foot:.1f}{half}{-box.high:.1f}{half}{box.high:.1f}Z"
    bark = f"M{box.at(0.2, 0.75)}H{box.left + 0.55 * box.wide:.1f}M{box.at(0.3, 0.4)}H{box.left + 0.75 * box.wide:.1f}"
    return [_piece("bulk", body), _piece("grain", bark), _piece("door", hole)]


def _ledge(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    body = f"M{box.at(0, 1)}H{box.right:.1f}L{box.at(0.96, 0)}H{box.left + 0.04 * box.wide:.1f}Z"
    bracket = f"M{box.at(0.3, 0)}L{box.at(0.5, -1.1)}L{box.at(0.7, 0)}Z"
    return [_piece("bracket", bracket), _piece("bulk", body)]


def _slab(box: _Box, thing: Thing, frame: Scaled) -> list[Piece]:
    """A slate; one that lies high rests on two stones and is no thicker than a slate."""
    thick = min(box.high, max(0.025 * frame.scale, 4.0))
    top = _Box(box.left, box.right, box.top + thick, box.top)
    body = _outline(top, (0, 0.2), (0.02, 1), (0.97, 1), (1, 0.3), (0.98, 0), (0.02, 0))
    feet = []
    if box.high > thick + LEAST_PX:
        low = (box.high - thick) / box.high
        for middle in (0.16, 0.84):
            sides = (middle - 0.09, 0.0), (middle - 0.06, low), (middle + 0.06, low), (middle + 0.09, 0.0)
            feet.append(_piece("foot", _outline(box, *sides)))
    return [*feet, _piece("bulk", body)]


def _boulder(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    body = (
        f"M{box.at(0.02, 0)}C{box.at(-0.03, 0.55)} {box.at(0.06, 0.98)} {box.at(0.26, 1)}L{box.at(0.76, 1)}"
        f"C{box.at(0.97, 0.97)} {box.at(1.04, 0.45)} {box.at(0.98, 0)}Z"
    )
    grain = f"M{box.at(0.14, 0.7)}L{box.at(0.34, 0.52)}L{box.at(0.6, 0.62)}M{box.at(0.72, 0.3)}L{box.at(0.88, 0.42)}"
    return [_piece("bulk", body), _piece("grain", grain)]


def _stack(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    pieces = []
    for low, left, right in ((0.0, 0.0, 0.94), (0.36, 0.06, 1.0), (0.74, 0.02, 0.96)):
        pieces.append(_piece("bulk", _outline(box, (left, low), (left, low + 0.24), (right, low + 0.26), (right, low))))
        if low < 0.7:
            for foot in (0.14, 0.78):
                props = (foot, low + 0.24), (foot, low + 0.37), (foot + 0.08, low + 0.37), (foot + 0.08, low + 0.25)
                pieces.append(_piece("foot", _outline(box, *props)))
    return pieces


def _bowl(box: _Box, thing: Thing, _frame: Scaled) -> list[Piece]:
    filled = min(thing.water_m / thing.height_m, 0.92) if thing.water_m and thing.height_m else 0.72
    inset = 0.12 * (1 - filled)
    body = f"M{box.at(0, 1)}H{box.right:.1f}L{box.at(0.88, 0)}H{box.left + 0.12 * box.wide:.1f}Z"
    water = f"M{box.at(inset, filled)}H{box.right - inset * box.wide:.1f}L{box.at(0.86, 0.12)}H{box.left + 0.14 * box.wide:.1f}Z"
    return [
        _piece("bulk", body),
        _piece("filled", water),
        _piece("water", f"M{box.at(inset, filled)}H{box.right - inset * box.wide:.1f}"),
    ]


def _dish(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    body = f"M{box.at(0, 1)}C{box.at(0.1, -0.1)} {box.at(0.9, -0.1)} {box.at(1, 1)}Z"
    return [_piece("bulk", body), _piece("grain", f"M{box.at(0, 1)}H{box.right:.1f}")]


def _pot(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    body = _outline(box, (0, 1), (1, 1), (1, 0.84), (0.95, 0.84), (0.84, 0), (0.16, 0), (0.05, 0.84), (0, 0.84))
    return [_piece("bulk", body), _piece("grain", f"M{box.at(0.05, 0.84)}H{box.left + 0.95 * box.wide:.1f}")]


def _leaves(box: _Box, _thing: Thing, _frame: Scaled) -> list[Piece]:
    """Blades that rise from one root and fall to either side."""
    stems, blades = "", ""
    for index in range(LEAVES):
        lean = (index - (LEAVES - 1) / 2) / ((LEAVES - 1) / 2)  # -1 … 1
        tip_x, tip_up = 0.5 + 0.5 * lean, 1.0 - 0.42 * lean * lean
        bend_x = 0.5 + 0.22 * lean
        stems += f"M{box.at(0.5, 0)}Q{box.at(bend_x, tip_up * 0.8)} {box.at(tip_x, tip_up)}"
        wide = 0.09 + 0.03 * (index % 2)
        root = box.at(0.5, 0.05)
        blades += f"M{root}Q{box.at(bend_x - wide, tip_up * 0.85)} {box.at(tip_x, tip_up)}"
        blades += f"Q{box.at(bend_x + wide, tip_up * 0.7)} {root}Z"
    return [_piece("blade", blades), _piece("stem", stems)]


def _open_box(box: _Box, thing: Thing, _frame: Scaled) -> list[Piece]:
    body = f"M{box.at(0, 1)}V{box.foot:.1f}H{box.right:.1f}V{box.top:.1f}"
    filled = f"M{box.at(0.03, 0.82)}H{box.left + 0.97 * box.wide:.1f}V{box.foot:.1f}H{box.left + 0.03 * box.wide:.1f}Z"
    pieces = [_piece("earth", filled), _piece("bulk hollow", body)]
    if thing.of.dark:
        pieces += [
            _piece("bulk", f"M{box.at(-0.02, 1)}H{box.right + 0.02 * box.wide:.1f}v-4h{-1.04 * box.wide:.1f}Z"),
            _door(box, 0.3, 0.3, 0.4),
        ]
    return pieces


def _wall(box: _Box, thing: Thing, frame: Scaled) -> list[Piece]:
    wide = max(box.wide, 4.0)
    left = box.middle - wide / 2
    if thing.kind == "strip-curtain":
        strips = "".join(f"M{left + share * wide:.1f},{box.top:.1f}V{box.foot:.1f}" for share in (0.1, 0.5, 0.9))
        return [_piece("strips", strips), _piece("bulk", f"M{left - 3:.1f},{box.top:.1f}h{wide + 6:.1f}v4h{-wide - 6:.1f}Z")]
    passage = min((thing.entrance_m or thing.of.entrance_m or 0.1) * frame.scale, 0.6 * box.high)
    return [
        _piece("bulk", f"M{left:.1f},{box.top:.1f}h{wide:.1f}V{box.foot:.1f}h{-wide:.1f}Z"),
        _piece("door", f"M{left:.1f},{box.foot - passage:.1f}h{wide:.1f}V{box.foot:.1f}h{-wide:.1f}Z"),
    ]


def _panel(box: _Box, thing: Thing, _frame: Scaled) -> list[Piece]:
    """A background behind everything: its edge, its courses, and ledges where it has some."""
    courses = "".join(f"M{box.at(0.02, up)}H{box.left + 0.98 * box.wide:.1f}" for up in (0.2, 0.42, 0.64, 0.86))
    places = (0.22, 0.3), (0.22, 0.7), (0.44, 0.5), (0.66, 0.25), (0.66, 0.75)
    joints = "".join(f"M{box.at(across, low)}L{box.at(across, low + 0.2)}" for low, across in places)
    pieces = [_piece("bulk far", _outline(box, (0, 0), (0, 1), (1, 1), (1, 0))), _piece("grain", courses + joints)]
    if thing.good_for("climb"):
        for across, up in ((0.08, 0.3), (0.55, 0.5), (0.2, 0.7)):
            edge = (across, up), (across + 0.3, up), (across + 0.27, up - 0.04), (across + 0.03, up - 0.04)
            pieces.append(_piece("bulk", _outline(box, *edge)))
    return pieces


FRONT: Final = {
    "arch": _arch,
    "dome": _arch,
    "cave": _cave,
    "mound": _mound,
    "tube": _tube,
    "ledge": _ledge,
    "slab": _slab,
    "boulder": _boulder,
    "stack": _stack,
    "bowl": _bowl,
    "dish": _dish,
    "pot": _pot,
    "leaves": _leaves,
    "box": _open_box,
    "wall": _wall,
    "panel": _panel,
}


def _between(thing: Thing, frame: Scaled, foot: float) -> list[Piece]:
    """A branch or a vine between its two ends, with the bends of grown wood."""
    turn, slope = math.radians(thing.turn_deg), math.radians(thing.slope_deg)
    run_m, rise_m = thing.length_m / 2 * math.cos(slope) * math.cos(turn), thing.length_m / 2 * math.sin(slope)
    middle_m, half = foot + thing.height_m / 2, max(thing.height_m * frame.scale / 2, LEAST_PX / 2)
    ends = [(float(frame.x(thing.x_m + side * run_m)), float(frame.y(middle_m + side * rise_m))) for side in (-1, 1)]
    (x0, y0), (x1, y1) = ends
    long = math.hypot(x1 - x0, y1 - y0) or 1.0
    nx, ny = (y1 - y0) / long, -(x1 - x0) / long  # across it

    def at(along: float, aside: float) -> str:
        return f"{x0 + along * (x1 - x0) + aside * nx:.1f},{y0 + along * (y1 - y0) + aside * ny:.1f}"

    if thing.of.shape == "vine":
        bow = min(0.06 * long, 14.0)
        return [_piece("line", f"M{at(0, 0)}C{at(0.25, bow)} {at(0.35, -bow)} {at(0.5, 0)}S{at(0.8, bow)} {at(1, 0)}")]
    bend = min(WAVE_PX, half)
    body = (
        f"M{at(0, half)}C{at(0.3, half + bend)} {at(0.6, half - bend)} {at(1, half * 0.7)}L{at(1, -half * 0.7)}"
        f"C{at(0.6, -half - bend)} {at(0.3, -half + bend)} {at(0, -half)}Z"
    )
    grain = f"M{at(0.08, 0.1 * half)}L{at(0.42, 0.3 * half)}M{at(0.5, -0.3 * half)}L{at(0.9, -0.1 * half)}"
    twig = f"M{at(0.68, half * 0.6)}L{at(0.8, half + 3 * bend)}L{at(0.74, half * 0.6)}Z"
    return [_piece("bulk", twig), _piece("bulk", body), _piece("grain", grain)]


def _above(plan: HabitatPlan, path: str, thing: Thing, frame: Scaled) -> dict[str, Any]:
    x, y = float(frame.x(thing.x_m)), float(frame.y(y_of(plan, thing)))
    run = thing.length_m * (math.cos(math.radians(thing.slope_deg)) if thing.of.along else 1.0)
    wide, deep = max(run * frame.scale, LEAST_PX), max(depth_of(plan, thing) * frame.scale, LEAST_PX)
    box = _Box(x - wide / 2, x + wide / 2, y + deep / 2, y - deep / 2)
    shape = thing.of.shape
    if shape in ("bowl", "dish"):
        pieces = [
            _piece("bulk", _circle(x, y, wide / 2)),
            _piece("filled" if shape == "bowl" else "grain", _circle(x, y, 0.82 * wide / 2)),
        ]
    elif shape == "leaves":
        pieces = [_piece("blade", _rosette(x, y, wide / 2, deep / 2))]
    elif shape in ("boulder", "cave", "mound"):
        outline = ((0, 0.3), (0.06, 0.8), (0.3, 1), (0.72, 0.97), (0.98, 0.7), (1, 0.25), (0.8, 0.02), (0.25, 0))
        pieces = [_piece("bulk", "M" + "L".join(box.at(*place) for place in outline) + "Z")]
    elif shape == "vine":
        pieces = [_piece("line", f"M{box.at(0, 0.5)}Q{box.at(0.25, 2)} {box.at(0.5, 0.5)}T{box.at(1, 0.5)}")]
    else:
        pieces = [_piece("bulk", _rounded(box, min(4.0, wide / 4, deep / 4)))]
        if shape == "pot":
            pieces.append(
                _piece(
                    "earth",
                    f"M{box.at(0.1, 0.1)}H{box.right - 0.1 * wide:.1f}V{box.top + 0.1 * deep:.1f}H{box.left + 0.1 * wide:.1f}Z",
                )
            )
    if thing.of.entrance_m is not None and shape not in ("wall", "stack", "tube"):
        half = min((thing.entrance_m or thing.of.entrance_m) * frame.scale, 0.8 * wide) / 2
        pieces.append(
            _piece("door", f"M{x - half:.1f},{box.foot:.1f}A{half:.1f},{half * 0.7:.1f} 0 0 1 {x + half:.1f},{box.foot:.1f}Z")
        )
    turn = f"rotate({-thing.turn_deg:.1f} {x:.1f} {y:.1f})" if thing.turn_deg else ""
    return {"path": path, "css": _css(thing), "pieces": pieces, "turn": turn, "x": x, "y": y}


def _rounded(box: _Box, corner: float) -> str:
    """A rectangle with round corners."""
    wide, high, turn = box.wide - 2 * corner, box.high - 2 * corner, f"{corner:.1f}"
    return (
        f"M{box.left + corner:.1f},{box.top:.1f}h{wide:.1f}q{turn},0 {turn},{turn}v{high:.1f}q0,{turn} -{turn},{turn}"
        f"h{-wide:.1f}q-{turn},0 -{turn},-{turn}v{-high:.1f}q0,-{turn} {turn},-{turn}Z"
    )


def _circle(x: float, y: float, r: float) -> str:
    return f"M{x - r:.1f},{y:.1f}a{r:.1f},{r:.1f} 0 1 0 {2 * r:.1f},0a{r:.1f},{r:.1f} 0 1 0 {-2 * r:.1f},0Z"


def _rosette(x: float, y: float, wide: float, deep: float) -> str:
    """Leaves about a middle."""
    path = ""
    for index in range(2 * LEAVES - 2):
        turn = index * math.pi / (LEAVES - 1)
        long = 1.0 if index % 2 == 0 else 0.78
        tip = x + long * wide * math.cos(turn), y + long * deep * math.sin(turn)
        sides = [(x + 0.55 * wide * math.cos(turn + off), y + 0.55 * deep * math.sin(turn + off)) for off in (-0.3, 0.3)]
        near, far = (f"{side[0]:.1f},{side[1]:.1f}" for side in sides)
        path += f"M{x:.1f},{y:.1f}Q{near} {tip[0]:.1f},{tip[1]:.1f}Q{far} {x:.1f},{y:.1f}Z"
    return path
