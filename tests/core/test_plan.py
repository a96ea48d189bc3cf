"""The road: document in, assessment out; findings that catch mistakes and remedies that mend them."""

import json
from datetime import timedelta
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.report import report
from husbandry.assessment import Change, Severity, Verdict
from husbandry.design.first_proposal import propose
from husbandry.plan.editing import apply, refit
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.reading import PlanProblems, read_data, read_text
from husbandry.space.furniture import free_place
from husbandry.species.book import find, shipped
from husbandry.species.profile import Profile
from tests.plans import DARK_BY_DAY, TODAY, assessed, codes, document, document_before, plan
from tests.sample import some

ROOT = Path(__file__).resolve().parents[2]


def problems(**changes: object) -> dict[str, str]:
    with pytest.raises(PlanProblems) as refused:
        read_data(document_before(**changes))
    return {problem.path: problem.code for problem in refused.value.problems}


def test_a_good_habitat_has_nothing_wrong() -> None:
    worst = {finding.severity for finding in assessed().findings}
    assert worst <= {Severity.ADVICE, Severity.QUESTION}


def test_the_same_plan_gives_the_same_answer() -> None:
    profile = find("african-fat-tailed-gecko")
    assert report(assess(plan(), profile, TODAY)) == report(assess(plan(), profile, TODAY))


def test_every_quantity_says_where_it_comes_from_and_is_named_once() -> None:
    found = assessed().quantities
    assert len({item.id for item in found}) == len(found)
    assert all(item.reason.code and item.basis.kind for item in found)
    for item in found:
        if item.low is not None and item.high is not None and item.value is not None:
            assert item.low <= item.value <= item.high


def test_the_report_is_plain_json() -> None:
    text = json.dumps(report(assess(plan(), find("african-fat-tailed-gecko"), TODAY)), allow_nan=False)
    assert json.loads(text)["stage"] == {
        "id": "adult", "name": "adult", "decided_by": "age", "indications": {"age": "adult", "mass": "adult", "length": "adult"},
    }  # fmt: skip


def test_the_schema_in_the_docs_is_the_documents_own_and_takes_the_plan() -> None:
    kept = json.loads((ROOT / "docs" / "plan-format.schema.json").read_text())
    assert kept == HabitatPlan.model_json_schema()
    jsonschema.validate(document(), kept)


def test_the_document_survives_writing_and_reading() -> None:
    assert read_text(plan().model_dump_json()) == plan()


# ---- faults ----


def test_ninety_celsius_for_a_basking_target_offers_fahrenheit() -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document(heaters__0__thermostat__set_c=90))
    (problem,) = refused.value.problems
    assert (problem.path, problem.code, problem.typed) == ("heaters.0.thermostat.set_c", "too_high", (90.0, "degF"))
    assert problem.likely is not None
    assert problem.likely.value == pytest.approx(32.2, abs=0.1)


def test_centimetres_written_as_metres_offer_centimetres() -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document(enclosure__length_m=120))
    assert refused.value.problems[0].typed == (120.0, "cm")


@pytest.mark.parametrize(
    ("changes", "path", "code"),
    [
        ({"heaters__0__x_m": 1.5}, "heaters.0.x_m", "outside_length"),
        ({"heaters__0__height_m": 0.6}, "heaters.0.height_m", "lamp_above_lid"),
        ({"heaters__0__height_m": 0.1}, "heaters.0.height_m", "lamp_in_ground"),
        ({"ground__depth_m": 0.5}, "ground.depth_m", "ground_above_lid"),
        ({"platform__height_m": 0.5}, "platform.height_m", "platform_above_lid"),
        ({"bowl__diameter_m": 0.8}, "bowl.diameter_m", "bowl_too_wide"),
        ({"species": "sea-serpent"}, "species", "unknown_species"),
        ({"enclosure__kind": "cardboard"}, "enclosure.kind", "unknown_choice"),
        ({"enclosure__length_m": "long"}, "enclosure.length_m", "not_a_number"),
        ({"animal__hatched": "last spring"}, "animal.hatched", "not_a_date"),
        ({"colour": "green"}, "colour", "unknown_field"),
        ({"room__winter__day_c": 68}, "room.winter.day_c", "too_high"),
        ({"format": "ridgeback-plan/9"}, "format", "other_format"),
        ({"heaters__0__watts": 0}, "heaters.0.watts", "not_above"),
        ({"heaters__0__watts": float("nan")}, "heaters.0.watts", "not_a_number"),
        ({"heaters__0__height_m": -0.1}, "heaters.0.height_m", "not_above"),
        ({"heaters": [document()["heaters"][0]] * 200}, "heaters", "too_many"),
        ({"enclosure__vents": [{"height_m": 0.6, "area_m2": 0.01}]}, "enclosure.vents.0.height_m", "vent_above_lid"),
    ],
)
def test_faults_name_their_field(changes: dict[str, object], path: str, code: str) -> None:
    assert problems(**changes)[path] == code


