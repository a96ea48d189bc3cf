"""Where Ridgeback keeps its data, its secrets and its lock."""

import fcntl
import hashlib
import os
import secrets
import time
from pathlib import Path
from typing import IO

from launch.machine import ROOT, Stop, has_user, user_can_enter

SYSTEM_DATA = Path("/var/lib/ridgeback")
OLD_KEYS, OLD_KEYS_KEPT = "old-secret-keys", 2


def data_folder() -> Path:
    """Choose the data folder: RIDGEBACK_DATA, else the one written down at the first start, else var/.

    Root cannot run PostgreSQL, and its `postgres` user may not reach a clone below a 0700 folder: then the
    data lives below /var/lib/ridgeback. The choice is written into var/location and kept.
    """
    named = os.environ.get("RIDGEBACK_DATA")
    if named:
        folder = Path(named).resolve()
        folder.mkdir(parents=True, exist_ok=True)
        return folder
    local = ROOT / "var"
    local.mkdir(exist_ok=True)
    location = local / "location"
    if location.exists():
        folder = Path(location.read_text().strip())
        if not folder.is_dir() and folder != local:
            raise Stop(f"{location} says the data is in {folder}, which is gone; bring it back, or run ./start --fresh.")
        return folder
    folder = local
    if os.geteuid() == 0 and has_user("postgres") and not user_can_enter("postgres", local):
        folder = SYSTEM_DATA / hashlib.sha256(str(ROOT).encode()).hexdigest()[:12]
        folder.mkdir(parents=True, exist_ok=True)
        print(f"PostgreSQL's user cannot reach {local}; the data is kept in {folder}.")
    keep_secret(location, f"{folder}\n")
    return folder


def held(path: Path) -> IO[str] | None:
    """Hold a file for as long as what is returned stays open; None where another process holds it."""
    handle = path.open("a+")
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        handle.close()
        return None
    return handle


def lock(folder: Path) -> tuple[IO[str], str]:
    """Take the lock that says 'running'; its file holds the address. Return it with the address a killed run left there."""
    handle = held(folder / "lock")
    if handle is None:
        address = (folder / "lock").read_text().strip() or "another terminal"
        raise Stop(f"Ridgeback already runs from this folder ({address}).")
    handle.seek(0)
    left = handle.read().strip()
    handle.truncate(0)
    return handle, left


def keep_secret(path: Path, text: str) -> None:
    """Write a secret into a file that its owner alone reads; it is whole and on the disk when this returns, or as it was before.

    A power cut a moment later must not leave an empty password behind: the database would be shut for good.
    """
    part = path.with_name(f".{path.name}.part")
    part.unlink(missing_ok=True)
    part.touch(mode=0o600)
    with part.open("w") as file:
        file.write(text)
        file.flush()
        os.fsync(file.fileno())
    part.rename(path)
    sync(path.parent)


def sync(folder: Path) -> None:
    """See to it that the names in a folder are on the disk."""
    held = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(held)
    finally:
        os.close(held)


def secret(folder: Path, name: str, length: int = 48) -> str:
    """Return the secret called `name`, made once and readable by its owner only."""
    path = folder / name
    if not path.exists() or not path.read_text().strip():
        keep_secret(path, secrets.token_urlsafe(length) + "\n")
    return path.read_text().strip()


def new_key(folder: Path) -> None:
    """Make a new secret key; the one of before, and the one before that, still open what they signed."""
    old, path = old_keys(folder), folder / OLD_KEYS
    if (folder / "secret-key").exists():
        old = [secret(folder, "secret-key"), *old][:OLD_KEYS_KEPT]
        keep_secret(path, "".join(f"{key}\n" for key in old))
        (folder / "secret-key").unlink()
    secret(folder, "secret-key")


def old_keys(folder: Path) -> list[str]:
    """The secret keys of before, newest first."""
    path = folder / OLD_KEYS
    return path.read_text().split() if path.exists() else []


def set_aside(folder: Path) -> Path:
    """Move the old data out of the way without deleting anything; return where it went."""
    target = folder.with_name(f"{folder.name}-set-aside-{time.strftime('%Y%m%d-%H%M%S')}")
    target.mkdir()
    for item in folder.iterdir():
        if item.name not in ("lock", "location"):
            item.rename(target / item.name)
    return target
