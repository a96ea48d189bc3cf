"""What the rules look at: plain values, gathered by the plan."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Final

from husbandry.assessment import Change, Quantity
from husbandry.review.arrangement import Furnishings, Standing

WARMS_AIR: Final = ("over", "air")  # where a heater hangs that warms the air: mats warm ground and walls, others water


@dataclass(frozen=True)
class HeaterFacts:
    """One heater. `gap_m` from its face to what lies under it; `right_height_m` gives the wanted surface at full power.

    `place` as in `HeaterKind`; `holder_w` is what its holder carries, None where that is not known.
    `flat_out`: by "day" and "night", whether it gives all it has in winter.
    """

    index: int
    kind: str
    watts: float
    place: str
    holder_w: float | None
    light: bool
    control: str
    suited_controls: tuple[str, ...]
    set_c: float | None
    night_set_c: float | None
    probe: str
    guarded: bool
    inside: bool
    gap_m: float
    lowest_height_m: float
    height_m: float
    highest_height_m: float
    right_height_m: float | None
    on_at_night: bool
    warms_spot: bool
    flat_out: Mapping[str, bool]

    @property
    def dark_and_held(self) -> bool:
        """Tell whether it warms the air without light and a thermostat holds it."""
        return not self.light and self.control != "none" and self.place in WARMS_AIR


@dataclass(frozen=True)
class UvFacts:
    """One UV lamp, at `path` in the plan."""

    index: int
    path: str
    kind: str
    behind_glass: bool
    age_months: float | None
    rated_life_months: float
    on_at_night: bool
    height_m: float

    @property
    def is_tube(self) -> bool:
        """Tell a tube or compact from a lamp that warms as well."""
        return self.path.startswith("uv_lamps")


@dataclass(frozen=True)
class Company:
    """Who lives together, and what the profile says of it. `smallest_share` is the smallest one's length over this one's."""

    kind: str = "alone"
    most: int | None = None
    most_males: int | None = None
    males_note: str = ""
    young_apart: bool = True
    eats_smaller_share: float | None = None
    said: str = ""
    animals: int = 1
    males: int | None = None
    young: int = 0
    smallest_share: float | None = None


@dataclass(frozen=True)
class Figures:
    """What was said of the animal against what the species can be: masses in kg, lengths in m.

    `as_whole_m` is its length by the species' measure if the whole animal was measured, tail and all, and `as_whole_kg` what is
    expected of it then.

    `expected_kg` from its length, else from its age; None where neither is known.
    """

    mass_kg: float | None = None
    expected_kg: float | None = None
    heaviest_kg: float = 0.0
    length_m: float | None = None
    longest_m: float = 0.0
    measure: str = "total"
    as_whole_m: float | None = None
    as_whole_kg: float | None = None
    hatched: str = ""
    age_years: float | None = None
    oldest_years: int = 200


@dataclass(frozen=True)
class WaterFacts:
    """The water a stage lives or bathes in: whether it is wanted, whether it is there, the middle of the depths asked for (m)."""

    wanted: bool = False
    there: bool = False
    depth_middle_m: float | None = None


@dataclass(frozen=True)
class Meals:
    """A week's food as the rules see it.

    `dust_short_g` of plain calcium a week would bring it to two to one, None where nothing dusted is fed. `flags` by the
    finding they make, with the share of the food they are about. `iodine_mg_per_kg` is of powders by dry matter;
    `thiaminase_share` of the animal food is fish that destroys thiamin, and `thiamin_wanted_mg` a week would make it good.
    `too_large`: food, what the limit goes by, the limit in m, and whether that was measured. `new_here` for half a year after
    it came. `rest_lost_percent` of its weight is what a rest has cost so far, None where there is none or it is not known;
    `rest_fast` where it goes too fast. `rest_forbidden` is why the species is never cooled, "" where it may be; `rest_in_book`
    whether the book says either.
    """

    own_items: bool = False
    own_interval: bool = False
    own_powders: bool = False
    dust_short_g: float | None = None
    flags: Mapping[str, float] = field(default_factory=dict)
    iodine_mg_per_kg: float = 0.0
    iodine_wanted_mg_per_kg: float = 0.0
    thiaminase_share: float = 0.0
    thiaminase_much: bool = False
    thiamin_wanted_mg: float = 0.0
    one_prey: str = ""
    too_large: tuple[tuple[str, str, float, bool], ...] = ()
    too_heavy: tuple[str, ...] = ()
    condition: int | None = None
    condition_moved: bool = False
    rest_planned: bool = False
    winter_rest: bool = False
    rest_forbidden: str = ""
    rest_in_book: bool = True
    grown: bool = True
    new_here: bool = False
    rest_lost_percent: float | None = None
    rest_limit_percent: float = 10.0
    rest_fast: bool = False


@dataclass(frozen=True)
class BoxFacts:
    """The enclosure's inner sides in m.

    `sides_needed`: the smallest length, width and height by the minimum; `outgrown`: the date they fall short within the
    months looked ahead, and the sides the grown animal takes. `enough_by` names a school of size by which it is large enough where
    it is not by the plan's.
    """

    length_m: float
    width_m: float
    height_m: float
    sides_needed: tuple[float, float, float] | None = None
    outgrown: tuple[str, tuple[float, float, float]] | None = None
    enough_by: str = ""


@dataclass(frozen=True)
class HeatFacts:
    """What is wanted of the heat, and what comes in. Temperatures in °C, power in W.

    `mat_middle_c` is wanted of the ground over a mat, None where none is asked for. `given_w` is what all heaters give, by
    "season/phase"; `room_day_c` by season.
    """

    night_low_c: float
    warm_air_middle_c: float | None = None
    basking_middle_c: float | None = None
    mat_middle_c: float | None = None
    water_middle_c: float | None = None
    ceiling_c: float | None = None
    given_w: Mapping[str, float] = field(default_factory=dict)
    room_day_c: Mapping[str, float] = field(default_factory=dict)
    sun_watts: float = 0.0
    sun_hottest_c: float = 0.0


@dataclass(frozen=True)
class LightFacts:
    """The light's hours, as "HH:MM" and as wanted (h), and the UV index wanted at the back; `uv_needed` where it is no choice.

    `changes` where the day's length changes through the year.
    """

    on: str
    off: str
    wanted_hours: float
    uv_wanted: tuple[float, float] | None = None
    uv_needed: bool = False
    changes: bool = False


@dataclass(frozen=True)
class GroundFacts:
    """How deep the ground is, and the middle of the depths asked for, in m; `laid` is what is laid for it in place of paper."""

    top_m: float
    wanted_m: float
    deeper: tuple[Change, ...] = ()
    living: bool = False
    damp: bool = False
    litter: bool = False
    layers: int = 1
    laid: str = ""


@dataclass(frozen=True)
class Shelter:
    """The shelters the stage asks for by name, how many are missing by kind, a damp one, and whether there is a bowl."""

    wanted: tuple[str, ...] = ()
    missing: Mapping[str, int] = field(default_factory=dict)
    humid_missing: bool = False
    has_bowl: bool = True


@dataclass(frozen=True)
class StageFacts:
    """How the life stage was found: the measure it goes by, what each measure points to where they disagree, what to ask."""

    leads: str = ""
    known: bool = True
    indications: Mapping[str, str] = field(default_factory=dict)
    length_question: bool = False


@dataclass(frozen=True)
class Facts:
    """Everything the rules know of one plan, by the room it is about. `today` as a date's text."""

    quantities: tuple[Quantity, ...]
    heaters: tuple[HeaterFacts, ...]
    uv_lamps: tuple[UvFacts, ...]
    box: BoxFacts
    heat: HeatFacts
    light: LightFacts
    ground: GroundFacts
    shelter: Shelter = field(default_factory=Shelter)
    stage: StageFacts = field(default_factory=StageFacts)
    standing: Standing = field(default_factory=Standing)
    furnishings: Furnishings = field(default_factory=Furnishings)
    company: Company = Company()
    figures: Figures = Figures()
    water: WaterFacts = WaterFacts()
    meals: Meals = Meals()
    today: str = ""

    def of(self, key: str, phase: str = "") -> list[Quantity]:
        """All quantities with this key, in either season."""
        return [item for item in self.quantities if item.key == key and (not phase or item.phase == phase)]
