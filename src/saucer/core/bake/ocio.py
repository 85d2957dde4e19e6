"""An OpenColorIO configuration (version 2) of encodings and looks: text that names files, and the files.

Source: the OpenColorIO configuration syntax, profile version 2 (opencolorio.readthedocs.io, "Config syntax"). The files are in the
Common LUT Format (SMPTE ST 2136-1). Strings are written as JSON writes them, which YAML 1.2 reads (section 1.3 of its specification).
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from saucer.core.bake.bake import bake
from saucer.core.colour.adaptation import BRADFORD, adaptation
from saucer.core.colour.conversion import is_rendered
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.primaries import AP0, BT709, Primaries, rgb_to_rgb, rgb_to_xyz, xyz_of
from saucer.core.colour.rendering import View
from saucer.core.files.fitting import write_lut
from saucer.core.files.format import PLAIN
from saucer.core.files.registry import formats
from saucer.core.look.model import look_from
from saucer.core.lut.formulas import HALF_CODES, HalfCurve, Matrix
from saucer.core.lut.table import Link, Lut

CONFIG = "config.ocio"
REFERENCE = ENCODINGS["aces2065-1"]
SPACES, VIEWS = "spaces", "views"
SHOWN = ("srgb", "rec709")
"""Encodings of the displays that the configuration has views for."""
VIEW_SIZE = 65
XYZ = "CIE XYZ D65"
ROLES = {
    "default": "aces2065-1", "reference": "aces2065-1", "aces_interchange": "aces2065-1", "scene_linear": "acescg", "rendering": "acescg",
    "compositing_log": "acescct", "color_timing": "acescct", "color_picking": "srgb", "texture_paint": "srgb", "matte_paint": "srgb",
}  # fmt: skip
"""Names of roles, of the syntax, and the encodings that have them. Common practice, no source."""


@dataclass(frozen=True)
class ConfigLook:
    """A look as the configuration offers it. file: path of the LUT in the configuration; words: what is said of it

    view: by which it was made to be seen, and goes back between a display and its process space
    """

    name: str
    file: str
    expects: Encoding
    gives: Encoding
    words: str = ""
    view: View = "plain"

    @property
    def is_rendered(self) -> bool:
        """Does more than a plain conversion stand between its ends?"""
        return is_rendered(self.gives, self.expects, self.view)


def name_of(encoding: Encoding) -> str:
    """Its name without the signs that lists of names are cut at."""
    return _plain(encoding.name)


def _plain(text: str) -> str:
    return " ".join("".join(" " if letter in ',:|$%"\\' or not letter.isprintable() else letter for letter in text).split())


def names_for(looks: Sequence[str]) -> list[str]:
    """Names that are no syntax in a list of looks, each once, in the same order."""
    taken: set[str] = set()
    found = []
    for number, text in enumerate(looks, 1):
        name = _plain(text).lstrip("+-") or f"Look {number}"
        wanted, again = name, 2
        while wanted.lower() in taken:
            wanted, again = f"{name} {again}", again + 1
        taken.add(wanted.lower())
        found.append(wanted)
    return found


def space_files(encoding: Encoding) -> Iterator[tuple[str, bytes]]:
    """The ways between an encoding and ACES2065-1 as files. One is enough where it is all formulas, which can be gone back exactly."""
    if encoding.id == REFERENCE.id:
        return
    form = formats()["clf"]
    forth = Lut(links=to_reference(encoding), title=f"{encoding.name} to ACES2065-1")
    yield _path(encoding, "to"), form.write(forth, PLAIN)
    if not _has_formulas(encoding):
        back = Lut(links=from_reference(encoding), title=f"ACES2065-1 to {encoding.name}")
        yield _path(encoding, "from"), form.write(back, PLAIN)


def to_reference(encoding: Encoding) -> tuple[Link, ...]:
    """From code values to ACES2065-1 as links of a LUT; formulas where the standard has them, else a half-float curve."""
    curve: tuple[Link, ...] = (
        encoding.transfer.formulas[0] if encoding.transfer.formulas is not None else (_half(encoding, decode=True),)
    )
    return (*curve, matrix_between(encoding.primaries, AP0))


def from_reference(encoding: Encoding) -> tuple[Link, ...]:
    """From ACES2065-1 to code values."""
    curve: tuple[Link, ...] = (
        encoding.transfer.formulas[1] if encoding.transfer.formulas is not None else (_half(encoding, decode=False),)
    )
    return (matrix_between(AP0, encoding.primaries), *curve)


def matrix_between(source: Primaries, target: Primaries) -> Matrix:
    """Bradford-adapted, from one linear RGB to another."""
    rows = [tuple(float(value) for value in row) for row in rgb_to_rgb(source, target)]
    return Matrix((rows[0], rows[1], rows[2]))  # type: ignore[arg-type]


def _half(encoding: Encoding, decode: bool) -> HalfCurve:
    codes = np.arange(HALF_CODES, dtype=np.uint16).view(np.float16).astype(np.float64)
    codes = np.where(np.isfinite(codes), codes, np.where(np.isinf(codes), np.copysign(65504.0, codes), 0.0))
    through = encoding.transfer.decode if decode else encoding.transfer.encode
    values = np.clip(np.nan_to_num(through(codes)), -65504, 65504).astype(np.float32)
    return HalfCurve(np.repeat(values[:, None], 3, axis=1))


def _has_formulas(encoding: Encoding) -> bool:
    return encoding.transfer.formulas is not None


def _path(encoding: Encoding, way: str) -> str:
    return f"{SPACES}/{encoding.id}-{way}-aces2065-1.clf"


LOG = ENCODINGS["acescct"]
"""What soft is sampled over, from it to itself: there it is smooth, where the codes of a display turn endlessly steep at black."""
SOFT, SOFT_BACK = f"{VIEWS}/soft.clf", f"{VIEWS}/soft-back.clf"


def view_files(encodings: Sequence[Encoding]) -> Iterator[tuple[str, bytes]]:
    """Scene light made that of a display softly, and back, as lattices over ACEScct; HLG as its display shows it, over its signal."""
    words = "Scene light softly as that of a display", "Light of a display that was shown softly as that of the scene"
    for file, ways, what in zip((SOFT, SOFT_BACK), (("soft", "plain"), ("plain", "soft")), words, strict=True):
        steps = [{"kind": "convert", "to": to, "rendering": way} for to, way in zip((SHOWN[0], LOG.id), ways, strict=True)]
        yield file, _baked({"name": what, "input": LOG.id, "output": LOG.id, "steps": steps}, what)
    for view in _views(encodings):
        if view.rule:
            look = {
                "name": view.space,
                "input": view.over.id,
                "output": view.shown,
                "steps": [{"kind": "convert", "to": view.shown}],
            }
            yield view.file, _baked(look, f"{view.words}: {ENCODINGS[view.shown].name}")


def _baked(look: dict[str, Any], words: str) -> bytes:
    """As one lattice: there and back again, what formulas say of it would leave a lattice over the codes of a display."""
    return write_lut(bake(look_from(look), VIEW_SIZE, words), formats()["clf"]).data


@dataclass(frozen=True)
class _View:
    """One way to look at something on a display. over: what its lattice is over; rule: the only encoding it is for, or none"""

    name: str
    shown: str
    over: Encoding
    words: str
    rule: str = ""

    @property
    def space(self) -> str:
        return f"{name_of(ENCODINGS[self.shown])} {self.name[0].lower() + self.name[1:] if not self.rule else f'of {self.name}'}"

    @property
    def file(self) -> str:
        return f"{VIEWS}/{self.over.id}-{self.shown}.clf" if self.rule else SOFT


def _views(encodings: Sequence[Encoding]) -> Iterator[_View]:
    for shown in SHOWN:
        yield _View("Soft", shown, LOG, "Scene light shown softly")
    for one in encodings:
        if one.hdr and not one.hdr_display:
            for shown in SHOWN:
                yield _View(name_of(one), shown, one, "HLG as a display of 1000 cd/m2 shows it", name_of(one))


def config_text(title: str, encodings: Sequence[Encoding], looks: Sequence[ConfigLook], view: View = "plain") -> str:
    """The configuration. encodings: those that are offered; those of the roles, the displays and the looks are added

    view: the one that a viewer begins with
    Its files are those of `space_files` of `needed_for`, of `view_files`, and the looks' own.
    """
    spaces = needed_for(encodings, looks)
    views = list(_views(spaces))
    rules = list(dict.fromkeys(view.rule for view in views if view.rule))
    lines = [
        "ocio_profile_version: 2",
        "",
        f"description: {_text(title)}",
        'search_path: "."',
        "strictparsing: true",
        "luma: [0.2126, 0.7152, 0.0722]",
        "",
        "roles:",
        *(f"  {role}: {_text(name_of(ENCODINGS[id]))}" for role, id in sorted(ROLES.items())),
        '  data: "Raw"',
        f"  cie_xyz_d65_interchange: {_text(XYZ)}",
        "",
        "file_rules:",
        "  - !<Rule> {name: Default, colorspace: default}",
        "",
        *(
            ["viewing_rules:", *(f"  - !<Rule> {{name: {_text(one)}, colorspaces: {_text(one)}}}" for one in rules), ""]
            if rules
            else []
        ),
        "displays:",
        *(line for shown in SHOWN for line in _display(shown, views, view)),
        "",
        f"active_displays: [{', '.join(_text(name_of(ENCODINGS[shown])) for shown in SHOWN)}]",
        f"active_views: [{', '.join(_text(one) for one in (*_in_order(view), *rules))}]",
        "",
        *(["looks:", *(line for look in looks for line in _look(look)), ""] if looks else []),
        *_display_reference(),
        "colorspaces:",
        *(line for one in spaces for line in _space(one)),
        *(line for view in views for line in _view_space(view)),
        *DATA,
    ]
    return "\n".join(lines) + "\n"


def needed_for(encodings: Sequence[Encoding], looks: Sequence[ConfigLook]) -> list[Encoding]:
    """Every encoding that the configuration needs, each once, the reference first."""
    wanted = [
        REFERENCE,
        *(ENCODINGS[id] for id in (*ROLES.values(), *SHOWN)),
        *encodings,
        *(one for look in looks for one in (look.expects, look.gives)),
    ]
    return list({one.id: one for one in wanted}.values())


DATA = [
    "  - !<ColorSpace>",
    '    name: "Raw"',
    '    family: "Utility"',
    "    bitdepth: 32f",
    "    isdata: true",
    "    categories: [file-io]",
]


def _text(text: str) -> str:
    return json.dumps(text, ensure_ascii=False)


def _file(path: str, inverse: bool = False) -> str:
    way = ", direction: inverse" if inverse else ""
    return f"!<FileTransform> {{src: {_text(path)}, interpolation: tetrahedral{way}}}"


def _display_reference() -> list[str]:
    """CIE XYZ as a display shows it, seen from D65, and the plain way to it from ACES2065-1: for other configurations to meet this one."""
    rows = adaptation(BRADFORD, xyz_of(AP0.white), xyz_of(BT709.white)) @ rgb_to_xyz(AP0)
    matrix = [[*(float(value) for value in row), 0.0] for row in rows] + [[0.0, 0.0, 0.0, 1.0]]
    numbers = ", ".join(repr(value) for row in matrix for value in row)
    return [
        "default_view_transform: Plain",
        "",
        "view_transforms:",
        "  - !<ViewTransform>",
        "    name: Plain",
        f"    from_scene_reference: !<MatrixTransform> {{matrix: [{numbers}]}}",
        "",
        "display_colorspaces:",
        "  - !<ColorSpace>",
        f"    name: {_text(XYZ)}",
        '    family: "Display"',
        "    bitdepth: 32f",
        "    isdata: false",
        "    categories: [file-io]",
        "",
    ]


def _in_order(first: View) -> tuple[str, str]:
    return ("Plain", "Soft") if first == "plain" else ("Soft", "Plain")


def _display(shown: str, views: Sequence[_View], first: View) -> list[str]:
    name = name_of(ENCODINGS[shown])
    lines = {"Plain": f"    - !<View> {{name: Plain, colorspace: {_text(name)}}}"}
    for view in views:
        if view.shown == shown:
            rule = f", rule: {_text(view.rule)}" if view.rule else ""
            lines[view.name] = f"    - !<View> {{name: {_text(view.name)}, colorspace: {_text(view.space)}{rule}}}"
    return [f"  {_text(name)}:", *(lines.pop(one) for one in _in_order(first)), *lines.values()]


def _look(look: ConfigLook) -> list[str]:
    """What it gives is brought back into the process space, so that a viewer goes on from there as from the picture before."""
    parts = [_file(look.file)]
    if look.is_rendered:
        file = SOFT_BACK if look.gives.referred == "display" else SOFT
        parts += [_between(look.gives, LOG), _file(file), _between(LOG, look.expects)]
    elif look.gives.id != look.expects.id:
        parts.append(_between(look.gives, look.expects))
    return [
        "  - !<Look>",
        f"    name: {_text(look.name)}",
        f"    process_space: {_text(name_of(look.expects))}",
        *([f"    description: {_text(look.words)}"] if look.words else []),
        *_transform("transform", parts),
    ]


def _between(source: Encoding, target: Encoding) -> str:
    return f"!<ColorSpaceTransform> {{src: {_text(name_of(source))}, dst: {_text(name_of(target))}}}"


def _transform(key: str, parts: Sequence[str]) -> list[str]:
    if len(parts) == 1:
        return [f"    {key}: {parts[0]}"]
    return [f"    {key}: !<GroupTransform>", "      children:", *(f"        - {part}" for part in parts)]


def _space(encoding: Encoding) -> list[str]:
    lines = [
        "  - !<ColorSpace>",
        f"    name: {_text(name_of(encoding))}",
        f"    aliases: [{_text(encoding.id)}]",
        f"    family: {_text('Display' if encoding.referred == 'display' else 'Scene')}",
        f"    encoding: {_kind(encoding)}",
        "    bitdepth: 32f",
        f"    description: {_text(encoding.source)}",
        "    isdata: false",
        "    categories: [file-io]",
    ]
    if encoding.id == REFERENCE.id:
        return lines
    lines += _transform("to_scene_reference", [_file(_path(encoding, "to"))])
    if not _has_formulas(encoding):
        lines += _transform("from_scene_reference", [_file(_path(encoding, "from"))])
    return lines


def _kind(encoding: Encoding) -> str:
    """One of the values that the syntax has for `encoding`."""
    if encoding.linear:
        return "scene-linear"
    if encoding.referred == "scene":
        return "log"
    return "hdr-video" if encoding.hdr_display else "sdr-video"


def _view_space(view: _View) -> list[str]:
    """To look at only: there is no way back from it."""
    parts = [_from_reference(view.over), _file(view.file)]
    if not view.rule:
        parts += [_file(_path(view.over, "to")), _from_reference(ENCODINGS[view.shown])]
    return [
        "  - !<ColorSpace>",
        f"    name: {_text(view.space)}",
        '    family: "Display"',
        "    encoding: sdr-video",
        "    bitdepth: 32f",
        f"    description: {_text(view.words)}",
        "    isdata: false",
        "    categories: [file-io]",
        *_transform("from_scene_reference", parts),
    ]


def _from_reference(encoding: Encoding) -> str:
    goes_back = _has_formulas(encoding)
    return _file(_path(encoding, "to" if goes_back else "from"), inverse=goes_back)
