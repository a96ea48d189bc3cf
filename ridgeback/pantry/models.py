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
    # What each piece of it weighs, where that was weighed.
    piece_g = models.FloatField(null=True)

    class Meta:
        ordering = ["received", "id"]
        constraints = [
            models.CheckConstraint(condition=Q(amount__gte=0), name="no_lot_below_nothing"),
            models.CheckConstraint(condition=Q(piece_g__isnull=True) | Q(piece_g__gt=0), name="a_piece_weighs_something"),
        ]


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


class Freezer(models.Model):
    """How much room a room's freezer has for food, in litres."""

    room = models.OneToOneField("rooms.Room", on_delete=models.CASCADE, related_name="freezer")
    litres = models.FloatField()

    class Meta:
        constraints = [models.CheckConstraint(condition=Q(litres__gt=0), name="a_freezer_has_room")]


class Culture(models.Model):
    """A feeder colony or a sowing: its kind (`diet.cultures`), how many vessels, how warm it stands, since when.

    `last_split` is when it was last divided or begun anew; `ended_by` what killed it (`cultures.Kill`), "" where it was given up.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="cultures")
    kind = models.CharField(max_length=40)
    name = models.CharField(max_length=60, blank=True)
    vessels = models.PositiveIntegerField(default=1)
    temperature_c = models.FloatField(null=True)
    started = models.DateField()
    last_split = models.DateField(null=True)
    ended_on = models.DateField(null=True)
    ended_by = models.CharField(max_length=20, blank=True)

    class Meta:
        ordering = ["kind", "started", "id"]
        constraints = [models.CheckConstraint(condition=Q(vessels__gte=1), name="a_culture_has_a_vessel")]

    def __str__(self) -> str:
        return self.name or self.kind


class CultureEntry(models.Model):
    """Something done with a culture: cropped (pieces or g, which go into the pantry), split, fed, looked at."""

    class What(models.TextChoices):
        CROPPED = "cropped"
        SPLIT = "split"
        FED = "fed"
        ENDED = "ended"

    culture = models.ForeignKey(Culture, on_delete=models.CASCADE, related_name="entries")
    what = models.CharField(max_length=10, choices=What.choices)
    amount = models.FloatField(null=True)
    note = models.CharField(max_length=300, blank=True)
    at = models.DateTimeField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)

    class Meta:
        ordering = ["-at", "-id"]


class GutLoad(models.Model):
    """What feeder insects are fed: parts by mass, by food or "calcium-carbonate"."""

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="gut_loads")
    name = models.CharField(max_length=60)
    parts = models.JSONField(default=dict)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(fields=["room", "name"], name="one_gut_load_of_a_name")]

    def __str__(self) -> str:
        return self.name
