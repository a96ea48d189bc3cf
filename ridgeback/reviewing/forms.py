"""A set-up out of its form: what somebody knows of it, typed in any units; what cannot be, in words."""

from itertools import zip_longest
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from pydantic import ValidationError

from husbandry.numerals import NumberError
from husbandry.plan.reading import problem_of
from husbandry.setup_review.told import Told, ToldHeater, ToldHide, ToldTube
from husbandry.space.nominal import NOMINAL, Nominal, tank_named
from husbandry.units import UnitError
from ridgeback.language import wording
from ridgeback.units import KeeperUnits, three_sizes
from ridgeback.web.typed import amount as typed_amount

UNKNOWN: Final = "?"
HEATER: Final = ("kind", "end", "watts", "thermostat", "probe", "set_c", "guarded", "x", "y")
TUBE: Final = ("kind", "months", "reflector", "x", "y")
HIDE: Final = ("end", "humid", "dark", "x", "y")
GROUPS: Final = {"heater": HEATER, "tube": TUBE, "hide": HIDE}
READINGS: Final = {"basking_surface_c": "degC", "warm_air_c": "degC", "cool_air_c": "degC", "night_c": "degC", "percent": "%"}
# What is one field each, as it is typed.
SINGLE: Final = (
    "name", "species", "mass_kg", "length_m", "grown", "box", "nominal", "kind", "lid", "room_c", "room_percent", "ground",
    "ground_m", "bowl", "bowl_x", "bowl_y", "mistings", "thermometers", "dusted", *(f"read_{name}" for name in READINGS),
)  # fmt: skip
SHARED: Final = ("room_c", "room_percent")  # that the next set-up of one keeper stands in as well
CHOSEN: Final = ("grown", "lid", "ground", "bowl", "thermometers", "dusted")
ROWS: Final = {"heater": 2, "tube": 1, "hide": 2}
SURE: Final = {"yes": True, "no": False}


class PostedSetup:
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
        sides, tank = self._sides()
        measured = {"mass_kg": self._amount("mass_kg", "kg"), "length_m": self._amount("length_m", "m")}
        mistings = self._amount("mistings", "")
        return {
            "name": self._text("name"),
            "species": self._text("species"),
            "animal": measured,
            "grown": self._known("grown"),
            "length_m": sides[0],
            "width_m": sides[1],
            "height_m": sides[2],
            "kind": tank.kind if tank else self._text("kind") or "glass",
            "lid": self._known("lid") or (tank.lid if tank else None),
            "room_c": self._amount("room_c", "degC"),
            "room_percent": self._said(self._text("room_percent").removesuffix("%"), ""),
            "ground": self._known("ground"),
            "ground_m": self._amount("ground_m", "m"),
            "bowl": SURE.get(self._text("bowl")),
            "bowl_x_m": self._metres(self._text("bowl_x")),
            "bowl_y_m": self._metres(self._text("bowl_y")),
            "mistings": mistings,
            "thermometers": SURE.get(self._text("thermometers")),
            "dusted": SURE.get(self._text("dusted")),
            "readings": self._readings(),
            "heaters": [self._heater(row) for row in rows_of(self.posted, "heater", HEATER)],
            "tubes": [self._tube(row) for row in rows_of(self.posted, "tube", TUBE)],
            "hides": [self._hide(row) for row in rows_of(self.posted, "hide", HIDE)],
        }

    def _sides(self) -> tuple[tuple[float, ...], Nominal | None]:
        """The box, by its sides or by the name it is sold under."""
        text = self._text("box")
        chosen = NOMINAL.get(self._text("nominal")) if not text else None
        if named := tank_named(text):
            if len(named) > 1:
                self.faults.append(_("Tanks of that name are sold in two shapes: type its sides, or say long or high."))
            chosen = NOMINAL[named[0]]
        if chosen is not None:
            return (chosen.length_m, chosen.width_m, chosen.height_m), chosen
        if not text:
            self.faults.append(_("How large is the box? Length, width and height inside, like 120 × 60 × 60."))
            return (1.0, 1.0, 1.0), None
        try:
            return three_sizes(text, self.units), None
        except (UnitError, NumberError) as error:
            self.faults.append(wording.unread(error, text))
            return (1.0, 1.0, 1.0), None

    def _readings(self) -> dict[str, float | None]:
        found = {name: self._text(f"read_{name}") for name in READINGS}
        return {
            name: self._said(text.removesuffix("%") if name == "percent" else text, "" if name == "percent" else READINGS[name])
            for name, text in found.items()
        }

    def _place(self, row: dict[str, str]) -> dict[str, float | None]:
        """Where something was put on the drawing; metres, as the drawing writes them."""
        return {"x_m": self._metres(row["x"]), "y_m": self._metres(row["y"])}

    def _metres(self, text: str) -> float | None:
        try:
            return float(text) if text else None
        except ValueError:
            return None

    def _hide(self, row: dict[str, str]) -> dict[str, Any]:
        return {"end": row["end"], "humid": SURE.get(row["humid"]), "dark": SURE.get(row["dark"])} | self._place(row)

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
            "probe": None if row["probe"] in ("", UNKNOWN) else row["probe"],
            "set_c": self._said(row["set_c"], "degC"),
            "guarded": SURE.get(row["guarded"]),
        } | self._place(row)

    def _tube(self, row: dict[str, str]) -> dict[str, Any]:
        kind = None if row["kind"] == UNKNOWN else row["kind"]
        told = {"kind": kind, "months": self._said(row["months"], ""), "reflector": SURE.get(row["reflector"])}
        return told | self._place(row)

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
    rows = [dict(zip(names, (cell.strip() for cell in row), strict=True)) for row in zip_longest(*columns, fillvalue="")]
    return [row for row in rows if row[names[0]]]


