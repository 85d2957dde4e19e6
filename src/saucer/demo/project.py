"""The demo's project: three scenes of a film out of several cameras, two clips and a sequence, two shots that do not fit."""

from __future__ import annotations

import tempfile
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from saucer.core.clips.sequences import find_sequences
from saucer.core.colour.conversion import conversion, convert
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.evaluate import evaluate
from saucer.core.engine.plan import prepare
from saucer.core.look.model import look_from
from saucer.core.numeric.planes import through
from saucer.core.pictures.io import Picture as Pixels
from saucer.core.pictures.io import read_picture, write_picture
from saucer.demo.catalogue import FOLDER, PICTURES
from saucer.demo.moving import sea_road
from saucer.studio.catalogue.models import Entry, Kind, VersionState
from saucer.studio.catalogue.review import rules as review
from saucer.studio.looks import rules as looks
from saucer.studio.people.models import Person
from saucer.studio.pictures import footage
from saucer.studio.pictures import rules as pictures
from saucer.studio.pictures.models import Picture
from saucer.studio.presets.rules import content_of
from saucer.studio.projects import rules as projects
from saucer.studio.projects.check import misfits
from saucer.studio.projects.grade import grading, sharing
from saucer.studio.projects.models import LayerRole, MemberRole, Reach, Shot
from saucer.studio.projects.story import details, notes, shots


@dataclass(frozen=True)
class Framed:
    """A shot out of one of the demo's renders. box: left, top, width and height, as shares; fault: stops and mired that are wrong"""

    name: str
    picture: str
    box: tuple[float, float, float, float]
    encoding: str
    suffix: str = ".png"
    stops: float = 0.0
    warm: float = 0.0


QUAY, ORCHARD, INSIDE = "1 Quay, evening", "2 Orchard", "3 Inside"
WHOLE = (0.0, 0.0, 1.0, 1.0)
FRAMED: dict[str, tuple[Framed, ...]] = {
    QUAY: (
        Framed("q010 wide", "quay-dusk.png", WHOLE, "s-log3"), Framed("q020 ferry", "quay-dusk.png", (0.3, 0.28, 0.5, 0.5), "s-log3"),
        Framed("q030 water", "quay-dusk.png", (0.0, 0.42, 0.55, 0.55), "s-log3"), Framed("q040 sky", "quay-dusk.png", (0.35, 0.0, 0.6, 0.6), "s-log3", stops=1.9),
        Framed("q050 stalls", "night-market.exr", WHOLE, "acescg", ".exr"), Framed("q060 lamps", "night-market.exr", (0.3, 0.1, 0.5, 0.5), "acescg", ".exr"),
        Framed("q070 tubes", "night-market.exr", (0.0, 0.25, 0.6, 0.6), "acescg", ".exr"),
    ),
    ORCHARD: (
        Framed("o010 rows", "orchard-low-sun.png", WHOLE, "logc4"), Framed("o020 branch", "orchard-low-sun.png", (0.1, 0.0, 0.5, 0.5), "logc4"),
        Framed("o030 grass", "orchard-low-sun.png", (0.3, 0.45, 0.55, 0.55), "logc4"), Framed("o040 upright", "orchard-low-sun.png", (0.4, 0.1, 0.32, 0.9), "logc4"),
        Framed("o050 hill", "hillside-fog.png", WHOLE, "rec709"), Framed("o060 fog", "hillside-fog.png", (0.2, 0.1, 0.6, 0.6), "rec709"),
        Framed("o070 far", "hillside-fog.png", (0.0, 0.3, 0.9, 0.38), "rec709"),
    ),
    INSIDE: (
        Framed("i010 faces", "six-busts.png", WHOLE, "srgb"), Framed("i020 two", "six-busts.png", (0.05, 0.1, 0.5, 0.5), "srgb"),
        Framed("i030 three", "six-busts.png", (0.45, 0.2, 0.5, 0.5), "srgb", warm=-75.0), Framed("i040 table", "table-window.png", WHOLE, "srgb"),
        Framed("i050 bowl", "table-window.png", (0.3, 0.35, 0.5, 0.5), "srgb"), Framed("i060 linen", "table-window.png", (0.0, 0.3, 0.6, 0.6), "srgb"),
        Framed("i070 room", "room-window.png", WHOLE, "film-log", ".dpx"), Framed("i080 window", "room-window.png", (0.35, 0.1, 0.5, 0.5), "film-log", ".dpx"),
    ),
}  # fmt: skip
ROLLS = {"Camera A": "s-log3", "Camera B": "acescg", "Camera C": "logc4"}
LOOKS = {QUAY: ("Deck lamp", ""), ORCHARD: ("Bare branch", "thin"), INSIDE: ("Hearth", "full")}
"""What lies on each scene: a look, and which of its family."""
SEQUENCE = 16
LEFT_PLAIN = ("o070 far", "i060 linen")
NOTES = (
    ("q020 ferry", "nadia", "The windows of the ferry should stay the warmest thing here"), ("i010 faces", "marek", "Skin holds; approve once the window does"),
)  # fmt: skip


