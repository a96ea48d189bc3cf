"""What is known against the parts that Ridgeback is made of, without a network: the lock compared with a folder of advisories.

python scripts/audit.py ADVISORIES [--lock requirements/run.lock …]     (with the development environment)
python scripts/audit.py --list > parts.json                              (CycloneDX 1.5: every part with version and hashes)

ADVISORIES is a folder or a ZIP of advisories in the OSV schema, one JSON file each, as the database of Python's packages and others
publish them; carry it over from a machine with a network. It ends with 1 where something is known, 2 where nothing was read.
"""

import argparse
import json
import re
import sys
import zipfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Final

from packaging.utils import canonicalize_name
from packaging.version import InvalidVersion, Version

ROOT: Final = Path(__file__).resolve().parents[1]
PINNED: Final = re.compile(r"^([A-Za-z0-9._-]+)(?:\[[^]]*\])?==([^ \\;]+)")
HASH: Final = re.compile(r"--hash=sha256:([0-9a-f]{64})")


@dataclass(frozen=True)
class Part:
    """One package as it is locked."""

    name: str
    version: str
    hashes: tuple[str, ...] = ()
    kind: str = "pypi"


def locked(path: Path) -> list[Part]:
    """The parts of a lock file with hashes."""
    found: list[Part] = []
    for line in path.read_text().splitlines():
        told = PINNED.match(line)
        if told:
            found.append(Part(canonicalize_name(told[1]), told[2]))
        elif found and (digest := HASH.search(line)):
            found[-1] = Part(found[-1].name, found[-1].version, (*found[-1].hashes, digest[1]))
    return found


def advisories(source: Path) -> Iterator[dict[str, Any]]:
    """Every advisory of a folder or a ZIP that can be read. Raises OSError, BadZipFile."""
    if source.is_dir():
        texts: Iterable[bytes] = (path.read_bytes() for path in sorted(source.rglob("*.json")))
    else:
        archive = zipfile.ZipFile(source)
        texts = (archive.read(name) for name in archive.namelist() if name.endswith(".json"))
    for text in texts:
        told = json.loads(text)
        if isinstance(told, dict) and "affected" in told and not told.get("withdrawn"):
            yield told


def affects(advisory: dict[str, Any], part: Part) -> bool:
    """Tell whether an advisory is about this version of a part (versions that are listed, or a range of events)."""
    for affected in advisory["affected"]:
        package = affected.get("package", {})
        if package.get("ecosystem", "").lower() != part.kind or canonicalize_name(package.get("name", "")) != part.name:
            continue
        if part.version in affected.get("versions", ()):
            return True
        if any(_within(one.get("events", ()), part.version) for one in affected.get("ranges", ()) if one.get("type") != "GIT"):
            return True
    return False


def _within(events: Iterable[dict[str, str]], version: str) -> bool:
    """Whether a version lies in a range: each event begins or ends it."""
    try:
        mine, inside = Version(version), False
        for kind, text in sorted(((k, v) for one in events for k, v in one.items()), key=lambda one: Version(one[1])):
            if kind == "introduced" and (text == "0" or mine >= Version(text)):
                inside = True
            elif (kind == "fixed" and mine >= Version(text)) or (kind == "last_affected" and mine > Version(text)):
                inside = False
    except InvalidVersion:
        return True  # what cannot be compared is looked at by a person
    return inside


def listed(parts: Iterable[Part]) -> dict[str, Any]:
    """The parts as a CycloneDX document."""
    components = [
        {
            "type": "library", "name": one.name, "version": one.version, "purl": f"pkg:{one.kind}/{one.name}@{one.version}",
            "hashes": [{"alg": "SHA-256", "content": digest} for digest in one.hashes],
        }
        for one in parts
    ]  # fmt: skip
    return {"bomFormat": "CycloneDX", "specVersion": "1.5", "version": 1, "components": components}


def main(words: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="scripts/audit.py")
    parser.add_argument("advisories", nargs="?", type=Path)
    parser.add_argument("--lock", nargs="+", type=Path, default=[ROOT / "requirements" / "run.lock"])
    parser.add_argument("--list", action="store_true", help="print the list of parts")
    given = parser.parse_args(words)
    parts = [part for path in given.lock for part in locked(path)]
    if given.list:
        print(json.dumps(listed(parts), indent=1))
        return 0
    if given.advisories is None:
        parser.error("name a folder or a ZIP of advisories, or --list")
    by_name = {part.name: part for part in parts}
    read, known = 0, 0
    try:
        for advisory in advisories(given.advisories):
            read += 1
            for affected in advisory["affected"]:
                part = by_name.get(canonicalize_name(affected.get("package", {}).get("name", "")))
                if part is not None and affects(advisory, part):
                    known += 1
                    said = advisory.get("summary") or (advisory.get("details") or "").split("\n")[0][:120]
                    print(f"{part.name} {part.version}: {advisory.get('id', 'without a name')}: {said}")
                    break
    except (OSError, zipfile.BadZipFile, ValueError) as error:
        print(f"The advisories cannot be read: {error}", file=sys.stderr)
        return 2
    print(f"{len(parts)} parts compared with {read} advisories: {known or 'nothing'} known.")
    return 2 if not read else 1 if known else 0


if __name__ == "__main__":
    sys.exit(main())
