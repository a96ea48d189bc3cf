"""Everything that is written, by several at once: real threads, each with a connection of its own, on PostgreSQL."""

import json
import threading
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.urls import reverse

from husbandry.species.book import shipped
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue
from ridgeback.book.models import Entry, OwnProfile
from ridgeback.daybook.models import Event, Instrument
from ridgeback.daybook.writing import Intent, writing
from ridgeback.pantry import store
from ridgeback.pantry.models import Delivery, Item, Lot
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota.models import Subscription
from tests.plans import TODAY, document, plan

pytestmark = [pytest.mark.django_db(transaction=True), pytest.mark.sweep]
NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)
HANDS = 6


@pytest.fixture(autouse=True)
def _a_fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: NOON)


def at_once(deed: Callable[[int], Any], hands: int = HANDS) -> list[Any]:
    """Do something by so many hands at the same moment; what a hand raised is raised here."""
    gate, found, faults = threading.Barrier(hands), [None] * hands, list[BaseException]()

    def one(place: int) -> None:
        try:
            gate.wait()
            found[place] = deed(place)
        except BaseException as fault:
            faults.append(fault)
        finally:
            connection.close()

    threads = [threading.Thread(target=one, args=(place,)) for place in range(hands)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    if faults:
        raise faults[0]
    return found


@pytest.fixture
def clients(owner: Keeper, client_of: Callable[[Keeper], Client]) -> list[Client]:
    return [client_of(owner) for _hand in range(HANDS)]


def press(clients: list[Client], name: str, key: int | None, data: dict[str, Any], once: str | None = "one page") -> list[int]:
    """Press one button of one page by all hands at once; None for `once` gives each hand a page of its own."""
    address = reverse(name, args=[] if key is None else [key])
    return [
        answer.status_code for answer in at_once(lambda hand: clients[hand].post(address, data | {"once": once or f"page {hand}"}))
    ]


def kinds(habitat: Habitat, kind: str) -> int:
    return Event.objects.filter(habitat=habitat, kind=kind).count()


def mice(room: Room, amount: float) -> Item:
    item = Item.objects.create(room=room, food="mouse/adult", kind="frozen", unit="piece", pack_size=25)
    store.receive(item, amount, TODAY, NOON)
    return item


def there(item: Item) -> float:
    return sum(Lot.objects.filter(item=item).values_list("amount", flat=True))


SNAKE = {"species": "corn-snake", "animal": {"name": "Marram", "mass_kg": 0.8, "length_m": 1.4}, "uv_lamps": [], "schools": {}}


@pytest.mark.parametrize("once", ["one page", None], ids=["a double press", "two people"])
def test_one_meal_is_written_once(clients: list[Client], make_habitat: Any, once: str | None) -> None:
    snake = make_habitat(**SNAKE, feeding={"starts": "2026-11-24"})
    item = mice(snake.room, 20)
    assert set(press(clients, "rota:fed", snake.pk, {"outcome": "eaten", "due": "2026-11-24"}, once)) == {302}
    assert (kinds(snake, Event.Kind.FED), there(item)) == (1, 18)


def test_the_calendars_meal_is_the_menus(clients: list[Client], make_habitat: Any) -> None:
    snake = make_habitat(**SNAKE, feeding={"starts": "2026-11-24"})
    press(clients, "rota:calendar-fed", None, {"meal": f"{snake.pk}:eaten:2026-11-24"}, None)
    press(clients, "rota:fed", snake.pk, {"outcome": "refused", "due": "2026-11-24"}, None)
    assert kinds(snake, Event.Kind.FED) == 1


def test_a_meal_taken_back_by_several_gives_back_once(clients: list[Client], make_habitat: Any) -> None:
    snake = make_habitat(**SNAKE, feeding={"starts": "2026-11-24"})
    item = mice(snake.room, 20)
    clients[0].post(reverse("rota:fed", args=[snake.pk]), {"outcome": "eaten"})
    event = Event.objects.get(kind=Event.Kind.FED)
    assert set(press(clients, "rota:take-back", snake.pk, {"event": event.pk}, None)) == {302}
    assert (kinds(snake, Event.Kind.FED), there(item)) == (0, 20)


def test_meals_of_two_animals_take_from_one_freezer(clients: list[Client], make_habitat: Any) -> None:
    snakes = [make_habitat(**SNAKE, name=f"box {place}", feeding={"starts": "2026-11-24"}) for place in range(HANDS)]
    item = mice(snakes[0].room, 40)
    at_once(lambda hand: clients[hand].post(reverse("rota:fed", args=[snakes[hand].pk]), {"outcome": "eaten", "once": "a"}))
    assert there(item) == 40 - 2 * HANDS


@pytest.mark.parametrize("once", ["one page", None])
def test_a_round_is_done_once(clients: list[Client], make_habitat: Any, once: str | None) -> None:
    habitats = [make_habitat(name=f"box {place}") for place in range(3)]
    turns = [f"{habitat.pk}:2026-11-24:water" for habitat in habitats]
    assert set(press(clients, "rota:done", None, {"turn": turns}, once)) == {302}
    assert [kinds(habitat, Event.Kind.DONE) for habitat in habitats] == [1, 1, 1]


def test_a_weight_pressed_twice_is_one_weighing_and_two_weights_are_two(clients: list[Client], habitat: Habitat) -> None:
    press(clients, "rota:weigh", habitat.pk, {"whole": "60", "tub": ""})
    before = kinds(habitat, Event.Kind.WEIGHED)
    address = reverse("rota:weigh", args=[habitat.pk])
    at_once(lambda hand: clients[hand].post(address, {"whole": str(60 + hand), "tub": "", "once": f"page {hand}"}))
    assert kinds(habitat, Event.Kind.WEIGHED) == before + HANDS
    newest = Event.objects.filter(kind=Event.Kind.WEIGHED).order_by("-id")[0].payload["mass_kg"]
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).animal.mass_kg == newest


