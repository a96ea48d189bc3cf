"""Own profiles: copied, changed with live checks, taken out and in, and what that means for the plans made by them."""

import html
import re
from collections.abc import Callable
from itertools import product
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.http import QueryDict
from django.test import Client
from django.urls import reverse

from husbandry.species.book import find
from husbandry.species.leaves import choose
from husbandry.species.profile import OWN_PREFIX, Profile
from husbandry.species.writing import to_toml
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue, editing, own, profiles
from ridgeback.book.models import Entry, OwnProfile
from ridgeback.daybook.writing import Intent
from ridgeback.planner import mapping, revisions
from ridgeback.planner.bench import assessed
from ridgeback.planner.view import View
from ridgeback.rooms.models import Habitat, Room
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import plan

FAHRENHEIT = KeeperUnits("degF", "in", "oz", "gal")


@pytest.fixture
def mine(owner: Keeper) -> OwnProfile:
    return own.copy(Room.objects.get(members=owner), find("corn-snake"), Intent(owner, clock.now()))


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def posted(**fields: str) -> QueryDict:
    query = QueryDict(mutable=True)
    query.update({name.replace("__", "."): value for name, value in fields.items()})
    return query


def typed(values: dict[str, str]) -> QueryDict:
    query = QueryDict(mutable=True)
    query.update(values)
    return query


def test_a_copy_is_the_rooms_own_and_the_book_stays_as_it_is(client: Client, owner: Keeper) -> None:
    assert client.post(reverse("book:copy", args=["corn-snake"])).status_code == 302
    made = OwnProfile.objects.get()
    assert (made.species, made.copied_from) == ("my-corn-snake", "corn-snake")
    assert Profile.model_validate(made.document | {"id": "corn-snake"}) == find("corn-snake")
    client.post(reverse("book:copy", args=["corn-snake"]))
    assert set(OwnProfile.objects.values_list("species", flat=True)) == {"my-corn-snake", "my-corn-snake-2"}


def test_numbers_typed_in_either_unit_become_the_profiles_and_carry_the_reason(mine: OwnProfile) -> None:
    edit = editing.bind(
        find("corn-snake"),
        "2",
        typed({"stages.2.heat.night_c.0:low": "64F", "stages.2.heat.night_c.0:note": "an old stone house"}),
        FAHRENHEIT,
    )
    assert edit.good
    leaf = edit.document["stages"][2]["heat"]["night_c"][0]
    assert leaf["low"] == pytest.approx(17.78, abs=0.01)
    assert (leaf["basis"], leaf["note"]) == ("keeper", "an old stone house")
    untouched = edit.document["stages"][2]["heat"]["cool_air_c"][0]
    assert untouched == find("corn-snake").model_dump(mode="json")["stages"][2]["heat"]["cool_air_c"][0]


def test_what_is_shown_and_posted_unchanged_changes_nothing() -> None:
    """Rounded to the keeper's units on the screen, the numbers underneath stay."""
    for key, units in product(("leopard-tortoise", "corn-snake", "axolotl", "jacksons-chameleon"), (METRIC, FAHRENHEIT)):
        profile = find(key)
        for section, _said in editing.sections(profile):
            lines = editing.rows(profile, section, units)
            values = {item.name: item.value for line in lines for item in line.inputs} | {
                f"{line.path}:note": line.note for line in lines
            }
            assert editing.bind(profile, section, typed(values), units).document == profile.model_dump(mode="json")


def test_faults_come_back_at_their_line_while_one_types_and_nothing_is_saved(client: Client, mine: OwnProfile) -> None:
    address = reverse("book:edit", args=[mine.pk])
    data = {"section": "2", "version": "1", "check": "1", "stages.2.heat.night_c.0:low": "30", "stages.2.heat.night_c.0:high": "31"}
    page = client.post(address, data, HTTP_HX_REQUEST="true").content.decode()
    assert "<html" not in page
    assert "The night is warmer than the cool end by day." in page
    assert "<input" not in page  # the fields under the hand are not replaced
    unread = client.post(address, data | {"stages.2.heat.night_c.0:low": "warm"}).content.decode()
    assert 'value="warm"' in unread  # without scripts what was typed comes back
    assert "“warm” is not a number" in unread  # and why, at its field
    typed = {"stages.2.heat.night_c.0:low": "warm", "check": "1"}
    meanwhile = client.post(address, data | typed, headers={"HX-Request": "true"}).content.decode()
    assert "“warm” is not a number" in meanwhile
    assert 'value="31"' in unread
    mine.refresh_from_db()
    assert mine.version == 1
    client.post(address, {name: value for name, value in data.items() if name != "check"})
    mine.refresh_from_db()
    assert mine.version == 1  # a profile that breaks a rule is not saved


