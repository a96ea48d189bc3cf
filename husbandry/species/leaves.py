"""The leaves of a species profile: every value carries its basis and may differ by school."""

from dataclasses import replace
from functools import cache
from typing import Annotated, Any, Literal, Self, TypeVar

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from husbandry.assessment import NEAR_K, Band, Basis, BasisKind
from husbandry.species import tables

BASIS_KINDS = {
    "source": BasisKind.SOURCE,
    "practice": BasisKind.PRACTICE,
    "memory": BasisKind.MEMORY,
    "estimate": BasisKind.ESTIMATE,
    "keeper": BasisKind.KEEPER,
}

LeafT = TypeVar("LeafT", bound="Leaf")
Sex = Literal["female", "male"]
BasisName = Literal["source", "practice", "memory", "estimate", "keeper"]


class ProfilePart(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Leaf(ProfilePart):
    """A value with its origin. `school` is "topic:school" where schools differ, several of them where it needs them all.
    With `sex` it holds for that sex alone. `table` names the published table it is taken from or held against
    (`husbandry.species.tables`).
    """

    basis: BasisName
    cite: str = ""
    note: str = ""
    school: str = ""
    sex: Sex | None = None
    table: str = ""

    @model_validator(mode="before")
    @classmethod
    def _out_of_its_table(cls, data: Any) -> Any:
        try:
            return tables.filled(data) if isinstance(data, dict) else data
        except LookupError:
            raise ValueError(f"there is no table {data['table']!r}") from None

    @model_validator(mode="after")
    def _source_is_cited(self) -> Self:
        if self.basis == "source" and not self.cite:
            raise ValueError("a value with basis 'source' names its citation in 'cite'")
        return self

    @property
    def numbers(self) -> dict[str, float]:
        """The numbers it was given, by field."""
        given = ((name, getattr(self, name)) for name in sorted(self.model_fields_set))
        return {name: float(value) for name, value in given if isinstance(value, int | float) and not isinstance(value, bool)}

    @property
    def schools(self) -> dict[str, str]:
        """The schools it belongs to, by topic."""
        return _by_topic(self.school)

    @property
    def origin(self) -> Basis:
        return Basis(BASIS_KINDS[self.basis], self.cite, self.note)


@cache
def _by_topic(school: str) -> dict[str, str]:
    return dict(part.split(":", 1) for part in school.split() if ":" in part)


class Range(Leaf):
    """A band; either limit may be open."""

    low: float | None = None
    high: float | None = None

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.low is None and self.high is None:
            raise ValueError("a range needs 'low' or 'high'")
        if self.low is not None and self.high is not None and self.low > self.high:
            raise ValueError(f"low {self.low} is above high {self.high}")
        return self

    @property
    def middle(self) -> float:
        limits = [limit for limit in (self.low, self.high) if limit is not None]
        return sum(limits) / len(limits)

    @property
    def least(self) -> float:
        """The lower end; of a range that is open below, its middle."""
        return self.middle if self.low is None else self.low

    @property
    def most(self) -> float:
        """The upper end; of a range that is open above, its middle."""
        return self.middle if self.high is None else self.high

    def band(self, *, factor: float = 1.0, danger_low: float | None = None, danger_high: float | None = None) -> Band:
        """The range as a target band, scaled by `factor` into SI; danger limits are given in SI already."""
        low = None if self.low is None else self.low * factor
        high = None if self.high is None else self.high * factor
        return Band(low, high, self.origin, self.school, danger_low, danger_high)

    def band_c(self, *, danger_low: float | None = None, danger_high: float | None = None) -> Band:
        """A range of temperatures in °C as a target band."""
        return replace(self.band(danger_low=danger_low, danger_high=danger_high), near=NEAR_K)


class Value(Leaf):
    """A single number."""

    value: float


class Choice(Leaf):
    """A single word."""

    value: str


def as_list(value: Any) -> Any:
    return [value] if isinstance(value, dict) else value


Ranges = Annotated[tuple[Range, ...], BeforeValidator(as_list), Field(min_length=1)]
Choices = Annotated[tuple[Choice, ...], BeforeValidator(as_list), Field(min_length=1)]


def choose(leaves: tuple[LeafT, ...], schools: dict[str, str]) -> LeafT:
    """Pick the leaf of the keeper's schools, else the one that belongs to none, else the first."""
    used = in_school(leaves, schools)
    chosen = (leaf for leaf in used if any(schools.get(topic) == school for topic, school in leaf.schools.items()))
    return next(chosen, None) or next((leaf for leaf in leaves if not leaf.schools), used[0] if used else leaves[0])


def in_school(leaves: tuple[LeafT, ...], schools: dict[str, str]) -> tuple[LeafT, ...]:
    """Keep the leaves that belong to no school and, per topic, those of the keeper's school, else of the first named."""
    first: dict[str, str] = {}
    named: set[tuple[str, str]] = set()
    for leaf in leaves:
        for topic, school in leaf.schools.items():
            first.setdefault(topic, school)
            named.add((topic, school))
    used = {topic: schools[topic] if (topic, schools.get(topic)) in named else school for topic, school in first.items()}
    return tuple(leaf for leaf in leaves if all(used[topic] == school for topic, school in leaf.schools.items()))
