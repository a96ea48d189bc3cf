"""A set-up out of its form: what somebody knows of it, typed in any units; what cannot be, in words."""

from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from pydantic import ValidationError

from husbandry.numerals import NumberError
from husbandry.plan.reading import problem_of
from husbandry.setup_review.told import Told
from husbandry.units import UnitError
from ridgeback.language import wording
from ridgeback.units import KeeperUnits, three_sizes
from ridgeback.web.typed import amount as typed_amount

UNKNOWN: Final = "?"
HEATER: Final = ("kind", "end", "watts", "thermostat", "set_c", "guarded")
TUBE: Final = ("kind", "months", "reflector")
HIDE: Final = ("end", "humid")
ROWS: Final = {"heater": 3, "tube": 2, "hide": 4}
SURE: Final = {"yes": True, "no": False}


class Bound:
    """A form as it was posted: what was told, or the `faults` in words."""

    def __init__(self, posted: QueryDict, units: KeeperUnits) -> None:
        self.posted, self.units = posted, units
        self.faults: list[str] = []
        self.told: Told | None = None
        told = self._read()
        if self.faults:
            return
        try:
            self.told = Told.model_validate(told)
        except ValidationError as error:
            for item in error.errors(include_url=False):
                self.faults.append(wording.problem(problem_of(item), units))

    def _read(self) -> dict[str, Any]:
        sides: tuple[float, ...] = (1.0, 1.0, 1.0)
        try:
            sides = three_sizes(self._text("box"), self.units)
        except (UnitError, NumberError) as error:
            self.faults.append(wording.unread(error, self._text("box")))
        measured = {"mass_kg": self._amount("mass_kg", "kg"), "length_m": self._amount("length_m", "m")}
        mistings = self._amount("mistings", "")
        return {
            "species": self._text("species"),
            "animal": measured,
            "grown": self._known("grown"),
            "length_m": sides[0],
            "width_m": sides[1],
            "height_m": sides[2],
            "kind": self._text("kind"),
            "lid": self._known("lid"),
            "room_c": self._amount("room_c", "degC"),
            "room_percent": self._said(self._text("room_percent").removesuffix("%"), ""),
            "ground": self._known("ground"),
            "ground_m": self._amount("ground_m", "m"),
            "bowl": SURE.get(self._text("bowl")),
            "mistings": mistings,
            "heaters": [self._heater(row) for row in rows_of(self.posted, "heater", HEATER)],
            "tubes": [self._tube(row) for row in rows_of(self.posted, "tube", TUBE)],
            "hides": [{"end": row["end"], "humid": SURE.get(row["humid"])} for row in rows_of(self.posted, "hide", HIDE)],
        }

    def _text(self, name: str) -> str:
        return self.posted.get(name, "").strip()

    def _known(self, name: str) -> str | None:
        text = self._text(name)
        return None if text in ("", UNKNOWN) else text

    def _heater(self, row: dict[str, str]) -> dict[str, Any]:
        return {
            "kind": row["kind"],
            "end": row["end"],
            "watts": self._said(row["watts"].lower().removesuffix("w"), ""),
            "thermostat": SURE.get(row["thermostat"]),
            "set_c": self._said(row["set_c"], "degC"),
            "guarded": SURE.get(row["guarded"]),
        }

    def _tube(self, row: dict[str, str]) -> dict[str, Any]:
        kind = None if row["kind"] == UNKNOWN else row["kind"]
        return {"kind": kind, "months": self._said(row["months"], ""), "reflector": SURE.get(row["reflector"])}

    def _amount(self, name: str, si: str) -> float | None:
        return self._said(self._text(name), si)

    def _said(self, text: str, si: str) -> float | None:
        """A quantity in SI, or a bare number; None for nothing and for "?"."""
        if text in ("", UNKNOWN):
            return None
        try:
            return self.units.read(text, si) if si else typed_amount(text, "", self.units.decimal)
        except (UnitError, NumberError) as error:
            self.faults.append(wording.unread(error, text))
            return None


def rows_of(posted: QueryDict, group: str, names: tuple[str, ...]) -> list[dict[str, str]]:
    """The rows of one group that say something: whose first field is filled in."""
    columns = [posted.getlist(f"{group}-{name}") for name in names]
    rows = [dict(zip(names, (cell.strip() for cell in row), strict=True)) for row in zip(*columns, strict=False)]
    return [row for row in rows if row[names[0]]]


def typed(told: Told, units: KeeperUnits) -> dict[str, Any]:
    """The fields of the form as they say what was told."""

    def number(value: float | None, si: str) -> str:
        return "" if value is None else " ".join(units.number(value, si, typed=True)).strip() if si else f"{value:g}"

    box = " × ".join(number(side, "m") for side in (told.length_m, told.width_m, told.height_m))
    return {
        "species": told.species,
        "mass_kg": number(told.animal.mass_kg, "kg"),
        "length_m": number(told.animal.length_m, "m"),
        "grown": told.grown or UNKNOWN,
        "box": box,
        "kind": told.kind,
        "lid": told.lid or UNKNOWN,
        "room_c": number(told.room_c, "degC"),
        "room_percent": number(told.room_percent, ""),
        "ground": told.ground or UNKNOWN,
        "ground_m": number(told.ground_m, "m"),
        "bowl": sure(told.bowl),
        "mistings": number(told.mistings, ""),
        "heaters": [
            {
                "kind": one.kind,
                "end": one.end,
                "watts": number(one.watts, ""),
                "thermostat": sure(one.thermostat),
                "set_c": number(one.set_c, "degC"),
                "guarded": sure(one.guarded),
            }
            for one in told.heaters
        ],
        "tubes": [
            {"kind": one.kind or UNKNOWN, "months": number(one.months, ""), "reflector": sure(one.reflector)} for one in told.tubes
        ],
        "hides": [{"end": one.end, "humid": sure(one.humid)} for one in told.hides],
    }


def as_typed(posted: QueryDict) -> dict[str, Any]:
    """The fields as they were typed, for a form that cannot be read."""
    names = (
        "species",
        "mass_kg",
        "length_m",
        "grown",
        "box",
        "kind",
        "lid",
        "room_c",
        "room_percent",
        "ground",
        "ground_m",
        "bowl",
        "mistings",
    )

    lists = {f"{group}s": rows_of(posted, group, names) for group, names in (("heater", HEATER), ("tube", TUBE), ("hide", HIDE))}
    return {name: posted.get(name, "") for name in names} | lists


def sure(value: bool | None) -> str:
    """Yes, no, or nobody knows."""
    return UNKNOWN if value is None else "yes" if value else "no"


def blank() -> dict[str, Any]:
    """An empty form: nobody knows anything yet."""
    lists: dict[str, Any] = {"heaters": [], "tubes": [], "hides": []}
    texts = dict.fromkeys(("species", "mass_kg", "length_m", "box", "room_c", "room_percent", "ground_m", "mistings"), "")
    return texts | {"kind": "glass", "grown": UNKNOWN, "lid": UNKNOWN, "ground": UNKNOWN, "bowl": UNKNOWN} | lists


def too_few(fields: dict[str, Any]) -> dict[str, Any]:
    """The same with empty rows to type in."""
    return fields | {
        f"{group}s": [*fields[f"{group}s"], *({} for _turn in range(max(rows - len(fields[f"{group}s"]), 1)))]
        for group, rows in ROWS.items()
    }


def not_there(species: str) -> str:
    """That a species is not in the book."""
    return _("Choose its species.") if not species else _("The book has no “%(species)s”.") % {"species": species[:40]}
