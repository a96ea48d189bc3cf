"""What is found wrong with a habitat, and what each button would change, word for word: a record that is read when it changes.

The record is `told/findings.txt`: of each habitat below every finding with its numbers, and the edits of its remedy; and
`told/tried.txt`: of some, what is tried instead before a button is offered. When a rule or a model is changed on purpose,
`RIDGEBACK_TEST=write pytest tests/core/test_findings_told.py` writes them anew; what has changed then is what the change does to
keepers, and is looked through line by line before it is kept. Numbers stand with three figures, so that a model that is a
little better does not change every line.
"""

import difflib
import json
import os
from collections.abc import Callable
from itertools import islice
from pathlib import Path
from typing import Any

import pytest

from husbandry.assess.assess import Records, assess
from husbandry.assess.candidates import candidates
from husbandry.assess.result import Assessment
from husbandry.assessment import Finding, Measure, Parameter, Read, Remedy
from husbandry.codes import FindingCode
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from tests.plans import DARK_BY_DAY, NO_DAYS, TODAY, document

TOLD = Path(__file__).parent / "told"
FINDINGS, TRIED = TOLD / "findings.txt", TOLD / "tried.txt"
MOST_TRIED = 5  # of the changes that are tried for one finding, in their order
HIDE: dict[str, Any] = {"x_m": 0.5, "length_m": 0.18, "height_m": 0.08}
MAT: dict[str, Any] = {"kind": "mat", "watts": 20.0, "x_m": 0.3, "height_m": 0.01, "length_m": 0.4}
BARE: dict[str, Any] = {"hides": [], "uv_lamps": [], "platform": None, "schools": {}}
SNAKE = BARE | {"species": "corn-snake", "animal": {"mass_kg": 0.5, "length_m": 1.2}}
FROG = BARE | {"species": "dart-frog", "animal": {"length_m": 0.035}, "heaters": []}
TREE_FROG = BARE | {"species": "red-eyed-tree-frog", "animal": {"length_m": 0.06}, "enclosure__height_m": 0.9}
TORTOISE = BARE | {"species": "russian-tortoise", "animal": {"length_m": 0.15, "mass_kg": 0.6}}
TURTLE = BARE | {"species": "musk-turtle", "animal": {"length_m": 0.1, "mass_kg": 0.2}, "heaters": [], "bowl": None}
AXOLOTL = BARE | {"species": "axolotl", "animal": {"length_m": 0.22}, "heaters": [], "bowl": None}
DAY_GECKO = BARE | {"species": "giant-day-gecko", "animal": {"length_m": 0.12}, "enclosure__height_m": 0.9}
SALAMANDER = BARE | {"species": "fire-salamander", "animal": {"length_m": 0.18}, "heaters": []}
BELOW = SNAKE | {"schools": {"heat": "mat"}, "bowl": None}
ON_THE_MAT = {"kind": "pulse", "probe": "mat", "set_c": 34.0}
IN_THE_AIR = {"kind": "pulse", "probe": "cool-air", "set_c": 22.0}
FLOOD: dict[str, Any] = {"kind": "reflector-flood", "watts": 60.0, "x_m": 0.3, "height_m": 0.38, "guarded": True}
SPOT: dict[str, Any] = FLOOD | {"kind": "reflector-spot", "watts": 50.0}
COOL_END: dict[str, Any] = DARK_BY_DAY | {"x_m": 0.9, "on": "20:00", "off": "08:00"}
TUBE: dict[str, Any] = {"kind": "slim-12", "tube_m": 0.55, "x_m": 0.3, "height_m": 0.4, "fitted": "2026-10-01"}
WATER_HEATER: dict[str, Any] = {"kind": "water-heater", "watts": 200.0, "x_m": 0.6, "height_m": 0.05, "guarded": True}
TEGU: dict[str, Any] = {
    "species": "argentine-tegu",
    "animal": {"length_m": 1.1, "mass_kg": 3.5},
    "enclosure__length_m": 2.4,
    "enclosure__width_m": 1.2,
    "enclosure__height_m": 1.2,
    "heaters": [FLOOD | {"watts": 100.0, "x_m": 0.6, "height_m": 1.1}],
}
SUNK = {"kind": "tube-heater", "watts": 60.0, "x_m": 0.6, "height_m": 0.12, "length_m": 0.3, "guarded": True}
POOL = {"x_m": 0.6, "length_m": 1.0, "depth_m": 0.3}
ROOM_HOT = {"room__summer__day_c": 31.0, "room__summer__night_c": 28.0}
CALCIUM_D3 = {"product": "calcium with D3", "calcium_percent": 30.0}
DUSTED = {"feeding__supplements": [{"product": "calcium with D3", "every_feeds": 1}]}
ROOM_COLD = {"room__winter__day_c": 15.0, "room__winter__night_c": 9.0}

