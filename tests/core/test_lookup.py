"""A species is found by any of its names, and by what fits an enclosure."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.space.sizing import fits, smallest_for_grown
from husbandry.species.book import find, shipped
from husbandry.species.lookup import likeness, names, plain_words, search, trigrams

BOOK = tuple(shipped().values())


def ids(query: str) -> list[str]:
    return [profile.id for profile in search(BOOK, query)]


@pytest.mark.parametrize(
    ("query", "first"),
    [
        ("corn snake", "corn-snake"),
        ("CORN", "corn-snake"),
        ("Pantherophis", "corn-snake"),
        ("whites tree frog", "whites-tree-frog"),
        ("White’s", "whites-tree-frog"),
        ("dumpy", "whites-tree-frog"),
        ("leapord gecko", "leopard-gecko"),
        ("beardie dragon", "central-bearded-dragon"),
        ("hermans tortoise", "hermanns-tortoise"),
        ("eublefaris", "leopard-gecko"),
        ("fat tail", "african-fat-tailed-gecko"),
    ],
)
def test_names_in_whatever_spelling_find_their_species(query: str, first: str) -> None:
    assert ids(query)[0] == first


def test_a_word_that_several_names_hold_finds_them_all_and_nothing_else() -> None:
    geckos = set(ids("gecko"))
    assert geckos >= {"leopard-gecko", "african-fat-tailed-gecko", "crested-gecko"}
    assert all(profile_id.endswith("gecko") for profile_id in geckos)
    assert set(ids("tortoise")) == {profile.id for profile in shipped().values() if profile.group == "tortoise"}


def test_nonsense_finds_nothing_and_nothing_finds_all() -> None:
    assert ids("zzyzx qqq") == []
    assert ids("") == ids("  ") == [profile.id for profile in BOOK]


def test_trigrams_are_what_database_text_search_calls_them() -> None:
    """PostgreSQL's pg_trgm shows '  c', ' ca', 'cat', 'at ' for 'cat' (documentation, recalled)."""
    assert trigrams("cat") == {"  c", " ca", "cat", "at "}


@given(st.text(max_size=30), st.sampled_from([name for profile in BOOK for name in names(profile)]))
def test_likeness_is_a_share_and_whole_for_the_name_itself(query: str, name: str) -> None:
    assert 0.0 <= likeness(query, name) <= 1.0
    assert likeness(name, name) == 1.0
    assert plain_words(plain_words(query)) == plain_words(query)


def test_what_fits_a_grown_animal_may_be_turned_round_but_not_stood_up() -> None:
    leopard = find("leopard-gecko")
    length, width, height = smallest_for_grown(leopard)
    assert fits(leopard, length, width, height)
    assert fits(leopard, width, length, height)
    assert not fits(leopard, length, width, height - 0.05)
    assert not fits(leopard, length - 0.05, width, 2.0)


@pytest.mark.parametrize("profile", BOOK, ids=shipped())
def test_every_species_has_a_smallest_enclosure(profile: object) -> None:
    length, width, height = smallest_for_grown(profile)  # type: ignore[arg-type]
    assert length >= width > 0
    assert height > 0
