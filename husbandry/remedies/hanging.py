"""Where one more heater would hang: clear of beams, of other lamps, of what stands below it, and not over the bowl."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.heaters import HEATERS
from husbandry.climate.probes import warm_side_x
from husbandry.furnishing.floor import Footprint, gap_m, shared_m
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.furniture import WELL_CLEAR_M, Outline, footprint, group_of, outline
from husbandry.plan.equipment import LightBar, UvLamp
from husbandry.plan.geometry import highest_under_m, top_of, y_of
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.review.standing import UNDER_LAMP_M
from husbandry.space.furniture import free_place
from husbandry.wiring.cables import hot_above

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]

NEW_HEATER_PLACES: Final = {"day": (0.35, 0.5, 0.65, 0.8), "night": (0.55, 0.75, 0.9, 0.35)}
TALL_FROM, TALL_AT = 1.0, 1.4  # its height over its length: between them it grows tall without a jump
TALL_SHARES: Final = {"day": 0.55, "night": 0.4}  # of a tall enclosure's height
BESIDE_BOWL_M: Final = 0.04  # across the axis of the heater: so far from the bowl's rim on either side, halved
LAMPS_APART_M: Final = 0.2  # from the middle of one lamp's face to another's: so that both domes fit and neither heats the other
BELOW_LID_SHARE: Final = 0.85  # of the height: near a solid lid, well above an open table
BELOW_CEILING_M: Final = 0.15  # of a heater that must not be climbed on: as far as a bracket reaches (common practice)
EDGE_M: Final = 0.07  # of a lamp's middle from the glass
TUBE_APART_M: Final = 0.12  # of a tube in its hood from the middle of a lamp's face: a dome's radius (trade)
CLEAR_M: Final = 0.005  # more than the least there must be
NEW_HEATER_GAP_M: Final = 0.25  # along the length; above what lies there
TUBE_LOW_M, TUBE_LONG_M = 0.12, 0.6  # a tube heater's height above the ground, and its length
TUBE_OFF_WALL_M, TUBE_CLEAR_M, TUBE_UNDER_LID_M = 0.06, 0.1, 0.05  # from the wall, from what stands below it, from the lid
LEAST_FOR_TUBE_M: Final = 0.8  # the length of an enclosure that a tube heater fits into
CLEAR: Final = (True, True, LAMPS_APART_M)  # out of every beam, of what stands there, and far from every face
STEP_M: Final = 0.02
HIGHER_M: Final = (0.0, 0.06, 0.12, 0.2)  # than wanted, where it is clear nowhere along the length
ASIDE_SHARE: Final = 0.2  # of the length: farther along it would warm another end


@dataclass(frozen=True)
class HangingPlace:
    """A place under the ceiling, on a mesh or over an open table, m; `y_m` is None midway from front to back."""

    x_m: float
    height_m: float
    y_m: float | None = None

    def fields(self, plan: HabitatPlan, kind: str) -> dict[str, float]:
        """The place as a plan's document holds it; a tube heater is fixed low along the back wall instead."""
        if kind == "tube-heater":
            return _tube_at_back(plan, self.x_m)
        return {"x_m": self.x_m, "height_m": self.height_m} | ({} if self.y_m is None else {"y_m": self.y_m})


def new_heater_place(plan: HabitatPlan, phase: str, *, climbed: bool = False) -> HangingPlace:
    """A place for a further dark heater by "day" or "night": near a solid lid, on a mesh, or well above an open table.

    The first stands off the warm end; by day the next go along from it, by night to the cool end. Where it would be `climbed` on it
    stays at the lid, however tall the enclosure is.
    """
    box = plan.enclosure
    usual = usual_height_m(plan, climbed=climbed)
    warm_left = warm_side_x(enclosure_case(plan)) <= box.length_m / 2
    dark = sum(not HEATERS[heater.kind].light for heater in plan.heaters)
    tall = min(max((box.height_m / max(box.length_m, box.width_m) - TALL_FROM) / (TALL_AT - TALL_FROM), 0.0), 1.0)
    shares = NEW_HEATER_PLACES[phase]
    share = shares[min(dark, len(shares) - 1)]
    # Warm air rises and stays up: in a tall enclosure heat for the cool end hangs low.
    wanted = usual if climbed else usual + tall * (TALL_SHARES[phase] * box.height_m - usual)
    return clear_place(plan, (share if warm_left else 1 - share) * box.length_m, wanted)


