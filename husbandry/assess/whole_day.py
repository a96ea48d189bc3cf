"""The quantities of a whole day, by season: how soon it is warm, how long it holds, what it strays to, what it uses."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from husbandry.animal.needs import swims
from husbandry.animal.subject import Subject
from husbandry.assess.warmth import BURN_MARGIN_K, CHILL_MARGIN_K, MODEL
from husbandry.assessment import Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate import outcomes, spread
from husbandry.climate.case import EnclosureCase
from husbandry.climate.daycourse import DayCourse
from husbandry.climate.ground import HALF, drying_slows
from husbandry.climate.states import Climate
from husbandry.climate.terms import ground_holds
from husbandry.codes import ReasonCode
from husbandry.inputs.light_sources import outside_kwh
from husbandry.plan.equipment import hours_of
from husbandry.species.leaves import choose
from husbandry.units import DAYS_A_MONTH, clock_text

Floats = NDArray[np.float64]
Parameters = dict[str, Parameter]

HELD = {"warm_air": "warm_held", "cool_air": "cool_held", "cool_humidity": "humidity_held"}
LONGEST_DRY_D = 365.0


def quantities(subject: Subject, case: EnclosureCase, climate: Climate, season: str, day: DayCourse) -> list[Quantity]:
    """Everything that takes a whole day to tell; the air's hours in band only where the animal breathes it all day."""
    figures = _Figures(subject, case, climate, season, day)
    in_air = [] if swims(subject.plan, subject.profile) else [*figures.held(), *figures.coolest()]
    return [*figures.basking(), *in_air, *figures.energy(), *figures.duties(), *figures.water()]


