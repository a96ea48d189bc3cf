"""Forms of accounts."""

from django import forms
from django.utils.translation import gettext_lazy as _

from ridgeback.accounts.models import Keeper


class UnitsForm(forms.ModelForm):
    """The units a keeper reads in; either system may be typed anywhere."""

    class Meta:
        model = Keeper
        fields = ["temperature_unit", "length_unit", "mass_unit", "volume_unit", "decimal_mark"]


class LettersForm(forms.ModelForm):
    """Where letters of the watch go, and which."""

    class Meta:
        model = Keeper
        fields = ["email", "letters"]
        labels = {"email": _("E-mail address")}

    def clean(self) -> dict[str, object]:
        data = super().clean() or {}
        if data.get("letters") and not data.get("email"):
            self.add_error("email", _("Letters need an address to go to."))
        return data


class NewKeeperForm(forms.ModelForm):
    """A new account; its owner sets the password by the link that follows."""

    class Meta:
        model = Keeper
        fields = ["username"]
        labels = {"username": _("Sign-in name")}
        help_texts = {"username": _("Letters, digits and @ . + - _")}