HABITATS: dict[str, dict[str, Any]] = {
    "the good one": {},
    "a box for a mouse": {"enclosure__length_m": 0.4, "enclosure__width_m": 0.28, **BARE, "heaters": [], "bowl": None},
    "no hides": {"hides": []},
    "a hide past the wall": {"hides": [HIDE | {"x_m": 1.18}]},
    "a hide too tall, one beside it": {"hides": [HIDE | {"height_m": 2.0}, HIDE | {"x_m": 0.55, "y_m": 0.2}]},
    "a hide under the lamp": {"hides": [HIDE | {"x_m": 0.26, "height_m": 0.25}]},
    "no guard and no thermostat": {"heaters__0__guarded": False, "heaters__0__thermostat": {"kind": "none"}},
    "a pulse thermostat on a lamp": {"heaters__0__thermostat__kind": "pulse"},
    "a lamp too near": {"heaters__0__height_m": 0.2},
    "a lamp too weak": {"heaters__0__watts": 25.0},
    "a lamp at night": {"heaters__0__on": "20:00", "heaters__0__off": "08:00"},
    "a basking place under no lamp": {"heaters__0__x_m": 0.9},
    "a tube behind glass": {"uv_lamps__0__behind_glass": True},
    "a tube too strong": {"uv_lamps__0__kind": "slim-12"},
    "an old tube": {"uv_lamps__0__fitted": "2026-01-01"},
    "no tube": {"uv_lamps": []},
    "light until eleven": {"daylight__off": "23:00"},
    "light by a year that is not its own": {"year": {"mode": "latitude", "latitude_deg": 60.0}},
    "a cold room": ROOM_COLD,
    "a hot room": ROOM_HOT,
    "a dry room": {"room__winter__humidity_percent": 15.0},
    "a damp ground": {"ground__damp": True},
    "a shallow ground": {"ground__depth_m": 0.02},
    "an open top": {"enclosure__lid": "open"},
    "a mesh lid": {"enclosure__lid": "mesh", "misting__grams_per_day": 10.0},
    "three of them": {"animal__count": 3},
    "fed each day, by a menu": {"feeding__interval_days": 1},
    "in quarantine on soil": {"upkeep": {"quarantine_until": "2027-01-10"}},
    "a mat under a snake, no thermostat": SNAKE | {"heaters": [MAT]},
    "a mat under deep ground": SNAKE | {"heaters": [MAT], "ground__depth_m": 0.12},
    "a snake without any heat": SNAKE | {"heaters": []},
    "a snake with a small bowl and cooled air": SNAKE | {"bowl": {"x_m": 0.9, "diameter_m": 0.06}, **ROOM_COLD},
    "an emitter by day": SNAKE | {"heaters": [DARK_BY_DAY]},
    "a dry frog": FROG,
    "a frog in a deep bowl": FROG | {"bowl": {"x_m": 0.9, "diameter_m": 0.1, "depth_m": 0.06}},
    "a frog under a lamp": FROG | {"heaters": [{"kind": "reflector-flood", "watts": 60.0, "x_m": 0.3, "height_m": 0.35}]},
    "a tree frog without a branch": TREE_FROG,
    "a tortoise under no lamp": TORTOISE | {"heaters": []},
    "a tortoise in a dark box": TORTOISE,
    "a turtle in little water": TURTLE | {"pool": POOL | {"depth_m": 0.12}},
    "a turtle in cold water": TURTLE | {"pool": POOL | {"filtered": True}, **ROOM_COLD},
    "a tube heater in a turtle's water": TURTLE | {"pool": POOL | {"filtered": True}, "heaters": [SUNK]},
    "an axolotl in a hot room": AXOLOTL | {"pool": POOL | {"filtered": True}, **ROOM_HOT},
    "an axolotl in still water": AXOLOTL | {"pool": POOL},
    "a day gecko in a bare box": DAY_GECKO,
    "a salamander in a hot room": SALAMANDER | ROOM_HOT,
    "a snake to be warmed from below, with no mat": BELOW | {"heaters": []},
    "a snake on a mat whose probe hangs in the air": BELOW | {"heaters": [MAT | {"thermostat": IN_THE_AIR}]},
    "a snake on a mat set too low": BELOW | {"heaters": [MAT | {"thermostat": ON_THE_MAT | {"set_c": 26.0}}]},
    "a snake on a mat set too high": BELOW | {"heaters": [MAT | {"thermostat": ON_THE_MAT | {"set_c": 44.0}}]},
    "a snake on a mat below deep loam": BELOW | {"heaters": [MAT | {"thermostat": ON_THE_MAT}], "ground__depth_m": 0.15},
    "a snake on a weak mat in a cold room": BELOW | ROOM_COLD | {"heaters": [MAT | {"watts": 5.0, "thermostat": ON_THE_MAT}]},
    "a snake on a mat under a lamp it does not want": BELOW | {"heaters": [MAT | {"thermostat": ON_THE_MAT}, FLOOD]},
    "a snake on a weak mat under thin paper": BELOW
    | ROOM_COLD
    | {"heaters": [MAT | {"watts": 5.0, "thermostat": ON_THE_MAT}], "ground": {"kind": "paper", "depth_m": 0.005}},
    "a mesh lid in a dry room": DAY_GECKO | {"enclosure__lid": "mesh", "room__winter__humidity_percent": 20.0},
    "a covered lid over wet ground": TREE_FROG | {"enclosure__lid": "mesh", "enclosure__lid_covered": 0.95, "ground__damp": True},
    "a mister too generous": {"misting": {"grams_per_day": 400.0}},
    "a mister too generous in winter alone": {"misting": {"grams_per_day": 0.0, "winter": {"grams_per_day": 400.0}}},
    "a tortoise under one narrow spot": TORTOISE | {"heaters": [SPOT], "animal": {"length_m": 0.2, "mass_kg": 1.4}},
    "a tegu under one lamp": BARE | TEGU,
    "a lamp too strong to be hung right": {"heaters__0__watts": 240.0, "heaters__0__thermostat": {"kind": "none"}},
    "two lamps, both hot": {"heaters": [FLOOD | {"watts": 100.0}, FLOOD | {"watts": 100.0, "x_m": 0.5}]},
    "a tube for an hour": {"uv_lamps__0__on": "12:00", "uv_lamps__0__off": "13:00"},
    "a tube at dusk for a keeper who goes by dusk": {"schools": {"uvb": "shade", "uvb-hours": "dusk"}},
    "a short tube": {"uv_lamps__0__tube_m": 0.2, "schools": {"uvb": "shade"}},
    "a tortoise under a short tube": TORTOISE | {"uv_lamps": [TUBE | {"tube_m": 0.24}]},
    "a tortoise under a tube of all its length": TORTOISE | {"uv_lamps": [TUBE | {"tube_m": 1.15, "x_m": 0.6}]},
    "a tube far from the lamp": {"uv_lamps__0__x_m": 0.9},
    "hides at the wrong ends": {
        "hides": [HIDE | {"x_m": 1.05}, HIDE | {"x_m": 0.85, "y_m": 0.4}, HIDE | {"x_m": 0.65, "humid": True}]
    },
    "hides too small": {"hides": [HIDE | {"length_m": 0.07, "height_m": 0.03}, HIDE | {"x_m": 1.0, "length_m": 0.07}]},
    "a heavy stone on loose ground over a hide": {"platform": {"kind": "slate", "x_m": 0.5, "length_m": 0.3, "height_m": 0.12}},
    "a bowl for a bath": {"bowl": {"x_m": 0.89, "diameter_m": 0.3, "depth_m": 0.12}},
    "a wall of glass in the sun": {"window": {"watts": 120.0, "on": "09:00", "off": "15:00"}},
    "an emitter that burns by night at the cool end": {"heaters__1": COOL_END} | ROOM_COLD,
    "a young one, grown large": {"animal": {"hatched": "2026-09-01", "mass_kg": 0.07, "length_m": 0.13}},
    "weighed never": {"animal": {"hatched": "2026-10-15"}},
    "a pair of rivals": {"animal__count": 2, "animal__males": 2},
    "a toad's water unfiltered and warm": AXOLOTL | {"pool": POOL | {"depth_m": 0.1}, **ROOM_HOT},
    "a turtle heated too far": TURTLE | {"pool": POOL | {"filtered": True}, "heaters": [WATER_HEATER]},
    "a lip lower than the ground": {"enclosure__opens": "front", "enclosure__sill_m": 0.04},
    "two tubes, both too strong": {"uv_lamps": [TUBE, TUBE | {"x_m": 0.5}]},
    "an axolotl without water": AXOLOTL,
    "a turtle without water": TURTLE,
    "a day gecko by the year of the far north": DAY_GECKO | {"year": {"mode": "latitude", "latitude_deg": 65.0}},
    "an axolotl by the year of the far north": AXOLOTL | {"year": {"mode": "latitude", "latitude_deg": 65.0}},
    "a snake by the year of the far north": SNAKE | {"year": {"mode": "latitude", "latitude_deg": 65.0}},
    "a salamander with a thimble for a bowl, at the wall": SALAMANDER
    | {"bowl": {"x_m": 0.03, "diameter_m": 0.04, "depth_m": 0.01}},
    "a snake whose bowl runs over when it lies in it": SNAKE
    | {"bowl": {"x_m": 0.9, "diameter_m": 0.2, "depth_m": 0.06}, "animal": {"mass_kg": 1.1, "length_m": 1.5}},
    "a tree frog with a shallow bowl": TREE_FROG | {"bowl": {"x_m": 0.9, "diameter_m": 0.16, "depth_m": 0.01}},
    "a gecko never dusted": {"feeding__supplements": []},
    "a tortoise never dusted": TORTOISE | {"feeding__supplements": []},
    "a turtle without a way out": TURTLE | {"pool": POOL | {"filtered": True, "depth_m": 0.35}, "enclosure__lid": "open"},
    "older than any gecko": {"animal": {"hatched": "1960-01-01"}},
    "wasted": {"feeding": {"condition": 1}},
    "obese": {"feeding": {"condition": 5}},
    "thin on the keeper's own ration": {"feeding": {"condition": 2, "items": [{"food": "cricket", "count": 6}]}},
    "a tortoise fed on spinach": TORTOISE | {"feeding": {"items": [{"food": "spinach", "grams": 60.0}]}},
    "a tortoise fed on apples": TORTOISE | {"feeding": {"items": [{"food": "apple", "grams": 40.0}]}},
    "a turtle fed on mealworms alone": TURTLE | {"pool": POOL, "feeding": {"items": [{"food": "mealworm", "count": 10}]}},
    "a snake fed on fish that destroys thiamin": SNAKE
    | {"species": "garter-snake", "feeding": {"items": [{"food": "thiaminase-fish", "grams": 10.0}]}},
    "prey too large by a ruler": {"feeding": {"measured_m": 0.004, "items": [{"food": "cricket", "count": 6, "each_g": 0.9}]}},
    "a strong powder of D3": DUSTED | {"feeding__labels": [CALCIUM_D3 | {"d3_iu_per_kg": 1e6}]},
    "a strong powder of A": DUSTED | {"feeding__labels": [CALCIUM_D3 | {"a_iu_per_kg": 4e6}]},
    "warm air that was read cold": {},
    "UV that was read weak": {},
    "UV that was read strong": {},
    "cool air that was read hot": {},
    "fat on the keeper's own ration": {"feeding": {"condition": 4, "items": [{"food": "cricket", "count": 6}]}},
    "three males that fight": FROG | {"animal": {"length_m": 0.035, "count": 3, "males": 3}},
    "a little sun through the window": {"window": {"watts": 5.0, "on": "09:00", "off": "11:00"}},
    "so small a mouth that powder outweighs the prey": {"feeding": {"measured_m": 0.004}},
}
# What was read there, where anything was: the quantity's id and its value.
READ = {
    "warm air that was read cold": ("warm_air/summer/day", 20.0),
    "UV that was read weak": ("uv_back", 0.05),
    "UV that was read strong": ("uv_back", 6.0),
    "cool air that was read hot": ("cool_air/summer/day", 35.0),
}
# Habitats that other tests are about, as whole documents: of each finding that none of those above has, one at least.
DOCUMENTS: dict[str, dict[str, Any]] = json.loads((TOLD / "habitats.json").read_text())

