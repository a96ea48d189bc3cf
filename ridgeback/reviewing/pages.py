"""The review of what stands: described in a few minutes, judged by the models, and the one question that would change it most."""

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST
from pydantic import ValidationError

from husbandry import numerals
from husbandry.setup_review.proposal import Proposal, likeliest
from husbandry.setup_review.proposal import propose as core_propose
from husbandry.setup_review.review import DoesNotFitError, Review, plan_of
from husbandry.setup_review.review import review as core_review
from husbandry.setup_review.told import Told
from husbandry.setup_review.unknowns import answered, unknowns
from husbandry.species.book import UnknownSpeciesError, find
from husbandry.species.profile import Profile
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import profiles
from ridgeback.daybook.writing import answered as answered_with
from ridgeback.daybook.writing import intent_of
from ridgeback.money.reckoning import purse_of
from ridgeback.planner import revisions
from ridgeback.planner.once import once, once_small
from ridgeback.reviewing import forms, tokens, told_drawing, words
from ridgeback.reviewing.visitors import for_visitors
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.rooms.models import Room
from ridgeback.units import METRIC, US, KeeperUnits
from ridgeback.web.paper import printed

MOST_OTHERS = 12  # set-ups of one keeper in a row
DRAWING_COSTS, REVIEW_COSTS, PROPOSAL_COSTS = 0.25, 1.0, 3.0  # about the seconds that each takes


class Desk:
    """Who looks: their units, their rooms, what they told before, and the set-ups beside this one."""

    def __init__(self, request: HttpRequest) -> None:
        said = request.POST if request.method == "POST" else request.GET
        self.keeps = request.user.is_authenticated
        self.rooms: list[Room] = list(rooms_of(keeper_of(request))) if self.keeps else []
        self.room_ids = [room.pk for room in self.rooms]
        self.in_us_units = not self.keeps and said.get("u") == "us"
        self.units: KeeperUnits = units_of(request.user) if self.keeps else US if self.in_us_units else METRIC
        self.today = clock.today()
        self.before = tokens.told_of(said.get("b", ""))
        self.others = [told for text in said.getlist("o")[:MOST_OTHERS] if (told := tokens.told_of(text)) is not None]
        self.known = dict(profiles.choices(self.room_ids))

    def profile(self, species: str) -> Profile:
        """The profile of a species, a keeper's own one out of the room that has it. Raises UnknownSpeciesError."""
        for room in self.room_ids:
            try:
                return profiles.current(room, species)[0]
            except UnknownSpeciesError:
                continue
        return find(species)

    def reviewed(self, told: Told) -> Review:
        """What a set-up comes to. Raises DoesNotFitError, pydantic.ValidationError."""
        profile = self.profile(told.species)
        key = ("review", told.model_dump_json(), profile.model_dump_json(), self.today)
        return once_small(key, lambda: core_review(told, profile, self.today))

    def proposed(self, told: Told) -> Proposal:
        """What is proposed instead. Raises pydantic.ValidationError."""
        profile = self.profile(told.species)
        key = ("proposal", told.model_dump_json(), profile.model_dump_json(), self.today)
        return once(key, lambda: core_propose(told, profile, self.today))

    def name_of(self, told: Told) -> str:
        """What a set-up is called: by its keeper, else by its species."""
        return told.name or self.known.get(told.species, told.species)

    def carried(self) -> dict[str, Any]:
        """What the page carries along."""
        return {
            "keeps": self.keeps,
            "rooms": self.rooms,
            "in_us_units": self.in_us_units,
            "before": tokens.text_of(self.before) if self.before else "",
            "others": [
                {"text": tokens.text_of(told), "name": told.name or self.known.get(told.species, told.species)}
                for told in self.others
            ],
        }


