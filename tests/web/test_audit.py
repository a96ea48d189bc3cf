"""The parts compared with advisories, without a network. The advisories here are made up; the schema is OSV's."""

import json
import subprocess
import sys
import zipfile
from pathlib import Path
from typing import Any

import pytest

from scripts import audit

LOCK = """alpha==1.4.2 \\
    --hash=sha256:{a}
    # via -r run.in
beta[extra]==2.0rc1 \\
    --hash=sha256:{a} \\
    --hash=sha256:{b}
""".format(a="a" * 64, b="b" * 64)


def advisory(name: str, *events: dict[str, str], **more: Any) -> dict[str, Any]:
    ranges = [{"type": "ECOSYSTEM", "events": list(events)}] if events else []
    affected = {"package": {"ecosystem": "PyPI", "name": name}, "ranges": ranges, "versions": more.pop("versions", [])}
    return {"id": f"MADE-UP-{name}", "summary": "it breaks", "affected": [affected]} | more


@pytest.mark.parametrize(
    ("told", "known"),
    [
        (advisory("Alpha", {"introduced": "0"}, {"fixed": "1.4.2"}), False),
        (advisory("Alpha", {"introduced": "0"}, {"fixed": "1.4.3"}), True),
        (advisory("alpha", {"introduced": "1.5"}, {"fixed": "1.6"}), False),
        (advisory("alpha", {"introduced": "1.0"}, {"last_affected": "1.4.2"}), True),
        (advisory("alpha", {"introduced": "1.0"}, {"fixed": "1.2"}, {"introduced": "1.4"}, {"fixed": "1.4.9"}), True),
        (advisory("alpha", versions=["1.4.2"]), True),
        (advisory("alpha", versions=["1.4.1"]), False),
        (advisory("alpha", {"introduced": "0"}, withdrawn="2026-01-01T00:00:00Z"), False),
        (advisory("gamma", {"introduced": "0"}), False),
        (advisory("beta", {"introduced": "2.0b1"}, {"fixed": "2.0"}), True),  # a candidate comes before what it becomes
    ],
)
def test_a_version_lies_in_the_range_or_not(
    told: dict[str, Any], known: bool, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    lock, folder = tmp_path / "run.lock", tmp_path / "advisories"
    lock.write_text(LOCK)
    folder.mkdir()
    (folder / "one.json").write_text(json.dumps(told))
    (folder / "other.json").write_text(json.dumps(advisory("delta", {"introduced": "0"})))
    assert audit.main([str(folder), "--lock", str(lock)]) == int(known)
    assert ("MADE-UP" in capsys.readouterr().out) == known
    with zipfile.ZipFile(tmp_path / "all.zip", "w") as archive:
        archive.write(folder / "one.json", "one.json")
        archive.write(folder / "other.json", "other.json")
    assert audit.main([str(tmp_path / "all.zip"), "--lock", str(lock)]) == int(known)


def test_nothing_read_is_not_nothing_known(tmp_path: Path) -> None:
    (tmp_path / "broken.zip").write_bytes(b"PK nothing")
    assert audit.main([str(tmp_path / "broken.zip")]) == 2
    assert audit.main([str(tmp_path)]) == 2


def test_the_list_of_parts_has_each_with_its_hashes() -> None:
    done = subprocess.run(
        [sys.executable, "scripts/audit.py", "--list"], cwd=audit.ROOT, capture_output=True, text=True, check=True
    )
    parts = {one["name"]: one for one in json.loads(done.stdout)["components"]}
    assert {"django", "psycopg", "waitress", "numba"} <= set(parts)
    assert all(one["hashes"] for one in parts.values())
