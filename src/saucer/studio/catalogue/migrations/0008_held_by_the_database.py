import datetime
import django.db.models.functions.text
import django.db.models.lookups
from django.conf import settings
from django.contrib.postgres.operations import AddConstraintNotValid
from django.db import migrations, models

from saucer.studio.common.constraints import validate_sound


class Migration(migrations.Migration):

    dependencies = [
        ('catalogue', '0007_uses_of_luts'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        AddConstraintNotValid(
            model_name='category',
            constraint=models.CheckConstraint(condition=models.Q(('name__in', ['', '.', '..']), _negated=True), name='category_has_a_name'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('warmth__gte', -1000000.0), ('warmth__lte', 1000000.0)), name='warmth_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('lightness__gte', -1000000.0), ('lightness__lte', 1000000.0)), name='lightness_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('contrast__gte', -1000000.0), ('contrast__lte', 1000000.0)), name='contrast_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('colour__gte', -1000000.0), ('colour__lte', 1000000.0)), name='colour_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('black__gte', -1000000.0), ('black__lte', 1000000.0)), name='black_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('white__gte', -1000000.0), ('white__lte', 1000000.0)), name='white_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('skin__gte', -1000000.0), ('skin__lte', 1000000.0)), name='skin_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='character',
            constraint=models.CheckConstraint(condition=models.Q(('strength__gte', -1000000.0), ('strength__lte', 1000000.0)), name='strength_is_a_number'),
        ),
        AddConstraintNotValid(
            model_name='entry',
            constraint=models.CheckConstraint(condition=models.Q(('kind__in', ['look', 'lut', 'preset'])), name='kind_of_an_entry'),
        ),
        AddConstraintNotValid(
            model_name='entry',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['draft', 'proposed', 'published', 'retired', 'sent back'])), name='state_of_an_entry'),
        ),
        AddConstraintNotValid(
            model_name='entry',
            constraint=models.CheckConstraint(condition=models.Q(('may_pass_on__in', ['no', 'unknown', 'yes'])), name='whether_an_entry_may_be_passed_on'),
        ),
        AddConstraintNotValid(
            model_name='entry',
            constraint=models.CheckConstraint(condition=models.Q(('health__in', ['', 'bad', 'fine', 'notice'])), name='health_of_an_entry'),
        ),
        AddConstraintNotValid(
            model_name='entry',
            constraint=models.CheckConstraint(condition=models.Q(('pass_on_until__gte', datetime.date(1970, 1, 1)), ('pass_on_until__lte', datetime.date(2200, 12, 31))), name='until_when_an_entry_may_be_passed_on'),
        ),
        AddConstraintNotValid(
            model_name='entry',
            constraint=models.CheckConstraint(condition=models.Q(django.db.models.lookups.LessThanOrEqual(django.db.models.functions.text.Length(models.F('note')), 2000)), name='note_of_an_entry'),
        ),
        AddConstraintNotValid(
            model_name='review',
            constraint=models.CheckConstraint(condition=models.Q(('was__in', ['draft', 'proposed', 'published', 'retired', 'sent back'])), name='what_a_review_was'),
        ),
        AddConstraintNotValid(
            model_name='review',
            constraint=models.CheckConstraint(condition=models.Q(('became__in', ['draft', 'proposed', 'published', 'retired', 'sent back'])), name='what_a_review_became'),
        ),
        AddConstraintNotValid(
            model_name='version',
            constraint=models.CheckConstraint(condition=models.Q(('state__in', ['draft', 'proposed', 'published', 'retired', 'sent back'])), name='state_of_a_version'),
        ),
        migrations.RunPython(validate_sound, migrations.RunPython.noop),
    ]
