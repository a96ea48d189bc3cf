"""Suggested rigs and lamps hung right: what they promise is what the assessment finds, and no caution is broken."""

from dataclasses import replace
from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Band, Basis, BasisKind, Measure, Quantity, Reason, Severity
from husbandry.climate.heaters import HEATERS, HOLDERS
from husbandry.codes import ReasonCode
from husbandry.design import mounting, rigs
from husbandry.design.first_proposal import propose
from husbandry.design.rig import HELD_APART, Progress, Rig, RigsFound, why
from husbandry.design.rig_scoring import FORBIDDEN
from husbandry.plan.editing import apply
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.placement import check_places
from husbandry.review.warmth import CLOSEST_HEATER_M
from husbandry.species.book import find
from tests.plans import TODAY, plan

COOL = RoomClimate(
    summer=RoomCase(day_c=23, night_c=20, humidity_percent=50), winter=RoomCase(day_c=18, night_c=15, humidity_percent=45)
)
ANIMALS = {
    "uromastyx": Animal(length_m=0.22, mass_kg=0.4),
    "leopard-gecko": Animal(length_m=0.13, mass_kg=0.06),
    "axolotl": Animal(length_m=0.24),
}


def searched(made: HabitatPlan) -> tuple[list[Progress], RigsFound]:
    steps = list(rigs.search(made, find(made.species), TODAY))
    found = steps[-1]
    assert isinstance(found, RigsFound)
    return [step for step in steps if isinstance(step, Progress)], found


@pytest.mark.sweep
@pytest.mark.parametrize("species", sorted(ANIMALS))
def test_a_rig_holds_what_it_promises_and_breaks_no_caution(species: str) -> None:
    """Assessed like any plan: its chances are the assessment's; the rules of control and distance are kept."""
    made = propose("rig", find(species), ANIMALS[species], COOL, TODAY)
    steps, found = searched(made)
    assert found.rigs
    assert [step.done for step in steps] == sorted(step.done for step in steps)
    assert all(0 < step.done <= step.of for step in steps)
    chances = [rig.likely for rig in found.rigs]
    assert chances[0] >= max(chances) - HELD_APART
    kinds = [tuple(heater.kind for heater in rig.plan.heaters) for rig in found.rigs]
    assert len(set(kinds)) == len(kinds)
    assert len(found.rigs) == 1 or next(iter(found.why)).code.startswith("rig.")
    for rig in found.rigs:
        assert check_places(rig.plan) == []
        keeps_the_cautions(rig.plan)
    whole = assess(found.rigs[0].plan, find(species), TODAY, depth=NO_DAYS)
    for item in whole.quantities:
        if item.id in found.rigs[0].chances:
            assert item.likely == pytest.approx(found.rigs[0].chances[item.id], abs=1e-9)
    wrong = [item.code for item in whole.findings if item.severity in (Severity.DANGER, Severity.WRONG)]
    assert not set(wrong) & set(FORBIDDEN)


def keeps_the_cautions(made: HabitatPlan) -> None:
    """Each kind on what suits it, no light by night, guarded inside, off the spot, within what its holder carries."""
    for heater in made.heaters:
        kind = HEATERS[heater.kind]
        assert heater.thermostat.kind in kind.controls
        assert not heater.holder or heater.watts <= HOLDERS[heater.holder]
        if kind.light:
            assert not heater.runs_at(made.daylight.middle_of_dark)
        if kind.place == "over" and heater.height_m < made.enclosure.height_m:
            assert heater.guarded
        if kind.place == "over" and made.platform is not None and heater.x_m == pytest.approx(made.platform.x_m, abs=0.01):
            assert heater.height_m - made.ground.depth_m - made.platform.height_m >= CLOSEST_HEATER_M


@pytest.mark.sweep
def test_an_obvious_lamp_that_fails_says_why() -> None:
    made = propose("rig", find("uromastyx"), ANIMALS["uromastyx"], COOL, TODAY)
    _steps, found = searched(made)
    weak = [item for item in found.refused if item.reason.code == "rig.too_weak"]
    assert weak
    for item in weak:
        reached, wanted = item.reason.parameters["reached"], item.reason.parameters["wanted"]
        assert isinstance(reached, Measure)
        assert isinstance(wanted, Measure)
        assert reached.value < wanted.value


def test_a_room_too_hot_for_any_rig_is_told_how_cool_it_must_be() -> None:
    """The inside follows the room degree by degree: in the room it asks for, the cool end holds."""
    hot = plan(room__summer__day_c=32.0, room__summer__night_c=27.0)
    _steps, found = searched(hot)
    unmet = [item for item in found.unmet if item.code == "rig.unmet_hot" and item.parameters["quantity"] == "cool_air"]
    by_day = next(item for item in unmet if item.parameters["phase"] == "day")
    cooler = by_day.parameters["cooler"]
    assert isinstance(cooler, Measure)
    assert cooler.value < 32.0
    rig = found.rigs[0].plan.model_copy(update={"room": plan(room__summer__day_c=cooler.value).room})
    answer = assess(rig, find(hot.species), TODAY, depth=NO_DAYS).quantity("cool_air", "summer", "day")
    assert answer.band is not None
    assert answer.value == pytest.approx(answer.band.high, abs=0.2)


