"""Rules of what was typed of the animal: figures its species cannot have, and what was likely meant."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts, Figures

OFF_BY: Final = 6.0  # how many times more or less than its length or age says: no fat or thin animal is so far off
ABOVE_ADULT: Final = 2.0  # heavier than twice the heaviest grown one
LONGER: Final = 1.5
# A slipped unit or point: what the number must be multiplied by.
SLIPS: Final = (0.001, 1000.0, 0.1, 10.0, 0.0283495, 35.274)
CLOSE: Final = 2.0  # a slip explains the figure when it brings it this near


def plausible(facts: Facts) -> Iterator[Finding]:
    """Mass and length against the species, and the date of hatching against today."""
    yield from doubted(facts.figures, facts.today)


def doubted(said: Figures, today: str) -> Iterator[Finding]:
    """What was said of an animal that its species cannot be; `today` as an ISO date."""
    if said.hatched and said.hatched > today:
        yield Finding(
            FindingCode.ANIMAL_NOT_HATCHED,
            Severity.WRONG,
            "animal",
            {"day": said.hatched},
            Remedy(RemedyCode.ANIMAL_FORGET_HATCHED, {}, (Change("animal.hatched", None),)),
        )
    if said.age_years is not None and said.age_years > said.oldest_years:
        forget = Remedy(RemedyCode.ANIMAL_FORGET_HATCHED, {}, (Change("animal.hatched", None),))
        old: dict[str, Parameter] = {"years": round(said.age_years), "oldest": said.oldest_years}
        yield Finding(FindingCode.ANIMAL_TOO_OLD, Severity.QUESTION, "animal", old, forget)
    if said.length_m is not None and said.length_m > LONGER * said.longest_m:
        long = _unlikely(FindingCode.ANIMAL_LENGTH_UNLIKELY, "length_m", said.length_m, said.longest_m, "m")
        fits = said.as_whole_m is not None and said.as_whole_m <= said.longest_m
        yield replace(long, parameters={**long.parameters, "measure": said.measure}, remedy=_whole(said) if fits else long.remedy)
    if said.mass_kg is None:
        return
    expected = said.expected_kg
    if expected is not None and not 1 / OFF_BY <= said.mass_kg / expected <= OFF_BY:
        heavy = _unlikely(FindingCode.ANIMAL_MASS_UNLIKELY, "mass_kg", said.mass_kg, expected, "kg")
        whole = said.as_whole_kg
        fits = whole is not None and 1 / CLOSE <= said.mass_kg / whole <= CLOSE
        yield replace(heavy, remedy=_whole(said)) if fits else heavy
    elif expected is None and said.mass_kg > ABOVE_ADULT * said.heaviest_kg:
        yield _unlikely(FindingCode.ANIMAL_MASS_UNLIKELY, "mass_kg", said.mass_kg, said.heaviest_kg, "kg")


def _whole(said: Figures) -> Remedy:
    """The tail was measured with it: the length by the species' own measure."""
    length_m = round(said.as_whole_m or 0.0, 3)
    told: dict[str, Parameter] = {"meant": Measure(length_m, "m"), "measure": said.measure}
    return Remedy(RemedyCode.ANIMAL_MEASURED_WHOLE, told, (Change("animal.length_m", length_m),))


def _unlikely(code: FindingCode, name: str, value: float, expected: float, unit: str) -> Finding:
    parameters: dict[str, Parameter] = {"value": Measure(value, unit), "expected": Measure(expected, unit)}
    return Finding(code, Severity.QUESTION, "animal", parameters, _slip(name, value, expected, unit))


def _slip(name: str, value: float, expected: float, unit: str) -> Remedy | None:
    """The likely meaning: the slip that brings the value nearest to what is expected, if any brings it near."""
    meant = min((value * slip for slip in SLIPS), key=lambda meaning: max(meaning / expected, expected / meaning))
    if max(meant / expected, expected / meant) > CLOSE:
        return None
    meant = float(f"{meant:.3g}")
    return Remedy(RemedyCode.ANIMAL_MEANT, {"meant": Measure(meant, unit)}, (Change(f"animal.{name}", meant),))
