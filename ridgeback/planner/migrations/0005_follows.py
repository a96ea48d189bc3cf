
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('planner', '0004_glances'),
    ]

    operations = [
        migrations.AddField(
            model_name='planrevision',
            name='follows',
            field=models.BooleanField(default=False),
        ),
    ]
