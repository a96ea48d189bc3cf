"""The schema of a species profile. Every value carries its basis and may differ by school.

Units as in `husbandry.species.stage`. The JSON Schema in docs/profile-format.schema.json is generated from these models.
"""

import math
from collections.abc import Iterator
from itertools import pairwise
from typing import Annotated, Any, Final, Literal, Self

from pydantic import BeforeValidator, Field, model_validator

from husbandry.kept import kept
from husbandry.species.leaves import Choice, Choices, Leaf, ProfilePart, Range, Sex, Value, as_list
from husbandry.species.stage import Stage

FORMAT: Final = "ridgeback-species/1"
OWN_PREFIX: Final = "my-"  # the ids of keepers' own profiles begin so, those of shipped ones never


class AdultSize(ProfilePart):
    """Length by the species' measure and mass of a grown animal."""

    length_cm: Range
    mass_g: Range


class SpeciesBody(ProfilePart):
    """The body: which length is measured, adult sizes, growth, and the height of the back as a share of length.

    `years_to_adult` is the age at which nineteen twentieths of the adult length are reached. `adult_by_sex` narrows the
    adult size where the sexes differ.
    """

    form: Literal["gecko", "lizard", "snake", "tortoise", "turtle", "frog", "salamander"]
    length_measure: Literal["snout-vent", "total", "shell"]
    adult_length_cm: Range
    adult_mass_g: Range
    adult_by_sex: dict[Sex, AdultSize] = {}
    hatch_length_cm: Value
    hatch_mass_g: Value
    total_to_measure: Value
    back_height_share: Value
    lifespan_years: Range
    years_to_adult: Range

    @model_validator(mode="before")
    @classmethod
    def _of_before(cls, data: Any) -> Any:
        """Profiles once told the exponent of mass on length; it follows from the sizes at hatching and grown."""
        return {name: value for name, value in data.items() if name != "length_mass_exponent"} if isinstance(data, dict) else data

    def length_mass_exponent(self, sex: str = "unknown") -> float:
        """The power of length that mass goes by, from an animal at hatching to a grown one."""
        adult = self.adult(sex)
        longer = adult.length_cm.middle / self.hatch_length_cm.value
        return math.log(adult.mass_g.middle / self.hatch_mass_g.value) / math.log(longer)

    def adult(self, sex: str = "unknown") -> AdultSize:
        """The adult size of this sex, the species' own where the sexes are alike or the sex is not known."""
        return next((size for name, size in self.adult_by_sex.items() if name == sex), None) or _alike(self)


@kept
def _alike(body: SpeciesBody) -> AdultSize:
    return AdultSize(length_cm=body.adult_length_cm, mass_g=body.adult_mass_g)


class Dormancy(Leaf):
    """A rest through a season or a fast, by kind: who may, who must not, and on what terms; "never" says why there is none.

    `last_meal_days` before it begins; `weight_limit_percent` is the loss of mass at which it is broken off. `from_month` to
    `until_month`, both included and as north of the equator, are the months it may be looked for.
    """

    kind: Literal["winter cooling", "hibernation", "summer rest", "breeding fast", "never"]
    may: str = Field(min_length=1)
    must_not: str = Field(min_length=1)
    last_meal_days: Range | None = None
    weight_limit_percent: Value | None = None
    temperature_c: Range | None = None
    weeks: Range | None = None
    from_month: int | None = Field(default=None, ge=1, le=12)
    until_month: int | None = Field(default=None, ge=1, le=12)

    @model_validator(mode="after")
    def _both_months(self) -> Self:
        if (self.from_month is None) != (self.until_month is None):
            raise ValueError("a season has a first and a last month")
        return self


class Together(Leaf):
    """Company: the largest there may be, and its terms.

    `most_males` in one group; `males_note` says when it holds; `young_apart`: hatchlings never with adults;
    `eats_smaller_share`: an animal shorter than this share of another's length is in danger of being eaten.
    """

    kind: Literal["alone", "pair", "group"]
    most: int | None = Field(default=None, ge=1)
    most_males: int | None = Field(default=None, ge=0)
    males_note: str = ""
    young_apart: bool = True
    eats_smaller_share: float | None = Field(default=None, gt=0, lt=1)


class Costs(ProfilePart):
    """Rough prices of a set-up for the grown animal and of a year, in euro or dollar alike."""

    set_up: Range
    year: Range


class Health(ProfilePart):
    """What comes with an animal: what a veterinarian tests for, how, and who it is kept apart from.

    `screen_for` names infections and parasites; `quarantine_weeks` is how long a new animal stays apart, `tests` what is sent in
    meanwhile; `never_with` who must not share an enclosure with it; `zoonoses` what can reach people.
    """

    screen_for: Choices
    quarantine_weeks: Range
    tests: Choice
    never_with: Choices
    zoonoses: Choices


class WaterChemistry(ProfilePart):
    """The water of what lives in it.

    Ammonia, nitrite and nitrate in mg/L, pH, general hardness in degrees, weeks until a new filter works, and how many times an
    hour the filter turns the water over.
    """

    ammonia_mg_l: Range
    nitrite_mg_l: Range
    nitrate_mg_l: Range
    ph: Range
    hardness_dgh: Range
    cycling_weeks: Range
    turnover_per_hour: Range


class Incubation(Leaf):
    """How many days eggs take at one temperature; the hatch window at another lies between two such points."""

    temperature_c: float = Field(ge=5, le=40)
    days_low: float = Field(gt=0, le=500)
    days_high: float = Field(gt=0, le=500)

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.days_low > self.days_high:
            raise ValueError("the fewest days come before the most")
        return self


