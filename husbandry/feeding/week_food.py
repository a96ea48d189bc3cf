"""What a plan feeds in a week: whose ration, how large, what it holds, what rides on it, what the animal burns."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache
from typing import Final

from husbandry.animal.body import Body
from husbandry.animal.growth_outlook import weekly_gain_kg
from husbandry.diet import condition, energy, nutrients
from husbandry.diet.condition import ConditionStep
from husbandry.diet.dusting import Product, rota
from husbandry.diet.foods import PLANTS, SMALL_PREY, foods, is_small_prey
from husbandry.diet.gape import SizeLimit, largest_piece, too_large
from husbandry.diet.nutrients import Dose, Helping
from husbandry.diet.powders import (
    DUST_MG_PER_G,
    POWDERS,
    SALAD_DUST_MG_PER_G,
    TINY_DUST_MG_PER_G,
    TINY_G,
    WORM_DUST_MG_PER_G,
    Powder,
    by_label,
)
from husbandry.diet.prey import find_class
from husbandry.diet.rations import Eater, Ration, interval_days, rations, supplements_in_use
from husbandry.plan.feeding_settings import FedItem
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.upkeep.feeds import mean_gap
from husbandry.upkeep.recur import Weekly, dates

DAYS_A_WEEK: Final = 7
GROWTH, LEAN, APPETITE = "growth", "lean", "appetite"  # a topic of every species, with its schools
CHALK: Final = "plain calcium"
# The rota is counted over twelve weeks from any Monday: what matters is how often, not when.
COUNT_FROM, COUNT_DAYS = date(2026, 1, 5), 84


@dataclass(frozen=True, slots=True)
class Carrying:
    """How often a feed carries powder: the mean days between those that do, and whether they are only those with `prey`."""

    days: float
    prey: bool = False

    def goes_on(self, given: Iterable[str]) -> bool:
        """Tell whether powder goes on a feed of these foods."""
        return not self.prey or any(is_small_prey(key) for key in given)


@dataclass(frozen=True)
class Fed:
    """A week of one plan's food.

    `helpings` leave out the parts in `unknown`, which nobody can weigh. `too_large` are own items over the size limit, each with
    the limit it breaks. `carrying` is how often a feed carries powder; `dusted_g` and `dust_g` are what carries it there, and how
    much of it. `need` is None where no equation serves the animal or it was never weighed.
    """

    interval_days: float
    rations: tuple[Ration, ...]
    own: tuple[FedItem, ...]
    helpings: tuple[Helping, ...]
    doses: tuple[Dose, ...]
    week: nutrients.NutrientSums | None
    unknown: tuple[str, ...]
    too_large: tuple[tuple[str, SizeLimit], ...]
    too_heavy: tuple[str, ...]
    step: ConditionStep
    carrying: Carrying
    dusted_g: float
    dust_g: float


def eater(plan: HabitatPlan, profile: Profile, body: Body, stock: dict[str, int] | None = None) -> Eater:
    """The animal as a ration sees it; `stock` counts frozen prey by class."""
    total_m = None if body.length_m is None else body.length_m / profile.body.total_to_measure.value
    return Eater(profile.body.form, body.length_m, total_m, body.mass_kg, plan.feeding.measured_m, stock)


def step_of(plan: HabitatPlan, stage: Stage) -> ConditionStep:
    """What the body's condition moves; a ration the keeper sets is moved by nobody else.

    A gravid female of right or unknown condition is fed as one step too thin: eggs take what they need of her.
    """
    rule, score = choose(stage.feeding.interval_days, plan.schools), plan.feeding.condition
    if plan.feeding.state == "gravid" and score in (None, condition.RIGHT):
        score = condition.RIGHT - 1
    step = condition.step(score, rule.least)
    own = own_days(plan) if step.moved == "interval" else bool(plan.feeding.items)
    return ConditionStep("", 1.0) if own else step


def own_days(plan: HabitatPlan) -> bool:
    """Tell whether the keeper sets the days of the feeds."""
    return plan.feeding.interval_days is not None or bool(plan.feeding.weekdays)


def powders_of(plan: HabitatPlan, stage: Stage, *, uvb: bool) -> tuple[Product, ...]:
    """The products in use: the keeper's own, else the stage's, with or without UVB; a gravid female has calcium on each feed."""
    if plan.feeding.supplements is not None:
        return tuple(Product(item.product, item.every_days, item.every_feeds) for item in plan.feeding.supplements)
    used = supplements_in_use(stage.feeding, uvb=uvb, schools=plan.schools)
    found = tuple(Product(item.product, item.every_days, item.every_feeds) for item in used)
    if plan.feeding.state == "gravid" and found:
        others = tuple(item for item in found if item.name != CHALK)
        return (*others, Product(CHALK, every_feeds=1))
    return found


def powder_of(plan: HabitatPlan, product: str) -> Powder:
    """What a gram of a powder holds: by the keeper's own label, else as powders of its kind usually do."""
    label = next((item for item in plan.feeding.labels if item.product == product), None)
    return POWDERS[product] if label is None else by_label(**label.model_dump(exclude={"product"}))


