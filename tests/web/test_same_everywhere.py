"""One rota, many faces: menu, day, week, month, calendar file, table, sitter's card and pantry say the same."""

import csv
import io
from collections import Counter
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from icalendar import Calendar

from husbandry.rota.card import RoomDays, is_daily
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.language import rotawords
from ridgeback.rooms.models import Habitat, Room
from ridgeback.rota import board, cards, history, menu, sharing, stock_forecasts
from ridgeback.units import METRIC
from tests.plans import TODAY

# A week from today, and the one after it as the calendar's week.
DAYS, WEEK = 14, TODAY + timedelta(days=6)
ANIMALS: dict[str, dict[str, Any]] = {
    "african-fat-tailed-gecko": {"name": "Samphire", "mass_kg": 0.058, "length_m": 0.125},
    "corn-snake": {"name": "Marram", "mass_kg": 0.8, "length_m": 1.4},
    "garter-snake": {"name": "Sedge", "mass_kg": 0.09, "length_m": 0.8},
    "russian-tortoise": {"name": "Thrift", "mass_kg": 0.3, "length_m": 0.11},
    "uromastyx": {"name": "Tansy", "mass_kg": 0.35, "length_m": 0.34},
    "fire-salamander": {"name": "Scurvy-grass", "mass_kg": 0.03, "length_m": 0.2},
}


@pytest.fixture(autouse=True)
def _a_fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)
    monkeypatch.setattr(clock, "now", lambda: datetime(2026, 11, 24, 12, tzinfo=UTC))


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture(params=[[], [0, 2, 4, 5]], ids=["every day", "room days"])
def room(request: pytest.FixtureRequest, owner: Keeper, make_habitat: Callable[..., Habitat]) -> Room:
    """A room of every way of feeding: one late, one that fasts, one on weekdays, one feed moved, one with own chores."""
    own = {"own": [{"name": "Polish the glass", "every_days": 5}, {"name": "Hay rack", "weekdays": [2]}]}
    for place, (species, animal) in enumerate(ANIMALS.items()):
        feeding: dict[str, Any] = {"starts": (TODAY - timedelta(days=place)).isoformat()}
        if species == "uromastyx":
            feeding["weekdays"] = [0, 1, 2, 4, 6]
        if species == "fire-salamander":
            feeding["fasts"] = [{"first": "2026-11-27", "last": "2026-11-30", "why": "transport"}]
        upkeep = own if species == "russian-tortoise" else {}
        make_habitat(name=f"Habitat {place}", species=species, animal=animal, schools={}, feeding=feeding, upkeep=upkeep)
    snake = Habitat.objects.get(species="corn-snake")
    meal = datetime(2026, 11, 8, 18, tzinfo=UTC)
    log.fed(snake, meal, owner, outcome="eaten", due="2026-11-08", products=[], foods=[["mouse/adult", 2, 48.0]])
    gecko = Habitat.objects.get(species="african-fat-tailed-gecko")
    log.moved(gecko, clock.now(), owner, "feed", "2026-11-26", "2026-11-27")
    found = Room.objects.get(members=owner)
    found.weekdays = request.param
    found.save()
    return found


Feeds = Counter[tuple[str, date]]


def expected(room: Room) -> tuple[Feeds, Counter[tuple[str, str, date]]]:
    """The feeds and chores of two weeks straight from the cards."""
    habitats = list(cards.habitats_of_room(room.pk))
    fed: Feeds = Counter()
    done: Counter[tuple[str, str, date]] = Counter()
    for habitat, days in sharing.spans(habitats, TODAY, DAYS, TODAY):
        fed.update((habitat.company.name, feed.day) for feed in days.feeds)
        done.update((habitat.company.name, item.id, item.day) for item in days.jobs)
    assert len({name for name, _day in fed}) == len(ANIMALS)
    return fed, done


@pytest.mark.sweep
def test_the_calendar_file_has_each_feed_and_each_chore_once(client: Client, room: Room) -> None:
    fed, done = expected(room)
    made = Calendar.from_ical(client.get(reverse("rota:file")).content)
    last = TODAY + timedelta(days=DAYS)
    said: Counter[tuple[str, date]] = Counter()
    for event in made.walk("VEVENT"):
        starts = event.decoded("dtstart")
        day = starts.date() if isinstance(starts, datetime) else starts
        if day < last:
            said[str(event["summary"]).partition(" + ")[0], day] += 1
    feeds = {(f"Feed {name}", day): count for (name, day), count in fed.items()}
    assert {key: count for key, count in said.items() if key[0].startswith("Feed ")} == feeds
    chores = sum(count for key, count in said.items() if not key[0].startswith(("Feed ", "No food for ")))
    assert chores == done.total()
    uids = [str(event["uid"]) for event in made.walk("VEVENT")]
    assert len(uids) == len(set(uids))


def test_the_table_has_a_line_for_each_turn(client: Client, room: Room) -> None:
    fed, done = expected(room)
    lines = list(csv.DictReader(io.StringIO(client.get(reverse("rota:csv")).content.decode())))
    last = (TODAY + timedelta(days=DAYS)).isoformat()
    near = [line for line in lines if line["date"] < last]
    feed = str(rotawords.job("feed").name)
    told = Counter((line["animal"], date.fromisoformat(line["date"])) for line in near if line["what"] == feed)
    assert told == fed
    assert sum(line["what"] != feed for line in near) == done.total()
    assert {line["animal"] for line in near if line["late"]} == {"Marram"}
    assert all(line["food"] for line in near if line["what"] == feed)


