"""The species book: what the shelf shows, what a sheet says."""

from collections.abc import Callable
from typing import Any

import pytest
from django.http import QueryDict
from django.test import Client
from django.urls import reverse

from husbandry.space.sizing import fits
from husbandry.species.book import find, shipped
from husbandry.species.leaves import Range
from husbandry.species.lookup import plain_words
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue, portrait, sheet, shelf
from ridgeback.units import METRIC, KeeperUnits

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")


def shelf_of(query: str, units: KeeperUnits = METRIC) -> shelf.Shelf:
    catalogue.enter_shipped()
    return shelf.look(shelf.ShelfQuery.of(QueryDict(query), units), [], units)


def found(query: str, units: KeeperUnits = METRIC) -> list[str]:
    return [row.brief.species for row in shelf_of(query, units).rows]


GIANTS = {
    "reticulated-python", "burmese-python", "carpet-python", "common-boa", "boa-imperator", "brazilian-rainbow-boa", "rat-snake",
    "bull-snake",
}  # fmt: skip
ROOM_FROGS = {
    "dart-frog", "bumblebee-dart-frog", "green-dart-frog", "golden-poison-frog", "fire-bellied-toad", "horned-frog",
    "red-eyed-tree-frog", "milk-frog", "tomato-frog", "clawed-frog",
}  # fmt: skip
BASKING_TORTOISES = {"hermanns-tortoise", "russian-tortoise", "greek-tortoise", "marginated-tortoise", "leopard-tortoise"}
BASKING_FROGS = {"southern-bell-frog", "green-and-golden-bell-frog"}


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("query", "ids"),
    [
        ("q=fat-tailed&group=lizard", {"african-fat-tailed-gecko"}),
        ("group=frog&zone=2", {"whites-tree-frog", "fire-bellied-toad"}),
        ("group=frog&warmth=room", ROOM_FROGS),
        ("group=tortoise&zone=3", BASKING_TORTOISES),
        ("group=dragonfly", set(shipped())),
        ("group=frog&zone=3", BASKING_FROGS),
        ("size=giant&group=snake", GIANTS),
        ("size=small&group=salamander", {"chinese-fire-bellied-newt"}),
    ],
)
def test_the_shelf_answers_what_is_asked(query: str, ids: set[str]) -> None:
    assert set(found(query)) == ids


@pytest.mark.django_db
def test_what_fits_my_enclosure_in_either_unit() -> None:
    metric = found("box=90 x 45 x 45")
    assert "leopard-gecko" in metric
    assert "central-bearded-dragon" not in metric
    assert found("box=3ft x 18in x 18in", IMPERIAL) == found("box=91.4 × 45.7 × 45.7")
    assert set(found("box=600 x 400 x 300")) == set(shipped())
    by_rule = {profile.id for profile in shipped().values() if fits(profile, 1.2, 0.6, 0.6)}
    assert set(found("box=120 x 60 x 60")) == by_rule  # the columns and the rule agree


@pytest.mark.django_db
def test_a_box_that_is_none_is_said_and_not_asked() -> None:
    wanted = shelf.ShelfQuery.of(QueryDict("box=a shoebox"), METRIC)
    assert wanted.box_m is None
    assert wanted.fault
    assert set(found("box=a shoebox")) == set(shipped())


@pytest.mark.sweep
@pytest.mark.django_db
@pytest.mark.parametrize(
    ("query", "first"),
    [
        ("corn snake", "corn-snake"),
        ("CORN", "corn-snake"),
        ("Pantherophis", "corn-snake"),
        ("whites tree frog", "whites-tree-frog"),
        ("White’s", "whites-tree-frog"),
        ("dumpy", "whites-tree-frog"),
        ("leapord gecko", "leopard-gecko"),
        ("leapord", "leopard-gecko"),
        ("bluetounge", "blue-tongued-skink"),
        ("uromastix", "uromastyx"),
        ("beardie dragon", "central-bearded-dragon"),
        ("hermans tortoise", "hermanns-tortoise"),
        ("eublefaris", "leopard-gecko"),
        ("fat tail", "african-fat-tailed-gecko"),
        ("axolotel", "axolotl"),
        ("vieled chamelion", "veiled-chameleon"),
        ("birmese python", "burmese-python"),
        ("Salvator merianae", "argentine-tegu"),
    ],
)
def test_names_in_whatever_spelling_find_their_species(query: str, first: str) -> None:
    assert found(f"q={query}")[0] == first


@pytest.mark.sweep
@pytest.mark.django_db
def test_one_slip_in_any_species_name_still_finds_it() -> None:
    """Most misspelt words miss a letter, have one too many or a wrong one, or two exchanged (Damerau 1964)."""
    catalogue.enter_shipped()
    lost = []
    for place, profile in enumerate(sorted(shipped().values(), key=lambda one: one.id)):
        word = max(plain_words(profile.common).split(), key=len)
        if len(word) < 5:
            continue
        at = len(word) // 2
        slip = (word[:at] + word[at + 1 :], word[:at] + "w" + word[at:], word[:at] + "w" + word[at + 1 :])[place % 3]
        for spelt in (slip, word[: at - 1] + word[at] + word[at - 1] + word[at + 1 :]):
            if profile.id not in {entry.species for entry in catalogue.search(catalogue.reachable([]), spelt).entries}:
                lost.append((spelt, profile.id))
    assert lost == []


@pytest.mark.django_db
def test_letters_that_names_hold_find_these_and_nothing_merely_alike() -> None:
    assert all("gecko" in profile_id for profile_id in found("q=gecko"))
    assert set(found("q=tortoise")) == {profile.id for profile in shipped().values() if profile.group == "tortoise"}
    assert found("q=zzyzx qqq") == []
    assert len(found("q=")) == len(shipped())


