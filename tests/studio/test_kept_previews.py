"""Pictures that previews keep, and what pictures become through entries: made again where they were cut off, of the version that is meant."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
from django.core.files.storage import default_storage
from PIL import Image

from saucer.core.files.formats import cube
from saucer.core.look.model import look_from
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import write_picture
from saucer.studio.catalogue.models import Entry
from saucer.studio.looks import rules as looks
from saucer.studio.luts import rules as luts
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview import entries, kept
from saucer.studio.preview.overlays import draw_overlay
from tests.make import WARM, a_lut
from tests.studio.work import run_worker

WHOLE = b"\xff\xd8 a JPEG's insides \xff\xd9"


@pytest.mark.parametrize("cut", [WHOLE[:-1], WHOLE[:8], WHOLE[1:], b"", WHOLE + b"\0"])
def test_a_kept_picture_that_is_not_whole_is_made_again_and_one_that_is_stays(db, cut):
    """A JPEG begins with SOI and ends with EOI (ITU T.81, B.1.1.3)."""
    made = []

    def make() -> bytes:
        made.append(1)
        return WHOLE

    assert kept.kept_preview("one", make) == WHOLE
    assert kept.kept_preview("one", make) == WHOLE
    assert len(made) == 1
    Path(default_storage.path("previews/one.jpg")).write_bytes(cut)
    assert kept.kept_preview("one", make) == WHOLE
    assert len(made) == 2
    assert Path(default_storage.path("previews/one.jpg")).read_bytes() == WHOLE


def test_what_is_exactly_black_or_white_is_marked_as_clipped(designer, tmp_path):
    """Eight rows: at 0, just above it, between, just below 1, at 1."""
    values = np.repeat(np.array([0, 1, 32768, 65534, 65535], np.uint16), 8)[:, None, None] / np.float32(65535)
    write_picture(Pixels(np.broadcast_to(values, (40, 16, 3)).astype(np.float32), "u16"), tmp_path / "ramp.png")
    picture = pictures.bring_in(designer, tmp_path / "ramp.png", "ramp.png")
    found = draw_overlay(look_from({"steps": []}), picture, "clipping", 6)
    assert [int(row[0]) for row in found.codes[4::8]] == [1, 0, 0, 0, 2]
    assert (found.figures["low"], found.figures["high"]) == (0.2, 0.2)


def test_a_version_is_seen_as_itself_of_a_lut_and_of_a_look(designer, picture):
    draft = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]}))
    looks.save_version(designer, draft.pk)
    looks.save_draft(designer, draft.pk, look_from({"name": "Salt", "steps": []}), looks.draft_of(draft.pk).revision)
    looks.save_version(designer, draft.pk)
    entry = Entry.objects.get(pk=draft.pk)
    first, second = (entries.frame(entries.grade_of_version(one), picture) for one in entry.versions.order_by("number"))
    plain = entries.frame(entries.grade_of(entry, 0.0), picture)
    assert np.array_equal(second, plain)
    assert np.abs(first.astype(int) - plain).max() > 10
    lut = luts.bring_in(designer, cube.write(a_lut(9)), "one.cube")
    [version] = lut.versions.all()
    through = entries.frame(entries.grade_of_version(version), picture)
    assert np.array_equal(through, entries.frame(entries.grade_of(lut, 1.0), picture))
    assert np.abs(through.astype(int) - plain).max() > 10


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize(("asked", "suffix", "kind"), [("", ".png", "PNG"), ("jpeg", ".jpg", "JPEG"), ("tiff", ".tif", "TIFF")])
def test_a_graded_picture_comes_in_the_format_it_came_in_unless_another_is_asked_for(api, designer, picture, asked, suffix, kind):
    draft = looks.create(designer, look_from({"name": "Salt", "steps": [WARM]}))
    looks.save_version(designer, draft.pk)
    job = api.expect(202, "POST", "/shelf/grade", {"entry": draft.pk, "picture": picture.pk, "format": asked})
    run_worker()
    told = api.get(f"/jobs/{job['id']}")
    assert told["file_name"] == f"quay-salt{suffix}"
    data = api.client.get(f"/api/jobs/{job['id']}/file").getvalue()
    assert Image.open(io.BytesIO(data)).format == kind
