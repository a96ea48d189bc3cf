"""How animals and their kinds are called."""

from collections.abc import Iterable

from husbandry.species.book import find, shipped
from ridgeback.book.models import Entry, OwnProfile
from ridgeback.language.booktext import book
from ridgeback.rooms.models import Animal


def kind_names(animals: Iterable[Animal]) -> dict[tuple[int, str], str]:
    """The common names of some animals' kinds, by room and profile's id; the id itself where the book has it no more: one query."""
    wanted = {(one.room_id, one.species) for one in animals}
    mine = OwnProfile.objects.filter(room__in={room for room, _species in wanted}).values_list("room_id", "species", "common")
    named = {(room, species): common for room, species, common in mine}
    return {
        (room, species): book(named.get((room, species)) or (find(species).common if species in shipped() else species))
        for room, species in wanted
    }


def profile_name(animal: Animal) -> str:
    """The same for one."""
    return kind_names([animal])[animal.room_id, animal.species]


def kinds_of_room(room_id: int, first: str) -> list[tuple[str, str]]:
    """The kinds that a room's book knows, as (profile's id, common name); the `first` on top."""
    found = Entry.objects.filter(own__isnull=True) | Entry.objects.filter(own__room=room_id)
    named = {first: first} | {one.species: book(one.common) for one in found.order_by("common")}
    return sorted(named.items(), key=lambda item: (item[0] != first, item[1]))
