"""Functions of plain numbers and arrays that are compiled to machine code (docs/decisions/0065).

The compiled code is kept in a folder named by what the climate's sources say, because the library itself looks at one file only: a
function that was compiled into another would else go on as it was.
"""

import hashlib
import os
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Final, ParamSpec, TypeVar, cast

from numba import config, njit

Given = ParamSpec("Given")
Found = TypeVar("Found")

HERE: Final = Path(__file__).parent
KEPT: Final = Path(os.environ.get("NUMBA_CACHE_DIR") or HERE / "__pycache__")


def _stamp() -> str:
    """Tell one state of the sources from another."""
    said = hashlib.sha256()
    for path in sorted(HERE.glob("*.py")):
        said.update(path.read_bytes())
    return said.hexdigest()[:12]


def _folder() -> Path | None:
    """The folder of this state of the sources, those of others gone; none where nothing can be written."""
    own = KEPT / f"compiled-{_stamp()}"
    try:
        own.mkdir(parents=True, exist_ok=True)
        tempfile.TemporaryFile(dir=own).close()
    except OSError:
        return None
    for other in KEPT.glob("compiled-*"):
        if other != own:
            shutil.rmtree(other, ignore_errors=True)
    return own


FOLDER: Final = _folder()
if FOLDER is not None:
    vars(config)["CACHE_DIR"] = str(FOLDER)


def compiled(function: Callable[Given, Found]) -> Callable[Given, Found]:
    """Return the function, compiled at its first call; it takes and returns numbers, arrays and named tuples of them."""
    return cast("Callable[Given, Found]", njit(cache=FOLDER is not None, error_model="numpy", nogil=True)(function))
