from __future__ import annotations

from typing import ClassVar

from django.db import migrations


class Migration(migrations.Migration):
    """A bake in several formats has its zip as the job's own file now; its address is no longer part of the result."""

    dependencies: ClassVar = [("jobs", "0003_job_attempts")]
    operations: ClassVar = [
        migrations.RunSQL("UPDATE jobs_job SET result = result - 'download' WHERE result ? 'download'", migrations.RunSQL.noop)
    ]
