"""The part of a plan that says what is fed and what is done: the keeper's own menu, powders, fasts, chores."""

from typing import Annotated, Final, Literal, Self

from pydantic import Field, model_validator

from husbandry.plan.equipment import Day, Metres, Part, Text

LONGEST_FAST_DAYS: Final = 366
Days = Annotated[int, Field(ge=1, le=60)]


Product = Literal["plain calcium", "calcium with D3", "multivitamin", "all-in-one"]


class FedItem(Part):
    """A part of the keeper's own feed: `food` as in the table of foods, or a class of frozen prey ("mouse/adult").

    Exactly one of `count` and `grams` a feed, for all animals together. `each_g` is the mass of one piece, the usual one
    where it is not given. `per_week` is how often, where it does not come with each feed.
    """

    food: Text
    count: Annotated[int, Field(ge=1, le=1000)] | None = None
    grams: Annotated[float, Field(gt=0, le=50_000)] | None = None
    each_g: Annotated[float, Field(gt=0, le=10_000)] | None = None
    per_week: Annotated[float, Field(gt=0, le=7)] | None = None

    @model_validator(mode="after")
    def _one_measure(self) -> Self:
        if (self.count is None) == (self.grams is None):
            raise ValueError("a part of a feed is counted or weighed, not both")
        return self


class FedProduct(Part):
    """A supplement of the keeper's own rota: every so many days, or with every n-th feed."""

    product: Product
    every_days: Annotated[float, Field(gt=0, le=120)] | None = None
    every_feeds: Annotated[int, Field(ge=1, le=60)] | None = None

    @model_validator(mode="after")
    def _one_frequency(self) -> Self:
        if (self.every_days is None) == (self.every_feeds is None):
            raise ValueError("a powder comes every so many days or every so many feeds, not both")
        return self


Percent = Annotated[float, Field(ge=0, le=100)]
IuPerKg = Annotated[float, Field(ge=0, le=100_000_000)]


class PowderLabel(Part):
    """What stands on the keeper's own tin, in place of what a powder of its kind usually holds: calcium and phosphorus in % of
    the powder, vitamins D3 and A in IU per kg, iodine in mg per kg. What a label leaves out is none of it."""

    product: Product
    calcium_percent: Percent = 0.0
    phosphorus_percent: Percent = 0.0
    d3_iu_per_kg: IuPerKg = 0.0
    a_iu_per_kg: IuPerKg = 0.0
    iodine_mg_per_kg: Annotated[float, Field(ge=0, le=20_000)] = 0.0

    @model_validator(mode="after")
    def _no_more_than_all(self) -> Self:
        if self.calcium_percent + self.phosphorus_percent > 100:
            raise ValueError("calcium and phosphorus together are more than the whole powder")
        return self


class Fast(Part):
    """Days without food, first and last included: before and through a rest, a journey, quarantine, a shed."""

    first: Day
    last: Day
    why: Literal["rest", "transport", "quarantine", "shed", "vet", "other"] = "other"

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.last < self.first:
            raise ValueError("a fast ends on or after the day it begins")
        if (self.last - self.first).days > LONGEST_FAST_DAYS:
            raise ValueError("a fast lasts a year at most")
        return self


class Feeding(Part):
    """The feeding calendar begins at `starts`; the interval is the stage's own unless the keeper sets one, or
    `weekdays` (0 is Monday) in every n-th week, which stand in its place.

    `condition` is the body's score from 1 (wasted) to 5 (obese), as seen on `condition_on`. `state` is that of an animal out of
    the usual. `measured_m` is what the prey's size goes by, measured: gap of the eyes, head length, mouth, girth.
    `items` and `supplements` are the keeper's own in place of the book's. `labels` say what those
    powders hold. `dust_mg_per_g` of powder stays on a gram of insect.
    """

    starts: Day | None = None
    interval_days: Days | None = None
    weekdays: Annotated[tuple[Annotated[int, Field(ge=0, le=6)], ...], Field(max_length=7)] = ()
    every_weeks: Annotated[int, Field(ge=1, le=4)] = 1
    supplement_starts: Day | None = None
    condition: Annotated[int, Field(ge=1, le=5)] | None = None
    condition_on: Day | None = None
    state: Literal["usual", "gravid", "off-feed"] = "usual"
    measured_m: Metres | None = None
    items: Annotated[tuple[FedItem, ...], Field(max_length=16)] = ()
    supplements: Annotated[tuple[FedProduct, ...], Field(max_length=6)] | None = None
    labels: Annotated[tuple[PowderLabel, ...], Field(max_length=4)] = ()
    dust_mg_per_g: Annotated[float, Field(ge=0, le=80)] | None = None
    where: Literal["", "slate", "cool-end", "cup", "scattered", "own-box"] = ""
    rationed: Literal["counted", "by-time"] = "counted"
    calcium_dish: bool = False
    fasts: Annotated[tuple[Fast, ...], Field(max_length=12)] = ()

    @model_validator(mode="after")
    def _one_label_each(self) -> Self:
        if len({item.product for item in self.labels}) < len(self.labels):
            raise ValueError("a powder has one label")
        return self


class OwnChore(Part):
    """A chore of the keeper's own: every so many days, or on weekdays (0 is Monday); where months are given, between them."""

    name: Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[^/:]+$")]
    every_days: Annotated[int, Field(ge=1, le=1500)] | None = None
    weekdays: Annotated[tuple[Annotated[int, Field(ge=0, le=6)], ...], Field(max_length=7)] = ()
    from_month: Annotated[int, Field(ge=1, le=12)] | None = None
    until_month: Annotated[int, Field(ge=1, le=12)] | None = None

    @model_validator(mode="after")
    def _one_rhythm(self) -> Self:
        if (self.every_days is None) == (not self.weekdays):
            raise ValueError("a chore comes every so many days or on weekdays, not both")
        if (self.from_month is None) != (self.until_month is None):
            raise ValueError("a season has a first and a last month")
        return self


class Upkeep(Part):
    """`every_days` sets a chore's own interval by its name, 0 leaves it out. `own` are the keeper's.
    `arrived` and `quarantine_until` as they were."""

    every_days: dict[Annotated[str, Field(max_length=40)], Annotated[int, Field(ge=0, le=1500)]] = Field(
        default_factory=dict, max_length=40
    )
    own: Annotated[tuple[OwnChore, ...], Field(max_length=12)] = ()
    arrived: Day | None = None
    quarantine_until: Day | None = None
