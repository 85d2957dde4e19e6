"""The words that travel with a pack: what is in it, its licences, its sums."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence

from saucer.studio.packing.manifest import Inside, LeftOut, PackedEntry

RIGHTS = {"yes": "may be passed on", "no": "may not be passed on", "unknown": "nobody has said that it may be passed on"}


def read_me(
    title: str,
    by: str,
    day: str,
    entries: Sequence[PackedEntry],
    inside: Sequence[Inside],
    left_out: Sequence[LeftOut],
    page: str,
    config: str = "",
) -> str:
    lines = [
        title, "=" * len(title), "", f"Packed by {by} on {day} with Saucer. {len(entries)} entries.", "",
        *([f"{config} is an OpenColorIO configuration, version 2, with the published ones as looks.", ""] if config else []),
        *([f"Open {page} in a browser to see every one of them beside the original. It needs no network.", ""] if page else []),
        "Folders are categories. A .json beside a LUT is the look or preset itself, for Saucer.",
        "manifest.json says everything that is known of each; SHA256SUMS is checked with: sha256sum -c SHA256SUMS", "",
        "A LUT works only on pictures in the encoding that it expects:", "",
    ]  # fmt: skip
    for entry in entries:
        lines.append(f"{entry.name}{f' ({entry.category})' if entry.category else ''}")
        for file in entry.files:
            between = f", expects {file.expects}, gives {file.gives}" if file.expects else ""
            lines.append(f"    {file.path}{between}")
            lines += [f"        {words}" for words in file.lost]
    if inside:
        lines += ["", "LUTs that these hold", "--------------------"]
        lines += [f"{one.path}: {one.name}, in {', '.join(one.used_by)}" for one in inside]
    if left_out:
        lines += ["", "Left out", "--------", *(f"{one.name}: {one.why}" for one in left_out)]
    return "\n".join(lines) + "\n"


def licences(entries: Sequence[PackedEntry], inside: Sequence[Inside]) -> str:
    """Of everything that leaves, whether it was chosen or lies in what was."""
    lines = ["Licences", "========", ""]
    everything: list[PackedEntry | Inside] = [*entries, *inside]
    for entry in everything:
        until = f", until {entry.pass_on_until}" if entry.pass_on_until else ""
        lines.append(f"{entry.name}: {entry.licence or 'no licence is named'}; {RIGHTS[entry.may_pass_on]}{until}.")
        if isinstance(entry, Inside):
            lines.append(f"    In: {', '.join(entry.used_by)}")
        elif entry.author:
            lines.append(f"    By: {entry.author}")
        if entry.source:
            lines.append(f"    From: {entry.source}")
    return "\n".join(lines) + "\n"


def sums(members: Sequence[tuple[str, str]]) -> str:
    """members: paths with SHA-256. As the sha256sum command reads it."""
    return "".join(f"{sha256}  {path}\n" for path, sha256 in members)


def sha256(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()
