"""What keepers type into every page: sizes, clock times, dates, weights, amounts."""

from collections.abc import Callable
from datetime import date, time
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.numerals import NumberError
from husbandry.units import UnitError
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.pantry.models import Culture, Item
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits, three_sizes
from ridgeback.web import typed
from tests.plans import TODAY

INCHES = KeeperUnits("degF", "in", "oz", "gal")
FOOT, INCH = 0.3048, 0.0254


@pytest.fixture(autouse=True)
def _a_fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.mark.parametrize(
    ("text", "sizes"),
    [
        ("90 × 45 × 45 in", (90 * INCH, 45 * INCH, 45 * INCH)), ("4x2x2 ft", (4 * FOOT, 2 * FOOT, 2 * FOOT)),
        ("4 ft by 2 ft by 2 ft", (4 * FOOT, 2 * FOOT, 2 * FOOT)), ("3 ft x 18 x 18 in", (3 * FOOT, 18 * INCH, 18 * INCH)),
        ("4' x 2 x 2", (4 * FOOT, 2 * FOOT, 2 * FOOT)), ("120*60*60", (1.2, 0.6, 0.6)), ("1,2 x 0,6 x 0,6 m", (1.2, 0.6, 0.6)),
        ('48" x 24" x 24"', (48 * INCH, 24 * INCH, 24 * INCH)), ("2½ x 1½ x 1½ ft", (2.5 * FOOT, 1.5 * FOOT, 1.5 * FOOT)),
    ],
)  # fmt: skip
def test_a_unit_after_the_last_number_holds_for_all(text: str, sizes: tuple[float, float, float]) -> None:
    assert three_sizes(text, METRIC) == pytest.approx(sizes)


def test_bare_sizes_are_in_the_keepers_own_unit() -> None:
    assert three_sizes("36 x 18 x 18", INCHES) == pytest.approx((36 * INCH, 18 * INCH, 18 * INCH))
    for text in ("90 x 45", "90 x 45 x 45 kg", "a x b x c", "1 x 2 x 3 x 4"):
        with pytest.raises(UnitError):
            three_sizes(text, METRIC)


@pytest.mark.parametrize(
    ("text", "at"),
    [
        ("8:30", time(8, 30)), ("08:30", time(8, 30)), ("8pm", time(20)), ("8.30 pm", time(20, 30)),
        ("12 am", time(0)), ("12pm", time(12)),
        ("20h15", time(20, 15)), ("0830", time(8, 30)), ("8", time(8)), ("noon", time(12)), ("20:30:00", time(20, 30)),
        ("7 a.m.", time(7)),
    ],
)  # fmt: skip
def test_clock_times(text: str, at: time) -> None:
    assert typed.clock_time(text) == at


@pytest.mark.parametrize("text", ["", "25:00", "8:60", "13 pm", "late", "8:3", "-1", "08:30+02:00", "830"])
def test_no_clock_times(text: str) -> None:
    with pytest.raises(NumberError):
        typed.clock_time(text)


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("2026-11-30", date(2026, 11, 30)), ("30.11.2026", date(2026, 11, 30)), ("11/30/2026", date(2026, 11, 30)),
        ("30 Nov 2026", date(2026, 11, 30)), ("Nov 30, 2026", date(2026, 11, 30)), ("2026/3/1", date(2026, 3, 1)),
        ("5/5/2026", date(2026, 5, 5)),
    ],
)  # fmt: skip
def test_dates(text: str, day: date) -> None:
    assert typed.day(text) == day


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("03/04/2026", "date_two_ways"), ("0002-02-27", "date_far_off"), ("9999-12-31", "date_far_off"), ("02252027", "not_a_date"),
        ("2026-02-30", "not_a_date"), ("30 Nov", "not_a_date"), ("soon", "not_a_date"), ("", "not_a_date"),
        ("31/31/2026", "not_a_date"),
    ],
)  # fmt: skip
def test_a_date_nobody_can_mean_or_that_two_can_is_refused(text: str, code: str) -> None:
    with pytest.raises(NumberError) as refused:
        typed.day(text)
    assert refused.value.code == code


