"""What a behaviour may mean, by the enclosure as it stands and by the animal's own circumstances."""

from typing import Any

import pytest

from husbandry.assess.assess import WHOLE
from husbandry.watch.behaviour import CAUSES, WAITS_FOR_NOTHING, Cause, Explained, explained, telling
from tests.plans import assessed_as, plan


def seen(what: str, *, season: str = "winter", circumstances: dict[str, bool] | None = None, **changes: Any) -> list[Explained]:
    return explained(what, assessed_as(plan(**changes), WHOLE).quantities, season, circumstances or {})


def leading(found: list[Explained]) -> set[Cause]:
    return {one.cause for one in found if one.evidence == "for"}


def test_under_a_weak_lamp_basking_all_day_means_a_weak_spot_and_the_infrared_tells() -> None:
    # "Basks all day: spot too weak, or core never warm" (common practice, no source).
    weak = seen("basks-all-day", heaters__0__watts=15.0)
    assert Cause.SPOT_WEAK in leading(weak)
    assert telling(weak) == "basking-surface"
    good = seen("basks-all-day")
    assert next(one for one in good if one.cause is Cause.SPOT_WEAK).evidence != "for"


def test_in_a_hot_room_never_basking_means_warm_nights_and_a_warm_cool_end() -> None:
    # "Never basks: nights too warm, room hot, summer rest" (common practice, no source).
    hot = {"day_c": 33.0, "night_c": 31.0, "humidity_percent": 50.0}
    found = seen("never-basks", season="summer", room={"summer": hot, "winter": hot})
    assert {Cause.NIGHT_WARM, Cause.COOL_END_HOT} <= leading(found)
    assert telling(found) in {"warm-air", "cool-air"}


def test_eyes_shut_under_a_tube_that_is_too_strong_means_the_tube() -> None:
    # "Blinks or shuts its eyes under the tube: UV too strong" (common practice, no source).
    strong = seen("shuts-eyes", uv_lamps__0__kind="slim-12", uv_lamps__0__height_m=0.2)
    assert strong[0].cause is Cause.UV_STRONG
    assert telling(strong) == "uv-back"


@pytest.mark.parametrize(
    ("what", "circumstance", "cause"),
    [
        ("will-not-eat", "new", Cause.NEW_HERE),
        ("will-not-eat", "breeding-fast", Cause.BREEDING_FAST),
        ("hides-always", "hatchling", Cause.HATCHLING),
        ("still-but-awake", "resting", Cause.RESTING),
        ("digs", "gravid", Cause.GRAVID),
        ("soaks-long", "shedding", Cause.SHEDDING),
    ],
)
def test_sick_or_season_goes_by_the_animals_own_circumstances(what: str, circumstance: str, cause: Cause) -> None:
    # Hiding is normal in a hatchling and after a move; a snake's breeding fast and a summer rest are no illness
    # (common practice, no source).
    assert cause in leading(seen(what, circumstances={circumstance: True}))
    against = seen(what, circumstances={circumstance: False})
    assert next(one for one in against if one.cause is cause).evidence == "against"
    unknown = seen(what)
    assert next(one for one in unknown if one.cause is cause).evidence == "open"


@pytest.mark.parametrize("what", sorted(CAUSES))
def test_every_behaviour_has_several_causes_ordered_by_the_evidence(what: str) -> None:
    found = seen(what)
    assert len(found) == len(CAUSES[what]) >= 2
    assert len({one.cause for one in found}) == len(found)
    order = [("for", "open", "against").index(one.evidence) for one in found]
    assert order == sorted(order)
    assert all(one.chance is None or 0.0 <= one.chance <= 1.0 for one in found)


def test_where_an_eye_or_a_breath_is_in_question_illness_is_never_left_out() -> None:
    for what in WAITS_FOR_NOTHING:
        assert Cause.ILL in {one.cause for one in seen(what)}


def test_what_is_as_always_has_no_cause() -> None:
    assert seen("normal") == []
    assert telling([]) == ""