def test_an_enclosure_of_five_metres_is_worked_out_like_any_other() -> None:
    """A pen for a large tortoise: nothing in it is out of proportion, and nothing breaks."""
    found = assessed(
        enclosure__length_m=5.0, enclosure__width_m=2.0, enclosure__height_m=1.0, species="sulcata-tortoise", schools={}
    )
    assert found.quantity("cool_air", "winter", "day").value == pytest.approx(22.0, abs=2.0)
    assert found.quantity("basking_surface", "winter", "day").value == pytest.approx(33.0, abs=1.0)


def test_a_missing_part_is_named() -> None:
    data = document()
    del data["room"]["winter"]
    with pytest.raises(PlanProblems) as refused:
        read_data(data)
    assert [(item.path, item.code) for item in refused.value.problems] == [("room.winter", "missing")]


@pytest.mark.parametrize("text", ["", "{", '{"name": NaN}', "[1, 2]", "[" * 5000, b"\xff\xfe", "x" * 300_000])
def test_no_text_brings_a_traceback(text: str | bytes) -> None:
    with pytest.raises(PlanProblems):
        read_text(text)


# ---- findings ----

# A tube too strong for the class lies on a mesh lid; it can be stood higher.
WEAK_AND_DARK = DARK_BY_DAY | {"watts": 25.0}
OVER_MESH = {"enclosure__lid": "mesh", "uv_lamps__0__kind": "slim-6", "uv_lamps__0__height_m": 0.45}


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        (
            {
                "enclosure__length_m": 0.4,
                "enclosure__width_m": 0.28,
                "heaters": [],
                "uv_lamps": [],
                "hides": [],
                "bowl": None,
                "platform": None,
            },
            "space.too_small",
        ),
        ({"hides": []}, "moisture.no_humid_hide"),
        ({"hides": []}, "space.hides"),
        ({"bowl": None}, "moisture.no_bowl"),
        ({"heaters__0__guarded": False}, "heat.unguarded"),
        ({"heaters__0__thermostat": {"kind": "none"}}, "heat.basking_hot"),
        ({"heaters__0__thermostat__kind": "pulse"}, "heat.wrong_thermostat"),
        ({"heaters__0__on": "20:00", "heaters__0__off": "08:00"}, "heat.light_at_night"),
        ({"heaters__0__height_m": 0.25}, "heat.too_close"),
        ({"uv_lamps__0__behind_glass": True}, "uv.behind_glass"),
        ({"uv_lamps__0__fitted": "2026-01-01"}, "uv.old"),
        ({"uv_lamps__0__fitted": None}, "uv.age_unknown"),
        ({"uv_lamps__0__kind": "slim-12"}, "uv.strong"),
        ({"uv_lamps": []}, "uv.missing"),
        ({"daylight__off": "23:00"}, "light.hours"),
        ({"room__winter__night_c": 10.0}, "heat.night_cold"),
        ({"room__summer__day_c": 31.0}, "heat.cool_air_hot"),
        ({"room__winter__humidity_percent": 15.0}, "moisture.dry"),
        ({"ground__damp": True}, "moisture.wet"),
        ({"ground__depth_m": 0.02}, "ground.shallow"),
        ({"animal__count": 3}, "animal.company"),
        ({"animal__mass_kg": 0.005}, "animal.stage_disputed"),
        ({"animal": {}}, "animal.stage_unknown"),
        ({"feeding__interval_days": 1}, "feed.too_often"),
    ],
)
def test_mistakes_are_caught(changes: dict[str, object], code: str) -> None:
    assert code not in codes(assessed())
    assert code in codes(assessed(**changes))


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"heaters__0__thermostat": {"kind": "none"}}, "heat.basking_hot"),
        ({"heaters__0__height_m": 0.25}, "heat.too_close"),
        (OVER_MESH, "uv.strong"),
        ({"uv_lamps": []}, "uv.missing"),
        ({"room__winter__night_c": 16.0}, "heat.night_cold"),
        ({"room__winter__night_c": 16.0, "heaters__1": DARK_BY_DAY}, "heat.night_cold"),
        ({"room__winter__day_c": 10.0, "heaters__1": WEAK_AND_DARK}, "heat.warm_air_cold"),
        ({"room__winter__humidity_percent": 30.0, "room__summer__humidity_percent": 32.0}, "moisture.dry"),
        ({"misting__grams_per_day": 200.0}, "moisture.wet"),
        ({"enclosure__width_m": 0.3}, "space.too_small"),
        ({"hides": []}, "moisture.no_humid_hide"),
        ({"ground__damp": True}, "moisture.wet"),
        ({"ground__depth_m": 0.02}, "ground.shallow"),
        ({"daylight__off": "23:00"}, "light.hours"),
        ({"uv_lamps__0__fitted": "2026-01-01"}, "uv.old"),
        ({"bowl": None}, "moisture.no_bowl"),
        ({"feeding__interval_days": 1}, "feed.too_often"),
    ],
)
def test_a_remedy_mends_its_finding(changes: dict[str, object], code: str) -> None:
    finding = next(item for item in assessed(**changes).findings if item.code == code)
    assert finding.remedy is not None
    assert finding.remedy.changes
    mended = read_data(apply(document(**changes), finding.remedy.changes))
    assert finding.id not in {item.id for item in assess(mended, find(mended.species), TODAY, depth=NO_DAYS).findings}


