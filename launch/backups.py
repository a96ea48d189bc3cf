"""./backup and ./restore, and the backups that make themselves: daily, before a migration, before another PostgreSQL."""

import argparse
import contextlib
import json
import os
import re
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any, Final, NamedTuple

from launch.backup import ENCRYPTED, Address, restore, restore_into, snapshot, verify, write
from launch.cluster import Cluster
from launch.machine import ROOT, Stop, install_packages, missing_packages
from launch.passing import given
from launch.storage import data_folder, held

FOLDER: Final = "backups"
SHOWN: Final = "backups.json"
NAME: Final = re.compile(r"ridgeback-(\d{8}-\d{6})-(\w+)\.zip(\.gpg)?")
STAMP: Final = "%Y%m%d-%H%M%S"
EVERY_S: Final = 24 * 3600.0
LOOK_S: Final = 60.0
# What a trial takes of the disk: the database, what PostgreSQL writes down meanwhile, a new cluster's own files.
TRIAL_SHARE: Final = 2.0
TRIAL_BYTES: Final = 300_000_000
AFTER_FAILURE_S: Final = 3600.0
FIRST_S: Final = 180.0  # after the start: nobody waits for a page because of it
LEFT_S: Final = 24 * 3600.0  # what a killed backup left behind is cleared away when it is so old
# How many stay: the newest of each of so many days, weeks and months; of those before a change the newest ones.
DAYS, WEEKS, MONTHS, BEFORE = 7, 4, 12, 5
REASONS: Final = {"daily": "daily", "before": "before a migration", "upgrade": "before another PostgreSQL", "byhand": "by hand"}


def folder_of(data: Path) -> Path:
    """Where the backups that make themselves are kept: RIDGEBACK_BACKUP_FOLDER, else below the data. Raises Stop."""
    folder = Path(os.environ.get("RIDGEBACK_BACKUP_FOLDER") or data / FOLDER)
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    except OSError as error:
        raise Stop(f"Backups cannot be kept in {folder}: {error.strerror or error}.") from None
    return folder


def passphrase() -> str:
    """What backups are encrypted by: the first line of the file that RIDGEBACK_BACKUP_PASSPHRASE_FILE names; "" for none."""
    named = os.environ.get("RIDGEBACK_BACKUP_PASSPHRASE_FILE", "")
    if not named:
        return ""
    try:
        found = (Path(named).read_text().splitlines() or [""])[0].strip()
    except OSError as error:
        raise Stop(f"The passphrase for backups cannot be read from {named}: {error.strerror}.") from None
    if not found:
        raise Stop(f"{named} holds no passphrase in its first line.")
    return found


class Made(NamedTuple):
    """A backup that was made, and whether it was restored on trial."""

    path: Path
    verified: bool


def make(address: Address, data: Path, kind: str, *, check: bool) -> Made:
    """Make one of the backups that make themselves, `check` it by restoring, let old ones go, note how it went. Raises Stop."""
    told: dict[str, Any] = {"at": time.time(), "kind": kind}
    try:
        return _made(address, data, told, check=check)
    except Stop as reason:
        told["failed"] = str(reason)
        raise
    finally:
        note(data, told)


def _made(address: Address, data: Path, told: dict[str, Any], *, check: bool) -> Made:
    folder, words, kind = folder_of(data), passphrase(), told["kind"]
    target = folder / f"ridgeback-{time.strftime(STAMP, time.gmtime())}-{kind}.zip{ENCRYPTED if words else ''}"
    told["file"] = target.name
    manifest = write(address, data, target, REASONS[kind], words)
    told |= _told_of(target, manifest)
    if check and has_room(address, data):
        try:
            verify(target, words, data)
        except Stop:
            target.unlink(missing_ok=True)  # what does not come back is no backup, and one is still due
            raise
        told["verified_at"] = time.time()
    rotate(folder)
    return Made(target, "verified_at" in told)


def has_room(address: Address, data: Path) -> bool:
    """Tell whether the disk holds the database once more, restored on trial; a backup that nobody tried is better than none."""
    with snapshot(address) as held:
        bytes_there = int(held.ask("select pg_database_size(current_database())")[0])
    return shutil.disk_usage(data).free > TRIAL_SHARE * bytes_there + TRIAL_BYTES


def _told_of(target: Path, manifest: dict[str, Any]) -> dict[str, int]:
    return {"bytes": target.stat().st_size, "rows": sum(int(rows) for rows, _digest in manifest["tables"].values())}


