"""What stands where in an enclosure, as the rules see it: pieces, the bowl as a bath, the pool, the lamps above."""

from dataclasses import dataclass, field

from husbandry.assessment import Change


@dataclass(frozen=True)
class FloorPiece:
    """A thing at `path`: "hide", "platform", "bowl" or another kind; its middle, length and top above the ground (m).

    `y_m` is from the front, `reach_m` how far it reaches from its middle along the length and from front to back, as it is turned;
    `tall_m` how tall it is by itself.
    """

    path: str
    kind: str
    x_m: float
    length_m: float
    height_m: float
    y_m: float = 0.0
    reach_m: tuple[float, float] = (0.0, 0.0)
    tall_m: float = 0.0


@dataclass(frozen=True)
class Overlap:
    """Two things in one another: their paths and kinds, and by how much the one would have to move (m)."""

    path: str
    kind: str
    other_path: str
    other_kind: str
    shared_m: float


@dataclass(frozen=True)
class UnderLamp:
    """A thing and a lamp: how far the lamp is from the thing's top (m), and whether it hangs straight over it."""

    path: str
    kind: str
    lamp: str
    gap_m: float
    over: bool


@dataclass(frozen=True)
class WarmPlace:
    """The warmest and the coolest ground of one season by day or by night, °C, and where they are along the length (m)."""

    season: str
    phase: str
    warmest_c: float
    warmest_x_m: float
    coolest_c: float
    coolest_x_m: float


@dataclass(frozen=True)
class Buried:
    """A thing that lies under the ground wholly: how tall it is, how deep the ground, and how tall it would show (m)."""

    path: str
    kind: str
    tall_m: float
    ground_m: float
    wanted_m: float


@dataclass(frozen=True)
class TightHide:
    """A hide, or its `opening`, that is smaller than the animal needs (m)."""

    path: str
    kind: str
    has_m: float
    least_m: float
    opening: bool


@dataclass(frozen=True)
class Grip:
    """A perch whose thickness is not what feet of this animal hold on to (m)."""

    path: str
    kind: str
    thick_m: float
    least_m: float
    most_m: float


@dataclass(frozen=True)
class FarPerch:
    """A thing to climb on that the animal does not get to: how far it is from what it does, and where along the length (m)."""

    path: str
    kind: str
    x_m: float
    away_m: float


@dataclass(frozen=True)
class Edge:
    """A step that a tortoise gets up on and falls on its back from: its height, and the highest that is safe (m).

    `lower_m` is the height to make it, None where it must stay as high as it is.
    """

    path: str
    kind: str
    high_m: float
    most_m: float
    lower_m: float | None
    warmed: bool


@dataclass(frozen=True)
class EscapeGap:
    """An opening or a gap at `path` and how wide the smallest animal is (m): what it does to it, "escapes", "sticks" or "hides"."""

    path: str
    at: str
    wide_m: float
    body_m: float
    does: str


@dataclass(frozen=True)
class Door:
    """How the enclosure opens: the lip under its door and the ground behind it (m), and what is in the door's way."""

    sill_m: float | None = None
    ground_m: float = 0.0
    slope_m: float | None = None
    in_way: tuple[tuple[str, str, tuple[Change, ...]], ...] = ()


@dataclass(frozen=True)
class Drop:
    """A place to stand with nothing to step down on: how deep the fall is, and how deep one the animal bears (m)."""

    path: str
    kind: str
    falls_m: float
    bears_m: float


@dataclass(frozen=True)
class HotThing:
    """A thing of a material that gets hotter than it bears (°C)."""

    path: str
    kind: str
    stuff: str
    gets_c: float
    bears_c: float


@dataclass(frozen=True)
class PlantFacts:
    """A plant at its place: lux at its top, the air by day (°C), the ground at its roots, each with what its kind wants and bears.

    `eaten` where it is poisonous and the animal eats plants, `crushed` where the animal is too heavy for it; `instead` is another
    kind that suits the place. In a year it is `grows_m` tall, and up to the lid or the lamp over it there is `room_m`.
    """

    path: str
    plant: str
    lux: float
    lux_least: float
    lux_most: float
    air_c: float
    bears_c: float
    damp: str
    wants: str
    eaten: bool
    crushed: bool
    instead: str
    grows_m: float = 0.0
    room_m: float = 0.0


