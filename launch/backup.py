"""Backups: the whole database and the secrets that belong to it, in one file, while it runs; and back again.

A backup is a ZIP whose parts stand uncompressed: `database.dump` (pg_dump's own compressed form), the secrets, and last the
manifest, with a digest of every table as it stood in the same snapshot. With a passphrase the whole file is encrypted by GnuPG.
"""

import contextlib
import hashlib
import json
import os
import shutil
import subprocess
import tempfile
import time
import urllib.parse
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any, Final

from launch.cluster import Cluster
from launch.machine import Stop, postgres_bin
from launch.passing import SECRETS as NOT_INHERITED
from launch.passing import given, passfile
from launch.storage import sync

FORMAT: Final = "ridgeback-backup/1"
DUMP: Final = "database.dump"
MANIFEST: Final = "manifest.json"
# What a restored program needs to be the same one: signed-in people stay so, devices and the demo keep their keys.
SECRETS: Final = ("secret-key", "old-secret-keys", "device-key", "demo-password", "no-demo", "has-account")
ENCRYPTED: Final = ".gpg"
CHUNK: Final = 1 << 20


@dataclass(frozen=True)
class Address:
    """How PostgreSQL's own programs reach a database: never on a command line, where other users read it."""

    environment: dict[str, str]
    programs: Path

    @classmethod
    def of(cls, url: str, programs: Path | None = None) -> "Address":
        """The address of a postgres:// URL. Raises Stop without PostgreSQL's programs."""
        found = programs or postgres_bin()
        if found is None:
            raise Stop("PostgreSQL's programs were not found below /usr/lib/postgresql; install Debian's postgresql package.")
        parts = urllib.parse.urlsplit(url)
        given = {
            "PGHOST": urllib.parse.unquote(parts.hostname or ""),
            "PGPORT": str(parts.port or 5432),
            "PGUSER": urllib.parse.unquote(parts.username or ""),
            "PGPASSFILE": passfile(urllib.parse.unquote(parts.password)) if parts.password else "",
            "PGDATABASE": urllib.parse.unquote(parts.path.lstrip("/")),
            "PGSSLMODE": dict(urllib.parse.parse_qsl(parts.query)).get("sslmode", ""),
        }
        inherited = {name: value for name, value in os.environ.items() if name not in NOT_INHERITED}
        return cls(inherited | {name: value for name, value in given.items() if value}, found)

    def command(self, program: str, *arguments: str) -> list[str]:
        return [str(self.programs / program), *arguments]


class Snapshot:
    """One moment of a database, held open: what is asked and what is dumped are of that moment."""

    def __init__(self, address: Address) -> None:
        command = address.command("psql", "-AtqX", "-v", "ON_ERROR_STOP=1")
        self.talk = subprocess.Popen(
            command, env=address.environment, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
        )
        self.ask("begin isolation level repeatable read, read only")
        self.name = self.ask("select pg_export_snapshot()")[0]

    def ask(self, statement: str) -> list[str]:
        """Run a statement and return its lines. Raises Stop with what the database says against it."""
        assert self.talk.stdin is not None
        assert self.talk.stdout is not None
        with contextlib.suppress(BrokenPipeError):
            self.talk.stdin.write(f"{statement};\n\\echo --end--\n")
            self.talk.stdin.flush()
        lines: list[str] = []
        for line in self.talk.stdout:
            if line.strip() == "--end--":
                return lines
            lines.append(line.rstrip("\n"))
        assert self.talk.stderr is not None
        raise Stop(f"The database cannot be read: {(self.talk.stderr.read().strip().splitlines() or ['it went away'])[-1]}")

    def tables(self) -> dict[str, list[str]]:
        """Rows and a digest of every table: the sum of its rows' hashes, whatever their order."""
        named = self.ask("select quote_ident(tablename) from pg_tables where schemaname = 'public' order by 1")
        return {name: self._table(name) for name in named}

    def _table(self, name: str) -> list[str]:
        digest = "coalesce(sum(hashtextextended(one::text, 0)::numeric), 0)"
        return self.ask(f"select count(*), {digest} from public.{name} as one")[0].split("|")

    def major(self) -> int:
        """PostgreSQL's major version."""
        return int(self.ask("show server_version_num")[0]) // 10_000

    def close(self) -> None:
        self.talk.kill()
        self.talk.communicate()


