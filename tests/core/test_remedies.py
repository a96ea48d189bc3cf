"""What is offered was tried: it mends its finding, adds no danger, and whoever presses on comes to an end."""

import itertools
import math
from dataclasses import replace
from functools import cache
from typing import Any

import pytest

from husbandry.animal.body import body_of
from husbandry.assess import vetting
from husbandry.assess.assess import NO_DAYS, NO_RECORDS, Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import Judge, advise, applied, kind_of, vetted, weight, worsens
from husbandry.assess.warmth import main_heater
from husbandry.assessment import Change, Finding, Remedy, Severity, Verdict
from husbandry.climate.hang import surface_at
from husbandry.codes import FindingCode, RemedyCode
from husbandry.design import mounting
from husbandry.design.first_proposal import propose
from husbandry.design.misting_week import Mistings, mistings, week
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.geometry import highest_m, y_of
from husbandry.plan.habitat import Animal, HabitatPlan, RoomClimate
from husbandry.plan.reading import read_data
from husbandry.remedies import heating
from husbandry.remedies.second_pass import PROPOSERS
from husbandry.species.book import find, shipped
from husbandry.species.profile import Profile
from tests.plans import TODAY, assessed, assessed_as, document, plan
from tests.sample import some

GRAVE = (Severity.DANGER, Severity.WRONG)
# (day °C, humidity %): cold and dry, hot and wet, usual.
ROOMS = ((17.0, 30.0), (29.0, 70.0), (21.0, 45.0))


def room(day_c: float, percent: float) -> RoomClimate:
    case = {"day_c": day_c, "night_c": day_c - 2, "humidity_percent": percent}
    return RoomClimate.model_validate({"summer": case, "winter": case})


def spoilt(profile: Profile, day_c: float, percent: float) -> HabitatPlan:
    """A first plan as somebody builds it with what is at hand: stronger heaters, no thermostats, no hides."""
    animal = Animal(length_m=profile.body.adult_length_cm.middle / 100)
    made = propose("Spoilt", profile, animal, room(day_c, percent), TODAY).model_dump(mode="json")
    for heater in made["heaters"]:
        heater |= {"thermostat": {"kind": "none"}, "watts": min(1.5 * heater["watts"], 240.0)}
    return read_data(made | {"things": [thing for thing in made["things"] if "hide" not in thing["kind"]]})


def first_button(made: HabitatPlan, profile: Profile, found: Assessment) -> tuple[Remedy | None, list[Finding]]:
    """The first finding's button that holds, and the findings tried up to it: where there is none, all of them."""
    judge, tried = Judge(made, profile, found), []
    for item in found.findings:
        tried.append(judge.vetted(item))
        remedy = tried[-1].remedy
        if remedy is not None and remedy.changes:
            return remedy, tried
    return None, tried


@pytest.mark.sweep
@pytest.mark.parametrize("place", some(range(len(shipped())), 11, 1))
def test_pressing_the_first_button_until_none_is_left_ends_and_nothing_is_worse(place: int) -> None:
    profile = list(shipped().values())[place]
    made = spoilt(profile, *ROOMS[place % len(ROOMS)])
    found = begun = assess(made, profile, TODAY, depth=NO_DAYS)
    for _press in range(40):
        remedy, tried = first_button(made, profile, found)
        if remedy is None:
            break
        made = read_data(applied(made, remedy.changes))
        after = assess(made, profile, TODAY, depth=NO_DAYS)
        assert weight(after.findings) < weight(found.findings), remedy
        found = after
    else:
        pytest.fail("it never ends")
    before: dict[tuple[str, str], int] = {}
    for item in begun.findings:
        before[kind_of(item)] = min(list(Severity).index(item.severity), before.get(kind_of(item), 9))
    worse = [
        item.id
        for item in found.findings
        if item.severity in GRAVE and list(Severity).index(item.severity) < before.get(kind_of(item), 9)
    ]
    assert worse == []
    for item in tried:
        if item.severity is Severity.DANGER:
            assert item.remedy is not None, item.id  # a way out, or why none


