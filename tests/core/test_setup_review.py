"""The review of a set-up that stands: what is certain whatever the answers, and the question whose answer settles most."""

from typing import Any

import pytest
from pydantic import ValidationError

from husbandry.assess.vetting import WEIGHT
from husbandry.assessment import Severity
from husbandry.codes import FindingCode
from husbandry.setup_review.review import MOST_WAYS, NOT_TOLD, DoesNotFitError, Review, plan_of, review, ways_of
from husbandry.setup_review.to_do import Urgency, since, to_do, usual
from husbandry.setup_review.told import Told
from husbandry.setup_review.unknowns import answered, priors, unknowns
from husbandry.species.book import find
from tests.plans import TODAY

SNAKE: dict[str, Any] = {
    "species": "corn-snake", "animal": {"mass_kg": 0.6}, "length_m": 1.2, "width_m": 0.6, "height_m": 0.6,
    "kind": "glass", "lid": "mesh", "room_c": 21.0, "room_percent": 50.0, "bowl": True,
    "ground": "aspen", "ground_m": 0.04, "mistings": 0,
    "heaters": [{"kind": "mat", "watts": 20.0, "thermostat": True, "guarded": True, "probe": "spot"}],
    "hides": [{"end": "warm", "humid": False, "dark": True}, {"end": "cool", "humid": False, "dark": True}],
    "thermometers": True, "dusted": True,
}  # fmt: skip


def told(**more: Any) -> Told:
    return Told.model_validate(SNAKE | more)


def reviewed(one: Told) -> Review:
    return review(one, find(one.species), TODAY)


def shares(found: Review) -> dict[str, float]:
    return {str(one.finding.code): one.share for one in found.findings}


def test_of_what_is_told_whole_nothing_is_asked() -> None:
    assert unknowns(told()) == ()
    found = reviewed(told())
    assert found.questions == ()
    assert found.ask is None
    assert all(one.certain for one in found.findings)
    assert {"enclosure_length", "cool_air"} <= {item.key for item in found.right}


def test_every_unknown_has_answers_that_a_set_up_can_have() -> None:
    """Each prior's answers are read into the description by the description's own rules."""
    bare = told(
        animal={}, lid=None, room_c=None, room_percent=None, bowl=None, ground=None, ground_m=None, mistings=None,
        heaters=[{"kind": "mat"}, {"kind": "reflector-flood", "thermostat": True}], tubes=[{}], hides=[{"end": "warm"}],
        thermometers=None, dusted=None,
    )  # fmt: skip
    there = unknowns(bare)
    assert {one.asks for one in there} == set(priors())
    for one in there:
        assert sum(one.shares) == pytest.approx(1)
        for answer in one.answers:
            assert one.path not in {left.path for left in unknowns(answered(bare, {one.path: answer}))}


def test_a_mat_of_which_nobody_knows_a_thermostat_is_asked_about_first() -> None:
    """An unregulated mat burns: the first thing a specialist asks (common practice, no source)."""
    found = reviewed(told(room_c=None, heaters=[{"kind": "mat"}]))
    assert found.ask is not None
    assert found.ask.unknown.path == "heaters.0.thermostat"
    assert 0.3 < shares(found)["heat.mat_hot"] < 0.9
    held = reviewed(told(room_c=None, heaters=[{"kind": "mat", "thermostat": True, "probe": "spot"}]))
    assert "heat.mat_hot" not in shares(held)
    # A thermostat whose probe hangs in the air does not hold the mat: that is asked next.
    hangs = reviewed(told(room_c=None, heaters=[{"kind": "mat", "thermostat": True}]))
    assert hangs.ask is not None
    assert hangs.ask.unknown.path == "heaters.0.probe"
    free = reviewed(told(room_c=None, heaters=[{"kind": "mat", "watts": 35.0, "thermostat": False}]))
    assert shares(free)["heat.mat_hot"] == pytest.approx(1)


def test_what_one_unknown_settles_is_its_findings_variance() -> None:
    """Guarded or not, one to two, decides one finding of a weight w: perfect information is worth w · 1/3 · 2/3 (by hand)."""
    lamp = {"kind": "reflector-flood", "watts": 60.0, "thermostat": True, "probe": "spot"}
    found = reviewed(told(lid="solid", kind="foamed-pvc", heaters=[lamp]))
    assert [one.unknown.path for one in found.questions] == ["heaters.0.guarded"]
    unguarded = next(one for one in found.findings if one.finding.code == "heat.unguarded")
    assert unguarded.share == pytest.approx(2 / 3)
    others = [one for one in found.findings if not one.certain and one is not unguarded]
    assert not others
    assert found.questions[0].settles == pytest.approx(WEIGHT[unguarded.finding.severity] * 2 / 9)
    assert found.questions[0].share == pytest.approx(1)  # with one unknown an answer settles everything


