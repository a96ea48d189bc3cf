"""The pictures: to scale, in their places, and saying what the numbers say."""

import base64
import re
import struct
import zlib
from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from husbandry.animal.growth_outlook import MassCourse
from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Band, Basis, BasisKind, Quantity, Reason, Verdict
from husbandry.climate.states import SteadyState
from husbandry.codes import ReasonCode
from husbandry.design.first_proposal import propose
from husbandry.furnishing.things import kinds
from husbandry.plan.habitat import Animal, HabitatPlan, RoomCase, RoomClimate
from husbandry.plan.reading import read_data
from husbandry.species.book import find, shipped
from ridgeback.drawing import animals, daystrip, fields, furniture, hours, section, weights
from ridgeback.drawing.floor import FloorFrame
from ridgeback.drawing.marks import PAD, WIDTH, mark
from ridgeback.language import names, wording
from ridgeback.planner import step_bands
from ridgeback.planner.view import View
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, assessed, document, plan

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")
NAMES = wording.part_names()


def found(made: HabitatPlan) -> Assessment:
    return assess(made, find(made.species), TODAY)


def drawn(made: HabitatPlan, phase: str = "day", units: KeeperUnits = METRIC) -> dict[str, Any]:
    return section.draw(made, find(made.species), found(made), section.Look("winter", phase, units, NAMES, made))


# ---- the section ----


def test_the_section_is_to_scale_both_ways() -> None:
    made = plan()
    picture = drawn(made)
    scale = picture["frame"].scale
    assert float(picture["box"]["w"]) == pytest.approx(1.2 * scale, abs=0.1)
    assert float(picture["box"]["h"]) == pytest.approx(0.45 * scale, abs=0.1)
    assert float(picture["ground"]["h"]) == pytest.approx(0.07 * scale, abs=0.1)
    stone = next(thing for thing in picture["things"] if thing["path"] == "things.0")
    places = [float(number) for piece in stone["pieces"] for number in re.findall(r"(-?[\d.]+),", piece["d"])]
    assert max(places) - min(places) == pytest.approx(0.22 * scale, abs=0.5)
    assert float(stone["y"]) == pytest.approx(picture["frame"].floor - (0.07 + 0.04) * scale, abs=0.1)


def test_water_beside_land_is_drawn_behind_a_wall_and_no_ground_shows_through_it() -> None:
    half = plan(pool={"x_m": 0.9, "length_m": 0.6, "depth_m": 0.12})
    scene, frame = drawn(half), section.frame_of(half)
    assert scene["pool"]["wall"].startswith(f"M{frame.x(0.6):.1f} {frame.floor:.1f}V")
    assert float(scene["pool"]["wall"].split("V")[1]) == pytest.approx(frame.y(0.12), abs=0.05)
    assert drawn(plan(pool={"x_m": 0.6, "length_m": 1.2, "depth_m": 0.12}))["pool"]["wall"] == ""


def test_every_part_that_moves_has_its_ring_where_it_is() -> None:
    picture = drawn(plan())
    rings = {part.path: part for part in picture["parts"]}
    lamps = {"heaters.0", "heaters.0.thermostat.probe", "uv_lamps.0"}
    assert set(rings) == lamps | {f"things.{index}" for index in range(5)} | {"ground"}
    lamp, frame = rings["heaters.0"], picture["frame"]
    assert float(lamp.x) == pytest.approx(frame.left + 0.26 * frame.scale, abs=0.1)
    assert float(lamp.y) == pytest.approx(frame.floor - 0.4 * frame.scale, abs=0.1)
    assert (lamp.moves, rings["things.4"].moves, rings["ground"].moves) == ("both", "x", "h")
    assert lamp.said == "26 cm from the left, 40 cm above the floor"


