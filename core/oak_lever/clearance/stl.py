"""Triangles of an STL file, a block at a time: a shape of a million corners takes no more memory than a small one."""

import re
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

Corners = NDArray[np.float64]

_HEAD, _TRIANGLE = 84, 50
_BLOCK = 8_192
"""Triangles in a block."""
_TEXT_BLOCK = 1 << 20
_VERTEX = re.compile(rb"\bvertex\s+(\S+)\s+(\S+)\s+(\S+)", re.IGNORECASE)
_ONE = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")])


def corners_of(data: bytes) -> Iterator[Corners]:
    """Blocks (N, 3) of the triangles' corners, in the file's unit; each as often as triangles meet in it.

    Raises:
        ValueError: for what is no STL, as far as it shows at its head or while it is read.
    """
    if len(data) >= _HEAD and len(data) == _HEAD + _TRIANGLE * int.from_bytes(data[80:84], "little"):
        yield from _of_binary(data)
    elif data.lstrip()[:5].lower() == b"solid":
        yield from _of_text(data)
    elif data:
        raise ValueError("neither binary nor text")


def _of_binary(data: bytes) -> Iterator[Corners]:
    every = np.frombuffer(data, _ONE, offset=_HEAD)
    for first in range(0, len(every), _BLOCK):
        yield every["corners"][first : first + _BLOCK].reshape(-1, 3).astype(float)


def _of_text(data: bytes) -> Iterator[Corners]:
    at = 0
    while at < len(data):
        end = data.find(b"\n", min(at + _TEXT_BLOCK, len(data)))
        end = len(data) if end < 0 else end + 1
        found = _VERTEX.findall(data, at, end)
        if found:
            yield np.array(found, dtype=np.bytes_).astype(float)
        at = end
