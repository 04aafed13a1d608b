"""Asking an instrument: one line out, one line back, and whatever can go wrong on the way in words."""

import socket
from typing import NamedTuple

WAIT_S = 3.0
LONGEST = 500
"""Characters a line may have."""


class Value(NamedTuple):
    """What an instrument reads, and its unit."""

    value: float
    unit: str


class NoReading(Exception):
    """The instrument is there and gives none: why, in words."""


class Lost(Exception):
    """No instrument answers there."""


UNITS = ("mm", "in", "deg", "kg", "lb")


def ask(address: tuple[str, int], line: str, wait_s: float = WAIT_S) -> str:
    """The one line that answers a line.

    Raises:
        Lost: where nobody listens, or no whole line comes back in time.
    """
    try:
        with socket.create_connection(address, wait_s) as there:
            there.settimeout(wait_s)
            there.sendall(line.encode() + b"\n")
            with there.makefile("r", encoding="utf-8", errors="replace") as back:
                said = back.readline(LONGEST + 1)
    except OSError as error:
        raise Lost(f"The bench does not answer ({error.strerror or type(error).__name__}).") from None
    if not said.endswith("\n"):
        raise Lost("The bench broke off in the middle of its answer.")
    return said.strip()


def read(address: tuple[str, int], instrument: str, what: str, wait_s: float = WAIT_S) -> Value:
    """What an instrument reads of something (words that a real device may leave unread).

    Raises:
        Lost, NoReading.
    """
    if "\n" in instrument + what or len(instrument + what) > LONGEST - 10:
        raise NoReading("That is too much to ask of an instrument.")
    kind, _, rest = ask(address, f"READ {instrument} {what}".strip(), wait_s).partition(" ")
    if kind == "NONE":
        raise NoReading(rest or "It gives no reading.")
    value, _, unit = rest.partition(" ")
    try:
        if kind != "VALUE" or unit not in UNITS:
            raise ValueError
        return Value(float(value), unit)
    except ValueError:
        raise NoReading("The bench says something that is no reading.") from None


def zero(address: tuple[str, int], instrument: str, on: str) -> None:
    """Zero an instrument on a surface (`level`, `plumb`).

    Raises:
        Lost, NoReading.
    """
    said = ask(address, f"ZERO {instrument} {on}")
    if said != "OK":
        raise NoReading(said.removeprefix("NONE ") or "It could not be zeroed.")


def instruments(address: tuple[str, int]) -> list[str]:
    """What stands on the bench.

    Raises:
        Lost.
    """
    kind, *names = ask(address, "HELLO").split()
    if kind != "BENCH":
        raise Lost("What answers there is no bench.")
    return names
