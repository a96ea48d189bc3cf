"""The lamp of a first plan: the weakest that warms the basking place, over as much of it as the body, and burns no back."""

import math
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from typing import Any, Final

from husbandry.animal.needs import climbs
from husbandry.animal.subject import Subject, subject_of
from husbandry.assess import warmth
from husbandry.assessment import Change, Verdict
from husbandry.climate.case import HeaterCase
from husbandry.climate.hang import height_for, surface_at
from husbandry.climate.heaters import HEATERS
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady
from husbandry.errors import HusbandryError
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.editing import apply
from husbandry.plan.geometry import basking_top_m, highest_m, spot_x_m
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.plan.placement import check_places
from husbandry.review.judged import BAD
from husbandry.review.warmth import CLOSEST_HEATER_M
from husbandry.species.profile import Profile

LAMP_WATTS: Final = (25.0, 35.0, 50.0, 75.0, 100.0, 150.0)
LAMP_KINDS: Final = ("reflector-flood", "halogen-flood")
FIRST_GAP_M: Final = 0.28  # from an open table's lamp to the slate
BACK_GAP_M: Final = 0.22  # and from its face to the back
HIGHER_M: Final = (0.0, 0.15, 0.3)
REACHED_K: Final = 1.0  # so near to the surface wanted a lamp will do
NEARLY_K: Final = 0.5  # so near to it no other height is looked for


def with_lamp(plan: HabitatPlan, profile: Profile, today: date, wanted_c: Sequence[float]) -> HabitatPlan | None:
    """Hang the weakest lamp that reaches a surface in winter over a patch as large as the body, dimmed, guarded.

    Where none warms the whole body, the weakest that reaches the surface without burning the back; where none does, one for the
    next of the surfaces that are `wanted_c`; None where none does for any. Where the animal climbs, a lamp is brought down to it,
    guarded, only where none is strong enough from above.
    """
    from_above = (True, False) if climbs(profile) else (False,)
    for held_c in dict.fromkeys(wanted_c):
        for above in from_above:
            hung = _hung(plan, profile, today, held_c, from_above=above)
            if hung is not None:
                return hung
    return None


def _hung(plan: HabitatPlan, profile: Profile, today: date, middle_c: float, *, from_above: bool = False) -> HabitatPlan | None:
    """The same; None where none does. `from_above`: the lamps stay on or above the lid."""
    search = _LampSearch(subject_of(plan, profile, today), middle_c, from_above)
    for watts in LAMP_WATTS:
        for kind in LAMP_KINDS:
            if watts >= search.least[kind]:
                try:
                    found = search.whole(kind, watts)
                except _NoPlaceError:
                    return None
                if found is not None:
                    return found
    return search.narrow


class _NoPlaceError(HusbandryError):
    """No lamp can hang here."""


class _LampSearch:
    """Lamps tried one after the other over the basking spot of a plan; `narrow` is the first that warms part of the body."""

    def __init__(self, subject: Subject, middle_c: float, from_above: bool) -> None:
        plan = subject.plan
        self.subject, self.middle_c, self.from_above = subject, middle_c, from_above
        self.document, self.path = plan.model_dump(mode="json"), f"heaters.{len(plan.heaters)}"
        top_m = basking_top_m(plan, spot_x_m(plan))
        clear = top_m + CLOSEST_HEATER_M + 0.005
        self.heights = _lamp_heights_m(plan, top_m, clear, subject.body.back_m)
        self.least = {kind: _least_watts(plan, kind, clear, middle_c) for kind in LAMP_KINDS}
        self.narrow: HabitatPlan | None = None
        self.near: Climate | None = None
        self.reached: set[tuple[str, float]] = set()
        self.weighed: set[str] = set()

    def whole(self, kind: str, watts: float) -> HabitatPlan | None:
        """The plan with a lamp where it warms the whole body and does not burn its back, else None.

        Raises
        ------
        _NoPlaceError
            Where the lamp would hang, it cannot.
        """
        for height_m in self.heights:
            if (kind, height_m) in self.reached:
                continue  # dimmed to the same surface a stronger lamp of the kind does nothing else there
            trial = self._with(kind, watts, height_m)
            if check_places(trial):
                raise _NoPlaceError
            if self.narrow is not None and not _covers(replace(self.subject, plan=trial)):
                continue  # one that warms part of the body is there already: nearer its patch is smaller still
            lamp = self._lamp(trial)
            lowered = lamp.surface_c < self.middle_c - NEARLY_K
            if lowered and self.from_above:
                return None  # it is not brought down to where the animal climbs on it: a stronger one does it from above
            if lowered:
                lower = self._lowered(lamp, kind, watts)
                if lower is None:
                    return None
                lamp = lower
            else:
                self.reached.add((kind, height_m))
            if not lamp.burns:
                self.narrow = self.narrow or lamp.plan
                return lamp.plan if lamp.covers else None
            if lowered and lamp.plan.heaters[-1].height_m < height_m:
                self._leave_out(kind)
                return None  # from higher up it comes down to the same place
        return None

    def _with(self, kind: str, watts: float, height_m: float, *, guarded: bool = False) -> HabitatPlan:
        """The plan with a lamp dimmed to the surface wanted."""
        heater: dict[str, Any] = {
            "kind": kind,
            "watts": watts,
            "x_m": spot_x_m(self.subject.plan),
            "height_m": height_m,
            "guarded": guarded or self.subject.plan.enclosure.lid == "solid",
            "thermostat": {"kind": "dimming", "set_c": self.middle_c, "probe": "basking-surface"},
        }
        return HabitatPlan.model_validate(apply(self.document, (Change(self.path, heater),)))

    def _lamp(self, trial: HabitatPlan) -> "_Lamp":
        lamp = _Lamp(replace(self.subject, plan=trial), self.near)
        self.near = lamp.climate
        return lamp

    def _lowered(self, lamp: "_Lamp", kind: str, watts: float) -> "_Lamp | None":
        """The lamp brought down, guarded, to where it reaches the surface; None where it does not."""
        right_m = lamp.right_height_m(self.middle_c)
        if right_m is None:
            return None
        lower = self._lamp(self._with(kind, watts, right_m, guarded=True))
        return None if lower.surface_c < self.middle_c - REACHED_K else lower

    def _leave_out(self, kind: str) -> None:
        """Leave a kind out where its strongest lamp, which hangs farthest from the surface it warms, burns the back too."""
        if kind in self.weighed:
            return
        self.weighed.add(kind)
        lamp = self._lamp(self._with(kind, LAMP_WATTS[-1], self.heights[-1]))
        if lamp.surface_c < self.middle_c - NEARLY_K:
            lower = self._lowered(lamp, kind, LAMP_WATTS[-1])
            if lower is not None and lower.burns:
                self.least[kind] = math.inf
        elif lamp.burns:
            self.least[kind] = math.inf