class _Figures:
    def __init__(self, subject: Subject, case: EnclosureCase, climate: Climate, season: str, day: DayCourse) -> None:
        self.plan, self.stage, self.case, self.season, self.day = subject.plan, subject.stage, case, season, day
        self.by_day, self.by_night = climate.states[season, "day"], climate.states[season, "night"]
        self.lit_thin = day.lit[outcomes.STEP - 1 :: outcomes.STEP]

    def _drawn(self, key: str, curve: Floats) -> Floats:
        """Draws of a curve, the curve itself as the first row."""
        thin = curve[outcomes.STEP - 1 :: outcomes.STEP][None, :]
        if not self.by_day.draws:
            return thin
        phases = [(phase.predictions[key].value, phase.draws[key]) for phase in (self.by_day, self.by_night)]
        return np.concatenate([thin, outcomes.drawn_curves(curve, self.day.lit, phases[0], phases[1])])

    def _quantity(
        self, key: str, unit: str, drawn: Floats, reason: Reason, band: Band | None = None, value: float | None = None
    ) -> Quantity:
        """A number from its own value (or the first of `drawn`) and the draws after it; what never arrives counts as far off."""
        own = float(drawn[0]) if value is None else value
        rest = np.where(np.isnan(drawn[1:]), np.inf, drawn[1:])
        low = high = None
        if rest.size:
            ordered, tenth = np.sort(rest), round(0.1 * (rest.size - 1))
            low, high = float(ordered[tenth]), float(ordered[-1 - tenth])
            high = None if np.isinf(high) else high
        verdict = Verdict.NOT_APPLICABLE if band is None else band.judge(own)
        likely = None if band is None or not rest.size else float(spread.within(rest, band.low, band.high).mean())
        basis = MODEL if band is None else band.basis
        return Quantity(key, unit, own, verdict, reason, basis, band, low, high, self.season, likely=likely)

    def basking(self) -> list[Quantity]:
        """Minutes from lights-on to the basking band, share of the light in it, and the hottest the surface gets."""
        if self.stage.heat.basking_surface_c is None:
            return []
        wanted = choose(self.stage.heat.basking_surface_c, self.plan.schools).band_c()
        low = wanted.low if wanted.low is not None else -np.inf
        high = wanted.high if wanted.high is not None else np.inf
        drawn = self._drawn("basking_surface", self.day.basking_surface)
        after = outcomes.minutes_until(drawn, hours_of(self.plan.daylight.on), low)
        told: Parameters = {"least": Measure(low, "degC")}
        if np.isnan(after[0]):
            highest = Measure(float(self.day.basking_surface.max()), "degC")
            reason = Reason(ReasonCode.DAY_NEVER, told | {"highest": highest})
            found = [Quantity("basking_after", "min", None, Verdict.UNKNOWN, reason, MODEL, season=self.season)]
        else:
            found = [self._quantity("basking_after", "min", after, Reason(ReasonCode.DAY_AFTER, told))]
        share = 100 * outcomes.share_within(drawn, self.lit_thin, low, high)
        found.append(self._quantity("basking_held", "%", share, Reason(ReasonCode.DAY_HELD_LIT, told)))
        top = float(self.day.basking_surface.max())
        burning = None if wanted.high is None else replace(wanted, low=None, danger_high=wanted.high + BURN_MARGIN_K)
        at = Measure(float(self.day.hours[self.day.basking_surface.argmax()]), "h")
        found.append(
            self._quantity(
                "surface_peak",
                "degC",
                drawn.max(axis=1),
                Reason(ReasonCode.DAY_PEAK, {"clock": clock_text(at.value)}),
                burning,
                top,
            )
        )
        return found

    def held(self) -> list[Quantity]:
        """Share of the day that the air at either end and the cool end's humidity stand in their bands."""
        heat, moisture, schools = self.stage.heat, self.stage.moisture, self.plan.schools
        by_night = choose(heat.night_c, schools)
        wanted = {
            "warm_air": (choose(heat.warm_air_c, schools), by_night),
            "cool_air": (choose(heat.cool_air_c, schools), by_night),
            "cool_humidity": (choose(moisture.day_percent, schools), choose(moisture.night_percent, schools)),
        }
        found = []
        for key, (lit, dark) in wanted.items():
            low = np.where(self.lit_thin, _or(lit.low, -np.inf), _or(dark.low, -np.inf))
            high = np.where(self.lit_thin, _or(lit.high, np.inf), _or(dark.high, np.inf))
            drawn = self._drawn(key, getattr(self.day, key))
            share = 100 * outcomes.share_within(drawn, np.ones(drawn.shape[1], bool), low, high)
            found.append(self._quantity(HELD[key], "%", share, Reason(ReasonCode.DAY_HELD)))
        return found

    def coolest(self) -> list[Quantity]:
        """The lowest air at the cool end, against the night's least."""
        night = choose(self.stage.heat.night_c, self.plan.schools).band_c()
        least = None if night.low is None else replace(night, high=None, danger_low=night.low - CHILL_MARGIN_K)
        drawn = self._drawn("cool_air", self.day.cool_air).min(axis=1)
        at = float(self.day.hours[self.day.cool_air.argmin()])
        value = float(self.day.cool_air.min())
        return [self._quantity("coolest_air", "degC", drawn, Reason(ReasonCode.DAY_LEAST, {"clock": clock_text(at)}), least, value)]

    def _over_the_day(self, key: str, own: float) -> Floats:
        """`own`, then draws of the day's mean about it, from the draws at the ends of light and dark."""
        if not self.by_day.draws:
            return np.array([own])
        share = self.case.light_hours / 24
        phases = [(phase.draws[key], phase.predictions[key].value) for phase in (self.by_day, self.by_night)]
        moved = sum(part * (drawn - middle) for part, (drawn, middle) in zip((share, 1 - share), phases, strict=True))
        return np.append(own, np.maximum(own + moved, 0.0))

    def energy(self) -> list[Quantity]:
        """Electricity of the day, and what a month of such days costs."""
        own = self.day.kwh + outside_kwh(self.plan)
        drawn = own + (self._over_the_day("heat_power", 1000 * self.day.kwh / 24) - 1000 * self.day.kwh / 24) * 24 / 1000
        told: Parameters = {"month": Measure(own * DAYS_A_MONTH, "kWh")}
        price = self.plan.prices.kwh
        if price is not None:
            told["cost"] = own * DAYS_A_MONTH * price
        reason = Reason(ReasonCode.DAY_ENERGY if price is None else ReasonCode.DAY_ENERGY_COST, told)
        return [self._quantity("energy", "kWh", drawn, reason)] if own else []

    def duties(self) -> list[Quantity]:
        """How much of the time each heater works, over its hours."""
        found = []
        for index, heater in enumerate(self.plan.heaters):
            own = 100 * float(self.day.duty[:, index].mean())
            hours = heater.hours_a_day
            told: Parameters = {"kind": heater.kind, "watts": Measure(heater.watts, "W"), "hours": Measure(hours, "h")}
            drawn = self._over_the_day(f"duty_{index}", own) * 24 / hours
            found.append(self._quantity(f"duty_{index + 1}", "%", np.minimum(drawn, 100.0), Reason(ReasonCode.DAY_DUTY, told)))
        return found

    def water(self) -> list[Quantity]:
        """Water the air carries off, hours with wet panes, days until damp ground is half dry."""
        moved = self.day.water
        drawn = np.maximum(self._over_the_day("vapour_out", moved.carried / 24) * 24, 0.0)
        found = [self._quantity("water_used", "kg", drawn, Reason(ReasonCode.DAY_WATER, {"given": Measure(moved.given, "kg")}))]
        wet = float(self.day.condensing.mean()) * 24
        basis = Basis(BasisKind.PRACTICE, note="panes dry for part of each day")
        dry = Band(None, 20.0, basis)
        reason = Reason(ReasonCode.DAY_WET, {"water": Measure(moved.condensed, "kg")})
        found.append(Quantity("wet_panes", "h", wet, dry.judge(wet), reason, basis, dry, season=self.season))
        holds = ground_holds(self.case)
        if holds:
            days = HALF * holds / max(moved.dried, 1e-9) * drying_slows(self.case.ground_depth_m)
            told: Parameters = {"holds": Measure(holds, "kg")}
            value = days if days < LONGEST_DRY_D else None
            reason = Reason(ReasonCode.DAY_DRIES if value is not None else ReasonCode.DAY_STAYS_DAMP, told)
            verdict = Verdict.NOT_APPLICABLE
            found.append(Quantity("ground_dries", "d", value, verdict, reason, MODEL, season=self.season))
        return found


def _or(value: float | None, other: float) -> float:
    return other if value is None else value
