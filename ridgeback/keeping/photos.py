"""A photo that is sent: looked at, made small, and written anew, so that nothing but the picture is left of it."""

import io
import threading
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Final

from PIL import Image, ImageFile, ImageOps, UnidentifiedImageError

from husbandry.errors import HusbandryError

LONGEST_SIDE: Final = 1600  # pixels
QUALITY: Final = 82
MOST_PIXELS: Final = 120_000_000
_ONE_AT_A_TIME: Final = threading.Lock()
FORMATS: Final = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")


class NoPhotoError(HusbandryError, ValueError):
    """What was sent is no picture that can be read, or one too large to open."""


@dataclass(frozen=True)
class Small:
    """A JPEG without metadata, and its size in pixels."""

    jpeg: bytes
    width: int
    height: int


@contextmanager
def _whole_files_only() -> Iterator[None]:
    """Refuse a picture that was cut off on its way: who prints lets the library take such ones, for the whole process."""
    with _ONE_AT_A_TIME:
        before, ImageFile.LOAD_TRUNCATED_IMAGES = ImageFile.LOAD_TRUNCATED_IMAGES, False
        try:
            yield
        finally:
            ImageFile.LOAD_TRUNCATED_IMAGES = before


def made_small(raw: bytes) -> Small:
    """Read a picture, turn it upright, shrink it to `LONGEST_SIDE` and write it without metadata. Raises NoPhotoError."""
    Image.init()  # of the formats named some are only known then
    try:
        with _whole_files_only(), warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(raw), formats=FORMATS) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise NoPhotoError("too many pixels")
                opened.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
                upright = ImageOps.exif_transpose(opened).convert("RGB")
        upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
        bare = Image.new("RGB", upright.size)
        bare.paste(upright)
        written = io.BytesIO()
        bare.save(written, "JPEG", quality=QUALITY, optimize=True)
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError, Warning) as error:
        raise NoPhotoError(str(error)) from None
    return Small(written.getvalue(), bare.width, bare.height)