@pytest.mark.sweep
def test_a_button_that_would_boil_the_boa_is_not_offered() -> None:
    """A grown rainbow boa in a 19 °C room: a 360 W heater took the air to 42.7 °C, where 29.4 is the most it bears."""
    profile = find("brazilian-rainbow-boa")
    made = propose("Boa", profile, Animal(mass_kg=1.9, length_m=1.7), room(19.0, 50.0), TODAY)
    before = {item.id for item in assess(made, profile, TODAY, depth=NO_DAYS).findings if item.severity is Severity.DANGER}
    for item in advise(made, profile, TODAY, days_of=()).findings:
        if item.remedy is not None and item.remedy.changes:
            after = assess(read_data(applied(made, item.remedy.changes)), profile, TODAY, depth=NO_DAYS)
            assert {one.id for one in after.findings if one.severity is Severity.DANGER} <= before


def test_what_adds_a_danger_worsens_however_much_it_mends() -> None:
    cold = plan(room__winter__night_c=10.0)
    before = assess(cold, find(cold.species), TODAY, depth=NO_DAYS)
    oven = {"kind": "ceramic-emitter", "watts": 150.0, "x_m": 1.0, "height_m": 0.4, "on": "00:00", "off": "00:00", "guarded": True}
    after = assess(read_data(applied(cold, (Change("heaters.1", oven),))), find(cold.species), TODAY, depth=NO_DAYS)
    assert worsens(before, after)
    assert not worsens(before, assess(plan(), find(cold.species), TODAY, depth=NO_DAYS))


def test_a_change_that_leaves_no_plan_is_not_offered() -> None:
    made = plan(bowl=None)
    found = assess(made, find(made.species), TODAY, depth=NO_DAYS)
    broken = tuple(
        replace(
            item,
            remedy=Remedy(
                RemedyCode.MOISTURE_ADD_BOWL,
                {},
                (Change("things.4", {"kind": "bowl", "x_m": 9.0, "length_m": 0.1, "height_m": 0.03}),),
            ),
        )
        if item.code == "moisture.no_bowl"
        else item
        for item in found.findings
    )
    kept = vetted(made, find(made.species), replace(found, findings=broken)).findings
    assert next(item.remedy for item in kept if item.code == "moisture.no_bowl") == Remedy(RemedyCode.NONE_TRIED)


def test_the_lamp_is_what_is_hung_for_the_spot_and_not_the_emitter_that_holds_the_air() -> None:
    emitter = {
        "kind": "ceramic-emitter", "watts": 150.0, "x_m": 0.26, "height_m": 0.3, "guarded": True,
        "thermostat": {"kind": "pulse", "set_c": 29.0, "probe": "warm-air"},
    }  # fmt: skip
    weak = document(heaters__0__watts=25.0, heaters__0__thermostat={"kind": "none"})["heaters"][0]
    both = plan(heaters=[emitter, weak])
    assert main_heater(enclosure_case(both)) == 1
    assert main_heater(enclosure_case(plan(heaters=[emitter]))) == 0  # where there is no lamp it is what warms the spot


@pytest.mark.parametrize("watts", [20.0, 40.0, 75.0, 150.0])
@pytest.mark.parametrize("x_m", [0.26, 0.42])
def test_the_right_height_of_a_lamp_is_right_and_why_there_is_none_is_true(watts: float, x_m: float) -> None:
    """Straight over the stone and aside of it: what is said of the height is found again by solving at that height."""
    made = plan(heaters__0__watts=watts, heaters__0__x_m=x_m, heaters__0__thermostat={"kind": "none"}, heaters__0__height_m=0.38)
    case, top = enclosure_case(made), highest_m(made)
    quantity = assess(made, find(made.species), TODAY, depth=NO_DAYS).quantity("lamp_distance")
    right = quantity.reason.parameters.get("right")
    lowest = case.spot.top_m + 0.10
    heights = [lowest + (top - lowest) * step / 12 for step in range(13)]
    surfaces = [surface_at(case, (0,), height, "winter") for height in heights]
    if quantity.reason.code == "heat.hang":
        assert surface_at(case, (0,), right.value + case.spot.top_m, "winter") == pytest.approx(33.0, abs=0.3)  # type: ignore[union-attr]
    elif quantity.reason.code == "heat.hang_hot":
        assert surfaces[-1] > 33.0
    else:
        assert max(surfaces) < 33.3