def fed(plan: HabitatPlan, profile: Profile, stage: Stage, body: Body, *, uvb: bool, stock: dict[str, int] | None = None) -> Fed:
    """Work out a week of this plan's food."""
    animal, step, count = eater(plan, profile, body, stock), step_of(plan, stage), plan.animal.count
    weekdays, every_weeks = tuple(sorted(set(plan.feeding.weekdays))), plan.feeding.every_weeks
    rule = choose(stage.feeding.interval_days, plan.schools)
    lean = plan.schools.get(GROWTH) == LEAN
    days = interval_days(rule, plan.feeding.interval_days, step, lean=lean)
    interval = mean_gap(weekdays, every_weeks) if weekdays else float(days)
    # One way only: where the interval has no longer end, or the keeper sets the days, it is the amount.
    spans = not own_days(plan) and rule.low is not None and rule.high is not None and round(rule.low) < round(rule.high)
    parts = rations(stage.feeding, animal, count, plan.schools, step, lean=lean and not spans)
    helpings, unknown = _own(plan, interval, parts) if plan.feeding.items else _book(parts, interval, body, count)
    carrying = _carrying(plan, [part for part in parts if part.meal.food not in unknown], interval)
    carries = SMALL_PREY if carrying.prey else (*SMALL_PREY, *PLANTS)
    dusted = [item for item in helpings if item.food.kind in carries]
    per_feed = sum(item.grams for item in dusted) * carrying.days / DAYS_A_WEEK
    pieces = {foods()[key].name: piece.mass_kg * 1000 for part in parts for key, piece in part.pieces}
    dust_g = _dust_g(plan, dusted, pieces, carrying.days)
    often = carried(powders_of(plan, stage, uvb=uvb), carrying.days, () if carrying.prey else weekdays, every_weeks)
    doses = tuple(Dose(name, powder_of(plan, name), times * dust_g) for name, times in often.items())
    return Fed(
        interval,
        parts,
        plan.feeding.items,
        helpings,
        doses,
        nutrients.week(helpings, doses) if helpings else None,
        unknown,
        _too_large(plan, parts),
        tuple(item.food for item in plan.feeding.items if body.mass_kg is not None and (each_g(item) or 0) / 1000 > body.mass_kg),
        step,
        carrying,
        per_feed,
        dust_g,
    )


def _carrying(plan: HabitatPlan, parts: list[Ration], interval: float) -> Carrying:
    """Which feeds carry powder: those with prey where it comes less often than the rest, else all."""
    if plan.feeding.items:
        often = [item.per_week for item in plan.feeding.items if is_small_prey(item.food)]
    else:
        often = [part.meal.per_week for part in parts if any(is_small_prey(key) for key in part.meal.foods)]
    gap = min((interval if times is None else max(interval, DAYS_A_WEEK / times) for times in often), default=interval)
    return Carrying(gap, gap > interval)


def _dust_g(plan: HabitatPlan, dusted: list[Helping], pieces: dict[str, float], interval: float) -> float:
    """Powder that rides on one feed, in g: most on tiny prey, least on greens."""

    def rides(item: Helping) -> float:
        if item.food.kind in PLANTS:
            return SALAD_DUST_MG_PER_G
        if plan.feeding.dust_mg_per_g is not None:
            return plan.feeding.dust_mg_per_g
        if item.food.kind == "worm":
            return WORM_DUST_MG_PER_G
        one_g = pieces.get(item.food.name, item.food.mass_g or TINY_G)
        return TINY_DUST_MG_PER_G if one_g < TINY_G else DUST_MG_PER_G

    return sum(item.grams * rides(item) for item in dusted) / 1000 * interval / DAYS_A_WEEK


