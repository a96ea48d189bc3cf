"""The pages of the daybook: a timeline, writing an entry, correcting it, taking it back."""

from typing import Any, Final
from urllib.parse import quote

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from husbandry.assessment import Measure
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook import entries
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Refused, intent_of
from ridgeback.keeping import photo_pages, timeline
from ridgeback.keeping.access import animal_or_404, event_or_404
from ridgeback.keeping.actions.entries import (
    DoubtfulEntryError,
    Whose,
    correct_entry,
    take_back_entry,
    whose_animal,
    write_entry,
    write_entry_surely,
)
from ridgeback.keeping.correcting import OtherForm, other_form
from ridgeback.keeping.entry_forms import EntryForm, Offers, at_its_field
from ridgeback.keeping.timeline import Wanted
from ridgeback.language import dates, entrywords
from ridgeback.language.names import CHOICES
from ridgeback.planner import mapping
from ridgeback.rooms.access import habitat_or_404, room_or_404
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rooms.residents import living_in
from ridgeback.units import written
from ridgeback.web.addresses import own_address

# What is pressed most stands first.
OF_ANIMAL: Final = (
    *("animal.weighed", "animal.shed", "animal.droppings", "animal.behaviour", "animal.sign", "note", "photo"),
    *("animal.measured", "animal.condition", "animal.soaked", "animal.handled", "animal.regurgitated", "animal.screened"),
    *("animal.treated", "breeding.paired", "breeding.courtship", "breeding.gravid", "breeding.clutch"),
    *("breeding.candled", "breeding.hatched"),
)
OF_HABITAT: Final = ("habitat.cleaned", "habitat.water", "habitat.lamp", "animal.droppings", "animal.behaviour", "note", "photo")
FEMALES: Final = ("breeding.gravid", "breeding.clutch")


@require_GET
def of_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """A habitat's daybook."""
    habitat = habitat_or_404(request, pk)
    here = [one.animal for one in living_in([pk])[pk]]
    context = {"habitat": habitat, "kinds": _choices(OF_HABITAT), "write": "keeping:write-habitat", "about": pk, "residents": here}
    return _timeline(request, timeline.of_habitat(habitat), context)


@require_GET
def of_animal(request: HttpRequest, pk: int) -> HttpResponse:
    """An animal's daybook."""
    animal = animal_or_404(request, pk)
    context = {"animal": animal, "kinds": _choices(_kinds_for(animal)), "write": "keeping:write-animal", "about": pk}
    return _timeline(request, timeline.of_animal(animal), context)


@require_GET
def of_room(request: HttpRequest, pk: int) -> HttpResponse:
    """A room's daybook: everything of all its habitats and animals."""
    room = room_or_404(request, pk)
    context = {"room": room, "kinds": _choices(("note", "photo")), "write": "keeping:write-room", "about": pk}
    return _timeline(request, timeline.of_room(room), context)


def _timeline(request: HttpRequest, found: Any, context: dict[str, Any]) -> HttpResponse:
    wanted = Wanted.of(request.GET)
    rows, older = timeline.page(found, wanted, units_of(request.user))
    groups = [("", _("everything"), wanted.query(of=""))]
    groups += [(code, str(words[0]), wanted.query(of=code)) for code, words in entrywords.GROUPS.items()]
    more = {
        "days": timeline.by_day(rows),
        "wanted": wanted,
        "groups": groups,
        "older": wanted.query(before=older) if older else "",
        "with_struck": wanted.query(struck="" if wanted.struck else "1"),
        "here": quote(request.get_full_path(), safe=""),
    }
    return render(request, "keeping/daybook.html", context | more)


def _choices(kinds: tuple[str, ...]) -> list[tuple[str, str]]:
    return [(kind.replace(".", "-"), str(entrywords.KINDS[kind].write)) for kind in kinds]


