"""The menu's pages: the rhythm of meals, writing a meal down, the keeper's own menu."""

from datetime import date, datetime, time, timedelta
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST
from pydantic import ValidationError

from husbandry.assess.result import Assessment
from husbandry.assessment import Change, Measure, Quantity
from husbandry.diet import weighing
from husbandry.diet.foods import PLANTS, food, foods
from husbandry.diet.never import NEVER
from husbandry.feeding import appetite, week_food
from husbandry.feeding.appetite import dish_emptied_often
from husbandry.numerals import NumberError
from husbandry.plan.habitat import Animal, HabitatPlan
from husbandry.rota.card import RoomDays
from husbandry.species.profile import Profile
from husbandry.units import parse
from husbandry.upkeep.clocktimes import moment
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook import log, reader
from ridgeback.daybook.actions.do_chores import NoSuchOutcomeError
from ridgeback.daybook.asking import Question
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Refused, intent_of
from ridgeback.drawing.marks import mark
from ridgeback.language import bodywords, dates, rotawords, saladwords, wording
from ridgeback.language.booktext import book
from ridgeback.language.names import CHOICES
from ridgeback.language.told import later
from ridgeback.pantry import shelf
from ridgeback.pantry.actions import take_back as taking
from ridgeback.planner import bench, feeds, mapping, revisions
from ridgeback.planner.actions.weigh_animal import DoubtfulWeightError, weigh_animal
from ridgeback.planner.saving import save
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat
from ridgeback.rota import cards, history, ical, menu, owner_menu, powder_labels
from ridgeback.rota.actions.feed_meal import OUTCOMES, Told, feed_meal
from ridgeback.units import KeeperUnits
from ridgeback.web import typed
from ridgeback.web.addresses import back_of
from ridgeback.web.requests import download

OF_DRY_FOOD = ("d3_share", "a_share", "usable_a", "fibre_share", "protein_share", "fruit_share")
JUDGED = ("mass", "energy_week", "intake_day", "calcium_ratio", *OF_DRY_FOOD)

VITAMINS = ("d3_share", "a_share")


@require_GET
def of_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """The menu of a habitat's animal."""
    return _page(request, pk)


def _page(request: HttpRequest, pk: int, *, items: QueryDict | None = None, labels: QueryDict | None = None) -> HttpResponse:
    """The menu's page; with its own `items` or `labels` as they were typed, where they could not be read."""
    habitat, units, today = habitat_or_404(request, pk), units_of(request.user), clock.today()
    plan = mapping.plan_of(habitat)
    profile, found = bench.assessed(habitat, plan, today, View(step="food"))
    past = reader.histories([habitat])[pk]
    card = cards.of_habitats([habitat], today)[pk]
    moves = history.moves_of([pk], today)[pk]
    ahead = cards.span(card, today, menu.AHEAD_DAYS, RoomDays(today, tuple(habitat.room.weekdays), moves))
    fed = found.menu.fed
    assert fed is not None
    stocked = week_food.fed(
        plan, profile, found.body.decision.stage, found.body, uvb=card.uvb, stock=shelf.prey_counts(habitat.room_id)
    )
    grown = found.body.decision.stage.id == profile.stages[-1].id
    without = appetite.without(plan, profile, past, today, grown=grown, interval_days=card.feed.interval_days)
    resting = appetite.rest_loss(plan, profile, past.weighings, today)
    context = {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "stage": bench.stage(plan, found, profile),
        "card": card,
        "rhythm": menu.rhythm(card.feed),
        "rows": menu.rows(habitat, card, ahead, today, habitat.room.weekdays),
        "due": next((feed for feed in ahead.feeds if feed.day == today), None),
        "due_powders": menu.powders(ahead.dusting[today], card.carrying) if today in ahead.dusting else (),
        "foods": menu.foods_said(ahead.foods.get(today, ())),
        "outcomes": [(code, rotawords.OUTCOMES[code]) for code in OUTCOMES],
        "states": [(code, rotawords.STATES[code]) for code in ("eaten", "part", "refused", "skipped", "planned")],
        "counts": menu.counts(ahead),
        "offers": feeds.offers(stocked.rations),
        "without": without,
        "why_without": rotawords.WHY_WITHOUT[without.why] if without else "",
        "hungry": list(appetite.not_eating(plan.animal.names, past).items()),
        "rest": resting,
        "rest_said": bodywords.rest_loss(resting, units) if resting else "",
        "today": today,
        "form": owner_menu.form(plan, items),
        "labels": powder_labels.form(plan, labels),
        "label_heads": powder_labels.HEADS.values(),
        "own_labels": bool(plan.feeding.labels) or labels is not None,
        "dish_sign": _dish_emptied(habitat),
    }
    return render(request, "rota/menu.html", context | _settings_said(plan, fed) | _week_said(found, fed, profile, units))


