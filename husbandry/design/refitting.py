"""An enclosure that stands, equipped anew: its walls, ground and furniture stay, its heaters and lamps are chosen again."""

from datetime import date
from typing import Any

from husbandry.animal.subject import subject_of
from husbandry.design.first_proposal import equipped, perches, platform
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.species.profile import Profile


def refitted(plan: HabitatPlan, profile: Profile, today: date) -> HabitatPlan:
    """Return a plan with the heaters and lamps that a first plan would have, and with a basking place where it needs one.

    Parameters
    ----------
    plan
        What stands; its heaters and lamps are left out.
    profile, today
        The species and the day.

    Returns
    -------
    The plan; as it was where it cannot be without what it has.

    References
    ----------
    As `first_proposal.propose`.
    """
    document: dict[str, Any] = plan.model_dump(mode="json") | {"heaters": [], "uv_lamps": []}
    subject = subject_of(plan, profile, today)
    perch = perches(profile, document["enclosure"], plan.ground.depth_m)
    wants_place = perch or subject.stage.heat.basking_surface_c is not None
    if wants_place and not any(thing.basking for thing in plan.things):
        place = platform(document, plan.ground.depth_m, subject.body.length_m, perch=perch)
        document["things"] = [place, *document["things"]]
    try:
        bare = read_data(document)
    except PlanProblems:
        return plan
    return equipped(bare, profile, today)
