"""The page that says where the numbers of the book come from."""

import re
from collections.abc import Callable

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.diet.origins import KINDS, counted, origins
from husbandry.species.book import find, shipped
from husbandry.species.profile import leaves_of
from husbandry.species.tables import tables
from ridgeback.accounts.models import Keeper
from tests.pages import page_text


def test_every_number_is_counted_once_and_has_a_kind() -> None:
    for profile in shipped().values():
        counts = counted(profile)
        assert tuple(counts) == KINDS
        assert sum(counts.values()) == sum(len(leaf.numbers) for leaf in leaves_of(profile))
        assert counts["keeper"] == 0


def test_a_ration_is_held_where_an_equation_serves_and_a_size_is_not() -> None:
    kinds = {item.path: item.kind for item in origins(find("corn-snake"))}
    assert kinds["stages.feeding.interval_days"] == "held"
    assert kinds["stages.ground.depth_cm"] == "practice"
    assert {item.path: item.kind for item in origins(find("dart-frog"))}["stages.feeding.interval_days"] == "practice"


@pytest.mark.django_db
def test_the_page_names_every_table_and_every_species_with_its_shares(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    text = page_text(client_of(owner).get(reverse("book:sources")))
    for table in tables().values():
        assert f'id="table-{table.key}"' in text
    for species in shipped():
        assert f'<tr id="{species}">' in text
    numbers = [int(number) for number in re.findall(r"(\d+) numbers? hangs? on it", text)]
    assert len(numbers) == len(tables())
    assert all(numbers)
    sheet = page_text(client_of(owner).get(reverse("book:sheet", args=["corn-snake"])))
    assert f"{reverse('book:sources')}#corn-snake" in sheet
