"""What mends the furniture: hides, a bowl, water to live in, and a clear place for what stands in something else."""

from typing import Any, Final

from husbandry.animal.body import Body
from husbandry.animal.needs import POOL_FILL, minimum_needs, usual_pool
from husbandry.assessment import Change, Finding, Measure, Remedy
from husbandry.climate.case import EnclosureCase
from husbandry.climate.probes import warm_side_x
from husbandry.codes import FindingCode, RemedyCode
from husbandry.inputs.furniture import bath_of, lets_under, pieces_of
from husbandry.plan.changes import added
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.situation import Situation
from husbandry.review.arrangement import Bath, FloorPiece
from husbandry.space.furniture import free_place
from husbandry.species.profile import Profile
from husbandry.units import TOLERANCE_M

BOWL_SHARE, LEAST_BOWL_M, MOST_BOWL_M = 0.25, 0.06, 0.15  # of the floor's width; a larger bowl wets a small box
BOWL_RIM_M: Final = 0.04
UNDER_LAMP_M: Final = 0.1  # of the length: nothing is put there
MOVED_M: Final = 0.005  # less is no move


def humid_hide(at: Situation, _finding: Finding) -> Remedy | None:
    """A damp hide where there is none."""
    return Remedy(RemedyCode.MOISTURE_ADD_HUMID_HIDE, {}, (added(at.plan, _hide(at, "humid")),))


def hide(at: Situation, _finding: Finding) -> Remedy | None:
    """One more hide, at either end in turn."""
    there = len(at.plan.hides)
    return Remedy(RemedyCode.SPACE_ADD_HIDE, {}, (added(at.plan, _hide(at, "cool" if there % 2 == 0 else "warm")),))


def _hide(at: Situation, end: str) -> dict[str, Any]:
    length_m = _hide_length_m(at.profile, at.body)
    size, place = round(length_m, 2), round(_hide_place(at.plan, at.case, length_m, end), 3)
    kind = "humid-hide" if end == "humid" else "hide"
    return {"kind": kind, "x_m": place, "length_m": size, "height_m": round(max(0.5 * size, 0.05), 2)}


def bowl(at: Situation, _finding: Finding) -> Remedy | None:
    """A bowl at the cool half."""
    place_m, across_m = _bowl_place(at.plan, at.case, bath_of(at.plan, at.profile, at.stage, at.body))
    made = {"kind": "bowl", "x_m": round(place_m, 3), "length_m": round(across_m, 3), "height_m": BOWL_RIM_M}
    return Remedy(RemedyCode.MOISTURE_ADD_BOWL, {}, (added(at.plan, made),))


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
    place = _free(at.plan, piece)
    if abs(place - piece.x_m) < MOVED_M:
        return None
    return Remedy(RemedyCode.SPACE_MOVE, {"part": piece.kind, "place": Measure(place, "m")}, (Change(f"{piece.path}.x_m", place),))


def _hide_length_m(profile: Profile, body: Body) -> float:
    length_m = body.length_m or profile.body.adult_length_cm.middle / 100
    return max(0.1, 0.2 * length_m if profile.body.form == "snake" else 1.4 * length_m)


def _hide_place(plan: HabitatPlan, case: EnclosureCase, size_m: float, end: str) -> float:
    """Where a further hide would stand clear of the rest: towards the warm end, the cool end, or the middle for a humid one."""
    length_m = case.length_m
    warm_left = warm_side_x(case) <= length_m / 2
    wanted = {"warm": 0.42 if warm_left else 0.58, "cool": 0.88 if warm_left else 0.12, "humid": 0.6 if warm_left else 0.4}
    return free_place(_taken(plan, size_m), length_m, size_m, wanted[end] * length_m)


def _bowl_place(plan: HabitatPlan, case: EnclosureCase, bath: Bath) -> tuple[float, float]:
    """Where a bowl would stand, at the cool half, and its diameter: what the animal needs to lie in, where that fits."""
    across_m = max(BOWL_SHARE * min(case.width_m, case.length_m, MOST_BOWL_M / BOWL_SHARE), LEAST_BOWL_M)
    if bath.wide_m is not None and bath.fits:
        across_m = max(across_m, round(bath.wide_m + 0.0049, 2))
    wanted_m = (0.75 if warm_side_x(case) <= case.length_m / 2 else 0.25) * case.length_m
    return free_place(_taken(plan, across_m), case.length_m, across_m, wanted_m), across_m


def _taken(plan: HabitatPlan, size_m: float, but: str = "") -> tuple[tuple[float, float], ...]:
    """Middle and size along the length of all that `size_m` cannot stand behind, of the pool, and of what lies under a lamp.

    A branch leaves the ground under it free, as does the piece at the path `but`; a pool as long as the floor is the floor.
    """
    others = (piece for piece in pieces_of(plan) if piece.path != but and not lets_under(plan, piece))
    taken = [(other.x_m, other.length_m) for other in others if other.length_m + size_m > plan.enclosure.width_m]
    if plan.pool is not None and plan.pool.length_m < plan.enclosure.length_m - TOLERANCE_M:
        taken.append((plan.pool.x_m, plan.pool.length_m))
    taken += [(lamp.x_m, UNDER_LAMP_M) for lamp in plan.heaters if lamp.hangs]
    return tuple(taken)


def _free(plan: HabitatPlan, piece: FloorPiece) -> float:
    """Where a piece would stand clear of the others, of the pool and of what is under the lamps, nearest to where it is."""
    taken = _taken(plan, piece.length_m, but=piece.path)
    return round(free_place(taken, plan.enclosure.length_m, piece.length_m, piece.x_m), 3)
