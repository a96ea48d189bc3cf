"""Hang this lamp right: dimmed, at another height, weaker, under another dome; each with its price in everything else.

Two lamps over one stone are one: they are dimmed, hung and exchanged together.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from husbandry.assess.assess import Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import endangers
from husbandry.assess.warmth import basking_lamps
from husbandry.assessment import Change, Measure, Quantity, Reason
from husbandry.climate.hang import height_for
from husbandry.climate.heaters import HEATERS
from husbandry.codes import ReasonCode
from husbandry.design.rigs import LAMPS
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.editing import apply
from husbandry.plan.equipment import Heater, Thermostat
from husbandry.plan.geometry import highest_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.placement import check_places
from husbandry.remedies import side_by_side
from husbandry.review.judged import BAD, OFF
from husbandry.review.warmth import CLOSEST_HEATER_M
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile

# Half-angles in degrees of the domes of the trade: a deep narrow one and a wide shallow one (estimates).
DOMES: Final = {"narrow": 28.0, "wide": 55.0}
OTHER_DOME_DEG: Final = 6.0
# What each way is compared by: the lamp's own work first, then what it costs elsewhere.
COMPARED: Final = (
    ("basking_surface", "winter", "day"),
    ("basking_surface", "summer", "day"),
    ("back", "summer", "day"),
    ("warm_patch", "", ""),
    ("uv_back", "", ""),
    ("warm_air", "winter", "day"),
    ("cool_air", "summer", "day"),
    ("cool_humidity", "winter", "day"),
    ("energy", "winter", ""),
)


@dataclass(frozen=True)
class Way:
    """One way to hang the lamp: what changes, what comes of it, and why not where it is no way at all.

    `numbers` are the quantities of `COMPARED` that the plan has; `good` tells that nothing compared is outside its band.
    """

    code: str
    said: Reason
    changes: tuple[Change, ...]
    numbers: tuple[Quantity, ...]
    likely: float | None
    refused: Reason | None = None

    @property
    def good(self) -> bool:
        return self.refused is None and not any(item.verdict in OFF for item in self.numbers)


def ways(plan: HabitatPlan, profile: Profile, today: date) -> tuple[Way, ...]:
    """Compare the ways to hang the lamp that warms the basking spot; the plan as it is comes first. Empty without such a lamp."""
    case = enclosure_case(plan)
    lamps = basking_lamps(case)
    now = assess(plan, profile, today, depth=Depth(days_of=("winter",), propose=False))
    stage = now.body.decision.stage
    if not lamps or stage.heat.basking_surface_c is None:
        return ()
    heater = plan.heaters[lamps[0]]

    def all_of(field: str, value: Any) -> tuple[Change, ...]:
        return tuple(Change(f"heaters.{index}.{field}", value) for index in lamps)

    kind = HEATERS[heater.kind]
    wanted_c = choose(stage.heat.basking_surface_c, plan.schools).middle
    found = [_way("as_is", Reason(ReasonCode.HANG_AS_IS), (), plan, profile, now)]
    control = kind.controls[0]
    held = {"kind": control, "set_c": round(wanted_c, 1), "probe": "basking-surface"}
    if control != "none" and any(plan.heaters[index].thermostat != Thermostat.model_validate(held) for index in lamps):
        told: dict[str, Any] = {"control": control, "wanted": Measure(wanted_c, "degC")}
        found.append(_way("dim", Reason(ReasonCode.HANG_DIM, told), all_of("thermostat", held), plan, profile, now))
    free = {"kind": "none"}
    hung = height_for(case, lamps, wanted_c, "winter", highest_m(plan))
    right_m = hung.height_m
    if right_m is None:
        none = ReasonCode.HANG_BETWEEN if hung.between else ReasonCode.HANG_NO_HEIGHT
        why = ReasonCode.HANG_TOO_HOT if hung.too_hot else none
        found.append(_no_way("height", Reason(why, {"wanted": Measure(wanted_c, "degC")})))
    elif right_m - case.spot.top_m < CLOSEST_HEATER_M:
        found.append(_no_way("height", Reason(ReasonCode.HANG_TOO_NEAR, {"right": Measure(right_m - case.spot.top_m, "m")})))
    elif abs(right_m - heater.height_m) > 0.004:
        said = Reason(ReasonCode.HANG_HEIGHT, {"height": Measure(right_m, "m")})
        found.append(_way("height", said, all_of("height_m", round(right_m, 3)), plan, profile, now))
    for code, watts in _next_sizes(heater):
        if watts is not None:
            said = Reason(ReasonCode.HANG_WEAKER if code == "weaker" else ReasonCode.HANG_STRONGER, {"watts": Measure(watts, "W")})
            found.append(_way(code, said, all_of("watts", watts), plan, profile, now))
    if len(lamps) == 1:
        found += _side_by_side(plan, profile, (lamps[0], wanted_c), now)
    angle = heater.half_angle_deg or kind.half_angle_deg
    for code, half_angle in DOMES.items():
        wider = half_angle > angle
        if abs(half_angle - angle) > OTHER_DOME_DEG and wider == (code == "wide") and heater.kind != "radiant-panel":
            said = Reason(ReasonCode.HANG_WIDE if wider else ReasonCode.HANG_NARROW, {"angle": round(half_angle)})
            found.append(_way(code, said, all_of("half_angle_deg", half_angle), plan, profile, now))
    if heater.thermostat.kind != "none":
        bare = all_of("thermostat", free)
        found.append(_way("full_on", Reason(ReasonCode.HANG_FULL_ON), bare, plan, profile, now))
    return tuple(found)


def _next_sizes(heater: Heater) -> Iterator[tuple[str, float | None]]:
    """The size of its kind below a lamp's, and the one above."""
    sizes = [float(watts) for watts in LAMPS.get(heater.kind, ())]
    yield "weaker", max((size for size in sizes if size < heater.watts), default=None)
    yield "stronger", min((size for size in sizes if size > heater.watts), default=None)


