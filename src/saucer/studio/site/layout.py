"""The part of docs/layout.md that is made from the code: every folder and module with the first sentence of what it says of itself."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

from saucer.studio.common.local import ROOT

PAGE = ROOT / "docs" / "layout.md"
SOURCE = ROOT / "src" / "saucer"
BEGIN, END = "<!-- made by ./saucer generate -->\n", "<!-- until here -->\n"
SILENT = frozenset({"__init__", "__main__", "apps", "urls", "wsgi"})
"""Modules that every app or package has, for what their frameworks want."""
LEFT_OUT = frozenset({"migrations", "__pycache__"})


def layout_text() -> str:
    """The page as it stands, with that part made anew. Raises: ValueError naming modules that say nothing of themselves"""
    return put_in(PAGE.read_text(), "".join(_told(SOURCE, 0)))


def put_in(page: str, made: str) -> str:
    """A page with the part between the two marks in place of the one that stands there."""
    before, _, rest = page.partition(BEGIN)
    _, _, after = rest.partition(END)
    return f"{before}{BEGIN}\n{made}\n{END}{after}"


def first_sentence(path: Path) -> str:
    """Of a module's docstring; empty for none."""
    words = ast.get_docstring(ast.parse(path.read_text())) or ""
    return re.split(r"(?<=[.])\s", words.split("\n\n")[0].replace("\n", " "), maxsplit=1)[0].strip().rstrip(".")


def _told(folder: Path, depth: int) -> Iterator[str]:
    """A line for the folder, one for each of its modules, then those of its folders."""
    yield f"{'  ' * depth}- **{folder.name}/** {_said(folder / '__init__.py')}\n"
    for path in sorted(folder.glob("*.py")):
        if path.stem not in SILENT:
            yield f"{'  ' * (depth + 1)}- `{path.stem}` {_said(path)}\n"
    for inside in sorted(folder.iterdir()):
        if inside.is_dir() and inside.name not in LEFT_OUT and (inside / "__init__.py").exists():
            yield from _told(inside, depth + 1)


def _said(path: Path) -> str:
    words = first_sentence(path)
    if not words:
        raise ValueError(f"{path.relative_to(ROOT)} says nothing of itself: give it a docstring")
    return words
