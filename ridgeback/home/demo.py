"""The Saltmarsh Lane Learning Room: a made-up room with made-up animals, loaded once and never over a keeper's edits."""

import copy
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any, Final

from django.db import transaction
from django.utils import timezone
from django.utils.translation import gettext as _

from husbandry.assessment import Change
from husbandry.design import parts, rigs
from husbandry.design.first_proposal import propose
from husbandry.design.rig import RigsFound
from husbandry.furnishing.plants import plants
from husbandry.plan.changes import added, one_ground
from husbandry.plan.editing import apply
from husbandry.plan.habitat import Animal as AnimalPlan
from husbandry.plan.habitat import HabitatPlan, RoomClimate
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from husbandry.species.profile import Profile
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import own, profiles
from ridgeback.book.models import OwnProfile
from ridgeback.daybook import log
from ridgeback.daybook.models import Instrument
from ridgeback.daybook.writing import Intent
from ridgeback.home import demo_builds, demo_cultures
from ridgeback.keeping import demo_life
from ridgeback.language.told import later
from ridgeback.planner import furnishing, mapping, readings, revisions
from ridgeback.planner.actions.room_climate import keep_room
from ridgeback.rooms import keepers
from ridgeback.rooms.models import Habitat, Room, Seeding
from ridgeback.rota import volunteers

NAME = "Saltmarsh Lane Learning Room"
KEEPER = "keeper"
ROOM = {
    "summer": {"day_c": 24.0, "night_c": 21.0, "humidity_percent": 55.0},
    "winter": {"day_c": 20.5, "night_c": 18.5, "humidity_percent": 45.0},
}


def _days_before(today: date, days: int) -> str:
    return (today - timedelta(days=days)).isoformat()


def plans(today: date) -> list[dict[str, Any]]:
    """The three habitats as plan documents; ages are counted back from `today` so that stages stay."""
    return [_mudflat_shelf(today), _driftwood_long_box(today), _dune_table(today)]


def _mudflat_shelf(today: date) -> dict[str, Any]:
    """A gecko's: all is well."""
    return {
        "name": "Mudflat shelf",
        "species": "african-fat-tailed-gecko",
        "animal": {
            "name": "Samphire",
            "sex": "female",
            "hatched": _days_before(today, 800),
            "mass_kg": 0.058,
            "length_m": 0.125,
        },
        "room": ROOM,
        "enclosure": {"kind": "foamed-pvc", "length_m": 1.2, "width_m": 0.5, "height_m": 0.45, "lid": "solid"},
        "ground": one_ground("soil", 0.07),
        "things": [
            {"kind": "slate", "x_m": 0.26, "length_m": 0.22, "height_m": 0.04, "basking": True, "footing": True},
            {"kind": "hide", "x_m": 0.5, "length_m": 0.18, "height_m": 0.08},
            {"kind": "humid-hide", "x_m": 0.74, "length_m": 0.18, "height_m": 0.09},
            {"kind": "hide", "x_m": 1.04, "length_m": 0.2, "height_m": 0.09, "material": "ceramic"},
            {"kind": "bowl", "x_m": 0.89, "length_m": 0.11, "height_m": 0.04},
        ],
        "misting": {"grams_per_day": 30},
        "heaters": [
            {
                "kind": "reflector-flood",
                "watts": 50,
                "x_m": 0.26,
                "height_m": 0.4,
                "guarded": True,
                "thermostat": {"kind": "dimming", "set_c": 32.0, "probe": "basking-surface"},
            },
            {
                "kind": "ceramic-emitter",
                "watts": 60,
                "x_m": 0.44,
                "height_m": 0.38,
                "guarded": True,
                "thermostat": {"kind": "pulse", "set_c": 29.0, "probe": "warm-air"},
            },
        ],
        "uv_lamps": [
            {"kind": "wide-5", "tube_m": 0.55, "x_m": 0.36, "y_m": 0.37, "height_m": 0.355, "fitted": _days_before(today, 70)},
        ],
        "schools": {"uvb": "shade"},
        "feeding": {"starts": _days_before(today, 62)},
    }


