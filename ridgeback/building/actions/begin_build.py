"""Beginning a build, and saying how it is built."""

from typing import Any

from husbandry.build.settings import BuildSettings
from ridgeback.building.models import Build
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat


def begin_build(habitat_id: int, intent: Intent, said: BuildSettings, *, again: bool, what: str) -> Build:
    """Begin a build, or with `again` a rebuild of what stands. Raises AlreadyWritten, Refused where one goes on."""
    with writing(intent, [habitat_id]):
        if Build.objects.filter(habitat=habitat_id, ended_at__isnull=True).exists():
            raise Refused("build_goes_on")
        habitat = Habitat.objects.select_related("head__profile", "company", "room").get(pk=habitat_id)
        before: dict[str, Any] | None = mapping.plan_of(habitat).model_dump(mode="json") if again else None
        about = {"author": intent.author, "begun_at": intent.at, "settings": said.model_dump(mode="json"), "before": before}
        made = Build.objects.create(habitat=habitat, **about)
        log.record(habitat, Event.Kind.BUILT, intent.at, intent.author, what=what)
        return made


def settle_build(build: Build, intent: Intent, said: BuildSettings, version: int) -> Build:
    """Change how it is built. Raises AlreadyWritten, Refused where it ended or was changed meanwhile."""
    with writing(intent, [build.habitat_id]):
        fresh = still_open(build)
        if fresh.version != version:
            raise Refused("build_changed")
        fresh.settings, fresh.version = said.model_dump(mode="json"), fresh.version + 1
        fresh.save(update_fields=["settings", "version"])
        return fresh


def still_open(build: Build) -> Build:
    """The build as it is now, under its habitat's lock. Raises Refused where it has ended."""
    fresh = Build.objects.filter(pk=build.pk, ended_at__isnull=True).first()
    if fresh is None:
        raise Refused("gone")
    return fresh
