"""The one dated event log: what happened, to what, when, by whom."""

from django.conf import settings
from django.db import models


class Standing(models.Manager["Event"]):
    """The entries that stand: not those that were taken back or corrected by another."""

    def get_queryset(self) -> "models.QuerySet[Event]":
        return super().get_queryset().filter(taken_back_at__isnull=True)


class Event(models.Model):
    """Something that happened. The payload's shape belongs to the kind; see `ridgeback.daybook.log` and `entries`.

    An entry belongs to an animal, or, without one, to the habitat or to all that live in it. It is never changed: a correction is
    an entry that `replaces` it. What was taken back or replaced keeps its row, with when and by whom; `objects` leaves it out.
    """

    class Kind(models.TextChoices):
        CREATED = "habitat.created"
        PLANNED = "plan.saved"
        UNDONE = "plan.undone"
        REDONE = "plan.redone"
        IMPORTED = "plan.imported"
        WEIGHED = "animal.weighed"
        MEASURED = "animal.measured"
        READ = "habitat.read"
        FED = "animal.fed"
        DONE = "job.done"
        MOVED = "rota.moved"
        CONDITION = "animal.condition"
        ARRIVED = "animal.arrived"
        MOVED_IN = "animal.moved"
        LEFT = "animal.left"
        BROUGHT_UP = "animal.regurgitated"
        SHED = "animal.shed"
        DROPPINGS = "animal.droppings"
        SOAKED = "animal.soaked"
        BEHAVED = "animal.behaviour"
        SIGN = "animal.sign"
        TREATED = "animal.treated"
        HANDLED = "animal.handled"
        SCREENED = "animal.screened"
        PAIRED = "breeding.paired"
        COURTED = "breeding.courtship"
        GRAVID = "breeding.gravid"
        LAID = "breeding.clutch"
        CANDLED = "breeding.candled"
        HATCHED = "breeding.hatched"
        CLEANED = "habitat.cleaned"
        WATERED = "habitat.water"
        LAMP_CHANGED = "habitat.lamp"
        QUARANTINE = "habitat.quarantine"
        BUILT = "habitat.built"
        PEOPLE = "room.people"
        NOTED = "note"
        PHOTO = "photo"

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="events")
    habitat = models.ForeignKey("rooms.Habitat", null=True, on_delete=models.CASCADE, related_name="events")
    kind = models.CharField(max_length=30, choices=Kind.choices)
    at = models.DateTimeField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    payload = models.JSONField(default=dict)
    animal = models.ForeignKey("rooms.Animal", null=True, on_delete=models.CASCADE, related_name="events")
    taken_back_at = models.DateTimeField(null=True)
    taken_back_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    replaces = models.OneToOneField("self", null=True, on_delete=models.SET_NULL, related_name="replaced_by")
    # When it was written down: `at` is when it happened.
    written_at = models.DateTimeField(null=True)

    objects = Standing()
    every = models.Manager["Event"]()

    class Meta:
        ordering = ["-at", "-id"]
        base_manager_name = "every"
        indexes = [
            models.Index(fields=["habitat", "-at"]),
            models.Index(fields=["room", "kind", "-at"]),
            models.Index(fields=["animal", "-at"]),
            models.Index(fields=["room", "-at"]),
        ]


class Quiet(models.Model):
    """What the watch tells of an animal, seen and put aside until a day (included), with the keeper's reason.

    `key` names one occurrence (`husbandry.watch.rules.Alarm.key`): the next one is told again.
    """

    animal = models.ForeignKey("rooms.Animal", on_delete=models.CASCADE, related_name="quiet")
    key = models.CharField(max_length=80)
    until = models.DateField()
    reason = models.CharField(max_length=300, blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["animal", "until"])]


class Photo(models.Model):
    """A photo of an entry: a small JPEG made anew, so that nothing of where and with what it was taken is left."""

    event = models.OneToOneField(Event, on_delete=models.CASCADE, related_name="photo")
    jpeg = models.BinaryField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(width__gte=1, height__gte=1), name="a_photo_has_a_size")]


class Instrument(models.Model):
    """A meter of a room. `reads_high` is its known error, taken off every reading; `sure_to` what is left of it, one way.

    Both in the unit of what it reads (°C, %, index, kg).
    """

    class Kind(models.TextChoices):
        INFRARED = "infrared"
        THERMOMETER = "thermometer"
        HYGROMETER = "hygrometer"
        UV_METER = "uv-meter"
        SCALE = "scale"
        PLUG = "plug"
        MISTER = "mister"

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="instruments")
    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=20, choices=Kind.choices)
    reads_high = models.FloatField(default=0.0)
    sure_to = models.FloatField(default=0.5)

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.UniqueConstraint(fields=["room", "name"], name="one_instrument_of_a_name"),
            models.CheckConstraint(condition=models.Q(sure_to__gt=0), name="no_instrument_is_perfect"),
        ]

    def __str__(self) -> str:
        return self.name


class Written(models.Model):
    """One press of a button that was written, by the digest of what was posted; kept for a week.

    `answer` is where it led, for a second press of the same.
    """

    key = models.CharField(max_length=64, unique=True)
    at = models.DateTimeField(db_index=True)
    answer = models.CharField(max_length=300, blank=True, default="")


class Notice(models.Model):
    """One occurrence of something to look at: since when, whether it has ended, and whether its keeper has put it aside.

    It is about a channel, an animal, a habitat or the room. `code` is a `WatchCode`, `told` its parameters as JSON, and `ident`
    tells two of one code apart. Of animals the pages ask the watch itself (`Quiet`); their notices are for letters and calendars.
    """

    room = models.ForeignKey("rooms.Room", on_delete=models.CASCADE, related_name="notices")
    habitat = models.ForeignKey("rooms.Habitat", null=True, on_delete=models.CASCADE, related_name="notices")
    channel = models.ForeignKey("series.Channel", null=True, on_delete=models.CASCADE, related_name="notices")
    animal = models.ForeignKey("rooms.Animal", null=True, on_delete=models.CASCADE, related_name="notices")
    code = models.CharField(max_length=30)
    ident = models.CharField(max_length=80, blank=True)
    level = models.CharField(max_length=10)
    told = models.JSONField(default=dict)
    since = models.DateTimeField()
    looked_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    quiet_until = models.DateField(null=True)
    quiet_reason = models.CharField(max_length=300, blank=True)
    quiet_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta:
        ordering = ["-since", "-id"]
        indexes = [models.Index(fields=["habitat", "ended_at"]), models.Index(fields=["room", "ended_at"])]
        constraints = [
            models.UniqueConstraint(
                fields=["room", "habitat", "channel", "animal", "code", "ident"],
                condition=models.Q(ended_at__isnull=True),
                name="one_notice_at_a_time",
                nulls_distinct=False,
            ),
            models.CheckConstraint(
                condition=models.Q(ended_at__isnull=True) | models.Q(ended_at__gte=models.F("since")), name="ended_after"
            ),
        ]


class Letter(models.Model):
    """A notice that was written to a keeper by e-mail: once is enough."""

    keeper = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="letters_sent")
    notice = models.ForeignKey(Notice, on_delete=models.CASCADE, related_name="letters")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["keeper", "notice"], name="one_letter_a_notice")]
