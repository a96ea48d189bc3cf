"""How large the enclosure must be: by every rule of the profile, the most demanding one per measure.

Fixed sizes; multiples of body length after the German expert report on minimum requirements for keeping reptiles (BML
1997); the stretch rule of snake keepers (length and width together, common practice, no source); floor area; litres of
water. Length and width may be turned round: the longer side of the floor answers for the rule's longer side.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal

from husbandry.species.profile import Profile
from husbandry.species.stage import BOOK, REPORT, TRADE, TUB, Space, SpaceRule
from husbandry.units import TOLERANCE_M

SIDES: Final = ("length", "width", "height")
MEASURES: Final = (*SIDES, "stretch", "floor_area", "water_volume")
Level = Literal["minimum", "recommended"]
# How much of an enclosure's volume can be water: filled but for a hand's breadth, or half a tank's shallow half (estimates).
WATER_SHARE: Final = {"aquatic": 0.85, "semi-aquatic": 0.25}


@dataclass(frozen=True)
class Box:
    """What there is: inner sides in m, and m³ of water."""

    length_m: float
    width_m: float
    height_m: float
    water_m3: float = 0.0

    def measures(self) -> dict[str, float]:
        """The box by every measure a rule may ask for, in m, m² and m³."""
        long, short = max(self.length_m, self.width_m), min(self.length_m, self.width_m)
        sizes = (long, short, self.height_m, long + short, long * short, self.water_m3)
        return dict(zip(MEASURES, sizes, strict=True))


@dataclass(frozen=True)
class Need:
    """What one measure must be (m, m² or m³) for all the animals, what it would be for one, and the rule that asks for most."""

    size: float
    alone: float
    rule: SpaceRule


SCHOOL_OF_SIZE: Final = "space"
# What each school of size goes by, the first that a stage has.
GOES_BY: Final = {"trade": (TRADE, BOOK), "report": (REPORT, BOOK), "tub": (TUB, TRADE, BOOK)}


def rules_of(space: Space, school: str = "") -> tuple[SpaceRule, ...]:
    """Return the rules that hold by a school of size.

    Parameters
    ----------
    space
        The stage's rules.
    school
        "trade": the fixed sizes of the trade, the book's own where it has none. "report": the multiples of body length. "tub": what
        a tub or a rack has, else the trade's. Else both the book's fixed sizes and the multiples, whichever asks for more.

    Returns
    -------
    The rules without a school and those of this one.

    References
    ----------
    No source outside.
    """
    # A stretch or a floor alone is no enclosure: a school without sides of its own goes by the book's beside it.
    named = {rule.school for rule in space.rules if rule.rule in ("fixed", "body")}
    chosen = next((name for name in GOES_BY.get(school, ()) if name in named), None)
    held = (BOOK, REPORT) if chosen is None or (school == "report" and chosen != REPORT) else (chosen,)
    return tuple(rule for rule in space.rules if rule.school in ("", *held))


def needs(
    space: Space,
    level: Level,
    body_length_m: float | None,
    animals: int = 1,
    sex: str = "unknown",
    school: str = "",
) -> dict[str, Need]:
    """Return the need per measure at `level`, the recommended never below the minimum.

    Without a length the rules by body length do not apply; without a known sex those of both sexes do. Further animals
    add the profile's share each to length, stretch, floor and water. Empty when no rule can be applied.

    Parameters
    ----------
    space
        The stage's rules.
    level
        "minimum" or "recommended".
    body_length_m
        m, None where it is not known.
    animals
        How many live there.
    sex
        "male", "female" or "unknown".
    school
        The school of size, as for `rules_of`.

    Returns
    -------
    Need in m, m² or m³ by measure.

    References
    ----------
    The form of the rules is that of the German minimum requirements of 1997 (docs/models.md [11]; recalled); each value has its
    own basis.
    """
    share = space.extra_animal_share.value if space.extra_animal_share else 0.0
    found: dict[str, Need] = {}
    for rule in rules_of(space, school):
        crowd = 1 + share * max(animals - rule.animals, 0)
        if rule.level not in (level, "minimum") or (rule.sex is not None and sex not in (rule.sex, "unknown")):
            continue
        for measure, alone in _asked(rule, body_length_m).items():
            size = alone if measure in ("width", "height") else alone * crowd
            if measure not in found or size > found[measure].size:
                found[measure] = Need(size, alone, rule)
    return found


def _asked(rule: SpaceRule, body_length_m: float | None) -> dict[str, float]:
    """What one rule asks for one animal, in m, m² and m³."""
    if rule.litres is not None:
        return {"water_volume": rule.litres / 1000}
    if rule.area is not None:
        return {"floor_area": rule.area / 10_000}
    if rule.stretch is not None:
        return {} if body_length_m is None else {"stretch": rule.stretch * body_length_m}
    if rule.rule == "body" and body_length_m is None:
        return {}
    scale = 0.01 if rule.rule == "fixed" else float(body_length_m or 0.0)
    assert rule.length is not None
    assert rule.width is not None
    assert rule.height is not None
    sides = max(rule.length, rule.width), min(rule.length, rule.width), rule.height
    return {side: size * scale for side, size in zip(SIDES, sides, strict=True)}


def factor(rule: SpaceRule, measure: str) -> float:
    """The multiple of body length a rule by body length asks for on this measure."""
    return _asked(rule, 1.0)[measure]


def depends_on_length(space: Space) -> bool:
    """Tell whether any rule needs the animal's length."""
    return any(rule.rule in ("body", "stretch") for rule in space.rules)


