"""The command line without a server. A module of this folder that has `add` is a command.

Exit 0: done; 1: the input is bad, one line on stderr, no output file; 2: wrong usage, or what the command itself says.
"""

from __future__ import annotations

import argparse
import contextlib
import importlib
import os
import pkgutil
import signal
import sys
from collections.abc import Iterator, Sequence
from pathlib import Path

import shtab

from saucer.core import commands as folder
from saucer.core.errors import SaucerError
from saucer.core.reading.processes import warm_up


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="saucer", description="Colour looks and LUTs without a server.")
    commands = parser.add_subparsers(dest="command", required=True)
    for info in pkgutil.iter_modules(folder.__path__):
        add = getattr(importlib.import_module(f"{folder.__name__}.{info.name}"), "add", None)
        if add is not None:
            add(commands)
    shtab.add_argument_to(parser, ["--print-completion"], help="the script by which a shell completes these words")
    for one in commands.choices.values():
        _complete_files(one)
    return parser


def _complete_files(parser: argparse.ArgumentParser) -> None:
    for action in parser._actions:
        if action.type is Path:
            action.complete = shtab.FILE  # type: ignore[attr-defined]
        for inner in action.choices.values() if isinstance(action, argparse._SubParsersAction) else ():
            _complete_files(inner)


@contextlib.contextmanager
def _quiet_libraries() -> Iterator[None]:
    """Picture libraries print their own complaints to file descriptor 2; ours is the one line that a person should read, and progress."""
    said = sys.stderr
    said.flush()
    kept = os.dup(2)
    nowhere = os.open(os.devnull, os.O_WRONLY)
    try:
        os.dup2(nowhere, 2)
        if said is sys.__stderr__:
            sys.stderr = os.fdopen(kept, "w", buffering=1, closefd=False)
        yield
    finally:
        sys.stderr = said
        os.dup2(kept, 2)
        os.close(kept)
        os.close(nowhere)


def main(arguments: Sequence[str] | None = None) -> int:
    signal.signal(signal.SIGPIPE, signal.SIG_DFL)  # ending quietly when `| head` has read enough, as other commands do
    if not {"-h", "--help"} & set(sys.argv[1:] if arguments is None else arguments):
        warm_up()
    given = _parser().parse_args(arguments)
    problem: SaucerError | None = None
    code = 0
    with _quiet_libraries():
        try:
            code = given.run(given) or 0
        except SaucerError as error:
            problem = error
    if problem is not None:
        print(f"saucer: {problem}", file=sys.stderr)
    return code if problem is None else 1


if __name__ == "__main__":
    raise SystemExit(main())
