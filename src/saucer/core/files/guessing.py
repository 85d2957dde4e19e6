"""What a LUT from elsewhere expects and gives: declared by its file, guessed with reasons, or not known and to be asked."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.lut.health import expects_log
from saucer.core.lut.table import Lut

How = Literal["declared", "guessed", "asked"]
_OURS = re.compile(r"expects ([a-z0-9.-]+), gives ([a-z0-9.-]+)", re.IGNORECASE)
_DESCRIPTOR = re.compile(r"^(Input|Output): (.+)$")
# Words that people put into names, beside the ids themselves. Common practice, no source.
_NAMES: tuple[tuple[re.Pattern[str], str], ...] = (
    (re.compile(r"s[\W_]?log[\W_]?3[\W_]*s?[\W_]?gamut[\W_]?3[\W_]?cine"), "s-log3-cine"),
    (re.compile(r"s[\W_]?log[\W_]?3"), "s-log3"),
    (re.compile(r"log[\W_]?c[\W_]?4"), "logc4"),
    (re.compile(r"log[\W_]?c[\W_]?3?(?!\d)"), "logc3-ei800"),
    (re.compile(r"v[\W_]?log"), "v-log"),
    (re.compile(r"log[\W_]?3[\W_]?g[\W_]?10"), "log3g10"),
    (re.compile(r"f[\W_]?log[\W_]?2"), "f-log2"),
    (re.compile(r"aces[\W_]?cct"), "acescct"),
    (re.compile(r"aces[\W_]?cc(?!t)"), "acescc"),
    (re.compile(r"aces[\W_]?cg"), "acescg"),
    (re.compile(r"aces[\W_]?2065"), "aces2065-1"),
    (re.compile(r"cineon|film[\W_]?log|printing[\W_]density"), "film-log"),
    (re.compile(r"\bhlg\b"), "hlg"),
    (re.compile(r"\bpq\b|st[\W_]?2084"), "pq"),
    (re.compile(r"dci[\W_]?p3|p3[\W_]?theat"), "p3-theatre"),
    (re.compile(r"display[\W_]?p3|p3[\W_]?d65"), "display-p3"),
    (re.compile(r"(?:rec|bt)[\W_]?2020"), "rec2020"),
    (re.compile(r"(?:rec|bt)[\W_]?709|r709|_709"), "rec709"),
    (re.compile(r"\bs[\W_]?rgb\b"), "srgb"),
    (re.compile(r"linear"), "linear-709"),
)
_TO = re.compile(r"\s(?:to|into|2)\s|_to_|[-_ ]2[-_ ]|(?<=\w)2(?=(?:rec|bt|709|srgb|p3))|->|>|→", re.IGNORECASE)


LOG_FROM = 0.5
"""The score of `expects_log` from which a LUT counts as one for log pictures."""


@dataclass(frozen=True)
class Guess:
    """expects and gives are ids of encodings; both are only suggestions where `how` is "asked". reason: a sentence."""

    expects: str
    gives: str
    how: How
    reason: str


_OF_AN_ID = frozenset("abcdefghijklmnopqrstuvwxyz0123456789-")


def _stands_alone(identity: str, text: str) -> bool:
    """Somewhere in the text, and not as a part of a longer id?"""
    at = text.find(identity)
    while at >= 0:
        before, after = text[at - 1 : at] if at else "", text[at + len(identity) : at + len(identity) + 1]
        if before not in _OF_AN_ID | {"."} and after not in _OF_AN_ID:
            return True
        at = text.find(identity, at + 1)
    return False


def _named(text: str, known: Iterable[str]) -> str:
    """The encoding that a text names first, by id or by a usual spelling."""
    low = text.lower()
    for identity in sorted(known, key=len, reverse=True):
        if _stands_alone(identity, low):
            return identity
    places = [(found.start(), -len(found[0]), identity) for pattern, identity in _NAMES if (found := pattern.search(low))]
    return min(places)[2] if places else ""


@dataclass(frozen=True)
class _Asked:
    """The LUT, the name of its file, and the ids of the encodings there are."""

    lut: Lut
    name: str
    known: Sequence[str]

    def first_in(self, text: str) -> str:
        return _named(text, self.known)


def _declared(asked: _Asked) -> Guess | None:
    """In our own words, as every file that we bake says it."""
    for comment in asked.lut.comments:
        found = _OURS.search(comment)
        if found and found[1].lower() in asked.known and found[2].lower() in asked.known:
            return Guess(found[1].lower(), found[2].lower(), "declared", f'The file says "{found[0]}".')
    return None


def _described(asked: _Asked) -> Guess | None:
    """By the descriptors of a ProcessList."""
    words = {found[1]: found[2] for comment in asked.lut.comments if (found := _DESCRIPTOR.match(comment))}
    into, out = (asked.first_in(words.get(side, "")) for side in ("Input", "Output"))
    if not into or not out:
        return None
    return Guess(
        into, out, "declared", f'The file describes its input as "{words["Input"]}" and its output as "{words["Output"]}".'
    )


def _from_to(asked: _Asked) -> Guess | None:
    """By a title, file name or comment of the form "this to that"."""
    for what, text in (("title", asked.lut.title), ("name", asked.name), *(("comment", one) for one in asked.lut.comments[:20])):
        parts = _TO.split(text, maxsplit=1)
        if len(parts) == 2:
            into, out = asked.first_in(parts[0]), asked.first_in(parts[1])
            if into and out:
                return Guess(into, out, "guessed", f'Its {what} "{text[:80]}" says so.')
    return None


def _named_once(asked: _Asked) -> Guess | None:
    """By a title or file name that names one encoding: what it expects, and what it gives too unless its curve renders log."""
    for what, text in (("title", asked.lut.title), ("name", asked.name)):
        only = asked.first_in(text)
        if only and ENCODINGS.get(only, ENCODINGS["srgb"]).referred == "scene" and expects_log(asked.lut) > LOG_FROM:
            words = f'Its {what} "{text[:80]}" names it, and its curve is that of a LUT that expects log.'
            return Guess(only, "rec709", "guessed", words)
        if only:
            return Guess(only, only, "guessed", f'Its {what} "{text[:80]}" names it.')
    return None


def _by_curve(asked: _Asked) -> Guess | None:
    if expects_log(asked.lut) <= LOG_FROM:
        return None
    words = "Its grey curve is as steep as one made for log pictures; which log, the file does not say."
    return Guess("film-log", "rec709", "asked", words)


STRATEGIES: tuple[Callable[[_Asked], Guess | None], ...] = (_declared, _described, _from_to, _named_once, _by_curve)
"""From what the file says for certain to what can only be asked."""


def guess(lut: Lut, name: str = "", own: Sequence[Encoding] = ()) -> Guess:
    """What the first strategy that knows anything says. own: the team's own encodings"""
    asked = _Asked(lut, name, [*ENCODINGS, *(one.id for one in own)])
    found = next((told for strategy in STRATEGIES if (told := strategy(asked)) is not None), None)
    return found or Guess("srgb", "srgb", "asked", "Nothing in the file says what it is for.")