def test_a_mat_alone_that_is_too_hot_is_no_reason_for_a_lamp() -> None:
    mat = {"kind": "mat", "watts": 60.0, "x_m": 0.26, "height_m": 0.01, "length_m": 0.4, "on": "00:00", "off": "00:00"}
    hot = plan(heaters=[mat], room__summer__day_c=34.0, room__winter__day_c=34.0)
    for item in assess(hot, find(hot.species), TODAY, depth=NO_DAYS).findings:
        if item.code == "heat.basking_hot":
            assert item.remedy is None or item.remedy.code != "heat.add_basking_heater"


@pytest.mark.parametrize("season", ["summer", "winter"])
def test_mistings_that_are_offered_never_hold_the_day_worse_than_what_there_is(season: str) -> None:
    made = plan(misting={"grams_per_day": 60.0}, room__winter__humidity_percent=35.0)
    stage = body_of(made, find(made.species), TODAY).decision.stage
    found = mistings(made, stage, season)
    if isinstance(found, Mistings):
        held = assess(made, find(made.species), TODAY, depth=Depth(days_of=(season,))).quantity("humidity_held", season).value
        assert found.share * 100 > (held or 0.0)


@pytest.mark.parametrize("summer_percent", [60.0, 80.0])
def test_a_season_that_is_wrong_already_excuses_no_other_that_becomes_so(summer_percent: float) -> None:
    """A muggy summer has the hide too wet at night; a misting that does the same to dry winters is no way out either."""
    made = plan(room__summer__humidity_percent=summer_percent, room__winter__humidity_percent=35.0)
    soaked = (Change("misting", {"winter": {"times": [{"at": "10:30", "grams": 120}, {"at": "16:30", "grams": 120}]}}),)
    profile = find(made.species)
    before, after = (assess(item, profile, TODAY, depth=NO_DAYS) for item in (made, read_data(applied(made, soaked))))
    assert before.quantity("humid_hide", "winter", "night").verdict is not Verdict.OUTSIDE
    assert after.quantity("humid_hide", "winter", "night").verdict is Verdict.OUTSIDE
    assert not vetting.harmless(made, profile, TODAY, soaked)
    assert vetting.harmless(made, profile, TODAY, ())


def test_each_season_has_its_own_misting() -> None:
    dry_winter: dict[str, Any] = {"room__winter__humidity_percent": 28.0}
    made = plan(**dry_winter)
    misted = plan(**dry_winter, misting={"winter": {"grams_per_day": 80.0}})
    before, after = (assess(item, find(item.species), TODAY, depth=NO_DAYS) for item in (made, misted))
    assert (after.quantity("cool_humidity", "winter", "day").value or 0) > (
        before.quantity("cool_humidity", "winter", "day").value or 0
    ) + 5
    summers = [found.quantity("cool_humidity", "summer", "day").value for found in (after, before)]
    assert summers[0] == pytest.approx(summers[1], abs=1e-3)
    assert week(misted, "winter").misted_kg > 0 == week(misted, "summer").misted_kg


def test_what_is_wrong_in_winter_does_not_hide_what_is_wrong_in_summer() -> None:
    both = assess(
        plan(room__summer__day_c=38.0, room__winter__day_c=8.0, heaters=[]),
        find("african-fat-tailed-gecko"),
        TODAY,
        depth=NO_DAYS,
    )
    told = {(item.code, item.parameters.get("season")) for item in both.findings}
    assert {("heat.cool_air_hot", "summer"), ("heat.cool_air_cold", "winter")} <= told
    ids = [item.id for item in both.findings]
    assert len(ids) == len(set(ids))


