"""Asking an instrument: one line out, one line back, and whatever can go wrong on the way in words.

An instrument is an outside thing: it may be slow, broken, or not what it says it is. Its answer has one deadline, a
bounded length and a known form, and only a few ask at a time.
"""

import math
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import NamedTuple

WAIT_S = 3.0
"""For a whole answer, however it trickles in."""
LONGEST = 500
"""Bytes a line may have."""
AT_ONCE = 4
"""How many may be asking: the server has its threads for others too."""
_turns = threading.BoundedSemaphore(AT_ONCE)


class Value(NamedTuple):
    """What an instrument reads, and its unit."""

    value: float
    unit: str


class NoReading(Exception):
    """The instrument is there and gives none: why, in words."""


class Lost(Exception):
    """No instrument answers there."""


class _Range(NamedTuple):
    low: float
    high: float


RANGES: dict[str, dict[str, _Range]] = {
    "tape": {"mm": _Range(-30_000.0, 30_000.0), "in": _Range(-1_200.0, 1_200.0)},
    "gauge": {"deg": _Range(-180.0, 180.0)},
    "scale": {"kg": _Range(0.0, 20_000.0), "lb": _Range(0.0, 45_000.0)},
}
"""What each kind of instrument can read, by its units: anything else that comes is a fault of its own."""


def ask(address: tuple[str, int], line: str, wait_s: float = WAIT_S) -> str:
    """The one line that answers a line.

    Raises:
        Lost: where nobody listens, no whole line of sane length comes back in time, or too many ask already.
        NoReading: for a line with control codes in it.
    """
    with _turn():
        said = _asked(address, line, time.monotonic() + wait_s)
    words = said.decode(errors="replace")
    if not words.isprintable():
        raise NoReading("The bench says something that is no reading.")
    return words.strip()


@contextmanager
def _turn() -> Iterator[None]:
    if not _turns.acquire(blocking=False):
        raise Lost("The bench is busy with other readings. Read it again in a moment.")
    try:
        yield
    finally:
        _turns.release()


def _asked(address: tuple[str, int], line: str, end: float) -> bytes:
    """The line that comes back, without its end, by the time that is given."""
    said = b""
    try:
        with socket.create_connection(address, max(end - time.monotonic(), 0.001)) as there:
            there.sendall(line.encode() + b"\n")
            while b"\n" not in said and len(said) <= LONGEST:
                left = end - time.monotonic()
                if left <= 0.0:
                    raise Lost("The bench took too long over its answer.")
                there.settimeout(left)
                more = there.recv(LONGEST + 1)
                if not more:
                    raise Lost("The bench broke off in the middle of its answer.")
                said += more
    except TimeoutError:
        raise Lost("The bench took too long over its answer.") from None
    except OSError as error:
        raise Lost(f"The bench does not answer ({error.strerror or type(error).__name__}).") from None
    first, ended, _ = said.partition(b"\n")
    if not ended or len(first) > LONGEST:
        raise Lost("The bench says more than an instrument has to say.")
    return first.removesuffix(b"\r")


def read(address: tuple[str, int], instrument: str, what: str, wait_s: float = WAIT_S) -> Value:
    """What an instrument reads of something (words that a real device may leave unread): within its kind's range, in
    one of its units.

    Raises:
        Lost, NoReading.
    """
    asked = f"READ {instrument} {what}".strip()
    if not asked.isprintable() or len(asked.encode()) > LONGEST - 10:
        raise NoReading("That is too much to ask of an instrument.")
    kind, _, rest = ask(address, asked, wait_s).partition(" ")
    if kind == "NONE":
        raise NoReading(rest or "It gives no reading.")
    number, _, unit = rest.partition(" ")
    ranges = RANGES.get(instrument, {})
    try:
        value = float(number)
    except ValueError:
        value = math.nan
    if kind != "VALUE" or not math.isfinite(value) or "_" in number:
        raise NoReading("The bench says something that is no reading.")
    if unit not in ranges:
        raise NoReading(f"The {instrument} answers in {unit or 'no unit'}, which is no unit of its kind.")
    if not ranges[unit].low <= value <= ranges[unit].high:
        raise NoReading(f"The {instrument} says {value:g} {unit}, which is beyond what it can read.")
    return Value(value, unit)


def zero(address: tuple[str, int], instrument: str, on: str) -> None:
    """Zero an instrument on a surface (`level`, `plumb`).

    Raises:
        Lost, NoReading.
    """
    said = ask(address, f"ZERO {instrument} {on}")
    if said != "OK":
        raise NoReading(said.removeprefix("NONE ") or "It could not be zeroed.")


def instruments(address: tuple[str, int]) -> list[str]:
    """What stands on the bench, of the kinds that are known.

    Raises:
        Lost.
    """
    try:
        kind, *names = ask(address, "HELLO").split()
    except ValueError:
        kind, names = "", []
    except NoReading as why:
        raise Lost(str(why)) from None
    if kind != "BENCH":
        raise Lost("What answers there is no bench.")
    return [name for name in names if name in RANGES]
