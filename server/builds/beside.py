"""Asking what stands beside the server: the bench of instruments, the cutting service. Nothing here is kept."""

from typing import Any

from cutting import exchange
from cutting.own import SERVICE
from instruments import line
from instruments.own import BENCH


def instruments() -> dict[str, Any]:
    """What stands on the bench, or why nothing does."""
    where = BENCH.address()
    if where is None:
        return {"names": [], "why": "No bench is set."}
    try:
        return {"names": line.instruments(where), "why": ""}
    except line.Lost as why:
        return {"names": [], "why": str(why)}


def read_instrument(instrument: str, what: str) -> dict[str, Any]:
    """What an instrument reads.

    Raises:
        line.Lost: where no bench answers.
        line.NoReading: where it gives no reading.
    """
    return line.read(_bench(), instrument, what)._asdict()


def zero_gauge(on: str) -> None:
    """Zero the gauge on a surface.

    Raises:
        line.Lost, line.NoReading.
    """
    line.zero(_bench(), "gauge", on)


def _bench() -> tuple[str, int]:
    where = BENCH.address()
    if where is None:
        raise line.Lost("No bench is set.")
    return where


def cutting_service() -> bool:
    """Whether a cutting service is set."""
    return SERVICE.address() is not None


def quoted(archive: bytes) -> exchange.Quote:
    """What the cutting service says of an archive.

    Raises:
        exchange.NoAnswer.
    """
    return exchange.quote(_service(), archive)


def ordered(job: str) -> exchange.State:
    """Order a job that was quoted; one that is ordered already stays as it is.

    Raises:
        exchange.NoAnswer.
    """
    return exchange.order(_service(), job)


def job_state(job: str) -> exchange.State:
    """How far a job is.

    Raises:
        exchange.NoAnswer.
    """
    return exchange.state(_service(), job)


def _service() -> tuple[str, int]:
    where = SERVICE.address()
    if where is None:
        raise exchange.NoAnswer("No cutting service is set.")
    return where
