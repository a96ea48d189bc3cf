"""Growth: the curve, its refit to an animal's own measurements, and the dates that follow."""

import math
from datetime import date, timedelta
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import curve_fit

from husbandry.animal.body import body_of
from husbandry.animal.growth_outlook import Outlook, expected_length_at, masses_at, outlook
from husbandry.animal.weighings import Weighing
from husbandry.assess.nutrition import growth as growth_told
from husbandry.assessment import Quantity, Verdict
from husbandry.codes import ReasonCode
from husbandry.plan.reading import read_data
from husbandry.space.growth import DAYS_PER_YEAR, GROWN_SHARE, Growth, Measurement, Prior, fit, rate
from husbandry.species.book import find, shipped
from husbandry.species.profile import Profile
from husbandry.species.stages import expected_mass_kg
from tests.core.weights import USUAL_G
from tests.plans import TODAY, document, plan
from tests.sample import times

TORTOISE = Prior(0.034, (0.14, 0.20), (7.0, 12.0))


def lengths(growth: Growth, *years: float) -> list[float]:
    return [float(growth.length(year * DAYS_PER_YEAR)) for year in years]


# ---- the curve ----


def test_the_curve_is_gompertzs_equation() -> None:
    """dL/dt = k L ln(L∞/L), Winsor 1932 (recalled), integrated by solve_ivp."""
    growth = fit(TORTOISE)
    k, last = math.exp(growth.log_rate), math.exp(growth.log_last)
    solved = solve_ivp(
        lambda _t, length: k * length * np.log(last / length),
        (0, 4000),
        [TORTOISE.hatch_m],
        t_eval=[500, 1500, 4000],
        rtol=1e-10,
        atol=1e-12,
    )
    assert growth.length(np.array([500.0, 1500.0, 4000.0])) == pytest.approx(solved.y[0], rel=1e-6)


def test_it_begins_at_hatching_and_is_grown_at_the_age_the_species_is() -> None:
    growth = fit(TORTOISE)
    assert lengths(growth, 0.0) == pytest.approx([0.034])
    adult = math.sqrt(0.14 * 0.20)
    assert lengths(growth, math.sqrt(7.0 * 12.0)) == pytest.approx([GROWN_SHARE * adult], rel=1e-6)


def test_the_rate_undoes_the_curve() -> None:
    k = rate(0.05, 0.2, 2.0)
    assert 0.2 * 0.25 ** math.exp(-k * 2 * DAYS_PER_YEAR) == pytest.approx(GROWN_SHARE * 0.2)


@given(length=st.floats(0.035, 0.16))
def test_the_age_at_a_length_has_that_length(length: float) -> None:
    growth = fit(TORTOISE)
    age = growth.age_at(length)
    assert age is not None
    assert float(growth.length(age)) == pytest.approx(length, rel=1e-6)
    assert growth.age_at(1.0) is None


def test_the_spread_of_the_unmeasured_curve_is_the_species_range() -> None:
    low, high = fit(TORTOISE).spread(60 * DAYS_PER_YEAR)
    assert float(low) == pytest.approx(0.14, rel=0.02)
    assert float(high) == pytest.approx(0.20, rel=0.02)


# ---- weights ----


@pytest.mark.parametrize(("species", "usual"), USUAL_G.items())
def test_what_sound_animals_weigh_lies_between_the_lean_and_the_fast_curve(
    species: str, usual: tuple[tuple[float, float, float], ...]
) -> None:
    """From memory, no source: thirty-four species at four ages; the middle curve within a factor of two of their middle."""
    profile = find(species)
    for years, least_g, most_g in usual:
        found = growth_of(profile, years, least_g)
        assert found.band is not None
        assert found.verdict is Verdict.INSIDE, (years, least_g, found.band)
        assert growth_of(profile, years, most_g).verdict is Verdict.INSIDE, (years, most_g, found.band)
        middle_g = 1000 * masses_at(profile, "unknown", years * DAYS_PER_YEAR).middle_kg
        assert 0.5 < middle_g / math.sqrt(least_g * most_g) < 2, years


def growth_of(profile: Profile, years: float, mass_g: float, weighings: tuple[Weighing, ...] = ()) -> Quantity:
    hatched = TODAY - timedelta(days=round(years * DAYS_PER_YEAR))
    made = plan(species=profile.id, schools={}, animal={"hatched": hatched.isoformat(), "mass_kg": mass_g / 1000})
    return next(iter(growth_told(made, profile, body_of(made, profile, TODAY), weighings)))


@pytest.mark.parametrize("species", shipped())
def test_an_animal_of_the_books_hatch_size_weighs_what_it_should(species: str) -> None:
    profile = find(species)
    assert growth_of(profile, 0.0, profile.body.hatch_mass_g.value).verdict is Verdict.INSIDE
    assert expected_mass_kg(profile, profile.body.hatch_length_cm.value / 100) == pytest.approx(
        profile.body.hatch_mass_g.value / 1000
    )


