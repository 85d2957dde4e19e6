from contextlib import suppress
from typing import Any, ClassVar

from django.db import migrations

from saucer.core.errors import SaucerError
from saucer.core.look.model import look_from, spatial_hash


def tell_beyond(apps: Any, schema_editor: Any) -> None:
    """What presets of before do besides colour."""
    characters = apps.get_model("catalogue", "Character").objects
    presets = apps.get_model("catalogue", "Entry").objects.filter(kind="preset").exclude(latest=None)
    for pk, content in presets.values_list("pk", "latest__content").iterator():
        with suppress(SaucerError):
            if beyond := spatial_hash(look_from({"steps": (content or {}).get("steps", [])}, f"preset {pk}")):
                characters.filter(pk=pk).update(beyond=beyond)


class Migration(migrations.Migration):
    dependencies: ClassVar = [("presets", "0001_initial"), ("catalogue", "0011_beyond_colours")]
    operations: ClassVar = [migrations.RunPython(tell_beyond, migrations.RunPython.noop, elidable=True)]
