"""One picture through one look is the same picture wherever it is seen or made: twelve looks, six pictures in other encodings, every place.

Within a code of 8 bits, and the LUT of a shot, which is a lattice, by its 99th percentile (docs/colour.md, "One view"). What plays and what
is dragged goes through a coarser lattice, and is not held here.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio
import pytest

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.commands.main import main
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import Look, look_from, look_text
from saucer.core.lut.apply import to_codes
from saucer.core.lut.domain import grid
from saucer.core.lut.table import Lattice, Lut
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import read_picture, write_picture
from saucer.studio.catalogue.models import Entry
from saucer.studio.common import store
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.preview import bench, entries
from saucer.studio.projects import rules as projects
from saucer.studio.projects.grade import grading, seeing
from saucer.studio.projects.models import Project, Shot
from saucer.studio.projects.story import shots
from tests.studio.delivery import as_picture, deliver, read

pytestmark = pytest.mark.django_db(transaction=True)

PICTURES = {"srgb": "png", "rec709": "tif", "s-log3": "tif", "acescct": "tif", "linear-709": "exr", "pq": "tif"}
"""Encodings, and the kind of file each comes in."""


def light(width: int = 64, height: int = 36) -> np.ndarray:
    """(h, w, 3) linear BT.709: from deep shadow to two stops above white, hues all around at the chroma of common things."""
    x, y = np.meshgrid(np.linspace(0, 1, width), np.linspace(0, 1, height))
    level = 0.004 * (2.6 / 0.004) ** x
    hue = 2 * np.pi * y
    shares = 1 + 0.35 * np.stack([np.cos(hue), np.cos(hue - 2.1), np.cos(hue + 2.1)], axis=-1)
    return np.asarray(level[..., None] * shares, np.float32)


def faded() -> Lut:
    x = grid(33)
    bent = 0.06 + 0.88 * (x * x * (3 - 2 * x)) * np.array([1, 0.97, 0.92], np.float32)
    return Lut(lattice=Lattice(bent.reshape(33, 33, 33, 3).astype(np.float32)), title="Faded")


def twelve(sha256: str) -> dict[str, Look]:
    lut = {"kind": "lut", "sha256": sha256}
    tone, warm = {"kind": "tone", "exposure": 0.3, "contrast": 1.15}, {"kind": "white-balance", "warm": 20}
    told = {
        "display": ("srgb", "srgb", [tone, {"kind": "saturation", "factor": 0.8}]),
        "video": ("rec709", "rec709", [{"kind": "curves", "master": [[0, 0.05], [0.5, 0.5], [1, 0.95]]}]),
        "display with LUT": ("rec709", "rec709", [lut]),
        "display from log LUT": ("rec709", "rec709", [lut | {"expects": "s-log3", "gives": "rec709"}]),
        "log": ("s-log3", "s-log3", [warm, tone]),
        "log with LUT": ("s-log3", "s-log3", [lut | {"gives": "rec709"}]),
        "log with part of a LUT": ("acescct", "acescct", [warm, lut | {"gives": "rec709", "strength": 0.5}]),
        "log to display": ("s-log3", "rec709", [warm, {"kind": "convert", "to": "rec709", "rendering": "soft"}]),
        "log to display by LUT": ("s-log3", "rec709", [lut | {"gives": "rec709", "ends_in": "gives"}]),
        "half of a group": ("s-log3", "rec709", [{"kind": "group", "strength": 0.5, "steps": [lut | {"gives": "rec709", "ends_in": "gives"}]}]),
        "linear": ("linear-709", "linear-709", [{"kind": "saturation", "factor": 1.2}]),
        "HDR": ("pq", "pq", [{"kind": "saturation", "factor": 0.9}]),
    }  # fmt: skip
    return {
        name: look_from({"name": name, "input": i, "output": o, "view": "soft", "steps": s}) for name, (i, o, s) in told.items()
    }


@pytest.fixture
def lut(designer) -> Entry:
    data = formats()["cube"].write(faded(), PLAIN)
    return luts.bring_in(designer, data, "faded.cube", expects="rec709", gives="rec709")


@pytest.fixture
def pages(designer, tmp_path) -> dict[str, Picture]:
    found = {}
    for encoding, kind in PICTURES.items():
        codes = convert(
            light(), ENCODINGS["linear-709"], ENCODINGS[encoding], "soft" if encoding in ("srgb", "rec709") else "plain"
        )
        depth = "f32" if kind == "exr" else "u16"
        path = tmp_path / f"{encoding}.{kind}"
        write_picture(Pixels(np.clip(codes, 0, None if kind == "exr" else 1), depth), path)
        found[encoding] = pictures.bring_in(designer, path, path.name, encoding, encoding)
    return found


def away(one: np.ndarray, other: np.ndarray) -> np.ndarray:
    return np.abs(one.astype(int) - other.astype(int))


def test_every_place_shows_the_same(api, designer, lut, pages, tmp_path, capsys):
    sha256 = luts.first_file(luts.lut_of(lut.pk)).blob_id
    ours = {name: (looks.create(designer, look), look) for name, look in twelve(sha256).items()}
    project = projects.create(designer, "Every place", delivery="srgb")
    shown = {}
    for name, (draft, _) in ours.items():
        looks.save_version(designer, draft.pk)
        new = [shots.NewShot(picture.pk, name, code=f"{name} {encoding}") for encoding, picture in pages.items()]
        added = shots.add_shots(designer, project.pk, new)
        grading.put_look(designer, project.pk, [one.pk for one in added], draft.pk, None, 1.0, stack=False)
    for name, (draft, look) in ours.items():
        card = entries.grade_of(Entry.objects.get(pk=draft.pk))
        for encoding, picture in pages.items():
            wanted = bench.frame(look, picture, "rest")
            shot = Shot.objects.select_related("scene__project").get(code=f"{name} {encoding}")
            shown[shot.code] = wanted
            places = {
                "the Bench at rest": bench.frame(look, picture, "rest"),
                "a card, an entry, a board's cell": entries.frame(card, picture),
                "a shot of a project": seeing.pixels(shot, list(shot.layers.all())),
            }
            for place, found in places.items():
                assert away(found, wanted).max() <= 1, (place, name, encoding)
    check_apply(ours, pages, shown, sha256, tmp_path)
    check_delivered(api, project, shown, tmp_path)


def check_apply(ours, pages, shown, sha256: str, folder: Path) -> None:
    """The command, on the files as they were brought in, to sRGB."""
    with store.local_file(sha256) as path:
        (folder / "faded.cube").write_bytes(path.read_bytes())
    for name, (_, look) in ours.items():
        file = folder / "one.json"
        file.write_text(look_text(look).replace(f'"sha256": "{sha256}"', '"file": "faded.cube"'))
        for encoding, kind in PICTURES.items():
            out = folder / "out.tif"
            source = folder / f"{encoding}.{kind}"
            words = [
                "apply",
                str(file),
                str(source),
                "-o",
                str(out),
                "--picture-encoding",
                encoding,
                "--output-encoding",
                "srgb",
                "--overwrite",
            ]
            assert main(words) == 0
            codes = to_codes(read_picture(out).pixels, np.uint8)
            assert away(codes, shown[f"{name} {encoding}"]).max() <= 1, ("apply", name, encoding)


def check_delivered(api, project: Project, shown, folder: Path) -> None:
    """Stills of every shot; the LUTs of those in log, by OpenColorIO on the frame as it was brought in."""
    made = deliver(api, project, stills="tiff", template="{shot}")
    for code, wanted in shown.items():
        pixels = as_picture(read(api, project, made, f"stills/{code.replace(' ', '_')}.tif"), folder, "still.tif")
        assert away(to_codes(pixels, np.uint8), wanted).max() <= 1, ("still", code)
    log = {code: Shot.objects.get(code=code) for code in shown if code.endswith("s-log3")}
    made = deliver(api, project, shots=[one.pk for one in log.values()], luts="clf", lut_size=65, template="{shot}")
    for code, shot in log.items():
        path = folder / f"{shot.pk}.clf"  # the library keeps what it has read by its name
        path.write_bytes(read(api, project, made, f"luts/{code.replace(' ', '_')}.clf"))
        with store.local_file(shot.picture.blob_id) as source:
            (folder / "source.tif").write_bytes(source.read_bytes())
        pixels = np.ascontiguousarray(read_picture(folder / "source.tif").pixels)
        ocio.Config.CreateRaw().getProcessor(ocio.FileTransform(str(path))).getDefaultCPUProcessor().applyRGB(pixels)
        off = away(to_codes(pixels, np.uint8), shown[code])
        assert (np.percentile(off, 99), off.max()) <= (1, 3), ("LUT", code)