@contextlib.contextmanager
def snapshot(address: Address) -> Iterator[Snapshot]:
    """A snapshot of a database for as long as it is needed."""
    held = Snapshot(address)
    try:
        yield held
    finally:
        held.close()


def write(address: Address, secrets: Path | None, target: Path, reason: str, passphrase: str = "") -> dict[str, Any]:
    """Write a backup to `target`, which must not be there yet; return its manifest.

    It is written under another name and renamed when it is whole and on the disk: there is never half a backup of that name.

    Parameters
    ----------
    address
        Of the database.
    secrets
        The data folder that has the secrets; None where they are somebody else's care (an installation's own environment).
    target
        The file.
    reason
        Why it is made, for people: "by hand", "daily", "before a migration".
    passphrase
        Encrypts the file, where there is one.

    Raises
    ------
    Stop
        The database or the disk does not let it, in one sentence.
    """
    if target.exists():
        raise Stop(f"{target} is there already; nothing is written over.")
    part = target.with_name(f".{target.name}.part")
    try:
        with part.open("wb") as file:
            os.chmod(part, 0o600)
            with _encrypting(file, passphrase) as out:
                manifest = _write(address, secrets, out, reason)
            file.flush()
            os.fsync(file.fileno())
        part.rename(target)
        sync(target.parent)
    except OSError as error:
        raise Stop(f"The backup could not be written to {target.parent}: {error.strerror or error}.") from None
    finally:
        part.unlink(missing_ok=True)
    return manifest


def _write(address: Address, secrets: Path | None, out: IO[bytes], reason: str) -> dict[str, Any]:
    with snapshot(address) as held, zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as kept:
        files = {DUMP: _dump(address, held.name, kept)}
        for name, content in _secrets_of(secrets).items():
            kept.writestr(zipfile.ZipInfo(name), content)
            files[name] = hashlib.sha256(content).hexdigest()
        manifest: dict[str, Any] = {
            "format": FORMAT,
            "made_at": time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime()),
            "reason": reason,
            "postgresql": held.major(),
            "files": files,
            "tables": held.tables(),
        }
        kept.writestr(zipfile.ZipInfo(MANIFEST), json.dumps(manifest, indent=1))
    return manifest


def _secrets_of(folder: Path | None) -> dict[str, bytes]:
    """The secrets of a data folder by name; the secret key also where it was given to the program from elsewhere."""
    if folder is None:
        return {}
    found = {name: (folder / name).read_bytes() for name in SECRETS if (folder / name).exists()}
    key = given("RIDGEBACK_SECRET_KEY")
    return {"secret-key": f"{key}\n".encode()} | found if key else found


def _dump(address: Address, name: str, kept: zipfile.ZipFile) -> str:
    """Stream pg_dump of a snapshot into the ZIP; return its SHA-256."""
    command = address.command("pg_dump", "--format=custom", "--no-owner", "--no-acl", f"--snapshot={name}")
    digest = hashlib.sha256()
    with tempfile.TemporaryFile() as said:
        dumping = subprocess.Popen(command, env=address.environment, stdout=subprocess.PIPE, stderr=said)
        assert dumping.stdout is not None
        try:
            with kept.open(zipfile.ZipInfo(DUMP), "w", force_zip64=True) as into:
                while chunk := dumping.stdout.read(CHUNK):
                    digest.update(chunk)
                    into.write(chunk)
        except BaseException:
            dumping.kill()
            raise
        finally:
            dumping.stdout.close()
            ended = dumping.wait()
        if ended != 0:
            said.seek(0)
            last = (said.read().decode(errors="replace").strip().splitlines() or ["no message"])[-1]
            raise Stop(f"pg_dump failed: {last}")
    return digest.hexdigest()