class _Lamp:
    """What the last of a plan's heaters, a lamp, does to the basking spot by day in winter."""

    def __init__(self, subject: Subject, near: Climate | None = None) -> None:
        self.plan, self.case = subject.plan, enclosure_case(subject.plan)
        climate = self.climate = solve_steady(self.case, spread=False, seasons=("winter",), near=near)
        self.surface_c = climate.states["winter", "day"].predictions["basking_surface"].value
        self.burns = any(item.verdict in BAD for item in warmth.back(subject, self.case, climate))
        self.covers = _covers(subject)

    def right_height_m(self, wanted_c: float) -> float | None:
        """Where it would reach the surface wanted, no nearer than a lamp may hang; the highest place where it is hotter."""
        lamp = len(self.plan.heaters) - 1
        hung = height_for(self.case, (lamp,), wanted_c, "winter", highest_m(self.plan), self.climate)
        right = highest_m(self.plan) if hung.too_hot else hung.height_m
        return None if right is None or right - self.case.spot.top_m < CLOSEST_HEATER_M + 0.005 else round(right, 3)


def _covers(subject: Subject) -> bool:
    """Tell whether the warm patch is as large as the body; where that is not known, it is taken to be."""
    patch = warmth.patch(subject, enclosure_case(subject.plan))
    return all(item.verdict in (Verdict.INSIDE, Verdict.UNKNOWN) for item in patch)


def _least_watts(plan: HabitatPlan, kind: str, nearest_m: float, middle_c: float) -> float:
    """The weakest usual lamp of a kind that can reach the surface wanted at all: full on, as near as one may hang, no mesh."""
    case = enclosure_case(plan)
    beam = HEATERS[kind].half_angle_deg
    lit = case.light_on_hour, case.light_off_hour

    def enough(watts: float) -> bool:
        lamp = HeaterCase(kind, watts, case.spot.x_m, nearest_m, beam, *lit)
        return surface_at(replace(case, heaters=(lamp, *case.heaters)), (0,), nearest_m, "winter") >= middle_c - REACHED_K

    index = bisect_left(LAMP_WATTS, True, key=enough)
    return LAMP_WATTS[index] if index < len(LAMP_WATTS) else LAMP_WATTS[-1] + 1.0


def _lamp_heights_m(plan: HabitatPlan, top_m: float, clear_m: float, back_m: float) -> list[float]:
    """Return the heights to try, lowest first: one under a solid lid, several over an open or a mesh one."""
    height_m = plan.enclosure.height_m
    if plan.enclosure.lid == "solid":
        return [round(max(height_m - 0.05, min(height_m - 0.02, clear_m)), 3)]
    # From the back, not from the slate: a tall shell is that much nearer to the lamp, and may need it higher still.
    first_m = max(height_m, top_m + FIRST_GAP_M, top_m + back_m + BACK_GAP_M)
    return sorted({round(min(first_m + more, height_m + ABOVE_LID_M), 3) for more in HIGHER_M})
