"""Lists that go with a delivery: ASC CDLs, timelines, the looks themselves, a contact sheet, and the report of what was applied to what."""

from __future__ import annotations

import io
import json
import tempfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfgen.canvas import Canvas

from saucer import __version__
from saucer.core.bake.bake import Words, bake_file
from saucer.core.errors import SaucerError
from saucer.core.files.corrections import NAMESPACE, correction_lines, corrections, document
from saucer.core.files.fitting import WrittenLut
from saucer.core.files.registry import formats
from saucer.core.files.zips import pack_into
from saucer.core.look.bundle import lut_hashes
from saucer.core.look.model import Look
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Lut
from saucer.core.pictures.scale import unheard
from saucer.studio.baking.choices import FormatChoice
from saucer.studio.catalogue.models import Entry, Kind, Version
from saucer.studio.common.images import encoded
from saucer.studio.common.names import file_stem
from saucer.studio.encodings import rules as encodings
from saucer.studio.looks import rules as looks
from saucer.studio.luts.rules import at_hand
from saucer.studio.packing.rules import PackChoice, Packed, held_back
from saucer.studio.packing.whole import members_of_pack
from saucer.studio.pictures.footage import frame_at
from saucer.studio.pictures.models import Footage
from saucer.studio.presets.rules import steps_of
from saucer.studio.projects import showing
from saucer.studio.projects.delivering.planning import rate_of_shot, values_of
from saucer.studio.projects.models import DeliveryItem, LayerRole, Project, Shot
from saucer.studio.projects.stacking import in_order
from saucer.studio.projects.timelines import Placed, as_edit_list, as_otio, timeline_of


@dataclass(frozen=True)
class Fitted:
    """The trims of a shot as one ASC CDL. mean, largest: by how much colours differ from the trims, of the whole range"""

    cdl: Cdl
    mean: float
    largest: float

    @property
    def words(self) -> str:
        return f"the trims as one CDL: off by {self.mean:.2g} on average, {self.largest:.2g} at most (1 is the whole range)"


def fit_trims(shot: Shot) -> Fitted | None:
    """None without trims of its own. Raises: SaucerError where no CDL comes near (a step that mixes, a spatial one)"""
    own = next(
        (one for one in in_order(shot.layers.all()) if one.role == LayerRole.BEFORE and one.version is None and one.enabled), None
    )
    if own is None or not own.steps:
        return None
    at = shot.source_encoding
    own_encodings = tuple(one for one in encodings.definitions() if one.id == at)
    look = Look(input=at, output=at, encodings=own_encodings, steps=steps_of(own.steps, "trims"))
    made: WrittenLut = bake_file(look, formats()["ccc"], 33, Words(title=shot.code), luts=at_hand)
    return Fitted(corrections(made.data)[0].cdl, made.mean if made.lost else 0.0, made.largest if made.lost else 0.0)


def cdl_collection(project: Project, shots: Sequence[Shot]) -> tuple[bytes, dict[int, Fitted], list[str]]:
    """A .ccc with a correction for each shot that has trims; the fits by shot; what could not be said as one, in words."""
    lines, fits, left = [], {}, []
    for shot in shots:
        try:
            found = fit_trims(shot)
        except SaucerError as error:
            left.append(f"{shot.code}: no CDL comes near its trims: {error.problem}")
            continue
        if found is None:
            continue
        fits[shot.pk] = found
        title = f"{shot.scene.name} {shot.code}"
        words = (f"{project.name}: {shot.source_encoding}", *((found.words,) if found.largest > 0 else ()))
        lines += [f"  {line}" for line in correction_lines(Lut(title=title, comments=words, links=(found.cdl,)), namespace=False)]
    content = [f'<ColorCorrectionCollection xmlns="{NAMESPACE}">', *lines, "</ColorCorrectionCollection>"]
    return document(content), fits, left


def placed_of(
    project: Project, shots: Sequence[Shot], items: Sequence[DeliveryItem], fits: dict[int, Fitted], number: int
) -> list[Placed]:
    """Shots in story order as they stand in a timeline, by their delivered clip, sequence or still."""
    by_shot: dict[int, DeliveryItem] = {}
    for item in items:
        if item.shot_id is not None and (item.shot_id not in by_shot or item.kind == "clip"):
            by_shot[item.shot_id] = item
    found = []
    for shot in shots:
        delivered = by_shot.get(shot.pk)
        applied = delivered.applied if delivered else {}
        moving: Footage | None = showing.footage_of(shot)
        rate = rate_of_shot(shot)
        count = shot.last - shot.first + 1 if shot.first is not None and shot.last is not None else round(rate)
        # As the delivered clip counts: by its timecode where it has one, else from its first frame.
        start = frame_at(moving, shot.first) if moving is not None and shot.first is not None and moving.timecode else 0
        told = {name: applied[name] for name in ("look_hash", "layers", "encoding", "source_encoding") if name in applied}
        fit, values = fits.get(shot.pk), values_of(project, shot, "", number)
        found.append(Placed(
            name=shot.code, file=delivered.file_name if delivered else shot.picture.file_name, start=start, count=count, rate=rate,
            scene=shot.scene.name, reel=str(shot.facts.get("reel", "")), cdl=fit.cdl if fit else None, applied=told | values,
        ))  # fmt: skip
    return found


def _held_back(version: Version) -> str:
    """Why its rights, or those of a LUT that it uses, do not let it leave as a file."""
    entries = [version.entry]
    if version.entry.kind == Kind.LOOK:
        used = lut_hashes(looks.look_of(version))
        entries += Entry.objects.filter(kind=Kind.LUT, versions__luts__files__blob__in=used, deleted=None).distinct()
    return next((why for one in entries if (why := held_back(one))), "")


