"""Rooms, who belongs to them, and the habitats in them.

A habitat's plan is the document of its newest revision (`ridgeback.planner`). The columns here are those that lists show or ask
by; `ridgeback.planner.mapping` keeps them as the document has them.
"""

from django.conf import settings
from django.db import models
from django.db.models import Q


class Room(models.Model):
    """A place with habitats: a home, a classroom, a vivarium room."""

    name = models.CharField(max_length=80)
    created_at = models.DateTimeField(auto_now_add=True)
    # The weekdays the keeper comes by, 0 for Monday; none means every day.
    weekdays = models.JSONField(default=list)
    # How it holds warmth, and what it has without its enclosures (`planner.shared`); nothing until somebody says so.
    climate = models.JSONField(null=True)
    members: "models.ManyToManyField[models.Model, models.Model]" = models.ManyToManyField(
        settings.AUTH_USER_MODEL, through="Membership"
    )

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """What a keeper may do in a room. Only owner is used so far."""

    class Role(models.TextChoices):
        OWNER = "owner"
        KEEPER = "keeper"
        VIEWER = "viewer"

    room = models.ForeignKey(Room, on_delete=models.CASCADE)
    keeper = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.OWNER)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["room", "keeper"], name="one_membership_per_room")]


class Habitat(models.Model):
    """One enclosure; `head` is the revision its plan stands at."""

    room = models.ForeignKey(Room, on_delete=models.CASCADE, related_name="habitats")
    name = models.CharField(max_length=80)
    species = models.CharField(max_length=60)
    version = models.PositiveIntegerField(default=1)
    # Counts the log's entries: what was worked out from the log is stale when it has grown.
    logged = models.PositiveIntegerField(default=0)
    set_aside_at = models.DateTimeField(null=True)
    head = models.ForeignKey("planner.PlanRevision", null=True, on_delete=models.SET_NULL, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Animal(models.Model):
    """Who lives in a habitat, as lists name it: the animal, the names of the rest of a group, and how many they are."""

    habitat = models.OneToOneField(Habitat, on_delete=models.CASCADE, related_name="animal")
    name = models.CharField(max_length=80, blank=True)
    count = models.PositiveIntegerField(default=1)
    others = models.JSONField(default=list)

    class Meta:
        constraints = [models.CheckConstraint(condition=Q(count__gte=1), name="at_least_one_animal")]


class Seeding(models.Model):
    """What was loaded once and is never loaded again over a keeper's edits."""

    name = models.CharField(max_length=40, unique=True)
    loaded_at = models.DateTimeField(auto_now_add=True)
