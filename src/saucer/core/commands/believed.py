"""What a picture or clip is read in: what it says of itself, told; what the person says goes before it."""

from __future__ import annotations

import sys
from dataclasses import dataclass, field
from pathlib import Path

from tqdm import tqdm

from saucer.core.clips.coding import ClipInfo
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.own import encodings_of
from saucer.core.pictures.stated import Stated, stated_encoding

WAY_OUT = "--picture-encoding says otherwise"


@dataclass(frozen=True)
class Believed:
    """named: what the person says, none where they say nothing; assumed: for files that say nothing either

    aside: is it told on standard error, as standard output is what another program reads?
    """

    named: Encoding | None
    assumed: Encoding
    aside: bool = False
    told: set[str] = field(default_factory=set)
    """What was said of a file already is not said of each frame after it."""

    def of_picture(self, path: Path) -> Encoding:
        said = stated_encoding(path)
        if said is not None and said.left_out:
            self.tell(path.name, said.left_out)
        if said is None or not said.words:
            return self.named or self.assumed
        return self._weigh(path.name, _meant(said), f"its {said.words}", "s")

    def of_clip(self, path: Path, info: ClipInfo) -> Encoding:
        if info.encoding_from == "file":
            return self._weigh(path.name, ENCODINGS[info.encoding], "its tags", "")
        if self.named is None:
            self.tell(path.name, f"does not say what it is in; it is read as {self.assumed.id} ({WAY_OUT})")
        return self.named or self.assumed

    def _weigh(self, name: str, meant: Encoding | None, source: str, s: str) -> Encoding:
        """meant: by what the file says, none where that is no encoding that Saucer can read; source: who says so; s: of one"""
        if meant is None:
            used = self.named or self.assumed
            self.tell(name, f"what {source} mean{s} is none that Saucer knows; it is read as {used.id}")
            return used
        if self.named is not None and self.named != meant:
            self.tell(name, f"{source} mean{s} {meant.id}; it is read as {self.named.id}, as --picture-encoding says")
            return self.named
        if meant != self.assumed:
            self.tell(name, f"read as {meant.id}, as {source} say{s} ({WAY_OUT})")
        return meant

    def tell(self, name: str, words: str) -> None:
        if words not in self.told:
            self.told.add(words)
            tqdm.write(f"{name}: {words}", file=sys.stderr if self.aside else None)


def _meant(said: Stated) -> Encoding | None:
    if said.encoding:
        return ENCODINGS[said.encoding]
    return encodings_of((said.own,))[said.own.id] if said.own is not None else None