def _driftwood_long_box(today: date) -> dict[str, Any]:
    """A snake's, with a mistake."""
    return {
        "name": "Driftwood long box",
        "species": "corn-snake",
        "animal": {"name": "Marram", "sex": "male", "hatched": _days_before(today, 1650), "mass_kg": 0.52, "length_m": 1.24},
        "room": ROOM,
        "enclosure": {"kind": "plywood", "length_m": 1.25, "width_m": 0.63, "height_m": 0.75, "lid": "solid"},
        "ground": one_ground("aspen", 0.06),
        "things": [
            {"kind": "wood", "x_m": 0.3, "length_m": 0.32, "height_m": 0.12, "basking": True},
            {"kind": "hide", "x_m": 0.62, "length_m": 0.26, "height_m": 0.11},
            {"kind": "hide", "x_m": 1.07, "length_m": 0.26, "height_m": 0.11},
            {"kind": "bowl", "x_m": 0.85, "length_m": 0.2, "height_m": 0.06},
        ],
        "heaters": [
            # The mistake: hung too low over the shelf and on no thermostat.
            {"kind": "halogen-flood", "watts": 50, "x_m": 0.3, "height_m": 0.46, "guarded": True},
        ],
        "feeding": {"starts": _days_before(today, 37)},
    }


def _dune_table(today: date) -> dict[str, Any]:
    """A tortoise's table."""
    return {
        "name": "Dune table",
        "species": "russian-tortoise",
        "animal": {"name": "Thrift", "sex": "female", "hatched": _days_before(today, 1500), "mass_kg": 0.21, "length_m": 0.097},
        "room": ROOM,
        "enclosure": {"kind": "open-table", "length_m": 1.2, "width_m": 0.8, "height_m": 0.45, "lid": "open"},
        "ground": one_ground("soil", 0.18, damp=True),
        "things": [
            {"kind": "slate", "x_m": 0.28, "length_m": 0.25, "height_m": 0.02, "basking": True, "footing": True},
            {"kind": "humid-hide", "x_m": 0.98, "length_m": 0.26, "height_m": 0.14, "material": "ceramic", "footing": True},
            {"kind": "bowl", "x_m": 0.66, "length_m": 0.18, "height_m": 0.04},
        ],
        "heaters": [
            {
                "kind": "reflector-flood",
                "watts": 75,
                "x_m": 0.28,
                "height_m": 0.52,
                "guarded": True,
                "thermostat": {"kind": "dimming", "set_c": 36.0, "probe": "basking-surface"},
            },
            {
                "kind": "ceramic-emitter",
                "watts": 100,
                "x_m": 0.14,
                "height_m": 0.45,
                "guarded": True,
                "thermostat": {"kind": "pulse", "set_c": 27.0, "probe": "warm-air"},
            },
        ],
        "uv_lamps": [
            {"kind": "slim-12", "tube_m": 0.55, "x_m": 0.34, "y_m": 0.52, "height_m": 0.5, "fitted": _days_before(today, 120)},
        ],
        "feeding": {"starts": _days_before(today, 30)},
    }


@dataclass(frozen=True)
class Guest:
    """A habitat that the program proposes itself.

    `weighings` are days ago and grams; `sides_m` is the enclosure it came in, where it is not the one recommended; where
    `searched`, its heaters and lamps are the best of a search. `mix` is the ground of a recipe, `plants` what grows in it.
    `land_m` of its length are land that is as high as the water beside it. Its mister has so many `nozzles`.
    """

    name: str
    species: str
    animal: dict[str, Any]
    weighings: tuple[tuple[int, float], ...] = ()
    sides_m: tuple[float, float, float] | None = None
    searched: bool = False
    mix: str = ""
    plants: tuple[str, ...] = ()
    land_m: float = 0.0
    nozzles: int = 0


