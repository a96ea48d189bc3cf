"""What of a room or of another band stands in the way of one is said once, when no change on offer is left."""

from collections.abc import Callable
from typing import Any

from django.test import Client
from django.urls import reverse

from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import Habitat

WARM = {"day_c": 31.0, "night_c": 31.0, "humidity_percent": 50.0}
SAID = "Not every band can be held in this enclosure and room"


def findings(client: Client, habitat: Habitat) -> str:
    return " ".join(client.get(reverse("planner:findings", args=[habitat.pk])).content.decode().split())


def test_a_room_too_warm_is_said_once_with_the_number(
    owner: Keeper, client_of: Callable[[Keeper], Client], make_habitat: Callable[..., Habitat]
) -> None:
    client = client_of(owner)
    room: dict[str, Any] = {"summer": dict(WARM), "winter": dict(WARM)}
    page = findings(client, make_habitat(room=room))
    assert page.count(SAID) == 1
    assert page.count("with everything off it would be") == 1
    assert "in this room of 31.0 °C" in page
    owner.temperature_unit = "degF"
    owner.save()
    assert "in this room of 88 °F" in findings(client, make_habitat(room=room))


def test_nothing_is_called_impossible_while_a_button_may_mend_it(
    owner: Keeper, client_of: Callable[[Keeper], Client], make_habitat: Callable[..., Habitat]
) -> None:
    client = client_of(owner)
    assert SAID not in findings(client, make_habitat())
    strong = make_habitat(heaters__0__watts=150.0, heaters__0__thermostat={"kind": "none"})
    page = findings(client, strong)
    assert 'class="mend"' in page
    assert "with everything off" not in page
    assert "With so much less heat" not in page
