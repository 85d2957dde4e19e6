from typing import Any, ClassVar

from django.db import migrations


def tell_begun(apps: Any, schema_editor: Any) -> None:
    """Looks of before, in which nothing was ever done."""
    drafts = apps.get_model("looks", "LookDraft").objects.filter(content__steps=[], entry__latest=None)
    apps.get_model("catalogue", "Entry").objects.filter(pk__in=drafts.values("pk")).update(begun=False)


class Migration(migrations.Migration):
    dependencies: ClassVar = [("looks", "0003_presence_of_a_person"), ("catalogue", "0010_what_was_begun")]
    operations: ClassVar = [migrations.RunPython(tell_begun, migrations.RunPython.noop, elidable=True)]
