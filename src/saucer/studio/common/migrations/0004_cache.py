from django.core.management import call_command
from django.db import migrations


def make(apps, schema_editor):
    call_command("createcachetable", verbosity=0)


class Migration(migrations.Migration):

    dependencies = [
        ('common', '0003_clock'),
    ]

    operations = [
        migrations.RunPython(make, migrations.RunPython.noop),
    ]
