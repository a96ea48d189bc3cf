"""The page of a habitat's readings."""

from datetime import datetime
from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import formats, timezone
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods, require_POST

from husbandry.assessment import Change, Measure
from husbandry.plan.habitat import HabitatPlan
from husbandry.units import UnitError
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.actions.readings import Shown, forget_reading, take_reading
from ridgeback.daybook.models import Instrument
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.language import placewords, wording
from ridgeback.language.told import later
from ridgeback.planner import counted, mapping, readings, revisions
from ridgeback.planner.readings import Taken
from ridgeback.planner.reported import reported
from ridgeback.planner.saving import save
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits, written
from ridgeback.web import typed

# What can be read at all, by unit: beyond that a slip of the unit or the finger.
PLAUSIBLE = {"degC": (-10.0, 90.0), "%": (0.0, 100.0), "UVI": (0.0, 30.0)}
MOST_WAIT_DAYS = 366
SURE = ("so", "off")  # how a doubted reading is kept: it is so, or the lamps were off
DOUBTS = {
    "lamps_off": gettext_lazy("By the plan the lamps are off at %(clock)s. Did they burn when %(value)s was read?"),
    "far_from_others": gettext_lazy("The last readings here say %(against)s (%(place)s). Is %(value)s so?"),
    "far_from_plan": gettext_lazy("At this time the plan expects about %(against)s here (%(place)s). Is %(value)s so?"),
}


class ReadingForm(forms.Form):
    """One reading: where, when, by what, and the room beside it."""

    place = forms.ChoiceField(label=gettext_lazy("Where"))
    instrument = forms.ChoiceField(label=gettext_lazy("Read by"))
    value = forms.CharField(label=gettext_lazy("Shows"))
    at = forms.DateTimeField(
        label=gettext_lazy("When"), widget=forms.DateTimeInput(attrs={"type": "datetime-local"}, format="%Y-%m-%dT%H:%M")
    )
    room_c = forms.CharField(label=gettext_lazy("Room beside it"))
    room_percent = forms.CharField(label=gettext_lazy("Room humidity"))

    def __init__(
        self, *args: Any, places: list[tuple[str, Any]], instruments: list[Instrument], units: KeeperUnits, **more: Any
    ) -> None:
        super().__init__(*args, **more)
        self.units, self.instruments = units, {str(item.pk): item for item in instruments}
        for name, choices in (("place", places), ("instrument", [(str(item.pk), item.name) for item in instruments])):
            field = self.fields[name]
            assert isinstance(field, forms.ChoiceField)
            field.choices = choices
        self.fields["room_c"].help_text = units.number(0.0, "degC")[1]
        self.numbers: dict[str, float] = {}

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        place, at = data.get("place"), data.get("at")
        instrument = self.instruments.get(data.get("instrument", ""))
        place = placewords.OWN if place and place.startswith(f"{placewords.OWN}-") else place
        if place and instrument is not None and not readings.fits(instrument, place):
            self.add_error("instrument", _("That cannot be read there: a surface takes infrared, air a thermometer."))
        if at is not None and not 0 <= (clock.now() - at).total_seconds() <= MOST_WAIT_DAYS * 86_400:
            self.add_error("at", _("A reading is taken today or within the last year."))
        wanted = {"value": readings.unit_of(place) if place else "degC", "room_c": "degC", "room_percent": "%"}
        for name, unit in wanted.items():
            if name in data:
                self._number(name, data[name], unit)
        return data

    def _number(self, name: str, text: str, unit: str) -> None:
        try:
            value = self.units.read(text, unit)
        except UnitError as error:
            self.add_error(name, wording.unread(error, text))
            return
        low, high = PLAUSIBLE[unit]
        if not low <= value <= high:
            self.add_error(name, _("That cannot be: was another unit meant?"))
        self.numbers[name] = value


def all_readings(habitat: Habitat, plan: HabitatPlan) -> list[Taken]:
    """What was read by hand, newest first, and what instruments reported over days."""
    return [*readings.of_habitat(habitat), *reported(habitat, plan, clock.now())]


def _usual(instruments: list[Instrument], taken: list[Taken]) -> str:
    """The instrument that was read by hand last, else one for surfaces."""
    last = next((item.by for item in taken if not item.days), "")
    found = [item for item in instruments if item.name == last] or [item for item in instruments if item.kind == "infrared"]
    return str(found[0].pk) if found else ""


