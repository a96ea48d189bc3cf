"""The page that says where the numbers of the book come from: tables, shares by species."""

from functools import cache
from typing import Any, Final

from django.utils.translation import gettext_lazy as _

from husbandry.diet.origins import KINDS, counted, origins
from husbandry.species.book import shipped
from husbandry.species.tables import tables
from ridgeback.language.booktext import book

NAMES: Final = {
    "table": _("stands in a published table"),
    "paper": _("stands in a paper"),
    "held": _("practice, held against published numbers"),
    "practice": _("common practice, no source"),
    "memory": _("from memory, no one source"),
    "estimate": _("estimate"),
}
SAYS: Final = {
    "table": _("It is the table's own number, or lies in the span the table gives. Each table is named below."),
    "paper": _("One paper, named with the value, says it."),
    "held": _(
        "Keepers' rations, powders, warm and cool ends, tested: calcium, phosphorus and vitamins of a week by the composition of"
        " the foods (Finke 2002 and 2013; Dierenfeld and others 2002; USDA); of lizards and snakes its energy against what they"
        " burn (Andrews and Pough 1985; Nagy and others 1999); the ends against the body temperature the animal chooses, where"
        " that is known."
    ),
    "practice": _("What keepers do and pass on. Nobody has published it, and others do otherwise."),
    "memory": _("What books and field guides say in general; no one of them is named."),
    "estimate": _("Worked out or guessed by Ridgeback. Yours replaces it."),
}
SHOWN: Final[tuple[str, ...]] = tuple(kind for kind in KINDS if kind in NAMES)
BAR: Final = 240.0  # width of a bar


@cache
def _counts() -> dict[str, dict[str, int]]:
    return {species: counted(profile) for species, profile in shipped().items()}


@cache
def _by_table() -> dict[str, int]:
    found: dict[str, int] = {}
    for profile in shipped().values():
        for item in origins(profile):
            if item.table:
                found[item.table] = found.get(item.table, 0) + item.numbers
    return found


def context() -> dict[str, Any]:
    """Return everything the page needs."""
    counts = _counts()
    all_of: dict[str, int] = {kind: sum(each[kind] for each in counts.values()) for kind in SHOWN}
    whole = sum(all_of.values())
    return {
        "kinds": [{"kind": kind, "name": NAMES[kind], "says": SAYS[kind], "count": all_of[kind]} for kind in SHOWN],
        "whole": whole,
        "all_bars": _bars(all_of),
        "followed": _percent(all_of["table"] + all_of["paper"], whole),
        "held": _percent(all_of["held"], whole),
        "tables": [
            {"key": table.key, "short": table.short, "cite": table.cite, "says": table.says, "count": _by_table().get(table.key, 0)}
            for table in tables().values()
        ],
        "rows": [
            {
                "id": species,
                "name": book(shipped()[species].common),
                "scientific": shipped()[species].scientific,
                "bars": _bars(each),
                "count": sum(each[kind] for kind in SHOWN),
                "followed": _percent(each["table"] + each["paper"], sum(each[kind] for kind in SHOWN)),
                "held": _percent(each["held"], sum(each[kind] for kind in SHOWN)),
                "estimate": _percent(each["estimate"], sum(each[kind] for kind in SHOWN)),
            }
            for species, each in counts.items()
        ],
        "bar": BAR,
    }


def _percent(part: int, whole: int) -> int:
    return round(100 * part / whole) if whole else 0


def _bars(counts: dict[str, int]) -> list[dict[str, str]]:
    """The kinds one behind the other, as long as their shares."""
    whole, x, found = sum(counts[kind] for kind in SHOWN), 0.0, []
    for kind in SHOWN:
        width = BAR * counts[kind] / whole if whole else 0.0
        found.append({"kind": kind, "x": f"{x:.1f}", "width": f"{width:.1f}"})
        x += width
    return found
