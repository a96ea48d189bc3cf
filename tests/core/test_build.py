"""The build: every step of the trade in its order, no animal before a cure, and the time there is."""

from datetime import date, datetime, time, timedelta
from itertools import pairwise
from typing import Any

import networkx as nx
import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from husbandry.build.calendar import Timetable, timetable
from husbandry.build.graph import CircleError, Graph, graph, longest
from husbandry.build.kinds import ANIMAL_IN, TEST_RUN, steps, waits
from husbandry.build.moving_day import moving_day
from husbandry.build.rebuild import rebuild
from husbandry.build.settings import BuildSettings
from husbandry.build.standing import Lock, standing
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.species.book import shipped
from tests.anyplan import documents
from tests.plans import document, plan
from tests.sample import times

MONDAY = datetime.combine(date(2026, 11, 30), time(12))


def bioactive(**more: Any) -> HabitatPlan:
    """A planted box with a foam background, living ground on a barrier, a shelf, a mister and two heaters."""
    told = document() | more
    told["things"] = [
        *told["things"],
        {
            "kind": "background",
            "x_m": 0.6,
            "y_m": 0.48,
            "length_m": 1.1,
            "width_m": 0.04,
            "height_m": 0.35,
            "material": "coated-foam",
        },
        {"kind": "ledge", "x_m": 1.0, "y_m": 0.4, "up_m": 0.2, "length_m": 0.2, "width_m": 0.12, "height_m": 0.02},
        {"kind": "plant", "x_m": 0.1, "y_m": 0.1, "length_m": 0.15, "height_m": 0.2, "plant": "pothos"},
    ]
    told["ground"] = told["ground"] | {"barrier": True, "living": True}
    told["mister"] = {"nozzles": 2}
    told["misting"] = {"times": [{"at": "08:00", "grams": 60}]}
    told["heaters"] = [
        *told["heaters"],
        told["heaters"][0] | {"kind": "mat", "watts": 15.0, "x_m": 0.8, "height_m": 0.01, "guarded": False},
    ]
    told["heaters"][1]["thermostat"] = {"kind": "pulse", "set_c": 30.0, "probe": "mat"}
    return read_data(told)


def any_order(found: Graph, one: str, other: str) -> bool:
    """Tell whether one step comes before another, however far."""
    return other in found.all_after(one)


def test_a_bioactive_box_is_built_as_the_trade_builds_it() -> None:
    """Cures, probes and cable holes before the ground, a guard, the crew last but for the animal (trade)."""
    found = graph(bioactive(), BuildSettings(mite_spray=True))
    for one, other in (
        ("cable-ways", "ground-1"),
        ("probes", "ground-1"),
        ("background-foam", "background-carve"),
        ("background-coir", "heaters"),
        ("fixings", "heaters"),
        ("electrics-check", "barrier"),
        ("mats", "barrier"),
        ("barrier", "ground-1"),
        ("ground-1", "plants"),
        ("mite-spray", "crew"),
        ("litter", "crew"),
        ("airing", "crew"),
        ("plants", "planted"),
        ("crew", ANIMAL_IN),
        (TEST_RUN, ANIMAL_IN),
    ):
        assert any_order(found, one, other), f"{one} before {other}"
    guards = [amount for amount in found["heaters"].amounts if amount.what == "guard"]
    assert [amount.amount for amount in guards] == [1]


def test_waits_are_those_of_the_trade() -> None:
    """Foam 24 h, boards in silicone 24 h, silicone with coir a week, mite spray half an hour, a planted ground a week (trade)."""
    hours = {key: kind.hours for key, kind in waits().items()}
    assert (hours["foam"], hours["panels-glued"], hours["silicone-coir"]) == (24, 24, 168)
    assert (hours["mite-spray"], hours["planted"]) == (0.5, 168)
    assert 4 * 168 <= hours["cycle"] <= 8 * 168
    found = graph(bioactive(), BuildSettings())
    assert {step.wait_h for step in found.steps if step.kind == "background-coir"} == {168}


