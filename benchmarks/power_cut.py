"""Power cuts: the database on a disk that forgets what was not synced, cut under writers, started again, and counted.

PYTHONPATH=. .venv-test/bin/python benchmarks/power_cut.py [CUTS] [--unsafe]

It runs as root, and needs Debian's libfuse2 and `pip install mfusepy` in the development environment. The disk is a file system of
our own (FUSE): what is written stays in memory until it is synced, and a cut forgets it; names of files are kept at once, as by a
journal. Writers write rows into a cluster as `./start` sets it up, and remember what was acknowledged. `--unsafe` starts PostgreSQL
with fsync off: then something has to be lost, or the disk is no test.
"""

import argparse
import contextlib
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path
from typing import Any, Final

import psycopg

from launch.cluster import Cluster
from launch.machine import ROOT, Stop

WRITERS: Final = 4
OPTIONS: Final = {"foreground": True, "allow_other": True, "nothreads": False, "big_writes": True}


def serve(disk: str, mount: str) -> None:
    """Serve the forgetful disk until it is killed, which is the cut."""
    import mfusepy

    class Forgetful(mfusepy.Operations):  # type: ignore[misc]
        """Files below a folder; what is written is in memory until it is synced."""

        use_ns = True

        def __init__(self) -> None:
            self.guard = threading.RLock()
            self.dirty: dict[str, list[tuple[int, bytes]]] = {}

        def _real(self, path: str) -> str:
            return disk + path

        def _end(self, path: str) -> int:
            return max((at + len(data) for at, data in self.dirty.get(path, ())), default=0)

        def getattr(self, path: str, fh: Any = None) -> dict[str, Any]:
            try:
                told = os.lstat(self._real(path))
            except OSError as error:
                raise mfusepy.FuseOSError(error.errno) from None
            names = ("st_mode", "st_uid", "st_gid", "st_nlink", "st_size", "st_ino")
            found = {name: getattr(told, name) for name in names}
            found |= {"st_atime": told.st_atime_ns, "st_mtime": told.st_mtime_ns, "st_ctime": told.st_ctime_ns}
            with self.guard:
                found["st_size"] = max(found["st_size"], self._end(path))
            return found

        def readdir(self, path: str, fh: Any) -> list[str]:
            return [".", "..", *os.listdir(self._real(path))]

        def _mine(self, path: str) -> None:
            uid, gid, _pid = mfusepy.fuse_get_context()
            os.chown(self._real(path), uid, gid, follow_symlinks=False)

        def create(self, path: str, mode: int, fi: Any = None) -> int:
            handle = os.open(self._real(path), os.O_RDWR | os.O_CREAT | os.O_TRUNC, mode)
            self._mine(path)
            with self.guard:
                self.dirty.pop(path, None)
            return handle

        def open(self, path: str, flags: int) -> int:
            try:
                return os.open(self._real(path), os.O_RDWR if flags & (os.O_WRONLY | os.O_RDWR) else os.O_RDONLY)
            except OSError as error:
                raise mfusepy.FuseOSError(error.errno) from None

        def read(self, path: str, size: int, offset: int, fh: int) -> bytes:
            with self.guard:
                end = max(os.fstat(fh).st_size, self._end(path))
                length = max(min(size, end - offset), 0)
                found = bytearray(os.pread(fh, length, offset).ljust(length, b"\0"))
                for at, data in self.dirty.get(path, ()):
                    first, last = max(at, offset), min(at + len(data), offset + length)
                    if first < last:
                        found[first - offset : last - offset] = data[first - at : last - at]
                return bytes(found)

        def write(self, path: str, data: bytes, offset: int, fh: int) -> int:
            with self.guard:
                self.dirty.setdefault(path, []).append((offset, bytes(data)))
            return len(data)

        def fsync(self, path: str, datasync: int, fh: int) -> int:
            with self.guard:
                waiting = self.dirty.pop(path, [])
                handle = os.open(self._real(path), os.O_RDWR)
                try:
                    for at, data in waiting:
                        os.pwrite(handle, data, at)
                finally:
                    os.close(handle)
            return 0

        def truncate(self, path: str, length: int, fh: Any = None) -> int:
            with self.guard:
                kept = [(at, data[: length - at]) for at, data in self.dirty.get(path, ()) if at < length]
                self.dirty[path] = kept
                os.truncate(self._real(path), length)
            return 0

        def unlink(self, path: str) -> int:
            with self.guard:
                self.dirty.pop(path, None)
                os.unlink(self._real(path))
            return 0

        def rename(self, old: str, new: str) -> int:
            with self.guard:
                os.rename(self._real(old), self._real(new))
                self.dirty.pop(new, None)
                for path in [one for one in self.dirty if one == old or one.startswith(f"{old}/")]:
                    self.dirty[new + path[len(old) :]] = self.dirty.pop(path)
            return 0

        def mkdir(self, path: str, mode: int) -> int:
            os.mkdir(self._real(path), mode)
            self._mine(path)
            return 0

        def rmdir(self, path: str) -> int:
            os.rmdir(self._real(path))
            return 0

        def chmod(self, path: str, mode: int) -> int:
            os.chmod(self._real(path), mode)
            return 0

        def chown(self, path: str, uid: int, gid: int) -> int:
            os.chown(self._real(path), uid, gid)
            return 0

        def utimens(self, path: str, times: Any = None) -> int:
            os.utime(self._real(path), ns=times)
            return 0

        def symlink(self, target: str, source: str) -> int:
            os.symlink(source, self._real(target))
            return 0

        def readlink(self, path: str) -> str:
            return os.readlink(self._real(path))

        def statfs(self, path: str) -> dict[str, int]:
            told = os.statvfs(self._real(path))
            return {name: getattr(told, name) for name in ("f_bavail", "f_bfree", "f_blocks", "f_bsize", "f_files", "f_frsize")}

        def release(self, path: str, fh: int) -> int:
            os.close(fh)
            return 0

        def flush(self, path: str, fh: int) -> int:
            return 0  # closing is no syncing

        def fsyncdir(self, path: str, datasync: int, fh: Any) -> int:
            return 0

    mfusepy.FUSE(Forgetful(), mount, **OPTIONS)


