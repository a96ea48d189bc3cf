"""Out of doors by the month: a tortoise's pen in a mild climate."""

from typing import Any

import pytest

from husbandry.design.outdoors import Month, months
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.book import find
from tests.plans import TODAY, plan

# Monthly means of a mild oceanic climate at 51.5° north (published normals, from memory).
MILD: dict[str, Any] = {
    "day_c": [7, 8, 11, 15, 19, 22, 24, 24, 20, 15, 10, 7],
    "night_c": [2, 2, 3, 5, 8, 11, 13, 13, 10, 8, 4, 2],
    "sun_kwh_m2": [0.7, 1.3, 2.4, 3.9, 4.9, 5.2, 5.0, 4.3, 3.0, 1.7, 0.9, 0.6],
    "sun_share": 0.5,
    "latitude_deg": 51.5,
}
SHED = {"kind": "plywood", "length_m": 2.0, "width_m": 1.2, "height_m": 0.8, "lid": "solid"}


def pen(**outside: Any) -> HabitatPlan:
    return plan(
        species="russian-tortoise",
        animal={"mass_kg": 0.6, "length_m": 0.14},
        schools={},
        enclosure=SHED,
        heaters=[],
        uv_lamps=[],
        outdoors=MILD | outside,
    )


def year(**outside: Any) -> tuple[Month, ...]:
    return months(pen(**outside), find("russian-tortoise"), TODAY)


def test_a_tortoise_lives_out_from_late_spring_to_early_autumn() -> None:
    """Common practice, no source: out of doors in a mild climate from about May to September, not in winter."""
    good = {item.number: item.good_days for item in year()}
    assert all(good[month] > 20 for month in (6, 7, 8))
    assert all(good[month] < 1 for month in (11, 12, 1, 2, 3))
    assert 90 < sum(good.values()) < 190


def test_the_sun_makes_the_basking_place_and_shade_takes_it_away() -> None:
    sunny, shaded = year()[5], year(sun_share=0.05)[5]
    assert sunny.surface_c > shaded.surface_c + 10
    assert shaded.warm_days < 3 < sunny.warm_days


def test_nights_too_cold_are_mended_by_the_heat_named() -> None:
    """By the enclosure's own losses: what it takes to hold the least is straight in the degrees missing."""
    april, march = year()[3], year()[2]
    assert march.heat_w > april.heat_w > 0
    assert march.cold_nights > april.cold_nights
    assert year()[6].heat_w == 0.0


def test_warmer_months_are_never_worse_by_night() -> None:
    warmer = year(night_c=[value + 3 for value in MILD["night_c"]])
    for now, then in zip(year(), warmer, strict=True):
        assert then.cold_nights <= now.cold_nights + 1e-9


def test_indoors_has_no_months() -> None:
    assert months(plan(), find("african-fat-tailed-gecko"), TODAY) == ()
    with pytest.raises(ValueError, match="12"):
        HabitatPlan.model_validate(pen().model_dump() | {"outdoors": MILD | {"day_c": [1, 2]}})
