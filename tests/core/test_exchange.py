"""A profile as a text: written, read again, its faults named by line and field, and what differs from another."""

import json
import tomllib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from husbandry.species.book import find, shipped
from husbandry.species.difference import differences
from husbandry.species.leaves import Choice, Leaf, choose, in_school
from husbandry.species.profile import Profile
from husbandry.species.reading import ProfileProblems, lines_of_json, lines_of_toml, read_data, read_text
from husbandry.species.writing import to_toml


def as_json(profile: Profile) -> str:
    return json.dumps(profile.model_dump(mode="json"), indent=1)


@pytest.mark.sweep
@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_what_is_written_is_read_again_as_the_same_profile(profile: Profile) -> None:
    assert read_text(to_toml(profile)) == profile
    assert read_text(as_json(profile)) == profile


@given(st.text(max_size=60))
def test_any_note_survives_the_file(note: str) -> None:
    """tomllib, Python's own reader, is the judge."""
    corn = find("corn-snake")
    changed = corn.model_copy(update={"law": Choice(value="check", basis="memory", note=note)})
    assert tomllib.loads(to_toml(changed))["law"].get("note", "") == note


@pytest.mark.parametrize("write", [to_toml, as_json], ids=["toml", "json"])
@pytest.mark.parametrize(
    ("old", "new", "path", "code"),
    [
        ('"snake"', '"fish"', "group", "unknown_choice"),
        ('"corn-snake"', '"Corn Snake!"', "id", "not_valid"),
    ],
)
def test_a_fault_names_its_line_and_its_field(write: object, old: str, new: str, path: str, code: str) -> None:
    text = write(find("corn-snake")).replace(old, new, 1)  # type: ignore[operator]
    with pytest.raises(ProfileProblems) as refused:
        read_text(text)
    found = next(item for item in refused.value.problems if item.path == path)
    assert found.code == code
    assert new in text.splitlines()[found.line - 1]


def test_a_fault_deep_in_a_stage_is_found_in_its_line() -> None:
    text = to_toml(find("corn-snake"))
    lines = text.splitlines()
    place = next(k for k, line in enumerate(lines) if line.startswith("night_c") and k > lines.index('id = "juvenile"'))
    end = place if lines[place].endswith("}") else lines.index("]", place)
    lines[place : end + 1] = ['night_c = [{ low = 90, high = 95, basis = "practice" }]']
    with pytest.raises(ProfileProblems) as refused:
        read_text("\n".join(lines))
    assert {(item.line, item.path) for item in refused.value.problems} >= {(place + 1, "stages.1.heat.night_c")}


def test_every_fault_is_told_at_once_and_broken_syntax_by_its_line() -> None:
    text = (
        to_toml(find("corn-snake")).replace('group = "snake"', "").replace('id = "corn-snake"', 'id = "corn-snake"\ncolour = "red"')
    )
    with pytest.raises(ProfileProblems) as refused:
        read_text(text)
    assert {item.code for item in refused.value.problems} >= {"missing", "unknown_field"}
    for broken, code, line in (("a = 1\nb = = 2", "bad_toml", 2), ('{\n"a": 1,\n"b" 2}', "bad_json", 3)):
        with pytest.raises(ProfileProblems) as refused:
            read_text(broken)
        assert [(item.code, item.line) for item in refused.value.problems] == [(code, line)]


def test_other_formats_lists_and_masses_of_text_are_refused() -> None:
    for data, code in (({"format": "somebody-elses/2"}, "other_format"), ([1], "not_a_table")):
        with pytest.raises(ProfileProblems) as refused:
            read_data(data)
        assert refused.value.problems[0].code == code
    for text in ("#" * 400_000, "{" + '"a":[' * 90_000):
        with pytest.raises(ProfileProblems) as refused:
            read_text(text)
        assert [item.code for item in refused.value.problems] == ["too_large"]
    with pytest.raises(ProfileProblems) as refused:
        read_text('{"a":' + "[" * 20_000)
    assert [item.code for item in refused.value.problems] == ["too_deep"]


def test_lines_are_counted_for_tables_lists_and_nested_objects() -> None:
    toml = """a = 1
[body]
form = "x"
[[stages]]
id = "one"
[stages.heat]
night_c = [
  { low = 1 },
  { low = 2 },
]
[[stages]]
id = "two"
"""
    found = lines_of_toml(toml)
    assert found["body", "form"] == 3
    assert found["stages", 0, "heat", "night_c", 1] == 9
    assert found["stages", 1, "id"] == 12
    lines = lines_of_json('{\n "a": 1,\n "stages": [\n  {"id": "one"},\n  {"heat":\n   {"x": 2}}\n ]\n}')
    assert lines["a",] == 2
    assert lines["stages", 0, "id"] == 4
    assert lines["stages", 1, "heat", "x"] == 6


def test_a_changed_number_is_a_difference_and_a_changed_reason_is_none() -> None:
    before = find("corn-snake")
    document = before.model_dump(mode="json")
    assert differences(before, before) == ()
    document["stages"][2]["heat"]["night_c"][0]["low"] = 14.0
    document["law"]["note"] = "asked the authority"
    found = differences(before, Profile.model_validate(document))
    assert [item.path for item in found] == ["stages.2.heat.night_c.0"]
    assert found[0].before is not None
    assert found[0].after is not None


def test_what_comes_and_what_goes_is_a_difference_too() -> None:
    before = find("corn-snake")
    document = before.model_dump(mode="json")
    document["morph_faults"] = []
    document["stages"][2]["climbing"] = {"value": "a branch", "basis": "keeper"}
    found = {item.path: (item.before is None, item.after is None) for item in differences(before, Profile.model_validate(document))}
    assert found["stages.2.climbing"] == (True, False)
    assert found["morph_faults.0"] == (False, True)


def test_schools_keep_apart_what_belongs_to_different_ones() -> None:
    leaves = tuple(
        Choice(value=value, school=school, basis="practice")
        for value, school in (("always", ""), ("share", "meal:share"), ("girth", "meal:girth"))
    )
    assert [leaf.value for leaf in in_school(leaves, {})] == ["always", "share"]
    assert [leaf.value for leaf in in_school(leaves, {"meal": "girth"})] == ["always", "girth"]
    assert [leaf.value for leaf in in_school(leaves, {"meal": "unheard of"})] == ["always", "share"]
    assert choose(leaves, {"meal": "girth"}).value == "girth"
    assert isinstance(leaves[0], Leaf)


def test_topics_are_those_the_profile_differs_on() -> None:
    assert find("leopard-tortoise").topics()["basking"] == ("slow", "warm")
    assert set(find("corn-snake").topics()["meal"]) == {"share", "girth"}
    assert "basking" not in find("corn-snake").topics()
