"""What has failed, told from readings: faults that are planted in a simulated room, and a simulated year without any."""

from dataclasses import dataclass, field, replace

import numpy as np
import pytest
from numpy.typing import NDArray

from husbandry.assessment import Band, Basis, BasisKind
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.day import course
from husbandry.climate.parameters import PARAMETERS
from husbandry.climate.steady import solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.reading import read_data
from husbandry.upkeep.instruments import How, check, over_salt
from husbandry.watch import faults, lines
from husbandry.watch.faults import Fault, Suspect
from husbandry.watch.foretold import HOURS, POWER, Where, foretell, in_room, minutes_of, shown
from tests.plans import document

Floats = NDArray[np.float64]

NOISE = {"degC": 0.3, "%": 2.5, "W": 0.8}
OWN_ERROR = {"degC": 0.5, "%": 3.0, "W": 0.0}


@dataclass
class Simulated:
    """An enclosure that is not quite what its plan says, in a room with weather, read by instruments that err."""

    plan_case: EnclosureCase
    seed: int
    day: int = 0
    weather: float = 0.0
    offsets_before: list[Floats] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.rng = np.random.default_rng(self.seed)
        self.hidden = self.rng.normal(0, 0.7, len(PARAMETERS))
        powers = [Where(POWER, None, index) for index in range(len(self.plan_case.heaters))]
        self.where = [Where("basking-surface"), Where("warm-air"), Where("cool-air"), Where("cool-humidity"), *powers]
        self.errors = np.array([self.rng.normal(0, OWN_ERROR[faults.unit_of(one)]) for one in self.where])
        self.lit = faults.lit_hours(self.plan_case)
        self.watts = [heater.watts for heater in self.plan_case.heaters]
        case, season = in_room(self.plan_case, RoomState(21.0, 19.0, 50.0))
        sigma = foretell(case, season, self.where).sigma
        self.sigma = np.stack([sigma[:, self.lit == bool(phase)].mean(axis=1) for phase in (0, 1)], axis=1)

    def next_day(self) -> tuple[EnclosureCase, str]:
        """The plan's enclosure in the room as it is on the next day."""
        self.weather = 0.7 * self.weather + self.rng.normal(0, 0.6)
        turn = np.sin(2 * np.pi * self.day / 365)
        self.day += 1
        return in_room(self.plan_case, RoomState(21.5 + 2.5 * turn + self.weather, 19.3 + 2 * turn + self.weather, 50.0))

    def read(self, case: EnclosureCase, season: str) -> Floats:
        """What the instruments show of an enclosure in hourly means."""
        middle = tuple((np.array(case.belief.middle) + self.hidden).tolist())
        true = _shown(replace(case, belief=replace(case.belief, middle=middle)), season, self.where)
        noise = np.array([NOISE[faults.unit_of(one)] for one in self.where])
        return true + self.errors[:, None] + self.rng.normal(0, 1, true.shape) * noise[:, None]

    def judge(self, case: EnclosureCase, season: str, read: Floats) -> list[Suspect]:
        """What is told after a day that ended at midnight."""
        usual = faults.usual_offsets(self.offsets_before[-14:], self.where, self.sigma, self.watts)
        return faults.judge(case, season, self.where, read, usual, HOURS - 1)

    def learn(self, case: EnclosureCase, season: str, read: Floats) -> None:
        """Keep how far this day's readings stood from the model."""
        self.offsets_before.append(faults.daily_offset(read - _shown(case, season, self.where), self.lit))


def _shown(case: EnclosureCase, season: str, where: list[Where]) -> Floats:
    return shown(case, course(case, solve_steady(case, spread=False, seasons=(season,)), season), where)


def settled(seed: int, days: int = 8) -> Simulated:
    """A simulated enclosure that has been read for some days; its lamp and its emitter hang on thermostats."""
    emitter = {"kind": "ceramic-emitter", "watts": 60, "x_m": 0.44, "height_m": 0.38, "guarded": True}
    held = {"kind": "pulse", "set_c": 29.0, "probe": "warm-air"}
    plan = read_data(document(heaters=[*document()["heaters"], emitter | {"thermostat": held}]))
    room = Simulated(enclosure_case(plan), seed)
    for _ in range(days):
        case, season = room.next_day()
        room.learn(case, season, room.read(case, season))
    return room


