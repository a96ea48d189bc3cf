"""What has failed, where measurement and model drift apart: each fault is played through the model, and judged by what was read.

For every fault that the plan has a part for, and for each of a few hours at which it may have begun, the model says what the
instruments would have shown. Readings of one place by day, or by night, err together by an unknown offset and each hour by itself,
so that the chance of an hour's residuals r under a hypothesis is normal with covariance s_b² 11ᵀ + s_n² 1. The offset's middle and
spread come from the days before: a model that is always two kelvins low there is not a fault. Bayes' rule does the rest. What no
fault of the enclosure explains, while one instrument alone is off, is the instrument's. The chances of faults before anything is
read are estimates.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.calibrate import PLACES
from husbandry.climate.case import EnclosureCase
from husbandry.climate.day import course
from husbandry.climate.daycourse import DayCourse
from husbandry.climate.heaters import HEATERS
from husbandry.climate.parameters import PARAMETERS, SIGMA, deviation
from husbandry.climate.steady import solve_steady
from husbandry.watch.foretold import HOURS, POWER, Where, shown

Floats = NDArray[np.float64]


class Fault(StrEnum):
    """What may have failed."""

    LAMP_DARK = "lamp-dark"
    HEATER_COLD = "heater-cold"
    STUCK_ON = "stuck-on"
    VENTS_SHUT = "vents-shut"
    STANDS_OPEN = "stands-open"
    NO_WATER = "no-water"
    INSTRUMENT = "instrument"


@dataclass(frozen=True)
class Suspect:
    """A fault with its chance (0–1): of which heater, or at which of the places that were read (-1 for neither); hours since.

    Where it was over by then, `over_h` hours ago.
    """

    fault: Fault
    share: float
    heater: int = -1
    place: int = -1
    since_h: int = HOURS
    over_h: int = 0


@dataclass(frozen=True)
class Offsets:
    """How far readings usually stand from the model, by place and by dark and light, (places, 2): the middle and its spread."""

    middle: Floats
    sigma: Floats


ONSETS_H: Final = (2, 4, 8, 12, 16, 20, 24)  # how long ago a fault is tried to have begun
OVER_H: Final = (0, 2, 4, 8, 12, 16)  # and to have been mended; none that lasts for nought
SETTLES_H: Final = 1  # after a fault began, and after the light turned, in which the hour's mean tells little
BEFORE: Final = 0.0007  # the chance of one fault within a day, before anything is read (estimate: each once in four years)
TOLD: Final = 0.97  # of the chance, that has to speak for some fault
LEAST_GIVEN: Final = 0.15  # of its full power in the mean of a day: a heater that gives less is not missed
KEPT: Final = 0.05  # suspects below that are not named
SEEN: Final = 3.0  # of an hour's own noise, from which an hour shows a fault
SHUT, OPEN = 0.12, 6.0  # factors on the air changes
HOUR_SIGMA: Final = {"degC": 0.5, "%": 4.0, "W": 0.10}  # of an hour by itself; of power as a share of the heater's watts
DAY_SIGMA: Final = {"degC": 0.5, "%": 3.5, "W": 0.10}  # that the offset changes from day to day at least
LOST_SIGMA: Final = {"degC": 12.0, "%": 30.0, "W": 0.7}  # how far an instrument that has failed may be off
DAYS_LEAST: Final = 3  # of offsets that make a usual one
CYCLE_SIGMA: Final = 0.5  # of the watts of an on/off thermostat's heater: in which hour it turns is chance
DUTY_SIGMA: Final = 0.5  # of what a thermostat gives: it hangs on the last kelvin of the room, and alone says little
CALM: Final = 2.0  # standard deviations of an offset, or of χ², up to which nothing is looked for


def unit_of(where: Where) -> str:
    """The unit of what is read there."""
    return "W" if where.place == POWER else PLACES[where.place].unit


def usual_offsets(days: Sequence[Floats], where: Sequence[Where], model_sigma: Floats, watts: Sequence[float]) -> Offsets:
    """Return how far readings usually stand from the model.

    Parameters
    ----------
    days
        Of each earlier day the mean of read minus foretold, (places, 2), by dark and light; nan where nothing was read.
    where
        The places.
    model_sigma
        What model and instrument are unsure of, (places, 2): it counts where fewer than three days are known.
    watts
        The heaters' watts.

    Returns
    -------
    Offsets, (places, 2).

    References
    ----------
    Mean and predictive spread of a normal sample with a known prior; Gelman et al., Bayesian Data Analysis, section 2.5 (recalled).
    """
    scale = _scales(where, watts)
    least = np.array([DAY_SIGMA[unit_of(one)] for one in where])[:, None] * scale[:, None] * np.ones((1, 2))
    middle, sigma = np.zeros((len(where), 2)), np.maximum(model_sigma, least)
    if not days:
        return Offsets(middle, sigma)
    all_days = np.array(days)
    known = np.isfinite(all_days)
    count = known.sum(axis=0)
    with np.errstate(invalid="ignore"):
        mean = np.where(known, all_days, 0.0).sum(axis=0) / np.maximum(count, 1)
        spread = np.sqrt((np.where(known, all_days - mean, 0.0) ** 2).sum(axis=0) / np.maximum(count - 1, 1))
    day = np.maximum(spread, least)
    enough = count >= DAYS_LEAST
    shrunk = count / (count + (day / np.maximum(model_sigma, least)) ** 2)
    middle = np.where(enough, mean * shrunk, 0.0)
    return Offsets(middle, np.where(enough, day * np.sqrt(1 + 1 / np.maximum(count, 1)), sigma))


def daily_offset(difference: Floats, lit: NDArray[np.bool_]) -> Floats:
    """The mean of a day's read minus foretold (places, 24), by dark and light, (places, 2); nan where nothing was read."""
    counts = _counts(lit)
    found = np.full((len(difference), 2), np.nan)
    for phase in (0, 1):
        part = difference[:, counts & (lit == bool(phase))]
        seen = np.isfinite(part).sum(axis=1)
        found[:, phase] = np.where(seen > 0, np.nansum(part, axis=1) / np.maximum(seen, 1), np.nan)
    return found


