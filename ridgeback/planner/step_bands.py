"""The quantities beside each step of the plan screen, as marks on their bands."""

from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry.assess.result import Assessment
from husbandry.plan.habitat import MOST_PROBES
from ridgeback.drawing.marks import mark
from ridgeback.language import dates
from ridgeback.planner.readings import Taken
from ridgeback.planner.view import View
from ridgeback.units import KeeperUnits

# By phase where they have one.
BANDS: Final[dict[str, tuple[str, ...]]] = {
    "animal": ("enclosure_length", "water_temperature", "basking_surface", "uv_back", "cool_humidity", "feed_interval"),
    "room": ("water_temperature", "warm_air", "cool_air", "hottest_air", "cool_humidity", "heat_power"),
    "enclosure": (
        "enclosure_length",
        "enclosure_width",
        "enclosure_height",
        "enclosure_stretch",
        "floor_area",
        "volume",
        "cool_air",
    ),
    "ground": ("ground_depth", "mat_surface", "mat_contact", "cool_humidity", "water_depth"),
    "furniture": (
        "free_floor",
        "basking_surface",
        "warm_hide",
        "cool_hide",
        "back",
        "uv_back",
        "heated_hide",
        "humid_hide",
        "lamp_distance",
    ),
    "heat": (
        "water_temperature",
        "basking_surface",
        "mat_surface",
        "warm_air",
        "cool_air",
        "hottest_air",
        "mat_contact",
        "back",
        "warm_patch",
        "lamp_distance",
        "heated_hide",
        "heat_power",
        *(f"probe_{place}" for place in range(1, MOST_PROBES + 1)),
    ),
    "light": (
        "uv_back",
        "uv_distance",
        "uv_dose",
        "uv_hours",
        "uv_shade",
        "uv_coverage",
        "light_apart",
        "light_hours",
        "light_hours_least",
        "light_hours_most",
    ),
    "moisture": (
        "warm_humidity",
        "cool_humidity",
        "humid_hide",
        "water_volume",
        "water_depth",
        "water_temperature",
        "nitrate",
        "ammonia",
        "filter_turnover",
        "filter_age",
        "misting_seconds",
        "reservoir",
        "cool_air",
    ),
    "food": (
        "feed_interval",
        "ration_1",
        "ration_2",
        "energy_week",
        "intake_day",
        "calcium_ratio",
        "d3_share",
        "usable_a",
        "fibre_share",
        "fruit_share",
    ),
}
# What says nothing of an animal that lives in water, where it has no band.
OF_AIR: Final = ("basking_surface", "warm_air", "cool_air", "hottest_air", "warm_humidity", "cool_humidity")
# What takes the whole day to tell, folded below them.
WHOLE_DAY: Final[dict[str, tuple[str, ...]]] = {
    "heat": (
        "basking_after",
        "basking_held",
        "surface_peak",
        "coolest_air",
        "warm_held",
        "cool_held",
        *(f"duty_{place}" for place in range(1, 9)),
        "energy",
    ),
    "moisture": ("humidity_held", "water_used", "wet_panes", "ground_dries"),
    "room": ("coolest_air", "energy"),
}


def bands(
    found: Assessment, view: View, units: KeeperUnits, keys: dict[str, tuple[str, ...]], last: dict[tuple[str, str, str], Taken]
) -> list[Any]:
    """The marks beside the current step, of the `keys` of each step, with the `last` reading of each where there is one."""
    seen = [item for item in found.quantities if item.season in ("", view.season) and item.phase in ("", view.phase)]
    if found.lives_in_water:
        seen = [item for item in seen if item.key not in OF_AIR or item.band is not None]
    chosen = [item for key in keys.get(view.step, ()) for item in seen if item.key == key]
    return [mark(item, units, _last(last.get((item.key, item.season, item.phase)))) for item in chosen]


def _last(taken: Taken | None) -> tuple[float, str] | None:
    if taken is None:
        return None
    return taken.value, _("%(day)s by %(by)s") % {"day": dates.shown(taken.at, "j F"), "by": taken.by}
