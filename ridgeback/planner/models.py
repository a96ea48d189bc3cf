"""Revisions of a plan: the whole document each time, with the profile it was made by."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from ridgeback.language.told import in_readers


class ProfileSnapshot(models.Model):
    """A species profile as it was when a plan used it; kept once per content."""

    species = models.CharField(max_length=60)
    sha256 = models.CharField(max_length=64, unique=True)
    document = models.JSONField()
    created_at = models.DateTimeField(auto_now_add=True)


class PlanRevision(models.Model):
    """One saved state of a habitat's plan. Undo moves the habitat's head to `parent`, redo to the newest child."""

    habitat = models.ForeignKey("rooms.Habitat", on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="children")
    document = models.JSONField()
    profile = models.ForeignKey(ProfileSnapshot, on_delete=models.PROTECT)
    label = models.CharField(max_length=120)
    told = models.JSONField(default=dict)  # the label by the codes of languages
    # It was made because others live there now: undoing it moves nobody and renames nobody.
    follows = models.BooleanField(default=False)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    created_at = models.DateTimeField()

    @property
    def said(self) -> str:
        """The label in the language that is read now."""
        return in_readers(self.told, self.label)

    class Meta:
        ordering = ["-number"]
        constraints = [
            models.UniqueConstraint(fields=["habitat", "number"], name="one_revision_per_number"),
            models.CheckConstraint(condition=Q(number__gte=1), name="revision_numbers_from_one"),
        ]


class Glance(models.Model):
    """What the list of habitats says of one, in some units, as worked out on a day for a version and a state of the log.

    `made_by` is `ridgeback.made_by.program()` of then.
    """

    habitat = models.ForeignKey("rooms.Habitat", on_delete=models.CASCADE, related_name="glances")
    units = models.CharField(max_length=120)
    version = models.PositiveIntegerField()
    logged = models.PositiveIntegerField()
    day = models.DateField()
    made_by = models.CharField(max_length=32)
    document = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["habitat", "units"], name="one_glance_in_each_units")]


class PlanVersion(models.Model):
    """Which revision a habitat's plan stood at in each version: what an edit that began there is compared with."""

    habitat = models.ForeignKey("rooms.Habitat", on_delete=models.CASCADE, related_name="versions")
    version = models.PositiveIntegerField()
    revision = models.ForeignKey(PlanRevision, on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["habitat", "version"], name="one_state_per_version")]
