"""The commands: assess without a database, the demo loaded once, the first account."""

import gzip
import io
import json
import os
import re
import subprocess
import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import brotli
import pytest
from django.conf import settings
from django.core.management import CommandError, call_command, execute_from_command_line
from django.db import connection
from django.test import Client
from django.urls import reverse

from husbandry.animal.weighings import Weighing
from husbandry.assess.assess import NO_DAYS, Records, assess
from husbandry.design import survey
from husbandry.plan.reading import read_data
from husbandry.species.book import find
from husbandry.species.profile import OWN_PREFIX, leaves_of
from husbandry.species.writing import to_toml
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import reader
from ridgeback.home import demo
from ridgeback.home.management.commands.prepare import static_is_old
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat, Room
from ridgeback.web.collected import QuickCompressor
from tests.database import bring_demo
from tests.plans import TODAY, document

ROOT = Path(__file__).resolve().parents[2]


def run(*arguments: str, text: str = "") -> subprocess.CompletedProcess[str]:
    """Run manage.py with a database address that leads nowhere."""
    environment = {**os.environ, "DATABASE_URL": "postgres://nobody@127.0.0.1:1/none"}
    return subprocess.run(
        [sys.executable, "manage.py", *arguments], cwd=ROOT, env=environment, input=text, capture_output=True, text=True
    )


@dataclass(frozen=True)
class Said:
    """What a command came to."""

    returncode: int
    stdout: str
    stderr: str


@pytest.fixture
def command(monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> Callable[..., Said]:
    """The command line in this process, which pytest-django keeps from the database: a process of its own takes seconds."""

    def go(*arguments: str, text: str = "") -> Said:
        monkeypatch.setattr("sys.stdin", io.TextIOWrapper(io.BytesIO(text.encode())))
        code = 0
        try:
            execute_from_command_line(["manage.py", *arguments])
        except SystemExit as end:
            code = int(end.code or 0)
        return Said(code, *capsys.readouterr())

    return go


@pytest.mark.sweep
def test_assess_prints_json_and_needs_no_database(tmp_path: Path) -> None:
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(document()))
    done = run("assess", str(file), "--today", "2026-11-24")
    assert done.returncode == 0, done.stderr
    said = json.loads(done.stdout)
    assert said["format"] == "ridgeback-assessment/1"
    assert {"id", "value", "unit", "band", "low", "high", "verdict", "reason", "basis", "school"} <= set(said["quantities"][0])


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "plan: This is not valid JSON (line 1"),
        (json.dumps(document(heaters__0__thermostat__set_c=90)), "90 °F would be 32.2 °C"),
        (json.dumps(document(species="sea-serpent")), "species: The book has no species “sea-serpent”"),
        (json.dumps({"name": "x"}), "room: This is missing."),
        (json.dumps(document(heaters__0__x_m=2.0)), "heaters.0.x_m: That is outside the enclosure, which is 120 cm long."),
    ],
)
def test_assess_names_the_field_and_ends_with_two(text: str, words: str, command: Callable[..., Said]) -> None:
    done = command("assess", "-", text=text)
    assert done.returncode == 2
    assert words in done.stderr


def test_a_missing_file_and_a_wrong_date_are_one_sentence(command: Callable[..., Said]) -> None:
    for arguments in (("assess", "/nowhere/plan.json"), ("assess", "-", "--today", "soon"), ("assess",)):
        done = command(*arguments, text="{}")
        assert done.returncode == 2
        assert len(done.stderr.strip().splitlines()) == 1


@pytest.mark.sweep
def test_prepare_says_in_one_sentence_that_the_database_is_dead() -> None:
    done = run("prepare")
    assert done.returncode == 1
    assert done.stderr.startswith("The database does not answer:")
    assert "Traceback" not in done.stderr


def test_files_of_a_newer_program_are_collected_however_old_they_are(tmp_path: Path, settings: Any) -> None:
    source, collected = tmp_path / "source", tmp_path / "collected"
    for folder in (source / "js", collected):
        folder.mkdir(parents=True)
    (source / "js" / "grid.js").write_text("1")
    settings.STATICFILES_DIRS, settings.STATIC_ROOT = [source], collected
    assert static_is_old()
    (collected / "staticfiles.json").write_text(json.dumps({"paths": {"js/grid.js": "js/grid.123.js"}}))
    assert not static_is_old()
    # Another program's folder is served with these data: its files were written before the others were collected.
    (source / "js" / "forget.js").write_text("2")
    for path in (source / "js" / "forget.js", source / "js"):
        os.utime(path, (0, 0))
    assert static_is_old()


