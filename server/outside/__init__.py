"""Things outside that the server asks, each with a simulated one that can run beside it as a process of its own."""

import os
import re
import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True)
class Outside:
    """`variable`: the environment's name for where it listens, as host:port, a real one set by hand or the simulated
    one; `module`: what runs the simulated one."""

    variable: str
    module: str

    def address(self) -> tuple[str, int] | None:
        """Where it is; None where there is none."""
        host, _, port = os.environ.get(self.variable, "").rpartition(":")
        return (host, int(port)) if host and port.isdigit() else None

    def start(self, *given: str) -> subprocess.Popen[str] | None:
        """Start the simulated one, unless one is set already; its address is then where this server looks. It ends
        when we do."""
        if self.address() is not None:
            return None
        process = subprocess.Popen(
            [sys.executable, "-m", self.module, "--while-open", *given], cwd=Path(__file__).parents[1],
            stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, stdin=subprocess.PIPE, text=True,
        )  # fmt: skip
        assert process.stdout is not None
        found = re.search(r"on (\S+) port (\d+)", process.stdout.readline())
        if found:
            os.environ[self.variable] = f"{found[1]}:{found[2]}"
        return process


def end_with_input() -> None:
    """For a simulated one: whoever started us is gone once our standard input ends."""
    sys.stdin.read()
    os._exit(0)
