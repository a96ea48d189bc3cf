"""The browser tests against two web machines behind nginx, a job worker and PgBouncer, one web machine killed again and again.

PYTHONPATH=. .venv-test/bin/python benchmarks/pair.py [--calm] [TESTS …]       (as root; installs Debian's nginx and pgbouncer)

Each web machine is a `ridgeback.serve` of its own on a port of its own, with what a machine would have of its own: static files,
a folder for figures. They share PostgreSQL, through PgBouncer in transaction mode, and nothing else. Every half minute one of them
is killed by SIGKILL, all processes of it at once, and comes back five seconds later. `--calm` kills nothing.
"""

import argparse
import contextlib
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
from pathlib import Path
from typing import Final

from launch.cluster import Cluster
from launch.machine import ROOT, free_port, install_packages

FIRST: Final = "tests/browser/test_keys.py"  # makes the tests' database, by the tests' own server
KILLED_EVERY_S: Final = 30.0
AWAY_S: Final = 5.0


class Web:
    """One web machine's processes."""

    def __init__(self, name: str, environment: dict[str, str], folder: Path) -> None:
        self.name, self.port, self.folder = name, free_port(), folder / name
        self.folder.mkdir()
        self.environment = environment | {"RIDGEBACK_STATIC_ROOT": str(self.folder / "static"), "RIDGEBACK_POOLED": "true"}
        self.process: subprocess.Popen[bytes] | None = None
        command = [sys.executable, "-W", "ignore", "manage.py", "collectstatic", "--no-input", "--verbosity", "0"]
        subprocess.run(command, cwd=ROOT, env=self.environment, check=True)

    def start(self) -> None:
        held = socket.socket()
        held.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        held.bind(("127.0.0.1", self.port))
        command = [sys.executable, "-m", "ridgeback.serve", "--socket", str(held.fileno())]
        with (self.folder / "log").open("ab") as log, held:
            self.process = subprocess.Popen(
                command, cwd=ROOT, env=self.environment, pass_fds=[held.fileno()], start_new_session=True, stdout=log, stderr=log
            )

    def wait(self) -> None:
        until = time.monotonic() + 90
        while time.monotonic() < until:
            with contextlib.suppress(OSError), urllib.request.urlopen(f"http://127.0.0.1:{self.port}/health", timeout=5) as answer:
                if answer.status == 200:
                    return
            time.sleep(0.1)
        raise SystemExit(f"{self.name} did not start: {(self.folder / 'log').read_text()[-2000:]}")

    def kill(self) -> None:
        assert self.process is not None
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()


def pooler(cluster: Cluster, folder: Path) -> tuple[subprocess.Popen[bytes], int]:
    """PgBouncer in transaction mode before a cluster, by the settings that the guide ships; return it and its port."""
    port = free_port()
    password = cluster.password_file.read_text().strip()
    (folder / "userlist.txt").write_text(f'"ridgeback_web" "{password}"\n')
    shipped = (ROOT / "deploy" / "pgbouncer.ini").read_text()
    limits = shipped.split("connect_query=", 1)[1].split("\n")[0]
    rest = shipped.split("[pgbouncer]", 1)[1]
    for name, value in {"listen_port": port, "auth_file": folder / "userlist.txt"}.items():
        rest = "\n".join(f"{name} = {value}" if line.startswith(f"{name} ") else line for line in rest.splitlines())
    where = f"host=127.0.0.1 port={cluster.port} connect_query={limits}"
    (folder / "pgbouncer.ini").write_text(f"[databases]\n* = {where}\n[pgbouncer]\nlogfile = {folder}/pgbouncer.log\n{rest}\n")
    for path in (folder, folder / "userlist.txt", folder / "pgbouncer.ini"):
        shutil.chown(path, "postgres")
    command = ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups", "--", "pgbouncer", str(folder / "pgbouncer.ini")]
    return subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL), port