def _settings_said(plan: HabitatPlan, fed: week_food.Fed) -> dict[str, Any]:
    """What the plan itself says of feeding, in words."""
    return {
        "where": CHOICES["where"][plan.feeding.where] if plan.feeding.where else "",
        "step_said": fed.step.moved if plan.feeding.state != "gravid" else "",
        "by_time": plan.feeding.rationed == "by-time",
        "fasts": [(index, item, rotawords.FASTS[item.why]) for index, item in enumerate(plan.feeding.fasts)],
        "fast_reasons": rotawords.FASTS.items(),
    }


def _week_said(found: Assessment, fed: week_food.Fed, profile: Profile, units: KeeperUnits) -> dict[str, Any]:
    """What the week's food is found to be, in words: rations, limits, judgements, and what is never fed."""
    return {
        "rations": [feeds.ration_text(ration, units) for ration in fed.rations],
        "limits": feeds.limits(found.menu, units),
        "own": [menu.food_text(item.food, item.count, item.grams or 0.0) for item in fed.own],
        "why_none": book(found.menu.no_supplements_because),
        "marks": [mark(item, units) for item in found.quantities if item.key in JUDGED and _worth_showing(item)],
        "findings": [wording.finding(item, units) for item in found.findings if item.step == "food"],
        "basis": wording.basis(found.quantity("feed_interval").basis),
        "eats_plants": any(food(key).kind in PLANTS for part in fed.rations for key in part.meal.foods if key in foods()),
        "never": [saladwords.never(item) for item in NEVER if not item.whom or item.whom in saladwords.whom(profile.diet)],
    }


def _dish_emptied(habitat: Habitat) -> bool:
    """Tell whether the calcium dish was filled again and again of late: a sign that diet or UV falls short."""
    filled = Event.objects.filter(habitat=habitat, kind=Event.Kind.DONE, payload__job="calcium-dish", payload__outcome="done")
    days = [log.day_of(at) for at in filled.values_list("at", flat=True)]
    return dish_emptied_often(days, clock.today())


def _worth_showing(item: Quantity) -> bool:
    """A vitamin that no powder brings is no news."""
    return item.value != 0 or item.key not in VITAMINS


def moment_of(text: str, today: date) -> datetime:
    """When something was done: now, or at noon of an earlier day. Raises Http404 for a day to come or long gone."""
    if not text or text == today.isoformat():
        return clock.now()
    try:
        day = typed.day(text)
    except NumberError:
        raise Http404 from None
    if not today - timedelta(days=60) <= day <= today:
        raise Http404
    return moment(day, time(12), timezone.get_current_timezone())


@require_POST
def fed(request: HttpRequest, pk: int) -> HttpResponse:
    """Write a meal down as it was planned, with what really went on it."""
    habitat_or_404(request, pk)
    write_meal(request, pk, request.POST.get("outcome", ""), request.POST.get("due", ""))
    return back_to(request, pk)


def back_to(request: HttpRequest, pk: int) -> HttpResponse:
    """Go back to the page the form stood on, on this site only, else to the menu."""
    return redirect(back_of(request, reverse("rota:menu", args=[pk])))


def write_meal(request: HttpRequest, pk: int, outcome: str, due: str) -> Event:
    """Write the meal a form tells of; `due` is the feed it showed, empty for one of its own."""
    today = clock.today()
    at = moment_of(request.POST.get("day", ""), today)
    products = tuple(request.POST.getlist("product")) if "told" in request.POST else None
    told = Told(outcome, _due(due), products, {"eaten_g": _by_difference(request)})

    def who(habitat: Habitat) -> dict[str, Any]:
        return _who_ate(request, mapping.plan_of(habitat).animal, outcome)

    try:
        return feed_meal(pk, intent_of(request), at, today, told, who)
    except NoSuchOutcomeError:
        raise Http404 from None


