"""What became of a change of shots, as it is told to the browser."""

from __future__ import annotations

from ninja import Schema

from saucer.studio.projects.changes import Done


class DoneOut(Schema):
    """undo: by which it is taken back, null where nothing was changed; left: codes of shots that somebody has changed since"""

    count: int
    undo: int | None
    left: list[str]


def tell_done(done: Done) -> DoneOut:
    return DoneOut(count=done.count, undo=done.undo, left=list(done.left))
