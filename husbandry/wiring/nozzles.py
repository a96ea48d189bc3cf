"""What the mister's nozzles reach of the floor, how long they spray, and what the pump and its hose make of it."""

import math
from dataclasses import dataclass
from typing import Final

import numpy as np

from husbandry.furnishing.water import misting_seconds, reservoir_days
from husbandry.plan.geometry import surface_m
from husbandry.plan.habitat import HabitatPlan

DOWN_M: Final = 0.03  # that a nozzle stands below the lid
LITRES: Final = 1000.0  # of a cubic metre
CELL_M: Final = 0.02
HOSE_M: Final = 0.004  # the bore of the usual hose of 6 mm outside (trade)
PUMP_G_MIN: Final = 1000.0  # that a small diaphragm pump delivers (trade: 1 to 1.5 litres a minute)
PUMP_BAR: Final = 5.0
WATER_KG_M3, WATER_PA_S = 998.0, 1.0e-3  # at 20 °C
LAMINAR: Final = 2300.0
DRAINED_MM: Final = 3.0  # of water a day on the floor, beyond which it has to run off (estimate)


@dataclass(frozen=True)
class Spray:
    """What a mister does.

    `places` of the nozzles along and from the front, m; `radius_m` of their circle on the ground. Shares of the floor: `reached`
    by one or more, `twice` by two or more. `seconds` by misting in `season`, the one that takes more; `reservoir_days` None where
    it has none. `flow_share` of what the pump gives; `hose_bar` lost in `hose_m` of hose; `floor_mm` of water a day; `drain` if it
    should run off.
    """

    places: tuple[tuple[float, float], ...]
    radius_m: float
    reached: float
    twice: float
    season: str
    seconds: tuple[float, ...]
    reservoir_days: float | None
    flow_share: float
    hose_m: float
    hose_bar: float
    floor_mm: float
    drain: bool


def nozzle_places(plan: HabitatPlan) -> tuple[tuple[float, float], ...]:
    """Return where the nozzles go: evenly in rows over the floor, along and from the front, m; () without a mister."""
    if plan.mister is None:
        return ()
    box, count = plan.enclosure, plan.mister.nozzles
    rows = max(1, min(count, round(math.sqrt(count * box.width_m / box.length_m))))
    shares = [count // rows + (1 if row < count % rows else 0) for row in range(rows)]
    return tuple(
        (box.length_m * (place + 0.5) / share, box.width_m * (row + 0.5) / rows)
        for row, share in enumerate(shares)
        for place in range(share)
    )


def spray(plan: HabitatPlan) -> Spray | None:
    """Return what the mister does; None for a plan without one.

    Parameters
    ----------
    plan
        The habitat.

    Returns
    -------
    Spray.

    References
    ----------
    Loss in the hose: Darcy and Weisbach with Hagen and Poiseuille's friction below a Reynolds number of 2300, Blasius' above it
    (White, Fluid Mechanics; from memory). Angles and pumps: common practice, no source.
    """
    if plan.mister is None:
        return None
    box, mister, places = plan.enclosure, plan.mister, nozzle_places(plan)
    drop_m = max(box.height_m - DOWN_M - surface_m(plan, box.length_m / 2), 0.05)
    radius_m = drop_m * math.tan(math.radians(mister.cone_deg / 2))
    x = np.arange(CELL_M / 2, box.length_m, CELL_M)[:, None]
    y = np.arange(CELL_M / 2, box.width_m, CELL_M)[None, :]
    times = sum(((x - at_x) ** 2 + (y - at_y) ** 2 <= radius_m**2).astype(int) for at_x, at_y in places)
    season = max(("summer", "winter"), key=lambda one: sum(time.grams for time in plan.misting.of(one).times))
    watering = plan.misting.of(season)
    grams = sum(time.grams for time in watering.times)
    days = None if mister.reservoir_m3 is None or grams <= 0 else reservoir_days(LITRES * mister.reservoir_m3, grams)
    flow = mister.nozzles * mister.nozzle_g_min
    hose_m = 2 * box.length_m + 2.0
    floor_mm = (grams + watering.grams_per_day) / 1000 / (box.length_m * box.width_m)
    return Spray(
        places,
        radius_m,
        float(np.mean(times >= 1)),
        float(np.mean(times >= 2)),
        season,
        tuple(misting_seconds(time.grams, mister.nozzles, mister.nozzle_g_min) for time in watering.times),
        days,
        flow / (mister.pump_g_min or PUMP_G_MIN),
        hose_m,
        hose_loss_bar(flow, hose_m),
        floor_mm,
        floor_mm > DRAINED_MM and plan.pool is None,
    )


def hose_loss_bar(g_min: float, hose_m: float, bore_m: float = HOSE_M) -> float:
    """Return the pressure that a flow loses in a straight smooth hose.

    Parameters
    ----------
    g_min
        Flow of water, g/min.
    hose_m, bore_m
        Length and inner diameter, m.

    Returns
    -------
    bar.

    References
    ----------
    Darcy and Weisbach; Blasius 1913 (White, Fluid Mechanics; from memory).
    """
    area_m2 = math.pi * bore_m**2 / 4
    speed = g_min / 60 / 1000 / WATER_KG_M3 / area_m2
    reynolds = WATER_KG_M3 * speed * bore_m / WATER_PA_S
    if reynolds <= 0:
        return 0.0
    friction = 64 / reynolds if reynolds < LAMINAR else 0.316 * reynolds**-0.25
    return friction * hose_m / bore_m * WATER_KG_M3 * speed**2 / 2 / 1e5
