"""What reports in a room: channels, the devices that carry them with their keys, and checking instruments."""

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods, require_POST

from husbandry.assessment import Measure
from husbandry.units import UnitError
from husbandry.upkeep.instruments import CHECKED_DAYS, How
from husbandry.upkeep.instruments import check as checked
from husbandry.upkeep.instruments import possible as possible_checks
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.models import Instrument
from ridgeback.daybook.writing import intent_of
from ridgeback.language import wording
from ridgeback.metering import charts, setting_up, shown
from ridgeback.metering.access import channel_or_404, device_or_404, instrument_or_404
from ridgeback.metering.actions import what_reports
from ridgeback.metering.actions.checks import keep_check
from ridgeback.planner import mapping
from ridgeback.rooms.access import habitats_to_see, keeper_of, room_or_404
from ridgeback.rooms.models import Habitat, Room
from ridgeback.series.models import Channel, Device
from ridgeback.series.places import PLACES
from ridgeback.units import KeeperUnits
from ridgeback.web import typed

HOW_WORDS = {
    How.ICE: gettext_lazy("in melting ice (0 °C)"),
    How.SALT: gettext_lazy("in a closed bag over damp table salt (75 %)"),
    How.BESIDE: gettext_lazy("beside another instrument"),
    How.WEIGHT: gettext_lazy("with something whose weight is known"),
}
KIND_UNITS = {
    "infrared": "degC", "thermometer": "degC", "hygrometer": "%", "uv-meter": "UVI", "scale": "kg",
}  # fmt: skip


class ChannelForm(forms.Form):
    """One thing that reports: from where, and what reads it."""

    source = forms.ChoiceField(label=gettext_lazy("What reports"))
    instrument = forms.ChoiceField(label=gettext_lazy("Read by"), required=False)
    label = forms.CharField(label=gettext_lazy("Its own name, if it needs one"), max_length=60, required=False)

    def __init__(self, *args: Any, sources: list[setting_up.Source], instruments: list[Instrument], **more: Any) -> None:
        super().__init__(*args, **more)
        self.sources = {source.key: source for source in sources}
        self.instruments = {str(item.pk): item for item in instruments}
        for name, choices in (
            ("source", [(source.key, source.words) for source in sources]),
            ("instrument", [("", _("not said")), *((key, item.name) for key, item in self.instruments.items())]),
        ):
            field = self.fields[name]
            assert isinstance(field, forms.ChoiceField)
            field.choices = choices

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        source, instrument = self.sources.get(data.get("source", "")), self.instruments.get(data.get("instrument", ""))
        if source is not None and instrument is not None and not setting_up.fits(instrument.kind, source):
            self.add_error("instrument", _("That cannot be read there: a surface takes infrared or a probe, air a thermometer."))
        return data


@require_http_methods(["GET", "POST"])
def channels(request: HttpRequest, pk: int) -> HttpResponse:
    """What reports in a room, and one more of a habitat or of the room."""
    room = room_or_404(request, pk)
    habitat = _habitat(request, room)
    form = None
    try:
        sources = setting_up.of_room() if habitat is None else setting_up.of_habitat(habitat)
    except mapping.UnreadablePlanError:
        sources = []
    instruments = list(room.instruments.all())
    if request.method == "POST":
        form = ChannelForm(request.POST, sources=sources, instruments=instruments)
        if form.is_valid():
            data, intent = form.cleaned_data, intent_of(request)
            source, read_by = form.sources[data["source"]], form.instruments.get(data["instrument"])
            made = what_reports.set_up(room, habitat, intent, source, read_by, data["label"])
            messages.success(request, _("Set up. Devices call it %(code)s.") % {"code": made.code})
            return redirect(_page(room, habitat))
    context = _context(request, room, habitat) | {
        "form": form or ChannelForm(sources=sources, instruments=instruments),
    }
    return render(request, "metering/channels.html", context, status=422 if form is not None and form.errors else 200)


