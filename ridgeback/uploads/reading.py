"""An upload as a file: the bytes are fetched part by part, so that a long one costs no more memory than two of its parts."""

import io
from bisect import bisect_right
from typing import Final

from django.utils.functional import cached_property

from ridgeback.uploads.models import Part, Upload

BUFFER: Final = 256 * 1024


class _Parts(io.RawIOBase):
    """The parts of an upload as one raw stream that can be read from anywhere."""

    def __init__(self, upload: Upload) -> None:
        self.upload, self.at = upload, 0
        self.held: tuple[int, bytes] = (-1, b"")

    @cached_property
    def places(self) -> list[tuple[int, int]]:
        """Where each part begins, and its key."""
        return list(Part.objects.filter(upload=self.upload).order_by("begins").values_list("begins", "pk"))

    def readable(self) -> bool:
        return True

    def seekable(self) -> bool:
        return True

    def tell(self) -> int:
        return self.at

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        origin = {io.SEEK_SET: 0, io.SEEK_CUR: self.at, io.SEEK_END: self.upload.size}[whence]
        if origin + offset < 0:
            raise OSError("before the beginning")
        self.at = origin + offset
        return self.at

    def readinto(self, buffer: bytearray | memoryview) -> int:  # type: ignore[override]  # typeshed's Buffer is newer than 3.11
        place = bisect_right(self.places, self.at, key=lambda one: one[0]) - 1
        if place < 0 or self.at >= self.upload.size:
            return 0
        begins, key = self.places[place]
        if self.held[0] != key:
            self.held = key, bytes(Part.objects.values_list("content", flat=True).get(pk=key))
        piece = self.held[1][self.at - begins : self.at - begins + len(buffer)]
        buffer[: len(piece)] = piece
        self.at += len(piece)
        return len(piece)


def opened(upload: Upload) -> io.BufferedReader:
    """An upload that has arrived, open for reading from its beginning; it can be sought in."""
    return io.BufferedReader(_Parts(upload), BUFFER)
