"""What a behaviour may mean: its likeliest causes with the evidence there is, the one measurement, the one change."""

from datetime import date, timedelta
from typing import Any, Final

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET

from husbandry.animal.body import body_of
from husbandry.assessment import Measure, Quantity
from husbandry.feeding import appetite
from husbandry.feeding.schedule import fasts_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.watch.behaviour import WAITS_FOR_NOTHING, Explained, explained, telling
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.keeping.access import event_or_404
from ridgeback.keeping.animal_facts import band_said
from ridgeback.language import entrywords, placewords, watchwords, wording
from ridgeback.planner import bench, mapping
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Animal
from ridgeback.rooms.residents import home_of, living_in
from ridgeback.units import KeeperUnits

NEW_DAYS: Final = 21  # after a move much is different (common practice, no source)
SIGN_DAYS: Final = 14
SUMMER: Final = range(4, 10)  # months of the northern summer half year
AGAIN_DAYS: Final = 14


@require_GET
def meaning(request: HttpRequest, pk: int) -> HttpResponse:
    """What was seen may mean this; what to read, what to change."""
    event = event_or_404(request, pk)
    if event.kind != Event.Kind.BEHAVED or event.habitat_id is None or event.taken_back_at is not None:
        raise Http404
    habitat, units, today = habitat_or_404(request, event.habitat_id), units_of(request.user), clock.today()
    plan = mapping.plan_of(habitat)
    profile, found = bench.assessed(habitat, plan, today, View(), bench.AT_A_GLANCE)
    what = event.payload["what"]
    animal = event.animal or _only(habitat.pk)
    season = _season(plan, today)
    causes = explained(what, found.quantities, season, circumstances(animal, plan, profile, today))
    place = telling(causes)
    since = today - timedelta(days=AGAIN_DAYS)
    again = Event.objects.filter(habitat=habitat, kind=Event.Kind.BEHAVED, payload__what=what, at__date__gte=since).count()
    context = {
        "habitat": habitat,
        "event": event,
        "seen": entrywords.choice(Event.Kind.BEHAVED, "what", what),
        "name": animal.called if animal else "",
        "again": again,
        "causes": [_row(one, units) for one in causes],
        "place": placewords.PLACE_NAMES.get(place, "") if place else "",
        "change": watchwords.CAUSES[causes[0].cause][1] if causes else "",
        "urgent": what in WAITS_FOR_NOTHING,
        "vet": entrywords.VET,
    }
    return render(request, "keeping/meaning.html", context)


def _only(habitat_id: int) -> Animal | None:
    here = living_in([habitat_id])[habitat_id]
    return here[0].animal if len(here) == 1 else None


def _season(plan: HabitatPlan, today: date) -> str:
    return "summer" if (today.month in SUMMER) != plan.southern else "winter"


def _row(one: Explained, units: KeeperUnits) -> dict[str, Any]:
    said, change = watchwords.CAUSES[one.cause]
    return {
        "said": said,
        "change": change,
        "evidence": one.evidence,
        "word": watchwords.EVIDENCE[one.evidence],
        "number": "" if one.quantity is None else _number(one.quantity, units),
    }


def _number(item: Quantity, units: KeeperUnits) -> str:
    value = item.read.value if item.read is not None else item.value
    told = {
        "what": wording.name(item),
        "value": units.say(Measure(value or 0.0, item.unit)),
        "band": band_said(item.band, item.unit, units),
    }
    if item.read is not None:
        return _("%(what)s was read as %(value)s; wanted is %(band)s") % told
    return _("%(what)s is %(value)s by the model; wanted is %(band)s") % told


def circumstances(animal: Animal | None, plan: HabitatPlan, profile: Profile, today: date) -> dict[str, bool]:
    """What is known of the animal that may lie behind it."""
    fasts = [item for item in fasts_of(plan, profile) if item.holds(today)]
    known = {
        "resting": any(item.why == "rest" for item in fasts),
        "breeding-fast": appetite.breeding_fast(plan, profile, today) is not None,
    }
    if any(item.why == "shed" for item in fasts):
        known["shedding"] = True
    if animal is None:
        return known
    home = home_of(animal.pk)
    since = home.since if home is not None else None
    known["new"] = since is not None and (today - since).days <= NEW_DAYS
    if animal.species == plan.species:
        known["hatchling"] = body_of(plan, profile, today).decision.stage.id == profile.stages[0].id
    bred = Event.objects.filter(animal=animal, kind__in=(Event.Kind.GRAVID, Event.Kind.LAID)).order_by("at", "id").last()
    if animal.sex == Animal.Sex.MALE:
        known["gravid"] = False
    elif bred is not None:
        known["gravid"] = bred.kind == Event.Kind.GRAVID
    signs = Event.objects.filter(animal=animal, kind=Event.Kind.SIGN).order_by("at").last()
    if signs is not None and (today - log.day_of(signs.at)).days <= SIGN_DAYS:
        known["sign"] = True
    return known
