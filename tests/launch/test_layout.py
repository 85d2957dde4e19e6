"""docs/layout.md says where things are: what it names is there, and every module says of itself what it is."""

from __future__ import annotations

import re

import pytest

from saucer.launch.places import ROOT
from saucer.studio.site import layout

PAGE = (ROOT / "docs" / "layout.md").read_text()
ANSWERS = re.findall(r"^\| .+ \| (.+) \|$", PAGE, re.MULTILINE)


def place_of(named: str):
    stem = named.replace("/NAME", "")
    return ROOT / stem if stem.startswith("web/") else ROOT / "src" / "saucer" / stem


def test_what_a_newcomer_asks_is_answered_by_places_that_are_there():
    named = [one for answer in ANSWERS for one in re.findall(r"`((?:core|studio|web)/[^`]+)`", answer)]
    assert len(ANSWERS) >= 10
    assert [one for one in named if not (place_of(one).is_dir() or place_of(one).with_suffix(".py").is_file())] == []


def test_every_folder_of_the_page_is_named():
    told = PAGE.partition("## The page")[2].partition("## ")[0]
    folders = [path for path in (ROOT / "web" / "src").glob("*/*") if path.is_dir()]
    missing = [path.name for path in folders if not re.search(rf"(?<![\w-]){path.name}/", told)]
    assert missing == []


def test_the_first_sentence_is_taken(tmp_path):
    (tmp_path / "a.py").write_text('"""What it is: of `x.cube`, and\nmore. Then the rest.\n\nAnd so on."""\n')
    assert layout.first_sentence(tmp_path / "a.py") == "What it is: of `x.cube`, and more"


def test_a_module_that_says_nothing_of_itself_is_an_error(tmp_path, monkeypatch):
    monkeypatch.setattr(layout, "ROOT", tmp_path)
    (tmp_path / "__init__.py").write_text('"""A folder."""')
    (tmp_path / "silent.py").write_text("x = 1\n")
    with pytest.raises(ValueError, match=r"silent\.py says nothing of itself"):
        list(layout._told(tmp_path, 0))
