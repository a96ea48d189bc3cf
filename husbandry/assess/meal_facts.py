"""The facts of a week's food that the review looks at."""

from typing import Final

from husbandry.animal.subject import Subject
from husbandry.animal.year import never_rests, terms_of
from husbandry.diet import nutrients, refusals
from husbandry.diet.foods import WANTED_RATIO
from husbandry.diet.powders import POWDERS
from husbandry.feeding.appetite import RestLoss
from husbandry.feeding.week_food import Fed, own_days
from husbandry.review.facts import Meals

# By the finding it makes: which share of the week, and from where on it is too much.
FLAGS: Final = {
    "fatty": ("fatty_share", nutrients.FATTY_SHARE),
    "oxalate": ("oxalate_share", nutrients.OXALATE_SHARE),
    "goitrogen": ("goitrogen_share", nutrients.GOITROGEN_SHARE),
}
NEW_DAYS: Final = 183
LEAST_PLANTS: Final = 0.2  # of the food, before a flag of its greens is worth a word


def meals(subject: Subject, fed: Fed, *, at_rest: RestLoss | None) -> Meals:
    """Gather them."""
    plan, profile, today = subject.plan, subject.profile, subject.today
    week, feeding, never = fed.week, plan.feeding, never_rests(profile)
    flags: dict[str, float] = {}
    short = None
    if week is not None:
        for flag, (name, most) in FLAGS.items():
            share = getattr(week, name)
            if share > most and (flag == "fatty" or week.plant_share >= LEAST_PLANTS):
                flags[flag] = share
        if week.iodine_mg_per_kg >= nutrients.IODINE_MG_PER_KG:
            flags.pop("goitrogen", None)
        if fed.dusted_g > 0:
            short = nutrients.dust_for_ratio(week, POWDERS["plain calcium"], WANTED_RATIO)
    return Meals(
        own_items=bool(feeding.items),
        own_interval=own_days(plan),
        own_powders=feeding.supplements is not None,
        dust_short_g=short,
        flags=flags,
        iodine_mg_per_kg=0.0 if week is None else week.iodine_mg_per_kg,
        iodine_wanted_mg_per_kg=nutrients.IODINE_MG_PER_KG,
        thiaminase_share=0.0 if week is None else week.thiaminase_share,
        thiaminase_much=week is not None and week.thiaminase_share > nutrients.THIAMINASE_SHARE,
        thiamin_wanted_mg=0.0 if week is None else nutrients.THIAMIN_MG_PER_KG_OF_FISH * week.thiaminase_g / 1000,
        one_prey=week.one_prey if week is not None and feeding.items else "",
        too_large=tuple((food, limit.by, limit.at_most_m, limit.measured) for food, limit in fed.too_large),
        too_heavy=fed.too_heavy,
        condition=feeding.condition,
        condition_moved=bool(fed.step.moved),
        rest_planned=plan.year.cooling is not None or any(item.why == "rest" and item.last >= today for item in feeding.fasts),
        winter_rest=plan.year.cooling is not None,
        rest_forbidden="" if never is None else never.must_not,
        rest_in_book=never is not None or terms_of(profile) is not None,
        grown=subject.stage.id == profile.stages[-1].id,
        new_here=plan.upkeep.arrived is not None and (today - plan.upkeep.arrived).days < NEW_DAYS,
        rest_lost_percent=None if at_rest is None else at_rest.lost_percent,
        rest_fast=at_rest is not None and at_rest.fast,
        rest_limit_percent=refusals.LOSS_LIMIT_PERCENT if at_rest is None else at_rest.limit_percent,
    )
