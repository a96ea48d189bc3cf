"""Every code the core can answer with has words, and no words are left over."""

import ast
import re
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Any, get_args, get_type_hints

import pytest

from husbandry.assess import meal_facts
from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Basis, BasisKind, Finding, Measure, Parameter, Quantity, Reason, Remedy, Severity, Verdict
from husbandry.climate.heaters import HEATERS
from husbandry.codes import FaultCode, FindingCode, ReasonCode, RemedyCode
from husbandry.design import survey
from husbandry.design.rig_scoring import FORBIDDEN
from husbandry.diet import condition, never, salads
from husbandry.diet.prey import CLASSES
from husbandry.feeding.history import Appointment
from husbandry.plan.equipment import Heater, LightBarKind, TubeKind
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.reading import PlanProblems, Problem, read_data
from husbandry.remedies.second_pass import PROPOSERS
from husbandry.species.book import shipped
from ridgeback.book import words as bookwords
from ridgeback.drawing.marks import mark
from ridgeback.home import demo
from ridgeback.language import bodywords, foodwords, names, rotawords, saladwords, wording
from ridgeback.language.advice import FINDINGS
from ridgeback.planner import feeds, solving
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, assessed, document, document_before
from tests.sample import some

ROOT = Path(__file__).resolve().parents[2]
IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")
# Codes put together from parts, spelled out.
COMPOSED: dict[type[StrEnum], set[str]] = {
    FaultCode: {"night_above_cool", "cool_above_warm"},  # put together from two ends
    FindingCode: {f"heat.{end}_{way}" for end in ("warm_air", "cool_air") for way in ("cold", "hot")}
    | {f"diet.{flag}" for flag in meal_facts.FLAGS},
    RemedyCode: {f"heat.move_{end}_{way}" for end in ("warm_air", "cool_air") for way in ("up", "down")}
    | {f"heat.add_{phase}_heater" for phase in ("day", "night")},
    ReasonCode: {"move.gap_before", "move.gap_after"},
}


def room(day_c: float, night_c: float, percent: float) -> RoomClimate:
    winter = RoomCase(day_c=day_c - 5, night_c=night_c - 6, humidity_percent=percent)
    return RoomClimate(summer=RoomCase(day_c=day_c, night_c=night_c, humidity_percent=percent), winter=winter)


ROOMS = [room(24.0, 21.0, 50.0), room(33.0, 30.0, 90.0), room(14.0, 8.0, 20.0)]


# Where in a call the code stands, if it is not the first that is handed over.
CODE_STANDS_AT = {"Problem": 1, "Misplaced": 1, "ProfileProblem": 2}


@cache
def tree(path: Path) -> ast.Module:
    """A module's syntax tree."""
    return ast.parse(path.read_text())


def codes_in(kind: str, folders: tuple[str, ...] = ("husbandry",)) -> set[str]:
    """All literal codes handed to a class of the core, in either branch of a conditional."""
    found = set()
    for folder in folders:
        for path in (ROOT / folder).rglob("*.py"):
            for node in ast.walk(tree(path)) if f"{kind}(" in path.read_text() else ():
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == kind and node.args:
                    place = node.args[min(CODE_STANDS_AT.get(kind, 0), len(node.args) - 1)]
                    branches = [place.body, place.orelse] if isinstance(place, ast.IfExp) else [place]
                    while any(isinstance(branch, ast.IfExp) for branch in branches):
                        nested = [branch for branch in branches if isinstance(branch, ast.IfExp)]
                        branches = [b for b in branches if b not in nested] + [x for n in nested for x in (n.body, n.orelse)]
                    found |= {str(branch.value) for branch in branches if isinstance(branch, ast.Constant)}
    return found


def written(kind: type[StrEnum]) -> set[str]:
    """The members of an enumeration of codes that the program names, with those put together from parts."""
    text = "".join(path.read_text() for folder in ("husbandry", "ridgeback/rota") for path in (ROOT / folder).rglob("*.py"))
    names = set(re.findall(rf"\b{kind.__name__}\.([A-Z0-9_]+)", text))
    return {kind[name].value for name in names} | COMPOSED[kind]


@pytest.mark.parametrize("kind", [FindingCode, RemedyCode, ReasonCode, FaultCode])
def test_every_code_has_words_and_none_lies_unused(kind: type[StrEnum]) -> None:
    words = {
        FindingCode: set(wording.FINDINGS),
        RemedyCode: set(wording.REMEDIES),
        ReasonCode: set(wording.REASONS) | set(rotawords.MOVES),
        FaultCode: set(bookwords.FAULTS),
    }[kind]
    assert set(kind) - words == set()
    assert written(kind) == set(kind)
    if kind is not ReasonCode:  # a reason's words may have variants
        assert words == set(kind)


