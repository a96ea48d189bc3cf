"""The band mark: one picture of a number against its target, the same everywhere."""

from dataclasses import dataclass, replace
from datetime import date
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from husbandry.assessment import Measure, Quantity
from husbandry.review.judged import OFF
from husbandry.review.measured import verdict_of
from ridgeback.drawing.numbers import plain
from ridgeback.language import dates, names, wording
from ridgeback.language.booktext import book
from ridgeback.units import KeeperUnits

WIDTH, PAD = 110.0, 6.0
HANGS_NOWHERE: Final = {
    "heat.hang_none": gettext_lazy("full on, under %(wanted)s at any height"),
    "heat.hang_hot": gettext_lazy("full on, over %(wanted)s at any height"),
    "heat.hang_between": gettext_lazy("full on, over %(wanted)s under the mesh and less on it"),
}


@dataclass(frozen=True)
class Mark:
    """A quantity as drawn: words, verdict, and pixels along the mark's axis (None where there is no band)."""

    quantity: Quantity
    name: str
    number: str
    symbol: str
    verdict: str
    verdict_text: str
    target: str
    reason: str
    basis: str
    spread: str
    aside: str
    axis: dict[str, Any] | None
    last: str = ""

    @property
    def said(self) -> str:
        """The mark for who does not see it."""
        target = _("target %(band)s") % {"band": self.target} if self.target else ""
        number = f"{self.number} {self.symbol}".strip()
        shown = f"{self.name}: {number}" if number not in ("", "–") else self.name
        return ", ".join(part for part in (shown, target, self.verdict_text) if part)

    @property
    def school(self) -> str:
        """The schools its band belongs to, in words."""
        return "; ".join(wording.school(*part.split(":", 1)) for part in self.quantity.school.split() if ":" in part)

    @property
    def why(self) -> str:
        """The reason, and the target it is held against."""
        if not self.target or self.quantity.key.startswith("ration_"):
            return self.reason
        return self.reason + " " + _("Target %(band)s.") % {"band": self.target}


def mark(quantity: Quantity, units: KeeperUnits, read: tuple[float, str] | None = None) -> Mark:
    """Return the mark of a quantity in the keeper's words and units; `read` is the last reading of it, and when and by what."""
    number, symbol = ("–", "") if quantity.value is None else units.number(quantity.value, quantity.unit)
    if quantity.key.startswith("ration_"):
        number, symbol = _ration(quantity, units)
    spread = ""
    if quantity.low is not None and quantity.high is not None and not quantity.key.startswith("ration_"):
        low, high = units.say(Measure(quantity.low, quantity.unit)), units.say(Measure(quantity.high, quantity.unit))
        spread = _("Likely %(low)s to %(high)s, eight times in ten.") % {"low": low, "high": high}
    if quantity.likely is not None:
        by_readings = _("By the readings it is in its band with a chance of %(chance)s %%.")
        chance = _("In its band with a chance of %(chance)s %%.") if quantity.read is None else by_readings
        spread = f"{spread} {chance % {'chance': chance_text(quantity.likely)}}".strip()
    measured = verdict_of(quantity)
    counts = quantity.read is not None and measured in OFF
    verdict = measured if counts else quantity.verdict
    read_at = quantity.read.value if quantity.read is not None else None if read is None else read[0]
    return Mark(
        quantity,
        wording.name(quantity),
        number,
        symbol,
        verdict.value.replace(" ", "-"),
        _("measured: %(verdict)s") % {"verdict": _verdict_text(_as_read(quantity))} if counts else _verdict_text(quantity),
        _target(quantity, units),
        wording.reason(quantity, units),
        wording.basis(quantity.basis),
        spread,
        _aside(quantity, units),
        _axis(quantity, read_at),
        _read(quantity, units, read),
    )


def _as_read(quantity: Quantity) -> Quantity:
    """The quantity with its readings for its value."""
    assert quantity.read is not None
    return replace(quantity, value=quantity.read.value, verdict=verdict_of(quantity))


def _read(quantity: Quantity, units: KeeperUnits, read: tuple[float, str] | None) -> str:
    if quantity.read is not None and quantity.read.count > 1:
        said = ngettext(
            "Read: %(value)s, the middle of %(n)s reading, the last on %(day)s.",
            "Read: %(value)s, the middle of %(n)s readings, the last on %(day)s.",
            quantity.read.count,
        )
        day = dates.shown(date.fromisoformat(quantity.read.day), "j F")
        return said % {"value": units.say(Measure(quantity.read.value, quantity.unit)), "n": quantity.read.count, "day": day}
    if read is None:
        return ""
    return _("Read: %(value)s, %(when)s.") % {"value": units.say(Measure(read[0], quantity.unit)), "when": read[1]}


