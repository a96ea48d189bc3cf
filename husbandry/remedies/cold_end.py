"""Heat for the one end that is too cold, by day or by night: a dark heater of its own over that end, held by a probe there."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Measure, Parameter, Quantity, Remedy
from husbandry.climate.probes import warm_side_x
from husbandry.climate.states import Climate
from husbandry.codes import RemedyCode
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.hanging import clear_place, usual_height_m
from husbandry.remedies.heating import FURTHER_K, MOST_HEATERS, dark_kind, fits_tube, weakest

ENDS: Final = {
    ("warm_air", "day"): RemedyCode.HEAT_ADD_DAY_HEATER,
    ("cool_air", "day"): RemedyCode.HEAT_ADD_COOL_END_HEATER,
    ("warm_air", "night"): RemedyCode.HEAT_ADD_WARM_END_NIGHT_HEATER,
    ("cool_air", "night"): RemedyCode.HEAT_ADD_NIGHT_HEATER,
}
PLACES: Final = (0.2, 0.35)  # of the length from that end's wall
INSIDE_K: Final = 0.4  # above the band's lower edge


def heated(plan: HabitatPlan, climate: Climate, cold: Quantity, *, climbed: bool, low: bool = False) -> Iterator[Remedy]:
    """A heater over the end that is `cold`, or `low` along its floor where the air under the lid must not get hotter.

    At the lid where it would be `climbed` on. Set just inside its band first, then to its middle; in two places.
    """
    kind_of = _tube if low else dark_kind
    band, code = cold.band, ENDS.get((cold.key, cold.phase))
    if code is None or band is None or band.low is None or cold.value is None:
        return
    if len(plan.heaters) >= MOST_HEATERS or cold.value >= band.low or (low and not fits_tube(plan)):
        return
    probe, day = cold.key.replace("_", "-"), cold.phase == "day"
    on, off = f"{plan.daylight.on:%H:%M}", f"{plan.daylight.off:%H:%M}"
    case, box = enclosure_case(plan), plan.enclosure
    left = (warm_side_x(case) <= box.length_m / 2) == (cold.key == "warm_air")
    usual_m = usual_height_m(plan, climbed=climbed)
    middle_c = (band.low + (band.low + 2.0 if band.high is None else band.high)) / 2
    for share in PLACES:
        place = clear_place(plan, (share if left else 1 - share) * box.length_m, usual_m)
        for set_c in (round(band.low + INSIDE_K, 1), round(middle_c, 1)):
            wanted = cold.key, cold.phase, set_c + FURTHER_K
            watts, _share = weakest(plan, climate, place, wanted, cold.value, kind_of)
            kind = kind_of(watts)
            heater = {
                "kind": kind,
                "watts": watts,
                **place.fields(plan, kind),
                "on": on if day else off,
                "off": off if day else on,
                "guarded": True,
                "thermostat": {"kind": "pulse", "set_c": set_c, "probe": probe},
            }
            told: dict[str, Parameter] = {"set": Measure(set_c, "degC"), "watts": Measure(watts, "W"), "kind": kind}
            yield Remedy(code, told, (Change(f"heaters.{len(plan.heaters)}", heater),))


def _tube(_watts: float) -> str:
    return "tube-heater"
