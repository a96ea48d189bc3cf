"""Whoever lived in a habitat by its plan and its log becomes an animal that resides there; its weighings and meals become its own."""

from django.db import migrations
from django.utils import timezone

# That somebody lives in a habitat: it was fed, scored, or a chore was done for it.
LIVED = ("animal.fed", "animal.condition", "job.done")
OWN = ("animal.weighed", "animal.measured", "animal.condition")
FACTS = ("sex", "hatched", "hatched_is_estimate")


def day_of(at):
    return timezone.localtime(at).date()


def who_lives_here(apps, schema_editor):
    """The named animal, or the one that was fed, and the rest of its group; what was measured is the first one's."""
    Habitat = apps.get_model("rooms", "Habitat")
    Animal = apps.get_model("rooms", "Animal")
    Residence = apps.get_model("rooms", "Residence")
    Event = apps.get_model("daybook", "Event")
    for habitat in Habitat.objects.select_related("head").iterator():
        said = (habitat.head.document if habitat.head else {}).get("animal") or {}
        events = Event.objects.filter(habitat=habitat)
        if not (said.get("name") or events.filter(kind__in=LIVED).exists()):
            continue  # a plan for an animal that has not come yet
        first = events.order_by("at").first()
        since = min(day_of(at) for at in (habitat.created_at, *([first.at] if first else [])))
        count, names = max(int(said.get("count") or 1), 1), [said.get("name") or "", *(said.get("others") or ())]
        young = int(said.get("young") or 0)
        more_males = int(said.get("males") or 0) - (said.get("sex") == "male")
        animals = []
        for place in range(count):
            facts = {name: said[name] for name in FACTS if said.get(name) is not None} if place == 0 or not young else {}
            if place:  # of the others no more is known than how many are male
                facts["sex"] = "male" if place <= more_males else "unknown"
            name = names[place] if place < len(names) else ""
            animal = Animal.objects.create(
                room_id=habitat.room_id, name=name[:80], species=habitat.species, created_at=habitat.created_at, **facts
            )
            Residence.objects.create(animal=animal, habitat=habitat, since=since, why="arrival")
            animals.append(animal)
        kinds = OWN if count > 1 else (*OWN, "animal.fed")
        events.filter(kind__in=kinds).update(animal=animals[0])


class Migration(migrations.Migration):
    dependencies = [
        ("rooms", "0010_animals_and_residences"),
        ("daybook", "0006_entries_of_animals"),
        ("planner", "0004_glances"),
    ]

    operations = [migrations.RunPython(who_lives_here, migrations.RunPython.noop)]
