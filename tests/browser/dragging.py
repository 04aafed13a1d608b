"""A hand that drags a mount without end, asking for figures as the page does: a line on standard output for each
answer, how long it took, ms. A process of its own, as it is a machine of its own: run with the server's port."""

import contextlib
import http.client
import json
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

from shop import TENDER

FRAME_S = 0.016
STEP_MM = 0.01
PATIENCE_S = 60


def drag(port: int) -> Iterator[float]:
    """Each step's time, ms; steps that meet no server are passed over."""
    document, server = json.loads(TENDER), http.client.HTTPConnection("127.0.0.1", port, timeout=PATIENCE_S)
    mount = document["links"][0]["axle"]["at"]
    while True:
        mount[2] += STEP_MM
        body = json.dumps({"document": document, "travel": 0.0, "articulation": 0.0})
        begun = time.perf_counter()
        try:
            server.request("POST", "/api/cycle", body, {"Content-Type": "application/json"})
            answer = server.getresponse()
            answer.read()
        except (http.client.HTTPException, OSError):
            server.close()
        else:
            if answer.status == http.HTTPStatus.OK:
                yield (time.perf_counter() - begun) * 1e3
        time.sleep(FRAME_S)


class Drag:
    """Dragging, until it is told to let go."""

    def __init__(self, port: int) -> None:
        command = [sys.executable, str(Path(__file__)), str(port)]
        self._process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)

    def steps(self) -> Iterator[float]:
        """The time of each step as it is done, ms."""
        assert self._process.stdout is not None
        yield from map(float, self._process.stdout)

    def let_go(self) -> None:
        self._process.terminate()
        self._process.wait()


if __name__ == "__main__":
    with contextlib.suppress(BrokenPipeError):
        for took in drag(int(sys.argv[1])):
            print(f"{took:.3f}", flush=True)
