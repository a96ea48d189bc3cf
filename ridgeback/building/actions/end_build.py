"""The end of a build: the test signed for, the animal in, or given up."""

from ridgeback.building.actions.begin_build import still_open
from ridgeback.building.models import Build
from ridgeback.building.reading import read
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing

LEAST_REASON = 10


def sign_test(build: Build, intent: Intent, name: str, note: str, what: str, *, complete: bool) -> None:
    """Sign that the readings of the test run stand in their bands; what is not `complete` only with a reason in the note.

    Raises AlreadyWritten, Refused before it has run its time.
    """
    with writing(intent, [build.habitat_id]):
        fresh = still_open(build)
        now = read(fresh, fresh.habitat, intent.at)
        if "test-run" not in now.done or "test-run" in now.now.curing:
            raise Refused("test_not_run")
        if not name.strip():
            raise Refused("test_unsigned")
        if not complete and len(note.strip()) < LEAST_REASON:
            raise Refused("test_incomplete")
        fresh.test_passed_at, fresh.test_by, fresh.test_note = intent.at, name.strip()[:80], note.strip()[:500]
        fresh.save(update_fields=["test_passed_at", "test_by", "test_note"])
        log.record(fresh.habitat, Event.Kind.BUILT, intent.at, intent.author, what=what)


def move_in(build: Build, intent: Intent, reason: str, what: str) -> None:
    """The animal moves in; against a lock only with a reason, which is kept. Raises AlreadyWritten, Refused."""
    with writing(intent, [build.habitat_id]):
        fresh = still_open(build)
        locked = not read(fresh, fresh.habitat, intent.at).now.may_move_in
        if locked and len(reason.strip()) < LEAST_REASON:
            raise Refused("still_locked")
        fresh.moved_in_at = fresh.ended_at = intent.at
        fresh.override = reason.strip()[:500] if locked else ""
        fresh.save(update_fields=["moved_in_at", "ended_at", "override"])
        told = {"note": fresh.override} if fresh.override else {}
        log.record(fresh.habitat, Event.Kind.BUILT, intent.at, intent.author, what=what, **told)


def give_up(build: Build, intent: Intent, what: str) -> None:
    """End a build without an animal; what was done stays. Raises AlreadyWritten, Refused."""
    with writing(intent, [build.habitat_id]):
        fresh = still_open(build)
        fresh.ended_at = intent.at
        fresh.save(update_fields=["ended_at"])
        log.record(fresh.habitat, Event.Kind.BUILT, intent.at, intent.author, what=what)