def test_no_way_to_hang_a_lamp_brings_a_danger() -> None:
    made = plan(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=60.0)
    profile = find(made.species)
    before = {item.id for item in assess(made, profile, TODAY, depth=NO_DAYS).findings if item.severity is Severity.DANGER}
    for way in mounting.ways(made, profile, TODAY):
        if way.changes:
            after = assess(read_data(applied(made, way.changes)), profile, TODAY, depth=NO_DAYS)
            assert {item.id for item in after.findings if item.severity is Severity.DANGER} <= before


def test_a_way_that_only_cools_is_no_danger_because_the_summer_stays_one() -> None:
    """Full on it is dangerous all year; dimmed in the hot summer alone. That is less, though what is found is named anew."""
    made = plan(heaters__0__thermostat={"kind": "none"}, room__summer__day_c=36.0, room__summer__night_c=26.0)
    dimmed = next(way for way in mounting.ways(made, find(made.species), TODAY) if way.code == "dim")
    assert dimmed.refused is None
    profile = find(made.species)
    before, after = (assess(item, profile, TODAY, depth=NO_DAYS) for item in (made, read_data(applied(made, dimmed.changes))))
    assert not vetting.endangers(before, after)
    assert vetting.endangers(after, before)


def test_a_heater_that_gives_nothing_is_not_lowered() -> None:
    """A warm room and an emitter held at nothing: the room is what can be changed, and no set point is."""
    idle = {
        "kind": "ceramic-emitter",
        "watts": 60.0,
        "x_m": 0.7,
        "height_m": 0.4,
        "guarded": True,
        "on": "00:00",
        "off": "00:00",
        "thermostat": {"kind": "pulse", "set_c": 22.0, "probe": "cool-air"},
    }
    hot = {
        "summer": {"day_c": 33.0, "night_c": 31.0, "humidity_percent": 50.0},
        "winter": {"day_c": 22.0, "night_c": 20.0, "humidity_percent": 50.0},
    }
    made = plan(heaters=[idle], room=hot)
    found = advise(made, find(made.species), TODAY, days_of=())
    assert found.quantity("heat_power", "summer", "night").value == pytest.approx(0.0, abs=0.1)
    warm = [
        item
        for item in found.findings
        if item.code in ("heat.night_warm", "heat.warm_air_hot", "heat.cool_air_hot", "heat.basking_hot")
    ]
    assert warm
    for item in warm:
        assert item.remedy is not None
        assert item.remedy.code == "heat.cool_the_room", item.id


@pytest.mark.sweep
@pytest.mark.parametrize("place", some(range(0, len(shipped()), 4), 4))
def test_a_glance_finds_what_a_whole_look_finds(place: int) -> None:
    """The list leaves out days, heights and proposals: what is found stays the same, in the same words and numbers."""
    profile = list(shipped().values())[place]
    made = spoilt(profile, *ROOMS[place % len(ROOMS)])
    whole = assess(made, profile, TODAY, depth=Depth(days_of=("winter",)))
    glance = assess(made, profile, TODAY, depth=Depth(days_of=(), hanging=False, propose=False))
    told = [[(item.id, item.severity, item.parameters) for item in found.findings] for found in (whole, glance)]
    assert told[0] == told[1]


@pytest.mark.sweep
@pytest.mark.parametrize("species", ["royal-python", "brazilian-rainbow-boa", "argentine-tegu", "savanna-monitor"])
def test_a_first_plan_exchanges_no_danger_for_another(species: str) -> None:
    """In a cold room heat enough for the night may be too much near its heater: then the cold is told, and nothing is cooked."""
    made = propose("Cold", find(species), Animal(), room(19.0, 50.0), TODAY)
    found = assess(made, find(species), TODAY, depth=Depth(days_of=(), spread=False))
    assert not any(item.code == "heat.ceiling" for item in found.findings)


