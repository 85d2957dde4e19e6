"""PostgreSQL's own programs for copying a database out and in."""

from __future__ import annotations

import os
import shutil
import subprocess
from pathlib import Path
from typing import Any

from django.db import connection

from saucer.studio.common.refusals import NotPossible


def find_program(name: str) -> str:
    """The newest that Debian's packages brought, or what is on the PATH. Raises: NotPossible"""
    there = [path for path in Path("/usr/lib/postgresql").glob(f"*/bin/{name}") if os.access(path, os.X_OK)]
    found = max(there, key=lambda path: float(path.parts[-3]), default=None) or shutil.which(name)
    if found is None:
        raise NotPossible(f"{name} is missing: install Debian's package postgresql-client.")
    return str(found)


def run(name: str, *arguments: str) -> str:
    """With the studio's database as its own. What it wrote. Raises: NotPossible with its last words"""
    told: dict[str, Any] = connection.settings_dict
    where = {
        "PGHOST": told["HOST"],
        "PGPORT": told["PORT"],
        "PGUSER": told["USER"],
        "PGPASSWORD": told["PASSWORD"],
        "PGDATABASE": told["NAME"],
    }
    where |= {f"PG{name.upper()}": value for name, value in told["OPTIONS"].items() if name.startswith("ssl")}
    environment = os.environ | {key: str(value) for key, value in where.items() if value}
    done = subprocess.run([find_program(name), *arguments], env=environment, capture_output=True, text=True, check=False)
    if done.returncode:
        raise NotPossible(f"{name} failed: {' / '.join(done.stderr.strip().splitlines()[-3:])}")
    return done.stdout
