"""A keeper reaches an animal, an entry or a clutch only through a membership of its room; everything else does not exist."""

from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from ridgeback.daybook.models import Event
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.rooms.models import Animal


def animal_or_404(request: HttpRequest, pk: int) -> Animal:
    """Return the animal if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(
        Animal.objects.select_related("room", "mother", "father"), pk=pk, room__in=rooms_of(keeper_of(request))
    )


def event_or_404(request: HttpRequest, pk: int) -> Event:
    """Return the entry, struck or not, if the keeper is a member of its room; raises Http404."""
    found = Event.every.select_related("animal", "habitat", "room")
    return get_object_or_404(found, pk=pk, room__in=rooms_of(keeper_of(request)))
