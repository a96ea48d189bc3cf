"""A daybook with its photos as one file: a ZIP of the document and of the pictures, each by its entry's key."""

import io
import re
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import IO, Any, Final

from django.db.models import QuerySet
from django.utils.translation import gettext as _
from PIL import Image, UnidentifiedImageError

from ridgeback.daybook.models import Event, Photo
from ridgeback.keeping.photos import LONGEST_SIDE, NoPhotoError, Small, made_small
from ridgeback.keeping.shapes import UnreadableDaybookError
from ridgeback.uploads.arriving import LARGEST_BYTES
from ridgeback.uploads.zips import UNREADABLE

DOCUMENT: Final = "daybook.json"
MOST_PHOTOS: Final = 50_000
LARGEST_PHOTO: Final = 8_000_000
LARGEST_DOCUMENT: Final = 1_000_000_000
AT_ONCE: Final = 20  # photos fetched
_METHODS: Final = frozenset({zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED})
LOCKED: Final = 0x61  # flags of a member that is encrypted, or a patch
_PICTURE: Final = re.compile(r"photos/(\d{1,15})\.jpg")
BARE: Final = frozenset({"jfif", "jfif_version", "jfif_unit", "jfif_density", "dpi", "progressive", "progression"})


def pack(out: IO[bytes], write_document: Callable[[IO[str]], None], events: QuerySet[Event]) -> None:
    """Write the document and the photos of some entries as a ZIP."""
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        with made.open(DOCUMENT, "w", force_zip64=True) as raw, io.TextIOWrapper(raw, encoding="utf-8") as text:
            write_document(text)
        photos = Photo.objects.filter(event__in=events.order_by().values("pk")).order_by("event")
        for photo in photos.iterator(chunk_size=AT_ONCE):
            made.writestr(zipfile.ZipInfo(f"photos/{photo.event_id}.jpg"), bytes(photo.jpeg))


class Archive:
    """A daybook's ZIP, open: its document, and its photos by their entries' keys, each read when it is asked for."""

    def __init__(self, opened: zipfile.ZipFile) -> None:
        self.zip = opened
        names = {info.filename: info for info in opened.infolist()}
        if any(info.compress_type not in _METHODS or info.flag_bits & LOCKED for info in names.values()):
            raise UnreadableDaybookError(_("its archive is packed in a way that is not known here"))
        if DOCUMENT not in names or names[DOCUMENT].file_size > LARGEST_DOCUMENT:
            raise UnreadableDaybookError(_("its archive holds no %(name)s") % {"name": DOCUMENT})
        self.pictures = {int(match[1]): info for name, info in names.items() if (match := _PICTURE.fullmatch(name))}
        sizes = [info.file_size for info in self.pictures.values()]
        if len(sizes) > MOST_PHOTOS or max(sizes, default=0) > LARGEST_PHOTO or sum(sizes) > LARGEST_BYTES:
            raise UnreadableDaybookError(_("its photos are too many, or one is too large"))

    def document(self) -> IO[bytes]:
        """The document, to be read; what is damaged of it is found out then. Raises UnreadableDaybookError."""
        with _undamaged():
            return io.BufferedReader(_Member(self.zip.open(DOCUMENT)))

    def __contains__(self, key: int, /) -> bool:
        return key in self.pictures

    def __getitem__(self, key: int, /) -> Small:
        """The photo of an entry, as it is kept. Raises UnreadableDaybookError."""
        with _undamaged():
            raw = self.zip.read(self.pictures[key])
        return _photo(raw, key)

    def look_through(self, told: Callable[[int], None]) -> None:
        """Look at every photo, so that none is found to be none when half of them are written. Raises UnreadableDaybookError."""
        for done, key in enumerate(self.pictures, start=1):
            self[key]
            if done % AT_ONCE == 0:
                told(done)


@contextmanager
def _undamaged() -> Iterator[None]:
    """Raise UnreadableDaybookError for whatever a damaged ZIP raises where it is read."""
    try:
        yield
    except UNREADABLE:
        raise UnreadableDaybookError(_("its archive is damaged")) from None


class _Member(io.RawIOBase):
    """A file in a ZIP, read piece by piece. Raises UnreadableDaybookError."""

    def __init__(self, stream: IO[bytes]) -> None:
        self.stream = stream

    def readable(self) -> bool:
        return True

    def readinto(self, buffer: Any) -> int:
        with _undamaged():
            found = self.stream.read(len(buffer))
        buffer[: len(found)] = found
        return len(found)

    def close(self) -> None:
        self.stream.close()
        super().close()


@contextmanager
def unpacked(raw: IO[bytes]) -> Iterator[Archive]:
    """The archive, while it is read. Raises UnreadableDaybookError."""
    with _undamaged():
        opened = zipfile.ZipFile(raw)
    with opened:
        yield Archive(opened)


def _photo(raw: bytes, key: int) -> Small:
    """A picture as it is kept: ours as it is, any other made small and bare first."""
    fault = UnreadableDaybookError(_("the photo of entry %(key)s is no picture that can be read") % {"key": key})
    try:
        with Image.open(io.BytesIO(raw), formats=("JPEG",)) as opened:
            ours = max(opened.size) <= LONGEST_SIDE and opened.mode == "RGB" and set(opened.info) <= BARE
            if ours:
                opened.load()
                return Small(raw, opened.width, opened.height)
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        raise fault from None
    try:
        return made_small(raw)
    except NoPhotoError:
        raise fault from None