@pytest.fixture(scope="module")
def rooms() -> list[Simulated]:
    return [settled(seed) for seed in (1, 2, 3)]


@pytest.mark.sweep
def test_without_a_fault_next_to_nothing_is_told(rooms: list[Simulated]) -> None:
    """Three simulated rooms, each for six weeks: at most one call in all of it."""
    told = 0
    for room in rooms:
        for _ in range(45):
            case, season = room.next_day()
            read = room.read(case, season)
            told += bool(room.judge(case, season, read))
            room.learn(case, season, read)
    assert told <= 1


@pytest.mark.sweep
@pytest.mark.parametrize("fault", [Fault.LAMP_DARK, Fault.STUCK_ON, Fault.VENTS_SHUT])
def test_a_fault_of_the_last_eight_hours_is_told_by_its_name(rooms: list[Simulated], fault: Fault) -> None:
    found = []
    for room in rooms:
        case, season = room.next_day()
        _name, heater, broken = next(one for one in faults.possible(case) if one[0] is fault)
        sound, failed = room.read(case, season), room.read(broken, season)
        read = np.where(np.arange(HOURS) >= HOURS - 8 - 4, failed, sound)  # from noon on, with light and dark
        suspects = room.judge(case, season, read)
        found.append(bool(suspects) and suspects[0].fault is fault and suspects[0].heater == heater)
    assert sum(found) >= 2  # of three rooms


def test_what_was_mended_is_no_suspect_any_more(rooms: list[Simulated]) -> None:
    told = []
    for room in rooms:
        case, season = room.next_day()
        _name, _heater, broken = next(one for one in faults.possible(case) if one[0] is Fault.STUCK_ON)
        sound, failed = room.read(case, season), room.read(broken, season)
        hours = np.arange(HOURS)
        told.append(room.judge(case, season, np.where((hours >= 6) & (hours < 12), failed, sound)))
    assert sum(not suspects for suspects in told) >= 2  # of three rooms


def test_one_instrument_that_lies_alone_is_the_instruments_fault(rooms: list[Simulated]) -> None:
    room = rooms[0]
    case, season = room.next_day()
    read = room.read(case, season)
    read[2] += 9.0  # the cool end's thermometer has slipped towards nothing else
    suspects = room.judge(case, season, read)
    assert suspects[0].fault is Fault.INSTRUMENT
    assert suspects[0].place == 2


def test_what_is_always_off_by_the_same_is_no_fault() -> None:
    """A model that errs by three kelvins every day errs by its own line."""
    where = [Where("cool-air")]
    days = [np.array([[3.0, 3.1]]), np.array([[2.9, 3.0]]), np.array([[3.1, 2.9]]), np.array([[3.0, 3.0]])]
    usual = faults.usual_offsets(days, where, np.array([[1.0, 1.0]]), [])
    assert usual.middle == pytest.approx(np.array([[3.0, 3.0]]), abs=0.3)
    assert float(usual.sigma.max()) < 1.0


def test_two_days_make_no_line() -> None:
    usual = faults.usual_offsets([np.array([[3.0, 3.0]])] * 2, [Where("cool-air")], np.array([[1.2, 1.4]]), [])
    assert usual.middle.tolist() == [[0.0, 0.0]]
    assert usual.sigma.tolist() == [[1.2, 1.4]]


def test_readings_that_are_missing_tell_nothing(rooms: list[Simulated]) -> None:
    room = rooms[1]
    case, season = room.next_day()
    assert room.judge(case, season, np.full((len(room.where), HOURS), np.nan)) == []


