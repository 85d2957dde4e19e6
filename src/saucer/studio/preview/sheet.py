"""A look as a printed sheet: pictures before and after, its steps in words, what it does on the whole, and the files baked from it."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from django.utils import timezone
from reportlab.lib.pagesizes import A4
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfgen.canvas import Canvas

from saucer import __version__
from saucer.core.colour.encodings import ENCODINGS
from saucer.core.engine.grade import Grade
from saucer.core.engine.plan import Plan, prepare
from saucer.core.look.family import as_member, describe_member, named
from saucer.core.look.model import Look
from saucer.core.lut.apply import to_codes
from saucer.core.reports.fingerprint import draw_look
from saucer.core.reports.telling import tell_steps
from saucer.studio.baking.rules import list_bakes
from saucer.studio.catalogue.models import Character, Entry, Version, VersionState
from saucer.studio.common.images import encoded
from saucer.studio.common.pdf import make_canvas
from saucer.studio.looks.rules import look_of
from saucer.studio.luts.rules import at_hand
from saucer.studio.pictures.models import Picture
from saucer.studio.pictures.rules import proxy_in
from saucer.studio.preview.bench import MOST_ADVISED
from saucer.studio.preview.entries import frame, grade_of_version

MOST = 4
"""Pictures, before and after, on a sheet."""
MARGIN, GAP = 40.0, 10.0
BODY, SMALL, HEAD, TITLE = 9.0, 7.5, 11.0, 17.0
PLAIN, BOLD = "Helvetica", "Helvetica-Bold"
SOFT, INK = (0.4, 0.4, 0.4), (0.08, 0.08, 0.08)
NUMBERS = (
    ("warmth", "warmer by {:+.1f}"), ("lightness", "brighter by {:+.1f}"), ("contrast", "contrast x {:.2f}"), ("colour", "colour x {:.2f}"),
)  # fmt: skip
"""Of a character, as the page of the entry has them."""


@dataclass
class _Sheet:
    """A canvas and how far down it is filled; what does not fit begins a new page."""

    canvas: Canvas
    title: str
    y: float = 0.0
    page: int = 0

    def begin_page(self) -> None:
        if self.page:
            self.canvas.showPage()
        self.page += 1
        self.y = A4[1] - MARGIN
        self.canvas.setFillColorRGB(*SOFT)
        self.canvas.setFont(PLAIN, SMALL)
        self.canvas.drawString(MARGIN, MARGIN - 16, self.title)
        self.canvas.drawRightString(A4[0] - MARGIN, MARGIN - 16, str(self.page))
        self.canvas.setFillColorRGB(*INK)

    def need(self, height: float) -> None:
        if self.y - height < MARGIN:
            self.begin_page()

    def write(self, text: str, size: float = BODY, font: str = PLAIN, left: float = 0.0, soft: bool = False) -> None:
        """A paragraph, as wide as what is left of the page."""
        for line in simpleSplit(text, font, size, A4[0] - 2 * MARGIN - left):
            self.need(size * 1.35)
            self.canvas.setFont(font, size)
            self.canvas.setFillColorRGB(*(SOFT if soft else INK))
            self.y -= size * 1.35
            self.canvas.drawString(MARGIN + left, self.y, line)

    def head(self, text: str) -> None:
        self.need(HEAD * 4)
        self.y -= HEAD
        self.write(text, HEAD, BOLD)
        self.y -= 7

    def picture(self, codes: np.ndarray, left: float, top: float, width: float) -> float:
        """Returns: how high it is"""
        height = width * codes.shape[0] / codes.shape[1]
        self.canvas.drawImage(ImageReader(io.BytesIO(encoded(codes, "jpeg", 92))), left, top - height, width, height)
        return height


def draw_sheet(entry: Entry, version: Version, pictures: Sequence[Picture], member: str = "") -> bytes:
    """A PDF of one page or more. member: which of the look's family

    Raises: LookError where there is no such member; SaucerError where the look cannot be made ready
    """
    whole, packed = look_of(version), io.BytesIO()
    look = as_member(whole, member)
    plan, name = prepare(look, at_hand), named(entry.name, member)
    canvas = make_canvas(packed, A4)
    canvas.setTitle(f"{name}, version {version.number}")
    printed = timezone.localdate().isoformat()
    sheet = _Sheet(canvas, f"{name[:70]}, version {version.number} - printed {printed} with Saucer {__version__}")
    sheet.begin_page()
    _draw_head(sheet, entry, version, look, name)
    _draw_family(sheet, whole, member)
    _draw_pictures(sheet, grade_of_version(version, member=member), pictures[:MOST])
    _draw_steps(sheet, plan, pictures[:1])
    if not member:
        _draw_character(sheet, entry, version)
    _draw_files(sheet, entry, member)
    canvas.save()
    return packed.getvalue()


def _draw_head(sheet: _Sheet, entry: Entry, version: Version, look: Look, name: str) -> None:
    disc, top = 58.0, sheet.y
    image = draw_look(look, 256, at_hand)
    sheet.canvas.drawImage(ImageReader(io.BytesIO(encoded(image, "png"))), MARGIN, top - disc, disc, disc, mask="auto")
    left = disc + 14
    sheet.write(name, TITLE, BOLD, left)
    by = entry.author or (entry.owner.shown_name if entry.owner else "")
    said = [f"Look, version {version.number}", VersionState(version.state).label.lower(), f"made {version.made.date().isoformat()}"]
    sheet.write(", ".join([*said, *([f"by {by}"] if by else [])]), BODY, PLAIN, left, soft=True)
    names = [look.encoding(one).name for one in (look.input, look.output)]
    sheet.write(f"In: {names[0]}. Out: {names[1]}." + (f" {version.note}" if version.note else ""), BODY, PLAIN, left, soft=True)
    sheet.y = min(sheet.y, top - disc) - GAP
    if entry.note:
        sheet.write(entry.note)


def _draw_family(sheet: _Sheet, whole: Look, member: str) -> None:
    """In what the one that is printed differs from the recipe; on the recipe's sheet, in what each of its family does."""
    names = [member] if member else [one.name for one in whole.family]
    if not names:
        return
    sheet.head("Beside the recipe" if member else "Its family")
    for name in names:
        changes = describe_member(whole, name) or ["As the recipe"]
        if not member:
            sheet.write(name, BODY, BOLD)
        for line in changes:
            sheet.write(line, SMALL, soft=True, left=0 if member else 16)


