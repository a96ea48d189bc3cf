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

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="events")
    habitat = models.ForeignKey("rooms.Habitat", null=True, on_delete=models.CASCADE, related_name="events")
    kind = models.CharField(max_length=30, choices=Kind.choices)
    at = models.DateTimeField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    payload = models.JSONField(default=dict)

    class Meta:
        ordering = ["-at", "-id"]
        indexes = [models.Index(fields=["habitat", "-at"]), models.Index(fields=["room", "kind", "-at"])]
