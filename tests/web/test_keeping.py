"""Animals that live in habitats, what is written of them, and the plan that follows them."""

import io
import re
from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from django.db import IntegrityError, transaction
from django.test import Client
from django.urls import reverse
from PIL import Image, ImageFile

from husbandry.rota.card import RoomDays
from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import own
from ridgeback.daybook import log, reader
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.writing import Intent, Refused
from ridgeback.keeping import judging, quarantine
from ridgeback.keeping.actions.animals import Move, Newcomer, describe, leave, move, welcome
from ridgeback.keeping.actions.entries import (
    DoubtfulEntryError,
    Whose,
    correct_entry,
    take_back_entry,
    whose_animal,
    write_entry,
    write_entry_surely,
)
from ridgeback.planner import breeding, mapping, residents, revisions
from ridgeback.rooms.models import Animal, Habitat, Residence
from ridgeback.rooms.residents import living_in
from ridgeback.rota import cards
from tests.plans import TODAY, plan

Make = Callable[..., Habitat]
GECKO = "african-fat-tailed-gecko"


@pytest.fixture(autouse=True)
def _today(monkeypatch: pytest.MonkeyPatch) -> None:
    """The day that the plans of the tests are made for."""
    real = clock.now()
    now = real.replace(year=TODAY.year, month=TODAY.month, day=TODAY.day, hour=15)
    monkeypatch.setattr(clock, "now", lambda: now)
    monkeypatch.setattr(clock, "today", lambda: TODAY)


@pytest.fixture
def intent(owner: Keeper) -> Intent:
    return Intent(owner, clock.now())


def ago(days: int) -> date:
    return TODAY - timedelta(days=days)


def come(habitat: Habitat, intent: Intent, *names: str, day: date | None = None, **facts: Any) -> list[Animal]:
    """Let some come to live in a habitat, of the kind it is planned for."""
    told = {"species": habitat.species, "sex": "female", "hatched": date(2024, 9, 1)} | facts
    # What the plan says of its animal was told long ago.
    Event.objects.filter(habitat=habitat, animal=None).update(at=clock.now() - timedelta(days=120))
    return welcome(habitat.pk, intent, [Newcomer(told | {"name": name}) for name in names], day or ago(100), TODAY)


def plan_now(habitat: Habitat) -> Any:
    return mapping.plan_of(Habitat.objects.get(pk=habitat.pk))


def weigh(animal: Animal, intent: Intent, days: int, mass_kg: float, *, sure: bool = False) -> Event:
    at = clock.now() - timedelta(days=days)
    write = write_entry_surely if sure else write_entry
    return write(whose_animal(animal), intent, at, "animal.weighed", {"mass_kg": mass_kg}, TODAY)


# --- who lives where, and the plan that follows


def test_what_a_plan_was_told_of_its_animal_becomes_the_ones_that_moves_in(habitat: Habitat, intent: Intent) -> None:
    before = reader.weighings([habitat])[habitat.pk]
    facts = {"name": "Samphire", "species": habitat.species, "hatched": date(2024, 9, 1)}
    (samphire,) = welcome(habitat.pk, intent, [Newcomer(facts)], ago(100), TODAY)
    assert {event.kind for event in Event.objects.filter(animal=samphire)} == {
        "animal.weighed",
        "animal.measured",
        "animal.arrived",
    }
    assert reader.weighings([habitat])[habitat.pk] == before
    assert (plan_now(habitat).animal.name, plan_now(habitat).animal.mass_kg) == ("Samphire", plan().animal.mass_kg)


def test_what_a_plan_was_told_is_not_of_one_of_another_kind_nor_of_a_younger_one(
    habitat: Habitat, make_habitat: Make, intent: Intent
) -> None:
    (sedge,) = come(habitat, intent, "Sedge", species="corn-snake" if habitat.species == GECKO else GECKO)
    (tansy,) = come(make_habitat(name="Other shelf"), intent, "Tansy", hatched=ago(101))
    for animal in (sedge, tansy):
        assert {event.kind for event in Event.objects.filter(animal=animal)} == {"animal.arrived"}


def test_the_plan_follows_a_group_as_it_comes_and_goes(habitat: Habitat, make_habitat: Make, intent: Intent) -> None:
    first, second = come(habitat, intent, "Samphire", "Sedge")
    assert (plan_now(habitat).animal.count, plan_now(habitat).animal.others) == (2, ("Sedge",))
    other = make_habitat(name="Other shelf")
    move(first.pk, intent, Move(other.pk, ago(3), "growth"), TODAY)
    assert (plan_now(habitat).animal.name, plan_now(habitat).animal.count) == ("Sedge", 1)
    assert plan_now(other).animal.name == "Samphire"
    leave(second.pk, intent, ago(1), "rehomed", "", TODAY)
    # Nobody lives there: the plan stays as it was.
    assert (plan_now(habitat).animal.name, living_in([habitat.pk])[habitat.pk]) == ("Sedge", [])


def test_a_life_moves_with_the_animal_and_nothing_of_it_stays_behind(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper
) -> None:
    other = make_habitat(name="Other shelf")
    (samphire,) = come(habitat, intent, "Samphire")
    weigh(samphire, intent, 40, 0.055)
    log.fed(habitat, clock.now() - timedelta(days=20), owner, outcome="eaten")
    move(samphire.pk, intent, Move(other.pk, ago(10)), TODAY)
    here, there = reader.lived([habitat])[habitat.pk], reader.lived([other])[other.pk]
    assert (here.weighings, here.meals) == ((), ())
    assert 0.055 in [one.mass_kg for one in there.weighings]
    assert [meal.outcome for meal in there.meals] == ["eaten"]


