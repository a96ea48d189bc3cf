"""First plans: a sample of what `benchmarks/proposals.py` goes through as a whole; and what warms an end that is cold."""

from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.vetting import advise
from husbandry.assessment import Verdict
from husbandry.climate.heaters import HEATERS
from husbandry.design import builds, first_proposal
from husbandry.design.first_proposal import propose
from husbandry.plan.editing import apply
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.placement import check_places
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.core.first_plans import Case, judged, judged_plan, planned
from tests.plans import TODAY as PLANS_DAY
from tests.plans import plan

SAMPLE = [
    ("dart-frog", "adult", "cool", "recommended"),
    ("royal-python", "adult", "cool", "recommended"),
    ("savanna-monitor", "hatchling", "cool", "recommended"),
    ("axolotl", "adult", "usual", "recommended"),
    ("axolotl", "larva", "warm", "recommended"),
    ("chinese-water-dragon", "adult", "cool", "recommended"),
    ("crested-gecko", "adult", "warm", "least"),
    ("fire-bellied-toad", "juvenile", "usual", "recommended"),
    # In these a heater was put over the leaves or a hide and refused for it: the night stayed cold.
    ("milk-frog", "froglet", "cool", "least"),
    ("red-eyed-tree-frog", "adult", "cool", "recommended"),
    ("emerald-tree-skink", "hatchling", "usual", "least"),
    # In these the ground was dried, and then it was too dry.
    ("common-boa", "neonate", "cool", "recommended"),
    # In this one no lamp reached the middle of its band without burning the back, and none was hung.
    ("savanna-monitor", "adult", "usual", "recommended"),
    # In this one the air under the lid got too hot, and nothing was tried in its place.
    ("brazilian-rainbow-boa", "adult", "cool", "recommended"),
]


@pytest.mark.sweep
@pytest.mark.parametrize("case", SAMPLE, ids=[" ".join(case) for case in SAMPLE])
def test_a_first_plan_is_in_its_bands_or_says_why_not_and_endangers_nothing(case: Case) -> None:
    """Common practice, no source: what a keeper is shown first holds, or says what of the room stands in the way."""
    _case, outcome, dangers, untold = judged(case)
    assert dangers == ()
    assert outcome in ("good", "said"), untold


@pytest.mark.sweep
@pytest.mark.parametrize(
    "case",
    [
        ("chinese-water-dragon", "juvenile", "usual", "recommended"),
        ("chinese-water-dragon", "adult", "usual", "recommended"),
        ("rankins-dragon", "hatchling", "usual", "least"),
    ],
    ids=" ".join,
)
def test_what_climbs_basks_where_a_tube_reaches_it(case: Case) -> None:
    """Common practice, no source: no tube gives a lizard its index on the floor of a high enclosure; on a branch one does."""
    made = planned(case).plan
    assert made.platform is not None
    assert made.platform.kind == "branch"
    assert made.uv_lamps
    found = assess(made, find(made.species), PLANS_DAY, depth=NO_DAYS)
    assert found.quantity("uv_back").verdict is Verdict.INSIDE
    assert found.quantity("basking_surface", "winter", "day").verdict is Verdict.INSIDE


@pytest.mark.sweep
@pytest.mark.parametrize(
    ("case", "longest_m"),
    [
        (("blue-tongued-skink", "hatchling", "usual", "least"), 0.25),
        (("blue-tongued-skink", "juvenile", "usual", "recommended"), 0.35),
        (("fire-skink", "hatchling", "usual", "recommended"), 0.15),
        (("box-turtle", "juvenile", "cool", "least"), 0.15),
    ],
    ids=str,
)
def test_a_first_plan_has_every_shelter_of_its_kind_in_the_animals_size(case: Case, longest_m: float) -> None:
    """Common practice, no source: a hide touches the back. Of animals known by their age alone they were an adult's, and had no
    room; leaf litter laid last brought the ground too near to the lamp.
    """
    made = planned(case)
    found = assess(made.plan, made.profile, PLANS_DAY, depth=NO_DAYS)
    assert not {"space.hides", "moisture.no_humid_hide"} & {str(item.code) for item in found.findings}
    assert made.plan.hides
    assert max(hide.length_m for hide in made.plan.hides) <= longest_m


@pytest.mark.parametrize("stage", ["hatchling", "juvenile", "adult"])
def test_what_sits_in_a_shallow_pan_gets_a_bowl_and_no_pool(stage: str) -> None:
    """The book's own words for the box turtle; a pool as shallow would lie below the ground, which fills it."""
    made = planned(("box-turtle", stage, "usual", "recommended"))
    assert made.plan.pool is None
    assert made.plan.bowl is not None
    found = assess(made.plan, made.profile, PLANS_DAY, depth=NO_DAYS)
    assert not [item for item in found.findings if item.code.startswith("water.")]
    shell_m = found.body.length_m
    assert shell_m is not None
    assert made.plan.bowl.diameter_m > shell_m


