"""The machine below: Debian packages, the virtual environment, free ports, other users."""

import ctypes.util
import glob
import hashlib
import importlib.util
import os
import pwd
import random
import re
import shutil
import socket
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CHROMIUM = Path("/usr/bin/chromium")
HEADLESS = Path("/usr/bin/chromium-headless-shell")  # the same without windows: a third less processor time
MINIMUM_FREE_MB = 400
IN_MEMORY = Path("/dev/shm")  # Linux's file system in memory
SERVING_PORTS = 18_000, 32_000
PIP = "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "--require-hashes"
INSTALLER = ROOT / "requirements" / "installer.lock"
PRINT_LIBRARIES = {
    "pango-1.0": "libpango-1.0-0",
    "pangoft2-1.0": "libpangoft2-1.0-0",
    "harfbuzz-subset": "libharfbuzz-subset0",
}


class Stop(Exception):
    """A condition that ends the command with one clear sentence for the person at the terminal; empty when it was said already."""


POSTGRES = Path("/usr/lib/postgresql")  # Debian keeps each major version's programs in a folder below


def postgres_bin(major: int | None = None) -> Path | None:
    """Return the folder with the PostgreSQL server programs of a major version, or of the newest there is; None without."""
    folders = [Path(name).parent for name in glob.glob(f"{POSTGRES}/*/bin/postgres")]
    if major is not None:
        folders = [folder for folder in folders if major_of(folder) == major]
    return max(folders, key=major_of, default=None)


def major_of(programs: Path) -> int:
    """The major version of a folder of PostgreSQL's programs."""
    return int(programs.parent.name)


def missing_packages(
    *, browser: Path | None = None, database: bool, scripts: bool = False, broker: bool = False, encryption: bool = False
) -> list[str]:
    """Name the Debian packages this machine still needs; of a `browser` the one asked for, or Chromium, which does in its place."""
    wanted = []
    if importlib.util.find_spec("ensurepip") is None:
        wanted.append("python3-venv")
    if database and postgres_bin() is None:
        wanted.append("postgresql")
    if database and shutil.which("setpriv") is None:
        wanted.append("util-linux")
    # What the printed pages are set with.
    wanted += [package for library, package in PRINT_LIBRARIES.items() if ctypes.util.find_library(library) is None]
    if browser and not browser.exists() and not CHROMIUM.exists():
        wanted.append(browser.name)
    if scripts and shutil.which("node") is None:
        wanted.append("nodejs")
    if scripts and shutil.which("xgettext") is None:  # the tests look for texts that nobody translated
        wanted.append("gettext")
    if broker and shutil.which("mosquitto") is None and not Path("/usr/sbin/mosquitto").exists():
        wanted.append("mosquitto")
    if encryption and shutil.which("gpg") is None:
        wanted.append("gnupg")
    return wanted


def install_packages(names: list[str]) -> None:
    """Install Debian packages, or say the one line to run when not root."""
    if not names:
        return
    line = f"apt-get update && apt-get install -y {' '.join(names)}"
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        raise Stop(f"Some system packages are missing; run this once as root, then start again: {line}")
    print(f"Installing {', '.join(names)} …", flush=True)
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    for command in (["apt-get", "update", "-qq"], ["apt-get", "install", "-y", "-qq", *names]):
        outcome = subprocess.run(command, env=quiet, capture_output=True, text=True)
        if outcome.returncode != 0:
            last = (outcome.stderr.strip().splitlines() or ["no message"])[-1]
            raise Stop(f"'{' '.join(command)}' failed: {last}")


def check_disk(folder: Path) -> None:
    """Refuse to begin on a disk that is nearly full."""
    while not folder.exists():
        folder = folder.parent
    free_mb = shutil.disk_usage(folder).free // 2**20
    if free_mb < MINIMUM_FREE_MB:
        raise Stop(f"The disk that holds {folder} has {free_mb} MB free; Ridgeback needs at least {MINIMUM_FREE_MB} MB.")


def folder_for_a_while(megabytes: float, memory: Path = IN_MEMORY) -> Path:
    """The folder for files that are thrown away soon: in memory where there is room for them, the system's usual one otherwise.

    A database's tests make and remove files by the ten thousand, which takes a disk's file system a tenth of all their time. The
    usual one is taken as well where TMPDIR names one, and where no program may be run in memory's.
    """
    usual = Path(tempfile.gettempdir())
    if "TMPDIR" in os.environ or not os.access(memory, os.W_OK | os.X_OK) or os.statvfs(memory).f_flag & os.ST_NOEXEC:
        return usual
    free = min(shutil.disk_usage(memory).free, available_memory())
    return memory if free >= megabytes * 2**20 else usual