def test_a_newcomer_to_a_group_brings_no_meals_and_weights_of_others_are_not_the_plans(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper
) -> None:
    first, second = come(habitat, intent, "Samphire", "Sedge")
    weigh(first, intent, 5, 0.057)
    weigh(second, intent, 4, 0.031)
    masses = [one.mass_kg for one in reader.weighings([habitat])[habitat.pk]]
    assert 0.057 in masses
    assert 0.031 not in masses
    other = make_habitat(name="Other shelf")
    (third,) = come(other, intent, "Tansy")
    log.fed(other, clock.now() - timedelta(days=2), owner, outcome="refused")
    move(third.pk, intent, Move(habitat.pk, ago(0)), TODAY)
    assert reader.lived([habitat])[habitat.pk].meals == ()


def test_an_animal_lives_in_one_habitat_says_the_database(habitat: Habitat, make_habitat: Make, intent: Intent) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    other = make_habitat(name="Other shelf")
    with pytest.raises(IntegrityError), transaction.atomic():
        Residence.objects.create(animal=samphire, habitat=other, since=TODAY)
    with pytest.raises(IntegrityError), transaction.atomic():
        Animal.objects.filter(pk=samphire.pk).update(left_on=TODAY)


@pytest.mark.parametrize(
    ("told", "code"),
    [
        (lambda here, other: Move(here.pk, TODAY), "lives_here"),
        (lambda here, other: Move(other.pk, TODAY + timedelta(days=1)), "in_the_future"),
        (lambda here, other: Move(other.pk, ago(200)), "moved_before_it_came"),
    ],
)
def test_a_move_that_cannot_be_is_refused_and_changes_nothing(
    habitat: Habitat, make_habitat: Make, intent: Intent, told: Any, code: str
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    other = make_habitat(name="Other shelf")
    with pytest.raises(Refused) as refused:
        move(samphire.pk, intent, told(habitat, other), TODAY)
    assert refused.value.code == code
    assert [one.habitat_id for one in Residence.objects.filter(animal=samphire, until__isnull=True)] == [habitat.pk]


def test_it_escapes_is_found_and_keeps_its_history(habitat: Habitat, intent: Intent) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    leave(samphire.pk, intent, ago(9), "escaped", "The door stood open.", TODAY)
    with pytest.raises(Refused) as refused:
        move(samphire.pk, intent, Move(habitat.pk, ago(2)), TODAY)
    assert refused.value.code == "has_left"
    back = move(samphire.pk, intent, Move(habitat.pk, ago(2), "found-again", comes_back=True), TODAY)
    assert (back.left_on, back.left_by) == (None, "")
    kinds = [event.kind for event in Event.objects.filter(animal=samphire).order_by("id")]
    assert kinds[-2:] == ["animal.left", "animal.moved"]
    assert Residence.objects.filter(animal=samphire).count() == 2


def test_nothing_of_an_animal_is_older_than_what_was_before_it(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    """It does not come back before it left, and nothing but notes of its egg is of before it hatched."""
    (samphire,) = come(habitat, intent, "Samphire", hatched=ago(90), day=ago(80))
    other = make_habitat(name="Other shelf")
    leave(samphire.pk, intent, ago(9), "lent", "", TODAY)
    for at_once in (
        lambda: move(samphire.pk, intent, Move(other.pk, ago(10), comes_back=True), TODAY),
        lambda: weigh(samphire, intent, 91, 0.004),
        lambda: describe(samphire.pk, intent, {"hatched": ago(79)}, samphire.version + 1, TODAY),
    ):
        with pytest.raises(Refused) as refused:
            at_once()
        assert refused.value.code in ("back_before_it_left", "before_it_hatched", "hatched_after_it_came")
    assert Residence.objects.filter(animal=samphire).count() == 1
    assert not Event.objects.filter(animal=samphire, kind="animal.weighed", at__date__lt=ago(90)).exists()
    whose, early = whose_animal(samphire), clock.now() - timedelta(days=95)
    assert write_entry(whose, intent, early, "note", {"note": "Its egg is white."}, TODAY).pk
    client = client_of(owner)
    sent = {"day": ago(95).isoformat(), "time": "", "mass_kg": "4 g"}
    page = client.post(reverse("keeping:write-animal", args=[samphire.pk, "animal-weighed"]), sent)
    assert page.status_code == 422
    assert "What happened to it before is no entry" in page.context["form"].errors["day"][0]
    for name, more in (("move", {"habitat": other.pk, "why": "found-again", "sure": "yes"}), ("leave", {"how": "lent"})):
        page = client.post(reverse(f"keeping:{name}", args=[samphire.pk]), {"day": ago(10).isoformat(), "note": "At dusk."} | more)
        if name == "move":  # one that has left does not leave again
            assert (page.status_code, page.context["form"]["note"].value()) == (422, "At dusk.")
            assert "would be before that" in page.context["form"].errors["day"][0]
        else:
            assert page.status_code == 302
    move(samphire.pk, intent, Move(other.pk, ago(9), comes_back=True), TODAY)
    early_again = {"day": ago(10).isoformat(), "how": "lent"}
    page = client.post(reverse("keeping:leave", args=[samphire.pk]), early_again)
    assert "cannot have moved before" in page.context["form"].errors["day"][0]
    weighed = weigh(samphire, intent, 2, 0.03)
    with pytest.raises(Refused):
        correct_entry(weighed.pk, intent, clock.now() - timedelta(days=91), {"mass_kg": 0.03}, TODAY)
    described = {"name": "Samphire", "species": samphire.species, "sex": "female", "hatched": ago(70).isoformat()}
    samphire.refresh_from_db()
    page = client.post(
        reverse("keeping:describe", args=[samphire.pk]), described | {"version": samphire.version, "origin": "unknown"}
    )
    assert "hatched" in page.context["form"].errors
    Animal.objects.filter(pk=samphire.pk).update(hatched_is_estimate=True)
    samphire.refresh_from_db()
    assert weigh(samphire, intent, 91, 0.004).pk


def test_one_that_lives_nowhere_goes_no_day_before_it_lived_nowhere(habitat: Habitat, intent: Intent) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    move(samphire.pk, intent, Move(None, ago(5)), TODAY)
    with pytest.raises(Refused) as refused:
        leave(samphire.pk, intent, ago(6), "rehomed", "", TODAY)
    assert refused.value.code == "back_before_it_left"
    assert leave(samphire.pk, intent, ago(5), "rehomed", "", TODAY).left_on == ago(5)


def test_a_plans_name_and_day_are_the_animals_and_an_undo_takes_them_back(habitat: Habitat, intent: Intent, owner: Keeper) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    fresh = Habitat.objects.get(pk=habitat.pk)
    made = mapping.plan_of(fresh)
    renamed = made.model_copy(update={"animal": made.animal.model_copy(update={"name": "Glasswort", "sex": "male"})})
    saved = revisions.save(habitat.pk, renamed, fresh.version, owner, clock.now(), "renamed")
    samphire.refresh_from_db()
    assert (samphire.name, samphire.sex) == ("Glasswort", "male")
    revisions.undo(habitat.pk, saved.version, intent)
    samphire.refresh_from_db()
    assert (samphire.name, samphire.sex) == ("Samphire", "female")


def test_undoing_a_move_in_the_plan_renames_nobody(habitat: Habitat, make_habitat: Make, intent: Intent) -> None:
    first, second = come(habitat, intent, "Samphire", "Sedge")
    move(first.pk, intent, Move(make_habitat(name="Other shelf").pk, ago(3)), TODAY)
    fresh = Habitat.objects.get(pk=habitat.pk)
    assert mapping.plan_of(fresh).animal.name == "Sedge"
    undone = revisions.undo(habitat.pk, fresh.version, intent)
    assert [Animal.objects.get(pk=one.pk).name for one in (first, second)] == ["Samphire", "Sedge"]
    revisions.redo(habitat.pk, undone.version, Intent(intent.author, intent.at, "again"))
    assert [Animal.objects.get(pk=one.pk).name for one in (first, second)] == ["Samphire", "Sedge"]
    assert [one.animal.name for one in living_in([habitat.pk])[habitat.pk]] == ["Sedge"]


def test_a_plan_for_two_where_one_lives_is_told_and_made_right_by_its_button(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    come(habitat, intent, "Samphire")
    fresh = Habitat.objects.get(pk=habitat.pk)
    made = mapping.plan_of(fresh)
    two = made.model_copy(update={"animal": made.animal.model_copy(update={"count": 2})})
    revisions.save(habitat.pk, two, fresh.version, owner, clock.now(), "for two")
    client, page = client_of(owner), reverse("keeping:now", args=[habitat.pk])
    assert client.get(page).context["differs"]
    client.post(reverse("keeping:follow", args=[habitat.pk]), {"once": "1"})
    assert plan_now(habitat).animal.count == 1
    assert not client.get(page).context["differs"]


def test_what_is_said_of_an_animal_is_not_overwritten_by_an_older_page(habitat: Habitat, intent: Intent) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    describe(samphire.pk, intent, {"marks": "a missing toe"}, samphire.version, TODAY)
    with pytest.raises(Refused) as refused:
        describe(samphire.pk, intent, {"marks": "two missing toes"}, samphire.version, TODAY)
    assert refused.value.code == "described_meanwhile"
    samphire.refresh_from_db()
    assert samphire.marks == "a missing toe"


def test_the_plans_own_weight_is_not_written_twice_when_its_animal_moves_in(
    habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    client, url = client_of(owner), reverse("keeping:new-animal", args=[habitat.pk])
    form = client.get(url).context["form"]
    posted = {name: form[name].value() for name in ("name", "species", "sex", "mass_kg", "length_m")}
    posted |= {"hatched": plan().animal.hatched, "origin": "unknown", "day": TODAY.isoformat(), "alike": "1", "once": "1"}
    assert client.post(url, posted).status_code == 302
    assert Event.objects.filter(kind="animal.weighed").count() == 1
    assert Event.objects.filter(kind="animal.measured", animal__name=plan().animal.name).count() == 1


@pytest.mark.parametrize("who", ["of another kind", "after one that has left", "hatched since"])
def test_one_that_weighs_as_much_as_the_plans_and_is_another_keeps_its_weight(
    habitat: Habitat, owner: Keeper, intent: Intent, client_of: Callable[[Keeper], Client], who: str
) -> None:
    client, url = client_of(owner), reverse("keeping:new-animal", args=[habitat.pk])
    if who == "after one that has left":
        (first,) = come(habitat, intent, "Samphire")
        leave(first.pk, intent, ago(3), "rehomed", "", TODAY)
    Event.objects.filter(habitat=habitat).update(at=clock.now() - timedelta(days=120))
    own.copy(habitat.room, find("corn-snake"), intent)  # the room's book knows another kind
    offered = [code for code, _said in client.get(url).context["form"].fields["species"].choices if code]
    species = next(code for code in offered if (code == habitat.species) == (who != "of another kind"))
    hatched = ago(30) if who == "hatched since" else plan().animal.hatched
    posted = {
        "name": "Sedge", "species": species, "sex": "unknown", "mass_kg": f"{plan().animal.mass_kg} kg", "hatched": hatched,
        "origin": "unknown", "day": TODAY.isoformat(), "alike": "1", "once": "1", "sure": "yes",
    }  # fmt: skip
    assert client.post(url, posted).status_code == 302
    weighed = Event.objects.get(kind="animal.weighed", animal__name="Sedge")
    assert weighed.payload["mass_kg"] == pytest.approx(plan().animal.mass_kg)
    assert log.day_of(weighed.at) == TODAY


# --- entries: written, corrected, taken back


def test_a_weight_is_followed_corrected_and_taken_back_with_its_trace(habitat: Habitat, intent: Intent) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    first = weigh(samphire, intent, 1, 0.06)
    assert plan_now(habitat).animal.mass_kg == 0.06
    second = correct_entry(first.pk, intent, first.at, {"mass_kg": 0.061}, TODAY)
    assert plan_now(habitat).animal.mass_kg == 0.061
    first = Event.every.get(pk=first.pk)
    assert (second.replaces_id, first.taken_back_by, first.payload["mass_kg"]) == (first.pk, intent.author, 0.06)
    take_back_entry(second.pk, intent, TODAY)
    assert plan_now(habitat).animal.mass_kg == plan().animal.mass_kg  # that of before
    with pytest.raises(Refused):
        take_back_entry(second.pk, intent, TODAY)
    assert 0.061 not in [one.mass_kg for one in reader.weighings([habitat])[habitat.pk]]


def test_a_new_lamp_is_new_in_the_plan_and_a_score_moves_the_ration(habitat: Habitat, intent: Intent) -> None:
    first, second = come(habitat, intent, "Samphire", "Sedge")
    at, where = clock.now() - timedelta(days=2), Whose(habitat.room_id, habitat)
    write_entry(where, intent, at, "habitat.lamp", {"part": "uv_lamps.0"}, TODAY)
    assert plan_now(habitat).uv_lamps[0].fitted == ago(2)
    with pytest.raises(Refused) as refused:
        write_entry(where, intent, at, "habitat.lamp", {"part": "uv_lamps.7"}, TODAY)
    assert refused.value.code == "no_such_lamp"
    for days, animal, score in ((9, first, 4), (5, second, 2)):
        write_entry(whose_animal(animal), intent, clock.now() - timedelta(days=days), "animal.condition", {"score": score}, TODAY)
    # The ration goes by the animal that the plan is made for.
    assert (plan_now(habitat).feeding.condition, plan_now(habitat).feeding.condition_on) == (4, ago(9))
    later = write_entry(whose_animal(first), intent, clock.now(), "animal.condition", {"score": 5}, TODAY)
    assert plan_now(habitat).feeding.condition == 5
    take_back_entry(later.pk, intent, TODAY)
    assert plan_now(habitat).feeding.condition == 4


def test_the_lamps_to_choose_from_are_those_of_the_plan_by_their_kinds(
    habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    url = reverse("keeping:write-habitat", args=[habitat.pk, "habitat-lamp"])
    field = client_of(owner).get(url).context["form"].fields["part"]
    offered = dict(field.choices)
    made = plan_now(habitat)
    assert set(offered) == {f"uv_lamps.{at}" for at in range(len(made.uv_lamps))} | {
        f"heaters.{at}" for at in range(len(made.heaters))
    }
    assert f"{made.heaters[0].watts:g} W" in offered["heaters.0"]
    assert len(set(offered.values())) == len(offered)


def test_a_size_that_was_taken_back_is_not_known_any_more(habitat: Habitat, intent: Intent) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    for event in Event.objects.filter(animal=samphire, kind="animal.weighed"):
        take_back_entry(event.pk, intent, TODAY)
    assert plan_now(habitat).animal.mass_kg is None


@pytest.mark.parametrize("factor", [100.0, 0.01])
def test_a_weight_a_hundred_times_off_is_asked_about_and_taken_once_it_is_sure(
    habitat: Habitat, intent: Intent, factor: float
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    weigh(samphire, intent, 8, 0.058)
    with pytest.raises(DoubtfulEntryError) as doubt:
        weigh(samphire, intent, 1, 0.058 * factor)
    assert doubt.value.before_kg == 0.058
    assert weigh(samphire, intent, 1, 0.058 * factor, sure=True).payload["mass_kg"] == pytest.approx(0.058 * factor)


@pytest.mark.parametrize(
    ("kind", "payload"),
    [
        ("animal.shed", {"came": "sideways"}),
        ("animal.shed", {"stuck": ["beak"]}),
        ("animal.weighed", {}),
        ("animal.weighed", {"mass_kg": "heavy"}),
        ("animal.droppings", {"colour": "green"}),
        ("note", {"note": "x" * 2001}),
        ("breeding.clutch", {"eggs": -1}),
        ("habitat.lamp", {"part": "../../etc"}),
    ],
)
def test_what_is_no_entry_is_not_written(habitat: Habitat, intent: Intent, kind: str, payload: dict[str, Any]) -> None:
    before = Event.every.count()
    with pytest.raises(Refused) as refused:
        write_entry(Whose(habitat.room_id, habitat), intent, clock.now(), kind, payload, TODAY)
    assert refused.value.code == "not_an_entry"
    assert refused.value.parameters["why"] in {*payload, "mass_kg"}  # the field that is wrong, or that is missing
    assert Event.every.count() == before


def test_nothing_is_written_down_that_has_not_happened(habitat: Habitat, intent: Intent) -> None:
    with pytest.raises(Refused) as refused:
        write_entry(Whose(habitat.room_id, habitat), intent, clock.now() + timedelta(hours=1), "note", {"note": "x"}, TODAY)
    assert refused.value.code == "in_the_future"


POSTED: dict[str, dict[str, Any]] = {
    "animal-weighed": {"mass_kg": "2,1 oz", "tare_kg": "0.1 oz"},
    "animal-measured": {"length_m": "5 in"},
    "animal-condition": {"score": "3"},
    "animal-shed": {"came": "pieces", "stuck": ["toes", "eye-caps"]},
    "animal-droppings": {"look": "runny", "seen": ["worms"], "sample": "on"},
    "animal-soaked": {"minutes": "20", "looked_over": "on"},
    "animal-behaviour": {"what": "paces-glass"},
    "animal-sign": {"what": "open-mouth"},
    "animal-treated": {"what": "wormer", "dose": "0.1 ml once", "until": TODAY.isoformat()},
    "animal-handled": {"kind": "trained", "minutes": "5"},
    "animal-regurgitated": {"days_after": "2"},
    "animal-screened": {"what": "faecal sample", "result": "clean"},
    "breeding-gravid": {},
    "breeding-clutch": {"eggs": "2", "incubator_c": "84 F"},
    "note": {"note": "All is well."},
}


@pytest.mark.sweep
@pytest.mark.parametrize("slug", POSTED)
def test_every_kind_is_written_on_its_page_told_in_the_daybook_and_taken_back(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client], slug: str
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    kind = slug.replace("-", ".", 1)
    client, before = client_of(owner), Event.objects.filter(kind=kind).count()
    url = reverse("keeping:write-animal", args=[samphire.pk, slug])
    assert client.get(url).status_code == 200
    posted = {"day": TODAY.isoformat(), "time": "9:15", "once": "a"} | POSTED[slug]
    assert client.post(url, posted).status_code == 302
    client.post(url, posted)  # a second press
    assert Event.objects.filter(kind=kind).count() == before + 1
    event = Event.objects.filter(kind=kind).latest("id")
    assert (event.animal_id, event.habitat_id) == (samphire.pk, habitat.pk)
    book = reverse("keeping:animal-daybook", args=[samphire.pk])
    (row,) = [row for _day, rows in client.get(book).context["days"] for row in rows if row.event.pk == event.pk]
    assert f"{row.at:%H:%M}" == "09:15"
    assert client.get(reverse("keeping:correct", args=[event.pk])).status_code == 200
    client.post(reverse("keeping:take-back", args=[event.pk]), {"once": "b"})
    shown = {row.event.pk for _day, rows in client.get(book).context["days"] for row in rows}
    with_struck = client.get(book, {"struck": "1"}).context["days"]
    assert event.pk not in shown
    assert event.pk in {row.event.pk for _day, rows in with_struck for row in rows if row.struck}


def test_the_tub_is_taken_off_and_units_are_the_keepers(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    url = reverse("keeping:write-animal", args=[samphire.pk, "animal-weighed"])
    client_of(owner).post(url, {"day": TODAY.isoformat(), "time": "", "mass_kg": "4.2 oz", "tare_kg": "2.1 oz", "once": "a"})
    # An avoirdupois ounce is 28.349523125 g (International yard and pound agreement, 1959).
    assert Event.objects.filter(animal=samphire, kind="animal.weighed").latest("at").payload["mass_kg"] == pytest.approx(
        2.1 * 0.028349523125
    )


@pytest.mark.parametrize(
    ("posted", "field"),
    [
        ({"mass_kg": "heavy"}, "mass_kg"),
        ({"mass_kg": "5 cm"}, "mass_kg"),
        ({"mass_kg": "50", "tare_kg": "60"}, "tare_kg"),
        ({"mass_kg": "58", "time": "quarter past"}, "time"),
        ({"mass_kg": "58", "day": "02/03/2026"}, "day"),
        ({"mass_kg": "58", "day": ""}, "day"),
    ],
)
def test_what_cannot_be_read_is_told_at_its_field_and_stays_as_it_was_typed(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client], posted: dict[str, str], field: str
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    before = Event.objects.count()
    url = reverse("keeping:write-animal", args=[samphire.pk, "animal-weighed"])
    answer = client_of(owner).post(url, {"day": TODAY.isoformat(), "time": ""} | posted)
    assert answer.status_code == 422
    assert field in answer.context["form"].errors
    assert posted["mass_kg"].encode() in answer.content
    assert Event.objects.count() == before


def test_a_day_to_come_is_told_at_its_field_and_nothing_typed_is_lost(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    other, client = make_habitat(name="Other shelf"), client_of(owner)
    noted = write_entry(whose_animal(samphire), intent, clock.now(), "note", {"note": "before"}, TODAY)
    later = {"day": (TODAY + timedelta(days=3)).isoformat(), "time": "", "note": "in my own words", "once": "1"}
    pages = {
        reverse("keeping:write-animal", args=[samphire.pk, "note"]): {},
        reverse("keeping:correct", args=[noted.pk]): {},
        reverse("keeping:move", args=[samphire.pk]): {"habitat": other.pk, "why": "growth"},
        reverse("keeping:leave", args=[samphire.pk]): {"how": "lent"},
    }
    for url, more in pages.items():
        answer = client.post(url, later | more)
        assert answer.status_code == 422
        assert "day" in answer.context["form"].errors
        assert b"in my own words" in answer.content


def test_an_urgent_sign_sends_to_a_veterinarian_today(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    url = reverse("keeping:write-animal", args=[samphire.pk, "animal-sign"])
    for what, said in (("open-mouth", b"veterinarian today"), ("thin", b"Show it to a reptile veterinarian")):
        posted = {"day": TODAY.isoformat(), "time": "", "what": what, "once": what}
        assert said in client_of(owner).post(url, posted, follow=True).content


def test_a_meal_a_chore_and_a_reading_are_corrected_where_they_stand(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    meal = log.fed(habitat, clock.now() - timedelta(days=2), owner, outcome="eaten", due=ago(2).isoformat(), foods=[], products=[])
    chore = log.done(habitat, clock.now() - timedelta(days=1), owner, "water", ago(1).isoformat())
    client = client_of(owner)
    for event, outcome in ((meal, "refused"), (chore, "skipped")):
        url = reverse("keeping:correct", args=[event.pk])
        posted = {"day": event.at.date().isoformat(), "time": "10:00", "outcome": outcome, "once": outcome}
        assert client.post(url, posted).status_code == 302
        assert Event.objects.get(replaces=event).payload["outcome"] == outcome
    assert [one.outcome for one in reader.lived([habitat])[habitat.pk].meals] == ["refused"]


def test_the_daybook_is_found_by_words_by_kind_and_page_by_page(
    habitat: Habitat, owner: Keeper, intent: Intent, client_of: Callable[[Keeper], Client], django_assert_max_num_queries: Any
) -> None:
    whose = Whose(habitat.room_id, habitat)
    for number in range(130):
        at = clock.now() - timedelta(hours=number)
        write_entry(whose, intent, at, "note", {"note": f"entry {number:03d}"}, TODAY)
    write_entry(whose, intent, clock.now(), "habitat.cleaned", {"how": "disinfected"}, TODAY)
    client, url = client_of(owner), reverse("keeping:habitat-daybook", args=[habitat.pk])

    def notes(**query: str) -> list[str]:
        return [row.note or row.kind for _day, rows in client.get(url, query).context["days"] for row in rows]

    assert notes(find="entry 042") == ["entry 042"]
    assert notes(find="disinfected") == ["cleaning"]
    assert "cleaning" not in notes(of="notes")
    seen, query = notes(), client.get(url).context["older"]
    while query:
        page = client.get(f"{url}?{query}")
        seen += [row.note or row.kind for _day, rows in page.context["days"] for row in rows]
        query = page.context["older"]
    assert sorted(note for note in seen if note.startswith("entry")) == [f"entry {number:03d}" for number in range(130)]
    with django_assert_max_num_queries(12):
        client.get(url)


def test_a_photo_loses_where_it_was_taken_and_what_is_none_is_said_to_be_none(
    habitat: Habitat, owner: Keeper, client_of: Callable[[Keeper], Client], monkeypatch: pytest.MonkeyPatch
) -> None:
    picture, exif = io.BytesIO(), Image.Exif()
    exif[0x010F] = "somebody's phone"
    exif[0x8825] = {1: "N", 2: (52.0, 1.0, 2.0)}
    exif[0x0112] = 6  # turned
    Image.new("RGB", (3000, 2000), "olive").save(picture, "JPEG", exif=exif)
    monkeypatch.setattr(ImageFile, "LOAD_TRUNCATED_IMAGES", True)  # as the printing of paper leaves it
    client, url = client_of(owner), reverse("keeping:write-habitat", args=[habitat.pk, "photo"])
    posted = {"day": TODAY.isoformat(), "time": "", "note": "new slate", "once": "a"}
    for raw in (b"", b"no picture at all", b"\xff\xd8\xff\xe0 cut short", picture.getvalue()[:900]):
        answer = client.post(url, posted | {"picture": io.BytesIO(raw)})
        assert answer.status_code == 422
    assert not Photo.objects.exists()
    assert client.post(url, posted | {"picture": io.BytesIO(picture.getvalue())}).status_code == 302
    kept = client.get(reverse("keeping:photo", args=[Photo.objects.get().event_id]))
    with Image.open(io.BytesIO(kept.content)) as small:
        assert not dict(small.getexif())
        assert (small.format, small.size) == ("JPEG", (1067, 1600))
    assert b"phone" not in kept.content


# --- who may live with whom, quarantine, breeding


def test_the_rules_of_company_judge_a_move_before_it_is_done(make_habitat: Make, intent: Intent) -> None:
    box = make_habitat(species="leopard-gecko", animal={"name": "Thrift", "sex": "male", "mass_kg": 0.06, "length_m": 0.12})
    come(box, intent, "Thrift", sex="male")
    other = make_habitat(name="Other", species="leopard-gecko", animal={"name": "Tansy", "sex": "male", "mass_kg": 0.06})
    (tansy,) = come(other, intent, "Tansy", sex="male")
    verdict = judging.judged([tansy], box, TODAY)
    assert verdict.worst == "wrong"
    assert "animal" in {finding.step for finding in verdict.adds}
    assert verdict.mixing is None


def test_another_kind_is_judged_by_its_own_profile(habitat: Habitat, make_habitat: Make, intent: Intent) -> None:
    come(habitat, intent, "Samphire")
    other = make_habitat(name="Gully", species="fire-salamander", schools={}, animal={"name": "Scurvy-grass", "length_m": 0.18})
    (newt,) = come(other, intent, "Scurvy-grass", hatched=None)
    verdict = judging.judged([newt], habitat, TODAY)
    assert verdict.mixing is not None
    assert verdict.worst == "danger"
    assert verdict.mixing.dangers


def test_what_does_not_meet_is_told_apart_by_its_time(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    come(habitat, intent, "Samphire")
    other = make_habitat(name="Gully", species="fire-salamander", schools={}, animal={"name": "Scurvy-grass", "length_m": 0.18})
    (newt,) = come(other, intent, "Scurvy-grass", hatched=None)
    posted = {"habitat": habitat.pk, "day": TODAY.isoformat(), "why": "other", "once": "a"}
    page = client_of(owner).post(reverse("keeping:move", args=[newt.pk]), posted).content.decode()
    told = re.findall(r"<li>([^<:]+): [^<]* for those that live there, [^<]* for the newcomer</li>", page)
    assert len(told) == len(set(told))
    assert {"Warm-end air, day", "Warm-end air, night"} <= set(told)


def test_a_move_the_book_calls_wrong_is_asked_about_on_the_page(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    come(habitat, intent, "Samphire")
    snakes = make_habitat(
        name="Drawer", species="corn-snake", schools={}, animal={"name": "Marram", "length_m": 1.2, "mass_kg": 0.5}
    )
    (marram,) = come(snakes, intent, "Marram")
    client, url = client_of(owner), reverse("keeping:move", args=[marram.pk])
    posted = {"habitat": habitat.pk, "day": TODAY.isoformat(), "why": "other", "once": "a"}
    assert client.post(url, posted).status_code == 422
    assert living_in([snakes.pk])[snakes.pk]
    assert client.post(url, posted | {"once": "b", "sure": "yes"}).status_code == 302
    assert {one.animal.name for one in living_in([habitat.pk])[habitat.pk]} == {"Samphire", "Marram"}
    # The plan stays that of its own kind.
    assert (plan_now(habitat).species, plan_now(habitat).animal.count) == (GECKO, 1)


def test_an_arrival_begins_a_quarantine_that_only_a_decision_ends(
    make_habitat: Make, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    habitat = make_habitat(animal={"mass_kg": 0.05, "length_m": 0.12})
    client = client_of(owner)
    url = reverse("keeping:new-animal", args=[habitat.pk])
    begin = client.get(url).context["form"].initial
    profile = revisions.profile_of(habitat)
    assert profile.health is not None
    assert begin["apart_until"] == TODAY + timedelta(weeks=profile.health.quarantine_weeks.low or 0)
    posted = {
        "name": "Tansy", "species": habitat.species, "sex": "unknown", "origin": "captive-bred", "day": TODAY.isoformat(),
        "alike": "1", "apart_until": begin["apart_until"].isoformat(), "mass_kg": "52 g", "sound": ["alert"], "once": "a",
    }  # fmt: skip
    answer = client.post(url, posted)
    assert answer.status_code == 302, answer.context["form"].errors
    assert plan_now(habitat).upkeep.quarantine_until == begin["apart_until"]
    assert plan_now(habitat).animal.mass_kg == pytest.approx(0.052)
    page = reverse("keeping:now", args=[habitat.pk])
    assert client.get(page).context["apart"].clean is False
    tansy = Animal.objects.get(name="Tansy")
    told = {"what": "faecal sample", "result": "clean"}
    write_entry(whose_animal(tansy), Intent(owner, clock.now()), clock.now(), "animal.screened", told, TODAY)
    assert client.get(page).context["apart"].clean is True
    client.post(reverse("keeping:end-quarantine", args=[habitat.pk]), {"note": "all clean", "once": "b"})
    assert client.get(page).context["apart"] is None
    ended = Event.objects.filter(kind="habitat.quarantine").latest("id")
    assert (ended.payload["what"], ended.payload["note"], ended.author) == ("ended", "all clean", owner)
    with pytest.raises(Refused):
        quarantine.end(habitat.pk, Intent(owner, clock.now()), TODAY)


def test_a_clutch_has_its_days_and_hatchlings_have_parents(habitat: Habitat, intent: Intent) -> None:
    mother, father = come(habitat, intent, "Samphire", "Sedge")
    describe(father.pk, intent, {"sex": "male"}, father.version, TODAY)
    whose, laid = whose_animal(mother), clock.now() - timedelta(days=30)
    write_entry(whose, intent, laid - timedelta(days=20), "breeding.gravid", {}, TODAY)
    found = breeding.of_animal(mother, TODAY)
    assert found is not None
    assert found.gravid == ago(50)
    clutch = write_entry(whose, intent, laid, "breeding.clutch", {"eggs": 2, "partner": father.pk, "incubator_c": 29.0}, TODAY)
    write_entry(whose, intent, laid + timedelta(days=12), "breeding.candled", {"clutch": clutch.pk, "good": 1}, TODAY)
    found = breeding.of_animal(mother, TODAY)
    assert found is not None
    (one,) = found.clutches
    assert (found.gravid, one.left, one.laid) == (None, 1, ago(30))
    days = [day for day in (one.earliest, one.likely, one.latest) if day is not None]
    assert len(days) == 3
    assert [TODAY, *days] == sorted({TODAY, *days})
    child = come(habitat, intent, "", hatched=TODAY, mother_id=mother.pk, father_id=father.pk, day=TODAY)[0]
    assert (child.mother_id, child.father_id) == (mother.pk, father.pk)
    assert plan_now(habitat).animal.young == 1


@pytest.mark.parametrize(("degrees", "why"), [(None, "no_warmth"), (12.0, "outside")])
def test_without_warmth_or_outside_what_is_known_no_day_is_promised(
    habitat: Habitat, intent: Intent, degrees: float | None, why: str
) -> None:
    (mother,) = come(habitat, intent, "Samphire")
    told = {"eggs": 2} | ({"incubator_c": degrees} if degrees is not None else {})
    write_entry(whose_animal(mother), intent, clock.now(), "breeding.clutch", told, TODAY)
    found = breeding.of_animal(mother, TODAY)
    assert found is not None
    assert (found.clutches[0].window, found.clutches[0].unknown) == (None, why)


# --- out


def test_the_table_and_the_veterinarians_paper_tell_the_same_entries(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    (samphire,) = come(habitat, intent, "Samphire")
    write_entry(whose_animal(samphire), intent, clock.now(), "animal.shed", {"came": "pieces", "note": "=SUM(A1)"}, TODAY)
    client = client_of(owner)
    table = client.get(reverse("keeping:animal-csv", args=[samphire.pk])).getvalue().decode()
    assert "In pieces" in table
    assert ",=SUM" not in table  # a spreadsheet reckons nothing
    paper = client.get(reverse("keeping:animal-pdf", args=[samphire.pk]))
    assert paper.content.startswith(b"%PDF")


def test_the_list_of_animals_takes_as_many_queries_for_two_as_for_twenty(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    client, url = client_of(owner), reverse("keeping:animals")

    def queries() -> int:
        with CaptureQueriesContext(connection) as caught:
            assert client.get(url).status_code == 200
        return len(caught)

    come(habitat, intent, "Samphire", "Sedge")
    few = queries()
    for number in range(6):
        come(make_habitat(name=f"Box {number}"), intent, f"One {number}", f"Two {number}", f"Three {number}")
    assert queries() == few


def test_one_without_a_name_is_called_alike_on_every_page(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    marked, bare = come(habitat, intent, "", "")
    describe(marked.pk, intent, {"marks": "a missing toe"}, marked.version, TODAY)
    for animal, called in ((marked, "a missing toe"), (bare, f"no. {bare.pk}")):
        for name in ("animal", "animal-daybook", "describe", "move", "leave"):
            assert called in client_of(owner).get(reverse(f"keeping:{name}", args=[animal.pk])).content.decode()
        page = client_of(owner).get(reverse("keeping:animal-daybook", args=[animal.pk])).content.decode()
        assert f"Daybook of {called}" in " ".join(page.split())


def test_bodies_are_the_last_of_each(habitat: Habitat, intent: Intent) -> None:
    first, second = come(habitat, intent, "Samphire", "Sedge")
    for days, one, mass_kg in ((9, first, 0.05), (2, first, 0.052), (5, second, 0.044)):
        weigh(one, intent, days, mass_kg, sure=True)
    found = residents.bodies([second])
    assert found[second.pk] == (0.044, None)


def test_a_course_and_a_clutch_are_chores_of_the_calendar_until_they_are_over(
    habitat: Habitat, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    (mother,) = come(habitat, intent, "Samphire")
    told = {"what": "wormer", "dose": "as written", "every_days": 2, "until": (TODAY + timedelta(days=5)).isoformat()}
    write_entry(whose_animal(mother), intent, clock.now() - timedelta(days=2), "animal.treated", told, TODAY)
    laid = {"eggs": 2, "incubator_c": 29.0}
    clutch = write_entry(whose_animal(mother), intent, clock.now() - timedelta(days=10), "breeding.clutch", laid, TODAY)
    found = breeding.of_animal(mother, TODAY)
    assert found is not None
    (one,) = found.clutches

    def jobs() -> dict[str, list[date]]:
        card = cards.of_habitats([Habitat.objects.select_related("company", "room").get(pk=habitat.pk)], TODAY)[habitat.pk]
        days: dict[str, list[date]] = {}
        for item in cards.span(card, TODAY, 200, RoomDays(TODAY, ())).jobs:
            days.setdefault(item.id, []).append(item.day)
        return {key: value for key, value in days.items() if key.partition("/")[0] in ("course", "candle", "hatch")}

    due = jobs()
    assert due["course/Samphire, wormer"] == [TODAY + timedelta(days=days) for days in (0, 2, 4)]
    assert [days for key, days in due.items() if key.startswith("hatch/")] == [[one.earliest]]
    assert [days for key, days in due.items() if key.startswith("candle/")] == [[max(day, TODAY)] for day in one.candling]
    page = client_of(owner).get(reverse("keeping:now", args=[habitat.pk])).content.decode()
    assert "Treatment: Samphire, wormer" in page
    take_back_entry(clutch.pk, intent, TODAY)
    assert set(jobs()) == {"course/Samphire, wormer"}


def test_what_hatched_moves_in_with_its_parents_and_its_day(
    habitat: Habitat, make_habitat: Make, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    mother, father = come(habitat, intent, "Samphire", "Sedge")
    describe(father.pk, intent, {"sex": "male"}, father.version, TODAY)
    nursery, client = make_habitat(name="Nursery", animal={}), client_of(owner)
    told = {"eggs": 2, "partner": father.pk, "incubator_c": 29.0}
    clutch = write_entry(whose_animal(mother), intent, clock.now() - timedelta(days=60), "breeding.clutch", told, TODAY)
    write_entry(
        whose_animal(mother), intent, clock.now() - timedelta(days=3), "breeding.hatched", {"clutch": clutch.pk, "good": 2}, TODAY
    )
    url = reverse("keeping:hatchlings", args=[clutch.pk])
    page = client.get(url, {"habitat": nursery.pk}, follow=True)
    begin = page.context["form"].initial
    posted = {name: begin[name] for name in ("species", "sex", "origin", "mother_id", "father_id", "alike")}
    posted |= {"hatched": begin["hatched"].isoformat(), "day": begin["day"].isoformat(), "once": "1", "sure": "yes"}
    assert client.post(page.redirect_chain[-1][0], posted).status_code == 302
    young = [one.animal for one in living_in([nursery.pk])[nursery.pk]]
    assert [(one.mother_id, one.father_id, one.hatched, one.origin) for one in young] == [
        (mother.pk, father.pk, ago(3), "bred-here")
    ] * 2
    assert plan_now(nursery).animal.count == 2
    assert [child for child, _name in client.get(reverse("keeping:animal", args=[mother.pk])).context["young"]] == young
    assert client.get(url, {"habitat": 10**9}).status_code == 404


def test_moves_that_are_due_are_listed_with_why_and_when(
    make_habitat: Make, intent: Intent, owner: Keeper, client_of: Callable[[Keeper], Client]
) -> None:
    grows = {"name": "Orache", "hatched": ago(300).isoformat(), "mass_kg": 0.2, "length_m": 0.2}
    small = make_habitat(name="Small", species="blue-tongued-skink", schools={}, animal=grows)
    come(small, intent, "Orache", hatched=ago(300))
    males = make_habitat(name="Males", species="leopard-gecko", schools={}, animal={})
    come(males, intent, "Thrift", "Tansy", sex="male")
    make_habitat(name="Nobody", species="blue-tongued-skink", schools={}, animal=grows)
    due = client_of(owner).get(reverse("keeping:moves-due")).context["due"]
    assert {one.habitat.name for one in due} == {"Small", "Males"}
    assert "2 animals together" in " ".join(one.said for one in due if one.habitat.name == "Males")
    assert all("outgr" in one.said for one in due if one.habitat.name == "Small")