@lru_cache(maxsize=512)
def carried(products: tuple[Product, ...], interval: float, weekdays: tuple[int, ...] = (), weeks: int = 1) -> dict[str, float]:
    """By product, how many full dustings a week it comes to by the rota itself; powders on one meal share what sticks."""
    if weekdays:
        feeds = list(dates(Weekly(weekdays, COUNT_FROM, weeks), COUNT_FROM, COUNT_FROM + timedelta(days=COUNT_DAYS)))
    else:
        feeds = [COUNT_FROM + timedelta(days=round(interval * index)) for index in range(max(int(COUNT_DAYS / interval), 1))]
    shares: dict[str, float] = {}
    for items in rota(feeds, products, COUNT_FROM).values():
        for item in items:
            shares[item.product.name] = shares.get(item.product.name, 0.0) + 1 / len(items)
    return {name: total * DAYS_A_WEEK / (interval * len(feeds)) for name, total in shares.items()}


def _book(parts: tuple[Ration, ...], interval: float, body: Body, animals: int) -> tuple[tuple[Helping, ...], tuple[str, ...]]:
    all_kg = None if body.mass_kg is None else body.mass_kg * animals
    found: list[Helping] = []
    unknown = []
    for part in parts:
        helpings = part.helpings(interval, all_kg)
        if helpings is None:
            unknown.append(part.meal.food)
        else:
            found += helpings
    return tuple(found), tuple(unknown)


def each_g(item: FedItem, parts: tuple[Ration, ...] = ()) -> float | None:
    """The mass of one piece in g: as given, the class's middle, a usual piece of the ration's, or the grown one."""
    if item.each_g is not None:
        return item.each_g
    if "/" in item.food:
        try:
            return find_class(item.food).middle_kg * 1000
        except KeyError:
            return None
    for part in parts:
        for key, piece in part.pieces:
            if key == item.food:
                return piece.mass_kg * 1000
    known = foods().get(item.food)
    return None if known is None else known.mass_g


def _own(plan: HabitatPlan, interval: float, parts: tuple[Ration, ...]) -> tuple[tuple[Helping, ...], tuple[str, ...]]:
    found, unknown = [], []
    for item in plan.feeding.items:
        known = foods().get(item.food.partition("/")[0])
        one = each_g(item, parts)
        grams = item.grams if item.grams is not None else (item.count or 0) * one if one is not None else None
        if known is None or grams is None:
            unknown.append(item.food)
            continue
        often = DAYS_A_WEEK / interval
        found.append(Helping(known, grams * (often if item.per_week is None else min(item.per_week, often))))
    return tuple(found), tuple(unknown)


def _too_large(plan: HabitatPlan, parts: tuple[Ration, ...]) -> tuple[tuple[str, SizeLimit], ...]:
    """Own items with a piece over the limit of the ration that names their food, else over the first limit there is."""
    limits = {key: part.limit for part in parts if part.limit for key in part.meal.foods}
    first = next((part.limit for part in parts if part.limit), None)
    found = []
    for item in plan.feeding.items:
        key = item.food.partition("/")[0]
        known, limit = foods().get(key), limits.get(key, first)
        one = each_g(item, parts)
        if known is None or limit is None or one is None or known.kind in PLANTS:
            continue
        if largest_piece(known, None) is None and "/" not in item.food and item.each_g is None:
            continue
        if too_large(known, one / 1000, limit):
            found.append((item.food, limit))
    return tuple(found)


def need(plan: HabitatPlan, profile: Profile, body: Body, temperatures_c: tuple[float, ...]) -> energy.EnergyNeed | None:
    """What all the animals need in a week; None where no equation serves them or nothing is known of their mass."""
    if not energy.can_answer(profile.group) or body.mass_kg is None or not temperatures_c:
        return None
    gain = weekly_gain_kg(profile, plan.animal.sex, body)
    return energy.need(profile.group, body.mass_kg, temperatures_c, gain, plan.animal.count)
