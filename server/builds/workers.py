"""Processes that compute, so that nothing computed can hold up the server or outlive its asker.

Each pool has a few processes and a bound on how many may wait for them. A job that takes too long, or whose asker has
left, is ended with its process; another process takes its place. Processes are forked from one that has the kernel
loaded, so that the new one is ready at once.
"""

import itertools
import os
import queue
import signal
import threading
import time
import traceback
from collections.abc import Callable
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from typing import Any, NamedTuple

from builds.forking import CONTEXT
from builds.jobs import Done, done

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


class _Failed(NamedTuple):
    kind: str
    where: str


def always_there() -> bool:
    """For an asker that cannot leave: False."""
    return False


class Pool:
    """`size` processes, started when first needed; `waiting` more jobs may wait. `lower` gives way to other work on the
    machine by that much (nice)."""

    def __init__(self, size: int, waiting: int, limit_s: float, lower: int = 0) -> None:
        self.limit_s, self._lower = limit_s, lower
        self._entries = threading.BoundedSemaphore(size + waiting)
        self._free: queue.LifoQueue[_Worker | None] = queue.LifoQueue()
        for _ in range(size):
            self._free.put(None)
        self._size = size

    def run(self, job: str, given: dict[str, Any], left: Callable[[], bool] = always_there) -> Done:
        """The answer to a job.

        Raises:
            Busy, TooLong, Left, Broke.
        """
        if not self._entries.acquire(blocking=False):
            raise Busy
        try:
            worker = self._turn(left)
            answered = False
            try:
                said = worker.ask(job, given, self.limit_s, left)
                answered = True
            finally:
                if not answered:
                    worker.end()
                self._free.put(worker if answered else None)
        finally:
            self._entries.release()
        if isinstance(said, _Failed):
            raise Broke(f"{said.kind} in {job}\n{said.where}")
        return said

    def ready(self, job: str, given: dict[str, Any], within_s: float = 120) -> None:
        """Start every process, and have each do a job once."""
        workers = [self._turn(always_there) for _ in range(self._size)]
        for worker in workers:
            worker.ask(job, given, within_s, always_there)
            self._free.put(worker)

    def processes(self) -> list[BaseProcess]:
        """Those of them that have started and wait for work."""
        return [worker.process for worker in list(self._free.queue) if worker is not None]

    def end(self) -> None:
        """End those that wait for work."""
        for _ in range(self._size):
            worker = self._free.get()
            if worker is not None:
                worker.end()
            self._free.put(None)

    def _turn(self, left: Callable[[], bool]) -> "_Worker":
        end = time.monotonic() + self.limit_s
        while True:
            try:
                return self._free.get(timeout=_LOOK_S) or _Worker(self._lower)
            except queue.Empty:
                if left():
                    raise Left from None
                if time.monotonic() > end:
                    raise Busy from None


class _Worker:
    """A process and the line to it."""

    _starting = threading.Lock()
    _numbers = itertools.count(1)

    def __init__(self, lower: int) -> None:
        with self._starting:  # the standard library's list of children is not kept for many threads
            self._line, theirs = CONTEXT.Pipe()
            self.process = CONTEXT.Process(
                target=_serve, args=(theirs, lower), name=f"computing-{next(self._numbers)}", daemon=True
            )
            self.process.start()
            theirs.close()

    def ask(self, job: str, given: dict[str, Any], limit_s: float, left: Callable[[], bool]) -> "Done | _Failed":
        try:
            self._line.send((job, given))
            end = time.monotonic() + limit_s
            while not self._line.poll(_LOOK_S):
                if left():
                    raise Left
                if time.monotonic() > end:
                    raise TooLong(f"{limit_s:.0f}")
            said: Done | _Failed = self._line.recv()
        except (EOFError, OSError) as error:
            raise Broke(f"the process ended while at {job}: {type(error).__name__}") from None
        return said

    def end(self) -> None:
        with self._starting:
            self.process.kill()
            self.process.join()
            self._line.close()


def _serve(line: Connection, lower: int) -> None:
    """A process's life: a job, its answer, and so on until the other end is gone."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # an interrupt ends the server, which ends us
    os.nice(lower)
    while True:
        try:
            job, given = line.recv()
        except EOFError:
            return
        try:
            said: Done | _Failed = done(job, given)
        except Exception as error:
            frames = traceback.format_tb(error.__traceback__)
            said = _Failed(type(error).__name__, "".join(frames))
        try:
            line.send(said)
        except OSError:
            return


LIVE = Pool(size=2, waiting=14, limit_s=10)
"""For a hand on the drawing."""
PULLS = Pool(size=1, waiting=7, limit_s=10, lower=5)
"""For a hand on a result: it waits for its own kind only."""
HEAVY = Pool(size=max(1, (os.cpu_count() or 1) - 1), waiting=12, limit_s=30, lower=10)
"""For advice, starts and drawings, which give way to both."""

POOLS = {"look": LIVE, "cycle": LIVE, "baseline": LIVE, "gaps": LIVE, "pull": PULLS}
"""The pool of each job; HEAVY of those not named."""


def run(job: str, given: dict[str, Any], left: Callable[[], bool] = always_there) -> Done:
    """The answer to a job, from its pool.

    Raises:
        Busy, TooLong, Left, Broke.
    """
    return POOLS.get(job, HEAVY).run(job, given, left)
