"""What one feed is, for this animal: the stage rule, sized by the animal and moved by its condition."""

from dataclasses import dataclass
from typing import Final

from husbandry.diet import condition
from husbandry.diet.condition import ConditionStep
from husbandry.diet.foods import Food, foods
from husbandry.diet.gape import WHOLE_KIND, FoodPiece, SizeLimit, is_slender, largest_piece, size_limit
from husbandry.diet.nutrients import Helping
from husbandry.diet.prey import CLASSES, Offer, meal_by_girth, meal_by_share
from husbandry.species.leaves import Range, in_school
from husbandry.species.stage import Limit, Meal, StageFeeding, Supplement

Schools = dict[str, str]
NO_SCHOOLS: Final[Schools] = {}
NO_STEP: Final = ConditionStep("", 1.0)
# The length of a usual piece over the measure its limit goes by: keepers pick prey far slimmer than the rule would bear, a
# quarter-inch cricket for a hatchling with eyes as far apart (common practice, no source).
USUAL_LENGTH: Final = {"gap-of-eyes": 1.8, "head-length": 0.6, "mouth": 0.7, "girth": 1.0, "egg-2": 1.0, "egg-3": 1.0}

# A worm beside insects is given as it is, up to this share of the animal's mass; where worms are the food, several of a smaller one
# (common practice, no source).
WORM_TIMES: Final = 3.0
WORM_OF_MASS: Final = 0.1
WORM_OF_SEVERAL: Final = 0.01
MOST_PIECES: Final = 3.0  # times the book's count, where a stricter limit makes pieces smaller (estimate)
COUNT_ALIKE_G: Final = 0.05  # flies and pinheads are counted alike whatever they weigh (common practice, no source)

# By share of mass keepers give prey up to a quarter thicker than the snake, and its girth is only an estimate (common practice).
ESTIMATE_SLACK: Final = 1.25


@dataclass(frozen=True)
class Eater:
    """The animal as a ration sees it: body form, length by the species' measure and total length in m, mass in kg.

    `measured_m` is the keeper's own measurement of what the size limit goes by; `stock` counts frozen prey by class key.
    """

    form: str
    length_m: float | None = None
    total_length_m: float | None = None
    mass_kg: float | None = None
    measured_m: float | None = None
    stock: dict[str, int] | None = None


@dataclass(frozen=True)
class Ration:
    """One part of a feed: a count, a mass in kg, or a portion in words; `needs_mass` where the animal must be weighed first.

    `limit` is the largest piece allowed, `pieces` a usual piece of each food, `offers` meals of whole prey, best first; `moved`
    tells that condition moved the amount by a step. Counts and masses are for all `eaters` together, an offer for one of `animals`.
    """

    meal: Meal
    count: tuple[int, int] | None = None
    mass_kg: tuple[float, float] | None = None
    needs_mass: bool = False
    limit: SizeLimit | None = None
    pieces: tuple[tuple[str, FoodPiece], ...] = ()
    offers: tuple[Offer, ...] = ()
    moved: float = 1.0
    animals: int = 1
    eaters: int = 1

    def times_a_week(self, interval_days: float) -> float:
        """How often this part is given in a week."""
        often = 7 / interval_days
        return often if self.meal.per_week is None else min(self.meal.per_week, often)

    def grams(self, animals_kg: float | None = None) -> float | None:
        """The middle of what one feed holds, in g; None for a portion nobody can weigh. `animals_kg` is all animals' mass."""
        if self.offers:
            return self.offers[0].mass_kg * 1000 * self.animals
        if self.mass_kg is not None:
            return sum(self.mass_kg) / 2 * 1000
        if self.count is not None and self.pieces:
            fed = [pieces * self._each_kg(key) for key, pieces in self.counted().items() if self._each_kg(key) > 0]
            return sum(fed) / len(fed) * 1000
        if self.meal.about_percent is not None and animals_kg is not None:
            return animals_kg * self.meal.about_percent * 10
        return None

    def counted(self) -> dict[str, float]:
        """Return by food how many pieces make one feed: the middle of the count for the food named first.

        Of heavier ones as many as weigh as much, at least one for each animal; of lighter and of tiny ones no more than the count.
        """
        if self.count is None:
            return {}
        middle = sum(self.count) / 2
        keys = [key for key in self.meal.foods if key in foods()]
        first_kg = next((self._each_kg(key) for key in keys if self._each_kg(key) > 0), 0.0)
        found = {}
        for key in keys:
            each_kg = self._each_kg(key)
            fewer = first_kg / each_kg if each_kg * 1000 > COUNT_ALIKE_G else 1.0
            found[key] = max(middle * min(fewer, 1.0), min(float(self.eaters), middle))
        return found

    def _each_kg(self, key: str) -> float:
        return next((piece.mass_kg for name, piece in self.pieces if name == key), 0.0)

    def helpings(self, interval_days: float, animals_kg: float | None = None) -> tuple[Helping, ...] | None:
        """A week of this part as grams of each food; None where the amount or the foods are not known.

        Foods given in turn ("crickets or roaches") and the parts of a mix count in equal shares, unless shares are given.
        """
        each, table = self.grams(animals_kg), foods()
        keys = tuple(key for key in self.meal.foods if key in table)
        if each is None or not keys:
            return None
        if self.offers:
            keys = (self.offers[0].prey.animal, *(key for key in keys if key not in CLASSES))
        parts = self.meal.parts if len(self.meal.parts) == len(keys) else (1.0,) * len(keys)
        grams = each * self.times_a_week(interval_days)
        return tuple(Helping(table[key], grams * part / sum(parts)) for key, part in zip(keys, parts, strict=True))


