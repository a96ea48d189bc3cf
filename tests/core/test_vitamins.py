"""Vitamins of a week's food: the floor of vitamin A, thiamin beside fish, iodine beside cabbage, the keeper's own powder."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.assess.result import Assessment
from husbandry.assessment import Severity, Verdict
from husbandry.codes import FindingCode
from husbandry.diet import nutrients
from husbandry.diet.foods import PLANTS, food, foods
from husbandry.diet.nutrients import Helping
from husbandry.diet.powders import POWDERS
from tests.plans import assessed

FROG: dict[str, Any] = {"species": "whites-tree-frog", "animal": {"mass_kg": 0.06, "length_m": 0.08}}
TURTLE: dict[str, Any] = {"species": "musk-turtle", "animal": {"mass_kg": 0.25, "length_m": 0.1}}
TORTOISE: dict[str, Any] = {"species": "russian-tortoise", "animal": {"mass_kg": 0.3, "length_m": 0.11}}
CRICKETS = [{"food": "cricket", "count": 4}]


def fed(base: dict[str, Any], **feeding: Any) -> Assessment:
    return assessed(**base, feeding=feeding)


def codes(found: Assessment) -> set[str]:
    return {item.code for item in found.findings}


def test_crickets_with_calcium_alone_leave_a_frog_short_of_vitamin_a() -> None:
    """What insect-fed frogs lack (short tongue; veterinary practice, from memory). The book's own powders mend it."""
    short = fed(FROG, items=CRICKETS, supplements=[{"product": "plain calcium", "every_feeds": 1}])
    assert short.quantity("usable_a").verdict is Verdict.OUTSIDE
    (finding,) = (item for item in short.findings if item.code is FindingCode.DIET_A_LITTLE)
    assert finding.remedy is not None
    assert [(change.path, change.value) for change in finding.remedy.changes] == [("feeding.supplements", None)]
    assert FindingCode.DIET_A_LITTLE not in codes(fed(FROG, items=CRICKETS))


def test_greens_are_vitamin_a_to_what_lives_on_them_and_to_nothing_else() -> None:
    """Carotene: plant eaters turn it into retinol; insect eaters are not known to (common clinical advice, recalled)."""
    greens = [{"food": "dandelion", "grams": 30}]
    none: list[dict[str, Any]] = []
    assert fed(TORTOISE, items=greens, supplements=none).quantity("usable_a").verdict is Verdict.INSIDE
    assert fed(FROG, items=greens, supplements=none).quantity("usable_a").value == 0


def test_carotene_is_reckoned_as_food_tables_do() -> None:
    """USDA Standard Reference 28 (recalled): 100 g of carrot hold 16,706 IU by the old rule (0.6 µg of beta-carotene each) and
    835 µg of retinol activity (12 µg of beta-carotene each); a µg of retinol is 3.33 IU."""
    by_carotene = 16_706 * 0.6 / 12 / 0.3 * 10
    assert food("carrot").vitamin_a_iu == pytest.approx(by_carotene, rel=0.01)
    week = nutrients.week([Helping(food("carrot"), 100.0)])
    assert week.carotene_iu_per_kg == pytest.approx(835 / 0.3 * 10 / food("carrot").dry_share, rel=0.01)
    assert week.retinol_iu_per_kg == 0


def test_a_grown_mouse_carries_its_liver_and_a_cricket_next_to_nothing() -> None:
    """Dierenfeld, Alcorn and Jacobsen 2002: adult mice 578,000 IU of vitamin A a kg of dry matter; Barker, Fitzpatrick and
    Dierenfeld 1998: adult crickets 811 (both recalled)."""
    for key, per_dry_kg in (("mouse", 578_000), ("cricket", 811)):
        item = food(key)
        assert (item.vitamin_a_iu or 0) / item.dry_share == pytest.approx(per_dry_kg, rel=0.01)


