"""The plan in the browser's absence: typing, moving, mending, undoing, exporting, importing."""

from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from husbandry.plan.habitat import HabitatPlan
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.models import Event
from ridgeback.language import wording
from ridgeback.planner import changed, fields, inputs, mapping, revisions
from ridgeback.planner.models import PlanRevision, ProfileSnapshot
from ridgeback.rooms.models import Habitat, Room
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, plan
from tests.sample import times
from tests.web.test_working_out import EVERYTHING

HTMX: dict[str, Any] = {"HTTP_HX_REQUEST": "true"}
IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture(autouse=True)
def _fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)


def post(client: Client, name: str, habitat: Habitat, **data: Any) -> Any:
    fresh = Habitat.objects.get(pk=habitat.pk)
    values = {"version": fresh.version, "step": "heat", "season": "winter", "phase": "day", **data}
    return client.post(reverse(f"planner:{name}", args=[habitat.pk]), values, **HTMX)


def plan_now(habitat: Habitat) -> HabitatPlan:
    return mapping.plan_of(Habitat.objects.get(pk=habitat.pk))


# ---- rows and documents ----


def test_a_plan_survives_the_tables(habitat: Habitat) -> None:
    assert plan_now(habitat) == plan()


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture], max_examples=times(5, 15), deadline=None)
@given(
    length=st.floats(0.95, 3.0),
    watts=st.floats(5, 150),
    lit=st.booleans(),
    humid=st.booleans(),
    mass=st.one_of(st.none(), st.floats(0.01, 0.2)),
)
def test_any_plan_survives_the_tables(
    habitat: Habitat, length: float, watts: float, lit: bool, humid: bool, mass: float | None
) -> None:
    changes: dict[str, Any] = {
        "enclosure__length_m": max(length, 1.1),
        "heaters__0__watts": watts,
        "hides__0__humid": humid,
        "animal__mass_kg": mass,
    }
    if not lit:
        changes["uv_lamps"] = []
    made = plan(**changes)
    revisions.save(habitat.pk, made, Habitat.objects.get(pk=habitat.pk).version, None, clock.now(), "drawn")
    assert plan_now(habitat) == made


# ---- typing ----


def test_what_is_typed_is_saved_as_one_revision(client: Client, habitat: Habitat) -> None:
    response = post(client, "save", habitat, **{"heaters.0.height_m": "38", "heaters.0.watts": "75"})
    assert response.status_code == 200
    assert plan_now(habitat).heaters[0].height_m == 0.38
    assert PlanRevision.objects.filter(habitat=habitat).count() == 2
    assert Event.objects.filter(habitat=habitat, kind=Event.Kind.PLANNED).count() == 1
    assert b'id="bands"' in response.content
    assert b'id="scene"' in response.content


def test_either_system_may_be_typed(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, **{"heaters.0.thermostat.set_c": "92F", "heaters.0.height_m": "1 ft 3 in"})
    heater = plan_now(habitat).heaters[0]
    assert heater.thermostat.set_c == pytest.approx(33.33, abs=0.01)
    assert heater.height_m == pytest.approx(0.381)


def test_a_slipped_unit_is_caught_and_its_meaning_offered(client: Client, habitat: Habitat) -> None:
    response = post(client, "save", habitat, **{"heaters.0.thermostat.set_c": "90"})
    text = response.content.decode()
    assert "90 °F would be 32.2 °C: was that meant?" in text
    assert 'data-offer="90 degF"' in text
    assert plan_now(habitat).heaters[0].thermostat.set_c == 33.0
    post(client, "save", habitat, **{"heaters.0.thermostat.set_c": "90 degF"})
    assert plan_now(habitat).heaters[0].thermostat.set_c == pytest.approx(32.22, abs=0.01)


def test_what_is_right_is_kept_while_what_is_wrong_waits_in_its_field(client: Client, habitat: Habitat) -> None:
    response = post(client, "save", habitat, **{"heaters.0.watts": "60", "heaters.0.x_m": "4 m"})
    assert plan_now(habitat).heaters[0].watts == 60
    assert plan_now(habitat).heaters[0].x_m == 0.26
    assert b'value="4 m"' in response.content
    assert b"That is outside the enclosure, which is 120 cm long." in response.content