def _kinds_for(animal: Animal) -> tuple[str, ...]:
    return tuple(kind for kind in OF_ANIMAL if kind not in FEMALES or animal.sex != Animal.Sex.MALE)


def _kind(slug: str, allowed: tuple[str, ...]) -> str:
    kind = next((kind for kind in allowed if kind.replace(".", "-") == slug), None)
    if kind is None:
        raise Http404
    return kind


@require_http_methods(["GET", "POST"])
def write_animal(request: HttpRequest, pk: int, slug: str) -> HttpResponse:
    """Write an entry of an animal."""
    animal = animal_or_404(request, pk)
    back = reverse("keeping:animal-daybook", args=[pk])
    return _write(request, whose_animal(animal), _kind(slug, OF_ANIMAL), {"animal": animal}, back)


@require_http_methods(["GET", "POST"])
def write_habitat(request: HttpRequest, pk: int, slug: str) -> HttpResponse:
    """Write an entry of a habitat; one of an animal is that of the one that lives there alone."""
    habitat = habitat_or_404(request, pk)
    kind = _kind(slug, OF_HABITAT)
    here = [one.animal for one in living_in([pk])[pk]]
    animal = here[0] if len(here) == 1 and kind in entries.OF_EITHER and kind.startswith("animal.") else None
    whose = Whose(habitat.room_id, habitat, animal)
    return _write(request, whose, kind, {"habitat": habitat}, reverse("keeping:habitat-daybook", args=[pk]))


@require_http_methods(["GET", "POST"])
def write_room(request: HttpRequest, pk: int, slug: str) -> HttpResponse:
    """Write a note of a room."""
    room = room_or_404(request, pk)
    back = reverse("keeping:room-daybook", args=[pk])
    return _write(request, Whose(room.pk), _kind(slug, ("note", "photo")), {"room": room}, back)


def _write(request: HttpRequest, whose: Whose, kind: str, context: dict[str, Any], back: str) -> HttpResponse:
    if kind == Event.Kind.PHOTO:
        return photo_pages.write(request, whose, context, back)
    form = EntryForm(request.POST or None, kind=kind, units=units_of(request.user), now=clock.now(), offers=_offers(whose, kind))
    if request.method == "POST" and form.is_valid():
        sure = request.POST.get("sure") == "yes"
        try:
            write = write_entry_surely if sure else write_entry
            event = write(whose, intent_of(request), form.at(), kind, form.payload(), clock.today())
        except DoubtfulEntryError as doubt:
            context["doubt"] = _doubt(doubt, form, request)
        except Refused as refused:
            at_its_field(form, refused)
        else:
            messages.info(request, _("Written down."))
            urgent = kind == Event.Kind.SIGN and form.cleaned_data.get("what")
            if urgent:
                said = entrywords.TODAY if urgent in entrywords.URGENT else entrywords.SHOW
                messages.warning(request, str(said))
            if kind == Event.Kind.BEHAVED and event.habitat_id and form.cleaned_data["what"] != "normal":
                return redirect("keeping:meaning", event.pk)
            return redirect(own_address(request, request.POST.get("next", "")) or back)
    return _form_page(request, form, kind, context | {"back": own_address(request, request.GET.get("next", "")) or back})


def _form_page(request: HttpRequest, form: EntryForm | OtherForm, kind: str, context: dict[str, Any]) -> HttpResponse:
    words = entrywords.KINDS[kind]
    told = {"form": form, "title": words.write or words.name, "caution": words.caution, "kind": kind}
    status = 422 if form.errors or context.get("doubt") else 200
    return render(request, "keeping/write.html", told | context, status=status)


def _doubt(doubt: DoubtfulEntryError, form: EntryForm, request: HttpRequest) -> str:
    units = units_of(request.user)
    return _("It weighed %(before)s on %(day)s, and now %(now)s: is that right?") % {
        "before": units.say(Measure(doubt.before_kg, "kg")),
        "day": dates.shown(doubt.day, "j F Y"),
        "now": units.say(Measure(form.cleaned_data["mass_kg"], "kg")),
    }


