"""What the plans of a room take."""

from typing import Final

from husbandry.build.settings import BuildSettings
from husbandry.money.bill import bill
from husbandry.money.variants import tried
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Room

# However it is built, what that takes can be priced.
BUILT: Final = (BuildSettings(second_hand=True, finish="plaster"), BuildSettings(finish="coir"))


def units_of_things(room: Room) -> dict[str, str]:
    """Everything that the plans of a room take, and their variants, with the unit it is sold in."""
    found: dict[str, str] = {}
    for habitat in Habitat.objects.filter(room=room, set_aside_at__isnull=True).select_related("company", "head__profile", "room"):
        try:
            plan = mapping.plan_of(habitat)
        except mapping.UnreadablePlanError:
            continue
        for made in (plan, *(other for _code, _changes, other in tried(plan))):
            for way in BUILT:
                found |= {line.what: line.unit for line in bill(made, way)}
    return found
