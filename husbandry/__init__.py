"""The rules of keeping reptiles and amphibians, and their computation: no interface, no clock, no I/O but its own data."""

from typing import Final

# The compiler and parts of SciPy are loaded when they are first used: what works nothing out begins much sooner without them.
LOADED_LATE: Final = ("numba", "scipy.ndimage", "scipy.optimize", "scipy.sparse", "scipy.special")
