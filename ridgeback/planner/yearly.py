"""The page of the year: the light as a strip, the timer's turns as dates, a winter rest with its last meal."""

from datetime import date
from typing import Any, Final

from django import forms
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods

from husbandry.animal.year import YearPlan, empty_after, latitude_of, never_rests, rest_of, terms_of, usual_cooling, year_plan
from husbandry.assess.assess import Depth, Records, assess
from husbandry.assessment import Change, Measure
from husbandry.plan.habitat import Cooling, HabitatPlan, Year
from husbandry.species.profile import Profile
from husbandry.units import clock_text
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.asking import Question
from ridgeback.drawing.numbers import plain
from ridgeback.language import dates
from ridgeback.language.told import later
from ridgeback.planner import growing, mapping, revisions
from ridgeback.planner.saving import save
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat
from ridgeback.units import written
from ridgeback.web.formfields import DayField, NumberField, WholeField, written_by

OF_REST: Final = ("rests", "begins", "down_weeks", "rest_weeks", "up_weeks")
OWN_DAYS: Final = 12  # lengths of day by dates, as many as a plan takes
SHOWN_DAYS: Final = 4  # of them, at the least
WIDTH, HEIGHT = 1080.0, 210.0
LEFT, RIGHT, TOP, BOTTOM = 40.0, 12.0, 22.0, 22.0
MODES: Final = {
    "fixed": gettext_lazy("the same all year"),
    "latitude": gettext_lazy("as where I live"),
    "native": gettext_lazy("as in its native range"),
    "dates": gettext_lazy("by dates of my own"),
}


MUST_NOT: Final = {
    "diet.no_rest_known": gettext_lazy("The book does not say whether its kind may be cooled."),
    "diet.no_rest_when_thin": gettext_lazy("It is thin, and a thin animal is not cooled."),
    "diet.no_rest_when_young": gettext_lazy("It is not grown yet, and a young animal is not cooled."),
    "diet.no_rest_when_new": gettext_lazy("It came less than half a year ago, and nobody knows yet what it carries."),
}


class YearForm(forms.Form):
    """How the light goes through the year, and a winter rest or none."""

    mode = forms.ChoiceField(label=gettext_lazy("Light"), choices=list(MODES.items()))
    latitude = NumberField(
        label=gettext_lazy("Latitude where you live"),
        help_text=gettext_lazy("south of the equator below zero: it turns the seasons round"),
        required=False,
        min_value=-66,
        max_value=66,
    )
    rest_possible = True
    rests = forms.BooleanField(label=gettext_lazy("A winter rest"), required=False)
    begins = DayField(label=gettext_lazy("Warmth falls from"), required=False)
    down_weeks = WholeField(label=gettext_lazy("Weeks down"), required=False, min_value=1, max_value=8)
    rest_weeks = WholeField(label=gettext_lazy("Weeks of rest"), required=False, min_value=1, max_value=26)
    up_weeks = WholeField(label=gettext_lazy("Weeks up"), required=False, min_value=1, max_value=8)

    def __init__(self, *given: Any, **more: Any) -> None:
        super().__init__(*given, **more)
        for row in range(OWN_DAYS):
            self.fields[f"since_{row}"] = DayField(label=_("From"), required=False)
            hours = NumberField(label=_("Hours of light"), unit="h", required=False, min_value=0, max_value=24)
            self.fields[f"hours_{row}"] = hours

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        self._clean_days(data)
        if data.get("mode") == "latitude" and data.get("latitude") is None:
            self.add_error("latitude", _("At which latitude? North of the equator is positive, south is negative."))
        if data.get("rests"):
            for name in ("begins", "down_weeks", "rest_weeks", "up_weeks"):
                if data.get(name) is None:
                    self.add_error(name, _("This is missing."))
        return data

    def _clean_days(self, data: dict[str, Any]) -> None:
        begun: set[str] = set()
        for row in range(OWN_DAYS):
            day, hours = (data.get(f"{name}_{row}") for name in ("since", "hours"))
            for name, other in (("since", hours), ("hours", day)):
                if data.get(f"{name}_{row}") is None and other is not None and f"{name}_{row}" not in self.errors:
                    self.add_error(f"{name}_{row}", _("This is missing."))
            if day is not None and f"{day:%m-%d}" in begun:
                self.add_error(f"since_{row}", _("Another length of day begins on this day already."))
            begun |= {f"{day:%m-%d}"} if day is not None else set()
        if data.get("mode") == "dates" and not begun and not any(f"since_{row}" in self.errors for row in range(OWN_DAYS)):
            self.add_error("since_0", _("From which day on, and for how many hours?"))

    def cooling(self) -> Cooling | None:
        """The rest as it was typed; None without one."""
        data = self.cleaned_data
        return Cooling(**{name: data[name] for name in Cooling.model_fields}) if data["rests"] else None

    def changes(self, plan: HabitatPlan) -> tuple[Change, ...]:
        """The year as the plan keeps it; a pen out of doors stands where its keeper lives."""
        data, made = self.cleaned_data, self.cooling()
        cooling = None if made is None else made.model_dump(mode="json")
        days = [{"since": f"{day:%m-%d}", "hours": hours} for day, hours in self.lengths()]
        year = {"mode": data["mode"], "latitude_deg": data["latitude"], "days": days, "cooling": cooling}
        moved = plan.outdoors is not None and data["latitude"] is not None
        return (Change("year", year), *([Change("outdoors.latitude_deg", data["latitude"])] if moved else []))

    def lengths(self) -> list[tuple[date, float]]:
        """The keeper's own lengths of day, in the order of the calendar."""
        rows = [(self.cleaned_data.get(f"since_{row}"), self.cleaned_data.get(f"hours_{row}")) for row in range(OWN_DAYS)]
        return sorted((day, hours) for day, hours in rows if day is not None and hours is not None)

    def rows(self) -> list[tuple[forms.BoundField, forms.BoundField]]:
        """The fields of the keeper's own dates, two by two."""
        return [(self[f"since_{row}"], self[f"hours_{row}"]) for row in range(OWN_DAYS)]

    def others(self) -> list[forms.BoundField]:
        """All fields but those of the dates; without those of a rest where there can be none."""
        return [self[name] for name in self.base_fields if self.rest_possible or name not in OF_REST]


