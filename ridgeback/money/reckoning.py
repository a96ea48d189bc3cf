"""What a habitat's bill, its shopping and its years come to, with the room's prices and the pantry's food."""

from dataclasses import dataclass
from datetime import date
from typing import Final

from husbandry.assessment import Change
from husbandry.build.settings import BuildSettings
from husbandry.money.bill import BillLine, bill
from husbandry.money.energy import MonthEnergy, year_energy
from husbandry.money.settings import Purse
from husbandry.money.shopping import Basket, Wanted, basket, packs_for
from husbandry.money.years import BOARD_M, Ledger, Worn, pays_back_years, worn
from husbandry.plan.editing import apply
from husbandry.plan.habitat import HabitatPlan
from ridgeback.building.reading import open_build
from ridgeback.money.models import RoomPurse, Shopping
from ridgeback.pantry.models import Item
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat
from ridgeback.rota.stock_forecasts import uses_by_day

FOOD_DAYS: Final = 28
BOARD: Final = "insulation-board"
WELL_INSULATED_M: Final = 0.01


@dataclass(frozen=True)
class Insulated:
    """What foam board on the walls saves: kWh and money a year, what it costs, in how many years that is back."""

    kwh: float
    saved: float
    extra: float | None
    years: float | None


@dataclass(frozen=True)
class Reckoned:
    """One habitat's money. `unpriced_years` are lines of the year that have no price yet."""

    plan: HabitatPlan
    purse: Purse
    version: int
    lines: tuple[BillLine, ...]
    ticks: dict[str, str]
    all_of_it: Basket
    to_buy: Basket
    months: tuple[MonthEnergy, ...]
    worn: tuple[Worn, ...]
    ledger: Ledger
    unpriced_years: tuple[str, ...]
    insulated: Insulated | None

    @property
    def kwh(self) -> float:
        """What a year takes."""
        return sum(month.kwh for month in self.months)


def purse_of(room_id: int) -> tuple[Purse, int]:
    """A room's prices, and their version, 0 for none yet."""
    row = RoomPurse.objects.filter(room=room_id).first()
    return (Purse(), 0) if row is None else (Purse.model_validate(row.document), row.version)


def ticks_of(habitat: Habitat) -> dict[str, str]:
    """What of a habitat's bill is there."""
    row = Shopping.objects.filter(habitat=habitat).first()
    return {} if row is None else row.ticks


def reckon(habitat: Habitat, today: date) -> Reckoned:
    """Reckon one habitat's money. Raises mapping.UnreadablePlanError."""
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    purse, version = purse_of(habitat.room_id)
    begun = open_build(habitat)
    said = BuildSettings() if begun is None else BuildSettings.model_validate(begun.settings)
    lines, ticks = bill(plan, said), ticks_of(habitat)
    whole = basket([Wanted(line.what, line.amount) for line in lines], purse.offers, purse.shipping)
    buying = [Wanted(line.what, line.amount) for line in lines if line.what not in ticks]
    months = year_energy(plan, profile)
    used = worn(plan)
    yearly, unpriced = _yearly(plan, purse, months, used, lines)
    food, missing = _food(habitat, today)
    ledger = Ledger(whole.total, yearly | {"food": food})
    return Reckoned(
        plan,
        purse,
        version,
        lines,
        ticks,
        whole,
        basket(buying, purse.offers, purse.shipping),
        months,
        used,
        ledger,
        tuple(dict.fromkeys([*unpriced, *missing])),
        _insulated(plan, habitat, purse, sum(month.cost(purse.tariff) for month in months), months),
    )


def _piece(purse: Purse, what: str) -> float | None:
    """What one piece (or litre) of something costs where it is cheapest; None without a price."""
    asked = [offer.price / offer.pack for offer in purse.offers if offer.what == what]
    return min(asked, default=None)


def _yearly(
    plan: HabitatPlan, purse: Purse, months: tuple[MonthEnergy, ...], used: tuple[Worn, ...], lines: tuple[BillLine, ...]
) -> tuple[dict[str, float], list[str]]:
    """The lines of a year, and what of them has no price."""
    unpriced = []
    lamps = ground = 0.0
    for one in used:
        price = _piece(purse, one.what)
        if price is None:
            unpriced.append(one.what)
        else:
            lamps += price * one.a_year
    for line in lines:
        if line.aisle == "ground":
            price = _piece(purse, line.what)
            if price is None:
                unpriced.append(line.what)
            else:
                ground += price * line.amount * purse.ground_share
    return {
        "energy": sum(month.cost(purse.tariff) for month in months),
        "lamps": lamps,
        "ground": ground,
        "veterinarian": purse.veterinarian,
        "insurance": purse.insurance,
    }, unpriced


def _food(habitat: Habitat, today: date) -> tuple[float, list[str]]:
    """What a year's food and powders cost at the pantry's prices; what has none there."""
    uses = uses_by_day([habitat], today, FOOD_DAYS)
    items = {item.food: item for item in Item.objects.filter(room=habitat.room_id)}
    total, missing = 0.0, []
    for food, days in uses.items():
        item = items.get(food)
        if item is None or item.pack_price is None:
            missing.append(f"food:{food}")
            continue
        place = 0 if item.unit == Item.Unit.PIECE else 1
        total += sum(amount[place] for amount in days.values()) / item.pack_size * item.pack_price
    return total * 365 / FOOD_DAYS, missing


def _insulated(plan: HabitatPlan, habitat: Habitat, purse: Purse, cost: float, months: tuple[MonthEnergy, ...]) -> Insulated | None:
    """What foam board outside the walls saves; None where there is some already, or nothing to put it on."""
    box = plan.enclosure
    if box.insulation_m >= WELL_INSULATED_M or box.kind in ("mesh", "open-table") or plan.outdoors is not None:
        return None
    document = apply(plan.model_dump(mode="json"), (Change("enclosure.insulation_m", BOARD_M),))
    better = year_energy(HabitatPlan.model_validate(document), revisions.profile_of(habitat))
    kwh = sum(month.kwh for month in months) - sum(month.kwh for month in better)
    saved = cost - sum(month.cost(purse.tariff) for month in better)
    area_m2 = 2 * box.length_m * box.height_m / 2 + 2 * box.width_m * box.height_m + box.length_m * box.width_m
    offers = [offer for offer in purse.offers if offer.what == BOARD]
    extra = min((packs_for(area_m2, offer.pack) * offer.price for offer in offers), default=None)
    return Insulated(kwh, saved, extra, None if extra is None else pays_back_years(extra, saved))
