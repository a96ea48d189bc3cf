"""Correcting what has a page of its own to be written on: a meal's outcome, a chore's, a reading's number."""

from datetime import datetime
from typing import Any

from django import forms
from django.utils import timezone
from django.utils.translation import gettext as _

from ridgeback.daybook.models import Event
from ridgeback.keeping.entry_forms import Moment, Quantity
from ridgeback.language import rotawords
from ridgeback.planner import readings
from ridgeback.units import KeeperUnits


class OtherForm(Moment):
    """What of a meal, a chore or a reading can be typed anew."""

    names: tuple[str, ...] = ()

    def payload(self) -> dict[str, Any]:
        """What differs from the entry before."""
        return {name: self.cleaned_data[name] for name in (*self.names, "note")}


def other_form(data: Any, event: Event, units: KeeperUnits, now: datetime) -> OtherForm:
    """The form of an entry that stands."""
    then, told = timezone.localtime(event.at), event.payload
    begin: dict[str, Any] = {"day": then.date(), "time": then.strftime("%H:%M"), "note": told.get("note", "")}
    if event.kind == Event.Kind.READ:
        unit = readings.unit_of(told["place"])
        fields: dict[str, forms.Field] = {"value": Quantity(units, unit, label=_("The instrument showed"))}
        begin["value"] = told["value"]
    else:
        outcomes = ("eaten", "part", "refused", "skipped") if event.kind == Event.Kind.FED else ("done", "skipped")
        said = [(code, rotawords.OUTCOMES[code]) for code in outcomes]
        fields = {"outcome": forms.ChoiceField(label=_("What became of it"), choices=said)}
        begin["outcome"] = told.get("outcome", outcomes[0])
    form = OtherForm(data, now=now, initial=begin)
    form.names = tuple(fields)
    form.fields = fields | form.fields
    return form
