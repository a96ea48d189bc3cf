"""What stands where in an enclosure, as the rules see it: pieces, the bowl as a bath, the pool, the lamps above."""

from dataclasses import dataclass, field


@dataclass(frozen=True)
class FloorPiece:
    """A thing at `path`: "hide", "platform", "bowl" or another kind; its middle, length and top above the ground (m)."""

    path: str
    kind: str
    x_m: float
    length_m: float
    height_m: float

    def covers(self, x_m: float) -> bool:
        """Tell whether a point along the length lies over it."""
        return abs(self.x_m - x_m) < self.length_m / 2


@dataclass(frozen=True)
class Bath:
    """The least width of a bowl (m), whether that fits the floor and whether the animal must lie in it; the greatest depth."""

    wide_m: float | None = None
    fits: bool = False
    must: bool = False
    deepest_m: float | None = None


@dataclass(frozen=True)
class Standing:
    """What stands where (m). `lamps` are path, x and height; `pool` middle, length and depth.

    `stays_in` is what no open top lets out.
    `quarantine_short`: the day a new animal came, the first its quarantine may end on, and its kind's weeks, least and most.
    `platform`: the path that says how high the basking place is, and what it says (m).
    `laying_m`: how deep a grown female that lays without a male digs, where the ground is shallower.
    """

    pieces: tuple[FloorPiece, ...] = ()
    lamps: tuple[tuple[str, float, float], ...] = ()
    pool: tuple[float, float, float] | None = None
    pool_depth_m: float = 0.1
    bath: Bath = field(default_factory=Bath)
    bowl_depth_m: float | None = None
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
