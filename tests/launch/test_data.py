"""Data of an earlier Saucer in var/ is recognised and left alone."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from saucer.launch import places
from saucer.launch.console import Stop


def write_local(folder: Path, content: dict) -> bytes:
    (folder / "local.json").write_text(json.dumps(content))
    (folder / "pg").mkdir(exist_ok=True)
    return (folder / "local.json").read_bytes()


@pytest.mark.parametrize("content", [{"secret_key": "x"}, {"data": 1}, {"data": places.DATA_VERSION + 1}])
def test_other_data_stops_everything_with_one_sentence_and_stays_as_it_was(tmp_path: Path, monkeypatch, content):
    monkeypatch.setattr(places, "VAR", tmp_path)
    before = write_local(tmp_path, content)
    with pytest.raises(Stop) as stop:
        places.check_data()
    assert str(tmp_path) in str(stop.value)
    assert "nothing in it was changed" in str(stop.value)
    assert f"mv {tmp_path}" in str(stop.value)
    assert (tmp_path / "local.json").read_bytes() == before


@pytest.mark.parametrize("content", [None, {"data": places.DATA_VERSION}])
def test_no_data_and_our_own_go_on(tmp_path: Path, monkeypatch, content):
    monkeypatch.setattr(places, "VAR", tmp_path)
    if content:
        write_local(tmp_path, content)
    places.check_data()
    places.read_local()
    assert json.loads((tmp_path / "local.json").read_text())["data"] == places.DATA_VERSION
    places.check_data()
