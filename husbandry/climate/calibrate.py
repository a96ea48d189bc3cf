"""Calibrate: the keeper's readings move the models' uncertain parameters, each as far as the readings are worth.

Regularised least squares: with residuals r(z) over their standard deviations and a standard normal prior on every
parameter, `z` minimises `|r(z)|² + |z|²` (Gauss–Newton; the maximum a posteriori estimate), and the covariance that is
left is `(JᵀJ + 1)⁻¹` with J the Jacobian of the residuals (Rasmussen & Williams 2006, chapter 2; recalled). A direction of
JᵀJ with eigenvalue λ has been learnt to the part λ/(1 + λ). A further reading with scaled row j tells ½ ln(1 + j C jᵀ) nats.

A reading that all others speak against is set aside and questioned, not averaged in: with leverage `h = j C jᵀ` and what is left of
it `e` after the fit, the others foretell it with a standard deviation of `1/√(1 − h)`, and it lies `|e|/√(1 − h)` of them off.
"""

from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.case import EnclosureCase, ProbeCase, RoomState
from husbandry.climate.day import course
from husbandry.climate.daycourse import MINUTES, DayCourse
from husbandry.climate.humidity import humid_hide
from husbandry.climate.nodes import nodes_of
from husbandry.climate.parameters import PARAMETERS, Belief, variation
from husbandry.climate.probes import ground_row, own_row
from husbandry.climate.steady import solve_steady

Floats = NDArray[np.float64]

SEASON: Final = "winter"  # the name the room's state goes by here; nothing else hangs on it
STEP: Final = 0.5  # standard deviations, for the derivatives
ROUNDS: Final = 2
ROOM_GRAIN_K, ROOM_GRAIN_PERCENT = 1.0, 5.0  # readings beside rooms as alike as this are worked out together
LEARNT: Final = 0.5  # a combination counts as learnt from here
FAR_OFF: Final = 4.0  # standard deviations from what all others foretell, beyond which a reading is questioned
NAMED_SHARE: Final = 0.3  # of a combination's largest weight, below which a parameter is not named


@dataclass(frozen=True)
class ReadingPlace:
    """Where can be read: its unit, what the model itself is unsure of there (estimate), and whether it is a surface."""

    unit: str
    model_sigma: float
    surface: bool = False


PLACES: Final = {
    "basking-surface": ReadingPlace("degC", 0.8, surface=True),  # most of its doubt is the beam's, a parameter of its own
    "warm-air": ReadingPlace("degC", 0.6),
    "cool-air": ReadingPlace("degC", 0.6),
    "warm-ground": ReadingPlace("degC", 1.0, surface=True),
    "cool-ground": ReadingPlace("degC", 1.0, surface=True),
    "water": ReadingPlace("degC", 0.5),
    "warm-humidity": ReadingPlace("%", 4.0),
    "cool-humidity": ReadingPlace("%", 4.0),
    "humid-hide": ReadingPlace("%", 6.0),
    "own": ReadingPlace("degC", 0.8),  # between the zones' middles
}


@dataclass(frozen=True)
class Reading:
    """One reading, the instrument's own error already taken off: `sigma` is what is left of it, in the place's unit.

    `minute` of the clock; the room beside it in °C and %. `at` is where it was read, for the place "own".
    """

    place: str
    minute: int
    value: float
    sigma: float
    room_c: float
    room_percent: float
    at: ProbeCase | None = None


@dataclass(frozen=True)
class Combination:
    """Parameters that act together: weights (unit length) by name, and the share (0–1) that has been learnt of it."""

    weights: dict[str, float]
    learnt: float


@dataclass(frozen=True)
class WorthReading:
    """A reading worth taking: place, minutes after the light comes on, and what it would teach in nats."""

    place: str
    after_on_min: int
    worth: float


@dataclass(frozen=True)
class Learnt:
    """The end of a calibration: the belief, what the model said of each reading before and after, and what was learnt.

    `combinations` best learnt first; `left` the share of each parameter's prior spread that is left; `questioned` the readings, by
    their place in the order given, that were set aside.
    """

    belief: Belief
    before: tuple[float, ...]
    after: tuple[float, ...]
    combinations: tuple[Combination, ...]
    left: dict[str, float]
    wanted: tuple[WorthReading, ...]
    questioned: tuple[int, ...] = ()