def _habitat(request: HttpRequest, room: Room) -> Habitat | None:
    asked = typed.key(request.POST.get("habitat") or request.GET.get("habitat"))
    return habitats_to_see(keeper_of(request)).filter(pk=asked, room=room).first() if asked else None


def _page(room: Room, habitat: Habitat | None) -> str:
    return reverse("metering:channels", args=[room.pk]) + ("" if habitat is None else f"?habitat={habitat.pk}")


def _context(request: HttpRequest, room: Room, habitat: Habitat | None) -> dict[str, Any]:
    units, now = units_of(request.user), clock.now()
    found = Channel.objects.filter(room=room, ended_at__isnull=True).select_related("habitat", "instrument", "animal")
    rows = [_row(channel, units, now) for channel in found.order_by("habitat__name", "place", "pk")]
    habitats = habitats_to_see(keeper_of(request)).filter(room=room, set_aside_at__isnull=True).order_by("name")
    return {
        "room": room,
        "chosen": habitat,
        "habitats": list(habitats),
        "rows": rows,
        "devices": list(Device.objects.filter(room=room, revoked_at__isnull=True)),
        "instruments": [_instrument(item, now) for item in room.instruments.all()],
        "address": request.build_absolute_uri(reverse("series:readings")),
    }


def _row(channel: Channel, units: KeeperUnits, now: Any) -> dict[str, Any]:
    unit = PLACES[channel.place].unit
    minutes = None if channel.last_at is None else (now - channel.last_at).total_seconds() / 60
    name = charts.name_of(channel, None)
    if channel.place == "power":
        name = f"{name} {channel.heater + 1}"
    if channel.animal is not None:
        name = f"{name}: {channel.animal.called}"
    return {
        "channel": channel,
        "name": name,
        "value": "" if channel.last_value is None else units.say(Measure(channel.last_value, unit)),
        "ago": "" if minutes is None else shown.ago(minutes),
    }


def _instrument(item: Instrument, now: Any) -> dict[str, Any]:
    last = item.corrections.first()
    due = last is None or (now - last.at).days > CHECKED_DAYS
    return {"item": item, "last": last, "due": due, "can": item.kind in KIND_UNITS}


@require_POST
def end(request: HttpRequest, pk: int) -> HttpResponse:
    """End a channel: what it reported stays, nothing more is taken."""
    channel = channel_or_404(request, pk)
    what_reports.end_channel(channel, intent_of(request))
    messages.info(request, _("It reports no more; what it read stays."))
    return redirect(_page(channel.room, channel.habitat))


@require_POST
def new_device(request: HttpRequest, pk: int) -> HttpResponse:
    """Make a device, and show its key, once."""
    room, name = room_or_404(request, pk), request.POST.get("name", "").strip()[:60]
    device, key = what_reports.make_device(room.pk, intent_of(request), name)
    return _show_key(request, device, key)


@require_POST
def renew_key(request: HttpRequest, pk: int) -> HttpResponse:
    """Give a device another key; the old one is dead from now on."""
    device = device_or_404(request, pk)
    return _show_key(request, device, what_reports.renew_key(device, intent_of(request)))


def _show_key(request: HttpRequest, device: Device, key: str) -> HttpResponse:
    example = Channel.objects.filter(room=device.room_id, ended_at__isnull=True).order_by("pk").first()
    context = {
        "device": device,
        "room": device.room,
        "key": key,
        "code": example.code if example is not None else "warm-end",
        "moment": timezone.localtime(clock.now()).isoformat(timespec="seconds"),
        "address": request.build_absolute_uri(reverse("series:readings")),
    }
    answer = render(request, "metering/key.html", context)
    answer["Cache-Control"] = "no-store"
    return answer


@require_POST
def revoke(request: HttpRequest, pk: int) -> HttpResponse:
    """Take a device's key away."""
    device = device_or_404(request, pk)
    what_reports.revoke_device(device, intent_of(request))
    messages.info(request, _("Its key is dead: nothing more is taken from it."))
    return redirect(_page(device.room, None))