def test_a_score_is_in_the_log_and_in_the_plan(clients: list[Client], habitat: Habitat) -> None:
    press(clients, "rota:scored", habitat.pk, {"score": "4"})
    assert kinds(habitat, Event.Kind.CONDITION) == 1
    address = reverse("rota:scored", args=[habitat.pk])
    at_once(lambda hand: clients[hand].post(address, {"score": str(1 + hand % 5), "once": f"page {hand}"}))
    assert kinds(habitat, Event.Kind.CONDITION) == 1 + HANDS
    newest = Event.objects.filter(kind=Event.Kind.CONDITION).order_by("-id")[0].payload["score"]
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).feeding.condition == newest


def test_a_reading_is_taken_once_and_forgotten_once(clients: list[Client], habitat: Habitat) -> None:
    gun = Instrument.objects.create(room=habitat.room, name="gun", kind="infrared")
    said = {
        "place": "basking-surface",
        "instrument": gun.pk,
        "value": "33",
        "at": "2026-11-24T11:00",
        "room_c": "22",
        "room_percent": "50",
    }
    assert set(press(clients, "planner:readings", habitat.pk, said)) == {302}
    event = Event.objects.get(kind=Event.Kind.READ)
    counted = Habitat.objects.get(pk=habitat.pk).logged
    assert set(press(clients, "planner:forget-reading", habitat.pk, {"reading": event.pk}, None)) == {302}
    assert kinds(habitat, Event.Kind.READ) == 0
    assert Habitat.objects.get(pk=habitat.pk).logged == counted + 1


def test_a_turn_moved_twice_is_one_move(clients: list[Client], habitat: Habitat) -> None:
    said = {"habitat": habitat.pk, "job": "deep-clean", "planned": "2026-11-25", "to": "2026-11-27"}
    press(clients, "rota:move", None, said)
    assert kinds(habitat, Event.Kind.MOVED) == 1


