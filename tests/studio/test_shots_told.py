"""What is told of a shot, and its frames set over the API: a still, a clip and a sequence."""

from __future__ import annotations

from itertools import accumulate

import numpy as np
import pytest
from django.utils import timezone

from saucer.core.colour.encodings import ENCODINGS
from saucer.core.look.model import look_from
from saucer.core.pictures.scopes import parade, vectorscope, waveform
from saucer.studio.catalogue.models import Entry
from saucer.studio.common.refusals import NotPossible
from saucer.studio.looks import rules as looks
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.projects.grade import grading, seeing, stacking
from saucer.studio.projects.grade.seeing import plan_between, rendered, source_of
from saucer.studio.projects.models import Shot, ShotFigures, ShotNote
from saucer.studio.projects.story import notes, shots
from saucer.studio.projects.story.answers import tell_shot
from tests.studio.delivery import project

pytestmark = pytest.mark.django_db
__all__ = ["project"]


def shot(code: str) -> Shot:
    return Shot.objects.get(code=code)


def path(project, code: str) -> str:
    return f"/projects/{project.pk}/shots/{shot(code).pk}"


@pytest.mark.parametrize(
    ("given", "wanted"),
    [
        ({"first": 2}, (2, 15, 9)), ({"first": 6, "last": 9}, (6, 9, 9)), ({"first": 11}, (11, 15, 11)), ({"poster": 12}, (4, 15, 12)), ({"poster": 0}, (4, 15, 4)),
        ({"poster": 500}, (4, 15, 15)), ({"last": 4}, (4, 4, 4)), ({"first": 0, "last": 19, "poster": 0}, (0, 19, 0)),
    ],
)  # fmt: skip
def test_frames_of_a_clip_are_set_and_its_poster_stays_among_them(api, project, given, wanted):
    api.expect(200, "PATCH", path(project, "gulls"), given)
    now = shot("gulls")
    assert (now.first, now.last, now.poster) == wanted


@pytest.mark.parametrize("given", [{"first": 10, "last": 9}, {"last": 20}, {"first": 20}])
def test_frames_that_the_clip_has_not_are_refused_and_change_nothing(api, project, given):
    api.expect(422, "PATCH", path(project, "gulls"), given)
    now = shot("gulls")
    assert (now.first, now.last) == (4, 15)


def test_a_still_has_no_frames_to_be_set(api, project):
    told = api.expect(422, "PATCH", path(project, "pier"), {"poster": 3})
    assert told["detail"] == "pier is a still: it has no frames."
    api.expect(200, "PATCH", path(project, "pier"), {"code": " pier  two "})
    assert Shot.objects.filter(code="pier two").exists()
    assert api.expect(422, "PATCH", path(project, "pier two"), {"code": "  "})["detail"] == "A shot needs a name."


def test_a_newer_version_is_offered_while_the_look_is_there(project, designer):
    entry = Entry.objects.get(name="Hearth")
    assert newer(designer) is None
    looks.save_draft(designer, entry.pk, look_from({"name": "Hearth", "steps": []}), looks.draft_of(entry.pk).revision)
    looks.save_version(designer, entry.pk)
    assert newer(designer) == 2
    Entry.objects.filter(pk=entry.pk).update(deleted=timezone.now())
    assert newer(designer) is None, "what is in the bin is offered to nobody"


def newer(person) -> int | None:
    [layer] = [one for one in tell_shot(shot("gulls"), person, []).layers if one.role == "look"]
    return layer.newer


def test_figures_are_told_as_measured_only_while_the_shot_shows_what_was_measured(project, designer):
    one = shot("gulls")
    assert not tell_shot(one, designer, []).measured
    ShotFigures.objects.create(shot=one, shows=seeing.shows(one, list(one.layers.all())), figures={"misfits": ["too bright"]})
    told = tell_shot(shot("gulls"), designer, [])
    assert (told.measured, told.misfits) == (True, ["too bright"])
    grading.take_off(designer, project.pk, [one.pk])
    assert not tell_shot(shot("gulls"), designer, []).measured


def test_a_reference_is_told_only_to_those_who_may_see_it(project, designer, curator):
    one = shot("gulls")
    one.reference_id = shot("pier").picture_id
    assert tell_shot(one, designer, [], shown={one.reference_id}).reference == one.reference_id
    assert tell_shot(one, designer, [], shown=set()).reference is None


def test_a_note_stands_at_a_frame_that_the_shot_has(project, designer):
    notes.add_note(designer, project.pk, shot("gulls").pk, "The second gull", 7)
    for code, frame in (("gulls", 3), ("gulls", 16), ("pier", 0)):
        with pytest.raises(NotPossible):
            notes.add_note(designer, project.pk, shot(code).pk, "Elsewhere", frame)
    notes.add_note(designer, project.pk, shot("pier").pk, "All of it", None)
    assert list(ShotNote.objects.order_by("pk").values_list("shot__code", "frame")) == [("gulls", 7), ("pier", None)]


