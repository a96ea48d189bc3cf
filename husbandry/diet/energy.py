"""What an animal burns, and how what it is fed stands against that.

Standard metabolism (at rest, in the dark, fasting) after Andrews & Pough 1985, for lizards and snakes; what a free-living
reptile of that mass burns in a day after Nagy, Girard & Brown 1999. Neither serves tortoises, turtles or amphibians: for
those there is no answer here, and the callers say "unknown". Both are recalled.

References: Andrews & Pough 1985, Physiological Zoology 58:214; Nagy et al. 1999, Annual Review of Nutrition 19:247.
"""

from dataclasses import dataclass
from enum import StrEnum
from typing import Final

KJ_PER_ML_OXYGEN: Final = 0.0201
ANSWERED_GROUPS: Final = ("lizard", "snake")
# The keeper's animal stands between resting all day and hunting all day. Growth is added to the need at the mass gained
# times what a gram of new animal holds and costs (estimate: 7 kJ/g live mass, laid down at an efficiency near one half).
KJ_PER_G_GROWN: Final = 14.0
STARVING_OVER_STANDARD: Final = 0.8
# A kept animal is quiet and grows fat well before the free-living figure: a grown one past three times standard metabolism, and
# from twice on it puts on weight (clinical practice: 2.5 to 3 times; from memory; docs/decisions/0068).
QUIET_OVER_STANDARD: Final = 3.0
GROWING_OVER_STANDARD: Final = 2.0
ROOM_FOR_ERROR: Final = 4 / 3  # the young scatter by a third about their curve
DAYS_A_WEEK: Final = 7


class Intake(StrEnum):
    """What a diet does to the animal's weight."""

    STARVING = "starving"
    LEAN = "lean"
    GROWING = "growing"
    FATTENING = "fattening"
    UNKNOWN = "unknown"


def standard_kj_per_day(mass_kg: float, temperature_c: float, *, awake: float = 0.0) -> float:
    """Return standard metabolism, `0.013 m^0.80 10^(0.038 T) 10^(0.14 s)` mL O₂ an hour with m in g.

    Parameters
    ----------
    mass_kg
        Body mass in kg.
    temperature_c
        The animal's own temperature in °C; fitted between 10 and 38 °C.
    awake
        The state s: 0 standard, 1 resting.

    Returns
    -------
    kJ a day, at 20.1 J/mL.

    References
    ----------
    Andrews and Pough 1985, Physiological Zoology 58, 214–231 (docs/models.md [13]; recalled).
    """
    oxygen_ml_per_h = 0.013 * (mass_kg * 1000) ** 0.80 * 10 ** (0.038 * temperature_c) * 10 ** (0.14 * awake)
    return float(oxygen_ml_per_h * 24 * KJ_PER_ML_OXYGEN)


def free_living_kj_per_day(mass_kg: float) -> float:
    """Return what a free-living reptile burns, `0.196 m^0.889` kJ a day with m in g.

    Parameters
    ----------
    mass_kg
        Body mass in kg.

    Returns
    -------
    kJ a day.

    References
    ----------
    Nagy, Girard and Brown 1999, Annual Review of Nutrition 19, 247–277 (docs/models.md [14]; recalled).
    """
    return float(0.196 * (mass_kg * 1000) ** 0.889)


def growth_kj_per_week(gain_kg_per_week: float) -> float:
    """Return what the growth expected costs, in kJ a week; none for an animal that loses mass.

    Parameters
    ----------
    gain_kg_per_week
        kg a week.

    Returns
    -------
    kJ a week.

    References
    ----------
    `GROWTH_KJ_PER_G` is an estimate.
    """
    return max(gain_kg_per_week, 0.0) * 1000 * KJ_PER_G_GROWN


@dataclass(frozen=True)
class EnergyNeed:
    """Limits in kJ a week: starving below the first, lean up to `growing_kj`, fattening beyond the last.

    `standard_kj`, `free_kj` and `growth_kj` are what they are made of.
    """

    standard_kj: float
    free_kj: float
    growth_kj: float
    starving_kj: float
    growing_kj: float
    fattening_kj: float

    def judge(self, intake_kj: float) -> Intake:
        """Say what `intake_kj` a week does."""
        if intake_kj < self.starving_kj:
            return Intake.STARVING
        if intake_kj < self.growing_kj:
            return Intake.LEAN
        return Intake.GROWING if intake_kj <= self.fattening_kj else Intake.FATTENING


def need(
    group: str, mass_kg: float, temperatures_c: tuple[float, ...], gain_kg_per_week: float = 0.0, animals: int = 1
) -> EnergyNeed:
    """Return what so many animals of one mass need in a week.

    Parameters
    ----------
    group
        lizard or snake; raises KeyError for a group no equation serves.
    mass_kg
        Body mass in kg.
    temperatures_c
        The animal's own through a day, evenly spaced, °C.
    gain_kg_per_week
        What it is to gain.
    animals
        How many eat.

    Returns
    -------
    Standard and free-living energy, that of growth, and the limits of starving and fattening, kJ a week.

    References
    ----------
    Andrews and Pough 1985, Physiological Zoology 58, 214–231 (docs/models.md [13]; recalled).
    Nagy, Girard and Brown 1999, Annual Review of Nutrition 19, 247–277 (docs/models.md [14]; recalled).
    """
    standard = DAYS_A_WEEK * sum(standard_kj_per_day(mass_kg, value) for value in temperatures_c) / len(temperatures_c)
    free = DAYS_A_WEEK * free_living_kj_per_day(mass_kg)
    growth = growth_kj_per_week(gain_kg_per_week)
    if group not in ANSWERED_GROUPS:
        raise KeyError(group)
    most = QUIET_OVER_STANDARD * standard + ROOM_FOR_ERROR * growth
    made = (standard, free, growth, STARVING_OVER_STANDARD * standard, GROWING_OVER_STANDARD * standard, most)
    return EnergyNeed(*(animals * value for value in made))


def can_answer(group: str) -> bool:
    """Tell whether an equation serves this group."""
    return group in ANSWERED_GROUPS
