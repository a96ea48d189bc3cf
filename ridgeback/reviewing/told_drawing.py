"""A set-up as it is told, drawn: as it most likely is, with a mark at everything of which something is not known."""

from datetime import date
from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry.assess.assess import assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Measure
from husbandry.climate.heaters import HEATERS
from husbandry.plan.equipment import Heater, UvLamp
from husbandry.plan.geometry import y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.setup_review.proposal import likeliest
from husbandry.setup_review.review import LOOK, plan_of
from husbandry.setup_review.told import Told
from husbandry.setup_review.unknowns import unknowns
from husbandry.species.profile import Profile
from ridgeback.drawing import section
from ridgeback.language import wording
from ridgeback.units import KeeperUnits

MAT_M: Final = 0.28  # a mat's side as it is drawn: what is told says nothing of it
SEASON: Final = "winter"
# Where the parts of a plan stand that each list of what is told becomes.
GROUPS: Final = {"heaters": "heater", "tubes": "tube", "hides": "hide"}


def drawn(told: Told, profile: Profile, today: date, units: KeeperUnits) -> dict[str, Any]:
    """What the drawing needs; raises pydantic.ValidationError where it cannot be built."""
    plan = plan_of(likeliest(told), profile, today)
    found = assess(plan, profile, today, depth=LOOK)
    made = picture(plan, profile, found, units)
    return {"section": made, "plan": plan, "marks": _marks(told, plan, made["floor"]["frame"], units)}


def picture(plan: HabitatPlan, profile: Profile, found: Assessment, units: KeeperUnits) -> dict[str, Any]:
    """The section and the floor plan of a plan by day in winter."""
    return section.draw(plan, profile, found, section.Look(SEASON, "day", units, wording.part_names(), plan))


def _said(x_m: float, y_m: float, units: KeeperUnits) -> str:
    told = {"along": units.say(Measure(x_m, "m")), "front": units.say(Measure(y_m, "m"))}
    return _("%(along)s from the left, %(front)s from the front") % told


def _marks(told: Told, plan: HabitatPlan, frame: Any, units: KeeperUnits) -> list[dict[str, Any]]:
    """A handle for each thing that was told, with whether something of it is not known: group, row, pixels, metres."""
    open_ones = {tuple(one.path.split(".")[:2]) for one in unknowns(told)}
    found = []
    names = wording.part_names()
    bowls = [plan.bowl] if told.bowl and plan.bowl is not None else []
    rows: list[tuple[str, int, Heater | UvLamp | Thing]] = [
        *(("heaters", index, plan.heaters[index]) for index in range(len(told.heaters))),
        *(("tubes", index, plan.uv_lamps[index]) for index in range(len(told.tubes))),
        *(("hides", index, plan.hides[index]) for index in range(len(told.hides))),
        *(("bowl", 0, bowl) for bowl in bowls),
    ]
    for group, index, thing in rows:
        x_m, y_m = thing.x_m, y_of(plan, thing)
        name = names[thing.kind]
        lies = isinstance(thing, Heater) and HEATERS[thing.kind].place == "under"
        half_m = min(MAT_M, told.width_m) / 2 if lies else 0.0
        found.append(
            {
                "group": GROUPS.get(group, group),
                "row": index,
                "x": f"{frame.x(x_m):.1f}",
                "y": f"{frame.y(y_m):.1f}",
                "x_m": f"{x_m:.4g}",
                "y_m": f"{y_m:.4g}",
                "name": name,
                "mat": f"{half_m * frame.scale:.1f}" if half_m else "",
                "across": f"{2 * half_m * frame.scale:.1f}",
                "said": _said(x_m, y_m, units),
                "unknown": (group, str(index)) in open_ones,
            }
        )
    return found
