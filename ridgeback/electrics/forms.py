"""A room's electricity out of its form: circuits, strips and plugs, typed in any units; what cannot be, in words."""

from collections.abc import Mapping
from itertools import zip_longest
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from pydantic import ValidationError

from husbandry.numerals import NumberError
from husbandry.units import UnitError
from husbandry.wiring.consumers import Consumer
from husbandry.wiring.settings import Wiring
from ridgeback.language import wording
from ridgeback.units import KeeperUnits, written
from ridgeback.web import typed

CIRCUIT: Final = ("circuit-name", "circuit-breaker", "circuit-residual", "circuit-other")
STRIP: Final = ("strip-name", "strip-was", "strip-circuit", "strip-rated", "strip-sockets", "strip-up")
NAMED: Final = {"V": ("v", "volt", "volts"), "A": ("a", "amp", "amps", "ampere"), "mA": ("ma",), "W": ("w", "watt", "watts")}


class PostedWiring:
    """A form as it was posted: its wiring, or the `faults` in words.

    A part of the page is posted at a time: circuits and strips, or the plugs of a habitat; the rest stays as `before`.
    """

    def __init__(self, posted: QueryDict, rooms: Mapping[str, tuple[Consumer, ...]], units: KeeperUnits, before: Wiring) -> None:
        self.posted, self.units = posted, units
        self.faults: list[str] = []
        self.wiring: Wiring | None = None
        told: dict[str, Any] = before.model_dump(mode="json")
        renamed: dict[str, str] = {}
        if "volts" in posted:
            strips, renamed = self._strips()
            told |= {"volts": self._number(posted.get("volts", ""), "V"), "circuits": self._circuits(), "strips": strips}
        for feed in told["feeds"].values():
            for plug in feed["plugs"].values():
                plug["strip"] = renamed.get(plug["strip"], plug["strip"])
        there = {one["name"] for one in told["strips"]}
        for key in set(told["feeds"]) - set(rooms):  # of what is set aside: it stands in nobody's way
            plugs = told["feeds"][key]["plugs"]
            told["feeds"][key]["plugs"] = {name: plug for name, plug in plugs.items() if plug["strip"] in there}
        told["feeds"] |= {key: self._feed(key, each, renamed) for key, each in rooms.items() if f"floor-{key}" in posted}
        if self.faults:
            return
        try:
            self.wiring = Wiring.model_validate(told)
        except ValidationError as error:
            self.faults += list(dict.fromkeys(said_of(item, units) for item in error.errors(include_url=False)))

    def _rows(self, names: tuple[str, ...]) -> list[dict[str, str]]:
        columns = [self.posted.getlist(name) for name in names]
        rows = [dict(zip(names, (cell.strip() for cell in row), strict=True)) for row in zip_longest(*columns, fillvalue="")]
        return [row for row in rows if row[names[0]]]

    def _circuits(self) -> list[dict[str, Any]]:
        return [
            {
                "name": row["circuit-name"][:30],
                "breaker_a": self._number(row["circuit-breaker"], "A"),
                "residual_ma": self._number(row["circuit-residual"], "mA") if row["circuit-residual"] else None,
                "other_w": self._number(row["circuit-other"], "W") if row["circuit-other"] else 0.0,
            }
            for row in self._rows(CIRCUIT)
        ]

    def _strips(self) -> tuple[list[dict[str, Any]], dict[str, str]]:
        found, renamed = [], {}
        for row in self._rows(STRIP):
            name = row["strip-name"][:30]
            renamed[row["strip-was"] or name] = name
            sockets = typed.whole(row["strip-sockets"])
            if sockets is None:
                self.faults.append(_("“%(text)s” is no number of sockets.") % {"text": row["strip-sockets"][:30]})
            found.append(
                {
                    "name": name,
                    "circuit": row["strip-circuit"],
                    "rated_a": self._number(row["strip-rated"], "A"),
                    "sockets": sockets or 0,
                    "up_m": self._length(row["strip-up"]),
                }
            )
        return found, renamed

    def _feed(self, habitat: str, there: tuple[Consumer, ...], renamed: Mapping[str, str]) -> dict[str, Any]:
        plugs = {}
        for one in there:
            at = f"{habitat}-{one.key}"
            strip = self.posted.get(f"on-{at}", "")
            if not strip:
                continue
            carries = self.posted.get(f"carries-{at}", "").strip()
            plugs[one.key] = {
                "strip": renamed.get(strip, strip),
                "timer": f"timer-{at}" in self.posted,
                "carries_w": self._number(carries, "W") if carries else None,
            }
        floor, away = (self._length(self.posted.get(f"{name}-{habitat}", "")) for name in ("floor", "away"))
        return {"floor_m": floor, "away_m": away, "plugs": plugs}

    def _number(self, text: str, unit: str) -> float:
        """Read an amount that may carry its unit; what cannot be read is a fault and nothing."""
        said = text.strip()
        for name in sorted(NAMED[unit], key=len, reverse=True):
            if said.lower().endswith(name):
                said = said[: -len(name)].strip()
                break
        try:
            return typed.amount(said, "", self.units.decimal)
        except NumberError as error:
            if error.code == "negative":
                self.faults.append(_("“%(text)s” is less than nothing.") % {"text": text[:30]})
            else:
                self.faults.append(_("“%(text)s” cannot be read as a number of %(unit)s.") % {"text": text[:30], "unit": unit})
            return 0.0

    def _length(self, text: str) -> float:
        try:
            return self.units.read(text or "0", "m")
        except (UnitError, NumberError) as error:
            self.faults.append(wording.unread(error, text))
            return 0.0


def said_of(item: Any, units: KeeperUnits) -> str:
    """What is wrong with the wiring, in words."""
    context = item.get("ctx") or {}
    match item["type"]:
        case "strip_too_large":
            return _("No household strip carries more than %(most)s A; the number stands on its plate (%(name)s).") % {
                "most": written(context["most_a"]),
                "name": context["name"],
            }
        case "breaker_too_large":
            return _("A breaker of a home has %(most)s A at most (%(name)s).") % {
                "most": written(context["most_a"]),
                "name": context["name"],
            }
        case "odd_voltage":
            return _("No mains has %(volts)s V: it is 100 to 127 V, or 200 to 250 V.") % {"volts": written(context["volts"])}
        case "name_twice":
            return _("Two have the name “%(name)s”: each needs its own.") % {"name": context["name"]}
        case "unknown_circuit":
            return _("There is no circuit “%(name)s”.") % {"name": context["name"]}
        case "unknown_strip":
            return _("Something is still plugged into “%(name)s”, which is gone. Choose another strip for it.") % {
                "name": context["name"]
            }
    where = str(item["loc"][-1])
    names = {
        "rated_a": _("what a strip carries"),
        "breaker_a": _("a breaker"),
        "residual_ma": _("a residual-current device"),
        "other_w": _("what else hangs on a circuit"),
        "sockets": _("the sockets of a strip"),
        "up_m": _("a strip's height"),
        "floor_m": _("the height of an enclosure's floor"),
        "away_m": _("the distance of a strip"),
        "carries_w": _("what a thermostat carries"),
    }
    return _("The number for %(what)s is more or less than can be.") % {"what": names.get(where, where)}
