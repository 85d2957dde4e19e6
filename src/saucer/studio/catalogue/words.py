"""How long what people say of an entry may be, and between which days a date lies: the same for the API, for packs and in the database."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import Field

LONGEST = {
    "name": 120,
    "author": 120,
    "note": 2000,
    "category": 200,
    "source": 300,
    "licence": 200,
    "tag": 40,
    "version note": 1000,
}
FIRST_DAY, LAST_DAY = date(1970, 1, 1), date(2200, 12, 31)

Name = Annotated[str, Field(max_length=LONGEST["name"])]
Author = Annotated[str, Field(max_length=LONGEST["author"])]
Note = Annotated[str, Field(max_length=LONGEST["note"])]
CategoryPath = Annotated[str, Field(max_length=LONGEST["category"])]
Source = Annotated[str, Field(max_length=LONGEST["source"])]
Licence = Annotated[str, Field(max_length=LONGEST["licence"])]
TagName = Annotated[str, Field(max_length=LONGEST["tag"])]
VersionNote = Annotated[str, Field(max_length=LONGEST["version note"])]
Until = Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)]

ALSO_SAID = {
    "quiet": "muted", "quieter": "muted", "pale": "muted", "desaturated": "muted", "richer": "rich", "saturated": "rich",
    "colourful": "rich", "softer": "soft", "flat": "soft", "harder": "hard", "contrasty": "hard", "warmer": "warm", "golden": "warm",
    "cooler": "cool", "cold": "cool", "darker": "dark", "brighter": "bright", "mono": "monochrome", "grey": "monochrome",
    "washed": "faded",
}  # fmt: skip
"""What people type for a word that `core.reports.character` says; the orders of the wall among them. Common practice, no source."""