def test_rulers_count_in_the_keepers_unit() -> None:
    metric, imperial = drawn(plan())["rulers"], drawn(plan(), units=IMPERIAL)["rulers"]
    assert [tick["text"] for tick in metric["along"]][-1] == "120"
    assert float(imperial["along"][-1]["text"]) * 2.54 <= 120.1
    # A tick of twelve inches stands where 30.48 cm would.
    frame = drawn(plan())["frame"]
    foot = next(tick for tick in imperial["along"] if tick["text"] == "12")
    assert float(foot["at"]) == pytest.approx(frame.left + 0.3048 * frame.scale, abs=0.1)


def test_night_shows_no_uv_and_no_burning_tube() -> None:
    day, night = drawn(plan()), drawn(plan(), phase="night")
    assert day["uv"]
    assert day["tubes"][0]["on"]
    assert night["uv"] == []
    assert not night["tubes"][0]["on"]
    assert day["spot"]["uv"]
    assert not night["spot"]["uv"]


def test_the_numbers_on_the_drawing_are_the_assessments() -> None:
    made = plan()
    answer, picture = found(made), drawn(made)
    surface = answer.quantity("basking_surface", "winter", "day").value
    assert picture["spot"]["text"] == f"{surface:.1f} °C"
    warm = next(label for label in picture["labels"] if label["id"] == "label-warm")
    assert warm["text"] == f"{answer.quantity('warm_air', 'winter', 'day').value:.1f} °C"
    assert warm["small"] == f"{answer.quantity('warm_humidity', 'winter', 'day').value:.0f} %"


@pytest.mark.parametrize(
    ("size", "lid", "layout"),
    [((1.2, 0.5, 0.45), "solid", "wide"), ((1.2, 0.6, 0.75), "solid", "beside"), ((0.45, 0.45, 0.9), "mesh", "tall")],
)
def test_the_layout_follows_the_shape_and_everything_fits(size: tuple[float, float, float], lid: str, layout: str) -> None:
    length, width, height = size
    bare = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}
    box = {"kind": "glass", "length_m": length, "width_m": width, "height_m": height, "lid": lid}
    made = read_data(document(enclosure=box, **bare))
    chosen = section.layout_of(made)
    assert chosen.name == layout
    picture = drawn(made)
    assert float(picture["width"]) <= chosen.width + 0.1
    assert float(picture["height"]) <= chosen.height + 0.1
    floor = picture["floor"]
    assert float(floor["width"]) <= chosen.floor[0] + 0.1
    assert float(floor["height"]) <= chosen.floor[1] + 0.1


def test_a_lamp_above_the_lid_stays_inside_the_picture() -> None:
    made = plan(enclosure__lid="open", heaters__0__height_m=0.9)
    picture = drawn(made)
    lamp = next(part for part in picture["parts"] if part.path == "heaters.0")
    assert float(lamp.y) > 0


@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_the_animal_is_drawn_at_its_size_with_its_feet_on_the_ground(profile: Any) -> None:
    form, total_m, scale = profile.body.form, 0.5, 400.0
    outline, _marks, eye = animals.place(form, total_m, 300.0, 200.0, scale, turned=False)
    points = [tuple(map(float, pair.split(","))) for pair in re.findall(r"-?[\d.]+,-?[\d.]+", outline)]
    wide = max(x for x, _ in points) - min(x for x, _ in points)
    expected = total_m * scale * (animals.COIL_SHARE if form == "snake" else 1.0)
    assert wide == pytest.approx(expected, rel=0.15)
    assert max(y for _, y in points) == pytest.approx(200.0, abs=0.02 * expected)
    turned_eye = animals.place(form, total_m, 300.0, 200.0, scale, turned=True)[2]
    assert eye[0] - 300.0 == pytest.approx(300.0 - turned_eye[0])


# ---- fields ----


def frame() -> fields.Frame:
    return fields.Frame(40.0, 300.0, 500.0, 1.2, 0.45, 0.07)


def settled() -> SteadyState:
    return found(plan()).climate.states["winter", "day"]


