"""The server as a program: it says where it is, says what stands in its way, and leaves nothing behind."""

import http.client
import signal
import socket
import subprocess
import sys
import urllib.request
from pathlib import Path

import pytest
from shop import ROOT, Server


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
