"""Reading a profile from TOML or JSON: every fault names its line and its field, and nothing is half-read."""

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Final

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from husbandry import documents
from husbandry.codes import FaultCode
from husbandry.documents import DocumentError
from husbandry.errors import HusbandryError
from husbandry.species.checks import check
from husbandry.species.profile import FORMAT, Profile

LARGEST_BYTES: Final = 120_000
MOST_TOLD: Final = 60  # of the faults of one text
# Faults a keeper may stand by with a reason; every other one stops a profile.
ARGUABLE: Final = {
    FaultCode.BEYOND_ZONE,
    FaultCode.SPACE_SHRINKS,
    FaultCode.FED_MORE_OFTEN,
    FaultCode.NIGHT_DRIER,
    FaultCode.HIDE_DRIER,
}
Path = tuple[str | int, ...]


@dataclass(frozen=True)
class ProfileProblem:
    """One fault: its line (0 where there is none), the field as a path with dots, a code and what goes into the sentence."""

    line: int
    path: str
    code: str
    parameters: Mapping[str, str | float] = field(default_factory=dict)


class ProfileProblems(HusbandryError, ValueError):
    """The text is no profile; `problems` holds every fault found."""

    def __init__(self, problems: list[ProfileProblem]) -> None:
        super().__init__("; ".join(f"line {item.line}, {item.path}: {item.code}" for item in problems))
        self.problems = tuple(problems)


def read_text(text: str) -> Profile:
    """Read a profile from TOML, or from JSON where the text begins with a brace. Raises ProfileProblems."""
    is_json = text.lstrip().startswith("{")
    try:
        data = documents.read(text, "json" if is_json else "toml", LARGEST_BYTES)
    except DocumentError as error:
        raise ProfileProblems([ProfileProblem(error.line, "", error.code, error.parameters)]) from None
    return read_data(data, lines_of_json(text) if is_json else lines_of_toml(text))


def read_data(data: Any, lines: Mapping[Path, int] | None = None) -> Profile:
    """Read a profile from parsed data; `lines` says where its fields stood. Raises ProfileProblems."""
    where = lines or {}
    try:
        documents.check(data)
    except DocumentError as error:
        raise ProfileProblems([ProfileProblem(error.line, "", error.code, error.parameters)]) from None
    if not isinstance(data, dict):
        raise ProfileProblems([ProfileProblem(1, "", "not_a_table")])
    if data.get("format", FORMAT) != FORMAT:
        said = {"found": str(data["format"])[:40], "known": FORMAT}
        raise ProfileProblems([ProfileProblem(line_at(where, ("format",)), "format", "other_format", said)])
    try:
        profile = Profile.model_validate(data)
    except ValidationError as error:
        raise ProfileProblems([_problem(item, where) for item in error.errors(include_url=False)[:MOST_TOLD]]) from None
    wrong = [fault for fault in check(profile) if fault.code not in ARGUABLE]
    if wrong:
        found = [ProfileProblem(line_at(where, _path(fault.path)), fault.path, fault.code, fault.parameters) for fault in wrong]
        raise ProfileProblems(found)
    return profile


def _problem(error: ErrorDetails, lines: Mapping[Path, int]) -> ProfileProblem:
    kind = error["type"]
    codes = {"missing": "missing", "extra_forbidden": "unknown_field", "literal_error": "unknown_choice"}
    said = {"found": str(error["input"])[:40], "known": str(error.get("ctx", {}).get("expected", "")), "why": error["msg"]}
    said["why"] = said["why"].removeprefix("Value error, ")
    path = tuple(error["loc"])
    usual = "not_valid_part" if isinstance(error["input"], dict | list) else "not_valid"
    return ProfileProblem(line_at(lines, path), ".".join(map(str, path)), codes.get(kind, usual), said)


def _path(dotted: str) -> Path:
    return tuple(int(step) if step.isdigit() else step for step in dotted.split("."))


def line_at(lines: Mapping[Path, int], path: Path) -> int:
    """Return the line of a field, else that of the nearest part that holds it; 0 where nothing is known."""
    for length in range(len(path), 0, -1):
        if path[:length] in lines:
            return lines[path[:length]]
    return 0


def lines_of_toml(text: str) -> dict[Path, int]:
    """Return the line of every table and key of a TOML text, list entries on lines of their own included."""
    found: dict[Path, int] = {}
    table: Path = ()
    counts: dict[Path, int] = {}
    listed: Path | None = None
    place = 0
    for number, line in enumerate(text.splitlines(), start=1):
        bare = line.strip()
        header = re.fullmatch(r"(\[\[?)\s*([\w.\-]+)\s*\]\]?(?:\s*#.*)?", bare)
        if header and listed is None:
            table = _inside(tuple(header[2].split(".")), counts)
            if header[1] == "[[":
                counts[table] = counts.get(table, -1) + 1
                table = (*table, counts[table])
            found[table] = number
        elif listed is not None:
            if bare.startswith("]"):
                listed = None
            elif bare and not bare.startswith("#"):
                found[*listed, place] = number
                place += 1
        elif key := re.match(r"([\w\-]+)\s*=\s*(.*)", bare):
            found[*table, key[1]] = number
            if key[2].rstrip() == "[":
                listed, place = (*table, key[1]), 0
    return found


def _inside(names: Path, counts: Mapping[Path, int]) -> Path:
    """A header's names, with the place of the last entry where one of them is a list of tables."""
    path: Path = ()
    for name in names:
        if path in counts:
            path = (*path, counts[path])
        path = (*path, name)
    return path


def lines_of_json(text: str) -> dict[Path, int]:
    """Return the line of every key and list entry of a JSON text."""
    found: dict[Path, int] = {}
    stack: list[str | int | None] = []
    key: str | None = None
    line, counted = 1, 0
    for token in re.finditer(r'"(?:[^"\\]|\\.)*"|[{}\[\]:,]|[^\s{}\[\]:,"]+', text):
        mark = token[0]
        if mark in "}]":
            stack.pop()
            continue
        if mark == ":":
            continue
        if mark == ",":
            if isinstance(stack[-1], int):
                stack[-1] += 1
            else:
                stack[-1], key = None, None
            continue
        if stack and stack[-1] is None and key is None and mark.startswith('"'):
            key = json.loads(mark)
            stack[-1] = key
        path = tuple(step for step in stack if step is not None)
        line, counted = line + text.count("\n", counted, token.start()), token.start()
        found.setdefault(path, line)
        if mark in "{[":
            stack.append(None if mark == "{" else 0)
            key = None
    return found
