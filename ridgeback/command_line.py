"""Ridgeback from a terminal, by its API: `python -m ridgeback.command_line habitats`.

It needs nothing but the standard library, and runs anywhere.

The address and the token stand in RIDGEBACK_ADDRESS and RIDGEBACK_TOKEN, so that no token stands in a list of processes.
"""

import argparse
import json
import os
import sys
import urllib.error
import urllib.request
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Final

LONGEST_S: Final = 60
FAILED, MISUSED = 1, 2
Ask = Callable[..., Any]


def asker(address: str, token: str) -> Ask:
    """Return what asks the API; raises RuntimeError with what is said to whoever sits there."""

    def ask(path: str, body: Any = None) -> Any:
        data = None if body is None else json.dumps(body).encode()
        headers = {"Authorization": f"Bearer {token}", "Content-Type": "application/json", "Idempotency-Key": uuid.uuid4().hex}
        request = urllib.request.Request(f"{address.rstrip('/')}/api/v1/{path}", data, headers)
        try:
            with urllib.request.urlopen(request, timeout=LONGEST_S) as answer:
                return json.load(answer)
        except urllib.error.HTTPError as error:
            raise RuntimeError(_told(error)) from None
        except OSError as error:
            raise RuntimeError(f"{address} does not answer: {error}") from None

    return ask


def _told(error: urllib.error.HTTPError) -> str:
    try:
        said = json.load(error)
    except ValueError:
        return f"It answered {error.code}."
    return "\n".join([said["error"], *(f"{one['path']}: {one['said']}" for one in said.get("problems", ()))])


def habitats(ask: Ask, _given: argparse.Namespace) -> None:
    """The habitats: key, name, species, version of the plan."""
    for one in ask("habitats"):
        print(one["id"], one["name"], one["species"], one["version"], sep="\t")


def animals(ask: Ask, _given: argparse.Namespace) -> None:
    """The animals: key, name, species, where."""
    for one in ask("animals"):
        print(one["id"], one["name"], one["species"], one["habitat"] or "", sep="\t")


def due(ask: Ask, given: argparse.Namespace) -> None:
    """What is due: day, habitat, what, with what; "late" where it was due before."""
    names = {one["id"]: one["name"] for one in ask("habitats")}
    for one in ask(f"due?days={given.days}"):
        food = " + ".join(part for part in (one["food"], *one["powders"]) if part)
        print(one["day"], names[one["habitat"]], one["words"], food, "late" if one["late"] else "", sep="\t")


def assess(ask: Ask, given: argparse.Namespace) -> None:
    """The assessment of a plan in a file, or (-) from standard input, as JSON; nothing is kept."""
    text = sys.stdin.read() if given.plan == "-" else Path(given.plan).read_text(encoding="utf-8")
    print(json.dumps(ask("assess", json.loads(text)), indent=2, ensure_ascii=False))


def plan(ask: Ask, given: argparse.Namespace) -> None:
    """The plan of a habitat, as JSON."""
    print(json.dumps(ask(f"habitats/{given.habitat}/plan")["plan"], indent=2, ensure_ascii=False))


def note(ask: Ask, given: argparse.Namespace) -> None:
    """Write a note on a habitat."""
    _write(ask, {"what": "note", "habitat": given.habitat, "value": given.text})


def weigh(ask: Ask, given: argparse.Namespace) -> None:
    """Write an animal's weight down ("612 g", "1 lb 6 oz"; bare numbers in the units of the token's keeper)."""
    _write(ask, {"what": "weigh", "animal": given.animal, "value": given.weight, "sure": given.sure})


def _write(ask: Ask, entry: dict[str, Any]) -> None:
    key, at = uuid.uuid4().hex, datetime.now(UTC).isoformat()
    answer = ask("entries", {"entries": [entry | {"key": key, "at": at}]})[0]
    if answer["state"] in ("refused", "asked"):
        again = " Say it with --sure." if answer["state"] == "asked" else ""
        raise RuntimeError(f"{answer['said']}{again}")
    print("written down" if answer["state"] == "written" else "was written down already")


def parser() -> argparse.ArgumentParser:
    """What may be typed."""
    made = argparse.ArgumentParser(prog="python -m ridgeback.command_line", description=(__doc__ or "").split("\n\n")[0])
    made.add_argument("--address", default=os.environ.get("RIDGEBACK_ADDRESS", "http://127.0.0.1:8000"))
    verbs = made.add_subparsers(dest="verb", required=True)

    def verb(work: Callable[[Ask, argparse.Namespace], None]) -> argparse.ArgumentParser:
        one = verbs.add_parser(work.__name__, help=(work.__doc__ or "").split(":")[0])
        one.set_defaults(work=work)
        return one

    verb(habitats)
    verb(animals)
    verb(due).add_argument("--days", type=int, default=1)
    verb(assess).add_argument("plan", help="a file, or - for standard input")
    verb(plan).add_argument("habitat", type=int)
    noted = verb(note)
    noted.add_argument("habitat", type=int)
    noted.add_argument("text")
    weighed = verb(weigh)
    weighed.add_argument("animal", type=int)
    weighed.add_argument("weight")
    weighed.add_argument("--sure", action="store_true", help="it is so, however far from the last weight")
    return made


def main(arguments: list[str] | None = None) -> int:
    """Do one thing; returns the exit code."""
    given = parser().parse_args(arguments)
    token = os.environ.get("RIDGEBACK_TOKEN", "")
    if not token:
        print("Put a token of the room into RIDGEBACK_TOKEN; an owner makes it on the room's page.", file=sys.stderr)
        return MISUSED
    try:
        given.work(asker(given.address, token), given)
    except RuntimeError as error:
        print(error, file=sys.stderr)
        return FAILED
    except (OSError, ValueError) as error:
        print(f"That file cannot be read: {error}", file=sys.stderr)
        return MISUSED
    return 0


if __name__ == "__main__":
    sys.exit(main())
