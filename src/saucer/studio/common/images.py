"""Pixels as responses."""

from __future__ import annotations

import io
from collections.abc import Callable
from typing import Literal

import numpy as np
import simplejpeg
from django.http import HttpRequest, HttpResponse, HttpResponseNotModified
from PIL import Image

from saucer.studio.common.png import encode_png


def encoded(
    codes: np.ndarray, form: Literal["jpeg", "png"], quality: int = 90, fine: bool = True, profile: bytes | None = None
) -> bytes:
    """(h, w, 3 or 4) uint8 as JPEG or as PNG. fine: a JPEG's colour is not subsampled; without, it takes two thirds of the time

    profile: ICC, of what the codes are in where that is not sRGB
    """
    if form == "jpeg" and profile is None:
        # Unlike Pillow it packs without holding the interpreter's lock: others are served meanwhile.
        return simplejpeg.encode_jpeg(np.ascontiguousarray(codes), quality, "RGB", "444" if fine else "420")
    if form == "png":
        return encode_png(codes, profile)
    packed = io.BytesIO()
    Image.fromarray(codes).save(packed, "JPEG", quality=quality, subsampling=0 if fine else 2, icc_profile=profile)
    return packed.getvalue()


def respond(request: HttpRequest, state: str, make: Callable[[], bytes], kind: str) -> HttpResponse:
    """An image that is computed only when the browser does not have it in this state already."""
    tag = f'"{state}"'
    if request.headers.get("If-None-Match") == tag:
        return HttpResponseNotModified()
    response = HttpResponse(make(), content_type=kind)
    response["ETag"] = tag
    response["Cache-Control"] = "private, no-cache"
    return response
