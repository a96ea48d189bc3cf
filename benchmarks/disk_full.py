"""Fills the disk under writers, frees it again, and counts what was acknowledged and is not there.

PYTHONPATH=.:benchmarks .venv-test/bin/python benchmarks/disk_full.py [TIMES]     (as root: the data lies on a small disk in memory)
"""

import contextlib
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Final

from kills import Program, Writer, post, signed_in, there

DISK_MB: Final = 900
FULL_S: Final = 12.0
PATIENCE_S: Final = 120.0


def fill(disk: Path) -> Path:
    """A file that leaves nothing free."""
    path = disk / "full"
    with path.open("wb", buffering=0) as file:
        for block in (b"\0" * (1 << 20), b"\0" * 512):
            with contextlib.suppress(OSError):
                while True:
                    file.write(block)
    return path


def main() -> None:
    """Fill, wait, free, count."""
    times = int((sys.argv[1:] or ["3"])[0])
    disk = Path(tempfile.mkdtemp(prefix="ridgeback-small-"))
    subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={DISK_MB}m,mode=755", "tmpfs", str(disk)], check=True)
    program = None
    try:
        (disk / "data").mkdir(mode=0o755)
        program = Program(disk / "data")
        program.start()
        program.wait()
        opener = signed_in(program)
        page = opener.open(f"{program.address}/rooms/1/tokens/").read().decode()
        made = post(opener, f"{program.address}/rooms/1/tokens/", page, name="writer", scopes=["read", "write"])
        token = made.split('class="address" readonly value="')[1].split('"')[0]
        writers = [Writer(program, token, habitat) for habitat in (1, 2)]
        for each in writers:
            each.start()
        for turn in range(times):
            time.sleep(4.0)
            path = fill(disk)
            before = sum(len(each.acknowledged) for each in writers)
            time.sleep(FULL_S)
            while_full = sum(len(each.acknowledged) for each in writers) - before
            well = program.well()
            path.unlink()
            freed, before = time.monotonic(), sum(len(each.acknowledged) for each in writers)
            while sum(len(each.acknowledged) for each in writers) == before:
                if time.monotonic() - freed > PATIENCE_S:
                    raise SystemExit(f"Nothing was acknowledged any more; see {program.log}")
                time.sleep(0.05)
            answered = "answered" if well else "did not answer"
            back = time.monotonic() - freed
            print(f"{turn + 1}: full for {FULL_S:.0f} s: {while_full} notes acknowledged meanwhile, it {answered}", flush=True)
            print(f"   back {back:.1f} s after there was room", flush=True)
        for each in writers:
            each.ends = True
        for each in writers:
            each.join(timeout=30)
        program.wait()
        notes = [text for each in writers for text in each.acknowledged]
        kept = there(program, "select payload->>'note' from daybook_event where kind = 'note'")
        lost, twice = set(notes) - set(kept), len([text for text in notes if kept.count(text) > 1])
        print(f"{len(notes)} notes acknowledged: {len(lost)} lost, {twice} there twice")
        if lost or twice:
            raise SystemExit(1)
    finally:
        if program is not None and program.process is not None:
            program.process.send_signal(signal.SIGTERM)
            program.process.wait(timeout=60)
            shutil.copy(program.log, tempfile.gettempdir())
        subprocess.run(["umount", str(disk)])
        disk.rmdir()


if __name__ == "__main__":
    main()
