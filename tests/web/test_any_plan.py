"""Whatever a keeper may type: it is assessed, said in words, drawn, and every change offered leaves a document or says why not."""

import json
from dataclasses import asdict
from datetime import timedelta

import numpy as np
import pytest
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from husbandry.animal.body import body_of
from husbandry.assess.assess import assess
from husbandry.assess.report import report
from husbandry.assessment import Remedy
from husbandry.design import mounting, scenarios
from husbandry.feeding import week_food
from husbandry.feeding.history import History, RecordedMeal
from husbandry.plan.editing import apply
from husbandry.plan.feeding_settings import Feeding
from husbandry.plan.habitat import HabitatPlan
from husbandry.rota import card as cards
from husbandry.rota.card import RoomDays, compile_card
from husbandry.species.book import find
from ridgeback.drawing import daystrip, hours, section
from ridgeback.language import rotawords, wording
from ridgeback.planner import feeds
from ridgeback.rota import menu
from ridgeback.units import METRIC
from tests.anyplan import feedings, plans
from tests.plans import TODAY
from tests.sample import times

pytestmark = pytest.mark.sweep

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


@pytest.mark.parametrize("number", range(4))
def test_any_plan_is_assessed_said_and_drawn(number: int) -> None:
    """Twenty plans, forty in `./test all`, in four rounds for two workers to share."""

    @seed(number)
    @settings(ANY, derandomize=False, max_examples=times(5, 10))
    @given(plans)
    def every(plan: HabitatPlan) -> None:
        assessed_said_and_drawn(plan)

    every()


def assessed_said_and_drawn(plan: HabitatPlan) -> None:
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
        for phase in ("day", "night"):
            section.draw(plan, profile, found, section.Look(season, phase, METRIC, wording.part_names(), plan))
        daystrip.draw(plan, found, season, METRIC, (700.0, 150.0))
    for finding in found.findings:
        assert wording.finding(finding, METRIC)
        if finding.remedy is None:
            continue
        assert wording.remedy(finding.remedy, METRIC)
        # Past the document's limits the page says so; never anything but a number too large or too small.
        assert refused(plan, finding.remedy) <= {"less_than_equal", "greater_than_equal", "greater_than"}


@settings(ANY, max_examples=times(1, 5))
@given(plans)
def test_anything_can_go_wrong_with_any_plan(plan: HabitatPlan) -> None:
    whatever_goes_wrong(plan)


def whatever_goes_wrong(plan: HabitatPlan) -> None:
    profile = find(plan.species)
    for code in scenarios.possible(plan, profile, TODAY):
        scenario = scenarios.run(code, plan, profile, TODAY)
        assert np.isfinite(scenario.day.nodes).all()
    mounting.ways(plan, profile, TODAY)
    assert len(hours.frames(plan, assess(plan, profile, TODAY), "winter", METRIC)) == 48


MEALS = st.lists(st.tuples(st.integers(0, 200), st.sampled_from(["eaten", "part", "refused", "skipped"])), max_size=12)


@settings(ANY, max_examples=times(75, 150))
@given(plans, feedings, MEALS, st.sets(st.integers(0, 6)))
def test_any_food_is_added_up_laid_out_and_said(
    plan: HabitatPlan, feeding: Feeding, told: list[tuple[int, str]], weekdays: set[int]
) -> None:
    """Whatever is fed to whatever, dusted with whatever, recorded however: sums are finite, days in order, words there."""
    fed_and_laid_out(plan, feeding, told, weekdays)


def fed_and_laid_out(plan: HabitatPlan, feeding: Feeding, told: list[tuple[int, str]], weekdays: set[int]) -> None:
    made = plan.model_copy(update={"feeding": feeding})
    profile = find(made.species)
    body = body_of(made, profile, TODAY)
    fed = week_food.fed(made, profile, body.decision.stage, body, uvb=False)
    if fed.week is not None:
        numbers = [value for value in asdict(fed.week).values() if isinstance(value, float)]
        assert np.isfinite(numbers).all()
        assert min(numbers) >= 0
    for ration in fed.rations:
        assert feeds.ration_text(ration, METRIC)
    meals = tuple(
        RecordedMeal(TODAY - timedelta(days=ago), outcome, ("multivitamin",)) for ago, outcome in sorted(told, reverse=True)
    )
    card = compile_card(made, profile, TODAY, History(TODAY - timedelta(days=30), meals))
    assert cards.from_data(json.loads(json.dumps(cards.to_data(card)))) == card
    days = cards.expand(card, TODAY, TODAY + timedelta(days=90), RoomDays(TODAY, weekdays=tuple(sorted(weekdays))))
    assert [item.day for item in days.feeds] == sorted({item.day for item in days.feeds})
    assert not any(fast.holds(item.day) for item in days.feeds for fast in card.feed.fasts)
    for items in days.dusting.values():
        assert sum(item.product.fat_soluble for item in items) <= 1
    for item in days.jobs:
        assert TODAY <= item.day < TODAY + timedelta(days=90)
        assert rotawords.job(item.id).name
    assert isinstance(menu.foods_text(card.uses), str)