def usual_height_m(plan: HabitatPlan, *, climbed: bool) -> float:
    """How high a further dark heater usually hangs: on a mesh, else near the lid; where it would be `climbed` on, at the lid."""
    box = plan.enclosure
    near_m = BELOW_LID_SHARE * box.height_m
    if box.lid == "mesh":
        return box.height_m
    return max(near_m, box.height_m - BELOW_CEILING_M) if climbed else near_m


def _tube_at_back(plan: HabitatPlan, x_m: float) -> dict[str, float]:
    """A tube heater along the back wall: low where nothing stands, nearest to `x_m`; else over what stands there, or the water."""
    box, ground_m = plan.enclosure, plan.ground.depth_m
    long_m = round(min(TUBE_LONG_M, 0.5 * box.length_m), 2)
    water_m = 0.0 if plan.pool is None else plan.pool.depth_m + WELL_CLEAR_M
    y_m = round(box.width_m - min(TUBE_OFF_WALL_M, box.width_m / 2), 3)

    tubes = [heater for heater in plan.heaters if HEATERS[heater.kind].place == "air"]

    # What stands away from the back wall is out of its way wherever along the wall it is.
    reach_m, half_m = y_m - 2 * TUBE_CLEAR_M, long_m / 2
    floors = [(footprint(plan, thing), top_of(plan, thing)) for thing in plan.things]
    behind = [(floor, half_m + floor.half_sides[0], top_m) for floor, top_m in floors if floor.y_m + floor.half_sides[1] > reach_m]

    def height_m(along_m: float) -> float:
        near = [(floor, top_m) for floor, away_m, top_m in behind if abs(floor.x_m - along_m) < away_m]
        strip = Footprint(along_m, y_m, long_m, 2 * TUBE_CLEAR_M)
        under = [top_m for floor, top_m in near if shared_m(strip, floor) > 0]
        under += [tube.height_m for tube in tubes if abs(tube.x_m - along_m) < (long_m + (tube.length_m or 0.0)) / 2]
        return max([ground_m + TUBE_LOW_M, water_m, *(top_m + TUBE_CLEAR_M for top_m in under)])

    places = [place for place in _along(plan, x_m) if half_m <= place <= box.length_m - half_m] or [box.length_m / 2]
    # The first of equal ones is the nearest to where it is wanted.
    best_m = min(places, key=height_m)
    top_m = box.height_m - TUBE_UNDER_LID_M
    return {"x_m": best_m, "y_m": y_m, "height_m": round(max(min(height_m(best_m), top_m), ground_m), 3), "length_m": long_m}


def clear_place(plan: HabitatPlan, x_m: float, height_m: float) -> HangingPlace:
    """Return where a further lamp hangs clear of everything: near where it is wanted along the length, else higher.

    Parameters
    ----------
    plan
        The habitat without that lamp.
    x_m, height_m
        Where it had best hang, m. It hangs higher where what lies there is high.

    Returns
    -------
    The place; where it is clear nowhere near, the least bad one at that place along the length.

    References
    ----------
    Search over places; no source outside.
    """
    first: HangingPlace | None = None
    there = _Standing.of(plan)
    wanted_m = round(beside_bowl(plan, x_m), 2)
    for more_m in HIGHER_M:
        for along_m in _along(plan, wanted_m):
            place, worth = _across(there, along_m, _raised_m(plan, along_m, height_m + more_m))
            first = first or place
            if worth == CLEAR:
                return place
    assert first is not None
    return first


def _along(plan: HabitatPlan, x_m: float) -> Iterator[float]:
    """The place wanted, then those beside it, the nearest first."""
    yield x_m
    length_m = plan.enclosure.length_m
    for step in range(1, math.floor(ASIDE_SHARE * length_m / STEP_M) + 1):
        for sign in (1, -1):
            beside_m = round(x_m + sign * step * STEP_M, 2)
            if EDGE_M <= beside_m <= length_m - EDGE_M:
                yield beside_m


def _raised_m(plan: HabitatPlan, x_m: float, height_m: float) -> float:
    """The height wanted, or as much more as what lies below asks for, no higher than a lamp may hang."""
    box = plan.enclosure
    limit = box.height_m if box.lid == "solid" else box.height_m + ABOVE_LID_M
    return round(min(max(height_m, highest_under_m(plan, x_m) + NEW_HEATER_GAP_M), limit), 2)