def test_the_wash_is_a_picture_of_the_air() -> None:
    address = fields.wash(fields.air_field(frame(), np.array(settled().air_c)), 15.0, 36.0)
    raw = base64.b64decode(address.removeprefix("data:image/png;base64,"))
    assert raw.startswith(b"\x89PNG\r\n\x1a\n")
    width, height = struct.unpack(">II", raw[16:24])
    assert (width, height) == (fields.COLUMNS, fields.ROWS)
    body = raw[raw.index(b"IDAT") + 4 :]
    length = struct.unpack(">I", raw[raw.index(b"IDAT") - 4 : raw.index(b"IDAT")])[0]
    assert len(zlib.decompress(body[:length])) == height * (1 + 4 * width)


def test_the_air_field_is_warmest_at_the_lamp_and_keeps_the_zones_range() -> None:
    zones = np.array(settled().air_c)
    field = fields.air_field(frame(), zones)
    assert field.min() == pytest.approx(zones.min())
    assert field.max() == pytest.approx(zones.max(), abs=0.1)  # between two points of the grid
    assert field[0].argmax() < fields.COLUMNS / 2


def test_isotherms_are_whole_degrees_of_the_keepers_scale() -> None:
    field = fields.air_field(frame(), np.array(settled().air_c))
    for line in fields.isotherms(frame(), field, (1.0, 0.0), 2.0):
        assert re.fullmatch(r"(\d+°)?", line.text)
        if line.text:
            assert int(line.text[:-1]) % 2 == 0
    fahrenheit = fields.isotherms(frame(), field, (1.8, 32.0), 4.0)
    assert any(line.text and int(line.text[:-1]) > 68 for line in fahrenheit)


def test_a_uv_contour_runs_where_the_index_is_what_it_says() -> None:
    """Read a point off the line and ask the model there."""
    from husbandry.inputs.light_sources import uv_lamps_on
    from husbandry.light.ultraviolet import index_at

    lamps = uv_lamps_on(plan(uv_lamps__0__kind="slim-12"), TODAY)
    checked = 0
    for line in fields.uv_lines(frame(), lamps, ()):
        if not line.text:
            continue
        x_m, height_m = (line.x - 40.0) / 500.0, (300.0 - line.y) / 500.0
        assert float(index_at(lamps, x_m, height_m)) == pytest.approx(float(line.text), rel=0.12)
        checked += 1
    assert checked >= 3


def test_wetter_air_has_more_points() -> None:
    air, vapour = fields.air_field(frame(), np.array(settled().air_c)), settled().vapour_pa
    assert fields.stipple(frame(), air, 1.6 * vapour).count("M") > fields.stipple(frame(), air, vapour).count("M") > 0
    assert fields.stipple(frame(), air, vapour) == fields.stipple(frame(), air, vapour)


# ---- the day and the mark ----


@pytest.mark.parametrize("size", [(830.0, 152.0), (430.0, 290.0)])
def test_the_day_strip_stays_in_its_frame_and_its_names_apart(size: tuple[float, float]) -> None:
    made = plan()
    strip = daystrip.draw(made, found(made), "winter", METRIC, size)
    for path in [*strip["curves"].values(), strip["humidity"]]:
        points = [tuple(map(float, pair.split(","))) for pair in re.findall(r"-?[\d.]+,-?[\d.]+", path)]
        assert len(points) == 1 + 24 * 6
        assert all(0 <= x <= size[0] and 0 <= y <= size[1] for x, y in points)
    places = sorted(float(y) for y in (label["y"] for label in strip["names"]))
    assert all(later - earlier > 11.8 for earlier, later in pairwise(places))


