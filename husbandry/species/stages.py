"""Which life stage an animal is in, and what decided it."""

from dataclasses import dataclass
from typing import Final

from husbandry.species.leaves import Range
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import DAYS_A_MONTH

# By how much of a bound a measure may lie outside the stage that another one decides, and agree with it all the same (estimates).
SLACK: Final = {"age": 0.4, "mass": 0.35, "length": 0.12}
# The longest lives on record, rounded up (from memory); nothing kept is older.
OLDEST_YEARS: Final = {"tortoise": 190, "turtle": 120, "snake": 60, "lizard": 60, "frog": 60, "salamander": 60}


@dataclass(frozen=True)
class StageDecision:
    """The stage, the measure that decided it, and what each known measure would have said.

    `decided_by` is "age", "mass", "length", or "" when nothing was known and the youngest stage stands in. `indications` has the
    stage of each measure that is known; it is `disputed` where one of them lies clearly outside the stage that was found.
    """

    stage: Stage
    decided_by: str
    indications: dict[str, str]
    disputed: bool = False


def decide_stage(profile: Profile, *, age_days: float | None, mass_kg: float | None, length_m: float | None) -> StageDecision:
    """Find the stage. Each stage says which measure leads; the first stage whose leading measure is known and fits wins.

    Where no leading measure is known, any known one decides, in the order mass, length, age; where no stage has bounds for it (a
    keeper's own profile may lack them), weight stands for the length expected of it, and length for the weight. Where nothing
    decides it is the youngest stage, and the plan asks. Age in days, mass in kg, length in m by the species' own
    measure. Each may be None.
    """
    known = {
        "age": None if age_days is None else age_days / DAYS_A_MONTH,
        "mass": None if mass_kg is None else mass_kg * 1000,
        "length": None if length_m is None else length_m * 100,
    }
    indications = {}
    for measure, value in known.items():
        if value is None:
            continue
        fitting = [stage for stage in profile.stages if (bounds := stage.bounds(measure)) and _within(value, bounds)]
        if fitting:
            indications[measure] = fitting[0].id
    decided = _decided(profile, indications)
    if decided is not None:
        stage, measure = decided
        return StageDecision(stage, measure, indications, any(_clearly_outside(stage, name, known[name]) for name in indications))
    by_growth = _by_expected(profile, mass_kg, length_m)
    if by_growth is not None:
        stage, measure = by_growth
        return StageDecision(stage, measure, {measure: stage.id})
    return StageDecision(profile.stages[0], "", indications)


def _decided(profile: Profile, indications: dict[str, str]) -> tuple[Stage, str] | None:
    """The stage, and the measure that decides it: the leading one, else mass, length, age; None where none is known."""
    for stage in profile.stages:
        if indications.get(stage.leads) == stage.id:
            return stage, stage.leads
    measure = next((measure for measure in ("mass", "length", "age") if measure in indications), None)
    return None if measure is None else (profile.stage(indications[measure]), measure)


def _clearly_outside(stage: Stage, measure: str, value: float | None) -> bool:
    """Tell whether a measure contradicts a stage: animals that are kept alike differ by so much, and nobody is asked about it."""
    bounds, slack = stage.bounds(measure), SLACK[measure]
    if bounds is None or value is None:
        return False
    low, high = (None if edge is None else edge * by for edge, by in ((bounds.low, 1 - slack), (bounds.high, 1 + slack)))
    return (low is not None and value < low) or (high is not None and value >= high)


def _by_expected(profile: Profile, mass_kg: float | None, length_m: float | None) -> tuple[Stage, str] | None:
    """The stage by the body that is expected, where no stage goes by what was measured; with the measure that was."""
    for measure, other, value in (
        ("mass", "length", None if mass_kg is None else 100 * expected_length_m(profile, mass_kg)),
        ("length", "mass", None if length_m is None else 1000 * expected_mass_kg(profile, length_m)),
    ):
        if value is None:
            continue
        for stage in profile.stages:
            bounds = stage.bounds(other)
            if bounds is not None and _within(value, bounds):
                return stage, measure
    return None


def _within(value: float, bounds: Range) -> bool:
    return (bounds.low is None or value >= bounds.low) and (bounds.high is None or value < bounds.high)


def expected_length_m(profile: Profile, mass_kg: float, sex: str = "unknown") -> float:
    """Estimate the body length (m, the species' measure) from mass by the power of length through hatching and adult size."""
    adult = profile.body.adult(sex)
    share = mass_kg * 1000 / adult.mass_g.middle
    return float(adult.length_cm.middle / 100 * share ** (1 / profile.body.length_mass_exponent(sex)))


def expected_mass_kg(profile: Profile, length_m: float, sex: str = "unknown") -> float:
    """Estimate the mass (kg) from body length (m, the species' measure) by the same power law."""
    adult = profile.body.adult(sex)
    share = length_m * 100 / adult.length_cm.middle
    return float(adult.mass_g.middle / 1000 * share ** profile.body.length_mass_exponent(sex))