def test_nothing_is_worked_out_for_what_was_not_found(monkeypatch: pytest.MonkeyPatch) -> None:
    """A plan in order asks no solver for remedies; a cold night asks it how strong a heater must be."""
    asked: list[str] = []
    real = heating.predict

    def counted(*given: Any, **more: Any) -> Any:
        asked.append("predict")
        return real(*given, **more)

    monkeypatch.setattr(heating, "predict", counted)
    good = assessed()
    assert not any(item.severity in (Severity.DANGER, Severity.WRONG) for item in good.findings)
    assert asked == []
    cold = assessed(room__winter__night_c=4.0, heaters=[])
    assert any(item.code == "heat.night_cold" and item.remedy is not None and item.remedy.changes for item in cold.findings)
    assert asked


def test_asked_for_one_code_only_that_one_is_worked_upon() -> None:
    made = plan(room__winter__night_c=4.0, heaters=[], bowl=None)
    profile, asked = find(made.species), FindingCode.HEAT_NIGHT_COLD
    every, one = (assess(made, profile, TODAY, depth=Depth(days_of=(), only=only)).findings for only in (None, frozenset({asked})))
    offered = [{item.code: item.remedy for item in found if item.remedy and item.code in PROPOSERS} for found in (every, one)]
    assert len(offered[0]) > 1
    assert offered[1] == {asked: offered[0][asked]}


def test_every_finding_that_is_worked_upon_is_about_its_number() -> None:
    """What a remedy asks of its quantity is there: the finding names it."""
    found = assessed(room__winter__night_c=4.0, room__summer__day_c=36.0, heaters=[]).findings
    about = {item.code: item.about for item in found if item.code.startswith("heat.") and item.code in PROPOSERS}
    assert about
    assert all("/" in name for name in about.values())


def test_the_quick_way_alone_offers_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    """Where the quick look holds something mended that the whole reckoning does not, it is not offered."""
    made = plan(room__winter__night_c=4.0, heaters=[])
    profile = find(made.species)
    found = assess(made, profile, TODAY, depth=NO_DAYS)
    cold = next(item for item in found.findings if item.code == "heat.night_cold")
    useless = Remedy(RemedyCode.HEAT_LESS_HEAT, {}, (Change("name", "Another name"),))
    mended = replace(found, findings=tuple(item for item in found.findings if item is not cold))
    judge = vetting.Judge(made, profile, found, NO_RECORDS)
    monkeypatch.setattr(judge, "trial", lambda changes, through_the_day=False: mended if changes else found)
    assert not judge.offers(cold, useless)


@pytest.mark.parametrize(("tube_m", "finding"), [(1.45, FindingCode.UV_COVERS_MUCH), (0.23, FindingCode.UV_COVERS_LITTLE)])
def test_a_tube_that_lights_too_much_or_too_little_is_exchanged_by_its_button(tube_m: float, finding: FindingCode) -> None:
    """Common practice, no source: a third to two thirds of the length is lit, and there is a place in the shade."""
    profile = find("uromastyx")
    proposed = propose("Tube", profile, Animal(length_m=0.19), room(24.0, 30.0), TODAY)
    lamp = proposed.uv_lamps[0].model_copy(update={"tube_m": tube_m, "x_m": max(0.3, tube_m / 2)})
    made = proposed.model_copy(update={"uv_lamps": (lamp,)})
    said = next(item for item in advise(made, profile, TODAY).findings if item.code == finding)
    assert said.remedy is not None
    assert said.remedy.changes
    after = assess(HabitatPlan.model_validate(applied(made, said.remedy.changes)), profile, TODAY, depth=NO_DAYS)
    assert finding not in {item.code for item in after.findings}
    assert after.quantity("uv_coverage").verdict is Verdict.INSIDE
    assert after.quantity("uv_back").verdict is Verdict.INSIDE


@cache
def _of_gauze() -> tuple[HabitatPlan, Profile]:
    profile = find("veiled-chameleon")
    return propose("Gauze", profile, Animal(mass_kg=0.15), room(22.0, 50.0), TODAY, (0.6, 0.6, 1.2)), profile


