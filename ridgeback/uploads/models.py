"""A file as it arrives."""

from django.conf import settings
from django.db import models


class Upload(models.Model):
    """A file on its way, or arrived; without a room it is its author's alone.

    `received` of `size` bytes are here. When it was read, or after a week, it is let go of.
    """

    room = models.ForeignKey("rooms.Room", null=True, on_delete=models.CASCADE, related_name="uploads")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="uploads")
    name = models.CharField(max_length=120, blank=True)
    size = models.PositiveBigIntegerField()
    received = models.PositiveBigIntegerField(default=0)
    at = models.DateTimeField()
    # What has begun to read it keeps it from being let go of for a newer one.
    claimed = models.BooleanField(default=False)

    class Meta:
        ordering = ["-at", "-id"]
        constraints = [models.CheckConstraint(condition=models.Q(received__lte=models.F("size")), name="no_more_than_was_said")]


class Part(models.Model):
    """Some bytes of a file, from `begins` on."""

    upload = models.ForeignKey(Upload, on_delete=models.CASCADE, related_name="parts")
    begins = models.PositiveBigIntegerField()
    length = models.PositiveIntegerField()
    content = models.BinaryField()

    class Meta:
        ordering = ["begins"]
        constraints = [models.UniqueConstraint(fields=["upload", "begins"], name="one_part_at_a_place")]
