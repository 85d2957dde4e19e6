from __future__ import annotations

import os

from hypothesis import settings

# Times are measured in bench/, never here; the first call of a kernel compiles it. The same examples every time, so that a failure is of the
# change at hand; `--hypothesis-profile=search` looks for new ones.
settings.register_profile("saucer", deadline=None, max_examples=60, database=None, derandomize=True)
settings.register_profile("search", deadline=None, max_examples=60, database=None)
settings.load_profile("saucer")
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
os.environ.setdefault("SAUCER_TESTING", "1")
