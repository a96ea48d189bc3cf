"""What each single feed holds: parts that come less often keep their own turns, foods that come in turn take turns."""

from dataclasses import dataclass, replace
from datetime import date
from typing import Final

from husbandry.animal.body import Body
from husbandry.diet.dusting import Past, Product, rota, turn_given
from husbandry.diet.foods import PLANTS, SMALL_PREY, foods
from husbandry.diet.prey import CLASSES
from husbandry.diet.rations import Ration
from husbandry.feeding import week_food
from husbandry.plan.habitat import HabitatPlan

WEEK: Final = 7.0


@dataclass(frozen=True, slots=True)
class Use:
    """What one feed takes out of the store: a food or a class of frozen prey, in pieces where it is counted, and in grams.

    `share` of the feeds take it, where foods come in turn or a part comes less often.
    """

    food: str
    pieces: float | None
    grams: float
    share: float = 1.0


@dataclass(frozen=True, slots=True)
class Serving:
    """A part of the ration: its foods, all together or `in_turn`, with each feed or once in so many days."""

    uses: tuple[Use, ...]
    in_turn: bool = False
    every_days: float | None = None


def servings_of(plan: HabitatPlan, fed: week_food.Fed, body: Body) -> tuple[Serving, ...]:
    """The parts of a feed: the keeper's own items, else the book's ration by its middle; what nobody weighs takes nothing."""
    if not plan.feeding.items:
        found = (_of_book(part, fed.interval_days, body, plan.animal.count) for part in fed.rations)
        return tuple(part for part in found if part is not None)
    own = []
    for item in plan.feeding.items:
        one = week_food.each_g(item, fed.rations)
        grams = item.grams if item.grams is not None else (item.count or 0) * (one or 0.0)
        own.append(_serving((Use(item.food, item.count, grams),), item.per_week, fed.interval_days))
    return tuple(own)


def _serving(uses: tuple[Use, ...], per_week: float | None, interval: float, *, in_turn: bool = False) -> Serving:
    rarer = per_week is not None and per_week * interval < WEEK
    often = (per_week or 0.0) * interval / WEEK if rarer else 1.0
    share = often / len(uses) if in_turn else often
    return Serving(tuple(replace(use, share=share) for use in uses), in_turn, WEEK / per_week if rarer and per_week else None)


def _of_book(part: Ration, interval: float, body: Body, animals: int) -> Serving | None:
    often = part.meal.per_week
    grams = part.grams(None if body.mass_kg is None else body.mass_kg * animals)
    keys = [key for key in part.meal.foods if key in foods()]
    if part.offers and grams is not None:
        best = part.offers[0]
        frozen = Use(best.prey.key, float(best.count * animals), grams)
        others = tuple(Use(key, None, grams) for key in keys if key not in CLASSES)
        return _serving((frozen, *others), often, interval, in_turn=bool(others))
    if grams is None or not keys:
        return None
    if part.count is not None:
        counted = part.counted()
        return _serving(tuple(Use(key, counted[key], grams) for key in keys), often, interval, in_turn=len(keys) > 1)
    if len(keys) > 1 and not part.meal.parts and not any(foods()[key].kind in PLANTS for key in keys):
        # "Thawed mice or fish": one or the other, while leaves go into one bowl.
        return _serving(tuple(Use(key, None, grams) for key in keys), often, interval, in_turn=True)
    weights = part.meal.parts if len(part.meal.parts) == len(keys) else (1.0,) * len(keys)
    mixed = (Use(key, None, grams * weight / sum(weights)) for key, weight in zip(keys, weights, strict=True))
    return _serving(tuple(mixed), often, interval)


def dustable(parts: tuple[Serving, ...]) -> bool:
    """Tell whether any of the food can carry powder; of food nobody weighs it is taken to."""
    kinds = {known.kind for part in parts for use in part.uses if (known := foods().get(use.food)) is not None}
    return not kinds or bool(kinds & {*SMALL_PREY, *PLANTS, "pellet", "fish", "rodent", "bird", "egg"})


def powder_days(held: dict[date, tuple[Use, ...]], carrying: week_food.Carrying) -> list[date]:
    """The feeds that carry powder."""
    return [day for day, uses in held.items() if carrying.goes_on(use.food for use in uses)]


Turns = dict[str, date]
NO_TURNS: Final[Turns] = {}


def serve(
    parts: tuple[Serving, ...], feeds: list[date], starts: date, offered: dict[str, date], turns: Turns = NO_TURNS
) -> dict[date, tuple[Use, ...]]:
    """Lay the parts on `feeds` to come, in order. `offered` tells the last day of each food; turns are counted from `starts`.

    `turns` are those given last, as `turns_given` has them.

    A rarer part follows the rules of a powder: a missed turn comes with the next feed and is never doubled. Of foods in turn the
    one that was not given for longest is next.
    """
    found: dict[date, list[Use]] = {day: [] for day in feeds}
    for index, part in enumerate(parts):
        given = {use.food: offered.get(use.food, date.min) for use in part.uses}
        for day in _days_of(index, parts, feeds, starts, offered, turns):
            if not part.in_turn:
                found[day] += part.uses
                continue
            # The first of those alike wins: min keeps the order of the ration.
            turn = min(part.uses, key=lambda use: given[use.food])
            given[turn.food] = day
            found[day].append(turn)
    return {day: tuple(uses) for day, uses in found.items()}


def _days_of(
    index: int, parts: tuple[Serving, ...], feeds: list[date], starts: date, offered: dict[str, date], turns: Turns
) -> list[date]:
    """The feeds that carry one part."""
    product = _as_product(index, parts[index])
    if product is None:
        return feeds
    told = [offered[food] for food in _telling(index, parts) if food in offered]
    past = Past({product.name: max(told)} if told else {}, {}, max(offered.values(), default=None), len(offered), turns)
    return [day for day, items in rota(feeds, (product,), starts, past).items() if items]


def turns_given(parts: tuple[Serving, ...], meals: tuple[tuple[date, tuple[str, ...]], ...], starts: date) -> Turns:
    """Of each part that comes less often, the day its last turn given fell due, out of meals and their foods, oldest first."""
    found: Turns = {}
    for index, part in enumerate(parts):
        product, telling = _as_product(index, part), set(_telling(index, parts))
        if product is not None:
            turn = turn_given(product, [day for day, foods_of in meals if telling & set(foods_of)], starts)
            found |= {} if turn is None else {product.name: turn}
    return found


def _as_product(index: int, part: Serving) -> Product | None:
    """A part with its own turns as the rota of the powders sees it; None for what comes with each feed."""
    return None if part.every_days is None else Product(f"part {index}", every_days=part.every_days)


def _telling(index: int, parts: tuple[Serving, ...]) -> list[str]:
    """The foods that tell that a part was given: those no other part has, where it has such."""
    others = {use.food for number, other in enumerate(parts) if number != index for use in other.uses}
    mine = [use.food for use in parts[index].uses]
    return [food for food in mine if food not in others] or mine
