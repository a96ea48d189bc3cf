"""The calendar's pages: day, week, month, moving a turn, writing chores down, the room's days."""

from datetime import date, timedelta
from typing import Any, Final
from urllib.parse import quote, unquote

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from husbandry.numerals import NumberError
from husbandry.rota.card import RoomDays
from husbandry.rota.moves import consequences
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.actions import do_chores as chores
from ridgeback.daybook.actions.do_chores import do_chores
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.language import dates, rotawords
from ridgeback.pantry.actions import take_back as taking
from ridgeback.rooms.access import habitat_or_404, keeper_of, rooms_of
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import board, cards, history, menu_pages
from ridgeback.rota.actions.feed_meal import OUTCOMES
from ridgeback.rota.actions.move_turn import move_turn
from ridgeback.rota.board import FEED, Board
from ridgeback.web import typed
from ridgeback.web.addresses import back_of, own_address

VIEWS: Final = ("day", "week", "month")
FARTHEST: Final = timedelta(days=400)
HABITATS_AT_ONCE: Final = 30
MOST_ROWS: Final = 90  # of a day by chore; more are shown where they are asked for


def day_of(text: str, today: date) -> date:
    """The day asked for, today where none is; raises Http404 for what is no day, or one too far off."""
    if not text:
        return today
    try:
        day = typed.day(text)
    except NumberError:
        raise Http404 from None
    if abs(day - today) > FARTHEST:
        raise Http404
    return day


@require_GET
def calendar(request: HttpRequest) -> HttpResponse:
    """The calendar as a day, a week or a month."""
    today, view = clock.today(), request.GET.get("view", "day")
    shown = day_of(request.GET.get("day", ""), today)
    if view not in VIEWS:
        raise Http404
    keeper = keeper_of(request)
    context = {"view": view, "shown": shown, "today": today, "views": _views(view, shown), "here": request.get_full_path()}
    context["here_quoted"] = quote(request.get_full_path())
    shown_board = Board(keeper, today, shown, 1)
    context |= {"day": _day, "week": _week, "month": _month}[view](request, shown_board, shown)
    context["broken"] = shown_board.broken
    return render(request, f"rota/{view}.html", context)


def _views(view: str, shown: date) -> list[dict[str, Any]]:
    names = {"day": _("Day"), "week": _("Week"), "month": _("Month")}
    address = reverse("rota:calendar")
    return [{"name": names[code], "address": f"{address}?view={code}&day={shown}", "current": code == view} for code in VIEWS]


def _steps(view: str, back: date, on: date) -> dict[str, str]:
    address = reverse("rota:calendar")
    return {"back": f"{address}?view={view}&day={back}", "on": f"{address}?view={view}&day={on}"}


def _day(request: HttpRequest, shown_board: Board, shown: date) -> dict[str, Any]:
    by_habitat, whole = request.GET.get("by") == "habitat", request.GET.get("whole", "")
    if by_habitat:
        shown_board.part = _part(request)
    loaded = shown_board.load()
    turns = loaded.turns()
    one = timedelta(days=1)
    return {
        "groups": board.by_habitat(turns) if by_habitat else board.by_job(turns, whole, MOST_ROWS),
        "pages": _pages(request, shown_board) if by_habitat else None,
        "by_habitat": by_habitat,
        "open": sum(turn.open for turn in turns),
        "done": sum(not turn.open for turn in turns),
        "any": bool(loaded.of),
        "outcomes": [(code, rotawords.OUTCOMES[code]) for code in OUTCOMES],
        "may_log": shown <= loaded.today,
    } | _steps("day", shown - one, shown + one)


def _part(request: HttpRequest) -> tuple[int, int]:
    """Which of the habitats are shown: where they begin in their order, and how many."""
    first = typed.whole(request.GET.get("from", "")) or 0
    return max(first, 0), HABITATS_AT_ONCE


def _pages(request: HttpRequest, shown_board: Board) -> dict[str, Any] | None:
    """The way to the other habitats, where there are more than are shown at once."""
    first, many = shown_board.part or (0, shown_board.of)
    if shown_board.of <= many and not first:
        return None

    def at(index: int) -> str:
        query = request.GET.copy()
        query["from"] = str(index)
        return f"?{query.urlencode()}"

    last = min(first + many, shown_board.of)
    return {
        "first": min(first + 1, shown_board.of),
        "last": last,
        "of": shown_board.of,
        "back": at(max(first - many, 0)) if first else "",
        "on": at(first + many) if last < shown_board.of else "",
    }


def _week(request: HttpRequest, shown_board: Board, shown: date) -> dict[str, Any]:
    shown_board.begin, shown_board.days = shown - timedelta(days=shown.weekday()), 7
    shown_board.part = _part(request)
    loaded = shown_board.load()
    rooms = list(rooms_of(shown_board.keeper))
    return {
        "rows": board.week(loaded),
        "days": [loaded.begin + timedelta(days=offset) for offset in range(7)],
        "rooms": [{"room": room, "days": weekdays(room.weekdays)} for room in rooms],
        "any": bool(loaded.of),
        "pages": _pages(request, shown_board),
    } | _steps("week", shown - timedelta(days=7), shown + timedelta(days=7))


