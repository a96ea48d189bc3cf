"""The row of whom a plan is for gets a name of its own: animals become entities."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("rooms", "0008_room_climate")]

    operations = [
        migrations.RenameModel("Animal", "Company"),
        migrations.AlterField(
            "company",
            "habitat",
            models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name="company", to="rooms.habitat"),
        ),
    ]
