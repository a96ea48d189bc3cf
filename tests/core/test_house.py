"""The house in order: the import contracts hold, and would not hold with an import that looks up."""

import ast
import builtins
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
LONGEST_LINE = 160
# Each puts an import of a higher room into a lower one, or makes a circle within one.
PLANTED = {
    "husbandry/review/judged.py": "from husbandry.assess import result  # noqa: F401",
    "husbandry/plan/geometry.py": "from husbandry.inputs import climate_case  # noqa: F401",
    "husbandry/feeding/servings.py": "from husbandry.inputs import ultraviolet  # noqa: F401",
    "husbandry/species/leaves.py": "from husbandry.species import profile  # noqa: F401",
    "ridgeback/daybook/log.py": "from ridgeback.planner import mapping  # noqa: F401",
    "ridgeback/language/names.py": "from ridgeback.web import typed  # noqa: F401",
}


def contracts_hold(house: Path) -> bool:
    linter = Path(sys.executable).parent / "lint-imports"
    run = subprocess.run([linter, "--no-cache"], cwd=house, capture_output=True, text=True, check=False)
    assert "Contracts:" in run.stdout, run.stdout + run.stderr
    return run.returncode == 0


@pytest.fixture
def house(tmp_path: Path) -> Path:
    """A copy of the code that may be spoilt."""
    for name in ("husbandry", "ridgeback", "launch"):
        shutil.copytree(ROOT / name, tmp_path / name, ignore=shutil.ignore_patterns("static", "templates", "data", "__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", tmp_path)
    return tmp_path


def test_the_house_is_in_order(house: Path) -> None:
    assert contracts_hold(house)


@pytest.mark.sweep
@pytest.mark.parametrize("place", PLANTED)
def test_an_import_that_looks_up_is_found(house: Path, place: str) -> None:
    path = house / place
    path.write_text(f"{path.read_text()}\n\n{PLANTED[place]}\n")
    assert not contracts_hold(house)


def test_no_line_of_a_template_is_too_long_to_be_read() -> None:
    long = [
        f"{path.name}:{number}: {len(line)}"
        for path in sorted((ROOT / "ridgeback" / "templates").rglob("*.html"))
        for number, line in enumerate(path.read_text().splitlines(), start=1)
        if len(line) > LONGEST_LINE
    ]
    assert not long


def test_every_exception_of_our_own_hangs_on_one_root() -> None:
    """The launcher's own aside: it runs before anything is installed."""
    bases: dict[str, set[str]] = {}
    for folder in ("husbandry", "ridgeback"):
        for path in (ROOT / folder).rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.ClassDef):
                    bases[node.name] = {base.id for base in node.bases if isinstance(base, ast.Name)}

    def above(name: str) -> set[str]:
        return {name}.union(*(above(base) for base in bases.get(name, set())))

    built_in = {name for name, kind in vars(builtins).items() if isinstance(kind, type) and issubclass(kind, Exception)}
    own = [name for name in bases if name != "HusbandryError" and above(name) & built_in]
    assert len(own) > 15
    assert [name for name in own if "HusbandryError" not in above(name)] == []
