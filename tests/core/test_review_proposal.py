"""What is proposed in place of a set-up that stands: no danger, nothing graver, and what it takes."""

from functools import cache

import pytest

from husbandry.assess.assess import assess
from husbandry.assess.vetting import GRAVE, applied, kind_of, mends
from husbandry.assessment import Severity
from husbandry.design.first_proposal import equipped
from husbandry.plan.placement import check_places
from husbandry.plan.reading import read_data
from husbandry.setup_review.proposal import Proposal, likeliest, propose, told_of
from husbandry.setup_review.review import LOOK
from husbandry.setup_review.unknowns import unknowns
from husbandry.species.book import find
from tests.core.test_setup_review import CASES, told
from tests.plans import TODAY

# What no change to the enclosure mends: which school one goes by, and a ground that dries out by itself.
MAY_STAY = {"space.small_by_school", "moisture.wet", "uv.missing", "heat.small_patch", "space.outgrown_soon"}


@cache
def proposed(case: str) -> Proposal:
    changed, _sees, _sees_not = CASES[case]
    one = told(**changed)
    return propose(one, find(one.species), TODAY)


@pytest.mark.sweep
@pytest.mark.parametrize("case", CASES)
def test_what_is_proposed_leaves_nothing_a_specialist_saw(case: str) -> None:
    """Of the ten set-ups nothing that endangers is left, and nothing wrong but what the enclosure cannot help."""
    found = proposed(case)
    assert check_places(found.after) == []
    left = {str(item.code): item.severity for item in found.left}
    assert Severity.DANGER not in left.values()
    assert {code for code, severity in left.items() if severity is Severity.WRONG} <= MAY_STAY
    _changed, sees, _sees_not = CASES[case]
    assert not (sees - MAY_STAY) & {code for code, severity in left.items() if severity in GRAVE}


def test_what_mends_one_finding_mends_it_and_says_what_it_takes() -> None:
    found = proposed("a leopard gecko on a strong mat that nothing holds")
    profile = find("leopard-gecko")
    assert found.mendings
    for item in told_of(found.found_before):
        if (mending := found.mendings.get(kind_of(item))) is None:
            continue
        after = assess(read_data(applied(found.before, mending.remedy.changes)), profile, TODAY, depth=LOOK)
        assert mends(after, item)
        assert mending.minutes > 0
    thermostat = found.mendings["heat.no_thermostat", "0"]
    assert "thermostat-pulse" in {line.what for line in thermostat.to_buy}


def test_only_what_is_not_there_is_bought() -> None:
    """A tub-shaped box too small for the snake: the new one is on the list, the mat it has is not."""
    found = proposed("a snake without a hide, in a box too small")
    bought = {line.what for line in found.to_buy}
    assert "enclosure-glass-120x60x60" in bought
    assert "thing-hide" in bought
    assert not {"mat", "thing-bowl"} & bought
    # Nothing to do is nothing to buy.
    lamp = {"kind": "reflector-flood", "watts": 60.0, "thermostat": True, "guarded": True, "probe": "spot"}
    well = told(kind="foamed-pvc", lid="solid", heaters=[lamp])
    guarded = propose(well, find(well.species), TODAY)
    assert "guard" not in {line.what for line in guarded.to_buy}
    assert guarded.minutes < found.minutes


def test_what_is_unknown_is_taken_as_it_most_likely_is() -> None:
    bare = told(room_c=None, lid=None, heaters=[{"kind": "mat"}, {"kind": "reflector-flood"}], tubes=[{}], hides=[{"end": "warm"}])
    sure = likeliest(bare)
    assert unknowns(sure) == ()
    assert sure.room_c == 20.0  # the likeliest of its prior
    assert sure.heaters[0].thermostat is False


@pytest.mark.sweep
def test_a_climber_below_a_mesh_lid_has_its_lamp() -> None:
    """Where none is strong enough from above the mesh, it hangs inside behind a guard: a dragon in 120 × 60 × 60 under mesh."""
    dragon = {"species": "central-bearded-dragon", "animal": {"mass_kg": 0.4}, "heaters": [], "ground": "sand", "ground_m": 0.05}
    found = propose(told(**dragon, room_c=20.0), find("central-bearded-dragon"), TODAY)
    over = [heater for heater in found.after.heaters if heater.kind.endswith("flood")]
    assert over
    for heater in over:
        assert heater.height_m >= found.after.enclosure.height_m or heater.guarded
    bare = found.after.model_copy(update={"heaters": (), "uv_lamps": ()})
    assert any(heater.kind.endswith("flood") for heater in equipped(bare, find("central-bearded-dragon"), TODAY).heaters)


def test_paper_is_not_laid_by_the_decimetre() -> None:
    found = proposed("tree frogs in a low, dry box")
    assert {str(layer.main) for layer in found.after.ground.layers} != {"paper"}
    assert "ground-paper" not in {line.what for line in found.to_buy}


@pytest.mark.sweep
def test_a_growing_animal_is_not_given_a_box_for_a_month() -> None:
    """The starter box is paid for twice (a mistake of the trade): what is proposed is not outgrown at once."""
    young = told(
        species="russian-tortoise", animal={"mass_kg": 0.51}, kind="plywood", lid="open",
        length_m=0.91, width_m=0.46, height_m=0.41, ground="soil", ground_m=0.02,
        heaters=[{"kind": "reflector-flood", "watts": 100.0, "thermostat": True, "guarded": True}],
    )  # fmt: skip
    found = propose(young, find("russian-tortoise"), TODAY)
    assert "space.outgrown_soon" not in {str(item.code) for item in found.left}
    assert found.after.enclosure.length_m > 1.1
    assert "ground.shallow" not in {str(item.code) for item in found.left}  # and the lamps are hung to the deeper ground
