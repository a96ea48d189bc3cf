"""ZIP files that somebody brought: what opening and reading one raises where it is damaged, or packed as nothing here packs."""

import struct
import zipfile
import zlib
from typing import Final

# A wrong sum or structure, an end too soon, packing or encryption that is not known, a name in no encoding, a place before the
# beginning.
UNREADABLE: Final = (
    zipfile.BadZipFile,
    zlib.error,
    EOFError,
    OSError,
    NotImplementedError,
    RuntimeError,
    ValueError,
    struct.error,
)
