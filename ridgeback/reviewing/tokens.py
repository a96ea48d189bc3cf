"""What was told as a text for an address: nothing is kept, and a review can be opened again by whoever has the address."""

import base64
import binascii
import json
import zlib
from typing import Any, Final

from pydantic import ValidationError

from husbandry.setup_review.told import Told

LONGEST: Final = 2_000  # signs of an address
MOST_BYTES: Final = 20_000  # once it is unpacked


def text_of(told: Told) -> str:
    """Pack what was told."""
    said = json.dumps(told.model_dump(mode="json", exclude_defaults=True), separators=(",", ":"), ensure_ascii=False)
    return base64.urlsafe_b64encode(zlib.compress(said.encode(), 9)).decode().rstrip("=")


def told_of(text: str) -> Told | None:
    """Unpack it; None for what nobody packed here."""
    if not text or len(text) > LONGEST:
        return None
    try:
        unpacker = zlib.decompressobj()
        data = unpacker.decompress(base64.urlsafe_b64decode(text + "=" * (-len(text) % 4)), MOST_BYTES)
        said: Any = json.loads(data)
        return Told.model_validate(said)
    except (ValueError, binascii.Error, zlib.error, ValidationError, RecursionError):
        return None
