"""Several weaker lamps over one basking place instead of one: a longer warm patch, and no back burnt under its middle."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Measure, Parameter, Remedy
from husbandry.climate.heaters import HEATERS, patch_diameter
from husbandry.codes import RemedyCode
from husbandry.plan.equipment import Thermostat
from husbandry.plan.geometry import basking_top_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.heating import MOST_HEATERS

SIZES_W: Final = (25.0, 35.0, 40.0, 50.0, 60.0, 75.0, 80.0, 100.0, 120.0, 150.0)  # the sizes lamps come in (trade)
MORE_IN_ALL: Final = 1.15  # of the one lamp's watts: beside one another less falls on the middle
APART: Final = (0.55, 0.75)  # of one lamp's patch: nearer they are as one, farther apart it is cool between them
FROM_WALL_M: Final = 0.06


def instead(plan: HabitatPlan, index: int, wanted_c: float | None = None) -> Iterator[tuple[int, Remedy]]:
    """Two and three lamps of its kind where one hangs: how many, and the change that hangs them.

    Each of the size that together gives about what the one gave, as far apart along the length as their patches run together;
    timer, height and guard as the one has them, and its thermostat: a lamp without one gets what suits it, at `wanted_c`.
    """
    lamp, box = plan.heaters[index], plan.enclosure
    kind = HEATERS[lamp.kind]
    drop_m = lamp.height_m - basking_top_m(plan, lamp.x_m)
    if kind.place != "over" or drop_m <= 0:
        return
    held: tuple[Change, ...] = ()
    if lamp.thermostat.kind == "none" and kind.controls[0] != "none" and wanted_c is not None:
        control = {"kind": kind.controls[0], "set_c": round(wanted_c, 1), "probe": "basking-surface"}
        lamp = lamp.model_copy(update={"thermostat": Thermostat.model_validate(control)})
        held = (Change(f"heaters.{index}.thermostat", control),)
    patch_m = patch_diameter(lamp.half_angle_deg or kind.half_angle_deg, kind.face_m, drop_m)
    for count in (2, 3):
        if len(plan.heaters) + count - 1 > MOST_HEATERS:
            continue
        each_w = next((size for size in SIZES_W if size >= MORE_IN_ALL * lamp.watts / count), lamp.watts)
        if each_w >= lamp.watts:
            continue
        for share in APART:
            apart_m = min(share * patch_m, (box.length_m - 2 * FROM_WALL_M) / (count - 1))
            half_m = apart_m * (count - 1) / 2
            middle_m = min(max(lamp.x_m, half_m + FROM_WALL_M), box.length_m - half_m - FROM_WALL_M)
            places = [round(middle_m - half_m + place * apart_m, 3) for place in range(count)]
            one = lamp.model_dump(mode="json")
            changes = [Change(f"heaters.{index}.watts", each_w), Change(f"heaters.{index}.x_m", places[0])]
            for more, x_m in enumerate(places[1:]):
                changes.append(Change(f"heaters.{len(plan.heaters) + more}", one | {"watts": each_w, "x_m": x_m}))
            told: dict[str, Parameter] = {"count": count, "watts": Measure(each_w, "W"), "apart": Measure(apart_m, "m")}
            code = RemedyCode.HEAT_SIDE_BY_SIDE
            if held and wanted_c is not None:
                told["wanted"], code = Measure(wanted_c, "degC"), RemedyCode.HEAT_SIDE_BY_SIDE_HELD
            yield count, Remedy(code, told, (*held, *changes))
