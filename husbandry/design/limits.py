"""Why a band is not held: what of the room or of another band stands in its way, each found by a trial of the model.

A sentence is given only where a trial shows it: everything off and still too warm; nothing wet and still too moist; the heat drawn
down until this band holds, and another one left.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Final

from husbandry.animal.needs import climbs
from husbandry.animal.subject import subject_of
from husbandry.assess.assess import Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import endangers, weight
from husbandry.assessment import Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.heaters import HEATERS
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady
from husbandry.codes import ReasonCode
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.remedies.misting import MOST_MIST_G_M2, MOST_MISTING_G, MUCH_MIST_G_M2, may_be_misted
from husbandry.remedies.ultraviolet import fitting_lamp
from husbandry.review.judged import below, miss
from husbandry.species.profile import Profile

OFF: Final = (Verdict.OUTSIDE, Verdict.DANGEROUS)
PREDICTED: Final = {
    "basking_surface": "basking_surface",
    "warm_air": "warm_air",
    "cool_air": "cool_air",
    "hottest_air": "hottest_air",
    "water_temperature": "water",
}
HUMID: Final = ("cool_humidity",)
HALVINGS: Final = 6
MOST_TIMES: Final = 4.0  # a heater's watts, looked at upwards
HAIR_K: Final = 0.05
HAIR_PERCENT: Final = 1.0


@dataclass(frozen=True)
class Limit:
    """A quantity that leaves its band, and what stands in its way."""

    quantity: Quantity
    reason: Reason


def limits(plan: HabitatPlan, profile: Profile, found: Assessment) -> tuple[Limit, ...]:
    """Find for each band that a plan does not hold what stands in its way.

    Parameters
    ----------
    plan, profile, found
        A plan, and what `assess` made of it by this profile.

    Returns
    -------
    One Limit for each quantity outside its band for which a trial shows a reason, the farthest off first.

    References
    ----------
    No source outside: each is a trial of the enclosure's own model.
    """
    look = _Look(plan, profile, found)
    off = [item for item in found.quantities if item.verdict in OFF and item.key in {*PREDICTED, *HUMID, "uv_back"}]
    reasons = [(item, look.reason(item)) for item in off]
    told = [Limit(item, reason) for item, reason in reasons if reason is not None]
    return tuple(sorted(told, key=lambda item: -miss(item.quantity) / _width(item.quantity)))


def first_of_each(found: Iterable[Limit]) -> tuple[Limit, ...]:
    """Of all that have one cause, the one that is farthest off: what is said once."""
    kept: dict[ReasonCode, Limit] = {}
    for item in found:
        kept.setdefault(item.reason.code, item)
    return tuple(kept.values())


def _width(item: Quantity) -> float:
    """What a miss is measured by: the band's width, or a kelvin or per cent or two where it has one edge."""
    band = item.band
    return band.high - band.low if band is not None and band.low is not None and band.high is not None else 3.0


