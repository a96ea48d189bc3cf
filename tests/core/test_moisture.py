"""Water through the day: bedding takes it up and gives it off, films shrink, dew stays where it fell and dries again."""

from dataclasses import replace

import numpy as np
import pytest
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

from husbandry.climate.case import EnclosureCase, MistingCase, RoomState
from husbandry.climate.day import DayModel, DayRun, course
from husbandry.climate.ground import KEPT_DRY_M, drying_slows, evaporating_share
from husbandry.climate.humidity import LEAF_M_S, PER_PASCAL
from husbandry.climate.steady import solve_steady
from tests.core.reference import timer_day
from tests.core.test_openings import TANK

MISTED = replace(TANK, mistings=(MistingCase(8.5, 0.06),), lid_covered=0.7)
# A cold, poorly covered tank with damp ground in a room that is warm by day: its panes sweat at night.
SWEATING = replace(
    TANK, lid="solid", ground_damp=True, rooms=dict.fromkeys(("summer", "winter"), RoomState(28.0, 6.0, 60.0)),
)  # fmt: skip


def ran(case: EnclosureCase, days: int = 1) -> DayRun:
    return DayModel(case, solve_steady(case, spread=False), "winter").run(days)


def test_bedding_that_takes_up_keeps_what_was_misted_for_the_evening() -> None:
    """Aspen holds several times what sand holds (moisture buffer values, Rode and others 2005; recalled): less wet, less dry."""
    wood, sand = (
        course(case, solve_steady(case, spread=False), "winter").cool_humidity
        for case in (replace(MISTED, ground_kind=kind) for kind in ("aspen", "sand"))
    )
    morning = slice(10 * 60, 13 * 60)
    assert wood[morning].mean() < sand[morning].mean() - 0.5
    assert wood.mean() == pytest.approx(sand.mean(), abs=6)
    evening = slice(20 * 60, 23 * 60)
    assert wood[evening].min() > sand[evening].min()


def test_a_film_shrinks_as_it_dries_and_the_air_falls_slowly() -> None:
    """Not all wet until the last drop: below its plateau the air takes hours from 85 to 60 % (keepers' panes dry from the top)."""
    day = course(replace(TANK, mistings=MISTED.mistings), solve_steady(TANK, spread=False), "winter").cool_humidity
    fell = np.flatnonzero((day[9 * 60 :] < 85) & (day[9 * 60 :] > 60))
    assert 90 < fell.size < 6 * 60


def test_dew_that_falls_at_night_dries_by_day_and_is_not_lost() -> None:
    """Mass: over a day that repeats itself no wall keeps dew; what condensed was evaporated again or ran down."""
    run = ran(SWEATING)
    nightly = run.end[1]
    assert sum(nightly.dew_kg) > 0.0005
    day = ran(SWEATING, 2).course()
    assert day.condensing.any()
    assert not day.condensing.all()
    assert day.water.condensed > 0.0005
    warmed = replace(SWEATING, rooms=dict.fromkeys(("summer", "winter"), RoomState(30.0, 30.0, 30.0)))
    model = DayModel(warmed, solve_steady(warmed, spread=False), "winter")
    later = model.run(start=(run.end[0], nightly))
    assert sum(later.end[1].dew_kg) < 0.1 * sum(nightly.dew_kg)


def test_bedding_is_as_humid_as_the_air_in_a_day_without_change() -> None:
    level = replace(TANK, bowl_m2=0.01, rooms=dict.fromkeys(("summer", "winter"), RoomState(22.0, 22.0, 50.0)))
    run = ran(level, 2)
    day = run.course()
    assert run.end[1].bed_humidity == pytest.approx([float(day.cool_humidity.mean()) / 100] * 5, abs=0.02)


def test_leaves_give_water_by_day_and_hardly_by_night() -> None:
    """Potted foliage gives 10 to 60 g an hour and m² of leaf at 1 kPa of deficit (Jones, Plants and Microclimate; from memory)."""
    grams = 3600 * 1000 * LEAF_M_S * PER_PASCAL * 1000.0
    assert 10 < grams < 60
    planted = replace(TANK, leaf_m2=0.4)
    climate = solve_steady(planted, spread=False)
    day, bare = (course(case, solve_steady(case, spread=False), "winter") for case in (planted, TANK))
    lit = day.lit
    assert day.water.evaporated > bare.water.evaporated + 0.02
    assert (day.vapour_pa - bare.vapour_pa)[lit].mean() > 2 * (day.vapour_pa - bare.vapour_pa)[~lit].mean() > 0
    assert day.nodes[lit, :10].mean() < bare.nodes[lit, :10].mean() - 0.2  # what evaporates takes its heat from the air
    states = climate.states
    steady = [states["winter", phase].predictions["cool_humidity"].value for phase in ("day", "night")]
    shown = [float(np.median(day.cool_humidity[part])) for part in (lit, ~lit)]
    assert shown == pytest.approx(steady, abs=4)


