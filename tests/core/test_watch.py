"""What the log shows that a keeper would miss: each rule on faults that were planted, and on years in which nothing was wrong."""

from collections.abc import Sequence
from datetime import date, timedelta
from statistics import median

import numpy as np
import pytest

from husbandry.codes import WatchCode
from husbandry.diet.refusals import Without
from husbandry.feeding.appetite import RestLoss
from husbandry.watch.rules import Lived, Noted, Shed, watched

BEGIN = date(2025, 12, 1)


def on(day: int) -> date:
    return BEGIN + timedelta(days=day)


def codes(lived: Lived, day: int) -> list[WatchCode]:
    return [alarm.code for alarm in watched(lived, on(day))]


def weighed(seed: int, *, swing: float, falls_from: int = 10**6, a_week: float = 0.0) -> list[tuple[date, float]]:
    """Weekly weighings of a year: a scale's error, meals and water as a swing, and from a day on a loss of so much a week."""
    random = np.random.default_rng(seed)
    found = []
    for day in range(0, 365, 7):
        lost = (1 - a_week) ** (max(day - falls_from, 0) / 7)
        found.append((on(day), 0.5 * lost * (1 + swing * float(random.standard_normal()))))
    return found


def first_alarm(masses: Sequence[tuple[date, float]], code: WatchCode) -> int | None:
    """The first day of the year on which a code is told, looked at after each weighing."""
    for place in range(1, len(masses) + 1):
        day = (masses[place - 1][0] - BEGIN).days
        if code in codes(Lived(masses=masses[:place]), day):
            return day
    return None


def test_a_year_of_weighings_in_which_nothing_is_wrong_sends_nobody_to_a_veterinarian() -> None:
    # A swing of 3 %: meals, water and the scale of a lizard (estimate).
    false = [seed for seed in range(200) if first_alarm(weighed(seed, swing=0.03), WatchCode.WEIGHT_LOST) is not None]
    assert len(false) <= 10  # less than one in twenty years of an animal
    again = [seed for seed in range(200) if first_alarm(weighed(seed, swing=0.03), WatchCode.WEIGHT_AGAIN) is not None]
    assert len(again) <= 10


@pytest.mark.parametrize(("a_week", "within_days"), [(0.025, 56), (0.05, 35)])
def test_a_loss_of_a_tenth_in_a_month_is_found_within_weeks(a_week: float, within_days: int) -> None:
    # More than 10 % in a month is a veterinarian's (common practice, no source): 2.5 % a week is that.
    days = [first_alarm(weighed(seed, swing=0.03, falls_from=140, a_week=a_week), WatchCode.WEIGHT_LOST) for seed in range(60)]
    found = [day - 140 for day in days if day is not None and day >= 140]
    assert len(found) >= 58
    assert median(found) <= within_days


def test_one_slip_of_the_scale_asks_for_another_weighing_and_a_great_loss_for_more() -> None:
    steady = [(on(day), 0.5) for day in range(0, 70, 7)]
    assert codes(Lived(masses=[*steady, (on(70), 0.44)]), 70) == [WatchCode.WEIGHT_AGAIN]
    assert codes(Lived(masses=[*steady, (on(70), 0.38)]), 70) == [WatchCode.WEIGHT_LOST]
    assert codes(Lived(masses=[*steady, (on(70), 0.46), (on(77), 0.445)]), 77) == [WatchCode.WEIGHT_LOST]
    assert codes(Lived(masses=[*steady, (on(70), 0.44)]), 130) == []  # nobody knows what it weighs today
    assert codes(Lived(masses=steady[:3]), 20) == []


