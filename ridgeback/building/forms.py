"""How an enclosure is built, as a form: used parts, finish, the time there is, waits and steps of the keeper's own."""

from collections.abc import Mapping
from typing import Any, Final

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from pydantic import ValidationError

from husbandry import numerals
from husbandry.build.kinds import steps, waits
from husbandry.build.settings import BuildSettings
from husbandry.numerals import NumberError
from ridgeback.language import buildwords
from ridgeback.units import written
from ridgeback.web import typed

WEEKDAYS: Final = (
    ("0", gettext_lazy("Monday")),
    ("1", gettext_lazy("Tuesday")),
    ("2", gettext_lazy("Wednesday")),
    ("3", gettext_lazy("Thursday")),
    ("4", gettext_lazy("Friday")),
    ("5", gettext_lazy("Saturday")),
    ("6", gettext_lazy("Sunday")),
)
OWN_ROWS: Final = 2


class HowForm(forms.Form):
    """What a keeper says of a build."""

    second_hand = forms.BooleanField(label=gettext_lazy("Some of it is second-hand, or another animal lived in it"), required=False)
    mite_spray = forms.BooleanField(label=gettext_lazy("It is sprayed against mites before anything living is in"), required=False)
    finish = forms.ChoiceField(
        label=gettext_lazy("A carved background is finished with"),
        choices=[
            ("", gettext_lazy("what suits the plan")),
            ("plaster", gettext_lazy("plaster in coats, and paint")),
            ("coir", gettext_lazy("coir bedded in silicone")),
        ],
        required=False,
    )
    coats = forms.CharField(label=gettext_lazy("Coats of plaster"), initial="3")
    weekdays = forms.MultipleChoiceField(
        label=gettext_lazy("Days on which you work at it"), choices=WEEKDAYS, widget=forms.CheckboxSelectMultiple
    )
    from_clock = forms.CharField(label=gettext_lazy("From"), initial="18:00")
    minutes_a_day = forms.CharField(label=gettext_lazy("Minutes a day"), initial="120")
    quarantine_until = forms.CharField(
        label=gettext_lazy("The animal is in quarantine until"), required=False, help_text=gettext_lazy("a day, or nothing")
    )

    def __init__(self, data: Any, said: BuildSettings, *, carved: bool) -> None:
        begin = {
            "second_hand": said.second_hand,
            "mite_spray": said.mite_spray,
            "finish": said.finish,
            "coats": said.coats,
            "weekdays": [str(day) for day in said.weekdays],
            "from_clock": f"{said.from_clock:%H:%M}",
            "minutes_a_day": f"{said.minutes_a_day:g}",
            "quarantine_until": said.quarantine_until.isoformat() if said.quarantine_until else "",
        }
        super().__init__(data, initial=begin)
        if not carved:
            del self.fields["finish"], self.fields["coats"]
        self.said = said
        self.settings: BuildSettings | None = None

    def clean(self) -> dict[str, Any]:
        data = super().clean() or {}
        told: dict[str, Any] = {
            "second_hand": data.get("second_hand", False),
            "mite_spray": data.get("mite_spray", False),
            "finish": data.get("finish", self.said.finish),
            "coats": self.said.coats,
            "weekdays": [int(day) for day in data.get("weekdays", [])],
            "waits": self.said.waits,
            "own": [one.model_dump() for one in self.said.own],
        }
        for name in ("coats", "minutes_a_day"):
            if name not in self.fields:
                continue
            text = str(data.get(name, ""))
            value = typed.whole(text)
            if value is None and name == "minutes_a_day":
                hours = hours_typed(text.strip().lower())
                value = None if hours is None else round(60 * hours)
            if value is None:
                self.add_error(name, _("That is no whole number."))
            else:
                told[name] = value
        for name, read_day in (("from_clock", typed.clock_time), ("quarantine_until", typed.day)):
            text = str(data.get(name, "")).strip()
            if text:
                try:
                    told[name] = read_day(text)
                except ValueError:
                    self.add_error(name, _("That cannot be read."))
        if self.errors:
            return data
        try:
            self.settings = BuildSettings.model_validate(told)
        except ValidationError as error:
            for item in error.errors(include_url=False):
                name = str(item["loc"][0]) if item["loc"] else ""
                self.add_error(name if name in self.fields else None, said_of(item))
        return data


