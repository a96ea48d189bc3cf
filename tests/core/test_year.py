"""Day length, the year's timers and a winter rest."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.animal.year import LEAST_H, MOST_H, REST_H, latitude_of, rest_of, terms_of, usual_cooling, year_plan
from husbandry.light.daylength import daylight_hours
from husbandry.plan.habitat import Cooling, HabitatPlan, Year
from husbandry.species.book import find, shipped
from tests.plans import TODAY, plan

DRAGON = find("central-bearded-dragon")
JUNE, DECEMBER, MARCH = date(2026, 6, 21), date(2026, 12, 21), date(2026, 3, 20)


def year(**changes: object) -> HabitatPlan:
    return plan(species=DRAGON.id, schools={}).model_copy(update={"year": Year.model_validate(changes)})


@pytest.mark.parametrize(
    ("latitude", "june", "december"), [(40, 15.0, 9.35), (51.5, 16.63, 7.83), (0, 12.12, 12.12), (60, 18.87, 5.87)]
)
def test_day_lengths_are_the_published_ones(latitude: float, june: float, december: float) -> None:
    """Tables of day length as almanacs print them (from memory): 40° N 15.0 h and 9.3 h, London 16 h 38 min and 7 h 50 min."""
    assert daylight_hours(latitude, JUNE) == pytest.approx(june, abs=0.06)
    assert daylight_hours(latitude, DECEMBER) == pytest.approx(december, abs=0.06)


def test_inside_the_polar_circles_the_sun_stays_up_or_down() -> None:
    assert daylight_hours(78, JUNE) == 24.0
    assert daylight_hours(78, DECEMBER) == 0.0
    assert daylight_hours(-78, DECEMBER) == 24.0
    with pytest.raises(ValueError, match="latitude"):
        daylight_hours(91, JUNE)


@given(st.floats(-62, 62), st.dates(date(2026, 1, 1), date(2026, 12, 31)))
def test_a_day_and_its_opposite_share_the_clock(latitude: float, day: date) -> None:
    """Geometry: what one half of the globe has in light the other has in dark, but for refraction's few minutes each."""
    both = daylight_hours(latitude, day) + daylight_hours(-latitude, day)
    assert 24.0 <= both <= 24.9


def test_a_dragons_year_follows_its_own_country() -> None:
    """Native range: twenty-seven degrees from the equator gives about 13.8 h in June and 10.4 in December (astral)."""
    made = year_plan(year(mode="native"), DRAGON, date(2026, 1, 4))
    hours = [week.hours for week in made.weeks]
    assert max(hours) == pytest.approx(daylight_hours(27, JUNE), abs=0.02)
    assert min(hours) == pytest.approx(daylight_hours(27, DECEMBER), abs=0.02)
    south = year_plan(year(mode="native", southern=True), DRAGON, date(2026, 1, 4))
    assert south.weeks[0].hours > 13 > 11 > made.weeks[0].hours


def test_the_timer_is_turned_seldom_and_never_far_wrong() -> None:
    made = year_plan(year(mode="latitude", latitude_deg=40), DRAGON, date(2026, 1, 4))
    assert 8 <= len(made.turns) <= 24
    for week in made.weeks:
        turn = [item for item in made.turns if item.day <= week.day][-1]
        assert abs(turn.hours - week.hours) <= 0.5
        assert (turn.on_hour + turn.off_hour) / 2 == pytest.approx(14.0)
    fixed = year_plan(year(), DRAGON, date(2026, 1, 4))
    assert len(fixed.turns) == 1
    assert all(LEAST_H <= week.hours <= MOST_H for week in year_plan(year(mode="latitude", latitude_deg=66), DRAGON, JUNE).weeks)


def test_the_last_meal_comes_before_the_cold_by_the_time_the_gut_needs() -> None:
    """Common practice, no source: a ramp down, the rest, a ramp up, and the last meal as long before as the book has it."""
    terms = terms_of(DRAGON)
    assert terms is not None
    assert terms.last_meal_days is not None
    rest = rest_of(Cooling(begins=date(2026, 11, 1), down_weeks=3, rest_weeks=8, up_weeks=2), DRAGON)
    assert rest.falls - rest.last_meal == timedelta(days=round(terms.last_meal_days.high or 0))
    assert (rest.rests - rest.falls, rest.rises - rest.rests, rest.wakes - rest.rises) == (
        timedelta(weeks=3),
        timedelta(weeks=8),
        timedelta(weeks=2),
    )
    cooling = {"begins": "2026-11-01", "down_weeks": 3, "rest_weeks": 8, "up_weeks": 2}
    made = year_plan(year(mode="native", cooling=cooling), DRAGON, date(2026, 9, 6))
    by_day = {week.day: week for week in made.weeks}
    assert by_day[date(2026, 12, 6)].hours == REST_H
    assert by_day[date(2026, 10, 25)].rest == 0.0
    falling = [week.hours for week in made.weeks if rest.falls <= week.day <= rest.rests]
    assert falling == sorted(falling, reverse=True)
    assert by_day[date(2027, 2, 14)].rest == 0.0


def test_a_first_proposal_begins_when_it_is_autumn_where_the_keeper_lives() -> None:
    north, south = (usual_cooling(DRAGON, TODAY, southern=southern) for southern in (False, True))
    assert north is not None
    assert south is not None
    assert (north.begins, south.begins) == (date(2027, 11, 1), date(2027, 5, 1))
    assert usual_cooling(find("red-eyed-tree-frog"), TODAY, southern=False) is None


def test_every_species_in_the_book_knows_where_it_comes_from() -> None:
    for profile in shipped().values():
        assert profile.native_latitude is not None
        assert 0 <= profile.native_latitude.value < 60
        assert latitude_of(year(mode="native", southern=True), profile) == -profile.native_latitude.value


@pytest.mark.parametrize("today", [date(2026, 9, 1), date(2026, 10, 25), date(2026, 11, 20)])
def test_the_last_meal_before_a_proposed_rest_is_still_to_come(today: date) -> None:
    made = usual_cooling(DRAGON, today, southern=False)
    assert made is not None
    assert rest_of(made, DRAGON).last_meal >= today
