"""Who may see what: a keeper reaches only the rooms they are a member of; everything else does not exist for them."""

from django.core.exceptions import PermissionDenied
from django.db.models import Q, QuerySet
from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import Habitat, Membership, Room


def keeper_of(request: HttpRequest) -> Keeper:
    """Return the signed-in keeper; raises Http404 for anybody else."""
    if not isinstance(request.user, Keeper):
        raise Http404
    return request.user


def memberships(keeper: Keeper) -> QuerySet[Membership]:
    """A keeper's memberships that hold today."""
    return Membership.objects.filter(Q(until__isnull=True) | Q(until__gte=clock.today()), keeper=keeper)


def rooms_of(keeper: Keeper) -> QuerySet[Room]:
    """The rooms a keeper is a member of today."""
    return Room.objects.filter(pk__in=memberships(keeper).values("room")).order_by("name", "id")


def owned_rooms_of(keeper: Keeper) -> set[int]:
    """The keys of the rooms that a keeper owns today."""
    return set(memberships(keeper).filter(role=Membership.Role.OWNER).values_list("room", flat=True))


def owned_room_or_404(request: HttpRequest, pk: int) -> Room:
    """Return the room if the keeper owns it; raises Http404 for who is no member of it, PermissionDenied for other members."""
    room, keeper = room_or_404(request, pk), keeper_of(request)
    if not memberships(keeper).filter(room=room, role=Membership.Role.OWNER).exists():
        raise PermissionDenied
    return room


def room_or_404(request: HttpRequest, pk: int) -> Room:
    """Return the room if the keeper is a member of it; raises Http404."""
    return get_object_or_404(rooms_of(keeper_of(request)), pk=pk)


def habitats_to_see(keeper: Keeper) -> QuerySet[Habitat]:
    return Habitat.objects.filter(room__in=memberships(keeper).values("room")).select_related("company", "head__profile")


def habitat_or_404(request: HttpRequest, pk: int) -> Habitat:
    """Return the habitat if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(habitats_to_see(keeper_of(request)).defer("head__profile__document"), pk=pk)
