"""Reads what nobody should write, grown by what it reaches in the readers (coverage-guided fuzzing, atheris on libFuzzer).

Run by hand: `PYTHONPATH=. python3 benchmarks/guided.py [seconds for each reader] [reader ...]`. It makes its own environment from
requirements/fuzzing.lock, begins with whole files and broken ones of tests/anyfile.py, and needs no database.

Where the project's own fuzzers draw what they know to be nasty, this one keeps whatever comes to a line that none came to before.
A reader may refuse a text by the errors that its docstring names and by nothing else, within ten seconds and a gigabyte; what it
takes is finite, and written and read again it is the same. Figures: docs/reliability.md.
"""

import base64
import contextlib
import dataclasses
import io
import json
import math
import os
import subprocess
import sys
import tempfile
import traceback
import zlib
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from launch.machine import ROOT, ensure_venv

SLOW_S, MOST_MB, MOST_BYTES = 10, 1000, 40_000
Reader = Callable[[bytes], None]


def text_of(raw: bytes) -> str:
    return raw.decode(errors="surrogateescape")


def same(first: Any, second: Any) -> None:
    if first != second:
        raise AssertionError("written and read again it is another")


def finite(value: float) -> None:
    if not math.isfinite(value):
        raise AssertionError(f"it is taken for {value}")


def readers() -> dict[str, Reader]:
    """Each reader by its name, given bytes; it raises what it must not."""
    from zoneinfo import ZoneInfo

    from husbandry.errors import HusbandryError
    from husbandry.numerals import NumberError
    from husbandry.plan import reading as plans
    from husbandry.species import reading as profiles
    from husbandry.species.writing import to_toml
    from husbandry.units import UNITS, UnitError, parse
    from ridgeback import units as keepers_units
    from ridgeback.keeping import from_table
    from ridgeback.keeping.documents_in import Document
    from ridgeback.keeping.photos import NoPhotoError, made_small
    from ridgeback.keeping.shapes import UnreadableDaybookError
    from ridgeback.keeping.with_photos import unpacked
    from ridgeback.pantry import exchange
    from ridgeback.reviewing import tokens
    from ridgeback.series import tables
    from ridgeback.units import METRIC, US
    from ridgeback.web import typed

    names, marks = sorted(UNITS), ("", ".", ",")

    def plan(raw: bytes) -> None:
        with contextlib.suppress(plans.PlanProblems):
            found = plans.read_text(raw)
            same(found, plans.read_text(found.model_dump_json()))

    def profile(raw: bytes) -> None:
        with contextlib.suppress(profiles.ProfileProblems):
            found = profiles.read_text(text_of(raw))
            same(found, profiles.read_text(to_toml(found)))

    def quantity(raw: bytes) -> None:
        if len(raw) > 1:
            with contextlib.suppress(UnitError):
                finite(parse(text_of(raw[1:]), names[raw[0] % len(names)], marks[raw[0] % 3]))

    def sizes(raw: bytes) -> None:
        with contextlib.suppress(UnitError):
            for one in keepers_units.three_sizes(text_of(raw), US if raw[:1] > b"m" else METRIC):
                finite(one)

    def amount(raw: bytes) -> None:
        with contextlib.suppress(NumberError):
            finite(typed.amount(text_of(raw[1:]), ("g", "piece", "")[sum(raw[:1]) % 3]))

    def day(raw: bytes) -> None:
        with contextlib.suppress(NumberError):
            found = typed.day(text_of(raw))
            same(found, typed.day(found.isoformat()))

    def clock_time(raw: bytes) -> None:
        with contextlib.suppress(NumberError):
            found = typed.clock_time(text_of(raw))
            same(found, typed.clock_time(f"{found:%H:%M}"))

    def daybook(raw: bytes) -> None:
        with contextlib.suppress(UnreadableDaybookError):
            found = Document(lambda: io.BytesIO(raw))
            if sum(1 for _one in found.entries()) != found.count:
                raise AssertionError("it counts other entries than it gives")

    def table(raw: bytes) -> None:
        read = object.__new__(from_table.EntryTable)  # without a room, and so without names of animals
        read.opened, read.units = (lambda: io.BytesIO(raw)), METRIC
        read.animals = read.habitats = from_table.Names(list)
        with contextlib.suppress(UnreadableDaybookError):
            for one in read.lines():
                json.dumps(one.payload, allow_nan=False)

    def archive(raw: bytes) -> None:
        with contextlib.suppress(UnreadableDaybookError), unpacked(io.BytesIO(raw)) as found:
            found.look_through(lambda _done: None)
            found.document().read()

    def pantry(raw: bytes) -> None:
        from datetime import date

        with contextlib.suppress(exchange.CsvFaults):
            for row in exchange.read(raw, date(2026, 11, 30)):
                finite(row.amount)

    def log(raw: bytes) -> None:
        with contextlib.suppress(tables.TableError):
            found = tables.recognise(raw)
            kinds = [column.kind for column in found.columns]
            moment = (kinds.index("moment"),) if "moment" in kinds else (kinds.index("date"), kinds.index("clock"))
            values = [at for at, kind in enumerate(kinds) if kind == "value"]
            for row in tables.read(found, moment, values, found.order or "dm", ZoneInfo("Europe/Berlin")):
                for value in row.values.values():
                    finite(value)

    def review(raw: bytes) -> None:
        found = tokens.told_of(base64.urlsafe_b64encode(zlib.compress(raw, 9)).decode().rstrip("="))  # past what packs it
        if found is not None and len(packed := tokens.text_of(found)) <= tokens.LONGEST:
            same(found, tokens.told_of(packed))

    def photo(raw: bytes) -> None:
        with contextlib.suppress(NoPhotoError):
            made = made_small(raw)
            same((made.width, made.height), tuple(dataclasses.astuple(made_small(made.jpeg))[1:]))

    assert issubclass(UnitError, HusbandryError)
    return {name: one for name, one in locals().items() if callable(one) and getattr(one, "__module__", "") == __name__}