GUESTS: Final = (
    Guest(
        "Reed column",
        "red-eyed-tree-frog",
        {
            "name": "Glasswort",
            "others": ["Arrowgrass", "Cordgrass", "Seablite"],
            "count": 4,
            "males": 2,
            "days": 620,
            "length_m": 0.058,
        },
    ),
    Guest("Tideline tank", "axolotl", {"name": "Eelgrass", "sex": "female", "days": 900, "mass_kg": 0.15, "length_m": 0.24}),
    # Two that outgrow what they live in: a step up that comes due.
    Guest(
        "Creek bank",
        "garter-snake",
        {"name": "Sedge", "sex": "female", "days": 290, "mass_kg": 0.031, "length_m": 0.42},
        ((230, 9.0), (160, 15.0), (80, 23.0)),
        (0.6, 0.4, 0.35),
    ),
    Guest(
        "Saltern box",
        "blue-tongued-skink",
        {"name": "Orache", "sex": "male", "days": 330, "mass_kg": 0.27, "length_m": 0.24},
        ((240, 90.0), (150, 165.0), (60, 231.0)),
        (0.95, 0.5, 0.45),
    ),
    Guest(
        "Shingle ridge",
        "uromastyx",
        {"name": "Tansy", "sex": "male", "days": 1700, "mass_kg": 0.34, "length_m": 0.21},
        searched=True,
    ),
    Guest(
        "Saltpan column",
        "giant-day-gecko",
        {"name": "Sea-lavender", "sex": "male", "days": 800, "length_m": 0.12, "mass_kg": 0.045},
        nozzles=2,
    ),
    Guest(
        "Wrack drawer",
        "california-king-snake",
        {"name": "Saltwort", "sex": "female", "days": 1400, "mass_kg": 0.62, "length_m": 1.1},
    ),
    Guest(
        "Slack pool",
        "musk-turtle",
        {"name": "Pondweed", "sex": "female", "days": 1300, "length_m": 0.095, "mass_kg": 0.18},
        sides_m=(1.2, 0.5, 0.5),
        land_m=0.4,
    ),
    Guest(
        "Spring gully",
        "fire-salamander",
        {"name": "Scurvy-grass", "days": 1500, "mass_kg": 0.03, "length_m": 0.18},
        mix="rotten-wood-layer",
        plants=("sheet-moss", "boston-fern"),
    ),
)
# The room's own profile: what its volunteers measured and do otherwise, with the reason.
OWN_OF: Final = "garter-snake"
OWN_NAME: Final = "garter snake, Saltmarsh Lane"
OWN_CHANGES: Final = (
    ("heat", "basking_surface_c", {"low": 29.0, "high": 32.0}, "ours leave the spot at 33 °C"),
    ("moisture", "day_percent", {"low": 45.0, "high": 65.0}, "a damp room by the sea"),
)


def own_profile(room: Room, keeper: Keeper) -> OwnProfile:
    """Copy the book's garter snake and change what the room does otherwise."""
    made = own.copy(room, find(OWN_OF), Intent(keeper, clock.now()))
    document = copy.deepcopy(made.document)
    document["common"] = OWN_NAME
    for stage in document["stages"]:
        for part, name, limits, reason in OWN_CHANGES:
            leaf = stage[part][name][0]
            leaf |= limits | {"basis": "keeper", "cite": "", "note": reason}
    return own.save(made.pk, document, made.version, keeper, clock.now())


# Solving a first plan takes a second; tests load the demo over and over.
_PROPOSED: dict[tuple[str, str, date], HabitatPlan] = {}


_SEARCHED: dict[tuple[str, str, date], HabitatPlan] = {}


def _best_rig(plan: HabitatPlan, profile: Profile, today: date) -> HabitatPlan:
    """The plan with the rig a search finds best; as it is where none is found."""
    for step in rigs.search(plan, profile, today):
        if isinstance(step, RigsFound) and step.rigs:
            return step.rigs[0].plan
    return plan


WATER_M: Final = 0.2
FILTER_M3_H: Final = 0.4
RESERVOIR_M3: Final = 0.005
PLANT_LIGHT_W: Final = 15.0  # enough for ferns and moss, and little warmth


