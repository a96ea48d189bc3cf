"""A habitat is built: begun, done by thumb, held back by what cures, tested, and the animal in."""

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from icalendar import Calendar

from husbandry.build.settings import BuildSettings
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.building import forms, reading
from ridgeback.building.models import Build, DoneStep
from ridgeback.daybook.models import Event
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat, Membership
from tests.plans import plan

WHY = "The instruments are lent out; a neighbour read it all."
HOW = {"weekdays": ["0", "1", "2", "3", "4", "5", "6"], "from_clock": "18:00", "minutes_a_day": "120", "again": "0"}


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def later(monkeypatch: pytest.MonkeyPatch) -> Callable[[timedelta], None]:
    def pass_by(time: timedelta) -> None:
        now = clock.now() + time
        monkeypatch.setattr(clock, "now", lambda: now)

    return pass_by


def page(client: Client, habitat: Habitat) -> Any:
    return client.get(reverse("building:build", args=[habitat.pk]))


def begin(client: Client, habitat: Habitat, **more: Any) -> Build:
    answer = client.post(reverse("building:build", args=[habitat.pk]), HOW | more)
    assert answer.status_code == 302, answer.context["form"].errors
    return Build.objects.get(habitat=habitat, ended_at__isnull=True)


def do(client: Client, habitat: Habitat, step: str, **more: Any) -> Any:
    return client.post(reverse("building:done", args=[habitat.pk]), {"step": step, "once": f"{step}{more}{clock.now()}"} | more)


def end(client: Client, habitat: Habitat, **posted: Any) -> Any:
    return client.post(reverse("building:end", args=[habitat.pk]), {"once": str(posted)} | posted)


def open_keys(client: Client, habitat: Habitat) -> list[str]:
    return [row["key"] for row in page(client, habitat).context["open"]]


def do_all(client: Client, habitat: Habitat, later: Callable[[timedelta], None]) -> None:
    """Do whatever can be done, day by day, until nothing is left but the signature."""
    for _turn in range(60):
        for key in open_keys(client, habitat):
            assert do(client, habitat, key).status_code == 302
        here = page(client, habitat).context
        if not here["open"] and not here["curing"]:
            return
        later(timedelta(days=1))
    raise AssertionError("it never ends")


@pytest.mark.sweep
def test_a_build_is_done_step_by_step_and_the_animal_comes_last(
    habitat: Habitat, client: Client, later: Callable[[timedelta], None]
) -> None:
    begin(client, habitat, second_hand="on")
    assert set(open_keys(client, habitat)) == {"inspect"}
    assert "The animal stays out." in page(client, habitat).content.decode()
    do(client, habitat, "inspect", note="old mat thrown away")
    do(client, habitat, "wash")
    do(client, habitat, "disinfect-1")
    here = page(client, habitat)
    # It dries for a day: nothing else can be done, and the page says until when.
    assert here.context["open"] == []
    assert [one["name"] for one in here.context["curing"]] == ["Disinfect, rinse, dry, first time"]
    later(timedelta(hours=25))
    assert open_keys(client, habitat) == ["disinfect-2"]
    do_all(client, habitat, later)
    here = page(client, habitat)
    assert here.context["locks"] == ["The test run is not signed for."]
    end(client, habitat, do="in")
    assert Build.objects.get().moved_in_at is None
    end(client, habitat, do="sign", name="Sedge", note=WHY)
    assert page(client, habitat).context["may_move_in"]
    assert end(client, habitat, do="in")["Location"] == reverse("keeping:now", args=[habitat.pk])
    made = Build.objects.get()
    assert (made.moved_in_at, made.override) == (made.ended_at, "")
    told = [event.payload["what"] for event in Event.objects.filter(habitat=habitat, kind=Event.Kind.BUILT).order_by("at", "id")]
    assert told[0] == "the build begins"
    assert told[-2:] == ["test run signed by Sedge", "the animal moves in"]


def test_against_a_lock_an_animal_moves_in_only_with_a_reason_that_is_kept(habitat: Habitat, client: Client) -> None:
    begin(client, habitat)
    end(client, habitat, do="in", reason="no")
    assert Build.objects.get().ended_at is None
    # The return key in the reason's field moves nobody in.
    assert end(client, habitat, reason="The old enclosure burst and there is no other.").status_code == 302
    assert Build.objects.get().ended_at is None
    end(client, habitat, do="in", reason="The old enclosure burst and there is no other.")
    made = Build.objects.get()
    assert made.override.startswith("The old enclosure")
    assert Event.objects.filter(habitat=habitat, kind=Event.Kind.BUILT).latest("pk").payload["note"] == made.override
    assert "against a lock, because: The old enclosure" in page(client, habitat).content.decode()