@pytest.mark.sweep
def test_every_problem_has_words() -> None:
    problems = codes_in("Problem") | codes_in("Misplaced") | codes_in("UnitError", ("husbandry", "ridgeback"))
    assert problems
    assert problems - set(names.PROBLEMS) == set()
    read = codes_in("ProfileProblem")
    assert "not_a_table" in read
    assert read - set(bookwords.PROBLEMS) == set()


def test_every_chore_sign_and_food_never_fed_has_words() -> None:
    """Chores are named where they are made; signs, limits and parts are the core's own lists."""
    made = (ROOT / "husbandry/rota/chores.py").read_text() + (ROOT / "husbandry/rota/card.py").read_text()
    chores = set(re.findall(r'(?:_every|Job|AfterFeeds)\("([a-z-]+)"', made))
    assert len(chores) > 25
    due_by_the_log = set(get_args(get_type_hints(Appointment)["key"]))
    assert chores | due_by_the_log == set(rotawords.JOBS)
    for sign in condition.LOOKED_AT.values():
        assert set(bodywords.SEEN[sign]) == set(condition.SCORES)
    assert {item.food for item in never.NEVER} == set(saladwords.FOODS)
    assert {item.reason for item in never.NEVER} == set(saladwords.REASONS)
    assert set(never.FORAGING) == set(saladwords.FORAGING)
    assert set(salads.GIVES_WAY) == set(saladwords.GAVE_WAY)
    assert set(foodwords.PREY_SIZES) == {name for sizes in CLASSES.values() for name, *_weights in sizes}


@pytest.fixture(scope="module")
def first_plans() -> list[HabitatPlan]:
    """A furnished plan for a grown animal of every species."""
    return [[case for case in survey.cases(profile, TODAY) if not case.school][-2].plan for profile in shipped().values()]


# "23.0 °C; 23.0 °C is the least": what is too little differs from the least, as it stands on the screen.
NO_MISS = re.compile(r"(\d[\d.,]* ?\S*?)(?: [^;.]*)?; \1 is the (?:least|most|limit)")
# What is the program's and not the keeper's: codes, empty brackets, "a adult", "a on/off", "1 days", "1–1", a space too many.
LEAKS = re.compile(
    r"%\(|\bNone\b|[{}]|\('|\(\)|“”|[a-z]_[a-z]|\ba (?=[aeio]\w)(?!one\b|once\b)|\ban (?=[bcdfgjklmnpqrstvwxz]\w)(?!hour)"
    r"|(?<![\d.,–×/ ])(?<!: )\b1 (?!is\b|as\b)[a-z]+s\b|every 1 day|(?<![\d.])([\d.]+)–\1(?![\d.])| ,|\.\.|  "
)


@pytest.mark.sweep
@pytest.mark.parametrize("part", range(4))
def test_whatever_a_plan_is_found_to_be_it_can_be_said(first_plans: list[HabitatPlan], part: int) -> None:
    """Each in a mild, a hot and damp, and a cold and dry room; furnished for two, and with everything taken out."""
    empty = {"heaters": (), "uv_lamps": (), "hides": (), "bowl": None, "platform": None, "animal": Animal()}
    for plan in some(first_plans[part::4], 5):
        for climate in ROOMS:
            two = plan.animal.model_copy(update={"count": 2})
            for changes in ({"animal": two}, empty):
                trial = plan.model_copy(update={"room": climate, **changes})
                found = assess(trial, shipped()[plan.species], TODAY, depth=NO_DAYS)
                for units in (METRIC, IMPERIAL):
                    said_well(found, units)


def said_well(found: Assessment, units: KeeperUnits) -> None:
    """Every finding, remedy, ration and quantity of an assessment is a sentence without a leak."""
    for finding in found.findings:
        sentence = wording.finding(finding, units)
        assert sentence.endswith(".")
        assert LEAKS.search(sentence) is None, sentence
        assert NO_MISS.search(sentence) is None, sentence
        if finding.remedy is not None:
            offered = wording.remedy(finding.remedy, units)
            assert offered
            assert LEAKS.search(offered) is None, offered
    for text in (feeds.ration_text(ration, units) for ration in found.menu.rations):
        assert LEAKS.search(text) is None, text
    for quantity in found.quantities:
        shown = mark(quantity, units)
        assert shown.name
        assert LEAKS.search(f"{shown.said} {shown.why}") is None, shown.said
        assert shown.why.endswith(".")
        assert shown.said.startswith(shown.name)


