"""A bowl of greens put into a menu: how much of it a feed is, and what else the animal eats, which stays."""

from typing import Any, Final

from husbandry.animal.body import Body
from husbandry.animal.growth_outlook import expected_length_at
from husbandry.diet import salads
from husbandry.diet.foods import PLANTS, Food, foods
from husbandry.errors import HusbandryError
from husbandry.feeding.servings import Serving, servings_of
from husbandry.feeding.week_food import Fed
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.species.stages import expected_mass_kg

# Where the book gives no amount: of the animal's weight a day (common practice, no source: greens for a tortoise 5 to 10 %).
USUAL_SHARE: Final = 0.05
# A bowl this many times the usual one is asked about before it is fed: a keeper who weighs differs by two, not by three.
DOUBTFUL_TIMES: Final = 2.5
MOST_FOODS: Final = 16
LEAST_SHARE: Final = 0.001  # of a bowl: less is not weighed out


class NotWeighableError(HusbandryError, ValueError):
    """The rest of the menu has no amount as long as the animal's weight is not known; `foods` names it as the book does."""

    def __init__(self, names: tuple[str, ...]) -> None:
        super().__init__(", ".join(names))
        self.foods = names


class TooManyFoodsError(HusbandryError, ValueError):
    """A menu holds `MOST_FOODS` at most; `count` is what it would hold."""

    def __init__(self, count: int) -> None:
        super().__init__(str(count))
        self.count = count


def bowl_of(profile: Profile) -> str:
    """Which bowl this species eats from: by what it is and what its meals name."""
    named = {key for stage in profile.stages for meal in stage.feeding.meals for key in meal.foods}
    if "grass-hay" in named and profile.diet == "plants":
        return "grazer"
    if profile.habit in ("aquatic", "semi-aquatic"):
        return "water"
    kinds = {foods()[key].kind for key in named if key in foods()}
    if "fruit" in kinds:
        return "forest"
    return "weeds" if profile.group == "tortoise" else "leaves"


def plants() -> dict[str, Food]:
    """Every plant of the table."""
    return {key: item for key, item in foods().items() if item.kind in PLANTS}


def mixed(
    grams: dict[str, float], ticked: list[str], bowl: salads.Parts, usual: float, store: dict[str, float] | None = None
) -> tuple[dict[str, float], tuple[str, ...]]:
    """Mix as much as there was of what is ticked, else `usual` grams, of each at most what is in `store`; and what gave way."""
    if not ticked:
        return grams, ()
    whole = sum(grams.values()) or usual
    at_most = None
    if store is not None:
        whole = min(whole, sum(store.values()))
        at_most = tuple(store[key] / whole for key in ticked)
        at_most = at_most if sum(at_most) > 1.0 else tuple(share * (1 + 1e-9) / sum(at_most) for share in at_most)
    found = salads.mix(tuple(plants()[key] for key in ticked), bowl, at_most=at_most)
    amounts = {key: round(whole * share, 1) for key, share in zip(ticked, found.shares, strict=True) if share > LEAST_SHARE}
    return amounts, found.gave_way


def eaters_kg(plan: HabitatPlan, profile: Profile, body: Body) -> float | None:
    """Return what all the animals weigh together, in kg: as weighed, else by length or age; None where nothing is known."""
    if body.mass_kg is not None:
        return body.mass_kg * plan.animal.count
    if body.age_days is None:
        return None
    length_m = expected_length_at(profile, plan.animal.sex, body.age_days)
    return expected_mass_kg(profile, length_m, plan.animal.sex) * plan.animal.count


def usual_g(plan: HabitatPlan, profile: Profile, fed: Fed, body: Body) -> float | None:
    """Return what one feed of greens weighs for all animals, in g: the book's amount, else a share of their weight.

    None where nothing tells their weight.
    """
    all_kg = eaters_kg(plan, profile, body)
    if all_kg is None:
        return None
    parts = [part.grams(all_kg) for part in fed.rations if any(_green(key) for key in part.meal.foods)]
    known = [grams for grams in parts if grams]
    return max(known) if known else 1000 * USUAL_SHARE * all_kg


def doubtful(grams: float, usual: float | None) -> bool:
    """Tell whether a bowl is so much more than the usual one that it must be asked about."""
    return usual is not None and grams > DOUBTFUL_TIMES * usual


def with_bowl(plan: HabitatPlan, fed: Fed, body: Body, grams: dict[str, float]) -> list[dict[str, Any]]:
    """Return the items of a menu in which the greens are `grams` of each a feed; everything else it feeds stays as it is.

    Where the menu was the book's, its other parts are written out. Raises NotWeighableError where one of them has no amount,
    and TooManyFoodsError.
    """
    if plan.feeding.items:
        greens = [item for item in plan.feeding.items if _green(item.food)]
        kept = [item.model_dump(mode="json") for item in plan.feeding.items if not _green(item.food)]
        often = {item.per_week for item in greens}
        per_week = often.pop() if len(often) == 1 else None
    else:
        weighed = [part for part in fed.rations if any(key in foods() for key in part.meal.foods)]
        lost = tuple(part.meal.food for part in weighed if part.meal.food in fed.unknown and not _all_green(part.meal.foods))
        if lost:
            raise NotWeighableError(lost)
        servings = servings_of(plan, fed, body)
        main = _main(servings)
        kept = [item for part in servings for item in _items(part, fed.interval_days, replaced=part is main, without=set(grams))]
        per_week = None if main is None or main.every_days is None else 7 / main.every_days
    rhythm = {} if per_week is None else {"per_week": per_week}
    items = kept + [{"food": key, "grams": amount} | rhythm for key, amount in grams.items()]
    if len(items) > MOST_FOODS:
        raise TooManyFoodsError(len(items))
    return items


def _green(key: str) -> bool:
    known = foods().get(key)
    return known is not None and known.kind in PLANTS


def _all_green(keys: tuple[str, ...]) -> bool:
    return all(_green(key) for key in keys if key in foods())


def _main(servings: tuple[Serving, ...]) -> Serving | None:
    """The part of the book's menu that a bowl stands for: the greens that come most often."""
    greens = [part for part in servings if any(_green(use.food) for use in part.uses)]
    return min(greens, key=lambda part: part.every_days or 0.0, default=None)


def _items(part: Serving, interval_days: float, *, replaced: bool, without: set[str]) -> list[dict[str, Any]]:
    """A part of the book's menu as the keeper's own items; foods that come in turn each keep their share of the feeds."""
    found = []
    turns = len(part.uses) if part.in_turn else 1
    for use in part.uses:
        if _green(use.food) and (replaced or use.food in without):
            continue
        amount: dict[str, Any] = {"grams": round(use.grams, 2)} if use.pieces is None else {"count": max(round(use.pieces), 1)}
        if part.every_days is not None or turns > 1:
            amount["per_week"] = round(min(7 / (part.every_days or interval_days) / turns, 7.0), 3)
        found.append({"food": use.food} | amount)
    return found
