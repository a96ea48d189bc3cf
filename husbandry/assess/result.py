"""What `assess` returns."""

from dataclasses import dataclass, field
from datetime import date
from functools import cached_property

from husbandry.animal.body import Body
from husbandry.assess.probability import Certainty
from husbandry.assessment import Finding, Quantity
from husbandry.climate.daycourse import DayCourse
from husbandry.climate.states import Climate
from husbandry.feeding.menu import Menu


@dataclass(frozen=True)
class Assessment:
    """The whole answer for one plan on one day; `certainty` is how sure its bands are."""

    today: date
    species: str
    body: Body
    quantities: tuple[Quantity, ...]
    findings: tuple[Finding, ...]
    menu: Menu
    climate: Climate
    days: dict[str, DayCourse]
    certainty: Certainty = field(default_factory=Certainty)

    @property
    def likely(self) -> float | None:
        """The chance (0–1) that every band is held at once; None where nothing was drawn."""
        return self.certainty.together

    @cached_property
    def lives_in_water(self) -> bool:
        """Tell whether the animal is judged by its water, and its cool end by no air."""
        judged = {item.key for item in self.quantities if item.band is not None}
        return "water_temperature" in judged and "cool_air" not in judged

    def quantity(self, key: str, season: str = "", phase: str = "") -> Quantity:
        """Return one quantity; raises KeyError."""
        for quantity in self.quantities:
            if (quantity.key, quantity.season, quantity.phase) == (key, season, phase):
                return quantity
        raise KeyError((key, season, phase))
