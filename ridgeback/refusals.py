"""What was refused, and what must be asked first, in words: the last stop of every write that a view does not answer itself."""

from collections.abc import Callable
from typing import Any, Final

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import Resolver404, resolve, reverse
from django.utils import timezone
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django_htmx.http import HttpResponseClientRefresh

from ridgeback.accounts.context import units_of
from ridgeback.daybook.asking import Question
from ridgeback.daybook.writing import AlreadyWritten, Refused
from ridgeback.language import dates, wording
from ridgeback.planner.mapping import UnreadablePlanError
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat, Room
from ridgeback.web.addresses import back_of, own_address

SAID: Final = {
    "not_a_plan": gettext_lazy("%(why)s"),
    "invitation_taken": gettext_lazy("This invitation was taken already, or taken back. Ask for another."),
    "room_full": gettext_lazy("The pictures of this room take %(most)s MB already, as much as they may. Nothing was added."),
    "last_owner": gettext_lazy("A room needs an owner who stays: make somebody else one first. Nothing was changed."),
    "stale_plan": gettext_lazy(
        "The same was changed elsewhere after this page was shown to you. Yours was not saved; this is how it stands now."
    ),
    "worked_out_before": gettext_lazy(
        "That was worked out for the plan as it stood before, and the plan has been changed since. Nothing was done: "
        "look at it as it stands now, and choose again."
    ),
    "fed_already": gettext_lazy(
        "This feed was written down already: %(outcome)s, on %(at)s by %(who)s. Take that back first if it is wrong."
    ),
    "empty_bowl": gettext_lazy("There is nothing in the bowl: mix one or type grams. The menu was not changed."),
    "rest_unweighed": gettext_lazy(
        "The rest of the menu (%(foods)s) goes by the animal's weight, which is not known. Weigh it first: nothing was changed."
    ),
    "too_many_foods": gettext_lazy(
        "The menu would hold %(count)s foods, and %(most)s is the most: take fewer greens. It was not changed."
    ),
    "not_an_entry": gettext_lazy("That is no such entry (%(why)s); nothing was written down."),
    "in_the_future": gettext_lazy("That lies in the future. What is to come stands in the calendar; nothing was written down."),
    "moved_before_it_came": gettext_lazy("It lives where it is since %(day)s and cannot have moved before."),
    "back_before_it_left": gettext_lazy("It left where it lived on %(day)s, and this would be before that. Nothing was changed."),
    "before_it_hatched": gettext_lazy("It hatched on %(day)s. What happened to it before is no entry; nothing was written down."),
    "hatched_after_it_came": gettext_lazy(
        "Something of it was written down on %(day)s: it had hatched by then. Nothing was changed."
    ),
    "lives_elsewhere": gettext_lazy("It lives in %(habitat)s by now. Nothing was changed."),
    "lives_here": gettext_lazy("It lives there already. Nothing was changed."),
    "has_left": gettext_lazy("It left on %(day)s. Nothing was changed."),
    "other_room": gettext_lazy("That habitat stands in another room than the animal. Nothing was changed."),
    "described_meanwhile": gettext_lazy("Somebody changed what is said of this animal meanwhile. Look again and repeat it."),
    "quarantine_over": gettext_lazy("That day is over. To end a quarantine, press its button; nothing was changed."),
    "no_quarantine": gettext_lazy("No quarantine lasts there any more. Nothing was changed."),
    "clock_off": gettext_lazy("The clock of this phone is far off: nobody knows when that was. Set it right and write anew."),
    "quiet_days": gettext_lazy("It can be put aside for a day up to %(most)s days. Nothing was changed."),
    "build_goes_on": gettext_lazy("A build goes on here already. It is ended first."),
    "build_changed": gettext_lazy("Somebody changed how this is built meanwhile. Look again and repeat it."),
    "step_done": gettext_lazy("That step was written down already."),
    "test_not_run": gettext_lazy("The test run has not run its time yet. Nothing was signed."),
    "test_unsigned": gettext_lazy("A test is signed with a name. Nothing was signed."),
    "test_incomplete": gettext_lazy(
        "Something of the test run is missing or outside its band, and no reason was given why it may stand. It was not signed."
    ),
    "still_locked": gettext_lazy("The animal may not move in yet, and no reason was given against that. Nothing was changed."),
    "other_count": gettext_lazy("The pantry counts this in other units: take it in there by hand."),
    "device_name": gettext_lazy("A device needs a name that no other here has. No key was made."),
    "no_such_lamp": gettext_lazy("The plan has no such lamp any more. Nothing was written down."),
    "too_many": gettext_lazy("A habitat can hold %(most)s animals at most. Nothing was changed."),
    "gone": gettext_lazy("That was taken back or removed meanwhile; nothing was changed."),
    "used_since": gettext_lazy(
        "Something of it has been used since, so it cannot be undone as a whole: count what is there instead."
    ),
}