def note(data: Path, told: dict[str, Any]) -> None:
    """Write down in the data folder how a backup went, for the pages, which may read it.

    They tell the last one and the last good one, each with its moment, bytes and rows, and when it was verified or
    why it failed.
    """
    with contextlib.suppress(OSError):
        shown, good = data / SHOWN, told
        if "failed" in told:
            good = _good_before(shown)
        part = data / f".{SHOWN}.part"
        part.write_text(json.dumps({"last": told, "good": good}))
        part.chmod(0o644)
        part.replace(shown)


def _good_before(shown: Path) -> Any:
    """What was told of the last good one; None where nothing was, or nobody can read it."""
    try:
        return json.loads(shown.read_text())["good"]
    except (OSError, ValueError, KeyError, TypeError):
        return None


@dataclass(frozen=True)
class Kept:
    """One backup in the folder."""

    path: Path
    at: datetime
    kind: str


def kept_in(folder: Path) -> list[Kept]:
    """The backups of a folder that made themselves, newest first; other files are nobody's business here."""
    found = []
    for path in folder.iterdir():
        told = NAME.fullmatch(path.name)
        if told is not None:
            found.append(Kept(path, datetime.strptime(told[1], STAMP).replace(tzinfo=UTC), told[2]))
    return sorted(found, key=lambda one: one.at, reverse=True)


def staying(backups: Iterable[Kept]) -> set[Path]:
    """Those that stay: of daily ones the newest of each of the last days, weeks and months that have one; of the others the newest.

    What was made by hand is never let go.
    """
    stays: set[Path] = set()
    daily = [one for one in backups if one.kind == "daily"]
    for many, form in ((DAYS, "%Y-%m-%d"), (WEEKS, "%G-%V"), (MONTHS, "%Y-%m")):
        newest: dict[str, Path] = {}
        for one in daily:
            newest.setdefault(one.at.strftime(form), one.path)
        stays |= set(list(newest.values())[:many])
    for kind in ("before", "upgrade"):
        stays |= {one.path for one in [one for one in backups if one.kind == kind][:BEFORE]}
    return stays | {one.path for one in backups if one.kind == "byhand"}


def rotate(folder: Path) -> list[Path]:
    """Let go of those that do not stay; return them."""
    backups = kept_in(folder)
    stays = staying(backups)
    gone = [one.path for one in backups if one.path not in stays]
    for path in gone:
        path.unlink(missing_ok=True)
    for path in folder.glob(".ridgeback-*.part"):
        if time.time() - path.stat().st_mtime > LEFT_S:
            path.unlink(missing_ok=True)
    return gone


class Schedule:
    """A backup a day, made beside the running program by a process of its own that gives way to others."""

    def __init__(self, data: Path, own_database: bool) -> None:
        self.data, self.looked = data, time.monotonic() + FIRST_S - LOOK_S
        wanted = os.environ.get("RIDGEBACK_BACKUPS", "daily" if own_database else "off").lower()
        if wanted not in ("daily", "off"):
            raise Stop(f'RIDGEBACK_BACKUPS is "daily" or "off", not "{wanted}".')
        self.on = wanted == "daily"
        self.process: subprocess.Popen[bytes] | None = None
        self.after = 0.0

    def look(self, environment: dict[str, str]) -> None:
        """Begin a backup where one is due, and say so where one failed; costs nothing between two looks."""
        now = time.monotonic()
        if not self.on or now - self.looked < LOOK_S:
            return
        self.looked = now
        if self.process is not None:
            code = self.process.poll()
            if code is None:
                return
            self.process = None
            if code != 0:
                print("The daily backup failed for the reason above; it is tried again in an hour.", file=sys.stderr, flush=True)
                self.after = now + AFTER_FAILURE_S
        if now >= self.after and self.due():
            command = ["nice", "-n", "10", sys.executable, "-m", "launch.backups", "--daily"]
            self.process = subprocess.Popen(command, cwd=ROOT, env=environment | {"RIDGEBACK_DATA": str(self.data)})

    def due(self) -> bool:
        """Tell whether the newest daily backup is a day old; where the folder cannot be had, its own process says why."""
        try:
            there = kept_in(folder_of(self.data))
        except (Stop, OSError):
            return True
        now = datetime.now(UTC)
        # One of the future was made while the clock was wrong: it must not keep others from being made until then.
        newest = next((one for one in there if one.kind == "daily" and one.at <= now + timedelta(hours=1)), None)
        return newest is None or now - newest.at >= timedelta(seconds=EVERY_S)

    def stop(self) -> None:
        """End one that is being made: what is not whole is nothing."""
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()
            with contextlib.suppress(subprocess.TimeoutExpired):
                self.process.wait(timeout=10)


