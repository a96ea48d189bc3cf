"""A life stage of a profile: space, heat, moisture, light, ground, food.

Temperatures in °C, humidity in %, lengths in cm, areas in cm², volumes in L, masses in g, ages in months, intervals in
days: the units keepers write profiles in. The core converts where it computes.
"""

from typing import Annotated, Final, Literal, Self

from pydantic import BeforeValidator, Field, model_validator

from husbandry.species.leaves import Choice, Choices, Leaf, ProfilePart, Range, Ranges, Value, as_list

SIZES: Final = ("length", "width", "height", "stretch", "area", "litres")
# What each kind of space rule says, and nothing else.
SAYS: Final = {
    "fixed": {"length", "width", "height"},
    "body": {"length", "width", "height"},
    "stretch": {"stretch"},
    "floor": {"area"},
    "volume": {"litres"},
}


# Schools of size: the book's own fixed sizes, the multiples of body length of a report, the smaller fixed sizes of the trade, and
# those of tubs and racks.
BOOK: Final = "space:book"
REPORT: Final = "space:report"
TRADE: Final = "space:trade"
TUB: Final = "space:tub"


# Where the heat comes from: a topic of every species that has a band for the ground over a mat.
SOURCE, OVERHEAD, MAT, BOTH = "heat", "overhead", "mat", "both"


class SpaceRule(Leaf):
    """One rule of enclosure size; exactly the fields of its kind are used.

    fixed: length, width, height in cm. body: the same as multiples of the species' measure of body length. stretch:
    length + width as a multiple of total length. floor: area in cm². volume: litres of water. With `sex` the rule
    holds for that sex only; with `animals` it is for so many already.
    """

    rule: Literal["fixed", "body", "stretch", "floor", "volume"]
    level: Literal["minimum", "recommended"]
    length: float | None = Field(default=None, gt=0)
    width: float | None = Field(default=None, gt=0)
    height: float | None = Field(default=None, gt=0)
    stretch: float | None = Field(default=None, gt=0)
    area: float | None = Field(default=None, gt=0)
    litres: float | None = Field(default=None, gt=0)
    animals: int = Field(default=1, ge=1)

    @model_validator(mode="after")
    def _says_what_its_kind_says(self) -> Self:
        said = {name for name in SIZES if getattr(self, name) is not None}
        if said != SAYS[self.rule]:
            raise ValueError(f"a {self.rule} rule gives {', '.join(sorted(SAYS[self.rule]))} and no other size")
        return self


class Space(ProfilePart):
    """`extra_animal_share` is what each further animal adds to length, floor area and water, as a share of the first's.

    `shrinks_because` says why a stage asks for less than the one before it.
    """

    rules: tuple[SpaceRule, ...] = Field(min_length=1)
    extra_animal_share: Value | None = None
    shrinks_because: Choice | None = None


class Heat(ProfilePart):
    """`ceiling_c` is the air from which harm begins while the animal can go where it is cooler, `cool_ceiling_c` that at the cool
    end, where it cannot, and `night_ceiling_c` that of its night; `surface_ceiling_c` is the hottest surface it may ever meet.

    A profile without the two of the cool end and the night is judged by the first alone. `mat_surface_c` is the ground over a heat
    mat, for what takes its warmth up with the belly as well: then the source of heat is a choice (`of_source`).
    """

    basking_surface_c: Ranges | None = None
    mat_surface_c: Ranges | None = None
    warm_air_c: Ranges
    cool_air_c: Ranges
    night_c: Ranges
    ceiling_c: Value
    cool_ceiling_c: Value | None = None
    night_ceiling_c: Value | None = None
    surface_ceiling_c: Value | None = None

    @property
    def harmful_c(self) -> dict[str, float]:
        """The air from which harm begins, °C: at the "warm" end, at the "cool" end, and at "night"."""
        cool, night = self.cool_ceiling_c or self.ceiling_c, self.night_ceiling_c or self.ceiling_c
        return {"warm": self.ceiling_c.value, "cool": cool.value, "night": night.value}


class Moisture(ProfilePart):
    day_percent: Ranges
    night_percent: Ranges
    humid_hide_percent: Ranges | None = None
    misting_per_day: Ranges | None = None


class UvRange(Range):
    """UV index at the back, and how it is given: weak over a large part, or strong under the basking lamp."""

    method: Literal["shade", "sunbeam", "none"]