def test_the_remedy_for_a_cold_night_takes_the_heater_that_is_there() -> None:
    cold = assessed(room__winter__night_c=16.0, heaters__1=DARK_BY_DAY).findings
    remedy = next(item.remedy for item in cold if item.code == "heat.night_cold")
    assert remedy is not None
    assert all(change.path.startswith("heaters.1.") for change in remedy.changes)


def test_damp_room_air_is_not_blamed_on_the_vents() -> None:
    soaked = {"room__summer__humidity_percent": 95.0, "room__winter__humidity_percent": 95.0}
    remedy = next(item.remedy for item in assessed(**soaked).findings if item.code == "moisture.wet")
    assert remedy is not None
    assert remedy.code == "moisture.dry_the_room"


@given(
    taken=st.lists(st.tuples(st.floats(0.0, 1.2), st.floats(0.05, 0.3)), max_size=5),
    size=st.floats(0.05, 0.3),
    wanted=st.floats(0.0, 1.2),
)
def test_a_further_thing_is_placed_inside_and_clear_where_there_is_room(
    taken: list[tuple[float, float]], size: float, wanted: float
) -> None:
    place = free_place(tuple(taken), 1.2, size, wanted)
    assert size / 2 - 1e-9 <= place <= 1.2 - size / 2 + 1e-9
    if not taken:
        assert abs(place - min(max(wanted, size / 2), 1.2 - size / 2)) < 0.012
    crowded = any(abs(place - middle) < (width + size) / 2 - 1e-6 for middle, width in taken)
    room = [step / 200 for step in range(241) if size / 2 <= step / 200 <= 1.2 - size / 2]
    clear = [x for x in room if all(abs(x - middle) >= (width + size) / 2 + 0.012 for middle, width in taken)]
    assert not (crowded and clear)


def test_worst_first() -> None:
    order = [finding.severity for finding in assessed(heaters__0__height_m=0.25, hides=[], uv_lamps__0__fitted=None).findings]
    assert order == sorted(order, key=list(Severity).index)
    assert order[0] is Severity.DANGER


# ---- what a keeper sees change ----


def test_mesh_between_tube_and_animal_takes_its_share_of_the_index() -> None:
    """Common practice, no source: mesh multiplies the UV index; what comes at a slant loses a little more."""
    open_top = {"enclosure__lid": "open", "uv_lamps__0__height_m": 0.46}
    bare = assessed(**open_top).quantity("uv_back").value
    behind = assessed(**(open_top | {"enclosure__lid": "mesh"})).quantity("uv_back").value
    assert bare is not None
    assert behind is not None
    assert 0.94 * 0.65 * bare < behind < 0.65 * bare


def test_deeper_ground_brings_the_animal_nearer_to_lamp_and_tube() -> None:
    shallow, deep = assessed(ground__depth_m=0.05), assessed(ground__depth_m=0.10)
    assert (deep.quantity("uv_back").value or 0) > (shallow.quantity("uv_back").value or 0)


def test_the_solved_distance_of_the_tube_puts_the_index_in_the_middle() -> None:
    """Common practice, no source: at what lamp distance it would be right."""
    found = next(item for item in assessed(**OVER_MESH).findings if item.code == "uv.strong")
    assert found.remedy is not None
    mended = assess(
        read_data(apply(document(**OVER_MESH), found.remedy.changes)),
        find("african-fat-tailed-gecko"),
        TODAY,
        depth=NO_DAYS,
    )
    assert mended.quantity("uv_back").value == pytest.approx(0.55, abs=0.01)


def test_a_colder_room_is_a_colder_night_and_a_longer_lamp_day() -> None:
    mild, cold = assessed(), assessed(room__winter__day_c=16.0, room__winter__night_c=14.0)
    assert (cold.quantity("cool_air", "winter", "night").value or 0) < (mild.quantity("cool_air", "winter", "night").value or 0)
    assert (cold.quantity("heat_power", "winter", "day").value or 0) > (mild.quantity("heat_power", "winter", "day").value or 0)


