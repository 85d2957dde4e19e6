from django.conf import settings
from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

from saucer.studio.common.constraints import validate_sound


class Migration(migrations.Migration):

    dependencies = [
        ('boards', '0001_initial'),
        ('catalogue', '0008_held_by_the_database'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        AddConstraintNotValid(
            model_name='verdict',
            constraint=models.CheckConstraint(condition=models.Q(('choice__in', ['', 'maybe', 'no', 'yes'])), name='choice_of_a_verdict'),
        ),
        migrations.RunPython(validate_sound, migrations.RunPython.noop),
    ]