def make_project(ilse: Person, marek: Person, nadia: Person) -> None:
    """Twenty-five shots; looks on most of them, one waiting for its newer version, trims on some, notes."""
    project = projects.create(ilse, "The Salt Ferry", code="TSF")
    projects.change(ilse, project.pk, {"members": {marek.username: MemberRole.GRADES}})
    with tempfile.TemporaryDirectory() as folder:
        for scene, framed in FRAMED.items():
            wanted = [shots.NewShot(_bring_in(ilse, one, Path(folder)).pk, scene, one.name) for one in framed]
            wanted += [shots.NewShot(one.pk, scene, name) for one, name in _moving(ilse, scene, Path(folder))]
            shots.add_shots(ilse, project.pk, wanted)
    placed = {shot.code: shot for shot in projects.list_shots(project)}
    for scene, (look, member) in LOOKS.items():
        chosen = [shot.pk for shot in placed.values() if shot.scene.name == scene and shot.code not in LEFT_PLAIN]
        entry = Entry.objects.get(name=look, kind=Kind.LOOK, deleted=None)
        grading.put_look(ilse, project.pk, chosen, entry.pk, None, 1.0, stack=False, member=member)
    for roll, encoding in ROLLS.items():
        details.change_shots(
            ilse, project.pk, [one.pk for one in placed.values() if one.source_encoding == encoding], {"roll": roll}
        )
    _put_on_many(ilse, project.pk, sharing.Spot(Reach.ROLL, roll="Camera B"), {"kind": "tone", "exposure": 0.4})
    orchard = sharing.Spot(Reach.SCENE, scene=placed["o010 rows"].scene_id)
    _put_on_many(ilse, project.pk, orchard, {"kind": "white-balance", "warm": 6})
    _put_on_many(ilse, project.pk, sharing.Spot(Reach.PROJECT, LayerRole.AFTER), {"kind": "saturation", "factor": 0.96})
    _trim(ilse, project.pk, [placed["i080 window"]], {"kind": "tone", "exposure": -0.5}, {"kind": "white-balance", "warm": 8})
    grading.set_strength(ilse, project.pk, [placed["o040 upright"].pk], 0.6)
    details.change_shots(marek, project.pk, [placed["q010 wide"].pk, placed["o010 rows"].pk], {"approved": True})
    people = {"nadia": nadia, "marek": marek}
    for code, who, words in NOTES:
        notes.add_note(people[who], project.pk, placed[code].pk, words, None)
    _offer_newer(ilse, marek, LOOKS[INSIDE][0])
    misfits.measure_shots(project)