def read(day: DayCourse, case: EnclosureCase, place: str, at: ProbeCase | None = None) -> Floats:
    """What would be read at `place` through the day, (1440,), first at 00:01. Raises KeyError for a place there is not.

    Parameters
    ----------
    day
        The day, stepped by the minute.
    case
        The enclosure.
    place
        A key of `PLACES`.
    at
        Where that is, for the place "own".

    Returns
    -------
    °C, or % of saturation for humidity, shape (1440,), first at 00:01.

    References
    ----------
    The weights are those of the network (docs/models.md, The enclosure as a network); no source outside.
    """
    nodes = nodes_of(case)
    if place == "basking-surface":
        return day.basking_surface
    if place in ("warm-air", "cool-air"):
        return day.warm_air if place == "warm-air" else day.cool_air
    if place in ("warm-ground", "cool-ground"):
        return np.asarray(day.nodes @ ground_row(case, nodes, warm=place == "warm-ground"))
    if place == "water" and nodes.watered:
        return np.asarray(day.nodes[:, nodes.water])
    if place == "humid-hide" and nodes.hiding:
        return humid_hide(day.vapour_pa, day.nodes[:, nodes.hide])
    if place == "own" and at is not None:
        return np.asarray(day.nodes @ own_row(case, nodes, at))
    if place in ("warm-humidity", "cool-humidity"):
        return day.warm_humidity if place == "warm-humidity" else day.cool_humidity
    raise KeyError(place)


def places_of(case: EnclosureCase) -> tuple[str, ...]:
    """The places of `PLACES` that this enclosure has by itself, whatever places of the keeper's own there are."""
    nodes = nodes_of(case)
    missing = {"water": not nodes.watered, "humid-hide": not nodes.hiding, "own": True}
    return tuple(place for place in PLACES if not missing.get(place, False))


def calibrate(case: EnclosureCase, readings: tuple[Reading, ...]) -> Learnt:
    """Move the uncertain parameters by readings, from the prior.

    Parameters
    ----------
    case
        The enclosure as the plan has it.
    readings
        ReadingPlace, hour, value and its standard deviation, with the room beside it; raises ValueError without any, KeyError
        for an unknown place.

    Returns
    -------
    The posterior mean and covariance, what was learnt of which combination, and what to read next. Limits: the room is
    taken to have stood all day as it was read.

    References
    ----------
    Rasmussen and Williams 2006, Gaussian Processes for Machine Learning, chapter 2 (docs/models.md [6]; recalled).
    """
    if not readings:
        raise ValueError("nothing was read")
    return _Calibration(case, readings).learnt()


