"""How good a rig is: how far from its bands, how likely in all of them, whether a caution forbids it, and what none can hold."""

from collections.abc import Iterator
from typing import Final

from husbandry.assess import light, space, warmth
from husbandry.assess.assess import Depth, assess
from husbandry.assess.probability import JointProbability
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import endangers
from husbandry.assessment import SEASONS, Measure, Parameter, Quantity, Reason, Severity, Verdict
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady
from husbandry.codes import FindingCode, ReasonCode
from husbandry.design.rig import Rig
from husbandry.design.rig_placing import RigPlace
from husbandry.inputs import ultraviolet
from husbandry.inputs.climate_case import enclosure_case
from husbandry.inputs.light_sources import outside_kwh, uv_lamps_on
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.heating import rooms_wanted
from husbandry.review.judged import BAD, below, miss

HEAT_KEYS: Final = frozenset({"basking_surface", "warm_air", "cool_air", "hottest_air", "water_temperature"})
COMPARED: Final = Depth(days_of=(), spread=False, hanging=False, telling=False)
# What the review calls a danger in the way a rig is put together, not in what the room makes of it.
FORBIDDEN: Final = (
    FindingCode.HEAT_NO_THERMOSTAT,
    FindingCode.HEAT_WRONG_THERMOSTAT,
    FindingCode.HEAT_HOLDER,
    FindingCode.HEAT_TOO_CLOSE,
    FindingCode.HEAT_UNGUARDED,
    FindingCode.HEAT_LIGHT_AT_NIGHT,
    FindingCode.HEAT_BACK_HOT,
    FindingCode.HEAT_MAT_HOT,
    FindingCode.HEAT_BASKING_HOT,
    FindingCode.UV_STRONG,
    FindingCode.UV_AT_NIGHT,
)


class RigJudge:
    """Tells good rigs from bad in one enclosure; `tried` counts what was solved."""

    def __init__(self, place: RigPlace) -> None:
        self.place = place
        self.tried = 0
        self.now: Assessment | None = None

    def quantities(self, plan: HabitatPlan, climate: Climate, joint: JointProbability) -> list[Quantity]:
        """What a rig is judged by."""
        found = warmth.of_climate(self.place.of(plan), climate, joint, HEAT_KEYS)
        if plan.pool is not None:
            every = space.quantities(self.place.of(plan), climate, joint)
            found += [item for item in every if item.key == "water_temperature"]
        return found

    def score(self, plan: HabitatPlan, climate: Climate) -> float:
        """How far the numbers lie outside their bands, in widths of the bands; what endangers counts tenfold."""
        total = 0.0
        for item in self.quantities(plan, climate, JointProbability()):
            band = item.band
            if band is None:
                continue
            width = band.high - band.low if band.high is not None and band.low is not None else 4.0
            over = max(miss(item), 0.0) / max(width, 2.0)
            total += over * (10.0 if item.verdict is Verdict.DANGEROUS else 1.0)
        return total

    def rated(self, plan: HabitatPlan, near: Climate | None = None) -> Rig:
        """Solve a rig with its spread, from what a trial of nearly the same came to."""
        self.tried += 1
        case = enclosure_case(plan)
        climate, joint = solve_steady(case, near=near), JointProbability()
        quantities = self.quantities(plan, climate, joint)
        if ultraviolet.wanted_index(plan, self.place.stage) is not None and uv_lamps_on(plan, self.place.today):
            quantities += light.at_the_back(self.place.of(plan), joint)
        lit = plan.daylight.hours_a_day
        kwh = {
            season: (climate.states[season, "day"].watts * lit + climate.states[season, "night"].watts * (24 - lit)) / 1000
            + outside_kwh(plan)
            for season in SEASONS
        }
        heat_held = {name: held for name, held in joint.held.items() if name.partition("/")[0] in HEAT_KEYS | {"uv_back"}}
        likely = JointProbability(held=heat_held).all_hold()
        chances = {item.id: item.likely for item in quantities if item.likely is not None}
        return Rig(plan, likely if likely is not None else 1.0, chances, kwh, tuple(quantities))

    def allowed(self, rig: Rig) -> bool:
        """Tell whether the review finds no new danger, and nothing plainly wrong in how the rig is put together."""
        found = assess(rig.plan, self.place.profile, self.place.today, depth=COMPARED)
        if self.now is None:
            self.now = assess(self.place.subject.plan, self.place.profile, self.place.today, depth=COMPARED)
        if endangers(self.now, found):
            return False
        return not any(item.severity in (Severity.DANGER, Severity.WRONG) and item.code in FORBIDDEN for item in found.findings)

    def unmet(self, kept: list[Rig]) -> Iterator[Reason]:
        """What even the best rig does not hold, and what of the room would."""
        if not kept:
            yield Reason(ReasonCode.RIG_NONE)
            return
        case = enclosure_case(kept[0].plan)
        cooler_c = rooms_wanted(case, kept[0].quantities, solve_steady(case, spread=False))
        for item in kept[0].quantities:
            if item.verdict not in BAD or item.value is None or not item.season:
                continue
            over = miss(item)
            room_c = self.place.bare.room_c(item.season, item.phase or "night")
            told: dict[str, Parameter] = {
                "quantity": item.key,
                "season": item.season,
                "phase": item.phase,
                "value": Measure(item.value, item.unit),
                "room": Measure(room_c, "degC"),
            }
            if below(item):
                yield Reason(ReasonCode.RIG_UNMET_COLD, told | {"warmer": Measure(room_c + over, "degC")})
            elif item.id in cooler_c:
                yield Reason(ReasonCode.RIG_UNMET_HOT, told | {"cooler": Measure(cooler_c[item.id], "degC")})
