"""Do the tests notice when the code is wrong? Small faults are put into it one at a time, and the tests are run (mutmut).

Run by hand: `PYTHONPATH=. python3 benchmarks/mutation.py ROOM[,ROOM …] [how many of each] [seed] [folder]`, with rooms of one
side: review, rota and remedies of the core, or actions of the web side.
It makes its own environment from requirements/mutation.lock and works on a copy of what is committed, so that nothing of the
tree is touched; for the rooms of the web side it starts a PostgreSQL server and throws it away afterwards.

All faults of a room are thousands: as many as asked for are drawn by the seed, and the share that was noticed is told with
the width a sample of that size has. A fault that only its own tests would find out counts as unnoticed: the tests are those
named here, so that the share is a lower bound. What was not noticed is printed as a difference. Figures: docs/reliability.md.
"""

import contextlib
import json
import math
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

from launch.cluster import Cluster
from launch.machine import ROOT, ensure_venv

ROOMS: dict[str, tuple[str, str]] = {
    # room: what is changed, and what is copied as its sources
    "review": ("husbandry/review/*", "husbandry"),
    "rota": ("husbandry/rota/*", "husbandry"),
    "remedies": ("husbandry/remedies/*", "husbandry"),
    "actions": ("ridgeback/*/actions*", "ridgeback"),
}
# The tests that are about these rooms. All of them would take an hour for every fault that none notices.
CORE = [
    "findings_told", "review", "standing", "plan", "measured", "space", "furniture", "company", "health", "salads", "vitamins",
    "water", "behaviour", "feeding", "rota", "chores_told", "chores_fit", "remedies", "near", "moisture", "ultraviolet", "waters",
    "openings", "certainty", "limits", "shelters", "perches", "cutting", "cultures", "stock",
]  # fmt: skip
WEB = [
    "keeping", "daybook_files", "building", "metering", "menu", "mine", "pantry", "accounts", "sharing", "series", "money",
    "electrics", "working_out", "planning", "any_order", "at_once", "archive", "calendar", "feeding", "round", "cultures",
    "readings", "commissioning", "rows", "room_climate",
]  # fmt: skip
TESTS = {"husbandry": ("tests/core", CORE), "ridgeback": ("tests/web", WEB)}
GENERATE = (
    "from mutmut import __main__ as m; m.copy_src_dir(); m.copy_also_copy_files(); m.setup_source_paths(); m.create_mutants(2)"
)
KILLED, UNREACHED = {1, 3, -24, 24, 36, 152, 255}, {5, 33}


def prepared(folder: Path, rooms: list[str]) -> None:
    """Lay a copy of what is committed into the folder, with mutmut's settings for the rooms."""
    (sources,) = {ROOMS[room][1] for room in rooms}
    tests, about = TESTS[sources]
    archive = subprocess.run(["git", "archive", "HEAD"], cwd=ROOT, check=True, capture_output=True).stdout
    subprocess.run(["tar", "-x", "-C", str(folder)], input=archive, check=True)
    others = sorted(one.name for one in folder.iterdir() if one.name not in {sources, "setup.cfg"})
    arguments = ["-m", "not sweep", "-p", "no:cacheprovider", "-p", "no:xdist"]
    # A fault leaves rows behind that the next one must not find: each begins with a database of its own.
    arguments += ["-p", "no:django"] if sources == "husbandry" else ["--create-db"]
    settings = {
        "source_paths": [sources],
        "only_mutate": [ROOMS[room][0] for room in rooms],
        "also_copy": others,
        "pytest_add_cli_args": arguments,
        "pytest_add_cli_args_test_selection": [path for name in about if (folder / (path := f"{tests}/test_{name}.py")).exists()],
    }
    lines = ["[mutmut]", *(f"{name} =\n" + "\n".join(f"    {one}" for one in values) for name, values in settings.items())]
    if sources == "ridgeback":  # a connection to the database is not shared by two processes, nor a test's database
        lines += ["process_isolation = forkserver"]
    (folder / "setup.cfg").write_text("\n".join([*lines, "timeout_multiplier = 4.0", "timeout_constant = 20.0", ""]))