def test_the_hours_foretold_are_the_days_own_minutes() -> None:
    case = enclosure_case(read_data(document()))
    climate = solve_steady(case, spread=False, seasons=("winter",))
    day = course(case, climate, "winter")
    where = [Where("basking-surface"), Where("water")]
    found = shown(case, day, where)
    assert found[0, 14] == pytest.approx(float(day.basking_surface[14 * 60 : 15 * 60].mean()))
    assert np.isnan(found[1]).all()  # there is no pool
    assert np.isnan(minutes_of(case, day, Where(POWER, None, 7))).all()
    told = foretell(case, "winter", where[:1])
    assert (told.sigma > 0.8).all()  # at least what is unsure of the place itself


BAND = Band(28.0, 32.0, Basis(BasisKind.PRACTICE), danger_high=38.0)


def minutes(count: int, every: int = 5) -> Floats:
    return np.arange(count, dtype=float) * every


def test_out_of_band_is_told_after_an_hour_and_a_danger_after_a_quarter() -> None:
    warm = np.full(20, 35.0)
    assert lines.out_of_band(minutes(8), warm[:8], [BAND] * 8, 5.0) is None
    found = lines.out_of_band(minutes(20), warm, [BAND] * 20, 5.0)
    assert found is not None
    assert (found.high, found.danger, found.minutes) == (True, False, 95.0)
    hot = lines.out_of_band(minutes(4), np.full(4, 41.0), [BAND] * 4, 5.0)
    assert hot is not None
    assert hot.danger


def test_what_is_over_again_or_only_within_the_instruments_doubt_is_not_told() -> None:
    values = np.full(20, 35.0)
    values[-1] = 30.0
    assert lines.out_of_band(minutes(20), values, [BAND] * 20, 5.0) is None
    assert lines.out_of_band(minutes(20), np.full(20, 33.0), [BAND] * 20, 5.0, sure_to=1.5) is None


def test_a_gap_parts_a_stretch_and_unjudged_readings_do_not() -> None:
    when = np.concatenate([minutes(6), 400.0 + minutes(6)])
    assert lines.out_of_band(when, np.full(12, 35.0), [BAND] * 12, 5.0) is None
    bands = [BAND if place % 2 else None for place in range(30)]
    found = lines.out_of_band(minutes(30), np.full(30, 35.0), bands, 5.0)
    assert found is not None


def test_a_logger_is_silent_after_six_of_its_intervals() -> None:
    assert not lines.silent(29.0, 1.0)
    assert lines.silent(31.0, 1.0)
    assert not lines.silent(59.0, 10.0)
    assert lines.silent(61.0, 10.0)


def test_salt_and_ice_are_what_the_tables_say() -> None:
    """Saturated sodium chloride: 75.29 % at 25 °C, 75.47 % at 20 °C (Greenspan 1977, table 2; from memory)."""
    assert over_salt(25.0) == pytest.approx(75.29)
    assert over_salt(20.0) == pytest.approx(75.47)
    found = check(How.SALT, 79.0, "%", room_c=25.0)
    assert found.reads_high == pytest.approx(3.71)
    assert check(How.ICE, 0.9, "degC").reads_high == pytest.approx(0.9)


def test_beside_another_its_doubt_goes_over() -> None:
    found = check(How.BESIDE, 31.4, "degC", true=30.9, true_sure=0.5)
    assert found.reads_high == pytest.approx(0.5)
    assert found.sure_to == pytest.approx(0.5)
    with pytest.raises(ValueError, match="compared"):
        check(How.BESIDE, 31.4, "degC")


def test_what_burns_is_told_though_the_band_itself_is_not_judged_yet() -> None:
    """In the first hours of the light nothing but a danger counts; readings of it end no stretch of the night."""
    morning = Band(None, None, Basis(BasisKind.PRACTICE), danger_high=38.0)
    found = lines.out_of_band(minutes(5), np.full(5, 41.0), [morning] * 5, 5.0)
    assert found is not None
    assert found.danger
    night = Band(20.0, 24.0, Basis(BasisKind.PRACTICE))
    bands = [*([night] * 15), *([morning] * 4)]
    found = lines.out_of_band(minutes(19), np.full(19, 28.0), bands, 5.0)
    assert found is not None
    assert not found.danger
