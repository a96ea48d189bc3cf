"""What mends the furniture: hides, a bowl, water to live in, and a clear place for what stands in something else."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any, Final

from husbandry.animal.growth_outlook import expected_length_at
from husbandry.animal.needs import POOL_FILL, climbs, minimum_needs, usual_pool
from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy
from husbandry.climate.case import EnclosureCase
from husbandry.climate.probes import warm_side_x
from husbandry.codes import FindingCode, RemedyCode
from husbandry.furnishing.floor import Footprint, free_spot, shared_m
from husbandry.furnishing.things import STUFF, kinds, that_sinks
from husbandry.inputs.furniture import bath_of, footprints, pieces_of
from husbandry.inputs.grounds import sinks
from husbandry.inputs.shelters import missing
from husbandry.plan.changes import added
from husbandry.plan.editing import apply
from husbandry.plan.geometry import depth_of, dry_m, from_sockets_m, leaves_land, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.remedies.situation import Situation
from husbandry.review.arrangement import Bath, FloorPiece
from husbandry.review.standing import UNDER_LAMP_M as NEAREST_M

BOWL_SHARE, LEAST_BOWL_M, MOST_BOWL_M = 0.25, 0.06, 0.15  # of the floor's width; a larger bowl wets a small box
BOWL_RIM_M: Final = 0.04
BOWL_OVER_M: Final = 0.01  # that a bowl to lie in is higher than the back of what lies in it (estimate)
UNDER_LAMP_M: Final = 0.1  # about the foot of a lamp's beam: nothing is put there
CLEAR_M: Final = 0.01
LEAST_TO_MOVE: Final = 2  # of a single hide none can be spared
LEAVES_M, LEAVES_SHARE = 0.25, 0.3
LITTER_M: Final = 0.02
BRANCH_M, BRANCH_UP = 0.03, 0.4  # thick; of the height over the ground
LEAVES_FROM_LAMP_M: Final = 0.2
AT_WALL_M: Final = 0.02
ELSEWHERE: Final = (0.25, 0.4, 0.6, 0.75, 0.9)  # of the length
MOVED_M: Final = 0.005  # less is no move


def humid_hide(at: Situation, _finding: Finding) -> Remedy | None:
    """A damp hide where there is none."""
    return Remedy(RemedyCode.MOISTURE_ADD_HUMID_HIDE, {}, (added(at.plan, _hide(at, "humid")),))


def hide(at: Situation, _finding: Finding) -> Remedy | None:
    """Everything to hide in that is missing, each clear of what was put in before it: hides at either end in turn, leaves,
    litter, a branch.
    """
    wanted = [one.value for one in at.profile.hides_of(at.stage)]
    changes: list[Change] = []
    codes: set[RemedyCode] = set()
    for _ in range(len(wanted)):
        lacks = missing(at.plan, wanted)
        if not lacks:
            break
        code, change = _next_shelter(at, lacks)
        codes.add(code)
        changes.append(change)
        if at.quick:
            break
        plan = HabitatPlan.model_validate(apply(at.plan.model_dump(mode="json"), (change,)))
        at = replace(at, subject=replace(at.subject, plan=plan))
    if not codes:
        return None
    alone = codes.pop() if len(codes) == 1 and len(changes) == 1 else RemedyCode.SPACE_ADD_SHELTERS
    return Remedy(alone, {"depth": Measure(LITTER_M, "m")} if alone is RemedyCode.SPACE_ADD_LITTER else {}, tuple(changes))


def _next_shelter(at: Situation, lacks: Mapping[str, int]) -> tuple[RemedyCode, Change]:
    there = len(at.plan.hides)
    if lacks.get("hide"):
        return RemedyCode.SPACE_ADD_HIDE, added(at.plan, _hide(at, "cool" if there % 2 == 0 else "warm"))
    if lacks.get("cover"):
        return RemedyCode.SPACE_ADD_COVER, added(at.plan, _leaves(at))
    if lacks.get("litter"):
        litter = {"parts": [{"material": "leaf-litter", "parts": 1.0}], "depth_m": LITTER_M}
        return RemedyCode.SPACE_ADD_LITTER, Change(f"ground.layers.{len(at.plan.ground.layers)}", litter)
    return RemedyCode.SPACE_ADD_BRANCH, added(at.plan, _branch(at.plan))


def _branch(plan: HabitatPlan) -> dict[str, Any]:
    """A level branch across the middle, behind the middle of the width."""
    box, up_m = plan.enclosure, BRANCH_UP * (plan.enclosure.height_m - plan.ground.depth_m)
    place = {"x_m": round(box.length_m / 2, 3), "y_m": round(0.6 * box.width_m, 3), "up_m": round(up_m, 3)}
    return {"kind": "branch", **place, "length_m": round(box.length_m / 2, 3), "width_m": BRANCH_M, "height_m": BRANCH_M}


def _leaves(at: Situation) -> dict[str, Any]:
    """Artificial leaves, which need no light: at the back of the cool half, up where the animal climbs."""
    box = at.plan.enclosure
    size = round(min(LEAVES_M, LEAVES_SHARE * box.length_m, LEAVES_SHARE * box.width_m), 2)
    half, floor = (size / 2, size / 2), (box.length_m, box.width_m)
    warm_left = warm_side_x(at.case) <= box.length_m / 2
    cool_m, corner_m = (0.75, 1.0) if warm_left else (0.25, 0.0)
    high, free_m = climbs(at.profile), box.height_m - at.plan.ground.depth_m
    # Reeds may stand in the water: where the animal lives there, they had best.
    pool = at.plan.pool if at.profile.habit in ("aquatic", "semi-aquatic") else None
    wanted_m = cool_m * box.length_m if pool is None else pool.x_m
    taken = _taken(at.plan, top_m=min(size, 0.5 * free_m), in_water=pool is not None)
    place = free_spot(floor, taken, half, (wanted_m, box.width_m - half[1]))
    circles = _away_from_lamps(at.plan)
    if high and any(shared_m(circle, Footprint(*place, size, size)) > 0 for circle in circles):
        # Up on the wall nothing that stands is in the way: in the cool corner, away from lamps.
        place = free_spot(floor, circles, half, (corner_m * box.length_m, box.width_m - half[1]))
    made = {"kind": "fake-plant", "x_m": round(place[0], 3), "y_m": round(place[1], 3), "length_m": size, "width_m": size}
    if high:
        up_m, high_m = at.plan.ground.depth_m + 0.5 * free_m, min(size, 0.3 * free_m)
        return made | {"base": "wall", "up_m": round(up_m, 3), "height_m": round(high_m, 3)}
    return made | {"height_m": round(min(size, 0.5 * free_m), 3)}


def _away_from_lamps(plan: HabitatPlan) -> tuple[Footprint, ...]:
    """Circles about the lamps in which leaves would be scorched."""
    across_m = 2 * LEAVES_FROM_LAMP_M
    return tuple(Footprint(lamp.x_m, y_of(plan, lamp), across_m, across_m, round=True) for lamp in plan.heaters if lamp.hangs)


def _hide(at: Situation, end: str) -> dict[str, Any]:
    size = round(_hide_length_m(at), 2)
    made: dict[str, Any] = {
        "kind": "humid-hide" if end == "humid" else "hide",
        "length_m": size,
        "height_m": round(max(0.5 * size, 0.05), 2),
    }
    if at.profile.habit == "aquatic":
        made["material"] = that_sinks(kinds()[made["kind"]])
    bare = Thing.model_validate(made | {"x_m": 0.0})
    x_m, y_m = _hide_place(at, (size / 2, depth_of(at.plan, bare) / 2), end, made["height_m"])
    return _on_footing(at, made | {"x_m": round(x_m, 3), "y_m": round(y_m, 3)})


def _on_footing(at: Situation, made: dict[str, Any]) -> dict[str, Any]:
    """The thing, on a footing where the animal could dig the ground away from under it."""
    return made | {"footing": True} if sinks(at.plan, at.profile.habit, Thing.model_validate(made)) else made


def bowl(at: Situation, _finding: Finding) -> Remedy | None:
    """A bowl at the cool half."""
    bath = bath_of(at.plan, at.profile, at.stage, at.body)
    (x_m, y_m), across_m = _bowl_place(at.plan, at.case, bath)
    rim_m = max(BOWL_RIM_M, math.ceil(100 * bath.cover_m) / 100 + BOWL_OVER_M) if bath.must else BOWL_RIM_M
    place = {"x_m": round(x_m, 3), "y_m": round(y_m, 3)}
    made = {"kind": "bowl", **place, "length_m": round(across_m, 3), "height_m": round(rim_m, 3)}
    return Remedy(RemedyCode.MOISTURE_ADD_BOWL, {}, (added(at.plan, _on_footing(at, made)),))


def pool(at: Situation, _finding: Finding) -> Remedy | None:
    """Water to live in, as deep as the stage wants it."""
    minimum = minimum_needs(at.plan, at.profile, at.stage, at.body.length_m)
    made = usual_pool(at.plan, at.profile, at.stage, minimum)
    return Remedy(RemedyCode.WATER_FILL, {}, () if made is None else (Change("pool", dict(made)),))


def deeper_pool(at: Situation, _finding: Finding) -> Remedy | None:
    """Enough water by depth, where the tank holds it."""
    minimum = minimum_needs(at.plan, at.profile, at.stage, at.body.length_m)
    litres = minimum.get("water_volume")
    if at.plan.pool is not None and litres is not None:
        needed_m = litres.size / (at.plan.pool.length_m * at.plan.enclosure.width_m)
        if needed_m <= POOL_FILL * at.plan.enclosure.height_m:
            depth_m = round(needed_m + 0.0005, 3)
            return Remedy(RemedyCode.WATER_DEEPER, {"depth": Measure(depth_m, "m")}, (Change("pool.depth_m", depth_m),))
    return Remedy(RemedyCode.WATER_LARGER)


def clear(at: Situation, finding: Finding) -> Remedy | None:
    """A clear place for what stands in another piece, in the pool or under a lamp; the basking place stays."""
    pieces = {piece.path: piece for piece in pieces_of(at.plan)}
    bowls = [path for path, piece in pieces.items() if piece.kind == "bowl"]
    paths = bowls if finding.code == FindingCode.MOISTURE_BOWL_UNDER_LAMP else finding.subject.split("/")
    piece = next((pieces[path] for path in paths if path in pieces and pieces[path].kind != "platform"), None)
    if piece is None or at.quick:
        return None
    x_m, y_m = _free(at.plan, piece)
    moves = (("x_m", piece.x_m, x_m), ("y_m", piece.y_m, y_m))
    changes = tuple(Change(f"{piece.path}.{name}", place) for name, now_m, place in moves if abs(place - now_m) >= MOVED_M)
    if not changes:
        return None
    told: dict[str, Parameter] = {"part": piece.kind, "place": Measure(x_m, "m"), "front": Measure(y_m, "m")}
    return Remedy(RemedyCode.SPACE_MOVE, told, changes)


def _hide_length_m(at: Situation) -> float:
    """How long a hide is for an animal, by its length; where that is not known by what is usual at its age, else when grown, m."""
    body, profile = at.body, at.profile
    length_m = body.length_m
    if length_m is None and body.age_days is not None:
        length_m = expected_length_at(profile, at.plan.animal.sex, body.age_days)
    if length_m is None:
        length_m = profile.body.adult_length_cm.middle / 100
    return max(0.1, 0.2 * length_m if profile.body.form == "snake" else 1.4 * length_m)


def _hide_place(at: Situation, half: tuple[float, float], end: str, top_m: float) -> tuple[float, float]:
    """Where a further hide, so high, would stand clear of the rest and of the lamps: towards the warm end, the cool end, or the
    middle for a humid one.

    What lives in water hides in it.
    """
    length_m, wide_m = at.case.length_m, at.case.width_m
    warm_left = warm_side_x(at.case) <= length_m / 2
    wanted = {"warm": 0.42 if warm_left else 0.58, "cool": 0.88 if warm_left else 0.12, "humid": 0.6 if warm_left else 0.4}
    taken = _taken(at.plan, top_m=top_m, in_water=at.profile.habit == "aquatic")
    return free_spot((length_m, wide_m), taken, half, (wanted[end] * length_m, wide_m - half[1] - AT_WALL_M))


def _bowl_place(plan: HabitatPlan, case: EnclosureCase, bath: Bath) -> tuple[tuple[float, float], float]:
    """Where a bowl would stand, at the cool half, and its diameter: what the animal needs to lie in, where that fits."""
    across_m = max(BOWL_SHARE * min(case.width_m, case.length_m, MOST_BOWL_M / BOWL_SHARE), LEAST_BOWL_M)
    if bath.wide_m is not None and bath.fits:
        across_m = max(across_m, round(bath.wide_m + 0.0049, 2))
    wanted_m = (0.75 if warm_side_x(case) <= case.length_m / 2 else 0.25) * case.length_m
    half = across_m / 2, across_m / 2
    return free_spot((case.length_m, case.width_m), _taken(plan), half, (wanted_m, case.width_m / 2)), across_m


def _taken(plan: HabitatPlan, but: str = "", top_m: float = 0.0, *, in_water: bool = False) -> tuple[Footprint, ...]:
    """What takes floor but the thing at `but`: things, the pool, and what is too near to a lamp for something of this top.

    A pool as long as the floor is the floor, and so is any for what may stand `in_water`.
    """
    taken = list(footprints(plan, but))
    if not in_water and plan.pool is not None and leaves_land(plan):
        wide_m = plan.enclosure.width_m
        taken.append(Footprint(plan.pool.x_m, wide_m / 2, plan.pool.length_m, wide_m))
    for lamp in plan.heaters:
        if lamp.hangs:
            above_m = lamp.height_m - plan.ground.depth_m - top_m
            aside_m = max(math.sqrt(max((NEAREST_M + CLEAR_M) ** 2 - above_m**2, 0.0)), UNDER_LAMP_M)
            taken.append(Footprint(lamp.x_m, y_of(plan, lamp), 2 * aside_m, 2 * aside_m, round=True))
    return tuple(taken)


def _free(plan: HabitatPlan, piece: FloorPiece) -> tuple[float, float]:
    """Where a piece would stand clear of the others, of the pool and of what is under the lamps, nearest to where it is."""
    box = plan.enclosure
    place = free_spot((box.length_m, box.width_m), _taken(plan, piece.path, piece.height_m), piece.reach_m, (piece.x_m, piece.y_m))
    return round(place[0], 3), round(place[1], 3)


def hide_by_place(at: Situation, finding: Finding) -> Remedy | None:
    """One of the hides that is not needed where it is, moved to where the ground is as warm or as cool as is wanted."""
    wanted_m = finding.parameters.get("place")
    hides = [hide for hide in at.plan.hides if not hide.humid and hide.heated_w is None]
    if not isinstance(wanted_m, Measure) or len(hides) < LEAST_TO_MOVE or at.quick:
        return None
    # The one nearest to that end goes: the other end keeps its own.
    hide = min(hides, key=lambda one: abs(one.x_m - wanted_m.value))
    path = at.plan.path_of(hide)
    piece = next(one for one in pieces_of(at.plan) if one.path == path)
    box = at.plan.enclosure
    floor, taken = (box.length_m, box.width_m), _taken(at.plan, path, piece.height_m)
    x_m, y_m = free_spot(floor, taken, piece.reach_m, (wanted_m.value, piece.y_m))
    if abs(x_m - hide.x_m) < MOVED_M:
        return None
    told: dict[str, Parameter] = {"part": "hide", "place": Measure(x_m, "m"), "front": Measure(y_m, "m")}
    return Remedy(RemedyCode.SPACE_MOVE, told, (Change(f"{path}.x_m", round(x_m, 3)), Change(f"{path}.y_m", round(y_m, 3))))


def from_sockets(at: Situation, finding: Finding) -> Remedy | None:
    """What holds water, moved away from the wall with the sockets, to the nearest place that is free."""
    piece = next((one for one in pieces_of(at.plan) if one.path == finding.subject), None)
    if piece is None or at.quick:
        return None
    box, strip_m = at.plan.enclosure, dry_m(at.plan)
    floor, middle = (box.length_m, box.width_m), (box.length_m / 2, box.width_m / 2)
    # The floor beside the sockets is taken, too.
    strip = {
        "left": Footprint(strip_m / 2, middle[1], strip_m, box.width_m),
        "right": Footprint(box.length_m - strip_m / 2, middle[1], strip_m, box.width_m),
        "back": Footprint(middle[0], box.width_m - strip_m / 2, box.length_m, strip_m),
    }[box.sockets or "left"]
    taken = (*_taken(at.plan, piece.path, piece.height_m), strip)
    x_m, y_m = free_spot(floor, taken, piece.reach_m, (piece.x_m, piece.y_m))
    if from_sockets_m(at.plan, (x_m, y_m), piece.reach_m) < dry_m(at.plan):
        return None
    told: dict[str, Parameter] = {"part": finding.parameters["part"], "place": Measure(x_m, "m"), "front": Measure(y_m, "m")}
    changes = Change(f"{piece.path}.x_m", round(x_m, 3)), Change(f"{piece.path}.y_m", round(y_m, 3))
    return Remedy(RemedyCode.SPACE_MOVE, told, changes)


def of_stone(at: Situation, finding: Finding) -> Remedy | None:
    """The same thing of a material that bears the lamp, where its kind is made of one; else a place away from it."""
    thing = at.plan.thing_at(finding.subject)
    limit = finding.parameters["value"]
    bears = [stuff for stuff in thing.of.materials if isinstance(limit, Measure) and STUFF[stuff].bears_c > limit.value]
    if bears:
        told: dict[str, Parameter] = {"part": finding.parameters["part"], "stuff": bears[0]}
        return Remedy(RemedyCode.SPACE_OF_STONE, told, (Change(f"{finding.subject}.material", bears[0]),))
    return clear(at, finding)


def other_places(plan: HabitatPlan, finding: Finding) -> Iterator[Remedy]:
    """Other free places for what stands in something: along the length, at the back and at the front."""
    box = plan.enclosure
    pieces = {piece.path: piece for piece in pieces_of(plan) if piece.kind != "platform"}
    named = [path for path in finding.subject.split("/") if path in pieces]
    hides = [path for path, piece in pieces.items() if piece.kind == "hide"]
    for path in named or hides:
        piece = pieces[path]
        taken = _taken(plan, path, piece.height_m)
        tried = {(round(piece.x_m, 2), round(piece.y_m, 2))}
        for along in ELSEWHERE:
            for across_m in (box.width_m - piece.reach_m[1] - AT_WALL_M, piece.reach_m[1] + AT_WALL_M):
                x_m, y_m = free_spot((box.length_m, box.width_m), taken, piece.reach_m, (along * box.length_m, across_m))
                if (round(x_m, 2), round(y_m, 2)) in tried:
                    continue
                tried.add((round(x_m, 2), round(y_m, 2)))
                told: dict[str, Parameter] = {"part": piece.kind, "place": Measure(x_m, "m"), "front": Measure(y_m, "m")}
                changes = Change(f"{path}.x_m", round(x_m, 3)), Change(f"{path}.y_m", round(y_m, 3))
                yield Remedy(RemedyCode.SPACE_MOVE, told, changes)
