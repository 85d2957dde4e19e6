"""Outside programs as functions: OpenColorIO, libavfilter (through PyAV), LittleCMS (Debian's shared library)."""

from __future__ import annotations

import ctypes
from itertools import pairwise
from pathlib import Path

import av
import numpy as np
import PyOpenColorIO as ocio
from bench.peers import baker


def by_ocio(transform: ocio.Transform, x: np.ndarray) -> np.ndarray:
    """(n, 3) float32 through a transform, unoptimised."""
    ocio.ClearAllCaches()
    cpu = ocio.Config.CreateRaw().getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE)
    result = np.ascontiguousarray(x, np.float32).copy()
    cpu.apply(ocio.PackedImageDesc(result, len(x), 1, 3))
    return result


def file_by_ocio(path: Path, x: np.ndarray) -> np.ndarray:
    return by_ocio(ocio.FileTransform(str(path), interpolation=ocio.INTERP_TETRAHEDRAL), x)


def baked_by_ocio(transform: ocio.Transform, form: str, size: int) -> bytes:
    return baker(transform, form, size)().encode()


def by_libavfilter(word: str, arguments: str, codes: np.ndarray, second: np.ndarray | None = None) -> np.ndarray:
    """(h, w, 3) uint8 or uint16 through a filter; `second` is the other input of one that takes two."""
    name = "rgb24" if codes.dtype == np.uint8 else "rgb48le"
    graph = av.filter.Graph()
    node, end = graph.add(word, arguments), graph.add("buffersink")
    inputs = [codes] if second is None else [codes, second]
    begins = []
    for index, picture in enumerate(inputs):
        height, width = picture.shape[:2]
        begins.append(graph.add_buffer(width=width, height=height, format=av.VideoFormat(name), time_base="1/25"))
        begins[-1].link_to(node, 0, index)
    node.link_to(end)
    graph.configure()
    for begin, picture in zip(begins, inputs, strict=True):
        begin.push(_frame(picture, name))
    result = end.pull()
    assert result.format.name == name
    row = result.planes[0].line_size // codes.itemsize
    flat = np.frombuffer(bytes(result.planes[0]), codes.dtype).reshape(codes.shape[0], row)
    return flat[:, : 3 * codes.shape[1]].reshape(codes.shape)