def test_a_rule_one_may_argue_with_warns_and_lets_save(client: Client, mine: OwnProfile) -> None:
    data = {"section": "2", "version": "1", "stages.2.light.uv_index.0:high": "2.5"}
    page = client.post(reverse("book:edit", args=[mine.pk]), data, HTTP_HX_REQUEST="true").content.decode()
    assert "never met in more than" in page
    mine.refresh_from_db()
    assert mine.version == 2
    assert mine.document["stages"][2]["light"]["uv_index"][0]["high"] == 2.5


def test_a_stale_edit_overwrites_nothing(client: Client, mine: OwnProfile) -> None:
    address, field = reverse("book:edit", args=[mine.pk]), "stages.2.heat.night_c.0:low"
    client.post(address, {"section": "2", "version": "1", field: "15"})
    late = client.post(address, {"section": "2", "version": "1", field: "12"}, HTTP_HX_REQUEST="true").content.decode()
    assert "Somebody else changed this profile" in late
    mine.refresh_from_db()
    assert mine.document["stages"][2]["heat"]["night_c"][0]["low"] == 15


@pytest.mark.parametrize("kind", ["toml", "json"])
def test_what_is_taken_out_can_be_brought_into_another_room(
    kind: str, client: Client, mine: OwnProfile, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    text = client.get(reverse(f"book:export-{kind}", args=[mine.pk])).content
    upload = SimpleUploadedFile(f"corn.{kind}", text)
    assert client_of(other).post(reverse("book:take-in"), {"file": upload}).status_code == 302
    theirs = OwnProfile.objects.get(room__members=other)
    assert theirs.document == mine.document
    assert theirs.species == "my-corn-snake"


def test_a_faulty_file_is_refused_whole_with_line_and_field(client: Client) -> None:
    text = to_toml(find("corn-snake")).replace('group = "snake"', 'group = "fish"')
    line = next(number for number, row in enumerate(text.splitlines(), start=1) if "fish" in row)
    answer = client.post(reverse("book:take-in"), {"text": text})
    page = answer.content.decode()
    assert answer.status_code == 422
    assert f"line {line}: “fish” is not one of" in page
    assert "<code>group</code>" in page
    assert not OwnProfile.objects.exists()
    assert "not valid TOML" in client.post(reverse("book:take-in"), {"text": "a = = b"}).content.decode()
    binary = client.post(reverse("book:take-in"), {"file": SimpleUploadedFile("x.toml", b"\xff\xfe")})
    assert "UTF-8" in binary.content.decode()


def by_mine(mine: OwnProfile, owner: Keeper) -> Habitat:
    bare: dict[str, Any] = {"heaters": [], "uv_lamps": []}
    return revisions.create(mine.room, plan(species=mine.species, **bare), owner, clock.now())


def change_night(mine: OwnProfile, owner: Keeper, low: float) -> OwnProfile:
    document = mine.document
    document["stages"][2]["heat"]["night_c"][0] |= {"low": low, "basis": "keeper", "note": "our own readings"}
    return own.save(mine.pk, document, mine.version, owner, clock.now())


def test_a_plan_keeps_the_version_it_was_made_with_until_its_keeper_takes_the_new(
    client: Client, mine: OwnProfile, owner: Keeper
) -> None:
    habitat = by_mine(mine, owner)
    before = profiles.current(mine.room_id, mine.species)[0].stages[2].heat.night_c[0].low
    change_night(mine, owner, 12.5)
    habitat = Habitat.objects.get(pk=habitat.pk)
    assert revisions.profile_of(habitat).stages[2].heat.night_c[0].low == before
    assert revisions.profile_has_moved_on(habitat)
    assert "What has changed" in client.get(reverse("planner:bench", args=[habitat.pk])).content.decode()
    page = client.get(reverse("planner:book", args=[habitat.pk])).content.decode()
    assert "Adult: Night" in page
    assert "12.5" in page
    assert "our own readings" in page

    client.post(reverse("planner:take-book", args=[habitat.pk]), {"version": habitat.version})
    habitat = Habitat.objects.get(pk=habitat.pk)
    assert revisions.profile_of(habitat).stages[2].heat.night_c[0].low == 12.5
    assert not revisions.profile_has_moved_on(habitat)
    revisions.undo(habitat.pk, habitat.version, Intent(owner, clock.now()))
    assert revisions.profile_of(Habitat.objects.get(pk=habitat.pk)).stages[2].heat.night_c[0].low == before


def test_an_edit_of_the_plan_does_not_slip_in_the_new_version(mine: OwnProfile, owner: Keeper) -> None:
    habitat = by_mine(mine, owner)
    change_night(mine, owner, 12.5)
    moved = mapping.plan_of(habitat).model_copy(update={"name": "Moved"})
    habitat = revisions.save(habitat.pk, moved, habitat.version, owner, clock.now(), "renamed")
    assert revisions.profile_has_moved_on(habitat)


def test_a_plan_outlives_the_profile_it_was_made_by(client: Client, mine: OwnProfile, owner: Keeper) -> None:
    habitat = by_mine(mine, owner)
    client.post(reverse("book:delete", args=[mine.pk]))
    habitat = Habitat.objects.get(pk=habitat.pk)
    assert assessed(habitat, mapping.plan_of(habitat), clock.today(), View())[0].id.startswith(OWN_PREFIX)
    assert client.get(reverse("planner:bench", args=[habitat.pk])).status_code == 200
    assert not Entry.objects.filter(species=mine.species).exists()
    # Its own species stays chosen at the Animal step: another field's change must not turn the corn snake into a gecko.
    step = client.get(reverse("planner:bench", args=[habitat.pk]), {"step": "animal"}).content.decode()
    assert f'<option value="{mine.species}" selected' in step


def test_an_own_profile_is_found_planned_by_and_seen_by_nobody_else(
    client: Client, mine: OwnProfile, other: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    catalogue.enter_shipped()
    shelf = client.get(reverse("book:shelf"), {"q": "corn"}).content.decode()
    assert reverse("book:sheet", args=[mine.species]) in shelf
    assert reverse("book:sheet", args=[mine.species]) not in client_of(other).get(reverse("book:shelf")).content.decode()
    assert client_of(other).get(reverse("book:sheet", args=[mine.species])).status_code == 404
    assert f'value="{mine.species}"' in client.get(reverse("rooms:new")).content.decode()


def test_a_plan_by_an_own_profile_that_the_room_has_not_is_refused(client: Client, owner: Keeper) -> None:
    text = plan(species="my-sea-serpent").model_dump_json()
    page = client.post(reverse("rooms:import"), {"text": text}).content.decode()
    assert "no profile “my-sea-serpent”" in page
    assert not Habitat.objects.exists()


def test_days_of_incubation_are_changed_in_the_keepers_units(client: Client, mine: OwnProfile) -> None:
    page = client.get(reverse("book:edit", args=[mine.pk]) + "?section=breeding").content.decode()
    assert "Eggs and young" in page
    at = "reproduction.incubation.0"
    data = {"section": "breeding", "version": str(mine.version), f"{at}:temperature_c": "77 F", f"{at}:days_low": "72"}
    assert client.post(reverse("book:edit", args=[mine.pk]), data).status_code == 302
    mine.refresh_from_db()
    first = mine.document["reproduction"]["incubation"][0]
    assert (first["temperature_c"], first["days_low"], first["basis"]) == (25.0, 72.0, "keeper")


def test_what_is_possible_is_said_in_the_units_that_are_typed() -> None:
    """8 to 45 °C is no answer to 200 °F."""
    wrong = typed({"stages.2.heat.warm_air_c.0:high": "200"})
    for units, possible in ((FAHRENHEIT, "46.4 °F to 113 °F is possible"), (METRIC, "8 °C to 45 °C is possible")):
        edit = editing.bind(find("corn-snake"), "2", wrong, units)
        said = [text for line in editing.rows(find("corn-snake"), "2", units, edit) for text in line.faults]
        assert any(possible in text for text in said), said


def test_a_share_may_be_typed_with_its_sign() -> None:
    edit = editing.bind(find("corn-snake"), "2", typed({"stages.2.feeding.meals.0:mass_share_low_percent": "4,5 %"}), METRIC)
    assert edit.good, edit.unread
    assert edit.document["stages"][2]["feeding"]["meals"][0]["mass_share_low_percent"] == 4.5


def test_own_profiles_of_one_name_are_told_apart_wherever_one_chooses(client: Client, mine: OwnProfile, owner: Keeper) -> None:
    own.copy(mine.room, find("corn-snake"), Intent(owner, clock.now()))
    names = dict(profiles.choices([mine.room_id]))
    assert [names[key] for key in ("my-corn-snake", "my-corn-snake-2", "corn-snake")] == [
        "corn snake (own)",
        "corn snake (own, 2)",
        "corn snake",
    ]
    for address in (reverse("rooms:new"), reverse("rooms:find-species") + "?find=corn", reverse("book:compare")):
        page = client.get(address).content.decode()
        assert ">corn snake (own)<" in page.replace("\n", "")
        assert ">corn snake (own, 2)<" in page.replace("\n", "")


def press(client: Client, mine: OwnProfile, section: str, do: str, **fields: str) -> str:
    """Press one of the editor's buttons and return the page that comes."""
    mine.refresh_from_db()
    sent = {"section": section, "version": str(mine.version), "do": do} | fields
    page = client.post(reverse("book:edit", args=[mine.pk]), sent, headers={"HX-Request": "true"})
    assert page.status_code == 200
    mine.refresh_from_db()
    return page.content.decode()


def test_a_row_gets_a_second_school_and_a_plan_goes_by_the_one_its_keeper_chose(client: Client, mine: OwnProfile) -> None:
    row = "stages.2.heat.basking_surface_c.0"
    both = {"school_row": row, "school_now": "basking:warm", "school_new": "basking:slow"}
    told = press(client, mine, "2", "school", **both)
    new = "stages.2.heat.basking_surface_c.1"
    assert f'name="{new}:low"' in told
    values = {"section": "2", "version": str(mine.version), f"{new}:low": "29,5", f"{new}:high": "30.5"}
    assert client.post(reverse("book:edit", args=[mine.pk]), values).status_code == 302
    mine.refresh_from_db()
    profile = Profile.model_validate(mine.document)
    assert set(profile.topics()["basking"]) == {"warm", "slow"}
    leaves = profile.stages[2].heat.basking_surface_c
    assert leaves is not None
    assert choose(leaves, {"basking": "slow"}).low == 29.5
    assert choose(leaves, {"basking": "warm"}) == choose(leaves, {})
    assert choose(leaves, {}).low == find("corn-snake").stages[2].heat.basking_surface_c[0].low  # type: ignore[index]


@pytest.mark.parametrize(
    ("do", "fields", "said"),
    [
        (
            "school",
            {"school_row": "stages.2.heat.night_c.0", "school_now": "night:drop", "school_new": "basking:slow"},
            "same question",
        ),
        (
            "school",
            {"school_row": "stages.2.heat.night_c.0", "school_now": "night:drop", "school_new": "night:drop"},
            "another school",
        ),
        ("meal", {"meal_food": "rat", "meal_measure": "count", "meal_low": "one", "meal_limit": "girth"}, "is not a"),
        ("meal", {"meal_food": "unicorn", "meal_measure": "count", "meal_low": "1"}, "Choose one."),
        ("meal", {"meal_food": "cricket", "meal_measure": "count", "meal_low": "1"}, "Choose one."),
        ("meal", {"meal_food": "endive", "meal_measure": "portion", "meal_low": "2"}, "Say what a portion is"),
        ("powder", {"powder_product": "multivitamin", "powder_often": "days", "powder_uvb": "either"}, "Type a number."),
        ("band", {"band_name": "moisture.misting_per_day", "band_low": "5", "band_high": "2"}, "above high"),
        ("out:together.0", {}, "Nothing was changed"),
    ],
)
def test_a_part_that_cannot_be_added_says_why_and_changes_nothing(
    client: Client, mine: OwnProfile, do: str, fields: dict[str, str], said: str
) -> None:
    document = mine.document
    told = press(client, mine, "2", do, **fields)
    assert said in told
    assert mine.document == document
    assert all(text in told for name, text in fields.items() if name != "meal_food")
    if fields:  # its panel stands open as it was left
        (left,) = re.findall(r"(?s)<details open>.*?</details>", told)
        assert f'value="{do}"' in left


def test_where_something_is_wrong_nothing_is_added_and_it_is_said_beside_the_button(client: Client, mine: OwnProfile) -> None:
    document = mine.document
    wrong = {"stages.2.heat.night_c.0:low": "warm"}
    told = press(client, mine, "2", "powder", powder_product="multivitamin", powder_every="4", powder_often="feeds", **wrong)
    bar = told[told.index('class="save-bar"') :]
    assert "Nothing was saved. First mend:" in bar
    (left,) = re.findall(r"(?s)<details open>.*?</details>", told)
    assert 'value="4"' in left
    (place,) = re.findall(r'<a href="#(faults-\d+)">Night</a>', bar)
    assert "is not a" in told[told.index(f'id="{place}"') :].partition("</div>")[0]
    assert mine.document == document
    assert "Nothing was saved" not in client.get(reverse("book:edit", args=[mine.pk]), {"section": "2"}).content.decode()


def test_a_part_of_the_diet_is_added_and_its_own_days_are_planned(client: Client, owner: Keeper, mine: OwnProfile) -> None:
    chick = {
        "meal_food": "chick",
        "meal_measure": "share",
        "meal_low": "4,5 %",
        "meal_high": "6",
        "meal_week": "0.25",
        "meal_limit": "girth",
    }
    told = press(client, mine, "2", "meal", **chick)
    assert 'href="#new-row"' in told
    assert told.count('id="new-row"') == 1
    added = Profile.model_validate(mine.document).stages[2].feeding.meals[-1]
    assert (added.foods, added.mass_share_low_percent, added.per_week, added.limit) == (("chick",), 4.5, 0.25, "girth")
    assert added.prey_limit == "no thicker than the widest part of the body"
    assert added.basis == "keeper"


def test_a_powder_and_a_missing_band_are_added(client: Client, mine: OwnProfile) -> None:
    press(client, mine, "2", "powder", powder_product="multivitamin", powder_every="4", powder_often="feeds", powder_uvb="either")
    press(client, mine, "2", "band", band_name="moisture.misting_per_day", band_low="1", band_high="")
    stage = Profile.model_validate(mine.document).stages[2]
    assert [(item.product, item.every_feeds) for item in stage.feeding.supplements][-1] == ("multivitamin", 4)
    assert stage.moisture.misting_per_day is not None
    assert (stage.moisture.misting_per_day[0].low, stage.moisture.misting_per_day[0].high) == (1, None)
    press(client, mine, "2", "out:stages.2.moisture.misting_per_day.0")
    assert Profile.model_validate(mine.document).stages[2].moisture.misting_per_day is None


def test_a_row_that_is_taken_out_can_be_put_back(client: Client, mine: OwnProfile) -> None:
    document = mine.document
    told = press(client, mine, "general", "out:cautions.0")
    assert len(mine.document["cautions"]) == len(document["cautions"]) - 1
    kept = dict(re.findall(r'name="(gone_\w+)" value="([^"]*)"', told))
    press(client, mine, "general", "back", **{name: html.unescape(text) for name, text in kept.items()})
    assert mine.document == document


def test_the_return_key_saves_and_takes_nothing_out(client: Client, mine: OwnProfile) -> None:
    """A browser presses a form's first submit button for the return key."""
    page = client.get(reverse("book:edit", args=[mine.pk])).content.decode()
    form = page[page.index('id="profile-form"') :]
    assert "out:cautions.0" in form
    assert 'name="do"' not in re.findall(r'<button\s+type="submit"[^>]*>', form)[0]


def test_a_row_that_is_not_there_any_more_and_a_row_of_nonsense_change_nothing(client: Client, mine: OwnProfile) -> None:
    document = mine.document
    for do, fields in (
        ("out:stages.2.feeding.meals.9", {}),
        ("out:body.form", {}),
        ("out:stages", {}),
        ("back", {"gone_path": "stages.0.heat", "gone_row": "{}"}),
        ("back", {"gone_path": "cautions.0", "gone_row": "[1"}),
        ("back", {"gone_path": "cautions.0", "gone_row": '{"value": 3}'}),
        ("school", {"school_row": "id", "school_now": "night:drop", "school_new": "night:steady"}),
        ("fly", {}),
    ):
        told = press(client, mine, "2", do, **fields)
        assert 'role="alert"' in told, do
        assert mine.document == document, do
