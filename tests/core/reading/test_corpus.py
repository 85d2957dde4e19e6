"""What fuzzing kept of each reader (`fuzz/corpus`), and a small good file of every format: read, or refused in words."""

from __future__ import annotations

import pytest
from fuzz import CORPUS
from fuzz.readers import READERS, seeds

from saucer.core.reading import reader


@pytest.fixture(autouse=True)
def in_this_process(monkeypatch) -> None:
    """Where an exception that is no refusal is seen."""
    monkeypatch.setattr(reader, "inside", True)


@pytest.mark.parametrize("kind", READERS)
def test_what_reached_something_new_once_does_no_harm(kind):
    kept = sorted((CORPUS / kind).iterdir())
    taken = [READERS[kind](path.read_bytes()) for path in kept]
    assert len(taken) > 10
    assert len(set(taken)) > 1 or kind == "profile", "one that cannot be used is none"


@pytest.mark.parametrize("kind", READERS)
def test_a_fuzzer_begins_with_good_files(kind):
    assert "refused" not in [READERS[kind](data) for data in seeds(kind)]
