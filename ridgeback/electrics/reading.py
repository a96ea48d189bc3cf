"""A room's electricity as it stands: what its keepers said, and what its habitats' plans plug in."""

from dataclasses import dataclass
from math import ceil
from string import ascii_uppercase
from typing import Final

from husbandry.plan.habitat import HabitatPlan
from husbandry.wiring.consumers import Consumer, consumers
from husbandry.wiring.settings import Circuit, Strip, Wiring
from ridgeback.electrics.models import RoomWiring
from ridgeback.planner import mapping
from ridgeback.planner.mapping import UnreadablePlanError
from ridgeback.rooms.models import Habitat, Room

EUROPE_V, AMERICA_V = 230.0, 120.0
SOCKETS: Final = 6  # of the usual strip
AMERICA_A: Final = 15.0  # that a breaker, and a strip, usually has there (from memory)


@dataclass(frozen=True)
class Wired:
    """A room's wiring, its version (0: nobody said anything yet), and each habitat with its plan and consumers.

    `said` is all that was said, of habitats that are set aside too.
    """

    wiring: Wiring
    version: int
    habitats: dict[str, Habitat]
    plans: dict[str, HabitatPlan]
    rooms: dict[str, tuple[Consumer, ...]]
    said: Wiring


def usual(count: int, *, american: bool) -> Wiring:
    """What a room with so many things to plug in begins with: one circuit of which nothing is known, strips enough for all."""
    volts, amps, strip_a = (AMERICA_V, AMERICA_A, AMERICA_A) if american else (EUROPE_V, 16.0, 10.0)
    letters = ascii_uppercase[: max(2, ceil(count / SOCKETS))]
    strips = tuple(Strip(name=f"Strip {letter}", circuit="Room", rated_a=strip_a, sockets=SOCKETS) for letter in letters)
    return Wiring(volts=volts, circuits=(Circuit(name="Room", breaker_a=amps),), strips=strips)


def read(room: Room, *, american: bool) -> Wired:
    """Read a room's wiring; a habitat whose plan cannot be read is left out. Plugs of what the plans have no more are dropped."""
    row = RoomWiring.objects.filter(room=room).first()
    habitats, plans = {}, {}
    rows = (
        Habitat.objects.filter(room=room, set_aside_at__isnull=True)
        .select_related("company", "head__profile", "room")
        .order_by("name", "id")
    )
    for habitat in rows.defer("head__profile__document"):
        try:
            plans[str(habitat.pk)] = mapping.plan_of(habitat)
        except UnreadablePlanError:
            continue
        habitats[str(habitat.pk)] = habitat
    rooms = {key: consumers(plan) for key, plan in plans.items()}
    said = usual(sum(map(len, rooms.values())), american=american) if row is None else Wiring.model_validate(row.document)
    return Wired(pruned(said, rooms), 0 if row is None else row.version, habitats, plans, rooms, _known(said, rooms))


def _known(said: Wiring, rooms: dict[str, tuple[Consumer, ...]]) -> Wiring:
    """All that was said, without plugs of what is no more in the plans that there are."""
    return said.model_copy(update={"feeds": said.feeds | pruned(said, rooms).feeds})


def pruned(said: Wiring, rooms: dict[str, tuple[Consumer, ...]]) -> Wiring:
    """The wiring of the habitats that there are, without plugs of what is no more in their plans."""
    feeds = {}
    for key, feed in said.feeds.items():
        if key not in rooms:
            continue
        there = {one.key for one in rooms[key]}
        feeds[key] = feed.model_copy(update={"plugs": {name: plug for name, plug in feed.plugs.items() if name in there}})
    return said.model_copy(update={"feeds": feeds})
