"""How people write encodings into names of files, titles and comments: every shipped one has its spellings, and words have edges.

Common practice, no source.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

_S = r"[\W_]*"
_BEGIN, _END = r"(?<![a-z0-9'’])", r"(?![a-z0-9])"
_END_OR_2 = r"(?:(?![a-z0-9])|(?=2(?![a-z0-9])))"
"""Of what has no second generation: a 2 right behind it is "to"."""
_PQ = rf"(?:pq|(?:smpte{_S})?st{_S}2084)"
_P3 = rf"(?:display{_S})?p3(?:{_S}d65)?"
_2020 = rf"(?:(?:rec|bt|r){_S}(?:2020|2100){_S})?"
_EI = rf"(?:{_S}(?:ei|iso){_S}(?P<ei>160|200|250|320|400|500|640|800|1000|1280|1600))?"

# Id, how it is written, and whether there is another one with a 2 behind the same name.
_SPELLINGS: tuple[tuple[str, str, bool], ...] = (
    (
        "s-log3-cine",
        rf"s{_S}log{_S}3{_S}s?{_S}gamut{_S}3{_S}cine|s{_S}gamut{_S}3{_S}cine{_S}s{_S}log{_S}3|s{_S}log{_S}3{_S}cine",
        False,
    ),
    ("s-log3", rf"(?:s{_S}gamut{_S}3{_S})?s{_S}log{_S}3(?:{_S}s{_S}gamut{_S}3)?", False),
    ("s-log2", rf"(?:s{_S}gamut{_S})?s{_S}log{_S}2(?:{_S}s{_S}gamut)?", False),
    ("s-log", rf"(?:s{_S}gamut{_S})?s{_S}log(?:{_S}s{_S}gamut)?", True),
    ("logc4", rf"log{_S}c{_S}4", False),
    ("logc3", rf"log{_S}c(?:{_S}3)?{_EI}", False),
    ("v-log", rf"v{_S}log(?:{_S}v{_S}gamut)?", False),
    ("log3g10", rf"log{_S}3{_S}g{_S}10", False),
    ("c-log2", rf"c{_S}log{_S}2", False),
    ("c-log3", rf"c{_S}log{_S}3", False),
    ("c-log", rf"c{_S}log", True),
    ("d-log", rf"d{_S}log(?!{_S}m(?![a-z]))(?:{_S}d{_S}gamut)?", False),
    ("n-log", rf"n{_S}log", False),
    ("f-log2-c", rf"f{_S}log{_S}2{_S}c", False),
    ("f-log2", rf"f{_S}log{_S}2", False),
    ("f-log", rf"f{_S}log", True),
    ("film-log", rf"cineon|film{_S}log|print(?:ing)?{_S}density", False),
    ("acescct", rf"aces{_S}cct", False),
    ("acescc", rf"aces{_S}cc", False),
    ("acescg", rf"aces{_S}cg", False),
    ("aces2065-1", rf"aces{_S}2065(?:{_S}1)?|aces{_S}ap0", False),
    ("hlg-p3", rf"hlg{_S}{_P3}|{_P3}{_S}hlg", False),
    ("hlg", rf"{_2020}hlg", False),
    ("pq-p3-1000", rf"(?:{_PQ}{_S}{_P3}|{_P3}{_S}{_PQ}){_S}1000{_S}(?:nits?)?", False),
    ("pq-p3", rf"{_PQ}{_S}{_P3}|{_P3}{_S}{_PQ}", False),
    ("pq-1000", rf"{_2020}{_PQ}{_S}1000{_S}(?:nits?)?", False),
    ("pq", rf"{_2020}{_PQ}", False),
    ("p3-theatre", rf"dci{_S}p3|p3{_S}(?:dci|theat(?:re|er))", False),
    ("p3-d65", rf"p3{_S}d65", False),
    ("display-p3", rf"display{_S}p3", False),
    ("oprgb", rf"op{_S}rgb", False),
    ("romm-rgb", rf"romm(?:{_S}rgb)?", False),
    ("dcdm", rf"dcdm|(?:dci{_S})?x'?{_S}y'?{_S}z'?", False),
    ("linear-709", rf"(?:scene{_S})?lin(?:ear)?{_S}(?:(?:rec|bt){_S})?709|(?:rec|bt){_S}709{_S}lin(?:ear)?", False),
    ("linear-2020", rf"(?:scene{_S})?lin(?:ear)?{_S}(?:(?:rec|bt){_S})?2020|(?:rec|bt){_S}2020{_S}lin(?:ear)?", False),
    ("rec2020", rf"(?:rec|bt|r){_S}2020", False),
    ("rec709-camera", rf"(?:rec|bt){_S}709{_S}(?:camera|oetf)", False),
    ("rec709", rf"(?:rec|bt|itu|r|lc)?{_S}709(?:{_S}a)?", False),
    ("gamma22-709", rf"(?:gamma{_S}2{_S}2|g22)(?:{_S}709)?", False),
    ("srgb", rf"s{_S}rgb", False),
)
_WRITTEN = tuple((id, re.compile(_BEGIN + f"(?:{one})" + (_END if more else _END_OR_2))) for id, one, more in _SPELLINGS)
_LINEAR = re.compile(_BEGIN + rf"(?:scene{_S})?lin(?:ear)?" + _END_OR_2)
_TO = re.compile(r"(?:^|[\W_])(?:to|into|2)(?:$|[\W_])|->|>|→")
_FROM = re.compile(r"(?:^|[\W_])(?:from|of|for)(?:$|[\W_])")
_HUMPS = re.compile(r"(?<=[a-z0-9])(?=[A-Z])")
_STUCK = re.compile(r"(?<=\d)to(?![a-z])|(?<=\d)to(?=rec|bt|709|s?rgb|p3|s?log)|(?<=[a-z\d])2(?=rec|bt|709|srgb|p3|hlg|pq|lin)")


@dataclass(frozen=True)
class Named:
    """An encoding that a text names. before: how what stands before it leads to it: "to", "from", or nothing of both"""

    id: str
    start: int
    end: int
    before: str = ""


def find_names(text: str, own: Sequence[str] = ()) -> tuple[list[Named], str]:
    """The encodings that a text names, in its order, one that comes twice in a row once; and what follows the last: "to" or "".

    own: ids beside the shipped ones. "Linear" by itself counts only beside another name: it is a word of many titles
    """
    low = _STUCK.sub(" to ", _HUMPS.sub(" ", text).lower())
    found = _places(low, [*_WRITTEN, *((id, re.compile(rf"(?<![a-z0-9.-]){re.escape(id)}(?![a-z0-9-])")) for id in own)])
    if found and (more := [one for one in _places(low, [("linear-709", _LINEAR)]) if _stands_apart(one, found)]):
        found = sorted([*found, *more], key=lambda one: one.start)
    named: list[Named] = []
    at = 0
    for one in found:
        between = low[at : one.start]
        if not named or named[-1].id != one.id:
            named.append(Named(one.id, one.start, one.end, _leads(between)))
        at = one.end
    return named, "to" if _TO.search(low[at:]) else ""


def _leads(between: str) -> str:
    return "to" if _TO.search(between) else "from" if _FROM.search(between) else ""


def _places(low: str, spellings: Sequence[tuple[str, re.Pattern[str]]]) -> list[Named]:
    """The longest where several begin at, or lie over, the same place."""
    every = []
    for id, pattern in spellings:
        for match in pattern.finditer(low):
            number = match.groupdict().get("ei") or "800"
            every.append(Named(f"logc3-ei{number}" if id == "logc3" else id, match.start(), match.end()))
    taken: list[Named] = []
    for one in sorted(every, key=lambda one: (one.start - one.end, one.start)):
        if _stands_apart(one, taken):
            taken.append(one)
    return sorted(taken, key=lambda one: one.start)


def _stands_apart(one: Named, others: Sequence[Named]) -> bool:
    return all(one.end <= other.start or one.start >= other.end for other in others)
