"""Who may see what: a keeper reaches only the rooms they are a member of; everything else does not exist for them."""

from django.db.models import QuerySet
from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404

from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import Habitat, Room


def keeper_of(request: HttpRequest) -> Keeper:
    """Return the signed-in keeper; raises Http404 for anybody else."""
    if not isinstance(request.user, Keeper):
        raise Http404
    return request.user


def rooms_of(keeper: Keeper) -> QuerySet[Room]:
    return Room.objects.filter(membership__keeper=keeper).order_by("name", "id")


def room_or_404(request: HttpRequest, pk: int) -> Room:
    """Return the room if the keeper is a member of it; raises Http404."""
    return get_object_or_404(rooms_of(keeper_of(request)), pk=pk)


def habitats_to_see(keeper: Keeper) -> QuerySet[Habitat]:
    return Habitat.objects.filter(room__membership__keeper=keeper).select_related("company", "head__profile")


def habitat_or_404(request: HttpRequest, pk: int) -> Habitat:
    """Return the habitat if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(habitats_to_see(keeper_of(request)).defer("head__profile__document"), pk=pk)
