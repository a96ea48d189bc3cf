"""./start for real: its own database and web process, killed part by part, stopped, started again."""

import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from launch.machine import free_port

ROOT = Path(__file__).resolve().parents[2]
# The tests' own environment stands in for .venv, which a clean checkout does not have.
DRIVER = """
import sys
from pathlib import Path
import launch.start as start
start.ensure_venv = lambda folder, lock: Path(sys.executable)
sys.exit(start.main())
"""
PATIENCE_S = 180.0


class Running:
    """One ./start with a data folder and a port of its own."""

    def __init__(self, data: Path, port: int) -> None:
        self.data, self.port = data, port
        self.log = data.with_suffix(".log")
        self.process: subprocess.Popen[bytes] | None = None
        self.answer = ""

    def start(self) -> "Running":
        environment = {**os.environ, "PORT": str(self.port), "RIDGEBACK_DATA": str(self.data), "PYTHONPATH": str(ROOT)}
        environment.pop("DATABASE_URL", None)
        environment.pop("RIDGEBACK_STATIC_ROOT", None)
        with self.log.open("wb") as log:
            self.process = subprocess.Popen([sys.executable, "-c", DRIVER], cwd=ROOT, env=environment, stdout=log, stderr=log)
        self.until(lambda: "Ctrl-C stops it" in self.said)
        return self

    @property
    def said(self) -> str:
        return self.log.read_text()

    def until(self, true: Callable[[], bool]) -> None:
        deadline = time.monotonic() + PATIENCE_S
        while not true():
            assert time.monotonic() < deadline, self.said
            assert self.process is None or self.process.poll() is None, self.said
            time.sleep(0.1)

    def is_well(self) -> bool:
        """Ask for its health; `answer` keeps what came."""
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/health", timeout=5) as reply:
                self.answer = reply.read().decode()
        except OSError as error:
            self.answer = repr(error)
        return self.answer == "well\n"

    @property
    def database(self) -> int:
        return int((self.data / "postgres" / "postmaster.pid").read_text().splitlines()[0])

    def web(self) -> int:
        """The process id of gunicorn's master: the child of this ./start that is no database."""
        assert self.process is not None
        of_this = ["ps", "-ww", "-o", "pid=,args=", "--ppid", str(self.process.pid)]
        listed = subprocess.run(of_this, capture_output=True, text=True).stdout
        return next(int(line.split()[0]) for line in listed.splitlines() if "gunicorn" in line)

    def stop(self, number: int = signal.SIGTERM) -> int:
        assert self.process is not None
        self.process.send_signal(number)
        return self.process.wait(timeout=PATIENCE_S)


@pytest.fixture
def running() -> Iterator[Running]:
    folder = Path(tempfile.mkdtemp(prefix="ridgeback-start-"))
    folder.chmod(0o755)  # PostgreSQL's user must reach it
    data = folder / "data"
    data.mkdir(mode=0o755)
    made = Running(data, free_port())
    yield made
    if made.process is not None and made.process.poll() is None:
        made.stop()
    shutil.rmtree(folder, ignore_errors=True)


def alive(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    state = Path(f"/proc/{pid}/stat")
    return state.exists() and state.read_text().rpartition(")")[2].split()[0] != "Z"


def test_it_survives_the_death_of_any_part_and_stops_cleanly(running: Running) -> None:
    running.start()
    assert running.is_well(), running.answer
    password = re.search(r"keeper / (\S+)", running.said)
    assert password is not None

    os.kill(running.web(), signal.SIGKILL)
    running.until(lambda: "The web process stopped" in running.said and running.is_well())

    database = running.database
    os.kill(database, signal.SIGKILL)
    running.until(lambda: "The database stopped" in running.said and running.is_well())
    assert running.database != database

    twice = Running(running.data, free_port())
    with pytest.raises(AssertionError, match=f"already runs from this folder .*{running.port}"):
        twice.start()

    # The launcher itself dies: nothing is left running, and the next start mends what it finds.
    database = running.database
    assert running.stop(signal.SIGKILL) == -signal.SIGKILL
    deadline = time.monotonic() + PATIENCE_S
    while (alive(database) or running.is_well()) and time.monotonic() < deadline:
        time.sleep(0.1)
    assert not alive(database)
    running.start()
    assert running.is_well(), running.answer
    assert f"keeper / {password[1]}" in running.said  # the same data

    database = running.database
    assert running.stop() == 0
    assert "the data is safe" in running.said
    assert not alive(database)
    assert not (running.data / "postgres" / "postmaster.pid").exists()
    assert "database system is shut down" in (running.data / "postgres.log").read_text().splitlines()[-1]


def test_secrets_and_the_database_are_the_owners_alone(running: Running) -> None:
    running.start()
    for name in ("secret-key", "demo-password", "database-password"):
        assert (running.data / name).stat().st_mode & 0o077 == 0
    settings = subprocess.run(["ps", "-ww", "-o", "args=", "-p", str(running.database)], capture_output=True, text=True).stdout
    assert "listen_addresses=127.0.0.1" in settings
    assert " -p 5432" not in settings
    if os.geteuid() == 0:
        owner = subprocess.run(["ps", "-o", "user=", "-p", str(running.database)], capture_output=True, text=True).stdout
        assert owner.strip() == "postgres"
