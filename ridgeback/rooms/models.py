"""Rooms, who belongs to them, and the habitats in them with their animals and lamps.

A habitat's rows hold the current state; `ridgeback.planner.mapping` turns them into a HabitatPlan and back.
"""

from django.conf import settings
from django.db import models
from django.db.models import F, Q


class Room(models.Model):
    """A place with habitats: a home, a classroom, a vivarium room."""

    name = models.CharField(max_length=80)
    created_at = models.DateTimeField(auto_now_add=True)
    # The weekdays the keeper comes by, 0 for Monday; none means every day.
    weekdays = models.JSONField(default=list)
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
    """One enclosure. `setting` holds the parts of the plan nobody queries by: room climate, ground, fixtures, hours, feeding."""

    room = models.ForeignKey(Room, on_delete=models.CASCADE, related_name="habitats")
    name = models.CharField(max_length=80)
    species = models.CharField(max_length=60)
    kind = models.CharField(max_length=20)
    lid = models.CharField(max_length=10)
    mesh_open_share = models.FloatField(default=0.65)
    length_m = models.FloatField()
    width_m = models.FloatField()
    height_m = models.FloatField()
    setting = models.JSONField(default=dict)
    version = models.PositiveIntegerField(default=1)
    # Counts the log's entries: what was worked out from the log is stale when it has grown.
    logged = models.PositiveIntegerField(default=0)
    set_aside_at = models.DateTimeField(null=True)
    head = models.ForeignKey("planner.PlanRevision", null=True, on_delete=models.SET_NULL, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.CheckConstraint(condition=Q(length_m__gt=0, width_m__gt=0, height_m__gt=0), name="habitat_has_a_size"),
            models.CheckConstraint(condition=Q(mesh_open_share__gt=0, mesh_open_share__lte=1), name="mesh_share_is_a_share"),
        ]

    def __str__(self) -> str:
        return self.name


class Animal(models.Model):
    """The animal (or the group of alike ones) a habitat is planned for. Mass in kg, length in m by the species' measure."""

    habitat = models.OneToOneField(Habitat, on_delete=models.CASCADE, related_name="animal")
    name = models.CharField(max_length=80, blank=True)
    sex = models.CharField(max_length=10, default="unknown")
    hatched = models.DateField(null=True)
    hatched_is_estimate = models.BooleanField(default=False)
    mass_kg = models.FloatField(null=True)
    length_m = models.FloatField(null=True)
    count = models.PositiveIntegerField(default=1)
    males = models.PositiveIntegerField(null=True)
    young = models.PositiveIntegerField(default=0)
    smallest_m = models.FloatField(null=True)
    others = models.JSONField(default=list)  # names of the rest of a group

    class Meta:
        constraints = [
            models.CheckConstraint(condition=Q(mass_kg__isnull=True) | Q(mass_kg__gt=0), name="mass_above_zero"),
            models.CheckConstraint(condition=Q(length_m__isnull=True) | Q(length_m__gt=0), name="length_above_zero"),
            models.CheckConstraint(condition=Q(count__gte=1), name="at_least_one_animal"),
            models.CheckConstraint(
                condition=(Q(males__isnull=True) | Q(males__lte=F("count"))) & Q(young__lte=F("count")), name="no_more_than_all"
            ),
            models.CheckConstraint(condition=Q(smallest_m__isnull=True) | Q(smallest_m__gt=0), name="smallest_above_zero"),
        ]


class Heater(models.Model):
    """A heater in place; heights above the enclosure's inner floor in m, thermostat as in the plan."""

    habitat = models.ForeignKey(Habitat, on_delete=models.CASCADE, related_name="heaters")
    place = models.PositiveSmallIntegerField()
    kind = models.CharField(max_length=20)
    watts = models.FloatField()
    x_m = models.FloatField()
    height_m = models.FloatField()
    half_angle_deg = models.FloatField(null=True)
    on = models.TimeField()
    off = models.TimeField()
    thermostat = models.JSONField(default=dict)
    guarded = models.BooleanField(default=False)
    length_m = models.FloatField(null=True)
    holder = models.CharField(max_length=10, blank=True, default="")
    fitted = models.DateField(null=True)

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["habitat", "place"], name="one_heater_per_place"),
            models.CheckConstraint(condition=Q(watts__gt=0, watts__lte=500), name="heater_watts"),
            models.CheckConstraint(condition=Q(x_m__gte=0, height_m__gt=0), name="heater_is_somewhere"),
        ]


class UvLamp(models.Model):
    """A UV lamp in place; its date of fitting says when it must be replaced."""

    habitat = models.ForeignKey(Habitat, on_delete=models.CASCADE, related_name="uv_lamps")
    place = models.PositiveSmallIntegerField()
    kind = models.CharField(max_length=20)
    tube_m = models.FloatField()
    x_m = models.FloatField()
    height_m = models.FloatField()
    reflector = models.BooleanField(default=True)
    fitted = models.DateField(null=True)
    behind_glass = models.BooleanField(default=False)
    on = models.TimeField()
    off = models.TimeField()
    again_on = models.TimeField(null=True)
    again_off = models.TimeField(null=True)

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["habitat", "place"], name="one_uv_lamp_per_place"),
            models.CheckConstraint(condition=Q(tube_m__gt=0, x_m__gte=0, height_m__gt=0), name="uv_lamp_is_somewhere"),
        ]


class Seeding(models.Model):
    """What was loaded once and is never loaded again over a keeper's edits."""

    name = models.CharField(max_length=40, unique=True)
    loaded_at = models.DateTimeField(auto_now_add=True)