@pytest.mark.parametrize(
    ("text", "unit", "amount"),
    [
        ("1,000", "piece", 1000),
        ("250 pcs", "piece", 250),
        ("½", "piece", 0.5),
        ("1,5", "piece", 1.5),
        ("0.5 kg", "g", 500),
        ("27,50 €", "", 27.5),
    ],
)
def test_amounts(text: str, unit: str, amount: float) -> None:
    assert typed.amount(text, unit) == pytest.approx(amount)


# ---- on the pages ----


def mass_of(habitat: Habitat) -> float | None:
    return mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).animal.mass_kg


CORN = {"species": "corn-snake", "animal": {"name": "Thrift", "mass_kg": 1.12, "length_m": 1.4}, "uv_lamps": [], "schools": {}}


def test_a_weight_that_can_mean_two_things_is_asked_before_it_is_kept(client: Client, make_habitat: Any) -> None:
    snake = make_habitat(**CORN)
    address = reverse("rota:weigh", args=[snake.pk])
    asked = client.post(address, {"whole": "1,150", "tub": "", "once": "a"})
    assert asked.status_code == 409
    assert "can mean 1150 or 1.15" in asked.content.decode()
    assert mass_of(snake) == 1.12
    first = dict(asked.context["answers"][0]["fields"])
    assert client.post(address, first).status_code == 302
    assert mass_of(snake) == 1.15


def test_who_says_how_they_write_numbers_is_not_asked(client: Client, make_habitat: Any, owner: Keeper) -> None:
    snake = make_habitat(**CORN)
    owner.decimal_mark = "."
    owner.save()
    client.post(reverse("rota:weigh", args=[snake.pk]), {"whole": "1,150", "tub": ""})
    assert mass_of(snake) == 1.15


@pytest.mark.parametrize(("typed_text", "meant"), [("100", None), ("11.5", None), ("1.15", "1.15 kg"), ("40", "40 oz")])
def test_a_weight_far_off_the_last_is_questioned(client: Client, make_habitat: Any, typed_text: str, meant: str | None) -> None:
    """A grown python weighed in as "100", and a kilogram typed where grams are asked for."""
    snake = make_habitat(**CORN)
    address = reverse("rota:weigh", args=[snake.pk])
    asked = client.post(address, {"whole": typed_text, "tub": "", "once": "a"})
    assert asked.status_code == 409
    text = asked.content.decode()
    assert "Thrift weighed 1.12 kg on" in text
    offered = [answer["words"] for answer in asked.context["answers"]]
    assert offered == ([f"I meant {meant}"] if meant else []) + [offered[-1]]
    assert mass_of(snake) == 1.12
    assert not Event.objects.filter(kind=Event.Kind.WEIGHED, payload__mass_kg__lt=1).exists()
    sure = dict(asked.context["answers"][-1]["fields"])
    assert client.post(address, sure).status_code == 302
    assert mass_of(snake) == pytest.approx(float(typed_text) / 1000)


def test_the_bench_asks_about_a_weight_far_off_too(client: Client, make_habitat: Any) -> None:
    snake = make_habitat(**CORN)
    where = {"version": 1, "step": "animal", "season": "winter", "phase": "day", "animal.mass_kg": "112"}
    address = reverse("planner:save", args=[snake.pk])
    shown = client.post(address, where).content.decode()
    assert mass_of(snake) == 1.12
    assert "1.12 kg" in shown
    client.post(address, where | {"animal.mass_kg:sure": "1"})
    assert mass_of(snake) == 0.112


def test_a_field_takes_what_is_typed_and_asks_what_can_be_two(client: Client, habitat: Habitat) -> None:
    where = {"step": "heat", "season": "winter", "phase": "day"}
    address = reverse("planner:save", args=[habitat.pk])
    client.post(address, where | {"version": 1, "heaters.0.on": "8:30", "heaters.0.off": "8pm", "heaters.0.x_m": "1½ ft"})
    heater = mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).heaters[0]
    assert (heater.on, heater.off, heater.x_m) == (time(8, 30), time(20), pytest.approx(1.5 * FOOT))
    shown = client.post(address, where | {"version": 2, "heaters.0.watts": "1,150"}).content.decode()
    assert 'data-offer="1150"' in shown
    assert 'data-offer="1.15"' in shown


