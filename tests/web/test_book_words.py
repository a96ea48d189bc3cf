"""What the book says: every field, fault and problem in words, sums spelled out, sentences a keeper reads."""

from pathlib import Path

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from husbandry.codes import FaultCode
from husbandry.species.book import find, shipped
from husbandry.species.checks import BrokenRule
from husbandry.species.leaves import Choice, Range, Value
from husbandry.species.profile import leaves_with_paths
from husbandry.species.reading import ProfileProblem
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue, own, portrait, words
from ridgeback.book.models import Entry, Name
from ridgeback.daybook.writing import Intent
from ridgeback.language import ordinals
from ridgeback.planner import choosing, spacing
from ridgeback.rooms.models import Room
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY, plan

ROOT = Path(__file__).resolve().parents[2]
IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")


def test_every_field_of_every_profile_has_a_name_and_every_value_can_be_said() -> None:
    for profile in shipped().values():
        for path, leaf in leaves_with_paths(profile):
            dotted = ".".join(map(str, path))
            assert "." not in words.label(dotted), dotted
            for units in (METRIC, IMPERIAL):
                assert words.value(leaf, dotted, units), dotted


@pytest.mark.parametrize(
    ("leaf", "path", "metric", "imperial"),
    [
        (Range(low=20, high=25, basis="practice"), "stages.0.heat.night_c", "20–25 °C", "68–77 °F"),
        (Range(low=5, basis="practice"), "stages.0.ground.depth_cm", "from 5 cm", "from 1.97 in"),
        (Range(high=30, basis="practice"), "stages.0.mass_g", "up to 30 g", "up to 1.06 oz"),
        (Range(low=0, high=0, basis="practice"), "stages.0.light.uv_index.1", "0", "0"),
        (Value(value=36, basis="practice"), "stages.2.heat.ceiling_c", "36 °C", "96.8 °F"),
        (Choice(value="alone", basis="practice"), "company", "alone", "alone"),
    ],
)
def test_a_value_is_said_in_the_keepers_units(leaf: Range, path: str, metric: str, imperial: str) -> None:
    assert words.value(leaf, path, METRIC) == metric
    assert words.value(leaf, path, IMPERIAL) == imperial


def test_a_stages_field_is_named_with_its_stage_and_a_fault_with_its_numbers() -> None:
    assert words.label("stages.2.heat.night_c.0", find("corn-snake")) == "Adult: Night"
    assert words.label("together") == "Together"
    said = words.fault(BrokenRule("stages.0.light.uv_index", FaultCode.BEYOND_ZONE, {"zone": "1", "most": "1.4"}), METRIC)
    assert said == "Animals of zone 1 were never met in more than 1.4."
    assert words.problem(ProfileProblem(12, "id", "missing"), METRIC) == "line 12: This is missing."
    assert words.problem(ProfileProblem(0, "id", "missing"), METRIC) == "This is missing."


def test_a_rest_says_who_may_who_must_not_and_on_what_terms() -> None:
    parts = {part["name"]: part["lines"] for part in portrait.character(find("hermanns-tortoise"), METRIC)}
    said = parts["Rest"][0]["said"]
    for piece in ("Hibernation", "Never thin, ill", "3–8 °C", "8–18 weeks", "Last meal 14–28 days before", "10 % of its weight"):
        assert piece in said
    assert "Male and female" in {part["name"] for part in portrait.character(find("veiled-chameleon"), METRIC)}
    (never,) = next(part["lines"] for part in portrait.character(find("dart-frog"), METRIC) if part["name"] == "Rest")
    assert never["said"] == "No winter rest: a frog of the tropical forest floor, which has no cold season."


def test_schools_stand_side_by_side_with_their_values_and_bases() -> None:
    topics = {topic["topic"]: topic["schools"] for topic in portrait.schools(find("ridge-tailed-monitor"), METRIC)}
    hot, mild = topics["Basking heat"]
    assert (hot["name"], mild["name"]) == ("very hot stone", "mild stone")
    assert {"label": "Adult: Basking surface", "said": "54–66 °C"}.items() <= hot["lines"][2].items()
    assert "often repeated; most keepers find it too cool" in mild["lines"][0]["basis"]