def test_what_changes_nothing_is_not_asked() -> None:
    found = reviewed(told(heaters=[{"kind": "mat", "watts": 20.0, "thermostat": True, "probe": "spot"}]))
    assert found.questions == ()  # a mat has no guard
    assert found.ask is None


@pytest.mark.sweep
def test_it_asks_until_an_answer_would_change_nothing() -> None:
    here = told(room_c=None, lid=None, heaters=[{"kind": "mat"}], hides=[{"end": "warm"}, {"end": "cool"}])
    asked: list[str] = []
    while (question := reviewed(here).ask) is not None:
        assert question.unknown.path not in asked
        asked.append(question.unknown.path)
        likeliest = max(zip(question.unknown.shares, question.unknown.answers, strict=True), key=lambda pair: pair[0])
        here = answered(here, {question.unknown.path: likeliest[1]})
    assert asked[0] == "heaters.0.thermostat"
    assert len(asked) <= 6
    left = [one for one in reviewed(here).findings if not one.certain]
    assert all(one.finding.severity is not Severity.DANGER for one in left)


@pytest.mark.sweep
def test_the_same_set_up_asks_the_same_and_draws_each_answer_as_often_as_is_likely() -> None:
    bare = told(room_c=None, lid=None, bowl=None, ground=None, ground_m=None, heaters=[{"kind": "mat"}])
    assert reviewed(bare) == reviewed(bare)
    there = unknowns(bare)
    ways = ways_of(bare, there, find(bare.species), TODAY)
    assert len(ways) == MOST_WAYS
    assert sum(way.share for way in ways) == pytest.approx(1)
    for one in there:
        for answer, share in zip(one.answers, one.shares, strict=True):
            drawn = sum(way.answers[one.path] == answer for way in ways) / len(ways)
            assert drawn == pytest.approx(share, abs=1.5 / MOST_WAYS)


# What a specialist says at once of set-ups as they are met (common practice, no source).
CASES: dict[str, tuple[dict[str, Any], set[str], set[str]]] = {
    "a snake with one hide for warm and cool": (
        {"hides": [{"end": "warm", "humid": False}]}, {"space.hides"}, {"heat.mat_hot", "moisture.no_bowl"},
    ),
    "a snake without a hide, in a box too small": (
        {"hides": [], "length_m": 0.6, "width_m": 0.4, "height_m": 0.4}, {"space.hides", "space.too_small"}, set(),
    ),
    "a bearded dragon below an old compact lamp": (
        {
            "species": "central-bearded-dragon", "animal": {"mass_kg": 0.4}, "ground": "sand", "ground_m": 0.05,
            "heaters": [{"kind": "reflector-flood", "watts": 100.0, "thermostat": None, "guarded": True}],
            "tubes": [{"kind": "compact-5", "months": 30, "reflector": False, "length_m": 0.1}],
        },
        {"uv.old", "uv.weak"}, {"uv.missing"},
    ),
    "a bearded dragon without any UV": (
        {"species": "central-bearded-dragon", "animal": {"mass_kg": 0.4}, "tubes": []}, {"uv.missing"}, set(),
    ),
    "a gecko of the dry without water or a damp hide": (
        {"species": "leopard-gecko", "animal": {"mass_kg": 0.06}, "bowl": False},
        {"moisture.no_bowl", "moisture.no_humid_hide"}, {"space.too_small"},
    ),
    "a leopard gecko on a strong mat that nothing holds": (
        {"species": "leopard-gecko", "animal": {"mass_kg": 0.06}, "heaters": [{"kind": "mat", "watts": 35.0, "thermostat": False}]},
        {"heat.no_thermostat", "heat.mat_hot"}, set(),
    ),
    "a snake that can reach a lamp without a guard": (
        {
            "kind": "foamed-pvc", "lid": "solid",
            "heaters": [{"kind": "reflector-flood", "watts": 60.0, "thermostat": True, "guarded": False}],
        },
        {"heat.unguarded"}, {"heat.no_thermostat"},
    ),
    "a tortoise without UV in a small box": (
        {
            "species": "russian-tortoise", "animal": {"length_m": 0.15}, "kind": "open-table", "lid": "open",
            "length_m": 0.8, "width_m": 0.5, "height_m": 0.4, "ground": "soil", "ground_m": 0.06,
            "heaters": [{"kind": "reflector-flood", "watts": 100.0, "thermostat": False, "guarded": True}],
        },
        {"uv.missing", "space.too_small"}, {"heat.unguarded"},
    ),
    "a desert lizard below a weak lamp in a cold room": (
        {
            "species": "uromastyx", "animal": {"mass_kg": 0.3}, "room_c": 17.0, "ground": "sand", "ground_m": 0.05,
            "heaters": [{"kind": "reflector-flood", "watts": 40.0, "thermostat": False, "guarded": True}],
        },
        {"heat.basking_cold", "uv.missing"}, {"heat.basking_hot"},
    ),
    "tree frogs in a low, dry box": (
        {
            "species": "red-eyed-tree-frog", "animal": {"count": 3}, "grown": "adult", "length_m": 0.6, "width_m": 0.3,
            "height_m": 0.3, "room_percent": 35.0, "ground": "paper", "ground_m": 0.0, "heaters": [], "hides": [],
        },
        {"space.too_small", "moisture.dry"}, {"moisture.wet"},
    ),
}  # fmt: skip


