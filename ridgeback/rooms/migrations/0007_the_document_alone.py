"""Columns and rows that said what the document says."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('rooms', '0006_into_the_document'),
    ]

    operations = [
        migrations.RemoveConstraint(
            model_name='animal',
            name='mass_above_zero',
        ),
        migrations.RemoveConstraint(
            model_name='animal',
            name='length_above_zero',
        ),
        migrations.RemoveConstraint(
            model_name='animal',
            name='no_more_than_all',
        ),
        migrations.RemoveConstraint(
            model_name='animal',
            name='smallest_above_zero',
        ),
        migrations.RemoveConstraint(
            model_name='habitat',
            name='habitat_has_a_size',
        ),
        migrations.RemoveConstraint(
            model_name='habitat',
            name='mesh_share_is_a_share',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='hatched',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='hatched_is_estimate',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='length_m',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='males',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='mass_kg',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='sex',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='smallest_m',
        ),
        migrations.RemoveField(
            model_name='animal',
            name='young',
        ),
        migrations.RemoveField(
            model_name='habitat',
            name='height_m',
        ),
        migrations.RemoveField(
            model_name='habitat',
            name='kind',
        ),
        migrations.RemoveField(
            model_name='habitat',
            name='length_m',
        ),
        migrations.RemoveField(
            model_name='habitat',
            name='lid',
        ),
        migrations.RemoveField(
            model_name='habitat',
            name='mesh_open_share',
        ),
        migrations.RemoveField(
            model_name='habitat',
            name='setting',
        ),
        migrations.RemoveField(
            model_name='habitat',
            name='width_m',
        ),
        migrations.DeleteModel(
            name='Heater',
        ),
        migrations.DeleteModel(
            name='UvLamp',
        ),
    ]
