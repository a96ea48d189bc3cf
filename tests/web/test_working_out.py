"""The pages that reckon: what if, the lamp, rigs, readings and instruments, the hours of the day."""

import json
import re
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from django.test import Client
from django.urls import reverse

from husbandry.design import parts, scenarios
from husbandry.inputs import probe_places
from husbandry.species.book import find
from husbandry.units import convert
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.drawing import fields, hours, section
from ridgeback.language import names, wording
from ridgeback.planner import bench, mapping, revisions, solving, step_fields
from ridgeback.planner.view import View
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, document, plan

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")
EVERYTHING: dict[str, Any] = {
    "enclosure__vents": [{"height_m": 0.1, "area_m2": 0.006}, {"height_m": 0.4, "area_m2": 0.006}],
    "enclosure__insulation_m": 0.02,
    "enclosure__wall_m": 0.012,
    "pool": {"x_m": 1.0, "length_m": 0.3, "depth_m": 0.06},
    "misting": {"grams_per_day": 20, "times": [{"at": "08:30", "grams": 30}], "fogger_g_per_hour": 5},
    "light_bars": [{"kind": "plant-led", "watts": 18, "length_m": 0.6, "x_m": 0.6, "height_m": 0.42}],
    "window": {"watts": 60, "on": "09:00", "off": "10:30"},
    "heaters": [
        document()["heaters"][0],
        {"kind": "mat", "watts": 14, "x_m": 0.5, "height_m": 0.01, "thermostat": {"kind": "pulse", "set_c": 31, "probe": "mat"}},
        {"kind": "water-heater", "watts": 25, "x_m": 1.0, "height_m": 0.02,
         "thermostat": {"kind": "on-off", "set_c": 24, "probe": "water"}},
        {"kind": "tube-heater", "watts": 40, "x_m": 0.8, "height_m": 0.12, "length_m": 0.4},
        {"kind": "vapour-combined", "watts": 100, "x_m": 0.3, "height_m": 0.42},
    ],
}  # fmt: skip


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def fetch(client: Client, name: str, habitat: Habitat, **query: str) -> str:
    response = client.get(reverse(f"planner:{name}", args=[habitat.pk]), query)
    assert response.status_code == 200
    return response.content.decode()


# ---- scenarios, lamps, rigs ----


