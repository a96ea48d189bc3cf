"""How sure predictions are: the quick draws against many draws through the whole model, and what follows from them."""

from dataclasses import replace

import numpy as np
import pytest

from husbandry.assess.probability import JointProbability
from husbandry.assessment import Band, Basis, BasisKind
from husbandry.climate import outcomes, spread
from husbandry.climate.case import EnclosureCase
from husbandry.climate.day import course
from husbandry.climate.parameters import PARAMETERS, PRIOR, Belief, deviation
from husbandry.climate.states import DAY_AND_NIGHT
from husbandry.climate.steady import solve_steady, varied
from tests.core.test_day import DAMP
from tests.core.test_enclosures import DIMMED, GLASS, PVC, flood
from tests.plans import assessed

# Two thermostats that take turns: which of them works depends on the draw.
TURNS = replace(
    DIMMED,
    heaters=(*DIMMED.heaters, flood(60, 0.45, 0.5, "ceramic-emitter", control="pulse", set_c=29.5, probe="warm-air")),
)
DRAWN = 1200


@pytest.mark.parametrize("case", [GLASS, DIMMED, TURNS, DAMP], ids=["glass", "dimmed", "two thermostats", "damp"])
def test_the_quick_draws_have_the_range_of_draws_through_the_whole_model(case: EnclosureCase) -> None:
    """Monte Carlo of the full model, 1200 draws: every decile to an eighth of the range and 0.1 of the unit.

    A duty that is nought in nine draws of ten to four per cent of its heater: it bends there, and its decile stands on the bend.
    """
    normals = np.random.default_rng(3).standard_normal((DRAWN, len(PARAMETERS)))
    full = varied(case, ("winter",), PRIOR.at(normals)).predicted()
    quick = solve_steady(case, seasons=("winter",))
    for at, phase in enumerate(DAY_AND_NIGHT):
        settled = quick.states["winter", phase]
        for name, values in full.items():
            low, high = np.quantile(values[at * DRAWN :][:DRAWN], (0.1, 0.9))
            close = 0.125 * (high - low) + (4.0 if name.startswith("duty") else 0.1)
            assert settled.predictions[name].low == pytest.approx(low, abs=close), (phase, name)
            assert settled.predictions[name].high == pytest.approx(high, abs=close), (phase, name)


def test_the_chance_to_be_in_band_is_that_of_the_whole_model() -> None:
    """Monte Carlo of the full model: each chance to six points, and that all three hold at once."""
    normals = np.random.default_rng(4).standard_normal((DRAWN, len(PARAMETERS)))
    full = varied(TURNS, ("winter",), PRIOR.at(normals)).predicted()
    draws = solve_steady(TURNS, seasons=("winter",)).states["winter", "day"].draws
    basis = Basis(BasisKind.ESTIMATE)
    bands = {"basking_surface": Band(40.5, 43, basis), "cool_air": Band(21.5, 23.5, basis), "cool_humidity": Band(38, 50, basis)}
    joint, together = JointProbability(), np.ones(DRAWN, bool)
    for name, band in bands.items():
        inside = spread.within(full[name][:DRAWN], band.low, band.high)
        together &= inside
        assert joint.of(name, band, draws[name]) == pytest.approx(inside.mean(), abs=0.06), name
    assert joint.all_hold() == pytest.approx(together.mean(), abs=0.06)


def test_drawn_days_are_days_of_drawn_enclosures() -> None:
    """Whole days stepped with drawn parameters: the median and the deciles of minutes to basking, and of the coldest air."""
    climate = solve_steady(PVC, seasons=("winter",))
    day, night = (climate.states["winter", phase] for phase in DAY_AND_NIGHT)
    plain = course(PVC, climate, "winter")
    normals = spread.normals()[:48, : len(PARAMETERS)]
    stepped = [course(PVC, climate, "winter", vary=PRIOR.at(row[None, :])) for row in normals]
    curves = np.array([one.basking_surface for one in stepped])
    phases = [(at.predictions["basking_surface"].value, at.draws["basking_surface"]) for at in (day, night)]
    quick = outcomes.drawn_curves(plain.basking_surface, plain.lit, phases[0], phases[1])
    least = day.predictions["basking_surface"].value - 8.0
    theirs = outcomes.minutes_until(curves, PVC.light_on_hour, least)
    ours = outcomes.minutes_until(quick, PVC.light_on_hour, least)
    for share in (0.25, 0.5, 0.75):
        assert np.nanquantile(ours, share) == pytest.approx(np.nanquantile(theirs, share), rel=0.25, abs=6)
    assert np.quantile(quick.max(axis=1), (0.1, 0.9)) == pytest.approx(np.quantile(curves.max(axis=1), (0.1, 0.9)), abs=0.7)


