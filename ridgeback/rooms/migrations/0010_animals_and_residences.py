
import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('rooms', '0009_company'),
    ]

    operations = [
        migrations.CreateModel(
            name='Animal',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(blank=True, max_length=80)),
                ('species', models.CharField(max_length=60)),
                ('marks', models.CharField(blank=True, max_length=200)),
                ('chip', models.CharField(blank=True, max_length=40)),
                ('sex', models.CharField(choices=[('unknown', 'Unknown'), ('female', 'Female'), ('male', 'Male')], default='unknown', max_length=10)),
                ('sexed_on', models.DateField(blank=True, null=True)),
                ('sexed_by', models.CharField(blank=True, choices=[('look', 'Look'), ('probe', 'Probe'), ('hatch-temperature', 'Hatch Temperature'), ('eggs', 'Eggs'), ('scan', 'Scan'), ('blood', 'Blood'), ('breeder', 'Breeder')], max_length=20)),
                ('hatched', models.DateField(blank=True, null=True)),
                ('hatched_is_estimate', models.BooleanField(default=False)),
                ('origin', models.CharField(choices=[('unknown', 'Unknown'), ('bred-here', 'Bred Here'), ('captive-bred', 'Captive Bred'), ('farmed', 'Farmed'), ('wild-caught', 'Wild Caught'), ('found', 'Found')], default='unknown', max_length=20)),
                ('came_from', models.CharField(blank=True, max_length=120)),
                ('papers', models.CharField(blank=True, max_length=200)),
                ('left_on', models.DateField(blank=True, null=True)),
                ('left_by', models.CharField(blank=True, choices=[('rehomed', 'Rehomed'), ('returned', 'Returned'), ('lent', 'Lent'), ('escaped', 'Escaped'), ('died', 'Died')], max_length=10)),
                ('version', models.PositiveIntegerField(default=1)),
                ('created_at', models.DateTimeField()),
                ('father', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='young_of_his', to='rooms.animal')),
                ('mother', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='young_of_hers', to='rooms.animal')),
                ('room', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='animals', to='rooms.room')),
            ],
            options={
                'ordering': ['name', 'id'],
            },
        ),
        migrations.CreateModel(
            name='Residence',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('since', models.DateField()),
                ('until', models.DateField(blank=True, null=True)),
                ('why', models.CharField(choices=[('arrival', 'Arrival'), ('quarantine-over', 'Quarantine Over'), ('growth', 'Growth'), ('season', 'Season'), ('young-apart', 'Young Apart'), ('males-apart', 'Males Apart'), ('fighting', 'Fighting'), ('breeding', 'Breeding'), ('treatment', 'Treatment'), ('rebuilding', 'Rebuilding'), ('found-again', 'Found Again'), ('other', 'Other')], default='arrival', max_length=20)),
                ('note', models.CharField(blank=True, max_length=300)),
                ('animal', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='residences', to='rooms.animal')),
                ('habitat', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='residences', to='rooms.habitat')),
            ],
            options={
                'ordering': ['since', 'id'],
            },
        ),
        migrations.AddConstraint(
            model_name='animal',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('left_by', ''), ('left_on__isnull', True)), models.Q(('left_on__isnull', False), models.Q(('left_by', ''), _negated=True)), _connector='OR'), name='gone_is_a_day_and_a_way'),
        ),
        migrations.AddConstraint(
            model_name='animal',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('mother', models.F('id')), _negated=True), models.Q(('father', models.F('id')), _negated=True)), name='nobody_is_its_own_parent'),
        ),
        migrations.AddIndex(
            model_name='residence',
            index=models.Index(fields=['habitat', 'until'], name='rooms_resid_habitat_e5da58_idx'),
        ),
        migrations.AddConstraint(
            model_name='residence',
            constraint=models.UniqueConstraint(condition=models.Q(('until__isnull', True)), fields=('animal',), name='an_animal_lives_in_one_habitat'),
        ),
        migrations.AddConstraint(
            model_name='residence',
            constraint=models.CheckConstraint(condition=models.Q(('until__isnull', True), ('until__gte', models.F('since')), _connector='OR'), name='out_after_in'),
        ),
    ]
