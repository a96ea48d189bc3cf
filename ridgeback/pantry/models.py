"""What is in store: items of a room, the lots they came in, and every change of a lot."""

from django.conf import settings
from django.db import models
from django.db.models import Q


class Item(models.Model):
    """Something kept in store, by its food or powder. Counted in pieces or in grams.

    Prices in the keeper's own currency; `lead_days` from the order until it is there.
    """

    class Kind(models.TextChoices):
        FROZEN = "frozen"
        LIVE = "live"
        GREENS = "greens"
        POWDER = "powder"
        OTHER = "other"

    class Unit(models.TextChoices):
        PIECE = "piece"
        GRAM = "g"

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="stock")
    food = models.CharField(max_length=80)
    kind = models.CharField(max_length=10, choices=Kind.choices)
    unit = models.CharField(max_length=6, choices=Unit.choices)
    pack_size = models.FloatField(default=1.0)
    pack_price = models.FloatField(null=True)
    lead_days = models.PositiveSmallIntegerField(default=3)
    good_days = models.PositiveSmallIntegerField(null=True)

    class Meta:
        ordering = ["kind", "food", "id"]
        constraints = [
            models.UniqueConstraint(fields=["room", "food"], name="one_item_of_a_food"),
            models.CheckConstraint(condition=Q(pack_size__gt=0), name="pack_holds_something"),
            models.CheckConstraint(condition=Q(pack_price__isnull=True) | Q(pack_price__gte=0), name="price_not_below_zero"),
        ]

    def __str__(self) -> str:
        return self.food


class Delivery(models.Model):
    """A CSV that was brought in: its lots can be taken out again as a whole while none of them was used.

    `before` is what the items it changed said of themselves, by their key; None for one that it made.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="deliveries")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField()
    before = models.JSONField(default=dict)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-at", "-id"]


class Lot(models.Model):
    """What came in on one day, and what is left of it."""

    delivery = models.ForeignKey(Delivery, null=True, on_delete=models.SET_NULL, related_name="lots")
    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="lots")
    amount = models.FloatField()
    received = models.DateField()
    best_before = models.DateField(null=True)

    class Meta:
        ordering = ["received", "id"]
        constraints = [models.CheckConstraint(condition=Q(amount__gte=0), name="no_lot_below_nothing")]


class Change(models.Model):
    """One change of a lot: what came in, went out with a meal, was lost or counted anew. A meal's changes are undone with it."""

    class Why(models.TextChoices):
        IN = "in"
        MEAL = "meal"
        LOST = "lost"
        COUNTED = "counted"

    lot = models.ForeignKey(Lot, on_delete=models.CASCADE, related_name="changes")
    amount = models.FloatField()
    why = models.CharField(max_length=10, choices=Why.choices)
    at = models.DateTimeField()
    event = models.ForeignKey("daybook.Event", null=True, on_delete=models.CASCADE, related_name="stock_changes")

    class Meta:
        ordering = ["at", "id"]