@pytest.mark.parametrize("units", [METRIC, IMPERIAL], ids=["metric", "imperial"])
@pytest.mark.parametrize(
    ("code", "unit", "value", "low"),
    [
        ("heat.cool_air_cold", "degC", 22.96, 23.0),
        ("heat.cool_air_cold", "degC", 22.7, 23.0),
        ("moisture.dry", "%", 74.6, 75.0),
        ("water.shallow", "m", 0.2996, 0.3),
        ("uv.weak", "UVI", 0.96, 1.0),
    ],
)
def test_a_hair_outside_is_not_told_as_the_limit_itself(units: KeeperUnits, code: str, unit: str, value: float, low: float) -> None:
    told: dict[str, Any] = {
        "value": Measure(value, unit),
        "low": Measure(low, unit),
        "season": "winter",
        "phase": "day",
        "end": "cool",
    }
    said = wording.finding(Finding(FindingCode(code), Severity.ADVICE, "heat", told), units)
    numbers = re.findall(r"\d+(?:\.\d+)?", said)
    assert len(numbers) == 2
    assert float(numbers[0]) < float(numbers[1]), said


def test_a_measure_in_a_sentence_is_in_the_keepers_units() -> None:
    finding = next(item for item in assessed(room__winter__night_c=10.0).findings if item.code == "heat.night_cold")
    assert "°C" in wording.finding(finding, METRIC)
    said = wording.finding(finding, IMPERIAL)
    assert "°F" in said
    assert "°C" not in said


def test_kinds_are_said_in_words_not_in_codes() -> None:
    finding = Finding(
        FindingCode.HEAT_NO_THERMOSTAT, Severity.WRONG, "heat", {"kind": "ceramic-emitter", "watts": Measure(60.0, "W")}
    )
    assert "60 W ceramic emitter" in wording.finding(finding, METRIC)
    remedy = Remedy(RemedyCode.HEAT_CHANGE_THERMOSTAT, {"control": "pulse"})
    assert "pulse" in wording.remedy(remedy, METRIC)


def test_a_source_is_cited_and_its_absence_is_said() -> None:
    cited = wording.basis(Basis(BasisKind.SOURCE, "Baines et al. 2016 (recalled)", "zone 1"))
    assert cited == "Source: Baines et al. 2016 (recalled) (zone 1)"
    assert wording.basis(Basis(BasisKind.PRACTICE)) == "Common practice, no source"


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"enclosure__length_m": 120}, "120 cm"),
        ({"animal__mass_kg": 450.0}, "450 g"),
        ({"room__winter__day_c": 72.0}, "72 °F would be 22.2 °C"),
        ({"heaters__0__x_m": 3.0}, "outside the enclosure, which is 120 cm long"),
        ({"heaters__0__kind": "campfire"}, "“campfire” is not one of"),
        ({"daylight__on": "early"}, "is not a time of day"),
    ],
)
def test_a_faulty_plan_is_answered_in_words(changes: dict[str, object], words: str) -> None:
    with pytest.raises(PlanProblems) as refused:
        read_data(document(**changes))
    assert words in " ".join(wording.problem(problem, METRIC) for problem in refused.value.problems)


def test_a_slip_is_offered_once_where_the_meaning_is_the_same_text() -> None:
    slipped = Problem(
        "ground.depth_m", "too_high", {"value": Measure(8.0, "m"), "limit": Measure(1.0, "m")}, Measure(0.08, "m"), (8.0, "cm")
    )
    assert wording.problem(slipped, METRIC).endswith("Was 8 cm meant?")


def test_a_number_without_a_band_has_a_dash_for_a_verdict() -> None:
    shown = mark(
        Quantity(
            "heat_power",
            "W",
            44.0,
            Verdict.NOT_APPLICABLE,
            Reason(ReasonCode.HEAT_POWER, {"limit": Measure(110.0, "W")}),
            Basis(BasisKind.ESTIMATE),
        ),
        METRIC,
    )
    assert shown.axis is None
    assert shown.aside == "of 110 W"
    assert shown.verdict_text == ""


