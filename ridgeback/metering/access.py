"""A keeper reaches a channel, a device or a file only through a membership of its room; everything else does not exist."""

from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from ridgeback.daybook.models import Instrument, Notice
from ridgeback.rooms.access import keeper_of, rooms_of
from ridgeback.series.models import Channel, Device, TableFile


def channel_or_404(request: HttpRequest, pk: int) -> Channel:
    """Return the channel if the keeper is a member of its room; raises Http404."""
    found = Channel.objects.select_related("habitat__head__profile", "habitat__company", "instrument", "room", "animal")
    return get_object_or_404(found, pk=pk, room__in=rooms_of(keeper_of(request)))


def device_or_404(request: HttpRequest, pk: int) -> Device:
    """Return the device if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(Device.objects.select_related("room"), pk=pk, room__in=rooms_of(keeper_of(request)))


def file_or_404(request: HttpRequest, pk: int) -> TableFile:
    """Return the file of readings if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(TableFile.objects.select_related("room"), pk=pk, room__in=rooms_of(keeper_of(request)))


def instrument_or_404(request: HttpRequest, pk: int) -> Instrument:
    """Return the instrument if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(Instrument.objects.select_related("room"), pk=pk, room__in=rooms_of(keeper_of(request)))


def notice_or_404(request: HttpRequest, pk: int) -> Notice:
    """Return the notice if the keeper is a member of its room; raises Http404."""
    return get_object_or_404(Notice, pk=pk, room__in=rooms_of(keeper_of(request)))
