"""Rules of what stands where: inside the walls, clear of each other, of water and lamp; the bowl, the lid, quarantine."""

import math
from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.arrangement import Bath
from husbandry.review.facts import Facts

SLACK_M: Final = 0.01  # furniture is not placed to the millimetre
UNDER_LAMP_M: Final = 0.20  # a hide's top nearer to the lamp is a second, hotter basking place (as for what is climbed on)
LID_GAP_M: Final = 0.02
PAPER_M: Final = 0.005
FREEBOARD_M: Final = 0.005  # from the water to a bowl's rim (estimate)
LEAST_FILL_M: Final = 0.01
IN_WATER: Final = ("platform", "plant", "fake-plant")  # what may stand in a pool: what is climbed out on, reeds and leaves


def lid(facts: Facts) -> Iterator[Finding]:
    """An open top and an animal that climbs or leaps; one in water is kept in by its level, and yet jumps."""
    here = facts.standing
    if here.open_top and not here.stays_in:
        severity = Severity.WRONG if here.swims else Severity.DANGER
        remedy = Remedy(RemedyCode.SPACE_COVER, {}, (Change("enclosure.lid", "mesh"),))
        yield Finding(FindingCode.SPACE_OPEN_TOP, severity, "enclosure", {}, remedy)


def walls(facts: Facts) -> Iterator[Finding]:
    """What reaches past a wall or through the lid."""
    for piece, over in facts.standing.past_walls:
        if over <= SLACK_M:
            continue
        longest = min(piece.length_m, round(facts.box.length_m - 2 * SLACK_M, 3))
        shorter = longest < piece.length_m
        half_x, half_y = (longest / 2 if shorter else piece.reach_m[0]), piece.reach_m[1]
        changes = [Change(f"{piece.path}.length_m", longest)] if shorter else []
        places = ("x_m", piece.x_m, half_x, facts.box.length_m), ("y_m", piece.y_m, half_y, facts.box.width_m)
        for name, now_m, half_m, side_m in places:
            inside = round(min(max(now_m, half_m), max(side_m - half_m, side_m / 2)), 3)
            if abs(inside - now_m) > SLACK_M / 2:
                changes.append(Change(f"{piece.path}.{name}", inside))
        told: dict[str, Parameter] = {"part": piece.kind, "over": Measure(over, "m")}
        remedy = Remedy(RemedyCode.SPACE_INSIDE, {"part": piece.kind}, tuple(changes))
        yield Finding(FindingCode.SPACE_PAST_WALL, Severity.WRONG, "furniture", told, remedy, piece.path)
    for piece in facts.standing.pieces:
        top = facts.ground.top_m + piece.height_m
        if piece.kind == "hide" and top > facts.box.height_m - LID_GAP_M:
            most = round(max(piece.tall_m - (top - facts.box.height_m + LID_GAP_M), 0.02), 3)
            told = {"height": Measure(piece.tall_m, "m"), "most": Measure(most, "m")}
            remedy = Remedy(RemedyCode.SPACE_LOWER_HIDE, {"most": Measure(most, "m")}, (Change(f"{piece.path}.height_m", most),))
            yield Finding(FindingCode.SPACE_TALL_HIDE, Severity.WRONG, "furniture", told, remedy, piece.path)


def clear(facts: Facts) -> Iterator[Finding]:
    """What stands in one another, in the pool, or under a lamp."""
    here = facts.standing
    for item in here.overlaps:
        if item.shared_m > SLACK_M:
            told: dict[str, Parameter] = {"part": item.kind, "other": item.other_kind, "shared": Measure(item.shared_m, "m")}
            code = FindingCode.SPACE_OVERLAP_ALIKE if item.kind == item.other_kind else FindingCode.SPACE_OVERLAP
            yield Finding(code, Severity.ADVICE, "furniture", told, None, f"{item.path}/{item.other_path}")
    for piece in here.pieces:
        if here.pool is not None and not here.aquatic and piece.kind not in IN_WATER:
            shared = _shared(piece.x_m, 2 * piece.reach_m[0], here.pool[0], here.pool[1])
            if shared > SLACK_M:
                told = {"part": piece.kind, "shared": Measure(shared, "m")}
                yield Finding(FindingCode.SPACE_IN_POOL, Severity.WRONG, "furniture", told, None, piece.path)
    for near in () if here.aquatic else here.under_lamps:
        told = {"part": near.kind, "gap": Measure(near.gap_m, "m")}
        if near.kind == "bowl" and near.over:
            yield Finding(FindingCode.MOISTURE_BOWL_UNDER_LAMP, Severity.ADVICE, "furniture", told, None, near.lamp)
        elif near.kind not in ("platform", "bowl") and near.gap_m < UNDER_LAMP_M:
            yield Finding(FindingCode.SPACE_HIDE_UNDER_LAMP, Severity.DANGER, "furniture", told, None, f"{near.path}/{near.lamp}")


