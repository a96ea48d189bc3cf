"""The forms of an animal: what is said of it, its coming, its move, its leaving."""

from datetime import date
from typing import Any, Final

from django import forms
from django.urls import reverse
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.keeping.entry_forms import Quantity
from ridgeback.language import entrywords
from ridgeback.rooms.models import Animal, Habitat, Residence
from ridgeback.units import KeeperUnits
from ridgeback.web.formfields import DayField, WholeField, written_by

MOST_ALIKE: Final = 50
OLDEST: Final = 150 * 366  # days; a tortoise


def _said(words: dict[str, Any]) -> list[tuple[str, Any]]:
    return list(words.items())


class FactsForm(forms.Form):
    """What is said of an animal."""

    name = forms.CharField(label=gettext_lazy("Name"), max_length=40, required=False)
    species = forms.ChoiceField(label=gettext_lazy("Kind"))
    sex = forms.ChoiceField(label=gettext_lazy("Sex"), choices=_said(entrywords.SEX))
    sexed_by = forms.ChoiceField(
        label=gettext_lazy("Told how"), choices=[("", gettext_lazy("not told")), *_said(entrywords.SEXED_BY)], required=False
    )
    sexed_on = DayField(label=gettext_lazy("Told on"), required=False)
    hatched = DayField(label=gettext_lazy("Hatched or born on"), required=False)
    hatched_is_estimate = forms.BooleanField(label=gettext_lazy("That is an estimate"), required=False)
    marks = forms.CharField(
        label=gettext_lazy("Known by"), max_length=200, required=False, help_text=gettext_lazy("marks, missing toes, pattern")
    )
    chip = forms.CharField(label=gettext_lazy("Chip number"), max_length=40, required=False)
    origin = forms.ChoiceField(label=gettext_lazy("Origin"), choices=_said(entrywords.ORIGIN))
    came_from = forms.CharField(label=gettext_lazy("Came from"), max_length=120, required=False)
    papers = forms.CharField(
        label=gettext_lazy("Papers and permits"), max_length=200, required=False, help_text=gettext_lazy("their numbers")
    )
    mother_id = forms.ChoiceField(label=gettext_lazy("Mother"), required=False)
    father_id = forms.ChoiceField(label=gettext_lazy("Father"), required=False)

    def __init__(
        self, data: Any, *, today: date, kinds: list[tuple[str, str]], parents: list[Animal], animal: Animal | None = None
    ) -> None:
        names = [name for name in self.base_fields if name not in ("mother_id", "father_id")]
        told: dict[str, Any] = {} if animal is None else {name: getattr(animal, name) for name in names}
        if animal is not None:
            told |= {"mother_id": str(animal.mother_id or ""), "father_id": str(animal.father_id or "")}
        super().__init__(data, initial=told)
        self.today = today
        chosen = self.fields["species"]
        chosen.widget.attrs["data-finds"] = reverse("rooms:find-species")
        assert isinstance(chosen, forms.ChoiceField)
        chosen.choices = kinds
        for field, sex in (("mother_id", "male"), ("father_id", "female")):
            parent = self.fields[field]
            assert isinstance(parent, forms.ChoiceField)
            able = [(str(one.pk), one.called) for one in parents if one.sex != sex]
            parent.choices = [("", _("not known or not here")), *able]

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        for name in ("hatched", "sexed_on"):
            day = data.get(name)
            if day is not None and day > self.today:
                self.add_error(name, _("That is still to come."))
        hatched = data.get("hatched")
        if hatched is not None and (self.today - hatched).days > OLDEST:
            self.add_error("hatched", _("No animal is that old. Is the year right?"))
        if hatched and data.get("sexed_on") and data["sexed_on"] < hatched:
            self.add_error("sexed_on", _("That is before it hatched."))
        if data.get("mother_id") and data.get("mother_id") == data.get("father_id"):
            self.add_error("father_id", _("Mother and father are two."))
        return data

    def facts(self) -> dict[str, Any]:
        """What is kept of it."""
        names = [name for name in FactsForm.base_fields if name in self.cleaned_data]
        kept = {name: self.cleaned_data[name] for name in names}
        for name in ("mother_id", "father_id"):
            kept[name] = int(kept[name]) if kept.get(name) else None
        return kept