# Those of which it is also kept what is tried: each has findings whose change is searched for.
TRIED_FOR = (
    "a box for a mouse", "a hide past the wall", "a hide under the lamp", "no guard and no thermostat", "a lamp too weak",
    "a basking place under no lamp", "a cold room", "a hot room", "a snake without any heat", "a tree frog without a branch",
    "a turtle in cold water", "an axolotl in a hot room", "a snake on a weak mat under thin paper",
    "a tortoise under one narrow spot", "two lamps, both hot", "a lamp too strong to be hung right",
    "hides at the wrong ends", "a turtle heated too far",
    "a turtle without a way out", "a mesh lid in a dry room",
)  # fmt: skip


def number(value: float) -> str:
    return f"{value:.3g}"


def said(value: Parameter) -> str:
    if isinstance(value, Measure):
        return f"{number(value.value)} {value.unit}"
    return value if isinstance(value, str) else number(value)


def plain(value: Any) -> str:
    """A new value of a plan's, with the numbers in it by three figures."""
    if isinstance(value, dict):
        return "{" + ", ".join(f"{name}: {plain(one)}" for name, one in sorted(value.items()) if one is not None) + "}"
    if isinstance(value, list | tuple):
        return "[" + ", ".join(map(plain, value)) + "]"
    return number(value) if isinstance(value, float) else str(value)


