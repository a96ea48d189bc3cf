"""UV in short sessions: one or two times a day instead of all day long, with the strength the book names."""

from datetime import time
from typing import Any

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import times_of, uv_lamps_on
from husbandry.inputs.ultraviolet import lamp_times, wanted_index
from husbandry.plan.editing import apply
from husbandry.plan.equipment import UvLamp
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.plans import TODAY, assessed, document, plan

LAMP = {"kind": "slim-12", "tube_m": 0.55, "x_m": 0.36, "height_m": 0.6, "fitted": "2026-10-01"}
TWICE = LAMP | {"on": "08:00", "off": "09:00", "again_on": "19:00", "again_off": "20:00"}
TORTOISE: dict[str, Any] = {
    "species": "russian-tortoise",
    "animal": {"mass_kg": 0.6, "length_m": 0.14},
    "enclosure": {"kind": "open-table", "length_m": 1.8, "width_m": 0.9, "height_m": 0.5, "lid": "open"},
}


def codes(**changes: Any) -> set[str]:
    return {item.code for item in assessed(**changes).findings if item.code.startswith("uv.")}


def test_a_clinics_tortoise_has_two_hours_of_uv_in_twelve_of_light() -> None:
    """Common practice, no source: 12 h light, 2 h UVB; the strength is zone 3's, judged while the lamp burns, not at midday."""
    clinic = assessed(**TORTOISE, uv_lamps=[TWICE], schools={"uvb": "sessions"})
    assert clinic.quantity("uv_hours").value == pytest.approx(2.0)
    assert clinic.quantity("uv_hours").verdict.value == "inside"
    assert clinic.quantity("light_hours").value == pytest.approx(12.0)
    all_day = assessed(**TORTOISE, uv_lamps=[LAMP], schools={})
    assert clinic.quantity("uv_back").value == pytest.approx(all_day.quantity("uv_back").value)
    assert clinic.quantity("uv_back").band == all_day.quantity("uv_back").band
    assert clinic.menu.uvb
    dose, whole = (item.quantity("uv_dose").value or 0.0 for item in (clinic, all_day))
    assert dose == pytest.approx(whole / 6)


def test_each_school_says_what_is_too_long_and_too_short_and_mends_it() -> None:
    assert "uv.hours_many" in codes(**TORTOISE, uv_lamps=[LAMP], schools={"uvb": "sessions"})
    assert "uv.hours_few" in codes(**TORTOISE, uv_lamps=[TWICE], schools={})
    brief = LAMP | {"on": "08:00", "off": "08:12"}
    assert "uv.sessions_short" in codes(**TORTOISE, uv_lamps=[brief], schools={"uvb": "sessions"})
    for lamp, schools in ((LAMP, {"uvb": "sessions"}), (TWICE, {})):
        given_plan = document(**TORTOISE, uv_lamps=[lamp], schools=schools)
        found = assess(read_data(given_plan), find("russian-tortoise"), TODAY, depth=NO_DAYS)
        (finding,) = (item for item in found.findings if item.code.startswith("uv.hours"))
        assert finding.remedy is not None
        mended = read_data(apply(given_plan, finding.remedy.changes))
        assert mended.uv_lamps[0].hours_a_day == pytest.approx(2.0 if schools else 12.0)
        after = assess(mended, find("russian-tortoise"), TODAY, depth=NO_DAYS)
        assert not any(item.code.startswith("uv.hours") for item in after.findings)


def test_no_uv_is_still_a_school_of_its_own() -> None:
    """Where the book has a school without UV, sessions are of the strength of the one with."""
    made = plan(schools={"uvb": "sessions"})
    profile = find(made.species)
    for stage in profile.stages:
        wanted = wanted_index(made, stage)
        assert wanted is not None
        assert wanted.high
    assert not any(item.key == "uv_hours" for item in assessed(schools={"uvb": "none"}).quantities)


@given(st.times(), st.times(), st.times(), st.times())
def test_a_lamp_on_twice_is_on_for_the_union_of_both(on: time, off: time, again_on: time, again_off: time) -> None:
    """By counting minutes, whichever of the four runs over midnight or into another."""
    on, off, again_on, again_off = (at.replace(second=0, microsecond=0, fold=0) for at in (on, off, again_on, again_off))
    lamp = UvLamp(kind="slim-12", x_m=0.3, height_m=0.4, on=on, off=off, again_on=again_on, again_off=again_off)

    def minutes(begin: time, end: time) -> set[int]:
        first, last = (at.hour * 60 + at.minute for at in (begin, end))
        return {minute % 1440 for minute in range(first, last if last > first else last + 1440)}

    both = minutes(on, off) | (minutes(again_on, again_off) if again_on != again_off else set())
    assert lamp.hours_a_day == pytest.approx(len(both) / 60)
    assert all(lamp.runs_at((minute + 0.5) / 60) == (minute in both) for minute in range(0, 1440, 7))


