"""Day length, the year's timers and a winter rest."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.animal.year import LEAST_H, MOST_H, REST_H, latitude_of, rest_of, terms_of, usual_cooling, year_plan
from husbandry.assess.assess import Depth, assess
from husbandry.assessment import Verdict
from husbandry.light.daylength import daylight_hours
from husbandry.plan.editing import apply
from husbandry.plan.habitat import Cooling, HabitatPlan, Year
from husbandry.plan.reading import read_data
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
    south = year_plan(year(mode="native", latitude_deg=-34), DRAGON, date(2026, 1, 4))
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
        assert latitude_of(year(mode="native", latitude_deg=-1), profile) == -profile.native_latitude.value


@pytest.mark.parametrize("today", [date(2026, 9, 1), date(2026, 10, 25), date(2026, 11, 20)])
def test_the_last_meal_before_a_proposed_rest_is_still_to_come(today: date) -> None:
    made = usual_cooling(DRAGON, today, southern=False)
    assert made is not None
    assert rest_of(made, DRAGON).last_meal >= today


def test_where_one_lives_says_when_it_is_summer() -> None:
    """One fact, not two: the latitude; a pen's own before the room's. Older documents said "southern" apart from it."""
    assert Year.model_validate({"mode": "native", "southern": True}).latitude_deg == -35
    assert Year.model_validate({"mode": "latitude", "latitude_deg": 48, "southern": True}).latitude_deg == 48
    assert "southern" not in Year.model_validate({"southern": False}).model_dump()
    assert [year(latitude_deg=where).southern for where in (48, None, -34)] == [False, False, True]
    months = {"day_c": [20] * 12, "night_c": [10] * 12, "sun_kwh_m2": [3] * 12, "latitude_deg": -40}
    pen = plan(outdoors=months, year={"mode": "latitude", "latitude_deg": 48})
    assert pen.southern
    assert latitude_of(pen, DRAGON) == -40


STEPS = [("10-01", 12), ("10-15", 8), ("11-01", 6), ("11-10", 4), ("12-01", 0), ("02-29", 10)]


def own(*, cooling: dict[str, object] | None = None) -> HabitatPlan:
    return year(mode="dates", days=[{"since": since, "hours": hours} for since, hours in STEPS], cooling=cooling)


def test_lengths_of_day_by_dates_of_the_keepers_own_go_down_to_none() -> None:
    """A tortoise keeper's way into a rest: 12, 8, 6, 4 hours, then the dark of the refrigerator (common practice, no source)."""
    made = year_plan(own(), DRAGON, date(2026, 9, 6))
    dated = [(turn.day, turn.hours) for turn in made.turns]
    assert dated[:6] == [
        (date(2026, 3, 1), 10),  # 2026 has no 29th of February
        (date(2026, 10, 1), 12),
        (date(2026, 10, 15), 8),
        (date(2026, 11, 1), 6),
        (date(2026, 11, 10), 4),
        (date(2026, 12, 1), 0),
    ]
    assert made.turns[2].on_hour == pytest.approx(10.0)  # about the middle of the plan's own light, 14:00
    assert made.turns[2].off_hour == pytest.approx(18.0)
    by_day = {week.day: week.hours for week in made.weeks}
    assert (by_day[date(2026, 9, 6)], by_day[date(2026, 11, 8)], by_day[date(2026, 12, 20)]) == (10, 6, 0)
    # A rest planned beside them moves the warmth, not the light.
    rest = {"begins": "2026-11-01", "down_weeks": 1, "rest_weeks": 8, "up_weeks": 1}
    assert [week.hours for week in year_plan(own(cooling=rest), DRAGON, date(2026, 9, 6)).weeks][:40] == [
        week.hours for week in made.weeks
    ][:40]
    with pytest.raises(ValueError, match="day"):
        year(mode="dates", days=[{"since": "02-30", "hours": 8}])
    with pytest.raises(ValueError, match="one day"):
        year(mode="dates", days=[{"since": "10-01", "hours": 8}, {"since": "10-01", "hours": 9}])
    with pytest.raises(ValueError, match="date"):
        year(mode="dates")


def judged(made: HabitatPlan, today: date) -> dict[str, tuple[float | None, Verdict]]:
    found = assess(made, DRAGON, today, depth=Depth(days_of=(), spread=False)).quantities
    return {item.key: (item.value, item.verdict) for item in found if item.key.startswith("light_hours")}


def test_the_light_is_judged_on_its_day_of_the_year() -> None:
    """The dragon has 10 to 14 hours: at 60° north December has too few and June too many; its own range suits it."""
    north = judged(year(mode="latitude", latitude_deg=60), MARCH)
    assert north["light_hours"][0] == pytest.approx(daylight_hours(60, MARCH))
    assert north["light_hours"][1] is Verdict.INSIDE
    assert north["light_hours_least"] == (LEAST_H, Verdict.OUTSIDE)
    assert north["light_hours_most"][1] is Verdict.OUTSIDE
    assert judged(year(mode="latitude", latitude_deg=60), DECEMBER)["light_hours"][1] is Verdict.OUTSIDE
    assert {verdict for _value, verdict in judged(year(mode="native"), MARCH).values()} == {Verdict.INSIDE}
    assert set(judged(year(), MARCH)) == {"light_hours"}


def test_a_rests_short_days_are_not_held_against_it() -> None:
    cooling = {"begins": "2026-11-01", "down_weeks": 3, "rest_weeks": 10, "up_weeks": 3}
    asleep = judged(year(mode="native", cooling=cooling), DECEMBER)
    assert asleep["light_hours"] == (REST_H, Verdict.NOT_APPLICABLE)
    assert asleep["light_hours_least"][1] is Verdict.INSIDE


@pytest.mark.parametrize("today", [MARCH, DECEMBER])
def test_a_year_that_does_not_suit_it_is_changed_for_one_that_does(today: date) -> None:
    made = year(mode="latitude", latitude_deg=60)
    found = [item for item in assess(made, DRAGON, today, depth=Depth(days_of=(), spread=False)).findings if item.step == "light"]
    offered = [item.remedy for item in found if item.code in ("light.year", "light.hours") and item.remedy is not None]
    assert offered
    for remedy in offered:
        mended = read_data(apply(made.model_dump(mode="json"), remedy.changes))
        assert {verdict for _value, verdict in judged(mended, today).values()} == {Verdict.INSIDE}
