from __future__ import annotations

import os

from hypothesis import settings

# Times are measured in bench/, never here; the first call of a kernel compiles it.
settings.register_profile("saucer", deadline=None, max_examples=60, database=None)
settings.load_profile("saucer")
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
