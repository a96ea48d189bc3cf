"""Habitats have a place in the walking order; at first that of their names."""

from django.db import migrations, models


def by_name(apps, schema_editor):
    Habitat = apps.get_model("rooms", "Habitat")
    places = {}
    for habitat in Habitat.objects.order_by("room_id", "name", "id").only("pk", "room_id"):
        places[habitat.room_id] = places.get(habitat.room_id, 0) + 1
        Habitat.objects.filter(pk=habitat.pk).update(place=places[habitat.room_id])


class Migration(migrations.Migration):
    dependencies = [("rooms", "0011_who_lives_here")]

    operations = [
        migrations.AddField("habitat", "place", models.PositiveIntegerField(default=0)),
        migrations.RunPython(by_name, migrations.RunPython.noop),
    ]
