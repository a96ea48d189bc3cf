"""The inputs of an own profile: one row a leaf, typed in the keeper's units, checked by the book's own rules."""

from collections import Counter
from dataclasses import dataclass, replace
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as _lazy

from husbandry import numerals
from husbandry.numerals import NumberError
from husbandry.species import revising
from husbandry.species.checks import check
from husbandry.species.leaves import Leaf
from husbandry.species.profile import Profile, leaves_with_paths
from husbandry.species.reading import ARGUABLE, ProfileProblem, ProfileProblems, read_data
from ridgeback.book import words
from ridgeback.language import names, wording
from ridgeback.language.booktext import book
from ridgeback.units import KeeperUnits

# What of a leaf is changed here; the rest of a profile is changed in its file.
NUMBERS: Final = (
    "low", "high", "value", "length", "width", "height", "stretch", "area", "litres", "count_low", "count_high",
    "mass_share_low_percent", "mass_share_high_percent", "per_week", "fresh_days", "every_days", "every_feeds",
    "most", "most_males", "eats_smaller_share",
)  # fmt: skip
TEXTS: Final = ("value", "food", "portion", "prey_limit", "males_note", "may", "must_not")
WHOLE: Final = ("count_low", "count_high", "every_feeds", "most", "most_males")
CENTIMETRES: Final = ("length", "width", "height")
NAMES: Final = {
    "low": "from", "high": "to", "length": "length", "width": "width", "height": "height", "count_low": "from", "count_high": "to",
    "mass_share_low_percent": "% from", "mass_share_high_percent": "% to", "every_days": "every … days",
    "every_feeds": "every … feeds", "per_week": "times a week", "fresh_days": "changed after … days",
    "most": "most", "most_males": "most males", "eats_smaller_share": "eats below share", "stretch": "× length", "area": "cm²",
    "litres": "litres", "food": "called", "portion": "portion", "prey_limit": "prey", "males_note": "males", "may": "who may",
    "must_not": "who must not", "temperature_c": "at", "days_low": "days from", "days_high": "days to",
}  # fmt: skip


@dataclass(frozen=True)
class Input:
    """One input of a row: the posted name is path, colon, field."""

    name: str
    said: str
    value: str
    wide: bool


@dataclass(frozen=True)
class ProfileLine:
    """One leaf: what it is called, its inputs, where it comes from, and what is wrong with it."""

    path: str
    group: str
    label: str
    school: str
    symbol: str
    inputs: tuple[Input, ...]
    basis: str
    note: str
    own: bool
    faults: tuple[str, ...]
    alone: bool = True

    @property
    def shown(self) -> str:
        """Its values as they stand, and its school."""
        said = " ".join(item.value for item in self.inputs if item.value) or "–"
        return f"{said} {self.symbol}".strip()[:60] + (f" ({self.school})" if self.school else "")

    @property
    def one_of_many(self) -> bool:
        """Whether it stands in a list: it can have another beside it."""
        return self.path.rpartition(".")[2].isdigit()

    @property
    def spare(self) -> bool:
        """Whether the profile can do without it."""
        return self.one_of_many and (not self.alone or self.path.split(".")[-2] in revising.MAY_LACK)


@dataclass(frozen=True)
class Edit:
    """A document after what was posted: all that was typed, why some of it could not be read, and the faults by path."""

    document: dict[str, Any]
    typed: dict[str, str]
    unread: dict[str, str]
    problems: tuple[ProfileProblem, ...]
    warned: dict[str, tuple[str, ...]]

    @property
    def good(self) -> bool:
        return not self.unread and not self.problems


def sections(profile: Profile) -> list[tuple[str, str]]:
    """The parts of a profile one edits at a time: "general" and one for each stage."""
    general = [("general", _("Animal"))]
    general += [("health", _("Health and water"))] if profile.health or profile.water_chemistry else []
    general += [("breeding", _("Eggs and young"))] if profile.reproduction else []
    return general + [(str(index), book(stage.name).capitalize()) for index, stage in enumerate(profile.stages)]


