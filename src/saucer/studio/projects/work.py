"""The jobs of projects: the parts of a delivery, and its lists once they are done."""

from __future__ import annotations

from django.db import transaction

from saucer.studio.common.store import keep_bytes
from saucer.studio.jobs.models import Job
from saucer.studio.jobs.rules import JobResult, Progress, job_kind, settle
from saucer.studio.people.models import Role
from saucer.studio.projects import checking, rules
from saucer.studio.projects.delivering import lists, making
from saucer.studio.projects.delivering.choice import FOLDERS, DeliveryChoice
from saucer.studio.projects.delivering.rules import DeliverWork, PartWork, keep
from saucer.studio.projects.models import Delivery, DeliveryItem, Project, Shot


def _choice_of(delivery: Delivery) -> DeliveryChoice:
    return DeliveryChoice.model_validate({name: value for name, value in delivery.choice.items() if name != "left_out"})


@job_kind("deliver-part", Role.DESIGNER, PartWork, JobResult)
def make_part(job: Job, given: PartWork, report: Progress) -> JobResult:
    """The files of one part that are not there yet: what a worker made before it ended is kept."""
    delivery = Delivery.objects.get(pk=given.delivery)
    items = list(DeliveryItem.objects.filter(delivery=delivery, part=given.part))
    waiting = [item for item in items if item.blob_id is None]
    begun = len(items) - len(waiting)

    def told(share: float) -> None:
        report((begun + share * len(waiting)) / len(items))

    for item, blob, facts in making.make(waiting, _choice_of(delivery), told):
        keep(item, blob, facts)
    with transaction.atomic():
        return settle(job, JobResult())


@job_kind("deliver", Role.DESIGNER, DeliverWork, JobResult)
def finish(job: Job, given: DeliverWork, report: Progress) -> JobResult:
    """What goes with the files, made of what they are."""
    delivery = Delivery.objects.select_related("project", "made_by").get(pk=given.delivery)
    choice = _choice_of(delivery)
    project, number = delivery.project, delivery.number
    by = delivery.made_by.shown_name if delivery.made_by else ""
    items = list(delivery.items.exclude(kind="list").select_related("blob").order_by("file_name"))
    wanted = set(choice.shots)
    shots = [shot for shot in rules.list_shots(project) if not wanted or shot.pk in wanted]
    left: list[str] = list(delivery.choice.get("left_out", []))
    left += [f"{item.file_name}: {words}" for item in items for words in item.facts.get("left_out", [])]
    made: list[tuple[str, bytes]] = []
    looks: list[tuple[str, bytes]] = []
    more: dict[str, object] = {}
    fits: dict[int, lists.Fitted] = {}
    if choice.cdl or choice.timeline:
        content, fits, without = lists.cdl_collection(project, shots)
        left += without
        more["cdl"] = {_named(shot): fits[shot.pk].words for shot in shots if shot.pk in fits and fits[shot.pk].largest > 0}
        if choice.cdl:
            made.append(("trims.ccc", content))
    if choice.timeline:
        otio, edit_list = lists.timelines(project, lists.placed_of(project, shots, items, fits, number))
        made += [("timeline.otio", otio), ("timeline.edl", edit_list)]
    if choice.looks:
        packed = lists.looks_pack(project, number, by, items, choice.luts or "cube", left)
        looks += [packed] if packed else []
    if choice.sheet:
        made.append(("contact-sheet.pdf", lists.contact_sheet(project, number, shots, lambda share: report(0.95 + share * 0.04))))
    made.append(("report.json", lists.report_of(project, number, by, items, left, more)))
    placed = (("list", made), ("look", looks))
    blobs = [(f"{FOLDERS[kind]}/{name}", keep_bytes(data)) for kind, some in placed for name, data in some]
    with transaction.atomic():
        delivery.items.filter(kind="list").delete()
        for name, blob in blobs:
            DeliveryItem.objects.create(delivery=delivery, part=0, kind="list", file_name=name, blob=blob)
        return settle(job, JobResult(page=f"/projects/{project.pk}/deliveries/{number}", left_out=left))


@job_kind(checking.JOB, Role.DESIGNER, checking.MisfitsWork, JobResult)
def find_misfits(job: Job, given: checking.MisfitsWork, report: Progress) -> JobResult:
    """Measure what has changed since it was measured last."""
    project = Project.objects.get(pk=given.project)
    checking.measure_shots(project, report)
    with transaction.atomic():
        return settle(job, JobResult(page=f"/projects/{project.pk}"))


def _named(shot: Shot) -> str:
    return f"{shot.scene.name} {shot.code}"
