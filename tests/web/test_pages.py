"""The pages beside the bench, two species side by side, and the sheet on paper."""

import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.http import QueryDict
from django.test import Client
from django.urls import reverse

from husbandry.design.enclosure_steps import choice
from husbandry.species.book import find, shipped
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import comparison, sheet
from ridgeback.planner import choosing, mapping, spacing
from ridgeback.rooms.models import Habitat
from ridgeback.units import METRIC, KeeperUnits
from ridgeback.web import paper
from tests.plans import TODAY, plan
from tests.sample import some

ROOT = Path(__file__).resolve().parents[2]
BARE: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None}
IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture
def tortoise(make_habitat: Callable[..., Habitat]) -> Habitat:
    young = {"animal__hatched": "2026-08-01", "animal__mass_kg": None, "animal__length_m": None}
    box = {"enclosure__length_m": 0.95, "enclosure__width_m": 0.65, "enclosure__height_m": 0.4}
    return make_habitat(species="hermanns-tortoise", **BARE, **young, **box)


def test_the_page_of_space_shows_sums_years_and_both_paths(client: Client, tortoise: Habitat) -> None:
    page = client.get(reverse("planner:space", args=[tortoise.pk])).content.decode()
    assert "Its years" in page
    assert "Buy once or step up" in page
    assert "of body =" in page  # the sum, step by step
    assert "240 × 120 × 50 cm" in page
    assert re.search(r"In a year about [\d.]+ cm \([\d.]+ cm to [\d.]+ cm\) and \d+ g", page)


def test_prices_are_kept_and_set_against_each_other(client: Client, tortoise: Habitat) -> None:
    found = choice(mapping.plan_of(tortoise), find("hermanns-tortoise"), clock.today())
    assert found is not None
    steps = len(found.step_up.homes)
    data = {"version": tortoise.version, "price_once_0": "420"} | {f"price_steps_{place}": "260" for place in range(steps)}
    client.post(reverse("planner:prices", args=[tortoise.pk]), data)
    kept = mapping.plan_of(Habitat.objects.get(pk=tortoise.pk)).prices
    assert (kept.once, kept.steps) == (420, (260.0,) * steps)
    page = client.get(reverse("planner:space", args=[tortoise.pk])).content.decode()
    assert "260" in page
    stale = client.post(reverse("planner:prices", args=[tortoise.pk]), data | {"price_once_0": "1"}, follow=True).content.decode()
    assert "The same was changed elsewhere" in stale
    assert mapping.plan_of(Habitat.objects.get(pk=tortoise.pk)).prices.once == 420


@pytest.mark.parametrize(
    ("once", "said"), [(400.0, "Buying once costs 400 instead of 520"), (900.0, "Stepping up costs 520 instead of 900")]
)
def test_the_cheaper_path_is_named_with_its_moves(once: float, said: str) -> None:
    made = plan(
        species="hermanns-tortoise", animal__hatched="2026-10-10", animal__mass_kg=None, animal__length_m=None,
        enclosure__length_m=0.6, enclosure__width_m=0.4, enclosure__height_m=0.3,
        prices={"once": once, "steps": [120, 180, 220]}, **BARE,
    )  # fmt: skip
    found = choice(made, find("hermanns-tortoise"), TODAY)
    assert found is not None
    assert spacing.verdict(found).startswith(said)


def test_a_tank_measured_outside_becomes_the_plans_inside(client: Client, tortoise: Habitat) -> None:
    asked = {"outside": "4 ft x 2 ft x 2 ft", "wall": "18 mm", "back": "2 in"}
    page = client.get(reverse("planner:space", args=[tortoise.pk]), asked).content.decode()
    assert "two walls" in page
    assert "background behind" in page
    client.post(reverse("planner:take-size", args=[tortoise.pk]), {"version": tortoise.version, **asked})
    box = mapping.plan_of(Habitat.objects.get(pk=tortoise.pk)).enclosure
    assert (box.length_m, box.width_m, box.height_m) == pytest.approx((1.1832, 0.5228, 0.5736), abs=1e-4)


