"""What follows the hand: previews that save nothing, letting go that saves once, and what each of them reads."""

import html
import re
from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.assess.assess import Depth, assess
from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log, reader
from ridgeback.language import wording
from ridgeback.language.names import STEPS
from ridgeback.planner import growing, revisions
from ridgeback.planner.models import PlanRevision
from ridgeback.planner.readings import PLACE_NAMES
from ridgeback.rooms.models import Habitat
from tests.plans import TODAY, plan
from tests.web.test_planning import HTMX, plan_now, post


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


@pytest.fixture(autouse=True)
def _fixed_day(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "today", lambda: TODAY)


def test_a_preview_answers_and_saves_nothing(client: Client, habitat: Habitat) -> None:
    before = post(client, "preview", habitat, part="heaters.0", x_m="0.26", height_m="0.40").content.decode()
    after = post(client, "preview", habitat, part="heaters.0", x_m="0.60", height_m="0.40").content.decode()
    assert before != after
    assert plan_now(habitat) == plan()
    assert PlanRevision.objects.count() == 1


@pytest.mark.parametrize(
    ("side", "step"),
    [*(("front", step) for step in STEPS), ("above", "heat")],
)
def test_on_the_way_the_same_numbers_come_with_the_drawing_in_hand_alone(
    client: Client, habitat: Habitat, side: str, step: str
) -> None:
    where = {"part": "heaters.0", "x_m": "0.31", "step": step} | ({"height_m": "0.40"} if side == "front" else {"y_m": "0.2"})
    on_the_way, whole = (post(client, "preview", habitat, **where, **more) for more in ({"near": "yes"}, {}))
    pieces = [re.findall(r'<\w+ [^>]*?id="([\w-]+)"[^>]*hx-swap-oob', one.content.decode()) for one in (on_the_way, whole)]
    assert pieces[0] == ["bands", "scene" if side == "front" else "floor-scene"]
    everywhere = {"bands", "whole-day", "strip", "findings", "mending", "tape", "scene", "floor-scene"}
    assert set(pieces[1]) == everywhere | {"ground": {"ground-bill"}, "furniture": {"furnished"}}.get(step, set())
    for name in pieces[0]:
        near, far = (re.search(rf'id="{name}".*', one.content.decode(), re.DOTALL) for one in (on_the_way, whole))
        assert near is not None
        assert far is not None
        ends = ("<template>", '<div id="whole-day"') if name == "bands" else ('class="place"', 'class="place"')
        said, meant = (one[0].partition(end)[0].split() for one, end in zip((near, far), ends, strict=True))
        assert said == meant
    assert len(on_the_way.content) < 0.7 * len(whole.content)
    assert plan_now(habitat) == plan()


def test_nothing_says_how_sure_it_is_before_it_is_let_go(client: Client, habitat: Habitat) -> None:
    where = {"part": "heaters.0", "x_m": "0.31", "height_m": "0.40", "step": "heat"}
    for more in ({"near": "yes"}, {}):
        assert "eight times in ten" not in post(client, "preview", habitat, **where, **more).content.decode()
    assert "eight times in ten" in post(client, "move", habitat, **where).content.decode()


