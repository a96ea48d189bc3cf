"""What can report from a habitat: its plan's places, its heaters' plugs, its animals on the scale; and from the room."""

from dataclasses import dataclass
from typing import Any, Final

from django.utils.text import slugify
from django.utils.translation import gettext as _

from ridgeback.language.placewords import PLACE_NAMES
from ridgeback.language.wording import part_names
from ridgeback.planner import mapping, readings
from ridgeback.rooms.models import Animal, Habitat, Room
from ridgeback.rooms.residents import living_in
from ridgeback.series.models import Channel
from ridgeback.series.places import MISTED, OF_THE_ROOM, OWN, PLACES, POWER, WEIGHT

MOST_CODE: Final = 60


@dataclass(frozen=True)
class Source:
    """Something that can report: its key in a form, its words, and what a channel of it has."""

    key: str
    words: str
    place: str
    heater: int = 0
    animal: Animal | None = None
    x_m: float | None = None
    height_m: float | None = None


def of_room() -> list[Source]:
    """What the room itself can report."""
    return [Source(place, str(PLACE_NAMES[place]), place) for place in OF_THE_ROOM]


def of_habitat(habitat: Habitat) -> list[Source]:
    """What a habitat can report. Raises mapping.UnreadablePlanError."""
    plan = mapping.plan_of(habitat)
    found = []
    for key, words in readings.places(plan):
        place, spot = readings.place_and_spot(plan, key)
        at: dict[str, Any] = {} if spot is None else {"x_m": spot.x_m, "height_m": spot.height_m}
        found.append(Source(key, str(words), place, **at))
    names = part_names()
    for index, heater in enumerate(plan.heaters):
        words = _("power of heater %(n)s: %(kind)s") % {"n": index + 1, "kind": names.get(heater.kind, heater.kind)}
        found.append(Source(f"{POWER}-{index}", words, POWER, heater=index))
    if plan.misting.times:
        found.append(Source(MISTED, str(PLACE_NAMES[MISTED]), MISTED))
    for one in living_in([habitat.pk])[habitat.pk]:
        words = _("weight of %(name)s") % {"name": one.animal.called}
        found.append(Source(f"{WEIGHT}-{one.animal_id}", words, WEIGHT, animal=one.animal))
    return found


def code_for(room: Room, habitat: Habitat | None, source: Source) -> str:
    """A code that no channel of the room has yet: the habitat and the place."""
    parts = [habitat.name if habitat is not None else "", source.key if source.place not in (POWER, WEIGHT) else source.place]
    if source.place == POWER:
        parts.append(str(source.heater + 1))
    if source.animal is not None:
        parts.append(source.animal.called)
    stem = slugify(" ".join(parts))[: MOST_CODE - 4] or "channel"
    taken = set(Channel.objects.filter(room=room, code__startswith=stem).values_list("code", flat=True))
    return next(code for turn in range(1, 999) if (code := stem if turn == 1 else f"{stem}-{turn}") not in taken)


def fits(kind: str, source: Source) -> bool:
    """Tell whether an instrument of a kind can read there."""
    return kind in PLACES[source.place].kinds


def same(channel: Channel, source: Source) -> bool:
    """Tell whether a channel is of this source."""
    if (channel.place, channel.heater) != (source.place, source.heater):
        return False
    if source.place == OWN:
        return (channel.x_m, channel.height_m) == (source.x_m, source.height_m)
    return channel.animal_id == (None if source.animal is None else source.animal.pk)
