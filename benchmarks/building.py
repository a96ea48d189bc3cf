"""What building, testing and paying cost to work out, for the demo's three written plans.

PYTHONPATH=. .venv-test/bin/python benchmarks/building.py
"""

import os
import statistics
import time
from collections.abc import Callable
from datetime import date, datetime
from functools import partial
from typing import Any, Final

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
os.environ.setdefault("DATABASE_URL", "postgres://nobody@127.0.0.1:1/none")

import django

django.setup()

from husbandry.build.calendar import Timetable, timetable  # noqa: E402
from husbandry.build.graph import graph  # noqa: E402
from husbandry.build.settings import BuildSettings  # noqa: E402
from husbandry.design.commissioning import protocol  # noqa: E402
from husbandry.design.second_thermostat import second_thermostat  # noqa: E402
from husbandry.money.energy import year_energy  # noqa: E402
from husbandry.money.variants import variants  # noqa: E402
from husbandry.plan.habitat import HabitatPlan  # noqa: E402
from husbandry.plan.reading import read_data  # noqa: E402
from husbandry.species.book import find  # noqa: E402
from husbandry.wiring.cables import leads  # noqa: E402
from husbandry.wiring.consumers import consumers  # noqa: E402
from husbandry.wiring.settings import HabitatFeed  # noqa: E402
from ridgeback.home.demo import plans  # noqa: E402

TIMES: Final = 5
TODAY: Final = date(2026, 11, 29)
NOW: Final = datetime(2026, 11, 29, 18)  # noqa: DTZ001


def steps_and_days(plan: HabitatPlan) -> Timetable:
    return timetable(graph(plan, BuildSettings()), BuildSettings(), NOW)


def measured(what: str, work: Callable[[], Any]) -> None:
    work()
    spans = []
    for _turn in range(TIMES):
        begun = time.perf_counter()
        work()
        spans.append(1000 * (time.perf_counter() - begun))
    print(f"  {what}: median {statistics.median(spans):.0f} ms, most {max(spans):.0f} ms")


for document in plans(TODAY):
    plan = read_data(document)
    profile = find(plan.species)
    print(plan.name)
    measured("steps and their days", partial(steps_and_days, plan))
    measured("leads", partial(leads, plan, consumers(plan), HabitatFeed(), {}))
    measured("the test's protocol", partial(protocol, plan, profile, TODAY, "winter"))
    measured("second thermostats", partial(second_thermostat, plan, profile, TODAY))
    measured("a year of electricity", partial(year_energy, plan, profile))
    measured("variants judged", partial(variants, plan, profile, TODAY))