@dataclass(frozen=True)
class Backup:
    """A backup that was opened: its ZIP, readable at any place, and its manifest."""

    file: zipfile.ZipFile
    manifest: dict[str, Any]

    def take(self, name: str, target: Path) -> None:
        """Take one of its files out. Raises Stop where it is not what was written."""
        digest = hashlib.sha256()
        target.touch(mode=0o600)
        with self.file.open(name) as source, target.open("wb") as into:
            while chunk := source.read(CHUNK):
                digest.update(chunk)
                into.write(chunk)
        if digest.hexdigest() != self.manifest["files"][name]:
            raise Stop(f"{name} in the backup is not what was written: the file is damaged.")


@contextlib.contextmanager
def opened(path: Path, passphrase: str = "", work: Path | None = None) -> Iterator[Backup]:
    """Open a backup; an encrypted one is decrypted into a folder that is gone afterwards. Raises Stop for what is none."""
    with contextlib.ExitStack() as stack:
        if path.name.endswith(ENCRYPTED):
            folder = Path(stack.enter_context(tempfile.TemporaryDirectory(prefix=".opened-", dir=work)))
            path = _decrypted(path, folder / "backup.zip", passphrase)
        try:
            file = stack.enter_context(zipfile.ZipFile(path))
            manifest = json.loads(file.read(MANIFEST))
        except FileNotFoundError:
            raise Stop(f"There is no file {path}.") from None
        except (zipfile.BadZipFile, KeyError, ValueError):
            raise Stop(f"{path.name} is no backup, or a damaged one.") from None
        if manifest.get("format") != FORMAT:
            raise Stop(f"{path.name} is written in the form {manifest.get('format')}, which this program does not know.")
        try:
            yield Backup(file, manifest)
        except zipfile.BadZipFile:
            raise Stop(f"{path.name} is damaged.") from None


def restore(path: Path, folder: Path, passphrase: str = "", *, throwaway: bool = False) -> dict[str, Any]:
    """Restore a backup into a folder with nothing in it: a new cluster, the secrets; return the manifest.

    Afterwards every table is compared with what it was when the backup was made. Raises Stop, and leaves nothing behind then.
    """
    folder.mkdir(parents=True, exist_ok=True)
    if any(folder.iterdir()):
        raise Stop(f"{folder} is not empty; a backup is restored into a new folder.")
    try:
        with opened(path, passphrase, folder) as kept:
            cluster = Cluster(folder, throwaway=throwaway)
            cluster.create()
            cluster.start()
            try:
                fill(Address.of(cluster.url, cluster.programs), kept, folder)
            finally:
                cluster.stop()
            _take_secrets(kept, folder)
            return kept.manifest
    except BaseException:
        for item in folder.iterdir():
            shutil.rmtree(item) if item.is_dir() else item.unlink()
        raise


def restore_into(path: Path, address: Address, folder: Path, passphrase: str = "") -> dict[str, Any]:
    """Restore a backup into an empty database of somebody's own PostgreSQL, its secrets into an empty folder; return the manifest.

    Raises Stop where either is not empty, and where it fails: then the database is as empty as before.
    """
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    if any(folder.iterdir()):
        raise Stop(f"{folder} is not empty; the secrets of a backup go into a new folder.")
    with snapshot(address) as held:
        if held.tables():
            raise Stop("That database is not empty; a backup is restored into a new one.")
    with opened(path, passphrase, folder) as kept:
        fill(address, kept, folder)
        _take_secrets(kept, folder)
        return kept.manifest


def _take_secrets(kept: Backup, folder: Path) -> None:
    for name in kept.manifest["files"]:
        if name in SECRETS:
            kept.take(name, folder / name)


