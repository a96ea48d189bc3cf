"""The page of a room: what it has without its enclosures, how it holds warmth, and what it comes to with them."""

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext
from django.views.decorators.http import require_http_methods

from husbandry.assessment import SEASONS, Measure
from husbandry.units import UnitError
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import intent_of
from ridgeback.language import names, wording
from ridgeback.language.told import later
from ridgeback.planner import shared
from ridgeback.planner.actions.room_climate import keep_room, write_into_plans
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.units import KeeperUnits

SIDES = {"length_m": gettext_lazy("Length"), "width_m": gettext_lazy("Width"), "height_m": gettext_lazy("Height")}
OF_SEASON = {
    "day_c": (gettext_lazy("By day"), "degC"),
    "night_c": (gettext_lazy("By night"), "degC"),
    "humidity_percent": (gettext_lazy("Humidity"), "%"),
    "outside_c": (gettext_lazy("Out of doors, mean"), "degC"),
}
PLAUSIBLE = {"degC": (-40.0, 50.0), "%": (0.0, 100.0), "m": (0.5, 50.0)}


class RoomForm(forms.Form):
    """A room: its size, how it holds warmth, and what it has without its enclosures."""

    holds = forms.ChoiceField(label=gettext_lazy("It is"), choices=list(shared.HOLDS.items()), initial="flat")
    loss_w_k = forms.CharField(
        label=gettext_lazy("Watts that warm it by 1 °C"), help_text=gettext_lazy("if you have measured it"), required=False
    )
    changes = forms.ChoiceField(label=gettext_lazy("Air"), choices=list(shared.CHANGES.items()))
    heated = forms.BooleanField(label=gettext_lazy("Heated in the cold season"), required=False, initial=True)

    def __init__(self, *args: Any, units: KeeperUnits, **more: Any) -> None:
        super().__init__(*args, **more)
        self.units, self.numbers = units, dict[str, float]()
        self.units_by_name = {
            **dict.fromkeys(SIDES, "m"),
            **{f"{season}-{name}": unit for season in SEASONS for name, (_label, unit) in OF_SEASON.items()},
        }
        for name, unit in self.units_by_name.items():
            label = SIDES.get(name) or OF_SEASON[name.partition("-")[2]][0]
            self.fields[name] = forms.CharField(label=label, help_text=units.number(0.0, unit, typed=True)[1])

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        for name, unit in self.units_by_name.items():
            if name in data:
                self._number(name, data[name], unit, *PLAUSIBLE[unit])
        if data.get("loss_w_k"):
            self._number("loss_w_k", data["loss_w_k"], "1", 1.0, 2000.0)
        return data

    def _number(self, name: str, text: str, unit: str, low: float, high: float) -> None:
        try:
            value = self.units.read(text, unit)
        except UnitError as error:
            self.add_error(name, wording.unread(error, text))
            return
        if not low <= value <= high:
            self.add_error(name, _("That cannot be: was another unit meant?"))
        self.numbers[name] = round(value, 3)

    def kept(self) -> dict[str, Any]:
        """The room as it is kept."""
        data, numbers = self.cleaned_data, self.numbers
        return {
            **{name: numbers[name] for name in SIDES},
            "holds": data["holds"],
            "loss_w_k": numbers.get("loss_w_k"),
            "changes": data["changes"],
            "heated": data["heated"],
            **{season: {name: numbers[f"{season}-{name}"] for name in OF_SEASON} for season in SEASONS},
        }

    def groups(self) -> list[dict[str, Any]]:
        """The fields in their order: the room, then each season."""
        room = [self[name] for name in (*SIDES, "holds", "loss_w_k", "changes", "heated")]
        off = _("%(season)s, with the enclosures off")
        seasons = [
            {"title": off % {"season": names.SEASONS[season]}, "fields": [self[f"{season}-{name}"] for name in OF_SEASON]}
            for season in SEASONS
        ]
        return [{"title": _("The room"), "fields": room}, *seasons]


def _initial(kept: dict[str, Any] | None, found: shared.HabitatsInRoom, units: KeeperUnits) -> dict[str, Any]:
    """What is kept, else what the plans say of their room."""
    if kept is None:
        plan = found.plans[0] if found.plans else None
        if plan is None:
            return {}
        said = {season: getattr(plan.room, season) for season in SEASONS}
        return {
            f"{season}-{name}": units.number(getattr(room, name), OF_SEASON[name][1], typed=True)[0]
            for season, room in said.items()
            for name in ("day_c", "night_c", "humidity_percent")
        }
    sides = {name: units.number(kept[name], "m", typed=True)[0] for name in SIDES}
    of_seasons = {
        f"{season}-{name}": units.number(kept[season][name], unit, typed=True)[0]
        for season in SEASONS
        for name, (_label, unit) in OF_SEASON.items()
    }
    loss = "" if kept["loss_w_k"] is None else f"{kept['loss_w_k']:g}"
    return sides | of_seasons | {name: kept[name] for name in ("holds", "changes", "heated")} | {"loss_w_k": loss}


@require_http_methods(["GET", "POST"])
def room_climate(request: HttpRequest, pk: int) -> HttpResponse:
    """A room with its enclosures: asked, worked out, and written into their plans."""
    room, units = get_object_or_404(rooms_of(keeper_of(request)), pk=pk), units_of(request.user)
    found = shared.standing(room)
    writes = request.POST.get("do") == "write"
    form = RoomForm(
        request.POST if request.method == "POST" and not writes else None, initial=_initial(room.climate, found, units), units=units
    )
    if request.method == "POST" and not writes and form.is_valid():
        keep_room(pk, intent_of(request), form.kept())
        return redirect("planner:room", pk=pk)
    kept: dict[str, Any] = room.climate or {}
    made = shared.answers(kept, found) if kept and not form.errors else {}
    changes = {
        habitat.pk: change
        for habitat, plan in zip(found.habitats, found.plans, strict=True)
        if (change := shared.changes_of(plan, made))
    }
    if writes:
        written = write_into_plans(pk, intent_of(request), changes, later(lambda: _("the room with its enclosures")))
        said = ngettext("%(n)s plan now has this room.", "%(n)s plans now have this room.", written)
        messages.success(request, said % {"n": written})
        return redirect("planner:room", pk=pk)
    context = {
        "room": room,
        "form": form,
        "found": found,
        "count": len(found.plans),
        "rows": shared.rows(kept, made, units) if made else [],
        "largest": shared.largest(found, made) if made else [],
        "watts": {season: f"{item.watts:.0f}" for season, item in made.items()},
        "saved": f"{made['winter'].saved_w:.0f}" if made and kept["heated"] else "",
        "water": units.say(Measure(0.024 * made["summer"].water_g_h, "kg")) if made else "",
        "differ": len(changes),
    }
    return render(request, "planner/room.html", context, status=422 if form.errors else 200)
