"""Archives on their way in."""

from django.conf import settings
from django.db import models


class ArchiveFile(models.Model):
    """A room's archive that was brought: kept until the worker takes it in, and what became of it.

    `done` of `rows` are in; `room` is the one that was made, or `failed` tells why none was.
    """

    class State(models.TextChoices):
        WAITS = "waits"
        TAKEN = "taken"
        FAILED = "failed"

    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="archive_files")
    at = models.DateTimeField()
    name = models.CharField(max_length=120, blank=True)
    upload = models.OneToOneField("uploads.Upload", null=True, on_delete=models.SET_NULL)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITS)
    rows = models.PositiveBigIntegerField(default=0)
    done = models.PositiveBigIntegerField(default=0)
    room = models.ForeignKey("rooms.Room", null=True, on_delete=models.SET_NULL, related_name="+")
    failed = models.CharField(max_length=200, blank=True)


class Deletion(models.Model):
    """A room, a habitat, an animal or an account that is to be deleted for good on a day, unless somebody keeps it until then."""

    room = models.OneToOneField("rooms.Room", null=True, on_delete=models.CASCADE, related_name="deletion")
    habitat = models.OneToOneField("rooms.Habitat", null=True, on_delete=models.CASCADE, related_name="deletion")
    animal = models.OneToOneField("rooms.Animal", null=True, on_delete=models.CASCADE, related_name="deletion")
    keeper = models.OneToOneField(settings.AUTH_USER_MODEL, null=True, on_delete=models.CASCADE, related_name="deletion")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    asked_at = models.DateTimeField()
    due_on = models.DateField()
