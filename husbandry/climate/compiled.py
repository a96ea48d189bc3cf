"""Functions of plain numbers and arrays that are compiled to machine code (docs/decisions/0065).

The compiler is loaded when the first of them is called: half a second of a processor and 70 MB, which a command that works
nothing out does without (docs/decisions/0133).

The compiled code is kept in a folder named by what the climate's sources say, because the library itself looks at one file only: a
function that was compiled into another would else go on as it was.
"""

import hashlib
import os
import shutil
import tempfile
from collections.abc import Callable
from functools import cache, cached_property, update_wrapper
from pathlib import Path
from types import FunctionType
from typing import Any, Final, Generic, ParamSpec, TypeVar, cast

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


@cache
def _kept_in() -> Path | None:
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


class Compiled(Generic[Given, Found]):
    """A function that is compiled when it is first called, and with it those of them that it calls."""

    def __init__(self, function: Callable[Given, Found]) -> None:
        self.function = function
        update_wrapper(self, function)

    def __call__(self, *given: Given.args, **named: Given.kwargs) -> Found:
        return self.machine_code(*given, **named)

    @cached_property
    def machine_code(self) -> Callable[Given, Found]:
        """What the compiler makes of it."""
        from numba import config, njit

        folder = _kept_in()
        if folder is not None:
            vars(config)["CACHE_DIR"] = str(folder)
        known: dict[str, Any] = dict(self.function.__globals__)
        for name in self.function.__code__.co_names:  # the compiler knows what it made itself, and not this class
            if isinstance(known.get(name), Compiled):
                known[name] = known[name].machine_code
        function = FunctionType(self.function.__code__, known, self.function.__name__, self.function.__defaults__)
        return cast("Callable[Given, Found]", njit(cache=folder is not None, error_model="numpy", nogil=True)(function))


def compiled(function: Callable[Given, Found]) -> Callable[Given, Found]:
    """Return the function, compiled at its first call; it takes and returns numbers, arrays and named tuples of them."""
    return Compiled(function)
