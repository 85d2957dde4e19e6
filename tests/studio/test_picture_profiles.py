"""Pictures that bring a profile of something that does not ship: it becomes an encoding of the team's own."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from saucer.core.colour.conversion import convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.studio.encodings import rules as encodings
from saucer.studio.encodings.models import TeamEncoding
from saucer.studio.pictures import rules as pictures
from tests.reference.test_stated import MONITOR, ONE_POWER, a_profile, corners_of


def test_a_profile_of_a_monitor_becomes_an_encoding_of_the_teams_own(db, designer, viewer, api, tmp_path):
    """Brought twice it is one encoding; who only looks at a picture defines nothing; a picture is converted from what it is."""
    data = a_profile(ONE_POWER, corners_of(MONITOR))
    codes = np.random.default_rng(4).integers(0, 256, (24, 40, 3)).astype(np.uint8)
    for name in ("a.png", "b.png"):
        Image.fromarray(codes).save(tmp_path / name, icc_profile=data)
    assert pictures.look_into(viewer, tmp_path / "a.png", "a.png", passing=True).encoding == "srgb"
    assert not TeamEncoding.objects.exists()
    first, second = (pictures.bring_in(designer, tmp_path / name, name) for name in ("a.png", "b.png"))
    (known,) = TeamEncoding.objects.all()
    assert first.encoding == second.encoding == first.stated_encoding == known.encoding_id
    assert known.encoding_id.startswith("icc-studio-monitor-7-")
    shown = Image.open(io.BytesIO(b"".join(content_of(api.client.get(f"/api/pictures/{first.pk}/frame.png")))))
    wanted = np.clip(convert(codes / 255.0, encodings.find(known.encoding_id), ENCODINGS["srgb"]), 0, 1) * 255
    assert np.abs(np.asarray(shown) - wanted).max() <= 1
    otherwise = pictures.bring_in(designer, tmp_path / "a.png", "a.png", encoding_id="display-p3")
    assert (otherwise.encoding, otherwise.stated_encoding) == ("display-p3", "")


def content_of(response):
    return response.streaming_content if response.streaming else [response.content]