def test_a_lean_year_old_is_right_a_starved_one_light_and_a_stuffed_one_heavy() -> None:
    """From memory, no source: a corn snake of a year weighs 60 to 150 g."""
    corn = find("corn-snake")
    assert [growth_of(corn, 1.0, mass_g).verdict for mass_g in (20.0, 60.0, 150.0, 480.0)] == [
        Verdict.OUTSIDE,
        Verdict.INSIDE,
        Verdict.INSIDE,
        Verdict.OUTSIDE,
    ]


def test_a_small_one_that_keeps_growing_is_not_called_light() -> None:
    corn, day = find("corn-snake"), timedelta(days=1)
    rising = (Weighing(TODAY - 90 * day, 0.012), Weighing(TODAY, 0.020))
    standing = (Weighing(TODAY - 90 * day, 0.0195), Weighing(TODAY, 0.020))
    assert growth_of(corn, 1.0, 20.0, rising).reason.code == ReasonCode.DIET_GROWTH_OWN
    assert growth_of(corn, 1.0, 20.0, rising).verdict is Verdict.INSIDE
    assert growth_of(corn, 1.0, 20.0, standing).verdict is Verdict.OUTSIDE


# ---- the refit ----

TRUE = Growth(math.log(0.16), math.log(rate(0.034, 0.16, 14.0)), np.zeros((2, 2)), 0.034)


def taken(*years: float, off: float = 1.0) -> tuple[Measurement, ...]:
    return tuple(Measurement(year * DAYS_PER_YEAR, off * float(TRUE.length(year * DAYS_PER_YEAR))) for year in years)


def test_an_animals_own_measurements_pull_the_curve_to_it() -> None:
    own = fit(TORTOISE, taken(1, 2, 3, 4, 5, 6))
    assert lengths(own, 8.0) == pytest.approx(lengths(TRUE, 8.0), rel=0.03)
    assert abs(lengths(own, 3.0)[0] - lengths(TRUE, 3.0)[0]) < abs(lengths(fit(TORTOISE), 3.0)[0] - lengths(TRUE, 3.0)[0])


def test_many_measurements_over_a_life_agree_with_plain_least_squares() -> None:
    """scipy's curve_fit without any prior, on the same points."""
    years = np.arange(0.5, 30, 0.25)
    ages = years * DAYS_PER_YEAR
    noisy = np.asarray(TRUE.length(ages)) * np.exp(0.02 * np.sin(7 * years))

    def curve(age: Any, last: float, k: float) -> Any:
        return np.log(last) - np.log(last / 0.034) * np.exp(-k * age)

    (last, k), _ = curve_fit(curve, ages, np.log(noisy), p0=[0.17, 1e-3])
    own = fit(TORTOISE, tuple(Measurement(float(a), float(m)) for a, m in zip(ages, noisy, strict=True)))
    assert math.exp(own.log_last) == pytest.approx(last, rel=0.01)
    assert math.exp(own.log_rate) == pytest.approx(k, rel=0.05)


def test_each_measurement_narrows_the_spread() -> None:
    def width(growth: Growth) -> float:
        low, high = growth.spread(5 * DAYS_PER_YEAR)
        return float(high - low)

    assert width(fit(TORTOISE)) > width(fit(TORTOISE, taken(1))) > width(fit(TORTOISE, taken(1, 2, 3)))


def test_a_weighing_counts_for_less_than_a_length() -> None:
    big = taken(2, off=1.15)[0]
    by_length = fit(TORTOISE, (big,))
    by_mass = fit(TORTOISE, (Measurement(big.age_days, big.length_m, from_mass=True),))
    prior = lengths(fit(TORTOISE), 2.0)[0]
    assert abs(lengths(by_length, 2.0)[0] - prior) > abs(lengths(by_mass, 2.0)[0] - prior)


@settings(max_examples=times(13, 40), deadline=None)
@given(st.lists(st.tuples(st.floats(0, 20_000), st.floats(0.005, 1.0)), max_size=5))
def test_no_measurement_breaks_the_fit(points: list[tuple[float, float]]) -> None:
    growth = fit(TORTOISE, tuple(Measurement(age, length) for age, length in points))
    line = growth.length(np.linspace(0, 20_000, 50))
    assert np.all(np.isfinite(line))
    assert np.all(np.diff(line) >= -1e-12)


# ---- the dates ----

BARE: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None, "ground__depth_m": 0.03}


def ahead(species: str, animal: dict[str, Any], size: tuple[float, float, float], *weighed: Weighing) -> Outlook:
    box = {"kind": "foamed-pvc", "length_m": size[0], "width_m": size[1], "height_m": size[2], "lid": "solid"}
    plan = read_data(document(species=species, animal=animal, enclosure=box, **BARE))
    found = outlook(plan, find(species), TODAY, weighed)
    assert found is not None
    return found


