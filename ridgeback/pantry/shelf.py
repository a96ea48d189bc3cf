"""What is in store, as the other pages ask for it."""

from datetime import date

from django.db.models import Q, Sum

from ridgeback.pantry.models import Item


def prey_counts(room_id: int) -> dict[str, int] | None:
    """Frozen prey by class and how many there are; None where the room keeps none in its pantry."""
    rows = Item.objects.filter(room_id=room_id, kind=Item.Kind.FROZEN, unit=Item.Unit.PIECE).annotate(there=Sum("lots__amount"))
    found = {item.food: int(item.there or 0) for item in rows}
    return found or None


def greens(room_id: int, today: date) -> dict[str, float]:
    """Greens in store by food and how many grams are still good."""
    good = Q(lots__best_before__isnull=True) | Q(lots__best_before__gte=today)
    rows = Item.objects.filter(room_id=room_id, kind=Item.Kind.GREENS, unit=Item.Unit.GRAM)
    found = {item.food: item.there or 0.0 for item in rows.annotate(there=Sum("lots__amount", filter=good))}
    return {food: grams for food, grams in found.items() if grams > 0}
