"""The pages of animals: the list, one animal's own page, its coming, its description, its move, its leaving."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import date, timedelta
from typing import Any, Final

from django.contrib import messages
from django.db.models import Q
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from husbandry.animal.growth_outlook import masses_at
from husbandry.assessment import Measure, Quantity
from husbandry.design.mixing import BandPair
from husbandry.species.book import UnknownSpeciesError
from husbandry.watch.rules import usual_weight
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import profiles
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, answered, intent_of
from ridgeback.drawing import meals, weights
from ridgeback.keeping import judging, moves_due, quarantine, timeline
from ridgeback.keeping.access import animal_or_404, event_or_404
from ridgeback.keeping.actions.animals import Move, Newcomer, describe, leave, move, welcome
from ridgeback.keeping.animal_facts import age, band_said, facts_of, weights_of
from ridgeback.keeping.animal_forms import FactsForm, LeaveForm, MoveForm, WelcomeForm
from ridgeback.keeping.entry_forms import at_its_field
from ridgeback.keeping.names import kind_names, kinds_of_room, profile_name
from ridgeback.language import dates, entrywords, wording
from ridgeback.planner import bench, breeding, mapping, residents, revisions
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitat_or_404, keeper_of, rooms_of
from ridgeback.rooms.models import Animal, Habitat, Residence
from ridgeback.rooms.residents import home_of, living_in
from ridgeback.units import KeeperUnits
from ridgeback.web import typed

AFTER_LAYING_DAYS: Final = 60
LAST_ROWS: Final = 8
MOST_DRAWN: Final = 150
SAME_SIZE: Final = 0.002  # a size as the form rounds it is the one that stands


@require_GET
def animals(request: HttpRequest) -> HttpResponse:
    """All animals of the keeper's rooms: who lives where, how old and how heavy; below them those that left."""
    keeper, today, units = keeper_of(request), clock.today(), units_of(request.user)
    found = list(Animal.objects.filter(room__in=rooms_of(keeper)).select_related("room"))
    lasting = Residence.objects.filter(animal__in=found, until__isnull=True).select_related("habitat")
    homes = {one.animal_id: one.habitat for one in lasting}
    sizes, kinds = residents.bodies(found), kind_names(found)
    rows = [
        _row(one, homes.get(one.pk), sizes.get(one.pk, (None, None)), today, units) | {"kind": kinds[one.room_id, one.species]}
        for one in found
    ]
    rows.sort(key=lambda row: row["animal"].name == "")  # those without a name come after the others
    here = [row for row in rows if row["animal"].left_on is None]
    gone = [row for row in rows if row["animal"].left_on is not None]
    habitats = Habitat.objects.filter(room__in=rooms_of(keeper), set_aside_at__isnull=True).order_by("name")
    empty = [one for one in habitats if not any(home.pk == one.pk for home in homes.values())]
    return render(request, "keeping/animals.html", {"rows": here, "gone": gone, "empty": empty})


@require_GET
def due(request: HttpRequest) -> HttpResponse:
    """The moves that are due: it looks years ahead for each habitat, so the list of animals does not wait for it."""
    found = moves_due.of_habitats(keeper_of(request), clock.today(), units_of(request.user))
    page = "keeping/_due.html" if getattr(request, "htmx", False) else "keeping/due.html"
    return render(request, page, {"due": found})


def _row(
    animal: Animal, home: Habitat | None, size: tuple[float | None, float | None], today: date, units: KeeperUnits
) -> dict[str, Any]:
    mass_kg, length_m = size
    return {
        "animal": animal,
        "name": animal.called,
        "sex": entrywords.SEX[animal.sex],
        "age": age(animal, today),
        "home": home,
        "mass": "" if mass_kg is None else units.say(Measure(mass_kg, "kg")),
        "length": "" if length_m is None else units.say(Measure(length_m, "m")),
        "left": entrywords.CHOICES.get(animal.left_by, ""),
    }


