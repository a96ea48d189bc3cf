"""The rules of keeping reptiles and amphibians, and their computation: no interface, no clock, no I/O but its own data."""

from typing import Final

# Parts of SciPy are loaded when they are first used: a command that works nothing out takes a sixth less time without them.
LOADED_LATE: Final = ("scipy.ndimage", "scipy.optimize", "scipy.sparse", "scipy.special")