class _Look:
    """Trials of one plan; what is solved for one quantity is there for the next."""

    def __init__(self, plan: HabitatPlan, profile: Profile, found: Assessment) -> None:
        self.plan, self.profile, self.found = plan, profile, found
        self.case = enclosure_case(plan)
        self.stage = found.body.decision.stage
        self.lights = tuple(heater for heater in self.case.heaters if HEATERS[heater.kind].place == "light")
        self.solved: dict[object, Climate] = {}

    def reason(self, item: Quantity) -> Reason | None:
        """What stands in the way of this band."""
        if item.key == "uv_back":
            return self._ultraviolet(item)
        if item.value is None or item.band is None:
            return None
        if item.key in HUMID:
            return self._dry(item) if below(item) else self._moist(item)
        return self._cold(item) if below(item) else self._hot(item)

    def _climate(self, name: object, case: EnclosureCase) -> Climate:
        if name not in self.solved:
            self.solved[name] = solve_steady(case, spread=False)
        return self.solved[name]

    def _at(self, climate: Climate, item: Quantity) -> float:
        """What a quantity would be in another climate of this enclosure."""
        return float(climate.states[item.season, item.phase].predictions[PREDICTED.get(item.key, item.key)].value)

    def _hot(self, item: Quantity) -> Reason | None:
        """Too warm with everything off; or by the heat that another band needs."""
        assert item.band is not None
        high = item.band.high
        if high is None:
            return None
        bare = self._at(self._climate("bare", replace(self.case, heaters=())), item)
        if bare >= high - HAIR_K:
            room_c = self.plan.room_c(item.season, item.phase)
            return Reason(ReasonCode.LIMIT_ROOM_WARM, _measures("degC", off=bare, most=high, room=room_c))
        lit = self._at(self._climate("lit", replace(self.case, heaters=self.lights)), item)
        if lit >= high - HAIR_K:
            return Reason(ReasonCode.LIMIT_LIGHT_WARM, _measures("degC", off=bare, lit=lit, most=high))
        enough = _edge(0.0, 1.0, lambda factor: self._at(self._scaled(factor, item.phase), item) <= high)
        left = self._left(self._scaled(enough, item.phase), item, too_low=True)
        if left is None:
            return None
        other, value = left
        assert other.band is not None
        said = _measures("degC", most=high, value=value, least=other.band.low or 0.0)
        return Reason(ReasonCode.LIMIT_NEEDED_ELSEWHERE, said | _of(other))

    def _cold(self, item: Quantity) -> Reason | None:
        """Too cold, and more heat would be too much elsewhere."""
        assert item.band is not None
        low = item.band.low
        if low is None or len(self.lights) == len(self.case.heaters):
            return None
        if self._at(self._scaled(MOST_TIMES, item.phase), item) < low:
            return None
        enough = _edge(MOST_TIMES, 1.0, lambda factor: self._at(self._scaled(factor, item.phase), item) >= low)
        left = self._left(self._scaled(enough, item.phase), item, too_low=False)
        if left is None:
            return None
        other, value = left
        assert other.band is not None
        said = _measures("degC", least=low, value=value, most=other.band.high or 0.0)
        return Reason(ReasonCode.LIMIT_TOO_MUCH_ELSEWHERE, said | _of(other))

    def _moist(self, item: Quantity) -> Reason | None:
        """Too moist though nothing is misted, nothing grows and the ground is dry."""
        assert item.band is not None
        if item.band.high is None:
            return None
        dry = self._climate("dry", replace(self.case.without_water(), ground_damp=False, leaf_m2=0.0))
        value = self._at(dry, item)
        if value < item.band.high:
            return None
        room = getattr(self.plan.room, item.season).humidity_percent
        return Reason(ReasonCode.LIMIT_ROOM_MOIST, _measures("%", off=value, most=item.band.high, room=room))

    def _dry(self, item: Quantity) -> Reason | None:
        """Too dry where nothing is misted for good reason, or with as much water as an enclosure takes."""
        assert item.band is not None
        low = item.band.low
        if low is None:
            return None
        room = getattr(self.plan.room, item.season).humidity_percent
        if not may_be_misted(self.plan, self.stage):
            return Reason(ReasonCode.LIMIT_ROOM_DRY, _measures("%", least=low, room=room))
        most_kg = min(MOST_MIST_G_M2 * self.case.length_m * self.case.width_m, MOST_MISTING_G) / 1000
        flood = self._climate("flood", replace(self.case.without_water(), misting_kg_per_day=most_kg, ground_damp=True))
        value = self._at(flood, item)
        if value < low + HAIR_PERCENT:
            return Reason(ReasonCode.LIMIT_AIR_DRY, _measures("%", least=low, value=value))
        return self._much_mist(item, most_kg)

    def _much_mist(self, item: Quantity, most_kg: float) -> Reason | None:
        """Moist enough here, and then too moist by day or by night; or only with more mist than a floor should take."""
        assert item.band is not None
        low = item.band.low or 0.0
        given = self.case.in_season(item.season).misting_kg_per_day
        enough = _edge(most_kg, given, lambda kg: self._at(self._misted(kg, item.season), item) >= low)
        climate = self._misted(enough, item.season)
        others = [
            other for other in self.found.quantities if other.key in HUMID and other.season == item.season and other.id != item.id
        ]
        for other in others:
            if other.id == item.id or other.band is None or other.band.high is None:
                continue
            value = self._at(climate, other)
            if other.band.judge(value) in OFF and value > other.band.high:
                said = _measures("%", least=low, value=value, most=other.band.high)
                return Reason(ReasonCode.LIMIT_TOO_WET_ELSEWHERE, said | _of(other))
        much_kg = MUCH_MIST_G_M2 * self.case.length_m * self.case.width_m / 1000
        if enough <= much_kg or self._at(climate, item) < low:
            return None
        room = getattr(self.plan.room, item.season).humidity_percent
        grams: dict[str, Parameter] = {"grams": round(1000 * enough)}
        return Reason(ReasonCode.LIMIT_MUCH_MIST, grams | _measures("%", least=low, room=room))

    def _misted(self, kg_per_day: float, season: str) -> Climate:
        own = replace(self.case.in_season(season), misting_kg_per_day=kg_per_day, winter=None)
        return self._climate(("misted", round(kg_per_day, 5), season), own)

    def _scaled(self, factor: float, at: str) -> Climate:
        """The same enclosure with each heater giving `factor` times what it gives by day or by night; the rest stays, and light.

        What a band of the night asks for is no reason to warm or to cool the day, and the other way about.
        """
        climate = self.found.climate
        heaters: list[HeaterCase] = [*self.lights]
        for index, heater in enumerate(self.case.heaters):
            if heater in self.lights:
                continue
            # By day what it draws in the season that draws most; a factor is the same for both.
            for phase in ("day", "night"):
                duty = max(climate.states[season, phase].duty[index] for season in ("summer", "winter"))
                on, off = self.case.light_on_hour, self.case.light_off_hour
                if duty > 0:
                    hours = (on, off) if phase == "day" else (off, on)
                    watts = heater.watts * duty * (factor if phase == at else 1.0)
                    free = replace(heater, watts=watts, control="none", on_hour=hours[0], off_hour=hours[1])
                    heaters.append(free)
        return self._climate(("scaled", round(factor, 4), at), replace(self.case, heaters=tuple(heaters)))

    def _left(self, climate: Climate, item: Quantity, *, too_low: bool) -> tuple[Quantity, float] | None:
        """The band that is left farthest in this climate, and by no means in the plan as it stands."""
        worst: tuple[float, Quantity, float] | None = None
        for other in self.found.quantities:
            if other.key not in PREDICTED or other.band is None or other.id == item.id or other.season not in ("", item.season):
                continue
            if not other.season or other.verdict is Verdict.NOT_APPLICABLE:
                continue
            value = self._at(climate, other)
            edge = other.band.low if too_low else other.band.high
            if edge is None or other.band.judge(value) not in OFF or (value > edge) is too_low:
                continue
            gap = abs(value - edge)
            if worst is None or gap > worst[0]:
                worst = gap, other, value
        return None if worst is None else (worst[1], worst[2])

    def _ultraviolet(self, item: Quantity) -> Reason | None:
        """No tube reaches the band from where it can hang; or its warmth is too much."""
        if self.plan.uv_lamps:
            return None
        subject = subject_of(self.plan, self.profile, self.found.today)
        lamp = fitting_lamp(self.plan, subject.stage, subject.body, self.found.today, climber=climbs(self.profile))
        if lamp is None:
            return Reason(ReasonCode.LIMIT_NO_TUBE)
        try:
            with_it = read_data(self.plan.model_dump(mode="json") | {"uv_lamps": [lamp]})
        except PlanProblems:
            return None
        depth = Depth(days_of=(), spread=False, hanging=False, telling=False)
        before, after = (assess(plan, self.profile, self.found.today, depth=depth) for plan in (self.plan, with_it))
        if endangers(before, after) or weight(after.findings) >= weight(before.findings):
            return Reason(ReasonCode.LIMIT_TUBE_WARMS)
        return None


def _edge(holds: float, fails: float, held: Callable[[float], bool]) -> float:
    """Halve the way between a number with which something is held and one with which it is not; the nearest with which it is."""
    for _ in range(HALVINGS):
        middle = (holds + fails) / 2
        holds, fails = (middle, fails) if held(middle) else (holds, middle)
    return holds


def _measures(unit: str, **values: float) -> dict[str, Parameter]:
    return {name: Measure(value, unit) for name, value in values.items()}


def _of(other: Quantity) -> dict[str, Parameter]:
    """Which other band it is, and when."""
    return {"quantity": other.key, "season": other.season, "phase": other.phase}