def test_a_night_heater_at_the_cool_end_alone_leaves_the_warm_end_cold_and_says_so() -> None:
    """Common practice, no source: each end is read by night; what is offered warms the cold end, and the other no more."""
    at_the_cool_end = {
        "kind": "ceramic-emitter",
        "watts": 60.0,
        "x_m": 1.05,
        "height_m": 0.4,
        "guarded": True,
        "on": "20:00",
        "off": "08:00",
        "thermostat": {"kind": "pulse", "set_c": 21.0, "probe": "cool-air"},
    }
    made = plan(heaters__1=at_the_cool_end, room__winter__night_c=14.0)
    found = advise(made, find(made.species), PLANS_DAY, days_of=())
    cold = next(item for item in found.findings if item.code == "heat.night_warm_end_cold")
    assert not [item for item in found.findings if item.code == "heat.night_cold"]
    assert cold.remedy is not None
    assert cold.remedy.code == "heat.add_warm_end_night_heater"
    after = assess(
        read_data(apply(made.model_dump(mode="json"), cold.remedy.changes)), find(made.species), PLANS_DAY, depth=NO_DAYS
    )
    for end in ("warm_air", "cool_air"):
        assert after.quantity(end, "winter", "night").verdict is Verdict.INSIDE, end


@pytest.mark.sweep
@pytest.mark.parametrize(
    ("species", "length_m", "day_c", "least_c"),
    [("savanna-monitor", 0.5, 19.0, 47.0), ("red-footed-tortoise", 0.33, 19.0, 26.5)],
)
def test_in_a_cold_room_there_is_a_lamp_to_bask_under_and_it_burns_no_back(
    species: str, length_m: float, day_c: float, least_c: float
) -> None:
    """Common practice, no source: where a lamp that reaches the band would burn the back, a weaker one hangs, not none."""
    profile, case = find(species), RoomCase(day_c=day_c, night_c=day_c - 3, humidity_percent=45)
    made = propose("First", profile, Animal(length_m=length_m), RoomClimate(summer=case, winter=case), PLANS_DAY)
    assert any(HEATERS[lamp.kind].light and lamp.guarded and lamp.thermostat.kind == "dimming" for lamp in made.heaters)
    found = assess(made, profile, PLANS_DAY, depth=NO_DAYS)
    warmest = found.quantity("basking_surface", "winter", "day").value
    assert warmest is not None
    assert warmest >= least_c
    assert found.quantity("back", "winter", "day").verdict in (Verdict.INSIDE, Verdict.NEAR)


@pytest.mark.parametrize("places_m", [[0.3 * (at + 1) for at in range(8)], [0.65]])
def test_a_lamp_that_has_no_room_among_the_heaters_is_left_out(places_m: list[float], monkeypatch: pytest.MonkeyPatch) -> None:
    """A plan holds eight heaters, and domes fit side by side or not at all: what was mended without a lamp stays as it is."""
    profile, case = find("savanna-monitor"), RoomCase(day_c=19.0, night_c=16.0, humidity_percent=45)

    def with_heaters(made: HabitatPlan, kind: str, along_m: list[float]) -> HabitatPlan:
        under_lid_m = made.enclosure.height_m - 0.05
        more = [{"kind": kind, "watts": 25.0, "guarded": True, "x_m": x_m, "height_m": under_lid_m} for x_m in along_m]
        document = made.model_dump(mode="json")
        return read_data(document | {"heaters": document["heaters"] + more})

    def mended(made: HabitatPlan, *_more: Any) -> Any:
        filled = made if made.heaters else with_heaters(made, "ceramic-emitter", places_m)
        return filled, assess(plan(), find(plan().species), PLANS_DAY, depth=NO_DAYS)

    def lit(made: HabitatPlan, *_more: Any) -> HabitatPlan | None:
        return with_heaters(made, "halogen-flood", [0.6]) if made.heaters else None

    monkeypatch.setattr(first_proposal, "mended", mended)
    monkeypatch.setattr(first_proposal, "with_lamp", lit)
    found = propose("First", profile, Animal(length_m=0.5), RoomClimate(summer=case, winter=case), PLANS_DAY)
    assert {lamp.kind for lamp in found.heaters} == {"ceramic-emitter"}


def test_a_branch_that_has_no_place_is_never_the_better_way(monkeypatch: pytest.MonkeyPatch) -> None:
    """Where no tube reaches the slate, a branch is tried; one that does not fit into the box is no way to build it."""
    profile, case = find("rankins-dragon"), RoomCase(day_c=22.0, night_c=19.0, humidity_percent=50)

    def unlit(made: HabitatPlan, *_more: Any) -> Any:
        without = made.model_copy(update={"uv_lamps": ()})
        return without, assess(without, profile, PLANS_DAY, depth=NO_DAYS)

    def platform(*given: Any, perch: bool, **more: Any) -> dict[str, Any]:
        made = slate(*given, perch=False, **more)
        return made | {"up_m": 9.0} if perch else made

    slate = first_proposal.platform
    monkeypatch.setattr(first_proposal, "mended", unlit)
    monkeypatch.setattr(first_proposal, "platform", platform)
    found = propose("First", profile, Animal(length_m=0.05), RoomClimate(summer=case, winter=case), PLANS_DAY)
    assert check_places(found) == []


