"""The sums of a whole week's food: calcium, phosphorus, vitamins D3 and A, iodine, protein, fat, fibre, shares and flags.

Limits: calcium over phosphorus at least 1.5 to 2 and no more than about 6 (clinical advice, recalled). Vitamins by dry
matter: D3 at most about 5,000 IU and A of powders at most about 20,000 IU a kg, both cautious caps (recalled, no one source).
Vitamin A has a floor too: 1,500 IU of retinol a kg of dry matter is what hens need (NRC 1994) and under half of what cats need
(3,333 IU; NRC 2006), both recalled; that insect eaters need no less is an estimate. What lives on plants makes it of carotene.
Fish that destroys thiamin wants 25 to 35 mg of thiamin a kg with it (Geraci 1974, of seals; recalled). Of iodine 0.3 mg a kg of dry
matter serve most animals and twice as much where the cabbage kind is fed (NRC 2005; recalled).
Fibre and protein of plant eaters by dry matter (recalled). All sums run over every product and every part of the meals.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

from husbandry.diet.foods import PLANTS, WHOLE_PREY, Food
from husbandry.diet.powders import Powder

RATIO_WANTED: Final = (1.5, 6.0)
RATIO_DANGER: Final = 1.0
D3_CAP_IU_PER_KG: Final = 5_000.0
A_CAP_IU_PER_KG: Final = 20_000.0
A_FLOOR_IU_PER_KG: Final = 1_500.0
THIAMIN_MG_PER_KG_OF_FISH: Final = 30.0
THIAMINASE_SHARE: Final = 0.25  # of the animal food by mass, beyond which no powder makes it good (estimate)
IODINE_MG_PER_KG: Final = 0.6  # beside the cabbage kind
FATTY_SHARE: Final = 0.25  # of the week's animal food by mass (common practice, no source)
OXALATE_SHARE: Final = 0.15  # of the week's plants
GOITROGEN_SHARE: Final = 0.4
ONE_PREY_SHARE: Final = 0.9


@dataclass(frozen=True)
class Helping:
    """A food and how many grams of it the week holds."""

    food: Food
    grams: float


@dataclass(frozen=True)
class Dose:
    """A powder and how many grams of it the week's meals carry."""

    name: str
    powder: Powder
    grams: float


@dataclass(frozen=True)
class NutrientSums:
    """A week's sums. Masses in g or mg as named, vitamins in IU per kg of dry matter; None where a food's figures are unknown.

    `a_iu_per_kg` is of the powders alone, `retinol_iu_per_kg` of powders and animal food, `carotene_iu_per_kg` what the plants'
    is worth. `calcium_low_mg` and `calcium_high_mg` are what the calcium lies between where foods vary. `thiaminase_g` is of fish
    that destroys thiamin. `iodine_mg_per_kg` is of the powders. `unknown_share` is the part by mass whose calcium and phosphorus
    are not known; the ratio leaves it out.
    """

    grams: float
    dry_g: float
    kj: float
    calcium_mg: float
    calcium_low_mg: float
    calcium_high_mg: float
    phosphorus_mg: float
    dust_calcium_mg: float
    d3_iu_per_kg: float
    a_iu_per_kg: float
    retinol_iu_per_kg: float
    carotene_iu_per_kg: float
    iodine_mg_per_kg: float
    thiaminase_g: float
    protein_share: float | None
    fibre_share: float | None
    fruit_share: float
    plant_share: float
    hay_share: float
    fatty_share: float
    oxalate_share: float
    goitrogen_share: float
    thiaminase_share: float
    whole_prey_share: float
    one_prey: str
    unknown_share: float
    unknown_a_share: float

    @property
    def ratio(self) -> float | None:
        """Calcium over phosphorus by mass, dust included; None where nothing is known."""
        return self.calcium_mg / self.phosphorus_mg if self.phosphorus_mg > 0 else None


def _share(among: list[Helping], part: Iterable[Helping]) -> float:
    """Return the share of some helpings, by mass, that a part of them makes up; 0 of nothing."""
    whole = sum(item.grams for item in among)
    return sum(item.grams for item in part) / whole if whole else 0.0


def _having(among: list[Helping], trait: str) -> float:
    """Return the share of some helpings, by mass, whose food has a trait."""
    return _share(among, (item for item in among if trait in item.food.traits))


def _of_dry_matter(eaten: list[Helping], dry_g: float, name: str) -> float | None:
    """Return the share of the dry matter that a nutrient makes up; None where it is not known of every food."""
    told = [(item, getattr(item.food, name)) for item in eaten]
    if not told or any(value is None for _item, value in told):
        return None
    return sum(item.grams * value for item, value in told) / 1000 / dry_g


def _calcium_mg(known: list[Helping], end: str) -> float:
    """Return the calcium of some helpings at one end of what it varies between."""
    found = 0.0
    for item in known:
        at_end = getattr(item.food, end)
        found += item.grams * ((item.food.calcium_mg or 0.0) if at_end is None else at_end) / 1000
    return found


