"""Lists that go with a delivery: ASC CDLs, timelines, the looks themselves, a contact sheet, and the report of what was applied to what."""

from __future__ import annotations

import hashlib
import io
import json
import tempfile
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfgen.canvas import Canvas

from saucer import __version__
from saucer.core.bake.bake import Words, bake_file
from saucer.core.engine.plan import prepare
from saucer.core.errors import SaucerError
from saucer.core.files.corrections import NAMESPACE, correction_lines, corrections
from saucer.core.files.corrections import document as xml_document
from saucer.core.files.fitting import WrittenLut
from saucer.core.files.registry import formats
from saucer.core.files.zips import pack_into
from saucer.core.look.stack import Layer as Part
from saucer.core.look.stack import stack
from saucer.core.lut.formulas import Cdl
from saucer.core.lut.table import Lut
from saucer.core.pictures.scale import unheard
from saucer.studio.baking.choices import FormatChoice
from saucer.studio.catalogue.models import Entry, Version
from saucer.studio.common.images import encoded
from saucer.studio.common.names import file_stem
from saucer.studio.common.pdf import make_canvas
from saucer.studio.luts.rights import words_of
from saucer.studio.luts.rules import at_hand
from saucer.studio.packing.rules import PackChoice, Packed, look_into
from saucer.studio.packing.whole import members_of_pack
from saucer.studio.pictures.footage import frame_at
from saucer.studio.presets.rules import steps_of
from saucer.studio.projects.conform.writing import Placed, as_edit_list, as_otio, timeline_of
from saucer.studio.projects.deliver.frozen import Frozen, FrozenNote, FrozenShot, correction_in
from saucer.studio.projects.grade import seeing
from saucer.studio.projects.models import DeliveryItem


@dataclass(frozen=True)
class Fitted:
    """The correction of a shot as one ASC CDL. mean, largest: by how much colours differ from it, of the whole range

    after: what the picture has gone through where the CDL works, in words; empty where it works on the picture as it comes
    """

    cdl: Cdl
    mean: float
    largest: float
    after: str = ""

    @property
    def words(self) -> str:
        return f"the correction as one CDL: off by {self.mean:.2g} on average, {self.largest:.2g} at most (1 is the whole range)"


def fit_trims(document: Frozen, shot: FrozenShot) -> Fitted | None:
    """None without a correction. Raises: SaucerError where no CDL comes near (a step that mixes, a spatial one)"""
    place = correction_in(shot.layers)
    if place is None:
        return None
    at = shot.corrected_in or shot.encoding
    parts = [
        Part(one.name, steps_of(one.steps or [], "trims"), one.strength, one.enabled)
        for one in shot.layers[place.first : place.end]
        if one.steps is not None
    ]
    look = stack(at, parts, at, document.encodings, shot.code)
    if not look.steps:
        return None
    made: WrittenLut = bake_file(look, formats()["ccc"], 33, Words(title=shot.code), luts=at_hand)
    after = ", ".join(one.words for one in shot.layers[: place.first] if one.acts)
    return Fitted(corrections(made.data)[0].cdl, made.mean if made.lost else 0.0, made.largest if made.lost else 0.0, after)


def _beside(shot: FrozenShot) -> list[str]:
    """Corrections that stand elsewhere in the chain, which no CDL of the shot says."""
    place = correction_in(shot.layers)
    if place is None:
        return []
    outside = [*shot.layers[: place.first], *shot.layers[place.end :]]
    return [one.words for one in outside if one.acts and one.steps]


def cdl_collection(document: Frozen) -> tuple[bytes, dict[int, Fitted], list[str]]:
    """A .ccc with a correction for each shot that has one; the fits by the shot's place; what could not be said as one, in words."""
    lines, fits, left = [], {}, []
    for place, shot in enumerate(document.shots):
        try:
            found = fit_trims(document, shot)
        except SaucerError as error:
            left.append(f"{shot.code}: no CDL comes near its correction: {error.problem}")
            continue
        left += [f"{shot.code}: {words} stands elsewhere in the chain and is in no CDL" for words in _beside(shot)]
        if found is None:
            continue
        fits[place] = found
        works_in = f"{document.project}: {shot.corrected_in or shot.encoding}"
        words = (f"{works_in}, after {found.after}" if found.after else works_in, *((found.words,) if found.largest > 0 else ()))
        lut = Lut(title=shot.named, comments=words, links=(found.cdl,))
        lines += [f"  {line}" for line in correction_lines(lut, namespace=False)]
    content = [f'<ColorCorrectionCollection xmlns="{NAMESPACE}">', *lines, "</ColorCorrectionCollection>"]
    return xml_document(content), fits, left


