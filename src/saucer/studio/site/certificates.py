"""Until when the certificate holds that a name of this studio shows."""

from __future__ import annotations

import ssl
from datetime import datetime

from cryptography.x509 import load_pem_x509_certificate

PATIENCE = 3.0
"""Seconds. Where a name leads past this machine, it may not be to be reached from here."""


def held_until(host: str, port: int = 443) -> datetime | None:
    """None where nothing answers by TLS. Whether anybody would believe the certificate is not asked."""
    try:
        shown = ssl.get_server_certificate((host, port), timeout=PATIENCE)
    except (OSError, ValueError):
        return None
    return load_pem_x509_certificate(shown.encode()).not_valid_after_utc