def looks_pack(
    project: Project, number: int, by: str, items: Sequence[DeliveryItem], form: str, left: list[str]
) -> tuple[str, bytes] | None:
    """Every look, LUT and preset that was applied, as a pack, in the newest version that was; none where rights hold back all of them.

    form: a format's id, in which each of them is there as a file too
    """
    named = {(layer["entry"], layer["version"]) for item in items for layer in item.applied.get("layers", ()) if "entry" in layer}
    pinned: dict[int, Version] = {}
    for entry, version in sorted(named):  # the newest last
        found = Version.objects.select_related("entry__category").filter(entry=entry, number=version).first()
        if found is not None:
            pinned[entry] = found
    leaving = []
    for pk, version in pinned.items():
        if why := _held_back(version):
            left.append(f"{version.entry.name} is applied, and stays here itself: {why}")
        else:
            leaving.append(pk)
    if not leaving:
        return None
    title = f"Looks of {project.name}, delivery {number}"[:120]
    packed = Packed(PackChoice(entries=leaving, formats=[FormatChoice(format=form)], title=title), pinned=pinned)
    with tempfile.NamedTemporaryFile(suffix=".zip") as file:
        pack_into(Path(file.name), members_of_pack(packed, [pinned[pk].entry for pk in leaving], by, unheard), level=6)
        left += [f"{one.name}: {one.why}" for one in packed.left_out]
        return f"{file_stem(title)}.zip", Path(file.name).read_bytes()


def timelines(project: Project, placed: Sequence[Placed]) -> tuple[bytes, bytes]:
    """The OpenTimelineIO file and the edit list."""
    whole = timeline_of(project.name, placed)
    return as_otio(whole), as_edit_list(whole)


COLUMNS, ROWS, MARGIN, GAP = 4, 3, 36.0, 14.0


def contact_sheet(project: Project, number: int, shots: Sequence[Shot], report: Callable[[float], None]) -> bytes:
    """A PDF of every shot through what lies on it, twelve a page, with its name and its look."""
    packed = io.BytesIO()
    width, height = landscape(A4)
    canvas = Canvas(packed, pagesize=(width, height), invariant=1)
    canvas.setTitle(f"{project.name}, delivery {number}")
    cell = (width - 2 * MARGIN - (COLUMNS - 1) * GAP) / COLUMNS
    tall = (height - 2 * MARGIN - 24 - (ROWS - 1) * GAP) / ROWS
    for index, shot in enumerate(shots):
        place = index % (COLUMNS * ROWS)
        if place == 0:
            if index:
                canvas.showPage()
            canvas.setFont("Helvetica-Bold", 11)
            canvas.drawString(MARGIN, height - MARGIN, f"{project.name}, delivery {number}"[:90])
            canvas.setFont("Helvetica", 8)
            pages = -(-len(shots) // (COLUMNS * ROWS))
            canvas.drawRightString(width - MARGIN, height - MARGIN, f"{index // (COLUMNS * ROWS) + 1} of {pages}")
        left = MARGIN + (place % COLUMNS) * (cell + GAP)
        top = height - MARGIN - 24 - (place // COLUMNS) * (tall + GAP)
        _draw_shot(canvas, shot, left, top, cell, tall)
        report((index + 1) / len(shots))
    canvas.save()
    return packed.getvalue()


def _draw_shot(canvas: Canvas, shot: Shot, left: float, top: float, cell: float, tall: float) -> None:
    layers = list(shot.layers.all())
    codes = showing.pixels(shot, layers, 480)
    room = tall - 24
    scale = min(cell / codes.shape[1], room / codes.shape[0])
    wide, high = codes.shape[1] * scale, codes.shape[0] * scale
    canvas.drawImage(ImageReader(io.BytesIO(encoded(codes, "jpeg"))), left, top - high, wide, high)
    canvas.setFont("Helvetica-Bold", 7.5)
    canvas.drawString(left, top - high - 10, simpleSplit(f"{shot.scene.name}: {shot.code}", "Helvetica-Bold", 7.5, cell)[0])
    words = " + ".join(
        f"{one.version.entry.name} v{one.version.number}" for one in in_order(layers) if one.enabled and one.version is not None
    )
    canvas.setFont("Helvetica", 7)
    canvas.drawString(left, top - high - 19, (simpleSplit(words or "no look", "Helvetica", 7, cell) or [""])[0])


def report_of(
    project: Project, number: int, by: str, items: Sequence[DeliveryItem], left: Sequence[str], more: dict[str, Any]
) -> bytes:
    """What was applied to what, with the hash of every file, as JSON."""
    files = [
        {
            "file": item.file_name, "kind": item.kind, "sha256": item.blob_id, "shot": item.applied.get("shot", ""),
            "scene": item.applied.get("scene", ""), "source": item.applied.get("picture_name", ""), "frame": item.frame,
            "source_sha256": item.applied.get("source", ""), "source_encoding": item.applied.get("source_encoding", ""),
            "encoding": item.applied.get("encoding", ""), "look": item.applied.get("look_hash", ""),
            "layers": item.applied.get("layers", []), **item.facts,
        }
        for item in items
    ]  # fmt: skip
    content = {
        "format": "saucer-delivery", "made_with": f"Saucer {__version__}", "project": project.name, "code": project.code,
        "delivery": number, "by": by, "files": files, "left_out": list(left), **more,
    }  # fmt: skip
    return (json.dumps(content, indent=2, ensure_ascii=False) + "\n").encode()
