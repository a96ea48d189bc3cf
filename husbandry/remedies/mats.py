"""What mends warmth from below: a mat where none is, the set point that brings the ground over it to what is wanted."""

from typing import Any, Final

from husbandry.assessment import Change, Finding, Measure, Remedy
from husbandry.codes import RemedyCode
from husbandry.plan.changes import ground_depth
from husbandry.plan.equipment import Heater
from husbandry.plan.geometry import spot_x_m
from husbandry.remedies.heating import MOST_HEATERS
from husbandry.remedies.situation import Situation
from husbandry.review.judged import below
from husbandry.species.leaves import choose

FLOOR_SHARE: Final = 1 / 3  # of the enclosure's length: the rest stays cool (trade)
LONGEST_M: Final = 0.6
WATTS_A_M2: Final = 300.0  # of usual mats (estimate)
USUAL_W: Final = (5.0, 7.0, 10.0, 14.0, 18.0, 24.0, 30.0, 40.0, 50.0, 60.0, 80.0)
THROUGH_GROUND_K: Final = 2.0  # its face over the ground above it, before it is worked out (estimate)
MOST_SET_C: Final = 40.0  # hotter than that a mat is never set
THIN_GROUND_M: Final = 0.02
MAT_HEIGHT_M: Final = 0.01
MATS: Final = ("mat", "cable")  # what lies under the ground
WARMS_K: Final = 0.5  # over the room: less tells nothing of what it could do
FLAT_OUT_K: Final = 1.0  # a mat so far below its set point is full on


def missing(at: Situation, _finding: Finding) -> Remedy | None:
    """A mat under a third of the floor at the basking place's end, its thermostat's probe on it."""
    plan, wanted_c = at.plan, at.facts.heat.mat_middle_c
    if wanted_c is None or len(plan.heaters) >= MOST_HEATERS:
        return None
    box = plan.enclosure
    length_m = round(min(FLOOR_SHARE * box.length_m, LONGEST_M), 2)
    x_m = round(min(max(spot_x_m(plan), length_m / 2), box.length_m - length_m / 2), 3)
    needed_w = WATTS_A_M2 * length_m * min(length_m, box.width_m)
    watts = next((size for size in USUAL_W if size >= needed_w), USUAL_W[-1])
    mat: dict[str, Any] = {
        "kind": "mat",
        "watts": watts,
        "x_m": x_m,
        "height_m": MAT_HEIGHT_M,
        "length_m": length_m,
        "guarded": True,
        "thermostat": _held(wanted_c),
    }
    said = {"watts": Measure(watts, "W"), "length": Measure(length_m, "m"), "wanted": Measure(wanted_c, "degC")}
    return Remedy(RemedyCode.HEAT_ADD_MAT, said, (Change(f"heaters.{len(plan.heaters)}", mat),))


def over(at: Situation, finding: Finding) -> Remedy | None:
    """Its probe on the mat, another set point, less ground where the mat would have to be too hot for it, a stronger one.

    Over the room both the mat's face and the ground over it rise with its watts, so that their ratio tells the one from the other.
    """
    worst, wanted = at.about(finding), at.stage.heat.mat_surface_c
    faces = [item.value for item in at.facts.of("mat_contact", "day") if item.season == worst.season and item.value is not None]
    mats = [(index, heater) for index, heater in enumerate(at.plan.heaters) if heater.kind in MATS]
    if wanted is None or worst.value is None or not faces or not mats:
        return None
    middle_c, room_c = choose(wanted, at.plan.schools).middle, at.plan.room_c(worst.season, "day")
    loose = [index for index, heater in mats if heater.thermostat.probe != "mat" or heater.thermostat.set_c is None]
    if loose:
        held = _held(middle_c)
        said = {"wanted": Measure(float(held["set_c"]), "degC")}
        return Remedy(RemedyCode.HEAT_SET_MAT, said, tuple(Change(f"heaters.{index}.thermostat", held) for index in loose))
    if worst.value <= room_c + WARMS_K or middle_c <= room_c:
        return None
    set_c = round(room_c + (faces[0] - room_c) * (middle_c - room_c) / (worst.value - room_c), 1)
    now_c = max(heater.thermostat.set_c or 0.0 for _index, heater in mats)
    depth_m = at.plan.ground.depth_m
    if below(worst) and set_c > MOST_SET_C and depth_m > THIN_GROUND_M:
        thinner = round(max(depth_m / 2, THIN_GROUND_M), 3)
        return Remedy(RemedyCode.HEAT_LESS_GROUND, {"depth": Measure(thinner, "m")}, ground_depth(at.plan, thinner))
    if below(worst) and now_c > faces[0] + FLAT_OUT_K:
        return _stronger(mats[0])
    if below(worst) and now_c >= MOST_SET_C:
        return Remedy(RemedyCode.HEAT_MAT_ALONE)
    set_c = min(set_c, MOST_SET_C)
    changes = tuple(Change(f"heaters.{index}.thermostat.set_c", set_c) for index, _heater in mats)
    return Remedy(RemedyCode.HEAT_SET_MAT, {"wanted": Measure(set_c, "degC")}, changes)


def _held(middle_c: float) -> dict[str, Any]:
    """A mat's thermostat, its probe on it, for so much on the ground above."""
    return {"kind": "pulse", "set_c": round(min(middle_c + THROUGH_GROUND_K, MOST_SET_C), 1), "probe": "mat"}


def _stronger(mat: tuple[int, Heater]) -> Remedy:
    """The next usual size; words alone where there is none."""
    index, heater = mat
    watts = next((size for size in USUAL_W if size > heater.watts), None)
    if watts is None:
        return Remedy(RemedyCode.HEAT_MAT_ALONE)
    return Remedy(RemedyCode.HEAT_STRONGER_HEATER, {"watts": Measure(watts, "W")}, (Change(f"heaters.{index}.watts", watts),))
