"""preview.* and shelf.*: server time for what a person waits for, computing only, without the network."""

from __future__ import annotations

import io
from collections.abc import Iterator

import numpy as np
from PIL import Image
from tests.make import LUTS

from bench.looks import every_kind, every_spatial_kind, ten_steps, without_spatial
from bench.measure import Result, against_budget, compare
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.evaluate import show_on_srgb
from saucer.core.engine.plan import prepare
from saucer.core.engine.rendering import Sampling, render
from saucer.core.look.model import Look
from saucer.core.lut.apply import to_codes
from saucer.core.pictures.scale import make_proxy
from saucer.demo.catalogue import FOLDER, PICTURES
from saucer.studio.common.images import encoded


def run() -> Iterator[Result]:
    how = next(one for one in PICTURES if one.scene == "busts")
    picture, _ = make_proxy(FOLDER / how.file, ENCODINGS[how.encoding], 960, 540)

    def preview(look: Look, size: int | None, form: str) -> bytes:
        values = render(prepare(look, LUTS), picture, sampling=Sampling(size))
        return encoded(to_codes(show_on_srgb(values, ENCODINGS[look.output], look.view), np.uint8), form)  # type: ignore[arg-type]

    budget = "25 ms of server time at p95"
    ten, every = ten_steps(), every_kind()
    yield against_budget("preview.10steps.960x540", lambda: preview(ten, 33, "jpeg"), budget, 25, 1)
    yield against_budget("preview.10steps.960x540.drag17", lambda: preview(ten, 17, "jpeg"), budget, 25, 1)
    yield against_budget(
        "preview.10steps.960x540.rest.png", lambda: preview(ten, None, "png"), "160 ms until the lossless frame", 160, 1
    )
    yield against_budget("preview.every-kind.960x540", lambda: preview(every, 33, "jpeg"), budget, 25, 1)
    yield against_budget(
        "preview.every-kind.960x540.rest.png", lambda: preview(every, None, "png"), "160 ms until the lossless frame", 160, 1
    )
    yield against_budget("preview.every-kind.960x540.drag17", lambda: preview(every, 17, "jpeg"), budget, 25, 1)
    for name, look in (("every-kind", every), ("every-spatial-kind", every_spatial_kind())):
        yield compare(
            f"preview.{name}.lattice",
            lambda look=look: preview(look, 33, "jpeg"),
            "its JPEG and lattice alone",
            lambda look=look: preview(without_spatial(look), 33, "jpeg"),
            1 / 3,
            rounds=60,
        )
    codes = to_codes(picture, np.uint8)
    yield compare(
        "preview.lossless.960x540.png", lambda: encoded(codes, "png"), "Pillow's PNG at level 1", lambda: _by_pillow(codes), 3
    )
    yield compare(
        "preview.10steps.960x540.exact",
        lambda: preview(ten, 33, "jpeg"),
        "the same on every pixel",
        lambda: _exact(ten, picture),
        0,
    )


def _by_pillow(codes: np.ndarray) -> bytes:
    packed = io.BytesIO()
    Image.fromarray(codes).save(packed, "PNG", compress_level=1)
    return packed.getvalue()


def _exact(look: Look, picture: np.ndarray) -> bytes:
    return encoded(to_codes(show_on_srgb(render(prepare(look), picture), ENCODINGS[look.output], look.view), np.uint8), "jpeg")
