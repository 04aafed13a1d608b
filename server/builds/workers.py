"""Processes that compute, so that nothing computed can hold up the server or outlive its asker.

Each kind of work has a pool of its own: a few processes and a bound on how many may wait for them. A job that takes too
long, or whose asker has left, is ended with its process; another takes its place, forked from a process that has the
kernel loaded.
"""

import os
import signal
import threading
import time
import traceback
from collections.abc import Callable
from concurrent.futures import BrokenExecutor, CancelledError
from typing import Any, NamedTuple

from pebble import ProcessExpired, ProcessFuture, ProcessPool

from builds.forking import CONTEXT
from builds.questions import JOBS
from builds.questions.asking import Done, Kind, done

_LOOK_S = 0.05
"""How often it is asked whether the asker is still there; an answer is passed on at once."""


class Busy(Exception):
    """As many wait already as may, or it took too long for a turn to come."""


class TooLong(Exception):
    """The job was ended at its time limit, s."""


class Left(Exception):
    """The asker is gone; the job was ended."""


class Broke(Exception):
    """The job failed in a way nobody foresaw: the kind of error and where, without the values it happened to."""


class Failed(NamedTuple):
    """How a job failed, told by its process: the kind of error, and where."""

    kind: str
    where: str


class Processes:
    """`size` processes with the kernel loaded, `lower` by that niceness; new ones where the old ones ended all together
    (killed while idle)."""

    def __init__(self, size: int, lower: int) -> None:
        self._size, self._lower, self._replacing = size, lower, threading.Lock()
        self._pool = self._made()

    def begun(self, function: Callable[..., Any], *given: Any, timeout: float | None = None) -> "ProcessFuture[Any]":
        """The function handed to a process, with what it is given."""
        with self._replacing:
            if not self._pool.active:
                self.end()
                self._pool = self._made()
            return self._pool.schedule(function, args=given, timeout=timeout)

    def end(self) -> None:
        """End them all."""
        self._pool.stop()  # type: ignore[no-untyped-call]
        self._pool.join()

    def _made(self) -> ProcessPool:
        return ProcessPool(self._size, initializer=_begin, initargs=(self._lower,), context=CONTEXT)


def always_there() -> bool:
    """For an asker that cannot leave: False."""
    return False


class Pool:
    """`size` processes; `waiting` more jobs may wait. `lower` gives way to other work on the machine by that much
    (nice)."""

    def __init__(self, size: int, waiting: int, limit_s: float, lower: int = 0) -> None:
        self.limit_s = limit_s
        self._size = size
        self._entries = threading.BoundedSemaphore(size + waiting)
        self._turns = threading.BoundedSemaphore(size)
        self._at_work, self._counting = 0, threading.Lock()
        self._processes = Processes(size, lower)

    def run(self, job: str, given: Any, left: Callable[[], bool] = always_there) -> Done:
        """The answer to a job.

        Raises:
            Busy, TooLong, Left, Broke.
        """
        if not self._entries.acquire(blocking=False):
            raise Busy
        try:
            self._wait_for_turn(left)
            self._count(1)
            try:
                return self._answered(job, given, left)
            finally:
                self._count(-1)
                self._turns.release()
        finally:
            self._entries.release()

    @property
    def at_work(self) -> int:
        """How many jobs are being done."""
        return self._at_work

    def _count(self, more: int) -> None:
        with self._counting:
            self._at_work += more

    def _wait_for_turn(self, left: Callable[[], bool]) -> None:
        end = time.monotonic() + self.limit_s
        while not self._turns.acquire(timeout=_LOOK_S):
            if left():
                raise Left
            if time.monotonic() > end:
                raise Busy

    def _answered(self, job: str, given: Any, left: Callable[[], bool]) -> Done:
        said: Done | Failed = self._said(self._processes.begun(_do, job, given), job, left)
        if isinstance(said, Failed):
            raise Broke(f"{said.kind} in {job}\n{said.where}")
        return said

    def _said(self, asked: "ProcessFuture[Any]", job: str, left: Callable[[], bool]) -> Any:
        end = time.monotonic() + self.limit_s
        while True:
            try:
                return asked.result(timeout=_LOOK_S)
            except TimeoutError:
                if left():
                    asked.cancel()  # type: ignore[no-untyped-call]
                    raise Left from None
                if time.monotonic() > end:
                    asked.cancel()  # type: ignore[no-untyped-call]
                    raise TooLong(f"{self.limit_s:.0f}") from None
            except (ProcessExpired, BrokenExecutor, CancelledError, OSError) as error:
                raise Broke(f"the process ended while at {job}: {type(error).__name__}") from None

    def ready(self, job: str, given: Any, within_s: float = 120) -> None:
        """Start every process, and have them do a job."""
        for asked in [self._processes.begun(_do, job, given) for _ in range(self._size)]:
            asked.result(timeout=within_s)

    def end(self) -> None:
        """End all processes."""
        self._processes.end()


def _begin(lower: int) -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # an interrupt ends the server, which ends us
    os.nice(lower)


def _do(job: str, given: Any) -> "Done | Failed":
    try:
        return done(job, given)
    except Exception as error:
        return Failed(type(error).__name__, "".join(traceback.format_tb(error.__traceback__)))


# Limits are for what never ends, and count what others on the machine take away too: far above what any job needs.
POOLS: dict[Kind, Pool] = {
    "hand": Pool(size=2, waiting=14, limit_s=20),
    "result": Pool(size=1, waiting=7, limit_s=30, lower=2),
    "advice": Pool(size=max(1, (os.cpu_count() or 1) - 1), waiting=12, limit_s=90, lower=4),
}


def run(job: str, given: Any, left: Callable[[], bool] = always_there) -> Done:
    """The answer to a job, from the pool of its kind of work.

    Raises:
        Busy, TooLong, Left, Broke.
    """
    return POOLS[JOBS[job].kind].run(job, given, left)
