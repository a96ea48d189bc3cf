"""What worked out rows were made by: a digest of the program and the book. Rows made by another one are made again."""

import hashlib
from functools import cache
from pathlib import Path

import husbandry

ENDINGS = (".py", ".toml", ".html")


@cache
def program() -> str:
    """The digest of everything that an answer is worked out and put into words by, once for each process."""
    digest = hashlib.sha256()
    for root in (Path(husbandry.__file__).parent, Path(__file__).parent):
        for path in sorted(path for path in root.rglob("*") if path.suffix in ENDINGS and "migrations" not in path.parts):
            digest.update(str(path.relative_to(root)).encode() + path.read_bytes())
    return digest.hexdigest()[:32]
