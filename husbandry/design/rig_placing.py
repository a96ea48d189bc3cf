"""Where a lamp of a rig can hang in one enclosure, and the heater as the plan would write it."""

from dataclasses import replace
from typing import Any

import scipy

from husbandry.animal.subject import Subject
from husbandry.animal.widths import COIL_SHARE
from husbandry.climate.case import EnclosureCase
from husbandry.climate.heat_gains import spot_irradiance
from husbandry.climate.heaters import HEATERS
from husbandry.inputs import ultraviolet
from husbandry.light.ultraviolet import RATED_WATTS
from husbandry.plan.equipment import HeaterKind
from husbandry.plan.geometry import basking_top_m, highest_m, spot_x_m
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.review.warmth import CLOSEST_HEATER_M
from husbandry.species.leaves import choose

OVER_MESH_M = 0.3  # as high as a dome is still stood above a mesh


class RigPlace:
    """An enclosure with its animal and furniture, bare of heaters and lamps; heights in m above the inner floor."""

    def __init__(self, subject: Subject) -> None:
        plan = subject.plan
        self.subject, self.profile, self.today = subject, subject.profile, subject.today
        self.body, self.stage = subject.body, subject.stage
        self.bare = plan.model_copy(update={"heaters": (), "uv_lamps": ()})
        self.basking = choose(self.stage.heat.basking_surface_c, plan.schools) if self.stage.heat.basking_surface_c else None
        self.hours = {"on": plan.daylight.on.strftime("%H:%M"), "off": plan.daylight.off.strftime("%H:%M")}

    def of(self, plan: HabitatPlan) -> Subject:
        """The same animal on the same day, in another plan of this enclosure."""
        return replace(self.subject, plan=plan)

    def uv_fits(self, plan: HabitatPlan) -> bool:
        wanted = ultraviolet.wanted_index(plan, self.stage)
        index = ultraviolet.index_at_back(plan, self.body, self.today)
        return wanted is not None and (wanted.low or 0.0) <= index <= (wanted.high or index)

    def top_m(self) -> float:
        return basking_top_m(self.bare, spot_x_m(self.bare))

    def body_m(self) -> float:
        length = self.body.length_m or 0.0
        return length * (COIL_SHARE if self.profile.body.form == "snake" else 1.0)

    def travel(self, kind: HeaterKind) -> tuple[float, float]:
        """The lowest and highest its face may hang, m above the inner floor."""
        box = self.bare.enclosure
        top = self.top_m() + CLOSEST_HEATER_M + 0.005
        back = self.top_m() + self.body.back_m + CLOSEST_HEATER_M
        lowest = max(top, back)
        if box.lid == "solid":
            return lowest, highest_m(self.bare)
        if box.lid == "mesh":
            return max(lowest, box.height_m), box.height_m + (0.0 if kind == "radiant-panel" else OVER_MESH_M)
        return lowest, box.height_m + ABOVE_LID_M

    def heater(self, kind: HeaterKind, watts: float, height_m: float, set_c: float) -> dict[str, Any]:
        control = HEATERS[kind].controls[0]
        thermostat = (
            {"kind": control, "set_c": round(set_c, 1), "probe": "basking-surface"} if control != "none" else {"kind": "none"}
        )
        inside = self.bare.enclosure.lid == "solid" or height_m < self.bare.enclosure.height_m
        return {
            "kind": kind,
            "watts": watts,
            "x_m": round(spot_x_m(self.bare), 3),
            "height_m": round(height_m, 3),
            "guarded": inside,
            "thermostat": thermostat,
            "holder": "fixed" if kind == "radiant-panel" else "ceramic",
            "fitted": self.today.isoformat() if kind in RATED_WATTS else None,
            **self.hours,
        }

    def height_of(self, case: EnclosureCase, factor: float, lowest: float, highest: float) -> float:
        """The height at which the lamp throws `factor` times what it throws now on the basking spot."""
        now = case.heaters[0]

        def falling(height_m: float) -> float:
            return spot_irradiance(case.shell, replace(now, height_m=height_m))[0]

        wanted = factor * falling(now.height_m)
        if falling(highest) >= wanted:
            return highest
        if falling(lowest) <= wanted:
            return lowest
        return float(scipy.optimize.brentq(lambda height: falling(height) - wanted, lowest, highest, xtol=0.001))
