import django.db.models.functions.text
import django.db.models.lookups
from django.conf import settings
from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

from saucer.studio.common.constraints import validate_sound


class Migration(migrations.Migration):

    dependencies = [
        ('catalogue', '0008_held_by_the_database'),
        ('common', '0001_initial'),
        ('projects', '0004_frozen_deliveries'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        AddConstraintNotValid(
            model_name='deliveryitem',
            constraint=models.CheckConstraint(condition=models.Q(('kind__in', ['clip', 'frame', 'list', 'look', 'lut', 'still'])), name='kind_of_a_delivered_file'),
        ),
        AddConstraintNotValid(
            model_name='layer',
            constraint=models.CheckConstraint(condition=models.Q(('role__in', ['after', 'before', 'look'])), name='role_of_a_layer'),
        ),
        AddConstraintNotValid(
            model_name='membership',
            constraint=models.CheckConstraint(condition=models.Q(('role__in', ['follows', 'grades', 'leads'])), name='role_of_a_member'),
        ),
        AddConstraintNotValid(
            model_name='project',
            constraint=models.CheckConstraint(condition=models.Q(django.db.models.lookups.LessThanOrEqual(django.db.models.functions.text.Length(models.F('note')), 2000)), name='note_of_a_project'),
        ),
        migrations.RunPython(validate_sound, migrations.RunPython.noop),
    ]
