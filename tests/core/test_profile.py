"""The schema of a species profile: what it refuses, and how a leaf is chosen."""

import copy
import tomllib
from importlib import resources
from typing import Any

import pytest
from pydantic import ValidationError

from husbandry.assessment import BasisKind
from husbandry.species.leaves import Range, choose
from husbandry.species.profile import Profile

SOURCE = (resources.files("husbandry.species") / "data" / "leopard-gecko.toml").read_text("utf-8")


def changed(**changes: Any) -> dict[str, Any]:
    """The leopard gecko's file with `a__b` at path a.b; a number picks from a list."""
    data = copy.deepcopy(tomllib.loads(SOURCE))
    for path, value in changes.items():
        *way, last = path.split("__")
        place: Any = data
        for step in way:
            place = place[int(step)] if isinstance(place, list) else place[step]
        if value is None:
            del place[last]
        else:
            place[int(last) if isinstance(place, list) else last] = value
    return data


def refusal(**changes: Any) -> str:
    with pytest.raises(ValidationError) as refused:
        Profile.model_validate(changed(**changes))
    return str(refused.value)


def test_the_file_as_it_is_is_a_profile() -> None:
    assert Profile.model_validate(changed()).scientific == "Eublepharis macularius"


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"stages__0__heat__night_c": {"low": 18, "high": 25}}, "basis"),
        ({"stages__0__heat__night_c": {"low": 25, "high": 18, "basis": "practice"}}, "low 25.0 is above high 18.0"),
        ({"stages__0__heat__night_c": {"basis": "practice"}}, "a range needs 'low' or 'high'"),
        ({"stages__0__heat__ceiling_c": {"value": 38, "basis": "hearsay"}}, "basis"),
        ({"uv_zone": {"value": "1", "basis": "source"}}, "names its citation"),
        ({"stages__0__leads": "length", "stages__0__length_cm": None}, "led by length but gives no bounds"),
        ({"stages__1__age_months": {"low": 4, "high": 12, "basis": "practice"}}, "leave a gap or overlap"),
        ({"stages__0__feeding__meals__0__portion": "a handful"}, "gives one of: count, share of body mass, portion"),
        ({"stages__0__feeding__supplements__0__every_feeds": 2}, "gives one of: every_days, every_feeds"),
        ({"stages__0__feeding__supplements": []}, "says why in 'no_supplements_because'"),
        ({"stages__0__feeding__supplements__0__product": "stardust"}, "product"),
        ({"stages__0__space__rules": []}, "rules"),
        ({"cautions": []}, "cautions"),
        ({"id": "Leopard Gecko"}, "id"),
        ({"colour": "yellow"}, "colour"),
        ({"body__lifespan_years": None}, "lifespan_years"),
    ],
)
def test_a_profile_that_breaks_a_rule_is_refused_by_name(changes: dict[str, Any], words: str) -> None:
    assert words in refusal(**changes)


def test_one_value_may_stand_where_a_list_of_schools_could() -> None:
    alone = Profile.model_validate(changed(stages__0__heat__night_c={"low": 18, "high": 25, "basis": "practice"}))
    listed = Profile.model_validate(changed(stages__0__heat__night_c=[{"low": 18, "high": 25, "basis": "practice"}]))
    assert alone == listed


LEAVES = (
    Range(low=1, high=2, basis="practice", school="uvb:shade"),
    Range(low=3, high=4, basis="practice"),
    Range(low=5, high=6, basis="practice", school="uvb:sunbeam"),
)


@pytest.mark.parametrize(
    ("schools", "low"),
    [({}, 3), ({"uvb": "shade"}, 1), ({"uvb": "sunbeam"}, 5), ({"uvb": "none"}, 3), ({"heat": "shade"}, 3)],
)
def test_the_keepers_school_else_the_common_leaf(schools: dict[str, str], low: float) -> None:
    assert choose(LEAVES, schools).low == low


def test_without_a_common_leaf_the_first_school_stands() -> None:
    assert choose(LEAVES[::2], {}).low == 1


def test_a_leaf_becomes_a_band_in_si_with_its_origin() -> None:
    depth = Range(low=4, high=10, basis="source", cite="BML 1997 (recalled)", note="adults", school="ground:loose")
    band = depth.band(factor=0.01, danger_high=0.5)
    assert (band.low, band.high, band.danger_high, band.school) == (0.04, 0.1, 0.5, "ground:loose")
    assert band.basis.kind is BasisKind.SOURCE
    assert (band.basis.citation, band.basis.note) == ("BML 1997 (recalled)", "adults")
    assert Range(low=4, basis="practice").middle == 4
    assert Range(low=4, high=10, basis="practice").middle == 7


def test_a_profile_of_before_is_judged_by_its_one_ceiling() -> None:
    """A keeper's own profile may say where harm begins only once."""
    once = Profile.model_validate(changed(stages__0__heat__cool_ceiling_c=None, stages__0__heat__night_ceiling_c=None))
    heat = once.stages[0].heat
    assert set(heat.harmful_c.values()) == {heat.ceiling_c.value}
    assert len(set(once.stages[1].heat.harmful_c.values())) == 3