@require_GET
def animal(request: HttpRequest, pk: int) -> HttpResponse:
    """One animal's page: who it is, how it does, what was written of it last, what can be done."""
    one, today, units = animal_or_404(request, pk), clock.today(), units_of(request.user)
    homes = list(Residence.objects.filter(animal=one).select_related("habitat").order_by("-since", "-id"))
    home = next((item for item in homes if item.until is None), None)
    rows, _older = timeline.page(timeline.of_animal(one).filter(animal=one), timeline.Wanted(), units)
    bred = breeding.of_animal(one, today)
    young = list(Animal.objects.filter(mother=one) | Animal.objects.filter(father=one))
    context = {
        "animal": one,
        "name": one.called,
        "kind": profile_name(one),
        "age": age(one, today),
        "facts": facts_of(one),
        "home": home,
        "homes": homes,
        "why": entrywords.WHY,
        "weights": weights_of(one, units, LAST_ROWS),
        "chart": chart_of(one, units),
        "meals": meals.draw(offers_of(one, home)),
        "rows": rows[:LAST_ROWS],
        "young": [(child, child.called) for child in young],
        "breeding": bred,
        "female": _herself(one, bred, home, units, today),
        "nurseries": _nurseries(one),
        "photo": Event.objects.filter(animal=one, kind=Event.Kind.PHOTO).order_by("at").last(),
        "write": [(kind.replace(".", "-"), str(entrywords.KINDS[kind].write)) for kind in QUICK],
        "left": entrywords.CHOICES.get(one.left_by, ""),
        "peace_until": _peace(home, today),
    }
    return render(request, "keeping/animal.html", context)


def _herself(one: Animal, bred: breeding.Breeding | None, home: Residence | None, units: KeeperUnits, today: date) -> list[str]:
    """How a female that carries or has just laid does herself: her weight, her condition, the calcium of her menu."""
    lately = bred is not None and bool(bred.clutches) and (today - bred.clutches[0].laid).days <= AFTER_LAYING_DAYS
    if bred is None or not (bred.gravid or lately):
        return []
    said = []
    masses = [
        (log.day_of(event.at), event.payload["mass_kg"])
        for event in Event.objects.filter(animal=one, kind=Event.Kind.WEIGHED).order_by("at", "id")
    ]
    usual = usual_weight(masses)
    if usual is not None:
        change = 100 * (masses[-1][1] / usual - 1)
        said.append(_("she weighs %(percent)+d %% against her own line.") % {"percent": round(change)})
    scored = Event.objects.filter(animal=one, kind=Event.Kind.CONDITION).order_by("at").last()
    if scored is None:
        said.append(_("Her condition was never scored: feel her hips or tail."))
    else:
        told = {"score": scored.payload["score"], "day": dates.shown(log.day_of(scored.at), "j M Y")}
        said.append(_("Her condition was scored %(score)s of 5 on %(day)s.") % told)
    return said if home is None else [*said, *_calcium(home.habitat, units, today)]


def _calcium(habitat: Habitat, units: KeeperUnits, today: date) -> list[str]:
    try:
        _profile, found = bench.assessed(habitat, mapping.plan_of(habitat), today, View(), bench.AT_A_GLANCE)
    except mapping.UnreadablePlanError:
        return []
    ratio = next((item for item in found.quantities if item.key == "calcium_ratio" and item.value is not None), None)
    if ratio is None or ratio.value is None:
        return []
    told = {"ratio": units.say(Measure(ratio.value, ratio.unit)), "band": band_said(ratio.band, ratio.unit, units)}
    return [_("Her menu's calcium to phosphorus is %(ratio)s; wanted is %(band)s.") % told]


def _nurseries(one: Animal) -> list[Habitat]:
    """Where what hatches may move in: first the habitats planned for its kind, the empty ones before others."""
    found = list(Habitat.objects.filter(room=one.room_id, set_aside_at__isnull=True).order_by("name"))
    lived_in = living_in(habitat.pk for habitat in found)
    return sorted(found, key=lambda habitat: (habitat.species != one.species, bool(lived_in[habitat.pk])))


QUICK: Final = ("animal.weighed", "animal.shed", "animal.droppings", "animal.behaviour", "animal.sign", "note", "photo")


def _peace(home: Residence | None, today: date) -> date | None:
    """Until when an animal that came lately is left in peace."""
    if home is None or home.why != Residence.Why.ARRIVAL:
        return None
    until = home.since + timedelta(days=quarantine.PEACE_DAYS)
    return until if until >= today else None


