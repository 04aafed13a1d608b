"""The cutting service: what it refuses, the exchange with it, and what the API says of it."""

import io
import threading
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date
from http.server import BaseHTTPRequestHandler, HTTPServer
from typing import Any

import pytest
from ezdxf.filemanagement import new
from speaking import Caller, bracketed

from builds.actions import save_revision
from cutting import exchange
from cutting.own import SERVICE
from cutting.simulated import Service, serve

pytestmark = pytest.mark.django_db
SQUARE = [(0.0, 0.0), (100.0, 0.0), (100.0, 60.0), (0.0, 60.0)]


def drawing(
    corners: list[tuple[float, float]] = SQUARE, holes: tuple[tuple[float, float, float], ...] = ((50, 30, 16),),
    closed: bool = True, layer: str = "cut",
) -> bytes:  # fmt: skip
    made = new()
    space = made.modelspace()
    space.add_lwpolyline(corners, close=closed, dxfattribs={"layer": layer})
    for x, y, across in holes:
        space.add_circle((x, y), across / 2.0, dxfattribs={"layer": layer})
    out = io.StringIO()
    made.write(out)
    return out.getvalue().encode()


def archive(drawings: dict[str, bytes], thickness: str = "6.35", alike: dict[str, str] | None = None) -> bytes:
    lines = ["kind,name,what,count,length_mm,mass_kg,note", "bar,upper,tube 50 x 6,1,600,4,"]
    lines += [f"plate,{part},plate {thickness} mild,1,,0.1," for part in drawings]
    lines += [
        f"plate,{part},plate {thickness} mild,1,,0.1,1 hole of 16; cut like {like}"
        for part, like in (alike or {}).items()
    ]
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as files:
        files.writestr("parts.csv", "\n".join(lines))
        for part, what in drawings.items():
            files.writestr(f"{part}.dxf", what)
        files.writestr("room.dxf", drawing(closed=False))  # no part to cut
    return out.getvalue()


def refused(what: bytes, thickness: str = "6.35") -> str:
    found = Service().quote(archive({"b1-1": what}, thickness))["refused"]
    return str(found[0]["why"]) if found else ""


def test_a_sound_plate_is_taken_at_a_price_that_grows_with_what_is_cut() -> None:
    one = Service().quote(archive({"b1-1": drawing()}))
    assert one["refused"] == []
    two = Service().quote(archive({"b1-1": drawing(), "b1-2": drawing()}))
    assert two["price"] == pytest.approx(2.0 * one["price"], abs=0.02)


def test_a_plate_cut_like_another_is_one_more_of_it() -> None:
    one = Service().quote(archive({"b1-1": drawing()}))
    more = Service().quote(archive({"b1-1": drawing()}, alike={"b2-1": "b1-1", "b2-2": "b1-1"}))
    assert more["price"] == pytest.approx(3.0 * one["price"], abs=0.03)
    none = Service().quote(archive({"b1-1": drawing(closed=False)}, alike={"b2-1": "b1-1"}))
    assert [part["part"] for part in none["refused"]] == ["b1-1", "b2-1"]
    with pytest.raises(ValueError, match="no archive of plates"):
        Service().quote(archive({"b1-1": drawing()}, alike={"b2-1": "gone"}))


@pytest.mark.parametrize(
    ("what", "thickness", "words"),
    [
        (drawing(), "7", "not in stock"),
        (drawing(closed=False), "6.35", "not closed"),
        (drawing(layer="mark"), "6.35", "no outlines"),
        (drawing(holes=((50, 30, 3.0),)), "6.35", "too small"),
        (drawing(holes=((50, 58, 16),)), "6.35", "beside a hole"),
        (drawing(holes=((50, 90, 16),)), "6.35", "beside a hole"),
        (drawing(holes=((40, 30, 16), (57, 30, 16))), "6.35", "beside a hole"),
        (drawing([(0, 0), (4000, 0), (4000, 60), (0, 60)]), "6.35", "larger than the bed"),
        (b"no drawing", "6.35", "can't be read"),
        (drawing(), "thick", "does not say how thick"),
    ],
)
def test_what_cannot_be_cut_is_refused_in_words(what: bytes, thickness: str, words: str) -> None:
    assert words in refused(what, thickness)


@pytest.mark.parametrize(("web", "taken"), [(3.1, False), (3.3, True)])
def test_the_metal_beside_a_hole_is_measured_to_its_edge(web: float, taken: bool) -> None:
    """Half of 6.35 mm is wanted."""
    assert (refused(drawing(holes=((8.0 + web, 30, 16),))) == "") is taken


