"""Names as they are compared, a genus without its species, and what fits an enclosure."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.space.sizing import fits, needs_of_grown, sides_for
from husbandry.species.book import find, shipped
from husbandry.species.lookup import Relatives, genus, names, plain_words, relatives, similarity

BOOK = tuple(shipped().values())
GENERA = {"varanus", "python", "pogona"}
EPITHETS = {"exanthematicus", "acanthurus", "regius", "bivittatus", "vitticeps"}


@given(st.text(max_size=30))
def test_plain_words_are_plain_already(text: str) -> None:
    assert plain_words(plain_words(text)) == plain_words(text)


def test_signs_accents_and_hyphens_do_not_part_a_name() -> None:
    assert plain_words("White’s Tree-Frog") == "whites tree frog"
    assert plain_words("  Hermánn's  ") == "hermanns"
    assert genus(find("corn-snake")) == "pantherophis"
    assert "corn snake" in names(find("corn-snake"))


@pytest.mark.parametrize(
    ("query", "expected"),
    [
        ("Varanus", Relatives("varanus", "")),
        ("Varanus sp.", Relatives("varanus", "")),
        ("varanus komodoensis", Relatives("varanus", "varanus komodoensis")),
        ("Varanus exanthematicus", None),
        ("Varanus exan", None),  # still typing
        ("Elaphe schrenckii", None),  # a genus the book has nothing of
        ("savanna monitor", None),
        ("", None),
    ],
)
def test_a_genus_without_a_species_of_the_book_is_noticed(query: str, expected: Relatives | None) -> None:
    assert relatives(query, GENERA, EPITHETS) == expected


def test_what_fits_a_grown_animal_may_be_turned_round_but_not_stood_up() -> None:
    leopard = find("leopard-gecko")
    length, width, height = sides_for(needs_of_grown(leopard))
    assert fits(leopard, length, width, height)
    assert fits(leopard, width, length, height)
    assert not fits(leopard, length, width, height - 0.05)
    assert not fits(leopard, length - 0.05, width, 2.0)


def test_water_must_fit_too() -> None:
    """Seventy litres do not go into an 80 × 35 × 30 cm tank filled to a hand below its rim."""
    axolotl = find("axolotl")
    assert fits(axolotl, 0.8, 0.4, 0.4)
    assert not fits(axolotl, 0.8, 0.35, 0.29)


@pytest.mark.parametrize("profile", BOOK, ids=shipped())
def test_every_species_has_a_smallest_enclosure_and_it_fits_it(profile: object) -> None:
    length, width, height = sides_for(needs_of_grown(profile))  # type: ignore[arg-type]
    assert length >= width > 0
    assert height > 0
    assert fits(profile, length, width, height + 0.6)  # type: ignore[arg-type]


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
    assert least <= similarity(query, name) <= 1.0
    assert similarity(query, "fire salamander") < min(similarity(query, name), 0.6)


def test_nothing_is_near_to_nothing() -> None:
    assert similarity("", "corn snake") == 0.0
    assert similarity("corn", "") == 0.0
