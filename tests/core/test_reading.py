"""Documents from outside: whatever comes, a fault is named or a sound plan is made."""

import json
from datetime import date, time
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from husbandry.plan.editing import apply, refit
from husbandry.plan.equipment import Timed, hours_of
from husbandry.plan.habitat import Daylight, HabitatPlan
from husbandry.plan.placement import check_places
from husbandry.plan.reading import LARGEST_BYTES, PlanProblems, Problem, read_data, read_text
from tests.plans import document, plan
from tests.sample import times

JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=12),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)


def paths(value: Any, way: tuple[str, ...] = ()) -> list[tuple[str, ...]]:
    found = [way] if way else []
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        found += paths(inner, (*way, str(key)))
    return found


PATHS = paths(document())


def put(data: dict[str, Any], way: tuple[str, ...], value: Any) -> dict[str, Any]:
    copied = json.loads(json.dumps(data))
    place: Any = copied
    for step in way[:-1]:
        place = place[int(step) if isinstance(place, list) else step]
    place[int(way[-1]) if isinstance(place, list) else way[-1]] = value
    return dict(copied)


@pytest.mark.sweep
@settings(max_examples=times(100, 300), deadline=None)
@given(way=st.sampled_from(PATHS), value=JSON)
def test_anything_anywhere_is_a_plan_or_a_named_fault(way: tuple[str, ...], value: Any) -> None:
    read: HabitatPlan | None = None
    faults: tuple[Problem, ...] = ()
    try:
        read = read_data(put(document(), way, value))
    except PlanProblems as refused:
        faults = refused.problems
    assert (read is None) == bool(faults)
    assert all(problem.code for problem in faults)
    if read is not None:
        assert check_places(read) == []
        assert read_data(json.loads(read.model_dump_json())) == read


@settings(max_examples=times(33, 100), deadline=None)
@given(text=st.text(max_size=60) | st.binary(max_size=60))
def test_no_text_whatever_ends_in_a_traceback(text: str | bytes) -> None:
    with pytest.raises(PlanProblems):
        read_text(text)


def test_a_text_too_long_is_refused_unread() -> None:
    with pytest.raises(PlanProblems) as refused:
        read_text("[" * (LARGEST_BYTES + 1))
    assert refused.value.problems[0].code == "too_large"


def test_a_text_nested_without_end_is_no_json() -> None:
    with pytest.raises(PlanProblems) as refused:
        read_text("[" * (LARGEST_BYTES - 1))
    assert refused.value.problems[0].code == "too_deep"


def test_another_version_is_told_from_a_faulty_plan() -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document() | {"format": "ridgeback-plan/9"})
    (only,) = refused.value.problems
    assert (only.path, only.code) == ("format", "other_format")


def test_all_faults_are_told_at_once() -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document(enclosure__length_m=-1.0, daylight__on="noonish", heaters__0__watts="many", room__summer={}))
    told = {problem.path for problem in refused.value.problems}
    assert {"enclosure.length_m", "daylight.on", "heaters.0.watts", "room.summer.day_c"} <= told


@pytest.mark.parametrize(
    ("changes", "path", "typed"),
    [
        ({"room__summer__day_c": 75.0}, "room.summer.day_c", (75.0, "degF")),
        ({"heaters__0__thermostat__set_c": 105.0}, "heaters.0.thermostat.set_c", (105.0, "degF")),
        ({"enclosure__width_m": 45.0}, "enclosure.width_m", (45.0, "cm")),
        ({"animal__length_m": 12.5}, "animal.length_m", (12.5, "cm")),
        ({"animal__mass_kg": 450.0}, "animal.mass_kg", (450.0, "g")),
    ],
)
def test_a_slipped_unit_is_offered_as_it_would_have_been_typed(
    changes: dict[str, Any], path: str, typed: tuple[float, str]
) -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document(**changes))
    problem = next(item for item in refused.value.problems if item.path == path)
    assert problem.typed == typed
    assert problem.likely is not None


def test_a_number_that_is_wrong_in_every_unit_is_not_explained_away() -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document(room__summer__day_c=900.0))
    assert refused.value.problems[0].likely is None


# ---- edits ----


@settings(deadline=None)
@given(
    length=st.floats(0.3, 3.0),
    width=st.floats(0.3, 2.0),
    height=st.floats(0.3, 2.0),
    lid=st.sampled_from(["solid", "mesh", "open"]),
)
def test_a_resized_enclosure_keeps_everything_inside_its_walls(length: float, width: float, height: float, lid: str) -> None:
    before = plan().model_dump(mode="json")
    box = before["enclosure"] | {"length_m": length, "width_m": width, "height_m": height, "lid": lid}
    after = put(before, ("enclosure",), box)
    made = HabitatPlan.model_validate(refit(before, after))
    wrong = {error.code for error in check_places(made)}
    assert "outside_length" not in wrong
    assert "lamp_above_lid" not in wrong


def test_a_lamp_on_the_lid_follows_the_lid() -> None:
    before = plan(enclosure__lid="mesh", uv_lamps__0__height_m=0.48).model_dump(mode="json")
    after = refit(before, put(before, ("enclosure", "height_m"), 0.6))
    assert after["uv_lamps"][0]["height_m"] == pytest.approx(0.63)


def test_taking_the_last_of_a_list_leaves_an_empty_list() -> None:
    from husbandry.assessment import Change

    assert apply(document(), (Change("heaters.0", None),))["heaters"] == []


# ---- hours ----


@pytest.mark.parametrize(
    ("on", "off", "hour", "runs"),
    [
        (time(8), time(20), 8.0, True),
        (time(8), time(20), 20.0, False),
        (time(20), time(8), 23.5, True),
        (time(20), time(8), 12.0, False),
        (time(0), time(0), 3.0, True),
        (time(6, 30), time(6, 45), 6.6, True),
    ],
)
def test_a_timer_begins_at_its_minute_and_ends_before_the_other(on: time, off: time, hour: float, runs: bool) -> None:
    assert Timed(on=on, off=off).runs_at(hour) is runs


@given(on=st.times(), off=st.times())
def test_the_middle_of_the_dark_is_never_lit_but_where_it_never_darkens(on: time, off: time) -> None:
    light = Daylight(on=on.replace(second=0, microsecond=0), off=off.replace(second=0, microsecond=0))
    if light.on != light.off:
        assert not light.runs_at(light.middle_of_dark)
    assert 0 <= light.middle_of_dark < 24


def test_clock_times_are_hours() -> None:
    assert hours_of(time(7, 45)) == 7.75
    assert plan(feeding__starts="2026-11-01").feeding.starts == date(2026, 11, 1)
