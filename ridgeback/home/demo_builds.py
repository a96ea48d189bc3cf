"""The demo's builds: one half built that a step holds up, one in its test run; the room's electricity; prices for its variants."""

from datetime import datetime, timedelta
from math import prod
from typing import Final

from husbandry.build.kinds import ANIMAL_IN, TEST_RUN
from husbandry.build.settings import BuildSettings
from husbandry.money.energy import Tariff
from husbandry.money.settings import Price, Purse
from husbandry.wiring.settings import Circuit, Strip, Wiring
from husbandry.wiring.spread import spread
from ridgeback.accounts.models import Keeper
from ridgeback.building.actions.begin_build import begin_build
from ridgeback.building.actions.do_step import do_step
from ridgeback.building.actions.see_thermostat import see_thermostat
from ridgeback.building.models import Build
from ridgeback.building.reading import read
from ridgeback.daybook.writing import Intent
from ridgeback.electrics import reading as electrics
from ridgeback.electrics.actions.keep_wiring import keep_wiring
from ridgeback.language import buildwords
from ridgeback.money.actions.keep_prices import keep_prices
from ridgeback.money.things import units_of_things
from ridgeback.rooms.models import Habitat, Room

HALF_BUILT, TESTED = "Wrack drawer", "Dune table"
FIRST: Final = ("inspect", "wash", "disinfect-1", "disinfect-2", "stand", "cable-ways")
APART: Final = timedelta(hours=26)  # between steps: longer than a day of drying
RUNNING: Final = timedelta(hours=30)
STRIP_A, SOCKETS = 10.0, 8
HARDWARE, PETS = "Hardware shop", "Reptile shop"
# What a piece, litre, metre, kilogram or square metre costs, made up: by how a thing's key begins, the first that fits.
MADE_UP: Final = (
    ("thermostat-dimming", PETS, 62.0, 1.0),
    ("thermostat-", PETS, 45.0, 1.0),
    ("ground-", HARDWARE, 7.5, 20.0),
    ("insulation-board", HARDWARE, 11.0, 1.0),
    ("barrier-sheet", HARDWARE, 4.0, 2.0),
    ("plant-", PETS, 6.5, 1.0),
    ("thing-", PETS, 14.0, 1.0),
    ("panel-", HARDWARE, 9.0, 1.0),
    ("halogen-flood", HARDWARE, 8.0, 1.0),
    ("reflector-", PETS, 11.0, 1.0),
    ("ceramic-emitter", PETS, 19.0, 1.0),
    ("slim-", PETS, 34.0, 1.0),
    ("wide-", PETS, 27.0, 1.0),
    ("timer", HARDWARE, 9.0, 2.0),
    ("grommet", HARDWARE, 3.5, 10.0),
)
BOX, BOX_A_M3 = 40.0, 420.0  # an enclosure, and for each cubic metre of it
ELSE: Final = (HARDWARE, 12.0, 1.0)


def keep(room: Room, keeper: Keeper, now: datetime) -> None:
    """Write the demo's builds, wiring and prices down, once."""
    habitats = {habitat.name: habitat for habitat in Habitat.objects.filter(room=room)}
    if HALF_BUILT in habitats:
        _half_built(habitats[HALF_BUILT], keeper, now)
    if TESTED in habitats:
        _in_its_test(habitats[TESTED], keeper, now)
    _wired(room, keeper, now)
    _priced(room, keeper, now)


def _fresh(build: Build) -> Habitat:
    return Habitat.objects.select_related("head__profile", "company", "room").get(pk=build.habitat_id)


def _half_built(habitat: Habitat, keeper: Keeper, now: datetime) -> None:
    """A second-hand box, taken up to its cable holes a week ago: the heaters hold everything up."""
    begun = now - timedelta(days=12)
    said = BuildSettings(second_hand=True)
    build = begin_build(habitat.pk, Intent(keeper, begun), said, again=False, what="the build begins")
    found = read(build, _fresh(build), now).found
    there = {step.key: step for step in found.steps}
    for place, key in enumerate(one for one in FIRST if one in there):
        at = begun + place * APART
        do_step(build, Intent(keeper, now), there[key], at, "", buildwords.name_of(there[key]))


def _in_its_test(habitat: Habitat, keeper: Keeper, now: datetime) -> None:
    """Everything is built, and it has run for a day and a bit; one end of one thermostat was seen."""
    build = begin_build(habitat.pk, Intent(keeper, now - timedelta(days=60)), BuildSettings(), again=False, what="the build begins")
    found = read(build, _fresh(build), now).found
    steps = [step for step in found.steps if step.kind not in {ANIMAL_IN, TEST_RUN}]
    begun = now - timedelta(days=59)
    for place, step in enumerate(steps):
        at = min(begun + place * timedelta(days=2), now - RUNNING - timedelta(hours=1))
        do_step(build, Intent(keeper, now), step, at, "", buildwords.name_of(step))
    if TEST_RUN in {step.key for step in found.steps}:
        do_step(build, Intent(keeper, now), found[TEST_RUN], now - RUNNING, "", buildwords.name_of(found[TEST_RUN]))
        see_thermostat(build, Intent(keeper, now - timedelta(hours=28)), "heaters.0-on", seen=True)


def _wired(room: Room, keeper: Keeper, now: datetime) -> None:
    """Two circuits, strips enough, and everything spread over them."""
    wired = electrics.read(room, american=False)
    count = sum(map(len, wired.rooms.values()))
    circuits = (Circuit(name="Window wall", residual_ma=30.0), Circuit(name="Door wall", residual_ma=30.0, other_w=600.0))
    strips = tuple(
        Strip(name=f"Shelf {number}", circuit=circuits[number % 2].name, rated_a=STRIP_A, sockets=SOCKETS)
        for number in range(1, 2 + count // (SOCKETS - 1) + 1)
    )
    said = spread(Wiring(circuits=circuits, strips=strips), wired.rooms)
    keep_wiring(room.pk, Intent(keeper, now), said, 0)


def volume_m3(enclosure: str) -> float:
    """The room of an enclosure, by the inner sides in cm that stand in its key."""
    return prod(float(side) for side in enclosure.rpartition("-")[2].split("x")) / 1e6


def _priced(room: Room, keeper: Keeper, now: datetime) -> None:
    """A made-up price for everything the room's plans take."""
    prices = []
    for what in units_of_things(room):
        shop, price, pack = next((row[1:] for row in MADE_UP if what.startswith(row[0])), ELSE)
        if what.startswith("enclosure-"):
            shop, price = PETS, 5.0 * round((BOX + BOX_A_M3 * volume_m3(what)) / 5)
        prices.append(Price(what=what, shop=shop, price=price, pack=pack))
    tariff = Tariff(day=0.31, night=0.24)
    purse = Purse(prices=tuple(prices), shipping={PETS: 5.9}, tariff=tariff, veterinarian=70.0, rate=0.02)
    keep_prices(room.pk, Intent(keeper, now), purse, 0)
