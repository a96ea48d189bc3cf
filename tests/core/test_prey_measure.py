"""What prey is measured by: the one of six that is wanted, what it should come to, and what cannot be it."""

from math import pi

import pytest

from husbandry.animal.body import body_of
from husbandry.feeding.prey_measure import doubt, expected_m, measured_by
from husbandry.species.book import find
from tests.plans import TODAY, plan


def test_a_tape_round_a_young_boa_is_not_its_thickness() -> None:
    """Geometry: a tape's 5.5 cm round a body means 1.75 cm across (circumference over pi)."""
    code, thick = doubt("girth", 0.055, 0.018)
    assert code == "round"
    assert thick == pytest.approx(0.055 / pi)
    assert doubt("girth", 0.0175, 0.018) == ("", None)
    assert doubt("girth", 0.3, 0.018) == ("off", None)
    assert doubt("gap-of-eyes", 0.055, 0.018) == ("off", None)


@pytest.mark.parametrize(
    ("species", "wanted"),
    [("leopard-gecko", "gap-of-eyes"), ("corn-snake", "girth"), ("egg-eating-snake", "egg-3"), ("sulcata-tortoise", "")],
)
def test_the_field_asks_for_the_one_measurement_the_stage_goes_by(species: str, wanted: str) -> None:
    made = plan(species=species, animal={"mass_kg": 0.2, "length_m": 0.8}, schools={})
    assert measured_by(made, body_of(made, find(species), TODAY)) == wanted


def test_what_is_expected_does_not_hang_on_what_was_typed() -> None:
    snake = {"species": "corn-snake", "animal": {"mass_kg": 0.035, "length_m": 0.4}, "schools": {}}
    profile = find("corn-snake")
    bare, typed = plan(**snake), plan(**snake, feeding={"measured_m": 0.055})
    first, second = (expected_m(made, profile, body_of(made, profile, TODAY)) for made in (bare, typed))
    assert first == second
    assert first is not None
    # Common practice, no source: a hatchling of 35 g is about as thick as a finger.
    assert 0.009 < first < 0.02
