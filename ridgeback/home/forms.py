"""The form that begins a habitat."""

from datetime import date, timedelta
from typing import Any

from django import forms
from django.urls import reverse
from django.utils.translation import gettext_lazy as _
from pydantic import ValidationError

from husbandry.design.first_proposal import LONGEST_SIDE_M
from husbandry.plan.habitat import Animal, RoomCase, RoomClimate
from husbandry.plan.reading import problem_of
from husbandry.species.stages import OLDEST_YEARS
from husbandry.units import DAYS_A_MONTH, UnitError
from ridgeback.book import profiles
from ridgeback.home import choosing
from ridgeback.language import wording
from ridgeback.language.names import CHOICES
from ridgeback.rooms.models import Room
from ridgeback.units import KeeperUnits, three_sizes
from ridgeback.web.formfields import DayField, WholeField, written_by

SMALLEST_M = 0.15
# What the fields of the form are called in the plan, with their SI unit.
ROOM_FIELDS = {
    "summer_day": ("summer", "day_c", 25.0),
    "summer_night": ("summer", "night_c", 21.0),
    "summer_humidity": ("summer", "humidity_percent", 55.0),
    "winter_day": ("winter", "day_c", 20.0),
    "winter_night": ("winter", "night_c", 16.0),
    "winter_humidity": ("winter", "humidity_percent", 45.0),
}


def _before(today: date, months: float) -> date | None:
    """The day so many months ago; None where there is no such day."""
    try:
        return today - timedelta(days=round(months * DAYS_A_MONTH))
    except OverflowError:
        return None