def judge(
    case: EnclosureCase, season: str, where: Sequence[Where], measured: Floats, offsets: Offsets, last_hour: int
) -> list[Suspect]:
    """Return what has failed, likeliest first; nothing while measurement and model go together.

    Parameters
    ----------
    case, season
        The enclosure in the room as it was in these hours.
    where
        What was read, by place.
    measured
        The hourly means of the last 24 h by hour of the clock, (places, 24); nan where nothing was read.
    offsets
        How far readings usually stand from the model.
    last_hour
        The newest hour of the clock in `measured`, 0–23.

    Returns
    -------
    Suspects whose chance is at least a twentieth, when some fault is likelier than 0.97.

    References
    ----------
    Bayes' rule over simulated faults; the normal with compound symmetric covariance (Rao 1973, Linear Statistical Inference,
    section 1b; recalled). Chances before reading are estimates.
    """
    day = _day(case, season)
    sound = shown(case, day, where)
    table = _Table(case, where, measured, offsets, last_hour, sound)
    if table.calm():
        return []
    gives = day.duty.mean(axis=0)
    found: list[tuple[Suspect | None, float]] = [(None, table.chance(sound))]
    spells = [(since_h, over_h) for since_h in ONSETS_H for over_h in OVER_H if over_h < since_h]
    before = np.log(BEFORE / len(spells))
    for fault, heater, broken in possible(case):
        if fault in (Fault.LAMP_DARK, Fault.HEATER_COLD) and gives[heater] < LEAST_GIVEN:
            continue
        failed = shown(broken, _day(broken, season), where)
        for since_h, over_h in spells:
            if over_h and not table.shows(failed, sound, over_h):
                continue  # a lamp that is not missed by night may as well be dark still
            in_it = (table.age < since_h) & (table.age >= over_h)
            share = before + table.chance(np.where(in_it, failed, sound), (since_h, over_h))
            found.append((Suspect(fault, 0.0, heater, -1, since_h, over_h), share))
    found += [(Suspect(Fault.INSTRUMENT, 0.0, -1, place), before + table.chance(sound, lost=place)) for place in range(len(where))]
    return _likeliest(found)