def _side_by_side(plan: HabitatPlan, profile: Profile, lamp: tuple[int, float], now: Assessment) -> list[Way]:
    """Two and three weaker lamps in the place of one (its index, and °C wanted), as far apart as gives the longer warm patch."""
    best: dict[int, Way] = {}
    for count, remedy in side_by_side.instead(plan, *lamp):
        code = ReasonCode.HANG_SIDE_BY_SIDE_HELD if "wanted" in remedy.parameters else ReasonCode.HANG_SIDE_BY_SIDE
        said = Reason(code, remedy.parameters)
        way = _way(f"side_{count}", said, remedy.changes, plan, profile, now)
        if count not in best or _patch_m(way) > _patch_m(best[count]):
            best[count] = way
    return list(best.values())


def _patch_m(way: Way) -> float:
    """How long its warm patch is; a way that is refused has none."""
    return max((item.value or 0.0 for item in way.numbers if item.key == "warm_patch" and way.refused is None), default=-1.0)


def _way(code: str, said: Reason, changes: tuple[Change, ...], plan: HabitatPlan, profile: Profile, now: Assessment) -> Way:
    changed = HabitatPlan.model_validate(apply(plan.model_dump(mode="json"), changes))
    if check_places(changed):
        return _no_way(code, said)
    answer = assess(changed, profile, now.today, depth=Depth(days_of=("winter",), propose=False))
    by_name = {(item.key, item.season, item.phase): item for item in answer.quantities}
    numbers = tuple(by_name[name] for name in COMPARED if name in by_name)
    burning = next((item for item in numbers if item.key == "back" and item.verdict in BAD and item.value is not None), None)
    refused = None
    if endangers(now, answer):
        refused = Reason(ReasonCode.HANG_DANGER)
    if burning is not None and code != "as_is":
        refused = Reason(ReasonCode.HANG_BURNS, {"back": Measure(burning.value or 0.0, "degC")})
    return Way(code, said, changes if refused is None else (), numbers, answer.likely, refused)


def _no_way(code: str, why: Reason) -> Way:
    return Way(code, why, (), (), None, why)
