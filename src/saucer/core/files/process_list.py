"""ProcessList, the content of Common LUT Format files and of the wider transform files that share it.

Source: SMPTE ST 2136-1 and the "Common LUT Format" specification S-2014-006. What is not in there is refused by name.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from saucer.core.errors import LutError
from saucer.core.files.format import PLAIN, Format, Holds, Options
from saucer.core.files.lines import row_problem, rows_text
from saucer.core.files.xml_tree import Element, element, parse
from saucer.core.lut.domain import FEWEST_NODES, MOST_NODES, UNIT
from saucer.core.lut.formulas import HALF_CODES, Cdl, Exponent, HalfCurve, Log, LogChannel, Matrix, Range, Three
from saucer.core.lut.numbers import Stop, read_rows, with_end
from saucer.core.lut.table import MOST_SAMPLES, Curve1D, Lattice, Link, Lut, lut_of
from saucer.core.reading.limits import MOST_ELEMENTS

PEAKS = {"8i": 255.0, "10i": 1023.0, "12i": 4095.0, "16i": 65535.0, "16f": 1.0, "32f": 1.0}
INFORMATION = {"Description", "Info", "InputDescriptor", "OutputDescriptor"}


def read(data: bytes) -> Lut:
    """Raises: LutError with the line of the node that is wrong or not known"""
    root = parse(data)
    if root.tag != "ProcessList":
        raise root.here("a ProcessList is expected")
    chain: list[Link] = []
    depth: str | None = None
    if len(root.children) > MOST_ELEMENTS:
        raise root.here(f"holds {len(root.children)} nodes; {MOST_ELEMENTS} is the most")
    for node in root.children:
        if node.tag in INFORMATION:
            continue
        read_node = _READERS.get(node.tag)
        if read_node is None:
            raise node.here(f"this kind of node is not known; known are {', '.join(_READERS)}")
        given = node.attributes.get("inBitDepth"), node.attributes.get("outBitDepth")
        if None in given or not set(given) <= set(PEAKS):
            raise node.here(f"needs inBitDepth and outBitDepth, each one of {', '.join(PEAKS)}")
        if depth is not None and given[0] != depth:
            raise node.here(f"takes {given[0]} where the node before gives {depth}")
        depth = given[1]
        if node.attributes.get("bypass", "false").lower() not in ("true", "1"):
            chain += read_node(node, PEAKS[str(given[0])], PEAKS[str(given[1])])
    if depth is None:
        raise root.here("holds no node")
    title = root.attributes.get("name", "") or root.words("Description")
    words = [" ".join(one.text.split()) for one in root.all("Description")]
    info = root.find("Info")
    words += [f"{one.tag}: {' '.join(one.text.split())}" for one in (info.children if info else []) if one.text.strip()]
    words += [f"{tag[:-10]}: {root.words(tag)}" for tag in ("InputDescriptor", "OutputDescriptor") if root.words(tag)]
    return lut_of(chain or [Matrix(((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)))], title, tuple(filter(None, words)))


def _table(node: Element, rows_at_most: int) -> tuple[list[int], np.ndarray]:
    """Its Array: the announced dimensions and the rows as they stand."""
    array = node.need("Array")
    words = array.attributes.get("dim", "").split()
    if not words or not all(word.isascii() and word.isdigit() and len(word) < 8 for word in words):
        raise array.here(f'dim must be whole numbers, got "{array.attributes.get("dim", "")[:30]}"')
    dim = [int(word) for word in words]
    if node.tag == "LUT3D":
        if len(dim) != 4 or len(set(dim[:3])) != 1 or dim[3] != 3 or not FEWEST_NODES <= dim[0] <= MOST_NODES:
            raise array.here(f'dim of a LUT3D must be N N N 3 with N from {FEWEST_NODES} to {MOST_NODES}, got "{" ".join(words)}"')
        rows, columns = dim[0] ** 3, 3
    elif node.tag == "LUT1D":
        if len(dim) != 2 or dim[1] not in (1, 3) or not 2 <= dim[0] <= rows_at_most:
            raise array.here(f'dim of a LUT1D must be N 1 or N 3 with N from 2 to {rows_at_most}, got "{" ".join(words)}"')
        rows, columns = dim
    else:
        if dim[:2] not in ([3, 3], [3, 4]) or len(dim) > 3:
            raise array.here(f'dim of a Matrix must be 3 3 or 3 4, got "{" ".join(words)}"')
        rows, columns = dim[0], dim[1]
    return dim, _rows(array, rows, columns)


def _rows(array: Element, rows: int, columns: int) -> np.ndarray:
    """(rows, columns) float32 from an Array's text, one row a line as files have them, or freely broken lines."""
    data = array.text.encode()
    out = np.empty((min(rows, len(data) // (2 * columns) + 1), columns), np.float32)
    why, filled, position, line = read_rows(with_end(data), 0, array.text_line, out, 0, len(out))
    if why is Stop.END and filled == rows:
        return out
    if why is Stop.COUNT or why is Stop.LONG or (why is Stop.END and filled != rows):
        return _free_rows(array, rows, columns)
    text = data[position:].split(b"\n", 1)[0].decode("utf-8", "replace").strip()
    if why is Stop.FULL:
        raise LutError(f"line {line}", f"one row more than the {rows} that dim asks for")
    raise LutError(f"line {line}", row_problem(why, text, columns))


def _free_rows(array: Element, rows: int, columns: int) -> np.ndarray:
    values = []
    for line, text in enumerate(array.text.split("\n"), array.text_line):
        try:
            values += [float(word) for word in text.split()]
        except ValueError:
            raise LutError(f"line {line}", row_problem(Stop.NUMBER, text.strip(), columns)) from None
    if len(values) != rows * columns:
        raise array.here(f"holds {len(values)} numbers; dim asks for {rows * columns}")
    table = np.array(values, np.float64).reshape(rows, columns)
    if not np.isfinite(table).all() or np.abs(table).max() > np.finfo(np.float32).max:
        raise array.here("holds a number that is not finite")
    return table.astype(np.float32)


def _read_lut1d(node: Element, _: float, peak: float) -> list[Link]:
    half_domain = node.attributes.get("halfDomain", "false").lower() == "true"
    raw = node.attributes.get("rawHalfs", "false").lower() == "true"
    dim, rows = _table(node, MOST_SAMPLES)
    if raw:
        if (rows < 0).any() or (rows > 65535).any() or (rows != np.floor(rows)).any():
            raise node.here("rawHalfs needs whole numbers from 0 to 65535")
        rows = rows.astype(np.uint16).view(np.float16).astype(np.float32)
    if half_domain:
        if len(rows) != HALF_CODES:
            raise node.here(f"halfDomain needs {HALF_CODES} rows, got {len(rows)}")
        codes = np.arange(HALF_CODES, dtype=np.uint16).view(np.float16)
        rows = np.where(np.isnan(codes)[:, None], np.float32(0), rows)
    if not np.isfinite(rows).all():
        raise node.here("holds a number that is not finite")
    table = (np.repeat(rows, 3, axis=1) if dim[1] == 1 else rows) / np.float32(peak)
    return [HalfCurve(table) if half_domain else Curve1D(table)]


def _read_lut3d(node: Element, _: float, peak: float) -> list[Link]:
    dim, rows = _table(node, MOST_NODES**3)
    return [Lattice((rows / np.float32(peak)).reshape(dim[0], dim[0], dim[0], 3))]


def _read_matrix(node: Element, into: float, peak: float) -> list[Link]:
    dim, _ = _table(node, 3)
    array = node.need("Array")
    exact = np.array(array.text.split(), np.float64).reshape(dim[0], dim[1])
    turn = exact[:, :3] * (into / peak)
    offset = exact[:, 3] / peak if dim[1] == 4 else np.zeros(3)
    return [Matrix(tuple(_three(row) for row in turn), _three(offset))]  # type: ignore[arg-type]


def _three(values: np.ndarray) -> Three:
    return float(values[0]), float(values[1]), float(values[2])


def _read_range(node: Element, into: float, peak: float) -> list[Link]:
    ends: dict[str, float | None] = {}
    for name, scale in (("minInValue", into), ("maxInValue", into), ("minOutValue", peak), ("maxOutValue", peak)):
        found = node.find(name)
        ends[name] = found.numbers(1)[0] / scale if found else None
    for side in ("min", "max"):
        if (ends[f"{side}InValue"] is None) != (ends[f"{side}OutValue"] is None):
            raise node.here(f"{side}InValue and {side}OutValue stand together or not at all")
    low, high = ends["minInValue"], ends["maxInValue"]
    if low is None and high is None:
        raise node.here("needs minInValue and minOutValue, or maxInValue and maxOutValue")
    for side in ("min", "max"):
        if (low is None or high is None) and ends[f"{side}InValue"] != ends[f"{side}OutValue"]:
            raise node.here(f"{side}InValue and {side}OutValue must be equal where the other end is open")
    if low is not None and high is not None and not low < high:
        raise node.here(f"maxInValue must be above minInValue, got {low:g} to {high:g}")
    style = node.attributes.get("style", "Clamp")
    if style not in ("Clamp", "noClamp"):
        raise node.here(f'style must be Clamp or noClamp, got "{style[:30]}"')
    return [Range(low, high, ends["minOutValue"], ends["maxOutValue"], style == "Clamp")]


_LOG_PARAMETERS = {
    "logSideSlope": "log_slope", "logSideOffset": "log_offset", "linSideSlope": "lin_slope", "linSideOffset": "lin_offset",
    "linSideBreak": "lin_break", "linearSlope": "linear_slope",
}  # fmt: skip
_LOG_STYLES = ("log10", "antiLog10", "log2", "antiLog2", "linToLog", "logToLin", "cameraLinToLog", "cameraLogToLin")


def _by_channel(node: Element, tag: str) -> dict[str, Element]:
    """Parameter elements by channel, one without a channel for all three."""
    found: dict[str, Element] = {}
    for one in node.all(tag):
        channel = one.attributes.get("channel")
        if channel not in (None, "R", "G", "B"):
            raise one.here(f'channel must be R, G or B, got "{str(channel)[:20]}"')
        for name in (channel,) if channel else ("R", "G", "B"):
            found[str(name)] = one
    return found


def _read_log(node: Element, *_: float) -> list[Link]:
    style = node.attributes.get("style", "")
    if style not in _LOG_STYLES:
        raise node.here(f'style must be one of {", ".join(_LOG_STYLES)}, got "{style[:30]}"')
    parameters = _by_channel(node, "LogParams")
    base, channels = 2.0, []
    for name in ("R", "G", "B"):
        one = parameters.get(name)
        given: dict[str, float] = {}
        for attribute, field in _LOG_PARAMETERS.items():
            value = one.number(attribute) if one else None
            if value is not None:
                given[field] = value
        base = (one.number("base", 2.0) if one else 2.0) or 2.0
        channels.append(LogChannel(**given))
    if base <= 0 or base == 1:
        raise node.here(f"base must be above 0 and not 1, got {base:g}")
    for channel in channels:
        if channel.log_slope == 0 or channel.lin_slope == 0 or channel.linear_slope == 0:
            raise node.here("a slope of 0 has no inverse")
        if style.startswith("camera"):
            if channel.lin_break is None:
                raise node.here(f"{style} needs linSideBreak")
            if channel.lin_slope * channel.lin_break + channel.lin_offset <= 0:
                raise node.here("the logarithm is of nothing positive at linSideBreak")
    return [Log(style, base, (channels[0], channels[1], channels[2]))]  # type: ignore[arg-type]


_EXPONENT_STYLES = (
    "basicFwd", "basicRev", "basicMirrorFwd", "basicMirrorRev", "basicPassThruFwd", "basicPassThruRev",
    "monCurveFwd", "monCurveRev", "monCurveMirrorFwd", "monCurveMirrorRev",
)  # fmt: skip


def _read_exponent(node: Element, *_: float) -> list[Link]:
    style = node.attributes.get("style", "")
    if style not in _EXPONENT_STYLES:
        raise node.here(f'style must be one of {", ".join(_EXPONENT_STYLES)}, got "{style[:30]}"')
    parameters = _by_channel(node, "ExponentParams") or _by_channel(node, "GammaParams")
    if not parameters:
        raise node.here("has no ExponentParams")
    exponents, offsets = [], []
    for name in ("R", "G", "B"):
        one = parameters.get(name)
        exponent = (one.number("exponent") or one.number("gamma")) if one else 1.0
        offset = one.number("offset", 0.0) if one else 0.0
        low = 1.0 if style.startswith("monCurve") else 0.01
        if exponent is None or not low <= exponent <= 100:
            raise (one or node).here(f"exponent must be from {low:g} to 100")
        if offset is None or not 0 <= offset <= 0.9:
            raise (one or node).here("offset must be from 0 to 0.9")
        exponents.append(exponent)
        offsets.append(offset)
    return [Exponent(style, tuple(exponents), tuple(offsets))]  # type: ignore[arg-type]


CDL_STYLES = {"Fwd": "Fwd", "Rev": "Rev", "FwdNoClamp": "FwdNoClamp", "RevNoClamp": "RevNoClamp", "v1.2_Fwd": "Fwd", "v1.2_Rev": "Rev",
              "noClampFwd": "FwdNoClamp", "noClampRev": "RevNoClamp"}  # fmt: skip


def read_cdl(node: Element, style: str = "Fwd") -> Cdl:
    """SOPNode and SatNode of an element. Raises: LutError with the line for what ASC CDL 1.2 does not allow"""
    sop, sat = node.find("SOPNode"), node.find("SatNode") or node.find("SATNode")
    slope, offset, power, saturation = (1.0, 1.0, 1.0), (0.0, 0.0, 0.0), (1.0, 1.0, 1.0), 1.0
    if sop is not None:
        slope, offset, power = (sop.need(tag).numbers(3) for tag in ("Slope", "Offset", "Power"))  # type: ignore[assignment]
        if min(slope) < 0 or (style.startswith("Rev") and min(slope) == 0):
            raise sop.here(f"Slope must not be negative, got {' '.join(f'{v:g}' for v in slope)}")
        if min(power) <= 0:
            raise sop.here(f"Power must be above 0, got {' '.join(f'{v:g}' for v in power)}")
    if sat is not None:
        saturation = sat.need("Saturation").numbers(1)[0]
        if saturation < 0 or (style.startswith("Rev") and saturation == 0):
            raise sat.here(f"Saturation must not be negative, got {saturation:g}")
    if sop is None and sat is None:
        raise node.here("has neither SOPNode nor SatNode")
    return Cdl(slope, offset, power, saturation, style)  # type: ignore[arg-type]


def _read_asc_cdl(node: Element, *_: float) -> list[Link]:
    style = CDL_STYLES.get(node.attributes.get("style", "Fwd"))
    if style is None:
        raise node.here(f'style must be one of {", ".join(CDL_STYLES)}, got "{node.attributes["style"][:30]}"')
    return [read_cdl(node, style)]


_READERS: dict[str, Callable[[Element, float, float], list[Link]]] = {
    "LUT1D": _read_lut1d, "LUT3D": _read_lut3d, "Matrix": _read_matrix, "Range": _read_range, "Log": _read_log,
    "Exponent": _read_exponent, "Gamma": _read_exponent, "ASC_CDL": _read_asc_cdl,
}  # fmt: skip


@dataclass(frozen=True)
class Head:
    """How the root element says its version: attribute and value, e.g. compCLFversion 3.0."""

    attribute: str
    version: str


@dataclass(frozen=True)
class Transform:
    """What an ACES transform says of itself: its identifier, and what goes in and comes out, in words."""

    identifier: str
    expects: str
    gives: str

    @property
    def lines(self) -> list[str]:
        named = [("InputDescriptor", self.expects), ("OutputDescriptor", self.gives)]
        inside = element("ACEStransformID", self.identifier)
        return [*(f"  {element(tag, text)}" for tag, text in named), "  <Info>", f"    {inside}", "  </Info>"]


def write(lut: Lut, head: Head, transform: Transform | None = None) -> bytes:
    """Every node as it is; a table over another domain than 0..1 gets a Matrix in front."""
    title = lut.title or "Untitled"
    identity = "-".join("".join(c if c.isalnum() else " " for c in title).lower().split()) or "lut"
    version: dict[str, Any] = {head.attribute: head.version}
    parts = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f"{element('ProcessList', id=identity, name=title, **version)[:-2]}>",
        *(f"  {element('Description', comment)}" for comment in lut.comments if comment),
        *(transform.lines if transform else ()),
    ]
    for node in lut.chain:
        if isinstance(node, Curve1D | Lattice) and node.domain != UNIT:
            parts.append(_write_matrix(_to_unit(node)))
        parts.append(_write_node(node))
    return ("\n".join([*parts, "</ProcessList>"]) + "\n").encode()


def _to_unit(node: Curve1D | Lattice) -> Matrix:
    low, high = (np.array(bound) for bound in node.domain)
    scale = 1 / (high - low)
    return Matrix(tuple(_three(row) for row in np.diag(scale)), _three(-low * scale))  # type: ignore[arg-type]


_DEPTHS: dict[str, Any] = {"inBitDepth": "32f", "outBitDepth": "32f"}


def _wrapped(tag: str, inner: list[str], **attributes: Any) -> str:
    start = element(tag, **attributes, **_DEPTHS)[:-2]
    return "\n".join([f"  {start}>", *(f"    {line}" for line in inner), f"  </{tag}>"])


def _array(rows: np.ndarray, dim: str) -> list[str]:
    text = rows_text(np.ascontiguousarray(rows, np.float32)).decode().rstrip("\n")
    return [f'<Array dim="{dim}">', text, "</Array>"]


def _numbers(values: tuple[float, ...]) -> str:
    return " ".join(repr(float(value)) for value in values)


def _write_matrix(node: Matrix) -> str:
    rows = [_numbers((*row, offset)) for row, offset in zip(node.rows, node.offset, strict=True)]
    return _wrapped("Matrix", ['<Array dim="3 4">', *rows, "</Array>"])


def _write_node(node: Link) -> str:
    match node:
        case Lattice():
            n = node.size
            start = element("LUT3D", interpolation="tetrahedral", **_DEPTHS)[:-2]
            return "\n".join([f"  {start}>", *_array(node.table.reshape(-1, 3), f"{n} {n} {n} 3"), "  </LUT3D>"])
        case Curve1D() | HalfCurve():
            half = "true" if isinstance(node, HalfCurve) else None
            start = element("LUT1D", halfDomain=half, **_DEPTHS)[:-2]
            return "\n".join([f"  {start}>", *_array(node.samples, f"{len(node.samples)} 3"), "  </LUT1D>"])
        case Matrix():
            return _write_matrix(node)
        case Range():
            names = (
                ("minInValue", node.low_in),
                ("maxInValue", node.high_in),
                ("minOutValue", node.low_out),
                ("maxOutValue", node.high_out),
            )
            inner = [element(name, repr(float(value))) for name, value in names if value is not None]
            return _wrapped("Range", inner, style="Clamp" if node.clamp else "noClamp")
        case Log():
            return _wrapped("Log", _log_parameters(node), style=node.style)
        case Exponent():
            inner = [
                element(
                    "ExponentParams", channel=c, exponent=repr(e), offset=repr(o) if node.style.startswith("monCurve") else None
                )
                for c, e, o in zip("RGB", node.exponent, node.offset, strict=True)
            ]
            return _wrapped("Exponent", inner, style=node.style)
        case Cdl():
            return _wrapped("ASC_CDL", cdl_lines(node), style=node.style)
    raise AssertionError(node)


def _log_parameters(node: Log) -> list[str]:
    if node.style in _LOG_STYLES[:4]:
        return []
    lines = []
    for name, channel in zip("RGB", node.channels, strict=True):
        given = {attribute: getattr(channel, field) for attribute, field in _LOG_PARAMETERS.items()}
        shown = {attribute: repr(float(value)) for attribute, value in given.items() if value is not None}
        lines.append(element("LogParams", channel=name, base=repr(float(node.base)), **shown))
    return lines


def cdl_lines(node: Cdl) -> list[str]:
    """SOPNode and SatNode, line by line."""
    sop = [
        f"  {element(tag, _numbers(values))}"
        for tag, values in (("Slope", node.slope), ("Offset", node.offset), ("Power", node.power))
    ]
    return ["<SOPNode>", *sop, "</SOPNode>", "<SatNode>", f"  {element('Saturation', repr(float(node.saturation)))}", "</SatNode>"]


def list_format(identity: str, title: str, suffix: str, head: Head, sniff: Callable[[bytes], bool]) -> Format:
    """The file format of ProcessLists whose root says its version this way."""

    def write_file(lut: Lut, options: Options = PLAIN) -> bytes:
        return write(lut, head)

    holds = Holds(frozenset({"1D", "3D", "1D + 3D", "links"}), domain=True, words=True)
    return Format(identity, title, (suffix,), sniff, read, write_file, holds)
