"""XML read without entities or document types, every element with the line it stands in."""

from __future__ import annotations

from codecs import BOM_UTF8 as BOM
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from typing import NoReturn
from xml.parsers import expat
from xml.sax.saxutils import escape, quoteattr

from saucer.core.errors import LutError
from saucer.core.files.lines import numbers

DEEPEST = 32
MOST_ELEMENTS = 20_000
HEAD = 65536
"""Bytes within which the first element of a file has to begin."""


@dataclass
class Element:
    """One element. text: its own character data; tags are without their namespace."""

    tag: str
    attributes: dict[str, str]
    line: int
    children: list[Element] = field(default_factory=list)
    text: str = ""
    text_line: int = 0

    def here(self, problem: str) -> LutError:
        return LutError(f"line {self.line}", f"{self.tag}: {problem}")

    def find(self, tag: str) -> Element | None:
        return next((one for one in self.children if one.tag == tag), None)

    def all(self, tag: str) -> Iterator[Element]:
        return (one for one in self.children if one.tag == tag)

    def need(self, tag: str) -> Element:
        found = self.find(tag)
        if found is None:
            raise self.here(f"has no {tag}")
        return found

    def words(self, tag: str) -> str:
        """The text of a child, on one line; empty without it."""
        found = self.find(tag)
        return " ".join(found.text.split()) if found else ""

    def numbers(self, count: int) -> tuple[float, ...]:
        """The numbers in its text. Raises: LutError with the line"""
        try:
            return numbers(self.text.split(), count, self.tag)
        except LutError as error:
            raise LutError(f"line {self.line}", error.problem) from None

    def number(self, name: str, otherwise: float | None = None) -> float | None:
        """An attribute as a number."""
        if name not in self.attributes:
            return otherwise
        try:
            return numbers([self.attributes[name]], 1, name)[0]
        except LutError as error:
            raise self.here(error.problem) from None


class _Found(Exception):
    """The first element has begun, or something that may not stand before it."""


def root_of(data: bytes) -> tuple[str, frozenset[str]]:
    """The name of the first element and those of its attributes, without namespaces; empty for what is no XML.

    Read by the parser up to there and no further: what stands before it costs its length once, whatever it is.
    """
    parser = expat.ParserCreate(namespace_separator=" ")
    found: list[tuple[str, frozenset[str]]] = []

    def start(name: str, attributes: dict[str, str]) -> NoReturn:
        found.append((name.rpartition(" ")[2], frozenset(key.rpartition(" ")[2] for key in attributes)))
        raise _Found

    def doctype(*_: object) -> NoReturn:
        raise _Found

    parser.StartElementHandler, parser.StartDoctypeDeclHandler = start, doctype
    with suppress(_Found, expat.ExpatError, ValueError, LookupError):
        parser.Parse(data[:HEAD].removeprefix(BOM).lstrip(), False)
    return found[0] if found else ("", frozenset())


class _Builder:
    def __init__(self) -> None:
        self.parser = expat.ParserCreate(namespace_separator=" ")
        self.parser.buffer_text, self.parser.buffer_size = True, 1 << 16
        self.parser.StartElementHandler, self.parser.EndElementHandler = self._start, self._end
        self.parser.CharacterDataHandler = self._data
        self.parser.StartDoctypeDeclHandler = self._doctype
        self.parser.ExternalEntityRefHandler = lambda *_: 0
        self.open: list[tuple[Element, list[str]]] = []
        self.root: Element | None = None
        self.count = 0

    @property
    def place(self) -> str:
        return f"line {self.parser.CurrentLineNumber}"

    def _doctype(self, *_: object) -> NoReturn:
        raise LutError(self.place, "a document type (DOCTYPE) is not allowed in a LUT file; remove it")

    def _start(self, name: str, attributes: dict[str, str]) -> None:
        self.count += 1
        if len(self.open) >= DEEPEST or self.count > MOST_ELEMENTS:
            raise LutError(self.place, "holds too many elements for a LUT file, or nests them too deeply")
        plain = {key.rpartition(" ")[2]: value for key, value in attributes.items()}
        element = Element(name.rpartition(" ")[2], plain, self.parser.CurrentLineNumber)
        if self.open:
            self.open[-1][0].children.append(element)
        else:
            self.root = element
        self.open.append((element, []))

    def _data(self, text: str) -> None:
        element, parts = self.open[-1]
        if not parts:
            # The parser hands text over when it meets what follows it.
            element.text_line = self.parser.CurrentLineNumber - text.count("\n")
        parts.append(text)

    def _end(self, _: str) -> None:
        element, parts = self.open.pop()
        element.text = "".join(parts)


def parse(data: bytes) -> Element:
    """Raises: LutError with the line for what is not well-formed, has a DOCTYPE, or too many elements"""
    builder = _Builder()
    try:
        builder.parser.Parse(data, True)
    except expat.ExpatError as error:
        raise LutError(f"line {error.lineno}", f"not well-formed XML: {expat.ErrorString(error.code)}") from None
    except (ValueError, LookupError):  # an encoding that is declared but unknown
        raise LutError("line 1", "declares a text encoding that is not known; save it as UTF-8") from None
    assert builder.root is not None
    return builder.root


def _clean(text: str) -> str:
    """Without what XML does not allow."""
    return "".join(letter if letter.isprintable() or letter == "\n" else " " for letter in text)


def element(tag: str, text: str = "", **attributes: object) -> str:
    """One element with text, as a line. Attributes of None are left out."""
    given = "".join(f" {name}={quoteattr(_clean(str(value)))}" for name, value in attributes.items() if value is not None)
    return f"<{tag}{given}>{escape(_clean(text))}</{tag}>" if text else f"<{tag}{given}/>"
