"""Scoring body condition by pictures, and what the score moves."""

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.animal.body import body_of
from husbandry.diet import condition
from husbandry.feeding import week_food
from husbandry.inputs import ultraviolet
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook import reader
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import intent_of
from ridgeback.drawing.condition import picture
from ridgeback.language import bodywords
from ridgeback.planner import feeds, mapping, revisions
from ridgeback.planner.actions.score_condition import score_condition
from ridgeback.rooms.access import habitat_or_404
from ridgeback.units import KeeperUnits, written


@require_GET
def of_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """The five pictures of this animal's body, and what each would move."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    sign = condition.LOOKED_AT[profile.body.form]
    before = Event.objects.filter(reader.own(habitat), kind=Event.Kind.CONDITION).order_by("-at", "-id")[:6]
    context = {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "look": bodywords.LOOK[sign],
        "scores": [
            {
                "score": score,
                "name": bodywords.NAMES[score],
                "seen": bodywords.SEEN[sign][score],
                "picture": picture(sign, score),
                "now": plan.feeding.condition == score,
                "moves": moves(plan, profile, score, units),
                "vet": score in (1, 5),
            }
            for score in condition.SCORES
        ],
        "before": [
            {"at": item.at, "score": item.payload["score"], "name": bodywords.NAMES[item.payload["score"]]} for item in before
        ],
    }
    return render(request, "rota/condition.html", context)


def moves(plan: HabitatPlan, profile: Profile, score: int, units: KeeperUnits) -> str:
    """What a score would move, in words; nothing where the keeper's own figures stand."""
    today = clock.today()
    body = body_of(plan, profile, today)
    stage = body.decision.stage
    uvb = ultraviolet.uvb_given(plan, stage, body, today)
    plans = (plan.model_copy(update={"feeding": plan.feeding.model_copy(update={"condition": value})}) for value in (None, score))
    usual, scored = (week_food.fed(made, profile, stage, body, uvb=uvb) for made in plans)
    if scored.step.moved == "interval":
        said = {"now": written(scored.interval_days), "before": written(usual.interval_days)}
    elif scored.step.moved == "ration":
        now, before = (next((part for part in fed.rations if part.count or part.mass_kg), None) for fed in (scored, usual))
        if now is None or before is None:
            return _("One step on the ration, more or less of it; the days stay.")
        said = {"now": feeds.amount_text(now, units), "before": feeds.amount_text(before, units)}
    else:
        said = {}
        if score != condition.RIGHT:
            return _("Your own menu stands: change it yourself.")
    return str(bodywords.MOVES[scored.step.moved]) % said


@require_POST
def scored(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep the condition that was picked."""
    score, _habitat = request.POST.get("score", ""), habitat_or_404(request, pk)
    if score not in {str(known) for known in condition.SCORES}:
        raise Http404
    score_condition(pk, intent_of(request), int(score), clock.today())
    return redirect("rota:condition", pk)