def on_the_gauze(lower_m: float, **tube: Any) -> tuple[HabitatPlan, Profile]:
    """A chameleon's first plan in a cage of gauze, its branch lowered, its one tube changed."""
    made, profile = _of_gauze()
    things = tuple(
        thing.model_copy(update={"up_m": round(thing.up_m - lower_m, 3)}) if thing.basking else thing for thing in made.things
    )
    assert made.enclosure.kind == "mesh"
    return made.model_copy(update={"things": things, "uv_lamps": (made.uv_lamps[0].model_copy(update=tube),)}), profile


@pytest.mark.parametrize(
    ("lower_m", "tube", "finding", "remedy"),
    [
        (0.0, {"kind": "slim-14", "tube_m": 0.55, "x_m": 0.275}, FindingCode.UV_COVERS_MUCH, RemedyCode.UV_TAKE_LENGTH),
        (-0.05, {"kind": "slim-12", "tube_m": 0.55, "x_m": 0.275}, FindingCode.UV_COVERS_MUCH, RemedyCode.UV_TAKE_OTHER),
        (0.0, {"tube_m": 0.23}, FindingCode.UV_WEAK, RemedyCode.UV_TAKE_OTHER),
        (0.06, {}, FindingCode.UV_WEAK, RemedyCode.UV_PLATFORM_AT),
    ],
)
def test_a_tube_on_the_gauze_stays_outside_of_it(
    lower_m: float, tube: dict[str, Any], finding: FindingCode, remedy: RemedyCode
) -> None:
    """Common practice, no source: a chameleon climbs onto whatever hangs inside, and is burnt by it."""
    made, profile = on_the_gauze(lower_m, **tube)
    said = next(item for item in advise(made, profile, TODAY, days_of=()).findings if item.code == finding)
    assert said.remedy is not None
    assert said.remedy.code == remedy
    after = HabitatPlan.model_validate(applied(made, said.remedy.changes))
    assert all(lamp.height_m >= after.enclosure.height_m for lamp in after.uv_lamps)
    judged = assess(after, profile, TODAY, depth=NO_DAYS)
    assert judged.quantity("uv_back").verdict is Verdict.INSIDE
    assert finding not in {item.code for item in judged.findings}


def test_a_tube_over_the_lid_that_does_not_reach_the_ground_is_said_to_go_inside() -> None:
    """Common practice, no source: for what stays on the ground a tube hangs below the mesh; whoever hangs it is told so."""
    profile = find("uromastyx")
    made = propose("Ground", profile, Animal(length_m=0.19), room(26.0, 60.0), TODAY, (1.2, 0.6, 0.6))
    box = made.enclosure.model_copy(update={"kind": "glass", "lid": "mesh"})
    lamp = made.uv_lamps[0].model_copy(update={"height_m": box.height_m, "kind": "slim-12"})
    high = made.model_copy(update={"enclosure": box, "uv_lamps": (lamp,)})
    said = next(item for item in advise(high, profile, TODAY, days_of=()).findings if item.code == FindingCode.UV_WEAK)
    assert said.remedy is not None
    assert said.remedy.code == RemedyCode.UV_HANG_INSIDE
    after = HabitatPlan.model_validate(applied(high, said.remedy.changes))
    assert after.uv_lamps[0].height_m < box.height_m
    assert assess(after, profile, TODAY, depth=NO_DAYS).quantity("uv_back").verdict is Verdict.INSIDE


def test_a_band_that_is_left_already_is_left_no_farther_for_something_slight() -> None:
    """Common practice, no source: in a warm room a chameleon's day is too moist, its night a bit too dry; water helps one only."""
    profile = find("veiled-chameleon")
    summer = {"day_c": 25.0, "night_c": 21.0, "humidity_percent": 55.0}
    winter = {"day_c": 20.0, "night_c": 15.6, "humidity_percent": 40.0}
    in_room = RoomClimate.model_validate({"summer": summer, "winter": winter})
    made = propose("Gauze", profile, Animal(mass_kg=0.15), in_room, TODAY)
    found = assess(made, profile, TODAY, depth=NO_DAYS)
    slight = next(item for item in found.findings if item.code == FindingCode.MOISTURE_DRY)
    assert slight.severity is Severity.ADVICE
    assert found.quantity("cool_humidity", "summer", "day").verdict is Verdict.OUTSIDE
    more = (Change("misting.grams_per_day", made.misting.grams_per_day + 75.0),)
    judge = Judge(made, profile, found)
    after = judge.trial(more)
    assert after is not None
    assert weight(after.findings) < weight(found.findings)
    assert worsens(found, after, slight)
    said = vetted(made, profile, found)
    for item in said.findings:
        assert item.code != FindingCode.MOISTURE_DRY or item.remedy is None or not item.remedy.changes


