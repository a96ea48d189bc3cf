"""What an edit changed, in words for the list of states: "reflector flood: power 100 → 75 W"."""

from typing import Final

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.plan.habitat import HabitatPlan
from ridgeback.planner.fields import ShownField, show, value_at
from ridgeback.planner.inputs import Group, every
from ridgeback.units import KeeperUnits

TOLD: Final = 2  # changes that are told one by one; of more only how many there are
LONGEST: Final = 118


def said(before: HabitatPlan, after: HabitatPlan, units: KeeperUnits) -> str:
    """Say what differs between two plans, the first fields of it and how many more; "" where no field does."""
    told = [text for text in _told(before, after, units) if text]
    if not told:
        return ""
    text = "; ".join(told[:TOLD])
    more = len(told) - TOLD
    if more > 0:
        text += "; " + ngettext("%(n)s more", "%(n)s more", more) % {"n": more}
    return text if len(text) <= LONGEST else f"{text[: LONGEST - 1].rstrip()}…"


def _told(before: HabitatPlan, after: HabitatPlan, units: KeeperUnits) -> list[str]:
    was, now = every(before), every(after)
    parts = [{group.part: None for group, _field in side.values() if group.part} for side in (was, now)]
    found = [
        _changed(group, show(before, was[path][1], units), show(after, field, units))
        for path, (group, field) in now.items()
        if path in was and value_at(before, path) != value_at(after, path)
    ]
    found += [_("%(part)s added") % {"part": part_title(after, part)} for part in parts[1] if part not in parts[0]]
    found += [_("%(part)s taken away") % {"part": part_title(before, part)} for part in parts[0] if part not in parts[1]]
    return list(dict.fromkeys(found))


def part_title(plan: HabitatPlan, part: str) -> str:
    """What a part is called, as its fields are headed."""
    return next((str(group.title) for group, _field in every(plan).values() if group.part == part), part)


def _changed(group: Group, was: ShownField, now: ShownField) -> str:
    label = str(now.field.label)
    first, last = _value(was), _value(now)
    unit = f" {now.symbol}" if now.symbol else ""
    if group.title:
        label = f"{group.title}: {label[:1].lower()}{label[1:]}"
    return f"{label} {first} → {last}{unit}"


def _value(shown: ShownField) -> str:
    """A field's value as it is read; a dash where there is none."""
    if shown.field.kind == "check":
        return str(_("yes") if shown.checked else _("no"))
    if shown.field.kind == "choice":
        return next((str(words) for code, words in shown.options if code == shown.value), shown.value) or "–"
    return shown.value or "–"