class WelcomeForm(FactsForm):
    """An animal that comes: what is said of it, its first weight, what it looks like, and how long it stays apart."""

    day = DayField(label=gettext_lazy("Came on"))
    alike = WholeField(
        label=gettext_lazy("How many like it"),
        min_value=1,
        max_value=MOST_ALIKE,
        initial=1,
        help_text=gettext_lazy("a clutch or a group of which none has a name yet"),
    )
    sound = forms.MultipleChoiceField(
        label=gettext_lazy("Seen on its first day"), required=False, widget=forms.CheckboxSelectMultiple
    )
    apart_until = DayField(label=gettext_lazy("Quarantine until"), required=False)
    note = forms.CharField(label=gettext_lazy("Note"), required=False, max_length=2000, widget=forms.Textarea(attrs={"rows": 2}))

    def __init__(self, data: Any, *, units: KeeperUnits, begin: dict[str, Any], **more: Any) -> None:
        super().__init__(data, **more)
        self.initial = {**self.initial, **begin}
        for name, label, si in (("mass_kg", _("Weight"), "kg"), ("length_m", _("Length"), "m")):
            field = Quantity(units, si, label=label, required=False)
            field.help_text = units.number(1.0, si, typed=True)[1]
            self.fields[name] = field
        sound = self.fields["sound"]
        assert isinstance(sound, forms.MultipleChoiceField)
        codes = entries.choices_of(Event.Kind.ARRIVED, "sound")
        sound.choices = [(code, entrywords.choice(Event.Kind.ARRIVED, "sound", code)) for code in codes]
        first = ("name", "species", "sex", "hatched", "hatched_is_estimate", "mass_kg", "length_m", "day", "apart_until", "sound")
        self.order_fields([*first, *self.fields])
        written_by(self, units.decimal)

    def clean(self) -> dict[str, Any]:
        data = super().clean()
        day = data.get("day")
        if day is not None and day > self.today:
            self.add_error("day", _("That is still to come: write it down when it has come."))
        if day is not None and data.get("hatched") and data["hatched"] > day:
            self.add_error("day", _("That is before it hatched."))
        if data.get("apart_until") and day and data["apart_until"] < day:
            self.add_error("apart_until", _("That is before it came."))
        for name, low, high in (("mass_kg", 0.00001, 200.0), ("length_m", 0.005, 8.0)):
            value = data.get(name)
            if value is not None and not low <= value <= high:
                self.add_error(name, _("That cannot be: was another unit meant?"))
        return data


class _Booked(forms.Form):
    """Something that has happened on a day, `today` at the latest."""

    today: date

    def clean_day(self) -> date:
        day: date = self.cleaned_data["day"]
        if day > self.today:
            raise forms.ValidationError(_("That is still to come."))
        return day


class MoveForm(_Booked):
    """Where an animal goes, when and why."""

    habitat = forms.ChoiceField(label=gettext_lazy("Into"))
    day = DayField(label=gettext_lazy("On"))
    why = forms.ChoiceField(label=gettext_lazy("Why"))
    note = forms.CharField(label=gettext_lazy("Note"), required=False, max_length=300)

    def __init__(self, data: Any, *, habitats: list[Habitat], begin: dict[str, Any], today: date) -> None:
        super().__init__(data, initial=begin)
        self.today = today
        into, why = self.fields["habitat"], self.fields["why"]
        assert isinstance(into, forms.ChoiceField)
        assert isinstance(why, forms.ChoiceField)
        into.choices = [(str(one.pk), one.name) for one in habitats]
        reasons = [code for code in Residence.Why.values if code != Residence.Why.ARRIVAL]
        why.choices = [(code, entrywords.WHY[code]) for code in reasons]


class LeaveForm(_Booked):
    """How an animal leaves, and when."""

    how = forms.ChoiceField(label=gettext_lazy("How"), choices=[(code, entrywords.CHOICES[code]) for code in Animal.Left.values])
    day = DayField(label=gettext_lazy("On"))
    note = forms.CharField(label=gettext_lazy("Note"), required=False, max_length=2000, widget=forms.Textarea(attrs={"rows": 2}))

    def __init__(self, data: Any, *, today: date) -> None:
        super().__init__(data, initial={"day": today})
        self.today = today