def _half_land(plan: HabitatPlan, land_m: float, today: date) -> HabitatPlan:
    """The plan with land at the warm end: earth to lay eggs in, a wall of glass towards the water, and wood to bask on."""
    water_m = plan.enclosure.length_m - land_m
    made = plan.model_dump(mode="json") | {"ground": one_ground("soil", WATER_M - 0.02, damp=True)}
    changes = (
        Change("pool.length_m", water_m),
        Change("pool.x_m", round(land_m + water_m / 2, 3)),
        Change("pool.depth_m", WATER_M),
        Change("pool.filtered", value=True),
        Change("pool.filter_m3_h", FILTER_M3_H),
        Change("pool.filter_since", _days_before(today, 200)),
        Change("upkeep.every_days.water-change", 6),
        *(Change(f"{plan.path_of(thing)}.height_m", 0.04) for thing in plan.basking),
    )
    return read_data(apply(made, changes))


def _grown(plan: HabitatPlan, guest: Guest, today: date) -> HabitatPlan:
    """The plan with a guest's land, its living ground, its plants, and light for them."""
    if guest.land_m:
        plan = _half_land(plan, guest.land_m, today)
    if guest.nozzles:
        mister = {"nozzles": guest.nozzles, "reservoir_m3": RESERVOIR_M3}
        plan = read_data(apply(plan.model_dump(mode="json"), (Change("mister", mister),)))
    if guest.mix:
        plan = parts.take_recipe(plan, guest.mix)
        plan = read_data(apply(plan.model_dump(mode="json"), (Change("ground.living", value=True),)))
    if guest.plants:
        path = f"light_bars.{len(plan.light_bars)}"
        plan = parts.add(plan, path)
        plan = read_data(apply(plan.model_dump(mode="json"), (Change(f"{path}.watts", PLANT_LIGHT_W),)))
    for kind in guest.plants:
        size = 0.5 * plants()[kind].wide_m
        thing = {
            "kind": "plant",
            "plant": kind,
            "x_m": 0.0,
            "length_m": size,
            "width_m": size,
            "height_m": plants()[kind].grows_m / 2,
        }
        plan = read_data(apply(plan.model_dump(mode="json"), (added(plan, thing),)))
    return plan


def invite(guest: Guest, room: Room, keeper: Keeper, today: date) -> Habitat:
    """Propose a guest's habitat."""
    species = own_profile(room, keeper).species if guest.species == OWN_OF else guest.species
    profile, digest = profiles.current(room.pk, species)
    plan = _PROPOSED.get((guest.name, digest, today))
    if plan is None:
        animal = {name: value for name, value in guest.animal.items() if name != "days"}
        animal["hatched"] = _days_before(today, int(guest.animal["days"]))
        climate = RoomClimate.model_validate(ROOM)
        plan = _grown(propose(guest.name, profile, AnimalPlan.model_validate(animal), climate, today, guest.sides_m), guest, today)
        plan = furnishing.furnished(plan, profile, today).plan
        _PROPOSED[guest.name, digest, today] = plan
    habitat = revisions.create(room, plan, keeper, clock.now())
    if guest.searched:
        rig = _SEARCHED.get((guest.name, digest, today)) or _best_rig(plan, profile, today)
        _SEARCHED[guest.name, digest, today] = rig
        habitat = revisions.save(habitat.pk, rig, habitat.version, keeper, clock.now(), later(lambda: _("a suggested rig")))
    return habitat


def weigh(guest: Guest, room: Room, keeper: Keeper) -> None:
    """Write a guest's weighings of before into the log."""
    for habitat in Habitat.objects.filter(room=room, name=guest.name) if guest.weighings else ():
        for days, grams in guest.weighings:
            log.weighed(habitat, clock.now() - timedelta(days=days), keeper, grams / 1000)


