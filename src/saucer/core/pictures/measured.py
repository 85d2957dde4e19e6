"""An embedded profile of three primaries and one curve, that is none of the shipped encodings, as an encoding of its own.

So it is exact, where converting the samples through a colour management library would hold them to its eight bits.
"""

from __future__ import annotations

import hashlib
import re
import struct

import numpy as np
from pydantic import ValidationError

from saucer.core.colour.own import GammaDefinition, OwnEncoding
from saucer.core.colour.transfer.power import touching_curve
from saucer.core.errors import LutError
from saucer.core.lut.icc_tables import Bytes, parametric, tags_of
from saucer.core.pictures.profile import D50

POINTS = 1024
SAME_CURVE = 2e-5
"""Linear light within which a curve is that of a power, and three curves are one."""


def encoding_of_profile(data: bytes, name: str) -> OwnEncoding | None:
    """None for a profile of tables, of another kind, of three different curves or one that falls, or a damaged one.

    Its primaries are as profiles have them, adapted to D50, which is its white: so adapting from there gives what the profile means.
    Source: ICC.1:2022, 7.2 (header), 7.3 (tags), 9.2 (colorants, TRCs), 10.6 (curveType), 10.18 (parametricCurveType), 10.31 (XYZType)
    """
    try:
        tags = tags_of(Bytes(data, "the profile"))
        if data[16:20] != b"RGB " or b"A2B0" in tags:
            return None
        corners = np.array([_xyz(tags[letter + b"XYZ"]) for letter in (b"r", b"g", b"b")])
        codes = np.linspace(0, 1, POINTS)
        curves = [_curve(tags[letter + b"TRC"], codes) for letter in (b"r", b"g", b"b")]
    except (KeyError, struct.error, ValueError, IndexError, LutError):
        return None
    differs = max(np.abs(curves[0] - other).max() for other in curves[1:]) > SAME_CURVE
    if differs or np.diff(curves[0]).min() < -SAME_CURVE:
        return None
    sums = corners.sum(axis=1)
    if (np.abs(sums) < 1e-6).any():
        return None
    red, green, blue = ((float(x / total), float(y / total)) for (x, y, _), total in zip(corners, sums, strict=True))
    try:
        return OwnEncoding.model_validate(
            {
                "id": f"icc-{_slug(name)}-{hashlib.sha256(data).hexdigest()[:8]}", "name": name[:80] or "ICC profile",
                "red": red, "green": green, "blue": blue, "white": tuple(float(v) for v in D50[:2] / D50.sum()),
                "referred": "display", **_named(codes, curves[0]),
            }
        )  # fmt: skip
    except ValidationError:
        return None  # primaries that enclose no white


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:26].strip("-") or "profile"


def _xyz(tag: bytes) -> tuple[float, float, float]:
    x, y, z = struct.unpack_from(">3i", tag, 8)
    return x / 65536, y / 65536, z / 65536


def _curve(tag: bytes, codes: np.ndarray) -> np.ndarray:
    """Linear light of these codes."""
    if tag[:4] == b"para":
        (form,) = struct.unpack_from(">H", tag, 8)
        count = (1, 3, 4, 5, 7)[form]
        return parametric(form, np.array(struct.unpack_from(f">{count}i", tag, 12)) / 65536, codes)
    if tag[:4] != b"curv":
        raise ValueError("no curve")
    (count,) = struct.unpack_from(">I", tag, 8)
    if count == 0:
        return codes
    if count == 1:
        return np.asarray(codes ** (struct.unpack_from(">H", tag, 12)[0] / 256))
    samples = np.frombuffer(tag, ">u2", count, 12) / 65535
    return np.interp(codes, np.linspace(0, 1, count), samples)


def _named(codes: np.ndarray, light: np.ndarray) -> dict[str, object]:
    """The curve as a power, with the offset most profiles of screens have or without one, where it is that; else as points."""
    middle = np.abs(light - 0.2).argmin()
    for offset in (0.0, 0.055, 0.099, 0.16):
        code = (codes[middle] + offset) / (1 + offset)
        if not (0 < light[middle] < 1 and 0 < code < 1):
            continue  # of black and of white any power says the same
        exponent = float(np.log(light[middle]) / np.log(code))
        try:
            GammaDefinition(exponent=exponent, offset=offset)
        except ValidationError:
            continue
        if np.abs(touching_curve(exponent, offset).decode(codes) - light).max() < SAME_CURVE:
            return {"gamma": {"exponent": exponent, "offset": offset}}
    rising = np.concatenate([[True], np.diff(np.maximum.accumulate(light)) > 1e-9])
    return {"points": list(zip(codes[rising].tolist(), light[rising].tolist(), strict=True))}
