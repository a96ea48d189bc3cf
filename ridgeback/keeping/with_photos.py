"""A daybook with its photos as one file: a ZIP of the document and of the pictures, each by its entry's key."""

import io
import re
import zipfile
import zlib
from collections.abc import Iterable
from typing import Final

from PIL import Image, UnidentifiedImageError

from ridgeback.daybook.models import Photo
from ridgeback.keeping.exchange import LARGEST_BYTES, UnreadableDaybookError
from ridgeback.keeping.photos import LONGEST_SIDE, NoPhotoError, Small, made_small

DOCUMENT: Final = "daybook.json"
MOST_PHOTOS: Final = 2_000
LARGEST_PHOTO: Final = 8_000_000
LARGEST_TOGETHER: Final = 64_000_000  # pictures hardly pack: what was sent is never much smaller
_METHODS: Final = frozenset({zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED})
_PICTURE: Final = re.compile(r"photos/(\d{1,15})\.jpg")
BARE: Final = frozenset({"jfif", "jfif_version", "jfif_unit", "jfif_density", "dpi", "progressive", "progression"})


def packed(document: str, events: Iterable[int]) -> bytes:
    """The document and the photos of some entries as a ZIP."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        made.writestr(DOCUMENT, document)
        for photo in Photo.objects.filter(event__in=list(events)).order_by("event"):
            made.writestr(zipfile.ZipInfo(f"photos/{photo.event_id}.jpg"), bytes(photo.jpeg))
    return out.getvalue()


def unpacked(raw: bytes) -> tuple[bytes, dict[int, Small]]:
    """The document, and the photos by their entries' keys in it. Raises UnreadableDaybookError."""
    try:
        with zipfile.ZipFile(io.BytesIO(raw)) as opened:
            names = {info.filename: info for info in opened.infolist()}
            if any(info.compress_type not in _METHODS for info in names.values()):
                raise UnreadableDaybookError("zip")
            if DOCUMENT not in names or names[DOCUMENT].file_size > LARGEST_BYTES:
                raise UnreadableDaybookError(DOCUMENT)
            wanted = {int(match[1]): info for name, info in names.items() if (match := _PICTURE.fullmatch(name))}
            sizes = [info.file_size for info in wanted.values()]
            if len(sizes) > MOST_PHOTOS or max(sizes, default=0) > LARGEST_PHOTO or sum(sizes) > LARGEST_TOGETHER:
                raise UnreadableDaybookError("photos")
            return opened.read(DOCUMENT), {key: _photo(opened.read(info)) for key, info in wanted.items()}
    except (zipfile.BadZipFile, zlib.error, RuntimeError, EOFError, OSError):
        raise UnreadableDaybookError("zip") from None


def _photo(raw: bytes) -> Small:
    """A picture as it is kept: ours as it is, any other made small and bare first."""
    try:
        with Image.open(io.BytesIO(raw), formats=("JPEG",)) as opened:
            ours = max(opened.size) <= LONGEST_SIDE and opened.mode == "RGB" and set(opened.info) <= BARE
            if ours:
                opened.load()
                return Small(raw, opened.width, opened.height)
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        raise UnreadableDaybookError("photos") from None
    try:
        return made_small(raw)
    except NoPhotoError:
        raise UnreadableDaybookError("photos") from None
