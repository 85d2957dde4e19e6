from contextlib import suppress
from typing import Any, ClassVar

from django.db import migrations

from saucer.core.errors import SaucerError
from saucer.core.look.model import look_from, spatial_hash


def tell_beyond(apps: Any, schema_editor: Any) -> None:
    """What looks of before do besides colour; one that cannot be read is told again when it is mended."""
    characters = apps.get_model("catalogue", "Character").objects
    for pk, content in apps.get_model("looks", "LookDraft").objects.values_list("pk", "content").iterator():
        with suppress(SaucerError):
            if beyond := spatial_hash(look_from(content, f"look {pk}")):
                characters.filter(pk=pk).update(beyond=beyond)


class Migration(migrations.Migration):
    dependencies: ClassVar = [("looks", "0004_what_was_begun"), ("catalogue", "0011_beyond_colours")]
    operations: ClassVar = [migrations.RunPython(tell_beyond, migrations.RunPython.noop, elidable=True)]
