"""Furnish it: everything the species wants, placed where the model says that it does its work, with floor left to walk on.

Each thing may stand at any place of a grid, lying along or across. A mixed-integer programme (HiGHS by SciPy) picks one place for
each so that none share floor, what is wanted warm lies warm and what is wanted cool lies cool, and enough floor is left. What finds
no place is named, with the smallest enclosure of the same shape in which all of it would stand.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date
from math import ceil
from typing import Any, Final

import numpy as np
import scipy
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

from husbandry.animal.needs import ON_THE_FLOOR
from husbandry.animal.subject import Subject, subject_of
from husbandry.assess.furnished import FREE_LEAST, place_c
from husbandry.assessment import SEASONS
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady
from husbandry.design.perches import perches
from husbandry.design.wanted import GRAIN, USUAL, Wanted, stays, things_wanted, up_to_cm
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.furniture import footprint
from husbandry.plan.geometry import depth_of, dry_m, from_sockets_m, leaves_land, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.plan.things import Thing
from husbandry.review.standing import UNDER_LAMP_M
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile

Floats = NDArray[np.float64]

CELL_M, CELLS = 0.05, 24  # of the grid: no finer, and no more along the length
PLACED: Final = 1000.0  # what placing a thing is worth against where it stands
WRONG_K: Final = 8.0  # what a kelvin outside its end's band costs
FAR: Final = 2.0  # what a whole length away from where it is usual costs
OPEN_FRONT: Final = 0.3
WET_M: Final = 80.0  # what a metre costs that water stands too near to the sockets
TIE: Final = 0.01
BEST: Final = 90  # places of one thing that are weighed, and about as many of the rest
SECONDS: Final = 1.0  # that one programme may take
SECONDS_A_TRY: Final = 0.35  # the same where a larger floor is only tried
STRIDE: Final = 3  # steps of a larger floor at once
GAP: Final = 0.01
ANY_GAP: Final = 0.5  # where it is only asked whether all of it stands
STEPS: Final = 24  # of the enclosure's sides, tried for what does not fit
STEP: Final = 1.06
CLEAR_M: Final = 0.02


@dataclass(frozen=True)
class Furnished:
    """The plan with everything placed that fits, the kinds of what does not, and the sides (m) that all of it would need."""

    plan: HabitatPlan
    left_out: tuple[str, ...]
    sides_m: tuple[float, float] | None


@dataclass(frozen=True)
class FurnishStep:
    """How far it is: steps done, steps in all."""

    done: int
    total: int


def furnish(plan: HabitatPlan, profile: Profile, today: date) -> Iterator[FurnishStep | Furnished]:
    """Place what the species wants; `Furnished` comes last.

    What stands there already is kept and may be moved, but for basking places, what hangs and what has its own heater.

    Parameters
    ----------
    plan
        Its parts are in their places.
    profile, today
        The species and the day.

    Returns
    -------
    Steps, then the furnished plan.

    References
    ----------
    Set packing as a mixed-integer programme, solved by HiGHS (Huangfu and Hall 2018, recalled); sizes and zones are common
    practice.
    """
    subject = subject_of(plan, profile, today)
    total = 3
    yield FurnishStep(0, total)
    climate = solve_steady(enclosure_case(plan), spread=False)
    yield FurnishStep(1, total)
    wanted, fixed = things_wanted(subject)
    box = plan.enclosure
    places = _placed(subject, climate, wanted, fixed, (box.length_m, box.width_m))
    yield FurnishStep(2, total)
    left = tuple(one.thing.kind for one, place in zip(wanted, places, strict=True) if place is None)
    sides = None if not left else _large_enough(subject, climate, wanted)
    yield Furnished(_with(plan, wanted, places, perches(subject)), left, sides)


@dataclass(frozen=True)
class _Place:
    """A place of one thing on the grid: its middle, whether it lies across, and the cells that it covers."""

    x_m: float
    y_m: float
    across: bool
    cells: NDArray[np.int_]
    cost: float


def _placed(
    subject: Subject,
    climate: Climate,
    wanted: Sequence[Wanted],
    fixed: Sequence[Thing],
    sides_m: tuple[float, float],
    *,
    best: bool = True,
) -> list[_Place | None]:
    """The best place for each thing, or any place, None for what has none."""
    plan = subject.plan
    cell = max(CELL_M, sides_m[0] / CELLS)
    columns, rows = int(sides_m[0] / cell + GRAIN), int(sides_m[1] / cell + GRAIN)
    if not wanted or columns < 1 or rows < 1:
        return [None] * len(wanted)
    dry, wet = (_blocked(plan, fixed, cell, columns, rows, in_water=in_water) for in_water in (False, True))
    # What lives in water hides in it; beside water only reeds stand there.
    lives, beside = (subject.profile.habit == habit for habit in ("aquatic", "semi-aquatic"))
    options = [
        _options(subject, climate, one, sides_m, cell, wet if lives or (beside and one.thing.of.shape == "leaves") else dry)
        for one in wanted
    ]
    walks = subject.profile.habit in ON_THE_FLOOR
    standing = [footprint(plan, thing).area_m2 for thing in fixed if not thing.lets_under]
    free_m2 = (1 - FREE_LEAST) * sides_m[0] * sides_m[1] - sum(standing) if walks else sides_m[0] * sides_m[1]
    chosen = _solve(options, [_area(plan, one.thing) for one in wanted], rows * columns, free_m2, best=best)
    return [None if at is None else places[at] for places, at in zip(options, chosen, strict=True)]


def _area(plan: HabitatPlan, thing: Thing) -> float:
    return 0.0 if thing.of.shape == "leaves" else footprint(plan, thing).area_m2


def _blocked(
    plan: HabitatPlan, fixed: Sequence[Thing], cell: float, columns: int, rows: int, *, in_water: bool
) -> NDArray[np.bool_]:
    """The cells that what stays and a pool leave no room on; reeds may stand in the water."""
    blocked = np.zeros((rows, columns), bool)
    x, y = (np.arange(columns) + 0.5) * cell, (np.arange(rows) + 0.5) * cell
    for thing in fixed:
        if thing.lets_under:
            continue
        half = footprint(plan, thing).half_sides
        inside = (np.abs(x[None, :] - thing.x_m) < half[0] + cell / 2) & (
            np.abs(y[:, None] - y_of(plan, thing)) < half[1] + cell / 2
        )
        blocked |= inside
    pool = plan.pool
    if not in_water and pool is not None and leaves_land(plan):
        blocked |= np.abs(x[None, :] - pool.x_m) < pool.length_m / 2 + cell / 2
    return blocked


def _options(
    subject: Subject, climate: Climate, one: Wanted, sides_m: tuple[float, float], cell: float, blocked: NDArray[np.bool_]
) -> list[_Place]:
    """The best places of the grid at which a thing could stand, lying along and across."""
    thing = one.thing
    sides = thing.length_m, depth_of(subject.plan, thing)
    rows, columns = blocked.shape
    number = np.arange(rows * columns).reshape(rows, columns)
    found: list[_Place] = []
    turns = (False,) if thing.of.round or abs(sides[0] - sides[1]) < cell / 2 else (False, True)
    for across in turns:
        long_m, deep_m = (sides[1], sides[0]) if across else sides
        wide, deep = max(ceil(long_m / cell - GRAIN), 1), max(ceil(deep_m / cell - GRAIN), 1)
        if wide > columns or deep > rows:
            continue
        free = ~sliding_window_view(blocked, (deep, wide)).any(axis=(2, 3))
        row, column = np.nonzero(free)
        x, y = (np.asarray(middle * cell, np.float64) for middle in (column + wide / 2, row + deep / 2))
        cost = _costs(subject, climate, one, (x, y), (long_m, deep_m), sides_m)
        # What is alike in all else goes to the back and the left first: ties make a long search.
        cost = cost + TIE * (x / sides_m[0] - y / sides_m[1])
        for at in np.flatnonzero(cost < PLACED):
            cells = number[row[at] : row[at] + deep, column[at] : column[at] + wide].ravel()
            found.append(_Place(float(x[at]), float(y[at]), across, cells, float(cost[at])))
    found.sort(key=lambda place: place.cost)
    # The best, and some of all the others, so that what is crowded out finds another.
    return found[:BEST] + found[BEST :: max(len(found) // BEST, 1)]


def _costs(
    subject: Subject,
    climate: Climate,
    one: Wanted,
    at: tuple[Floats, Floats],
    sides: tuple[float, float],
    floor: tuple[float, float],
) -> Floats:
    """What places cost a thing: how far their warmth is from the band of its end, and how far they lie from where it is usual."""
    plan, (x, y) = subject.plan, at
    spot_m = plan.platform.x_m if plan.platform is not None else USUAL["warm"] * floor[0]
    share = USUAL[one.zone]
    usual_m = (share if spot_m <= floor[0] / 2 else 1 - share) * floor[0]
    cost: Floats = FAR * np.abs(x - usual_m) / floor[0]
    # Cover at the back, an open front.
    cost += OPEN_FRONT * (1 - y / floor[1])
    for lamp in plan.heaters:
        if lamp.hangs:
            beside = np.hypot(
                np.maximum(np.abs(lamp.x_m - x) - sides[0] / 2, 0.0), np.maximum(np.abs(y_of(plan, lamp) - y) - sides[1] / 2, 0.0)
            )
            above = max(lamp.height_m - plan.ground.depth_m - one.thing.top_m, 0.0)
            aside = UNDER_LAMP_M / 2 if one.thing.good_for("drink") else CLEAR_M
            cost[(np.hypot(beside, above) < UNDER_LAMP_M + CLEAR_M) | (beside <= aside)] += 2 * PLACED
    if one.thing.good_for("drink"):
        near = dry_m(plan) - from_sockets_m(plan, at, (sides[0] / 2, sides[1] / 2))
        cost += WET_M * np.maximum(near, 0.0)
    heat, schools = subject.stage.heat, plan.schools
    if one.zone in ("warm", "cool"):
        band = choose(heat.warm_air_c if one.zone == "warm" else heat.cool_air_c, schools)
        for season in SEASONS:
            felt = place_c(plan, climate.states[season, "day"], x)
            if one.zone == "warm" and band.low is not None:
                cost += WRONG_K * np.maximum(band.low - felt, 0.0)
            if one.zone == "cool" and band.high is not None:
                cost += WRONG_K * np.maximum(felt - band.high, 0.0)
    return cost


def _solve(
    options: Sequence[Sequence[_Place]], areas: Sequence[float], cells: int, free_m2: float, *, best: bool
) -> list[int | None]:
    """Pick at most one place for each thing: no cell twice, no more floor than is free, as many as fit, then where they do best."""
    chosen = _one_by_one(options, areas, free_m2)
    if all(at is not None for at in chosen) and (not best or _stand_best(options, chosen)):
        return chosen
    owner = [thing for thing, places in enumerate(options) for _place in places]
    flat = [place for places in options for place in places]
    if not flat:
        return chosen
    count, things = len(flat), len(options)
    worth = np.array([_worth(thing, things, place) for thing, place in zip(owner, flat, strict=True)])
    covers = np.array([(cell, index) for index, place in enumerate(flat) for cell in place.cells]).T
    each = scipy.sparse.coo_array((np.ones(covers.shape[1]), (covers[0], covers[1])), shape=(cells, count))
    once = scipy.sparse.coo_array((np.ones(count), (np.array(owner), np.arange(count))), shape=(things, count))
    room = scipy.sparse.coo_array(np.array([areas[thing] for thing in owner])[None, :])
    limits = ((each, 1.0), (once, 1.0), (room, max(free_m2, 0.0)))
    found = scipy.optimize.milp(
        -worth,
        constraints=[scipy.optimize.LinearConstraint(matrix.tocsc(), -np.inf, most) for matrix, most in limits],
        integrality=np.ones(count, int),
        bounds=scipy.optimize.Bounds(0, 1),
        options={"time_limit": SECONDS if best else SECONDS_A_TRY, "mip_rel_gap": (GAP if best else ANY_GAP) / things},
    )
    if found.x is None or -found.fun < _sum(options, chosen):
        return chosen  # the time ran out: what was found one by one stands
    picked: list[int | None] = []
    start = 0
    for places in options:
        here = np.flatnonzero(found.x[start : start + len(places)] > 0.5)
        picked.append(int(here[0]) if here.size else None)
        start += len(places)
    return picked


def _worth(thing: int, things: int, place: _Place) -> float:
    """What a thing at a place is worth: those named first a little more, for what does not fit is left out from the end."""
    return PLACED * (1 + 0.01 * (things - thing)) - place.cost


def _sum(options: Sequence[Sequence[_Place]], chosen: Sequence[int | None]) -> float:
    picked = ((thing, places[at]) for thing, (places, at) in enumerate(zip(options, chosen, strict=True)) if at is not None)
    return sum(_worth(thing, len(options), place) for thing, place in picked)


def _stand_best(options: Sequence[Sequence[_Place]], chosen: Sequence[int | None]) -> bool:
    """Tell whether each thing stands at its own best place: then there is nothing to search."""
    return all(at is not None and places[at].cost <= places[0].cost + TIE for places, at in zip(options, chosen, strict=True))


def _one_by_one(options: Sequence[Sequence[_Place]], areas: Sequence[float], free_m2: float) -> list[int | None]:
    """Each thing in turn at its best place that is left: a plan to be better than."""
    taken: set[int] = set()
    chosen: list[int | None] = []
    for places, area in zip(options, areas, strict=True):
        fits = area <= free_m2 + GRAIN
        at = next((index for index, place in enumerate(places) if fits and taken.isdisjoint(place.cells.tolist())), None)
        chosen.append(at)
        if at is not None:
            taken.update(places[at].cells.tolist())
            free_m2 -= area
    return chosen


def _large_enough(subject: Subject, climate: Climate, wanted: Sequence[Wanted]) -> tuple[float, float] | None:
    """The sides of the smallest enclosure of the same shape in which all of it stands; None where none that is tried does.

    What stays and what hangs stays where it is, and the ends are as warm.
    """
    first = next((step for step in range(1, STEPS + 1) if not _more_than_free(subject, wanted, _sides(subject, step))), STEPS + 1)
    tried: dict[int, bool] = {}

    def holds(step: int) -> bool:
        if step not in tried:
            sides = _sides(subject, step)
            larger = subject.plan.enclosure.model_copy(update={"length_m": sides[0], "width_m": sides[1]})
            grown = replace(subject, plan=subject.plan.model_copy(update={"enclosure": larger}))
            fixed = [thing for thing in grown.plan.things if stays(thing)]
            places = _placed(grown, climate, wanted, fixed, sides, best=False)
            tried[step] = all(place is not None for place in places)
        return tried[step]

    # In strides, and then back through the last one: to know that all of it stands takes longest where it nearly does.
    reached = next((step for step in (*range(first, STEPS + 1, STRIDE), STEPS) if first <= STEPS and holds(step)), None)
    if reached is None:
        return None
    return _sides(subject, next(step for step in range(max(reached - STRIDE + 1, first), reached + 1) if holds(step)))


def _sides(subject: Subject, step: int) -> tuple[float, float]:
    box = subject.plan.enclosure
    return up_to_cm(box.length_m * STEP**step), up_to_cm(box.width_m * STEP**step)


def _more_than_free(subject: Subject, wanted: Sequence[Wanted], sides_m: tuple[float, float]) -> bool:
    """Tell whether things take more floor than may be taken, wherever they stand."""
    fixed = [thing for thing in subject.plan.things if stays(thing)]
    standing = sum(footprint(subject.plan, thing).area_m2 for thing in fixed if not thing.lets_under)
    takes = sum(_area(subject.plan, one.thing) for one in wanted)
    most = (1 - FREE_LEAST if subject.profile.habit in ON_THE_FLOOR else 1.0) * sides_m[0] * sides_m[1]
    return takes + standing > most + GRAIN


def _with(
    plan: HabitatPlan, wanted: Sequence[Wanted], places: Sequence[_Place | None], perches: Sequence[dict[str, Any]]
) -> HabitatPlan:
    """The plan with everything placed that has a place; what was there and has none stays where it was."""
    document = plan.model_dump(mode="json")
    for one, place in zip(wanted, places, strict=True):
        if place is None:
            continue
        stands = {"x_m": round(place.x_m, 3), "y_m": round(place.y_m, 3), "turn_deg": 90.0 if place.across else 0.0}
        if one.path:
            document["things"][int(one.path.removeprefix("things."))] |= stands
        else:
            document["things"].append(one.thing.model_dump(mode="json") | stands)
    try:
        return read_data(document | {"things": [*document["things"], *perches]})
    except PlanProblems:
        return read_data(document)  # a lamp hangs where they would