def test_a_shown_value_that_nobody_touched_is_not_rounded(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    habitat = make_habitat(heaters__0__height_m=0.381234)
    post(client, "save", habitat, **{"heaters.0.height_m": "38.12", "heaters.0.watts": "60"})
    assert plan_now(habitat).heaters[0].height_m == 0.381234


@pytest.mark.sweep
def test_unticking_a_box_is_said_by_its_absence(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, **{"heaters.0.guarded:shown": "1"})
    assert plan_now(habitat).heaters[0].guarded is False


def test_a_smaller_enclosure_keeps_everything_inside(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, step="enclosure", **{"enclosure.length_m": "90"})
    assert plan_now(habitat).hides[2].x_m == 0.9


def test_a_thermostat_switched_on_comes_with_a_set_point(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    habitat = make_habitat(heaters__0__thermostat={"kind": "none"})
    post(client, "save", habitat, **{"heaters.0.thermostat.kind": "dimming"})
    assert plan_now(habitat).heaters[0].thermostat.set_c == 30.0


def test_a_new_weight_is_a_weighing_in_the_log(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, step="animal", **{"animal.mass_kg": "61 g"})
    newest = Event.objects.filter(habitat=habitat, kind=Event.Kind.WEIGHED).first()
    assert newest is not None
    assert newest.payload == {"mass_kg": 0.061}


@pytest.mark.parametrize("step", inputs.GROUPS)
@pytest.mark.parametrize("units", [METRIC, IMPERIAL], ids=["metric", "imperial"])
def test_posting_every_field_as_shown_changes_nothing(step: str, units: KeeperUnits) -> None:
    before = plan(enclosure__lid="mesh", uv_lamps__0__height_m=0.47, **EVERYTHING)
    posted: dict[str, str] = {}
    for group in inputs.groups(before, step):
        for field in group.fields:
            shown = fields.show(before, field, units)
            if field.kind != "check" or shown.checked:
                posted[field.path] = shown.value
            posted[f"{field.path}:shown"] = "1"
    after, rejected = fields.bind(before, step, posted, units)
    assert (after, rejected) == (before, {})


# ---- parts, remedies, undo ----


@pytest.mark.parametrize("typed", ["-4", "0", "3"])
def test_a_field_tells_what_is_wrong_with_itself_and_not_with_what_hangs_on_it(typed: str) -> None:
    """A box of -4 cm puts every lamp outside it; the limit that is told is the box's."""
    _after, rejected = fields.bind(plan(), "enclosure", {"enclosure.length_m": typed}, METRIC)
    assert set(rejected) == {"enclosure.length_m"}
    assert rejected["enclosure.length_m"].problem.path == "enclosure.length_m"
    assert "10 cm is the limit" in wording.problem(rejected["enclosure.length_m"].problem, METRIC)


def test_parts_come_and_go(client: Client, habitat: Habitat) -> None:
    post(client, "part", habitat, part="heaters.1", do="add")
    assert len(plan_now(habitat).heaters) == 2
    post(client, "part", habitat, part="heaters.0", do="take")
    assert [heater.kind for heater in plan_now(habitat).heaters] == ["reflector-flood"]
    post(client, "part", habitat, part="things.4", do="take")
    assert plan_now(habitat).bowl is None


@pytest.mark.sweep
@pytest.mark.parametrize("lid", ["solid", "mesh", "open"])
@pytest.mark.parametrize("step", ["animal", "room", "enclosure", "ground", "furniture", "heat", "light", "moisture", "food"])
def test_an_empty_box_is_shown_at_every_step(client: Client, make_habitat: Callable[..., Habitat], lid: str, step: str) -> None:
    """Nothing in it yet, nothing known of the animal: the screen stands and says what is missing."""
    bare: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None, "animal": {}}
    empty = make_habitat(enclosure__lid=lid, **bare)
    page = client.get(reverse("planner:bench", args=[empty.pk]) + f"?step={step}&season=summer&phase=night")
    assert page.status_code == 200
    assert "There is no water." in page.content.decode()


def test_a_remedy_is_worked_out_again_and_made(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    habitat = make_habitat(bowl=None)
    post(client, "remedy", habitat, finding="moisture.no_bowl")
    assert plan_now(habitat).bowl is not None
    # Pressed twice: mended already, nothing happens.
    assert post(client, "remedy", habitat, finding="moisture.no_bowl").status_code == 200
    assert PlanRevision.objects.count() == 2


def test_undo_and_redo_walk_the_revisions(client: Client, habitat: Habitat) -> None:
    for watts in ("60", "70"):
        post(client, "save", habitat, **{"heaters.0.watts": watts})
    post(client, "undo", habitat)
    assert plan_now(habitat).heaters[0].watts == 60
    post(client, "undo", habitat)
    post(client, "undo", habitat)
    assert plan_now(habitat) == plan()
    post(client, "redo", habitat)
    post(client, "redo", habitat)
    assert plan_now(habitat).heaters[0].watts == 70
    post(client, "undo", habitat)
    post(client, "save", habitat, **{"heaters.0.watts": "80"})
    post(client, "redo", habitat)  # a new branch: nothing to redo
    assert plan_now(habitat).heaters[0].watts == 80


def test_a_stale_edit_shows_both_sides_and_overwrites_nothing(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, **{"heaters.0.watts": "60"})
    response = post(client, "save", habitat, version=1, **{"heaters.0.watts": "50", "heaters.0.height_m": "35"})
    assert response.status_code == 409
    text = response.content.decode()
    assert [row["field"].path for row in response.context["differing"]] == ["heaters.0.watts"]
    assert "Stands now" in text
    assert "by you, in another window" in text
    assert plan_now(habitat).heaters[0].height_m == 0.4
    post(client, "save", habitat, document=response.context["mine"])
    assert (plan_now(habitat).heaters[0].watts, plan_now(habitat).heaters[0].height_m) == (50, 0.35)


def test_what_is_asked_at_two_steps_is_told_once(client: Client, habitat: Habitat) -> None:
    """Living plants stand at the furniture, damp ground at the ground, and both at the moisture step."""
    after = plan(plants="many", ground__damp=not plan().ground.damp)
    told = changed.said(plan(), after, METRIC)
    assert told.count("iving plants") == told.count("kept damp") == 1
    post(client, "save", habitat, step="moisture", plants="many")
    response = post(client, "save", habitat, step="moisture", version=1, plants="dense")
    assert [row["field"].path for row in response.context["differing"]] == ["plants"]


def test_what_two_changed_in_different_places_is_put_together(client: Client, habitat: Habitat) -> None:
    """The browser's Back: the old page's form posts every field as it was, and only what was touched is an edit."""
    old = {field.path: fields.show(plan_now(habitat), field, METRIC).value for group in inputs.groups(plan_now(habitat), "heat")
           for field in group.fields if field.kind != "check"}  # fmt: skip
    post(client, "save", habitat, **{"heaters.0.watts": "60"})
    response = post(client, "save", habitat, version=1, **(old | {"heaters.0.height_m": "35"}))
    assert response.status_code == 200
    assert (plan_now(habitat).heaters[0].watts, plan_now(habitat).heaters[0].height_m) == (60, 0.35)


def test_without_scripts_the_changes_are_asked_for_by_a_link(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, **{"heaters.0.thermostat.set_c": "45"})
    address = reverse("planner:bench", args=[habitat.pk])
    assert "mend=yes" in client.get(address).content.decode()
    shown = client.get(address, {"mend": "yes", "step": "heat"}).content.decode()
    assert 'name="finding"' in shown
    assert "mend=yes" not in shown[: shown.index("</main>")]  # below it is the address to come back to


def test_without_scripts_a_form_still_saves(client: Client, habitat: Habitat) -> None:
    url = reverse("planner:save", args=[habitat.pk])
    data = {"version": 1, "step": "heat", "season": "winter", "phase": "day", "heaters.0.watts": "60"}
    assert client.post(url, data).status_code == 302
    assert plan_now(habitat).heaters[0].watts == 60
    refused = client.post(url, data | {"version": 2, "heaters.0.watts": "many"})
    assert refused.status_code == 200
    assert "is not a number with a unit" in refused.content.decode()


def test_the_profile_is_kept_once_with_the_revisions(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, **{"heaters.0.watts": "60"})
    assert ProfileSnapshot.objects.count() == 1
    assert not revisions.profile_has_moved_on(Habitat.objects.get(pk=habitat.pk))
    ProfileSnapshot.objects.update(sha256="0" * 64)
    assert revisions.profile_has_moved_on(Habitat.objects.get(pk=habitat.pk))
    assert b"The book's profile" in client.get(reverse("planner:bench", args=[habitat.pk])).content


# ---- new habitats and the list ----

NEW = {
    "name": "Reed box", "species": "corn-snake", "animal_name": "Marram", "sex": "male", "mass": "0.3 kg", "age": "3 years",
    "summer_day": "77F", "summer_night": "21", "summer_humidity": "55 %",
    "winter_day": "20 °C", "winter_night": "17", "winter_humidity": "45",
}  # fmt: skip


def test_a_new_habitat_begins_with_a_solved_plan(client: Client, owner: Keeper) -> None:
    room = Room.objects.get(members=owner)
    response = client.post(reverse("rooms:new"), NEW | {"room": room.pk})
    assert response.status_code == 302
    made = mapping.plan_of(Habitat.objects.get())
    assert made.animal.mass_kg == 0.3
    assert made.animal.hatched_is_estimate
    assert made.room.summer.day_c == pytest.approx(25.0)
    assert made.heaters
    assert client.get(response["Location"]).status_code == 200


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [
        ("winter_day", "68", "68 °F would be 20.0 °C: was that meant?"),
        ("mass", "heavy", "is not a number with a unit"),
        ("hatched", "2031-01-01", "still to come"),
        ("age", "-3", "cannot be negative"),
        ("age", "400 years", "None of its kind is known to have reached 60 years"),
        ("species", "dragon", "Select a valid choice"),
        ("length", "120 m", "120 cm"),
    ],
)
def test_a_new_habitat_says_what_is_wrong_by_field(client: Client, owner: Keeper, field: str, value: str, words: str) -> None:
    page = client.post(reverse("rooms:new"), NEW | {"room": Room.objects.get(members=owner).pk, field: value}).content.decode()
    assert words in page
    assert not Habitat.objects.exists()


def test_a_habitat_set_aside_can_be_brought_back(client: Client, habitat: Habitat) -> None:
    client.post(reverse("rooms:set-aside", args=[habitat.pk]))
    assert b"Bring back Test shelf" in client.get(reverse("rooms:habitats")).content
    client.post(reverse("rooms:bring-back", args=[habitat.pk]))
    assert b"Bring back" not in client.get(reverse("rooms:habitats")).content


def test_more_habitats_mean_no_more_queries(
    client: Client, make_habitat: Callable[..., Habitat], django_assert_num_queries: Any, django_assert_max_num_queries: Any
) -> None:
    make_habitat()
    client.get(reverse("rooms:habitats"))  # a new habitat's rota card is made once
    with django_assert_max_num_queries(14) as one:
        client.get(reverse("rooms:habitats"))
    queries = len(one.captured_queries)
    for number in range(3):
        make_habitat(name=f"Shelf {number}")
    client.get(reverse("rooms:habitats"))
    with django_assert_num_queries(queries):
        client.get(reverse("rooms:habitats"))


def test_a_keeper_reads_in_their_own_units(client: Client, habitat: Habitat) -> None:
    client.post(
        reverse("accounts:account"), {"temperature_unit": "degF", "length_unit": "in", "mass_unit": "oz", "volume_unit": "gal"}
    )
    page = client.get(reverse("planner:bench", args=[habitat.pk]) + "?step=heat").content.decode()
    assert 'value="91.4"' in page  # 33 °C
    assert "°F" in page
    assert "47.2 × 19.7 × 17.7 in" in page


def test_a_tape_round_a_snake_is_asked_about_and_the_thickness_offered(client: Client, make_habitat: Any) -> None:
    """5.5 cm round a 35 g snake: the field says that straight across is meant, shows it, and offers what the tape comes to."""
    snake = make_habitat(
        species="corn-snake", animal={"name": "Marram", "mass_kg": 0.035, "length_m": 0.4}, schools={}, uv_lamps=[]
    )
    url = reverse("planner:bench", args=[snake.pk])
    shown = client.get(url, {"step": "food"}).content.decode()
    assert "Its thickest part, straight across" in shown
    assert "the tape round it is crossed out" in shown
    posted = {"step": "food", "version": str(snake.version), "feeding.measured_m": "5.5 cm"}
    asked = client.post(reverse("planner:save", args=[snake.pk]), posted).content.decode()
    assert "Was a tape laid round it?" in asked
    assert "Use 1.75 cm" in asked
    assert mapping.plan_of(Habitat.objects.get(pk=snake.pk)).feeding.measured_m is None
    client.post(reverse("planner:save", args=[snake.pk]), posted | {"feeding.measured_m": "1.75 cm"})
    assert mapping.plan_of(Habitat.objects.get(pk=snake.pk)).feeding.measured_m == pytest.approx(0.0175)
    fresh = Habitat.objects.get(pk=snake.pk)
    sure = posted | {"version": str(fresh.version), "feeding.measured_m:sure": "1"}
    client.post(reverse("planner:save", args=[snake.pk]), sure)
    assert mapping.plan_of(Habitat.objects.get(pk=snake.pk)).feeding.measured_m == pytest.approx(0.055)
