"""How values go between processes: JSON and, behind it, raw arrays. Never a pickle: a reader may be in the hands of the file that it read.

A message is a few bytes on a socket. What is larger lies in an anonymous file (memfd) that goes with it, sealed so that it can neither
shrink nor change, and its arrays are looked at where they lie.
"""

from __future__ import annotations

import dataclasses
import fcntl
import json
import math
import mmap
import os
import socket
import typing
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import BaseModel

INLINE = 32_000
ALIGNED = 64
KINDS = ("|u1", "<u2", "<u4", "<i4", "<i8", "<f2", "<f4", "<f8", "|b1")
DEEPEST = 40
_PASSED: dict[str, type] = {}
_SEALS = fcntl.F_SEAL_SEAL | fcntl.F_SEAL_SHRINK | fcntl.F_SEAL_GROW | fcntl.F_SEAL_WRITE
Class = typing.TypeVar("Class", bound=type)


class BadMessage(Exception):
    """What came is no message of ours."""


def passed(cls: Class) -> Class:
    """A dataclass or model that may come out of a reader's process. Its own checks run again where it arrives."""
    _PASSED[cls.__qualname__] = cls
    return cls


def send(channel: socket.socket, value: Any) -> None:
    """Raises: OSError when nobody is there any more; TypeError for what cannot be passed"""
    arrays: list[np.ndarray] = []
    text = json.dumps(_plain(value, arrays)).encode()
    places, end = [], _aligned(len(text) + 16)
    for array in arrays:
        places.append(end)
        end = _aligned(end + array.nbytes)
    head = len(text).to_bytes(8, "little") + end.to_bytes(8, "little")
    if end <= INLINE:
        whole = bytearray(end)
        _lay(whole, head, text, places, arrays)
        channel.sendall(b"I" + whole)
        return
    handle = os.memfd_create("saucer-reading", os.MFD_CLOEXEC | os.MFD_ALLOW_SEALING)
    try:
        os.ftruncate(handle, end)
        with mmap.mmap(handle, end) as room:
            _lay(room, head, text, places, arrays)
        fcntl.fcntl(handle, fcntl.F_ADD_SEALS, _SEALS)
        socket.send_fds(channel, [b"F"], [handle])
    finally:
        os.close(handle)


