#!/usr/bin/env python3
"""Copy the front-end files from their npm packages into the tree, with version and licence.

Run by hand when a version is raised: `python scripts/vendor_frontend.py`. Nothing is fetched at run time.
"""

import json
import shutil
import subprocess
import tarfile
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
APPLICATION = ROOT / "ridgeback" / "static" / "vendor"
TESTS = ROOT / "tests" / "vendor"

# package and version -> (target folder, files below the package)
PACKAGES: dict[str, tuple[Path, list[str]]] = {
    "htmx.org@2.0.11": (APPLICATION / "htmx", ["dist/htmx.min.js", "LICENSE"]),
    "@alpinejs/csp@3.17.4": (APPLICATION / "alpine", ["dist/cdn.min.js"]),
    "bootstrap@5.3.9": (APPLICATION / "bootstrap", ["dist/css/bootstrap.min.css", "LICENSE"]),
    "@fontsource-variable/bitter@5.3.0": (
        APPLICATION / "bitter",
        ["files/bitter-latin-wght-normal.woff2", "files/bitter-latin-ext-wght-normal.woff2", "LICENSE"],
    ),
    "@fontsource-variable/source-sans-3@5.3.0": (
        APPLICATION / "source-sans-3",
        [
            "files/source-sans-3-latin-wght-normal.woff2",
            "files/source-sans-3-latin-ext-wght-normal.woff2",
            "LICENSE",
        ],
    ),
    "workbox-core@7.4.1": (APPLICATION / "workbox-core", ["build/workbox-core.prod.js", "LICENSE"]),
    "workbox-routing@7.4.1": (APPLICATION / "workbox-routing", ["build/workbox-routing.prod.js", "LICENSE"]),
    "workbox-strategies@7.4.1": (APPLICATION / "workbox-strategies", ["build/workbox-strategies.prod.js", "LICENSE"]),
    "tus-js-client@4.3.1": (APPLICATION / "tus-js-client", ["dist/tus.min.js", "LICENSE"]),
    "idb-keyval@6.3.0": (APPLICATION / "idb-keyval", ["dist/umd.js", "LICENCE"]),
    "accessible-autocomplete@3.0.1": (
        APPLICATION / "accessible-autocomplete",
        ["dist/accessible-autocomplete.min.js", "LICENSE.txt"],
    ),
    "fuse.js@6.6.2": (APPLICATION / "fuse", ["dist/fuse.basic.min.js", "LICENSE"]),
    "axe-core@4.14.1": (TESTS / "axe-core", ["axe.min.js", "LICENSE"]),
}


# How a file points at its map.
MAPS = {".css": "/*# sourceMappingURL=", ".js": "//# sourceMappingURL="}
# For a package that names the licence but brings no text of it.
MIT = """{name} is distributed under the MIT License.

Permission is hereby granted, free of charge, to any person obtaining a copy of this software and associated
documentation files (the "Software"), to deal in the Software without restriction, including without limitation the
rights to use, copy, modify, merge, publish, distribute, sublicense, and/or sell copies of the Software, and to permit
persons to whom the Software is furnished to do so, subject to the following conditions:

The above copyright notice and this permission notice shall be included in all copies or substantial portions of the
Software.

THE SOFTWARE IS PROVIDED "AS IS", WITHOUT WARRANTY OF ANY KIND, EXPRESS OR IMPLIED, INCLUDING BUT NOT LIMITED TO THE
WARRANTIES OF MERCHANTABILITY, FITNESS FOR A PARTICULAR PURPOSE AND NONINFRINGEMENT. IN NO EVENT SHALL THE AUTHORS OR
COPYRIGHT HOLDERS BE LIABLE FOR ANY CLAIM, DAMAGES OR OTHER LIABILITY, WHETHER IN AN ACTION OF CONTRACT, TORT OR
OTHERWISE, ARISING FROM, OUT OF OR IN CONNECTION WITH THE SOFTWARE OR THE USE OR OTHER DEALINGS IN THE SOFTWARE.
"""


def fetch(package: str, workdir: Path) -> Path:
    """Unpack the package below `workdir` and return its folder."""
    listing = subprocess.run(
        ["npm", "pack", "--silent", "--pack-destination", str(workdir), package],
        check=True,
        capture_output=True,
        text=True,
    )
    archive = workdir / listing.stdout.strip().splitlines()[-1]
    with tarfile.open(archive) as bundle:
        bundle.extractall(workdir, filter="data")
    return workdir / "package"


def main() -> None:
    for package, (target, files) in PACKAGES.items():
        with tempfile.TemporaryDirectory() as folder:
            source = fetch(package, Path(folder))
            shutil.rmtree(target, ignore_errors=True)
            target.mkdir(parents=True)
            for name in files:
                copied = target / Path(name).name
                shutil.copy(source / name, copied)
                if copied.suffix in MAPS:
                    # The map is not shipped, and hashed static files must not point at what is not there.
                    text, _mark, _map = copied.read_text().partition(MAPS[copied.suffix])
                    copied.write_text(text.rstrip() + "\n")
                if copied.name in ("LICENCE", "LICENSE.txt"):
                    copied.rename(target / "LICENSE")
            if not (target / "LICENSE").exists():
                (target / "LICENSE").write_text(MIT.format(name=package.rpartition("@")[0]))
            manifest = json.loads((source / "package.json").read_text())
            (target / "VERSION").write_text(f"{manifest['name']} {manifest['version']}, licence {manifest['license']}\n")
            print(f"{package} -> {target.relative_to(ROOT)}")


if __name__ == "__main__":
    main()
