"""The chores of whole habitats, each as a line that a keeper can check against what is done in a room.

Common practice, no source.
"""

from datetime import date, time, timedelta
from typing import Any

import pytest

from husbandry.assessment import Measure
from husbandry.feeding.history import Appointment, History, RecordedMeal
from husbandry.rota.card import Card, RoomDays, compile_card, expand, next_feed
from husbandry.rota.moves import consequences
from husbandry.species.book import find
from husbandry.upkeep.jobs import Job
from husbandry.upkeep.recur import EveryDays, Monthly, Once, Weekly
from tests.plans import TODAY, plan

SINCE = date(2026, 10, 1)


def told(job: Job) -> str:
    """A chore in one line: its id, its rule, its clock times, its part of the year, its end, how it goes on."""
    match job.rule:
        case EveryDays(days, since):
            rule = f"every {days} d from {since}"
        case Weekly(weekdays, since):
            rule = f"weekdays {' '.join(map(str, weekdays))} from {since}"
        case Monthly(months, since):
            rule = f"every {months} months from {since}"
        case Once(day):
            rule = f"once {day}"
    season = "" if job.season is None else "{}-{} to {}-{}".format(*job.season.first, *job.season.last)
    more = [f"at {at:%H:%M}" for at in job.times] + ([season] if season else []) + ([f"until {job.until}"] if job.until else [])
    more += ["from done"] if job.from_done else []
    more += [f"slack {job.slack_days}"] if job.slack_days else []
    more += [f"last {job.last_done}"] if job.last_done else []
    more += [f"({job.why})"] if job.why else []
    return "; ".join([f"{job.id}: {rule}", *more])


def card_of(history: History | None = None, **changes: Any) -> Card:
    made = plan(**({"feeding": {"starts": "2026-10-01"}} | changes))
    return compile_card(made, find(made.species), TODAY, history or History(SINCE))


def lines(card: Card) -> list[str]:
    return [told(job) for job in card.jobs]


