"""The kinds of steps and of waits: data/steps.toml and data/waits.toml beside this module. All common practice, no source."""

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field

ANIMAL_IN: Final = "animal-in"
TEST_RUN: Final = "test-run"


class WaitKind(BaseModel):
    """Something that takes its time by itself: `hours` usually, `least_h` at least; `fumes` harm an animal until it is over."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    hours: Annotated[float, Field(gt=0)]
    least_h: Annotated[float, Field(ge=0)]
    fumes: bool
    basis: Literal["practice"]


class StepKind(BaseModel):
    """A step of a build: which kinds come before it, its minutes of hand work, what runs when they are done."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    after: tuple[str, ...] = ()
    minutes: Annotated[float, Field(ge=0)]
    each: Annotated[float, Field(ge=0)] = 0.0
    wait: str = ""
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()


def _table(name: str) -> dict[str, dict[str, object]]:
    return tomllib.loads(files("husbandry.build").joinpath(f"data/{name}.toml").read_text(encoding="utf-8"))


@cache
def waits() -> Mapping[str, WaitKind]:
    """Every wait by its key."""
    return {key: WaitKind.model_validate(row) for key, row in _table("waits").items()}


@cache
def steps() -> Mapping[str, StepKind]:
    """Every kind of step by its key, in the order of the work."""
    return {key: StepKind.model_validate(row) for key, row in _table("steps").items()}
