"""What runs beside the web process: the worker, the listener to a broker, the demo's simulated instruments."""

import contextlib
import signal
import subprocess
import time
from collections.abc import Callable, Mapping
from pathlib import Path

from launch.machine import ROOT, as_user
from launch.passing import secrets_apart

FIRST_PAUSE_S, LONGEST_PAUSE_S = 1.0, 120.0
STEADY_S = 300.0  # after so long a helper counts as well again
STOP_S = 10


class Helper:
    """One program that is started beside the web process and started again when it ends, with pauses that grow.

    None of them is needed for a page to be answered: what they fail by stands in the terminal, and no more.
    """

    def __init__(self, name: str, python: Path, arguments: list[str], user: str | None) -> None:
        self.name, self.arguments = name, arguments
        self.command = [*as_user(user, death_signal="TERM"), str(python), str(ROOT / "manage.py"), *arguments]
        self.process: subprocess.Popen[bytes] | None = None
        self.began = self.due = 0.0
        self.pause_s = FIRST_PAUSE_S

    def keep_up(self, environment: Callable[[], Mapping[str, str]]) -> None:
        """Start it where it does not run and its pause is over."""
        now = time.monotonic()
        if self.process is not None:
            if self.process.poll() is None:
                return
            if now - self.began > STEADY_S:
                self.pause_s = FIRST_PAUSE_S
            print(f"{self.name} stopped; it is started again in {self.pause_s:.0f} s.", flush=True)
            self.process, self.due = None, now + self.pause_s
            self.pause_s = min(2 * self.pause_s, LONGEST_PAUSE_S)
        if now >= self.due:
            with secrets_apart(environment()) as (apart, held):
                self.process = subprocess.Popen(self.command, cwd=ROOT, env=apart, start_new_session=True, pass_fds=held)
            self.began = now

    def stop(self) -> None:
        """End it, kindly first."""
        if self.process is None:
            return
        if self.process.poll() is None:
            self.process.send_signal(signal.SIGTERM)
            with contextlib.suppress(subprocess.TimeoutExpired):
                self.process.wait(timeout=STOP_S)
            if self.process.poll() is None:
                self.process.kill()
        self.process.wait()
        self.process, self.due = None, 0.0
