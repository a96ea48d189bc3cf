"""The rota's rows: cards worked out once, and addresses by which a calendar may be read without signing in."""

from django.conf import settings
from django.db import models
from django.db.models import Q


class RotaCard(models.Model):
    """What `husbandry.rota.card` worked out for a habitat. Good while plan and log stand where they stood, until a day.

    `stamp` is new whenever the document is: what a process has read once it knows by it.
    """

    habitat = models.OneToOneField("rooms.Habitat", on_delete=models.CASCADE, related_name="rota_card")
    version = models.PositiveIntegerField()
    logged = models.PositiveIntegerField()
    good_until = models.DateField()
    stamp = models.CharField(max_length=32)
    document = models.JSONField()

    class Meta:
        constraints = [models.CheckConstraint(condition=Q(version__gte=1), name="card_of_a_saved_plan")]


class Subscription(models.Model):
    """A private address of a room's calendar, for one keeper or sitter. Only the token's SHA-256 is kept.

    `feeds_only` leaves the chores out, `by_day` makes all of a habitat's day one entry. A revoked one answers as if it never was.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="subscriptions")
    keeper = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=60)
    sha256 = models.CharField(max_length=64, unique=True)
    feeds_only = models.BooleanField(default=False)
    by_day = models.BooleanField(default=False)
    made_at = models.DateTimeField()
    read_at = models.DateTimeField(null=True)
    revoked_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made_at", "-id"]

    def __str__(self) -> str:
        return self.name