def offers_of(one: Animal, home: Residence | None) -> list[tuple[date, str]]:
    """What was offered to an animal within two years and how it took it, oldest first; of a group's meals those it was at."""
    since = clock.now() - timedelta(days=730)
    mine = Q(animal=one)
    if home is not None:
        mine |= Q(animal__isnull=True, habitat=home.habitat_id, at__date__gte=home.since)
    rows = Event.objects.filter(mine, kind__in=(Event.Kind.FED, Event.Kind.BROUGHT_UP), at__gte=since).order_by("at", "id")
    found = []
    for row in rows.only("kind", "at", "payload", "animal_id"):
        who = row.payload.get("who")
        if row.animal_id is None and who is not None and one.name not in who:
            continue
        outcome = "brought-up" if row.kind == Event.Kind.BROUGHT_UP else row.payload.get("outcome", "")
        found.append((log.day_of(row.at), outcome))
    return found


def chart_of(one: Animal, units: KeeperUnits) -> dict[str, Any] | None:
    """The weights of the last years as a drawing, over what its kind weighs at that age where the day it hatched is known."""
    events = Event.objects.filter(animal=one, kind=Event.Kind.WEIGHED).order_by("-at", "-id")[:MOST_DRAWN]
    masses = [(log.day_of(event.at), event.payload["mass_kg"]) for event in reversed(events)]
    try:
        profile = profiles.current(one.room_id, one.species)[0]
    except UnknownSpeciesError:
        profile = None
    hatched = one.hatched
    if profile is None or hatched is None:
        return weights.draw(masses, units)
    kind = profile
    return weights.draw(masses, units, lambda day: masses_at(kind, one.sex, max((day - hatched).days, 0)))


@require_GET
def hatchlings(request: HttpRequest, pk: int) -> HttpResponse:
    """What hatched of a clutch moves in: the form of the habitat that was chosen, with its parents and its day."""
    event = event_or_404(request, pk)
    habitat = habitat_or_404(request, typed.key(request.GET.get("habitat")))
    if event.kind != Event.Kind.LAID or event.animal is None or habitat.room_id != event.room_id:
        raise Http404
    return redirect(f"{reverse('keeping:new-animal', args=[habitat.pk])}?clutch={event.pk}")


def _of_clutch(request: HttpRequest, habitat: Habitat, today: date) -> dict[str, Any]:
    """What is known of those that hatched of a clutch, for the form of their coming; nothing where none was named."""
    key = typed.key(request.GET.get("clutch"))
    found = Event.objects.filter(pk=key, room=habitat.room_id, kind=Event.Kind.LAID).select_related("animal").first()
    if found is None or found.animal is None:
        return {}
    hatched = Event.objects.filter(kind=Event.Kind.HATCHED, animal=found.animal, payload__clutch=found.pk).order_by("at").last()
    day = today if hatched is None else log.day_of(hatched.at)
    count = found.payload.get("good", found.payload.get("eggs", 1)) if hatched is None else hatched.payload["good"]
    return {
        "name": "",
        "species": found.animal.species,
        "sex": "unknown",
        "hatched": day,
        "hatched_is_estimate": False,
        "mass_kg": None,
        "length_m": None,
        "origin": "bred-here",
        "mother_id": str(found.animal_id),
        "father_id": str(found.payload.get("partner", "")),
        "alike": max(int(count), 1),
        "day": day,
        "apart_until": None,
    }


