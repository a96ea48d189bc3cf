"""What a habitat costs on its pages: prices once a room, ticks, the shopping list, the years; refused in words."""

import csv
import io
from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.language import moneywords
from ridgeback.language.names import CHOICES
from ridgeback.money.models import RoomPurse, Shopping
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat, Membership


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def url(habitat: Habitat) -> str:
    return reverse("money:prices", args=[habitat.room_id])


def offers(*rows: tuple[str, str, str, str, str]) -> dict[str, list[str]]:
    return {f"offer-{name}": [row[place] for row in rows] for place, name in enumerate(("what", "unit", "shop", "price", "pack"))}


SOIL = ("ground-soil", "L", "Garden", "8,50", "20 L")
LAMP = ("reflector-flood", "", "Garden", "€ 12", "")


def said(**changes: Any) -> dict[str, Any]:
    rest = {"version": "0", "day": "0.30", "night": "0.20", "night_from": "22", "night_to": "6:00", "rate": "3 %"}
    rest |= {"veterinarian": "60", "ground-share": "50", "shop-name": ["Garden"], "shop-shipping": ["5"]}
    return rest | offers(SOIL, LAMP, ("wide-5", "", "", "", "")) | changes


def page(client: Client, habitat: Habitat) -> Any:
    return client.get(reverse("money:habitat", args=[habitat.pk]))


def line(client: Client, habitat: Habitat, what: str) -> dict[str, Any]:
    return next(row for aisle in page(client, habitat).context["aisles"] for row in aisle["lines"] if row["what"] == what)


def test_without_prices_it_says_what_has_none(habitat: Habitat, client: Client) -> None:
    answer = page(client, habitat)
    assert answer.context["set_up"] == "0.00"
    assert "reflector flood" in answer.context["unpriced"]
    assert float(answer.context["kwh"]) > 100


def test_prices_are_typed_once_in_any_way_and_the_bill_adds_up(habitat: Habitat, client: Client) -> None:
    assert client.post(url(habitat), said()).status_code == 302
    prices = {one["what"]: one for one in RoomPurse.objects.get().document["prices"]}
    assert (prices["ground-soil"]["price"], prices["ground-soil"]["pack"]) == (8.5, 20.0)
    answer = page(client, habitat)
    assert line(client, habitat, "ground-soil")["packs"] == "3 × 20 L"
    assert answer.context["set_up"] == "42.50"  # three bags, a lamp, one shipping
    assert dict(answer.context["yearly"])["veterinarian"] == "60.00"
    plain, discounted = answer.context["spans"][2][1:]
    assert float(plain.replace(",", "")) > float(discounted.replace(",", ""))


def test_what_is_there_is_not_bought_again(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said())
    tick = reverse("money:tick", args=[habitat.pk])
    client.post(tick, {"what": "ground-soil", "state": "have", "once": "1"})
    answer = page(client, habitat)
    assert answer.context["to_buy"] == "17.00"
    assert answer.context["set_up"] == "42.50"
    assert [row["name"] for row in answer.context["shops"][0]["lines"]] == ["reflector flood"]
    client.post(tick, {"what": "ground-soil", "state": "buy", "once": "2"})
    assert Shopping.objects.get().ticks == {}
    assert client.post(tick, {"what": "ground-soil", "state": "stolen"}).status_code == 404
    assert client.post(tick, {"what": "a-yacht", "state": "have"}).status_code == 404


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        (offers(("ground-soil", "L", "Garden", "-3", "20 L")), "a price is not below nothing"),
        (offers(("ground-soil", "L", "Garden", "cheap", "20 L")), "is no price"),
        (offers(("ground-soil", "L", "", "3", "20 L")), "Which shop asks that"),
        (offers(("ground-soil", "L", "Garden", "3", "20 kg")), "20 kg"),
        (offers(("ground-soil", "L", "Garden", "3", "0")), "holds more than nothing"),
        (offers(SOIL, SOIL), "has two prices"),
        (offers(("thermostat-odd", "", "Garden", "-1", "")), "not below nothing"),
        (offers(("panel-odd", "m2", "", "1", "")), "Which shop asks that"),
        ({"rate": "300"}, "more or less than can be"),
        ({"rate": "some"}, "no percentage"),
        ({"night_from": "25"}, "no hour of the day"),
        ({"day": "-1"}, "not below nothing"),
    ],
)
def test_what_cannot_be_is_refused_in_words_and_stays_as_typed(
    wrong: dict[str, Any], words: str, habitat: Habitat, client: Client
) -> None:
    answer = client.post(url(habitat), said(**wrong))
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert not RoomPurse.objects.exists()
    assert answer.context["veterinarian"] == "60"


