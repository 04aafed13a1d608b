"""The simulated bench as a process of its own beside the server, and where the bench in use is found."""

import os
import re
import subprocess
import sys
from pathlib import Path

ADDRESS = "OAK_LEVER_BENCH"
"""Where a bench listens, as host:port: a real one set by hand, or the simulated one."""


def address() -> tuple[str, int] | None:
    """Where the bench is; None where there is none."""
    host, _, port = os.environ.get(ADDRESS, "").rpartition(":")
    return (host, int(port)) if host and port.isdigit() else None


def start(truck: Path) -> subprocess.Popen[str] | None:
    """Start the simulated bench, unless one is set already; its address is then where this server looks."""
    if address() is not None:
        return None
    process = subprocess.Popen(
        [sys.executable, "-m", "instruments.simulated", "--while-open", str(truck)], cwd=Path(__file__).parents[1],
        stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, stdin=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert process.stdout is not None
    found = re.search(r"on (\S+) port (\d+)", process.stdout.readline())
    if found:
        os.environ[ADDRESS] = f"{found[1]}:{found[2]}"
    return process
