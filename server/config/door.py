"""The web server, with what keeps its door free: deadlines for what is half sent, bodies refused by what they announce,
and a thread of its own for whoever asks how it is."""

import json
import resource
import socket
import time
from typing import Any

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer
from waitress.task import ThreadedTaskDispatcher
from waitress.utilities import Error

from config.guard import too_large

HEADERS_S = 10.0
"""A request's headers are there by then, or its connection is dropped; however they trickle in."""
WHOLE_S = 40.0
"""So is the whole of it."""
IDLE_S = 60
"""A connection on which nothing comes for this long is dropped; a page opens another without a word."""
LOOK_S = 1
MOST_CONNECTIONS = 1500
"""A shop has a few tablets with a handful of connections each; the rest are left over or half sent."""
_SHED = 100
"""How many of those that have waited longest with nothing whole are dropped to let others in."""
_FILES = 4096
HEALTH = "/api/health"


class _Refused(Error):  # type: ignore[misc]
    """An answer in the API's words to what no endpoint sees."""

    code, reason = 413, "Request Entity Too Large"

    def to_response(self, ident: Any = None) -> tuple[str, list[tuple[str, str]], bytes]:
        body = json.dumps({"message": self.body, "faults": []}).encode()
        return f"{self.code} {self.reason}", [("Content-Type", "application/json")], body


class _Parser(HTTPRequestParser):  # type: ignore[misc]
    """Knows when a request began to come in, and refuses a body beyond its bound before it is read."""

    def __init__(self, adj: Adjustments) -> None:
        super().__init__(adj)
        self.begun = time.monotonic()

    def received(self, data: bytes) -> int:
        consumed: int = super().received(data)
        if self.headers_finished and not getattr(self, "error", None) and hasattr(self, "path"):
            said: str | None = too_large(self.path, max(self.content_length, self.body_bytes_received))
            if said:
                self.error, self.completed = _Refused(said), True
        return consumed

    def late(self, now: float) -> bool:
        return now - self.begun > (WHOLE_S if self.headers_finished else HEADERS_S)


class _Channel(HTTPChannel):  # type: ignore[misc]
    parser_class = _Parser

    def half_sent(self) -> "_Parser | None":
        """What has begun to come in and is not whole."""
        coming: _Parser | None = self.request
        return coming


class DoorServer(TcpWSGIServer):  # type: ignore[misc]
    """Listens on one address; `threads` answer, and one more those who ask for its health."""

    channel_class = _Channel

    def __init__(self, application: Any, host: str, port: int, threads: int) -> None:
        _let_many_in()
        adjusted = Adjustments(
            host=host, port=port, threads=threads, ident=None, channel_request_lookahead=1,
            connection_limit=MOST_CONNECTIONS, channel_timeout=IDLE_S, cleanup_interval=LOOK_S, asyncore_use_poll=True,
        )  # fmt: skip
        listen = sorted(adjusted.listen, key=lambda one: one[0] != socket.AF_INET)
        self._health = ThreadedTaskDispatcher()
        self._health.set_thread_count(1)
        super().__init__(application, adj=adjusted, sockinfo=listen[0])

    def add_task(self, task: Any) -> None:
        (self._health if _asks_for_health(task) else self.task_dispatcher).add_task(task)

    def readable(self) -> bool:
        if len(self._map) >= MOST_CONNECTIONS - 1:
            self._shed()
        ready: bool = super().readable()
        return ready

    def maintenance(self, now: float) -> None:
        super().maintenance(now)
        clock = time.monotonic()
        for channel in list(self.active_channels.values()):
            coming = channel.half_sent()
            if coming is not None and coming.late(clock) and not channel.requests:
                channel.will_close = True

    def _shed(self) -> None:
        """Drop those that have kept their place longest without a whole request."""
        waiting = [one for one in self.active_channels.values() if not one.requests and not one.total_outbufs_len]
        waiting.sort(key=lambda one: one.last_activity)
        for channel in waiting[:_SHED]:
            channel.handle_close()

    def close(self) -> None:
        self._health.shutdown()
        super().close()


def _asks_for_health(channel: Any) -> bool:
    waiting = channel.requests
    return bool(waiting) and getattr(waiting[0], "path", "") == HEALTH


def _let_many_in() -> None:
    """As many open files as connections want, where the machine lets us."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = _FILES if hard == resource.RLIM_INFINITY else min(_FILES, hard)
    if soft != resource.RLIM_INFINITY and soft < wanted:
        resource.setrlimit(resource.RLIMIT_NOFILE, (wanted, hard))