def offer(remedy: Remedy) -> list[str]:
    told = [f"{name}={said(value)}" for name, value in sorted(remedy.parameters.items())]
    return [
        " ".join(["    ->", remedy.code.value, *told]),
        *(f"       {change.path} = {plain(change.value)}" for change in remedy.changes),
    ]


def lines(finding: Finding) -> list[str]:
    told = [f"{name}={said(value)}" for name, value in sorted(finding.parameters.items())]
    also = [f"also {finding.also.value}"] if finding.also else []
    found = [" ".join([finding.id, finding.severity.value, finding.step, *also, *told])]
    return found if finding.remedy is None else found + offer(finding.remedy)


def looked_at(name: str) -> tuple[HabitatPlan, Assessment]:
    made = read_data(DOCUMENTS[name] if name in DOCUMENTS else document(**HABITATS[name]))
    read = {READ[name][0]: Read(READ[name][1], 0.3, 3, TODAY.isoformat())} if name in READ else {}
    return made, assess(made, find(made.species), TODAY, Records(read=read), depth=NO_DAYS)


def findings(name: str) -> list[str]:
    """What is found, each with the change that the rules propose."""
    found = sorted(looked_at(name)[1].findings, key=lambda one: one.id)
    return [f"== {name}", *(line for finding in found for line in lines(finding)), ""]


