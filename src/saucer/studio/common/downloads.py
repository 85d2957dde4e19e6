"""Files to be taken away, under names that every browser takes."""

from __future__ import annotations

import unicodedata
from typing import IO

from django.http import FileResponse, HttpResponse
from django.utils.http import content_disposition_header

TYPES = {
    ".cube": "text/plain", ".3dl": "text/plain", ".csp": "text/plain", ".spi1d": "text/plain", ".spi3d": "text/plain",
    ".cc": "application/xml", ".ccc": "application/xml", ".cdl": "application/xml", ".clf": "application/xml", ".ctf": "application/xml",
    ".json": "application/json", ".zip": "application/zip", ".png": "image/png", ".jpg": "image/jpeg", ".jpeg": "image/jpeg",
    ".tif": "image/tiff", ".tiff": "image/tiff", ".exr": "image/x-exr", ".dpx": "image/x-dpx", ".webp": "image/webp",
}  # fmt: skip


RESERVED = {"CON", "PRN", "AUX", "NUL", *(f"{port}{number}" for port in ("COM", "LPT") for number in range(1, 10))}
"""Names of devices, which one widespread system takes for no file whatever stands behind the dot."""


def safe_name(name: str, otherwise: str = "file") -> str:
    """A file's name that no system reads as a path or a command: letters of any alphabet, without control and direction characters.

    None begins as a formula or a switch does.
    """
    kept = "".join("_" if letter in '/\\:*?"<>|' else letter for letter in name if unicodedata.category(letter)[0] != "C")
    kept = kept.strip(". ")[:200] or otherwise
    if kept[0] in "=+-@":
        return f"_{kept}"  # a formula to a spreadsheet, a switch to a command
    return f"_{kept}" if kept.partition(".")[0].upper() in RESERVED else kept


def type_of(name: str) -> str:
    """By the ending; what is not known is bytes, which no browser opens as a page."""
    return TYPES.get(name[name.rfind(".") :].lower() if "." in name else "", "application/octet-stream")


def download(content: bytes | str | IO[bytes], name: str, kind: str | None = None) -> HttpResponse | FileResponse:
    """An answer that the browser saves under the name (RFC 6266). kind: content type; by the name's ending otherwise"""
    name = safe_name(name)
    kind = kind or type_of(name)
    response = (
        HttpResponse(content, content_type=kind) if isinstance(content, bytes | str) else FileResponse(content, content_type=kind)
    )
    response["Content-Disposition"] = content_disposition_header(as_attachment=True, filename=name) or "attachment"
    return response
