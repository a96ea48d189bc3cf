"""What a search for a rig ends with: rigs, what was refused, what is not to be had; and which rig is the better."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from husbandry.assess.probability import SAFE
from husbandry.assessment import Measure, Parameter, Quantity, Reason
from husbandry.codes import ReasonCode
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.judged import BAD, OFF, miss

HELD_APART: Final = 0.02
LEAST_LIKELY: Final = 0.05  # below that nothing is "as good": neither will do
CLEARLY_NEARER: Final = 0.5  # beyond a band, in its own unit


@dataclass(frozen=True)
class Rig:
    """One answer: the plan with it, the chance (0–1) that its bands hold, by quantity and at once, and kWh a day by season."""

    plan: HabitatPlan
    likely: float
    chances: dict[str, float]
    kwh: dict[str, float]
    quantities: tuple[Quantity, ...]

    @property
    def count(self) -> int:
        return len(self.plan.heaters)

    @property
    def safe(self) -> int:
        """How many of its bands are likely to hold."""
        return sum(chance >= SAFE for chance in self.chances.values())

    @property
    def year_kwh(self) -> float:
        return sum(self.kwh.values()) / max(len(self.kwh), 1) * 365


@dataclass(frozen=True)
class RefusedLamp:
    """A lamp that will not do, and why."""

    kind: str
    watts: float
    reason: Reason


@dataclass(frozen=True)
class RigsFound:
    """The end of a search: rigs with the best first, why it is the best, what was refused, what no rig can hold."""

    rigs: tuple[Rig, ...]
    why: tuple[Reason, ...]
    refused: tuple[RefusedLamp, ...]
    unmet: tuple[Reason, ...]
    tried: int


@dataclass(frozen=True)
class Progress:
    """How far a search has come."""

    done: int
    of: int
    likely: float | None


def rank(rig: Rig) -> tuple[float, float, int]:
    """Likelier first, by steps of the draws' own grain; then less energy, then fewer heaters."""
    mean = sum(rig.chances.values()) / max(len(rig.chances), 1)
    return (-round(rig.likely / HELD_APART) - (mean if rig.likely < HELD_APART else 0.0), rig.year_kwh, rig.count)


def same_kinds(one: Rig, other: Rig) -> bool:
    """Tell whether two rigs differ in strength, height or set point alone."""
    return [heater.kind for heater in one.plan.heaters] == [heater.kind for heater in other.plan.heaters]


def why(kept: list[Rig]) -> Iterator[Reason]:
    """Why the best rig beats the next."""
    if len(kept) < 2:
        return
    best, next_ = kept[0], kept[1]
    if best.likely - next_.likely > HELD_APART or best.safe > next_.safe:
        gains = {name: chance - next_.chances.get(name, 0.0) for name, chance in best.chances.items()}
        name = max(gains, key=lambda key: gains[key])
        key, season, phase = (*name.split("/"), "", "")[:3]
        told: dict[str, Parameter] = {
            "quantity": key,
            "season": season,
            "phase": phase,
            "mine": Measure(100 * best.chances[name], "%"),
            "other": Measure(100 * next_.chances.get(name, 0.0), "%"),
        }
        yield Reason(ReasonCode.RIG_LIKELIER, told)
    elif (nearer := _nearer(best, next_)) is not None:
        mine, other = nearer
        where: dict[str, Parameter] = {"quantity": mine.key, "season": mine.season, "phase": mine.phase}
        numbers = {"mine": Measure(mine.value or 0.0, mine.unit), "other": Measure(other.value or 0.0, other.unit)}
        yield Reason(ReasonCode.RIG_NEARER, where | numbers)
    elif next_.year_kwh - best.year_kwh > 0.02 * next_.year_kwh:
        yield Reason(ReasonCode.RIG_LESS_ENERGY, {"mine": Measure(best.year_kwh, "kWh"), "other": Measure(next_.year_kwh, "kWh")})
    elif best.count < next_.count:
        yield Reason(ReasonCode.RIG_SIMPLER, {"mine": best.count, "other": next_.count})
    elif next_.likely >= LEAST_LIKELY and not any(item.verdict in BAD for item in next_.quantities):
        yield Reason(ReasonCode.RIG_ALIKE)
    else:
        yield Reason(ReasonCode.RIG_NONE_HOLDS)


def _nearer(best: Rig, next_: Rig) -> tuple[Quantity, Quantity] | None:
    """The number in which the best comes most nearer to its band than the next; None where none of the next is worse."""
    other = {item.id: item for item in next_.quantities}
    pairs = [(item, other[item.id]) for item in best.quantities if item.id in other]
    worse = [(miss(theirs) - max(miss(mine), 0.0), mine, theirs) for mine, theirs in pairs if theirs.verdict in OFF]
    beyond, mine, theirs = max(worse, key=lambda item: item[0], default=(0.0, None, None))
    return (mine, theirs) if beyond > CLEARLY_NEARER and mine is not None and theirs is not None else None
