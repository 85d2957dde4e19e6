"""What a project's page delivers, from the terminal: for pipelines."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from pydantic import ValidationError

from saucer.core.errors import SaucerError
from saucer.core.look.problems import describe
from saucer.studio.common.refusals import Refusal
from saucer.studio.jobs import rules as jobs
from saucer.studio.jobs.models import Job, State
from saucer.studio.people.models import Person
from saucer.studio.projects.deliver import rules as delivering
from saucer.studio.projects.deliver.choice import DeliveryChoice
from saucer.studio.projects.models import Project

TEXTS = ("stills", "sequences", "clips", "luts", "template", "encoding", "mark")
SWITCHES = ("cdl", "timeline", "looks", "sheet", "burn")


class Command(BaseCommand):
    help = "List projects; export one: graded pictures, clips, LUTs, lists, as the page delivers them."

    def add_arguments(self, parser: CommandParser) -> None:
        actions = parser.add_subparsers(dest="action", required=True, metavar="ACTION")
        actions.add_parser("list", help="every project, with how many shots it has")
        export = actions.add_parser("export", help="deliver a project into a folder")
        export.add_argument("name", help="of the project, or its code")
        export.add_argument("-o", "--output", type=Path, required=True, help="a folder; it is made where it is not there")
        export.add_argument("--as", dest="person", default="", help="whose delivery it is (default: the project's owner)")
        export.add_argument("--stills", default="", help="png, tiff, jpeg, openexr or dpx")
        export.add_argument("--sequences", default="", help="as --stills, of what moves")
        export.add_argument("--clips", default="", help="h264, h265, prores, prores4444, vc3 or ffv1")
        export.add_argument("--luts", default="", help="a LUT format, as `inspect` names them: cube, clf, ...")
        export.add_argument("--lut-size", type=int, default=33)
        for name, words in (
            ("cdl", "the trims as an ASC CDL collection"), ("timeline", "OpenTimelineIO and edit list"), ("looks", "the looks used"),
            ("sheet", "a contact sheet as PDF"), ("burn", "names and timecode into clips"), ("overwrite", "replace files that are there"),
        ):  # fmt: skip
            export.add_argument(f"--{name}", action="store_true", help=words)
        export.add_argument("--mark", default="", help="words at the top of clips")
        export.add_argument(
            "--template", default="{scene}_{shot}", help="of names: {project} {code} {scene} {shot} {look} {version} ..."
        )
        export.add_argument("--encoding", default="", help="what it is delivered in (default: the project's)")

    def handle(self, *args: Any, action: str, **options: Any) -> None:
        try:
            getattr(self, f"_{action}")(options)
        except (Refusal, SaucerError) as refusal:
            raise CommandError(str(refusal)) from None

    def _list(self, options: dict[str, Any]) -> None:
        for project in Project.objects.filter(deleted=None).order_by("name"):
            count = sum(scene.shots.filter(deleted=None).count() for scene in project.scenes.all())
            self.stdout.write(f"{project.name:40} {project.code:12} {count} shots")

    def _export(self, options: dict[str, Any]) -> None:
        project = self._project(options["name"])
        person = self._person(project, options["person"])
        try:
            choice = DeliveryChoice.model_validate(
                {name: options[name] for name in (*TEXTS, *SWITCHES)} | {"lut_size": options["lut_size"]}
            )
        except ValidationError as error:
            raise CommandError(" ; ".join(describe(error)[:3])) from None
        planned = delivering.estimate(person, project.pk, choice).planned
        there = [options["output"] / one.file_name for one in planned.files if (options["output"] / one.file_name).exists()]
        if there and not options["overwrite"]:
            raise CommandError(f"{there[0]} is there already; give --overwrite to replace what is there.")
        delivery = delivering.deliver(person, project.pk, choice)
        job = self._perform(delivery.job)
        written = delivering.export(delivery, options["output"], options["overwrite"])
        for words in (jobs.read_result(job) or jobs.JobResult()).left_out:
            self.stdout.write(f"left out: {words}")
        self.stdout.write(f"{len(written)} files in {options['output']}, delivery {delivery.number}")

    def _perform(self, job: Job | None) -> Job:
        """In this process, part by part; a worker that runs takes parts of it too."""
        assert job is not None
        for part in Job.objects.filter(parent=job).order_by("pk").values_list("pk", flat=True):
            jobs.perform(part)
        jobs.perform(job.pk)
        job.refresh_from_db()
        if job.state != State.DONE:
            raise CommandError(job.problem or f"The delivery is {job.state}.")
        return job

    def _project(self, name: str) -> Project:
        found = list(
            Project.objects.filter(deleted=None, name__iexact=name) or Project.objects.filter(deleted=None, code__iexact=name)
        )
        if len(found) != 1:
            raise CommandError(f'{"Several projects have" if found else "There is no project with"} the name or code "{name}".')
        return found[0]

    def _person(self, project: Project, name: str) -> Person:
        person = Person.objects.filter(username=name, is_active=True).first() if name else project.owner
        if person is None:
            raise CommandError(
                f'There is nobody called "{name}".' if name else "The project has no owner; say whose delivery it is: --as"
            )
        return person
