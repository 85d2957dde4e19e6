"""What a LUT from elsewhere expects and gives: declared by its file, guessed with reasons, or not known and to be asked."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.files.spelling import Named, find_names
from saucer.core.lut.apply import apply_lut
from saucer.core.lut.table import Lut

How = Literal["declared", "guessed", "asked"]
_OURS = re.compile(r"expects ([a-z0-9.-]+), gives ([a-z0-9.-]+)", re.IGNORECASE)
_DESCRIPTOR = re.compile(r"^(Input|Output): (.+)$")


REACHED, STEEP, WHITE_BY = 0.07, 1.6, 0.89
"""A curve made for log: 3 % of its range is reached so far in, its steepest slope, and where 90 % are. Every shipped log's ways to Rec.709,
also with black raised and white lowered by 7 %, are within; looks of moderate contrast for display pictures are not."""


@dataclass(frozen=True)
class Guess:
    """expects and gives are ids of encodings; both are only suggestions where `how` is "asked". reason: a sentence."""

    expects: str
    gives: str
    how: How
    reason: str


@dataclass(frozen=True)
class _Asked:
    """The LUT, the name of its file, and the ids of the encodings there are."""

    lut: Lut
    name: str
    known: Sequence[str]

    def names_in(self, text: str) -> tuple[list[Named], str]:
        return find_names(text, [id for id in self.known if id not in ENCODINGS])

    def first_in(self, text: str) -> str:
        low = text.strip().lower()
        names = self.names_in(text)[0]
        return low if low in self.known else names[0].id if names else ""

    @cached_property
    def acts_on_log(self) -> bool:
        """By its grey curve alone, whatever its black and white: black long after 0, steep from there, white long before 1."""
        x = np.linspace(0, 1, 257, dtype=np.float32)
        ramp = np.clip(apply_lut(self.lut, np.repeat(x[:, None], 3, axis=1)).astype(np.float64).mean(axis=1), 0, 1)
        ramp = np.maximum.accumulate(ramp)
        risen = (ramp - ramp[0]) / max(ramp[-1] - ramp[0], 1e-3)
        low, high = (float(x[int(np.argmax(risen >= share))]) for share in (0.03, 0.9))
        return bool(low >= REACHED and high <= WHITE_BY and np.gradient(risen, x).max() >= STEEP)

    def is_log(self, id: str) -> bool:
        one = ENCODINGS.get(id)
        return one is not None and one.referred == "scene" and not one.linear and id not in ("hlg", "hlg-p3", "rec709-camera")

    def is_shown(self, id: str) -> bool:
        return ENCODINGS.get(id, ENCODINGS["srgb"]).referred == "display"


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


def _by_names(asked: _Asked) -> Guess | None:
    """By what the title, the name of the file or a comment names, the first that names two encodings, else the first that names one."""
    texts = [("title", asked.lut.title), ("name", asked.name), *(("comment", one) for one in asked.lut.comments[:20])]
    read = [(what, text, *asked.names_in(text)) for what, text in texts]
    for what, text, names, _ in read:
        if len(names) > 1:
            return _of_two(asked, names, f'Its {what} "{text[:80]}"')
    for what, text, names, then in read[:2]:
        if names:
            return _of_one(asked, names[0], then, f'Its {what} "{text[:80]}"')
    return None


def _of_two(asked: _Asked, names: Sequence[Named], says: str) -> Guess:
    first, last = names[0].id, names[-1].id
    ways = [one.before for one in names[1:]]
    if "to" in ways:
        return _weigh(asked, first, names[1 + ways.index("to")].id, f"{says} says so.")
    if ways[-1] == "from":
        return _weigh(asked, last, first, f"{says} says so.")
    if len(names) == 2 and not asked.is_shown(first) and asked.is_shown(last):
        return _weigh(asked, first, last, f"{says} names them in this order.")
    into, out = (last, first) if asked.is_shown(first) and not asked.is_shown(last) else (first, last)
    return Guess(into, out, "asked", f"{says} names both, but not which way it goes.")


def _of_one(asked: _Asked, named: Named, then: str, says: str) -> Guess:
    """What it expects, and gives too unless its curve renders log; or only what it gives."""
    if named.before == "to":
        into = "film-log" if asked.acts_on_log else named.id
        return Guess(into, named.id, "asked", f"{says} says what it gives; what it expects it does not say.")
    if asked.is_log(named.id) and asked.acts_on_log:
        return Guess(named.id, "rec709", "guessed", f"{says} names it, and its curve is that of a LUT that expects log.")
    if then == "to":
        return Guess(named.id, named.id, "asked", f"{says} says what it expects; what it gives it does not say.")
    if asked.is_shown(named.id) and asked.acts_on_log:
        words = f"{says} names what it gives, or both; its grey curve is as steep as one made for log pictures."
        return Guess("film-log", named.id, "asked", words)
    return Guess(named.id, named.id, "guessed", f"{says} names it.")


def _weigh(asked: _Asked, into: str, out: str, says: str) -> Guess:
    """What a name says, against the grey curve: where they contradict each other a person has to say it."""
    if asked.is_log(into) and asked.is_shown(out) and not asked.acts_on_log:
        return Guess(into, out, "asked", f"{says} But its grey curve is not as steep as that of a LUT that expects log.")
    if asked.is_shown(into) and asked.is_shown(out) and asked.acts_on_log:
        return Guess(into, out, "asked", f"{says} But its grey curve is as steep as that of a LUT that expects log.")
    return Guess(into, out, "guessed", says)


def _by_curve(asked: _Asked) -> Guess | None:
    if not asked.acts_on_log:
        return None
    words = "Its grey curve is as steep as one made for log pictures; which log, the file does not say."
    return Guess("film-log", "rec709", "asked", words)


STRATEGIES: tuple[Callable[[_Asked], Guess | None], ...] = (_declared, _described, _by_names, _by_curve)
"""From what the file says for certain to what can only be asked."""


def guess(lut: Lut, name: str = "", own: Sequence[Encoding] = ()) -> Guess:
    """What the first strategy that knows anything says. own: the team's own encodings"""
    asked = _Asked(lut, name, [*ENCODINGS, *(one.id for one in own)])
    found = next((told for strategy in STRATEGIES if (told := strategy(asked)) is not None), None)
    return found or Guess("srgb", "srgb", "asked", "Nothing in the file says what it is for.")
