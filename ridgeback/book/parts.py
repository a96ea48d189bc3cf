"""What is added to an own profile or taken out: another school of a row, a part of the diet, a powder, a value it lacks."""

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _lazy

from husbandry import numerals
from husbandry.diet.foods import foods, is_small_prey
from husbandry.errors import HusbandryError
from husbandry.numerals import NumberError
from husbandry.species import revising
from husbandry.species.profile import Profile
from ridgeback.book import editing, words
from ridgeback.language import names, wording
from ridgeback.language.foodwords import prey
from ridgeback.units import KeeperUnits

# The largest piece of prey: how it is said in a profile, and by which limit it is reckoned.
LIMITS: Final = {
    "gap-of-eyes": _lazy("no wider than the gap between the eyes"),
    "mouth": _lazy("no wider than the mouth"),
    "head-length": _lazy("no longer than the head"),
    "girth": _lazy("no thicker than the widest part of the body"),
    "egg-2": _lazy("an egg no thicker than twice its head"),
    "egg-3": _lazy("an egg no thicker than three times its head"),
}
MEASURES: Final = {"count": _lazy("pieces"), "share": _lazy("% of its mass"), "portion": _lazy("a portion, in words")}
OFTEN: Final = {"days": _lazy("days"), "feeds": _lazy("feeds")}
UVB: Final = {"either": _lazy("with UVB or without"), "with": _lazy("only with UVB"), "without": _lazy("only without UVB")}
# Bands that a stage may lack; how UVB is given stands with its band.
BANDS: Final = (
    "heat.basking_surface_c", "heat.mat_surface_c", "moisture.humid_hide_percent", "moisture.misting_per_day",
    "light.uv_index/shade", "light.uv_index/sunbeam", "light.lit_share_percent", "water.temperature_c", "water.depth_cm",
)  # fmt: skip


Options = list[tuple[str, str]]


@dataclass(frozen=True)
class PanelField:
    """One input of a panel: a choice out of groups of options, or a text; with what was typed and why it could not be read."""

    name: str
    label: str
    groups: tuple[tuple[str, Options], ...]
    value: str
    fault: str


@dataclass(frozen=True)
class Panel:
    """What one button adds: its code, its name, a hint, its inputs, and whether it was just asked for and not done."""

    code: str
    title: str
    hint: str
    fields: tuple[PanelField, ...]
    open: bool = False


@dataclass(frozen=True)
class Gone:
    """A row that was taken out: where it stood, and all of it as JSON, to be put back."""

    path: str
    row: str


@dataclass(frozen=True)
class Revised:
    """What a button did: the path of what was added, or what was taken out."""

    added: str = ""
    gone: Gone | None = None


class Unread(HusbandryError):
    """Inputs that could not be read, by name, with the reason."""

    def __init__(self, reasons: dict[str, str]) -> None:
        super().__init__(reasons)
        self.reasons = reasons


@dataclass(frozen=True)
class _Inputs:
    """Makes the inputs of a panel, with what was typed and why it could not be read."""

    typed: Mapping[str, str]
    unread: Mapping[str, str]

    def grouped(self, name: str, label: str, groups: list[tuple[str, Options]], nothing: str | None = None) -> PanelField:
        first = [("", [("", nothing)])] if nothing is not None else []
        return PanelField(name, label, (*first, *groups), self.typed.get(name, ""), self.unread.get(name, ""))

    def choice(self, name: str, label: str, options: Options, nothing: str | None = None) -> PanelField:
        return self.grouped(name, label, [("", options)], nothing)

    def text(self, name: str, label: str) -> PanelField:
        return PanelField(name, label, (), self.typed.get(name, ""), self.unread.get(name, ""))


def panels(
    profile: Profile,
    section: str,
    lines: list[editing.ProfileLine],
    typed: Mapping[str, str],
    unread: Mapping[str, str],
) -> list[Panel]:
    """What may be added to one section of a profile, with what was typed for it."""
    make = _Inputs(typed, unread)
    rows = [(line.path, f"{line.label}: {line.shown}") for line in lines if line.one_of_many]
    found = [_of_schools(make, rows)] if rows else []
    if section.isdigit():
        found += [_of_meals(make), _of_powders(make)]
        stage = profile.stages[int(section)]
        missing = [(band, _band(band)) for band in BANDS if _lacks(stage, band.partition("/")[0])]
        found += [_of_bands(make, missing)] if missing else []
    # What was asked for and not done stays open as it was left.
    return [replace(panel, open=panel.code == typed.get("do")) for panel in found]