def test_steps_stand_only_where_the_plan_has_the_thing() -> None:
    kinds = {step.kind for step in graph(plan(), BuildSettings()).steps}
    assert not kinds & {"barrier", "mats", "misting", "plants", "crew", "background-cut", "water", "inspect", "mite-spray", "seal"}
    bare = {step.kind for step in graph(plan(heaters=[], uv_lamps=[]), BuildSettings()).steps}
    assert not bare & {"heaters", "lights", "electrics-check", TEST_RUN}
    assert "seal" in {step.kind for step in graph(plan(enclosure__kind="plywood"), BuildSettings()).steps}


def test_second_hand_parts_are_disinfected_twice_a_day_apart() -> None:
    """Two disinfections, each dried (trade)."""
    found = graph(plan(), BuildSettings(second_hand=True))
    kinds = [step.kind for step in found.steps]
    assert kinds[:4] == ["inspect", "wash", "disinfect", "disinfect"]
    table = timetable(found, BuildSettings(second_hand=True), MONDAY)
    assert table["disinfect-2"].begins >= table["disinfect-1"].worked + timedelta(hours=24)


def test_every_step_says_what_comes_before_it_and_every_wait_is_known() -> None:
    for key, kind in steps().items():
        assert set(kind.after) <= set(steps()), key
        assert not kind.wait or kind.wait in waits(), key
    whole = nx.DiGraph([(before, key) for key, kind in steps().items() for before in kind.after])
    assert nx.is_directed_acyclic_graph(whole)


def oracle(found: Graph) -> float:
    """The longest way by networkx: each step's hours on the edge that leaves it."""
    whole = nx.DiGraph()
    for step in found.steps:
        for before in found.before[step.key]:
            whole.add_edge(before, step.key, weight=found[before].hours)
    return float(nx.dag_longest_path_length(whole, weight="weight")) + found.steps[-1].hours if whole else found.steps[-1].hours


@st.composite
def anyhow(draw: st.DrawFn) -> BuildSettings:
    """Any way to build, on any days."""
    changed = {key: draw(st.floats(kind.least_h, 3 * kind.hours)) for key, kind in waits().items() if draw(st.booleans())}
    return BuildSettings(
        second_hand=draw(st.booleans()),
        mite_spray=draw(st.booleans()),
        finish=draw(st.sampled_from(["", "coir", "plaster"])),
        waits=changed,
        weekdays=tuple(sorted(draw(st.sets(st.integers(0, 6), min_size=1)))),
        from_clock=time(draw(st.integers(0, 23))),
        minutes_a_day=draw(st.floats(20, 600)),
    )


@settings(max_examples=times(20, 60), deadline=None, suppress_health_check=list(HealthCheck))
@given(
    told=documents(), second_hand=st.booleans(), mite=st.booleans(), finish=st.sampled_from(["", "coir", "plaster"]), data=st.data()
)
def test_whatever_is_planned_no_animal_is_in_before_a_cure(
    told: dict[str, Any], second_hand: bool, mite: bool, finish: Any, data: st.DataObject
) -> None:
    try:
        made = read_data(told)
    except PlanProblems:
        assume(False)
    said = data.draw(anyhow())
    found = graph(made, said)
    way = longest(found)
    assert way.hours == pytest.approx(oracle(found))
    assert sum(found[key].hours for key in way.critical) == pytest.approx(way.hours)
    assert all(way.slack_h[key] == pytest.approx(0, abs=1e-6) for key in way.critical)
    table = timetable(found, said, MONDAY)
    check_times(found, said, table)
    # Done as planned, the lock opens when the last wait is over, and not a minute before.
    done = {one.key: one.worked for one in table.planned if one.key != ANIMAL_IN and found[one.key].minutes > 0}
    assert standing(found, said, done, table.moves_in, test_passed=True).may_move_in
    last = max((one.over for one in table.planned if one.key != ANIMAL_IN), default=MONDAY)
    if any(found[one.key].wait_h > 0.1 and one.over == last for one in table.planned):
        assert not standing(found, said, done, last - timedelta(minutes=2), test_passed=True).may_move_in


