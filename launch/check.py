"""./test: every check on a database that is thrown away afterwards."""

import argparse
import contextlib
import fcntl
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import IO

from launch.cluster import Cluster
from launch.machine import CHROMIUM, HEADLESS, ROOT, Stop, ensure_venv, folder_for_a_while, install_packages, missing_packages
from launch.storage import held

STATIC_CHECKS = {
    "ruff": ["ruff", "check", "."],
    "format": ["ruff", "format", "--check", "."],
    "djlint": ["djlint", "ridgeback", "--lint", "--quiet"],
    "mypy": ["mypy", "husbandry", "ridgeback", "launch", "tests"],
    "imports": ["lint-imports", "--no-logo"],
    "scripts": ["node", "--test", "tests/js"],
}
# What the tests of one folder need and the others do not: each process would load it.
OF_THE_WEB, OF_THE_API = ("django", "playwright", "base_url"), ("schemathesis", "anyio")
MEGABYTES = 4_000  # of memory for the database and files of the tests: they take 1,000 at most
NAMED, HELD = "ridgeback-test-", "held"  # the folder of a run, and the file in it that is held while it lasts
NOW = "now"  # stands in the file that tests wait for, once they may begin
WORKERS = ("gw0", "gw1", "gw2")  # as pytest-xdist calls them


Running = dict[str, tuple["subprocess.Popen[bytes]", IO[str]]]


def start_static(tools: Path, environment: dict[str, str]) -> Running:
    """Start the linters side by side: they run while the tests do."""
    running: Running = {}
    for name, command in STATIC_CHECKS.items():
        output = tempfile.TemporaryFile("w+")  # noqa: SIM115 - open until its linter ends
        own = tools / command[0]
        full = [str(own) if own.exists() else command[0], *command[1:]]
        running[name] = (subprocess.Popen(full, cwd=ROOT, env=environment, stdout=output, stderr=output), output)
    return running


def ended_static(running: Running) -> bool:
    """Wait for the linters; print what fails; tell whether all passed."""
    passed = True
    for name, (process, output) in running.items():
        good = process.wait() == 0
        print(f"{name}: {'passed' if good else 'FAILED'}", flush=True)
        if not good:
            output.seek(0)
            print(output.read())
        passed = passed and good
    return passed


def taken() -> tuple[float, float]:
    """The processor time that others on the host took from this machine so far, and all there was, in ticks (Linux)."""
    ticks = [float(one) for one in Path("/proc/stat").read_text().split("\n", 1)[0].split()[1:]]
    return ticks[7], sum(ticks[:8])


def without(plugins: tuple[str, ...]) -> list[str]:
    """The words that leave plugins of pytest out."""
    return [word for name in plugins for word in ("-p", f"no:{name}")]


def runs_of(what: str | None) -> list[list[str]]:
    """What each run of the tests is started with: the core's, the web's and the browser's."""
    # The browser tests are a run of their own: their event loop would disturb the tests after them.
    # The core is a run of its own too: there is no Django in it.
    # A browser's test waits for what a page does after a while, a fifth of its time: a third worker has the cores meanwhile.
    two, three = (["-n", str(workers), "--dist", "worksteal"] for workers in (2, len(WORKERS)))
    slowest = ["--durations=10", "--durations-min=1"]
    # The web's and the browser's workers find the databases that were made for them (tests/database.py).
    kept = [*slowest, "--reuse-db"]
    alone = [*without(OF_THE_WEB + OF_THE_API), "-W", "ignore::pytest.PytestConfigWarning"]
    if what == "coverage":  # its tracing doubles the time: by hand, with the floor of pyproject.toml
        shown = "--cov-report=term:skip-covered"
        web = ["--cov=ridgeback", "--cov-fail-under=0", shown]  # the browser's tests, which are not traced, reach more of it
        return [[*alone, *two, "--cov=husbandry", shown, "tests/core"], [*two, *kept, *web, "tests/web"]]
    some = ["-m", "not sweep"] if what == "quick" else []
    runs = [[*alone, *two, *slowest, *some, "tests/core"], [*two, *kept, *some, "tests/web"]]
    return runs + ([] if what == "quick" else [[*without(OF_THE_API), *three, *kept, "tests/browser"]])


def environment_of(python: Path, what: str | None) -> dict[str, str]:
    """What the linters and the tests find in their environment."""
    environment = {**os.environ, "PATH": f"{python.parent}:{os.environ['PATH']}", "PYTHONPATH": str(ROOT)}
    # Many small arrays and as many workers as cores: threads of the algebra library would only wait for one another.
    environment.setdefault("OPENBLAS_NUM_THREADS", "1")
    # Seven processes read the same six hundred files: the first keeps what it compiled for the others.
    environment.pop("PYTHONDONTWRITEBYTECODE", None)
    turn = environment.pop("RIDGEBACK_TURN", None) or str(turn_of_commit())
    if what == "all":
        return environment | {"RIDGEBACK_TEST": "all"}
    return environment if what == "coverage" else environment | {"RIDGEBACK_TURN": turn}


