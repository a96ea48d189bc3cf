"""Rooms, who belongs to them, the habitats in them, and the animals that live there.

A habitat's plan is the document of its newest revision (`ridgeback.planner`). The columns here are those that lists show or ask
by; `ridgeback.planner.mapping` keeps them as the document has them. An animal lives a life of its own: it resides in a habitat
from a day to a day, and a plan follows those that reside (`ridgeback.planner.residents`).
"""

from datetime import date

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy


class Room(models.Model):
    """A place with habitats: a home, a classroom, a vivarium room."""

    name = models.CharField(max_length=80)
    created_at = models.DateTimeField(auto_now_add=True)
    # The weekdays the keeper comes by, 0 for Monday; none means every day.
    weekdays = models.JSONField(default=list)
    # How many days readings are kept as they came, where its owner says so; else RIDGEBACK_RAW_DAYS.
    raw_days = models.PositiveIntegerField(null=True)
    # How it holds warmth, and what it has without its enclosures (`planner.shared`); nothing until somebody says so.
    climate = models.JSONField(null=True)
    members: "models.ManyToManyField[models.Model, models.Model]" = models.ManyToManyField(
        settings.AUTH_USER_MODEL, through="Membership"
    )

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """What a keeper may do in a room, `until` a day (included): its owner all of it, a keeper whatever is written, a viewer looks.

    A sitter has no account of their own: they walk the round on the days of their link (`SitterLink`), and nothing else.
    """

    class Role(models.TextChoices):
        OWNER = "owner", gettext_lazy("owner")
        KEEPER = "keeper", gettext_lazy("keeper")
        VIEWER = "viewer", gettext_lazy("viewer")
        SITTER = "sitter", gettext_lazy("sitter")

    room = models.ForeignKey(Room, on_delete=models.CASCADE)
    keeper = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.OWNER)
    until = models.DateField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["room", "keeper"], name="one_membership_per_room")]


class Invitation(models.Model):
    """An address by which somebody joins a room, once: only its digest is kept. It is good until a day (included).

    Who joins stays until `stays_until` (included), or for good.
    """

    room = models.ForeignKey(Room, on_delete=models.CASCADE, related_name="invitations")
    name = models.CharField(max_length=60)
    role = models.CharField(max_length=10, choices=Membership.Role.choices)
    sha256 = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    until = models.DateField()
    stays_until = models.DateField(null=True)
    used_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    used_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)


class SitterLink(models.Model):
    """An address by which somebody without an account walks the round of a room from a day to a day (both included).

    What they write stands under `keeper`, an account of theirs that nobody signs in to by a password. `call` is whom they call.
    """

    room = models.ForeignKey(Room, on_delete=models.CASCADE, related_name="sitters")
    keeper = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="sits_by")
    name = models.CharField(max_length=60)
    sha256 = models.CharField(max_length=64, unique=True)
    first_day = models.DateField()
    last_day = models.DateField()
    call = models.CharField(max_length=200, blank=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    opened_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(last_day__gte=models.F("first_day")), name="a_sitter_comes_before_leaving")
        ]


