"""What a habitat costs: its bill, the cheapest shops, a year's electricity, what wears out, the years discounted."""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from husbandry.assess.assess import assess
from husbandry.build.settings import BuildSettings
from husbandry.money.bill import aisle_of, bill
from husbandry.money.energy import Tariff, with_light, year_energy
from husbandry.money.shopping import ShopOffer, ToBuy, basket, packs_for
from husbandry.money.variants import variants
from husbandry.money.years import Ledger, lives, pays_back_years, worn
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.book import find
from tests.plans import TODAY, plan
from tests.sample import times

BOOK = find("african-fat-tailed-gecko")


def amounts(made: HabitatPlan, **said: object) -> dict[str, float]:
    return {line.what: line.amount for line in bill(made, BuildSettings.model_validate(said))}


def test_a_bill_has_the_ground_in_litres_and_each_thing_once() -> None:
    """1.2 × 0.5 m at 7 cm is 42 litres; loosely filled it is more, less what stands in it (by hand)."""
    found = amounts(plan())
    assert 42 <= found["ground-soil"] <= 55
    assert found["enclosure-foamed-pvc-120x50x45"] == 1
    assert found["thermostat-dimming"] == 1
    assert found["guard"] == 1
    # A hide of 18 × 14 × 9 cm holds about 2.4 litres; two fifths of it are moss.
    assert found["moss"] == pytest.approx(0.9, abs=0.2)
    keys = [line.what for line in bill(plan(), BuildSettings())]
    assert len(keys) == len(set(keys))
    assert "water" not in keys


def test_two_lamps_are_two_lamps_and_used_parts_want_disinfectant() -> None:
    lamp = plan().heaters[0].model_dump(mode="json")
    assert amounts(plan(heaters=[lamp, lamp | {"x_m": 0.6}]))["reflector-flood"] == 2
    assert "disinfectant" in amounts(plan(), second_hand=True)
    assert "disinfectant" not in amounts(plan())
    assert aisle_of("slim-12") == "lighting"
    assert aisle_of("plant-led") == "lighting"
    assert aisle_of("plant-fern") == "living"
    assert aisle_of("coir") == "ground"


@pytest.mark.parametrize(("amount", "pack", "count"), [(49.4, 20, 3), (40, 20, 2), (0.2, 5, 1), (3, 1, 3), (0.3, 0.1, 3)])
def test_nobody_sells_part_of_a_pack(amount: float, pack: float, count: int) -> None:
    assert packs_for(amount, pack) == count


def test_one_order_can_be_cheaper_than_two_with_two_shippings() -> None:
    """A lamp is 1 cheaper at the second shop, whose shipping is 6: all of it from the first (by hand)."""
    offers = [ShopOffer("lamp", "near", 10), ShopOffer("lamp", "far", 9), ShopOffer("soil", "near", 8, 20)]
    found = basket([ToBuy("lamp", 1), ToBuy("soil", 30)], offers, {"near": 5, "far": 6})
    assert set(found.shipping) == {"near"}
    assert found.total == 10 + 16 + 5
    many = basket([ToBuy("lamp", 8), ToBuy("soil", 30)], offers, {"near": 5, "far": 6})
    assert set(many.shipping) == {"near", "far"}
    assert many.total == 72 + 16 + 11
    assert basket([ToBuy("moss", 1)], offers, {}).unpriced == ("moss",)


@settings(max_examples=times(26, 80), deadline=None)
@given(data=st.data())
def test_the_cheapest_shops_are_the_cheapest_and_costs_add_up_whatever_the_order(data: st.DataObject) -> None:
    """Against every way to buy each thing somewhere (brute force over assignments)."""
    things = [ToBuy(f"thing-{n}", data.draw(st.integers(1, 5))) for n in range(data.draw(st.integers(1, 4)))]
    shops = ["a", "b", "c"][: data.draw(st.integers(1, 3))]
    price = st.integers(1, 50)
    offers = [ShopOffer(one.what, shop, data.draw(price), data.draw(st.integers(1, 3))) for one in things for shop in shops]
    shipping = {shop: data.draw(st.integers(0, 20)) for shop in shops}
    found = basket(things, offers, shipping)
    by_key = {(offer.what, offer.shop): offer for offer in offers}

    def cost(choice: tuple[str, ...]) -> float:
        goods = [
            packs_for(one.amount, by_key[one.what, shop].pack) * by_key[one.what, shop].price
            for one, shop in zip(things, choice, strict=True)
        ]
        return sum(goods) + sum(shipping[shop] for shop in set(choice))

    assert found.total == pytest.approx(min(cost(choice) for choice in itertools.product(shops, repeat=len(things))))
    turned = basket(data.draw(st.permutations(things)), data.draw(st.permutations(offers)), shipping)
    assert turned.total == found.total