def test_the_day_strips_words_are_its_curves() -> None:
    made = plan()
    answer = found(made)
    words = daystrip.words(made, answer, "winter", METRIC)
    day = answer.days["winter"]
    assert words["warm_low"] == f"{day.warm_air.min():.1f}"
    assert words["cool_high"] == f"{day.cool_air.max():.1f} °C"
    assert float(words["kwh"]) == pytest.approx(day.kwh, abs=0.006)
    minutes = answer.quantity("basking_after", "winter").value
    assert minutes is not None
    assert words["minutes"] == f"{minutes:.0f}"
    hour = 8 + minutes / 60
    assert day.basking_surface[round(hour * 60) - 1] >= 31.0 - 0.5


def test_the_strip_and_the_numbers_tell_one_energy_with_a_tube_on_the_lid() -> None:
    """What a tube on the mesh gives to the room is paid for too: 1.42 here and 1.60 there was one day of one plan."""
    on_lid = {"enclosure__kind": "glass", "enclosure__lid": "mesh", "uv_lamps__0__height_m": 0.47, "heaters__0__height_m": 0.47}
    made = plan(**on_lid)
    answer = found(made)
    energy = answer.quantity("energy", "winter").value
    assert energy is not None
    assert energy > answer.days["winter"].kwh + 0.05
    assert daystrip.words(made, answer, "winter", METRIC)["kwh"] == f"{energy:.2f}"


def test_a_lamp_that_never_reaches_its_band_has_no_minutes() -> None:
    made = plan(heaters__0__watts=5.0)
    answer = found(made)
    assert answer.quantity("basking_after", "winter").value is None
    assert daystrip.words(made, answer, "winter", METRIC)["minutes"] == ""


def test_a_target_that_no_curve_comes_near_is_on_the_strip_too() -> None:
    """Where it is far too warm or too cold one sees how far: the target is not left out for lying beyond the curves."""
    cold = plan(heaters=[], room__winter__day_c=12.0, room__winter__night_c=10.0)
    answer = found(cold)
    strip = daystrip.draw(cold, answer, "winter", METRIC, (830.0, 152.0))
    assert {band["name"] for band in strip["bands"]} == {"basking", "warm", "cool"}
    targets = [item for item in answer.quantities if (item.season, item.phase) == ("winter", "day") and item.key in daystrip.NAMES]
    two = daystrip.two(answer.days["winter"], answer.days["winter"], targets, METRIC, (1000.0, 240.0))
    assert {band["name"] for band in two["bands"]} == {"basking", "warm", "cool"}
    for band in strip["bands"]:
        assert float(band["h"]) > 0
        assert daystrip.HEAT_TOP <= float(band["y"]) <= 152.0


def tank_of(species: str) -> HabitatPlan:
    room = RoomCase(day_c=24.0, night_c=21.0, humidity_percent=50)
    return propose("Tank", find(species), Animal(), RoomClimate(summer=room, winter=room), TODAY)


def test_the_numbers_of_an_animal_that_lives_in_water_are_the_waters() -> None:
    """An axolotl has no basking place and no air to be judged by; a turtle basks, and its cool end is its water."""
    tank = tank_of("axolotl")
    degrees = found(tank).quantity("water_temperature", "winter", "day").value
    picture = drawn(tank)
    assert [(label["id"], label["text"]) for label in picture["labels"]] == [("label-water", f"{degrees:.1f} °C")]
    assert picture["spot"] is None
    turtle = drawn(tank_of("musk-turtle"))
    assert {label["id"] for label in turtle["labels"]} == {"label-warm", "label-water"}
    assert turtle["spot"] is not None
    for species, wanted in (("axolotl", ["water_temperature"]), ("musk-turtle", ["water_temperature", "basking_surface"])):
        answer = found(tank_of(species))
        shown = [item.name for item in step_bands.bands(answer, View("heat", "winter", "day"), METRIC, step_bands.BANDS, {})]
        assert shown[: len(wanted)] == [names.NAMES[key] for key in wanted]
        assert names.NAMES["cool_air"] not in shown


