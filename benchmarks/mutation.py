"""Do the tests notice when the code is wrong? Small faults are put into it one at a time, and the tests are run (mutmut).

Run by hand: `PYTHONPATH=. python3 benchmarks/mutation.py ROOM [how many] [seed] [folder]`, ROOM one of those below.
It makes its own environment from requirements/mutation.lock and works on a copy of what is committed, so that nothing of the
tree is touched; for the rooms of the web side, DATABASE_URL names a server where a test's database may be made.

All faults of a room are thousands: as many as asked for are drawn by the seed, and the share that was noticed is told with
the width a sample of that size has. A fault that only its own tests would find out counts as unnoticed: the tests are those
named here, so that the share is a lower bound. What was not noticed is printed as a difference. Figures: docs/reliability.md.
"""

import json
import math
import os
import random
import subprocess
import sys
import tempfile
from pathlib import Path

from launch.machine import ROOT, ensure_venv

ROOMS: dict[str, tuple[str, str, list[str]]] = {
    # room: what is changed, what is copied as sources, the tests that are to notice
    "review": ("husbandry/review/*", "husbandry", ["tests/core"]),
    "rota": ("husbandry/rota/*", "husbandry", ["tests/core"]),
    "remedies": ("husbandry/remedies/*", "husbandry", ["tests/core"]),
    "actions": ("ridgeback/*/actions*", "ridgeback", ["tests/web"]),
}
LEFT_OUT = {
    # About the tree itself, which is a copy full of faults here; or whole sweeps, minutes for each fault.
    "husbandry": ["test_house.py", "test_first_plans.py", "test_any_remedy.py", "test_two_years.py", "test_openings.py"],
    "ridgeback": ["test_start.py", "test_house.py", "test_ending.py", "test_migration.py", "test_backup.py", "test_commands.py"],
}
GENERATE = (
    "from mutmut import __main__ as m; m.copy_src_dir(); m.copy_also_copy_files(); m.setup_source_paths(); m.create_mutants(2)"
)
KILLED, UNREACHED = {1, 3, -24, 24, 36, 152, 255}, {5, 33}


def prepared(folder: Path, room: str) -> None:
    """Lay a copy of what is committed into the folder, with mutmut's settings for the room."""
    changed, sources, tests = ROOMS[room]
    archive = subprocess.run(["git", "archive", "HEAD"], cwd=ROOT, check=True, capture_output=True).stdout
    subprocess.run(["tar", "-x", "-C", str(folder)], input=archive, check=True)
    others = sorted(one.name for one in folder.iterdir() if one.name not in {sources, "setup.cfg"})
    chosen = [*tests, *(f"--ignore={tests[0]}/{name}" for name in LEFT_OUT[sources])]
    arguments = ["-m", "not sweep", "-p", "no:cacheprovider", "-p", "no:xdist"]
    arguments += ["-p", "no:django"] if sources == "husbandry" else ["--reuse-db"]
    settings = {
        "source_paths": [sources],
        "only_mutate": [changed],
        "also_copy": others,
        "pytest_add_cli_args": arguments,
        "pytest_add_cli_args_test_selection": chosen,
    }
    lines = ["[mutmut]", *(f"{name} =\n" + "\n".join(f"    {one}" for one in values) for name, values in settings.items())]
    (folder / "setup.cfg").write_text("\n".join([*lines, "timeout_multiplier = 4.0", "timeout_constant = 20.0", ""]))


def outcomes(folder: Path) -> dict[str, int | None]:
    """Every fault by its name, with what the tests ended with; None where they were not asked."""
    found: dict[str, int | None] = {}
    for kept in sorted((folder / "mutants").rglob("*.py.meta")):
        found |= json.loads(kept.read_text())["exit_code_by_key"]
    return found


def main(room: str, count: int, seed: int, folder: Path) -> None:
    python = ensure_venv(ROOT / ".venv-mutation", ROOT / "requirements" / "mutation.lock")
    environment = {**os.environ, "PATH": f"{python.parent}:{os.environ['PATH']}", "OPENBLAS_NUM_THREADS": "1"}
    prepared(folder, room)
    subprocess.run([str(python), "-c", GENERATE], cwd=folder, env=environment, check=True, stdout=subprocess.DEVNULL)
    names = sorted(outcomes(folder))
    drawn = sorted(random.Random(seed).sample(names, min(count, len(names))))
    with (folder / "run.log").open("w") as log:
        subprocess.run(
            [str(python), "-m", "mutmut", "run", "--max-children", "2", *drawn], cwd=folder, env=environment, stdout=log, stderr=log
        )
    ended = outcomes(folder)
    noticed = [name for name in drawn if ended[name] in KILLED]
    unnoticed = [name for name in drawn if ended[name] is not None and name not in set(noticed)]
    asked = len(noticed) + len(unnoticed)
    for name in unnoticed:
        show = [str(python), "-m", "mutmut", "show", name]
        shown = subprocess.run(show, cwd=folder, env=environment, capture_output=True, text=True).stdout.splitlines()
        what = "\n".join(line for line in shown if line[:1] in {"+", "-"} and line[:3] not in {"+++", "---"})
        print(f"{name}{' (no test comes there)' if ended[name] in UNREACHED else ''}\n{what}\n", flush=True)
    share = len(noticed) / max(asked, 1)
    width = 1.96 * math.sqrt(share * (1 - share) / max(asked, 1))
    print(f"{room}: {len(names)} faults can be made, {asked} of {len(drawn)} drawn (seed {seed}) were tried: ", end="")
    print(f"{share:.0%} noticed (±{width:.0%}), {sum(ended[name] in UNREACHED for name in drawn)} where no test comes.")


if __name__ == "__main__":
    asked = sys.argv[1:]
    main(
        asked[0],
        int(asked[1]) if len(asked) > 1 else 200,
        int(asked[2]) if len(asked) > 2 else 1,
        Path(asked[3]) if len(asked) > 3 else Path(tempfile.mkdtemp(prefix="ridgeback-mutation-")),
    )
