"""How a document's text is kept: compressed, and most of them against an earlier text of the same document.

A revision mostly says what the one before said. With that text at hand as its dictionary, what is kept is little more
than what changed (RFC 1950: a stream carries the checksum of its text, and that of its dictionary).
"""

import zlib

EVERY = 25
"""Each so many revisions one is kept whole: damage to it costs no more than this many."""

_LEVEL = 9


class Damaged(Exception):
    """What is kept here is no longer what was written."""


def base_of(number: int) -> int | None:
    """The number of the revision whose text is the dictionary of this one's; None: this one is kept whole."""
    base = number - (number - 1) % EVERY
    return None if base == number else base


def pack(text: str, base: str | None = None) -> bytes:
    packer = zlib.compressobj(_LEVEL, zdict=base.encode()) if base else zlib.compressobj(_LEVEL)
    return packer.compress(text.encode()) + packer.flush()


def unpack(packed: bytes, base: str | None = None) -> str:
    """
    Raises:
        Damaged: where this is not what `pack` made with that base.
    """
    try:
        unpacker = zlib.decompressobj(zdict=base.encode()) if base else zlib.decompressobj()
        text = unpacker.decompress(packed)
        if not unpacker.eof or unpacker.unused_data:
            raise Damaged("it ends too soon or too late")
        return text.decode()
    except (zlib.error, UnicodeDecodeError) as error:
        raise Damaged(str(error)) from None
