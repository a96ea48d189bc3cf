"""Suggest a rig: out of the kinds, strengths and heights of the trade, what holds the animal's bands summer and winter.

Lamps are hung where the physics puts them and not tried at every height: the irradiance that the wanted surface needs is
read off one solved state, and the height follows. What is left is solved with its spread and ranked by how likely all
bands hold, then by energy and by how few things hang there. Nothing is kept that a caution forbids.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from husbandry.animal.needs import climbs
from husbandry.animal.subject import subject_of
from husbandry.assess import warmth
from husbandry.assess.probability import JointProbability
from husbandry.assessment import Measure, Reason
from husbandry.climate import heaters
from husbandry.climate.case import EnclosureCase
from husbandry.climate.heaters import HEATERS
from husbandry.climate.states import Climate
from husbandry.climate.steady import solve_steady
from husbandry.codes import ReasonCode
from husbandry.design.first_proposal import equipped
from husbandry.design.rig import Progress, RefusedLamp, Rig, RigsFound, rank, same_kinds, why
from husbandry.design.rig_placing import RigPlace
from husbandry.design.rig_scoring import RigJudge
from husbandry.inputs import ultraviolet
from husbandry.inputs.climate_case import enclosure_case
from husbandry.light.ultraviolet import RATED_WATTS
from husbandry.plan.equipment import HeaterKind
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.placement import check_places
from husbandry.remedies.hanging import new_heater_place
from husbandry.remedies.heating import STRENGTHS_W, dark_kind, fits_tube
from husbandry.remedies.ultraviolet import fitting_lamp
from husbandry.review.judged import BAD, below, miss
from husbandry.review.warmth import CLOSEST_HEATER_M, NIGHT_MARGIN_K
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile

# Strengths in W that lamps come in (trade), by kind; in this order where nothing else decides.
LAMPS: Final[dict[HeaterKind, tuple[float, ...]]] = {
    "reflector-flood": (25, 40, 60, 75, 100, 150),
    "halogen-flood": (35, 50, 75, 100, 150),
    "reflector-spot": (40, 60, 75, 100),
    "infrared-projector": (50, 80, 100, 150),
    "radiant-panel": (40, 80, 120),
    "vapour-combined": (100, 160),
    "halide-combined": (50, 70),
}
WORKING: Final = 0.85  # of full power in a winter room: some in hand, and dimmed no more than need be
RIGHT_ENOUGH: Final = (0.75, 1.15)  # of the irradiance wanted: nearer is not worth another solve
SLACK_K: Final = 1.0
RETRIES: Final = 2
LAMPS_KEPT: Final = 6
OF_ONE_KIND: Final = 2
SPREAD_KEPT: Final = 9
SHOWN: Final = 4
LOW_SHARE: Final = 0.3  # of the basking band, where a cooler set point is tried
SOUNDED_W: Final = 60.0  # the dark heater whose effect is worked out first
ENOUGH: Final = 0.9
FLAT_OUT: Final = 0.95
INTO_BAND_K: Final = 1.5  # past the edge of the band: a room and a probe may differ
UV_COMBINED_FROM: Final = 1.0


@dataclass(frozen=True)
class _Trial:
    plan: HabitatPlan
    case: EnclosureCase
    climate: Climate
    score: float


def search(plan: HabitatPlan, profile: Profile, today: date) -> Iterator[Progress | RigsFound]:
    """Search the whole set of heaters and UV lamps for this enclosure, animal and room; `RigsFound` comes last.

    The plan's own heaters and lamps are left out of account, its enclosure, ground, furniture and timers kept.
    """
    return _Search(plan, profile, today).steps()


class _Search:
    """One search: what hangs where is the place's, what is good is the judge's."""

    def __init__(self, plan: HabitatPlan, profile: Profile, today: date) -> None:
        self.place = RigPlace(subject_of(plan, profile, today))
        self.judge = RigJudge(self.place)
        self.tube: dict[str, Any] | None = fitting_lamp(
            self.place.bare, self.place.stage, self.place.body, today, climber=climbs(profile), beside_lamp=bool(self.place.basking)
        )
        self.refused: list[RefusedLamp] = []
        self.last: Climate | None = None  # the enclosure is the same in every trial: each begins where the one before ended

    def steps(self) -> Iterator[Progress | RigsFound]:
        lamps = [(kind, watts) for kind, sizes in LAMPS.items() for watts in sizes] if self.place.basking else []
        total = len(lamps) + LAMPS_KEPT + 2 * SPREAD_KEPT + SHOWN
        done = 0
        trials: list[_Trial] = []
        for kind, watts in lamps:
            done += 1
            trial = self._hung(kind, float(watts))
            if trial is not None:
                trials.append(trial)
            yield Progress(done, total, None)
        if not lamps:
            trials.append(self._solved(self._with([], tube=True)))
        trials.sort(key=lambda trial: trial.score)
        whole: list[_Trial] = []
        for trial in _mixed(trials, LAMPS_KEPT):
            done += 1
            whole += self._helped(trial)
            yield Progress(done, total, None)
        whole.sort(key=lambda trial: trial.score)
        rigs: list[Rig] = []
        for trial in _mixed(whole, SPREAD_KEPT):
            for variant in self._set_points(trial):
                done += 1
                rigs.append(self.judge.rated(variant, trial.climate))
                rigs.sort(key=rank)
                yield Progress(min(done, total), total, rigs[0].likely)
        # Never worse than what stands there, nor than what a first plan would hang in it.
        rigs += [self.judge.rated(known) for known in self._known()]
        rigs.sort(key=rank)
        kept: list[Rig] = []
        for rig in rigs:
            if len(kept) == SHOWN:
                break
            if any(same_kinds(rig, other) for other in kept) or not self.judge.allowed(rig):
                continue
            kept.append(rig)
            done += 1
            yield Progress(min(done, total), total, kept[0].likely)
        yield RigsFound(tuple(kept), tuple(why(kept)), tuple(self.refused), tuple(self.judge.unmet(kept)), self.judge.tried)

    def _known(self) -> Iterator[HabitatPlan]:
        """The rig of the plan itself, and that of a first plan for this enclosure."""
        subject = self.place.subject
        for known in (subject.plan, equipped(self.place.bare, subject.profile, subject.today)):
            rig = {"heaters": known.heaters, "uv_lamps": known.uv_lamps}
            plan = self.place.bare.model_copy(update=rig)
            if plan.heaters and not check_places(plan):
                yield plan

    def _with(self, heat: list[dict[str, Any]], *, tube: bool) -> HabitatPlan:
        document = self.place.bare.model_dump(mode="json")
        document["heaters"] = heat
        document["uv_lamps"] = [self.tube] if tube and self.tube else []
        return HabitatPlan.model_validate(document)

    def _solved(self, plan: HabitatPlan, near: Climate | None = None) -> _Trial:
        self.judge.tried += 1
        case = enclosure_case(plan)
        climate = self.last = solve_steady(case, spread=False, near=near or self.last)
        return _Trial(plan, case, climate, self.judge.score(plan, climate))

    def _hung(self, kind: HeaterKind, watts: float) -> _Trial | None:
        """Hang one lamp where it gives the wanted surface at four fifths of its power; None, with the reason, where it will not."""
        assert self.place.basking is not None
        combined = kind in RATED_WATTS
        wanted = ultraviolet.wanted_index(self.place.bare, self.place.stage)
        if combined and (wanted is None or (wanted.low or 0.0) < UV_COMBINED_FROM):
            return None  # its UV is not wanted: nobody asks why it was left out
        middle_c = self.place.basking.middle
        lowest, highest = self.place.travel(kind)
        if lowest > highest:
            self._refuse(kind, watts, ReasonCode.RIG_NO_ROOM, {"gap": Measure(CLOSEST_HEATER_M, "m")})
            return None
        heater = self.place.heater(kind, watts, highest, middle_c)
        if (
            heaters.patch_diameter(HEATERS[kind].half_angle_deg, HEATERS[kind].face_m, highest - self.place.top_m())
            < self.place.body_m()
        ):
            self._refuse(kind, watts, ReasonCode.RIG_NARROW, {"body": Measure(self.place.body_m(), "m")})
            return None
        trial = self._solved(self._with([heater], tube=not combined))
        for _ in range(RETRIES):
            day = trial.climate.states["winter", "day"]
            # What cannot be dimmed is hung for the mean of both seasons, the rest for winter.
            days = [day, trial.climate.states["summer", "day"]] if combined else [day]
            surface = sum(state.predictions["basking_surface"].value for state in days) / len(days)
            air = sum(state.predictions["warm_air"].value for state in days) / len(days)
            short = surface < middle_c - SLACK_K
            share = max((middle_c - air) / max(surface - air, 0.5), 0.05) if short or combined else day.duty[0]
            factor = share / (1.0 if combined else WORKING)
            if not short and RIGHT_ENOUGH[0] < factor < RIGHT_ENOUGH[1]:
                break
            height = self.place.height_of(trial.case, factor, lowest, highest)
            if abs(height - heater["height_m"]) < 0.004:
                break
            heater = heater | {"height_m": round(height, 3)}
            trial = self._solved(self._with([heater], tube=not combined), trial.climate)
        return trial if self._will_do(kind, watts, trial, middle_c) else None

    def _will_do(self, kind: HeaterKind, watts: float, trial: _Trial, middle_c: float) -> bool:
        if check_places(trial.plan):
            self._refuse(kind, watts, ReasonCode.RIG_NO_ROOM, {"gap": Measure(CLOSEST_HEATER_M, "m")})
            return False
        by_day = [trial.climate.states[season, "day"] for season in ("winter", "summer")]
        coldest = min(item.predictions["basking_surface"].value for item in by_day)
        hottest = max(item.predictions["basking_surface"].value for item in by_day)
        assert self.place.basking is not None
        low = self.place.basking.low if self.place.basking.low is not None else middle_c - SLACK_K
        high = self.place.basking.high if self.place.basking.high is not None else middle_c + SLACK_K
        if coldest < low:
            self._refuse(
                kind, watts, ReasonCode.RIG_TOO_WEAK, {"reached": Measure(coldest, "degC"), "wanted": Measure(low, "degC")}
            )
        elif hottest > high:
            self._refuse(
                kind, watts, ReasonCode.RIG_TOO_STRONG, {"reached": Measure(hottest, "degC"), "wanted": Measure(high, "degC")}
            )
        elif any(item.verdict in BAD for item in warmth.back(self.place.of(trial.plan), trial.case, trial.climate)):
            backs = warmth.back(self.place.of(trial.plan), trial.case, trial.climate)
            worst = max(item.value or 0.0 for item in backs)
            self._refuse(kind, watts, ReasonCode.RIG_BURNS_BACK, {"back": Measure(worst, "degC")})
        elif any(item.verdict in BAD for item in warmth.patch(self.place.of(trial.plan), trial.case)):
            self._refuse(kind, watts, ReasonCode.RIG_NARROW, {"body": Measure(self.place.body_m(), "m")})
        elif kind in RATED_WATTS and not self.place.uv_fits(trial.plan):
            index = ultraviolet.index_at_back(trial.plan, self.place.body, self.place.today)
            self._refuse(kind, watts, ReasonCode.RIG_UV, {"index": Measure(index, "UVI")})
        else:
            return True
        return False

    def _refuse(self, kind: str, watts: float, code: ReasonCode, told: dict[str, Measure]) -> None:
        self.refused.append(RefusedLamp(kind, watts, Reason(code, dict(told))))

    def _helped(self, trial: _Trial) -> list[_Trial]:
        """The lamp alone, and with heat without light where the air stays short by day or by night."""
        found = [trial]
        quantities = self.judge.quantities(trial.plan, trial.climate, JointProbability())
        lacking = {
            phase: max((miss(item) for item in quantities if (item.key, item.phase) == (key, phase) and below(item)), default=0.0)
            for phase, key in (("day", "warm_air"), ("night", "cool_air"))
        }
        plan = trial.plan
        for phase in ("day", "night"):
            if lacking[phase] > 0.0:
                helped = self._with_dark(plan, trial, phase, lacking[phase] + INTO_BAND_K)
                if helped is not None:
                    found.append(helped)
                    plan, trial = helped.plan, helped
        if plan.pool is not None:
            found += self._watered(trial)
        return found

    def _with_dark(self, plan: HabitatPlan, trial: _Trial, phase: str, missing_k: float) -> _Trial | None:
        """Add the weakest dark heater that makes up what is missing; the gain is nearly straight in the watts."""
        key = "warm_air" if phase == "day" else "cool_air"
        before = trial.climate.states["winter", phase].predictions[key].value
        added = self._dark(plan, phase, SOUNDED_W)
        if added is None:
            return None
        found = self._solved(added)
        state = found.climate.states["winter", phase]
        # From what the first one brought, straight to the weakest that will do, and one more where that was too bold.
        drawn_w = SOUNDED_W * max(state.duty[len(plan.heaters)], 0.05)
        gain = max(state.predictions[key].value - before, 0.01) / drawn_w
        enough = [size for size in STRENGTHS_W if gain * size >= ENOUGH * missing_k] or [STRENGTHS_W[-1]]
        for watts in enough[:2] if enough[0] != SOUNDED_W else ():
            added = self._dark(plan, phase, watts)
            if added is None:
                break
            found = self._solved(added)
            if found.climate.states["winter", phase].duty[len(plan.heaters)] < FLAT_OUT:
                break
        return found

    def _dark(self, plan: HabitatPlan, phase: str, watts: float) -> HabitatPlan | None:
        """The plan with one more dark heater; None where it has no room."""
        heat, schools, kind = self.place.stage.heat, plan.schools, dark_kind(watts)
        if kind == "tube-heater" and not fits_tube(self.place.bare):
            return None
        night = choose(heat.night_c, schools)
        held_c = night.least + NIGHT_MARGIN_K
        day = phase == "day"
        document = plan.model_dump(mode="json")
        document["heaters"].append(
            {
                "kind": kind,
                "watts": watts,
                **new_heater_place(plan, phase, climbed=climbs(self.place.subject.profile)).fields(plan, kind),
                "guarded": True,
                "holder": "ceramic" if kind == "ceramic-emitter" else "fixed",
                "thermostat": {
                    "kind": "pulse",
                    "set_c": round(choose(heat.warm_air_c, schools).middle if day else held_c, 1),
                    "probe": "warm-air" if day else "cool-air",
                },
                **(self.place.hours if day else {"on": self.place.hours["off"], "off": self.place.hours["on"]}),
            }
        )
        added = HabitatPlan.model_validate(document)
        return None if check_places(added) else added

    def _watered(self, trial: _Trial) -> list[_Trial]:
        """Heater or chiller in the water, where it leaves its band."""
        water = [
            item for item in self.judge.quantities(trial.plan, trial.climate, JointProbability()) if item.key == "water_temperature"
        ]
        cold = any(below(item) and miss(item) > 0 for item in water)
        hot = any(not below(item) and miss(item) > 0 for item in water)
        band = next((item.band for item in water if item.band is not None), None)
        pool = trial.plan.pool
        if band is None or pool is None or band.low is None or band.high is None or not (cold or hot):
            return []
        found = []
        for kind, wanted, set_c in (("water-heater", cold, band.low + 1.0), ("water-chiller", hot, band.high - 0.5)):
            if not wanted:
                continue
            for watts in (25.0, 50.0, 100.0, 200.0):
                document = trial.plan.model_dump(mode="json")
                thermostat = {"kind": "on-off", "set_c": round(set_c, 1), "probe": "water"}
                document["heaters"].append(
                    {
                        "kind": kind,
                        "watts": watts,
                        "x_m": pool.x_m,
                        "height_m": 0.05,
                        "thermostat": thermostat,
                        "on": "00:00",
                        "off": "00:00",
                        "guarded": True,
                    }
                )
                trial_with = self._solved(HabitatPlan.model_validate(document))
                if trial_with.score < trial.score - 1e-6:
                    found.append(trial_with)
                    if all(part.duty[len(trial.plan.heaters)] < 0.95 for part in trial_with.climate.states.values()):
                        break
        return found

    def _set_points(self, trial: _Trial) -> Iterator[HabitatPlan]:
        """The plan as it is, and with a cooler basking set point where its probe is held."""
        yield trial.plan
        first = trial.plan.heaters[0] if trial.plan.heaters else None
        if (
            self.place.basking is None
            or first is None
            or first.thermostat.kind == "none"
            or first.thermostat.probe != "basking-surface"
        ):
            return
        if self.place.basking.low is None or self.place.basking.high is None:
            return
        cooler = self.place.basking.low + LOW_SHARE * (self.place.basking.high - self.place.basking.low)
        document = trial.plan.model_dump(mode="json")
        document["heaters"][0]["thermostat"]["set_c"] = round(cooler, 1)
        yield HabitatPlan.model_validate(document)


def _mixed(trials: list[_Trial], most: int) -> list[_Trial]:
    """The best (`trials` in order), no more than two of the same kinds."""
    taken: dict[tuple[str, ...], int] = {}
    kept = []
    for trial in trials:
        kinds = tuple(heater.kind for heater in trial.plan.heaters)
        taken[kinds] = taken.get(kinds, 0) + 1
        if taken[kinds] <= OF_ONE_KIND:
            kept.append(trial)
    return kept[:most]
