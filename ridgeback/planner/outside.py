"""The page of a pen or shed out of doors: its months, and on how many days of the year the animal is well there."""

from typing import Any

from django import forms
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods

from husbandry.assessment import Change, Measure
from husbandry.design.outdoors import NightHide, months, night_hide
from husbandry.plan.changes import added
from husbandry.plan.geometry import depth_of
from husbandry.plan.habitat import HabitatPlan, Outdoors
from husbandry.units import UnitError
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.language import rotawords, wording
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.planner.saving import save
from ridgeback.rooms.access import habitat_or_404
from ridgeback.units import KeeperUnits, written
from ridgeback.web import typed
from ridgeback.web.formfields import NumberField, written_by

LISTS = {"day_c": "degC", "night_c": "degC", "sun_kwh_m2": "1"}


class OutdoorsForm(forms.Form):
    """Twelve numbers a line, January first."""

    day_c = forms.CharField(label=gettext_lazy("Mean warmest of the day, by month"))
    night_c = forms.CharField(label=gettext_lazy("Mean coldest of the night, by month"))
    sun_kwh_m2 = forms.CharField(label=gettext_lazy("Sun on level ground, kWh/m² a day, by month"))
    sun_percent = NumberField(label=gettext_lazy("Share of it that gets in, %"), min_value=0, max_value=100, initial=50)
    latitude = NumberField(label=gettext_lazy("Latitude"), min_value=-66, max_value=66)

    def __init__(self, *args: Any, units: KeeperUnits, **more: Any) -> None:
        super().__init__(*args, **more)
        self.units = units
        written_by(self, units.decimal)
        self.numbers: dict[str, list[float]] = {}
        for name, unit in LISTS.items():
            self.fields[name].help_text = _("twelve, January first") + ("" if unit == "1" else f", {units.number(0.0, unit)[1]}")

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        for name, unit in LISTS.items():
            if name not in data:
                continue
            try:
                found = [self.units.read(text, unit) for text in typed.several(data[name])]
            except UnitError as error:
                self.add_error(name, wording.unread(error, error.parameters["text"]))
                continue
            if len(found) != 12:
                self.add_error(name, _("These are %(count)s; it takes twelve.") % {"count": len(found)})
            self.numbers[name] = [round(value, 3) for value in found]
        return data

    def change(self) -> Change:
        """The months as the plan keeps them."""
        data = self.cleaned_data
        return Change("outdoors", {**self.numbers, "sun_share": data["sun_percent"] / 100, "latitude_deg": data["latitude"]})


def _initial(outdoors: Outdoors | None, units: KeeperUnits) -> dict[str, Any]:
    if outdoors is None:
        return {}
    lists = {
        name: " ".join(units.number(value, unit, typed=True)[0] for value in getattr(outdoors, name))
        for name, unit in LISTS.items()
    }
    return {**lists, "sun_percent": 100 * outdoors.sun_share, "latitude": outdoors.latitude_deg}


def _offered(offered: NightHide, plan: HabitatPlan, units: KeeperUnits) -> dict[str, str]:
    """The heated hide that would do, in words."""
    hide = offered.hide
    return {
        "length": units.say(Measure(hide.length_m, "m")),
        "width": units.say(Measure(depth_of(plan, hide), "m")),
        "height": units.say(Measure(hide.height_m, "m")),
        "foam": units.say(Measure(hide.insulation_m, "m")),
        "watts": f"{hide.heated_w:.0f}",
        "set": units.say(Measure(hide.heated_to_c or 0.0, "degC")),
        "needs": f"{offered.needs_w:.0f}",
        "pen": f"{offered.pen_w:.0f}",
    }


@require_http_methods(["GET", "POST"])
def outdoors(request: HttpRequest, pk: int) -> HttpResponse:
    """The months of a pen or shed, and what they make of it."""
    habitat, units, today = habitat_or_404(request, pk), units_of(request.user), clock.today()
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    form = OutdoorsForm(request.POST or None, initial=_initial(plan.outdoors, units), units=units)
    taking_in = request.method == "POST" and request.POST.get("do") == "indoors"
    if request.method == "POST" and request.POST.get("do") == "hide":
        offered = night_hide(plan, profile, today, months(plan, profile, today))
        if offered is not None:
            more = added(plan, offered.hide.model_dump(mode="json"))
            save(request, pk, (more,), later(lambda: _("heated hide added")), worked_out=True)
        return redirect("planner:outdoors", pk=pk)
    if taking_in or (request.method == "POST" and form.is_valid()):
        change = Change("outdoors", None) if taking_in else form.change()
        save(request, pk, (change,), later(lambda: _("out of doors")))
        return redirect("planner:outdoors", pk=pk)
    found = months(plan, profile, today)
    rows = [
        {
            "name": rotawords.month(item.number),
            "light": written(item.light_h, ".1f"),
            "surface": units.say(Measure(item.surface_c, "degC")),
            "coldest": units.say(Measure(item.coldest_c, "degC")),
            "warm": f"{item.warm_days:.0f}",
            "cold": f"{item.cold_nights:.0f}",
            "hot": f"{item.too_hot_days:.0f}",
            "good": f"{item.good_days:.0f}",
            "share": round(100 * item.good_days / 31),
            "heat": f"{item.heat_w:.0f}" if item.heat_w >= 1 else "–",
            "hide": "" if item.hide_c is None else units.say(Measure(item.hide_c, "degC")),
            "hide_w": "" if item.hide_w is None else f"{item.hide_w:.0f}" if item.hide_w >= 1 else "–",
        }
        for item in found
    ]
    offered = night_hide(plan, profile, today, found)
    context = {
        "offered": None if offered is None else _offered(offered, plan, units),
        "hide": next((hide for hide in plan.hides if hide.heated_w is not None), None),
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "form": form,
        "rows": rows,
        "good": round(sum(item.good_days for item in found)),
        "warm": round(sum(item.warm_days for item in found)),
    }
    return render(request, "planner/outdoors.html", context, status=422 if form.errors else 200)
