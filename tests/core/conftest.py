"""The core's tests, which see no interface: in a run of their own neither Django nor the web side can be imported."""

import sys
from importlib.abc import MetaPathFinder
from typing import Any, Final

BARRED: Final = ("django", "ridgeback")


class Barred(MetaPathFinder):
    """Refuses what the core and its tests must do without."""

    def find_spec(self, fullname: str, path: Any = None, target: Any = None) -> None:
        if fullname.partition(".")[0] in BARRED:
            raise ImportError(f"{fullname} belongs to the interface, and this is a run of the core alone")


if "django" not in sys.modules:
    sys.meta_path.insert(0, Barred())