def seeds(folder: Path, name: str) -> None:
    """What it begins with: whole files and broken ones, and what people type."""
    import zipfile

    from PIL import Image

    from tests.anyfile import DAYBOOK, LOG, NOTEBOOK, files
    from tests.plans import document

    plain: dict[str, list[str]] = {
        "quantity": ["a4 ft", "b3 ft 6 in", "c2½ ft", "d1,150 g", "e88F", "f5 ft 2", "g~ 1.5 m2", "h−3 °C", "i12 %", "j1 1/2 lb"],
        "sizes": ["90 × 45 × 45 in", "4x2x2 ft", "3 ft x 18 in x 18 in", "120 by 60 by 60 cm"],
        "amount": ["a12", "b2 oz", "c€ 27,50", "d½", "e10 crickets"],
        "day": ["2026-11-30", "30.11.2026", "11/30/2026", "30 Nov 2026", "1st of May 2026", "3 March 26"],
        "clock_time": ["8:30", "8pm", "8.30 pm", "20h15", "0830", "noon"],
        "plan": [json.dumps(document())],
        "daybook": [json.dumps(DAYBOOK)],
        "table": [NOTEBOOK],
        "log": [LOG],
    }
    kinds = {"plan": "plan", "profile": "profile", "daybook": "daybook", "pantry": "pantry", "log": "readings"}
    found = [one.encode() for one in plain.get(name, [])]
    if name in kinds:
        found += [one.text.encode(errors="surrogatepass") for one in files(7, 900) if one.to == kinds[name]][:60]
    if name == "review":
        from husbandry.setup_review.told import Told

        told = {"species": "corn-snake", "length_m": 0.6, "width_m": 0.4, "height_m": 0.4, "heaters": [{"kind": "mat"}]}
        found.append(Told.model_validate(told).model_dump_json(exclude_defaults=True).encode())
    if name in ("photo", "archive"):
        picture = Image.effect_noise((24, 16), 60).convert("RGB")
        for form in ("JPEG", "PNG", "WEBP"):
            out = io.BytesIO()
            picture.save(out, form)
            if name == "photo":
                found.append(out.getvalue())
            else:
                packed_up = io.BytesIO()
                with zipfile.ZipFile(packed_up, "w", zipfile.ZIP_DEFLATED) as one:
                    one.writestr("daybook.json", json.dumps(DAYBOOK))
                    one.writestr("photos/1.jpg", out.getvalue())
                found.append(packed_up.getvalue())
    for place, raw in enumerate(found):
        (folder / f"seed-{place:03}").write_bytes(raw)


