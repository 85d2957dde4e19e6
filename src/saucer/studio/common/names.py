"""Names as parts of file names."""

from __future__ import annotations


def file_stem(name: str, otherwise: str = "look") -> str:
    """Letters and digits in lower case with hyphens between, as every system takes them."""
    words = "".join(letter if letter.isalnum() else " " for letter in name).split()
    return "-".join(words).lower()[:80] or otherwise
