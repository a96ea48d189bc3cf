"""What is to be furnished: the things a species wants that are not there yet, each in the size and stuff that suits the animal."""

from dataclasses import dataclass, replace
from math import ceil, floor
from typing import Any, Final

from husbandry.animal.needs import ON_THE_FLOOR
from husbandry.animal.subject import Subject
from husbandry.assess.planting import EATS_PLANTS, HEAVY_ANIMAL_KG
from husbandry.assess.traps import TOPPLES
from husbandry.furnishing.plants import plants
from husbandry.furnishing.things import kinds, that_sinks
from husbandry.inputs.furniture import bath_of
from husbandry.inputs.grounds import HEAVY_KG, thing_kg
from husbandry.inputs.light_sources import lights
from husbandry.inputs.shelters import Shelter, shelter_of
from husbandry.light.visible import lux_at
from husbandry.plan.geometry import spot_x_m
from husbandry.plan.things import Thing
from husbandry.species.leaves import choose

GRAIN: Final = 1e-6
PLANT_HIGH: Final = 0.3  # of the height over the ground, where a plant's leaves are when it is put in
UNDER_LID_M: Final = 0.02
SNAKE_HIDE, BODY_HIDE = 0.22, 1.0  # of the animal's length, that a hide is long
LEAST_HIDE_M, MOST_HIDE_M = 0.10, 0.60
# What a shelter is and at which end it stands; ground, litter and perches are seen to elsewhere.
PLACES: Final[dict[Shelter, tuple[str, str]]] = {
    "warm": ("hide", "warm"),
    "cool": ("hide", "cool"),
    "hide": ("hide", "any"),
    "humid": ("humid-hide", "humid"),
    "tube": ("cork-tube", "any"),
    "cave": ("cave", "any"),
    "stack": ("stack", "warm"),
    "cover": ("plant", "cover"),
}
USUAL: Final = {"warm": 0.35, "cool": 0.85, "humid": 0.6, "drink": 0.75, "feed": 0.5, "cover": 0.9, "any": 0.6}


@dataclass(frozen=True)
class Wanted:
    """A thing to be placed, as it would stand in the plan, and the end it belongs to; its path where it is there already."""

    thing: Thing
    zone: str
    path: str = ""


def things_wanted(subject: Subject) -> tuple[list[Wanted], list[Thing]]:
    """What is to be placed, the keeper's own things first, and what stays where it is."""
    plan = subject.plan
    fixed = [thing for thing in plan.things if stays(thing)]
    free = [thing for thing in plan.things if not stays(thing)]
    there = [Wanted(thing, "any", plan.path_of(thing)) for thing in free]
    missing, serving = [], [thing for thing in fixed if not thing.basking]
    for kind, zone in _needs(subject):
        already = next((one for one in serving if _serves(one, kind)), None)
        if already is not None:
            serving.remove(already)
            continue
        match = next((at for at, one in enumerate(there) if one.zone == "any" and _serves(one.thing, kind)), None)
        if match is not None:
            there[match] = replace(there[match], zone=zone)
        else:
            missing.append(Wanted(_usual(subject, kind), zone))
    return there + missing, fixed


def _needs(subject: Subject) -> list[tuple[str, str]]:
    """The kinds of things the stage wants, each with the end it belongs to, the most needed first."""
    plan, profile, stage = subject.plan, subject.profile, subject.stage
    found: list[tuple[str, str]] = []
    water = profile.habit == "aquatic"
    if not water:
        found.append(("soaking-bowl" if bath_of(plan, profile, stage, subject.body).must else "bowl", "drink"))
    for hide in profile.hides_of(stage):
        shelter = shelter_of(hide.value)
        if shelter in PLACES:
            found.append(PLACES[shelter])
    if profile.diet in EATS_PLANTS:
        found.append(("feeding-slate", "feed"))
    return found


def _serves(thing: Thing, kind: str) -> bool:
    """Tell whether a thing does what one of this kind is wanted for."""
    roles = kinds()[kind].roles
    if "humid" in roles or thing.humid:
        return "humid" in roles and thing.humid
    wanted = next((role for role in ("hide", "cover") if role in roles), roles[0])
    return wanted in thing.of.roles