@pytest.mark.parametrize(("grams", "milligrams"), [(20, 20 * 7 / 3 * 0.03), (2, 2 * 7 / 3 * 0.03)])
def test_fish_that_destroys_thiamin_says_how_much_of_it_to_give(grams: float, milligrams: float) -> None:
    """25 to 35 mg a kg of such fish (Geraci 1974, recalled): here 30."""
    items = [{"food": "thiaminase-fish", "grams": grams}, {"food": "earthworm", "grams": 10}]
    found = fed(TURTLE, items=items, interval_days=3)
    (finding,) = (item for item in found.findings if item.code is FindingCode.DIET_THIAMINASE)
    assert finding.parameters["thiamin"].value == pytest.approx(milligrams, rel=0.01)  # type: ignore[union-attr]
    assert finding.severity is (Severity.WRONG if grams / (grams + 10) > 0.25 else Severity.ADVICE)
    assert FindingCode.DIET_THIAMINASE not in codes(fed(TURTLE, items=[{"food": "fish", "grams": grams}]))


def test_the_cabbage_kind_is_told_of_where_no_powder_brings_iodine() -> None:
    kale = [{"food": "kale", "grams": 20}, {"food": "dandelion", "grams": 10}]
    told = fed(TORTOISE, items=kale, supplements=[])
    assert FindingCode.DIET_GOITROGEN in codes(told)
    label = {"product": "multivitamin", "calcium_percent": 5, "a_iu_per_kg": 50_000, "iodine_mg_per_kg": 900}
    daily = {"product": "multivitamin", "every_feeds": 1}
    assert FindingCode.DIET_GOITROGEN not in codes(fed(TORTOISE, items=kale, supplements=[daily], labels=[label]))


def test_the_label_of_a_powder_stands_in_place_of_what_is_usual() -> None:
    """A multivitamin without retinol ("vitamin A as beta-carotene") is none to a frog."""
    powder = [{"product": "multivitamin", "every_feeds": 1}]
    usual = fed(FROG, items=CRICKETS, supplements=powder)
    strong = {
        "product": "multivitamin",
        "calcium_percent": 6,
        "d3_iu_per_kg": 50_000,
        "a_iu_per_kg": 400_000,
        "iodine_mg_per_kg": 50,
    }
    same = fed(FROG, items=CRICKETS, supplements=powder, labels=[strong])
    for key in ("usable_a", "a_share", "d3_share", "calcium_ratio"):
        assert same.quantity(key).value == pytest.approx(usual.quantity(key).value)
    without = fed(FROG, items=CRICKETS, supplements=powder, labels=[strong | {"a_iu_per_kg": 0}])
    assert FindingCode.DIET_A_LITTLE in codes(without)
    assert without.quantity("a_share").value == 0


def test_calcium_of_worms_is_told_with_what_it_lies_between() -> None:
    """Earthworms have between a tenth of their phosphorus in calcium and more than as much, by their soil (recalled)."""
    wide = fed(TURTLE, items=[{"food": "nightcrawler", "grams": 5}], supplements=[]).quantity("calcium_ratio")
    assert wide.low is not None
    assert wide.high is not None
    assert wide.value is not None
    assert wide.low < 0.2 < wide.value < 1.0 < wide.high
    assert fed(TURTLE, items=[{"food": "mealworm", "grams": 5}], supplements=[]).quantity("calcium_ratio").low is None


def test_every_food_says_its_vitamin_a_and_spreads_hold_the_usual_value() -> None:
    for key, item in foods().items():
        assert item.vitamin_a_iu is not None, key
        if item.calcium_low_mg is not None or item.calcium_high_mg is not None:
            assert (item.calcium_low_mg or 0) < (item.calcium_mg or 0) < (item.calcium_high_mg or 0), key
        if item.kind in PLANTS:
            assert item.fibre_g is not None, key


@given(st.lists(st.tuples(st.sampled_from(sorted(foods())), st.floats(0.1, 500)), min_size=1, max_size=6), st.floats(0, 20))
def test_more_of_a_powder_never_lowers_a_vitamin(eaten: list[tuple[str, float]], grams: float) -> None:
    helpings = [Helping(food(key), amount) for key, amount in eaten]
    bare, dusted = (
        nutrients.week(helpings, [nutrients.Dose("multivitamin", POWDERS["multivitamin"], dose)]) for dose in (0.0, grams)
    )
    assert dusted.retinol_iu_per_kg >= bare.retinol_iu_per_kg
    assert dusted.d3_iu_per_kg >= bare.d3_iu_per_kg
    assert dusted.carotene_iu_per_kg == bare.carotene_iu_per_kg
    assert bare.calcium_low_mg <= bare.calcium_mg + 1e-9 <= bare.calcium_high_mg + 2e-9
