"""Follows docs/deploying.md on empty Debian 12 machines with systemd, and looks whether what it promises is so.

PYTHONPATH=. .venv-test/bin/python benchmarks/deployed.py one|several [--keep]        (as root; minutes, 3 GB below /var/tmp)

The machines are containers of systemd-nspawn on a bridge of this machine, each an overlay on one bare Debian that debootstrap made.
What is run on them is the commands of the page, block by block; nothing else is installed. Certificate and mail server are
this program's stand-ins. Needs Debian's debootstrap, systemd-container and iptables (installed where they are missing).
"""

import argparse
import asyncio
import contextlib
import http.client
import http.cookiejar
import os
import re
import secrets
import shutil
import signal
import socket
import ssl
import subprocess
import sys
import threading
import time
import urllib.parse
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Final

from launch.machine import ROOT

WORK: Final = Path("/var/tmp/ridgeback-deployed")
BRIDGE: Final = "rbdeploy"
HOST: Final = "10.77.0.1"
NAME: Final = "ridgeback.example"
PLACES: Final = {"db": 2, "copy": 3, "jobs": 4, "web1": 5, "web2": 6, "front": 7, "one": 10}
BARE: Final = "systemd,systemd-sysv,dbus,ca-certificates,iproute2,procps,tzdata"
BLOCK: Final = re.compile(r"^```sh([^\n]*)\n(.*?)^```$", re.M | re.S)
failed: list[str] = []


def check(what: str, good: bool, said: object = "") -> bool:
    """Print one promise and whether it is kept, and return that."""
    print(f"{'ok    ' if good else 'FAILED'}  {what}{f'  ({said})' if said != '' and (said or not good) else ''}", flush=True)
    if not good:
        failed.append(what)
    return good


def run(*command: str, **more: Any) -> str:
    """Run a command of this machine. Raises CalledProcessError."""
    return subprocess.run(command, check=True, capture_output=True, text=True, **more).stdout


def blocks(tag: str) -> list[str]:
    """The commands of the page that are for a machine, in order."""
    page = (ROOT / "docs" / "deploying.md").read_text()
    return [text for told, text in BLOCK.findall(page) if tag in told.split()]


def bare() -> Path:
    """A bare Debian 12, made once."""
    wanted = [name for name, program in (("debootstrap", "debootstrap"), ("systemd-container", "systemd-nspawn"),
                                         ("iptables", "iptables")) if shutil.which(program) is None]  # fmt: skip
    if wanted:
        run("apt-get", "install", "-y", "-qq", *wanted)
    base = WORK / "bare"
    if not (base / "made").exists():
        print("Making a bare Debian …", flush=True)
        shutil.rmtree(base, ignore_errors=True)
        sources = Path("/etc/apt/sources.list.d/debian.sources").read_text()
        mirror = re.search(r"^URIs:\s*(\S+)", sources, re.M)
        assert mirror is not None
        run("debootstrap", "--variant=minbase", f"--include={BARE}", "bookworm", str(base), mirror[1])
        # What this machine reaches its package sources by; no setting of the program.
        (base / "etc/apt/sources.list").unlink(missing_ok=True)
        shutil.copy("/etc/apt/sources.list.d/debian.sources", base / "etc/apt/sources.list.d/")
        certificates = "/etc/ssl/certs/ca-certificates.crt"
        if Path(certificates).exists():
            shutil.copy(certificates, base / certificates[1:])
        (base / "etc/pip.conf").write_text(f"[global]\ncert = {certificates}\n")
        (base / "etc/resolv.conf").unlink(missing_ok=True)
        shutil.copy("/etc/resolv.conf", base / "etc/resolv.conf")
        (base / "etc/timezone").write_text("Etc/UTC\n")
        (base / "usr/sbin/policy-rc.d").unlink(missing_ok=True)
        (base / "made").touch()
    return base