class _Calibration:
    def __init__(self, case: EnclosureCase, readings: tuple[Reading, ...]) -> None:
        self.readings = readings
        rooms: dict[tuple[int, int], list[int]] = {}
        for index, item in enumerate(readings):
            grain = round(item.room_c / ROOM_GRAIN_K), round(item.room_percent / ROOM_GRAIN_PERCENT)
            rooms.setdefault(grain, []).append(index)
        self.groups = []
        for members in rooms.values():
            mean_c = sum(readings[index].room_c for index in members) / len(members)
            percent = sum(readings[index].room_percent for index in members) / len(members)
            state = RoomState(mean_c, mean_c, percent)
            self.groups.append((replace(case, rooms={SEASON: state}, belief=Belief()), members))
        self.case = self.groups[0][0]
        self.climates = [solve_steady(one, spread=False, seasons=(SEASON,)) for one, _members in self.groups]
        self.sigma = np.array([np.hypot(item.sigma, PLACES[item.place].model_sigma) for item in readings])
        self.values = np.array([item.value for item in readings])

    def _days(self, z: Floats) -> list[DayCourse]:
        vary = variation(z[None, :])
        return [course(one, climate, SEASON, vary) for (one, _members), climate in zip(self.groups, self.climates, strict=True)]

    def _said(self, days: list[DayCourse]) -> Floats:
        """What the model says of every reading."""
        said = np.zeros(len(self.readings))
        for (case, members), day in zip(self.groups, days, strict=True):
            for index in members:
                item = self.readings[index]
                said[index] = read(day, case, item.place, item.at)[(item.minute - 1) % MINUTES]
        return said

    def learnt(self) -> Learnt:
        count = len(PARAMETERS)
        z = np.zeros(count)
        days = self._days(z)
        first = said = self._said(days)
        jacobian = np.zeros((len(self.readings), count))
        beside: list[list[DayCourse]] = []
        fit = _Fit(self.sigma)
        for turn in range(ROUNDS):
            beside = []
            for index in range(count):
                step = np.zeros(count)
                step[index] = STEP
                beside.append(self._days(z + step))
                jacobian[:, index] = (self._said(beside[-1]) - said) / STEP
            # The whole way to the minimum of the straight problem, counted from the prior's middle.
            z = fit.solved(jacobian, self.values - said + jacobian @ z)
            days = self._days(z)
            said = self._said(days)
            if turn == 0 and np.abs(z).max() < 0.2:
                break
        information = fit.information(jacobian)
        covariance = np.asarray(np.linalg.inv(information + np.eye(count)), float)
        root = np.linalg.cholesky(covariance)
        belief = Belief(tuple(z.tolist()), tuple(tuple(row) for row in root.tolist()))
        left = {name: float(np.sqrt(covariance[index, index])) for index, name in enumerate(PARAMETERS)}
        worth = self._worth(days[0], [of[0] for of in beside], covariance)
        questioned = tuple(np.flatnonzero(~fit.kept).tolist())
        return Learnt(belief, tuple(first.tolist()), tuple(said.tolist()), _combinations(information), left, worth, questioned)

    def _worth(self, day: DayCourse, beside: list[DayCourse], covariance: Floats) -> tuple[WorthReading, ...]:
        """What each further reading would teach: at every place, through the light and the dark, the best time of each."""
        case = self.case
        lit = round(case.light_hours * 60)
        times = [20, 45, 120, lit - 10, lit + 20, lit + 60, lit + 180, 24 * 60 - 20]
        on = round(case.light_on_hour * 60)
        found = []
        for place in places_of(case):
            sigma = PLACES[place].model_sigma
            base = read(day, case, place)
            others = [read(one, case, place) for one in beside]
            best: WorthReading | None = None
            for after in times:
                at = (on + after - 1) % MINUTES
                row = np.array([(other[at] - base[at]) / STEP for other in others]) / sigma
                nats = 0.5 * float(np.log1p(row @ covariance @ row))
                if best is None or nats > best.worth:
                    best = WorthReading(place, after % MINUTES, nats)
            if best is not None:
                found.append(best)
        return tuple(sorted(found, key=lambda item: -item.worth))


class _Fit:
    """The straight problem with a standard normal prior; `kept` (readings,) are those not set aside."""

    def __init__(self, sigma: Floats) -> None:
        self.sigma, self.kept = sigma, np.ones(sigma.size, bool)

    def information(self, jacobian: Floats) -> Floats:
        """`JᵀJ` of the readings that count, (p, p)."""
        scaled = (jacobian / self.sigma[:, None])[self.kept]
        return np.asarray(scaled.T @ scaled)

    def solved(self, jacobian: Floats, wished: Floats) -> Floats:
        """The minimum for `wished` (readings,), in the readings' units; what all others speak against is set aside, worst first."""
        scaled, wanted = jacobian / self.sigma[:, None], wished / self.sigma
        self.kept[:] = True
        while True:
            inverse = np.linalg.inv(self.information(jacobian) + np.eye(jacobian.shape[1]))
            z = inverse @ scaled[self.kept].T @ wanted[self.kept]
            leverage = np.einsum("ij,jk,ik->i", scaled, inverse, scaled)
            off = np.where(self.kept, np.abs(wanted - scaled @ z) / np.sqrt(np.maximum(1 - leverage, 1e-9)), 0.0)
            worst = int(off.argmax())
            if off[worst] <= FAR_OFF:
                return np.asarray(z)
            self.kept[worst] = False


def _combinations(information: Floats) -> tuple[Combination, ...]:
    """The directions of what is known, best learnt first, with the parameters that matter in each."""
    strength, directions = np.linalg.eigh(information)
    found = []
    for k in np.argsort(strength)[::-1]:
        direction = directions[:, k]
        direction = direction * np.sign(direction[np.abs(direction).argmax()])
        least = NAMED_SHARE * np.abs(direction).max()
        weights = {name: float(direction[i]) for i, name in enumerate(PARAMETERS) if abs(direction[i]) >= least}
        value = max(float(strength[k]), 0.0)
        found.append(Combination(weights, value / (1 + value)))
    return tuple(found)
