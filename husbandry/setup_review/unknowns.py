"""What of a set-up nobody knows, with the answers it may have and how likely each is beforehand."""

import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from husbandry.climate.heaters import HEATERS
from husbandry.setup_review.told import Told, ToldHeater

Value = bool | float | str
GUARDS: tuple[str, ...] = ("over", "air")


class LikelyAnswers(BaseModel):
    """The answers somebody most likely has who does not know."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    basis: Literal["practice"]
    answers: tuple[tuple[Value, float], ...]


@cache
def priors() -> Mapping[str, LikelyAnswers]:
    """The priors by what is asked."""
    table = tomllib.loads(files("husbandry.setup_review").joinpath("data/priors.toml").read_text(encoding="utf-8"))
    return {key: LikelyAnswers.model_validate(one) for key, one in table.items()}


@dataclass(frozen=True)
class Unknown:
    """One thing nobody knows: where it stands in what was told, what is asked, the answers, and the share of each (sum 1)."""

    path: str
    asks: str
    answers: tuple[Value, ...]
    shares: tuple[float, ...]


def unknowns(told: Told) -> tuple[Unknown, ...]:
    """Return what of a set-up is unknown, in the order in which it is told.

    Parameters
    ----------
    told
        The set-up.

    Returns
    -------
    Unknown; none where everything was said.

    References
    ----------
    data/priors.toml: common practice, no source.
    """
    return tuple(_unknown(path, asks) for path, asks in _open(told))


def _unknown(path: str, asks: str) -> Unknown:
    answers = priors()[asks].answers
    whole = sum(weight for _answer, weight in answers)
    return Unknown(path, asks, tuple(answer for answer, _weight in answers), tuple(weight / whole for _answer, weight in answers))


def _open(told: Told) -> Iterator[tuple[str, str]]:
    if told.grown is None and not told.sized:
        yield "grown", "grown"
    for name in ("lid", "room_c", "room_percent"):
        if getattr(told, name) is None:
            yield name, name
    for index, heater in enumerate(told.heaters):
        yield from ((f"heaters.{index}.{name}", asks) for name, asks in _of_heater(heater))
    for index, tube in enumerate(told.tubes):
        for name, asks in (("kind", "tube"), ("months", "months"), ("reflector", "reflector")):
            if getattr(tube, name) is None:
                yield f"tubes.{index}.{name}", asks
    for index, hide in enumerate(told.hides):
        for name in ("humid", "dark"):
            if getattr(hide, name) is None:
                yield f"hides.{index}.{name}", name
    for name in ("bowl", "ground", "ground_m", "mistings", "thermometers", "dusted"):
        if getattr(told, name) is None:
            yield name, name


def _of_heater(heater: ToldHeater) -> Iterator[tuple[str, str]]:
    kind = HEATERS[heater.kind]
    if heater.watts is None:
        yield "watts", "watts" if kind.place in GUARDS else "mat_watts"
    if heater.thermostat is None and kind.controls[0] != "none":
        yield "thermostat", "thermostat"
    if heater.thermostat and heater.probe is None and kind.controls[0] != "none":
        yield "probe", "probe"
    if heater.guarded is None and kind.place in GUARDS:
        yield "guarded", "guarded"


def answered(told: Told, answers: Mapping[str, Value]) -> Told:
    """The same with answers at their paths. Raises pydantic.ValidationError for one that cannot be."""
    document: dict[str, Any] = told.model_dump(mode="json")
    for path, value in answers.items():
        *way, last = path.split(".")
        place: Any = document
        for step in way:
            place = place[int(step)] if isinstance(place, list) else place[step]
        place[last] = value
    return Told.model_validate(document)