def test_a_whole_day_of_a_tank_plays_its_water() -> None:
    tank = tank_of("axolotl")
    answer = found(tank)
    noon = hours.frames(tank, answer, "winter", METRIC)[23]
    water = answer.days["winter"].water_c
    assert water is not None
    assert noon["water"] == f"{water[12 * 60 - 1]:.1f} °C"


def test_an_animal_that_never_leaves_the_water_has_the_water_alone_on_its_strip() -> None:
    tank = tank_of("axolotl")
    strip = daystrip.draw(tank, found(tank), "summer", METRIC, (830.0, 152.0))
    assert set(strip["curves"]) == {"tank"}
    assert {band["name"] for band in strip["bands"]} == {"tank"}
    turtle = tank_of("musk-turtle")
    assert {"tank", "basking"} <= set(daystrip.draw(turtle, found(turtle), "summer", METRIC, (830.0, 152.0))["curves"])


@pytest.mark.parametrize(
    ("key", "value", "said"),
    [
        ("warm_patch", 0.1, "too small"),
        ("water_depth", 0.9, "too deep"),
        ("lamp_distance", 0.1, "too near"),
        ("feed_interval", 9.0, "too long"),
        ("warm_air", 9.0, "too high"),
    ],
)
def test_too_little_and_too_much_have_the_words_of_their_kind(key: str, value: float, said: str) -> None:
    """A patch is small, water deep, a lamp near and an interval long; temperatures are low and high. Common English, no source."""
    item = replace(quantity(value, 0.3, 0.5), key=key, unit="m", verdict=Verdict.OUTSIDE)
    assert mark(item, METRIC).verdict_text == said


def test_a_timer_over_midnight_is_two_spans() -> None:
    made = plan(uv_lamps__0__on="20:00", uv_lamps__0__off="06:00")
    strip = daystrip.draw(made, found(made), "winter", METRIC, (830.0, 152.0))
    assert len(strip["uv"]) == 2


def quantity(value: float, low: float | None, high: float | None) -> Quantity:
    band, of_a_plan = Band(low, high, Basis(BasisKind.PRACTICE)), assessed().quantity("warm_air", "winter", "day").reason
    return Quantity(
        "warm_air",
        "degC",
        value,
        band.judge(value),
        Reason(ReasonCode.HEAT_BALANCE, of_a_plan.parameters),
        band.basis,
        band,
        value - 1,
        value + 1,
    )


@pytest.mark.parametrize(("low", "high"), [(28.0, 32.0), (None, 32.0), (28.0, None)])
@pytest.mark.parametrize("value", [10.0, 28.0, 30.0, 32.0, 55.0])
def test_the_marks_needle_stands_in_its_bar_when_it_is_inside(value: float, low: float | None, high: float | None) -> None:
    axis = mark(quantity(value, low, high), METRIC).axis
    assert axis is not None
    begin, width = (float(number) for number in axis["target"])
    needle = float(axis["value"])
    inside = (low is None or value >= low) and (high is None or value <= high)
    assert (begin - 0.11 <= needle <= begin + width + 0.11) == inside
    assert PAD <= needle <= WIDTH - PAD
    assert (axis["open_low"], axis["open_high"]) == (low is None, high is None)


def test_a_mark_says_its_band_and_its_verdict_aloud() -> None:
    said = mark(quantity(33.0, 28.0, 32.0), METRIC).said
    assert said == "Warm-end air: 33.0 °C, target 28.0–32.0 °C, too high"
    assert mark(quantity(26.0, 28.0, None), METRIC).target == "at least 28.0 °C"
    assert mark(quantity(26.0, None, 28.0), IMPERIAL).target == "at most 82 °F"


def test_an_unknown_number_is_a_dash() -> None:
    unknown = replace(quantity(30.0, 28.0, 32.0), value=None, verdict=Verdict.UNKNOWN)
    shown = mark(unknown, METRIC)
    assert (shown.number, shown.axis, shown.verdict_text) == ("–", None, "unknown")


