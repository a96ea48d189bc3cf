"""Forms of who may what in a room."""

from datetime import date, timedelta
from typing import Any, Final

from django import forms
from django.utils.translation import gettext_lazy as _

from ridgeback.rooms.models import Membership
from ridgeback.sharing.actions import GIVEN

Role = Membership.Role
ROLES: Final = {
    Role.VIEWER: _("viewer: looks, and writes nothing"),
    Role.KEEPER: _("keeper: plans, feeds, writes down"),
    Role.OWNER: _("owner: all of it, and who may what"),
}
LINK_DAYS: Final = 7
MOST_DAYS: Final = 90
MOST_LINK_DAYS: Final = 30
# Shorter, and what is compared with the weeks before could not be; longer, and nobody has looked.
LEAST_RAW_DAYS: Final = 40
MOST_RAW_DAYS: Final = 3650


def _day(label: Any, *, required: bool = True) -> forms.DateField:
    return forms.DateField(label=label, required=required, widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"))


class InviteForm(forms.Form):
    """Somebody is invited."""

    name = forms.CharField(label=_("Who"), max_length=60)
    role = forms.ChoiceField(label=_("As"), choices=[(role.value, ROLES[role]) for role in GIVEN])
    until = _day(_("The address is good until"))
    stays_until = _day(_("They stay until (nothing: for good)"), required=False)

    def __init__(self, *args: Any, today: date, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.today = today
        self.fields["until"].initial = today + timedelta(days=LINK_DAYS)

    def clean_until(self) -> date:
        day: date = self.cleaned_data["until"]
        if not self.today <= day <= self.today + timedelta(days=MOST_LINK_DAYS):
            raise forms.ValidationError(_("An address is good for %(n)s days at most, from today on.") % {"n": MOST_LINK_DAYS})
        return day

    def clean_stays_until(self) -> date | None:
        day: date | None = self.cleaned_data["stays_until"]
        if day is not None and day < self.today:
            raise forms.ValidationError(_("That day is over."))
        return day


class SitterForm(forms.Form):
    """Somebody sits for some days."""

    name = forms.CharField(label=_("Who sits"), max_length=60)
    first_day = _day(_("From"))
    last_day = _day(_("Until"))
    call = forms.CharField(label=_("Whom they call (name, number, veterinarian)"), max_length=200, required=False)

    def __init__(self, *args: Any, today: date, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.today = today
        self.fields["first_day"].initial, self.fields["last_day"].initial = today, today + timedelta(days=LINK_DAYS)

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        first, last = data.get("first_day"), data.get("last_day")
        if first is None or last is None:
            return data
        if last < first:
            self.add_error("last_day", _("The last day comes after the first."))
        elif last < self.today:
            self.add_error("last_day", _("That day is over."))
        elif (last - first).days > MOST_DAYS:
            self.add_error("last_day", _("A sitter sits for %(n)s days at most; make another link then.") % {"n": MOST_DAYS})
        return data


class KeepingForm(forms.Form):
    """How long a room's readings are kept as they came."""

    raw_days = forms.IntegerField(label=_("Days"), required=False, min_value=LEAST_RAW_DAYS, max_value=MOST_RAW_DAYS)


class MemberForm(forms.Form):
    """What a member may, and until when."""

    role = forms.ChoiceField(choices=[(role.value, ROLES[role]) for role in GIVEN])
    until = _day(_("until"), required=False)