@contextlib.contextmanager
def running(data: Path) -> Iterator[Address]:
    """The address of a data folder's database: of the one that runs, or of one that is started for as long as it is needed."""
    url = given("DATABASE_URL")
    if url:
        yield Address.of(url)
        return
    cluster = Cluster(data)
    if not (cluster.files / "PG_VERSION").exists():
        raise Stop(f"There is no database in {data}; RIDGEBACK_DATA=/path names another data folder.")
    handle = held(data / "lock")
    if handle is None:
        cluster.port = cluster.port_of_the_running()
        yield Address.of(cluster.url, cluster.programs)
        return
    with handle:
        cluster.start()
        try:
            yield Address.of(cluster.url, cluster.programs)
        finally:
            cluster.stop()


def back_up(arguments: argparse.Namespace) -> None:
    """Make a backup by hand, or the day's."""
    data = data_folder()
    words = _asked(arguments)
    install_packages(missing_packages(database=not given("DATABASE_URL"), encryption=bool(words)))
    if arguments.daily:
        with running(data) as address:
            made = make(address, data, "daily", check=True)
        how = "and verified" if made.verified else "but not restored on trial, for which the disk has no room"
        print(f"Backed up {how}: {made.path}", flush=True)
        return
    name = f"ridgeback-{time.strftime(STAMP, time.gmtime())}-byhand.zip{ENCRYPTED if words else ''}"
    target = Path(arguments.to) if arguments.to else folder_of(data) / name
    if target.is_dir():
        target = target / name
    target = target.absolute()
    if words and not target.name.endswith(ENCRYPTED):
        target = target.with_name(target.name + ENCRYPTED)
    with running(data) as address:
        manifest = write(address, data, target, REASONS["byhand"], words)
    told: dict[str, Any] = {"at": time.time(), "kind": "byhand"} | _told_of(target, manifest)
    if arguments.verify:
        verify(target, words, data)
        told["verified_at"] = time.time()
    note(data, told)
    rows = told["rows"]
    print(f"Backed up{' and verified' if arguments.verify else ''}: {target} ({target.stat().st_size / 1e6:.1f} MB, {rows} rows)")
    if not words:
        print("It is not encrypted, and whoever has it has everything in it: ./backup --passphrase-file FILE encrypts one.")


def bring_back(arguments: argparse.Namespace) -> None:
    """Restore a backup into a new folder."""
    words = _asked(arguments)
    install_packages(missing_packages(database=True, encryption=bool(words)))
    folder = Path(arguments.folder).absolute()
    if arguments.into_database:
        if not given("DATABASE_URL"):
            raise Stop("--into-database restores into the database that DATABASE_URL names.")
        manifest = restore_into(Path(arguments.file).absolute(), Address.of(given("DATABASE_URL")), folder, words)
    else:
        manifest = restore(Path(arguments.file).absolute(), folder, words)
    rows = sum(int(rows) for rows, _digest in manifest["tables"].values())
    tables = len(manifest["tables"])
    print(f"Restored as of {manifest['made_at']}: {rows} rows in {tables} tables, each the same as when it was backed up.")
    print(f"Its secrets are in {folder}." if arguments.into_database else f"Start it with: RIDGEBACK_DATA={folder} ./start")


def _asked(arguments: argparse.Namespace) -> str:
    if arguments.passphrase_file:
        os.environ["RIDGEBACK_BACKUP_PASSPHRASE_FILE"] = arguments.passphrase_file
    return passphrase()


def main(given: list[str] | None = None) -> int:
    """The commands ./backup and ./restore."""
    words = given if given is not None else sys.argv[1:]
    restoring = words[:1] == ["--restore"]
    parser = argparse.ArgumentParser(prog="./restore" if restoring else "./backup")
    parser.add_argument("--passphrase-file", help="a file whose first line is the passphrase")
    if restoring:
        parser.description = "Restore a backup into a new folder; nothing that runs is touched."
        parser.add_argument("--restore", action="store_true", help=argparse.SUPPRESS)
        parser.add_argument("file", help="the backup")
        parser.add_argument("folder", help="a new or an empty folder")
        told = "fill the empty database that DATABASE_URL names, and put the secrets alone into the folder"
        parser.add_argument("--into-database", action="store_true", help=told)
    else:
        parser.description = "Write everything into one file, while it runs."
        parser.add_argument("to", nargs="?", help="a file or a folder; without it, the folder of backups below the data")
        parser.add_argument("--verify", action="store_true", help="restore it into a throwaway database and compare every table")
        parser.add_argument("--daily", action="store_true", help=argparse.SUPPRESS)
    arguments = parser.parse_args(words)
    signal.signal(signal.SIGTERM, signal.default_int_handler)  # what is begun is taken away, however it is ended
    try:
        (bring_back if restoring else back_up)(arguments)
    except Stop as reason:
        print(reason, file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("Broken off; nothing is left of it.", file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
