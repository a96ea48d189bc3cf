"""The launcher's own parts: which packages it asks for, where data lies, what it says when something is wrong."""

import ast
import gc
import os
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path
from types import SimpleNamespace

import pytest
from django.apps import apps
from django.conf import settings

from husbandry import LOADED_LATE
from launch import check, machine, storage
from launch import start as launcher
from launch.machine import time_zone
from ridgeback import serve

ROOT = Path(__file__).resolve().parents[2]


def test_a_bare_machine_is_asked_for_every_package(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(machine, "postgres_bin", lambda: None)
    monkeypatch.setattr(machine.importlib.util, "find_spec", lambda name: None)
    monkeypatch.setattr(machine.shutil, "which", lambda name: None)
    monkeypatch.setattr(machine, "CHROMIUM", Path("/nowhere"))
    monkeypatch.setattr(machine.ctypes.util, "find_library", lambda name: None)
    printing = ["libpango-1.0-0", "libpangoft2-1.0-0", "libharfbuzz-subset0"]
    needed = ["python3-venv", "postgresql", "util-linux", *printing]
    nowhere = Path("/nowhere/chromium-headless-shell")
    assert machine.missing_packages(browser=nowhere, database=True) == [*needed, "chromium-headless-shell"]
    monkeypatch.setattr(machine, "CHROMIUM", ROOT)  # anything that is there
    assert machine.missing_packages(browser=nowhere, database=True) == needed
    assert machine.missing_packages(database=False) == ["python3-venv", *printing]
    for_tests = machine.missing_packages(database=False, scripts=True, broker=True)
    assert for_tests == [
        "python3-venv",
        *printing,
        "nodejs",
        "gettext",
        *([] if Path("/usr/sbin/mosquitto").exists() else ["mosquitto"]),
    ]


def test_who_is_not_root_is_told_the_one_line_to_run(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(machine.os, "geteuid", lambda: 1000)
    with pytest.raises(machine.Stop, match="apt-get update && apt-get install -y postgresql"):
        machine.install_packages(["postgresql"])


@pytest.mark.parametrize("refused", [[], ["uv"], ["uv", "pip"]])
def test_pip_installs_what_the_quicker_one_does_not(monkeypatch: pytest.MonkeyPatch, tmp_path: Path, refused: list[str]) -> None:
    """It may not know of a folder of packages, or of an index that pip was told of."""
    folder, lock, ran = tmp_path / "venv", tmp_path / "some.lock", []
    lock.write_text("six==1.16.0")

    def said_by(command: list[str], environment: dict[str, str] | None = None) -> str | None:
        if str(lock) not in command:  # the environment, and the quicker program itself
            folder.mkdir(exist_ok=True)
            return None
        by = Path(command[0]).name.replace("python", "pip")
        ran.append((by, "--require-hashes" in command))
        return "no such index" if by in refused else None

    monkeypatch.setattr(machine, "said_by", said_by)
    if len(refused) == 2:
        with pytest.raises(machine.Stop, match="no such index"):
            machine.ensure_venv(folder, lock)
        assert not (folder / "lock.sha256").exists()  # the next start tries again
    else:
        assert machine.ensure_venv(folder, lock) == folder / "bin" / "python"
        assert (folder / "lock.sha256").exists()
    assert ran == [("uv", True), ("pip", True)][: 1 if not refused else 2]


def test_a_program_that_may_not_be_run_is_one_that_failed(tmp_path: Path) -> None:
    """A folder for temporary files from which nothing may be run stops no start: pip does it then."""
    (tmp_path / "uv").write_text("#!/bin/sh\n")
    assert "Permission denied" in (machine.said_by([str(tmp_path / "uv")]) or "")
    assert "No such file" in (machine.said_by([str(tmp_path / "none")]) or "")
    assert machine.said_by([sys.executable, "-c", "import sys; sys.exit('first\\nlast')"]) == "last"
    assert machine.said_by([sys.executable, "-c", ""]) is None


def test_what_is_loaded_without_collecting_garbage_is_run_with_it() -> None:
    assert settings.INSTALLED_APPS[-1] == "ridgeback.home"  # the last to be loaded
    gc.disable()
    apps.get_app_config("home").ready()
    assert gc.isenabled()


def test_what_is_loaded_late_is_loaded_before_processes_are_forked() -> None:
    """Or each of them would load it for itself, in the middle of its first page."""
    loaded, used = set[str](), set[str]()
    for path in (ROOT / "husbandry").rglob("*.py"):
        tree = ast.parse(path.read_text())
        for node in ast.walk(tree):
            if isinstance(node, ast.Import):
                loaded |= {each.name for each in node.names if each.name.startswith(("numba", "scipy."))}
            elif isinstance(node, ast.ImportFrom) and (node.module or "").startswith(("numba", "scipy")):
                (loaded if node in tree.body else used).add(str(node.module))
            elif isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id == "scipy":
                used.add(f"scipy.{node.attr}")
    assert loaded == set()  # with the program, a second of every command
    assert used == set(LOADED_LATE)
    loads = "import sys, husbandry.assess.assess, husbandry.design.rigs; sys.exit(str(sorted({*sys.argv[1:]} & {*sys.modules})))"
    assert machine.said_by([sys.executable, "-c", loads, *LOADED_LATE]) == "[]"


# Writes down when it begins and ends, once it may, and fails where it is told to.
TOLD = ("begins", "ends")
IN_TURN = """
import sys, time
from pathlib import Path
from tests.waiting import may_begin
told, name, code = Path(sys.argv[1]), sys.argv[2], int(sys.argv[3])
def tell(what):
    with told.open("a") as into:
        into.write(f"{what} {name}\\n")
tell("loads")
if may_begin():
    tell("begins")
    while "--until" in sys.argv and sys.argv[-1] not in told.read_text():
        time.sleep(0.01)
    tell("ends")
else:
    tell("gives up")
sys.exit(code)
"""


def in_turn(told: Path, name: str, code: int = 0, *more: str) -> list[str]:
    return [sys.executable, "-c", IN_TURN, str(told), name, str(code), *more]


def test_the_next_tests_are_loaded_while_others_run_and_begin_when_those_have_ended(tmp_path: Path) -> None:
    told = tmp_path / "told"
    runs = [in_turn(told, "one", 1, "--until", "loads two"), in_turn(told, "two"), in_turn(told, "three")]
    database = subprocess.Popen([sys.executable, "-c", ""])
    environment = {**os.environ, "PYTHONPATH": str(ROOT)}
    assert not check.run_in_turn(runs, environment, tmp_path, database)  # the first one failed, and the others were run
    said = told.read_text().splitlines()
    assert [line for line in said if "loads" not in line] == [f"{what} {of}" for of in ("one", "two", "three") for what in TOLD]
    assert said.index("loads two") < said.index("ends one")
    assert said.index("loads three") > said.index("ends one")  # no more than one waits


def test_tests_that_wait_end_with_whoever_started_them(tmp_path: Path) -> None:
    told = tmp_path / "told"
    runs = [in_turn(told, "one", 0, "--until", "gives up two"), in_turn(told, "two")]
    started = f"import subprocess, sys; from pathlib import Path; from launch import check; check.run_in_turn({runs!r}, "
    started += f"{{'PYTHONPATH': {str(ROOT)!r}}}, Path({str(tmp_path)!r}), subprocess.Popen([sys.executable, '-c', '']))"
    launcher = subprocess.Popen([sys.executable, "-c", started], cwd=ROOT)
    until = time.monotonic() + 60
    while not {"begins one", "loads two"} <= set(told.read_text().splitlines() if told.exists() else []):
        assert time.monotonic() < until
        time.sleep(0.02)
    launcher.kill()
    launcher.wait()
    while "ends one" not in told.read_text().splitlines():
        assert time.monotonic() < until, told.read_text()
        time.sleep(0.02)
    assert "gives up two" in told.read_text().splitlines()


# Gives its tests to a process of its own, as pytest does.
WITH_A_WORKER = """
import subprocess, sys
from pathlib import Path
worker = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(600)"])
Path(sys.argv[1]).write_text(str(worker.pid))
worker.wait()
"""


def test_tests_that_are_broken_off_leave_no_worker_behind(tmp_path: Path) -> None:
    """An interrupt may reach ./test alone, sent by `kill`; a shell that starts the tests in the background has it ignored."""
    told = tmp_path / "worker"
    runs = [[sys.executable, "-c", WITH_A_WORKER, str(told)]]
    started = "import signal, subprocess, sys; from pathlib import Path; from launch import check; "
    started += f"signal.signal(signal.SIGINT, signal.default_int_handler); check.run_in_turn({runs!r}, {{}}, "
    started += f"Path({str(tmp_path)!r}), subprocess.Popen([sys.executable, '-c', '']))"
    launcher = subprocess.Popen([sys.executable, "-c", started], cwd=ROOT, stderr=subprocess.DEVNULL)
    until = time.monotonic() + 60
    while not (told.exists() and told.read_text()):
        assert time.monotonic() < until
        time.sleep(0.02)
    launcher.send_signal(signal.SIGINT)
    launcher.wait(timeout=60)
    state = Path(f"/proc/{told.read_text()}/stat")
    while state.exists() and state.read_text().rpartition(")")[2].split()[0] != "Z":
        assert time.monotonic() < until
        time.sleep(0.02)


def test_what_is_thrown_away_lies_in_memory_where_there_is_room(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    memory, usual = tmp_path / "memory", Path(tempfile.gettempdir())
    memory.mkdir()
    monkeypatch.delenv("TMPDIR", raising=False)
    assert machine.folder_for_a_while(1, memory) == memory
    assert machine.folder_for_a_while(10**9, memory) == usual
    assert machine.folder_for_a_while(1, tmp_path / "nowhere") == usual
    monkeypatch.setattr(machine, "available_memory", lambda: 2_000_000)
    assert machine.folder_for_a_while(2, memory) == usual
    assert machine.folder_for_a_while(1, memory) == memory
    with monkeypatch.context() as patch:
        patch.setenv("TMPDIR", str(usual))  # who names a folder has it
        assert machine.folder_for_a_while(1, memory) == usual
    monkeypatch.setattr(machine.os, "statvfs", lambda _folder: SimpleNamespace(f_flag=os.ST_NOEXEC))
    assert machine.folder_for_a_while(1, memory) == usual


def test_what_a_killed_run_of_the_tests_left_in_memory_goes_and_what_another_uses_stays(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(check, "folder_for_a_while", lambda _megabytes: tmp_path)
    killed = "import os, signal; from pathlib import Path; from launch import check\n"
    killed += "check.folder_for_a_while = lambda _megabytes: Path.cwd()\n"
    killed += "folder, mark = check.own_folder(); print(folder, flush=True); os.kill(os.getpid(), signal.SIGKILL)"
    environment = os.environ | {"PYTHONPATH": str(ROOT)}
    done = subprocess.run([sys.executable, "-c", killed], cwd=tmp_path, env=environment, capture_output=True, text=True)
    left = Path(done.stdout.strip())
    assert (left / "files").is_dir()
    first, mark = check.own_folder()
    assert not left.exists()
    second, other_mark = check.own_folder()
    with mark, other_mark:
        assert first.is_dir()
        assert second != first


def test_memory_that_programs_can_have_is_what_the_system_tells(tmp_path: Path) -> None:
    (tmp_path / "meminfo").write_text("MemTotal:       24683584 kB\nMemFree:          100000 kB\nMemAvailable:      2048 kB\n")
    assert machine.available_memory(tmp_path / "meminfo") == 2 * 2**20
    assert machine.available_memory(tmp_path / "none") == 0


def test_a_full_disk_stops_the_start(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setattr(machine, "MINIMUM_FREE_MB", 10**9)
    with pytest.raises(machine.Stop, match="MB free"):
        machine.check_disk(tmp_path / "not" / "yet")


def test_the_machines_own_time_zone_is_found(tmp_path: Path) -> None:
    zone = tmp_path / "zoneinfo" / "Atlantic" / "Faroe"
    zone.parent.mkdir(parents=True)
    zone.touch()
    (tmp_path / "localtime").symlink_to(zone)
    assert time_zone(tmp_path / "localtime") == "Atlantic/Faroe"
    assert time_zone(tmp_path / "nowhere") == "UTC"


def test_secrets_are_made_once_and_for_the_owner_only(tmp_path: Path) -> None:
    first = storage.secret(tmp_path, "secret-key")
    assert storage.secret(tmp_path, "secret-key") == first
    assert (tmp_path / "secret-key").stat().st_mode & 0o777 == 0o600


def test_a_second_start_says_where_the_first_one_is(tmp_path: Path) -> None:
    handle, left = storage.lock(tmp_path)
    assert left == ""
    handle.write("http://127.0.0.1:8123/")
    handle.flush()
    with pytest.raises(machine.Stop, match=r"already runs.*8123"):
        storage.lock(tmp_path)
    handle.close()  # killed: the next start learns where, and waits for what was left there
    _handle, left = storage.lock(tmp_path)
    assert left == "http://127.0.0.1:8123/"


def test_a_port_about_to_be_let_go_is_waited_for() -> None:
    held = socket.socket()
    held.bind(("127.0.0.1", 0))
    held.listen()
    port = held.getsockname()[1]
    assert not machine.port_is_free(port)
    release = threading.Timer(0.3, held.close)
    release.start()
    launcher.wait_for_port(port)
    assert machine.port_is_free(port)
    release.join()


def test_a_port_is_held_from_the_first_look_until_somebody_listens_on_it() -> None:
    """Minutes may pass before the web process listens; it is handed the very socket."""
    port = machine.free_port()
    held = machine.hold_port(port)
    assert held is not None
    assert machine.hold_port(port) is None
    with socket.socket() as other:  # a server as they are usually written
        other.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        with pytest.raises(OSError, match="in use"):
            other.bind(("127.0.0.1", port))
    listening = serve.listen(os.dup(held.fileno()))
    held.close()
    with socket.create_connection(("127.0.0.1", port)) as visitor, listening.accept()[0] as answered:
        answered.close()  # this end closes first, and the connection lingers
        assert visitor.recv(1) == b""
    listening.close()
    assert machine.port_is_free(port)  # at once, for the next start


def test_old_data_is_set_aside_and_not_deleted(tmp_path: Path) -> None:
    folder = tmp_path / "var"
    folder.mkdir()
    (folder / "secret-key").write_text("kept")
    aside = storage.set_aside(folder)
    assert (aside / "secret-key").read_text() == "kept"
    assert not (folder / "secret-key").exists()


def start(tmp_path: Path, *arguments: str, **more: str) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "RIDGEBACK_DATA": str(tmp_path), "PYTHONPATH": str(ROOT), **more}
    environment.pop("DATABASE_URL", None)
    command = [sys.executable, "-m", "launch.start", *arguments]
    return subprocess.run(command, cwd=ROOT, env=environment, stdin=subprocess.DEVNULL, capture_output=True, text=True, timeout=60)


@pytest.mark.parametrize(
    ("arguments", "more", "words"),
    [((), {"PORT": "http"}, "PORT is 'http'"), (("--fresh",), {}, "needs a terminal")],
)
def test_what_cannot_start_says_one_sentence(tmp_path: Path, arguments: tuple[str, ...], more: dict[str, str], words: str) -> None:
    done = start(tmp_path, *arguments, **more)
    assert done.returncode == 1
    assert words in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1


def test_a_taken_port_says_one_sentence(tmp_path: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        done = start(tmp_path, PORT=str(port))
    assert done.returncode == 1
    assert f"Port {port} is taken" in done.stderr
    assert "Traceback" not in done.stderr
