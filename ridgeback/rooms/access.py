"""Who may see what: a keeper reaches only the rooms they are a member of; everything else does not exist for them."""

from django.db.models import Prefetch, QuerySet
from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404

from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.rooms.models import Habitat, Room


def keeper_of(request: HttpRequest) -> Keeper:
    """Return the signed-in keeper; raises Http404 for anybody else."""
    if not isinstance(request.user, Keeper):
        raise Http404
    return request.user


def rooms_of(keeper: Keeper) -> QuerySet[Room]:
    return Room.objects.filter(membership__keeper=keeper).order_by("name", "id")


def growing_events() -> "Prefetch[str, QuerySet[Event], str]":
    """A habitat's weighings and measurements, oldest first, in one query for all of them."""
    kinds = (Event.Kind.WEIGHED, Event.Kind.MEASURED)
    return Prefetch("events", Event.objects.filter(kind__in=kinds).order_by("at", "id"), to_attr="growth_events")


def habitats_of(keeper: Keeper) -> QuerySet[Habitat]:
    """Habitats with everything a plan needs, in a constant number of queries."""
    found = Habitat.objects.filter(room__membership__keeper=keeper)
    found = found.select_related("animal", "head__profile").defer("head__document", "head__profile__document")
    return found.prefetch_related("heaters", "uv_lamps", growing_events())


def habitat_or_404(request: HttpRequest, pk: int) -> Habitat:
    """Return the habitat if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(habitats_of(keeper_of(request)), pk=pk)
