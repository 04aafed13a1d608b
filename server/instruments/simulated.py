"""A simulated bench: an angle gauge, a tape and scales that read a truck which stands a little off its figures.

Run as ``python -m instruments.simulated TRUCK.json``; it says its port and serves until it is ended.
"""

import argparse
import asyncio
import contextlib
import json
import math
import random
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

from outside import end_with_input

NOISE = {"tape": 0.8, "gauge": 0.05, "scale": 1.2}
"""One standard deviation of what each adds, mm, degrees, kg."""
DROPS_OUT = 0.04
"""How often an instrument gives no reading."""
_OFF = {"rear": (2.0, -4.5, 0.04), "front": (-1.0, 1.5, -0.03)}
"""Where the axles really stand: mm ahead, mm to the left, degrees turned left."""
_NOSE_UP = {"rear_pinion": 9.2, "front_pinion": 4.3, "case_output": -3.1}
_HEIGHT_OFF_MM = -3.0
_LEFT = {"front": 0.506, "rear": 0.494}


class Nothing(Exception):
    """No reading, and why."""


class Bench:
    """What the instruments read, from a truck's file; `zero` is what the gauge was last zeroed on."""

    def __init__(self, truck: dict[str, Any], seed: int | None = None) -> None:
        self._truck, self._chance = truck, random.Random(seed)
        self.zero = "level"
        self._reads: dict[str, Callable[[list[str]], tuple[float, str]]] = {
            "tape": self._tape, "gauge": self._gauge, "scale": self._scale,
        }  # fmt: skip

    def answer(self, line: str) -> str:
        """The one line that answers a line."""
        command, *words = line.split()
        try:
            if command == "HELLO":
                return " ".join(("BENCH", *self._reads))
            if command == "ZERO" and len(words) == 2 and words[1] in ("level", "plumb"):
                self.zero = words[1]
                return "OK"
            if command == "READ" and words and words[0] in self._reads:
                if self._chance.random() < DROPS_OUT:
                    raise Nothing("No steady reading: hold still and take it again.")
                value, unit = self._reads[words[0]](words[1:])
                return f"VALUE {value:.2f} {unit}"
        except Nothing as why:
            return f"NONE {why}"
        except (KeyError, ValueError, IndexError):
            return "NONE There is nothing here by that name."
        return "NONE That is no question for this bench."

    def _with_noise(self, value: float, instrument: str) -> float:
        return value + self._chance.gauss(0.0, NOISE[instrument])

    def _tape(self, words: list[str]) -> tuple[float, str]:
        kind, *points = words
        if kind == "height":
            return self._with_noise(self._point(points[0])[2] + 3.0, "tape"), "mm"
        a, b = (self._point(name) for name in points)
        apart = [q - p for p, q in zip(a, b, strict=True)]
        value = {"distance": math.hypot(*apart), "along": abs(apart[0]), "across": abs(apart[1])}[kind]
        return max(self._with_noise(value, "tape"), 0.0), "mm"

    def _point(self, name: str) -> list[float]:
        for mark in self._truck["marks"]:
            if mark["id"] == name:
                return [float(v) for v in mark["at"]]
        end, hub, side = name.split("-")
        axle, (ahead, left, turned) = self._truck["axles"][end], _OFF[end]
        if hub != "hub" or side not in ("left", "right"):
            raise KeyError(name)
        half = (1.0 if side == "left" else -1.0) * axle["track"] / 2.0
        turn = math.radians(turned)
        return [
            axle["station"] + ahead - half * math.sin(turn), left + half * math.cos(turn), axle["tire_radius_loaded"]
        ]  # fmt: skip

    def _gauge(self, words: list[str]) -> tuple[float, str]:
        """Along a shaft or square to it; what it shows hangs on what it was zeroed on."""
        angle, along = abs(_NOSE_UP[words[0]]), words[1] == "along"
        shown = angle if along == (self.zero == "level") else 90.0 - angle
        return min(max(self._with_noise(shown, "gauge"), 0.0), 90.0), "deg"

    def _scale(self, words: list[str]) -> tuple[float, str]:
        end, side, *raised = words
        vehicle, axles = self._truck["vehicle"], self._truck["axles"]
        share = vehicle["front_share"] if end == "front" else 1.0 - vehicle["front_share"]
        weight = vehicle["mass"] * share
        if raised and raised[0] not in ("level", end):
            long = axles["front"]["station"] - axles["rear"]["station"]
            by, radius = float(raised[1]), axles[end]["tire_radius_loaded"]
            lever = vehicle["cg_height"] + _HEIGHT_OFF_MM - radius
            weight += vehicle["mass"] * lever * by / (long * math.sqrt(long**2 - by**2))
        part = 1.0 if side == "both" else _LEFT[end] if side == "left" else 1.0 - _LEFT[end]
        return self._with_noise(weight * part, "scale"), "kg"


async def serve(bench: Bench, host: str, port: int) -> asyncio.Server:
    async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        try:
            while line := await reader.readline():
                text = line.decode("utf-8", "replace").strip()
                writer.write((bench.answer(text) if text else "NONE Nothing was asked.").encode() + b"\n")
                await writer.drain()
        except (ConnectionError, ValueError):
            pass
        finally:
            writer.close()

    return await asyncio.start_server(talk, host, port)


async def _run(bench: Bench, host: str, port: int) -> None:
    server = await serve(bench, host, port)
    print(f"The simulated bench listens on {host} port {server.sockets[0].getsockname()[1]}", flush=True)
    await server.serve_forever()


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("truck", type=Path)
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=0)
    parser.add_argument("--seed", type=int, default=None)
    parser.add_argument("--while-open", action="store_true", help="end when standard input does")
    given = parser.parse_args()
    bench = Bench(json.loads(given.truck.read_text()), given.seed)
    if given.while_open:
        threading.Thread(target=end_with_input, daemon=True).start()
    with contextlib.suppress(KeyboardInterrupt):
        asyncio.run(_run(bench, given.host, given.port))


if __name__ == "__main__":
    main()
