"""A bucket to try things with: a server that speaks S3 (moto), on loopback and in memory."""

from __future__ import annotations

import logging
import socket
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import boto3
from moto.server import ThreadedMotoServer

from saucer.studio.common.bucket import BucketStorage

KEY, SECRET = "key", "secret"


@dataclass
class Bucket:
    """name: its own; url: of the server"""

    name: str
    url: str
    server: ThreadedMotoServer

    @property
    def said(self) -> str:
        """As SAUCER_STORE says it."""
        return f"s3://{self.name}/kept"

    @property
    def settings(self) -> dict[str, str]:
        return {"SAUCER_S3_URL": self.url, "SAUCER_S3_REGION": "eu-1", "SAUCER_S3_KEY": KEY, "SAUCER_S3_SECRET": SECRET}

    def storage(self, cache: Path | None = None, room: int = 10**9) -> BucketStorage:
        return BucketStorage(self.said, self.url, "eu-1", KEY, SECRET, cache, room)


@contextmanager
def bucket() -> Iterator[Bucket]:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    logging.getLogger("werkzeug").setLevel(logging.WARNING)
    server = ThreadedMotoServer("127.0.0.1", port, verbose=False)
    server.start()
    url = f"http://127.0.0.1:{port}"
    try:
        s3 = boto3.client("s3", endpoint_url=url, region_name="eu-1", aws_access_key_id=KEY, aws_secret_access_key=SECRET)
        name = f"studio-{port}"  # what is in memory outlasts the server
        s3.create_bucket(Bucket=name, CreateBucketConfiguration={"LocationConstraint": "eu-1"})
        yield Bucket(name, url, server)
    finally:
        server.stop()
