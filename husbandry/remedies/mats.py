"""What mends warmth from below: a mat where none is, the set point that brings the ground over it to what is wanted."""

from typing import Any, Final

from husbandry.assessment import Change, Finding, Measure, Remedy
from husbandry.codes import FindingCode, RemedyCode
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
    held = {"kind": "pulse", "set_c": round(wanted_c + THROUGH_GROUND_K, 1), "probe": "mat"}
    mat: dict[str, Any] = {
        "kind": "mat",
        "watts": watts,
        "x_m": x_m,
        "height_m": MAT_HEIGHT_M,
        "length_m": length_m,
        "guarded": True,
        "thermostat": held,
    }
    said = {"watts": Measure(watts, "W"), "length": Measure(length_m, "m"), "wanted": Measure(wanted_c, "degC")}
    return Remedy(RemedyCode.HEAT_ADD_MAT, said, (Change(f"heaters.{len(plan.heaters)}", mat),))


def over(at: Situation, finding: Finding) -> Remedy | None:
    """Another set point; less ground where the mat would have to be too hot for it.

    Over the room both the mat's face and the ground over it rise with its watts, so that their ratio tells the one from the other.
    """
    worst, wanted = at.about(finding), at.stage.heat.mat_surface_c
    if wanted is None or worst.value is None:
        return None
    middle_c, room_c = choose(wanted, at.plan.schools).middle, at.plan.room_c(worst.season, "day")
    faces = [item.value for item in at.facts.of("mat_contact", "day") if item.season == worst.season and item.value is not None]
    mats = [(index, heater) for index, heater in enumerate(at.plan.heaters) if heater.kind in ("mat", "cable")]
    if not faces or not mats or worst.value <= room_c + 0.5 or middle_c <= room_c:
        return None
    set_c = round(room_c + (faces[0] - room_c) * (middle_c - room_c) / (worst.value - room_c), 1)
    held = [(index, heater) for index, heater in mats if heater.thermostat.probe == "mat" and heater.thermostat.set_c is not None]
    told = {"wanted": Measure(min(set_c, MOST_SET_C), "degC")}
    cold = finding.code is FindingCode.HEAT_OVER_MAT_COLD and below(worst)
    if cold and set_c > MOST_SET_C and at.plan.ground.depth_m > THIN_GROUND_M:
        thinner = round(max(at.plan.ground.depth_m / 2, THIN_GROUND_M), 3)
        return Remedy(RemedyCode.HEAT_LESS_GROUND, {"depth": Measure(thinner, "m")}, (Change("ground.depth_m", thinner),))
    at_limit = [heater.thermostat.set_c for _index, heater in held if heater.thermostat.set_c is not None]
    if not held or (cold and max(at_limit) > faces[0] + 1.0):
        # It is full on, and does not reach what it is set to.
        index, heater = mats[0]
        stronger = next((size for size in USUAL_W if size > heater.watts), None)
        if not cold or stronger is None:
            return None
        return Remedy(
            RemedyCode.HEAT_STRONGER_LAMP, {"watts": Measure(heater.watts, "W")}, (Change(f"heaters.{index}.watts", stronger),)
        )
    changes = tuple(Change(f"heaters.{index}.thermostat.set_c", min(set_c, MOST_SET_C)) for index, _heater in held)
    return Remedy(RemedyCode.HEAT_SET_MAT, told, changes)