@pytest.mark.sweep
@pytest.mark.parametrize(
    "case",
    [
        ("veiled-chameleon", "hatchling", "cool", "recommended"),
        ("crested-gecko", "adult", "cool", "recommended"),
        ("green-iguana", "juvenile", "cool", "recommended"),
        ("green-iguana", "adult", "usual", "least"),  # this one has a heater of its own over its cool end
        ("central-bearded-dragon", "juvenile", "usual", "recommended"),
    ],
    ids=" ".join,
)
def test_no_heater_hangs_where_a_climber_gets_onto_it(case: Case) -> None:
    """Common practice, no source: on a mesh lid or just under a solid one; a wall of gauze carries no tube heater."""
    made = planned(case).plan
    box = made.enclosure
    assert [lamp for lamp in made.heaters if lamp.hangs]
    for heater in made.heaters:
        if heater.hangs:
            assert heater.height_m >= (box.height_m if box.lid == "mesh" else box.height_m - 0.151), heater
        assert heater.kind != "tube-heater" or box.kind != "mesh"


@pytest.mark.sweep
@pytest.mark.parametrize(
    "case",
    [
        ("veiled-chameleon", "juvenile", "usual", "least"),
        ("veiled-chameleon", "adult", "usual", "recommended"),
        ("panther-chameleon", "juvenile", "usual", "recommended"),
    ],
    ids=" ".join,
)
def test_a_chameleon_has_a_cage_of_gauze_with_every_lamp_and_tube_outside(case: Case) -> None:
    """Common practice, no source: the branch is as near to the gauze as a tube on it must be, and part of the cage is shaded."""
    made = planned(case)
    assert made.plan.enclosure.kind == "mesh"
    assert made.plan.uv_lamps
    for hung in (*made.plan.heaters, *made.plan.uv_lamps):
        assert hung.height_m >= made.plan.enclosure.height_m, hung
    found = assess(made.plan, made.profile, PLANS_DAY, depth=NO_DAYS)
    for quantity in ("uv_back", "uv_coverage"):
        assert found.quantity(quantity).verdict is Verdict.INSIDE, quantity
    back = found.quantity("back", "winter", "day")
    assert back.verdict is Verdict.INSIDE


@pytest.mark.sweep
@pytest.mark.parametrize(
    ("case", "lid", "most_w"),
    [
        (("red-footed-tortoise", "adult", "cool", "recommended"), "solid", 500.0),
        (("sulcata-tortoise", "adult", "usual", "recommended"), "solid", 700.0),
        (("reticulated-python", "adult", "usual", "recommended"), "solid", 700.0),
    ],
    ids=str,
)
def test_a_large_enclosure_is_closed_and_clad_before_it_is_heated_by_the_kilowatt(case: Case, lid: str, most_w: float) -> None:
    """Common practice, no source: a grown giant lives in a closed, insulated chamber. These had a kilowatt or stayed cold."""
    made = planned(case)
    assert made.plan.enclosure.lid == lid
    assert made.plan.enclosure.insulation_m > 0
    assert sum(heater.watts for heater in made.plan.heaters) <= most_w
    assert judged_plan(case, made)[1:3] == ("good", ())


@pytest.mark.parametrize(
    ("case", "board"),
    [
        (("african-fat-tailed-gecko", "adult", "usual", "recommended"), False),  # little to warm
        (("russian-tortoise", "adult", "cool", "recommended"), False),  # an open table carries none
        (("red-eared-slider", "adult", "cool", "recommended"), False),  # water is too heavy for it
        (("savanna-monitor", "juvenile", "cool", "recommended"), True),
    ],
    ids=str,
)
def test_board_is_put_where_it_saves_much_and_bears_no_weight(case: Case, *, board: bool) -> None:
    """Common practice, no source."""
    assert (planned(case).plan.enclosure.insulation_m >= builds.BOARD_M) == board


def test_what_warming_takes_is_what_a_heater_then_needs() -> None:
    """The model against itself by another way: a heater of so much, all day, brings the warm air to the least of its band."""
    profile = find("corn-snake")
    cold = plan(species=profile.id, animal={"length_m": 1.1}, schools={}, room__winter__day_c=16.0, room__winter__night_c=16.0)
    bare, needs_w = builds.clad(cold.model_copy(update={"heaters": ()}), profile, PLANS_DAY)
    tube = {"kind": "tube-heater", "watts": needs_w, "x_m": 0.6, "height_m": 0.2, "length_m": 0.6, "guarded": True}
    warmed = read_data(bare.model_dump(mode="json") | {"heaters": [tube | {"on": "00:00", "off": "00:00"}]})
    air = assess(warmed, profile, PLANS_DAY, depth=NO_DAYS).quantity("warm_air", "winter", "day")
    assert air.band is not None
    assert air.value == pytest.approx(air.band.low, abs=0.6)
