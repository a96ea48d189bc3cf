"""What is kept of who tries the program without an account: how much they asked lately, by a digest of their address."""

from django.db import models


class Visitor(models.Model):
    """One address's bucket of requests; what it was asked about is kept nowhere."""

    digest = models.CharField(max_length=64, unique=True)
    left = models.FloatField()
    counted_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["counted_at"])]
