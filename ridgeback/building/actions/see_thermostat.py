"""A thermostat was seen switching, or was not after all."""

from ridgeback.building.actions.begin_build import still_open
from ridgeback.building.models import Build
from ridgeback.daybook.writing import Intent, writing


def see_thermostat(build: Build, intent: Intent, key: str, *, seen: bool) -> None:
    """Keep at which moment one end of a thermostat was seen. Raises AlreadyWritten, Refused where the build has ended."""
    with writing(intent, [build.habitat_id]):
        fresh = still_open(build)
        rest = {name: at for name, at in fresh.seen.items() if name != key}
        fresh.seen = rest | {key: intent.at.isoformat()} if seen else rest
        fresh.save(update_fields=["seen"])
