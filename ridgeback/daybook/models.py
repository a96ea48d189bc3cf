"""The one dated event log: what happened, to what, when, by whom."""

from django.conf import settings
from django.db import models


class Event(models.Model):
    """Something that happened. The payload's shape belongs to the kind; see `ridgeback.daybook.log`."""

    class Kind(models.TextChoices):
        CREATED = "habitat.created"
        PLANNED = "plan.saved"
        UNDONE = "plan.undone"
        REDONE = "plan.redone"
        IMPORTED = "plan.imported"
        WEIGHED = "animal.weighed"
        MEASURED = "animal.measured"
        READ = "habitat.read"
        FED = "animal.fed"
        DONE = "job.done"
        MOVED = "rota.moved"
        CONDITION = "animal.condition"

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="events")
    habitat = models.ForeignKey("rooms.Habitat", null=True, on_delete=models.CASCADE, related_name="events")
    kind = models.CharField(max_length=30, choices=Kind.choices)
    at = models.DateTimeField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    payload = models.JSONField(default=dict)

    class Meta:
        ordering = ["-at", "-id"]
        indexes = [models.Index(fields=["habitat", "-at"]), models.Index(fields=["room", "kind", "-at"])]


class Instrument(models.Model):
    """A meter of a room. `reads_high` is its known error, taken off every reading; `sure_to` what is left of it, one way.

    Both in the unit of what it reads (°C, %, index, kg).
    """

    class Kind(models.TextChoices):
        INFRARED = "infrared"
        THERMOMETER = "thermometer"
        HYGROMETER = "hygrometer"
        UV_METER = "uv-meter"
        SCALE = "scale"

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="instruments")
    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=20, choices=Kind.choices)
    reads_high = models.FloatField(default=0.0)
    sure_to = models.FloatField(default=0.5)

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.UniqueConstraint(fields=["room", "name"], name="one_instrument_of_a_name"),
            models.CheckConstraint(condition=models.Q(sure_to__gt=0), name="no_instrument_is_perfect"),
        ]

    def __str__(self) -> str:
        return self.name


class Written(models.Model):
    """One press of a button that was written, by the digest of what was posted; kept for a week.

    `answer` is where it led, for a second press of the same.
    """

    key = models.CharField(max_length=64, unique=True)
    at = models.DateTimeField(db_index=True)
    answer = models.CharField(max_length=300, blank=True, default="")