def _likeliest(found: list[tuple[Suspect | None, float]]) -> list[Suspect]:
    """The suspects by their share of the whole chance; one fault's onsets count together, and its likeliest one is told.

    What is over is no suspect any more: it counts with those that nothing has failed.
    """
    logs = np.array([log for _suspect, log in found])
    shares = np.exp(logs - logs.max())
    shares /= shares.sum()
    sound = float(sum(share for (suspect, _log), share in zip(found, shares, strict=True) if suspect is None or suspect.over_h))
    if 1 - sound < TOLD:
        return []
    together: dict[tuple[Fault, int, int], tuple[float, float, Suspect]] = {}
    for (suspect, _log), share in zip(found[1:], shares[1:], strict=True):
        assert suspect is not None
        if suspect.over_h:
            continue
        key = suspect.fault, suspect.heater, suspect.place
        total, best, kept = together.get(key, (0.0, 0.0, suspect))
        together[key] = total + float(share), max(best, float(share)), suspect if share > best else kept
    told = [replace(suspect, share=total) for total, _best, suspect in together.values() if total >= KEPT]
    return sorted(told, key=lambda suspect: -suspect.share)


def possible(case: EnclosureCase) -> Iterator[tuple[Fault, int, EnclosureCase]]:
    """Every fault that an enclosure has a part for: its kind, which heater's (or -1), and the enclosure that has it."""
    for index, heater in enumerate(case.heaters):
        kind = HEATERS[heater.kind]
        without = replace(heater, watts=0.01, control="none")
        yield Fault.LAMP_DARK if kind.light else Fault.HEATER_COLD, index, _with(case, index, without)
        if heater.control != "none":
            yield Fault.STUCK_ON, index, _with(case, index, replace(heater, control="none"))
    yield Fault.VENTS_SHUT, -1, _aired(case, SHUT)
    yield Fault.STANDS_OPEN, -1, _aired(case, OPEN)
    if case.misting_kg_per_day or case.mistings or case.fogger_kg_per_h:
        yield Fault.NO_WATER, -1, case.without_water()


def _with(case: EnclosureCase, index: int, heater: object) -> EnclosureCase:
    heaters = list(case.heaters)
    heaters[index] = heater  # type: ignore[call-overload]
    return replace(case, heaters=tuple(heaters))


def _aired(case: EnclosureCase, factor: float) -> EnclosureCase:
    """The enclosure with its air changed so many times as often as is believed."""
    at = PARAMETERS.index("air_changes")
    middle = list(case.belief.middle)
    middle[at] = deviation("air_changes", float(np.exp(SIGMA["air_changes"] * middle[at])) * factor)
    return replace(case, belief=replace(case.belief, middle=tuple(middle)))


def _day(case: EnclosureCase, season: str) -> DayCourse:
    return course(case, solve_steady(case, spread=False, seasons=(season,)), season)


