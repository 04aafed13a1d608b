"""Answers that were worked out before. A question is its message and nothing else, so the same message has the same
answer: whoever goes from area to area and back, or loads the page again, does not wait for it twice."""

import hashlib
import threading
from collections.abc import Callable

from cachetools import LRUCache

from builds.questions.asking import Done

MOST_BYTES = 64_000_000
_OK = 200


class KnownAnswers:
    """The answers that were asked for last, up to so many bytes of them."""

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        self._kept: LRUCache[tuple[str, bytes], Done] = LRUCache(most_bytes, getsizeof=lambda said: len(said.body))
        self._turn = threading.Lock()

    def of(self, name: str, message: bytes, work_out: Callable[[], Done]) -> Done:
        """The answer to a question's message, as it was sent: worked out where it is not known. A refusal is not
        kept."""
        key = name, hashlib.blake2b(message, digest_size=20).digest()
        with self._turn:
            known = self._kept.get(key)
        if known is not None:
            return known
        said = work_out()
        if said.status == _OK and len(said.body) < self._kept.maxsize:
            with self._turn:
                self._kept[key] = said
        return said


KNOWN_ANSWERS = KnownAnswers()
