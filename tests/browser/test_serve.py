"""The server as a program: it says where it is, says what stands in its way, and leaves nothing behind."""

import http.client
import json
import os
import resource
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.request
from contextlib import closing, suppress
from pathlib import Path

import pytest
from shop import ROOT, TENDER, Server, until


@pytest.mark.parametrize("ending", [signal.SIGINT, signal.SIGTERM])
def test_interrupt_ends_it_cleanly(tmp_path: Path, ending: signal.Signals) -> None:
    server = Server(tmp_path).start()
    server.stop(ending)
    assert server.process is not None
    assert server.process.returncode == 0
    assert server.process.stdout is not None
    assert "Traceback" not in server.process.stdout.read()


def test_taken_port_is_said_and_another_offered(server: Server) -> None:
    done = subprocess.run(
        [sys.executable, "server/manage.py", "serve", "--port", str(server.port)],
        cwd=ROOT, capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert done.returncode != 0
    assert f"Port {server.port} is taken" in done.stderr
    assert "make demo PORT=" in done.stderr
    assert "Traceback" not in done.stderr


def test_scripts_come_compressed_and_to_keep(server: Server) -> None:
    page = urllib.request.urlopen(server.url).read().decode()
    script = page.split('src="')[1].split('"')[0]
    request = urllib.request.Request(server.url + script, headers={"Accept-Encoding": "br"})
    with urllib.request.urlopen(request) as response:
        assert response.headers["Content-Encoding"] == "br"
        assert "immutable" in response.headers["Cache-Control"]
        assert len(response.read()) < 260_000


def test_one_connection_serves_many_requests(server: Server) -> None:
    line = http.client.HTTPConnection("127.0.0.1", server.port, timeout=10)
    line.connect()
    own = line.sock
    for path in ("/api/builds", "/api/register", "/", "/api/nothing"):
        line.request("GET", path)
        answer = line.getresponse()
        answer.read()
        assert answer.getheader("Content-Length") is not None
        assert line.sock is own
    line.close()


def test_half_sent_connections_keep_nobody_out_and_are_dropped(server: Server) -> None:
    """Headers that never end and headers that trickle in: dropped by a deadline that is counted from the start."""
    idle = [socket.create_connection(("127.0.0.1", server.port)) for _ in range(520)]
    for one in idle:
        one.sendall(b"POST /api/cycle HTTP/1.1\r\nContent-Length: 100\r\n")
    begun = time.monotonic()
    assert server.ask("GET", "/api/health")["builds"] >= 0
    assert server.ask("GET", "/api/builds")
    with socket.create_connection(("127.0.0.1", server.port)) as slow:
        slow.sendall(b"GET /api/builds HTTP/1.1\r\nX-Slow: ")
        until(lambda: not trickles(slow, b"x"), 60)
    until(lambda: dropped(idle[0]), 60)
    until(lambda: dropped(idle[-1]), 60)
    assert time.monotonic() - begun > 5.0  # none that may yet become whole is dropped at once
    for one in idle:
        one.close()


def dropped(one: socket.socket, within_s: float = 0.05) -> bool:
    one.settimeout(within_s)
    try:
        return one.recv(1000) == b""
    except TimeoutError:
        return False
    except OSError:
        return True


def trickles(one: socket.socket, more: bytes) -> bool:
    """Whether a little more can be sent."""
    try:
        one.sendall(more)
    except OSError:
        return False
    return not dropped(one, within_s=0.2)


def test_how_it_is_can_be_asked_whatever_else_goes_on(own_server: Server) -> None:
    """With every thread at a question that takes long, its health is still said: it has a thread of its own."""
    document = json.loads(TENDER)
    body = json.dumps({"document": document, "finding": "roll_center", "increment": 1.0, "units": "mm"}).encode()
    head = (
        f"POST /api/cures HTTP/1.1\r\nHost: 127.0.0.1:{own_server.port}\r\nContent-Type: application/json\r\n"
        f"Content-Length: {len(body)}\r\n\r\n"
    ).encode()
    asking = [socket.create_connection(("127.0.0.1", own_server.port)) for _ in range(80)]
    for one in asking:
        one.sendall(head + body)
    assert own_server.ask("GET", "/api/health")["builds"] >= 0
    for one in asking:
        one.close()


def test_a_body_is_refused_by_its_announced_length_before_it_is_sent(server: Server) -> None:
    with socket.create_connection(("127.0.0.1", server.port)) as one:
        one.sendall(
            f"POST /api/builds HTTP/1.1\r\nHost: 127.0.0.1:{server.port}\r\nContent-Length: 3000000\r\n\r\n".encode()
        )
        one.settimeout(30)
        said = b"".join(iter(lambda: one.recv(4000), b"")).decode()  # until the server closes it
    assert said.startswith("HTTP/1.1 413")
    assert "2 MB are taken at most" in said


def test_an_endless_body_in_chunks_is_refused_at_the_bound(server: Server) -> None:
    with socket.create_connection(("127.0.0.1", server.port)) as one:
        one.sendall(
            f"POST /api/builds HTTP/1.1\r\nHost: 127.0.0.1:{server.port}\r\nTransfer-Encoding: chunked\r\n\r\n".encode()
        )
        chunk = b"10000\r\n" + b"x" * 0x10000 + b"\r\n"
        with suppress(OSError):
            for _ in range(60):
                one.sendall(chunk)
        one.settimeout(30)
        said = b""
        with suppress(OSError):
            said = one.recv(4000)
    assert not said or said.startswith(b"HTTP/1.1 413")
    assert server.ask("GET", "/api/builds")


@pytest.mark.parametrize(
    ("given", "said"),
    [
        (["--port", "99999"], "99999 is no port"),
        (["--port", "eight"], "eight is no port"),
        (["--host", "127.0.0.1.nip"], "there is no sign-in yet"),
        (["--host", "203.0.113.7"], "there is no sign-in yet"),
        (["--host", "0.0.0.0"], "there is no sign-in yet"),
        (["--host", "::"], "there is no sign-in yet"),
    ],
)
def test_a_wrong_port_or_host_is_refused_in_words(tmp_path: Path, given: list[str], said: str) -> None:
    done = serve(tmp_path, *given)
    assert done.returncode != 0
    assert said in done.stderr
    assert "Traceback" not in done.stderr


@pytest.mark.parametrize("most", [0, 16])
def test_a_disk_that_takes_nothing_is_said_in_words(tmp_path: Path, most: int) -> None:
    """Not even the secret, or not a whole store: no file may grow beyond that many kilobytes."""

    def bounded() -> None:
        signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
        resource.setrlimit(resource.RLIMIT_FSIZE, (most * 1024, most * 1024))

    done = subprocess.run(
        [sys.executable, "server/manage.py", "serve", "--port", "0"], cwd=ROOT, check=False, text=True,
        env={**os.environ, "OAK_LEVER_DATA": str(tmp_path / "data")}, preexec_fn=bounded, capture_output=True,
    )  # fmt: skip
    assert done.returncode != 0
    assert "Free some space on that disk" in done.stderr
    assert "Traceback" not in done.stderr


def test_a_folder_that_cannot_be_made_is_said_in_words(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("in the way")
    done = serve(tmp_path / "file" / "data", "--port", "0")
    assert done.returncode != 0
    assert "let this user write there" in done.stderr
    assert "Traceback" not in done.stderr


def serve(data: Path, *given: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "server/manage.py", "serve", *given],
        cwd=ROOT, env={**os.environ, "OAK_LEVER_DATA": str(data)}, capture_output=True, text=True, check=False,
    )  # fmt: skip


def test_a_damaged_store_is_mended_and_said_and_a_newer_one_refused(tmp_path: Path) -> None:
    server = Server(tmp_path).start()
    design = server.new_design()
    server.stop()
    store = tmp_path / "oak-lever.sqlite3"
    shutil.rmtree(tmp_path / "backups", ignore_errors=True)  # with one, nothing would be lost
    with closing(sqlite3.connect(store)) as kept:
        kept.execute("UPDATE builds_revision SET packed = x'00' WHERE design_id = 1")
        kept.commit()
    server.start()
    page = server.ask("GET", "/api/builds")
    assert "The store was damaged" in page["notices"][0]["words"]
    assert "design 1" in page["notices"][0]["words"]
    assert server.stored(design)["number"] == 1
    server.stop()
    with closing(sqlite3.connect(store)) as kept:
        kept.execute("INSERT INTO django_migrations (app, name, applied) VALUES ('builds', '0999_later', '2030-01-01')")
        kept.commit()
    done = serve(tmp_path, "--port", "0")
    assert done.returncode != 0
    assert "newer Oak Lever" in done.stderr


def test_what_is_kept_is_its_owners_to_read(tmp_path: Path) -> None:
    (tmp_path / "oak-lever.sqlite3").touch(mode=0o644)
    server = Server(tmp_path).start()
    until(lambda: list((tmp_path / "backups").glob("daily-*.sqlite3")), 60)
    server.stop()
    kept = [file for file in tmp_path.rglob("*") if file.is_file()]
    assert {"secret", "oak-lever.sqlite3", "oak-lever.log"} <= {file.name for file in kept}
    assert [file.name for file in kept if file.stat().st_mode & 0o077] == []


def test_one_who_leaves_ends_what_was_asked(server: Server) -> None:
    """A start that takes a second is stopped when its asker is gone, and nothing of it is kept."""
    build = server.ask("POST", "/api/builds", {"name": "Left alone", "notes": ""})["id"]
    start = {
        "name": "Rear", "layout": "parallel_watts", "school": "hold_pinion", "end": "rear", "tire_diameter": 840,
        "track": 1600, "wheelbase": 2700, "rail_underside": 520, "rail_width": 860,
    }  # fmt: skip
    body = json.dumps(start).encode()
    head = (
        f"POST /api/builds/{build}/starts HTTP/1.1\r\nHost: 127.0.0.1:{server.port}\r\n"
        f"Content-Type: application/json\r\nContent-Length: {len(body)}\r\n\r\n"
    )
    with socket.create_connection(("127.0.0.1", server.port)) as asker:
        asker.sendall(head.encode() + body)
        until(lambda: server.ask("GET", "/api/health")["computing"] > 0)
    until(lambda: f"POST api/builds/{build}/starts 503" in (server.data / "log" / "oak-lever.log").read_text())
    assert server.ask("POST", "/api/effects", {"document": json.loads(TENDER), "increment": 1.0})
    assert server.ask("GET", f"/api/builds/{build}")["designs"] == []