def _context(habitat: Habitat, request: HttpRequest, form: ReadingForm | None = None) -> dict[str, Any]:
    units, today = units_of(request.user), clock.today()
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    taken = all_readings(habitat, plan)
    instruments = list(habitat.room.instruments.all())
    learnt, uv = readings.learn(plan, profile, taken, today)
    said = iter(zip(learnt.before, learnt.after, range(len(learnt.before)), strict=True)) if learnt else iter(())
    known = tuple(place for place, _name in readings.places(plan))
    rows = []
    for item in taken:
        numbers = readings.said(item, units)
        before, after, questioned = "", "", False
        if item.place != placewords.UV_BACK and readings.teaches(item, known) and learnt:
            *pair, at = next(said)
            before, after = (units.number(value, item.unit)[0] for value in pair)
            questioned = at in learnt.questioned
        told = {"taken": item, "place": item.place_name, "before": before, "after": after}
        rows.append(told | numbers | {"questioned": questioned})
    newest = next((item for item in taken if not item.days), None)
    initial = {
        "at": timezone.localtime(clock.now()),
        "instrument": _usual(instruments, taken),
        "room_c": units.number(newest.room_c, "degC", typed=True)[0] if newest else "",
        "room_percent": f"{newest.room_percent:g}" if newest else "",
    }
    form = form or ReadingForm(initial=initial, places=readings.places(plan), instruments=instruments, units=units)
    return {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "form": form,
        "instruments": instruments,
        "rows": rows,
        "reports": any(item.days for item in taken),
        "learnt": readings.learnt_rows(learnt) if learnt else [],
        "untouched": readings.untouched(learnt) if learnt else [],
        "wanted": readings.wanted_words(learnt, plan) if learnt else [],
        "uv": None if uv is None else {"factor": written(uv[0], ".2f"), "left": f"{100 * uv[1]:.0f}"},
        "calibration": plan.calibration,
        "moved_on": plan.calibration is None or plan.calibration.readings != len(taken),
    }


@require_http_methods(["GET", "POST"])
def of_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """What was read here, what the plan says of it, and one more reading."""
    habitat = habitat_or_404(request, pk)
    if request.method != "POST":
        return render(request, "planner/readings.html", _context(habitat, request))
    plan, units = mapping.plan_of(habitat), units_of(request.user)
    instruments = list(habitat.room.instruments.all())
    form = ReadingForm(request.POST, places=readings.places(plan), instruments=instruments, units=units)
    if not form.is_valid():
        return render(request, "planner/readings.html", _context(habitat, request, form), status=422)
    instrument = form.instruments[form.cleaned_data["instrument"]]
    at: datetime = form.cleaned_data["at"]
    sure, (place, spot) = request.POST.get("sure", ""), readings.place_and_spot(plan, form.cleaned_data["place"])
    if sure not in SURE:
        value, room = form.numbers["value"] - instrument.reads_high, (form.numbers["room_c"], form.numbers["room_percent"])
        local = timezone.localtime(at)
        code, against = counted.doubt(readings.of_habitat(habitat), plan, (place, spot), local, value, room)
        if code:
            context = _context(habitat, request, form) | {"doubt": _asked(code, local, (place, spot), value, against, units)}
            return render(request, "planner/readings.html", context, status=422)
    take_reading(pk, intent_of(request), at, instrument, Shown(place, lamps_off=sure == "off", spot=spot, **form.numbers))
    return redirect("planner:readings", pk=pk)


def _asked(
    code: str, at: datetime, at_place: tuple[str, readings.Spot | None], value: float, against: float | None, units: KeeperUnits
) -> str:
    """The question about a reading that is doubted."""
    place, spot = at_place
    unit = readings.unit_of(place)
    told = {
        "place": placewords.PLACE_NAMES[place] if spot is None else spot.name,
        "value": units.say(Measure(value, unit)),
        "against": units.say(Measure(against or 0.0, unit)),
        "clock": formats.time_format(at, "H:i"),
    }
    return str(DOUBTS[code] % told)


@require_POST
def forget(request: HttpRequest, pk: int) -> HttpResponse:
    """Take one reading out of the log."""
    habitat_or_404(request, pk)
    forget_reading(pk, intent_of(request), typed.key(request.POST.get("reading")))
    return redirect("planner:readings", pk=pk)


@require_POST
def by_itself(request: HttpRequest, pk: int) -> HttpResponse:
    """Let the plan learn anew each night from what its instruments report, or no more."""
    habitat = habitat_or_404(request, pk)
    with writing(intent_of(request), [habitat.pk]) as habitats:
        wanted = habitats[pk]
        wanted.learns_by_itself = request.POST.get("do") == "on"
        wanted.save(update_fields=["learns_by_itself"])
    said = _("It learns anew each night from what is reported.") if wanted.learns_by_itself else _("It learns no more by itself.")
    messages.info(request, said)
    return redirect("planner:readings", pk=pk)


@require_POST
def learn(request: HttpRequest, pk: int) -> HttpResponse:
    """Let the plan go by its readings, or by the book alone again."""
    habitat, today = habitat_or_404(request, pk), clock.today()
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    if request.POST.get("do") == "forget":
        change, label = Change("calibration", None), later(lambda: _("calibration taken back"))
    else:
        taken = all_readings(habitat, plan)
        if not taken:
            return redirect("planner:readings", pk=pk)
        change = readings.change(*readings.learn(plan, profile, taken, today), len(taken), today)
        label = later(lambda: _("calibrated by readings"))
    save(request, pk, (change,), label)
    return redirect("planner:readings", pk=pk)
