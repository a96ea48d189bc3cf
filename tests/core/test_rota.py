"""The rota: rules of recurrence against dateutil, sharing of days, what was done or missed, the clock on the wall."""

import json
from calendar import monthrange
from datetime import UTC, date, datetime, time, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import pytest
from dateutil.rrule import DAILY, MONTHLY, WEEKLY
from hypothesis import given, settings
from hypothesis import strategies as st

from husbandry.assess.assess import NO_DAYS, Records, assess
from husbandry.assessment import Reason
from husbandry.diet.dusting import Past, Product, rota
from husbandry.feeding.history import History, RecordedMeal
from husbandry.feeding.schedule import past_of
from husbandry.rota import card as cards
from husbandry.rota.card import Card, RoomDays, compile_card, expand
from husbandry.rota.moves import consequences
from husbandry.species.book import find
from husbandry.upkeep.batching import share, slack_of
from husbandry.upkeep.clocktimes import moment
from husbandry.upkeep.feeds import FeedRule, feeds
from husbandry.upkeep.jobs import Job, due
from husbandry.upkeep.recur import EveryDays, Monthly, Once, Season, Weekly, dates, spread_over_week
from tests.core.calendars import DAYS, SPANS, WEEKDAYS, by_rrule, start_of
from tests.plans import TODAY, plan
from tests.sample import times


@given(st.integers(1, 90), DAYS, DAYS, SPANS)
def test_every_so_many_days_is_rfc_5545s_daily(step: int, since: date, begin: date, span: int) -> None:
    end = begin + timedelta(days=span)
    assert dates(EveryDays(step, since), begin, end) == by_rrule(begin, end, freq=DAILY, interval=step, dtstart=start_of(since))


@given(WEEKDAYS, st.integers(1, 6), DAYS, DAYS, SPANS)
def test_weekdays_are_rfc_5545s_weekly(weekdays: tuple[int, ...], weeks: int, since: date, begin: date, span: int) -> None:
    end = begin + timedelta(days=span)
    expected = by_rrule(begin, end, freq=WEEKLY, interval=weeks, byweekday=weekdays, dtstart=start_of(since), wkst=0)
    assert dates(Weekly(weekdays, since, weeks), begin, end) == expected


@given(st.integers(1, 14), st.dates(date(2019, 1, 1), date(2026, 12, 28)).filter(lambda day: day.day <= 28), DAYS, SPANS)
def test_months_are_rfc_5545s_monthly(months: int, since: date, begin: date, span: int) -> None:
    end = begin + timedelta(days=span)
    expected = by_rrule(begin, end, freq=MONTHLY, interval=months, dtstart=start_of(since))
    assert dates(Monthly(months, since), begin, end) == expected


def test_the_last_of_a_month_stays_the_last_and_comes_back() -> None:
    """RFC 5545 leaves short months out; a lamp is replaced all the same, on their last day, and the day does not creep."""
    found = dates(Monthly(1, date(2023, 12, 31)), date(2024, 1, 1), date(2024, 6, 1))
    assert found == (date(2024, 1, 31), date(2024, 2, 29), date(2024, 3, 31), date(2024, 4, 30), date(2024, 5, 31))
    assert dates(Monthly(12, date(2024, 2, 29)), date(2025, 1, 1), date(2029, 1, 1))[-1] == date(2028, 2, 29)


@given(DAYS, st.integers(1, 12), st.integers(1, 400))
def test_no_month_is_lost_or_doubled(since: date, months: int, span: int) -> None:
    found = dates(Monthly(months, since), since, since + timedelta(days=span))
    count = [(day.year * 12 + day.month) for day in found]
    assert count == list(range(count[0], count[0] + months * len(count), months)) if count else True


@pytest.mark.parametrize(
    "rule", [EveryDays(0, TODAY), Weekly((), TODAY), Weekly((7,), TODAY), Monthly(0, TODAY), Weekly((1,), TODAY, 0)]
)
def test_a_rule_that_never_comes_round_is_refused(rule: EveryDays | Weekly | Monthly) -> None:
    with pytest.raises(ValueError):
        dates(rule, TODAY, TODAY + timedelta(days=9))


def test_chosen_days_lie_as_far_apart_as_can_be() -> None:
    """Soaks on Monday, Wednesday and Friday; five days a week and the two between (common practice, no source)."""
    assert spread_over_week(2) == (0, 3)
    assert spread_over_week(3) == (0, 2, 4)
    five = spread_over_week(5)
    assert len(five) == 5
    assert max(later - day for day, later in pairwise((*five, five[0] + 7))) == 2
    assert spread_over_week(2, (1, 2, 5)) == (1, 5)  # the earlier of two ways that lie equally far apart
    assert spread_over_week(4, (1, 4)) == (1, 4)
    with pytest.raises(ValueError, match="at least"):
        spread_over_week(0)


