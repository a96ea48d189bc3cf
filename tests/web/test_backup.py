"""Nothing is lost: backups while others write, restored to the byte, refused when damaged, rotated, carried over."""

import io
import os
import shutil
import subprocess
import sys
import tempfile
import threading
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import psycopg
import pytest
from django.conf import settings as django_settings
from django.db import connection
from django.test import Client
from django.urls import reverse

from launch import backup, backups, machine, upgrade
from launch.backup import Address
from launch.backups import Kept, Schedule, staying
from launch.cluster import Cluster
from launch.machine import Stop
from launch.start import Server
from launch.storage import held
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.archive.writing_out import write_out
from ridgeback.rooms.models import Room
from tests.database import bring_demo

pytestmark = pytest.mark.sweep
ROOT = Path(__file__).resolve().parents[2]
# The archive of the only room, as another process with another database writes it.
WRITES = """
import sys
from datetime import datetime
from ridgeback.archive.writing_out import write_out
from ridgeback.rooms.models import Room
with open(sys.argv[1], "wb") as file:
    write_out(Room.objects.get(), file, datetime.fromisoformat(sys.argv[2]))
"""


@pytest.fixture(scope="module")
def first_made() -> Iterator[Path]:
    """The files of a database of one table, which does not run: a copy is there sooner than another one."""
    made = Path(tempfile.mkdtemp(prefix="ridgeback-made-"))
    made.chmod(0o755)
    one = Cluster(made, throwaway=True)
    one.create()
    one.start()
    with psycopg.connect(one.url, autocommit=True) as talk:
        talk.execute("create table kept (id bigint generated always as identity primary key, word text, share float8)")
        talk.execute("insert into kept (word, share) values ('salt', 0.1), ('sedge; é', 1e-7), (null, 'nan')")
    one.stop()
    (made / "secret-key").write_text("the same afterwards\n")
    yield made
    shutil.rmtree(made)


@pytest.fixture
def cluster(first_made: Path, folder: Path) -> Iterator[Cluster]:
    """A database of one table, running."""
    subprocess.run(["cp", "-a", str(first_made), str(folder / "data")], check=True)
    made = Cluster(folder / "data", throwaway=True)
    made.start()
    yield made
    made.stop()


def database_of_the_tests() -> Address:
    told = connection.settings_dict
    return Address.of(f"postgres://{told['USER']}:{told['PASSWORD']}@{told['HOST']}:{told['PORT']}/{told['NAME']}")


@pytest.mark.sweep
@pytest.mark.django_db(transaction=True)
def test_the_archive_of_a_restored_room_is_the_same_to_the_byte(folder: Path) -> None:
    bring_demo()
    at, before = clock.now(), io.BytesIO()
    write_out(Room.objects.get(), before, at)
    backup.write(database_of_the_tests(), None, folder / "one.zip", "by hand")
    manifest = backup.restore(folder / "one.zip", folder / "new", throwaway=True)
    assert int(manifest["tables"]["daybook_event"][0]) > 100
    restored = Cluster(folder / "new", throwaway=True)
    restored.start()
    try:
        environment = {
            **os.environ, "DATABASE_URL": restored.url, "PYTHONPATH": str(ROOT), "DJANGO_SETTINGS_MODULE": "ridgeback.settings",
            "RIDGEBACK_SECRET_KEY": django_settings.SECRET_KEY, "RIDGEBACK_TIME_ZONE": django_settings.TIME_ZONE,
        }  # fmt: skip
        script = f"import django; django.setup()\n{WRITES}"
        command = [sys.executable, "-W", "ignore", "-c", script, str(folder / "room.zip"), at.isoformat()]
        subprocess.run(command, cwd=ROOT, env=environment, check=True)
    finally:
        restored.stop()
    assert (folder / "room.zip").read_bytes() == before.getvalue()