class Habitat(models.Model):
    """One enclosure; `head` is the revision its plan stands at."""

    room = models.ForeignKey(Room, on_delete=models.CASCADE, related_name="habitats")
    name = models.CharField(max_length=80)
    species = models.CharField(max_length=60)
    version = models.PositiveIntegerField(default=1)
    # Counts the log's entries: what was worked out from the log is stale when it has grown.
    logged = models.PositiveIntegerField(default=0)
    set_aside_at = models.DateTimeField(null=True)
    # Whether its plan is calibrated anew each night by what its instruments report.
    learns_by_itself = models.BooleanField(default=False)
    # Its place in the walking order of the room's shelves.
    place = models.PositiveIntegerField(default=0)
    head = models.ForeignKey("planner.PlanRevision", null=True, on_delete=models.SET_NULL, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Company(models.Model):
    """Whom a habitat is planned for, as lists name it: the animal, the names of the rest of a group, and how many they are."""

    habitat = models.OneToOneField(Habitat, on_delete=models.CASCADE, related_name="company")
    name = models.CharField(max_length=80, blank=True)
    count = models.PositiveIntegerField(default=1)
    others = models.JSONField(default=list)

    class Meta:
        constraints = [models.CheckConstraint(condition=Q(count__gte=1), name="at_least_one_animal")]


class Animal(models.Model):
    """One animal: what it is, how it is known, where it came from, and, once it has left, how and when.

    `species` is the id of a profile of the book or of the room. `left_on` and `left_by` stand together.
    """

    class Sex(models.TextChoices):
        UNKNOWN = "unknown"
        FEMALE = "female"
        MALE = "male"

    class SexedBy(models.TextChoices):
        """How the sex was told."""

        LOOK = "look"
        PROBE = "probe"
        HATCH_TEMPERATURE = "hatch-temperature"
        EGGS = "eggs"
        SCAN = "scan"
        BLOOD = "blood"
        BREEDER = "breeder"

    class Origin(models.TextChoices):
        UNKNOWN = "unknown"
        BRED_HERE = "bred-here"
        CAPTIVE_BRED = "captive-bred"
        FARMED = "farmed"
        WILD_CAUGHT = "wild-caught"
        FOUND = "found"

    class Left(models.TextChoices):
        REHOMED = "rehomed"
        RETURNED = "returned"
        LENT = "lent"
        ESCAPED = "escaped"
        DIED = "died"

    room = models.ForeignKey(Room, on_delete=models.CASCADE, related_name="animals")
    name = models.CharField(max_length=80, blank=True)
    species = models.CharField(max_length=60)
    marks = models.CharField(max_length=200, blank=True)
    chip = models.CharField(max_length=40, blank=True)
    sex = models.CharField(max_length=10, choices=Sex.choices, default=Sex.UNKNOWN)
    sexed_on = models.DateField(null=True, blank=True)
    sexed_by = models.CharField(max_length=20, choices=SexedBy.choices, blank=True)
    hatched = models.DateField(null=True, blank=True)
    hatched_is_estimate = models.BooleanField(default=False)
    origin = models.CharField(max_length=20, choices=Origin.choices, default=Origin.UNKNOWN)
    came_from = models.CharField(max_length=120, blank=True)
    papers = models.CharField(max_length=200, blank=True)
    mother = models.ForeignKey("self", null=True, blank=True, on_delete=models.SET_NULL, related_name="young_of_hers")
    father = models.ForeignKey("self", null=True, blank=True, on_delete=models.SET_NULL, related_name="young_of_his")
    left_on = models.DateField(null=True, blank=True)
    left_by = models.CharField(max_length=10, choices=Left.choices, blank=True)
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField()

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(left_on__isnull=True, left_by="") | Q(left_on__isnull=False) & ~Q(left_by=""),
                name="gone_is_a_day_and_a_way",
            ),
            models.CheckConstraint(
                condition=~Q(mother=models.F("id")) & ~Q(father=models.F("id")), name="nobody_is_its_own_parent"
            ),
        ]

    def __str__(self) -> str:
        return self.called

    @property
    def called(self) -> str:
        """Its name; what it is known by, or its number, where it has none."""
        return self.name or self.marks or _("no. %(number)s") % {"number": self.pk}

    @property
    def known_to_hatch(self) -> date | None:
        """The day on which it hatched, where that is known and no estimate."""
        return None if self.hatched_is_estimate else self.hatched


class Residence(models.Model):
    """An animal in a habitat from a day to a day; `until` is the day it moved out, none while it lives there."""

    class Why(models.TextChoices):
        ARRIVAL = "arrival"
        QUARANTINE_OVER = "quarantine-over"
        GROWTH = "growth"
        SEASON = "season"
        YOUNG_APART = "young-apart"
        MALES_APART = "males-apart"
        FIGHTING = "fighting"
        BREEDING = "breeding"
        TREATMENT = "treatment"
        REBUILDING = "rebuilding"
        FOUND_AGAIN = "found-again"
        OTHER = "other"

    animal = models.ForeignKey(Animal, on_delete=models.CASCADE, related_name="residences")
    habitat = models.ForeignKey(Habitat, on_delete=models.CASCADE, related_name="residences")
    since = models.DateField()
    until = models.DateField(null=True, blank=True)
    why = models.CharField(max_length=20, choices=Why.choices, default=Why.ARRIVAL)
    note = models.CharField(max_length=300, blank=True)

    class Meta:
        ordering = ["since", "id"]
        indexes = [models.Index(fields=["habitat", "until"])]
        constraints = [
            models.UniqueConstraint(fields=["animal"], condition=Q(until__isnull=True), name="an_animal_lives_in_one_habitat"),
            models.CheckConstraint(condition=Q(until__isnull=True) | Q(until__gte=models.F("since")), name="out_after_in"),
        ]


class Seeding(models.Model):
    """What was loaded once and is never loaded again over a keeper's edits."""

    name = models.CharField(max_length=40, unique=True)
    loaded_at = models.DateTimeField(auto_now_add=True)