def test_a_box_says_what_it_would_do_to_the_plan_before_it_is_taken(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    """What stands on the page before is what is found after."""
    grown = make_habitat(room__summer__humidity_percent=47.0, room__winter__humidity_percent=47.0)
    url, asked = reverse("planner:space", args=[grown.pk]), {"nominal": "tank-10-gal"}
    page = client.get(url, asked).content.decode()
    new = re.findall(r"<li>([^<]+)</li>", page.partition("In there, new to mend:")[2].partition("</ul>")[0])
    assert any("Too small" in text for text in new)
    assert "new to mend" not in client.get(url).content.decode()
    client.post(reverse("planner:take-size", args=[grown.pk]), {"version": grown.version, **asked})
    after = client.get(reverse("planner:bench", args=[grown.pk])).content.decode()
    for text in new:
        assert text in after


def test_a_nominal_tank_brings_its_kind_and_lid(client: Client, tortoise: Habitat) -> None:
    client.post(reverse("planner:take-size", args=[tortoise.pk]), {"version": tortoise.version, "nominal": "tank-40-gal-breeder"})
    box = mapping.plan_of(Habitat.objects.get(pk=tortoise.pk)).enclosure
    assert (box.kind, box.lid) == ("glass", "mesh")
    assert box.length_m == pytest.approx(0.9144)


@pytest.mark.parametrize(
    ("asked", "fault"),
    [
        ("outside=two by two", "Three sizes"),
        ("outside=60x30x30&back=40", "Nothing is left of the width"),
        ("nominal=glass-90&wall=x", ""),
    ],
)
def test_what_cannot_be_worked_out_is_said(asked: str, fault: str) -> None:
    found = spacing.helper(QueryDict(asked), METRIC)
    assert fault in found.fault
    assert (found.sizes is None) == bool(fault)


@pytest.mark.sweep
@pytest.mark.parametrize("units", [METRIC, IMPERIAL], ids=["metric", "imperial"])
@pytest.mark.parametrize("profile", shipped().values(), ids=shipped())
def test_every_species_has_its_years_drawn_inside_the_figure(profile: Any, units: KeeperUnits) -> None:
    made = plan(species=profile.id, animal__hatched="2026-09-20", animal__mass_kg=None, animal__length_m=None, **BARE)
    page = spacing.context(made, profile, TODAY, (), QueryDict(), units)
    drawn = page["timeline"]
    for row in drawn["rows"]:
        for bar in row["bars"]:
            assert float(drawn["left"]) - 1 <= float(bar["x"]) <= float(drawn["right"]) + 1
            assert float(bar["x"]) + float(bar["w"]) <= float(drawn["right"]) + 1
    assert all(row["sum"] for part in page["needs"] for row in part["rows"])
    assert page["verdict"]


def test_what_a_school_would_change_is_shown_before_it_is_chosen(client: Client, make_habitat: Callable[..., Habitat]) -> None:
    habitat = make_habitat()  # a fat-tailed gecko under a weak tube, by the school of shade
    page = client.get(reverse("planner:schools", args=[habitat.pk])).content.decode()
    assert "The plan goes by this." in page
    assert "UV index at the back" in page
    assert "your school is no UVB" in page  # new to mend under “none”
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).schools == {"uvb": "shade"}
    client.post(reverse("planner:take-school", args=[habitat.pk]), {"version": habitat.version, "school": "uvb:none"})
    assert mapping.plan_of(Habitat.objects.get(pk=habitat.pk)).schools == {"uvb": "none"}
    refused = client.post(
        reverse("planner:take-school", args=[habitat.pk]), {"version": habitat.version, "school": "uvb:moonlight"}
    )
    assert refused.status_code == 404


def test_a_topic_with_one_school_leaves_no_choice() -> None:
    assert "uvb" not in choosing.offered(find("axolotl"))
    assert choosing.offered(find("uromastyx"))["uvb"] == ("sunbeam", "sessions")  # short times are open to all that get UV
    assert choosing.offered(find("uromastyx"))["size"] == ("graduated", "adult")


