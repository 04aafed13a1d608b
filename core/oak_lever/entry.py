"""Starts the `oak-lever` command: how the kernel is to run is said before anything of the core is loaded."""

import os
import sys

_MANY_SUMS = {"check", "clear", "holes", "find"}
"""What moves the axle often enough to be worth loading the compiler for: for one cycle that takes longer than the
sums."""


def main() -> int:
    """Run the command that was typed; returns its exit status."""
    if not _MANY_SUMS & set(sys.argv[1:2]):
        os.environ.setdefault("OAK_LEVER_COMPILED", "0")
    from oak_lever.cli import main as run

    return run()