@pytest.mark.django_db
def test_relatives_answer_for_an_unknown_species_only_with_a_warning() -> None:
    genus, unknown, known = shelf_of("q=Varanus"), shelf_of("q=Varanus komodoensis"), shelf_of("q=Varanus acanthurus")
    monitors = {"ridge-tailed-monitor", "savanna-monitor"}
    assert {row.brief.species for row in genus.rows} == {row.brief.species for row in unknown.rows} == monitors
    assert "genus" in genus.warning
    assert "no Varanus komodoensis" in unknown.warning
    assert "not its numbers" in unknown.warning
    assert (known.warning, [row.brief.species for row in known.rows]) == ("", ["ridge-tailed-monitor"])


def test_a_row_says_which_length_it_means() -> None:
    """Common practice, no source: always say which dimension."""
    said = {profile.id: shelf.row(catalogue.brief(profile), METRIC).length for profile in shipped().values()}
    assert said["leopard-gecko"].endswith("snout–vent")
    assert said["corn-snake"].endswith("long")
    assert said["russian-tortoise"].endswith("shell")


@pytest.mark.sweep
@pytest.mark.parametrize("units", [METRIC, IMPERIAL], ids=["metric", "imperial"])
@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_every_sheet_has_every_stage_in_its_frame_and_every_number_its_basis(profile: Any, units: KeeperUnits) -> None:
    page = sheet.context(profile, units)
    assert len(page["columns"]) == len(profile.stages)
    for column in page["columns"]:
        for bar in (*column["heat"], *column["humidity"], *column["uv"]):
            assert 0 <= float(bar.x) <= float(bar.x) + float(bar.width) <= sheet.COLUMN
            assert bar.basis
            assert bar.said
        for box in column["space"]["boxes"]:
            assert float(box["w"]) <= sheet.COLUMN
            assert float(box["y"]) >= 0
            assert box["basis"]
        assert all(item["basis"] for item in (*column["meals"], *column["supplements"]))
    assert all(fact["said"] for fact in page["facts"])


def test_enclosures_of_all_stages_are_to_one_scale() -> None:
    profile = find("leopard-gecko")
    scales = []
    for stage in profile.stages:
        boxes = {box["level"]: box for box in sheet.space(profile, stage, METRIC, sheet.Axes.of(profile))["boxes"]}
        largest = max(rule.length for rule in stage.space.rules if rule.level == "recommended") / 100
        scales.append(float(boxes["recommended"]["w"]) / largest)
        assert float(boxes["recommended"]["w"]) >= float(boxes["minimum"]["w"])
    assert scales == pytest.approx([scales[0]] * len(scales), rel=0.01)


def test_bars_lie_where_their_numbers_are() -> None:
    item = Range(low=27.5, high=50, basis="practice")
    drawn = sheet.bar("warm", "warm end", item, sheet.HEAT_C, "degC", METRIC)
    assert float(drawn.x) == pytest.approx((sheet.AXIS_LEFT + sheet.AXIS_RIGHT) / 2, abs=0.1)
    assert float(drawn.x) + float(drawn.width) == pytest.approx(sheet.AXIS_RIGHT, abs=0.1)
    assert drawn.said == "27.5–50.0 °C"
    twenty = next(tick for tick in sheet.ticks(sheet.HEAT_C, 10, METRIC, "degC") if tick["text"] == "20")
    assert float(twenty["x"]) == pytest.approx(sheet.AXIS_LEFT + (20 - 5) / 45 * (sheet.AXIS_RIGHT - sheet.AXIS_LEFT), abs=0.1)


def test_a_size_is_not_credited_to_a_rule_that_asks_for_less() -> None:
    """A leopard gecko's 90 × 45 cm is common practice; four body lengths by the report are less."""
    basis = {fact["name"]: fact["basis"] for fact in portrait.facts(find("leopard-gecko"), METRIC)}["Grown, it needs"]
    assert basis == "Common practice, no source"
    assert (
        "BML 1997" in {fact["name"]: fact["basis"] for fact in portrait.facts(find("russian-tortoise"), METRIC)}["Grown, it needs"]
    )


def test_a_long_life_is_a_warning() -> None:
    said = {fact["name"]: fact["said"] for fact in portrait.facts(find("hermanns-tortoise"), METRIC)}
    assert "it may outlive you" in said["Lives"]
    assert "outlive" not in {fact["name"]: fact["said"] for fact in portrait.facts(find("leopard-gecko"), METRIC)}["Lives"]


@pytest.mark.sweep
@pytest.mark.django_db
def test_the_book_is_read_page_by_page(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    shelf_page = client.get(reverse("book:shelf")).content.decode()
    for profile in shipped().values():
        address = reverse("book:sheet", args=[profile.id])
        assert address in shelf_page
        page = client.get(address).content.decode()
        assert profile.scientific in page
        assert "Common practice, no source" in page
        assert f"/habitats/new/?species={profile.id}" in page
    assert client.get(reverse("book:sheet", args=["sea-serpent"])).status_code == 404
    piece = client.get(reverse("book:shelf"), {"q": "corn"}, HTTP_HX_REQUEST="true").content.decode()
    assert "<html" not in piece
    assert "corn snake" in piece
    assert "leopard gecko" not in piece


@pytest.mark.django_db
def test_planning_one_begins_with_its_species(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    page = client_of(owner).get(reverse("rooms:new") + "?species=corn-snake").content.decode()
    assert '<option value="corn-snake" selected>' in page
