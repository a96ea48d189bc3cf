"""Buy once or step up, what a tank holds inside, and enclosures outgrown."""

from datetime import date, timedelta
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.animal.body import body_of
from husbandry.animal.growth_outlook import outgrown_within, outlook
from husbandry.animal.needs import enclosure_needs
from husbandry.animal.weighings import Weighing
from husbandry.assess.assess import NO_DAYS, assess
from husbandry.design.enclosure_steps import MOST_STEPS, choice
from husbandry.space.nominal import NOMINAL, NothingLeftError, inside, tank_named
from husbandry.space.sizing import SIDES, sides_for
from husbandry.species.book import find, shipped
from tests.plans import TODAY, codes, plan

BARE: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}


def hatchling(species: str, days: int = 40, **more: Any) -> Any:
    box = {"enclosure__length_m": 0.6, "enclosure__width_m": 0.4, "enclosure__height_m": 0.3}
    young = {"animal__hatched": (TODAY - timedelta(days=days)).isoformat(), "animal__mass_kg": None, "animal__length_m": None}
    return plan(species=species, **{**BARE, **box, **young, **more})


def test_a_hatchling_tortoise_steps_up_and_every_home_is_larger_than_the_last() -> None:
    """Common practice, no source: the size, the day each move is due, and an enclosure for every stage that needs another."""
    found = choice(hatchling("hermanns-tortoise"), find("hermanns-tortoise"), TODAY)
    assert found is not None
    homes = found.step_up.homes
    assert [home.stage for home in homes] == [stage.name for stage in find("hermanns-tortoise").stages]
    assert homes[0].since == TODAY  # 60 cm is short for a hatchling already
    assert homes[-1].since is not None
    assert homes[-1].since > TODAY + timedelta(days=700)
    for smaller, larger in pairwise(homes):
        assert all(b >= a for a, b in zip(smaller.sides_m, larger.sides_m, strict=True))
    assert found.once is not None
    assert found.once.homes[0].sides_m == pytest.approx((2.4, 1.2, 0.5))
    assert (found.step_up.moves, found.once.moves) == (len(homes), 1)


def test_prices_are_added_up_once_all_are_known() -> None:
    priced = hatchling("hermanns-tortoise", prices={"once": 420, "steps": [90, 200, 180]})
    found = choice(priced, find("hermanns-tortoise"), TODAY)
    assert found is not None
    assert found.once is not None
    assert (found.step_up.total, found.once.total) == (470, 420)
    half = choice(hatchling("hermanns-tortoise", prices={"steps": [90]}), find("hermanns-tortoise"), TODAY)
    assert half is not None
    assert half.step_up.total is None


def test_in_the_last_enclosure_there_is_nothing_to_buy() -> None:
    found = choice(
        hatchling("hermanns-tortoise", enclosure__length_m=3.0, enclosure__width_m=1.5, enclosure__height_m=0.6),
        find("hermanns-tortoise"),
        TODAY,
    )
    assert found is not None
    assert found.once is None
    assert found.step_up.homes == ()
    assert choice(hatchling("hermanns-tortoise", animal__hatched=None), find("hermanns-tortoise"), TODAY) is None


@pytest.mark.sweep
@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_every_species_gets_a_short_way_to_its_grown_enclosure(profile: Any) -> None:
    """Nobody moves an animal six times, and the last home serves for life."""
    start = hatchling(profile.id, enclosure__length_m=0.3, enclosure__width_m=0.2, enclosure__height_m=0.2)
    found = choice(start, profile, TODAY)
    assert found is not None
    assert 1 <= len(found.step_up.homes) < MOST_STEPS
    last = found.step_up.homes[-1].sides_m
    settled = start.model_copy(
        update={"enclosure": start.enclosure.model_copy(update={f"{s}_m": v for s, v in zip(SIDES, last, strict=True)})}
    )
    if profile.habit not in ("aquatic", "semi-aquatic"):  # their water is filled in later
        after = outlook(settled, profile, TODAY)
        assert after is not None
        assert after.outgrown.day is None


def test_a_juvenile_in_this_tank_is_told_to_move_by_spring() -> None:
    """Common practice, no source: outgrown soon is said before it is so, and the remedy names the size that lasts."""
    young = {"animal__hatched": date(2026, 1, 5).isoformat(), "animal__mass_kg": 0.27, "animal__length_m": 0.24}
    box = {"enclosure__length_m": 0.95, "enclosure__width_m": 0.5, "enclosure__height_m": 0.45}
    made = plan(species="blue-tongued-skink", **BARE, **young, **box)
    found = assess(made, find("blue-tongued-skink"), TODAY, depth=NO_DAYS)
    soon = next(item for item in found.findings if item.code == "space.outgrown_soon")
    assert TODAY < date.fromisoformat(str(soon.parameters["day"])) < TODAY + timedelta(days=181)
    assert soon.remedy is not None
    assert soon.remedy.parameters["length"].value >= 1.2  # type: ignore[union-attr]
    assert "space.too_small" not in codes(found)