def _initial(plan: HabitatPlan, profile: Profile, today: date) -> dict[str, Any]:
    year: Year = plan.year
    cooling: Cooling | None = year.cooling or usual_cooling(profile, today, southern=plan.southern)
    found: dict[str, Any] = {"mode": year.mode, "latitude": plan.latitude_deg, "rests": year.cooling is not None}
    for row, step in enumerate(sorted(year.days, key=lambda step: step.since)):
        found |= {f"since_{row}": step.day_of(today.year), f"hours_{row}": f"{step.hours:g}"}
    if cooling is not None:
        found |= cooling.model_dump()
    return found


def _filled(form: YearForm) -> int:
    """Up to which of the rows of dates something stands."""
    return max((at for at, row in enumerate(form.rows(), 1) if any(field.value() not in (None, "") for field in row)), default=0)


def strip(made: YearPlan, today: date) -> dict[str, Any]:
    """The year as coordinates: light between morning and evening, the rest, the last meal, today."""
    first = made.weeks[0].day
    days = (made.weeks[-1].day - first).days

    def x(day: date) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * min(max((day - first).days, 0), days) / days

    def y(hour: float) -> float:
        return TOP + (HEIGHT - TOP - BOTTOM) * hour / 24

    turn = made.turns[0]
    middle = (turn.on_hour + turn.hours / 2) % 24
    morning = [(x(week.day), y(max(middle - week.hours / 2, 0.0))) for week in made.weeks]
    evening = [(x(week.day), y(min(middle + week.hours / 2, 24.0))) for week in made.weeks]
    edge = "L".join(f"{px:.1f},{py:.1f}" for px, py in [*morning, *reversed(evening)])
    months = []
    for number in range(24):
        month = date(first.year + (first.month - 1 + number) // 12, (first.month - 1 + number) % 12 + 1, 1)
        if first <= month <= made.weeks[-1].day:
            months.append({"x": x(month), "text": dates.shown(month, "M")})
    drawn: dict[str, Any] = {
        "width": WIDTH,
        "height": HEIGHT,
        "light": f"M{edge}Z",
        "months": months,
        "hours": [{"y": y(hour), "text": f"{hour:02d}"} for hour in (0, 6, 12, 18, 24)],
        "left": LEFT,
        "right": WIDTH - RIGHT,
        "top": TOP,
        "floor": HEIGHT - BOTTOM,
        "turns": [{"x": x(item.day)} for item in made.turns[1:]],
        "today": x(today),
        "rest": None,
    }
    if made.rest is not None:
        rest, floor = made.rest, HEIGHT - BOTTOM
        drawn["rest"] = {
            "path": f"M{x(rest.falls):.1f},{floor}L{x(rest.rests):.1f},{TOP}H{x(rest.rises):.1f}L{x(rest.wakes):.1f},{floor}Z",
            "meal": x(rest.last_meal) if rest.last_meal >= first else None,
        }
    return dict(plain(drawn))


def _unfed(form: YearForm, plan: HabitatPlan, profile: Profile, today: date) -> bool:
    """Tell whether a rest is planned anew whose last meal would lie in the past; the form then says from when it can be."""
    made = form.cooling()
    if made is None or made == plan.year.cooling or rest_of(made, profile).last_meal >= today:
        return False
    earliest, last = today + empty_after(profile), rest_of(made, profile).last_meal
    said = _("The last meal would have been on %(last)s, so that the gut is empty. From now on: %(earliest)s or later.")
    days = {"last": dates.shown(last, "j F Y"), "earliest": dates.shown(earliest, "j F Y")}
    form.add_error("begins", said % days)
    return True


def _ask_whether_it_may(request: HttpRequest, habitat: Habitat, plan: HabitatPlan, profile: Profile, form: YearForm) -> None:
    """Raise a Question where what is known of the animal says that it must not be cooled."""
    made = form.cooling()
    if made is None or made == plan.year.cooling:
        return
    never = never_rests(profile)
    if never is not None:
        raise Question(_("Its kind is never cooled: %(why)s.") % {"why": never.must_not}, [(_("No, no rest"), {"rests": ""})])
    if request.POST.get("sure") == "1":
        return
    trial = plan.model_copy(update={"year": plan.year.model_copy(update={"cooling": made})})
    found = assess(
        trial, profile, clock.today(), records=Records(weighings=growing.weighings(habitat)), depth=Depth(days_of=(), spread=False)
    )
    against = [item for item in found.findings if item.code in MUST_NOT]
    if not against:
        return
    units = units_of(request.user)
    weight = units.say(Measure(plan.animal.mass_kg, "kg")) if plan.animal.mass_kg else ""
    said = " ".join(str(MUST_NOT[item.code]) for item in against)
    if weight:
        said += " " + _("It weighs %(weight)s.") % {"weight": weight}
    raise Question(
        said + " " + _("Cooling one that is not fit for it can kill it. Plan the rest all the same?"),
        [(_("No, no rest"), {"rests": ""}), (_("Yes, a reptile veterinarian has seen it and agrees"), {"sure": "1"})],
    )


@require_http_methods(["GET", "POST"])
def year(request: HttpRequest, pk: int) -> HttpResponse:
    """The year of a habitat, and how it is to go."""
    habitat, today = habitat_or_404(request, pk), clock.today()
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    form = YearForm(request.POST or None, initial=_initial(plan, profile, today))
    written_by(form, units_of(request.user).decimal)
    if request.method == "POST" and form.is_valid() and not _unfed(form, plan, profile, today):
        _ask_whether_it_may(request, habitat, plan, profile, form)
        save(request, pk, form.changes(plan), later(lambda: _("the year's light")))
        return redirect("planner:year", pk=pk)
    found, never = year_plan(plan, profile, today), never_rests(profile)
    form.rest_possible = never is None or plan.year.cooling is not None
    context = {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "form": form,
        "strip": strip(found, today),
        "turns": [
            {
                "day": dates.shown(item.day, "j F Y"),
                "on": clock_text(item.on_hour),
                "off": clock_text(item.off_hour),
                "hours": written(item.hours, ".1f"),
                "none": item.hours == 0.0,
                "always": item.hours == 24.0,
                "now": index == 0,
                "turned": found.turned,
            }
            for index, item in enumerate(found.turns)
        ],
        "rest": found.rest,
        "terms": terms_of(profile),
        "never": never,
        "latitude": latitude_of(plan, profile),
        "mode": MODES[plan.year.mode],
        "own_dates": form["mode"].value() == "dates" or _filled(form) > 0,
        "rows": form.rows()[: max(SHOWN_DAYS, _filled(form) + 2)],
    }
    return render(request, "planner/year.html", context, status=422 if form.errors else 200)
