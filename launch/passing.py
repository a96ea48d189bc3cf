"""How secrets reach the programs that are started: in files in memory, never in an environment or on a command line.

The environment of a process is read by every process of the same user, and goes on to whatever it starts; a file in memory has no
name on any disk and is gone with the last process that holds it. `ridgeback/environment.py` reads it by NAME_FILE.
"""

import contextlib
import os
from collections.abc import Iterator, Mapping
from functools import cache
from pathlib import Path
from typing import Final

from launch.machine import Stop

SECRETS: Final = (
    "RIDGEBACK_SECRET_KEY",
    "RIDGEBACK_OLD_SECRET_KEYS",
    "DATABASE_URL",
    "DATABASE_REPLICA_URL",
    "RIDGEBACK_MAIL_URL",
    "RIDGEBACK_BROKER_URL",
    "RIDGEBACK_METRICS_TOKEN",
    "RIDGEBACK_DEVICE_KEY",
    "RIDGEBACK_DEMO_PASSWORD",
)


@contextlib.contextmanager
def secrets_apart(values: Mapping[str, str]) -> Iterator[tuple[dict[str, str], tuple[int, ...]]]:
    """An environment without its secrets, and the descriptors of the files in memory that hold them: for a program's start."""
    environment, held = dict(values), []
    try:
        for name in SECRETS:
            value = given(name, environment)
            environment.pop(name, None)
            if value:
                held.append(_in_memory(name, value, 0o444))  # a web process of another user reads it by its own descriptor
                environment[f"{name}_FILE"] = f"/proc/self/fd/{held[-1]}"
        yield environment, tuple(held)
    finally:
        for descriptor in held:
            os.close(descriptor)


def given(name: str, values: Mapping[str, str] = os.environ) -> str:
    """What is set under a name, in the environment or in the file that NAME_FILE names; "" for nothing. Raises Stop."""
    file = values.get(f"{name}_FILE", "")
    if not file:
        return values.get(name, "")
    try:
        return Path(file).read_text().strip()
    except OSError as error:
        raise Stop(f"{name}_FILE names {file}, which cannot be read: {error.strerror}.") from None


@cache
def passfile(password: str) -> str:
    """The name of a file by which PostgreSQL's own programs, started from here, know a password (libpq's PGPASSFILE)."""
    escaped = password.replace("\\", "\\\\").replace(":", "\\:")
    descriptor = _in_memory("passfile", f"*:*:*:*:{escaped}\n", 0o600)
    return f"/proc/{os.getpid()}/fd/{descriptor}"


def _in_memory(name: str, text: str, mode: int) -> int:
    descriptor = os.memfd_create(name)
    os.fchmod(descriptor, mode)
    os.write(descriptor, text.encode())
    return descriptor