class CheckForm(forms.Form):
    """A check of an instrument: how, what it showed, and what was true."""

    how = forms.ChoiceField(label=gettext_lazy("How"))
    shown = forms.CharField(label=gettext_lazy("It shows"))
    beside = forms.ChoiceField(label=gettext_lazy("The other instrument"), required=False)
    true = forms.CharField(label=gettext_lazy("The other shows, or the known weight"), required=False)
    room_c = forms.CharField(label=gettext_lazy("Temperature of the bag"), required=False)

    def __init__(self, *args: Any, instrument: Instrument, others: list[Instrument], units: KeeperUnits, **more: Any) -> None:
        super().__init__(*args, **more)
        self.instrument, self.units, self.unit = instrument, units, KIND_UNITS[instrument.kind]
        self.others = {str(item.pk): item for item in others}
        hows = [how for how in possible_checks(self.unit) if how is not How.BESIDE or others]
        for name, choices in (
            ("how", [(how.value, HOW_WORDS[how]) for how in hows]),
            ("beside", [("", "–"), *((key, item.name) for key, item in self.others.items())]),
        ):
            field = self.fields[name]
            assert isinstance(field, forms.ChoiceField)
            field.choices = choices
        if How.SALT not in hows:
            del self.fields["room_c"]
        if not others:
            del self.fields["beside"]
        if not others and How.WEIGHT not in hows:
            del self.fields["true"]
        self.found: Any = None

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        shown = self._read("shown", self.unit)
        how = How(data["how"]) if data.get("how") else None
        if how is None or shown is None:
            return data
        true = sure = None
        room_c = self._read("room_c", "degC") if data.get("room_c") else 20.0
        if how in (How.BESIDE, How.WEIGHT):
            true = self._read("true", self.unit)
            other = self.others.get(data.get("beside", ""))
            if how is How.BESIDE and other is None:
                self.add_error("beside", _("Which one did it lie beside?"))
            if how is How.BESIDE and other is not None and true is not None:
                true, sure = true - other.reads_high, other.sure_to
        if not self.errors and (how in (How.ICE, How.SALT) or true is not None):
            self.found = checked(how, shown, self.unit, true=true, true_sure=sure or 0.0, room_c=room_c or 20.0), how, shown
        return data

    def _read(self, name: str, unit: str) -> float | None:
        text = self.cleaned_data.get(name, "")
        try:
            return self.units.read(text, unit)
        except UnitError as error:
            self.add_error(name, wording.unread(error, text) if text else _("Type what it shows."))
            return None


@require_http_methods(["GET", "POST"])
def check(request: HttpRequest, pk: int) -> HttpResponse:
    """Check an instrument; what it reads too high is taken off from now on."""
    instrument, units = instrument_or_404(request, pk), units_of(request.user)
    if instrument.kind not in KIND_UNITS:
        return redirect("daybook:instruments")
    others = [
        item for item in instrument.room.instruments.exclude(pk=pk) if KIND_UNITS.get(item.kind) == KIND_UNITS[instrument.kind]
    ]
    form = CheckForm(request.POST or None, instrument=instrument, others=others, units=units)
    if request.method == "POST" and form.is_valid() and form.found is not None:
        found, how, shown = form.found
        against = form.others.get(form.cleaned_data.get("beside", "")) if how is How.BESIDE else None
        keep_check(instrument, intent_of(request), found, how, shown, against)
        unit = "K" if form.unit == "degC" else form.unit
        high, sure = (units.say(Measure(value, unit)) for value in (found.reads_high, found.sure_to))
        messages.success(
            request,
            _("It reads %(high)s too high and is sure to %(sure)s; that is taken off from now on.") % {"high": high, "sure": sure},
        )
        return redirect("metering:channels", instrument.room_id)
    history = [
        {"row": row, "how": HOW_WORDS[How(row.how)]} for row in instrument.corrections.select_related("against", "author")[:20]
    ]
    context = {"instrument": instrument, "room": instrument.room, "form": form, "history": history, "unit": form.unit}
    return render(request, "metering/check.html", context, status=422 if form.errors else 200)