@pytest.mark.sweep
@pytest.mark.parametrize("damp", [False, True])
def test_a_planted_day_follows_solve_ivp(damp: bool) -> None:
    """scipy.integrate.solve_ivp on the same equations, written apart: air to 0.1 K, vapour to 1 %, the ground's water to a gram."""
    planted = replace(TANK, leaf_m2=0.4, ground_damp=damp)
    climate = solve_steady(planted, spread=False)
    model = DayModel(planted, climate, "winter")
    run = model.run()
    ours, theirs = run.course(), timer_day(planted, climate, "winter", "LSODA", 1e-7)
    n = model.nodes.count
    assert np.abs(np.roll(ours.nodes, -model.first_minute, axis=0)[:, :10] - theirs[:, :10]).max() < 0.1
    assert np.roll(ours.vapour_pa, -model.first_minute) == pytest.approx(theirs[:, n], rel=0.01)
    assert run.end[1].water.ground == pytest.approx(float(theirs[-1, n + 1]), abs=0.001)


def test_damp_ground_dries_from_the_top_ever_slower() -> None:
    """Two resistances in series, by hand: 12.5 mm of dry soil over 6.6e-6 m²/s are 1894 s/m beside 333 s/m of still air, 0.15."""
    assert evaporating_share(0.0) == 1.0
    assert evaporating_share(KEPT_DRY_M) == pytest.approx(333.3 / (333.3 + 1893.9), rel=1e-3)
    assert evaporating_share(0.05) < evaporating_share(0.02) < 0.15
    # Until half is gone, against the layer's own growth stepped by scipy: dδ/dt as what evaporates through it.
    for depth_m in (0.03, 0.08, 0.2):

        def grown(at: float, layer: NDArray[np.float64]) -> NDArray[np.float64]:
            return np.array([evaporating_share(float(layer[0]))])

        def half_gone(at: float, layer: NDArray[np.float64], end: float = KEPT_DRY_M + depth_m / 2) -> float:
            return float(layer[0]) - end

        half_gone.terminal = True  # type: ignore[attr-defined]
        solved = solve_ivp(grown, (0, 100.0), [KEPT_DRY_M], events=half_gone, rtol=1e-8)
        at_first_pace = depth_m / 2 / evaporating_share(KEPT_DRY_M)
        assert float(solved.t_events[0][0]) == pytest.approx(drying_slows(depth_m) * at_first_pace, rel=1e-4)


def test_ground_that_fog_falls_on_holds_no_more_than_it_can() -> None:
    """A fogger over cold damp ground: what falls on it runs through; the dry layer on top is no thinner than when it was full."""
    cold = dict.fromkeys(("summer", "winter"), RoomState(8.0, 2.0, 90.0))
    fogged = replace(TANK, ground_damp=True, ground_depth_m=0.05, fogger_kg_per_h=0.3, lid_covered=0.7, rooms=cold)
    model = DayModel(fogged, solve_steady(fogged, spread=False), "winter")
    run = model.run()
    assert run.end[1].water.ground == pytest.approx(model.terms.supply.ground_full, rel=0.02)
    for _day in range(4):
        run = run.model.run(start=run.end)
        assert run.end[1].water.ground <= model.terms.supply.ground_full
        assert run.course().nodes.min() > 1.0  # nothing is colder than the room that it stands in


def test_a_thick_dry_top_gives_less_in_a_day() -> None:
    """The same day from full, from three quarters and from half the ground's water: each loses less than the one before."""
    damp = replace(TANK, ground_damp=True, ground_depth_m=0.08)
    climate = solve_steady(damp, spread=False)
    model = DayModel(damp, climate, "winter")
    nodes, moist = model.run().end
    lost = []
    for share in (1.0, 0.75, 0.5):
        begun = replace(moist, water=replace(moist.water, ground=share * model.terms.supply.ground_full))
        lost.append(model.run(start=(nodes, begun)).course().water.dried)
    assert lost[0] > 1.3 * lost[1] > 1.3 * 1.1 * lost[2] > 0
