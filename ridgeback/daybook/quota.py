"""How much of the disk a room may take by its pictures: one keeper's holiday album is not everybody's full disk."""

from django.conf import settings
from django.db.models import Sum
from django.db.models.functions import Length

from ridgeback.daybook.models import Photo
from ridgeback.daybook.writing import Refused


def pictures_bytes(room_id: int) -> int:
    """The bytes of a room's pictures; the database tells them without reading the pictures."""
    return int(Photo.objects.filter(event__room=room_id).aggregate(all=Sum(Length("jpeg")))["all"] or 0)


def make_sure_of_room(room_id: int, more: int) -> None:
    """Raises Refused where a picture of so many bytes more is one too many."""
    most = settings.PICTURES_MB * 1_000_000
    if pictures_bytes(room_id) + more > most:
        raise Refused("room_full", most=str(settings.PICTURES_MB))
