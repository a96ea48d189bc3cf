"""The four ultraviolet zones: the UV index reptiles and amphibians were met in, outdoors.

Ferguson et al. 2010, Photochemistry and Photobiology 86; Baines et al. 2016, Journal of Zoo and Aquarium Research 4 (both
recalled). `mean` is the range of means in a zone, `highest` the greatest index met; the sunbeam method aims at `basking`.
"""

from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True)
class Zone:
    """UV index, dimensionless."""

    mean: tuple[float, float]
    highest: float
    basking: tuple[float, float] | None


ZONES: Final = {
    "1": Zone((0.0, 0.7), 1.4, None),
    "2": Zone((0.7, 1.0), 3.0, (1.1, 3.0)),
    "3": Zone((1.0, 2.6), 7.4, (2.9, 7.4)),
    "4": Zone((2.6, 3.5), 9.5, (4.5, 9.5)),
}