@given(st.dates(date(2023, 1, 1), date(2028, 12, 31)))
def test_a_season_runs_over_new_year_and_a_leap_day(day: date) -> None:
    winter, rest = Season((11, 1), (2, 28)), Season((3, 1), (10, 31))
    assert winter.holds(day) != rest.holds(day)


@given(st.integers(1, 12), st.integers(1, 12), st.integers(1, 20), DAYS, SPANS)
def test_a_job_of_a_season_is_rfc_5545s_rule_by_months(first: int, last: int, step: int, since: date, span: int) -> None:
    months = [(first - 1 + place) % 12 + 1 for place in range((last - first) % 12 + 1)]
    season = Season((first, 1), (last, monthrange(2023, last)[1]))
    job = Job("own", EveryDays(step, since), "wash", season=season)
    end = since + timedelta(days=span)
    expected = by_rrule(since, end, freq=DAILY, interval=step, dtstart=start_of(since), bymonth=months)
    assert tuple(item.day for item in due(job, since, end, today=since)) == expected


@given(st.integers(3, 60), DAYS, WEEKDAYS, st.integers(30, 400))
def test_shared_days_lose_nothing_and_do_not_drift(step: int, since: date, weekdays: tuple[int, ...], span: int) -> None:
    """However the room's days lie: each turn once, in order, within its slack."""
    turns = dates(EveryDays(step, since), since, since + timedelta(days=span))
    placed = share(turns, weekdays, slack_of(step))
    assert sum(1 + item.merged for item in placed) == len(turns)
    assert all(abs((item.day - item.due).days) <= slack_of(step) for item in placed)
    assert all(later.day > earlier.day for earlier, later in pairwise(placed))
    assert all(item.day.weekday() in weekdays or item.day == item.due for item in placed)


def test_what_was_set_to_a_day_to_come_is_not_late_when_its_own_day_has_passed() -> None:
    rule = FeedRule(7, TODAY - timedelta(days=90), last_offered=TODAY - timedelta(days=9))
    to = TODAY + timedelta(days=2)
    found = feeds(rule, TODAY, TODAY + timedelta(days=12), today=TODAY, moves={TODAY - timedelta(days=2): to})
    assert [(feed.day, feed.late) for feed in found] == [(to, False), (to + timedelta(days=7), False)]
    job = Job("deep-clean", EveryDays(60, TODAY), from_done=True, last_done=TODAY - timedelta(days=63))
    turns = due(job, TODAY, TODAY + timedelta(days=30), today=TODAY, moves={TODAY - timedelta(days=3): to})
    assert [(item.day, item.late) for item in turns] == [(to, False)]


@given(st.integers(2, 120), st.integers(0, 400))
def test_a_chore_is_counted_from_when_it_was_done(step: int, ago: int) -> None:
    """Done late is counted from then; overdue stands once, today."""
    job = Job("deep-clean", EveryDays(step, TODAY - timedelta(days=500)), from_done=True, last_done=TODAY - timedelta(days=ago))
    found = due(job, TODAY, TODAY + timedelta(days=step + 1), today=TODAY)[:1]
    late = ago > step
    assert sum(item.late for item in due(job, TODAY, TODAY + timedelta(days=900), today=TODAY)) == late
    assert found[0].late == late
    assert found[0].day == (TODAY if late else TODAY + timedelta(days=step - ago))


def test_a_chore_on_the_calendar_keeps_to_it_and_a_date_set_once_waits() -> None:
    soak = Job("soak", Weekly((0, 2, 4), TODAY), last_done=TODAY)
    assert [item.day.weekday() for item in due(soak, TODAY, TODAY + timedelta(days=7), today=TODAY)] == [2, 4, 0]
    lamp = Job("timers", Once(TODAY - timedelta(days=3)))
    assert due(lamp, TODAY, TODAY + timedelta(days=2), today=TODAY)[0].late
    done = Job("timers", Once(TODAY - timedelta(days=3)), last_done=TODAY - timedelta(days=2))
    assert due(done, TODAY, TODAY + timedelta(days=2), today=TODAY) == []
    misting = Job("misting", EveryDays(1, TODAY), times=(time(7), time(21)))
    assert [item.at for item in due(misting, TODAY, TODAY + timedelta(days=1), today=TODAY)] == [time(7), time(21)]