def own_folder() -> tuple[Path, IO[str]]:
    """The folder of this run: its database, the static files and what the tests write; PostgreSQL's user may enter it.

    Folders of runs that were killed are removed first: they would lie in memory until the machine is started again.

    Returns
    -------
    The folder, and the open file that says that it is in use.
    """
    within = folder_for_a_while(MEGABYTES)
    for mark in within.glob(f"{NAMED}*/{HELD}"):
        with contextlib.suppress(OSError):  # another user's, or just removed by another run
            if (handle := held(mark)) is not None:
                shutil.rmtree(mark.parent, ignore_errors=True)
                handle.close()
    folder = Path(tempfile.mkdtemp(prefix=NAMED, dir=within))
    folder.chmod(0o755)
    for part in ("static", "files"):
        (folder / part).mkdir()
    own = held(folder / HELD)
    if own is None:
        raise Stop(f"{folder} was just made, and another process holds it.")
    return folder, own


def turn_of_commit() -> int:
    """A number that goes by the commit that is checked out: which cases of the sweeps have their turn (tests/sample.py)."""
    git = shutil.which("git")
    told = subprocess.run([git, "rev-parse", "HEAD"], cwd=ROOT, capture_output=True, text=True) if git else None
    return int(told.stdout.strip()[:8], 16) if told is not None and told.returncode == 0 else 0


def run_in_turn(runs: list[list[str]], environment: dict[str, str], folder: Path, database: "subprocess.Popen[bytes]") -> bool:
    """Run the tests, one command after another; tell whether all passed. Raises Stop where their database could not be made.

    The next command is started with each: it loads its tests while the one before still runs, and waits before the first of them
    for a file that is held until its time has come (tests/waiting.py).
    """
    started: list[subprocess.Popen[bytes]] = []
    good = True
    with contextlib.ExitStack() as stack:
        gates = [stack.enter_context((folder / f"begin-{place}").open("a")) for place in range(len(runs))]
        for gate in gates:
            fcntl.flock(gate, fcntl.LOCK_EX)
        for at, command in enumerate(runs):
            for place in range(len(started), min(at + 2, len(runs))):
                waits = {"RIDGEBACK_TEST_BEGINS": gates[place].name}
                started.append(subprocess.Popen(runs[place], cwd=ROOT, env=environment | waits, process_group=0))
                stack.callback(end_with_workers, started[-1])
            if "tests/core" not in command and database.wait() != 0:
                raise Stop("The database of the tests could not be made; what it said stands above.")
            gates[at].write(NOW)
            gates[at].close()
            good = started[at].wait() == 0 and good
    return good


def end_with_workers(tests: "subprocess.Popen[bytes]") -> None:
    """Kill a run of tests, where it was broken off, with the processes that it gave its tests to: they would go on to the last."""
    with contextlib.suppress(ProcessLookupError):  # nothing of it is left
        os.killpg(tests.pid, signal.SIGKILL)


def main() -> int:
    parser = argparse.ArgumentParser(prog="./test", description="Run Ridgeback's checks.")
    told = "skip browser, sweeps and what takes seconds; take the sweeps whole, by hand; say which lines no test comes to"
    parser.add_argument("what", nargs="?", choices=["quick", "all", "coverage"], help=told)
    arguments, rest = parser.parse_known_args()
    browser = {None: HEADLESS, "all": CHROMIUM}.get(arguments.what)
    began, (stolen, whole) = time.monotonic(), taken()
    folder, mark = own_folder()
    cluster, beside = None, dict[str, "subprocess.Popen[bytes]"]()
    static: Running = {}
    try:
        install_packages(missing_packages(browser=browser, database=True, scripts=True, broker=True, encryption=True))
        python = ensure_venv(ROOT / ".venv-test", ROOT / "requirements" / "dev.lock", compiled=False)
        environment = environment_of(python, arguments.what) | {"TMPDIR": str(folder / "files")}
        if turn := environment.get("RIDGEBACK_TURN"):
            print(f"Of the sweeps those cases whose turn it is (RIDGEBACK_TURN={turn}); ./test all takes every one.", flush=True)
        static = start_static(python.parent, environment)
        # Both workers would else compile the stepping of days for themselves.
        beside["compiling"] = subprocess.Popen([str(python), "-m", "husbandry.climate.precompile"], cwd=ROOT, env=environment)
        cluster = Cluster(folder, throwaway=True)
        cluster.create()
        cluster.start()
        beside["compiling"].wait()
        environment |= {"DATABASE_URL": cluster.url, "RIDGEBACK_STATIC_ROOT": str(folder / "static")}
        beside["database"] = subprocess.Popen([str(python), "-m", "tests.database", *WORKERS], cwd=ROOT, env=environment)
        runs = [[str(python), "-m", "pytest", *words, *rest] for words in runs_of(arguments.what)]
        good = run_in_turn(runs, environment, folder, beside["database"])
        good = ended_static(static) and good
        static = {}
    except Stop as reason:
        print(reason, file=sys.stderr)
        return 1
    finally:
        for process in [*beside.values(), *(one for one, _output in static.values())]:
            process.kill()
        if cluster is not None:
            cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)
        mark.close()
    seconds, (stolen_by_now, whole_by_now) = time.monotonic() - began, taken()
    share = (stolen_by_now - stolen) / max(whole_by_now - whole, 1.0)
    print(f"{'All checks passed' if good else 'Some checks failed'} ({seconds:.0f} s; neighbours took {share:.0%} of the machine).")
    return 0 if good else 1


if __name__ == "__main__":
    sys.exit(main())
