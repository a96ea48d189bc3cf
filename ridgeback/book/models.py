"""Keepers' own profiles, and the catalogue by which any profile is found."""

from django.conf import settings
from django.contrib.postgres.indexes import GinIndex
from django.db import models
from django.db.models import Q
from django.db.models.functions import Lower


class OwnProfile(models.Model):
    """A keeper's own copy of a species profile; the same schema as the shipped ones, shared by the room.

    `copied_from` names the shipped profile it began as; `sha256` is of the document and changes with every edit.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="profiles")
    species = models.SlugField(max_length=60)
    common = models.CharField(max_length=80)
    document = models.JSONField()
    sha256 = models.CharField(max_length=64)
    version = models.PositiveIntegerField(default=1)
    copied_from = models.CharField(max_length=60, blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    changed_at = models.DateTimeField()

    class Meta:
        ordering = ["common", "id"]
        constraints = [
            models.UniqueConstraint(fields=["room", "species"], name="one_own_profile_per_species"),
            models.CheckConstraint(condition=Q(species__startswith="my-"), name="own_profiles_begin_with_my"),
        ]

    def __str__(self) -> str:
        return self.common


class Entry(models.Model):
    """One profile in the catalogue, with what the shelf narrows by. `own` is None for the shipped ones.

    Sides in m and water in m³ are the smallest for one grown animal; `total_cm` is the length of a large one, tail and
    all; `brief` is what a row of the shelf says.
    """

    own = models.OneToOneField(OwnProfile, null=True, on_delete=models.CASCADE, related_name="entry")
    species = models.SlugField(max_length=60)
    common = models.CharField(max_length=80)
    genus = models.CharField(max_length=60)
    group = models.CharField(max_length=20)
    habit = models.CharField(max_length=20)
    zone = models.CharField(max_length=10)
    warmth = models.CharField(max_length=10)
    total_cm = models.FloatField()
    length_m = models.FloatField()
    width_m = models.FloatField()
    height_m = models.FloatField()
    water_m3 = models.FloatField()
    brief = models.JSONField()
    sha256 = models.CharField(max_length=64)

    class Meta:
        ordering = [Lower("common"), "id"]
        constraints = [
            models.UniqueConstraint(fields=["species"], condition=Q(own__isnull=True), name="one_entry_per_shipped_species"),
        ]


class Name(models.Model):
    """One of a profile's names; `plain` is it in lower case without accents and signs."""

    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="names")
    text = models.CharField(max_length=120)
    plain = models.CharField(max_length=120)

    class Meta:
        indexes = [GinIndex(fields=["plain"], name="name_trigrams", opclasses=["gin_trgm_ops"])]
