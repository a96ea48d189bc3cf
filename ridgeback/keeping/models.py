"""What the daybook's own pages keep."""

from django.conf import settings
from django.db import models


class DaybookFile(models.Model):
    """A daybook that was brought into a room as a file: kept until it is taken in, and what became of it.

    While it is taken in, `step` says at what the worker is, and `done` of `rows` (photos looked at, entries written) how far.
    `outcome` holds how many `animals` and `entries` are new, or why it `failed`.
    """

    class State(models.TextChoices):
        WAITS = "waits"
        TAKEN = "taken"
        FAILED = "failed"

    class Step(models.TextChoices):
        READS = "reads"
        PHOTOS = "photos"
        WRITES = "writes"

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="daybook_files")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField()
    name = models.CharField(max_length=120, blank=True)
    upload = models.OneToOneField("uploads.Upload", null=True, on_delete=models.SET_NULL)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITS)
    step = models.CharField(max_length=10, choices=Step.choices, default=Step.READS)
    rows = models.PositiveIntegerField(default=0)
    done = models.PositiveIntegerField(default=0)
    outcome = models.JSONField(default=dict)

    class Meta:
        ordering = ["-at", "-id"]