@require_http_methods(["GET", "POST"])
def new(request: HttpRequest, pk: int) -> HttpResponse:
    """An animal comes to live in a habitat; what its plan says of its animal stands in the form already."""
    habitat, today, units = habitat_or_404(request, pk), clock.today(), units_of(request.user)
    plan = mapping.plan_of(habitat)
    profile = revisions.profile_of(habitat, plan.species)
    here = living_in([pk])[pk]
    begin: dict[str, Any] = {"day": today, "species": plan.species, "alike": 1, "sex": "unknown", "origin": "unknown"}
    if not here:
        said = plan.animal
        begin |= {"name": said.name, "sex": said.sex, "hatched": said.hatched, "hatched_is_estimate": said.hatched_is_estimate}
        begin |= {"mass_kg": said.mass_kg, "length_m": said.length_m, "alike": said.count}
        begin |= {"apart_until": quarantine.usual_end(profile, today)}
    begin |= _of_clutch(request, habitat, today)
    form = WelcomeForm(
        request.POST or None,
        units=units,
        begin=begin,
        today=today,
        kinds=kinds_of_room(habitat.room_id, plan.species),
        parents=list(Animal.objects.filter(room=habitat.room_id)),
    )
    context: dict[str, Any] = {"habitat": habitat, "form": form, "residents": [one.animal.called for one in here]}
    if request.method == "POST" and form.is_valid():
        facts, data = form.facts(), form.cleaned_data
        coming = [Animal(room_id=habitat.room_id, **facts) for _each in range(data["alike"])]
        verdict = judging.judged(coming, habitat, today)
        doubted = here or (data["alike"] > 1 and verdict.worst in ("danger", "wrong"))
        if doubted and request.POST.get("sure") != "yes":
            # Whoever comes from elsewhere to others is asked about in any case: quarantine is apart from all others.
            weeks = None if profile.health is None else profile.health.quarantine_weeks
            told = context | _judged(verdict, units) | {"weeks": weeks if here else None}
            return render(request, "keeping/new.html", told, status=422)
        made = _welcome(request, habitat, form, today)
        answer = reverse("keeping:animal", args=[made[0].pk]) if len(made) == 1 else reverse("keeping:now", args=[pk])
        answered(intent_of(request), answer)
        messages.info(request, _("It lives in %(habitat)s now.") % {"habitat": habitat.name})
        return redirect(answer)
    return render(request, "keeping/new.html", context, status=422 if form.errors else 200)


def _welcome(request: HttpRequest, habitat: Habitat, form: WelcomeForm, today: date) -> list[Animal]:
    """Let them come, with their first weight and length, and keep them apart where that was wanted."""
    data, intent = form.cleaned_data, intent_of(request)
    facts = form.facts()
    named = [facts["name"], *[""] * (data["alike"] - 1)]
    # The weight that was typed is the first one's.
    typed_sizes = {Event.Kind.WEIGHED: ("mass_kg", data["mass_kg"]), Event.Kind.MEASURED: ("length_m", data["length_m"])}
    # What the plan was told of its animal is written already, and becomes its first one's.
    born = None if facts.get("hatched_is_estimate") else facts.get("hatched")
    told = set[str]()
    if not Residence.objects.filter(habitat=habitat).exists():  # else it was of somebody who lived there
        told = set(log.told_before(habitat, facts["species"], born).values_list("kind", flat=True))
    known = mapping.plan_of(habitat).animal.model_dump()
    sizes = {
        str(kind): {name: value}
        for kind, (name, value) in typed_sizes.items()
        if value is not None and (kind not in told or abs(value - (known.get(name) or 0.0)) > SAME_SIZE * value)
    }
    newcomers = [
        Newcomer(facts | {"name": name}, tuple(data["sound"]), data["note"], sizes if place == 0 else {})
        for place, name in enumerate(named)
    ]
    made = welcome(habitat.pk, intent, newcomers, data["day"], today)
    if data["apart_until"] and data["apart_until"] >= today:
        quarantine.begin(habitat.pk, Intent(intent.author, intent.at), data["day"], data["apart_until"])
    return made


def _judged(verdict: judging.Verdict, units: KeeperUnits) -> dict[str, Any]:
    """A verdict in words."""
    mixing = verdict.mixing
    return {
        "verdict": verdict,
        "adds": [(item.severity.value, wording.finding(item, units)) for item in verdict.adds],
        "mends": [wording.finding(item, units) for item in verdict.mends],
        "mixing": mixing,
        "apart_bands": _apart(mixing.apart, units) if mixing else [],
        "dangers": [wording.finding(item, units) for item in (*mixing.dangers, *mixing.wrongs)] if mixing else [],
    }


