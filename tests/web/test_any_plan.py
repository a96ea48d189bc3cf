"""Whatever a keeper may type: it is assessed, said in words, drawn, and every change offered leaves a document or says why not."""

import json

import numpy as np
from hypothesis import HealthCheck, Phase, given, settings
from pydantic import ValidationError

from husbandry.assessment import Remedy
from husbandry.plan import hanging, scenarios
from husbandry.plan.assess import assess
from husbandry.plan.document import HabitatPlan
from husbandry.plan.edit import apply
from husbandry.plan.report import report
from husbandry.species.book import find
from ridgeback.planner import wording
from ridgeback.planner.drawing import daystrip, hours, section
from ridgeback.units import METRIC
from tests.anyplan import plans
from tests.plans import TODAY

# Always the same plans, and a failure is shown as it came: shrinking one takes minutes.
ANY = settings(derandomize=True, database=None, phases=(Phase.generate,), suppress_health_check=list(HealthCheck))
SANE_C = 150.0  # hotter than this nothing is but a lamp all but on the stone, where only words matter


def refused(plan: HabitatPlan, remedy: Remedy) -> set[str]:
    """Why the document does not take a remedy's changes; nothing where it does."""
    try:
        HabitatPlan.model_validate(apply(plan.model_dump(mode="json"), remedy.changes))
    except ValidationError as problems:
        return {error["type"] for error in problems.errors()}
    return set()


@settings(ANY, max_examples=40)
@given(plans)
def test_any_plan_is_assessed_said_and_drawn(plan: HabitatPlan) -> None:
    profile = find(plan.species)
    found = assess(plan, profile, TODAY)
    json.dumps(report(found), allow_nan=False)
    for season, day in found.days.items():
        assert np.isfinite(day.nodes).all()
        assert (day.duty >= 0).all()
        assert (day.duty <= 1).all()
        assert day.warm_humidity.min() >= 0
        assert day.warm_humidity.max() <= 100
        if day.nodes.max() < SANE_C:
            room = getattr(plan.room, season)
            coldest = min(room.day_c, room.night_c, *room.curve_c)
            assert day.nodes.min() > coldest - 40  # no chiller, fan or damp ground takes it further
        for moment in ("day", "night"):
            section.draw(plan, profile, found, season, moment, METRIC, wording.part_names(), plan)
        daystrip.draw(plan, found, season, METRIC, (700.0, 150.0))
    for finding in found.findings:
        assert wording.finding(finding, METRIC)
        if finding.remedy is None:
            continue
        assert wording.remedy(finding.remedy, METRIC)
        # Past the document's limits the page says so; never anything but a number too large or too small.
        assert refused(plan, finding.remedy) <= {"less_than_equal", "greater_than_equal", "greater_than"}


@settings(ANY, max_examples=8)
@given(plans)
def test_anything_can_go_wrong_with_any_plan(plan: HabitatPlan) -> None:
    profile = find(plan.species)
    for code in scenarios.possible(plan, profile, TODAY):
        scenario = scenarios.run(code, plan, profile, TODAY)
        assert np.isfinite(scenario.day.nodes).all()
    hanging.ways(plan, profile, TODAY)
    assert len(hours.frames(plan, assess(plan, profile, TODAY), "winter", METRIC)) == 48
