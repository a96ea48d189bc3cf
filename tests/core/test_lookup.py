"""Names as they are compared: how near a misspelt one comes, and what is near to nothing."""

import pytest

from husbandry.species.lookup import likeness


@pytest.mark.parametrize(
    ("query", "name", "least"),
    [
        ("leopard gecko", "leopard gecko", 1.0),
        ("gecko leopard", "leopard gecko", 1.0),  # in whatever order
        ("leapord", "leopard gecko", 0.7),  # two letters wrong of seven
        ("skikn", "blue tongued skink", 0.8),  # two exchanged count as one
        ("bluetounge", "blue tongued skink", 0.75),  # two words written as one, and not yet to the end
        ("uromas", "uromastyx", 0.9),  # the beginning
    ],
)
def test_a_slip_leaves_a_name_near(query: str, name: str, least: float) -> None:
    assert least <= likeness(query, name) <= 1.0
    assert likeness(query, "fire salamander") < min(likeness(query, name), 0.6)


def test_nothing_is_near_to_nothing() -> None:
    assert likeness("", "corn snake") == 0.0
    assert likeness("corn", "") == 0.0