def test_assess_goes_by_a_profile_from_a_file(tmp_path: Path, command: Callable[..., Said]) -> None:
    plan, profile = tmp_path / "plan.json", tmp_path / "mine.toml"
    plan.write_text(json.dumps(document(species="my-gecko")))
    own = find("african-fat-tailed-gecko").model_copy(update={"id": "my-gecko"})
    profile.write_text(to_toml(own))
    done = command("assess", str(plan), "--profile", str(profile), "--today", "2026-11-24")
    assert done.returncode == 0, done.stderr
    refused = command("assess", str(plan))
    assert refused.returncode == 2
    assert "name its profile" in refused.stderr
    profile.write_text(to_toml(own).replace('group = "lizard"', 'group = "fish"'))
    faulty = command("assess", str(plan), "--profile", str(profile))
    assert faulty.returncode == 2
    assert "group: line" in faulty.stderr


def test_the_survey_of_the_book_goes_through_for_one_species_school_by_school() -> None:
    """`assess --all` does this for every species; here one with schools of heat, air and size, and one that lives in water."""
    for species in ("leopard-tortoise", "axolotl"):
        profile = find(species)
        cases = list(survey.cases(profile, TODAY))
        assert {case.stage for case in cases} == {stage.id for stage in profile.stages}
        assert {case.enclosure for case in cases} == set(survey.ENCLOSURES)
        for case in cases[:: len(cases) // 6]:
            found = survey.run(case, profile, TODAY)
            assert survey.without_basis(found) == []
            assert survey.at_odds(case, found) == []
    schools = {case.school for case in survey.cases(find("leopard-tortoise"), TODAY)}
    assert schools >= {"", "basking:warm", "air:open", "size:adult"}


def test_what_is_sent_in_place_of_a_file_is_smaller_and_holds_the_same(tmp_path: Path) -> None:
    sheet = tmp_path / "all.css"
    sheet.write_bytes(b"".join(path.read_bytes() for path in sorted((ROOT / "ridgeback" / "static" / "css").glob("*.css"))))
    made = {Path(one).suffix: Path(one).read_bytes() for one in QuickCompressor(quiet=True).compress(str(sheet))}
    assert brotli.decompress(made[".br"]) == gzip.decompress(made[".gz"]) == sheet.read_bytes()
    assert len(made[".br"]) < len(made[".gz"]) < len(sheet.read_bytes()) / 3


@pytest.mark.sweep
@pytest.mark.django_db
def test_the_demo_loads_once_and_never_over_edits() -> None:
    assert demo.load_once("cord-grass-4", guests=()) is True
    habitat = Habitat.objects.get(name="Dune table")
    Habitat.objects.filter(pk=habitat.pk).update(name="Renamed")
    assert demo.load_once("cord-grass-4", guests=()) is False
    names = set(Habitat.objects.values_list("name", flat=True))
    assert names >= {"Driftwood long box", "Mudflat shelf", "Renamed"}
    assert "Dune table" not in names
    assert Room.objects.get().name == demo.NAME


@pytest.mark.sweep
@pytest.mark.django_db
def test_the_demo_is_loaded_for_a_test_where_none_was_put_aside() -> None:
    with connection.cursor() as cursor:
        cursor.execute("drop schema if exists demo_of_three cascade")
    bring_demo()
    assert set(Habitat.objects.values_list("name", flat=True)) == {"Driftwood long box", "Dune table", "Mudflat shelf"}
    assert Habitat.objects.get(name="Dune table").head is not None


@pytest.mark.sweep
@pytest.mark.django_db
def test_the_demo_has_a_build_held_up_one_in_its_test_and_priced_variants(client: Client) -> None:
    bring_demo(whole=True)
    client.force_login(Keeper.objects.get(username=demo.KEEPER))
    held = client.get(reverse("building:build", args=[Habitat.objects.get(name="Wrack drawer").pk])).context
    assert next(step["key"] for step in held["open"] if step["decides"]) == "heaters"
    assert held["done"]
    tested = client.get(reverse("building:test", args=[Habitat.objects.get(name="Dune table").pk])).context
    assert tested["run"].since is not None
    assert ("heaters.0", "on") not in tested["run"].unseen
    costs = client.get(reverse("money:habitat", args=[Habitat.objects.get(name="Mudflat shelf").pk])).context
    assert costs["unpriced"] == []
    assert len([row for row in costs["beside"] if not row["unpriced"]]) >= 3
    wired = client.get(reverse("electrics:room", args=[Room.objects.get().pk])).context
    assert wired["unplugged"] == 0
    # A form that posts more fields than the server reads could never be kept, and a room may grow to five times this one.
    for name in ("money:prices", "electrics:room"):
        html = client.get(reverse(name, args=[Room.objects.get().pk])).content.decode()
        forms = re.findall(r"(?s)<form\b.*?</form>", html)
        assert len(forms) > 5
        assert max(len(re.findall(r'\bname="', form)) for form in forms) < settings.DATA_UPLOAD_MAX_NUMBER_FIELDS / 3


@pytest.mark.sweep
@pytest.mark.django_db
def test_the_demo_has_a_good_habitat_a_mistake_two_outgrown_and_one_by_an_own_profile() -> None:
    bring_demo(whole=True)
    found = {}
    for habitat in Habitat.objects.all():
        made = mapping.plan_of(habitat)
        profile = revisions.profile_of(habitat)
        found[habitat.name] = (
            profile,
            assess(made, profile, clock.today(), records=Records(weighings=weighings_of(habitat)), depth=NO_DAYS).findings,
        )
    assert len({profile.scientific for profile, _findings in found.values()}) >= 8
    assert not found["Mudflat shelf"][1]
    assert found["Driftwood long box"][1][0].severity.value == "danger"
    codes = {name: {item.code for item in findings} for name, (_profile, findings) in found.items()}
    assert sum(bool(of & {"space.too_small", "space.outgrown_soon"}) for of in codes.values()) == 2
    own = found["Creek bank"][0]
    assert own.id.startswith(OWN_PREFIX)
    assert "keeper" in {leaf.basis for leaf in leaves_of(own)}


def weighings_of(habitat: Habitat) -> tuple[Weighing, ...]:
    return reader.weighings([habitat])[habitat.pk]


def test_the_demos_plans_are_plans() -> None:
    for data in demo.plans(TODAY):
        read_data(data)


@pytest.mark.django_db
def test_the_first_account_is_asked_for_until_it_is_good(monkeypatch: pytest.MonkeyPatch) -> None:
    names = iter(["bad name", "first"])
    passwords = iter(["short", "cord-grass-4", "cord-grass-5", "cord-grass-4", "cord-grass-4"])
    monkeypatch.setattr("builtins.input", lambda prompt: next(names))
    monkeypatch.setattr("getpass.getpass", lambda prompt: next(passwords))
    out = io.StringIO()
    call_command("firstaccount", stdout=out)
    keeper = Keeper.objects.get()
    assert (keeper.username, keeper.is_staff) == ("first", True)
    assert keeper.check_password("cord-grass-4")
    assert "did not match" in out.getvalue()
    call_command("firstaccount", stdout=out)
    assert Keeper.objects.count() == 1


@pytest.mark.django_db
def test_the_first_account_is_made_without_asking_and_its_password_is_set_by_a_link(settings: Any) -> None:
    settings.ADDRESS = "https://ridgeback.example/"
    out = io.StringIO()
    call_command("firstaccount", "--name", "first", stdout=out)
    link = out.getvalue().split()[-1]
    assert link.startswith("https://ridgeback.example/account/reset/")
    visitor = Client()
    form = visitor.get(link.removeprefix("https://ridgeback.example"), follow=True).redirect_chain[-1][0]
    assert visitor.post(form, {"new_password1": "cord-grass-44", "new_password2": "cord-grass-44"}).status_code == 302
    assert Keeper.objects.get(is_staff=True).check_password("cord-grass-44")


@pytest.mark.django_db
def test_the_first_account_has_its_password_from_a_file_and_what_cannot_be_one_is_refused(tmp_path: Path) -> None:
    good, short = tmp_path / "good", tmp_path / "short"
    good.write_text("cord-grass-44\n")
    short.write_text("grass\n")
    for arguments, words in (
        (["--name", "bad name", "--password-file", str(good)], "valid username"),
        (["--name", "first", "--password-file", str(short)], "too short"),
        (["--name", "first", "--password-file", str(tmp_path / "nowhere")], "cannot be read"),
        (["--password-file", str(good)], "--name"),
    ):
        with pytest.raises(CommandError, match=words):
            call_command("firstaccount", *arguments)
    assert not Keeper.objects.exists()
    call_command("firstaccount", "--name", "first", "--password-file", str(good), stdout=io.StringIO())
    assert Keeper.objects.get().check_password("cord-grass-44")