def test_a_tube_warms_the_air_in_both_of_its_times_and_a_new_one_takes_the_schools() -> None:
    case = enclosure_case(plan(**TORTOISE, uv_lamps=[TWICE], schools={"uvb": "sessions"}))
    assert sorted((item.on_hour, item.off_hour) for item in case.heaters if item.kind == "light") == [(8.0, 9.0), (19.0, 20.0)]
    assert lamp_times(plan(schools={"uvb": "sessions"})) == {
        "on": time(8),
        "off": time(9),
        "again_on": time(19),
        "again_off": time(20),
    }
    assert lamp_times(plan(schools={})) == {"on": time(8), "off": time(20)}
    evening = plan(uv_lamps=[LAMP | {"on": "18:00", "off": "19:30", "height_m": 0.4}])
    assert len(uv_lamps_on(evening, TODAY)) == 1


@pytest.mark.sweep
def test_the_powders_go_by_the_dose_and_not_by_the_hours() -> None:
    """The dose is UV index × time (ISO/CIE 17166): twice as long at half the strength is the same answer."""
    base = document(**TORTOISE, schools={})

    def given(hours: float, reflector: bool, height_m: float) -> tuple[bool, float]:
        off = f"{8 + int(hours):02d}:{round(60 * (hours % 1)):02d}"
        lamp = LAMP | {"kind": "slim-14", "reflector": reflector, "height_m": height_m, "on": "08:00", "off": off}
        found = assess(read_data(base | {"uv_lamps": [lamp]}), find("russian-tortoise"), TODAY, depth=NO_DAYS)
        return found.menu.uvb, found.quantity("uv_dose").value or 0.0

    found = sorted(
        (dose, uvb)
        for uvb, dose in (
            given(hours, bare, height) for hours in (0.25, 1, 4, 12) for bare in (True, False) for height in (0.4, 0.6, 0.9)
        )
    )
    counted = [uvb for _dose, uvb in found]
    assert counted == sorted(counted)  # by the dose alone: no stronger day goes uncounted where a weaker one counts
    assert {True, False} == set(counted)


def test_each_lamp_gives_its_dose_in_its_own_hours() -> None:
    """A 6 % tube for twelve hours and a 14 % tube for two: 65.5 SED were said, all lamps times the longest hours."""
    weak = {"kind": "slim-6", "tube_m": 0.55, "x_m": 0.26, "height_m": 0.41, "on": "08:00", "off": "20:00"}
    strong = {"kind": "slim-14", "tube_m": 0.55, "x_m": 0.26, "height_m": 0.41, "on": "12:00", "off": "14:00"}

    def dose(*lamps: dict[str, Any]) -> float:
        return assessed(uv_lamps=list(lamps)).quantity("uv_dose").value or 0.0

    assert dose(weak, strong) == pytest.approx(dose(weak) + dose(strong))
    assert dose(weak, strong) < 0.5 * (dose(weak) + dose(strong | {"on": "08:00", "off": "20:00"}))


HALF_HOURS = st.integers(0, 47).map(lambda half: time(half // 2, 30 * (half % 2)))


@given(HALF_HOURS, HALF_HOURS, HALF_HOURS, HALF_HOURS)
@example(time(13, 30), time(23), time(13, 30), time(22, 30))  # found by plans that were drawn: it read as all day
def test_two_times_of_a_lamp_are_the_times_at_which_one_of_them_is_on(on: time, off: time, again_on: time, again_off: time) -> None:
    lamp = UvLamp(kind="slim-6", x_m=0.5, height_m=0.4, tube_m=0.6, on=on, off=off, again_on=again_on, again_off=again_off)
    said = times_of(lamp)
    for quarter in range(96):
        hour = (quarter + 0.5) / 4
        assert any(one.runs_at(hour) for one in said) == lamp.runs_at(hour)
    assert sum(one.hours_a_day for one in said) == lamp.hours_a_day  # they do not overlap
