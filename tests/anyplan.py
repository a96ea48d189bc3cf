"""Any plan at all: whatever a keeper may type that the document takes, in a box of any kind and size, for any species."""

from datetime import timedelta
from typing import Any, get_args

from hypothesis import strategies as st

from husbandry.diet.foods import foods
from husbandry.diet.prey import CLASSES
from husbandry.plan import equipment
from husbandry.plan.feeding_settings import Feeding
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.placement import check_places
from husbandry.species.book import shipped
from tests.plans import TODAY

HOURS = st.integers(0, 47).map(lambda half: f"{half // 2:02d}:{30 * (half % 2):02d}")
SHARE = st.floats(0.0, 1.0)


def _of(kinds: Any) -> st.SearchStrategy[Any]:
    return st.sampled_from(get_args(kinds))


ROOM = st.fixed_dictionaries(
    {"day_c": st.floats(-5, 40), "night_c": st.floats(-10, 35), "humidity_percent": st.floats(5, 100)},
    optional={"curve_c": st.lists(st.floats(0, 38), min_size=24, max_size=24)},
)
THERMOSTAT = st.one_of(
    st.just({"kind": "none"}),
    st.fixed_dictionaries(
        {"kind": st.sampled_from(["on-off", "pulse", "dimming"]), "set_c": st.floats(5, 60), "probe": _of(equipment.ProbePlace)},
        optional={
            "night_set_c": st.floats(5, 60),
            "probe_x_m": st.floats(0, 0.2),
            "hysteresis_k": st.floats(0.1, 10),
            "probe_error_k": st.floats(-5, 5),
        },
    ),
)


# Whatever a keeper may choose; a species without a topic goes by the book.
SCHOOLS = ({}, {"uvb": "sessions"}, {"uvb": "none"}, {"heat": "mat"}, {"heat": "both"}, {"prey": "length"}, {"space": "tub"})


@st.composite
def documents(draw: st.DrawFn) -> dict[str, Any]:
    """Documents whose parts are where parts can be, `HabitatPlan` aside from `check_places`, which the caller asks."""
    length, width, height = (draw(st.floats(low, high)) for low, high in ((0.2, 5.0), (0.2, 2.0), (0.2, 3.0)))
    ground = draw(st.floats(0, min(0.4 * height, 1.0)))
    lid = draw(_of(equipment.LidKind))

    def x() -> float:
        return draw(SHARE) * length

    def timed() -> dict[str, str]:
        return {"on": draw(HOURS), "off": draw(HOURS)}

    platform = draw(st.none() | st.just({"x_m": 0.0}))
    top = ground
    if platform is not None:
        rise = draw(st.floats(0, 0.3 * height))
        platform = {
            "kind": draw(st.sampled_from(["slate", "stone", "wood", "branch"])),
            "x_m": x(),
            "length_m": draw(st.floats(0.05, 1.0)) * length,
            "height_m": rise,
        }
        top += rise

    def above() -> float:
        highest = height + (0.0 if lid == "solid" else 0.5)
        return top + 0.001 + draw(SHARE) * max(highest - top - 0.002, 0.001)

    def heater() -> dict[str, Any]:
        found = timed() | {
            "kind": draw(_of(equipment.HeaterKind)),
            "watts": draw(st.floats(1, 400)),
            "x_m": x(),
            "height_m": above(),
        }
        if draw(st.booleans()):
            found |= {"length_m": draw(st.floats(0.05, 1.0)) * length, "holder": draw(_of(equipment.HolderKind)), "guarded": True}
        return found | {"thermostat": draw(THERMOSTAT)}

    def uv_lamp() -> dict[str, Any]:
        more = {"tube_m": draw(st.floats(0.05, 1.5)), "reflector": draw(st.booleans()), "behind_glass": draw(st.booleans())}
        if draw(st.booleans()):
            more |= {"again_on": draw(HOURS), "again_off": draw(HOURS)}
        return timed() | {"kind": draw(_of(equipment.TubeKind)), "x_m": x(), "height_m": above()} | more

    def bar() -> dict[str, Any]:
        lit = {"watts": draw(st.floats(1, 100)), "length_m": draw(st.floats(0.05, 1.0)) * length}
        return timed() | {"kind": draw(_of(equipment.LightBarKind)), "x_m": x(), "height_m": above()} | lit

    def several(make: Any, most: int) -> list[dict[str, Any]]:
        return [make() for _ in range(draw(st.integers(0, most)))]

    hides = [
        {"x_m": x(), "length_m": draw(st.floats(0.05, 0.5)), "height_m": draw(st.floats(0.03, 0.3)), "humid": draw(st.booleans())}
        for _ in range(draw(st.integers(0, 3)))
    ]
    pool = None
    if draw(st.booleans()):
        long = draw(st.floats(0.1, 1.0)) * length
        pool = {"x_m": long / 2 + draw(SHARE) * (length - long), "length_m": long, "depth_m": draw(st.floats(0.05, 0.6)) * height}
        pool |= {"fan": draw(st.booleans()), "filtered": draw(st.booleans())}
    probes = [{"x_m": x(), "height_m": draw(SHARE) * height} for _ in range(draw(st.integers(0, 2)))]
    vents = [{"height_m": draw(SHARE) * height, "area_m2": draw(st.floats(0.0005, 0.05))} for _ in range(draw(st.integers(0, 3)))]
    known: dict[str, Any] = {"mass_kg": st.floats(0.001, 30), "length_m": st.floats(0.02, 3), "hatched": st.just("2024-06-01")}
    known |= {"name": st.just("Sedge"), "others": st.lists(st.sampled_from(["Thrift", "Tansy"]), max_size=3)}
    animal: dict[str, Any] = draw(st.fixed_dictionaries({"count": st.integers(1, 6)}, optional=known))
    return {
        "format": "ridgeback-plan/1",
        "name": "Any",
        "species": draw(st.sampled_from(sorted(shipped()))),
        "animal": animal,
        "schools": draw(st.sampled_from(SCHOOLS)),
        "room": {"summer": draw(ROOM), "winter": draw(ROOM)},
        "enclosure": {
            "kind": draw(_of(equipment.EnclosureKind)),
            "length_m": length,
            "width_m": width,
            "height_m": height,
            "lid": lid,
            "mesh_open_share": draw(st.floats(0.1, 1.0)),
            "lid_covered": draw(SHARE),
            "insulation_m": draw(st.sampled_from([0.0, 0.02, 0.1])),
            "vents": vents,
        },
        "ground": {"kind": draw(_of(equipment.GroundKind)), "depth_m": ground, "damp": draw(st.booleans())},
        "plants": draw(_of(equipment.Planting)),
        "platform": platform,
        "hides": hides,
        "bowl": draw(st.none() | st.just({"x_m": length / 3, "diameter_m": min(width, length) / 4})),
        "pool": pool,
        "misting": {
            "grams_per_day": draw(st.floats(0, 500)),
            "times": [{"at": draw(HOURS), "grams": draw(st.floats(1, 300))} for _ in range(draw(st.integers(0, 3)))],
            "fogger_g_per_hour": draw(st.sampled_from([0.0, 20.0, 300.0])),
        },
        "daylight": timed(),
        "heaters": several(heater, 4),
        "probes": probes,
        "uv_lamps": several(uv_lamp, 2),
        "light_bars": several(bar, 2),
        "window": draw(st.none() | st.just(timed() | {"watts": 120.0})),
    }