@for_visitors(REVIEW_COSTS)
@require_http_methods(["GET", "POST"])
def review(request: HttpRequest) -> HttpResponse:
    """The form, and below it the review of what was told; of an address that tells it, the same. Nothing is kept."""
    desk = Desk(request)
    if request.method == "GET":
        told = tokens.told_of(request.GET.get("t", ""))
        if told is None or told.species not in desk.known:
            faults = [_("That address holds no set-up: tell it here.")] if "t" in request.GET else []
            return render(request, "reviewing/review.html", _form(forms.blank(), desk) | {"faults": faults})
        return _looked_at(request, told, desk)
    bound = forms.PostedSetup(request.POST, desk.units)
    told, faults = bound.told, list(bound.faults)
    if told is not None and told.species not in desk.known:
        faults.append(forms.not_there(told.species))
    if told is None or faults:
        return _refused(request, faults, desk)
    then = request.POST.get("then", "")
    if then == "another":
        desk.others, desk.before = [*desk.others, told][-MOST_OTHERS:], None
        fields = forms.typed(told, desk.units)
        return render(request, "reviewing/review.html", _form(forms.blank(**{name: fields[name] for name in forms.SHARED}), desk))
    if then == "changed":
        desk.before = told
        return render(request, "reviewing/review.html", _form(forms.typed(told, desk.units), desk) | {"changing": True})
    return _looked_at(request, _with_answer(told, request.POST.get("answer", "")), desk)


def _looked_at(request: HttpRequest, told: Told, desk: Desk) -> HttpResponse:
    try:
        found = desk.reviewed(told)
        before = desk.reviewed(desk.before) if desk.before is not None else None
    except (DoesNotFitError, ValidationError, UnknownSpeciesError):
        return _refused(request, [_("That does not fit into a box of this size: look at its height and its ground.")], desk, told)
    text = tokens.text_of(told)
    context = (
        _form(forms.typed(told, desk.units), desk, told)
        | words.said(found, told, desk.units)
        | words.since(before, found, desk.units)
    )
    address = request.build_absolute_uri(f"{reverse('reviewing:review')}?{_query(desk, text)}")
    link = {"text": text, "address": address, "query": _query(desk, text), "called": desk.name_of(told)}
    return render(request, "reviewing/review.html", context | link)


def _query(desk: Desk, text: str) -> str:
    """The part of an address that tells a set-up, and what is carried along with it."""
    carried = desk.carried()
    parts = [f"t={text}"]
    parts += [f"b={carried['before']}"] if carried["before"] else []
    parts += [f"o={one['text']}" for one in carried["others"]]
    return "&".join([*parts, *(["u=us"] if desk.in_us_units else [])])


def _refused(request: HttpRequest, faults: list[str], desk: Desk, told: Told | None = None) -> HttpResponse:
    fields = forms.as_typed(request.POST) if told is None or request.method == "POST" else forms.typed(told, desk.units)
    context = _form(fields, desk) | {"faults": list(dict.fromkeys(faults))}
    return render(request, "reviewing/review.html", context, status=422)


def _with_answer(told: Told, text: str) -> Told:
    """What was told, with the answer that was pressed; one that is not asked any more changes nothing."""
    path, _bar, index = text.partition("|")
    asked = next((one for one in unknowns(told) if one.path == path), None)
    at = numerals.place(index)
    if asked is None or at is None or at >= len(asked.answers):
        return told
    return answered(told, {path: asked.answers[at]})


def _form(fields: dict[str, Any], desk: Desk, told: Told | None = None) -> dict[str, Any]:
    drawing = _drawn(told, desk) if told is not None else {}
    readings = [{"name": name, "text": text, "value": fields[name]} for name, text in words.READ]
    told_so_far = {"fields": forms.too_few(fields), "species": desk.known.items(), "readings": readings}
    return told_so_far | words.choices() | desk.carried() | drawing


def _drawn(told: Told, desk: Desk) -> dict[str, Any]:
    try:
        profile = desk.profile(told.species)
        key = ("told drawing", told.model_dump_json(), profile.model_dump_json(), desk.today, desk.units)
        return once(key, lambda: told_drawing.drawn(told, profile, desk.today, desk.units))
    except (ValidationError, UnknownSpeciesError):
        return {}


