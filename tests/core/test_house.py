"""The house in order: the import contracts hold, and would not hold with an import that looks up."""

import ast
import builtins
import re
import shutil
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
LONGEST_LINE = 160
LONGEST_FUNCTION = 50
ENDS = ast.Return | ast.Raise | ast.Break | ast.Continue
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


def texts(*kinds: str) -> Iterator[tuple[Path, str]]:
    for folder in PRODUCT:
        for path in sorted((ROOT / folder).rglob("*")):
            if path.suffix in kinds and not {"vendor", "migrations", "__pycache__"} & set(path.parts):
                yield path, path.read_text()


@dataclass
class Module:
    """What one walk over a module's tree tells: names it defines, its long functions, dead lines, imports and classes' bases."""

    marked: list[str] = field(default_factory=list)
    top: list[str] = field(default_factory=list)
    classes: list[str] = field(default_factory=list)
    long: list[str] = field(default_factory=list)
    dead: list[int] = field(default_factory=list)
    imports: list[tuple[str, list[str]]] = field(default_factory=list)
    bases: dict[str, set[str]] = field(default_factory=dict)

    def take(self, node: ast.AST) -> None:
        """Note what a node of the tree tells."""
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            marked = [each.id for each in node.decorator_list if isinstance(each, ast.Name)]
            if marked and set(marked) <= {"property", "cached_property", "compiled"}:
                self.marked.append(node.name)
            told = node.body[0] if ast.get_docstring(node) is not None else None
            docstring = 0 if told is None else (told.end_lineno or 0) - told.lineno + 1
            if (node.end_lineno or 0) - node.lineno + 1 - docstring > LONGEST_FUNCTION:
                self.long.append(node.name)
        elif isinstance(node, ast.ClassDef):
            self.bases[node.name] = {base.id for base in node.bases if isinstance(base, ast.Name)}
        elif isinstance(node, ast.ImportFrom):
            self.imports.append((node.module or "", [each.name for each in node.names]))
        for block in (getattr(node, name, None) for name in ("body", "orelse", "finalbody")):
            if isinstance(block, list) and any(isinstance(each, ENDS) for each in block[:-1]):
                self.dead.append(block[0].lineno)


@cache
def module_of(text: str) -> Module:
    """Walk over a module's tree; each text once, however many tests ask about it."""
    tree, found = ast.parse(text), Module()
    for node in tree.body:
        if isinstance(node, ast.ClassDef):
            found.classes.append(node.name)
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and not getattr(node, "decorator_list", []):
            found.top.append(node.name)
        elif isinstance(node, ast.Assign | ast.AnnAssign):
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            found.top += [each.id for target in targets for each in ast.walk(target) if isinstance(each, ast.Name)]
    left: list[ast.AST] = [tree]
    while left:
        found.take(left[-1])
        # Nothing that is asked about stands inside an expression.
        left += [each for each in ast.iter_child_nodes(left.pop()) if not isinstance(each, ast.expr)]
    return found


def modules(root: Path, *folders: str) -> Iterator[tuple[Path, Module]]:
    """The modules of some folders, by their paths below `root`."""
    for path in (each for name in folders for each in (root / name).rglob("*.py")):
        yield path.relative_to(root), module_of(path.read_text())


def test_every_exception_of_our_own_hangs_on_one_root() -> None:
    """The launcher's own aside: it runs before anything is installed."""
    bases = {name: of for _path, module in modules(ROOT, "husbandry", "ridgeback") for name, of in module.bases.items()}

    def above(name: str) -> set[str]:
        return {name}.union(*(above(base) for base in bases.get(name, set())))

    built_in = {name for name, kind in vars(builtins).items() if isinstance(kind, type) and issubclass(kind, Exception)}
    own = [name for name in bases if name != "HusbandryError" and above(name) & built_in]
    assert len(own) > 15
    assert [name for name in own if "HusbandryError" not in above(name)] == []


# Two tables, each called by its app everywhere.
TABLES_ALIKE = {"Delivery"}


@pytest.mark.parametrize("house", ["husbandry", "ridgeback"])
def test_no_two_classes_of_one_side_have_one_name(house: str) -> None:
    by_django = {"migrations", "commands"}  # whose classes have the names that Django looks for
    own = (module for path, module in modules(ROOT, house) if not by_django & set(path.parts))
    named = Counter(name for module in own for name in module.classes if not name.startswith("_"))
    assert len(named) > 300
    assert {name for name, times in named.items() if times > 1} - TABLES_ALIKE == set()


def defined(path: Path, text: str) -> list[str]:
    """What a module gives a name at its top, and properties; not what a decorator hands to somebody else."""
    if path.name in BY_NAME or "commands" in path.parts:
        return []
    module = module_of(text)
    return module.marked + module.top


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


def long_functions(root: Path) -> list[str]:
    """The functions of the product above `LONGEST_FUNCTION` lines, docstrings not counted."""
    own = ((path, module) for path, module in modules(root, *PRODUCT) if "migrations" not in path.parts)
    return [f"{path}:{name}" for path, module in own for name in module.long]


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
    for path, module in modules(root, "ridgeback"):
        for taken, names in module.imports:
            if taken.startswith("ridgeback.") and not path.name.endswith("urls.py") and "migrations" not in path.parts:
                app = taken.split(".")[1]
                named = [f"{taken}.{name}" for name in names if (apps / app / f"{name}.py").exists()]
                if app != path.parts[1] and any(map(is_of_pages, [taken, *named])):
                    yield f"{path}: {taken}"


def test_no_page_takes_from_another_apps_pages(house: Path) -> None:
    assert list(pages_of_others(house)) == []
    summary = house / "ridgeback" / "sharing" / "summary.py"
    summary.write_text(summary.read_text() + "\n\nfrom ridgeback.keeping import animal_pages\n")
    assert list(pages_of_others(house)) == ["ridgeback/sharing/summary.py: ridgeback.keeping"]


def never_reached(root: Path) -> list[str]:
    """Statements that stand behind a return, a raise, a break or a continue of their own block."""
    return [f"{path}:{line}" for path, module in modules(root, *PRODUCT) for line in module.dead]


def test_no_statement_stands_where_nothing_comes_to(house: Path) -> None:
    assert list(never_reached(house)) == []
    summary = house / "ridgeback" / "sharing" / "summary.py"
    summary.write_text("def spoilt() -> list[int]:\n    return [1]\n    +[2]\n")
    assert list(never_reached(house)) == ["ridgeback/sharing/summary.py:2"]