@dataclass(frozen=True)
class _Standing:
    """What a further lamp may come too near to; worked out once for all the places that are tried."""

    plan: HabitatPlan
    lamps: tuple[tuple[float, float, float], ...]
    bowls: tuple[Footprint, ...]
    hides: tuple[Outline, ...]  # and leaves: whatever is neither climbed on for warmth nor drunk from
    tubes: tuple[UvLamp | LightBar, ...]

    @classmethod
    def of(cls, plan: HabitatPlan) -> "_Standing":
        lamps = tuple((lamp.x_m, y_of(plan, lamp), lamp.height_m) for lamp in plan.heaters if lamp.hangs)
        bowls = tuple(footprint(plan, thing) for thing in plan.things if group_of(thing) == "bowl")
        hides = tuple(outline(plan, thing) for thing in plan.things if group_of(thing) not in ("platform", "bowl"))
        return cls(plan, lamps, bowls, hides, (*plan.uv_lamps, *plan.light_bars))

    def clear(self, x_m: float, y_m: Floats, height_m: float) -> Bools:
        """Tell for places in a row from front to back where a lamp heats no hide, no leaves, no tube, and hangs over no bowl."""
        clear = np.ones(y_m.shape, dtype=bool)
        for tube in self.tubes:
            clear &= _from_tube_m(self.plan, tube, x_m, y_m, height_m) >= TUBE_APART_M
        for bowl in self.bowls:
            clear &= gap_m(bowl, x_m, y_m) > 0
        for hide in self.hides:
            clear &= hide.from_face_m(x_m, y_m, height_m) >= UNDER_LAMP_M + CLEAR_M
        return clear

    def apart_m(self, x_m: float, y_m: Floats, height_m: float) -> Floats:
        """How far each of them is from the nearest lamp's face, as far as it counts, to the millimetre."""
        apart = np.full(y_m.shape, LAMPS_APART_M)
        for x, y, z in self.lamps:
            apart = np.minimum(apart, np.sqrt((x_m - x) ** 2 + (y_m - y) ** 2 + (height_m - z) ** 2).round(3))
        return apart


def _across(there: _Standing, x_m: float, height_m: float) -> tuple[HangingPlace, tuple[bool, bool, float]]:
    """The best place from front to back: out of every beam, then clear of what stands there, then far from every face."""
    middle_m = there.plan.enclosure.width_m / 2
    steps_m = np.arange(max(math.floor(100 * (middle_m - EDGE_M)), 0) + 1) / 100
    # The nearest to midway first: of equal ones it is the best.
    off_m = np.stack([steps_m, -steps_m], axis=1).ravel()[1:]
    y_m = middle_m + off_m
    cool, clear = ~hot_above(there.plan, x_m, y_m, height_m), there.clear(x_m, y_m, height_m)
    apart_m = there.apart_m(x_m, y_m, height_m)
    best = int(np.argmax(2.0 * cool + clear + apart_m))
    place = HangingPlace(x_m, height_m, round(float(y_m[best]), 2) if off_m[best] else None)
    return place, (bool(cool[best]), bool(clear[best]), float(apart_m[best]))


def _from_tube_m(plan: HabitatPlan, tube: UvLamp | LightBar, x_m: float, y_m: Floats, height_m: float) -> Floats:
    """How far places in a row from front to back are from the nearest place along a tube or bar, m."""
    half_m = (tube.tube_m if isinstance(tube, UvLamp) else tube.length_m) / 2
    dx, dy, dz = x_m - tube.x_m, y_m - y_of(plan, tube), height_m - tube.height_m
    if isinstance(tube, UvLamp) and tube.across:
        dy = np.maximum(np.abs(dy) - half_m, 0.0)
    else:
        dx = max(abs(dx) - half_m, 0.0)
    return np.sqrt(dx**2 + dy**2 + dz**2)


def beside_bowl(plan: HabitatPlan, x_m: float) -> float:
    """The nearest place (m from the left) that is not over the bowl: warm water is foul and soon gone."""
    if plan.bowl is None or abs(plan.bowl.x_m - x_m) > plan.bowl.diameter_m / 2:
        return x_m
    return free_place(((plan.bowl.x_m, plan.bowl.diameter_m),), plan.enclosure.length_m, BESIDE_BOWL_M, x_m)