def in_water(facts: Facts) -> Iterator[Finding]:
    """What is electrical, not made for water, and hangs in it or is splashed."""
    for item in facts.standing.in_water:
        told: dict[str, Parameter] = {
            "kind": item.kind,
            "value": Measure(item.height_m, "m"),
            "high": Measure(item.water_m, "m"),
        }
        if item.free_m is None:
            remedy = Remedy(RemedyCode.HEAT_OUT_OF_WATER, {"kind": item.kind}, (Change(item.path, None),))
        else:
            height_m = round(item.free_m, 3)
            remedy = Remedy(
                RemedyCode.HEAT_HANG_AT, {"height": Measure(height_m, "m")}, (Change(f"{item.path}.height_m", height_m),)
            )
        yield Finding(FindingCode.HEAT_IN_WATER, Severity.DANGER, "heat", told, remedy, item.path)


def _shared(x_m: float, length_m: float, other_x_m: float, other_length_m: float) -> float:
    """How much of the length two things share (m)."""
    return min((length_m + other_length_m) / 2 - abs(x_m - other_x_m), length_m, other_length_m)


def bowl(facts: Facts) -> Iterator[Finding]:
    """A bowl the animal can lie in where it must, and get out of."""
    here = facts.standing
    piece = next((item for item in here.pieces if item.kind == "bowl"), None)
    if piece is None:
        return
    wide_m, deepest_m, depth_m = here.bath.wide_m, here.bath.deepest_m, here.bowl_depth_m
    if wide_m is not None and piece.length_m < 0.9 * wide_m:
        wanted = round(wide_m + 0.0049, 2)
        places = (("x_m", piece.x_m, facts.box.length_m), ("y_m", piece.y_m, facts.box.width_m))
        moved = [(name, at, round(min(max(at, wanted / 2), side_m - wanted / 2), 3)) for name, at, side_m in places]
        follow = tuple(Change(f"{piece.path}.{name}", place) for name, at, place in moved if abs(place - at) > SLACK_M / 2)
        changes = (Change(f"{piece.path}.length_m", wanted), *follow) if here.bath.fits else ()
        told: dict[str, Parameter] = {"value": Measure(piece.length_m, "m"), "low": Measure(wide_m, "m")}
        severity = Severity.WRONG if here.bath.must else Severity.ADVICE
        yield Finding(
            FindingCode.MOISTURE_BOWL_SMALL, severity, "moisture", told, Remedy(RemedyCode.MOISTURE_WIDER_BOWL, told, changes)
        )
    elif depth_m is not None and depth_m > here.bowl_rim_m + SLACK_M / 10:
        fill: dict[str, Parameter] = {"value": Measure(depth_m, "m"), "rim": Measure(here.bowl_rim_m, "m")}
        fill_m = max(math.floor(1000 * (here.bowl_rim_m - FREEBOARD_M)) / 1000, FREEBOARD_M)
        less = Remedy(RemedyCode.MOISTURE_FILL_BOWL, {"wanted": Measure(fill_m, "m")}, (Change(f"{piece.path}.water_m", fill_m),))
        yield Finding(FindingCode.MOISTURE_BOWL_BRIM, Severity.ADVICE, "moisture", fill, less)
    elif here.bath.body_m3 is not None and here.bath.fits:
        yield from _with_it_in(here.bath, piece.path, piece.length_m, here.bowl_rim_m, depth_m)
    if depth_m is not None and deepest_m is not None and depth_m > deepest_m + 0.001:
        deepest = round(max(deepest_m, 0.005), 3)
        said: dict[str, Parameter] = {"value": Measure(depth_m, "m"), "high": Measure(deepest, "m")}
        remedy = Remedy(RemedyCode.MOISTURE_SHALLOWER_BOWL, said, (Change(f"{piece.path}.water_m", deepest),))
        yield Finding(FindingCode.MOISTURE_BOWL_DEEP, Severity.DANGER, "moisture", said, remedy)


