"""A database of before: habitats whose plans were kept in rows beside the document."""

import subprocess
from collections.abc import Iterator
from datetime import time
from typing import Any, Final

import pytest
from django.apps.registry import Apps
from django.core.management import call_command
from django.db import connection, transaction
from django.db.migrations.executor import MigrationExecutor

from husbandry.plan.habitat import HabitatPlan
from launch.machine import postgres_bin
from ridgeback import clock
from ridgeback.daybook.models import Event
from ridgeback.home.management.commands.migrate import is_empty
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat
from ridgeback.rooms.residents import living_in
from tests.plans import document_before, plan

pytestmark = pytest.mark.sweep


LONG_AGO: Final = ("rooms", "0005_names_of_a_group_lamps_that_burn_twice")


def empty() -> None:
    """Drop all that the database holds."""
    with connection.cursor() as cursor:
        cursor.execute("drop schema public cascade")
        cursor.execute("create schema public")


def what_it_is() -> list[str]:
    """The statements by which PostgreSQL would make the database's tables, functions and triggers anew, and what is applied."""
    programs, own = postgres_bin(), connection.settings_dict
    assert programs is not None
    where = ["-h", own["HOST"], "-p", str(own["PORT"]), "-U", own["USER"], "-d", own["NAME"], "--schema=public"]
    command = [str(programs / "pg_dump"), *where, "--schema-only", "--no-owner", "--no-acl"]
    told = subprocess.run(command, env={"PGPASSWORD": own["PASSWORD"]}, check=True, capture_output=True, text=True).stdout
    applied = sorted(f"{app} {name}" for app, name in MigrationExecutor(connection).loader.applied_migrations)
    # Each dump has a word of its own in its first line.
    return [line for line in told.splitlines() if not line.startswith("\\")] + applied


@pytest.fixture
def before(transactional_db: None) -> Iterator[Apps]:
    """The models of a database that an older program made: as new, and moved on to what stood then."""
    empty()
    graph = MigrationExecutor(connection).loader.graph
    since = {
        one for child in graph.node_map[LONG_AGO].children if child.key[0] == "rooms" for one in graph.backwards_plan(child.key)
    }
    then = set(graph.nodes) - since
    last = [node for node in then if not any(child.key in then for child in graph.node_map[node].children)]
    MigrationExecutor(connection).migrate(last)
    loader = MigrationExecutor(connection).loader
    yield loader.project_state(list(loader.applied_migrations)).apps
    to_now()  # where the test failed half way, or the next ones would too


def to_now() -> None:
    MigrationExecutor(connection).migrate(MigrationExecutor(connection).loader.graph.leaf_nodes())


def of_before(made: HabitatPlan) -> dict[str, Any]:
    """A plan as it was written then: one ground, one basking place, hides and a bowl."""
    then = document_before()
    written = made.model_dump(mode="json", exclude={"things"})
    return written | {name: then[name] for name in ("format", "ground", "platform", "hides", "bowl")}


def kept_in_rows(apps: Apps, made: HabitatPlan, *, head: str) -> int:
    """Write a plan as it was kept: columns, rows, and a revision that is its head, is none's head, or is not there."""
    document = of_before(made)
    whole = dict(document)
    room, _new = apps.get_model("rooms", "Room").objects.get_or_create(name="Old room")
    box = {name: document["enclosure"].pop(name) for name in ("kind", "lid", "mesh_open_share", "length_m", "width_m", "height_m")}
    names = ("schools", "room", "ground", "platform", "hides", "bowl", "pool", "misting", "daylight", "year", "feeding", "upkeep")
    more = ("prices", "light_bars", "window", "outdoors", "calibration")
    setting = {name: document[name] for name in (*names, *more)} | {"shell": document["enclosure"]}
    habitat = apps.get_model("rooms", "Habitat").objects.create(
        room=room, name=made.name, species=made.species, setting=setting, version=3, **box
    )
    apps.get_model("rooms", "Animal").objects.create(habitat=habitat, **made.animal.model_dump())
    for model, parts in (("Heater", made.heaters), ("UvLamp", made.uv_lamps)):
        table = apps.get_model("rooms", model)
        columns = {field.name for field in table._meta.get_fields()}
        for place, part in enumerate(parts):
            told = {name: value for name, value in part.model_dump().items() if name in columns}
            table.objects.create(habitat=habitat, place=place, **told)
    if head != "none":
        profile, _new = apps.get_model("planner", "ProfileSnapshot").objects.get_or_create(
            sha256="0" * 64, defaults={"species": made.species, "document": {}}
        )
        revision = apps.get_model("planner", "PlanRevision").objects.create(
            habitat=habitat, number=1, document=whole, profile=profile, label="x", created_at=clock.now()
        )
        if head == "its":
            habitat.head = revision
            habitat.save()
    return int(habitat.pk)


