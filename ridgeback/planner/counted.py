"""Which readings count for the plan as it stands, and which are asked about before they are kept.

A reading counts for the plan while nothing that warms, lights, wets or stands in the habitat has changed since, where everything
had run for two hours, and where the lamps burnt; the middle of those of one quantity is what was read.
"""

from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any, Final

import numpy as np
from django.utils import timezone

from husbandry.assessment import Read
from husbandry.climate.calibrate import PLACES, calibrate, places_of
from husbandry.climate.case import EnclosureCase
from husbandry.climate.heaters import HEATERS
from husbandry.climate.parameters import PRIOR
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import uv_sources
from husbandry.plan.geometry import spot_x_m
from husbandry.plan.habitat import HabitatPlan
from ridgeback import clock
from ridgeback.daybook.models import Event
from ridgeback.language.placewords import UV_BACK
from ridgeback.planner.models import PlanVersion
from ridgeback.planner.once import once
from ridgeback.planner.readings import Spot, Taken, as_reading, of_habitat, quantity_of, teaches
from ridgeback.rooms.models import Habitat

COUNTED_DAYS: Final = 120  # older than that the room, the lamps and the probes are others
SETTLED_H: Final = 2.0  # after the lamps go on or off (trade)
LIT_PLACES: Final = ("basking-surface", UV_BACK)  # what only a burning lamp makes
# How far readings of one place at one time of day lie apart before a slip is likelier (estimates), by unit; UV as a share.
APART: Final = {"degC": 8.0, "%": 30.0}
SURFACE_APART_K: Final = 10.0
FROM_MODEL: Final = {"degC": 12.0, "%": 40.0}
UV_FACTOR: Final = 2.5
ANY_DAY: Final = date(2000, 1, 1)


def counted(habitat: Habitat, plan: HabitatPlan, laid_by: HabitatPlan | None = None) -> dict[str, Read]:
    """What was read of each quantity in the plan as it stands, by the quantity's id.

    While something is dragged `laid_by` is the plan that stands: the log is asked about that one, once for all its places.
    """
    oldest = clock.now() - timedelta(days=COUNTED_DAYS)
    taken = [item for item in of_habitat(habitat) if not item.lamps_off and item.at >= oldest and steady(item.at, plan, item.place)]
    if not taken:
        return {}
    climate_since, uv_since = _since(habitat, plan, min(item.at for item in taken), laid_by)
    by_id: dict[str, list[Taken]] = {}
    for item in taken:
        name = quantity_of(item, plan)
        if name is not None and item.at >= (uv_since if item.place == UV_BACK else climate_since):
            by_id.setdefault("/".join(part for part in name if part), []).append(item)
    return {name: _middle(items) for name, items in by_id.items()}


def _middle(items: list[Taken]) -> Read:
    values = np.array([item.value for item in items])
    sigma = max(max(item.sigma for item in items) / len(items) ** 0.5, float(values.std()) / len(items) ** 0.5)
    last = max(item.at for item in items)
    return Read(float(np.median(values)), sigma, len(items), timezone.localtime(last).date().isoformat())


def steady(at: datetime, plan: HabitatPlan, place: str) -> bool:
    """Tell whether everything had run for two hours since the lamps went on or off; UV is there at once."""
    if place == UV_BACK:
        return True
    lit = plan.daylight
    if lit.on == lit.off:
        return True
    hour = at.hour + at.minute / 60
    return all((hour - (change.hour + change.minute / 60)) % 24 >= SETTLED_H for change in (lit.on, lit.off))


def _since(habitat: Habitat, plan: HabitatPlan, oldest: datetime, laid_by: HabitatPlan | None) -> tuple[datetime, datetime]:
    if laid_by is None:
        return standing_since(habitat, plan, oldest)
    key = ("standing since", habitat.pk, habitat.version, habitat.head_id, oldest)
    climate_since, uv_since = once(key, lambda: standing_since(habitat, laid_by, oldest))
    now = clock.now()
    return (
        climate_since if climate_of(plan) == climate_of(laid_by) else now,
        uv_since if light_of(plan) == light_of(laid_by) else now,
    )


