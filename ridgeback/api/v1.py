"""The first version of the API: the same actions that the pages have, as JSON, one room for each token."""

import math
from datetime import date, timedelta
from typing import Any, Final

from django.core.exceptions import PermissionDenied
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.utils.translation import gettext as _
from ninja import Body, NinjaAPI, Query, Schema, Status
from ninja.errors import HttpError
from pydantic import Field, ValidationError

from husbandry.assess.report import report
from husbandry.assess.vetting import advise
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.rota.card import RoomDays
from husbandry.setup_review.review import DoesNotFitError
from husbandry.setup_review.review import review as core_review
from husbandry.setup_review.to_do import to_do
from husbandry.setup_review.told import Told
from husbandry.species.book import UnknownSpeciesError, find
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.api.access import Bearer, TooOftenError, may, once
from ridgeback.api.models import Token
from ridgeback.daybook.models import Event
from ridgeback.keeping.actions.round_entries import Sent, write_round
from ridgeback.language import rotawords, wording
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.planner.mapping import UnreadablePlanError
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rota import cards, history, menu
from ridgeback.units import METRIC

MOST_DAYS: Final = 62
MOST_ENTRIES: Final = 500

api = NinjaAPI(
    title="Ridgeback",
    version="1",
    description="Habitats, plans, animals, what is due and what was written down of one room. Quantities are SI, temperatures °C.",
    auth=Bearer(),
    openapi_url=None,
    docs_url=None,
    urls_namespace="api-v1",
)


class RoomOut(Schema):
    """The room of a token, and what the token may do in it."""

    id: int
    name: str
    scopes: list[str]


class HabitatOut(Schema):
    """A habitat; `version` counts its saved plans."""

    id: int
    name: str
    species: str
    version: int


class PlanOut(HabitatOut):
    """A habitat with its plan, a document of ridgeback-plan/2 (docs/plan-format.schema.json)."""

    plan: dict[str, Any]


class PlanIn(Schema):
    """A plan, and the version that it was changed from."""

    version: int = Field(ge=1, le=2**31 - 1)
    plan: dict[str, Any]


class AnimalOut(Schema):
    """An animal; `habitat` is where it lives today, null for nowhere of ours."""

    id: int
    name: str
    species: str
    sex: str
    hatched: date | None
    habitat: int | None


class DueOut(Schema):
    """Something due: a feed, or a chore by its key, on a day; `late` tells that it was due before."""

    habitat: int
    day: date
    job: str
    words: str
    food: str = ""
    powders: list[str] = []
    late: bool = False


class EntryOut(Schema):
    """What was written down: what kind, when, by whom, about what."""

    id: int
    kind: str
    at: str
    author: str
    habitat: int | None
    animal: int | None
    payload: dict[str, Any]


class EntriesIn(Schema):
    """Entries, each with a key of its own, by which it is written once."""

    entries: list[Sent] = Field(max_length=100)


class AnswerOut(Schema):
    """What became of one entry: written, already, refused or asked, and why."""

    key: str
    state: str
    said: str


class ErrorOut(Schema):
    """Why it was not done; `problems` has every fault of a document, by its path."""

    error: str
    problems: list[dict[str, str]] = []


REFUSALS: Final = {400: ErrorOut, 401: ErrorOut, 403: ErrorOut, 404: ErrorOut, 422: ErrorOut, 429: ErrorOut}


@api.exception_handler(HttpError)
def _refused(request: HttpRequest, error: HttpError) -> HttpResponse:
    return api.create_response(request, {"error": str(error), "problems": []}, status=error.status_code)


@api.exception_handler(TooOftenError)
def _too_often(request: HttpRequest, error: TooOftenError) -> HttpResponse:
    answer = api.create_response(request, {"error": "That is too often.", "problems": []}, status=429)
    answer["Retry-After"] = str(math.ceil(error.wait_s))
    return answer


@api.exception_handler(PermissionDenied)
def _denied(request: HttpRequest, _error: PermissionDenied) -> HttpResponse:
    return api.create_response(request, {"error": "The keeper of this token may not do that.", "problems": []}, status=403)


@api.exception_handler(UnreadablePlanError)
def _unreadable(request: HttpRequest, _error: UnreadablePlanError) -> HttpResponse:
    return api.create_response(
        request, {"error": "The plan that is kept cannot be read: open it in the program.", "problems": []}, status=409
    )


