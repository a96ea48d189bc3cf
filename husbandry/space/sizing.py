"""How large the enclosure must be: fixed sizes and multiples of body length, the most demanding rule per side.

Body-length multiples follow the German expert report on minimum requirements for keeping reptiles (BMEL 1997). Length
and width may be turned round: the longer side of the floor answers for the rule's longer side.
"""

from dataclasses import dataclass
from typing import Literal

from husbandry.species.profile import Profile, Space, SpaceRule

SIDES = ("length", "width", "height")
Level = Literal["minimum", "recommended"]


@dataclass(frozen=True)
class Need:
    """What one side must measure (m), and the rule that asks for most."""

    size_m: float
    rule: SpaceRule


def needs(space: Space, level: Level, body_length_m: float | None, animals: int = 1) -> dict[str, Need]:
    """Return the need per side at `level`, the recommended never below the minimum; without a length no rules by body length.

    Further animals lengthen the enclosure by the profile's share each. Empty when no rule can be applied.
    """
    share = space.extra_animal_share.value if space.extra_animal_share else 0.0
    found: dict[str, Need] = {}
    for rule in space.rules:
        if rule.level not in (level, "minimum") or (rule.rule == "body" and body_length_m is None):
            continue
        scale = 0.01 if rule.rule == "fixed" else float(body_length_m or 0.0)
        along = max(rule.length, rule.width), min(rule.length, rule.width), rule.height
        for side, size in zip(SIDES, along, strict=True):
            size_m = size * scale * (1 + share * (animals - 1) if side == "length" else 1.0)
            if side not in found or size_m > found[side].size_m:
                found[side] = Need(size_m, rule)
    return found


def depends_on_length(space: Space) -> bool:
    """Tell whether any rule needs the animal's length."""
    return any(rule.rule == "body" for rule in space.rules)


def needs_of_grown(profile: Profile) -> dict[str, Need]:
    """Return what the last stage asks for at least, side by side, for an animal of middling adult length."""
    return needs(profile.stages[-1].space, "minimum", profile.body.adult_length_cm.middle / 100)


def smallest_for_grown(profile: Profile) -> tuple[float, float, float]:
    """Return the same as length, width and height in m."""
    found = needs_of_grown(profile)
    return found["length"].size_m, found["width"].size_m, found["height"].size_m


def fits(profile: Profile, length_m: float, width_m: float, height_m: float) -> bool:
    """Tell whether an enclosure (m) is large enough for one grown animal by the minimum; the floor may be turned round."""
    floor = max(length_m, width_m), min(length_m, width_m)
    return all(have >= want - 0.001 for have, want in zip((*floor, height_m), smallest_for_grown(profile), strict=True))
