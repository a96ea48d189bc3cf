"""Kills parts of a running Ridgeback under writers, and counts what was acknowledged and is not there.

PYTHONPATH=. .venv-test/bin/python benchmarks/kills.py [HOW_MANY] [SEED]      (its own data folder and port; about 5 s a kill)

Writers write notes by the API, each with a key of its own, and ask again with the same key until they are answered; a device
reports readings. Killed by SIGKILL, by turns: a web worker, the web's master, the database's master, one of its backends, the job
worker, the launcher (which is started again by hand, as systemd would). In the end every acknowledged note stands there once, and
every reading that was acknowledged too.
"""

import contextlib
import http.cookiejar
import json
import os
import random
import re
import shutil
import signal
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import urllib.parse
import urllib.request
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any, Final

from launch.machine import ROOT, free_port

WRITERS: Final = 4
A_NOTE_S: Final = 0.55  # a token bears two a second
VICTIMS: Final = ("web worker", "web master", "postmaster", "backend", "job worker", "launcher")
PATIENCE_S: Final = 120.0
# The checkout's own test environment stands in for .venv.
DRIVER: Final = """
import sys
from pathlib import Path
import launch.start as start
start.ensure_venv = lambda folder, lock: Path(sys.executable)
sys.exit(start.main())
"""


class Program:
    """One ./start with a data folder and a port of its own."""

    def __init__(self, data: Path) -> None:
        self.data, self.port = data, free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        self.log = data.with_suffix(".log")
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        environment = {**os.environ, "PORT": str(self.port), "RIDGEBACK_DATA": str(self.data), "PYTHONPATH": str(ROOT)}
        environment |= {"RIDGEBACK_SIMULATE": "off", "RIDGEBACK_BACKUPS": "off"}
        for name in ("DATABASE_URL", "RIDGEBACK_STATIC_ROOT"):
            environment.pop(name, None)
        with self.log.open("ab") as log:
            self.process = subprocess.Popen([sys.executable, "-c", DRIVER], cwd=ROOT, env=environment, stdout=log, stderr=log)

    def well(self) -> bool:
        try:
            with urllib.request.urlopen(f"{self.address}/health", timeout=2) as answer:
                return bool(answer.status == 200)
        except OSError:
            return False

    def wait(self) -> float:
        """Seconds until it is well."""
        began = time.monotonic()
        while not self.well():
            if time.monotonic() - began > PATIENCE_S:
                raise SystemExit(f"It never came back; see {self.log}")
            time.sleep(0.05)
        return time.monotonic() - began

    def below(self, parent: int) -> list[tuple[int, str]]:
        listed = subprocess.run(["ps", "-ww", "-o", "pid=,args=", "--ppid", str(parent)], capture_output=True, text=True).stdout
        return [(int(line.split(None, 1)[0]), line.split(None, 1)[1]) for line in listed.splitlines()]

    @property
    def starts(self) -> int:
        """How often it has said that it serves."""
        return self.log.read_text(errors="replace").count("Ctrl-C stops it")

    def victim(self, what: str, choice: random.Random) -> int | None:
        """The process id of a part; None where it is not there just now."""
        assert self.process is not None
        mine = self.below(self.process.pid)
        master = next((pid for pid, said in mine if "ridgeback.serve" in said), None)
        database = next((pid for pid, said in mine if "bin/postgres" in said), None)
        match what:
            case "launcher":
                return self.process.pid
            case "web master":
                return master
            case "web worker":
                workers = self.below(master) if master else []
                return choice.choice(workers)[0] if workers else None
            case "postmaster":
                return database
            case "backend":
                backends = [pid for pid, said in self.below(database or 0) if "ridgeback_web" in said]
                return choice.choice(backends) if backends else None
        return next((pid for pid, said in mine if "procrastinate" in said), None)


