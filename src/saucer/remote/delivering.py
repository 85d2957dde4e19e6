"""`remote deliver PROJECT`: asked for there, waited for, fetched here."""

from __future__ import annotations

import argparse
import sys
import time
from pathlib import Path, PurePosixPath
from typing import Any

from saucer.core.errors import SaucerError
from saucer.remote import kept
from saucer.remote.calls import ask, fetch, send
from saucer.remote.kept import Remote

ASKED_EVERY = 2.0
"""Seconds between two looks at how far it is."""
PICTURES, CLIPS = ("png", "tiff", "jpeg", "openexr", "dpx"), ("h264", "prores", "prores4444", "h265", "vc3", "ffv1")
ENDED = ("done", "failed", "cancelled")


def add_words(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("project", metavar="PROJECT", help="its name, code or number")
    parser.add_argument("--choice", default="", metavar="NAME", help="what it holds, as it is kept there under this name")
    parser.add_argument("--stills", choices=PICTURES, default="")
    parser.add_argument("--sequences", choices=PICTURES, default="")
    parser.add_argument("--clips", choices=CLIPS, default="")
    parser.add_argument("--luts", default="", metavar="FORMAT", help="one for each shot")
    parser.add_argument("--template", default="", help="of names: {scene}_{shot}")
    for name, words in (("cdl", "trims as a CDL collection"), ("timeline", "timelines"), ("looks", "the looks as a pack")):
        parser.add_argument(f"--{name}", action="store_true", help=words)
    parser.add_argument(
        "-o", "--output", type=Path, metavar="FOLDER", help="where it is put; without it the delivery's own name, here"
    )
    parser.add_argument("--no-wait", action="store_true", help="ask for it and go on; its number is printed")


def deliver(given: argparse.Namespace) -> None:
    """Raises: SaucerError"""
    remote = kept.choose(given.remote)
    project = _project(remote, given.project)
    base = f"/projects/{project['id']}/deliveries"
    made = send(remote, "POST", base, _choice(remote, given))
    number = made["number"]
    if given.no_wait:
        print(number)
        return
    _wait(remote, made["job"]["id"])
    found = ask(remote, f"{base}/{number}")
    folder = given.output or Path(f"{_safe(project['code'] or project['name'])}-delivery-{number:03d}")
    for one in found["items"]:
        if one["sha256"]:
            fetch(remote, f"{base}/{number}/files/{one['id']}", folder / _within(one["file_name"]), one["sha256"])
    for words in found["left_out"]:
        print(f"saucer: left out: {words}", file=sys.stderr)
    print(folder)


def _project(remote: Remote, name: str) -> dict[str, Any]:
    """Raises: SaucerError"""
    everything = ask(remote, "/projects")
    wanted = name.casefold()
    found = [one for one in everything if wanted in (one["name"].casefold(), one["code"].casefold(), str(one["id"]))]
    if len(found) == 1:
        return dict(found[0])
    if found:
        raise SaucerError(name, f"there are several: say the number, {', '.join(str(one['id']) for one in found)}")
    there = ", ".join(one["name"] for one in everything[:8])
    raise SaucerError(name, f"is no project there; there {'are' if there else 'is none'} {there}".rstrip())


def _choice(remote: Remote, given: argparse.Namespace) -> dict[str, Any]:
    """What it is to hold: as it is kept there, with what is said here beside. Raises: SaucerError"""
    choice: dict[str, Any] = {}
    if given.choice:
        everything = ask(remote, "/delivery-choices")
        choice = next((dict(one["choice"]) for one in everything if one["name"].casefold() == given.choice.casefold()), {})
        if not choice:
            raise SaucerError(
                given.choice, f"is not kept there; there are: {', '.join(one['name'] for one in everything) or 'none'}"
            )
        choice["shots"] = []  # those of the project it was kept in
    said = {name: getattr(given, name) for name in ("stills", "sequences", "clips", "luts", "template", "cdl", "timeline", "looks")}
    choice |= {name: value for name, value in said.items() if value}
    if not choice:
        raise SaucerError(
            "deliver", "say what it is to hold: --choice NAME, or --stills, --sequences, --clips, --luts, --cdl, --timeline"
        )
    return choice


def _wait(remote: Remote, number: int) -> None:
    """Raises: SaucerError where it fails or is ended there"""
    shown = sys.stderr.isatty()
    while True:
        job = ask(remote, f"/jobs/{number}")
        if shown:
            print(f"\r{job['progress']:4.0%}", end="", file=sys.stderr, flush=True)
        if job["state"] in ENDED:
            break
        time.sleep(ASKED_EVERY)
    if shown:
        print(file=sys.stderr)
    if job["state"] != "done":
        raise SaucerError("deliver", job["problem"] or f"it was {job['state']} there")


def _safe(name: str) -> str:
    return "".join(letter if letter.isalnum() or letter in " -_.,()+" else "_" for letter in name).strip(". ") or "project"


def _within(name: str) -> Path:
    """Raises: SaucerError for a name that leads out of the folder"""
    parts = PurePosixPath(name).parts
    if not parts or name.startswith("/") or any(part in ("..", ".") or "\\" in part or ":" in part for part in parts):
        raise SaucerError(name, "is no name of a file in a delivery")
    return Path(*parts)