def install_errors() -> None:
    """Say what ninja itself refuses the way everything else is said."""
    from ninja.errors import AuthenticationError
    from ninja.errors import ValidationError as Invalid

    @api.exception_handler(AuthenticationError)
    def _nobody(request: HttpRequest, _error: AuthenticationError) -> HttpResponse:
        answer = api.create_response(request, {"error": "A token is missing, not known or ended.", "problems": []}, status=401)
        answer["WWW-Authenticate"] = "Bearer"
        return answer

    @api.exception_handler(Invalid)
    def _invalid(request: HttpRequest, error: Invalid) -> HttpResponse:
        said = [{"path": ".".join(map(str, item["loc"])), "said": str(item["msg"])} for item in error.errors[:20]]
        return api.create_response(request, {"error": "That is no such request.", "problems": said}, status=422)


install_errors()


def _habitats(token: Token) -> QuerySet[Habitat]:
    return (
        Habitat.objects.filter(room=token.room_id, set_aside_at__isnull=True)
        .select_related("company", "room")
        .order_by("place", "name", "id")
    )


def _habitat(token: Token, pk: int) -> Habitat:
    found = _habitats(token).filter(pk=pk).first() if 0 < pk < 2**53 else None
    if found is None:
        raise HttpError(404, "There is no such habitat in this room.")
    return found


def _out(habitat: Habitat) -> dict[str, Any]:
    return {"id": habitat.pk, "name": habitat.name, "species": habitat.species, "version": habitat.version}


@api.get("/room", response={200: RoomOut, **REFUSALS})
def room(request: HttpRequest) -> Any:
    """The room of this token."""
    token = may(request, "read")
    return {"id": token.room_id, "name": token.room.name, "scopes": token.scopes}


@api.get("/habitats", response={200: list[HabitatOut], **REFUSALS})
def habitats(request: HttpRequest) -> Any:
    """The habitats in use, in their walking order."""
    return [_out(one) for one in _habitats(may(request, "read"))]


@api.get("/habitats/{pk}/plan", response={200: PlanOut, 409: ErrorOut, **REFUSALS})
def plan(request: HttpRequest, pk: int) -> Any:
    """A habitat with its plan."""
    found = _habitat(may(request, "read"), pk)
    return _out(found) | {"plan": mapping.plan_of(found).model_dump(mode="json")}


@api.put("/habitats/{pk}/plan", response={200: HabitatOut, 409: ErrorOut, **REFUSALS})
def save_plan(request: HttpRequest, pk: int, sent: PlanIn) -> Any:
    """Save a plan that was changed from a version.

    What somebody else changed meanwhile stays changed; 409 where both changed the same.
    """
    token = may(request, "plan")
    found = _habitat(token, pk)

    def work() -> tuple[int, Any]:
        try:
            made = read_data(sent.plan)
        except PlanProblems as faults:
            return 422, {"error": "That is no plan.", "problems": [_problem(one) for one in faults.problems]}
        if sent.version > found.version:
            raise HttpError(409, "There is no such version of this plan yet.")
        try:
            saved = revisions.save(
                found.pk, made, sent.version, token.made_by, clock.now(), later(lambda: _("by %(name)s") % {"name": token.name})
            )
        except revisions.StaleEditError:
            raise HttpError(409, "The same was changed elsewhere since that version; read the plan again.") from None
        except UnknownSpeciesError:
            raise HttpError(422, "The book has no such species.") from None
        return 200, _out(saved)

    return Status(*once(request, token, work))


def _problem(one: Any) -> dict[str, str]:
    return {"path": one.path, "said": wording.problem(one, METRIC)}


@api.get("/habitats/{pk}/assessment", response={200: dict[str, Any], 409: ErrorOut, **REFUSALS})
def assessment(request: HttpRequest, pk: int) -> Any:
    """What the models and rules make of a plan as it stands (docs/plan-format.md)."""
    found = _habitat(may(request, "read"), pk)
    return report(advise(mapping.plan_of(found), revisions.profile_of(found), clock.today()))


@api.get("/due", response={200: list[DueOut], **REFUSALS})
def due(request: HttpRequest, begin: date | None = Query(None), days: int = Query(1, ge=1, le=MOST_DAYS)) -> Any:  # noqa: B008
    """What is due from a day on (today, where none is named), late first on its first day."""
    token, today = may(request, "read"), clock.today()
    first = begin or today
    if not timedelta(0) <= first - today <= timedelta(days=MOST_DAYS):
        raise HttpError(422, f"What is due is told from today on, for {MOST_DAYS} days.")
    there = list(_habitats(token))
    made = cards.of_habitats(there, today)
    moves = history.moves_of(list(made), today)
    found: list[dict[str, Any]] = []
    for habitat in there:
        if habitat.pk not in made:
            continue
        card = made[habitat.pk]
        ahead = cards.span(card, first, days, RoomDays(today, tuple(token.room.weekdays), moves.get(habitat.pk, {})))
        for feed in ahead.feeds:
            powders = [item.product.name for item in ahead.dusting[feed.day]]
            said = {"words": str(rotawords.FEED.name), "food": menu.foods_text(ahead.foods.get(feed.day, ())), "powders": powders}
            found.append({"habitat": habitat.pk, "day": feed.day, "job": "feed", "late": feed.late, **said})
        for item in ahead.jobs:
            if rotawords.known(item.id):
                words = str(rotawords.job(item.id).name)
                found.append({"habitat": habitat.pk, "day": item.day, "job": item.id, "words": words, "late": item.late})
    return sorted(found, key=lambda one: (one["day"], not one["late"]))