PREY: Final = "prey"  # a topic of every species whose prey goes by its head, with its schools
PREY_LIMITS: Final[dict[str, tuple[Limit, str]]] = {
    "width": ("gap-of-eyes", "no wider than the gap between the eyes"),
    "length": ("head-length", "no longer than the head"),
}


def meals_in_use(feeding: StageFeeding, schools: Schools) -> tuple[Meal, ...]:
    """The stage's meals by the keeper's schools, with the limit of prey that the keeper goes by."""
    return tuple(_limited(meal, schools) for meal in in_school(feeding.meals, schools))


def prey_goes_by(feeding: StageFeeding) -> str:
    """Return the school of prey size the book goes by ("width" or "length"), "" where no meal goes by the head."""
    limits = {limit: school for school, (limit, _said) in PREY_LIMITS.items()}
    return next((limits[meal.limit] for meal in feeding.meals if meal.limit in limits), "")


def _limited(meal: Meal, schools: Schools) -> Meal:
    """The meal with the keeper's limit; as many more or fewer pieces as weigh what the book's would."""
    chosen = PREY_LIMITS.get(schools.get(PREY, ""))
    by_head = {limit for limit, _said in PREY_LIMITS.values()}
    if chosen is None or meal.limit not in by_head or meal.limit == chosen[0]:
        return meal
    return meal.model_copy(update={"limit": chosen[0], "prey_limit": chosen[1]})


def rations(
    feeding: StageFeeding,
    eater: Eater,
    animals: int = 1,
    schools: Schools = NO_SCHOOLS,
    step: ConditionStep = NO_STEP,
    *,
    lean: bool = False,
) -> tuple[Ration, ...]:
    """Apply the stage's meals to an animal; counts and masses are for all `animals` together, `lean` at their low ends.

    Parameters
    ----------
    feeding
        The stage's rules.
    eater
        The animal's sizes.
    animals
        How many eat.
    schools
        The keeper's.
    step
        That of its condition.
    lean
        Whether it is to grow slowly.

    Returns
    -------
    Rations, in pieces or kg.

    References
    ----------
    The rules' own bases.
    """
    factor = step.factor if step.moved == "ration" else 1.0
    meals, usual = meals_in_use(feeding, schools), in_school(feeding.meals, schools)
    found = []
    for meal, books in zip(meals, usual, strict=True):
        more = _as_heavy(meal, books, eater)
        found.append(_ration(_least(more) if lean else more, eater, animals, factor))
    return tuple(found)


def _as_heavy(meal: Meal, books: Meal, eater: Eater) -> Meal:
    """The meal with as many pieces as weigh what the book's limit of prey would give."""
    if meal.limit == books.limit or meal.count_low is None:
        return meal
    mine, usual = (_ration(item, eater, 1, 1.0).grams() for item in (meal, books))
    if not mine or not usual:
        return meal
    times = min(max(usual / mine, 1 / MOST_PIECES), MOST_PIECES)
    low = max(round(meal.count_low * times), 1)
    high = max(round((meal.count_high or meal.count_low) * times), low)
    return meal.model_copy(update={"count_low": low, "count_high": high})


def _least(meal: Meal) -> Meal:
    """The same meal at the low end of its amount."""
    return meal.model_copy(update={"count_high": meal.count_low, "mass_share_high_percent": meal.mass_share_low_percent})


