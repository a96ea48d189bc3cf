"""A habitat's front page: how it stands now, what is due, who lives here, what changed; and the decision that ends a quarantine."""

from typing import Any, Final

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.assess.nutrition import season_of
from husbandry.assess.result import Assessment
from husbandry.numerals import NumberError
from husbandry.plan.habitat import HabitatPlan
from husbandry.rota.card import RoomDays
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import intent_of
from ridgeback.drawing.marks import mark
from ridgeback.keeping import quarantine, timeline, watching
from ridgeback.keeping.actions.follow_residents import follow_residents
from ridgeback.keeping.animal_facts import age
from ridgeback.language import entrywords, rotawords, wording
from ridgeback.metering import measured, shown, telling
from ridgeback.metering.measured import JudgedPlan
from ridgeback.planner import bench, mapping, residents
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat
from ridgeback.rooms.residents import living_in
from ridgeback.rota import cards, history, menu
from ridgeback.units import KeeperUnits
from ridgeback.web import typed

SHOWN: Final = ("basking_surface", "warm_air", "cool_air", "water_temperature", "uv_back", "cool_humidity", "humid_hide")
LAST_ROWS: Final = 8
FINDINGS: Final = 3
QUICK: Final = ("habitat.cleaned", "habitat.water", "habitat.lamp", "animal.droppings", "animal.behaviour", "note", "photo")


@require_GET
def now(request: HttpRequest, pk: int) -> HttpResponse:
    """How a habitat stands now."""
    habitat, units, today = habitat_or_404(request, pk), units_of(request.user), clock.today()
    plan = mapping.plan_of(habitat)
    profile, found = bench.assessed(habitat, plan, today, View(), bench.AT_A_GLANCE)
    here = living_in([pk])[pk]
    kin = residents.of_kind([one.animal for one in here], plan.species)
    rows, _older = timeline.page(timeline.of_habitat(habitat).exclude(kind=Event.Kind.DONE), timeline.Wanted(), units)
    context = {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "stage": bench.stage(plan, found, profile)["name"],
        "marks": _marks(found, units),
        "findings": [(item.severity.value, wording.finding(item, units)) for item in found.findings[:FINDINGS]],
        "more_findings": max(len(found.findings) - FINDINGS, 0),
        "due": _due(habitat),
        "residents": [{"one": one, "name": one.animal.called, "age": age(one.animal, today)} for one in here],
        "differs": bool(here) and residents.differs(habitat, plan, kin, profile, today),
        "apart": quarantine.lasting(habitat, plan, profile, today),
        "notices": [one for one in telling.standing([pk], [], today, units) if not one.quiet],
        "measured": _measured(habitat, plan, found, units),
        "alarms": [one for one in watching.of_habitats([habitat], today, units) if one.quiet is None],
        "rows": rows[:LAST_ROWS],
        "write": [(kind.replace(".", "-"), str(entrywords.KINDS[kind].write)) for kind in QUICK],
        "today": today,
    }
    return render(request, "keeping/now.html", context)


def _marks(found: Assessment, units: KeeperUnits) -> list[Any]:
    return [
        mark(item, units)
        for item in found.quantities
        if item.key in SHOWN and item.season in ("", "winter") and item.phase in ("", "day") and item.band is not None
    ]


def _measured(habitat: Habitat, plan: HabitatPlan, found: Assessment, units: KeeperUnits) -> list[dict[str, Any]]:
    """What is measured now at the places that are judged."""
    by = JudgedPlan(plan, found, season_of(plan, clock.today()))
    known = [channel for channel in measured.channels_of(habitat) if by.quantity(channel.place, by.phase_at(clock.now()))]
    return [shown.row(channel, by, clock.now(), units) for channel in known]


def _due(habitat: Habitat) -> list[dict[str, Any]]:
    """What is due today, late first: the feed with its food, and the chores."""
    today = clock.today()
    made = cards.of_habitats([habitat], today)
    if habitat.pk not in made:
        return []
    card, moves = made[habitat.pk], history.moves_of([habitat.pk], today)[habitat.pk]
    ahead = cards.span(card, today, 1, RoomDays(today, tuple(habitat.room.weekdays), moves))
    found = [
        {
            "name": str(rotawords.FEED.name),
            "late": feed.late,
            "due": feed.due,
            "what": menu.foods_text(ahead.foods.get(feed.day, ())),
        }
        for feed in ahead.feeds
        if feed.day == today
    ]
    found += [
        {"name": str(rotawords.job(item.id).name), "late": item.late, "due": item.due, "what": ""}
        for item in ahead.jobs
        if item.day == today and rotawords.known(item.id)
    ]
    return sorted(found, key=lambda one: not one["late"])


@require_POST
def end_quarantine(request: HttpRequest, pk: int) -> HttpResponse:
    """End a quarantine by decision."""
    habitat_or_404(request, pk)
    quarantine.end(pk, intent_of(request), clock.today(), request.POST.get("note", "").strip()[:500])
    messages.info(request, _("The quarantine is ended, by decision of today."))
    return redirect("keeping:now", pk)


@require_POST
def change_quarantine(request: HttpRequest, pk: int) -> HttpResponse:
    """Make a quarantine longer or shorter."""
    habitat_or_404(request, pk)
    try:
        until = typed.day(request.POST.get("until", ""))
    except NumberError as error:
        messages.error(request, wording.unread(error, request.POST.get("until", "")))
    else:
        quarantine.change(pk, intent_of(request), until, clock.today())
    return redirect("keeping:now", pk)


@require_POST
def follow(request: HttpRequest, pk: int) -> HttpResponse:
    """Make the plan that of those who live here."""
    habitat_or_404(request, pk)
    follow_residents(pk, intent_of(request), clock.today())
    messages.info(request, _("The plan is for those that live here."))
    return redirect("keeping:now", pk)