def test_the_code_cites_no_note_that_does_not_come_with_it() -> None:
    """A reader has only this repository: a check names its book or paper, or says that it is common practice."""
    outside = re.compile("|".join((r"\bJ[012]\d\b", r"\bSCIENCE\b", r"\bJOBS[,:] ?[A-Z(]", r"shared/[A-Z]+\.md")))
    files = [path for part in ("husbandry", "ridgeback", "tests", "docs", "benchmarks") for path in (ROOT / part).rglob("*")]
    found = [
        f"{path.relative_to(ROOT)}:{number}"
        for path in files
        if path.suffix in (".py", ".md", ".html") and path != ROOT / "tests/web/test_words.py"
        for number, line in enumerate(path.read_text().splitlines(), 1)
        if outside.search(line) and "JOBS: Final" not in line
    ]
    assert found == []


def test_no_two_animals_of_the_demo_share_a_name() -> None:
    guests = [guest.animal for guest in demo.GUESTS] + [item["animal"] for item in demo.plans(TODAY)]
    called = [name for animal in guests for name in (animal["name"], *animal.get("others", ()))]
    assert len(called) > 14
    assert len(set(called)) == len(called)


@pytest.mark.parametrize("units", [METRIC, IMPERIAL], ids=["metric", "imperial"])
def test_what_is_wrong_with_a_plan_is_said_to_a_keeper(units: KeeperUnits) -> None:
    """No field's name, no class of the program, no number that is its own limit, no empty quotes, whatever stands there."""
    outdoors = {"day_c": [1, 2, 3], "night_c": [1] * 12, "sun_kwh_m2": [1] * 12}
    hide = {"x_m": 0.1, "length_m": 0.1, "height_m": 0.1}
    wrong: list[dict[str, object]] = [
        {"outdoors": outdoors}, {"name": ""}, {"name": "x" * 200}, {"animal__mass_kg": 0}, {"animal__mass_kg": 1e-9},
        {"enclosure__length_m": 0}, {"enclosure__length_m": 1200}, {"uv_lamps__0__tube_m": 2.01}, {"hides": [hide] * 80},
        {"heaters__0__thermostat": {"kind": "dimming"}}, {"upkeep": {"own": [{"name": "x"}]}}, {"daylight__on": ""},
        {"heaters__0__watts": ""}, {"heaters__0__watts": 0}, {"animal__hatched": ""}, {"animal": []}, {"hides": "many"},
        {"species": 7},
        {"ground__damp": "perhaps"}, {"animal__count": 0}, {"room__winter__curve_c": [1, 2]},
        {"feeding": {"supplements": [{"product": "multivitamin"}]}},
    ]  # fmt: skip
    for changes in wrong:
        with pytest.raises(PlanProblems) as refused:
            read_data(document_before(**changes))
        for problem in refused.value.problems:
            said = wording.problem(problem, units)
            assert said[0] in "“" or said[0].isupper() or said[0].isdigit(), said
            assert said.endswith((".", "?")), said
            assert LEAKS.search(said) is None, said
            assert not re.search(r"(?i)tuple|string|input should|validation|“”|\b(\S+ \S+) is too \w+; \1 is", said), said


def test_what_a_rig_must_not_have_is_what_the_review_can_say() -> None:
    """A code nobody raises forbids nothing: each of them is one the screen has words for."""
    assert set(FORBIDDEN) <= set(FINDINGS)
    assert set(PROPOSERS) <= set(FINDINGS)


@pytest.mark.parametrize(("y_m", "said"), [(None, "20 cm from the left"), (0.37, "20 cm from the left, 37 cm from the front")])
def test_a_rig_says_how_far_from_the_front_what_is_not_midway_hangs(y_m: float | None, said: str) -> None:
    """A tube beside the lamps would be hung through them by whoever goes by the table."""
    heater = Heater(kind="ceramic-emitter", watts=40.0, x_m=0.2, y_m=y_m, height_m=0.4)
    assert solving.heater_text(heater, METRIC)["where"].endswith(said)


@pytest.mark.parametrize(
    "kind",
    [*(kind for kind, made in HEATERS.items() if made.place in ("over", "air")), *get_args(TubeKind), *get_args(LightBarKind)],
)
def test_every_part_that_may_hang_in_the_water_has_a_name_there(kind: str) -> None:
    told: dict[str, Parameter] = {"kind": kind, "value": Measure(0.2, "m"), "high": Measure(0.3, "m")}
    said = wording.finding(Finding(FindingCode.HEAT_IN_WATER, Severity.DANGER, "heat", told), KeeperUnits())
    called = {str(text) for group in ("heater", "tube", "light_bar") for key, text in names.CHOICES[group].items() if key == kind}
    assert any(name in said for name in called), said
