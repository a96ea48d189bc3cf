"""What stands where: everything on the floor as the rules see it, and what a bowl and a lid must be for this animal."""

from datetime import timedelta

from husbandry.animal.needs import quarantined
from husbandry.animal.subject import Subject
from husbandry.furnishing.floor import past_walls_m
from husbandry.inputs.furniture import (
    at_sockets_of,
    bath_of,
    footprint,
    in_water_of,
    lets_under,
    overlaps_of,
    pieces_of,
    under_lamps_of,
)
from husbandry.plan.geometry import dry_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.review.arrangement import Standing
from husbandry.species.leaves import choose


def _short_of_quarantine(subject: Subject) -> tuple[str, str, float, float] | None:
    """The day it came, the first it may end on, and the species' weeks, where a new animal is to stay apart for less; else None."""
    upkeep, health = subject.plan.upkeep, subject.profile.health
    if health is None or upkeep.arrived is None:
        return None
    weeks = health.quarantine_weeks
    least = upkeep.arrived + timedelta(weeks=weeks.least)
    if subject.today >= least or (upkeep.quarantine_until is not None and upkeep.quarantine_until >= least):
        return None
    return upkeep.arrived.isoformat(), least.isoformat(), weeks.least, weeks.most


def _laying_m(subject: Subject) -> tuple[float, float] | None:
    """How deep a grown female digs that lays without a male, least and most, where the ground is shallower than the least."""
    breeds = subject.profile.reproduction
    grown = subject.stage.id == subject.profile.stages[-1].id
    if breeds is None or not breeds.lays_alone or breeds.laying_depth_cm is None or not grown:
        return None
    least_m, most_m = breeds.laying_depth_cm.least / 100, breeds.laying_depth_cm.most / 100
    plan = subject.plan
    deepest_m = max(
        [plan.ground.depth_m, *(area.depth_m for area in plan.ground.areas)]
        + [thing.height_m for thing in plan.things if thing.good_for("lay")]
    )
    return (least_m, most_m) if plan.animal.sex == "female" and deepest_m < least_m else None


def _platform(plan: HabitatPlan) -> tuple[str, float] | None:
    """The path that says how high the basking place is, and what it says; None where it does not stand on the ground."""
    thing = plan.platform
    if thing is None or thing.stands != "ground":
        return None
    said = "up_m" if thing.lets_under else "height_m"
    return f"{plan.path_of(thing)}.{said}", getattr(thing, said)


def standing(subject: Subject) -> Standing:
    """Gather what stands where."""
    plan, profile, stage, body = subject.plan, subject.profile, subject.stage, subject.body
    pieces = tuple(piece for piece in pieces_of(plan) if not lets_under(plan, piece))
    pool = plan.pool
    rule = stage.water
    depth_m = choose(rule.depth_cm, plan.schools).middle / 100 if rule is not None and rule.depth_cm is not None else 0.1
    box = plan.enclosure
    past = ((piece, past_walls_m(footprint(plan, plan.thing_at(piece.path)), box.length_m, box.width_m)) for piece in pieces)
    return Standing(
        pieces=pieces,
        overlaps=tuple(overlaps_of(plan)),
        past_walls=tuple((piece, over) for piece, over in past if over > 0),
        under_lamps=tuple(under_lamps_of(plan)),
        lamps=tuple((f"heaters.{index}", lamp.x_m, lamp.height_m) for index, lamp in enumerate(plan.heaters) if lamp.hangs),
        pool=None if pool is None else (pool.x_m, pool.length_m, pool.depth_m),
        in_water=tuple(in_water_of(plan)),
        pool_depth_m=round(max(depth_m, plan.ground.depth_m + 0.03), 3),
        bath=bath_of(plan, profile, stage, body),
        bowl_depth_m=plan.bowl.water_m if plan.bowl else None,
        bowl_rim_m=plan.bowl.height_m if plan.bowl else 0.0,
        at_sockets=tuple(at_sockets_of(plan)),
        dry_m=dry_m(plan),
        open_top=plan.enclosure.lid == "open",
        stays_in=profile.group == "tortoise",
        swims=profile.habit in ("aquatic", "semi-aquatic"),
        aquatic=profile.habit == "aquatic",
        quarantined=quarantined(plan, subject.today),
        quarantine_short=_short_of_quarantine(subject),
        laying_m=_laying_m(subject),
        ground_kind=plan.ground.kind,
        ground_damp=plan.ground.damp,
        platform=_platform(plan),
    )
