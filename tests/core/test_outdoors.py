"""Out of doors by the month: a tortoise's pen in a mild climate."""

from dataclasses import replace
from itertools import product
from typing import Any

import numpy as np
import pytest

from husbandry.animal.body import body_of
from husbandry.climate.case import HeatedHideCase, OutsideCase
from husbandry.climate.day import DayModel, course
from husbandry.climate.network import build, hide_loss_w_k
from husbandry.climate.nodes import nodes_of
from husbandry.climate.parameters import PRIOR
from husbandry.climate.steady import solve_steady
from husbandry.design.outdoors import SEASON, Month, month_case, months, night_hide
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.geometry import depth_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.book import find
from tests.core.reference import timer_day
from tests.plans import TODAY, plan
from tests.sample import some

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
    assert all(good[month] > 18 for month in (6, 7, 8))  # half in the sun the shed is too hot on some days of July
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


# Monthly means inland at 52° north, a damp pen 4 m long without a lid (published normals, from memory).
INLAND: dict[str, Any] = {
    "day_c": [3, 5, 9, 14, 19, 22, 25, 25, 20, 14, 8, 4],
    "night_c": [-2, -2, 1, 4, 9, 12, 14, 14, 10, 6, 2, -1],
    "sun_kwh_m2": [0.6, 1.2, 2.6, 4.1, 5.2, 5.5, 5.3, 4.6, 3.2, 1.8, 0.8, 0.5],
    "sun_share": 0.8,
    "latitude_deg": 52,
}
EMITTER = {"kind": "ceramic-emitter", "watts": 250, "x_m": 1.0, "height_m": 0.4, "on": "00:00", "off": "00:00", "guarded": True}
SHELLS = {
    "table": {"kind": "open-table", "height_m": 0.6, "lid": "open"},
    "aviary": {"kind": "mesh", "height_m": 1.8, "lid": "mesh"},
    "frame": {"kind": "glass", "height_m": 0.6, "lid": "mesh"},
    "shed": {"kind": "plywood", "height_m": 0.6, "lid": "solid"},
    "tub": {"kind": "polypropylene", "height_m": 0.6, "lid": "solid"},
}


@pytest.mark.sweep
@pytest.mark.parametrize(("shell", "damp", "heated"), some(product(sorted(SHELLS), (False, True), (False, True)), 3, 2))
def test_every_months_day_follows_solve_ivp(shell: str, damp: bool, heated: bool) -> None:
    """scipy.integrate.solve_ivp (LSODA) on the same equations: air, basking place and ground to 0.1 K in every minute.

    The damp table's April swung between 31.3 and 1.3 °C where it goes from 19.4 to 6.2.
    """
    made = plan(
        species="hermanns-tortoise",
        animal={"length_m": 0.16},
        schools={},
        enclosure=SHELLS[shell] | {"length_m": 4.0, "width_m": 2.0},
        ground={"kind": "soil", "depth_m": 0.15, "damp": damp},
        heaters=[EMITTER] if heated else [],
        uv_lamps=[],
        outdoors=INLAND,
    )
    # All twelve of the damp table, which swung; of the others a cold, a changing and a hot month.
    for number in range(1, 13) if (shell, damp) == ("table", True) else (1, 4, 9):
        case = month_case(made, number)
        climate = solve_steady(case, spread=False, seasons=(SEASON,))
        model = DayModel(case, climate, SEASON)
        run = model.run()
        ours = np.roll(run.course().nodes, -model.first_minute, axis=0)
        theirs = timer_day(case, climate, SEASON, tolerance=1e-4)  # itself true to 0.005 K
        nodes = model.nodes
        for part in (nodes.air, slice(nodes.spot, nodes.spot + 1), nodes.ground):
            assert np.abs(ours[:, part] - theirs[:, part]).max() < 0.1, number


def test_indoors_has_no_months() -> None:
    assert months(plan(), find("african-fat-tailed-gecko"), TODAY) == ()
    with pytest.raises(ValueError, match="12"):
        HabitatPlan.model_validate(pen().model_dump() | {"outdoors": MILD | {"day_c": [1, 2]}})


def test_a_clear_sky_takes_warmth_and_the_earth_holds_a_heated_pen_and_a_frosty_one() -> None:
    """The ground of an open table loses some 50 W/m² to the sky (FAO paper 56, net long-wave of a mild climate; from memory)."""
    made = plan(
        species="hermanns-tortoise",
        animal={"length_m": 0.16},
        schools={},
        enclosure=SHELLS["table"] | {"length_m": 4.0, "width_m": 2.0},
        ground={"kind": "soil", "depth_m": 0.15},
        heaters=[],
        uv_lamps=[],
        outdoors=INLAND,
    )
    case = month_case(made, 1)
    assert case.outdoors is not None

    def coldest(earth_c: float, sky_k: float) -> float:
        there = replace(case, outdoors=OutsideCase(earth_c, sky_k))
        return float(course(there, solve_steady(there, spread=False, seasons=(SEASON,)), SEASON).nodes[:, 5:15].min())

    overcast, usual, clear = (coldest(10.0, sky_k) for sky_k in (0.0, 10.0, 20.0))
    assert clear < usual - 1.0 < overcast - 2.0
    assert coldest(14.0, 10.0) > usual > coldest(6.0, 10.0)
    net = build(case, PRIOR.nominal())
    taken = -float(net.outside_w[0][net.nodes.ground_top].sum() + net.outside_w[0][net.nodes.walls].sum()) / 8.0
    assert 40 < taken < 60