def _with_it_in(bath: Bath, path: str, across_m: float, rim_m: float, depth_m: float | None) -> Iterator[Finding]:
    """Where the water stands when the animal lies in its bowl: it rises by the animal's volume (Archimedes; straight sides)."""
    rise_m = (bath.body_m3 or 0.0) / (math.pi / 4 * across_m**2)
    room_m = rim_m - rise_m - FREEBOARD_M
    level_m = rise_m + (max(room_m, 0.0) if depth_m is None else depth_m)
    shallow = bath.must and level_m < bath.cover_m - SLACK_M
    if not shallow and (depth_m is None or level_m <= rim_m):
        return
    least_m = math.ceil(1000 * max(bath.cover_m - rise_m if bath.must else 0.0, LEAST_FILL_M)) / 1000
    if room_m >= least_m:
        fill_m, high_m = (least_m if shallow else math.floor(1000 * room_m) / 1000), rim_m
        changes: tuple[Change, ...] = (Change(f"{path}.water_m", fill_m),)
    else:
        fill_m, high_m = least_m, math.ceil(1000 * (least_m + rise_m + FREEBOARD_M)) / 1000
        changes = Change(f"{path}.height_m", high_m), Change(f"{path}.water_m", fill_m)
    wanted: dict[str, Parameter] = {"wanted": Measure(fill_m, "m"), "rim": Measure(high_m, "m")}
    remedy = Remedy(RemedyCode.MOISTURE_FILL_BOWL if high_m == rim_m else RemedyCode.MOISTURE_DEEPER_BOWL, wanted, changes)
    told: dict[str, Parameter] = {"value": Measure(level_m, "m"), "low": Measure(bath.cover_m, "m")}
    told |= {"rise": Measure(rise_m, "m"), "rim": Measure(rim_m, "m")}
    code = FindingCode.MOISTURE_BOWL_SHALLOW if shallow else FindingCode.MOISTURE_BOWL_OVERFLOWS
    yield Finding(code, Severity.ADVICE, "moisture", told, remedy)


def at_sockets(facts: Facts) -> Iterator[Finding]:
    """Water that stands where everything is plugged in."""
    here = facts.standing
    for path, kind, away_m in here.at_sockets:
        told: dict[str, Parameter] = {"part": kind, "value": Measure(away_m, "m"), "low": Measure(here.dry_m, "m")}
        yield Finding(FindingCode.MOISTURE_AT_SOCKETS, Severity.ADVICE, "moisture", told, None, path)


def pool_level(facts: Facts) -> Iterator[Finding]:
    """A pool whose water would lie below the ground's surface, which fills it."""
    here = facts.standing
    if here.pool is not None and here.pool[2] <= facts.ground.top_m + 0.001 and facts.ground.top_m > 0:
        told: dict[str, Parameter] = {"value": Measure(here.pool[2], "m"), "ground": Measure(facts.ground.top_m, "m")}
        depth_m = here.pool_depth_m
        changes = (Change("pool.depth_m", depth_m),) if depth_m < facts.box.height_m else ()
        remedy = Remedy(RemedyCode.WATER_SET_DEPTH, {"depth": Measure(depth_m, "m")}, changes)
        yield Finding(FindingCode.WATER_BELOW_GROUND, Severity.WRONG, "moisture", told, remedy)


def quarantine(facts: Facts) -> Iterator[Finding]:
    """In quarantine the floor is paper: what the animal passes is seen, and changed each day."""
    here = facts.standing
    if here.quarantined and not here.swims and here.ground_kind != "paper":
        remedy = Remedy(RemedyCode.GROUND_PAPER, {}, paper(facts))
        yield Finding(FindingCode.GROUND_QUARANTINE, Severity.WRONG, "ground", {"kind": here.ground_kind}, remedy)


def paper(facts: Facts) -> tuple[Change, ...]:
    """Paper in place of the ground; none where there is paper, or where it swims."""
    here = facts.standing
    if here.swims or here.ground_kind == "paper":
        return ()
    # What the animal basks on stays as high as it was under the lamps, or they come down with it.
    lower_m = facts.ground.top_m - PAPER_M
    if here.platform is not None:
        path, stands_m = here.platform
        follow = [Change(path, round(stands_m + lower_m, 4))]
    else:
        lamps = [(path, height_m) for path, _x_m, height_m in here.lamps]
        lamps += [(item.path, item.height_m) for item in facts.uv_lamps if item.path.startswith("uv_lamps.")]
        follow = [Change(f"{path}.height_m", round(height_m - lower_m, 4)) for path, height_m in lamps]
    # Where the ground was damp, so is the paper: what lives damp would dry out on dry paper.
    sheet = {"parts": [{"material": "paper", "parts": 1.0}], "depth_m": PAPER_M, "damp": here.ground_damp}
    return (Change("ground", {"layers": [sheet]}), *follow)