def available_memory(told: Path = Path("/proc/meminfo")) -> int:
    """The bytes of memory that programs can still have; 0 where the system does not tell (Linux)."""
    found = re.search(r"^MemAvailable:\s+(\d+) kB$", told.read_text(), re.MULTILINE) if told.exists() else None
    return int(found[1]) * 1024 if found else 0


def ensure_venv(folder: Path, lock: Path, *, compiled: bool = True) -> Path:
    """Make the virtual environment match the lock file and return its Python.

    Where it is not `compiled`, Python compiles what is imported when it is: a minute less for the tests, which import a part of it.
    """
    python = folder / "bin" / "python"
    stamp = folder / "lock.sha256"
    wanted = hashlib.sha256(lock.read_bytes()).hexdigest()
    if python.exists() and stamp.exists() and stamp.read_text() == wanted:
        return python
    print(f"Installing Python packages into {folder.name} …", flush=True)
    shutil.rmtree(folder, ignore_errors=True)
    failed = said_by([sys.executable, "-m", "venv", str(folder)])
    if failed is None and not fetched_side_by_side(python, lock, compiled=compiled):
        failed = said_by([str(python), *PIP, *(() if compiled else ("--no-compile",)), "-r", str(lock)])
    if failed is not None:
        raise Stop(f"Could not install the Python packages ({failed}); is this machine able to reach a package index?")
    stamp.write_text(wanted)
    return python


def fetched_side_by_side(python: Path, lock: Path, *, compiled: bool) -> bool:
    """Install what a lock names by a program that fetches many packages at a time; False where it cannot be had or does not.

    It takes a quarter of pip's time. What it leaves undone pip does: from a folder of packages, or by settings it does not read.
    """
    environment = {**os.environ, "UV_HTTP_TIMEOUT": "15", "UV_HTTP_RETRIES": "1", "UV_PYTHON_DOWNLOADS": "never"}
    for ours, pips in (("UV_DEFAULT_INDEX", "PIP_INDEX_URL"), ("SSL_CERT_FILE", "PIP_CERT")):
        if pips in os.environ:
            environment.setdefault(ours, os.environ[pips])
    with tempfile.TemporaryDirectory(prefix="ridgeback-installer-") as tools:
        if said_by([str(python), *PIP, "--no-compile", "--target", tools, "-r", str(INSTALLER)]) is not None:
            return False
        command = [f"{tools}/bin/uv", "pip", "install", "--quiet", "--require-hashes", "--python", str(python), "-r", str(lock)]
        return said_by([*command, *(("--compile-bytecode",) if compiled else ())], environment) is None


def said_by(command: list[str], environment: dict[str, str] | None = None) -> str | None:
    """Run a command; None where it succeeds, else the last line that it says, or why it cannot be run at all."""
    try:
        outcome = subprocess.run(command, env=environment, capture_output=True, text=True)
    except OSError as error:  # not there, or in a folder from which nothing may be run
        return str(error)
    return None if outcome.returncode == 0 else (outcome.stderr.strip().splitlines() or ["no message"])[-1]


def time_zone(link: Path = Path("/etc/localtime")) -> str:
    """Return the machine's own time zone by its name, UTC where it has none: "today" is the keeper's today."""
    _, _, name = str(link.resolve()).partition("/zoneinfo/")
    return name or "UTC"


def hold_port(port: int) -> socket.socket | None:
    """Take a loopback port before anything listens on it; None where another has it.

    It is bound as a server's port (one just let go of may be taken), and then marked so that nobody else binds it as well.
    """
    held = socket.socket()
    held.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        held.bind(("127.0.0.1", port))
    except OSError:
        held.close()
        return None
    held.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 0)
    return held


def port_is_free(port: int) -> bool:
    held = hold_port(port)
    if held is None:
        return False
    held.close()
    return True


def free_port() -> int:
    """Return a free loopback port, below those the kernel lends to outgoing connections: one of them could take it any moment."""
    choice = random.SystemRandom()  # nobody who seeds a generator makes two programs choose alike
    while True:
        port = choice.randrange(*SERVING_PORTS)
        if port_is_free(port):
            return port


def has_user(name: str) -> bool:
    try:
        pwd.getpwnam(name)
    except KeyError:
        return False
    return True


def as_user(name: str | None, *, death_signal: str | None = None) -> list[str]:
    """Return the command prefix that runs a program as `name` and ends it with its parent."""
    prefix = ["setpriv"]
    if name is not None:
        prefix += [f"--reuid={name}", f"--regid={pwd.getpwnam(name).pw_gid}", "--init-groups"]
    if death_signal is not None:
        prefix += ["--pdeathsig", death_signal]
    return [*prefix, "--"]


def user_can_enter(name: str, folder: Path) -> bool:
    """Tell whether `name` reaches `folder` (a clone below a 0700 folder is out of its reach)."""
    outcome = subprocess.run([*as_user(name), "test", "-x", str(folder)], cwd="/", capture_output=True)
    return outcome.returncode == 0