def _offers(whose: Whose, kind: str) -> Offers:
    """What the fields of a kind choose from."""
    if kind.startswith("breeding.") and whose.animal is not None:
        animal = whose.animal
        others = Animal.objects.filter(room=animal.room_id, species=animal.species, left_on__isnull=True).exclude(pk=animal.pk)
        partners = [(str(one.pk), one.called) for one in others if one.sex != animal.sex or one.sex == "unknown"]
        laid = Event.objects.filter(animal=animal, kind=Event.Kind.LAID).order_by("-at")[:20]
        clutches = [(str(one.pk), dates.shown(one.at, "j F Y")) for one in laid]
        return {"partner": partners, "clutch": clutches}
    if kind == Event.Kind.LAMP_CHANGED and whose.habitat is not None:
        return {"part": lamps_of(whose.habitat)}
    return {}


def lamps_of(habitat: Habitat) -> list[tuple[str, str]]:
    """The lamps and heaters of a habitat's plan by their paths, in words."""
    plan = mapping.plan_of(habitat)
    tubes = [(f"uv_lamps.{at}", str(CHOICES["tube"][lamp.kind])) for at, lamp in enumerate(plan.uv_lamps)]
    heaters = [(f"heaters.{at}", f"{CHOICES['heater'][one.kind]}, {written(one.watts)} W") for at, one in enumerate(plan.heaters)]
    return [*tubes, *heaters]


@require_http_methods(["GET", "POST"])
def correct(request: HttpRequest, pk: int) -> HttpResponse:
    """Write an entry anew; the one before stays, struck."""
    event = event_or_404(request, pk)
    row = timeline.row(event, units_of(request.user))
    if not row.correctable:
        raise Http404
    back = own_address(request, request.POST.get("next", "") or request.GET.get("next", "")) or _home_of(event)
    form = _correcting(request, event)
    context: dict[str, Any] = {"animal": event.animal} if event.animal else {"habitat": event.habitat} if event.habitat else {}
    if request.method == "POST" and form.is_valid():
        sure = request.POST.get("sure") == "yes"
        try:
            correct_entry(pk, intent_of(request), form.at(), form.payload(), clock.today(), sure=sure)
        except DoubtfulEntryError as doubt:
            assert isinstance(form, EntryForm)
            context["doubt"] = _doubt(doubt, form, request)
        except Refused as refused:
            at_its_field(form, refused)
        else:
            messages.info(request, _("Corrected; the entry before is kept, struck through."))
            return redirect(back)
    return _form_page(request, form, event.kind, context | {"back": back, "corrects": row})


def _correcting(request: HttpRequest, event: Event) -> EntryForm | OtherForm:
    units, posted = units_of(request.user), request.POST or None
    if event.kind in timeline.CORRECTED_OTHERWISE:
        return other_form(posted, event, units, clock.now())
    whose = Whose(event.room_id, event.habitat, event.animal)
    offers = _offers(whose, event.kind)
    return EntryForm(posted, kind=event.kind, units=units, now=clock.now(), corrects=event, offers=offers)


def _home_of(event: Event) -> str:
    if event.animal_id:
        return reverse("keeping:animal-daybook", args=[event.animal_id])
    if event.habitat_id:
        return reverse("keeping:habitat-daybook", args=[event.habitat_id])
    return reverse("keeping:room-daybook", args=[event.room_id])


@require_POST
def take_back(request: HttpRequest, pk: int) -> HttpResponse:
    """Take an entry back."""
    event = event_or_404(request, pk)
    take_back_entry(pk, intent_of(request), clock.today())
    messages.info(request, _("Taken back; it stands in the daybook, struck through."))
    return redirect(own_address(request, request.POST.get("next", "")) or _home_of(event))