def test_a_preview_costs_three_queries(
    client: Client, habitat: Habitat, owner: Keeper, django_assert_num_queries: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The session, the keeper and the habitat with its last document; the log is read for the first place of a part and kept."""
    fresh = Habitat.objects.get(pk=habitat.pk)
    where = {"version": fresh.version, "step": "heat", "season": "winter", "phase": "day", "part": "heaters.0"}
    for grams in (50.0, 52.0, 55.0):
        log.weighed(fresh, clock.now(), owner, grams / 1000)
    url = reverse("planner:preview", args=[habitat.pk])
    now = clock.now()
    monkeypatch.setattr(clock, "now", lambda: now)
    client.post(url, where | {"x_m": "0.26", "height_m": "0.40"}, **HTMX)
    with django_assert_num_queries(3):
        assert client.post(url, where | {"x_m": "0.30", "height_m": "0.40"}, **HTMX).status_code == 200


def test_what_was_weighed_counts_while_something_is_dragged_and_when_it_is_let_go(
    client: Client, habitat: Habitat, owner: Keeper
) -> None:
    log.weighed(habitat, clock.now(), owner, 0.061)
    fresh = Habitat.objects.get(pk=habitat.pk)
    dragged = growing.weighings(fresh)
    assert dragged[-1].mass_kg == 0.061
    assert reader.weighings([habitat])[habitat.pk] == dragged
    saved = revisions.save(habitat.pk, plan(bowl=None), fresh.version, owner, clock.now(), "without its bowl")
    assert growing.weighings(saved) == dragged


def test_the_bands_that_may_not_hold_are_named_with_the_reading_that_would_tell(client: Client, habitat: Habitat) -> None:
    url = reverse("planner:bench", args=[habitat.pk])
    page = client.get(url, {"step": "heat", "season": "winter"})
    found = page.context["assessment"]
    words = " ".join(page.content.decode().split())
    certainty = found.certainty
    assert f"{len(certainty.safe)} of {certainty.count} bands of summer and winter are likely to hold" in words
    doubtful = [item for item in found.quantities if item.id in certainty.open + certainty.lost]
    assert doubtful
    for item in doubtful:
        assert wording.name(item) in words.partition("all bands hold at once")[0]
    assert certainty.reading is not None
    assert f"Measure next: {PLACE_NAMES[certainty.reading.place]}, by {certainty.reading.phase}." in words
    assert reverse("planner:readings", args=[habitat.pk]) in words


def test_on_the_floor_plan_a_part_moves_along_and_from_front_to_back(client: Client, habitat: Habitat) -> None:
    shown = post(client, "preview", habitat, part="heaters.0", x_m="0.26", y_m="0.40").content.decode()
    assert 'id="floor-scene"' in shown
    assert plan_now(habitat).heaters[0].y_m is None
    post(client, "move", habitat, part="heaters.0", x_m="0.30", y_m="0.40")
    heater = plan_now(habitat).heaters[0]
    assert (heater.x_m, heater.y_m, heater.height_m) == (0.3, 0.4, 0.4)
    post(client, "move", habitat, part="things.4", x_m="9", y_m="9")
    bowl = plan_now(habitat).bowl
    assert bowl is not None
    assert bowl.y_m == pytest.approx(0.5 - bowl.diameter_m / 2)
    for part, y_m in (
        ("pool", "0.2"),
        ("enclosure.vents.0", "0.2"),
        ("heaters.7", "0.2"),
        ("heaters.0", "here"),
        ("things.9", "0.1"),
    ):
        assert post(client, "move", habitat, part=part, x_m="0.3", y_m=y_m).status_code == 404, part


def test_how_far_from_the_front_is_typed_and_emptied_again(client: Client, habitat: Habitat) -> None:
    post(client, "save", habitat, **{"heaters.0.y_m": "12"})
    assert plan_now(habitat).heaters[0].y_m == pytest.approx(0.12)
    refused = post(client, "save", habitat, **{"heaters.0.y_m": "80"})
    assert "deep from front to back" in refused.content.decode()
    post(client, "save", habitat, **{"heaters.0.y_m": ""})
    assert plan_now(habitat).heaters[0].y_m is None


def test_letting_go_saves_and_holds_the_part_inside(client: Client, habitat: Habitat) -> None:
    post(client, "move", habitat, part="heaters.0", x_m="9", height_m="9")
    heater = plan_now(habitat).heaters[0]
    assert (heater.x_m, heater.height_m) == (1.2, 0.45)
    post(client, "move", habitat, part="things.1", x_m="0.3", height_m="9")
    assert plan_now(habitat).hides[0].x_m == 0.3


def test_what_the_last_preview_showed_is_saved_without_working_it_out_again(client: Client, habitat: Habitat) -> None:
    response = post(client, "move", habitat, part="heaters.0", x_m="0.30", height_m="0.38", shown="yes")
    assert plan_now(habitat).heaters[0].height_m == 0.38
    text = response.content.decode()
    assert "saved, state 2" in text
    assert 'value="38"' in text
    assert 'id="bands"' not in text


def test_what_takes_a_while_comes_when_the_hand_has_let_go(client: Client, habitat: Habitat) -> None:
    """While it moves the numbers follow; a lamp's right height and what would mend what is found come with the saved plan."""
    where = {"part": "heaters.0", "x_m": "0.30", "height_m": "0.20"}
    moving = " ".join(post(client, "preview", habitat, **where).content.decode().split())
    assert "From the lamp down to the basking surface." in moving
    assert "full on in the winter room" not in moving.lower()
    assert "Trying what would mend it" not in moving
    assert 'class="finding' in moving
    saved = post(client, "move", habitat, **where, shown="yes").content.decode()
    (address,) = re.findall(r'hx-get="([^"]+findings[^"]+)"', saved)
    after = client.get(html.unescape(address), **HTMX).content.decode()
    assert "full on in the winter room" in after.lower()
    assert 'id="bands"' in after
    assert 'id="band-lamp_distance"' in after
    assert "comes when you let go" in moving
    assert 'class="certainty"' not in moving
    assert 'class="certainty"' in after
    assert 'class="mend"' in after


def test_the_ground_is_dragged_and_carries_what_stands_on_it(client: Client, habitat: Habitat) -> None:
    post(client, "move", habitat, part="ground", x_m="0.5", height_m="0.12")
    assert plan_now(habitat).ground.depth_m == 0.12
    post(client, "move", habitat, part="ground", x_m="0.5", height_m="9")
    found = plan_now(habitat)  # held below the lamp over the platform
    assert found.ground.depth_m + found.platform.top_m < found.heaters[0].height_m  # type: ignore[union-attr]


def test_a_lamp_hung_far_above_the_lid_redraws_the_bench_only_once_let_go(
    client: Client, make_habitat: Callable[..., Habitat]
) -> None:
    open_top = make_habitat(enclosure__lid="open", heaters__0__height_m=0.5)
    where = {"part": "heaters.0", "x_m": "0.26", "height_m": "0.9"}
    scale = client.get(reverse("planner:bench", args=[open_top.pk])).context["section"]["frame"].scale
    preview = post(client, "preview", open_top, **where)
    assert preview.context["section"]["frame"].scale == scale
    moved = post(client, "move", open_top, **where)
    assert moved["HX-Retarget"] == "#bench"
    assert moved.context["section"]["frame"].scale < scale


def test_a_part_that_is_not_there_is_not_found(client: Client, habitat: Habitat) -> None:
    for data in (
        {"part": "heaters.9", "x_m": "0", "height_m": "0"},
        {"part": "heaters.0", "x_m": "far", "height_m": "0"},
        {"part": "name"},
    ):
        assert post(client, "preview", habitat, **data).status_code == 404


@pytest.mark.parametrize(
    ("part", "x_m", "height_m"),
    [("heaters.0", 0.5, 0.41), ("uv_lamps.0", 0.6, 0.40), ("things.0", 0.4, 0.05), ("things.2", 0.7, 0.0), ("things.4", 0.95, 0.0)],
)
def test_what_a_preview_shows_is_what_letting_go_keeps(
    client: Client, habitat: Habitat, part: str, x_m: float, height_m: float
) -> None:
    """The numbers beside the hand while it drags are those of the plan that is saved there, band by band."""
    where = {"part": part, "x_m": str(x_m), "height_m": str(height_m), "season": "summer"}
    shown = post(client, "preview", habitat, **where).context["assessment"]
    assert post(client, "move", habitat, **where).status_code == 200
    saved = plan_now(habitat)
    kept = assess(saved, find(saved.species), TODAY, depth=Depth(days_of=("summer",)))
    assert [item.id for item in shown.quantities] == [item.id for item in kept.quantities]
    for before, after in zip(shown.quantities, kept.quantities, strict=True):
        # One more round of the search goes with the spread: nothing that a screen shows.
        assert before.value == pytest.approx(after.value, rel=1e-3, abs=0.02), before.id
        assert before.verdict == after.verdict, before.id
    # What is found is the same; seasons that need a different change each stand apart once it was looked for.
    assert {item.code: item.severity for item in shown.findings} == {item.code: item.severity for item in kept.findings}


def test_a_tube_heater_and_a_mat_are_drawn_from_above_and_the_tube_is_taken_hold_of(
    client: Client, make_habitat: Callable[..., Habitat]
) -> None:
    tube = {"kind": "tube-heater", "watts": 60.0, "x_m": 0.6, "y_m": 0.44, "height_m": 0.2, "length_m": 0.5, "guarded": True}
    mat = {"kind": "mat", "watts": 15.0, "x_m": 0.9, "height_m": 0.01, "length_m": 0.3}
    habitat = make_habitat(heaters=[tube, mat])
    shown = client.get(reverse("planner:bench", args=[habitat.pk]), {"step": "heat"}).content.decode()
    floor = shown[shown.index('id="floor-scene"') :]
    assert len(re.findall(r'<rect class="lying from-above', floor)) == 2
    assert 'data-place="heaters.0"' in floor
    assert 'name="heaters.0.guarded"' in shown
    post(client, "move", habitat, part="heaters.0", x_m="0.40", y_m="0.30")
    moved = plan_now(habitat).heaters[0]
    assert (moved.x_m, moved.y_m, moved.height_m) == (0.4, 0.3, 0.2)
