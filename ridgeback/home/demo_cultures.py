"""The Learning Room's made-up cultures, a gut-load, and the size of its freezer."""

from datetime import date, timedelta
from typing import Final

from husbandry.diet.gutload import CARBONATE
from ridgeback.pantry.models import Culture, Freezer, GutLoad
from ridgeback.rooms.models import Room

# Kind, name, vessels, °C (None where nobody has read it), days ago, days since it was split.
KEPT: Final = (
    ("fruit-fly", "Flies, Monday cups", 4, 23.5, 19, 9),
    ("springtail", "", 3, 21.0, 120, 58),
    ("dubia-roach", "Roaches under the bench", 1, 29.0, 420, None),
    ("dandelion", "Window trays", 3, None, 60, None),
)
ENDED: Final = ("cricket", "Cricket bin", 1, 27.0, 96, 12, "foul-air")
FREEZER_L: Final = 98.0


def keep(room: Room, today: date) -> None:
    """Begin the room's cultures."""
    for kind, name, vessels, warm_c, days, split in KEPT:
        last = None if split is None else today - timedelta(days=split)
        about = {"kind": kind, "name": name, "vessels": vessels, "temperature_c": warm_c, "last_split": last}
        Culture.objects.create(room=room, started=today - timedelta(days=days), **about)
    kind, name, vessels, warm_c, days, ended, why = ENDED
    gone = {"ended_on": today - timedelta(days=ended), "ended_by": why}
    begun = {"kind": kind, "name": name, "vessels": vessels, "temperature_c": warm_c}
    Culture.objects.create(room=room, started=today - timedelta(days=days), **begun, **gone)
    GutLoad.objects.create(room=room, name="Roach dry mix", parts={"pellet": 4.0, "grass-hay": 2.0, CARBONATE: 1.0})
    Freezer.objects.create(room=room, litres=FREEZER_L)
