"""What ground is made of, and the mixes of the trade: data/mixes.toml and data/recipes.toml beside this module."""

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Mix = Literal[
    "paper", "sand", "sandy-loam", "soil", "clay", "gravel", "clay-balls", "coir", "bark", "aspen", "moss", "leaf-litter",
    "rotten-wood", "charcoal",
]  # fmt: skip


class GroundStuff(BaseModel):
    """One material as it lies, settled.

    `dry_kg_l` is its density dry, `field_l_l` the litres of water a litre of it holds at field capacity, `pressed` the share of its
    depth lost when it settles, `loose` whether heavy things sink and slide on it, `climate` what it is to the climate model.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    dry_kg_l: Annotated[float, Field(gt=0)]
    field_l_l: Annotated[float, Field(ge=0, lt=1)]
    pressed: Annotated[float, Field(ge=0, lt=1)]
    loose: bool
    climate: Literal["paper", "sand", "sandy-loam", "soil", "coir", "bark", "aspen", "moss"]


class RecipeLayer(BaseModel):
    """A layer as a share of the whole depth, its parts by volume, and whether it is kept damp."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    share: Annotated[float, Field(gt=0, le=1)]
    parts: Annotated[dict[Mix, float], Field(min_length=1)]
    damp: bool


class Recipe(BaseModel):
    """A ground of the trade, its layers from the floor up; `whole` tells whether it makes the whole floor or a part of it."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    least_m: float
    most_m: float
    settle_days: int
    layers: Annotated[tuple[RecipeLayer, ...], Field(min_length=1)]
    whole: bool = True


def _table(name: str) -> dict[str, dict[str, object]]:
    return tomllib.loads(files("husbandry.furnishing").joinpath(f"data/{name}.toml").read_text(encoding="utf-8"))


@cache
def ground_stuff() -> dict[str, GroundStuff]:
    """Every material by its key, in the order of the table."""
    return {key: GroundStuff.model_validate(row) for key, row in _table("mixes").items()}


@cache
def recipes() -> dict[str, Recipe]:
    """Every recipe by its key, in the order of the table."""
    return {key: Recipe.model_validate(row) for key, row in _table("recipes").items()}
