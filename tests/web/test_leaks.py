"""No page says a thing of the program's: every species on the pages of its rota, its space, its food and its fears, and the room's.

What is checked is the text a reader or a screen reader gets; the sentences of findings and numbers are in tests/web/test_words.py.
"""

import html
import re
from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from icalendar import Calendar

from husbandry.animal.targets import targets
from husbandry.assess.assess import Depth, assess
from husbandry.design import rigs, scenarios, survey
from husbandry.design.rig import RigsFound
from husbandry.species.book import shipped
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.drawing.marks import mark
from ridgeback.language import rotawords, wording
from ridgeback.pantry.models import Item, Lot
from ridgeback.planner import feeds, revisions, solving
from ridgeback.rooms.models import Habitat, Room
from ridgeback.units import METRIC, KeeperUnits
from tests.plans import TODAY
from tests.sample import some

pytestmark = pytest.mark.sweep

IMPERIAL = KeeperUnits("degF", "in", "oz", "gal")

HIDDEN = re.compile(r"<(script|style|select|datalist|template)\b.*?</\1>|<!--.*?-->", re.DOTALL)
TOLD = re.compile(r'(?:aria-label|title|alt|placeholder)="([^"]*)"')
# Codes, empty brackets and quotes, "a adult", "an boa", "1 days", "3–3", "every 1 day", what was not filled in.
LEAKS = re.compile(
    r"%\(|\bNone\b|\bnan\b|\binf\b|[{}]|\('|\(\)|“”|[a-z]_[a-z]|\ba (?=[aeio]\w)(?!one\b|once\b)"
    r"|\ban (?=[bcdfgjklmnpqrstvwxz]\w)(?!hour)"
    r"|(?<![\d.,–×/+ ])(?<!: )\b1 (?:lots|packs|days|weeks|moves|readings|pieces)\b"
    r"|every 1 day|(?<![\d.])([\d.]+)–\1(?![\d.])|\.\.(?!\.)|[?!]\.|\bTrue\b|\bFalse\b"
)
UNITS = ({}, {"temperature_unit": "degF", "length_unit": "in", "mass_unit": "oz", "volume_unit": "gal"})


@pytest.fixture
def room(owner: Keeper) -> Room:
    return Room.objects.get(members=owner)


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def read(page: str) -> list[str]:
    """The pieces of text on a page, and what is said to who does not see."""
    page = HIDDEN.sub(" ", page)
    said = [html.unescape(text) for text in TOLD.findall(page)]
    return [*said, *(" ".join(html.unescape(part).split()) for part in re.split(r"<[^>]+>", page))]


def leaks(page: str) -> list[str]:
    return [text for text in read(page) if LEAKS.search(text)]


