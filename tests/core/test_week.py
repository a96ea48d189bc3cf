"""A week of water: ground that dries, and mistings that hold a band."""

from typing import Any

import numpy as np
import pytest

from husbandry.animal.body import body_of
from husbandry.design.misting_week import DAYS, Mistings, NoMisting, mistings, week
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.book import find
from husbandry.species.stage import Stage
from tests.plans import TODAY, plan

DAMP: dict[str, Any] = {"ground__damp": True, "enclosure__lid": "mesh", "uv_lamps__0__height_m": 0.47}


def stage_of(made: HabitatPlan) -> Stage:
    return body_of(made, find(made.species), TODAY).decision.stage


def test_damp_ground_gives_its_water_up_and_then_dries() -> None:
    """Mass: under mesh the ground loses every day, less once it is half dry; deeper ground lasts longer."""
    shallow, deep = week(plan(**DAMP, ground__depth_m=0.02), "winter"), week(plan(**DAMP, ground__depth_m=0.10), "winter")
    lost = -np.diff([1.0, *shallow.ground_share])
    assert (lost >= -1e-9).all()
    assert deep.ground_share[-1] > shallow.ground_share[-1]
    assert shallow.cool_humidity[-24:].mean() <= shallow.cool_humidity[:24].mean() + 0.1
    assert shallow.cool_humidity.size == DAYS * 24
    assert deep.holds_kg == pytest.approx(5 * shallow.holds_kg)


def test_dry_ground_has_nothing_to_give() -> None:
    found = week(plan(), "winter")
    assert (found.half_dry_day, found.holds_kg, found.misted_kg) == (None, 0.0, 0.0)


@pytest.mark.sweep
def test_mistings_that_are_offered_hold_the_band_better() -> None:
    """A dry room: what is offered is worked out again as the plan's own mistings."""
    dry = plan(room__winter__humidity_percent=28.0, enclosure__lid="mesh", uv_lamps__0__height_m=0.47)
    found = mistings(dry, stage_of(dry), "winter")
    assert isinstance(found, Mistings)
    assert 1 <= found.times <= 4
    times = [{"at": f"{int(hour):02d}:{round(hour % 1 * 60) % 60:02d}", "grams": found.grams} for hour in found.hours]
    misted = plan(room__winter__humidity_percent=28.0, enclosure__lid="mesh", uv_lamps__0__height_m=0.47, misting={"times": times})
    after, before = week(misted, "winter"), week(dry, "winter")
    assert after.cool_humidity.mean() > before.cool_humidity.mean() + 2
    assert after.misted_kg == pytest.approx(DAYS * found.times * found.grams / 1000, rel=0.01)


def test_where_the_band_holds_no_misting_is_offered() -> None:
    moist = plan(room__winter__humidity_percent=50.0, room__winter__day_c=24.0, heaters=[], uv_lamps=[])
    found = mistings(moist, stage_of(moist), "winter")
    assert found is NoMisting.HELD