def test_what_is_written_meanwhile_is_in_it_whole_or_not_at_all(cluster: Cluster, folder: Path) -> None:
    """Pairs are written in one transaction each, all the time: the backup has no half of one."""
    done = threading.Event()

    def write() -> None:
        with psycopg.connect(cluster.url) as talk:
            while not done.is_set():
                talk.execute("insert into kept (word) values ('left')")
                talk.execute("insert into kept (word) values ('right')")
                talk.commit()

    writer = threading.Thread(target=write)
    writer.start()
    try:
        manifest = backup.write(Address.of(cluster.url), cluster.folder, folder / "one.zip", "by hand")
    finally:
        done.set()
        writer.join()
    backup.restore(folder / "one.zip", folder / "new", throwaway=True)
    assert (folder / "new" / "secret-key").read_text() == "the same afterwards\n"
    restored = Cluster(folder / "new", throwaway=True)
    restored.start()
    try:
        with psycopg.connect(restored.url) as talk:
            left, right, others = talk.execute(
                "select count(*) filter (where word = 'left'), count(*) filter (where word = 'right'),"
                " count(*) filter (where word is distinct from 'left' and word is distinct from 'right') from kept"
            ).fetchone() or (0, 1, 0)
            talk.execute("insert into kept (word) values ('new')")  # the numbers go on after the last one
        assert left == right
        assert others == 3
        assert str(left + right + 3) == manifest["tables"]["kept"][0]
    finally:
        restored.stop()


