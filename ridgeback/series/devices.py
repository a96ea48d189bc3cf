"""Devices that report by themselves: their keys, and how often they may ask."""

import secrets
from datetime import datetime
from typing import Final

from husbandry.errors import HusbandryError
from ridgeback.series.models import Device
from ridgeback.web.bucket import Bucket
from ridgeback.web.tokens import digest_of

REQUESTS: Final = Bucket(burst=120.0, a_second=4.0)


class TooOften(HusbandryError):
    """A device asks more often than it may; `wait_s` until the next time."""

    def __init__(self, wait_s: float) -> None:
        super().__init__(f"wait {wait_s:.1f} s")
        self.wait_s = wait_s


def new_key() -> str:
    """A key for a device, to be shown once."""
    return secrets.token_urlsafe(32)


def make(room_id: int, name: str, now: datetime, key: str = "") -> tuple[Device, str]:
    """Make a device, and its key, which is not kept."""
    key = key or new_key()
    said = {"digest": digest_of(key), "name_in_topics": secrets.token_hex(5), "made_at": now, "counted_at": now}
    return Device.objects.create(room_id=room_id, name=name, allowance=REQUESTS.burst, **said), key


def renew(device: Device) -> str:
    """Give a device another key; the old one is dead."""
    key = new_key()
    device.digest = digest_of(key)
    device.save(update_fields=["digest"])
    return key


def known(key: str) -> Device | None:
    """The device of a key that is not revoked, locked for its request: of one device one batch at a time is written."""
    found = Device.objects.select_for_update(no_key=True, of=("self",)).filter(digest=digest_of(key), revoked_at__isnull=True)
    return found.select_related("room").first()


def count_request(device: Device, now: datetime) -> None:
    """Take one request out of the device's bucket, which fills with time. Raises TooOften where it is empty."""
    device.allowance, wait_s = REQUESTS.take(device.allowance, device.counted_at, now)
    if wait_s:
        raise TooOften(wait_s)
    device.counted_at = now
    device.save(update_fields=["allowance", "counted_at"])


def heard(device: Device, now: datetime, refused: str) -> None:
    """Note that a device was heard of, and why some of what it said was refused."""
    device.heard_at, device.refused = now, refused[:200]
    device.save(update_fields=["heard_at", "refused"])