CASES: dict[str, tuple[History, dict[str, Any], list[str]]] = {
    "a grown gecko on soil": (
        History(SINCE),
        {},
        [
            "water: every 1 d from 2026-10-01",
            "moss-damp: every 2 d from 2026-10-01; from done",
            "moss-change: every 14 d from 2026-10-15; from done; slack 3",
            "spot-clean: every 1 d from 2026-10-01",
            "deep-clean: every 60 d from 2026-11-30; from done; slack 15",
            "thermometers: every 7 d from 2026-10-01; from done; slack 1",
            "thermostats: every 30 d from 2026-10-01; from done; slack 7",
            "uv-lamp/0: every 6 months from 2026-10-01; from done; slack 7; last 2026-10-01",
            "uv-check: every 90 d from 2026-10-01; from done; slack 22",
            "weigh: every 30 d from 2026-10-01; from done; slack 7",
            "condition: every 30 d from 2026-10-01; from done; slack 7",
        ],
    ),
    "a snake in quarantine on paper, with a course, eggs and chores of its keeper's": (
        History(
            SINCE,
            done={"paper": date(2026, 11, 1)},
            appointments=(
                Appointment("course", "7", date(2026, 11, 20), 3, date(2026, 12, 1)),
                Appointment("candle", "3", date(2026, 12, 1)),
            ),
        ),
        {
            "species": "corn-snake",
            "animal": {"length_m": 1.2, "mass_kg": 0.4, "hatched": "2020-06-01"},
            "ground": {"kind": "paper", "depth_m": 0.0},
            "hides": [],
            "heaters": [],
            "uv_lamps": [],
            "upkeep": {
                "every_days": {"paper": 10, "condition": 0, "water": 2},
                "quarantine_until": "2026-12-20",
                "own": [
                    {"name": "Sweep", "every_days": 1},
                    {"name": "Wipe", "every_days": 14},
                    {"name": "Shelf", "weekdays": [4, 1, 4], "from_month": 5, "until_month": 8},
                ],
            },
        },
        [
            "water: every 2 d from 2026-10-01; from done",
            "spot-clean: every 2 d from 2026-10-01; from done",
            "paper: every 10 d from 2026-10-01; from done; slack 2; last 2026-11-01",
            "weigh: every 30 d from 2026-10-01; from done; slack 7",
            "faecal-check: once 2026-12-06",
            "quarantine-ends: once 2026-12-20",
            "own/Sweep: every 1 d from 2026-10-01",
            "own/Wipe: every 14 d from 2026-10-01; from done; slack 3",
            "own/Shelf: weekdays 1 4 from 2026-10-01; 5-1 to 8-31",
            "course/7: every 3 d from 2026-11-20; until 2026-12-01",
            "candle/3: once 2026-12-01; until 2026-12-15",
        ],
    ),
    "a young tortoise on deep loam, before and after a rest": (
        History(SINCE),
        {
            "species": "russian-tortoise",
            "animal": {"mass_kg": 0.04, "length_m": 0.06, "hatched": "2026-06-01"},
            "ground": {"kind": "sandy-loam", "depth_m": 0.2},
            "feeding": {
                "starts": "2026-10-01",
                "calcium_dish": True,
                "fasts": [
                    {"first": "2026-12-01", "last": "2027-02-01", "why": "rest"},
                    {"first": "2026-03-01", "last": "2026-11-09", "why": "rest"},
                    {"first": "2026-08-01", "last": "2026-11-10", "why": "rest"},
                    {"first": "2026-11-12", "last": "2026-11-30", "why": "shed"},
                ],
            },
        },
        [
            "water: every 1 d from 2026-10-01",
            "soak: weekdays 0 2 4 from 2026-10-01",
            "moss-damp: every 2 d from 2026-10-01; from done",
            "moss-change: every 14 d from 2026-10-15; from done; slack 3",
            "spot-clean: every 1 d from 2026-10-01",
            "ground-renew: every 60 d from 2026-11-30; from done; slack 15",
            "thermometers: every 7 d from 2026-10-01; from done; slack 1",
            "thermostats: every 30 d from 2026-10-01; from done; slack 7",
            "uv-lamp/0: every 6 months from 2026-10-01; from done; slack 7; last 2026-10-01",
            "uv-check: every 90 d from 2026-10-01; from done; slack 22",
            "weigh: every 14 d from 2026-10-01; from done; slack 3",
            "condition: every 30 d from 2026-10-01; from done; slack 7",
            "calcium-dish: every 7 d from 2026-10-01; from done; slack 1",
            "next-stage/adult: once 2028-02-02",
            "rest-weigh/2026-12-01: every 7 d from 2026-12-01; until 2027-02-01",
            "first-meal/2026-12-01: once 2027-02-02",
            "rest-weigh/2026-08-01: every 7 d from 2026-08-01; until 2026-11-10",
            "first-meal/2026-08-01: once 2026-11-11",
        ],
    ),
    "a frog that is misted by the clock in summer, by hand in winter": (
        History(SINCE),
        {
            "species": "red-eyed-tree-frog",
            "animal": {"length_m": 0.06},
            "ground": {"kind": "soil", "depth_m": 0.03},
            "heaters": [],
            "hides": [],
            "misting": {
                "grams_per_day": 0,
                "fogger_g_per_hour": 20,
                "times": [{"at": "20:00", "grams": 30}, {"at": "08:00", "grams": 20}, {"at": "08:00", "grams": 10}],
                "winter": {"grams_per_day": 40},
            },
        },
        [
            "water: every 1 d from 2026-10-01",
            "misting/08:00: every 1 d from 2026-10-01; at 08:00; 4-1 to 9-30",
            "misting/20:00: every 1 d from 2026-10-01; at 20:00; 4-1 to 9-30",
            "misting/08:00: every 1 d from 2026-10-01; at 08:00; 10-1 to 3-31",
            "misting/19:30: every 1 d from 2026-10-01; at 19:30; 10-1 to 3-31",
            "fogger: every 7 d from 2026-10-08; from done; slack 1",
            "spot-clean: every 1 d from 2026-10-01",
            "ground-renew: every 60 d from 2026-11-30; from done; slack 15",
            "uv-lamp/0: every 6 months from 2026-10-01; from done; slack 7; last 2026-10-01",
            "uv-check: every 90 d from 2026-10-01; from done; slack 22",
            "weigh: every 30 d from 2026-10-01; from done; slack 7",
            "condition: every 30 d from 2026-10-01; from done; slack 7",
        ],
    ),
    "a turtle in filtered water": (
        History(SINCE),
        {
            "species": "musk-turtle",
            "animal": {"length_m": 0.1, "mass_kg": 0.2},
            "pool": {"x_m": 0.6, "length_m": 1.0, "depth_m": 0.3, "filtered": True},
            "uv_lamps": [],
            "hides": [],
        },
        [
            "water-change: every 7 d from 2026-10-08; from done; slack 1",
            "filter: every 30 d from 2026-10-31; from done; slack 7",
            "spot-clean: every 1 d from 2026-10-01",
            "thermometers: every 7 d from 2026-10-01; from done; slack 1",
            "thermostats: every 30 d from 2026-10-01; from done; slack 7",
            "weigh: every 30 d from 2026-10-01; from done; slack 7",
            "condition: every 30 d from 2026-10-01; from done; slack 7",
        ],
    ),
    "a snake that is cooled": (
        History(SINCE),
        {
            "species": "corn-snake",
            "animal": {"length_m": 1.2, "mass_kg": 0.4, "hatched": "2020-06-01"},
            "uv_lamps": [],
            "heaters": [],
            "hides": [],
            "bowl": None,
            "year": {"mode": "fixed", "cooling": {"begins": "2026-12-20", "rest_weeks": 8}},
        },
        [
            "spot-clean: every 2 d from 2026-10-01; from done",
            "deep-clean: every 60 d from 2026-11-30; from done; slack 15",
            "weigh: every 30 d from 2026-10-01; from done; slack 7",
            "condition: every 30 d from 2026-10-01; from done; slack 7",
            "timers/2026-12-21: once 2026-12-21; (08:30–19:30)",
            "timers/2026-12-28: once 2026-12-28; (09:30–18:30)",
            "timers/2027-01-04: once 2027-01-04; (10:30–17:30)",
            "timers/2027-01-11: once 2027-01-11; (11:00–17:00)",
            "timers/2027-03-08: once 2027-03-08; (10:30–17:30)",
            "timers/2027-03-15: once 2027-03-15; (09:30–18:30)",
            "timers/2027-03-22: once 2027-03-22; (08:30–19:30)",
            "timers/2027-03-29: once 2027-03-29; (08:00–20:00)",
            "last-meal: once 2026-11-29",
            "rest-begins: once 2026-12-20",
            "rest-weigh: every 7 d from 2027-01-10; until 2027-03-07",
            "rest-ends: once 2027-03-07",
            "first-meal: once 2027-03-28",
        ],
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_the_chores_of_a_habitat_are_these(name: str) -> None:
    history, changes, expected = CASES[name]
    assert lines(card_of(history, **changes)) == expected


def test_timers_turn_by_weeks_through_a_year_of_the_north() -> None:
    """At 52° N the light is shortest over midwinter and longest over midsummer, and turns by a quarter of an hour at a time."""
    card = card_of(species="leopard-gecko", year={"mode": "latitude", "latitude_deg": 52.0}, upkeep={"every_days": {}})
    turns = [job for job in card.jobs if job.key == "timers"]
    days = [job.rule.on for job in turns if isinstance(job.rule, Once)]
    assert [job.detail for job in turns] == [day.isoformat() for day in days]
    assert days == sorted(days)
    assert days[-1] <= date(2027, 12, 29)  # four hundred days on, and no further
    why = {job.detail: job.why for job in turns}
    assert why["2026-12-14"] == "10:15–17:45"
    assert why["2027-05-17"] == "06:00–22:00"
    assert why["2027-09-20"] == "08:00–20:00"  # about the day that is as long as its night
    assert card.jobs[-1].rule == Once(days[-1])


def test_timers_that_turned_before_a_habitat_was_made_stand_on_its_first_day() -> None:
    card = card_of(History(TODAY), species="leopard-gecko", year={"mode": "latitude", "latitude_deg": 52.0})
    first, *_others = (job for job in card.jobs if job.key == "timers")
    assert (first.detail, first.rule) == ("2026-11-16", Once(TODAY))


FOODS = {
    "mice": ("corn-snake", {"length_m": 1.2, "mass_kg": 0.4}, [("thaw", -1, ()), ("prey-out", 1, ())]),
    "fish among pellets": ("musk-turtle", {"length_m": 0.1, "mass_kg": 0.2}, [("thaw", -1, ("fish",)), ("prey-out", 1, ("fish",))]),
    "insects": ("african-fat-tailed-gecko", {"length_m": 0.12}, [("gut-load", -1, ()), ("insects-out", 1, ())]),
    "greens": ("russian-tortoise", {"length_m": 0.15, "mass_kg": 0.6}, [("greens-out", 0, ())]),
    "eggs": ("egg-eating-snake", {"length_m": 0.7}, [("eggs-out", 3, ())]),
}


@pytest.mark.parametrize("name", FOODS)
def test_what_is_done_around_a_feed_goes_by_its_food(name: str) -> None:
    """Prey is thawed the day before and taken out the day after; insects are fed before; eggs lie for three days."""
    species, animal, expected = FOODS[name]
    card = card_of(species=species, animal=animal)
    assert [(item.key, item.days, item.foods) for item in card.around] == expected


@pytest.mark.parametrize(
    ("species", "time_of_day", "at"),
    [
        ("corn-snake", "evening", time(19, 0)),
        ("russian-tortoise", "morning", time(9, 0)),
        ("african-fat-tailed-gecko", "dusk", time(20, 0)),
    ],
)
def test_a_feed_stands_at_a_time_of_its_animals_day(species: str, time_of_day: str, at: time) -> None:
    card = card_of(species=species, animal={"length_m": 0.15})
    assert (card.time_of_day, card.feed_at) == (time_of_day, at)


def test_the_next_feed_is_the_one_that_the_calendar_shows() -> None:
    card = card_of()
    for weekdays in ((), (0,), (2, 5)):
        shown = [feed.day for feed in expand(card, TODAY, TODAY + timedelta(days=30), RoomDays(TODAY, weekdays)).feeds]
        assert next_feed(card, TODAY, 30, weekdays) == shown[0]
    assert next_feed(card, TODAY, 0) is None
    moved = {"feed": {shown_first: shown_first + timedelta(days=1) for shown_first in (next_feed(card, TODAY, 30),) if shown_first}}
    assert next_feed(card, TODAY, 30, moves=moved) != next_feed(card, TODAY, 30)


def on(days: int) -> date:
    return TODAY + timedelta(days=days)


FED_TODAY = History(SINCE, (RecordedMeal(TODAY, "eaten", ("plain calcium",)),))
THURSDAY, FIRST_OF_DECEMBER = 2, 7
Said = list[tuple[str, dict[str, Any]]]
USUAL = {"usual": Measure(3.0, "d")}
POWDER = {"product": "multivitamin", "was": "2026-11-26"}
# What is moved, from the day of its rule to another, both counted from today, a Tuesday; and all that is said of it. Somebody
# comes on Tuesdays, Thursdays and Saturdays; the animal is fed every third day, was fed today, and has a fast from the 20th on.
MOVES: dict[str, tuple[str, int, int, Said]] = {
    "into the past": ("feed", THURSDAY, -1, [("move.past", {})]),
    "onto today's meal": (
        "feed",
        THURSDAY,
        0,
        [
            ("move.merges", {"day": "2026-11-24"}),
            ("move.gap_after", {"gap": Measure(7, "d")} | USUAL),
            ("move.powder", POWDER | {"day": "2026-11-24"}),
        ],
    ),
    "by a day, when nobody comes": (
        "feed",
        THURSDAY,
        3,
        [("move.off_room_days", {"weekday": "2026-11-27"}), ("move.powder", POWDER | {"day": "2026-11-27"})],
    ),
    "a little late": ("feed", THURSDAY, 4, [("move.powder", POWDER | {"day": "2026-11-28"})]),
    "too late, and near the next": (
        "feed",
        THURSDAY,
        6,
        [
            ("move.off_room_days", {"weekday": "2026-11-30"}),
            ("move.gap_before", {"gap": Measure(6, "d")} | USUAL),
            ("move.gap_after", {"gap": Measure(1, "d")} | USUAL),
            ("move.powder", POWDER | {"day": "2026-11-30"}),
        ],
    ),
    "into a fast": ("feed", THURSDAY, 28, [("move.fast", {"day": "2026-12-27", "why": "shed"})]),
    "a chore to where the room's days have put it already": ("deep-clean", 6, FIRST_OF_DECEMBER, []),
    "a chore to a day with nobody": ("deep-clean", 6, 8, [("move.off_room_days", {"weekday": "2026-12-02"})]),
    "a late chore from today to its next day": ("weigh", -54, 0, []),
    "a daily chore to another of its days": ("spot-clean", 1, 2, [("move.twice", {"day": "2026-11-26"})]),
}


@pytest.mark.parametrize("what", MOVES)
def test_what_is_said_of_a_move_is_this(what: str) -> None:
    job, planned, to, expected = MOVES[what]
    card = card_of(
        FED_TODAY, feeding={"starts": "2026-10-01", "fasts": [{"first": "2026-12-20", "last": "2026-12-27", "why": "shed"}]}
    )
    found = consequences(card, job, on(planned), on(to), RoomDays(TODAY, (1, 3, 5)))
    assert [(reason.code.value, reason.parameters) for reason in found] == expected
