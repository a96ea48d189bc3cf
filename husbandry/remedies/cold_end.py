"""Heat for the one end that is too cold, by day or by night: a dark heater of its own over that end, held by a probe there."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Measure, Parameter, Quantity, Remedy
from husbandry.climate.probes import warm_side_x
from husbandry.climate.states import Climate
from husbandry.codes import RemedyCode
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.geometry import highest_under_m
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.remedies.heating import FURTHER_K, MOST_HEATERS, NEW_HEATER_GAP_M, beside_bowl, beside_lamps, dark_kind, weakest

ENDS: Final = {
    ("warm_air", "day"): RemedyCode.HEAT_ADD_DAY_HEATER,
    ("cool_air", "day"): RemedyCode.HEAT_ADD_COOL_END_HEATER,
    ("warm_air", "night"): RemedyCode.HEAT_ADD_WARM_END_NIGHT_HEATER,
    ("cool_air", "night"): RemedyCode.HEAT_ADD_NIGHT_HEATER,
}
PLACES: Final = (0.2, 0.35)  # of the length from that end's wall
INSIDE_K: Final = 0.4  # above the band's lower edge


def heated(plan: HabitatPlan, climate: Climate, cold: Quantity) -> Iterator[Remedy]:
    """A heater over the end that is `cold`: set just inside its band first, then to its middle; over two places."""
    band, code = cold.band, ENDS.get((cold.key, cold.phase))
    if code is None or band is None or band.low is None or cold.value is None:
        return
    if len(plan.heaters) >= MOST_HEATERS or cold.value >= band.low:
        return
    probe, day = cold.key.replace("_", "-"), cold.phase == "day"
    on, off = f"{plan.daylight.on:%H:%M}", f"{plan.daylight.off:%H:%M}"
    case, box = enclosure_case(plan), plan.enclosure
    left = (warm_side_x(case) <= box.length_m / 2) == (cold.key == "warm_air")
    limit = box.height_m if box.lid == "solid" else box.height_m + ABOVE_LID_M
    usual = box.height_m if box.lid == "mesh" else 0.85 * box.height_m
    middle_c = (band.low + (band.low + 2.0 if band.high is None else band.high)) / 2
    for share in PLACES:
        x_m = round(beside_bowl(plan, (share if left else 1 - share) * box.length_m), 2)
        height_m = round(min(max(usual, highest_under_m(plan, x_m) + NEW_HEATER_GAP_M), limit), 2)
        for set_c in (round(band.low + INSIDE_K, 1), round(middle_c, 1)):
            watts, _share = weakest(case, climate, (x_m, height_m), (cold.key, cold.phase, set_c + FURTHER_K), cold.value)
            kind = dark_kind(watts)
            heater = {
                "kind": kind,
                "watts": watts,
                "x_m": x_m,
                "height_m": height_m,
                **beside_lamps(plan, kind, x_m, height_m),
                **({} if kind == "ceramic-emitter" else {"length_m": round(0.3 * box.length_m, 2)}),
                "on": on if day else off,
                "off": off if day else on,
                "guarded": True,
                "thermostat": {"kind": "pulse", "set_c": set_c, "probe": probe},
            }
            told: dict[str, Parameter] = {"set": Measure(set_c, "degC"), "watts": Measure(watts, "W"), "kind": kind}
            yield Remedy(code, told, (Change(f"heaters.{len(plan.heaters)}", heater),))