def check_times(found: Graph, said: BuildSettings, table: Timetable) -> None:
    """Everything after what is before it, by one pair of hands, in the keeper's hours."""
    assert {one.key for one in table.planned} == {step.key for step in found.steps}
    for one in table.planned:
        for before in found.before[one.key]:
            assert one.begins >= table[before].over
        if found[one.key].minutes:
            # A day's work may go on past midnight: then it is the day before's.
            day = one.begins.date() if one.begins.time() >= said.from_clock else one.begins.date() - timedelta(days=1)
            assert day.weekday() in said.weekdays
            assert one.begins < datetime.combine(day, said.from_clock) + timedelta(minutes=said.minutes_a_day)
    worked = sorted((one.begins, one.worked) for one in table.planned if one.worked > one.begins)
    assert all(later >= end for (_begin, end), (later, _end) in pairwise(worked))
    assert table.moves_in >= max(one.over for one in table.planned if one.key != ANIMAL_IN)


def test_a_weekend_keeper_moves_in_later_than_one_who_has_every_evening() -> None:
    found = graph(bioactive(), BuildSettings())
    every = timetable(found, BuildSettings(), MONDAY)
    weekends = timetable(found, BuildSettings(weekdays=(5, 6), from_clock=time(10)), MONDAY)
    assert every.moves_in < weekends.moves_in
    assert {one.begins.weekday() for one in weekends.planned if one.worked > one.begins} == {5, 6}
    # While the coir sets for a week, other things are done.
    assert "mats" not in every.beside("background-coir")
    assert every.beside("planted")


def test_what_was_missed_tells_what_it_holds_up_and_what_is_open() -> None:
    said = BuildSettings()
    found = graph(bioactive(), said)
    done = {"wash": MONDAY}
    now = standing(found, said, done, MONDAY + timedelta(hours=1), test_passed=False)
    assert now.open == ("stand",)
    assert set(now.holds["stand"]) >= {"ground-1", ANIMAL_IN, "background-foam"}
    assert now.slack_h["stand"] == pytest.approx(0)
    assert {lock.why for lock in now.locks} == {Lock.UNDONE, Lock.UNTESTED}


def test_the_animal_waits_for_the_test_run_and_the_quarantine() -> None:
    until = date(2027, 1, 10)
    said = BuildSettings(quarantine_until=until)
    found = graph(plan(), said)
    table = timetable(found, said, MONDAY)
    assert table.moves_in.date() >= until
    done = {step.key: MONDAY for step in found.steps if step.minutes and step.key != ANIMAL_IN}
    later = MONDAY + timedelta(days=20)
    assert [lock.why for lock in standing(found, said, done, later, test_passed=False).locks] == [Lock.UNTESTED, Lock.QUARANTINE]
    assert standing(found, said, done, datetime.combine(until, time()), test_passed=True).may_move_in


@pytest.mark.parametrize(
    ("own", "names"),
    [
        ([{"name": "a", "after": ["b"]}, {"name": "b", "after": ["a"]}], {"a", "b"}),
        ([{"name": "a", "after": ["ground"], "before": ["stand"]}], {"a", "stand", "ground-1"}),
        ([{"name": "a", "after": ["a"]}], {"a"}),
    ],
)
def test_circles_of_own_steps_are_named(own: list[dict[str, Any]], names: set[str]) -> None:
    with pytest.raises(CircleError) as caught:
        graph(plan(), BuildSettings.model_validate({"own": own}))
    assert names <= set(caught.value.names)
    assert caught.value.names[0] == caught.value.names[-1]


def test_own_steps_stand_where_they_were_put() -> None:
    own = [{"name": "Paint the stand", "minutes": 60, "wait_h": 12, "before": ["stand"]}, {"name": "Photo", "after": ["furniture"]}]
    found = graph(plan(), BuildSettings.model_validate({"own": own}))
    assert any_order(found, "Paint the stand", "stand")
    assert any_order(found, "furniture", "Photo")
    assert any_order(found, "Photo", ANIMAL_IN)


