"""Codes that an app on a telephone would show: RFC 6238 (TOTP) over RFC 4226 (HOTP), written from the two texts."""

from __future__ import annotations

import base64
import hashlib
import hmac
import time


def code(secret: bytes | str, at: float | None = None, digits: int = 6) -> str:
    """secret: bytes, or base 32 as an address of the kind otpauth: has it; at: seconds since 1970, now without it"""
    key = base64.b32decode(secret) if isinstance(secret, str) else secret
    counter = int((time.time() if at is None else at) // 30)
    mac = hmac.new(key, counter.to_bytes(8, "big"), hashlib.sha1).digest()
    start = mac[-1] & 15
    number = int.from_bytes(mac[start : start + 4], "big") & 0x7FFFFFFF
    return str(number % 10**digits).zfill(digits)