def _of_schools(make: _Inputs, rows: Options) -> Panel:
    schools: dict[str, Options] = {}
    for key, said in names.SCHOOLS.items():
        schools.setdefault(str(names.TOPICS[key.partition(":")[0]]), []).append((key, str(said)))
    asked = (
        make.choice("school_row", _("Row"), rows),
        make.grouped("school_now", _("as it stands it is for"), list(schools.items())),
        make.grouped("school_new", _("the new row is for"), list(schools.items())),
    )
    hint = _("The row is doubled; give the new one its own values. The plan's keeper chooses between the two.")
    return Panel("school", _("Another school of a row"), hint, asked)


def _of_meals(make: _Inputs) -> Panel:
    fed = sorted(((key, prey(key)) for key in foods()), key=lambda pair: pair[1])
    asked = (
        make.choice("meal_food", _("Food"), fed),
        make.choice("meal_measure", _("Counted as"), _said(MEASURES)),
        make.text("meal_low", _("From, or a portion in % of its mass")),
        make.text("meal_high", _("To")),
        make.text("meal_portion", _("A portion is")),
        make.text("meal_week", _("Times a week; empty: with each feed")),
        make.text("meal_fresh", _("Always lying there: changed after … days")),
        make.choice("meal_limit", _("Largest piece"), _said(LIMITS), _("no limit, or cut up")),
    )
    return Panel("meal", _("A part of its diet"), _("It is given beside what there is."), asked)


def _of_powders(make: _Inputs) -> Panel:
    asked = (
        make.choice("powder_product", _("Powder"), _said(names.CHOICES["product"])),
        make.text("powder_every", _("Every")),
        make.choice("powder_often", _("counted in"), _said(OFTEN)),
        make.choice("powder_uvb", _("Given"), _said(UVB)),
    )
    return Panel("powder", _("A powder"), _("It is given beside what there is."), asked)


def _of_bands(make: _Inputs, missing: Options) -> Panel:
    asked = (make.choice("band_name", _("Value"), missing), make.text("band_low", _("From")), make.text("band_high", _("To")))
    return Panel("band", _("A value it lacks"), _("Empty “To”: no upper end."), asked)


def _said(choices: Mapping[str, Any]) -> Options:
    return [(key, str(said)) for key, said in choices.items()]


def _lacks(stage: Any, band: str) -> bool:
    part, name = band.split(".")
    holder = getattr(stage, part)
    return holder is None or getattr(holder, name) is None


def _band(band: str) -> str:
    path, _slash, method = band.partition("/")
    how = {"shade": names.SCHOOLS["uvb:shade"], "sunbeam": names.SCHOOLS["uvb:sunbeam"]}.get(method)
    return f"{words.label(path)}, {how}" if how else words.label(path)


def revise(document: dict[str, Any], do: str, section: str, posted: Mapping[str, str], units: KeeperUnits) -> Revised:
    """Carry out one of the section's buttons on the document.

    Returns
    -------
    What was added, or taken out.

    Raises
    ------
    Unread
        Where an input cannot be read or says nothing.
    husbandry.species.revising.NotInAListError
        Where the row is not there any more.
    """
    if do.startswith("out:"):
        path = do.removeprefix("out:")
        return Revised("", Gone(path, json.dumps(revising.take_out(document, path))))
    if do == "back":
        return Revised(revising.put_back(document, posted.get("gone_path", ""), _row(posted.get("gone_row", ""))))
    made: dict[str, Callable[[_Posted], str]] = {
        "school": lambda read: _school(document, read),
        "meal": lambda read: revising.put_in(document, f"stages.{section}.feeding.meals", _meal(read)),
        "powder": lambda read: revising.put_in(document, f"stages.{section}.feeding.supplements", _powder(read)),
        "band": lambda read: _missing(document, section, read),
    }
    if do not in made or (do != "school" and not section.isdigit()):
        raise revising.NotInAListError(do)
    read = _Posted(posted, units)
    # What is put in before a reason comes up is lost with the document.
    path = made[do](read)
    if read.reasons:
        raise Unread(read.reasons)
    return Revised(path)