@contextlib.contextmanager
def network() -> Iterator[None]:
    """A bridge of this machine, by which the others also reach their package sources."""
    subprocess.run(["ip", "link", "del", BRIDGE], capture_output=True)
    run("ip", "link", "add", BRIDGE, "type", "bridge")
    run("ip", "addr", "add", f"{HOST}/24", "dev", BRIDGE)
    run("ip", "link", "set", BRIDGE, "up")
    Path("/proc/sys/net/ipv4/ip_forward").write_text("1")
    rule = ["POSTROUTING", "-s", f"{HOST.rsplit('.', 1)[0]}.0/24", "!", "-o", BRIDGE, "-j", "MASQUERADE"]
    run("iptables", "-t", "nat", "-A", *rule)
    try:
        yield
    finally:
        run("iptables", "-t", "nat", "-D", *rule)
        subprocess.run(["ip", "link", "del", BRIDGE], capture_output=True)


class Machine:
    """One empty Debian 12 with an address of its own."""

    def __init__(self, name: str) -> None:
        self.name, self.address = name, f"{HOST.rsplit('.', 1)[0]}.{PLACES[name]}"
        self.folder, self.root = WORK / name, WORK / name / "root"
        self.values: dict[str, str] = {}
        self.process: subprocess.Popen[bytes] | None = None

    def make(self, base: Path) -> None:
        subprocess.run(["umount", str(self.root)], capture_output=True)
        shutil.rmtree(self.folder, ignore_errors=True)
        for part in ("upper", "work", "root"):
            (self.folder / part).mkdir(parents=True)
        layers = f"lowerdir={base},upperdir={self.folder}/upper,workdir={self.folder}/work"
        run("mount", "-t", "overlay", "overlay", "-o", layers, str(self.root))
        (self.root / "etc/hostname").write_text(f"{self.name}\n")

    def boot(self) -> None:
        """Start it, and wait until its systemd is up."""
        there = f"rb{self.name}"
        self._unplug()  # what a run that was cut off left
        run("ip", "netns", "add", there)
        run("ip", "link", "add", f"v{there}", "type", "veth", "peer", "name", "eth0", "netns", there)
        run("ip", "link", "set", f"v{there}", "master", BRIDGE, "up")
        for command in (["addr", "add", f"{self.address}/24", "dev", "eth0"], ["link", "set", "eth0", "up"],
                        ["link", "set", "lo", "up"], ["route", "add", "default", "via", HOST]):  # fmt: skip
            run("ip", "-n", there, *command)
        command = ["systemd-nspawn", "-q", "-D", str(self.root), "-M", self.name, "--boot", "--register=no", "--keep-unit"]
        command += [f"--network-namespace-path=/run/netns/{there}", f"--bind-ro={ROOT}:/srv/source", "--resolv-conf=off"]
        with (self.folder / "console").open("ab") as log:
            self.process = subprocess.Popen(command, stdin=subprocess.DEVNULL, stdout=log, stderr=log)
        until = time.monotonic() + 60
        while time.monotonic() < until:
            with contextlib.suppress(subprocess.CalledProcessError, IndexError):
                state = subprocess.run(self._inside("systemctl is-system-running"), capture_output=True, text=True).stdout.strip()
                if state in ("running", "degraded"):
                    return
            time.sleep(0.3)
        raise SystemExit(f"{self.name} did not start; see {self.folder}/console")

    def _inside(self, script: str) -> list[str]:
        assert self.process is not None
        leader = run("pgrep", "-P", str(self.process.pid)).split()[0]
        wanted = [f"{name}={value}" for name, value in self.values.items()]
        path = "PATH=/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin"
        return ["nsenter", "-t", leader, "-a", "env", "-i", path, "HOME=/root", "LC_ALL=C.UTF-8", "DEBIAN_FRONTEND=noninteractive",
                *wanted, "bash", "-c", script]  # fmt: skip

    def do(self, script: str, *, may_fail: bool = False) -> str:
        """Run commands on it as root, as somebody who stops at the first that fails; return what they say."""
        done = subprocess.run(self._inside(f"set -euo pipefail\n{script}"), capture_output=True, text=True)
        if done.returncode != 0 and not may_fail:
            print(done.stdout[-2000:], done.stderr[-4000:], sep="\n", file=sys.stderr)
            raise SystemExit(f"{self.name}: a command of the page failed.")
        return done.stdout

    def follow(self, tag: str) -> str:
        """Run the page's blocks of a tag; return what the last said."""
        said = ""
        for number, block in enumerate(blocks(tag), 1):
            began = time.monotonic()
            said = self.do(block)
            print(f"        {self.name}: {tag}, block {number}: {time.monotonic() - began:.0f} s", flush=True)
        return said

    def stop(self, *, hard: bool = False) -> None:
        if self.process is not None and self.process.poll() is None:
            if hard:  # its first process takes all others with it; without its keeper it would have no parent to be found by
                subprocess.run(["pkill", "-KILL", "-P", str(self.process.pid)], capture_output=True)
            self.process.send_signal(signal.SIGKILL if hard else signal.SIGTERM)
            with contextlib.suppress(subprocess.TimeoutExpired):
                self.process.wait(timeout=40)
            if self.process.poll() is None:
                self.process.kill()
                self.process.wait()
        self._unplug()

    def _unplug(self) -> None:
        subprocess.run(["ip", "netns", "del", f"rb{self.name}"], capture_output=True)
        subprocess.run(["ip", "link", "del", f"vrb{self.name}"], capture_output=True)

    def remove(self) -> None:
        subprocess.run(["umount", "-l", str(self.root)], capture_output=True)
        shutil.rmtree(self.folder, ignore_errors=True)