FOODS = st.sampled_from(
    [*foods(), *(f"{animal}/{name}" for animal, sizes in CLASSES.items() for name, *_w in sizes), "my own cake"]
)
PRODUCT = st.sampled_from(["plain calcium", "calcium with D3", "multivitamin", "all-in-one"])
ITEM = st.one_of(
    st.fixed_dictionaries({"food": FOODS, "count": st.integers(1, 400)}, optional={"each_g": st.floats(0.001, 900)}),
    st.fixed_dictionaries({"food": FOODS, "grams": st.floats(0.001, 9000)}, optional={"per_week": st.floats(0.1, 7)}),
)
POWDER = st.one_of(
    st.fixed_dictionaries({"product": PRODUCT, "every_days": st.floats(0.1, 120)}),
    st.fixed_dictionaries({"product": PRODUCT, "every_feeds": st.integers(1, 60)}),
)
WHY = ("shed", "rest")
FAST = st.tuples(st.integers(-40, 60), st.integers(0, 90)).map(
    lambda days: {
        "first": str(TODAY + timedelta(days=days[0])),
        "last": str(TODAY + timedelta(days=sum(days))),
        "why": WHY[sum(days) % 2],
    }
)
feedings = st.fixed_dictionaries(
    {"items": st.lists(ITEM, max_size=5), "fasts": st.lists(FAST, max_size=3), "calcium_dish": st.booleans()},
    optional={
        "starts": st.integers(-900, 40).map(lambda days: str(TODAY + timedelta(days=days))),
        "interval_days": st.integers(1, 60),
        "weekdays": st.lists(st.integers(0, 6), max_size=7),
        "every_weeks": st.integers(1, 4),
        "condition": st.integers(1, 5),
        "state": st.sampled_from(["usual", "gravid", "off-feed"]),
        "measured_m": st.floats(0.0005, 0.4),
        "supplements": st.lists(POWDER, max_size=4),
        "dust_mg_per_g": st.floats(0, 80),
    },
).map(Feeding.model_validate)
plans = documents().map(HabitatPlan.model_validate).filter(lambda plan: not check_places(plan))
