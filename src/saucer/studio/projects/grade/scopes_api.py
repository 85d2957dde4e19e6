"""Scopes of a shot through what lies on it, or would."""

from __future__ import annotations

from collections.abc import Sequence

from django.http import HttpRequest, HttpResponse
from ninja import Router

from saucer.studio.common.lanes import FRAMES
from saucer.studio.people.signed_in import person_of
from saucer.studio.preview.api import ScopesOut
from saucer.studio.preview.bench import Trace
from saucer.studio.projects import rules
from saucer.studio.projects.grade import scopes, seeing
from saucer.studio.projects.grade.seeing_api import ShotFrameIn, layers_seen
from saucer.studio.projects.models import Layer, Project, Shot

router = Router(tags=["projects"])


class ShotTraceIn(ShotFrameIn):
    """plain: with nothing on it"""

    kind: Trace
    plain: bool = False


def _asked(request: HttpRequest, pk: int, shot: int, given: ShotFrameIn) -> tuple[Project, Shot, Sequence[Layer], int | None]:
    person = person_of(request)
    project = rules.find(person, pk)
    found = rules.find_shot(project, shot)
    return project, found, layers_seen(person, found, given), seeing.frame_of(found, given.frame)


@router.post("/{pk}/shots/{shot}/histograms", response=ScopesOut)
@FRAMES
def histograms(request: HttpRequest, pk: int, shot: int, given: ShotFrameIn) -> ScopesOut:
    """Of what is delivered; source and step: of the shot with nothing on it."""
    project, found, layers, frame = _asked(request, pk, shot, given)
    seen = scopes.histograms(found, layers, project.delivery, frame)
    plain = seen.plain.tolist()
    return ScopesOut(
        source=plain, step=plain, result=seen.result.tolist(), clipped_low=seen.clipped_low, clipped_high=seen.clipped_high
    )


@router.post("/{pk}/shots/{shot}/trace", response={200: None})
@FRAMES
def trace(request: HttpRequest, pk: int, shot: int, given: ShotTraceIn) -> HttpResponse:
    """Counts of a waveform, parade or vectorscope as little-endian uint32, with their shape in the header Saucer-Shape."""
    project, found, layers, frame = _asked(request, pk, shot, given)
    counts = scopes.trace(found, [] if given.plain else layers, project.delivery, frame, given.kind)
    response = HttpResponse(counts.astype("<u4").tobytes(), content_type="application/octet-stream")
    response["Saucer-Shape"] = ",".join(str(size) for size in counts.shape)
    return response
