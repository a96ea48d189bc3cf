"""Cultures of live food and sown greens, what is due for them, and what feeder insects are fed."""

from datetime import timedelta
from typing import Any, Final

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from husbandry.assessment import Measure
from husbandry.diet import cultures as model
from husbandry.diet.foods import foods
from husbandry.diet.gutload import CARBONATE, mix
from husbandry.numerals import NumberError
from husbandry.units import UnitError
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import Refused, intent_of
from ridgeback.language import culturewords, wording
from ridgeback.language.foodwords import prey
from ridgeback.pantry.actions import cultures as actions
from ridgeback.pantry.models import Culture, GutLoad
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.rooms.models import Room
from ridgeback.rota import cards, stock_forecasts
from ridgeback.units import KeeperUnits, written
from ridgeback.web import typed

LOOK_DAYS: Final = 28
MOST_VESSELS: Final = 200
MOST_PARTS: Final = 8
SOON: Final = timedelta(days=3)
SHOWN_G: Final = 100.0


@require_GET
def cultures(request: HttpRequest) -> HttpResponse:
    """Every room's cultures against what its rota uses, and its gut-loads."""
    units, today = units_of(request.user), clock.today()
    rooms = []
    for room in rooms_of(keeper_of(request)):
        uses = _uses(room)
        standing = [_told(one, uses, units) for one in room.cultures.filter(ended_on__isnull=True)]
        ended = [
            {"row": one, "name": _name(one), "why": culturewords.KILLS.get(one.ended_by)}
            for one in room.cultures.filter(ended_on__isnull=False).order_by("-ended_on")[:8]
        ]
        mixes = [_mixed(one) for one in room.gut_loads.all()]
        rooms.append({"room": room, "cultures": standing, "ended": ended, "mixes": mixes})
    context = {
        "rooms": rooms,
        "kinds": [(key, prey(kind.food), culturewords.VESSELS[kind.vessel]) for key, kind in model.kinds().items()],
        "kills": [(key, said) for key, (said, _next) in culturewords.KILLS.items()],
        "parts": [(CARBONATE, culturewords.CARBONATE), *((key, prey(key)) for key in foods())],
        "rows": range(MOST_PARTS // 2),
        "today": today,
        "shown_g": f"{SHOWN_G:g}",
    }
    return render(request, "pantry/cultures.html", context)


def _uses(room: Room) -> dict[str, tuple[float, float]]:
    """What the rota uses in a week by food: pieces, grams."""
    by_day = stock_forecasts.uses_by_day(list(cards.habitats_of_room(room.pk)), clock.today(), LOOK_DAYS)
    share = 7 / LOOK_DAYS
    return {
        food: (share * sum(pieces for pieces, _grams in days.values()), share * sum(grams for _pieces, grams in days.values()))
        for food, days in by_day.items()
    }


def _name(one: Culture) -> str:
    kind = model.kinds().get(one.kind)
    return one.name or (prey(kind.food) if kind is not None else one.kind)


def _told(one: Culture, uses: dict[str, tuple[float, float]], units: KeeperUnits) -> dict[str, Any]:
    """A culture as its page shows it."""
    kind, today = model.kinds()[one.kind], clock.today()
    warm = model.UNKNOWN_ROOM_C if one.temperature_c is None else one.temperature_c
    found = model.outlook(model.Culture(kind, one.vessels, warm, one.started, one.last_split), today)
    pieces, grams = uses.get(kind.food, (0.0, 0.0))
    used = grams if kind.sown else pieces
    return {
        "row": one,
        "name": _name(one),
        "vessel": culturewords.VESSELS[kind.vessel],
        "unit": "g" if kind.sown else "",
        "temperature": units.say(Measure(warm, "degC")),
        "assumed": one.temperature_c is None,
        "warmth": culturewords.WARMTH[found.warmth],
        "well": found.warmth == "good",
        "found": found,
        "due": found.split is not None and found.split <= today + SOON,
        "worn": found.worn is not None and found.worn <= today,
        "used": used,
        "wanted": model.vessels_for(kind, used, warm) if used else None,
        "every": model.begin_every_days(kind, used, warm) if used else None,
        "feeds": kind.feeds,
        "last": one.entries.first(),
    }


def _mixed(one: GutLoad) -> dict[str, Any]:
    """A gut-load as its page shows it."""
    found = mix(one.parts, SHOWN_G)
    said = {
        "calcium": None if found.calcium_share is None else written(100 * found.calcium_share, ".1f"),
        "ratio": None if found.ratio is None else written(found.ratio, ".1f"),
        "protein": None if found.protein_share is None else f"{100 * found.protein_share:.0f}",
        "verdict": culturewords.VERDICTS[found.verdict],
        "well": found.verdict == "good",
        "watery": found.keeps_badly,
    }
    parts = [
        (str(culturewords.CARBONATE) if key == CARBONATE else prey(key), written(one.parts[key]), f"{grams:.0f}")
        for key, grams in found.grams.items()
    ]
    return said | {"row": one, "parts": parts}


def _room(request: HttpRequest, pk: int) -> Room:
    return get_object_or_404(rooms_of(keeper_of(request)), pk=pk)


def _vessels(request: HttpRequest) -> int:
    found = typed.whole(request.POST.get("vessels") or "1")
    if found is None or not 1 <= found <= MOST_VESSELS:
        raise Refused("not_a_plan", why=_("Vessels are counted from 1 to %(most)s.") % {"most": MOST_VESSELS})
    return found


def _temperature(request: HttpRequest) -> float | None:
    text = request.POST.get("temperature", "").strip()
    if not text:
        return None
    try:
        found = units_of(request.user).read(text, "degC")
    except UnitError as error:
        raise Refused("not_a_plan", why=str(wording.unread(error, text))) from None
    if not 0 <= found <= 50:
        raise Refused("not_a_plan", why=_("That cannot be: was another unit meant?"))
    return found


@require_POST
def begin(request: HttpRequest, pk: int) -> HttpResponse:
    """Begin a culture or a sowing."""
    room, kind, today = _room(request, pk), request.POST.get("kind", ""), clock.today()
    if kind not in model.kinds():
        raise Refused("not_a_plan", why=_("Choose what is kept."))
    try:
        started = typed.day(request.POST["started"]) if request.POST.get("started") else today
    except NumberError as error:
        raise Refused("not_a_plan", why=str(wording.unread(error, request.POST["started"]))) from None
    if started > today:
        raise Refused("not_a_plan", why=_("That is still to come."))
    vessels, warm = _vessels(request), _temperature(request)
    name = request.POST.get("name", "").strip()[:60]
    about = {"kind": kind, "name": name, "vessels": vessels, "temperature_c": warm, "started": started}
    actions.begin_culture(room, intent_of(request), about)
    return redirect("pantry:cultures")


@require_POST
def change(request: HttpRequest, pk: int) -> HttpResponse:
    """Write down what was done with a culture: cropped, split, fed, changed, ended."""
    one = get_object_or_404(Culture, pk=pk, room__in=rooms_of(keeper_of(request)), ended_on__isnull=True)
    do, intent = request.POST.get("do", ""), intent_of(request)
    if do == "crop":
        actions.crop_culture(one, intent, _taken(request, one), clock.today())
        messages.info(request, _("It is in the pantry."))
    elif do == "split":
        actions.split_culture(one, intent, _vessels(request), clock.today())
    elif do == "fed":
        actions.feed_culture(one, intent)
    elif do == "change":
        actions.change_culture(one, intent, _vessels(request), _temperature(request))
    elif do == "end":
        ended = actions.end_culture(one, intent, request.POST.get("why", ""), clock.today())
        if ended.ended_by:
            messages.info(request, culturewords.KILLS[ended.ended_by][1])
    else:
        raise Http404
    return redirect("pantry:cultures")


def _taken(request: HttpRequest, one: Culture) -> float:
    """How much was taken. Raises Refused for what is no amount."""
    text = request.POST.get("amount", "")
    try:
        amount = typed.amount(text, "g" if model.kinds()[one.kind].sown else "piece", units_of(request.user).decimal)
    except NumberError as error:
        raise Refused("not_a_plan", why=str(wording.unread(error, text))) from None
    if amount <= 0:
        raise Refused("not_a_plan", why=_("Say how much was taken."))
    return amount


@require_POST
def keep_mix(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep a gut-load by its parts; one of that name is changed."""
    room, name = _room(request, pk), request.POST.get("name", "").strip()[:60]
    parts: dict[str, float] = {}
    for food, text in zip(request.POST.getlist("food"), request.POST.getlist("part"), strict=False):
        if not food or not text.strip():
            continue
        try:
            part = typed.amount(text, "", units_of(request.user).decimal)
        except NumberError as error:
            raise Refused("not_a_plan", why=str(wording.unread(error, text))) from None
        if food == CARBONATE or food in foods():
            parts[food] = parts.get(food, 0.0) + part
    try:
        mix(parts, SHOWN_G)
    except ValueError:
        raise Refused("not_a_plan", why=_("A mix needs a part above nought.")) from None
    if not name or len(parts) > MOST_PARTS:
        raise Refused("not_a_plan", why=_("A mix needs a name, and no more than %(most)s parts.") % {"most": MOST_PARTS})
    actions.keep_gut_load(room, intent_of(request), name, parts)
    return redirect("pantry:cultures")


@require_POST
def remove_mix(request: HttpRequest, pk: int) -> HttpResponse:
    """Take a gut-load off the list."""
    one = get_object_or_404(GutLoad, pk=pk, room__in=rooms_of(keeper_of(request)))
    actions.remove_gut_load(one, intent_of(request))
    return redirect("pantry:cultures")