class NewHabitat(forms.Form):
    """Species, animal and room. Quantities are typed in either system."""

    find = forms.CharField(label=_("Find it by any name"), required=False, max_length=60)
    room = forms.ChoiceField(label=_("Room"))
    name = forms.CharField(label=_("Habitat's name"), max_length=80)
    species = forms.ChoiceField(label=_("Species"))
    animal_name = forms.CharField(label=_("Animal's name"), max_length=80, required=False)
    sex = forms.ChoiceField(label=_("Sex"), choices=list(CHOICES["sex"].items()), initial="unknown")
    hatched = DayField(label=_("Hatched"), required=False)
    age = forms.CharField(label=_("or its age"), required=False, help_text=_("“8 months”, “3 years”"))
    mass = forms.CharField(label=_("Weight"), required=False)
    length = forms.CharField(label=_("Length"), required=False)
    count = WholeField(label=_("How many"), min_value=1, max_value=50, initial=1, required=False)
    box = forms.CharField(
        label=_("An enclosure I have"), required=False, help_text=_("inside, as in “90 × 45 × 45”; empty: the recommended size")
    )
    summer_day = forms.CharField(label=_("Summer day"))
    summer_night = forms.CharField(label=_("Summer night"))
    summer_humidity = forms.CharField(label=_("Summer humidity"))
    winter_day = forms.CharField(label=_("Winter day"))
    winter_night = forms.CharField(label=_("Winter night"))
    winter_humidity = forms.CharField(label=_("Winter humidity"))

    def __init__(self, *args: Any, rooms: list[Room], units: KeeperUnits, today: date, **more: Any) -> None:
        super().__init__(*args, **more)
        self.units, self.today, self.room_ids = units, today, [room.pk for room in rooms]
        written_by(self, units.decimal)
        rooms_field, species_field = self.fields["room"], self.fields["species"]
        assert isinstance(rooms_field, forms.ChoiceField)
        assert isinstance(species_field, forms.ChoiceField)
        rooms_field.choices = [(str(room.pk), room.name) for room in rooms]
        species_field.widget.attrs["data-finds"] = reverse("rooms:find-species")
        species_field.choices = [("", str(_("choose…"))), *profiles.choices([room.pk for room in rooms])]
        for name, (_season, key, usual) in ROOM_FIELDS.items():
            number, symbol = units.number(usual, "%" if key == "humidity_percent" else "degC", typed=True)
            self.fields[name].initial = f"{number} {symbol}"
        self.fields["mass"].help_text = units.number(0.1, "kg", typed=True)[1]
        measures = _("snout to vent; of a snake the whole, of a tortoise or turtle the shell")
        self.fields["length"].help_text = f"{units.number(0.1, 'm', typed=True)[1]}, {measures}"
        self._parsed: dict[str, float | None] = {}
        self.sides_m: tuple[float, float, float] | None = None

    def clean(self) -> dict[str, Any]:
        data: dict[str, Any] = super().clean() or {}
        self._found_by_name(data)
        units = {"mass": "kg", "length": "m", "age": "months"}
        for name, (_season, key, _usual) in ROOM_FIELDS.items():
            units[name] = "%" if key == "humidity_percent" else "degC"
        for name, unit in units.items():
            text = (data.get(name) or "").strip()
            try:
                self._parsed[name] = self.units.read(text, unit) if text else None
            except UnitError as error:
                self.add_error(name, wording.unread(error, text))
        try:
            self.sides_m = three_sizes(data["box"], self.units) if (data.get("box") or "").strip() else None
        except UnitError as error:
            two = wording.unread(error, data["box"]) if error.code == "two_meanings" else ""
            self.add_error("box", two or _("Three sizes, as in “90 × 45 × 45” or “3 ft x 18 in x 18 in”."))
        if self.sides_m is not None and not all(SMALLEST_M <= side <= LONGEST_SIDE_M for side in self.sides_m):
            self.add_error("box", _("No enclosure is of that size. Is the unit right?"))
        hatched = data.get("hatched")
        if hatched is not None and hatched > self.today:
            self.add_error("hatched", _("That is still to come."))
        self._check_age(data.get("species") or "", hatched)
        if not self.errors:
            self._check(Animal, {"mass": "mass_kg", "length": "length_m"}, self._animal_data)
            for season in ("summer", "winter"):
                named = {name: key for name, (where, key, _usual) in ROOM_FIELDS.items() if where == season}
                self._check(RoomCase, named, lambda season=season: self._room_data(season))
        return data

    def _found_by_name(self, data: dict[str, Any]) -> None:
        """A name typed where none was chosen: taken where it means one species, else told what it may mean."""
        sought = (data.get("find") or "").strip()
        if data.get("species") or not sought:
            return
        hits = choosing.found(self.room_ids, sought)
        self.errors.pop("species", None)
        if len(hits) == 1:
            data["species"] = hits[0][0]
        elif hits:
            called = ", ".join(name for _species, name in hits[:6])
            self.add_error(
                "species", _("“%(query)s” may be one of these: %(names)s. Choose it.") % {"query": sought, "names": called}
            )
        else:
            self.add_error("species", choosing.none_found(sought))

    def so_far(self) -> Animal | None:
        """The animal as far as it is typed and can be read; None where that is no animal."""
        self.is_valid()
        data = self.cleaned_data
        hatched, age = data.get("hatched"), self._parsed.get("age")
        if hatched is None and age is not None and age >= 0:
            hatched = _before(self.today, age)
        told = {
            "sex": data.get("sex") or "unknown",
            "hatched": hatched if hatched is None or hatched <= self.today else None,
            "mass_kg": self._parsed.get("mass"),
            "length_m": self._parsed.get("length"),
            "count": data.get("count") or 1,
        }
        try:
            return Animal.model_validate(told)
        except (ValidationError, OverflowError):
            return None

    def _check_age(self, species: str, hatched: date | None) -> None:
        """An age nobody of its kind has, or none yet."""
        months, name = self._parsed.get("age"), "age"
        if hatched is not None:
            months, name = (self.today - hatched).days / DAYS_A_MONTH, "hatched"
        if months is None:
            return
        room = self.cleaned_data.get("room")
        group = profiles.current(int(room), species)[0].group if species and room else "tortoise"
        if months < 0 and name == "age":
            self.add_error("age", _("An age cannot be negative. Is it yet to hatch?"))
        elif months > 12 * OLDEST_YEARS[group]:
            self.add_error(name, _("None of its kind is known to have reached %(years)s years.") % {"years": OLDEST_YEARS[group]})

    def _check(self, model: Any, named: dict[str, str], make: Any) -> None:
        """Validate a part of the plan and bring its faults back to the form's fields."""
        try:
            model.model_validate(make())
        except ValidationError as error:
            by_path = {key: name for name, key in named.items()}
            for item in error.errors(include_url=False):
                problem = problem_of(item)
                self.add_error(by_path.get(problem.path), wording.problem(problem, self.units))

    def _animal_data(self) -> dict[str, Any]:
        data = self.cleaned_data
        hatched, age = data.get("hatched"), self._parsed.get("age")
        estimated = hatched is None and age is not None
        if estimated and age is not None:
            hatched = _before(self.today, age)
        return {
            "name": data["animal_name"],
            "sex": data["sex"],
            "hatched": hatched,
            "hatched_is_estimate": estimated,
            "mass_kg": self._parsed.get("mass"),
            "length_m": self._parsed.get("length"),
            "count": data.get("count") or 1,
        }

    def _room_data(self, season: str) -> dict[str, Any]:
        return {key: self._parsed[name] for name, (where, key, _usual) in ROOM_FIELDS.items() if where == season}

    def animal(self) -> Animal:
        """The animal of a valid form."""
        return Animal.model_validate(self._animal_data())

    def climate(self) -> RoomClimate:
        """The room's climate of a valid form."""
        return RoomClimate.model_validate({"summer": self._room_data("summer"), "winter": self._room_data("winter")})