def short(box: Box, wanted: Mapping[str, Need]) -> tuple[str, ...]:
    """Name the measures on which the box falls short.

    Parameters
    ----------
    box
        The enclosure.
    wanted
        Need by measure.

    Returns
    -------
    Names of measures.

    References
    ----------
    No source outside.
    """
    have = box.measures()

    def least(measure: str, need: Need) -> float:
        return need.size - (TOLERANCE_M if measure in (*SIDES, "stretch") else 1e-9)

    return tuple(measure for measure, need in wanted.items() if have[measure] < least(measure, need))


def holds(sides_m: tuple[float, float, float], needed_m: tuple[float, float, float], water_m3: float, habit: str) -> bool:
    """Tell whether an enclosure holds an animal that needs so much; the floor may be turned round.

    Parameters
    ----------
    sides_m, needed_m
        Inner length, width and height, m.
    water_m3
        The water it needs; no more of an enclosure than its habit's share can be water.
    habit
        That of the profile.

    Returns
    -------
    True where it does.

    References
    ----------
    Geometry; the share that can be water is an estimate.
    """
    have = (max(sides_m[:2]), min(sides_m[:2]), sides_m[2])
    if any(one < need - TOLERANCE_M for one, need in zip(have, needed_m, strict=True)):
        return False
    return water_m3 <= WATER_SHARE.get(habit, 0.0) * sides_m[0] * sides_m[1] * sides_m[2]


def needs_of_grown(profile: Profile, level: Level = "minimum", animals: int = 1, sex: str = "unknown") -> dict[str, Need]:
    """Return what the last stage asks for, measure by measure, for an animal of middling adult length.

    Parameters
    ----------
    profile
        The species.
    level, animals, sex
        As for `needs`.

    Returns
    -------
    Need in m, m² or m³ by measure.

    References
    ----------
    As `needs`.
    """
    length_m = profile.body.adult(sex).length_cm.middle / 100
    return needs(profile.stages[-1].space, level, length_m, animals, sex)


def sides_for(wanted: Mapping[str, Need]) -> tuple[float, float, float]:
    """Return the smallest length, width and height (m) that meet sides, stretch and floor area together.

    Parameters
    ----------
    wanted
        Need by measure.

    Returns
    -------
    m.

    References
    ----------
    Geometry; no source outside.
    """
    length, width, height = (wanted[side].size for side in SIDES)
    if "stretch" in wanted:
        length = max(length, wanted["stretch"].size - width)
    if "floor_area" in wanted:
        length = max(length, wanted["floor_area"].size / width)
    return length, width, height


def fits(profile: Profile, length_m: float, width_m: float, height_m: float) -> bool:
    """Tell whether an enclosure (m) is large enough for one grown animal by the minimum; the floor may be turned round."""
    water_m3 = WATER_SHARE.get(profile.habit, 0.0) * length_m * width_m * height_m
    return not short(Box(length_m, width_m, height_m, water_m3), needs_of_grown(profile))