def fill(address: Address, kept: Backup, work: Path) -> None:
    """Fill an empty database from a backup by way of a file in a folder, and compare every table. Raises Stop."""
    dump = work / ".restoring.dump"
    try:
        kept.take(DUMP, dump)
        command = address.command("pg_restore", "--no-owner", "--no-acl", "--exit-on-error", "--single-transaction")
        command += ["--dbname", address.environment["PGDATABASE"], str(dump)]
        done = subprocess.run(command, env=address.environment, capture_output=True, text=True)
    finally:
        dump.unlink(missing_ok=True)
    if done.returncode != 0:
        raise Stop(f"The backup could not be restored: {(done.stderr.strip().splitlines() or ['no message'])[-1]}")
    with snapshot(address) as held:
        wrong = differing(kept.manifest["tables"], held.tables())
    if wrong:
        raise Stop(f"What was restored is not what was backed up: {', '.join(wrong)}.")


def differing(wanted: dict[str, list[str]], there: dict[str, list[str]]) -> list[str]:
    """The tables that are not the same in both, by rows or digest."""
    return sorted(name for name in {*wanted, *there} if wanted.get(name) != there.get(name))


def verify(path: Path, passphrase: str = "", work: Path | None = None) -> dict[str, Any]:
    """Restore a backup into a cluster that is thrown away, and compare; return its manifest. Raises Stop where it does not hold."""
    folder = Path(tempfile.mkdtemp(prefix="ridgeback-verify-", dir=work))
    folder.chmod(0o755)
    try:
        return restore(path, folder, passphrase, throwaway=True)
    finally:
        shutil.rmtree(folder, ignore_errors=True)


@contextlib.contextmanager
def _gnupg() -> Iterator[list[str]]:
    """GnuPG with a home of its own, which is gone afterwards: nobody's keys are touched, no agent goes on."""
    if shutil.which("gpg") is None:
        raise Stop("A backup is encrypted by GnuPG, which this machine does not have: apt-get install -y gnupg")
    with tempfile.TemporaryDirectory(prefix="ridgeback-gpg-") as home:
        quiet = ["gpg", "--homedir", home, "--batch", "--yes", "--quiet", "--no-tty", "--pinentry-mode", "loopback"]
        try:
            yield quiet
        finally:
            if shutil.which("gpgconf"):
                subprocess.run(["gpgconf", "--homedir", home, "--kill", "all"], capture_output=True)


@contextlib.contextmanager
def _passed(passphrase: str) -> Iterator[int]:
    """A pipe that a program reads the passphrase from: no list of processes and no environment shows it."""
    reads, writes = os.pipe()
    os.write(writes, passphrase.encode() + b"\n")
    os.close(writes)
    try:
        yield reads
    finally:
        os.close(reads)


@contextlib.contextmanager
def _encrypting(file: IO[bytes], passphrase: str) -> Iterator[IO[bytes]]:
    """What is written comes into the file encrypted, where there is a passphrase. Raises Stop."""
    if not passphrase:
        yield file
        return
    with _gnupg() as gpg, _passed(passphrase) as secret, tempfile.TemporaryFile() as said:
        command = [*gpg, "--passphrase-fd", str(secret), "--symmetric", "--cipher-algo", "AES256", "--s2k-digest-algo", "SHA512"]
        command += ["--s2k-count", "65011712", "--compress-algo", "none", "--output", "-"]
        running = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=file, stderr=said, pass_fds=[secret])
        assert running.stdin is not None
        try:
            yield running.stdin
        finally:
            with contextlib.suppress(BrokenPipeError):
                running.stdin.close()
            ended = running.wait()
        if ended != 0:
            raise Stop("GnuPG could not encrypt the backup.")


def _decrypted(path: Path, target: Path, passphrase: str) -> Path:
    """Decrypt a file into another. Raises Stop for another passphrase or a file that was changed."""
    if not passphrase:
        raise Stop(f"{path.name} is encrypted: give its passphrase.")
    with _gnupg() as gpg, _passed(passphrase) as secret, target.open("wb") as into:
        os.chmod(target, 0o600)
        command = [*gpg, "--passphrase-fd", str(secret), "--decrypt", str(path)]
        done = subprocess.run(command, stdout=into, stderr=subprocess.PIPE, pass_fds=[secret])
    if done.returncode != 0:
        raise Stop(f"{path.name} cannot be decrypted: the passphrase is another one, or the file is damaged.")
    return target
