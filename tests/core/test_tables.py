"""Published tables: they stand once, and what names one of their rows stands as it has it."""

import tomllib
from datetime import date
from importlib import resources
from typing import Any

import pytest
from pydantic import ValidationError

from husbandry.assessment import BasisKind
from husbandry.codes import FaultCode
from husbandry.light.daylength import daylight_hours
from husbandry.species import tables
from husbandry.species.book import find, shipped
from husbandry.species.checks import check
from husbandry.species.leaves import Range, choose
from husbandry.species.profile import Profile, leaves_of
from husbandry.species.stage import SpaceRule
from husbandry.species.zones import ZONES

CORN = tomllib.loads((resources.files("husbandry.species") / "data" / "corn-snake.toml").read_text("utf-8"))


def test_a_row_fills_a_value_in_and_gives_it_its_origin() -> None:
    rule = SpaceRule.model_validate({"rule": "body", "level": "minimum", "table": "report-1997:tortoise"})
    assert (rule.length, rule.width, rule.height) == (8, 4, 2)
    assert rule.origin.kind is BasisKind.SOURCE
    assert "recalled" in rule.origin.citation
    with pytest.raises(ValidationError, match="there is no table"):
        Range.model_validate({"low": 1, "high": 2, "table": "report-1997:dragon-of-the-sea"})


def test_what_a_keeper_changes_is_no_tables_any_more() -> None:
    mine = Range.model_validate({"low": 5, "high": 9, "table": "uv-zones:1/mean", "basis": "keeper"})
    assert (mine.table, mine.origin.kind) == ("", BasisKind.KEEPER)


def changed(path: str, **values: Any) -> Profile:
    document = tomllib.loads((resources.files("husbandry.species") / "data" / "corn-snake.toml").read_text("utf-8"))
    part: Any = document
    *steps, last = path.split(".")
    for step in steps:
        part = part[int(step)] if step.isdigit() else part[step]
    part[last] = values
    return Profile.model_validate(document)


@pytest.mark.parametrize(
    ("path", "values"),
    [
        ("stages.2.light.hours", {"low": 6, "high": 14, "table": "day-length"}),
        ("stages.2.heat.ceiling_c", {"value": 40, "table": "critical-maxima:garter-snake"}),
    ],
)
def test_a_value_off_its_table_is_told(path: str, values: dict[str, Any]) -> None:
    assert FaultCode.OFF_ITS_TABLE in {item.code for item in check(changed(path, **values))}


def test_every_source_of_the_book_is_a_table_or_a_paper_that_is_named_in_full() -> None:
    """No value is credited to a source that stands nowhere: a paper has authors, a year and a journal."""
    named = {table.short for table in tables.tables().values()}
    for profile in shipped().values():
        for leaf in leaves_of(profile):
            if leaf.basis == "source" and leaf.cite not in named:
                assert any(word in leaf.cite for word in ("Journal", "Zoo Biology", "Herpet")), (profile.id, leaf.cite)
            if leaf.table:
                assert leaf.basis == "source", (profile.id, leaf)


def test_every_row_of_every_table_is_whole_and_every_table_is_used() -> None:
    used = {leaf.table.partition(":")[0] for profile in shipped().values() for leaf in leaves_of(profile)}
    for table in tables.tables().values():
        assert table.key in used or table.holds == "reach"
        assert table.says.endswith(".")
        assert (table.holds == "day length") == (not table.rows)
        for row in table.rows.values():
            assert row.get("low", 0) <= row.get("high", float("inf"))


ZONES_OF_2016 = {
    "leopard-gecko": "1", "corn-snake": "1", "royal-python": "1", "crested-gecko": "1", "central-bearded-dragon": "3",
    "hermanns-tortoise": "3", "green-anole": "3", "veiled-chameleon": "3", "panther-chameleon": "3", "red-footed-tortoise": "2",
    "red-eared-slider": "3", "uromastyx": "4",
}  # fmt: skip


@pytest.mark.parametrize(("species", "zone"), ZONES_OF_2016.items())
def test_zones_are_those_of_the_2016_paper(species: str, zone: str) -> None:
    """Baines et al. 2016, table of species (from memory)."""
    assert find(species).uv_zone.value == zone


MULTIPLES_OF_1997 = {
    "leopard-gecko": (4, 3, 2), "central-bearded-dragon": (5, 4, 3), "hermanns-tortoise": (8, 4, 2), "russian-tortoise": (8, 4, 2),
    "tokay-gecko": (6, 6, 8), "common-boa": (0.75, 0.5, 0.75), "red-eared-slider": (5, 2.5, 2.5),
}  # fmt: skip


@pytest.mark.parametrize(("species", "multiples"), MULTIPLES_OF_1997.items())
def test_body_length_multiples_are_those_of_the_german_report(species: str, multiples: tuple[float, float, float]) -> None:
    """BML 1997, expert report on minimum requirements for keeping reptiles (from memory; heights eased for ground snakes)."""
    found = [
        [rule for rule in stage.space.rules if rule.rule == "body" and rule.level == "minimum"] for stage in find(species).stages
    ]
    assert len(found[-1]) == 1
    for rule in (rule for rules in found for rule in rules):
        assert (rule.length, rule.width) == multiples[:2]
        assert (rule.height or 0) <= multiples[2]


@pytest.mark.parametrize(("species", "row"), tables.tables()["preferred-temperatures"].rows.items())
def test_where_an_animal_chooses_it_can_have_the_warmth_it_keeps(species: str, row: dict[str, float]) -> None:
    """Brattstrom 1965 and others (recalled): the cool end lies below the body temperature it keeps, its warm place reaches it."""
    for stage in find(species).stages:
        cool, warm = choose(stage.heat.cool_air_c, {}), choose(stage.heat.warm_air_c, {})
        warmest = choose(stage.heat.basking_surface_c, {}) if stage.heat.basking_surface_c else warm
        assert cool.least < row["low"], stage.id
        assert warmest.most >= (row["low"] + row["high"]) / 2, stage.id
        assert stage.heat.harmful_c["warm"] > row["low"], stage.id


def test_the_zones_are_the_tables_own() -> None:
    assert ZONES["3"].mean == (1.0, 2.6)
    assert ZONES["3"].highest == tables.find("uv-zones:3/highest")[1]["high"]
    assert ZONES["1"].basking is None


def test_days_at_thirty_three_degrees_are_ten_to_fourteen_hours() -> None:
    """Any almanac: at 33° N the shortest day has some 10.0 and the longest 14.3 hours (recalled)."""
    days = [daylight_hours(CORN["native_latitude"]["value"], date(2026, month, 21)) for month in (12, 6)]
    assert days == pytest.approx([10.0, 14.3], abs=0.1)
    assert tables.holds("day-length", {"low": 10, "high": 14}, (days[0], days[1]))
    assert not tables.holds("day-length", {"low": 9, "high": 15}, (days[0], days[1]))
