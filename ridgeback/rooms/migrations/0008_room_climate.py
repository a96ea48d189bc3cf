from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("rooms", "0007_the_document_alone")]

    operations = [migrations.AddField("room", "climate", models.JSONField(null=True))]
