"""Coverage-guided fuzzing. Needs the packages of requirements/fuzz.txt beside the development ones; see docs/fuzzing.md."""
