"""A step that was done, and one that was not after all."""

from datetime import datetime

from husbandry.build.kinds import ANIMAL_IN, TEST_RUN
from husbandry.build.work import Step
from ridgeback.building.actions.begin_build import still_open
from ridgeback.building.models import Build, DoneStep
from ridgeback.building.reading import digest_of
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing


def do_step(build: Build, intent: Intent, step: Step, at: datetime, note: str, what: str) -> DoneStep:
    """Write down that a step's work was done at a moment. Raises AlreadyWritten, Refused for one that is done or lies ahead."""
    if at > intent.at:
        raise Refused("in_the_future")
    if step.kind == ANIMAL_IN:
        raise Refused("gone")
    with writing(intent, [build.habitat_id]):
        still_open(build)
        row = DoneStep.objects.filter(build=build, step=step.key).first()
        digest = digest_of(step)
        if row is not None and row.digest == digest:
            raise Refused("step_done")
        told = {"at": at, "author": intent.author, "note": note[:500], "digest": digest}
        made, _new = DoneStep.objects.update_or_create(build=build, step=step.key, defaults=told)
        log.record(build.habitat, Event.Kind.BUILT, at, intent.author, what=what, **({"note": note[:500]} if note else {}))
        return made


def undo_step(build: Build, intent: Intent, key: str, what: str) -> None:
    """Take back that a step was done. Raises AlreadyWritten, Refused where it is not."""
    with writing(intent, [build.habitat_id]):
        fresh = still_open(build)
        gone, _each = DoneStep.objects.filter(build=build, step=key).delete()
        if not gone:
            raise Refused("gone")
        if key == TEST_RUN and fresh.test_passed_at is not None:
            fresh.test_passed_at, fresh.test_by = None, ""
            fresh.save(update_fields=["test_passed_at", "test_by"])
        log.record(build.habitat, Event.Kind.BUILT, intent.at, intent.author, what=what)