def test_a_snake_after_its_meal_and_before_the_next_is_no_alarm() -> None:
    # Fed 12 % of its mass every other week and weighed now full, now empty (common practice, no source).
    masses = [(on(day), 0.5 * (1.12 if (day // 7) % 2 == 0 else 1.0)) for day in range(0, 200, 7)]
    assert all(WatchCode.WEIGHT_LOST not in codes(Lived(masses=masses[:place]), 7 * place) for place in range(1, len(masses)))


def test_in_a_rest_its_own_limit_holds_and_no_other() -> None:
    masses = [*[(on(day), 0.5) for day in range(0, 70, 7)], (on(77), 0.43), (on(84), 0.42)]
    slow = RestLoss(on(63), 0.5, on(84), 0.42, 9.0, 10.0)
    assert codes(Lived(masses=masses, rest=slow), 84) == []
    assert codes(Lived(masses=masses, rest=RestLoss(on(63), 0.5, on(84), 0.42, 16.0, 10.0)), 84) == [WatchCode.REST_LOSS]


def test_a_shed_is_overdue_by_the_animals_own_rhythm_only() -> None:
    rhythm = [Shed(on(day)) for day in (0, 42, 80, 125)]
    assert codes(Lived(sheds=rhythm), 200) == []
    assert codes(Lived(sheds=rhythm), 215) == [WatchCode.SHED_OVERDUE]
    assert codes(Lived(sheds=rhythm[:2]), 300) == []  # two sheds are no rhythm


def test_skin_that_stays_on_twice_sends_to_the_hygrometer() -> None:
    assert codes(Lived(sheds=[Shed(on(0), stuck=True), Shed(on(40))]), 50) == []
    found = watched(Lived(sheds=[Shed(on(0), stuck=True), Shed(on(40)), Shed(on(80), stuck=True)]), on(90))
    assert [(alarm.code, alarm.level) for alarm in found] == [(WatchCode.SHED_STUCK_TWICE, "measure")]


def test_droppings_are_missed_only_of_one_that_ate() -> None:
    days = [on(day) for day in (0, 3, 6, 10, 13)]
    assert codes(Lived(droppings=days, last_eaten=on(20)), 22) == []
    assert codes(Lived(droppings=days, last_eaten=on(20)), 23) == [WatchCode.DROPPINGS_MISSING]
    assert codes(Lived(droppings=days, last_eaten=on(12)), 40) == []
    assert codes(Lived(droppings=days[:3], last_eaten=on(20)), 40) == []


def test_what_was_seen_once_is_no_alarm_and_twice_within_two_weeks_is() -> None:
    once = [Noted(on(0), "never-basks")]
    assert codes(Lived(behaved=once), 3) == []
    assert codes(Lived(behaved=[*once, Noted(on(20), "never-basks")]), 20) == []
    assert codes(Lived(behaved=[*once, Noted(on(9), "never-basks"), Noted(on(9), "normal")]), 10) == [WatchCode.NEVER_BASKS]


def test_a_sign_stays_open_until_it_is_answered() -> None:
    signs = [Noted(on(0), "swelling")]
    assert codes(Lived(signs=signs), 1) == [WatchCode.SIGN_OPEN]
    assert codes(Lived(signs=signs, answered=on(1)), 2) == []
    assert codes(Lived(signs=signs), 30) == []


def test_what_is_late_in_breeding_and_at_the_laboratory_is_told() -> None:
    assert codes(Lived(gravid=on(0)), 60) == []
    assert codes(Lived(gravid=on(0)), 61) == [WatchCode.GRAVID_LONG]
    assert codes(Lived(hatch_latest=on(0)), 10) == []
    assert codes(Lived(hatch_latest=on(0)), 11) == [WatchCode.CLUTCH_OVERDUE]
    assert codes(Lived(waiting=[Noted(on(0), "faecal sample")]), 22) == [WatchCode.RESULT_WAITING]
    assert codes(Lived(courses=[Noted(on(5), "wormer")]), 4) == []
    assert codes(Lived(courses=[Noted(on(5), "wormer")]), 6) == [WatchCode.COURSE_ENDED]


def test_meals_refused_past_what_is_normal_and_brought_up_twice_come_first() -> None:
    long = Without(refusals=4, days=60, normal_days=30, vet=True, why="")
    lived = Lived(without=long, brought_up=[on(0), on(20)], sheds=[Shed(on(0), stuck=True), Shed(on(20), stuck=True)])
    assert codes(lived, 30) == [WatchCode.REFUSED_LONG, WatchCode.BROUGHT_UP_TWICE, WatchCode.SHED_STUCK_TWICE]
    assert codes(Lived(brought_up=[on(0), on(90)]), 95) == []


def test_an_alarm_keeps_its_key_while_it_lasts_and_the_next_has_another() -> None:
    signs = [Noted(on(0), "swelling"), Noted(on(4), "limp")]
    first, second = watched(Lived(signs=signs), on(5))
    assert first.key != second.key
    assert first.key == watched(Lived(signs=signs), on(8))[0].key
