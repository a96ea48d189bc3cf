"""The review of what stands: described in a few minutes, judged by the models, and the one question that would change it most."""

from typing import Any, Final

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods
from pydantic import ValidationError

from husbandry.climate.heaters import HEATERS
from husbandry.setup_review.review import DoesNotFitError, Review, Standing
from husbandry.setup_review.review import review as reviewed
from husbandry.setup_review.to_do import When, to_do
from husbandry.setup_review.told import Told
from husbandry.setup_review.unknowns import answered, unknowns
from husbandry.species.book import UnknownSpeciesError, find
from husbandry.species.profile import Profile
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.book import profiles
from ridgeback.drawing.marks import chance_text
from ridgeback.language import reviewwords, wording
from ridgeback.language.names import CHOICES
from ridgeback.planner.once import once_small
from ridgeback.reviewing import forms
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.units import KeeperUnits

MOST_RIGHT: Final = 8
SEEN: Final = ("over", "under", "wall")  # where a heater is that is told here


@require_http_methods(["GET", "POST"])
def review(request: HttpRequest) -> HttpResponse:
    """The form, and below it, posted, the review of what was told. Nothing is kept."""
    units, rooms = units_of(request.user), [room.pk for room in rooms_of(keeper_of(request))]
    if request.method == "GET":
        return render(request, "reviewing/review.html", _form(forms.blank(), rooms))
    bound = forms.Bound(request.POST, units)
    known = dict(profiles.choices(rooms))
    told, faults = bound.told, list(bound.faults)
    if told is not None and told.species not in known:
        faults.append(forms.not_there(told.species))
    if told is None or faults:
        return _refused(request, faults, rooms)
    told = _with_answer(told, request.POST.get("answer", ""))
    profile = _profile(told.species, rooms)
    today, key = clock.today(), told.model_dump_json()
    try:
        found = once_small(("review", key, profile.model_dump_json(), today), lambda: reviewed(told, profile, today))
    except (DoesNotFitError, ValidationError):
        return _refused(request, [_("That does not fit into a box of this size: look at its height and its ground.")], rooms)
    context = _form(forms.typed(told, units), rooms) | _said(found, told, units) | {"name": known[told.species]}
    return render(request, "reviewing/review.html", context)


def _profile(species: str, rooms: list[int]) -> Profile:
    """The profile of a species, a keeper's own one out of the room that has it. Raises UnknownSpeciesError."""
    for room in rooms:
        try:
            return profiles.current(room, species)[0]
        except UnknownSpeciesError:
            continue
    return find(species)


def _refused(request: HttpRequest, faults: list[str], rooms: list[int]) -> HttpResponse:
    context = _form(forms.as_typed(request.POST), rooms) | {"faults": list(dict.fromkeys(faults))}
    return render(request, "reviewing/review.html", context, status=422)


def _with_answer(told: Told, text: str) -> Told:
    """What was told, with the answer that was pressed; one that is not asked any more changes nothing."""
    path, _bar, index = text.partition("|")
    asked = next((one for one in unknowns(told) if one.path == path), None)
    if asked is None or not index.isdigit() or int(index) >= len(asked.answers):
        return told
    return answered(told, {path: asked.answers[int(index)]})


def _form(fields: dict[str, Any], rooms: list[int]) -> dict[str, Any]:
    return {
        "fields": forms.too_few(fields),
        "species": profiles.choices(rooms),
        "kinds": list(CHOICES["enclosure"].items()),
        "grown": list(reviewwords.GROWN.items()),
        "lids": list(reviewwords.LIDS.items()),
        "grounds": list(CHOICES["ground"].items()),
        "heater_kinds": [(key, text) for key, text in CHOICES["heater"].items() if HEATERS[key].place in SEEN],
        "tube_kinds": list(CHOICES["tube"].items()),
        "ends": list(reviewwords.ENDS.items()),
        "sure": [("?", _("I do not know")), ("yes", _("yes")), ("no", _("no"))],
    }


def _said(found: Review, told: Told, units: KeeperUnits) -> dict[str, Any]:
    """A review in words."""
    rows = to_do(found)
    ask = found.ask
    return {
        "reviewed": True,
        "times": [
            {
                "name": reviewwords.WHENS[when],
                "rows": [
                    _row(row.standing, units) | {"later": reviewwords.WHENS[row.mended] if row.mended is not row.when else ""}
                    for row in rows
                    if row.when is when
                ],
            }
            for when in When
        ],
        "possible": [_row(one, units) for one in found.findings if not one.certain],
        "question": None
        if ask is None
        else {
            "text": reviewwords.asked(ask.unknown, told),
            "share": f"{100 * ask.share:.0f}",
            "answers": [
                (f"{ask.unknown.path}|{index}", reviewwords.answer(ask.unknown.asks, value, units))
                for index, value in enumerate(ask.unknown.answers)
            ],
        },
        "open": len(found.questions),
        "right": list(dict.fromkeys(wording.name(item) for item in found.right))[:MOST_RIGHT],
    }


def _row(one: Standing, units: KeeperUnits) -> dict[str, Any]:
    return {
        "said": wording.finding(one.finding, units),
        "severity": one.finding.severity.value,
        "chance": chance_text(one.share),
    }