def test_a_part_of_the_prices_leaves_the_others_as_they_are(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said())
    client.post(url(habitat), {"version": "1"} | offers(("reflector-flood", "", "Cellar", "9", "")))
    document = RoomPurse.objects.get().document
    assert {(one["what"], one["shop"]) for one in document["prices"]} == {("ground-soil", "Garden"), ("reflector-flood", "Cellar")}
    assert document["veterinarian"] == 60
    rest = {name: value for name, value in said(version="2", veterinarian="70").items() if not name.startswith("offer-")}
    client.post(url(habitat), rest)
    document = RoomPurse.objects.get().document
    assert (document["veterinarian"], len(document["prices"])) == (70, 2)


def test_prices_that_somebody_changed_meanwhile_stand(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said())
    client.post(url(habitat), said(veterinarian="99"))
    assert RoomPurse.objects.get().document["veterinarian"] == 60


def test_the_bill_is_a_table_to_take_along(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said(**offers(("reflector-flood", "", "=HYPERLINK(1)", "12", ""))))
    raw = client.get(reverse("money:csv", args=[habitat.pk])).content.decode("utf-8-sig")
    rows = list(csv.DictReader(io.StringIO(raw)))
    lamp = next(row for row in rows if row["thing"] == "reflector flood")
    assert lamp["cost"] == "12.00"
    assert not lamp["shop"].startswith("=")


def test_variants_stand_side_by_side_with_what_each_costs(habitat: Habitat, client: Client) -> None:
    client.post(url(habitat), said(**offers(("insulation-board", "m2", "Garden", "9", "1 m2"), LAMP)))
    plain, *others = page(client, habitat).context["beside"]
    board = next(row for row in others if "foam board" in str(row["name"]))
    assert float(board["kwh"]) < float(plain["kwh"])
    assert float(board["sums"][0]) > float(plain["sums"][0])
    assert float(board["back"]) > 0
    halogen = next(row for row in others if "halogen" in str(row["name"]))
    assert halogen["unpriced"] == ["halogen flood"]
    assert halogen["back"] == ""
    # Whatever a way lacks a price for has a row among the prices.
    shown = client.get(url(habitat)).context["aisles"]
    entered = {thing["name"] for aisle in shown for thing in aisle["things"]}
    assert {name for row in others for name in row["unpriced"]} <= entered


def test_a_kwh_costs_what_the_plan_says_until_the_room_has_a_tariff(habitat: Habitat, owner: Keeper, client: Client) -> None:
    plan = mapping.plan_of(habitat)
    priced = plan.model_copy(update={"prices": plan.prices.model_copy(update={"kwh": 0.5})})
    revisions.save(habitat.pk, priced, habitat.version, owner, clock.now(), "kWh")
    answer = page(client, habitat)
    assert float(dict(answer.context["yearly"])["electricity"]) == pytest.approx(0.5 * float(answer.context["kwh"]), abs=0.5)
    client.post(url(habitat), said(night=""))
    answer = page(client, habitat)
    assert float(dict(answer.context["yearly"])["electricity"]) == pytest.approx(0.3 * float(answer.context["kwh"]), abs=0.5)


def test_a_light_for_plants_is_no_plant() -> None:
    assert moneywords.thing_of("plant-led") == str(CHOICES["light_bar"]["plant-led"])


def test_a_viewer_only_looks(habitat: Habitat, other: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.VIEWER)
    looking = client_of(other)
    assert page(looking, habitat).status_code == 200
    assert looking.post(url(habitat), said()).status_code == 403
