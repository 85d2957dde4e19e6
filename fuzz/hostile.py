"""Files that are made to harm whoever reads them: `python -m fuzz.hostile` makes each in full size, has it read and tells what that took.

Every one was a finding once, or is of a kind that could be. The tests read the same files, the largest of them smaller.
"""

from __future__ import annotations

import io
import json
import resource
import struct
import sys
import tempfile
import time
import zipfile
import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import av
import numpy as np
from PIL import Image

from saucer.core.clips.reading import inspect_clip
from saucer.core.errors import SaucerError
from saucer.core.files.registry import read_lut
from saucer.core.files.zips import read_members
from saucer.core.look.bundle import read_bundle
from saucer.core.pictures.io import read_picture
from saucer.core.pictures.stated import stated_encoding
from saucer.studio.projects.conform.timelines import read_timeline

_RANGE = 'minInValue="0" maxInValue="1" minOutValue="0" maxOutValue="1"'
ROWS = b"0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n"


@dataclass(frozen=True)
class Hostile:
    """kind: who is asked to read it; make: its content, for a share of its full size from 0 to 1"""

    name: str
    kind: str
    make: Callable[[float], bytes]


def _many(size: float, share: float) -> int:
    return max(4, int(size * share))


def _jpeg_of_scans(share: float) -> bytes:
    """The last scan of a progressive JPEG, again and again."""
    file = io.BytesIO()
    side = _many(2000, share**0.5)
    Image.fromarray(np.zeros((side, side, 3), np.uint8)).save(file, "JPEG", progressive=True)
    data = file.getvalue()
    last = data.rindex(b"\xff\xda")
    return data[:last] + data[last:-2] * _many(3000, max(share, 0.1)) + data[-2:]


def exr_of_channels(count: int) -> bytes:
    """A header as the OpenEXR file layout has it, without any samples."""

    def attribute(name: bytes, kind: bytes, value: bytes) -> bytes:
        return name + b"\0" + kind + b"\0" + struct.pack("<I", len(value)) + value

    channels = b"".join(b"c%d\0" % index + struct.pack("<IIII", 1, 0, 1, 1) for index in range(count)) + b"\0"
    window = struct.pack("<4i", 0, 0, 15, 15)
    return b"\x76\x2f\x31\x01\x02\0\0\0" + b"".join((
        attribute(b"channels", b"chlist", channels), attribute(b"compression", b"compression", b"\0"),
        attribute(b"dataWindow", b"box2i", window), attribute(b"displayWindow", b"box2i", window),
        attribute(b"lineOrder", b"lineOrder", b"\0"), attribute(b"pixelAspectRatio", b"float", struct.pack("<f", 1)),
        attribute(b"screenWindowCenter", b"v2f", struct.pack("<2f", 0, 0)), attribute(b"screenWindowWidth", b"float", struct.pack("<f", 1)),
    )) + b"\0" + struct.pack("<16Q", *[0] * 16)  # fmt: skip


