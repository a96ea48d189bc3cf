"""What the rules look at: plain values, gathered by the plan."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from husbandry.assessment import Quantity


@dataclass(frozen=True)
class HeaterFacts:
    """One heater. `gap_m` from its face to what lies under it; `right_height_m` gives the wanted surface at full power.

    `flat_out`: by "day" and "night", whether it gives all it has in winter.
    """

    index: int
    kind: str
    watts: float
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


@dataclass(frozen=True)
class UvFacts:
    """One UV lamp. `right_height_m` gives the middle of the band at the back, None where no reachable height does."""

    index: int
    kind: str
    behind_glass: bool
    age_months: float | None
    rated_life_months: float
    on_at_night: bool
    height_m: float
    right_height_m: float | None


@dataclass(frozen=True)
class Facts:
    """Everything the rules know of one plan. Lengths in m, temperatures in °C, humidity in %.

    `dark_watts`: how strong a further heater must be for the "night" low at the cool end and the "day" at the warm end.
    `night_hold_c`: what a dark heater's own probe reads in winter while the cool end is held above its night low.
    `room_at_cool_end`: % that the room's own air would read at the cool end, by "season/moment".
    `hide_places`: where a further hide would stand, by "warm", "cool" and "humid"; `bowl_place` place and diameter;
    `misting_right_g` grams a day that keep the cool end in its band, None where misting cannot.
    """

    quantities: tuple[Quantity, ...]
    heaters: tuple[HeaterFacts, ...]
    uv_lamps: tuple[UvFacts, ...]
    length_m: float
    width_m: float
    height_m: float
    basking_middle_c: float | None
    warm_air_middle_c: float
    new_heater_place: tuple[float, float]
    dark_watts: Mapping[str, float]
    night_hold_c: float | None
    uv_wanted: tuple[float, float] | None
    uv_needed: bool
    new_uv_lamp: Mapping[str, Any] | None
    night_low_c: float
    daylight_on: str
    daylight_off: str
    wanted_hours: float
    ground_wanted_m: float
    ground_damp: bool
    misting_g: float
    room_at_cool_end: Mapping[str, float] = field(default_factory=dict)
    room_day_c: Mapping[str, float] = field(default_factory=dict)
    hides_wanted: tuple[str, ...] = ()
    hides: int = 0
    humid_hides: int = 0
    hide_length_m: float = 0.15
    hide_places: Mapping[str, float] = field(default_factory=dict)
    bowl_place: tuple[float, float] = (0.0, 0.15)
    misting_right_g: float | None = None
    has_bowl: bool = True
    animals: int = 1
    company: str = ""
    stage_known: bool = True
    stage_disputed: Mapping[str, str] = field(default_factory=dict)
    length_question: bool = False
    today: str = ""

    def of(self, key: str, moment: str = "") -> list[Quantity]:
        """All quantities with this key, in either season."""
        return [item for item in self.quantities if item.key == key and (not moment or item.moment == moment)]