def outcomes(folder: Path) -> dict[str, int | None]:
    """Every fault by its name, with what the tests ended with; None where they were not asked."""
    found: dict[str, int | None] = {}
    for kept in sorted((folder / "mutants").rglob("*.py.meta")):
        found |= json.loads(kept.read_text())["exit_code_by_key"]
    return found


def told(folder: Path, python: Path, environment: dict[str, str], room: str, drawn: list[str], there: int) -> None:
    """Print what was not noticed of a room, and the share that was."""
    ended = outcomes(folder)
    noticed = [name for name in drawn if ended[name] in KILLED]
    unnoticed = [name for name in drawn if ended[name] is not None and name not in set(noticed)]
    for name in unnoticed:
        show = [str(python), "-m", "mutmut", "show", name]
        shown = subprocess.run(show, cwd=folder, env=environment, capture_output=True, text=True).stdout.splitlines()
        what = "\n".join(line for line in shown if line[:1] in {"+", "-"} and line[:3] not in {"+++", "---"})
        print(f"{name}{' (no test comes there)' if ended[name] in UNREACHED else ''}\n{what}\n", flush=True)
    asked = len(noticed) + len(unnoticed)
    share = len(noticed) / max(asked, 1)
    width = 1.96 * math.sqrt(share * (1 - share) / max(asked, 1))
    print(f"{room}: {there} faults can be made, {asked} of {len(drawn)} drawn were tried: ", end="")
    print(f"{share:.0%} noticed (±{width:.0%}), {sum(ended[name] in UNREACHED for name in drawn)} where no test comes.", flush=True)


@contextlib.contextmanager
def database(rooms: list[str]) -> Iterator[dict[str, str]]:
    """A server for the tests of the web side, and how they find it; nothing for those of the core."""
    if ROOMS[rooms[0]][1] == "husbandry":
        yield {}
        return
    files = Path(tempfile.mkdtemp(prefix="ridgeback-mutation-db-"))
    files.chmod(0o755)  # PostgreSQL runs as another user
    cluster = Cluster(files, throwaway=True)
    cluster.create()
    cluster.start()
    try:
        yield {"DATABASE_URL": cluster.url}
    finally:
        cluster.stop()
        shutil.rmtree(files, ignore_errors=True)


def main(rooms: list[str], count: int, seed: int, folder: Path) -> None:
    with database(rooms) as where:
        changed(rooms, count, seed, folder, where)


def changed(rooms: list[str], count: int, seed: int, folder: Path, where: dict[str, str]) -> None:
    """Make the faults of the rooms, try those that are drawn, and print what went unnoticed."""
    python = ensure_venv(ROOT / ".venv-mutation", ROOT / "requirements" / "mutation.lock")
    environment = {**os.environ, "PATH": f"{python.parent}:{os.environ['PATH']}", "OPENBLAS_NUM_THREADS": "1"} | where
    prepared(folder, rooms)
    subprocess.run([str(python), "-c", GENERATE], cwd=folder, env=environment, check=True, stdout=subprocess.DEVNULL)
    names = sorted(outcomes(folder))
    of_rooms = {room: [name for name in names if _of(room, name)] for room in rooms}
    drawn = {room: sorted(random.Random(seed).sample(there, min(count, len(there)))) for room, there in of_rooms.items()}
    children = "2" if rooms != ["actions"] else "1"
    run = [str(python), "-m", "mutmut", "run", "--max-children", children, *(name for some in drawn.values() for name in some)]
    with (folder / "run.log").open("w") as log:
        subprocess.run(run, cwd=folder, env=environment, stdout=log, stderr=log)
    for room, some in drawn.items():
        told(folder, python, environment, room, some, len(of_rooms[room]))


def _of(room: str, name: str) -> bool:
    """Tell whether a fault, named by its module and function, is one of a room's."""
    changed = ROOMS[room][0].removesuffix("*").replace("/", ".").rstrip(".").partition("*")
    return name.startswith(changed[0]) and changed[2] in name


if __name__ == "__main__":
    asked = sys.argv[1:]
    main(
        asked[0].split(","),
        int(asked[1]) if len(asked) > 1 else 200,
        int(asked[2]) if len(asked) > 2 else 1,
        Path(asked[3]) if len(asked) > 3 else Path(tempfile.mkdtemp(prefix="ridgeback-mutation-")),
    )
