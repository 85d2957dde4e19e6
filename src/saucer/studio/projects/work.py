"""The jobs of projects: the parts of a delivery, and its lists once they are done."""

from __future__ import annotations

from fractions import Fraction
from time import monotonic

from django.db import transaction

from saucer.studio.common.store import keep_bytes, open_kept
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle
from saucer.studio.people.models import Role
from saucer.studio.people.rules import record
from saucer.studio.projects.check import misfits
from saucer.studio.projects.conform import conforming
from saucer.studio.projects.conform.timelines import read_timeline
from saucer.studio.projects.deliver import lists, making
from saucer.studio.projects.deliver.choice import FOLDERS
from saucer.studio.projects.deliver.frozen import document_of
from saucer.studio.projects.deliver.rules import DeliverWork, PartWork, keep
from saucer.studio.projects.models import Delivery, DeliveryItem, Project


@job_kind("deliver-part", Role.DESIGNER, PartWork, JobResult, gives_way=True)
def make_part(job: Job, given: PartWork, report: Progress) -> JobResult:
    """The files of one part that are not there yet: what a worker made before it ended is kept."""
    delivery = Delivery.objects.get(pk=given.delivery)
    items = list(DeliveryItem.objects.filter(delivery=delivery, part=given.part))
    waiting = [item for item in items if item.blob_id is None]
    begun = len(items) - len(waiting)

    def told(share: float) -> None:
        report((begun + share * len(waiting)) / len(items))

    began = monotonic()
    for item, blob, facts in making.make(waiting, document_of(delivery), told):
        keep(item, blob, facts, monotonic() - began)
        began = monotonic()
    with transaction.atomic():
        return settle(job, JobResult())


@job_kind("deliver", Role.DESIGNER, DeliverWork, JobResult, restarted=True)
def finish(job: Job, given: DeliverWork, report: Progress) -> JobResult:
    """What goes with the files, made of what they are."""
    delivery = Delivery.objects.get(pk=given.delivery)
    document = document_of(delivery)
    choice = document.choice
    items = list(delivery.items.exclude(kind="list").select_related("blob").order_by("file_name"))
    left = [*document.left_out, *(f"{item.file_name}: {words}" for item in items for words in item.facts.get("left_out", []))]
    made: list[tuple[str, bytes]] = []
    looks: list[tuple[str, bytes]] = []
    more: dict[str, object] = {}
    fits: dict[int, lists.Fitted] = {}
    if choice.cdl or choice.timeline:
        content, fits, without = lists.cdl_collection(document)
        left += without
        more["cdl"] = {document.shots[place].named: fit.words for place, fit in fits.items() if fit.largest > 0}
        if choice.cdl:
            made.append(("trims.ccc", content))
    if choice.timeline:
        otio, edit_list, words = lists.timelines(document, lists.placed_of(document, items, fits))
        left += words
        made += [("timeline.otio", otio), ("timeline.edl", edit_list)]
    if choice.looks:
        packed = lists.looks_pack(document, choice.luts or "cube", left)
        looks += [packed] if packed else []
    if choice.sheet:
        made.append(("contact-sheet.pdf", lists.contact_sheet(document, lambda share: report(0.95 + share * 0.04))))
    listed = {f"{FOLDERS[kind]}/{name}": data for kind, some in (("list", made), ("look", looks)) for name, data in some}
    made.append(("report.json", lists.report_of(document, items, listed, left, more)))
    placed = (("list", made), ("look", looks))
    blobs = [(f"{FOLDERS[kind]}/{name}", keep_bytes(data)) for kind, some in placed for name, data in some]
    with transaction.atomic():
        delivery.items.filter(kind="list").delete()
        for name, blob in blobs:
            DeliveryItem.objects.create(delivery=delivery, part=0, kind="list", file_name=name, blob=blob)
        record(job.person, "delivered", delivery.project, number=document.number, files=len(items))
        return settle(job, JobResult(page=f"/projects/{delivery.project_id}/deliveries/{document.number}", left_out=left))


@job_kind(misfits.JOB, Role.DESIGNER, misfits.MisfitsWork, JobResult, restarted=True)
def find_misfits(job: Job, given: misfits.MisfitsWork, report: Progress) -> JobResult:
    """Measure what has changed since it was measured last."""
    project = Project.objects.get(pk=given.project)
    misfits.measure_shots(project, report)
    with transaction.atomic():
        return settle(job, JobResult(page=f"/projects/{project.pk}"))


@job_kind(conforming.JOB, Role.DESIGNER, conforming.TimelineWork, conforming.TimelineRead, restarted=True)
def read_large_timeline(job: Job, given: conforming.TimelineWork, report: Progress) -> conforming.TimelineRead:
    report(0.1)
    with open_kept(given.sha256) as file:
        events = read_timeline(file.read(), given.file_name, Fraction(given.rate))
    blob = conforming.keep_events(events)
    with transaction.atomic():
        job.blobs.add(blob)
        settle(job, read := conforming.TimelineRead(events=blob.pk))
    return read
