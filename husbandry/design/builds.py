"""What a first plan's enclosure is built of, under which lid, and whether it is clad in foam board: board before kilowatts."""

from dataclasses import replace
from datetime import date
from typing import Any, Final

from husbandry.animal.subject import subject_of
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.steady import predict
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.hanging import TUBE_LONG_M
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile

# What is tried for each shape, the usual first; the one with the least to find fault with is proposed.
BUILDS: Final = {
    "long": (("foamed-pvc", "solid"), ("glass", "mesh")),
    "tall": (("glass", "mesh"), ("foamed-pvc", "solid")),
    "screen": (("mesh", "mesh"), ("glass", "mesh")),
    "wet": (("glass", "mesh"), ("glass", "solid")),
    "tortoise": (("open-table", "open"), ("plywood", "mesh"), ("plywood", "solid")),
}
UNCLAD: Final = ("mesh", "open-table")  # what carries no board
BOARD_M: Final = 0.05  # foam board as it is sold (trade)
PROBE_W: Final = 100.0
MUCH_W: Final = 250.0  # of heat: more than a lampholder or two carry; from there board is cheaper (estimate)
TOO_MUCH_W: Final = 1200.0  # of heat, clad: what is warmed by so much stands open to the room


def built(kind: str, lid: str) -> dict[str, Any]:
    """A kind of enclosure; glass is covered outside at the back and at both ends, for cover."""
    covered = {"covered": {"back": True, "left": True, "right": True}} if kind == "glass" else {}
    return {"kind": kind, "lid": lid, **covered}


def clad(plan: HabitatPlan, profile: Profile, today: date) -> tuple[HabitatPlan, float]:
    """A plan without heaters, clad in foam board where warming it takes much, and what warming it then takes.

    No board goes below what holds a pool: it bears the water's weight.

    Parameters
    ----------
    plan, profile, today
        A plan without heaters, its species and the day.

    Returns
    -------
    The plan; W to bring the warm air from what it is in a winter day to the least of its band.

    References
    ----------
    Two steady states, without heat and with 100 W of it; linear between them. The thresholds are estimates.
    """
    wanted_c = choose(subject_of(plan, profile, today).stage.heat.warm_air_c, plan.schools).least
    needs_w = _needs_w(enclosure_case(plan), wanted_c)
    if needs_w < MUCH_W or plan.enclosure.kind in UNCLAD or plan.pool is not None:
        return plan, needs_w
    made = plan.model_copy(update={"enclosure": plan.enclosure.model_copy(update={"insulation_m": BOARD_M})})
    return made, _needs_w(enclosure_case(made), wanted_c)


def _needs_w(case: EnclosureCase, wanted_c: float) -> float:
    """How much heat brings the warm air of an unheated case to what is wanted in winter by day, W; below 0 where it is warmer."""
    middle = case.length_m / 2, case.height_m / 2
    probe = HeaterCase("tube-heater", PROBE_W, *middle, 90.0, 0.0, 0.0, length_m=TUBE_LONG_M)
    cases = case, replace(case, heaters=(*case.heaters, probe))
    bare_c, warmed_c = (predict(each, "winter")["day"]["warm_air"] for each in cases)
    return PROBE_W * (wanted_c - bare_c) / max(warmed_c - bare_c, 0.1)
