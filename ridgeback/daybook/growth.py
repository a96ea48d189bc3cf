"""Habitats with the weighings and lengths a list of them needs."""

from django.db.models import Prefetch, QuerySet

from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.rooms.access import habitats_to_see
from ridgeback.rooms.models import Habitat

GROWTH = (Event.Kind.WEIGHED, Event.Kind.MEASURED)


def habitats_of(keeper: Keeper) -> QuerySet[Habitat]:
    """Habitats with everything a list of them needs, in a constant number of queries."""
    growth = Prefetch("events", Event.objects.filter(kind__in=GROWTH).order_by("at", "id"), to_attr="growth_events")
    return habitats_to_see(keeper).defer("head__profile__document").prefetch_related(growth)
