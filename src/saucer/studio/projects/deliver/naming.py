"""Names of delivered files out of a template."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping

from saucer.studio.common.refusals import NotPossible

FIELDS = ("project", "code", "scene", "shot", "look", "version", "encoding", "delivery")
_FIELD = re.compile(r"\{([^{}]*)\}")
_TAKEN_BY_SYSTEMS = re.compile(r'[\x00-\x1f<>:"/\\|?*]+')
LONGEST = 120


def name_from(template: str, values: Mapping[str, str]) -> str:
    """A file's name without its ending, as every system takes it. Raises: NotPossible for a field that there is not"""
    unknown = [one for one in _FIELD.findall(template) if one not in FIELDS]
    if unknown:
        known = " ".join(f"{{{one}}}" for one in FIELDS)
        raise NotPossible(f"There is no {{{unknown[0]}}} in a name; use {known}.")
    if set("{}") & set(_FIELD.sub("", template)):
        raise NotPossible("A brace in the template stands alone; fields are written as {shot}.")
    text = _FIELD.sub(lambda found: values.get(found[1], ""), template)
    told = "".join(letter for letter in text if unicodedata.category(letter) not in ("Cc", "Cf"))  # direction marks too
    # What begins with one of these is a formula to a spreadsheet, and a switch to a command.
    plain = "_".join(_TAKEN_BY_SYSTEMS.sub("-", told).split()).strip(". _-").lstrip("=+@-")[:LONGEST]
    if not plain:
        raise NotPossible("The template gives a shot no name at all; put {shot} into it.")
    return plain


def check_distinct(names: Mapping[str, str]) -> None:
    """names: shot's code to file name. Raises: NotPossible naming two that would be called the same"""
    seen: dict[str, str] = {}
    for code, name in names.items():
        other = seen.setdefault(name.lower(), code)
        if other != code:
            raise NotPossible(f"{other} and {code} would both be called {name}; put {{scene}} or {{shot}} into the template.")
