"""Body condition drawn: the part that is looked at on each kind of body, wasted to obese, as outlines."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Final

Points = list[tuple[float, float]]
WIDTH, HEIGHT = 150.0, 92.0
MIDDLE: Final = HEIGHT / 2


@dataclass(frozen=True)
class Picture:
    """One picture: the outline filled, lines on it (bones, folds), and lines round it that do not change."""

    body: str
    marks: tuple[str, ...] = ()
    frame: tuple[str, ...] = ()


def _smooth(points: Points, *, closed: bool) -> str:
    """A smooth path through points (Catmull–Rom as cubic Béziers)."""
    count = len(points)

    def at(index: int) -> tuple[float, float]:
        return points[index % count] if closed else points[min(max(index, 0), count - 1)]

    path = f"M{points[0][0]:.1f} {points[0][1]:.1f}"
    for index in range(count if closed else count - 1):
        before, here, there, after = (at(index + step) for step in (-1, 0, 1, 2))
        first = (here[0] + (there[0] - before[0]) / 6, here[1] + (there[1] - before[1]) / 6)
        second = (there[0] - (after[0] - here[0]) / 6, there[1] - (after[1] - here[1]) / 6)
        path += f" C{first[0]:.1f} {first[1]:.1f} {second[0]:.1f} {second[1]:.1f} {there[0]:.1f} {there[1]:.1f}"
    return path + " Z" if closed else path


def _mirrored(upper: Points) -> str:
    """A body lying along the page, its upper edge given from head to tail."""
    lower = [(x, HEIGHT - y) for x, y in reversed(upper) if abs(y - MIDDLE) > 0.01]
    return _smooth([*upper, *lower], closed=True)


def _edge(spans: Iterable[tuple[float, float]]) -> Points:
    """Points of the upper edge from (x, half width)."""
    return [(x, MIDDLE - half) for x, half in spans]


def tail(score: int) -> Picture:
    """A gecko from above: the tail holds its fat."""
    belly, root, fat = (sizes[score - 1] for sizes in ((8, 10.5, 13, 15.5, 19), (2.2, 3.6, 5, 7, 9), (2.4, 5, 8.5, 12.5, 16.5)))
    spans = [(6, 0), (12, 6.5), (22, 8.5), (30, 4.8), (38, belly * 0.86), (54, belly), (70, belly * 0.8)]
    spans += [(80, max(root, 3)), (90, root + 1), (106, fat), (124, fat * 0.6), (144, 0)]
    marks = []
    if score <= 2:
        marks = [f"M{x} {MIDDLE - belly * 0.55:.1f} q4 {belly * 0.55:.1f} 0 {belly * 1.1:.1f}" for x in (46, 53, 60)]
        marks.append(f"M74 {MIDDLE} H138")
    if score == 5:
        marks = [f"M36 {MIDDLE - belly * 0.75:.1f} q7 -6 12 1", f"M36 {MIDDLE + belly * 0.75:.1f} q7 6 12 -1"]
    places = ((42, belly * 0.8, -7), (76, belly * 0.6, 7))
    legs = tuple(_leg(x, side * width, side, lean) for x, width, lean in places for side in (-1, 1))
    return Picture(_mirrored(_edge(spans)), tuple(marks), legs)


def _leg(x: float, y: float, side: int, lean: float) -> str:
    """A leg from the flank out, its foot forward or back."""
    return f"M{x} {MIDDLE + y:.1f} q{lean} {side * 8} {lean * 0.2:.1f} {side * 14} q{lean * 0.4:.1f} {side * 3} {lean} {side * 4}"


def hips(score: int) -> Picture:
    """A lizard from above, its hips and the root of its tail."""
    belly, waist, root = (sizes[score - 1] for sizes in ((13, 17, 21, 25, 30), (8, 11.5, 15, 19.5, 24), (4.5, 7, 10, 14, 18)))
    hip = max(14.0 if score <= 2 else 13.0, waist * 0.95)
    spans = [(4, belly * 0.9), (26, belly), (50, waist), (66, hip), (80, root + 1), (104, root * 0.8), (144, root * 0.28)]
    edge = _edge(spans)
    lower = [(x, HEIGHT - y) for x, y in reversed(edge)]
    marks = []
    if score <= 2:
        marks = [
            f"M60 {MIDDLE - hip + 3:.1f} q10 {hip - 5:.1f} 20 {hip - 4:.1f}",
            f"M60 {MIDDLE + hip - 3:.1f} q10 -{hip - 5:.1f} 20 -{hip - 4:.1f}",
        ]
        marks.append(f"M6 {MIDDLE} H140")
    if score >= 4:
        marks = [f"M84 {MIDDLE - root * 0.5:.1f} q14 -2 26 2", f"M84 {MIDDLE + root * 0.5:.1f} q14 2 26 -2"]
    legs = tuple(
        f"M62 {MIDDLE + side * (hip - 2):.1f} q4 {side * 16} 18 {side * 18} q8 {side * 2} 14 {side * 8}" for side in (-1, 1)
    )
    return Picture(_smooth([*edge, *lower], closed=True), tuple(marks), legs)


def spine(score: int) -> Picture:
    """A snake cut across: a roof with a ridge, a loaf, a drum with a groove."""
    shapes: dict[int, Points] = {
        1: [(75, 12), (82, 26), (98, 58), (92, 76), (75, 79), (58, 76), (52, 58), (68, 26)],
        2: [(75, 14), (88, 26), (102, 54), (95, 76), (75, 80), (55, 76), (48, 54), (62, 26)],
        3: [(75, 14), (94, 22), (106, 48), (98, 75), (75, 81), (52, 75), (44, 48), (56, 22)],
        4: [(75, 13), (98, 19), (112, 46), (102, 75), (75, 82), (48, 75), (38, 46), (52, 19)],
        5: [(75, 18), (94, 9), (118, 28), (116, 62), (98, 80), (75, 83), (52, 80), (34, 62), (32, 28), (56, 9)],
    }
    bone = "M71 30 a4 4 0 1 0 8 0 a4 4 0 1 0 -8 0"
    ridge = "M75 16 V27" if score <= 2 else "M75 20 V27"
    ribs = tuple(f"M{75 + side * 5} 33 q{side * 18} 6 {side * 20} 26" for side in (-1, 1)) if score <= 2 else ()
    return Picture(_smooth(shapes[score], closed=True), (bone, ridge, *ribs))


def shell(score: int) -> Picture:
    """A tortoise from in front: what fills the pockets of the shell beside the head."""
    fill = (2.0, 6.0, 10.0, 14.0, 19.0)[score - 1]
    dome = "M14 62 C14 18 44 8 75 8 C106 8 136 18 136 62"
    rim = "M14 62 Q75 82 136 62"
    head = "M63 58 a12 11 0 1 1 24 0 a12 11 0 1 1 -24 0"
    pockets = " ".join(_pocket(side, fill) for side in (-1, 1))
    return Picture(pockets, (), (dome, rim, head))


def _pocket(side: int, fill: float) -> str:
    """The skin between head and shell on one side: sunken, level or bulging."""
    x, y = 75 + side * 17, 60.0
    points = [(x, y - 4), (x + side * 6, y - 12 - fill), (x + side * (18 + fill * 0.5), y - 10 - fill * 0.8)]
    points += [(x + side * (26 + fill * 0.7), y + 2), (x + side * 16, y + 6 + fill * 0.35), (x + side * 4, y + 5)]
    return _smooth(points, closed=True)


def flanks(score: int) -> Picture:
    """A frog from above: its flanks behind the shoulders."""
    belly, hip = (sizes[score - 1] for sizes in ((10, 14, 19, 25, 32), (9, 11, 13, 16, 20)))
    spans = [(18, 0), (24, 11), (40, 16), (54, 13.5), (72, belly), (92, (belly + hip) / 2), (108, hip), (118, 0)]
    marks = [f"M62 {MIDDLE} H112"] if score <= 2 else []
    if score <= 2:
        marks += [f"M98 {MIDDLE - hip + 2:.1f} l12 {hip - 4:.1f}", f"M98 {MIDDLE + hip - 2:.1f} l12 -{hip - 4:.1f}"]
    if score == 5:
        marks = [f"M60 {MIDDLE - belly * 0.72:.1f} q14 -6 26 2", f"M60 {MIDDLE + belly * 0.72:.1f} q14 6 26 -2"]
    legs = tuple(f"M104 {MIDDLE + side * hip:.1f} q-26 {side * 14} -8 {side * 18} q22 {side * 4} 40 -{4}" for side in (-1, 1))
    return Picture(_mirrored(_edge(spans)), tuple(marks), legs)


PICTURES: Final[dict[str, Callable[[int], Picture]]] = {
    "tail": tail,
    "hips": hips,
    "spine": spine,
    "shell": shell,
    "flanks": flanks,
}


def picture(sign: str, score: int) -> Picture:
    """Return the picture of one sign at a score of 1 to 5; raises KeyError."""
    return PICTURES[sign](score)