def test_a_new_habitats_box_and_weight_are_read_the_same_way(client: Client, owner: Keeper) -> None:
    room = owner.membership_set.get().room_id
    posted = {
        "room": room, "name": "A box", "species": "corn-snake", "animal_name": "Dune", "sex": "female", "age": "1 year 6 months",
        "mass": "1,150", "box": "48 x 24 x 24 in", "summer_day": "77F", "summer_night": "21", "summer_humidity": "55 %",
        "winter_day": "20 °C", "winter_night": "16", "winter_humidity": "45",
    }  # fmt: skip
    shown = client.post(reverse("rooms:new"), posted)
    assert "can mean 1150 or 1.15" in shown.content.decode()
    assert client.post(reverse("rooms:new"), posted | {"mass": "250 g"}).status_code == 302
    plan = mapping.plan_of(Habitat.objects.get())
    assert (plan.enclosure.length_m, plan.enclosure.height_m) == pytest.approx((48 * INCH, 24 * INCH))
    assert plan.room.summer.day_c == pytest.approx(25.0)


def test_a_thousand_crickets_are_a_thousand(client: Client, habitat: Habitat) -> None:
    posted = {"version": "1", "food": ["cricket"], "amount": ["1,000"], "unit": ["piece"], "each": [""], "week": [""]}
    client.post(reverse("rota:own-menu", args=[habitat.pk]), posted)
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).feeding.items[0].count == 1000


UNREAD: dict[str, tuple[str, dict[str, str], str]] = {
    "vessels of a culture": ("pantry:begin-culture", {"kind": "fruit-fly", "vessels": "a few"}, "Vessels are counted"),
    "an enclosure's price": ("planner:prices", {"price_once_0": "2,000,000.00"}, "is no price"),
    "how long an order takes": ("pantry:change", {"do": "packs", "lead_days": "a week"}, "not a number of days"),
    "and one of two years": ("pantry:change", {"do": "packs", "lead_days": "730"}, "not a number of days"),
    "days of an own chore": (
        "rota:chores",
        {"own": "1", "own-0-name": "Feather the sand", "own-0-days": "two", "own-0-weekday": "1"},
        "not a number of days",
    ),
    "how many ate": ("rota:fed", {"outcome": "eaten", "ate": "both"}, "none of 0 to 2 animals"),
    "more than there are": ("rota:fed", {"outcome": "eaten", "ate": "3"}, "none of 0 to 2 animals"),
    "the bowl after alone": ("rota:fed", {"outcome": "skipped", "after": "12"}, "without the bowl before"),
}


@pytest.mark.parametrize("what", UNREAD)
def test_what_cannot_be_read_is_said_and_nothing_else_is_taken_for_it(
    client: Client, make_habitat: Callable[..., Habitat], what: str
) -> None:
    name, posted, said = UNREAD[what]
    habitat = make_habitat(animal={"name": "Marram", "mass_kg": 0.06, "count": 2})
    item = Item.objects.create(room=habitat.room, food="cricket", kind="live", unit="piece", pack_size=100, lead_days=4)
    keys = {"pantry:begin-culture": habitat.room_id, "pantry:change": item.pk}
    answer = client.post(reverse(name, args=[keys.get(name, habitat.pk)]), {"version": "1"} | posted, follow=True)
    assert said in answer.content.decode()
    item.refresh_from_db()
    after = Habitat.objects.get(pk=habitat.pk)
    assert (after.version, item.lead_days, Culture.objects.count()) == (habitat.version, 4, 0)
    assert Event.objects.filter(kind=Event.Kind.FED).count() == (1 if "after" in posted else 0)


@pytest.mark.parametrize(
    "text", ["5---5", "²-1", "٣-1", "-1", "9" * 17 + "-1", "-" + "9" * 17 + "-1", "1-" + "9" * 5000, "-86400000000-1"]
)
def test_an_address_of_a_daybooks_page_is_a_place_in_it_or_nothing(client: Client, habitat: Habitat, text: str) -> None:
    assert client.get(reverse("keeping:habitat-daybook", args=[habitat.pk]), {"before": text}).status_code == 200


@pytest.mark.parametrize("key", ["1,000", "1 000", "²", "9" * 5000, "+1", ""])
def test_a_chore_of_no_habitat_is_not_there(client: Client, key: str) -> None:
    assert client.post(reverse("rota:done"), {"turn": f"{key}:{TODAY}:water"}).status_code == 404