def test_a_year_of_electricity_is_the_climates_own_energy_in_its_two_seasons() -> None:
    """January and July are the plan's winter and summer: what the assessment of the plan says of a day there."""
    made = plan(room__winter={"day_c": 17.0, "night_c": 14.0, "humidity_percent": 45.0})
    months = year_energy(made, BOOK)
    said = {item.id: item.value for item in assess(made, BOOK, TODAY).quantities if item.key == "energy"}
    assert months[0].by_hour.sum() == pytest.approx(said["energy/winter"], rel=0.01)
    assert months[6].by_hour.sum() == pytest.approx(said["energy/summer"], rel=0.01)
    assert months[0].by_hour.sum() > months[3].by_hour.sum() > months[6].by_hour.sum()
    assert [month.days for month in months] == [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
    # The lamp burns by day alone: nothing at three in the morning.
    assert months[0].by_hour[3] == 0
    assert months[0].by_hour[12] > 0.03


def test_in_the_south_july_is_winter() -> None:
    made = plan(
        room__winter={"day_c": 17.0, "night_c": 14.0, "humidity_percent": 45.0},
        year={"mode": "fixed", "latitude_deg": -35.0},
    )
    months = year_energy(made, BOOK)
    assert months[6].kwh > months[0].kwh


def test_a_night_tariff_counts_only_its_hours() -> None:
    """1 kWh in each hour: 16 hours at 0.30 and 8 at 0.20 are 6.40 a day (by hand)."""
    tariff = Tariff(day=0.30, night=0.20, night_from=22, night_to=6)
    assert sum(tariff.at(hour) for hour in range(24)) == pytest.approx(6.40)
    assert Tariff(day=0.30).at(23) == 0.30
    assert Tariff(day=0.3, night=0.1, night_from=1, night_to=5).at(0) == 0.3


def test_a_shorter_day_burns_its_lamps_less() -> None:
    short = with_light(plan(), 8.0)
    assert short.daylight.hours_a_day == 8.0
    assert short.heaters[0].hours_a_day == 8.0
    assert (short.daylight.on.hour, short.daylight.off.hour) == (10, 18)
    assert with_light(plan(), 12.0) == plan()


def test_lamps_wear_out_by_their_hours_and_tubes_by_their_months() -> None:
    """2000 hours at twelve a day are 2.2 lamps a year; a wide tube fades in six months, so two (trade)."""
    found = {one.what: one.a_year for one in worn(plan())}
    assert found["reflector-flood"] == pytest.approx(12 * 365 / 2000)
    assert found["wide-5"] == pytest.approx(2.0)
    assert {"led-bar", "ceramic-emitter", "thermostat-pulse", "slim-12"} <= set(lives())


def test_years_add_up_and_are_discounted_as_an_annuity() -> None:
    """100 a year for 15 years at 3 % are worth 1193.79 today (tables of annuities)."""
    ledger = Ledger(500.0, {"energy": 60.0, "lamps": 40.0})
    assert ledger.over(15) == 500 + 1500
    assert ledger.over(15, 0.03) == pytest.approx(500 + 1193.79, abs=0.01)
    assert Ledger(500.0, {"lamps": 40.0, "energy": 60.0}).over(5, 0.03) == ledger.over(5, 0.03)
    assert pays_back_years(30.0, 12.0) == 2.5
    assert pays_back_years(30.0, 0.0) is None


def test_variants_are_judged_by_the_animals_bands() -> None:
    """Foam board saves where a room is cold; a mat becomes a panel below the lid, with a guard."""
    cold = plan(
        room__winter={"day_c": 15.0, "night_c": 12.0, "humidity_percent": 45.0},
        light_bars=[{"kind": "t5-white", "watts": 40.0, "length_m": 0.9, "x_m": 0.6, "height_m": 0.42}],
    )
    found = {one.code: one for one in variants(cold, BOOK, TODAY)}
    assert set(found) == {"insulated", "led", "halogen", "led-and-projector"}
    # As bright: 40 W at 90 lm/W are 3600 lm, which 32.7 W at 110 lm/W give (by hand).
    assert found["led"].plan.light_bars[0].watts == pytest.approx(32.7)
    # As warm: a flood of 75 W radiates 0.45 of them, a halogen 0.50, a projector 0.55; its 675 lm take 6.1 W of LED (by hand).
    assert found["halogen"].plan.heaters[0].watts == pytest.approx(67.5)
    parted = found["led-and-projector"].plan
    assert (parted.heaters[0].kind, parted.heaters[0].watts) == ("infrared-projector", pytest.approx(61.4, abs=0.1))
    assert [bar.watts for bar in parted.light_bars] == [40.0, pytest.approx(6.1)]
    assert amounts(parted)["led-bar"] == 1
    assert sum(month.kwh for month in year_energy(found["insulated"].plan, BOOK)) < sum(m.kwh for m in year_energy(cold, BOOK))
    assert "insulation-board" in amounts(found["insulated"].plan)
    mat = {"kind": "mat", "watts": 20.0, "x_m": 0.3, "height_m": 0.01, "length_m": 0.3}
    mat |= {"thermostat": {"kind": "pulse", "set_c": 30.0, "probe": "mat"}}
    panel = {one.code: one for one in variants(plan(heaters=[mat]), BOOK, TODAY)}["panel"].plan.heaters[0]
    assert (panel.kind, panel.guarded, panel.thermostat.probe) == ("radiant-panel", True, "warm-air")
    assert "insulated" not in {one.code for one in variants(plan(enclosure__insulation_m=0.03), BOOK, TODAY)}