def test_the_finding_and_the_figure_give_the_same_day() -> None:
    profile = find("blue-tongued-skink")
    made = plan(
        **BARE,
        species="blue-tongued-skink",
        animal__hatched="2026-01-05",
        animal__mass_kg=0.27,
        animal__length_m=0.24,
        enclosure__length_m=0.95,
    )
    weighings = (Weighing(date(2026, 5, 1), mass_kg=0.12), Weighing(date(2026, 8, 1), mass_kg=0.2))
    near = outgrown_within(made, profile, body_of(made, profile, TODAY), TODAY, 400, weighings)
    far = outlook(made, profile, TODAY, weighings)
    assert near is not None
    assert far is not None
    assert near[0] == far.outgrown.day


def test_the_adults_enclosure_from_the_first_day_is_a_school() -> None:
    by_stage = assess(hatchling("corn-snake"), find("corn-snake"), TODAY, depth=NO_DAYS)
    at_once = assess(hatchling("corn-snake", schools={"size": "adult"}), find("corn-snake"), TODAY, depth=NO_DAYS)
    assert by_stage.quantity("enclosure_length").verdict.value == "inside"
    assert at_once.quantity("enclosure_length").verdict.value == "outside"


def test_four_by_two_by_two_feet_are_453_litres_and_a_breeder_tank_holds_more_than_its_name() -> None:
    """453 L, 119.7 US gal and 44.9 gal by arithmetic (the trade's nominal sizes)."""
    assert inside((4 * 0.3048, 2 * 0.3048, 2 * 0.3048)).volume_m3 * 1000 == pytest.approx(453.1, abs=0.1)
    breeder = NOMINAL["tank-40-gal-breeder"]
    gallons = breeder.length_m * breeder.width_m * breeder.height_m / 3.785411784e-3
    assert gallons == pytest.approx(44.9, abs=0.05)
    assert inside((1.2192, 0.6096, 0.6096)).volume_m3 / 3.785411784e-3 == pytest.approx(119.7, abs=0.05)


def test_walls_background_and_ground_are_taken_off_step_by_step() -> None:
    found = inside((1.2, 0.6, 0.6), wall_m=0.018, back_m=0.05, sides_m=0.03, ground_m=0.15)
    assert (found.length_m, found.width_m, found.height_m) == pytest.approx((1.104, 0.514, 0.564))
    assert found.clear_height_m == pytest.approx(0.414)
    assert [step.code for step in found.steps] == ["walls", "walls", "walls", "backgrounds", "background", "ground"]
    with pytest.raises(NothingLeftError, match="width"):
        inside((0.6, 0.3, 0.3), wall_m=0.018, back_m=0.3)


@given(st.tuples(*[st.floats(0.3, 3.0)] * 3), st.floats(0, 0.05), st.floats(0, 0.1))
def test_the_sum_ends_at_what_is_left(outside: tuple[float, float, float], wall: float, back: float) -> None:
    found = inside(outside, wall_m=wall, back_m=back)
    taken = {axis: sum(step.takes_m for step in found.steps if step.axis == axis) for axis in SIDES}
    assert found.length_m == pytest.approx(outside[0] - taken["length"])
    assert found.width_m == pytest.approx(outside[1] - taken["width"])
    assert found.volume_m3 <= outside[0] * outside[1] * outside[2] + 1e-9


def test_every_page_gives_one_size_for_the_grown_animal() -> None:
    """What is outgrown within months, the figure of its years and the last step name one enclosure, by its own growth."""
    for species, mass_kg, length_m in (
        ("blue-tongued-skink", 0.27, 0.24),
        ("russian-tortoise", 0.12, 0.09),
        ("corn-snake", 0.05, 0.55),
    ):
        profile = find(species)
        box = {"enclosure__length_m": 0.62, "enclosure__width_m": 0.42, "enclosure__height_m": 0.4}
        young = {"animal__hatched": date(2026, 1, 5).isoformat(), "animal__mass_kg": mass_kg, "animal__length_m": length_m}
        made = plan(species=species, **BARE, **young, **box)
        far, body = outlook(made, profile, TODAY), body_of(made, profile, TODAY)
        assert far is not None
        for days in (120.0, 700.0):
            near = outgrown_within(made, profile, body, TODAY, days)
            assert near is None or near[1] == pytest.approx(far.next_size_m)
        grown, _better = enclosure_needs(made, profile, profile.stages[-1], far.course.length_m[-1])
        assert far.next_size_m is None or far.next_size_m == pytest.approx(sides_for(grown))


@pytest.mark.parametrize(
    ("text", "keys"),
    [
        ("40 gallon breeder", ("tank-40-gal-breeder",)),
        ("40 gal", ("tank-40-gal-breeder",)),
        ("20-gallon long", ("tank-20-gal-long",)),
        ("20 US gal tall tank", ("tank-20-gal-high",)),
        ("20 gal", ("tank-20-gal-high", "tank-20-gal-long")),  # nobody knows which
        ("10 gal", ("tank-10-gal",)),
        ("37 gal", ()),
        ("20 gal round", ()),
        ("4 x 2 x 2 ft", ()),
    ],
)
def test_a_tank_is_known_by_its_name(text: str, keys: tuple[str, ...]) -> None:
    assert tank_named(text) == keys


def test_a_tank_of_fifty_five_gallons_holds_about_as_much() -> None:
    """48 × 13 × 21 in are 56.7 US gallons by arithmetic (231 cubic inches each)."""
    tank = NOMINAL["tank-55-gal"]
    assert tank.length_m * tank.width_m * tank.height_m / 3.785411784e-3 == pytest.approx(48 * 13 * 21 / 231, rel=1e-6)
