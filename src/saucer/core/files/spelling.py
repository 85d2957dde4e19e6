"""How people write encodings into names of files, titles and comments: every shipped one has its spellings, and words have edges.

Common practice, no source.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

_SPELLINGS: tuple[tuple[str, re.Pattern[str], bool], ...] = (
    ("s-log3-cine", re.compile(r"s ?log ?3 ?s ?gamut ?3 ?cine|s ?gamut ?3 ?cine ?s ?log ?3|s ?log ?3 ?cine"), True),
    ("s-log3", re.compile(r"(?:s ?gamut ?3 ?)?s ?log ?3(?: ?s ?gamut ?3)?"), True),
    ("s-log2", re.compile(r"(?:s ?gamut ?)?s ?log ?2(?: ?s ?gamut)?"), True),
    ("s-log", re.compile(r"(?:s ?gamut ?)?s ?log(?: ?s ?gamut)?"), False),
    ("logc4", re.compile(r"log ?c ?4"), True),
    ("logc3", re.compile(r"log ?c(?: ?3)?(?: ?(?:ei|iso) ?(?P<ei>1600|1280|1000|160|200|250|320|400|500|640|800))?"), True),
    ("v-log", re.compile(r"v ?log(?: ?v ?gamut)?"), True),
    ("log3g10", re.compile(r"log ?3 ?g ?10"), True),
    ("c-log2", re.compile(r"c ?log ?2"), True),
    ("c-log3", re.compile(r"c ?log ?3"), True),
    ("c-log", re.compile(r"c ?log"), False),
    ("d-log", re.compile(r"d ?log(?! ?m(?![a-z]))(?: ?d ?gamut)?"), True),
    ("n-log", re.compile(r"n ?log"), True),
    ("f-log2-c", re.compile(r"f ?log ?2 ?c"), True),
    ("f-log2", re.compile(r"f ?log ?2"), True),
    ("f-log", re.compile(r"f ?log"), False),
    ("film-log", re.compile(r"cineon|film ?log|print(?:ing)? ?density"), True),
    ("acescct", re.compile(r"aces ?cct"), True),
    ("acescc", re.compile(r"aces ?cc"), True),
    ("acescg", re.compile(r"aces ?cg"), True),
    ("aces2065-1", re.compile(r"aces ?2065(?: ?1)?|aces ?ap0"), True),
    ("hlg-p3", re.compile(r"hlg ?(?:display ?)?p3(?: ?d65)?|(?:display ?)?p3 ?(?:d65 ?)?hlg"), True),
    ("hlg", re.compile(r"(?:(?:rec|bt|r) ?(?:2020|2100) ?)?hlg"), True),
    (
        "pq-p3-1000",
        re.compile(
            r"(?:(?:pq|st ?2084) ?(?:display ?)?p3(?: ?d65)?|(?:display ?)?p3 ?(?:d65 ?)?(?:pq|st ?2084)) ?1000(?: ?nits?)?"
        ),
        True,
    ),
    (
        "pq-p3",
        re.compile(r"(?:pq|st ?2084) ?(?:display ?)?p3(?: ?d65)?|(?:display ?)?p3 ?(?:d65 ?)?(?:pq|st ?2084)"),
        True,
    ),
    ("pq-1000", re.compile(r"(?:(?:rec|bt|r) ?(?:2020|2100) ?)?(?:pq|st ?2084) ?1000(?: ?nits?)?"), True),
    ("pq", re.compile(r"(?:(?:rec|bt|r) ?(?:2020|2100) ?)?(?:pq|st ?2084)"), True),
    ("p3-theatre", re.compile(r"dci ?p3|p3 ?(?:dci|theat(?:re|er))"), True),
    ("p3-d65", re.compile(r"p3 ?d65"), True),
    ("display-p3", re.compile(r"display ?p3"), True),
    ("oprgb", re.compile(r"op ?rgb"), True),
    ("romm-rgb", re.compile(r"romm(?: ?rgb)?"), True),
    ("dcdm", re.compile(r"dcdm|(?:dci ?)?x'?y'?z'?"), True),
    ("linear-709", re.compile(r"(?:scene ?)?lin(?:ear)? ?(?:(?:rec|bt) ?)?709|(?:rec|bt) ?709 ?lin(?:ear)?"), True),
    ("linear-2020", re.compile(r"(?:scene ?)?lin(?:ear)? ?(?:(?:rec|bt) ?)?2020|(?:rec|bt) ?2020 ?lin(?:ear)?"), True),
    ("rec2020", re.compile(r"(?:rec|bt|r) ?2020"), True),
    ("rec709-camera", re.compile(r"(?:rec|bt) ?709 ?(?:camera|oetf)"), True),
    ("rec709", re.compile(r"(?:(?:rec|bt|itu|r|lc) ?)?709(?: ?a(?![a-z]))?"), True),
    ("gamma22-709", re.compile(r"(?:gamma ?2 ?2|g22)(?: ?709)?"), True),
    ("srgb", re.compile(r"s ?rgb"), True),
)
"""Id, how it is written where one space stands between words, and whether a 2 right behind it is "to": no other one has that name."""
_LINEAR = (("linear-709", re.compile(r"(?:scene ?)?lin(?:ear)?"), True),)
_HUMPS = re.compile(r"(?<=[a-z0-9])(?=[A-Z])")
_STUCK = re.compile(r"(?<=\d)to(?![a-z])|(?<=\d)to(?=rec|bt|709|s?rgb|p3|s?log)|(?<=[a-z\d])2(?=rec|bt|709|srgb|p3|hlg|pq|lin)")
_BETWEEN = re.compile(r"[^a-z0-9']+")
_ARROWS = ("->", ">", "→")
LONGEST = 400
"""Letters of a text that are looked at."""


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
    low = _plain(text)
    found = _places(low, _SPELLINGS, own)
    if found and (more := [one for one in _places(low, _LINEAR, ()) if _stands_apart(one, found)]):
        found = sorted([*found, *more], key=lambda one: one.start)
    named: list[Named] = []
    at = 0
    for one in found:
        between = low[at : one.start]
        if not named or named[-1].id != one.id:
            named.append(Named(one.id, one.start, one.end, _leads(between)))
        at = one.end
    return named, "to" if _leads(low[at:]) == "to" else ""


def _plain(text: str) -> str:
    """In small letters, words one space apart: where signs stand, where a capital follows, round a "to" that is stuck."""
    arrowed = _HUMPS.sub(" ", text[:LONGEST].replace("’", "'"))
    for arrow in _ARROWS:
        arrowed = arrowed.replace(arrow, " to ")
    return _BETWEEN.sub(" ", _STUCK.sub(" to ", arrowed.lower())).strip()


def _leads(between: str) -> str:
    words = set(between.split())
    return "to" if words & {"to", "into", "2"} else "from" if words & {"from", "of", "for"} else ""


def _places(low: str, spellings: Sequence[tuple[str, re.Pattern[str], bool]], own: Sequence[str]) -> list[Named]:
    """Whole words only; the longest where several begin at, or lie over, the same place."""
    every = []
    for id, pattern, or_2 in spellings:
        for match in pattern.finditer(low):
            if _is_whole(low, match.start(), match.end(), or_2):
                number = match.groupdict().get("ei") or "800"
                every.append(Named(f"logc3-ei{number}" if id == "logc3" else id, match.start(), match.end()))
    for id in own:
        written = _plain(id)
        at = low.find(written) if written else -1
        while at >= 0:
            if _is_whole(low, at, at + len(written), or_2=False):
                every.append(Named(id, at, at + len(written)))
            at = low.find(written, at + 1)
    taken: list[Named] = []
    for one in sorted(every, key=lambda one: (one.start - one.end, one.start)):
        if _stands_apart(one, taken):
            taken.append(one)
    return sorted(taken, key=lambda one: one.start)


def _is_whole(low: str, start: int, end: int, or_2: bool) -> bool:
    """or_2: a 2 that stands right behind it, and nothing more, is no part of the word"""
    before, after = low[start - 1 : start], low[end : end + 2]
    if before.isalnum() or before == "'":
        return False
    return not after[:1].isalnum() or (or_2 and after[:1] == "2" and not after[1:2].isalnum())


def _stands_apart(one: Named, others: Sequence[Named]) -> bool:
    return all(one.end <= other.start or one.start >= other.end for other in others)