def _due(text: str) -> date | None:
    try:
        return typed.day(text) if text else None
    except NumberError:
        raise Http404 from None


def _who_ate(request: HttpRequest, animal: Animal, outcome: str) -> dict[str, Any]:
    """Who of a group ate, by name or by number; nothing where it was not told, nobody where the meal was refused."""
    if outcome == "refused" and animal.names:
        return {"who": [], "ate": 0}
    if "who_told" in request.POST:
        who = [name for name in animal.names if name in request.POST.getlist("who")]
        return {"who": who, "ate": len(who)}
    text = request.POST.get("ate", "").strip()
    if not text or animal.count == 1:
        return {}
    ate = typed.whole(text)
    if ate is None or ate > animal.count:
        said = {"text": text[:20], "most": animal.count}
        raise Refused("not_a_plan", why=_("“%(text)s” is none of 0 to %(most)s animals; the meal was not written down.") % said)
    return {"ate": ate}


def _by_difference(request: HttpRequest) -> float | None:
    """What was eaten in g, by the bowl before and after; a message where that cannot be, and the meal stands without it."""
    before, after = (request.POST.get(name, "").strip() for name in ("before", "after"))
    if not before:
        if after:
            messages.error(request, _("The bowl after a meal tells nothing without the bowl before it."))
        return None
    decimal = units_of(request.user).decimal
    try:
        return weighing.eaten(*(typed.amount(text or "0", "g", decimal) for text in (before, after)))
    except weighing.WeighingError as error:
        messages.error(request, rotawords.WEIGHING[error.code])
    except NumberError as error:
        messages.error(request, wording.unread(error, error.parameters["text"]))
    return None


@require_POST
def take_back(request: HttpRequest, pk: int) -> HttpResponse:
    """Undo a meal or a chore that was written down within the last days."""
    habitat_or_404(request, pk)
    taking.take_back(typed.key(request.POST.get("event")), pk, intent_of(request))
    messages.info(request, _("Taken back."))
    return back_to(request, pk)


