"""Setting up what reports: channels, and devices with their keys."""

from ridgeback.daybook.models import Instrument
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.metering.setting_up import Source, code_for
from ridgeback.rooms.models import Habitat, Room
from ridgeback.series import devices
from ridgeback.series.models import Channel, Device

MOST_NAME = 60


def set_up(
    room: Room, habitat: Habitat | None, intent: Intent, source: Source, instrument: Instrument | None, label: str
) -> Channel:
    """Set up a channel of a room or of one of its habitats. Raises AlreadyWritten."""
    with writing(intent, room=room.pk):
        return Channel.objects.create(
            room=room,
            habitat=habitat,
            animal=source.animal,
            instrument=instrument,
            place=source.place,
            heater=source.heater,
            x_m=source.x_m,
            height_m=source.height_m,
            label=label,
            code=code_for(room, habitat, source),
            made_at=intent.at,
        )


def end_channel(channel: Channel, intent: Intent) -> None:
    """End a channel: what it reported stays, nothing more is taken, and nothing is told of it any more.

    Raises AlreadyWritten, Refused where it has ended.
    """
    with writing(intent, room=channel.room_id):
        if not Channel.objects.filter(pk=channel.pk, ended_at__isnull=True).update(ended_at=intent.at):
            raise Refused("gone")
        channel.notices.filter(ended_at__isnull=True).update(ended_at=intent.at)


def make_device(room_id: int, intent: Intent, name: str) -> tuple[Device, str]:
    """Make a device, and its key, which is kept nowhere. Raises Refused without a name of its own."""
    with writing(intent, room=room_id):
        if not name or Device.objects.filter(room=room_id, name=name).exists():
            raise Refused("device_name")
        return devices.make(room_id, name, intent.at)


def renew_key(device: Device, intent: Intent) -> str:
    """Give a device another key; the old one is dead from now on. Raises AlreadyWritten, Refused where it was revoked."""
    with writing(intent, room=device.room_id):
        return devices.renew(_standing(device))


def revoke_device(device: Device, intent: Intent) -> None:
    """Take a device's key away; its name is free again. Raises AlreadyWritten, Refused where it was revoked."""
    with writing(intent, room=device.room_id):
        found = _standing(device)
        found.revoked_at = intent.at
        found.name = f"{found.name[:30]} (revoked {intent.at:%Y%m%d%H%M%S})"[:MOST_NAME]
        found.save(update_fields=["revoked_at", "name"])


def _standing(device: Device) -> Device:
    """The device as it stands under its room's lock: one whose key was taken away is not given another by a page of before."""
    found = Device.objects.filter(pk=device.pk, revoked_at__isnull=True).first()
    if found is None:
        raise Refused("gone")
    return found
