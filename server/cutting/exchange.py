"""Asking a cutting service: an archive there, its answer back, and whatever can go wrong on the way in words.

A service is an outside thing: its answer has one deadline, a bounded size and a known form, and only a few ask at a
time. The exchange itself is in docs/cutting-service.md.
"""

import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from datetime import date
from http.client import HTTPConnection, HTTPException
from typing import Annotated, Literal, TypeVar
from urllib.parse import quote as in_path

from pydantic import BaseModel, ConfigDict, Field, ValidationError

WAIT_S = 12.0
"""For a whole answer, however it trickles in."""
LARGEST = 1_000_000
"""Bytes an answer may have."""
AT_ONCE = 2
_turns = threading.BoundedSemaphore(AT_ONCE)

Words = Annotated[str, Field(max_length=1000)]
Number = Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[\x21-\x7e]+$")]


class _Said(BaseModel):
    model_config = ConfigDict(allow_inf_nan=False, frozen=True)


class Refusal(_Said):
    """A part that the service does not cut, and why."""

    part: Words
    why: Words


class Quote(_Said):
    """What it says of an archive: its own number for it, what it refuses, the price of the rest in `currency`, and in
    how many days that would be sent."""

    job: Number
    refused: Annotated[list[Refusal], Field(max_length=1000)]
    price: Annotated[float, Field(ge=0, le=1e7)] | None = None
    currency: Annotated[str, Field(max_length=20)] = ""
    days: Annotated[int, Field(ge=0, le=1000)] | None = None


class State(_Said):
    """How far a job is, and the day it will be there."""

    job: Number
    state: Literal["quoted", "ordered", "cutting", "sent", "stopped"]
    due: date | None = None
    note: Words = ""


class NoAnswer(Exception):
    """No service, or none that answers as one should: why, in words."""


def quote(address: tuple[str, int], archive: bytes, wait_s: float = WAIT_S) -> Quote:
    """What the service says of an archive.

    Raises:
        NoAnswer.
    """
    return _asked(Quote, address, "POST", "/jobs", archive, wait_s)


def order(address: tuple[str, int], job: str, wait_s: float = WAIT_S) -> State:
    """Order what was quoted.

    Raises:
        NoAnswer.
    """
    return _asked(State, address, "POST", f"/jobs/{in_path(job, safe='')}/order", b"", wait_s)


def state(address: tuple[str, int], job: str, wait_s: float = WAIT_S) -> State:
    """How far a job is.

    Raises:
        NoAnswer.
    """
    return _asked(State, address, "GET", f"/jobs/{in_path(job, safe='')}", None, wait_s)


_Of = TypeVar("_Of", bound=_Said)


def _asked(
    of: type[_Of], address: tuple[str, int], method: str, path: str, body: bytes | None, wait_s: float
) -> _Of:  # fmt: skip
    with _turn():
        status, said = _answer(address, method, path, body, wait_s)
    if status == 404:
        raise NoAnswer("The cutting service knows no such job.")
    if status >= 400:
        raise NoAnswer(f"The cutting service refuses: {_words(said) or status}.")
    try:
        return of.model_validate_json(said)
    except ValidationError:
        raise NoAnswer("The cutting service says something that is no answer.") from None


def _words(said: bytes) -> str:
    """What it says of a refusal, as far as that can be shown."""
    words = said[:300].decode(errors="replace").strip().rstrip(".")
    return words if words.isprintable() else ""


@contextmanager
def _turn() -> Iterator[None]:
    if not _turns.acquire(blocking=False):
        raise NoAnswer("The cutting service is busy with other questions of yours. Ask again in a moment.")
    try:
        yield
    finally:
        _turns.release()


def _answer(
    address: tuple[str, int], method: str, path: str, body: bytes | None, wait_s: float
) -> tuple[int, bytes]:  # fmt: skip
    connection = HTTPConnection(*address, timeout=wait_s)
    late = threading.Event()
    line: list[socket.socket] = []  # the connection forgets its own once an answer begins

    def end() -> None:
        late.set()
        for one in line:
            with suppress(OSError):
                one.shutdown(socket.SHUT_RDWR)

    deadline = threading.Timer(wait_s, end)
    deadline.start()
    try:
        connection.connect()
        line.append(connection.sock)
        kind = {"Content-Type": "application/zip"} if body else {}
        connection.request(method, path, body, kind)
        answered = connection.getresponse()
        said = answered.read(LARGEST + 1)
    except (OSError, HTTPException, ValueError) as error:
        if late.is_set() or isinstance(error, TimeoutError):
            raise NoAnswer("The cutting service took too long over its answer.") from None
        why = getattr(error, "strerror", None) or type(error).__name__
        raise NoAnswer(f"The cutting service does not answer ({why}).") from None
    finally:
        deadline.cancel()
        connection.close()
    if late.is_set():
        raise NoAnswer("The cutting service took too long over its answer.")
    if len(said) > LARGEST:
        raise NoAnswer("The cutting service says more than a service has to say.")
    return answered.status, said