def test_the_heat_for_a_cold_night_counts_what_goes_into_the_earth() -> None:
    """Of a cage of mesh the board lies under the floor alone: it saves heat only where the earth is reckoned with."""
    cage = {"kind": "mesh", "length_m": 2.0, "width_m": 1.2, "height_m": 0.8, "lid": "mesh"}
    profile, per_kelvin = find("russian-tortoise"), []
    for board_m in (0.0, 0.1):
        made = plan(
            species="russian-tortoise",
            animal={"mass_kg": 0.6, "length_m": 0.14},
            schools={},
            enclosure=cage | {"insulation_m": board_m},
            heaters=[],
            uv_lamps=[],
            outdoors=MILD,
        )
        january = months(made, profile, TODAY)[0]
        least_c = body_of(made, profile, TODAY).decision.stage.heat.night_c[0].least
        per_kelvin.append(january.heat_w / (least_c - january.coldest_c))
    assert per_kelvin[0] > 1.01 * per_kelvin[1]


def test_a_heated_hide_is_advised_before_kilowatts() -> None:
    """A pen of 4 by 2 m: some thirty watts where it sleeps do what more than a kilowatt would for the whole (common practice)."""
    pen = plan(
        species="hermanns-tortoise",
        animal={"length_m": 0.16},
        schools={},
        enclosure=SHELLS["frame"] | {"length_m": 4.0, "width_m": 2.0},
        ground={"kind": "soil", "depth_m": 0.15},
        hides=[],
        heaters=[],
        uv_lamps=[],
        outdoors=INLAND,
    )
    tortoise = find(pen.species)
    before = months(pen, tortoise, TODAY)
    offered = night_hide(pen, tortoise, TODAY, before)
    assert offered is not None
    assert offered.hide.heated_w is not None
    assert offered.needs_w <= offered.hide.heated_w < 60
    assert offered.pen_w > 10 * offered.needs_w
    # By hand: 12 mm of plywood and 4 cm of foam board, 1/(2 × 0.13 + 0.012/0.13 + 0.04/0.033) = 0.64 W/m²K, and the doorway.
    wide_m, long_m, high_m = depth_of(pen, offered.hide), offered.hide.length_m, offered.hide.height_m
    hand = 0.64 * (long_m * wide_m + 2 * (long_m + wide_m) * high_m) + 0.35 + long_m * wide_m / (0.17 + 0.092 + 1.21)
    case = HeatedHideCase(1.0, long_m, wide_m, high_m, 0.04)
    assert hide_loss_w_k(case) == pytest.approx(hand, rel=0.02)
    with_it = pen.model_copy(update={"things": (*pen.things, offered.hide)})
    after = months(with_it, tortoise, TODAY)
    assert sum(month.good_days for month in after) > sum(month.good_days for month in before) + 20
    assert all(now.cold_nights <= then.cold_nights + 1e-6 for now, then in zip(after, before, strict=True))
    assert night_hide(with_it, tortoise, TODAY, after) is None
    for month in (item for item in after if item.warm_days >= 8):
        assert month.hide_c is not None
        assert month.hide_c >= (offered.hide.heated_to_c or 0) - 0.6  # an on/off thermostat swings half a kelvin about its point


def test_a_heated_hide_spends_what_its_walls_lose() -> None:
    """Energy: in a steady night its heater's mean draw is its loss times its lead over the air and ground beside it."""
    hide = {"x_m": 1.0, "length_m": 0.3, "height_m": 0.15, "heated_w": 60, "heated_to_c": 26.0, "insulation_m": 0.04}
    still = {"day_c": 12.0, "night_c": 12.0, "humidity_percent": 50.0}
    cold = plan(hides=[hide], heaters=[], uv_lamps=[], room={"summer": still, "winter": still})
    case = enclosure_case(cold)
    state = solve_steady(case, spread=False).states["winter", "night"]
    inside = state.predictions["heated_hide"].value
    assert inside == pytest.approx(26.0, abs=0.1)
    nodes = nodes_of(case)
    assert case.heated_hide is not None
    rough_w = hide_loss_w_k(case.heated_hide) * (inside - float(state.node_c[nodes.air][2:5].mean()))
    assert state.watts == pytest.approx(rough_w, rel=0.1)
    day = course(case, solve_steady(case, spread=False), "winter")
    assert day.nodes[:, nodes.heated_hide].mean() == pytest.approx(26.0, abs=0.4)
    assert day.duty[:, -1].mean() * 60 == pytest.approx(state.watts, rel=0.1)


def test_a_heated_hide_is_not_offered_where_it_would_stand_under_a_lamp() -> None:
    """Offered like every change: only where it adds no danger. Lamps close over every place leave none."""
    lamps = [EMITTER | {"x_m": x / 10, "y_m": 1.85, "height_m": 0.2} for x in (2, 10, 16, 20, 24, 30, 35, 38)]
    free, low = (
        plan(
            species="hermanns-tortoise",
            animal={"length_m": 0.16},
            schools={},
            enclosure=SHELLS["frame"] | {"length_m": 4.0, "width_m": 2.0},
            ground={"kind": "soil", "depth_m": 0.05},
            platform=None,
            hides=[],
            heaters=heaters,
            uv_lamps=[],
            outdoors=INLAND,
        )
        for heaters in ([], lamps)
    )
    tortoise = find(free.species)
    cold = months(free, tortoise, TODAY)
    assert night_hide(free, tortoise, TODAY, cold) is not None
    assert night_hide(low, tortoise, TODAY, cold) is None
