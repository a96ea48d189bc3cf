"""Bring a language's django.po up to date in the order that it is in, and print what is not translated.

python scripts/texts.py de [TRANSLATIONS.json]       (with the development environment; needs Debian's gettext)

The texts are found by makemessages; what is new stands after what is there of the same file, what is gone goes, nothing is guessed
from texts that are alike. TRANSLATIONS.json has translations by text ("one|||many" for a text with a plural, its value a list).
"""

import json
import re
import subprocess
import sys
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

ROOT: Final = Path(__file__).resolve().parents[1]
PART: Final = re.compile(r'(msgctxt|msgid_plural|msgid|msgstr(?:\[\d\])?) (".*")$')
ELSEWHERE: Final = ("vendor/*", ".venv*", "tests/*", "benchmarks/*", "scripts/*", "var/*")


@dataclass
class Entry:
    """One text with where it is used and how it is said."""

    files: str
    flags: str
    parts: dict[str, str] = field(default_factory=dict)

    @property
    def key(self) -> tuple[str, str]:
        return self.parts.get("msgctxt", ""), self.parts["msgid"]

    @property
    def name(self) -> str:
        many = self.parts.get("msgid_plural")
        return self.parts["msgid"] + (f"|||{many}" if many else "")

    def said(self) -> bool:
        return all(text for name, text in self.parts.items() if name.startswith("msgstr"))

    def written(self) -> str:
        lines = [f"#: {self.files}"] if self.files else []
        lines += [f"#, {self.flags}"] if self.flags else []
        return "\n".join([*lines, *(f"{name} {json.dumps(text, ensure_ascii=False)}" for name, text in self.parts.items())])


def read(text: str) -> tuple[str, list[Entry]]:
    """The head of a .po file and its entries. A guess of gettext's counts as not translated."""
    head, *blocks = text.strip().split("\n\n")
    entries = []
    for block in blocks:
        lines = block.split("\n")
        files = " ".join(line[3:] for line in lines if line.startswith("#: "))
        flags = ", ".join(line[3:] for line in lines if line.startswith("#, ")).split(", ")
        entry, current = Entry(files, ", ".join(flag for flag in flags if flag and flag != "fuzzy")), ""
        for line in lines:
            told = PART.match(line)
            if told:
                current = told[1]
                entry.parts[current] = json.loads(told[2])
            elif line.startswith('"'):
                entry.parts[current] += json.loads(line)
        if "fuzzy" in flags:
            entry.parts |= {name: "" for name in entry.parts if name.startswith("msgstr")}
        if "msgid" in entry.parts:
            entries.append(entry)
    return head, entries


def main() -> int:
    language, given = sys.argv[1], json.loads(Path(sys.argv[2]).read_text()) if len(sys.argv) > 2 else {}
    path = ROOT / "ridgeback" / "locale" / language / "LC_MESSAGES" / "django.po"
    before = path.read_text()
    head, entries = read(before)
    find = [sys.executable, "-W", "ignore", "manage.py", "makemessages", "-l", language, "--no-wrap", "--add-location=file"]
    find += ["--no-obsolete", *(part for folder in ELSEWHERE for part in ("-i", folder))]
    try:
        subprocess.run(find, cwd=ROOT, check=True, capture_output=True)
        found = {entry.key: entry for entry in read(path.read_text())[1]}
    finally:
        path.write_text(before)
    kept = [_moved(entry, found.pop(entry.key)) for entry in entries if entry.key in found]
    for entry in found.values():
        entry.parts |= {name: "" for name in entry.parts if name.startswith("msgstr")}
        first = entry.files.split(" ")[0]
        places = [number for number, other in enumerate(kept) if other.files.split(" ")[0] <= first]
        kept.insert(max(places, default=-1) + 1, entry)
    for entry in kept:
        if not entry.said() and entry.name in given:
            says = given[entry.name]
            entry.parts |= dict(zip((name for name in entry.parts if name.startswith("msgstr")),
                                    says if isinstance(says, list) else [says], strict=True))  # fmt: skip
    path.write_text("\n\n".join([head, *(entry.written() for entry in kept)]) + "\n")
    missing = [entry for entry in kept if not entry.said()]
    for entry in missing:
        print(json.dumps(entry.name, ensure_ascii=False))
    print(f"{len(kept)} texts, {len(missing)} not translated")
    return 0


def _moved(entry: Entry, now: Entry) -> Entry:
    """An entry with where it is used by now; what was said of its form stays (a percent sign is not always one of a format)."""
    says = {name: text for name, text in entry.parts.items() if name.startswith("msgstr")}
    asked = {name: text for name, text in now.parts.items() if not name.startswith("msgstr")}
    return Entry(now.files, entry.flags, asked | says)


if __name__ == "__main__":
    sys.exit(main())