def chance_text(share: float) -> str:
    """A chance in percent, no surer than the draws are: "84", "over 99", "under 1"."""
    if share < 0.01:
        return str(_("under 1"))
    return str(_("over 99")) if share > 0.99 else f"{100 * share:.0f}"


# What is too little and too much of it is called, where that is not "low" and "high".
SIDES: Final = (
    (("enclosure_", "floor_area", "water_volume", "volume", "warm_patch"), (gettext_lazy("small"), gettext_lazy("large"))),
    (("ground_depth", "water_depth"), (gettext_lazy("shallow"), gettext_lazy("deep"))),
    (("lamp_distance", "uv_distance"), (gettext_lazy("near"), gettext_lazy("far"))),
    (("feed_interval", "light_hours", "uv_hours"), (gettext_lazy("short"), gettext_lazy("long"))),
)


def _verdict_text(quantity: Quantity) -> str:
    said = str(names.VERDICTS[quantity.verdict.value])
    band = quantity.band
    if quantity.verdict.value in ("near", "outside", "dangerous") and band is not None and quantity.value is not None:
        below = band.low is not None and quantity.value < band.low
        sides = next((words for keys, words in SIDES if quantity.key.startswith(keys)), (_("low"), _("high")))
        side = sides[0] if below else sides[1]
        return {"near": _("a little %(side)s"), "outside": _("too %(side)s")}.get(
            quantity.verdict.value, _("dangerously %(side)s")
        ) % {"side": side}
    return said


def _aside(quantity: Quantity, units: KeeperUnits) -> str:
    """A few words where there is no band to draw."""
    parameters = quantity.reason.parameters
    if quantity.key == "lamp_distance" and isinstance(parameters.get("right"), Measure):
        return _("full on, right at %(right)s") % {"right": wording.text_of("right", parameters["right"], units)}
    if quantity.reason.code in HANGS_NOWHERE:
        return str(HANGS_NOWHERE[quantity.reason.code]) % {"wanted": wording.text_of("wanted", parameters["wanted"], units)}
    if quantity.key == "heat_power":
        return _("of %(limit)s") % {"limit": wording.text_of("limit", parameters["limit"], units)}
    if quantity.key.startswith("ration_"):
        food = book(parameters["food"])
        return f"{food}: {book(parameters['portion'])}" if "portion" in parameters else food
    return ""


def _ration(quantity: Quantity, units: KeeperUnits) -> tuple[str, str]:
    if quantity.low is None or quantity.high is None:
        return "", ""
    if quantity.unit == "kg":
        said, _space, symbol = units.between(quantity.low, quantity.high, "kg").rpartition(" ")
        return said, symbol
    return (f"{quantity.low:.0f}" if quantity.low == quantity.high else f"{quantity.low:.0f}–{quantity.high:.0f}"), ""


def _target(quantity: Quantity, units: KeeperUnits) -> str:
    band = quantity.band
    if band is None:
        return ""
    if band.low is not None and band.high is not None:
        return units.between(band.low, band.high, quantity.unit)
    if band.low is not None:
        return _("at least %(limit)s") % {"limit": units.say(Measure(band.low, quantity.unit))}
    return _("at most %(limit)s") % {"limit": units.say(Measure(band.high or 0.0, quantity.unit))}


def _axis(quantity: Quantity, read: float | None) -> dict[str, Any] | None:
    """Lay target, spread and value on one axis that shows all of them with room at both ends."""
    band, value = quantity.band, quantity.value
    if band is None or value is None:
        return None
    known = [item for item in (band.low, band.high, value, quantity.low, quantity.high, read) if item is not None]
    low, high = min(known), max(known)
    room = 0.25 * (high - low) or 0.25 * abs(high) or 1.0
    low, high = low - room, high + room

    def at(number: float) -> float:
        return round(PAD + (number - low) / (high - low) * (WIDTH - 2 * PAD), 1)

    begin = at(band.low) if band.low is not None else PAD
    end = at(band.high) if band.high is not None else WIDTH - PAD
    axis: dict[str, Any] = {
        "width": WIDTH,
        "target": (begin, round(end - begin, 1)),
        "open_low": band.low is None,
        "open_high": band.high is None,
        "begin": begin,
        "end": end,
        "value": at(value),
    }
    if read is not None:
        axis["read"] = at(read)
    if quantity.low is not None and quantity.high is not None:
        axis["spread"] = (at(quantity.low), round(max(at(quantity.high) - at(quantity.low), 1.0), 1))
    return dict(plain(axis))
