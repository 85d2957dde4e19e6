"""What `warm` has run leaves nothing to be compiled while a person waits."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[2]
# In a process of its own: in this one other tests have compiled long before.
SCRIPT = """
import gc, io
from pathlib import Path
import numpy as np
from numba.core.dispatcher import Dispatcher
from saucer.core.bake.bake import sample_for
from saucer.core.bake.fidelity import Truth, measure
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import Sampling, render
from saucer.core.engine.warm import warm
from saucer.core.files.format import Options
from saucer.core.files.registry import formats, read_lut
from saucer.core.look.model import look_from
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.health import examine
from saucer.core.numeric.blending import MODES
from saucer.core.pictures.scopes import histogram
from saucer.core.colour.encodings import ENCODINGS
from tests.make import CHANGED, CHANGED_SPATIAL, LUTS, a_lut, random_pixels

warm()
def compiled():
    return {(one.py_func.__module__, one.py_func.__name__): len(one.signatures) for one in gc.get_objects() if isinstance(one, Dispatcher)
            and one.py_func.__module__.startswith("saucer")}
before = compiled()
picture = random_pixels(150, 40)  # high enough for wide blurs
for kind, step in {**CHANGED, **CHANGED_SPATIAL}.items():
    for mode in ("normal", "multiply"):
        plan = prepare(look_from({"output": step.get("to", "srgb"), "steps": [{"kind": "group", "blend": mode, "strength": 0.7, "steps": [step]}]}), LUTS)
        render(plan, picture)
        render(plan, picture, sampling=Sampling(17))
for encoding in ENCODINGS:
    evaluate(prepare(look_from({"input": "srgb", "output": encoding, "steps": [{"kind": "convert", "to": encoding}]})), picture.reshape(-1, 3))
look = look_from({"steps": [CHANGED["tone"], CHANGED["hue-bands"]]})
for name in ("cube", "3dl", "csp", "clf", "spi3d"):
    lut, lost = sample_for(prepare(look), formats()[name], 17)
    back = read_lut(formats()[name].write(lut, Options()), "x")[0]
    for dtype in (np.float32, np.uint8, np.uint16):
        apply_lut(back, np.zeros((4, 4, 3), dtype))
measure(Truth(prepare(look)), lut)
examine(a_lut(17))
histogram(picture.reshape(-1, 3), ENCODINGS["srgb"])
late = {name: (before.get(name, 0), count) for name, count in compiled().items() if count > before.get(name, 0)}
print(len(before), "kernels")
assert len(before) > 20, before
assert not late, late
"""


def test_no_kernel_is_compiled_after_warming():
    done = subprocess.run([sys.executable, "-c", SCRIPT], cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr[-2000:]