def plans_kept_in_rows(before: Apps) -> Iterator[None]:
    """Plans that were kept in rows come through as documents."""
    lamp: dict[str, Any] = {"heaters__0__watts": 60.0, "heaters__0__on": "07:30", "uv_lamps__0__again_on": None}
    usual, other = plan(name="Usual"), plan(name="Rows differ", **lamp)
    pks = {
        "usual": kept_in_rows(before, usual, head="its"),
        "other": kept_in_rows(before, plan(name="Rows differ"), head="its"),
        "lost": kept_in_rows(before, plan(name="Head lost", **lamp), head="lost"),
        "bare": kept_in_rows(before, plan(name="No revision"), head="none"),
    }
    # What the keeper saw were the rows: a lamp that was changed there alone stays changed.
    rows = before.get_model("rooms", "Heater").objects.filter(habitat_id=pks["other"])
    assert rows.update(watts=60.0, on=time(7, 30)) == 1
    yield
    now = {name: Habitat.objects.select_related("company", "head").get(pk=pk) for name, pk in pks.items()}
    assert mapping.plan_of(now["usual"]) == usual
    assert mapping.plan_of(now["other"]) == other
    assert mapping.plan_of(now["lost"]) == plan(name="Head lost", **lamp)
    assert mapping.plan_of(now["bare"]) == plan(name="No revision")
    assert [now[name].version for name in pks] == [3, 3, 3, 3]
    assert now["lost"].head is not None
    assert (now["lost"].head.number, now["lost"].head.label) == (2, "as it stood")
    assert now["usual"].company.name == usual.animal.name


def whoever_lived_there(before: Apps) -> Iterator[None]:
    """Whoever lived in a habitat becomes an animal with its weighings and meals."""
    group = {"name": "Glasswort", "others": ["Cordgrass", "Seablite"], "count": 4, "males": 2, "sex": "male", "mass_kg": 0.02}
    pks = [
        kept_in_rows(before, made, head="its")
        for made in (
            plan(name="Alone", animal={"name": "Thrift", "sex": "female", "hatched": "2024-05-01"}),
            plan(name="Group", animal=group),
            plan(name="Planned only", animal={"mass_kg": 0.05}),
        )
    ]
    events = before.get_model("daybook", "Event").objects
    for pk in pks[:2]:
        room = before.get_model("rooms", "Habitat").objects.get(pk=pk).room_id
        for kind, payload in (("animal.weighed", {"mass_kg": 0.05}), ("animal.fed", {"outcome": "eaten"})):
            events.create(room_id=room, habitat_id=pk, kind=kind, at=clock.now(), payload=payload)
    yield
    alone, several, nobody = (living_in([pk])[pk] for pk in pks)
    assert [(one.animal.name, one.animal.sex, str(one.animal.hatched)) for one in alone] == [("Thrift", "female", "2024-05-01")]
    assert {event.kind for event in Event.objects.filter(animal=alone[0].animal)} == {"animal.weighed", "animal.fed"}
    assert [one.animal.name for one in several] == ["Glasswort", "Cordgrass", "Seablite", ""]
    assert sorted(one.animal.sex for one in several) == ["male", "male", "unknown", "unknown"]
    # Who of a group ate is told by name: its meals stay everybody's.
    assert {event.kind: event.animal_id for event in Event.objects.filter(habitat=pks[1])} == {
        "animal.weighed": several[0].animal_id,
        "animal.fed": None,
    }
    assert nobody == []


@pytest.mark.django_db(transaction=True)
def test_a_database_of_before_comes_through_as_one_begun_today(before: Apps) -> None:
    """One move from then to now for both, and the same tables as the file of them makes: it takes seconds."""
    stories = [plans_kept_in_rows(before), whoever_lived_there(before)]
    for story in stories:
        next(story)
    to_now()
    for story in stories:
        assert next(story, "to its end") == "to its end"
    moved_on = what_it_is()
    assert not is_empty(connection)
    empty()
    assert is_empty(connection)
    call_command("migrate", interactive=False, verbosity=0)
    assert what_it_is() == moved_on
    with connection.cursor() as cursor:  # entered in one transaction by the file, and not carried out one by one
        cursor.execute("select count(*) from django_migrations group by applied order by 1 desc limit 1")
        assert cursor.fetchone()[0] > 100
    assert sum(line.startswith("CREATE TABLE public.") for line in moved_on) > 80


@pytest.mark.django_db
def test_the_file_is_not_used_where_tables_would_go_elsewhere() -> None:
    """A database whose tables belong in a schema of another name, or that has none of the usual one, is left to the migrations."""
    with connection.cursor() as cursor:
        cursor.execute("alter schema public rename to set_aside")
        cursor.execute("create schema other; set local search_path to other, public")
        assert not is_empty(connection)
        cursor.execute("create schema public")
        assert not is_empty(connection)
        cursor.execute("set local search_path to public")
        assert is_empty(connection)
        transaction.set_rollback(True)