def test_the_schools_of_a_band_are_said_in_words() -> None:
    made = plan(species="leopard-gecko", animal={"mass_kg": 0.06, "length_m": 0.12})
    found = assess(made, find("leopard-gecko"), TODAY, depth=NO_DAYS)
    shown = [mark(item, METRIC) for item in found.quantities if item.school]
    assert any(" " in item.quantity.school for item in shown)  # several at once
    for item in shown:
        assert item.school
        assert all(part not in item.school for part in item.quantity.school.split())


def test_weights_are_drawn_in_their_order_over_what_the_kind_weighs() -> None:
    masses = [(date(2026, 1, 1) + timedelta(days=14 * turn), 0.05 + 0.001 * turn) for turn in range(12)]
    drawn = weights.draw(masses, METRIC, lambda _day: MassCourse(0.045, 0.055, 0.065))
    assert drawn is not None
    xs, ys = ([float(point[name]) for point in drawn["points"]] for name in ("x", "y"))
    assert xs == sorted(xs)
    assert ys == sorted(ys, reverse=True)  # heavier is higher
    assert float(drawn["left"]) == xs[0]
    assert xs[-1] == float(drawn["right"])
    # A tenth below the median of the weighings before the last two: 0.9 × 0.057 kg, below every weight since.
    assert float(drawn["limit"]) > max(ys[3:])
    assert drawn["points"][0]["said"] == "50 g"
    assert drawn["band"].count("L") == 2 * weights.STEPS + 1


def test_one_weight_is_no_line_and_the_same_weight_twice_is_a_level_one() -> None:
    day = date(2026, 1, 1)
    assert weights.draw([], METRIC) is None
    assert weights.draw([(day, 0.05), (day, 0.06)], METRIC) is None
    level = weights.draw([(day, 0.05), (day + timedelta(days=9), 0.05)], METRIC)
    assert level is not None
    assert level["points"][0]["y"] == level["points"][1]["y"]
    assert level["limit"] is None
    far = weights.draw([(day, 0.05), (day + timedelta(days=9), 0.051)], METRIC, lambda _day: MassCourse(2.0, 3.0, 4.0))
    assert far is not None  # a kind that weighs forty times as much presses nothing flat
    assert abs(float(far["points"][0]["y"]) - float(far["points"][1]["y"])) > 1


@pytest.mark.parametrize(("kind", "base"), [(kind, base) for kind, made in kinds().items() for base in made.bases])
def test_every_kind_of_thing_is_drawn_where_it_stands_from_the_front_and_from_above(kind: str, base: str) -> None:
    """Within its own place, give or take what holds it up; a drawing that is elsewhere would be dragged elsewhere."""
    up = {} if base in ("ground", "floor") else {"up_m": 0.15}
    size = {"length_m": 0.24, "width_m": 0.16, "height_m": 0.14}
    made = plan(hides=[], platform=None, bowl=None).model_dump(mode="json")
    made |= {"things": [{"kind": kind, "base": base, "x_m": 0.6, "y_m": 0.3, **size, **up}]}
    habitat = read_data(made)
    front = section.frame_of(habitat)
    above = FloorFrame.of(habitat, (600.0, 300.0))
    for frame, drawn in ((front, furniture.from_the_front(habitat, front)), (above, furniture.from_above(habitat, above))):
        (thing,) = drawn
        assert thing["path"] == "things.0"
        paths = [piece["d"] for piece in thing["pieces"]]
        assert paths
        begun = [float(number) for path in paths for number in re.findall(r"M(-?[\d.]+),", path)]
        assert begun
        # Its own half length, and a fifth for what grows over its edge.
        for x in begun:
            assert float(frame.x(0.6 - 0.12 * 1.5)) <= x <= float(frame.x(0.6 + 0.12 * 1.5)), x
        assert "nan" not in "".join(paths)
