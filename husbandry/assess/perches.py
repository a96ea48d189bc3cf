"""Warmth, UV and light at every place an animal gets up to: further basking places, and for a climber whatever it climbs on."""

from dataclasses import replace
from typing import Final

from husbandry.animal.subject import Subject
from husbandry.assess.warmth import BURN_MARGIN_K
from husbandry.assessment import NEAR_K, SEASONS, Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate.case import EnclosureCase
from husbandry.climate.other_places import surfaces_c
from husbandry.climate.states import Climate
from husbandry.codes import ReasonCode
from husbandry.inputs.furniture import said_of
from husbandry.inputs.perches import Perch, Place, indices_on, lux_on, perches_of, spot_at
from husbandry.inputs.ultraviolet import wanted_index
from husbandry.species.leaves import choose
from husbandry.species.zones import ZONES

MODEL: Final = Basis(BasisKind.ESTIMATE, note="zone balance and lamp classes; your own readings replace it")


def quantities(subject: Subject, case: EnclosureCase, climate: Climate) -> list[Quantity]:
    """Of each place after the first the hottest surface by day and the strongest UV at the back; of each the light.

    Each has no more than an upper edge: one good basking place is asked for, of the others none may do harm.
    """
    found: list[Quantity] = []
    for number, perch in enumerate(perches_of(subject.plan, subject.profile), 1):
        if number > 1 or not perch.thing.basking:
            found += _warmth(subject, case, climate, perch, number)
            found += _ultraviolet(subject, perch, number)
        found.append(_light(subject, perch, number))
    return found


def _reason(subject: Subject, perch: Perch, place: Place) -> Reason:
    told: dict[str, Parameter] = {
        "name": perch.thing.name,
        "part": said_of(perch.thing),
        "where": Measure(place[0], "m"),
        "height": Measure(place[2] + subject.body.back_m, "m"),
    }
    return Reason(ReasonCode.SPACE_AT_PLACE, told)


def _warmth(subject: Subject, case: EnclosureCase, climate: Climate, perch: Perch, number: int) -> list[Quantity]:
    heat, schools = subject.stage.heat, subject.plan.schools
    wanted = choose(heat.basking_surface_c, schools) if heat.basking_surface_c else None
    high_c = heat.ceiling_c.value if wanted is None or wanted.high is None else wanted.high
    basis = heat.ceiling_c.origin if wanted is None else wanted.band().basis
    band = Band(None, high_c, basis, danger_high=high_c + BURN_MARGIN_K, near=NEAR_K)
    found = []
    spots = [spot_at(subject.plan, perch.thing, at) for at in perch.places]
    by_place = surfaces_c(case, spots, [climate.states[season, "day"] for season in SEASONS])
    for season, surfaces in zip(SEASONS, by_place.T, strict=True):
        value, place = max(zip(map(float, surfaces), perch.places, strict=True))
        made = Quantity(f"place_{number}_surface", "degC", value, band.judge(value), _reason(subject, perch, place), MODEL, band)
        found.append(replace(made, season=season, phase="day"))
    return found


def _ultraviolet(subject: Subject, perch: Perch, number: int) -> list[Quantity]:
    wanted = wanted_index(subject.plan, subject.stage)
    if wanted is None:
        return []
    zone = ZONES.get(subject.profile.uv_zone.value)
    band = replace(wanted.band(danger_high=zone.highest if zone else None), low=None)
    value, place = max(zip(indices_on(subject.plan, subject.body, subject.today, perch.places), perch.places, strict=True))
    verdict = Verdict.NOT_APPLICABLE if band.high is None else band.judge(value)
    return [Quantity(f"place_{number}_uv", "UVI", value, verdict, _reason(subject, perch, place), MODEL, band)]


def _light(subject: Subject, perch: Perch, number: int) -> Quantity:
    value, place = max(zip(lux_on(subject.plan, subject.body, perch.places), perch.places, strict=True))
    return Quantity(f"place_{number}_lux", "lx", value, Verdict.NOT_APPLICABLE, _reason(subject, perch, place), MODEL)