def _usual(subject: Subject, key: str) -> Thing:
    """A thing of a kind in the size this animal needs."""
    kind, length_m = kinds()[key], subject.body.length_m
    long_m, deep_m, high_m = kind.size_m
    if "hide" in kind.roles and length_m is not None:
        share = SNAKE_HIDE if subject.profile.body.form == "snake" else BODY_HIDE
        size_m = min(max(share * length_m, LEAST_HIDE_M), MOST_HIDE_M)
        long_m, deep_m, high_m = size_m, 0.8 * size_m, max(0.5 * size_m, 0.05)
    bath = bath_of(subject.plan, subject.profile, subject.stage, subject.body)
    if "drink" in kind.roles and bath.wide_m is not None:
        long_m = max(long_m if bath.must else 0.0, min(bath.wide_m, 0.6 * subject.plan.enclosure.width_m), 0.08)
        high_m = max(high_m, bath.cover_m + 0.01) if bath.must else high_m
    box = subject.plan.enclosure
    most_m = box.height_m - subject.plan.ground.depth_m - UNDER_LID_M
    high_m = max(up_to_cm(min(high_m, most_m)), 0.01)
    made: dict[str, Any] = {"kind": key, "x_m": 0.0, "length_m": up_to_cm(long_m), "height_m": high_m}
    if subject.profile.habit == "aquatic" and "hide" in kind.roles:
        made["material"] = that_sinks(kind)
    if subject.profile.body.form == "tortoise" and kind.perch is not None and "hide" not in kind.roles and length_m is not None:
        safe_m = max(floor(1000 * TOPPLES[0] * length_m) / 1000, 0.005)  # it does not topple from that
        made["height_m"] = min(made["height_m"], safe_m)
    if not kind.round:
        made["width_m"] = up_to_cm(deep_m)
    if key == "plant":
        plant = _plant_for(subject)
        made |= {"plant": plant, "potted": True} if plant else {"kind": "fake-plant"}
    thing = Thing.model_validate(made)
    # What is heavy is not left for an animal to dig away from under.
    heavy = thing_kg(subject.plan, thing) >= HEAVY_KG and thing.stands == "ground" and subject.profile.habit in ON_THE_FLOOR
    return thing.model_copy(update={"footing": True}) if heavy else thing


def _plant_for(subject: Subject) -> str:
    """A plant in its pot for the cool end: one that grows by the light there, bears the warmth, and may be eaten where it would be.

    "" where there is none: then the leaves are artificial.
    """
    plan, stage, box = subject.plan, subject.stage, subject.plan.enclosure
    cool_x_m = (1.0 - USUAL["cool"] if spot_x_m(plan) > box.length_m / 2 else USUAL["cool"]) * box.length_m
    high_m = plan.ground.depth_m + PLANT_HIGH * (box.height_m - plan.ground.depth_m)
    lux = float(lux_at(lights(plan), cool_x_m, high_m))
    warm_c = choose(stage.heat.cool_air_c, plan.schools).most
    water = subject.profile.habit == "aquatic"
    suits = (
        key
        for key, one in plants().items()
        if one.lux_least <= lux <= one.lux_most
        and one.heat_c >= warm_c
        and (one.damp == "wet" and not one.rooted) is water
        and not (one.poisonous and subject.profile.diet in EATS_PLANTS)
        and (one.sturdy or (subject.body.mass_kg or 0.0) < HEAVY_ANIMAL_KG)
        and one.grows_m <= box.height_m - plan.ground.depth_m
    )
    return next(suits, "")


def up_to_cm(value_m: float) -> float:
    """A length rounded up to a whole centimetre, m."""
    return ceil(100 * value_m - GRAIN) / 100


def stays(thing: Thing) -> bool:
    """Tell whether a thing is left where it is: basking places, what hangs or is on a wall, what has a heater of its own."""
    return thing.basking or thing.lets_under or thing.heated_w is not None or thing.of.shape == "panel"
