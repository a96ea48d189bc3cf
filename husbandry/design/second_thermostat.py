"""What a second thermostat is worth: how hot it gets when the first one stays on, with and without another in series."""

from dataclasses import dataclass, replace
from datetime import date
from typing import Final

from husbandry.animal.body import body_of
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.steady import solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile

ABOVE_K: Final = 2.0  # that the second is set above the first, so that it never works while the first does (practice)


@dataclass(frozen=True)
class HottestDay:
    """The hottest of a summer day, °C: the basking surface, and the air of the warm end."""

    surface_c: float
    air_c: float


@dataclass(frozen=True)
class Worth:
    """Of the heater at a path: the heat as it is, with its thermostat stuck on, and with a second in series set to `second_c`.

    `ceiling` is what the animal bears of both.
    """

    path: str
    usual: HottestDay
    stuck: HottestDay
    held: HottestDay
    second_c: float
    ceiling: HottestDay

    @property
    def burns(self) -> bool:
        """Tell whether the first alone failing is too hot."""
        return self._over(self.stuck)

    @property
    def saves(self) -> bool:
        """Tell whether the first alone failing is too hot, and is not with a second."""
        return self.burns and not self._over(self.held)

    def _over(self, heat: HottestDay) -> bool:
        return heat.surface_c > self.ceiling.surface_c or heat.air_c > self.ceiling.air_c


def second_thermostat(plan: HabitatPlan, profile: Profile, today: date) -> tuple[Worth, ...]:
    """Return what a second thermostat in series is worth, for each heater that has a first.

    Parameters
    ----------
    plan, profile, today
        The habitat, its species, and the day for the animal's stage.

    Returns
    -------
    Worth, in the order of the heaters; steady states of the summer room.

    References
    ----------
    `husbandry.climate.steady.solve_steady`.
    """
    stage = body_of(plan, profile, today).decision.stage
    ceiling = HottestDay((stage.heat.surface_ceiling_c or stage.heat.ceiling_c).value, stage.heat.ceiling_c.value)
    case, found = enclosure_case(plan), []
    for place, heater in enumerate(plan.heaters):
        set_c = heater.thermostat.set_c
        if heater.thermostat.kind == "none" or set_c is None:
            continue
        highest = max(set_c, heater.thermostat.night_set_c or set_c) + ABOVE_K
        stuck = replace(case.heaters[place], control="none")
        second = replace(case.heaters[place], set_c=highest, night_set_c=highest if case.heaters[place].night_set_c else None)
        failed, held = _hottest(_with(case, place, stuck)), _hottest(_with(case, place, second))
        found.append(Worth(f"heaters.{place}", _hottest(case), failed, held, highest, ceiling))
    return tuple(found)


def _with(case: EnclosureCase, place: int, heater: HeaterCase) -> EnclosureCase:
    return replace(case, heaters=(*case.heaters[:place], heater, *case.heaters[place + 1 :]))


def _hottest(case: EnclosureCase) -> HottestDay:
    states = solve_steady(case, spread=False, seasons=("summer",)).states
    surface_c, air_c = (max(state.predictions[key].value for state in states.values()) for key in ("basking_surface", "warm_air"))
    return HottestDay(surface_c, air_c)