# What the room measures with; the infrared one reads high, as found against a bath of melting ice.
INSTRUMENTS: Final = (
    ("infrared gun", "infrared", 0.9, 0.8),
    ("probe thermometer", "thermometer", 0.2, 0.3),
    ("dial-free hygrometer", "hygrometer", -2.0, 3.0),
    ("UV index meter", "uv-meter", 0.0, 0.3),
)
# Readings of the tortoise table: days ago, clock, place, what the instrument showed, the room beside it.
CALIBRATED: Final = "Dune table"
READINGS: Final = (
    (6, "15:30", "basking-surface", "infrared gun", 37.7, 21.0, 46.0),
    (6, "15:35", "warm-air", "probe thermometer", 26.7, 21.0, 46.0),
    (6, "15:40", "cool-air", "probe thermometer", 21.1, 21.0, 46.0),
    (6, "15:45", "cool-humidity", "dial-free hygrometer", 48.0, 21.0, 46.0),
    (5, "20:40", "basking-surface", "infrared gun", 27.1, 20.0, 47.0),
    (5, "20:45", "warm-air", "probe thermometer", 21.5, 20.0, 47.0),
    (4, "13:00", "uv-back", "UV index meter", 3.4, 20.5, 46.0),
)


# The room with everything off; its door stands ajar, for the volunteers come and go.
BARE_ROOM: dict[str, Any] = {
    "length_m": 6.2,
    "width_m": 4.4,
    "height_m": 2.6,
    "holds": "flat",
    "loss_w_k": None,
    "changes": "ajar",
    "heated": True,
    "summer": {"day_c": 23.0, "night_c": 20.5, "humidity_percent": 55.0, "outside_c": 19.0},
    "winter": {"day_c": 20.0, "night_c": 18.0, "humidity_percent": 42.0, "outside_c": 4.0},
}


def measure(room: Room, keeper: Keeper, today: date) -> None:
    """Write the room's instruments and readings, and let the one table go by them."""
    meters = {
        name: Instrument.objects.create(room=room, name=name, kind=kind, reads_high=high, sure_to=sure)
        for name, kind, high, sure in INSTRUMENTS
    }
    habitat = Habitat.objects.select_related("company", "head__profile").get(room=room, name=CALIBRATED)
    for days, at, place, by, value, room_c, percent in READINGS:
        hour, _colon, minute = at.partition(":")
        when = timezone.localtime(clock.now()).replace(hour=int(hour), minute=int(minute), second=0) - timedelta(days=days)
        log.was_read(habitat, when, keeper, meters[by], place=place, value=value, room_c=room_c, room_percent=percent)
    plan = mapping.plan_of(habitat)
    taken = readings.of_habitat(habitat)
    learnt = readings.learn(plan, revisions.profile_of(habitat), taken, today)
    change = readings.change(*learnt, len(taken), today)
    made = read_data(apply(plan.model_dump(mode="json"), (change,)))
    revisions.save(habitat.pk, made, habitat.version, keeper, clock.now(), later(lambda: _("calibrated by readings")))


@transaction.atomic
def load_once(password: str, guests: tuple[Guest, ...] = GUESTS) -> bool:
    """Load the demo unless it ever was; tell whether it was loaded now. `guests` come on top of the three written out."""
    _seeding, new = Seeding.objects.get_or_create(name=NAME)
    if not new:
        return False
    keeper = Keeper.objects.filter(username=KEEPER).first() or keepers.add(KEEPER, password, administrator=True, room_name=NAME)
    room = Room.objects.filter(members=keeper).order_by("id").first()
    if room is None:
        return False
    keep_room(room.pk, Intent(keeper, clock.now()), BARE_ROOM)
    for document in plans(clock.today()):
        revisions.create(room, read_data(document), keeper, clock.now())
    measure(room, keeper, clock.today())
    for guest in guests:
        invite(guest, room, keeper, clock.today())
    demo_life.move_in(room, keeper, clock.now(), clock.today())
    for guest in guests:
        weigh(guest, room, keeper)
    demo_life.write_down(room, keeper, clock.today())
    volunteers.live(room, keeper, clock.today())
    demo_cultures.keep(room, clock.today())
    demo_builds.keep(room, keeper, clock.now())
    return True
