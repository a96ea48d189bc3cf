"""What a habitat costs over the years: set-up, electricity, what wears out, food, ground, the veterinarian; discounted if asked."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from math import fsum
from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field

from husbandry.light.ultraviolet import LAMPS
from husbandry.plan.habitat import HabitatPlan
from husbandry.wiring.consumers import Consumer, consumers

HOURS_A_YEAR: Final = 8760.0
DAYS_A_YEAR: Final = 365.0
BOARD_M: Final = 0.03  # of foam board that is tried as insulation


class Life(BaseModel):
    """How long something lasts: `hours` that it burns, or `months`."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    hours: Annotated[float, Field(gt=0)] | None = None
    months: Annotated[float, Field(gt=0)] | None = None
    basis: Literal["practice"]
    kinds: tuple[str, ...]

    def a_year(self, hours_a_day: float) -> float:
        """How many are used up in a year."""
        if self.months is not None:
            return 12 / self.months
        return hours_a_day * DAYS_A_YEAR / (self.hours or HOURS_A_YEAR)


@cache
def lives() -> Mapping[str, Life]:
    """How long each kind of thing lasts."""
    table = tomllib.loads(files("husbandry.money").joinpath("data/lives.toml").read_text(encoding="utf-8"))
    found = {kind: life for life in map(Life.model_validate, table.values()) for kind in life.kinds}
    # A UV lamp is changed when it has faded, however long it burnt.
    faded = {kind: Life(months=lamp.rated_life_months, basis="practice", kinds=(kind,)) for kind, lamp in LAMPS.items()}
    return found | faded


@dataclass(frozen=True)
class Worn:
    """What of one kind is used up in a year: so many pieces."""

    what: str
    a_year: float


def worn(plan: HabitatPlan) -> tuple[Worn, ...]:
    """Return what wears out in a year: lamps by their hours, UV lamps by their months, thermostats and pumps by theirs.

    Parameters
    ----------
    plan
        The habitat.

    Returns
    -------
    Worn, pieces a year by kind.

    References
    ----------
    data/lives.toml; UV lamps `husbandry.light.ultraviolet`.
    """
    sums: dict[str, float] = {}
    for one in consumers(plan):
        for kind in _kinds(one):
            if kind in lives():
                sums[kind] = sums.get(kind, 0.0) + lives()[kind].a_year(one.hours)
    return tuple(Worn(kind, count) for kind, count in sums.items())


def _kinds(one: Consumer) -> list[str]:
    return [one.kind] + ([f"thermostat-{one.control}"] if one.control else ["timer"] if one.starts and one.key != "mister" else [])


@dataclass(frozen=True)
class Ledger:
    """What a habitat costs: once to set up, and each year by line, in one currency."""

    set_up: float
    yearly: Mapping[str, float]

    @property
    def a_year(self) -> float:
        """All lines of a year."""
        return fsum(self.yearly.values())

    def over(self, years: int, rate: float = 0.0) -> float:
        """What it comes to over some years; with a `rate` each year's cost is discounted to today.

        Parameters
        ----------
        years
            From today on; each year is paid at its end.
        rate
            Of interest, as a share a year.

        Returns
        -------
        In the ledger's currency.

        References
        ----------
        Present value of an annuity: C (1 − (1 + r)^−n) / r.
        """
        return self.set_up + fsum(self.a_year / (1 + rate) ** year for year in range(1, years + 1))


def pays_back_years(extra: float, saved_a_year: float) -> float | None:
    """Return after how many years what costs `extra` once has saved it; None where it saves nothing.

    Parameters
    ----------
    extra, saved_a_year
        In one currency.

    Returns
    -------
    Years, without interest.

    References
    ----------
    Simple pay-back.
    """
    if saved_a_year <= 0:
        return None
    return max(extra, 0.0) / saved_a_year
