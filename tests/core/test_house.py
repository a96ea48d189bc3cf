"""The house in order: the import contracts hold, and would not hold with an import that looks up."""

import ast
import builtins
import re
import shutil
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
LONGEST_LINE = 160
LONGEST_FUNCTION = 50
PRODUCT = ("husbandry", "ridgeback", "launch")
# Taken up by their names, or by a test that compares with them; classes of style that a script, a library or a word puts together.
BY_NAME = {"apps.py", "settings.py", "urls.py", "wsgi.py"}
COMPARED = {"LEFT_OUT"}
PUT_TOGETHER = re.compile("autocomplete__|from-|htmx-|no-|not-applicable")
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


def texts(*kinds: str) -> Iterator[tuple[Path, str]]:
    for folder in PRODUCT:
        for path in sorted((ROOT / folder).rglob("*")):
            if path.suffix in kinds and not {"vendor", "migrations", "__pycache__"} & set(path.parts):
                yield path, path.read_text()


def defined(path: Path, text: str) -> Iterator[str]:
    """What a module gives a name at its top, and properties; not what a decorator hands to somebody else."""
    if path.name in BY_NAME or "commands" in path.parts:
        return
    for node in ast.walk(ast.parse(text)):
        marked = [each.id for each in getattr(node, "decorator_list", []) if isinstance(each, ast.Name)]
        if isinstance(node, ast.FunctionDef) and marked and set(marked) <= {"property", "cached_property", "compiled"}:
            yield node.name
    for node in ast.parse(text).body:
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and not getattr(node, "decorator_list", []):
            yield node.name
        elif isinstance(node, ast.Assign | ast.AnnAssign):
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            yield from (each.id for target in targets for each in ast.walk(target) if isinstance(each, ast.Name))


def test_nothing_that_is_not_used_stays() -> None:
    """A name that the product says nowhere but where it is made, a class of style that nothing wears, a template nobody names."""
    every = [text for _path, text in texts(".py", ".html", ".js", ".txt", ".toml", ".svg")]
    said = Counter(word for text in every for word in re.findall(r"\w+", text))
    made = Counter(name for path, text in texts(".py") for name in set(defined(path, text)) if not name.startswith("__"))
    assert len(made) > 3000
    assert [name for name, times in made.items() if said[name] <= times and name not in COMPARED] == []
    worn = {word for text in every for word in re.findall(r"[\w-]+", text)}
    styled = {
        name
        for path, text in texts(".css")
        for name in re.findall(r"\.([a-zA-Z][\w-]+)", re.sub(r"/\*.*?\*/|url\([^)]*\)", "", text, flags=re.DOTALL))
    }
    assert len(styled) > 300
    assert [name for name in sorted(styled - worn) if not PUT_TOGETHER.match(name)] == []
    templates = {path.relative_to(ROOT / "ridgeback" / "templates").as_posix() for path, _text in texts(".html")}
    whole = "\n".join(every)
    assert [name for name in sorted(templates) if name not in whole and f"{Path(name).parent}/{{" not in whole] == []


def long_functions(root: Path) -> Iterator[str]:
    """The functions of the product above `LONGEST_FUNCTION` lines, docstrings not counted."""
    for path in (each for name in PRODUCT for each in (root / name).rglob("*.py") if "migrations" not in each.parts):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                told = node.body[0] if ast.get_docstring(node) is not None else None
                docstring = 0 if told is None else (told.end_lineno or 0) - told.lineno + 1
                if (node.end_lineno or 0) - node.lineno + 1 - docstring > LONGEST_FUNCTION:
                    yield f"{path.relative_to(root)}:{node.name}"


def test_no_function_is_longer_than_a_screen(house: Path) -> None:
    """How many parameters one may have is ruff's to watch (pyproject.toml)."""
    assert list(long_functions(house)) == []
    grown = house / "husbandry" / "units.py"
    grown.write_text(grown.read_text() + "\n\ndef grown() -> None:\n" + "    pass\n" * LONGEST_FUNCTION)
    assert list(long_functions(house)) == ["husbandry/units.py:grown"]


def is_of_pages(module: str) -> bool:
    last = module.rpartition(".")[2]
    return last in ("pages", "views") or last.endswith("_pages")


def pages_of_others(root: Path) -> Iterator[str]:
    """Where a module takes something out of the pages of another app; addresses are what leads to pages."""
    apps = root / "ridgeback"
    for path in (each for each in apps.rglob("*.py") if not each.name.endswith("urls.py") and "migrations" not in each.parts):
        own = path.relative_to(apps).parts[0]
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("ridgeback."):
                app = str(node.module).split(".")[1]
                named = [f"{node.module}.{each.name}" for each in node.names if (apps / app / f"{each.name}.py").exists()]
                if app != own and any(map(is_of_pages, [str(node.module), *named])):
                    yield f"{path.relative_to(root)}: {node.module}"


def test_no_page_takes_from_another_apps_pages(house: Path) -> None:
    assert list(pages_of_others(house)) == []
    summary = house / "ridgeback" / "sharing" / "summary.py"
    summary.write_text(summary.read_text() + "\n\nfrom ridgeback.keeping import animal_pages\n")
    assert list(pages_of_others(house)) == ["ridgeback/sharing/summary.py: ridgeback.keeping"]


def never_reached(root: Path) -> Iterator[str]:
    """Statements that stand behind a return, a raise, a break or a continue of their own block."""
    ends = ast.Return | ast.Raise | ast.Break | ast.Continue
    for path in (each for name in PRODUCT for each in (root / name).rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            for block in (getattr(node, name, None) for name in ("body", "orelse", "finalbody")):
                if isinstance(block, list) and any(isinstance(each, ends) for each in block[:-1]):
                    yield f"{path.relative_to(root)}:{block[0].lineno}"


def test_no_statement_stands_where_nothing_comes_to(house: Path) -> None:
    assert list(never_reached(house)) == []
    summary = house / "ridgeback" / "sharing" / "summary.py"
    summary.write_text("def spoilt() -> list[int]:\n    return [1]\n    +[2]\n")
    assert list(never_reached(house)) == ["ridgeback/sharing/summary.py:2"]
