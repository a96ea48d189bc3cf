"""Blind calibration: hidden enclosures are read at six places and times, and foretold where and when they were not read.

Run by hand: `OPENBLAS_NUM_THREADS=1 PYTHONPATH=. .venv-test/bin/python benchmarks/blind.py 40`. Its table stands in docs/models.md.

A hidden enclosure has all ten uncertain parameters drawn from their priors, and its lamps' UV drawn too. A keeper takes six
readings, each with the error of a compared instrument, and one of the UV index. The calibrated model then foretells every place at
times that were not read, in a room three kelvin colder; beside it stands what the book alone says.
"""

import sys
from dataclasses import replace

import numpy as np

from husbandry.climate.calibrate import Reading, calibrate, places_of, read
from husbandry.climate.case import EnclosureCase, RoomState
from husbandry.climate.day import course
from husbandry.climate.daycourse import DayCourse
from husbandry.climate.parameters import PARAMETERS, Belief, Variation, variation
from husbandry.climate.steady import solve_steady
from husbandry.light.ultraviolet import STRENGTH_SIGMA, strength_read
from tests.core.test_day import DAMP
from tests.core.test_enclosures import DIMMED, GLASS, MESH, PVC

CASES = {
    "box, lamp without thermostat": PVC,
    "box, dimmed": DIMMED,
    "glass under mesh": GLASS,
    "damp glass": DAMP,
    "mesh cage": MESH,
}
BY_DAY = (("basking-surface", 16), ("warm-air", 16), ("cool-air", 16), ("cool-humidity", 15))
READ = (*BY_DAY, ("cool-air", 23), ("basking-surface", 21))
NOISE = {"degC": 0.4, "%": 2.5}
UV_NOISE = 0.07
UNSEEN_MINUTES = (7 * 60, 10 * 60, 13 * 60, 19 * 60 + 30, 22 * 60, 3 * 60)
KINDS = {"air and ground": 1.0, "basking surface": 1.0, "humidity": 5.0}
SEASON = "winter"


def kind_of(place: str) -> str:
    return "basking surface" if place == "basking-surface" else "humidity" if "humid" in place else "air and ground"


def day_of(case: EnclosureCase, room: RoomState, vary: Variation | None = None, belief: Belief | None = None) -> DayCourse:
    stood = replace(case, rooms={SEASON: room}, belief=belief or Belief())
    return course(stood, solve_steady(stood, spread=False, seasons=(SEASON,)), SEASON, vary)


def one(case: EnclosureCase, rng: np.random.Generator) -> tuple[dict[str, list[float]], dict[str, list[float]]]:
    """The errors of the calibrated and of the book's model by kind, over places and times not read."""
    truth = variation(rng.standard_normal((1, len(PARAMETERS))))
    here, colder = RoomState(21.0, 21.0, 50.0), RoomState(18.0, 18.0, 50.0)
    day = day_of(case, here, truth)
    taken = []
    for place, hour in READ:
        unit = "%" if "humid" in place else "degC"
        value = float(read(day, case, place)[hour * 60 - 1]) + rng.normal(0.0, NOISE[unit])
        taken.append(Reading(place, hour * 60, value, NOISE[unit], here.day_c, here.humidity_percent))
    belief = calibrate(replace(case, rooms={SEASON: here}), tuple(taken)).belief
    real = day_of(case, colder, truth)
    errors: tuple[dict[str, list[float]], ...] = ({}, {})
    for found, said in zip(errors, (day_of(case, colder, belief=belief), day_of(case, colder)), strict=True):
        for place in places_of(case):
            apart = read(said, case, place) - read(real, case, place)
            found.setdefault(kind_of(place), []).extend(abs(float(apart[minute - 1])) for minute in UNSEEN_MINUTES)
    return errors


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 40
    rng = np.random.default_rng(20261128)
    print(f"{count} hidden enclosures of each kind; share within 1 K, or 5 % of humidity: calibrated (by the book)")
    whole: tuple[dict[str, list[float]], ...] = ({}, {})
    for name, case in CASES.items():
        ours: tuple[dict[str, list[float]], ...] = ({}, {})
        for _ in range(count):
            for sums, errors in zip(ours, one(case, rng), strict=True):
                for kind, values in errors.items():
                    sums.setdefault(kind, []).extend(values)
        for total, part in zip(whole, ours, strict=True):
            for kind, values in part.items():
                total.setdefault(kind, []).extend(values)
        print(f"{name:32}" + "; ".join(told(ours, kind) for kind in KINDS))
    print(f"{'all':32}" + "; ".join(told(whole, kind) for kind in KINDS))
    factors = np.maximum(1 + STRENGTH_SIGMA * rng.standard_normal(2000), 0.2)
    readings = factors * (1 + UV_NOISE * rng.standard_normal(2000))
    said = np.array([strength_read([(float(one), UV_NOISE * float(one))])[0] for one in readings])
    print(f"UV index elsewhere, within 15 %: {100 * np.mean(np.abs(said / factors - 1) < 0.15):.0f} %")


def told(parts: tuple[dict[str, list[float]], ...], kind: str) -> str:
    ours, book = (np.array(part[kind]) for part in parts)
    return f"{kind} {100 * np.mean(ours < KINDS[kind]):.0f} % ({100 * np.mean(book < KINDS[kind]):.0f} %)"


if __name__ == "__main__":
    main()
