"""A film to be delivered: a still, a clip and a sequence under a look, and how it is asked for and read."""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np
import pytest

from saucer.core.clips.sequences import find_sequences
from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import read_picture, write_picture
from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects import rules as projects
from saucer.studio.projects.grade import grading
from saucer.studio.projects.story import shots
from tests.clips import moving, write
from tests.studio.work import run_worker

TRIM = [{"kind": "cdl", "slope": [1.1, 1.0, 0.95], "offset": [0.01, 0, 0], "power": [1, 0.9, 1], "saturation": 0.9, "clamp": True}]
EVERYTHING = {
    "stills": "tiff",
    "sequences": "png",
    "clips": "prores",
    "luts": "cube",
    "cdl": True,
    "timeline": True,
    "looks": True,
    "sheet": True,
}


def empty(folder: Path) -> Path:
    return Path(tempfile.mkdtemp(dir=folder))


@pytest.fixture
def project(designer, tmp_path):
    """A still in 8 bit, a clip and a sequence in two scenes, under a look, the first one trimmed."""
    made = projects.create(designer, "The Salt Ferry", code="TSF", delivery="srgb")
    write_picture(Pixels(moving(1, 160, 90), "u8"), tmp_path / "pier.png")
    still = pictures.bring_in(designer, tmp_path / "pier.png", "pier.png").pk
    path = write(
        tmp_path / "gulls.mov",
        "prores_ks",
        "yuv422p10le",
        20,
        size=(160, 90),
        tags={"colorspace": 1, "color_range": 1},
        timecode="10:00:00:00",
    )
    clip = footage.bring_in_clip(designer, footage.Source(path, "gulls.mov")).pk
    names = [f"mast.{number:03d}.png" for number in range(1, 6)]
    for number, name in enumerate(names):
        write_picture(Pixels(moving(number, 160, 90), "u16"), tmp_path / name)
    (numbered,), _ = find_sequences(names)
    frames = footage.bring_in_sequence(designer, numbered, [footage.Source(tmp_path / name, name) for name in names]).pk
    wanted = [shots.NewShot(still, "Quay"), shots.NewShot(clip, "Quay", first=4, last=15), shots.NewShot(frames, "Deck")]
    added = shots.add_shots(designer, made.pk, wanted)
    draft = looks.create(
        designer,
        look_from(
            {
                "name": "Hearth",
                "steps": [
                    {"kind": "white-balance", "warm": 25},
                    {"kind": "saturation", "factor": 1.15},
                    {"kind": "vignette", "amount": 0.3},
                ],
            }
        ),
    )
    looks.save_version(designer, draft.pk)
    Entry.objects.filter(pk=draft.pk).update(may_pass_on="yes")
    grading.put_look(designer, made.pk, [one.pk for one in added], draft.pk, None, 0.8, stack=False)
    grading.set_trims(designer, made.pk, [added[0].pk], look_from({"steps": TRIM}).steps)
    return made


def deliver(api, project, **choice) -> dict:
    made = api.expect(200, "POST", f"/projects/{project.pk}/deliveries", choice)
    run_worker()
    return api.get(f"/projects/{project.pk}/deliveries/{made['number']}")


def read(api, project, delivery: dict, name: str) -> bytes:
    (item,) = [one for one in delivery["items"] if one["file_name"] == name]
    response = api.client.get(f"/api/projects/{project.pk}/deliveries/{delivery['number']}/files/{item['id']}")
    return b"".join(response.streaming_content)


def as_picture(data: bytes, folder: Path, name: str) -> np.ndarray:
    (folder / name).write_bytes(data)
    return read_picture(folder / name).pixels
