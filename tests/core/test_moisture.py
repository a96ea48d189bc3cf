"""Water through the day: bedding takes it up and gives it off, films shrink, dew stays where it fell and dries again."""

from dataclasses import replace

import numpy as np
import pytest

from husbandry.climate.case import EnclosureCase, MistingCase, RoomState
from husbandry.climate.day import DayModel, DayRun, course
from husbandry.climate.steady import solve_steady
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