def _ration(meal: Meal, eater: Eater, animals: int, factor: float) -> Ration:
    limit, table = _limit(meal, eater), foods()
    meal = _swallowed(meal, limit)
    named = [key for key in meal.foods if key in table]
    # What is named first is what the count is of; a worm beside crickets is given as it is, one in place of several.
    sized = ((key, _usual(table[key], limit, eater.mass_kg, beside=key != named[0])) for key in named)
    pieces = tuple((key, _at_most(piece, meal.longest_mm)) for key, piece in sized if piece is not None)
    whole = tuple(key for key in meal.foods if key in CLASSES)
    if meal.count_low is not None:
        high = meal.count_high if meal.count_high is not None else meal.count_low
        low, high = condition.moved_count(meal.count_low, high, factor)
        return Ration(meal, (low * animals, high * animals), limit=limit, pieces=pieces, moved=factor, eaters=animals)
    if meal.mass_share_low_percent is not None:
        if eater.mass_kg is None:
            return Ration(meal, needs_mass=True)
        high_share = meal.mass_share_high_percent or meal.mass_share_low_percent
        each = (eater.mass_kg * meal.mass_share_low_percent / 100 * factor, eater.mass_kg * high_share / 100 * factor)
        thickest = limit.at_most_m if limit is not None and limit.dimension == "width" else None
        if thickest is not None and limit is not None and not limit.measured:
            thickest *= ESTIMATE_SLACK
        offers = meal_by_share(whole, *each, at_most_m=thickest, in_stock=eater.stock) if whole else ()
        return Ration(
            meal, mass_kg=(each[0] * animals, each[1] * animals), limit=limit, offers=offers, moved=factor, animals=animals
        )
    if whole and meal.limit == "girth" and meal.school:
        if limit is None:
            return Ration(meal, needs_mass=True)
        offers = meal_by_girth(whole, limit.at_most_m, in_stock=eater.stock)
        return Ration(meal, limit=limit, offers=offers, moved=factor, animals=animals)
    return Ration(meal, limit=limit, pieces=pieces, moved=factor)


def _swallowed(meal: Meal, limit: SizeLimit | None) -> Meal:
    """The meal without eggs too wide to be swallowed whole, where others are left."""
    if limit is None:
        return meal
    slack = 1.0 if limit.measured else ESTIMATE_SLACK
    widest_m = limit.at_most_m * slack

    def too_wide(key: str) -> bool:
        item = foods().get(key)
        return (
            item is not None and item.kind == WHOLE_KIND and (item.length_mm or 0.0) * (item.width_share or 0.0) > widest_m * 1000
        )

    left = tuple(key for key in meal.foods if not too_wide(key))
    return meal if not left or len(left) == len(meal.foods) else meal.model_copy(update={"foods": left, "parts": ()})


def _limit(meal: Meal, eater: Eater) -> SizeLimit | None:
    if meal.limit is None or (eater.length_m is None and eater.measured_m is None):
        return None
    length_m = eater.length_m or 0.0
    return size_limit(meal.limit, eater.form, length_m, eater.mass_kg, eater.total_length_m or length_m, eater.measured_m)


def _usual(item: Food, limit: SizeLimit | None, mass_kg: float | None, *, beside: bool) -> FoodPiece | None:
    """A usual piece: under the largest allowed, or grown where that is small enough.

    A worm that goes by the head, or stands `beside` other food, has at most a share of the eater's mass where that is known.
    """
    largest = largest_piece(item, limit)
    if largest is None or limit is None or item.length_mm is None:
        return largest
    slender = is_slender(item)
    if slender and mass_kg is not None and (beside or limit.by == "head-length"):
        share = WORM_OF_MASS if beside else WORM_OF_SEVERAL
        return _shrunk(largest, min(1.0, share * mass_kg / largest.mass_kg) ** (1 / 3))
    wanted_m = USUAL_LENGTH[limit.by] * limit.at_most_m * (WORM_TIMES if slender else 1.0)
    return _shrunk(largest, min(1.0, wanted_m / largest.length_m) if limit.by in ("gap-of-eyes", "head-length", "mouth") else 1.0)


def _at_most(piece: FoodPiece, longest_mm: float | None) -> FoodPiece:
    """The piece, or a smaller one that is no longer than the meal bears."""
    return piece if longest_mm is None else _shrunk(piece, min(1.0, longest_mm / 1000 / piece.length_m))


def _shrunk(piece: FoodPiece, shrink: float) -> FoodPiece:
    return FoodPiece(piece.length_m * shrink, piece.width_m * shrink, piece.mass_kg * shrink**3)


def interval_days(rule: Range, chosen: int | None, step: ConditionStep = NO_STEP, *, lean: bool = False) -> int:
    """Return the interval in use: the keeper's, else the rule's shorter end (the longer one for lean growth), moved by condition.

    In whole days.
    """
    if chosen is not None:
        return chosen
    ends = (rule.high, rule.low) if lean else (rule.low, rule.high)
    days = max(1, round(next((end for end in ends if end is not None), 1)))
    return condition.moved_interval(days, step.factor) if step.moved == "interval" else days


def supplements_in_use(feeding: StageFeeding, *, uvb: bool, schools: Schools = NO_SCHOOLS) -> tuple[Supplement, ...]:
    """Return the products that apply with or without working UVB."""
    return tuple(item for item in in_school(feeding.supplements, schools) if item.uvb in ("either", "with" if uvb else "without"))