def rig(likely: float, kwh: float, water_c: float) -> Rig:
    band = Band(14.0, 18.0, Basis(BasisKind.PRACTICE))
    water = Quantity(
        "water_temperature",
        "degC",
        water_c,
        band.judge(water_c),
        Reason(ReasonCode.RIG_NONE),
        band.basis,
        band,
        season="summer",
        phase="day",
    )
    return Rig(plan(), likely, {water.id: likely}, {"summer": kwh, "winter": kwh}, (water,))


@pytest.mark.parametrize(
    ("best", "next_", "code"),
    [
        (rig(0.9, 1.0, 16.0), rig(0.89, 1.0, 16.2), "rig.alike"),
        (rig(0.9, 1.0, 16.0), rig(0.5, 0.5, 17.0), "rig.likelier"),
        # All at once neither is likely; of one band that is likely to hold the next has none.
        (replace(rig(0.02, 1.0, 16.0), chances={"a": 0.8}), replace(rig(0.02, 1.0, 16.0), chances={"a": 0.6}), "rig.likelier"),
        (rig(0.9, 1.0, 16.0), rig(0.89, 2.0, 16.0), "rig.less_energy"),
        # An axolotl in a hot room: neither with a weak chiller nor without one is as good as anything.
        (rig(0.0, 1.0, 22.0), rig(0.0, 0.0, 28.0), "rig.nearer"),
        (rig(0.0, 0.0, 28.0), rig(0.0, 0.0, 28.0), "rig.none_holds"),
    ],
)
def test_the_next_is_as_good_only_where_it_is(best: Rig, next_: Rig, code: str) -> None:
    (said,) = why([best, next_])
    assert said.code == code


# ---- hang this lamp right ----


def ways(**changes: Any) -> dict[str, mounting.Way]:
    made = plan(**changes)
    return {way.code: way for way in mounting.ways(made, find(made.species), TODAY)}


BARE = {"heaters__0__thermostat": {"kind": "none"}, "heaters__0__watts": 60.0}


def surface(way: mounting.Way) -> float:
    item = next(item for item in way.numbers if (item.key, item.season) == ("basking_surface", "winter"))
    assert item.value is not None
    return item.value


def test_every_way_of_hanging_a_lamp_that_is_too_hot_cools_the_stone() -> None:
    found = ways(**BARE)
    now = surface(found["as_is"])
    assert now > 35.0
    for code in ("dim", "weaker", "wide"):
        assert surface(found[code]) < now, code
    assert surface(found["stronger"]) > now
    assert surface(found["dim"]) == pytest.approx(33.0, abs=0.3)


def test_the_way_it_hangs_already_is_not_offered() -> None:
    held = {"kind": "dimming", "set_c": 33.0, "probe": "basking-surface"}
    assert "dim" not in ways(heaters__0__thermostat=held)
    assert "dim" in ways(heaters__0__thermostat=held | {"set_c": 35.0})


def test_a_way_that_burns_the_back_is_no_way() -> None:
    found = ways(**(BARE | {"heaters__0__watts": 100.0, "heaters__0__height_m": 0.36}))
    assert found["stronger"].refused is not None
    assert found["stronger"].changes == ()


def test_a_dimmed_lamp_costs_less_and_dries_less() -> None:
    """The price of heat is in the other columns: less power, a cooler and so damper cool end."""
    found = ways(**BARE)

    def number(way: mounting.Way, key: str) -> float:
        return next(item.value or 0.0 for item in way.numbers if item.key == key)

    assert number(found["dim"], "energy") < number(found["as_is"], "energy")
    assert number(found["dim"], "cool_humidity") > number(found["as_is"], "cool_humidity")


def test_taking_a_way_makes_the_plan_it_promised() -> None:
    made = plan(**BARE)
    way = ways(**BARE)["dim"]
    after = HabitatPlan.model_validate(apply(made.model_dump(mode="json"), way.changes))
    assert after.heaters[0].thermostat.kind == "dimming"
    assert ways(heaters=[]) == {}


@pytest.mark.sweep
@pytest.mark.parametrize("made", [plan(), plan(room__summer__day_c=31.0, room__summer__night_c=28.0)])
def test_no_rig_that_is_offered_adds_a_danger(made: HabitatPlan) -> None:
    before = {
        item.code for item in assess(made, find(made.species), TODAY, depth=NO_DAYS).findings if item.severity is Severity.DANGER
    }
    _steps, found = searched(made)
    for one in found.rigs:
        after = assess(one.plan, find(made.species), TODAY, depth=NO_DAYS).findings
        assert {item.code for item in after if item.severity is Severity.DANGER} <= before
