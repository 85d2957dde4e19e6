"""Worker, server and database killed in the middle of work: every job ends or goes on, the store is sound, nothing is there twice.

All three of them one after the other under one piece of work in every run of the tests; with `--long` twenty pieces of work with one each, at moments
spread over it.
"""

from __future__ import annotations

import io
import os
import random
import signal
import time
import zipfile
from collections.abc import Iterator
from typing import Any

import numpy as np
import pytest
from PIL import Image

from saucer.core.files.formats import cube
from tests.launch.installation import Caller, Installation, eventually, installed
from tests.long import at_length
from tests.make import a_lut

LUTS_IN_PACK = at_length(100, 300)
SIDE = at_length(1600, 2400)
VICTIMS = ("worker", "server", "database")


class Designer(Caller):
    def __init__(self, studio: Installation, name: str) -> None:
        super().__init__(studio)
        told = studio.run("people", "add", name, "--role", "designer").stdout
        self.call("POST", "/session", {"username": name, "password": told.partition("Password: ")[2].split()[0]})


@pytest.fixture(scope="module")
def studio() -> Iterator[Installation]:
    with installed() as installation:
        yield installation


@pytest.fixture(scope="module")
def designer(studio: Installation) -> Designer:
    return Designer(studio, "ilse")


@pytest.fixture(scope="module")
def picture(designer: Designer) -> int:
    rng = np.random.default_rng(1)
    packed = io.BytesIO()
    Image.fromarray(rng.integers(0, 256, (SIDE, SIDE, 3), np.uint8)).save(packed, "PNG", compress_level=1)
    return designer.call("POST", "/pictures", files={"file": ("noise.png", packed.getvalue())})["id"]


def pack(seed: int) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        for index in range(LUTS_IN_PACK):
            archive.writestr(f"{seed}/{index}.cube", cube.write(a_lut(9, seed=1000 * seed + index)))
    return file.getvalue()


def kill(studio: Installation, victim: str) -> None:
    if victim == "worker":
        os.kill(studio.children("procrastinate worker")[0], signal.SIGKILL)
    elif victim == "server":
        for pid in studio.children("gunicorn"):
            os.kill(pid, signal.SIGKILL)
    else:
        os.kill(studio.postmaster(), signal.SIGQUIT)


def moments(kills: int) -> list[tuple[str, float]]:
    """Victims in turn, at moments from the beginning to past the end of what goes on; the same ones each time."""
    rng = random.Random(7)
    return [(VICTIMS[number % 3], round(rng.uniform(0.1, 1.0) * (2 + number % 5), 2)) for number in range(kills)]


# On a busy machine all three come up again slowly, one after the other.
@pytest.mark.timeout(900)
@pytest.mark.parametrize(("number", "kills"), [*enumerate(at_length([moments(3)], [[one] for one in moments(20)]))])
def test_whoever_is_killed_nothing_is_lost_half_done_or_there_twice(
    studio: Installation, designer: Designer, picture: int, number, kills
):
    """A bake in three formats, a pack of LUTs, a picture graded at full size; then the kills."""
    look = designer.surely(
        "POST", "/looks", {"name": f"Salt {number}", "steps": [{"kind": "tone", "exposure": 0.1 + number / 100}]}
    )
    designer.surely("POST", f"/looks/{look['id']}/versions", {"revision": look["revision"]})
    choice = {"size": 65, "formats": [{"format": "cube"}, {"format": "clf"}, {"format": "3dl"}]}
    bake = designer.surely("POST", f"/bake/looks/{look['id']}", {"version": 1, "choice": choice})["id"]
    intake = designer.call("POST", "/packs", files={"files": ("pack.zip", pack(number))}, paths='["pack.zip"]')["id"]
    grade = designer.surely("POST", "/shelf/grade", {"entry": look["id"], "picture": picture})["id"]
    for victim, moment in kills:
        time.sleep(moment)
        kill(studio, victim)
        eventually(studio.is_ready, 120)

    def ended() -> dict[int, dict[str, Any]] | None:
        found = {pk: designer.call("GET", f"/jobs/{pk}") for pk in (bake, intake, grade)}
        return found if all(one["state"] not in ("waiting", "running") for one in found.values()) else None

    jobs = eventually(ended, 240)
    assert {pk: (one["state"], one["problem"]) for pk, one in jobs.items()} == dict.fromkeys(jobs, ("done", ""))
    bakes = designer.surely("GET", f"/bake/looks/{look['id']}")
    assert [len(one["files"]) for one in bakes] == [3]
    rows = designer.surely("GET", f"/packs/{intake}")
    assert (len(rows), sum(1 for row in rows if row["problem"])) == (LUTS_IN_PACK, 0)
    assert jobs[grade]["download"]


def test_the_store_is_sound_after_all_of_it(studio: Installation):
    assert "The store is sound." in studio.run("check").stdout
