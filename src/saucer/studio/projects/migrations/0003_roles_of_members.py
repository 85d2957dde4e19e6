import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def keep_members(apps, schema_editor):
    """Until now every member could change everything."""
    project, membership = apps.get_model("projects", "Project"), apps.get_model("projects", "Membership")
    old = project.members.through.objects.values_list("project_id", "person_id")
    membership.objects.bulk_create(membership(project_id=pk, person_id=person, role="leads") for pk, person in old)


class Migration(migrations.Migration):

    dependencies = [
        ("projects", "0002_shots_layers_deliveries"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="Membership",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "role",
                    models.CharField(
                        choices=[
                            ("leads", "leads: changes the project and its shots"),
                            ("grades", "grades: changes shots and delivers them"),
                            ("follows", "follows: sees everything and writes notes"),
                        ],
                        default="grades",
                        max_length=8,
                    ),
                ),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="memberships", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "project",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="memberships", to="projects.project"
                    ),
                ),
            ],
            options={"ordering": ["person__username"]},
        ),
        migrations.AddConstraint(
            model_name="membership",
            constraint=models.UniqueConstraint(fields=["project", "person"], name="one_role_per_member"),
        ),
        migrations.RunPython(keep_members, migrations.RunPython.noop),
        migrations.RemoveField(model_name="project", name="members"),
        migrations.AddField(
            model_name="project",
            name="members",
            field=models.ManyToManyField(
                related_name="projects", through="projects.Membership", to=settings.AUTH_USER_MODEL
            ),
        ),
    ]
