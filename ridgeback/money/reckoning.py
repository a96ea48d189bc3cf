"""What a habitat's bill, its shopping and its years come to, with the room's prices and the pantry's food."""

from dataclasses import dataclass
from datetime import date
from typing import Final

from husbandry.build.settings import BuildSettings
from husbandry.design import enclosure_steps
from husbandry.design.enclosure_steps import HousingChoice
from husbandry.money.bill import BillLine, bill
from husbandry.money.energy import MonthEnergy, Tariff, year_energy
from husbandry.money.settings import Purse
from husbandry.money.shopping import Basket, ToBuy, basket
from husbandry.money.variants import Variant, variants
from husbandry.money.years import Ledger, Worn, pays_back_years, worn
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback.building.reading import open_build
from ridgeback.daybook import reader
from ridgeback.money.models import RoomPurse, Shopping
from ridgeback.pantry.models import Item
from ridgeback.planner import mapping, revisions
from ridgeback.planner.once import once_small
from ridgeback.rooms.models import Habitat
from ridgeback.rota.stock_forecasts import uses_by_day

FOOD_DAYS: Final = 28


@dataclass(frozen=True)
class VariantBeside:
    """One variant beside the plan: its ledger, its kWh a year, what it lacks prices for, in how many years it is paid back."""

    variant: Variant
    ledger: Ledger
    kwh: float
    unpriced: tuple[str, ...]
    pays_back: float | None


@dataclass(frozen=True)
class Reckoned:
    """One habitat's money. `unpriced_years` are lines of the year that have no price yet."""

    plan: HabitatPlan
    purse: Purse
    lines: tuple[BillLine, ...]
    ticks: dict[str, str]
    all_of_it: Basket
    to_buy: Basket
    months: tuple[MonthEnergy, ...]
    worn: tuple[Worn, ...]
    ledger: Ledger
    unpriced_years: tuple[str, ...]
    beside: tuple[VariantBeside, ...]
    housing: HousingChoice | None

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


def things_of(habitat: Habitat) -> set[str]:
    """The keys of everything on a habitat's bill. Raises mapping.UnreadablePlanError."""
    return {line.what for line in bill(mapping.plan_of(habitat), _built_as(habitat))}


def _built_as(habitat: Habitat) -> BuildSettings:
    begun = open_build(habitat)
    return BuildSettings() if begun is None else BuildSettings.model_validate(begun.settings)


def _at_the_plans_tariff(purse: Purse, plan: HabitatPlan) -> Purse:
    """The room's prices; while it has no tariff, a kWh costs what the plan says."""
    if purse.tariff.day or plan.prices.kwh is None:
        return purse
    return purse.model_copy(update={"tariff": Tariff(day=plan.prices.kwh)})


def reckon(habitat: Habitat, today: date) -> Reckoned:
    """Reckon one habitat's money. Raises mapping.UnreadablePlanError."""
    plan, profile = mapping.plan_of(habitat), revisions.profile_of(habitat)
    purse = _at_the_plans_tariff(purse_of(habitat.room_id)[0], plan)
    said = _built_as(habitat)
    ticks = ticks_of(habitat)
    food, missing = _food(habitat, today)
    sums = _sums(plan, profile, purse, said, food)
    buying = [ToBuy(line.what, line.amount) for line in sums.lines if line.what not in ticks]
    beside = []
    key = "variants", plan.model_dump_json(), id(profile), today
    for variant in once_small(key, lambda: variants(plan, profile, today)):
        other = _sums(variant.plan, profile, purse, said, food)
        extra, saved = other.ledger.set_up - sums.ledger.set_up, sums.ledger.a_year - other.ledger.a_year
        lacking = dict.fromkeys([*other.whole.unpriced, *other.unpriced])
        unpriced = tuple(what for what in lacking if what not in sums.whole.unpriced)
        back = pays_back_years(extra, saved) if extra > 0 and not unpriced else None
        beside.append(VariantBeside(variant, other.ledger, sum(month.kwh for month in other.months), unpriced, back))
    return Reckoned(
        plan,
        purse,
        sums.lines,
        ticks,
        sums.whole,
        basket(buying, purse.offers, purse.shipping),
        sums.months,
        sums.worn,
        sums.ledger,
        tuple(dict.fromkeys([*sums.unpriced, *missing])),
        tuple(beside),
        enclosure_steps.choice(plan, profile, today, reader.lived_by(habitat).weighings),
    )


@dataclass(frozen=True)
class _Sums:
    lines: tuple[BillLine, ...]
    whole: Basket
    months: tuple[MonthEnergy, ...]
    worn: tuple[Worn, ...]
    ledger: Ledger
    unpriced: tuple[str, ...]


def _sums(plan: HabitatPlan, profile: Profile, purse: Purse, said: BuildSettings, food: float) -> _Sums:
    """One plan's bill, electricity and ledger at a room's prices."""
    lines = bill(plan, said)
    whole = basket([ToBuy(line.what, line.amount) for line in lines], purse.offers, purse.shipping)
    key = "electricity", plan.model_dump_json(), id(profile)
    months, used = once_small(key, lambda: year_energy(plan, profile)), worn(plan)
    yearly, unpriced = _yearly(purse, months, used, lines)
    return _Sums(lines, whole, months, used, Ledger(whole.total, yearly | {"food": food}), tuple(unpriced))


def _piece(purse: Purse, what: str) -> float | None:
    """What one piece (or litre) of something costs where it is cheapest; None without a price."""
    asked = [offer.price / offer.pack for offer in purse.offers if offer.what == what]
    return min(asked, default=None)


def _yearly(
    purse: Purse, months: tuple[MonthEnergy, ...], used: tuple[Worn, ...], lines: tuple[BillLine, ...]
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
