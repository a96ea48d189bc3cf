"""Forms of accounts."""

from django import forms
from django.contrib.auth.forms import BaseUserCreationForm
from django.utils.translation import gettext_lazy as _

from ridgeback.accounts.models import Keeper


class UnitsForm(forms.ModelForm):
    """The units a keeper reads in; either system may be typed anywhere."""

    class Meta:
        model = Keeper
        fields = ["temperature_unit", "length_unit", "mass_unit", "volume_unit", "decimal_mark"]


class LettersForm(forms.ModelForm):
    """Where letters of the watch go, and which. A new address needs the password: a new password could be sent to it."""

    password = forms.CharField(
        label=_("Your password, for another address"),
        required=False,
        strip=False,
        widget=forms.PasswordInput(attrs={"autocomplete": "current-password"}),
    )

    class Meta:
        model = Keeper
        fields = ["email", "letters"]
        labels = {"email": _("E-mail address")}

    def clean(self) -> dict[str, object]:
        data = super().clean() or {}
        if data.get("letters") and not data.get("email"):
            self.add_error("email", _("Letters need an address to go to."))
        if "email" in self.changed_data and not self.instance.check_password(data.get("password", "")):
            self.add_error("password", _("Another address needs your password; nothing was changed."))
        return data


class InvitedForm(forms.Form):
    """Somebody is invited to have an account."""

    name = forms.CharField(label=_("Who"), max_length=60, help_text=_("For this list alone; they choose their own sign-in name."))


class NewAccount(BaseUserCreationForm):
    """An account for who was invited and has none."""

    class Meta:
        model = Keeper
        fields = ("username",)
        labels = {"username": _("Sign-in name")}


class ForgottenForm(forms.Form):
    """Where a link for a new password is to go."""

    email = forms.EmailField(label=_("E-mail address of the account"), max_length=254)