@pytest.mark.sweep
def test_the_test_is_signed_when_it_has_run_its_time_and_no_sooner(
    habitat: Habitat, client: Client, later: Callable[[timedelta], None]
) -> None:
    begin(client, habitat)
    end(client, habitat, do="sign", name="Sedge")
    assert Build.objects.get().test_passed_at is None
    for _turn in range(20):
        for key in open_keys(client, habitat):
            do(client, habitat, key)
    assert DoneStep.objects.filter(step="test-run").exists()
    end(client, habitat, do="sign", name="Sedge")
    assert Build.objects.get().test_passed_at is None
    later(timedelta(hours=49))
    end(client, habitat, do="sign", name="  ", note=WHY)
    assert Build.objects.get().test_passed_at is None
    # Nothing was read: without a reason it is not signed for.
    end(client, habitat, do="sign", name="Sedge", note="fine")
    assert Build.objects.get().test_passed_at is None
    end(client, habitat, do="sign", name="Sedge", note=WHY)
    assert Build.objects.get().test_by == "Sedge"
    # Taken back, it has to be signed anew.
    do(client, habitat, "test-run", do="undo")
    assert Build.objects.get().test_passed_at is None


@pytest.mark.sweep
def test_a_signature_is_for_the_test_of_the_plan_that_stands(
    habitat: Habitat, owner: Keeper, client: Client, later: Callable[[timedelta], None]
) -> None:
    begin(client, habitat)
    do_all(client, habitat, later)
    end(client, habitat, do="sign", name="Sedge", note=WHY)
    assert page(client, habitat).context["may_move_in"]
    fresh = Habitat.objects.get(pk=habitat.pk)
    stands = mapping.plan_of(fresh)
    hotter = stands.heaters[0].model_copy(update={"watts": 100.0})
    revisions.save(habitat.pk, stands.model_copy(update={"heaters": (hotter,)}), fresh.version, owner, clock.now(), "hotter")
    later(timedelta(hours=1))
    do_all(client, habitat, later)  # the lamp, the check and the test anew
    here = page(client, habitat)
    assert not here.context["may_move_in"]
    assert "The test run is not signed for." in here.content.decode()
    end(client, habitat, do="sign", name="Sedge", note=WHY, once="anew")
    assert page(client, habitat).context["may_move_in"]


def test_what_was_done_for_another_plan_is_to_do_again(habitat: Habitat, owner: Keeper, client: Client) -> None:
    begin(client, habitat)
    for key in ("wash", "stand", "cable-ways", "heaters"):
        do(client, habitat, key)
    fresh = Habitat.objects.get(pk=habitat.pk)
    weaker = mapping.plan_of(fresh)
    lamp = weaker.heaters[0].model_copy(update={"watts": 50.0})
    revisions.save(habitat.pk, weaker.model_copy(update={"heaters": (lamp,)}), fresh.version, owner, clock.now(), "weaker")
    here = page(client, habitat)
    assert here.context["changed"] == ["Hang the heaters with their guards"]
    assert "heaters" in [row["key"] for row in here.context["open"]]
    do(client, habitat, "heaters", once="again")
    assert page(client, habitat).context["changed"] == []


def test_a_rebuild_is_what_the_plan_changes_after_it_began(habitat: Habitat, owner: Keeper, client: Client) -> None:
    begin(client, habitat, again="1")
    here = page(client, habitat)
    assert here.context["nothing_new"]
    assert "Nothing differs from what stands yet." in here.content.decode()
    fresh = Habitat.objects.get(pk=habitat.pk)
    revisions.save(habitat.pk, plan(ground__depth_m=0.12), fresh.version, owner, clock.now(), "deeper")
    assert open_keys(client, habitat) == ["take-out"]
    assert "old ground to throw away" in page(client, habitat).content.decode()


def test_a_step_is_done_when_it_was_and_never_in_the_future(habitat: Habitat, client: Client) -> None:
    begin(client, habitat)
    day = (clock.today() - timedelta(days=2)).isoformat()
    do(client, habitat, "wash", day=day, time="9:30")
    assert reading.local(DoneStep.objects.get().at) == datetime.fromisoformat(f"{day}T09:30")
    for said in ({"day": (clock.today() + timedelta(days=1)).isoformat()}, {"day": "sometime"}, {"time": "25:00"}):
        do(client, habitat, "stand", **said)
    assert not DoneStep.objects.filter(step="stand").exists()
    # Done already, in another tab: that is said, and nothing of a turn.
    client.post(reverse("building:done", args=[habitat.pk]), {"step": "wash", "once": "second"})
    told = [str(message) for message in page(client, habitat).context["messages"]]
    assert "written down already" in told[-1]
    assert not any("before its turn" in one for one in told)
    assert DoneStep.objects.filter(step="wash").count() == 1
    assert do(client, habitat, "no-such-step").status_code == 404


