"""The list of habitats, and making new ones."""

from datetime import date
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.design.first_proposal import propose
from husbandry.plan.placement import check_places
from husbandry.plan.reading import LARGEST_BYTES, PlanProblems, read_text
from husbandry.species.book import UnknownSpeciesError
from ridgeback import backups, clock
from ridgeback.accounts.context import units_of
from ridgeback.archive import deleting
from ridgeback.book import profiles
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import answered, intent_of, writing
from ridgeback.home import choosing
from ridgeback.home.forms import NewHabitat
from ridgeback.language import wording
from ridgeback.planner import glances, revisions
from ridgeback.rooms.access import habitat_or_404, keeper_of, owned_rooms_of, rooms_of
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import cards, history

LOOK_DAYS = (8, 60)  # ahead, for the next feed: most eat within the week


def home(request: HttpRequest) -> HttpResponse:
    return redirect("rooms:habitats")


def habitats(request: HttpRequest) -> HttpResponse:
    """Every habitat of the keeper's rooms with its state."""
    keeper, today = keeper_of(request), clock.today()
    found = list(cards.habitats_with_cards(keeper))
    glances_of = glances.of_habitats(keeper, found, units_of(keeper))
    coming = next_feeds(found, today)
    rows = [
        {"habitat": habitat, "said": glances_of[habitat.pk]} | _feed(coming.get(habitat.pk), today)
        for habitat in found
        if habitat.pk in glances_of
    ]
    aside = Habitat.objects.filter(room__in=rooms_of(keeper), set_aside_at__isnull=False).only("name").order_by("name")
    context: dict[str, Any] = {"rows": rows, "aside": aside, "deletions": deleting.pending(keeper), "owned": owned_rooms_of(keeper)}
    if keeper.is_staff:
        context["backups"] = backups.told(clock.now())
    return render(request, "rooms/habitats.html", context)


def _feed(day: date | None, today: date) -> dict[str, Any]:
    return {"next_feed": day, "feeds_today": day == today}


def next_feeds(habitats: list[Habitat], today: date) -> dict[int, date]:
    """The next feed of each by its rota card."""
    habitats, made = cards.working(habitats, today)
    moves = history.moves_of(made, today)
    found: dict[int, date] = {}
    for ahead in LOOK_DAYS:
        for habitat in habitats:
            if habitat.pk in found:
                continue
            coming = cards.next_feed(made[habitat.pk], today, ahead, habitat.room.weekdays, moves.get(habitat.pk, {}))
            if coming is not None:
                found[habitat.pk] = coming
    return found


def new_habitat(request: HttpRequest) -> HttpResponse:
    """Choose species, animal and room; the first plan is solved for them."""
    keeper = keeper_of(request)
    rooms = list(rooms_of(keeper))
    begin = {"species": request.GET.get("species", "")}
    form = NewHabitat(request.POST or None, rooms=rooms, units=units_of(keeper), today=clock.today(), initial=begin)
    if request.method == "POST" and form.is_valid():
        room = next(room for room in rooms if str(room.pk) == form.cleaned_data["room"])
        try:
            profile = profiles.current(room.pk, form.cleaned_data["species"])[0]
        except UnknownSpeciesError:
            form.add_error("species", _("That profile belongs to another room."))
        else:
            plan = propose(form.cleaned_data["name"], profile, form.animal(), form.climate(), clock.today(), form.sides_m)
            if not check_places(plan):
                habitat = revisions.create(room, plan, keeper, clock.now(), key=intent_of(request).key)
                return _led_to(request, habitat)
            form.add_error("box", _("Nothing this animal needs fits into it. Plan with the recommended size and compare."))
    return render(request, "rooms/new.html", {"form": form, "examples": choosing.examples()})


@require_GET
def find_species(request: HttpRequest) -> HttpResponse:
    """The species a name means, as the choices of the form, the likeliest chosen."""
    rooms = [room.pk for room in rooms_of(keeper_of(request))]
    query = request.GET.get("find", "")[:60]
    hits = choosing.found(rooms, query)
    context = {"hits": hits, "sought": bool(query.strip()), "none": choosing.none_found(query)}
    return render(request, "rooms/_species.html", context)


@require_GET
def answer(request: HttpRequest) -> HttpResponse:
    """What the species is like, and what the plan will go by for the animal as far as it is typed."""
    keeper = keeper_of(request)
    rooms, units = list(rooms_of(keeper)), units_of(keeper)
    form = NewHabitat(request.GET, rooms=rooms, units=units, today=clock.today())
    animal, species = form.so_far(), request.GET.get("species", "")
    room = next((room for room in rooms if str(room.pk) == request.GET.get("room", "")), rooms[0] if rooms else None)
    context: dict[str, Any] = {}
    if species and room is not None:
        try:
            profile = profiles.current(room.pk, species)[0]
        except UnknownSpeciesError:
            return render(request, "rooms/_answer.html", context)
        context["like"] = choosing.like(profile, units)
        if animal is not None:
            context["answer"] = choosing.answer(profile, animal, form.sides_m, clock.today(), units)
    return render(request, "rooms/_answer.html", context)


def import_plan(request: HttpRequest) -> HttpResponse:
    """Read a plan document; every fault names its field, and nothing is half-imported."""
    keeper = keeper_of(request)
    rooms = list(rooms_of(keeper))
    problems: list[dict[str, str]] = []
    text = ""
    if request.method == "POST":
        room = _chosen_room(rooms, request.POST.get("room", ""))
        upload = request.FILES.get("file")
        text = request.POST.get("text", "")
        raw: bytes | str = upload.read(LARGEST_BYTES + 1) if upload else text
        try:
            plan = read_text(raw)
        except PlanProblems as found:
            units = units_of(keeper)
            problems = [{"path": item.path or _("the whole"), "text": wording.problem(item, units)} for item in found.problems]
        else:
            try:
                key = intent_of(request).key
                habitat = revisions.create(room, plan, keeper, clock.now(), kind=Event.Kind.IMPORTED, key=key)
            except UnknownSpeciesError:
                said = _("This room has no profile “%(species)s” of its own; bring it in first.") % {"species": plan.species}
                problems = [{"path": "species", "text": said}]
            else:
                return _led_to(request, habitat)
    return render(request, "rooms/import.html", {"rooms": rooms, "problems": problems, "text": text})


def _led_to(request: HttpRequest, habitat: Habitat) -> HttpResponse:
    """Go to a habitat that was made; a second press of the same goes there too."""
    answer = reverse("planner:bench", args=[habitat.pk])
    answered(intent_of(request), answer)
    return redirect(answer)


def _chosen_room(rooms: list[Room], text: str) -> Room:
    for room in rooms:
        if str(room.pk) == text or (not text and len(rooms) == 1):
            return room
    raise Http404


@require_POST
def set_aside(request: HttpRequest, pk: int) -> HttpResponse:
    """Take a habitat off the list; it can be brought back."""
    habitat = habitat_or_404(request, pk)
    with writing(intent_of(request), [pk]):
        Habitat.objects.filter(pk=pk, set_aside_at__isnull=True).update(set_aside_at=clock.now())
    messages.info(request, _("%(name)s is set aside; it waits below the list.") % {"name": habitat.name})
    return redirect("rooms:habitats")


@require_POST
def bring_back(request: HttpRequest, pk: int) -> HttpResponse:
    habitat_or_404(request, pk)
    with writing(intent_of(request), [pk]):
        Habitat.objects.filter(pk=pk).update(set_aside_at=None)
    return redirect("rooms:habitats")