def _counts(lit: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Which hours tell of a phase: not those right after the light turned."""
    turned = lit != np.roll(lit, 1)
    for back in range(1, SETTLES_H + 1):
        turned = turned | np.roll(lit != np.roll(lit, 1), back)
    return ~turned


def lit_hours(case: EnclosureCase) -> NDArray[np.bool_]:
    """Which hours of the clock are light for their larger part, (24,)."""
    return np.array([case.is_day(hour + 0.5) for hour in range(HOURS)])


def _scales(where: Sequence[Where], watts: Sequence[float]) -> Floats:
    """What a share of power counts in, W; one for everything else."""
    return np.array([watts[one.heater] if one.place == POWER and one.heater < len(watts) else 1.0 for one in where])


@dataclass(frozen=True)
class _Block:
    """Hours that err together: χ² of their scatter and of their offset, and the logarithm of their covariance's determinant."""

    hours: int
    scatter: float
    offset: float
    log_size: float


class _Table:
    """The readings of a day beside what hypotheses foretell of them; nothing in it changes."""

    def __init__(
        self, case: EnclosureCase, where: Sequence[Where], measured: Floats, offsets: Offsets, last_hour: int, sound: Floats
    ) -> None:
        self.measured, self.offsets, self.sound = measured, offsets, sound
        self.lit = lit_hours(case)
        self.age = (last_hour - np.arange(HOURS)) % HOURS  # hours before the newest
        scale = _scales(where, [heater.watts for heater in case.heaters])
        self.noise = np.array([HOUR_SIGMA[unit_of(one)] for one in where]) * scale
        self.lost = np.array([LOST_SIGMA[unit_of(one)] for one in where]) * scale
        for place, one in enumerate(where):
            if one.place == POWER and case.heaters[one.heater].control == "on-off":
                self.noise[place] = CYCLE_SIGMA * case.heaters[one.heater].watts
        self.governed = [one.place == POWER and case.heaters[one.heater].control != "none" for one in where]
        self.usable = np.isfinite(measured) & _counts(self.lit)[None, :]

    def calm(self) -> bool:
        """Tell whether what was read goes with the model as it stands."""
        blocks = list(self._blocks(self.sound, self.usable))
        count = sum(block.hours for block in blocks)
        scatter = sum(block.scatter for block in blocks)
        return all(block.offset <= CALM**2 for block in blocks) and scatter <= count + CALM * np.sqrt(2 * count)

    def shows(self, failed: Floats, sound: Floats, hours: int) -> bool:
        """Tell whether the last so many hours would show it if something had still been wrong."""
        apart = np.abs(failed - sound) / self.noise[:, None]
        seen = apart[:, self.age < hours][self.usable[:, self.age < hours]]
        return bool(seen.size) and float(np.nanmax(seen)) > SEEN

    def chance(self, foretold: Floats, turns_h: Sequence[int] = (), *, lost: int = -1) -> float:
        """The logarithm of the chance of what was read; hours right after each of `turns_h` ago tell little."""
        usable = self.usable
        for turn_h in turns_h:
            if 0 < turn_h < HOURS:
                usable = usable & ~((self.age < turn_h) & (self.age >= turn_h - SETTLES_H))[None, :]
        blocks = list(self._blocks(foretold, usable, lost=lost))
        left_out = int(self.usable.sum()) - sum(block.hours for block in blocks)  # each is counted as an hour like any other
        return -0.5 * (sum(block.scatter + block.offset + block.log_size for block in blocks) + left_out)

    def _blocks(self, foretold: Floats, usable: NDArray[np.bool_], *, lost: int = -1) -> Iterator["_Block"]:
        """The readings of each place by night and by day, in units of the hours' own noise."""
        for place in range(len(foretold)):
            for phase in (0, 1):
                hours = usable[place] & (self.lit == bool(phase)) & np.isfinite(foretold[place])
                n = int(hours.sum())
                if n == 0:
                    continue
                offset, spread = float(self.offsets.middle[place, phase]), float(self.offsets.sigma[place, phase])
                spread = max(spread, float(self.lost[place])) if place == lost else spread
                if self.governed[place]:
                    spread = float(np.hypot(spread, DUTY_SIGMA * self.sound[place, hours].mean()))
                left = (self.measured[place, hours] - foretold[place, hours] - offset) / self.noise[place]
                ratio = (spread / self.noise[place]) ** 2
                mean = float(left.mean())
                size = 1 + n * ratio
                yield _Block(n, float(((left - mean) ** 2).sum()), n * mean**2 / size, float(np.log(size)))