def test_the_stage_sets_the_bands() -> None:
    """A hatchling is told other numbers than an adult."""
    young = assessed(animal={"hatched": (TODAY - timedelta(days=30)).isoformat()})
    assert young.body.decision.stage.id == "hatchling"
    assert young.menu.interval_days == 1


def test_an_unknown_length_makes_body_rules_unknown_and_asks() -> None:
    found = assessed(species="hermanns-tortoise", animal={"hatched": "2010-05-01"}, schools={})
    length = found.quantity("enclosure_length")
    assert length.verdict is Verdict.UNKNOWN
    assert length.question == "animal.length_m"
    assert "animal.length_unknown" in codes(found)


def test_floor_goes_by_shell_length_for_a_tortoise() -> None:
    """BML 1997 (recalled): 8 × 4 shell lengths."""
    found = assessed(species="hermanns-tortoise", animal={"length_m": 0.10}, schools={})
    assert found.quantity("enclosure_length").band.low == pytest.approx(0.8)  # type: ignore[union-attr]
    assert found.quantity("enclosure_width").band.low == pytest.approx(0.4)  # type: ignore[union-attr]


# ---- editing and proposing ----


def test_apply_leaves_the_original_alone_and_refuses_nowhere() -> None:
    before = document()
    after = apply(
        before,
        (Change("heaters.0.watts", 40.0), Change("things.5", {"kind": "hide", "x_m": 0.2, "length_m": 0.1, "height_m": 0.1})),
    )
    assert (before["heaters"][0]["watts"], after["heaters"][0]["watts"], len(after["things"])) == (75.0, 40.0, 6)
    with pytest.raises(KeyError):
        apply(before, (Change("heaters.7.watts", 40.0),))


def test_a_smaller_box_takes_its_parts_with_it() -> None:
    before = document(enclosure__lid="mesh", uv_lamps__0__height_m=0.45)
    smaller = refit(before, apply(before, (Change("enclosure.length_m", 0.9), Change("enclosure.height_m", 0.4))))
    checked = read_data(smaller)
    assert checked.hides[2].x_m == 0.9
    assert checked.uv_lamps[0].height_m == 0.4  # it stood on the lid and stays on it


ROOM = RoomClimate(
    summer=RoomCase(day_c=24, night_c=21, humidity_percent=55), winter=RoomCase(day_c=20, night_c=18, humidity_percent=45)
)


# Each takes a second: every stage of some that differ most, one stage of every other, in turn.
WHOLE = {"leopard-gecko", "hermanns-tortoise", "reticulated-python", "axolotl", "veiled-chameleon", "chinese-water-dragon"}


@pytest.mark.sweep
@pytest.mark.parametrize(("place", "profile"), some(enumerate(shipped().values()), 8, 1), ids=some(shipped(), 8, 1))
def test_a_proposed_plan_is_valid_large_enough_and_safe_for_its_stage(place: int, profile: Profile) -> None:
    for stage in profile.stages if profile.id in WHOLE else [profile.stages[place % len(profile.stages)]]:
        bounds = stage.bounds(stage.leads)
        measure = 0.8 * bounds.high if bounds.low is None else 1.3 * bounds.low if bounds.high is None else bounds.middle
        grams = measure if stage.leads == "mass" else None
        cm = measure if stage.leads == "length" else None
        age = timedelta(days=measure * 30.4) if stage.leads == "age" else None
        animal = Animal(
            mass_kg=None if grams is None else grams / 1000,
            length_m=None if cm is None else cm / 100,
            hatched=None if age is None else TODAY - age,
        )
        made = read_data(propose("first", profile, animal, ROOM, TODAY).model_dump(mode="json"))
        found = assess(made, profile, TODAY, depth=NO_DAYS)
        assert found.body.decision.stage.id == stage.id
        # What lives in the cold is in danger in this room whatever is built: that must be said, and nothing else.
        too_warm = ROOM.summer.day_c >= stage.heat.ceiling_c.value
        dangers = {item.code for item in found.findings if item.severity is Severity.DANGER}
        assert dangers <= (
            {"heat.ceiling", "heat.warm_air_hot", "heat.cool_air_hot", "heat.night_warm", "water.warm"} if too_warm else set()
        )
        assert "space.too_small" not in codes(found)
        assert not codes(found) & {"moisture.no_bowl", "water.none", "space.hides", "heat.unguarded"}
        # A pen as large as a room is heated with its room.
        assert "heat.night_cold" not in codes(found) or made.enclosure.length_m * made.enclosure.width_m > 4
        if stage.heat.basking_surface_c:
            assert found.quantity("basking_surface", "winter", "day").verdict in (Verdict.INSIDE, Verdict.NEAR)