@pytest.mark.parametrize("case", CASES)
def test_what_a_specialist_sees_at_once_is_certain(case: str) -> None:
    changed, sees, sees_not = CASES[case]
    found = reviewed(told(**changed))
    certain = {str(one.finding.code) for one in found.findings if one.certain}
    assert sees <= certain
    assert not sees_not & set(shares(found))


def test_what_no_climate_tells_is_missed_too() -> None:
    """A thermostat is trusted with a thermometer beside it; insects go dusted (common practice, no source)."""
    found = shares(reviewed(told(thermometers=False, hides=[{"end": "warm", "humid": False, "dark": False}])))
    assert found["measured.no_thermometer"] == pytest.approx(1)
    assert found["space.lit_hide"] == pytest.approx(1)
    gecko = {"species": "leopard-gecko", "animal": {"mass_kg": 0.06}}
    assert shares(reviewed(told(**gecko, dusted=False)))["diet.undusted"] == pytest.approx(1)
    assert "diet.undusted" not in shares(reviewed(told(dusted=False)))  # a snake eats whole prey: nothing goes on it
    assert 0 < shares(reviewed(told(**gecko, dusted=None)))["diet.undusted"] < 1


def test_a_reading_counts_against_its_band_and_tells_what_is_likelier() -> None:
    """By what is read where the room is not known: a cool end of 31 °C is no cold room's (the conservation of heat, by hand)."""
    bare = {"room_c": None, "lid": None}
    before, after = (
        ways_of(one, unknowns(one), find(one.species), TODAY) for one in (told(**bare), told(**bare, readings={"cool_air_c": 29.0}))
    )
    rooms = [sum(way.share * float(way.answers["room_c"]) for way in ways) for ways in (before, after)]
    assert rooms[1] > rooms[0] + 2
    assert sum(way.share for way in after) == pytest.approx(1)
    # What is read counts whatever the model says, and where it is well nothing is found.
    hot = shares(reviewed(told(readings={"warm_air_c": 41.0})))
    assert hot["measured.high"] == pytest.approx(1)
    cold = {"heat.warm_air_cold"}
    assert cold <= set(shares(reviewed(told())))
    assert not cold & set(shares(reviewed(told(readings={"warm_air_c": 28.0}))))


def test_one_odd_reading_does_not_make_sure_of_what_was_only_not_drawn() -> None:
    odd = told(room_c=None, lid=None, room_percent=None, heaters=[{"kind": "mat"}], readings={"basking_surface_c": 59.0})
    ways = ways_of(odd, unknowns(odd), find(odd.species), TODAY)
    shared = [way.share for way in ways]
    assert 1 / sum(share**2 for share in shared) > 7


def test_what_is_told_with_its_place_stands_there() -> None:
    lamp = {"kind": "reflector-flood", "watts": 60.0, "thermostat": True, "guarded": True, "x_m": 0.9, "y_m": 0.2}
    hide = {"end": "cool", "humid": False, "x_m": 0.3, "y_m": 5.0}
    plan = plan_of(told(heaters=[lamp], hides=[hide], bowl_x_m=0.6, bowl_y_m=0.1), find("corn-snake"), TODAY)
    assert (plan.heaters[0].x_m, plan.heaters[0].y_m) == (0.9, 0.2)
    assert plan.hides[0].x_m == pytest.approx(0.3)
    assert plan.hides[0].y_m is not None
    assert plan.hides[0].y_m < 0.6  # never through a wall
    assert next(thing for thing in plan.things if thing.basking).x_m == pytest.approx(0.9)
    assert plan.bowl is not None
    assert plan.bowl.x_m == pytest.approx(0.6)


