"""What is in store, as the other pages ask for it."""

from django.db.models import Sum

from ridgeback.pantry.models import Item


def prey_counts(room_id: int) -> dict[str, int] | None:
    """Frozen prey by class and how many there are; None where the room keeps none in its pantry."""
    rows = Item.objects.filter(room_id=room_id, kind=Item.Kind.FROZEN, unit=Item.Unit.PIECE).annotate(there=Sum("lots__amount"))
    found = {item.food: int(item.there or 0) for item in rows}
    return found or None