def png(width: int, height: int, rows: int | None = None) -> bytes:
    """Black, 8 bits, of so many rows; as many as it says without."""

    def chunk(name: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    packed = zlib.compressobj(9)
    line = bytes(1 + 3 * width)
    body = b"".join(packed.compress(line) for _ in range(height if rows is None else rows)) + packed.flush()
    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", body) + chunk(b"IEND", b"")


def _tiff(width: int, height: int, packed: bytes, next_directory: int = 0) -> bytes:
    """One strip, deflated. Source: TIFF 6.0, section 2; compression 8 is deflate (RFC 1950), as libraries read it"""
    entries = [
        (256, 4, 1, width), (257, 4, 1, height), (258, 3, 1, 8), (259, 3, 1, 8), (262, 3, 1, 1), (273, 4, 1, 8), (277, 3, 1, 1),
        (278, 4, 1, height), (279, 4, 1, len(packed)),
    ]  # fmt: skip
    at = 8 + len(packed) + len(packed) % 2
    directory = struct.pack("<H", len(entries)) + b"".join(struct.pack("<HHII", *one) for one in entries)
    return b"II*\0" + struct.pack("<I", at) + packed.ljust(at - 8, b"\0") + directory + struct.pack("<I", next_directory or 0)


def _dng(width: int, height: int) -> bytes:
    """A raw photograph that announces a sensor of this size and holds none of it. Source: Digital Negative specification 1.6"""
    numbers = (
        (254, 4, 0), (256, 4, width), (257, 4, height), (258, 3, 16), (259, 3, 1), (262, 3, 32803), (273, 4, 300), (277, 3, 1),
        (278, 4, height), (279, 4, 4_000_000_000), (33421, 3, 0x00020002), (33422, 1, 0x02010100), (50706, 1, 0x00000401),
    )  # fmt: skip
    counts = {33421: 2, 33422: 4, 50706: 4}
    entries = b"".join(struct.pack("<HHII", tag, kind, counts.get(tag, 1), value) for tag, kind, value in numbers)
    return b"II*\0" + struct.pack("<IH", 8, len(numbers)) + entries + bytes(400)


def _dpx(width: int, height: int) -> bytes:
    """A header that announces a large picture. Source: SMPTE ST 268-1, the file header and image information"""
    head = bytearray(2048)
    head[0:4] = b"SDPX"
    struct.pack_into(">I", head, 4, 2048)
    head[8:12] = b"V2.0"
    struct.pack_into(">HHII", head, 768, 0, 1, width, height)
    head[800:804] = struct.pack(">BBBB", 50, 2, 2, 10)
    return bytes(head)


def _clip(side: int, frames: int) -> bytes:
    """Black frames, so small as a file that nobody would think of their size."""
    file = io.BytesIO()
    with av.open(file, "w", format="mp4") as out:
        stream = out.add_stream("libx264", rate=24, options={"preset": "ultrafast", "crf": "40"})
        stream.width = stream.height = side
        stream.pix_fmt = "yuv420p"
        black = av.VideoFrame.from_ndarray(np.zeros((side * 3 // 2, side), np.uint8), format="yuv420p")
        for number in range(frames):
            black.pts = number
            out.mux(stream.encode(black))
        out.mux(stream.encode(None))
    return file.getvalue()


def hostile_zip(members: Iterator[tuple[str, bytes]]) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as packed:
        for name, content in members:
            packed.writestr(name, content)
    return file.getvalue()


def _process_list(tag: str, array: str = "", attributes: str = "", count: int = 1) -> bytes:
    node = f'<{tag} inBitDepth="32f" outBitDepth="32f" {attributes}>{array}</{tag}>'
    return f'<?xml version="1.0"?><ProcessList id="x" compCLFversion="3">{node * count}</ProcessList>'.encode()


def _icc(count: int, size: int) -> bytes:
    """A device link that announces so many tags of that size. Source: ICC.1:2022, 7.2 and 7.3"""
    head = bytearray(128)
    head[12:16], head[16:20], head[20:24], head[36:40] = b"link", b"RGB ", b"RGB ", b"acsp"
    tags = struct.pack(">I", count) + struct.pack(">4sII", b"A2B0", 132, size) * min(count, 2000)
    body = bytes(head) + tags
    return struct.pack(">I", len(body)) + body[4:]


def _edit_list(events: int) -> bytes:
    line = "{0:06d}  AX V C 00:00:00:00 00:00:01:00 00:00:00:00 00:00:01:00\n"
    return ("TITLE: x\n" + "".join(line.format(one) for one in range(events))).encode()


def _otio(rate: str = "24.0", duration: str = "24.0", deep: int = 0, metadata: str = "{}") -> bytes:
    span = (
        f'{{"OTIO_SCHEMA": "TimeRange.1", "start_time": {{"OTIO_SCHEMA": "RationalTime.1", "rate": {rate}, "value": 0.0}}, '
        f'"duration": {{"OTIO_SCHEMA": "RationalTime.1", "rate": {rate}, "value": {duration}}}}}'
    )
    clip = f'{{"OTIO_SCHEMA": "Clip.1", "name": "a", "source_range": {span}, "metadata": {metadata}}}'
    for _ in range(deep):
        clip = f'{{"OTIO_SCHEMA": "Stack.1", "children": [{clip}]}}'
    track = f'{{"OTIO_SCHEMA": "Track.1", "kind": "Video", "children": [{clip}]}}'
    return f'{{"OTIO_SCHEMA": "Timeline.1", "name": "t", "tracks": {{"OTIO_SCHEMA": "Stack.1", "children": [{track}]}}}}'.encode()


def _deep_look(depth: int) -> bytes:
    step = '{"kind": "curves"}'
    for _ in range(depth):
        step = f'{{"kind": "group", "steps": [{step}]}}'
    return f'{{"format": "saucer-look", "version": 1, "name": "deep", "steps": [{step}]}}'.encode()


FILES = (
    Hostile("scans.jpg", "picture", _jpeg_of_scans),
    Hostile("channels.exr", "picture", lambda share: exr_of_channels(_many(80_000, max(share, 0.02)))),
    Hostile("announced.png", "picture", lambda share: png(16_000, 6_000, 2)),
    Hostile("bomb.png", "picture", lambda share: png(_many(9_900, share), _many(9_900, share))),
    Hostile("side.png", "picture", lambda share: png(40_000, 2)),
    Hostile("bomb.tif", "picture", lambda share: _tiff(64, 64, zlib.compress(bytes(_many(2e9, share)), 9))),
    Hostile("announced.tif", "picture", lambda share: _tiff(16_000, 6_000, zlib.compress(b"x"))),
    Hostile("circle.tif", "picture", lambda share: _tiff(4, 4, zlib.compress(bytes(16)), 8 + 10)),
    Hostile("announced.dpx", "picture", lambda share: _dpx(16_000, 6_000)),
    Hostile("endless.dpx", "picture", lambda share: _dpx(0xFFFFFFFF, 0xFFFFFFFF)),
    Hostile("announced.hdr", "picture", lambda share: b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 16000 +X 6000\n" + bytes(64)),
    Hostile("endless.hdr", "picture", lambda share: b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 999999999 +X 999999999\n"),
    Hostile("cut.heic", "picture", lambda share: b"\0\0\0\x18ftypheic\0\0\0\0mif1heic\xff\xff\xff\xffmeta" + bytes(200)),
    Hostile("cut.avif", "picture", lambda share: b"\0\0\0\x18ftypavif\0\0\0\0mif1avif\xff\xff\xff\xffmeta" + bytes(200)),
    Hostile("announced.dng", "picture", lambda share: _dng(60_000, 60_000)),
    Hostile("wide.dng", "picture", lambda share: _dng(9_900, 9_900)),
    Hostile("cut.webp", "picture", lambda share: b"RIFF\xff\xff\xff\x7fWEBPVP8X" + bytes(30)),
    Hostile("large.mp4", "clip", lambda share: _clip(8192 if share == 1 else 1024, 24 if share == 1 else 3)),
    Hostile("wide.mp4", "clip", lambda share: _clip(64, _many(200_000, share * share))),
    Hostile("list.mp4", "clip", lambda share: b"ffconcat version 1.0\nfile etc/hostname\n"),
    Hostile("playlist.mp4", "clip", lambda share: b"#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile:///etc/hostname\n"),
    Hostile("session.mov", "clip", lambda share: b"v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nt=0 0\nm=video 5004 RTP/AVP 96\n"),
    Hostile("dash.mp4", "clip", lambda share: b'<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011"><Period/></MPD>'),
    Hostile("numbered-%03d.png", "clip", lambda share: png(16, 16)),
    Hostile("comments.cube", "lut", lambda share: b"LUT_3D_SIZE 2\n" + b"# a comment\n" * _many(9e6, share) + ROWS),
    Hostile("line.cube", "lut", lambda share: b"LUT_3D_SIZE 2\n" + b"0 " * _many(5e7, share) + b"\n" + ROWS),
    Hostile("blank.cube", "lut", lambda share: b"\n" * _many(1e8, share) + b"LUT_3D_SIZE 2\n" + ROWS),
    Hostile("title.cube", "lut", lambda share: b'TITLE "' + b"x" * _many(1e8, share) + b'"\nLUT_3D_SIZE 2\n' + ROWS),
    Hostile("large.cube", "lut", lambda share: b"LUT_3D_SIZE 2\n" + ROWS.replace(b"1", b"1e38")),
    Hostile("comments.clf", "lut", lambda share: b"<?xml?>" + b"<!---->" * 40 + b"<1"),
    Hostile("comments-long.clf", "lut", lambda share: b'<?xml version="1.0"?>' + b"<!-- x -->" * _many(1e7, share) + b"<ProcessList/>"),
    Hostile("ranges.clf", "lut", lambda share: _process_list("Range", attributes=_RANGE, count=3000)),
    Hostile("array.clf", "lut", lambda share: _process_list("LUT3D", '<Array dim="999999 999999 999999 3">0</Array>')),
    Hostile("numbers.clf", "lut", lambda share: _process_list("LUT1D", f'<Array dim="2 1">{"0 " * _many(5e7, share)}</Array>')),
    Hostile("attributes.clf", "lut", lambda share: _process_list("Range", "", " ".join(f'a{one}="1"' for one in range(_many(2e6, share))))),
    Hostile("large.csp", "lut", lambda share: b"CSPLUTV100\n3D\n\n4000000000\n0 1\n0 1\n"),
    Hostile("mesh.3dl", "lut", lambda share: b"Mesh 30 40\n" + b"0 " * 1000 + b"\n0 0 0\n"),
    Hostile("length.spi1d", "lut", lambda share: b"Version 1\nFrom 0 1\nLength 4000000000\nComponents 3\n{\n0 0 0\n}\n"),
    Hostile("size.spi3d", "lut", lambda share: b"SPILUT 1.0\n3 3\n99999 99999 99999\n0 0 0 0 0 0\n"),
    Hostile("tags.icc", "lut", lambda share: _icc(0xFFFFFFFF, 0xFFFFFFF0)),
    Hostile("hald.png", "lut", lambda share: png(_many(9_261, share), _many(9_261, share))),
    Hostile("bomb.zip", "pack", lambda share: hostile_zip((f"a{one}.cube", bytes(_many(1.2e8, share))) for one in range(32))),
    Hostile("members.zip", "pack", lambda share: hostile_zip((f"{one}.cube", b"") for one in range(_many(70_000, share)))),
    Hostile("announced.zip", "pack", lambda share: b"PK\x05\x06" + struct.pack("<HHHHIIH", 0, 0, 65535, 65535, 0xFFFFFFF0, 0, 0)),
    Hostile("look.zip", "look", lambda share: hostile_zip(iter([("look.json", _deep_look(_many(2_000, max(share, 0.1))))]))),
    Hostile("deep.json", "look", lambda share: b"[" * _many(1e6, share)),
    Hostile("events.edl", "timeline", lambda share: _edit_list(_many(240_000, max(share, 0.1)))),
    Hostile("deep.otio", "timeline", lambda share: _otio(deep=_many(20_000, max(share, 0.05)))),
    Hostile("no-rate.otio", "timeline", lambda share: _otio(rate="0.0")),
    Hostile("no-number.otio", "timeline", lambda share: _otio(duration="NaN")),
    Hostile("endless.otio", "timeline", lambda share: _otio(duration="Infinity")),
    Hostile("no-cdl.otio", "timeline", lambda share: _otio(metadata='{"cdl": "abc"}')),
    Hostile("typed.otio", "timeline", lambda share: (Path(__file__).parent / "ending" / "typed.otio").read_bytes()),
    Hostile("circle.otio", "timeline", lambda share: b'{"OTIO_SCHEMA": "SerializableObjectRef.1", "id": "Timeline-1"}'),
)  # fmt: skip


def read(kind: str, path: Path) -> str:
    """What reading it came to: "read", or the words of the refusal."""
    try:
        if kind == "picture":
            read_picture(path)
            stated_encoding(path)
        elif kind == "clip":
            inspect_clip(path)
        elif kind == "lut":
            read_lut(path.read_bytes(), path.name)
        elif kind == "pack":
            for _ in read_members(path, path.name):
                pass
        elif kind == "look":
            read_bundle(path.read_bytes(), path.name)
        else:
            read_timeline(path.read_bytes(), path.name)
    except SaucerError as error:
        return str(error)
    return "read"


def main() -> int:
    wanted = sys.argv[1:]
    print(f"{'file':20} {'bytes':>11} {'seconds':>8} {'our peak':>9}  what came of it")
    with tempfile.TemporaryDirectory() as folder:
        for one in FILES:
            if wanted and one.name not in wanted:
                continue
            path = Path(folder) / one.name
            path.write_bytes(one.make(1.0))
            began, before = time.monotonic(), resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
            words = read(one.kind, path)
            took, more = time.monotonic() - began, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before
            print(
                f"{one.name:20} {path.stat().st_size:11,} {took:8.2f} {more / 1024:6.0f} MB  {json.dumps(words)[:160]}", flush=True
            )
            path.unlink()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
