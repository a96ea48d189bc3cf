"""Keepers: people who sign in, and the units each prefers."""

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils.translation import gettext_lazy as _


class Keeper(AbstractUser):
    """A person with an account. Administrators (`is_staff`) make accounts and reset links; they see only their own rooms.

    One that `sits` is nobody's account: what a sitter writes by their link stands under it.
    """

    class Temperature(models.TextChoices):
        CELSIUS = "degC", _("°C")
        FAHRENHEIT = "degF", _("°F")

    class Length(models.TextChoices):
        CENTIMETRES = "cm", _("cm")
        INCHES = "in", _("inches")

    class Mass(models.TextChoices):
        GRAMS = "g", _("g")
        OUNCES = "oz", _("oz")

    class Volume(models.TextChoices):
        LITRES = "L", _("litres")
        GALLONS = "gal", _("US gallons")

    class DecimalMark(models.TextChoices):
        NOT_SAID = "", _("ask when it can mean two things")
        POINT = ".", _("1,150.5")
        COMMA = ",", _("1.150,5")

    class Letters(models.TextChoices):
        """What of the watch is sent by e-mail."""

        NONE = "", _("nothing")
        DANGERS = "dangers", _("what cannot wait, at once")
        ALL = "all", _("what cannot wait at once, and the rest each morning")

    temperature_unit = models.CharField(_("temperature"), max_length=4, choices=Temperature.choices, default=Temperature.CELSIUS)
    length_unit = models.CharField(_("length"), max_length=2, choices=Length.choices, default=Length.CENTIMETRES)
    mass_unit = models.CharField(_("mass"), max_length=2, choices=Mass.choices, default=Mass.GRAMS)
    volume_unit = models.CharField(_("volume"), max_length=3, choices=Volume.choices, default=Volume.LITRES)
    # Counts the links that set a password: an earlier one is dead once a newer is made.
    sits = models.BooleanField(default=False)
    links_made = models.PositiveIntegerField(default=0)
    letters = models.CharField(_("letters of the watch"), max_length=8, choices=Letters.choices, default="", blank=True)
    # The language of letters; pages speak what their browser was told. Empty: English.
    language = models.CharField(max_length=8, default="", blank=True)
    decimal_mark = models.CharField(_("numbers as I write them"), max_length=1, choices=DecimalMark.choices, default="", blank=True)


class SignedIn(models.Model):
    """A browser that a keeper is signed in with: what it is, since when, and when it was last seen, to five minutes."""

    session = models.CharField(max_length=40, unique=True)
    keeper = models.ForeignKey(Keeper, on_delete=models.CASCADE, related_name="signed_in")
    browser = models.CharField(max_length=40, blank=True)
    since = models.DateTimeField()
    seen_at = models.DateTimeField()


class AccountInvitation(models.Model):
    """Somebody is invited to have an account: by an address that is good once, of which only the digest is kept."""

    name = models.CharField(max_length=60)
    sha256 = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(Keeper, null=True, on_delete=models.SET_NULL, related_name="+")
    made_at = models.DateTimeField()
    until = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)


class Happening(models.Model):
    """Something that happened to an account; written and read, and changed by nobody: the database itself refuses that."""

    keeper = models.ForeignKey(Keeper, on_delete=models.CASCADE, related_name="happenings")
    what = models.CharField(max_length=20)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["keeper", "-at"])]


class Try(models.Model):
    """One try to sign in: whose name (its digest, for a name nobody has may be a password), from where, and whether it was good."""

    name = models.CharField(max_length=64)
    address = models.CharField(max_length=64)
    at = models.DateTimeField()
    good = models.BooleanField()

    class Meta:
        indexes = [models.Index(fields=["address", "-at"]), models.Index(fields=["name", "-at"])]


class Night(models.Model):
    """When a nightly task ran last: it tells a night that followed on the one before from a clock that jumped."""

    task = models.CharField(max_length=40, unique=True)
    at = models.DateTimeField()