ZONES = st.sampled_from(["Europe/London", "America/New_York", "Australia/Lord_Howe", "Asia/Kolkata", "Pacific/Apia"])


@given(st.dates(date(2012, 1, 1), date(2032, 12, 31)), st.times(), ZONES)
def test_a_clock_time_is_one_moment_a_day_through_every_change_of_the_clocks(day: date, at: time, name: str) -> None:
    zone = ZoneInfo(name)
    found = moment(day, at.replace(fold=0), zone)
    assert found.astimezone(UTC).astimezone(zone) == found
    shown = found.replace(tzinfo=None) - datetime.combine(day, at)
    assert timedelta(0) <= shown <= timedelta(hours=24)  # later where the hour is left out, and a whole day once in Samoa
    following = moment(day + timedelta(days=1), at.replace(fold=0), zone)
    assert following >= found


def test_the_hour_left_out_in_spring_comes_later_and_the_double_one_first() -> None:
    """British clocks go forward on 29 March 2026 and back on 25 October 2026."""
    london = ZoneInfo("Europe/London")
    assert moment(date(2026, 3, 29), time(1, 30), london).time() == time(2, 30)
    assert moment(date(2026, 10, 25), time(1, 30), london).utcoffset() == timedelta(hours=1)


def given_on(days_ago: int, *names: str) -> tuple[date, tuple[str, ...]]:
    return TODAY - timedelta(days=days_ago), names


VITAMINS = Product("multivitamin", every_days=14)


def next_day(past: Past, product: Product, interval: int = 3, starts: date = TODAY - timedelta(days=28)) -> int:
    """Days from today until a product comes next; feeds from today on."""
    planned = [TODAY + timedelta(days=interval * place) for place in range(30)]
    placed = rota(planned, (product,), starts, past)
    return next((day - TODAY).days for day in planned if placed[day])


def test_a_missed_vitamin_comes_with_the_next_meal_and_is_not_doubled() -> None:
    """Due two weeks and four weeks after the start; the last was missed for good, this one is a meal late."""
    past = past_of((given_on(28, "multivitamin"), given_on(15), given_on(12), given_on(3)))
    assert next_day(past, VITAMINS) == 0
    placed = rota([TODAY + timedelta(days=3 * place) for place in range(10)], (VITAMINS,), TODAY - timedelta(days=28), past)
    assert [(day - TODAY).days for day, items in placed.items() if items] == [0, 15]
    late = past_of((given_on(32, "multivitamin"), given_on(1)))
    (first,) = rota([TODAY], (VITAMINS,), TODAY - timedelta(days=30), late)[TODAY]
    assert first.late  # due two days ago, and a meal has passed since


def test_what_was_given_a_little_early_or_late_stands_and_keeps_its_distance() -> None:
    early = past_of((given_on(2, "multivitamin"),))  # its turn is today: given two days early
    assert next_day(early, VITAMINS) == 15
    late = past_of((given_on(5, "multivitamin"),))  # nine days late: the turn of today waits half a period from then
    assert next_day(late, VITAMINS) == 3


def test_a_product_by_feeds_is_counted_from_the_meal_that_carried_it() -> None:
    product = Product("all-in-one", every_feeds=3)
    past = past_of((given_on(9, "all-in-one"), given_on(6)))
    planned = [TODAY + timedelta(days=3 * place) for place in range(7)]
    placed = rota(planned, (product,), TODAY, past)
    assert [place for place, day in enumerate(planned) if placed[day]] == [1, 4]


@settings(max_examples=times(20, 60))
@given(st.integers(1, 9), st.integers(3, 30), st.lists(st.booleans(), min_size=12, max_size=40))
def test_whatever_is_missed_no_turn_is_doubled_and_none_lost_for_long(interval: int, every: int, taken: list[bool]) -> None:
    """Meal by meal, some refused: the vitamin is never given twice within half its period, and the first meal after
    one and a quarter carries it."""
    product, meals = Product("multivitamin", every_days=every), []
    start = date(2026, 1, 1)
    given_days: list[date] = []
    for place, eaten in enumerate(taken):
        day = start + timedelta(days=interval * place)
        ahead = [day + timedelta(days=interval * more) for more in range(3)]
        carried = bool(rota(ahead, (product,), start, past_of(tuple(meals)))[day])
        if eaten:
            meals.append((day, ("multivitamin",) if carried else ()))
            given_days += [day] if carried else []
    for earlier, later in pairwise(given_days):
        assert (later - earlier).days >= every / 2
    for earlier, later in pairwise(given_days):
        waited = [day for day, _names in meals if day < later and (day - earlier).days > 1.25 * every + 1]
        assert not waited


