"""How a build stands now: its steps by the plan as it is, what is done of them, their times, what keeps the animal out."""

import hashlib
from dataclasses import dataclass
from datetime import datetime

from django.utils import timezone

from husbandry.build.calendar import Timetable, timetable
from husbandry.build.graph import Graph, graph
from husbandry.build.kinds import TEST_RUN
from husbandry.build.rebuild import rebuild
from husbandry.build.settings import BuildSettings
from husbandry.build.standing import BuildStanding, standing
from husbandry.build.work import Step
from husbandry.plan.habitat import HabitatPlan
from ridgeback import clock
from ridgeback.building.models import Build, DoneStep
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat


@dataclass(frozen=True)
class BuildState:
    """A build with its steps as the plan asks for them now. `changed` are steps done for a plan that has changed since.

    `signed` tells whether the test was signed for, and is still the test of this plan.
    """

    build: Build
    plan: HabitatPlan
    settings: BuildSettings
    found: Graph
    done: dict[str, DoneStep]
    changed: tuple[str, ...]
    signed: bool
    times: Timetable
    now: BuildStanding


def local(at: datetime) -> datetime:
    """A moment by the room's clock, without a zone: what the core reckons with."""
    return timezone.localtime(at).replace(tzinfo=None)


def aware(at: datetime) -> datetime:
    """A moment of the core with the room's zone."""
    return timezone.make_aware(at)


def digest_of(step: Step) -> str:
    """What of the plan a step was done for."""
    return hashlib.sha256(f"{step.rests_on}|{step.of}".encode()).hexdigest()


def steps_of(plan: HabitatPlan, said: BuildSettings, before: HabitatPlan | None) -> Graph:
    """The steps of a build, or of a rebuild from the plan that stands. Raises CircleError."""
    return graph(plan, said) if before is None else rebuild(before, plan, said)


def open_build(habitat: Habitat) -> Build | None:
    """The build that goes on in a habitat; None where none does."""
    return Build.objects.filter(habitat=habitat, ended_at__isnull=True).first()


def read(build: Build, habitat: Habitat, at: datetime | None = None) -> BuildState:
    """Read a build. Raises mapping.UnreadablePlanError."""
    plan = mapping.plan_of(habitat)
    said = BuildSettings.model_validate(build.settings)
    before = None if build.before is None else HabitatPlan.model_validate(build.before)
    found = steps_of(plan, said, before)
    rows = {row.step: row for row in build.done.select_related("author")}
    known = {step.key: step for step in found.steps}
    changed = tuple(key for key, row in rows.items() if key in known and row.digest != digest_of(known[key]))
    done = {key: row for key, row in rows.items() if key in known and key not in changed}
    moments = {key: local(row.at) for key, row in done.items()}
    now = local(at or clock.now())
    ran = done.get(TEST_RUN)
    signed = build.test_passed_at is not None and ran is not None and build.test_passed_at >= ran.at
    return BuildState(
        build,
        plan,
        said,
        found,
        done,
        changed,
        signed,
        timetable(found, said, now, moments),
        standing(found, said, moments, now, test_passed=signed),
    )