def test_an_encrypted_one_opens_by_its_passphrase_alone(cluster: Cluster, folder: Path) -> None:
    target = folder / "one.zip.gpg"
    backup.write(Address.of(cluster.url), cluster.folder, target, "by hand", "salt and sedge")
    assert b"the same afterwards" not in target.read_bytes()
    assert target.stat().st_mode & 0o077 == 0
    for words, why in (("", "give its passphrase"), ("salt", "the passphrase is another one")):
        with pytest.raises(Stop, match=why):
            backup.restore(target, folder / "new", words, throwaway=True)
        assert list((folder / "new").iterdir()) == []
    assert backup.verify(target, "salt and sedge", folder)["tables"]["kept"][0] == "3"
    changed = bytearray(target.read_bytes())
    changed[len(changed) // 2] ^= 1
    target.write_bytes(changed)
    with pytest.raises(Stop, match="damaged"):
        backup.verify(target, "salt and sedge", folder)
    assert [path.name for path in folder.iterdir() if path.name.startswith(("ridgeback-verify", ".opened"))] == []


def test_one_comes_back_into_an_empty_database_of_ones_own(
    cluster: Cluster, folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("RIDGEBACK_SECRET_KEY", "the-key-of-the-settings")
    with psycopg.connect(cluster.url, autocommit=True) as talk:
        talk.execute("insert into kept (word) values ('samphire'), ('thrift')")
        talk.execute("create database another")
    file = folder / "kept.zip"
    backup.write(Address.of(cluster.url, cluster.programs), folder, file, "by hand")
    monkeypatch.setenv("DATABASE_URL", cluster.url)
    assert backups.main(["--restore", str(file), str(folder / "secrets"), "--into-database"]) == 1
    assert "not empty" in capsys.readouterr().err
    monkeypatch.setenv("DATABASE_URL", cluster.url.rsplit("/", 1)[0] + "/another")
    assert backups.main(["--restore", str(file), str(folder / "secrets"), "--into-database"]) == 0
    assert (folder / "secrets" / "secret-key").read_text() == "the-key-of-the-settings\n"
    with psycopg.connect(cluster.url.rsplit("/", 1)[0] + "/another") as talk:
        assert [word for (word,) in talk.execute("select word from kept order by id")][-2:] == ["samphire", "thrift"]


def test_what_is_damaged_or_no_backup_is_refused_and_leaves_nothing(cluster: Cluster, folder: Path) -> None:
    target = folder / "one.zip"
    backup.write(Address.of(cluster.url), cluster.folder, target, "by hand")
    with pytest.raises(Stop, match="there already"):
        backup.write(Address.of(cluster.url), cluster.folder, target, "by hand")
    with pytest.raises(Stop, match="not empty"):
        backup.restore(target, cluster.folder)
    (folder / "words.zip").write_text("no backup")
    with pytest.raises(Stop, match="no backup"):
        backup.restore(folder / "words.zip", folder / "new")
    with pytest.raises(Stop, match="no file"):
        backup.restore(folder / "nowhere.zip", folder / "new")
    changed = bytearray(target.read_bytes())
    changed[200] ^= 1  # within the dump
    target.write_bytes(changed)
    with pytest.raises(Stop, match="damaged"):
        backup.restore(target, folder / "new", throwaway=True)
    assert list((folder / "new").iterdir()) == []
    with pytest.raises(Stop, match="could not be written"):
        backup.write(Address.of(cluster.url), None, folder / "nowhere" / "one.zip", "by hand")
    cluster.stop()
    with pytest.raises(Stop, match="cannot be read"):
        backup.write(Address.of(cluster.url), None, folder / "two.zip", "by hand")
    assert not list(folder.glob("*two.zip*"))


def test_old_ones_go_and_there_is_one_of_each_last_day_week_and_month() -> None:
    """A backup a day for three years, as the days go by; some days have two."""
    first = datetime(2024, 1, 1, 3, tzinfo=UTC)
    there: list[Kept] = [Kept(Path("mine"), first, "byhand")]
    for day in range(1100):
        at = first + timedelta(days=day)
        there = [Kept(Path(f"{day}"), at, "daily"), *there]
        if day % 9 == 0:
            there = [
                Kept(Path(f"{day}-again"), at + timedelta(hours=5), "daily"),
                Kept(Path(f"{day}-before"), at, "before"),
                *there,
            ]
        stays = staying(there)
        there = [one for one in there if one.path in stays]
    names = {str(one.path) for one in there}
    days = {one.at.date() for one in there if one.kind == "daily"}
    last = (first + timedelta(days=1099)).date()
    assert {last - timedelta(days=back) for back in range(7)} <= days
    assert len({(day.year, day.month) for day in days}) == 12
    assert len(days) <= 7 + 4 + 12
    assert sum(one.kind == "before" for one in there) == 5
    assert "mine" in names


def test_one_is_made_a_day_and_a_failure_is_said_and_tried_again(
    folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    begun: list[list[str]] = []
    ended = SimpleNamespace(code=None)

    def begin(command: list[str], **_more: object) -> SimpleNamespace:
        begun.append(command)
        return SimpleNamespace(poll=lambda: ended.code)

    now = SimpleNamespace(s=1000.0)
    monkeypatch.setattr(backups.subprocess, "Popen", begin)
    monkeypatch.setattr(backups.time, "monotonic", lambda: now.s)
    schedule = Schedule(folder, own_database=True)
    schedule.look({})
    assert begun == []  # not while people wait for the first page
    now.s += backups.FIRST_S
    schedule.look({})
    now.s += 120.0
    schedule.look({})
    assert len(begun) == 1  # it goes on
    ended.code = 1
    now.s += 120.0
    schedule.look({})
    assert "failed" in capsys.readouterr().err
    now.s += 1800.0
    schedule.look({})
    assert len(begun) == 1
    now.s += 1800.0
    schedule.look({})
    assert len(begun) == 2
    (folder / "backups" / f"ridgeback-{datetime.now(UTC):{backups.STAMP}}-daily.zip").touch()
    ended.code = 0
    now.s += 7200.0
    schedule.look({})
    assert len(begun) == 2  # there is one of today


def test_a_disk_for_backups_that_is_gone_stops_nothing_and_is_said(
    cluster: Cluster, folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    (folder / "gone").write_text("no folder")
    monkeypatch.delenv("DATABASE_URL", raising=False)
    monkeypatch.setenv("RIDGEBACK_DATA", str(cluster.folder))
    monkeypatch.setenv("RIDGEBACK_BACKUP_FOLDER", str(folder / "gone" / "backups"))
    assert Schedule(cluster.folder, own_database=True).due()  # which is tried by a process of its own
    cluster.stop()
    assert backups.main(["--daily"]) == 1
    assert "Backups cannot be kept in" in capsys.readouterr().err


def test_one_that_does_not_come_back_is_not_kept(cluster: Cluster, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(backup, "differing", lambda *_both: ["kept"])
    with pytest.raises(Stop, match="not what was backed up: kept"):
        backups.make(Address.of(cluster.url), cluster.folder, "daily", check=True)
    assert backups.kept_in(cluster.folder / "backups") == []
    assert Schedule(cluster.folder, own_database=True).due()
    assert "failed" in (cluster.folder / "backups.json").read_text()


def test_without_room_for_a_trial_the_backup_is_kept_and_said_to_be_untried(
    cluster: Cluster, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    address = Address.of(cluster.url)
    assert backups.has_room(address, cluster.folder)
    monkeypatch.setattr("launch.backups.shutil.disk_usage", lambda _folder: SimpleNamespace(free=100_000_000))
    monkeypatch.setenv("DATABASE_URL", cluster.url)
    monkeypatch.setenv("RIDGEBACK_DATA", str(cluster.folder))
    assert backups.main(["--daily"]) == 0
    assert "not restored on trial, for which the disk has no room" in capsys.readouterr().out
    (kept,) = backups.kept_in(cluster.folder / "backups")
    backup.verify(kept.path)  # which it would have stood
    assert "verified_at" not in (cluster.folder / "backups.json").read_text()


def test_the_data_is_carried_to_another_postgresql_and_the_old_files_stay(
    cluster: Cluster, folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The newer one is the same programs under a higher number: what is carried over and set aside is the same."""
    cluster.stop()
    data, ours = cluster.folder, cluster.programs
    assert upgrade.carry_over(data) is None
    fakes = folder / "postgresql"
    for major in (cluster.major, 99):
        (fakes / f"{major}").mkdir(parents=True)
        (fakes / f"{major}" / "bin").symlink_to(ours)
    monkeypatch.setattr(machine, "POSTGRES", fakes)
    # Where it fails everything is where it was.
    with monkeypatch.context() as broken:
        broken.setattr(upgrade, "fill", lambda *_all: (_ for _ in ()).throw(Stop("no")))
        with pytest.raises(Stop, match="no"):
            upgrade.carry_over(data)
    aside = upgrade.carry_over(data)
    assert aside is not None
    assert (aside / "PG_VERSION").exists()
    carried = Cluster(data, throwaway=True)
    carried.start()
    try:
        with psycopg.connect(carried.url) as talk:
            assert talk.execute("select count(*) from kept").fetchone() == (3,)
    finally:
        carried.stop()
    (fakes / f"{cluster.major}" / "bin").unlink()
    with pytest.raises(Stop, match=f"apt-get install -y postgresql-{cluster.major}"):
        upgrade.carry_over(data)


def test_files_of_an_older_start_get_checksums(cluster: Cluster) -> None:
    cluster.stop()
    assert cluster.checksum()
    assert not cluster.checksum()  # they have them
    cluster.start()
    with psycopg.connect(cluster.url) as talk:
        assert talk.execute("show data_checksums").fetchone() == ("on",)


def test_a_database_is_backed_up_before_another_version_changes_it(cluster: Cluster, capsys: pytest.CaptureFixture[str]) -> None:
    server = Server(Path(sys.executable), machine.free_port(), cluster.folder, cluster)
    server.back_up_before_migrating()  # not one migration of ours was carried out in it
    made = list((cluster.folder / "backups").glob("*-before.zip"))
    assert len(made) == 1
    assert made[0].name in capsys.readouterr().out
    assert backup.verify(made[0], work=cluster.folder)["reason"] == "before a migration"


def test_the_commands_say_what_they_did(
    cluster: Cluster, folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.delenv("DATABASE_URL", raising=False)
    monkeypatch.setenv("RIDGEBACK_DATA", str(cluster.folder))
    running = held(cluster.folder / "lock")
    assert running is not None
    with running:
        assert backups.main([str(folder), "--verify"]) == 0
    said = capsys.readouterr().out
    assert "Backed up and verified" in said
    assert "not encrypted" in said
    made = next(folder.glob("ridgeback-*-byhand.zip"))
    assert backups.main(["--restore", str(made), str(folder / "new")]) == 0
    assert f"RIDGEBACK_DATA={folder / 'new'} ./start" in capsys.readouterr().out
    assert backups.main(["--restore", str(made), str(folder / "new")]) == 1
    assert "not empty" in capsys.readouterr().err
    monkeypatch.setenv("RIDGEBACK_DATA", str(folder / "empty"))
    assert backups.main([]) == 1
    assert "There is no database" in capsys.readouterr().err


@pytest.mark.django_db
def test_the_administrator_reads_how_the_backups_went(
    cluster: Cluster, owner: Keeper, other: Keeper, client_of: Callable[[Keeper], Client], settings: Any,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    """None yet, a good one, one that failed, none for days: what `make` wrote down is what the pages say."""
    settings.BACKUPS_SHOWN, settings.BACKUPS_DAILY = str(cluster.folder / "backups.json"), True
    Keeper.objects.filter(pk=owner.pk).update(is_staff=True)

    def said(who: Keeper, page: str) -> str:
        return " ".join(client_of(who).get(reverse(page)).content.decode().split())

    assert "None yet." in said(owner, "accounts:people")
    address = Address.of(cluster.url)
    backups.make(address, cluster.folder, "daily", check=True)
    assert (cluster.folder / "backups.json").stat().st_mode & 0o777 == 0o644  # pages run as another user
    assert "every table was the same" in said(owner, "accounts:people")
    for page in ("accounts:people", "rooms:habitats"):
        assert "failed" not in said(owner, page)
    assert "The daily backup" not in said(owner, "rooms:habitats")
    monkeypatch.setattr(clock, "now", lambda: datetime.now(UTC) + timedelta(days=3))
    assert "The daily backup is not being made" in said(owner, "rooms:habitats")
    monkeypatch.undo()
    monkeypatch.setenv("RIDGEBACK_BACKUP_FOLDER", str(cluster.folder / "secret-key" / "none"))  # a file is no folder
    with pytest.raises(Stop):
        backups.make(address, cluster.folder, "daily", check=True)
    people = said(owner, "accounts:people")
    assert "Backups cannot be kept in" in people
    assert "The last good one is of" in people
    assert "The daily backup is not being made" in said(owner, "rooms:habitats")
    assert "The daily backup" not in said(other, "rooms:habitats")
    (cluster.folder / "backups.json").write_text("[]")  # what somebody broke is written anew
    with pytest.raises(Stop, match="cannot be kept"):
        backups.make(address, cluster.folder, "daily", check=True)
    assert "there is no good one yet" in said(owner, "rooms:habitats")


@pytest.mark.django_db
@pytest.mark.parametrize("written", ["", '{"last": 3}', '{"last": {"at": "x"}, "good": {"at": []}}', '{"last": {}, "good": null}'])
def test_what_cannot_be_read_of_the_backups_breaks_no_page(
    written: str, folder: Path, owner: Keeper, client_of: Callable[[Keeper], Client], settings: Any
) -> None:
    (folder / "backups.json").write_text(written)
    settings.BACKUPS_SHOWN = str(folder / "backups.json")
    Keeper.objects.filter(pk=owner.pk).update(is_staff=True)
    for page in ("accounts:people", "rooms:habitats"):
        assert client_of(owner).get(reverse(page)).status_code == 200