def test_what_comes_within_a_hair_of_a_danger_is_not_offered() -> None:
    """A ceiling of 35 °C at 34.999: worked out from another beginning it is 35.001."""
    found = assessed()

    def hottest(value_c: float) -> Assessment:
        return replace(
            found,
            quantities=tuple(
                replace(item, value=value_c, band=replace(item.band, danger_high=35.0))
                if item.key == "hottest_air" and item.band
                else item
                for item in found.quantities
            ),
        )

    assert vetting.verges(hottest(34.9), hottest(34.999))
    assert vetting.verges(hottest(34.995), hottest(34.999))
    assert not vetting.verges(hottest(34.999), hottest(34.995))
    assert not vetting.verges(hottest(34.9), hottest(34.95))
    assert not vetting.verges(hottest(34.9), hottest(36.0))  # that is a danger, and seen as one


@pytest.mark.parametrize("species", ["leopard-gecko", "rosy-boa"])
def test_lamps_of_a_first_plan_hang_clear_of_each_other(species: str) -> None:
    """Two domes of ten centimetres do not hang in one place, and no lead lies at another's face."""
    made = propose("Lamps", find(species), Animal(hatched=TODAY.replace(year=2022)), room(21.0, 45.0), TODAY)
    places = [(lamp.x_m, y_of(made, lamp), lamp.height_m) for lamp in made.heaters if lamp.hangs]
    assert len(places) > 1
    assert all(math.dist(one, other) >= 0.15 for one, other in itertools.combinations(places, 2))


def test_hides_of_a_first_plan_stand_clear_of_its_lamp_and_are_all_there() -> None:
    """A skink in 4 × 2 ft (trade): its hides are as high as a hand, and the lamp hangs two hands over the floor beside them."""
    for species, sides in (("blue-tongued-skink", (1.22, 0.61, 0.46)), ("uromastyx", (1.22, 0.61, 0.46))):
        profile = find(species)
        made = propose("Hides", profile, Animal(hatched=TODAY.replace(year=2022)), room(22.0, 45.0), TODAY, sides)
        found = assess(made, profile, TODAY, depth=NO_DAYS)
        assert not {FindingCode.SPACE_HIDES, FindingCode.SPACE_HIDE_UNDER_LAMP} & {item.code for item in found.findings}, species
        assert len(made.hides) >= 2


def test_hides_are_not_put_into_the_water_for_want_of_land() -> None:
    profile = find("chinese-water-dragon")
    made = propose("Land", profile, Animal(hatched=TODAY.replace(year=2022)), room(22.0, 50.0), TODAY, (1.22, 0.61, 0.46))
    assert FindingCode.SPACE_IN_POOL not in {item.code for item in assess(made, profile, TODAY, depth=NO_DAYS).findings}


def test_what_holds_the_air_is_no_lamp_that_could_be_stronger() -> None:
    """A dark emitter on the air's thermostat, and nothing over the basking place: a lamp is wanted, not a stronger emitter."""
    emitter = {"kind": "ceramic-emitter", "watts": 60.0, "x_m": 0.26, "height_m": 0.4, "guarded": True, "holder": "ceramic"}
    held = {"kind": "pulse", "set_c": 26.0, "probe": "warm-air"}
    made = plan(heaters=[emitter | {"thermostat": held}])
    finding = next(item for item in assessed_as(made).findings if item.code == FindingCode.HEAT_BASKING_COLD)
    assert finding.remedy is not None
    assert finding.remedy.code == RemedyCode.HEAT_ADD_BASKING_HEATER
