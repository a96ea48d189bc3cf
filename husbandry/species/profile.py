"""The schema of a species profile. Every leaf carries its basis and may differ by school.

Temperatures in °C, humidity in %, lengths in cm, masses in g, ages in months, intervals in days: the units keepers
write profiles in. The core converts where it computes.
"""

from itertools import pairwise
from typing import Annotated, Any, Literal, Self, TypeVar

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, model_validator

from husbandry.assessment import Band, Basis, BasisKind

BASIS_KINDS = {
    "source": BasisKind.SOURCE,
    "practice": BasisKind.PRACTICE,
    "memory": BasisKind.MEMORY,
    "estimate": BasisKind.ESTIMATE,
}

LeafT = TypeVar("LeafT", bound="Leaf")
BasisName = Literal["source", "practice", "memory", "estimate"]


class ProfilePart(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Leaf(ProfilePart):
    """A value with its origin. `school` is "topic:school" where schools differ."""

    basis: BasisName
    cite: str = ""
    note: str = ""
    school: str = ""

    @model_validator(mode="after")
    def _source_is_cited(self) -> Self:
        if self.basis == "source" and not self.cite:
            raise ValueError("a value with basis 'source' names its citation in 'cite'")
        return self

    @property
    def origin(self) -> Basis:
        return Basis(BASIS_KINDS[self.basis], self.cite, self.note)


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

    def band(self, *, factor: float = 1.0, danger_low: float | None = None, danger_high: float | None = None) -> Band:
        """The range as a target band, scaled by `factor` into SI; danger limits are given in SI already."""
        low = None if self.low is None else self.low * factor
        high = None if self.high is None else self.high * factor
        return Band(low, high, self.origin, self.school, danger_low, danger_high)


class Value(Leaf):
    """A single number."""

    value: float


class Choice(Leaf):
    """A single word."""

    value: str


def _as_list(value: Any) -> Any:
    return [value] if isinstance(value, dict) else value


Ranges = Annotated[tuple[Range, ...], BeforeValidator(_as_list), Field(min_length=1)]
Choices = Annotated[tuple[Choice, ...], BeforeValidator(_as_list), Field(min_length=1)]


class SpaceRule(Leaf):
    """One rule of enclosure size; exactly the fields of its kind are used.

    fixed: length_cm, width_cm, height_cm. body: the same as multiples of the stage measure of body length.
    """

    rule: Literal["fixed", "body"]
    level: Literal["minimum", "recommended"]
    length: float = Field(gt=0)
    width: float = Field(gt=0)
    height: float = Field(gt=0)


class Space(ProfilePart):
    rules: tuple[SpaceRule, ...] = Field(min_length=1)
    extra_animal_share: Value | None = None


class Heat(ProfilePart):
    basking_surface_c: Ranges | None = None
    warm_air_c: Ranges
    cool_air_c: Ranges
    night_c: Ranges
    ceiling_c: Value


class Moisture(ProfilePart):
    day_percent: Ranges
    night_percent: Ranges
    humid_hide_percent: Ranges | None = None


class Light(ProfilePart):
    uv_index: Ranges | None = None
    lit_share_percent: Ranges | None = None
    hours: Ranges


class GroundRule(ProfilePart):
    depth_cm: Ranges
    kinds: Choices


class Meal(Leaf):
    """What one feed is made of. Exactly one of count, mass share or portion is given.

    `prey_limit` always says which dimension it limits.
    """

    food: str
    count_low: int | None = None
    count_high: int | None = None
    mass_share_low_percent: float | None = None
    mass_share_high_percent: float | None = None
    portion: str = ""
    prey_limit: str = ""

    @model_validator(mode="after")
    def _one_measure(self) -> Self:
        given = [self.count_low is not None, self.mass_share_low_percent is not None, bool(self.portion)]
        if sum(given) != 1:
            raise ValueError("a meal gives one of: count, share of body mass, portion")
        return self


class Supplement(Leaf):
    """One product in the rota: every so many days, or with every n-th feed."""

    product: Literal["plain calcium", "calcium with D3", "multivitamin", "all-in-one"]
    every_days: float | None = Field(default=None, gt=0)
    every_feeds: int | None = Field(default=None, ge=1)
    uvb: Literal["with", "without", "either"] = "either"

    @model_validator(mode="after")
    def _one_frequency(self) -> Self:
        if (self.every_days is None) == (self.every_feeds is None):
            raise ValueError("a supplement gives one of: every_days, every_feeds")
        return self


class Feeding(ProfilePart):
    interval_days: Ranges
    time_of_day: Choice
    meals: tuple[Meal, ...] = Field(min_length=1)
    supplements: tuple[Supplement, ...] = ()
    no_supplements_because: Choice | None = None

    @model_validator(mode="after")
    def _supplements_or_why_not(self) -> Self:
        if not self.supplements and self.no_supplements_because is None:
            raise ValueError("without supplements the profile says why in 'no_supplements_because'")
        return self


class Stage(ProfilePart):
    """A life stage; bounds are "from" (included) to "until" (excluded), open at either end."""

    id: str
    name: str
    leads: Literal["age", "mass", "length"]
    age_months: Range | None = None
    mass_g: Range | None = None
    length_cm: Range | None = None
    space: Space
    heat: Heat
    moisture: Moisture
    light: Light
    ground: GroundRule
    feeding: Feeding

    @model_validator(mode="after")
    def _leader_is_given(self) -> Self:
        if self.bounds(self.leads) is None:
            raise ValueError(f"the stage is led by {self.leads} but gives no bounds for it")
        return self

    def bounds(self, measure: str) -> Range | None:
        return {"age": self.age_months, "mass": self.mass_g, "length": self.length_cm}[measure]


class Body(ProfilePart):
    """The body: which length is measured, adult sizes, growth, and the height of the back as a share of length.

    `years_to_adult` is the age at which nineteen twentieths of the adult length are reached.
    """

    form: Literal["gecko", "lizard", "snake", "tortoise", "frog"]
    length_measure: Literal["snout-vent", "total", "shell"]
    adult_length_cm: Range
    adult_mass_g: Range
    hatch_length_cm: Value
    hatch_mass_g: Value
    total_to_measure: Value
    back_height_share: Value
    length_mass_exponent: Value
    lifespan_years: Range
    years_to_adult: Range


class Profile(ProfilePart):
    """One species."""

    format: Literal["ridgeback-species/1"]
    id: str = Field(pattern=r"^[a-z][a-z-]+$")
    scientific: str
    common: str
    other_names: tuple[str, ...] = ()
    group: Literal["lizard", "snake", "tortoise", "turtle", "frog", "salamander"]
    habit: Literal["terrestrial", "burrowing", "rock", "semi-arboreal", "arboreal", "semi-aquatic", "aquatic"]
    activity: Choice
    diet: Literal["insects", "whole prey", "plants", "omnivore", "powder and insects"]
    uv_zone: Choice
    company: Choice
    water: Choice
    body: Body
    cautions: tuple[Choice, ...] = Field(min_length=1)
    hides: Choices
    stages: tuple[Stage, ...] = Field(min_length=2)

    @model_validator(mode="after")
    def _stages_join_up(self) -> Self:
        for measure in ("age", "mass", "length"):
            bounds = [limits for stage in self.stages if (limits := stage.bounds(measure))]
            for earlier, later in pairwise(bounds):
                if earlier.high != later.low:
                    raise ValueError(f"stage bounds by {measure} leave a gap or overlap at {earlier.high} and {later.low}")
        return self

    def stage(self, stage_id: str) -> Stage:
        return next(stage for stage in self.stages if stage.id == stage_id)


def choose(leaves: tuple[LeafT, ...], schools: dict[str, str]) -> LeafT:
    """Pick the leaf of the keeper's school, else the one that belongs to none, else the first."""
    for leaf in leaves:
        topic, _, school = leaf.school.partition(":")
        if school and schools.get(topic) == school:
            return leaf
    return next((leaf for leaf in leaves if not leaf.school), leaves[0])