@contextmanager
def up(server: HTTPServer) -> Iterator[tuple[str, int]]:
    """A server that serves, and where."""
    thread = threading.Thread(target=server.serve_forever, args=(0.02,), daemon=True)
    thread.start()
    try:
        yield "127.0.0.1", server.server_address[1]
    finally:
        server.shutdown()
        server.server_close()
        thread.join()


@contextmanager
def running(service: Service) -> Iterator[tuple[str, int]]:
    with up(serve(service)) as where:
        yield where


def test_a_job_is_quoted_ordered_and_looked_at() -> None:
    with running(Service(today=date(2026, 3, 9))) as where:
        quoted = exchange.quote(where, archive({"b1-1": drawing(), "b2-1": drawing(closed=False)}))
        assert [one.part for one in quoted.refused] == ["b2-1"]
        assert exchange.state(where, quoted.job).state == "quoted"
        ordered = exchange.order(where, quoted.job)
        assert (ordered.state, ordered.due) == ("ordered", date(2026, 3, 16))
        assert exchange.order(where, quoted.job) == ordered
        with pytest.raises(exchange.NoAnswer, match="no such job"):
            exchange.state(where, "C-99")
        with pytest.raises(exchange.NoAnswer, match="That is no archive of plates"):
            exchange.quote(where, b"no archive")


@pytest.mark.parametrize(("behave", "words"), [("wrong", "no answer"), ("silent", "does not answer")])
def test_one_that_answers_wrong_or_not_at_all_is_said(behave: str, words: str) -> None:
    with running(Service(behave)) as where, pytest.raises(exchange.NoAnswer, match=words):
        exchange.quote(where, archive({"b1-1": drawing()}))


@contextmanager
def answering(write: Callable[[Any], None]) -> Iterator[tuple[str, int]]:
    """Somebody there who answers a question with what is written."""

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            write(self.wfile)

        def log_message(self, *args: Any) -> None: ...

    with up(HTTPServer(("127.0.0.1", 0), Handler)) as where:
        yield where


def said(body: str) -> Callable[[Any], None]:
    return lambda out: out.write(f"HTTP/1.0 200 OK\r\n\r\n{body}".encode())


@pytest.mark.parametrize(
    "body",
    ["", "[]", '{"job": ""}', '{"job": "C 1", "state": "sent"}', '{"job": "C-1", "state": "lost"}',
     '{"job": "C-1", "state": "sent", "due": "soon"}', '{"job": "C-1\\u0007", "state": "sent"}', "\xff\xfe"],
)  # fmt: skip
def test_an_answer_of_another_form_is_none(body: str) -> None:
    with answering(said(body)) as where, pytest.raises(exchange.NoAnswer, match="no answer"):
        exchange.state(where, "C-1")


def test_an_answer_beyond_its_size_is_not_read_whole() -> None:
    with answering(said(" " * (exchange.LARGEST + 10))) as where, pytest.raises(exchange.NoAnswer, match="more than"):
        exchange.state(where, "C-1")


def test_one_that_trickles_is_left_at_the_deadline() -> None:
    ended = threading.Event()

    def trickle(out: Any) -> None:
        out.write(b"HTTP/1.0 200 OK\r\n\r\n")
        while not ended.wait(0.05):
            try:
                out.write(b" ")
                out.flush()
            except OSError:
                return

    with answering(trickle) as where:
        try:
            with pytest.raises(exchange.NoAnswer, match="took too long"):
                exchange.state(where, "C-1", wait_s=0.5)
        finally:
            ended.set()


def test_the_api_asks_orders_and_says_what_goes_wrong(
    call: Caller, design: int, monkeypatch: pytest.MonkeyPatch
) -> None:  # fmt: skip
    asks, orders, looks = "/api/designs/{design_id}/cutting", "/api/cutting/order", "/api/cutting/state"
    monkeypatch.delenv(SERVICE.variable, raising=False)
    assert call("GET", "/api/cutting") == (200, {"there": False})
    assert call("POST", asks, {}, design_id=design)[0] == 409
    save_revision(design, 1, 1, bracketed())
    with running(Service()) as (host, port):
        monkeypatch.setenv(SERVICE.variable, f"{host}:{port}")
        assert call("GET", "/api/cutting") == (200, {"there": True})
        status, quoted = call("POST", asks, {}, design_id=design)
        assert (status, quoted["refused"]) == (200, [])
        assert quoted["price"] > 0.0
        status, ordered = call("POST", orders, {"job": quoted["job"]})
        assert (status, ordered["state"]) == (200, "ordered")
        assert call("POST", looks, {"job": quoted["job"]}) == (200, ordered)
        gone = call("POST", looks, {"job": "C-99"})
        assert gone == (409, {"message": "The cutting service knows no such job."})