def _offer_newer(ilse: Person, marek: Person, name: str) -> None:
    """Another version of a look, published after it was put on shots: it is offered there, never slipped in."""
    entry = Entry.objects.get(name=name, kind=Kind.LOOK, deleted=None)
    draft = looks.draft_of(entry)
    content = looks.look_of_draft(draft)
    softer = look_from({"steps": [{"kind": "saturation", "factor": 0.88}, {"kind": "tone", "shoulder": -0.25}]}).steps
    looks.save_draft(ilse, entry.pk, content.model_copy(update={"steps": (*content.steps, *softer)}), draft.revision)
    version = looks.save_version(ilse, entry.pk, "Softer in the faces")
    for person, state in ((ilse, VersionState.PROPOSED), (marek, VersionState.PUBLISHED)):
        review.move(person, Kind.LOOK, entry.pk, version.number, state, "For the scenes inside")


def _put_on_many(ilse: Person, pk: int, spot: sharing.Spot, *steps: dict[str, object]) -> None:
    content = content_of(look_from({"steps": list(steps)}).steps)
    sharing.set_shared(ilse, pk, spot, [grading.item(spot.role, steps=content)])


def _trim(ilse: Person, pk: int, chosen: list[Shot], *steps: dict[str, object]) -> None:
    grading.set_trims(ilse, pk, [shot.pk for shot in chosen], look_from({"steps": list(steps)}).steps)


def _bring_in(ilse: Person, framed: Framed, folder: Path) -> Picture:
    """The part of the render as another camera would have stored it."""
    how = next(one for one in PICTURES if one.file == framed.picture)
    pixels = read_picture(FOLDER / how.file).pixels
    height, width = pixels.shape[:2]
    left, top, wide, high = (round(share * of) for share, of in zip(framed.box, (width, height, width, height), strict=True))
    part = np.ascontiguousarray(pixels[top : top + high, left : left + wide])
    source, target, light = ENCODINGS[how.encoding], ENCODINGS[framed.encoding], ENCODINGS["linear-709"]
    scene = convert(part, source, light)
    if source.referred == "display" and target.referred == "scene":
        operation = conversion(source, light, "soft")
        scene = through(operation, part) if operation is not None else scene
    if framed.stops or framed.warm:
        steps = [{"kind": "white-balance", "warm": framed.warm}, {"kind": "tone", "exposure": framed.stops}]
        scene = evaluate(prepare(look_from({"input": light.id, "output": light.id, "steps": steps})), scene)
    stored = convert(scene, light, target)
    path = folder / f"{framed.name.replace(' ', '-')}{framed.suffix}"
    write_picture(
        Pixels(stored if framed.suffix == ".exr" else np.clip(stored, 0, 1), "f16" if framed.suffix == ".exr" else "u16"), path
    )
    return pictures.bring_in(ilse, path, path.name, framed.name, framed.encoding)


def _moving(ilse: Person, scene: str, folder: Path) -> list[tuple[Picture, str]]:
    """The clips and the sequence of a scene, with their small copies."""
    found = []
    if scene == QUAY:
        found.append((_clip(ilse, "sea-road.mp4", "logc4"), "q080 sea road"))
        found.append((_sequence(ilse, folder), "q090 lamps by"))
    if scene == ORCHARD:
        found.append((_clip(ilse, "orchard-walk.mp4", ""), "o080 walk"))
    for picture, _ in found:
        kept = footage.of_picture(picture)
        footage.keep_proxy(kept.pk, *footage.make_proxy(kept), kept)
    return found


def _clip(ilse: Person, name: str, encoding: str) -> Picture:
    picture = footage.bring_in_clip(ilse, footage.Source(FOLDER / name, name))
    return pictures.change(ilse, picture.pk, None, pictures.Reading(encoding)) if encoding else picture


def _sequence(ilse: Person, folder: Path) -> Picture:
    names = []
    for number in range(1001, 1001 + SEQUENCE):
        names.append(f"lamps-by.{number}.exr")
        light = sea_road(2 * (number - 1001), 480, 270, start=40.0) * np.float32(0.3)
        write_picture(Pixels(light, "f16"), folder / names[-1])
    (numbered,), _ = find_sequences(names)
    return footage.bring_in_sequence(ilse, numbered, [footage.Source(folder / name, name) for name in names])
