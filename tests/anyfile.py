"""Files nobody should send: plans, profiles, pantries and rigs, broken in every way we know, from a seed."""

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


@dataclass(frozen=True)
class AnyFile:
    """What is sent where: "plan", "profile", "pantry" or "rig"."""

    to: str
    text: str


def files(seed: int, count: int) -> Iterator[AnyFile]:
    """So many files, the same for one seed."""
    dice = random.Random(seed)
    profiles = list(shipped().values())
    for _place in range(count):
        kind = dice.choice(("plan", "plan", "profile", "profile", "pantry", "rig"))
        if kind == "plan":
            text = json.dumps(_spoilt(document(), dice))
        elif kind == "profile":
            profile = dice.choice(profiles)
            text = to_toml(profile) if dice.random() < 0.5 else json.dumps(_spoilt(profile.model_dump(mode="json"), dice))
        elif kind == "pantry":
            text = CSV * dice.choice((1, 1, 1, 200))
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