PATIENCE_S: Final = 100.0  # longer than the proxy waits, so that it is the one to say so


class Visitor:
    """A browser's part of it: cookies, forms, TLS by the certificate's own authority."""

    def __init__(self, address: str, authority: Path) -> None:
        self.address, self.cookies = address, {"": ""}
        self.cookies.clear()
        self.context = ssl.create_default_context(cafile=str(authority))

    def ask(self, path: str, fields: dict[str, str] | None = None, *, patience_s: float = 0.0) -> tuple[int, str, dict[str, str]]:
        """Ask for a page, or send a form; return status, text and headers. It asks again for a while where nobody answers."""
        until = time.monotonic() + patience_s
        while True:
            try:
                return self._ask(path, fields)
            except (OSError, http.client.HTTPException):
                if time.monotonic() > until:
                    raise
                time.sleep(0.2)

    def _ask(self, path: str, fields: dict[str, str] | None) -> tuple[int, str, dict[str, str]]:
        connection = http.client.HTTPSConnection(NAME, 443, context=self.context, timeout=PATIENCE_S)
        connection.sock = self.context.wrap_socket(socket.create_connection((self.address, 443), PATIENCE_S), server_hostname=NAME)
        headers = {"Host": NAME, "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items())}
        body = None
        if fields is not None:
            told = {**fields, "csrfmiddlewaretoken": self.cookies.get("__Host-csrf", "")}
            body = urllib.parse.urlencode(told)
            headers |= {"Content-Type": "application/x-www-form-urlencoded", "Referer": f"https://{NAME}/"}
        connection.request("GET" if fields is None else "POST", path, body, headers)
        answer = connection.getresponse()
        text = answer.read().decode(errors="replace")
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        connection.close()
        return answer.status, text, {name.lower(): value for name, value in answer.getheaders()}

    def set_password(self, link: str, password: str) -> int:
        """Follow the first account's link and set its password."""
        status, _text, headers = self.ask(urllib.parse.urlsplit(link).path)
        place = headers.get("location", "")
        self.ask(place)
        status, _text, _headers = self.ask(place, {"new_password1": password, "new_password2": password})
        return status

    def sign_in(self, name: str, password: str) -> int:
        self.ask("/account/sign-in/")
        return self.ask("/account/sign-in/", {"username": name, "password": password})[0]


def certificate(folder: Path) -> Path:
    """An authority of our own and a certificate by it; return the authority's."""
    folder.mkdir(parents=True, exist_ok=True)
    authority, key, asked, signed = (folder / name for name in ("ca.pem", "ca.key", "asked.csr", "fullchain.pem"))
    run("openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "30", "-subj", "/CN=Stand-in authority",
        "-keyout", str(key), "-out", str(authority))  # fmt: skip
    run("openssl", "req", "-newkey", "rsa:2048", "-nodes", "-subj", f"/CN={NAME}", "-keyout", str(folder / "key.pem"),
        "-out", str(asked))  # fmt: skip
    (folder / "names").write_text(f"subjectAltName=DNS:{NAME}\n")
    run("openssl", "x509", "-req", "-in", str(asked), "-CA", str(authority), "-CAkey", str(key), "-CAcreateserial", "-days", "30",
        "-extfile", str(folder / "names"), "-out", str(signed))  # fmt: skip
    return authority


def give_certificate(machine: Machine, folder: Path) -> None:
    """Put the certificate where the page says that it belongs."""
    machine.do("install -d -m 700 /etc/ridgeback/tls")
    for name in ("fullchain.pem", "key.pem"):
        shutil.copy(folder / name, machine.root / "etc/ridgeback/tls" / name)
    machine.do("chmod 600 /etc/ridgeback/tls/key.pem")


@contextlib.contextmanager
def mail_server() -> Iterator[list[str]]:
    """A mail server that keeps what it is sent."""
    from aiosmtpd.controller import Controller

    class Keeps:
        def __init__(self) -> None:
            self.kept: list[str] = []

        async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:  # noqa: N802 - aiosmtpd's own name
            self.kept.append(envelope.content.decode(errors="replace"))
            await asyncio.sleep(0)
            return "250 kept"

    keeps = Keeps()
    controller = Controller(keeps, hostname=HOST, port=2525)
    controller.start()
    try:
        yield keeps.kept
    finally:
        controller.stop()


def one(base: Path) -> None:
    """One machine: set up, used, its processes looked at, backed up, restored, exchanged for a newer release and back."""
    authority = certificate(WORK / "tls")
    machine = Machine("one")
    machine.make(base)
    machine.boot()
    try:
        # A clone that may get a newer commit, standing in for the address that the program is had from.
        run("git", "clone", "-q", "--bare", str(ROOT), str(machine.root / "srv/ridgeback.git"))
        machine.do(
            "git config --system --add safe.directory '*' 2>/dev/null || printf '[safe]\\n\\tdirectory = *\\n' > /etc/gitconfig"
        )
        machine.values = {"SOURCE": "/srv/ridgeback.git", "NAME": NAME, "MAIL_URL": f"smtp://{HOST}:2525"}
        (machine.root / "etc/hosts").write_text(f"127.0.0.1 localhost\n127.0.1.1 one\n{HOST} mail\n")
        with mail_server() as letters:
            _follow_one(machine, letters)
        visitor = Visitor(machine.address, authority)
        look_at_one(machine, visitor, letters)
        keep_and_bring_back(machine, visitor)
        exchange(machine, visitor)
    finally:
        machine.stop()


def _follow_one(machine: Machine, letters: list[str]) -> None:
    for number, block in enumerate(blocks("one"), 1):
        if "nginx -t" in block:
            give_certificate(machine, WORK / "tls")
        began = time.monotonic()
        said = machine.do(block)
        print(f"        one, block {number}: {time.monotonic() - began:.0f} s", flush=True)
        if "firstaccount" in block:
            machine.values["LINK"] = said.split()[-1]
    check("a letter goes out by the mail server", bool(letters), len(letters))


def look_at_one(machine: Machine, visitor: Visitor, letters: list[str]) -> None:
    status, text, headers = visitor.ask("/account/sign-in/", patience_s=120)
    check("the page to sign in comes by TLS", status == 200 and "Ridgeback" in text, status)
    check("browsers are told to come by TLS alone", "max-age=31536000" in headers.get("strict-transport-security", ""))
    plain = http.client.HTTPConnection(machine.address, 80, timeout=10)
    plain.request("GET", "/", headers={"Host": NAME})
    answer = plain.getresponse()
    check("who comes without TLS is sent to it", answer.status == 301 and str(answer.getheader("location")).startswith("https://"))
    check("another name is turned away", _other_name(machine) == 400, _other_name(machine))
    check("the figures are not for the world", visitor.ask("/metrics")[0] == 404)
    check("the first account sets its password by its link", visitor.set_password(machine.values["LINK"], PASSWORD) == 302)
    check("the link is good once", visitor.ask(urllib.parse.urlsplit(machine.values["LINK"]).path)[0] != 302)
    check("and signs in", visitor.sign_in("keeper", PASSWORD) == 302)
    status, text, _headers = visitor.ask("/habitats/")
    check("there is no demo", status == 200 and "Saltmarsh" not in text, status)
    users = machine.do("ps -eo user:20=,args= | grep -E '/opt/ridgeback' | grep -v grep | awk '{print $1}' | sort -u")
    check("nothing of it runs as root", users.split() == ["ridgeback"], users.split())
    told = machine.do("for p in $(pgrep -u ridgeback); do tr '\\0' '\\n' < /proc/$p/environ; done | sort -u")
    key = (machine.root / "etc/ridgeback/secrets/secret-key").read_text().strip()
    check("no environment holds the secret key", key not in told)
    exposed = machine.do("systemd-analyze security --no-pager ridgeback-web.service | tail -1", may_fail=True)
    level = re.search(r"(\d+\.\d)", exposed)
    check("systemd's own measure of what the service may do is low", level is not None and float(level[1]) < 3.0, exposed.strip())
    log = machine.do("journalctl -u ridgeback-web --no-pager -o cat | tail -40")
    check("the journal has a line for each request", '"route": "accounts:sign-in"' in log)
    check("and nothing of anybody", not any(part in log for part in (HOST, "keeper", NAME)))
    machine.do("kill -9 $(pgrep -u ridgeback -f 'ridgeback.serve' | head -1)")
    answers = [visitor.ask("/health")[0] for _ in range(10)]
    check("its first process killed, the next answer and nobody is refused", set(answers) == {200}, answers)
    machine.do("systemctl restart --no-block ridgeback-web.service")
    answers = [visitor.ask("/account/sign-in/")[0] for _ in range(30)]
    check("nobody is refused while it is started again", set(answers) <= {200, 302}, sorted(set(answers)))


PASSWORD: Final = secrets.token_urlsafe(18)


def _other_name(machine: Machine) -> int:
    asked = (
        "curl -sk -o /dev/null -w '%{http_code}' -H 'Host: elsewhere.example' -H 'X-Forwarded-Proto: https' http://127.0.0.1:8000/"
    )
    return int(machine.do(asked))


def keep_and_bring_back(machine: Machine, visitor: Visitor) -> None:
    said = machine.follow("one-backup")
    check("a backup is made and verified", "verified" in said, said.strip().splitlines()[:1])
    machine.do("systemctl start ridgeback-backup.service")
    there = machine.do("ls /var/backups/ridgeback")
    check("the timer's service makes the day's", "-daily.zip" in there, there.split())
    machine.follow("one-restore")
    check("brought back, the account is there", visitor.ask("/habitats/", patience_s=60)[0] == 200)
    machine.do('runuser -u postgres -- psql -c "drop database ridgeback_before"')


def exchange(machine: Machine, visitor: Visitor) -> None:
    """A newer release with another migration, and back."""
    machine.do(
        """
        git clone -q /srv/ridgeback.git /tmp/newer && cd /tmp/newer
        git config user.email stand-in@example.org && git config user.name Stand-in
        printf 'a newer release\\n' >> CHANGELOG.md && git commit -qam "A newer release" && git push -q
        """
    )
    before = machine.do("readlink -f /opt/ridgeback/current").strip()
    answers: list[int] = []
    going = threading.Event()

    def goes_on_asking() -> None:
        while not going.is_set():
            with contextlib.suppress(OSError, http.client.HTTPException):
                answers.append(visitor.ask("/health")[0])
            time.sleep(0.2)

    asking = threading.Thread(target=goes_on_asking)
    asking.start()
    machine.follow("one-upgrade")
    going.set()
    asking.join()
    check("the newer release runs", machine.do("readlink -f /opt/ridgeback/current").strip() != before)
    check("meanwhile nobody was refused", set(answers) == {200}, f"{len(answers)} asked, {sorted(set(answers))}")
    check("whoever was signed in stays so", visitor.ask("/habitats/", patience_s=30)[0] == 200)
    machine.follow("one-back")
    check(
        "and back again",
        machine.do("readlink -f /opt/ridgeback/current").strip() == before and visitor.ask("/habitats/", patience_s=60)[0] == 200,
    )


def several(base: Path) -> None:
    """Six machines: a session goes on whichever web machine answers, also while one is killed, and pages are read from the copy."""
    authority = certificate(WORK / "tls")
    machines = {name: Machine(name) for name in PLACES if name != "one"}
    values = {name.upper(): machine.address for name, machine in machines.items()}
    values |= {
        "SOURCE": "/srv/ridgeback.git",
        "NAME": NAME,
        "PASSWORD": secrets.token_hex(24),
        "NETWORK": f"{HOST.rsplit('.', 1)[0]}.0/24",
    }
    values |= {"SECRET_KEY": secrets.token_urlsafe(48)}
    try:
        for machine in machines.values():
            machine.make(base)
            machine.boot()
            machine.values = values
            machine.do("apt-get update -qq && apt-get install -y -qq git >/dev/null")
            run("git", "clone", "-q", "--bare", str(ROOT), str(machine.root / "srv/ridgeback.git"))
            machine.do("git config --system --add safe.directory '*' && git clone -q /srv/ridgeback.git /opt/ridgeback/source")
        machines["db"].follow("db")
        machines["copy"].follow("copy")
        machines["jobs"].follow("jobs")
        for name in ("web1", "web2"):
            machines[name].follow("web")
        give_certificate(machines["front"], WORK / "tls")
        machines["front"].follow("front")
        look_at_several(machines, Visitor(machines["front"].address, authority))
    finally:
        for machine in machines.values():
            machine.stop()


def look_at_several(machines: dict[str, Machine], visitor: Visitor) -> None:
    link = machines["jobs"].do("ridgeback firstaccount --name keeper").split()[-1]
    check("the page to sign in comes", visitor.ask("/account/sign-in/", patience_s=120)[0] == 200)
    check("the first account sets its password", visitor.set_password(link, PASSWORD) == 302)
    check("and signs in", visitor.sign_in("keeper", PASSWORD) == 302)
    for _ in range(20):
        visitor.ask("/habitats/")
    asked = {name: _requests(machines[name]) for name in ("web1", "web2")}
    check("both web machines answer, with one session", all(asked.values()), asked)
    time.sleep(12)  # whoever wrote reads from the database itself for ten seconds
    visitor.cookies.pop("wrote", None)
    before = _reads(machines["copy"])
    for _ in range(10):
        visitor.ask("/habitats/")
    time.sleep(2)
    check("pages are read from the copy", _reads(machines["copy"]) > before, _reads(machines["copy"]) - before)
    wrong = Visitor(visitor.address, WORK / "tls" / "ca.pem")
    wrong.ask("/account/sign-in/")
    statuses = [wrong.ask("/account/sign-in/", {"username": "keeper", "password": "wrong"})[0] for _ in range(12)]
    check("guesses at both together are slowed down", 429 in statuses or 403 in statuses, statuses)
    machines["web2"].stop(hard=True)
    began = time.monotonic()
    answers = [visitor.ask("/habitats/")[0] for _ in range(20)]
    check(
        "one web machine dead: every page comes from the other", set(answers) == {200}, f"{time.monotonic() - began:.1f} s for 20"
    )
    machines["copy"].stop(hard=True)
    began, answers = time.monotonic(), [visitor.ask("/habitats/")[0] for _ in range(10)]
    took = f"{time.monotonic() - began:.1f} s for 10, {sorted(set(answers))}"
    if not check("the copy dead: pages come from the database itself", set(answers) == {200}, took):
        print(machines["web1"].do("journalctl -u ridgeback-web --no-pager -o cat | tail -30; ss -tno", may_fail=True), flush=True)
    machines["db"].do("systemctl restart pgbouncer")
    answers = [visitor.ask("/habitats/")[0] for _ in range(10)]
    check("the pooler started again: pages come", set(answers[1:]) == {200}, answers)


def _requests(machine: Machine) -> int:
    return int(machine.do("journalctl -u ridgeback-web --no-pager -o cat | grep -c '\"route\"' || true"))


def _reads(machine: Machine) -> int:
    asked = "select xact_commit from pg_stat_database where datname = 'ridgeback'"
    return int(machine.do(f'runuser -u postgres -- psql -At -c "{asked}"'))


def main() -> int:
    parser = argparse.ArgumentParser(prog="benchmarks/deployed.py")
    parser.add_argument("what", choices=["one", "several"])
    parser.add_argument("--keep", action="store_true", help="leave the machines' folders for looking at")
    arguments = parser.parse_args()
    if os.geteuid() != 0:
        raise SystemExit("It makes machines: run it as root.")
    WORK.mkdir(exist_ok=True)
    base, began = bare(), time.monotonic()
    with network():
        try:
            (one if arguments.what == "one" else several)(base)
        finally:
            if not arguments.keep:
                for name in PLACES:
                    Machine(name).remove()
    print(f"{'All of it holds' if not failed else f'{len(failed)} of it failed'} ({time.monotonic() - began:.0f} s).")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
