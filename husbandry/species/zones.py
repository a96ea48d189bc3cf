"""The four ultraviolet zones: the UV index reptiles and amphibians were met in, outdoors.

The numbers stand in the table "uv-zones" (`husbandry.species.tables`). `mean` is the range of means in a zone, `highest` the
greatest index met; the sunbeam method aims at `basking`.
"""

from dataclasses import dataclass
from typing import Final

from husbandry.species.tables import find


@dataclass(frozen=True)
class Zone:
    """UV index, dimensionless."""

    mean: tuple[float, float]
    highest: float
    basking: tuple[float, float] | None


def _zone(name: str) -> Zone:
    mean, highest = (find(f"uv-zones:{name}/{row}")[1] for row in ("mean", "highest"))
    basking = None if name == "1" else (highest["low"], highest["high"])
    return Zone((mean["low"], mean["high"]), highest["high"], basking)


ZONES: Final = {name: _zone(name) for name in ("1", "2", "3", "4")}
