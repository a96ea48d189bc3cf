"""Static files as they are collected: named by their content, and beside each what is sent instead of it."""

from typing import Any, Final

import brotli
from whitenoise.compress import Compressor
from whitenoise.storage import CompressedManifestStaticFilesStorage

QUALITY: Final = 9  # of 11: the last two take six times as long at a first start, for a tenth less


class QuickCompressor(Compressor):
    """Compresses in a sixth of the time."""

    @staticmethod
    def compress_brotli(data: bytes) -> bytes:
        """What is sent to a browser that reads Brotli."""
        return bytes(brotli.compress(data, quality=QUALITY))


class Collected(CompressedManifestStaticFilesStorage):
    """Where ./start collects static files."""

    def create_compressor(self, **how: Any) -> Compressor:
        """What makes the smaller files."""
        return QuickCompressor(**how)
