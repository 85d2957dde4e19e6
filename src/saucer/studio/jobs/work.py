"""The work itself, one function per kind of job. Each gives the same result when it is done twice."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

from saucer.core.grade import grade_file
from saucer.core.pictures import KINDS
from saucer.studio.encodings import rules as encodings
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import Progress, job_kind
from saucer.studio.looks import rules as looks
from saucer.studio.luts import baking, roundtrip
from saucer.studio.luts import intake as packs
from saucer.studio.luts.baking import BakeChoice
from saucer.studio.people.models import Role
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.shelf import rules as shelf
from saucer.studio.store import keep_file, local_file


@job_kind("bake", Role.DESIGNER)
def bake(job: Job, report: Progress) -> dict[str, Any]:
    """A version of a look, or a part of it, as a LUT on the Shelf, with previews on the test pictures made ready."""
    given = job.parameters
    version = looks.version_of(given["look"], given["version"])
    choice = BakeChoice.model_validate(given["choice"])
    entry = baking.bake_version(job.person, version, choice, report)
    report(0.9)
    for picture in Picture.objects.filter(deleted=None, test=True):
        shelf.preview_file("lut", entry.pk, picture)
    return {"lut": entry.pk, "name": entry.name, "file_name": entry.file_name, "left_out": entry.made.get("left_out", [])}


@job_kind("intake", Role.DESIGNER)
def intake(job: Job, report: Progress) -> dict[str, Any]:
    """Files or zip packs as the rows of a table; nothing goes onto the Shelf yet."""
    uploads = [packs.Upload.model_validate(one) for one in job.parameters["uploads"]]
    return {"rows": [row.model_dump() for row in packs.read_pack(uploads, report)]}


@job_kind("chart", Role.DESIGNER)
def chart(job: Job, report: Progress) -> dict[str, Any]:
    """A recoloured chart read back; or the whole trip with the stand-in editor."""
    given = job.parameters
    choice = roundtrip.ChartChoice.model_validate(given["chart"])
    if given.get("editor") is not None:
        return roundtrip.read_standin(choice, roundtrip.EditorChoice.model_validate(given["editor"]), report).model_dump()
    return roundtrip.read_recoloured(given["picture"], given["name"], choice, given["known"], report).model_dump()


@job_kind("pair", Role.DESIGNER)
def pair(job: Job, report: Progress) -> dict[str, Any]:
    """A LUT fitted to an original and its recoloured copy."""
    given = job.parameters
    names = given["names"][0], given["names"][1]
    return roundtrip.fit(given["original"], given["recoloured"], names, given["encoding"], given["size"], report).model_dump()


@job_kind("grade", Role.DESIGNER)
def grade(job: Job, report: Progress) -> dict[str, Any]:
    """A picture through a look or LUT, at its full size and depth."""
    given = job.parameters
    picture = pictures.find(given["picture"])
    through = shelf.grade_of(given["kind"], given["id"], given["strength"])
    suffix = KINDS[given["format"] or picture.kind]
    with tempfile.TemporaryDirectory() as folder, local_file(picture.sha256) as source:
        target = Path(folder) / f"graded{suffix}"
        target_encoding = encodings.find(given["encoding"]) if given["encoding"] else through.gives
        grade_file(through, source, target, encodings.find(picture.encoding), target_encoding, picture.file_name, report)
        sha256 = keep_file(target)
    name = f"{Path(picture.file_name).stem}-{shelf.file_stem(given['kind'], given['id'])}{suffix}"
    return {"sha256": sha256, "file_name": name}
