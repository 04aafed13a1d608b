"""The server as a program: it says where it is, says what stands in its way, and leaves nothing behind."""

import http.client
import json
import os
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.request
from contextlib import closing
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


def test_half_sent_connections_keep_nobody_out(server: Server) -> None:
    idle = [socket.create_connection(("127.0.0.1", server.port)) for _ in range(120)]
    for one in idle:
        one.sendall(b"POST /api/cycle HTTP/1.1\r\nContent-Length: 100\r\n")
    assert server.ask("GET", "/api/builds")
    for one in idle:
        one.close()


@pytest.mark.parametrize(
    ("given", "said"),
    [
        (["--port", "99999"], "99999 is no port"),
        (["--port", "eight"], "eight is no port"),
        (["--host", "256.1.1.1"], "256.1.1.1 is no address of this machine"),
        (["--host", "203.0.113.7"], "203.0.113.7 is no address of this machine"),
    ],
)
def test_a_wrong_port_or_host_is_refused_in_words(tmp_path: Path, given: list[str], said: str) -> None:
    done = serve(tmp_path, *given)
    assert done.returncode != 0
    assert said in done.stderr
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
        time.sleep(0.1)
    until(lambda: f"POST api/builds/{build}/starts 503" in (server.data / "log" / "oak-lever.log").read_text())
    assert server.ask("POST", "/api/effects", {"document": json.loads(TENDER), "increment": 1.0})
    assert server.ask("GET", f"/api/builds/{build}")["designs"] == []