@pytest.mark.parametrize(
    "said",
    [
        {"waits": {"foam": 2}}, {"waits": {"silicone-coir": 24}}, {"waits": {"no-such": 24}}, {"weekdays": []}, {"weekdays": [9]},
        {"minutes_a_day": -5}, {"own": [{"name": "ground"}]}, {"own": [{"name": "ground-1"}]},
        {"own": [{"name": "a", "after": ["nowhere"]}]},
        {"own": [{"name": "a", "after": [ANIMAL_IN]}]}, {"own": [{"name": "a"}, {"name": "a"}]}, {"coats": 0},
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused(said: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        BuildSettings.model_validate(said)


def test_a_rebuild_is_what_differs() -> None:
    stands = plan()
    assert [step.key for step in rebuild(stands, stands, BuildSettings()).steps] == [ANIMAL_IN]
    lamp = read_data(document(heaters__0__watts=50.0))
    assert [step.key for step in rebuild(stands, lamp, BuildSettings()).steps] == [
        "take-out", "heaters", "electrics-check", TEST_RUN, ANIMAL_IN,
    ]  # fmt: skip
    deeper = rebuild(stands, plan(ground__depth_m=0.12), BuildSettings())
    keys = [step.key for step in deeper.steps]
    assert keys[0] == "take-out"
    assert deeper["take-out"].amounts[0].amount == pytest.approx(1000 * 1.2 * 0.5 * 0.07, rel=0.2)
    assert {"ground-1", "furniture", TEST_RUN} <= set(keys)
    assert not {"heaters", "lights", "stand", "cable-ways"} & set(keys)
    assert {"inspect", "disinfect-1", "disinfect-2"} <= {
        step.key for step in rebuild(stands, lamp, BuildSettings(second_hand=True)).steps
    }


def test_a_rebuild_takes_away_what_the_new_plan_lacks() -> None:
    keys = [step.key for step in rebuild(plan(), plan(uv_lamps=[]), BuildSettings()).steps]
    assert keys == ["take-out", "cable-ways", "electrics-check", TEST_RUN, ANIMAL_IN]  # the hole it leaves is a way out


def test_what_cures_by_itself_has_begun_when_what_is_before_it_was_over() -> None:
    said = BuildSettings()
    found = graph(bioactive(), said)
    first = timetable(found, said, MONDAY)
    planted = first["plants"].worked
    done = {one.key: one.worked for one in first.planned if one.worked <= planted and found[one.key].minutes > 0}
    for days, over in ((3, False), (8, True)):
        now = planted + timedelta(days=days)
        later = timetable(found, said, now, done)["planted"]
        assert (later.begins, later.over) == (planted, planted + timedelta(days=7))
        assert later.done is over
        assert ("planted" in standing(found, said, done, now, test_passed=False).curing) is not over


def test_another_enclosure_is_built_from_its_shell_on() -> None:
    """Nothing of the old one is fitted in it, though lamps and things stay what they are."""
    for changed in (bioactive(enclosure=document()["enclosure"] | {"height_m": 0.6}), bioactive(enclosure=wooden())):
        again = {step.key for step in rebuild(bioactive(), changed, BuildSettings()).steps}
        assert again == {step.key for step in graph(changed, BuildSettings()).steps} | {"take-out"}


def wooden() -> dict[str, Any]:
    return document()["enclosure"] | {"kind": "plywood"}


def test_what_is_fixed_to_a_background_or_lies_on_a_sheet_is_set_anew_with_it() -> None:
    stands = bioactive()
    behind = {one.kind: one for one in stands.things}["background"]
    rest = tuple(one for one in stands.things if one is not behind)
    thinner = stands.model_copy(update={"things": (*rest, behind.model_copy(update={"width_m": 0.03}))})
    keys = {step.key for step in rebuild(stands, thinner, BuildSettings()).steps}
    assert {"background-cut", "fixings", "airing", TEST_RUN} <= keys
    assert not {"ground-1", "stand", "lights"} & keys
    # What another animal lived in is emptied before it is disinfected: ground and crew would not live through it.
    used = {step.key for step in rebuild(stands, stands, BuildSettings(second_hand=True)).steps}
    assert {"disinfect-2", "ground-1", "plants", "crew", "airing"} <= used
    assert not {"background-cut", "cable-ways"} & used


def test_a_wait_that_nothing_comes_before_is_begun_by_hand_and_locks() -> None:
    """A bought background that airs a week in the yard: nobody's work, and no animal before it is over."""
    said = BuildSettings.model_validate({"own": [{"name": "Air the bought rock", "minutes": 0, "wait_h": 168}]})
    found = graph(plan(), said)
    done = {step.key: MONDAY for step in found.steps if step.minutes and step.key != ANIMAL_IN}
    later = MONDAY + timedelta(days=30)
    now = standing(found, said, done, later, test_passed=True)
    assert [(lock.why, lock.key) for lock in now.locks] == [(Lock.UNDONE, "Air the bought rock")]
    assert now.open == ("Air the bought rock",)
    begun = done | {"Air the bought rock": later}
    assert not standing(found, said, begun, later + timedelta(days=6), test_passed=True).may_move_in
    assert standing(found, said, begun, later + timedelta(days=7), test_passed=True).may_move_in


def test_what_a_step_may_wait_is_reckoned_from_now_on() -> None:
    said = BuildSettings(quarantine_until=date(2026, 12, 30))
    found = graph(bioactive(), said)
    now = standing(found, said, {}, MONDAY, test_passed=False)
    # Thirty days to the end of the quarantine, two weeks of work and cures: the first step has the rest.
    assert now.slack_h["quarantine"] == pytest.approx(0)
    whole = longest(graph(bioactive(), BuildSettings())).hours
    assert now.slack_h["wash"] == pytest.approx(29.5 * 24 - whole, abs=1)
    # The coir has set while the lamps wait: what decided first decides no more.
    free = BuildSettings()
    made = graph(bioactive(), free)
    first = timetable(made, free, MONDAY)
    done = {one.key: one.worked for one in first.planned if one.worked <= first["background-coir"].worked and made[one.key].minutes}
    begun = standing(made, free, done, first["background-coir"].worked, test_passed=False)
    over = standing(made, free, done, first["background-coir"].over, test_passed=False)
    assert begun.slack_h["background-coir"] == pytest.approx(0, abs=0.1)
    assert {key for key in over.open if over.slack_h[key] == pytest.approx(0, abs=0.1)}


def test_the_end_of_a_quarantine_is_somebodys_word_and_not_before_its_day() -> None:
    said = BuildSettings(quarantine_until=date(2027, 1, 10))
    found = graph(plan(), said)
    done = {step.key: MONDAY for step in found.steps if step.minutes and step.kind not in (ANIMAL_IN, "quarantine")}
    before = standing(found, said, done, datetime.combine(date(2027, 1, 9), time(12)), test_passed=True)
    assert "quarantine" not in before.open
    after = standing(found, said, done, datetime.combine(date(2027, 1, 11), time(12)), test_passed=True)
    assert after.open == ("quarantine",)
    assert [lock.why for lock in after.locks] == [Lock.UNDONE]


def test_a_removed_step_passes_on_what_it_came_after() -> None:
    found = graph(bioactive(), BuildSettings())
    less = found.without({"barrier", "electrics-check"})
    assert any_order(less, "heaters", "ground-1")
    assert any_order(less, "mats", "ground-1")


def test_moving_day_goes_by_the_kind_of_animal() -> None:
    """No food or handling for days, a soak or a damp box meanwhile, ground and hide carried over for their smell (trade)."""
    for profile in shipped().values():
        told = {moment.what: moment.hours for moment in moving_day(profile)}
        assert list(told.values()) == sorted(told.values())
        assert told["handle-again"] >= told["first-meal"] + 48
        if profile.group == "tortoise":
            assert "waits-soaking" in told
        if profile.group in ("frog", "salamander"):
            assert "wet-hands" in told
        assert ("carry-hide" in told) != (profile.habit == "aquatic")


def test_amounts_are_reckoned_from_the_plan() -> None:
    """A litre of sealer for ten square metres, a cartridge for twelve metres of a bead (trade)."""
    found = graph(plan(enclosure__kind="plywood"), BuildSettings())
    inner_m2 = 1.2 * 0.5 + 2 * (1.2 + 0.5) * 0.45
    assert found["seal-1"].amounts[0].amount == pytest.approx(0.1 * inner_m2, abs=0.01)
    loose = sum(amount.amount for amount in found["ground-1"].amounts if amount.what.startswith("ground-"))
    assert loose == pytest.approx(1000 * 1.2 * 0.5 * 0.07 / 0.85, rel=0.2)
