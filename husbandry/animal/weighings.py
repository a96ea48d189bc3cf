"""A weighing or a measured length, out of the log."""

from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True)
class Weighing:
    """A dated mass in kg or length in m out of the log."""

    day: date
    mass_kg: float | None = None
    length_m: float | None = None
