"""When eggs hatch."""

import pytest

from husbandry.species.book import find, shipped
from husbandry.upkeep.incubation import Point, hatch_window

# Two temperatures of one kind: 54 days at 32.2 °C, 80 at 27.8 °C (common practice, no source).
PAIR = (Point(32.2, 54, 54), Point(27.8, 80, 80))


def test_between_two_temperatures_the_rate_is_interpolated_and_not_the_days() -> None:
    window = hatch_window(PAIR, 30.0, 0.0)
    assert window is not None
    # 64.5 d by the rate, 67 d by the days (common practice, no source).
    assert window.likely == pytest.approx(64.5, abs=0.05)
    assert (window.earliest, window.latest) == (window.likely, window.likely)


def test_at_its_own_temperatures_a_kind_takes_its_own_days() -> None:
    for point in PAIR:
        window = hatch_window(PAIR, point.temperature_c, 0.0)
        assert window is not None
        assert window.likely == pytest.approx(point.days_low)


@pytest.mark.parametrize("degrees", [27.7, 32.3])
def test_outside_what_is_known_nothing_is_said(degrees: float) -> None:
    assert hatch_window(PAIR, degrees) is None


def test_an_incubator_that_swings_widens_the_window_and_one_at_the_edge_says_so() -> None:
    steady, swinging = hatch_window(PAIR, 30.0, 0.2), hatch_window(PAIR, 30.0, 1.0)
    assert steady is not None
    assert swinging is not None
    assert swinging.earliest < steady.earliest < steady.likely < steady.latest < swinging.latest
    assert not swinging.at_edge
    edge = hatch_window(PAIR, 32.0, 1.0)
    assert edge is not None
    assert edge.at_edge
    assert edge.earliest == pytest.approx(54)


@pytest.mark.parametrize(("points", "spread"), [(PAIR[:1], 0.5), ((PAIR[0], PAIR[0]), 0.5), (PAIR, -0.1)])
def test_one_temperature_or_a_spread_below_nothing_is_an_error(points: tuple[Point, ...], spread: float) -> None:
    with pytest.raises(ValueError, match="hatch window"):
        hatch_window(points, 30.0, spread)


@pytest.mark.parametrize("species", sorted(shipped()))
def test_warmer_eggs_hatch_sooner_in_every_kind_of_the_book(species: str) -> None:
    bred = find(species).reproduction
    if bred is None or len(bred.incubation) < 2:
        assert bred is None or bred.gestation_days is not None
        return
    points = [Point(one.temperature_c, one.days_low, one.days_high) for one in bred.incubation]
    warmths = sorted(one.temperature_c for one in points)
    windows = [hatch_window(points, warmths[0] + share * (warmths[-1] - warmths[0])) for share in (0.0, 0.25, 0.5, 0.75, 1.0)]
    likely = [window.likely for window in windows if window is not None]
    assert len(likely) == 5
    assert likely == sorted(likely, reverse=True)
    assert all(window is not None and window.earliest <= window.likely <= window.latest for window in windows)
    assert all(window is not None and 0 < window.candling[0] < window.candling[1] < window.earliest for window in windows)
