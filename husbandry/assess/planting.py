"""The plants of an enclosure at their places: light, warmth and water against what each kind wants, and who may eat it."""

import math
from typing import Final

import numpy as np

from husbandry.animal.subject import Subject
from husbandry.assessment import SEASONS
from husbandry.climate.air import KELVIN, VAPOUR_GAS_CONSTANT, saturation_pressure
from husbandry.climate.case import EnclosureCase
from husbandry.climate.humidity import LEAF_M_S, STOMATA_IN_THE_DARK
from husbandry.climate.states import Climate
from husbandry.furnishing.floor import gap_m
from husbandry.furnishing.plants import Plant, plants
from husbandry.inputs.furniture import footprint
from husbandry.inputs.light_sources import EXTINCTION, lights
from husbandry.light.visible import lux_at
from husbandry.plan.geometry import foot_m, spot_y_m, top_of, y_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing
from husbandry.review.arrangement import PlantFacts

FROM_LAMP_M: Final = 0.15  # leaves stay so far below a lamp (common practice, no source)
EATS_PLANTS: Final = ("plants", "omnivore")
HEAVY_ANIMAL_KG: Final = 0.25
OPEN_SKY_LUX: Final = 20_000.0  # out of doors, under shade (estimate)


def planted(plan: HabitatPlan) -> list[Thing]:
    """The plants of a kind that is known."""
    return [thing for thing in plan.things if thing.good_for("plant") and thing.plant in plants()]


def plant_facts(subject: Subject, climate: Climate) -> tuple[PlantFacts, ...]:
    """Gather what the rules of plants look at.

    Parameters
    ----------
    subject
        The planned animal with its plan.
    climate
        The steady states of day and night.

    Returns
    -------
    One for each plant of a known kind: lux at its top when most lamps burn, the warmest air by day (°C).

    References
    ----------
    Light by `husbandry.light.visible`; what grows above it takes light as a canopy does (Beer's law; Monsi and Saeki 1953,
    recalled).
    """
    plan = subject.plan
    mass_kg = subject.body.mass_kg or 0.0
    found = []
    for thing in planted(plan):
        kind = plants()[thing.plant]
        lux = _lux(plan, thing)
        hottest_c = max(climate.states[season, "day"].predictions["warm_air"].value for season in SEASONS)
        cooler = max(climate.states[season, "day"].predictions["cool_air"].value for season in SEASONS)
        share = _towards_cool(plan, thing)
        found.append(
            PlantFacts(
                path=plan.path_of(thing),
                plant=thing.plant,
                lux=lux,
                lux_least=kind.lux_least,
                lux_most=kind.lux_most,
                air_c=hottest_c + share * (cooler - hottest_c),
                bears_c=kind.heat_c,
                damp=_damp(plan, thing),
                wants=kind.damp,
                eaten=kind.poisonous and subject.profile.diet in EATS_PLANTS,
                crushed=not kind.sturdy and mass_kg >= HEAVY_ANIMAL_KG,
                instead=_instead(subject, kind, lux),
                grows_m=kind.grows_m,
                room_m=_room_m(plan, thing),
            )
        )
    return tuple(found)


def _lux(plan: HabitatPlan, thing: Thing) -> float:
    """The light at a plant's top, less what taller plants over it take."""
    place = thing.x_m, y_of(plan, thing)
    top = top_of(plan, thing)
    lit = float(lux_at(lights(plan), place[0], top, place[1] - spot_y_m(plan)))
    if plan.outdoors is not None:
        lit = max(lit, OPEN_SKY_LUX)
    for other in planted(plan):
        if other is not thing and top_of(plan, other) > top and gap_m(footprint(plan, other), *place) <= 0.0:
            lit *= math.exp(-EXTINCTION * plants()[other.plant].leaf_m2_m2)
    return lit


def _room_m(plan: HabitatPlan, thing: Thing) -> float:
    """How tall a plant may get, m: to the lid, or a hand's breadth below a lamp over it; what hangs or is on a wall grows down."""
    if thing.lets_under or plan.enclosure.lid == "open":
        return math.inf
    place, top_m = footprint(plan, thing), plan.enclosure.height_m
    over = [lamp.height_m - FROM_LAMP_M for lamp in plan.heaters if lamp.hangs and gap_m(place, lamp.x_m, y_of(plan, lamp)) <= 0]
    return max(min([top_m, *over]) - foot_m(plan, thing), 0.0)


def transpired_g(leaves_m2: float, case: EnclosureCase, climate: Climate, season: str) -> float:
    """Return what leaves give off in a day.

    Parameters
    ----------
    leaves_m2
        Their area, one side of each, m².
    case, climate
        The enclosure and its steady states.
    season
        "summer" or "winter".

    Returns
    -------
    g a day, by the mean air of day and night.

    References
    ----------
    Leaf conductance times what the vapour in the air is short of saturation: two resistances in series, Jones, Plants and
    Microclimate (docs/models.md [33]; recalled).
    """
    grams = 0.0
    for phase, hours, opened in (("day", case.light_hours, 1.0), ("night", 24 - case.light_hours, STOMATA_IN_THE_DARK)):
        steady = climate.states[season, phase]
        air_c = float(np.mean(steady.air_c))
        short_pa = max(float(saturation_pressure(air_c)) - steady.vapour_pa, 0.0)
        grams += 1000 * LEAF_M_S * leaves_m2 * opened * short_pa / (VAPOUR_GAS_CONSTANT * (air_c + KELVIN)) * hours * 3600
    return grams


def _towards_cool(plan: HabitatPlan, thing: Thing) -> float:
    """How far a thing stands from the basking place's end towards the other, 0 to 1."""
    along = thing.x_m / plan.enclosure.length_m
    spot = plan.platform.x_m if plan.platform is not None else 0.25 * plan.enclosure.length_m
    return along if spot <= plan.enclosure.length_m / 2 else 1 - along


def _damp(plan: HabitatPlan, thing: Thing) -> str:
    """The ground at its roots: "dry", "even" where it is kept damp, "wet" at a pool's edge; "pot" where it stands in its pot."""
    if thing.potted:
        return "pot"
    pool = plan.pool
    if pool is not None and abs(thing.x_m - pool.x_m) <= pool.length_m / 2:
        return "wet"
    layers = plan.ground.layers_at(thing.x_m, y_of(plan, thing))
    return "even" if any(layer.damp for layer in layers) or plan.misting.any else "dry"


def _instead(subject: Subject, kind: Plant, lux: float) -> str:
    """The key of a plant that wants the same ground, bears the light there and may be eaten where it would be; "" where none is."""
    eats = subject.profile.diet in EATS_PLANTS
    heavy = (subject.body.mass_kg or 0.0) >= HEAVY_ANIMAL_KG
    suits = (
        key
        for key, one in plants().items()
        if one is not kind
        and one.damp == kind.damp
        and one.lux_least <= lux <= one.lux_most
        and one.heat_c >= kind.heat_c
        and not (eats and one.poisonous)
        and not (heavy and not one.sturdy)
    )
    return next(suits, "")
