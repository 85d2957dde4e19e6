"""`remote add | list | remove | find | pull | push | apply | deliver`. Exit 0: done; 1: it could not be, in one line; 2: wrong usage."""

from __future__ import annotations

import argparse
import getpass
import sys
import tempfile
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from saucer.core.commands import main as core
from saucer.core.commands.files import write_bytes
from saucer.core.errors import SaucerError
from saucer.core.files.registry import formats
from saucer.remote import delivering, kept
from saucer.remote.calls import ask, call, send, send_file
from saucer.remote.kept import Remote

LOOK, LUT = "look", "lut"
MOST = 500


def _add(given: argparse.Namespace) -> None:
    url = kept.check_url(given.url)
    token = kept.read_token(given.token_file) if given.token_file else _ask_token()
    remote = Remote(url, token)
    ask(remote, "/shelf/entries", size=1)  # a token that opens nothing is not kept
    kept.save(kept.load() | {given.name: remote})
    print(f"{given.name} is {url}.")


def _ask_token() -> str:
    if sys.stdin.isatty():
        return getpass.getpass("Token: ").strip()
    token = sys.stdin.readline().strip()
    if not token:
        raise SaucerError("remote add", "type the token, or name a file of mode 600 with --token-file")
    return token


def _list(given: argparse.Namespace) -> None:
    for name, remote in sorted(kept.load().items()):
        print(f"{name}\t{remote.url}")


def _remove(given: argparse.Namespace) -> None:
    remotes = kept.load()
    if given.name not in remotes:
        raise SaucerError(given.name, "is no server that is known")
    kept.save({name: one for name, one in remotes.items() if name != given.name})


def _find(given: argparse.Namespace) -> None:
    for one in _found(kept.choose(given.remote), " ".join(given.words), given.kind, given.most, given.published):
        print(f"{one['kind']}\t{one['id']}\t{one['state']}\t{one['name']}")


def _found(remote: Remote, words: str, kind: str, most: int, published: bool) -> list[dict[str, Any]]:
    entries: list[dict[str, Any]] = []
    cursor: str | None = ""
    while cursor is not None and len(entries) < most:
        state = "published" if published else ""
        page = ask(remote, "/shelf/entries", q=words, kind=kind, in_state=state, cursor=cursor, size=min(100, most - len(entries)))
        entries += page["entries"]
        cursor = page["cursor"] or None
    return entries[:most]


def _named(remote: Remote, name: str) -> dict[str, Any]:
    """An entry by its number or its name. Raises: SaucerError"""
    if name.isdigit():
        found = ask(remote, "/shelf/entries/chosen", entry=name)
    else:
        found = [one for one in _found(remote, name, "", 50, published=False) if one["name"].casefold() == name.casefold()]
    found = [one for one in found if one["kind"] in (LOOK, LUT)]
    if not found:
        raise SaucerError(name, f'is no look or LUT there; try: saucer remote find "{name}"')
    if len(found) > 1:
        raise SaucerError(name, f"there are several: say the number, {', '.join(str(one['id']) for one in found)}")
    return dict(found[0])


def _pull(given: argparse.Namespace) -> None:
    remote = kept.choose(given.remote)
    for name in given.names:
        entry = _named(remote, name)
        target = (
            given.output
            if given.output and not given.output.is_dir()
            else (given.output or Path()) / _file_name(entry, given.format)
        )
        _fetch(remote, entry, target, given)
        print(target)


def _file_name(entry: dict[str, Any], form: str) -> str:
    """Safe wherever it is put."""
    stem = "".join(letter if letter.isalnum() or letter in " -_.,()+" else "_" for letter in entry["name"]).strip(". ") or str(
        entry["id"]
    )
    return f"{stem}{formats()[form].suffix if form else '.zip'}"


def _fetch(remote: Remote, entry: dict[str, Any], target: Path, given: argparse.Namespace) -> None:
    """A look is baked here, from its recipe; a LUT is taken as it is, or converted here. Raises: SaucerError"""
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder)
        if entry["kind"] == LOOK:
            data = call(remote, f"/looks/{entry['id']}/bundle.zip")
            if not given.format:
                write_bytes(data, target)
                return
            bundle = source / "look.zip"
            bundle.write_bytes(data)
            words = [
                "bake",
                str(bundle),
                "-o",
                str(target),
                "--size",
                str(given.size),
                "--format",
                given.format,
                "--title",
                entry["name"],
            ]
        else:
            file = _best_file(ask(remote, f"/luts/{entry['id']}"), given.format)
            data = call(remote, f"/lut-files/{file['id']}")
            if file["format"] == given.format or not given.format:
                write_bytes(data, target)
                return
            original = source / f"one{formats()[file['format']].suffix}"
            original.write_bytes(data)
            words = ["convert", str(original), str(target), "--format", given.format]
        if core.main(words):
            raise SaucerError(entry["name"], "could not be made into this format")