def grown(name: str, seconds: int, folder: Path) -> None:
    """In a process of its own: grow inputs for one reader, and keep one of each fault by the place it was raised at."""
    import atheris  # type: ignore[import-not-found]

    with atheris.instrument_imports(include=["husbandry", "ridgeback", "tomllib", "dateutil"]):
        os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
        os.environ.setdefault("DATABASE_URL", "postgres://nobody@127.0.0.1:1/none")
        import django

        django.setup()
        reader = readers()[name]
    begin, faults = folder / "begin", folder / "faults"
    for one in (begin, faults, folder / "grown"):
        one.mkdir(parents=True, exist_ok=True)
    seeds(begin, name)
    seen: set[str] = set()

    def ask(raw: bytes) -> None:
        try:
            reader(raw)
        except Exception as error:
            frames = traceback.extract_tb(error.__traceback__)
            own = [frame for frame in frames if str(ROOT) in frame.filename and ".venv" not in frame.filename] or frames
            where = f"{type(error).__name__} at {Path(own[-1].filename).name}:{own[-1].lineno}"
            if where not in seen:
                seen.add(where)
                (faults / f"{len(seen):02}.bytes").write_bytes(raw)
                print(f"FAULT  {name}: {where}: {str(error)[:200]!r}  by {raw[:160]!r}", flush=True)

    limits = [f"-max_total_time={seconds}", f"-timeout={SLOW_S}", f"-rss_limit_mb={MOST_MB}", f"-max_len={MOST_BYTES}"]
    quiet = ["-verbosity=0", "-print_final_stats=1", f"-artifact_prefix={faults}/"]
    atheris.Setup(["guided", *limits, *quiet, str(folder / "grown"), str(begin)], ask)
    atheris.Fuzz()


def campaign(seconds: int, wanted: list[str]) -> Iterator[str]:
    """One reader after the other, each in a process of its own; yields a line for each."""
    python = ensure_venv(ROOT / ".venv-fuzzing", ROOT / "requirements" / "fuzzing.lock")
    folder = Path(tempfile.mkdtemp(prefix="ridgeback-guided-"))
    environment = {**os.environ, "PYTHONPATH": str(ROOT), "OPENBLAS_NUM_THREADS": "1"}
    for name in wanted:
        command = [str(python), __file__, "--grow", name, str(seconds), str(folder / name)]
        done = subprocess.run(command, env=environment, capture_output=True, text=True)
        stats = [line.removeprefix("stat::").split(":", 1) for line in done.stderr.splitlines() if line.startswith("stat::")]
        told = {key: value.strip() for key, value in stats}
        for line in done.stdout.splitlines():
            if line.startswith("FAULT"):
                yield line
        kept = sum(1 for _one in (folder / name / "grown").glob("*"))
        ended = "" if done.returncode == 0 else f"; it ended with {done.returncode}: {done.stderr[-1500:]}"
        yield f"{name}: {told.get('number_of_executed_units', '0')} texts, {kept} kept, {told.get('peak_rss_mb', '?')} MB{ended}"
    yield f"Kept in {folder}"


NAMES = ("plan", "profile", "quantity", "sizes", "amount", "day", "clock_time", "daybook", "table", "archive", "pantry", "log",
         "review", "photo")  # fmt: skip

if __name__ == "__main__":
    if sys.argv[1:2] == ["--grow"]:
        grown(sys.argv[2], int(sys.argv[3]), Path(sys.argv[4]))
    else:
        for said in campaign(int(sys.argv[1]) if len(sys.argv) > 1 else 60, sys.argv[2:] or list(NAMES)):
            print(said, flush=True)
