"""The API as the page uses it: JSON in and out, the CSRF token sent along."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
from django.core.files.base import ContentFile
from django.http import HttpResponse
from django.middleware.csrf import CSRF_SECRET_LENGTH
from django.test import Client
from PIL import Image

TOKEN = "t" * CSRF_SECRET_LENGTH


class Api:
    def __init__(self, client: Client) -> None:
        self.client = client
        # As a page has it that has asked for the session: any token that both sides of a call say.
        self.client.cookies["csrftoken"] = TOKEN

    def call(self, method: str, path: str, body: Any = None, *, token: bool = True) -> HttpResponse:
        headers = {"X-CSRFToken": self.client.cookies["csrftoken"].value} if token else {}
        return self.client.generic(method, f"/api{path}", b"" if body is None else _json(body), "application/json", headers=headers)

    def get(self, path: str) -> Any:
        return self.expect(200, "GET", path)

    def expect(self, status: int, method: str, path: str, body: Any = None) -> Any:
        response = self.call(method, path, body)
        assert response.status_code == status, response.content[:500]
        return response.json() if response.content else None

    def save_version(self, look: int, note: str = "", status: int = 200) -> Any:
        """Of the draft as it stands."""
        revision = self.get(f"/looks/{look}")["revision"]
        return self.expect(status, "POST", f"/looks/{look}/versions", {"note": note, "revision": revision})

    def upload(self, path: str, name: str, data: bytes, **fields: str) -> HttpResponse:
        file = io.BytesIO(data)
        file.name = name
        headers = {"X-CSRFToken": self.client.cookies["csrftoken"].value}
        return self.client.post(f"/api{path}", {"file": file, **fields}, headers=headers)

    def send_files(self, path: str, names: list[str], **fields: str) -> HttpResponse:
        """One small file under each name."""
        files: dict[str, Any] = {name: ContentFile(b"x", name=f"{name}.cube") for name in names}
        headers = {"X-CSRFToken": self.client.cookies["csrftoken"].value}
        return self.client.post(f"/api{path}", files | fields, headers=headers)

    def image(self, path: str, body: Any) -> np.ndarray:
        response = self.call("POST", path, body)
        assert response.status_code == 200, response.content[:500]
        return np.asarray(Image.open(io.BytesIO(response.content)))


def _json(body: Any) -> bytes:
    import json

    return json.dumps(body).encode()