def _best_file(lut: dict[str, Any], form: str) -> dict[str, Any]:
    """One in this format, or the largest. Raises: SaucerError"""
    files = lut["files"]
    if not files:
        raise SaucerError(lut["name"], "has no file")
    return dict(next((one for one in files if one["format"] == form), max(files, key=lambda one: one["size"])))


def _apply(given: argparse.Namespace) -> None:
    """A look of the server's, or a LUT, on pictures and clips here: worked out here, by the same core. Raises: SaucerError"""
    remote = kept.choose(given.remote)
    entry = _named(remote, given.name)
    with tempfile.TemporaryDirectory() as folder:
        if entry["kind"] == LOOK:
            source, data = Path(folder) / "look.zip", call(remote, f"/looks/{entry['id']}/bundle.zip")
        else:
            file = _best_file(ask(remote, f"/luts/{entry['id']}"), "")
            source = Path(folder) / f"lut{formats()[file['format']].suffix}"
            data = call(remote, f"/lut-files/{file['id']}")
        source.write_bytes(data)
        if status := core.main(["apply", str(source), *given.rest]):
            raise Ended(status)


class Ended(Exception):
    """The core has said what was wrong. status: to end with"""

    def __init__(self, status: int) -> None:
        super().__init__(status)
        self.status = status


def _push(given: argparse.Namespace) -> None:
    """One after the other; what could not be brought in is named, and the others are."""
    remote = kept.choose(given.remote)
    problems = []
    for path in given.files:
        try:
            made = send_file(remote, "/luts", path)
            if given.category:
                send(remote, "PATCH", f"/catalogue/lut/{made['id']}", {"category": given.category})
            print(f"{made['id']}\t{made['name']}")
        except SaucerError as error:
            problems.append(str(error) if path.name in str(error) else f"{path.name}: {error}")
    if problems:
        raise SaucerError("", "; ".join(problems))


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="saucer remote", description="A studio's server from the command line, by a token.")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")

    def command(name: str, run: Callable[[argparse.Namespace], None], words: str) -> argparse.ArgumentParser:
        made = commands.add_parser(name, help=words, description=words)
        made.set_defaults(run=run)
        return made

    add = command("add", _add, "know a server by a name; the token is typed, read from standard input, or from a file")
    add.add_argument("name")
    add.add_argument("url", help="https://studio.example")
    add.add_argument("--token-file", type=Path, help="of mode 600")
    command("list", _list, "servers that are known")
    command("remove", _remove, "forget a server and its token").add_argument("name")
    find = command("find", _find, "list what the Shelf finds: kind, number, state, name")
    find.add_argument("words", nargs="*")
    find.add_argument("--kind", choices=(LOOK, LUT, "preset"), default="")
    find.add_argument("--published", action="store_true", help="published ones only")
    find.add_argument("--most", type=int, default=MOST)
    pull = command("pull", _pull, "fetch looks and LUTs, by name or number")
    pull.add_argument("names", nargs="+", metavar="LOOK")
    pull.add_argument("-o", "--output", type=Path, help="file or folder; without it the name, here")
    pull.add_argument(
        "--format", choices=sorted(formats()), default="", help="without it: a look as a bundle, a LUT as its own file"
    )
    pull.add_argument("--size", type=int, default=33)
    push = command("push", _push, "bring LUT files in")
    push.add_argument("files", nargs="+", type=Path, metavar="FILE")
    push.add_argument("--category", default="", help="its path, Film/Prints")
    apply = command("apply", _apply, "apply a look of the server's to pictures here; further words are those of `saucer apply`")
    apply.allow_abbrev = False
    apply.add_argument("name", metavar="LOOK")
    deliver = command("deliver", delivering.deliver, "deliver a project there, wait for it, and fetch what was made")
    delivering.add_words(deliver)
    for one in (find, pull, push, apply, deliver):
        one.add_argument("--from", "--to", dest="remote", default="", metavar="NAME", help="the server, where several are known")
    return parser


def main(arguments: Sequence[str]) -> int:
    parser = _parser()
    given, given_rest = parser.parse_known_args(arguments)
    if given_rest and given.command != "apply":
        parser.error(f"unrecognized arguments: {' '.join(given_rest)}")
    given.rest = given_rest
    try:
        given.run(given)
    except Ended as ended:
        return ended.status
    except SaucerError as error:
        print(f"saucer: {error}", file=sys.stderr)
        return 1
    return 0
