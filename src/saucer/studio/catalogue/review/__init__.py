"""Review of versions: pins, and what is decided."""
