"""Files nobody should send: plans, profiles, pantries, rigs, daybooks and readings, broken in every way we know, from a seed."""

import copy
import json
import random
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

from husbandry.species.book import shipped
from husbandry.species.writing import to_toml
from tests.plans import document

# What breaks parsers: depth, length, digits, halves of characters, numbers that are none, dates of no lifetime, zones.
NASTY: Final = (
    "\0", "\ud800", "é" * 3, "nan", "NaN", "inf", "-Infinity", "1e999", "9" * 400, "0001-01-01",
    "9999-12-31", "08:00+02:00",
    "2026-11-24T08:00:00Z", "1_000", "0x10", "'''", '"""', "[[", "]]", "{" * 40, "[" * 200, "a." * 60, "=", "\\u0000",
    "\\ud83d", "\r", "\u2028",
    "-1", "1,150", "²", "<script>", "%s%(x)s{}", "../../etc", "' or 1=1 --", "true", "null", "=cmd()", ";",
    ",,,,,,,,,,,,", "\t" * 50, " ",
)  # fmt: skip
VALUES: Final[tuple[Any, ...]] = (
    None, True, -1, 0, 1e308, -1e308, 5e-324, 10**30, "", "x" * 5000, [], {}, [[]], [None] * 60, {"a": {"b": {}}}, "0001-01-01",
    "9999-12-31",
    "08:00Z", "nan", "\0", 1.5, "1,150", ["x"] * 300,
)  # fmt: skip
CSV: Final = (
    "food,kind,unit,amount,received,best_before,pack_size,pack_price,lead_days\r\n"
    "mouse/adult,frozen,piece,12,2026-11-01,,25,27.5,4\r\ncricket,live,piece,250,2026-11-20,2026-12-01,250,9,3\r\n"
)

NOTEBOOK: Final = (
    "date;time;kind;what;note;code;data\r\n3 March 2026;08:00;weight;2.05 oz;after a shed;;\r\n"
    '2026-03-09;;shed;in pieces;;;\r\n2026-03-10;12:30;note;;;note;"{""note"": ""quiet""}"\r\n'
)
LOG: Final = (
    "Logger 7\r\nWhen,Warm end (°F),RH %\r\n2026-11-01 10:00:00,77.5,41\r\n2026-11-01 10:10:00,78.2,40\r\n"
    "2026-11-01 10:20:00,-- ,39\r\n2026-11-01 10:30:00,79.0,39.5\r\n"
)
DAYBOOK: Final[dict[str, Any]] = {
    "format": "ridgeback-daybook/1", "room": "A room",
    "animals": [
        {"key": 4, "name": "Sedge", "species": "corn-snake", "sex": "female", "hatched": "2024-05-01", "mother_id": None,
         "residences": [{"habitat": "Test shelf", "since": "2024-06-01", "until": None, "why": "arrival"}]},
        {"key": 5, "name": "Thrift", "species": "corn-snake", "left_on": "2026-02-01", "left_by": "lent", "mother_id": 4},
    ],
    "entries": [
        {"key": 1, "kind": "breeding.clutch", "at": "2026-01-01T08:00:00+00:00", "animal": 4, "habitat": "Test shelf",
         "payload": {"eggs": 12, "good": 10, "partner": 5, "incubator_c": 28.0}},
        {"key": 2, "kind": "breeding.candled", "at": "2026-01-20T08:00:00+00:00", "animal": 4, "payload": {"clutch": 1, "good": 9}},
        {"key": 3, "kind": "animal.weighed", "at": "2026-02-01T08:00:00+00:00", "animal": 5, "payload": {"mass_kg": 0.3}},
        {"key": 6, "kind": "animal.weighed", "at": "2026-02-01T08:00:00+00:00", "animal": 5, "payload": {"mass_kg": 0.31},
         "replaces": 3, "taken_back_at": None, "written_at": "2026-02-02T08:00:00+00:00"},
        {"key": 7, "kind": "animal.fed", "at": "2026-02-03T08:00:00+00:00", "habitat": "Test shelf",
         "payload": {"outcome": "eaten", "foods": [["mouse/hopper", 1, 9.0]], "due": "2026-02-03"}},
    ],
}  # fmt: skip


@dataclass(frozen=True)
class AnyFile:
    """What is sent where: "plan", "profile", "pantry", "rig", "daybook" or "readings"."""

    to: str
    text: str


def files(seed: int, count: int) -> Iterator[AnyFile]:
    """So many files, the same for one seed."""
    dice = random.Random(seed)
    profiles = list(shipped().values())
    for _place in range(count):
        kind = dice.choice(("plan", "plan", "profile", "profile", "pantry", "rig", "daybook", "daybook", "readings", "readings"))
        if kind == "plan":
            text = json.dumps(_spoilt(document(), dice))
        elif kind == "profile":
            profile = dice.choice(profiles)
            text = to_toml(profile) if dice.random() < 0.5 else json.dumps(_spoilt(profile.model_dump(mode="json"), dice))
        elif kind == "pantry":
            text = CSV * dice.choice((1, 1, 1, 200))
        elif kind == "daybook":
            text = json.dumps(_spoilt(DAYBOOK, dice)) if dice.random() < 0.6 else NOTEBOOK * dice.choice((1, 1, 50))
        elif kind == "readings":
            text = LOG * dice.choice((1, 1, 40))
        else:
            text = json.dumps(_spoilt({"heaters": document()["heaters"], "uv_lamps": document()["uv_lamps"]}, dice))
        yield AnyFile(kind, _mangled(text, dice))


def _spoilt(value: Any, dice: random.Random) -> Any:
    """The same data with a few of its values in disorder."""
    data = json.loads(json.dumps(value))
    for _turn in range(dice.choice((0, 1, 1, 2, 5))):
        place: Any = data
        while isinstance(place, dict | list) and place:
            key = dice.choice(list(place) if isinstance(place, dict) else range(len(place)))
            if dice.random() < 0.35 or not isinstance(place[key], dict | list) or not place[key]:
                place[key] = copy.deepcopy(dice.choice(VALUES))
                break
            place = place[key]
    return data


def _mangled(text: str, dice: random.Random) -> str:
    """The same text with pieces cut, doubled, swapped and put in."""
    for _turn in range(dice.choice((0, 1, 1, 2, 4))):
        begin = dice.randrange(len(text) + 1)
        end = min(begin + dice.choice((1, 1, 5, 40, 2000)), len(text))
        what = dice.random()
        if what < 0.3:
            text = text[:begin] + dice.choice(NASTY) + text[end if dice.random() < 0.5 else begin :]
        elif what < 0.5:
            text = text[:begin] + text[end:]
        elif what < 0.65:
            text = text[:end] + text[begin:end] * dice.choice((1, 3, 60)) + text[end:]
        elif what < 0.8:
            text = text[:begin] + text[begin:end][::-1] + text[end:]
        else:
            text = text[:begin] + dice.choice(NASTY) * dice.choice((1, 20, 900)) + text[begin:]
    return text[:400_000]