def side_by_side(query: str) -> dict[str, Any]:
    known, asked = list(shipped()), QueryDict(query)
    sides = [
        comparison.Side(letter, of, find(of.species))
        for letter in comparison.SIDES
        for of in [comparison.ComparisonAsked.of(asked, letter, known)]
    ]
    return comparison.context(sides, METRIC)


def test_two_species_two_stages_or_two_schools_stand_side_by_side() -> None:
    species = side_by_side("a=axolotl&b=ridge-tailed-monitor")
    rows = {row["name"]: row for row in species["rows"]}
    assert rows["Water temperature"]["cells"][0]["said"] == "14–18 °C"
    assert rows["Water temperature"]["cells"][1]["said"] == ""
    stages = {row["name"]: row for row in side_by_side("a=corn-snake&a_stage=hatchling&b=corn-snake&b_stage=adult")["rows"]}
    assert not stages["Days between feeds"]["same"]
    schools = {
        row["name"]: row
        for row in side_by_side("a=leopard-tortoise&a_school=basking:slow&b=leopard-tortoise&b_school=basking:warm")["rows"]
    }
    assert [cell["said"] for cell in schools["Basking surface"]["cells"]] == ["30–33 °C", "35–38 °C"]
    assert schools["Night"]["same"]


def test_sides_share_their_axes() -> None:
    """A stone of 66 °C and an axolotl's cave are drawn to one scale of heat and one of length."""
    page = side_by_side("a=axolotl&b=ridge-tailed-monitor")
    widths = [float(side["column"]["space"]["boxes"][0]["w"]) for side in page["sides"]]
    assert widths[1] / widths[0] == pytest.approx(1.8 / 1.0, rel=0.02)


@pytest.mark.django_db
def test_an_unknown_species_or_stage_falls_back(client: Client) -> None:
    page = client.get(reverse("book:compare"), {"a": "sea-serpent", "b": "axolotl", "b_stage": "dragon"})
    assert page.status_code == 200
    assert "Corn snake" in page.content.decode()


@pytest.mark.sweep
@pytest.mark.django_db
def test_a_sheet_is_handed_out_as_a_pdf(client: Client) -> None:
    answer = client.get(reverse("book:print", args=["royal-python"]))
    assert answer["Content-Type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF")


@pytest.mark.sweep
@pytest.mark.parametrize("species", some(list(shipped())[::5], 3))
def test_a_sheet_takes_two_pages_of_paper(species: str) -> None:
    context = sheet.context(find(species), METRIC) | {"units": METRIC, "today": TODAY}
    assert len(paper.laid_out("book/paper.html", context).pages) == 2


# A form's own deed, which the return key may do: counting and changing a pack, a feed that was eaten.
DEEDS = {
    ('name="do"', 'value="count"'), ('name="do"', 'value="packs"'), ('name="outcome"', 'value="{{ code }}"'),
    ('name="do"', 'value="crop"'), ('name="do"', 'value="change"'),
}  # fmt: skip


def test_the_return_key_in_a_field_takes_nothing_away() -> None:
    """A browser presses a form's first submit button for it: one that takes a lamp away must not stand there."""
    typed = re.compile(
        r'<input(?![^>]*type="(?:hidden|checkbox|radio|file)")|include "[^"]*(?:_input|_field|_form)|\{\{ (?:form|field)'
    )
    button = re.compile(r'<button\b(?![^>]*type="button")[^>]*>|include "_return_key.html"')
    forms = 0
    for path in (ROOT / "ridgeback/templates").rglob("*.html"):
        for form in re.findall(r"(?s)<form\b.*?</form>", path.read_text()):
            first = button.search(form)
            if typed.search(form) is None or first is None:
                continue
            forms += 1
            named = {(part[0], part[1]) for part in re.findall(r'(name="[^"]*")\s+(value="[^"]*")', first[0])}
            assert named <= DEEDS, f"{path.name}: {first[0]}"
    assert forms > 20