def card_of(history: History | None = None, **changes: object) -> Card:
    made = plan(**({"feeding": {"starts": "2026-10-01"}} | changes))
    return compile_card(made, find(made.species), TODAY, history or History(date(2026, 10, 1)))


def test_a_card_goes_through_json_and_back() -> None:
    card = card_of(History(date(2026, 10, 1), (RecordedMeal(TODAY, "eaten", ("plain calcium",)),), {"deep-clean": TODAY}))
    assert cards.from_data(json.loads(json.dumps(cards.to_data(card)))) == card


@pytest.mark.parametrize("meals", [(), (RecordedMeal(TODAY - timedelta(days=5), "eaten", ("plain calcium", "multivitamin")),)])
def test_the_cards_feeds_are_the_assessments(meals: tuple[RecordedMeal, ...]) -> None:
    """One calculation has one home: what the bench shows is what the calendar shows, with meals on record and without."""
    made = plan(feeding={"starts": "2026-10-01"})
    menu = assess(made, find(made.species), TODAY, records=Records(meals=meals), depth=NO_DAYS).menu
    days = expand(card_of(History(date(2026, 10, 1), meals)), TODAY, TODAY + timedelta(days=28), RoomDays(TODAY))
    assert [feed.day for feed in days.feeds] == [feed.day for feed in menu.days]
    assert [days.dusting[feed.day] for feed in days.feeds] == [feed.dusting for feed in menu.days]


def test_a_refusal_is_no_dusting_and_the_count_goes_from_the_last_offer() -> None:
    refused = card_of(History(date(2026, 10, 1), (RecordedMeal(TODAY - timedelta(days=1), "refused", ("multivitamin",)),)))
    assert refused.past.last == {}
    days = expand(refused, TODAY, TODAY + timedelta(days=10), RoomDays(TODAY))
    assert days.feeds[0].day == TODAY + timedelta(days=2)
    assert any(item.product.name == "multivitamin" for item in days.dusting[days.feeds[0].day])


def test_chores_hang_on_feeds_and_the_keeper_leaves_one_out() -> None:
    days = expand(
        card_of(upkeep={"every_days": {"deep-clean": 0, "spot-clean": 4}}), TODAY, TODAY + timedelta(days=21), RoomDays(TODAY)
    )
    by_id: dict[str, list[date]] = {}
    for item in days.jobs:
        by_id.setdefault(item.id, []).append(item.day)
    feed_days = [feed.day for feed in days.feeds]
    loaded = [day + timedelta(days=1) for day in by_id["gut-load"]]
    assert set(feed_days) - {TODAY} <= set(loaded)
    assert by_id["insects-out"][0] == feed_days[0] + timedelta(days=1)
    assert "deep-clean" not in by_id
    assert all((later - earlier).days == 4 for earlier, later in pairwise(by_id["spot-clean"]))


def test_what_hangs_on_a_feed_goes_by_what_that_feed_holds() -> None:
    """A garter snake's mice, fish and worms take turns: nothing is thawed for worms, and no worms are looked for after a mouse."""
    items = [{"food": "earthworm", "count": 6, "per_week": 1.0}, {"food": "banana", "grams": 20}]
    mixed = {"starts": "2026-10-01", "items": [*items, {"food": "mouse/pinky", "count": 1, "per_week": 0.5}]}
    for snake in (
        card_of(species="garter-snake", animal={"mass_kg": 0.02, "length_m": 0.3, "hatched": "2026-06-01"}),
        card_of(species="blue-tongued-skink", feeding=mixed),
    ):
        days = expand(snake, TODAY, TODAY + timedelta(days=120), RoomDays(TODAY))
        held = {day: {use.food.partition("/")[0] for use in uses} for day, uses in days.foods.items()}
        worms = {day for day, food in held.items() if "earthworm" in food}
        frozen = {day for day, food in held.items() if food & {"mouse", "pinky-mouse", "fish"}}
        assert worms
        assert frozen
        by_id: dict[str, set[date]] = {}
        for item in days.jobs:
            by_id.setdefault(item.id, set()).add(item.day)
        first, last = min(days.foods), max(days.foods)
        assert by_id["insects-out"] == {day + timedelta(days=1) for day in worms}
        assert {day for day in by_id["thaw"] if first <= day < last} == {
            day - timedelta(days=1) for day in frozen if day - timedelta(days=1) >= first
        }
        counted = expand(snake, TODAY, TODAY + timedelta(days=120), RoomDays(TODAY), contents=False)
        assert [run for run in counted.runs if run.id == "thaw"] == [run for run in days.runs if run.id == "thaw"]


