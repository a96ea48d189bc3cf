"""Tokens by which other programs read and write a room, and what they were answered: a repeated request does nothing twice."""

from django.conf import settings
from django.db import models


class Token(models.Model):
    """A program's key to one room: only its digest is kept. What it writes stands under the keeper who made it.

    `scopes` are of `ridgeback.api.access.SCOPES`; `allowance` and `counted_at` are its bucket of requests.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=60)
    sha256 = models.CharField(max_length=64, unique=True)
    scopes = models.JSONField(default=list)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    allowance = models.FloatField(default=0.0)
    counted_at = models.DateTimeField(null=True)


class Answered(models.Model):
    """What a request with an idempotency key was answered: the same again is told the same, another with that key is refused."""

    token = models.ForeignKey(Token, on_delete=models.CASCADE)
    key = models.CharField(max_length=80)
    asked = models.CharField(max_length=64)
    status = models.PositiveSmallIntegerField()
    body = models.JSONField()
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["token", "key"], name="one_answer_for_a_key")]
        indexes = [models.Index(fields=["at"])]


class Webhook(models.Model):
    """An address that is told what happens in a room. Its secret is derived from `seed` and the program's own key: none is kept.

    `tells` are of `ridgeback.api.telling.TELLS`. Entries up to `seen` were looked through, notices up to
    `seen_notice` had begun before it; `failures` in a row pause it.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="webhooks")
    address = models.CharField(max_length=300)
    tells = models.JSONField(default=list)
    seed = models.CharField(max_length=64)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    seen = models.BigIntegerField(default=0)
    seen_notice = models.BigIntegerField(default=0)
    failures = models.PositiveIntegerField(default=0)
    answered_at = models.DateTimeField(null=True)
    fault = models.CharField(max_length=200, blank=True)


class Delivery(models.Model):
    """One thing that a webhook is told: once for each `kind` and row it is `about`, tried again until it is taken or given up."""

    webhook = models.ForeignKey(Webhook, on_delete=models.CASCADE, related_name="deliveries")
    kind = models.CharField(max_length=30)
    about = models.BigIntegerField()
    body = models.JSONField()
    made_at = models.DateTimeField()
    due_at = models.DateTimeField(null=True)
    tries = models.PositiveSmallIntegerField(default=0)
    taken_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["webhook", "kind", "about"], name="told_once")]
        indexes = [models.Index(fields=["due_at"])]
