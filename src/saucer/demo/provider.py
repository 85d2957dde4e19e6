"""A small stand-in for a studio's own accounts, by OpenID Connect: discovery, a page to choose somebody on, tokens, keys.

For tests and for trying it out; it asks for no password and lets anybody be anybody: `python -m saucer.demo.provider --port 8500`.
Source: OpenID Connect Core 1.0 (code flow) and Discovery 1.0; PKCE, RFC 7636.
"""

from __future__ import annotations

import argparse
import base64
import hashlib
import html
import json
import secrets
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from copy import deepcopy
from dataclasses import dataclass, field
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread
from typing import Any
from urllib.parse import parse_qs, urlencode, urlsplit

import jwt
from cryptography.hazmat.primitives.asymmetric import rsa

PEOPLE: dict[str, dict[str, Any]] = {
    "ilse": {"name": "Ilse Harrow", "email": "ilse@studio.example", "groups": ["colour"]},
    "marek": {"name": "Marek Sorel", "email": "marek@studio.example", "groups": ["colour", "heads"]},
    "nadia": {"name": "Nadia Quill", "email": "nadia@studio.example", "groups": ["guests"]},
}
LASTS = 300
"""Seconds that a token holds."""


@dataclass
class Provider:
    """client, secret: of the one program that comes; people: claims by name; codes, tokens: whose each is, with what was asked for"""

    client: str = "saucer"
    secret: str = "a-stand-in-is-no-secret"  # noqa: S105
    people: dict[str, dict[str, Any]] = field(default_factory=lambda: deepcopy(PEOPLE))
    url: str = ""
    codes: dict[str, tuple[str, dict[str, str]]] = field(default_factory=dict)
    tokens: dict[str, str] = field(default_factory=dict)
    key: rsa.RSAPrivateKey = field(default_factory=lambda: rsa.generate_private_key(public_exponent=65537, key_size=2048))

    def configuration(self) -> dict[str, Any]:
        return {
            "issuer": self.url, "authorization_endpoint": f"{self.url}/authorize", "token_endpoint": f"{self.url}/token",
            "userinfo_endpoint": f"{self.url}/userinfo", "jwks_uri": f"{self.url}/keys", "response_types_supported": ["code"],
            "subject_types_supported": ["public"], "id_token_signing_alg_values_supported": ["RS256"],
            "token_endpoint_auth_methods_supported": ["client_secret_post"], "code_challenge_methods_supported": ["S256"],
        }  # fmt: skip

    def keys(self) -> dict[str, Any]:
        public = json.loads(jwt.algorithms.RSAAlgorithm.to_jwk(self.key.public_key()))
        return {"keys": [public | {"kid": "one", "use": "sig", "alg": "RS256"}]}

    def claims_of(self, name: str) -> dict[str, Any]:
        return {"sub": f"id-{name}", "preferred_username": name, "email_verified": True} | self.people[name]

    def let_go(self, name: str, asked: Mapping[str, str]) -> str:
        """Where the browser goes back to, with a code."""
        code = secrets.token_urlsafe(24)
        self.codes[code] = name, dict(asked)
        return f"{asked['redirect_uri']}?{urlencode({'code': code, 'state': asked.get('state', '')})}"

    def trade(self, given: Mapping[str, str]) -> dict[str, Any] | None:
        """Tokens for a code, once, to the program it was made for, which knows the secret and what it began with; none otherwise."""
        name, asked = self.codes.pop(given.get("code", ""), ("", {}))
        knows = (given.get("client_id"), given.get("client_secret")) == (self.client, self.secret)
        challenge = base64.urlsafe_b64encode(hashlib.sha256(given.get("code_verifier", "").encode()).digest()).rstrip(b"=").decode()
        if not name or not knows or challenge != asked.get("code_challenge") or given.get("redirect_uri") != asked["redirect_uri"]:
            return None
        token, now = secrets.token_urlsafe(24), int(time.time())
        self.tokens[token] = name
        claims = self.claims_of(name) | {"iss": self.url, "aud": self.client, "iat": now, "exp": now + LASTS}
        signed = jwt.encode(claims, self.key, algorithm="RS256", headers={"kid": "one"})
        return {"access_token": token, "token_type": "Bearer", "expires_in": LASTS, "id_token": signed}


def _handler(provider: Provider) -> type[BaseHTTPRequestHandler]:
    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            parts = urlsplit(self.path)
            asked = {name: values[0] for name, values in parse_qs(parts.query).items()}
            bearer = self.headers.get("Authorization", "").removeprefix("Bearer ")
            match parts.path:
                case "/.well-known/openid-configuration":
                    self._json(provider.configuration())
                case "/keys":
                    self._json(provider.keys())
                case "/userinfo" if bearer in provider.tokens:
                    self._json(provider.claims_of(provider.tokens[bearer]))
                case "/authorize" if asked.get("as") in provider.people:
                    self.send_response(302)
                    self.send_header("Location", provider.let_go(asked["as"], asked))
                    self.end_headers()
                case "/authorize":
                    ways = (
                        f'<p><a href="{html.escape(self.path)}&as={name}">{html.escape(str(one["name"]))}</a>'
                        for name, one in provider.people.items()
                    )
                    self._send(
                        200, "text/html", f"<!doctype html><title>Who are you?</title><h1>Who are you?</h1>{''.join(ways)}".encode()
                    )
                case _:
                    self._json({"error": "invalid_request"}, 401)

        def do_POST(self) -> None:
            given = parse_qs(self.rfile.read(int(self.headers.get("Content-Length") or 0)).decode())
            found = provider.trade({name: values[0] for name, values in given.items()}) if self.path == "/token" else None
            self._json(found or {"error": "invalid_grant"}, 200 if found else 400)

        def _json(self, content: Any, status: int = 200) -> None:
            self._send(status, "application/json", json.dumps(content).encode())

        def _send(self, status: int, kind: str, body: bytes) -> None:
            self.send_response(status)
            self.send_header("Content-Type", kind)
            self.send_header("Content-Length", str(len(body)))
            self.end_headers()
            self.wfile.write(body)

        def log_message(self, *_: object) -> None:
            """Nothing is printed."""

    return Handler


@contextmanager
def providing(provider: Provider, port: int = 0) -> Iterator[Provider]:
    server = ThreadingHTTPServer(("127.0.0.1", port), _handler(provider))
    provider.url = f"http://127.0.0.1:{server.server_address[1]}"
    thread = Thread(target=server.serve_forever, daemon=True)
    thread.start()
    try:
        yield provider
    finally:
        server.shutdown()
        server.server_close()
        thread.join(10)


def main() -> None:
    parser = argparse.ArgumentParser(description="A stand-in for a studio's accounts. For trying out only: anybody may be anybody.")
    parser.add_argument("--port", type=int, default=8500)
    with providing(Provider(), parser.parse_args().port) as provider:
        print(
            f"SAUCER_OIDC_URL={provider.url} SAUCER_OIDC_CLIENT={provider.client} SAUCER_OIDC_SECRET={provider.secret} "
            f"SAUCER_OIDC_ROLES=colour=designer,heads=curator,guests=viewer",
            flush=True,
        )
        try:
            while True:
                time.sleep(3600)
        except KeyboardInterrupt:
            pass


if __name__ == "__main__":
    main()