def signed_in(program: Program) -> urllib.request.OpenerDirector:
    """A keeper's browser."""
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()))
    opener.addheaders = [("Referer", program.address)]
    page = opener.open(f"{program.address}/account/sign-in/").read().decode()
    password = (program.data / "demo-password").read_text().strip()
    post(opener, f"{program.address}/account/sign-in/", page, username="keeper", password=password)
    return opener


def post(opener: urllib.request.OpenerDirector, url: str, page: str, **told: Any) -> str:
    """Send a page's form."""
    hidden = dict(re.findall(r'<input type="hidden" name="([^"]+)" value="([^"]*)"', page))
    data = urllib.parse.urlencode(hidden | told, doseq=True).encode()
    return str(opener.open(url, data).read().decode())


class Writer(threading.Thread):
    """Writes notes by a token, one after the other, each until it is acknowledged."""

    def __init__(self, program: Program, token: str, habitat: int) -> None:
        super().__init__(daemon=True)
        self.program, self.token, self.habitat = program, token, habitat
        self.acknowledged: list[str] = []
        self.tried = 0
        self.ends = False

    def run(self) -> None:
        while not self.ends:
            text, key = uuid.uuid4().hex, uuid.uuid4().hex
            at = datetime.now(UTC).isoformat()
            one = {"key": key, "what": "note", "habitat": self.habitat, "value": text, "at": at}
            while not self.ends:
                self.tried += 1
                with contextlib.suppress(OSError, ValueError):
                    if self.ask(one) in ("written", "already"):
                        self.acknowledged.append(text)
                        break
                time.sleep(0.1)
            time.sleep(A_NOTE_S)

    def ask(self, one: dict[str, Any]) -> str:
        headers = {"Authorization": f"Bearer {self.token}", "Content-Type": "application/json"}
        body = json.dumps({"entries": [one]}).encode()
        request = urllib.request.Request(f"{self.program.address}/api/v1/entries", body, headers)
        with urllib.request.urlopen(request, timeout=25) as answer:
            return str(json.load(answer)[0]["state"])


class Reporter(threading.Thread):
    """A device: readings of moments of their own, each batch until it is acknowledged."""

    def __init__(self, program: Program, code: str) -> None:
        super().__init__(daemon=True)
        self.program, self.code = program, code
        self.acknowledged: list[str] = []
        self.moment = datetime.now(UTC).replace(microsecond=0) - timedelta(days=200)
        self.ends = False

    def run(self) -> None:
        key = (self.program.data / "device-key").read_text().strip()
        headers = {"Authorization": f"Bearer {key}", "Content-Type": "application/json"}
        while not self.ends:
            moments = [self.moment + timedelta(minutes=turn) for turn in range(20)]
            self.moment += timedelta(minutes=20)
            told = [{"channel": self.code, "at": at.isoformat(), "value": 25.0, "unit": "degC"} for at in moments]
            body = json.dumps({"readings": told}).encode()
            while not self.ends:
                request = urllib.request.Request(f"{self.program.address}/api/readings/", body, headers)
                with contextlib.suppress(OSError, ValueError), urllib.request.urlopen(request, timeout=25) as answer:
                    if answer.status == 200:
                        self.acknowledged += [at.isoformat() for at in moments]
                        break
                time.sleep(0.1)
            time.sleep(0.6)


def there(program: Program, statement: str) -> list[str]:
    """Ask the program's own database."""
    port = (program.data / "postgres" / "postmaster.pid").read_text().splitlines()[3]
    environment = {**os.environ, "PGPASSWORD": (program.data / "web-password").read_text().strip()}
    command = ["psql", "-h", "127.0.0.1", "-p", port, "-U", "ridgeback_web", "-d", "ridgeback", "-AtqX", "-c", statement]
    return subprocess.run(command, env=environment, capture_output=True, text=True, check=True).stdout.split()


