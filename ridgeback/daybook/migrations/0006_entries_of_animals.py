
import django.db.models.deletion
import django.db.models.manager
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('daybook', '0005_written'),
        ('rooms', '0010_animals_and_residences'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Photo',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('jpeg', models.BinaryField()),
                ('width', models.PositiveIntegerField()),
                ('height', models.PositiveIntegerField()),
            ],
        ),
        migrations.AlterModelOptions(
            name='event',
            options={'base_manager_name': 'every', 'ordering': ['-at', '-id']},
        ),
        migrations.AlterModelManagers(
            name='event',
            managers=[
                ('objects', django.db.models.manager.Manager()),
                ('every', django.db.models.manager.Manager()),
            ],
        ),
        migrations.AddField(
            model_name='event',
            name='animal',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='events', to='rooms.animal'),
        ),
        migrations.AddField(
            model_name='event',
            name='replaces',
            field=models.OneToOneField(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='replaced_by', to='daybook.event'),
        ),
        migrations.AddField(
            model_name='event',
            name='taken_back_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name='event',
            name='taken_back_by',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name='event',
            name='written_at',
            field=models.DateTimeField(null=True),
        ),
        migrations.AlterField(
            model_name='event',
            name='kind',
            field=models.CharField(choices=[('habitat.created', 'Created'), ('plan.saved', 'Planned'), ('plan.undone', 'Undone'), ('plan.redone', 'Redone'), ('plan.imported', 'Imported'), ('animal.weighed', 'Weighed'), ('animal.measured', 'Measured'), ('habitat.read', 'Read'), ('animal.fed', 'Fed'), ('job.done', 'Done'), ('rota.moved', 'Moved'), ('animal.condition', 'Condition'), ('animal.arrived', 'Arrived'), ('animal.moved', 'Moved In'), ('animal.left', 'Left'), ('animal.regurgitated', 'Brought Up'), ('animal.shed', 'Shed'), ('animal.droppings', 'Droppings'), ('animal.soaked', 'Soaked'), ('animal.behaviour', 'Behaved'), ('animal.sign', 'Sign'), ('animal.treated', 'Treated'), ('animal.handled', 'Handled'), ('animal.screened', 'Screened'), ('breeding.paired', 'Paired'), ('breeding.courtship', 'Courted'), ('breeding.gravid', 'Gravid'), ('breeding.clutch', 'Laid'), ('breeding.candled', 'Candled'), ('breeding.hatched', 'Hatched'), ('habitat.cleaned', 'Cleaned'), ('habitat.water', 'Watered'), ('habitat.lamp', 'Lamp Changed'), ('habitat.quarantine', 'Quarantine'), ('note', 'Noted'), ('photo', 'Photo')], max_length=30),
        ),
        migrations.AddIndex(
            model_name='event',
            index=models.Index(fields=['animal', '-at'], name='daybook_eve_animal__fb950b_idx'),
        ),
        migrations.AddIndex(
            model_name='event',
            index=models.Index(fields=['room', '-at'], name='daybook_eve_room_id_103e25_idx'),
        ),
        migrations.AddField(
            model_name='photo',
            name='event',
            field=models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='photo', to='daybook.event'),
        ),
        migrations.AddConstraint(
            model_name='photo',
            constraint=models.CheckConstraint(condition=models.Q(('height__gte', 1), ('width__gte', 1)), name='a_photo_has_a_size'),
        ),
    ]
