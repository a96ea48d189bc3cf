"""Which life stage an animal is in, and what decided it."""

from dataclasses import dataclass
from typing import Final

from husbandry.species.leaves import Range
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import DAYS_A_MONTH

# The longest lives on record, rounded up (from memory); nothing kept is older.
OLDEST_YEARS: Final = {"tortoise": 190, "turtle": 120, "snake": 60, "lizard": 60, "frog": 60, "salamander": 60}


@dataclass(frozen=True)
class StageDecision:
    """The stage, the measure that decided it, and what each known measure would have said.

    `decided_by` is "age", "mass", "length", or "" when nothing was known and the oldest stage stands in.
    """

    stage: Stage
    decided_by: str
    indications: dict[str, str]

    @property
    def disputed(self) -> bool:
        return len(set(self.indications.values())) > 1


def decide_stage(profile: Profile, *, age_days: float | None, mass_kg: float | None, length_m: float | None) -> StageDecision:
    """Find the stage. Each stage says which measure leads; the first stage whose leading measure is known and fits wins.

    Where no leading measure is known, any known one decides, in the order mass, length, age; where no stage has bounds for it,
    weight stands for the length expected of it, and length for the weight. Age in days, mass in kg, length in m by the
    species' own measure. Each may be None.
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
    for stage in profile.stages:
        if indications.get(stage.leads) == stage.id:
            return StageDecision(stage, stage.leads, indications)
    for measure in ("mass", "length", "age"):
        if measure in indications:
            return StageDecision(profile.stage(indications[measure]), measure, indications)
    by_growth = _by_expected(profile, mass_kg, length_m)
    if by_growth is not None:
        stage, measure = by_growth
        return StageDecision(stage, measure, {measure: stage.id})
    return StageDecision(profile.stages[-1], "", indications)


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
    """Estimate the body length (m, the species' measure) from mass by the length–mass power law through adult size."""
    adult = profile.body.adult(sex)
    share = mass_kg * 1000 / adult.mass_g.middle
    return float(adult.length_cm.middle / 100 * share ** (1 / profile.body.length_mass_exponent.value))


def expected_mass_kg(profile: Profile, length_m: float, sex: str = "unknown") -> float:
    """Estimate the mass (kg) from body length (m, the species' measure) by the same power law."""
    adult = profile.body.adult(sex)
    share = length_m * 100 / adult.length_cm.middle
    return float(adult.mass_g.middle / 1000 * share**profile.body.length_mass_exponent.value)
