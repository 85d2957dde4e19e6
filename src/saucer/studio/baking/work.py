"""The job of baking."""

from __future__ import annotations

from pydantic import BaseModel

from saucer.core.look.family import named
from saucer.studio.baking import rules
from saucer.studio.baking.choices import BakeChoice
from saucer.studio.catalogue.models import Kind
from saucer.studio.catalogue.rules import find_version
from saucer.studio.common.names import file_stem
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind
from saucer.studio.luts.rules import zip_files
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
    made = rules.bake_version(job.person, find_version(job.person, Kind.LOOK, given.look, given.version), given.choice, report)
    files = list(made.lut.files.select_related("blob"))
    left_out = made.lut.facts["left_out"]
    whole, name = files[0].blob, files[0].file_name
    if len(files) > 1:
        whole, name = zip_files(made.lut), f"{file_stem(named(made.lut.version.entry.name, given.choice.member))}.zip"
    job.blobs.add(whole)
    return BakeResult(
        lut=made.lut.pk, page=f"/shelf/look/{given.look}", entry=made.entry.pk if made.entry else None, left_out=left_out,
        file=whole.pk, file_name=name,
    )  # fmt: skip
