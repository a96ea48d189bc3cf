"""A scanner for web applications crawls the running program, signed in, and sends what breaks pages to every field (wapiti).

Run by hand, as root: `PYTHONPATH=. .venv-test/bin/python benchmarks/scanned.py [minutes]`. It starts ./start with
the demo on a port and a data folder of its own, installs Debian's wapiti where it is missing, and stops both again. What it
writes is thrown away. It knows nothing of the program but an address and a session, unlike the project's own tests.

Printed are what the scanner says it found and every fault that the program logged meanwhile. Figures: docs/reliability.md.
"""

import http.cookiejar
import json
import os
import re
import signal
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.parse
import urllib.request
from collections import Counter
from pathlib import Path

from launch.machine import ROOT, install_packages

PORT = "8068"
# What asks addresses outside this machine, and lists of other programs' faults, say nothing here.
MODULES = (
    "cookieflags,crlf,csp,csrf,exec,file,http_headers,methods,permanentxss,redirect,shellshock,sql,timesql,xss,backup,htaccess"
)
# What would end the session that it works by, or the account.
NOT_ASKED = ("sign-out", "/account/signed-in", "/account/password", "/account/second", "/account/people", "delete", "set-aside")

# Debian 12's writes the flags of a pattern for what is left out where this Python does not read them.
SCANNER = (
    "/usr/bin/python3",
    "-c",
    "import fnmatch, re, sys, wapitiCore.net.crawler as crawler; sys.argv[0] = 'wapiti';"
    "crawler.wildcard_translate = lambda pattern: re.compile(fnmatch.translate(pattern));"
    "from wapitiCore.main.wapiti import wapiti_main; wapiti_main()",
)


def signed_in(base: str, password: str) -> http.cookiejar.CookieJar:
    """Sign in as the demo's keeper and return the cookies."""
    jar = http.cookiejar.CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
    page = opener.open(f"{base}/account/sign-in/").read().decode()
    found = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page)
    assert found is not None
    sent = {"username": "keeper", "password": password, "csrfmiddlewaretoken": found[1]}
    request = urllib.request.Request(f"{base}/account/sign-in/", urllib.parse.urlencode(sent).encode(), {"Referer": base})
    opener.open(request)
    assert any(cookie.name == "sessionid" or "session" in cookie.name for cookie in jar), [cookie.name for cookie in jar]
    return jar


def until_well(base: str) -> None:
    until = time.monotonic() + 900
    while time.monotonic() < until:
        try:
            urllib.request.urlopen(f"{base}/health", timeout=2)
        except (OSError, urllib.error.URLError):
            time.sleep(0.5)
        else:
            return
    raise SystemExit("the program did not start")


def main(minutes: int) -> None:
    install_packages(["wapiti"] if not Path("/usr/bin/wapiti").exists() else [])
    data = Path(tempfile.mkdtemp(prefix="ridgeback-scanned-"))
    data.chmod(0o755)
    base = f"http://127.0.0.1:{PORT}"
    environment = {
        **os.environ,
        "PORT": PORT,
        "RIDGEBACK_DATA": str(data),
        "RIDGEBACK_RATES": "false",
        "RIDGEBACK_ACCESS_LOG": "true",
    }
    environment["RIDGEBACK_LOG"] = "json"
    log = data / "told.log"
    with log.open("w") as out:
        program = subprocess.Popen([str(ROOT / "start")], env=environment, stdout=out, stderr=out)
        try:
            until_well(base)
            jar = signed_in(base, (data / "demo-password").read_text().strip())
            cookies = "; ".join(f"{cookie.name}={cookie.value}" for cookie in jar)
            command = [*SCANNER, "-u", f"{base}/habitats/", "--scope", "domain", "-H", f"Cookie: {cookies}", "-m", MODULES]
            command += [
                "--flush-session",
                "--store-session",
                str(data),
                "--no-bugreport",
                "-f",
                "json",
                "-o",
                str(data / "found.json"),
            ]
            command += ["--max-scan-time", str(minutes * 60 // 3), "--max-attack-time", str(minutes * 60 // 12), "-v", "1"]
            command += ["--max-files-per-dir", "60", "--max-parameters", "60", "--timeout", "30"]
            for part in NOT_ASKED:
                command += ["-x", f"{base}/*{part}*"]
            done = subprocess.run(command, capture_output=True, text=True, timeout=minutes * 60 * 2 + 600)
            (data / "scan.log").write_text(done.stdout + done.stderr)
            if done.returncode != 0:
                raise SystemExit(done.stderr[-2000:])
        finally:
            program.send_signal(signal.SIGINT)
            program.wait()
    found = json.loads((data / "found.json").read_text())
    print(f"Crawled {found['infos'].get('crawled_pages_nbr', '?')} addresses.")
    for kind in ("vulnerabilities", "anomalies"):
        for name, all_of_it in found[kind].items():
            for one in all_of_it[:10]:
                print(f"{kind}: {name}: {one['method']} {one['path']} {one['parameter']}: {one['info'][:200]}")
    lines = [json.loads(line) for line in log.read_text().splitlines() if line.startswith("{")]
    asked = [one for one in lines if one.get("from") == "ridgeback.access"]
    reached = {(one["route"], one["method"]) for one in asked if one["status"] not in (404, 405)}
    written = {route for route, method in reached if method == "POST"}
    print(f"{len(asked)} requests, by status {dict(Counter(one['status'] for one in asked).most_common())}, of")
    print(f"{len({route for route, _method in reached})} pages, {len(written)} of them written to.")
    faults = Counter((one.get("route", ""), one["fault"], one.get("at_lines", "")[-160:]) for one in lines if "fault" in one)
    for told, times in faults.most_common():
        print("FAULT", times, *told)
    print(f"All of it stands in {data}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 30)
