"""The one error family of the core. Each message says where, what is wrong with which value, and what to do."""

from __future__ import annotations


class SaucerError(Exception):
    """Something a person gave cannot be used. `str(error)` is fit to be shown to that person as it stands.

    place: the file, field or line it is about, e.g. "harbour.cube, line 214" or "steps[2].red[1]"; may be empty
    problem: what is wrong, with the value, and what would be right
    """

    def __init__(self, place: str, problem: str) -> None:
        self.place, self.problem = place, problem
        super().__init__(f"{place}: {problem}" if place else problem)

    def within(self, outer: str) -> SaucerError:
        """The same error, its place set inside a larger one (a file name before a line)."""
        return type(self)(", ".join(filter(None, (outer, self.place))), self.problem)


class LookError(SaucerError):
    """A look, step or parameter that is not allowed."""


class LutError(SaucerError):
    """A LUT file or table that cannot be read, held or written."""


class PictureError(SaucerError):
    """A picture that cannot be read, is too large, or cannot be written."""


class EncodingError(SaucerError):
    """An encoding that does not exist, or a conversion that is not possible."""


class ShapeError(SaucerError):
    """An array of the wrong shape or type was handed to the computation."""