SECTION_OF: Final = {"health": "health", "water_chemistry": "health", "reproduction": "breeding"}
# The groups that the rows of a section stand in, by the part of the profile; the rest is "".
GROUPS: Final = {
    "body": _lazy("Body"),
    "costs": _lazy("Costs"),
    "dormancy": _lazy("Rest"),
    "health": _lazy("Health"),
    "water_chemistry": _lazy("Its water"),
    "space": _lazy("Space"),
    "heat": _lazy("Heat"),
    "moisture": _lazy("Moisture"),
    "light": _lazy("Light"),
    "ground": _lazy("Ground"),
    "feeding": _lazy("Food"),
    "water": _lazy("Water"),
}


def section_of(path: str) -> str:
    """The section that a path of the document is edited in."""
    parts = path.split(".")
    return parts[1] if parts[0] == "stages" and len(parts) > 1 else SECTION_OF.get(parts[0], "general")


def _group(path: tuple[str | int, ...]) -> str:
    part = path[2] if path[0] == "stages" and len(path) > 2 else path[0]
    return str(GROUPS.get(str(part), ""))


def rows(profile: Profile, section: str, units: KeeperUnits, edit: Edit | None = None) -> list[ProfileLine]:
    """The leaves of one section as they are to be shown."""
    found = []
    for path, leaf in leaves_with_paths(profile):
        dotted = ".".join(map(str, path))
        if section_of(dotted) != section or _inside_leaf(profile, path):
            continue
        inputs = tuple(_input(leaf, name, dotted, units, edit) for name in _editable(leaf))
        if not inputs:
            continue
        unread = () if edit is None else tuple(edit.unread[item.name] for item in inputs if item.name in edit.unread)
        faults = (*unread, *_faults(dotted, edit, units))
        school = "; ".join(str(names.SCHOOLS.get(key, key)) for key in leaf.school.split())
        symbol = words.symbol(dotted, units) or _sizes_in(leaf, units)
        label = words.label(dotted) + _level(leaf)
        note = leaf.note if edit is None else edit.typed.get(f"{dotted}:note", leaf.note)
        found.append(
            ProfileLine(dotted, _group(path), label, school, symbol, inputs, _basis(leaf), note, leaf.basis == "keeper", faults)
        )
    # What stands in no group comes first; the groups as the document has them.
    order = list(dict.fromkeys(("", *(line.group for line in found))))
    beside = Counter(line.path.rpartition(".")[0] for line in found)
    found = [replace(line, alone=beside[line.path.rpartition(".")[0]] == 1) for line in found]
    return sorted(found, key=lambda line: order.index(line.group))


def _inside_leaf(profile: Profile, path: tuple[str | int, ...]) -> bool:
    """A leaf within a leaf, such as the weeks of a rest, is changed in the file."""
    return len(path) > 2 and path[0] == "dormancy"


def _editable(leaf: Leaf) -> list[str]:
    given = leaf.model_dump(exclude_none=True)
    if "rule" in given or "food" in given or "product" in given or "kind" in given:
        return [name for name in (*NUMBERS, *TEXTS) if given.get(name) not in (None, "")]
    if "days_low" in given:
        return ["temperature_c", "days_low", "days_high"]
    return ["low", "high"] if "low" in type(leaf).model_fields else ["value"]


def _input(leaf: Leaf, name: str, path: str, units: KeeperUnits, edit: Edit | None) -> Input:
    posted = f"{path}:{name}"
    value = getattr(leaf, name)
    if edit is not None and posted in edit.typed:
        shown = edit.typed[posted]
    elif value is None:
        shown = ""
    elif isinstance(value, str):
        shown = value
    elif name in CENTIMETRES and getattr(leaf, "rule", "") == "fixed":
        shown = words.number(float(value), "x.size_cm", units)
    elif name == "temperature_c":
        shown = words.number(float(value), "x.temperature_c", units)
    elif name in ("low", "high", "value"):
        shown = words.number(float(value), path, units)
    else:
        shown = f"{value:g}"
    return Input(posted, NAMES.get(name, ""), shown, isinstance(value, str))


