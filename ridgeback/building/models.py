"""A build of a habitat, and the steps of it that are done."""

from django.conf import settings
from django.db import models
from django.db.models import Q


class Build(models.Model):
    """One build or rebuild of a habitat, as its plan stands: what is done is kept here, what is to do is worked out.

    `settings` is a `husbandry.build.settings.BuildSettings` as JSON. `before` is the plan that stands, for a rebuild. `seen` are
    the moments at which thermostats were seen switching, by their heater's path and "-on" or "-off". The test run is signed by
    `test_by`. Where the animal moved in against a lock, `override` holds the reason.
    """

    habitat = models.ForeignKey("rooms.Habitat", on_delete=models.CASCADE, related_name="builds")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    begun_at = models.DateTimeField()
    settings = models.JSONField(default=dict)
    before = models.JSONField(null=True)
    seen = models.JSONField(default=dict)
    test_passed_at = models.DateTimeField(null=True)
    test_by = models.CharField(max_length=80, blank=True)
    test_note = models.CharField(max_length=500, blank=True)
    moved_in_at = models.DateTimeField(null=True)
    override = models.CharField(max_length=500, blank=True)
    ended_at = models.DateTimeField(null=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-begun_at", "-id"]
        constraints = [
            models.UniqueConstraint(fields=["habitat"], condition=Q(ended_at__isnull=True), name="one_build_at_a_time"),
            models.CheckConstraint(condition=Q(moved_in_at__isnull=True) | Q(ended_at__isnull=False), name="moved_in_is_ended"),
        ]


class DoneStep(models.Model):
    """A step that was done, by its key in the build, and when its work was over; `digest` says what of the plan it was for."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="done")
    step = models.CharField(max_length=80)
    at = models.DateTimeField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    note = models.CharField(max_length=500, blank=True)
    digest = models.CharField(max_length=64)

    class Meta:
        ordering = ["at", "id"]
        constraints = [models.UniqueConstraint(fields=["build", "step"], name="a_step_is_done_once")]
