"""The page of instruments: what a room measures with, and what each reads too high."""

from typing import Any, Final

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods, require_POST

from husbandry.numerals import Decimal
from ridgeback.accounts.context import units_of
from ridgeback.daybook.models import Instrument
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.web import typed
from ridgeback.web.formfields import NumberField, written_by

KIND_NAMES: Final = {
    "infrared": gettext_lazy("infrared thermometer: surfaces only"),
    "thermometer": gettext_lazy("thermometer: air and water"),
    "hygrometer": gettext_lazy("hygrometer"),
    "uv-meter": gettext_lazy("UV index meter"),
    "scale": gettext_lazy("scale"),
    "plug": gettext_lazy("plug that measures power"),
    "mister": gettext_lazy("mister that tells what it gave"),
}


# What an instrument's error is told in.
UNITS: Final = {"infrared": "K", "thermometer": "K", "hygrometer": "%", "uv-meter": "UVI", "scale": "1", "plug": "1", "mister": "1"}


class InstrumentForm(forms.ModelForm):
    """An instrument and its error, in the unit of what it reads."""

    reads_high = NumberField(label=gettext_lazy("Reads too high by"), min_value=-50, max_value=50, initial=0)
    sure_to = NumberField(label=gettext_lazy("Sure to ±"), min_value=0.001, max_value=50, initial=0.5)

    class Meta:
        model = Instrument
        fields = ("name", "kind", "reads_high", "sure_to")
        labels = {
            "name": gettext_lazy("Name"),
            "kind": gettext_lazy("Kind"),
        }

    def __init__(self, *args: Any, decimal: Decimal = "", **more: Any) -> None:
        super().__init__(*args, **more)
        written_by(self, decimal)
        field = self.fields["kind"]
        assert isinstance(field, forms.ChoiceField)
        field.choices = list(KIND_NAMES.items())
        for name in ("reads_high", "sure_to"):
            typed_field = self.fields[name]
            assert isinstance(typed_field, NumberField)
            typed_field.unit = UNITS.get(self.data.get("kind", ""), "1")
            typed_field.help_text = _("in its own unit: °C, %, index or g")


@require_http_methods(["GET", "POST"])
def instruments(request: HttpRequest) -> HttpResponse:
    """The instruments of the keeper's rooms, and one more."""
    keeper = keeper_of(request)
    rooms = list(rooms_of(keeper))
    form = InstrumentForm(request.POST or None, decimal=units_of(keeper).decimal)
    if request.method == "POST":
        room = get_object_or_404(rooms_of(keeper), pk=typed.key(request.POST.get("room")))
        form.instance.room = room
        if form.is_valid():
            with writing(intent_of(request), room=room.pk):
                if not room.instruments.filter(name=form.cleaned_data["name"]).exists():
                    form.save()
                    return redirect("daybook:instruments")
        if form.is_valid():
            form.add_error("name", _("There is one of this name already."))
    shown = [{"room": room, "instruments": list(room.instruments.all())} for room in rooms]
    context = {"rooms": shown, "form": form, "kinds": KIND_NAMES}
    return render(request, "daybook/instruments.html", context, status=422 if form.errors else 200)


@require_POST
def correct(request: HttpRequest, pk: int) -> HttpResponse:
    """Change an instrument's error from now on; readings keep the one they were taken with."""
    instrument = get_object_or_404(Instrument, pk=pk, room__in=rooms_of(keeper_of(request)))
    form = InstrumentForm(request.POST, instance=instrument, decimal=units_of(request.user).decimal)
    if form.is_valid():
        with writing(intent_of(request), room=instrument.room_id):
            form.save()
    else:
        messages.error(request, " ".join(str(error) for errors in form.errors.values() for error in errors))
    return redirect("daybook:instruments")