@for_visitors(DRAWING_COSTS)
@require_POST
def drawing(request: HttpRequest) -> HttpResponse:
    """What was told so far, drawn; of a form that cannot be read yet, nothing but what it lacks."""
    desk = Desk(request)
    bound = forms.PostedSetup(request.POST, desk.units)
    told = bound.told if not bound.faults else None
    found = _drawn(told, desk) if told is not None and told.species in desk.known else {}
    return render(request, "reviewing/_drawing.html", found)


def _posted(request: HttpRequest, desk: Desk) -> Told:
    told = tokens.told_of((request.POST if request.method == "POST" else request.GET).get("t", ""))
    if told is None or told.species not in desk.known:
        raise Http404
    return told


@for_visitors(PROPOSAL_COSTS)
@require_http_methods(["GET", "POST"])
def proposed(request: HttpRequest) -> HttpResponse:
    """Today's layout beside the proposed one, what mends each finding, what is bought and how long it takes."""
    desk = Desk(request)
    told = _posted(request, desk)
    try:
        found, made = desk.reviewed(told), desk.proposed(told)
    except (DoesNotFitError, ValidationError):
        raise Http404 from None
    purse = purse_of(desk.room_ids[0])[0] if desk.room_ids else None
    profile = desk.profile(told.species)
    pictures = {
        "now": told_drawing.picture(made.before, profile, made.found_before, desk.units),
        "then": told_drawing.picture(made.after, profile, made.found_after, desk.units),
        "plan_now": made.before,
        "plan_then": made.after,
    }
    context = (
        words.proposed(found, made, purse, desk.units) | pictures | desk.carried() | {"text": tokens.text_of(told), "told": told}
    )
    return render(request, "reviewing/_proposed.html", context)


@for_visitors(PROPOSAL_COSTS)
@require_GET
def paper(request: HttpRequest) -> HttpResponse:
    """The review on paper: one sheet for each set-up."""
    desk = Desk(request)
    sheets = []
    for told in (*desk.others, _posted(request, desk)):
        if told.species not in desk.known:
            continue
        try:
            found, made = desk.reviewed(told), desk.proposed(told)
        except (DoesNotFitError, ValidationError):
            continue
        profile = desk.profile(told.species)
        sheets.append(
            words.said(found, told, desk.units)
            | words.proposed(found, made, None, desk.units)
            | {
                "called": desk.name_of(told),
                "species": desk.known[told.species],
                "box": forms.typed(told, desk.units)["box"],
                "now": told_drawing.picture(made.before, profile, made.found_before, desk.units),
                "then": told_drawing.picture(made.after, profile, made.found_after, desk.units),
                "plan_now": made.before,
                "plan_then": made.after,
            }
        )
    return printed("reviewing/paper.html", {"sheets": sheets, "made": clock.now()}, "review")


@require_POST
def start(request: HttpRequest) -> HttpResponse:
    """Make a habitat of what stands, or of what is proposed."""
    desk = Desk(request)
    told = _posted(request, desk)
    room = next((room for room in desk.rooms if str(room.pk) == request.POST.get("room", "")), None)
    if room is None:
        raise Http404
    profile = desk.profile(told.species)
    try:
        stands = plan_of(likeliest(told), profile, desk.today)
        plan = desk.proposed(told).after if request.POST.get("which") == "proposed" else stands
    except ValidationError:
        raise Http404 from None
    plan = plan.model_copy(update={"name": told.name or _("What stands: %(species)s") % {"species": desk.known[told.species]}})
    intent = intent_of(request)
    try:
        habitat = revisions.create(room, plan, keeper_of(request), clock.now(), key=intent.key)
    except UnknownSpeciesError:
        messages.error(request, _("This room has no profile of its own for that species; bring it in first."))
        return redirect(f"{reverse('reviewing:review')}?{_query(desk, tokens.text_of(told))}")
    answer = reverse("planner:bench", args=[habitat.pk])
    answered_with(intent, answer)
    return redirect(answer)
