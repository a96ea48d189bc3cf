"""The form of an entry, made from what its kind may hold; what is typed is read in the keeper's units."""

from datetime import date, datetime, time
from typing import Any, Final

from django import forms
from django.utils import timezone
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.numerals import NumberError
from husbandry.units import UnitError
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Refused
from ridgeback.language import entrywords, wording
from ridgeback.refusals import words_of
from ridgeback.units import KeeperUnits
from ridgeback.web.formfields import DayField, WholeField, written_by
from ridgeback.web.typed import clock_time

# What is read in the keeper's own unit, and the SI unit it is kept in.
UNITS: Final = {"mass_kg": "kg", "tare_kg": "kg", "length_m": "m", "incubator_c": "degC", "spread_c": "K"}
WHOLE: Final = ("score", "days_after", "every_days", "eggs", "good")
Offers = dict[str, list[tuple[str, str]]]
YES: Final = ("sample", "looked_over", "left_in_place", "treated")
MANY: Final = ("stuck", "seen", "sound")


# Which field a refusal is about, where a form asks for it.
AT_FIELD: Final = {
    "back_before_it_left": "day",
    "moved_before_it_came": "day",
    "before_it_hatched": "day",
    "hatched_after_it_came": "hatched",
}


def at_its_field(form: forms.Form, refused: Refused) -> None:
    """Say at its field what was refused, with all that was typed. Raises what is of no field: it is answered as everywhere."""
    field = AT_FIELD.get(refused.code, "")
    if field not in form.fields:
        raise refused
    form.add_error(field, words_of(refused))


class Quantity(forms.Field):
    """A number with the keeper's unit, or one of its own ("3 oz"), kept in SI."""

    def __init__(self, units: KeeperUnits, si: str, **more: Any) -> None:
        super().__init__(widget=forms.TextInput(attrs={"inputmode": "decimal", "size": 8, "autocomplete": "off"}), **more)
        self.units, self.si = units, si

    def to_python(self, value: Any) -> float | None:
        text = str(value or "").strip()
        if not text:
            return None
        try:
            return round(self.units.read(text, self.si), 7)
        except UnitError as error:
            raise forms.ValidationError(wording.unread(error, text)) from None

    def prepare_value(self, value: Any) -> Any:
        return value if value is None or isinstance(value, str) else self.units.number(value, self.si, typed=True)[0]


class Moment(forms.Form):
    """When something happened, and a note."""

    day = DayField(label=gettext_lazy("Day"))
    time = forms.CharField(
        label=gettext_lazy("Time"), max_length=12, required=False, widget=forms.TextInput(attrs={"size": 6, "autocomplete": "off"})
    )
    note = forms.CharField(label=gettext_lazy("Note"), required=False, max_length=2000, widget=forms.Textarea(attrs={"rows": 2}))

    def __init__(self, data: Any, *, now: datetime, initial: dict[str, Any]) -> None:
        super().__init__(data, initial=initial)
        self.now = now

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if data.get("day") and "time" in data and self.at() > self.now:
            self.add_error("day", _("That is still to come."))
        return data

    def at(self) -> datetime:
        """When it happened: the day and the time that were typed; without a time noon, or now where that is today."""
        data = self.cleaned_data
        then = timezone.localtime(self.now)
        if not data.get("time"):
            return self.now if data["day"] == then.date() else _moment(data["day"], 12, 0)
        hour = clock_time(data["time"])
        made = _moment(data["day"], hour.hour, hour.minute)
        # The minute that is running counts as now.
        return min(made, self.now) if (made - self.now).total_seconds() < 60 else made

    def clean_time(self) -> str:
        text = str(self.cleaned_data.get("time") or "").strip()
        if text:
            try:
                clock_time(text)
            except NumberError as error:
                raise forms.ValidationError(wording.unread(error, text)) from None
        return text


class EntryForm(Moment):
    """The fields of one kind of entry, when it happened, and a note.

    It `corrects` an entry that stands, or begins a new one. What the fields of a partner, a clutch and a part choose from are
    `offers`, by the field's name: (value, words).
    """

    def __init__(
        self,
        data: Any,
        *,
        kind: str,
        units: KeeperUnits,
        now: datetime,
        corrects: Event | None = None,
        offers: Offers | None = None,
    ) -> None:
        self.kind, self.units = kind, units
        then = timezone.localtime(now if corrects is None else corrects.at)
        begin = entries.KINDS[kind].model_validate(corrects.payload).model_dump() if corrects and corrects.payload else {}
        super().__init__(data, now=now, initial=begin | {"day": then.date(), "time": then.strftime("%H:%M")})
        choose = {name: list((offers or {}).get(name, ())) for name in ("partner", "clutch", "part")}
        own = {
            name: self._field(name, needed=field.is_required(), choose=choose)
            for name, field in entries.KINDS[kind].model_fields.items()
            if name != "note"
        }
        self.fields = own | self.fields
        written_by(self, units.decimal)

    def _field(self, name: str, *, needed: bool, choose: dict[str, list[tuple[str, str]]]) -> forms.Field:
        label = entrywords.FIELDS[name]
        if name in UNITS:
            field: forms.Field = Quantity(self.units, UNITS[name], label=label, required=needed)
            field.help_text = self.units.number(1.0, UNITS[name], typed=True)[1]
            return field
        if name in YES:
            return forms.BooleanField(label=label, required=False)
        if name in WHOLE:
            return WholeField(label=label, required=needed)
        if name in ("minutes", "incubator_percent"):
            return Quantity(self.units, "1", label=label, required=needed)
        if name == "until":
            return DayField(label=label, required=False)
        if name in choose:
            given = choose[name]
            blank = [] if needed else [("", _("not told"))]
            return forms.ChoiceField(label=label, choices=[*blank, *given], required=needed)
        codes = entries.choices_of(self.kind, name)
        if codes:
            said = [(code, entrywords.choice(self.kind, name, code)) for code in codes]
            if name in MANY:
                return forms.MultipleChoiceField(label=label, choices=said, required=False, widget=forms.CheckboxSelectMultiple)
            return forms.ChoiceField(label=label, choices=said, required=needed)
        return forms.CharField(label=label, max_length=200, required=needed)

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        if self.kind == Event.Kind.WEIGHED and data.get("mass_kg") and data.get("tare_kg"):
            # What the scale showed with the tub on it.
            net = data["mass_kg"] - data["tare_kg"]
            if net <= 0:
                self.add_error("tare_kg", _("The tub cannot weigh as much as all of it."))
            data["mass_kg"] = round(net, 7)
        return data

    def payload(self) -> dict[str, Any]:
        """What is kept of it; what was left open is left out."""
        names = entries.KINDS[self.kind].model_fields
        kept = {name: value for name, value in self.cleaned_data.items() if name in names and value not in (None, "", [], False)}
        return {name: value.isoformat() if hasattr(value, "isoformat") else value for name, value in kept.items()}


def _moment(on: date, hour: int, minute: int) -> datetime:
    return timezone.make_aware(datetime.combine(on, time(hour, minute)))