def test_the_sum_of_a_size_is_spelled_out() -> None:
    pair = plan(species="hermanns-tortoise", animal={"count": 3, "length_m": 0.2}, heaters=[], uv_lamps=[])
    rows = {row["name"]: row for row in spacing.needs_now(pair, find("hermanns-tortoise"), TODAY, METRIC)["rows"]}
    length = rows["Floor length"]["sum"]
    assert length.startswith("8 × 20 cm of body = 160 cm")
    share = find("hermanns-tortoise").stages[-1].space.extra_animal_share
    if share is not None:
        assert f"with 2 more, each {100 * share.value:.0f} % of that" in length
    fixed = plan(species="leopard-gecko", animal={"length_m": 0.12, "hatched": "2024-01-01"}, heaters=[], uv_lamps=[])
    assert "90 cm as it stands" in spacing.needs_now(fixed, find("leopard-gecko"), TODAY, METRIC)["rows"][0]["sum"]


def test_height_comes_first_for_a_climber_and_floor_for_who_walks() -> None:
    for species, first in (("veiled-chameleon", "Inner height"), ("leopard-gecko", "Floor length")):
        made = plan(species=species, animal={"length_m": 0.12}, heaters=[], uv_lamps=[])
        assert spacing.needs_now(made, find(species), TODAY, METRIC)["rows"][0]["name"] == first


def test_a_school_that_changes_the_plate_says_so() -> None:
    topics = {topic["topic"]: topic["schools"] for topic in choosing.topics(plan(), find(plan().species), TODAY, (), METRIC)}
    separate, all_in_one = topics["Supplements"]
    assert separate["used"]
    assert any("all-in-one" in said for said in all_in_one["food"])
    assert any("plain calcium 0 times" in said for said in all_in_one["food"])


@pytest.mark.parametrize(("number", "said"), [(1, "1st"), (2, "2nd"), (3, "3rd"), (4, "4th"), (11, "11th"), (22, "22nd")])
def test_feeds_are_counted_as_people_count(number: int, said: str) -> None:
    assert ordinals.ordinal(number) == said


@pytest.mark.django_db
def test_the_catalogue_follows_the_book_and_writes_nothing_twice() -> None:
    catalogue.enter_shipped()
    assert Entry.objects.count() == len(shipped())
    with CaptureQueriesContext(
        connection,
    ) as queries:
        catalogue.enter_shipped()
    assert not [query for query in queries if query["sql"].startswith(("INSERT", "UPDATE", "DELETE"))]
    Entry.objects.filter(species="corn-snake").update(sha256="an older book's", common="corn")
    Entry.objects.create(**{**Entry.objects.filter(species="axolotl").values().get(), "id": None, "species": "sea-serpent"})
    catalogue.enter_shipped()
    assert Entry.objects.get(species="corn-snake").common == "corn snake"
    assert not Entry.objects.filter(species="sea-serpent").exists()
    assert Name.objects.filter(entry__species="corn-snake").count() >= 2


@pytest.mark.django_db
def test_the_shelf_asks_as_often_for_thirty_profiles_as_for_none(owner: Keeper) -> None:
    catalogue.enter_shipped()
    client, room = Client(), Room.objects.get(members=owner)
    client.force_login(owner, backend="django.contrib.auth.backends.ModelBackend")

    def asked(query: str) -> int:
        with CaptureQueriesContext(connection) as queries:
            client.get(reverse("book:shelf"), {"q": query})
        return len(queries)

    before = [asked(query) for query in ("", "gecko", "leapord")]
    for _ in range(30):
        own.copy(room, find("leopard-gecko"), Intent(owner, clock.now()))
    assert [asked(query) for query in ("", "gecko", "leapord")] == before