def test_what_was_counted_is_what_is_there(clients: list[Client], habitat: Habitat) -> None:
    item = Item.objects.create(room=habitat.room, food="cricket", kind="live", unit="piece", pack_size=250)
    press(clients, "pantry:change", item.pk, {"do": "count", "amount": "10"}, None)
    assert there(item) == 10
    press(clients, "pantry:change", item.pk, {"do": "lost", "amount": "1"})
    assert there(item) == 9
    press(clients, "pantry:change", item.pk, {"do": "remove"}, None)
    assert not Item.objects.exists()


def test_what_came_in_comes_in_once_and_makes_one_item(clients: list[Client], habitat: Habitat) -> None:
    said = {"food": "cricket", "amount": "1,000", "unit": "piece"}
    assert set(press(clients, "pantry:receive", habitat.room_id, said)) == {302}
    assert there(Item.objects.get()) == 1000
    press(clients, "pantry:receive", habitat.room_id, said, None)
    assert there(Item.objects.get()) == 1000 * (1 + HANDS)


def test_one_file_by_several_hands_comes_in_once_and_goes_out_once(clients: list[Client], habitat: Habitat) -> None:
    text = "food,kind,unit,amount,received\r\ncricket,live,piece,200,2026-11-20\r\n"
    assert set(press(clients, "pantry:bring-in", habitat.room_id, {"text": text, "seen": "1"}, None)) == {302}
    assert there(Item.objects.get()) == 200
    assert set(press(clients, "pantry:undo-delivery", Delivery.objects.get().pk, {}, None)) == {302}
    assert not Item.objects.exists()


def test_eight_copies_of_a_profile_are_eight_profiles_of_their_own(clients: list[Client], owner: Keeper, habitat: Habitat) -> None:
    assert set(_copies(clients)) == {302}
    assert OwnProfile.objects.count() == HANDS
    address = reverse("book:copy", args=["axolotl"])
    answers = at_once(lambda hand: clients[hand].post(address, {"once": "the same page"})["Location"])
    assert OwnProfile.objects.count() == HANDS + 1
    assert set(answers) <= {reverse("book:edit", args=[OwnProfile.objects.latest("pk").pk]), "/species/axolotl/"}


def _copies(clients: list[Client]) -> list[int]:
    address = reverse("book:copy", args=["corn-snake"])
    return at_once(lambda hand: clients[hand].post(address, {"once": f"page {hand}"}).status_code)


def test_a_habitat_pressed_twice_is_made_once(clients: list[Client], owner: Keeper) -> None:
    text = json.dumps(document())
    answers = at_once(lambda hand: clients[hand].post(reverse("rooms:import"), {"text": text, "once": "a"}))
    assert {answer.status_code for answer in answers} == {302}
    assert Habitat.objects.count() == 1


def test_edits_of_different_fields_by_several_all_stand(clients: list[Client], habitat: Habitat) -> None:
    """Everybody began at the same version, and nobody's change is lost."""
    fields = ["watts", "x_m", "height_m", "thermostat.set_c", "on", "off"]
    typed = ["60", "30", "38", "31", "08:00", "19:00"]
    where = {"version": 1, "step": "heat", "season": "winter", "phase": "day"}
    address = reverse("planner:save", args=[habitat.pk])
    answers = at_once(lambda hand: clients[hand].post(address, where | {f"heaters.0.{fields[hand]}": typed[hand]}).status_code)
    assert set(answers) == {302}
    heater = mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).heaters[0]
    kept = (heater.watts, heater.x_m, heater.height_m, heater.thermostat.set_c, f"{heater.on:%H:%M}", f"{heater.off:%H:%M}")
    assert kept == (60, 0.3, 0.38, 31, "08:00", "19:00")


def test_edits_of_one_field_by_several_are_told_to_all_but_the_first(clients: list[Client], habitat: Habitat) -> None:
    where = {"version": 1, "step": "heat", "season": "winter", "phase": "day"}
    address = reverse("planner:save", args=[habitat.pk])
    answers = at_once(lambda hand: clients[hand].post(address, where | {"heaters.0.watts": str(50 + hand)}).status_code)
    assert sorted(answers) == [302] + [409] * (HANDS - 1)