def _month(request: HttpRequest, shown_board: Board, shown: date) -> dict[str, Any]:
    first = shown.replace(day=1)
    following = (first + timedelta(days=32)).replace(day=1)
    shown_board.begin = first - timedelta(days=first.weekday())
    shown_board.days = -(-(following - shown_board.begin).days // 7) * 7
    shown_board.counts_only = True
    loaded = shown_board.load()
    return {"weeks": board.month(loaded, shown), "any": bool(loaded.habitats)} | _steps(
        "month", (first - timedelta(days=1)).replace(day=1), following
    )


def weekdays(chosen: list[int]) -> list[dict[str, Any]]:
    """The seven days with whether the keeper comes."""
    return [{"number": number, "name": rotawords.weekday(number), "on": number in chosen} for number in range(7)]


@require_POST
def room_days(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep the days the keeper comes by; all or none means every day."""
    room = get_object_or_404(rooms_of(keeper_of(request)), pk=pk)
    chosen = sorted({int(number) for number in request.POST.getlist("weekday") if number in set("0123456")})
    with writing(intent_of(request), room=room.pk):
        Room.objects.filter(pk=room.pk).update(weekdays=[] if len(chosen) == 7 else chosen)
    return redirect(f"{reverse('rota:calendar')}?view=week")


@require_POST
def done(request: HttpRequest) -> HttpResponse:
    """Write chores down: one, or all of a round, with spaces between. Each is "habitat:due:job"."""
    today = clock.today()
    posted = [*request.POST.getlist("turn"), *map(unquote, request.POST.get("turns", "").split())]
    lines = [line.split(":", 2) for line in posted]
    wanted: dict[int, list[tuple[date, str]]] = {}
    for line in lines:
        if len(line) != 3 or not rotawords.known(line[2]):
            raise Http404
        wanted.setdefault(typed.key(line[0]), []).append((day_of(line[1], today), line[2]))
    if set(wanted) - set(cards.habitats_with_cards(keeper_of(request)).filter(pk__in=wanted).values_list("pk", flat=True)):
        raise Http404
    at = menu_pages.moment_of(request.POST.get("day", ""), today)
    turns = [(key, due, job) for key, mine in wanted.items() for due, job in mine]
    try:
        fresh = do_chores(turns, intent_of(request), at, request.POST.get("outcome", "done"))
    except chores.NoSuchOutcomeError:
        raise Http404 from None
    if fresh < len(turns):
        messages.info(request, _("Some of it was written down already; nothing was written twice."))
    return _back(request)


@require_POST
def fed(request: HttpRequest) -> HttpResponse:
    """Write one animal's meal down from the calendar, as "habitat:outcome:due"."""
    key, outcome, due = (*request.POST.get("meal", "").split(":"), "", "")[:3]
    habitat = habitat_or_404(request, typed.key(key))
    menu_pages.write_meal(request, habitat.pk, outcome, due)
    return _back(request)


@require_POST
def take_back(request: HttpRequest) -> HttpResponse:
    """Undo a meal or a chore from the calendar."""
    key, _colon, of_habitat = request.POST.get("event", "").partition(":")
    habitat = habitat_or_404(request, typed.key(of_habitat))
    taking.take_back(typed.key(key), habitat.pk, intent_of(request))
    messages.info(request, _("Taken back."))
    return _back(request)


def _back(request: HttpRequest) -> HttpResponse:
    return redirect(back_of(request, reverse("rota:calendar")))


@require_http_methods(["GET", "POST"])
def move(request: HttpRequest) -> HttpResponse:
    """What moving a turn would do, and moving it."""
    given, today = request.POST if request.method == "POST" else request.GET, clock.today()
    key = given.get("habitat", "")
    habitat = habitat_or_404(request, typed.key(key))
    job, planned = given.get("job", ""), day_of(given.get("planned", ""), today)
    to = day_of(given.get("to", ""), today) if given.get("to") else planned + timedelta(days=1)
    if job != FEED and not rotawords.known(job):
        raise Http404
    found = _consequences(request, habitat, job, planned, to, today)
    if request.method == "POST":
        if to < today:
            messages.error(request, _("That day is over."))
        else:
            name = habitat.company.name or habitat.name
            move_turn(habitat.pk, intent_of(request), job, planned, to, today)
            said = {"what": rotawords.job(job).name, "name": name, "day": dates.shown(to, "D j M")}
            messages.info(request, _("%(what)s, %(name)s: moved to %(day)s.") % said)
        return _back(request)
    context = {
        "habitat": habitat,
        "job": job,
        "words": rotawords.job(job),
        "planned": planned,
        "to": to,
        "today": today,
        "found": found,
        "back": own_address(request, given.get("back", "")),
    }
    template = "rota/_move.html" if request.headers.get("HX-Request") else "rota/move.html"
    return render(request, template, context)


def _consequences(request: HttpRequest, habitat: Habitat, job: str, planned: date, to: date, today: date) -> list[str]:
    card = cards.of_habitats([habitat], today)[habitat.pk]
    moves = history.moves_of([habitat.pk], today).get(habitat.pk, {})
    first = history.origin(moves.get(job, {}), planned)
    room = tuple(habitat.room.weekdays)
    found = consequences(card, job, first, to, RoomDays(today, weekdays=room, moves=moves))
    return [rotawords.move(reason, units_of(request.user)) for reason in found]