def test_how_it_is_built_is_typed_in_any_units_and_refused_in_words(habitat: Habitat, client: Client) -> None:
    build = begin(client, habitat, second_hand="on")
    url = reverse("building:how", args=[habitat.pk])
    row = {"own-minutes": "45", "own-wait": "2 days", "own-after": "wash", "own-before": "stand"}
    said = HOW | {"second_hand": "on", "version": "1", "own-name": "Paint the stand", "wait-disinfected": "1.5 days"} | row
    assert client.post(url, said).status_code == 302
    build.refresh_from_db()
    settings = BuildSettings.model_validate(build.settings)
    assert (settings.waits, settings.own[0].wait_h) == ({"disinfected": 36.0}, 48.0)
    for wrong, words in (
        ({"wait-disinfected": "1 h"}, "takes 12 h at least"),
        ({"wait-disinfected": "soon"}, "is no time"),
        ({"own-after": "ground", "own-before": "stand"}, "in a circle"),
        ({"minutes_a_day": "-5"}, "no whole number"),
        ({"minutes_a_day": "30 h"}, "It is 960 at the most."),
        ({"from_clock": "late"}, "cannot be read"),
        ({"quarantine_until": "31.31.2026"}, "cannot be read"),
        ({"weekdays": []}, "required"),
    ):
        answer = client.post(url, said | {"version": "2"} | wrong)
        assert answer.status_code == 422, wrong
        assert words in answer.content.decode(), wrong
    assert client.post(url, said | {"version": "2", "minutes_a_day": "1,5 h"}).status_code == 302
    build.refresh_from_db()
    assert build.settings["minutes_a_day"] == 90
    client.post(url, said | {"version": "3"})
    # Somebody else was quicker.
    client.post(url, said | {"version": "1", "minutes_a_day": "60"})
    build.refresh_from_db()
    assert build.settings["minutes_a_day"] == 120


@pytest.mark.parametrize(
    ("text", "hours"),
    [
        ("36", 36),
        ("36h", 36),
        ("1,5 days", 36),
        ("2 weeks", 336),
        ("30 min", 0.5),
        ("", None),
        ("-3", None),
        ("3 moons", None),
        ("1,000 h", None),
    ],
)
def test_hours_are_read_as_they_are_typed(text: str, hours: float | None) -> None:
    assert forms.hours_typed(text) == hours


def test_the_build_goes_into_a_calendar_and_onto_paper(habitat: Habitat, client: Client) -> None:
    begin(client, habitat)
    do(client, habitat, "wash")
    made = Calendar.from_ical(client.get(reverse("building:calendar", args=[habitat.pk])).content)
    told = [str(event["summary"]) for event in made.walk("VEVENT")]
    assert told[0].endswith("Set it on its stand")
    assert told[-1].endswith("The animal moves in")
    assert not any(one.endswith("Wash it") for one in told)
    heaters = next(event for event in made.walk("VEVENT") if "Hang the heaters" in event["summary"])
    assert heaters["dtend"].dt - heaters["dtstart"].dt == timedelta(minutes=35)  # 10, and 25 for each heater
    assert "Pull the plug before you touch it" in heaters["description"]
    assert client.get(reverse("building:paper", args=[habitat.pk])).content.startswith(b"%PDF")


def test_what_is_typed_before_it_begins_moves_the_day_and_begins_nothing(habitat: Habitat, client: Client) -> None:
    url = reverse("building:build", args=[habitat.pk])
    soon = client.get(url).context["moves_in"]
    typed = {name: value for name, value in HOW.items() if name != "again"} | {"weekdays": ["6"], "minutes_a_day": "30 min"}
    answer = client.post(url, typed)
    assert answer.status_code == 200
    assert answer.context["moves_in"] != soon
    assert not Build.objects.exists()


def test_one_build_goes_on_at_a_time_and_a_viewer_only_looks(
    habitat: Habitat, owner: Keeper, other: Keeper, client: Client, client_of: Callable[[Keeper], Client]
) -> None:
    begin(client, habitat)
    client.post(reverse("building:build", args=[habitat.pk]), HOW)
    assert Build.objects.count() == 1
    Membership.objects.create(room=habitat.room, keeper=other, role=Membership.Role.VIEWER)
    looking = client_of(other)
    assert page(looking, habitat).status_code == 200
    assert do(looking, habitat, "wash").status_code == 403
    end(client, habitat, do="give-up")
    assert "given up" in page(client, habitat).content.decode()
    begin(client, habitat)
    assert Build.objects.count() == 2


def test_a_page_takes_as_many_queries_for_many_done_as_for_one(habitat: Habitat, client: Client) -> None:
    begin(client, habitat)
    do(client, habitat, "wash")
    page(client, habitat)
    with CaptureQueriesContext(connection) as one:
        page(client, habitat)
    for key in ("stand", "cable-ways", "heaters", "probes", "lights"):
        do(client, habitat, key)
    with CaptureQueriesContext(connection) as many:
        page(client, habitat)
    assert len(many) == len(one)


def test_there_are_empty_lines_for_steps_of_ones_own_after_those_that_there_are(client: Client, habitat: Habitat) -> None:
    begin(client, habitat)
    url = reverse("building:how", args=[habitat.pk])
    assert [one["name"] for one in client.get(url).context["own"]] == ["", ""]
    assert client.get(url).content.count(b'name="own-name"') == 2
