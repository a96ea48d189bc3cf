"""Enclosures as they are sold: nominal sizes, and what is left inside once walls, backgrounds and ground are in.

Nominal litres and gallons never stand in for floor: a "40 gallon breeder" is 36 × 18 × 16 in and holds 44.9 gallons by
arithmetic (sizes of the trade, common practice, no source).
"""

import re
from dataclasses import dataclass
from typing import Final

from husbandry.errors import HusbandryError
from husbandry.units import INCH_M


@dataclass(frozen=True)
class Nominal:
    """An enclosure of the trade: inner length, width and height in m, and how it is built (the plan's kind and lid)."""

    length_m: float
    width_m: float
    height_m: float
    kind: str
    lid: str


def _inches(length: float, width: float, height: float, kind: str = "glass", lid: str = "mesh") -> Nominal:
    return Nominal(length * INCH_M, width * INCH_M, height * INCH_M, kind, lid)


def _cm(length: float, width: float, height: float, kind: str, lid: str) -> Nominal:
    return Nominal(length / 100, width / 100, height / 100, kind, lid)


NOMINAL: Final = {
    "tank-10-gal": _inches(20, 10, 12),
    "tank-15-gal": _inches(24, 12, 12),
    "tank-20-gal-high": _inches(24, 12, 16),
    "tank-20-gal-long": _inches(30, 12, 12),
    "tank-29-gal": _inches(30, 12, 18),
    "tank-40-gal-breeder": _inches(36, 18, 16),
    "tank-55-gal": _inches(48, 13, 21),
    "tank-75-gal": _inches(48, 18, 20),
    "tank-120-gal": _inches(48, 24, 24),
    "glass-30-cube": _cm(30, 30, 30, "glass", "mesh"),
    "glass-45-cube": _cm(45, 45, 45, "glass", "mesh"),
    "glass-45-tall": _cm(45, 45, 60, "glass", "mesh"),
    "glass-60-tall": _cm(60, 45, 90, "glass", "mesh"),
    "glass-90": _cm(90, 45, 45, "glass", "mesh"),
    "front-vent-60": _cm(60, 50, 50, "foamed-pvc", "solid"),
    "front-vent-120": _cm(120, 60, 60, "foamed-pvc", "solid"),
    "front-vent-150": _cm(150, 75, 75, "foamed-pvc", "solid"),
    "front-vent-180": _cm(180, 90, 90, "plywood", "solid"),
    "walk-in-240": _cm(240, 120, 120, "plywood", "solid"),
    "tub-small": _cm(35, 20, 13, "polypropylene", "solid"),
    "tub-large": _cm(80, 40, 18, "polypropylene", "solid"),
    "rack-drawer": _cm(86, 45, 25, "polypropylene", "solid"),
    "screen-45": _cm(45, 45, 90, "mesh", "mesh"),
    "screen-60": _cm(60, 60, 120, "mesh", "mesh"),
    "table-120": _cm(120, 60, 45, "open-table", "open"),
    "table-240": _cm(240, 120, 45, "open-table", "open"),
    "shed-300": _cm(300, 200, 200, "plywood", "solid"),
    "pen-400": _cm(400, 200, 60, "open-table", "open"),
}


# As tanks are asked for: a number of US gallons, and what tells two of one number apart.
_GALLONS: Final = re.compile(r"^\s*(\d+)\s*-?\s*(?:us\s*)?(?:gal|gallons?)\b\s*(.*)$", re.IGNORECASE)
_SHAPES: Final = {"long": "long", "low": "long", "high": "high", "tall": "high", "breeder": "breeder", "": ""}


def tank_named(text: str) -> tuple[str, ...]:
    """Return the keys of the tanks that a name may mean.

    Parameters
    ----------
    text
        What somebody calls it: "40 gallon breeder", "20 gal long".

    Returns
    -------
    Keys of `NOMINAL`: none where it names no tank of the trade, several where it does not say which.

    References
    ----------
    Names of the trade: common practice, no source.
    """
    found = _GALLONS.match(text)
    if found is None:
        return ()
    gallons, shape = found[1], _SHAPES.get(found[2].strip().lower().removesuffix("tank").strip(), "?")
    alike = [key for key in NOMINAL if key == f"tank-{gallons}-gal" or key.startswith(f"tank-{gallons}-gal-")]
    exact = [key for key in alike if shape and key.endswith(f"-{shape}")]
    return tuple(exact or (alike if shape == "" else []))


@dataclass(frozen=True)
class Subtraction:
    """One line of the sum: a code, the axis it takes from, how much it takes (m), and what is left on that axis (m)."""

    code: str
    axis: str
    takes_m: float
    left_m: float


@dataclass(frozen=True)
class Inside:
    """What is left: length, width and clear height over the ground in m, volume in m³, and the sum step by step."""

    length_m: float
    width_m: float
    height_m: float
    clear_height_m: float
    volume_m3: float
    steps: tuple[Subtraction, ...]


class NothingLeftError(HusbandryError, ValueError):
    """Walls, backgrounds and ground take the whole of an axis; `axis` names it."""

    def __init__(self, axis: str) -> None:
        super().__init__(f"nothing is left of the {axis}")
        self.axis = axis


def inside(
    outside_m: tuple[float, float, float],
    *,
    wall_m: float = 0.0,
    back_m: float = 0.0,
    sides_m: float = 0.0,
    ground_m: float = 0.0,
) -> Inside:
    """Work out the inner size from outer length, width and height (m).

    Walls and floor and lid are `wall_m` thick, a background on the rear wall `back_m`, on both side walls `sides_m`, the
    ground `ground_m` deep. The inner height reaches from the floor, below the ground, as everywhere in a plan. Raises
    NothingLeftError.

    Parameters
    ----------
    outside_m
        Length, width and height, m.
    wall_m, back_m, sides_m, ground_m
        Thicknesses, m.

    Returns
    -------
    Inside, in m and m³.

    References
    ----------
    Geometry; no source outside.
    """
    left = dict(zip(("length", "width", "height"), outside_m, strict=True))
    steps = []
    for code, axis, takes_m in (
        ("walls", "length", 2 * wall_m),
        ("walls", "width", 2 * wall_m),
        ("walls", "height", 2 * wall_m),
        ("backgrounds", "length", 2 * sides_m),
        ("background", "width", back_m),
    ):
        if takes_m > 0:
            left[axis] -= takes_m
            steps.append(Subtraction(code, axis, takes_m, left[axis]))
        if left[axis] <= 0:
            raise NothingLeftError(axis)
    clear_m = left["height"] - ground_m
    if ground_m > 0:
        steps.append(Subtraction("ground", "height", ground_m, clear_m))
    if clear_m <= 0:
        raise NothingLeftError("height")
    volume = left["length"] * left["width"] * left["height"]
    return Inside(left["length"], left["width"], left["height"], clear_m, volume, tuple(steps))
