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


GROWTH = (Event.Kind.WEIGHED, Event.Kind.MEASURED)


def habitats_of(keeper: Keeper) -> QuerySet[Habitat]:
    """Habitats with everything a list of them needs, in a constant number of queries."""
    growth = Prefetch("events", Event.objects.filter(kind__in=GROWTH).order_by("at", "id"), to_attr="growth_events")
    return _member_of(keeper).defer("head__document", "head__profile__document").prefetch_related("heaters", "uv_lamps", growth)


def _member_of(keeper: Keeper) -> QuerySet[Habitat]:
    return Habitat.objects.filter(room__membership__keeper=keeper).select_related("animal", "head__profile")


def habitat_or_404(request: HttpRequest, pk: int) -> Habitat:
    """Return the habitat if the keeper is a member of its room; raises Http404."""
    found = _member_of(keeper_of(request)).defer("head__document", "head__profile__document")
    return get_object_or_404(found.prefetch_related("heaters", "uv_lamps"), pk=pk)


def saved_or_404(request: HttpRequest, pk: int) -> Habitat:
    """Return the habitat with its last saved document, in one query: for what follows the hand. Raises Http404."""
    return get_object_or_404(_member_of(keeper_of(request)).defer("head__profile__document"), pk=pk)