def test_minutes_are_counted_from_lights_on() -> None:
    """A straight rise of 6 K an hour from 20 °C at 08:00 reaches 29 °C after 90 minutes."""
    hours = np.arange(1, 289) * 5 / 60
    curve = np.where(hours > 8, 20 + 6 * np.minimum(hours - 8, 3), 20.0)[None, :]
    assert outcomes.minutes_until(curve, 8.0, 29.0) == pytest.approx([90.0], abs=0.5)
    assert np.isnan(outcomes.minutes_until(curve, 8.0, 45.0)).all()


def test_what_was_learnt_narrows_every_range() -> None:
    """Half the spread in every parameter is about half the range of every prediction."""
    half = tuple(tuple(0.5 if row == column else 0.0 for column in range(len(PARAMETERS))) for row in range(len(PARAMETERS)))
    before, after = solve_steady(GLASS), solve_steady(replace(GLASS, belief=Belief(root=half)))
    for name in ("basking_surface", "warm_air", "cool_air"):
        wide, narrow = (found.states["winter", "day"].predictions[name] for found in (before, after))
        assert narrow.high - narrow.low == pytest.approx(0.5 * (wide.high - wide.low), rel=0.12)


def test_a_learnt_middle_moves_the_prediction() -> None:
    warmer = tuple(1.0 if name == "room_k" else 0.0 for name in PARAMETERS)
    before, after = (solve_steady(replace(GLASS, belief=Belief(middle))) for middle in (PRIOR.middle, warmer))
    values = [found.states["winter", "night"].predictions["cool_air"].value for found in (before, after)]
    assert values[1] - values[0] == pytest.approx(1.0, abs=0.1)
    assert deviation("air_changes", 1.9937) == pytest.approx(1.0, abs=0.001)


def test_every_band_says_how_likely_it_holds_and_the_plan_that_all_do() -> None:
    found = assessed()
    chances = [item.likely for item in found.quantities if item.key in ("basking_surface", "cool_air", "cool_humidity", "uv_back")]
    assert len(chances) > 4
    assert all(chance is not None and 0 <= chance <= 1 for chance in chances)
    assert found.likely is not None
    assert found.likely <= min(chance for chance in chances if chance is not None)


def test_a_band_at_its_edge_is_a_toss_up() -> None:
    draws = solve_steady(GLASS).states["winter", "day"].draws["cool_air"]
    edge = Band(float(np.median(draws)), None, Basis(BasisKind.ESTIMATE))
    assert JointProbability().of("cool_air", edge, draws) == pytest.approx(0.5, abs=0.02)


def test_a_lamp_without_thermostat_is_not_known_to_a_few_kelvin_and_no_room_is_known_to_a_per_cent() -> None:
    """Trade, from memory: lamps of one class differ by a third in what they throw on a stone; room hygrometers by five per cent."""
    free, held = (solve_steady(case).states["winter", "day"].predictions for case in (PVC, DIMMED))
    surface, dry = free["basking_surface"], free["cool_humidity"]
    assert surface.high - surface.low > 0.4 * (surface.value - 21.0)
    assert held["basking_surface"].high - held["basking_surface"].low < 5.0
    empty = solve_steady(replace(PVC, heaters=(), bowl_m2=0.0)).states["winter", "day"].predictions["cool_humidity"]
    assert empty.low < empty.value - 5.0
    assert empty.high > empty.value + 5.0
    assert dry.high - dry.low > 8.0