def hald_of_libavfilter(level: int) -> np.ndarray:
    """(level**3, level**3, 3) uint16: the identity that haldclutsrc makes."""
    graph = av.filter.Graph()
    nodes = [graph.add("haldclutsrc", f"level={level}"), graph.add("format", "pix_fmts=rgb48le"), graph.add("buffersink")]
    for one, other in pairwise(nodes):
        one.link_to(other)
    graph.configure()
    frame = nodes[-1].pull()
    flat = np.frombuffer(bytes(frame.planes[0]), np.uint16).reshape(frame.height, frame.planes[0].line_size // 2)
    return flat[:, : 3 * frame.width].reshape(frame.height, frame.width, 3)


def _frame(codes: np.ndarray, name: str) -> av.VideoFrame:
    height, width = codes.shape[:2]
    frame = av.VideoFrame(width, height, name)
    padded = np.zeros((height, frame.planes[0].line_size // codes.itemsize), codes.dtype)
    padded[:, : 3 * width] = codes.reshape(height, 3 * width)
    frame.planes[0].update(padded.tobytes())
    frame.pts = 0
    return frame


class LittleCms:
    """Just enough of liblcms2: RGB float in and out."""

    FLOATS = (1 << 22) | (4 << 16) | (3 << 3) | 4  # TYPE_RGB_FLT of lcms2.h
    XYZ_FLOATS = (1 << 22) | (9 << 16) | (3 << 3) | 4  # TYPE_XYZ_FLT
    COLORIMETRIC, EXACT = 1, 0x0100  # INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE

    def __init__(self) -> None:
        self.library = ctypes.CDLL("liblcms2.so.2")
        for name in (
            "cmsOpenProfileFromMem",
            "cmsCreateMultiprofileTransform",
            "cmsTransform2DeviceLink",
            "cmsCreateRGBProfile",
            "cmsBuildGamma",
            "cmsCreate_sRGBProfile",
            "cmsCreateXYZProfile",
        ):
            getattr(self.library, name).restype = ctypes.c_void_p
        self.library.cmsTransform2DeviceLink.argtypes = [ctypes.c_void_p, ctypes.c_double, ctypes.c_uint32]
        self.library.cmsBuildGamma.argtypes = [ctypes.c_void_p, ctypes.c_double]
        self.library.cmsCreateRGBProfile.argtypes = [ctypes.c_void_p] * 3
        self.library.cmsSaveProfileToMem.argtypes = [ctypes.c_void_p, ctypes.c_void_p, ctypes.c_void_p]
        self.library.cmsDoTransform.argtypes = [ctypes.c_void_p, ctypes.c_void_p, ctypes.c_void_p, ctypes.c_uint32]
        self.library.cmsCreateMultiprofileTransform.argtypes = [
            ctypes.c_void_p,
            ctypes.c_uint32,
            ctypes.c_uint32,
            ctypes.c_uint32,
            ctypes.c_uint32,
            ctypes.c_uint32,
        ]

    def open(self, data: bytes) -> int:
        profile = self.library.cmsOpenProfileFromMem(data, len(data))
        assert profile, "LittleCMS refuses the profile"
        return int(profile)

    def transform(self, *profiles: int) -> int:
        together = (ctypes.c_void_p * len(profiles))(*profiles)
        made = self.library.cmsCreateMultiprofileTransform(together, len(profiles), self.FLOATS, self.FLOATS, 0, 0)
        assert made, "LittleCMS refuses the transform"
        return int(made)

    def to_xyz(self, profile: int) -> int:
        """Relative colorimetric, to CIE XYZ with white D50."""
        together = (ctypes.c_void_p * 2)(profile, self.library.cmsCreateXYZProfile())
        ends = (self.FLOATS, self.XYZ_FLOATS, self.COLORIMETRIC, self.EXACT)
        made = self.library.cmsCreateMultiprofileTransform(together, 2, *ends)
        assert made, "LittleCMS refuses the transform"
        return int(made)

    def apply(self, transform: int, x: np.ndarray) -> np.ndarray:
        source = np.ascontiguousarray(x, np.float32)
        out = np.empty_like(source)
        self.library.cmsDoTransform(transform, source.ctypes.data, out.ctypes.data, len(source))
        return out

    def link(self, transform: int, version: float) -> bytes:
        """A device link that LittleCMS makes of a transform."""
        profile = self.library.cmsTransform2DeviceLink(transform, version, 0)
        size = ctypes.c_uint32(0)
        self.library.cmsSaveProfileToMem(profile, None, ctypes.byref(size))
        data = ctypes.create_string_buffer(size.value)
        self.library.cmsSaveProfileToMem(profile, data, ctypes.byref(size))
        return data.raw[: size.value]

    def gamma_profile(self, gamma: float) -> int:
        class Xyy(ctypes.Structure):
            _fields_ = [("x", ctypes.c_double), ("y", ctypes.c_double), ("Y", ctypes.c_double)]

        white = Xyy(0.3127, 0.329, 1)
        corners = (Xyy * 3)(Xyy(0.64, 0.33, 1), Xyy(0.3, 0.6, 1), Xyy(0.15, 0.06, 1))
        curve = self.library.cmsBuildGamma(None, gamma)
        curves = (ctypes.c_void_p * 3)(curve, curve, curve)
        profile = self.library.cmsCreateRGBProfile(ctypes.byref(white), ctypes.byref(corners), ctypes.byref(curves))
        assert profile
        return int(profile)
