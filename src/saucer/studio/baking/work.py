"""The job of baking."""

from __future__ import annotations

from pydantic import BaseModel

from saucer.studio.baking import rules
from saucer.studio.baking.choices import BakeChoice
from saucer.studio.catalogue.models import Kind
from saucer.studio.catalogue.rules import find_version
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind
from saucer.studio.people.models import Role


class BakeWork(BaseModel):
    look: int
    version: int
    choice: BakeChoice


class BakeResult(JobResult):
    """lut: the LUT's own number, by which its files are had"""

    lut: int


@job_kind("bake", Role.DESIGNER, BakeWork, BakeResult)
def bake(job: Job, given: BakeWork, report: Progress) -> BakeResult:
    """A version of a look, or a part of it, as LUT files that belong to the version."""
    made = rules.bake_version(job.person, find_version(Kind.LOOK, given.look, given.version), given.choice, report)
    files = list(made.lut.files.all())
    left_out = made.lut.facts["left_out"]
    return BakeResult(
        lut=made.lut.pk, page=f"/shelf/look/{given.look}", entry=made.entry.pk if made.entry else None, left_out=left_out,
        file=files[0].blob_id, file_name=files[0].file_name,
        download=f"/api/lut-files/of/{made.lut.pk}/all.zip" if len(files) > 1 else "",
    )  # fmt: skip
