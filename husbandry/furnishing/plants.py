"""Plants of the enclosure: what light, warmth and water they want, how large they grow, and whether they may be eaten.

The table is data/plants.toml beside this module.
"""

import math
import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Damp = Literal["dry", "even", "wet"]


class Plant(BaseModel):
    """One kind of plant: lux at its leaves, the warmest air it bears (°C), the ground it wants, its size after a year (m).

    `leaf_m2_m2` are its leaves over the floor it covers, one side of each; `sturdy` plants bear an animal on them, `rooted` ones
    may be planted out; `poisonous` ones are never for an animal that eats plants.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    lux_least: Annotated[float, Field(gt=0)]
    lux_most: Annotated[float, Field(gt=0)]
    heat_c: Annotated[float, Field(ge=15, le=60)]
    damp: Damp
    grows_m: Annotated[float, Field(gt=0)]
    wide_m: Annotated[float, Field(gt=0)]
    leaf_m2_m2: Annotated[float, Field(gt=0)]
    sturdy: bool
    poisonous: bool
    rooted: bool


@cache
def plants() -> dict[str, Plant]:
    """Every plant by its key, in the order of the table."""
    text = files("husbandry.furnishing").joinpath("data/plants.toml").read_text(encoding="utf-8")
    return {key: Plant.model_validate(row) for key, row in tomllib.loads(text).items()}


def leaf_m2(plant: Plant, wide_m: float) -> float:
    """Return the area of a plant's leaves, one side of each, of a plant so wide.

    Parameters
    ----------
    plant
        Its kind.
    wide_m
        How wide it stands now, m.

    Returns
    -------
    m².

    References
    ----------
    Leaf area index times the floor a round plant covers (data/plants.toml; from memory).
    """
    return plant.leaf_m2_m2 * math.pi / 4 * wide_m**2
