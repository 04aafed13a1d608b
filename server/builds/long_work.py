"""Work that goes on for longer than anybody waits: begun by one request, looked at by others under its number, from
whichever page knows it, until it is done, ended or forgotten.

It is done in processes of its own that give way to all others. What it has come to is left in a file, written whole
and put in its place, which whoever looks reads.
"""

import os
import secrets
import tempfile
import threading
import time
import traceback
from collections.abc import Callable
from concurrent.futures import BrokenExecutor, CancelledError
from contextlib import suppress
from pathlib import Path
from typing import Any, Literal, NamedTuple

import orjson
from pebble import ProcessExpired, ProcessFuture

from builds.questions.asking import Done, SoFar, done, json_bytes
from builds.workers import Broke, Busy, Failed, Processes

State = Literal["waiting", "going", "done", "refused", "failed", "ended"]
_TELL_S = 0.2
"""A result so far is written no more often."""
_KEPT = 20
"""So many that are done are remembered, the latest."""


class Unknown(Exception):
    """No work has that number, or no longer."""


class Look(NamedTuple):
    """How far it is: `share` from 0 to 1, `result` as JSON; what is said of a refusal or a failure, and its faults."""

    state: State
    share: float
    result: bytes | None
    message: str = ""
    faults: Any = ()


class _Work(NamedTuple):
    job: str
    future: "ProcessFuture[Any]"
    file: Path


class LongWork:
    """`size` processes, `waiting` more jobs may wait, each ended after `limit_s` of work; `lower`: its niceness."""

    def __init__(self, size: int, waiting: int, limit_s: float, lower: int) -> None:
        self.limit_s, self._most = limit_s, size + waiting
        self._processes = Processes(size, lower)
        self._known: dict[str, _Work] = {}
        self._changing = threading.Lock()
        self._folder: tempfile.TemporaryDirectory[str] | None = None

    def begin(self, job: str, given: Any) -> str:
        """Its number.

        Raises:
            Busy: where as many wait as may.
        """
        with self._changing:
            if sum(not one.future.done() for one in self._known.values()) >= self._most:
                raise Busy
            self._folder = self._folder or tempfile.TemporaryDirectory(prefix="oak-lever-")
            number = secrets.token_urlsafe(12)
            file = Path(self._folder.name) / number
            future = self._processes.begun(_go_through, job, given, str(file), timeout=self.limit_s)
            self._known[number] = _Work(job, future, file)
            self._forget()
        return number

    def look(self, number: str) -> Look:
        """How far it is.

        Raises:
            Unknown, Broke.
        """
        work = self._work(number)
        if work.future.done():
            return self._come_to(work)
        try:
            share, _, result = work.file.read_bytes().partition(b"\n")
        except OSError:
            return Look("waiting", 0.0, None)
        return Look("going", float(share), result)

    def end(self, number: str) -> None:
        """End it, if it is not done, and keep nothing of it.

        Raises:
            Unknown.
        """
        work = self._work(number)
        work.future.cancel()  # type: ignore[no-untyped-call]
        with self._changing:
            self._drop(number)

    def stop(self) -> None:
        """End all of it."""
        self._processes.end()
        if self._folder:
            self._folder.cleanup()

    def _work(self, number: str) -> _Work:
        work = self._known.get(number)
        if work is None:
            raise Unknown
        return work

    def _come_to(self, work: _Work) -> Look:
        try:
            said: Done | Failed = work.future.result()
        except CancelledError:
            return Look("ended", 0.0, None, "It was ended.")
        except TimeoutError:
            return Look("failed", 0.0, None, f"It took longer than {self.limit_s:.0f} s and was stopped.")
        except (ProcessExpired, BrokenExecutor, OSError) as error:
            raise Broke(f"the process ended while at {work.job}: {type(error).__name__}") from None
        if isinstance(said, Failed):
            raise Broke(f"{said.kind} in {work.job}\n{said.where}")
        if said.status == 200:
            return Look("done", 1.0, said.body)
        refusal = orjson.loads(said.body)
        return Look("refused", 0.0, None, refusal["message"], refusal["faults"])

    def _forget(self) -> None:
        over = [number for number, one in self._known.items() if one.future.done()]
        for number in over[:-_KEPT]:
            self._drop(number)

    def _drop(self, number: str) -> None:
        work = self._known.pop(number, None)
        if work:
            with suppress(OSError):
                work.file.unlink()


def _go_through(job: str, given: Any, file: str) -> "Done | Failed":
    try:
        return done(job, given, _teller(Path(file)))
    except Exception as error:
        return Failed(type(error).__name__, "".join(traceback.format_tb(error.__traceback__)))


def _teller(file: Path) -> Callable[[SoFar], None]:
    last = -_TELL_S

    def tell(so_far: SoFar) -> None:
        nonlocal last
        if time.monotonic() - last < _TELL_S:
            return
        last = time.monotonic()
        coming = file.with_suffix(".coming")
        coming.write_bytes(b"%f\n" % so_far.share + json_bytes(so_far.result))
        os.replace(coming, file)

    return tell


LONG_WORK = LongWork(size=1, waiting=7, limit_s=600, lower=8)
FILE_WORK = LongWork(size=1, waiting=7, limit_s=120, lower=2)
"""Files that somebody waits for: not behind a search of minutes."""


def stop_all() -> None:
    for one in (LONG_WORK, FILE_WORK):
        one.stop()
