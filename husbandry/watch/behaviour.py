"""Behaviour as a reading: what was seen, its likeliest causes with their evidence, and the one measurement that tells them apart.

Each cause stands on a number of the assessment (too low or too high), on a circumstance of the animal, or on neither; then nothing
speaks for it or against it. The list is what keepers and keeping manuals go by (common practice, no source). Never a diagnosis.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Final, Literal

from husbandry.assessment import Quantity, Verdict

Side = Literal["low", "high"]
SPEAKS: Final = 0.5  # the chance from which a number speaks for its cause
SILENT: Final = 0.1  # and below which it speaks against it


class Cause(StrEnum):
    """What may lie behind a behaviour."""

    SPOT_WEAK = "spot-weak"
    SPOT_HOT = "spot-hot"
    WARM_END_COLD = "warm-end-cold"
    WARM_END_HOT = "warm-end-hot"
    COOL_END_HOT = "cool-end-hot"
    NIGHT_COLD = "night-cold"
    NIGHT_WARM = "night-warm"
    UV_STRONG = "uv-strong"
    UV_WEAK = "uv-weak"
    AIR_DRY = "air-dry"
    AIR_WET = "air-wet"
    HIDE_DRY = "hide-dry"
    WATER_WARM = "water-warm"
    CALCIUM_SHORT = "calcium-short"
    TOO_SMALL = "too-small"
    GROUND_SHALLOW = "ground-shallow"
    NO_COOL_HIDE = "no-cool-hide"
    NEW_HERE = "new-here"
    HATCHLING = "hatchling"
    RESTING = "resting"
    BREEDING_FAST = "breeding-fast"
    GRAVID = "gravid"
    SHEDDING = "shedding"
    DRAUGHT = "draught"
    GLARE = "glare"
    MIRROR = "mirror"
    MATE = "mate"
    MITES = "mites"
    PREY = "prey"
    ILL = "ill"


@dataclass(frozen=True)
class Rule:
    """A cause with what it stands on: a quantity and the side on which it errs, or a circumstance; `read` is where one measures."""

    cause: Cause
    quantity: str = ""
    side: Side = "low"
    phase: str = "day"
    circumstance: str = ""
    read: str = ""


_SPOT_WEAK = Rule(Cause.SPOT_WEAK, "basking_surface", "low", read="basking-surface")
_SPOT_HOT = Rule(Cause.SPOT_HOT, "basking_surface", "high", read="basking-surface")
_WARM_COLD = Rule(Cause.WARM_END_COLD, "warm_air", "low", read="warm-air")
_WARM_HOT = Rule(Cause.WARM_END_HOT, "warm_air", "high", read="warm-air")
_COOL_HOT = Rule(Cause.COOL_END_HOT, "cool_air", "high", read="cool-air")
_NIGHT_COLD = Rule(Cause.NIGHT_COLD, "cool_air", "low", "night", read="cool-air")
_NIGHT_WARM = Rule(Cause.NIGHT_WARM, "warm_air", "high", "night", read="warm-air")
_UV_STRONG = Rule(Cause.UV_STRONG, "uv_back", "high", read="uv-back")
_UV_WEAK = Rule(Cause.UV_WEAK, "uv_back", "low", read="uv-back")
_DRY = Rule(Cause.AIR_DRY, "cool_humidity", "low", read="cool-humidity")
_WET = Rule(Cause.AIR_WET, "cool_humidity", "high", read="cool-humidity")
_HIDE_DRY = Rule(Cause.HIDE_DRY, "humid_hide", "low", read="humid-hide")
_NEW = Rule(Cause.NEW_HERE, circumstance="new")
_YOUNG = Rule(Cause.HATCHLING, circumstance="hatchling")
_REST = Rule(Cause.RESTING, circumstance="resting")
_FAST = Rule(Cause.BREEDING_FAST, circumstance="breeding-fast")
_GRAVID = Rule(Cause.GRAVID, circumstance="gravid")
_SHED = Rule(Cause.SHEDDING, circumstance="shedding")
_ILL = Rule(Cause.ILL, circumstance="sign")
# By what was seen (`daybook.entries.Behaviour`), what is commonest first.
CAUSES: Final[Mapping[str, tuple[Rule, ...]]] = {
    "basks-all-day": (_SPOT_WEAK, _WARM_COLD, _NIGHT_COLD, _GRAVID, _ILL),
    "never-basks": (_NIGHT_WARM, _COOL_HOT, _SPOT_HOT, _UV_STRONG, _REST, _NEW, _ILL),
    "always-cool-end": (_WARM_HOT, _SPOT_HOT, _COOL_HOT, _UV_STRONG, _SHED, _ILL),
    "shuts-eyes": (_UV_STRONG, Rule(Cause.GLARE), _DRY, _SHED, _ILL),
    "shuns-corner": (Rule(Cause.DRAUGHT, read="warm-air"), Rule(Cause.GLARE), _SPOT_HOT),
    "gapes": (_SPOT_HOT, _WARM_HOT, _COOL_HOT, _ILL),
    "paces-glass": (
        Rule(Cause.TOO_SMALL, "enclosure_length", "low", ""),
        Rule(Cause.MIRROR),
        _WARM_HOT,
        _COOL_HOT,
        Rule(Cause.MATE),
        _NEW,
        _GRAVID,
    ),
    "soaks-long": (_DRY, _WARM_HOT, _COOL_HOT, Rule(Cause.MITES), _SHED, _GRAVID),
    "sleeps-in-open": (Rule(Cause.NO_COOL_HIDE, "cool_hide", "high", "night"), _NIGHT_WARM, _HIDE_DRY, _WET, _NEW, _ILL),
    "will-not-eat": (
        _SPOT_WEAK,
        _WARM_COLD,
        _NIGHT_COLD,
        _NEW,
        _SHED,
        _REST,
        _FAST,
        _GRAVID,
        Rule(Cause.PREY),
        _COOL_HOT,
        _ILL,
    ),
    "empties-dish": (_UV_WEAK, Rule(Cause.CALCIUM_SHORT, "calcium_ratio", "low", ""), _GRAVID),
    "hides-always": (_NEW, _YOUNG, _UV_STRONG, _SPOT_HOT, _WARM_COLD, _REST, _SHED, _ILL),
    "still-but-awake": (_REST, _COOL_HOT, _WARM_COLD, _ILL),
    "digs": (_GRAVID, Rule(Cause.GROUND_SHALLOW, "ground_depth", "low", ""), _WARM_HOT, _DRY, _REST),
    "sheds-in-pieces": (_HIDE_DRY, _DRY, _WARM_COLD, Rule(Cause.MITES), _ILL),
}
# Behaviours in which an illness is never left out of sight.
WAITS_FOR_NOTHING: Final = frozenset({"gapes", "shuts-eyes"})


@dataclass(frozen=True)
class Explained:
    """A cause as the evidence has it: "for", "open", "against"; `quantity` is the number it stands on, `chance` that it errs so."""

    cause: Cause
    evidence: Literal["for", "open", "against"]
    chance: float | None = None
    quantity: Quantity | None = None
    read: str = ""


def explained(what: str, quantities: Iterable[Quantity], season: str, circumstances: Mapping[str, bool]) -> list[Explained]:
    """Return the causes of a behaviour, what the evidence speaks for first.

    Parameters
    ----------
    what
        A key of `CAUSES`; for another there are none.
    quantities
        Those of the animal's enclosure as it stands.
    season
        The season that it is now, "summer" or "winter".
    circumstances
        By name ("new", "hatchling", "resting", "breeding-fast", "gravid", "shedding", "sign") whether it holds; what is not named
        is not known.

    Returns
    -------
    One entry a cause.
    """
    by_key: dict[tuple[str, str], Quantity] = {}
    for item in quantities:
        if item.season in ("", season):
            by_key[item.key, item.phase] = item
    found = [_judged(rule, by_key, circumstances) for rule in CAUSES.get(what, ())]
    order = {"for": 0, "open": 1, "against": 2}
    return sorted(found, key=lambda one: (order[one.evidence], -(one.chance or 0.0)))


def telling(causes: Sequence[Explained]) -> str:
    """The one place to read that tells most: that of the likeliest cause a number stands for, "" where none can be read."""
    return next((one.read for one in causes if one.read and one.evidence != "against"), "")


def _judged(rule: Rule, by_key: Mapping[tuple[str, str], Quantity], circumstances: Mapping[str, bool]) -> Explained:
    if rule.circumstance:
        known = circumstances.get(rule.circumstance)
        return Explained(
            rule.cause, "open" if known is None else "for" if known else "against", None if known is None else float(known)
        )
    item = by_key.get((rule.quantity, rule.phase)) or by_key.get((rule.quantity, ""))
    if not rule.quantity or item is None or item.value is None or item.band is None:
        return Explained(rule.cause, "open", None, None, rule.read)
    chance = _errs(item, rule.side)
    evidence: Literal["for", "open", "against"] = "for" if chance >= SPEAKS else "against" if chance < SILENT else "open"
    return Explained(rule.cause, evidence, chance, item, rule.read)


def _errs(item: Quantity, side: Side) -> float:
    """The chance that a number lies beyond one side of its band, by its own spread; by where it lies, where it has none."""
    band, value = item.band, item.value
    if band is None or value is None:
        return 0.0
    edge = band.low if side == "low" else band.high
    if edge is None:
        return 0.0
    beyond = value < edge if side == "low" else value > edge
    out = 1.0 if item.verdict in (Verdict.OUTSIDE, Verdict.DANGEROUS) else 0.6 if item.verdict is Verdict.NEAR else 0.0
    if item.likely is None:
        return out if beyond else 0.0
    # Of the chance to be outside, the side towards which it leans has nearly all.
    middle = 0.5 * ((band.low if band.low is not None else edge) + (band.high if band.high is not None else edge))
    leans = value < middle if side == "low" else value > middle
    return 1.0 - item.likely if leans or beyond else 0.0