@pytest.mark.sweep
def test_every_scenario_has_its_page(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    made = make_habitat(misting__grams_per_day=60.0)
    for code in scenarios.possible(mapping.plan_of(made), find(made.species), clock.today()):
        page = fetch(client, "what-if", made, case=code)
        assert str(solving.SCENARIOS[code][1]) in page
        assert "two-days" in page
        assert "%(" not in page
    assert "heat wave" in fetch(client, "what-if", made, case="nonsense")
    assert set(solving.SCENARIOS) == set(scenarios.LISTED)


@pytest.mark.sweep
def test_taking_a_way_to_hang_the_lamp_saves_it(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    made = make_habitat(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=60.0)
    page = fetch(client, "lamp", made)
    assert "On a dimming thermostat at 33.0 °C." in page
    url = reverse("planner:take-lamp", args=[made.pk])
    assert client.post(url, {"way": "dim", "version": made.version}).status_code == 302
    made.refresh_from_db()
    after = mapping.plan_of(Habitat.objects.get(pk=made.pk))
    assert (after.heaters[0].thermostat.kind, after.heaters[0].thermostat.set_c) == ("dimming", 33.0)
    assert client.post(url, {"way": "full_on", "version": made.version}).status_code == 404


@pytest.mark.sweep
def test_what_was_worked_out_for_another_plan_is_not_done(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    """Two tabs: in one the lamp is made stronger, in the other a way, a rig, a misting and a remedy still stand from before.

    Each was found harmless for the plan it was shown with, and says nothing of the stronger lamp.
    """
    made = make_habitat(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=60.0, room__winter__humidity_percent=20.0)
    found = bench.findings(made, mapping.plan_of(made), View(), METRIC, TODAY)["findings"]
    offered = next(item["id"] for item in found if item["can_change"])
    rig = {"heaters": [document()["heaters"][0] | {"watts": 40}], "uv_lamps": []}
    begun = made.version
    stronger = mapping.plan_of(made).model_copy(
        update={"heaters": (mapping.plan_of(made).heaters[0].model_copy(update={"watts": 150.0}),)}
    )
    revisions.save(made.pk, stronger, begun, None, clock.now(), "stronger")
    for name, posted in (
        ("take-lamp", {"way": "weaker"}),
        ("take-rig", {"rig": json.dumps(rig)}),
        ("remedy", {"finding": offered}),
        ("take-mistings", {"season": "winter"}),
    ):
        answer = client.post(reverse(f"planner:{name}", args=[made.pk]), posted | {"version": begun}, follow=True)
        assert "worked out for the plan as it stood before" in answer.content.decode(), name
        assert mapping.plan_of(Habitat.objects.get(pk=made.pk)) == stronger, name


@pytest.mark.sweep
def test_a_way_pressed_twice_is_taken_once(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    """The second press does not take the next weaker lamp."""
    made = make_habitat(heaters__0__thermostat={"kind": "none"}, heaters__0__watts=60.0)
    url, begun = reverse("planner:take-lamp", args=[made.pk]), made.version
    for _press in range(2):
        answer = client.post(url, {"way": "weaker", "version": begun}, follow=True)
        assert "worked out for the plan" not in answer.content.decode()
    assert mapping.plan_of(Habitat.objects.get(pk=made.pk)).heaters[0].watts == 40.0


@pytest.mark.sweep
def test_a_search_tells_its_steps_and_ends_with_rigs_to_take(client: Client, habitat: Habitat) -> None:
    response = client.get(reverse("planner:rig-search", args=[habitat.pk]))
    lines = [json.loads(line) for line in b"".join(response.streaming_content).decode().splitlines()]  # type: ignore[attr-defined]
    assert len(lines) > 10
    assert all(line["done"] <= line["of"] for line in lines[:-1])
    assert "Plan with this rig" in lines[-1]["html"]
    assert "%(" not in lines[-1]["html"]
    assert "Plan with this rig" in fetch(client, "rig", habitat, now="yes")


def test_taking_a_rig_changes_heaters_and_lamps_and_nothing_else(client: Client, habitat: Habitat) -> None:
    before = mapping.plan_of(habitat)
    rig = {"heaters": [document()["heaters"][0] | {"watts": 40}], "uv_lamps": []}
    url = reverse("planner:take-rig", args=[habitat.pk])
    client.post(url, {"rig": json.dumps(rig), "version": habitat.version})
    after = mapping.plan_of(Habitat.objects.get(pk=habitat.pk))
    assert (after.heaters[0].watts, after.uv_lamps) == (40.0, ())
    assert after.model_copy(update={"heaters": before.heaters, "uv_lamps": before.uv_lamps}) == before
    assert client.post(url, {"rig": "{}", "version": habitat.version}).status_code == 404
    absurd = {"heaters": [document()["heaters"][0] | {"watts": 9000}], "uv_lamps": []}
    client.post(url, {"rig": json.dumps(absurd), "version": habitat.version + 1})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).heaters[0].watts == 40.0


# ---- the bench through the day ----


@pytest.mark.parametrize("units", [METRIC, IMPERIAL], ids=["metric", "imperial"])
def test_the_hours_are_the_days_own(units: KeeperUnits) -> None:
    made = plan()
    found = bench.assess(made, find(made.species), TODAY)
    pictures = hours.frames(made, found, "winter", units)
    assert [picture["clock"] for picture in pictures][:2] == ["00:30", "01:00"]
    assert len(pictures) == 48
    noon = pictures[23]
    day = found.days["winter"]
    assert noon["spot"] == " ".join(units.number(float(day.basking_surface[12 * 60 - 1]), "degC"))
    assert noon["lit"]
    assert not pictures[3]["lit"]
    assert max(map(max, pictures[3]["samples"]["uv"])) == 0.0
    assert max(map(max, noon["samples"]["uv"])) > 0.5
    for picture in (pictures[3], noon):
        read = picture["samples"]
        assert max(map(max, read["air"])) <= convert(float(day.nodes.max()), "degC", units.temperature) + 0.1
        assert read["shown"]["symbol"] == ("°F" if units is IMPERIAL else "°C")
        # One vapour pressure: what is warmest is driest, by the one row that holds both.
        air, humid = np.array(read["air"]).ravel(), np.array(read["humid"]).ravel()
        assert humid[air.argmax()] == humid.min() < humid[air.argmin()] == humid.max() <= 100


def test_every_uv_lamp_shines_in_its_own_hours() -> None:
    """A tube in the morning and a compact in the evening: each alone in its hours, both between, none at night; doses add."""
    tube = plan().uv_lamps[0].model_dump(mode="json") | {"on": "08:00", "off": "14:00"}
    coil = {"kind": "compact-10", "tube_m": 0.1, "x_m": 0.8, "height_m": 0.4, "on": "12:00", "off": "18:00"}

    def grids(*lamps: dict[str, Any]) -> dict[str, np.ndarray]:
        made = plan(uv_lamps=list(lamps))
        found = bench.assess(made, find(made.species), TODAY)
        return {picture["clock"]: np.array(picture["samples"]["uv"]) for picture in hours.frames(made, found, "winter", METRIC)}

    both, first, second = grids(tube, coil), grids(tube), grids(coil)
    assert both["10:00"] == pytest.approx(first["10:00"])
    assert both["16:00"] == pytest.approx(second["16:00"])
    assert both["13:00"] == pytest.approx(first["13:00"] + second["13:00"], abs=0.011)
    assert both["20:00"].max() == 0.0
    assert first["16:00"].max() == 0.0


@pytest.mark.parametrize("lid", ["mesh", "open"])
def test_the_pointer_reads_through_the_lid_what_the_plan_reads(lid: str) -> None:
    """The grid's nearest places bracket the index that the plan has at the animal's back."""
    made = plan(enclosure__lid=lid, uv_lamps__0__height_m=0.5)
    found = bench.assess(made, find(made.species), TODAY)
    noon = hours.frames(made, found, "winter", METRIC)[23]
    grid = np.array(noon["samples"]["uv"])
    back = found.quantity("uv_back").value
    assert back is not None
    heights = np.linspace(0.07, 0.45, fields.ROWS)[::4]
    column = grid[:, round(0.26 / 1.2 * (grid.shape[1] - 1))]
    at_back = np.interp(0.07 + 0.04 + found.body.back_m, heights, column)
    assert at_back == pytest.approx(back, rel=0.12)


def test_the_hours_come_as_json(client: Client, habitat: Habitat) -> None:
    assert len(json.loads(fetch(client, "hours", habitat, season="winter"))["frames"]) == 48


# ---- everything a plan can hold ----


def test_everything_a_plan_can_hold_is_drawn_and_can_be_dragged() -> None:
    made = plan(**EVERYTHING)
    found = bench.assess(made, find(made.species), TODAY)
    picture = section.draw(made, find(made.species), found, section.Look("winter", "day", METRIC, wording.part_names(), made))
    paths = {part.path for part in picture["parts"]}
    assert {"heaters.1", "heaters.2", "heaters.3", "light_bars.0", "enclosure.vents.0", "heaters.1.thermostat.probe"} <= paths
    assert len(picture["lying"]) == 3
    assert len(picture["vents"]) == 2
    assert len(picture["probes"]) == 3
    for part in picture["parts"]:
        assert parts.move(made, part.path, float(part.x_m) + 0.02, float(part.height_m) + 0.01)


def test_a_probe_lies_where_it_is_let_go_and_has_a_name_where_that_has_one() -> None:
    made = plan(**EVERYTHING)
    held = parts.move(made, "heaters.0.thermostat.probe", 1.0, 0.3).heaters[0].thermostat
    assert (held.probe, held.probe_x_m, held.probe_height_m) == ("own", 1.0, 0.3)
    x_m, up_m = probe_places.probe_places(made, 0)["cool-air"]
    named = parts.move(made, "heaters.0.thermostat.probe", x_m + 0.005, up_m).heaters[0].thermostat
    assert (named.probe, named.probe_x_m) == ("cool-air", None)
    stepped = parts.move(made, "heaters.0.thermostat.probe", x_m + 0.01, up_m).heaters[0].thermostat
    assert (stepped.probe, stepped.probe_x_m) == ("own", x_m + 0.01)  # a step by key gets it off its place
    back = parts.move(parts.move(made, "heaters.0.thermostat.probe", 1.0, 0.3), "heaters.0.thermostat.probe", x_m, up_m)
    assert back.heaters[0].thermostat.probe == "cool-air"
    assert parts.move(made, "heaters.1.thermostat.probe", made.heaters[1].x_m, 0.0).heaters[1].thermostat.probe == "mat"
    humid = made.hides[1]
    inside = parts.move(made, "heaters.0.thermostat.probe", humid.x_m, made.ground.depth_m + humid.height_m / 2)
    assert inside.heaters[0].thermostat.probe == "humid-hide"
    assert "mat" not in probe_places.probe_places(made, 0)
    with pytest.raises(parts.NoSuchPartError):
        parts.move(made, "heaters.9.thermostat.probe", 0.5, 0.0)
    with pytest.raises(parts.NoSuchPartError):
        parts.move(made, "enclosure.vents.7", 0.0, 0.2)


def test_every_addition_on_offer_can_be_added_and_taken_away() -> None:
    made = plan(enclosure__lid="solid")
    for step in names.STEPS:
        for path, _words in step_fields.additions(made, step):
            added = parts.add(made, path)
            assert added != made
            if path[-1].isdigit() or path == "misting.winter":
                assert parts.take_away(added, path) == made


# ---- the year, out of doors, two states ----


def test_the_year_is_kept_and_turned_into_dates(client: Client, habitat: Habitat) -> None:
    url = reverse("planner:year", args=[habitat.pk])
    assert client.post(url, {"mode": "latitude", "version": habitat.version}).status_code == 422
    given = {"mode": "latitude", "latitude": "40", "version": habitat.version}
    assert client.post(url, given).status_code == 302
    page = client.get(url).content.decode()
    assert page.count("<tr>") > 8
    assert "40°" in page
    rest = given | {"rests": "on", "begins": "2027-11-01", "down_weeks": "3", "rest_weeks": "8", "up_weeks": "2"}
    client.post(url, rest | {"version": habitat.version + 1})
    assert "last meal" in client.get(url).content.decode()


def test_lengths_of_day_are_kept_by_dates_of_ones_own(client: Client, habitat: Habitat) -> None:
    url = reverse("planner:year", args=[habitat.pk])
    given = {"mode": "dates", "version": habitat.version}
    missing = client.post(url, given)
    assert missing.status_code == 422
    assert "From which day on" in missing.content.decode()
    half = client.post(url, given | {"since_0": "2026-10-01", "hours_1": "8", "since_2": "2026-10-01", "hours_2": "25"})
    assert half.status_code == 422
    page = half.content.decode()
    assert page.count("This is missing.") == 2
    assert "begins on this day already" in page
    rows = {
        "since_3": "2026-12-01",
        "hours_3": "0",
        "since_0": "15.11.2026",
        "hours_0": "4 h",
        "since_1": "2026-10-01",
        "hours_1": "12",
    }
    answer = client.post(url, given | rows)
    assert answer.status_code == 302, re.findall(r'class="fault".*', answer.content.decode())
    kept = mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).year
    assert [(step.since, step.hours) for step in kept.days] == [("10-01", 12), ("11-15", 4), ("12-01", 0)]
    page = client.get(url).content.decode()
    assert "the light stays off" in page
    assert 'value="2026-10-01"' in page


def test_a_pen_stands_where_its_keeper_lives(client: Client, habitat: Habitat) -> None:
    """One latitude: the year's page shows a pen's own, and moves it."""
    url, twelve = reverse("planner:outdoors", args=[habitat.pk]), " ".join(["20"] * 12)
    months = {"day_c": twelve, "night_c": twelve, "sun_kwh_m2": " ".join(["3"] * 12), "sun_percent": "50", "latitude": "-34"}
    assert client.post(url, months | {"version": habitat.version}).status_code == 302
    assert 'value="-34' in client.get(reverse("planner:year", args=[habitat.pk])).content.decode()
    given = {"mode": "latitude", "latitude": "-40", "version": habitat.version + 1}
    assert client.post(reverse("planner:year", args=[habitat.pk]), given).status_code == 302
    plan = mapping.plan_of(Habitat.objects.get(pk=habitat.pk))
    assert plan.outdoors is not None
    assert (plan.latitude_deg, plan.southern) == (-40, True)


def test_a_pen_out_of_doors_takes_twelve_months(client: Client, habitat: Habitat) -> None:
    url = reverse("planner:outdoors", args=[habitat.pk])
    twelve = " ".join(["20"] * 12)
    given = {"day_c": twelve, "night_c": twelve, "sun_kwh_m2": "3 3", "sun_percent": "50", "latitude": "50"}
    response = client.post(url, given | {"version": habitat.version})
    assert response.status_code == 422
    assert "These are 2; it takes twelve." in response.content.decode()
    given["sun_kwh_m2"] = " ".join(["3"] * 12)
    assert client.post(url, given | {"version": habitat.version}).status_code == 302
    assert client.get(url).content.decode().count('<th scope="row">') == 12
    client.post(url, {"do": "indoors", "version": habitat.version + 1})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).outdoors is None


@pytest.mark.sweep
def test_a_pen_is_offered_a_heated_hide_and_takes_it_once(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    inland = {
        "day_c": [3, 5, 9, 14, 19, 22, 25, 25, 20, 14, 8, 4],
        "night_c": [-2, -2, 1, 4, 9, 12, 14, 14, 10, 6, 2, -1],
        "sun_kwh_m2": [0.6, 1.2, 2.6, 4.1, 5.2, 5.5, 5.3, 4.6, 3.2, 1.8, 0.8, 0.5],
        "sun_share": 0.8,
    }
    box = {"kind": "glass", "length_m": 4.0, "width_m": 2.0, "height_m": 0.6, "lid": "mesh"}
    bare: dict[str, Any] = {"hides": [], "heaters": [], "uv_lamps": [], "schools": {}, "animal": {"length_m": 0.16}}
    made = make_habitat(species="hermanns-tortoise", enclosure=box, outdoors=inland, **bare)
    url = reverse("planner:outdoors", args=[made.pk])
    page = " ".join(client.get(url).content.decode().split())
    assert "Heat the place where it sleeps, not the pen" in page
    assert "W to heat the whole pen" in page
    for _press in range(2):  # pressed twice, it stands once
        client.post(url, {"do": "hide", "version": made.version})
    plan = mapping.plan_of(Habitat.objects.get(pk=made.pk))
    assert [hide.heated_w for hide in plan.hides] == [15.0]
    page = client.get(url).content.decode()
    assert "Coldest in its hide" in page
    assert "Heat the place" not in page
    bench = client.get(reverse("planner:bench", args=[made.pk]), {"step": "furniture"}).content.decode()
    assert "Heated hide" in bench


def test_two_states_side_by_side_show_what_differs(client: Client, habitat: Habitat) -> None:
    url = reverse("planner:compare", args=[habitat.pk])
    assert "only one state" in client.get(url).content.decode()
    rig = {"heaters": [document()["heaters"][0] | {"watts": 40}], "uv_lamps": []}
    client.post(reverse("planner:take-rig", args=[habitat.pk]), {"rig": json.dumps(rig), "version": habitat.version})
    page = client.get(url).content.decode()
    assert page.count('class="drawing') == 2
    assert page.count('id="scene"') == 0
    assert "UV index at the back" in page
    assert "Floor length" not in page


@pytest.mark.sweep
def test_a_week_of_water_offers_mistings_and_takes_them(
    client: Client, make_habitat: Callable[..., Habitat], monkeypatch: pytest.MonkeyPatch
) -> None:
    parched = make_habitat(name="Parched", room__winter__humidity_percent=28.0)
    with monkeypatch.context() as strict:
        # Whatever would make something else wrong is not offered.
        strict.setattr("ridgeback.planner.weekly.harmless", lambda *_: False)
        assert "Mist so" not in client.get(reverse("planner:week", args=[parched.pk]), {"season": "winter"}).content.decode()
    made = make_habitat(room__winter__humidity_percent=40.0)
    url = reverse("planner:week", args=[made.pk])
    page = client.get(url, {"season": "winter"}).content.decode()
    offered = re.search(r"would keep the cool end in its band (\d+) % of the day, instead of (\d+) % as it is misted now", page)
    assert offered
    assert int(offered[1]) > int(offered[2])
    assert "Mist so" in page
    assert "%(" not in page
    given = {"season": "winter", "version": made.version}
    assert client.post(reverse("planner:take-mistings", args=[made.pk]), given).status_code == 302
    after = mapping.plan_of(Habitat.objects.get(pk=made.pk))
    assert after.misting.winter is not None
    assert after.misting.winter.times
    assert not after.misting.times  # summer is wet enough
    assert "are misted in the week" in client.get(url, {"season": "winter"}).content.decode()


def test_who_is_never_cooled_gets_no_rest_whatever_is_pressed(client: Client, make_habitat: Any) -> None:
    grown = make_habitat(species="royal-python", schools={}, animal__mass_kg=1.7, animal__length_m=1.25)
    url = reverse("planner:year", args=[grown.pk])
    page = client.get(url).content.decode()
    assert "never cooled" in page
    assert 'name="rests"' not in page
    rest = {"version": "1", "mode": "fixed", "rests": "on", "begins": "2027-01-10", "down_weeks": "3", "rest_weeks": "10"}
    for sure in ({}, {"sure": "1"}):
        asked = client.post(url, rest | {"up_weeks": "3"} | sure)
        assert asked.status_code == 409
        assert "Its kind is never cooled: a snake of the tropics" in asked.content.decode()
    assert mapping.plan_of(Habitat.objects.get(pk=grown.pk)).year.cooling is None


def test_who_must_not_be_cooled_is_asked_about_before_a_rest_is_planned(client: Client, make_habitat: Any) -> None:
    """A dragon of 46 g, and a last meal in the past."""
    young = make_habitat(species="central-bearded-dragon", animal__mass_kg=0.046, animal__length_m=0.12, animal__hatched=None)
    url = reverse("planner:year", args=[young.pk])
    rest = {"version": "1", "mode": "fixed", "rests": "on", "down_weeks": "3", "rest_weeks": "10", "up_weeks": "3"}
    late = client.post(url, rest | {"begins": "2026-11-26"})
    assert late.status_code == 422
    assert "The last meal would have been on" in late.content.decode()
    asked = client.post(url, rest | {"begins": "2027-01-10"})
    assert asked.status_code == 409
    assert "It weighs 46 g" in asked.content.decode()
    client.post(url, rest | {"begins": "2027-01-10", "rests": ""})
    assert mapping.plan_of(Habitat.objects.get(pk=young.pk)).year.cooling is None
    client.post(url, rest | {"begins": "2027-01-10", "sure": "1", "version": "1"})
    assert mapping.plan_of(Habitat.objects.get(pk=young.pk)).year.cooling is not None
