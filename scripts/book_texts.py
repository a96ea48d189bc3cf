#!/usr/bin/env python3
"""Write down every text of the book, the food table and the rules' notes, for the translators: `python scripts/book_texts.py`.

A test holds that what is written is what there is.
"""

import ast
import sys
import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
TARGET = ROOT / "ridgeback" / "language" / "book_texts.py"
# Fields of a profile that hold words. What is cited stays as it is.
SAID = {"value", "note", "must_not", "may", "food", "portion", "males_note", "common", "prey_limit", "name"}
HEAD = '''"""Every text of the book, the food table and the rules' notes. Written by scripts/book_texts.py: not by hand."""

from django.utils.translation import gettext_noop as _

TEXTS = (
'''


def texts() -> list[str]:
    """All of them, each once, in their order."""
    found: dict[str, None] = {}
    for path in sorted((ROOT / "husbandry" / "species" / "data").glob("*.toml")):
        found |= dict.fromkeys(_words(tomllib.loads(path.read_text(encoding="utf-8")), ""))
    from husbandry.diet.foods import foods

    found |= dict.fromkeys(food.name for food in foods().values())
    for path in sorted((ROOT / "husbandry" / "assess").glob("*.py")):
        found |= dict.fromkeys(_notes(ast.parse(path.read_text(encoding="utf-8"))))
    return [text for text in found if any(letter.isalpha() for letter in text)]


def _words(told: Any, name: str) -> Iterator[str]:
    if isinstance(told, dict):
        for key, value in told.items():
            yield from _words(value, key)
    elif isinstance(told, list):
        for value in told:
            yield from _words(value, name)
    elif isinstance(told, str) and name in SAID:
        yield told


def _notes(tree: ast.AST) -> Iterator[str]:
    """The notes and the citations without a year of each `Basis(…)`, and strings called `note`."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "Basis":
            for given in [*node.args[1:], *(word.value for word in node.keywords)]:
                if isinstance(given, ast.Constant) and isinstance(given.value, str) and "recalled" not in given.value:
                    yield given.value
        elif isinstance(node, ast.Assign) and isinstance(node.value, ast.Constant) and ast.unparse(node.targets[0]) == "note":
            yield str(node.value.value)


def module() -> str:
    """The module as it has to stand."""
    lines = []
    for text in texts():
        quoted = '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'
        lines.append(f"    _({quoted}),\n")
    return HEAD + "".join(lines) + ")\n"


if __name__ == "__main__":
    TARGET.write_text(module(), encoding="utf-8")
