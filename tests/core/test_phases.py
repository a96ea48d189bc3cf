"""A day parted by every timer: against matrix exponentials, against the day stepped by the minute, and in what is judged."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from scipy.linalg import expm

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Quantity, Verdict
from husbandry.climate.case import EnclosureCase, RoomState, SunCase
from husbandry.climate.day import course
from husbandry.climate.daycourse import DayCourse
from husbandry.climate.phases import PeriodicModes, Phase, hottest_stretch, phases_of
from husbandry.climate.steady import solve_steady
from husbandry.inputs.light_sources import lights
from husbandry.species.book import find
from tests.core.test_enclosures import GLASS, PVC, flood
from tests.plans import TODAY, plan

STEADY_ROOM = dict.fromkeys(("summer", "winter"), RoomState(22.0, 22.0, 50.0))
BOX = replace(PVC, rooms=STEADY_ROOM)


def lamp(on: float, off: float, watts: float = 75.0) -> EnclosureCase:
    return replace(BOX, heaters=(replace(flood(watts, 0.25, 0.4), on_hour=on, off_hour=off),))


def test_the_ends_of_phases_are_those_of_matrix_exponentials() -> None:
    """scipy.linalg.expm through three phases, gone round until the day repeats itself: a network of four nodes, to 1e-9."""
    matrix = np.array([[3.0, -1, -0.5, 0], [-1, 2.2, -0.4, -0.3], [-0.5, -0.4, 1.5, -0.2], [0, -0.3, -0.2, 0.6]])
    capacity = np.array([400.0, 3000.0, 40_000.0, 200_000.0])
    hours, watts = (5.0, 2.5, 16.5), np.array([[0.0, 4, 0, 1], [60, 10, 3, 0], [0, 0, 1, 2]])
    modes = PeriodicModes.of(matrix[None], capacity, hours)
    steady = np.linalg.solve(matrix, watts.T).T
    rate = -matrix / capacity[:, None]
    state, theirs = np.zeros(4), []
    for _ in range(400):
        theirs = []
        for span, goal in zip(hours, steady, strict=True):
            state = goal + expm(rate * 3600 * span) @ (state - goal)
            theirs.append(state)
    for phase, expected in enumerate(theirs):
        rows = modes.functionals(np.eye(4), modes.ends[:, phase])
        assert sum(row[0] @ goal for row, goal in zip(rows, steady, strict=True)) == pytest.approx(expected, abs=1e-9)


def test_a_day_is_parted_at_every_timer_and_nowhere_else() -> None:
    usual = [(phase.from_hour, phase.hours, phase.lit) for phase in phases_of(lamp(8, 20))]
    assert usual == [(8.0, 12.0, True), (20.0, 12.0, False)]
    short = [(phase.from_hour, phase.hours, phase.lit) for phase in phases_of(lamp(13, 15))]
    assert short == [(8.0, 5.0, True), (13.0, 2.0, True), (15.0, 5.0, True), (20.0, 12.0, False)]
    over = [(phase.from_hour, phase.hours, phase.lit) for phase in phases_of(lamp(22, 9))]
    assert over == [(8.0, 1.0, True), (9.0, 11.0, True), (20.0, 2.0, False), (22.0, 10.0, False)]
    always = phases_of(replace(lamp(0, 0), light_on_hour=6.0, light_off_hour=6.0))
    assert [(phase.hours, phase.lit) for phase in always] == [(24.0, True), (0.0, False)]


def test_light_for_some_seconds_is_a_minutes_day() -> None:
    seconds = replace(lamp(8, 20), light_off_hour=8.001)
    first = phases_of(seconds)[0]
    assert (first.hours, first.lit) == (pytest.approx(1 / 60), True)
    for state in solve_steady(seconds).states.values():
        assert all(np.isfinite(spread.value) for spread in state.predictions.values())


def test_the_hottest_hours_may_lie_across_phases_and_only_in_the_light() -> None:
    day = [Phase(8.0, 1.0, lit=True), Phase(9.0, 9.0, lit=True), Phase(18.0, 2.0, lit=True), Phase(20.0, 12.0, lit=False)]
    assert hottest_stretch(day, [40.0, 30.0, 20.0, 50.0]) == pytest.approx([0.5, 0.5, 0.0, 0.0])
    assert hottest_stretch(day, [20.0, 30.0, 25.0, 50.0]) == pytest.approx([0.0, 1.0, 0.0, 0.0])
    brief = [Phase(8.0, 1.5, lit=True), Phase(9.5, 22.5, lit=False)]
    assert hottest_stretch(brief, [30.0, 40.0]) == pytest.approx([1.0, 0.0])


@pytest.mark.parametrize(
    "case",
    [
        lamp(13, 15),
        lamp(8, 13.5),
        lamp(11, 19),
        lamp(9.25, 10.25, 100.0),
        replace(lamp(13, 15), sun=SunCase(40.0, 15.0, 17.0)),
        replace(
            lamp(9, 16), heaters=(*lamp(9, 16).heaters, replace(flood(60, 0.9, 0.4, "ceramic-emitter"), on_hour=22, off_hour=5))
        ),
    ],
    ids=["two hours", "a morning", "an afternoon", "one hour", "then the sun", "and a heater by night"],
)
def test_what_is_settled_is_what_the_stepped_day_comes_to(case: EnclosureCase) -> None:
    """The day by the minute: the surface at the end of its hottest phase, the air's mean of all phases' ends, to 0.6 K.

    The day goes by the room's own curve, which does not move here; what is not linear is held through each phase.
    """
    climate = solve_steady(case, spread=False)
    day, state = course(case, climate, "winter"), climate.states["winter", "day"].predictions
    parts = phases_of(case)
    levels = [at_the_end(day, "basking_surface", phase) for phase in parts]
    assert state["basking_surface"].value == pytest.approx(float(hottest_stretch(parts, levels) @ levels), abs=0.6)
    for name in ("warm_air", "cool_air"):
        for lit, phase_name in ((True, "day"), (False, "night")):
            own = [phase for phase in parts if phase.lit is lit]
            mean = sum(phase.hours * at_the_end(day, name, phase) for phase in own) / sum(phase.hours for phase in own)
            assert climate.states["winter", phase_name].predictions[name].value == pytest.approx(mean, abs=0.6), (name, phase_name)
    assert state["hottest_air"].value == pytest.approx(float(day.hottest_air[day.lit].max()), abs=1.0)


def at_the_end(day: DayCourse, name: str, phase: Phase) -> float:
    """What stands in the last minute of a phase."""
    return float(getattr(day, name)[(round((phase.from_hour + phase.hours) * 60) - 1) % 1440])


def judged(**changes: object) -> dict[str, Quantity]:
    """A plan's quantities of a winter's day by their key."""
    made = plan(**changes)
    found = assess(made, find(made.species), TODAY, depth=NO_DAYS)
    return {item.key: item for item in found.quantities if item.season == "winter" and item.phase == "day"}


def test_a_lamp_of_two_hours_is_judged_by_those_and_a_morning_lamp_by_its_morning() -> None:
    """Common practice, no source: what is basked at is what stands when the lamp is on, whatever midday has."""
    free = {"heaters__0__thermostat": {"kind": "none"}, "heaters__0__watts": 60.0}
    whole = judged(**free)["basking_surface"].value
    morning = judged(**free, heaters__0__on="08:00", heaters__0__off="13:30")["basking_surface"].value
    short = judged(**free, heaters__0__on="13:30", heaters__0__off="14:00")
    assert whole is not None
    assert morning is not None
    assert whole - 3.0 < morning < whole
    assert short["basking_surface"].value < whole - 4.0
    assert short["basking_surface"].verdict is Verdict.OUTSIDE


def test_the_sun_through_a_window_is_in_what_is_settled() -> None:
    """First law: 160 W on a box of glass that loses some 5 W/K to its room are many kelvin, and the air says so."""
    dark = replace(GLASS, heaters=(), rooms=STEADY_ROOM)
    sunny = replace(dark, sun=SunCase(160.0, 11.0, 13.0))
    before, after = (
        solve_steady(case, spread=False).states["summer", "day"].predictions["hottest_air"].value for case in (dark, sunny)
    )
    assert before == pytest.approx(22.0, abs=0.5)
    assert after > 30.0
    assert after == pytest.approx(float(course(sunny, solve_steady(sunny, spread=False), "summer").hottest_air.max()), abs=1.5)


def test_a_rooms_own_curve_counts_in_each_phase() -> None:
    """A room that stands at 30 °C while the lamp is on and at 20 °C else: the air by it is warmer than beside a mean of both."""
    curve = tuple(30.0 if 12 <= hour < 16 else 20.0 for hour in range(24))
    curved = replace(lamp(12, 16), rooms=dict.fromkeys(("summer", "winter"), RoomState(23.3, 20.0, 50.0, curve)))
    level = replace(curved, rooms=dict.fromkeys(("summer", "winter"), RoomState(23.3, 20.0, 50.0)))
    hot, mean = (
        solve_steady(case, spread=False).states["winter", "day"].predictions["hottest_air"].value for case in (curved, level)
    )
    assert hot > mean + 4.0


def test_what_burns_in_the_morning_only_is_a_lamp_of_the_day_and_no_lamp_of_the_night() -> None:
    morning = plan(heaters__0__on="08:00", heaters__0__off="12:00")
    evening = plan(heaters__0__on="08:00", heaters__0__off="22:00")
    slack = plan(heaters__0__on="08:00", heaters__0__off="20:15")
    told = [
        {item.code for item in assess(made, find(made.species), date(2026, 11, 24), depth=NO_DAYS).findings}
        for made in (morning, evening, slack)
    ]
    assert ["heat.light_at_night" in codes for codes in told] == [False, True, False]
    assert len(lights(morning)) == 2  # the flood and the tube, as at nine in the morning
