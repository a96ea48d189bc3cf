"""What changed in the book between two commits, profile by profile: a table of fields, before and now, with the basis.

Usage: python scripts/book_audit.py BEFORE [NOW] > docs/book-audit-profiles.md
"""

import subprocess
import sys
import tomllib
from typing import Any, Final

FOLDER: Final = "husbandry/species/data"
SHOWN: Final = ("low", "high", "value", "count_low", "count_high", "mass_share_low_percent", "mass_share_high_percent")
SIZES: Final = ("length", "width", "height", "stretch", "area", "litres")
ORIGINS: Final = {"source": "source", "practice": "practice", "memory": "memory", "estimate": "estimate"}


def git(*words: str) -> str:
    return subprocess.run(["git", *words], check=True, capture_output=True, text=True).stdout


def profiles(commit: str) -> dict[str, dict[str, Any]]:
    names = git("ls-tree", "--name-only", commit, f"{FOLDER}/").split()
    return {
        name.rpartition("/")[2][:-5]: tomllib.loads(git("show", f"{commit}:{name}")) for name in names if name.endswith(".toml")
    }


def said(leaf: dict[str, Any]) -> str:
    """A value as it is read: a span, a size, a count; its school in brackets."""
    low, high = leaf.get("low", leaf.get("count_low", leaf.get("mass_share_low_percent"))), None
    high = leaf.get("high", leaf.get("count_high", leaf.get("mass_share_high_percent")))
    if any(name in leaf for name in SIZES):
        text = " × ".join(f"{leaf[name]:g}" for name in SIZES if name in leaf)
        text = f"{leaf['rule']} {leaf['level'][:3]} {text}" if "rule" in leaf else text
    elif "rule" in leaf:
        text = f"{leaf['rule']} {leaf['level'][:3]} {leaf.get('table', '').partition(':')[2]}"
    elif "value" in leaf:
        text = f"{leaf['value']:g}" if isinstance(leaf["value"], int | float) else str(leaf["value"])
    elif low is not None or high is not None:
        text = f"{'' if low is None else f'{low:g}'}–{'' if high is None else f'{high:g}'}"
    elif "product" in leaf:
        text = f"{leaf['product']} {leaf.get('every_days', leaf.get('every_feeds')):g} {'d' if 'every_days' in leaf else 'feeds'}"
    elif "kind" in leaf:
        text = str(leaf["kind"])
    else:
        text = str(leaf.get("portion", leaf.get("about_percent", "")))
    text = f"{leaf['food']}: {text}" if "food" in leaf else text
    return f"{text} [{leaf['school']}]" if leaf.get("school") else text


def fields(profile: dict[str, Any]) -> dict[str, tuple[str, set[str]]]:
    """By field what it says, stage after stage, and the bases."""
    found: dict[str, tuple[dict[int, list[str]], set[str]]] = {}

    def walk(part: Any, path: str, stage: int) -> None:
        if isinstance(part, dict):
            if "basis" in part or "table" in part:
                texts, bases = found.setdefault(path, ({}, set()))
                texts.setdefault(stage, []).append(said(part))
                bases.add("table" if part.get("table") else ORIGINS.get(part.get("basis", ""), ""))
                return
            for name, item in part.items():
                walk(item, f"{path}.{name}" if path else name, stage)
        elif isinstance(part, list):
            for item in part:
                walk(item, path, stage)

    walk({name: item for name, item in profile.items() if name != "stages"}, "", 0)
    for number, stage in enumerate(profile["stages"]):
        walk(stage, "", number)
    return {path: (" · ".join("; ".join(each) for each in texts.values()), bases) for path, (texts, bases) in found.items()}


def main(before: str, now: str = "HEAD") -> None:
    old, new = profiles(before), profiles(now)
    print("# The book, profile by profile\n")
    print(f"Made by scripts/book_audit.py between {before} and the day it was run: what changed, stage · stage.")
    print("Health, reproduction and water chemistry are new in all and left out. Where a school is meant, it stands in brackets.\n")
    for species in sorted(new):
        if species not in old:
            continue
        was, has = fields(old[species]), fields(new[species])
        rows = []
        for path in has:
            if path.split(".")[0] in ("health", "reproduction", "water_chemistry"):
                continue
            first, (second, bases) = was.get(path, ("", set()))[0], has[path]
            if first != second:
                rows.append(
                    f"| {path} | {first.replace('|', '/') or '–'} | {second.replace('|', '/')} | {', '.join(sorted(bases))} |"
                )
        print(f"## {species}\n\n| field | before | now | basis |\n|---|---|---|---|")
        print("\n".join(rows) + "\n")


if __name__ == "__main__":
    main(*sys.argv[1:3])
