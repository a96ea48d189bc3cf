"""What is kept of an object belongs to that very object: an equal one is asked anew, and none is taken for one that is gone."""

import gc

from husbandry.inputs.climate_case import enclosure_case
from husbandry.kept import KEPT, kept
from tests.plans import plan


def test_the_same_object_is_asked_for_once_and_an_equal_one_again() -> None:
    asked: list[list[int]] = []

    @kept
    def total(given: list[int]) -> int:
        asked.append(given)
        return sum(given)

    one, other = [1, 2], [1, 2]
    assert [total(one), total(one), total(other), total(one)] == [3, 3, 3, 3]
    assert len(asked) == 2


def test_an_object_that_took_the_place_of_another_is_not_taken_for_it() -> None:
    @kept
    def first(given: list[int]) -> int:
        return given[0]

    for number in range(3 * KEPT):
        assert first([number]) == number
        gc.collect(0)


def test_a_changed_plan_has_its_own_climate() -> None:
    made = plan()
    wide = made.model_copy(update={"enclosure": made.enclosure.model_copy(update={"length_m": 1.5})})
    assert enclosure_case(made) is enclosure_case(made)
    assert enclosure_case(wide).length_m == 1.5