@dataclass(frozen=True)
class Furnishings:
    """What the furniture does and suffers; `heavy` is what stands on loose ground: path, kind and kg.

    `perches` are the paths of the places an animal gets up to, as the quantities number them; `lit_hides` those that are not dark
    inside, path and kind; `hidden` what stands before every basking place; `open_sides` the walls seen through where nothing covers
    its back; `drops_wanted` where it drinks from leaves and nobody mists; `finds_bowl` where it drinks from a bowl as well.
    """

    places: tuple[WarmPlace, ...] = ()
    tight: tuple[TightHide, ...] = ()
    hot: tuple[HotThing, ...] = ()
    heavy: tuple[tuple[str, str, float], ...] = ()
    plants: tuple[PlantFacts, ...] = ()
    grips: tuple[Grip, ...] = ()
    drops: tuple[Drop, ...] = ()
    perches: tuple[str, ...] = ()
    far: tuple[FarPerch, ...] = ()
    edges: tuple[Edge, ...] = ()
    gaps: tuple[EscapeGap, ...] = ()
    door: Door = Door()
    lit_hides: tuple[tuple[str, str], ...] = ()
    open_sides: tuple[str, ...] = ()
    hidden: tuple[tuple[str, str], ...] = ()
    buried: tuple[Buried, ...] = ()
    drops_wanted: bool = False
    finds_bowl: bool = False


@dataclass(frozen=True)
class InWater:
    """An electrical part at `path` that is not made for water and hangs in it, or so low that it is splashed (m).

    `free_m`: the least height at which it is clear of it; None where it cannot hang so high.
    """

    path: str
    kind: str
    height_m: float
    water_m: float
    free_m: float | None


@dataclass(frozen=True)
class Bath:
    """The least width of a bowl (m), whether that fits the floor and whether the animal must lie in it; the greatest depth.

    Of what lies in it wholly: `body_m3` is the animal's volume, and water `cover_m` deep goes over its back.
    """

    wide_m: float | None = None
    fits: bool = False
    must: bool = False
    deepest_m: float | None = None
    body_m3: float | None = None
    cover_m: float = 0.0


@dataclass(frozen=True)
class Standing:
    """What stands where (m). `lamps` are path, x and height; `pool` middle, length and depth.

    `overlaps` are things in one another, `past_walls` what reaches past a wall, and by how much, `under_lamps` what is near a lamp.

    `stays_in` is what no open top lets out. `at_sockets` holds water nearer to the sockets than `dry_m`: path, kind, how far.
    `quarantine_short`: the day a new animal came, the first its quarantine may end on, and its kind's weeks, least and most.
    `platform`: the path that says how high the basking place is, and what it says (m).
    `laying_m`: how deep a grown female that lays without a male digs, where the ground is shallower.
    """

    pieces: tuple[FloorPiece, ...] = ()
    overlaps: tuple[Overlap, ...] = ()
    past_walls: tuple[tuple[FloorPiece, float], ...] = ()
    under_lamps: tuple[UnderLamp, ...] = ()
    lamps: tuple[tuple[str, float, float], ...] = ()
    pool: tuple[float, float, float] | None = None
    pool_depth_m: float = 0.1
    in_water: tuple[InWater, ...] = ()
    bath: Bath = field(default_factory=Bath)
    bowl_depth_m: float | None = None
    bowl_rim_m: float = 0.0
    at_sockets: tuple[tuple[str, str, float], ...] = ()
    dry_m: float = 0.0
    open_top: bool = False
    stays_in: bool = True
    swims: bool = False
    aquatic: bool = False
    quarantined: bool = False
    quarantine_short: tuple[str, str, float, float] | None = None
    laying_m: tuple[float, float] | None = None
    ground_kind: str = ""
    ground_damp: bool = False
    platform: tuple[str, float] | None = None