def placed_of(document: Frozen, items: Sequence[DeliveryItem], fits: dict[int, Fitted]) -> list[Placed]:
    """Shots in story order as they stand in a timeline, by their delivered clip, sequence or still."""
    by_place = _media_of(document, items)
    return [_place(shot, by_place.get(place), fits.get(place)) for place, shot in enumerate(document.shots)]


def _place(shot: FrozenShot, delivered: DeliveryItem | None, fit: Fitted | None) -> Placed:
    moving = shot.footage if shot.first is not None else None
    count = shot.last - shot.first + 1 if shot.first is not None and shot.last is not None else round(shot.rate)
    start, numbered = 0, None
    if moving is not None and shot.first is not None:
        if delivered is not None and delivered.kind == "frame" and delivered.frame is not None:
            start = numbered = moving.first + delivered.frame
        elif moving.timecode:
            # As the delivered clip counts: by its timecode where it has one, else from its first frame.
            start = frame_at(moving, shot.first)
    notes = tuple((start + max(_frame_in(shot, one), 0), f"{one.by}: {one.words}" if one.by else one.words) for one in shot.notes)
    told = {"look_hash": shot.look, "layers": _told_layers(shot), "source_encoding": shot.encoding}
    return Placed(
        name=shot.code, file=delivered.file_name if delivered else shot.picture.file_name, start=start, count=count, rate=shot.rate,
        scene=shot.scene, reel=shot.reel, numbered=numbered, cdl=fit.cdl if fit else None, notes=notes, applied=told | shot.fields,
    )  # fmt: skip


def _frame_in(shot: FrozenShot, note: FrozenNote) -> int:
    """Of a note, counted from the first frame of the shot; what is said of all of it stands at its beginning."""
    return 0 if note.frame is None else note.frame - (shot.first or 0)


def _media_of(document: Frozen, items: Sequence[DeliveryItem]) -> dict[int, DeliveryItem]:
    """What of a delivery stands for each shot in a timeline: its clip, else the first of its frames; the still of a still."""
    found: dict[int, DeliveryItem] = {}
    for item in items:
        if item.place is None:
            continue
        wanted = ("clip", "frame") if document.shots[item.place].first is not None else ("still",)
        known = found.get(item.place)
        if item.kind in wanted and (known is None or wanted.index(item.kind) < wanted.index(known.kind)):
            found[item.place] = item
    return found


def _told_layers(shot: FrozenShot) -> list[dict[str, Any]]:
    return [one.model_dump(mode="json", exclude_none=True) for one in shot.layers]


def looks_pack(document: Frozen, form: str, left: list[str]) -> tuple[str, bytes] | None:
    """Every look, LUT and preset that was applied, as a pack, in the newest version that was; none where rights hold back all of them.

    form: a format's id, in which each of them is there as a file too. Rights count as they were, and as they are.
    """
    newest: dict[int, int] = {}
    for layer in (layer for shot in document.shots for layer in shot.layers):
        if layer.entry is not None and layer.version is not None:
            newest[layer.entry] = max(layer.version, newest.get(layer.entry, 0))
    leaving = []
    for one in look_into(_versions(newest)):
        said = document.entries[one.entry.pk]
        if why := one.why or words_of(said.may_pass_on, said.pass_on_until):
            left.append(f"{said.name} is applied, and stays here itself: {why}")
        else:
            leaving.append(one)
    if not leaving:
        return None
    title = f"Looks of {document.project}, delivery {document.number}"[:120]
    choice = PackChoice(entries=[one.entry.pk for one in leaving], formats=[FormatChoice(format=form)], title=title)
    packed = Packed(choice, told=document.entries)
    with tempfile.NamedTemporaryFile(suffix=".zip") as file:
        pack_into(Path(file.name), members_of_pack(packed, leaving, document.by, unheard), level=6)
        left += [f"{one.name}: {one.why}" for one in packed.left_out]
        return f"{file_stem(title)}.zip", Path(file.name).read_bytes()


def _versions(numbers: dict[int, int]) -> list[tuple[Entry, Version | None]]:
    """One version of each of these entries, in the order of their names."""
    found = Version.objects.filter(entry__in=numbers).select_related("entry__category", "entry__character", "entry__published")
    chosen = [one for one in found.order_by("entry__name", "entry") if numbers[one.entry_id] == one.number]
    return [(one.entry, one) for one in chosen]


def timelines(document: Frozen, placed: Sequence[Placed]) -> tuple[bytes, bytes, list[str]]:
    """The OpenTimelineIO file and the edit list; what the list counts otherwise, in words."""
    edit_list, words = as_edit_list(placed, document.project)
    return as_otio(timeline_of(document.project, placed)), edit_list, words