def tried(name: str) -> list[str]:
    """What is tried for each finding, where it is more than what was proposed."""
    if name not in TRIED_FOR:
        return []
    made, assessment = looked_at(name)
    told = [f"== {name}"]
    for finding in sorted(assessment.findings, key=lambda one: one.id):
        offers = list(islice(candidates(made, find(made.species), finding, assessment), MOST_TRIED))
        if offers not in ([], [finding.remedy]):
            told += [finding.id, *(line for one in offers for line in offer(one))]
    return [*told, ""] if len(told) > 1 else []


@pytest.mark.sweep
@pytest.mark.parametrize(("record", "tell"), [(FINDINGS, findings), (TRIED, tried)])
def test_what_is_found_and_tried_is_what_the_record_says(record: Path, tell: Callable[[str], list[str]]) -> None:
    told = [line for name in (*HABITATS, *DOCUMENTS) for line in tell(name)]
    if os.environ.get("RIDGEBACK_TEST") == "write":
        record.write_text("\n".join(told) + "\n")
    changed = list(difflib.unified_diff(record.read_text().splitlines(), told, "the record", "now", lineterm="", n=1))
    assert not changed, "\n".join(changed[:60])


# Of set-ups that were told alone, of profiles that the book has none of, of logs; tested where those are.
ELSEWHERE = {
    "measured.no_thermometer", "diet.undusted", "diet.no_rest_known", "moisture.hide_dry", "diet.rest_losing", "diet.rest_lost",
    "plant.scorched", "plant.hot", "diet.calcium_short_food",
}  # fmt: skip


def test_the_record_tells_of_every_finding() -> None:
    told = {line.split()[0].partition(":")[0] for line in FINDINGS.read_text().splitlines() if line[:1].isalpha()}
    assert {code.value for code in FindingCode} - told == ELSEWHERE


@pytest.mark.parametrize("name", ["a snake without any heat", "a turtle in cold water", "two lamps, both hot"])
def test_no_change_is_tried_twice(name: str) -> None:
    """Trials are counted: one that was made already takes the place of another."""
    made, assessment = looked_at(name)
    for finding in assessment.findings:
        offers = [offer.changes for offer in candidates(made, find(made.species), finding, assessment)]
        assert len(offers) == len({repr(changes) for changes in offers}), finding.id


@pytest.mark.parametrize("name", ["no hides", "a cold room", "a turtle in little water"])
def test_the_record_tells_of_a_number_that_changed(name: str) -> None:
    """It would be of no use if it could not fail: one degree or centimetre more in a finding changes its line."""
    (finding, *_others) = (item for item in looked_at(name)[1].findings if item.parameters)
    more = {
        key: Measure(value.value + 1, value.unit) if isinstance(value, Measure) else "x"
        for key, value in finding.parameters.items()
    }
    assert lines(finding) != lines(Finding(finding.code, finding.severity, finding.step, more, finding.remedy))