def standing_since(habitat: Habitat, plan: HabitatPlan, oldest: datetime) -> tuple[datetime, datetime]:
    """Since when the climate's parts stand as they do, and since when the UV lamps do; looked back to `oldest`.

    Where that is longer than the plan is known, `oldest`.
    """
    climate, light = climate_of(plan), light_of(plan)
    times = _times(habitat)
    versions = PlanVersion.objects.filter(habitat=habitat, version__lte=habitat.version).order_by("-version")
    since = {"climate": oldest, "light": oldest}
    open_ones, later = set(since), clock.now()
    for item in versions.select_related("revision"):
        then = HabitatPlan.model_validate(item.revision.document)
        differs = {
            name for name, same in (("climate", climate_of(then) == climate), ("light", light_of(then) == light)) if not same
        }
        for name in differs & open_ones:
            since[name] = later
        open_ones -= differs
        later = times.get(item.version, item.revision.created_at)
        if not open_ones or later < oldest:
            break
    return since["climate"], since["light"]


def _times(habitat: Habitat) -> dict[int, datetime]:
    """When the plan came to each version, as far as the log has it."""
    kinds = (Event.Kind.PLANNED, Event.Kind.UNDONE, Event.Kind.REDONE)
    found = Event.objects.filter(habitat=habitat, kind__in=kinds).values_list("payload__version", "at")
    return {version: at for version, at in found if version is not None}


def climate_of(plan: HabitatPlan) -> EnclosureCase:
    """What the climate is made of, whatever the room and whatever has been learnt."""
    return replace(enclosure_case(plan), rooms={}, belief=PRIOR, probes=())


def light_of(plan: HabitatPlan) -> tuple[Any, ...]:
    """What the UV at the back is made of, whatever the lamps' age."""
    bare = plan.model_copy(update={"calibration": None})
    return (uv_sources(bare, ANY_DAY), spot_x_m(plan), plan.platform, plan.ground.depth_m, plan.enclosure.lid)


def doubt(
    taken: list[Taken],
    plan: HabitatPlan,
    at_place: tuple[str, Spot | None],
    at: datetime,
    value: float,
    room: tuple[float, float],
) -> tuple[str, float | None]:
    """Why a reading is asked about before it is kept, and the number it is held against; "" where it is not.

    "lamps_off": none burns then by the plan. "far_from_others": the last of this place at this time of day say otherwise.
    "far_from_plan": nothing was read there yet, and the model expects quite another number.
    """
    (place, spot), hour = at_place, at.hour + at.minute / 60
    new = Taken(0, at, place, value, value, 1.0, "", *room, spot=spot)
    if place in LIT_PLACES and not _burns(plan, place, hour):
        return "lamps_off", None
    lit = plan.daylight.runs_at(hour)
    others = [
        item.value
        for item in taken
        if item.where == new.where and not item.lamps_off and plan.daylight.runs_at(item.at.hour + item.at.minute / 60) is lit
    ]
    if others:
        middle = float(np.median(others[:5]))
        return ("far_from_others", middle) if _apart(place, value, middle) else ("", None)
    if place == UV_BACK or not teaches(new, places_of(enclosure_case(plan))):
        return "", None
    expected = calibrate(enclosure_case(plan), (as_reading(new),)).before[0]
    return ("far_from_plan", expected) if abs(value - expected) > FROM_MODEL[PLACES[place].unit] else ("", None)


def _apart(place: str, value: float, middle: float) -> bool:
    if place == UV_BACK:
        return not middle / UV_FACTOR <= max(value, 0.01) <= max(middle, 0.2) * UV_FACTOR
    kind = PLACES[place]
    return abs(value - middle) > (SURFACE_APART_K if kind.surface else APART[kind.unit])


def _burns(plan: HabitatPlan, place: str, hour: float) -> bool:
    """Tell whether any lamp that this place is read under burns at an hour of the clock, by its timer."""
    if place == UV_BACK:
        return any(timed.runs_at(hour) for _path, _lamp, timed in uv_sources(plan, ANY_DAY))
    over = [heater for heater in plan.heaters if HEATERS[heater.kind].place == "over"]
    return not over or any(heater.runs_at(hour) for heater in over)