def test_lamps_are_replaced_by_their_kind_and_the_next_stage_is_on_the_card() -> None:
    """Slim tubes last twelve months, wide ones six (common practice, no source)."""
    lamp = {"kind": "slim-6", "tube_m": 0.5, "x_m": 0.3, "height_m": 0.4, "fitted": "2026-01-31"}
    fitted = card_of(uv_lamps=[lamp])
    (job,) = [job for job in fitted.jobs if job.key == "uv-lamp"]
    assert due(job, TODAY, TODAY + timedelta(days=120), today=TODAY)[0].day == date(2027, 1, 31)
    young = card_of(animal={"length_m": 0.06, "mass_kg": 0.006, "hatched": "2026-09-20"})
    assert any(job.key == "next-stage" for job in young.jobs)
    assert young.good_until <= TODAY + timedelta(days=7)


def test_a_winter_rest_has_its_last_meal_and_no_feeds_in_it() -> None:
    rest = {"cooling": {"begins": "2026-12-20", "rest_weeks": 8}}
    card = card_of(species="leopard-gecko", year=rest)
    days = expand(card, TODAY, date(2027, 6, 1), RoomDays(TODAY))
    (last_meal,) = [item.day for item in days.jobs if item.id == "last-meal"]
    (first_meal,) = [item.day for item in days.jobs if item.id == "first-meal"]
    assert not [feed for feed in days.feeds if last_meal < feed.day < first_meal]
    assert [feed for feed in days.feeds if feed.day <= last_meal]
    assert [feed for feed in days.feeds if feed.day >= first_meal]


def codes(job: str, planned: date, to: date, **more: object) -> set[str]:
    """What moving a turn of the usual card would do."""
    meals = (RecordedMeal(TODAY, "eaten", ("plain calcium",)),)
    card = card_of(History(date(2026, 10, 1), meals), **more)
    weekdays = (1, 3, 5)
    return {reason.code for reason in consequences(card, job, planned, to, RoomDays(TODAY, weekdays=weekdays))}


def test_moving_a_feed_tells_gaps_days_and_fasts() -> None:
    """A feed every third day from today, a Tuesday, on Tuesdays, Thursdays and Saturdays."""
    first = TODAY + timedelta(days=2)  # Thursday
    assert codes("feed", first, TODAY - timedelta(days=1)) == {"move.past"}
    assert "move.off_room_days" in codes("feed", first, TODAY + timedelta(days=1))
    assert "move.gap_before" in codes("feed", first, TODAY + timedelta(days=5))
    fast = {"first": "2026-11-28", "last": "2026-12-02", "why": "shed"}
    assert codes("feed", first, TODAY + timedelta(days=4), feeding={"starts": "2026-10-01", "fasts": [fast]}) == {"move.fast"}
    assert codes("thermometers", TODAY + timedelta(days=2), TODAY + timedelta(days=4)) == set()
    assert codes("spot-clean", TODAY + timedelta(days=2), TODAY + timedelta(days=4)) == {"move.twice"}


@pytest.mark.parametrize("job", ["feed", "thermometers"])
def test_a_turn_moved_before_does_not_stand_in_its_own_way(job: str) -> None:
    """Moving it again says what moving it at once would have said, and leaving it where it stands merges it with nothing."""
    card = card_of(History(date(2026, 10, 1), (RecordedMeal(TODAY, "eaten", ("plain calcium",)),)))
    days = expand(card, TODAY + timedelta(days=1), TODAY + timedelta(days=40), RoomDays(TODAY))
    planned = next(feed.day for feed in days.feeds) if job == "feed" else next(item.day for item in days.jobs if item.id == job)
    stands, to = planned + timedelta(days=1), planned + timedelta(days=2)

    def said(target: date, moves: dict[str, dict[date, date]]) -> list[Reason]:
        found = consequences(card, job, planned, target, RoomDays(TODAY, moves=moves))
        return [reason for reason in found if reason.code != "move.powder"]

    moved = {job: {planned: stands}}
    assert said(planned, moved) == []
    for target in (stands, to):
        assert said(target, moved) == said(target, {})