def typed(told: Told, units: KeeperUnits) -> dict[str, Any]:
    """The fields of the form as they say what was told."""

    def number(value: float | None, si: str) -> str:
        return "" if value is None else " ".join(units.number(value, si, typed=True)).strip() if si else f"{value:g}"

    def place(one: ToldHeater | ToldTube | ToldHide) -> dict[str, str]:
        return {"x": number(one.x_m, ""), "y": number(one.y_m, "")}

    box = " × ".join(number(side, "m") for side in (told.length_m, told.width_m, told.height_m))
    readings = {f"read_{name}": number(getattr(told.readings, name), si) for name, si in READINGS.items()}
    return {
        "name": told.name,
        "species": told.species,
        "mass_kg": number(told.animal.mass_kg, "kg"),
        "length_m": number(told.animal.length_m, "m"),
        "grown": told.grown or UNKNOWN,
        "box": box,
        "nominal": "",
        "kind": told.kind,
        "lid": told.lid or UNKNOWN,
        "room_c": number(told.room_c, "degC"),
        "room_percent": number(told.room_percent, ""),
        "ground": told.ground or UNKNOWN,
        "ground_m": number(told.ground_m, "m"),
        "bowl": sure(told.bowl),
        "bowl_x": number(told.bowl_x_m, ""),
        "bowl_y": number(told.bowl_y_m, ""),
        "mistings": number(told.mistings, ""),
        "thermometers": sure(told.thermometers),
        "dusted": sure(told.dusted),
        **readings,
        "heaters": [
            {
                "kind": one.kind,
                "end": one.end,
                "watts": number(one.watts, ""),
                "thermostat": sure(one.thermostat),
                "probe": one.probe or UNKNOWN,
                "set_c": number(one.set_c, "degC"),
                "guarded": sure(one.guarded),
            }
            | place(one)
            for one in told.heaters
        ],
        "tubes": [
            {"kind": one.kind or UNKNOWN, "months": number(one.months, ""), "reflector": sure(one.reflector)} | place(one)
            for one in told.tubes
        ],
        "hides": [{"end": one.end, "humid": sure(one.humid), "dark": sure(one.dark)} | place(one) for one in told.hides],
    }


def as_typed(posted: QueryDict) -> dict[str, Any]:
    """The fields as they were typed, for a form that cannot be read."""
    return {name: posted.get(name, "") for name in SINGLE} | {
        f"{group}s": rows_of(posted, group, names) for group, names in GROUPS.items()
    }


def sure(value: bool | None) -> str:
    """Yes, no, or nobody knows."""
    return UNKNOWN if value is None else "yes" if value else "no"


def blank(**known: str) -> dict[str, Any]:
    """An empty form: nobody knows anything yet, but what is `known`."""
    lists: dict[str, Any] = {f"{group}s": [] for group in GROUPS}
    return dict.fromkeys(SINGLE, "") | {"kind": "glass"} | dict.fromkeys(CHOSEN, UNKNOWN) | known | lists


def too_few(fields: dict[str, Any]) -> dict[str, Any]:
    """The same with empty rows to type in."""
    return fields | {
        f"{group}s": [*fields[f"{group}s"], *({} for _turn in range(max(rows - len(fields[f"{group}s"]), 1)))]
        for group, rows in ROWS.items()
    }


def not_there(species: str) -> str:
    """That a species is not in the book."""
    return _("Choose its species.") if not species else _("The book has no “%(species)s”.") % {"species": species[:40]}