def test_how_far_an_animal_is_grown_is_asked_where_nothing_says_it() -> None:
    """A box that does for a hatchling is too small for the adult: of one that nobody weighed it is asked."""
    small = {"animal": {}, "length_m": 0.6, "width_m": 0.4, "height_m": 0.4}
    found = reviewed(told(**small))
    assert [one.unknown.path for one in found.questions] == ["grown"]
    assert found.ask is not None
    assert 0.5 < shares(found)["space.too_small"] < 0.95
    assert shares(reviewed(told(**small, grown="adult")))["space.too_small"] == pytest.approx(1)
    assert "space.too_small" not in shares(reviewed(told(**small, grown="young")))
    assert unknowns(told(animal={"mass_kg": 0.6})) == ()  # it was weighed: nothing is asked


def test_of_what_nobody_told_nothing_is_found() -> None:
    """Where a bowl stands, what is fed and how long it is lit is not told here."""
    found = reviewed(told(room_c=None, hides=[{"end": "cool"}]))
    codes = set(shares(found))
    assert not codes & {str(code) for code in NOT_TOLD}
    assert not {code for code in codes if code.startswith(("diet.", "feed.", "light.", "plant."))}


def test_worst_and_likeliest_come_first() -> None:
    found = reviewed(told(room_c=None, heaters=[{"kind": "mat"}], hides=[]))
    weights = [WEIGHT[one.finding.severity] * one.share for one in found.findings]
    assert weights == sorted(weights, reverse=True)


def test_what_cannot_be_is_refused() -> None:
    with pytest.raises(DoesNotFitError):
        reviewed(told(height_m=0.1, ground_m=0.2))
    for wrong in ({"length_m": -1}, {"kind": "shoebox"}, {"mistings": 40}, {"room_c": 300}, {"hides": [{"end": "attic"}]}):
        with pytest.raises(ValidationError):
            told(**wrong)


def test_a_described_set_up_is_the_start_of_a_plan() -> None:
    plan = plan_of(told(), find("corn-snake"), TODAY)
    assert [heater.kind for heater in plan.heaters] == ["mat"]
    assert len(plan.hides) == 2
    assert plan.bowl is not None


def test_every_finding_has_its_time() -> None:
    assert set(usual()) == set(FindingCode)


def test_a_danger_never_waits_and_what_is_free_comes_first() -> None:
    """An unheld mat is unplugged tonight, its thermostat bought this week; a box comes later (common practice, no source)."""
    mat = {"kind": "mat", "watts": 35.0, "thermostat": False}
    small = {"length_m": 0.6, "width_m": 0.4, "height_m": 0.4}
    rows = to_do(reviewed(told(heaters=[mat], hides=[], bowl=False, **small)))
    when = {str(row.standing.finding.code): (row.when, row.mended) for row in rows}
    assert when["heat.mat_hot"][0] is Urgency.TONIGHT
    assert when["heat.no_thermostat"][1] is Urgency.WEEK
    assert when["space.hides"] == (Urgency.WEEK, Urgency.WEEK)
    assert when["space.too_small"][1] is Urgency.LATER
    order = [list(Urgency).index(row.when) for row in rows]
    assert order == sorted(order)
    for row in rows:
        if row.standing.finding.severity is Severity.DANGER:
            assert row.when is Urgency.TONIGHT


def test_a_danger_that_is_only_likely_is_taken_for_one_tonight() -> None:
    """A strong mat of which nobody knows a thermostat is unplugged before anybody has looked (common practice, no source)."""
    found = reviewed(told(heaters=[{"kind": "mat", "watts": 35.0}]))
    hot = next(one for one in found.findings if one.finding.code is FindingCode.HEAT_MAT_HOT)
    assert 0.25 < hot.share < 0.95
    assert [row.when for row in to_do(found) if row.standing is hot] == [Urgency.TONIGHT]
    lukewarm = [row for row in to_do(found) if not row.standing.certain and row.standing.finding.severity is not Severity.DANGER]
    assert lukewarm == []


def test_a_second_review_tells_what_was_done() -> None:
    before = reviewed(told(bowl=False, hides=[]))
    after = reviewed(told(bowl=True, hides=[], heaters=[{"kind": "mat", "watts": 20.0, "thermostat": False}]))
    found = since(before, after)
    done, left, new = ({str(one.finding.code) for one in rows} for rows in (found.done, found.left, found.new))
    assert "moisture.no_bowl" in done
    assert "space.hides" in left
    assert "heat.no_thermostat" in new
    assert len(done) + len(left) + len(new) == len(done | left | new)
    # What nobody knows any more is not done.
    unsure = since(before, reviewed(told(bowl=None, hides=[])))
    assert "moisture.no_bowl" not in {str(one.finding.code) for one in unsure.done}
