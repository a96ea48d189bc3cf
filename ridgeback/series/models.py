"""Channels and what came in on them: readings as they came, and their hours.

A reading is kept corrected: what its instrument was known to read too high on that day is taken off. Raw readings are kept for a
while (`RIDGEBACK_RAW_DAYS`), their hours for good. A reading is known by its channel and its moment: the same twice adds nothing.
"""

from django.conf import settings
from django.contrib.postgres.indexes import BrinIndex
from django.db import models
from django.db.models import Q


class Device(models.Model):
    """Something that reports by itself, with the key it does so by; the key itself is shown once and kept as a digest.

    `allowance` and `counted_at` are its bucket of requests (`series.devices`). `name_in_topics` is what it is called on a broker.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="devices")
    name = models.CharField(max_length=60)
    digest = models.CharField(max_length=64, unique=True)
    name_in_topics = models.CharField(max_length=16, unique=True)
    made_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    heard_at = models.DateTimeField(null=True)
    refused = models.CharField(max_length=200, blank=True)
    allowance = models.FloatField(default=0.0)
    counted_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(fields=["room", "name"], name="one_device_of_a_name")]

    def __str__(self) -> str:
        return self.name


class Channel(models.Model):
    """One thing that an instrument reads at one place, all along.

    `place` is a key of `series.places.PLACES`; `x_m` and `height_m` say where for a place of the keeper's own; `heater` is which
    heater's for "power", `animal` whose weight for "weight". `code` is how devices name it. Without a habitat it is the room's.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="channels")
    habitat = models.ForeignKey("rooms.Habitat", null=True, blank=True, on_delete=models.CASCADE, related_name="channels")
    animal = models.ForeignKey("rooms.Animal", null=True, blank=True, on_delete=models.CASCADE, related_name="channels")
    instrument = models.ForeignKey("daybook.Instrument", null=True, blank=True, on_delete=models.SET_NULL, related_name="channels")
    place = models.CharField(max_length=30)
    label = models.CharField(max_length=60, blank=True)
    x_m = models.FloatField(null=True, blank=True)
    height_m = models.FloatField(null=True, blank=True)
    heater = models.PositiveIntegerField(default=0)
    code = models.SlugField(max_length=60)
    made_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    every_min = models.FloatField(null=True)
    last_at = models.DateTimeField(null=True)
    last_value = models.FloatField(null=True)
    # Whether it was ever heard of by itself: one that comes by files from time to time is never silent.
    by_itself = models.BooleanField(default=False)

    class Meta:
        ordering = ["habitat", "place", "id"]
        constraints = [
            models.UniqueConstraint(fields=["room", "code"], name="one_channel_of_a_code"),
            models.CheckConstraint(condition=Q(every_min__isnull=True) | Q(every_min__gt=0), name="an_interval_is_long"),
        ]

    def __str__(self) -> str:
        return self.code


class Sample(models.Model):
    """A reading as it came, corrected for its instrument; in °C, %, UV index or W."""

    pk = models.CompositePrimaryKey("channel_id", "at")
    channel = models.ForeignKey(Channel, on_delete=models.CASCADE, related_name="samples", db_index=False)
    at = models.DateTimeField()
    value = models.FloatField()

    class Meta:
        # Readings come nearly in the order of time: a few kilobytes tell which pages of a hundred million are older than a day.
        indexes = [BrinIndex(fields=["at"], name="sample_at_brin", autosummarize=True)]


class Hour(models.Model):
    """One hour of a channel: how many readings, their mean, the lowest and the highest."""

    pk = models.CompositePrimaryKey("channel_id", "at")
    channel = models.ForeignKey(Channel, on_delete=models.CASCADE, related_name="hours", db_index=False)
    at = models.DateTimeField()
    count = models.PositiveIntegerField()
    mean = models.FloatField()
    low = models.FloatField()
    high = models.FloatField()


class ForetoldHour(models.Model):
    """What the plan as it stood foretold of an hour of a channel, and one standard deviation of that."""

    pk = models.CompositePrimaryKey("channel_id", "at")
    channel = models.ForeignKey(Channel, on_delete=models.CASCADE, related_name="foretold", db_index=False)
    at = models.DateTimeField()
    mean = models.FloatField()
    sigma = models.FloatField()


class Correction(models.Model):
    """A check of an instrument: how, what it showed, and what it has been known to read too high since."""

    instrument = models.ForeignKey("daybook.Instrument", on_delete=models.CASCADE, related_name="corrections")
    at = models.DateTimeField()
    how = models.CharField(max_length=10)
    shown = models.FloatField()
    against = models.ForeignKey("daybook.Instrument", null=True, on_delete=models.SET_NULL, related_name="+")
    reads_high = models.FloatField()
    sure_to = models.FloatField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)

    class Meta:
        ordering = ["-at", "-id"]
        indexes = [models.Index(fields=["instrument", "-at"])]


class TableMapping(models.Model):
    """How files of one shape are read: what each column is, remembered by the shape of their heads."""

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="table_mappings")
    shape = models.CharField(max_length=64)
    said = models.JSONField()
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["room", "shape"], name="one_mapping_of_a_shape")]


class TableFile(models.Model):
    """A file of readings that was brought: kept until it is taken in, and what became of it."""

    class State(models.TextChoices):
        ASKED = "asked"
        WAITS = "waits"
        TAKEN = "taken"
        FAILED = "failed"

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="table_files")
    name = models.CharField(max_length=120)
    content = models.BinaryField(null=True)
    digest = models.CharField(max_length=64)
    said = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=State.choices, default=State.ASKED)
    rows = models.PositiveIntegerField(default=0)
    done = models.PositiveIntegerField(default=0)
    outcome = models.JSONField(default=dict)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField()

    class Meta:
        ordering = ["-at", "-id"]
