"""Those that live in a habitat, as its plan has them: the animal it is planned for and the group it lives in."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from husbandry.plan.habitat import Animal
from husbandry.species.profile import Profile
from husbandry.species.stages import decide_stage


@dataclass(frozen=True)
class Resident:
    """What is known of one that lives in a habitat; mass in kg and length in m, by the species' measure, as last taken."""

    name: str = ""
    sex: Literal["female", "male", "unknown"] = "unknown"
    hatched: date | None = None
    hatched_is_estimate: bool = False
    mass_kg: float | None = None
    length_m: float | None = None


def as_planned(residents: Sequence[Resident], profile: Profile, today: date) -> Animal:
    """Return the animal of a plan that is made for these, of one species, the first of them first.

    Parameters
    ----------
    residents
        At least one; the plan's own animal is the first, its group the rest.
    profile
        The species they belong to, whose first stage tells the hatchlings from the others.
    today
        The day ages are reckoned on.

    Returns
    -------
    The animal with count, males where one is known, hatchlings, and the length of the smallest where more than one is measured.

    Raises
    ------
    ValueError
        Where nobody lives there, or more than a plan can hold.
    """
    if not residents:
        raise ValueError("nobody lives there")
    first, rest = residents[0], residents[1:]
    lengths = [one.length_m for one in residents if one.length_m is not None]
    known = [one for one in residents if one.sex != "unknown"]
    return Animal(
        name=first.name,
        sex=first.sex,
        hatched=first.hatched,
        hatched_is_estimate=first.hatched_is_estimate,
        mass_kg=first.mass_kg,
        length_m=first.length_m,
        count=len(residents),
        males=sum(one.sex == "male" for one in known) if rest and known else None,
        young=sum(_is_hatchling(one, profile, today) for one in residents) if rest else 0,
        smallest_m=min(lengths) if rest and len(lengths) > 1 else None,
        others=tuple(one.name[:40] for one in rest if one.name),
    )


def _is_hatchling(one: Resident, profile: Profile, today: date) -> bool:
    """Tell whether one is in its first stage; not where neither age nor size is known."""
    if one.hatched is None and one.mass_kg is None and one.length_m is None:
        return False
    age_days = None if one.hatched is None else max((today - one.hatched).days, 0)
    decision = decide_stage(profile, age_days=age_days, mass_kg=one.mass_kg, length_m=one.length_m)
    return decision.stage.id == profile.stages[0].id
