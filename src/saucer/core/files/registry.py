"""All LUT file formats there are, found by walking `formats/`; a file read by whichever knows it."""

from __future__ import annotations

import importlib
import pkgutil
from functools import lru_cache

from saucer.core.errors import LutError
from saucer.core.files import formats as formats_folder
from saucer.core.files.format import Format
from saucer.core.lut.table import Lut
from saucer.core.reading.room import ask
from saucer.core.reading.tasks import reads


@lru_cache(maxsize=1)
def formats() -> dict[str, Format]:
    """Every module of `formats/` that defines FORMAT, by id. Raises RuntimeError when two claim the same id."""
    found: dict[str, Format] = {}
    for info in pkgutil.iter_modules(formats_folder.__path__):
        module = importlib.import_module(f"{formats_folder.__name__}.{info.name}")
        form = getattr(module, "FORMAT", None)
        if form is None:
            continue
        if form.id in found:
            raise RuntimeError(f'LUT format "{form.id}" is registered twice, the second time by {module.__name__}')
        found[form.id] = form
    return found


def format_for(path: str, chosen: str | None = None) -> Format:
    """The format with the id `chosen`, else the one with the suffix of `path`. Raises: LutError listing what there is."""
    for form in formats().values():
        if form.id == chosen or (chosen is None and path.lower().endswith(form.suffixes)):
            return form
    known = ", ".join(f"{form.id} ({' '.join(form.suffixes)})" for form in formats().values())
    raise LutError(path, f"no LUT format for this {'name' if chosen is None else 'choice'}; Saucer writes {known}")


def read_lut(data: bytes, name: str) -> tuple[Lut, Format]:
    """Recognise a LUT file by its content and read it, in a reader's process. Raises: LutError whose place begins with `name`."""
    lut, form = ask(parse_lut, data, name, place=name)
    return lut, formats()[form]


@reads("lut", LutError)
def parse_lut(data: bytes, name: str) -> tuple[Lut, str]:
    """As `read_lut`, with the format's id."""
    if not data.strip():
        raise LutError(name, "the file is empty")
    for form in formats().values():
        if form.sniff(data):
            try:
                return form.read(data), form.id
            except LutError as error:
                raise error.within(name) from None
    known = ", ".join(sorted({suffix for form in formats().values() for suffix in form.suffixes}))
    raise LutError(name, f"not a LUT file that Saucer reads (it reads {known}), going by its content")