def test_a_double_press_of_undo_goes_back_one_step(clients: list[Client], habitat: Habitat) -> None:
    where = {"step": "heat", "season": "winter", "phase": "day"}
    for version, watts in enumerate(("60", "50"), start=1):
        clients[0].post(reverse("planner:save", args=[habitat.pk]), where | {"version": version, "heaters.0.watts": watts})
    press(clients, "planner:undo", habitat.pk, where | {"version": 3})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).heaters[0].watts == 60


def test_a_part_added_twice_is_there_once(clients: list[Client], habitat: Habitat) -> None:
    where = {"step": "heat", "season": "winter", "phase": "day", "version": 1, "part": "heaters.1", "do": "add"}
    address = reverse("planner:part", args=[habitat.pk])
    at_once(lambda hand: clients[hand].post(address, where).status_code)
    assert len(mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).heaters) == 2


def test_rooms_days_addresses_and_instruments_are_written_once(clients: list[Client], habitat: Habitat) -> None:
    room = habitat.room_id
    press(clients, "rota:subscribe", None, {"room": room, "name": "Sitter"})
    assert Subscription.objects.count() == 1
    press(clients, "rota:revoke", Subscription.objects.get().pk, {}, None)
    assert Subscription.objects.filter(revoked_at__isnull=False).count() == 1
    press(
        clients,
        "daybook:instruments",
        None,
        {"room": room, "name": "gun", "kind": "infrared", "reads_high": "1", "sure_to": "1"},
        None,
    )
    assert Instrument.objects.count() == 1
    press(clients, "rota:room-days", room, {"weekday": ["0", "3"]}, None)
    assert Room.objects.get(pk=room).weekdays == [0, 3]
    press(clients, "rooms:set-aside", habitat.pk, {}, None)
    assert Habitat.objects.get(pk=habitat.pk).set_aside_at is not None


def test_a_second_press_says_so_and_goes_where_the_first_went(clients: list[Client], habitat: Habitat) -> None:
    said = {"outcome": "eaten", "once": "a"}
    address = reverse("rota:fed", args=[habitat.pk])
    assert clients[0].post(address, said)["Location"] == clients[0].post(address, said)["Location"]
    assert "nothing was added" in clients[0].get(reverse("rota:menu", args=[habitat.pk])).content.decode()


def test_a_press_is_remembered_for_a_week(habitat: Habitat) -> None:
    from ridgeback.daybook.models import Written
    from ridgeback.daybook.writing import Intent, writing

    for place in range(3):
        Written.objects.create(key=f"old {place}", at=NOON - timedelta(days=8))
    with writing(Intent(None, NOON, "00" + "f" * 62)):
        pass
    assert Written.objects.count() == 1


def test_a_meal_is_written_while_the_pantry_is(clients: list[Client], owner: Keeper) -> None:
    """Who held the pantry's room waited for the mice, and who held the mice waited for the room: a deadlock, now and then."""
    room = Room.objects.get(members=owner)
    snake = revisions.create(room, plan(**SNAKE, feeding={"starts": "2026-11-24"}), owner, NOON)
    mice(room, 60)
    answers = list[int]()

    def feed() -> None:
        said = {"outcome": "eaten", "due": "2026-11-24", "once": "a meal beside it"}
        answers.append(clients[0].post(reverse("rota:fed", args=[snake.pk]), said).status_code)
        connection.close()

    hand = threading.Thread(target=feed)
    with writing(Intent(owner, NOON, "the pantry"), room=room.pk):
        hand.start()
        hand.join(20)
        assert answers == [302]


@pytest.mark.django_db(transaction=True)
def test_the_shipped_book_is_entered_once_by_whoever_finds_it_missing() -> None:
    """Two first visitors of a database that was never prepared."""
    entered: list[int] = []

    def enter() -> None:
        try:
            catalogue.enter_shipped()
            entered.append(Entry.objects.count())
        finally:
            connection.close()

    both = [threading.Thread(target=enter) for _turn in range(3)]
    for one in both:
        one.start()
    for one in both:
        one.join()
    assert entered == [len(shipped())] * 3
