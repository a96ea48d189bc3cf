"""A day in minutes against scipy's integrators on the same equations in the same run; the UV field; the search for a rig.

Run by hand: `OPENBLAS_NUM_THREADS=1 PYTHONPATH=. .venv-test/bin/python benchmarks/day.py`. Figures are kept in docs/performance.md.
"""

import os
import statistics
import time
from collections.abc import Callable
from datetime import date

import django
import numpy as np

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
django.setup()

from husbandry.climate.day import DayModel  # noqa: E402
from husbandry.climate.steady import solve_steady  # noqa: E402
from husbandry.design import rigs  # noqa: E402
from husbandry.light import ultraviolet  # noqa: E402
from husbandry.plan.reading import read_data  # noqa: E402
from husbandry.species.book import find  # noqa: E402
from ridgeback.home import demo  # noqa: E402
from tests.core.reference import thermostat_day, timer_day  # noqa: E402
from tests.core.test_day import CYCLING, SWUNG  # noqa: E402

TODAY = date(2026, 11, 24)
METHODS = ("LSODA", "BDF", "RK45", "RK23")


def timed(work: Callable[[], object], rounds: int = 30) -> float:
    """Median time in ms."""
    work()
    spans = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        spans.append(1000 * (time.perf_counter() - began))
    return statistics.median(spans)


def yardstick() -> None:
    """How fast the machine is just now."""
    print(f"a hundred thousand squares in a list: {timed(lambda: [k * k for k in range(100_000)], 5):.1f} ms")


def timers() -> None:
    climate = solve_steady(SWUNG, spread=False)
    model = DayModel(SWUNG, climate, "winter")
    nodes = model.nodes.count
    exact = timer_day(SWUNG, climate, "winter", "LSODA", 1e-9)
    ours = np.roll(model.run().course().nodes, -model.first_minute, axis=0)
    error = np.abs(ours - exact[:, :nodes]).max()
    own = timed(lambda: model.run().course())
    built = timed(lambda: DayModel(SWUNG, climate, "winter"))
    print(f"timer day: ours {own:.2f} ms, error {error:.3f} K (and {built:.2f} ms to build)")
    best = np.inf
    for method in METHODS:
        # The loosest tolerance with no more error than ours.
        for tolerance in (1e-2, 3e-3, 1e-3, 3e-4, 1e-4, 1e-5, 1e-6):
            found = timer_day(SWUNG, climate, "winter", method, tolerance)
            if np.abs(found[:, :nodes] - exact[:, :nodes]).max() <= max(error, 0.02):
                span = timed(lambda m=method, t=tolerance: timer_day(SWUNG, climate, "winter", m, t), 3)  # type: ignore[misc]
                best = min(best, span)
                print(f"  solve_ivp {method} at {tolerance:g}: {span:.0f} ms")
                break
    print(f"  {best / own:.0f} times")


def thermostats() -> None:
    climate = solve_steady(CYCLING, spread=False)
    model = DayModel(CYCLING, climate, "winter")
    day = model.run().course()
    switches = int(np.abs(np.diff(day.duty, axis=0)).sum())
    own, whole = timed(lambda: model.run()), timed(lambda: model.run().course())
    print(f"three cycling thermostats, {switches} switches, with vapour: ours {own:.2f} ms, {whole:.2f} ms with minutes unfolded")
    best = np.inf
    for method in ("LSODA", "BDF", "RK45"):
        span = timed(lambda m=method: thermostat_day(CYCLING, climate, "winter", m, 1e-3), 1)  # type: ignore[misc]
        best = min(best, span)
        print(f"  solve_ivp {method} at 1e-3, restarted at its switches: {span:.0f} ms")
    print(f"  {best / whole:.0f} times")


def field() -> None:
    lamps = (
        ultraviolet.Lamp("slim-12", 0.55, 0.35, 0.45, True, 3.0, 0.65, 1.0),
        ultraviolet.Lamp("slim-6", 0.3, 0.9, 0.45, True, 1.0, 1.0, 1.0),
    )
    x, height = np.linspace(0, 1.2, 200), np.linspace(0.05, 0.44, 100)
    shades = (ultraviolet.Shade(0.4, 0.6, 0.12),)
    span = timed(lambda: ultraviolet.index_at(lamps, x[None, :], height[:, None], shades))
    print(f"UV field of 200 by 100, two tubes and a roof: {span:.2f} ms")


def search() -> None:
    for document in demo.plans(TODAY):
        plan = read_data(document)
        profile = find(plan.species)
        print(f"a rig for {plan.name}: {timed(lambda p=plan, s=profile: list(rigs.search(p, s, TODAY)), 3) / 1000:.2f} s")  # type: ignore[misc]


if __name__ == "__main__":
    for part in (yardstick, timers, thermostats, field, search, yardstick):
        part()