def said_of(item: Any) -> str:
    """What is wrong with a setting, in words."""
    context = item.get("ctx") or {}
    match item["type"]:
        case "wait_too_short":
            wait, least = buildwords.WAITS[context["wait"]], buildwords.hours_said(context["least_h"])
            return _("%(wait)s takes %(least)s at least.") % {"wait": str(wait).capitalize(), "least": least}
        case "own_step_twice":
            return _("Two steps cannot have one name.")
        case "unknown_step":
            return _("There is no step “%(step)s”.") % {"step": context["step"]}
        case "after_the_end":
            return _("Nothing of a build comes after the animal.")
        case "greater_than_equal":
            return _("It is %(least)s at the least.") % {"least": written(context["ge"])}
        case "less_than_equal":
            return _("It is %(most)s at the most.") % {"most": written(context["le"])}
        case "too_short":
            return _("Choose one at the least.")
    return _("That cannot be.")


def changed_waits(posted: Any, said: BuildSettings, usual: Mapping[str, float]) -> tuple[dict[str, float], list[str]]:
    """The waits as a keeper typed them, in hours ("3 d" is days), where they are not the usual; and what cannot be read."""
    found = {key: hours for key, hours in said.waits.items() if key not in usual}
    faults = []
    for key, usual_h in usual.items():
        kind, text = waits()[key], posted.get(f"wait-{key}", "").strip().lower()
        if not text or text == buildwords.hours_said(usual_h).lower():
            continue
        hours = hours_typed(text)
        if hours is None:
            faults.append(_("“%(text)s” is no time: 36, 36 h, 3 days, 2 weeks.") % {"text": text[:30]})
        elif hours < kind.least_h:
            least = buildwords.hours_said(kind.least_h)
            faults.append(
                _("%(wait)s takes %(least)s at least.") % {"wait": str(buildwords.WAITS[key]).capitalize(), "least": least}
            )
        elif hours != usual_h:
            found[key] = min(hours, 5000.0)
    return found, faults


UNITS: Final = {
    "h": 1.0,
    "hour": 1.0,
    "hours": 1.0,
    "d": 24.0,
    "day": 24.0,
    "days": 24.0,
    "w": 168.0,
    "week": 168.0,
    "weeks": 168.0,
    "min": 1 / 60,
}


def hours_typed(text: str) -> float | None:
    """Hours out of "36", "36 h", "3 days", "2 weeks" or "30 min"; None for anything else."""
    number, _blank, unit = text.partition(" ")
    if not unit and number and not number[-1].isdigit():
        stem = number.rstrip("abcdefghijklmnopqrstuvwxyz")
        number, unit = stem, number[len(stem) :]
    try:
        value = numerals.number(number)
    except NumberError:
        return None
    factor = UNITS.get(unit.strip() or "h")
    return None if factor is None or not 0 <= value < 1e6 else value * factor


def own_steps(posted: Any) -> list[dict[str, Any]]:
    """The keeper's own steps out of a form's rows."""
    rows = zip(*(posted.getlist(name) for name in ("own-name", "own-minutes", "own-wait", "own-after", "own-before")), strict=False)
    found = []
    for name, minutes, wait, after, before in rows:
        if name.strip():
            found.append(
                {
                    "name": name.strip()[:60],
                    "minutes": typed.whole(minutes) if minutes.strip() else 30,
                    "wait_h": hours_typed(wait.strip().lower()) if wait.strip() else 0.0,
                    "after": [after] if after else [],
                    "before": [before] if before else [],
                }
            )
    return found


def kinds_said() -> list[tuple[str, str]]:
    """The kinds of steps that one of the keeper's own can stand beside."""
    return [(key, str(buildwords.STEPS[key].name)) for key in steps()]