@pytest.mark.parametrize("kind", ["waveform", "parade", "vectorscope"])
@pytest.mark.parametrize("plain", [False, True])
def test_a_trace_is_of_what_is_delivered_or_of_the_shot_with_nothing_on_it(api, project, kind, plain):
    """Held against the same counts of the graded frame, and of the frame as it came."""
    one = shot("pier")
    layers = [] if plain else list(one.layers.all())
    answer = api.call("POST", f"{path(project, 'pier')}/trace", {"kind": kind, "plain": plain})
    shape = [int(size) for size in answer["Saucer-Shape"].split(",")]
    counts = np.frombuffer(answer.content, "<u4").reshape(shape)
    values = rendered(plan_between(one, layers, project.delivery), source_of(one, None, None), 0)
    count = {"waveform": waveform, "vectorscope": vectorscope}.get(kind)
    wanted = parade(values) if count is None else count(values, ENCODINGS["srgb"])[None]
    assert np.array_equal(counts, wanted)
    assert counts.shape[0] == (3 if kind == "parade" else 1)
    assert counts.any()


def test_as_many_layers_and_shots_as_may_be_and_not_one_more(project, designer, monkeypatch):
    one = shot("pier")
    layer = one.layers.get(role="look")
    monkeypatch.setattr(grading, "MOST_LAYERS", 2)

    def stack(looks_on: int, trims: int) -> list[dict]:
        on = {"role": "look", "version": layer.version_id, "steps": None, "strength": 1.0, "enabled": True}
        return [on] * looks_on + [on | {"role": "before", "version": None, "steps": []}] * trims

    assert len(grading._checked(one, stack(2, 4))) == 6
    with pytest.raises(NotPossible, match="pier has 2 looks on it; 2 is the most"):
        grading._checked(one, stack(3, 0))
    with pytest.raises(NotPossible, match="would have 7 layers; 6 is the most"):
        grading._checked(one, stack(2, 5))
    monkeypatch.setattr(shots, "MOST_AT_ONCE", 2)
    new = shots.NewShot(one.picture_id, "Deck")
    assert len(shots.add_shots(designer, project.pk, [new, new])) == 2
    for several in ([], [new] * 3):
        with pytest.raises(NotPossible, match="Choose 1 to 2 pictures"):
            shots.add_shots(designer, project.pk, several)
    monkeypatch.setattr(shots, "MOST_SHOTS", 6)
    shots.add_shots(designer, project.pk, [new])
    with pytest.raises(NotPossible, match="6 shots at most"):
        shots.add_shots(designer, project.pk, [new])


def test_a_reference_is_put_on_many_and_taken_off_and_what_is_not_said_stays(api, project):
    ids = [shot("pier").pk, shot("gulls").pk]
    api.expect(200, "PATCH", f"/projects/{project.pk}/shots", {"shots": ids, "reference": shot("mast").picture_id})
    api.expect(200, "PATCH", f"/projects/{project.pk}/shots", {"shots": ids, "note": "Low sun"})
    assert {shot(code).reference_id for code in ("pier", "gulls")} == {shot("mast").picture_id}
    api.expect(200, "PATCH", f"/projects/{project.pk}/shots", {"shots": ids, "reference": None, "note": None})
    assert [(shot(code).reference_id, shot(code).note) for code in ("pier", "gulls")] == [(None, "Low sun")] * 2


def test_what_moves_is_seen_at_its_poster_or_at_the_frame_asked_for(project):
    gulls, pier = shot("gulls"), shot("pier")
    assert [seeing.number_of(gulls, None), seeing.number_of(gulls, 5), seeing.number_of(pier, None)] == [gulls.poster, 5, 0]
    asked = {number: seeing.frame_of(gulls, number) for number in (None, 0, 4, 9, 15, 400)}
    assert asked == {None: None, 0: 4, 4: 4, 9: 9, 15: 15, 400: 15}
    assert seeing.frame_of(pier, 7) is None


def test_until_there_is_a_small_copy_every_frame_is_the_first(project):
    gulls = shot("gulls")
    first = pictures.proxy_in(gulls.picture, None, 80)
    assert np.array_equal(source_of(gulls, 80, 9), first)
    moving = gulls.picture.footage
    footage.keep_proxy(moving.pk, *footage.make_proxy(moving), moving)
    gulls = shot("gulls")
    assert not np.allclose(source_of(gulls, 80, 9), source_of(gulls, 80, 4), atol=0.02)


def test_a_preset_lies_on_a_shot_as_its_steps(api, project):
    steps = [{"kind": "tone", "exposure": 0.5}]
    preset = api.expect(200, "POST", "/presets", {"name": "Half a stop", "steps": steps})["id"]
    api.expect(200, "POST", f"/projects/{project.pk}/looks", {"shots": [shot("mast").pk], "entry": preset, "stack": True})
    there = stacking.look_of(shot("mast"), list(shot("mast").layers.all()), "srgb")
    assert '"exposure":0.5' in there.model_dump_json()


def test_frames_that_come_together_are_the_one_asked_for_and_those_after_it(api, project):
    """Held to the last one of the shot, which goes to frame 15."""
    footage_of = shot("gulls").picture.footage
    footage.keep_proxy(footage_of.pk, *footage.make_proxy(footage_of), footage_of)

    def frames(**given: int) -> list[bytes]:
        found = api.call("POST", f"{path(project, 'gulls')}/frame", given)
        assert found.status_code == 200, found.content[:200]
        sizes = [int(one) for one in found["Saucer-Sizes"].split(",")]
        ends = list(accumulate(sizes))
        return [found.content[end - size : end] for size, end in zip(sizes, ends, strict=True)]

    together = frames(frame=12, more=4)
    assert together == [frames(frame=number)[0] for number in (12, 13, 14, 15, 15)]
    assert len(set(together)) == 4
