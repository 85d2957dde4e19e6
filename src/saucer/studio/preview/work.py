"""The jobs of grading pictures: one through an entry, several through a look as it stands."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from saucer.core.engine.grade import grade_file
from saucer.core.look.family import named
from saucer.core.look.member import LONGEST_NAME
from saucer.core.pictures.io import KINDS, kind_written
from saucer.studio.catalogue.rules import find_any
from saucer.studio.common.names import file_stem
from saucer.studio.common.store import keep_file, local_file
from saucer.studio.encodings import rules as encodings
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind
from saucer.studio.people.models import Role
from saucer.studio.pictures import rules as pictures
from saucer.studio.preview import entries, graded
from saucer.studio.preview.graded import GradedWork


class GradeWork(BaseModel):
    """format, encoding: empty for those that the picture came in, and that the entry gives; member: which of a look's family"""

    model_config = ConfigDict(extra="forbid")

    entry: int
    picture: int
    member: Annotated[str, Field(max_length=LONGEST_NAME)] = ""
    strength: Annotated[float, Field(ge=0, le=1)] = 1.0
    format: Annotated[str, Field(pattern="^(png|jpeg|tiff|openexr|dpx)?$", description="empty: the format the picture came in")] = (
        ""
    )
    encoding: Annotated[str, Field(description="empty: what the look or LUT gives")] = ""


@job_kind("grade", Role.DESIGNER, GradeWork, JobResult)
def grade(job: Job, given: GradeWork, report: Progress) -> JobResult:
    """A picture through a look, LUT or preset, at its full size and depth."""
    picture, entry = pictures.find(given.picture, job.person), find_any(job.person, given.entry)
    through = entries.grade_of(entry, given.strength, member=given.member)
    suffix = KINDS[given.format or kind_written(picture.kind)]
    with tempfile.TemporaryDirectory() as folder, local_file(picture.blob_id) as source:
        target = Path(folder) / f"graded{suffix}"
        target_encoding = encodings.find(given.encoding) if given.encoding else through.gives
        done = grade_file(
            through, source, target, encodings.find(picture.encoding), target_encoding, picture.file_name, report,
            white=picture.chosen_white,
        )  # fmt: skip
        blob = keep_file(target)
    job.blobs.add(blob)
    return JobResult(
        file=blob.pk,
        file_name=f"{Path(picture.file_name).stem}-{file_stem(named(entry.name, given.member))}{suffix}",
        left_out=list(done.left_out),
    )


@job_kind("graded", Role.DESIGNER, GradedWork, JobResult)
def grade_pictures(job: Job, given: GradedWork, report: Progress) -> JobResult:
    """Pictures through a look as it stood when they were asked for, at their full size and depth."""
    blob, result = graded.make(job.person, given, report)
    job.blobs.add(blob)
    return result