def proxy(webs: list[Web], folder: Path) -> tuple[subprocess.Popen[bytes], int]:
    """nginx before the web machines, with what the guide's settings say of them; return it and its port."""
    port = free_port()
    shipped = (ROOT / "deploy" / "nginx.conf").read_text()
    passing = "proxy_http_version" + shipped.split("    proxy_http_version", 1)[1].rsplit("}", 1)[0]
    passing = passing.replace("X-Forwarded-Proto https", "X-Forwarded-Proto http")
    servers = "\n".join(f"server 127.0.0.1:{web.port} max_fails=1 fail_timeout=5s;" for web in webs)
    (folder / "nginx.conf").write_text(
        f"""
        daemon off; pid {folder}/nginx.pid; error_log {folder}/nginx.log warn; worker_processes 1; user root;
        events {{}}
        http {{
          access_log off; client_max_body_size 21m;
          client_body_temp_path {folder}/body; proxy_temp_path {folder}/proxied;
          fastcgi_temp_path {folder}/f; uwsgi_temp_path {folder}/u; scgi_temp_path {folder}/s;
          upstream ridgeback {{ {servers} }}
          server {{ listen 127.0.0.1:{port}; {passing} }}
        }}
        """.replace("proxy_set_header Host $host;", "proxy_set_header Host $http_host;")
    )
    return subprocess.Popen(["nginx", "-c", str(folder / "nginx.conf"), "-e", str(folder / "nginx.log")]), port


def kills(webs: list[Web], ending: threading.Event, times: list[str]) -> None:
    """Kill one after the other, until told to end."""
    turn = 0
    while not ending.wait(KILLED_EVERY_S):
        web = webs[turn % len(webs)]
        web.kill()
        times.append(web.name)
        if ending.wait(AWAY_S):
            return
        web.start()
        web.wait()
        turn += 1


def main() -> int:
    parser = argparse.ArgumentParser(prog="benchmarks/pair.py")
    parser.add_argument("--calm", action="store_true", help="kill nothing")
    parser.add_argument("tests", nargs="*", default=["tests/browser"])
    arguments = parser.parse_args()
    install_packages(
        [name for name in ("nginx", "pgbouncer") if shutil.which(name) is None and not Path(f"/usr/sbin/{name}").exists()]
    )
    folder = Path(tempfile.mkdtemp(prefix="ridgeback-pair-"))
    folder.chmod(0o755)
    for part in ("pool", "front", "database"):
        (folder / part).mkdir()
    cluster = Cluster(folder / "database", throwaway=True)
    cluster.create()
    cluster.start()
    running: list[subprocess.Popen[bytes]] = []
    webs: list[Web] = []
    try:
        environment = {
            **os.environ,
            "PYTHONPATH": str(ROOT),
            "OPENBLAS_NUM_THREADS": "1",
            "DJANGO_SETTINGS_MODULE": "ridgeback.settings",
        }
        environment |= {"RIDGEBACK_SECRET_KEY": secrets.token_urlsafe(48), "DATABASE_URL": cluster.url}
        tests = [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider"]
        subprocess.run([*tests, "--create-db", "--reuse-db", FIRST], cwd=ROOT, env=environment, check=True)
        pool, pooled = pooler(cluster, folder / "pool")
        running.append(pool)
        of_tests = f"{cluster.url.rsplit('/', 1)[0]}/test_ridgeback"
        by_pool = of_tests.replace(f":{cluster.port}/", f":{pooled}/")
        webs = [Web(name, environment | {"DATABASE_URL": by_pool}, folder) for name in ("web1", "web2")]
        for web in webs:
            web.start()
        for web in webs:
            web.wait()
        itself = environment | {"DATABASE_URL": of_tests}
        worker = [sys.executable, "manage.py", "procrastinate", "worker", "--delete-jobs", "successful", "--concurrency", "3"]
        running.append(subprocess.Popen(worker, cwd=ROOT, env=itself, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL))
        front, port = proxy(webs, folder / "front")
        running.append(front)
        ending, times = threading.Event(), list[str]()
        killer = threading.Thread(target=kills, args=(webs, ending, times))
        if not arguments.calm:
            killer.start()
        began = time.monotonic()
        environment["RIDGEBACK_PAIR"] = f"http://localhost:{port}"
        code = subprocess.run([*tests, "--reuse-db", *arguments.tests], cwd=ROOT, env=environment).returncode
        ending.set()
        if not arguments.calm:
            killer.join()
        print(f"{time.monotonic() - began:.0f} s against the pair; web machines killed {len(times)} times.")
        return code
    finally:
        for process in running:
            process.terminate()
        for web in webs:
            web.kill()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    sys.exit(main())