class Disk:
    """The forgetful disk, mounted."""

    def __init__(self, folder: Path) -> None:
        self.kept, self.mount = folder / "kept", folder / "mount"
        self.process: subprocess.Popen[bytes] | None = None
        for path in (self.kept, self.mount):
            path.mkdir()
            path.chmod(0o755)

    def plug_in(self) -> None:
        command = [sys.executable, __file__, "--serve", str(self.kept), str(self.mount)]
        self.process = subprocess.Popen(command, cwd=ROOT, env={**os.environ, "PYTHONPATH": str(ROOT)})
        until = time.monotonic() + 20
        while not os.path.ismount(self.mount):
            if time.monotonic() > until:
                raise SystemExit("The disk could not be mounted.")
            time.sleep(0.05)

    def cut(self) -> None:
        """What was not synced is gone, for everybody at once."""
        assert self.process is not None
        self.process.kill()
        self.process.wait()
        subprocess.run(["umount", "-l", str(self.mount)], check=True)


class Writer(threading.Thread):
    """Writes one row after the other, and remembers those that were committed."""

    def __init__(self, url: str, number: int) -> None:
        super().__init__(daemon=True)
        self.url, self.number, self.acknowledged = url, number, list[int]()
        self.ends = threading.Event()

    def run(self) -> None:
        with contextlib.suppress(psycopg.Error), psycopg.connect(self.url, autocommit=True) as talk:
            turn = time.time_ns() // 1000
            while not self.ends.is_set():
                turn += 1
                talk.execute("insert into note (word, filler) values (%s, %s)", (turn * 10 + self.number, "x" * 300))
                self.acknowledged.append(turn * 10 + self.number)


def end_all(master: int) -> None:
    """End a server and all its processes at once, as the dark does: each is the leader of its own session."""
    children = subprocess.run(["pgrep", "-P", str(master)], capture_output=True, text=True).stdout.split()
    for pid in (master, *map(int, children)):
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)


def main() -> int:
    parser = argparse.ArgumentParser(prog="benchmarks/power_cut.py")
    parser.add_argument("cuts", type=int, nargs="?", default=20)
    parser.add_argument("--unsafe", action="store_true", help="fsync off: something has to be lost")
    parser.add_argument("--serve", nargs=2, help=argparse.SUPPRESS)
    given = parser.parse_args()
    if given.serve:
        serve(*given.serve)
        return 0
    folder, choice = Path(tempfile.mkdtemp(prefix="ridgeback-cuts-")), random.Random(7)
    folder.chmod(0o755)
    disk, every, back = Disk(folder), list[int](), list[float]()
    lost: set[int] = set()
    try:
        disk.plug_in()
        Cluster(disk.mount).create()
        if given.unsafe:
            with (disk.mount / "postgres" / "postgresql.conf").open("a") as file:
                file.write("fsync = off\n")
        for turn in range(given.cuts):
            began = time.monotonic()
            cluster = Cluster(disk.mount)
            try:
                cluster.start()
            except Stop as reason:
                lost |= set(every)
                print(f"It does not start any more: {reason}")
                break
            back.append(time.monotonic() - began)
            with psycopg.connect(cluster.url, autocommit=True) as talk:
                talk.execute("create table if not exists note (word bigint primary key, filler text)")
                found = {word for (word,) in talk.execute("select word from note")}
            lost |= set(every) - found
            writers = [Writer(cluster.url, number) for number in range(WRITERS)]
            for writer in writers:
                writer.start()
            time.sleep(choice.uniform(0.5, 4.0))
            acknowledged = [list(writer.acknowledged) for writer in writers]  # before the cut, for what comes after it is nobody's
            disk.cut()
            for writer in writers:
                writer.ends.set()
            assert cluster.process is not None
            end_all(cluster.process.pid)
            cluster.process.wait()
            every += [word for words in acknowledged for word in words]
            disk.plug_in()
            print(f"cut {turn + 1}: {len(every)} acknowledged so far, {len(lost)} lost", flush=True)
        else:
            cluster = Cluster(disk.mount)
            cluster.start()
            with psycopg.connect(cluster.url) as talk:
                lost |= set(every) - {word for (word,) in talk.execute("select word from note")}
            cluster.stop()
    finally:
        with contextlib.suppress(subprocess.CalledProcessError):
            disk.cut()
        shutil.rmtree(folder, ignore_errors=True)
    middle = sorted(back)[len(back) // 2]
    print(f"{given.cuts} cuts, {len(every)} acknowledged, {len(lost)} lost; up again after {middle:.1f} s in the middle")
    return int(bool(lost) != given.unsafe)


if __name__ == "__main__":
    sys.exit(main())