@api.get("/animals", response={200: list[AnimalOut], **REFUSALS})
def animals(request: HttpRequest) -> Any:
    """The animals that live here."""
    token = may(request, "read")
    there = Animal.objects.filter(room=token.room_id, left_on__isnull=True).prefetch_related("residences").order_by("id")
    return [_animal(one) for one in there]


def _animal(one: Animal) -> dict[str, Any]:
    home = next((stay.habitat_id for stay in one.residences.all() if stay.until is None), None)
    return {"id": one.pk, "name": one.called, "species": one.species, "sex": one.sex, "hatched": one.hatched, "habitat": home}


@api.get("/entries", response={200: list[EntryOut], **REFUSALS})
def entries(request: HttpRequest, before: int | None = Query(None, ge=1, le=2**53)) -> Any:
    """What was written down, newest first, five hundred at a time; `before` is the last one's id of the page before."""
    token = may(request, "read")
    rows = Event.objects.filter(room=token.room_id).select_related("author").order_by("-id")
    rows = rows if before is None else rows.filter(pk__lt=before)
    return [
        {
            "id": row.pk,
            "kind": row.kind,
            "at": row.at.isoformat(),
            "author": row.author.username if row.author else "",
            "habitat": row.habitat_id,
            "animal": row.animal_id,
            "payload": row.payload,
        }
        for row in rows[:MOST_ENTRIES]
    ]


@api.post("/entries", response={200: list[AnswerOut], **REFUSALS})
def write_entries(request: HttpRequest, sent: EntriesIn) -> Any:
    """Write down what was done, fed, weighed or noted.

    Each entry is answered by its key, and written once however often it is sent.
    """
    token = may(request, "write")
    mine = set(_habitats(token).values_list("pk", flat=True))
    animals = set(Animal.objects.filter(room=token.room_id).values_list("pk", flat=True))

    def work() -> tuple[int, Any]:
        here = [one for one in sent.entries if (one.habitat in mine if one.what != "weigh" else one.animal in animals)]
        answers = {one.key: one for one in write_round(here, token.made_by, units_of(token.made_by), clock.today())}
        told = []
        for one in sent.entries:
            answer = answers.get(one.key)
            state, said = (answer.state, answer.said) if answer is not None else ("refused", "That is not in this room.")
            told.append({"key": one.key, "state": state, "said": said})
        return 200, told

    return Status(*once(request, token, work))


@api.post("/assess", response={200: dict[str, Any], **REFUSALS})
def assess(request: HttpRequest, sent: dict[str, Any] = Body(...)) -> Any:  # noqa: B008
    """What the models and rules make of a plan that is kept nowhere."""
    may(request, "read")
    try:
        made = read_data(sent)
        return report(advise(made, find(made.species), clock.today()))
    except PlanProblems as faults:
        return Status(422, {"error": "That is no plan.", "problems": [_problem(one) for one in faults.problems]})
    except UnknownSpeciesError:
        raise HttpError(422, "The book has no such species.") from None


class FoundOut(Schema):
    """One finding of a review: in words, how bad, in which share of the ways it may be, and when something is done about it."""

    code: str
    said: str
    severity: str
    share: float
    when: str | None


class ReviewOut(Schema):
    """A review: its findings, and the path of what would be most worth knowing."""

    findings: list[FoundOut]
    ask: str | None


@api.post("/review", response={200: ReviewOut, **REFUSALS})
def review(request: HttpRequest, sent: Told) -> Any:
    """The review of a set-up as it is told; null is "not known"."""
    may(request, "read")
    try:
        found = core_review(sent, find(sent.species), clock.today())
    except UnknownSpeciesError:
        raise HttpError(422, "The book has no such species.") from None
    except (DoesNotFitError, ValidationError):
        raise HttpError(422, "That does not fit into a box of this size.") from None
    when = {id(row.standing): row.when.value for row in to_do(found)}
    rows = [
        {
            "code": str(one.finding.code),
            "said": wording.finding(one.finding, METRIC),
            "severity": one.finding.severity.value,
            "share": round(one.share, 4),
            "when": when.get(id(one)),
        }
        for one in found.findings
    ]
    return {"findings": rows, "ask": None if found.ask is None else found.ask.unknown.path}