def words_of(refused: Refused) -> str:
    """Why a write was refused, in words."""
    return str(SAID[refused.code]) % refused.parameters


class AnswerRefusals:
    """Middleware: what a write raises becomes a page, a message or a question."""

    def __init__(self, respond: Callable[[HttpRequest], HttpResponse]) -> None:
        self.respond = respond

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.respond(request)

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        if isinstance(exception, Question):
            return _ask(request, exception)
        if isinstance(exception, UnreadablePlanError):
            return _unreadable(request, exception)
        if isinstance(exception, Habitat.DoesNotExist | Room.DoesNotExist):
            exception = Refused("gone")
        if not isinstance(exception, Refused):
            return None
        if isinstance(exception, AlreadyWritten):
            at = dates.shown(timezone.localtime(exception.at), "j M H:i")
            messages.info(request, _("That was written down already, on %(at)s; nothing was added.") % {"at": at})
        else:
            messages.error(request, words_of(exception))
        if getattr(request, "htmx", False):
            return HttpResponseClientRefresh()
        answer = exception.answer if isinstance(exception, AlreadyWritten) else ""
        return redirect(answer or back_of(request, _page_before(request)))


def _unreadable(request: HttpRequest, exception: UnreadablePlanError) -> HttpResponse:
    """The page of a plan that is none: what is wrong with it, and the ways out."""
    habitat = habitat_or_404(request, exception.habitat_id)
    units = units_of(request.user)
    context = {
        "habitat": habitat,
        "problems": [{"path": item.path, "text": wording.problem(item, units)} for item in exception.problems],
        "can_undo": habitat.head is not None and habitat.head.parent_id is not None,
    }
    return render(request, "planner/unreadable.html", context, status=409)


def _page_before(request: HttpRequest) -> str:
    """The page the form was on, as the browser says; the list of habitats where it does not."""
    referer = request.META.get("HTTP_REFERER", "")
    host = f"{request.scheme}://{request.get_host()}"
    address = own_address(request, referer.removeprefix(host) if referer.startswith(host + "/") else "")
    return address or _above(request.path)


def _above(path: str) -> str:
    """The nearest page above an address: that of the menu above "weigh it"."""
    steps = path.strip("/").split("/")
    for length in range(len(steps) - 1, 0, -1):
        address = "/" + "/".join(steps[:length]) + "/"
        try:
            resolve(address)
        except Resolver404:
            continue
        return address
    return reverse("rooms:habitats")


def _ask(request: HttpRequest, question: Question) -> HttpResponse:
    posted = [(name, value) for name, values in request.POST.lists() for value in values if name != "csrfmiddlewaretoken"]
    answers: list[dict[str, Any]] = []
    for words, given in question.answers:
        fields = [(name, value) for name, value in posted if name not in given] + list(given.items())
        answers.append({"words": words, "fields": fields})
    context = {"question": question.text, "answers": answers, "before": back_of(request, _page_before(request))}
    return render(request, "question.html", context, status=409)
