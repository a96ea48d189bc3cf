"""What is kept of a room's own climate, and writing it into the plans of its habitats."""

from typing import Any

from husbandry.assessment import Change
from husbandry.plan.editing import apply
from husbandry.plan.reading import PlanProblems, read_data
from ridgeback.daybook.writing import Intent, writing
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat, Room


def keep_room(room_id: int, intent: Intent, kept: dict[str, Any]) -> None:
    """Keep how a room holds its warmth and what it has without enclosures. Raises AlreadyWritten, PermissionDenied."""
    with writing(intent, room=room_id):
        Room.objects.filter(pk=room_id).update(climate=kept)


def write_into_plans(room_id: int, intent: Intent, changes: dict[int, tuple[Change, ...]], label: str) -> int:
    """Write the room into the plans of its habitats, a revision each; return how many. Raises AlreadyWritten, PermissionDenied."""
    written = 0
    with writing(intent, changes, room=room_id):
        for habitat in Habitat.objects.filter(pk__in=changes, room=room_id, set_aside_at__isnull=True).order_by("pk"):
            try:
                plan = read_data(apply(mapping.plan_of(habitat).model_dump(mode="json"), changes[habitat.pk]))
            except (PlanProblems, mapping.UnreadablePlanError):
                continue
            after = revisions.save(habitat.pk, plan, habitat.version, intent.author, intent.at, label)
            written += after.version != habitat.version
    return written