def _vitamin_a(helpings: list[Helping]) -> float:
    return sum(item.grams * (item.food.vitamin_a_iu or 0.0) for item in helpings) / 1000


def week(helpings: Iterable[Helping], doses: Iterable[Dose] = ()) -> NutrientSums:
    """Add up a week. Doses count only where there is food to carry them.

    Parameters
    ----------
    helpings
        Foods in g a week.
    doses
        Powders in g a week.

    Returns
    -------
    NutrientSums.

    References
    ----------
    Sums of the tables of Finke and of Dierenfeld (docs/models.md [15]–[17]; recalled).
    """
    eaten, dusted = [item for item in helpings if item.grams > 0], list(doses)
    grams = sum(item.grams for item in eaten)
    dry = sum(item.grams * item.food.dry_share for item in eaten)
    known = [item for item in eaten if item.food.ratio is not None]
    from_food = sum(item.grams * (item.food.calcium_mg or 0.0) for item in known) / 1000
    phosphorus = sum(item.grams * (item.food.phosphorus_mg or 0.0) for item in known) / 1000
    dust = sum(item.grams * item.powder.calcium_mg for item in dusted) if eaten else 0.0
    dust_phosphorus = sum(item.grams * item.powder.phosphorus_mg for item in dusted) if eaten else 0.0
    plants = [item for item in eaten if item.food.kind in PLANTS]
    animals = [item for item in eaten if item.food.kind not in PLANTS]
    dry_kg = dry / 1000
    powder_d3, powder_a = (sum(item.grams * getattr(item.powder, name) for item in dusted) for name in ("d3_iu", "a_iu"))

    def per_kg(amount: float) -> float:
        return amount / dry_kg if dry_kg else 0.0

    insects = [item for item in animals if item.food.kind in ("insect", "worm")]
    most = max(insects, key=lambda item: item.grams, default=None)
    alone = most is not None and _share(insects, (most,)) >= ONE_PREY_SHARE and _share(eaten, insects) > 0.5
    return NutrientSums(
        grams=grams,
        dry_g=dry,
        kj=sum(item.grams * item.food.kj_per_g for item in eaten),
        calcium_mg=from_food + dust,
        calcium_low_mg=_calcium_mg(known, "calcium_low_mg") + dust,
        calcium_high_mg=_calcium_mg(known, "calcium_high_mg") + dust,
        phosphorus_mg=phosphorus + dust_phosphorus,
        dust_calcium_mg=dust,
        d3_iu_per_kg=per_kg(powder_d3 + sum(item.grams * item.food.vitamin_d3_iu for item in eaten) / 1000),
        a_iu_per_kg=per_kg(powder_a),
        retinol_iu_per_kg=per_kg(powder_a + _vitamin_a(animals)),
        carotene_iu_per_kg=per_kg(_vitamin_a(plants)),
        iodine_mg_per_kg=per_kg(sum(item.grams * item.powder.iodine_mg for item in dusted)),
        thiaminase_g=sum(item.grams for item in animals if "thiaminase" in item.food.traits),
        protein_share=_of_dry_matter(eaten, dry, "protein_g"),
        fibre_share=_of_dry_matter(eaten, dry, "fibre_g"),
        fruit_share=_share(eaten, (item for item in eaten if item.food.kind == "fruit")),
        plant_share=_share(eaten, plants),
        hay_share=_share(plants, (item for item in plants if item.food.kind == "hay")),
        fatty_share=_having(insects, "fatty"),
        oxalate_share=_having(plants, "oxalate"),
        goitrogen_share=_having(plants, "goitrogen"),
        thiaminase_share=_having(animals, "thiaminase"),
        whole_prey_share=_share(eaten, (item for item in eaten if item.food.kind in WHOLE_PREY)),
        one_prey=most.food.name if most is not None and alone else "",
        unknown_share=_share(eaten, (item for item in eaten if item.food.ratio is None)),
        unknown_a_share=_share(eaten, (item for item in eaten if item.food.vitamin_a_iu is None)),
    )


def dust_for_ratio(found: NutrientSums, powder: Powder, ratio: float) -> float:
    """Return how many grams of `powder` a week more bring the week to `ratio`; 0 where it has enough.

    Raises ValueError for a powder that cannot: one with no more than `ratio` times its phosphorus in calcium.

    Parameters
    ----------
    found
        The week's sums.
    powder
        The powder.
    ratio
        The ratio of calcium to phosphorus that is wanted.

    Returns
    -------
    g a week.

    References
    ----------
    (Ca + x·ca)/(P + x·p) = ratio, solved for x.
    """
    each = powder.calcium_mg - ratio * powder.phosphorus_mg
    if each <= 0:
        raise ValueError("this powder cannot reach the ratio")
    return max((ratio * found.phosphorus_mg - found.calcium_mg) / each, 0.0)