def _aligned(number: int) -> int:
    return -(-number // ALIGNED) * ALIGNED


def _lay(room: Any, head: bytes, text: bytes, places: list[int], arrays: list[np.ndarray]) -> None:
    room[:16], room[16 : 16 + len(text)] = head, text
    for place, array in zip(places, arrays, strict=True):
        if array.nbytes:
            np.frombuffer(room, array.dtype, array.size, place).reshape(array.shape)[...] = array


def receive(channel: socket.socket) -> Any:
    """Arrays in it may be written to; that changes nothing for anybody else.

    Raises: EOFError when the other end is gone; TimeoutError; BadMessage
    """
    message, handles, _, _ = socket.recv_fds(channel, INLINE + 1, 1)
    handle = handles[0] if handles else None
    try:
        if not message:
            raise EOFError
        if message[:1] == b"I":
            room: Any = bytearray(message[1:])
        elif message == b"F" and handle is not None:
            if fcntl.fcntl(handle, fcntl.F_GET_SEALS) & _SEALS != _SEALS:
                raise BadMessage("what it sent could still change")
            room = mmap.mmap(handle, os.fstat(handle).st_size, mmap.MAP_PRIVATE, mmap.PROT_READ | mmap.PROT_WRITE)
        else:
            raise BadMessage("it sent something else")
        length = int.from_bytes(room[:8], "little")
        value = json.loads(bytes(room[16 : 16 + length]))
        return _Maker(room, handle, _aligned(length + 16)).make(value)
    except (ValueError, TypeError, KeyError, RecursionError) as error:
        raise BadMessage(str(error)) from None
    finally:
        for one in handles:
            os.close(one)


def _plain(value: Any, arrays: list[np.ndarray]) -> Any:
    """As JSON has it: what JSON does not know is an object of one member, whose name says what it is."""
    if value is None or isinstance(value, bool | int | float | str):
        return value
    if isinstance(value, np.generic):
        return value.item()
    if isinstance(value, bytes | bytearray | memoryview):
        return {"bytes": _plain(np.frombuffer(value, np.uint8), arrays)}
    if isinstance(value, np.ndarray):
        whole = np.ascontiguousarray(value)
        arrays.append(whole)
        return {"array": [whole.dtype.str, list(value.shape)]}
    if isinstance(value, tuple):
        return {"tuple": [_plain(one, arrays) for one in value]}
    if isinstance(value, list):
        return [_plain(one, arrays) for one in value]
    if isinstance(value, dict):
        return {"dict": [[_plain(key, arrays), _plain(one, arrays)] for key, one in value.items()]}
    if isinstance(value, Fraction):
        return {"fraction": [value.numerator, value.denominator]}
    if isinstance(value, Path):
        return {"path": str(value)}
    if dataclasses.is_dataclass(value) and _PASSED.get(type(value).__qualname__) is type(value):
        fields = {field.name: _plain(getattr(value, field.name), arrays) for field in dataclasses.fields(value) if field.init}
        return {"class": [type(value).__qualname__, fields]}
    if isinstance(value, BaseModel) and _PASSED.get(type(value).__qualname__) is type(value):
        return {"model": [type(value).__qualname__, value.model_dump_json()]}
    raise TypeError(f"{type(value).__name__} does not go between processes")


class _Maker:
    """Values again out of JSON; arrays follow each other in `room` from `start` on, in the order in which they are named."""

    def __init__(self, room: Any, handle: int | None, start: int) -> None:
        self._room, self._handle, self._at, self._depth = room, handle, start, 0

    def make(self, given: Any) -> Any:
        if not isinstance(given, dict | list):
            return given
        self._depth += 1
        if self._depth > DEEPEST:
            raise BadMessage("nested too deep")
        try:
            if isinstance(given, list):
                return [self.make(one) for one in given]
            ((what, one),) = given.items()
            return self._made(what, one)
        finally:
            self._depth -= 1

    def _made(self, what: str, given: Any) -> Any:
        match what:
            case "array":
                return self._array(*given)
            case "bytes":
                return self._bytes(*given["array"])
            case "tuple":
                return tuple(self.make(one) for one in given)
            case "dict":
                return {self.make(key): self.make(one) for key, one in given}
            case "fraction":
                return Fraction(*given)
            case "path":
                return Path(given)
            case "class":
                name, fields = given
                return _PASSED[name](**{field: self.make(one) for field, one in fields.items()})
            case "model":
                name, text = given
                cls = _PASSED[name]
                if issubclass(cls, BaseModel):
                    return cls.model_validate_json(text)
        raise BadMessage("something unknown")

    def _bytes(self, kind: str, shape: list[int]) -> bytes:
        """Read from the file, and not copied out of what was mapped of it: so they are there once."""
        start = self._at
        found = self._array(kind, shape)
        return found.tobytes() if self._handle is None else os.pread(self._handle, found.nbytes, start)

    def _array(self, kind: str, shape: list[int]) -> np.ndarray:
        if kind not in KINDS or len(shape) > 6 or not all(isinstance(side, int) and side >= 0 for side in shape):
            raise BadMessage("an array of an unknown kind")
        dtype, count = np.dtype(kind), math.prod(shape)
        if self._at + count * dtype.itemsize > len(self._room):
            raise BadMessage("an array that is not there")
        found = np.frombuffer(self._room, dtype, count, self._at) if count else np.zeros(0, dtype)
        self._at = _aligned(self._at + count * dtype.itemsize)
        return found.reshape(shape)