def main() -> None:
    """Kill, wait, count."""
    many, choice = int((sys.argv[1:] or ["200"])[0]), random.Random(int((sys.argv[2:] or ["1"])[0]))
    folder = Path(tempfile.mkdtemp(prefix="ridgeback-kills-"))
    folder.chmod(0o755)
    (folder / "data").mkdir(mode=0o755)
    program = Program(folder / "data")
    program.start()
    program.wait()
    opener = signed_in(program)
    tokens = []
    for turn in range(WRITERS):
        page = opener.open(f"{program.address}/rooms/1/tokens/").read().decode()
        made = post(opener, f"{program.address}/rooms/1/tokens/", page, name=f"writer {turn}", scopes=["read", "write"])
        tokens.append(re.findall(r'class="address" readonly value="([^"]+)"', made)[0])
    code = there(program, "select code from series_channel where place = 'warm-air' and code <> '' order by id limit 1")[0]
    writers = [Writer(program, token, turn + 1) for turn, token in enumerate(tokens)]
    reporter = Reporter(program, code)
    for each in (*writers, reporter):
        each.start()
    took: dict[str, list[float]] = {what: [] for what in VICTIMS}
    began = time.monotonic()
    for turn in range(many):
        what = VICTIMS[turn % len(VICTIMS)]
        time.sleep(choice.uniform(0.3, 2.0))
        pid = program.victim(what, choice)
        if pid is None:
            time.sleep(1.0)
            pid = program.victim(what, choice)
        if pid is None:
            print(f"{turn + 1}: no {what} there", flush=True)
            continue
        starts = program.starts
        killed = time.monotonic()
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)
        if what == "launcher" and program.process is not None:
            program.process.wait()
            program.start()
            while program.starts == starts and time.monotonic() - killed < PATIENCE_S:
                time.sleep(0.05)  # what the killed one left behind still answers for a moment
        before = sum(len(each.acknowledged) for each in writers)
        while sum(len(each.acknowledged) for each in writers) == before:  # back when a note is acknowledged again
            if time.monotonic() - killed > PATIENCE_S:
                raise SystemExit(f"{what}: nothing was acknowledged any more; see {program.log}")
            time.sleep(0.02)
        took[what].append(time.monotonic() - killed)
    for each in (*writers, reporter):
        each.ends = True
    for each in (*writers, reporter):
        each.join(timeout=30)
    program.wait()
    notes = [text for each in writers for text in each.acknowledged]
    kept = there(program, "select payload->>'note' from daybook_event where kind = 'note'")
    lost, twice = set(notes) - set(kept), len([text for text in notes if kept.count(text) > 1])
    long_ago = "between now() - interval '201 days' and now() - interval '100 days'"
    of_it = f"from series_sample s join series_channel c on c.id = s.channel_id where c.code = '{code}'"
    read = there(program, f"select count(*) {of_it} and s.at {long_ago}")
    every = [one for found in took.values() for one in found]
    print("| killed | times | back after, median | 95 % | longest |")
    print("|---|---|---|---|---|")
    for what, found in (*took.items(), ("all", every)):
        if found:
            ranked = sorted(found)
            late = ranked[min(int(0.95 * len(ranked)), len(ranked) - 1)]
            print(f"| {what} | {len(found)} | {statistics.median(found):.1f} s | {late:.1f} s | {ranked[-1]:.1f} s |")
    print(
        f"{len(notes)} notes acknowledged ({sum(each.tried for each in writers)} requests): {len(lost)} lost, {twice} there twice"
    )
    print(f"{len(reporter.acknowledged)} readings acknowledged, {read[0]} there; {time.monotonic() - began:.0f} s")
    assert program.process is not None
    program.process.send_signal(signal.SIGTERM)
    program.process.wait(timeout=60)
    shutil.rmtree(folder, ignore_errors=True)
    if lost or twice or int(read[0]) < len(reporter.acknowledged):
        raise SystemExit(1)


if __name__ == "__main__":
    main()