class Light(ProfilePart):
    uv_index: Annotated[tuple[UvRange, ...], BeforeValidator(as_list), Field(min_length=1)] | None = None
    lit_share_percent: Ranges | None = None
    hours: Ranges


class GroundRule(ProfilePart):
    depth_cm: Ranges
    kinds: Choices


class WaterRule(ProfilePart):
    """Water an animal lives or bathes in: temperature, depth, and how it is changed."""

    temperature_c: Ranges | None = None
    depth_cm: Ranges | None = None
    change: Choice | None = None


Limit = Literal["gap-of-eyes", "head-length", "girth", "mouth", "egg-2", "egg-3"]


class Meal(Leaf):
    """What one feed is made of. Exactly one of count, mass share or portion is given.

    `prey_limit` always says which dimension it limits, `limit` the same for the sums: no wider than the gap between the
    eyes or the mouth, no longer than the head, no thicker than the widest girth, or so many heads thick (an egg).
    `foods` are what it may be made of, by their names in `husbandry.diet.foods`, the usual first; `parts` their shares by
    mass in a mix, equal where they are not given. `about_percent` of body mass is what a portion comes to (an estimate, for
    the sums only). `per_week` is how often this part is given where it does not come with each feed. `fresh_days`: it always lies
    there, and is renewed after so many days at most. `longest_mm` holds a piece below what `limit` would bear, for animals with
    small mouths.
    """

    food: str
    foods: tuple[str, ...] = ()
    parts: tuple[float, ...] = ()
    limit: Limit | None = None
    longest_mm: float | None = Field(default=None, gt=0)
    about_percent: float | None = Field(default=None, gt=0)
    per_week: float | None = Field(default=None, gt=0, le=7)
    fresh_days: float | None = Field(default=None, gt=0, le=60)
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
        if self.parts and (len(self.parts) != len(self.foods) or min(self.parts) < 0 or sum(self.parts) <= 0):
            raise ValueError("'parts' gives one share above zero for each of 'foods'")
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


class StageFeeding(ProfilePart):
    interval_days: Ranges
    shorter_because: Choice | None = None
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
    """A life stage; bounds are "from" (included) to "until" (excluded), open at either end.

    Where it names no hides of its own, the profile's are meant.
    """

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
    feeding: StageFeeding
    hides: Choices | None = None
    climbing: Choice | None = None
    water: WaterRule | None = None

    @model_validator(mode="after")
    def _leader_is_given(self) -> Self:
        if self.bounds(self.leads) is None:
            raise ValueError(f"the stage is led by {self.leads} but gives no bounds for it")
        return self

    def of_source(self, schools: dict[str, str]) -> Self:
        """The stage as the keeper's source of heat asks for it: overhead, from below by a mat, or both."""
        source = schools.get(SOURCE, OVERHEAD)
        if self.heat.mat_surface_c is None or source == BOTH:
            return self
        unasked = "basking_surface_c" if source == MAT else "mat_surface_c"
        return self.model_copy(update={"heat": self.heat.model_copy(update={unasked: None})})

    @model_validator(mode="after")
    def _either_sex_is_told(self) -> Self:
        for part in (self.heat, self.ground, self.feeding):
            for name in type(part).model_fields:
                leaves = getattr(part, name)
                if isinstance(leaves, tuple) and leaves and leaves[0].sex is not None:
                    raise ValueError(f"{name}: what holds for either sex comes before what holds for one")
        return self

    def of_sex(self, sex: str) -> Self:
        """The stage as it is asked for an animal of this sex: what holds for it alone, where there is such, else for either."""
        changed = {}
        for where in ("heat", "ground", "feeding"):
            part = getattr(self, where)
            found = {}
            for name in type(part).model_fields:
                leaves = getattr(part, name)
                if isinstance(leaves, tuple) and any(leaf.sex is not None for leaf in leaves):
                    mine = tuple(leaf for leaf in leaves if leaf.sex == sex)
                    found[name] = mine or tuple(leaf for leaf in leaves if leaf.sex is None)
            if found:
                changed[where] = part.model_copy(update=found)
        return self.model_copy(update=changed) if changed else self

    def bounds(self, measure: str) -> Range | None:
        return {"age": self.age_months, "mass": self.mass_g, "length": self.length_cm}[measure]
