"""A simulated cutting service: reads the plates of an archive, says which it would not cut and why, a price and a day.

Run as ``python -m cutting.simulated``; it says its port and serves until it is ended. Told to, it answers late,
wrong or not at all.
"""

import argparse
import csv
import io
import json
import math
import threading
import time
import zipfile
from datetime import date, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

import numpy as np
from ezdxf.filemanagement import read
from ezdxf.lldxf.const import DXFError
from ezdxf.path import make_path

from outside import end_with_input

IN_STOCK_MM = (3.0, 3.175, 4.0, 4.7625, 5.0, 6.0, 6.35, 8.0, 9.525, 10.0, 12.0, 12.7)
THICK_MM = 0.05
"""How far a thickness may be off one in stock."""
BED_MM = (1500.0, 3000.0)
LEAST_HOLE = 0.5
LEAST_WEB = 0.5
"""In thicknesses: a hole's diameter, and the metal beside it."""
CLOSED_MM = 0.05
DAYS = 7
LARGEST = 50_000_000
_A_CUT_METER, _A_KILOGRAM, _A_PIERCING = 3.2, 4.5, 0.4
_STEEL = 7.85e-6
"""Kilograms a cubic millimeter."""
_LATE_S = 60.0
_FLAT_MM = 0.05


def plates_of(archive: bytes) -> dict[str, tuple[float | None, bytes]]:
    """Each plate's drawing by the part's name, its own or that of the one it is cut like, with its thickness, mm (None
    where the list has none).

    Raises:
        ValueError: where it is no archive of plates.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(archive)) as files:
            if sum(one.file_size for one in files.infolist()) > LARGEST:
                raise ValueError("the archive is too large")
            listed = io.StringIO(files.read("parts.csv").decode())
            rows = [row for row in csv.DictReader(listed) if row["kind"] == "plate"]
            # every other drawing in the archive (the room, whole sheets) is no part to cut
            found = {row["name"]: (_thickness(row["what"]), files.read(f"{_drawn_as(row)}.dxf")) for row in rows}
    except (zipfile.BadZipFile, KeyError, UnicodeDecodeError, NotImplementedError) as error:
        raise ValueError("that is no archive of plates with their parts.csv") from error
    if not found:
        raise ValueError("there is no plate in the archive")
    return found


_LIKE = "cut like "


def _drawn_as(row: dict[str, str]) -> str:
    """The name of its drawing."""
    notes = (note for note in (row["note"] or "").split("; ") if note.startswith(_LIKE))
    return next((note.removeprefix(_LIKE) for note in notes), row["name"])


def _thickness(what: str) -> float | None:
    """Of a line as "plate 6.35 mild"."""
    try:
        return float(what.split()[1])
    except (IndexError, ValueError):
        return None


class _No(Exception):
    """A part that is not cut, and why."""


def looked_at(thickness: float | None, drawing: bytes) -> float:
    """The price of a plate.

    Raises:
        _No.
    """
    if thickness is None:
        raise _No("the list does not say how thick it is")
    if min(abs(thickness - one) for one in IN_STOCK_MM) > THICK_MM:
        raise _No(f"plate of {thickness:g} mm is not in stock")
    outline, holes = _drawn(drawing)
    size = sorted(np.ptp(outline, axis=0))
    if size[0] > BED_MM[0] or size[1] > BED_MM[1]:
        raise _No(f"{size[1]:.0f} by {size[0]:.0f} mm is larger than the bed")
    cut = _around(outline)
    for n, (at, radius) in enumerate(holes):
        if 2.0 * radius < LEAST_HOLE * thickness:
            raise _No(f"a hole of {2.0 * radius:.1f} mm is too small for plate of {thickness:g} mm")
        webs = [_to(outline, at) - radius]
        webs += [math.dist(at, other) - radius - more for other, more in holes[:n]]
        if min(webs) < LEAST_WEB * thickness:
            raise _No(f"{max(min(webs), 0.0):.1f} mm of metal beside a hole is too little in plate of {thickness:g} mm")
        cut += 2.0 * math.pi * radius
    area = abs(_area(outline)) - sum(math.pi * radius**2 for _, radius in holes)
    return _A_CUT_METER * cut / 1000.0 + _A_PIERCING * (1 + len(holes)) + _A_KILOGRAM * area * thickness * _STEEL


def _drawn(drawing: bytes) -> tuple[Any, list[tuple[tuple[float, float], float]]]:
    """The outline (N, 2) and the holes of what is on layer `cut`."""
    try:
        space = read(io.StringIO(drawing.decode())).modelspace()
        on_layer = [one for one in space if one.dxf.layer == "cut"]
        holes = [
            ((one.dxf.center.x, one.dxf.center.y), float(one.dxf.radius)) for one in on_layer
            if one.dxftype() == "CIRCLE"
        ]  # fmt: skip
        lines = [one for one in on_layer if one.dxftype() != "CIRCLE"]
        paths = [np.array([(p.x, p.y) for p in make_path(one).flattening(_FLAT_MM)]) for one in lines]
    except (DXFError, UnicodeDecodeError, TypeError, ValueError, AttributeError) as error:
        raise _No("its drawing can't be read") from error
    if len(paths) != 1:
        raise _No(f"it has {len(paths) or 'no'} outlines on layer cut; one is wanted")
    if len(paths[0]) < 4 or math.dist(paths[0][0], paths[0][-1]) > CLOSED_MM:
        raise _No("its outline is not closed")
    return paths[0], holes


def _around(outline: Any) -> float:
    return float(np.linalg.norm(np.diff(outline, axis=0), axis=1).sum())


def _area(outline: Any) -> float:
    x, y = outline[:, 0], outline[:, 1]
    return float((x[:-1] * y[1:] - x[1:] * y[:-1]).sum()) / 2.0


def _to(outline: Any, at: tuple[float, float]) -> float:
    """From a point to the outline; below 0 outside it."""
    a, b = outline[:-1], outline[1:]
    along, way = np.array(at) - a, b - a
    share = np.clip((along * way).sum(axis=1) / np.maximum((way**2).sum(axis=1), 1e-12), 0.0, 1.0)
    far = float(np.linalg.norm(along - share[:, None] * way, axis=1).min())
    above = (a[:, 1] > at[1]) != (b[:, 1] > at[1])
    crossing = a[:, 0] + (at[1] - a[:, 1]) * way[:, 0] / np.where(way[:, 1] == 0.0, 1.0, way[:, 1])
    return far if np.count_nonzero(above & (crossing > at[0])) % 2 else -far


class Service:
    """The jobs it has been asked for, by its numbers."""

    def __init__(self, behave: str = "well", today: date | None = None) -> None:
        self.behave, self._today, self._lock = behave, today, threading.Lock()
        self.jobs: dict[str, dict[str, Any]] = {}

    def quote(self, archive: bytes) -> dict[str, Any]:
        """What it says of an archive.

        Raises:
            ValueError.
        """
        refused, price = [], 0.0
        for part, (thickness, drawing) in plates_of(archive).items():
            try:
                price += looked_at(thickness, drawing)
            except _No as why:
                refused.append({"part": part, "why": str(why)})
        with self._lock:
            job = f"C-{len(self.jobs) + 1}"
            self.jobs[job] = {"job": job, "state": "quoted", "due": None}
        return {"job": job, "refused": refused, "price": round(price, 2), "currency": "USD", "days": DAYS}

    def order(self, job: str) -> dict[str, Any]:
        """Ordering it again is no second order."""
        with self._lock:
            known = self.jobs[job]
            if known["state"] == "quoted":
                due = (self._today or date.today()) + timedelta(DAYS)
                known.update(state="ordered", due=due.isoformat())
            return dict(known)

    def state(self, job: str) -> dict[str, Any]:
        with self._lock:
            return dict(self.jobs[job])


class _Handler(BaseHTTPRequestHandler):
    service: Service

    def do_POST(self) -> None:
        body = self.rfile.read(min(int(self.headers.get("Content-Length") or 0), LARGEST))
        self._answer(lambda steps: self.service.quote(body) if steps == ["jobs"] else self._ordered(steps), 201)

    def _ordered(self, steps: list[str]) -> dict[str, Any]:
        first, job, last = steps if len(steps) == 3 else ("", "", "")
        if (first, last) != ("jobs", "order"):
            raise KeyError(self.path)
        return self.service.order(job)

    def do_GET(self) -> None:
        def state(steps: list[str]) -> dict[str, Any]:
            first, job = steps if len(steps) == 2 else ("", "")
            return self.service.state(job if first == "jobs" else "")

        self._answer(state, 200)

    def _answer(self, act: Any, status: int) -> None:
        said: Any
        try:
            said = json.dumps(act(self.path.strip("/").split("/")))
        except KeyError:
            status, said = 404, "There is no such job."
        except ValueError as error:
            status, said = 422, f"{str(error)[:1].upper()}{str(error)[1:]}."
        if self.service.behave == "silent":
            return
        if self.service.behave == "late":
            time.sleep(_LATE_S)
        if self.service.behave == "wrong":
            said = '{"job": 12, "price": "cheap"'
        self.send_response(status)
        self.send_header("Content-Type", "application/json" if status < 400 else "text/plain; charset=utf-8")
        self.end_headers()
        self.wfile.write(said.encode())

    def log_message(self, *args: Any) -> None:
        """Nothing: it stands beside a server with a log of its own."""


def serve(service: Service, host: str = "127.0.0.1", port: int = 0) -> ThreadingHTTPServer:
    """A server of it, not yet serving."""
    server = ThreadingHTTPServer((host, port), type("_Of", (_Handler,), {"service": service}))
    server.daemon_threads = True
    return server


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=0)
    parser.add_argument("--behave", choices=("well", "late", "wrong", "silent"), default="well")
    parser.add_argument("--while-open", action="store_true", help="end when standard input does")
    given = parser.parse_args()
    server = serve(Service(given.behave), given.host, given.port)
    print(f"The simulated cutting service listens on {given.host} port {server.server_address[1]}", flush=True)
    if given.while_open:
        threading.Thread(target=end_with_input, daemon=True).start()
    server.serve_forever()


if __name__ == "__main__":
    main()
