"""Two species, stages or schools side by side on one pair of axes."""

from dataclasses import dataclass
from typing import Any, Final

from django.http import QueryDict
from django.utils.translation import gettext as _

from husbandry.species.leaves import in_school
from husbandry.species.profile import Profile, leaves_with_paths
from husbandry.species.stage import Stage
from ridgeback.book import portrait, sheet, words
from ridgeback.language import wording
from ridgeback.units import KeeperUnits

SIDES: Final = ("a", "b")
USUAL: Final = {"a": "corn-snake", "b": "royal-python"}
# The leaves of a stage that are set side by side, in this order.
ROWS: Final = (
    "heat.basking_surface_c", "heat.mat_surface_c", "heat.warm_air_c", "heat.cool_air_c", "heat.night_c", "heat.ceiling_c",
    "heat.cool_ceiling_c", "heat.night_ceiling_c", "moisture.day_percent",
    "moisture.night_percent", "moisture.humid_hide_percent", "moisture.misting_per_day", "light.uv_index",
    "light.lit_share_percent", "light.hours", "ground.depth_cm", "water.temperature_c", "water.depth_cm", "feeding.interval_days",
)  # fmt: skip


@dataclass(frozen=True)
class ComparisonAsked:
    """What one side shows: a species, a stage of it ("" for the last), and "topic:school" ("" for the book's first)."""

    species: str
    stage: str
    school: str

    @classmethod
    def of(cls, query: QueryDict, letter: str, known: list[str]) -> "ComparisonAsked":
        species = query.get(letter, "")
        return cls(
            species if species in known else USUAL[letter], query.get(f"{letter}_stage", ""), query.get(f"{letter}_school", "")
        )


@dataclass(frozen=True)
class Side:
    """One side with its profile."""

    letter: str
    asked: ComparisonAsked
    profile: Profile

    @property
    def stage(self) -> Stage:
        named = [stage for stage in self.profile.stages if stage.id == self.asked.stage]
        return named[0] if named else self.profile.stages[-1]

    @property
    def schools(self) -> dict[str, str]:
        topic, _colon, school = self.asked.school.partition(":")
        return {topic: school} if school in self.profile.topics().get(topic, ()) else {}


def context(sides: list[Side], units: KeeperUnits) -> dict[str, Any]:
    """Return everything the template needs."""
    axes = sheet.Axes.of(*(side.profile for side in sides))
    facts = [portrait.facts(side.profile, units) for side in sides]
    return {
        "sides": [_side(side, units, axes) for side in sides],
        "facts": [
            {"name": one["name"], "cells": [one, other], "same": one["said"] == other["said"]}
            for one, other in zip(*facts, strict=True)
        ],
        "rows": [row for path in ROWS if (row := _row(path, sides, units)) is not None],
        **sheet.axis_ticks(axes, units),
    }


def _side(side: Side, units: KeeperUnits, axes: sheet.Axes) -> dict[str, Any]:
    offered = [("", _("as the book has it"))]
    offered += [
        (f"{topic}:{school}", f"{wording.topic(topic)}: {wording.school(topic, school)}")
        for topic, schools in side.profile.topics().items()
        for school in schools
    ]
    return {
        "letter": side.letter,
        "profile": side.profile,
        "stage": side.stage,
        "school": next((f"{topic}:{school}" for topic, school in side.schools.items()), ""),
        "offered": offered,
        "column": sheet.column(side.profile, side.stage, units, axes, side.schools),
    }


def _row(path: str, sides: list[Side], units: KeeperUnits) -> dict[str, Any] | None:
    """One leaf on both sides; None where neither has it."""
    cells = []
    for side in sides:
        leaves = tuple(
            leaf
            for where, leaf in leaves_with_paths(side.stage)
            if ".".join(str(step) for step in where if isinstance(step, str)) == path
        )
        used = in_school(leaves, side.schools)
        cells.append(
            {
                "said": "; ".join(words.value(leaf, path, units) for leaf in used),
                "basis": "; ".join(dict.fromkeys(wording.basis(leaf.origin) for leaf in used)),
            }
        )
    if not any(cell["said"] for cell in cells):
        return None
    return {"name": words.label(path), "cells": cells, "same": cells[0]["said"] == cells[1]["said"]}
