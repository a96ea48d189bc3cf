"""What stands on the keeper's own powders: read in the units of tins, kept, judged, and given up again."""

from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback.accounts.models import Keeper
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat
from tests.pages import page_text


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def labels_of(habitat: Habitat) -> dict[str, Any]:
    labels = mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).feeding.labels
    return {item.product: item for item in labels}


def test_the_label_of_a_tin_is_read_in_the_units_it_is_printed_in(client: Client, habitat: Habitat) -> None:
    address = reverse("rota:powder-labels", args=[habitat.pk])
    given = {
        "multivitamin/calcium_percent": "60 g/kg",
        "multivitamin/d3_iu_per_kg": "50 IU/g",
        "multivitamin/a_iu_per_kg": "400 000 IU per kg",
        "multivitamin/iodine_mg_per_kg": "50 ppm",
        "plain calcium/calcium_percent": "38",
    }
    client.post(address, {"version": "1"} | given)
    kept = labels_of(habitat)
    multi = kept["multivitamin"]
    assert (multi.calcium_percent, multi.d3_iu_per_kg, multi.a_iu_per_kg, multi.iodine_mg_per_kg) == (6, 50_000, 400_000, 50)
    assert kept["plain calcium"].calcium_percent == 38
    assert 'value="400000"' in page_text(client.get(reverse("rota:menu", args=[habitat.pk])))
    client.post(address, {"version": "2"})
    assert labels_of(habitat) == {}


@pytest.mark.parametrize(
    ("field", "text", "said"),
    [
        ("a_iu_per_kg", "12 %", "multivitamin: “12 %” is in a unit that does not fit here"),
        ("calcium_percent", "much", "multivitamin: “much” is not a number"),
        ("calcium_percent", "-4", "below zero"),
        ("calcium_percent", "140", "140 is too much; 100 is the limit"),
    ],
)
def test_what_no_label_can_say_is_refused_and_nothing_is_kept(
    client: Client, habitat: Habitat, field: str, text: str, said: str
) -> None:
    given = {"version": "1", f"multivitamin/{field}": text, "plain calcium/calcium_percent": "38"}
    answer = client.post(reverse("rota:powder-labels", args=[habitat.pk]), given, follow=True)
    assert said in page_text(answer)
    if field != "calcium_percent" or text != "140":  # what the plan itself refuses is asked for again by its own page
        assert f'value="{text}"' in page_text(answer)  # nothing typed is lost
    assert labels_of(habitat) == {}
