from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

from saucer.studio.common.constraints import validate_sound


class Migration(migrations.Migration):

    dependencies = [
        ('auth', '0012_alter_user_first_name_max_length'),
        ('people', '0001_initial'),
    ]

    operations = [
        AddConstraintNotValid(
            model_name='person',
            constraint=models.CheckConstraint(condition=models.Q(('role__in', ['admin', 'curator', 'designer', 'viewer'])), name='role_of_a_person'),
        ),
        migrations.RunPython(validate_sound, migrations.RunPython.noop),
    ]
