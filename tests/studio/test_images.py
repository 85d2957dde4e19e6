"""Pictures as responses: what is packed is what every reader gets back, sample by sample."""

from __future__ import annotations

import io
import struct
import zlib

import numpy as np
import pytest
from PIL import Image, ImageCms

from saucer.studio.common.images import encoded
from saucer.studio.common.png import encode_png


@pytest.mark.parametrize("shape", [(7, 5, 3), (1, 1, 3), (3, 1, 4), (1, 9, 1), (6, 4), (61, 97, 4), (540, 960, 3)])
def test_every_sample_comes_back(shape, tmp_path):
    """By Pillow, and by libpng behind OpenImageIO."""
    import OpenImageIO as oiio

    codes = np.random.default_rng(3).integers(0, 256, shape, np.uint8)
    data = encode_png(codes)
    read = Image.open(io.BytesIO(data))
    read.verify()
    np.testing.assert_array_equal(
        np.asarray(Image.open(io.BytesIO(data))), codes.squeeze(-1) if shape[-1] == 1 and codes.ndim == 3 else codes
    )
    (tmp_path / "a.png").write_bytes(data)
    # Alpha as it stands in the file, not multiplied into the colours.
    source = oiio.ImageInput.open(str(tmp_path / "a.png"), _unassociated(oiio))
    pixels = source.read_image(oiio.UINT8)
    source.close()
    np.testing.assert_array_equal(np.asarray(pixels).reshape(codes.shape), codes)


def _unassociated(oiio):
    spec = oiio.ImageSpec()
    spec.attribute("oiio:UnassociatedAlpha", 1)
    return spec


def test_a_view_that_is_not_in_one_piece():
    codes = np.random.default_rng(3).integers(0, 256, (20, 30, 3), np.uint8)[::2, ::-1]
    np.testing.assert_array_equal(np.asarray(Image.open(io.BytesIO(encoded(codes, "png")))), codes)


def test_its_chunks_are_those_of_the_specification():
    """PNG third edition, 5.3 and 11.2: signature, length, kind, data, CRC over kind and data (ISO 3309); IEND last."""
    data = encode_png(np.zeros((2, 3, 3), np.uint8), b"profile")
    assert data[:8] == b"\x89PNG\r\n\x1a\n"
    at, kinds = 8, []
    while at < len(data):
        (length,) = struct.unpack(">I", data[at : at + 4])
        kind, body = data[at + 4 : at + 8], data[at + 8 : at + 8 + length]
        assert struct.unpack(">I", data[at + 8 + length : at + 12 + length])[0] == zlib.crc32(kind + body)
        kinds.append(kind)
        at += 12 + length
    assert kinds == [b"IHDR", b"iCCP", b"IDAT", b"IEND"]


def test_a_profile_goes_with_it():
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    codes = np.zeros((4, 4, 3), np.uint8)
    assert Image.open(io.BytesIO(encoded(codes, "png", profile=profile))).info["icc_profile"] == profile
    assert Image.open(io.BytesIO(encoded(codes, "jpeg", profile=profile))).info["icc_profile"] == profile
    assert "icc_profile" not in Image.open(io.BytesIO(encoded(codes, "png"))).info
