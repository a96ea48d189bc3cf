"""Any deeds by any hands at once, drawn by Hypothesis: whatever the order was, the books balance and no press counts twice."""

from collections import Counter
from itertools import count
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import HealthCheck, event, given, settings
from hypothesis import strategies as st

from ridgeback import clock
from ridgeback.daybook.models import Event
from ridgeback.pantry.models import Change, Item, Lot
from ridgeback.planner import mapping, revisions
from ridgeback.planner.models import PlanVersion
from ridgeback.rooms import keepers
from ridgeback.rooms.models import Habitat, Room
from tests.plans import TODAY, plan
from tests.sample import times
from tests.web.test_at_once import HANDS, NOON, SNAKE, at_once, mice

pytestmark = [pytest.mark.sweep, pytest.mark.django_db(transaction=True)]
NAMES = count()
THERE_FIRST, A_MEAL = 60, 2  # mice in the freezer before the first meal, and in a meal of this snake
DEEDS: dict[str, st.SearchStrategy[Any]] = {
    "feed": st.sampled_from(["eaten", "refused"]),
    "take back": st.just(0),
    "receive": st.integers(1, 40),
    "lose": st.integers(1, 3),
    "count": st.integers(20, 90),
    "weigh": st.integers(795, 805),
    "score": st.integers(1, 5),
    "rename": st.sampled_from(["Marram", "Thrift", "Sea holly"]),
}


@st.composite
def presses(draw: st.DrawFn) -> tuple[list[tuple[str, Any]], list[int]]:
    """Draw the buttons of a page, of few kinds so that they meet, and which hand presses which: two on one are a double press."""
    kinds = draw(st.lists(st.sampled_from(sorted(DEEDS)), min_size=1, max_size=2))
    buttons = [(kind, draw(DEEDS[kind])) for kind in draw(st.lists(st.sampled_from(kinds), min_size=2, max_size=4))]
    return buttons, draw(st.lists(st.integers(0, len(buttons) - 1), min_size=HANDS, max_size=HANDS))


def address_of(deed: tuple[str, Any], snake: Habitat, item: Item, first: Event) -> tuple[str, dict[str, Any]]:
    """Where a deed is posted to, and what."""
    kind, what = deed
    if kind in ("lose", "count"):
        return reverse("pantry:change", args=[item.pk]), {"do": {"lose": "lost"}.get(kind, kind), "amount": str(what)}
    if kind == "receive":
        return reverse("pantry:receive", args=[snake.room_id]), {"food": item.food, "amount": str(what), "unit": "piece"}
    name, said = {
        "feed": ("rota:fed", {"outcome": what, "due": "2026-12-01"}),
        "take back": ("rota:take-back", {"event": first.pk}),
        "weigh": ("rota:weigh", {"whole": str(what), "tub": ""}),
        "score": ("rota:scored", {"score": str(what)}),
        "rename": ("planner:save", {"version": 1, "step": "animal", "season": "winter", "phase": "day", "animal.name": what}),
    }[kind]
    return reverse(name, args=[snake.pk]), said


@settings(max_examples=times(5, 15), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(presses())
def test_whatever_is_pressed_at_once_the_books_balance(
    quick_passwords: None, monkeypatch: pytest.MonkeyPatch, drawn: tuple[list[tuple[str, Any]], list[int]]
) -> None:
    deeds, hands = drawn
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: NOON)
    owner = keepers.add(f"tansy-{next(NAMES)}", "oyster-catcher-7")
    room = Room.objects.get(members=owner)
    snake = revisions.create(room, plan(**SNAKE, feeding={"starts": "2026-11-24"}), owner, NOON)
    item = mice(room, THERE_FIRST)
    clients = [Client() for _hand in hands]
    for client in clients:
        client.force_login(owner, backend="django.contrib.auth.backends.ModelBackend")
    clients[0].post(reverse("rota:fed", args=[snake.pk]), {"outcome": "eaten", "due": "2026-11-24"})
    first = Event.objects.get(habitat=snake, kind=Event.Kind.FED)

    def press(hand: int) -> int:
        url, said = address_of(deeds[hands[hand]], snake, item, first)
        return clients[hand].post(url, said | {"once": f"button {hands[hand]}"}).status_code

    answers = at_once(press, HANDS)

    pressed = [deeds[place] for place in set(hands)]
    kinds = Counter(kind for kind, _what in pressed)
    event(" ".join(sorted(kinds)))
    stale = sum(answer == 409 for answer in answers)
    assert stale == 0 or kinds["rename"] > 1 or (kinds["rename"] and (kinds["weigh"] or kinds["score"]))
    assert set(answers) <= {302, 409}

    logged = Counter(Event.objects.filter(habitat=snake).values_list("kind", flat=True))
    fed = (kinds["take back"] == 0) + (kinds["feed"] > 0)
    assert logged[Event.Kind.FED] == fed
    assert logged[Event.Kind.WEIGHED] == 1 + kinds["weigh"]  # the plan came with a weight
    assert logged[Event.Kind.CONDITION] == kinds["score"]

    lots = {lot.pk: lot.amount for lot in Lot.objects.filter(item=item)}
    changes = list(Change.objects.filter(lot__item=item))
    assert {pk: sum(change.amount for change in changes if change.lot_id == pk) for pk in lots} == pytest.approx(lots)
    assert min(lots.values()) >= 0
    of_meals = [change for change in changes if change.why == Change.Why.MEAL]
    assert sum(change.amount for change in of_meals) == -A_MEAL * fed
    assert {change.event_id for change in of_meals} == set(
        Event.objects.filter(habitat=snake, kind=Event.Kind.FED).values_list("pk", flat=True)
    )
    came_in = sum(what for kind, what in pressed if kind == "receive")
    assert sum(change.amount for change in changes if change.why == Change.Why.IN) == THERE_FIRST + came_in
    assert -sum(change.amount for change in changes if change.why == Change.Why.LOST) == sum(
        what for kind, what in pressed if kind == "lose"
    )

    now = Habitat.objects.get(pk=snake.pk)
    assert list(PlanVersion.objects.filter(habitat=snake).order_by("version").values_list("version", flat=True)) == list(
        range(1, now.version + 1)
    )
    kept = mapping.plan_of(now)
    for kind, name, value in (
        (Event.Kind.WEIGHED, "mass_kg", kept.animal.mass_kg),
        (Event.Kind.CONDITION, "score", kept.feeding.condition),
    ):
        newest = Event.objects.filter(habitat=snake, kind=kind).order_by("-id").first()
        assert newest is None or newest.payload[name] == pytest.approx(value)
