"""The chores of one habitat: which there are, why, how often, when last; the keeper sets the days or leaves one out."""

from datetime import date
from typing import Any, Final

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods

from husbandry.assessment import Change
from husbandry.plan.habitat import HabitatPlan
from husbandry.upkeep.jobs import due
from husbandry.upkeep.recur import Once
from ridgeback import clock
from ridgeback.daybook.writing import Refused
from ridgeback.language import rotawords
from ridgeback.language.told import later
from ridgeback.planner import mapping
from ridgeback.planner.saving import save
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat
from ridgeback.rota import cards
from ridgeback.web import typed

MOST_DAYS: Final = 1500
# Set by the plan's own dates and times: no number of days changes them.
FIXED: Final = ("misting", "uv-lamp", "timers", "next-stage", "own")
MOST_OWN: Final = 40  # rows read; the plan keeps a dozen
OWN_ROWS: Final = 2  # empty ones to fill


@require_http_methods(["GET", "POST"])
def of_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """Show the chores, or keep the days set for them."""
    habitat = habitat_or_404(request, pk)
    plan, today = mapping.plan_of(habitat), clock.today()
    if request.method == "POST":
        chosen, wrong = _read(request, plan)
        if wrong:
            raise Refused("not_a_plan", why=_("“%(text)s” is not a number of days.") % {"text": wrong})
        changes = (Change("upkeep.every_days", chosen), Change("upkeep.own", _own(request)))
        save(request, pk, changes, later(lambda: _("days of the chores")))
        return redirect("rota:chores", pk)
    context = {"habitat": habitat, "plan": plan, "rows": _rows(habitat, plan, today), "today": today, "own": _own_rows(plan)}
    return render(request, "rota/chores.html", context)


def _read(request: HttpRequest, plan: HabitatPlan) -> tuple[dict[str, int], str]:
    """The days by chore, and the first text that is none. An empty field goes by the usual days."""
    chosen = {key: days for key, days in plan.upkeep.every_days.items() if f"days-{key}" not in request.POST}
    for name, text in request.POST.items():
        key = name.removeprefix("days-")
        if key == name or key not in rotawords.JOBS or not str(text).strip():
            continue
        days = typed.whole(text)
        if days is None or days > MOST_DAYS:
            return {}, str(text)[:20]
        chosen[key] = days
    return chosen, ""


def _own(request: HttpRequest) -> list[dict[str, Any]]:
    """The keeper's own chores as posted; a row without a name is none. What cannot be is refused with the plan."""
    found = []
    for place in range(min(typed.whole(request.POST.get("own")) or 0, MOST_OWN)):
        name = request.POST.get(f"own-{place}-name", "").strip().replace("/", " ").replace(":", " ")
        if not name:
            continue
        text = request.POST.get(f"own-{place}-days", "").strip()
        days = typed.whole(text)
        if text and days is None:
            raise Refused("not_a_plan", why=_("“%(text)s” is not a number of days.") % {"text": text[:20]})
        weekdays = [int(day) for day in request.POST.getlist(f"own-{place}-weekday") if day in set("0123456")]
        item: dict[str, Any] = {"name": name, "weekdays": weekdays, "every_days": days}
        for end in ("from", "until"):
            item[f"{end}_month"] = typed.whole(request.POST.get(f"own-{place}-{end}"))
        found.append(item)
    return found


def _own_rows(plan: HabitatPlan) -> list[dict[str, Any]]:
    rows = [item.model_dump() for item in plan.upkeep.own] + [{} for _place in range(OWN_ROWS)]
    months = [(number, rotawords.month(number)) for number in range(1, 13)]
    return [
        row
        | {
            "months": months,
            "days": [{"number": day, "name": rotawords.weekday(day), "on": day in row.get("weekdays", ())} for day in range(7)],
        }
        for row in rows
    ]


def _rows(habitat: Habitat, plan: HabitatPlan, today: date) -> list[dict[str, Any]]:
    card = cards.of_habitats([habitat], today)[habitat.pk]
    found, seen = [], set()
    for job in card.jobs:
        if isinstance(job.rule, Once) and job.rule.on < today:
            continue
        coming = next(iter(due(job, today, date(today.year + 3, 1, 1), today=today)), None)
        row = {
            "key": job.key,
            "words": rotawords.job(job.id if job.key == rotawords.OWN else job.key),
            "rhythm": rotawords.rhythm(job),
            "last": job.last_done,
            "next": coming,
        }
        first = job.key not in seen
        row |= {
            "settable": first and job.key not in FIXED and not isinstance(job.rule, Once),
            "own": plan.upkeep.every_days.get(job.key),
        }
        seen.add(job.key)
        found.append(row)
    for key, days in plan.upkeep.every_days.items():
        if days == 0 and key in rotawords.JOBS and key not in seen:
            found.append({"key": key, "words": rotawords.job(key), "rhythm": _("left out"), "settable": True, "own": 0})
    return found
