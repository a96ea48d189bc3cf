"""The made-up animals of the Learning Room move in, and some of what its volunteers wrote down of them."""

from datetime import date, datetime, time, timedelta
from typing import Any, Final

from django.utils import timezone

from ridgeback.accounts.models import Keeper
from ridgeback.daybook.writing import Intent
from ridgeback.keeping.actions.animals import Newcomer, welcome
from ridgeback.keeping.actions.entries import Whose, write_entry
from ridgeback.planner import mapping
from ridgeback.rooms.models import Animal, Habitat, Room

LIVES_HERE_DAYS: Final = 260
SEXES: Final = {"Arrowgrass": "male", "Cordgrass": "male"}
MARKS: Final = {
    "Samphire": "left hind toe missing",
    "Marram": "a broken saddle behind the neck",
    "Thrift": "notch in the third scute on the right",
    "Orache": "regrown tail tip",
}
# Days ago, whose, kind, what: a corn snake that sheds in pieces, a gecko with a clutch, a skink that was shown too often.
WRITTEN: Final[tuple[tuple[int, str, str, dict[str, Any]], ...]] = (
    (79, "Marram", "animal.shed", {"came": "pieces", "stuck": ["tail-tip"]}),
    (38, "Marram", "animal.shed", {"came": "pieces", "stuck": ["tail-tip"], "note": "Hide was dry again; moss made wet."}),
    (9, "Marram", "animal.behaviour", {"what": "basks-all-day"}),
    (4, "Marram", "animal.behaviour", {"what": "basks-all-day"}),
    *(
        (days, "Samphire", "animal.weighed", {"mass_kg": mass_kg})
        for days, mass_kg in ((152, 0.0552), (121, 0.0561), (92, 0.0566), (61, 0.058), (33, 0.0604), (16, 0.0563))
    ),
    (31, "Samphire", "breeding.gravid", {"note": "Two eggs seen through the belly."}),
    (17, "Samphire", "breeding.clutch", {"eggs": 2, "good": 2, "incubator_c": 29.0, "spread_c": 0.6}),
    (7, "Samphire", "animal.shed", {"came": "whole"}),
    (21, "Thrift", "animal.soaked", {"minutes": 20, "looked_over": True}),
    (12, "Thrift", "animal.droppings", {"look": "firm"}),
    (26, "Orache", "animal.handled", {"kind": "shown", "minutes": 15, "note": "School class, two groups."}),
    (9, "Orache", "animal.droppings", {"look": "soft", "sample": True}),
    (9, "Orache", "animal.screened", {"what": "faecal sample", "result": "clean"}),
    (15, "Sedge", "animal.shed", {"came": "whole"}),
    (11, "Pondweed", "animal.behaviour", {"what": "digs", "note": "On the land, each evening."}),
)


def move_in(room: Room, keeper: Keeper, at: datetime, today: date) -> None:
    """Let everybody whom a plan names live in its habitat, since as long as its age allows."""
    for habitat in Habitat.objects.filter(room=room).select_related("head__profile"):
        said = mapping.plan_of(habitat).animal
        old = (today - said.hatched).days if said.hatched else LIVES_HERE_DAYS
        day = today - timedelta(days=min(LIVES_HERE_DAYS, max(old - 20, 1)))
        facts = {"species": habitat.species, "hatched": said.hatched, "origin": Animal.Origin.CAPTIVE_BRED}
        coming = []
        for place, name in enumerate((said.name, *said.others)):
            sex = said.sex if place == 0 else SEXES.get(name, "unknown")
            coming.append(Newcomer(facts | {"name": name, "sex": sex, "marks": MARKS.get(name, "")}))
        if said.name:
            welcome(habitat.pk, Intent(keeper, at), coming, day, today)


def write_down(room: Room, keeper: Keeper, today: date) -> None:
    """Write what the volunteers saw."""
    for days, name, kind, payload in WRITTEN:
        animal = Animal.objects.filter(room=room, name=name).first()
        if animal is None:
            continue
        at = timezone.make_aware(datetime.combine(today - timedelta(days=days), time(17, 40)))
        home = next(habitat for habitat in Habitat.objects.filter(residences__animal=animal, residences__until__isnull=True))
        write_entry(Whose(room.pk, home, animal), Intent(keeper, at), at, kind, payload, today)
