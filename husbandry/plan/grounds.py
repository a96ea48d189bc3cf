"""The ground of a plan: layers from the floor up over the whole floor, and areas that have layers of their own."""

from collections.abc import Iterable
from typing import Annotated, Final, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from husbandry.furnishing.mixes import Mix, ground_stuff
from husbandry.plan.equipment import GroundKind, Metres, Part, Position, Text

MOST_LAYERS, MOST_PARTS, MOST_AREAS = 6, 8, 6
TOP_M: Final = 0.03  # of the ground that the air sees: what it is made of is what the climate model takes the ground for


class MixPart(Part):
    """So many parts by volume of one material."""

    material: Mix
    parts: Annotated[float, Field(ge=0, le=1000)] = 1.0


class Layer(Part):
    """A layer of ground as it lies: `parts` by volume, how deep, whether it is kept damp.

    `pressed` is the share of its loose depth that is lost when it settles, where it is not the materials' usual.
    """

    parts: Annotated[tuple[MixPart, ...], Field(min_length=1, max_length=MOST_PARTS)]
    depth_m: Annotated[float, Field(ge=0, le=1)]
    damp: bool = False
    pressed: Annotated[float, Field(ge=0, le=0.5)] | None = None

    @model_validator(mode="after")
    def _of_something(self) -> Self:
        if sum(part.parts for part in self.parts) <= 0:
            raise PydanticCustomError("parts_of_nothing", "the parts add up to nothing")
        if len({part.material for part in self.parts}) < len(self.parts):
            raise PydanticCustomError("part_twice", "a material is named twice")
        return self

    @property
    def shares(self) -> dict[Mix, float]:
        """Each material's share of the volume."""
        whole = sum(part.parts for part in self.parts)
        return {part.material: part.parts / whole for part in self.parts if part.parts > 0}

    @property
    def main(self) -> Mix:
        """The material there is most of; the first named where there are two."""
        return max(self.shares.items(), key=lambda item: item[1])[0]

    @property
    def lost(self) -> float:
        """The share of its loose depth that is lost when it settles."""
        if self.pressed is not None:
            return self.pressed
        return sum(share * ground_stuff()[material].pressed for material, share in self.shares.items())


Layers = Annotated[tuple[Layer, ...], Field(min_length=1, max_length=MOST_LAYERS)]


class GroundArea(Part):
    """A part of the floor with layers of its own: the middle and the sides of a rectangle."""

    x_m: Position
    y_m: Position
    length_m: Metres
    width_m: Metres
    layers: Layers
    name: Text = ""

    def covers(self, x_m: float, y_m: float) -> bool:
        """Tell whether a place on the floor lies in it."""
        return abs(x_m - self.x_m) <= self.length_m / 2 and abs(y_m - self.y_m) <= self.width_m / 2

    @property
    def depth_m(self) -> float:
        """How deep it is."""
        return deep(self.layers)


class Ground(Part):
    """What covers the floor: `layers` from the floor up wherever no area has its own.

    Over the whole length it is `rise_right_m` higher at the right wall than at the left, over the width `rise_back_m` higher at the
    back than at the front; the depths are those of the middle. `barrier` is a moisture barrier on the floor, `living` ground has a
    clean-up crew. The keeper's bucket holds `bucket_m3`.
    """

    layers: Layers
    areas: Annotated[tuple[GroundArea, ...], Field(max_length=MOST_AREAS)] = ()
    rise_right_m: Annotated[float, Field(ge=-1, le=1)] = 0.0
    rise_back_m: Annotated[float, Field(ge=-1, le=1)] = 0.0
    barrier: bool = False
    living: bool = False
    bucket_m3: Annotated[float, Field(ge=0.0005, le=0.2)] | None = None

    @property
    def depth_m(self) -> float:
        """How deep it is where no area has layers of its own."""
        return deep(self.layers)

    def layers_at(self, x_m: float, y_m: float) -> tuple[Layer, ...]:
        """The layers at a place on the floor: an area's own, or those that lie wherever no area has its own."""
        area = self.area_at(x_m, y_m)
        return self.layers if area is None else area.layers

    def area_at(self, x_m: float, y_m: float) -> GroundArea | None:
        """The area with layers of its own at a place on the floor; None where there is none."""
        return next((area for area in self.areas if area.covers(x_m, y_m)), None)

    @property
    def kind(self) -> GroundKind:
        """What it is to the climate model: what its top is mostly made of."""
        return climate_kind(self.layers)

    @property
    def damp(self) -> bool:
        """Tell whether any of its layers is kept damp."""
        return any(layer.damp for layer in self.layers)


def deep(layers: Iterable[Layer]) -> float:
    """How deep some layers are together, m."""
    return round(sum(layer.depth_m for layer in layers), 6)


def climate_kind(layers: tuple[Layer, ...]) -> GroundKind:
    """What layers are to the climate model: the kind that most of their top is made of."""
    left_m, found = TOP_M, dict[GroundKind, float]()
    for layer in reversed(layers):
        thick_m = min(layer.depth_m, left_m)
        for material, share in layer.shares.items():
            kind: GroundKind = ground_stuff()[material].climate
            found[kind] = found.get(kind, 0.0) + share * thick_m
        left_m -= thick_m
    top: GroundKind = ground_stuff()[layers[-1].main].climate
    return max(found, key=lambda kind: (found[kind], kind == top)) if any(found.values()) else top
