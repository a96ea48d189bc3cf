"""How sure the bands are: parted by their chances, and the reading that tells most of what is open."""

import numpy as np
import pytest

from husbandry.assess.probability import SAFE, JointProbability
from husbandry.assessment import Band, Basis, BasisKind, Read
from tests.plans import assessed

BASIS = Basis(BasisKind.ESTIMATE)


def drawn(middle: float, sigma: float, seed: int) -> np.ndarray:
    return middle + sigma * np.random.default_rng(seed).standard_normal(4000)


def test_bands_are_parted_by_their_chances_and_the_joint_one_stands_behind() -> None:
    """Normal tables: half lies above the middle; one in a thousand beyond 3.1 standard deviations; three tosses an eighth."""
    joint = JointProbability()
    for name, middle, seed in (
        ("warm_air/winter/day", 30.0, 1),
        ("cool_air/winter/day", 30.0, 2),
        ("cool_air/winter/night", 30.0, 3),
    ):
        joint.of(name, Band(30.0, None, BASIS), drawn(middle, 1.0, seed))
    joint.of("hottest_air/summer/day", Band(None, 40.0, BASIS), drawn(30.0, 1.0, 4))
    joint.of("basking_surface/winter/day", Band(35.0, None, BASIS), drawn(30.0, 1.0, 5))
    found = joint.certainty()
    assert found.safe == ("hottest_air/summer/day",)
    assert found.lost == ("basking_surface/winter/day",)
    assert set(found.open) == {"warm_air/winter/day", "cool_air/winter/day", "cool_air/winter/night"}
    assert found.count == 5
    without = JointProbability(held={name: held for name, held in joint.held.items() if name not in found.lost})
    assert without.certainty().together == pytest.approx(1 / 8, abs=0.02)
    assert found.together == pytest.approx(0.0, abs=1e-3)


def test_the_reading_named_is_the_one_that_goes_with_most_of_what_is_open() -> None:
    """By construction: two open bands follow the cool end, one stands alone; what was read already is not asked for again."""
    cool, alone = drawn(24.0, 3.0, 1), drawn(60.0, 12.0, 2)
    joint = JointProbability()
    joint.of("cool_air/winter/night", Band(24.0, None, BASIS), cool)
    joint.of("cool_air/winter/day", Band(26.0, None, BASIS), cool + 2.0)
    joint.of("cool_humidity/winter/day", Band(60.0, None, BASIS), alone)
    reading = joint.certainty().reading
    assert reading is not None
    assert (reading.place, reading.settles) == ("cool-air", 2)
    known = JointProbability({"cool_air/winter/night": Read(24.0, 0.3, 3, ""), "cool_air/winter/day": Read(26.0, 0.3, 3, "")})
    for name, other in joint.drawn.items():
        known.of(name, Band(0.0, 100.0, BASIS) if name.startswith("cool_air") else Band(60.0, None, BASIS), other)
    again = known.certainty().reading
    assert again is not None
    assert (again.place, again.phase, again.settles) == ("cool-humidity", "day", 1)


def test_what_is_known_better_than_any_instrument_is_not_asked_for() -> None:
    joint = JointProbability()
    joint.of("warm_air/winter/day", Band(30.0, None, BASIS), drawn(30.0, 0.2, 1))
    assert joint.certainty().open
    assert joint.certainty().reading is None


def test_a_plan_says_of_each_band_that_counts_where_it_stands() -> None:
    found = assessed()
    parted = found.certainty
    chances = {item.id: item.likely for item in found.quantities if item.likely is not None and item.key != "warm_humidity"}
    assert set(parted.safe + parted.open + parted.lost) == set(chances)
    assert all(chances[one] >= SAFE for one in parted.safe)
    assert all(chances[one] < 1 - SAFE for one in parted.lost)
    assert parted.together == found.likely
    assert parted.together <= min(chances.values())