@require_POST
def own(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep the keeper's own menu and powders; empty goes by the book."""
    habitat_or_404(request, pk)
    try:
        changes = owner_menu.read(request.POST, units_of(request.user).decimal)
    except owner_menu.LineError as error:
        messages.error(request, str(error))
        return _page(request, pk, items=request.POST)
    save(request, pk, changes, later(lambda: _("own menu")))
    return redirect("rota:menu", pk)


@require_POST
def labels(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep what stands on the keeper's own powders; an empty row goes by what is usual."""
    habitat_or_404(request, pk)
    try:
        changes = powder_labels.read(request.POST, units_of(request.user).decimal)
    except owner_menu.LineError as error:
        messages.error(request, str(error))
        return _page(request, pk, labels=request.POST)
    save(request, pk, changes, later(lambda: _("labels of the powders")))
    return redirect("rota:menu", pk)


@require_POST
def weigh(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep a weight, by tare where the tub was weighed too; one far off the last is asked about first."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    given = {name: request.POST.get(name, "").strip() for name in ("whole", "tub")}
    try:
        whole_kg, tub_kg = (_weight(name, text, units) for name, text in given.items())
        mass_kg = weighing.by_tare(whole_kg * 1000, tub_kg * 1000) / 1000
        weigh_animal(pk, intent_of(request), mass_kg, clock.today(), sure=request.POST.get("sure") == "yes")
    except NumberError as error:
        raise Refused("not_a_plan", why=wording.unread(error, error.parameters["text"])) from None
    except weighing.WeighingError as error:
        raise Refused("not_a_plan", why=str(rotawords.WEIGHING[error.code])) from None
    except DoubtfulWeightError as doubt:
        raise _doubt(doubt, mass_kg, given, habitat.company.name or habitat.name, units) from None
    except ValidationError:
        raise Refused("not_a_plan", why=_("No animal weighs that.")) from None
    _tell_of_rest(request, pk)
    return redirect("rota:menu", pk)


def _weight(name: str, text: str, units: KeeperUnits) -> float:
    """A weight of the form in kg, nothing where the field is empty; what can mean two is asked. Raises NumberError."""
    try:
        return units.read(text, "kg") if text else 0.0
    except NumberError as error:
        if error.code != "two_meanings":
            raise
        first, second = error.parameters["first"], error.parameters["second"]
        answers = [(meant, {name: meant}) for meant in (first, second)]
        raise Question(wording.unread(error, text), answers) from None


def _doubt(doubt: DoubtfulWeightError, mass_kg: float, given: dict[str, str], name: str, units: KeeperUnits) -> Question:
    """Ask about a weight far off the last one, with what was likelier meant where another unit would fit."""
    before = doubt.before
    said = {
        "name": name,
        "now": units.say(Measure(mass_kg, "kg")),
        "before": units.say(Measure(before.mass_kg, "kg")),
        "day": dates.shown(before.day, "j F Y"),
    }
    answers = []
    if not given["tub"] and given["whole"].replace(".", "").isdecimal():
        for unit in ("g", "kg", "oz", "lb"):
            meant = f"{given['whole']} {unit}"
            if not weighing.doubtful(before.mass_kg, parse(meant, "kg"), 0.0):
                answers.append((_("I meant %(meant)s") % {"meant": meant}, {"whole": meant}))
    answers.append((_("It really weighs %(now)s") % said, {"sure": "yes"}))
    text = _("%(name)s weighed %(before)s on %(day)s, and now %(now)s: is that right?") % said
    return Question(text, answers)


def _tell_of_rest(request: HttpRequest, pk: int) -> None:
    """Say at once what a rest has cost, to the hand that still holds the animal."""
    habitat, today = habitat_or_404(request, pk), clock.today()
    plan, weighings = mapping.plan_of(habitat), reader.histories([habitat])[pk].weighings
    found = appetite.rest_loss(plan, revisions.profile_of(habitat, plan.species), weighings, today)
    if found is not None:
        level = messages.WARNING if found.over else messages.INFO
        messages.add_message(request, level, bodywords.rest_loss(found, units_of(request.user)))


@require_POST
def names(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep the names of those that live with the first."""
    habitat_or_404(request, pk)
    others = dict.fromkeys(name.strip() for name in request.POST.get("others", "").split(","))
    save(request, pk, (Change("animal.others", [name for name in others if name]),), later(lambda: _("names")))
    return redirect("rota:menu", pk)


@require_POST
def fast(request: HttpRequest, pk: int) -> HttpResponse:
    """Set days without food, or end them."""
    plan = mapping.plan_of(habitat_or_404(request, pk))
    kept = [item.model_dump(mode="json") for item in plan.feeding.fasts]
    ends = typed.whole(request.POST.get("end"))
    if ends is not None:
        kept = [item for index, item in enumerate(kept) if index != ends]
    else:
        kept.append({name: request.POST.get(name, "") for name in ("first", "last", "why")})
    save(request, pk, (Change("feeding.fasts", kept),), later(lambda: _("days without food")))
    return redirect("rota:menu", pk)


@require_GET
def calendar(request: HttpRequest, pk: int) -> HttpResponse:
    """The feeds of the next four weeks as an iCalendar file."""
    habitat, today = habitat_or_404(request, pk), clock.today()
    card = cards.of_habitats([habitat], today)[pk]
    moves = history.moves_of([pk], today)[pk]
    ahead = cards.span(card, today, menu.AHEAD_DAYS, RoomDays(today, tuple(habitat.room.weekdays), moves))
    name = habitat.company.name or habitat.name
    entries = ical.feeds_of(habitat, card, ahead, rotawords.kept_at(card.targets, units_of(request.user)))
    entries += ical.fasts_of(habitat, card, today, today + timedelta(days=menu.AHEAD_DAYS))
    data = ical.calendar(_("Feeding %(name)s") % {"name": name}, entries, clock.now())
    return download(data, "text/calendar; charset=utf-8", habitat.name, "feeding.ics")
