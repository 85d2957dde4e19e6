"""apply.*: a baked lattice on a 1920x1080 picture, beside OpenColorIO and Pillow."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import PyOpenColorIO as ocio
from PIL import Image, ImageFilter

from bench.measure import Result, compare
from saucer.core.lut.apply import apply_lattice
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice

WIDTH, HEIGHT = 1920, 1080
DEPTHS = {
    np.dtype(np.uint8): ocio.BIT_DEPTH_UINT8,
    np.dtype(np.uint16): ocio.BIT_DEPTH_UINT16,
    np.dtype(np.float32): ocio.BIT_DEPTH_F32,
}


def a_lattice(size: int) -> Lattice:
    rng = np.random.default_rng(size)
    table = grid(size) ** np.float32(1.2) * np.float32(0.9) + rng.normal(scale=0.01, size=(size**3, 3))
    return Lattice(np.clip(table, 0, 1).astype(np.float32).reshape(size, size, size, 3))


def a_picture(dtype: type) -> np.ndarray:
    """Smooth with some noise, as pictures are: neighbouring pixels fall into neighbouring cells."""
    rng = np.random.default_rng(7)
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH] / HEIGHT
    smooth = np.stack([0.5 + 0.5 * np.sin(3 * x + 2 * y), 0.5 + 0.5 * np.sin(5 * y + 1), 0.5 + 0.5 * np.cos(4 * x - y)], -1)
    values = np.clip(smooth * 0.9 + rng.normal(scale=0.03, size=smooth.shape) + 0.05, 0, 1).astype(np.float32)
    if dtype is np.float32:
        return values
    return (values * np.iinfo(dtype).max + 0.5).astype(dtype)


def ocio_apply(lattice: Lattice, buffer: np.ndarray):  # type: ignore[no-untyped-def]
    """OpenColorIO at its best: a CPU processor for this depth, applied in place to a packed image."""
    transform = ocio.Lut3DTransform(lattice.size)
    transform.setInterpolation(ocio.INTERP_TETRAHEDRAL)
    transform.setData(np.ascontiguousarray(lattice.table).reshape(-1))
    depth = DEPTHS[buffer.dtype]
    processor = ocio.Config.CreateRaw().getProcessor(transform).getOptimizedCPUProcessor(depth, depth, ocio.OPTIMIZATION_DEFAULT)
    image = ocio.PackedImageDesc(buffer, WIDTH, HEIGHT, 3, depth, *[buffer.itemsize * n for n in (1, 3, 3 * WIDTH)])
    return lambda: processor.apply(image)


def _in_place(name: str, lattice: Lattice, dtype: type, threads: int, peer: str, wanted: float) -> Result:
    """Both in place, on the picture as it was each time: gone through again and again it would end in a few cells of the lattice."""
    values = a_picture(dtype)
    own, other = values.copy(), values.copy()

    def restore() -> None:
        own[...], other[...] = values, values

    ours = lambda: apply_lattice(lattice, own, threads=threads, out=own)  # noqa: E731
    return compare(name, ours, peer, ocio_apply(lattice, other), wanted, restore=restore)


def run() -> Iterator[Result]:
    for size, wanted in ((33, (2.2, 3.6)), (65, (1.5, 2.6))):
        for threads, least in zip((1, 2), wanted, strict=True):
            yield _in_place(f"apply.f32.{size}.{threads}t", a_lattice(size), np.float32, threads, "OpenColorIO float32", least)
    lattice = a_lattice(33)
    for dtype, name in ((np.uint8, "u8"), (np.uint16, "u16")):
        yield _in_place(f"apply.{name}.33.1t", lattice, dtype, 1, f"OpenColorIO {name}", 2.4)
    codes = a_picture(np.uint8)
    out_codes = np.empty_like(codes)
    table = lattice.table.transpose(2, 1, 0, 3).reshape(-1)
    pillow, image = ImageFilter.Color3DLUT(33, table.tolist()), Image.fromarray(codes)
    yield compare(
        "apply.u8.33.1t.pillow", lambda: apply_lattice(lattice, codes, threads=1, out=out_codes), "Pillow Color3DLUT",
        lambda: image.filter(pillow), 4,
    )  # fmt: skip