def _apart(pairs: Iterable[BandPair], units: KeeperUnits) -> list[str]:
    """What does not meet, each said once; the same place with other numbers at other times is said with what tells these apart."""
    found: dict[str, dict[tuple[str, str], list[Quantity]]] = {}
    for pair in pairs:
        ours, theirs = (band_said(side.band, pair.ours.unit, units) for side in (pair.ours, pair.theirs))
        found.setdefault(wording.name(pair.ours), {}).setdefault((ours, theirs), []).append(pair.ours)
    words = _("%(what)s: %(ours)s for those that live there, %(theirs)s for the newcomer")
    return [
        words % {"what": ", ".join(filter(None, (name, _when(times) if len(numbers) > 1 else ""))), "ours": ours, "theirs": theirs}
        for name, numbers in found.items()
        for (ours, theirs), times in numbers.items()
    ]


def _when(times: list[Quantity]) -> str:
    """Day or night where the seasons agree, the season where day and night do, else both."""
    seasons, phases = ({getattr(item, what) for item in times} for what in ("season", "phase"))
    first = times[0]
    if len(seasons) > 1:
        first = replace(first, season="")
    if len(phases) > 1:
        first = replace(first, phase="")
    return wording.when(first)


@require_http_methods(["GET", "POST"])
def change(request: HttpRequest, pk: int) -> HttpResponse:
    """Change what is said of an animal."""
    one, today = animal_or_404(request, pk), clock.today()
    parents = list(Animal.objects.filter(room=one.room_id, species=one.species).exclude(pk=pk))
    form = FactsForm(request.POST or None, today=today, kinds=kinds_of_room(one.room_id, one.species), parents=parents, animal=one)
    if request.method == "POST" and form.is_valid():
        try:
            describe(pk, intent_of(request), form.facts(), typed.key(request.POST.get("version")), today)
        except Refused as refused:
            at_its_field(form, refused)
        else:
            return redirect("keeping:animal", pk)
    context = {"animal": one, "form": form, "name": one.called}
    return render(request, "keeping/change.html", context, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
def move_animal(request: HttpRequest, pk: int) -> HttpResponse:
    """Move an animal; where it would go is judged before it is done."""
    one, today, units = animal_or_404(request, pk), clock.today(), units_of(request.user)
    home = home_of(one.pk)
    able = Habitat.objects.filter(room=one.room_id, set_aside_at__isnull=True).order_by("name").select_related("head__profile")
    habitats = [item for item in able if home is None or item.pk != home.habitat_id]
    asked = typed.key(request.POST.get("habitat") or request.GET.get("habitat"))
    target = next((item for item in habitats if item.pk == asked), None)
    begin = {"day": today, "habitat": str(asked) if target else "", "why": "growth" if home else "found-again"}
    form = MoveForm(request.POST or None, habitats=habitats, begin=begin, today=today)
    context: dict[str, Any] = {"animal": one, "name": one.called, "home": home, "form": form, "target": target}
    if target is not None:
        context |= _judged(judging.judged([one], target, today), units)
    if request.method == "POST" and form.is_valid() and "look" not in request.POST:
        worst = context["verdict"].worst
        if worst in ("danger", "wrong") and request.POST.get("sure") != "yes":
            return render(request, "keeping/move.html", context | {"ask": True}, status=422)
        data = form.cleaned_data
        told = Move(int(data["habitat"]), data["day"], data["why"], data["note"], comes_back=True)
        try:
            move(pk, intent_of(request), told, today)
        except Refused as refused:
            at_its_field(form, refused)
            return render(request, "keeping/move.html", context, status=422)
        messages.info(
            request, _("%(name)s lives in %(habitat)s now.") % {"name": one.called, "habitat": target.name if target else ""}
        )
        return redirect("keeping:animal", pk)
    return render(request, "keeping/move.html", context, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
def let_go(request: HttpRequest, pk: int) -> HttpResponse:
    """An animal leaves; what was written of it stays."""
    one, today = animal_or_404(request, pk), clock.today()
    form = LeaveForm(request.POST or None, today=today)
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        try:
            leave(pk, intent_of(request), data["day"], data["how"], data["note"], today)
        except Refused as refused:
            at_its_field(form, refused)
        else:
            return redirect("keeping:animal", pk)
    return render(
        request, "keeping/leave.html", {"animal": one, "name": one.called, "form": form}, status=422 if form.errors else 200
    )