def _draw_pictures(sheet: _Sheet, grade: Grade, pictures: Sequence[Picture]) -> None:
    if not pictures:
        return
    width = (A4[0] - 2 * MARGIN - GAP) / 2
    sheet.head("Before and after")
    for one in pictures:
        after = frame(grade, one)
        before = to_codes(proxy_in(one, ENCODINGS["srgb"], view=grade.view), np.uint8)
        sheet.need(width * after.shape[0] / after.shape[1] + 24)
        top = sheet.y
        height = sheet.picture(before, MARGIN, top, width)
        sheet.picture(after, MARGIN + width + GAP, top, width)
        sheet.y = top - height - 1
        sheet.write(one.name, SMALL, soft=True)
        sheet.y -= 5


def _draw_steps(sheet: _Sheet, plan: Plan, pictures: Sequence[Picture]) -> None:
    told: dict[str, str] = {}
    for one in pictures:
        flat = proxy_in(one, plan.source, view=plan.view).reshape(-1, 3)
        some = np.ascontiguousarray(flat[:: max(1, len(flat) // MOST_ADVISED)])[None]
        told = {each.path: each.words for each in tell_steps(_without_places(plan), some)}
    sheet.head("Steps")
    stages = [stage for stage in plan.walk() if stage.step.enabled]
    if not stages:
        sheet.write("None.", soft=True)
    for stage in stages:
        strength = "" if stage.strength == 1 else f", at {stage.strength * 100:.0f} %"
        left = 12.0 * (len(stage.place) - 1)
        sheet.write(f"{stage.number}  {stage.title}{strength}", BODY, BOLD, left)
        for words in (told.get(stage.path, ""), stage.step.note):
            if words:
                sheet.write(words, SMALL, PLAIN, left + 16, soft=True)


def _without_places(plan: Plan) -> Plan:
    """What spreads over a picture is not told on a sample of it."""
    return Plan(tuple(stage for stage in plan.stages if not stage.spatial), plan.start)


def _draw_character(sheet: _Sheet, entry: Entry, version: Version) -> None:
    found = Character.objects.filter(entry=entry).first()
    if found is None or entry.latest_id != version.pk:
        return
    sheet.head("What it does on the whole")
    numbers = ", ".join(words.format(getattr(found, name)) for name, words in NUMBERS)
    sheet.write(", ".join(found.words) or "Nothing that has a word.")
    sheet.write(numbers, SMALL, soft=True)


def _draw_files(sheet: _Sheet, entry: Entry, member: str) -> None:
    bakes = [lut for lut in list_bakes(entry) if (lut.choice or {}).get("member", "") == member]
    if not bakes:
        return
    sheet.head("Files baked from it")
    for lut in bakes:
        sheet.write(f"{lut.kind}, {lut.size} nodes, {lut.expects} to {lut.gives}, of version {lut.version.number}")
        for file in lut.files.all():
            sheet.write(f"{file.file_name}  SHA-256 {file.blob_id}", SMALL, soft=True, left=12)
