from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

from saucer.studio.common.constraints import validate_sound


class Migration(migrations.Migration):

    dependencies = [
        ('catalogue', '0008_held_by_the_database'),
        ('luts', '0002_initial'),
    ]

    operations = [
        AddConstraintNotValid(
            model_name='lut',
            constraint=models.CheckConstraint(condition=models.Q(('known__in', ['asked', 'baked', 'declared', 'guessed', 'said'])), name='how_a_lut_is_known'),
        ),
        AddConstraintNotValid(
            model_name='lut',
            constraint=models.CheckConstraint(condition=models.Q(('health__in', ['bad', 'fine', 'notice'])), name='health_of_a_lut'),
        ),
        AddConstraintNotValid(
            model_name='lut',
            constraint=models.CheckConstraint(condition=models.Q(('size__gte', 0), ('size__lte', 1000000)), name='size_of_a_lut'),
        ),
        migrations.RunPython(validate_sound, migrations.RunPython.noop),
    ]