def test_a_stage_that_goes_by_age_comes_on_its_birthday() -> None:
    """Common practice, no source: an adult leopard gecko at twelve months."""
    hatched = date(2026, 6, 1)
    found = ahead("leopard-gecko", {"hatched": hatched.isoformat(), "mass_kg": 0.03, "length_m": 0.09}, (0.6, 0.45, 0.3))
    stages = {stage.id: when for stage, when in found.stages}
    assert set(stages) == {"adult"}
    adult = stages["adult"]
    assert adult.day is not None
    assert adult.earliest == adult.day == adult.latest
    assert abs((adult.day - (hatched + timedelta(days=365))).days) <= 15


def test_a_young_tortoise_is_told_when_its_table_must_grow() -> None:
    """Common practice, no source: by shell length, with a spread that opens with time."""
    found = ahead("hermanns-tortoise", {"hatched": "2025-09-01", "length_m": 0.06, "mass_kg": 0.05}, (0.6, 0.45, 0.45))
    when = found.outgrown
    assert when.day is not None
    assert when.earliest is not None
    assert TODAY < when.earliest <= when.day
    assert when.latest is None or when.day <= when.latest
    assert found.next_size_m is not None
    assert found.next_size_m[0] > 0.9


def test_the_right_enclosure_for_the_grown_animal_is_never_outgrown() -> None:
    found = ahead("leopard-gecko", {"hatched": "2026-06-01", "mass_kg": 0.03, "length_m": 0.09}, (1.2, 0.6, 0.45))
    assert found.outgrown.day is None
    assert found.next_size_m is None


def test_what_is_too_small_already_is_too_small_today() -> None:
    found = ahead("corn-snake", {"hatched": "2020-06-01", "mass_kg": 0.6, "length_m": 1.3}, (0.6, 0.45, 0.3))
    assert found.outgrown.day == TODAY


def test_a_larger_enclosure_lasts_longer() -> None:
    animal = {"hatched": "2026-06-01", "mass_kg": 0.02}
    small, large = (ahead("corn-snake", animal, size).outgrown.day for size in ((0.6, 0.45, 0.3), (0.9, 0.45, 0.45)))
    assert small is not None
    assert large is None or small < large


def test_fast_growth_in_the_log_brings_the_dates_forward() -> None:
    animal = {"hatched": "2025-11-24", "mass_kg": 0.06}
    slow, fast = (
        [Weighing(TODAY - timedelta(days=back), mass_kg=grams / 1000) for back, grams in series]
        for series in (((240, 12), (120, 18), (1, 24)), ((240, 40), (120, 80), (1, 130)))
    )
    adult_slow, adult_fast = (
        next(when.day for stage, when in ahead("corn-snake", animal, (1.2, 0.6, 0.6), *log).stages if stage.id == "adult")
        for log in (slow, fast)
    )
    assert adult_slow is not None
    assert adult_fast is not None
    assert adult_fast < adult_slow


def test_without_age_and_size_nothing_is_foretold() -> None:
    plan = read_data(document(animal={}))
    assert outlook(plan, find("african-fat-tailed-gecko"), TODAY) is None


@pytest.mark.sweep
@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_every_species_passes_through_all_its_stages(profile: Any) -> None:
    hatch_m = 1.1 * profile.body.hatch_length_cm.value / 100
    animal = {"hatched": TODAY.isoformat(), "length_m": hatch_m, "mass_kg": expected_mass_kg(profile, hatch_m)}
    found = ahead(profile.id, animal, (1.2, 0.6, 0.6))
    assert [stage.id for stage, _when in found.stages] == [stage.id for stage in profile.stages[1:]]
    days = [when.day for _stage, when in found.stages]
    assert all(earlier <= later for earlier, later in pairwise(days))  # type: ignore[operator]
    for line in (found.course.low_m, found.course.length_m, found.course.high_m):
        assert np.all(np.diff(line) >= -1e-12)


def test_a_female_snake_outgrows_what_lasts_a_male() -> None:
    """A western hognose female is half as long again as a male: the same box is hers for a while and his for life."""
    profile = find("western-hognose-snake")
    box = {"enclosure__length_m": 0.6, "enclosure__width_m": 0.4, "enclosure__height_m": 0.3}
    young = {"animal__hatched": "2026-06-01", "animal__mass_kg": None, "animal__length_m": None}
    bare: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}
    outgrown = {}
    for sex in ("female", "male"):
        made = read_data(document(species=profile.id, animal__sex=sex, **box, **young, **bare))
        found = outlook(made, profile, TODAY)
        assert found is not None
        outgrown[sex] = found.outgrown.day
    assert outgrown["female"] is not None
    assert outgrown["male"] is None


@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_the_species_curve_begins_at_hatching_and_nears_the_adult(profile: Profile) -> None:
    """Nineteen twentieths of the adult length at the middle of the years to adult."""
    body = profile.body
    grown_cm = 100 * expected_length_at(profile, "unknown", body.years_to_adult.middle * DAYS_PER_YEAR)
    assert 100 * expected_length_at(profile, "unknown", 0.0) == pytest.approx(body.hatch_length_cm.value, rel=0.01)
    assert grown_cm == pytest.approx(GROWN_SHARE * body.adult_length_cm.middle, rel=0.08)