class Reproduction(ProfilePart):
    """Eggs or young, and what a female needs for them.

    `clutch` counts eggs or young, `clutches_a_year` their number; `incubation` has at least two temperatures for what lays eggs,
    `gestation_days` is for what bears young. `laying_depth_cm` is the moist ground she digs in, `laying_c` its warmth.
    `sexing_months` is the age at which the sexes can be told; a female that `lays_alone` needs her site without ever meeting a
    male. `vet_after_days` of trying, or of the signs of `trouble`.
    """

    bears: Literal["eggs", "live young", "spawn"]
    lays_alone: bool = False
    clutch: Range
    clutches_a_year: Range
    incubation: tuple[Incubation, ...] = ()
    gestation_days: Range | None = None
    laying_site: Choice
    laying_depth_cm: Range | None = None
    laying_c: Range | None = None
    sexing: Choice
    sexing_months: Value
    without_male: Choice
    trouble: Choice
    vet_after_days: Value

    @model_validator(mode="after")
    def _eggs_have_their_days(self) -> Self:
        if self.bears == "live young":
            if self.gestation_days is None:
                raise ValueError("what bears young is told by its days of gestation")
        elif len(self.incubation) < 2:
            raise ValueError("eggs and spawn are told by their days at two temperatures at least")
        return self


class HeatSense(Leaf):
    """How the animal takes up warmth."""

    value: Literal["basking surface", "belly heat", "warm air", "cool"]


class OralD3(Leaf):
    """Whether vitamin D3 by mouth serves this species in place of UVB."""

    value: Literal["serves", "doubtful", "unknown"]


class Housing(Leaf):
    """What it is housed in, where a closed box will not do: a screen cage, through which air moves, with lamps and tubes above."""

    value: Literal["screen"]


class Forgiving(Leaf):
    """How well the species bears a keeper's mistakes."""

    value: Literal["forgiving", "middling", "exacting"]


class Profile(ProfilePart):
    """One species. `native_latitude` is in degrees from the equator, of the middle of its range."""

    format: Literal["ridgeback-species/1"]
    id: str = Field(pattern=r"^[a-z][a-z0-9-]+$", max_length=60)
    scientific: str = Field(min_length=3, max_length=80)
    common: str = Field(min_length=2, max_length=80)
    other_names: tuple[str, ...] = ()
    group: Literal["lizard", "snake", "tortoise", "turtle", "frog", "salamander"]
    habit: Literal["terrestrial", "burrowing", "rock", "semi-arboreal", "arboreal", "semi-aquatic", "aquatic"]
    activity: Choice
    diet: Literal["insects", "whole prey", "plants", "omnivore", "powder and insects", "eggs", "water prey"]
    heat_sense: HeatSense
    uv_zone: Choice
    oral_d3: OralD3
    company: Choice
    together: Annotated[tuple[Together, ...], BeforeValidator(as_list), Field(min_length=1)]
    water: Choice
    supply: Choice
    forgiving: Forgiving
    law: Choice
    costs: Costs
    origin: Choice
    native_latitude: Value | None = None
    housing: Housing | None = None
    morph_faults: tuple[Choice, ...] = ()
    normal_signs: Choices
    dormancy: tuple[Dormancy, ...] = ()
    health: Health | None = None
    water_chemistry: WaterChemistry | None = None
    reproduction: Reproduction | None = None
    body: SpeciesBody
    cautions: tuple[Choice, ...] = Field(min_length=1)
    hides: Choices
    stages: tuple[Stage, ...] = Field(min_length=2)

    @model_validator(mode="after")
    def _stages_join_up(self) -> Self:
        for measure in ("age", "mass", "length"):
            bounds = [limits for stage in self.stages if (limits := stage.bounds(measure))]
            for earlier, later in pairwise(bounds):
                if earlier.high is None or later.low is None or earlier.high != later.low:
                    raise ValueError(f"stage bounds by {measure} leave a gap or overlap at {earlier.high} and {later.low}")
        if len({stage.id for stage in self.stages}) < len(self.stages):
            raise ValueError("two stages have the same id")
        return self

    @model_validator(mode="after")
    def _stretch_goes_by_total_length(self) -> Self:
        rules = (rule.rule for stage in self.stages for rule in stage.space.rules)
        if self.body.length_measure != "total" and "stretch" in rules:
            raise ValueError("a stretch rule needs a species that is measured by total length")
        return self

    def stage(self, stage_id: str) -> Stage:
        return next(stage for stage in self.stages if stage.id == stage_id)

    def hides_of(self, stage: Stage) -> Choices:
        return stage.hides or self.hides

    @kept
    def topics(self) -> dict[str, tuple[str, ...]]:
        """The schools that differ anywhere in this profile, by topic."""
        found: dict[str, dict[str, None]] = {}
        for leaf in leaves_of(self):
            for topic, school in leaf.schools.items():
                found.setdefault(topic, {})[school] = None
        return {topic: tuple(schools) for topic, schools in found.items()}


def leaves_of(part: object, path: tuple[str | int, ...] = ()) -> Iterator[Leaf]:
    """Yield every leaf of a profile or a part of it."""
    return (leaf for _path, leaf in leaves_with_paths(part, path))


def leaves_with_paths(part: object, path: tuple[str | int, ...] = ()) -> Iterator[tuple[tuple[str | int, ...], Leaf]]:
    """Yield every leaf with its path in the document; a leaf that holds further leaves comes before them."""
    if isinstance(part, Leaf):
        yield path, part
    if isinstance(part, ProfilePart):
        for name in type(part).model_fields:
            yield from leaves_with_paths(getattr(part, name), (*path, name))
    elif isinstance(part, tuple):
        for index, item in enumerate(part):
            yield from leaves_with_paths(item, (*path, index))
    elif isinstance(part, dict):
        for name, item in part.items():
            yield from leaves_with_paths(item, (*path, name))
