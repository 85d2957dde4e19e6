from django.conf import settings
from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

from saucer.studio.common.constraints import validate_sound


class Migration(migrations.Migration):

    dependencies = [
        ('common', '0001_initial'),
        ('pictures', '0004_stated_encoding'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        AddConstraintNotValid(
            model_name='footage',
            constraint=models.CheckConstraint(condition=models.Q(('kind__in', ['clip', 'sequence'])), name='kind_of_footage'),
        ),
        AddConstraintNotValid(
            model_name='picture',
            constraint=models.CheckConstraint(condition=models.Q(('width__gte', 1), ('width__lte', 1000000)), name='width_of_a_picture'),
        ),
        AddConstraintNotValid(
            model_name='picture',
            constraint=models.CheckConstraint(condition=models.Q(('height__gte', 1), ('height__lte', 1000000)), name='height_of_a_picture'),
        ),
        migrations.RunPython(validate_sound, migrations.RunPython.noop),
    ]
