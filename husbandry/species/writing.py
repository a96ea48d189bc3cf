"""A profile as TOML, in the style of the shipped files: a table for each part, an inline table for each leaf.

TOML libraries write either every leaf as a table of its own or everything inline; neither is read by a keeper
(docs/decisions/0011).
"""

import json
from typing import Any, Final

from husbandry.species.profile import Profile

ORIGIN: Final = ("school", "basis", "cite", "note")
HEAD: Final = "# Lengths cm, areas cm², volumes L, masses g, temperatures °C, humidity %, ages months, intervals days."


def to_toml(profile: Profile) -> str:
    """Return the profile's document; reading it again gives an equal profile."""
    document = profile.model_dump(mode="json", exclude_defaults=True) | {"format": profile.format}
    stages, body, costs = document.pop("stages"), document.pop("body"), document.pop("costs")
    lines = [HEAD, *_pairs({"format": document.pop("format")} | document), f"costs = {_inline(costs)}"]
    by_sex = body.pop("adult_by_sex", {})
    lines += ["", "[body]", *_pairs(body)]
    for sex, size in by_sex.items():
        lines += [f"[body.adult_by_sex.{sex}]", *_pairs(size)]
    for stage in stages:
        parts = {name: value for name, value in stage.items() if _is_part(value)}
        lines += ["", "[[stages]]", *_pairs({name: value for name, value in stage.items() if name not in parts})]
        for name, part in parts.items():
            lines += [f"[stages.{name}]", *_pairs(part)]
    return "\n".join(lines) + "\n"


def _is_part(value: Any) -> bool:
    """A table that holds leaves and is none itself."""
    return isinstance(value, dict) and "basis" not in value


def _pairs(table: dict[str, Any]) -> list[str]:
    return [f"{name} = {_value(value)}" for name, value in table.items() if value is not None]


def _value(value: Any) -> str:
    if isinstance(value, list) and value and isinstance(value[0], dict):
        return "[\n" + "".join(f"  {_inline(item)},\n" for item in value) + "]"
    return _inline(value)


def _inline(value: Any) -> str:
    if isinstance(value, dict):
        # The value first, where it comes from last: so one reads them.
        names = sorted(value, key=lambda name: name in ORIGIN)
        return "{ " + ", ".join(f"{name} = {_inline(value[name])}" for name in names if value[name] is not None) + " }"
    if isinstance(value, list):
        return "[" + ", ".join(_inline(item) for item in value) + "]"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, float):
        return repr(int(value)) if value.is_integer() else repr(value)
    return json.dumps(value, ensure_ascii=False).replace("\x7f", "\\u007f")
