"""The kinds of things that stand in an enclosure, and what they are made of.

The kinds are data/things.toml beside this module: a new kind is one row. Sizes, shares and temperatures that a material bears are
common practice or estimates with no source; densities and conductivities are common tables, from memory.
"""

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field

Role = Literal[
    "hide", "humid", "bask", "climb", "drink", "soak", "feed", "dig", "lay", "cover", "wear", "calcium", "plant", "divide",
]  # fmt: skip
Shape = Literal[
    "arch", "cave", "dome", "mound", "tube", "branch", "vine", "ledge", "slab", "boulder", "stack", "bowl", "dish", "pot",
    "leaves", "box", "wall", "panel",
]  # fmt: skip
Base = Literal["ground", "floor", "wall", "hanging"]
Stuff = Literal[
    "cork", "wood", "stone", "slate", "ceramic", "resin", "plastic", "coated-foam", "fabric", "leaves", "bone",
]  # fmt: skip
Perch = Literal["slate", "stone", "wood", "branch"]
ROUND: Final[tuple[Shape, ...]] = ("bowl", "dish")  # as deep from front to back as they are long
SLAB_M: Final = 0.025  # how thick a slate is at most: one that lies higher lies on something
ALONG: Final[tuple[Shape, ...]] = ("branch", "vine", "tube")  # their length lies along themselves, between two ends


@dataclass(frozen=True)
class ThingMaterial:
    """`kg_l` is its density, `conductivity` in W/mK, `heat_capacity` in J/m³K; `bears_c` what it bears."""

    kg_l: float
    conductivity: float
    heat_capacity: float
    bears_c: float


STUFF: Final[dict[Stuff, ThingMaterial]] = {
    "cork": ThingMaterial(0.20, 0.045, 0.35e6, 110.0),
    "wood": ThingMaterial(0.65, 0.15, 1.1e6, 90.0),
    "stone": ThingMaterial(2.60, 2.5, 2.1e6, 300.0),
    "slate": ThingMaterial(2.75, 2.0, 2.2e6, 300.0),
    "ceramic": ThingMaterial(2.00, 1.0, 1.7e6, 300.0),
    "resin": ThingMaterial(1.20, 0.2, 1.6e6, 70.0),
    "plastic": ThingMaterial(0.95, 0.22, 1.7e6, 60.0),
    "coated-foam": ThingMaterial(0.10, 0.04, 0.10e6, 60.0),
    "fabric": ThingMaterial(0.30, 0.06, 0.4e6, 60.0),
    "leaves": ThingMaterial(0.80, 0.5, 3.0e6, 45.0),
    "bone": ThingMaterial(0.60, 0.3, 1.0e6, 100.0),
}


class ThingKind(BaseModel):
    """One kind: what it is good for, how it is drawn, where it may stand, its usual size (length, depth, height in m)."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    roles: tuple[Role, ...]
    shape: Shape
    bases: Annotated[tuple[Base, ...], Field(min_length=1)]
    materials: Annotated[tuple[Stuff, ...], Field(min_length=1)]
    size_m: tuple[float, float, float]
    solid: Annotated[float, Field(gt=0, le=1)]
    dark: bool = False
    entrance_m: Annotated[float, Field(gt=0)] | None = None
    perch: Perch | None = None

    @property
    def round(self) -> bool:
        """Tell whether it is as deep from front to back as it is long."""
        return self.shape in ROUND

    @property
    def along(self) -> bool:
        """Tell whether it lies between two ends, as a branch does."""
        return self.shape in ALONG


@cache
def kinds() -> dict[str, ThingKind]:
    """Every kind by its key, in the order of the table."""
    text = files("husbandry.furnishing").joinpath("data/things.toml").read_text(encoding="utf-8")
    return {key: ThingKind.model_validate(row) for key, row in tomllib.loads(text).items()}


def kind_of(key: str) -> ThingKind:
    """Return one kind; raises KeyError."""
    return kinds()[key]


def mass_kg(kind: ThingKind, material: Stuff, size_m: tuple[float, float, float]) -> float:
    """Return what a thing weighs without its water.

    Parameters
    ----------
    kind, material
        What it is, and what it is made of.
    size_m
        Its length, depth and height, m.

    Returns
    -------
    kg.

    References
    ----------
    Its outer box times the share of it that is material (estimate) times the density (common tables; from memory).
    """
    length_m, depth_m, height_m = size_m
    if kind.shape == "slab":
        height_m = min(height_m, SLAB_M)
    return 1000 * STUFF[material].kg_l * kind.solid * length_m * depth_m * height_m


def that_sinks(kind: ThingKind) -> Stuff:
    """What a thing of this kind is made of where it stands under water: the usual where that sinks, else the first that does."""
    return next((stuff for stuff in kind.materials if STUFF[stuff].kg_l > 1.0), kind.materials[0])
