from django.db import migrations, models


class Migration(migrations.Migration):
    """What deliveries of before were made from stood in each of their files; only what their shots were called is still asked for."""

    dependencies = [
        ("projects", "0003_roles_of_members"),
    ]

    operations = [
        migrations.AddField("delivery", "frozen", models.JSONField(null=True)),
        migrations.AddField("deliveryitem", "place", models.PositiveIntegerField(null=True)),
        migrations.AddField("deliveryitem", "told", models.CharField(blank=True, max_length=80)),
        migrations.RunSQL(
            "UPDATE projects_deliveryitem SET told = left(applied->>'shot', 80) WHERE applied ? 'shot'", migrations.RunSQL.noop
        ),
        migrations.RemoveField("deliveryitem", "applied"),
    ]