def _row(text: str) -> dict[str, Any]:
    """A row that was taken out, as the page kept it."""
    try:
        row = json.loads(text)
    except ValueError:
        row = None
    if not isinstance(row, dict):
        raise revising.NotInAListError(text[:60])
    return row


class _Posted:
    """Reads inputs by name and gathers why some could not be read."""

    def __init__(self, posted: Mapping[str, str], units: KeeperUnits) -> None:
        self.posted, self.units = posted, units
        self.reasons: dict[str, str] = {}

    def text(self, name: str) -> str:
        return self.posted.get(name, "").strip()[:300]

    def choice(self, name: str, known: Any) -> str:
        chosen = self.text(name)
        if chosen not in known:
            self.reasons[name] = _("Choose one.")
        return chosen

    def number(self, name: str, read: Callable[[str], float] | None = None, *, needed: bool = True) -> float | None:
        text = self.text(name)
        if not text:
            if needed:
                self.reasons[name] = _("Type a number.")
            return None
        try:
            return read(text) if read is not None else self.units.read(text, "1")
        except NumberError as error:
            self.reasons[name] = wording.unread(error, text[:60])
            return None

    def percent(self, name: str, *, needed: bool = True) -> float | None:
        return self.number(name, lambda text: self.units.read(text, "%"), needed=needed)

    def whole(self, name: str, *, needed: bool = True) -> int | None:
        found = self.number(name, lambda text: numerals.whole(text, self.units.decimal), needed=needed)
        return None if found is None else int(found)


def _school(document: dict[str, Any], read: _Posted) -> str:
    path, now, new = read.text("school_row"), *(read.choice(name, names.SCHOOLS) for name in ("school_now", "school_new"))
    if not read.reasons and now.partition(":")[0] != new.partition(":")[0]:
        read.reasons["school_new"] = _("Both must be schools of the same question.")
    elif not read.reasons and now == new:
        read.reasons["school_new"] = _("The new row needs another school than the one there is.")
    return path if read.reasons else revising.another_school(document, path, now, new)


def _meal(read: _Posted) -> dict[str, Any]:
    food, measure = read.choice("meal_food", foods()), read.choice("meal_measure", MEASURES)
    made: dict[str, Any] = {"food": prey(food) if food in foods() else "", "foods": [food]}
    if measure == "count":
        low = read.whole("meal_low")
        made |= {"count_low": low, "count_high": read.whole("meal_high", needed=False) or low}
    elif measure == "share":
        share = read.percent("meal_low")
        made |= {"mass_share_low_percent": share, "mass_share_high_percent": read.percent("meal_high", needed=False) or share}
    else:
        made |= {"portion": read.text("meal_portion"), "about_percent": read.percent("meal_low")}
        if not made["portion"]:
            read.reasons["meal_portion"] = _("Say what a portion is, such as: a small bowl.")
    made["per_week"] = read.number("meal_week", needed=False)
    made["fresh_days"] = read.number("meal_fresh", needed=False)
    limit = read.text("meal_limit")
    if limit or (food in foods() and is_small_prey(food)):
        made |= {"limit": read.choice("meal_limit", LIMITS), "prey_limit": str(LIMITS.get(limit, ""))}
    return made


def _powder(read: _Posted) -> dict[str, Any]:
    product = read.choice("powder_product", names.CHOICES["product"])
    often = read.choice("powder_often", OFTEN)
    every = read.whole("powder_every") if often == "feeds" else read.number("powder_every")
    return {"product": product, f"every_{often}": every, "uvb": read.choice("powder_uvb", UVB)}


def _missing(document: dict[str, Any], section: str, read: _Posted) -> str:
    band = read.choice("band_name", BANDS)
    path, _slash, method = band.partition("/")
    ends = [
        read.number(f"band_{end}", lambda text: editing.into(f"stages.{section}.{path}", text, read.units), needed=end == "low")
        for end in ("low", "high")
    ]
    made: dict[str, Any] = {"low": ends[0], "high": ends[1]} | ({"method": method} if method else {})
    return path if read.reasons else revising.put_in(document, f"stages.{section}.{path}", made)