SMALL = 480
"""Pixels across a shot, where it only stands for its files."""
COLUMNS, ROWS, MARGIN, GAP = 4, 3, 36.0, 14.0


def contact_sheet(document: Frozen, report: Callable[[float], None]) -> bytes:
    """A PDF of every shot through what lay on it, twelve a page, with its name and its look."""
    packed, shots = io.BytesIO(), document.shots
    width, height = landscape(A4)
    canvas = make_canvas(packed, (width, height))
    canvas.setTitle(f"{document.project}, delivery {document.number}")
    cell = (width - 2 * MARGIN - (COLUMNS - 1) * GAP) / COLUMNS
    tall = (height - 2 * MARGIN - 24 - (ROWS - 1) * GAP) / ROWS
    for index, shot in enumerate(shots):
        place = index % (COLUMNS * ROWS)
        if place == 0:
            if index:
                canvas.showPage()
            canvas.setFont("Helvetica-Bold", 11)
            canvas.drawString(MARGIN, height - MARGIN, f"{document.project}, delivery {document.number}"[:90])
            canvas.setFont("Helvetica", 8)
            pages = -(-len(shots) // (COLUMNS * ROWS))
            canvas.drawRightString(width - MARGIN, height - MARGIN, f"{index // (COLUMNS * ROWS) + 1} of {pages}")
        left = MARGIN + (place % COLUMNS) * (cell + GAP)
        top = height - MARGIN - 24 - (place // COLUMNS) * (tall + GAP)
        _draw_shot(canvas, document, shot, left, top, cell, tall)
        report((index + 1) / len(shots))
    canvas.save()
    return packed.getvalue()


def picture_of(document: Frozen, frozen: FrozenShot) -> np.ndarray:
    """(h, w, 3) uint8 sRGB: the shot as it was delivered, small. Raises: SaucerError, NotFound"""
    plan = prepare(document.look_of(frozen, seen=True), at_hand)
    return seeing.through(plan, seeing.source_of(frozen.as_shot(), SMALL), frozen.poster or 0)


def _draw_shot(canvas: Canvas, document: Frozen, frozen: FrozenShot, left: float, top: float, cell: float, tall: float) -> None:
    codes = picture_of(document, frozen)
    room = tall - 24
    scale = min(cell / codes.shape[1], room / codes.shape[0])
    wide, high = codes.shape[1] * scale, codes.shape[0] * scale
    canvas.drawImage(ImageReader(io.BytesIO(encoded(codes, "jpeg"))), left, top - high, wide, high)
    canvas.setFont("Helvetica-Bold", 7.5)
    canvas.drawString(left, top - high - 10, simpleSplit(f"{frozen.scene}: {frozen.code}", "Helvetica-Bold", 7.5, cell)[0])
    words = " + ".join(f"{one.name} v{one.version}" for one in frozen.layers if one.acts and one.version is not None)
    canvas.setFont("Helvetica", 7)
    canvas.drawString(left, top - high - 19, (simpleSplit(words or "no look", "Helvetica", 7, cell) or [""])[0])


def report_of(
    document: Frozen, items: Sequence[DeliveryItem], listed: Mapping[str, bytes], left: Sequence[str], more: dict[str, Any]
) -> bytes:
    """What was applied to what, with the hash of every file and what was noted, as JSON. listed: the other lists, by their names"""
    content = {
        "format": "saucer-delivery", "made_with": f"Saucer {__version__}", "project": document.project, "code": document.code,
        "delivery": document.number, "by": document.by, "asked": document.asked.isoformat(),
        "files": [_told_file(item, document.shots[item.place], document) for item in items if item.place is not None],
        "lists": [{"file": name, "sha256": hashlib.sha256(data).hexdigest()} for name, data in listed.items()],
        "notes": {shot.named: [one.model_dump(mode="json") for one in shot.notes] for shot in document.shots if shot.notes},
        "left_out": list(left), **more,
    }  # fmt: skip
    return (json.dumps(content, indent=2, ensure_ascii=False) + "\n").encode()


def _told_file(item: DeliveryItem, shot: FrozenShot, document: Frozen) -> dict[str, Any]:
    return {
        "file": item.file_name, "kind": item.kind, "sha256": item.blob_id, "shot": shot.code, "scene": shot.scene,
        "source": shot.picture.name, "frame": item.frame, "source_sha256": shot.picture.sha256, "source_encoding": shot.encoding,
        "encoding": document.encoding, "look": shot.look, "layers": _told_layers(shot), **item.facts,
    }  # fmt: skip