def _sizes_in(leaf: Leaf, units: KeeperUnits) -> str:
    """What the sizes of a space rule are counted in; "" for other leaves."""
    rule = getattr(leaf, "rule", "")
    if rule == "body":
        return _("× body")
    return units.number(1.0, "m", typed=True)[1] if rule == "fixed" else ""


def _level(leaf: Leaf) -> str:
    """Which of several a row is: the powder, the least or the recommended size, and for whom."""
    level = {"minimum": _("at least"), "recommended": _("recommended")}.get(getattr(leaf, "level", ""), "")
    sex = getattr(leaf, "sex", None)
    product = str(names.CHOICES["product"].get(getattr(leaf, "product", ""), ""))
    said = ", ".join(part for part in (product, level, str(names.CHOICES["sex"][sex]) if sex else "") if part)
    return f", {said}" if said else ""


def _basis(leaf: Leaf) -> str:
    return wording.basis(leaf.origin)


def _faults(path: str, edit: Edit | None, units: KeeperUnits) -> tuple[str, ...]:
    if edit is None:
        return ()
    found = [words.problem(item, units) for item in edit.problems if _near(item.path, path)]
    return (*found, *(said for where, all_said in edit.warned.items() if _near(where, path) for said in all_said))


def _near(where: str, path: str) -> bool:
    return where == path or where.startswith(path + ".") or (path.startswith(where + ".") and where.count(".") >= 2)


def bind(profile: Profile, section: str, query: QueryDict, units: KeeperUnits) -> Edit:
    """Put what was posted for a section into the profile's document and check the whole."""
    document, posted = profile.model_dump(mode="json"), {name: str(value) for name, value in query.items()}
    kept = {name: text.strip()[:300] for name, text in posted.items() if ":" in name}
    unread: dict[str, str] = {}
    for line in rows(profile, section, units):
        leaf = _at(document, line.path)
        changed = False
        for item in line.inputs:
            if item.name not in posted or posted[item.name].strip() == item.value:
                continue
            name, text = item.name.rpartition(":")[2], posted[item.name].strip()
            try:
                leaf[name] = _parsed(text, line.path, name, leaf, units)
                changed = True
            except NumberError as error:
                unread[item.name] = wording.unread(error, text[:60])
        note = posted.get(f"{line.path}:note", line.note).strip()[:300]
        if changed:
            leaf["basis"], leaf["cite"], leaf["table"] = "keeper", "", ""
        if changed or note != line.note:
            leaf["note"] = note
    if section == "general" and posted.get("common", "").strip():
        document["common"] = posted["common"].strip()[:80]
    try:
        fresh = read_data(document)
    except ProfileProblems as found:
        return Edit(document, kept, unread, found.problems, {})
    warned: dict[str, tuple[str, ...]] = {}
    for fault in check(fresh):
        if fault.code in ARGUABLE:
            warned[fault.path] = (*warned.get(fault.path, ()), words.fault(fault, units))
    return Edit(document, kept, unread, (), warned)


def _at(document: dict[str, Any], path: str) -> Any:
    part: Any = document
    for step in path.split("."):
        part = part[int(step)] if step.isdigit() else part[step]
    return part


def _parsed(text: str, path: str, name: str, leaf: dict[str, Any], units: KeeperUnits) -> Any:
    if name in TEXTS and isinstance(leaf.get(name), str):
        if not text:
            raise NumberError("not_a_number", text=text)
        return text
    if not text:
        return None
    if name in CENTIMETRES and leaf.get("rule") == "fixed":
        return into("x.size_cm", text, units)
    if name == "temperature_c":
        return into("x.temperature_c", text, units)
    if name in ("low", "high", "value"):
        return into(path, text, units)
    if name in WHOLE:
        return numerals.whole(text, units.decimal)
    return units.read(text, "%" if name.endswith("_percent") else "1")


def into(path: str, text: str, units: KeeperUnits) -> float:
    """A typed quantity in the profile's own unit."""
    unit = words.unit_of(path)
    if unit is None:
        return units.read(text, "1")
    si, factor = unit
    return round(units.read(text, si) / factor, 4)