@pytest.mark.sweep
def test_day_week_and_month_count_the_same_turns(client: Client, owner: Keeper, room: Room) -> None:
    fed, done = expected(room)
    by_day: Counter[date] = Counter()
    for offset in range(DAYS):
        day = TODAY + timedelta(days=offset)
        turns = board.Board(owner, TODAY, day, 1).load().turns()
        assert Counter(turn.name for turn in turns if turn.job == "feed") == Counter(
            {name: count for (name, when), count in fed.items() if when == day}
        )
        by_day[day] = len(turns)
        both = board.by_habitat(turns), board.by_job(turns)
        assert [sum(len(group["turns"]) for group in groups) for groups in both] == [len(turns)] * 2
    assert by_day.total() == fed.total() + done.total()
    monday = WEEK - timedelta(days=WEEK.weekday())
    week = board.week(board.Board(owner, TODAY, monday, 7).load())
    shown = {
        (row["habitat"].company.name, cell["day"]): sum(turn.job == "feed" for turn in cell["turns"])
        for row in week
        for cell in row["cells"]
    }
    assert {key: count for key, count in shown.items() if count} == {
        key: count for key, count in fed.items() if monday <= key[1] < monday + timedelta(days=7)
    }
    counting = board.Board(owner, TODAY, TODAY, DAYS, counts_only=True).load()
    months = {cell["day"]: cell["lines"] for row in board.month(counting, TODAY) for cell in row}
    for day, lines in months.items():
        feeds = next((line["count"] for line in lines if line["key"] == "feed"), 0)
        assert feeds == sum(count for (_name, when), count in fed.items() if when == day)


@pytest.mark.sweep
def test_the_sitters_card_and_each_menu_have_the_same_feeds_and_foods(client: Client, room: Room) -> None:
    fed, _done = expected(room)
    habitats = list(cards.habitats_of_room(room.pk))
    card = sharing.sitter(habitats, TODAY, DAYS, TODAY, METRIC)
    told = Counter((one["habitat"].company.name, row["day"]) for one in card for row in one["days"] if row["feed"])
    assert told == fed
    for one in card:
        habitat = one["habitat"]
        page = client.get(reverse("rota:menu", args=[habitat.pk])).context
        days = [day for row in page["rows"] for day in row if day.day < TODAY + timedelta(days=DAYS)]
        planned = Counter((habitat.company.name, day.day) for day in days for beat in day.beats if beat.state != "eaten")
        assert planned == Counter({key: count for key, count in fed.items() if key[0] == habitat.company.name})
        foods = {row["day"]: row["food"] or one["food"] for row in one["days"] if row["feed"]}
        said = {day.day: day.beats[-1].reasons[0].removesuffix(".") for day in days if day.day in foods}
        assert said == foods


def test_the_pantry_takes_what_the_feeds_hold(room: Room) -> None:
    """Food by food, the amounts of two weeks: no feed is forgotten when the freezer is reckoned, and none counted twice."""
    habitats = list(cards.habitats_of_room(room.pk))
    took: Counter[str] = Counter()
    for _habitat, days in sharing.spans(habitats, TODAY, DAYS, TODAY):
        for uses in days.foods.values():
            for use in uses:
                took[use.food] += round(1000 * use.grams)  # type: ignore[assignment]
    reckoned = stock_forecasts.uses_by_day(habitats, TODAY, DAYS)
    foods = {food: round(1000 * sum(grams for _pieces, grams in days.values())) for food, days in reckoned.items()}
    assert {food: foods[food] for food in took} == pytest.approx(dict(took), abs=20)
    assert set(foods) - set(took) <= {"plain calcium", "calcium with D3", "multivitamin", "all-in-one"}


def test_a_meal_written_down_goes_from_every_face_and_comes_back_to_it(client: Client, room: Room) -> None:
    before = expected(room)[0]
    tortoise = Habitat.objects.get(species="russian-tortoise")
    client.post(reverse("rota:calendar-fed"), {"meal": f"{tortoise.pk}:eaten"})
    after = expected(room)[0]
    assert ("Thrift", TODAY) in before
    assert ("Thrift", TODAY) not in after
    assert {key for key in after if key[0] != "Thrift"} == {key for key in before if key[0] != "Thrift"}
    event = Event.objects.get(habitat=tortoise, kind=Event.Kind.FED)
    client.post(reverse("rota:calendar-take-back"), {"event": f"{event.pk}:{tortoise.pk}"})
    assert expected(room)[0] == before


def test_what_is_said_to_be_daily_comes_every_day(room: Room) -> None:
    habitats = list(cards.habitats_of_room(room.pk))
    made, moves = cards.of_habitats(habitats, TODAY), history.moves_of([habitat.pk for habitat in habitats], TODAY)
    for habitat in habitats:
        card = made[habitat.pk]
        days = cards.span(card, TODAY, DAYS, RoomDays(TODAY, tuple(room.weekdays), moves.get(habitat.pk, {})))
        often = Counter(item.id for item in days.jobs)
        for job in card.jobs:
            if is_daily(job):
                assert often[job.id] == DAYS * max(len(job.times), 1)
        assert all(menu.foods_text(uses) for uses in days.foods.values())
