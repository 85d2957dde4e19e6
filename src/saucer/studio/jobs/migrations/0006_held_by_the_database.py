from django.conf import settings
from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

from saucer.studio.common.constraints import validate_sound


class Migration(migrations.Migration):

    dependencies = [
        ('common', '0001_initial'),
        ('jobs', '0005_parts'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        AddConstraintNotValid(
            model_name='job',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['cancelled', 'done', 'failed', 'running', 'waiting'])), name='state_of_a_job'),
        ),
        AddConstraintNotValid(
            model_name='job',
            constraint=models.CheckConstraint(condition=models.Q(('progress__gte', 0), ('progress__lte', 1)), name='progress_of_a_job'),
        ),
        migrations.RunPython(validate_sound, migrations.RunPython.noop),
    ]
