"""Whatever plan a keeper may have: no change that is offered for any finding adds a danger, and each mends what it promises."""

from dataclasses import replace

import pytest
from hypothesis import HealthCheck, Phase, given, seed, settings

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import applied, endangers, mends, vetted
from husbandry.assessment import Verdict
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.anyplan import plans
from tests.plans import TODAY, plan
from tests.sample import times

ANY = settings(database=None, phases=(Phase.generate,), suppress_health_check=list(HealthCheck), deadline=None)


@pytest.mark.sweep
@pytest.mark.parametrize("number", range(4))
def test_no_remedy_of_any_finding_adds_a_danger(number: int) -> None:
    """Each is made on the document itself and judged as any other plan is, in full; four rounds, for two workers to share."""

    @seed(number)
    @settings(ANY, max_examples=times(2, 4))
    @given(plans)
    def every(drawn: HabitatPlan) -> None:
        holds(drawn)

    every()


def holds(drawn: HabitatPlan) -> None:
    profile = find(drawn.species)
    found = assess(drawn, profile, TODAY, depth=NO_DAYS)
    for finding in vetted(drawn, profile, found).findings:
        if finding.remedy is None or not finding.remedy.changes:
            continue
        after = assess(read_data(applied(drawn, finding.remedy.changes)), profile, TODAY, depth=NO_DAYS)
        assert not endangers(found, after), (finding.id, finding.remedy)
        assert mends(after, finding), (finding.id, finding.remedy)


@pytest.mark.parametrize(
    ("before_c", "after_c", "grown"), [(0.0126, 0.0115, False), (8.0, 7.9, False), (0.5, -0.5, True), (8.0, 7.0, True)]
)
def test_a_danger_of_cold_grows_by_kelvins_and_not_by_shares_of_celsius(before_c: float, after_c: float, grown: bool) -> None:
    """At a hundredth of a degree above nought a thousandth of a kelvin was "two per cent worse", and its remedy was refused."""
    found = assess(plan(room__winter__night_c=5.0), find("african-fat-tailed-gecko"), TODAY, depth=NO_DAYS)

    def at(value: float) -> Assessment:
        cold = [replace(item, value=value) if item.id == "cool_air/winter/night" else item for item in found.quantities]
        assert found.quantity("cool_air", "winter", "night").verdict is Verdict.DANGEROUS
        return replace(found, quantities=tuple(cold))

    assert endangers(at(before_c), at(after_c)) is grown
