"""A new habitat: its species found by any name, and what is answered while one types."""

from collections.abc import Callable

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.plan.habitat import Animal
from husbandry.species.book import shipped
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue
from ridgeback.home import choosing
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from tests.pages import page_text
from tests.plans import TODAY

HTMX = {"HTTP_HX_REQUEST": "true"}
IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def test_a_species_is_found_by_any_name_and_stands_beside_the_form(client: Client, habitat: Habitat) -> None:
    catalogue.enter_shipped()
    found = client.get(reverse("rooms:find-species"), {"find": "uromastix"}).content.decode()
    assert 'value="uromastyx" selected' in found
    nothing = client.get(reverse("rooms:find-species"), {"find": "qqqqzzzz"}).content.decode()
    assert "No species in the book" in nothing
    asked = {"species": "uromastyx", "room": str(habitat.room_id), "age": "2 years", "box": "120 x 60 x 50", "summer_day": "25"}
    said = page_text(client.get(reverse("rooms:answer"), asked))
    assert "<b>juvenile</b>, decided by its age" in said
    assert "yours is large enough" in said
    assert "Keep: basking surface 48–54 °C" in said
    small = client.get(reverse("rooms:answer"), asked | {"box": "60 x 30 x 30"}).content.decode()
    assert "yours is too small for it" in small


def test_a_size_its_kind_never_has_is_doubted_before_anything_is_planned(client: Client, habitat: Habitat) -> None:
    """Common practice, no source: of a lizard with a long tail many measure the whole; a point slips."""
    asked = {"species": "chinese-water-dragon", "room": str(habitat.room_id)}
    said = page_text(client.get(reverse("rooms:answer"), asked | {"length": "2 ft 8 in"}))
    assert "It is 81 cm long (snout to vent); 25 cm is the longest of its kind." in said
    assert "The tail was measured with it: 24 cm snout to vent?" in said
    heavy = page_text(client.get(reverse("rooms:answer"), asked | {"length": "24", "mass": "4.5 kg"}))
    assert "450 g was meant?" in heavy
    for usual in ({"length": "24"}, {"mass": "450 g"}, {}):
        assert "was meant?" not in page_text(client.get(reverse("rooms:answer"), asked | usual))
        assert "is the longest of its kind" not in page_text(client.get(reverse("rooms:answer"), asked | usual))


@pytest.mark.sweep
@pytest.mark.parametrize("typed", ["", "nonsense", "1/2/3/4", "-4", "99999999999999999999", "1e400 g", "\u0663"])
def test_whatever_is_typed_meanwhile_is_answered_quietly(client: Client, habitat: Habitat, typed: str) -> None:
    for name in ("age", "mass", "length", "box", "count", "hatched", "species", "room", "find"):
        asked = {"species": "axolotl", "room": str(habitat.room_id), name: typed}
        assert client.get(reverse("rooms:answer"), asked).status_code == 200
    assert client.get(reverse("rooms:find-species"), {"find": typed}).status_code == 200


def test_a_name_typed_and_entered_is_enough_where_it_means_one(client: Client, habitat: Habitat) -> None:
    """Without scripts, or for who presses Enter at once."""
    catalogue.enter_shipped()
    room = {"summer_day": "25", "summer_night": "21", "summer_humidity": "50"}
    asked = room | {key.replace("summer", "winter"): value for key, value in room.items()}
    asked |= {"name": "Found", "room": str(habitat.room_id), "sex": "unknown", "count": "1", "species": ""}
    made = client.post(reverse("rooms:new"), asked | {"find": "axolotl"})
    assert made.status_code == 302
    assert Habitat.objects.get(name="Found").species == "axolotl"
    several = client.post(reverse("rooms:new"), asked | {"find": "gecko"}).content.decode()
    assert "may be one of these" in several


@pytest.mark.parametrize("species", shipped())
def test_every_species_has_its_answer(species: str) -> None:
    profile = shipped()[species]
    found = choosing.answer(profile, Animal(), None, TODAY, METRIC)
    assert found is not None
    assert found.least
    assert found.kept.startswith("Keep: ")


def test_a_usual_size_smaller_than_the_books_is_named_with_its_school(client: Client, habitat: Habitat) -> None:
    asked = {"species": "central-bearded-dragon", "room": str(habitat.room_id), "mass": "420 g", "box": "120 x 60 x 60"}
    page = " ".join(client.get(reverse("rooms:answer"), asked).content.decode().split())
    assert "keepers disagree: yours is large enough by the fixed sizes of the trade" in page
    small = " ".join(client.get(reverse("rooms:answer"), asked | {"box": "40 x 30 x 30"}).content.decode().split())
    assert "yours is too small for it" in small
