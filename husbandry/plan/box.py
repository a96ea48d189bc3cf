"""The enclosure itself: its sides, its lid, how it opens, and what lets air, animals and looks through."""

from typing import Annotated, Literal

from pydantic import Field

from husbandry.plan.equipment import EnclosureKind, LidKind, Part, Position, Side

GapPlace = Literal["door", "lid", "cable", "mesh", "background"]


class Vent(Part):
    """An opening in a wall: the height of its middle above the floor, and its free area."""

    height_m: Position
    area_m2: Annotated[float, Field(gt=0, le=2)]


class Covered(Part):
    """The walls seen through that something opaque outside covers."""

    back: bool = False
    left: bool = False
    right: bool = False
    front: bool = False


class Gap(Part):
    """An opening or a gap: where it is, and its narrower side.

    At a door, in the lid, at a cable or in cut mesh it leads out; behind a background it leads nowhere.
    """

    at: GapPlace
    width_m: Annotated[float, Field(gt=0, le=0.5)]


class Enclosure(Part):
    """Inner dimensions. `mesh_open_share` is the open part of the mesh's area (0–1).

    `lid_covered` is the share of a mesh or open lid that is covered, `insulation_m` foam board outside the walls,
    `wall_m` their thickness where it is not the kind's usual. Without
    `vents` the kind's usual air changes are taken.

    `opens` says where one reaches in, `sill_m` how high the lip under a front door is. `gaps` are the openings an
    animal could get into. `sockets` is the wall at which everything is plugged in.
    """

    kind: EnclosureKind
    length_m: Side
    width_m: Side
    height_m: Side
    lid: LidKind
    mesh_open_share: Annotated[float, Field(gt=0, le=1)] = 0.65
    lid_covered: Annotated[float, Field(ge=0, le=1)] = 0.0
    insulation_m: Annotated[float, Field(ge=0, le=0.2)] = 0.0
    wall_m: Annotated[float, Field(ge=0.001, le=0.1)] | None = None
    vents: Annotated[tuple[Vent, ...], Field(max_length=6)] = ()
    opens: Literal["front", "top"] | None = None
    sill_m: Annotated[float, Field(ge=0, le=2)] | None = None
    covered: Covered = Covered()
    gaps: Annotated[tuple[Gap, ...], Field(max_length=6)] = ()
    sockets: Literal["left", "right", "back"] | None = None
