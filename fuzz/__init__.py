"""Coverage-guided fuzzing. Needs the packages of requirements/fuzz.txt beside the development ones; see docs/fuzzing.md."""

from pathlib import Path

CORPUS = Path(__file__).parent / "corpus"
"""What is kept of each kind's fuzzing, a folder each."""
