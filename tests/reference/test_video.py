"""Video's matrices and ranges against published codes and against libavfilter's own conversion (through PyAV)."""

from __future__ import annotations

import itertools

import av
import numpy as np
import pytest

from saucer.core.clips.coding import Coding
from saucer.core.clips.yuv import Layout, from_rgb, to_rgb
from tests.clips import moving, psnr

# 8-bit codes of the colours at full saturation in limited range: ITU-R BT.601-7 and BT.709-6 formulas as tabulated in handbooks
# (Poynton, "Digital Video and HD", colour bars); the numbers are from memory and follow from the standards' equations.
BARS = {
    "bt601": {(1, 0, 0): (81, 90, 240), (0, 1, 0): (145, 54, 34), (0, 0, 1): (41, 240, 110), (1, 1, 1): (235, 128, 128), (0, 0, 0): (16, 128, 128)},
    "bt709": {(1, 0, 0): (63, 102, 240), (0, 1, 0): (173, 42, 26), (0, 0, 1): (32, 240, 118), (1, 1, 0): (219, 16, 138)},
}  # fmt: skip


def _empty(width: int, height: int, layout: Layout) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    kind = np.uint8 if layout.bits == 8 else np.uint16
    small = -(-height // layout.down), -(-width // layout.across)
    return np.zeros((height, width), kind), np.zeros(small, kind), np.zeros(small, kind)


@pytest.mark.parametrize(("matrix", "colour"), [(matrix, colour) for matrix, bars in BARS.items() for colour in bars])
def test_bars_have_their_published_codes(matrix, colour):
    layout, planes = Layout(1, 1, 8), _empty(4, 4, Layout(1, 1, 8))
    from_rgb(np.full((4, 4, 3), colour, np.float32), planes, layout, Coding(matrix, False))
    assert tuple(int(plane[0, 0]) for plane in planes) == BARS[matrix][colour]
    assert np.abs(to_rgb(planes, 4, 4, layout, Coding(matrix, False)) - np.array(colour)).max() < 0.006


MATRICES = {"bt601": "bt601", "bt709": "bt709", "bt2020": "bt2020"}


@pytest.mark.parametrize(
    ("pixels", "layout"),
    [
        ("yuv420p", Layout(2, 2, 8)),
        ("yuv422p10le", Layout(2, 1, 10)),
        ("yuv444p12le", Layout(1, 1, 12)),
        ("yuv420p10le", Layout(2, 2, 10)),
    ],
)
@pytest.mark.parametrize("matrix", list(MATRICES))
@pytest.mark.parametrize("full", [False, True])
def test_flat_colours_agree_with_libavfilter(pixels, layout, matrix, full):
    """Within one and a half codes of 8 bit (half of one is its rounding), little more than half of one on average, at its most exact settings.

    Its own RGB with more bits ends at 255/256 and not at 1, so that it tells nothing finer; the equations themselves do, below.
    """
    side, step = 16, 2 ** (layout.bits - 8)
    found = []
    graph = av.filter.Graph()
    source = graph.add_buffer(width=side, height=side, format=av.VideoFormat(pixels), time_base=1)
    given = f"in_color_matrix={matrix}:in_range={'full' if full else 'limited'}:out_range=full"
    scale = graph.add("scale", f"{given}:flags=accurate_rnd+full_chroma_int+full_chroma_inp+bilinear")
    form, sink = graph.add("format", "pix_fmts=rgb24"), graph.add("buffersink")
    source.link_to(scale)
    scale.link_to(form)
    form.link_to(sink)
    graph.configure()
    for codes in itertools.product((40, 110, 200), (100, 128, 150), (100, 128, 150)):
        frame = av.VideoFrame(side, side, pixels)
        frame.color_range = 2 if full else 1
        planes = []
        for plane, code in zip(frame.planes, codes, strict=True):
            samples = np.frombuffer(plane, np.uint8 if layout.bits == 8 else np.uint16).reshape(plane.height, -1)
            samples[:] = code * step + (step > 1)
            planes.append(samples)
        frame.pts = 0
        graph.push(frame)
        theirs = graph.pull().to_ndarray()[8, 8]
        ours = to_rgb((planes[0], planes[1], planes[2]), side, side, layout, Coding(matrix, full))[8, 8]
        found.append(np.abs(np.clip(ours, 0, 1) * 255 - theirs))
    assert np.max(found) < 1.5
    assert np.mean(found) < 0.6


# ITU-T H.273 (2021), equations 38 to 40 solved for red, green and blue, and the ranges of equations 29 to 34.
WEIGHTS = {"bt601": (0.299, 0.114), "bt709": (0.2126, 0.0722), "bt2020": (0.2627, 0.0593)}


@pytest.mark.parametrize("bits", [8, 10, 12])
@pytest.mark.parametrize("matrix", list(WEIGHTS))
@pytest.mark.parametrize("full", [False, True])
def test_flat_colours_follow_the_equations(bits, matrix, full):
    """Within 2e-6 of them in float64."""
    kr, kb = WEIGHTS[matrix]
    scale, layout = 2 ** (bits - 8), Layout(2, 2, bits)
    for codes in itertools.product((16, 110, 235), (16, 128, 240), (16, 128, 240)):
        luma, cb, cr = (code * scale for code in codes)
        peak = 2**bits - 1
        y = luma / peak if full else (luma / scale - 16) / 219
        pb, pr = ((c - 128 * scale) / peak if full else (c / scale - 128) / 224 for c in (cb, cr))
        red, blue = y + 2 * (1 - kr) * pr, y + 2 * (1 - kb) * pb
        wanted = red, (y - kr * red - kb * blue) / (1 - kr - kb), blue
        planes = _empty(8, 8, layout)
        for plane, code in zip(planes, (luma, cb, cr), strict=True):
            plane[:] = code
        assert np.abs(to_rgb(planes, 8, 8, layout, Coding(matrix, full))[4, 4] - np.array(wanted)).max() < 2e-6


@pytest.mark.parametrize(("pixels", "layout"), [("yuv420p", Layout(2, 2, 8)), ("yuv422p10le", Layout(2, 1, 10))])
def test_chroma_between_samples_agrees_with_libavfilter(pixels, layout):
    """A soft picture to chroma at half the size by us and back by the library, and the other way round."""
    picture, coding = moving(3, 128, 96), Coding("bt709", False)
    frame = av.VideoFrame(128, 96, pixels)
    kind = np.uint8 if layout.bits == 8 else np.uint16
    planes = [np.frombuffer(plane, kind).reshape(plane.height, -1) for plane in frame.planes]
    from_rgb(picture, (planes[0], planes[1], planes[2]), layout, coding)
    frame.colorspace, frame.color_range = 1, 1
    theirs = frame.reformat(format="rgb48le", interpolation="BILINEAR").to_ndarray() / 65535
    ours = to_rgb((planes[0], planes[1], planes[2]), 128, 96, layout, coding)
    assert psnr(theirs, picture) > 38
    assert psnr(ours, picture) > 45
    assert psnr(ours, theirs) > 38
