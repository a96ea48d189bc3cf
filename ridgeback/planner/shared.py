"""A room and what its enclosures make of it: what is kept of a room, the enclosures in it, and their answer in words."""

from dataclasses import dataclass
from typing import Any, Final

from django.utils.translation import gettext_lazy

from husbandry.assessment import SEASONS, Change, Measure
from husbandry.climate.case import RoomState
from husbandry.climate.shared_room import Occupant, RoomShell, SharedRoom, shared
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import outside_kwh
from husbandry.plan.habitat import HabitatPlan
from ridgeback.language import names
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Room
from ridgeback.units import KeeperUnits

HOLDS: Final = {
    "insulated": gettext_lazy("well insulated, one outer wall"),
    "flat": gettext_lazy("in a house, one or two outer walls"),
    "cellar": gettext_lazy("in a cellar"),
    "old": gettext_lazy("an old house, draughty windows"),
    "roof": gettext_lazy("under the roof"),
    "shed": gettext_lazy("a wooden shed or a conservatory"),
}
# W/K for each m² of floor (estimates; what a fan heater does to the room measures it).
LOSSES: Final = {"insulated": 0.7, "flat": 1.2, "cellar": 1.3, "old": 2.0, "roof": 2.5, "shed": 4.0}
CHANGES: Final = {
    "closed": gettext_lazy("windows closed"),
    "ajar": gettext_lazy("a window ajar"),
    "fan": gettext_lazy("an extractor fan"),
    "open": gettext_lazy("windows wide open"),
}
CHANGES_H: Final = {"closed": 0.4, "ajar": 2.0, "fan": 4.0, "open": 8.0}  # estimates
OTHER_K, OTHER_PERCENT = 0.5, 3.0  # a plan whose room differs by less says as much
MOST_SHOWN: Final = 8
LEAST_SHOWN_K: Final = 0.05


@dataclass(frozen=True)
class HabitatsInRoom:
    """The habitats of a room that stand in it: those indoors, not set aside, whose plan can be read."""

    habitats: tuple[Habitat, ...]
    plans: tuple[HabitatPlan, ...]
    unread: int
    outdoors: int

    @property
    def occupants(self) -> list[Occupant]:
        return [Occupant(enclosure_case(plan), _beside_w(plan)) for plan in self.plans]


def _beside_w(plan: HabitatPlan) -> float:
    """What tubes and bars on a lid give the room past the enclosure, W while it is light."""
    return 1000 * outside_kwh(plan) / plan.daylight.hours_a_day


def standing(room: Room) -> HabitatsInRoom:
    """Read the plans of a room's habitats."""
    found, unread, outdoors = [], 0, 0
    for habitat in Habitat.objects.filter(room=room, set_aside_at__isnull=True).select_related("head").order_by("name", "id"):
        try:
            plan = mapping.plan_of(habitat)
        except mapping.UnreadablePlanError:
            unread += 1
            continue
        outdoors += plan.outdoors is not None
        if plan.outdoors is None:
            found.append((habitat, plan))
    return HabitatsInRoom(tuple(habitat for habitat, _plan in found), tuple(plan for _habitat, plan in found), unread, outdoors)


def shell_of(kept: dict[str, Any]) -> RoomShell:
    """The room as the model takes it, out of what is kept of it."""
    floor_m2 = kept["length_m"] * kept["width_m"]
    loss = kept["loss_w_k"] if kept["loss_w_k"] is not None else LOSSES[kept["holds"]] * floor_m2
    alone = {season: RoomState(*(kept[season][name] for name in ("day_c", "night_c", "humidity_percent"))) for season in SEASONS}
    outside = {season: kept[season]["outside_c"] for season in SEASONS}
    return RoomShell(
        floor_m2, kept["height_m"], loss, CHANGES_H[kept["changes"]], alone, outside, ("winter",) if kept["heated"] else ()
    )


def answers(kept: dict[str, Any], found: HabitatsInRoom) -> dict[str, SharedRoom]:
    """What the room comes to with its enclosures, by season."""
    shell, occupants = shell_of(kept), found.occupants
    return {season: shared(shell, occupants, season) for season in SEASONS}


def rows(kept: dict[str, Any], made: dict[str, SharedRoom], units: KeeperUnits) -> list[dict[str, Any]]:
    """A line for each season by day and by night: alone, with the enclosures, the difference."""
    found = []
    for season, room in made.items():
        for phase, value in (("day", room.day_c), ("night", room.night_c)):
            bare = kept[season][f"{phase}_c"]
            found.append(
                {
                    "season": names.SEASONS[season],
                    "phase": names.PHASES[phase],
                    "alone": units.say(Measure(bare, "degC")),
                    "shared": units.say(Measure(value, "degC")),
                    "more": _difference(value - bare, units),
                    "percent_alone": f"{kept[season]['humidity_percent']:.0f}",
                    "percent": f"{room.percent:.0f}",
                }
            )
    return found


def _difference(kelvin: float, units: KeeperUnits) -> str:
    """A difference with its sign; a dash for none that shows."""
    if abs(kelvin) < LEAST_SHOWN_K:
        return "–"
    return f"{'+' if kelvin > 0 else '−'}{units.say(Measure(abs(kelvin), 'K'))}"


def largest(found: HabitatsInRoom, made: dict[str, SharedRoom]) -> list[dict[str, Any]]:
    """What each enclosure gives in summer and in winter, those that give most in summer first."""
    listed: list[dict[str, Any]] = []
    for at, habitat in enumerate(found.habitats):
        of = {season: room.each[at] for season, room in made.items()}
        listed.append(
            {
                "habitat": habitat,
                **{f"{season}_w": f"{given.watts:.0f}" for season, given in of.items()},
                "water": f"{24 * of['summer'].water_g_h:.0f}",
                "order": of["summer"].watts,
            }
        )
    return sorted(listed, key=lambda item: float(item["order"]), reverse=True)[:MOST_SHOWN]


def changes_of(plan: HabitatPlan, made: dict[str, SharedRoom]) -> tuple[Change, ...]:
    """What a plan's room would have to say to be this room; nothing where it says as much."""
    found: list[Change] = []
    for season, room in made.items():
        said = getattr(plan.room, season)
        new = {"day_c": round(room.day_c, 1), "night_c": round(room.night_c, 1), "humidity_percent": float(round(room.percent))}
        apart = [abs(new[f"{phase}_c"] - plan.room_c(season, phase)) for phase in ("day", "night")]
        if max(apart) > OTHER_K or abs(new["humidity_percent"] - said.humidity_percent) > OTHER_PERCENT:
            found += [Change(f"room.{season}.{name}", value) for name, value in new.items()]
            if said.curve_c:  # an hourly room would go on counting in place of what is written
                found.append(Change(f"room.{season}.curve_c", []))
    return tuple(found)