def furnish(owner: Keeper, room: Room, species: str) -> Habitat:
    """A furnished habitat with the animal in the middle of its last stage but one, where it has several."""
    cases = [case for case in survey.cases(shipped()[species], TODAY) if not case.school]
    made = cases[len(cases) // 2].plan.model_copy(update={"name": f"Home of {shipped()[species].common}"[:80]})
    return revisions.create(room, made, owner, clock.now())


@pytest.mark.parametrize("species", some(shipped(), 8))
def test_no_page_of_a_habitat_leaks(client: Client, owner: Keeper, room: Room, species: str) -> None:
    place = list(shipped()).index(species)
    for name, value in UNITS[place % 2].items():
        setattr(owner, name, value)
    owner.save()
    habitat = furnish(owner, room, species)
    plan = revisions.plan_at(habitat, habitat.version)
    assert plan is not None
    possible = scenarios.possible(plan, shipped()[species], TODAY)
    pages = [
        reverse(name, args=[habitat.pk])
        for name in ("rota:menu", "rota:chores", "rota:condition", "rota:salad", "planner:space", "planner:schools", "planner:year")
    ]
    pages.append(reverse("planner:what-if", args=[habitat.pk]) + f"?case={possible[place % len(possible)]}")
    pages.append(reverse("book:sheet", args=[species]))
    other = list(shipped())[(place + 7) % len(shipped())]
    pages.append(reverse("book:compare") + f"?a={species}&b={other}")
    pages.append(reverse("rooms:answer") + f"?species={species}&room={habitat.room_id}&age=2+years")
    for address in pages:
        answer = client.get(address)
        assert answer.status_code == 200, address
        assert leaks(answer.content.decode()) == [], address


@pytest.mark.parametrize("units", UNITS, ids=["metric", "imperial"])
def test_no_page_of_a_room_leaks(client: Client, owner: Keeper, room: Room, units: dict[str, Any]) -> None:
    for name, value in units.items():
        setattr(owner, name, value)
    owner.save()
    for species in some(list(shipped())[::3], 4):
        furnish(owner, room, species)
    for food, unit, amount in (
        ("mouse/adult", "piece", 1.0),
        ("dandelion", "g", 90.0),
        ("plain calcium", "g", 50.0),
        ("cricket", "piece", 0.0),
    ):
        item = Item.objects.create(room=room, food=food, kind="other", unit=unit, pack_size=1.0, pack_price=2.5)
        if amount:
            Lot.objects.create(item=item, amount=amount, received=TODAY)
    pages = [reverse("rooms:habitats"), reverse("pantry:shelf"), reverse("rota:share"), reverse("daybook:instruments")]
    pages += [reverse("rota:calendar") + f"?view={view}" for view in ("day", "week", "month", "day&by=habitat")]
    for address in pages:
        answer = client.get(address)
        assert answer.status_code == 200, address
        assert leaks(answer.content.decode()) == [], address
    for query in ({}, {"days": "1"}):
        for event in Calendar.from_ical(client.get(reverse("rota:file"), query).content).walk("VEVENT"):
            for text in (str(event["summary"]), *str(event["description"]).split("\n")):
                assert LEAKS.search(text) is None, text
    for line in client.get(reverse("rota:csv")).content.decode().splitlines():
        assert LEAKS.search(line) is None, line


@pytest.mark.parametrize("species", some(["uromastyx", "axolotl", "crested-gecko", "corn-snake", "red-eared-slider"], 2, 1))
def test_nothing_leaks_from_a_search_for_a_rig_nor_from_a_lamp_hung_right(species: str) -> None:
    profile = shipped()[species]
    cases = [case for case in survey.cases(profile, TODAY) if not case.school]
    for units in (METRIC, IMPERIAL):
        found = list(rigs.search(cases[-1].plan, profile, TODAY))[-1]
        assert isinstance(found, RigsFound)
        answer = solving.rig_answer(found, units)
        told = [*answer["why"], *answer["unmet"], *(item["why"] for item in answer["refused"])]
        told += [text for rig in answer["rigs"] for part in rig["parts"] for text in part.values()]
        told += [row["said"] for row in solving.lamp_ways(cases[-1].plan, profile, TODAY, units).get("rows", ())]
        for text in told:
            assert LEAKS.search(str(text)) is None, text


@pytest.mark.parametrize("species", some(shipped(), 8, 1))
def test_every_stage_alone_and_in_a_group_is_said_without_a_leak(species: str) -> None:
    """What it eats, what is found and what each number says, for every stage of every species, for one and for five."""
    profile = shipped()[species]
    seen: set[str] = set()
    for case in survey.cases(profile, TODAY):
        if case.school or case.stage in seen:
            continue
        seen.add(case.stage)
        for count in (1, 5):
            animal = case.plan.animal.model_copy(update={"count": count, "name": "Thrift"})
            made = case.plan.model_copy(update={"animal": animal})
            found = assess(made, profile, TODAY, depth=Depth(days_of=(), spread=False, hanging=False))
            stage = found.body.decision.stage
            for units in (METRIC, IMPERIAL):
                told = [feeds.ration_text(ration, units) for ration in found.menu.rations]
                told += [wording.finding(item, units) for item in found.findings]
                told += [wording.remedy(item.remedy, units) for item in found.findings if item.remedy is not None]
                told += [f"{shown.said} {shown.why}" for shown in (mark(item, units) for item in found.quantities)]
                told.append(rotawords.kept_at(targets(made, profile, stage), units))
                for text in told:
                    assert LEAKS.search(text) is None, text
    assert seen == {stage.id for stage in profile.stages}
